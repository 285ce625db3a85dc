"""Pipe on ties, wheel pairs on pipe, packing and the platform against other routes to the same answers."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
import pytest
from Pynite import FEModel3D
from scipy.optimize import linprog

from hazel_lantern.core.mechanics import platform, ties, wheel_pairs
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.units import GRAVITY


def by_an_engine(places, stiffness, ei, weight, wheels):
    """Sag under the wheels and what each tie bears, on supports that only push."""
    model = FEModel3D()
    model.add_material("pipe", 1e9, 4e8, 0.25, 1.0)
    model.add_section("pipe", 1e-3, ei / 1e9, ei / 1e9, 1e-8)
    spots = sorted({*places, *(x for x, _ in wheels)})
    name = {x: f"n{k}" for k, x in enumerate(spots)}
    for x in spots:
        model.add_node(name[x], x, 0, 0)
        model.def_support(name[x], support_DX=x == spots[0], support_DZ=True, support_RX=True)
    for a, b in pairwise(spots):
        model.add_member(name[a] + name[b], name[a], name[b], "pipe", "pipe")
        model.add_member_dist_load(name[a] + name[b], "FY", -weight, -weight)
    for x in places:
        model.def_support_spring(name[x], "DY", stiffness, "-")
    for x, load in wheels:
        model.add_node_load(name[x], "FY", -load)
    model.analyze()
    down = {x: -model.nodes[name[x]].DY["Combo 1"] for x in spots}
    return np.array([down[x] for x, _ in wheels]), np.array([max(0.0, stiffness * down[x]) for x in places])


@pytest.mark.parametrize("seed", range(4))
def test_ties_only_push(seed):
    rng = np.random.default_rng(seed)
    places = np.round(np.cumsum(rng.uniform(0.5, 0.9, 7)), 4)
    stiffness, ei, weight = rng.uniform(1e5, 6e5), rng.uniform(200, 900), rng.uniform(0, 12)
    low, high = places[2], places[4]
    wheels = [(round(float(rng.uniform(low, high)), 4), float(rng.uniform(100, 400))) for _ in range(2)]
    found = ties.laid(places, stiffness, ei, weight, wheels)
    sag, bears = by_an_engine(list(places), stiffness, ei, weight, wheels)
    assert found.sag == pytest.approx(sag, rel=1e-3)
    assert found.reactions == pytest.approx(bears, rel=1e-3, abs=0.05)
    assert found.lifted == tuple(np.flatnonzero(bears == 0))
    whole = sum(load for _, load in wheels) + weight * (places[-1] - places[0])
    assert found.reactions.sum() == pytest.approx(whole, rel=1e-9)


def test_rigid_ties_are_the_limit_of_stiff_ones_and_of_the_closed_form():
    """Half-way along many ties, in the last span, and on rigid ties that let go."""
    places = [0.75 * k for k in range(25)]
    for held in (True, False):
        stiff = ties.laid(places, 1e12, 620.0, 4.0, [(9.375, 210.0)], held=held)
        rigid = ties.laid(places, math.inf, 620.0, 4.0, [(9.375, 210.0)], held=held)
        assert rigid.sag == pytest.approx(stiff.sag, rel=1e-5)
        assert rigid.lifted == stiff.lifted
    assert rigid.lifted
    wave = ties.wave(210.0, 0.75, 620.0)
    mid = ties.laid(places, math.inf, 620.0, 0.0, [(9.375, 210.0)], held=True)
    last = ties.laid(places, math.inf, 620.0, 0.0, [(0.375, 210.0)], held=True)
    assert (mid.sag[0], last.sag[0]) == pytest.approx((wave.inner, wave.end), rel=1e-4)
    assert ties.wave(210.0, ties.widest_spacing(210.0, wave.inner, 620.0), 620.0).inner == pytest.approx(wave.inner)


def test_packing_is_the_least_that_makes_it_straight():
    rng = np.random.default_rng(3)
    for n in (2, 5, 9):
        x, z = np.cumsum(rng.uniform(0.3, 1.0, 12)), rng.normal(0, 0.02, 12)
        at = np.sort(rng.uniform(x[0], x[-1], n))
        ground = np.interp(at, x, z)
        best = linprog([n, at.sum()], -np.column_stack([np.ones(n), at]), -ground, bounds=[(None, None)] * 2)
        put = ties.packing(x, z, at, level=False)
        assert put.sum() == pytest.approx(best.fun - ground.sum(), abs=1e-9)
        assert put.min() >= 0
        assert np.ptp(ties.packing(x, z, at, level=True) + ground) < 1e-12
    with pytest.raises(InputError, match="tie"):
        ties.packing([0, 1], [0, 0], [1.5], level=True)


def test_a_pair_lies_against_its_pipe():
    """Where the treads touch, found by the distance from the pipe's centre to each tread."""
    pair = wheel_pairs.on_pipe(0.048, math.radians(38), 0.072, 0.03, 0.021, 0.004, 240.0, 60.0)
    slope = np.array([math.cos(math.radians(38)), -math.sin(math.radians(38))])
    along = np.linspace(0, 0.05, 200001)
    away = np.hypot(*(np.array([[0.0], [pair.apex]]) + along * slope[:, None]))
    assert away.min() == pytest.approx(0.024, rel=1e-6)
    assert along[away.argmin()] == pytest.approx(pair.contact, abs=1e-6)
    upright = (pair.more + pair.less) * math.cos(math.radians(38))
    aside = (pair.more - pair.less) * math.sin(math.radians(38))
    assert (upright, aside) == pytest.approx((240.0, 60.0))
    assert wheel_pairs.on_pipe(pair.largest, math.radians(38), 0.072, 0.03, 0.021, 0.004, 240.0).fits
    assert not wheel_pairs.on_pipe(pair.largest * 1.001, math.radians(38), 0.072, 0.03, 0.021, 0.004, 240.0).fits


@pytest.mark.parametrize("seed", range(6))
def test_the_platform_comes_to_rest_where_its_weight_is_lowest(seed):
    rng = np.random.default_rng(seed)
    wheels = np.array([[0.5, 0.3], [0.5, -0.3], [-0.5, -0.3], [-0.5, 0.3]]) + rng.uniform(-0.1, 0.1, (4, 2))
    floor, centre = rng.normal(0, 0.01, 4), rng.uniform(-0.15, 0.15, 2)
    rows = np.column_stack([np.ones(4), wheels])
    rest = linprog([1.0, *centre], -rows, -floor, bounds=[(None, None)] * 3)
    gaps = rows @ rest.x - floor
    found = platform.rocking(wheels, floor, centre)
    assert found.gap == pytest.approx(gaps.max(), abs=1e-9)
    assert found.free == gaps.argmax()
    assert platform.rocking(wheels, rows @ rng.normal(0, 1, 3), centre).free == -1


def test_it_tips_where_the_push_meets_the_edge():
    """Against the moment about each edge, uphill, downhill and sideways; and at rest not at all."""
    feet = np.array([[0.45, 0.0], [-0.35, 0.35], [-0.35, -0.35]])
    slope = 0.06
    at = platform.tips_at(feet, (-0.05, 0.0, 1.15), slope)
    assert GRAVITY * (0.30 * math.cos(slope) - 1.15 * math.sin(slope)) == pytest.approx(at * 1.15)
    left = platform.tips_at(feet, (-0.05, 0.0, 1.15), way=(0.0, 1.0))
    edge = np.array([-0.8, -0.35]) / math.hypot(0.8, 0.35)
    off = np.array([-0.05, 0.0]) - feet[0]
    inside = abs(edge[0] * off[1] - edge[1] * off[0])
    assert left == pytest.approx(inside * GRAVITY / 1.15 / abs(edge[0]))
    with pytest.raises(InfeasibleError, match="at rest"):
        platform.tips_at(feet, (0.5, 0.0, 1.0))
    with pytest.raises(InputError):
        platform.rocking(np.zeros((3, 2)), [0, 0, 0])


def test_a_deck_sags_as_a_plate_does():
    """Half the length twice the depth, and the bending of a strip where it is narrow."""
    one = platform.deck(750.0, 0.8, 0.2, 0.018, 8.5e9)
    assert one.sag == pytest.approx(750 * 0.8**3 / (48 * 8.5e9 * 0.2 * 0.018**3 / 12))
    assert one.stress == pytest.approx(750 * 0.8 / 4 / (0.2 * 0.018**2 / 6))
    assert platform.deck(750.0, 0.4, 0.2, 0.018, 8.5e9).sag == pytest.approx(one.sag / 8)
    assert platform.deck(750.0, 0.8, 5.0, 0.018, 8.5e9).sag < one.sag
