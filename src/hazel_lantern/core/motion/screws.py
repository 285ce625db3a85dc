"""Screws and worms: torque to drive a load, whether they hold it, how fast a long screw may turn."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.nouns.check import not_negative, positive, refused
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError

LOCKS, CREEPS, RUNS = "locks", "creeps", "runs"
HELD = {"free": 1.8751, "both": math.pi, "one": 3.9266, "fixed": 4.7300}  # ends of a screw that whirls


class Thread(Struct, frozen=True):
    """Lead (a turn's travel) and mean diameter [m], half angle of the thread [rad], friction; of a collar its friction
    and mean diameter [m].
    """

    lead: float
    mean: float
    half_angle: float
    friction: float
    collar_friction: float = 0.0
    collar: float = 0.0


class Driven(Struct, frozen=True):
    """What a screw under load asks for: torque to drive it against the load and back with it, above nought where it
    must be driven even then [N*m], efficiency against the load (0 without a load), and whether it holds by itself:
    `locks`, `creeps` (only while nothing shakes or oils it), `runs`.
    """

    against: float
    back: float
    efficiency: float
    holds: str


def _torques(thread: Thread, load: float, friction: float) -> tuple[float, float]:
    around, rubs = math.pi * thread.mean, friction / math.cos(thread.half_angle)
    clear = around - rubs * thread.lead
    if clear <= 0:
        raise InfeasibleError("the screw jams: its thread is too steep for that friction", "SCREW_JAMS")
    collar = load * thread.collar_friction * thread.collar / 2
    up = load * thread.mean / 2 * (thread.lead + rubs * around) / clear + collar
    down = load * thread.mean / 2 * (rubs * around - thread.lead) / (around + rubs * thread.lead) + collar
    return up, down


def driven(thread: Thread, load: float) -> Driven:
    """A screw that pushes a load.

    thread: of the screw
    load: along it [N]

    Returns: torques, efficiency and whether it holds. Raises: InputError; InfeasibleError `SCREW_JAMS`.
    Source: drive 1.5.
    """
    positive(lead=thread.lead, d_m=thread.mean)
    not_negative(load=load, mu=thread.friction, mu_c=thread.collar_friction, d_c=thread.collar)
    refused(
        "half_angle",
        thread.half_angle,
        not 0 <= thread.half_angle < math.pi / 2,
        "must be at least 0° and less than 90°",
    )
    up, down = _torques(thread, load, thread.friction)
    unit = _torques(thread, 1.0, thread.friction)[1]
    wet = _torques(thread, 1.0, thread.friction / 2)[1]
    holds = LOCKS if wet > 0 else CREEPS if unit > 0 else RUNS
    return Driven(up, down, load * thread.lead / (2 * math.pi * up) if up > 0 else 0.0, holds)


def whirl(length: float, root: float, modulus: float, density: float, ends: str = "one") -> float:
    """Speed at which a long screw whirls.

    length: between its bearings [m]
    root: diameter at the root of its thread [m]
    modulus: of its material [Pa]
    density: of its material [kg/m^3]
    ends: `free` (one held fast), `both` supported, `one` held fast and one supported, `fixed` both

    Returns: speed [rad/s]; stay below 0.8 of it. Raises: InputError. Source: drive 1.5.
    """
    positive(length=length, root=root, modulus=modulus, density=density)
    if ends not in HELD:
        raise InputError("ends", repr(ends), "must be one of " + ", ".join(HELD))
    return HELD[ends] ** 2 * root / 4 * math.sqrt(modulus / density) / length**2


class Worm(Struct, frozen=True):
    """Efficiency of a worm driving its wheel, share that comes back when the wheel drives, and whether it holds by
    itself: `locks`, `creeps`, `runs`.
    """

    efficiency: float
    returned: float
    holds: str


def worm(lead_angle: float, pressure_angle: float, friction: float) -> Worm:
    """A worm and its wheel.

    lead_angle: of the worm's thread [rad]
    pressure_angle: of its flanks, square to the thread [rad]
    friction: between them [-]

    Returns: what it gives and holds. Raises: InputError. Source: drive 1.5.
    """
    positive(lead_angle=lead_angle)
    not_negative(friction=friction, pressure_angle=pressure_angle)
    refused("lead_angle", lead_angle, lead_angle >= math.pi / 2, "must be less than 90°")
    refused("pressure_angle", pressure_angle, pressure_angle >= math.pi / 2, "must be less than 90°")
    cos, tan = math.cos(pressure_angle), math.tan(lead_angle)

    def back(rubs: float) -> float:
        return max(0.0, (cos - rubs / tan) / (cos + rubs * tan))

    forwards = (cos - friction * tan) / (cos + friction / tan)
    if forwards <= 0:
        raise InfeasibleError("the worm jams: its thread is too steep for that friction", "SCREW_JAMS")
    holds = LOCKS if back(friction / 2) == 0 else CREEPS if back(friction) == 0 else RUNS
    return Worm(forwards, back(friction), holds)
