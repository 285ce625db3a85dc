"""Tests of balance: drift of an arm, spin-down of what turns, its heavy side by swinging and by three trial runs."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.mechanics.rotor import three_runs
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.finding import CLEAR, WATCH
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.proving.drift import correction, drift
from hazel_lantern.core.proving.repeats import SURE, mean, t_of
from hazel_lantern.core.proving.spin import slowed, swings_about
from hazel_lantern.core.proving.trial import BALANCE, FRICTION, Outcome, Reads, Trial, corrected, field, judged
from hazel_lantern.core.proving.trials.rails import LEVEL_GIVE, SCALE

STEP = 0.02  # newtons that a hanging scale is read to
NEAREST, FURTHEST = 0.05, 3.0  # metres from the pivot that weights may be slid to
RUNS = ("alone", "at the camera arm", "a third round", "two thirds round")


def _drift(rows: np.ndarray, reads: Reads) -> Outcome:
    angles, up, down, radius, zero = rows.T
    if np.ptp(radius) > 1e-6:
        raise InputError("radius", float(radius.max()), "must be one and the same for all rows")
    out, takes = float(radius[0]), reads.own.takes
    read = drift(angles, (up + down) / 2 - zero, out, STEP)
    rubs = float(np.abs(up - down).mean()) / 2 * out
    heavy, give = GRAVITY * read.along, GRAVITY * read.along_doubt
    if not math.isfinite(give):
        raise InputError("drift", len(rows), "rows say no give or take: three at the least")
    weights = takes["weights"]
    state = CLEAR if abs(heavy) <= max(reads.own.high - reads.own.middle, give) else WATCH
    end = "Camera" if heavy > 0 else "Weight"
    told = ((abs(heavy), "N*m", give), (rubs, "N*m"))
    if weights <= 0:
        words = Words(f"{end} end is {{}} heavy; friction holds {{}}.", told)
        return Outcome(heavy, give, state, words)
    slide = correction(read.along, read.above, weights, max(takes["place"], NEAREST)).slide_out
    target = round(takes["place"] + slide, 4)
    either = give / GRAVITY / weights
    way = "back" if heavy > 0 else "in"
    words = Words(
        f"{end} end is {{}} heavy: slide the weights {{}} {way}. Friction holds {{}}.",
        (told[0], (abs(slide), "m", either), told[1]),
    )
    sure = abs(heavy) > give and NEAREST < target < FURTHEST
    # The weights are slid on the rig itself: the drawing then has them where they are.
    changes = ((reads.own.corrects, target),) if sure else ()
    return Outcome(
        heavy,
        give,
        state,
        words,
        (),
        changes,
        Words("Weights slid to {}", ((target, "m"),)) if sure else None,
        spent=True,
    )


def _coast(rows: np.ndarray, reads: Reads) -> Outcome:
    turns, times = rows[np.argsort(rows[:, 1], kind="stable")].T
    read = slowed(times, reads.own.takes["inertia"], turns)
    apart = "; air is told apart" if read.told_apart else ""
    words = Words(
        f"Its bearings hold it back with {{}}; {{}} was drawn{apart}.",
        ((read.friction, "N*m", read.friction_give), (reads.own.middle, "N*m")),
    )
    measured = corrected(reads.own, read.friction, read.friction_give, reads)
    return Outcome(
        read.friction, read.friction_give, judged(read.friction, read.friction_give, reads.own), words, measured
    )


def _heavy(rows: np.ndarray, reads: Reads) -> Outcome:
    """The axis tilted, so that it swings about it like a pendulum; which arm settles lowest says where it is heavy."""
    takes = reads.own.takes
    off = mean([swings_about(takes["inertia"], row[0] / row[1], row[2]) for row in rows])
    low = {0.0: "camera arm", 1.0: "weight arm"}
    if len(set(rows[:, 3])) > 1:
        raise InfeasibleError(
            "it settled with another arm lowest each time: it is balanced to within its friction, or was not let "
            "settle",
            "CONTRADICTORY",
        )
    heavy = low[float(rows[0, 3])]
    state = judged(off.value, off.half_width, reads.own)
    slide = off.value / takes["mass"] if takes["mass"] > 0 else math.inf
    either = off.half_width / takes["mass"] if takes["mass"] > 0 else 0.0
    way, sign = ("out", 1.0) if heavy == "camera arm" else ("in", -1.0)
    target = round(takes["out"] + sign * slide, 4)
    told = (off.value, "kg*m", off.half_width)
    if not (off.value > off.half_width and 0.1 <= target <= 2.0):
        return Outcome(off.value, off.half_width, state, Words(f"The {heavy} is heavy by {{}}.", (told,)))
    words = Words(f"The {heavy} is heavy by {{}}: slide the weights {{}} {way}.", (told, (slide, "m", either)))
    return Outcome(
        off.value,
        off.half_width,
        state,
        words,
        (),
        ((reads.own.corrects, target),),
        Words("Weights slid to {}", ((target, "m"),)),
        spent=True,
    )


def _runs(rows: np.ndarray, reads: Reads) -> Outcome:
    """Each of the four runs once or more often; how far it may be off follows from how far its runs scatter."""
    shakes = [rows[rows[:, 0] == run, 1] for run in range(4)]
    for run, read in enumerate(shakes):
        if len(read) < 2:
            raise InputError("runs", len(read), f"two of each run at the least; run {run}, {RUNS[run]}, has fewer")
    middles = np.array([float(read.mean()) for read in shakes])
    trial = reads.own.takes["trial"]

    def unbalance(at: np.ndarray) -> float:
        return three_runs(float(at[0]), (float(at[1]), float(at[2]), float(at[3])), trial).unbalance

    found = three_runs(float(middles[0]), (float(middles[1]), float(middles[2]), float(middles[3])), trial)
    freedom = sum(len(read) - 1 for read in shakes)
    spread = math.sqrt(sum(float(((read - read.mean()) ** 2).sum()) for read in shakes) / freedom)
    steps = np.diag(1e-4 * middles)
    slopes = [(unbalance(middles + step) - unbalance(middles - step)) / (2 * float(step.sum())) for step in steps]
    doubt = spread * math.sqrt(sum(slope**2 / len(read) for slope, read in zip(slopes, shakes, strict=True)))
    give = t_of((1 + SURE) / 2, freedom) * doubt
    opposite = math.remainder(found.angle + math.pi, 2 * math.pi)
    mass = reads.own.takes["trial_mass"]
    words = Words(
        "It is heavy by {}. Fix the trial weight {} round from the camera arm, to the left from above, {} out.",
        ((found.unbalance, "kg*m", give), (opposite, "rad"), (found.unbalance / mass, "m", give / mass)),
    )
    return Outcome(found.unbalance, give, judged(found.unbalance, give, reads.own), words)


TRIALS = (
    Trial("coast", "Spin-down", "N*m", FRICTION,
        "Turn it by hand to a slow, safe rate, everybody out of the circle; let go, and note the time at every whole "
            "turn.", ("watch",),
          (field("turns", "turns", "1", 0.0, 200.0), field("at", "at", "s", 0.0, 3600.0, give=0.1)), 6, _coast),
    Trial("drift", "Drift of the arm", "N*m", BALANCE,
        "Arm loaded and balanced, nobody under it. At each angle hold the camera end with a scale, square to the "
            "arm: force up while it creeps up, and while it creeps down; down is minus.", ("scale", "level"),
          (field("angle", "arm at", "rad", -1.4, 1.4, give=LEVEL_GIVE),
              field("up", "going up", "N", -500.0, 500.0, give=SCALE),
              field("down", "going down", "N", -500.0, 500.0, give=SCALE),
              field("radius", "scale from pivot", "m", 0.1, 8.0, 1.0, kept=True),
              field("zero", "scale reads empty", "N", -50.0, 50.0, kept=True)), 3, _drift, once=True),
    Trial("heavy", "Heavy side, by swinging", "kg*m", BALANCE,
        "Tilt the base on a wedge and let the beam settle: the lower arm is the heavy one. Nudge it, and time some "
            "small swings.", ("watch", "level"),
          (field("time", "swings took", "s", 0.2, 600.0, 10.0, 0.3), field("swings", "swings", "count", 1, 100, 5),
              field("tilt", "tilted by", "rad", 0.01, 0.8, 0.1, LEVEL_GIVE),
              field("low", "lowest: 0 camera, 1 weights", "count", 0, 1, 0)), 3, _heavy, once=True),
    Trial("runs", "Three trial weights", "kg*m", BALANCE,
        "A phone on the hub. Spin it to one slow, safe speed and note how strongly it shakes: run 0 alone, runs 1 to "
            "3 with the trial weight at the camera arm, a third and two thirds round to the left. Twice each. Out of "
                "the " "circle.", ("phone",),
          (field("run", "run", "count", 0, 3, 0), field("shake", "shakes", "1", 0.0, 1e6, 1.0)), 8, _runs, once=True),
)  # fmt: skip
