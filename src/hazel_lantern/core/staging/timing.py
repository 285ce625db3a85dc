"""The camera frame by frame: the grid every export of a move stands on."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.document.project import Shot, axis_of
from hazel_lantern.core.document.shot import FOCUS, KEPT
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.optics import pose
from hazel_lantern.core.staging.framing import in_focus
from hazel_lantern.core.staging.head import Sight, focused
from hazel_lantern.core.staging.moves import Scene, Staged

MOST_FRAMES = 200_000


class Frames(Struct, frozen=True):
    """Camera at each frame: times (n,) [s], sight, focus (n,) [m] (infinite with nothing to look at), way along the
    path (n,) [m], quaternions x, y, z, w (n, 4).
    """

    times: np.ndarray
    sight: Sight
    focus: np.ndarray
    way: np.ndarray
    quaternions: np.ndarray


def grid(shot: Shot) -> np.ndarray:
    """Times (n,) of every captured frame of the move with its holds [s]. Raises InputError for more than 200 000."""
    total = shot.hold_start_s + shot.duration_s + shot.hold_end_s
    last = math.ceil(total * shot.capture_fps - 1e-9)
    if last > MOST_FRAMES:
        raise InputError("shot.time", shot.duration_s, f"makes {last} frames; at most {MOST_FRAMES} are written")
    return np.asarray(np.arange(last + 1) / shot.capture_fps)


def frames(shot: Shot, scene: Scene) -> Frames:
    """Every captured frame of the move with its holds.

    Raises InputError for a move of more than 200 000 frames, for turns of more than half a circle between two frames,
    and for a camera inside its subject.
    """
    times = grid(shot)
    seen = scene.at(np.clip((times - shot.hold_start_s) / shot.duration_s, 0.0, 1.0), times)
    sight = seen.camera
    if np.any(np.abs(np.diff(sight.pan)) > math.pi):
        raise InputError(
            "shot.capture", shot.capture_fps, "the camera turns more than half a circle between two frames"
        )
    way = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(sight.places, axis=0), axis=1))])
    return Frames(
        times, sight, focus_of(shot, seen), way, smooth(np.array([pose.quaternion(m) for m in sight.matrices]))
    )


def focus_of(shot: Shot, seen: Staged) -> np.ndarray:
    """How far the lens is focused, moment by moment (n,) [m]; infinite with nothing to look at."""
    focus, sight = np.full(len(seen.times), math.inf), seen.camera
    if seen.target is not None:
        depth = pose.camera_points(sight.matrices, sight.places, seen.target[:, None])[:, 0, 2]
        focus = np.where(depth > 0, depth, math.inf)
    if axis_of(shot, FOCUS).how == KEPT:
        return focus
    found = in_focus(shot, focus) if np.all(np.isfinite(focus)) else None
    return focused(shot.axes, seen.times, focus, found[0] if found else math.inf)


def smooth(quaternions: np.ndarray) -> np.ndarray:
    """The same turns (n, 4) with signs that do not jump from row to row."""
    signs = np.cumprod(
        np.concatenate([[1.0], np.where(np.sum(quaternions[1:] * quaternions[:-1], axis=1) < 0, -1.0, 1.0)])
    )
    # Each sign is against its neighbour as it came, so the running product is the sign against the first row.
    return np.asarray(quaternions * signs[:, None])
