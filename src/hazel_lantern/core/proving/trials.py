"""The tests of a built rig: what to do, what is read, what was predicted, and what to change by how much."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping

import numpy as np
from msgspec import Struct

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.kinds.base import Kind
from hazel_lantern.core.kinds.rail.model import Carriage
from hazel_lantern.core.mechanics import rotor
from hazel_lantern.core.nouns.errors import HazelError, InfeasibleError, InputError
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, STOP, WATCH, Finding
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.proving import along
from hazel_lantern.core.proving.drift import correction, drift
from hazel_lantern.core.proving.repeats import Mean, mean, outlier, t_of

LEVEL = math.radians(0.2)  # that anything set up by hand stands off level
PROOF = "proof"
TWICE, HALF = 2.0, 0.5  # of the model, beyond which a reading corrects nothing
USUAL = 0.3  # either way, that friction and damping are predicted to
NEAR = 0.1  # either way, that a frequency is
FEWEST_TURNS = 6

Rows = np.ndarray


class Mend(Struct, frozen=True):
    """What a test asks to be changed: in words, the changes to the drawing, and what it measured of the rig as built,
    as key, value and give or take.
    """

    words: Words
    changes: tuple[tuple[str, object], ...] = ()
    built: tuple[tuple[str, float, float], ...] = ()


class Outcome(Struct, frozen=True):
    """What a test says: its value with how far it may be off either way in 95 of 100 cases, in a unit; from where to
    where it was predicted; a verdict in words; and what mends it.
    """

    value: float
    give: float
    unit: str
    predicted: tuple[float, float] | None
    state: str
    words: Words
    mend: Mend | None = None


class Trial(Struct, frozen=True):
    """One test: its key and name, whether `every` kind has it or only those that say so, what to do, the fields of a row, how
    many rows at the least, and what the rows say. `once` where one test may correct the drawing; else two must agree.
    """

    key: str
    name: str
    every: bool
    does: str
    fields: tuple[Quantity, ...]
    fewest: int
    reads: Callable[[Rows, Evaluation], Outcome]
    once: bool = True

    def outcome(self, rows: tuple[tuple[float, ...], ...], result: Evaluation) -> Outcome:
        """What rows of readings say of a rig. Raises InputError for too few, or for impossible ones; InfeasibleError for
        those that contradict one another.
        """
        if len(rows) < self.fewest:
            raise InputError(self.key, len(rows), f"{self.fewest} rows at the least; {self.fewest - len(rows)} more")
        for row in rows:
            if len(row) != len(self.fields):
                raise InputError(self.key, len(row), f"{len(self.fields)} readings in a row")
            for field, value in zip(self.fields, row, strict=True):
                field.check(value)
        if result.model is None:
            raise InputError("rig", result.rig.id, "cannot be built as it is drawn, so nothing is predicted")
        return self.reads(np.array(rows, float), result)


def _field(key: str, label: str, unit: str, low: float, high: float, usual: float = 0.0) -> Quantity:
    return Quantity(key, label, unit, low, high, usual, "", "", "prove")


def _judged(found: Mean, predicted: tuple[float, float] | None) -> str:
    """Clear where what was predicted lies within what it could be."""
    if predicted is None:
        return CLEAR
    low, high = predicted
    return CLEAR if found.value + found.half_width >= low and found.value - found.half_width <= high else WATCH


def _within_reason(ratio: float, what: str) -> None:
    if not HALF <= ratio <= TWICE:
        raise InfeasibleError(
            f"{what} comes out {ratio:.2f} times what was predicted: beyond half to twice it corrects nothing; measure again",
            "BEYOND_REASON",
        )


def _level(rows: Rows, _result: Evaluation) -> Outcome:
    slopes = (rows[:, 0] - rows[:, 1]) / 2
    found = mean(slopes) if len(rows) > 1 else Mean(float(slopes[0]), 0.0, math.radians(0.1), 0.0)
    base = float(rows[:, 2].mean())
    read = along.reversed_level(float(rows[0, 0]), float(rows[0, 1]), base)
    pack = abs(found.value) * base
    words = Words("It slopes by {}; pack the low end up by {}. The level itself is off by {}.", ((found.value, "rad"), (pack, "m"), (read.error, "rad")))  # fmt: skip
    return Outcome(found.value, found.half_width, "rad", (-LEVEL, LEVEL), _judged(found, (-LEVEL, LEVEL)), words)


def _drift(rows: Rows, result: Evaluation) -> Outcome:
    jib, design = result.model, result.rig.design
    up, down = rows[:, 1], rows[:, 2]
    radius = float(rows[0, 3])
    read = drift(rows[:, 0], (up + down) / 2, radius, 0.02)
    rubs = float(np.abs(up - down).mean()) / 2 * radius
    mass = float(sum(body.mass for body in jib.bodies if body.name in ("weights", "weight pin"))) or 1.0
    where = result.kind.corrects["slide"]
    place = float(design[where])  # type: ignore[arg-type]
    heavy, give = GRAVITY * read.along, GRAVITY * (read.along_doubt if math.isfinite(read.along_doubt) else 0.0)
    slide = correction(read.along, read.above, mass, max(place, 0.05)).slide_out
    shift = 1e3 * give / GRAVITY / mass
    end = "Camera" if heavy > 0 else "Weight"
    way = "back" if heavy > 0 else "in"
    words = Words(f"{end} end is {{}} heavy: slide the weights {{}} ± {shift:.0f} mm {way}. Friction holds {{}}.", ((abs(heavy), "N*m"), (abs(slide), "m"), (rubs, "N*m")))  # fmt: skip
    band = max(0.05, float(result.figures["balance.friction"].value) if "balance.friction" in result.figures else 0.2)
    predicted = (GRAVITY * jib.arm_balance.along - band, GRAVITY * jib.arm_balance.along + band)
    found = Mean(heavy, 0.0, give, 0.0)
    sure = abs(heavy) > give
    low, high = 0.05, 3.0
    target = round(place + slide, 4)
    mend = Mend(Words("Slide the weights to {}", ((target, "m"),)), ((where, target),)) if sure and low < target < high else None  # fmt: skip
    state = CLEAR if abs(heavy) <= band else WATCH
    return Outcome(heavy, found.half_width, "N*m", predicted, state, words, mend)


BOUNCES = ("rig.bounce", "travel.bounce")


def _bounce(rows: Rows, result: Evaluation) -> Outcome:
    cycles, time, first, last = rows.T
    if (first <= last).any():
        raise InputError(
            "bounce", float(first[np.argmax(first <= last)]), "the first swing must be larger than the last"
        )
    hz = mean(cycles / time)
    falls = np.log(first / last) / cycles
    damping = mean(falls / np.sqrt(4 * np.pi**2 + falls**2))
    key = next((one for one in BOUNCES if one in result.figures), "")
    predicted, mend = None, None
    if key:
        drawn = result.figures[key].value
        predicted = ((1 - NEAR) * drawn, (1 + NEAR) * drawn)
        _within_reason((hz.value / drawn) ** 2, "its stiffness, as the square of what it bounces at,")
    where = result.kind.corrects.get("damping", "")
    if where:
        drawn_damping = float(result.rig.design[where])  # type: ignore[arg-type]
        _within_reason(damping.value / drawn_damping, "its damping")
        mend = Mend(Words("Reckon with damping of {}", ((damping.value, "1"),)), ((where, round(damping.value, 4)),), ((where, damping.value, damping.half_width),))  # fmt: skip
    words = Words("It bounces {} a second and loses {} of critical damping.", ((hz.value, "Hz"), (damping.value, "1")))
    return Outcome(hz.value, hz.half_width, "Hz", predicted, _judged(hz, predicted), words, mend)


def _roll(rows: Rows, result: Evaluation) -> Outcome:
    starts = [along.roll_angle(row[0], row[2]) for row in rows]
    keeps = mean([along.roll_angle(row[1], row[2]) for row in rows])
    way = getattr(result.model, "way", None)
    predicted = None
    if isinstance(way, Carriage):
        low, high = way.drag
        predicted = ((1 - USUAL) * low, (1 + USUAL) * high)
        _within_reason(keeps.value / high, "its rolling")
    words = Words("It starts at {} and keeps rolling at {} of its weight.", ((float(np.mean(starts)), "1"), (keeps.value, "1")))  # fmt: skip
    return Outcome(keeps.value, keeps.half_width, "1", predicted, _judged(keeps, predicted), words)


def _pull(rows: Rows, result: Evaluation) -> Outcome:
    way = result.model.way
    order = np.argsort(rows[:, 0])
    read = along.pulls(rows[order, 0], rows[order, 1], rows[order, 2], way.weight)
    found = mean(read.coefficients[~read.binds]) if (~read.binds).sum() > 1 else mean(read.coefficients)
    low, high = way.drag
    predicted = ((1 - USUAL) * low, (1 + USUAL) * high)
    tight = rows[order, 0][read.binds]
    slope = float(read.slopes.mean())
    if len(tight):
        words = Words(f"It binds at {{}}: check the gauge there, then the joint, then for a bent rail. It slopes by {{}}{'' if len(tight) < 2 else ', and there are more such places'}.", ((float(tight[0]), "m"), (slope, "rad")))  # fmt: skip
        return Outcome(found.value, found.half_width, "1", predicted, WATCH, words)
    words = Words("It rolls evenly with {} of its weight and slopes by {}.", ((found.value, "1"), (slope, "rad")))
    return Outcome(found.value, found.half_width, "1", predicted, _judged(found, predicted), words)


def _repeat(rows: Rows, _result: Evaluation) -> Outcome:
    values = rows[:, 0]
    odd = outlier(values)
    kept = np.delete(values, odd.index) if odd.index >= 0 else values
    found = mean(kept, step=1e-4)
    left = f" Reading {odd.index + 1} does not belong to the others; it is kept in the file and not counted." if odd.index >= 0 else ""  # fmt: skip
    words = Words(f"It comes back to within {{}} of {{}}.{left}", ((found.next_within, "m"), (found.value, "m")))
    return Outcome(found.next_within, found.half_width, "m", None, CLEAR, words)


def _coast(rows: Rows, result: Evaluation) -> Outcome:
    turns, times = rows[np.argsort(rows[:, 1])].T
    angle = 2 * np.pi * turns
    fit, cov = np.polyfit(times, angle, 2, cov=True)
    inertia = rotor.turning(result.model.turns_as, 0.0).inertia
    friction = -2 * float(fit[0]) * inertia
    give = 2 * math.sqrt(float(cov[0, 0])) * inertia * t_of(0.975, len(turns) - 3)
    where = result.kind.corrects["turns"]
    drawn = float(result.rig.design[where])  # type: ignore[arg-type]
    if friction <= 0:
        raise InfeasibleError("it turns faster as it goes on: the readings contradict one another", "CONTRADICTORY")
    _within_reason(friction / drawn, "what it turns with")
    predicted = ((1 - USUAL) * drawn, (1 + USUAL) * drawn)
    mend = Mend(Words("Reckon with {}", ((friction, "N*m"),)), ((where, round(friction, 4)),), ((where, friction, give),))  # fmt: skip
    words = Words("Its bearings hold it back with {}; {} was drawn.", ((friction, "N*m"), (drawn, "N*m")))
    return Outcome(friction, give, "N*m", predicted, _judged(Mean(friction, 0, give, 0), predicted), words, mend)


def _proof(rows: Rows, result: Evaluation) -> Outcome:
    load, sank, back = (float(value) for value in rows[-1])
    asks = 1.5 * result.carried.payload.mass
    kept = back <= 0.1 * max(sank, 1e-4) + 2e-4
    enough = load >= asks - 1e-9
    state = CLEAR if kept and enough else STOP
    words = Words("Loaded with {} it sank {} and stayed {} down." + ("" if enough else " {} is asked for."), ((load, "kg"), (sank, "m"), (back, "m"), *(((asks, "kg"),) if not enough else ())))  # fmt: skip
    return Outcome(load, 0.0, "kg", (asks, 2 * asks), state, words)


TRIALS: tuple[Trial, ...] = (
    Trial("level", "Level, turned end for end", False, "Lay a level where the rig should be level and read it; turn it end for end on the same spot and read it again. Right end up is plus.",
          (_field("first", "first", "rad", -0.3, 0.3), _field("turned", "turned", "rad", -0.3, 0.3), _field("base", "from foot to foot", "m", 0.05, 10.0, 1.0)), 1, _level),
    Trial("roll", "Rise at which it rolls", False, "Lift one end of the rail until the loaded carriage starts; tap it and lower the end until it just keeps rolling. Both ways in turn.",
          (_field("starts", "starts at", "m", 0.0, 2.0), _field("keeps", "keeps at", "m", 0.0, 2.0), _field("long", "rail", "m", 0.1, 20.0, 1.0)), 3, _roll, once=False),
    Trial("pull", "Pull both ways along the rail", False, "Pull the loaded carriage slowly with a scale past marks along the rail, one way and then back.",
          (_field("place", "at", "m", -20.0, 20.0), _field("forward", "forward", "N", 0.0, 2000.0), _field("back", "back", "N", 0.0, 2000.0)), 5, _pull, once=False),
    Trial("drift", "Drift of the arm", False, "Arm loaded and balanced, nobody under it. At each angle hold the camera end with a scale, square to the arm: force up while it creeps up, and while it creeps down; down is minus.",
          (_field("angle", "arm at", "rad", -1.4, 1.4), _field("up", "going up", "N", -500.0, 500.0), _field("down", "going down", "N", -500.0, 500.0), _field("radius", "scale from pivot", "m", 0.1, 8.0, 1.0)), 3, _drift),
    Trial("bounce", "Bounce and its decay", False, "Tap the camera down and film a tape beside it: swings counted, their time, the first and the last as high as they were.",
          (_field("cycles", "swings", "count", 2, 200, 10), _field("time", "in", "s", 0.1, 300.0, 3.0), _field("first_high", "first", "m", 1e-5, 1.0, 0.01), _field("last_high", "last", "m", 1e-6, 1.0, 0.005)), 3, _bounce, once=False),
    Trial("coast", "Spin-down", False, "Turn it by hand to a slow, safe rate, everybody out of the circle; let go, and note the time at every whole turn.",
          (_field("turns", "turns", "1", 0.0, 200.0), _field("at", "at", "s", 0.0, 3600.0)), FEWEST_TURNS, _coast, once=False),
    Trial("repeat", "Comes back to its mark", True, "Run it to its end mark from the same side; read how far it is off the mark. Eight times or more.",
          (_field("off", "off the mark", "m", -0.5, 0.5),), 4, _repeat),
    Trial(PROOF, "Proof load", True, "Nobody under or beside it. Half as much again as the camera kit in sand, in the camera's place, ten minutes at the worst pose; how far it sank, and how far it stayed down when unloaded.",
          (_field("load", "loaded with", "kg", 0.1, 200.0, 5.0), _field("sank", "sank", "m", 0.0, 0.5), _field("stayed", "stayed down", "m", 0.0, 0.5)), 1, _proof),
)  # fmt: skip
BY_KEY: Mapping[str, Trial] = {trial.key: trial for trial in TRIALS}


def trials_of(kind: Kind) -> tuple[Trial, ...]:
    """The tests of a kind of rig."""
    return tuple(trial for trial in TRIALS if trial.every or trial.key in kind.proved)


class Told(Struct, frozen=True):
    """A test with what its standing readings say, or why they say nothing; `rows` is how many there are."""

    trial: Trial
    rows: int
    outcome: Outcome | None
    trouble: str = ""


def told(result: Evaluation) -> tuple[Told, ...]:
    """Every test of a rig with what was read; readings struck out are kept and not counted."""
    found = []
    for trial in trials_of(result.kind):
        rows = _standing(result, trial.key)
        if not rows:
            found.append(Told(trial, 0, None))
            continue
        try:
            found.append(Told(trial, len(rows), trial.outcome(rows, result)))
        except HazelError as error:
            found.append(Told(trial, len(rows), None, str(error)))
    return tuple(found)


def findings(result: Evaluation) -> tuple[Finding, ...]:
    """What the proof load said, where there was one: what it did not pass stops the rig. All other tests advise, at their
    station; an untested rig has no finding.
    """
    rows = _standing(result, PROOF)
    if not rows:
        return ()
    title = BY_KEY[PROOF].name
    try:
        found = BY_KEY[PROOF].outcome(rows, result)
    except HazelError as error:
        words = Words(f"{str(error)[:1].upper()}{str(error)[1:]}.".replace("{", "(").replace("}", ")"))
        return (Finding("prove.proof", title, PEOPLE, WATCH, "", words),)
    return (Finding("prove.proof", title, PEOPLE, found.state, "", found.words),)


def _standing(result: Evaluation, test: str) -> tuple[tuple[float, ...], ...]:
    """Rows of readings of a test that are not struck out."""
    return tuple(row.readings for row in result.rig.proofs if row.test == test and not row.struck)
