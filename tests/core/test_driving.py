"""Driven axes: what they ask for against energy and other engines, what is said of them, and what mends it."""

from __future__ import annotations

import math
from functools import cache

import numpy as np
import pytest
from msgspec.structs import replace

from hazel_lantern.core.document import drives as d
from hazel_lantern.core.driving.driven import Broken
from hazel_lantern.core.driving.load import load, moving
from hazel_lantern.core.driving.needs import efforts, reverses
from hazel_lantern.core.editing import changes, checking, drives
from hazel_lantern.core.editing.bindings import parameters
from hazel_lantern.core.evaluate import ask, evaluate
from hazel_lantern.core.kinds import KINDS
from hazel_lantern.core.kinds.cable_cam.ride import haul_forces
from hazel_lantern.core.kinds.jib.model import Jib
from hazel_lantern.core.mechanics.balance import front_up_moment
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import CLEAR, RANK, STOP, WATCH
from hazel_lantern.core.nouns.sketch import Shape
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.optics import pose
from hazel_lantern.core.optics.lens import focal_pixels
from tests.helpers import PLAIN_DRIVE, SAMPLES, SHELF, sample

RIGS = [rig.id for rig in sample().rigs]


@cache
def motion(rig_id):
    """The model, the move, its path and pieces, and the rig's kind."""
    project = sample()
    found = ask(project, SHELF, rig_id, lambda model, move, path, laid, design: (model, move, path, laid, design))
    return *found, KINDS[project.rig(rig_id).kind]


def loads(rig_id):
    model, move, path, laid, _, kind = motion(rig_id)
    held = ask(sample(), SHELF, rig_id, kind.held)
    going = moving(model, move, path, laid, kind.bodies)
    return [
        (axis, load(axis, going, model, kind.bodies, replace(h, spins=0.0)))
        for axis, h in zip(kind.axes, held, strict=True)
    ]


def driven(rig_id, *values, suggest=False, name="orchard-at-dusk"):
    """The sample with a drive set, and what it comes to."""
    values = (*(PLAIN_DRIVE if rig_id == "hive-jib" else ()), *values)
    project = changes.set_values(sample(name), rig_id, values)
    return project, evaluate(project, SHELF, rig_id, suggest=suggest)


def of(result, key):
    return next((f for f in result.findings if f.key == key), None)


# What is asked for


@pytest.mark.parametrize("rig_id", [name for name in RIGS if name != "pond-line"])
def test_all_that_the_axes_ask_for_goes_into_the_energy_of_every_piece(rig_id):
    """Power of weight and inertia, axis by axis, is what changes speed and height of the pieces, moment by moment; of a
    carriage on a rope, the rope is lifted too, and its own engine tells.
    """
    model, move, path, laid, _, kind = motion(rig_id)
    rows = loads(rig_id)
    u = np.clip(rows[0][1].u, 0.02, 0.98)
    power = sum((one.weight + one.thrown) * one.speed for _, one in rows)

    def energy(at):
        h = 1e-5
        total = np.zeros(len(at))
        before, now, after = (kind.bodies(model, path.at(at + k)) for k in (-h, 0.0, h))
        for piece in laid.placed:
            corners = piece.corners - piece.corners.mean(axis=0) + piece.centre
            points = [(2 / 3, piece.centre), *((1 / (3 * len(corners)), corner) for corner in corners)]
            for share, point in points:
                a, b, c = (frames[piece.body].place(point) for frames in (before, now, after))
                speed = np.linalg.norm(c - a, axis=1) / (2 * h * move.duration_s)
                total += share * piece.mass * (speed**2 / 2 + GRAVITY * b[:, 2])
        return total

    step = 2e-4
    gained = (energy(u + step) - energy(u - step)) / (2 * step * move.duration_s)
    inside = (rows[0][1].u > 0.02) & (rows[0][1].u < 0.98)
    assert np.abs(power).max() > 0
    assert power[inside] == pytest.approx(gained[inside], abs=0.01 * np.abs(power).max())


@pytest.mark.parametrize("rig_id", ["hive-jib", "hive-jib-plumb", "hive-jib-cable"])
def test_an_arm_asks_for_what_its_balance_says_and_for_its_inertia(rig_id):
    model, *_ = motion(rig_id)
    assert isinstance(model, Jib)
    one = loads(rig_id)[0][1]
    assert one.anywhere == pytest.approx(
        -front_up_moment(model.arm_balance, one.places), abs=0.01 * max(1.0, np.abs(one.anywhere).max())
    )
    angles = one.places
    step = 1e-4
    masses = np.array([body.mass for body in model.bodies])
    ways = (model.places(angles + step) - model.places(angles - step)) / (2 * step)
    points = (masses * (ways**2).sum(axis=2)).sum(axis=1)
    # Of bodies as points it is a little less: what a bar's own length adds.
    assert np.all(one.inert >= points * 0.98) and np.all(one.inert <= points * 1.25)


def test_a_carriage_asks_for_its_mass_and_a_rope_for_its_slope():
    model, move, path, _, design, _ = motion("jar-slider")
    one = loads("jar-slider")[0][1]
    # Of an even ramp the whole way is gone once: mass times the shape's own acceleration.
    way = model.way.way_of(move)
    assert one.thrown == pytest.approx(model.way.moving * move.profile.acceleration(one.u) * way, rel=2e-3, abs=1e-3)
    model, move, path, _, design, kind = motion("pond-line")
    held = ask(sample(), SHELF, "pond-line", kind.held)[0]
    one = loads("pond-line")[0][1]
    x, hauled = haul_forces(design, move, model, path)
    asked = efforts(one, held) + held.spins * one.sped
    there = np.interp(one.u, np.linspace(0, 1, len(x)), hauled)
    inside = (one.u > 0.03) & (one.u < 0.97)
    assert asked[inside] == pytest.approx(there[inside], abs=0.02 * np.abs(there).max())


def test_slower_asks_for_less_as_the_square_and_at_last_only_for_weight_and_friction():
    _, result = driven("hive-jib", ("drive.swing.times", ((80.0,), (8000.0,))))
    shot, slow, still = result.driven[0].needs
    one = result.driven[0]
    friction = one.held.rubs * np.sign(one.load.speed)
    thrown = [needs.effort - (one.load.weight + friction) for needs in (shot, slow)]
    assert thrown[1] == pytest.approx(thrown[0] / 100, abs=1e-9)
    assert still.effort == pytest.approx(one.load.weight + friction, abs=1e-4)


# What is seen


def test_play_and_steps_in_pixels_are_what_two_cameras_see():
    """The camera moved by half of it to either side, as it looks; its subject projected by each."""
    _, result = driven("jar-slider", ("drive.travel.by", "stepper"), ("drive.travel.chain", ("beltway",)))
    one, staged, shot = result.driven[0], result.staged, result.shot
    focal = focal_pixels(shot.focal_m, shot.pixels_wide, shot.sensor_width_m, shot.squeeze)
    shifts = []
    way = staged.where.on_set(np.array([[1.0, 0.0, 0.0]]))[0] - staged.where.on_set(np.zeros((1, 3)))[0]
    for k in range(len(staged.times)):
        seen = [
            pose.project(
                pose.camera_points(
                    staged.camera.matrices[k],
                    staged.camera.places[k] + side * one.play / 2 * way,
                    staged.target[k][None],
                ),
                (focal, focal),
                (1.0, 1.0),
            )[0]
            for side in (-1, 1)
        ]
        shifts.append(float(np.linalg.norm(seen[1] - seen[0])))
    assert result.figures["drive.travel.play_px"].value == pytest.approx(max(shifts), rel=1e-3)
    step = result.figures["drive.travel.step"].value
    assert result.figures["drive.travel.step_px"].value == pytest.approx(max(shifts) * step / one.play, rel=1e-3)
    turn = 2 * math.pi / (one.source.motor.steps * one.source.microsteps)
    assert step >= turn * one.chain.travel / (2 * math.pi) * (1 - 1e-9)


def test_an_arm_that_turns_is_seen_to_turn_and_a_turning_pan_by_its_angle():
    result = driven("hive-jib", ("drive.pan.by", "stepper"))[1]
    pan = next(one for one in result.driven if one.axis.key == "pan")
    shot = result.shot
    focal = focal_pixels(shot.focal_m, shot.pixels_wide, shot.sensor_width_m, shot.squeeze)
    far = np.linalg.norm(result.staged.target - result.staged.camera.places, axis=1).min()
    # The arm carries the camera round as it turns it: by its angle, and by the way over the distance.
    assert focal * 0.5 < pan.pixels.max() < focal * (1 + pan.way.max() / far) * 1.6
    assert pan.way.max() == pytest.approx(pan.held.lever, rel=0.1)


# What is said


def test_a_motor_that_is_too_weak_says_where_and_what_would_do():
    weak = [("drive.swing.gearmotor", "spur-6v-100"), ("drive.swing.chain", ()), ("drive.swing.volts", 6.0)]
    project, result = driven("hive-jib", *weak, suggest=True)
    found = of(result, "drive.swing.strong")
    assert found.state == STOP and "Too weak" in found.sentence.template
    assert found.remedies
    for remedy in found.remedies:
        after = evaluate(changes.set_values(project, "hive-jib", remedy.changes), SHELF, "hive-jib")
        assert of(after, "drive.swing.strong").use < found.use


@pytest.mark.parametrize(
    ("rig_id", "values", "key"),
    [
        ("hive-jib", [("drive.swing.1.driven", 400.0)], "drive.swing.everywhere"),
        ("hive-jib", [("drive.swing.times", ((200.0,),)), ("drive.swing.1.driven", 16.0)], "drive.swing.everywhere"),
        ("hive-jib", [("drive.swing.1.driven", 260.0)], "drive.swing.1.clash"),
        ("hive-jib", [("drive.swing.2.driver", 11.0)], "drive.swing.2.few"),
        ("hive-jib", [("drive.swing.2.driver", 7.0)], "drive.swing.broken"),
        ("hive-jib", [("drive.swing.1.tool", "saw")], "drive.swing.1.tool"),
        ("hive-jib", [("drive.swing.2.play", 0.0)], "drive.swing.2.binds"),
        ("hive-jib", [("drive.swing.2.width", 0.004)], "drive.swing.2.stalled"),
        (
            "hive-jib",
            [("drive.swing.2.width", 0.004), ("drive.swing.2.stuff", "hardwood"), ("weights.place", 0.3)],
            "drive.swing.2.breaks",
        ),
        ("hive-jib", [("drive.swing.fuse", 5.0)], "drive.swing.fuse"),
        ("hive-jib", [("drive.swing.held", "none")], "drive.swing.off"),
        ("hive-jib", [("drive.swing.guard", "open")], "drive.swing.pinch"),
        ("hive-jib", [("drive.swing.switches", "none")], "drive.swing.ends"),
        ("jar-slider", [("drive.travel.1.bare", 0.012)], "drive.travel.1.bends"),
        ("jar-slider", [("drive.travel.1.width", 0.008)], "drive.travel.1.layers"),
        ("jar-slider", [("drive.travel.1.width", 0.002), ("drive.travel.1.cord", 0.003)], "drive.travel.1.room"),
        ("jar-slider", [("drive.travel.1.breaks", 20.0), ("rail.slope", 0.8)], "drive.travel.1.breaks"),
        ("pond-line", [("drive.travel.1.tight", 1.0), ("drive.travel.1.wraps", math.pi)], "drive.travel.1.slips"),
        ("pond-line", [("drive.travel.amps", 0.3)], "drive.travel.supply"),
        ("comb-turntable", [("drive.turn.1.press", 4.0)], "drive.turn.1.slips"),
        ("comb-turntable", [("drive.turn.1.driven", 0.6)], "drive.turn.one_speed"),
    ],
)
def test_what_is_wrong_with_a_drive_is_found_and_its_remedies_mend_it(rig_id, values, key):
    project, result = driven(rig_id, *values, suggest=True)
    found = of(result, key)
    assert found is not None and found.state in (WATCH, STOP)
    assert found.remedies
    for remedy in found.remedies:
        after = evaluate(changes.set_values(project, rig_id, remedy.changes), SHELF, rig_id)
        now = of(after, key)
        assert now is None or RANK[now.state] < RANK[found.state] or now.use < found.use, remedy.key


def test_a_jerking_crank_a_heard_motor_and_coarse_steps_are_told_in_pixels_and_decibels():
    _, result = driven("jar-slider", suggest=True)
    one = result.driven[0]
    # A tenth of its speed, once a turn: so much of the way for a radian of the crank.
    way = 0.1 * one.chain.travel / (2 * math.pi)
    assert result.figures["drive.travel.cogs_px"].value == pytest.approx(way * one.pixels.max())
    _, result = driven("hive-jib", ("drive.swing.sound", "recorded"), ("drive.swing.near", 3.0), suggest=True)
    assert result.figures["drive.swing.heard"].value == pytest.approx(52 - 20 * math.log10(3))
    coarse = [("drive.travel.by", "stepper"), ("drive.travel.chain", ("beltway",)), ("drive.travel.microsteps", 1.0)]
    project, result = driven("jar-slider", *coarse, suggest=True)
    found = of(result, "drive.travel.steps")
    assert found.state == WATCH
    finer = next(r for r in found.remedies if r.key == "finer")
    after = evaluate(changes.set_values(project, "jar-slider", finer.changes), SHELF, "jar-slider")
    assert of(after, "drive.travel.steps").state == CLEAR


def test_a_spring_that_outweighs_what_pulls_the_other_way_takes_the_play_out_and_is_paid_for():
    project, result = driven("hive-jib", suggest=True)
    found = of(result, "drive.swing.plays_px")
    spring = next(r for r in found.remedies if r.key == "sprung")
    sprung = evaluate(changes.set_values(project, "hive-jib", spring.changes), SHELF, "hive-jib")
    assert of(sprung, "drive.swing.plays_px").state == CLEAR
    before, after = result.driven[0], sprung.driven[0]
    assert reverses(before.load, before.held)[0] > 0 == reverses(after.load, after.held)[0]
    assert max(np.abs(n.asked).max() for n in after.needs) > max(np.abs(n.asked).max() for n in before.needs)
    assert sprung.figures["drive.swing.runs_off"].value > result.figures["drive.swing.runs_off"].value


@pytest.mark.parametrize(
    ("values", "state"),
    [
        ([("drive.swing.held", "none")], STOP),
        ([("drive.swing.held", "none"), ("drive.swing.gearmotor", "worm-12v-60")], WATCH),
        ([("drive.swing.held", "none"), ("drive.swing.chain", ("worm", "sector"))], WATCH),
        ([("drive.swing.held", "pin"), ("drive.swing.holds", 100.0)], CLEAR),
        ([("drive.swing.held", "pin"), ("drive.swing.holds", 5.0)], STOP),
    ],
)
def test_what_locks_by_itself_is_watched_until_a_pin_holds_it(values, state):
    """A heavy camera end: the weights slid in."""
    _, result = driven("hive-jib", ("weights.place", 0.4), *values)
    found = of(result, "drive.swing.off")
    assert found.state == state, found.sentence


def test_weight_alone_moves_only_what_runs_downhill_all_the_way():
    flat = driven("jar-slider", ("drive.travel.by", "gravity"))[1]
    assert of(flat, "drive.travel.by_weight").state == STOP
    steep = driven(
        "jar-slider-board", ("drive.travel.by", "gravity"), ("rail.slope", -0.5), ("place.kept", "friction")
    )[1]
    assert of(steep, "drive.travel.by_weight").state == CLEAR


# What cannot be


@pytest.mark.parametrize(
    ("rig_id", "chain", "by"),
    [
        ("hive-jib", ("sector", "spur"), "gearmotor"),
        ("hive-jib", ("spur", "screw"), "gearmotor"),
        ("jar-slider", ("spur",), "gearmotor"),
        ("jar-slider", ("beltway", "spur"), "stepper"),
        ("jar-slider", ("spur", "beltway"), "reel"),
    ],
)
def test_elements_out_of_order_are_told_with_the_nearest_order_that_works(rig_id, chain, by):
    axis = "swing" if rig_id == "hive-jib" else "travel"
    values = [(f"drive.{axis}.by", by), (f"drive.{axis}.chain", chain)]
    project, result = driven(rig_id, *values, suggest=True)
    assert isinstance(result.driven[0], Broken)
    found = of(result, f"drive.{axis}.broken")
    assert found.state == STOP
    mended = changes.set_values(project, rig_id, found.remedies[0].changes)
    assert not isinstance(evaluate(mended, SHELF, rig_id).driven[0], Broken)


def test_a_mains_tool_is_refused_with_the_reason_and_a_jammed_worm_says_so():
    found = of(driven("hive-jib", ("drive.swing.by", "mains"))[1], "drive.swing.broken")
    assert found.state == STOP and "fingers" in found.sentence.template
    jams = [("drive.swing.chain", ("worm",)), ("drive.swing.1.lead", math.radians(60)), ("drive.swing.1.grip", 0.6)]
    assert "jams" in of(driven("hive-jib", *jams)[1], "drive.swing.broken").sentence.template


def test_a_motor_of_two_readings_is_the_motor_they_were_taken_from():
    row = SHELF.gearmotors["planet-24v-60e"]
    at = [(0.25, "1"), (0.75, "2")]
    values = [("drive.travel.by", "own"), ("drive.travel.volts", row.volts)]
    for share, n in at:
        values += [
            (f"drive.travel.torque_{n}", share * row.stall),
            (f"drive.travel.speed_{n}", (1 - share) * row.no_load),
        ]
    own, bought = driven("pond-line", *values)[1], driven("pond-line")[1]
    assert own.driven[0].source.motor.no_load == pytest.approx(row.no_load)
    assert own.driven[0].needs[0].given == pytest.approx(bought.driven[0].needs[0].given)
    upside_down = driven("pond-line", ("drive.travel.by", "own"), ("drive.travel.speed_2", 20.0))[1]
    assert "slower under more torque" in of(upside_down, "drive.travel.broken").sentence.template


# The document


def test_elements_are_put_in_moved_and_taken_out_and_keep_their_sizes():
    project = changes.set_values(sample(), "hive-jib", [*PLAIN_DRIVE, ("drive.swing.1.driven", 77.0)])
    project = drives.put_element(project, "hive-jib", "swing", "belt", 0)
    assert [e.kind for e in drives.drive_of(project, "hive-jib", "swing").elements] == ["belt", "spur", "sector"]
    project = drives.move_element(project, "hive-jib", "swing", 0, 1)
    elements = drives.drive_of(project, "hive-jib", "swing").elements
    assert [e.kind for e in elements] == ["spur", "belt", "sector"] and elements[0].values["driven"] == 77.0
    project = drives.take_element(project, "hive-jib", "swing", 1)
    assert parameters(project, "hive-jib")["drive.swing.1.driven"].unit == "count"
    gone = changes.set_values(project, "hive-jib", [("drive.swing.by", "")])
    assert [drive.axis for drive in gone.rig("hive-jib").drives] == ["pan"]
    assert "drive.swing.held" not in parameters(gone, "hive-jib")
    with pytest.raises(InputError, match="at most 8"):
        changes.set_values(project, "hive-jib", [("drive.swing.chain", ("spur",) * 9)])


@pytest.mark.parametrize(
    ("change", "told"),
    [
        ({"axis": "bridge"}, "must be one of swing, pan"),
        ({"source": "reel"}, "drive.swing.by"),
        ({"values": {"volts": 400.0}}, "drive.swing.volts"),
        ({"values": {"colour": 1.0}}, "not a size it has"),
        ({"times_s": (60.0, 30.0)}, "longer than the one before"),
        ({"elements": (drives.Element(kind="spur", values={"driven": 3.0}),)}, "drive.swing.1.driven"),
        ({"elements": (drives.Element(kind="lever"),)}, "must be one of spur"),
    ],
)
def test_a_wrong_drive_in_a_file_is_told_by_its_field(change, told):
    project = sample()
    rig = project.rig("hive-jib")
    wrong = replace(rig, drives=(replace(rig.drives[0], **change),))
    with pytest.raises(InputError, match=told):
        checking.check(replace(project, rigs=(wrong,)))


# The drawing and the lists


def inside(points, outline, middle):
    """Which points lie within a wheel's outline, by its radius at their angle."""
    rim = outline - middle
    around, radii = np.arctan2(rim[:, 1], rim[:, 0]), np.hypot(*rim.T)
    order = np.argsort(around)
    around, radii = around[order], radii[order]
    out = points - middle
    reach = np.interp(np.arctan2(out[:, 1], out[:, 0]), around, radii, period=2 * math.pi)
    return np.hypot(*out.T) < reach - 1e-4


@pytest.mark.parametrize("driver", [15.0, 20.0, 21.0])
def test_drawn_gears_mesh_and_turn_together_at_every_moment(driver):
    values = [("drive.swing.chain", ("spur",)), ("drive.swing.1.driver", driver), ("drive.swing.1.driven", 46.0)]
    result = driven("hive-jib", *values)[1]
    one = result.driven[0].made[0]
    middles = np.array([(0.0, 0.0), (one.apart, 0.0)])
    for share in (0.0, 0.13, 0.4, 0.77):
        shapes = [
            s.points for s in result.draw(share, "chain.swing").items if isinstance(s, Shape) and s.role == "wood"
        ]
        large, small = shapes[0], shapes[-1]
        assert not inside(small, large, middles[1]).any() and not inside(large, small, middles[0]).any()


@pytest.mark.parametrize("name", SAMPLES)
def test_every_sample_says_what_moves_it_and_what_it_needs(name):
    for rig in sample(name).rigs:
        result = evaluate(sample(name), SHELF, rig.id)
        assert not any(isinstance(one, Broken) for one in result.driven) and result.driven
        assert "yet" not in result.headlines["drive"].template
        assert not any(f.state == STOP for f in result.findings if f.station == "drive")


def test_the_buy_list_holds_what_the_drive_asks_for_and_nothing_of_a_broken_one():
    lines = {line.name: line for line in driven("hive-jib")[1].lines}
    asks = (
        "Spur gearmotor 12 V, 100 rpm, encoder",
        "Speed dial with reversing switch",
        "Fuse 1 A with holder",
        "Cut-off switch, in reach",
        "Birch plywood 12 mm, sheet 300×600",
        "Birch plywood 15 mm, sheet 300×600",
        "Birch plywood 9 mm, sheet 300×600",
        "Hub with set screw, 8 mm",
        "Spacer M5, 39 mm",
        "Shaft 8 mm, two bearings, collars",
        "Cover over what runs together",
        "End switch with a bracket",
        "Hinge and catch",
        "Lock pin with its bush",
    )
    assert [name for name in asks if name not in lines] == []
    broken = driven("hive-jib", ("drive.swing.chain", ("sector", "spur")))[1]
    assert not any("gearmotor" in line.name for line in broken.lines)
    for kind in d.SORTS.values():
        turns = kind.gives == d.TURN
        rig, axis = ("comb-turntable", "turn") if turns else ("jar-slider", "travel")
        values = [(f"drive.{axis}.by", "gearmotor"), (f"drive.{axis}.chain", (kind.key,))]
        more = [
            line for line in driven(rig, *values)[1].lines if line.note.startswith("drive of") or "spring" in line.name
        ]
        assert len(more) > 3, kind.key


def test_a_cord_on_a_drum_only_pulls_and_what_keeps_it_tight_does():
    """Level, what it rubs with holds back what slowing down asks for, which grows as the inverse square of the time."""
    quick = {
        time: driven("jar-slider", ("shot.time", time))[1].figures["drive.travel.pull"].value
        for time in (2.0, 3.0, 5.0)
    }
    rubs = (quick[3.0] * 9 - quick[2.0] * 4) / 5
    assert quick[5.0] == pytest.approx(rubs + (quick[2.0] - rubs) * 4 / 25, rel=1e-6)
    assert quick[2.0] < 0 < quick[5.0] < rubs
    calm = of(driven("jar-slider", ("shot.time", 5.0))[1], "drive.travel.tight")
    assert calm.state == CLEAR and not calm.remedies
    project, slack = driven("jar-slider", ("shot.time", 2.0), suggest=True)
    found = of(slack, "drive.travel.tight")
    assert found.state == WATCH and found.value == pytest.approx(quick[2.0])
    assert {remedy.key for remedy in found.remedies} == {"sprung", "loop"}
    for remedy in found.remedies:
        after = evaluate(changes.set_values(project, "jar-slider", remedy.changes), SHELF, "jar-slider")
        assert all(one.state == CLEAR for one in after.findings if one.key == "drive.travel.tight")
    # What has no drum has no such cord.
    assert not [f for f in driven("lane-dolly")[1].findings if f.key.endswith(".tight") and f.key.startswith("drive")]
