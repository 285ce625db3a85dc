"""How the carriage moves beside its run: swing along and across, bounce, roll, and what that does to the picture."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.cable_cam.design import SWINGS
from hazel_lantern.core.kinds.cable_cam.model import Cable
from hazel_lantern.core.kinds.cable_cam.ride import Ran
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.mechanics import rope_run
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.figure import Curve, Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, PICTURE, STOP, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics import lens

MOMENTS = 401
ABOUT = (0.87, 0.93, 1.07, 1.13)  # of its length: no ease meets a swing to the hundredth
UNSEEN = 0.01  # of the picture's height
TILTS = math.radians(10)  # over the run, that a cut or a head hides
HORIZON = math.radians(0.5)
PERIOD = Formula("2*pi*sqrt(1/(g/L+T*b/(m*L**2)))")
BOUNCE = Formula("sqrt(k/(m+mu*l/3))/(2*pi)")


class Swung(Struct, frozen=True):
    """Along the run: length of what swings [m], what the rope under two wheels adds to its weight's pull back [1/s^2];
    while it moves, at `times` [s], its `angle` (n,), the most, what is left of it after, and at the most after where
    its length is a little off [rad].
    """

    length: float
    held: float
    times: np.ndarray
    angle: np.ndarray
    most: float
    after: float
    about: float

    @property
    def spin(self) -> float:
        """Its own, turns a second times 2 pi [rad/s]."""
        return math.sqrt(GRAVITY / self.length + self.held)


def swung(design: Design, move: Move, cable: Cable) -> Swung:
    """The camera under its carriage through the move: a pendulum, held by the rope where it hangs stiff under two
    wheels.
    """
    length = max(cable.hangs, 0.02)
    held = 0.0
    if cable.stiff:
        pull = cable.count * float(cable.now.pull[cable.middle])
        held = pull * cable.wheelbase / (cable.moving * length**2)
    return _through(move, length, held)


def _through(move: Move, length: float, held: float, slower: float = 1.0) -> Swung:
    times = np.linspace(0.0, slower * move.duration_s, MOMENTS)
    speeds = move.profile.speed(np.linspace(0.0, 1.0, MOMENTS)) * move.chord / slower
    angle, after = rope_run.swing_under(times, speeds, length, held)
    near = [rope_run.swing_under(times, speeds, length * share, held)[1] for share in ABOUT]
    return Swung(length, held, times, angle, float(np.abs(angle).max()), after, max(after, *near))


def swing_figures(
    design: Design, move: Move, optics: Optics, cable: Cable, swing: Swung, ride: Ran, path: Path, suggest: bool
) -> Told:
    """Along, up and down, across."""
    tell = Teller()
    focal = float(lens.focal_pixels(optics.focal_m, optics.pixels_high, optics.sensor_height_m))
    _along(tell, move, cable, swing, focal, optics, suggest)
    _tilt(tell, cable, ride)
    _bounce(tell, design, cable, ride)
    _across(tell, design, cable)
    return tell.told()


def _along(tell: Teller, move: Move, cable: Cable, swing: Swung, focal: float, optics: Optics, suggest: bool) -> None:
    given = (
        Given("L", swing.length, "m", "centre of all that hangs, below the rope", "carriage.drop"),
        Given("m", cable.moving, "kg", "carriage with camera", "carriage.mass"),
        Given(
            "T",
            cable.count * float(cable.now.pull[cable.middle]) if cable.stiff else 0.0,
            "N",
            "rope, where it holds two wheels",
        ),
        Given("b", cable.wheelbase, "m", "wheels apart", "carriage.wheelbase"),
        Given("g", GRAVITY, "m/s^2", "gravity"),
    )
    tell.add(
        by_formula(
            "travel.period",
            "Swings along the run once in",
            "s",
            PERIOD,
            given,
            assumptions=("its mass at its centre",),
            source="dynamics 1.7",
        ),
        by_method(
            "travel.swing_most",
            "Swings, as it starts and stops, by",
            swing.most,
            "rad",
            "a pendulum under a carriage that goes as the move says",
            given[:4],
            valid="up to 14°",
            source="dynamics 1.7, 12",
            headline=True,
        ),
        by_method(
            "travel.swing",
            "and is left swinging by",
            swing.after,
            "rad",
            "to either side, when the move is over, without damping",
            given[:4],
            valid="up to 14°",
            source="dynamics 1.7, 12",
        ),
        by_method(
            "travel.swing_px",
            "in the picture, at the most",
            focal * math.tan(min(swing.about, 1.5)),
            "px",
            "to either side, its length up to an eighth off",
            (
                Given("F", focal, "px", "focal length"),
                Given("L", swing.length, "m", "centre of all that hangs, below the rope", "carriage.drop"),
            ),
            source="drive 5.3",
        ),
    )
    tell.curves["travel.path"] = Curve("travel.path", "Swings along the run", swing.times, swing.angle, "s", "rad")
    unseen = UNSEEN * optics.pixels_high
    mend: tuple[Remedy, ...] = ()
    if suggest and tell.value("travel.swing_px") > unseen:
        mend = _eased(move, swing, unseen / focal)
    tell.hold(
        "travel.swing_px",
        "travel.settles",
        "Still when it stops",
        PICTURE,
        "shot.time",
        Words(
            "When it stops the picture is left swinging by up to {}, in {} a swing; {} is not minded: a longer ease.",
            ((tell.value("travel.swing_px"), "px"), (tell.value("travel.period"), "s"), (unseen, "px")),
        ),
        at_most=unseen,
        state=CLEAR if tell.value("travel.swing_px") <= unseen else WATCH,
        remedies=mend,
    )
    if swing.most > rope_run.SMALL:
        tell.findings.append(
            Finding(
                "travel.wild",
                "Swings far",
                PEOPLE,
                STOP if swing.most > 2 * rope_run.SMALL else WATCH,
                "shot.time",
                Words(
                    "It swings by {} as it starts or stops; beyond 14° these figures are rough.", ((swing.most, "rad"),)
                ),
            )
        )


def _eased(move: Move, swing: Swung, most: float) -> tuple[Remedy, ...]:
    """The shortest time from which on the picture is left still, and the next after it at which it is."""
    for slower in np.linspace(1.05, 4.0, 60):
        if _through(move, swing.length, swing.held, float(slower)).about <= 0.9 * most:
            return (set_one("ease", "A move of {}", "shot.time", math.ceil(move.duration_s * slower * 10) / 10, "s"),)
    return ()


def _tilt(tell: Teller, cable: Cable, ride: Ran) -> None:
    """Stiff under two wheels it tilts as the rope leads."""
    if not cable.stiff:
        return
    way, _ = cable.way.at(ride.x)
    most, least = float(way.max()), float(way.min())
    given = (
        Given("a", ride.x[0] + cable.span / 2, "m", "run begins, from end A", "run.short_a"),
        Given("b", ride.x[-1] + cable.span / 2, "m", "run ends", "run.short_b"),
    )
    tell.add(
        by_method(
            "travel.tilts",
            "Tilts over the run by",
            most - least,
            "rad",
            "direction of the rope under its wheels, from the one stop to the other",
            given,
            source="dynamics 1.1",
        )
    )
    tell.hold(
        "travel.tilts",
        "travel.tilt",
        "Tilt of the camera",
        PICTURE,
        "carriage.hang",
        "Along the run the camera tilts by {} with the rope; {} is followed by a head or cut round.",
        at_most=TILTS,
        state=CLEAR if most - least <= TILTS else WATCH,
        remedies=(set_one("pivot", "Hang it from a pivot", "carriage.hang", SWINGS),),
    )


def _bounce(tell: Teller, design: Design, cable: Cable, ride: Ran) -> None:
    mass = float(cable.line.weight) / GRAVITY
    tell.add(
        by_method(
            "travel.rate",
            "Rope gives up and down with",
            cable.count * cable.states.rate,
            "N/m",
            "one hundredth of its load more and less, in the middle",
            (Given("P", cable.load, "N", "on a rope", "carriage.mass"),),
            source="dynamics 1.7",
        )
    )
    tell.add(
        by_formula(
            "travel.bounce",
            "Bounces at",
            "Hz",
            BOUNCE,
            (
                tell.given("k", "travel.rate"),
                Given("m", cable.moving, "kg", "carriage with camera", "carriage.mass"),
                Given("mu", cable.count * mass, "kg/m", "rope a metre", "rope.line"),
                design.given("l", "rope.span", "span", "m"),
            ),
            source="dynamics 1.7",
        )
    )
    tell.add(
        by_formula(
            "travel.wheel_turns",
            "A wheel turns with it at",
            "m/s",
            Formula("f*pi*D"),
            (
                Given("f", tell.value("travel.bounce"), "Hz", "bounces at", "travel.bounce"),
                design.given("D", "carriage.wheel", "wheel", "m"),
            ),
            source="dynamics 3.4",
        )
    )
    meets = tell.value("travel.wheel_turns")
    near = 0.8 * meets <= ride.fastest <= 1.25 * meets
    tell.findings.append(
        Finding(
            "travel.shakes",
            "Speed at which it bounces",
            PICTURE,
            WATCH if near else CLEAR,
            "shot.time",
            Words(
                "At {} a wheel turns once a bounce; the move's fastest is {}.", ((meets, "m/s"), (ride.fastest, "m/s"))
            ),
        )
    )


def _across(tell: Teller, design: Design, cable: Cable) -> None:
    """Rolled by a centre that lies aside; one rope lets it hang, two hold it as far as they are stiff."""
    off, below = design.number("carriage.off"), cable.hangs
    moment = cable.moving * GRAVITY * off
    given = (
        design.given("e", "carriage.off", "centre aside", "m"),
        Given("h", below, "m", "centre below the rope", "carriage.drop"),
        *((design.given("b", "twin.apart", "ropes apart", "m"),) if cable.count == 2 else ()),
    )
    try:
        roll = rope_run.twin_roll(
            moment, cable.states.rate if cable.count == 2 else 0.0, cable.apart, cable.moving, below
        )
    except InfeasibleError as error:
        tell.findings.append(
            Finding(
                "travel.over",
                "Stays upright",
                PEOPLE,
                STOP,
                "carriage.drop",
                Words(f"{str(error)[:1].upper()}{str(error)[1:]}."),
            )
        )
        return
    uneven = cable.states.uneven / cable.apart if cable.count == 2 else 0.0
    rolled = abs(roll) + abs(uneven)
    tell.add(
        by_method(
            "travel.roll",
            "Rolls by",
            rolled,
            "rad",
            "its centre aside, held by its weight and by two ropes, and what their pulls differ by"
            if cable.count == 2
            else "its centre aside, held by its weight",
            given,
            source="dynamics 1.7",
        )
    )
    if cable.count == 2:
        tell.add(
            by_method(
                "travel.uneven",
                "of it by ropes not alike",
                abs(uneven),
                "rad",
                "how much further down the slacker one hangs, over what they are apart",
                (design.given("u", "twin.uneven", "pulls differ by", "1"), given[-1]),
                source="dynamics 1.7",
            )
        )
    less = round(off * HORIZON / max(rolled, HORIZON) * 0.9, 4)
    tell.hold(
        "travel.roll",
        "travel.horizon",
        "Level picture",
        PICTURE,
        "carriage.off" if abs(roll) >= abs(uneven) else "twin.uneven",
        "It hangs rolled by {}; {} passes.",
        at_most=HORIZON,
        state=CLEAR if rolled <= HORIZON else WATCH,
        remedies=(set_one("centre", "Its centre within {}", "carriage.off", less, "m"),)
        if abs(roll) >= abs(uneven)
        else (set_one("alike", "Tighten them alike to a hundredth", "twin.uneven", 0.01),),
    )
    if cable.count == 1:
        tell.add(
            by_formula(
                "travel.sways",
                "Sways across the run once in",
                "s",
                Formula("2*pi*sqrt(L/g)"),
                (
                    Given("L", max(below, 0.02), "m", "centre below the rope", "carriage.drop"),
                    Given("g", GRAVITY, "m/s^2", "gravity"),
                ),
                source="dynamics 1.7",
            )
        )
