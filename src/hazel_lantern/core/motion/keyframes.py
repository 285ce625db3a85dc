"""A move that passes its keys without stopping: speeds at the keys, and smooth stretches between them."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.core.motion.shapes import Shape
from hazel_lantern.core.nouns.check import finite
from hazel_lantern.core.nouns.errors import InputError

CAP = 1.25  # of the gentler slope beside a key, so that no stretch overshoots


class Flow(Struct, frozen=True):
    """Keys (n,) in time [s] and place, and the speed at each; between two the speed is a quartic that keeps the sign of
    the way, with no acceleration at either key.
    """

    t: np.ndarray
    s: np.ndarray
    v: np.ndarray

    def coefficients(self, k: int) -> np.ndarray:
        """Bernstein coefficients (5,) of the speed over stretch k, times its time."""
        h, way = self.t[k + 1] - self.t[k], self.s[k + 1] - self.s[k]
        p, q = self.v[k] * h, self.v[k + 1] * h
        return np.array([p, p, 5 * way - 2 * p - 2 * q, q, q])

    def at(self, t: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Place and speed at moments (m,); before the first key and after the last it stands."""
        t = np.asarray(t, float)
        place, speed = np.full(t.shape, self.s[0]), np.zeros(t.shape)
        for k in range(len(self.t) - 1):
            h = self.t[k + 1] - self.t[k]
            on = (t >= self.t[k]) & (t <= self.t[k + 1])
            u = np.clip((t - self.t[k]) / h, 0.0, 1.0)
            c = self.coefficients(k)
            place = np.where(t >= self.t[k], self.s[k] + way_share(c, u), place)
            speed = np.where(on, quartic(c, u) / h, speed)
        return np.where(t > self.t[-1], self.s[-1], place), speed

    @property
    def peak_acceleration(self) -> float:
        """The greatest anywhere, exactly."""
        return max(
            (_peak(self.coefficients(k)) / (self.t[k + 1] - self.t[k]) ** 2 for k in range(len(self.t) - 1)),
            default=0.0,
        )


def flow(t: Sequence[float], s: Sequence[float]) -> Flow:
    """Speeds at the keys of a move that does not stop at them.

    t: times of the keys, each later than the one before (n,) [s]
    s: places at the keys (n,) [m, or share of a way]

    Returns: the move. Raises: InputError for times out of order. Source: drive 4.4, weighted harmonic means.
    """
    finite(t=np.asarray(t, float), s=np.asarray(s, float))
    times, places = np.asarray(t, float), np.asarray(s, float)
    if len(times) != len(places) or not len(times):
        raise InputError("t", list(t), "needs one place for each time, one at the least")
    h = np.diff(times)
    if np.any(h <= 0):
        k = int(np.argmax(h <= 0)) + 1
        raise InputError("t", float(times[k]), f"must come after {times[k - 1]:g}")
    slopes = np.diff(places) / h if len(h) else np.zeros(0)
    speeds = np.zeros(len(times))
    for k in range(1, len(times) - 1):
        before, after = slopes[k - 1], slopes[k]
        if before * after <= 0:
            continue
        w1, w2 = 2 * h[k] + h[k - 1], h[k] + 2 * h[k - 1]
        mean = (w1 + w2) / (w1 / before + w2 / after)
        speeds[k] = np.sign(mean) * min(abs(mean), CAP * min(abs(before), abs(after)))
    return Flow(times, places, speeds)


def flowed(c: np.ndarray) -> Shape:
    """One stretch of such a move as a shape.

    c: coefficients of its speed over its way (5,) [-]

    Returns: the shape. Source: drive 4.4.
    """
    return Shape(
        lambda w: way_share(c, np.asarray(w, float)),
        lambda w: quartic(c, np.asarray(w, float)),
        lambda w: turns(c, np.asarray(w, float)),
        _fastest(c),
        _peak(c),
        _jerk(c),
    )


def _fastest(c: np.ndarray) -> float:
    """The greatest speed: at an end, or where the acceleration changes sign between them."""
    a, b = float(c[2] - c[1]), float(c[3] - c[2])
    at = a / (a - b) if a * b < 0 else 0.0
    return max(float(c[0]), float(c[4]), float(quartic(c, np.array(at))))


def _jerk(c: np.ndarray) -> float:
    """The greatest change of acceleration, which is a parabola: at an end or at its top."""
    a, b = float(c[2] - c[1]), float(c[3] - c[2])
    curve, slope = 36 * (a - b), 24 * (b - 2 * a)
    ends = [12 * a, curve + slope + 12 * a]
    top = -slope / (2 * curve) if curve else -1.0
    if 0 < top < 1:
        ends.append(curve * top**2 + slope * top + 12 * a)
    return max(map(abs, ends))


def quartic(c: np.ndarray, u: np.ndarray) -> np.ndarray:
    """A Bernstein polynomial of the fourth degree.

    c: its coefficients (5,) [-]
    u: where, 0..1 (m,) [-]

    Returns: its value (m,) [-]. Source: Bernstein form.
    """
    w = 1 - u
    return np.asarray(c[0] * w**4 + 4 * c[1] * u * w**3 + 6 * c[2] * u**2 * w**2 + 4 * c[3] * u**3 * w + c[4] * u**4)


def way_share(c: np.ndarray, u: np.ndarray) -> np.ndarray:
    """The way made by a speed in Bernstein form.

    c: coefficients of the speed (5,) [-]
    u: where, 0..1 (m,) [-]

    Returns: way (m,) [-]. Source: its integral, one degree higher.
    """
    sums = np.concatenate([[0.0], np.cumsum(c)]) / 5
    w = 1 - u
    powers = [w**5, 5 * u * w**4, 10 * u**2 * w**3, 10 * u**3 * w**2, 5 * u**4 * w, u**5]
    return np.asarray(sum(b * p for b, p in zip(sums, powers, strict=True)))


def turns(c: np.ndarray, u: np.ndarray) -> np.ndarray:
    """Acceleration of a speed in Bernstein form.

    c: coefficients of the speed (5,), the outer two alike at either end [-]
    u: where, 0..1 (m,) [-]

    Returns: acceleration (m,) [-]. Source: its derivative.
    """
    a, b = c[2] - c[1], c[3] - c[2]
    return np.asarray(12 * u * (1 - u) * (a * (1 - u) + b * u))


def _peak(c: np.ndarray) -> float:
    """The greatest acceleration, where its slope is nothing: a quadratic."""
    a, b = float(c[2] - c[1]), float(c[3] - c[2])
    p, q = 3 * (a - b), 2 * b - 4 * a
    if abs(p) < 1e-300:
        roots = [-a / q] if q else []
    else:
        root = math.sqrt(max(0.0, q * q - 4 * p * a))
        roots = [(-q + root) / (2 * p), (-q - root) / (2 * p)]
    return max((abs(12 * u * (1 - u) * (a * (1 - u) + b * u)) for u in roots if 0 <= u <= 1), default=0.0)
