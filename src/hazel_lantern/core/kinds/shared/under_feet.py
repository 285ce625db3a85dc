"""What the feet of a stand need under them on soft or sloping ground."""

from __future__ import annotations

import math
from collections.abc import Mapping

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.nouns.figure import Given, by_formula
from hazel_lantern.core.nouns.finding import CLEAR, STOP, STRUCTURE, WATCH, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Laid

HARD = "hard"
# What ground bears under a small foot before it gives by centimetres, with a factor of two [Pa]; workshop judgement.
BEARS: Mapping[str, tuple[str, float]] = {
    "gravel": ("Rolled gravel", 150e3),
    "turf": ("Firm turf", 75e3),
    "sand": ("Soft turf or sand", 30e3),
    "mud": ("Wet clay or mud", 12e3),
}
FOOT = 0.03  # metres: side of a foot that stands on nothing
FOOTPRINT, LOWER = Formula("sqrt(m*g/q)"), Formula("sqrt(3)*r*tan(a)")


def ground_inputs(group: str, **of: object) -> tuple[Parameter, ...]:
    """The ground below the feet, and boards on it."""
    ground = ((HARD, "Hard floor"), *((key, name) for key, (name, _) in BEARS.items()))
    return (
        Choice("ground.under", "Feet stand on", ground, HARD, group, "", **of),  # type: ignore[arg-type]
        Quantity(
            "ground.board",
            "Boards under the feet",
            "m",
            0.0,
            0.8,
            0.0,
            group,
            "their side; 0 for none",
            when=("ground.under", tuple(BEARS)),
            **of,  # type: ignore[arg-type]
        ),
        Quantity(
            "ground.falls",
            "Ground slopes by",
            "rad",
            0.0,
            math.radians(20),
            0.0,
            group,
            "levelled with wedges or legs",
            **of,  # type: ignore[arg-type]
        ),
    )


def under_feet(design: Design, laid: Laid, spread: str) -> Told:
    """Boards and wedges; `spread` is the input that says how far feet stand from their centre."""
    tell, slope = Teller(), design.number("ground.falls")
    if slope > 0:
        radius, falls = (
            design.given("r", spread, "feet from centre", "m"),
            design.given("a", "ground.falls", "slope", "rad"),
        )
        tell.add(
            by_formula(
                "balance.wedge",
                "Lowest foot raised by up to",
                "m",
                LOWER,
                (radius, falls),
                assumptions=("one foot straight downhill of two",),
                source="geometry",
            )
        )
    ground = design.text("ground.under")
    if ground == HARD:
        return tell.told()
    name, bears = BEARS[ground]
    mass = sum(piece.mass for piece in laid.placed)
    given = (
        Given("m", mass, "kg", "all that stands, on one foot as it leans"),
        Given("g", GRAVITY, "m/s^2", "gravity"),
        Given("q", bears, "Pa", f"{name.lower()} bears", "ground.under"),
    )
    tell.add(
        by_formula(
            "balance.board",
            "Board under each foot at least",
            "m",
            FOOTPRINT,
            given,
            assumptions=("workshop judgement, no soil was tested",),
            source="statics 6",
        )
    )
    asked, laid_on = tell.value("balance.board"), max(FOOT, design.number("ground.board"))
    sets = min(0.8, math.ceil(asked * 100) / 100)
    words = (
        Words(f"{name}: feet on {{}} boards; {{}} square under each bear all of it.", ((laid_on, "m"), (asked, "m")))
        if laid_on > FOOT
        else Words(
            f"{name} gives under bare feet, and the rig leans as it gives: a board {{}} square under each.",
            ((asked, "m"),),
        )
    )
    state = CLEAR if laid_on >= asked else WATCH if laid_on >= asked / math.sqrt(2) else STOP
    tell.hold(
        "balance.board",
        "balance.ground",
        "Ground under the feet",
        STRUCTURE,
        "ground.board",
        words,
        at_most=laid_on,
        watch_at=1.0,
        state=state,
        remedies=(set_one("boards", "Boards of {}", "ground.board", sets, "m"),) if sets >= asked else (),
    )
    return tell.told()
