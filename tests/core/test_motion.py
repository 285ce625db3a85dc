"""The eased move and the lens: derivatives, limits, symmetry."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hazel_lantern.core.errors import InputError
from hazel_lantern.core.motion import profiles
from hazel_lantern.core.optics.lens import angle_of_view

ramps = st.floats(0.05, 0.5)


@given(ramps)
def test_the_move_starts_and_ends_at_rest_and_is_the_same_backwards(ramp):
    u = np.linspace(0, 1, 2001)
    way, speed = profiles.eased(u, ramp), profiles.eased_speed(u, ramp)
    assert way[[0, -1]] == pytest.approx([0.0, 1.0])
    assert speed[[0, -1]] == pytest.approx([0.0, 0.0])
    assert np.allclose(way + way[::-1], 1.0, atol=1e-12)
    assert np.all(np.diff(way) >= -1e-15)
    assert float(np.trapezoid(speed, u)) == pytest.approx(1.0, abs=1e-4)


@given(ramps)
def test_speed_is_the_slope_of_the_way_and_acceleration_that_of_the_speed(ramp):
    u = np.linspace(0, 1, 20_001)
    assert np.allclose(np.gradient(profiles.eased(u, ramp), u)[5:-5], profiles.eased_speed(u, ramp)[5:-5], atol=2e-3)
    assert profiles.peak_speed(3.0, 8.0, ramp) == pytest.approx(3.0 / 8.0 * profiles.eased_speed(u, ramp).max(), rel=1e-6)
    steepest = np.abs(np.gradient(profiles.eased_speed(u, ramp), u)).max()
    assert profiles.peak_acceleration(3.0, 8.0, ramp) == pytest.approx(3.0 / 64.0 * steepest, rel=1e-2)


@pytest.mark.parametrize("ramp", [0.0, -0.1, 0.6, math.nan])
def test_ramps_that_make_no_move_are_refused(ramp):
    for call in (lambda: profiles.eased(0.5, ramp), lambda: profiles.eased_speed(0.5, ramp), lambda: profiles.peak_speed(1.0, 1.0, ramp)):
        with pytest.raises(InputError, match="beta"):
            call()
    with pytest.raises(InputError, match="T is"):
        profiles.peak_speed(1.0, 0.0, 0.3)


@given(st.floats(0.004, 0.06), st.floats(0.008, 0.3))
def test_the_lens_sees_less_the_longer_it_is(width, focal):
    angle = angle_of_view(width, focal)
    assert 0 < angle < math.pi
    assert angle_of_view(width, 2 * focal) < angle
    assert math.tan(angle / 2) * focal * 2 == pytest.approx(width)
    with pytest.raises(InputError, match="f is"):
        angle_of_view(width, 0.0)
