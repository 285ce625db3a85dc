"""A bounce that dies away read backwards: how fast, how damped, how stiff."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.nouns.check import positive
from hazel_lantern.core.nouns.errors import InputError


class Swung(Struct, frozen=True):
    """Undamped frequency [Hz], damping as a share of critical, and the logarithm of how a swing shrinks to the next."""

    frequency: float
    damping: float
    shrinks: float

    def stiffness(self, mass: float) -> float:
        """Of what a mass [kg] bounces on [N/m]."""
        positive(moving_mass=mass)
        return mass * (2 * math.pi * self.frequency) ** 2

    def factor(self, predicted: float) -> float:
        """How much stiffer it is than what was predicted to bounce at so many hertz [-]."""
        positive(predicted_frequency=predicted)
        return (self.frequency / predicted) ** 2


def swung(cycles: float, time: float, first: float, last: float) -> Swung:
    """So many swings counted.

    cycles: counted [-]
    time: they took [s]
    first, last: heights of the first and of the last, in one unit [m]

    Returns: frequency and damping. Raises: InputError for a last swing as high as the first. Source: dynamics 8.7.
    """
    positive(cycles=cycles, time=time, first_amplitude=first, last_amplitude=last)
    if first <= last:
        raise InputError("first_amplitude", first, f"must be more than the last, {last}: it dies away")
    shrinks = math.log(first / last) / cycles
    damping = shrinks / math.hypot(2 * math.pi, shrinks)
    return Swung(cycles / time / math.sqrt(1 - damping**2), damping, shrinks)
