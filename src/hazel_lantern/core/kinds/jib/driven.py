"""What an arm meets as something swings or pans it."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Held
from hazel_lantern.core.kinds.jib.model import Jib
from hazel_lantern.core.nouns.told import Told

STARTS = 1.5  # of what a dry pivot rubs with, from standing


def meets(jib: Jib, balance: Told, strength: Told) -> tuple[Held, ...]:
    """Friction of the pivots and of what it pans on, and how the arm bounces and sways."""
    rubs, pan = balance.value("balance.friction"), jib.pan.friction
    bounces, sways = strength.value("rig.bounce_locked"), strength.value("rig.sideways")
    out = jib.front + float(jib.lens[0])
    return (
        Held(rubs, STARTS * rubs, (jib.limits.low, jib.limits.high), jib.front, (("the arm bounces", bounces),)),
        Held(pan, STARTS * pan, (-math.pi, math.pi), out, (("the arm sways", sways),)),
    )
