"""What it takes to push a dolly, in words of hands, and a chock that holds it."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.rail.model import Carriage
from hazel_lantern.core.mechanics import platform
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import PICTURE
from hazel_lantern.core.nouns.told import Teller, Told

ONE_PERSON = 120.0
HANDS = ((10.0, "a nudge"), (45.0, "one hand"), (ONE_PERSON, "a shove with both arms"), (240.0, "two people"))
KNOCKED = 2.0  # times what the slope pulls with, and a leaning hand
LEANS = 50.0  # newtons


def hand_figures(design: Design, rail: Carriage, pushes: Told) -> Told:
    """The push to start, in words of hands; how high a chock must be."""
    tell, steep = Teller(), abs(math.sin(rail.slope))
    start = pushes.value("travel.start") + rail.weight * steep
    words = next((said for most, said in HANDS if start <= most), "more than two people push: lighten it")
    weight = Given("W", rail.weight, "N", "all that rolls", "kit")
    slope = Given("alpha", rail.slope, "rad", "slope", "rail.slope")
    tell.add(
        by_method(
            "travel.hand",
            "Push to start it",
            start,
            "N",
            f"start on the level and the slope: {words}",
            (weight, slope),
            source="dynamics 3.2",
        )
    )
    tell.hold(
        "travel.hand",
        "travel.by_hand",
        "By hand",
        PICTURE,
        "ballast.mass",
        f"It starts with {{}}: {words}. Up to {{}} one person pushes it evenly.",
        at_most=ONE_PERSON,
        watch_at=1.0,
    )
    push, lower = KNOCKED * rail.weight * steep + LEANS, min(rail.axles())
    tell.add(
        by_method(
            "balance.chock",
            "A chock at least",
            max(rail.wheel.d / 8, platform.chock(rail.wheel.d, max(1.0, lower), push)),
            "m",
            "an eighth of the wheel; more where twice the slope's pull and a leaning hand push the lighter axle over "
            "that",
            (
                Given("D", rail.wheel.d, "m", "wheel", "carriage.wheel"),
                Given("N", lower, "N", "lighter axle", "kit"),
                Given("F", push, "N", "pushed with", "rail.slope"),
            ),
            source="dynamics 3.1",
        )
    )
    return tell.told()
