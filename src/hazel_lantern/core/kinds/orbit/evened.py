"""Weights that balance an orbit rig: how much, how far out, how high."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Changes, Design
from hazel_lantern.core.kinds.orbit.model import THICK, Orbit
from hazel_lantern.core.nouns.errors import InfeasibleError


def needed(orbit: Orbit) -> float:
    """The weights that balance it at rest, their arm as it is [kg]; none where several cameras balance each other."""
    if orbit.cameras > 1:
        return 0.0
    front = sum(m * r * math.cos(a) for m, r, a, _ in orbit.turns_as[:-1])
    return max(0.0, front / orbit.rear)


def level_with(orbit: Orbit) -> float:
    """How far above the beam the weights must hang so that it does not wobble as it turns [m]."""
    front = sum(m * r * math.cos(a) * (z - orbit.beam) for m, r, a, z in orbit.turns_as[:-1])
    mass = needed(orbit)
    return front / (mass * orbit.rear) if mass > 0 else 0.0


def balance_it(design: Design, orbit: Orbit) -> Changes:
    """Weights that balance it at rest, at the height at which it does not wobble, as far as they may hang there. Raises
    InfeasibleError where no weight here does.
    """
    if orbit.cameras > 1:
        raise InfeasibleError("several cameras at equal angles balance each other")
    mass, above = round(needed(orbit), 2), round(level_with(orbit), 3)
    if mass > 40:
        raise InfeasibleError(f"it would take {mass:.1f} kg on so short an arm", longest=mass)
    side = (mass / 7200.0) ** (1 / 3)
    # Within the table's edge they must clear it.
    if orbit.overhead:
        above = max(above, round(orbit.subject[1] + 0.01 + side / 2 - orbit.beam + 5e-4, 3))
    elif orbit.rear - side / 2 < orbit.table_radius + 0.01:
        above = min(above, round(orbit.table - THICK - 0.01 - side / 2 - orbit.beam - 5e-4, 3))
    return (("weights.mass", mass), ("weights.above", min(1.0, max(-0.5, above))))


def balance_changes(design: Design, orbit: Orbit) -> Changes:
    try:
        return balance_it(design, orbit)
    except InfeasibleError:
        return ()
