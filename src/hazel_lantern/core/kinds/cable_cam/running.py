"""How the carriage runs: the way it goes, what it is hauled with, where it runs by itself, how it is caught."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.cable_cam.design import GRAVITY_RUN
from hazel_lantern.core.kinds.cable_cam.hauled import haul_told, line_told
from hazel_lantern.core.kinds.cable_cam.let_go import brake_told, by_gravity_told, runaway_told
from hazel_lantern.core.kinds.cable_cam.model import Cable
from hazel_lantern.core.kinds.cable_cam.ride import Ran
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import STRUCTURE, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

WAVE = 0.2  # of the speed of a wave on the rope, that a carriage may go at
STEEP = math.radians(15)  # beyond which an end is kept out of the run


def running_figures(design: Design, move: Move, cable: Cable, ride: Ran, path: Path) -> Told:
    """Slope, haul, runaway, brake, buffers."""
    tell = Teller()
    _slope(tell, design, cable, ride)
    _wave(tell, cable, ride)
    if design.text("haul.by") == GRAVITY_RUN:
        by_gravity_told(tell, design, move, cable, ride, path)
    else:
        haul_told(tell, design, move, cable, ride, path)
    line_told(tell, design, cable, ride)
    runaway_told(tell, design, cable, ride)
    brake_told(tell, design, move, cable, ride, path)
    return tell.told()


def _slope(tell: Teller, design: Design, cable: Cable, ride: Ran) -> None:
    """Near its ends the rope is steep: the stops keep the carriage out."""
    steep = float(np.abs(ride.slope).max())
    at = float(ride.x[int(np.abs(ride.slope).argmax())])
    tell.add(
        by_method(
            "travel.slope",
            "Steepest of the run",
            math.atan(steep),
            "rad",
            "slope of the carriage's way between its stops",
            (
                Given("x", at + cable.span / 2, "m", "from end A"),
                design.given("a", "run.short_a", "stop from end A", "m"),
                design.given("b", "run.short_b", "stop from end B", "m"),
            ),
            source="dynamics 1.8",
            headline=True,
        )
    )
    x = cable.at - cable.span / 2
    slopes = np.abs(cable.height.at(x)[1])
    fine = np.flatnonzero(slopes <= math.tan(STEEP))
    mend: tuple[Remedy, ...] = ()
    if len(fine):
        short = max(cable.at[fine[0]], cable.span - cable.at[fine[-1]]) - cable.wheelbase / 2
        better = math.ceil(max(short, 0.1) * 20) / 20
        key = "run.short_a" if at < 0 else "run.short_b"
        mend = (
            (set_one("stops", "A stop {} from that end", key, better, "m"),)
            if better <= 15 and better > design.number(key)
            else ()
        )
    tell.hold(
        "travel.slope",
        "travel.steep",
        "Steep ends",
        STRUCTURE,
        "run.short_a" if at < 0 else "run.short_b",
        "The rope is as steep as {}; from {} on the ends are kept out of the run.",
        at_most=STEEP,
        remedies=mend,
    )


def _wave(tell: Teller, cable: Cable, ride: Ran) -> None:
    mass = float(cable.line.weight) / GRAVITY
    pull = float(cable.now.pull.min())
    tell.add(
        by_formula(
            "travel.wave",
            "Speed that shakes the rope",
            "m/s",
            Formula("s*sqrt(T/mu)"),
            (
                Given("s", WAVE, "1", "of a wave's own"),
                Given("T", pull, "N", "least pull of the rope"),
                Given("mu", mass, "kg/m", "rope a metre", "rope.line"),
            ),
            source="dynamics 1.6",
        ),
        by_formula(
            "travel.rope_mode",
            "Rope alone swings at",
            "Hz",
            Formula("sqrt(T/mu)/(2*l)"),
            (
                Given("T", cable.bare, "N", "pull while empty"),
                Given("mu", mass, "kg/m", "rope a metre", "rope.line"),
                Given("l", cable.span, "m", "span", "rope.span"),
            ),
            source="dynamics 1.7",
        ),
    )
    tell.hold(
        "travel.wave",
        "travel.fast",
        "Slow enough for the rope",
        STRUCTURE,
        "shot.time",
        Words(
            "The move goes at {}; from {} on a wave runs ahead of it.",
            ((ride.fastest, "m/s"), (tell.value("travel.wave"), "m/s")),
        ),
        at_least=ride.fastest,
        watch_at=0.9,
    )
