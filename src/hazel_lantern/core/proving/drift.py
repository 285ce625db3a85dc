"""Drift of an arm read backwards: how much its balance is off along and across, and which way which weight goes."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import finite, not_negative, positive
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.proving.repeats import SURE, Readings, t_of

ENOUGH = 5  # readings of which one may be left out
CLOSE = math.radians(5.0)  # angles within which two say the same
CLEARLY = 1 / 3  # of what all leave over, that the others must leave without one
STEPS = 2.0  # of the scale, that readings may be off what they say together


class Drift(Struct, frozen=True):
    """First moments of what is off, along the arm towards the camera and above it [kg*m], each with how far it may be
    off in 95 of 100 cases [kg*m], inf where too few were read; what readings leave over (n,) [N]; which of them was
    left out, -1 for none.
    """

    along: float
    above: float
    along_doubt: float
    above_doubt: float
    left: np.ndarray
    dropped: int = -1


def drift(angles: Readings, forces: Readings, radius: float, step: float = 0.0) -> Drift:
    """What holds an arm still at several angles, by first moments.

    angles: of the arm, camera end up (n,) [rad]
    forces: up at the camera end, square to the arm, so that it stays; the mean of raising and lowering (n,) [N]
    radius: of the hold from the pivot [m]
    step: of the scale [N]

    Returns: the balance that is off. Raises: InputError for angles too close together; InfeasibleError CONTRADICTORY
    for readings that no balance explains. Source: dynamics 8.6.
    """
    theta, force = np.asarray(angles, float), np.asarray(forces, float)
    finite(angle=theta, force=force)
    positive(hold_radius=radius)
    not_negative(scale_step=step)
    if len(theta) != len(force) or len(theta) < 2:
        raise InputError("angle", len(theta), "as many as forces, and two at the least")
    if np.ptp(theta) < CLOSE:
        raise InputError("angle", math.degrees(float(np.ptp(theta))), "degrees apart: read it at angles further apart")
    found, left = _fitted(theta, force, radius)
    kept, dropped = np.ones(len(theta), bool), -1
    far = STEPS * step
    if step > 0 and _rms(left) > far:
        if len(theta) < ENOUGH:
            raise InfeasibleError(_words(left), "CONTRADICTORY")
        without = [np.arange(len(theta)) != k for k in range(len(theta))]
        rests = [_rms(_fitted(theta[some], force[some], radius)[1]) for some in without]
        best = int(np.argmin(rests))
        if rests[best] >= CLEARLY * _rms(left):
            raise InfeasibleError(_words(left), "CONTRADICTORY")
        kept, dropped = without[best], best
        found, _ = _fitted(theta[kept], force[kept], radius)
        left = force - _model(theta, found, radius)
    doubts = _doubts(theta[kept], left[kept], radius, step)
    return Drift(float(found[0]), float(found[1]), doubts[0], doubts[1], left, dropped)


def _rows(theta: np.ndarray, radius: float) -> np.ndarray:
    return np.asarray(GRAVITY / radius * np.column_stack([np.cos(theta), -np.sin(theta)]))


def _model(theta: np.ndarray, found: np.ndarray, radius: float) -> np.ndarray:
    return np.asarray(_rows(theta, radius) @ found)


def _fitted(theta: np.ndarray, force: np.ndarray, radius: float) -> tuple[np.ndarray, np.ndarray]:
    rows = _rows(theta, radius)
    found = np.linalg.lstsq(rows, force, rcond=None)[0]
    return found, force - rows @ found


def _rms(left: np.ndarray) -> float:
    return float(np.sqrt((left**2).mean()))


def _words(left: np.ndarray) -> str:
    worst = int(np.argmax(np.abs(left)))
    return (
        f"the readings contradict one another: number {worst + 1} is {left[worst]:+.2f} N off what they say "
        "together; repeat it"
    )


def _doubts(theta: np.ndarray, left: np.ndarray, radius: float, step: float) -> tuple[float, float]:
    freedom = len(theta) - 2
    if freedom < 1:
        return math.inf, math.inf
    rows = _rows(theta, radius)
    spread = float((left**2).sum()) / freedom + step**2 / 12
    sides = np.sqrt(np.diag(np.linalg.inv(rows.T @ rows)) * spread) * t_of((1 + SURE) / 2, freedom)
    return float(sides[0]), float(sides[1])


class Correction(Struct, frozen=True):
    """What mends it, either of the first two: weight added at its place [kg], the weights slid out [m]; and the weights
    moved across, plus to the side above [m].
    """

    add: float
    slide_out: float
    across: float


def correction(along: float, above: float, mass: float, radius: float) -> Correction:
    """What the counterweight is changed by.

    along, above: first moments that are off [kg*m]
    mass: of the counterweight [kg]
    radius: how far behind the pivot it is [m]

    Returns: changes. Raises: InputError. Source: dynamics 8.6.
    """
    positive(counterweight_mass=mass, counterweight_radius=radius)
    return Correction(along / radius, along / mass, -above / mass)
