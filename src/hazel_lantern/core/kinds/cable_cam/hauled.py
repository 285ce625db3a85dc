"""A carriage hauled by a line: its pulls, the line's strength and tightness."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.catalogue import TightRope
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.cable_cam.design import LOOP
from hazel_lantern.core.kinds.cable_cam.model import Cable
from hazel_lantern.core.kinds.cable_cam.ride import Ran, haul_forces
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.mechanics import rigging
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.figure import Curve, Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, PICTURE, STOP, STRUCTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller
from hazel_lantern.core.nouns.words import Words

HAND = 150.0  # newtons that a hand pulls evenly, workshop judgement
PULLEY = 0.06  # metres, as they are listed
SPARE_TIGHT = 20.0  # newtons that stay in the slack side of a loop
TIGHTEST = 1000.0  # newtons that a loop may be pulled tight with, either side


def haul_told(tell: Teller, design: Design, move: Move, cable: Cable, ride: Ran, path: Path) -> None:
    x, force = haul_forces(design, move, cable, path)
    order = np.argsort(x, kind="stable")
    tell.curves["travel.along.haul"] = Curve("travel.along.haul", "Hauled with", x[order], force[order], "m", "N")
    most = int(np.abs(force).argmax())
    loop = design.text("haul.by") == LOOP
    given = (
        Given("m", cable.moving, "kg", "carriage with camera", "carriage.mass"),
        design.given("c", "carriage.rolling", "rolls with", "1"),
        Given("x", float(x[most]) + cable.span / 2, "m", "from end A"),
    )
    tell.add(
        by_method(
            "travel.haul",
            "Hauled with, at the most",
            ride.haul,
            "N",
            "weight along the rope, rolling, speeding up and wind, against it",
            given,
            source="dynamics 1.6",
            headline=True,
        )
    )
    if not loop:
        tell.hold(
            "travel.haul",
            "travel.by_hand",
            "By hand",
            PICTURE,
            "haul.by",
            "It asks for {}; {} is pulled evenly by one hand.",
            at_most=HAND,
        )
        return
    tight = design.number("haul.tight")
    worst = max(ride.haul, ride.braked)
    asked, grip = worst / 2 + SPARE_TIGHT, design.number("haul.grip") * design.number("haul.wrap")
    tell.add(
        by_formula(
            "travel.tight",
            "Loop must be tightened to",
            "N",
            Formula("F/2+s"),
            (
                Given("F", worst, "N", "hauled or braked with", "travel.haul"),
                Given("s", SPARE_TIGHT, "N", "stays in the slack side"),
            ),
            source="dynamics 1.6",
        ),
        by_method(
            "travel.grips",
            "Drive wheel holds",
            2 * tight * math.tanh(grip / 2),
            "N",
            "what a wrapped wheel holds between its tight and its slack side",
            (
                design.given("T", "haul.tight", "each side, standing", "N"),
                design.given("mu", "haul.grip", "grip", "1"),
                design.given("beta", "haul.wrap", "wraps round it", "rad"),
            ),
            source="dynamics 1.6",
        ),
        by_method(
            "travel.redirect",
            "A pulley that turns it back is pulled with",
            rigging.redirect(tight + worst / 2, max(0.0, tight - worst / 2), math.pi),
            "N",
            "both sides added",
            (tell.given("F", "travel.haul"), design.given("T", "haul.tight", "each side, standing", "N")),
            source="dynamics 1.5",
        ),
    )
    tell.hold(
        "travel.tight",
        "travel.slack",
        "Loop stays tight",
        STRUCTURE,
        "haul.tight",
        Words(
            "Hauled or braked with {}, its slack side wants {} standing; it has {}.",
            ((worst, "N"), (asked, "N"), (tight, "N")),
        ),
        at_most=tight,
        watch_at=1.0,
        remedies=_tightened("tight", asked),
    )
    needs = worst / 2 / math.tanh(grip / 2)
    tell.hold(
        "travel.grips",
        "travel.slips",
        "Drive wheel does not slip",
        STRUCTURE,
        "haul.tight",
        Words(
            "It is hauled or braked with {}, the drive wheel holds {}.",
            ((worst, "N"), (tell.value("travel.grips"), "N")),
        ),
        at_least=worst,
        remedies=(
            *_tightened("tighter", 1.3 * needs),
            set_one("wrap", "Wrap it one and a half times", "haul.wrap", math.radians(540)),
        ),
    )


def _tightened(key: str, asked: float) -> tuple[Remedy, ...]:
    """The loop pulled tighter, as far as one may be [N]."""
    pulled = math.ceil(asked / 5) * 5.0
    return (set_one(key, "Tighten it to {}", "haul.tight", pulled, "N"),) if pulled <= TIGHTEST else ()


def line_told(tell: Teller, design: Design, cable: Cable, ride: Ran) -> None:
    """The line at its worst: hauled, or braked on the steepest place; and the pulleys it runs over."""
    line: TightRope = design.row("lines", "haul.line")
    kind, pull = rigging.stock(line.sort), max(ride.haul, ride.braked, 1.0)
    asked = rigging.LEAST[kind.family]
    tell.add(
        by_method(
            "travel.line_pull",
            "Line is pulled with, at the worst",
            pull,
            "N",
            "hauled over the move, or braked where the rope is steepest",
            (
                Given("m", cable.moving, "kg", "carriage with camera", "carriage.mass"),
                design.given("a", "brake.slows", "braked by", "m/s^2"),
            ),
            source="dynamics 1.6",
        )
    )
    tell.add(
        by_formula(
            "travel.line_factor",
            "The line is stronger by",
            "1",
            Formula("k*B/F"),
            (
                Given("k", rigging.tied_left(line.sort), "1", "its ends leave"),
                Given("B", line.breaking, "N", "breaks at", "haul.line"),
                tell.given("F", "travel.line_pull"),
            ),
            source="dynamics 1.3, 1.6",
        ),
        by_formula(
            "travel.line_wheel",
            "Its smallest wheel over its thickness",
            "1",
            Formula("D/d"),
            (
                Given("D", _smallest(design), "m", "pulley, or drive wheel", "haul.wheel"),
                Given("d", line.d, "m", "line", "haul.line"),
            ),
            source="dynamics 1.3",
        ),
    )
    tell.hold(
        "travel.line_factor",
        "travel.line",
        "Strength of the line",
        PEOPLE,
        "haul.line",
        "With its ends the line is {} times as strong as it is pulled; {} is asked.",
        at_least=asked,
        watch_at=0.9,
    )
    ratio = tell.value("travel.line_wheel")
    tell.hold(
        "travel.line_wheel",
        "travel.line_bends",
        "Wheels of the line",
        STRUCTURE,
        "haul.line",
        "The line bends over {} of its own thickness; {} is asked.",
        at_least=kind.wheel,
        state=CLEAR if ratio >= kind.wheel else WATCH,
        remedies=(set_one("fibre", "Polyester braid 4 mm", "haul.line", "polyester-4"),)
        if kind.family == rigging.WIRE
        else (),
    )
    if kind.family == rigging.WIRE:
        tell.findings.append(
            Finding(
                "travel.knots",
                "Wire as a line",
                PEOPLE,
                STOP,
                "haul.line",
                Words("A line is knotted and held in hands: wire rope takes no knot and cuts gloves."),
                remedies=(set_one("polyester", "Polyester braid 4 mm", "haul.line", "polyester-4"),),
            )
        )
    if line.sort == "nylon":
        tell.findings.append(
            Finding(
                "travel.nylon",
                "Nylon as a line",
                PEOPLE,
                STOP,
                "haul.line",
                Words("Nylon stretches and whips back: no haul line, no stop line."),
                remedies=(set_one("polyester", "Polyester braid 4 mm", "haul.line", "polyester-4"),),
            )
        )


def _smallest(design: Design) -> float:
    """The smallest wheel the line runs over [m]."""
    return min(PULLEY, design.number("haul.wheel")) if design.text("haul.by") == LOOP else PULLEY
