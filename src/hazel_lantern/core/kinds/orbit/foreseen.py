"""What tests of a built orbit rig are foreseen to read."""

from __future__ import annotations

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.foreseen import WIDE, Forecast, Foreseen, around
from hazel_lantern.core.kinds.orbit.design import CAMERAS
from hazel_lantern.core.kinds.orbit.model import Orbit
from hazel_lantern.core.kinds.rail.foreseen import LEVEL
from hazel_lantern.core.kinds.shared.inputs import STIFFNESS
from hazel_lantern.core.mechanics import rotor
from hazel_lantern.core.nouns.told import Told
from hazel_lantern.core.nouns.units import GRAVITY

FRICTION, WEIGHT_ARM = "hub.friction", "arm.rear"
UNNOTICED = 0.02  # of what one side weighs times its radius, that is off balance and is not felt


def tested(design: Design) -> tuple[str, ...]:
    """Keys of all that; arms with a camera each balance one another."""
    one = CAMERAS[design.text("camera.count")] == 1
    return ("level", "coast", "sag", "bounce", *(("heavy", "runs") if one else ()))


def foreseen(design: Design, orbit: Orbit, strength: Told) -> Forecast:
    """Level of its base, spin-down, its heavy side by two ways, sag and bounce of the camera arm."""
    turns = rotor.turning(orbit.turns_as, 0.0)
    hub, tip = (0.0, orbit.beam), (orbit.radius, orbit.mount_high)
    rubs = design.number(FRICTION)
    line = orbit.material.E * float(orbit.bar.section().upright)
    off = abs(turns.unbalance)
    felt = max(off, UNNOTICED * sum(m * r for m, r, *_ in orbit.turns_as[:4]))
    weighs = {"mass": orbit.weights, "out": orbit.rear}
    arm = ("Camera arm", "Arm")
    found = {
        "level": Foreseen(-LEVEL, LEVEL, at=hub),
        "coast": around(rubs, WIDE, takes={"inertia": turns.inertia}, corrects=FRICTION, at=tip),
        "sag": around(GRAVITY * orbit.radius**3 / (3 * line), corrects=STIFFNESS, at=tip, of=arm),
        "bounce": around(strength.number("travel.bounce"), corrects=STIFFNESS, at=tip, of=arm),
    }
    if orbit.cameras == 1:
        trial = design.number("trial.mass") * design.number("trial.arm")
        found["heavy"] = Foreseen(
            0.0, felt, off, {**weighs, "inertia": turns.inertia, "gravity": GRAVITY}, WEIGHT_ARM, at=tip
        )
        found["runs"] = Foreseen(
            0.0, felt, off, {**weighs, "trial": trial, "trial_mass": design.number("trial.mass")}, at=tip
        )
    return found
