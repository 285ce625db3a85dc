"""The jib drawn: from the side and from above."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.jib.design import BAG, HANGING
from hazel_lantern.core.kinds.jib.model import (
    ARM,
    BAR,
    BY_BARS,
    BY_MOTOR,
    FIXED,
    HUNG,
    LEVEL,
    REAR,
    SWUNG,
    TURNING,
    WEIGHTS,
    Jib,
    frames,
)
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.kinds.shared.home_built import BUILT
from hazel_lantern.core.kinds.shared.props import CIRCLE, PERSON, camera_above, camera_side, person, person_above
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns import sketch as sk
from hazel_lantern.core.nouns.sketch import (
    GHOST,
    LOADS,
    SWEEP,
    Arrow,
    Item,
    Note,
    Ring,
    Shape,
    Size,
    Sketch,
    Stroke,
    handle,
)
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics.lens import angle_of_view
from hazel_lantern.core.workshop.silhouette import ABOVE, SIDE, outlines

NOT_DRAWN = ("camera kit", "stand", "ballast")
STANDING = (*SWUNG, TURNING, FIXED)


def draw(
    design: Design, kit: Carried, move: Move, optics: Optics, jib: Jib, path: Path, pose: np.ndarray, view: str
) -> Sketch:
    """The rig at a pose (arm angle, slew angle) seen from the side or from above."""
    return (
        _above(design, kit, optics, jib, pose)
        if view == "above"
        else _side(design, kit, move, optics, jib, path.at(np.linspace(0, 1, 21))[:, 0], pose)
    )


def _pair(point: np.ndarray) -> tuple[float, float]:
    return float(point[0]), float(point[1])


def _side(
    design: Design, kit: Carried, move: Move, optics: Optics, jib: Jib, shot: np.ndarray, pose: np.ndarray
) -> Sketch:
    angle = float(pose[0])
    items: list[Item] = [*person(-jib.rear - 0.55)]
    for ghost in (shot[0], shot[-1]):
        if abs(ghost - angle) > 0.02:
            items += _arm(design, kit, jib, float(ghost), ghost=True)
    sweep = np.linspace(jib.limits.low, jib.limits.high, 37)
    items.append(Stroke(_lens_path(jib, sweep), "sweep", dash=True, layer=SWEEP))
    items.append(Stroke(_lens_path(jib, np.linspace(shot[0], shot[-1], 25)), "path", dash=True))
    items += _wedge(optics, jib, angle)
    items += _stand_side(design, jib)
    items += _arm(design, kit, jib, angle, ghost=False)
    items += _sizes(design, move, jib, angle, shot)
    items += _loads(jib, angle)
    top = max(PERSON, float(jib.lens_height(jib.limits.high)), float(jib.lens_height(shot).max())) + 0.25
    left = min(-jib.rear - 0.9, float(jib.feet[:, 0].min()) - 0.15)
    right = jib.front + jib.lens[0] + 1.15
    return Sketch(tuple(items), (left, -0.12, right, top), "from the side")


def _lens_path(jib: Jib, angles: np.ndarray) -> np.ndarray:
    return np.column_stack([jib.heads(angles)[0][:, 0] + jib.lens[0], jib.lens_height(angles)])


def _arm(design: Design, kit: Carried, jib: Jib, angle: float, *, ghost: bool) -> list[Item]:
    """All that swings, with the post it swings on where it is no ghost."""
    layer = GHOST if ghost else sk.BODY
    bodies = frames(jib, np.array([[angle, 0.0]]))
    lower, upper = jib.pivots()
    pin, head = jib.heads(angle)
    tilt = float(jib.tilts(angle))
    up = np.array([-math.sin(tilt), math.cos(tilt)])
    ahead = np.array([up[1], -up[0]])
    items: list[Item] = [*outlines(jib.laid, bodies, SIDE, layer, without=NOT_DRAWN, on=SWUNG if ghost else STANDING)]
    hook = _flat(bodies[HUNG].at[0])
    if jib.hung and design.text("weights.carried") in (HANGING, BAG):
        items.append(Stroke(np.array([hook, hook - (0.0, jib.hook)]), "steel", 0.008, layer=layer))
    if jib.level == BY_MOTOR:
        items.append(Shape(CIRCLE * 0.05 + pin, "camera", layer))
    items += camera_side(pin + ahead * jib.mount[0] + up * jib.mount[1], ahead, up, kit, layer)
    if not ghost:
        items += [
            Ring(_pair(p), jib.bolt.d)
            for p in ((lower, upper, pin, head, hook) if jib.level == BY_BARS else (lower, pin, hook))
        ]
    return items


def _flat(point: np.ndarray) -> np.ndarray:
    """A place of the rig frame in the drawing from the side."""
    return point[[0, 2]]


def _stand_side(design: Design, jib: Jib) -> list[Item]:
    foot = np.array([0.0, jib.column])
    column = np.array([foot, (foot[0], max(0.35 * foot[1], 0.12))])
    hub = np.array([foot[0], foot[1] - 0.04])
    items: list[Item] = []
    if jib.stand.shape == BUILT:
        return items  # drawn of its boards
    if jib.stand.shape == "stand":
        items.append(Stroke(column, "steel", 0.04))
        hub = column[1] + (0, 0.1)
    for x in jib.feet[:, 0]:
        items.append(Stroke(np.array([hub, (x, 0.015)]), "steel", 0.032))
    if design.number("ballast.mass") > 0:
        items += [
            Stroke(np.array([hub, (hub[0], 0.34)]), "rope"),
            Shape(CIRCLE * (0.1, 0.13) + (hub[0], 0.22), "weight"),
        ]
    return items


def _wedge(optics: Optics, jib: Jib, angle: float) -> list[Item]:
    half = angle_of_view(optics.sensor_height_m, optics.focal_m) / 2
    eye = _lens_path(jib, np.array([angle]))[0]
    far = 6.0
    return [
        Shape(
            np.array(
                [
                    eye,
                    eye + far * np.array([math.cos(half), math.sin(half)]),
                    eye + far * np.array([math.cos(half), -math.sin(half)]),
                ]
            ),
            "view",
        )
    ]


def _sizes(design: Design, move: Move, jib: Jib, angle: float, shot: np.ndarray) -> list[Item]:
    lower, upper = jib.pivots()
    pin, _ = jib.heads(angle)
    along = np.array([math.cos(angle), math.sin(angle)])
    square = np.array([-along[1], along[0]])
    line = lower + square * jib.offset
    weights = line - along * design.number("weights.place") + square * design.number("weights.above")
    rear = line - along * jib.rear
    start, end = float(jib.lens_height(shot[0])), float(jib.lens_height(shot[-1]))
    right = jib.front + jib.lens[0] + 0.5
    foot = float(np.abs(jib.feet[:, 0]).max()) * (1 if jib.feet[:, 0].max() >= -jib.feet[:, 0].min() else -1)
    return [
        Size(_pair(line), _pair(pin), -0.16, jib.front, "m", "arm.front"),
        Size(_pair(rear), _pair(line), -0.30, jib.rear, "m", "arm.rear"),
        Size(_pair(weights), _pair(line), 0.20, design.number("weights.place"), "m", "weights.place"),
        Size((-jib.rear - 0.22, 0.0), (-jib.rear - 0.22, jib.height), 0.0, jib.height, "m", "pivot.height"),
        Size((right, min(start, end)), (right, max(start, end)), 0.0, abs(end - start), "m", "", "rise"),
        Size((right + 0.25, 0.0), (right + 0.25, start), 0.0, move.start_height_m, "m", "shot.start", "start"),
        Size((right + 0.5, 0.0), (right + 0.5, end), 0.0, move.end_height_m, "m", "shot.end", "end"),
        handle("shot.start", _pair(_lens_path(jib, shot[:1])[0]), (0.0, 1.0)),
        handle("shot.end", _pair(_lens_path(jib, shot[-1:])[0]), (0.0, 1.0)),
        *((Size(_pair(lower), _pair(upper), 0.17, jib.spacing, "m", "pivot.spacing"),) if jib.level == BY_BARS else ()),
        Size((0.0, -0.05), (foot, -0.05), 0.0, abs(foot), "m", "")
        if abs(abs(foot) - design.number("stand.radius")) > 1e-6
        else Size((0.0, -0.05), (foot, -0.05), 0.0, abs(foot), "m", "stand.radius"),
        handle("arm.front", _pair(pin), _pair(along)),
        handle("arm.rear", _pair(rear), _pair(-along)),
        handle("weights.place", _pair(weights), _pair(-along)),
        handle("pivot.height", _pair(lower), (0.0, 1.0)),
        Note((float(lower[0]) + 0.3, float(lower[1]) - 0.14), Words("arm at {}", ((angle, "rad"),)), "size", sk.SIZES),
        Note((float(_lens_path(jib, shot[:1])[0, 0]) + 0.42, start), Words("start {}", ((start, "m"),)), "path", GHOST),
        Note((float(_lens_path(jib, shot[-1:])[0, 0]) + 0.42, end), Words("end {}", ((end, "m"),)), "path", GHOST),
    ]


def _loads(jib: Jib, angle: float) -> list[Item]:
    places = jib.places(angle)[0]
    items: list[Item] = []
    for wanted in (
        lambda b: b.frame == LEVEL,
        lambda b: b.name in WEIGHTS,
        lambda b: b.frame in (ARM, BAR, REAR) and b.name not in WEIGHTS,
    ):
        picked = [i for i, b in enumerate(jib.bodies) if wanted(b)]
        mass = sum(jib.bodies[i].mass for i in picked)
        if mass > 0:
            centre = sum(jib.bodies[i].mass * places[i] for i in picked) / mass
            items.append(Arrow(_pair(centre), (0.0, -1.0), mass * GRAVITY, LOADS))
    return items


def _above(design: Design, kit: Carried, optics: Optics, jib: Jib, pose: np.ndarray) -> Sketch:
    angle, slew = float(pose[0]), float(pose[1])
    turn = np.array([[math.cos(slew), math.sin(slew)], [-math.sin(slew), math.cos(slew)]])
    reach = jib.front + jib.lens[0]
    tail = jib.rear + jib.weights_radius
    half = angle_of_view(optics.sensor_width_m, optics.focal_m) / 2
    eye = np.array([float(jib.heads(angle)[0][0]) + jib.lens[0], 0.0])
    wedge = np.array(
        [
            eye,
            eye + 7 * np.array([math.cos(half), math.sin(half)]),
            eye + 7 * np.array([math.cos(half), -math.sin(half)]),
        ]
    )
    items: list[Item] = [
        Shape(wedge @ turn, "view"),
        Stroke(CIRCLE * reach, "sweep", dash=True, layer=SWEEP),
        Stroke(CIRCLE * tail, "sweep", dash=True, layer=SWEEP),
        Shape(np.vstack([jib.feet, jib.feet[:1]]), "footing"),
    ]
    if jib.stand.shape != BUILT:
        items += [Stroke(np.array([(0.0, 0.0), foot]), "steel", 0.03) for foot in jib.feet]
    items += [Ring(_pair(foot), 0.02) for foot in jib.feet]
    bodies = frames(jib, pose[None])
    items += outlines(jib.laid, bodies, ABOVE, without=NOT_DRAWN, on=STANDING)
    mount = float(jib.heads(angle)[0][0]) + jib.mount[0]
    items += camera_above(np.array([mount, 0.0]) @ turn, slew, kit.lens_at_m[0])
    stands = np.array([-tail - 0.38, 0.35]) @ turn
    items += [*person_above(_pair(stands)), Ring((0.0, 0.0), 0.03)]
    corner = jib.feet[int(np.argmax(jib.feet[:, 1]))]
    items += [
        Size((0.0, 0.0), (0.0, -reach), 0.0, reach, "m", "", "clear all round"),
        Size((0.0, 0.0), _pair(corner), 0.0, design.number("stand.radius"), "m", "stand.radius"),
        handle("stand.radius", _pair(corner), _pair(corner / np.linalg.norm(corner))),
    ]
    box = reach + 0.3
    return Sketch(tuple(items), (-box, -box, box + 0.3, box), "from above", ground=False)
