"""What hurts most, against laws that are known: a lens of a tenth more shows a tenth more of every shake."""

from __future__ import annotations

import pytest

from hazel_lantern.core.advice.hurts import STEP, what_hurts, worst_finding
from hazel_lantern.core.editing import changes
from hazel_lantern.core.editing.bindings import bindings
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.nouns.finding import BUILD, RANK
from hazel_lantern.core.nouns.progress import last
from tests.helpers import SHELF, sample


@pytest.mark.parametrize("rig", ["jar-slider-board", "comb-ring", "comb-turntable"])
def test_each_bar_is_what_the_whole_rig_does_when_that_input_is_moved(rig):
    project = sample()
    result = evaluate(project, SHELF, rig)
    worst = worst_finding(result)
    assert all(
        (RANK[f.state], f.use) <= (RANK[worst.state], worst.use)
        for f in result.findings
        if f.about != BUILD and f.unit != "count" and 0 < f.use < float("inf")
    )
    steps = list(what_hurts(project, SHELF, rig, "", worst))
    found, known = steps[-1].answer, bindings(project, rig)
    assert found and [one.most for one in found] == sorted((one.most for one in found), reverse=True)
    assert [s.done for s in steps] == sorted(s.done for s in steps) and steps[-1].done == steps[-1].total
    for one in found[:4]:
        now = known[one.key].place.get(project)
        for move, share in ((one.less, 1 - STEP), (one.more, 1 + STEP)):
            if move is None:
                continue
            moved = evaluate(changes.set_values(project, rig, [(one.key, now * share)]), SHELF, rig)
            use = next(f.use for f in moved.findings if f.key == worst.key)
            assert use == pytest.approx(worst.use * (1 + move), rel=1e-9)
    quiet = {one.key for one in found}
    for key in ("stand.radius", "arm.front", "shot.time"):
        if key in known and key not in quiet:
            now = known[key].place.get(project)
            moved = evaluate(changes.set_values(project, rig, [(key, now * (1 + STEP))]), SHELF, rig)
            use = next((f.use for f in moved.findings if f.key == worst.key), worst.use)
            assert use == pytest.approx(worst.use, rel=1e-3)


def test_what_is_seen_through_a_lens_grows_as_the_lens_and_falls_with_the_sensor():
    project = sample()
    result = evaluate(project, SHELF, "comb-ring")
    worst = worst_finding(result)
    assert worst.key == "travel.slides"
    found = {one.key: one for one in last(what_hurts(project, SHELF, "comb-ring", "", worst))}
    for key in ("shot.focal", "slide.play", "shot.pixels_high"):
        assert (found[key].less, found[key].more) == pytest.approx((-STEP, STEP))
    for key in ("shot.sensor_height", "slide.overlap"):
        assert (found[key].less, found[key].more) == pytest.approx((1 / (1 - STEP) - 1, 1 / (1 + STEP) - 1))
