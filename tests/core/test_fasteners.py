"""What a shop sells for what is to be held: bolts, screws from below, poles that taper, bars by the builder's tape."""

from __future__ import annotations

import math
import re

import pytest
from bench.designs import constructions, design
from hypothesis import given
from hypothesis import strategies as st

from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.nouns.units import INCH, Display
from hazel_lantern.core.workshop.cost import Line, total
from hazel_lantern.core.workshop.fasteners import BOLT_LENGTHS, SCREW_LENGTHS, bolt, screw_from_below
from hazel_lantern.core.workshop.reach import BOLT, _long
from hazel_lantern.core.workshop.solids import Tapered
from tests.helpers import SHELF

METRIC = [row for row in SHELF.bolts.values() if row.system != "in"]
INCHES = [row for row in SHELF.bolts.values() if row.system == "in"]


@given(st.sampled_from(METRIC), st.floats(0.004, 0.15))
def test_a_bolt_shows_a_thread_beyond_its_nut_and_none_shorter_is_sold(row, stack):
    found = bolt(row, stack)
    match = BOLT.match(found.name)
    long, needs = _long(match), stack + row.lock_nut + 2 * row.pitch
    assert needs <= long + 1e-9 and match["metric"] == row.id
    shorter = [length / 1e3 for length in BOLT_LENGTHS if length / 1e3 < long - 1e-9]
    assert not shorter or max(shorter) < needs or round(long * 1e3) not in BOLT_LENGTHS
    assert "nut" in found.name and "washers" in found.name
    # A longer one costs no less.
    assert bolt(row, stack + 0.02).price >= found.price


@given(st.sampled_from(INCHES), st.floats(0.004, 0.15))
def test_inch_bolts_come_by_quarters(row, stack):
    match = BOLT.match(bolt(row, stack).name)
    long = _long(match)
    assert long / (INCH / 4) == pytest.approx(round(long / (INCH / 4)), abs=1e-6)
    over = long - (stack + row.lock_nut + 2 * row.pitch)
    assert -1e-9 <= over < INCH / 4 + 1e-6


@given(st.floats(0.009, 0.03), st.floats(0.004, 0.06))
def test_a_screw_from_below_grips_what_it_can_and_never_comes_out(passes, into):
    item = screw_from_below(passes, into, 8, "ties")
    long = float(re.search(r"×(\d+)", item.name)[1]) / 1e3
    assert item.quantity == 8
    if (passes + into) * 1e3 - 2 >= SCREW_LENGTHS[0]:
        assert long <= passes + into - 0.002 + 1e-9
        longer = [n / 1e3 for n in SCREW_LENGTHS if n / 1e3 > long]
        assert not longer or min(longer) > passes + into - 0.002 - 1e-9


def test_a_tapered_pole_is_as_thick_as_its_ends_and_weighs_the_sum_of_its_slices():
    thick, thin = SHELF.sections["al6063-round-40x2"], SHELF.sections["al6063-round-25x2"]
    pole = Tapered(thick, thin, SHELF.materials[thick.material], 0.4, 2.0)
    assert pole.thick(0.0) == pole.thick(0.4) == thick.depth
    assert pole.thick(2.0) == pytest.approx(thin.depth)
    assert pole.thick(1.2) == pytest.approx((thick.depth + thin.depth) / 2)
    slices = 4000
    weighed = sum(pole.line((k + 0.5) * 2.0 / slices) for k in range(slices)) * 2.0 / slices
    balance = sum(pole.line((k + 0.5) * 2.0 / slices) * (k + 0.5) * 2.0 / slices for k in range(slices)) * 2.0 / slices
    assert pole.mass == pytest.approx(weighed, rel=1e-6)
    assert pole.centre[0] == pytest.approx(balance / weighed, rel=1e-6)


def test_a_bar_to_buy_is_told_by_the_builders_tape_and_all_else_as_it_is_called():
    bar = Line("Round tube 30×2, aluminium, 2 m", 2, 16.9, bar=("Round tube 30×2, aluminium", 2.0))
    thing = Line("Angle bracket 40 mm", 4, 0.9, "holds the post")
    mm, inches = Display(), Display(system="in")
    assert bar.words(mm) == bar.name and thing.words(mm) == thing.words(inches) == thing.name
    assert bar.words(inches) == "Round tube 30×2, aluminium, 6' 6 3/4\""
    assert total((bar, thing)) == pytest.approx(2 * 16.9 + 4 * 0.9)


@pytest.mark.parametrize(("kind", "variant"), constructions())
def test_lists_are_whole_whatever_is_built(kind, variant):
    """Nothing is bought in no number or for less than nothing, no name is twice with another price, and what is told
    under a name can be told.
    """
    for seed in (21, 22):
        project = design(SHELF, kind, variant, seed)
        result = evaluate(project, SHELF, project.rigs[0].id)
        for line in result.lines:
            assert line.quantity >= 1 and line.price >= 0 and line.name.strip() == line.name
            assert "{" not in line.name and "nan" not in line.name and "inf" not in line.name.lower().split()
        assert total(result.lines) == pytest.approx(math.fsum(line.total for line in result.lines), abs=0.01)
        told = dict(result.readings)
        assert all(name in result.readings and result.readings[name] is not None for name in told)
        assert len(result.readings) == len(told)
        with pytest.raises(KeyError):
            result.readings["nothing of the kind"]
