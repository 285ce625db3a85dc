"""Dollies: a deck with a camera that rolls along laid pipe."""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import asdict, replace

from hazel_lantern.core.kinds.base import Action, Carried, Changes, Chapter, Design, Figures, Kind, OtherKit, Swap, View
from hazel_lantern.core.kinds.dolly.bend import Bend
from hazel_lantern.core.kinds.dolly.bracket import bracket_figures
from hazel_lantern.core.kinds.dolly.deck import rides
from hazel_lantern.core.kinds.dolly.design import DECLARED, SCHOOLS, STRAIGHT, TOLD_APART_BY, VARIANTS
from hazel_lantern.core.kinds.dolly.drawing import draw
from hazel_lantern.core.kinds.dolly.foreseen import foreseen, tested
from hazel_lantern.core.kinds.dolly.hands import hand_figures
from hazel_lantern.core.kinds.dolly.inputs import ARC, FLOOR, FRAME, GAUGED, ON_FLOOR, ON_PIPE, PEGGED
from hazel_lantern.core.kinds.dolly.model import Dolly, build, feet_inside, frames, members, rests_for
from hazel_lantern.core.kinds.dolly.sag import sag_figures
from hazel_lantern.core.kinds.dolly.standing import dolly_limits, standing_figures
from hazel_lantern.core.kinds.dolly.under.arc import arc_figures, arc_fits, sized_arc
from hazel_lantern.core.kinds.dolly.under.floor import floor_figures, springs
from hazel_lantern.core.kinds.dolly.under.ground import TAPER, ground_figures
from hazel_lantern.core.kinds.dolly.under.track import track_figures
from hazel_lantern.core.kinds.path import Asked, Path, Poses
from hazel_lantern.core.kinds.rail import bends, fit, model, rolling
from hazel_lantern.core.kinds.rail.binding import fit_figures
from hazel_lantern.core.kinds.rail.driven import bounce, meets
from hazel_lantern.core.kinds.rail.joints import joined
from hazel_lantern.core.kinds.rail.kept import kept_figures, on_slope
from hazel_lantern.core.kinds.rail.model import Carriage, Straight
from hazel_lantern.core.kinds.rail.parts import CARRIAGE
from hazel_lantern.core.kinds.rail.plate import plate_figures
from hazel_lantern.core.kinds.rail.riding import caster_figures
from hazel_lantern.core.kinds.rail.stops import stop_figures
from hazel_lantern.core.kinds.rail.strength import strength_figures
from hazel_lantern.core.kinds.rail.wheels import axle_curves, wheel_figures
from hazel_lantern.core.kinds.shared.clearing import Way, among, clearing_by
from hazel_lantern.core.kinds.shared.handling import centred
from hazel_lantern.core.kinds.shared.headline import headlines
from hazel_lantern.core.kinds.shared.weighed import weighed
from hazel_lantern.core.mechanics.track import Frames
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import set_one
from hazel_lantern.core.nouns.told import Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Bodies, Laid


def _rail(dolly: Dolly) -> Carriage:
    return dolly.way


def _mass_figures(dolly: Dolly, rail: Carriage) -> Told:
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
    way, bend = dolly.way, dolly.bend
    if bend is None:
        return model.follow(way, asked)
    # Round what the shot goes round, whichever way its track turns; a straight wish as far along the arc.
    middle, share = (way.low + way.high) / 2, way.measured / bend.radius
    along = (
        bend.side * asked.arc * (asked.share - 0.5) * way.measured
        if asked.arc
        else asked.along((way.high - way.low) / share) * share
    )
    return Poses.of(np.clip(middle + along, way.low, way.high)[:, None])


def _mount(dolly: Dolly, poses: np.ndarray) -> Frames:
    return model.mount(dolly.way, poses)


def _bodies(dolly: Dolly, poses: np.ndarray) -> Bodies:
    return frames(dolly.way, poses)


def _sized(design: Design, kit: Carried, move: Move, rail: Carriage, path: Path) -> Changes:
    """Track and height of the mount that make the shot. Raises InfeasibleError where no track here does."""
    if design.variant == ARC and isinstance(rail, Straight):
        return sized_arc(design, kit, move, rail, path)
    length, slope, high = fit.way_for(move, rail, path)
    if design.variant in ON_FLOOR and abs(slope) > math.radians(0.5):
        raise InfeasibleError("this move climbs and a floor does not: lay track that rises, or take an arm")
    if abs(slope) > math.radians(10):
        raise InfeasibleError("this move climbs more steeply than a dolly may; an arm rises better", steepest=10.0)
    # What the rail would be raised by, the mount is; a longer or steeper track itself lies higher half-way.
    lies = rail.height + (length * abs(math.sin(slope)) - rail.length * abs(math.sin(rail.slope))) / 2
    rise = round(float(rail.mount[2]) + high - lies, 3)
    if not rail.lift.low <= rise <= rail.lift.high:
        on = "the floor" if design.variant in ON_FLOOR else "the pipes"
        raise InfeasibleError(f"the mount would have to stand {rise:.2f} m above {on}")
    return (("rail.length", length), ("rail.slope", slope), ("camera.rise", rise))


def _headlines(design: Design, move: Move, optics: Optics, figures: Figures) -> dict[str, Words]:
    long = (design.number("rail.length"), "m")
    rig = Words(dict(VARIANTS)[design.variant].lower() + ", {}", (long,))
    if design.variant == ARC and "rig.outer" in figures:
        arc = ((figures["rig.radius"].value, "m"), (figures["rig.outer"].value, "m"))
        rig = Words("bent pipe, radius {}, {} outside", arc)
    lines = {
        "balance": ("tips from {}", ("balance.tips_from",)),
        "travel": (
            "push {}, picture {}",
            ("travel.hand", "travel.kick_px" if design.variant in ON_FLOOR else "travel.shift"),
        ),
    }
    return headlines(move, optics, figures, move.chord, rig, lines)


def _swaps(design: Design, dolly: Dolly, others: tuple[OtherKit, ...]) -> tuple[Swap, ...]:
    """Where the mount goes for each other kit; a tripod on its own trolleys stays where its feet are."""
    if design.variant == FRAME:
        return tuple(Swap(kit.id, Words("the tripod stays on its trolleys"), (("kit", kit.id),)) for kit in others)
    return centred(design, others, dolly.stand.mass if len(dolly.feet) else 0.0)


def _centred(design: Design, dolly: Dolly) -> Changes:
    """The mount where camera and tripod together stand over the middle of the corners, as far as the tripod's feet
    stay on the deck. Raises InfeasibleError for a frame.
    """
    if design.variant == FRAME:
        raise InfeasibleError("a tripod on its own trolleys stands where its feet are: centre the camera on its head")
    masses, places = dolly.masses
    stands = slice(-2 if len(dolly.feet) else -1, None)
    off = masses[stands] @ places[stands, :2] / masses[stands].sum() - dolly.way.middle
    here = dolly.way.mount[:2]
    share = next(
        (share for share in np.linspace(1.0, 0.0, 21) if feet_inside(dolly.way, here - share * off, dolly.feet)), 0.0
    )
    return tuple(
        (key, round(min(0.5, max(-0.5, design.number(key) - float(by))), 3))
        for key, by in zip(("camera.ahead", "camera.aside"), share * off, strict=True)
    )


def _wedged(dolly: Dolly) -> tuple[Words, ...]:
    """What goes under which tie, and how far its wedges are pushed in."""
    return tuple(
        Words(
            f"Tie {n} at {{}}: {{}} under its left end, {{}} under its right; wedges in by {{}} and {{}}",
            ((at, "m"), *((float(h), "m") for h in under), *((TAPER * float(h), "m") for h in under)),
        )
        for n, (at, under) in enumerate(zip(dolly.ties, dolly.wedges, strict=False), 1)
    )


def _set_out(bend: Bend, dolly: Dolly) -> tuple[Words, ...]:
    """An arc from its middle outwards, and the cord that other arcs of the same pipes take."""
    quarter = bend.rise - (bend.radius - math.sqrt(bend.radius**2 - bend.chord**2 / 16))
    spacing = max(dolly.spans)
    outside = bend.radius + dolly.way.spacing / 2
    steps = [
        Words(
            "A line of {} between two pegs; from its middle out by {}, from its quarters by {}: three marks of the arc",
            ((bend.chord, "m"), (bend.rise, "m"), (quarter, "m")),
        ),
        Words(
            "Middle tie first, then to both sides, square to the arc: every {} on the outer pipe, {} on the inner",
            ((spacing, "m"), (spacing * bend.inner / bend.outer, "m")),
        ),
        Words(
            "One person at each end: clip the outer pipe from the middle outwards, then the inner; the ends last, "
            "and freed last when it is taken up"
        ),
    ]
    for times in (0.8, 1.25, 1.6):
        angle = bend.outer / (times * outside)
        if angle < 2 * math.pi * 0.9:
            steps.append(
                Words(
                    "For a radius of {} the same outer pipe spans {} from end to end",
                    ((times * outside - dolly.way.spacing / 2, "m"), (2 * times * outside * math.sin(angle / 2), "m")),
                )
            )
    return tuple(steps)


def _loading(design: Design, kit: Carried, dolly: Dolly, hands: Told) -> tuple[Words, ...]:
    """In the order it is done; it is unloaded backwards."""
    bag, high = design.number("ballast.mass"), hands.value("balance.chock")
    ground = (
        (
            Words("Sweep the floor, tape cables down flat and away from the way; tape a line to steer by"),
            Words("Roll it empty from end to end and listen; keep people off its way"),
        )
        if design.variant in ON_FLOOR
        else (
            Words(
                "Lay the ties out, wedge them level from the highest, then the pipes on them; walk the track and "
                "look along it"
            ),
            *(_set_out(dolly.bend, dolly) if dolly.bend else ()),
            *_wedged(dolly),
            Words("Keep people off the track; pipes and ties trip"),
        )
    )
    on_it = "The frame's trolleys on" if design.variant == FRAME else "Deck on"
    tripod = (
        "Tripod's feet into the cups of the trolleys"
        if design.variant == FRAME
        else "Tripod into its cups, strapped down at its centre"
    )
    return (
        *ground,
        Words(f"{on_it}, a chock of {{}} and more before and behind it; roll it empty from end to end", ((high, "m"),)),
        *((Words("Strap {} of ballast down in the middle", ((bag, "kg"),)),) if bag > 0 else ()),
        *((Words(f"{tripod}, head level"),) if len(dolly.feet) else ()),
        Words(
            "Camera on, {}, its cable with slack for the whole travel, tied to the handle side",
            ((kit.payload.mass, "kg"),),
        ),
        Words("One person pushes; a chock before anybody lets go" + ("" if rides(design) else "; nobody rides")),
    )


ON_RAILS = (
    *bends.chapters(_supports),
    Chapter("strong", strength_figures),
    Chapter("kept", kept_figures),
    Chapter("smooth", rolling.smooth_figures),
    Chapter("ground", ground_figures),
    Chapter("brackets", bracket_figures),
    Chapter("track", track_figures),
)
ON_THE_FLOOR = (Chapter("tyres", springs), Chapter("floor", floor_figures), Chapter("runs_away", on_slope))


def _for(chapters: tuple[Chapter, ...], only: tuple[str, ...]) -> tuple[Chapter, ...]:
    # How far the subject is, both ask.
    return tuple(chapter if chapter.key == "away" else replace(chapter, only=only) for chapter in chapters)


CLEARING = (
    Way("carriage.wheelbase", "Wheelbase {}", 0.04, high=3.0),
    Way("rail.spacing", "Gauge {}", 0.04, high=2.0),
    Way("bend.axles", "Axles of a trolley {} apart", 0.02, high=1.0),
    Way("camera.rise", "Mount {} above the track", 0.04, high=2.5, matters=among("camera kit")),
)

KIND = Kind(
    **asdict(DECLARED),
    views=(View("side", "Side"), View("above", "Above")),
    actions=(Action("rig", "Size it for me", _sized), Action("balance", "Centre it for me", _centred)),
    model=Chapter("dolly", build),
    chapters=(
        Chapter("rail", _rail),
        Chapter("fits", fit.travel_figures, only=STRAIGHT),
        Chapter("arc_fits", arc_fits, only=(ARC,)),
        Chapter("mass", _mass_figures),
        Chapter("weighed", _weighed),
        *_for(ON_RAILS[:-3], ON_PIPE),
        *_for(ON_THE_FLOOR, ON_FLOOR),
        Chapter("fitting", fit_figures, only=GAUGED),
        Chapter("casters", caster_figures, only=(FLOOR,)),
        Chapter("stops", stop_figures, only=ON_PIPE),
        Chapter("plate", plate_figures),
        Chapter("sag", sag_figures),
        Chapter("pushes", rolling.push_figures),
        Chapter("wheels", wheel_figures),
        Chapter("axles", axle_curves),
        *_for(ON_RAILS[-3:], ON_PIPE),
        Chapter("arc", arc_figures, only=(ARC,)),
        Chapter("hands", hand_figures),
        Chapter("lead", rolling.lead_figures),
        Chapter("standing", standing_figures),
    ),
    follow=_follow,
    limits=dolly_limits,
    held=lambda design, dolly: meets(design, dolly.way, bounce(dolly.way)),
    clearing=clearing_by(build, _bodies, *CLEARING),
    tested=tested,
    mount=_mount,
    members=members,
    bodies=_bodies,
    sketch=draw,
    headlines=_headlines,
    stations=("shot", "rig", "balance", "travel", "build"),
    readings={"swaps": _swaps, "loading": _loading, "foreseen": foreseen},
    schools=SCHOOLS,
    told_apart_by=TOLD_APART_BY,
    joined=joined,
)
