"""Overhead sliders: a rail hung from beams, a grid or wall brackets, the camera below it."""

from __future__ import annotations

from functools import partial

import numpy as np
from msgspec import Struct
from msgspec.structs import asdict

from hazel_lantern.core.errors import GeometryError
from hazel_lantern.core.figure import Given, by_method
from hazel_lantern.core.finding import Remedy, Words
from hazel_lantern.core.kinds.base import Action, Context, Kind, Member, Members, Report, View
from hazel_lantern.core.kinds.handling import centred_for_other_kits, hung_up
from hazel_lantern.core.kinds.headline import headlines
from hazel_lantern.core.kinds.overhead.design import DECLARED, SCHOOLS, SHUTTLE, TOLD_APART_BY, TWIN, VARIANTS
from hazel_lantern.core.kinds.overhead.hanging import hanging_figures, shuttle_figures
from hazel_lantern.core.kinds.straight import bends, drawing, model, rolls
from hazel_lantern.core.kinds.straight.fit import sized_rail, travel_figures
from hazel_lantern.core.kinds.straight.model import Straight, straight
from hazel_lantern.core.kinds.straight.parts import straight_parts
from hazel_lantern.core.mechanics.rails import Rest
from hazel_lantern.core.sketch import Item, Ring, Size, Sketch, Stroke, handle
from hazel_lantern.core.workshop.part import Buy, Part


class Overhead(Struct, frozen=True):
    """A straight rail and the places of its hangers along it [m]."""

    way: Straight
    places: tuple[float, ...]


def _places(context: Context, count: int) -> tuple[float, ...]:
    length, inset = context.number("rail.length"), context.number("support.inset")
    if inset >= length / 2:
        raise GeometryError("the hangers meet: bring them nearer to the rail's ends")
    return tuple(float(x) for x in np.linspace(inset, length - inset, count))


def _rests(context: Context, count: int) -> tuple[Rest, ...]:
    return tuple(Rest(x, kz=context.number("hanger.stiffness"), pulls=True) for x in _places(context, count))


def build(context: Context) -> Overhead:
    """The mechanism of an overhead slider. Raises GeometryError, InputError."""
    count = round(context.number("hanger.count"))
    way = straight(context, 2 if context.rig.variant == TWIN else 1, _rests(context, count), False)
    return Overhead(way, _places(context, count))


def _report(context: Context, rig: Overhead, report: Report) -> None:
    way = rig.way
    travel_figures(context, way, report, "trolley")
    report.add(
        by_method(
            "rig.mass",
            "Everything weighs",
            way.moving + way.rail_mass,
            "kg",
            "rig",
            "trolley, kit and rails",
            (Given("m", way.moving, "kg", "trolley and kit", "kit"),),
            source="catalogue",
        )
    )
    count = len(rig.places)
    more = (Remedy("hanger", Words(f"Hang it at {count + 1} places"), (("hanger.count", float(count + 1)),)),) if count < 8 else ()
    found = bends.bend_figures(context, way, report, ((f"{count + 1} hangers", partial(_rests, context, count + 1)),) if count < 8 else (), more)
    if context.rig.variant == SHUTTLE:
        shuttle_figures(context, way, report)
    else:
        rolls.slope_figures(context, way, report)
        rolls.smooth_figures(context, way, report)
        rolls.wheel_figures(context, way, context.text("carriage.hold") == "captive", report)
    hanging_figures(context, way, found, report)


def _path(context: Context, rig: Overhead, u: np.ndarray) -> np.ndarray:
    return model.path(context, rig.way, u)


def _lens(context: Context, rig: Overhead, poses: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    return model.lens(context, rig.way, poses)


def _members(context: Context, rig: Overhead, poses: np.ndarray) -> Members:
    way, x = rig.way, poses[:, 0]
    post = Member("drop post", 0.02), way.place(x, 0.0, -way.bar.depth), way.place(x + way.mount[0], *way.mount[1:])
    return Members.at(len(poses), [*way.rails(), post])


def _draw(context: Context, rig: Overhead, report: Report, pose: np.ndarray, view: str) -> Sketch:
    way, x = rig.way, float(pose[0])
    held: list[Item] = []
    for place in rig.places:
        ahead, top = (float(v) for v in way.on_floor(place))
        held.append(Ring((ahead, 0.0), 0.015) if view == "above" else Stroke(np.array([(ahead, top), (ahead, top + 0.3)]), "steel", 0.012))
    if view == "above":
        return drawing.above(context, way, report, x, held)
    ends = [tuple(float(v) for v in way.on_floor(p, 0.3)) for p in (0.0, way.length)]
    held.append(Stroke(np.array(ends), "masonry", 0.06))
    a, b = (tuple(float(v) for v in way.on_floor(p, 0.16)) for p in (0.0, rig.places[0]))
    sizes = [*drawing.rail_sizes(way, x), Size(a, b, 0.0, rig.places[0], "m", "support.inset"), handle("support.inset", b, (1.0, 0.0))]  # type: ignore[arg-type]
    made = drawing.side(context, way, report, x, held, sizes)
    x0, y0, x1, y1 = made.box
    return Sketch(made.items, (x0, y0, x1, max(y1, max(e[1] for e in ends) + 0.15)), made.title)


def _parts(context: Context, rig: Overhead) -> tuple[tuple[Part, ...], tuple[Buy, ...]]:
    parts, bought = straight_parts(context, rig.way, rig.places, 0.0065)
    bought += [
        Buy("Rated hanger with clamp", len(rig.places), 7.5, "rated load stamped on it"),
        Buy("Rated tether, steel wire with shackle", 1, 9.0, "to another part of the structure"),
    ]
    return tuple(parts), tuple(bought)


def _headlines(context: Context, report: Report) -> dict[str, Words]:
    rig = Words(dict(VARIANTS)[context.rig.variant].lower() + ", {}", ((context.number("rail.length"), "m"),))
    return headlines(
        context, report, model.wanted_way(context), rig, {"balance": ("{} at a hanger", ("balance.hanger",)), "travel": ("dips {}, picture {}", ("travel.dip", "travel.shift"))}
    )


KIND = Kind(
    **asdict(DECLARED), views=(View("side", "Side"), View("above", "Above")),
    actions=(Action("rig", "Size it for me", lambda context: sized_rail(context, build(context).way)),),
    model=build, report=_report, path=_path, lens=_lens, members=_members, sketch=_draw, parts=_parts, headlines=_headlines,
    stations=("shot", "rig", "balance", "travel", "build"), swaps=lambda context, rig: centred_for_other_kits(context), loading=lambda context, rig: hung_up(context),
    of_set=bends.distance, schools=SCHOOLS, told_apart_by=TOLD_APART_BY,
)  # fmt: skip
