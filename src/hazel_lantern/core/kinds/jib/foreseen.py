"""What tests of a built jib are foreseen to read."""

from __future__ import annotations

import math

from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.foreseen import TRIED, WIDE, Forecast, Foreseen, around, due_to
from hazel_lantern.core.kinds.jib.model import WEIGHTS, Jib
from hazel_lantern.core.kinds.jib.strength.arm import Flat
from hazel_lantern.core.kinds.jib.strength.frame import build_frame, gives
from hazel_lantern.core.kinds.rail.foreseen import LEVEL
from hazel_lantern.core.kinds.shared.inputs import STIFFNESS, as_found
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

DAMPING, PLACE = "arm.damping", "weights.place"
HANGS_AT = 0.85  # of the front arm, where a scale is hooked on
LEAST_FRICTION = 0.05  # N*m under which nobody feels that it is off balance


def tested(design: Design) -> tuple[str, ...]:
    """Keys of all that."""
    return ("level", "drift", "sag", "bounce", "damping")


def foreseen(design: Design, jib: Jib, flattest: float, at_flattest: Flat) -> Forecast:
    """Balance within its friction, sag of the arm strapped to its post, bounce and damping, level of the post."""
    rubs = max(LEAST_FRICTION, jib.arm_balance.friction)
    off = GRAVITY * jib.arm_balance.along
    pivot = jib.pivots()[0]
    hooked = (
        float(pivot[0]) + HANGS_AT * jib.front * math.cos(flattest),
        float(pivot[1]) + HANGS_AT * jib.front * math.sin(flattest),
    )
    level = (flattest, 0.0)
    sinks = gives(build_frame(design, jib, flattest))
    stiffer = replace(jib, arm_material=as_found(jib.arm_material, TRIED))
    due = due_to(sinks, gives(build_frame(design, stiffer, flattest)))
    free = math.isfinite(at_flattest.swings.free)
    swings = at_flattest.swings.free if free else at_flattest.swings.held
    how = Words("Arm free on its pivot, near level." if free else "Arm strapped to its post, near level.")
    damped = design.number(DAMPING)
    arm = ("Arm", "Bar", "Lower bar", "Pole")
    weights = {"weights": jib.mass_of(*WEIGHTS), "place": jib.place}
    strapped = Words("Arm strapped to its post, near level.")
    return {
        "level": Foreseen(-LEVEL, LEVEL, at=(float(pivot[0]), float(pivot[1])), pose=level),
        "drift": Foreseen(off - rubs, off + rubs, off, weights, PLACE, at=hooked, pose=level),
        "sag": around(GRAVITY * sinks, corrects=STIFFNESS, where=strapped, of=arm, pose=level, due=due),
        "bounce": around(swings, corrects=STIFFNESS, where=how, of=arm, pose=level, due=due),
        "damping": around(damped, WIDE, corrects=DAMPING, of=arm, pose=level),
    }
