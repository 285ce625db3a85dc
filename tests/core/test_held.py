"""Whether what is listed holds together: every piece by a hole or by a fitting on the buy list, posts of a rope that
keep their sling and feet, a camera's plate on its riser or its arm, a counterweight on its boom.
"""

from __future__ import annotations

import math
import re

import numpy as np
import pytest
from bench.designs import constructions, design
from hypothesis import given, settings
from hypothesis import strategies as st

from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.kinds.cable_cam.posts import ABOVE_ROPE, LEG, PLATE, POST, PROUD
from hazel_lantern.core.mechanics.safety import PIN_FACTOR
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import CLEAR, STOP
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.workshop.laid import holes, on_one_line
from tests.helpers import SHELF, finding, sample, value

# What holds a piece that nothing is drilled in, by words of the buy list.
UNDRILLED = {
    "Stay mast": "Mast foot",
    "Shaft": "[Ff]lange",
    "Drop pole": "Pole clamp",
    "Frame pipe": "U-bolt",
    "Shuttle": "plate to shuttle|[Ss]crew",
    "Bridge web": "Wood screw.*bridge",
    "Post": "clamp",
    "Tie": "Pipe clip|[Ss]crew|[Ww]edge",
    "Rail": "[Cc]lamp|[Ss]crew|Strip|strap|hanger|Rail plate|End stop",
    "Outer pipe": "Pipe clip|[Ss]crew|sleeve",
    "Inner pipe": "Pipe clip|[Ss]crew|sleeve",
}


def added(kind, variant, *values):
    project = changes.add_rig(sample(), kind, variant)
    rig = project.rigs[-1].id
    project = changes.set_values(project, rig, list(values))
    return project, rig, evaluate(project, SHELF, rig, suggest=True)


@pytest.mark.parametrize(("kind", "variant"), constructions())
def test_every_piece_is_held_by_a_hole_or_by_what_is_bought_for_it(kind, variant):
    for seed in (31, 32, 33):
        project = design(SHELF, kind, variant, seed)
        result = evaluate(project, SHELF, project.rigs[0].id)
        listed = [f"{line.name} | {line.note}" for line in result.lines]
        for part in result.laid.parts:
            if part.places and not any(mark.size for mark in part.marks):
                words = next(found for name, found in UNDRILLED.items() if part.name.startswith(name))
                assert any(re.search(words, line) for line in listed), (part.name, listed)


@pytest.mark.parametrize(("kind", "variant"), constructions())
def test_every_bought_bolt_goes_through_something(kind, variant):
    """As many of each fastening as there are lines of its holes in space, found one hole after the other."""
    found = (design(SHELF, kind, variant, seed) for seed in range(34, 60))
    results = (evaluate(project, SHELF, project.rigs[0].id) for project in found)
    result = next(one for one in results if "path" in one.known and one.model is not None)
    bodies = result.kind.bodies(result.model, result.poses(np.zeros(1)))
    by_key = {one.key: one for one in result.laid.fastenings}
    drilled: dict[str, list] = {}
    for hole in holes(result.laid.parts, bodies):
        if hole.mark.fastening:
            drilled.setdefault(hole.mark.fastening, []).append(hole)
    assert set(drilled) <= set(by_key)
    for key, found in drilled.items():
        lines: list = []
        for hole in found:
            for line in lines:
                gap = hole.at - line[0].at
                apart = gap - (gap @ line[0].way) * line[0].way
                alike = abs(abs(hole.way @ line[0].way) - 1) < 1e-9 and np.linalg.norm(apart) < 1e-6
                if alike and np.linalg.norm(gap) <= by_key[key].reach:
                    line.append(hole)
                    break
            else:
                lines.append([hole])
        assert len(lines) == len(on_one_line(found, by_key[key].reach)), key
        for item in by_key[key].items:
            times = 1 if by_key[key].one_of else len(lines)
            bought = sum(one.quantity for one in result.laid.bought if (one.name, one.note) == (item.name, item.note))
            assert bought >= item.quantity * times, (key, item.name)


def test_sling_and_guys_of_a_post_lie_on_a_bolt_that_is_bent_by_what_the_post_bears():
    _, _, result = added("cable_cam", "single", ("post.keeper", "M10"))
    post = next(part for part in result.laid.parts if part.name == POST)
    hole = next(mark for mark in post.marks if mark.fastening == "keeper")
    leaves = next(mark.at for mark in post.marks if "rope leaves" in mark.note)
    assert 0.01 < leaves - hole.at < 0.05 and post.length - leaves == pytest.approx(ABOVE_ROPE)
    for end in "ab":
        # Half of it on either side of the post, on a tube about the bolt.
        bent = value(result, f"balance.pressed_{end}") / 2 * PROUD / 2
        d = SHELF.bolts["M10"].d
        modulus = math.pi * ((d + 0.005) ** 4 - d**4) / (32 * (d + 0.005))
        assert value(result, f"balance.keeper_{end}_stress") == pytest.approx(bent / modulus)
        bar = SHELF.sections["galv-round-48.3x3.2"]
        crushed = value(result, f"balance.pressed_{end}") / (2 * d * bar.dims["t"])
        assert value(result, f"balance.keeper_hole_{end}_stress") == pytest.approx(crushed)


def test_a_bolt_too_thin_for_its_post_is_a_stop_and_the_one_offered_holds():
    project, rig, result = added(
        "cable_cam", "single", ("post.keeper", "M5"), ("rope.set", "pull"), ("rope.pull", 2500.0)
    )
    found = finding(result, "balance.keeper_a")
    assert found.state == STOP
    mended = changes.set_values(project, rig, found.remedies[0].changes)
    after = evaluate(mended, SHELF, rig)
    assert finding(after, "balance.keeper_a").state == finding(after, "balance.keeper_b").state == CLEAR
    assert finding(after, "balance.keeper_hole_a").state == CLEAR


@pytest.mark.parametrize("spread", [0.4, 1.2, 2.5])
def test_legs_of_a_frame_cross_where_one_bolt_goes_through_both_and_stand_on_their_plates(spread):
    _, _, result = added("cable_cam", "single", ("anchor.a", "frame"), ("anchor.b", "frame"), ("frame.spread", spread))
    assert not result.fouls
    bodies = result.kind.bodies(result.model, result.poses(np.zeros(1)))
    leg = next(part for part in result.laid.parts if part.name == LEG)
    forks = [h for h in holes((leg,), bodies) if h.mark.fastening == "fork"]
    # Two of either end, on one line along the rope, at the rope's own height.
    assert len(forks) == 2 * len(leg.places) // 2 and len(on_one_line(forks, 0.3)) == len(leg.places) // 2
    high = {round(float(end), 6) for end in result.model.ends}
    assert {round(float(h.at[2]), 6) for h in forks} <= high
    assert all(abs(h.way @ np.array([1.0, 0.0, 0.0])) == pytest.approx(1.0) for h in forks)
    # The bolt of a foot stands over the middle of its plate, both plate bolts a bracket's hole off the leg's faces.
    plate = next(part for part in result.laid.parts if part.name == PLATE)
    feet = [h for h in holes((leg,), bodies) if h.mark.fastening == "foot"]
    below = [h for h in holes((plate,), bodies) if h.mark.fastening == "plate bracket"]
    for foot in feet:
        near = sorted(below, key=lambda h: float(np.hypot(*(h.at - foot.at)[:2])))[:2]
        assert np.mean([h.at[:2] for h in near], axis=0) == pytest.approx(foot.at[:2], abs=1e-3)


def test_feet_of_a_frame_that_lean_too_far_slide_apart_and_closer_ones_stand():
    project, rig, result = added("cable_cam", "single", ("anchor.b", "frame"), ("frame.spread", 3.0))
    found, high = finding(result, "balance.feet_b"), float(result.model.ends[1])
    # A leg pushes along itself: its foot stays while the ground's grip is more than it leans.
    assert found.value == pytest.approx(1.5 / high) and found.state == STOP
    mended = changes.set_values(project, rig, found.remedies[0].changes)
    assert finding(evaluate(mended, SHELF, rig), "balance.feet_b").state != STOP


def test_legs_that_lean_further_shear_their_bolt_more():
    stress = [
        value(added("cable_cam", "single", ("anchor.a", "frame"), ("frame.spread", wide))[2], "balance.keeper_a_stress")
        for wide in (0.5, 1.0, 2.0)
    ]
    assert stress[0] < stress[1] < stress[2]
    assert stress[1] / stress[0] == pytest.approx(2.0, rel=0.02)


@settings(max_examples=15)
@given(st.floats(0.06, 1.0), st.floats(0.07, 0.6))
def test_brackets_of_cheeks_have_their_board_under_them_and_ropes_close_together_leave_out_the_inner_ones(base, apart):
    _, _, result = added("cable_cam", "twin", ("carriage.wheelbase", base), ("twin.apart", apart))
    parts = {part.name: part for part in result.laid.parts}
    board, cheeks = parts["Board of the carriage"], parts["Cheek"]
    long, wide, _ = board.solid.box
    on_board = [mark for mark in board.marks if mark.fastening == "board bracket"]
    assert all(0.02 < mark.at < long - 0.02 and 0.02 < mark.across < wide - 0.02 for mark in on_board)
    assert len(on_board) == 2 * len(cheeks.places)
    assert len(cheeks.places) + len(parts["Inner cheek"].places if "Inner cheek" in parts else ()) == 4
    assert ("Inner cheek" in parts) == (apart < 0.144 - 1e-9)
    assert value(result, "rig.cheek_bolts_stress") > 0


@pytest.mark.parametrize("variant", ["shaft", "ring", "desk"])
def test_a_camera_plate_without_a_riser_is_bolted_through_its_arm_and_with_one_by_two_angles(variant):
    depth, thick = 0.05, 0.018
    _, _, flat = added("orbit", variant, ("riser.height", depth / 2 + thick))
    names = {part.name: part for part in flat.laid.parts}
    assert "Riser" not in names
    through = [mark for mark in names["Camera arm"].marks if mark.fastening == "plate bolt"]
    assert len(through) == 2 and through[-1].at < names["Camera arm"].length - 0.012
    bought = [line for line in flat.lines if "camera plate to its arm" in line.note]
    assert bought and bought[0].quantity == 2 * len(names["Camera plate"].places)
    assert not any("Packing" in line.name for line in flat.lines)
    # Held by bolts 50 mm apart on an arm 25 mm wide: bumped along it, or across it about its edge.
    bolts = finding(flat, "rig.plate_bolts")
    given = {row.symbol: row.value for row in flat.figures["rig.plate_bolts_stress"].why.inputs}
    bump = given["F_b"] * given["h"]
    pull = max((given["M"] + bump) / 0.05, given["M"] / 0.05 + bump / 0.025)
    assert bolts.value == pytest.approx(1.5 * pull / 20.1e-6)
    assert bolts.limit == pytest.approx(SHELF.materials["steel"].strength / PIN_FACTOR)
    _, _, tall = added("orbit", variant, ("riser.height", 0.4))
    angles = [line for line in tall.lines if line.note == "camera plate to its riser"]
    assert angles[0].quantity == 2 * sum(len(p.places) for p in tall.laid.parts if p.name == "Riser")


def test_a_weak_camera_plate_is_mended_by_a_broader_riser():
    values = (("riser.section", "al6063-20x20x1.5"), ("riser.height", 0.5), ("bump.least", 400.0))
    project, rig, result = added("orbit", "ring", *values)
    found = finding(result, "rig.plate_bolts")
    assert found.state == STOP
    mended = changes.set_values(project, rig, found.remedies[0].changes)
    assert finding(evaluate(mended, SHELF, rig), "rig.plate_bolts").use < found.use


@pytest.mark.parametrize("tail", [0.0, 0.02, 0.05, 0.3, 0.9])
def test_a_counterweight_hangs_on_a_rod_through_the_boom_behind_its_swing_bolt(tail):
    _, _, result = added("gantry", "bar", ("boom.tail", tail), ("boom.counter", 3.0))
    boom = next(part for part in result.laid.parts if part.name.startswith("Boom"))
    swing = min(mark.at for mark in boom.marks if mark.fastening == "swing bolt")
    rods = [mark for mark in boom.marks if mark.fastening == "counterweight"]
    bought = [line for line in result.lines if "counterweight" in line.note]
    assert len(rods) == len(bought) == (tail >= 0.03)
    for rod in rods:
        # Just where it is reckoned to weigh, with boom behind it.
        assert swing - rod.at == pytest.approx(tail) and rod.at >= 0.03 - 1e-9
    weight = next(thing for thing in result.laid.things if thing.name == "Counterweight")
    assert weight.mass * GRAVITY == pytest.approx(3.0 * GRAVITY) and weight.places[0].at[0] == pytest.approx(-tail)


def test_a_weight_of_nothing_needs_no_rod():
    _, _, result = added("gantry", "bar", ("boom.tail", 0.4), ("boom.counter", 0.0))
    assert not any("counterweight" in line.note for line in result.lines)
    with pytest.raises(InputError):
        added("gantry", "bar", ("boom.tail", -0.1))


@pytest.mark.parametrize("rope", ["cord-4", "wire-1.5", "wire-3"])
@pytest.mark.parametrize("front", [1.2, 2.4, 4.0])
def test_clamps_of_a_stay_are_held_against_what_draws_them_along_the_arm(rope, front):
    values = (("arm.front", front), ("stay.mast", 0.4), ("head.mass", 4.0), ("stay.rope", rope))
    _, _, result = added("jib", "two_bars", *values)
    found = finding(result, "rig.stay_clamps")
    # The pull of the frame, never slack, with hand swings.
    assert found.value == value(result, "rig.stay_worked") >= 1.5 * value(result, "rig.stay") - 1e-9
    assert (found.state == STOP) == (found.value > found.limit) and found.limit == 900.0
    assert any("Clamp with an eye" in line.name and line.quantity == 2 for line in result.lines)
