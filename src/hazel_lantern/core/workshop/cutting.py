"""Cutting bars from stock: at once by first fit, then exactly with a proven bound.

Lengths are counted in whole tenths of a millimetre, parts and kerf rounded up and stock rounded down, so that a
plan that fits on paper fits on the bench.
"""

from __future__ import annotations

import math
from collections import Counter
from decimal import Decimal
from itertools import product

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import not_negative, positive
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError

TENTH = 1e-4
MOST_PATTERNS = 20_000
COVER_NODES, POOL_NODES = 20_000, 400
ROUNDS, DIVED = 400, 12  # of column generation, at first and for every rest of a dive
TRIES, APART = 24, (5, 11)  # of mending a plan; bars that are taken apart in each
MIN_KEEP = 0.3
FEW = 3_000  # ways to buy whole bars that are tried one by one


class Stock(Struct, frozen=True):
    """Bars of one length [m] at one price; `available` None when the shop has plenty."""

    length: float
    price: float
    available: int | None = None
    name: str = ""


class Bar(Struct, frozen=True):
    """One bar to cut: index of its stock, lengths of its cuts longest first [m], what is left over [m]."""

    stock: int
    cuts: tuple[float, ...]
    leftover: float


class Plan(Struct, frozen=True):
    """Bars to cut, their cost, the least cost any plan could have, and whether that was reached."""

    bars: tuple[Bar, ...]
    cost: float
    bound: float
    status: str


def _up(length: float) -> int:
    return math.ceil(round(length / TENTH, 6))


class _Job(Struct):
    """The same task in whole tenths: distinct lengths with kerf, demand, capacities with one kerf added."""

    lengths: list[float]
    sizes: list[int]
    demand: list[int]
    stocks: list[Stock]
    room: list[int]


def _job(parts: list[tuple[float, int]], stocks: list[Stock], kerf: float, trim: float) -> _Job:
    not_negative(kerf=kerf, trim=trim)
    wanted: Counter[int] = Counter()
    exact: dict[int, float] = {}
    for length, quantity in parts:
        positive(length=length)
        if quantity != int(quantity) or quantity < 0:
            raise InputError("quantity", quantity, "must be a whole number of zero or more")
        if quantity:
            wanted[_up(length)] += int(quantity)
            exact[_up(length)] = max(length, exact.get(_up(length), 0.0))
    for stock in stocks:
        positive(stock_length=stock.length)
        not_negative(price=stock.price)
    order = sorted(wanted, reverse=True)
    room = [
        max(0, math.floor(round((s.length - trim) / TENTH, 6)) + _up(kerf)) if s.available != 0 else 0 for s in stocks
    ]
    sizes = [tenths + _up(kerf) for tenths in order]
    if sizes and sizes[0] > max(room, default=0):
        raise InfeasibleError(
            f"a part of {exact[order[0]]:.3f} m is longer than any stock",
            "PART_LONGER_THAN_STOCK",
            longest=max(room, default=0) * TENTH,
        )
    return _Job([exact[t] for t in order], sizes, [wanted[t] for t in order], stocks, room)


def first_fit(parts: list[tuple[float, int]], stocks: list[Stock], kerf: float, trim: float = 0.0) -> Plan:
    """A good plan at once: longest parts first into the first bar with room, each bar then swapped for a cheaper one.

    parts: lengths [m] with how many of each
    stocks: bars to cut from
    kerf: width of the saw cut [m]
    trim: lost at the ends of each bar, both together [m]

    Returns: Plan whose bound is that of material alone.
    Raises: InfeasibleError PART_LONGER_THAN_STOCK or NOT_ENOUGH_STOCK; InputError.
    Source: drive 7.3.
    """
    job = _job(parts, stocks, kerf, trim)
    bars = _first_fit(job)
    return _plan(job, bars, _material_bound(job))


def _first_fit(job: _Job) -> list[tuple[int, list[int]]]:
    left = [math.inf if s.available is None else s.available for s in job.stocks]
    bars: list[tuple[int, list[int]]] = []
    rooms: list[int] = []
    for kind, size in enumerate(job.sizes):
        for _ in range(job.demand[kind]):
            spot = next((i for i, room in enumerate(rooms) if room >= size), None)
            if spot is None:
                fits = [j for j, room in enumerate(job.room) if room >= size and left[j] > 0]
                if not fits:
                    raise InfeasibleError("there is not enough stock for all parts", "NOT_ENOUGH_STOCK")
                best = min(fits, key=lambda j: (job.stocks[j].price / job.stocks[j].length, job.stocks[j].length))
                left[best] -= 1
                bars.append((best, []))
                rooms.append(job.room[best])
                spot = len(bars) - 1
            bars[spot][1].append(kind)
            rooms[spot] -= size
    for i, (stock, kinds) in enumerate(bars):
        used = sum(job.sizes[k] for k in kinds)
        cheaper = [
            j
            for j, room in enumerate(job.room)
            if room >= used and left[j] > 0 and job.stocks[j].price < job.stocks[stock].price
        ]
        if cheaper:
            best = min(cheaper, key=lambda j: (job.stocks[j].price, job.stocks[j].length))
            left[stock] += 1
            left[best] -= 1
            bars[i] = (best, kinds)
    return bars


def _material_bound(job: _Job) -> float:
    """Least cost by length alone: free bars first, the rest at the best price a usable metre."""
    need = sum(s * d for s, d in zip(job.sizes, job.demand, strict=True))
    free = sum(
        room * (s.available or 0)
        for room, s in zip(job.room, job.stocks, strict=True)
        if s.price == 0 and s.available is not None
    )
    if any(s.price == 0 and s.available is None for s in job.stocks):
        return 0.0
    rates = [s.price / room for room, s in zip(job.room, job.stocks, strict=True) if room > 0 and s.price > 0]
    by_length = max(0.0, (need - free) * min(rates, default=0.0))
    return max(by_length, _whole_bars(job, need)) if not free else by_length


def _whole_bars(job: _Job, need: int) -> float:
    """Least cost of whole bars that hold so much length, one of them the longest piece; 0 where there are too many
    ways.

    Bars that are joined end to end hold no less than any cuts from them.
    """
    bars = [(room, s.price) for room, s in zip(job.room, job.stocks, strict=True) if room > 0]
    most = [-(-need // room) for room, _ in bars]
    if not job.sizes or math.prod(count + 1 for count in most) > FEW:
        return 0.0
    longest, best = max(job.sizes), math.inf
    for counts in product(*(range(count + 1) for count in most)):
        held = sum(count * room for count, (room, _) in zip(counts, bars, strict=True))
        if held >= need and any(count and room >= longest for count, (room, _) in zip(counts, bars, strict=True)):
            best = min(best, sum(count * price for count, (_, price) in zip(counts, bars, strict=True)))
    return best if math.isfinite(best) else 0.0


def _plan(job: _Job, bars: list[tuple[int, list[int]]], bound: float) -> Plan:
    cost = float(sum((Decimal(str(job.stocks[j].price)) for j, _ in bars), Decimal(0)))
    bound = min(cost, _next_price(bound, job))
    made = []
    for j, kinds in bars:
        cuts = tuple(sorted((job.lengths[k] for k in kinds), reverse=True))
        made.append(Bar(j, cuts, max(0, job.room[j] - sum(job.sizes[k] for k in kinds)) * TENTH))
    made.sort(key=lambda bar: (bar.stock, [-cut for cut in bar.cuts]))
    return Plan(tuple(made), cost, bound, "optimal" if cost - bound <= 1e-6 * max(1.0, cost) else "gap")


def _next_price(bound: float, job: _Job) -> float:
    """Raise a bound to the next sum the prices can make."""
    cents = [round(s.price * 100) for s in job.stocks if s.price > 0]
    if not cents or any(abs(s.price * 100 - round(s.price * 100)) > 1e-9 for s in job.stocks):
        return bound
    step = math.gcd(*cents)
    return math.ceil(bound * 100 / step - 1e-6) * step / 100


def exact(parts: list[tuple[float, int]], stocks: list[Stock], kerf: float, trim: float = 0.0) -> Plan:
    """The cheapest plan, proven where the patterns can be listed, else with the gap that is left.

    parts: lengths [m] with how many of each
    stocks: bars to cut from
    kerf: width of the saw cut [m]
    trim: lost at the ends of each bar, both together [m]

    Returns: Plan. Raises: InfeasibleError PART_LONGER_THAN_STOCK or NOT_ENOUGH_STOCK; InputError.
    Source: drive 7.2; set cover over maximal patterns, else column generation with a pool.
    """
    job = _job(parts, stocks, kerf, trim)
    if not job.sizes:
        return Plan((), 0.0, 0.0, "optimal")
    patterns = _all_maximal(job)
    bound = _material_bound(job)
    if patterns is None:
        patterns, bound, used = _generate(job, bound)
        try:
            greedy = _first_fit(job)
        except InfeasibleError:
            greedy = None
        dived = _dive(job, patterns, used)
        if dived is not None and (greedy is None or _price(job, dived) < _price(job, greedy)):
            greedy = dived
        solved = None
        if greedy is None:
            solved, _ = _cover(job, patterns, POOL_NODES)
        else:
            greedy = _mended(job, patterns, greedy, bound)
    else:
        solved, proven = _cover(job, patterns, COVER_NODES)
        greedy, bound = None, max(bound, proven)
    candidates = [bars for bars in (solved, greedy) if bars is not None]
    if not candidates:
        raise InfeasibleError("there is not enough stock for all parts", "NOT_ENOUGH_STOCK")
    best = min(candidates, key=lambda bars: (sum(job.stocks[j].price for j, _ in bars), len(bars)))
    return _plan(job, best, bound)


_Pattern = tuple[int, tuple[int, ...]]


def _price(job: _Job, bars: list[tuple[int, list[int]]]) -> float:
    return sum(job.stocks[j].price for j, _ in bars)


def _all_maximal(job: _Job) -> list[_Pattern] | None:
    """Every pattern to which no further part can be added, or None when they are too many."""
    found: list[_Pattern] = []

    def fill(stock: int, kind: int, room: int, counts: list[int]) -> bool:
        if kind == len(job.sizes):
            spare = [s for s, n, d in zip(job.sizes, counts, job.demand, strict=True) if n < d]
            if any(counts) and (not spare or min(spare) > room):
                found.append((stock, tuple(counts)))
            return len(found) <= MOST_PATTERNS
        most = min(job.demand[kind], room // job.sizes[kind])
        return all(fill(stock, kind + 1, room - n * job.sizes[kind], [*counts, n]) for n in range(most, -1, -1))

    steps = math.prod(min(d, max(job.room) // s) + 1 for s, d in zip(job.sizes, job.demand, strict=True))
    if steps > 50 * MOST_PATTERNS:
        return None
    for stock, room in enumerate(job.room):
        if room > 0 and not fill(stock, 0, room, []):
            return None
    return found


def _cover(job: _Job, patterns: list[_Pattern], nodes: int) -> tuple[list[tuple[int, list[int]]] | None, float]:
    """Cheapest whole-number use of the patterns, and the solver's own bound; None when the stock cannot do it."""
    from scipy.optimize import Bounds, LinearConstraint, milp

    counts = np.array([p for _, p in patterns], float).T
    prices = np.array([job.stocks[j].price for j, _ in patterns])
    limited = [j for j, s in enumerate(job.stocks) if s.available is not None]
    rows = [LinearConstraint(counts, np.array(job.demand, float), np.inf)]
    if limited:
        uses = np.array([[float(j == stock) for j, _ in patterns] for stock in limited])
        rows.append(LinearConstraint(uses, -np.inf, np.array([float(job.stocks[j].available or 0) for j in limited])))
    # A hair per bar prefers fewer bars among equal costs; it is taken out of the bound again.
    hair = 1e-4
    answer = milp(
        prices + hair,
        constraints=rows,
        integrality=np.ones(len(patterns), int),
        bounds=Bounds(0, np.inf),
        options={"node_limit": nodes, "mip_rel_gap": 0.0},
    )
    if answer.x is None:
        return None, 0.0
    missing = list(job.demand)
    bars = []
    for (stock, pattern), times in zip(patterns, np.round(answer.x).astype(int), strict=True):
        for _ in range(times):
            kinds = []
            for kind, n in enumerate(pattern):
                take = min(n, missing[kind])
                missing[kind] -= take
                kinds += [kind] * take
            if kinds:
                bars.append((stock, kinds))
    bound = answer.mip_dual_bound if answer.mip_dual_bound is not None else 0.0
    return bars, max(0.0, float(bound) - hair * int(np.round(answer.x).sum()))


def _singles(job: _Job) -> list[_Pattern]:
    """A bar full of each length."""
    n = len(job.sizes)
    return [
        (j, tuple(min(job.demand[k], room // job.sizes[k]) if i == k else 0 for i in range(n)))
        for j, room in enumerate(job.room)
        for k in range(n)
        if job.sizes[k] <= room
    ]


def _generate(
    job: _Job, floor: float, pool: list[_Pattern] | None = None, rounds: int = ROUNDS
) -> tuple[list[_Pattern], float, np.ndarray]:
    """Patterns by column generation: the linear optimum's columns, its value as a lower bound where no better column is
    left, else the bound that was known, and how often each column is used in it.
    """
    from scipy.optimize import linprog

    n = len(job.sizes)
    pool = list(pool) if pool is not None else _singles(job)
    limited = [j for j, s in enumerate(job.stocks) if s.available is not None]
    slack_price = 10 * max((s.price for s in job.stocks), default=1.0) + 1
    used = np.zeros(len(pool))
    for _ in range(rounds):
        cover = np.hstack([-np.array([p for _, p in pool], float).T, -np.eye(n)])
        use = np.array([[float(j == stock) for j, _ in pool] + [0.0] * n for stock in limited]).reshape(
            len(limited), len(pool) + n
        )
        prices = np.array([job.stocks[j].price for j, _ in pool] + [slack_price] * n)
        limits = [-float(d) for d in job.demand] + [float(job.stocks[j].available or 0) for j in limited]
        answer = linprog(prices, A_ub=np.vstack([cover, use]), b_ub=limits, method="highs")
        worth, rent = -answer.ineqlin.marginals[:n], -answer.ineqlin.marginals[n:]
        used = np.asarray(answer.x)[: len(pool)]
        fresh = []
        for j, (pattern, value) in enumerate(_knapsacks(job, worth)):
            price = job.stocks[j].price + (float(rent[limited.index(j)]) if j in limited else 0.0)
            if value > price + 1e-7:
                fresh.append((j, pattern))
        if not fresh:
            return pool, max(floor, float(answer.fun or 0.0)), used
        pool += fresh
        used = np.concatenate([used, np.zeros(len(fresh))])
    return pool, floor, used


def _dive(job: _Job, pool: list[_Pattern], used: np.ndarray) -> list[tuple[int, list[int]]] | None:
    """Whole bars from the linear optimum: what is used whole is taken, else the fullest of the most used, and the rest
    is solved again with the columns that it asks for; None where the stock runs out.
    """
    bars: list[tuple[int, list[int]]] = []
    left, names = job, list(range(len(job.sizes)))
    while any(left.demand):
        whole = np.floor(used + 1e-6).astype(int)
        if not whole.any():
            fill = [
                sum(s * min(c, d) for s, c, d in zip(left.sizes, p, left.demand, strict=True)) / max(1, left.room[j])
                for j, p in pool
            ]
            best = max(range(len(pool)), key=lambda k: (round(float(used[k]), 6), fill[k]))
            if used[best] <= 1e-9:
                return None
            whole[best] = 1
        missing, spent = list(left.demand), Counter[int]()
        for (stock, pattern), times in zip(pool, whole.tolist(), strict=True):
            for _ in range(times):
                kinds = [k for k, count in enumerate(pattern) for _ in range(min(count, missing[k]))]
                for k in kinds:
                    missing[k] -= 1
                if kinds:
                    bars.append((stock, [names[k] for k in kinds]))
                    spent[stock] += 1
        stocks = [
            s if s.available is None else Stock(s.length, s.price, max(0, s.available - spent[j]), s.name)
            for j, s in enumerate(left.stocks)
        ]
        if not any(missing):
            break
        # Lengths that are all cut are left out.
        kept = [k for k, count in enumerate(missing) if count]
        names = [names[k] for k in kept]
        left = _Job(
            [left.lengths[k] for k in kept],
            [left.sizes[k] for k in kept],
            [missing[k] for k in kept],
            stocks,
            left.room,
        )
        pool = [(j, tuple(p[k] for k in kept)) for j, p in pool]
        missing = left.demand
        pool = list(dict.fromkeys((j, tuple(map(min, p, missing))) for j, p in pool)) + _singles(left)
        pool, _, used = _generate(left, 0.0, [(j, p) for j, p in dict.fromkeys(pool) if any(p)], DIVED)
    return bars


def _mended(
    job: _Job, pool: list[_Pattern], bars: list[tuple[int, list[int]]], bound: float
) -> list[tuple[int, list[int]]]:
    """A plan made cheaper by taking some of its bars apart, those that waste most first, and cutting them anew; the
    same for the same task.
    """
    rng, target = np.random.default_rng(len(bars)), _next_price(bound, job)
    for _ in range(TRIES):
        if _price(job, bars) <= target + 1e-6:
            break
        waste = np.array([job.stocks[j].price / max(1, sum(job.sizes[k] for k in kinds)) for j, kinds in bars])
        likely = waste / max(float(waste.min()), 1e-12) - 1 + 0.01
        count = min(len(bars), int(rng.integers(*APART)))
        picked = set(rng.choice(len(bars), count, replace=False, p=likely / likely.sum()).tolist())
        apart, kept = [bars[i] for i in sorted(picked)], [bar for i, bar in enumerate(bars) if i not in picked]
        need, spent = Counter(k for _, kinds in apart for k in kinds), Counter(j for j, _ in kept)
        some = sorted(need)
        stocks = [
            s if s.available is None else Stock(s.length, s.price, s.available - spent[j], s.name)
            for j, s in enumerate(job.stocks)
        ]
        part = _Job(
            [job.lengths[k] for k in some], [job.sizes[k] for k in some], [need[k] for k in some], stocks, job.room
        )
        ways = [(j, tuple(min(p[k], need[k]) for k in some)) for j, p in pool]
        ways += [(j, tuple(Counter(kinds)[k] for k in some)) for j, kinds in apart]
        ways = [way for way in dict.fromkeys([*ways, *_singles(part)]) if any(way[1])]
        found = _dive(part, *(_generate(part, 0.0, ways, DIVED // 2)[::2]))
        if found is not None and _price(part, found) <= _price(job, apart) + 1e-9:
            bars = kept + [(j, [some[k] for k in kinds]) for j, kinds in found]
    return bars


def _knapsacks(job: _Job, worth: np.ndarray) -> list[tuple[tuple[int, ...], float]]:
    """The most valuable pattern for a bar of every stock: bounded knapsack, demand split in powers of two, once for all
    of them.
    """
    step = math.gcd(*job.sizes)
    space = max(job.room) // step
    best = np.zeros(space + 1)
    picks: list[tuple[int, int, np.ndarray]] = []
    for kind, (size, demand) in enumerate(zip(job.sizes, job.demand, strict=True)):
        left, lot = min(demand, max(job.room) // size), 1
        if worth[kind] <= 1e-12:
            continue
        while left > 0:
            take = min(lot, left)
            width = take * size // step
            better = np.zeros(space + 1, bool)
            if width <= space:
                with_it = best[: space + 1 - width] + take * worth[kind]
                better[width:] = with_it > best[width:] + 1e-12
                best[width:] = np.where(better[width:], with_it, best[width:])
            picks.append((kind, take, better))
            left, lot = left - take, lot * 2
    found = []
    for room in job.room:
        counts, at = [0] * len(job.sizes), room // step
        value = float(best[at])
        for kind, take, better in reversed(picks):
            if better[at]:
                counts[kind] += take
                at -= take * job.sizes[kind] // step
        found.append((tuple(counts), value))
    return found
