"""Shapes of one stretch of a move: share f(u) of its way at a share u of its time, and the speed, acceleration and
jerk factors that go with it.
"""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import finite, positive
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError

LINEAR, TRAPEZOID, SINE, CYCLOID, QUINTIC, EASED, JERK, FLOWING = (
    "linear",
    "trapezoid",
    "sine",
    "cycloid",
    "quintic",
    "eased",
    "jerk",
    "flowing",
)
SHAPES = (
    (LINEAR, "Linear"),
    (TRAPEZOID, "Even ramps"),
    (SINE, "Sine"),
    (CYCLOID, "Cycloid"),
    (QUINTIC, "Least jerk"),
    (EASED, "Soft ramps, steady between"),
    (JERK, "Limited jerk"),
    (FLOWING, "Flowing through its keys"),
)
RAMPED = (TRAPEZOID, EASED, JERK)


class Shape(Struct, frozen=True):
    """Share of the way, and speed, as functions of the share of the time (n,); the greatest speed, acceleration and
    jerk in S/T, S/T² and S/T³.
    """

    share: Callable[[np.ndarray], np.ndarray]
    speed: Callable[[np.ndarray], np.ndarray]
    acceleration: Callable[[np.ndarray], np.ndarray]
    c_v: float
    c_a: float
    c_j: float


def shape(kind: str, ramp: float = 0.35, corner: float = 0.5) -> Shape:
    """One of the shapes.

    kind: linear, trapezoid, sine, cycloid, quintic, eased, jerk, or flowing, which by itself is quintic [-]
    ramp: share of the time taken by each ramp, above 0 to 0.5, where the shape has ramps [-]
    corner: share of a ramp in which its acceleration rises, above 0 to 0.5, for limited jerk [-]

    Returns: the shape. Raises: InputError for an unknown kind, a ramp outside 0..0.5, a corner outside 0..0.5.
    Source: drive 4.1.
    """
    if kind in RAMPED:
        _within("beta", ramp)
    if kind == JERK:
        _within("corner", corner)
    if kind == LINEAR:
        return Shape(lambda u: u + 0.0, np.ones_like, np.zeros_like, 1.0, math.inf, math.inf)
    if kind == SINE:
        pi = math.pi
        return Shape(
            lambda u: (1 - np.cos(pi * u)) / 2,
            lambda u: pi / 2 * np.sin(pi * u),
            lambda u: pi**2 / 2 * np.cos(pi * u),
            pi / 2,
            pi**2 / 2,
            math.inf,
        )
    if kind == CYCLOID:
        w = 2 * math.pi
        return Shape(
            lambda u: u - np.sin(w * u) / w, lambda u: 1 - np.cos(w * u), lambda u: w * np.sin(w * u), 2.0, w, w**2
        )
    if kind in (QUINTIC, FLOWING):
        return Shape(
            lambda u: u**3 * (10 - 15 * u + 6 * u**2),
            lambda u: 30 * u**2 * (1 - u) ** 2,
            lambda u: 60 * u * (1 - u) * (1 - 2 * u),
            15 / 8,
            10 / math.sqrt(3),
            60.0,
        )
    if kind == TRAPEZOID:
        return _mirrored(ramp, lambda w: w**2 / 2, lambda w: w, np.ones_like, 1.0, math.inf)
    if kind == EASED:
        return _mirrored(
            ramp, lambda w: w**3 - w**4 / 2, lambda w: w**2 * (3 - 2 * w), lambda w: 6 * w * (1 - w), 1.5, 6.0
        )
    if kind == JERK:
        return _limited(ramp, corner)
    raise InputError("kind", repr(kind), "must be one of " + ", ".join(key for key, _ in SHAPES))


def _within(name: str, share: float) -> None:
    positive(**{name: share})
    if share > 0.5:
        raise InputError(
            name,
            share,
            "each ramp takes at most half of the time"
            if name == "beta"
            else "a ramp has two corners, each at most half of it",
        )


Ramp = Callable[[np.ndarray], np.ndarray]


def _mirrored(ramp: float, way: Ramp, speed: Ramp, acceleration: Ramp, steepest: float, jerk: float) -> Shape:
    """A shape of two ramps that mirror each other about a steady middle; way, speed and acceleration of a ramp over
    its own share w, its speed from 0 to 1.
    """
    top = 1 / (1 - ramp)

    def share(u: np.ndarray) -> np.ndarray:
        near = np.minimum(u, 1 - u)
        half = top * np.where(near < ramp, ramp * way(np.minimum(1.0, near / ramp)), near - ramp / 2)
        return np.where(u <= 0.5, half, 1 - half)

    def rate(u: np.ndarray) -> np.ndarray:
        return top * speed(np.minimum(1.0, np.minimum(u, 1 - u) / ramp))

    def change(u: np.ndarray) -> np.ndarray:
        near = np.minimum(u, 1 - u)
        return np.where(
            near < ramp, np.where(u <= 0.5, 1.0, -1.0) * top / ramp * acceleration(np.minimum(1.0, near / ramp)), 0.0
        )

    return Shape(share, rate, change, top, steepest * top / ramp, jerk * top / ramp**2)


def _limited(ramp: float, corner: float) -> Shape:
    """Ramps whose acceleration rises evenly, holds, and falls evenly."""
    peak = 1 / (1 - corner)  # of the acceleration, where the ramp's speed goes from 0 to 1 over w from 0 to 1

    def acceleration(w: np.ndarray) -> np.ndarray:
        return np.asarray(peak * np.minimum(1.0, np.minimum(w, 1 - w) / corner))

    def speed(w: np.ndarray) -> np.ndarray:
        low = np.where(w < corner, peak * w**2 / (2 * corner), peak * (w - corner / 2))
        high = 1 - peak * (1 - w) ** 2 / (2 * corner)
        return np.where(w <= 1 - corner, low, high)

    def way(w: np.ndarray) -> np.ndarray:
        low = np.where(w < corner, peak * w**3 / (6 * corner), peak * (w**2 / 2 - corner * w / 2 + corner**2 / 6))
        high = 0.5 - (1 - w) + peak * (1 - w) ** 3 / (6 * corner)
        return np.where(w <= 1 - corner, low, high)

    return _mirrored(ramp, way, speed, acceleration, peak, peak / corner)


class Peaks(Struct, frozen=True):
    """Greatest speed, acceleration and jerk of a stretch; infinite where its shape has none."""

    speed: float
    acceleration: float
    jerk: float


def peaks(kind: str, ramp: float, way: float, time: float) -> Peaks:
    """The most of each over a stretch.

    kind: the shape [-]
    ramp: share of the time taken by each ramp, where the shape has ramps [-]
    way: length, of either sign [m]
    time: duration [s]

    Returns: greatest speed, acceleration, jerk; all zero for no way. Raises: InputError. Source: drive 4.1.
    """
    positive(T=time)
    finite(S=way)
    made, s = shape(kind, ramp), abs(way)
    return Peaks(made.c_v * s / time, made.c_a * s / time**2, made.c_j * s / time**3) if s else Peaks(0.0, 0.0, 0.0)


def shortest_time(
    kind: str, ramp: float, way: float, speed: float = math.inf, acceleration: float = math.inf, jerk: float = math.inf
) -> float:
    """The least time a shape needs within limits.

    kind: the shape [-]
    ramp: share of the time taken by each ramp [-]
    way: length of the stretch [m]
    speed: greatest allowed, infinite for no limit [m/s]
    acceleration: likewise [m/s^2]
    jerk: likewise [1]

    Returns: time [s]. Raises: InputError when nothing limits it; InfeasibleError for a limit on what the shape has
    without bound. Source: drive 4.1.
    """
    made = shape(kind, ramp)
    finite(S=way)
    for name, limit in (("V", speed), ("A", acceleration), ("J", jerk)):
        if not limit > 0:
            raise InputError(name, limit, "must be above zero")
    if not any(map(math.isfinite, (speed, acceleration, jerk))):
        raise InputError("limits", "none", "needs at least one of speed, acceleration, jerk")
    for limit, factor, code in (
        (acceleration, made.c_a, "PROFILE_ACCEL_UNBOUNDED"),
        (jerk, made.c_j, "PROFILE_JERK_UNBOUNDED"),
    ):
        if math.isfinite(limit) and not math.isfinite(factor):
            raise InfeasibleError(
                f"a {kind} move has no greatest {'acceleration' if 'ACCEL' in code else 'jerk'}", code
            )
    s = abs(way)
    times = [made.c_v * s / speed if math.isfinite(speed) else 0.0]
    times.append(math.sqrt(made.c_a * s / acceleration) if math.isfinite(acceleration) else 0.0)
    times.append((made.c_j * s / jerk) ** (1 / 3) if math.isfinite(jerk) else 0.0)
    return max(times)


class Limited(Struct, frozen=True):
    """The shortest move within limits of speed, acceleration and jerk: time [s], what it reaches, and the shape that
    makes it.
    """

    time: float
    speed: float
    acceleration: float
    ramp: float
    corner: float


def jerk_limited(way: float, speed: float, acceleration: float, jerk: float) -> Limited:
    """The quickest symmetric move between rests.

    way: length [m]
    speed: greatest allowed [m/s]
    acceleration: greatest allowed [m/s^2]
    jerk: greatest allowed [1]

    Returns: time, peaks, and ramp and corner for `shape`. Raises: InputError. Source: drive 4.1, S-curve.
    """
    positive(V=speed, A=acceleration, J=jerk)
    finite(S=way)
    s = abs(way)
    if s == 0:
        return Limited(0.0, 0.0, 0.0, 0.5, 0.5)
    if speed * jerk >= acceleration**2:
        rise, ramp = acceleration / jerk, acceleration / jerk + speed / acceleration
    else:
        rise = math.sqrt(speed / jerk)
        ramp = 2 * rise
    if s >= speed * ramp:
        time, peak, most = s / speed + ramp, speed, jerk * rise
    elif s >= 2 * acceleration**3 / jerk**2:
        rise = acceleration / jerk
        ramp = rise / 2 + math.sqrt(rise**2 / 4 + s / acceleration)
        time, peak, most = 2 * ramp, acceleration * (ramp - rise), acceleration
    else:
        rise = (s / (2 * jerk)) ** (1 / 3)
        ramp, time, peak, most = 2 * rise, 4 * rise, jerk * rise**2, jerk * rise
    return Limited(time, peak, most, ramp / time, rise / ramp)
