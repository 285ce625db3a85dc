"""Sliders, overhead sliders and gantries: what the rail does to the picture, wheels, standing, hanging, reach."""

from __future__ import annotations

import math
import re

import numpy as np
import pytest

from hazel_lantern.core.advice.remedies import vetted
from hazel_lantern.core.editing import changes
from hazel_lantern.core.editing.starting import blank
from hazel_lantern.core.evaluate import ask, evaluate, perform
from hazel_lantern.core.kinds import KINDS
from hazel_lantern.core.kinds.gantry.strength.bending import bent
from hazel_lantern.core.kinds.rail.bends import picture
from hazel_lantern.core.mechanics import overhead
from hazel_lantern.core.nouns.finding import CLEAR, STOP, WATCH
from hazel_lantern.core.nouns.progress import last
from hazel_lantern.core.nouns.units import GRAVITY, Display
from hazel_lantern.core.workshop.laid import holes
from tests.helpers import SAMPLES, SHELF, finding, sample, value

RIGS = ("jar-slider", "kitchen-gantry")


def made(rig="jar-slider", **values):
    return changes.set_values(sample(), rig, [(key.replace("__", "."), v) for key, v in values.items()])


def solved(rig="jar-slider", **values):
    return evaluate(made(rig, **values), SHELF, rig)


def new(kind, variant="", **values):
    project = changes.add_rig(sample(), kind, variant)
    rig = project.rigs[-1].id
    project = changes.set_values(
        project, rig, [("shot", "jars"), *((key.replace("__", "."), v) for key, v in values.items())]
    )
    return evaluate(project, SHELF, rig)


def test_two_stands_beat_one_tripod_and_the_remedy_is_offered_after_it_was_tried():
    one, two = solved(), solved(support="two")
    assert value(one, "travel.dip") > 5 * value(two, "travel.dip")
    assert value(one, "travel.lean") > value(two, "travel.lean")
    offered = next(f for f in last(vetted(sample(), SHELF, "jar-slider")) if f.key == "travel.picture").remedies
    assert ("support", "two") in [change for remedy in offered for change in remedy.changes]
    # The line drawn for comparison is the one that is got.
    line, real = one.curves["travel.path.two stands"], two.curves["travel.path"]
    assert line.y[::6] == pytest.approx(real.y[::25], abs=1e-9)


def test_the_dip_is_mirrored_and_grows_with_the_load_and_the_subject_near():
    level = solved(camera__ahead=0.0)
    y = level.curves["travel.path"].y
    assert y[0] == pytest.approx(y[-1], rel=0.1)
    assert value(solved(rail__section="al6063-slot-40x80"), "travel.dip") < value(level, "travel.dip")
    assert value(solved(carriage__mass=3.0), "travel.dip") > value(level, "travel.dip")
    near = solved(**{"thing.jar-4.y": 0.3})
    assert value(near, "travel.shift") > value(level, "travel.shift")


def test_a_camera_that_looks_along_the_rail_turns_pitch_into_tilt_and_aside_into_lean():
    project = made(camera__heading=0.0)
    optics, away, rig, found = ask(
        project, SHELF, "jar-slider", lambda optics, away, rail, ride: (optics, away, rail, ride)
    )
    shift, aside, lean = picture(optics, away, False, rig, found)
    assert np.ptp(aside) == 0
    below, beside, turned = picture(optics, away, True, rig, found)
    assert np.ptp(turned) == 0
    # Straight down, leaning moves the picture aside and the drop only makes it smaller.
    assert np.ptp(beside) > 0
    assert np.ptp(below) < np.ptp(shift)
    assert np.allclose(lean, found.roll - found.roll.mean())
    rig, found = ask(made(camera__heading=math.pi / 2), SHELF, "jar-slider", lambda rail, ride: (rail, ride))
    assert np.allclose(picture(optics, away, False, rig, found)[2], found.pitch - found.pitch.mean())
    assert np.ptp(shift) > 0


def test_off_the_middle_two_rails_roll_to_the_heavy_side_and_a_centred_mount_does_not():
    # The kit's own centre of mass lies to one side; the mount may take it back.
    rods = {"kind": "slider", "variant": "rods", "support": "two"}
    aside = new(**rods, camera__aside=0.04)
    centred = next(f for f in aside.findings if f.key == "travel.level")
    assert value(aside, "travel.roll") > value(new(**rods, camera__aside=-0.005), "travel.roll")
    assert centred.state in (CLEAR, WATCH)
    soft = new("slider", "grooved", support="two", camera__aside=0.06)
    assert finding(soft, "rig.twists").state == WATCH


def test_wheels_lift_when_resting_and_a_longer_wheelbase_mends_it():
    wild = {"push__brake": 6.0, "push__side": 15.0}
    assert finding(solved(carriage__hold="resting", **wild), "balance.lifts").state == STOP
    assert finding(solved(**wild), "balance.lifts").state == WATCH
    assert value(solved(carriage__wheelbase=0.25), "balance.least") >= value(solved(), "balance.least")
    assert finding(solved(camera__ahead=0.1), "balance.heavy").state == WATCH


def test_a_tilted_rail_runs_away_and_a_level_one_needs_only_a_push():
    steep = solved(rail__slope=math.radians(12))
    assert finding(steep, "balance.away").state == STOP
    assert value(steep, "travel.push") > value(solved(), "travel.push")
    mass = steep.model.way.moving
    assert value(steep, "balance.hold") == pytest.approx(
        mass * GRAVITY * (math.sin(math.radians(12)) - 0.012 * math.cos(math.radians(12))), rel=1e-6
    )


def test_joints_bigger_wheels_and_slow_moves():
    jointed = {"rail__joint_every": 0.5, "rail__joint_step": 0.0008, "rail__joint_gap": 0.002}
    rough, calm = solved(**jointed), solved(**jointed, carriage__wheel="v-40")
    assert value(rough, "travel.kick") > value(calm, "travel.kick")
    assert finding(solved(shot__time=3000.0), "travel.slow").state == WATCH
    assert value(solved(drive__stiffness=4800.0), "travel.sticks") == pytest.approx(
        value(solved(), "travel.sticks") / 2, rel=1e-6
    )
    assert finding(
        solved(**jointed | {"rail__joint_step": 0.005}, carriage__wheel="bearing-22"), "travel.joint"
    ).state in (WATCH, STOP)


def test_what_does_not_fit_is_a_stop_with_its_reason():
    for values, words in (
        ({"carriage__wheelbase": 1.0, "rail__length": 0.9}, "longer than the rail"),
        ({"support": "two", "support__inset": 0.7}, "supports meet"),
        ({"shot__end_x": 3.0}, ""),
    ):
        result = solved(**values)
        assert result.findings[0].state == STOP or any(
            f.key == "shot.travel" and f.state == STOP for f in result.findings
        )
        assert words in result.findings[0].sentence.template or not words
    assert finding(solved(shot__end_x=3.0), "shot.travel").state == STOP
    sized = dict(perform(made(shot__end_x=0.9), SHELF, "jar-slider", "rig"))
    assert (
        finding(solved(shot__end_x=0.9, **{key.replace(".", "__"): v for key, v in sized.items()}), "shot.travel").state
        == CLEAR
    )


def test_nothing_hangs_from_adhesive_or_over_people_and_the_trolley_is_trapped():
    assert finding(new("overhead"), "balance.caution").state == WATCH
    for values in (
        {"hanger__mount": "adhesive"},
        {"hanger__mount": "plasterboard"},
        {"below": "people"},
        {"safety": "E"},
    ):
        assert finding(new("overhead", **values), "balance.refused").state == STOP
    assert finding(new("overhead", carriage__hold="resting"), "balance.trapped").state == STOP
    weak = new("overhead", tether__rated=100.0, tether__slack=0.2)
    assert finding(weak, "balance.tether").state == STOP
    assert finding(weak, "balance.slack").state == WATCH
    assert finding(solved("kitchen-gantry", tether__rated=100.0), "balance.tether").state == STOP
    bracket = new("overhead", hanger__mount="brackets", bracket__reach=1.0, bracket__height=0.015)
    assert finding(bracket, "balance.screws").state == STOP


def test_two_rails_overhead_hang_each_by_its_own_and_a_load_beside_both_pulls_harder():
    def held(result):
        return {item.name.split(" with")[0]: item.quantity for item in result.laid.bought if "ated" in item.name}

    for count in (2.0, 4.0):
        one, two = (new("overhead", variant, hanger__count=count) for variant in ("trolley", "twin"))
        for name in ("Rated hanger", "Rated anchor for joists"):
            assert held(one)[name] == count and held(two)[name] == 2 * count
    brackets = new("overhead", "twin", hanger__mount="brackets", hanger__count=2.0)
    assert next(item.quantity for item in brackets.laid.bought if "a clamp for each rail" in item.name) == 2
    # Beside both rails the nearer one bears more than all of it, and the other is pushed up.
    within, beside = (new("overhead", "twin", rail__spacing=0.16, camera__aside=aside) for aside in (0.0, 0.2))
    assert within.model.way.share < 1 < beside.model.way.share
    assert value(beside, "balance.hanger") > value(within, "balance.hanger")
    assert value(beside, "balance.hanger_up") < 0 < value(within, "balance.hanger_up")


def test_more_hangers_carry_less_and_a_shuttle_pushed_aside_jams():
    assert value(new("overhead", hanger__count=4.0), "balance.hanger") < value(
        new("overhead", hanger__count=2.0), "balance.hanger"
    )
    rig = new("overhead", "shuttle", shuttle__offset=0.4)
    assert finding(rig, "travel.jams").state == STOP
    assert "travel.drive" not in rig.figures
    assert finding(new("overhead", "shuttle", shuttle__bore=0.0248), "build.bore").state == STOP
    assert value(new("overhead", "shuttle", shuttle__guide=0.26), "travel.play") == pytest.approx(
        value(new("overhead", "shuttle"), "travel.play") / 2, rel=1e-3
    )


@pytest.mark.parametrize("variant", ["bar", "boards"])
def test_posts_of_a_gantry_carry_its_weight_wherever_the_boom_points(variant):
    project = made("kitchen-gantry")
    project = changes.add_rig(project, "gantry", variant)
    rig = project.rigs[-1].id
    project = changes.set_values(project, rig, [("boom.counter", 0.0)])
    design, model = ask(project, SHELF, rig, lambda design, gantry: (design, gantry))
    poses = np.array([(0.9, 0.7, a, 0.6) for a in (0.0, 1.0, -2.0)] + [(0.5, 0.3, 0.4, 0.0)])
    found = bent(design, model, poses)
    # All that the pieces on the posts weigh; of a boom pushed in the model takes less.
    moving = sum(model.laid.mass_on(body) for body in ("bridge", "trolley", "boom"))
    runways = sum(piece.mass for piece in model.laid.placed if piece.name == "Runway")
    total = [GRAVITY * (runways + moving + model.boom_mass(out) - model.boom_mass(0.6)) for out in poses[:, 3]]
    assert found.reactions.sum(axis=1) == pytest.approx(total, rel=1e-6)
    # Both runways together agree with plain moments about one of them.
    closed = overhead.gantry(
        model.span, 0.7, 0.6, 1.0, model.trolley, model.boom_line * 0.6, model.tip, model.bridge.line * model.span
    )
    posts = len(model.posts)
    own = runways + 2 * model.bridge_ends
    tail = model.boom_line * model.tail
    far = found.reactions[1, posts:].sum() - GRAVITY * (
        own / 2 + tail * (0.7 - model.tail / 2 * math.sin(1.0)) / model.span
    )
    assert far == pytest.approx(closed.far, rel=1e-6)


def test_the_gantry_reaches_its_places_and_says_which_it_does_not():
    result = solved("kitchen-gantry")
    assert "Far sink" in finding(result, "shot.places").sentence.template
    assert "shot.above.bench" in result.figures
    wider = solved("kitchen-gantry", boom__longest=1.6)
    assert (
        "Honey extractor" not in finding(wider, "shot.places").sentence.template
        or finding(wider, "shot.places").state == CLEAR
    )
    assert value(wider, "travel.drop") > value(result, "travel.drop")
    assert finding(solved("kitchen-gantry", boom__longest=2.4, boom__tail=0.0), "balance.uplift").state == STOP
    assert finding(solved("kitchen-gantry", below="people"), "balance.refused").state == STOP
    assert value(solved("kitchen-gantry", board__screws=0.4), "travel.drop") > value(result, "travel.drop")


@pytest.mark.parametrize("name", SAMPLES)
@pytest.mark.parametrize("rig", RIGS)
def test_every_sample_rig_has_parts_drawings_and_recomputable_figures(name, rig):
    result = evaluate(sample(name), SHELF, rig)
    assert result.parts
    assert all(made.plan for made in result.cuts)
    for view, _ in (*result.views("rig"), *result.views("shot")):
        assert result.draw(0.4, view).items
    for figure in result.figures.values():
        assert math.isfinite(figure.value) or figure.key == "shot.sharp_far"
        if figure.why.formula is not None:
            assert figure.why.recompute() == pytest.approx(figure.value)


def test_every_variant_of_every_kind_answers_and_reads_its_own_parameters():
    for kind in KINDS.values():
        for variant, _ in kind.variants:
            result = new(kind.id, variant)
            assert result.model is not None, result.findings[0]
            assert {*kind.stations, "drive"} >= {f.station for f in result.findings}
            keys = {p.key for p in kind.parameters} | {"kit", "shot.time"}
            wheres = {
                f.where
                for f in result.findings
                if f.where and not f.where.startswith(("shot.", "thing.", "axis.", "carry."))
            }
            assert wheres <= keys | set(result.figures), wheres - keys
            assert {f.station for f in result.figures.values()} <= {*kind.stations, "drive"}


def test_a_gantry_stands_firmer_with_weight_on_its_feet_and_falls_when_the_boom_outweighs_it():
    rig = "kitchen-gantry"
    tips = [value(solved(rig, foot__ballast=kg), "balance.tips_at") for kg in (0.0, 5.0, 10.0)]
    assert tips[0] < tips[1] < tips[2]
    # Ballast on every foot presses half the span, or half the length, inside the nearest edge.
    bare, loaded = solved(rig), solved(rig, foot__ballast=5.0)
    design = bare.rig.design
    lever = min(design["span"] + 2 * bare.model.rake, design["runway.length"]) / 2
    more = 5.0 * 2 * design["runway.posts"] * GRAVITY * lever / design["runway.height"]
    assert value(loaded, "balance.tips_at") - value(bare, "balance.tips_at") == pytest.approx(more, rel=1e-6)
    top_heavy = solved(
        rig, span=0.45, boom__longest=2.4, foot__rake=0.0, boom__section="steel-40x40x2", kit__0__mass=14.0
    )
    assert finding(top_heavy, "balance.stands").state == STOP


def test_another_kit_is_centred_over_the_wheels_by_its_card():
    result = solved()
    swaps = result.readings["swaps"]
    assert len(swaps) == len(sample().kits) - 1
    for swap in swaps:
        after = evaluate(changes.set_values(sample(), "jar-slider", swap.changes), SHELF, "jar-slider")
        carriage = after.figures["balance.foot"].value
        assert abs(carriage) < 0.002, swap.kit


@pytest.mark.parametrize("rig", ["jar-slider", "kitchen-gantry"])
def test_the_order_of_loading_puts_what_holds_before_what_is_held(rig):
    result = solved(rig)
    steps = [step.text(Display()) for step in result.readings["loading"]]
    camera = next(k for k, step in enumerate(steps) if step.startswith("Camera on"))
    held = next(k for k, step in enumerate(steps) if step.startswith(("Tether on", "Park the carriage")))
    assert held < camera
    assert steps[-1].startswith("To unload go backwards")


def test_a_bored_shuttle_is_listed_as_it_is_built_without_wheels():
    project = changes.add_rig(sample(), "overhead", "shuttle")
    rig = project.rigs[-1].id
    result = evaluate(project, SHELF, rig)
    by_name = {part.name: part for part in result.parts}
    bought = {line.name: line.quantity for line in result.lines}
    assert by_name["Shuttle block"].length == project.rigs[-1].design["shuttle.guide"]
    plate = by_name["Carriage plate"]
    assert not [mark for mark in plate.marks if "axle" in mark.note]
    # Its screws go into the block: well inside it, along and across.
    (block,) = (
        part.places[0].frame(result.kind.bodies(result.model, np.zeros((1, 1))))
        for part in result.parts
        if part.name == "Shuttle block"
    )
    screws = [
        hole.at
        for hole in holes(result.parts, result.kind.bodies(result.model, np.zeros((1, 1))))
        if "shuttle" in hole.mark.note
    ]
    assert len(screws) == 4
    along, _, across = np.array([block.axes[0].T @ (at - block.at[0]) for at in screws]).T
    assert np.all((along > 0.01) & (along < by_name["Shuttle block"].length - 0.01) & (np.abs(across) < 0.0475 - 0.01))
    assert bought["Plain bush"] == 2
    assert not [name for name in bought if "roller" in name or "Axle" in name or "wheel" in name.lower()]
    wide = evaluate(
        changes.set_values(project, rig, [("shuttle.bore", 0.05), ("rod.largest", 0.0495), ("rod.smallest", 0.049)]),
        SHELF,
        rig,
    )
    assert "Shuttle block" not in {part.name for part in wide.parts}
    assert {"Shuttle, turned or printed", "Carriage plate"} <= {line.name for line in wide.lines} | {
        part.name for part in wide.parts
    }


@pytest.mark.parametrize("variant", ["bar", "boards"])
def test_each_figure_of_a_gantry_names_the_pose_at_which_it_is_worst_itself(variant):
    project = changes.add_rig(made("kitchen-gantry"), "gantry", variant)
    rig = project.rigs[-1].id
    result = evaluate(project, SHELF, rig)
    design, model = ask(project, SHELF, rig, lambda design, gantry: (design, gantry))
    for key, read in {
        "travel.drop": lambda one: one.drop[0],
        "travel.twist": lambda one: np.hypot(one.turn_x, one.turn_y)[0],
        "balance.post": lambda one: one.reactions.max(),
        "balance.least": lambda one: one.reactions.min(),
    }.items():
        why = result.figures[key].why.method
        x, across, angle = map(
            float, re.search(r"bridge at ([\d.]+) m, trolley ([\d.]+) m across, boom at (-?\d+)°", why).groups()
        )
        there = bent(design, model, np.array([[x, across, math.radians(angle), model.longest]]))
        assert read(there) == pytest.approx(value(result, key), rel=5e-3), key


def test_a_long_boom_breaks_at_its_hole_and_a_long_post_at_its_bolt_and_what_is_offered_holds():
    rig, long = "kitchen-gantry", {"boom__longest": 1.2, "boom__counter": 0.0}
    project = made(rig, **long)
    weak = finding(solved(rig, **long), "rig.boom")
    # Fibre by fibre over the tube 25×25×2 with a strip of 10.5 mm out of its top and bottom walls.
    y = (np.arange(25000) + 0.5) * 1e-6 - 0.0125
    wide = np.where(abs(y) > 0.0105, 0.025 - 0.0105, 0.004)
    modulus = float((wide * y**2).sum() * 1e-6 / 0.0125)
    kept = evaluate(project, SHELF, rig).model
    tip, line = kept.tip * GRAVITY, kept.boom_line * GRAVITY
    moment = tip * 1.2 + line * 1.2**2 / 2 + max(0.1 * tip, 20.0) * kept.drop
    assert weak.value == pytest.approx(1.5 * moment / modulus, rel=1e-4)
    assert weak.state == finding(solved(rig, **long), "rig.swing").state == STOP
    offered = next(f for f in last(vetted(project, SHELF, rig)) if f.key == "rig.boom").remedies
    assert offered
    mended = evaluate(changes.set_values(project, rig, offered[0].changes), SHELF, rig)
    assert finding(mended, "rig.boom").state == CLEAR
    assert finding(solved(rig, boom__section="steel-rod-10"), "rig.boom").state == STOP
    post = {"camera__rise": -1.5, "push__side": 50.0, "rail__height": 2.5}
    bent_post = finding(new("overhead", **post), "rig.post")
    less = {key.replace(".", "__"): v for key, v in bent_post.remedies[0].changes}
    assert bent_post.state == STOP
    assert finding(new("overhead", **{**post, **less}), "rig.post").state == CLEAR


@pytest.mark.parametrize(
    ("values", "key"),
    [
        ({"rail.height": 2.3}, "rig.stand_height"),
        ({"rail.height": 0.2}, "rig.stand_height"),
        ({"stand.radius": 1.15}, "rig.stand_spread"),
    ],
)
def test_a_sliders_stand_neither_rises_nor_spreads_beyond_what_it_is(values, key):
    project = changes.add_rig(blank(), "slider")
    rig = project.rigs[0].id
    assert all(f.key != key or f.state == CLEAR for f in evaluate(project, SHELF, rig).findings)
    broken = evaluate(changes.set_values(project, rig, list(values.items())), SHELF, rig, suggest=True)
    found = finding(broken, key)
    assert found.state == STOP
    for remedy in found.remedies:
        mended = changes.set_values(project, rig, [*values.items(), *remedy.changes])
        assert all(f.key != key or f.state == CLEAR for f in evaluate(mended, SHELF, rig).findings)


def test_a_runway_is_judged_as_the_beam_on_its_posts_that_it_is():
    project = changes.set_values(sample(), "kitchen-gantry", [("runway.posts", 2.0)])
    result = evaluate(project, SHELF, "kitchen-gantry")
    design, rig = ask(project, SHELF, "kitchen-gantry", lambda design, gantry: (design, gantry))
    line, length = rig.runway.line(SHELF.materials[rig.runway.material]) * GRAVITY, rig.length
    poses = np.array(
        [
            (length / 2, rig.across(s), k * math.pi / 4, rig.longest)
            for s in (0.0, 0.17, 0.33, 0.5)
            for k in np.arange(0, 8, 1 / 6)
        ]
    )
    # What the bridge brings is what its posts carry more than the runway itself; a load half-way bends with a quarter.
    sides = bent(design, rig, poses).reactions.reshape(len(poses), 2, 2).sum(axis=2) - line * length
    lever = rig.tip * GRAVITY * rig.longest + rig.boom_line * GRAVITY * (rig.longest**2 - rig.tail_end**2) / 2
    lever -= rig.counter * GRAVITY * rig.tail
    # The end wheels hold the bridge against twist: that bends the runway too, half of it to either side.
    twist = np.abs(lever * np.cos(poses[:, 2])) * (1 - poses[:, 1] / rig.span)
    moment = float((sides[:, 0] * length / 4 + twist / 2).max()) + line * length**2 / 8
    found = result.figures["rig.runway_stress"].value
    assert found == pytest.approx(1.5 * moment / rig.runway.left_at(0.0065), rel=1e-3)
    # A slat for a runway was clear once.
    thin = changes.set_values(
        project, "kitchen-gantry", [("runway.section", "al6063-flat-6x30"), ("runway.length", 3.0)]
    )
    assert finding(evaluate(thin, SHELF, "kitchen-gantry"), "rig.runway").state == STOP


def test_a_bridge_is_twisted_as_far_as_its_material_bears_and_tall_thin_posts_bow_out():
    def twist(**values):
        project = changes.set_values(sample(), "kitchen-gantry", [(k.replace("__", "."), v) for k, v in values.items()])
        return evaluate(project, SHELF, "kitchen-gantry")

    bare, weighted = twist(boom__counter=0.0), twist()
    assert finding(bare, "rig.bridge_twist").state == STOP
    assert finding(weighted, "rig.bridge_twist").state == CLEAR
    rig = bare.model
    lever = rig.tip * GRAVITY * rig.longest + rig.boom_line * GRAVITY * (rig.longest**2 - rig.tail_end**2) / 2
    # The boom along the runways twists the bridge; held at both ends, the nearer end takes the larger share.
    share = 1 - rig.edge / rig.span
    modulus = rig.bridge.gj / (rig.bridge.material.G * 0.018)
    assert value(bare, "rig.bridge_shear") == pytest.approx(1.5 * lever * share / modulus, rel=0.01)
    low, high = twist(runway__height=1.5), twist(runway__height=3.0)
    assert value(low, "rig.leg_bows") == pytest.approx(4 * value(high, "rig.leg_bows"))
    heavy = twist(runway__height=4.0, trolley__mass=20.0)
    assert finding(heavy, "rig.leg_buckles").state == STOP


def test_on_one_tripod_the_rail_is_bent_alike_to_either_side_and_the_head_must_hold_it():
    project = changes.add_rig(blank(), "slider")
    rig = project.rigs[0].id
    values = [("support", "tripod"), ("camera.ahead", 0.0), ("rail.length", 1.2)]

    def on(**more):
        made = changes.set_values(project, rig, [*values, *((k.replace("__", "."), v) for k, v in more.items())])
        return evaluate(made, SHELF, rig), ask(made, SHELF, rig, lambda ride, rail: (ride, rail))

    result, (ride, rail) = on()
    # The moment in the head makes a step in the rail: both sides of it are looked at.
    ahead = float(rail.cg[0])
    if abs(ahead) < 1e-6:
        assert ride.bending == pytest.approx(ride.bending[::-1], rel=1e-6)
    out = float(np.abs(ride.x + ahead - rail.length / 2).max())
    assert value(result, "travel.head_moment") == pytest.approx(
        math.hypot(rail.weight * out, rail.weight * float(rail.cg[1])), rel=1e-3
    )
    assert finding(on(head__holds=5.0)[0], "travel.head_slips").state == STOP
    assert finding(on(head__holds=200.0)[0], "travel.head_slips").state == CLEAR


def test_outside_its_two_rails_the_camera_loads_one_with_more_than_all_of_it():
    project = changes.add_rig(blank(), "slider", "rods")
    rig = project.rigs[0].id

    def stress(aside):
        made = changes.set_values(project, rig, [("camera.aside", aside)])
        rail = ask(made, SHELF, rig, lambda rail: rail)
        return evaluate(made, SHELF, rig).figures["rig.stress"].value, abs(float(rail.cg[1])), rail.spacing

    (level, near, _), (beyond, off, spacing) = stress(0.0), stress(0.3)
    assert off > spacing / 2
    assert beyond / level == pytest.approx((0.5 + off / spacing) / (0.5 + near / spacing), rel=0.02)


@pytest.mark.parametrize(
    ("kind", "values", "figure"),
    [
        ("slider", {"rail.section": "al6063-flat-5x20", "rail.length": 3.0, "kit.0.mass": 12.0}, "travel.drop"),
        ("jib", {"arm.section": "al6063-15x15x1.5", "arm.front": 3.0}, "rig.sag"),
        ("gantry", {"variant": "boards", "board.thick": 0.006, "board.web": 0.03, "boom.longest": 1.2}, "travel.drop"),
    ],
)
def test_what_bends_further_than_the_method_holds_for_is_a_stop_that_says_so(kind, values, figure):
    project = changes.add_rig(blank(), kind)
    rig = project.rigs[0].id
    assert not any(f.key == "rig.too_soft" for f in evaluate(project, SHELF, rig).findings)
    soft = evaluate(changes.set_values(project, rig, list(values.items())), SHELF, rig)
    found = finding(soft, "rig.too_soft")
    assert found.state == STOP
    assert abs(value(soft, figure)) > 0.1
    assert "158" not in "".join(f.sentence.text(Display()) for f in soft.findings if f.key == "travel.level")


def test_a_slider_is_not_tipped_by_its_own_hard_stop_unsaid():
    project = changes.add_rig(blank(), "slider")
    rig = project.rigs[0].id
    values = [("support", "tripod"), ("stand.radius", 0.6), ("rail.length", 0.8), ("camera.ahead", 0.0)]
    project = changes.set_values(project, rig, [*values, ("head.holds", 200.0)])
    hard = evaluate(changes.set_values(project, rig, [("push.brake", 9.0)]), SHELF, rig, suggest=True)
    found = finding(hard, "balance.stopped")
    assert found.state == STOP
    assert found.limit == pytest.approx(9.0 * hard.model.way.moving)
    soft = next(remedy for remedy in found.remedies if remedy.key == "softer")
    mended = evaluate(changes.set_values(project, rig, soft.changes), SHELF, rig)
    assert finding(mended, "balance.stopped").state == CLEAR
