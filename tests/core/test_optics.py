"""The lens, the pose and the picture against independent rotations, root finding and counting."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq
from scipy.spatial.transform import Rotation

from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.optics import lens, pose, screen

angles = st.floats(-1.4, 1.4)


def turned(pan, tilt, roll):
    """Camera matrix by successive turns of a camera that looks along +y."""
    level = np.column_stack([(1, 0, 0), (0, 0, 1), (0, -1, 0)])
    return (
        Rotation.from_euler("z", pan) * Rotation.from_euler("x", tilt) * Rotation.from_euler("y", roll)
    ).as_matrix() @ level


@given(st.floats(-6, 6), angles, angles, st.tuples(st.floats(-3, 3), st.floats(1, 9), st.floats(-2, 4)))
def test_projection_agrees_with_independent_rotations(pan, tilt, roll, point):
    ours, theirs = pose.axes(pan, tilt, roll), turned(pan, tilt, roll)
    assert np.allclose(ours, theirs, atol=1e-12)
    assert np.linalg.det(ours) == pytest.approx(1.0)
    eye = np.array([0.3, -1.0, 1.2])
    local = theirs.T @ (np.array(point) - eye)
    got = pose.project(pose.camera_points(ours, eye, np.array([point])), (4000.0, 3900.0), (3840.0, 2160.0))[0]
    if -local[2] > 0.05:
        want = (1920 + 4000 * local[0] / -local[2], 1080 - 3900 * local[1] / -local[2])
        assert np.allclose(got, want, atol=0.01)
    q = Rotation.from_matrix(theirs).as_quat(canonical=True)
    assert np.allclose(np.abs(np.dot(pose.quaternion(ours), q)), 1.0)


@given(st.floats(-3, 3), st.floats(-3, 3), st.floats(-3, 3))
def test_looking_at_a_point_brings_it_to_the_middle(x, y, z):
    eye = np.array([[0.2, 0.1, 4.2]])
    pan, tilt = pose.look_at(eye, np.array([x, y, z]))
    local = pose.camera_points(pose.axes(pan[0], tilt[0]), eye[0], np.array([[x, y, z]]))[0]
    assert np.allclose(local[:2], 0, atol=1e-9)
    assert local[2] > 0


def test_a_full_circle_round_the_subject_does_not_jump_and_standing_on_it_is_refused():
    around = np.linspace(0, 2 * np.pi, 200)
    pan, _ = pose.look_at(np.column_stack([np.cos(around), np.sin(around), np.ones_like(around)]), np.zeros(3))
    assert abs(pan[-1] - pan[0]) == pytest.approx(2 * np.pi)
    with pytest.raises(InputError, match="where it stands"):
        pose.look_at(np.array([[1.0, 2.0, 3.0]]), np.array([1.0, 2.0, 3.0]))


@given(st.tuples(*[st.floats(-3, 3)] * 3), st.tuples(*[st.floats(-3, 3)] * 3))
def test_the_part_of_a_member_in_view_is_what_counting_points_finds(a, b):
    a, b, tan = np.array(a), np.array(b), (0.7, 0.4)
    t = np.linspace(0, 1, 4001)
    points = a + np.outer(t, b - a)
    inside = (
        (points[:, 2] >= pose.NEAR)
        & (np.abs(points[:, 0]) <= points[:, 2] * tan[0])
        & (np.abs(points[:, 1]) <= points[:, 2] * tan[1])
    )
    part = pose.clip(a, b, *tan)
    if inside.sum() > 2:
        assert part is not None
        assert part[0] == pytest.approx(t[inside].min(), abs=3e-4)
        assert part[1] == pytest.approx(t[inside].max(), abs=3e-4)
    elif part is not None:
        assert part[1] - part[0] < 8e-4


@given(st.floats(0.012, 0.1), st.floats(1.4, 11), st.floats(0.8, 8))
def test_sharp_limits_are_where_the_blur_circle_is_the_one_allowed(focal, aperture, distance):
    coc = 2e-5

    def blur(at):
        image, focus = focal * at / (at - focal), focal * distance / (distance - focal)
        return focal / aperture * abs(image - focus) / image - coc

    near, far = lens.sharp_range(focal, aperture, coc, distance)
    assert near == pytest.approx(brentq(blur, focal * 1.001, distance), rel=1e-6)
    if math.isfinite(far) and far < 1e5:
        assert far == pytest.approx(brentq(blur, distance, far * 2), rel=1e-5)
    assert near <= lens.best_focus(near, min(far, 1e4)) <= far


@given(st.floats(500, 5000), st.floats(-0.02, 0.02), st.floats(-900, 900), st.floats(-900, 900))
def test_a_pitch_moves_the_centre_as_the_tangent_says_and_the_rest_as_projection_does(focal, pitch, x, y):
    ray = np.array([x / focal, -y / focal, -1.0])
    back = Rotation.from_euler("x", -pitch).apply(ray)
    assert np.allclose(
        screen.pitched_point(focal, pitch, x, y), (-back[0] / back[2] * focal, back[1] / back[2] * focal), atol=1e-6
    )
    assert abs(screen.pitched_point(focal, pitch, 0, 0)[1]) == pytest.approx(abs(screen.turn_shift(focal, pitch)))


def test_slower_or_more_frames_is_calmer_and_a_short_shutter_is_stricter():
    slow = screen.pace(400, 3840, 25, 25, math.pi)
    assert slow.crossing == pytest.approx(3840 / 400)
    assert screen.pace(400, 3840, 100, 25, math.pi).crossing == pytest.approx(4 * slow.crossing)
    ranks = [screen.BANDS.index(screen.pace(v, 3840, 24, 24, math.pi).band) for v in (0, 300, 800, 2000, 4000)]
    assert ranks == [0, 0, 1, 2, 3]
    assert screen.pace(300, 3840, 24, 24, math.radians(45)).band == screen.NOTICEABLE
    assert screen.pace(0, 3840, 24, 24, math.radians(45)).band == screen.COMFORTABLE
    assert math.isinf(screen.pace(0, 3840, 24, 24, math.pi).crossing)


def test_work_that_reaches_the_lens_names_how_high_it_may_be():
    assert screen.at_height(1.0, 0.8, 0.2) == pytest.approx(0.75)
    with pytest.raises(InfeasibleError, match="too close") as caught:
        screen.at_height(1.0, 0.8, 0.8, 0.1)
    assert caught.value.nearest["h_obj"] == pytest.approx(0.7)


@pytest.mark.parametrize(
    ("call", "field"),
    [
        (lambda: lens.field(0.02, 0.05, 0.04), "D is"),
        (lambda: lens.angle_of_view(0.02, 0.0), "f is"),
        (lambda: lens.hyperfocal(0.05, 0.0, 2e-5), "N is"),
        (lambda: screen.pace(10, 100, 0, 25, 1.0), "fps_capture"),
        (lambda: screen.pace(10, 100, 25, 25, 7.0), "shutter"),
        (lambda: screen.reveal_at((0, 2.0), (0, 1.0)), "D_edge"),
        (lambda: screen.cover(2.0, 0.5, 1.0), "overlap"),
        (lambda: screen.orbit_speed(1000, 1.0, 2.0, 0.0), "D is"),
    ],
)
def test_what_no_lens_can_do_is_refused_by_name(call, field):
    with pytest.raises(InputError, match=field):
        call()
