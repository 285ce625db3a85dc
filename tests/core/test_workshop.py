"""Marks on a tape, plans over stock and offcuts, and the buy list to the cent."""

from __future__ import annotations

from decimal import Decimal
from fractions import Fraction

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hazel_lantern.core.document.project import Offcut
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.workshop import marks
from hazel_lantern.core.workshop.cost import Line, total
from hazel_lantern.core.workshop.cutting import exact, first_fit
from hazel_lantern.core.workshop.plan import buy_list, order_of, plans
from tests.helpers import SHELF, changed, finding, sample, solved

tapes = st.sampled_from([16, 32, 64])


@given(st.integers(1, 40_000), tapes)
def test_the_tape_rounds_to_the_nearest_division_exactly(tenths, denominator):
    length = tenths / 1e4
    true = Fraction(tenths, 10_000) / Fraction(254, 10_000) * denominator
    nearest = int(true + Fraction(1, 2))
    assert marks.to_tape(length, denominator) == pytest.approx(nearest * 0.0254 / denominator, abs=1e-12)
    whole, _, part = marks.tape_text(length, denominator).partition(" ")
    shown = Fraction(whole) + (Fraction(part) if part else 0)
    assert shown == Fraction(nearest, denominator)


@given(st.floats(0.003, 0.4), st.integers(1, 40), tapes)
def test_marks_from_one_datum_never_add_up_and_chained_ones_do(pitch, count, denominator):
    datum, chain = marks.last_mark_errors(pitch, count, denominator)
    half = 0.0254 / denominator / 2
    assert abs(datum) <= half * (1 + 1e-9)
    assert abs(chain) <= half * count * (1 + 1e-9)
    one = marks.to_tape(pitch, denominator) - pitch
    assert chain == pytest.approx(one * count, abs=1e-12)


def test_other_tapes_are_refused():
    with pytest.raises(InputError, match="denominator"):
        marks.to_tape(0.1, 10)
    with pytest.raises(InputError, match="pitch"):
        marks.last_mark_errors(0.0, 3, 16)


@given(st.lists(st.tuples(st.integers(0, 20), st.integers(0, 9999)), max_size=12))
def test_the_sum_is_exact_to_the_cent(rows):
    lines = tuple(Line("x", count, cents / 100) for count, cents in rows)
    assert Decimal(str(total(lines))) == sum((Decimal(count * cents) / 100 for count, cents in rows), Decimal(0))


def test_pieces_at_hand_are_cut_first_and_cost_nothing():
    parts = solved().parts
    without = plans(order_of(parts, (), SHELF, 0.0022), exact)
    pine = [Offcut(section="pine-45x95", length_m=0.9)]
    with_it = plans(order_of(parts, tuple(pine), SHELF, 0.0022), exact)
    cost = {made.section: made.plan.cost for made in without}
    saved = {made.section: cost[made.section] - made.plan.cost for made in with_it}
    assert saved["pine-45x95"] == pytest.approx(cost["pine-45x95"])
    assert all(money == 0 for section, money in saved.items() if section != "pine-45x95")
    names = [line.name for line in buy_list(with_it, ())]
    assert not any("pine" in name for name in names)


def test_a_part_longer_than_the_shop_sells_is_a_stop_and_the_rest_is_still_planned():
    project = changed(arm__front=2.2)
    result = solved(project)
    assert finding(result, "build.stock").state == "stop"
    troubled = [made for made in result.cuts if made.plan is None]
    assert [made.section for made in troubled] == ["al6063-25x50x2"]
    assert "longer than any stock" in troubled[0].trouble
    assert "build.cost" in result.figures


def test_a_wider_saw_cut_never_makes_it_cheaper():
    costs = []
    for kerf in (0.0, 0.002, 0.01, 0.05):
        project = msgspec.structs.replace(sample(), kerf_m=kerf)
        costs.append(
            sum(
                made.plan.cost for made in plans(order_of(solved(project).parts, project.stock, SHELF, kerf), first_fit)
            )
        )
    assert costs == sorted(costs)


def test_like_holes_at_one_pitch_are_told_as_one_row_and_nothing_is_lost():
    row = tuple(marks.Mark(0.065 + 0.05 * k, "hole", 0.0084, note="weight pin") for k in range(5))
    others = (
        marks.Mark(0.685, "hole", 0.0084, note="pivot A"),
        marks.Mark(0.7, "slot", 0.009, 0.8, "pin"),
        marks.Mark(0.9, "hole", 0.0084, note="pivot A"),
    )
    told = marks.runs((*row, *others))
    assert [len(run.marks) for run in told] == [5, 1, 1, 1]
    assert told[0].pitch == pytest.approx(0.05)
    assert tuple(mark for run in told for mark in run.marks) == (*row, *others)
    uneven = (*row[:2], marks.Mark(0.19, "hole", 0.0084, note="weight pin"))
    assert [len(run.marks) for run in marks.runs(uneven)] == [1, 1, 1]
