"""Pipe bent to an arc: radius from what is measured, what holds it bent, and how wheels on bogies go round it."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.nouns.check import not_negative, positive
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError

HIGHEST = 0.9089  # modulus of a bow whose ends would meet


class Arc(Struct, frozen=True):
    """A circle through three points: radius [m] and how far round [rad]."""

    radius: float
    angle: float


def arc_through(chord: float, rise: float) -> Arc:
    """From a straight line between two marks and how far the arc's middle lies off it.

    chord: from mark to mark [m]
    rise: of its middle [m]

    Returns: radius and angle, an `Arc`. Raises: InputError. Source: dynamics 5.
    """
    positive(chord=chord, rise=rise)
    return Arc(chord**2 / (8 * rise) + rise / 2, 4 * math.atan(2 * rise / chord))


def rails_of(radius: float, angle: float, gauge: float) -> tuple[float, float]:
    """Lengths of the inner and the outer pipe.

    radius: of the middle between them [m]
    angle: how far round [rad]
    gauge: between them [m]

    Returns: both lengths [m]. Raises: InputError, InfeasibleError for a gauge wider than the arc. Source: dynamics 5.
    """
    positive(radius=radius, angle=angle, gauge=gauge)
    if radius <= gauge / 2:
        raise InfeasibleError(f"the inner pipe would have no radius: more than {gauge / 2 * 1e3:.0f} mm are needed")
    return (radius - gauge / 2) * angle, (radius + gauge / 2) * angle


class Bow(Struct, frozen=True):
    """A pipe bent by a string between its ends: the string's pull [N], how far its middle lies off it [m], its
    sharpest curvature, in its middle [1/m].
    """

    pull: float
    rise: float
    curved: float


def bow(length: float, chord: float, ei: float) -> Bow:
    """A pipe held bent by a string between its ends, as an elastic line.

    length: of the pipe [m]
    chord: of the string [m]
    ei: bending stiffness [N*m^2]

    Returns: a `Bow`. Raises: InputError for a string longer than its pipe, or so short that the ends meet. Source:
    dynamics 5, Euler's elastic line.
    """
    positive(length=length, chord=chord, ei=ei)
    if chord >= length:
        raise InputError("bow_chord", chord, f"must be below the pipe's length, {length:g}")

    def short(k: float) -> float:
        first, second = _elliptic(k)
        return 2 * second / first - 1 - chord / length

    low, high = 0.0, HIGHEST
    if short(high) > 0:
        raise InputError("bow_chord", chord, "is so short that the pipe's ends would meet")
    for _ in range(80):
        middle = (low + high) / 2
        low, high = (middle, high) if short(middle) > 0 else (low, middle)
    k = (low + high) / 2
    first, _ = _elliptic(k)
    return Bow(4 * first**2 * ei / length**2, k * length / first, 4 * k * first / length)


def _elliptic(k: float) -> tuple[float, float]:
    """Complete elliptic integrals of the first and second kind of a modulus, by arithmetic and geometric means."""
    a, b, c, shares, power = 1.0, math.sqrt(1 - k * k), k, k * k / 2, 1.0
    while abs(c) > 1e-16:
        a, b, c = (a + b) / 2, math.sqrt(a * b), (a - b) / 2
        shares += power * c * c
        power *= 2
    first = math.pi / (2 * a)
    return first, first * (1 - shares)


class Held(Struct, frozen=True):
    """What ties hold a bent pipe with: the last one and the one before it, the other way [N], and its sharpest
    curvature, at that second tie [1/m].
    """

    end: float
    second: float
    curved: float


def tie_forces(ei: float, radius: float, spacing: float) -> Held:
    """A pipe held to an arc by ties at even distances, its ends free to turn.

    ei: bending stiffness [N*m^2]
    radius: it is held to [m]
    spacing: of the ties along it [m]

    Returns: forces and curvature, a `Held`. Raises: InputError for ties further apart than the radius. Source: dynamics
    5, three moments: M_i = EI/R (1 - (sqrt 3 - 2)^i).
    """
    positive(ei=ei, radius=radius, spacing=spacing)
    if spacing >= radius:
        raise InputError("tie_spacing", spacing, f"must be below the radius, {radius:g}")
    fades = math.sqrt(3) - 2
    moments = [1 - fades**i for i in range(3)]
    return Held(
        moments[1] * ei / (radius * spacing),
        (2 * moments[1] - moments[2]) * ei / (radius * spacing),
        moments[1] / radius,
    )


class Round(Struct, frozen=True):
    """A carriage on bogies going round: how far a bogie turns under it, how far its fixed axles scrub [rad], by how
    much its gauge must give [m].
    """

    turns: float
    scrubs: float
    gives: float


def bogies(radius: float, spacing: float, axles: float, gauge: float) -> Round:
    """Two bogies under a deck on an arc.

    radius: of the middle of the track [m]
    spacing: between the pivots of both bogies [m]
    axles: between the axles of one [m]
    gauge: of the track [m]

    Returns: angles and give, a `Round`. Raises: InputError, InfeasibleError for a deck longer than the arc is wide.
    Source: dynamics 5.
    """
    positive(radius=radius, gauge=gauge)
    not_negative(spacing=spacing, axles=axles)
    if max(spacing, axles) >= 2 * radius or radius <= gauge / 2:
        raise InfeasibleError("the deck is longer than the arc is wide, or the gauge wider than its radius")
    half = axles**2 / 4
    gives = math.sqrt((radius + gauge / 2) ** 2 - half) - math.sqrt((radius - gauge / 2) ** 2 - half) - gauge
    return Round(math.asin(spacing / (2 * radius)), math.asin(axles / (2 * radius)), gives)


def camera_radius(radius: float, spacing: float, outward: float, ahead: float) -> float:
    """How far from the arc's centre a camera goes on a deck whose pivots follow the track.

    radius: of the middle of the track [m]
    spacing: between the pivots [m]
    outward: of the camera from the deck's middle, away from the centre [m]
    ahead: of it, along the travel [m]

    Returns: radius [m]. Raises: InputError. Source: dynamics 5.
    """
    positive(radius=radius)
    not_negative(spacing=spacing)
    return math.hypot(math.sqrt(radius**2 - spacing**2 / 4) + outward, ahead)
