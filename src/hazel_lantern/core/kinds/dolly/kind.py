"""Dollies: a deck with a camera that rolls along laid pipe."""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import asdict, replace

from hazel_lantern.core.kinds.base import (
    Action,
    Asked,
    Carried,
    Changes,
    Chapter,
    Design,
    Figures,
    Kind,
    Path,
    Poses,
    View,
)
from hazel_lantern.core.kinds.dolly.design import DECLARED, PEGGED, SCHOOLS, TOLD_APART_BY, TRIPOD, VARIANTS
from hazel_lantern.core.kinds.dolly.model import Dolly, build, frames, members, rests_for
from hazel_lantern.core.kinds.dolly.standing import dolly_limits, standing_figures
from hazel_lantern.core.kinds.dolly.track import hand_figures, track_figures
from hazel_lantern.core.kinds.rail import bends, drawing, fit, model, rolling
from hazel_lantern.core.kinds.rail.joints import joined
from hazel_lantern.core.kinds.rail.kept import kept_figures
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.kinds.rail.parts import CARRIAGE
from hazel_lantern.core.kinds.rail.plate import plate_figures
from hazel_lantern.core.kinds.rail.strength import strength_figures
from hazel_lantern.core.kinds.shared.handling import centred_for_other_kits
from hazel_lantern.core.kinds.shared.headline import headlines
from hazel_lantern.core.kinds.shared.weighed import weighed
from hazel_lantern.core.mechanics.track import Frames
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import set_one
from hazel_lantern.core.nouns.sketch import BODY, GHOST, Item, Ring, Shape, Size, Sketch, Stroke, box_outline, handle
from hazel_lantern.core.nouns.told import Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Bodies, Laid

BAG_WIDE, LOWEST = 0.3, -0.6
APART = 0.02  # metres from the pose to a ghost that is drawn


def _rail(dolly: Dolly) -> Straight:
    return dolly.way


def _mass_figures(dolly: Dolly, rail: Straight) -> Told:
    given = (Given("m", rail.moving, "kg", "all that rolls", "kit"),)
    how = "deck, kit, what stands on it, pipes and ties"
    return Told((by_method("rig.mass", "Everything weighs", dolly.laid.mass, "kg", how, given, source="catalogue"),))


def _weighed(design: Design, laid: Laid) -> Told:
    return weighed(design, laid, CARRIAGE, "carriage.mass", "Deck")


def _supports(design: Design, dolly: Dolly) -> bends.Supports:
    """Ties half as far apart, and pegged down."""
    half = round(max(0.15, design.number("tie.spacing") / 2), 3)
    pegged = design.text("tie.held") == PEGGED
    closer = (set_one("closer", "A tie every {}", "tie.spacing", half, "m"),) if half < max(dolly.spans) else ()
    down = () if pegged else (set_one("peg", "Peg or screw the ties down", "tie.held", PEGGED),)
    name = f"ties {half * 1e3:.0f} mm apart"
    others = ((name, rests_for(design, half, pegged=pegged)),) if closer else ()
    return bends.Supports(others, closer, down, "tie.held")


def _follow(dolly: Dolly, asked: Asked) -> Poses:
    return model.follow(dolly.way, asked)


def _mount(dolly: Dolly, poses: np.ndarray) -> Frames:
    return model.mount(dolly.way, poses)


def _bodies(dolly: Dolly, poses: np.ndarray) -> Bodies:
    return frames(dolly.way, poses)


def _draw(kit: Carried, move: Move, optics: Optics, dolly: Dolly, path: Path, pose: np.ndarray, view: str) -> Sketch:
    rig, way, x, ends = dolly, dolly.way, float(pose[0]), path.ends[:, 0]
    bag = next((thing for thing in rig.laid.things if thing.name == "Ballast"), None)
    if view == "above":
        made = drawing.above(kit, move, optics, way, rig.laid, ends, x, [])
        return replace(made, items=(*made.items, *_tripod_above(rig, x)))
    held: list[Item] = []
    for tie in rig.ties:
        under = drawing.spot(way, tie, -way.bar.depth - rig.tie)
        if under[1] > 0.004:
            held.append(Shape(box_outline((under[0], 0.0), under, 0.08), "wood"))
    if bag is not None:
        a, b = drawing.spot(way, x, rig.top), drawing.spot(way, x, rig.top + 0.16)
        held.append(Shape(box_outline(a, b, BAG_WIDE), "weight"))
    held += [item for end in ends if abs(end - x) > APART for item in _tripod_side(rig, float(end), GHOST)]
    held += _tripod_side(rig, x, BODY)
    return drawing.side(
        kit, optics, way, rig.laid, ends, x, held, _sizes(rig, x), LOWEST, on_its_own=bool(len(rig.feet))
    )


def _tripod_side(rig: Dolly, x: float, layer: str) -> list[Item]:
    """The tripod's legs from its head to their cups."""
    way = rig.way
    hub = drawing.spot(way, x + float(way.mount[0]), float(way.mount[2]))
    cups = (drawing.spot(way, x + float(way.mount[0] + foot[0]), rig.top) for foot in rig.feet)
    return [Stroke(np.array([hub, cup]), "steel", 0.025, layer=layer) for cup in cups]


def _tripod_above(rig: Dolly, x: float) -> list[Item]:
    """Legs and cups on the deck."""
    way, items = rig.way, list[Item]()
    middle = np.array([float(way.on_floor(x + float(way.mount[0]))[0]), float(way.mount[1])])
    for foot in rig.feet:
        cup = middle + foot
        items += [
            Stroke(np.array([middle + foot * 0.25, cup]), "steel", 0.025),
            Ring((float(cup[0]), float(cup[1])), 0.025),
        ]
    return items


def _sizes(rig: Dolly, x: float) -> list[Item]:
    """Track, ties, wheels apart and the mount's height."""
    way = rig.way
    a, b = drawing.spot(way, 0.0, -0.52), drawing.spot(way, way.length, -0.52)
    first = 1 if len(rig.ties) > 3 else 0
    span = [drawing.spot(way, tie, -0.34) for tie in rig.ties[first : first + 2]]
    end, foot = drawing.spot(way, way.length), drawing.spot(way, x + float(way.mount[0]) + 0.45)
    head = drawing.spot(way, x + float(way.mount[0]) + 0.45, float(way.mount[2]))
    wheels = [drawing.spot(way, x + half * way.wheelbase, -0.16) for half in (-0.5, 0.5)]
    top = drawing.spot(way, x + float(way.mount[0]), float(way.mount[2]))
    return [
        Size(a, b, 0.0, way.length, "m", "rail.length"),
        Size(span[0], span[1], 0.0, math.dist(*span), "m", "tie.spacing"),
        Size(wheels[0], wheels[1], 0.0, way.wheelbase, "m", "carriage.wheelbase"),
        Size(foot, head, 0.0, float(way.mount[2]), "m", "camera.rise"),
        handle("rail.length", end, (math.cos(way.slope), math.sin(way.slope)), 2.0),
        handle("camera.rise", top, (-math.sin(way.slope), math.cos(way.slope))),
    ]


def _sized(design: Design, move: Move, rail: Straight, path: Path) -> Changes:
    """Track and height of the mount that make the shot. Raises InfeasibleError where no track here does."""
    wanted = dict(fit.sized_rail(move, rail, path))
    slope, high = float(wanted["rail.slope"]), float(wanted["rail.height"])  # type: ignore[arg-type]
    if abs(slope) > math.radians(10):
        raise InfeasibleError("this move climbs more steeply than a dolly may; an arm rises better", steepest=10.0)
    length = float(wanted["rail.length"])  # type: ignore[arg-type]
    # What the rail would be raised by, the mount is; a longer or steeper track itself lies higher half-way.
    lies = rail.height + (length * abs(math.sin(slope)) - rail.length * abs(math.sin(rail.slope))) / 2
    rise = round(float(rail.mount[2]) + high - lies, 3)
    if not rail.lift.low <= rise <= rail.lift.high:
        raise InfeasibleError(f"the mount would have to stand {rise:.2f} m above the pipes")
    return (("rail.length", length), ("rail.slope", slope), ("camera.rise", rise))


def _headlines(design: Design, move: Move, optics: Optics, figures: Figures) -> dict[str, Words]:
    rig = Words(dict(VARIANTS)[design.variant].lower() + ", {}", ((design.number("rail.length"), "m"),))
    lines = {
        "balance": ("tips from {}", ("balance.tips_from",)),
        "travel": ("push {}, picture {}", ("travel.hand", "travel.shift")),
    }
    return headlines(move, optics, figures, move.chord, rig, lines)


def _loading(design: Design, kit: Carried) -> tuple[Words, ...]:
    """In the order it is done; it is unloaded backwards."""
    bag = design.number("ballast.mass")
    return (
        Words(
            "Lay the ties out, wedge them level from the highest, then the pipes on them; walk the track and look along it"
        ),
        Words("Keep people off the track; pipes and ties trip"),
        Words("Deck on, a chock before and behind it; roll it empty from end to end"),
        *((Words("Strap {} of ballast down in the middle", ((bag, "kg"),)),) if bag > 0 else ()),
        *(
            (Words("Tripod into its cups, strapped down at its centre, head level"),)
            if design.text("camera.on") == TRIPOD
            else ()
        ),
        Words(
            "Camera on, {}, its cable with slack for the whole travel, tied to the handle side",
            ((kit.payload.mass, "kg"),),
        ),
        Words("One person pushes, nobody rides; a chock before anybody lets go"),
    )


KIND = Kind(
    **asdict(DECLARED),
    views=(View("side", "Side"), View("above", "Above")),
    actions=(Action("rig", "Size it for me", _sized), Action("balance", "Centre it for me", fit.over_the_wheels)),
    model=Chapter("dolly", build),
    chapters=(
        Chapter("rail", _rail),
        Chapter("fits", fit.travel_figures),
        Chapter("mass", _mass_figures),
        Chapter("weighed", _weighed),
        *bends.chapters(_supports),
        Chapter("strong", strength_figures),
        Chapter("plate", plate_figures),
        Chapter("kept", kept_figures),
        *rolling.CHAPTERS,
        Chapter("track", track_figures),
        Chapter("hands", hand_figures),
        Chapter("standing", standing_figures),
    ),
    follow=_follow,
    limits=dolly_limits,
    mount=_mount,
    members=members,
    bodies=_bodies,
    sketch=_draw,
    headlines=_headlines,
    stations=("shot", "rig", "balance", "travel", "build"),
    readings={"swaps": centred_for_other_kits, "loading": _loading},
    schools=SCHOOLS,
    told_apart_by=TOLD_APART_BY,
    joined=joined,
)
