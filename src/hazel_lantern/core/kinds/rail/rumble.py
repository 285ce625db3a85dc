"""Speeds to avoid: what shakes a carriage once in so much of its way, against what can swing."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from hazel_lantern.core.mechanics import vibration
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.figure import Curve, Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, WATCH, Finding, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

LOOKED_AT = 4.0  # times the move's speed
SHORTEST, LONGEST = 0.5, 36000.0  # seconds that a remedy may ask of a move

Line = tuple[str, float, int]  # its name, the way of one cycle [m], its order
Mode = tuple[str, float, float]  # its name, frequency [Hz], damping [-]


def rumble(
    move: Move, fastest: float, lines: Sequence[Line], modes: Sequence[Mode], given: tuple[Given, ...], *, suggest: bool
) -> Told:
    """The speed nearest to the move's `fastest` [m/s] at which a line meets a mode; both over speed as curves."""
    tell = Teller()
    if not modes or not lines or fastest <= 0:
        return tell.told()
    _over_speed(tell, fastest, lines, modes)
    clashes = vibration.clashes(lines, modes, 0.0, LOOKED_AT * fastest)
    # Inside a band it is that which counts, however near the next one's middle lies.
    hits = [c for c in clashes if c.low <= fastest <= c.high]
    nearest = min(hits or clashes, key=lambda c: abs(c.speed - fastest), default=None)
    if nearest is None:
        return tell.told()
    hit = bool(hits)
    tell.add(
        by_method(
            "travel.avoid",
            "Nearest speed to avoid",
            nearest.speed,
            "m/s",
            f"frequency times way of one cycle: {nearest.line} against the {nearest.mode}",
            given,
            source="dynamics 3.4, 7.1",
        )
    )
    words = (
        Words(
            f"At its fastest, {{}}, the {nearest.line} shakes the {nearest.mode} at its own frequency.",
            ((fastest, "m/s"),),
        )
        if hit
        else Words(
            f"The {nearest.line} would shake the {nearest.mode} at {{}}; this move runs at {{}}.",
            ((nearest.speed, "m/s"), (fastest, "m/s")),
        )
    )
    slower = _slower(move, fastest, clashes) if hit else 0.0
    tell.findings.append(
        Finding(
            "travel.speed",
            "Speeds to avoid",
            PICTURE,
            WATCH if hit else CLEAR,
            "shot.time",
            words,
            fastest,
            nearest.low if hit else nearest.speed,
            "at_most" if fastest < nearest.speed or hit else "at_least",
            "m/s",
            (set_one("time", "Take {}", "shot.time", slower, "s"),) if suggest and SHORTEST < slower <= LONGEST else (),
            figure="shot.speed",
        )
    )
    return tell.told()


def _slower(move: Move, fastest: float, clashes: Sequence[vibration.Clash]) -> float:
    """The shortest time, longer than the move's, in which its fastest lies in no band [s]; 0 where there is none."""
    speed = fastest
    for clash in sorted(clashes, key=lambda c: -c.high):
        if clash.low <= speed <= clash.high:
            speed = 0.97 * clash.low
    return math.ceil(move.duration_s * fastest / speed * 2) / 2 if 0 < speed < fastest else 0.0


def _over_speed(tell: Teller, fastest: float, lines: Sequence[Line], modes: Sequence[Mode]) -> None:
    """What shakes, over speed, and what can swing, which no speed changes."""
    top = max(2 * fastest, 1.3 * max(min(hz * way / order for _, way, order in lines) for _, hz, _ in modes))
    top = min(top, LOOKED_AT * fastest)
    high = 1.6 * max(hz for _, hz, _ in modes)
    for k, (name, way, order) in enumerate(lines):
        end = min(top, high * way / order)
        v = np.linspace(0.0, end, 25)
        key = "travel.rumble" if not k else f"travel.rumble.{name.split(',')[0]}{order if order > 1 else ''}"
        tell.curves[key] = Curve(key, name, v, order * v / way, "m/s", "Hz")
    for name, hz, _ in modes:
        key = f"travel.swings.{name}"
        tell.curves[key] = Curve(key, f"{name} swings", np.array([0.0, top]), np.array([hz, hz]), "m/s", "Hz")
