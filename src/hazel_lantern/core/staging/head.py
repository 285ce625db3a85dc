"""The camera's head: how it holds the kit on its mount, how its axes are worked, and where it makes the lens look."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.document.project import AXES, Axis
from hazel_lantern.core.document.shot import EACH, FIXED, FOCUS, KEPT, ONCE, PAN, ROLL, TILT
from hazel_lantern.core.mechanics.track import Frames, pitched
from hazel_lantern.core.motion.keyframes import flow
from hazel_lantern.core.optics import pose

DOWN = pitched(-math.pi / 2)
# Columns ahead, left, up of a mount, seen by a camera of pan 0, which looks along its own second axis.
MOUNT = np.array([[0.0, 1.0, 0.0], [-1.0, 0.0, 0.0], [0.0, 0.0, 1.0]])
# Columns right, up, backwards of a camera that looks ahead, in a frame of ahead, left, up.
CAMERA = MOUNT @ pose.axes(0.0, 0.0)


class Sight(Struct, frozen=True):
    """The camera along a move: places (n, 3) [m], pan and tilt (n,) [rad], camera matrices (n, 3, 3)."""

    places: np.ndarray
    pan: np.ndarray
    tilt: np.ndarray
    matrices: np.ndarray

    @property
    def roll(self) -> np.ndarray:
        """How far the camera leans to its own right (n,) [rad]."""
        level = pose.axes(self.pan, self.tilt)
        right = self.matrices[..., 0]
        return np.asarray(np.arctan2(-(right * level[..., 1]).sum(axis=-1), (right * level[..., 0]).sum(axis=-1)))


class Aim(Struct, frozen=True):
    """How the head is worked: as a whole, its axes where each is worked for itself, and the camera matrix within the
    mount frame (3, 3) of one that is set once.
    """

    mode: str
    axes: tuple[Axis, ...] = AXES
    once: np.ndarray | None = None


def lens_on_mount(lens_at: tuple[float, float, float], down: bool, rise: float = 0.0) -> np.ndarray:
    """Where the lens sits ahead, to the left of and above the mount (3,) [m]; a head `rise` high that looks down has
    tipped the whole kit over its top.
    """
    top = np.array([0.0, 0.0, rise])
    return np.asarray(top + DOWN @ (lens_at - top) if down else lens_at, float)


def unworked(mount: Frames, down: bool) -> np.ndarray:
    """Camera matrices (n, 3, 3) of a kit that is left as it sits, ahead or straight down."""
    return np.asarray(mount.axes @ (DOWN @ CAMERA if down else CAMERA))


def sight(mount: Frames, lens: np.ndarray, aim: Aim, down: bool, target: np.ndarray | None, times: np.ndarray) -> Sight:
    """The camera on its mount frames (on the set), its lens at (3,) in each of them [m], aimed at a target (3,) or,
    moment by moment, (n, 3), or left as it sits; at moments (n,) of the shot's clock [s].

    Raises InputError for a camera inside its target, and for keys of an axis out of order.
    """
    places = mount.place(lens)
    if not down and aim.mode == KEPT and target is not None:
        pan, tilt = pose.look_at(places, target)
        return Sight(places, pan, tilt, pose.axes(pan, tilt))
    if not down and aim.mode == EACH:
        matrices = each_axis(mount, places, aim.axes, target, times)
    else:
        matrices = mount.axes @ aim.once if aim.once is not None else unworked(mount, down)
    return Sight(places, *angles(matrices), matrices)


def set_once(mount: Frames, lens: np.ndarray, aim: str, down: bool, target: np.ndarray | None) -> np.ndarray | None:
    """The camera matrix within its mount frame (3, 3) of a head that is aimed from this one frame and then left
    alone; None where it is not worked so.

    Raises InputError for a camera inside its target.
    """
    if down or aim != ONCE or target is None:
        return None
    return np.asarray(mount.axes[0].T @ pose.axes(*pose.look_at(mount.place(lens), target))[0])


def keyed(axis: Axis, times: np.ndarray) -> np.ndarray:
    """Where an axis that is fixed or has keys stands, moment by moment (n,) [rad, m of focus]; 0 without keys."""
    keys = axis.keys[:1] if axis.how == FIXED else axis.keys
    if not keys:
        return np.zeros(len(times))
    return flow([key.time_s for key in keys], [key.value for key in keys]).at(times)[0]


def each_axis(
    mount: Frames, places: np.ndarray, axes: tuple[Axis, ...], target: np.ndarray | None, times: np.ndarray
) -> np.ndarray:
    """Camera matrices (n, 3, 3) of a head whose axes are worked one by one, from its plate up: pan about the mount's
    upright, tilt, roll. A kept pan or tilt aims at the target, a kept roll keeps the horizon level.

    Raises InputError for a camera inside its target.
    """
    by = {axis.id: axis for axis in axes}
    pan, tilt = (keyed(by[name], times) for name in (PAN, TILT))
    if target is not None:
        pose.look_at(places, target)
        away = np.einsum("nki,nk->ni", mount.axes, np.asarray(target, float) - places)
        if by[PAN].how == KEPT:
            pan = np.unwrap(np.arctan2(away[:, 1], away[:, 0]))
        if by[TILT].how == KEPT:
            tilt = np.arctan2(away[:, 2], np.hypot(away[:, 0], away[:, 1]))
    level = mount.axes @ MOUNT @ pose.axes(pan, tilt)
    roll = keyed(by[ROLL], times)
    if by[ROLL].how == KEPT:
        roll = np.arctan2(level[:, 2, 0], level[:, 2, 1])
    return np.asarray(mount.axes @ MOUNT @ pose.axes(pan, tilt, roll))


def angles(matrices: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Pan without jumps, and tilt, of camera matrices (n, 3, 3), each (n,) [rad]; straight up or down the picture's
    right tells the pan.
    """
    ahead, right = -matrices[..., 2], matrices[..., 0]
    steep = np.hypot(ahead[..., 0], ahead[..., 1]) < 1e-9
    pan = np.where(steep, np.arctan2(right[..., 1], right[..., 0]), np.arctan2(-ahead[..., 0], ahead[..., 1]))
    return np.unwrap(pan), np.arcsin(np.clip(ahead[..., 2], -1.0, 1.0))


def on_head(mount: Frames, seen: Sight) -> Sight:
    """The same as the head's own scales read it: pan, tilt and roll from its mount."""
    matrices = MOUNT.T @ np.swapaxes(mount.axes, -1, -2) @ seen.matrices
    return Sight(seen.places, *angles(matrices), matrices)


def focused(axes: tuple[Axis, ...], times: np.ndarray, depth: np.ndarray, best: float) -> np.ndarray:
    """How far the lens is focused, moment by moment (n,) [m]: kept on the subject's depth (n,), fixed where its first
    key says or else at the best single setting, or by its keys.
    """
    axis = next(axis for axis in axes if axis.id == FOCUS)
    if axis.how == KEPT:
        return depth
    return keyed(axis, times) if axis.keys else np.full(len(times), best)
