"""The practice rig: the rig at hand with faults that nobody sees, to be tested, mended and tested again, and scored."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from itertools import combinations

import numpy as np
from msgspec import Struct
from msgspec.structs import asdict, replace

from hazel_lantern.core.kinds.foreseen import Foreseen
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import CLEAR
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.proving.simulated import READS, Bench, Built, Row, rows
from hazel_lantern.core.proving.told import BY_KEY
from hazel_lantern.core.proving.trial import Outcome, Reads

LEVELS = {1: "One large fault", 2: "Two of middling size", 3: "Three, one of which looks like another"}
SHARES = {1: (0.75, 1.0), 2: (0.45, 0.7), 3: (0.4, 0.8)}  # of the largest size
HAND = 0.04  # of an amount, that a hand is off by
STEP_COSTS, HINT_COSTS, FREE = 2.0, 8.0, 6  # points; steps that cost nothing, for each fault


class Fault(Struct, frozen=True):
    """A fault: its key, its name, the unit of its size, the smallest that is noticed and the largest that is set, what
    its size does to how the rig is `built`, in that unit, what mends it in words, and what it looks like.
    """

    key: str
    name: str
    unit: str
    noticed: float
    largest: float
    does: tuple[tuple[str, float], ...]
    mend: str
    like: str = ""


FAULTS = (
    Fault("mass", "Centre of mass off", "kg*m", 0.02, 0.4, (("heavy", 1.0), ("unbalance", 1.0)),
        "slide the weights by its moment"),
    Fault("bent", "Bent rail", "rad", 0.001, 0.015, (("across", 1.0),), "wedge or straighten it there"),
    Fault("tight", "Tight station", "m", 0.0005, 0.006, (("wide", -1.0), ("binds", 8.0)), "open the gauge there"),
    Fault("soft", "Soft tripod, stand or arm", "1", 0.04, 0.45, (("stiff", -1.0), ("head", -1.0)),
        "brace it, or reckon with it"),
    Fault("belt", "Loose belt", "m", 0.0004, 0.004, (("play", 1.0),), "tighten it"),
    Fault("pinched", "Eccentric or pivot too tight", "1", 0.08, 0.9, (("rolls", 1.0), ("hub", 1.0)),
        "let the eccentric or the pivot out"),
    Fault("wheel", "One wheel high", "m", 0.0006, 0.006, (("wheel", 1.0),), "put that much under it"),
    Fault("holes", "Unequal hole spacings", "rad", 0.002, 0.02, (("tilt", 1.0),), "pack the low side"),
    Fault("trucks", "Trucks out of square", "1", 0.08, 0.8, (("rolls", 1.0), ("across", 0.004)),
        "square the trucks to the track", "pinched"),
    Fault("mesh", "Mesh too deep", "1", 0.08, 0.8, (("hub", 1.0), ("faster", -0.12), ("rolls", 0.4)),
        "draw the wheels apart until they just run", "pinched"),
    Fault("clamp", "Slipping clamp", "m", 0.0004, 0.004, (("play", 1.0), ("stays", 1.0)),
        "clean the clamp, tighten it, look again after a load", "belt"),
    Fault("adjuster", "Adjuster run out", "m", 0.0005, 0.006, (("wide", -1.0), ("binds", 8.0), ("tilt", 1.5)),
        "pack behind the adjuster, set it half-way again", "tight"),
)  # fmt: skip
BY_FAULT: Mapping[str, Fault] = {fault.key: fault for fault in FAULTS}
# Which test tells which of what is built, and how from what it says.
TELLS: Mapping[str, tuple[tuple[str, Callable[[Outcome, Foreseen], float], float], ...]] = {
    "level": (("tilt", lambda o, f: o.value, 0.0012),),
    "gauge": (("wide", lambda o, f: 0.0 if o.state == CLEAR else o.value - f.middle, 0.0006),),
    "crosswise": (("across", lambda o, f: o.value, 0.0013),),
    "rocking": (("wheel", lambda o, f: o.value, 0.0006),),
    "roll": (("rolls", lambda o, f: o.value / f.middle - 1, 0.06),),
    "pull": (("rolls", lambda o, f: o.value / f.middle - 1, 0.03), ("binds", lambda o, f: _over(o, f), 0.004)),
    "sag": (("stiff", lambda o, f: _softer(o, f), 0.03),),
    "coast": (("hub", lambda o, f: o.value / f.middle - 1, 0.05),),
    "drift": (("heavy", lambda o, f: (o.value - f.middle) / GRAVITY, 0.012),),
    "heavy": (("unbalance", lambda o, f: o.value, 0.02),),
    "play": (("play", lambda o, f: o.value, 0.0002),),
    "speed": (("faster", lambda o, f: o.value, 0.015),),
    "proof": (("stays", lambda o, f: o.words.amounts[2][0], 0.0003),),
}  # fmt: skip


def _over(outcome: Outcome, own: Foreseen) -> float:
    """How much of its weight it binds by."""
    binds = [amount[0] for amount in outcome.words.amounts if amount[1] == "N"]
    return binds[0] / own.takes["weight"] if binds else 0.0


def _softer(outcome: Outcome, own: Foreseen) -> float:
    """How much stiffer than drawn what gives is, less one."""
    rest = outcome.value / own.middle - (1 - own.due)
    return own.due / rest - 1 if rest > 0 else 0.0


def _vague(key: str, outcome: Outcome) -> float:
    """How far a sag may be off as a share of itself: what hardly sinks tells nothing of how stiff it is."""
    return 2 * outcome.give / abs(outcome.value) if key == "sag" and outcome.value else 0.0


class Practice(Struct, frozen=True):
    """A rig being practised on: seed and level, what was wrong with it and what is by now, by fault, steps taken, hints
    asked for.
    """

    seed: int
    level: int
    faults: dict[str, float]
    now: dict[str, float]
    steps: int = 0
    hints: int = 0


class Score(Struct, frozen=True):
    """How much of what was wrong is left [-], and points of a hundred."""

    left: float
    points: int


def shown_by(known: Mapping[str, Foreseen]) -> tuple[Fault, ...]:
    """Faults that the tests of a rig can show: each effect of theirs that any test of it tells, one at the least."""
    told = {effect for key in known if key in TELLS for effect, *_ in TELLS[key]}
    return tuple(fault for fault in FAULTS if any(effect in told for effect, _ in fault.does))


def begin(seed: int, level: int, known: Mapping[str, Foreseen]) -> Practice:
    """A rig with hidden faults; the same seed and level hide the same ones. Raises InputError for a level there is not,
    and a rig whose tests show too few.
    """
    if level not in LEVELS:
        raise InputError("level", level, "must be 1, 2 or 3")
    chance, there = np.random.default_rng((seed, level)), shown_by(known)
    if len(there) < level:
        raise InputError("rig", len(there), f"faults that its tests can show; level {level} hides {level}")
    likes = [fault for fault in there if fault.like in {one.key for one in there}]
    first = [likes[int(chance.integers(len(likes)))]] if level == max(LEVELS) and likes else []
    # What it looks like is not there too, nor two that do the same.
    others = [fault for fault in there if not first or (fault.key != first[0].like and not fault.like)]
    others = [fault for fault in others if fault not in first]
    picked = [*first, *(others[int(k)] for k in chance.permutation(len(others))[: level - len(first)])]
    low, high = SHARES[level]
    faults = {fault.key: fault.largest * float(chance.uniform(low, high)) for fault in picked}
    return Practice(seed, level, faults, dict(faults))


def built(practice: Practice) -> Built:
    """How the rig is built by now."""
    chance = np.random.default_rng((practice.seed, 77))
    sums = asdict(Built(place=float(chance.choice([0.25, 0.5, 0.75])), zero=float(chance.normal(0, 0.1))))
    for key, size in practice.now.items():
        for effect, times in BY_FAULT[key].does:
            sums[effect] += times * size
    for key in ("stiff", "head", "rolls", "hub"):
        sums[key] = max(0.3, sums[key])
    return Built(**{**sums, "stays": max(0.0, sums["stays"])})


def read(practice: Practice, key: str, known: Mapping[str, Foreseen]) -> tuple[Practice, tuple[Row, ...]]:
    """One test done on it: a step, and what was read. Raises InputError for a test that this rig has not."""
    if key not in known or key not in READS:
        raise InputError("test", repr(key), "must be one of " + ", ".join(sorted(set(known) & set(READS))))
    chance = np.random.default_rng((practice.seed, practice.steps, len(key), ord(key[0])))
    return replace(practice, steps=practice.steps + 1), rows(key, Bench(known, built(practice), chance))


def mend(practice: Practice, key: str, amount: float) -> Practice:
    """A fault mended by an amount, as well as a hand does; where it was not there, it is now, the other way.

    Raises InputError for a fault there is not, or an amount that is no number within five times the largest.
    """
    if key not in BY_FAULT:
        raise InputError("fault", repr(key), "must be one of " + ", ".join(BY_FAULT))
    if not abs(amount) <= 5 * BY_FAULT[key].largest:
        raise InputError("amount", amount, f"must be at most {5 * BY_FAULT[key].largest:g} either way")
    chance = np.random.default_rng((practice.seed, practice.steps, 5))
    now = dict(practice.now)
    now[key] = now.get(key, 0.0) - amount * (1 + float(chance.normal(0, HAND)))
    return replace(practice, now=now, steps=practice.steps + 1)


def hinted(practice: Practice) -> Practice:
    """A hint asked for."""
    return replace(practice, hints=practice.hints + 1)


def score(practice: Practice) -> Score:
    """By what is left of it, the steps beyond those that every fault is worth, and hints."""

    def wrong(sizes: Mapping[str, float]) -> float:
        # What nobody notices does not count.
        return sum(max(0.0, abs(size) / BY_FAULT[key].noticed - 1.0) for key, size in sizes.items())

    left = wrong(practice.now) / wrong(practice.faults)
    beyond = max(0, practice.steps - FREE * (1 + len(practice.faults)))
    points = 100 * (1 - min(1.0, left)) - STEP_COSTS * beyond - HINT_COSTS * practice.hints
    return Score(left, max(0, round(points)))


class Signs(Struct, frozen=True):
    """What tests have told by now: of each effect its value and how far it may be off, by test."""

    by_test: dict[str, tuple[tuple[str, float, float], ...]]


def signs(outcomes: Mapping[str, Outcome], known: Mapping[str, Foreseen]) -> Signs:
    """What outcomes of tests tell of how the rig is built."""
    return Signs(
        {
            key: tuple(
                (effect, tells(outcome, known[key]), max(give, _vague(key, outcome)))
                for effect, tells, give in TELLS[key]
            )
            for key, outcome in outcomes.items()
            if key in TELLS
        }
    )


def explained(found: Signs, known: Mapping[str, Foreseen], most: int = 3) -> tuple[tuple[str, float], ...]:
    """The fewest faults that explain all that was told, each with its size; () where nothing is wrong.

    Every set of up to `most` faults is fitted by least squares; one more must explain clearly more.
    """
    told = [one for several in found.by_test.values() for one in several]
    if not told:
        return ()
    values = np.array([value / give for _, value, give in told])
    faults = shown_by(known)
    columns = np.array([[dict(fault.does).get(effect, 0.0) / give for effect, _, give in told] for fault in faults]).T
    best: tuple[float, tuple[tuple[str, float], ...]] = (float((values**2).sum()), ())
    for count in range(1, most + 1):
        for chosen in combinations(range(len(faults)), count):
            part = columns[:, chosen]
            if np.linalg.matrix_rank(part) < count:
                continue
            sizes = np.linalg.lstsq(part, values, rcond=None)[0]
            left = float(((values - part @ sizes) ** 2).sum()) + PENALTY * count
            if left < best[0] - 1e-9:
                best = (left, tuple((faults[k].key, float(size)) for k, size in zip(chosen, sizes, strict=True)))
    return tuple((key, size) for key, size in best[1] if abs(size) > BY_FAULT[key].noticed / 2)


PENALTY = 9.0  # squares of three times what a test may be off by, that one more fault must explain


def outcome_of(
    key: str, read_rows: tuple[Row, ...], known: Mapping[str, Foreseen], design: Mapping[str, object]
) -> Outcome:
    """What rows of a simulated test say. Raises what the test refuses."""
    return BY_KEY[key].outcome(read_rows, Reads(known[key], known, design))  # type: ignore[arg-type]


def amount_of(fault: Fault) -> Quantity:
    """The field that an amount of mending is typed into."""
    reach = 5 * fault.largest
    return Quantity("practice.amount", "by", fault.unit, -reach, reach, 0.0, "", fault.mend, "prove")


def remaining(practice: Practice) -> float:
    """How much is wrong by now, in sizes that are just noticed."""
    return math.fsum(abs(size) / BY_FAULT[key].noticed for key, size in practice.now.items())
