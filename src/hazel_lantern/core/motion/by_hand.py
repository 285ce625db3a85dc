"""A move by hand: marks to keep pace by, and what a stopwatch says of it."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import finite, positive
from hazel_lantern.core.nouns.errors import InputError

MOST_MARKS = 2000
FINEST = 1e-4  # metres that marks are rounded to
BEATS = (1.0, 2.0, 5.0, 10.0, 15.0, 30.0, 60.0, 120.0, 300.0, 600.0)  # seconds that people count by
SPACING, CLOSEST = 8e-3, 2e-3  # metres between marks, on average; closer than which a hand cannot tell them apart
MOST_LINES, FEWEST = 240, 4  # beats of one strip, at the most and at the least where it lasts so long
BAND = 0.1  # metres: radius of the disc that the strip of what turns is put round
LEAST_TIMES = 3  # of a stopwatch, for a mean with a spread


class PaceMarks(Struct, frozen=True):
    """Where to be at every beat (n,) [m], beats a minute, and whether the last beat is a shorter one."""

    at: np.ndarray
    beats: float
    odd: bool


def pace_marks(way: Callable[[np.ndarray], np.ndarray], total: float, time: float, beat: float) -> PaceMarks:
    """Marks for a pointer to be on, beat by beat.

    way: share of the way at shares of the time (n,) [-]
    total: length of the way, of either sign [m]
    time: duration [s]
    beat: between two marks [s]

    Returns: marks, each rounded to 0.1 mm from the start itself, the last at the end. Raises: InputError.
    Source: drive 4.8.
    """
    positive(T=time, dt=beat)
    finite(S=total)
    count = round(time / beat)
    if not 1 <= count <= MOST_MARKS:
        raise InputError("dt", beat, f"makes {count} beats of {time:g} s: 1 to {MOST_MARKS} can be marked")
    exact = total * np.asarray(way(np.minimum(np.arange(count + 1) * beat / time, 1.0)), float)
    exact[-1] = total
    return PaceMarks(to_mark(exact), 60 / beat, abs(time - count * beat) > 1e-9 * time)


def to_mark(exact: np.ndarray) -> np.ndarray:
    """Places as they are marked.

    exact: from the datum (n,) [m]

    Returns: each for itself rounded to 0.1 mm, halves away from the datum (n,) [m]. Source: drive 4.8.
    """
    return np.asarray(np.copysign(np.floor(np.abs(exact) / FINEST + 0.5 + 1e-9) * FINEST, exact))


def count_by(time: float, ways: Sequence[float]) -> float:
    """The beat [s] to count a move by: the shortest that leaves marks a hand can be on, along the
    longest of its ways; never so long that there are hardly any.

    time: duration [s]
    ways: that the pointers run over [m]

    Returns: one of a second upwards. Source: drive 4.8; the spacing is workshop judgement.
    """
    likely = [beat for beat in BEATS if time / beat <= MOST_LINES]
    usable = [beat for beat in likely if beat <= time / FEWEST] or likely[:1] or [BEATS[-1]]
    return next((beat for beat in usable if max(ways) * beat / time >= SPACING), usable[-1])


class Timed(Struct, frozen=True):
    """A speed by stopwatch [m/s], its share off the wanted one, the steps a metre that would mend it, and how far the
    mean may be off, as a share, in 95 of 100 cases.
    """

    speed: float
    off: float
    steps: float
    uncertainty: float


def timed(wanted: float, distance: float, times: Sequence[float], steps: float) -> Timed:
    """A measured distance timed several times.

    wanted: speed asked of the drive [m/s]
    distance: between the marks [m]
    times: read, three at the least (n,) [s]
    steps: that the drive takes for one metre now [1/m]

    Returns: what it comes to. Raises: InputError. Source: dynamics 8.13.
    """
    positive(commanded_speed=wanted, distance=distance, steps_per_metre=steps)
    if len(times) < LEAST_TIMES:
        raise InputError("times", len(times), f"{LEAST_TIMES} readings at the least")
    for time in times:
        positive(times=time)
    from scipy.special import stdtrit

    mean, spread = float(np.mean(times)), float(np.std(times, ddof=1))
    reach = float(stdtrit(len(times) - 1, 0.975)) * spread / math.sqrt(len(times))
    speed = distance / mean
    return Timed(speed, speed / wanted - 1, steps * wanted / speed, reach / mean)
