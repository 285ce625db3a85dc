"""Tests of a rope that was put up: pull by plucking, sag with the camera, and what holds its ends."""

from __future__ import annotations

import numpy as np

from hazel_lantern.core.nouns.finding import CLEAR, STOP, WATCH
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.proving.bending import plucked
from hazel_lantern.core.proving.repeats import mean
from hazel_lantern.core.proving.trial import BALANCE, Outcome, Reads, Trial, corrected, field, judged
from hazel_lantern.core.proving.trials.rails import TAPE

MINUTES, MOVED = 5.0, 0.002  # that an anchor is pulled for; metres that it may move


def _pluck(rows: np.ndarray, reads: Reads) -> Outcome:
    takes = reads.own.takes
    pull = mean([plucked(row[0] / row[1], takes["length"], takes["line"]) for row in rows])
    low, high = reads.own.low, reads.own.high
    side = "tighten it" if pull.value < low else "slacken it" if pull.value > high else "it stands as drawn"
    words = Words(
        f"Empty it pulls with {{}}; {{}} was drawn: {side}.",
        ((pull.value, "N", pull.half_width), (reads.own.middle, "N")),
    )
    return Outcome(
        pull.value,
        pull.half_width,
        judged(pull.value, pull.half_width, reads.own),
        words,
        corrected(reads.own, pull.value, pull.half_width, reads),
    )


def _hangs(rows: np.ndarray, reads: Reads) -> Outcome:
    sags = rows[:, 0] - rows[:, 1]
    sag = mean(sags, step=2 * TAPE)
    side = "tighten it" if sag.value > reads.own.high else "slacken it" if sag.value < reads.own.low else "as drawn"
    words = Words(f"It sags {{}}; {{}} was drawn: {side}.", ((sag.value, "m", sag.half_width), (reads.own.middle, "m")))
    return Outcome(sag.value, sag.half_width, judged(sag.value, sag.half_width, reads.own), words)


def _stake(rows: np.ndarray, reads: Reads) -> Outcome:
    """The last pull counts: it holds what it was held with, for as long as asked, without moving."""
    pull, minutes, moved = (float(value) for value in rows[-1])
    asked = reads.own.low
    held = minutes >= MINUTES and moved <= MOVED
    state = STOP if not held else CLEAR if pull >= asked else STOP
    if not held:
        why = "moved by {}" if moved > MOVED else "was pulled for too short a time"
        words = Words(
            f"It {why}: a deeper or another stake, or two of them; pull it again.",
            ((moved, "m"),) if moved > MOVED else (),
        )
        return Outcome(pull, 0.0, STOP, words)
    enough = Words("It held {}; {} is asked.", ((pull, "N"), (asked, "N")))
    return Outcome(
        pull,
        0.0,
        state if state != WATCH else WATCH,
        enough,
        (),
        ((reads.own.corrects, pull),),
        Words("It held {} without moving", ((pull, "N"),)),
    )


def _stakes(end: str) -> Trial:
    return Trial(
        f"stake_{end}",
        f"Pull test of end {end.upper()}",
        "N",
        BALANCE,
        "A stake along its guy, a tree along the rope, with a lever hoist and a scale in line; everybody beside the "
        "line, never in it. Five minutes, with a mark on the ground.",
        ("scale",),
        (
            field("pull", "pulled with", "N", 10.0, 100000.0, 1000.0, 20.0),
            field("minutes", "minutes", "1", 0.0, 120.0, 5.0),
            field("moved", "moved by", "m", 0.0, 1.0, give=TAPE),
        ),
        1,
        _stake,
        once=True,
    )


TRIALS = (
    Trial("pluck", "Rope plucked", "N", BALANCE,
        "Empty rope: pluck it in its middle so that it swings in one long bow; count whole swings and time them.",
        ("hand", "watch"),
          (field("swings", "swings", "count", 2, 200, 20), field("time", "took",
              "s", 0.2, 300.0, 5.0, 0.3)), 3, _pluck),
    Trial("hangs", "Sag with the camera", "m", BALANCE,
        "Carriage and camera, or as much sand, in the middle. A tape to the ground from the straight line between "
            "the ends, by a string, a laser or by sighting; and from the rope.", ("tape",),
          (field("line", "line above ground", "m", 0.05, 30.0, 2.0, TAPE),
              field("rope", "rope above ground", "m", 0.02, 30.0, 1.5, TAPE)), 3, _hangs, once=True),
    _stakes("a"),
    _stakes("b"),
)  # fmt: skip
