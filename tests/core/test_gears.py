"""Gears: trains against every combination, pairs rolled through a whole tooth, what a drive finds, cuts and lists."""

from __future__ import annotations

import itertools
import math
from fractions import Fraction

import ezdxf
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pypdf import PdfReader
from pypdf.generic import ContentStream

from hazel_lantern.core.driving.find import find
from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.motion import gears, ratios
from hazel_lantern.core.motion.drives import source_torque
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.finding import CLEAR, STOP
from hazel_lantern.core.nouns.progress import last
from hazel_lantern.files.exports import export
from tests.helpers import PLAIN_DRIVE, SHELF, finding, sample

TOLERANCE = 1e-5


def every_train(sizes, target, tolerance, stages, most):
    """All trains of just so many stages, by exact fractions: (teeth, repeating, off, drivers, driven)."""
    found = []
    low, high = (Fraction(str(target)) * (1 + sign * Fraction(str(tolerance))) for sign in (-1, 1))
    for a in itertools.combinations_with_replacement(sizes, stages):
        for b in itertools.combinations_with_replacement(sizes, stages):
            ratio = Fraction(math.prod(b), math.prod(a))
            pairs = list(zip(a, b, strict=True))
            steep = most is not None and any(
                max(Fraction(y, x), Fraction(x, y)) > Fraction(str(most)) for x, y in pairs
            )
            if low <= ratio <= high and not set(a) & set(b) and not steep:
                repeats = sum(math.gcd(x, y) > 1 for x, y in pairs)
                off = round(abs(float(ratio) / target - 1), 12)
                found.append((sum(a) + sum(b), repeats, off, a, b))
    return sorted(found)


@settings(max_examples=40, deadline=None)
@given(
    sizes=st.lists(st.integers(10, 40), min_size=2, max_size=7, unique=True),
    target=st.sampled_from([0.5, 1.5, 2.25, 4.0, 7.5, 12.0, 20.0]),
    tolerance=st.sampled_from([0.001, 0.01, 0.05]),
    most=st.sampled_from([None, 3.0, 5.0]),
)
def test_the_best_trains_are_those_of_every_combination(sizes, target, tolerance, most):
    every = [every_train(sorted(sizes), target, tolerance, stages, most) for stages in (1, 2)]
    found = ratios.trains(sizes, target, tolerance, 2, most, wanted=3)
    best = [row for rows in every for row in rows][:3]
    assert [(t.teeth, t.drivers, t.driven) for t in found.trains] == [(r[0], r[3], r[4]) for r in best]
    assert found.count == next((len(rows) for rows in every if rows), 0)


def test_owned_gears_are_used_no_more_often_than_there_are_and_what_cannot_be_is_told():
    assert ratios.trains([12, 60], 25.0, 0.01, 2).trains[0].driven == (60, 60)
    assert not ratios.trains([12, 60], 25.0, 0.01, 2, owned={60: 1}).trains
    with pytest.raises(InputError, match="at least two"):
        ratios.trains([20], 2.0, 0.01)
    with pytest.raises(InputError, match="shorter list"):
        ratios.trains(range(10, 110), 2.0, 0.01, 4)
    with pytest.raises(InfeasibleError, match="same two shafts"):
        ratios.change_gears([0.1, 10.0], 0.01, (40, 60), 14, 46)


@settings(max_examples=25, deadline=None)
@given(
    wanted=st.lists(
        st.sampled_from([0.25, 0.4, 0.5, 0.8, 1.0, 1.25, 2.0, 2.5, 4.0]), min_size=1, max_size=3, unique=True
    )
)
def test_change_gears_are_the_fewest_that_do_it(wanted):
    found = ratios.change_gears(wanted, 0.02, (30, 70), 12, 60)
    fewest = math.inf
    for total in range(30, 71):
        ways = [
            [a for a in range(12, total - 11) if total - a <= 60 and abs((total - a) / a / r - 1) <= 0.02]
            for r in wanted
        ]
        for firsts in itertools.product(*ways):
            cut = {}
            for a in firsts:
                for teeth in (a, total - a):
                    cut[teeth] = max(cut.get(teeth, 0), (a == teeth) + (total - a == teeth))
            fewest = min(fewest, sum(cut.values()))
    assert len(found.gears) == fewest
    assert all(sum(pair) == found.teeth for pair in found.pairs)


# Teeth


def radius_at(outline, angles):
    """How far out a gear reaches at angles about its middle."""
    around, out = np.arctan2(outline[:, 1], outline[:, 0]), np.hypot(*outline.T)
    order = np.argsort(around)
    return np.interp(angles, around[order], out[order], period=2 * math.pi)


def overlaps(first, second, apart, turn, other):
    """How deep the points of either of two turned gears reach into the other [m]."""
    deep = -math.inf
    for points, angle, against, back, middle in (
        (first, turn, second, other, np.array([apart, 0.0])),
        (second, other, first, turn, np.array([-apart, 0.0])),
    ):
        cos, sin = math.cos(angle), math.sin(angle)
        there = points @ np.array([[cos, sin], [-sin, cos]]) - middle
        near = there[np.hypot(*there.T) < np.hypot(*against.T).max()]
        if len(near):
            reach = radius_at(against, np.arctan2(near[:, 1], near[:, 0]) - back)
            deep = max(deep, float((reach - np.hypot(*near.T)).max()))
    return deep


@pytest.mark.parametrize(
    ("z1", "z2", "angle", "play"),
    [(10, 37, 20.0, 1.5e-4), (14, 50, 20.0, 0.0), (18, 18, 20.0, 2e-4), (24, 31, 14.5, 1e-4), (12, 60, 25.0, 1e-4)],
)
def test_pairs_roll_through_a_tooth_without_overlap_and_hold_their_place(z1, z2, angle, play):
    one, other = (gears.gear(0.003, z, math.radians(angle), None, play) for z in (z1, z2))
    mesh = gears.pair(one, other)
    a, b = gears.outline(mesh.first, TOLERANCE), gears.outline(mesh.second, TOLERANCE)
    free = []
    for turn in np.linspace(0, 2 * math.pi / z1, 9)[:-1]:
        nominal = -turn * z1 / z2 + math.pi + math.pi / z2
        assert overlaps(a, b, mesh.apart, turn, nominal) < 2 * TOLERANCE
        ends = []
        for side in (1, -1):
            low, high = 0.0, 0.6 * math.pi / z2
            for _ in range(24):
                middle = (low + high) / 2
                hit = overlaps(a, b, mesh.apart, turn, nominal + side * middle) > TOLERANCE
                low, high = (low, middle) if hit else (middle, high)
            ends.append(side * low)
        free.append(ends)
    place = np.mean(free, axis=1) * mesh.second.pitch
    assert np.ptp(place) < 2 * TOLERANCE, "its place does not wander as it rolls"
    assert np.ptp(free, axis=1).mean() * mesh.second.pitch == pytest.approx(play, abs=6 * TOLERANCE)


def test_teeth_that_cannot_be_are_told_with_what_would_do():
    few = gears.gear(0.002, 8, shift=0.0)
    with pytest.raises(InfeasibleError) as told:
        gears.outline(few)
    assert told.value.code == "UNDERCUT" and told.value.nearest["shift"] == pytest.approx(few.least_shift)
    assert gears.outline(gears.gear(0.002, 8)).shape[1] == 2, "shifted by itself it can be cut"
    with pytest.raises(InfeasibleError, match="point"):
        gears.gear(0.002, 6, shift=0.9)
    with pytest.raises(InputError, match="must be that of the other"):
        gears.pair(gears.gear(0.002, 20), gears.gear(0.003, 20))
    with pytest.raises(InputError, match="whole number from 5"):
        gears.gear(0.002, 4)


@pytest.mark.parametrize(("teeth", "cut"), [(60, 13), (160, 54)])
def test_a_sector_is_that_part_of_its_gear(teeth, cut):
    whole = gears.gear(0.0025, teeth)
    inside = whole.root - 2.25 * whole.module
    part = gears.sector_outline(whole, cut, inside, TOLERANCE)

    def area(points):
        x, y = points.T
        return 0.5 * float(x @ np.roll(y, -1) - y @ np.roll(x, -1))

    ring = area(gears.outline(whole, TOLERANCE)) - math.pi * inside**2
    assert area(part) == pytest.approx(ring * cut / teeth, rel=1e-3)
    assert np.hypot(*part.T).max() == pytest.approx(whole.tip, abs=2 * TOLERANCE)


# In a drive


def geared(*values):
    project = changes.set_values(sample(), "hive-jib", (*PLAIN_DRIVE, *values))
    return project, evaluate(project, SHELF, "hive-jib")


def test_the_gears_found_serve_every_wanted_time_when_they_are_taken():
    project, result = geared(("drive.swing.times", ((240.0,), (1800.0,))))
    steps = list(find(result.driven[0], SHELF))
    found = last(iter(steps))
    assert found.proven and len(found.answers) == 4 and steps[-1].done <= steps[-1].total
    for answer in found.answers:
        taken = evaluate(changes.set_values(project, "hive-jib", answer.changes), SHELF, "hive-jib")
        one = taken.driven[0]
        assert sorted(n.time for n in one.needs) == [8.0, 240.0, 1800.0]
        assert finding(taken, "drive.swing.everywhere").state == CLEAR
        assert finding(taken, "drive.swing.change").state == CLEAR
        assert float(one.worst.spare.min()) == pytest.approx(answer.spare)
    # In the slow time the source feels the other pair.
    slow = next(n for n in one.needs if n.time == 1800.0)
    (_, a, b), first = one.drive.changed[0], one.made[0].stage.ratio
    assert slow.speed.max() == pytest.approx(
        np.abs(one.load.speed).max() * 8 / 1800 * one.chain.per_output * (b / a) / first
    )
    assert source_torque(one.chain, slow.effort, 0 * slow.effort)[40] != pytest.approx(slow.asked[40], rel=0.2)


def test_what_no_gears_reach_and_change_gears_that_do_not_fit_are_told():
    _, result = geared(("drive.swing.times", ((1800.0,),)), ("drive.swing.most", 20.0))
    assert "allow larger gears" in last(find(result.driven[0], SHELF)).words
    owned = (("drive.swing.owned", ((15.0, 1.0), (60.0, 1.0))), ("drive.swing.times", ()))
    words = last(find(geared(*owned)[1].driven[0], SHELF))
    assert all(set(a.train.drivers + a.train.driven) <= {15, 60} for a in words.answers)
    project, result = geared(("drive.swing.changed", ((600.0, 20.0, 50.0),)))
    told = evaluate(project, SHELF, "hive-jib", suggest=True)
    change = finding(told, "drive.swing.change")
    assert change.state == STOP and change.value == 70 and change.limit == 60
    mended = evaluate(changes.set_values(project, "hive-jib", change.remedies[0].changes), SHELF, "hive-jib")
    assert finding(mended, "drive.swing.change").state == CLEAR
    assert [p.name for p in mended.box.parts if p.name.startswith("Change")] == []


def test_gears_and_plates_are_cut_with_their_bores_where_the_shafts_stand(tmp_path):
    project, result = geared(("drive.swing.changed", ((600.0, 24.0, 36.0),)))
    cuts = {one.part.name: one for one in result.box.gears}
    assert {"Gear, 20 teeth", "Gear, 40 teeth", "Change gear, 24 teeth", "Change gear, 36 teeth"} <= set(cuts)
    plate = result.box.plates[0]
    seats = [mark.at for mark in plate.marks if mark.note.startswith(("shaft", "bearing"))]
    assert np.diff(seats) == pytest.approx([result.driven[0].made[0].apart])
    assert len({part.mark for part in result.parts}) == len(result.parts)
    for kind in ("cut-dxf", "cut-svg", "gears-csv"):
        export(project, SHELF, "hive-jib", kind, tmp_path / kind)
    drawn = ezdxf.readfile(tmp_path / "cut-dxf")
    assert not drawn.audit().errors
    outlines = [np.array([p[:2] for p in e.get_points()]) for e in drawn.modelspace().query("LWPOLYLINE") if e.closed]
    sizes = [np.ptp(points, axis=0) for points in outlines]
    for one in result.box.gears:
        if one.bore:
            assert any(
                size == pytest.approx(np.ptp(np.array(one.part.solid.outline), axis=0) * 1e3, abs=1e-3)
                for size in sizes
            )
    bores = sorted(round(2 * e.dxf.radius, 3) for e in drawn.modelspace().query("CIRCLE"))
    assert bores.count(8.0) == 5 and bores.count(22.0) == 1
    assert (tmp_path / "cut-svg").read_text().count("<polygon") == len(outlines)
    rows = (tmp_path / "gears-csv").read_text("utf-8-sig").splitlines()
    assert len(rows) == 1 + len(result.box.gears) and "44.0" in rows[1]


def test_a_gear_is_printed_at_its_true_size(tmp_path):
    project, result = geared()
    export(project, SHELF, "hive-jib", "template", tmp_path / "t.pdf")
    reader = PdfReader(tmp_path / "t.pdf")
    wide = []
    for page in reader.pages:
        points = []
        for operands, operator in ContentStream(page.get_contents(), reader).operations:
            if operator == b"m":
                points = [tuple(map(float, operands))]
            elif operator == b"l":
                points.append(tuple(map(float, operands)))
            elif operator in (b"S", b"s") and len(points) > 300:
                wide.append(np.ptp(np.array(points), axis=0) * 25.4 / 72)
    asked = [np.ptp(np.array(c.part.solid.outline), axis=0) * 1e3 for c in result.box.gears if c.bore]
    for size in asked:
        assert any(np.sort(found) == pytest.approx(np.sort(size), abs=0.1) for found in wide)
