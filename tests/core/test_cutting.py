"""Cutting plans: every plan fits, exact ones against trying everything, bounds that hold."""

from __future__ import annotations

from functools import cache

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.workshop.cutting import Stock, exact, first_fit

lengths = st.integers(2, 12).map(lambda n: n / 10)
demands = st.lists(st.tuples(lengths, st.integers(1, 3)), min_size=1, max_size=4)
KERF = 0.003
SHOP = [Stock(1.3, 7.5), Stock(2.0, 10.0), Stock(0.6, 0.0, 1)]


def fits(plan, parts, stocks, kerf=KERF):
    cuts = sorted(cut for bar in plan.bars for cut in bar.cuts)
    assert cuts == sorted(length for length, count in parts for _ in range(count))
    for bar in plan.bars:
        assert sum(bar.cuts) + (len(bar.cuts) - 1) * kerf <= stocks[bar.stock].length + 1e-9
        assert bar.leftover >= 0
    for index, stock in enumerate(stocks):
        if stock.available is not None:
            assert sum(bar.stock == index for bar in plan.bars) <= stock.available
    assert plan.bound <= plan.cost + 1e-9


def cheapest(parts, stocks) -> float:
    """Least cost by trying every way to fill bars, for a handful of parts."""
    pieces = tuple(sorted((length for length, count in parts for _ in range(count)), reverse=True))

    @cache
    def best(left, used_free):
        if not left:
            return 0.0
        found = float("inf")
        for _index, stock in enumerate(stocks):
            if stock.available is not None and used_free:
                continue
            for taken in subsets(left, stock.length):
                rest = tuple(p for i, p in enumerate(left) if i not in taken)
                found = min(found, stock.price + best(rest, used_free or stock.available is not None))
        return found

    def subsets(left, room):
        """Sets of pieces for one bar that hold the longest piece left."""
        options = [((0,), left[0])] if left[0] <= room + 1e-9 else []
        for i in range(1, len(left)):
            options += [
                (chosen + (i,), used + left[i] + KERF)
                for chosen, used in options
                if used + left[i] + KERF <= room + 1e-9
            ]
        return [chosen for chosen, _ in options]

    return best(pieces, used_free=False)


@settings(max_examples=25)
@given(demands)
def test_the_exact_plan_costs_what_trying_everything_finds(parts):
    merged = {length: sum(n for other, n in parts if other == length) for length, _ in parts}
    parts = list(merged.items())
    if sum(merged.values()) > 7:
        parts = parts[:2]
    plan = exact(parts, SHOP, KERF)
    fits(plan, parts, SHOP)
    assert plan.cost == pytest.approx(cheapest(parts, SHOP))
    assert plan.status == "optimal"
    assert plan.bound == pytest.approx(plan.cost)


@given(demands)
def test_first_fit_fits_and_never_beats_its_bound(parts):
    plan = first_fit(parts, SHOP, KERF)
    fits(plan, parts, SHOP)


def test_many_lengths_state_the_gap_and_are_no_worse_than_first_fit():
    parts = [(0.15 + 0.0437 * i, 3) for i in range(16)]
    stocks = [Stock(3.0, 11.0), Stock(2.0, 8.0)]
    plan = exact(parts, stocks, 0.0025)
    fits(plan, parts, stocks, 0.0025)
    assert plan.cost <= first_fit(parts, stocks, 0.0025).cost
    assert plan.status == ("optimal" if plan.cost - plan.bound < 1e-6 else "gap")


def test_offcuts_come_first_and_are_limited():
    plan = exact([(0.5, 2)], SHOP, KERF)
    assert [bar.stock for bar in plan.bars] == [0]
    plan = exact([(0.5, 1)], SHOP, KERF)
    assert (plan.cost, plan.bars[0].stock) == (0.0, 2)


def test_what_cannot_be_cut_says_why():
    with pytest.raises(InfeasibleError) as caught:
        exact([(2.5, 1)], SHOP, KERF)
    assert caught.value.code == "PART_LONGER_THAN_STOCK"
    assert caught.value.nearest["longest"] == pytest.approx(2.003)
    for cut in (exact, first_fit):
        with pytest.raises(InfeasibleError) as caught:
            cut([(0.5, 3)], [Stock(0.6, 0.0, 2)], KERF)
        assert caught.value.code == "NOT_ENOUGH_STOCK"
    for parts, stocks, kerf in (
        ([(-1.0, 1)], SHOP, KERF),
        ([(0.5, 1.5)], SHOP, KERF),
        ([(0.5, 1)], [Stock(0.0, 1.0)], KERF),
        ([(0.5, 1)], SHOP, -0.1),
    ):
        with pytest.raises(InputError):
            exact(parts, stocks, kerf)
    assert exact([], SHOP, KERF).status == "optimal"
