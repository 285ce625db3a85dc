"""Stiffness from a sag: a rail on its supports with a weight in its middle, a bar of unknown stuff, a head or a stand
turned by a weight on an arm; where something balances on an edge.
"""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import finite, not_negative, positive
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.proving.repeats import SURE, Readings, t_of


class Sagged(Struct, frozen=True):
    """Bending stiffness [N*m^2] and that of both supports together [N/m], each with how far it may be off in 95 of 100
    cases, inf where too few spans were read; supports of one span are taken to be rigid.
    """

    ei: float
    supports: float
    ei_give: float = math.inf
    supports_give: float = math.inf


def sagged(spans: Readings, load: Readings | float, drops: Readings) -> Sagged:
    """A bar on two supports, a load added in the middle after it was seated, at one span or several.

    spans: between supports (n,) [m]
    load: added, one for all or for each (n,) [N]
    drops: in the middle (n,) [m]

    Returns: stiffness of bar and supports. Raises: InputError; InfeasibleError CONTRADICTORY for drops that no bar on
    supports makes. Source: dynamics 8.5.
    """
    long, sank = np.atleast_1d(np.asarray(spans, float)), np.atleast_1d(np.asarray(drops, float))
    pressed = np.broadcast_to(np.asarray(load, float), long.shape)
    if len(long) != len(sank):
        raise InputError("measured_drop", len(sank), f"as many as spans, {len(long)}")
    positive(span=long, added_load=pressed, measured_drop=sank)
    gives, cubes = sank / pressed, long**3 / 48
    if np.ptp(long) < 0.01 * long.max():
        return Sagged(float((cubes / gives).mean()), math.inf)
    rows = np.column_stack([cubes, np.ones(len(long))])
    found = np.linalg.lstsq(rows, gives, rcond=None)[0]
    soft, rest = (float(value) for value in found)
    left = gives - rows @ found
    if soft <= 0 or rest < -1e-3 * float(gives.max()):
        raise InfeasibleError(
            f"the drops contradict one another: {', '.join(f'{value:+.2g}' for value in left)} m/N are left over",
            "CONTRADICTORY",
        )
    freedom, sides = len(long) - 2, np.full(2, math.inf)
    if freedom > 0:
        cov = float((left**2).sum()) / freedom * np.linalg.inv(rows.T @ rows)
        sides = np.sqrt(np.diag(cov)) * t_of((1 + SURE) / 2, freedom)
    supports = math.inf if rest <= 0 else 1 / rest
    return Sagged(1 / soft, supports, float(sides[0]) / soft**2, float(sides[1]) / rest**2 if rest > 0 else math.inf)


def turned(mass: float, arm: float, angle: float) -> float:
    """Stiffness of what a weight at the end of a level arm turns.

    mass: hung on it [kg]
    arm: from what turns to the weight [m]
    angle: by which it turns [rad]

    Returns: stiffness [N*m/rad]. Raises: InputError. Source: statics, moment over angle.
    """
    positive(mass=mass, arm=arm, angle=angle)
    return mass * GRAVITY * arm * math.cos(angle) / angle


class OnEdge(Struct, frozen=True):
    """Where something's centre of mass lies from its datum end [m], and its first moment about that end [kg*m]."""

    at: float
    moment: float


def on_edge(mass: float, one_way: float, turned_round: float, length: float) -> OnEdge:
    """Balanced on an edge, then turned end for end: what is wrong with the edge cancels.

    mass: of it [kg]
    one_way: from its datum end to the edge [m]
    turned_round: from the same end, lying the other way round [m]
    length: of it [m]

    Returns: centre and moment. Raises: InputError for an edge beyond its ends. Source: statics.
    """
    positive(mass=mass, length=length)
    not_negative(one_way=one_way, turned_round=turned_round)
    for name, value in (("one_way", one_way), ("turned_round", turned_round)):
        if value > length:
            raise InputError(name, value, f"must lie within its length, {length} m")
    middle = (one_way + turned_round) / 2
    return OnEdge(middle, mass * middle)


def plucked(rate: float, length: float, line: float) -> float:
    """Pull in a rope that swings from end to end in one bow.

    rate: swings a second [Hz]
    length: between what holds it [m]
    line: mass of a metre [kg/m]

    Returns: pull along it [N]. Raises: InputError. Source: a taut string, T = 4 m l^2 f^2; sag under a fiftieth of the
    length.
    """
    positive(rate=rate, length=length, line=line)
    finite(rate=rate)
    return 4 * line * length**2 * rate**2
