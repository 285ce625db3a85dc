"""A carriage that runs by its weight or is lost: how fast, how far, what catches it."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.cable_cam.model import Cable
from hazel_lantern.core.kinds.cable_cam.ride import MOMENTS, PLACES, Ran
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.mechanics import rope_run
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.figure import Curve, Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, PICTURE, STOP, WATCH, Finding, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

SLIPS = 1.5  # times what it is pulled with, that a stop holds
ROUGH = 2 * GRAVITY  # deceleration of a hard catch
BRAKE = Formula("v*t+v**2/(2*a)")


def by_gravity_told(tell: Teller, design: Design, move: Move, cable: Cable, ride: Ran, path: Path) -> None:
    """Let go at the start of the move."""
    first, last = (float(v) for v in path.at(np.array([0.0, 1.0]))[:, 0])
    x = np.linspace(first, last, PLACES)
    forward = 1.0 if last >= first else -1.0
    slope, way = cable.height.at(x)[1] * forward, cable.way.at(x)[0] * forward
    pull = np.sin(way) * (np.cos(way) + np.sin(way) * slope)
    drag = design.number("wind.area")
    calm = rope_run.gravity_run(x, slope, pull, cable.moving, rolling=design.number("carriage.rolling"), drag=drag)
    against = rope_run.gravity_run(
        x,
        slope,
        pull,
        cable.moving,
        rolling=design.number("carriage.rolling"),
        drag=drag,
        wind=design.number("wind.speed"),
    )
    tell.curves["travel.along.gravity"] = Curve(
        "travel.along.gravity",
        "Runs by its weight at",
        x if forward > 0 else x[::-1],
        calm.speed if forward > 0 else calm.speed[::-1],
        "m",
        "m/s",
    )
    given = (
        Given("m", cable.moving, "kg", "carriage with camera", "carriage.mass"),
        design.given("c", "carriage.rolling", "rolls with", "1"),
        design.given("A", "wind.area", "air pushes on", "m^2:floor"),
    )
    how = "weight along the rope against rolling and air, from the move's start"
    tell.add(
        by_method(
            "travel.gravity_top",
            "By its weight it reaches",
            calm.fastest,
            "m/s",
            how,
            given,
            valid="rope lighter than the carriage",
            source="dynamics 1.6",
            headline=True,
        ),
        by_method(
            "travel.gravity_end", "and passes the move's end at", calm.at_end, "m/s", how, given, source="dynamics 1.6"
        ),
    )
    if calm.fastest == 0.0:
        state, words = STOP, Words("It does not start: the rope falls by less than the wheels hold.")
    elif calm.stops_at is not None:
        state, words = (
            STOP,
            Words(
                "It stands {} short of the move's end; it has to be fetched there.", ((abs(last - calm.stops_at), "m"),)
            ),
        )
    elif against.stops_at is not None:
        state, words = (
            WATCH,
            Words("Against the wind it stands {} short of the move's end.", ((abs(last - against.stops_at), "m"),)),
        )
    else:
        state, words = (
            CLEAR,
            Words(
                "By its weight it comes to the move's end, and passes it at {} unless it is braked.",
                ((calm.at_end, "m/s"),),
            ),
        )
    lower = "end.b" if forward > 0 else "end.a"
    # Enough fall that friction is used up half.
    fall = round(design.number(lower) - 2 * design.number("carriage.rolling") * abs(last - first) - 0.3, 2)
    mend = (set_one("lower", "That end at {}", lower, fall, "m"),) if fall >= 0.4 and state == STOP else ()
    tell.findings.append(
        Finding("travel.by_weight", "Runs by its own weight", PICTURE, state, lower, words, remedies=mend)
    )
    tell.hold(
        "travel.gravity_top",
        "travel.held_back",
        "Held back by its brake",
        PEOPLE,
        "shot.time",
        Words(
            "Let run it reaches {}; the move's fastest is {}: the brake line pays out in the hand, all the way.",
            ((calm.fastest, "m/s"), (ride.fastest, "m/s")),
        ),
        at_most=max(ride.fastest, 1e-6),
        state=WATCH if calm.fastest > ride.fastest else CLEAR,
    )
    if calm.fastest < ride.fastest:
        tell.findings.append(
            Finding(
                "travel.too_slow",
                "Fast enough for the move",
                PICTURE,
                WATCH,
                "shot.time",
                Words(
                    "Its weight brings it to {} at the most; the move asks for {}.",
                    ((calm.fastest, "m/s"), (ride.fastest, "m/s")),
                ),
            )
        )


def runaway_told(tell: Teller, design: Design, cable: Cable, ride: Ran) -> None:
    """The line is lost at the move's fastest, at either stop: what the buffers must take."""
    hits = max(ride.at_stops)
    given = (
        Given("v", ride.fastest, "m/s", "fastest of the move", "shot.time"),
        design.given("c", "carriage.rolling", "rolls with", "1"),
        Given("m", cable.moving, "kg", "carriage with camera", "carriage.mass"),
    )
    how = "energy along the way, lost at the move's fastest at either stop, without air"
    tell.add(
        by_method("travel.runaway", "Lost, it reaches", ride.runaway, "m/s", how, given, source="dynamics 1.6"),
        by_method("travel.hits", "and comes to a stop at", hits, "m/s", how, given, source="dynamics 1.6"),
    )
    k = int(np.argmax(ride.at_stops))
    # What still drives it at that stop, towards it.
    driven = -float(ride.pull[-1 if k else 0]) * (1.0 if k else -1.0) * cable.moving * GRAVITY
    rate = design.number("buffer.rate")
    caught = rope_run.end_buffer(cable.moving, hits, rate, driven)
    tell.add(
        by_method(
            "travel.buffer",
            "A buffer gives",
            caught.stroke,
            "m",
            "spring against its energy and what still drives it",
            (
                tell.given("v", "travel.hits"),
                design.given("k", "buffer.rate", "spring", "N/m"),
                Given("F", driven, "N", "still drives it"),
            ),
            source="dynamics 1.6",
        )
    )
    tell.add(
        by_method(
            "travel.caught",
            "and slows it by",
            caught.slows,
            "m/s^2",
            "greatest, over its mass",
            (tell.given("s", "travel.buffer"), design.given("k", "buffer.rate", "spring", "N/m")),
            source="dynamics 1.6",
        )
    )
    tell.add(
        by_method(
            "travel.stop_pull",
            "A stop is pulled with",
            caught.force,
            "N",
            "greatest force of its buffer",
            (tell.given("s", "travel.buffer"), design.given("k", "buffer.rate", "spring", "N/m")),
            source="dynamics 1.6",
        )
    )
    tell.hold(
        "travel.stop_pull",
        "travel.stop_holds",
        "Stops hold on the rope",
        PEOPLE,
        "buffer.stop",
        "Caught, the carriage pulls its stop with {}; it holds {}.",
        at_most=design.number("buffer.stop") / SLIPS,
        remedies=(
            set_one(
                "tighter", "A stop that holds {}", "buffer.stop", math.ceil(caught.force * SLIPS * 1.2 / 50) * 50.0, "N"
            ),
            set_one("soft", "Springs of {}", "buffer.rate", max(20.0, round(rate / 3)), "N/m"),
        ),
    )
    stroke = design.number("buffer.stroke")
    longer = math.ceil(caught.stroke * 1.1 * 20) / 20
    tell.hold(
        "travel.buffer",
        "travel.stops",
        "Stops catch it",
        PEOPLE,
        "buffer.stroke",
        Words(
            "Lost, it comes to a stop at {}; its buffer would give {} and has {}.",
            ((hits, "m/s"), (caught.stroke, "m"), (stroke, "m")),
        ),
        at_most=stroke,
        watch_at=1.0,
        remedies=(set_one("softer", "Buffers that give {}", "buffer.stroke", longer, "m"),) if longer <= 3.0 else (),
    )
    tell.hold(
        "travel.caught",
        "travel.gently",
        "Caught gently",
        PICTURE,
        "buffer.rate",
        "Caught by its stop it is slowed by {}; {} is hard on camera and rope.",
        at_most=ROUGH,
        state=CLEAR if caught.slows <= ROUGH else WATCH,
        remedies=(set_one("soft", "Springs of {}", "buffer.rate", max(20.0, round(rate / 3)), "N/m"),),
    )
    rolls = float(np.abs(ride.pull).max()) > design.number("carriage.rolling")
    low = float(ride.x[int(np.argmin(np.cumsum(ride.pull)))]) + cable.span / 2
    tell.findings.append(
        Finding(
            "travel.left",
            "Left by itself",
            PEOPLE,
            WATCH if rolls else CLEAR,
            "haul.by",
            Words(
                "Left by itself it runs to about {} from end A, at up to {}: tie it, or keep the line in hand.",
                ((low, "m"), (ride.from_rest, "m/s")),
            )
            if rolls
            else Words("Left by itself it stays."),
        )
    )


def brake_told(tell: Teller, design: Design, move: Move, cable: Cable, ride: Ran, path: Path) -> None:
    """Braked at any moment of the move it must stand before the stop it goes towards."""
    u = np.linspace(0.0, 1.0, MOMENTS)
    x, speed = path.at(u)[:, 0], move.profile.speed(u) * move.chord
    room = np.where(speed >= 0, cable.high - x, x - cable.low)
    slows, reaction = design.number("brake.slows"), design.number("brake.reaction")
    way = np.abs(speed) * reaction + speed**2 / (2 * slows)
    tell.add(
        by_formula(
            "travel.brakes",
            "Braked, it goes on for",
            "m",
            BRAKE,
            (
                Given("v", ride.fastest, "m/s", "fastest of the move", "shot.time"),
                design.given("t", "brake.reaction", "after", "s"),
                design.given("a", "brake.slows", "slowed by", "m/s^2"),
            ),
            source="dynamics 1.6",
        ),
        by_method(
            "travel.brake_room",
            "Room left before a stop",
            float((room - way).min()),
            "m",
            "over the move, what is left of the run when it is braked there",
            (design.given("t", "brake.reaction", "after", "s"), design.given("a", "brake.slows", "slowed by", "m/s^2")),
            source="dynamics 1.6",
        ),
    )
    left = tell.value("travel.brake_room")
    tell.hold(
        "travel.brake_room",
        "travel.braked",
        "Braked in time",
        PEOPLE,
        "brake.reaction",
        Words(
            "Braked at any moment it stands {} before its stop."
            if left >= 0
            else "Braked late it runs {} into its stop: begin the ease earlier, or keep the stop further out.",
            ((abs(left), "m"),),
        ),
        at_least=0.0,
        state=CLEAR if left >= 0 else WATCH,
    )
