"""What turns, against a multibody engine, against sums over time, and against its own limits."""

from __future__ import annotations

import cmath
import math

import mujoco
import numpy as np
import pytest

from hazel_lantern.core.mechanics import rotor
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError, RefusedError
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.optics import flicker


def spun(masses, spin, friction=0.0, drag=0.0):
    """A turning body of small balls on a hinge held by the world, its reaction read at the hinge's own site."""
    balls = "".join(
        f'<geom type="sphere" size="0.001" mass="{m}" pos="{r * math.cos(a)} {r * math.sin(a)} {z}"/>'
        for m, r, a, z in masses
    )
    model = mujoco.MjModel.from_xml_string(f"""<mujoco><compiler autolimits="true"/>
      <option gravity="0 0 -{GRAVITY}" timestep="0.0005" integrator="RK4"/>
      <worldbody><body name="mast"><geom type="sphere" size="0.001" mass="1e-9"/><site name="hub"/>
        <body name="rotor"><joint name="turn" type="hinge" axis="0 0 1"/>{balls}</body></body></worldbody>
      <sensor><force site="hub"/><torque site="hub"/></sensor></mujoco>""")
    data = mujoco.MjData(model)
    data.qvel[0] = spin
    return model, data


@pytest.mark.parametrize("seed", range(8))
def test_forces_and_wobble_are_those_of_a_multibody_engine(seed):
    rng = np.random.default_rng(seed)
    count = int(rng.integers(1, 6))
    masses = np.column_stack(
        [
            rng.uniform(0.2, 4, count),
            rng.uniform(0.05, 1.2, count),
            rng.uniform(0, 2 * math.pi, count),
            rng.uniform(-0.5, 0.8, count),
        ]
    )
    spin = float(rng.uniform(0.2, 9))
    model, data = spun(masses, spin)
    mujoco.mj_forward(model, data)
    mujoco.mj_rnePostConstraint(model, data)
    mujoco.mj_sensorPos(model, data)
    mujoco.mj_sensorAcc(model, data)
    force, torque = data.sensordata[:3], data.sensordata[3:]
    ours = rotor.turning(masses, spin)
    assert ours.force == pytest.approx(math.hypot(*force[:2]), rel=1e-3, abs=1e-6)
    assert ours.moment == pytest.approx(math.hypot(*torque[:2]), rel=1e-3, abs=1e-6)
    assert ours.weight == pytest.approx(abs(force[2]), rel=1e-3)


def test_balanced_at_rest_it_still_wobbles_where_heights_differ():
    at_rest = rotor.turning([(1.6, 0.85, 0.0, 0.25), (3.4, 0.4, math.pi, 0.0)], 0.0)
    turns = rotor.turning([(1.6, 0.85, 0.0, 0.25), (3.4, 0.4, math.pi, 0.0)], 32 * 2 * math.pi / 60)
    assert (at_rest.force, at_rest.moment) == pytest.approx((0.0, 0.0), abs=1e-9)
    assert turns.moment == pytest.approx((32 * 2 * math.pi / 60) ** 2 * 1.6 * 0.85 * 0.25)
    level = rotor.turning([(1.6, 0.85, 0.0, 0.25), (3.4, 0.4, math.pi, 0.25)], 3.0)
    assert level.moment == pytest.approx(0.0, abs=1e-9)
    assert rotor.base_tipping([(1.6, 0.85, 0.0, 0.25), (3.4, 0.4, math.pi, 0.25)], 0.0, 300.0, 0.3).factor > 1e9


@pytest.mark.parametrize(("friction", "drag"), [(0.05, 0.012), (0.2, 0.0), (0.01, 0.2), (0.05, 1e-13)])
def test_it_coasts_as_long_as_its_slowing_summed_over_time(friction, drag):
    inertia, spin = 1.7, 5.0
    found, w, angle, t, dt = rotor.coast(inertia, spin, friction, drag), spin, 0.0, 0.0, 2e-3
    while w > 0:
        slower = (friction + drag * w * w) / inertia
        middle = w - slower * dt / 2
        w, angle, t = w - (friction + drag * middle * middle) / inertia * dt, angle + middle * dt, t + dt
    assert (found.time, found.turns) == pytest.approx((t, angle / (2 * math.pi)), rel=2e-3)


def test_a_part_let_go_flies_no_further_from_any_angle():
    for spin, radius, height in ((3.1, 1.1, 1.5), (0.5, 0.6, 0.2), (20.0, 0.4, 2.0)):
        found = rotor.flight(spin, radius, height)
        v, tilt = spin * radius, np.linspace(-math.pi / 2, math.pi / 2, 200_001)
        up = v * np.sin(tilt)
        far = v * np.cos(tilt) * (up + np.sqrt(up**2 + 2 * GRAVITY * height)) / GRAVITY
        assert found.distance == pytest.approx(far.max(), rel=1e-6)
        assert found.exclusion == pytest.approx(1.5 * math.hypot(radius, far.max()), rel=1e-6)


def test_the_verdict_is_the_worst_of_its_three_rows_and_refuses_what_cannot_be_held():
    for inside, at in ((True, 0), (False, 1)):
        caution = {key: row[at][0] for key, row in rotor.LIMITS.items()}
        stop = {key: row[at][1] for key, row in rotor.LIMITS.items()}
        assert rotor.verdict(*caution.values(), inside=inside) == rotor.OK
        assert rotor.verdict(*stop.values(), inside=inside) == rotor.CAUTION
        for key in caution:
            assert rotor.verdict(*(caution | {key: caution[key] * 1.001}).values(), inside=inside) == rotor.CAUTION
            assert rotor.verdict(*(caution | {key: stop[key] * 1.001}).values(), inside=inside) == rotor.STOP
    for drive in rotor.REFUSED_DRIVES:
        with pytest.raises(RefusedError):
            rotor.verdict(0.0, 0.0, 0.0, inside=False, drive=drive)
    with pytest.raises(RefusedError):
        rotor.verdict(0.0, 0.0, 0.0, inside=False, rider=True)
    with pytest.raises(InputError, match="drive"):
        rotor.verdict(0.0, 0.0, 0.0, inside=False, drive="steam")


@pytest.mark.parametrize("seed", range(6))
def test_three_trial_runs_find_the_heavy_side(seed):
    rng = np.random.default_rng(seed)
    there, trial, k = rng.uniform(0.005, 0.1), rng.uniform(0.01, 0.06), rng.uniform(100, 2000)
    heavy = cmath.rect(there, rng.uniform(-math.pi, math.pi))
    shakes = [k * abs(heavy + cmath.rect(trial, math.radians(a))) for a in (0, 120, -120)]
    found = rotor.three_runs(k * there, tuple(shakes), trial)
    assert cmath.rect(found.unbalance, found.angle) == pytest.approx(heavy, rel=1e-9)
    with pytest.raises(InfeasibleError, match="agree"):
        rotor.three_runs(k * there, (shakes[0] + 9 * k * (there + trial), shakes[1], shakes[2]), trial)
    with pytest.raises(InfeasibleError, match="too small"):
        rotor.three_runs(k * there, (k * there / 2,) * 3, trial)


def test_lamps_ripple_as_the_light_summed_over_an_exposure():
    for fps, exposure, mains in ((240, 0.002, 50), (25, 0.02, 50), (48, 1 / 96, 60), (50, 0.01, 50)):
        found, t = flicker.flicker(fps, exposure, mains, 0.8), np.linspace(0, exposure, 4001)
        starts = np.linspace(0, 1 / (2 * mains), 400, endpoint=False)
        light = [np.trapezoid(1 + 0.8 * np.cos(4 * math.pi * mains * (t + s)), t) / exposure for s in starts]
        assert found.ripple == pytest.approx((max(light) - min(light)) / 2, abs=2e-4)
    assert flicker.flicker(50, 0.01, 50, 0.8).beat == 0
    assert flicker.turns(2 * math.pi, 240, 24).plays == pytest.approx(10)
