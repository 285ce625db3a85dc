"""The whole jib: its whys, its findings, its remedies, and designs nobody should build."""

from __future__ import annotations

import math

import msgspec
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hazel_lantern.core import case
from hazel_lantern.core.advice.remedies import order_of, vetted
from hazel_lantern.core.advice.sensitivity import judged_by, turning_points
from hazel_lantern.core.editing import bindings, changes
from hazel_lantern.core.editing.starting import blank
from hazel_lantern.core.evaluate import ask, evaluate, perform
from hazel_lantern.core.kinds import DECLARED
from hazel_lantern.core.kinds.jib.design import PARAMETERS
from hazel_lantern.core.kinds.jib.drawing import draw
from hazel_lantern.core.kinds.jib.strength import arm as strength
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import CLEAR, RANK, STOP, WATCH, judge
from hazel_lantern.core.nouns.progress import last
from hazel_lantern.core.nouns.quantity import Choice, Quantity
from hazel_lantern.core.nouns.sketch import Arrow, Handle, Shape, Size
from hazel_lantern.core.nouns.units import GRAVITY, Display
from tests.helpers import SAMPLES, SHELF, changed, finding, model, sample, solved, value

PARTLY = ("z_lens", "x_kit", "x_head", "x_c", "theta", "s_arm", "s_more", "m_head", "h", "r", "a")


@pytest.mark.parametrize("name", SAMPLES)
def test_every_why_gives_its_figure_and_names_known_places(name):
    project = sample(name)
    result = solved(project)
    known = bindings.parameters(project, project.rigs[0].id)
    assert len(result.figures) >= 40
    for figure in result.figures.values():
        why = figure.why
        assert why.source
        if why.formula:
            assert set(why.formula.names) <= {g.symbol for g in why.inputs}
            assert why.recompute() == pytest.approx(figure.value, rel=1e-12)
        else:
            assert why.method
        for given_ in why.inputs:
            assert not given_.ref or given_.ref in known or given_.ref in result.figures, (figure.key, given_.ref)
            # Some inputs add the kit's own place to the parameter they point at.
            quantity = known.get(given_.ref)
            if given_.symbol not in PARTLY and isinstance(quantity, Quantity) and quantity.unit == given_.unit:
                assert bindings.value_of(project, project.rigs[0].id, given_.ref) == pytest.approx(given_.value)


def test_sides_of_the_balance_agree_with_the_mechanism():
    project = changed(weights__above=0.0)
    result = solved(project)
    _, jib = model(project)
    assert value(result, "balance.front") == pytest.approx(jib.front_moment * GRAVITY, rel=1e-12)
    difference = value(result, "balance.front") - value(result, "balance.rear")
    assert difference == pytest.approx(jib.arm_balance.along * GRAVITY, rel=1e-9)


def test_balancing_it_leaves_nothing_to_hold_when_the_arm_is_level():
    project = changed(weights__above=0.0)
    result = solved(project)
    action = next(a for a in result.kind.actions if a.station == "balance")
    after = changes.set_values(project, project.rigs[0].id, perform(project, SHELF, "hive-jib", action.station))
    assert value(solved(after), "balance.drift") < 0.01
    assert finding(solved(after), "balance.stays").state == CLEAR


def test_the_lens_is_where_the_shot_wants_it_at_both_ends():
    _, jib = model()
    shot, poses = sample().shots[0], solved().poses(np.array([0.0, 0.5, 1.0]))
    heights = jib.lens_height(poses[:, 0])
    assert heights[[0, 2]] == pytest.approx([shot.start_height_m, shot.end_height_m])
    assert heights[1] == pytest.approx((shot.start_height_m + shot.end_height_m) / 2)


def test_every_remedy_offered_mends_its_finding_and_the_rig_as_a_whole():
    project = changed(stand__radius=0.6, pivot__spacing=0.06, head__spacing=0.06, pivot__clamp=5.0)
    rig = project.rigs[0].id
    before = {f.key: f for f in solved(project).findings}
    offered = [(f, r) for f in last(vetted(project, SHELF, rig)) for r in f.remedies]
    assert len(offered) >= 2
    for wrong, remedy in offered:
        found = solved(changes.set_values(project, rig, remedy.changes)).findings
        after = {f.key: f for f in found}
        assert wrong.key not in after or RANK[after[wrong.key].state] < RANK[wrong.state]
        assert order_of(found) < order_of(tuple(before.values()))
        # What gets worse by it is named.
        worse = [f.title for key, f in after.items() if key in before and RANK[f.state] > RANK[before[key].state]]
        assert all(f"then: {title[:1].lower()}{title[1:]}" in remedy.elsewhere.template for title in worse)


def test_what_no_single_remedy_mends_is_mended_in_a_row_and_nobody_hangs_sand_where_balancing_does_it():
    gantry = changes.add_rig(blank(), "gantry", "bar")
    gantry = changes.set_values(gantry, gantry.rigs[0].id, [("boom.longest", 1.2), ("boom.counter", 0.0)])
    offered = finding_of(last(vetted(gantry, SHELF, gantry.rigs[0].id)), "balance.wheels").remedies
    assert offered
    assert all(" then " in remedy.label.template for remedy in offered)
    mended = changes.set_values(gantry, gantry.rigs[0].id, offered[0].changes)
    assert finding(solved(mended), "balance.wheels").state != STOP
    jib = changes.add_rig(blank(), "jib", "two_bars")
    kind = DECLARED["jib"]
    plain = [(p.key, p.default) for p in kind.parameters if p.key in kind.usual["two_bars"]]
    jib = changes.set_values(jib, jib.rigs[0].id, plain)
    stands = finding_of(last(vetted(jib, SHELF, jib.rigs[0].id)), "balance.stands")
    assert "Balance it for me" in [remedy.label.template for remedy in stands.remedies]
    assert not any(remedy.changes[0][0] == "ballast.mass" for remedy in stands.remedies)
    # Where nothing does it, what was tried is said.
    rod = changes.add_rig(blank(), "gantry", "bar")
    rod = changes.set_values(rod, rod.rigs[0].id, [("runway.section", "steel-rod-8"), ("runway.height", 0.6)])
    bare = [f for f in last(vetted(rod, SHELF, rod.rigs[0].id)) if f.state == STOP and not f.remedies]
    assert bare
    assert all(f.hint is not None for f in bare)


def finding_of(found, key):
    return next(f for f in found if f.key == key)


def test_size_it_for_me_makes_an_impossible_shot_possible():
    project = changed(shot__end=3.4, arm__front=1.0)
    result = solved(project)
    assert any(f.state == STOP and f.station == "shot" for f in result.findings)
    action = next(a for a in result.kind.actions if a.station == "rig")
    after = solved(changes.set_values(project, project.rigs[0].id, perform(project, SHELF, "hive-jib", action.station)))
    assert not any(f.state == STOP and f.station == "shot" for f in after.findings)


@pytest.mark.parametrize(
    ("values", "key"),
    [
        ({"pivot__spacing": 0.03}, "rig.impossible"),
        ({"arm__front": 0.3, "head__spacing": 0.4}, "rig.impossible"),
        ({"pivot__height": 0.3, "head__low": 0.8, "arm__front": 0.4}, "rig.impossible"),
        ({"stand__radius": 0.2}, "rig.stand_spread"),
        ({"pivot__height": 2.9}, "rig.stand_height"),
        ({"screw__stack": 0.004}, "build.screw_reach"),
        ({"arm__front": 3.0}, "build.stock"),
        ({"weights__place": 0.7}, "balance.on_slot"),
        ({"weights__nearest": 0.9}, "balance.slot"),
        ({"weights__hung": ()}, "balance.stays"),
        ({"shot__end": 6.0}, "shot.angle_end.reach"),
        ({"stand": "tripod-light"}, "rig.stand_load"),
        ({"arm__section": "pvc-round-32x2.4"}, "rig.arm_strong"),
    ],
)
def test_what_cannot_work_is_a_stop_that_says_so(values, key):
    project = changed(**values)
    wrong = finding(solved(project), key)
    assert wrong.state == STOP
    assert wrong.sentence.text(Display())


def test_the_thread_of_the_camera_decides_on_screw_hole_and_how_deep_it_must_reach():
    bought = {}
    for thread, state in (("1/4-20", WATCH), ("3/8-16", STOP)):
        # Four millimetres are three turns of the finer thread, but not of the coarser.
        project = changed(kit__thread=thread, screw__stack=0.0087)
        result = solved(project)
        bought[thread] = {line.name for line in result.laid.bought}
        assert finding(result, "build.screw_reach").state == state
        plate = next(
            part
            for part in evaluate(
                changes.set_values(project, "jar-slider", [("kit.thread", thread)]), SHELF, "jar-slider"
            ).parts
            if part.name == "Carriage plate"
        )
        hole = next(mark.size for mark in plate.marks if "camera" in mark.note)
        assert (0.00635 < hole < 0.0095) == (thread == "1/4-20")
    assert bought["1/4-20"] ^ bought["3/8-16"] == {"Camera screw 1/4-20×1 in", "Camera screw 3/8-16×1 in"} | {
        name for name in bought["1/4-20"] ^ bought["3/8-16"] if not name.startswith("Camera screw")
    }


def test_no_weights_owned_is_said_with_a_remedy():
    project = msgspec.structs.replace(changed(weights__hung=()), plates=())
    assert "no weights are owned" in finding(solved(project), "balance.plates").sentence.template.lower()


def random_design():
    fields = {}
    for p in PARAMETERS:
        if isinstance(p, Quantity):
            fields[p.key] = st.floats(p.low, p.high)
        elif isinstance(p, Choice):
            fields[p.key] = st.sampled_from(
                sorted(getattr(SHELF, p.table)) if p.table else [key for key, _ in p.options]
            )
    return st.fixed_dictionaries({}, optional=fields)


@settings(max_examples=45)
@given(random_design(), st.floats(0, 8), st.floats(0, 8), st.floats(0.2, 100))
def test_any_design_within_bounds_is_answered(design, start, end, time):
    project = sample()
    values = [*design.items(), ("shot.start", start), ("shot.end", end), ("shot.time", time)]
    result = solved(changes.set_values(project, project.rigs[0].id, values), suggest=True)
    # A hole that leaves nothing of a member works without end, and stops.
    broken = {f.figure for f in result.findings if f.state == STOP}
    assert all(math.isfinite(f.value) or f.key == "balance.footing" or f.key in broken for f in result.figures.values())
    assert result.model is not None or any(f.key == "rig.impossible" and f.state == STOP for f in result.findings)
    keys = [f.key for f in result.findings]
    assert len(keys) == len(set(keys))
    if result.model is not None:
        for view in result.kind.views:
            sketch = result.draw(0.4, view.key)
            assert all(np.isfinite(item.points).all() for item in sketch.of(Shape))


@pytest.mark.parametrize(
    ("key", "bad"),
    [
        ("arm.front", -1.0),
        ("arm.front", 0.0),
        ("arm.front", math.nan),
        ("head.mass", -0.1),
        ("arm.front", "long"),
        ("arm.front", True),
        ("safety", "E"),
        ("weights.hung", "w1"),
        ("nonsense", 1.0),
    ],
)
def test_values_outside_their_bounds_are_refused_by_name_and_nothing_changes(key, bad):
    project = sample()
    before = project.rigs[0].design.copy()
    with pytest.raises(InputError) as caught:
        changes.set_values(project, project.rigs[0].id, [(key, bad)])
    assert caught.value.field == key
    assert project.rigs[0].design == before


def test_a_mirrored_stand_and_a_heavier_ballast_do_what_they_should():
    assert value(solved(changed(stand__turn=0.4)), "balance.footing") == pytest.approx(
        value(solved(), "balance.footing"), rel=2e-3
    )
    tips = [value(solved(changed(ballast__mass=m)), "balance.tips_at") for m in (0.0, 10.0, 20.0)]
    assert tips == sorted(tips)
    assert tips[2] > 1.5 * tips[0]


def test_verdicts_turn_at_their_limits():
    assert [judge(v, 10, "at_most", "people") for v in (8.0, 8.1, 10.0, 10.1)] == ["clear", "watch", "watch", "stop"]
    assert [judge(v, 10, "at_least", "people") for v in (12.6, 12.4, 10.0, 9.9)] == ["clear", "watch", "watch", "stop"]
    assert judge(99, 10, "at_most", "picture") == "watch"
    assert judge(math.nan, 10, "at_most", "people") == "stop"


def test_the_turning_point_of_a_verdict_is_where_it_turns():
    project = sample()
    result = solved(project)
    figure = result.figures["balance.tips_at"]
    judged = judged_by(result, figure)
    assert judged.key == "balance.bump"
    (found,) = last(turning_points(project, SHELF, project.rigs[0].id, "", judged, ["ballast.mass"]))
    turn, state = found.value, found.state
    assert state != judged.state
    assert finding(solved(changed(ballast__mass=turn)), judged.key).state == state
    assert finding(solved(changed(ballast__mass=turn - 0.1)), judged.key).state == judged.state


def test_the_drawing_is_to_scale_and_its_handles_move_what_they_name():
    result = solved()
    sketch = result.draw(0.3, "side")
    for size in sketch.of(Size):
        if size.key.startswith(("arm", "pivot", "weights")):
            assert math.dist(size.a, size.b) == pytest.approx(size.value, rel=0.002), size.key
    for handle in sketch.of(Handle):
        if handle.key in ("arm.front", "arm.rear", "pivot.height", "weights.place"):
            now = bindings.value_of(sample(), "hive-jib", handle.key)
            pose = result.poses(np.array([0.3]))[0]
            project = changed(**{handle.key.replace(".", "__"): now + 0.05})
            sketched = ask(
                project,
                SHELF,
                "hive-jib",
                lambda design, kit, move, optics, jib, path: (design, kit, move, optics, jib, path),
            )
            spot = next(h.at for h in draw(*sketched, pose, "side").of(Handle) if h.key == handle.key)
            step = np.array(spot) - np.array(handle.at)
            assert float(step @ np.array(handle.moves[0][1])) == pytest.approx(0.05, rel=1e-3)
    loads = sum(arrow.newtons for arrow in sketch.of(Arrow))
    _, jib = model()
    assert loads == pytest.approx(GRAVITY * sum(b.mass for b in jib.bodies if b.frame in ("arm", "bar", "level")))


def test_every_piece_is_cut_once_and_pivots_lie_as_far_apart_as_drawn():
    result, (_, jib) = solved(), model()
    by_mark = {p.mark: p for p in result.parts}
    spots = {mark: {m.note: m.at for m in by_mark[mark].marks} for mark in ("A1", "B1", "C1", "D1")}
    assert spots["A1"]["head pin D"] - spots["A1"]["pivot A"] == pytest.approx(jib.front)
    assert spots["B1"]["head pin C"] - spots["B1"]["pivot B"] == pytest.approx(jib.upper)
    assert spots["C1"]["pivot A"] - spots["C1"]["pivot B"] == pytest.approx(jib.spacing)
    # An upright ends at the plate it carries, wherever that is: under it above both pins, past it between them or
    # below.
    for rise, length in ((0.3, 0.325 - 0.018), (0.05, 0.11 + 0.05), (-0.2, 0.2 + 0.11 + 0.025)):
        assert {p.mark: p.length for p in solved(changed(head__rise=rise)).parts}["D1"] == pytest.approx(length)
    for made in result.cuts:
        assert sorted(mark for marks in made.marks(result.parts) for mark in marks) == sorted(
            p.mark for p in result.parts if p.section == made.section for _ in range(p.quantity)
        )


def test_sliding_the_weights_to_the_place_named_balances_the_other_kit():
    project = changed(weights__above=0.0)
    action = next(a for a in solved(project).kind.actions if a.station == "balance")
    project = changes.set_values(project, "hive-jib", perform(project, SHELF, "hive-jib", action.station))
    for kit in ("dusk-zoom", "pocket"):
        place = value(solved(project), f"balance.kit.{kit}")
        swapped = changes.set_values(project, "hive-jib", [("kit", kit), ("weights.place", place)])
        # The place is kept to a tenth of a millimetre when the arm is first balanced.
        assert value(solved(swapped), "balance.drift") == pytest.approx(
            value(solved(project), "balance.drift"), abs=0.02
        )


def test_a_drag_of_the_end_of_the_shot_asks_no_bolt_again(monkeypatch):
    """How it stands before it moves stays as it is, and with it what goes through what."""
    counted, memo = [], Memo()
    monkeypatch.setattr(case, "passed", lambda *a, real=case.passed: counted.append(a) or real(*a))
    for step in range(4):
        evaluate(changed(shot__end=2.4 + 0.01 * step), SHELF, "hive-jib", memo=memo)
    assert len(counted) == 1
    evaluate(changed(shot__start=0.7), SHELF, "hive-jib", memo=memo)
    assert len(counted) == 2


def test_a_drag_of_the_shot_works_out_no_swing_again_and_one_of_the_arm_does(monkeypatch):
    counted, memo = [], Memo()
    monkeypatch.setattr(strength, "swings", lambda *a, real=strength.swings: counted.append(a) or real(*a))
    for step in range(4):
        result = evaluate(changed(shot__end=2.4 + 0.01 * step), SHELF, "hive-jib", memo=memo)
    assert len(counted) == 1
    assert value(result, "rig.bounce_locked") == value(solved(changed(shot__end=2.43)), "rig.bounce_locked")
    for step in range(3):
        evaluate(changed(arm__front=1.6 + 0.01 * step), SHELF, "hive-jib", memo=memo)
    assert len(counted) == 5
    most = memo.held
    for step in range(40):
        evaluate(changed(arm__front=1.6 + 0.01 * step), SHELF, "hive-jib", memo=memo).draw(0.01 * step, "set")
    assert memo.held <= max(most, 8 * 60)
