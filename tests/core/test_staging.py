"""The set, the move on it, what the lens sees of it, and which rigs can make it."""

from __future__ import annotations

import math

import numpy as np
import pytest
from msgspec.structs import replace

from hazel_lantern.core.advice.proposals import proposals
from hazel_lantern.core.answers import LENS, SET, SIDE
from hazel_lantern.core.document.project import Thing, replaced
from hazel_lantern.core.editing import bindings, changes, checking, lists
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import CLEAR, STOP, WATCH
from hazel_lantern.core.nouns.progress import last
from hazel_lantern.core.nouns.sketch import Handle, Shape
from hazel_lantern.core.optics import pose
from hazel_lantern.core.staging.things import corners, inside
from tests.helpers import SHELF, changed, finding, sample, solved, value


def shot(project=None, **fields):
    """The sample with fields of its shot set directly."""
    project = project or sample()
    return replace(project, shots=replaced(project.shots, replace(project.shots[0], **fields)))


def keys(result):
    return {f.key for f in result.findings}


def test_an_arc_keeps_its_distance_and_a_straight_move_its_line():
    project = shot(move="arc", arc_rad=math.radians(80), start_at_m=(2.0, 3.0))
    stage = project.sets[0]
    keeper = next(t for t in stage.things if t.id == "keeper")
    shares = np.linspace(0, 1, 400)
    path = Move.of(project.shots[0], keeper).places(shares)
    away = np.hypot(path[:, 0] - keeper.at_m[0], path[:, 1] - keeper.at_m[1])
    assert np.allclose(away, away[0])
    straight = Move.of(shot(move="slide", end_at_m=(1.2, 0.4)).shots[0], keeper).places(shares)
    assert np.linalg.matrix_rank(straight - straight[0], tol=1e-9) == 1
    via = Move.of(shot(move="fly", via_m=((1.0, 0.0, 2.0),), end_at_m=(2.0, 0.0)).shots[0], keeper).places(shares)
    assert np.min(np.linalg.norm(via - (1.0, 0.0, 2.0), axis=1)) < 0.02


def test_the_wishes_turned_round_come_true():
    result = solved()
    longer = value(result, "shot.time_for_crossing")
    assert value(solved(changed(shot__time=longer)), "shot.crossing") == pytest.approx(
        sample().shots[0].wanted_crossing_s, rel=1e-6
    )
    far = value(result, "shot.distance_for_fill")
    keeper = next(t for t in sample().sets[0].things if t.id == "keeper")
    shot_now = sample().shots[0]
    assert shot_now.focal_m / far * keeper.size_m[2] == pytest.approx(shot_now.wanted_fill * shot_now.sensor_height_m)


def test_how_much_of_a_bench_is_seen_from_above_is_what_field_and_travel_leave():
    def over(length, **more):
        project = changes.set_values(
            sample(),
            "kitchen-gantry",
            [("thing.bench.width", length), *((key.replace("__", "."), v) for key, v in more.items())],
        )
        return evaluate(project, SHELF, "kitchen-gantry")

    # A narrow field that goes along fast leaves no gaps between the moments.
    fast = over(1.8, shot__focal=0.2)
    shot_now, stage = fast.shot, fast.stage
    bench = next(t for t in stage.things if t.id == "bench")
    seen = fast.scene.at(np.linspace(0, 1, 4001))
    top = [
        (x * bench.size_m[0] + bench.at_m[0], y * bench.size_m[1] + bench.at_m[1], bench.at_m[2] + bench.size_m[2])
        for x in np.linspace(-0.5, 0.5, 41)
        for y in np.linspace(-0.5, 0.5, 17)
    ]
    local = pose.camera_points(seen.camera.matrices, seen.camera.places, np.array(top))
    shown = (np.abs(local[..., 0] / local[..., 2]) <= shot_now.sensor_width_m / 2 / shot_now.focal_m) & (
        np.abs(local[..., 1] / local[..., 2]) <= shot_now.sensor_height_m / 2 / shot_now.focal_m
    )
    assert value(fast, "shot.bench_seen") == pytest.approx(float(shown.any(axis=0).mean()), abs=1 / 697 + 1e-9)
    small = over(0.3, thing__bench__depth=0.3)
    assert value(small, "shot.bench_seen") == 1.0
    assert finding(small, "shot.cover").state == CLEAR
    assert value(small, "shot.bench_ends") == 0.0
    for length in (1.8, 2.4):
        result = over(length)
        moved = math.dist(result.shot.start_at_m, result.shot.end_at_m)
        # The picture's height lies along this bench.
        assert value(result, "shot.bench_ends") == pytest.approx(
            (length - moved - value(result, "shot.sees_tall")) / 2, abs=length / 60 + 0.03
        )
        assert finding(result, "shot.cover").state == WATCH
        travel, frames = value(result, "shot.cover_travel"), value(result, "shot.cover_frames")
        work = value(result, "shot.sees_tall") * value(result, "shot.sees_work") / value(result, "shot.sees_wide")
        assert travel == pytest.approx(length - work)
        assert travel / (frames - 1) <= work * (1 - result.shot.wanted_overlap) + 1e-9
    assert value(over(1.8, shot__wanted_overlap=0.6), "shot.cover_frames") > value(over(1.8), "shot.cover_frames")


def test_a_thing_before_the_subject_hides_it_and_one_behind_is_named():
    project = sample()
    keeper = next(t for t in project.sets[0].things if t.id == "keeper")

    def with_screen(x, y, kind="wall"):
        screen = Thing(id="screen", kind=kind, name="Screen {1}", at_m=(x, y, 0.0), size_m=(1.5, 0.1, 3.5))
        return solved(
            replace(
                project, sets=replaced(project.sets, replace(project.sets[0], things=(*project.sets[0].things, screen)))
            )
        )

    x, y, _ = keeper.at_m
    hidden = finding(with_screen(x, y - 1.0), "shot.hidden")
    assert hidden.state == WATCH
    assert hidden.value == 1.0
    assert "Screen (1) hides Keeper" in hidden.sentence.template
    behind = finding(with_screen(x, y + 1.5), "shot.hidden")
    assert behind.state == CLEAR
    assert "Screen (1) all the way" in behind.sentence.template
    assert "open ground all the way" in finding(with_screen(x + 4.0, y - 1.0), "shot.hidden").sentence.template
    # A jar on a bench, seen obliquely from above, is not hidden by the bench it stands on, which is what lies
    # behind it.
    jar = Thing(id="jar", kind="box", name="Jar", at_m=(0.0, 3.25, 0.74), size_m=(0.1, 0.1, 0.15))
    bench = Thing(id="bench", kind="table", name="Bench", at_m=(0.0, 3.0, 0.0), size_m=(1.8, 0.8, 0.74))
    stood = replace(project, sets=replaced(project.sets, replace(project.sets[0], things=(bench, jar))))
    on_it = finding(solved(shot(stood, target="jar")), "shot.hidden")
    assert on_it.state == CLEAR
    assert "at the end Bench" in on_it.sentence.template
    # A place on the ground may be looked at too; nothing hides it.
    assert "shot.hidden" not in keys(solved(changed(shot__target="path")))


def test_a_squeeze_widens_the_view_and_a_very_wide_one_is_said():
    plain, squeezed = solved(), solved(changed(shot__squeeze=1.6))
    assert math.tan(value(squeezed, "shot.view") / 2) == pytest.approx(1.6 * math.tan(value(plain, "shot.view") / 2))
    assert "shot.wide" not in keys(plain)
    assert finding(solved(changed(shot__focal=0.007)), "shot.wide").state == WATCH


def test_the_subject_is_framed_lost_behind_or_inside():
    assert finding(solved(), "shot.framing").state == CLEAR
    level = solved(changed(shot__aim="level", shot__focal=0.085), suggest=True)
    assert finding(level, "shot.framing").state == WATCH
    assert finding(level, "shot.framing").remedies[0].changes == (("shot.aim", "kept"),)
    away = changed(shot__aim="level")
    away = replace(away, rigs=replaced(away.rigs, replace(away.rigs[0], stands_m=(0.0, -1.9), heading_rad=-1.5)))
    assert finding(solved(away), "shot.behind").state == WATCH
    assert value(solved(changed(**{"thing.keeper.y": 3.0})), "shot.fill") > value(solved(), "shot.fill")


def test_people_and_no_go_places_in_the_way_stop_the_rig():
    near = changed(**{"thing.keeper.x": 0.0, "thing.keeper.y": -0.8, "shot.aim": "level"})
    near = solved(
        replace(near, rigs=replaced(near.rigs, replace(near.rigs[0], stands_m=(0.0, -1.9), heading_rad=math.pi / 2)))
    )
    assert finding(near, "shot.hits.keeper").state == STOP
    assert finding(near, "shot.hits.keeper").about == "people"
    path = solved(changed(**{"thing.path.x": 0.0, "thing.path.y": -1.5}))
    assert finding(path, "shot.hits.path").title == "Into a no-go place"
    assert "shot.hits.path" not in keys(solved())
    low = replace(sample().sets[0], ceiling_m=2.4)
    assert finding(solved(replace(sample(), sets=(low,))), "shot.ceiling").state == STOP


def test_one_focus_holds_stopped_down_and_a_pull_is_asked_for_wide_open():
    assert finding(solved(changed(shot__aperture=8.0)), "shot.pull").state == CLEAR
    open_wide = solved(changed(shot__aperture=0.7, shot__focal=0.085))
    assert finding(open_wide, "shot.pull").state in (CLEAR, WATCH)
    assert value(open_wide, "shot.sharp_far") - value(open_wide, "shot.sharp_near") < 1.0


def test_a_move_that_goes_nowhere_and_pixels_that_do_not_fit_are_said():
    still = solved(changed(shot__end=sample().shots[0].start_height_m))
    assert finding(still, "shot.still").state == WATCH
    assert finding(solved(changed(shot__pixels_high=1600.0)), "shot.pixels").state == WATCH


def test_the_rig_stands_where_its_path_fits_and_a_dragged_one_stays():
    project = sample()
    moved = replace(
        project, rigs=replaced(project.rigs, replace(project.rigs[0], stands_m=(4.0, -3.0), heading_rad=1.0))
    )
    assert value(solved(moved), "shot.stray") > value(solved(), "shot.stray") + 1.0
    assert value(solved(), "shot.stray") < 0.3


@pytest.mark.parametrize("view", [SET, SIDE, LENS])
def test_every_view_of_the_set_shows_its_things_and_a_handle_goes_where_it_is_dragged(view):
    project = sample()
    # Held where it is and aslant, whatever is moved.
    project = replace(
        project, rigs=replaced(project.rigs, replace(project.rigs[0], stands_m=(0.3, -1.0), heading_rad=1.2))
    )
    sketch = solved(project).draw(0.3, view)
    assert all(np.all(np.isfinite(item.points)) for item in sketch.of(Shape))
    x0, y0, x1, y1 = sketch.box
    assert x1 > x0
    assert y1 > y0
    if view == LENS:
        return
    keeper, step = next(h for h in sketch.of(Handle) if h.key == "thing.keeper.x"), (0.03, 0.02)
    assert not keeper.quiet
    by = [
        (key, bindings.value_of(project, "hive-jib", key) + right * step[0] + up * step[1])
        for key, (right, up) in keeper.moves
    ]
    moved = solved(changes.set_values(project, "hive-jib", by)).draw(0.3, view)
    spot = next(h.at for h in moved.of(Handle) if h.key == "thing.keeper.x")
    assert (spot[0] - keeper.at[0], spot[1] - keeper.at[1]) == pytest.approx(step, abs=1e-9)


def test_boxes_know_their_corners_and_their_inside():
    thing = Thing(id="t", kind="box", name="t", at_m=(1.0, 2.0, 0.0), size_m=(0.4, 0.6, 0.8), turn_rad=0.7)
    points = corners(thing)
    assert inside(thing, points * 0.999 + np.asarray(thing.at_m) * 0.001).all()
    assert not inside(thing, points + (points - points.mean(axis=0)) * 0.01).any()


def test_things_items_and_shots_come_and_go_and_the_document_stays_whole():
    project, key = lists.add_thing(sample(), "hives", "wall")
    assert checking.check(project)
    project = lists.rename_thing(project, "orchard", key, "Barn")
    project = lists.remove_thing(project, "orchard", "keeper")
    assert project.shots[0].target == ""
    assert "shot.fill" not in solved(project).figures
    project = lists.copy_shot(lists.add_item(project, "meadow", "Filter", 0.05), "hive-jib", "hives", "Second take")
    assert project.rigs[0].shots == ("hives", "shot-1")
    back = changes.set_values(project, "hive-jib", [("shot", "shot-1")])
    assert back.rigs[0].shots == ("shot-1", "hives")
    assert solved(checking.check(back)).carried.payload.mass == pytest.approx(solved().carried.payload.mass + 0.05)
    bare = lists.remove_item(sample(), "pocket", 0)
    with pytest.raises(InputError, match="last item stays"):
        lists.remove_item(bare, "pocket", 0)
    with pytest.raises(InputError, match="must be one of"):
        lists.add_thing(sample(), "hives", "dragon")


def test_a_lens_moved_on_the_mount_moves_the_centre_of_mass():
    before, after = solved().carried.payload, solved(changed(**{"kit.1.x": 0.185})).carried.payload
    assert after.cg[0] - before.cg[0] == pytest.approx(0.1 * 0.46 / before.mass)


def test_proposals_are_sized_for_the_shot_and_say_why_not():
    found = last(proposals(sample(), SHELF, "hive-jib"))
    best = next(p for p in found if p.kind == "jib" and p.variant == "two_bars")
    assert best.evaluation is not None
    assert "shot.angle_start.reach" not in keys(best.evaluation)
    project = changes.take_rig(sample(), best.rig)
    assert evaluate(project, SHELF, project.rigs[-1].id).figures["rig.mass"].value == pytest.approx(
        best.amount("rig.mass")
    )
    high = changes.set_values(sample(), "hive-jib", [("shot.end", 8.0), ("shot.start", 0.0)])
    refused = next(p for p in last(proposals(high, SHELF, "hive-jib")) if p.variant == "two_bars")
    assert refused.evaluation is None
    assert refused.reason.template


def test_a_subject_set_to_what_it_was_does_not_hide_itself_in_what_is_kept():
    project, memo = sample(), Memo()
    for key, new in (("thing.keeper.turn", 0.0), ("thing.hive-1.depth", 0.24)):
        evaluate(project, SHELF, "hive-jib", memo=memo)
        project = changes.set_values(project, "hive-jib", [(key, new)])
    assert "shot.hidden_for" not in evaluate(project, SHELF, "hive-jib", memo=memo).figures
