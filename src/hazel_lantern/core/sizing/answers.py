"""Which of many sizes are answered with: a few good ones that differ, what each is, and what stands in the way."""

from __future__ import annotations

import math
from collections.abc import Mapping

import numpy as np
from msgspec import Struct

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import PEOPLE, STOP, STRUCTURE
from hazel_lantern.core.nouns.words import Words, within
from hazel_lantern.core.sizing.screen import COLUMNS, COST, LONGEST, MASS, STOPS, USE, WANDER
from hazel_lantern.core.sizing.varied import Changes
from hazel_lantern.core.workshop.carrying import longest_way

APART = 0.1  # share that two answers differ by
ALIKE = 1e-3  # share within which two are as good, and the cheaper is taken
WANDERS = ("travel.shift", "travel.drop", "rig.sag", "rig.droop", "balance.sag")
BOUNCES = ("travel.bounce", "rig.bounce_locked", "rig.bounce")
LIGHTEST, CHEAPEST, STIFFEST, OWNED = "lightest", "cheapest", "stiffest", "from stock"
AIMS = ((LIGHTEST, MASS), (CHEAPEST, COST), (STIFFEST, WANDER), (OWNED, COST))
LIMITS = {"cost": COST, "mass": MASS, "wander": WANDER, "longest": LONGEST}
UNITS = {COST: "currency", MASS: "kg", LONGEST: "m"}


class Wish(Struct, frozen=True):
    """What must be kept within: by name (cost, mass [kg], wander, longest piece [m]); whether only stuff at hand is
    used; and inputs that stay as they are, such as the tripod one has.
    """

    limits: Mapping[str, float] = {}
    owned: bool = False
    keep: tuple[str, ...] = ()


class Made(Struct, frozen=True):
    """A combination worked out exactly: what it comes to (6,), and whether it takes nothing but what is at hand."""

    evaluation: Evaluation
    told: np.ndarray
    owned: bool

    @property
    def stops(self) -> list[str]:
        """Titles of what stops it."""
        return [f.title for f in self.evaluation.findings if f.state == STOP]


class Answer(Struct, frozen=True):
    """One size: what it is best at, or within a tenth of the best; what is changed, and what it comes to (6,) as the
    screen tells it.
    """

    aims: tuple[str, ...]
    changes: Changes
    evaluation: Evaluation
    told: tuple[float, ...]

    @property
    def name(self) -> str:
        """What it is best at, in words."""
        return ", ".join(self.aims)


class Dot(Struct, frozen=True):
    """One that was worked out exactly: cost, mass [kg], wander, bounce [Hz], whether it may be built, and what it
    changes.
    """

    cost: float
    mass: float
    wander: float
    bounce: float
    sound: bool
    changes: Changes


class Sizes(Struct, frozen=True):
    """Different good answers, every combination that was worked out exactly, how many were screened, what stops a
    smaller one, what stands in the way where there is no answer; the rig at hand, and the unit of its wander.
    """

    answers: tuple[Answer, ...]
    cloud: tuple[Dot, ...]
    screened: int
    smaller: Words | None
    trouble: Words | None
    now: Dot
    wander: str


def limits_of(wish: Wish, project: Project) -> np.ndarray:
    """What must be kept within (6,); pieces come along to the set where nothing else is said of them. Raises InputError
    for a limit there is not.
    """
    limits = np.full(len(COLUMNS), math.inf)
    limits[LONGEST] = longest_way(project.carry)[0]
    for name, value in wish.limits.items():
        if name not in LIMITS:
            raise InputError("limit", repr(name), "must be one of " + ", ".join(LIMITS))
        if not value > 0:
            raise InputError(f"limit {name}", value, "must be above nought")
        limits[LIMITS[name]] = value
    return limits


def told(result: Evaluation) -> np.ndarray:
    """What the screen tells of an evaluation (6,)."""
    figures = result.figures
    cost = figures["build.cost"].value if "build.cost" in figures else 0.0
    mass = figures["rig.mass"].value if "rig.mass" in figures else result.laid.mass
    judged = [f for f in result.findings if f.about in (PEOPLE, STRUCTURE) and not f.says_yes_or_no and f.figure]
    # A caution beyond its limit stops nothing: it is accepted, or not.
    uses = [f.use if f.state == STOP else min(1.0, f.use) for f in judged]
    worst = max((use for use in uses if math.isfinite(use)), default=0.0)
    stops = sum(f.state == STOP for f in result.findings)
    longest = max((part.length for part in result.parts), default=0.0)
    return np.array([cost, mass, _first(result, WANDERS), worst, longest, stops])


def _first(result: Evaluation, keys: tuple[str, ...]) -> float:
    """Size of the first of some figures that it has."""
    return next((abs(result.figures[key].value) for key in keys if key in result.figures), 0.0)


def dot(project: Project, rig_id: str, made: Made) -> Dot:
    """One to be drawn."""
    cost, mass, wander = (float(made.told[column]) for column in (COST, MASS, WANDER))
    bounce = _first(made.evaluation, BOUNCES)
    return Dot(cost, mass, wander, bounce, not made.stops, changes(project, rig_id, made.evaluation))


def changes(project: Project, rig_id: str, result: Evaluation) -> Changes:
    """Everything of the design that is not as it was."""
    before = project.rig(rig_id).design
    return tuple((key, value) for key, value in result.rig.design.items() if before.get(key) != value)


def fits(one: Made, limits: np.ndarray, *, owned: bool) -> bool:
    """Whether it may be built, keeps within limits (6,), and takes nothing but what is at hand where that is asked."""
    return not one.stops and bool((one.told <= limits * (1 + 1e-9)).all()) and (one.owned or not owned)


def picked(
    project: Project, rig_id: str, known: list[Made], now: Made, limits: np.ndarray, count: int, wish: Wish
) -> Sizes:
    """Answers that differ, and what is to be said where there is none."""
    good = [one for one in known if fits(one, limits, owned=wish.owned)]
    chosen: list[tuple[list[str], Made]] = []
    for name, column in AIMS:
        best = _best([one for one in good if one.owned] if name == OWNED else good, column)
        if best is None:
            continue
        n = next((n for n, (_, other) in enumerate(chosen) if not _differ(best.told, other.told)), None)
        if n is None:
            chosen.append(([name], best))
        else:
            # One answer for both, the one that is less of everything taken together.
            chosen[n] = ([*chosen[n][0], name], min(chosen[n][1], best, key=_altogether))
    answers = [
        Answer(tuple(names), changes(project, rig_id, one.evaluation), one.evaluation, tuple(one.told.tolist()))
        for names, one in chosen
    ]
    unit = next(
        (one.evaluation.figures[key].unit for one in known for key in WANDERS if key in one.evaluation.figures), "1"
    )
    return Sizes(
        tuple(answers),
        tuple(dot(project, rig_id, one) for one in known),
        count,
        _smaller(known, answers),
        None if answers else _trouble(known, limits, wish, unit),
        dot(project, rig_id, now),
        unit,
    )


def _best(good: list[Made], column: int) -> Made | None:
    """By one column; of those as good as the best the cheapest, or the lightest where cost is what is asked."""
    then = MASS if column == COST else COST
    least = min((float(one.told[column]) for one in good), default=0.0)
    alike = (one for one in good if one.told[column] <= least * (1 + ALIKE) + 1e-12)
    return min(alike, key=lambda one: float(one.told[then]), default=None)


def _altogether(one: Made) -> float:
    return float(np.prod(np.maximum(one.told[[COST, MASS, WANDER]], 1e-9)))


def _differ(a: np.ndarray, b: np.ndarray) -> bool:
    columns = [COST, MASS, WANDER]
    return bool((np.abs(a[columns] - b[columns]) > APART * np.maximum(np.abs(b[columns]), 1e-12)).any())


def _smaller(known: list[Made], answers: list[Answer]) -> Words | None:
    """What stops one that is lighter than the lightest answer."""
    if not answers:
        return None
    light = min(one.told[MASS] for one in answers)
    lighter = [one for one in known if one.told[MASS] < light * 0.995 and one.stops]
    if not lighter:
        return None
    one = max(lighter, key=lambda one: float(one.told[MASS]))
    return Words(f"Not lighter, at {{}}: {within(one.stops[0])}.", ((float(one.told[MASS]), "kg"),))


def _trouble(known: list[Made], limits: np.ndarray, wish: Wish, wander: str) -> Words:
    """The nearest that would do, and which limit stands in the way."""
    some = [one for one in known if one.owned] if wish.owned else known
    sound = [one for one in some if not one.stops]
    ending = " of what is at hand" if wish.owned else ""
    if not sound:
        if not some:
            return Words("Nothing at hand takes the place of what the rig asks for.")
        nearest = min(some, key=lambda one: float(one.told[USE]))
        return Words(f"Nothing tried{ending} may be built: {within(nearest.stops[0])} stops the nearest.")
    names = {column: name for name, column in LIMITS.items()}
    near = min(sound, key=lambda one: float(np.max(one.told[:STOPS] / limits[:STOPS]))).told
    column = int(np.argmax(near[:STOPS] / limits[:STOPS]))
    unit = UNITS.get(column, wander)
    return Words(
        f"No size{ending} keeps {names[column]} within {{}}; {{}} is the nearest.",
        ((float(limits[column]), unit), (float(near[column]), unit)),
    )
