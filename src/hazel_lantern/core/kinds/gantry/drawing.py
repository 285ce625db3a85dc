"""The gantry from the side and from above, with what it can reach."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Carried, Design, Figures
from hazel_lantern.core.kinds.gantry.model import FRAME, MOVES, Gantry, camera, frames
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.kinds.shared.props import camera_above, camera_side, person, person_above
from hazel_lantern.core.kinds.shared.weighed import KIT
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.sketch import BODY, GHOST, SWEEP, Arrow, Item, Note, Ring, Size, Sketch, Stroke, handle
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.silhouette import ABOVE, SIDE, outlines


def draw(
    design: Design, kit: Carried, move: Move, gantry: Gantry, path: Path, figures: Figures, pose: np.ndarray, view: str
) -> Sketch:
    """At a pose of bridge, trolley, boom angle and boom length."""
    track = path.ends
    return (
        _above(design, kit, gantry, track, pose)
        if view == "above"
        else _side(design, kit, move, gantry, track, figures, pose)
    )


def _side(
    design: Design, kit: Carried, move: Move, rig: Gantry, track: np.ndarray, figures: Figures, pose: np.ndarray
) -> Sketch:
    """Seen across the runways."""
    half, z = rig.length / 2, rig.height
    items: list[Item] = [*person(-half - 0.45)]
    for ghost in track:
        if abs(ghost[0] - pose[0]) > 0.02:
            items += _hung(kit, move, rig, ghost, GHOST, MOVES)
    items += _hung(kit, move, rig, pose, BODY, (FRAME, *MOVES))
    if rig.building:
        top = z - rig.runway.depth / 2
        items.append(Stroke(np.array([(-half, top), (half, top)]), "masonry", rig.runway.depth))
    spots = camera(rig, track)
    items.append(Stroke(spots[:, [0, 2]], "path", dash=True))
    tip = camera(rig, pose[None])[0]
    items += [
        Arrow((float(tip[0]), float(tip[2])), (0.0, -1.0), rig.payload * GRAVITY),
        Size((-half, z + 0.18), (half, z + 0.18), 0.0, rig.length, "m", "runway.length"),
        Size((half + 0.2, 0.0), (half + 0.2, z), 0.0, z, "m", "runway.height"),
        Size(
            (float(tip[0]) + 0.16, float(tip[2])),
            (float(tip[0]) + 0.16, z - rig.bridge.depth / 2),
            0.0,
            rig.drop,
            "m",
            "camera.drop",
        ),
        handle("runway.length", (half, z), (1.0, 0.0), 2.0),
        handle("camera.drop", (float(tip[0]), float(tip[2])), (0.0, -1.0)),
        handle("runway.height", (-half, z), (0.0, 1.0)),
    ]
    if "travel.drop" in figures:
        items.append(
            Note((0.0, z + 0.32), Words("sags up to {}", ((figures["travel.drop"].value, "m"),)), "water", SWEEP)
        )
    return Sketch(tuple(items), (-half - 0.9, -0.1, half + 0.6, z + 0.45), "from the side")


def _hung(kit: Carried, move: Move, rig: Gantry, pose: np.ndarray, layer: str, on: tuple[str, ...]) -> list[Item]:
    """The pieces of these bodies and the camera from the side."""
    tip = camera(rig, pose[None])[0]
    items: list[Item] = [*outlines(rig.laid, frames(rig, pose[None]), SIDE, layer, without=(KIT,), on=on)]
    down = move.down
    ahead, up = (
        (np.array([0.0, -1.0]), np.array([1.0, 0.0]))
        if down
        else (
            np.array([math.copysign(max(0.35, abs(math.cos(float(pose[2])))), math.cos(float(pose[2]))), 0.0]),
            np.array([0.0, 1.0]),
        )
    )
    return [*items, *camera_side(np.array([tip[0], tip[2]]), ahead, up, kit, layer)]


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
    beams = [np.array([(-half, s), (half, s)]) for s in (-side, side)] if rig.building else []
    items: list[Item] = [
        Stroke(_reach(rig), "sweep", dash=True, layer=SWEEP),
        *(Stroke(beam, "masonry", rig.runway.width) for beam in beams),
        *outlines(rig.laid, frames(rig, pose[None]), ABOVE, without=(KIT,)),
    ]
    tip = camera(rig, pose[None])[0]
    items += [
        Ring((x, y), 0.015),
        *camera_above(tip[:2], angle, kit.lens_at_m[0]),
        Stroke(camera(rig, track)[:, :2], "path", dash=True),
        *person_above((-half - 0.3, 0.0)),
        Size((half + 0.15, -side), (half + 0.15, side), 0.0, rig.span, "m", "span"),
        Size((-half, -side - 0.2), (half, -side - 0.2), 0.0, rig.length, "m", "runway.length"),
        Size((x, y), (float(tip[0]), float(tip[1])), 0.12, float(pose[3]), "m", "boom.out"),
        handle("span", (0.0, side), (0.0, 1.0), 2.0),
        handle("boom.out", (float(tip[0]), float(tip[1])), (math.cos(angle), math.sin(angle))),
    ]
    wide = half + rig.longest + 0.2
    tall = side + rig.longest + 0.2
    return Sketch(tuple(items), (-wide, -tall, wide, tall), "from above", ground=False)
