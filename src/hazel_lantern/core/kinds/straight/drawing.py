"""A straight rail drawn from the side and from above, its bending shown many times larger with the factor said."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core import sketch as sk
from hazel_lantern.core.errors import HazelError
from hazel_lantern.core.finding import Words
from hazel_lantern.core.kinds.base import Context, Report
from hazel_lantern.core.kinds.props import CIRCLE, PERSON, camera_above, camera_side, person, person_above
from hazel_lantern.core.kinds.straight.model import Straight, path
from hazel_lantern.core.mechanics import rails
from hazel_lantern.core.optics.lens import angle_of_view
from hazel_lantern.core.sketch import GHOST, SWEEP, Arrow, Item, Note, Ring, Shape, Size, Sketch, Stroke, box_outline, handle
from hazel_lantern.core.units import GRAVITY

SHOWN = 0.06  # metres of drawn bending that the largest drop is stretched to


def _pair(point: np.ndarray | tuple[float, float]) -> tuple[float, float]:
    return float(point[0]), float(point[1])


def _at(rig: Straight, along: float, above: float = 0.0) -> np.ndarray:
    ahead, height = rig.on_floor(along, above)
    return np.array([float(ahead), float(height)])


def side_items(context: Context, rig: Straight, report: Report, x: float) -> list[Item]:
    """Rail, carriage, ghosts, camera path, view, loads and the bent line, without what holds the rail."""
    ends = path(context, rig, np.array([0.0, 1.0]))[:, 0]
    items: list[Item] = []
    for ghost in ends:
        if abs(ghost - x) > 0.02:
            items += _carriage(context, rig, float(ghost), GHOST)
    track = np.array([_at(rig, e + rig.lens[0], rig.lens[2]) for e in ends])
    items += [Stroke(track, "path", dash=True), *_wedge(context, rig, x)]
    fill = rig.material.fill
    items.append(Shape(box_outline(_pair(_at(rig, 0.0, -rig.bar.depth / 2)), _pair(_at(rig, rig.length, -rig.bar.depth / 2)), rig.bar.depth), fill))
    items += _carriage(context, rig, x, sk.BODY)
    items += _bent(rig, x)
    front, rear = rig.axles()
    along = np.array([math.sin(rig.slope), -math.cos(rig.slope)])
    for place, load in ((x + rig.wheelbase / 2, front), (x - rig.wheelbase / 2, rear)):
        items.append(Arrow(_pair(_at(rig, place)), _pair(along if load >= 0 else -along), abs(load)))
    items.append(Arrow(_pair(_at(rig, x + float(rig.cg[0]), float(rig.cg[2]))), (0.0, -1.0), rig.moving * GRAVITY))
    return items


def _carriage(context: Context, rig: Straight, x: float, layer: str) -> list[Item]:
    up = np.array([-math.sin(rig.slope), math.cos(rig.slope)])
    along = np.array([math.cos(rig.slope), math.sin(rig.slope)])
    hangs = rig.mount[2] < 0
    side = -1.0 if hangs else 1.0
    radius = rig.wheel.d / 2
    seat = _at(rig, x, (0.0 if not hangs else -rig.bar.depth) + side * radius)
    items: list[Item] = []
    for place in (-rig.wheelbase / 2, rig.wheelbase / 2):
        items.append(Shape(CIRCLE * radius + seat + along * place, "plastic", layer))
    plate = seat + up * side * radius
    items.append(Shape(box_outline(_pair(plate - along * (rig.wheelbase / 2 + 0.02)), _pair(plate + along * (rig.wheelbase / 2 + 0.02)), 0.012), "wood", layer))
    mount = _at(rig, x + float(rig.mount[0]), float(rig.mount[2]))
    items.append(Stroke(np.array([plate + along * rig.mount[0], mount]), "steel", 0.03, layer=layer))
    # A camera that looks aside shows its back to the drawing: only what lies along the travel is drawn long.
    ahead = along * (math.cos(rig.heading) if abs(math.cos(rig.heading)) > 0.35 else 0.35)
    return [*items, *camera_side(mount, ahead, up, context.kit.lens_at_m, layer)]


def _wedge(context: Context, rig: Straight, x: float) -> list[Item]:
    if abs(math.cos(rig.heading)) < 0.35:
        return []
    half = angle_of_view(context.shot.sensor_height_m, context.shot.focal_m) / 2
    eye = _at(rig, x + rig.lens[0], float(rig.lens[2]))
    way = math.copysign(5.0, math.cos(rig.heading))
    return [Shape(np.array([eye, eye + (way * math.cos(half), 5 * math.sin(half)), eye + (way * math.cos(half), -5 * math.sin(half))]), "view")]


def _bent(rig: Straight, x: float) -> list[Item]:
    """The rail's bent line, stretched so that it can be seen."""
    front, rear = rig.axles()
    places = np.linspace(0.0, rig.length, 61)
    try:
        drop = rails.shape(rig.rail, x, rig.wheelbase, front, rear, places)
    except HazelError:
        return []  # a rail that tips off its supports is a finding; it has no bent line
    largest = float(np.abs(drop).max())
    if largest < 1e-7:
        return []
    times = SHOWN / largest
    rounded = float(f"{times:.1g}")
    ahead, height = rig.on_floor(places, -rig.bar.depth / 2 - rounded * drop)
    middle = _at(rig, rig.length * 0.72, -0.2)
    return [
        Stroke(np.column_stack([ahead, height]), "water", 0.0, layer=SWEEP),
        Note(_pair(middle), Words(f"bending × {rounded:g}, largest {{}}", ((largest, "m"),)), "water", SWEEP),
    ]  # fmt: skip


def side(context: Context, rig: Straight, report: Report, x: float, held: list[Item], sizes: list[Item], low: float = 0.0) -> Sketch:
    """The whole side view with what holds the rail and a kind's own sizes."""
    left, right = _at(rig, 0.0), _at(rig, rig.length)
    aside = min(left[0], right[0]) - 0.5
    top = max(PERSON, float(max(left[1], right[1])) + max(0.3, float(rig.lens[2]) + 0.15))
    items = [*person(aside), *held, *side_items(context, rig, report, x), *sizes]
    return Sketch(tuple(items), (aside - 0.45, low - 0.1, max(left[0], right[0]) + 0.75, top + 0.15), "from the side")


def rail_sizes(rig: Straight, x: float) -> list[Item]:
    """Length, height, wheelbase and place of the carriage."""
    left, right = _at(rig, 0.0), _at(rig, rig.length)
    below = -0.16
    return [
        Size(_pair(_at(rig, 0.0, below)), _pair(_at(rig, rig.length, below)), 0.0, rig.length, "m", "rail.length"),
        Size(_pair(_at(rig, x - rig.wheelbase / 2, 0.02)), _pair(_at(rig, x + rig.wheelbase / 2, 0.02)), 0.0, rig.wheelbase, "m", "carriage.wheelbase"),
        Size((float(right[0]) + 0.3, 0.0), (float(right[0]) + 0.3, float(right[1])), 0.0, float(right[1]), "m", "rail.height" if abs(rig.slope) < 1e-9 else ""),
        handle("rail.length", _pair(right), _pair((right - left) / rig.length), 2.0),
        handle("rail.height", _pair(_at(rig, rig.length / 2, -rig.bar.depth)), (0.0, 1.0)),
        Note(_pair(_at(rig, x, float(rig.lens[2]) + 0.2)), Words("lens at {}", ((float(_at(rig, x, float(rig.lens[2]))[1]), "m"),)), "size", sk.SIZES),
    ]  # fmt: skip


def above(context: Context, rig: Straight, report: Report, x: float, held: list[Item]) -> Sketch:
    """The rig from above, travel to the right."""
    start = -rig.length / 2
    cos = math.cos(rig.slope)
    ends = path(context, rig, np.array([0.0, 1.0]))[:, 0]
    tracks = (0.0,) if rig.count == 1 else (rig.spacing / 2, -rig.spacing / 2)
    items: list[Item] = [*held]
    for y in tracks:
        items.append(Shape(box_outline((start * cos, y), (-start * cos, y), rig.bar.width), rig.material.fill))
    if rig.count == 2:
        for place in (start * cos + 0.03, -start * cos - 0.03):
            items.append(Shape(box_outline((place, -rig.spacing / 2 - 0.03), (place, rig.spacing / 2 + 0.03), 0.04), "wood"))

    def on(place: float, y: float = 0.0) -> tuple[float, float]:
        return (start + place) * cos, y

    wide = float(np.ptp(rig.wheels[:, 1])) + 0.05
    items.append(Shape(box_outline(on(x - rig.wheelbase / 2 - 0.02), on(x + rig.wheelbase / 2 + 0.02), wide), "wood"))
    for wx, wy in rig.wheels:
        items.append(Shape(box_outline(on(x + wx - rig.wheel.d / 2, wy), on(x + wx + rig.wheel.d / 2, wy), 0.012), "plastic"))
    mount = np.array(on(x + float(rig.mount[0]), float(rig.mount[1])))
    items += camera_above(mount, rig.heading, context.kit.lens_at_m[0])
    items.append(Stroke(np.array([on(e + rig.lens[0], float(rig.lens[1])) for e in ends]), "path", dash=True))
    half = angle_of_view(context.shot.sensor_width_m, context.shot.focal_m, context.shot.squeeze) / 2
    eye = np.array(on(x + rig.lens[0], float(rig.lens[1])))
    if context.shot.move != "look_down":
        items.insert(0, Shape(np.array([eye, *(eye + 4 * np.array([math.cos(rig.heading + a), math.sin(rig.heading + a)]) for a in (half, -half))]), "view"))
    items += person_above(on(-0.35, -0.45))
    items += [
        Size(on(0.0, -wide / 2 - 0.2), on(rig.length, -wide / 2 - 0.2), 0.0, rig.length, "m", "rail.length"),
        Size(on(rig.low, wide / 2 + 0.1), on(rig.high, wide / 2 + 0.1), 0.0, rig.high - rig.low, "m", "", "travel"),
        Ring(_pair(np.array(on(x + float(rig.cg[0]), float(rig.cg[1])))), 0.008),
    ]  # fmt: skip
    if rig.count == 2:
        items.append(Size(on(rig.length * 0.3, -rig.spacing / 2), on(rig.length * 0.3, rig.spacing / 2), 0.0, rig.spacing, "m", "rail.spacing"))
    edge = rig.length / 2 + 0.5
    return Sketch(tuple(items), (-edge, -max(0.9, edge * 0.5), edge, max(0.9, edge * 0.5)), "from above", ground=False)
