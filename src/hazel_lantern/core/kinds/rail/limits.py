"""What bounds the acceleration of a carriage on its rail."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Design, Limit
from hazel_lantern.core.kinds.rail.model import Carriage
from hazel_lantern.core.nouns.units import GRAVITY

SAFE = 1.5


def held_captive(design: Design) -> bool:
    """Whether the carriage is trapped on its rail; one that nobody asks about rests by its weight."""
    return design.values.get("carriage.hold", "resting") == "captive"


def limits(design: Design, rail: Carriage) -> tuple[Limit, ...]:
    """The hard stop all of it is judged by; and where the carriage rests by its weight, what tips it over its wheels.
    Source: drive 4.2.
    """
    found = [Limit("the hard stop it is judged by", design.number("push.brake"), "push.brake")]
    ahead, _, up = (float(v) for v in rail.cg)
    if not held_captive(design) and up > 0:
        lever = rail.wheelbase / 2 - abs(ahead)
        tips = GRAVITY * (lever * math.cos(rail.slope) / up - math.sin(abs(rail.slope))) / SAFE
        found.append(Limit("tipping over its wheels", tips, rail.base_key))
    return tuple(limit for limit in found if limit.value > 0)
