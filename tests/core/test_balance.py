"""Balance: moments from energy, weights by trying every subset, drift by scanning."""

from __future__ import annotations

import math
from itertools import combinations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hazel_lantern.core.mechanics import balance
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.units import GRAVITY
from tests.helpers import changed, model


def test_moment_is_the_slope_of_the_potential_energy_of_the_whole_rig():
    _context, jib = model(changed(weights__above=-0.05, weights__place=0.5))
    masses = np.array([body.mass for body in jib.bodies])

    def energy(angle):
        return GRAVITY * float(masses @ jib.places(angle)[0, :, 1])

    for angle in (-0.7, -0.2, 0.0, 0.35, 0.8):
        slope = (energy(angle + 1e-6) - energy(angle - 1e-6)) / 2e-6
        assert float(balance.front_up_moment(jib.arm_balance, angle)) == pytest.approx(-slope, rel=1e-6, abs=1e-6)


def test_moving_the_camera_on_its_level_mount_does_not_change_the_balance():
    _, near = model(changed(head__ahead=0.0))
    _, far = model(changed(head__ahead=0.3, head__rise=0.3, head__low=0.05))
    assert far.arm_balance.along - near.arm_balance.along == pytest.approx(1.75 * (far.head_mass - near.head_mass))


@given(st.floats(-2, 2), st.floats(-0.5, 0.5), st.floats(0, 5))
def test_stay_put_is_where_friction_exceeds_the_moment(along, above, friction):
    arm = balance.Arm(along, above, friction)
    stays = balance.stay_put(arm, -1.0, 1.2)
    theta = np.linspace(-1.0, 1.2, 4001)
    held = np.abs(balance.front_up_moment(arm, theta)) <= friction
    inside = np.zeros_like(held)
    for low, high in stays:
        inside |= (theta >= low) & (theta <= high)
    assert (held != inside).sum() <= 2 + 2 * len(stays)


def test_without_any_imbalance_it_stays_everywhere_and_without_friction_nowhere():
    assert balance.stay_put(balance.Arm(0.0, 0.0, 0.0), -1, 1) == [(-1, 1)]
    assert balance.stay_put(balance.Arm(0.3, -0.1, 0.0), -1, 1) == []
    assert balance.equilibrium(balance.Arm(0.3, 0.0, 0.0)) is None
    rest = balance.equilibrium(balance.Arm(0.3, -0.1, 0.0))
    assert float(balance.front_up_moment(balance.Arm(0.3, -0.1, 0.0), rest)) == pytest.approx(0, abs=1e-12)


@given(st.floats(-0.5, 0.5).filter(lambda x: abs(x) > 1e-3), st.floats(-0.5, 0.5).filter(lambda x: abs(x) > 1e-3))
def test_self_righting_arms_are_pushed_back_when_moved_off_rest(along, above):
    arm = balance.Arm(along, above, 0.0)
    rest = balance.equilibrium(arm)
    back = float(balance.front_up_moment(arm, rest + 0.01)) < 0
    assert back == balance.self_righting(arm)


masses = st.lists(st.sampled_from([0.25, 0.5, 0.5, 1.25, 2.5, 5.0, 1.1]), min_size=1, max_size=8)


@given(masses, st.floats(0.2, 9), st.floats(0.2, 0.6), st.floats(0, 0.4), st.sampled_from([0.0, 0.3]))
def test_the_weights_found_are_the_best_of_all_subsets(owned, moment, near, room, fixed):
    far = near + room
    best = None
    for size in range(1, len(owned) + 1):
        for chosen in combinations(range(len(owned)), size):
            total = sum(owned[i] for i in chosen)
            mass = total + fixed
            if near * mass - 1e-9 <= moment <= far * mass + 1e-9:
                key = (round(abs(moment / mass - (near + far) / 2), 6), size, round(total, 6), chosen)
                best = min(best, key) if best else key
    if best is None:
        with pytest.raises(InfeasibleError) as caught:
            balance.choose_weights(moment, owned, near, far, fixed)
        assert caught.value.nearest["least_mass"] == pytest.approx(moment / far - fixed)
    else:
        rack = balance.choose_weights(moment, owned, near, far, fixed)
        assert rack.chosen == best[3]
        assert (rack.mass + fixed) * rack.place == pytest.approx(moment, rel=1e-6)


def test_bad_racks_are_refused():
    with pytest.raises(InfeasibleError, match="rear heavy"):
        balance.choose_weights(-0.1, [1.0], 0.2, 0.5)
    with pytest.raises(InfeasibleError):
        balance.choose_weights(3.0, [], 0.2, 0.5)
    with pytest.raises(InputError, match="slide_min"):
        balance.choose_weights(3.0, [1.0], 0.6, 0.5)
    with pytest.raises(InputError, match="at most 22"):
        balance.choose_weights(3.0, [1.0] * 23, 0.2, 0.5)


def test_a_full_rack_of_different_weights_is_searched():
    owned = [0.3 + 0.07 * i for i in range(18)]
    rack = balance.choose_weights(6.0, owned, 0.4, 0.6)
    assert rack.place == pytest.approx(0.5, abs=1e-3)
    assert sum(owned[i] for i in rack.chosen) == pytest.approx(rack.mass)


@given(st.floats(1, 500), st.floats(0.05, 0.5), st.floats(0.002, 0.01), st.floats(0.001, 0.02))
def test_washer_friction_is_the_integral_over_its_face(clamp, mu, inner, wide):
    outer = inner + wide
    r = np.linspace(inner, outer, 20_001)
    pressure = clamp / (math.pi * (outer**2 - inner**2))
    assert balance.washer_friction(clamp, mu, inner, outer) == pytest.approx(
        float(np.trapezoid(mu * pressure * 2 * math.pi * r**2, r)), rel=1e-6
    )
