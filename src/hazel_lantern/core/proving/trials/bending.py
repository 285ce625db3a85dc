"""Tests of what gives: sag under a weight, a bounce and its decay, a head or stand turned by a weight, a hanger."""

from __future__ import annotations

import numpy as np

from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.proving.bending import turned
from hazel_lantern.core.proving.repeats import mean
from hazel_lantern.core.proving.swings import swung
from hazel_lantern.core.proving.trial import STIFFNESS, Outcome, Reads, Trial, corrected, field, judged, stiffened
from hazel_lantern.core.proving.trials.rails import LEVEL_GIVE, TAPE

DAMPING = "damping"


def _sag(rows: np.ndarray, reads: Reads) -> Outcome:
    """How far each kilogram makes it sink; it is stiffer by as much as it sinks less."""
    loads, sinks = rows.T
    gives = mean(sinks / loads)
    if gives.value <= 0:
        raise InputError("sag", gives.value, "m/kg: it must sink under a weight")
    stiffer = reads.own.middle / gives.value
    measured = stiffened(reads.own, stiffer, stiffer * gives.half_width / gives.value, reads)
    words = Words(
        f"It sinks {{}} for each kilogram: {stiffer:.2f} times as stiff as drawn.",
        ((gives.value, "m/kg", gives.half_width),),
    )
    return Outcome(gives.value, gives.half_width, judged(gives.value, gives.half_width, reads.own), words, measured)


def _bounce(rows: np.ndarray, reads: Reads) -> Outcome:
    swings = [swung(*(float(value) for value in row)) for row in rows]
    # The last swing is the smallest, and a tape tells it worst.
    step = float(np.mean(2 * TAPE / rows[:, 3] / rows[:, 0])) / (2 * np.pi)
    rate, loses = mean([one.frequency for one in swings]), mean([one.damping for one in swings], step=step)
    stiffer = (rate.value / reads.own.middle) ** 2
    measured = stiffened(reads.own, stiffer, 2 * stiffer * rate.half_width / rate.value, reads)
    damped = reads.all.get(DAMPING)
    measured += () if damped is None else corrected(damped, loses.value, loses.half_width, reads)
    words = Words(
        f"It bounces at {{}} and loses {{}} of critical damping: {stiffer:.2f} times as stiff as drawn.",
        ((rate.value, "Hz", rate.half_width), (loses.value, "1", loses.half_width)),
    )
    return Outcome(rate.value, rate.half_width, judged(rate.value, rate.half_width, reads.own), words, measured)


def _head(rows: np.ndarray, reads: Reads) -> Outcome:
    stiff = mean([turned(row[0], row[1], row[2]) for row in rows])
    words = Words("It holds with {}.", ((stiff.value, "N*m/rad", stiff.half_width),))
    return Outcome(
        stiff.value,
        stiff.half_width,
        judged(stiff.value, stiff.half_width, reads.own),
        words,
        corrected(reads.own, stiff.value, stiff.half_width, reads),
    )


def _hanger(rows: np.ndarray, reads: Reads) -> Outcome:
    loads, sinks = rows.T
    if (sinks <= 0).any():
        raise InputError("hanger", float(sinks.min()), "m: it must sink under a weight")
    stiff = mean(GRAVITY * loads / sinks)
    words = Words("A hanger gives with {}.", ((stiff.value, "N/m", stiff.half_width),))
    return Outcome(
        stiff.value,
        stiff.half_width,
        judged(stiff.value, stiff.half_width, reads.own),
        words,
        corrected(reads.own, stiff.value, stiff.half_width, reads),
    )


TRIALS = (
    Trial("sag", "Sag under a known weight", "m/kg", STIFFNESS,
        "Hang a weight there first to seat everything and take it off. Note the height on a tape, add a known "
            "weight, note how far it sinks. Nothing under it.", ("weight", "tape"),
          (field("load", "added", "kg", 0.1, 100.0, 1.0, 0.005),
              field("sinks", "sinks", "m", 0.0, 0.3, give=TAPE)), 3, _sag),
    Trial("bounce", "Bounce and its decay", "Hz", STIFFNESS,
        "Tap the camera down and film a tape beside it, or log it with a phone: swings counted, their time, the "
            "first and the last as high as they were.", ("phone", "tape"),
          (field("cycles", "swings", "count", 2, 200, 10), field("time", "in", "s", 0.1, 300.0, 3.0, 0.1),
              field("first_high", "first", "m", 1e-5, 1.0, 0.01, TAPE),
              field("last_high", "last", "m", 1e-6, 1.0, 0.005, TAPE)), 3, _bounce),
    Trial("head", "Head turned by a weight", "N*m/rad", STIFFNESS,
        "Head locked. Hang a weight at the end of a level bar clamped to it; read with a level how far it turns. "
            "Both ways in turn.", ("weight", "level"),
          (field("load", "weight", "kg", 0.05, 50.0, 1.0, 0.005),
              field("arm", "from the head", "m", 0.05, 3.0, 0.5, TAPE),
              field("turns", "turns by", "rad", 1e-4, 0.3, give=LEVEL_GIVE)), 3, _head),
    Trial("hanger", "Hanger under a weight", "N/m", STIFFNESS,
        "Hang a weight right under a hanger and measure how far that place sinks. Nobody under it.", ("weight", "tape"),
          (field("load", "added", "kg", 0.5, 200.0, 5.0, 0.005),
              field("sinks", "sinks", "m", 0.0, 0.1, give=TAPE / 10)), 3, _hanger),
)  # fmt: skip
