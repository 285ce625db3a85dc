"""Every construction of a jib: balance and drift against a multibody engine, the frame against closed forms, holes by
trying them all.
"""

from __future__ import annotations

import math
from itertools import combinations

import mujoco
import numpy as np
import pytest
from bench import designs

from hazel_lantern.core.advice.schools import ways
from hazel_lantern.core.editing import bindings, changes
from hazel_lantern.core.evaluate import ask, evaluate, perform
from hazel_lantern.core.kinds import KINDS
from hazel_lantern.core.kinds.jib.balance.weights import rack
from hazel_lantern.core.kinds.jib.model import ARM, BAR, BY_BARS, BY_MOTOR, LEVEL, frames
from hazel_lantern.core.kinds.jib.strength import frame as structure
from hazel_lantern.core.mechanics import balance, beam, cables, footing
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.finding import CLEAR, STOP, WATCH
from hazel_lantern.core.nouns.progress import last
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.core.nouns.units import GRAVITY, Display
from tests.helpers import SHELF, finding, sample, value

VARIANTS = [variant for variant, _ in KINDS["jib"].variants]


def jib_of(variant, **values):
    """A new rig of a construction in the sample, sized and balanced unless it is a riser, with values set: project,
    design, model.
    """
    project = changes.add_rig(sample(), "jib", variant)
    rig = project.rigs[-1].id
    if variant == "riser":
        project = changes.set_values(project, rig, [("shot.start", 1.2), ("shot.end", 1.9)])
    for action in KINDS["jib"].actions:
        project = changes.set_values(project, rig, perform(project, SHELF, rig, action.station))
    project = changes.set_values(project, rig, [(key.replace("__", "."), v) for key, v in values.items()])
    result = evaluate(project, SHELF, rig)
    return project, result.known["design"], result.model


def solved(project):
    return evaluate(project, SHELF, project.rigs[-1].id)


def multibody(jib, friction=0.0):
    """The mechanism in an engine of its own: arm, head on a hinge, upper bar closed by a joint where there is one.
    Angles positive front up.
    """

    def body(frames, root, level=False):
        parts = [b for b in jib.bodies if b.frame in frames]
        mass = sum(b.mass for b in parts)
        at = [sum(b.mass * getattr(b, axis) for b in parts) / mass for axis in ("along", "above")]
        spread = sum(b.mass * ((b.along - at[0]) ** 2 + (b.above - at[1]) ** 2) for b in parts) + 1e-3
        return f'<inertial pos="{at[0] + root} 0 {at[1]}" mass="{mass}" diaginertia="{spread} {spread} {spread}"/>'

    (_, z), (x2, z2) = jib.pivots()
    upper = (
        f'<body name="bar" pos="{x2} 0 {z2}"><joint name="bar" axis="0 -1 0"/>{body((BAR,), 0.0)}</body>'
        if jib.level == BY_BARS
        else ""
    )
    closed = (
        f'<connect body1="bar" body2="head" anchor="{jib.upper} 0 0" solref="0.002 1"/>' if jib.level == BY_BARS else ""
    )
    return mujoco.MjModel.from_xml_string(f"""<mujoco><compiler autolimits="true"/>
      <option gravity="0 0 -{GRAVITY}" timestep="0.0005" integrator="implicitfast"/>
      <worldbody><body name="arm" pos="0 0 {z}">
        <joint name="arm" axis="0 -1 0" frictionloss="{friction}"/>{body((ARM,), 0.0)}
        <body name="head" pos="{jib.front} 0 0"><joint name="head" axis="0 1 0"/>{body((LEVEL,), 0.0)}</body>
      </body>{upper}</worldbody>
      <equality>{closed}</equality></mujoco>""")


def set_angle(model, data, theta):
    for name in ("arm", "head", "bar"):
        joint = mujoco.mj_name2id(model, mujoco.mjtObj.mjOBJ_JOINT, name)
        if joint >= 0:
            data.qpos[joint] = theta
    data.qvel[:] = 0
    mujoco.mj_forward(model, data)


@pytest.mark.parametrize("variant", VARIANTS)
def test_moment_about_the_pivot_is_the_multibody_engines(variant):
    _, _, jib = jib_of(variant, weights__above=-0.05, weights__place=0.3, head__ahead=0.12)
    model = multibody(jib)
    data = mujoco.MjData(model)
    for theta in np.linspace(jib.limits.low * 0.8, jib.limits.high * 0.8, 5):
        set_angle(model, data, theta)
        # Gravity's pull on each freedom; what stays level turns back as the arm turns, unless a motor carries
        # its moment into the arm.
        pull = -data.qfrc_bias
        turned = {BY_MOTOR: 0.0}.get(jib.level, 1.0)
        moment = pull[0] + turned * pull[1] + (pull[2] if jib.level == BY_BARS else 0.0)
        assert float(balance.front_up_moment(jib.arm_balance, theta)) == pytest.approx(moment, rel=1e-6, abs=1e-6)


@pytest.mark.parametrize(("share", "moves"), [(0.98, False), (1.05, True)])
def test_friction_holds_the_arm_just_where_the_engine_says(share, moves):
    _, _, jib = jib_of("two_bars", weights__above=-0.08)
    low, high = balance.stay_put(jib.arm_balance, -1.4, 1.4)[0]
    # Just inside and just outside the place where friction lets go, by a few hundredths of the moment.
    edge = min(-low, high)
    theta = next(
        t
        for t in np.linspace(0, 1.3, 2000)
        if abs(balance.front_up_moment(jib.arm_balance, t)) >= share * jib.arm_balance.friction
    )
    assert (theta > edge) == moves
    model = multibody(jib, friction=jib.arm_balance.friction)
    data = mujoco.MjData(model)
    set_angle(model, data, theta)
    for _ in range(6000):
        mujoco.mj_step(model, data)
    assert (abs(data.qvel[0]) > 1e-3) == moves


def test_it_rests_where_the_sum_of_all_moments_is_nought_behind_a_motor_too():
    for level in (0.0, 0.15, -0.1):
        arm = balance.Arm(0.2, -0.9, 0.4, level)
        rest = balance.equilibrium(arm)
        assert float(balance.front_up_moment(arm, rest)) == pytest.approx(0, abs=1e-9)
        theta = np.linspace(-1.2, 1.2, 4001)
        held = np.abs(balance.front_up_moment(arm, theta)) <= arm.friction
        inside = np.zeros_like(held)
        for low, high in balance.stay_put(arm, -1.2, 1.2):
            inside |= (theta >= low) & (theta <= high)
        assert (held != inside).sum() <= 4
    assert balance.equilibrium(balance.Arm(0.1, 0.1, 0.0, 3.0)) is None


@pytest.mark.parametrize("variant", VARIANTS)
def test_the_frame_droops_and_bounces_as_a_clamped_beam_does(variant):
    _, design, jib = jib_of(variant)
    ei, line = (
        jib.bars * jib.arm_material.E * jib.arm_section.iy,
        beam.arm_weight(jib.mass_of("arm"), jib.front + jib.rear + 0.05),
    )
    tip = jib.head_mass + sum(b.mass for b in jib.bodies if b.name in ("upper bar", "cable")) / 2
    sag = beam.tip_sag(ei, jib.front, tip * GRAVITY, line)
    slope = tip * GRAVITY * jib.front**2 / (2 * ei) + line * jib.front**3 / (6 * ei)
    found = structure.bent(jib, structure.build_frame(design, jib, 0.0))
    # What a motor holds turns with the arm's end; a bar or cable keeps it level but for its own stretch.
    wanted = sag + (slope * jib.lens[0] if jib.level == BY_MOTOR else 0.0)
    assert wanted * 0.97 < found.drop < wanted * 1.2 + 2e-3
    assert found.moment == pytest.approx(beam.root_moment(jib.front, tip * GRAVITY, line), rel=0.12)
    rates = structure.swings(jib, structure.build_frame(design, jib, 0.0))
    clamped = beam.clamped_frequency(ei, jib.front, tip, line * jib.front / GRAVITY)
    assert (0.35 if variant == "riser" else 0.7) * clamped < rates.held < 1.02 * clamped
    assert rates.free > rates.held * 0.95
    assert rates.sideways < clamped


def test_a_stay_takes_load_off_the_arm_and_a_pair_of_bars_halves_its_droop():
    _, design, jib = jib_of("plain")
    bare = structure.bent(jib, structure.build_frame(design, jib, 0.0))
    _, design, stayed = jib_of("plain", stay__mast=0.45, stay__rope="wire-3")
    held = structure.bent(stayed, structure.build_frame(design, stayed, 0.0))
    ei = stayed.arm_material.E * stayed.arm_section.iy
    rope, load = SHELF.ropes["wire-3"], 100.0
    wanted = cables.stayed(stayed.front, ei, 0.45, rope.ea / 100e9, 100e9, load).sag / (
        load * stayed.front**3 / (3 * ei)
    )
    # The mast stands on the arm, not on a wall: its rear stay gives a little too.
    assert wanted < held.drop / bare.drop < 1.25 * wanted
    assert held.stay > 0
    assert held.moment < 0.6 * bare.moment
    _, design, pair = jib_of("plain", arm__made="pair")
    assert 0.5 < structure.bent(pair, structure.build_frame(design, pair, 0.0)).drop / bare.drop < 0.68


def test_wheels_of_one_size_keep_it_level_and_others_turn_it_in_proportion():
    _, _, jib = jib_of("cable")
    theta = np.linspace(-0.6, 0.6, 7)
    assert jib.tilts(theta) == pytest.approx(0)
    _, _, uneven = jib_of("cable", cable__head_wheel=0.15)
    assert uneven.tilts(theta) == pytest.approx(theta * (1 - 0.12 / 0.15))
    _, _, trimmed = jib_of("cable", cable__adjust=0.001)
    assert trimmed.tilts(0.0) == pytest.approx(0.001 / 0.06)


@pytest.mark.parametrize(
    ("variant", "values", "key", "state"),
    [
        ("cable", {"cable__tension": 5.0}, "rig.cable_tight", STOP),
        ("cable", {"cable__rope": "cord-4"}, "rig.cable_soft", WATCH),
        ("cable", {"cable__post_wheel": 0.04, "cable__head_wheel": 0.04}, "rig.cable_bend", WATCH),
        ("cable", {"cable__tension": 3000.0}, "rig.cable_strong", STOP),
        ("plain", {"head__tilt_down": -0.2}, "rig.head_range", WATCH),
        ("two_bars", {"head__spacing": 0.5}, "rig.impossible", STOP),
        ("two_bars", {"weights__carried": "holes", "weights__place": 0.437}, "balance.on_hole", STOP),
        ("two_bars", {"weights__carried": "hanging"}, "balance.swinging", WATCH),
        ("riser", {"wind__speed": 20.0, "wind__area": 0.5}, "balance.bump", STOP),
        ("two_bars", {"pan__bearing": "head-light"}, "balance.pan_strong", STOP),
        ("two_bars", {"arm__joint": 5.0}, "rig.sleeve_place", STOP),
        ("two_bars", {"arm__joint": 0.3, "arm__sleeve": 0.08, "arm__sleeve_play": 0.002}, "rig.sleeve_play", WATCH),
        ("two_bars", {"stand": "tripod-light", "hands": "two"}, "balance.steer", STOP),
        ("two_bars", {"arm__end": 0.008, "arm__section": "plywood-18x60", "head__mass": 14.0}, "rig.torn", STOP),
    ],
)
def test_what_is_wrong_with_a_construction_is_said_at_its_place(variant, values, key, state):
    project, _, _ = jib_of(variant)
    rig = project.rigs[-1].id
    assert all(f.key != key or f.state == CLEAR for f in solved(project).findings)
    broken = changes.set_values(project, rig, [(k.replace("__", "."), v) for k, v in values.items()])
    found = finding(solved(broken), key)
    assert found.state == state
    assert found.sentence.text(Display())


@pytest.mark.parametrize("variant", VARIANTS)
def test_every_why_of_every_construction_gives_its_figure(variant):
    project, _, _ = jib_of(variant, weights__carried="holes", arm__joint=0.2, stay__mast=0.3, wind__speed=6.0)
    known = bindings.parameters(project, project.rigs[-1].id)
    result = solved(project)
    for figure in result.figures.values():
        assert not figure.why.formula or figure.why.recompute() == pytest.approx(figure.value, rel=1e-12)
        for given in figure.why.inputs:
            assert not given.ref or given.ref in known or given.ref in result.figures, (figure.key, given.ref)
    # What only another construction has is not laid out.
    hidden = [p.key for p in known.values() if isinstance(p, Quantity) and p.only and variant not in p.only]
    assert hidden


def test_weights_in_holes_are_the_best_of_all_choices():
    project, design, jib = jib_of("two_bars", weights__carried="holes", weights__step=0.06)
    weights = ask(project, SHELF, project.rigs[-1].id, lambda owned: owned)
    chosen, place = (change for _, change in rack(design, weights, jib.front_moment))
    owned = dict(weights)
    holder, near, far = design.number("weights.holder"), design.number("weights.nearest"), jib.rear
    holes = np.arange(near, far + 1e-9, 0.06)

    def left(ids, hole):
        return round(abs((sum(owned[i].mass for i in ids) + holder) * hole - jib.front_moment), 6)

    best = min(left(ids, hole) for n in range(1, len(owned) + 1) for ids in combinations(owned, n) for hole in holes)
    assert left(chosen, place) == pytest.approx(best, abs=2e-4)
    with pytest.raises(InfeasibleError):
        rack(design, weights, 1e2)


def test_the_footing_map_agrees_with_each_pose_worked_out_alone():
    project, _, jib = jib_of("two_bars")
    field = solved(project).readings["footing"]
    needed, knock = 2.0, footing.knock_default(jib.mass * GRAVITY)
    heights = {round(float(h), 9): k for k, h in enumerate(field.y)}
    for row, column in ((0, 0), (13, 20), (27, 55)):
        angle, pan = jib.angle_for(float(field.y[row])), float(field.x[column])
        places = jib.places(angle)[0]
        worst = 0.0
        for camera in (True, False):
            masses = [b.mass if camera or b.name != "camera kit" else 0.0 for b in jib.bodies]
            at = np.array(
                [
                    (x * math.cos(pan) - b.aside * math.sin(pan), x * math.sin(pan) + b.aside * math.cos(pan), z)
                    if b.frame != "fixed"
                    else (x, b.aside, z)
                    for b, (x, z) in zip(jib.bodies, places, strict=True)
                ]
            )
            stood = footing.footing(jib.feet, masses, at)
            worst = max(worst, needed / stood.factor, knock / stood.knock(float(field.y[row])))
        assert field.use[row, column] == pytest.approx(worst, rel=1e-6)
    assert len(heights) == len(field.y)


@pytest.mark.parametrize("seed", [5, 8, 9])
def test_each_footing_figure_is_at_its_own_worst_of_all_poses(seed):
    """Brute force over arm angle, pan and camera; each of these poses is one by itself in the tests of footing."""
    project = designs.design(SHELF, "jib", "two_bars", seed)
    result, jib = evaluate(project, SHELF, project.rigs[0].id), ask(project, SHELF, project.rigs[0].id, lambda jib: jib)
    wind = result.figures["balance.wind"].value if "balance.wind" in result.figures else 0.0
    angles = np.append(np.linspace(jib.limits.low, jib.limits.high, 61), 0.0)
    angles = angles[(angles >= jib.limits.low) & (angles <= jib.limits.high)]
    places, turning = jib.places(angles), np.array([b.frame != "fixed" for b in jib.bodies])
    at = np.stack([places[..., 0], np.broadcast_to(jib.asides, places.shape[:2]), places[..., 1]], axis=-1)
    on = np.array([b.mass for b in jib.bodies])
    masses = np.stack([on, np.where([b.name == "camera kit" for b in jib.bodies], 0.0, on)])
    pans = np.linspace(0, 2 * math.pi, 180, endpoint=False)
    holds, tips = footing.around(
        jib.feet, on[~turning].tolist(), at[0, ~turning], masses[:, turning], at[:, turning], pans
    )
    with np.errstate(divide="ignore"):
        factors = np.where(tips > 0, holds / np.maximum(tips, 1e-300), np.inf)
    margins = (holds - tips).min(axis=-1)
    lens, rear = jib.lens_height(angles), jib.height - jib.rear * np.sin(angles)
    least = {
        "footing": float(factors.min()),
        "footing_margin": float((margins.min(axis=(1, 2)) / masses.sum(axis=1) / GRAVITY).min()),
        "tips_at": float((margins / np.maximum(lens, 0.1)[:, None]).min()) - wind,
        "steer_at": float((margins / np.maximum(rear, 0.1)[:, None]).min()),
    }
    for key, brute in least.items():
        found = result.figures[f"balance.{key}"].value
        assert found <= brute + 1e-6 * abs(brute) + 1e-9, key
        assert found == pytest.approx(brute, rel=0.01, abs=0.002 if key == "footing_margin" else 0.3), key


def test_another_kit_balances_after_the_change_its_card_offers():
    for variant in ("two_bars", "plain"):
        project, _, _ = jib_of(variant, weights__above=0.0)
        rig, before = project.rigs[-1].id, value(solved(project), "balance.drift")
        for swap in solved(project).readings["swaps"]:
            assert swap.words.text(Display())
            if swap.changes:
                after = solved(changes.set_values(project, rig, swap.changes))
                assert value(after, "balance.drift") < before + 0.25


def test_the_order_of_loading_names_strap_camera_and_every_weight():
    project, design, _ = jib_of("two_bars", ballast__mass=8.0)
    steps = [step.text(Display()) for step in solved(project).readings["loading"]]
    order = [
        next(k for k, s in enumerate(steps) if word in s)
        for word in ("ballast", "Strap the arm down", "camera on", "Hang the weights", "loosen")
    ]
    assert order == sorted(order)
    assert steps[order[3]].count(" kg") == len(design.several("weights.hung"))


def test_schools_are_told_apart_by_figures_and_change_nothing():
    project, _, _ = jib_of("two_bars")
    found = dict(last(ways(project, SHELF, project.rigs[-1].id)))
    assert {"Pivots", "Balancing", "Pivot held by", "Stand", "Arm", "Tilt trim"} == set(found)
    tight, loose, ball = (way.figures["balance.friction"].value for way in found["Pivots"])
    assert tight > loose > ball
    assert [way.taken for way in found["Tilt trim"]] == [True, False, False]
    boards = found["Arm"][2]
    assert boards.figures["rig.bounce_locked"].value < found["Arm"][0].figures["rig.bounce_locked"].value


def test_changing_the_construction_takes_usual_sizes_along_and_keeps_what_was_typed():
    project, _, _ = jib_of("two_bars", head__rise=0.2)
    rig = project.rigs[-1].id
    other = changes.set_values(project, rig, [("variant", "plain")]).rigs[-1]
    assert other.variant == "plain"
    assert other.design["head.mass"] == 1.3
    assert other.design["head.rise"] == 0.2
    back = changes.set_values(
        changes.set_values(project, rig, [("variant", "plain")]), rig, [("variant", "two_bars")]
    ).rigs[-1]
    assert back.design == project.rigs[-1].design


def test_a_split_arm_is_cut_in_two_pieces_that_make_up_its_length():
    project, _, jib = jib_of("two_bars", arm__joint=0.3)
    pieces = {part.mark: part for part in solved(project).parts}
    whole = jib.front + jib.rear + 2 * 0.025
    assert pieces["A1"].length + pieces["A2"].length == pytest.approx(whole)
    assert pieces["A2"].marks[-1].at == pytest.approx(jib.front - 0.3)
    assert value(solved(project), "rig.longest") < whole


def test_a_sleeve_presses_its_bolts_as_two_forces_on_a_lever_and_play_drops_the_head_by_similar_triangles():
    project, design, jib = jib_of("two_bars", arm__joint=0.4, arm__sleeve=0.4, arm__sleeve_play=0.0005)
    result = solved(project)
    line = beam.arm_weight(jib.mass_of("arm"), jib.front + jib.rear + 2 * design.number("arm.end"))
    moment = jib.head_mass * GRAVITY * (jib.front - 0.4) + line * (jib.front - 0.4) ** 2 / 2
    force = 1.5 * moment / (0.2 - 4 * jib.bolt.d)
    assert value(result, "rig.sleeve_pressure") == pytest.approx(force / (jib.bolt.d * jib.arm.walls))
    # Each half may turn by its gap over its length; the two turns add up.
    assert value(result, "rig.sleeve_drop") == pytest.approx(2 * (0.0005 / 0.2) * (jib.front - 0.4))


def test_head_pins_carry_the_weight_and_all_the_cable_pulls():
    project, _, jib = jib_of("cable", cable__tension=150.0)
    level = changes.set_values(
        project,
        project.rigs[-1].id,
        [("shot.start", float(jib.lens_height(0.0))), ("shot.end", float(jib.lens_height(0.0)))],
    )
    assert value(solved(level), "rig.head_pin") == pytest.approx(math.hypot(jib.head_mass * GRAVITY, 300.0))
    torn = value(solved(level), "rig.tear_out") * 2 * 0.025 * jib.arm.walls * jib.bars
    assert torn == pytest.approx(1.5 * value(solved(level), "rig.head_pin"))


def test_wind_takes_its_share_of_what_a_bump_may_be_and_pans_as_hard_as_its_bearing_says():
    calm, _, jib = jib_of("two_bars")
    windy = changes.set_values(calm, calm.rigs[-1].id, [("wind.speed", 8.0), ("wind.area", 0.1)])
    push = 0.5 * 1.225 * 1.2 * 0.1 * 64
    assert value(solved(windy), "balance.wind") == pytest.approx(push)
    assert value(solved(calm), "balance.tips_at") - value(solved(windy), "balance.tips_at") == pytest.approx(
        push, rel=0.05
    )
    assert value(solved(calm), "balance.pan") == pytest.approx(jib.pan.friction / jib.front)
    # The tilting moment is at least that of the balanced arm losing its camera.
    assert value(solved(calm), "balance.pan_moment") > jib.mass_of("camera kit") * GRAVITY * jib.front * 0.9


def test_the_frame_is_even_left_and_right_and_gives_most_where_it_is_weakest():
    _, design, jib = jib_of("cable")
    made = structure.build_frame(design, jib, 0.3)
    for name, place in zip(made.names, made.places, strict=True):
        if name.endswith("left"):
            other = made.places[made.node(name.replace("left", "right"))]
            assert place == pytest.approx(other * (1, -1, 1))
    soft = structure.swings(jib, structure.build_frame(*_with(pan__bearing="head-light"), 0.0))
    stiff = structure.swings(jib, structure.build_frame(*_with(pan__bearing="plate-300"), 0.0))
    assert soft.sideways < stiff.sideways


def _with(**values):
    _, design, jib = jib_of("cable", **values)
    return design, jib


def test_an_arm_longer_than_its_stock_is_offered_a_joint_that_fits():
    project, _, jib = jib_of(
        "two_bars", arm__front=2.2, arm__rear=0.7, weights__place=0.6, weights__nearest=0.4, pivot__height=1.6
    )
    rig = project.rigs[-1].id
    stopped = next(f for f in evaluate(project, SHELF, rig, suggest=True).findings if f.key == "build.stock")
    assert stopped.state == STOP
    joined = changes.set_values(project, rig, stopped.remedies[0].changes)
    result = solved(joined)
    assert all(f.key not in ("build.stock", "rig.sleeve_place") for f in result.findings)
    assert max(part.length for part in result.parts if part.mark in ("A1", "A2")) <= max(
        SHELF.sections[jib.arm.id].lengths
    )


def test_a_levelling_cable_presses_and_stresses_its_arm_and_a_slender_arm_bows_out():
    _, _, jib = jib_of("cable")
    loose, tight = (solved(jib_of("cable", cable__tension=pull)[0]) for pull in (300.0, 400.0))
    area = jib.bars * jib.arm_section.area
    assert value(tight, "rig.arm_presses") - value(loose, "rig.arm_presses") == pytest.approx(200.0)
    assert value(tight, "rig.stress") - value(loose, "rig.stress") == pytest.approx(200.0 / area)
    weak = jib.arm_material.E_low * min(jib.arm_section.iy, jib.arm_section.iz)
    assert value(tight, "rig.arm_bows") == pytest.approx(math.pi**2 * weak * jib.bars / (2 * jib.front) ** 2)
    assert finding(tight, "rig.arm_buckles").state == CLEAR
    slender = solved(jib_of("cable", cable__tension=400.0, arm__front=2.6, arm__section="al6063-15x15x1.5")[0])
    assert finding(slender, "rig.arm_buckles").state == STOP


def test_a_hard_pan_stop_bends_the_arm_sideways_in_proportion_and_is_judged():
    _, _, jib = jib_of("plain")
    soft, hard = (solved(jib_of("plain", pan__stop=stop)[0]) for stop in (1.0, 20.0))
    assert value(hard, "rig.pan_bends") == pytest.approx(20 * value(soft, "rig.pan_bends"))
    line = jib.bars * jib.arm.line(jib.arm_material)
    # The inertia of every slice of the arm, its acceleration growing from the pivot to the head.
    u = np.linspace(0, jib.front, 2001)
    slices = np.trapezoid(line * u / jib.front * u, u)
    assert value(soft, "rig.pan_bends") == pytest.approx(jib.head_mass * jib.front + slices, rel=1e-5)
    assert finding(soft, "rig.pan_strong").state == CLEAR
    thin = solved(jib_of("plain", pan__stop=20.0, arm__section="al6063-15x15x1.5")[0])
    assert finding(thin, "rig.pan_strong").state == STOP


def test_an_arm_is_pressed_most_where_it_points_up_even_if_it_is_steeper_downwards():
    project, design, jib = jib_of("plain", shot__start=0.45, shot__end=2.3, pivot__height=1.7)
    used = ask(project, SHELF, project.rigs[-1].id, lambda used: used)
    assert abs(used[0]) > used[1] > 0.1
    thrusts = [-structure.bent(jib, structure.build_frame(design, jib, a)).thrust for a in np.linspace(*used, 9)]
    assert thrusts[-1] > 0 > thrusts[0]
    assert value(solved(project), "rig.arm_presses") == pytest.approx(1.5 * max(thrusts))


@pytest.mark.parametrize("variant", VARIANTS)
@pytest.mark.parametrize("lean", [0.0, 0.08])
def test_bodies_are_where_the_frames_of_their_pieces_put_them(variant, lean):
    """The places that balance and footing reckon with, against the frames that drawings and drives use."""
    _, _, jib = jib_of(variant, post__lean=lean, weights__above=-0.05)
    angles = np.linspace(jib.limits.low, jib.limits.high, 7)
    where = frames(jib, np.column_stack([angles, np.zeros_like(angles)]))
    found = jib.places(angles)
    for k, body in enumerate(jib.bodies):
        there = where[body.frame].place((body.along, body.aside, body.above))
        assert found[:, k] == pytest.approx(there[:, [0, 2]], abs=1e-9), body.name
    # Panned, all but what stands still goes round with it.
    turned = frames(jib, np.column_stack([angles, np.full_like(angles, 0.7)]))
    for name, frame in turned.items():
        out = where[name].at[:, :2] @ np.array([[math.cos(0.7), math.sin(0.7)], [-math.sin(0.7), math.cos(0.7)]])
        assert frame.at[:, :2] == pytest.approx(where[name].at[:, :2] if name == "fixed" else out, abs=1e-9)
        assert np.linalg.det(frame.axes) == pytest.approx(1.0)
        assert frame.axes @ np.swapaxes(frame.axes, 1, 2) == pytest.approx(np.broadcast_to(np.eye(3), frame.axes.shape))


@pytest.mark.parametrize("variant", VARIANTS)
@pytest.mark.parametrize("carried", ["slot", "holes", "peg", "bag", "hanging", "upright"])
def test_the_two_sides_told_are_what_every_piece_makes_where_it_acts(variant, carried):
    """Pieces from the drawing alone: those of the head at its pin, those of a rear upright or of what hangs at theirs;
    a powered head, which a motor holds, counts where it is.
    """
    project, _, _ = jib_of(variant)
    values = [("weights.carried", carried), ("weights.above", -0.06)]
    result = solved(changes.set_values(project, project.rigs[-1].id, values))
    if carried == "upright" and variant in ("cable", "plain"):  # no second bar holds it
        assert finding(result, "rig.impossible").state == STOP
        return
    jib, held = result.model, variant == "plain"

    def acts(piece):
        ahead = float(piece.centre[0])
        at = {"hung": -jib.place, "rear": -jib.place, "level": jib.front + held * ahead}
        return at.get(piece.body, ahead)

    swung = [p for p in result.laid.placed if p.body in ("arm", "bar", "level", "hung", "rear")]
    hung = sum(p.mass * acts(p) for p in swung if p.name.startswith("weight"))
    front = sum(p.mass * acts(p) for p in swung if not p.name.startswith("weight"))
    assert value(result, "balance.front") == pytest.approx(front * GRAVITY, rel=1e-9)
    assert value(result, "balance.rear") == pytest.approx(-hung * GRAVITY, rel=1e-9)
    holder = result.known["design"].number("weights.holder")
    assert value(result, "balance.needed") == pytest.approx(front / jib.place - holder, rel=1e-9)
