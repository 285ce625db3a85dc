"""Designs that break, slip, tip or run away: each was passed as clear by a program that did not ask."""

from __future__ import annotations

import numpy as np
import pytest

from hazel_lantern.core.editing import changes
from hazel_lantern.core.editing.starting import blank
from hazel_lantern.core.evaluate import ask, evaluate
from hazel_lantern.core.kinds.gantry.strength.bending import bent
from hazel_lantern.core.mechanics import rails, sections
from hazel_lantern.core.mechanics.rails import Joint, Rail, Rest
from hazel_lantern.core.nouns.finding import CLEAR, STOP, WATCH
from hazel_lantern.core.staging.falls import distance
from tests.helpers import SHELF, finding, sample, value


def new(kind, variant="", **values):
    project = changes.add_rig(blank(), kind, variant)
    rig = project.rigs[0].id
    set_to = [(key.replace("__", "."), value) for key, value in values.items()]
    return evaluate(changes.set_values(project, rig, set_to), SHELF, rig, suggest=True)


TWO = {"support": "two", "rail__length": 1.6}
SHUTTLE = {"kind": "overhead", "variant": "shuttle", "rail__slope": 0.17}


@pytest.mark.parametrize(
    ("key", "state", "values"),
    [
        # A hole of 6.5 mm through a rod of 10 mm, held in its middle where it is bent most.
        ("rig.strong", STOP, {"kind": "slider", "variant": "rods", "rail__section": "steel-rod-10"}),
        ("rig.joint", STOP, {"kind": "slider", "variant": "rods", "rail__joint_every": 0.5}),
        ("rig.joint", CLEAR, {"kind": "slider", "variant": "rods", "rail__joint_every": 0.5, "rail__joint": "sleeve"}),
        # Two stands near the middle: the carriage at one end levers the other up.
        ("balance.lifts_stand", STOP, {"kind": "slider", **TWO, "support__inset": 0.75, "kit.0.mass": 6.0}),
        ("balance.lifts_stand", CLEAR, {"kind": "slider", **TWO}),
        ("balance.wheels", STOP, {"kind": "slider", "kit.0.mass": 9.0, "push__brake": 6.0}),
        # A grooved carriage on a round tube turns over about it.
        ("balance.turns", STOP, {"kind": "slider", "rail__section": "al6063-round-40x2"}),
        ("balance.away", STOP, {**SHUTTLE, "shuttle__friction": 0.01}),
        ("balance.away", CLEAR, {**SHUTTLE, "shuttle__friction": 0.01, "place__kept": "lock"}),
        ("balance.away", STOP, {**SHUTTLE, "shuttle__friction": 0.01, "place__kept": "lock", "place__lock": 4.0}),
        ("balance.refused", STOP, {"kind": "overhead", "hanger__mount": "ceiling"}),
        ("balance.pushes_up", STOP, {"kind": "overhead", "support__inset": 0.85, "kit.0.mass": 8.0}),
        # Pull alone would pass; with the shear it does not.
        (
            "balance.screws",
            STOP,
            {"kind": "overhead", "hanger__mount": "brackets", "bracket__reach": 0.3, "kit.0.mass": 42.0},
        ),
        ("rig.platform", STOP, {"kind": "overhead", "kit.0.mass": 9.0}),
        ("rig.fixed", STOP, {"kind": "slider", "rail__fixed": "loose"}),
        ("rig.slips", STOP, {"kind": "slider", "support": "tripod", "rail__fixed": "clamped", "clamp__force": 100.0}),
        ("rig.crushed", STOP, {"kind": "slider", "variant": "rods", "rail__fixed": "clamped", "clamp__force": 3000.0}),
        ("rig.held", STOP, {"kind": "slider", "support": "tripod", "rail__length": 2.4, "kit.0.mass": 9.0}),
        (
            "rig.uprights",
            STOP,
            {"kind": "jib", "head__section": "al6063-flat-5x20", "head__ahead": 0.5, "kit.0.mass": 6.0},
        ),
        (
            "rig.cheeks",
            STOP,
            {"kind": "jib", "post__section": "al6063-flat-5x20", "post__length": 1.2, "kit.0.mass": 9.0},
        ),
        (
            "rig.stand_leg_buckles",
            STOP,
            {"kind": "slider", "stand": "post-wood", "stand__leg": "steel-rod-8", "kit.0.mass": 25.0},
        ),
        (
            "rig.stand_boards",
            STOP,
            {"kind": "jib", "stand": "post-wood", "stand__board": "pine-18x44", "bump__least": 120.0},
        ),
        ("balance.stopped", STOP, {"kind": "jib", "variant": "plain", "pan__stop": 19.0}),
        ("rig.rod", WATCH, {"kind": "jib", "pin__made": "rod"}),
        (
            "rig.arm_strong",
            STOP,
            {"kind": "jib", "arm__section": "carbon-round-25x1.5", "arm__front": 3.0, "kit.0.mass": 6.0},
        ),
        (
            "rig.sleeve_bent",
            STOP,
            {
                "kind": "jib",
                "arm__section": "al6063-round-25x2",
                "arm__joint": 0.3,
                "arm__sleeve": 0.3,
                "kit.0.mass": 6.0,
            },
        ),
        ("rig.sleeve_fits", STOP, {"kind": "jib", "arm__section": "al6063-round-40x2", "arm__joint": 0.5}),
        # The boom along the runways tips the bridge over its wheels; the frame has nothing that keeps it upright
        # sideways.
        ("balance.truck_lifts", STOP, {"kind": "gantry", "boom__counter": 0.0, "boom__longest": 0.9}),
        ("balance.truck_lifts", CLEAR, {"kind": "gantry"}),
        ("rig.sways", STOP, {"kind": "gantry", "foot__rake": 0.0}),
        ("rig.leg_bows", STOP, {"kind": "gantry", "foot__rake": 0.1, "runway__height": 3.5}),
        ("rig.post_bent", STOP, {"kind": "gantry", "runway__height": 4.0, "foot__ballast": 40.0}),
        ("rig.trolley_room", STOP, {"kind": "gantry", "trolley__edge": 0.1}),
        ("rig.board", STOP, {"kind": "gantry", "kit.0.mass": 8.0, "boom__counter": 0.0}),
        ("rig.truck", STOP, {"kind": "gantry", "bridge__wheelbase": 0.9, "kit.0.mass": 6.0}),
        ("balance.wheels", STOP, {"kind": "gantry", "bridge__wheel": "v-25"}),
        ("travel.plumb", WATCH, {"kind": "overhead", "camera__aside": 0.05}),
    ],
)
def test_what_breaks_slips_tips_or_runs_away_is_said(key, state, values):
    result = new(**{"variant": "", **values})
    found = finding(result, key)
    assert found.state == state, found.sentence
    if state == CLEAR:
        assert not found.remedies


def test_a_butted_rail_on_three_supports_is_two_rails_and_a_stiff_joint_none():
    rests = (Rest(0.0, pulls=True), Rest(1.0, pulls=True), Rest(2.0, pulls=True))
    two = Rail(2.0, 500.0, 100.0, 0.0, rests, joints=(Joint(1.0),))
    one = Rail(1.0, 500.0, 100.0, 0.0, rests[:2])
    x = np.linspace(0.1, 0.9, 9)
    assert np.allclose(rails.travel(two, x, 0.1, 20, 20).drop, rails.travel(one, x, 0.1, 20, 20).drop, rtol=1e-9)
    assert rails.travel(two, x, 0.1, 20, 20, spots=(1.0,)).spots.max() < 1e-6
    whole, ends = Rail(2.0, 500.0, 100.0, 0.0, (rests[0], rests[2])), np.array([0.55, 1.0, 1.3])
    stiff = Rail(2.0, 500.0, 100.0, 0.0, whole.rests, joints=(Joint(0.7, 1e7),))
    soft = Rail(2.0, 500.0, 100.0, 0.0, whole.rests, joints=(Joint(0.7, 2000.0),))
    sound, turned = (rails.travel(rail, ends, 0.1, 20, 20, spots=(0.7,)) for rail in (stiff, soft))
    assert np.allclose(sound.drop, rails.travel(whole, ends, 0.1, 20, 20).drop, rtol=1e-3)
    # Virtual work: the joint's turn M/k times the bending there of a unit load under the carriage.
    unit = np.where(ends < 0.7, ends * 1.3 / 2, 0.7 * (2 - ends) / 2)
    assert turned.drop - sound.drop == pytest.approx(sound.spots[:, 0] / 2000.0 * unit, rel=0.01)


def test_the_slowest_bounce_is_the_slowest_anywhere():
    for rests in (
        (Rest(0.6, pitch=800.0, pulls=True),),
        (Rest(0.1, pulls=True), Rest(0.8, pulls=True)),
        (Rest(0.0, kz=9e3, pulls=True), Rest(1.2, pulls=True)),
    ):
        rail = Rail(1.2, 900.0, 100.0, 20.0, rests)
        found, at = rails.slowest_bounce(rail, 0.1, 1.1, 3.0)
        every = min(rails.bounce(rail, float(x), 3.0) for x in np.linspace(0.1, 1.1, 60))
        assert every * 0.999 <= found <= every * 1.002
        assert 0.1 <= at <= 1.1


def test_an_angle_walks_sideways_and_works_at_its_corner_and_a_channel_twists():
    a = sections.angle(0.03, 0.03, 0.003)
    # Bent about its weak axis it is the softest; upright and free it lies between.
    assert a.least < a.upright < a.iy
    assert a.modulus < a.iy / a.cz
    load, length, e = 50.0, 0.8, 69e9
    drop = load * length**3 / (48 * e * a.upright)
    # The two principal bendings, each by itself, give the same drop and walk.
    turn = 0.5 * np.arctan2(-2 * a.iyz, a.iy - a.iz)
    large = (a.iy + a.iz) / 2 + np.hypot((a.iy - a.iz) / 2, a.iyz)
    strong, weak = load * np.cos(turn) / large, load * np.sin(turn) / a.least
    down = (strong * np.cos(turn) + weak * np.sin(turn)) * length**3 / (48 * e)
    assert down == pytest.approx(drop, rel=1e-9)
    channel = {"rail__section": "al6063-channel-40x20", "kind": "slider", "variant": "grooved", "support": "two"}
    assert value(new(**channel), "travel.roll") > 20 * value(
        new(**{**channel, "rail__section": "al6063-20x40x2"}), "travel.roll"
    )


def test_pieces_of_a_rail_come_to_its_length_and_their_bolts_meet_the_joints():
    result = new("slider", "rods", rail__joint_every=0.5, rail__joint="sleeve", rail__joint_gap=0.001)
    pieces = [part for part in result.parts if part.name.startswith("Rail")]
    joint = next(part for part in result.parts if part.mark == "J1")
    assert sum(part.length for part in pieces) == pytest.approx(1.2 - 2 * 0.001)
    assert joint.quantity == 4
    bolts = {
        place.at[0] + mark.at
        for part in pieces
        for place in part.places
        for mark in part.marks
        if mark.fastening == "joint bolt"
    }
    assert sorted(bolts) == pytest.approx(
        sorted({place.at[0] + mark.at for place in joint.places for mark in joint.marks})
    )
    assert value(result, "travel.drop") > value(new("slider", "rods"), "travel.drop")


def test_a_hanging_head_weighs_what_its_uprights_weigh_and_is_drilled_where_its_pins_are():
    up, down = new("jib", "cable", head__rise=0.3), new("jib", "cable", head__rise=-0.3)
    # Up to under the plate it carries, or down to its top; a bracket beside the plate.
    for result, long, pin, bracket in ((up, 0.307, 0.025, 0.287), (down, 0.325, 0.3, 0.02)):
        upright = next(part for part in result.parts if part.mark == "D1")
        assert upright.length == pytest.approx(long)
        assert sorted(mark.at for mark in upright.marks) == pytest.approx(sorted([pin, bracket]))
        assert result.model.mass_of("head uprights") == pytest.approx(2 * upright.mass)


def test_a_wooden_end_is_judged_by_its_stress_and_pins_bear_on_the_walls_that_are_there():
    wood = new("jib", arm__section="beech-30x60", arm__end=0.03)
    assert finding(wood, "rig.torn").state == CLEAR
    assert not any(f.key == "build.edge" for f in wood.findings)
    # A tube presses its pin at two thin walls near the cheeks: far less bending than a solid bar as wide.
    thin, solid = (new("jib", arm__section=section) for section in ("al6063-25x50x2", "pine-28x45"))
    shaft, rod = (value(new("jib", pin__made=made), "rig.pin_stress") for made in ("bolt", "rod"))
    assert value(thin, "rig.pin_stress") < value(solid, "rig.pin_stress")
    assert rod > 1.3 * shaft
    assert any(line.name.startswith("Threaded rod M8, 1") for line in new("jib", pin__made="rod").lines)


def test_a_camera_that_looks_down_hangs_its_lens_below_the_mount():
    level = finding(new("overhead"), "shot.height").sentence.amounts[0][0]
    down = finding(new("overhead", shot__move="look_down"), "shot.height").sentence.amounts[0][0]
    assert down < level


def test_a_cause_is_named_by_what_gives_and_by_where_it_hangs_over():
    arm = finding(new("jib", arm__front=3.5, arm__section="al6063-20x40x2"), "rig.bouncy")
    pan = finding(new("jib", pan__bearing="head-light", arm__section="al6063-50x50x3", arm__front=1.2), "rig.bouncy")
    assert arm.where == "arm.section"
    assert pan.where == "pan.bearing"
    side = finding(new("slider", "rods", camera__aside=0.3), "balance.lifts")
    assert "overhangs to the side" in side.sentence.template
    assert side.remedies[0].changes[0][0] == "camera.aside"


def test_the_step_of_the_booms_moment_is_seen_on_both_sides_of_the_trolley():
    project = changes.add_rig(blank(), "gantry", "bar")
    design, rig = ask(project, SHELF, project.rigs[0].id, lambda design, gantry: (design, gantry))
    there = np.array([(0.8, 0.4, np.pi / 2, rig.longest), (0.8, rig.span - 0.4, -np.pi / 2, rig.longest)])
    here, mirrored = bent(design, rig, there).bending
    assert here == pytest.approx(mirrored, rel=1e-6)


def under(kind, variant, x, y, **values):
    """A new rig with somebody standing at a place of the rig's own frame."""
    project = changes.add_rig(sample("orchard-at-dusk"), kind, variant)
    rig = project.rigs[-1].id
    project = changes.set_values(project, rig, [(key.replace("__", "."), value) for key, value in values.items()])
    where = evaluate(project, SHELF, rig).staged.where
    at = where.on_set(np.array([[x, y, 0.0]]))[0]
    moved = changes.set_values(project, rig, [("thing.keeper.x", float(at[0])), ("thing.keeper.y", float(at[1]))])
    return moved, rig, evaluate(moved, SHELF, rig, suggest=True)


@pytest.mark.parametrize(
    ("kind", "variant", "x", "y", "values", "state"),
    [
        ("overhead", "trolley", 0.6, 0.1, {}, STOP),
        ("overhead", "trolley", 0.6, 1.2, {}, CLEAR),
        ("gantry", "bar", 0.9, 0.9, {}, STOP),
        ("gantry", "bar", 0.0, 3.0, {}, CLEAR),
        ("jib", "two_bars", 1.2, 0.1, {}, WATCH),
        ("jib", "two_bars", 1.2, 0.1, {"safety": "B"}, STOP),
        ("jib", "two_bars", 0.0, 1.5, {}, CLEAR),
    ],
)
def test_nobody_stands_where_it_could_fall_or_swing(kind, variant, x, y, values, state):
    # The camera looks at something else, so that the rig stays where it stands.
    project, rig, result = under(kind, variant, x, y, shot__target="hive-1", **values)
    found = finding(result, "shot.fall_zone")
    assert found.state == state
    if state == CLEAR:
        return
    moved = evaluate(changes.set_values(project, rig, found.remedies[0].changes), SHELF, rig)
    assert finding(moved, "shot.fall_zone").state == CLEAR
    assert value(moved, "shot.fall_gap") == pytest.approx(0.05, abs=2e-3)
    assert any(getattr(item, "role", "") == "stop" for item in result.draw(0.3, "set").items)


def test_the_distance_from_a_zone_is_that_of_the_nearest_of_many_points():
    rng = np.random.default_rng(5)
    square = np.array([(-1.0, -0.5), (1.0, -0.5), (1.0, 0.5), (-1.0, 0.5)])
    line = np.array([(-1.0, 0.2), (0.7, -0.3)])
    for core in (square, line):
        ends = np.roll(core, -1, axis=0)
        rim = np.concatenate([a + np.linspace(0, 1, 4001)[:, None] * (b - a) for a, b in zip(core, ends, strict=True)])
        for point in rng.uniform(-2, 2, (40, 2)):
            far, way = distance(core, point)
            assert abs(far) == pytest.approx(np.hypot(*(rim - point).T).min(), abs=1e-3)
            inside = len(core) > 2 and abs(point[0]) < 1 and abs(point[1]) < 0.5
            assert (far < 0) == inside
            # That way and no further one comes to the rim.
            assert np.hypot(*(rim - (point - far * way)).T).min() < 1e-3
