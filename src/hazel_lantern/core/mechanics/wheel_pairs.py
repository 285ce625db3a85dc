"""Inclined wheels in pairs on a round pipe: where they touch, which pipes fit, what each bears."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.nouns.check import finite, not_negative, positive
from hazel_lantern.core.nouns.errors import InputError


class Pair(Struct, frozen=True):
    """A pair of inclined wheels on a pipe: apex of their treads above the pipe's centre, contact along the tread from
    there, lower edge of a wheel above the pipe's centre, middle of a wheel aside of it and above it [m]; load of either
    wheel [N]; smallest and largest pipe that fits [m]; whether this one does.
    """

    apex: float
    contact: float
    low_edge: float
    aside: float
    above: float
    more: float
    less: float
    smallest: float
    largest: float
    fits: bool


def on_pipe(
    pipe: float,
    normal: float,
    wheel: float,
    tread: float,
    centre: float,
    margin: float,
    weight: float,
    side: float = 0.0,
) -> Pair:
    """A pair of wheels whose flat treads lean against a pipe.

    pipe: outer diameter [m]
    normal: of each contact from upright, 45 degrees for wheels at right angles [rad]
    wheel: diameter of a wheel [m]
    tread: width of its tread [m]
    centre: of the tread from the apex, along the tread [m]
    margin: kept free at either edge of the tread [m]
    weight: the pair bears [N]
    side: force across the pipe [N]

    Returns: the pair; a wheel's load below zero has lifted. Raises: InputError. Source: dynamics 4.3.
    """
    positive(pipe=pipe, wheel=wheel, tread=tread, centre=centre)
    not_negative(margin=margin, weight=weight)
    finite(normal=normal, side=side)
    if not 0 < normal < math.pi / 2:
        raise InputError("normal", math.degrees(normal), "must lie between 0° and 90°")
    radius, sin, cos, tan = pipe / 2, math.sin(normal), math.cos(normal), math.tan(normal)
    apex, contact = radius / cos, radius * tan
    free = tread / 2 - margin
    low, high = centre - free, centre + free
    each, more = weight / (2 * cos), abs(side) / (2 * sin)
    return Pair(
        apex,
        contact,
        apex - (centre + tread / 2) * sin,
        centre * cos + wheel / 2 * sin,
        apex - centre * sin + wheel / 2 * cos,
        each + more,
        each - more,
        max(0.0, 2 * low / tan),
        2 * high / tan,
        free >= 0 and low - 1e-12 <= contact <= high + 1e-12,
    )


def raised(gauge_error: float, normal: float) -> float:
    """How far a pair climbs its pipe where the gauge is wrong and nothing gives.

    gauge_error: of the track against the wheels [m]
    normal: of each contact from upright [rad]

    Returns: height of that side [m]. Raises: InputError. Source: dynamics 4.3.
    """
    finite(gauge_error=gauge_error)
    return abs(gauge_error) * math.tan(normal)
