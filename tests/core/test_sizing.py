"""Sizes over the catalogue: the screen against every sum by itself, answers against an exhaustive search, wishes that
exclude each other.
"""

from __future__ import annotations

import itertools

import numpy as np
import pytest
from msgspec.structs import replace

from hazel_lantern.core.editing import changes, lists
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.kinds import KINDS
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import STOP
from hazel_lantern.core.nouns.progress import last
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.sizing import answers, search, varied
from hazel_lantern.core.sizing.answers import AIMS, Wish, fits, limits_of
from hazel_lantern.core.sizing.screen import COST, LONGEST, MASS, STOPS, USE, WANDER, Effects, screened, shortlist
from tests.helpers import SHELF, sample


def test_the_screen_tells_of_every_combination_what_its_rows_tell_one_by_one():
    rng = np.random.default_rng(3)
    base = np.array([100.0, 10.0, 5.0, 0.5, 2.0, 1.0])
    effects = [Effects(base * rng.uniform(0.6, 1.5, (n, 6))) for n in (7, 5, 9, 4)]
    found = screened(base, effects)
    assert len(found.told) == 7 * 5 * 9 * 4
    for k in rng.integers(0, len(found.told), 200):
        rows = [one.told[n] for one, n in zip(effects, found.rows[k], strict=True)]
        for column in (COST, MASS, WANDER, STOPS):
            assert found.told[k, column] == pytest.approx(
                base[column] + sum(row[column] - base[column] for row in rows)
            )
        assert found.told[k, USE] == pytest.approx(base[USE] * np.prod([row[USE] / base[USE] for row in rows]))
        assert found.told[k, LONGEST] == max(base[LONGEST], *(row[LONGEST] for row in rows))
    limits = np.array([120.0, *[np.inf] * 5])
    best = shortlist(found, MASS, limits, 10)
    good = (found.told[:, COST] <= 120) & (found.told[:, USE] <= 1.1)
    assert found.told[best, MASS].tolist() == sorted(found.told[good, MASS])[:10]
    # Where nothing keeps within the limits, those that go least beyond the one they break most.
    never = np.array([1.0, 2.0, *[np.inf] * 4])
    over = (found.told[:, :2] / never[:2]).max(axis=1)
    assert over[shortlist(found, MASS, never, 5)].tolist() == pytest.approx(sorted(over)[:5])
    with pytest.raises(InputError, match="combinations"):
        screened(base, [Effects(np.tile(base, (300, 1)))] * 3)


def stops(result):
    return [f for f in result.findings if f.state == STOP]


@pytest.fixture
def few(monkeypatch):
    """Few values of each input, so that all of them can be tried."""
    monkeypatch.setattr(varied, "ROWS", 3)
    monkeypatch.setattr(varied, "SHARES", (1.0, 0.9, 1.1))
    monkeypatch.setattr(search, "EXACT", 4)
    monkeypatch.setattr(search, "POLISH", 12)


@pytest.mark.parametrize("rig", ["kitchen-gantry", "comb-turntable"])
def test_answers_are_no_worse_than_an_exhaustive_search_over_the_same_values(few, rig):
    project, rng = sample(), np.random.default_rng(7)
    found = last(search.survey(project, SHELF, rig))
    every = [tuple(row) for row in found.every.rows.tolist()]
    alone = replace(found, known={})
    for k in rng.choice(len(every), 40, replace=False):
        search.work_out(alone, int(k))
    good = [one for one in alone.known.values() if one is not None and not one.stops]
    costs = sorted(float(one.told[COST]) for one in good)
    for wish in (
        Wish(),
        Wish({"cost": costs[len(costs) // 2]}),
        Wish({"mass": float(np.median([one.told[MASS] for one in good]))}),
    ):
        sizes = last(search.wished(replace(found, known={}), wish))
        within = [one for one in good if fits(one, limits_of(wish, project), owned=False)]
        for name, column in AIMS[:3]:
            mine = next(one.told[column] for one in sizes.answers if name in one.aims)
            # Two that are alike within a tenth are answered by one of them.
            assert mine <= min(one.told[column] for one in within) * 1.1, (name, wish)
        for one in sizes.answers:
            again = evaluate(changes.set_values(project, rig, one.changes), SHELF, rig)
            assert not stops(again) and answers.told(again) == pytest.approx(np.array(one.told))
        for a, b in itertools.combinations(sizes.answers, 2):
            assert answers._differ(np.array(a.told), np.array(b.told))


def test_what_one_has_is_kept_and_answers_come_as_soon_as_there_are_some(few):
    project, rig = sample(), "jar-slider-board"
    had = {key: project.rig(rig).design[key] for key in ("stand", "stand.radius", "rail.section")}
    steps = list(search.size(project, SHELF, rig, Wish(keep=tuple(had))))
    early = [step for step in steps if step.answer is not None]
    assert early[0].done < steps[-1].done == steps[-1].total and [step.done for step in steps] == sorted(
        step.done for step in steps
    )
    assert early[-1].answer.answers
    for one in early[-1].answer.answers:
        assert {key: one.evaluation.rig.design[key] for key in had} == had
    free = last(search.size(project, SHELF, rig, Wish()))
    assert any(key in had for one in free.answers for key, _ in one.changes)
    with pytest.raises(InputError, match="must be an input of the rig"):
        list(search.size(project, SHELF, rig, Wish(keep=("nothing",))))


def test_the_longest_piece_comes_along_unless_more_is_allowed(few):
    project, rig = sample(), "jar-slider-board"
    short = changes.set_values(project, rig, [("carry.car_m", 0.9)])
    told = last(search.size(short, SHELF, rig, Wish()))
    assert all(one.told[LONGEST] <= 0.9 for one in told.answers) and (
        told.answers or "longest" in told.trouble.text(Display())
    )
    long = last(search.size(short, SHELF, rig, Wish({"longest": 3.0})))
    assert any(one.told[LONGEST] > 0.9 for one in long.answers)


def test_limits_are_kept_and_wishes_that_nothing_meets_are_said(few):
    project, rig = sample(), "comb-turntable"
    free = last(search.size(project, SHELF, rig, Wish()))
    costs = sorted(one.told[COST] for one in free.answers)
    tight = last(search.size(project, SHELF, rig, Wish({"cost": (costs[0] + costs[-1]) / 2})))
    assert tight.answers and all(one.told[COST] <= (costs[0] + costs[-1]) / 2 for one in tight.answers)
    none = last(search.size(project, SHELF, rig, Wish({"cost": 1.0, "mass": 0.5})))
    assert not none.answers and "is the nearest" in none.trouble.text(Display())
    for wish, words in ((Wish({"price": 1.0}), "must be one of"), (Wish({"cost": -1.0}), "above nought")):
        with pytest.raises(InputError, match=words):
            next(search.size(project, SHELF, rig, wish))
    owned = lists.add_stock(project, [search_offcut(row) for row in ("galv-round-42.4x2.6",) if row in SHELF.sections])
    mine = last(search.size(owned, SHELF, rig, Wish(owned=True)))
    stock = {piece.section for piece in owned.stock}
    for one in mine.answers:
        for key, value in one.changes:
            choice = next((p for p in KINDS["orbit"].parameters if p.key == key), None)
            assert getattr(choice, "table", "") != "sections" or value in stock


def search_offcut(section):
    from hazel_lantern.core.document.project import Offcut

    return Offcut(section=section, length_m=3.0, count=4)


def test_every_kind_is_sized_or_says_what_stops_it(monkeypatch):
    monkeypatch.setattr(varied, "ROWS", 1)
    monkeypatch.setattr(varied, "SHARES", (1.0,))
    monkeypatch.setattr(search, "EXACT", 2)
    monkeypatch.setattr(search, "POLISH", 2)
    for kind in KINDS.values():
        project = changes.add_rig(sample(), kind.id, kind.variants[0][0])
        found = last(search.size(project, SHELF, project.rigs[-1].id, Wish()))
        assert found.answers or found.trouble.text(Display())
        assert all(len(one.told) == 6 and np.isfinite(one.told).all() for one in found.answers)


def test_a_rig_that_is_stopped_is_mended_before_it_is_sized(few):
    project = sample()
    before = evaluate(project, SHELF, "jar-slider")
    assert [f.key for f in stops(before)] == ["balance.bump"]
    found = last(search.size(project, SHELF, "jar-slider", Wish()))
    assert found.answers and (found.now.cost, found.now.mass) == pytest.approx(answers.told(before)[:2])
    for one in found.answers:
        assert not stops(evaluate(changes.set_values(project, "jar-slider", one.changes), SHELF, "jar-slider"))
