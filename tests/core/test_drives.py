"""Chains, motors, screws, drums, belts and steps against counting, simulation and limits."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hazel_lantern.core.motion import belts, drives, drums, pulses, screws, sectors, shapes, sources
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError

STAGES = st.lists(
    st.builds(drives.Stage, st.floats(0.2, 8), st.floats(0.3, 1), st.floats(0, 0.05), st.floats(0, 1e-3)), max_size=4
)
MOTOR = sources.Stepper(0.45, 1.5, 1.8, 0.0032, 12.0)


@given(STAGES, st.floats(0.001, 0.3), st.floats(-40, 40), st.floats(-2, 2), st.floats(0, 1e-4))
def test_what_goes_in_comes_out_or_is_lost_at_a_stage(stages, travel, effort, speeding, rotor):
    """Power in less power out is what speeds up the wheels and what every stage loses,
    which is never less than none."""
    given_ = drives.chain(stages, travel)
    torque = float(drives.source_torque(given_, effort, speeding, rotor))
    ideal = drives.chain([drives.Stage(s.ratio, inertia=s.inertia) for s in stages], travel)
    # At a metre a second: each shaft turns as fast as what is behind it asks.
    turning, wheels = given_.per_output, 0.0
    speed = turning
    for stage in stages:
        speed = speed / stage.ratio
        wheels += stage.inertia * speed * speed * speeding
    stored = wheels + rotor * turning * turning * speeding
    lost = torque * turning - effort - stored
    assert lost >= -1e-9 * (1 + abs(effort) + abs(stored))
    assert float(drives.source_torque(ideal, effort, speeding, rotor)) * turning == pytest.approx(
        effort + stored, rel=1e-9, abs=1e-9
    )


@given(STAGES)
def test_play_is_what_a_source_turns_before_the_end_moves(stages):
    """A reversal walked through stage by stage: each takes up its own play before it hands on."""
    given_ = drives.chain(stages)
    turned = 0.0
    for stage in reversed(stages):  # from the end: to move it, the shaft before must first cross this stage's play
        turned = (turned + stage.play) * stage.ratio
    assert drives.lost_motion(given_) * given_.ratio == pytest.approx(turned, rel=1e-9, abs=1e-12)


def test_a_stage_that_locks_is_driven_even_downhill():
    poor = drives.chain([drives.Stage(10, 0.4)])
    assert float(drives.source_torque(poor, -5.0, 0.0)) > 0
    assert poor.returned == 0
    assert float(drives.source_torque(drives.chain([drives.Stage(10, 0.9)]), -5.0, 0.0)) < 0
    with pytest.raises(InputError, match=r"stages\.0\.ratio"):
        drives.chain([drives.Stage(0.0)])


def test_a_stepper_is_the_best_current_its_supply_can_drive():
    """Against trying every current within the limit."""
    k = MOTOR.holding / math.sqrt(2) / MOTOR.current
    size, turn = np.linspace(0, MOTOR.current, 400)[:, None], np.linspace(0, 2 * math.pi, 1440)[None]
    d, q = size * np.cos(turn), size * np.sin(turn)
    for rpm in (0.0, 120.0, 300.0, 600.0, 1500.0):
        w = rpm * math.pi / 30
        x = MOTOR.steps / 4 * w * MOTOR.inductance
        volts = np.hypot(MOTOR.resistance * d - x * q, MOTOR.resistance * q + x * d + k * w)
        best = float(np.where(volts <= MOTOR.supply, k * q, 0.0).max())
        assert float(sources.pull_out(MOTOR, w)) == pytest.approx(best, rel=6e-3, abs=2e-3)
    with pytest.raises(InfeasibleError):
        sources.step_lag(MOTOR, 0.5)


def test_a_dialled_motor_gives_what_is_left_of_its_speed():
    assert float(sources.dialled_torque(20.0, 2.0, 10.0)) == pytest.approx(1.0)
    assert float(sources.dialled_torque(20.0, 2.0, 10.0, 0.5)) == 0.0
    assert sources.dialled_floor(20.0, 2.0, 0.0) == 2.0 and sources.dialled_floor(20.0, 2.0, 0.1) > 2.0


@given(st.floats(0.5, 40), st.floats(4, 30), st.floats(0.02, 0.4), st.floats(0, 30))
def test_a_screw_loses_what_friction_takes_and_holds_when_it_must(lead, mean, friction, angle):
    """Work in is work out and friction along the thread; with enough lead it runs back."""
    thread = screws.Thread(lead / 1000, mean / 1000, math.radians(angle), friction)
    try:
        found = screws.driven(thread, 100.0)
    except InfeasibleError:
        assert friction / math.cos(thread.half_angle) * thread.lead >= math.pi * thread.mean
        return
    assert found.against * 2 * math.pi >= 100.0 * thread.lead
    assert (found.back > 0) == (friction / math.cos(thread.half_angle) > thread.lead / math.pi / thread.mean)
    slippery = screws.driven(screws.Thread(thread.lead, thread.mean, thread.half_angle, 0.0), 100.0)
    assert slippery.efficiency == pytest.approx(1.0) and slippery.holds == screws.RUNS


def test_a_long_screw_whirls_as_a_beam_swings():
    """A bar free between two bearings swings at its whirling speed."""
    length, d, e, rho = 0.8, 0.0062, 200e9, 7850.0
    ei, per = e * math.pi * d**4 / 64, rho * math.pi * d**2 / 4
    assert screws.whirl(length, d, e, rho, "both") == pytest.approx((math.pi / length) ** 2 * math.sqrt(ei / per))


@given(st.floats(0.1, 40), st.floats(10, 80), st.floats(0.5, 4), st.floats(4, 60))
def test_a_drum_wound_turn_by_turn(length, bare, cord, width):
    drum = drums.Drum(bare / 1000, max(width, cord) / 1000, cord / 1000)
    found, rest, turns, layer = drums.wound(drum, length), length, 0.0, 0
    each = math.floor(drum.width / drum.cord + 1e-9)
    while rest > 1e-12:
        around = math.hypot(math.pi * (drum.bare + drum.cord + 2 * layer * drum.cord), drum.cord)
        took = min(1.0, rest / around)
        rest, turns = rest - took * around, turns + took
        layer += turns % each == 0
    assert found.turns == pytest.approx(turns, rel=1e-9)
    assert drums.wound(drums.Drum(drum.bare, drums.one_layer(drum, length) + 1e-12, drum.cord), length).layers == 1


@given(st.integers(12, 40), st.integers(12, 90), st.floats(1.05, 6))
def test_a_belt_that_is_laid_fits_again(first, second, apart):
    wheels = first * 0.003 / math.pi, second * 0.003 / math.pi
    at = apart * sum(wheels)
    assert belts.belt_centres(*wheels, belts.belt_length(*wheels, at)) == pytest.approx(at, rel=1e-9)
    meshed = belts.in_mesh(*wheels, at, first) / first + belts.in_mesh(*wheels[::-1], at, second) / second
    assert meshed == pytest.approx(1.0)


def test_a_chain_on_many_teeth_runs_round():
    assert belts.sprocket(200, 0.0127).ripple < 2e-4 < belts.sprocket(9, 0.0127).ripple
    with pytest.raises(InfeasibleError):
        belts.belt_centres(0.02, 0.2, 0.3)
    with pytest.raises(InputError, match="z is 4"):
        belts.sprocket(4, 0.0127)


def test_a_sector_rolls_as_far_as_it_has_teeth():
    found = sectors.sector(240, 16, math.radians(75), 0.003)
    assert (found.teeth - sectors.SPARE) * math.pi * 0.003 >= math.radians(75) * found.radius
    with pytest.raises(InputError, match="whole gear"):
        sectors.sector(40, 12, 6.2, 0.003)


@given(st.floats(0.01, 2), st.floats(1, 60), st.floats(100, 40000), st.sampled_from(["quintic", "eased", "trapezoid"]))
def test_steps_stay_within_half_of_one(way, time, each, name):
    """The place told by counting the steps given is never further from the wish than half a step."""
    shape = shapes.shape(name)
    found = pulses.pulses(way, time, each, shape)
    if found.count:
        made = float(shape.share(np.array(found.first / time))) * way
        assert made == pytest.approx(found.step / 2, rel=1e-6, abs=1e-12)
    assert abs(found.count * found.step - way) <= found.step / 2 * (1 + 1e-9)


def test_rates_of_steps_that_shake_are_those_that_a_swept_mass_finds():
    low, high = pulses.shaken(1.25e-5, 14000.0, 9.0)
    rates = np.linspace(0.01, 30, 600001)
    size = 1.25e-5 * 14000 / 2 / np.abs(1 - (rates / 9.0) ** 2)
    shaken = rates[size > 0.25]
    assert (shaken[0], shaken[-1]) == pytest.approx((low, high), abs=2e-4)
    assert pulses.shaken(1e-4, 14000.0, 9.0)[0] == 0.0
