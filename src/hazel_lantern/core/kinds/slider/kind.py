"""Sliders: a carriage on one or two rails that stand on a tripod, two stands or a table."""

from __future__ import annotations

from functools import partial

import numpy as np
from msgspec.structs import asdict

from hazel_lantern.core.figure import Given, by_method
from hazel_lantern.core.finding import Remedy, Words
from hazel_lantern.core.kinds.base import Action, Context, Kind, Report, View
from hazel_lantern.core.kinds.handling import centred_for_other_kits, stood_up
from hazel_lantern.core.kinds.headline import headlines
from hazel_lantern.core.kinds.props import legs_above, legs_side
from hazel_lantern.core.kinds.slider.design import CAPTIVE, DECLARED, SCHOOLS, TABLE, TOLD_APART_BY, TRIPOD, TWO, VARIANTS
from hazel_lantern.core.kinds.slider.model import Slider, build, members, rests_for
from hazel_lantern.core.kinds.slider.standing import standing_figures
from hazel_lantern.core.kinds.straight import bends, drawing, model, rolls
from hazel_lantern.core.kinds.straight.fit import sized_rail, travel_figures
from hazel_lantern.core.kinds.straight.parts import straight_parts
from hazel_lantern.core.sketch import Item, Ring, Shape, Size, Sketch, box_outline, handle
from hazel_lantern.core.workshop.part import Buy, Part

NAMES = {TRIPOD: "one tripod", TWO: "two stands", TABLE: "a table"}


def _report(context: Context, rig: Slider, report: Report) -> None:
    way = rig.way
    travel_figures(context, way, report, "carriage")
    report.add(
        by_method(
            "rig.mass",
            "Everything weighs",
            rig.mass,
            "kg",
            "rig",
            "carriage, kit, rails and stands",
            (Given("m", way.moving, "kg", "carriage and kit", "kit"),),
            source="catalogue",
        )
    )
    others = tuple((NAMES[held], partial(rests_for, context, held)) for held in (TRIPOD, TWO) if held != rig.held)
    two = (Remedy("two", Words("Stand it on two stands"), (("support", TWO),)),) if rig.held == TRIPOD else ()
    found = bends.bend_figures(context, way, report, others, two)
    if rig.held == TRIPOD:
        bends.soft_head(context, way, context.number("head.stiffness"), report)
    rolls.slope_figures(context, way, report)
    rolls.smooth_figures(context, way, report)
    rolls.wheel_figures(context, way, context.text("carriage.hold") == CAPTIVE, report)
    standing_figures(context, rig, found, report)


def _path(context: Context, rig: Slider, u: np.ndarray) -> np.ndarray:
    return model.path(context, rig.way, u)


def _lens(context: Context, rig: Slider, poses: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    return model.lens(context, rig.way, poses)


def _draw(context: Context, rig: Slider, report: Report, pose: np.ndarray, view: str) -> Sketch:
    way, x = rig.way, float(pose[0])
    legs = len(rig.feet) // len(rig.places)
    held: list[Item] = []
    for k, place in enumerate(rig.places):
        ahead, top = (float(v) for v in way.on_floor(place, -way.bar.depth))
        feet = rig.feet[k * legs : (k + 1) * legs]
        if view == "above":
            held += legs_above((ahead, 0.0), feet - (ahead, 0.0)) if rig.held != TABLE else [Ring((float(fx), float(fy)), 0.02) for fx, fy in feet]
        elif rig.held != TABLE:
            held += legs_side(ahead, top, feet[:, 0] - ahead)
        else:
            held.append(Shape(box_outline((ahead, 0.0), (ahead, top), 0.03), "wood"))
    if view == "above":
        return drawing.above(context, way, report, x, held)
    sizes = drawing.rail_sizes(way, x)
    if rig.held != TRIPOD:
        inset = rig.places[0]
        a, b = (tuple(float(v) for v in way.on_floor(p, -0.3)) for p in (0.0, inset))
        sizes += [Size(a, b, 0.0, inset, "m", "support.inset"), handle("support.inset", b, (1.0, 0.0))]  # type: ignore[arg-type]
    return drawing.side(context, way, report, x, held, sizes)


def _size(context: Context) -> tuple[tuple[str, object], ...]:
    """Rail long enough for the shot, at the height it asks for. Raises InfeasibleError when no rail makes it."""
    return sized_rail(context, build(context).way)


def _balance(context: Context) -> tuple[tuple[str, object], ...]:
    """Camera over the wheels and over the rail, wheels nipped up as they need."""
    way = build(context).way
    # Half of the carriage's own mass goes with the mount.
    along = way.moving / (way.moving - context.number("carriage.mass") / 2)
    ahead, aside = float(way.mount[0] - way.cg[0] * along), float(way.mount[1] - way.cg[1] * along)
    return (("camera.ahead", round(min(0.5, max(-0.5, ahead)), 3)), ("camera.aside", round(min(0.5, max(-0.5, aside)), 3)))


def _parts(context: Context, rig: Slider) -> tuple[tuple[Part, ...], tuple[Buy, ...]]:
    parts, bought = straight_parts(context, rig.way, rig.places, 0.0065)
    if rig.held != TABLE and rig.stand.price:
        bought.append(Buy(rig.stand.name, len(rig.places), rig.stand.price))
    bought.append(Buy("Rail plate with 3/8-16 thread", len(rig.places), 6.5) if rig.held != TABLE else Buy("Rubber foot", 4, 0.4))
    return tuple(parts), tuple(bought)


def _headlines(context: Context, report: Report) -> dict[str, Words]:
    rig = Words(dict(VARIANTS)[context.rig.variant].lower().split(",")[0] + ", {}", ((context.number("rail.length"), "m"),))
    return headlines(
        context, report, model.wanted_way(context), rig, {"balance": ("lightest wheel {}", ("balance.least",)), "travel": ("dips {}, picture {}", ("travel.dip", "travel.shift"))}
    )


def _loading(context: Context, rig: Slider) -> tuple[Words, ...]:
    return stood_up(context, 0 if rig.held == TABLE else len(rig.places))


KIND = Kind(
    **asdict(DECLARED), views=(View("side", "Side"), View("above", "Above")),
    actions=(Action("rig", "Size it for me", _size), Action("balance", "Centre it for me", _balance)),
    model=build, report=_report, path=_path, lens=_lens, members=members, sketch=_draw, parts=_parts, headlines=_headlines,
    stations=("shot", "rig", "balance", "travel", "build"), swaps=lambda context, rig: centred_for_other_kits(context), loading=_loading, of_set=bends.distance, schools=SCHOOLS, told_apart_by=TOLD_APART_BY,
)  # fmt: skip
