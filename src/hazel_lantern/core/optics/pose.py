"""Camera poses and projection: right-handed world, z up, pan 0 looks along +y; pinhole picture with its origin top
left.
"""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.nouns.check import positive
from hazel_lantern.core.nouns.errors import InputError

NEAR = 0.01
TO_Y_UP = np.array([[1.0, 0.0, 0.0], [0.0, 0.0, 1.0], [0.0, -1.0, 0.0]])


def axes(pan: np.ndarray | float, tilt: np.ndarray | float, roll: np.ndarray | float = 0.0) -> np.ndarray:
    """Camera matrix in the world: columns right, up, backwards.

    pan: positive to the left, 0 along +y, any shape [rad]
    tilt: positive up [rad]
    roll: positive to the camera's own right [rad]

    Returns: shape (..., 3, 3) [-]. Source: drive 6.1.
    """
    pan, tilt, roll = np.broadcast_arrays(np.asarray(pan, float), np.asarray(tilt, float), np.asarray(roll, float))
    zero = np.zeros_like(pan)
    ahead = np.stack([-np.sin(pan) * np.cos(tilt), np.cos(pan) * np.cos(tilt), np.sin(tilt)], axis=-1)
    right0 = np.stack([np.cos(pan), np.sin(pan), zero], axis=-1)
    up0 = np.cross(right0, ahead)
    cos, sin = np.cos(roll)[..., None], np.sin(roll)[..., None]
    return np.asarray(np.stack([right0 * cos - up0 * sin, right0 * sin + up0 * cos, -ahead], axis=-1))


def look_at(places: np.ndarray, target: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Pan and tilt that aim a moving camera at a point, without jumps.

    places: camera places (n, 3) [m]
    target: what is looked at, (3,) or (n, 3) [m]

    Returns: pan and tilt, each (n,) [rad]. Raises: InputError when the camera is at the target. Source: drive 6.1.
    """
    away = np.asarray(target, float) - np.atleast_2d(np.asarray(places, float))
    length = np.linalg.norm(away, axis=1)
    if not np.all(np.isfinite(length)) or np.any(length < 1e-9):
        raise InputError("target", target, "the camera cannot look at the place where it stands")
    flat = np.hypot(away[:, 0], away[:, 1])
    pan = np.arctan2(-away[:, 0], away[:, 1])
    # Straight up or down leaves the pan open: it stays as it was.
    steep = flat < 1e-9 * length
    if np.any(steep):
        kept = 0.0
        for k in range(len(pan)):
            kept = pan[k] = kept if steep[k] else pan[k]
    return np.unwrap(pan), np.arctan2(away[:, 2], flat)


def camera_points(matrix: np.ndarray, place: np.ndarray, points: np.ndarray) -> np.ndarray:
    """Points in camera axes: right, up, depth ahead; for one camera or many.

    matrix: camera matrices (..., 3, 3) of `axes` [-]
    place: camera places (..., 3) [m]
    points: world points (k, 3) or (..., k, 3) [m]

    Returns: shape (..., k, 3) [m]. Source: drive 6.1.
    """
    return np.asarray((np.asarray(points, float) - np.asarray(place, float)[..., None, :]) @ matrix * (1.0, 1.0, -1.0))


def project(points: np.ndarray, focal_px: tuple[float, float], picture: tuple[float, float]) -> np.ndarray:
    """Pixels of points in camera axes, origin top left, y down; NaN for points behind the camera.

    points: camera points (n, 3) of `camera_points` [m]
    focal_px: focal length across and up [px]
    picture: width and height [px]

    Returns: shape (n, 2) [px]. Raises: InputError. Source: pinhole; drive 6.1.
    """
    positive(F_x=focal_px[0], F_y=focal_px[1], W=picture[0], H=picture[1])
    p = np.atleast_2d(np.asarray(points, float))
    depth = np.where(p[:, 2] > 1e-6, p[:, 2], np.nan)
    return np.column_stack(
        [picture[0] / 2 + focal_px[0] * p[:, 0] / depth, picture[1] / 2 - focal_px[1] * p[:, 1] / depth]
    )


def sides(
    points: np.ndarray, tan_h: float, tan_v: float, radius: np.ndarray | float = 0.0, near: float = NEAR
) -> np.ndarray:
    """How far points lie inside the five planes of the view: near, right, left, top, bottom; negative is outside.

    points: camera points (..., 3) [m]
    tan_h: tangent of half the angle of view across [-]
    tan_v: tangent of half the angle of view up [-]
    radius: half a member's thickness, broadcast over the points [m]
    near: nearest depth that counts [m]

    Returns: shape (..., 5) [m]. Source: drive 5.9.
    """
    x, y, depth = points[..., 0], points[..., 1], points[..., 2]
    side, rise = (
        depth * tan_h + np.multiply(radius, math.hypot(1, tan_h)),
        depth * tan_v + np.multiply(radius, math.hypot(1, tan_v)),
    )
    return np.stack([depth - near, side - x, side + x, rise - y, rise + y], axis=-1)


def may_show(
    ends: np.ndarray, tan_h: float, tan_v: float, radius: np.ndarray | float = 0.0, near: float = NEAR
) -> np.ndarray:
    """Which straight members may come into the view: all but those with both ends outside one of its planes. The rest
    must be clipped to know.

    ends: both ends in camera axes (..., 2, 3) [m]
    tan_h: tangent of half the angle of view across [-]
    tan_v: tangent of half the angle of view up [-]
    radius: half the thickness of each, broadcast over the members [m]
    near: nearest depth that counts [m]

    Returns: shape (...), true or false [-]. Source: drive 5.9.
    """
    return np.asarray(~(sides(ends, tan_h, tan_v, np.asarray(radius)[..., None], near) < 0).all(axis=-2).any(axis=-1))


def clip(
    a: np.ndarray, b: np.ndarray, tan_h: float, tan_v: float, radius: float = 0.0, near: float = NEAR
) -> tuple[float, float] | None:
    """Part of a straight member that lies inside the view.

    a: one end in camera axes (3,) [m]
    b: other end in camera axes (3,) [m]
    tan_h: tangent of half the angle of view across [-]
    tan_v: tangent of half the angle of view up [-]
    radius: half the member's thickness [m]
    near: nearest depth that counts [m]

    Returns: (t0, t1) from a to b, or None when it stays outside [-]. Source: half-space clipping; drive 5.9.
    """
    ends = sides(np.array([a, b]), tan_h, tan_v, radius, near).tolist()
    start, stop = 0.0, 1.0
    for fa, fb in zip(*ends, strict=True):
        if fa < 0 and fb < 0:
            return None
        if fa < 0:
            start = max(start, fa / (fa - fb))
        elif fb < 0:
            stop = min(stop, fa / (fa - fb))
    return (start, stop) if start < stop else None


def quaternion(matrix: np.ndarray) -> np.ndarray:
    """Unit quaternion x, y, z, w of a rotation, w not negative.

    matrix: rotation (3, 3) [-]

    Returns: shape (4,) [-]. Source: largest-diagonal method; drive 6.4.
    """
    m = np.asarray(matrix, float)
    squares = np.array(
        [
            m[0, 0] - m[1, 1] - m[2, 2],
            m[1, 1] - m[0, 0] - m[2, 2],
            m[2, 2] - m[0, 0] - m[1, 1],
            m[0, 0] + m[1, 1] + m[2, 2],
        ]
    )
    i = int(np.argmax(squares))
    if i == 3:
        q = np.array([m[2, 1] - m[1, 2], m[0, 2] - m[2, 0], m[1, 0] - m[0, 1], 1 + squares[3]])
    else:
        j, k = (i + 1) % 3, (i + 2) % 3
        q = np.empty(4)
        q[i], q[j], q[k], q[3] = 1 + squares[i], m[j, i] + m[i, j], m[k, i] + m[i, k], m[k, j] - m[j, k]
    q /= np.linalg.norm(q)
    return np.asarray(-q if q[3] < 0 else q)


def y_up(place: np.ndarray, matrix: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """A camera node's translation and rotation in the y-up world of glTF.

    place: camera place (3,) [m]
    matrix: camera matrix (3, 3) of `axes` [-]

    Returns: translation (3,) [m], quaternion x, y, z, w [-]. Source: drive 6.4.
    """
    return TO_Y_UP @ np.asarray(place, float), quaternion(TO_Y_UP @ np.asarray(matrix, float))
