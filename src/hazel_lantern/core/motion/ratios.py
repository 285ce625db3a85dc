"""Ratios: the span that wanted times ask for, trains of gears that make one, and change gears for several."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from itertools import pairwise, product

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import positive
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError

MOST_STAGES, MOST_SIZES = 4, 90  # of a train; tooth counts with four stages
CHUNK = 2_000_000  # pairs looked at together
CLOSEST = 5  # change gears kept for one ratio and sum of teeth


class Window(Struct, frozen=True):
    """Ratios that serve the slowest of the wanted times, from, and the quickest, up to; whether one serves all; else
    how many settings do.
    """

    least: float
    most: float
    one: bool
    settings: int


def window(slowest: float, fastest: float, turns: float, times: Sequence[float], peak: float) -> Window:
    """Ratios for a move in several times.

    slowest: that the source runs evenly at [rad/s]
    fastest: likewise [rad/s]
    turns: of what it drives, over the move [-]
    times: wanted [s]
    peak: the move's greatest speed over its mean [-]

    Returns: the window. Raises: InputError; nothing runs evenly at nought. Source: drive 2.1.
    """
    positive(n_lo=slowest, n_hi=fastest, output_revs=turns, c_v=peak)
    if fastest < slowest:
        raise InputError("n_hi", fastest, "must be at least the slowest")
    if not times:
        raise InputError("durations", "none", "at least one is wanted")
    for time in times:
        positive(durations=time)
    rates = [2 * math.pi * turns * peak / time for time in times]
    least, most = slowest / min(rates), fastest / max(rates)
    if fastest == slowest:
        settings = len({round(rate, 12) for rate in rates})
    else:
        span = math.log(max(rates) / min(rates)) / math.log(fastest / slowest)
        settings = max(1, math.ceil(span - 1e-9))
    return Window(least, most, least <= most * (1 + 1e-12), settings)


class Train(Struct, frozen=True):
    """Gears of a train, paired in order: drivers and driven [teeth], what they gear down by,
    and how far that is off."""

    drivers: tuple[int, ...]
    driven: tuple[int, ...]
    ratio: float
    off: float

    @property
    def teeth(self) -> int:
        """Of all gears together."""
        return sum(self.drivers) + sum(self.driven)

    @property
    def repeating(self) -> int:
        """Stages whose teeth always meet the same ones."""
        return sum(math.gcd(a, b) > 1 for a, b in zip(self.drivers, self.driven, strict=True))


class Found(Struct, frozen=True):
    """The best trains, best first; how many there are with the fewest stages that reach it; the furthest ratio that is
    reached with all stages [-].
    """

    trains: tuple[Train, ...]
    count: int
    furthest: float


def _choices(sizes: np.ndarray, stages: int, owned: dict[int, int] | None) -> np.ndarray:
    """The same without what asks for more gears of a size than are owned; built size by size, fast for many."""
    n = len(sizes)
    rows = np.arange(n, dtype=np.int16)[:, None]
    for _ in range(stages - 1):
        last = rows[:, -1]
        counts = n - last
        starts = np.repeat(np.cumsum(counts) - counts, counts)
        follow = np.repeat(last, counts) + (np.arange(counts.sum()) - starts).astype(np.int16)
        rows = np.column_stack([np.repeat(rows, counts, axis=0), follow])
    found = sizes[rows]
    if owned:
        most = np.array([owned.get(int(size), stages) for size in sizes])
        uses = np.stack([(rows == k).sum(axis=1) for k in range(n)], axis=1)
        found = found[(uses <= most).all(axis=1)]
    return np.asarray(found)


def trains(
    sizes: Iterable[int],
    target: float,
    tolerance: float,
    stages: int = 3,
    most: float | None = None,
    wanted: int = 1,
    owned: dict[int, int] | None = None,
) -> Found:
    """The best trains of a set of gears: fewest stages, then fewest teeth, fewest stages whose teeth always meet the
    same ones, nearest.

    sizes: tooth counts there are
    target: turns of the first shaft for one of the last [-]
    tolerance: how far off it may be, as a share [-]
    stages: at the most
    most: that one stage may gear up or down by, none for any [-]
    wanted: how many trains
    owned: how many there are of a tooth count, any number where it is not named

    Returns: the trains, none where none reaches it: proven best within the set. Raises: InputError.
    Source: drive 2.2.
    """
    found: Found | None = None
    for found in steps(sizes, target, tolerance, stages, most, wanted, owned):  # noqa: B007
        pass
    assert found is not None
    return found


def steps(
    sizes: Iterable[int],
    target: float,
    tolerance: float,
    stages: int = 3,
    most: float | None = None,
    wanted: int = 1,
    owned: dict[int, int] | None = None,
) -> Iterator[Found]:
    """The same, stage by stage; a long search can be left between.

    sizes: tooth counts there are
    target: turns of the first shaft for one of the last [-]
    tolerance: how far off it may be, as a share [-]
    stages: at the most
    most: that one stage may gear up or down by, none for any [-]
    wanted: how many trains
    owned: how many there are of a tooth count, any number where it is not named

    Returns: what is best so far, after each number of stages. Raises: InputError. Source: drive 2.2.
    """
    teeth = np.array(sorted(set(sizes)), dtype=np.int64)
    if len(teeth) < 2 or teeth[0] < 1:
        raise InputError("tooth_set", len(teeth), "needs at least two tooth counts")
    positive(target=target)
    if not 0 <= tolerance < 0.5:
        raise InputError("tol", tolerance, "must be at least 0 and less than 0.5")
    if not 1 <= stages <= MOST_STAGES:
        raise InputError("max_stages", stages, f"must be 1 to {MOST_STAGES}")
    if stages == MOST_STAGES and len(teeth) > MOST_SIZES:
        raise InputError("tooth_set", len(teeth), f"at most {MOST_SIZES} with four stages: give a shorter list")
    best: list[Train] = []
    count, furthest = 0, float((teeth[-1] / teeth[0]) ** stages)
    for number in range(1, stages + 1):
        rows, there = _of_stages(teeth, target, tolerance, number, most, wanted - len(best), owned, counted=not count)
        count = count or there
        best += rows
        yield Found(tuple(best[:wanted]), count, furthest)
        if len(best) >= wanted:
            return


def _of_stages(
    teeth: np.ndarray,
    target: float,
    tolerance: float,
    stages: int,
    most: float | None,
    wanted: int,
    owned: dict[int, int] | None,
    *,
    counted: bool,
) -> tuple[list[Train], int]:
    """The best trains of just so many stages, and how many there are in all where that is asked."""
    sets = _choices(teeth, stages, owned)
    if not len(sets):
        return [], 0
    products, sums = sets.prod(axis=1).astype(float), sets.sum(axis=1)
    low, high = target * (1 - tolerance) * (1 - 1e-12), target * (1 + tolerance) * (1 + 1e-12)
    drivers = (products * low <= products.max()) & (products * high >= products.min())
    driven = (products >= low * products.min()) & (products <= high * products.max())
    if not drivers.any() or not driven.any():
        return [], 0
    least = float(sums.min())
    bound_d = sums + np.maximum(least, stages * (low * products) ** (1 / stages))
    bound_e = sums + np.maximum(least, stages * (products / high) ** (1 / stages))
    top = float(2 * sums.max())
    budget = top if counted and len(sets) < 20_000 else math.ceil(float(bound_d[drivers].min())) + 2
    while True:
        keep_d, keep_e = np.flatnonzero(drivers & (bound_d <= budget)), np.flatnonzero(driven & (bound_e <= budget))
        rows, there = _paired(sets, products, sums, keep_d, keep_e, (low, high), budget, most, target, wanted)
        if len(rows) >= wanted or budget >= top:
            break
        budget = min(top, math.ceil(budget * (1.1 if rows else 1.25)))
    if counted and budget < top and rows:
        every_d, every_e = np.flatnonzero(drivers), np.flatnonzero(driven)
        there = _paired(sets, products, sums, every_d, every_e, (low, high), top, most, target, 0)[1]
    return rows, there


def _paired(
    sets: np.ndarray,
    products: np.ndarray,
    sums: np.ndarray,
    drivers: np.ndarray,
    driven: np.ndarray,
    bounds: tuple[float, float],
    budget: float,
    most: float | None,
    target: float,
    wanted: int,
) -> tuple[list[Train], int]:
    """Drivers against driven gears whose ratio lies within bounds: the best of them, and how many there are."""
    if not len(drivers) or not len(driven):
        return [], 0
    order = driven[np.argsort(products[driven], kind="stable")]
    ranked = products[order]
    first = np.searchsorted(ranked, bounds[0] * products[drivers], side="left")
    last = np.searchsorted(ranked, bounds[1] * products[drivers], side="right")
    hits = last - first
    there, kept = 0, []
    edges = np.searchsorted(np.cumsum(hits), np.arange(0, hits.sum() + CHUNK, CHUNK), side="left")
    blocks = sorted({0, *map(int, edges), len(drivers)})
    for start, end in pairwise(blocks):
        many = hits[start:end]
        if not many.sum():
            continue
        d = np.repeat(drivers[start:end], many)
        e = order[np.repeat(first[start:end], many) + np.arange(many.sum()) - np.repeat(np.cumsum(many) - many, many)]
        fine = sums[d] + sums[e] <= budget
        d, e = d[fine], e[fine]
        a, b = sets[d], sets[e]
        fine = ~(a[:, :, None] == b[:, None, :]).any(axis=(1, 2))
        if most is not None:
            stage = b / a
            fine &= np.maximum(stage, 1 / stage).max(axis=1) <= most * (1 + 1e-12)
        d, e = d[fine], e[fine]
        there += len(d)
        if wanted and len(d):
            kept += _best(sets, products, sums, d, e, target, wanted)
    kept.sort(key=lambda one: _rank(one))
    return kept[:wanted], there


def _best(
    sets: np.ndarray, products: np.ndarray, sums: np.ndarray, d: np.ndarray, e: np.ndarray, target: float, wanted: int
) -> list[Train]:
    """The best of some pairs; all of those with as few teeth are told apart by the rest of their rank."""
    total = sums[d] + sums[e]
    edge = np.partition(total, min(wanted, len(total)) - 1)[min(wanted, len(total)) - 1]
    rows = np.flatnonzero(total <= edge)
    made = []
    for k in rows:
        ratio = float(products[e[k]] / products[d[k]])
        made.append(Train(tuple(map(int, sets[d[k]])), tuple(map(int, sets[e[k]])), ratio, ratio / target - 1))
    made.sort(key=_rank)
    return made[:wanted]


def _rank(one: Train) -> tuple[object, ...]:
    return one.teeth, one.repeating, round(abs(one.off), 12), one.drivers, one.driven


class ChangeGears(Struct, frozen=True):
    """A box of gears for one distance between two shafts: pairs of driver and driven, one for each ratio, what each
    makes, and every gear that has to be cut, in order.
    """

    pairs: tuple[tuple[int, int], ...]
    ratios: tuple[float, ...]
    gears: tuple[int, ...]

    @property
    def teeth(self) -> int:
        """Of a pair together: the same for all, as their shafts stand."""
        return sum(self.pairs[0])


def change_gears(
    ratios: Sequence[float], tolerance: float, sums: tuple[int, int], fewest: int, most: int
) -> ChangeGears:
    """The fewest gears that make several ratios between two shafts that stay where they are.

    ratios: wanted, driven over driver [-]
    tolerance: how far off each may be, as a share [-]
    sums: of the teeth of a pair, from and up to
    fewest: teeth of a gear
    most: teeth of a gear

    Returns: the box. Raises: InputError; InfeasibleError `NO_CHANGE_GEARS`. Source: drive 2.4.
    """
    if not ratios:
        raise InputError("ratios", "none", "at least one is wanted")
    for ratio in ratios:
        positive(ratios=ratio)
    if not 0 <= tolerance < 0.5:
        raise InputError("tol", tolerance, "must be at least 0 and less than 0.5")
    best: tuple[tuple[int, int, float], ChangeGears] | None = None
    for total in range(max(sums[0], 2 * fewest), sums[1] + 1):
        ways = [_ways(total, ratio, tolerance, fewest, most) for ratio in ratios]
        if not all(ways):
            continue
        for pairs in product(*ways):
            gears = _gears_of(pairs)
            off = max(abs(b / a / ratio - 1) for (a, b), ratio in zip(pairs, ratios, strict=True))
            rank = (len(gears), total, off)
            if best is None or rank < best[0]:
                best = rank, ChangeGears(tuple(pairs), tuple(b / a for a, b in pairs), gears)
    if best is None:
        raise InfeasibleError("no pairs of gears make these ratios between the same two shafts", "NO_CHANGE_GEARS")
    return best[1]


def _ways(total: int, ratio: float, tolerance: float, fewest: int, most: int) -> list[tuple[int, int]]:
    """Pairs of a sum of teeth that make a ratio, the closest of them."""
    around = total / (1 + ratio)
    spread = math.ceil(around * tolerance) + 1
    firsts = range(
        max(fewest, total - most, int(around) - spread), min(most, total - fewest, int(around) + spread + 1) + 1
    )
    found = [(a, total - a) for a in firsts if abs((total - a) / a / ratio - 1) <= tolerance]
    return sorted(found, key=lambda pair: abs(pair[1] / pair[0] / ratio - 1))[:CLOSEST]


def _gears_of(pairs: Sequence[tuple[int, int]]) -> tuple[int, ...]:
    """Every gear that has to be cut: of a tooth count as many as are on both shafts at once at the most."""
    counts: dict[int, int] = {}
    for a, b in pairs:
        for teeth in {a, b}:
            counts[teeth] = max(counts.get(teeth, 0), (a == teeth) + (b == teeth))
    return tuple(sorted(teeth for teeth, count in counts.items() for _ in range(count)))
