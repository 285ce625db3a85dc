"""What tests of a rope that was put up are foreseen to read."""

from __future__ import annotations

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.cable_cam.design import BY_SAG
from hazel_lantern.core.kinds.cable_cam.ends import pulled
from hazel_lantern.core.kinds.cable_cam.model import Cable
from hazel_lantern.core.kinds.foreseen import NEAR, Forecast, Foreseen, around
from hazel_lantern.core.nouns.told import Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

PULL, ENDS = "rope.pull", ("tested.a", "tested.b")


def tested(design: Design) -> tuple[str, ...]:
    """Keys of all that: stakes and trees are pulled, what is built is not."""
    return ("pluck", "hangs", "bounce", *(f"stake_{end}" for end in ("a", "b") if pulled(design, end)))


def foreseen(design: Design, cable: Cable, ends: Told, swings: Told) -> Forecast:
    """Its pull by plucking it empty, its sag under the carriage, its bounce, and what its ends are tried with."""
    mass = float(cable.line.weight) / GRAVITY
    middle = (0.0, cable.ends[0] + float(cable.now.height[cable.middle]))
    empty = Words("Carriage off or at a stop with its rope clamped: the rope swings from end to end.")
    found = {
        "pluck": around(
            cable.bare,
            takes={"line": mass, "length": cable.span},
            corrects=PULL if design.text("rope.set") != BY_SAG else "",
            where=empty,
            at=middle,
        ),
        "hangs": around(float(cable.now.sag[cable.middle]), NEAR, at=middle),
        "bounce": around(swings.number("travel.bounce"), at=middle),
    }
    for end, key, at in (
        ("a", ENDS[0], (-cable.span / 2, cable.ends[0])),
        ("b", ENDS[1], (cable.span / 2, cable.ends[1])),
    ):
        if pulled(design, end):
            asked = ends.value(f"balance.test_{end}")
            found[f"stake_{end}"] = Foreseen(asked, 2 * asked, asked, corrects=key, at=at)
    return found
