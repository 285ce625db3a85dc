"""Tests of what runs on something: level, rise at which it rolls, pulls both ways, gauge, level across, rocking."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.mechanics import platform
from hazel_lantern.core.nouns.finding import CLEAR, WATCH
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.proving import along
from hazel_lantern.core.proving.repeats import Mean, mean
from hazel_lantern.core.proving.trial import FRICTION, GAUGE, Outcome, Reads, Trial, corrected, field, judged

LEVEL_GIVE = math.radians(0.1)  # of a bubble or a phone, read once
TAPE, SCALE = 0.0005, 0.05  # metres, newtons: what a tape and a hanging scale are read to, either way
GAPS = 0.0003  # metres of a feeler under a wheel


def _level(rows: np.ndarray, reads: Reads) -> Outcome:
    slopes = (rows[:, 0] - rows[:, 1]) / 2
    found = mean(slopes) if len(rows) > 1 else Mean(float(slopes[0]), 0.0, LEVEL_GIVE / math.sqrt(2), 0.0)
    base, wrong = float(rows[:, 2].mean()), float((rows[:, 0] + rows[:, 1]).mean() / 2)
    pack, give = abs(found.value) * base, found.half_width * base
    words = Words(
        "It slopes by {}; pack the low end up by {}. The level itself is off by {}.",
        ((found.value, "rad", found.half_width), (pack, "m", give), (wrong, "rad")),
    )
    return Outcome(found.value, found.half_width, judged(found.value, found.half_width, reads.own), words)


def _roll(rows: np.ndarray, reads: Reads) -> Outcome:
    starts = float(np.mean([along.roll_angle(row[0], row[2]) for row in rows]))
    keeps = mean([along.roll_angle(row[1], row[2]) for row in rows])
    words = Words(
        "It starts at {} and keeps rolling at {} of its weight.", ((starts, "1"), (keeps.value, "1", keeps.half_width))
    )
    measured = corrected(reads.own, keeps.value, keeps.half_width, reads)
    return Outcome(keeps.value, keeps.half_width, judged(keeps.value, keeps.half_width, reads.own), words, measured)


def _pull(rows: np.ndarray, reads: Reads) -> Outcome:
    order = np.argsort(rows[:, 0], kind="stable")
    places, forward, back = rows[order, 0], rows[order, 1] - rows[order, 3], rows[order, 2] - rows[order, 3]
    read = along.pulls(places, forward, back, reads.own.takes["weight"])
    even = read.coefficients[~read.binds]
    found = mean(even if len(even) > 1 else read.coefficients)
    slope = float(read.slopes.mean())
    tight = np.flatnonzero(read.binds)
    rise = float(read.heights[-1])
    told = ((found.value, "1", found.half_width), (slope, "rad"), (rise, "m"))
    if not len(tight):
        words = Words("It rolls evenly with {} of its weight and slopes by {}: its end lies {} higher.", told)
        measured = corrected(reads.own, found.value, found.half_width, reads)
        return Outcome(found.value, found.half_width, judged(found.value, found.half_width, reads.own), words, measured)
    over = (read.coefficients[tight] - float(np.median(read.coefficients))) * reads.own.takes["weight"]
    many = "" if len(tight) == 1 else f" and at {len(tight) - 1} more"
    words = Words(
        f"It binds at {{}}{many}, {{}} too hard: check the gauge there, then the joint, then for a bent rail. "
        f"Elsewhere {{}} of its weight, sloping by {{}}.",
        ((float(places[tight[0]]), "m"), (float(over.max()), "N"), *told[:2]),
    )
    return Outcome(found.value, found.half_width, WATCH, words)


def _gauge(rows: np.ndarray, reads: Reads) -> Outcome:
    """Where the gauge is further from the middle of all than half of what its wheels float."""
    places, gauges = rows.T
    floats, middle = reads.own.takes["float"], float(np.median(gauges))
    off = gauges - middle
    worst = int(np.argmax(np.abs(off)))
    bad = np.flatnonzero(np.abs(off) > floats / 2 + TAPE)
    if not len(bad):
        words = Words(
            "Its gauge is {} and true to {} all along.", ((middle, "m", TAPE), (float(np.abs(off).max()), "m"))
        )
        return Outcome(middle, TAPE, judged(middle, TAPE, reads.own), words)
    way, more = "Open" if off[worst] < 0 else "Close", "" if len(bad) == 1 else f", and so at {len(bad) - 1} more"
    words = Words(
        f"{way} it at {{}} by {{}}, by half of that at the places beside{more}.",
        ((float(places[worst]), "m"), (abs(float(off[worst])), "m", 2 * TAPE)),
    )
    return Outcome(float(gauges[worst]), TAPE, WATCH, words)


def _crosswise(rows: np.ndarray, reads: Reads) -> Outcome:
    """Level across at stations: the level's own error shows turned end for end at the first of them."""
    places, first, turned = rows.T
    across = (first - turned) / 2
    higher = across * reads.own.takes["spacing"]
    worst = int(np.argmax(np.abs(across)))
    side = "right" if higher[worst] > 0 else "left"
    give = LEVEL_GIVE / math.sqrt(2)
    wedge = (abs(float(higher[worst])), "m", give * reads.own.takes["spacing"])
    state = judged(float(across[worst]), give, reads.own)
    words = Words(
        f"Worst at {{}}: wedge its {side} end up by {{}}."
        if state != CLEAR
        else "Level across to {}; at {} the most, {}.",
        ((float(places[worst]), "m"), wedge)
        if state != CLEAR
        else ((float(np.abs(across).max()), "rad"), (float(places[worst]), "m"), wedge),
    )
    return Outcome(float(across[worst]), give, state, words)


def _rocking(rows: np.ndarray, reads: Reads) -> Outcome:
    """Heights of the floor under four wheels from a straight line, left front, right front, left rear, right rear."""
    takes = reads.own.takes
    half, aside = takes["base"] / 2, takes["across"] / 2
    wheels = np.array([(half, aside), (half, -aside), (-half, aside), (-half, -aside)])
    floor = rows.mean(axis=0)
    found = platform.rocking(wheels, floor, (takes["ahead"], takes["left"]))
    # Each gap adds up four heights.
    give = 2 * GAPS / math.sqrt(len(rows))
    if len(rows) > 1:
        gaps = [_gap(row) for row in rows]
        give = max(mean(gaps).half_width, GAPS / math.sqrt(len(rows)))
    gap = abs(_gap(floor))
    if found.gap <= reads.own.high:
        words = Words("All four stand; the free one hangs by {}.", ((gap, "m", give),))
        return Outcome(gap, give, CLEAR, words)
    name = ("left front", "right front", "left rear", "right rear")[found.free]
    words = Words(
        f"The {name} wheel hangs free: it rocks. Put {{}} under it, or let that much of the others out.",
        ((found.gap, "m", give),),
    )
    return Outcome(gap, give, judged(gap, give, reads.own), words)


def _gap(floor: np.ndarray) -> float:
    """How far the fourth of four heights of a rectangle lies off the plane of the other three."""
    return float(floor[0] - floor[1] - floor[2] + floor[3])


TRIALS = (
    Trial("level", "Level, turned end for end", "rad", GAUGE,
        "Lay a level where the rig should be level and read it; turn it end for end on the same spot and read it "
            "again. Right end up is plus.", ("level",),
          (field("first", "first", "rad", -0.3, 0.3, give=LEVEL_GIVE),
              field("turned", "turned", "rad", -0.3, 0.3, give=LEVEL_GIVE),
              field("base", "from foot to foot", "m", 0.05, 10.0, 1.0, kept=True)), 1, _level, once=True),
    Trial("gauge", "Gauge all along", "m", GAUGE,
        "A gauge stick or a tape across both rails, at every tie or every 300 mm, always from the same end.", ("tape",),
          (field("place", "at", "m", 0.0, 20.0), field("gauge", "gauge", "m", 0.02,
              6.0, 0.3, TAPE)), 4, _gauge, once=True),
    Trial("crosswise", "Level across, all along", "rad", GAUGE,
        "A level across both rails at every tie or every 300 mm; turn it end for end at each. Left higher is plus.",
        ("level",),
          (field("place", "at", "m", 0.0, 20.0), field("first", "first", "rad", -0.3, 0.3, give=LEVEL_GIVE),
              field("turned", "turned", "rad", -0.3, 0.3, give=LEVEL_GIVE)), 3, _crosswise, once=True),
    Trial("rocking", "Four wheels, rocking", "m", GAUGE,
        "Set it where it runs, unloaded. Push a feeler under each wheel: what fits under it, 0 where it stands.",
        ("feeler",),
          (*(field(key, label, "m", 0.0, 0.05, give=GAPS) for key,
              label in (("lf", "left front"), ("rf", "right front"), ("lr", "left rear"),
              ("rr", "right rear"))),), 1, _rocking, once=True),
    Trial("roll", "Rise at which it rolls", "1", FRICTION,
        "Lift one end of the rail until the loaded carriage starts; tap it and lower the end until it just keeps "
            "rolling. Both ways in turn.", ("tape",),
          (field("starts", "starts at", "m", 0.0, 2.0, give=TAPE), field("keeps", "keeps at", "m", 0.0, 2.0, give=TAPE),
              field("long", "rail", "m", 0.1, 20.0, 1.0, kept=True)), 3, _roll),
    Trial("pull", "Pull both ways along the rail", "1", FRICTION,
        "Pull the loaded carriage slowly with a scale past marks along the rail, one way and then back.", ("scale",),
          (field("place", "at", "m", -20.0, 20.0), field("forward", "forward", "N", 0.0, 2000.0, give=SCALE),
              field("back", "back", "N", 0.0, 2000.0, give=SCALE),
              field("zero", "scale reads empty", "N", -50.0, 50.0, kept=True)), 5, _pull),
)  # fmt: skip
