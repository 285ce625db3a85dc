"""Bending and first frequencies of an arm held at its pivot."""

from __future__ import annotations

import math

from hazel_lantern.core.nouns import elementwise as ew
from hazel_lantern.core.nouns.check import not_negative, positive, refused
from hazel_lantern.core.nouns.elementwise import Numbers
from hazel_lantern.core.nouns.units import GRAVITY


def tip_sag(ei: Numbers, length: Numbers, load: Numbers, line_load: Numbers) -> Numbers:
    """Sag of a cantilever's free end, positive down.

    ei: bending stiffness [N*m^2]
    length: clamp to free end [m]
    load: force at the end, positive down [N]
    line_load: own weight along it [N/m]

    Returns: sag [m]. Raises: InputError. Source: Euler-Bernoulli, small slopes; statics 7.6.
    """
    positive(EI=ei, length=length)
    return load * length**3 / (3 * ei) + line_load * length**4 / (8 * ei)


def root_moment(length: Numbers, load: Numbers, line_load: Numbers) -> Numbers:
    """Bending moment at a cantilever's clamp.

    length: clamp to free end [m]
    load: force at the end [N]
    line_load: own weight along it [N/m]

    Returns: moment [N*m]. Source: statics.
    """
    return load * length + line_load * length**2 / 2


def clamped_frequency(ei: Numbers, length: Numbers, tip_mass: Numbers, arm_mass: Numbers) -> Numbers:
    """First bending frequency of an arm clamped at its pivot.

    ei: bending stiffness [N*m^2]
    length: clamp to tip [m]
    tip_mass: mass at the tip [kg]
    arm_mass: mass of the arm [kg]

    Returns: frequency [Hz], within 0.5 % when the tip outweighs a quarter of the arm.
    Raises: InputError when nothing has mass. Source: Rayleigh; statics 7.6.
    """
    positive(EI=ei, length=length)
    not_negative(tip_mass=tip_mass, arm_mass=arm_mass)
    refused("tip_mass", tip_mass, tip_mass + arm_mass == 0, "arm and tip cannot both be without mass")
    return ew.sqrt(3 * ei / (length**3 * (tip_mass + 33 / 140 * arm_mass))) / (2 * math.pi)


def balanced_frequency(
    ei: Numbers,
    front_length: Numbers,
    rear_length: Numbers,
    tip_mass: Numbers,
    front_arm_mass: Numbers,
    counterweight: Numbers,
    rear_arm_mass: Numbers,
) -> Numbers:
    """First bending frequency of an arm that is free to turn on its pivot.

    ei: bending stiffness, same on both sides [N*m^2]
    front_length: pivot to front tip [m]
    rear_length: pivot to counterweight [m]
    tip_mass: mass at the front tip [kg]
    front_arm_mass: mass of the front arm [kg]
    counterweight: mass at the rear [kg]
    rear_arm_mass: mass of the rear arm [kg]

    Returns: frequency [Hz]. Raises: InputError. Source: statics 7.6; three coordinates, the turn eliminated.
    """
    positive(EI=ei, front_length=front_length, rear_length=rear_length)
    not_negative(
        tip_mass=tip_mass, front_arm_mass=front_arm_mass, counterweight_mass=counterweight, rear_arm_mass=rear_arm_mass
    )
    refused("tip_mass", tip_mass, tip_mass + front_arm_mass == 0, "each side of the arm needs mass")
    refused("counterweight_mass", counterweight, counterweight + rear_arm_mass == 0, "each side of the arm needs mass")
    turn = (tip_mass + front_arm_mass / 3) * front_length**2 + (counterweight + rear_arm_mass / 3) * rear_length**2
    front, rear = (
        (tip_mass + 11 / 40 * front_arm_mass) * front_length,
        -(counterweight + 11 / 40 * rear_arm_mass) * rear_length,
    )
    # What each side weighs with the turn eliminated, over its stiffness; the lowest root of the pair is the
    # larger share.
    a = (tip_mass + 33 / 140 * front_arm_mass - front**2 / turn) * front_length**3 / (3 * ei)
    d = (counterweight + 33 / 140 * rear_arm_mass - rear**2 / turn) * rear_length**3 / (3 * ei)
    across = (front * rear / turn) ** 2 * front_length**3 * rear_length**3 / (9 * ei**2)
    slowest = (a + d) / 2 + ew.sqrt((a - d) ** 2 / 4 + across)
    return ew.sqrt(1 / slowest) / (2 * math.pi)


def arm_weight(mass: Numbers, length: Numbers) -> Numbers:
    """Weight per metre of a bar.

    mass: mass [kg]
    length: length [m]

    Returns: line load [N/m]. Source: definition.
    """
    return mass * GRAVITY / length
