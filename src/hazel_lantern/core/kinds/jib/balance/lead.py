"""A cable tied along the arm: how long it must be, and what it weighs the arm down by."""

from __future__ import annotations

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.shared.lead import SPARE
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY

ON_ARM = Formula("w*g*L**2/2")


def along_arm(design: Design) -> Told:
    """Tied along an arm and down its post, with a loop at the pivot."""
    tell, line = Teller(), design.number("lead.line")
    arm, post = design.number("arm.front"), design.number("pivot.height")
    if line <= 0:
        return tell.told()
    length = Given("L", arm, "m", "arm, camera side", "arm.front")
    tell.add(
        by_method(
            "balance.lead",
            "Lead, with its loop",
            arm + post + 2 * SPARE,
            "m",
            "along the arm, a loop at the pivot, down the post",
            (length, Given("h", post, "m", "pivot above the ground", "pivot.height")),
            source="geometry",
        ),
        by_formula(
            "balance.lead_moment",
            "It weighs down the arm by",
            "N*m",
            ON_ARM,
            (design.given("w", "lead.line", "lead", "kg/m"), Given("g", GRAVITY, "m/s^2", "gravity"), length),
            assumptions=("not in the balance above: tie it on before the weights are set",),
            source="statics",
        ),
    )
    return tell.told()
