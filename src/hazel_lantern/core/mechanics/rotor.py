"""What turns about an upright axis: its unbalance, what it does to hub and base, how it coasts, where a part flies."""

from __future__ import annotations

import cmath
import math
from collections.abc import Sequence
from typing import Literal

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import finite, not_negative, positive
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError, RefusedError
from hazel_lantern.core.nouns.units import AIR_DENSITY, GRAVITY

Masses = Sequence[Sequence[float]]  # each: mass [kg], radius [m], azimuth [rad], height [m]
LIMITED_DRIVES = ("battery_limited", "hand")
REFUSED_DRIVES = ("mains_tool", "combustion", "unlimited")
OK, CAUTION, STOP = "OK", "CAUTION", "STOP"
# Tip speed [m/s], energy [J] and side load [g], each with a person in reach and without: caution above, stop above.
LIMITS = {
    "tip_speed": ((1.5, 3.0), (3.0, 6.0)),
    "energy": ((10.0, 60.0), (60.0, 300.0)),
    "side_load": ((0.2, 0.5), (0.5, 1.0)),
}
CLOSE = (0.8, 1.2)  # between which the two ways to reckon a trial must agree


class Turning(Struct, frozen=True):
    """What turning masses ask of their hub: static unbalance [kg*m] and couple unbalance [kg*m^2] as vectors that turn
    with them, force across the axis [N], moment about the hub [N*m], weight [N], inertia about the axis [kg*m^2].
    """

    unbalance: complex
    couple: complex
    force: float
    moment: float
    weight: float
    inertia: float


def turning(masses: Masses, spin: float, reference: float = 0.0) -> Turning:
    """Point masses round an axis, a beam as its two halves at their own centres.

    masses: rows of mass [kg], radius, azimuth, height (n, 4) [m, rad, m]
    spin: turns a second times 2 pi [rad/s]
    reference: height of the hub, or of the floor for what tips its base [m]

    Returns: the sums, a `Turning`. Raises: InputError. Source: dynamics 2; weight and pull outwards bend the hub in one
    plane.
    """
    rows = _rows(masses)
    finite(spin=spin, reference=reference)
    m, r, around, z = rows.T
    arms = m * r * np.exp(1j * around)
    unbalance, couple = complex(arms.sum()), complex((arms * (z - reference)).sum())
    return Turning(
        unbalance,
        couple,
        spin**2 * abs(unbalance),
        abs(GRAVITY * unbalance + spin**2 * couple),
        float(m.sum()) * GRAVITY,
        float((m * r**2).sum()),
    )


def _rows(masses: Masses) -> np.ndarray:
    rows = np.asarray([list(row) for row in masses], float)
    if rows.ndim != 2 or rows.shape[1] != 4 or not len(rows):
        raise InputError("masses", len(rows), "must be rows of mass, radius, azimuth and height")
    finite(masses=rows)
    if (rows[:, 0] < 0).any() or (rows[:, 1] < 0).any():
        raise InputError("masses", rows[:, :2].min(), "masses and radii must not be below zero")
    if not rows[:, 0].any():
        raise InputError("masses", 0.0, "at least one must weigh something")
    return rows


class Base(Struct, frozen=True):
    """How a base stands under what turns on it: where its weight acts off the axis [m], and how many times more tips
    it, infinite where it is balanced.
    """

    offset: float
    factor: float


def base_tipping(masses: Masses, spin: float, weight: float, inscribed: float) -> Base:
    """A base on level ground about its weakest side, whichever way the beam points.

    masses: rows of mass [kg], radius, azimuth, height above the floor (n, 4) [m, rad, m]
    spin: turns a second times 2 pi [rad/s]
    weight: of all of it, base too [N]
    inscribed: from the axis to the nearest edge of its feet [m]

    Returns: offset and factor, a `Base`. Raises: InputError. Source: dynamics 2.
    """
    positive(weight=weight, inscribed=inscribed)
    moment = turning(masses, spin).moment
    return Base(moment / weight, weight * inscribed / moment if moment > 0 else math.inf)


class Coast(Struct, frozen=True):
    """How long something let go turns on [s] and how many turns."""

    time: float
    turns: float


def coast(inertia: float, spin: float, friction: float, drag: float = 0.0) -> Coast:
    """Let go at a speed, held back by bearings and air.

    inertia: about the axis [kg*m^2]
    spin: at which it is let go [rad/s]
    friction: of its bearings [N*m]
    drag: air's, times the square of the speed [N*m*s^2]

    Returns: time and turns, a `Coast`. Raises: InputError; without friction it never stops. Source: dynamics 2.
    """
    positive(inertia=inertia, friction=friction)
    not_negative(spin=spin, drag=drag)
    if drag * spin**2 < 1e-9 * friction:
        return Coast(inertia * spin / friction, inertia * spin**2 / (2 * friction) / (2 * math.pi))
    time = inertia / math.sqrt(friction * drag) * math.atan(spin * math.sqrt(drag / friction))
    angle = inertia / (2 * drag) * math.log1p(drag * spin**2 / friction)
    return Coast(time, angle / (2 * math.pi))


def air_drag(faces: Sequence[tuple[float, float, float]], halves: Sequence[tuple[float, float]] = ()) -> float:
    """How much air holds back what turns, by the square of its speed.

    faces: of things at one radius: area [m^2], drag coefficient [-], radius [m]
    halves: of beams from the axis outwards: height of face [m], length [m]

    Returns: torque over speed squared [N*m*s^2]. Raises: InputError. Source: dynamics 2.
    """
    half = 0.5 * AIR_DENSITY
    return half * (sum(a * cd * r**3 for a, cd, r in faces) + sum(1.2 * h * long**4 / 4 for h, long in halves))


class Flight(Struct, frozen=True):
    """A part let go at the tip: its speed [m/s], how far it flies at most [m], the circle nobody enters [m]."""

    speed: float
    distance: float
    exclusion: float


def flight(spin: float, radius: float, height: float, factor: float = 1.5) -> Flight:
    """Where a part let go comes down, thrown at the worst angle.

    spin: turns a second times 2 pi [rad/s]
    radius: of the tip [m]
    height: of the tip above the ground [m]
    factor: for roll and bounce [-]

    Returns: speed, distance and circle, a `Flight`. Raises: InputError. Source: dynamics 2; a screening.
    """
    not_negative(spin=spin, radius=radius)
    positive(height=height, factor=factor)
    speed = spin * radius
    far = speed / GRAVITY * math.sqrt(speed**2 + 2 * GRAVITY * height)
    return Flight(speed, far, factor * math.hypot(radius, far))


def verdict(
    tip_speed: float,
    energy: float,
    side_load: float,
    *,
    inside: bool,
    drive: str = "battery_limited",
    rider: bool = False,
) -> Literal["OK", "CAUTION", "STOP"]:
    """Whether something home-built may turn so fast.

    tip_speed: of what is furthest out [m/s]
    energy: stored in all that turns [J]
    side_load: pull outwards over weight [-]
    inside: whether anybody, also who is filmed, is within its circle
    drive: battery_limited, hand, mains_tool, combustion or unlimited
    rider: whether somebody rides on it

    Returns: the worst of the three. Raises: InputError; RefusedError for drives that cannot be held, and riders.
    Source: dynamics 2, values at a limit count below it.
    """
    not_negative(tip_speed=tip_speed, energy=energy, radial_acceleration_over_g=side_load)
    if drive not in (*LIMITED_DRIVES, *REFUSED_DRIVES):
        raise InputError("drive", drive, "choose one of " + ", ".join((*LIMITED_DRIVES, *REFUSED_DRIVES)))
    if drive in REFUSED_DRIVES:
        raise RefusedError(
            "nothing that turns here is driven by a mains tool, an engine or a motor without a limit", "DRIVE"
        )
    if rider:
        raise RefusedError("nobody rides on what turns", "RIDER")
    found = (OK, CAUTION, STOP)
    worst = 0
    for key, value in (("tip_speed", tip_speed), ("energy", energy), ("side_load", side_load)):
        caution, stop = LIMITS[key][0 if inside else 1]
        worst = max(worst, (value > caution) + (value > stop))
    return found[worst]  # type: ignore[return-value]


class Heavy(Struct, frozen=True):
    """What three trial runs found: the unbalance that was there [kg*m], and how far round from where the first trial
    sat its heavy side lies [rad].
    """

    unbalance: float
    angle: float


def three_runs(plain: float, trials: tuple[float, float, float], trial: float) -> Heavy:
    """The heavy side from how strongly it shakes alone and with a trial weight at 0, 120 and 240 degrees, all at one
    speed.

    plain: shake without a trial weight, any unit [-]
    trials: shake with it at 0, 120 and 240 degrees, in the same unit (3,) [-]
    trial: unbalance of the trial weight [kg*m]

    Returns: unbalance and its angle, a `Heavy`. Raises: InputError; InfeasibleError where the trial was too small to be
    told, or the four do not agree. Source: dynamics 8.12.
    """
    positive(amplitude_no_trial=plain, trial_unbalance=trial)
    not_negative(amplitude_trial=np.asarray(trials, float))
    a1, a2, a3 = (value**2 for value in trials)
    effect = (a1 + a2 + a3) / 3 - plain**2
    if effect <= 0:
        raise InfeasibleError("the trial weight is too small to be told from what was there", "TRIAL_TOO_SMALL")
    sine, cosine = (a2 - a3) / (2 * math.sqrt(3)), (2 * a1 - a2 - a3) / 6
    close = math.hypot(sine, cosine) / (plain * math.sqrt(effect))
    if not CLOSE[0] <= close <= CLOSE[1]:
        raise InfeasibleError("the four runs do not agree: repeat them at one steady speed", "CONTRADICTORY")
    return Heavy(trial * plain / math.sqrt(effect), cmath.phase(complex(cosine, sine)))
