"""A toothed sector about an arm's pivot, driven by a pinion."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.nouns.check import not_negative, positive
from hazel_lantern.core.nouns.errors import InputError

SPARE = 2  # teeth, one at either end, for the pinion to come in and go out on


class Sector(Struct, frozen=True):
    """Teeth to cut, pitch radius [m], arm's angle for a radian of the pinion."""

    teeth: int
    radius: float
    ratio: float


def sector(whole: float, pinion: float, sweep: float, module: float, spare: int = SPARE) -> Sector:
    """Part of a gear that turns an arm.

    whole: teeth of the whole gear that it is a part of [-]
    pinion: teeth of the pinion [-]
    sweep: angle of the arm [rad]
    module: of the teeth [m]
    spare: teeth beyond the sweep [-]

    Returns: teeth, radius and ratio. Raises: InputError, also for a sweep that asks for the whole gear.
    Source: drive 1.8, 3.7.
    """
    positive(z_eq=whole, z_pinion=pinion, m=module)
    not_negative(sweep=sweep)
    most = 2 * math.pi - 2 * spare * math.pi / whole
    if sweep > most:
        raise InputError("sweep", sweep, f"must be at most {most:.4g} rad; use the whole gear")
    teeth = math.ceil(sweep * whole / (2 * math.pi) - 1e-9) + spare
    return Sector(teeth, module * whole / 2, pinion / whole)
