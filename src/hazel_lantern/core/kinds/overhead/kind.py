"""Overhead sliders: a trolley or a bored shuttle on rails hung from above."""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import asdict

from hazel_lantern.core.kinds.base import Action, Carried, Chapter, Design, Figures, Held, Kind, Members, View
from hazel_lantern.core.kinds.fall import FallZone, falls_to
from hazel_lantern.core.kinds.foreseen import WIDE, Forecast, around
from hazel_lantern.core.kinds.overhead.block import block_figures
from hazel_lantern.core.kinds.overhead.design import DECLARED, SCHOOLS, SHUTTLE, TOLD_APART_BY, TUBE, TWIN, VARIANTS
from hazel_lantern.core.kinds.overhead.fits import shuttle_fit
from hazel_lantern.core.kinds.overhead.hanging import hanging_figures, shuttle_figures
from hazel_lantern.core.kinds.overhead.model import Overhead, build, of_building, rests_for
from hazel_lantern.core.kinds.path import Asked, Path, Poses
from hazel_lantern.core.kinds.rail import bends, drawing, fit, model, rolling
from hazel_lantern.core.kinds.rail.binding import fit_figures
from hazel_lantern.core.kinds.rail.driven import bounce, meets
from hazel_lantern.core.kinds.rail.foreseen import on_rails, on_way, tests_of
from hazel_lantern.core.kinds.rail.held import held_figures
from hazel_lantern.core.kinds.rail.joints import joined
from hazel_lantern.core.kinds.rail.kept import kept_figures
from hazel_lantern.core.kinds.rail.limits import limits
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.kinds.rail.parts import CARRIAGE, frames
from hazel_lantern.core.kinds.rail.plate import plate_figures
from hazel_lantern.core.kinds.rail.riding import riding_figures
from hazel_lantern.core.kinds.rail.round_rail import round_figures
from hazel_lantern.core.kinds.rail.stops import stop_figures
from hazel_lantern.core.kinds.rail.strength import strength_figures
from hazel_lantern.core.kinds.shared.clearing import Way, among, clearing_by
from hazel_lantern.core.kinds.shared.drop_post import post_figures
from hazel_lantern.core.kinds.shared.handling import centred_for_other_kits, hung_up
from hazel_lantern.core.kinds.shared.headline import headlines
from hazel_lantern.core.kinds.shared.inputs import ROLLING
from hazel_lantern.core.kinds.shared.pieces import members_of
from hazel_lantern.core.kinds.shared.weighed import weighed
from hazel_lantern.core.mechanics.track import Frames
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import set_one
from hazel_lantern.core.nouns.sketch import Item, Ring, Size, Sketch, Stroke, handle
from hazel_lantern.core.nouns.told import Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Bodies, Laid

FRICTION, HANGER = "shuttle.friction", "hanger.stiffness"
ROUND = 0.3  # metres around what falls that it may tumble or bounce


def _rail(overhead: Overhead) -> Straight:
    return overhead.way


def _mass_figures(overhead: Overhead, rail: Straight) -> Told:
    given = (Given("m", rail.moving, "kg", "trolley and kit", "kit"),)
    return Told(
        (
            by_method(
                "rig.mass",
                "Everything weighs",
                overhead.laid.mass,
                "kg",
                "trolley, kit and rails with their ties",
                given,
                source="catalogue",
            ),
        )
    )


def _weighed(design: Design, laid: Laid) -> Told:
    return weighed(design, laid, CARRIAGE, "carriage.mass", "Carriage")


def _supports(design: Design, overhead: Overhead) -> bends.Supports:
    """One hanger more, where there may be one."""
    count = len(overhead.places) + 1
    if count > 8:
        return bends.Supports(())
    more = set_one("hanger", f"Hang it at {count} places", "hanger.count", float(count))
    return bends.Supports(((f"{count} hangers", rests_for(design, count)),), (more,))


def _follow(overhead: Overhead, asked: Asked) -> Poses:
    return model.follow(overhead.way, asked)


def _mount(overhead: Overhead, poses: np.ndarray) -> Frames:
    return model.mount(overhead.way, poses)


def _bodies(overhead: Overhead, poses: np.ndarray) -> Bodies:
    return frames(overhead.way, poses)


def _post_figures(design: Design, rail: Straight, laid: Laid) -> Told:
    """The drop post under a careless push and a hard stop, all that moves hanging on it."""
    push, brake = design.number("push.side"), design.number("push.brake")
    return post_figures(design, laid, rail.moving, push, brake, ("camera.rise", -1.0), "rail.height")


def _members(overhead: Overhead, poses: np.ndarray) -> Members:
    return Members.at(
        len(poses),
        [*members_of(overhead.laid, frames(overhead.way, poses), (CARRIAGE,)), model.carrier(overhead.way, poses)],
    )


def _falls(overhead: Overhead) -> FallZone:
    """Under the rail from end to end, and out to where the camera hangs."""
    way = overhead.way
    half = way.length / 2 * math.cos(way.slope)
    return falls_to(np.array([(-half, 0.0), (half, 0.0)]), ROUND + float(np.hypot(*way.lens[:2])))


def _draw(
    kit: Carried, move: Move, optics: Optics, overhead: Overhead, path: Path, pose: np.ndarray, view: str
) -> Sketch:
    rig, way, x, ends = overhead, overhead.way, float(pose[0]), path.ends[:, 0]
    held: list[Item] = []
    for place in rig.places:
        ahead, top = (float(v) for v in way.on_floor(place))
        held.append(
            Ring((ahead, 0.0), 0.015)
            if view == "above"
            else Stroke(np.array([(ahead, top), (ahead, top + 0.3)]), "steel", 0.012)
        )
    if view == "above":
        return drawing.above(kit, move, optics, way, rig.laid, ends, x, held)
    beam = [drawing.spot(way, along, 0.3) for along in (0.0, way.length)]
    held.append(Stroke(np.array(beam), "masonry", 0.06))
    a, b = drawing.spot(way, 0.0, 0.16), drawing.spot(way, rig.places[0], 0.16)
    sizes = [
        *drawing.rail_sizes(way, x),
        Size(a, b, 0.0, rig.places[0], "m", "support.inset"),
        handle("support.inset", b, (1.0, 0.0)),
    ]
    made = drawing.side(kit, optics, way, rig.laid, ends, x, held, sizes)
    x0, y0, x1, y1 = made.box
    return Sketch(made.items, (x0, y0, x1, max(y1, max(e[1] for e in beam) + 0.15)), made.title)


def _meets(design: Design, overhead: Overhead) -> tuple[Held, ...]:
    return meets(design, overhead.way, bounce(overhead.way))


def _tested(design: Design) -> tuple[str, ...]:
    own = () if of_building(design) else ("hanger",)
    return (*tests_of(design, railed=True, twin=design.variant == TWIN, four=True), *own)


def _foreseen(design: Design, overhead: Overhead) -> Forecast:
    way = overhead.way
    rolls = on_way(design, way, FRICTION if design.variant == SHUTTLE else ROLLING)
    found = {**rolls, **on_rails(design, way, bounce(way), "" if of_building(design) else HANGER)}
    if not of_building(design):
        stiff = design.number(HANGER)
        found["hanger"] = around(stiff, WIDE, corrects=HANGER, at=_above(way, overhead.places[0]))
    return found


def _above(way: Straight, along: float) -> tuple[float, float]:
    x, z = way.on_floor(along, 0.15)
    return float(x), float(z)


def _headlines(design: Design, move: Move, optics: Optics, figures: Figures) -> dict[str, Words]:
    rig = Words(dict(VARIANTS)[design.variant].lower() + ", {}", ((design.number("rail.length"), "m"),))
    lines = {
        "balance": ("{} at a hanger", ("balance.hanger",)),
        "travel": ("dips {}, picture {}", ("travel.dip", "travel.shift")),
    }
    return headlines(move, optics, figures, move.chord, rig, lines)


CLEARING = (
    Way("carriage.wheelbase", "Wheelbase {}", 0.03, high=1.0),
    Way("pair.apart", "Wheels of a pair {} apart", 0.004, high=0.2),
    Way("rail.spacing", "Rails {} apart", 0.02, high=1.2),
    Way("camera.rise", "Mount {} above the rail", -0.03, low=-1.5, matters=among("camera kit")),
)

KIND = Kind(
    **asdict(DECLARED),
    views=(View("side", "Side"), View("above", "Above")),
    actions=(Action("rig", "Size it for me", fit.sized_rail),),
    model=Chapter("overhead", build),
    chapters=(
        Chapter("rail", _rail),
        Chapter("fits", fit.travel_figures),
        Chapter("mass", _mass_figures),
        Chapter("weighed", _weighed),
        Chapter("post", _post_figures),
        *bends.chapters(_supports),
        Chapter("strong", strength_figures),
        Chapter("held", held_figures),
        Chapter("fitting", fit_figures, only=(TWIN,)),
        Chapter("shuttle_fits", shuttle_fit, only=(SHUTTLE,)),
        Chapter("riding", riding_figures, only=(TUBE, TWIN)),
        Chapter("stops", stop_figures),
        Chapter("plate", plate_figures),
        Chapter("kept", kept_figures),
        Chapter("round", round_figures),
        Chapter("shuttle", shuttle_figures, only=(SHUTTLE,)),
        Chapter("block", block_figures, only=(SHUTTLE,)),
        *(Chapter(chapter.key, chapter.work, only=(TUBE, TWIN)) for chapter in rolling.CHAPTERS),
        Chapter("hanging", hanging_figures),
    ),
    follow=_follow,
    limits=lambda design, overhead: limits(design, overhead.way),
    held=_meets,
    clearing=clearing_by(build, _bodies, *CLEARING),
    tested=_tested,
    mount=_mount,
    members=_members,
    bodies=_bodies,
    sketch=_draw,
    headlines=_headlines,
    stations=("shot", "rig", "balance", "travel", "build"),
    readings={"swaps": centred_for_other_kits, "loading": hung_up, "foreseen": _foreseen},
    schools=SCHOOLS,
    told_apart_by=TOLD_APART_BY,
    joined=joined,
    falls=_falls,
)
