"""Pieces in space: they weigh what the mechanism weighs, their holes meet, and what goes through them is bought once
for each.
"""

from __future__ import annotations

import math
import re

import numpy as np
import pytest
from bench.designs import constructions, design
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.nouns.finding import CLEAR, STOP
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.workshop.laid import holes, on_one_line
from hazel_lantern.core.workshop.marks import Mark
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.core.workshop.reach import passed
from hazel_lantern.core.workshop.solids import ACROSS, DOWN, Place, Sheet, Turned
from hazel_lantern.core.workshop.walls import thinnest
from tests.core.test_any_design import VARIANTS, designs
from tests.helpers import SHELF, finding, sample, value

MANY = settings(
    max_examples=max(8, 320 // len(VARIANTS)),
    deadline=None,
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large],
)
SINGLY = (
    "counted",
    "bearing screw",
    "foot bracket",
    "batten screw",
    "post foot",
    "bracket",
    "U-bolt",
    "U-bolt leg",
    "foot cup",
)  # each through one piece of its own
PLY = SHELF.materials["plywood"]


def of_mechanism(kind, model, gap):
    """What the engines take each kind to weigh, pieces that only lie on the floor or are fixed to it apart [kg]."""
    if kind == "jib":
        return sum(body.mass for body in model.bodies)
    if kind == "gantry":
        return (
            model.bridge.line * model.span
            + 2 * model.bridge_ends
            + model.trolley
            + model.boom_mass(model.longest)
            + model.counter
            + model.tip
        )
    if kind == "cable_cam":
        return model.moving
    if kind == "orbit":
        return sum(row[0] for row in model.turns_as)
    way = model.way
    if not isinstance(way, Straight):
        return way.moving
    line = way.beam.weight / GRAVITY
    if kind == "overhead" and not any(part.name == "Rail" for part in model.laid.parts):  # it is of the building
        return way.moving
    if getattr(model, "bend", None) is not None:  # the inner pipe is as much shorter, and has a joint more
        cuts, share = len(way.joints.cuts), model.bend.inner / model.bend.outer
        gaps = gap * (cuts + share * (cuts + 1 if cuts else 0))
        return way.moving + line / 2 * (way.length * (1 + share) - gaps)
    return way.moving + line * (way.length - gap * len(way.joints.cuts))


@pytest.mark.parametrize(("kind", "variant"), VARIANTS)
@MANY
@given(data=st.data())
def test_pieces_weigh_what_the_mechanism_weighs(kind, variant, data):
    project, rig = data.draw(designs(kind, variant))
    result = evaluate(project, SHELF, rig)
    if result.model is None:
        return
    laid = result.laid
    on_the_floor = ("Tie", *(row.name for row in SHELF.stands.values()))
    apart = {
        "jib": (),
        "gantry": ("Runway", "Post", "Brace", "Raking leg", "Foot tie", "Ballast"),
        "cable_cam": ("Rope", "Post", "Leg of a frame", "Plate under a post"),
        "dolly": ("Tie", "Joint tube", "Joint bar"),
        "orbit": (
            "Shaft",
            "Table",
            "Foot of the base",
            "Ballast of the base",
            "What is filmed",
            "Hub",
            "Hub shaft",
            "Board overhead",
            "Post",
            "Upper pipe",
            "Foot of the frame",
            "Cross pipe",
        ),
    }.get(kind, on_the_floor)
    pieces = sum(piece.mass for piece in laid.placed if piece.name not in apart)
    # A mass that was entered stands, and a finding says by how much the pieces listed are heavier.
    more = max(0.0, *(f.value - f.limit for f in result.findings if f.key == "build.weighed"), 0.0)
    assert pieces == pytest.approx(
        of_mechanism(kind, result.model, result.rig.design.get("rail.joint_gap", 0.0)) + more, rel=1e-12
    )
    assert value(result, "rig.mass") == pytest.approx(
        sum(part.mass * part.quantity for part in laid.parts) + sum(t.mass * len(t.places) for t in laid.things),
        rel=1e-12,
    )


@pytest.mark.parametrize(("kind", "variant"), VARIANTS)
@MANY
@given(data=st.data())
def test_holes_for_one_bolt_lie_on_one_line_at_every_pose_and_each_line_is_bought_for(kind, variant, data):
    project, rig = data.draw(designs(kind, variant))
    result = evaluate(project, SHELF, rig)
    if result.model is None:
        return
    fastenings = {fastening.key: fastening for fastening in result.laid.fastenings}
    counted = {}
    for pose in result.poses(np.linspace(0, 1, 3)):
        found = holes(result.laid.parts, result.kind.bodies(result.model, pose[None]))
        assert {hole.mark.fastening for hole in found} - {""} <= set(fastenings)
        for key, fastening in fastenings.items():
            mine = [hole for hole in found if hole.mark.fastening == key]
            if not mine or fastening.one_of:
                continue
            lines = on_one_line(mine, fastening.reach)
            # Any piece of a joined arm or rail does, and any post of a rope.
            marks = [
                sorted(re.sub(r"^([AR]|P(?=[3-8]))\d+$", r"\1", hole.part.mark) for hole in line) for line in lines
            ]
            # Every line of one sort goes through the same pieces, and stays so while the rig moves.
            assert all(line == marks[0] for line in marks) or key in SINGLY, (key, marks)
            assert counted.setdefault(key, len(lines)) == len(lines), key
    bought = {(buy.name, buy.note): buy.quantity for buy in result.laid.bought}
    for key, number in counted.items():
        for item in fastenings[key].items:
            assert bought[item.name, item.note] >= number * item.quantity


@pytest.mark.parametrize("variant", ["two_bars", "cable", "plain", "riser"])
def test_a_pivot_bolt_goes_through_arm_and_cheeks_and_as_many_are_bought_as_go_in(variant):
    project = changes.add_rig(sample(), "jib", variant)
    rig = project.rigs[-1].id
    for made in ("one", "pair"):
        result = evaluate(changes.set_values(project, rig, [("arm.made", made), ("arm.joint", 0.3)]), SHELF, rig)
        poses = result.poses(np.array([0.7]))
        through = {}
        for hole in holes(result.laid.parts, result.kind.bodies(result.model, poses)):
            through.setdefault(hole.mark.fastening, []).append(hole.part.mark)
        arms = ["A1"] * (2 if made == "pair" else 1)
        assert sorted(through["pivot A"]) == sorted([*arms, "C1", "C1"])
        assert sorted(through["head pin D"]) == sorted([*(["A2"] * len(arms)), "D1", "D1"])
        joiners = next(part.quantity for part in result.parts if part.mark == "A3")
        assert len(through["sleeve"]) == 4 * len(arms) + 4 * joiners
        bolts = sum(buy.quantity for buy in result.laid.bought if buy.name.startswith("Bolt M8"))
        assert bolts == (4 if variant in ("two_bars", "riser") else 2) + 4
        nuts = next(buy.quantity for buy in result.laid.bought if buy.name == "Lock nut M8")
        assert nuts == bolts + 1


def test_a_plate_is_cut_wide_enough_for_its_wheels_and_its_holes_are_where_the_wheels_are():
    project = changes.add_rig(sample(), "slider", "rods")
    rig = project.rigs[-1].id
    for spacing, ahead in ((0.08, 0.0), (0.3, 0.2), (1.0, -0.4)):
        result = evaluate(
            changes.set_values(project, rig, [("rail.spacing", spacing), ("camera.ahead", ahead)]), SHELF, rig
        )
        plate = next(part for part in result.parts if part.name == "Carriage plate")
        bodies = result.kind.bodies(result.model, np.array([[0.5]]))
        found = holes((plate,), bodies)
        camera = next(hole for hole in found if "camera" in hole.mark.note)
        assert camera.at[0] - (0.5 - result.model.way.length / 2) == pytest.approx(ahead)
        across = sorted({round(float(hole.at[1]), 9) for hole in found if "bracket" in hole.mark.note})
        assert across == pytest.approx([-spacing / 2, spacing / 2])
        assert thinnest((plate,)).left > 0.01
        if plate.section:
            assert SHELF.sections[plate.section].depth >= plate.solid.width


def test_a_solid_weighs_and_balances_as_its_volume_does():
    # A corner off a board, against a triangle taken from a rectangle; a stepped disc, against two cylinders.
    board = Sheet(PLY, 0.018, ((0.0, 0.0), (0.3, 0.0), (0.3, 0.1), (0.2, 0.2), (0.0, 0.2)))
    whole, corner = 0.3 * 0.2, 0.1 * 0.1 / 2
    assert board.mass == pytest.approx((whole - corner) * 0.018 * PLY.density)
    assert board.centre[0] == pytest.approx((whole * 0.15 - corner * (0.3 - 0.1 / 3)) / (whole - corner))
    assert board.centre[1] == pytest.approx((whole * 0.1 - corner * (0.2 - 0.1 / 3)) / (whole - corner))
    disc = Turned(PLY, ((0.02, 0.1), (0.03, 0.06)), 0.01)
    wide, slim = math.pi / 4 * (0.1**2 - 0.01**2) * 0.02, math.pi / 4 * (0.06**2 - 0.01**2) * 0.03
    assert disc.mass == pytest.approx((wide + slim) * PLY.density)
    assert disc.centre[0] == pytest.approx((wide * 0.01 + slim * 0.035) / (wide + slim))
    # However it is placed, its axes are a turn: square to each other and right-handed.
    for place in (Place("b"), Place("b", along=ACROSS), Place("b", along=DOWN, up=ACROSS)):
        assert place.axes @ place.axes.T == pytest.approx(np.eye(3))
        assert np.linalg.det(place.axes) == pytest.approx(1.0)


def test_a_hole_that_runs_out_or_into_its_neighbour_is_a_stop():
    sheet = Sheet.rectangle(PLY, 0.018, 0.2, 0.1)
    holes_at = [Mark(0.05, "hole", 0.01, across=0.02, face="top"), Mark(0.05, "hole", 0.01, across=0.05, face="top")]
    assert thinnest((Part("P1", "Plate", sheet, (Place("b"),), tuple(holes_at)),)).left == pytest.approx(0.015)
    slot = Mark(0.06, "slot", 0.008, 0.12, across=0.02, face="top")
    assert thinnest((Part("P1", "Plate", sheet, (Place("b"),), (*holes_at, slot)),)).left == pytest.approx(
        0.01 - 0.005 - 0.004
    )
    project = changes.set_values(sample(), "hive-jib", [("weights.carried", "holes")])
    assert finding(evaluate(project, SHELF, "hive-jib"), "build.holes").state == CLEAR
    rows = changes.set_values(project, "hive-jib", [("weights.step", 0.006)])
    found = finding(evaluate(rows, SHELF, "hive-jib"), "build.holes")
    assert found.state == STOP
    assert found.value == pytest.approx(0.006 - 0.0084)


@pytest.mark.parametrize(("kind", "variant"), constructions())
def test_every_bolt_has_its_nut_and_is_as_long_as_what_it_goes_through(kind, variant):
    """Whatever the sections are: nothing is bolted that is not looked at, and no bolt is the length it usually is."""
    looked = 0
    for seed in range(6):
        project = design(SHELF, kind, variant, seed)
        result = evaluate(project, SHELF, project.rigs[0].id)
        if result.model is None or not result.parts:
            continue
        for one in result.laid.fastenings:
            bolts = [item.name for item in one.items if re.match(r"Bolt \S+×", item.name)]
            if bolts:
                assert any(re.search(r"\bnuts?\b", item.name.lower()) for item in one.items), (one.key, bolts)
        under = [part for part in result.parts if part.name in ("Tie", "Base board")]
        rails = [part for part in result.parts if part.name.startswith("Rail")]
        for item in result.laid.bought:
            screw = re.match(r"Countersunk screw 5×(\d+)", item.name)
            if screw and under and rails:  # nothing stands out where wheels run
                assert int(screw[1]) / 1e3 < under[0].solid.box[2] + rails[0].solid.box[2] - 1e-3, (seed, item.name)
        bodies = result.kind.bodies(result.model, result.poses(np.array([0.0])))
        for through in passed(result.laid, bodies, SHELF.bolts):
            assert through.short < 1e-9, (seed, through)
            looked += 1
    assert looked > 0 or kind in ("slider", "dolly")  # whose rails may be strapped, and whose deck has screws
