"""Beams built from boards: two flanges on a web, joined by screws that give."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.nouns import elementwise as ew
from hazel_lantern.core.nouns.check import not_negative, positive, refused
from hazel_lantern.core.nouns.elementwise import Numbers


class BoardBeam(Struct, frozen=True):
    """Bending stiffness up and down and sideways [N*m^2], axial stiffness [N], how well the joint works, 0 to 1 [-],
    what a screw takes of a unit shear [-]; arrays for arrays.
    """

    eiy: float
    eiz: float
    ea: float
    joint: float
    screw_share: float


def joint_efficiency(e_flange: Numbers, area: Numbers, pitch: Numbers, slip: Numbers, span: Numbers) -> Numbers:
    """How well screws make flange and web act as one: 1 glued, 0 loose.

    e_flange: modulus of the flange [Pa]
    area: of one flange [m^2]
    pitch: of the screws along a flange [m]
    slip: slip modulus of a screw [N/m]
    span: between supports; twice the length for a cantilever [m]

    Returns: efficiency [-]. Raises: InputError; say efficiency 0 for no screws. Source: Eurocode 5 annex B; statics 2.
    """
    positive(E_flange=e_flange, area=area, screw_pitch=pitch, slip_modulus_K=slip, span=span)
    return 1 / (1 + math.pi**2 * e_flange * area * pitch / (slip * span**2))


def board_beam(
    flange_b: Numbers,
    flange_t: Numbers,
    web_t: Numbers,
    web_h: Numbers,
    e_flange: Numbers,
    e_web: Numbers,
    joint: Numbers,
    pitch: Numbers = 0.0,
) -> BoardBeam:
    """An I-beam of two equal flanges and a web on edge.

    flange_b: width of a flange [m]
    flange_t: thickness of a flange [m]
    web_t: thickness of the web [m]
    web_h: height of the web [m]
    e_flange: modulus of the flanges [Pa]
    e_web: modulus of the web [Pa]
    joint: efficiency of the joint [-]
    pitch: of the screws [m]

    Returns: stiffness, a `BoardBeam`. Raises: InputError. Source: Eurocode 5 annex B; statics 2.
    """
    positive(flange_b=flange_b, flange_t=flange_t, web_t=web_t, web_h=web_h, E_flange=e_flange, E_web=e_web)
    not_negative(screw_pitch=pitch)
    refused("joint", joint, ew.negated((joint >= 0) & (joint <= 1)), "must lie between 0 (loose) and 1 (glued)")
    area, lever = flange_b * flange_t, (web_h + flange_t) / 2
    eiy = e_web * web_t * web_h**3 / 12 + 2 * (
        e_flange * flange_b * flange_t**3 / 12 + joint * e_flange * area * lever**2
    )
    eiz = e_web * web_h * web_t**3 / 12 + 2 * e_flange * flange_t * flange_b**3 / 12
    return BoardBeam(
        eiy, eiz, 2 * e_flange * area + e_web * web_t * web_h, joint, joint * e_flange * area * lever * pitch / eiy
    )


def slip_modulus(density: Numbers, diameter: Numbers) -> Numbers:
    """Slip modulus of a wood screw.

    density: of the wood [kg/m^3]
    diameter: of the screw [m]

    Returns: slip modulus [N/m]. Raises: InputError. Source: Eurocode 5 table 7.1; statics 2.
    """
    positive(density=density, diameter=diameter)
    return 1000 * ew.sqrt(density) * density * diameter * 1e3 / 23


class Layers(Struct, frozen=True):
    """Two layers screwed on each other: bending stiffness of both [N*m^2], how far the middle of the upper and of the
    lower lies from where both together bend about [m], and how well the joint works [-].
    """

    ei: float
    upper: float
    lower: float
    joint: float


def layers(upper_ei: float, upper_ea: float, lower_ei: float, lower_ea: float, apart: float, joint: float) -> Layers:
    """A layer on another, joined by screws that give.

    upper_ei: bending stiffness of the upper layer by itself [N*m^2]
    upper_ea: its axial stiffness [N]
    lower_ei: bending stiffness of the lower layer by itself [N*m^2]
    lower_ea: its axial stiffness [N]
    apart: between the middles of both [m]
    joint: efficiency of the joint [-]

    Returns: stiffness and levers, a `Layers`. Raises: InputError. Source: Eurocode 5 annex B; statics 2.
    """
    positive(upper_EI=upper_ei, upper_EA=upper_ea, lower_EI=lower_ei, lower_EA=lower_ea, apart=apart)
    refused("joint", joint, not 0 <= joint <= 1, "must lie between 0 (loose) and 1 (glued)")
    works = joint * upper_ea
    low = works * apart / (works + lower_ea)
    high = apart - low
    return Layers(upper_ei + lower_ei + works * high**2 + lower_ea * low**2, high, low, joint)
