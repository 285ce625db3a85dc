"""Steps of a motor as they reach the picture: when each is given, how large it is, and rates that shake the rig."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.motion.shapes import Shape
from hazel_lantern.core.nouns.check import not_negative, positive


class Pulses(Struct, frozen=True):
    """Steps of a whole move: how many, the fastest they come [1/s], when the first is given [s], and what one is worth
    [m], or [rad].
    """

    count: int
    fastest: float
    first: float
    step: float


def pulses(way: float, time: float, per_way: float, shape: Shape) -> Pulses:
    """A move as steps, each given when the wish crosses the middle between two.

    way: of the move [m], or [rad]
    time: that it takes [s]
    per_way: steps for a metre, of what turns for a radian, [1/m] or [-]
    shape: of the move

    Returns: the steps; of a move shorter than half a step none, the first at the end. Raises: InputError.
    Source: drive 4.7.
    """
    positive(S=way, T=time, steps=per_way)
    count = math.floor(way * per_way + 0.5)
    share = 0.5 / (way * per_way)
    first = time * _when(shape, share) if share < 1 else time
    return Pulses(count, shape.c_v * way * per_way / time, first, 1 / per_way)


def _when(shape: Shape, share: float) -> float:
    """Share of the time at which a shape has made a share of the way: it never goes back."""
    low, high = 0.0, 1.0
    for _ in range(80):
        middle = (low + high) / 2
        low, high = (middle, high) if float(shape.share(np.array(middle))) < share else (low, middle)
    return (low + high) / 2


def shaken(step: float, pixels: float, natural: float, tolerance: float = 0.25) -> tuple[float, float]:
    """Rates of steps that swing what carries the camera further than the picture bears.

    step: of the camera [m], or [rad]
    pixels: at the subject for a metre, or a radian [px/m]
    natural: frequency of what swings [Hz]
    tolerance: that the picture bears [px]

    Returns: lowest and highest of them [Hz]; a lowest of 0 says that all below the highest do. Raises: InputError.
    Source: drive 4.7, an undamped mass.
    """
    positive(f_n=natural, p_tol=tolerance)
    not_negative(step=step, px_per_m=pixels)
    share = step * pixels / 2 / tolerance
    return natural * math.sqrt(max(0.0, 1 - share)), natural * math.sqrt(1 + share)
