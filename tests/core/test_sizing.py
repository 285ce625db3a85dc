"""Sizes over the catalogue: the screen against every sum by itself, answers against an exhaustive search, wishes that
exclude each other.
"""

from __future__ import annotations

import itertools

import numpy as np
import pytest

from hazel_lantern.core.editing import changes, lists
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.kinds import KINDS
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import STOP
from hazel_lantern.core.nouns.progress import last
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.sizing import search
from hazel_lantern.core.sizing.screen import COST, LONGEST, MASS, USE, WANDER, Effects, screened, shortlist
from tests.helpers import SHELF, sample


def test_the_screen_tells_of_every_combination_what_its_rows_tell_one_by_one():
    rng = np.random.default_rng(3)
    base = np.array([100.0, 10.0, 5.0, 0.5, 2.0])
    effects = [Effects(base * rng.uniform(0.6, 1.5, (n, 5))) for n in (7, 5, 9, 4)]
    found = screened(base, effects)
    assert len(found.told) == 7 * 5 * 9 * 4
    for k in rng.integers(0, len(found.told), 200):
        rows = [one.told[n] for one, n in zip(effects, found.rows[k], strict=True)]
        for column in (COST, MASS, WANDER):
            assert found.told[k, column] == pytest.approx(
                base[column] + sum(row[column] - base[column] for row in rows)
            )
        assert found.told[k, USE] == pytest.approx(base[USE] * np.prod([row[USE] / base[USE] for row in rows]))
        assert found.told[k, LONGEST] == max(base[LONGEST], *(row[LONGEST] for row in rows))
    limits = np.array([120.0, np.inf, np.inf, np.inf, np.inf])
    best = shortlist(found, MASS, limits, 10)
    good = (found.told[:, COST] <= 120) & (found.told[:, USE] <= 1.1)
    assert found.told[best, MASS].tolist() == sorted(found.told[good, MASS])[:10]
    with pytest.raises(InputError, match="combinations"):
        screened(base, [Effects(np.tile(base, (300, 1)))] * 3)


def stops(result):
    return [f for f in result.findings if f.state == STOP]


@pytest.fixture
def few(monkeypatch):
    """Few rows of each choice, so that all of them can be tried."""
    monkeypatch.setattr(search, "ROWS", 3)
    monkeypatch.setattr(search, "EXACT", 4)


@pytest.mark.parametrize("rig", ["kitchen-gantry", "comb-turntable"])
def test_answers_are_no_worse_than_an_exhaustive_search_over_the_same_rows(few, rig):
    project, rng = sample(), np.random.default_rng(7)
    found = last(search.size(project, SHELF, rig, search.Wish()))
    assert found.answers and found.screened >= len(found.cloud) > 1
    base = evaluate(project, SHELF, rig)
    choices = search._choices(project, SHELF, base, owned=False)
    every = list(itertools.product(*(rows for _, rows in choices)))
    tried = [every[k] for k in rng.choice(len(every), min(len(every), 15), replace=False)]
    told = []
    for rows in tried:
        result = search._tried(project, SHELF, rig, "", search.Memo(), tuple(zip((key for key, _ in choices), rows, strict=True)))  # fmt: skip
        if result is not None and not stops(result):
            told.append(search._told(result))
    best = {one.name: one.told for one in found.answers}
    for name, column in search.AIMS:
        if name in best and told:
            assert best[name][column] <= min(t[column] for t in told) * 1.001, name
    for one in found.answers:
        again = evaluate(changes.set_values(project, rig, one.changes), SHELF, rig)
        assert not stops(again) and search._told(again) == pytest.approx(np.array(one.told))
    for a, b in itertools.combinations(found.answers, 2):
        assert search._differ(np.array(a.told), np.array(b.told))


def test_limits_are_kept_and_wishes_that_nothing_meets_are_said(few):
    project, rig = sample(), "comb-turntable"
    free = last(search.size(project, SHELF, rig, search.Wish()))
    costs = sorted(one.told[COST] for one in free.answers)
    tight = last(search.size(project, SHELF, rig, search.Wish({"cost": (costs[0] + costs[-1]) / 2})))
    assert tight.answers and all(one.told[COST] <= (costs[0] + costs[-1]) / 2 for one in tight.answers)
    none = last(search.size(project, SHELF, rig, search.Wish({"cost": 1.0, "mass": 0.5})))
    assert not none.answers and "is the nearest" in none.trouble.text(Display())
    for wish, words in ((search.Wish({"price": 1.0}), "must be one of"), (search.Wish({"cost": -1.0}), "above nought")):
        with pytest.raises(InputError, match=words):
            next(search.size(project, SHELF, rig, wish))
    owned = lists.add_stock(project, [search_offcut(row) for row in ("galv-round-42.4x2.6",) if row in SHELF.sections])
    mine = last(search.size(owned, SHELF, rig, search.Wish(owned=True)))
    stock = {piece.section for piece in owned.stock}
    for one in mine.answers:
        for key, value in one.changes:
            choice = next((p for p in KINDS["orbit"].parameters if p.key == key), None)
            assert getattr(choice, "table", "") != "sections" or value in stock


def search_offcut(section):
    from hazel_lantern.core.document.project import Offcut

    return Offcut(section=section, length_m=3.0, count=4)


def test_every_kind_is_sized_or_says_what_stops_it(monkeypatch):
    monkeypatch.setattr(search, "ROWS", 1)
    monkeypatch.setattr(search, "EXACT", 2)
    for kind in KINDS.values():
        project = changes.add_rig(sample(), kind.id, kind.variants[0][0])
        found = last(search.size(project, SHELF, project.rigs[-1].id, search.Wish()))
        assert found.answers or found.trouble.text(Display())
        assert all(len(one.told) == 5 and np.isfinite(one.told).all() for one in found.answers)


def test_a_rig_that_is_stopped_is_mended_before_it_is_sized(few):
    project = sample()
    before = evaluate(project, SHELF, "jar-slider")
    assert [f.key for f in stops(before)] == ["balance.bump"]
    found = last(search.size(project, SHELF, "jar-slider", search.Wish()))
    assert found.answers and np.array(found.now) == pytest.approx(search._told(before))
    for one in found.answers:
        assert not stops(evaluate(changes.set_values(project, "jar-slider", one.changes), SHELF, "jar-slider"))
