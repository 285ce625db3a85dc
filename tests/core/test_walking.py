"""Things that move while the camera runs: followed, met and passed, against projections and brute force."""

from __future__ import annotations

import json
import math

import numpy as np
import pytest
from msgspec.structs import replace

from hazel_lantern.core.document.project import Stop, replaced
from hazel_lantern.core.editing import changes, checking, lists
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import CLEAR, WATCH
from hazel_lantern.core.staging.timing import frames
from hazel_lantern.core.staging.walking import stage_at, track
from hazel_lantern.files import previs
from tests.helpers import finding, sample, solved, value

AIM = 0.88  # of a person's height


def walking(project, *stops, thing="keeper"):
    """The sample with a thing passing these stops: time, right, deep."""
    stage = project.sets[0]
    one = next(t for t in stage.things if t.id == thing)
    made = tuple(Stop(time_s=t, at_m=(x, y, one.at_m[2])) for t, x, y in stops)
    stage = replace(stage, things=replaced(stage.things, replace(one, stops=made)))
    return replace(project, sets=replaced(project.sets, stage))


def test_a_walker_passes_its_stops_smoothly_and_stands_before_and_after():
    keeper = next(
        t for t in walking(sample(), (3.0, 2.0, 4.0), (5.0, 2.0, 4.0), (9.0, 3.0, 5.0)).sets[0].things if t.stops
    )
    t = np.linspace(-1.0, 11.0, 12001)
    way = track(keeper, t)
    assert way[0, :3] == pytest.approx(keeper.at_m) and way[-1, :3] == pytest.approx((3.0, 5.0, 0.0))
    assert np.ptp(way[(t > 3.0) & (t < 5.0)], axis=0) == pytest.approx(0.0, abs=1e-12)
    speed = np.diff(way[:, :2], axis=0) / 1e-3
    assert np.abs(np.diff(speed, axis=0)).max() < 0.01 and np.all(
        np.diff(way[:, 0]) * np.sign(2.0 - keeper.at_m[0]) > -1e-12
    )


def test_a_followed_walker_stays_where_it_is_framed_by_an_independent_projection():
    project = walking(sample(), (4.0, 1.5, 4.5), (8.0, 3.0, 4.0))
    result = solved(project)
    shot = result.shot
    made = frames(shot, result.scene)
    keeper = next(t for t in result.stage.things if t.id == shot.target)
    mark = track(keeper, made.times)[:, :3] + (0.0, 0.0, AIM * keeper.size_m[2])
    away = mark - made.sight.places
    # Ahead of the camera by its quaternion alone: x right, y up, looking along its own minus z.
    x, y, z, w = made.quaternions.T
    ahead = -np.column_stack([2 * (x * z + w * y), 2 * (y * z - w * x), 1 - 2 * (x * x + y * y)])
    off = np.linalg.norm(np.cross(away, ahead), axis=1) / np.einsum("ij,ij->i", away, ahead)
    pixels = off * shot.focal_m / shot.sensor_width_m * shot.pixels_wide
    assert pixels.max() < 1.0
    assert made.focus == pytest.approx(np.einsum("ij,ij->i", away, ahead), rel=1e-6)
    # The same walker is lost by a head that is set once, and the figures say so of both.
    assert value(result, "shot.to_edge") == pytest.approx(0.0, abs=1e-6)
    left = solved(changes.set_values(project, "hive-jib", [("shot.aim", "once")]))
    assert value(left, "shot.to_edge") > 0.3


def test_while_the_rig_holds_the_head_still_follows():
    project = changes.set_values(walking(sample(), (3.0, 3.0, 4.0)), "hive-jib", [("shot.hold_start", 3.0)])
    made = frames(solved(project).shot, solved(project).scene)
    still = made.times <= 3.0
    assert np.ptp(made.sight.places[still], axis=0) == pytest.approx(0.0, abs=1e-9)
    assert np.ptp(made.sight.pan[still]) > 0.1


def test_a_walker_is_met_passed_and_under_the_rig_when_it_is_there():
    still = solved()
    tip = still.lens_at(1.0)
    under = still.scene.where.on_set(tip[None])[0, :2]
    both, helper = lists.add_thing(sample(), still.shot.id, "person")
    both = changes.set_values(both, "hive-jib", [(f"thing.{helper}.x", 8.0), (f"thing.{helper}.y", 1.0)])
    project = walking(both, (0.9 * still.shot.duration_s, *under), thing=helper)
    there = solved(project, suggest=True)
    assert value(there, "shot.fall_gap") < 0 and finding(there, "shot.fall_zone").state == WATCH
    assert value(there, "shot.passes") < value(still, "shot.passes")
    # Its remedy takes the whole way out of the zone.
    remedy = next(r for r in finding(there, "shot.fall_zone").remedies if r.key == "aside")
    assert value(solved(changes.set_values(project, "hive-jib", list(remedy.changes))), "shot.fall_gap") >= 0


@pytest.mark.parametrize("hold", [0.0, 4.0])
def test_the_closest_approach_is_that_of_every_millisecond(hold):
    project = changes.set_values(
        walking(sample(), (3.0, 0.6, 0.4), (6.0, -2.0, 1.0), (14.0, 1.5, -0.5)),
        "hive-jib",
        [("shot.hold_start", hold), ("shot.hold_end", 5.0)],
    )
    result = solved(project)
    shot, kind, scene = result.shot, result.kind, result.scene
    keeper = next(t for t in result.stage.things if t.stops)
    times = np.arange(0.0, shot.keys[-1].time_s + shot.hold_end_s, 1e-3)
    poses = scene.path.at(np.clip((times - shot.leaves_s) / shot.duration_s, 0.0, 1.0))
    made = kind.members(result.model, poses)
    ends = scene.where.on_set(made.ends)[:, [m.moves for m in made.pieces], :, :2]
    # Points along every piece instead of the foot of a perpendicular.
    along = ends[:, :, None, 0] + np.linspace(0, 1, 101)[:, None] * (ends[:, :, 1] - ends[:, :, 0])[:, :, None]
    at = track(keeper, times)[:, None, None, :2]
    brute = float(np.hypot(*np.moveaxis(along - at, -1, 0)).min()) - keeper.size_m[0] / 2
    assert value(result, "shot.passes") == pytest.approx(brute, abs=2e-3)


def test_an_arc_about_somebody_who_walks_off_is_said():
    arc = [("shot.move", "arc")]
    there = finding(solved(changes.set_values(walking(sample(), (8.0, 1.65, 5.2)), "hive-jib", arc)), "shot.centre")
    assert there.state == WATCH
    assert there.value == pytest.approx(2.0)
    assert all(f.key != "shot.centre" for f in solved(changes.set_values(sample(), "hive-jib", arc)).findings)


def test_somebody_who_would_have_to_run_is_said():
    assert finding(solved(walking(sample(), (8.0, 3.0, 5.2))), "shot.walking").state == CLEAR
    assert finding(solved(walking(sample(), (1.0, 3.0, 5.2))), "shot.walking").state == WATCH
    # A dash of a second in a walk of ten minutes is a dash.
    dash = solved(walking(sample(), (600.0, 1.0, 5.2), (601.0, 4.0, 5.2)))
    assert value(dash, "shot.walk") == pytest.approx(3.0 * 15 / 8, rel=0.02)
    assert finding(dash, "shot.walking").state == WATCH


def test_stops_are_added_typed_dragged_refused_and_kept_in_the_file():
    project = lists.add_stop(sample(), sample().shots[0].id, "keeper")
    project = lists.add_stop(project, project.shots[0].id, "keeper")
    assert checking.check(project) == project
    first, second = next(t for t in project.sets[0].things if t.id == "keeper").stops
    assert first.time_s < second.time_s
    moved = changes.set_values(project, "hive-jib", [("thing.keeper.stop.0.x", 2.25)])
    assert next(t for t in moved.sets[0].things if t.id == "keeper").stops[0].at_m[0] == 2.25
    with pytest.raises(InputError, match="must lie between"):
        changes.set_values(project, "hive-jib", [("thing.keeper.stop.0.time", second.time_s + 1.0)])
    bare = lists.remove_stop(lists.remove_stop(project, project.shots[0].id, "keeper"), project.shots[0].id, "keeper")
    assert bare == sample()
    with pytest.raises(InputError, match="stands still"):
        lists.remove_stop(bare, bare.shots[0].id, "keeper")


def test_what_moves_is_animated_in_the_scene_file_and_drawn_where_it_is():
    result = solved(walking(sample(), (4.0, 3.0, 4.0)))
    scene = json.loads(previs.gltf(result))
    named = [node["name"] for node in scene["nodes"]]
    moving = {channel["target"]["node"] for channel in scene["animations"][0]["channels"]}
    assert {named[node] for node in moving} == {"camera", next(t.name for t in result.stage.things if t.stops)}
    middle = stage_at(result.stage, 2.0)
    one, now = (next(t for t in s.things if t.stops) for s in (result.stage, middle))
    assert one.at_m[0] < now.at_m[0] < 3.0 and math.isclose(now.at_m[2], one.at_m[2])
