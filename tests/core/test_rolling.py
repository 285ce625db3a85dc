"""Wheels, grooves, shuttles, slopes, sticking, vibration, things overhead: limits, symmetry, independent integration."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp
from scipy.optimize import minimize

from hazel_lantern.core.mechanics import built_up, cables, carriage, overhead, rolling, vibration
from hazel_lantern.core.mechanics.sections import flat_bar
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError, RefusedError
from hazel_lantern.core.nouns.units import GRAVITY

SQUARE = [(0.07, 0.05), (0.07, -0.05), (-0.07, 0.05), (-0.07, -0.05)]
small = st.floats(-0.03, 0.03)


@given(small, small, st.floats(0.02, 0.3), st.floats(-1, 1), st.floats(-0.1, 0.1), st.floats(-0.1, 0.1))
def test_wheel_loads_carry_all_and_are_the_least_squares_of_a_rigid_carriage(x, y, height, brake, pitch, roll):
    found = carriage.wheel_loads(SQUARE, 3.0, (x, y, height), (brake, 0, 0), pitch, roll)
    assert found.loads.sum() == pytest.approx(found.normal)
    places = np.array(SQUARE)
    assert found.loads @ places == pytest.approx(found.normal * found.foot, abs=1e-9)
    # Of all loads that balance, equal springs take the one with the least energy.
    again = minimize(
        lambda n: n @ n,
        np.full(4, found.normal / 4),
        constraints=[
            {
                "type": "eq",
                "fun": lambda n: np.array([n.sum() - found.normal, *(n @ places - found.normal * found.foot)]),
            }
        ],
    )
    assert found.loads == pytest.approx(again.x, abs=1e-4)
    mirrored = carriage.wheel_loads(SQUARE, 3.0, (x, -y, height), (brake, 0, 0), pitch, -roll)
    assert mirrored.loads[[1, 0, 3, 2]] == pytest.approx(found.loads)


def test_three_wheels_or_a_line_of_them_and_a_carriage_lifted_off():
    assert carriage.wheel_loads(SQUARE[:3], 2.0, (0, 0, 0.1)).loads.sum() == pytest.approx(2 * GRAVITY)
    with pytest.raises(InputError, match="one line"):
        carriage.wheel_loads([(0, 0), (0.1, 0), (0.2, 0)], 2.0, (0, 0, 0.1))
    with pytest.raises(InfeasibleError, match="lift"):
        carriage.wheel_loads(SQUARE, 2.0, (0, 0, 0.1), pushes=(((0, 0, 50.0), (0, 0, 0)),))
    assert carriage.wheel_loads(SQUARE, 2.0, (0.2, 0, 0.1)).margin < 0


@given(
    st.floats(1, 40),
    st.floats(-0.06, 0.06),
    st.floats(0.02, 0.3),
    st.floats(0.01, 0.4),
    st.floats(0, 10),
    st.floats(-0.3, 0.3),
)
def test_a_shuttle_moves_with_the_friction_of_its_own_two_ends_or_jams(weight, load_x, guide, mu, resisting, offset):
    found = carriage.shuttle(weight, load_x, offset, guide, mu, resisting)
    assert found.jams == (2 * mu * abs(offset) / guide >= 1 - 1e-12)
    if not found.jams:
        front = weight * (0.5 + load_x / guide) + found.force * offset / guide
        assert found.force == pytest.approx(resisting + mu * (abs(front) + abs(weight - front)), rel=1e-6)
    assert found.critical == pytest.approx(guide / (2 * mu))


@given(st.floats(0.1, 1.2), st.floats(0.0, 0.3))
def test_on_a_slope_the_end_speed_is_the_energy_left_over(slope, rolling_):
    run = carriage.incline(2.0, slope, rolling_, 1.5)
    lost = 2.0 * GRAVITY * 1.5 * (math.sin(slope) - rolling_ * math.cos(slope))
    assert run.runs_away == (math.tan(slope) > rolling_)
    assert run.end_speed**2 == pytest.approx(max(0.0, lost))
    assert run.push - run.holding == pytest.approx(2 * 2.0 * GRAVITY * rolling_ * math.cos(slope)) or not run.runs_away


def test_grooves_need_more_preload_for_more_push_and_no_groove_is_flat():
    light, hard = (carriage.groove_preload(f, 0.02, 0.12, (8, 8, 8, 8), math.radians(45), 0.012) for f in (2.0, 12.0))
    assert hard.each > light.each
    assert hard.drag >= light.drag >= hard.drag_without
    for angle in (0.0, math.radians(86)):
        with pytest.raises(InputError, match="groove_half_angle"):
            carriage.groove_preload(2.0, 0.0, 0.12, (8, 8, 8, 8), angle, 0.01)


@given(st.floats(0.02, 0.2), st.floats(0.0005, 0.008), st.floats(0.05, 2.0))
def test_wheel_sizes_turned_round_give_the_kick_they_were_asked_for(diameter, height, speed):
    assume(height < diameter / 2.2)
    kick = rolling.step(diameter, height, speed).kick
    assert rolling.wheel_for_step(height, speed, kick) == pytest.approx(diameter, rel=1e-6)
    assert rolling.wheel_for_gap(height, speed, rolling.gap(diameter, height, speed).kick) == pytest.approx(
        diameter, rel=1e-6
    )
    with pytest.raises(InfeasibleError, match="climb"):
        rolling.step(diameter, diameter / 2, speed)


@pytest.mark.parametrize("damping", [0.03, 0.1, 0.25])
def test_it_sticks_just_below_the_critical_speed_and_slides_just_above(damping):
    mass, stiffness, drop = 3.0, 1500.0, 2.0
    critical = rolling.stick_slip(drop, stiffness, mass, damping)
    omega = math.sqrt(stiffness / mass)

    def sticks(speed):
        # The load has just broken away; its own speed is followed until it would stand still again.
        def motion(_, y):
            stretch, pull = y[0], speed - y[1]
            return [pull, (stiffness * stretch + 2 * damping * math.sqrt(stiffness * mass) * pull) / mass]

        def still(_, y):
            return y[1]

        still.terminal, still.direction = True, -1
        start = (drop - 2 * damping * math.sqrt(stiffness * mass) * speed) / stiffness
        return bool(
            solve_ivp(
                motion,
                (0, 2 * math.pi / omega / math.sqrt(1 - damping**2)),
                [start, 1e-12],
                events=still,
                max_step=0.002,
                rtol=1e-8,
            )
            .t_events[0]
            .size
        )

    assert sticks(0.97 * critical)
    assert not sticks(1.03 * critical)
    assert rolling.stick_slip(drop, 4 * stiffness, mass, damping) == pytest.approx(critical / 2, rel=1e-6)
    assert rolling.stick_slip(0.0, stiffness, mass, damping) == 0.0
    with pytest.raises(InputError, match="damping_ratio"):
        rolling.stick_slip(drop, stiffness, mass, 0.0)


@given(st.floats(0.5, 30), st.floats(0.5, 30), st.floats(0.01, 0.5))
def test_a_mount_follows_slow_shaking_and_isolates_beyond_root_two(frequency, natural, damping):
    ratio = vibration.transmissibility(frequency, natural, damping)
    assert (ratio < 1) == (frequency / natural > math.sqrt(2)) or abs(frequency / natural - math.sqrt(2)) < 1e-3
    w, f = 2 * math.pi * natural, 2 * math.pi * frequency
    transfer = (w**2 + 2j * damping * w * f) / (w**2 - f**2 + 2j * damping * w * f)
    assert ratio == pytest.approx(abs(transfer), rel=1e-9)


def test_kicks_settle_and_speeds_to_avoid():
    kick = vibration.kick(0.1, 8.0, 0.05)
    w = 2 * math.pi * 8.0
    run = solve_ivp(
        lambda _, y: [y[1], -2 * 0.05 * w * y[1] - w * w * y[0]], (0, 0.2), [0.0, 0.1], max_step=1e-4, rtol=1e-9
    )
    assert kick.stroke == pytest.approx(run.y[0].max(), rel=1e-4)
    assert kick.acceleration == pytest.approx(np.abs(2 * 0.05 * w * run.y[1] + w * w * run.y[0]).max(), rel=1e-3)
    assert math.exp(-0.05 * w * vibration.settle_time(8.0, 0.05)) == pytest.approx(0.02, rel=2e-3)
    found = vibration.clashes([("wheel", 0.1, 1), ("joint", 0.5, 2)], [("rail", 4.0, 0.02)], 0.1, 1.5)
    assert [c.speed for c in found] == pytest.approx([0.4, 1.0])
    low, high = vibration.free_band(found, 0.1, 1.5)
    assert all(high <= c.low + 1e-12 or low >= c.high - 1e-12 for c in found)
    assert vibration.free_band((), 0.1, 1.5) == (0.1, 1.5)
    with pytest.raises(InfeasibleError, match="own frequency"):
        vibration.transmissibility(3.0, 3.0, 0.0)


@given(st.floats(0.5, 3), st.floats(0, 1), st.floats(0.1, 1.5), st.floats(-math.pi, math.pi), st.floats(0.2, 6))
def test_a_gantry_carries_its_weight_and_mirrors(span, share, boom, angle, payload):
    found = overhead.gantry(span, share * span, boom, angle, 2.0, 0.5, payload, 4.0)
    assert found.near + found.far == pytest.approx(GRAVITY * (6.5 + payload))
    other = overhead.gantry(span, (1 - share) * span, boom, -angle, 2.0, 0.5, payload, 4.0)
    assert other.near == pytest.approx(found.far)
    assert found.torsion_near + found.torsion_far == pytest.approx(found.torsion)
    assert found.uplift == (min(found.near, found.far) < 0)


@given(st.floats(0.1, 2), st.floats(0.1, 2), st.floats(0.1, 1.2), st.floats(0, 1))
def test_reach_is_what_counting_points_finds(a, b, longest, share):
    shortest = share * longest
    area, hole = overhead.reach_area(a, b, longest, shortest)
    side = np.linspace(-longest, max(a, b) + longest, 261)
    grid = np.array(np.meshgrid(side, side)).reshape(2, -1).T
    cell = (side[1] - side[0]) ** 2
    assert overhead.reachable(grid, a, b, longest, shortest).sum() * cell == pytest.approx(area, rel=0.03, abs=8 * cell)
    assert hole == 0 or shortest > math.hypot(a, b) / 2


@pytest.mark.parametrize(
    ("mount", "location"),
    [
        ("adhesive hooks", "ceiling"),
        ("suction cup", "glass"),
        ("clamp", "plasterboard ceiling"),
        ("rated anchor", "over people"),
        ("tape", "beam"),
        ("magnet", "beam"),
    ],
)
def test_what_never_holds_anything_overhead_is_refused(mount, location):
    with pytest.raises(RefusedError):
        overhead.check_mount(mount, location, 0.4)


def test_sound_mounts_pass_and_a_tether_catches_twice_the_weight_without_slack():
    overhead.check_mount("rated anchors in joists", "kept clear", 2.0)
    assert overhead.tether_peak(2.0, 0.0, 1e4) == pytest.approx(4.0 * GRAVITY)
    fall = overhead.tether_peak(2.0, 0.1, 1e4)
    stretch = fall / 1e4
    assert 2.0 * GRAVITY * (0.1 + stretch) == pytest.approx(1e4 * stretch**2 / 2)
    assert overhead.tether_rating(2.0, fall) >= 10 * 2.0 * GRAVITY


@given(st.floats(0.02, 0.5), st.floats(1, 200))
def test_screws_balance_the_moment(height, moment):
    heights = (height / 4, height, height)
    found = overhead.bracket_screws(moment, 10.0, heights)
    assert sum(found.pull * y / height * y for y in heights) == pytest.approx(moment)
    assert not found.certified


def test_boards_glued_or_loose_bound_the_screwed_beam():
    size = (0.07, 0.018, 0.018, 0.11, 10e9, 10e9)
    loose, screwed, glued = (built_up.board_beam(*size, joint).eiy for joint in (0.0, 0.6, 1.0))
    assert loose < screwed < glued
    whole = flat_bar(0.07, 0.146).iy - 2 * flat_bar(0.026, 0.11).iy
    assert glued == pytest.approx(10e9 * whole, rel=1e-9)
    assert built_up.joint_efficiency(10e9, 1e-3, 0.05, 2e6, 2.0) > built_up.joint_efficiency(10e9, 1e-3, 0.2, 2e6, 2.0)
    with pytest.raises(InputError, match="joint"):
        built_up.board_beam(*size, 1.2)


def test_a_stay_stiffens_and_a_levelling_cable_tilts_with_its_wheels():
    bare = 26.0 * 1.8**3 / (3 * 1900.0)
    found = cables.stayed(1.8, 1900.0, 0.3, 9e-7, 9e10, 26.0)
    assert found.sag < bare
    assert found.tension**2 == pytest.approx(found.thrust**2 * (1 + (0.3 / 1.8) ** 2))
    assert cables.stayed(1.8, 1900.0, 0.3, 1e-14, 9e10, 26.0).sag == pytest.approx(bare, rel=1e-6)
    level = cables.levelling_cable(2.0, 0.04, 1e5, 2.0, 0.5)
    assert level.mismatch == 0.0
    assert cables.levelling_cable(-2.0, 0.04, 1e5, 2.0, 0.5).pretension == level.pretension == pytest.approx(25.0)
    assert cables.levelling_cable(2.0, 0.04, 1e5, 2.0, 0.5, 0.04, 0.041).mismatch > 0
    with pytest.raises(InputError, match="head_pulley"):
        cables.levelling_cable(2.0, 0.04, 1e5, 2.0, 0.5, 0.04, 0.0)
