"""What hangs overhead: refusals, the caution, and the tether that catches the camera."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.mechanics import overhead
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import PEOPLE, STOP, WATCH, Finding, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

PEAK = Formula("m*g*(1+sqrt(1+2*h*k/(m*g)))")
SLIP = 0.05  # metres of slack over which the fall is told


def refusal(where: str, why: str) -> Finding:
    """What is not designed here at all; where: the input that asks for it."""
    return Finding("balance.refused", "Not designed here", PEOPLE, STOP, where, Words(f"{why[:1].upper()}{why[1:]}."))


def caution(mass: float, asks: str, figure: str = "") -> Finding:
    """The caution that stands at everything overhead; mass: what hangs [kg]; asks: what it calls for."""
    return Finding(
        "balance.caution",
        "Overhead rigging",
        PEOPLE,
        WATCH,
        "below",
        Words(f"{{}} hang overhead: {asks}; a licensed or competent person decides.", ((mass, "kg"),)),
        mass,
        0.0,
        "at_most",
        "kg",
        figure=figure,
    )


def tether_figures(design: Design, mass: float, what: str) -> Told:
    """The catch of a tether, the rating it calls for against the one it has, and its slack.

    mass: what falls [kg], in words `what`. Source: statics 8.4.
    """
    tell = Teller()
    slack, rated = design.number("tether.slack"), design.number("tether.rated")
    peak = overhead.tether_peak(mass, slack, design.number("tether.stiffness"))
    asked = overhead.tether_rating(mass, peak)
    tell.add(
        by_formula(
            "balance.tether",
            "Tether catches with",
            "N",
            PEAK,
            (
                Given("m", mass, "kg", what, "kit"),
                design.given("h", "tether.slack", "slack", "m"),
                design.given("k", "tether.stiffness", "stiffness", "N/m"),
            ),
            source="statics 8.4",
        )
    )
    tell.add(
        by_method(
            "balance.tether_rated",
            "Ask a tether rated",
            asked,
            "N",
            "the larger of ten times the weight and one and a half of the peak",
            (tell.given("F", "balance.tether"),),
            source="statics 8.4",
        )
    )
    better = math.ceil(asked / 100) * 100.0
    tell.hold(
        "balance.tether_rated",
        "balance.tether",
        "Tether",
        PEOPLE,
        "tether.rated",
        "A fall asks for a tether rated {}; this one is rated {}. Fix it to another part of the structure.",
        at_most=rated,
        remedies=(set_one("rated", "Take one rated {}", "tether.rated", better, "N"),) if better <= 50000 else (),
    )
    if slack > SLIP:
        tell.findings.append(
            Finding(
                "balance.slack",
                "Slack of the tether",
                PEOPLE,
                WATCH,
                "tether.slack",
                Words("{} of slack; keep it under {}.", ((slack, "m"), (SLIP, "m"))),
                slack,
                SLIP,
                "at_most",
                "m",
                (set_one("short", "Shorten the slack to 30 mm", "tether.slack", 0.03),),
            )
        )
    return tell.told()
