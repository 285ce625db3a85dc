"""How a carriage runs along a rope: let go, hauled, braked and caught, how it swings and how it rolls."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import finite, not_negative, positive
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.units import AIR_DENSITY, GRAVITY

STEADY, COSINE, CYCLOID = "constant", "half_cosine", "cycloid"
SMALL = 0.25  # radians within which a pendulum is worked out


class Run(Struct, frozen=True):
    """A run by gravity: speed at each place it was asked for (n,), 0 beyond where it stops [m/s]; its greatest and
    where; where it stops, None where it reaches the end; its speed there.
    """

    speed: np.ndarray
    fastest: float
    fastest_at: float
    stops_at: float | None
    at_end: float


def gravity_run(
    x: np.ndarray,
    slope: np.ndarray,
    pull: np.ndarray,
    mass: float,
    *,
    rolling: float,
    moved: float | None = None,
    drag: float = 0.0,
    wind: float = 0.0,
    start: float = 0.0,
) -> Run:
    """Let go, a carriage runs down its way until friction and air have taken what the height gave.

    x: places evenly along the span in the order they are passed, an odd number (2 n + 1,) [m]
    slope: rise of the way over them, in that order (2 n + 1,) [-]
    pull: rise of what it is pulled by, the same where the rope is light (2 n + 1,) [-]
    mass: of the carriage [kg]
    moved: with what turns and what is dragged along, the same where not said [kg]
    rolling: friction of its wheels over weight [-]
    drag: air's, area times its coefficient [m^2]
    wind: against the way [m/s]
    start: speed at the first place [m/s]

    Returns: a `Run`. Raises: InputError. Source: dynamics 1.6; energy over the way by Runge-Kutta steps.
    """
    heavy = mass if moved is None else moved
    positive(mass=mass, moved=heavy)
    not_negative(rolling=rolling, drag=drag, start=start)
    finite(wind=wind)
    if len(x) < 3 or len(x) % 2 == 0:
        raise InputError("x", len(x), "must be an odd number of places, three or more")
    along = np.abs(x - x[0])
    stretch = np.hypot(1.0, slope)
    driving = (-2 * mass * GRAVITY / heavy * (np.asarray(pull) + rolling)).tolist()
    air = (AIR_DENSITY * drag / heavy * stretch).tolist()
    cosine = (wind / stretch).tolist()

    def gain(energy: float, k: int) -> float:
        through = math.sqrt(max(0.0, energy)) + cosine[k]
        return float(driving[k] - air[k] * through * abs(through))

    squares = np.zeros(len(x))
    squares[0] = now = start**2
    stops: float | None = None
    if now == 0.0 and gain(0.0, 0) <= 0.0:
        return Run(squares, 0.0, float(x[0]), float(x[0]), 0.0)
    step = float(along[2] - along[0])
    for k in range(0, len(x) - 2, 2):
        a = gain(now, k)
        b = gain(now + step * a / 2, k + 1)
        c = gain(now + step * b / 2, k + 1)
        d = gain(now + step * c, k + 2)
        after = now + step * (a + 2 * b + 2 * c + d) / 6
        if after <= 0.0:
            share = now / (now - after)
            stops = float(x[k] + share * (x[k + 2] - x[k]))
            squares[k + 1] = max(0.0, now + (after - now) / 2)
            break
        squares[k + 1], squares[k + 2] = now + (after - now) / 2, after
        now = after
    speed = np.sqrt(squares)
    top = int(speed.argmax())
    return Run(speed, float(speed[top]), float(x[top]), stops, 0.0 if stops is not None else float(speed[-1]))


class Caught(Struct, frozen=True):
    """How a spring catches it: its stroke [m], greatest force [N] and deceleration [m/s^2]."""

    stroke: float
    force: float
    slows: float


def end_buffer(mass: float, speed: float, rate: float, driven: float = 0.0) -> Caught:
    """A spring catches what runs into it.

    mass: that it catches [kg]
    speed: with which it comes [m/s]
    rate: of the spring [N/m]
    driven: force that still drives it on, minus for held back [N]

    Returns: how it is caught, a `Caught`. Raises: InputError. Source: dynamics 1.6.
    """
    positive(mass=mass, rate=rate)
    not_negative(speed=speed)
    finite(driven=driven)
    stroke = (driven + math.sqrt(driven**2 + rate * mass * speed**2)) / rate
    return Caught(stroke, rate * stroke, (rate * stroke - driven) / mass)


def swing_left(speed: float, time: float, length: float, shape: str = CYCLOID) -> float:
    """How far what hangs still swings to either side after its carriage was brought to a speed [rad].

    speed: reached [m/s]
    time: it takes [s]
    length: of the pendulum, from its pivot to what it swings about [m]
    shape: constant, half_cosine (of speed) or cycloid

    Returns: angle to either side [rad]. Raises: InputError. Source: dynamics 1.7, for small swings.
    """
    not_negative(speed=speed)
    positive(time=time, length=length)
    swings = math.sqrt(GRAVITY / length)
    return swings / GRAVITY * _kick(speed, swings * time, shape)


def _kick(speed: float, turned: float, shape: str) -> float:
    """The acceleration's share at the pendulum's own frequency [m/s], turned by that angle meanwhile [rad]."""
    half = turned / 2
    if shape == STEADY:
        return speed * abs(math.sin(half) / half)
    if shape == COSINE:
        ratio = turned / math.pi
        return speed * math.pi / 4 if abs(ratio - 1) < 1e-6 else speed * abs(math.cos(half) / (1 - ratio**2))
    if shape == CYCLOID:
        ratio = turned / (2 * math.pi)
        return speed / 2 if abs(ratio - 1) < 1e-6 else speed * abs(math.sin(half) / half / (1 - ratio**2))
    raise InputError("profile", repr(shape), f"must be {STEADY}, {COSINE} or {CYCLOID}")


def swing_under(times: np.ndarray, speeds: np.ndarray, length: float, held: float = 0.0) -> tuple[np.ndarray, float]:
    """Swing of what hangs while its carriage goes at those speeds, from rest.

    times: even steps (n,) [s]
    speeds: of the carriage (n,) [m/s]
    length: of the pendulum [m]
    held: square of the turning that the rope adds to its weight's pull back, a spring over its inertia [1/s]

    Returns: its angle (n,), plus where it is behind, and how far it swings on to either side afterwards [rad]. Source:
    dynamics 12; exact for acceleration that is constant from step to step.
    """
    positive(length=length)
    not_negative(held=held)
    spin = math.sqrt(GRAVITY / length + held)
    step = float(times[1] - times[0])
    cos, sin = math.cos(spin * step), math.sin(spin * step)
    hung = np.diff(speeds) / step / (length * spin**2)
    angle = np.zeros(len(times))
    now, rate = 0.0, 0.0
    for k, about in enumerate(hung.tolist()):
        off = now - about
        now, rate = about + off * cos + rate / spin * sin, rate * cos - off * spin * sin
        angle[k + 1] = now
    return angle, math.hypot(now, rate / spin)


def twin_roll(moment: float, stiffness: float, apart: float, mass: float, below: float) -> float:
    """How far a carriage on two ropes rolls [rad].

    moment: that turns it [N*m]
    stiffness: of each rope up and down where it stands [N/m]
    apart: both ropes [m]
    mass: of the carriage [kg]
    below: its centre under the ropes, minus for above [m]

    Returns: roll [rad]. Raises: InputError; InfeasibleError where it rolls over. Source: dynamics 1.7.
    """
    finite(moment=moment, below=below)
    not_negative(stiffness=stiffness, apart=apart)
    positive(mass=mass)
    holds = stiffness * apart**2 / 2 + mass * GRAVITY * below
    if holds <= 0:
        raise InfeasibleError("it rolls over: its centre is further above the ropes than they can hold it")
    return moment / holds
