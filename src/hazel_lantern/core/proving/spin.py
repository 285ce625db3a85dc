"""Something let go that turns on, read backwards: what its bearings and the air hold it back with; its heavy side."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import finite, positive
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.proving.repeats import SURE, Readings, t_of

FOR_DRAG, FALLS = 10, 3.0  # turns, and times that it must slow down, for air and bearings to be told apart
FEWEST = 5
TRIES, DONE = 60, 1e-12
SHARES = (0.03, 0.1, 0.2, 0.35, 0.5, 0.65, 0.8, 0.9)


class Slowed(Struct, frozen=True):
    """What its bearings hold it back with [N*m], what the air does for each square of its speed [N*m*s^2], each with
    how far it may be off in 95 of 100 cases; whether the air could be told from the bearings.
    """

    friction: float
    drag: float
    friction_give: float
    drag_give: float
    told_apart: bool


def slowed(marks: Readings, inertia: float, turns: Readings | None = None, *, drag: bool = True) -> Slowed:
    """Times of whole turns after it was let go.

    marks: times (n,) [s]
    inertia: about its axis [kg*m^2]
    turns: how many turns each mark is at (n,), one after another where it is None [-]
    drag: whether the air is reckoned with, where it turns and slows enough to be told [-]

    Returns: friction and drag. Raises: InputError for too few marks or out of order; InfeasibleError CONTRADICTORY for
    something that does not slow down. Source: dynamics 8.11.
    """
    t = np.asarray(marks, float)
    round_ = np.arange(len(t), dtype=float) if turns is None else np.asarray(turns, float)
    finite(turn_marks_time=t, turns=round_)
    positive(inertia=inertia)
    if len(t) < FEWEST or len(t) != len(round_):
        raise InputError("turn_marks_time", len(t), f"{FEWEST} at the least, one for each turn")
    if (np.diff(t) <= 0).any() or (np.diff(round_) <= 0).any():
        raise InputError("turn_marks_time", float(t[int(np.argmin(np.diff(t)))]), "must grow from turn to turn")
    angle = 2 * math.pi * round_
    rates = np.diff(angle) / np.diff(t)
    fast, slow = 1.5 * rates[0] - 0.5 * rates[1], 1.5 * rates[-1] - 0.5 * rates[-2]
    enough = len(t) > FOR_DRAG and fast >= FALLS * slow
    if drag and enough:
        found = _with_air(t - t[0], angle - angle[0], inertia)
        if found is not None:
            return found
    (p, *_), cov = np.polyfit(t, angle, 2, cov=True)
    if p >= 0:
        raise InfeasibleError("it turns faster as it goes on: the readings contradict one another", "CONTRADICTORY")
    give = 2 * math.sqrt(float(cov[0, 0])) * inertia * t_of((1 + SURE) / 2, len(t) - 3)
    return Slowed(-2 * float(p) * inertia, 0.0, give, math.inf, told_apart=False)


def _turned(t: np.ndarray, start: float, rate: float, a: float, c: float) -> np.ndarray:
    """Angle at times (n,) of what slows by a + c times the square of its rate."""
    root = math.sqrt(a * c)
    phase = math.atan(rate * math.sqrt(c / a))
    inside = np.maximum(np.cos(np.clip(phase - root * t, -1.57, 1.57)), 1e-12)
    return np.asarray(start + np.log(inside / math.cos(phase)) / c)


def _with_air(t: np.ndarray, angle: np.ndarray, inertia: float) -> Slowed | None:
    """Start, rate and logarithms of both decelerations, by damped Gauss-Newton over times, not angles: a mark is late,
    not a turn too long. None where it does not settle.
    """
    fast, slow = (float(np.polyfit(t[part], angle[part], 1)[0]) for part in (slice(0, 4), slice(-4, None)))
    slows, middle = (fast - slow) / float(t[-1] - t[0]), (fast**2 + fast * slow + slow**2) / 3

    def left(p: np.ndarray) -> np.ndarray:
        a, c = math.exp(p[2]), math.exp(p[3])
        away = _turned(t, p[0], p[1], a, c) - angle
        now = np.sqrt(
            np.maximum(
                p[1] ** 2 * np.exp(-2 * c * (angle - p[0])) - a / c * (1 - np.exp(-2 * c * (angle - p[0]))),
                (0.05 * p[1]) ** 2,
            )
        )
        return np.asarray(away / now)

    # Whatever share of its slowing is the bearings' that fits best is begun with.
    starts = [
        np.array([0.0, 1.1 * fast, math.log(share * slows), math.log((1 - share) * slows / middle)]) for share in SHARES
    ]
    at = min(starts, key=lambda one: float((left(one) ** 2).sum()))
    damp, now = 1e-3, left(at)
    steep = np.zeros((len(t), 4))
    for _ in range(TRIES):
        for k in range(4):
            step = 1e-6 * max(1.0, abs(at[k]))
            moved = at.copy()
            moved[k] += step
            steep[:, k] = (left(moved) - now) / step
        square = steep.T @ steep
        change = np.linalg.lstsq(square + damp * np.diag(np.diag(square) + 1e-12), -steep.T @ now, rcond=None)[0]
        then = left(at + np.clip(change, -1.0, 1.0))
        if (then**2).sum() < (now**2).sum():
            better = 1 - (then**2).sum() / max((now**2).sum(), 1e-300)
            at, now, damp = at + np.clip(change, -1.0, 1.0), then, damp / 5
            if better < DONE:
                break
        else:
            damp *= 4
            if damp > 1e12:
                break
    freedom = len(t) - 4
    spread = float((now**2).sum()) / freedom
    cov = spread * np.linalg.pinv(steep.T @ steep)
    t95 = t_of((1 + SURE) / 2, freedom)
    a, c = math.exp(at[2]), math.exp(at[3])
    sides = t95 * np.sqrt(np.maximum(np.diag(cov), 0.0)) * np.array([1, 1, a, c])
    if not np.isfinite(sides).all() or sides[2] > a:  # bearings and air cannot be told apart after all
        return None
    return Slowed(a * inertia, c * inertia, float(sides[2]) * inertia, float(sides[3]) * inertia, told_apart=True)


def swings_about(inertia: float, period: float, tilt: float) -> float:
    """Unbalance of what swings about an axis that is tilted; the side that settles lowest is heavy.

    inertia: about the axis [kg*m^2]
    period: of small swings [s]
    tilt: of the axis from plumb [rad]

    Returns: unbalance [kg*m]. Raises: InputError. Source: dynamics 8.12.
    """
    positive(inertia=inertia, period=period, axis_tilt=tilt)
    if tilt >= math.pi / 2:
        raise InputError("axis_tilt", tilt, "must be less than a right angle")
    return 4 * math.pi**2 * inertia / (period**2 * GRAVITY * math.sin(tilt))
