"""What keeps a carriage where it was left: its friction, a lock, or nothing but a hand."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.rail.bends import Ride
from hazel_lantern.core.kinds.rail.model import Carriage, Straight
from hazel_lantern.core.kinds.shared.inputs import BY_FRICTION, BY_HAND, BY_LOCK
from hazel_lantern.core.mechanics import carriage
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, PICTURE, STOP, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

LEVEL = 1e-6  # radians
SPARE = 2.0  # what a lock holds over what it must, which creeps under a shaking hand; workshop judgement


def kept_figures(design: Design, rail: Straight, ride: Ride) -> Told:
    """Whether it runs away on its slope or its own sag, and whether what is to hold it there does."""
    return on_slope(design, rail) if abs(rail.slope) > LEVEL else _on_its_sag(design, rail, ride)


def on_slope(design: Design, rail: Carriage) -> Told:
    """Whether it runs away on its slope, and whether what is to hold it there does."""
    steep, least = abs(rail.slope), rail.drag[0]
    if steep <= LEVEL:
        return Told()
    tell, by = Teller(), design.text("place.kept")
    roll = carriage.incline(rail.moving, steep, least, rail.high - rail.low)
    weight = Given("W", rail.weight, "N", "carriage and camera kit", "kit")
    slope = Given("alpha", steep, "rad", "slope", "rail.slope")
    friction = Given("c", least, "1", "least friction")
    tell.add(
        by_method(
            "balance.hold",
            "Hold it with",
            roll.holding,
            "N",
            "weight along the slope less the least friction",
            (weight, slope, friction),
            source="statics 5.4",
        )
    )
    if by == BY_LOCK:
        holds = design.number("place.lock")
        enough = math.ceil(1.26 * SPARE * roll.holding)
        tell.hold(
            "balance.hold",
            "balance.away",
            "Lock of the carriage",
            PEOPLE,
            "place.lock",
            "The slope pulls with {}; half of what its lock holds, {}, is safe.",
            at_most=holds / SPARE,
            remedies=(set_one("lock", "A lock that holds {}", "place.lock", float(enough), "N"), *_level()),
        )
        return tell.told()
    # Below half of the slope at which it would run, friction holds it through a knock.
    held = math.atan(least)
    state = STOP if roll.runs_away else WATCH if steep > held / 2 else CLEAR
    tell.findings.append(
        Finding(
            "balance.away",
            "Runs away by itself",
            PEOPLE,
            state,
            "rail.slope",
            _words(roll, by),
            steep,
            held,
            "at_most",
            "rad",
            (*_locked(design, roll.holding), *_level()) if state != CLEAR else (),
        )
    )
    return tell.told()


def _on_its_sag(design: Design, rail: Straight, ride: Ride) -> Told:
    """On a level rail: whether the rail's own sag rolls it from where it was left."""
    tell, held = Teller(), math.atan(rail.drag[0])
    dips = float(np.abs(ride.pitch).max())
    tell.add(
        by_method(
            "travel.rolls",
            "Rail dips under it by",
            dips,
            "rad",
            "steepest pitch of the bent rail along the travel",
            (Given("c", rail.drag[0], "1", "least friction"),),
            source="statics 4.2, 5.4",
        )
    )
    locked = design.text("place.kept") == BY_LOCK
    tell.hold(
        "travel.rolls",
        "travel.stays",
        "Stays where it is left",
        PICTURE,
        "place.kept",
        "Its lock keeps it: the rail dips by {}, friction alone holds up to {}."
        if locked
        else "The bent rail dips by {} under it; friction holds it up to {}.",
        at_most=held,
        state=CLEAR if locked or dips <= held else WATCH,
        remedies=_locked(design, rail.weight * math.sin(dips)),
    )
    return tell.told()


def _words(roll: carriage.Incline, by: str) -> Words:
    if not roll.runs_away:
        return Words("Friction holds it" + ("; keep a hand on it." if by == BY_HAND else "."))
    let_go = "let go, " if by == BY_HAND else "though only friction keeps it, " if by == BY_FRICTION else ""
    return Words(
        f"On this slope {let_go}the carriage runs away and reaches {{}} at the end: lock it, brake it, or drive it "
        "with a "
        "screw.",
        ((roll.end_speed, "m/s"),),
    )


def _locked(design: Design, holding: float) -> tuple[Remedy, ...]:
    """A lock, of what it must hold if the one that is set would not."""
    holds = max(design.number("place.lock"), float(math.ceil(1.26 * SPARE * holding)))
    changes = (("place.kept", BY_LOCK), ("place.lock", holds))
    return (Remedy("lock", Words("Lock it with what holds {}", ((holds, "N"),)), changes),)


def _level() -> tuple[Remedy, ...]:
    return (set_one("level", "Lay the rail level", "rail.slope", 0.0),)
