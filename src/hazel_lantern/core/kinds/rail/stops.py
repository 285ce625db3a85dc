"""What stops a carriage that runs: the stops at the ends of its rails."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.rail.model import Carriage
from hazel_lantern.core.kinds.shared.inputs import BY_LOCK
from hazel_lantern.core.mechanics import carriage
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, STOP, STRUCTURE, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

HITS = Formula("m*v**2/s")


def stop_figures(design: Design, move: Move, rail: Carriage) -> Told:
    """The force of a carriage that meets its end stops at the move's fastest, or at what the slope runs it up to,
    against what they hold.
    """
    tell, steep = Teller(), abs(rail.slope)
    fastest = min(rail.way_of(move) * move.profile.peak_speed, 1e3)
    runs = 0.0
    if steep > 0 and design.text("place.kept") != BY_LOCK:
        runs = carriage.incline(rail.moving, steep, rail.drag[0], rail.high - rail.low).end_speed
    meets = max(fastest, runs)
    tell.add(
        by_method(
            "travel.end_speed",
            "It may meet its end stops with",
            meets,
            "m/s",
            "the larger of the move's fastest and what the slope runs it up to, let go at the other end",
            (
                Given("v", fastest, "m/s", "the move's fastest", "shot.time"),
                Given("u", runs, "m/s", "let go on its slope", "rail.slope"),
            ),
            source="statics 5.4",
        ),
        by_formula(
            "travel.end_hit",
            "and press them with",
            "N",
            HITS,
            (
                Given("m", rail.moving, "kg", "all that moves", "kit"),
                tell_given(meets),
                design.given("s", "stop.gives", "a stop gives way by", "m"),
            ),
            assumptions=("a stop presses back in step with how far it is pressed", "all of it on the stops of one end"),
            source="dynamics 1.6",
        ),
    )
    hit, holds, count = tell.value("travel.end_hit"), design.number("stop.holds"), 2 if rail.spacing else 1
    softer = math.ceil(1.3 * design.number("stop.gives") * hit / (count * holds) * 1e3) / 1e3
    mend: tuple[Remedy, ...] = (
        (set_one("softer", "Stops that give {}", "stop.gives", softer, "m"),) if softer <= 0.2 else ()
    )
    tell.hold(
        "travel.end_hit",
        "travel.stopped",
        "End stops",
        PEOPLE if "below" in design.values else STRUCTURE,  # what leaves a rail overhead falls
        "stop.holds",
        Words(
            f"Run into {'both stops' if count == 2 else 'its stop'} at {{}} it presses with {{}}; "
            f"{'they hold' if count == 2 else 'it holds'} {{}}."
            + (" A stop is no brake: slow down before it." if hit > count * holds else ""),
            ((meets, "m/s"), (hit, "N"), (count * holds, "N")),
        ),
        at_most=count * holds,
        state=CLEAR if hit <= count * holds else STOP,
        remedies=mend,
    )
    return tell.told()


def tell_given(meets: float) -> Given:
    """What it meets them with, as an input of a why."""
    return Given("v", meets, "m/s", "it meets them with", "travel.end_speed")
