"""Drawings of a dolly: track or floor, deck, tripod, ballast."""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.dolly.bent_drawing import bent_above
from hazel_lantern.core.kinds.dolly.deck import BAG, RIDER
from hazel_lantern.core.kinds.dolly.model import Dolly
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.kinds.rail import drawing
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.kinds.shared.props import PERSON, person
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.sketch import BODY, GHOST, Item, Ring, Shape, Size, Sketch, Stroke, box_outline, handle

BAG_WIDE, LOWEST = 0.3, -0.6
EARTH = "weight"
APART = 0.02  # metres from the pose to a ghost that is drawn
SEATED = 0.7  # metres above the deck under which the centre of somebody is who sits
WEDGE = 0.004  # metres of packing from which it is drawn


def draw(
    design: Design, kit: Carried, move: Move, optics: Optics, dolly: Dolly, path: Path, pose: np.ndarray, view: str
) -> Sketch:
    way, x, ends = dolly.way, float(pose[0]), path.ends[:, 0]
    if view == "above" and dolly.bend is not None:
        return bent_above(kit, optics, dolly, dolly.bend, ends, x, design.text("bend.by"))
    if view == "above":
        made = drawing.above(kit, move, optics, way, dolly.laid, ends, x, _floor_above(dolly))
        return replace(made, items=(*made.items, *_tripod_above(dolly, x)))
    held = [*_under(dolly), *_aboard(dolly, x)]
    held += [item for end in ends if abs(end - x) > APART for item in _tripod_side(dolly, float(end), GHOST)]
    held += _tripod_side(dolly, x, BODY)
    return drawing.side(
        kit, optics, way, dolly.laid, ends, x, held, _sizes(dolly, x), LOWEST, on_its_own=bool(len(dolly.feet))
    )


def _under(rig: Dolly) -> list[Item]:
    """Wedges under the ties, or the floor where it rises."""
    way, items = rig.way, list[Item]()
    if not isinstance(way, Straight):
        ends = [drawing.spot(way, x) for x in (0.0, way.length)]
        return [Stroke(np.array(ends), "steel", 0.01)] if way.slope else []
    if len(rig.ground):
        items.append(_uneven(rig))
    for k, tie in enumerate(rig.ties):
        x, under = drawing.spot(way, tie, -way.bar.depth - rig.tie)
        # Of both ends the thicker wedge is seen.
        on = under - float(rig.wedges[k].max()) if len(rig.wedges) else 0.0
        if under - on > WEDGE:
            items.append(Shape(box_outline((x, on), (x, under), 0.08), "wood"))
    return items


def _uneven(rig: Dolly) -> Item:
    """Ground that was measured, the lower of both sides, over the lowest of all."""
    way, low = rig.way, rig.ground[:, 1:].min(axis=1)
    x = [float(way.on_floor(float(at))[0]) for at in rig.ground[:, 0]]
    top = np.column_stack([x, low])
    return Shape(
        np.vstack([[x[0] - 0.1, 0.0], [x[0] - 0.1, low[0]], top, [x[-1] + 0.1, low[-1]], [x[-1] + 0.1, 0.0]]), EARTH
    )


def _aboard(rig: Dolly, x: float) -> list[Item]:
    """Ballast and who rides."""
    way, items = rig.way, list[Item]()
    for thing in rig.laid.things:
        if thing.name == "Ballast":
            a, b = drawing.spot(way, x, rig.top), drawing.spot(way, x, rig.top + BAG)
            items.append(Shape(box_outline(a, b, BAG_WIDE), "weight"))
        elif thing.name == RIDER:
            foot = drawing.spot(way, x - 0.12, rig.top)
            tall = PERSON if thing.places[0].at[2] - rig.top > SEATED else 0.75 * PERSON
            items += person(foot[0], tall, foot[1])
    return items


def _floor_above(rig: Dolly) -> list[Item]:
    """The gaps of a floor across its run."""
    way = rig.way
    if isinstance(way, Straight) or not rig.gaps:
        return []
    half = way.spacing / 2 + 0.15
    places = np.arange(rig.gaps, way.length, rig.gaps)
    return [
        Stroke(np.array([(at, -half), (at, half)]), "floor-line")
        for at in (float(way.on_floor(float(x))[0]) for x in places)
    ]


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
    end, foot = drawing.spot(way, way.length), drawing.spot(way, x + float(way.mount[0]) + 0.45)
    head = drawing.spot(way, x + float(way.mount[0]) + 0.45, float(way.mount[2]))
    wheels = [drawing.spot(way, x + half * way.wheelbase, -0.16) for half in (-0.5, 0.5)]
    top = drawing.spot(way, x + float(way.mount[0]), float(way.mount[2]))
    # Where the gauge sets how far apart the wheels are, that is read and not set here.
    base = way.base_key if way.base_key == "carriage.wheelbase" else ""
    first = 1 if len(rig.ties) > 3 else 0
    span = [drawing.spot(way, tie, -0.34) for tie in rig.ties[first : first + 2]]
    ties = [Size(span[0], span[1], 0.0, math.dist(*span), "m", "tie.spacing")] if span else []
    return [
        Size(a, b, 0.0, way.length, "m", "rail.length"),
        *ties,
        Size(wheels[0], wheels[1], 0.0, way.wheelbase, "m", base),
        Size(foot, head, 0.0, float(way.mount[2]), "m", "camera.rise"),
        handle("rail.length", end, (math.cos(way.slope), math.sin(way.slope)), 2.0),
        handle("camera.rise", top, (-math.sin(way.slope), math.cos(way.slope))),
    ]
