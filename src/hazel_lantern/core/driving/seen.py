"""What an axis does to the picture: how far its subject goes for a small way or angle of it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np

from hazel_lantern.core.kinds.base import DriveAxis
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.mechanics.track import Frames
from hazel_lantern.core.motion.wanted import Optics
from hazel_lantern.core.optics.lens import focal_pixels
from hazel_lantern.core.optics.pose import camera_points
from hazel_lantern.core.staging.moves import Staged, on_set

NUDGE = 1e-4  # metres or radians
NEAREST = 0.05  # metres ahead of the lens
USUAL = 3.0  # metres to what is looked at, where the shot says nothing


def pixels(
    axis: DriveAxis, path: Path, optics: Optics, staged: Staged, mount: Callable[[Any, np.ndarray], Frames]
) -> np.ndarray:
    """How far the subject goes in the picture for each metre, or radian, of an axis, its head held still on its mount.

    axis: that moves
    path: of the rig
    optics: lens and picture
    staged: the rig on its set at moments (n) of the move
    mount: where the head sits at poses

    Returns: pixels a metre, or a radian (n,). Source: pinhole; drive 5.3.
    """
    q, by = staged.poses.q, np.zeros(staged.poses.q.shape[1])
    by[axis.freedom] = NUDGE
    first, last = (on_set(staged.where, mount(path.model, q + way * by)) for way in (-1, 1))
    # The camera is fixed to its mount: where it went, and how the mount turned about it.
    now, sight = staged.mount, staged.camera
    turns = last.axes @ first.axes.transpose(0, 2, 1)
    arm = np.einsum("nji,nj->ni", now.axes, sight.places - now.at)
    moved = last.place(arm) - first.place(arm)
    target = staged.target
    ahead = -sight.matrices[..., 2]
    usual = sight.places + USUAL * ahead
    at = usual if target is None else target
    depth = camera_points(sight.matrices, sight.places, at[:, None])[:, 0, 2]
    at = np.where((depth > NEAREST)[:, None], at, usual)  # what is beside or behind the camera is not looked at
    before = camera_points(sight.matrices, sight.places, at[:, None])[:, 0]
    # Seen from the moved camera, the subject stands where it would had it been moved the other way.
    back = np.einsum("nji,nj->ni", turns, at - sight.places - moved) + sight.places
    after = camera_points(sight.matrices, sight.places, back[:, None])[:, 0]
    focal = focal_pixels(optics.focal_m, optics.pixels_wide, optics.sensor_width_m, optics.squeeze)
    shift = focal * (after[:, :2] / after[:, 2:] - before[:, :2] / before[:, 2:])
    return np.asarray(np.linalg.norm(shift, axis=1) / (2 * NUDGE))


def lens_way(axis: DriveAxis, path: Path, staged: Staged, mount: Callable[[Any, np.ndarray], Frames]) -> np.ndarray:
    """How far the lens goes for each metre, or radian, of an axis (n,) [m]."""
    q, by = staged.poses.q, np.zeros(staged.poses.q.shape[1])
    by[axis.freedom] = NUDGE
    first, last = (mount(path.model, q + way * by).place(path.lens) for way in (-1, 1))
    return np.asarray(np.linalg.norm(last - first, axis=1) / (2 * NUDGE))
