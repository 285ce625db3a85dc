"""A cable that follows the camera: how long it must be, and what it pulls with."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import PICTURE
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY

SPARE = 0.5  # metres of a lead beyond what it must reach
SCRAPES = 0.5  # friction of a lead drawn over a floor, workshop judgement
HALF = 0.5  # of the push, from which a lead is felt in the picture
DRAGGED = Formula("mu*w*g*L")
HUNG = Formula("w*g*L/4")


def lead_input(group: str) -> Quantity:
    """The input that says what follows the camera."""
    words = "cable that follows the camera, its mass a metre: a thin one 0.04 kg, with power 0.1; 0 for none"
    return Quantity("lead.line", "Camera lead", "kg/m", 0.0, 0.5, 0.0, group, words, "travel")


def drawn(design: Design, way: float, high: float, push: float, *, hung: bool = False, by: str = "") -> Told:
    """Fixed beside the middle of a way [m], drawn over the floor to a camera so high [m] or `hung` in loops along it,
    against the steady push of its carriage [N]; `by` the input that sets the way.
    """
    tell, line = Teller(), design.number("lead.line")
    if line <= 0:
        return tell.told()
    half = way / 2
    reach = (math.pi / 2 if hung else 1.0) * half + high + SPARE
    given = (Given("L", half, "m", "half of the travel", by), Given("h", high, "m", "up to the camera"))
    how = "loops half as deep as they are apart" if hung else "from beside the middle of the travel to its end and up"
    weight = (design.given("w", "lead.line", "lead", "kg/m"), Given("g", GRAVITY, "m/s^2", "gravity"), given[0])
    tell.add(
        by_method("travel.lead", "Lead, with its loop", reach, "m", f"{how}, and half a metre", given, source="geometry"),
        by_formula("travel.lead_pull", "It pulls the camera with", "N", HUNG, weight, assumptions=("loops half as deep as apart",), source="parabola")
        if hung
        else by_formula("travel.lead_pull", "It pulls the camera with", "N", DRAGGED, (Given("mu", SCRAPES, "1", "scraping over the floor"), *weight), source="friction"),
    )  # fmt: skip
    tell.hold(
        "travel.lead_pull", "travel.lead_felt", "Camera lead", PICTURE, "lead.line",
        "At the end of the travel its lead pulls with {}; half of the push that rolls it is {}. Somebody carries it, or it hangs from above.",
        at_most=HALF * push, watch_at=1.0,
    )  # fmt: skip
    return tell.told()
