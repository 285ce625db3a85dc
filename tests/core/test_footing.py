"""Tipping against a linear programme on contact forces, slew by brute force, ballast by its own check."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from scipy.optimize import linprog

from hazel_lantern.core.mechanics import footing
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.units import GRAVITY

FEET = np.array([[0.6, 0.0], [-0.3, 0.52], [-0.3, -0.52]])


def stands(feet, force, moment) -> bool:
    """Whether pushing-only contact forces can hold a downward force and moments about x and y."""
    a = np.vstack([np.ones(len(feet)), feet[:, 1], -feet[:, 0]])
    return linprog(np.zeros(len(feet)), A_eq=a, b_eq=[force, moment[0], moment[1]], bounds=(0, None)).status == 0


@settings(max_examples=40)
@given(st.floats(0, 2 * math.pi), st.floats(0.3, 1.5))
def test_the_knock_that_tips_is_where_contact_forces_run_out(direction, height):
    masses, cgs = [6.0, 2.0], np.array([[0.0, 0.05, 0.5], [0.2, 0.0, 1.2]])
    result = footing.footing(FEET, masses, cgs)
    out = np.array([math.cos(direction), math.sin(direction)])

    def holds(push):
        weight = np.array(masses) * GRAVITY
        x = (weight @ cgs[:, 0] + push * out[0] * height) / weight.sum()
        y = (weight @ cgs[:, 1] + push * out[1] * height) / weight.sum()
        return stands(FEET, weight.sum(), (y * weight.sum(), -x * weight.sum()))

    weakest = result.knock(height)
    assert holds(0.999 * weakest)
    edge = -result.normals[int(np.argmin(result.margins))]
    out = edge
    assert holds(0.999 * weakest)
    assert not holds(1.001 * weakest)


@given(st.floats(-math.pi, math.pi))
def test_turning_everything_changes_nothing(turn):
    rotation = np.array([[math.cos(turn), -math.sin(turn)], [math.sin(turn), math.cos(turn)]])
    cgs = np.array([[0.1, -0.05, 0.6], [-0.2, 0.1, 1.0]])
    turned = np.column_stack([cgs[:, :2] @ rotation.T, cgs[:, 2]])
    one, two = footing.footing(FEET, [4.0, 2.0], cgs), footing.footing(FEET @ rotation.T, [4.0, 2.0], turned)
    assert two.distance == pytest.approx(one.distance, rel=1e-6)
    # Points are merged on a nanometre grid, hence the tolerance.
    assert sorted(two.margins) == pytest.approx(sorted(one.margins), rel=1e-6)


@settings(max_examples=30)
@given(st.floats(0.2, 1.8), st.floats(-0.6, 0.0), st.floats(0, 3), st.floats(0, 5))
def test_the_worst_slew_is_the_worst_of_all(reach, tail, low, wide):
    masses, cgs = [2.5, 7.0], np.array([[reach, 0.05, 1.5], [tail, 0.0, 1.1]])
    fixed = ([5.0], np.array([[0.02, 0.0, 0.5]]))
    whole = footing.worst_slew(FEET, *fixed, (0.0, 0.0), masses, cgs, [((3.0, 0, 0), (reach, 0, 1.5))])
    limited = footing.worst_slew(
        FEET, *fixed, (0.0, 0.0), masses, cgs, [((3.0, 0, 0), (reach, 0, 1.5))], (low, low + wide)
    )

    def margin(angle):
        turn = np.array([[math.cos(angle), math.sin(angle), 0], [-math.sin(angle), math.cos(angle), 0], [0, 0, 1]])
        force, at = np.array([3.0, 0, 0]) @ turn, np.array([reach, 0, 1.5]) @ turn
        result = footing.footing(FEET, [*fixed[0], *masses], np.vstack([fixed[1], cgs @ turn]), [(force, at)])
        return result.margins.min()

    scan = [margin(a) for a in np.linspace(0, 2 * math.pi, 721)]
    assert whole.moment <= min(scan) + 1e-9
    assert whole.moment == pytest.approx(margin(whole.angle), abs=1e-9)
    part = [margin(a) for a in np.linspace(low, low + wide, 361)]
    assert limited.moment == pytest.approx(min(part), abs=2e-2)
    assert limited.moment <= min(part) + 1e-9


@given(st.floats(0.2, 1.2), st.floats(1.1, 3))
def test_ballast_brings_exactly_the_factor_asked_for(reach, factor):
    masses, cgs = [4.0, 3.0], np.array([[0, 0, 0.5], [reach, 0.1, 1.2]])
    more = footing.ballast(FEET, masses, cgs, [], (0.0, 0.0, 0.2), factor)
    assume(more > 0)
    after = footing.footing(FEET, [*masses, more], np.vstack([cgs, [0, 0, 0.2]]))
    assert after.factor == pytest.approx(factor, rel=1e-9)


def test_ballast_that_cannot_help_and_feet_that_make_no_polygon_say_so():
    cgs = np.array([[0, 0, 0.5], [1.2, 0, 1.2]])
    with pytest.raises(InfeasibleError, match="cannot help"):
        footing.ballast(FEET, [1.0, 3.0], cgs, [], (0.9, 0.0, 0.2), 2.0)
    with pytest.raises(InfeasibleError, match="another edge"):
        footing.ballast(FEET, [1.0, 3.0], cgs, [], (-2.0, 0.0, 0.2), 6.0)
    with pytest.raises(InputError, match="three distinct"):
        footing.footing(np.array([[0, 0], [1, 1], [2, 2]]), [1.0], np.zeros((1, 3)))
    with pytest.raises(InfeasibleError, match="upward"):
        footing.footing(FEET, [1.0], np.zeros((1, 3)), [((0, 0, 20.0), (0, 0, 0))])
    assert footing.footing(FEET, [1.0], np.array([[2.0, 0, 1]])).distance < 0
    assert footing.footing(FEET, [1.0], np.array([[0.0, 0, 1]])).factor == math.inf


@pytest.mark.parametrize("way", [(1.0, 0.0), (-1.0, 0.0), (0.6, -0.8)])
def test_a_push_in_one_direction_tips_where_its_moment_outdoes_what_holds(way):
    feet, masses = np.array([(0.5, 0.1), (-0.3, 0.4), (-0.3, -0.4)]), [3.0, 1.2]
    places = np.array([(0.05, 0.0, 0.4), (0.1, 0.05, 1.1)])
    force = footing.footing(feet, masses, places).pushed(0.9, way)

    def left(newtons):
        push = ((newtons * way[0], newtons * way[1], 0.0), (0.0, 0.0, 0.9))
        return footing.footing(feet, masses, places, [push]).margins.min()

    assert left(0.999 * force) > 0
    assert left(1.001 * force) < 0


@settings(max_examples=40)
@given(st.data())
def test_all_poses_slews_and_loads_at_once_are_each_of_them_alone(data):
    """Stabilising and overturning of every edge against the sums of one pose, one slew, one load at a time."""
    rng = np.random.default_rng(data.draw(st.integers(0, 10**6)))
    count, cases, poses, still = (int(n) for n in rng.integers((3, 1, 1, 0), (7, 4, 5, 4)))
    angles = np.sort(rng.uniform(0, 2 * math.pi, count))
    assume(np.diff(angles, append=angles[0] + 2 * math.pi).max() < 2.5)
    feet = np.column_stack([np.cos(angles), np.sin(angles)]) * rng.uniform(0.4, 0.9)
    fixed, fixed_at = rng.uniform(0, 9, still), rng.normal(0, 0.4, (still, 3))
    turning, at = rng.uniform(0, 5, (cases, 4)), rng.normal(0, 0.9, (poses, 4, 3))
    # What is taken off weighs nothing and counts on neither side.
    turning[0, 2] = 0.0
    slews = rng.uniform(0, 2 * math.pi, 3)
    holds, tips = footing.around(feet, fixed.tolist(), fixed_at, turning, at, slews)
    assert holds.shape == tips.shape == (cases, poses, 3, count)
    assert (holds >= 0).all() and (tips >= 0).all()
    for case, pose, n in np.ndindex(cases, poses, 3):
        cos, sin = math.cos(slews[n]), math.sin(slews[n])
        turn = np.array([[cos, sin, 0], [-sin, cos, 0], [0, 0, 1]])
        alone = footing.footing(feet, [*fixed, *turning[case]], np.vstack([fixed_at.reshape(-1, 3), at[pose] @ turn]))
        assert holds[case, pose, n] == pytest.approx(alone.stabilising, abs=1e-9)
        assert tips[case, pose, n] == pytest.approx(alone.overturning, abs=1e-9)
    # Turned all the way round, everything is as before.
    again = footing.around(feet, fixed.tolist(), fixed_at, turning, at, slews + 2 * math.pi)
    assert again[0] == pytest.approx(holds, abs=1e-9) and again[1] == pytest.approx(tips, abs=1e-9)
