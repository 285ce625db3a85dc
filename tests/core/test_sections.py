"""Sections against integration over a fine grid, and their limits."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hazel_lantern.core.mechanics import sections
from hazel_lantern.core.nouns.errors import InputError


def grid(inside, b, h, n=900):
    """Area and second moments of a region about its centroid, by counting cells."""
    y, z = np.meshgrid((np.arange(n) + 0.5) / n * b, (np.arange(n) + 0.5) / n * h)
    cell, mask = b * h / n**2, inside(y, z)
    area = mask.sum() * cell
    yb, zb = (y * mask).sum() * cell / area, (z * mask).sum() * cell / area
    return (
        area,
        ((z - zb) ** 2 * mask).sum() * cell,
        ((y - yb) ** 2 * mask).sum() * cell,
        ((y - yb) * (z - zb) * mask).sum() * cell,
        yb,
        zb,
    )


def test_angle_and_channel_agree_with_counting_cells():
    a = sections.angle(0.04, 0.06, 0.005)
    area, iy, iz, iyz, yb, zb = grid(lambda y, z: (y < 0.005) | (z < 0.005), 0.04, 0.06)
    assert (a.area, a.iy, a.iz, a.iyz, a.yb, a.zb) == pytest.approx((area, iy, iz, iyz, yb, zb), rel=0.01)
    c = sections.channel(0.08, 0.04, 0.004, 0.006)
    area, iy, iz, _, yb, _ = grid(lambda y, z: (y < 0.004) | (z < 0.006) | (z > 0.074), 0.04, 0.08)
    assert (c.area, c.iy, c.iz, c.yb) == pytest.approx((area, iy, iz, yb), rel=0.01)


def test_rounded_tube_agrees_with_counting_cells():
    b, h, t, r = 0.04, 0.06, 0.003, 0.006

    def rounded(y, z, b, h, r):
        dy, dz = np.maximum(np.abs(y - b / 2) - (b / 2 - r), 0), np.maximum(np.abs(z - h / 2) - (h / 2 - r), 0)
        return (np.abs(y - b / 2) <= b / 2) & (np.abs(z - h / 2) <= h / 2) & (np.hypot(dy, dz) <= r)

    area, iy, iz, *_ = grid(
        lambda y, z: rounded(y, z, b, h, r) & ~rounded(y - t, z - t, b - 2 * t, h - 2 * t, r - t), b, h
    )
    s = sections.rectangular_tube(b, h, t, r)
    assert (s.area, s.iy, s.iz) == pytest.approx((area, iy, iz), rel=0.01)


@given(st.floats(0.005, 0.2), st.floats(0.005, 0.2), st.floats(1.01, 3))
def test_growing_every_size_scales_area_and_inertia(b, h, k):
    one, two = sections.flat_bar(b, h), sections.flat_bar(k * b, k * h)
    assert (two.area, two.iy, two.j) == pytest.approx((one.area * k**2, one.iy * k**4, one.j * k**4), rel=1e-9)
    turned = sections.flat_bar(h, b)
    assert (turned.iy, turned.iz, turned.j) == pytest.approx((one.iz, one.iy, one.j), rel=1e-12)


@given(st.floats(0.01, 0.1), st.floats(0.02, 0.48))
def test_a_thick_walled_tube_tends_to_a_rod_and_a_square_twists_less_than_its_circle(d, wall):
    tube = sections.round_tube(d, wall * d)
    rod = sections.solid_round(d)
    assert tube.area < rod.area
    assert tube.j == pytest.approx(2 * tube.iy)
    assert sections.round_tube(d, 0.4999 * d).iy == pytest.approx(rod.iy, rel=1e-6)
    assert sections.rectangular_tube(d, d, 0.45 * wall * d + 1e-5).j > tube.j * 0.2


def test_a_cross_hole_takes_its_rectangle_out():
    s = sections.rectangular_tube(0.025, 0.05, 0.002)
    assert sections.drilled(s, 0.0084, 0.004) == pytest.approx((s.iy - 0.004 * 0.0084**3 / 12) / 0.025)
    with pytest.raises(InputError, match="hole"):
        sections.drilled(s, 0.06, 0.004)


@pytest.mark.parametrize(
    ("make", "field"),
    [
        (lambda: sections.round_tube(0.02, 0.01), "t"),
        (lambda: sections.rectangular_tube(0.02, 0.03, 0.01), "t"),
        (lambda: sections.rectangular_tube(0.02, 0.03, 0.002, 0.011), "r_outer"),
        (lambda: sections.angle(0.02, 0.03, 0.02), "t"),
        (lambda: sections.channel(0.02, 0.03, 0.002, 0.01), "t_flange"),
        (lambda: sections.channel(0.02, 0.03, 0.03, 0.002), "t_web"),
        (lambda: sections.flat_bar(0.0, 0.1), "b"),
        (lambda: sections.solid_round(float("nan")), "d"),
    ],
)
def test_sections_nobody_could_make_are_refused_by_name(make, field):
    with pytest.raises(InputError) as caught:
        make()
    assert caught.value.field == field


def test_a_thin_wall_is_cautioned_and_a_thick_one_is_not():
    assert sections.caution("round_tube", {"d": 0.05, "t": 0.001})
    assert not sections.caution("round_tube", {"d": 0.05, "t": 0.003})
    assert sections.caution("angle", {}) != sections.caution("channel", {})
