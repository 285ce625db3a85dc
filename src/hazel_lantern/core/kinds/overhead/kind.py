"""Overhead sliders: a trolley or a bored shuttle on rails hung from above."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from msgspec.structs import asdict

from hazel_lantern.core.errors import GeometryError
from hazel_lantern.core.figure import Given, by_method
from hazel_lantern.core.finding import Remedy, Words
from hazel_lantern.core.kinds.base import Action, Asked, Carried, Chapter, Design, Figures, Kind, Made, Member, Members, Path, Poses, View
from hazel_lantern.core.kinds.handling import centred_for_other_kits, hung_up
from hazel_lantern.core.kinds.headline import headlines
from hazel_lantern.core.kinds.overhead.design import DECLARED, SCHOOLS, SHUTTLE, TOLD_APART_BY, TUBE, TWIN, VARIANTS
from hazel_lantern.core.kinds.overhead.hanging import hanging_figures, shuttle_figures
from hazel_lantern.core.kinds.straight import bends, drawing, fit, model, rolls
from hazel_lantern.core.kinds.straight.model import Straight, straight
from hazel_lantern.core.kinds.straight.parts import piece, straight_parts
from hazel_lantern.core.mechanics.rails import Rest
from hazel_lantern.core.mechanics.track import Frames
from hazel_lantern.core.sketch import Item, Ring, Size, Sketch, Stroke, handle
from hazel_lantern.core.told import Told
from hazel_lantern.core.wanted import Move, Optics
from hazel_lantern.core.workshop.part import Buy, Part

BLOCK, WIDEST_BORE = "pine-45x95", 0.030  # a bush in this bore leaves 5 mm of the board on either side


class Overhead(Struct, frozen=True):
    """A straight rail and the places of its hangers along it [m]."""

    way: Straight
    places: tuple[float, ...]


def _places(design: Design, count: int) -> tuple[float, ...]:
    length, inset = design.number("rail.length"), design.number("support.inset")
    if inset >= length / 2:
        raise GeometryError("the hangers meet: bring them nearer to the rail's ends")
    return tuple(float(x) for x in np.linspace(inset, length - inset, count))


def _rests(design: Design, count: int) -> tuple[Rest, ...]:
    return tuple(Rest(x, kz=design.number("hanger.stiffness"), pulls=True) for x in _places(design, count))


def build(design: Design, kit: Carried) -> Overhead:
    """The mechanism of an overhead slider. Raises GeometryError, InputError."""
    count = round(design.number("hanger.count"))
    way = straight(design, kit, 2 if design.variant == TWIN else 1, _rests(design, count), False, "trolley")
    return Overhead(way, _places(design, count))


def _rail(overhead: Overhead) -> Straight:
    return overhead.way


def _mass_figures(rail: Straight) -> Told:
    given = (Given("m", rail.moving, "kg", "trolley and kit", "kit"),)
    return Told((by_method("rig.mass", "Everything weighs", rail.moving + rail.rail_mass, "kg", "rig", "trolley, kit and rails", given, source="catalogue"),))


def _supports(design: Design, overhead: Overhead) -> bends.Supports:
    """One hanger more, where there may be one."""
    count = len(overhead.places) + 1
    if count > 8:
        return bends.Supports(())
    more = Remedy("hanger", Words(f"Hang it at {count} places"), (("hanger.count", float(count)),))
    return bends.Supports(((f"{count} hangers", _rests(design, count)),), (more,))


def _follow(overhead: Overhead, asked: Asked) -> Poses:
    return model.follow(overhead.way, asked)


def _mount(overhead: Overhead, poses: np.ndarray) -> Frames:
    return model.mount(overhead.way, poses)


def _members(overhead: Overhead, poses: np.ndarray) -> Members:
    way, x = overhead.way, poses[:, 0]
    post = Member("drop post", 0.02), way.place(x, 0.0, -way.bar.depth), way.place(x + way.mount[0], *way.mount[1:])
    return Members.at(len(poses), [*way.rails(), post])


def _draw(kit: Carried, move: Move, optics: Optics, overhead: Overhead, path: Path, pose: np.ndarray, view: str) -> Sketch:
    rig, way, x, ends = overhead, overhead.way, float(pose[0]), path.at(np.array([0.0, 1.0]))[:, 0]
    held: list[Item] = []
    for place in rig.places:
        ahead, top = (float(v) for v in way.on_floor(place))
        held.append(Ring((ahead, 0.0), 0.015) if view == "above" else Stroke(np.array([(ahead, top), (ahead, top + 0.3)]), "steel", 0.012))
    if view == "above":
        return drawing.above(kit, move, optics, way, ends, x, held)
    beam = [tuple(float(v) for v in way.on_floor(p, 0.3)) for p in (0.0, way.length)]
    held.append(Stroke(np.array(beam), "masonry", 0.06))
    a, b = (tuple(float(v) for v in way.on_floor(p, 0.16)) for p in (0.0, rig.places[0]))
    sizes = [*drawing.rail_sizes(way, x), Size(a, b, 0.0, rig.places[0], "m", "support.inset"), handle("support.inset", b, (1.0, 0.0))]  # type: ignore[arg-type]
    made = drawing.side(kit, optics, way, ends, x, held, sizes)
    x0, y0, x1, y1 = made.box
    return Sketch(made.items, (x0, y0, x1, max(y1, max(e[1] for e in beam) + 0.15)), made.title)


def _parts(design: Design, kit: Carried, overhead: Overhead) -> Made:
    parts, bought = straight_parts(design, kit, overhead.way, overhead.places, 0.0065, block=design.number("shuttle.guide") if design.variant == SHUTTLE else 0.0)
    if design.variant == SHUTTLE:
        block, small = _shuttle(design)
        parts += block
        bought += small
    bought += [
        Buy("Rated hanger with clamp", len(overhead.places), 7.5, "rated load stamped on it"),
        Buy("Rated tether, steel wire with shackle", 1, 9.0, "to another part of the structure"),
    ]
    return Made(tuple(parts), tuple(bought))


def _shuttle(design: Design) -> tuple[list[Part], list[Buy]]:
    """What slides on the rod: a block with a bush in either end, screwed under the plate; a bore too wide for the board is turned or printed in one."""
    bore, guide = design.number("shuttle.bore"), design.number("shuttle.guide")
    screws = Buy("Countersunk screw 5×40", 4, 0.06, "plate to shuttle; let the head of the camera screw into the plate first")
    if bore > WIDEST_BORE:
        return [], [Buy("Shuttle, turned or printed", 1, 18.0, f"bore {bore * 1e3:.1f} mm, guide {guide * 1e3:.0f} mm long"), screws]
    block = piece(design, "S1", "Shuttle block", BLOCK, guide, datum="one end", matched="bore lengthwise through the middle, from both ends")
    return [block], [Buy("Plain bush", 2, 4.5, f"bore {bore * 1e3:.1f} mm, one in each end of the block"), screws]


def _headlines(design: Design, move: Move, optics: Optics, figures: Figures) -> dict[str, Words]:
    rig = Words(dict(VARIANTS)[design.variant].lower() + ", {}", ((design.number("rail.length"), "m"),))
    lines = {"balance": ("{} at a hanger", ("balance.hanger",)), "travel": ("dips {}, picture {}", ("travel.dip", "travel.shift"))}
    return headlines(move, optics, figures, move.chord, rig, lines)


KIND = Kind(
    **asdict(DECLARED),
    views=(View("side", "Side"), View("above", "Above")),
    actions=(Action("rig", "Size it for me", fit.sized_rail),),
    model=Chapter("overhead", build),
    chapters=(
        Chapter("rail", _rail),
        Chapter("fits", fit.travel_figures),
        Chapter("mass", _mass_figures),
        *bends.chapters(_supports),
        Chapter("shuttle", shuttle_figures, only=(SHUTTLE,)),
        *(Chapter(chapter.key, chapter.work, only=(TUBE, TWIN)) for chapter in rolls.CHAPTERS),
        Chapter("hanging", hanging_figures),
    ),
    follow=_follow,
    mount=_mount,
    members=_members,
    sketch=_draw,
    parts=Chapter("made", _parts),
    headlines=_headlines,
    stations=("shot", "rig", "balance", "travel", "build"),
    readings={"swaps": centred_for_other_kits, "loading": hung_up},
    schools=SCHOOLS,
    told_apart_by=TOLD_APART_BY,
)
