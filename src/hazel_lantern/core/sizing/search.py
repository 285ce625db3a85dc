"""Size it over the catalogue: every input that may vary tried by itself, all combinations screened, the best worked out
exactly. What is surveyed once serves every wish.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Generator, Iterator, Mapping
from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.advice.remedies import vetted
from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.editing.changes import set_values
from hazel_lantern.core.evaluate import evaluate, outline, perform
from hazel_lantern.core.kinds import KINDS
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.errors import HazelError, InputError
from hazel_lantern.core.nouns.finding import STOP, Finding, Remedy
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.quantity import Value
from hazel_lantern.core.sizing.answers import AIMS, ALIKE, OWNED, Made, Sizes, Wish, fits, limits_of, picked, told
from hazel_lantern.core.sizing.screen import MOST, STOPS, Effects, Screened, screened, shortlist
from hazel_lantern.core.sizing.varied import Changes, Varied, together, varied

BESIDE = 2  # remedies tried of what a value brings
MENDS = 3  # remedies taken one after the other where the rig is stopped as it is
EXACT = 8  # combinations worked out exactly for each aim, twice
POLISH = 24  # more that are, from the best on


class Survey(Struct):
    """A rig with everything that may vary tried by itself: where the search starts from, what varies with what each
    value does, all combinations, and those that were worked out exactly, by the places of their values.
    """

    project: Project
    catalogue: Catalogue
    rig: str
    shot: str
    base: Project
    now: Made
    varied: tuple[Varied, ...]
    every: Screened
    owned: np.ndarray  # which combinations take nothing but what is at hand (m,)
    known: dict[tuple[int, ...], Made | None]
    memo: Memo


def size(
    project: Project, catalogue: Catalogue, rig_id: str, wish: Wish, shot_id: str = ""
) -> Iterator[Progress[Sizes]]:
    """Steps of sizing a rig for its shot, with answers as soon as there are some. Raises InputError for a limit or an
    input to keep that there is not, and what keeps the rig itself from being built.
    """
    return Search(project, catalogue, rig_id, wish.keep, shot_id).wished(wish)


class Search:
    """Sizing of one rig for one shot, some inputs kept: surveyed at the first wish, the next ones are quick."""

    def __init__(
        self, project: Project, catalogue: Catalogue, rig_id: str, keep: tuple[str, ...] = (), shot_id: str = ""
    ) -> None:
        self.asked = project, catalogue, rig_id, keep, shot_id
        self.survey: Survey | None = None

    def wished(self, wish: Wish) -> Iterator[Progress[Sizes]]:
        """Steps to the answers of a wish; raises as `size`."""
        project, rig_id = self.asked[0], self.asked[2]
        limits, before = limits_of(wish, project), 0
        if self.survey is None:
            made: list[Made] = []
            for step in survey(*self.asked, made):
                self.survey = step.answer
                before = step.total
                good = [one for one in made if fits(one, limits, owned=wish.owned)]
                early = picked(project, rig_id, made, made[0], limits, len(made), wish) if good else None
                yield Progress(step.done, step.total + len(AIMS) * (2 * EXACT + POLISH), early)
        assert self.survey is not None
        for more in wished(self.survey, wish):
            yield Progress(before + more.done, before + more.total, more.answer)


def survey(
    project: Project,
    catalogue: Catalogue,
    rig_id: str,
    keep: tuple[str, ...] = (),
    shot_id: str = "",
    made: list[Made] | None = None,
) -> Iterator[Progress[Survey]]:
    """Everything that may vary tried by itself, a step each; the last brings the survey. `made` gets what is worked out
    on the way, the rig at hand first. Raises as `size`.
    """
    made = [] if made is None else made
    for key in keep:
        if key not in project.rig(rig_id).design:
            raise InputError("keep", repr(key), "must be an input of the rig")
    memo = Memo()
    # From the rig sized for the shot, or as it is where that is stopped by less. What stops it still is mended first,
    # for rows of the catalogue mend no footprint.
    hand = evaluate(project, catalogue, rig_id, shot_id, memo)
    sized = _kept(project, _acted(project, catalogue, rig_id, shot_id, memo, first=True), rig_id, keep)
    starts: list[tuple[Project, Evaluation]] = []
    for first in (sized, project):
        mended = yield from _mended(first, catalogue, rig_id, shot_id, memo, keep)
        starts.append((mended, evaluate(mended, catalogue, rig_id, shot_id, memo)))
        if starts[-1][1].model is not None and not _stops(starts[-1][1]):
            break
    built = [one for one in starts if one[1].model is not None]
    if not built:
        raise hand.problem if isinstance(hand.problem, HazelError) else InputError("rig", rig_id, "cannot be built")
    start, base = min(built, key=lambda one: _stops(one[1]))
    now = hand if hand.model is not None else base
    made += [Made(one, told(one), owned=False) for one in (now, base)]
    every = varied(start, catalogue, base, keep)
    alone: list[tuple[str, Value, Made]] = []
    total, done = sum(len(one.values) for one in every), 0
    effects, kept = list[Effects](), list[Varied]()
    for one in every:
        does, good, brings = [], [], []
        for value in one.values:
            fitted: tuple[Changes, Evaluation | None] = ((), None)
            for step in _fitted(start, catalogue, rig_id, shot_id, memo, ((one.key, value),), _stops(base), keep):
                fitted = step
                yield Progress(done, total)
            done += 1
            if fitted[1] is not None:
                does.append(told(fitted[1]))
                good.append(value)
                brings.append(fitted[0][1:])
                made.append(Made(fitted[1], does[-1], owned=False))
                alone.append((one.key, value, made[-1]))
        if len(good) > 1:
            effects.append(Effects(np.array(does)))
            kept.append(Varied(one.parameter, tuple(good), tuple(brings)))
    while math.prod(len(one.told) for one in effects) > MOST:
        longest = max(range(len(effects)), key=lambda k: len(effects[k].told))
        effects[longest] = Effects(effects[longest].told[::2])
        every_other = kept[longest]
        kept[longest] = Varied(every_other.parameter, every_other.values[::2], every_other.brings[::2])
    combinations = screened(told(base), effects)
    at_hand = _owned(project, tuple(kept), combinations.rows)
    found = Survey(project, catalogue, rig_id, shot_id, start, made[0], tuple(kept), combinations, at_hand, {}, memo)
    work_out(found, 0)  # where it starts from
    _know(found, alone)
    yield Progress(total, total, found)


def _know(found: Survey, alone: list[tuple[str, Value, Made]]) -> None:
    """What was tried by itself need not be worked out again."""
    rows = {tuple(row): n for n, row in enumerate(found.every.rows.tolist())}
    at = {one.key: n for n, one in enumerate(found.varied)}
    for key, value, one in alone:
        if key in at and value in found.varied[at[key]].values:
            places = [0] * len(at)
            places[at[key]] = found.varied[at[key]].values.index(value)
            row = tuple(places)
            found.known.setdefault(row, replace(one, owned=bool(found.owned[rows[row]])))


def wished(found: Survey, wish: Wish) -> Iterator[Progress[Sizes]]:
    """The best combinations for a wish worked out exactly, a step each, with answers as soon as there are some; those
    known from another wish at once. Raises InputError for a limit there is not.
    """
    limits = limits_of(wish, found.project)
    total, done = len(AIMS) * (2 * EXACT + POLISH) + POLISH, 0
    for n, (name, column) in enumerate(AIMS):
        owned = wish.owned or name == OWNED
        for _ in _sought(found, column, limits, owned=owned):
            done += 1
            yield Progress(done, total + 1, _picked(found, limits, wish, early=True))
        done = (n + 1) * (2 * EXACT + POLISH)
    yield Progress(total + 1, total + 1, _picked(found, limits, wish, early=False))


def _sought(found: Survey, column: int, limits: np.ndarray, *, owned: bool) -> Iterator[None]:
    """The least of one column within limits, a step for each that is worked out."""
    of, most = found.owned if owned else np.ones(len(found.owned), bool), limits * 1.05
    # Of those that nothing should stop, and of those that should be strong enough: what stops each of two inputs by
    # itself may stop none of both together.
    for stops in (0.0, np.inf):
        most[STOPS] = stops
        for place in shortlist(found.every, column, most, EXACT, of).tolist():
            if work_out(found, place):
                yield
    asked = np.isfinite(limits[:STOPS])
    if asked.any() and not any(fits(one, limits, owned=owned) for one in found.known.values() if one is not None):
        share = (found.every.told[:, :STOPS] / limits[:STOPS]).max(axis=1)
        yield from _climbed(
            found,
            share,
            of,
            lambda one: float((one.told[:STOPS] / limits[:STOPS]).max()),
            lambda one: not one.stops and (one.owned or not owned),
        )
    yield from _climbed(
        found,
        found.every.told[:, column],
        of,
        lambda one: float(one.told[column]),
        lambda one: fits(one, limits, owned=owned),
    )


def _climbed(
    found: Survey, estimates: np.ndarray, of: np.ndarray, exact: Callable[[Made], float], good: Callable[[Made], bool]
) -> Iterator[None]:
    """From the best that is good to what differs from it in one input, or in two of one group, and should be better
    still, as long as there is such a one; a step for each that is worked out. The screen takes inputs as if they did
    not meddle with each other; this does not.
    """
    tried, rows = 0, found.every.rows
    while tried < POLISH:
        fine = [(places, one) for places, one in found.known.items() if one is not None and good(one)]
        if not fine:
            return
        places, best = min(fine, key=lambda one: exact(one[1]))
        here = int(np.flatnonzero((rows == np.array(places, np.int16)).all(axis=1))[0])
        # Against what is estimated of it, for that errs alike.
        better = _near(found, places) & of & (estimates < estimates[here] * (1 - ALIKE))
        order = np.flatnonzero(better)[np.lexsort((estimates[better], found.every.told[better, STOPS]))]
        for place in order.tolist():
            if tried >= POLISH:
                return
            if not work_out(found, place):
                continue
            tried += 1
            yield
            one = found.known[tuple(rows[place].tolist())]
            if one is not None and good(one) and exact(one) < exact(best) * (1 - ALIKE):
                break
        else:
            return


def _near(found: Survey, places: tuple[int, ...]) -> np.ndarray:
    """Which combinations (m,) differ from one in a single input, or in two of the same group, such as a stand and its
    spread.
    """
    other = found.every.rows != np.array(places, np.int16)
    groups = [one.parameter.group for one in found.varied]
    within = [other[:, [n for n, name in enumerate(groups) if name == group]].sum(axis=1) for group in set(groups)]
    count = other.sum(axis=1)
    return np.asarray((count == 1) | ((count == 2) & np.any([some == 2 for some in within], axis=0)))


def work_out(found: Survey, place: int) -> bool:
    """One combination exactly; whether it was not known before."""
    places: tuple[int, ...] = tuple(found.every.rows[place].tolist())
    if places in found.known:
        return False
    changes = together(found.varied, places)
    result = _tried(found.base, found.catalogue, found.rig, found.shot, found.memo, changes)
    found.known[places] = None if result is None else Made(result, told(result), bool(found.owned[place]))
    return True


def _picked(found: Survey, limits: np.ndarray, wish: Wish, *, early: bool) -> Sizes | None:
    """What there is to answer with so far; early on nothing is said of what cannot be."""
    known = [one for one in found.known.values() if one is not None]
    answer = picked(found.project, found.rig, known, found.now, limits, len(found.every.told), wish)
    return None if early and not answer.answers else answer


def _owned(project: Project, kept: tuple[Varied, ...], rows: np.ndarray) -> np.ndarray:
    """Which combinations (m,) are cut from nothing but what is at hand; none where nothing is."""
    stock = {piece.section for piece in project.stock}
    fine = np.full(len(rows), bool(stock) and any(one.cut for one in kept))
    for n, one in enumerate(kept):
        if one.cut:
            fine &= np.array([value in stock for value in one.values])[rows[:, n]]
    return fine


def _mended(
    project: Project, catalogue: Catalogue, rig_id: str, shot_id: str, memo: Memo, keep: tuple[str, ...]
) -> Generator[Progress[Any], None, Project]:
    """The rig with remedies taken one after the other while something stops it."""
    for _ in range(MENDS):
        if not _stops(evaluate(project, catalogue, rig_id, shot_id, memo)):
            break
        remedy: Remedy | None = None
        for step in vetted(project, catalogue, rig_id):
            yield Progress(0, 1)
            remedy = _mending(step.answer or (), project.rig(rig_id).design, keep)
        if remedy is None:
            break
        project = set_values(project, rig_id, remedy.changes)
    return project


def _mending(findings: tuple[Finding, ...], design: Mapping[str, object], keep: tuple[str, ...]) -> Remedy | None:
    """The first remedy of a stop that changes nothing but what may change of the rig's own design."""
    remedies = (remedy for f in findings if f.state == STOP for remedy in f.remedies)
    return next((one for one in remedies if all(key in design and key not in keep for key, _ in one.changes)), None)


def _kept(before: Project, after: Project, rig_id: str, keep: tuple[str, ...]) -> Project:
    """What an action made of a rig, with the inputs to keep as they were."""
    design = before.rig(rig_id).design
    return set_values(after, rig_id, [(key, design[key]) for key in keep]) if keep else after


def _acted(project: Project, catalogue: Catalogue, rig_id: str, shot_id: str, memo: Memo, *, first: bool) -> Project:
    """The rig with its kind's own actions carried out: sized first, and balanced."""
    for action in KINDS[project.rig(rig_id).kind].actions:
        if action.station == "rig" and not first:
            continue
        drawn = outline(project, catalogue, rig_id, shot_id, memo)
        if drawn.problem is not None:
            break
        try:
            project = set_values(project, rig_id, perform(project, catalogue, rig_id, action.station, shot_id, memo))
        except HazelError:
            continue  # what cannot be sized or balanced so is judged as it is
    return project


def _fitted(
    project: Project,
    catalogue: Catalogue,
    rig_id: str,
    shot_id: str,
    memo: Memo,
    changes: Changes,
    stops: int,
    keep: tuple[str, ...],
) -> Iterator[tuple[Changes, Evaluation | None]]:
    """A value by itself, a step each time it is worked out;
    where it brings a stop also what mends that, the best last."""
    found = _tried(project, catalogue, rig_id, shot_id, memo, changes)
    yield changes, found
    if found is None or _stops(found) <= stops:
        return
    design = project.rig(rig_id).design
    after = set_values(project, rig_id, changes)
    suggested = evaluate(after, catalogue, rig_id, shot_id, memo, suggest=True)
    offered = (remedy for f in suggested.findings if f.state == STOP for remedy in f.remedies)
    beside: Iterator[Any] = (
        remedy.changes
        for remedy in offered
        if all(key in design and key not in keep and key != changes[0][0] for key, _ in remedy.changes)
    )
    for more in itertools.islice(beside, BESIDE):
        mended = (*changes, *more)
        again = _tried(project, catalogue, rig_id, shot_id, memo, mended)
        if again is not None and _stops(again) < _stops(found):
            yield mended, again
            return
    yield changes, found


def _tried(
    project: Project, catalogue: Catalogue, rig_id: str, shot_id: str, memo: Memo, changes: Changes
) -> Evaluation | None:
    """What a rig comes to with some values, balanced again, those values as they were asked; None where it cannot be
    built so.
    """
    try:
        tried = _acted(set_values(project, rig_id, changes), catalogue, rig_id, shot_id, memo, first=False)
        result = evaluate(set_values(tried, rig_id, changes), catalogue, rig_id, shot_id, memo)
    except HazelError:
        return None
    return result if result.model is not None else None


def _stops(result: Evaluation) -> int:
    return sum(f.state == STOP for f in result.findings)
