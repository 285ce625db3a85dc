"""Bending and bounce against a finite-element beam written for this test, and energy."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.linalg import eigh

from hazel_lantern.core.mechanics import beam, pins
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import GRAVITY


def elements(ei, length, mass, count):
    """Stiffness and consistent mass of a chain of Euler-Bernoulli elements, two freedoms a node."""
    h, m = length / count, mass / count
    k = (
        ei
        / h**3
        * np.array(
            [
                [12, 6 * h, -12, 6 * h],
                [6 * h, 4 * h * h, -6 * h, 2 * h * h],
                [-12, -6 * h, 12, -6 * h],
                [6 * h, 2 * h * h, -6 * h, 4 * h * h],
            ]
        )
    )
    c = (
        m
        / 420
        * np.array(
            [
                [156, 22 * h, 54, -13 * h],
                [22 * h, 4 * h * h, 13 * h, -3 * h * h],
                [54, 13 * h, 156, -22 * h],
                [-13 * h, -3 * h * h, -22 * h, 4 * h * h],
            ]
        )
    )
    stiff, inertia = np.zeros((2 * count + 2,) * 2), np.zeros((2 * count + 2,) * 2)
    for e in range(count):
        span = slice(2 * e, 2 * e + 4)
        stiff[span, span] += k
        inertia[span, span] += c
    return stiff, inertia


@pytest.mark.parametrize(("tip", "arm"), [(3.0, 1.0), (1.0, 1.5), (5.0, 0.4)])
def test_clamped_bounce_against_finite_elements(tip, arm):
    stiff, inertia = elements(5000.0, 1.6, arm, 20)
    inertia[-2, -2] += tip
    lowest = eigh(stiff[2:, 2:], inertia[2:, 2:], eigvals_only=True)[0]
    assert beam.clamped_frequency(5000.0, 1.6, tip, arm) == pytest.approx(math.sqrt(lowest) / (2 * math.pi), rel=5e-3)


@pytest.mark.parametrize(
    ("tip", "weight", "front", "rear"), [(3.0, 9.0, 1.6, 0.5), (2.0, 6.0, 1.2, 0.6), (4.0, 12.0, 2.2, 0.8)]
)
def test_bounce_of_the_free_arm_against_finite_elements(tip, weight, front, rear):
    ei, line = 5000.0, 0.7
    n_rear, n_front = 10, 24
    k1, m1 = elements(ei, rear, line * rear, n_rear)
    k2, m2 = elements(ei, front, line * front, n_front)
    size = 2 * (n_rear + n_front) + 2
    stiff, inertia = np.zeros((size, size)), np.zeros((size, size))
    for block, at in (((k1, m1), 0), ((k2, m2), 2 * n_rear)):
        span = slice(at, at + len(block[0]))
        stiff[span, span] += block[0]
        inertia[span, span] += block[1]
    inertia[0, 0] += weight
    inertia[-2, -2] += tip
    free = np.delete(np.arange(size), 2 * n_rear)
    values = eigh(stiff[np.ix_(free, free)], inertia[np.ix_(free, free)], eigvals_only=True)
    bounce = math.sqrt(values[1]) / (2 * math.pi)
    assert beam.balanced_frequency(ei, front, rear, tip, line * front, weight, line * rear) == pytest.approx(
        bounce, rel=0.01
    )


@given(st.floats(100, 1e5), st.floats(0.2, 4), st.floats(0.1, 300))
def test_work_done_equals_energy_stored(ei, length, load):
    work = load * beam.tip_sag(ei, length, load, 0.0) / 2
    assert work == pytest.approx(load**2 * length**3 / (6 * ei), rel=1e-12)


@given(st.floats(100, 1e5), st.floats(0.2, 4), st.floats(0, 50))
def test_own_weight_sag_is_the_integral_of_small_loads(ei, length, line):
    x = np.linspace(0, length, 4001)
    by_parts = float(np.trapezoid(line * x**2 * (3 * length - x) / (6 * ei), x))
    assert beam.tip_sag(ei, length, 0.0, line) == pytest.approx(by_parts, rel=1e-6, abs=1e-15)
    assert beam.root_moment(length, 0.0, line) == pytest.approx(float(np.trapezoid(line * x, x)), rel=1e-6, abs=1e-12)
    assert beam.arm_weight(2.0, 4.0) == pytest.approx(GRAVITY / 2)


def test_arms_without_mass_or_stiffness_are_refused():
    for call, field in (
        (lambda: beam.clamped_frequency(1000, 1, 0, 0), "tip_mass"),
        (lambda: beam.tip_sag(0, 1, 1, 0), "EI"),
        (lambda: beam.balanced_frequency(1, 1, 1, 1, 1, 0, 0), "counterweight_mass"),
    ):
        with pytest.raises(InputError) as caught:
            call()
        assert caught.value.field == field


@given(st.floats(10, 5000), st.floats(0.004, 0.014), st.floats(0.002, 0.05), st.floats(0.002, 0.05), st.floats(0, 0.01))
def test_pin_bending_is_the_integral_of_its_shear(force, d, middle, side, gap):
    p = pins.pin(force, d, middle, side, gap)
    half = side + gap + middle / 2
    x = np.linspace(0, half, 20_001)
    shear = np.where(
        x < side,
        force / 2 * x / side,
        np.where(x < side + gap, force / 2, force / 2 - force / middle * (x - side - gap)),
    )
    assert p.moment == pytest.approx(float(np.trapezoid(shear, x)), rel=1e-3)
    assert p.combined >= p.bending
    threaded = pins.pin(force, d, middle, side, gap, 0.001)
    assert threaded.bending > p.bending


@pytest.mark.parametrize(
    ("length", "stack", "depth", "verdict"),
    [
        (0.0127, 0.0075, 0.0065, "OK"),
        (0.0127, 0.006, 0.0065, "BOTTOMING"),
        (0.0127, 0.0092, 0.0065, "TOO_SHORT"),
        (0.0127, 0.0085, 0.0065, "SHORT_WARNING"),
    ],
)
def test_camera_screw_says_whether_it_holds(length, stack, depth, verdict):
    reach, said = pins.camera_screw(length, stack, depth)
    assert said == verdict
    assert reach == pytest.approx(length - stack)
