"""The gantry from the side and from above, with what it can reach."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.finding import Words
from hazel_lantern.core.kinds.base import Carried, Design, Figures, Path
from hazel_lantern.core.kinds.gantry.model import Gantry, camera
from hazel_lantern.core.kinds.props import CIRCLE, camera_above, camera_side, person, person_above
from hazel_lantern.core.sketch import GHOST, SWEEP, Arrow, Item, Note, Ring, Shape, Size, Sketch, Stroke, box_outline, handle
from hazel_lantern.core.units import GRAVITY
from hazel_lantern.core.wanted import Move


def draw(design: Design, kit: Carried, move: Move, gantry: Gantry, path: Path, figures: Figures, pose: np.ndarray, view: str) -> Sketch:
    """At a pose of bridge, trolley, boom angle and boom length."""
    track = path.at(np.array([0.0, 1.0]))
    return _above(design, kit, gantry, track, pose) if view == "above" else _side(design, kit, move, gantry, track, figures, pose)


def _side(design: Design, kit: Carried, move: Move, rig: Gantry, track: np.ndarray, figures: Figures, pose: np.ndarray) -> Sketch:
    """Seen across the runways."""
    half, z = rig.length / 2, rig.height
    fill = design.catalogue.materials[rig.runway.material].fill
    items: list[Item] = [*person(-half - 0.45)]
    for p in rig.posts:
        items.append(Shape(box_outline((p - half, 0.0), (p - half, z), 0.045), "wood"))
    items.append(Shape(box_outline((-half, z - rig.runway.depth / 2), (half, z - rig.runway.depth / 2), rig.runway.depth), fill))
    for ghost in track:
        if abs(ghost[0] - pose[0]) > 0.02:
            items += _hung(kit, move, rig, ghost, GHOST)
    items += _hung(kit, move, rig, pose, "body")
    spots = camera(rig, track)
    items.append(Stroke(spots[:, [0, 2]], "path", dash=True))
    tip = camera(rig, pose[None])[0]
    items += [
        Arrow((float(tip[0]), float(tip[2])), (0.0, -1.0), rig.payload * GRAVITY),
        Size((-half, z + 0.18), (half, z + 0.18), 0.0, rig.length, "m", "runway.length"), Size((half + 0.2, 0.0), (half + 0.2, z), 0.0, z, "m", "runway.height"),
        Size((float(tip[0]) + 0.16, float(tip[2])), (float(tip[0]) + 0.16, z - rig.bridge.depth / 2), 0.0, rig.drop, "m", "camera.drop"),
        handle("runway.length", (half, z), (1.0, 0.0), 2.0), handle("camera.drop", (float(tip[0]), float(tip[2])), (0.0, -1.0)), handle("runway.height", (-half, z), (0.0, 1.0)),
    ]  # fmt: skip
    if "travel.drop" in figures:
        items.append(Note((0.0, z + 0.32), Words("sags up to {}", ((figures["travel.drop"].value, "m"),)), "water", SWEEP))
    return Sketch(tuple(items), (-half - 0.9, -0.1, half + 0.6, z + 0.45), "from the side")


def _hung(kit: Carried, move: Move, rig: Gantry, pose: np.ndarray, layer: str) -> list[Item]:
    """Bridge end, boom, drop post and camera from the side."""
    x, z = float(pose[0]) - rig.length / 2, rig.height
    tip = camera(rig, pose[None])[0]
    base = rig.wheelbase / 2
    items: list[Item] = [
        *(Shape(CIRCLE * rig.wheel.d / 2 + (x + s * base, z + rig.wheel.d / 2), "plastic", layer) for s in (-1, 1)),
        Shape(box_outline((x - base, z + rig.wheel.d), (x + base, z + rig.wheel.d), 0.03), "wood", layer),
        Shape(box_outline((x - rig.bridge.width / 2, z), (x + rig.bridge.width / 2, z), rig.bridge.depth), rig.bridge.material.fill, layer),
        Shape(box_outline((x - rig.tail * math.cos(float(pose[2])), z - rig.bridge.depth / 2), (float(tip[0]), z - rig.bridge.depth / 2), rig.boom.depth), "aluminium", layer),
        Stroke(np.array([(float(tip[0]), z - rig.bridge.depth / 2), (float(tip[0]), float(tip[2]))]), "steel", 0.025, layer=layer),
    ]  # fmt: skip
    down = move.down
    ahead, up = (
        (np.array([0.0, -1.0]), np.array([1.0, 0.0]))
        if down
        else (np.array([math.copysign(max(0.35, abs(math.cos(float(pose[2])))), math.cos(float(pose[2]))), 0.0]), np.array([0.0, 1.0]))
    )
    return [*items, *camera_side(np.array([tip[0], tip[2]]), ahead, up, kit.lens_at_m, layer)]


def _reach(rig: Gantry) -> np.ndarray:
    """Outline of what the boom reaches: the travel grown by the boom drawn out."""
    corners = [
        (rig.travel[0] / 2, rig.travel[1] / 2, 0.0),
        (-rig.travel[0] / 2, rig.travel[1] / 2, 90.0),
        (-rig.travel[0] / 2, -rig.travel[1] / 2, 180.0),
        (rig.travel[0] / 2, -rig.travel[1] / 2, 270.0),
    ]
    found = []
    for x, y, start in corners:
        a = np.radians(np.linspace(start, start + 90, 13))
        found.append(np.column_stack([x + rig.longest * np.cos(a), y + rig.longest * np.sin(a)]))
    line = np.vstack(found)
    return np.vstack([line, line[:1]])


def _above(design: Design, kit: Carried, rig: Gantry, track: np.ndarray, pose: np.ndarray) -> Sketch:
    x, y, angle = float(pose[0]) - rig.length / 2, float(pose[1]) - rig.span / 2, float(pose[2])
    half, side = rig.length / 2, rig.span / 2
    fill = design.catalogue.materials[rig.runway.material].fill
    items: list[Item] = [Stroke(_reach(rig), "sweep", dash=True, layer=SWEEP)]
    for s in (-side, side):
        items.append(Shape(box_outline((-half, s), (half, s), rig.runway.width), fill))
        items += [Shape(box_outline((p - half - 0.03, s), (p - half + 0.03, s), 0.06), "wood") for p in rig.posts]
    items.append(Shape(box_outline((x, -side), (x, side), rig.bridge.width), rig.bridge.material.fill))
    tip = camera(rig, pose[None])[0]
    tail = (x - rig.tail * math.cos(angle), y - rig.tail * math.sin(angle))
    items += [
        Shape(box_outline((x - 0.07, y), (x + 0.07, y), 0.14), "wood"), Shape(box_outline(tail, (float(tip[0]), float(tip[1])), rig.boom.width), "aluminium"), Ring((x, y), 0.015),
        *camera_above(tip[:2], angle, kit.lens_at_m[0]), Stroke(camera(rig, track)[:, :2], "path", dash=True),
        *person_above((-half - 0.3, 0.0)),
        Size((half + 0.15, -side), (half + 0.15, side), 0.0, rig.span, "m", "span"), Size((-half, -side - 0.2), (half, -side - 0.2), 0.0, rig.length, "m", "runway.length"),
        Size((x, y), (float(tip[0]), float(tip[1])), 0.12, float(pose[3]), "m", "boom.out"), handle("span", (0.0, side), (0.0, 1.0), 2.0),
        handle("boom.out", (float(tip[0]), float(tip[1])), (math.cos(angle), math.sin(angle))),
    ]  # fmt: skip
    if rig.counter:
        items.append(Shape(CIRCLE * 0.06 + tail, "weight"))
    wide = half + rig.longest + 0.2
    tall = side + rig.longest + 0.2
    return Sketch(tuple(items), (-wide, -tall, wide, tall), "from above", ground=False)
