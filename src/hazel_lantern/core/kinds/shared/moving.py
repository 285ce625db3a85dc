"""Figures of a move that every kind shows the same way."""

from __future__ import annotations

from hazel_lantern.core.motion.shapes import EASED, TRAPEZOID
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.figure import Figure, Given, by_formula
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, STOP, Finding, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

PEAK = Formula("way/T/(1-r)")
STRETCH = Formula("c*k*way/t")
PLAYED = Formula("T*f_shot/f_shown")
VIEW = Formula("2*atan2(w*q,2*f)")


def move_figures(move: Move, optics: Optics, way: float, words: str, ref: str) -> Told:
    """Fastest speed over a way [m], the time on the screen, the angle the lens sees."""
    tell = Teller()
    time = Given("T", move.duration_s, "s", "duration", "shot.time")
    tell.add(
        _fastest(move, Given("way", way, "m", words, ref), time),
        by_formula(
            "shot.played",
            "Plays for",
            "s",
            PLAYED,
            (
                time,
                Given("f_shot", optics.capture_fps, "1/s", "frame rate shot", "shot.capture"),
                Given("f_shown", optics.shown_fps, "1/s", "frame rate shown", "shot.shown"),
            ),
            source="frames counted twice",
        ),
        by_formula(
            "shot.view",
            "Lens sees",
            "rad",
            VIEW,
            (
                Given("w", optics.sensor_width_m, "m:lens", "picture width on the sensor", "shot.sensor_width"),
                Given("q", optics.squeeze, "1", "squeeze", "shot.squeeze"),
                Given("f", optics.focal_m, "m:lens", "focal length", "shot.focal"),
            ),
            assumptions=("focused far away",),
            source="drive 5.2",
        ),
    )
    return tell.told()


def long_enough(want: float, have: float, what: str, where: str, longer: float, longest: float) -> Finding:
    """Whether a rail is long enough for the move.

    want, have: travel [m]; what: is to be lengthened, in words; where: the input of its length; longer: length that
    would do [m]; longest: that is drawn here [m]
    """
    short = want > have
    holds = what + (" give" if what.endswith("s") else " gives")
    return Finding(
        "shot.travel",
        "Long enough for the move",
        PICTURE,
        CLEAR if want <= have + 1e-9 else STOP,
        where,
        Words(f"The move asks for {{}} of travel; the {holds} {{}}.", ((want, "m"), (have, "m"))),
        want,
        have,
        "at_most",
        "m",
        (set_one("longer", f"{what.capitalize()} {{}}", where, longer, "m"),) if short and longer <= longest else (),
        figure="rig.travel",
    )


def _fastest(move: Move, way: Given, time: Given) -> Figure:
    """The greatest speed, in whichever stretch it is reached."""
    whole = len(move.segments) == 1 and move.profile.fastest.way == 1
    if whole and move.segments[0].shape in (EASED, TRAPEZOID):
        ramp = Given("r", move.segments[0].ramp, "1", "ease", "shot.ramp")
        soft = "soft" if move.segments[0].shape == EASED else "even"
        return by_formula(
            "shot.speed",
            "Fastest",
            "m/s",
            PEAK,
            (way, time, ramp),
            assumptions=(f"{soft} ramps at both ends, steady between",),
            source="drive 4.1",
        )
    one = move.profile.fastest
    return by_formula(
        "shot.speed",
        "Fastest",
        "m/s",
        STRETCH,
        (
            way,
            Given("c", one.shape.c_v, "1", "fastest over average of its shape"),
            Given("k", one.way, "1", "share of the way in the fastest stretch"),
            Given("t", one.time, "s", "time of that stretch", "shot.time"),
        ),
        source="drive 4.1",
    )
