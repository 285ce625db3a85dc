"""Orbit rigs: balance against moments over a turn, what is refused, what meets what, and whole designs at random."""

from __future__ import annotations

import math

import numpy as np
import pytest
from bench import designs
from Pynite import FEModel3D

from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import ask, evaluate, perform
from hazel_lantern.core.kinds.path import Asked
from hazel_lantern.core.mechanics import overhead, rotor
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, STOP, WATCH
from hazel_lantern.core.nouns.units import GRAVITY
from tests.helpers import SHELF, finding, sample, value

RIG = "comb-turntable"


def orbit(**design):
    values = [(key.replace("__", "."), to) for key, to in design.items()]
    return evaluate(changes.set_values(sample(), RIG, values), SHELF, RIG)


def test_the_hub_feels_the_moments_of_every_piece_as_it_turns():
    """Each piece as it is laid out, pulled down and outwards, about the hub;
    the figures take halves of the beam as points."""
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


def test_what_holds_the_weights_bends_by_their_pull_and_is_bought_long_enough():
    """A rod held at the arm, pulled at its end: outwards all the way round, along the turn while it is spun up."""
    result = orbit(weights__above=0.32, spin__up=1.0)
    rig, speed = result.model, 1.1 * value(result, "travel.fastest")
    pull = rig.weights * rig.rear * np.array([speed**2, speed / 1.0])
    core = math.pi * 0.00985**3 / 32
    assert value(result, "rig.pin_stress") == pytest.approx(1.5 * np.linalg.norm(pull) * 0.32 / core, rel=2e-3)
    (rod,) = (line.name for line in result.laid.bought if line.name.startswith("Threaded rod"))
    assert "1 m" in rod and rig.bar.depth / 2 + 0.32 + rig.weight_side / 2 > 0.3


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
        ({"beam.height": 0.1, "table.height": 0.4}, "floor", 0.1 - 0.07 - 0.02 - 0.02 - 0.07),
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
        ({"arm.front": 0.3, "table.subject": 0.4, "table.tall": 0.4}, "inside what it looks at"),
        ({"hub.carried": "hung", "hung.height": 1.2, "beam.height": 1.15}, "o shaft is left"),
        ({"hub.carried": "hung", "beam.height": 0.6}, "hang into the table"),
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


@pytest.mark.parametrize("variant", ["shaft", "ring", "desk"])
def test_most_designs_taken_at_random_give_figures_and_the_rest_a_reason(variant):
    """A tenth of the campaign, near what is usual and anywhere within bounds."""
    good = 0
    count = 20
    for seed in range(count):
        project = designs.design(SHELF, "orbit", variant, seed, (designs.NEAR, designs.WITHIN)[seed % 5 == 0])
        result = evaluate(project, SHELF, project.rigs[0].id)
        if result.model is None:
            assert any(f.key == "rig.impossible" and f.state == STOP for f in result.findings)
            continue
        good += 1
        rows = result.model.turns_as
        turned = rotor.turning(rows, value(result, "travel.fastest"))
        if not result.model.overhead:
            assert value(result, "balance.offset") == pytest.approx(
                turned.moment / (result.model.weight * GRAVITY), abs=1e-9
            )
    assert good >= 0.6 * count


def test_sizing_brings_arm_and_riser_to_the_circle_and_says_why_not():
    start = changes.set_values(sample(), RIG, [("arm.front", 1.4), ("riser.height", 0.6)])
    made = evaluate(changes.set_values(start, RIG, perform(start, SHELF, RIG, "rig")), SHELF, RIG)
    assert value(made, "shot.radius_off") < 2e-3 and value(made, "shot.lens_off") < 2e-3
    for move, words in (("slide", "straight"), ("rise", "straight")):
        with pytest.raises(HazelError, match=words):
            perform(changes.set_values(start, RIG, [("shot.move", move)]), SHELF, RIG, "rig")
    assert ask is not None


def hung(**design):
    return orbit(hub__carried="hung", beam__height=1.5, riser__height=-0.4, **design)


def desk(**design):
    project = changes.set_values(
        sample(), RIG, [("variant", "desk"), *((k.replace("__", "."), v) for k, v in design.items())]
    )
    return evaluate(project, SHELF, RIG)


def test_a_frame_over_a_desk_sags_and_leans_as_an_independent_package_finds():
    result = desk(arm__front=0.55, riser__height=-0.42, table__height=0.74)
    rig, pipe, shaft = result.model, result.model.frame.pipe, result.model.shaft
    model = FEModel3D()
    steel = SHELF.materials[pipe.material]
    model.add_material("s", steel.E, steel.G, 0.3, 1.0)
    for name, bar in (("p", pipe), ("h", shaft)):
        of = bar.section()
        model.add_section(name, of.area, of.iy, of.iz, of.j)
    places = {"foot": (0.75, 0.74), "top": (0.75, 1.5), "end": (0.0, 1.5), "hub": (0.0, 1.34)}
    for name, (x, y) in places.items():
        model.add_node(name, x, y, 0.0)
    for name, a, b, section in (
        ("post", "foot", "top", "p"),
        ("pipe", "top", "end", "p"),
        ("shaft", "end", "hub", "h"),
    ):
        model.add_member(name, a, b, "s", section)
        line = (pipe if section == "p" else shaft).line(steel) * GRAVITY
        model.add_member_dist_load(name, "FY", -line, -line)
    model.def_support("foot", True, True, True)
    for turn in ("RX", "RY", "RZ"):
        model.def_support_spring("foot", turn, 25000.0)
    model.add_node_load("hub", "FY", -GRAVITY * (sum(row[0] for row in rig.turns_as) + 1.2))
    model.analyze(check_statics=False)
    hub = model.nodes["hub"]
    assert value(result, "rig.frame_sags") == pytest.approx(-hub.DY["Combo 1"], rel=1e-3)
    assert value(result, "rig.frame_leans") == pytest.approx(abs(hub.RZ["Combo 1"]), rel=1e-3)
    # The closed form leaves out the shaft, whose own turning adds nothing to the drop.
    of = pipe.section()
    load = GRAVITY * (sum(row[0] for row in rig.turns_as) + 1.2) + shaft.line(steel) * 0.16 * GRAVITY
    line = pipe.line(steel) * GRAVITY
    made = overhead.desk_frame(load, 0.75, 0.76, steel.E * of.iy, steel.E * of.iy, steel.G * of.j, base=25000.0)
    root = line * 0.75**2 / 2
    own = line * 0.75**4 / (8 * steel.E * of.iy) + root * 0.76 / (steel.E * of.iy) * 0.75 + root * 0.75 / 25000.0
    assert value(result, "rig.frame_sags") == pytest.approx(made.drop + own, rel=2e-3)


def test_the_post_is_passed_at_every_angle_that_is_turned_through():
    result = desk(arm__front=0.7, riser__height=-0.42, table__height=0.74)
    told = finding(result, "rig.clears_post")
    assert told.state == STOP
    # By brute force: the corner points of camera and arm round the circle, against the post.
    rig = result.model
    assert told.value < 0.75 - 0.7
    # A short arc away from the post never comes near it.
    half = changes.set_values(
        sample(),
        RIG,
        [
            ("variant", "desk"),
            ("arm.front", 0.7),
            ("riser.height", -0.42),
            ("table.height", 0.74),
            ("shot.move", "arc"),
            ("shot.arc", 1.0),
            ("arm.rear", 0.3),
        ],
    )
    clear = finding(evaluate(half, SHELF, RIG), "rig.clears_post")
    assert clear.state == CLEAR
    angles = np.linspace(0.0, 1.0, 2001)
    tips = -(0.3 + 0.03 + rig.weight_side / 2) * np.column_stack([np.cos(angles), np.sin(angles)])
    assert clear.value <= np.linalg.norm(tips - rig.frame.post, axis=1).min() + 1e-9


def test_hung_it_asks_for_anchors_a_tether_and_a_ring_that_may_be_pulled():
    result = hung()
    assert value(result, "balance.anchor") == pytest.approx(8 * value(result, "balance.anchor_pull"))
    assert value(result, "balance.anchor_pull") > result.model.weight * GRAVITY / 4
    assert finding(result, "balance.caution").state == WATCH
    sways = value(result, "travel.sways")
    material = SHELF.materials[result.model.shaft.material]
    stiff = 3 * material.E * result.model.shaft.section().iy / result.model.hub_shaft**3
    assert sways == pytest.approx(math.sqrt(stiff / (result.model.turning + 1.2)) / (2 * math.pi), rel=0.03)
    for design, words in (({"below": "people"}, "over people"), ({"hanger__mount": "adhesive"}, "never the only hold")):
        assert words in finding(hung(**design), "balance.refused").sentence.template
    base = [("variant", "ring"), ("hub.carried", "hung"), ("hung.height", 1.7), ("riser.height", -0.4)]
    rings = [
        finding(evaluate(changes.set_values(sample(), RIG, [*base, ("hub.ring", ring)]), SHELF, RIG), "rig.ring_pulled")
        for ring in ("plate-300", "ring-200")
    ]
    assert [told.state for told in rings] == [STOP, CLEAR]
    # Its circle is overhead: a person in it is refused, whatever was reckoned with.
    assert result.known["zone"].overhead and result.known["zone"].reckons is None


@pytest.mark.parametrize("count", ["two", "three", "four"])
def test_several_cameras_balance_each_other_and_every_one_is_built(count):
    result = orbit(camera__count=count, weights__mass=9.0)
    n = {"two": 2, "three": 3, "four": 4}[count]
    turning = [p for p in result.laid.placed if p.body == "rotor"]
    assert sum(p.name == "Camera kit" for p in turning) == n and not any(p.name == "Weights" for p in turning)
    arm = np.sum([p.mass * np.asarray(p.centre)[:2] for p in turning], axis=0)
    assert np.abs(arm).max() < 1e-9 and value(result, "balance.off") < 1e-9
    assert sum(p.mass for p in turning) == pytest.approx(result.model.turning)
    assert next(p for p in result.parts if p.name == "Camera arm").quantity == n
    # The kits' screws, and a clamp's worth of bolts, are bought for each.
    screws = next(line for line in result.lines if line.name.startswith("Camera screw"))
    assert screws.quantity == n


def test_slides_are_clamped_against_the_pull_and_their_play_is_seen():
    base = [("variant", "ring"), ("arm.joint", "slides"), ("shot.time", 4.0)]
    result = evaluate(changes.set_values(sample(), RIG, base), SHELF, RIG)
    speed = 1.1 * value(result, "travel.fastest")
    placed = [p for p in result.laid.placed if p.body == "rotor" and np.asarray(p.centre)[0] > 0]
    pull = speed**2 * math.hypot(*np.sum([p.mass * np.asarray(p.centre)[:2] for p in placed], axis=0))
    assert value(result, "rig.slide_pull") == pytest.approx(pull, rel=0.03)
    loose = evaluate(changes.set_values(sample(), RIG, [*base, ("slide.clamp", 1.5 * pull)]), SHELF, RIG)
    assert finding(loose, "rig.slide_clamp").state == STOP
    twice = evaluate(changes.set_values(sample(), RIG, [*base, ("slide.play", 0.0008)]), SHELF, RIG)
    assert value(twice, "travel.slide_px") == pytest.approx(2 * value(result, "travel.slide_px"))


def test_three_runs_find_a_weight_that_was_put_on_and_say_where_to_put_another():
    heavy, trial = 0.07 * np.exp(1j * 0.9), 0.1 * 0.3
    shakes = [abs(heavy), *(abs(heavy + trial * np.exp(2j * math.pi * k / 3)) for k in range(3))]
    runs = tuple((float(k), float(shake)) for k, shake in enumerate(shakes))
    result = orbit(trial__runs=runs)
    assert value(result, "balance.heavy") == pytest.approx(0.07, rel=1e-6)
    put = value(result, "balance.against_out") * 0.1 * np.exp(1j * value(result, "balance.against_at"))
    assert abs(heavy + put) < 1e-9
    assert "missing" in finding(orbit(trial__runs=runs[:3]), "balance.trials").sentence.template
    wild = orbit(trial__runs=((0.0, 1.0), (1.0, 0.1), (2.0, 0.1), (3.0, 0.1)))
    assert finding(wild, "balance.trials").state == WATCH


def test_a_burst_has_room_cues_and_a_recorder_that_holds_it():
    result = orbit(event__reach=0.3, event__time=1.0, recorder__time=1.2, camera__exposure=0.01)
    assert value(result, "travel.cue_trigger") == pytest.approx(value(result, "travel.cue_record") + 0.5)
    assert finding(result, "travel.event_buffer").state == WATCH and finding(result, "travel.cues").state == CLEAR
    assert finding(result, "travel.room").state == CLEAR
    assert finding(orbit(event__reach=0.66), "travel.room").state == STOP
    said = " ".join(words.template for words in result.readings["loading"])
    assert "recorder at" in said
    assert finding(orbit(event__reach=0.3, event__time=9.0), "travel.cues").state == WATCH


def test_turns_a_minute_may_be_typed_and_edit_the_time():
    project = changes.set_values(sample(), RIG, [("shot.rpm", 12.0)])
    assert value(evaluate(project, SHELF, RIG), "travel.rpm") == pytest.approx(12.0)
    times = [next(s.duration_s for s in p.shots if s.id == "comb") for p in (project, sample())]
    assert times[0] < times[1]
    with pytest.raises(HazelError, match=r"shot.time"):
        changes.set_values(sample(), RIG, [("shot.rpm", 1000.0)])


def test_out_of_balance_on_a_leaning_axis_it_runs_uneven_as_the_energy_says():
    """A free rotor on a leaning axis, stepped through a turn."""
    result = orbit(weights__mass=2.0, axis__plumb=0.01)
    hub = rotor.turning(result.model.turns_as, 0.0, result.model.beam)
    speed, turned, step = value(result, "travel.fastest"), 0.0, 1e-4
    seen = []
    while turned < 4 * math.pi:
        speed -= step * GRAVITY * math.sin(0.01) * abs(hub.unbalance) * math.sin(turned) / hub.inertia
        turned += step * speed
        seen.append(speed)
    mean = (max(seen) + min(seen)) / 2
    want = (max(seen) - min(seen)) / 2 / mean
    assert value(result, "travel.uneven") * (value(result, "travel.fastest") / mean) ** 2 == pytest.approx(
        want, rel=0.02
    )


def test_a_person_inside_the_circle_is_found_on_the_set():
    project = sample()
    near = changes.set_values(project, RIG, [("thing.keeper-4.x", 1.0), ("thing.keeper-4.y", 0.0)])
    told = finding(evaluate(near, SHELF, RIG, suggest=True), "shot.fall_zone")
    assert told.state == STOP and finding(evaluate(project, SHELF, RIG), "shot.fall_zone").state == CLEAR
    reckoned = next(r for r in told.remedies if r.key == "class")
    assert (
        finding(evaluate(changes.set_values(near, RIG, reckoned.changes), SHELF, RIG), "shot.fall_zone").state == WATCH
    )
