"""Cables on an arm: the one that keeps the head level over two wheels, and the stay that stiffens the arm."""

from __future__ import annotations

from msgspec import Struct

from hazel_lantern.core.nouns import elementwise as ew
from hazel_lantern.core.nouns.check import finite, not_negative, positive
from hazel_lantern.core.nouns.elementwise import Numbers


class Levelling(Struct, frozen=True):
    """A levelling cable: least pre-tension [N], tilt from stretch and from unequal wheels, nose up [rad]; arrays for
    arrays.
    """

    pretension: float
    stretch: float
    mismatch: float


def levelling_cable(
    moment: Numbers,
    wheel: Numbers,
    ea: Numbers,
    run: Numbers,
    angle: Numbers = 0.0,
    post_wheel: Numbers | None = None,
    head_wheel: Numbers | None = None,
) -> Levelling:
    """A cable over a fixed wheel at the post and a wheel at the head.

    moment: of the head about its pin [N*m]
    wheel: radius of the wheels [m]
    ea: axial stiffness of the cable [N]
    run: length of one run [m]
    angle: of the arm, front up [rad]
    post_wheel: measured radius at the post, None for the wheel [m]
    head_wheel: measured radius at the head, None for the wheel [m]

    Returns: tension and tilts, a `Levelling`. Raises: InputError. Source: statics 7.3, both runs tight.
    """
    positive(pulley_radius=wheel, cable_EA=ea, run_length=run)
    finite(head_moment=moment, arm_angle=angle)
    post, head = wheel if post_wheel is None else post_wheel, wheel if head_wheel is None else head_wheel
    positive(post_pulley_radius=post, head_pulley_radius=head)
    return Levelling(abs(moment) / (2 * wheel), abs(moment) * run / (2 * ea * wheel**2), angle * (1 - post / head))


class Stay(Struct, frozen=True):
    """A stayed arm: sag of its tip [m], tension of the cable and thrust along the arm [N]; arrays for arrays."""

    sag: float
    tension: float
    thrust: float


def stayed(length: Numbers, ei: Numbers, mast: Numbers, area: Numbers, modulus: Numbers, load: Numbers) -> Stay:
    """An arm held up by a cable from its tip to a mast above the pivot.

    length: of the arm [m]
    ei: bending stiffness [N*m^2]
    mast: height of the mast [m]
    area: metal area of the cable [m^2]
    modulus: of the cable [Pa]
    load: at the tip, down [N]

    Returns: sag and forces, a `Stay`. Raises: InputError. Source: two springs side by side; statics 7.6.
    """
    positive(arm_length=length, EI=ei, mast_height=mast, cable_metal_area=area, cable_E=modulus)
    not_negative(tip_load=load)
    cable = ew.hypot(length, mast)
    sine = mast / cable
    by_cable = modulus * area / cable * sine**2
    sag = load / (3 * ei / length**3 + by_cable)
    tension = by_cable * sag / sine
    return Stay(sag, tension, tension * length / cable)
