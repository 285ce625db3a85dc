"""Tests of how well it is moved: back to its mark, play at reversal, speed against what was commanded."""

from __future__ import annotations

import numpy as np

from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import CLEAR, WATCH
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.proving.repeats import mean, outlier
from hazel_lantern.core.proving.trial import DRIVE, Outcome, Reads, Trial, field
from hazel_lantern.core.proving.trials.rails import TAPE

STEP = 1e-4  # metres that a mark is read to
OFF = 0.02  # of its speed that passes


def _repeat(rows: np.ndarray, _reads: Reads) -> Outcome:
    values = rows[:, 0]
    odd = outlier(values)
    kept = np.delete(values, odd.index) if odd.index >= 0 else values
    found = mean(kept, step=STEP)
    left = (
        f" Reading {odd.index + 1} does not belong to the others; it is kept in the file and not counted."
        if odd.index >= 0
        else ""
    )
    words = Words(
        f"It stops {{}} off the mark, and the next time within {{}} of that.{left}",
        ((found.value, "m", found.half_width), (found.next_within, "m")),
    )
    return Outcome(found.value, found.half_width, CLEAR, words)


def _play(rows: np.ndarray, _reads: Reads) -> Outcome:
    """How much further it stands when it comes from one side than from the other."""
    found = mean(rows[:, 0] - rows[:, 1], step=2 * STEP)
    words = Words(
        "It gives {} at reversal: come to marks always from one side, tighten the belt or the mesh, then look at the "
        "grub screws.",
        ((abs(found.value), "m", found.half_width),),
    )
    return Outcome(
        found.value, found.half_width, CLEAR if abs(found.value) <= 1e-3 + found.half_width else WATCH, words
    )


def _speed(rows: np.ndarray, _reads: Reads) -> Outcome:
    """Distance over time against what was commanded; what is commanded for a metre goes up where it is slow."""
    distance, time, wanted = rows.T
    if np.ptp(wanted) > 1e-9:
        raise InputError("wanted", float(wanted.max()), "must be one and the same for all rows")
    off = mean(distance / time / float(wanted[0]) - 1)
    state = CLEAR if abs(off.value) <= OFF + off.half_width else WATCH
    words = Words(
        f"It goes {100 * abs(off.value):.1f} ± {100 * off.half_width:.1f} % "
        f"{'slower' if off.value < 0 else 'faster'} than commanded: multiply steps for a metre by "
        f"{1 / (1 + off.value):.4f}."
    )
    return Outcome(off.value, off.half_width, state, words)


TRIALS = (
    Trial("repeat", "Comes back to its mark", "m", DRIVE,
        "Run it to its end mark from the same side; read how far it is off the mark, beyond it plus. Eight times or "
            "more.", ("tape",),
          (field("off", "off the mark", "m", -0.5, 0.5, give=STEP),), 4, _repeat, once=True),
    Trial("play", "Play at reversal", "m", DRIVE,
        "Command it to one place from the left and then from the right; read where it stands each time.", ("tape",),
          (field("left", "from the left", "m", -0.5, 0.5, give=STEP),
              field("right", "from the right", "m", -0.5, 0.5, give=STEP)), 4, _play, once=True),
    Trial("speed", "Speed against command", "1", DRIVE,
        "Time it between two marks at one commanded speed, well after it started; ten seconds or more each.",
        ("watch", "tape"),
          (field("distance", "went", "m", 0.01, 50.0, 1.0, TAPE), field("time", "in", "s", 0.5, 3600.0, 10.0, 0.3),
              field("wanted", "commanded", "m/s", 1e-4, 5.0, 0.1, kept=True)), 3, _speed, once=True),
)  # fmt: skip
