"""How an orbit rig is spun: rates, moments, what it takes to turn it."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.orbit.model import Orbit
from hazel_lantern.core.mechanics import rotor
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.units import GRAVITY


class Spun(Struct, frozen=True):
    """How fast it turns at its fastest [rad/s], how far in all [rad], and what that asks of hub and floor."""

    fastest: float
    sweep: float
    hub: rotor.Turning
    floor: rotor.Turning


def twists(design: Design, orbit: Orbit) -> float:
    """What its feet hold of a twist about the axis before the base turns round [N*m]. Source: dynamics 2."""
    return design.number("base.grip") * orbit.weight * GRAVITY * float(np.hypot(*orbit.feet[0])) / 1.5


def spun(move: Move, orbit: Orbit) -> Spun:
    """Of a shot's own turn and time; a straight wish is met over the arc that spans it."""
    if move.arc_rad:
        sweep = abs(move.arc_rad)
    else:
        sweep = 2 * math.asin(min(1.0, move.chord / (2 * orbit.lens_at))) if move.chord else 2 * math.pi
    fastest = sweep * move.profile.peak_speed
    return Spun(
        fastest, sweep, rotor.turning(orbit.turns_as, fastest, orbit.beam), rotor.turning(orbit.turns_as, fastest)
    )
