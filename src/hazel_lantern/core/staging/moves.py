"""Where the camera is wanted, where the rig stands to bring it there, and how the head aims."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.kinds.base import Context, Kind
from hazel_lantern.core.motion.profiles import eased
from hazel_lantern.core.optics import pose
from hazel_lantern.core.project import FilmSet, Rig, Shot, Thing
from hazel_lantern.core.shot import ARC, CIRCLE, KEPT, LOOK_DOWN, ONCE
from hazel_lantern.core.staging.things import aim_point, turn

SAMPLES = np.linspace(0.0, 1.0, 25)
MIDDLE = len(SAMPLES) // 2


class Standing(Struct, frozen=True):
    """Where the rig stands on the set [m] and which way its front points, from the set's right, positive to the left [rad]."""

    x: float
    y: float
    heading: float

    def on_set(self, points: np.ndarray) -> np.ndarray:
        """Points of the rig frame (..., 3) on the set [m]."""
        placed = np.array(points, float)
        placed[..., :2] = placed[..., :2] @ turn(self.heading) + (self.x, self.y)
        return placed

    def off_set(self, points: np.ndarray) -> np.ndarray:
        """Points of the set (..., 3) in the rig frame [m]."""
        placed = np.array(points, float)
        placed[..., :2] = (placed[..., :2] - (self.x, self.y)) @ turn(-self.heading)
        return placed


class Sight(Struct, frozen=True):
    """The camera along a move: places (n, 3) [m], pan and tilt (n,) [rad], camera matrices (n, 3, 3)."""

    places: np.ndarray
    pan: np.ndarray
    tilt: np.ndarray
    matrices: np.ndarray


def subject(stage: FilmSet, shot: Shot) -> Thing | None:
    """What the shot looks at; None when it looks at nothing, or at what is no longer there."""
    return next((thing for thing in stage.things if thing.id == shot.target), None) if shot.target else None


def wanted(shot: Shot, stage: FilmSet, u: np.ndarray) -> np.ndarray:
    """Places of the lens (n, 3) that the shot asks for at shares u of its time [m]."""
    way = eased(u, shot.ramp)[:, None]
    start, end = np.array([*shot.start_at_m, shot.start_height_m]), np.array([*shot.end_at_m, shot.end_height_m])
    looked_at = subject(stage, shot)
    if shot.move in (ARC, CIRCLE) and looked_at is not None:
        centre = np.asarray(looked_at.at_m)[:2]
        angle = (math.copysign(2 * math.pi, shot.arc_rad or 1.0) if shot.move == CIRCLE else shot.arc_rad) * way[:, 0]
        arm = start[:2] - centre
        flat = np.column_stack([arm[0] * np.cos(angle) - arm[1] * np.sin(angle), arm[0] * np.sin(angle) + arm[1] * np.cos(angle)]) + centre
        return np.column_stack([flat, start[2] + (end[2] - start[2]) * way[:, 0]])
    stops = np.array([start, *shot.via_m, end])
    run = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(stops, axis=0), axis=1))])
    if run[-1] == 0:
        return np.repeat(start[None], len(u), axis=0)
    return np.column_stack([np.interp(way[:, 0] * run[-1], run, stops[:, k]) for k in range(3)])


def standing(rig: Rig, asked: np.ndarray, made: np.ndarray, facing: float, looked_at: Thing | None) -> Standing:
    """Where the rig stands: as the builder put it, else where its path (n, 3) lies best on the one asked for.

    A rig that travels is laid along the move; one that only rises turns its camera, which faces `facing` in the rig frame, to the subject.
    """
    if rig.stands_m is not None:
        return Standing(*rig.stands_m, rig.heading_rad)
    run, way = made[-1, :2] - made[0, :2], asked[-1, :2] - asked[0, :2]
    if np.hypot(*run) > 0.2 and np.hypot(*way) > 0.2 and np.hypot(*way) > 0.3 * abs(asked[-1, 2] - asked[0, 2]):
        heading = math.atan2(way[1], way[0]) - math.atan2(run[1], run[0])
    elif looked_at is not None:
        away = aim_point(looked_at)[:2] - asked[0, :2]
        heading = math.atan2(away[1], away[0]) - facing
    else:
        heading = math.pi / 2 - facing
    heading = math.remainder(heading, 2 * math.pi)
    x, y = (asked[:, :2] - made[:, :2] @ turn(heading)).mean(axis=0)
    return Standing(float(x), float(y), heading)


def sight(shot: Shot, u: np.ndarray, places: np.ndarray, level: np.ndarray, looked_at: Thing | None) -> Sight:
    """How the camera aims along its way, at rising shares u of the move: kept on the subject, set once half-way, level, or straight down.

    `level` (n,) is where it points when the head is not worked, as a heading on the set [rad]. Raises InputError for a camera inside its subject.
    """
    if shot.move == LOOK_DOWN:
        pan, tilt = level - math.pi / 2, np.full(len(places), -math.pi / 2)
    elif shot.aim == KEPT and looked_at is not None:
        pan, tilt = pose.look_at(places, aim_point(looked_at))
    elif shot.aim == ONCE and looked_at is not None:
        k = min(int(np.searchsorted(u, 0.5)), len(u) - 1)
        once, up = pose.look_at(places[k : k + 1], aim_point(looked_at))
        pan, tilt = once[0] + level - level[k], np.full(len(places), up[0])
    else:
        pan, tilt = level - math.pi / 2, np.zeros(len(places))
    return Sight(places, pan, tilt, pose.axes(pan, tilt))


class Staged(Struct, frozen=True):
    """A rig on its set: its poses (n, dof), the path asked for (n, 3), where it stands, its camera along the path it really makes, the subject."""

    poses: np.ndarray
    asked: np.ndarray
    where: Standing
    camera: Sight
    subject: Thing | None

    def without(self, k: int) -> Staged:
        """All moments but the k-th."""
        rest = np.arange(len(self.poses)) != k
        camera = self.camera
        seen = Sight(camera.places[rest], camera.pan[rest], camera.tilt[rest], camera.matrices[rest])
        return Staged(self.poses[rest], self.asked[rest], self.where, seen, self.subject)


def staged(context: Context, kind: Kind, model: object, u: np.ndarray = SAMPLES) -> Staged:
    """The rig put on the set for its shot, at shares u of the move. Raises InputError for a camera inside its subject."""
    shot, stage = context.shot, context.stage
    looked_at = subject(stage, shot)
    # Where it stands is settled by the usual moments, whichever are asked for; all are worked out at once.
    usual = len(SAMPLES)
    every = SAMPLES if u is SAMPLES else np.concatenate([SAMPLES, u])
    poses = kind.path(context, model, every)
    made, facing = kind.lens(context, model, poses)
    asked = wanted(shot, stage, every)
    where = standing(context.rig, asked[:usual], made[:usual], float(facing[0]), looked_at)
    if u is not SAMPLES:
        poses, made, facing, asked = poses[usual:], made[usual:], facing[usual:], asked[usual:]
    return Staged(poses, asked, where, sight(shot, u, where.on_set(made), facing + where.heading, looked_at), looked_at)


def at_share(context: Context, kind: Kind, model: object, share: float) -> tuple[Staged, int]:
    """The rig staged at the usual moments and one more, and the number of that one. Raises InputError for a camera inside its subject."""
    return staged(context, kind, model, np.sort(np.append(SAMPLES, share))), int(np.searchsorted(SAMPLES, share))
