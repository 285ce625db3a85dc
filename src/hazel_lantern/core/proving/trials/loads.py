"""Proof load before first use, and the look at what wears before each use."""

from __future__ import annotations

import numpy as np

from hazel_lantern.core.nouns.finding import CLEAR, STOP
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.proving.trial import BEFORE_EACH, BEFORE_FIRST, Outcome, Reads, Trial, field
from hazel_lantern.core.proving.trials.rails import TAPE

PROOF, WEAR = "proof", "wear"
KEEPS, LEAST = 0.1, 2e-4  # of what it sank that it may stay down by, and metres that nobody can read


def _proof(rows: np.ndarray, reads: Reads) -> Outcome:
    load, sank, back = (float(value) for value in rows[-1])
    asks = reads.own.low
    enough = load >= asks - 1e-9
    kept = back <= KEEPS * max(sank, 1e-4) + LEAST
    words = Words(
        "Loaded with {} it sank {} and stayed {} down." + ("" if enough else " {} is asked for."),
        ((load, "kg"), (sank, "m"), (back, "m"), *(((asks, "kg"),) if not enough else ())),
    )
    return Outcome(load, 0.0, CLEAR if kept and enough else STOP, words)


def _wear(rows: np.ndarray, _reads: Reads) -> Outcome:
    found = round(float(rows[-1, 0]))
    words = Words(
        "Nothing worn, loose or cracked was found."
        if not found
        else f"{found} place{'s' if found > 1 else ''} worn, loose or cracked: put right before it carries a camera, "
        "then look again."
    )
    return Outcome(float(found), 0.0, CLEAR if not found else STOP, words)


TRIALS = (
    Trial(PROOF, "Proof load", "kg", "",
        "Nobody under or beside it. Half as much again as the camera kit in sand, in the camera's place, ten minutes "
            "at the worst pose; how far it sank, and how far it stayed down when unloaded.", ("weight", "tape"),
          (field("load", "loaded with", "kg", 0.1, 200.0, 5.0, 0.05), field("sank", "sank", "m", 0.0, 0.5, give=TAPE),
              field("stayed", "stayed down", "m", 0.0, 0.5, give=TAPE)), 1, _proof,
              once=True, due=BEFORE_FIRST, days=365),
    Trial(WEAR, "Wear check", "count", "",
        "Camera off. Every bolt, pin, clamp, rope, strap, belt and wheel by hand and eye: loose, bent, cracked, "
            "frayed, worn flat; safety tether on. Count what is not as it should be.", ("hand",),
          (field("worn", "places found", "count", 0, 99, 0),), 1, _wear, once=True, due=BEFORE_EACH, days=1),
)  # fmt: skip
