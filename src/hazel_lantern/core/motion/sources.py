"""What motors and hands give at a speed: torque, the slowest they run smoothly, how fine they step."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import not_negative, positive
from hazel_lantern.core.nouns.elementwise import Numbers
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError

DIALLED_FLOOR, HELD_FLOOR, RIPPLE = (
    0.10,
    0.02,
    0.05,
)  # of no-load speed, of it with an encoder; of speed, workshop judgement


class Stepper(Struct, frozen=True):
    """A stepper and its driver: holding torque with both phases on [N*m] at its current [A], resistance [ohm] and
    inductance [H] of a phase, supply [V], full steps a turn.
    """

    holding: float
    current: float
    resistance: float
    inductance: float
    supply: float
    steps: float = 200.0


def pull_out(motor: Stepper, speed: Numbers) -> np.ndarray:
    """Most torque a stepper gives at a speed, bounded by its current and by what the supply drives through the coils.

    motor: stepper and its driver
    speed: of its shaft (n,) [rad/s]

    Returns: torque (n,) [N*m]. Raises: InputError. Source: drive 1.9.
    """
    positive(
        holding=motor.holding,
        current=motor.current,
        resistance=motor.resistance,
        supply=motor.supply,
        steps=motor.steps,
    )
    not_negative(inductance=motor.inductance)
    w = np.abs(np.asarray(speed, float))
    k = motor.holding / (math.sqrt(2) * motor.current)
    x, r, most = motor.steps / 4 * w * motor.inductance, motor.resistance, motor.current
    z2 = r * r + x * x
    d, q = -x * k * w / z2, -r * k * w / z2  # middle of what the supply can drive, in the plane of both currents
    reach = motor.supply / np.sqrt(z2)
    flat = d * d + (most - q) ** 2 <= reach**2
    top = q + reach
    inside = d * d + top * top <= most**2
    far = np.maximum(np.hypot(d, q), 1e-150)
    along = (most**2 - reach**2 + far**2) / (2 * far)
    aside = np.sqrt(np.maximum(most**2 - along**2, 0.0))
    crossing = along * q / far + aside * np.abs(d) / far
    met = np.abs(along) <= most
    given = np.where(flat, most, np.where(inside, top, np.where(met, crossing, 0.0)))
    return np.asarray(np.maximum(k * given, 0.0))


def step_lag(motor: Stepper, torque: float) -> float:
    """How far a stepper hangs back under a steady torque.

    motor: stepper and its driver
    torque: held [N*m]

    Returns: angle [rad]. Raises: InputError; InfeasibleError `STALL` beyond its holding torque. Source: drive 1.9.
    """
    positive(holding=motor.holding, steps=motor.steps)
    if abs(torque) > motor.holding:
        raise InfeasibleError(
            "the load is more than the stepper holds", "STALL", holding=motor.holding, needed=abs(torque)
        )
    return math.asin(torque / motor.holding) / (motor.steps / 4)


def rotor_resonance(motor: Stepper, inertia: float) -> float:
    """How fast a stepper's shaft rings about a step.

    motor: stepper and its driver
    inertia: of all that its shaft feels [kg*m^2]

    Returns: frequency [Hz]. Raises: InputError. Source: drive 1.9.
    """
    positive(holding=motor.holding, inertia=inertia, steps=motor.steps)
    return math.sqrt(motor.steps / 4 * motor.holding / inertia) / (2 * math.pi)


def dialled_torque(no_load: float, stall: float, speed: Numbers, duty: float = 1.0) -> np.ndarray:
    """Torque of a gearmotor on a dial.

    no_load: speed of its shaft without a load, full on [rad/s]
    stall: torque that stops it, full on [N*m]
    speed: of its shaft (n,) [rad/s]
    duty: how far it is dialled up, above 0, at most 1 [-]

    Returns: torque (n,), 0 beyond what it runs at [N*m]. Raises: InputError. Source: drive 1.9.
    """
    positive(no_load=no_load, stall=stall, duty=duty)
    if duty > 1:
        raise InputError("duty", duty, "must be at most 1")
    return np.asarray(np.maximum(stall * (duty - np.abs(np.asarray(speed, float)) / no_load), 0.0))


def dialled_floor(no_load: float, stall: float, ripple: float, *, encoder: bool = False) -> float:
    """The slowest a gearmotor turns smoothly: below it pulses, or a change of load shows in its speed.

    no_load: speed without a load, full on [rad/s]
    stall: torque that stops it, full on [N*m]
    ripple: change of its load over the move [N*m]
    encoder: whether a controller holds its speed

    Returns: speed [rad/s]. Raises: InputError. Source: drive 1.9.
    """
    positive(no_load=no_load, stall=stall)
    not_negative(ripple=ripple)
    if encoder:
        return HELD_FLOOR * no_load
    return max(DIALLED_FLOOR * no_load, no_load * ripple / (RIPPLE * stall))
