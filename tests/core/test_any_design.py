"""Any design a builder can type: every kind and variant answers, never raises, never shows what is not a number."""

from __future__ import annotations

import json
import math
from contextlib import nullcontext, suppress

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from hazel_lantern.cli.told import as_json
from hazel_lantern.core.document import drives
from hazel_lantern.core.editing import bindings, changes, checking
from hazel_lantern.core.editing.starting import furnished
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.kinds import KINDS
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, PICTURE, RANK, STOP
from hazel_lantern.core.nouns.quantity import Choice, Quantity, Readings, Several
from hazel_lantern.core.nouns.sketch import Arrow, Handle, Lines, Note, Ring, Shape, Size, Stroke
from hazel_lantern.core.nouns.units import DIMENSIONS, Display
from hazel_lantern.core.proving.instruments import held
from hazel_lantern.core.proving.told import told
from hazel_lantern.core.stations import station
from tests.helpers import SHELF, sample

VARIANTS = [(kind.id, variant) for kind in KINDS.values() for variant, _ in kind.variants]
SHOTS = ("hives", "jars", "bench-down")


def any_value(parameter):
    """Values a parameter accepts, mostly near its default, now and then at its bounds."""
    if isinstance(parameter, Quantity) and parameter.unit == "count":
        return st.integers(int(parameter.low), int(parameter.high)).map(float)
    if isinstance(parameter, Quantity):
        near = st.floats(
            max(parameter.low, parameter.default * 0.5 - 0.01), min(parameter.high, abs(parameter.default) * 1.6 + 0.01)
        )
        return st.one_of(near, near, st.sampled_from([parameter.low, parameter.high, parameter.default]))
    if isinstance(parameter, Choice):
        ids = [key for key, _ in parameter.options] or [k for k, row in getattr(SHELF, parameter.table).items()]
        return st.sampled_from(ids)
    if isinstance(parameter, Several) and parameter.known:
        return st.lists(st.sampled_from(parameter.known), max_size=3).map(tuple)
    if isinstance(parameter, Readings) and len(parameter.columns) == 1:
        return st.sampled_from([(), ((20.0,),), ((20.0,), (900.0,))])
    return st.just(parameter.default)


def drive_of(project, rig, axis, name):
    """What may be set of the drive of an axis, as it is once something drives it."""
    driven = changes.set_values(project, rig, [(f"drive.{axis.key}.by", "crank")])
    return bindings.parameters(driven, rig)[f"drive.{axis.key}.{name}"]


@st.composite
def designs(draw, kind, variant):
    project = changes.add_rig(sample(), kind, variant)
    rig = project.rigs[-1].id
    project = changes.set_values(project, rig, [("shot", draw(st.sampled_from(SHOTS)))])
    for axis in draw(st.lists(st.sampled_from(KINDS[kind].axes), max_size=2, unique=True)):
        source, chain = (draw(any_value(drive_of(project, rig, axis, name))) for name in ("by", "chain"))
        ends = st.sampled_from(("", *drives.ends(axis.turns)))
        values = [(f"drive.{axis.key}.by", source), (f"drive.{axis.key}.chain", (*chain, *filter(None, (draw(ends),))))]
        project = changes.set_values(project, rig, values[: 2 if source else 1])
    known = [
        p
        for p in bindings.parameters(project, rig).values()
        if not p.key.startswith(("kit", "thing.", "shot.set", "shot.target", "lens."))
        # What brings and takes away other inputs is drawn above.
        and not (p.key.startswith("drive.") and p.key.count(".") == 2 and p.key.endswith((".by", ".chain")))
    ]
    picked = draw(st.lists(st.sampled_from(known), min_size=1, max_size=7, unique_by=lambda p: p.key))
    return changes.set_values(project, rig, [(p.key, draw(any_value(p))) for p in picked if p.key != "shot"]), rig


def numbers(item):
    if isinstance(item, (Shape, Stroke, Lines)):
        return item.points
    if isinstance(item, Size):
        return np.array([*item.a, *item.b, item.value, item.offset])
    if isinstance(item, (Ring, Handle, Note, Arrow)):
        return np.array(item.at)
    raise AssertionError(item)


def all_leads_somewhere(project, rig, result):
    """Every place a finding points to, every figure it judges and every input a why names is there."""
    known = {**bindings.parameters(project, rig), **result.figures}
    for finding in result.findings:
        # What cannot be worked out at all may have no single input to blame.
        assert finding.where in known or (finding.key, finding.where) == ("rig.impossible", ""), finding.key
        if finding.figure:
            figure = result.figures[finding.figure]
            assert figure.unit == finding.unit, finding.key
            # The limit is judged where the value is the builder's own; a distance to either side is judged by its size.
            assert any(
                math.isclose(abs(figure.value), abs(number), rel_tol=1e-9, abs_tol=1e-12)
                for number in (finding.value, finding.limit)
            ), finding.key
    for figure in result.figures.values():
        for given_ in figure.why.inputs:
            assert not given_.ref or given_.ref in known, (figure.key, given_.ref)


@pytest.mark.parametrize(("kind", "variant"), VARIANTS)
def test_on_every_move_what_a_report_points_to_is_there(kind, variant):
    for project in furnished():
        project = changes.add_rig(project, kind, variant)
        rig = project.rigs[-1].id
        all_leads_somewhere(project, rig, evaluate(project, SHELF, rig, suggest=True))


@pytest.mark.parametrize(("kind", "variant"), VARIANTS)
# As many in all as there are constructions to share them; the campaign of designs takes thousands.
@settings(
    max_examples=max(6, 280 // len(VARIANTS)),
    deadline=None,
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large],
)
@given(data=st.data())
def test_any_design_is_answered_drawn_and_written(kind, variant, data):
    project, rig = data.draw(designs(kind, variant))
    result = evaluate(project, SHELF, rig, suggest=True)
    again = json.loads(json.dumps(as_json(result, result.findings)))
    assert again["rig"]["kind"] == kind
    keys = [f.key for f in result.findings]
    assert len(keys) == len(set(keys)), sorted(k for k in keys if keys.count(k) > 1)
    for figure in result.figures.values():
        assert not math.isnan(figure.value), figure.key
        assert figure.unit in DIMENSIONS, figure.unit
        assert station(figure.station).holds(result.kind.stations)
    for finding in result.findings:
        assert finding.state in RANK
        assert not (math.isnan(finding.value) or math.isnan(finding.limit)), finding.key
        words = finding.sentence.text(Display()) + finding.sentence.text(Display("in"))
        assert "{" not in words
        assert "nan" not in words.lower().split()
        for remedy in finding.remedies:
            assert remedy.label.text(Display())
            try:
                changes.set_values(project, rig, remedy.changes)
            except InputError as error:
                pytest.fail(f"{finding.key}, {remedy.key}: {error}")
    if result.model is None:
        assert result.findings[0].state == STOP
        return
    all_leads_somewhere(project, rig, result)
    path = result.poses(np.linspace(0, 1, 5))
    assert np.all(np.isfinite(path))
    for view, _ in (*result.views("drive"), *result.views("shot")):
        # A camera inside its subject has no picture, and a finding says so.
        with nullcontext() if "shot.inside" not in keys else pytest.raises(InputError, match="look at"):
            sketch = result.draw(0.3, view)
        for item in sketch.items if "shot.inside" not in keys else ():
            assert np.all(np.isfinite(numbers(item))), (view, item)
    assert sum(p.quantity for p in result.parts) > 0
    for one in told(result):
        assert not math.isnan(one.foreseen.low + one.foreseen.middle), one.trial.key
        instruments = held(*result.still(one.foreseen.pose), one.trial, one.foreseen)
        for item in instruments.items:
            assert np.all(np.isfinite(numbers(item))), (one.trial.key, item)


@pytest.mark.parametrize(("kind", "variant"), VARIANTS)
@settings(
    max_examples=max(3, 80 // len(VARIANTS)),
    deadline=None,
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large],
)
@given(data=st.data())
def test_what_is_kept_from_one_evaluation_to_the_next_is_what_a_fresh_one_gives(kind, variant, data):
    """Sizes, kits, things on the set, the shot and back again: whatever was kept meanwhile."""
    (project, rig), memo = data.draw(designs(kind, variant)), Memo()
    earlier = [project]
    for _ in range(5):
        known = [
            p for p in bindings.parameters(project, rig).values() if p.key not in ("shot", "shot.set", "shot.target")
        ]
        parameter = data.draw(st.sampled_from(known))
        project = data.draw(st.sampled_from(earlier)) if data.draw(st.booleans()) and len(earlier) > 1 else project
        with suppress(InputError):  # a kit may be left without mass
            project = changes.set_values(project, rig, [(parameter.key, data.draw(any_value(parameter)))])
            checking.check(project)
            earlier.append(project)
        if project is not earlier[-1]:
            project = earlier[-1]
        suggest = data.draw(st.booleans())
        kept, fresh = (
            evaluate(project, SHELF, rig, memo=memo, suggest=suggest),
            evaluate(project, SHELF, rig, suggest=suggest),
        )
        assert {f.key: f.value for f in kept.figures.values()} == {f.key: f.value for f in fresh.figures.values()}
        assert kept.findings == fresh.findings
        assert json.dumps(as_json(kept, kept.findings)) == json.dumps(as_json(fresh, fresh.findings))
        assert kept.curves.keys() == fresh.curves.keys()
        assert (kept.lines, kept.cuts, kept.headlines) == (fresh.lines, fresh.cuts, fresh.headlines)


def test_people_are_never_merely_a_matter_of_taste():
    for kind, variant in VARIANTS:
        project = changes.add_rig(sample(), kind, variant)
        result = evaluate(project, SHELF, project.rigs[-1].id)
        for finding in result.findings:
            if finding.about == PICTURE and finding.state == STOP:
                # About the picture a stop only means that nothing usable is left.
                assert finding.key.split(".")[0] in ("shot", "rig"), finding.key
            if finding.about == PEOPLE and finding.sense == "at_least" and finding.value < finding.limit * (1 - 1e-9):
                assert finding.state != CLEAR, finding.key
