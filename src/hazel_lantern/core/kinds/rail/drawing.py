"""A straight rail drawn from the side and from above, its bending shown many times larger with the factor said."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Carried
from hazel_lantern.core.kinds.rail.carriage import PLATE
from hazel_lantern.core.kinds.rail.model import Carriage, Straight
from hazel_lantern.core.kinds.rail.parts import CARRIAGE, RAIL, frames
from hazel_lantern.core.kinds.shared.drop_post import NAME as POST_NAME
from hazel_lantern.core.kinds.shared.props import PERSON, camera_above, camera_side, person, person_above
from hazel_lantern.core.kinds.shared.weighed import KIT, REST
from hazel_lantern.core.mechanics import rails
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns import sketch as sk
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.sketch import GHOST, SWEEP, Arrow, Item, Note, Ring, Shape, Size, Sketch, Stroke, handle
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics.lens import angle_of_view
from hazel_lantern.core.workshop.laid import Laid
from hazel_lantern.core.workshop.silhouette import ABOVE, SIDE, outlines

SHOWN = 0.06  # metres of drawn bending that the largest drop is stretched to


def _pair(point: np.ndarray | tuple[float, float]) -> tuple[float, float]:
    return float(point[0]), float(point[1])


def spot(rail: Carriage, along: float, above: float = 0.0) -> tuple[float, float]:
    """A place along the rail and above its top in the drawing from the side [m]."""
    return _pair(_at(rail, along, above))


def _at(rail: Carriage, along: float, above: float = 0.0) -> np.ndarray:
    ahead, height = rail.on_floor(along, above)
    return np.array([float(ahead), float(height)])


def side_items(
    kit: Carried, optics: Optics, rail: Carriage, laid: Laid, ends: np.ndarray, x: float, *, on_its_own: bool = False
) -> list[Item]:
    """Rail, carriage, ghosts, camera path, view, loads and the bent line, without what holds the rail."""
    items: list[Item] = []
    for ghost in ends:
        if abs(ghost - x) > 0.02:
            items += outlines(laid, frames(rail, np.array([[ghost]])), SIDE, GHOST, without=(KIT, REST), on=(CARRIAGE,))
            items += _camera(kit, rail, laid, float(ghost), GHOST, on_its_own=on_its_own)
    track = np.array([_at(rail, e + rail.lens[0], rail.lens[2]) for e in ends])
    items += [Stroke(track, "path", dash=True), *_wedge(optics, rail, x)]
    items += outlines(laid, frames(rail, np.array([[x]])), SIDE, without=(KIT, REST), on=(RAIL, CARRIAGE))
    items += _camera(kit, rail, laid, x, sk.BODY, on_its_own=on_its_own)
    items += _bent(rail, x)
    along = np.array([math.sin(rail.slope), -math.cos(rail.slope)])
    for place, load in rail.stands():
        items.append(Arrow(_pair(_at(rail, x + place)), _pair(along if load >= 0 else -along), abs(load)))
    items.append(Arrow(_pair(_at(rail, x + float(rail.cg[0]), float(rail.cg[2]))), (0.0, -1.0), rail.moving * GRAVITY))
    return items


def _camera(kit: Carried, rail: Carriage, laid: Laid, x: float, layer: str, *, on_its_own: bool) -> list[Item]:
    """The camera on its mount, and the head below it where no post hangs it and no tripod of its own carries it."""
    up = np.array([-math.sin(rail.slope), math.cos(rail.slope)])
    along = np.array([math.cos(rail.slope), math.sin(rail.slope)])
    mount = _at(rail, x + float(rail.mount[0]), float(rail.mount[2]))
    plate = next((part for part in laid.parts if part.name == PLATE), None)
    head = []
    if plate is not None and not on_its_own and not any(part.name == POST_NAME for part in laid.parts):
        foot = _at(rail, x + float(rail.mount[0]), plate.places[0].at[2])
        head = [Stroke(np.array([foot, mount]), "steel", 0.03, layer=layer)]
    # A camera that looks aside shows its back to the drawing: only what lies along the travel is drawn long.
    ahead = along * (math.cos(rail.heading) if abs(math.cos(rail.heading)) > 0.35 else 0.35)
    return [*head, *camera_side(mount, ahead, up, kit, layer)]


def _wedge(optics: Optics, rail: Carriage, x: float) -> list[Item]:
    if abs(math.cos(rail.heading)) < 0.35:
        return []
    half = angle_of_view(optics.sensor_height_m, optics.focal_m) / 2
    eye = _at(rail, x + rail.lens[0], float(rail.lens[2]))
    way = math.copysign(5.0, math.cos(rail.heading))
    return [
        Shape(
            np.array(
                [
                    eye,
                    eye + (way * math.cos(half), 5 * math.sin(half)),
                    eye + (way * math.cos(half), -5 * math.sin(half)),
                ]
            ),
            "view",
        )
    ]


def _bent(rail: Carriage, x: float) -> list[Item]:
    """The rail's bent line, stretched so that it can be seen."""
    if not isinstance(rail, Straight):
        return []  # a floor does not bend
    front, rear = rail.axles()
    places = np.linspace(0.0, rail.length, 61)
    try:
        drop = rails.shape(rail.beam, x, rail.wheelbase, front, rear, places)
    except HazelError:
        return []  # a rail that tips off its supports is a finding; it has no bent line
    largest = float(np.abs(drop).max())
    if largest < 1e-7:
        return []
    times = SHOWN / largest
    rounded = float(f"{times:.1g}")
    ahead, height = rail.on_floor(places, -rail.bar.depth / 2 - rounded * drop)
    middle = _at(rail, rail.length * 0.72, -0.2)
    return [
        Stroke(np.column_stack([ahead, height]), "water", 0.0, layer=SWEEP),
        Note(_pair(middle), Words(f"bending × {rounded:g}, largest {{}}", ((largest, "m"),)), "water", SWEEP),
    ]


def side(
    kit: Carried,
    optics: Optics,
    rail: Carriage,
    laid: Laid,
    ends: np.ndarray,
    x: float,
    held: list[Item],
    sizes: list[Item],
    low: float = 0.0,
    *,
    on_its_own: bool = False,
) -> Sketch:
    """The whole side view with what holds the rail and a kind's own sizes; `on_its_own` where a tripod that the kind
    draws carries the camera.
    """
    left, right = _at(rail, 0.0), _at(rail, rail.length)
    aside = min(left[0], right[0]) - 0.5
    top = max(PERSON, float(max(left[1], right[1])) + max(0.3, float(rail.lens[2]) + 0.15))
    items = [*person(aside), *held, *side_items(kit, optics, rail, laid, ends, x, on_its_own=on_its_own), *sizes]
    return Sketch(tuple(items), (aside - 0.45, low - 0.1, max(left[0], right[0]) + 0.75, top + 0.15), "from the side")


def rail_sizes(rail: Straight, x: float) -> list[Item]:
    """Length, height, wheelbase and place of the carriage."""
    left, right = _at(rail, 0.0), _at(rail, rail.length)
    below = -0.16
    return [
        Size(_pair(_at(rail, 0.0, below)), _pair(_at(rail, rail.length, below)), 0.0, rail.length, "m", "rail.length"),
        Size(
            _pair(_at(rail, x - rail.wheelbase / 2, 0.02)),
            _pair(_at(rail, x + rail.wheelbase / 2, 0.02)),
            0.0,
            rail.wheelbase,
            "m",
            rail.base_key,
        ),
        Size(
            (float(right[0]) + 0.3, 0.0),
            (float(right[0]) + 0.3, float(right[1])),
            0.0,
            float(right[1]),
            "m",
            "rail.height" if abs(rail.slope) < 1e-9 else "",
        ),
        handle("rail.length", _pair(right), _pair((right - left) / rail.length), 2.0),
        handle("rail.height", _pair(_at(rail, rail.length / 2, -rail.bar.depth)), (0.0, 1.0)),
        Note(
            _pair(_at(rail, x, float(rail.lens[2]) + 0.2)),
            Words("lens at {}", ((float(_at(rail, x, float(rail.lens[2]))[1]), "m"),)),
            "size",
            sk.SIZES,
        ),
    ]


def above(
    kit: Carried, move: Move, optics: Optics, rail: Carriage, laid: Laid, ends: np.ndarray, x: float, held: list[Item]
) -> Sketch:
    """The rig from above, travel to the right."""
    start = -rail.length / 2
    cos = math.cos(rail.slope)
    items: list[Item] = [
        *held,
        *outlines(laid, frames(rail, np.array([[x]])), ABOVE, without=(KIT, REST), on=(RAIL, CARRIAGE)),
    ]

    def on(place: float, y: float = 0.0) -> tuple[float, float]:
        return (start + place) * cos, y

    wide = float(np.ptp(rail.wheels[:, 1])) + 0.05
    mount = np.array(on(x + float(rail.mount[0]), float(rail.mount[1])))
    items += camera_above(mount, rail.heading, kit.lens_at_m[0])
    items.append(Stroke(np.array([on(e + rail.lens[0], float(rail.lens[1])) for e in ends]), "path", dash=True))
    half = angle_of_view(optics.sensor_width_m, optics.focal_m, optics.squeeze) / 2
    eye = np.array(on(x + rail.lens[0], float(rail.lens[1])))
    if move.move != "look_down":
        items.insert(
            0,
            Shape(
                np.array(
                    [
                        eye,
                        *(
                            eye + 4 * np.array([math.cos(rail.heading + a), math.sin(rail.heading + a)])
                            for a in (half, -half)
                        ),
                    ]
                ),
                "view",
            ),
        )
    items += person_above(on(-0.35, -0.45))
    items += [
        Size(on(0.0, -wide / 2 - 0.2), on(rail.length, -wide / 2 - 0.2), 0.0, rail.length, "m", "rail.length"),
        Size(on(rail.low, wide / 2 + 0.1), on(rail.high, wide / 2 + 0.1), 0.0, rail.high - rail.low, "m", "", "travel"),
        Ring(_pair(np.array(on(x + float(rail.cg[0]), float(rail.cg[1])))), 0.008),
    ]
    if rail.spacing:
        items.append(
            Size(
                on(rail.length * 0.3, -rail.spacing / 2),
                on(rail.length * 0.3, rail.spacing / 2),
                0.0,
                rail.spacing,
                "m",
                "rail.spacing",
            )
        )
    edge = rail.length / 2 + 0.5
    return Sketch(tuple(items), (-edge, -max(0.9, edge * 0.5), edge, max(0.9, edge * 0.5)), "from above", ground=False)
