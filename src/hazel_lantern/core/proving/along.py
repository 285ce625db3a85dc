"""A rail and what rolls on it: level turned end for end, the rise at which it rolls, pulls both ways along it."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import finite, not_negative, positive
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.proving.repeats import off_the_map


class Levelled(Struct, frozen=True):
    """Slope and the level's own error [rad or m/m], and what goes under the low end of a base [m]."""

    slope: float
    error: float
    packing: float


def reversed_level(first: float, turned: float, base: float) -> Levelled:
    """A level read, and read again turned end for end.

    first, turned: readings [m/m]
    base: from foot to foot [m]

    Returns: slope, error of the level, packing. Raises: InputError. Source: dynamics 8.1.
    """
    finite(reading_1=first, reading_turned=turned)
    positive(base_length=base)
    slope = (first - turned) / 2
    return Levelled(slope, (first + turned) / 2, slope * base)


def roll_angle(rise: float, length: float) -> float:
    """The coefficient at which something just rolls on a rail with one end lifted.

    rise: of the end [m]
    length: of the rail [m]

    Returns: coefficient [-]. Raises: InputError for a rise as long as the rail. Source: dynamics 8.2.
    """
    positive(rail_length=length)
    not_negative(rise=rise)
    if rise >= length:
        raise InputError("rise", rise, f"must be less than the rail's length, {length} m")
    return rise / math.sqrt(length**2 - rise**2)


def timed_roll(angle: float, distance: float, time: float, inertia: float = 1.0) -> float:
    """The coefficient from a run down a slope, let go from standing.

    angle: of the slope [rad]
    distance, time: rolled [m, s]
    inertia: of what moves, over its mass; wheels turn too [-]

    Returns: coefficient [-]. Raises: InputError. Source: dynamics 8.2.
    """
    positive(run_distance=distance, run_time=time, inertia_factor=inertia)
    return math.tan(angle) - inertia * 2 * distance / (time**2 * GRAVITY * math.cos(angle))


class Pulled(Struct, frozen=True):
    """At every station (n,): coefficient, slope [rad], height over the first [m], and which of them bind."""

    coefficients: np.ndarray
    slopes: np.ndarray
    heights: np.ndarray
    binds: np.ndarray


def pulls(places: Sequence[float], forward: Sequence[float], back: Sequence[float], weight: float) -> Pulled:
    """Pulled slowly both ways past stations of a rail.

    places: along it (n,) [m]
    forward, back: what it is pulled with each way, both above nought (n,) [N]
    weight: of what rolls [N]

    Returns: rolling, slope and heights. Raises: InputError for pulls that no slope explains. Source: dynamics 8.3, 8.4.
    """
    positive(weight=weight)
    x, up, down = (np.asarray(row, float) for row in (places, forward, back))
    if not len(x) == len(up) == len(down) or len(x) < 1:
        raise InputError("forward", len(up), "as many pulls each way as stations")
    differ = up - down
    if (np.abs(differ) > 2 * weight).any():
        raise InputError(
            "forward", float(np.abs(differ).max()), "differs from the pull back by more than twice the weight"
        )
    sines = differ / (2 * weight)
    heights = np.concatenate([[0.0], np.cumsum(np.diff(x) * (sines[1:] + sines[:-1]) / 2)])
    friction = (up + down) / (2 * weight)
    return Pulled(friction, np.arcsin(sines), heights, off_the_map(friction) & (friction > np.median(friction)))
