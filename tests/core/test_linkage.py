"""The two-bar arm against an independent solver and by scanning."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from scipy.optimize import fsolve

from hazel_lantern.core.mechanics import linkage
from hazel_lantern.core.nouns.errors import GeometryError, InputError

angles = st.floats(-0.85, 0.85)


@given(
    angles,
    st.floats(0.5, 3),
    st.floats(-0.004, 0.004),
    st.floats(0.08, 0.2),
    st.floats(-0.003, 0.003),
    st.floats(-0.1, 0.1),
)
def test_head_tilt_closes_the_loop_an_independent_solver_closes(theta, length, longer, spacing, wider, lean):
    upper, head = length + longer, spacing + wider

    def gap(x):
        tilt, alpha = x
        pin = length * np.array([math.cos(theta), math.sin(theta)])
        start = spacing * np.array([-math.sin(lean), math.cos(lean)])
        return (
            pin
            + head * np.array([-math.sin(tilt), math.cos(tilt)])
            - start
            - upper * np.array([math.cos(alpha), math.sin(alpha)])
        )

    assume(abs(theta - lean) < 1.2)
    solution, _, good, _ = fsolve(gap, [lean, theta], full_output=True, xtol=1e-13)
    assume(good == 1 and np.linalg.norm(gap(solution)) < 1e-11 and abs(solution[0] - lean) < 0.5)
    assert float(linkage.head_tilt(theta, length, upper, spacing, head, lean)) == pytest.approx(solution[0], abs=1e-8)


@given(st.floats(0.4, 4), st.floats(0.05, 0.3), st.floats(-0.2, 0.2))
def test_equal_bars_keep_the_lean_of_the_post_at_every_angle(length, spacing, lean):
    tilt = linkage.head_tilt(np.linspace(-0.9, 0.9, 31), length, length, spacing, spacing, lean)
    assert np.allclose(tilt, lean, atol=1e-7)


def test_the_small_error_rule_holds_where_it_is_said_to_hold():
    theta = np.radians(np.linspace(-50, 50, 41))
    exact = linkage.head_tilt(theta, 1.5, 1.5004, 0.12, 0.1203)
    rule = (0.0003 * np.sin(theta) - 0.0004) / (0.12 * np.cos(theta))
    assert np.abs(exact - rule).max() < 0.07 * np.abs(exact).max()


def test_bars_too_short_to_meet_name_the_angle():
    with pytest.raises(GeometryError, match=r"20\.0 degrees"):
        linkage.head_tilt(np.radians([0.0, 20.0]), 1.0, 1.025, 0.04, 0.03)


@given(
    st.floats(0.6, 2.0),
    st.floats(0.5, 3),
    st.floats(0.3, 1.0),
    st.floats(0.0, 0.5),
    st.floats(0.0, 0.15),
    st.floats(0.08, 0.2),
)
def test_limits_are_where_a_scan_first_touches_something(height, front, rear, low, radius, spacing):
    try:
        found = linkage.jib_limits(height, front, rear, low, radius, 0.03, spacing, 0.04, 0.025)
    except GeometryError:
        assume(False)
    theta = np.linspace(-math.pi / 2, math.pi / 2, 200_001)
    free = height + front * np.sin(theta) - low >= 0.03
    free &= height - rear * np.sin(theta) - radius >= 0.03
    free &= spacing * np.cos(theta) >= (0.04 + 0.025) / 2
    assert theta[free].min() == pytest.approx(found.low, abs=5e-5)
    assert theta[free].max() == pytest.approx(found.high, abs=5e-5)
    assert (found.low_by, found.low) in found.stops
    assert (found.high_by, found.high) in found.stops


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"post_spacing": 0.03}, "already touch"),
        ({"head_lowest_below_pin": 4.0}, "head is on the ground"),
        ({"pivot_height": 0.2, "counterweight_radius": 1.5}, "counterweight is on the ground"),
        (
            {"pivot_height": 0.35, "head_lowest_below_pin": 0.8, "rear_length": 3.0, "counterweight_radius": 0.3},
            "no usable arm angle",
        ),
    ],
)
def test_impossible_arms_say_what_is_in_the_way(change, says):
    sizes = {
        "pivot_height": 1.3,
        "front_length": 1.5,
        "rear_length": 0.6,
        "head_lowest_below_pin": 0.2,
        "counterweight_radius": 0.1,
        "ground_clearance": 0.05,
        "post_spacing": 0.1,
        "bar_depth_lower": 0.04,
        "bar_depth_upper": 0.025,
    }
    with pytest.raises(GeometryError, match=says):
        linkage.jib_limits(**(sizes | change))
    with pytest.raises(InputError, match="front_length"):
        linkage.jib_limits(**(sizes | {"front_length": 0.0}))


@given(angles, st.floats(0.05, 0.3), st.floats(1, 200), st.floats(-0.2, 0.4), st.floats(-0.3, 0.3), st.floats(-20, 20))
def test_head_is_in_balance_on_its_two_bars(theta, spacing, weight, ahead, above, push):
    upper, lower, pin = linkage.link_forces(theta, spacing, weight, ahead, above, push)
    along = np.array([math.cos(theta), math.sin(theta)])
    on_pin = -upper * along + np.array([-push, weight])
    total = on_pin + upper * along + np.array([push, -weight])
    assert np.allclose(total, 0, atol=1e-9)
    moment = upper * (-spacing * along[0]) - weight * ahead - push * above
    assert moment == pytest.approx(0, abs=1e-7)
    assert float(lower) == pytest.approx(float(on_pin @ along), abs=1e-9)
    assert float(pin) == pytest.approx(float(np.linalg.norm(on_pin)))


def test_travel_and_shift_of_the_arc():
    theta = np.linspace(-0.4, 0.9, 10_001)
    assert linkage.height_travel(1.7, -0.4, 0.9) == pytest.approx(np.ptp(1.7 * np.sin(theta)))
    assert linkage.arc_shift(1.7, -0.4, 0.9) == pytest.approx(np.ptp(1.7 * np.cos(theta)), abs=1e-7)
    assert linkage.arc_shift(1.7, 0.2, 0.9) == pytest.approx(1.7 * (math.cos(0.2) - math.cos(0.9)))
