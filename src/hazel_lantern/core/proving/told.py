"""All tests of one built rig: what each says, which readings agree, what may be corrected, and in which order."""

from __future__ import annotations

import math
from collections.abc import Mapping
from contextlib import suppress
from datetime import date

from msgspec import Struct

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.document.project import Measured, Proved
from hazel_lantern.core.driving.driven import Driven
from hazel_lantern.core.editing.built import fingerprint
from hazel_lantern.core.kinds.base import Design, Kind
from hazel_lantern.core.kinds.foreseen import Foreseen
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.finding import PEOPLE, STOP, STRUCTURE, WATCH, Finding
from hazel_lantern.core.nouns.quantity import Quantity, Value
from hazel_lantern.core.nouns.words import Words, within
from hazel_lantern.core.proving.repeats import AGREES, CONTRADICTS, combined
from hazel_lantern.core.proving.trial import ORDER, Estimate, Outcome, Reads, Trial
from hazel_lantern.core.proving.trials import balance, bending, driven, loads, rails, rope

TRIALS: tuple[Trial, ...] = tuple(
    sorted(
        (*rails.TRIALS, *bending.TRIALS, *balance.TRIALS, *rope.TRIALS, *driven.TRIALS, *loads.TRIALS),
        key=lambda trial: ORDER.index(trial.rank) if trial.rank else -1 if trial.key == loads.PROOF else len(ORDER),
    )
)
BY_KEY: Mapping[str, Trial] = {trial.key: trial for trial in TRIALS}
EVERY, WHERE_DRIVEN = ("repeat", loads.PROOF, loads.WEAR), ("play", "speed")
ANY = Foreseen(-math.inf, math.inf)
PROOF_LOAD = 1.5  # of the camera kit
NORMAL = 1.96  # standard doubts that hold in 95 of 100 cases
ENOUGH = 3  # tests of which the mean counts though they differ by more than they say
LEAST = 1e-6  # of a value, that it is never known better than


class Correction(Struct, frozen=True):
    """What readings ask of one input: its value with how far it may be off in 95 of 100 cases, by how many tests, and
    why it may not be taken yet, "" where it may.
    """

    quantity: Quantity
    value: float
    give: float
    tests: int
    trouble: str

    @property
    def words(self) -> Words:
        """What taking it is called."""
        return Words(f"{self.quantity.label}: {{}}", ((self.value, self.quantity.unit, self.give),))

    @property
    def changes(self) -> tuple[tuple[str, Value], ...]:
        return ((self.quantity.key, self.value),)


class Told(Struct, frozen=True):
    """A test, its forecast, its standing rows, what they say or why they say nothing;
    `due` says when it is to be done again."""

    trial: Trial
    foreseen: Foreseen
    rows: tuple[Proved, ...]
    outcome: Outcome | None
    trouble: str = ""
    corrections: tuple[Correction, ...] = ()
    due: str = ""
    overdue: bool = False


def forecasts(result: Evaluation) -> dict[str, Foreseen]:
    """What every test of this rig is foreseen to read, its tests by that; fewer of one that cannot be built."""
    found: dict[str, Foreseen] = {}
    with suppress(KeyError):  # one that cannot be built foresees nothing, and says why elsewhere
        found = dict(result.readings["foreseen"])
    asks = PROOF_LOAD * result.carried.payload.mass
    moved = WHERE_DRIVEN if any(isinstance(one, Driven) for one in result.driven) else ()
    return {**found, **dict.fromkeys((*EVERY, *moved), ANY), loads.PROOF: Foreseen(asks, 2 * asks, asks)}


def tests_of(kind: Kind, design: Design, *, driven: bool) -> tuple[str, ...]:
    """Keys of the tests of a rig, without working out what they are foreseen to read."""
    known = (*kind.tested(design), *EVERY, *(WHERE_DRIVEN if driven else ()))
    return tuple(trial.key for trial in TRIALS if trial.key in known)


def told(result: Evaluation, today: date | None = None) -> tuple[Told, ...]:
    """Every test of a rig with what was read; readings struck out are kept and not counted."""
    known = forecasts(result)
    found = [_told(result, BY_KEY[trial.key], known, today) for trial in TRIALS if trial.key in known]
    asked = _corrections(result, found, known)
    return tuple(_with(one, asked) for one in found)


def first_of(every: tuple[Told, ...], here: Told) -> Told | None:
    """The test that is to be put right before this one: of an earlier rank, not as foreseen."""
    if not here.trial.rank:
        return None
    rank = ORDER.index(here.trial.rank)
    before = (one for one in every if one.trial.rank and ORDER.index(one.trial.rank) < rank)
    return next((one for one in before if one.outcome is not None and one.outcome.state == WATCH), None)


def refusal(result: Evaluation) -> str:
    """Why no proof load may be hung yet: a stop about people or structure stands. "" where it may."""
    stops = [
        f
        for f in result.findings
        if f.state == STOP and f.about in (PEOPLE, STRUCTURE) and not f.key.startswith("prove.")
    ]
    if result.model is None:
        return "the rig cannot be built as it is drawn"
    return f"{within(stops[0].title)} is a stop: solve that first" if stops else ""


def as_built(result: Evaluation, here: Told, correction: Correction, day: str) -> Measured:
    """The row that keeps a correction beside the drawing, with the pieces that it depends on as they are drawn."""
    of = here.foreseen.of
    pieces = tuple(part.mark for part in result.laid.parts if not of or part.name.startswith(of))
    pieces = pieces or tuple(part.mark for part in result.laid.parts)
    return Measured(
        key=correction.quantity.key,
        value=correction.value,
        date=day,
        pm=correction.give,
        test=within(here.trial.name),
        pieces=pieces,
        fingerprint=fingerprint(result.laid, pieces),
    )


def findings(result: Evaluation) -> tuple[Finding, ...]:
    """What the proof load and the last wear check said, where there were any: what did not pass stops the rig. All
    other tests advise, at their station; an untested rig has no finding.
    """
    rows = {key: _standing(result, key) for key in (loads.PROOF, loads.WEAR)}
    if not any(rows.values()):
        return ()
    known = forecasts(result) if rows[loads.PROOF] else {loads.WEAR: ANY}
    return tuple(_finding(result, key, rows[key], known) for key in rows if rows[key])


def _finding(result: Evaluation, key: str, rows: tuple[Proved, ...], known: Mapping[str, Foreseen]) -> Finding:
    trial = BY_KEY[key]
    try:
        found = trial.outcome(_readings(trial, rows), Reads(known[key], known, result.rig.design))
    except HazelError as error:
        words = Words(f"{str(error)[:1].upper()}{str(error)[1:]}.".replace("{", "(").replace("}", ")"))
        return Finding(f"prove.{key}", trial.name, PEOPLE, WATCH, "", words)
    return Finding(f"prove.{key}", trial.name, PEOPLE, found.state, "", found.words)


def _told(result: Evaluation, trial: Trial, known: Mapping[str, Foreseen], today: date | None) -> Told:
    rows, own = _standing(result, trial.key), known[trial.key]
    due, over = _due(trial, rows, today)
    outcome, trouble = None, ""
    if rows:
        try:
            outcome = trial.outcome(_readings(trial, rows), Reads(own, known, result.rig.design))
        except HazelError as error:
            trouble = str(error)
    return Told(trial, own, rows, outcome, trouble, (), due, over)


def _due(trial: Trial, rows: tuple[Proved, ...], today: date | None) -> tuple[str, bool]:
    if not trial.due:
        return "", False
    if not rows:
        return f"asked for {trial.due}", True
    last = max(row.day for row in rows)
    over = today is not None and (today - date.fromisoformat(last)).days >= trial.days
    return f"last done {last}; again {trial.due}", over


def _readings(trial: Trial, rows: tuple[Proved, ...]) -> tuple[tuple[float, ...], ...]:
    """Rows with what older ones lack at their end, such as what the scale read empty, as usual."""
    usual = tuple(one.quantity.default for one in trial.fields)
    kept = sum(one.kept for one in trial.fields)
    return tuple(
        row.readings + usual[len(row.readings) :] if len(usual) - kept <= len(row.readings) else row.readings
        for row in rows
    )


def _corrections(result: Evaluation, found: list[Told], known: Mapping[str, Foreseen]) -> dict[str, Correction]:
    """By input, what all tests that measured it say together."""
    measured: dict[str, list[Estimate]] = {}
    for one in found:
        for estimate in _estimates(result, one, known):
            measured.setdefault(estimate.key, []).append(estimate)
    quantities = {p.key: p for p in result.kind.parameters if isinstance(p, Quantity)}
    return {key: _agreed(quantities[key], several) for key, several in measured.items()}


def _estimates(result: Evaluation, one: Told, known: Mapping[str, Foreseen]) -> tuple[Estimate, ...]:
    """What a test measured; of one done twice over what either half did."""
    if one.outcome is None or not one.outcome.measured:
        return ()
    half = len(one.rows) // 2
    if half < one.trial.fewest:
        return one.outcome.measured
    reads = Reads(one.foreseen, known, result.rig.design)
    rows = _readings(one.trial, one.rows)
    try:
        either = [one.trial.outcome(part, reads).measured for part in (rows[:half], rows[half:])]
    except HazelError:  # one half alone says nothing: the whole still does, once
        return one.outcome.measured
    return (*either[0], *either[1])


def _agreed(quantity: Quantity, several: list[Estimate]) -> Correction:
    doubts = [max(one.give / NORMAL, LEAST * abs(one.value), 1e-12) for one in several]
    all_ = combined([one.value for one in several], doubts)
    trouble = ""
    if len(several) < 2:
        trouble = "Do it once more, or another test of the same: two that agree may correct it."
    elif all_.ratio > CONTRADICTS:
        trouble = (
            f"The tests contradict one another (they differ {all_.ratio:.1f} times what they say they could): "
            "nothing is corrected; repeat them."
        )
    elif all_.ratio > AGREES and len(several) < ENOUGH:
        trouble = "The two differ by more than they say: do it a third time."
    value = round(all_.value, 5)
    if not quantity.low <= value <= quantity.high:
        trouble = f"{quantity.label} would lie outside what can be set: measure again."
    return Correction(quantity, value, NORMAL * all_.doubt, len(several), trouble)


def _with(one: Told, asked: Mapping[str, Correction]) -> Told:
    keys = () if one.outcome is None else dict.fromkeys(estimate.key for estimate in one.outcome.measured)
    corrections = tuple(asked[key] for key in keys)
    return Told(one.trial, one.foreseen, one.rows, one.outcome, one.trouble, corrections, one.due, one.overdue)


def _standing(result: Evaluation, test: str) -> tuple[Proved, ...]:
    """Rows of readings of a test that are not struck out."""
    return tuple(row for row in result.rig.proofs if row.test == test and not row.struck)
