"""Axes of the head worked one by one, heads, hands, and what bounds a move; against projections and brute force."""

from __future__ import annotations

import csv
import io
import math

import numpy as np
import pytest
from msgspec.structs import replace
from scipy.spatial.transform import Rotation

from hazel_lantern.core.document.project import Key, Segment, Stop, replaced
from hazel_lantern.core.editing import changes, lists
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.motion.profile import timing
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import CLEAR, STOP, WATCH
from hazel_lantern.core.staging.axes import reading
from hazel_lantern.core.staging.timing import frames
from hazel_lantern.files import previs
from tests.helpers import SHELF, changed, finding, sample, solved, value


def keyed(project, axis, *keys):
    shot = project.shots[0].id
    for time, number in keys:
        project = lists.key_axis(project, shot, axis, time, number)
    return project


def test_axes_kept_one_by_one_look_where_a_head_kept_as_a_whole_looks():
    whole, each = solved(), solved(changed(shot__aim="each", axis__roll__how="kept"))
    assert each.staged.camera.matrices == pytest.approx(whole.staged.camera.matrices, abs=1e-9)
    assert value(each, "shot.wander") == pytest.approx(0.0, abs=1e-6)


def test_a_keyed_head_turns_as_its_scales_say_by_an_independent_rotation():
    project = keyed(sample(), "pan", (0.0, 0.1), (6.0, -0.5))
    project = keyed(keyed(project, "tilt", (1.0, 0.2), (7.0, -0.3)), "roll", (2.0, 0.05))
    result = solved(changes.set_values(project, project.rigs[0].id, [("axis.roll.how", "keyed")]))
    made = frames(result.shot, result.scene)
    scene = result.scene.at(np.clip(made.times / result.shot.duration_s, 0, 1), made.times)
    axes = {axis.id: axis for axis in result.shot.axes}
    for k in (0, 120, 333, 400):
        t = made.times[k]

        def at(name, t=t):
            (a, va), (b, vb) = (
                [(key.time_s, key.value) for key in axes[name].keys][:1] * 2
                if len(axes[name].keys) == 1
                else [(key.time_s, key.value) for key in axes[name].keys]
            )
            u = np.clip((t - a) / (b - a), 0, 1) if b > a else 0.0
            return va + (vb - va) * (10 * u**3 - 15 * u**4 + 6 * u**5)

        # Yaw about the plate's upright, nose up about its left, lean to the right about where it looks.
        turn = Rotation.from_matrix(scene.mount.axes[k]) * Rotation.from_euler(
            "ZYX", [at("pan"), -at("tilt"), at("roll")]
        )
        ahead, left, up = turn.as_matrix().T
        assert np.column_stack([-left, up, -ahead]) == pytest.approx(made.sight.matrices[k], abs=2e-3)
    read = scene.scales
    assert np.degrees(read.tilt[0]) == pytest.approx(math.degrees(0.2), abs=1e-6)
    assert np.degrees(read.pan[-1]) == pytest.approx(math.degrees(-0.5), abs=1e-6)


def test_keying_where_the_subject_is_keeps_it_framed_there_and_exports_follow():
    project, head = sample(), None
    for share in (0.0, 0.5, 1.0):
        result = solved(project)
        time, head = reading(result.scene, "tilt", share)
        project = keyed(project, "tilt", (time, head))
    result = solved(project)
    assert result.shot.aim == "each"
    assert value(result, "shot.wander") > 1
    for share in (0.0, 0.5, 1.0):
        seen = result.scene.now(share)
        away = seen.target[0] - seen.camera.places[0]
        _, up, back = seen.camera.matrices[0].T
        assert abs(away @ up / (away @ -back)) < 1e-5
    rows = list(csv.DictReader(io.StringIO(previs.head_csv(result).decode("utf-8-sig"))))
    assert float(rows[-1]["head_tilt_deg"]) == pytest.approx(math.degrees(head), abs=1e-3)
    assert [float(row["time_s"]) for row in rows] == [0, 1, 2, 3, 4, 5, 6, 7, 8]
    path = list(csv.DictReader(io.StringIO(previs.path_csv(result).decode())))
    assert float(path[-1]["tilt_deg"]) == pytest.approx(float(rows[-1]["head_tilt_deg"]), abs=0.1)
    with pytest.raises(InputError, match="in the order of its keys"):
        changes.set_values(project, "hive-jib", [("axis.tilt.0.time", 5.0)])
    bare = project
    for _ in range(3):
        bare = lists.unkey_axis(bare, bare.shots[0].id, "tilt")
    assert bare.shots[0].axes == sample().shots[0].axes


def test_focus_left_or_keyed_is_soft_where_brute_force_finds_the_subject_outside():
    shot = {"shot__focal": 0.085, "shot__aperture": 1.4}
    pulled = solved(changed(**shot))
    assert "shot.soft" not in pulled.figures
    fixed = solved(changed(changed(**shot), axis__focus__how="fixed"))
    keys = solved(keyed(changed(**shot), "focus", (0.0, 2.0), (8.0, 2.0)))
    for result, at in ((fixed, value(fixed, "shot.focus")), (keys, 2.0)):
        seen = result.staged
        away = seen.target - seen.camera.places
        depth = -np.einsum("nk,nk->n", away, seen.camera.matrices[:, :, 2])
        blur = max(math.hypot(0.0235, 0.0132) / 1500, 1.5 * 0.0235 / 3840)
        # Blur of a point at depth d with the lens set at s, thin lens.
        circle = 0.085**2 / 1.4 * np.abs(depth - at) / (depth * (at - 0.085))
        assert value(result, "shot.soft") == pytest.approx(float(np.mean(circle > blur)), abs=0.05)
    assert finding(keys, "shot.pull").state == WATCH
    assert frames(keys.shot, keys.scene).focus == pytest.approx(2.0)


def test_hands_and_heads_are_counted_weighed_and_held_against_what_they_can_do():
    plain = solved(changed(axis__tilt__by="hand"))
    assert value(plain, "shot.people") == 2 and finding(plain, "shot.hands").state == WATCH
    assert finding(plain, "shot.head_reach").state == WATCH
    rear = solved(changed(axis__tilt__by="rear"))
    assert value(rear, "shot.people") == 1 and finding(rear, "shot.hands").state == CLEAR
    assert "shot.head_reach" not in {f.key for f in rear.findings}
    head = SHELF.heads["steady-small"]
    steady = solved(changed(kit__head=head.id))
    mass = plain.carried.payload.mass
    assert steady.carried.payload.mass == pytest.approx(mass + head.mass)
    lifted = (mass * (plain.carried.payload.cg[2] + head.height) + head.mass * head.height / 2) / (mass + head.mass)
    assert steady.carried.payload.cg[2] == pytest.approx(lifted)
    assert steady.carried.lens_at_m[2] == pytest.approx(plain.carried.lens_at_m[2] + head.height)
    assert finding(steady, "shot.head_carries").state == STOP
    assert value(steady, "rig.sway_shows") == pytest.approx(value(plain, "rig.sway_shows") / 0.05)
    ball = solved(changed(kit__head="ball"))
    assert finding(ball, "shot.head_axes").state == WATCH
    assert finding(solved(changed(changed(kit__head="ball"), shot__aim="once")), "shot.head_axes").state == CLEAR
    motor = changed(changed(kit__head="fluid-small"), axis__tilt__by="remote")
    assert finding(solved(motor), "shot.head_driven").state == WATCH
    with pytest.raises(InputError):
        evaluate(changed(kit__head="no-such"), SHELF, "hive-jib")


def test_there_and_back_and_again_by_integration():
    project = changed(shot__hold_start=0.5, shot__hold_end=1.0)
    shot = project.shots[0].id
    with pytest.raises(InputError, match="must end where it began"):
        lists.once_more(project, shot)
    back = lists.there_and_back(project, shot)
    again = lists.once_more(back, shot)
    made = again.shots[0]
    assert [key.share for key in made.keys] == [0, 1, 0, 1, 0]
    assert [key.time_s for key in made.keys] == pytest.approx([0, 8.5, 17.5, 26, 35])
    profile = timing(made.keys, made.segments)
    u = np.linspace(0, 1, 40001)
    speed = profile.speed(u)
    way = np.concatenate([[0.0], np.cumsum((speed[1:] + speed[:-1]) / 2 * np.diff(u) * profile.duration)])
    assert profile.share(u) == pytest.approx(way, abs=1e-5)
    # It is laid, framed and judged as the way there alone, but for the clock.
    once, twice = solved(project), solved(again)
    assert twice.staged.where.x == pytest.approx(once.staged.where.x, abs=0.01)
    assert twice.staged.where.y == pytest.approx(once.staged.where.y, abs=0.02)
    for key in ("shot.stray", "shot.to_edge", "shot.speed", "rig.sway", "shot.acceleration"):
        assert value(twice, key) == pytest.approx(value(once, key), rel=2e-3), key
    assert value(twice, "shot.image_speed") == pytest.approx(value(once, "shot.image_speed"), rel=0.1)
    assert frames(made, twice.scene).times[-1] == pytest.approx(35.5, abs=0.03)


def test_the_shortest_time_is_where_the_finding_turns_and_a_jolt_is_said():
    result = solved(changed(pan__stop=0.1))
    assert finding(result, "shot.hurry").state == WATCH
    shortest = result.figures["shot.shortest"].value
    slower = solved(changed(changed(pan__stop=0.1), shot__time=shortest * 1.001))
    assert finding(slower, "shot.hurry").state == CLEAR
    assert value(slower, "shot.shortest") == pytest.approx(shortest, rel=2e-3)
    u = np.linspace(0, 1, 20001)
    shot = result.shot
    profile, way = timing(shot.keys, shot.segments), 2.25
    hardest = np.abs(np.diff(profile.speed(u)) / np.diff(u)).max() * way / shot.duration_s
    assert value(result, "shot.acceleration") == pytest.approx(hardest, rel=1e-3)
    jolt = solved(changed(stretch__0__shape="linear"))
    assert finding(jolt, "shot.hurry").state == WATCH
    assert finding(jolt, "shot.hurry").remedies[0].changes == (("stretch.0.shape", "eased"),)


def test_what_is_met_between_two_looks_is_met_and_what_walks_into_a_rig_that_waits_too():
    project = sample()
    stage = project.sets[0]
    lens = solved().staged.camera.places
    # A thin pole where the arm passes between two of the usual moments, high up beside nothing else.
    result = solved()
    middle = (lens[11] + lens[12]) / 2
    thing = replace(next(t for t in stage.things if t.id == "hive-2"), size_m=(0.02, 0.02, 0.004))
    pole = replace(thing, id="wire", kind="box", at_m=(float(middle[0]), float(middle[1]), float(middle[2]) - 0.23))
    with_pole = replace(project, sets=replaced(project.sets, replace(stage, things=(*stage.things, pole))))
    hits = any(f.key == "shot.hits.wire" for f in solved(with_pole).findings)
    u = np.linspace(0, 1, 4001)
    path = result.path
    ends = result.scene.where.on_set(result.kind.members(path.model, path.at(u)).ends)
    radius = max(m.radius for m in result.kind.members(path.model, path.at(u[:1])).pieces)
    points = ends[:, :, None, 0] + (ends[:, :, 1] - ends[:, :, 0])[:, :, None] * np.linspace(0, 1, 7)[:, None]
    gap = np.abs(points - (np.array(pole.at_m) + (0, 0, 0.002))) - (np.array(pole.size_m) / 2 + radius)
    assert hits == bool((gap.max(axis=-1) <= 0).any())
    where = result.scene.where
    walker = next(t for t in stage.things if t.id == "keeper")
    into = replace(walker, id="late", stops=(Stop(time_s=9.5, at_m=(where.x, where.y, 0.0)),))
    walked = replace(project, sets=replaced(project.sets, replace(stage, things=(*stage.things, into))))
    early = {f.key for f in solved(walked).findings}
    shot = replace(
        walked.shots[0], keys=(Key(time_s=0.0, share=0.0), Key(time_s=4.0, share=1.0)), segments=(Segment(),)
    )
    short = replace(walked, shots=replaced(walked.shots, shot))
    waits = replace(
        short, shots=replaced(short.shots, replace(shot, keys=(shot.keys[0], replace(shot.keys[1], hold_s=8.0))))
    )
    assert "shot.hits.late" not in {f.key for f in solved(short).findings}
    assert "shot.hits.late" in {f.key for f in solved(waits).findings}
    assert early
