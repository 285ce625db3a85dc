"""One round rail: what runs or slides on it can turn about it, and hangs where its weight wants to."""

from __future__ import annotations

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.rail.bends import HORIZON, centred
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.kinds.shared.splices import ROUND
from hazel_lantern.core.nouns.figure import Given, by_formula
from hazel_lantern.core.nouns.finding import PEOPLE, PICTURE, STOP, Finding
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

HANGS = Formula("atan2(y, z)")
SWINGS = Formula("atan2(F*h, W*z)")


def round_figures(design: Design, rail: Straight) -> Told:
    """How far it hangs to the side, and how far a careless push swings it; above its rail it falls over."""
    if rail.count > 1 or rail.bar.shape not in ROUND:
        return Told()
    tell, aside, below = Teller(), abs(float(rail.cg[1])), -float(rail.cg[2]) - rail.bar.depth / 2
    if below <= 0:
        words = Words(
            f"One round rail does not keep the {rail.carrier} upright: it turns over about it. Take a profile, or "
            "two rails."
        )
        return Told((), (Finding("balance.turns", "Turns about its rail", PEOPLE, STOP, "rail.section", words),))
    given = (
        Given("y", aside, "m", "centre of mass to the side", "camera.aside"),
        Given("z", below, "m", "and below the middle of the rail", "camera.rise"),
    )
    push = (
        Given("F", design.number("push.side"), "N", "careless push at the camera", "push.side"),
        Given("h", abs(float(rail.lens[2])) + rail.bar.depth / 2, "m", "lens below the rail"),
        Given("W", rail.weight, "N", f"{rail.carrier} and camera kit", "kit"),
    )
    tell.add(
        by_formula("travel.hangs", "Hangs to the side by", "rad", HANGS, given, source="plumb below its axis"),
        by_formula(
            "travel.swings",
            "A careless push swings it by",
            "rad",
            SWINGS,
            (*push, given[1]),
            source="plumb below its axis",
        ),
    )
    tell.hold(
        "travel.hangs",
        "travel.plumb",
        "Hangs plumb",
        PICTURE,
        "camera.aside",
        "Free to turn about its round rail, the camera hangs {} to the side; {} passes.",
        at_most=HORIZON,
        remedies=centred(rail),
    )
    return tell.told()
