"""Readings that were repeated: their mean and how sure it is, one that does not belong, several tests of one thing."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import finite, positive
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError

SURE = 0.95
FEWEST, FOR_OUTLIER, PILOTS, MOST = 3, 4, 5, 10000
MAD_SCALE, MEAN_SCALE, FAR = 1.4826, 1.2533, 3.5  # of a normal spread; how many of it a map's reading may be off
AGREES, CONTRADICTS = 1.0, 3.0  # of Birge's ratio

Readings = Sequence[float] | np.ndarray


class Mean(Struct, frozen=True):
    """A mean, the spread of one reading, and how far the mean may be off either way in 95 of 100 cases; a next reading
    lies within `next_within` of it.
    """

    value: float
    spread: float
    half_width: float
    next_within: float


def t_of(share: float, freedom: float) -> float:
    """Student's t."""
    from scipy.special import stdtrit

    return float(stdtrit(freedom, share))


def mean(readings: Readings, sure: float = SURE, step: float = 0.0) -> Mean:
    """Mean of repeats.

    readings: at least two (n,)
    sure: share of cases that the interval holds in [-]
    step: of the scale they were read from; adds its own doubt

    Returns: it with its interval. Raises: InputError. Source: dynamics 8.
    """
    values = np.asarray(readings, float)
    if len(values) < 2:
        raise InputError("readings", len(values), "two at the least")
    finite(readings=values)
    spread = float(values.std(ddof=1))
    t = t_of((1 + sure) / 2, len(values) - 1)
    # What is never reported: less than the scale can show.
    half = math.hypot(t * spread / math.sqrt(len(values)), t_of((1 + sure) / 2, 1e9) * step / math.sqrt(12))
    return Mean(float(values.mean()), spread, half, t * spread * math.sqrt(1 + 1 / len(values)))


def repeats_for(spread: float, half_width: float, sure: float = SURE) -> int:
    """How many repeats make a mean sure to within a half width.

    spread: of one reading, from five pilots or more
    half_width: wanted, in the same unit
    sure: share of cases [-]

    Returns: the fewest. Raises: InputError; InfeasibleError where ten thousand are not enough. Source: dynamics 8.
    """
    positive(half_width=half_width)
    from scipy.special import stdtrit

    n = np.arange(2, MOST)
    reach = stdtrit(n - 1, (1 + sure) / 2) * spread / np.sqrt(n)
    good = np.flatnonzero(reach <= half_width)
    if not len(good):
        raise InfeasibleError(f"even {MOST} repeats leave more than that", "TOO_MANY_REPEATS")
    return int(n[good[0]])


class Outlier(Struct, frozen=True):
    """The reading furthest off, how far in spreads, from how many on it does not belong, and its place; -1 where all
    belong.
    """

    furthest: float
    critical: float
    index: int


def outlier(readings: Readings, sure: float = SURE) -> Outlier:
    """The one reading that does not belong to the others, by Grubbs' test; it is named and kept, not deleted.

    readings: four at the least for there to be any (n,)
    sure: share of clean sets that are left alone [-]

    Returns: it. Source: dynamics 8.
    """
    values = np.asarray(readings, float)
    n = len(values)
    if n < FOR_OUTLIER or (spread := float(values.std(ddof=1))) == 0:
        return Outlier(0.0, math.inf, -1)
    off = np.abs(values - values.mean()) / spread
    t = t_of(1 - (1 - sure) / (2 * n), n - 2)
    critical = (n - 1) / math.sqrt(n) * math.sqrt(t**2 / (n - 2 + t**2))
    far = int(np.argmax(off))
    return Outlier(float(off[far]), critical, far if off[far] > critical else -1)


def off_the_map(values: Readings) -> np.ndarray:
    """Which places of a map (n,) are far off the rest, by the median of how far off all are; each asks for a repeat."""
    map_ = np.asarray(values, float)
    off = np.abs(map_ - np.median(map_))
    scale = MAD_SCALE * float(np.median(off)) or MEAN_SCALE * float(off.mean())
    return off / scale > FAR if scale > 0 else np.zeros(len(map_), bool)


class Combined(Struct, frozen=True):
    """One value from several tests with its standard doubt, how far they differ beyond their own, and whether they
    contradict one another.
    """

    value: float
    doubt: float
    ratio: float

    @property
    def contradicts(self) -> bool:
        return self.ratio > CONTRADICTS


def combined(values: Sequence[float], doubts: Sequence[float]) -> Combined:
    """Several tests of one thing, each with its own standard doubt.

    values, doubts: in one unit (n,), doubts above nought

    Returns: their weighted mean; doubts grow where they differ more than they say. Raises: InputError. Source: dynamics
    8, Birge.
    """
    x, u = np.asarray(values, float), np.asarray(doubts, float)
    if not len(x) or len(x) != len(u):
        raise InputError("values", len(x), f"as many as doubts, {len(u)}, and one at the least")
    positive(doubts=u)
    weight = 1 / u**2
    middle = float((weight * x).sum() / weight.sum())
    doubt = float(1 / math.sqrt(weight.sum()))
    ratio = math.sqrt(float((((x - middle) / u) ** 2).sum()) / (len(x) - 1)) if len(x) > 1 else 0.0
    return Combined(middle, doubt * max(AGREES, ratio), ratio)
