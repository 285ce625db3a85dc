"""A hand that follows a move: how near it kept, how evenly, how it arrived, and one thing to do better."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import finite, positive
from hazel_lantern.core.nouns.errors import InputError

FEWEST, MOST = 12, 50.0  # readings of a trace; readings a second that are looked at
BAND = 0.12  # of the move's greatest speed that passes, either way
LEAST_BAND = 0.02  # metres a second that nobody sees
LATE, FAR, SAWTOOTH, DRIFTS = 0.18, 0.02, 0.9, 0.03  # seconds; of the way; of the greatest speed a second; of the way
SMOOTH = 0.12  # seconds that a hand's own shiver is evened over
WEIGHS = (0.45, 0.2, 0.2, 0.15)  # of points: framing, speed, evenness, arrival


class Pace(Struct, frozen=True):
    """A trace scored: points of a hundred; the share of the time within the band of speed [-]; how far it was off its
    place, root of mean square [m], and what that is in the picture [px]; how far off its speed [m/s]; how unevenly it
    was pushed [m/s^2]; how late it began [s]; where it ended off the mark [m]; whether it gained or lost on the way
    [m]; and a suggestion. At times (n,) [s] its speed and the wanted one [m/s].
    """

    points: int
    within: float
    off: float
    pixels: float
    speed_off: float
    uneven: float
    late: float
    arrives: float
    gains: float
    advice: str
    times: np.ndarray
    speed: np.ndarray
    wanted: np.ndarray
    band: float


def scored(
    times: np.ndarray,
    places: np.ndarray,
    way: Callable[[np.ndarray], np.ndarray],
    duration: float,
    length: float,
    pixels: float = 0.0,
) -> Pace:
    """A hand's trace held against the move.

    times, places: of the trace (n,), from the cue on [s, m]
    way: share of the move's way at shares of its time
    duration: of the move [s]
    length: of its way, above nought [m]
    pixels: that the picture shifts for a metre off the place [px/m]

    Returns: points and what they are made of. Raises: InputError for a trace too short, or out of order. Source:
    workshop judgement; every part alone ranks an even, punctual hand above a late, an uneven or a drifting one.
    """
    positive(duration=duration, length=length)
    t, x = np.asarray(times, float), np.asarray(places, float)
    finite(times=t, places=x)
    if len(t) < FEWEST or len(t) != len(x):
        raise InputError("trace", len(t), f"readings: {FEWEST} at the least, a place for each time")
    if (np.diff(t) <= 0).any():
        raise InputError("trace", "out of order", "times must grow: the clock jumped")
    if t[-1] < 0.5 * duration:
        raise InputError("trace", f"{t[-1]:.1f} s", f"half of the move at the least, {duration / 2:.1f} s")
    even = np.arange(0.0, max(t[-1], duration), 1 / MOST)
    at = np.interp(even, t, x)
    wanted_at = length * np.asarray(way(np.clip(even / duration, 0, 1)), float)
    wide = max(3, int(SMOOTH * MOST) | 1)
    smooth = np.convolve(np.pad(at, wide // 2, mode="edge"), np.ones(wide) / wide, mode="valid")[: len(at)]
    speed, wanted = np.gradient(smooth, even), np.gradient(wanted_at, even)
    top = float(np.abs(wanted).max())
    band = max(BAND * top, LEAST_BAND)
    during = even <= duration
    within = float((np.abs(speed - wanted) <= band)[during].mean())
    late = _late(even, at, wanted_at, length)
    shifted = np.interp(even - late, even, wanted_at)
    own = at - shifted  # what is left once its lateness is taken off
    off = float(np.sqrt(((at - wanted_at)[during] ** 2).mean()))
    speed_off = float(np.sqrt(((speed - wanted)[during] ** 2).mean()))
    uneven = float(np.sqrt((np.gradient(speed - np.interp(even - late, even, wanted), even)[during] ** 2).mean()))
    arrives = float(at[-1] - length)
    middle = during & (even > 0.25 * duration) & (even < 0.9 * duration)
    gains = float(np.polyfit(even[middle], own[middle], 1)[0] * duration) if middle.sum() > 3 else 0.0
    parts = (
        max(0.0, 1 - off / (0.06 * length)),
        within,
        max(0.0, 1 - uneven / (2.2 * top)),
        max(0.0, 1 - abs(arrives) / (0.06 * length)),
    )
    points = round(100 * sum(share * part for share, part in zip(WEIGHS, parts, strict=True)))
    advice = _advice(late, uneven / top if top else 0.0, arrives / length, gains / length, within)
    return Pace(
        points, within, off, off * pixels, speed_off, uneven, late, arrives, gains, advice, even, speed, wanted, band
    )


def _late(even: np.ndarray, at: np.ndarray, wanted: np.ndarray, length: float) -> float:
    """How much later than the move the hand was under way, at a tenth of the way [s]."""
    mark = 0.1 * length
    if at.max() < mark:
        return 0.0
    return float(even[int(np.argmax(at >= mark))] - even[int(np.argmax(wanted >= mark))])


def _advice(late: float, uneven: float, arrives: float, gains: float, within: float) -> str:
    """One thing to do better: the fault that is worst beside what passes."""
    faults = (
        (late / LATE, f"You began {late:.1f} s late: breathe in on the count, and be moving as the last number falls."),
        (-late / LATE, f"You began {-late:.1f} s early: let the cue come to you."),
        (
            uneven / SAWTOOTH,
            "Your push saws: a longer grip, arm still, and go from the hips and feet; look at the next mark but one.",
        ),
        (arrives / FAR, "You ran past the end: begin to ease off two marks before it."),
        (-arrives / FAR, "You stopped short of the end: keep going until the mark is under the pointer."),
        (gains / DRIFTS, "You grew faster on the way: count aloud with the beat, and touch each mark on it."),
        (-gains / DRIFTS, "You grew slower on the way: count aloud with the beat, and touch each mark on it."),
    )
    size, words = max(faults)
    if size >= 1:
        return words
    return (
        "Steady. Do it once more like that."
        if within > 0.8
        else "Near. Watch the speed, not the place: the place follows."
    )


HANDS = ("steady", "late", "jerky", "drifting")


def hand(
    sort: str, way: Callable[[np.ndarray], np.ndarray], duration: float, length: float, seed: int
) -> tuple[np.ndarray, np.ndarray]:
    """A simulated hand on an encoder: times and places of one that is steady, late, jerky or drifting.

    Raises InputError for another sort.
    """
    if sort not in HANDS:
        raise InputError("hand", repr(sort), "must be one of " + ", ".join(HANDS))
    chance = np.random.default_rng(seed)
    t = np.arange(0.0, duration + 0.6, 0.02)
    late = 0.05 if sort != "late" else float(chance.uniform(0.5, 0.8))
    pace = 1.0 if sort != "drifting" else float(chance.uniform(1.12, 1.2))
    x = length * np.asarray(way(np.clip((t - late) / duration * pace, 0, 1)), float)
    wander = np.cumsum(chance.normal(0, 1, len(t)))
    wander -= np.linspace(wander[0], wander[-1], len(t))
    x = x + 0.002 * length * wander / max(1.0, np.abs(wander).max())
    if sort == "jerky":
        inside = np.sin(np.pi * np.clip((t - late) / duration, 0, 1))
        x = x + 0.012 * length * inside * np.sin(2 * np.pi * 2.2 * t + float(chance.uniform(0, 6)))
    return t, np.asarray(x)
