"""Drawings of an orbit rig: from the side, and from above with the circle nobody enters."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Carried, Figures
from hazel_lantern.core.kinds.orbit.model import FLOOR, ROTOR, THICK, DeskFrame, Orbit, frames, mount
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.kinds.shared.props import CIRCLE, PERSON, camera_above, camera_side, person, person_above
from hazel_lantern.core.kinds.shared.weighed import KIT
from hazel_lantern.core.motion.wanted import Optics
from hazel_lantern.core.nouns import sketch as sk
from hazel_lantern.core.nouns.sketch import Arrow, Item, Note, Ring, Shape, Size, Sketch, Stroke, handle
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics.lens import angle_of_view
from hazel_lantern.core.workshop.silhouette import ABOVE, SIDE, outlines

SEEN = 3.0  # metres of view that are drawn
LOW = -0.4
ARC = 49  # points of an arc


def draw(
    kit: Carried, optics: Optics, orbit: Orbit, path: Path, figures: Figures, pose: np.ndarray, view: str
) -> Sketch:
    """At a pose, from one of its views."""
    return _above(kit, optics, orbit, path, figures, pose) if view == "above" else _side(kit, optics, orbit)


def _side(kit: Carried, optics: Optics, rig: Orbit) -> Sketch:
    """Square to the arms, the camera to the right: a turn does not change it. A frame is drawn as if its post stood
    opposite the camera.
    """
    at = np.zeros((1, 1))
    items: list[Item] = [*person(-rig.tip - 0.7)]
    items += outlines(rig.laid, frames(rig, at), SIDE, without=(KIT,), on=(FLOOR, ROTOR))
    foot = np.array([rig.radius, rig.mount_high])
    ahead = np.array([-1.0 if rig.inward else 1.0, 0.0])
    items += camera_side(foot, ahead, np.array([0.0, 1.0]), kit)
    half = angle_of_view(optics.sensor_height_m, optics.focal_m) / 2
    eye = np.array([rig.lens_at, rig.lens_high])
    cone = [eye, *(eye + SEEN * np.array([ahead[0] * math.cos(half), side * math.sin(half)]) for side in (1, -1))]
    items.insert(0, Shape(np.array(cone), "view"))
    loaded = (rig.turns_as[0], rig.turns_as[-1]) if rig.weights > 0 else (rig.turns_as[0],)
    for m, r, a, z in loaded:
        items.append(Arrow((r * math.cos(a), z), (0.0, -1.0), m * GRAVITY))
    items += _sizes(rig)
    items.append(
        Note((rig.lens_at, rig.lens_high + 0.2), Words("lens at {}", ((rig.lens_high, "m"),)), "size", sk.SIZES)
    )
    if rig.overhead:
        items += _stood_by(rig)
    wide = max(rig.tip + 1.1, abs(float(rig.frame.post[0])) + 0.5 if rig.frame else 0.0)
    return Sketch(
        tuple(items), (-wide, LOW, wide, max(PERSON, rig.lens_high + 0.4, rig.structure + 0.1) + 0.15), "from the side"
    )


def _stood_by(rig: Orbit) -> list[Item]:
    """The table or desk below hung arms, which stands by itself, and the structure they hang from."""
    deep = rig.table_radius
    left, right = -deep, deep
    if rig.frame is not None:
        back, front = rig.frame.reach, rig.frame.reach - rig.frame.deep
        left, right = sorted(
            (back * float(np.sign(rig.frame.way[0]) or 1.0), front * float(np.sign(rig.frame.way[0]) or 1.0))
        )
    board = np.array([(left, rig.table - THICK), (right, rig.table - THICK), (right, rig.table), (left, rig.table)])
    items: list[Item] = [Shape(board, "muted")]
    items += [Stroke(np.array([(x, 0.0), (x, rig.table - THICK)]), "muted", 0.03) for x in (left + 0.05, right - 0.05)]
    reach, tall = rig.subject
    items.append(
        Stroke(np.array([(-reach, rig.table), (-reach, tall), (reach, tall), (reach, rig.table)]), "muted", dash=True)
    )
    if rig.structure:
        items.append(Stroke(np.array([(-rig.tip - 0.3, rig.structure), (rig.tip + 0.3, rig.structure)]), "ink", 0.02))
    return items


def _sizes(rig: Orbit) -> list[Item]:
    """Size lines and handles."""
    below, out = rig.beam - 0.12 if not rig.overhead else rig.beam + 0.12, max(rig.radius, 0.3) + 0.35
    aside = -rig.table_radius - 0.25
    items: list[Item] = [
        Size((0.0, below), (rig.radius, below), 0.0, rig.radius, "m", "arm.front"),
        Size((rig.radius + 0.14, rig.beam), (rig.radius + 0.14, rig.mount_high), 0.0, rig.riser, "m", "riser.height"),
        Size(
            (out, 0.0),
            (out, rig.beam),
            0.0,
            rig.beam,
            "m",
            "beam.height" if rig.ring is None and rig.frame is None else "",
        ),
        Size((aside, 0.0), (aside, rig.table), 0.0, rig.table, "m", "table.height"),
        handle("arm.front", (rig.radius, rig.beam), (1.0, 0.0)),
        handle("riser.height", (rig.radius, rig.mount_high), (0.0, 1.0)),
    ]
    if rig.cameras == 1:
        items += [
            Size((-rig.rear, below), (0.0, below), 0.0, rig.rear, "m", "arm.rear"),
            handle("arm.rear", (-rig.rear, rig.beam), (-1.0, 0.0)),
        ]
    if rig.structure:
        items.append(
            Size((-rig.tip - 0.15, 0.0), (-rig.tip - 0.15, rig.structure), 0.0, rig.structure, "m", "hung.height")
        )
    if rig.frame is not None:
        x, high = float(rig.frame.post[0]), rig.frame.height
        items += [
            Size((0.0, high + 0.12), (x, high + 0.12), 0.0, rig.frame.reach, "m", "frame.reach"),
            Size(
                (x - math.copysign(0.15, -x), 0.0), (x - math.copysign(0.15, -x), high), 0.0, high, "m", "frame.height"
            ),
            handle("frame.height", (0.0, high), (0.0, 1.0)),
        ]
        if abs(x) > 0.05:
            items.append(
                handle("frame.reach", (x, high), (math.copysign(1.0, x), 0.0), 1 / abs(float(rig.frame.way[0])))
            )
    return items


def _above(kit: Carried, optics: Optics, rig: Orbit, path: Path, figures: Figures, pose: np.ndarray) -> Sketch:
    angle, ends = float(pose[0]), path.ends[:, 0]
    turn = np.array([math.cos(angle), math.sin(angle)])
    circle = figures["balance.circle"].value if "balance.circle" in figures else rig.tip + 0.5
    items: list[Item] = [Stroke(CIRCLE * circle, "footing", dash=True)]
    if rig.frame is not None:
        items.append(Stroke(_desk(rig.frame), "muted"))
    half = angle_of_view(optics.sensor_width_m, optics.focal_m, optics.squeeze) / 2
    looks, eye = angle + (math.pi if rig.inward else 0.0), turn * rig.lens_at
    items.append(
        Shape(
            np.array(
                [eye, *(eye + SEEN * np.array([math.cos(looks + a), math.sin(looks + a)]) for a in (half, -half))]
            ),
            "view",
        )
    )
    items += outlines(rig.laid, frames(rig, pose[None]), ABOVE, without=(KIT,), on=(FLOOR, ROTOR))
    swept = np.linspace(ends[0], ends[1] if abs(ends[1] - ends[0]) > 1e-6 else ends[0] + 2 * math.pi, ARC)
    items.append(Stroke(rig.lens_at * np.column_stack([np.cos(swept), np.sin(swept)]), "path", dash=True))
    for n in range(1, rig.cameras):
        other = angle + 2 * math.pi * n / rig.cameras
        beside = other + (math.pi if rig.inward else 0.0)
        items += camera_above(rig.radius * np.array([math.cos(other), math.sin(other)]), beside, kit.lens_at_m[0])
    for end in ends:
        if abs(end - angle) > 0.05:
            place = mount(rig, np.array([[end]])).at[0]
            items += camera_above(place[:2], float(end) + (math.pi if rig.inward else 0.0), kit.lens_at_m[0])
    items += camera_above(turn * rig.radius, looks, kit.lens_at_m[0])
    items += person_above((circle + 0.35, -0.2))
    tip, back = turn * rig.radius, -turn * rig.rear
    items += [
        Size((0.0, 0.0), (float(tip[0]), float(tip[1])), 0.12, rig.radius, "m", "arm.front"),
        *(
            [Size((float(back[0]), float(back[1])), (0.0, 0.0), 0.12, rig.rear, "m", "arm.rear")]
            if rig.cameras == 1
            else []
        ),
        Size((0.0, -circle - 0.12), (circle, -circle - 0.12), 0.0, circle, "m", "", "nobody enters"),
        Ring((0.0, 0.0), rig.shaft.width / 2),
        handle("arm.front", (float(tip[0]), float(tip[1])), (float(turn[0]), float(turn[1]))),
    ]
    edge = circle + 0.6
    return Sketch(tuple(items), (-edge, -edge, edge, edge), "from above", ground=False)


def _desk(frame: DeskFrame) -> np.ndarray:
    """The desk's outline (5, 2), its back edge at the post."""
    aside = np.array([-frame.way[1], frame.way[0]]) * frame.wide / 2
    back, front = frame.post, (frame.reach - frame.deep) * frame.way
    return np.array([back - aside, back + aside, front + aside, front - aside, back - aside])
