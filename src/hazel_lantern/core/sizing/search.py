"""Size it over the catalogue: sections, wheels and stands of a rig tried one by one, all combinations screened, the best
worked out exactly and told apart.
"""

from __future__ import annotations

import math
from collections.abc import Generator, Iterator, Mapping

import numpy as np
from msgspec import Struct

from hazel_lantern.core.advice.remedies import vetted
from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.catalogue import Catalogue, StockSection
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.editing.changes import set_values
from hazel_lantern.core.evaluate import evaluate, outline, perform
from hazel_lantern.core.kinds import KINDS
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.errors import HazelError, InputError
from hazel_lantern.core.nouns.finding import PEOPLE, STOP, STRUCTURE, Finding, Remedy
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.quantity import Choice
from hazel_lantern.core.nouns.words import Words, within
from hazel_lantern.core.sizing.screen import COST, LONGEST, MASS, MOST, USE, WANDER, Effects, screened, shortlist

TABLES = ("sections", "wheels", "stands")
MENDS = 3  # remedies taken one after the other where the rig is stopped as it is
ROWS, EXACT, APART = (
    14,
    10,
    0.1,
)  # rows tried of each choice; worked out exactly for each aim; share that two answers differ by
WANDERS = ("travel.shift", "travel.drop", "rig.sag", "rig.droop", "balance.sag")
AIMS = (("lightest", MASS), ("cheapest", COST), ("stiffest", WANDER))
LIMITS = {"cost": COST, "mass": MASS, "wander": WANDER, "longest": LONGEST}


class Wish(Struct, frozen=True):
    """What must be kept within: by name (cost, mass [kg], wander, longest piece [m]); and whether only stuff at hand is
    used.
    """

    limits: Mapping[str, float] = {}
    owned: bool = False


class Answer(Struct, frozen=True):
    """One size: what it is best at, what is changed, and what it comes to (5,) as the screen tells it."""

    name: str
    changes: tuple[tuple[str, object], ...]
    evaluation: Evaluation
    told: tuple[float, ...]


class Dot(Struct, frozen=True):
    """One that was worked out exactly: cost, mass [kg], wander, whether it may be built, and what it changes."""

    cost: float
    mass: float
    wander: float
    sound: bool
    changes: tuple[tuple[str, object], ...]


class Sizes(Struct, frozen=True):
    """Different good answers, every combination that was worked out exactly, how many were screened, what stops a smaller one, and what stands in the way where there is no answer."""

    answers: tuple[Answer, ...]
    cloud: tuple[Dot, ...]
    screened: int
    smaller: Words | None
    trouble: Words | None
    now: tuple[float, ...]
    wander: str


def size(project: Project, catalogue: Catalogue, rig_id: str, wish: Wish, shot_id: str = "") -> Iterator[Progress[Sizes]]:  # fmt: skip
    """Steps of sizing a rig for its shot; the last brings the answers. Raises InputError for a limit there is not, and what
    keeps the rig itself from being built.
    """
    limits = _limits(wish)
    memo = Memo()
    # From the rig sized for the shot, unless what its own action makes of it is stopped where it is not now; what stops it
    # still is mended first, for rows of the catalogue mend no footprint.
    base, result = project, evaluate(project, catalogue, rig_id, shot_id, memo)
    sized = _acted(project, catalogue, rig_id, shot_id, memo, first=True)
    made = evaluate(sized, catalogue, rig_id, shot_id, memo)
    if made.model is not None and (result.model is None or len(_stops(made)) <= len(_stops(result))):
        base, result = sized, made
    if result.model is None:
        raise result.problem if isinstance(result.problem, HazelError) else InputError("rig", rig_id, "cannot be built")
    hand = evaluate(project, catalogue, rig_id, shot_id, memo)
    base = yield from _mended(base, catalogue, rig_id, shot_id, memo)
    result = evaluate(base, catalogue, rig_id, shot_id, memo)
    now = _told(result)
    choices = _choices(project, catalogue, result, owned=wish.owned)
    total, done = sum(len(rows) for _, rows in choices) + 3 * EXACT, 0
    effects: list[Effects] = []
    kept: list[tuple[str, list[str]]] = []
    for key, rows in choices:
        told, good = [], []
        for row in rows:
            found = _tried(base, catalogue, rig_id, shot_id, memo, ((key, row),))
            done += 1
            yield Progress(done, total)
            if found is not None:
                told.append(_told(found))
                good.append(row)
        if len(good) > 1:
            effects.append(Effects(np.array(told)))
            kept.append((key, good))
    while math.prod(len(one.told) for one in effects) > MOST:
        longest = max(range(len(effects)), key=lambda k: len(effects[k].told))
        effects[longest] = Effects(effects[longest].told[::2])
        kept[longest] = (kept[longest][0], kept[longest][1][::2])
    every = screened(now, effects)
    exact: dict[tuple[int, ...], tuple[tuple[tuple[str, object], ...], Evaluation | None]] = {}
    for _, column in AIMS:
        for place in shortlist(every, column, limits * 1.05, EXACT).tolist():
            picked: tuple[int, ...] = tuple(every.rows[place].tolist())
            done += 1
            if picked not in exact:
                changes = tuple((key, good[n]) for (key, good), n in zip(kept, picked, strict=True))
                exact[picked] = (changes, _tried(base, catalogue, rig_id, shot_id, memo, changes))
            yield Progress(min(done, total - 1), total)
    exact[(-1,)] = ((), result)
    yield Progress(
        total,
        total,
        _sorted_out(
            project, base, rig_id, exact, limits, len(every.told), _told(hand) if hand.model is not None else now, wish
        ),
    )


def _mended(project: Project, catalogue: Catalogue, rig_id: str, shot_id: str, memo: Memo) -> Generator[Progress[Sizes], None, Project]:  # fmt: skip
    """The rig with remedies taken one after the other while something stops it."""
    for _ in range(MENDS):
        if not _stops(evaluate(project, catalogue, rig_id, shot_id, memo)):
            break
        remedy: Remedy | None = None
        for step in vetted(project, catalogue, rig_id):
            yield Progress(0, 1)
            remedy = _mending(step.answer or (), project.rig(rig_id).design)
        if remedy is None:
            break
        project = set_values(project, rig_id, remedy.changes)
    return project


def _mending(findings: tuple[Finding, ...], design: Mapping[str, object]) -> Remedy | None:
    """The first remedy of a stop that changes nothing but the rig's own design."""
    remedies = (remedy for f in findings if f.state == STOP for remedy in f.remedies)
    return next((one for one in remedies if all(key in design for key, _ in one.changes)), None)


def _limits(wish: Wish) -> np.ndarray:
    """What must be kept within (5,)."""
    for name, value in wish.limits.items():
        if name not in LIMITS:
            raise InputError("limit", repr(name), "must be one of " + ", ".join(LIMITS))
        if not value > 0:
            raise InputError(f"limit {name}", value, "must be above nought")
    limits = np.full(5, math.inf)
    for name, value in wish.limits.items():
        limits[LIMITS[name]] = value
    return limits


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


def _choices(project: Project, catalogue: Catalogue, result: Evaluation, *, owned: bool) -> list[tuple[str, list[str]]]:
    """Choices of the rig that name rows of the catalogue, with rows to try: those about as stiff or as large as now, or
    those at hand.
    """
    stock = {piece.section for piece in project.stock}
    found = []
    for p in result.kind.parameters:
        if not isinstance(p, Choice) or p.table not in TABLES or (p.only and result.rig.variant not in p.only):
            continue
        if p.when is not None and result.rig.design.get(p.when[0]) not in p.when[1]:
            continue
        now = str(result.rig.design[p.key])
        table = getattr(catalogue, p.table)
        ranked = sorted(table, key=lambda key: _like(table[key], table.get(now)))
        if owned and p.table == "sections":
            ranked = [key for key in ranked if key in stock or key == now]
        rows = [key for key in ranked if getattr(table[key], "system", project.units) == project.units or key == now]
        found.append((p.key, list(dict.fromkeys([now, *rows[:ROWS]]))))
    return found


def _like(row: object, now: object) -> float:
    """How far a row is from the one that is used now: by stiffness, or by size."""

    def measure(one: object) -> float:
        if isinstance(one, StockSection):
            return math.log(max(1e-12, float(one.section().upright)))
        return math.log(max(1e-6, float(getattr(one, "d", 0.0) or getattr(one, "load_limit", 1.0) or 1.0)))

    if now is None:
        return 0.0
    shape = 0.0 if getattr(row, "shape", "") == getattr(now, "shape", "") else 1.5
    return abs(measure(row) - measure(now)) + shape


def _tried(project: Project, catalogue: Catalogue, rig_id: str, shot_id: str, memo: Memo, changes: tuple[tuple[str, object], ...]) -> Evaluation | None:  # fmt: skip
    """What a rig comes to with some rows, balanced again; None where it cannot be built so."""
    try:
        tried = _acted(set_values(project, rig_id, changes), catalogue, rig_id, shot_id, memo, first=False)
        result = evaluate(tried, catalogue, rig_id, shot_id, memo)
    except HazelError:
        return None
    return result if result.model is not None else None


def _told(result: Evaluation) -> np.ndarray:
    """What the screen tells of an evaluation (5,)."""
    figures = result.figures
    cost = figures["build.cost"].value if "build.cost" in figures else 0.0
    mass = figures["rig.mass"].value if "rig.mass" in figures else result.laid.mass
    wander = next((abs(figures[key].value) for key in WANDERS if key in figures), 0.0)
    judged = [f for f in result.findings if f.about in (PEOPLE, STRUCTURE) and not f.says_yes_or_no and f.figure]
    # A caution beyond its limit stops nothing: it is accepted, or not.
    uses = [f.use if f.state == STOP else min(1.0, f.use) for f in judged]
    worst = max((use for use in uses if math.isfinite(use)), default=0.0)
    longest = max((part.length for part in result.parts), default=0.0)
    return np.array([cost, mass, wander, worst, longest])


def _stops(result: Evaluation) -> list[str]:
    return [f.title for f in result.findings if f.state == STOP]


def _sorted_out(
    project: Project, base: Project, rig_id: str, exact: Mapping[tuple[int, ...], tuple[tuple[tuple[str, object], ...], Evaluation | None]],
    limits: np.ndarray, count: int, now: np.ndarray, wish: Wish,
) -> Sizes:  # fmt: skip
    """Answers that differ, and what is to be said where there is none."""
    known = [(changes, result, _told(result)) for changes, result in exact.values() if result is not None]
    cloud = tuple(
        Dot(float(t[COST]), float(t[MASS]), float(t[WANDER]), not _stops(r), _changes(project, r, rig_id))
        for _, r, t in known
    )
    good = [one for one in known if not _stops(one[1]) and (one[2] <= limits * (1 + 1e-9)).all()]
    answers: list[Answer] = []
    for name, column in AIMS:
        for _, result, told in sorted(good, key=lambda one: one[2][column]):
            if all(_differ(told, np.array(other.told)) for other in answers):
                answers.append(Answer(name, _changes(project, result, rig_id), result, tuple(told.tolist())))
                break
    wander = next((result.figures[key].unit for _, result, _ in known for key in WANDERS if key in result.figures), "1")
    return Sizes(tuple(answers), cloud, count, _smaller(known, answers), _trouble(known, limits, wish) if not answers else None, tuple(now.tolist()), wander)  # fmt: skip


def _differ(a: np.ndarray, b: np.ndarray) -> bool:
    columns = [COST, MASS, WANDER]
    return bool((np.abs(a[columns] - b[columns]) > APART * np.maximum(np.abs(b[columns]), 1e-12)).any())


def _changes(project: Project, result: Evaluation, rig_id: str) -> tuple[tuple[str, object], ...]:
    """Everything of the design that is not as it was."""
    before = project.rig(rig_id).design
    return tuple((key, value) for key, value in result.rig.design.items() if before.get(key) != value)


def _smaller(known: list[tuple[tuple[tuple[str, object], ...], Evaluation, np.ndarray]], answers: list[Answer]) -> Words | None:  # fmt: skip
    """What stops one that is lighter than the lightest answer."""
    if not answers:
        return None
    light = min(answers, key=lambda one: one.told[MASS])
    lighter = [(told[MASS], result) for _, result, told in known if told[MASS] < light.told[MASS] * 0.995 and _stops(result)]  # fmt: skip
    if not lighter:
        return None
    mass, result = max(lighter, key=lambda one: one[0])
    return Words(f"Not lighter, at {{}}: {within(_stops(result)[0])}.", ((float(mass), "kg"),))


def _trouble(known: list[tuple[tuple[tuple[str, object], ...], Evaluation, np.ndarray]], limits: np.ndarray, wish: Wish) -> Words:  # fmt: skip
    """The nearest that would do, and which limit stands in the way."""
    sound = [(told, result) for _, result, told in known if not _stops(result)]
    if not sound:
        told, result = min(((told, result) for _, result, told in known), key=lambda one: float(one[0][USE]))
        return Words(f"Nothing tried may be built: {within(_stops(result)[0])} stops the nearest.")
    names = {column: name for name, column in LIMITS.items()}
    over = [(float(np.max(told / limits)), told) for told, _ in sound]
    _, told = min(over, key=lambda one: one[0])
    column = int(np.argmax(told / limits))
    units = {COST: "currency", MASS: "kg", WANDER: "1", LONGEST: "m"}
    return Words(f"No size keeps {names[column]} within {{}}; {{}} is the nearest{' of what is at hand' if wish.owned else ''}.", ((float(limits[column]), units[column]), (float(told[column]), units[column])))  # fmt: skip
