"""Wheels over steps and gaps, and sticking at slow speed."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns import elementwise as ew
from hazel_lantern.core.nouns.check import not_negative, positive
from hazel_lantern.core.nouns.elementwise import Numbers
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.units import GRAVITY


class Bump(Struct, frozen=True):
    """A step up: time of the rise [s], upward kick [m/s], force to climb it from rest [N]; arrays for arrays."""

    rise: float
    kick: float
    climb: float


def step(diameter: Numbers, height: Numbers, speed: Numbers, load: Numbers = 0.0) -> Bump:
    """A rigid wheel over a step up.

    diameter: of the wheel [m]
    height: of the step [m]
    speed: of the wheel [m/s]
    load: on the wheel [N]

    Returns: the bump, a `Bump`. Raises: InputError, InfeasibleError for a step of half the wheel and more. Source:
    dynamics 3.1.
    """
    positive(wheel_diameter=diameter, speed=speed)
    not_negative(step_height=height, wheel_load=load)
    radius = diameter / 2
    if ew.some(height >= radius):
        raise InfeasibleError(
            "a wheel cannot climb a step of half its own height",
            "STEP_TOO_HIGH",
            step_height=ew.first(radius, height >= radius),
        )
    before = ew.sqrt(height * (2 * radius - height))
    return Bump(before / speed, speed * before / (radius - height), load * before / (radius - height))


def over_step(diameter: float, height: float, count: int = 60) -> tuple[np.ndarray, np.ndarray]:
    """The way of a rigid wheel's middle up a step.

    diameter: of the wheel [m]
    height: of the step, under half of that [m]
    count: of places [-]

    Returns: places from where it first meets the edge (count,), heights (count,) [m]. Raises: InfeasibleError. Source:
    circle about the edge.
    """
    step(diameter, height, 1.0)
    radius = diameter / 2
    before = math.sqrt(height * (2 * radius - height))
    x = np.linspace(0.0, before, count)
    return x, np.sqrt(radius**2 - (before - x) ** 2) - (radius - height)


def over_gap(diameter: float, width: float, count: int = 61) -> tuple[np.ndarray, np.ndarray]:
    """The way of a rigid wheel's middle over a gap.

    diameter: of the wheel [m]
    width: of the gap, under that [m]
    count: of places [-]

    Returns: places from the first edge (count,), heights (count,), below zero [m]. Raises: InfeasibleError. Source:
    circles about either edge.
    """
    gap(diameter, width, 1.0)
    x = np.linspace(0.0, width, count)
    return x, np.sqrt((diameter / 2) ** 2 - np.minimum(x, width - x) ** 2) - diameter / 2


def carries_over(diameter: float, height: float, load: float, mass: float) -> float:
    """The least speed at which an axle rolls over a step without a push.

    diameter: of the wheels [m]
    height: of the step [m]
    load: on the axle [N]
    mass: of all that rolls [kg]

    Returns: speed [m/s]. Raises: InputError, InfeasibleError. Source: dynamics 3.1; the axle's load is lifted, and what
    it is kicked up with is lost.
    """
    positive(mass=mass, load=load)
    kick = float(step(diameter, height, 1.0).kick)
    left = mass - load / GRAVITY * kick**2  # of twice the energy at 1 m/s
    if left <= 0:
        raise InfeasibleError("no speed carries it over: the kick takes all of it", "STEP_TOO_HIGH")
    return math.sqrt(2 * load * height / left)


class Dip(Struct, frozen=True):
    """A gap: how far the wheel dips [m] and the kick as it climbs out [m/s]; arrays for arrays."""

    depth: float
    kick: float


def gap(diameter: Numbers, width: Numbers, speed: Numbers) -> Dip:
    """A rigid wheel over a gap.

    diameter: of the wheel [m]
    width: of the gap [m]
    speed: of the wheel [m/s]

    Returns: the dip, a `Dip`. Raises: InputError, InfeasibleError for a gap as wide as the wheel. Source: dynamics 3.1.
    """
    positive(wheel_diameter=diameter, speed=speed)
    not_negative(gap_width=width)
    radius = diameter / 2
    if ew.some(width >= diameter):
        raise InfeasibleError(
            "the wheel falls into a gap as wide as itself",
            "GAP_TOO_WIDE",
            gap_width=ew.first(diameter, width >= diameter),
        )
    under = ew.sqrt(radius**2 - width**2 / 4)
    return Dip(radius - under, 2 * speed * (width / 2) / under)


def wheel_for_step(height: Numbers, speed: Numbers, allowed: Numbers) -> Numbers:
    """Smallest wheel that takes a step with at most this kick.

    height: of the step [m]
    speed: of the wheel [m/s]
    allowed: kick [m/s]

    Returns: diameter [m]. Raises: InputError. Source: dynamics 3.1 turned round.
    """
    positive(step_height=height, speed=speed, allowed_kick_speed=allowed)
    t = allowed / speed
    return 2 * height / (1 - 1 / ew.sqrt(1 + t * t))


def wheel_for_gap(width: Numbers, speed: Numbers, allowed: Numbers) -> Numbers:
    """Smallest wheel that takes a gap with at most this kick.

    width: of the gap [m]
    speed: of the wheel [m/s]
    allowed: kick [m/s]

    Returns: diameter [m]. Raises: InputError. Source: dynamics 3.1 turned round.
    """
    positive(gap_width=width, speed=speed, allowed_kick_speed=allowed)
    t = allowed / (2 * speed)
    return width * ew.sqrt(1 + t * t) / t


def push(weight: Numbers, rolling: Numbers, slope: Numbers = 0.0) -> Numbers:
    """Force that keeps a carriage rolling at steady speed.

    weight: carriage and payload [N]
    rolling: rolling coefficient [-]
    slope: rising [rad]

    Returns: force [N]. Raises: InputError. Source: dynamics 3.2.
    """
    not_negative(weight=weight, rolling=rolling)
    return weight * (ew.sin(slope) + rolling * ew.cos(slope))


def stick_slip(drop: float, stiffness: float, mass: float, damping: float) -> float:
    """Speed below which a load pulled through something springy sticks and jumps.

    drop: static minus running friction [N]
    stiffness: of the drive, cord or hand [N/m]
    mass: of the load [kg]
    damping: damping ratio of the drive, above 0 [-]

    Returns: speed [m/s]. Raises: InputError; without damping it sticks at any speed. Source: dynamics 3.6, exact cycle.
    """
    positive(drive_stiffness=stiffness, mass=mass, damping_ratio=damping)
    not_negative(static_minus_kinetic_friction=drop)
    if damping >= 1:
        raise InputError("damping_ratio", damping, "must be less than 1")
    if drop == 0:
        return 0.0
    scale = drop / math.sqrt(stiffness * mass)
    low, high = 1e-9, 1.0
    while _sticks(high, damping):
        high *= 2
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if _sticks(middle, damping) else (low, middle)
    return scale * high


def _sticks(pace: float, damping: float) -> bool:
    """Whether a load that broke away at this pace (speed over its scale) comes to rest against the rail again."""
    # In time w t and length drop/k the load moves freely with damping; it sticks when its own speed falls to
    # minus the pace.
    w = math.sqrt(1 - damping**2)
    stretch, speed = -(1 - 2 * damping * pace), -pace
    # Speed v(t) = e^(-zt) (a cos wt - b sin wt) turns where its slope is zero; the first turn is the fastest, the
    # next the slowest.
    a, b = speed, (stretch + damping * speed) / w
    first = math.atan2(damping * a + w * b, damping * b - w * a) / w
    while first <= 1e-12:
        first += math.pi / w
    values = [
        math.exp(-damping * t) * (a * math.cos(w * t) - b * math.sin(w * t)) for t in (first, first + math.pi / w)
    ]
    return min(values) < -pace
