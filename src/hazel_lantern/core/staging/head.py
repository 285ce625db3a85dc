"""The camera's head: how it holds the kit on its mount, and where it makes the lens look."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.document.shot import KEPT, ONCE
from hazel_lantern.core.mechanics.track import Frames, pitched
from hazel_lantern.core.optics import pose

DOWN = pitched(-math.pi / 2)
# Columns right, up, backwards of a camera that looks ahead, in a frame of ahead, left, up.
CAMERA = np.array([[0.0, 0.0, -1.0], [-1.0, 0.0, 0.0], [0.0, 1.0, 0.0]])


class Sight(Struct, frozen=True):
    """The camera along a move: places (n, 3) [m], pan and tilt (n,) [rad], camera matrices (n, 3, 3)."""

    places: np.ndarray
    pan: np.ndarray
    tilt: np.ndarray
    matrices: np.ndarray


def lens_on_mount(lens_at: tuple[float, float, float], down: bool) -> np.ndarray:
    """Where the lens sits ahead, to the left of and above the mount (3,) [m]; a head that looks down has tipped the
    whole kit over its mount.
    """
    return np.asarray(DOWN @ lens_at if down else lens_at, float)


def unworked(mount: Frames, down: bool) -> np.ndarray:
    """Camera matrices (n, 3, 3) of a kit that is left as it sits, ahead or straight down."""
    return np.asarray(mount.axes @ (DOWN @ CAMERA if down else CAMERA))


def sight(
    mount: Frames, lens: np.ndarray, aim: str, down: bool, target: np.ndarray | None, once: np.ndarray | None
) -> Sight:
    """The camera on its mount frames (on the set), its lens at (3,) in each of them [m], aimed at a target (3,) or,
    moment by moment, (n, 3), or left as it sits.

    `once` is the camera matrix within the mount frame that a head set once keeps. Raises InputError for a camera
    inside its target.
    """
    places = mount.place(lens)
    if not down and aim == KEPT and target is not None:
        pan, tilt = pose.look_at(places, target)
        return Sight(places, pan, tilt, pose.axes(pan, tilt))
    matrices = mount.axes @ once if once is not None else unworked(mount, down)
    return Sight(places, *angles(matrices), matrices)


def set_once(mount: Frames, lens: np.ndarray, aim: str, down: bool, target: np.ndarray | None) -> np.ndarray | None:
    """The camera matrix within its mount frame (3, 3) of a head that is aimed from this one frame and then left
    alone; None where it is not worked so.

    Raises InputError for a camera inside its target.
    """
    if down or aim != ONCE or target is None:
        return None
    return np.asarray(mount.axes[0].T @ pose.axes(*pose.look_at(mount.place(lens), target))[0])


def angles(matrices: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Pan without jumps, and tilt, of camera matrices (n, 3, 3), each (n,) [rad]; straight up or down the picture's
    right tells the pan.
    """
    ahead, right = -matrices[..., 2], matrices[..., 0]
    steep = np.hypot(ahead[..., 0], ahead[..., 1]) < 1e-9
    pan = np.where(steep, np.arctan2(right[..., 1], right[..., 0]), np.arctan2(-ahead[..., 0], ahead[..., 1]))
    return np.unwrap(pan), np.arcsin(np.clip(ahead[..., 2], -1.0, 1.0))
