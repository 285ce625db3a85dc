"""How hard a move speeds up, what bounds it, and the shortest time it may take."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.document.project import Shot
from hazel_lantern.core.kinds.base import Limit
from hazel_lantern.core.motion.profile import Stretch
from hazel_lantern.core.motion.shapes import EASED
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, STRUCTURE, WATCH, Finding, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics import screen

HARDEST = Formula("c*k*way/t**2")
SLOWEST_PICTURE = Formula("v*J_most/J")
SHORTEST = Formula("T*sqrt(a/A)")
SHORTEST_SEEN = Formula("T*max(sqrt(a/A), v/V)")


def hurry_figures(shot: Shot, move: Move, limits: tuple[Limit, ...], pace: Told, suggest: bool) -> Told:
    """Greatest acceleration against the least of the limits, and the time both it and the picture ask for.

    pace: what was told of the speed across the picture
    """
    tell, way = Teller(), move.length
    if way <= 0:
        return tell.told()
    profile = move.profile
    if not math.isfinite(profile.peak_acceleration):
        return _jolts(profile.stretches)
    hardest = max(profile.stretches, key=lambda one: one.way * one.shape.c_a / one.time**2)
    tell.add(
        by_formula(
            "shot.acceleration",
            "Speeds up by, at most",
            "m/s^2",
            HARDEST,
            (
                Given("c", hardest.shape.c_a, "1", "hardest over average of its shape"),
                Given("k", hardest.way, "1", "share of the way in the hardest stretch"),
                Given("way", way, "m", "way of the lens"),
                Given("t", hardest.time, "s", "time of that stretch", "shot.time"),
            ),
            source="drive 4.1",
        )
    )
    told = {figure.key: figure for figure in pace.figures}
    speed = Given("v", profile.peak_speed * way, "m/s", "fastest along the path")
    # Below a thousandth of what anybody minds the subject is followed and only rounding is left.
    if "shot.gap" in told and told["shot.gap"].value > screen.GAPS[0] / 1000:
        jumps = Given("J", told["shot.gap"].value, "1", "jumps each frame, of the width", "shot.gap")
        most = Given("J_most", screen.GAPS[0], "1", "jumps nobody minds")
        tell.add(
            by_formula(
                "shot.limit_speed",
                "Faster than this it judders",
                "m/s",
                SLOWEST_PICTURE,
                (speed, most, jumps),
                assumptions=("the same things in the picture",),
                source="drive 5.4",
            )
        )
    if limits:
        tell.take(_against(shot, min(limits, key=lambda limit: limit.value), tell, speed, suggest))
    return tell.told()


def _against(shot: Shot, limit: Limit, said: Teller, speed: Given, suggest: bool) -> Told:
    """The acceleration against what bounds it, and the shortest time within all bounds."""
    tell = Teller()
    tell.add(
        by_method(
            "shot.limit_acceleration",
            "It may speed up by",
            limit.value,
            "m/s^2",
            f"least of what bounds it: {limit.words}",
            (Given("A", limit.value, "m/s^2", limit.words, limit.key),),
            source="drive 4.2",
        )
    )
    given = [
        Given("T", shot.duration_s, "s", "duration", "shot.time"),
        said.given("a", "shot.acceleration"),
        tell.given("A", "shot.limit_acceleration"),
    ]
    judders = "shot.limit_speed" in said.figures
    if judders:
        given += [speed, said.given("V", "shot.limit_speed")]
    tell.add(
        by_formula(
            "shot.shortest",
            "Could be done in",
            "s",
            SHORTEST_SEEN if judders else SHORTEST,
            tuple(given),
            assumptions=("same way and shape, all of it stretched alike",),
            source="drive 4.1",
        )
    )
    hardest = said.value("shot.acceleration")
    longer = shot.duration_s * math.sqrt(hardest / limit.value)
    rounded = math.ceil(longer * 10) / 10
    remedies = [set_one("slower", "Take {}", "shot.time", rounded, "s")] if suggest and rounded <= 36000 else []
    tell.take(
        Told(
            findings=(
                Finding(
                    "shot.hurry",
                    "Speeding up",
                    STRUCTURE,
                    CLEAR if hardest <= limit.value * (1 + 1e-9) else WATCH,
                    "shot.time",
                    Words(
                        f"The move speeds up by {{}}; {limit.words} is {{}}.",
                        ((hardest, "m/s^2"), (limit.value, "m/s^2")),
                    ),
                    hardest,
                    limit.value,
                    "at_most",
                    "m/s^2",
                    tuple(remedies) if hardest > limit.value else (),
                    figure="shot.acceleration",
                ),
            )
        )
    )
    return tell.told()


def _jolts(stretches: tuple[Stretch, ...]) -> Told:
    """A move that starts at full speed asks for more than anything can give."""
    n = int(np.argmax([not math.isfinite(one.shape.c_a) for one in stretches]))
    words = Words("A linear stretch starts and stops at full speed: hands and motors jerk there, and it shows.")
    ease = set_one("ease", "Ease it", f"stretch.{n}.shape", EASED)
    told = Finding(
        "shot.hurry", "Speeding up", PICTURE, WATCH, f"stretch.{n}.shape", words, 1.0, 0.0, "at_most", "count", (ease,)
    )
    return Told(findings=(told,))
