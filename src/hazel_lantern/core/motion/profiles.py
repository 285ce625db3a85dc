"""Shapes of a move over time: f(u), u from 0 to 1, and its speed and acceleration factors."""

from __future__ import annotations

import numpy as np

from hazel_lantern.core.check import positive
from hazel_lantern.core.errors import InputError


def eased(u: np.ndarray | float, ramp: float) -> np.ndarray:
    """Share of the way at a share of the time, with soft ramps and a steady middle.

    u: share of the time, clipped to 0..1, any shape [-]
    ramp: share of the time taken by each ramp, above 0 to 0.5 [-]

    Returns: share of the way, of u's shape [-]. Raises: InputError for a ramp outside 0..0.5.
    Source: drive 4.1, eased constant.
    """
    _check(ramp)
    t = np.clip(u, 0.0, 1.0)
    near = np.minimum(t, 1 - t)
    w = np.minimum(1.0, near / ramp)
    half = np.where(near < ramp, ramp * (w**3 - w**4 / 2), near - ramp / 2) / (1 - ramp)
    return np.asarray(np.where(t <= 0.5, half, 1 - half))


def eased_speed(u: np.ndarray | float, ramp: float) -> np.ndarray:
    """Speed of the eased move, as a multiple of way over time.

    u: share of the time, any shape [-]
    ramp: share of the time taken by each ramp [-]

    Returns: speed factor, of u's shape [-]. Raises: InputError for a ramp outside 0..0.5.
    Source: drive 4.1.
    """
    _check(ramp)
    t = np.clip(u, 0.0, 1.0)
    w = np.minimum(1.0, np.minimum(t, 1 - t) / ramp)
    return np.asarray(w**2 * (3 - 2 * w) / (1 - ramp))


def _check(ramp: float) -> None:
    positive(beta=ramp)
    if ramp > 0.5:
        raise InputError("beta", ramp, "each ramp takes at most half of the time")


def peak_speed(way: float, time: float, ramp: float) -> float:
    """Greatest speed of an eased move.

    way: distance [m]
    time: duration [s]
    ramp: share of the time taken by each ramp [-]

    Returns: speed [m/s]. Raises: InputError. Source: drive 4.1.
    """
    positive(T=time)
    _check(ramp)
    return way / time / (1 - ramp)


def peak_acceleration(way: float, time: float, ramp: float) -> float:
    """Greatest acceleration of an eased move.

    way: distance [m]
    time: duration [s]
    ramp: share of the time taken by each ramp [-]

    Returns: acceleration [m/s^2]. Raises: InputError. Source: drive 4.1.
    """
    positive(T=time)
    _check(ramp)
    return 1.5 * way / time**2 / (ramp * (1 - ramp))
