"""A cable that follows the camera: how long it must be, and what it pulls with."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.mechanics.lead import slack
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import PICTURE
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY

SPARE = 0.5  # metres of a lead beyond what it must reach
SCRAPES = 0.5  # friction of a lead drawn over a floor, workshop judgement
HALF = 0.5  # of the push, from which a lead is felt in the picture
BESIDE = 0.3  # metres from the way to where a hung lead is tied
ROOM = 1.02  # times what a hung lead must reach, so that it never comes tight
WAYS = 41  # places of a way looked at
DRAGGED = Formula("mu*w*g*L")


def lead_input(group: str) -> Quantity:
    """The input that says what follows the camera."""
    words = "cable that follows the camera, its mass a metre: thin 40 g, with power 100 g; 0 for none"
    return Quantity("lead.line", "Camera lead", "kg/m", 0.0, 0.5, 0.0, group, words, "travel")


class Drawn(Struct, frozen=True):
    """A lead tied beside the middle of a way: its length [m], what it pulls its camera back with at the end of the way,
    and down at the most [N], and how far its loop hangs below the tie with the camera beside it, none where it lies
    [m].
    """

    length: float
    pull: float
    down: float
    loop: float


def laid_out(design: Design, way: float, high: float, *, hung: bool) -> Drawn | None:
    """A way [m] with its camera so high [m] over the floor that the lead lies on, or so far below the height at which
    it is `hung`; None without a lead.
    """
    line = design.number("lead.line")
    if line <= 0:
        return None
    half = way / 2
    if not hung:
        return Drawn(half + high + SPARE, SCRAPES * line * GRAVITY * half, line * GRAVITY * high, 0.0)
    aside, fallen = np.hypot(np.linspace(0.0, half, WAYS), BESIDE), np.full(WAYS, -high)
    length = ROOM * math.hypot(aside[-1], high) + SPARE
    hangs = slack(aside, fallen, length, line * GRAVITY)
    along = hangs.along * np.linspace(0.0, half, WAYS) / aside
    return Drawn(length, float(along.max()), float(hangs.down.max()), float(hangs.low.max()))


def drag(design: Design, way: float, high: float, *, hung: bool) -> float:
    """What a lead pulls its carriage back with at the most [N]."""
    lead = laid_out(design, way, high, hung=hung)
    return 0.0 if lead is None else lead.pull


def drawn(
    design: Design, way: float, high: float, push: float, *, hung: bool = False, by: str = "", over: float = math.inf
) -> Told:
    """Tied beside the middle of a way [m], drawn over the floor to a camera so high [m], or `hung` from a height `over`
    the floor [m] to a camera so far below that, against the steady push of its carriage [N]; `by` the input that sets
    the way.
    """
    tell, lead = Teller(), laid_out(design, way, high, hung=hung)
    if lead is None:
        return tell.told()
    half = Given("L", way / 2, "m", "half of the travel", by)
    given = (half, Given("h", high, "m", "from where it is tied down to the camera" if hung else "up to the camera"))
    how = (
        "2 % over what it must reach, and half a metre"
        if hung
        else "from beside the middle of the travel to its end and up, and half a metre"
    )
    weight = (design.given("w", "lead.line", "lead", "kg/m"), Given("g", GRAVITY, "m/s^2", "gravity"))
    hangs = "hangs freely from beside the middle of the travel, over all its places"
    tell.add(
        by_method("travel.lead", "Lead, with its loop", lead.length, "m", how, given, source="geometry"),
        by_method(
            "travel.lead_pull",
            "It pulls the camera with",
            lead.pull,
            "N",
            hangs,
            (*weight, *given),
            source="drive 4.10",
        )
        if hung
        else by_formula(
            "travel.lead_pull",
            "It pulls the camera with",
            "N",
            DRAGGED,
            (Given("mu", SCRAPES, "1", "scraping over the floor"), *weight, half),
            source="drive 4.10",
        ),
        by_method(
            "travel.lead_down",
            "and down with",
            lead.down,
            "N",
            hangs if hung else "what hangs from the camera to the floor",
            (*weight, *given),
            source="drive 4.10",
        ),
    )
    tell.hold(
        "travel.lead_pull",
        "travel.lead_felt",
        "Camera lead",
        PICTURE,
        "lead.line",
        "At the end of the travel its lead pulls with {}; half of the push that rolls it is {}. Somebody carries it, "
        "or it hangs from above.",
        at_most=HALF * push,
        watch_at=1.0,
    )
    if hung:
        tell.add(
            by_method(
                "travel.lead_loop",
                "Its loop hangs below the tie by",
                lead.loop,
                "m",
                "the camera beside its tie",
                given,
                source="drive 4.10",
            )
        )
        tell.hold(
            "travel.lead_loop",
            "travel.lead_low",
            "Loop of the lead",
            PICTURE,
            "lead.line",
            "The loop hangs {} below where it is tied; the floor is {} below. Run it on rings along a cord in short "
            "loops.",
            at_most=over,
            watch_at=1.0,
        )
    return tell.told()
