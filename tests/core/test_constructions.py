"""Ways to build a rig that are met in practice: by their own geometry, energy and beams,
not by the code that has them."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
import pytest

from hazel_lantern.core.editing import changes
from hazel_lantern.core.editing.starting import blank
from hazel_lantern.core.evaluate import evaluate, perform
from hazel_lantern.core.kinds.gantry.model import frames as gantry_frames
from hazel_lantern.core.kinds.jib.model import frames
from hazel_lantern.core.mechanics import sections
from hazel_lantern.core.nouns.units import GRAVITY
from tests.helpers import SHELF, finding, value

BUILT = [
    ("two_bars", {"weights__carried": "upright", "weights__above": -0.07, "post__made": "single", "post__lean": 0.1}),
    ("cable", {"cable__over": "pins", "cable__post_wheel": 0.16, "cable__head_wheel": 0.16}),
    ("plain", {"post__made": "head", "pan__bearing": "head-heavy", "weights__carried": "bag", "weights__bag": 9.0}),
    ("riser", {"post__made": "between", "arm__made": "pair", "arm__section": "pine-18x44", "weights__carried": "peg"}),
    ("plain", {"arm__made": "tapered", "arm__section": "al6063-round-40x2", "arm__tip": "al6063-round-25x2"}),
]


def new(kind: str, variant: str, **values):
    project = changes.add_rig(blank(), kind, variant)
    pairs = [(key.replace("__", "."), one) for key, one in values.items()]
    project = changes.set_values(project, project.rigs[0].id, pairs)
    return project, evaluate(project, SHELF, project.rigs[0].id)


@pytest.mark.parametrize(("variant", "values"), BUILT)
def test_an_arm_is_balanced_where_lifting_everything_costs_nothing(variant, values):
    """The moment about the pivot is what the height of every piece gains by for each turn of the arm."""
    _, told = new("jib", variant, **values)
    jib = told.model
    assert value(told, "balance.friction") == pytest.approx(jib.arm_balance.friction, rel=1e-9)
    turn = 1e-5

    def height(angle: float) -> float:
        bodies = frames(jib, np.array([[angle, 0.0]]))
        return sum(piece.mass * float(bodies[piece.body].place(piece.centre)[0][2]) for piece in jib.laid.placed)

    # Hung weights and a motor's head keep level: they rise as their pin does, which their frames know.
    for angle in (jib.limits.low / 2, 0.0, jib.limits.high / 3):
        rises = GRAVITY * (height(angle + turn) - height(angle - turn)) / (2 * turn)
        arm = jib.arm_balance
        moment = GRAVITY * (arm.along * math.cos(angle) - arm.above * math.sin(angle))
        level = GRAVITY * arm.level if jib.level != "motor" else 0.0
        assert moment + level == pytest.approx(rises, abs=0.02 + 0.002 * abs(rises))


@pytest.mark.parametrize(("variant", "values"), [*BUILT[:1], *BUILT[2:4]])
def test_balance_it_for_me_balances_each_as_it_is_carried(variant, values):
    project, _ = new("jib", variant, **values)
    rig = project.rigs[0].id
    done = evaluate(changes.set_values(project, rig, perform(project, SHELF, rig, "balance")), SHELF, rig)
    left = (done.model.arm_balance.along + done.model.arm_balance.level) * GRAVITY
    # A bag balances to ten grams, plates in one hole to half of the smallest.
    assert abs(left) < (0.1 if values["weights__carried"] == "bag" else 0.6)


def test_cables_between_pins_are_a_parallelogram_and_slacken_where_their_lever_is_gone():
    _, told = new(
        "jib", "cable", cable__over="pins", cable__post_wheel=0.16, cable__head_wheel=0.16, cable__adjust=0.003
    )
    jib = told.model
    for angle in (-0.7, 0.0, 0.6):
        pin, tilt = jib.heads(angle)[0], float(jib.tilts(angle))
        up = 0.08 * np.array([-math.sin(tilt), math.cos(tilt)])
        lower = np.array([0.0, jib.height])
        runs = [float(np.hypot(*(pin + s * up - lower - (0.0, s * 0.08)))) for s in (1, -1)]
        # One run shorter by what the adjuster took from it, the other longer.
        assert jib.front - runs[0] == pytest.approx(0.003, abs=1e-4)
        assert runs[1] - jib.front == pytest.approx(0.003, abs=1e-4)
    level = [b for b in jib.bodies if b.frame == "level"]
    stop = 0.8 * abs(sum(b.mass * b.above for b in level))
    moment = GRAVITY * sum(b.mass * b.along for b in level) + stop
    steep = value(told, "rig.cable_to")
    assert 2 * 120.0 * 0.08 * math.cos(steep) == pytest.approx(moment)


@pytest.mark.parametrize(
    ("variant", "values", "words"),
    [
        ("two_bars", {"post__made": "yoke"}, "held by cheeks or an upright"),
        ("plain", {"post__made": "yoke"}, "piece of channel"),
        ("plain", {"post__made": "head"}, "choose a head"),
        ("two_bars", {"post__made": "between"}, "arm of two bars"),
        ("cable", {"weights__carried": "upright"}, "hang the weights below a pin"),
        ("cable", {"cable__over": "pins", "cable__post_wheel": 0.16}, "make both alike"),
        ("plain", {"arm__made": "telescopic", "arm__section": "al6063-round-30x2"}, "keep that between"),
        (
            "plain",
            {"post__made": "yoke", "post__section": "steel-channel-60x80x4", "arm__section": "steel-40x40x2"},
            "",
        ),
    ],
)
def test_ways_that_exclude_each_other_say_what_would_do(variant, values, words):
    _, told = new("jib", variant, **values)
    stops = [f for f in told.findings if f.state == "stop"]
    assert (words and words in " ".join(f.sentence.template for f in stops)) or (not words and told.model is not None)


def test_a_yoke_lets_the_arm_swing_until_its_edge_meets_the_web():
    _, told = new(
        "jib",
        "plain",
        post__made="yoke",
        post__section="steel-channel-60x80x4",
        arm__section="al6063-round-40x2",
        pan__bearing="plate-100",
    )
    jib, half = told.model, 0.02
    room = 0.08 - 0.02 - 0.004 - 0.004  # of the flange, less its crown, the web and what is kept clear
    edge, met = np.linspace(-0.5, 0.5, 20001), []
    for angle in np.linspace(0.0, 1.2, 1201):
        x, z = edge * math.cos(angle) + half * math.sin(angle), edge * math.sin(angle) - half * math.cos(angle)
        met.append(float(z[np.abs(x) <= 0.05].min()) < -room)
    assert jib.limits.high == pytest.approx(0.001 * met.index(True), abs=0.002) == -jib.limits.low


def test_poles_weigh_what_their_pieces_do_and_work_as_a_cantilever_does():
    values = {"arm__section": "al6063-round-40x2", "arm__tip": "al6063-round-25x2", "arm__front": 1.2}
    _, told = new("jib", "plain", arm__made="tapered", **values)
    jib, pole = told.model, next(part for part in told.parts if part.mark == "A1").solid
    cuts = np.linspace(0.0, pole.length, 200001)
    line = np.array([pole.line(float(x)) for x in cuts[::2000]])
    assert pole.mass == pytest.approx(float(np.trapezoid(line, cuts[::2000])), rel=1e-3)
    head, thick, thin = jib.head_mass * GRAVITY, jib.arm_section.modulus, jib.tip.section().modulus
    per = (jib.arm.line(jib.arm_material) + jib.tip.line(jib.arm_material)) / 2 * GRAVITY
    places = np.linspace(0.0, 1.2, 25)[:-1]
    stress = 1.5 * (head * (1.2 - places) + per * (1.2 - places) ** 2 / 2) / (thick + (thin - thick) * places / 1.2)
    assert value(told, "rig.tip_stress") == pytest.approx(float(stress.max()), rel=1e-9)
    _, plain = new("jib", "plain", **{key: v for key, v in values.items() if key != "arm__tip"})
    assert value(plain, "rig.sag") < value(told, "rig.sag") < 8 * value(plain, "rig.sag")


def test_an_oval_tube_is_a_round_one_pressed_and_twists_as_its_closed_wall_does():
    round_ = sections.round_tube(0.04, 0.002)
    same = sections.oval_tube(0.04, 0.04, 0.002)
    assert (same.area, same.iy, same.iz) == pytest.approx((round_.area, round_.iy, round_.iz))
    assert same.j == pytest.approx(round_.j, rel=0.005)
    b, h, t = 0.03, 0.06, 0.0025
    turn = np.linspace(0.0, 2 * math.pi, 20001)
    out, inn = ((p / 2 * np.cos(turn), q / 2 * np.sin(turn)) for p, q in ((b, h), (b - 2 * t, h - 2 * t)))
    wall = np.hypot(out[0] - inn[0], out[1] - inn[1])
    mid = [(o + i) / 2 for o, i in zip(out, inn, strict=True)]
    step = np.hypot(np.diff(mid[0]), np.diff(mid[1]))
    bredt = 4 * (math.pi * (b - t) * (h - t) / 4) ** 2 / float(np.sum(step / wall[:-1]))
    # The same wall with its thickness as it runs round, straight across instead of square to it.
    assert sections.oval_tube(b, h, t).j == pytest.approx(bredt, rel=0.06)


def test_a_boom_of_stages_slides_in_without_meeting_its_bolt_and_leaves_its_post_where_it_belongs():
    _, told = new(
        "gantry",
        "bar",
        boom__stages=3.0,
        boom__section="al6063-40x40x2",
        boom__shortest=0.4,
        boom__longest=0.8,
        boom__out=0.6,
    )
    rig, tubes = told.model, [part for part in told.parts if part.mark.startswith("M")]
    assert [part.solid.stock.depth for part in tubes] == sorted((p.solid.stock.depth for p in tubes), reverse=True)
    for out in (0.4, 0.55, 0.8):
        bodies = gantry_frames(rig, np.array([[0.9, 0.7, 0.0, out]]))
        spans = []
        for part in tubes:
            start = bodies[part.places[0].body].place(part.places[0].at)[0][0] - (0.9 - rig.length / 2)
            spans.append((float(start), float(start) + part.length))
        # Each keeps in the one before by what it overlaps, and none but the first lies over the swing bolt.
        for (_, before), (start, end) in pairwise(spans):
            assert before - start >= 0.1 - 1e-9 and end >= before - 1e-9
            assert start >= 0.02 - 1e-9
        assert spans[-1][1] == pytest.approx(out)
    listed = sum(part.mass for part in tubes)
    assert rig.boom_mass(rig.longest) == pytest.approx(listed)
    _, short = new("gantry", "bar", boom__stages=2.0, boom__shortest=0.2)
    assert "push the boom in no further" in finding(short, "rig.impossible").sentence.template


def test_what_belongs_to_the_building_is_neither_made_nor_judged():
    _, beams = new("gantry", "bar", runway__is="building")
    _, own = new("gantry", "bar")
    assert not {"W1", "Q1", "X1", "K1", "N1"} & {part.mark for part in beams.parts}
    assert finding(beams, "balance.owner").state == "watch"
    assert "balance.footing" in own.figures and "balance.footing" not in beams.figures
    _, rail = new("overhead", "trolley", rail__is="building")
    assert "R1" not in {part.mark for part in rail.parts} and "balance.owner" in {f.key for f in rail.findings}


def test_plugs_clamps_and_bored_rods_hold_what_hangs_on_them_or_say_so():
    _, wood = new("overhead", "trolley", hanger__mount="brackets")
    _, plugs = new("overhead", "trolley", hanger__mount="plugs", plug__holds=60.0)
    pull = value(plugs, "balance.screw")
    assert value(wood, "balance.screw") == pytest.approx(pull)
    shear = math.hypot(value(plugs, "balance.hanger") / 4, 1.0 * plugs.model.way.moving / 4)
    assert value(plugs, "balance.screw_use") == pytest.approx((pull + shear) / 60.0, rel=1e-6)
    _, pole = new("overhead", "trolley", post__held="clamp", post__grip=30.0)
    assert finding(pole, "balance.pole_slips").state == "stop"
    assert value(pole, "balance.pole") == pytest.approx(2 * pole.model.way.weight)
    _, rods = new("overhead", "shuttle", shuttle__made="rods")
    way = rods.model.way
    stop = way.moving * 1.0 * abs(float(way.mount[2]))
    assert value(rods, "rig.block_pull") == pytest.approx(1.5 * (way.weight / 2 + stop / (0.13 - 0.045)))
