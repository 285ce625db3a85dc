"""Shapes of a move, moves of several keys, and the lens: integrals, limits, symmetry."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from scipy.integrate import cumulative_trapezoid

from hazel_lantern.core.document.project import Key, Segment, Shot, held, replaced, timed
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.motion import shapes
from hazel_lantern.core.motion.profile import timing
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.optics.lens import angle_of_view
from tests.helpers import SHELF, sample

ramps, corners = st.floats(0.05, 0.5), st.floats(0.1, 0.5)
KINDS = [kind for kind, _ in shapes.SHAPES]


@pytest.mark.parametrize("kind", KINDS)
@given(ramps, corners)
def test_every_shape_is_the_integral_of_its_speed_and_that_of_its_acceleration(kind, ramp, corner):
    made = shapes.shape(kind, ramp, corner)
    u = np.linspace(0, 1, 20_001)
    way, speed, change = made.share(u), made.speed(u), made.acceleration(u)
    assert way[[0, -1]] == pytest.approx([0.0, 1.0], abs=1e-12)
    assert np.allclose(way + way[::-1], 1.0, atol=1e-12)
    assert np.allclose(cumulative_trapezoid(speed, u, initial=0), way, atol=1e-6)
    assert np.allclose(cumulative_trapezoid(change, u, initial=0), speed - speed[0], atol=2e-3)
    assert speed.max() == pytest.approx(made.c_v, rel=1e-6)
    assert min(speed) >= 0
    if math.isfinite(made.c_a):
        assert np.abs(change).max() == pytest.approx(made.c_a, rel=1e-3)
        assert kind == shapes.LINEAR or speed[[0, -1]] == pytest.approx([0.0, 0.0], abs=1e-12)
    if math.isfinite(made.c_j):
        steepest = np.abs(np.diff(change) / np.diff(u))
        assert steepest.max() == pytest.approx(made.c_j, rel=5e-3)


@given(st.sampled_from(KINDS[1:]), ramps, st.floats(0.05, 20.0), st.floats(0.05, 5.0), st.floats(0.05, 5.0))
def test_the_shortest_time_just_reaches_a_limit_and_keeps_the_others(kind, ramp, way, speed, acceleration):
    time = shapes.shortest_time(kind, ramp, -way, speed, acceleration)
    most = shapes.peaks(kind, ramp, way, time)
    assert max(most.speed / speed, most.acceleration / acceleration) == pytest.approx(1.0)


@given(st.floats(0.01, 20.0), st.floats(0.05, 5.0), st.floats(0.05, 5.0), st.floats(0.1, 20.0))
def test_the_quickest_move_within_jerk_is_a_shape_that_keeps_all_limits_and_no_slower_one_does(
    way, speed, acceleration, jerk
):
    found = shapes.jerk_limited(way, speed, acceleration, jerk)
    made = shapes.shape(shapes.JERK, found.ramp, found.corner)
    peaks = (made.c_v * way / found.time, made.c_a * way / found.time**2, made.c_j * way / found.time**3)
    assert peaks[0] == pytest.approx(found.speed, rel=1e-9)
    assert peaks[1] == pytest.approx(found.acceleration, rel=1e-9)
    assert peaks[2] == pytest.approx(jerk, rel=1e-9)
    assert found.speed <= speed * (1 + 1e-9)
    assert found.acceleration <= acceleration * (1 + 1e-9)
    # Any other symmetric shape with limited jerk takes at least as long.
    for ramp in (0.2, 0.35, 0.5):
        for corner in (0.15, 0.3, 0.5):
            other = shapes.shape(shapes.JERK, ramp, corner)
            assert max(
                other.c_v * way / speed, math.sqrt(other.c_a * way / acceleration), (other.c_j * way / jerk) ** (1 / 3)
            ) >= found.time * (1 - 1e-9)


@given(
    st.lists(
        st.tuples(st.floats(0.1, 5.0), st.floats(0, 1), st.floats(0, 2.0), st.sampled_from(KINDS)),
        min_size=2,
        max_size=5,
    )
)
def test_a_move_of_several_keys_reaches_each_in_time_and_stays_as_long_as_it_is_held(rows):
    keys, time = [], 0.0
    for lasts, share, hold, _ in rows:
        keys.append(Key(time_s=time, share=share, hold_s=hold))
        time += hold + lasts
    move = timing(keys, [Segment(shape=kind, ramp=0.3) for *_, kind in rows[1:]])
    begin = keys[0].hold_s
    for key in keys:
        at = np.array([key.time_s, key.time_s + key.hold_s])
        assert move.share((at - begin) / move.duration) == pytest.approx([key.share] * 2, abs=1e-9)
    u = np.linspace(0, 1, 40_001)
    speed, way = move.speed(u), move.share(u)
    assert np.allclose(way[0] + cumulative_trapezoid(speed, u * move.duration, initial=0), way, atol=2e-3)
    assert np.abs(speed).max() == pytest.approx(move.peak_speed, rel=1e-2, abs=1e-9)
    for one, key in zip(move.stretches, keys[1:], strict=False):
        held = (u * move.duration + begin > one.arrives + 1e-6) & (
            u * move.duration + begin < one.arrives + key.hold_s - 1e-6
        )
        assert not np.any(speed[held])


def test_times_stretch_and_holds_shift_what_follows():
    keys = (
        Key(time_s=0.0, share=0.0, hold_s=1.0),
        Key(time_s=3.0, share=0.5, hold_s=1.0),
        Key(time_s=6.0, share=1.0, hold_s=2.0),
    )
    shot = Shot(id="s", name="s", keys=keys, segments=(Segment(), Segment(shape="linear")))
    longer = held(timed(shot, 10.0), 4.0)
    assert [(key.time_s, key.hold_s) for key in longer.keys] == [(0.0, 4.0), (8.0, 2.0), (14.0, 2.0)]
    assert (longer.duration_s, longer.hold_start_s, longer.hold_end_s) == (10.0, 4.0, 2.0)


@pytest.mark.parametrize("shapes_", [("linear", "quintic"), ("eased", "sine"), ("jerk", "cycloid"), ("trapezoid",)])
def test_the_fastest_speed_told_is_that_of_the_carriage_whatever_the_shapes(shapes_):
    project = sample()
    rig = project.rig("jar-slider")
    times = np.linspace(0.0, 12.0, len(shapes_) + 1)
    keys = tuple(
        Key(time_s=float(t), share=s, hold_s=0.0)
        for t, s in zip(times, np.linspace(0, 1, len(times)) ** 1.5, strict=True)
    )
    shot = replace(project.shot_of(rig), keys=keys, segments=tuple(Segment(shape=kind, ramp=0.3) for kind in shapes_))
    result = evaluate(replace(project, shots=replaced(project.shots, shot)), SHELF, rig.id)
    u = np.linspace(0, 1, 24_001)
    speed = np.abs(np.gradient(result.poses(u)[:, 0], u * 12.0))
    assert result.figures["shot.speed"].value == pytest.approx(speed.max(), rel=2e-3)
    assert result.figures["shot.speed"].why.recompute() == pytest.approx(result.figures["shot.speed"].value)


@pytest.mark.parametrize("ramp", [0.0, -0.1, 0.6, math.nan])
def test_ramps_and_keys_that_make_no_move_are_refused(ramp):
    for kind in shapes.RAMPED:
        with pytest.raises(InputError, match="beta"):
            shapes.shape(kind, ramp)
    with pytest.raises(InputError, match="corner"):
        shapes.shape(shapes.JERK, 0.3, ramp)
    with pytest.raises(InputError, match="T is"):
        shapes.peaks("eased", 0.3, 1.0, min(ramp, 0.0))
    with pytest.raises(InputError, match="limits"):
        shapes.shortest_time("eased", 0.3, 1.0)
    for code, limits in (("PROFILE_ACCEL_UNBOUNDED", {"acceleration": 1.0}), ("PROFILE_JERK_UNBOUNDED", {"jerk": 1.0})):
        with pytest.raises(InfeasibleError) as refused:
            shapes.shortest_time("linear", 0.3, 1.0, **limits)
        assert refused.value.code == code
    first, last = Key(time_s=0.0, share=0.0, hold_s=2.0), Key(time_s=4.0, share=1.0)
    for keys, segments, named in (
        ((first,), (), "keys"),
        ((first, last), (), "segments"),
        ((first, replace(last, share=1.5)), (Segment(),), "keys.1.share"),
        ((first, replace(last, time_s=2.0)), (Segment(),), "keys.1.time"),
        ((replace(first, hold_s=-1.0), last), (Segment(),), "keys.0.hold"),
        ((first, last), (Segment(shape="wobble"),), "segments.0.shape"),
    ):
        with pytest.raises(InputError) as error:
            timing(keys, segments)
        assert error.value.field == named


@given(st.floats(0.004, 0.06), st.floats(0.008, 0.3))
def test_the_lens_sees_less_the_longer_it_is(width, focal):
    angle = angle_of_view(width, focal)
    assert 0 < angle < math.pi
    assert angle_of_view(width, 2 * focal) < angle
    assert math.tan(angle / 2) * focal * 2 == pytest.approx(width)
    with pytest.raises(InputError, match="f is"):
        angle_of_view(width, 0.0)
