"""What a carriage on rails meets as something drives it along."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Design, Held
from hazel_lantern.core.kinds.rail.model import Carriage, Straight
from hazel_lantern.core.kinds.shared.inputs import BY_LOCK
from hazel_lantern.core.kinds.shared.lead import drag
from hazel_lantern.core.mechanics import rails
from hazel_lantern.core.nouns.errors import HazelError


def meets(design: Design, rail: Carriage, bounces: float) -> tuple[Held, ...]:
    """Rolling and a lead that follows, the rail's bounce [Hz], 0 where it has none, and a lock where there is one. A
    wheel that rolls also turns: half of its own mass on top, as of a disc.
    """
    hung, high = lead_hangs(rail)
    pulled = drag(design, rail.high - rail.low, high, hung=hung)
    rolls = rail.weight * rail.drag[1] * math.cos(rail.slope)
    rubs, starts = rolls + pulled, rolls * rail.wheel.start + pulled
    locked = design.number("place.lock") if design.values.get("place.kept") == BY_LOCK else 0.0
    spins = len(rail.wheels) * rail.wheel.mass / 2 if rail.drag[1] < SLIDES else 0.0
    rings = (("the rail bounces", bounces),) if bounces > 0 else ()
    return (Held(rubs, starts, (rail.low, rail.high), rings=rings, locked=locked, spins=spins),)


def lead_hangs(rail: Carriage) -> tuple[bool, float]:
    """Whether a lead to the camera hangs from above, and how far up or down to the camera it goes [m]."""
    hung = bool(rail.cg[2] < 0)
    return hung, abs(float(rail.lens[2])) if hung else rail.height + float(rail.lens[2])


SLIDES = 0.1  # coefficient from which nothing rolls


def bounce(rail: Carriage) -> float:
    """How the rail bounces at its slowest [Hz]; 0 of a bent one, and of one that gives no answer."""
    if not isinstance(rail, Straight):
        return 0.0
    try:
        return rails.slowest_bounce(rail.beam, rail.low, rail.high, rail.felt)[0]
    except HazelError:
        return 0.0
