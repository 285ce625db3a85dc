"""Orbit rigs: balance against moments over a turn, what is refused, what meets what, and whole designs at random."""

from __future__ import annotations

import math

import numpy as np
import pytest
from bench import designs

from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import ask, evaluate, perform
from hazel_lantern.core.kinds.base import Asked
from hazel_lantern.core.mechanics import rotor
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, STOP, WATCH
from hazel_lantern.core.nouns.units import GRAVITY
from tests.helpers import SHELF, finding, sample, value

RIG = "comb-turntable"


def orbit(**design):
    values = [(key.replace("__", "."), to) for key, to in design.items()]
    return evaluate(changes.set_values(sample(), RIG, values), SHELF, RIG)


def test_the_hub_feels_the_moments_of_every_piece_as_it_turns():
    """Each piece as it is laid out, pulled down and outwards, about the hub; the figures take halves of the beam as points."""
    result = orbit(weights__mass=2.0, weights__above=-0.05)
    rig, speed = result.model, value(result, "travel.fastest")
    bent = np.zeros(2)
    for piece in result.laid.placed:
        if piece.body != "rotor":
            continue
        centre = np.asarray(piece.centre, float)
        if piece.name.endswith(" arm"):
            # A rod turning about its own middle pulls as its mass there does.
            bent += piece.mass * GRAVITY * centre[:2]
            continue
        bent += piece.mass * (GRAVITY + speed**2 * centre[2]) * centre[:2]
    assert value(result, "balance.wobble") == pytest.approx(math.hypot(*bent), rel=1e-9)
    mass, arm = sum(p.mass for p in result.laid.placed if p.body == "rotor"), 0.0
    arm = np.sum([p.mass * np.asarray(p.centre)[:2] for p in result.laid.placed if p.body == "rotor"], axis=0)
    assert value(result, "balance.off") == pytest.approx(math.hypot(*arm), rel=1e-9)
    assert mass == pytest.approx(sum(row[0] for row in rig.turns_as))


def test_balanced_for_me_it_stays_where_it_is_left_and_hardly_wobbles():
    start = changes.set_values(sample(), RIG, [("weights.mass", 1.0), ("weights.above", -0.1)])
    after = perform(start, SHELF, RIG, "balance")
    made = evaluate(changes.set_values(start, RIG, after), SHELF, RIG)
    assert finding(made, "balance.balanced").state == CLEAR
    before = evaluate(start, SHELF, RIG)
    assert finding(before, "balance.balanced").state == WATCH
    assert value(made, "balance.wobble") < 0.1 * value(before, "balance.wobble")
    # Beyond the table's edge the weights may hang as high as the camera: no wobble at all, but what lies aside.
    far = [("table.radius", 0.2), ("arm.rear", 0.5), ("table.subject", 0.15)]
    clear = changes.set_values(start, RIG, far)
    level = evaluate(changes.set_values(clear, RIG, perform(clear, SHELF, RIG, "balance")), SHELF, RIG)
    spin = value(level, "travel.fastest")
    assert abs(rotor.turning(level.model.turns_as, spin, level.model.beam).couple) < 0.03


def test_a_grinder_at_eighty_turns_a_second_is_refused_for_each_reason():
    project = changes.set_values(sample(), RIG, [("drive.by", "mains"), ("shot.time", 0.2)])
    result = evaluate(project, SHELF, RIG)
    assert value(result, "travel.fastest") > 2 * math.pi * 5
    stops = {f.key for f in result.findings if f.state == STOP and f.about == PEOPLE}
    assert {"balance.drive", "balance.tip_speed_limit", "balance.energy_limit", "balance.side_load_limit"} <= stops
    # With somebody in its circle less is allowed, and the remedy is a slower turn that is.
    near = orbit(people__inside="somebody")
    assert finding(near, "balance.tip_speed_limit").limit == 3.0
    quick = changes.set_values(sample(), RIG, [("shot.time", 3.0), ("people.inside", "somebody")])
    told = finding(evaluate(quick, SHELF, RIG, suggest=True), "balance.tip_speed_limit")
    assert told.state != CLEAR and told.remedies
    mended = evaluate(changes.set_values(quick, RIG, told.remedies[0].changes), SHELF, RIG)
    assert finding(mended, "balance.tip_speed_limit").state == CLEAR


def test_it_stands_over_what_it_looks_at_and_the_lens_keeps_its_circle():
    result = orbit()
    frames = result.scene.frames if hasattr(result.scene, "frames") else None
    rig, path = result.model, result.path
    asked = path.asked(np.linspace(0, 1, 13))
    poses = path.follow(rig, asked)
    lens = result.kind.mount(rig, poses.q).place(path.lens)
    assert np.hypot(lens[:, 0], lens[:, 1]) == pytest.approx(
        np.full(13, math.hypot(rig.lens_at, path.lens[1])), rel=1e-9
    )
    assert (value(result, "shot.stray") < 0.01 and frames is None) or frames is not None
    where = result.kind.lay(rig, asked, (1.0, 2.0, 0.0))
    assert (where.x, where.y) == (1.0, 2.0)
    # A straight wish is met at both its ends where the circle is wide enough.
    places = np.array([[0.0, 0.0, 0.8], [0.3, 0.1, 0.8]])
    straight = Asked(np.array([0.0, 1.0]), places, places[0], places[1], path.lens)
    stood = result.kind.lay(rig, straight, None)
    found = stood.on_set(
        result.kind.mount(rig, result.kind.follow(rig, straight).q).place((rig.radius - rig.lens_at, 0.0, 0.0))
    )
    assert np.linalg.norm(found[:, :2] - places[:, :2], axis=1).max() < 1e-9


@pytest.mark.parametrize(
    ("design", "key", "gap"),
    [
        ({"beam.height": 0.6}, "beam", 0.602 - 0.625),
        ({"weights.above": 0.15, "arm.rear": 0.2}, "weights", None),
        ({"table.radius": 0.79, "table.subject": 0.1}, "riser", None),
        ({"riser.height": 0.15, "table.radius": 0.72}, "camera", None),
        ({"weights.above": -0.4}, "floor", None),
        ({"beam.height": 0.1, "table.height": 0.4}, "floor", 0.1 - 0.025 - 0.02 - 0.07 - 0.02),
    ],
)
def test_what_meets_what_as_it_turns_is_named_and_mended(design, key, gap):
    project = changes.set_values(sample(), RIG, list(design.items()))
    result = evaluate(project, SHELF, RIG, suggest=True)
    told = finding(result, f"rig.clears_{key}")
    assert told.state == STOP and result.model is not None
    if gap is not None:
        assert told.value == pytest.approx(gap)
    # By hand: the outlines of what turns and of the table in height and distance from the axis.
    if key != "floor":
        rig, name = (
            result.model,
            {"beam": "Camera arm", "weights": "Weights", "riser": "Riser", "camera": "Camera kit"}[key],
        )
        corners = np.vstack([p.corners for p in result.laid.placed if p.name == name]) + (0.0, 0.0, rig.beam)
        out, z = np.hypot(corners[:, 0], corners[:, 1]), corners[:, 2]
        near = 0.0 if key == "beam" else abs(corners[:, 0]).min()
        assert (
            near < rig.table_radius + 0.03
            and z.min() < rig.table + 0.01
            and z.max() > rig.table - 0.03
            and out.max() > 0
        )
    mend = next((r for r in told.remedies if r.changes[0][0] != "table.height"), None)
    if mend:
        again = evaluate(changes.set_values(project, RIG, mend.changes), SHELF, RIG)
        assert finding(again, f"rig.clears_{key}").state == CLEAR


@pytest.mark.parametrize(
    ("design", "words"),
    [
        ({"arm.front": 0.3, "table.subject": 0.4}, "inside what it looks at"),
    ],
)
def test_what_cannot_be_drawn_is_said_with_what_would_do(design, words):
    result = evaluate(changes.set_values(sample(), RIG, list(design.items())), SHELF, RIG)
    assert result.model is None
    assert words in " ".join(f.sentence.template for f in result.findings if f.state == STOP)


def test_a_shaft_that_is_not_round_and_one_bearing_are_named():
    assert finding(orbit(shaft__section="al6063-30x30x2"), "rig.round_shaft").state == STOP
    assert finding(orbit(hub__bearings="one"), "rig.one_bearing").state == WATCH
    assert finding(orbit(), "rig.round_shaft").state == CLEAR


def test_on_a_ring_the_arms_lie_low_and_the_shaft_carries_the_table_alone():
    project = changes.add_rig(sample(), "orbit", "ring")
    rig = project.rigs[-1].id
    result = evaluate(changes.serve(project, rig, "comb"), SHELF, rig, "comb")
    row = SHELF.turntables["plate-300"]
    assert result.model.beam == pytest.approx(0.02 + 0.07 + row.height + 0.006 + 0.025)
    told = finding(result, "rig.ring_holds")
    assert (told.state, told.limit) == (CLEAR, row.moment / 2)
    assert "rig.bearing" not in result.figures
    weak = evaluate(changes.set_values(project, rig, [("hub.ring", "plate-150"), ("weights.mass", 0.0)]), SHELF, rig)
    assert finding(weak, "rig.ring_holds").value > value(result, "rig.ring")
    # The shaft goes through the ring: both arms begin beside it.
    arms = [p for p in result.laid.placed if p.name.endswith(" arm")]
    assert all(np.abs(p.corners[:, 0]).min() > result.model.shaft.width / 2 for p in arms)


@pytest.mark.parametrize("variant", ["shaft", "ring"])
def test_most_designs_taken_at_random_give_figures_and_the_rest_a_reason(variant):
    """A tenth of the campaign, near what is usual and anywhere within bounds."""
    good = 0
    count = 30
    for seed in range(count):
        project = designs.design(SHELF, "orbit", variant, seed, (designs.NEAR, designs.WITHIN)[seed % 5 == 0])
        result = evaluate(project, SHELF, project.rigs[0].id)
        if result.model is None:
            assert any(f.key == "rig.impossible" and f.state == STOP for f in result.findings)
            continue
        good += 1
        rows = result.model.turns_as
        turned = rotor.turning(rows, value(result, "travel.fastest"))
        assert value(result, "balance.offset") == pytest.approx(turned.moment / (result.model.weight * GRAVITY))
    assert good >= 0.6 * count


def test_sizing_brings_arm_and_riser_to_the_circle_and_says_why_not():
    start = changes.set_values(sample(), RIG, [("arm.front", 1.4), ("riser.height", 0.6)])
    made = evaluate(changes.set_values(start, RIG, perform(start, SHELF, RIG, "rig")), SHELF, RIG)
    assert value(made, "shot.radius_off") < 2e-3 and value(made, "shot.lens_off") < 2e-3
    for move, words in (("slide", "straight"), ("rise", "straight")):
        with pytest.raises(HazelError, match=words):
            perform(changes.set_values(start, RIG, [("shot.move", move)]), SHELF, RIG, "rig")
    assert ask is not None
