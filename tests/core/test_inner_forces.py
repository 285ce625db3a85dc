"""Inner forces along elements, held against free bodies that are cut and summed by hand."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hazel_lantern.core.mechanics.frame import Element, Support, frame
from hazel_lantern.core.mechanics.frame_loads import inside, loads, solve

LENGTH, PIECES, CASES = 1.2, 3, 4


def beam(seed):
    """A clamped bar of three pieces, turned anyhow in space, held by a spring at its far end;
    loads of several cases."""
    rng = np.random.default_rng(seed)
    way = rng.normal(size=3)
    way /= np.linalg.norm(way)
    nodes = {f"n{k}": tuple(k * LENGTH * way) for k in range(PIECES + 1)}
    bars = [
        Element(f"e{k}", f"n{k}", f"n{k + 1}", 4e6, 900.0, 500.0, 300.0, roll=float(rng.uniform(0, 6)))
        for k in range(PIECES)
    ]
    far = Support((), ((0, 2e4), (1, 3e4), (2, 1e4)))
    made = frame(nodes, bars, {"n0": Support((0, 1, 2, 3, 4, 5)), f"n{PIECES}": far})
    points = [
        (
            int(rng.integers(CASES)),
            int(rng.integers(PIECES)),
            float(rng.uniform(0.05, 0.95)) * LENGTH,
            rng.uniform(-80, 80, 3),
            rng.uniform(-20, 20, 3),
        )
        for _ in range(9)
    ]
    spread = [(case, element, rng.uniform(-30, 30, 3)) for case in range(CASES) for element in range(PIECES)]
    return way, made, points, spread, solve(made, loads(CASES, points, spread))


def beyond(way, found, points, spread, case, place):
    """Force and moment about a cut [N, N*m], in world axes, of all that lies past a place along the whole bar."""
    at = place * way
    end = found.reactions[-6:, case]
    force, moment = end[:3].copy(), np.cross(PIECES * LENGTH * way - at, end[:3]) + end[3:]
    for one, element, x, push, twist in points:
        where = element * LENGTH + x
        if one == case and where > place:
            force += push
            moment += np.cross(where * way - at, push) + twist
    for one, element, q in spread:
        low, high = max(place, element * LENGTH), (element + 1) * LENGTH
        if one == case and high > low:
            force += q * (high - low)
            moment += np.cross((low + high) / 2 * way - at, q) * (high - low)
    return force, moment


@pytest.mark.parametrize("seed", range(6))
def test_what_a_cut_holds_is_what_lies_beyond_it(seed):
    way, made, points, spread, found = beam(seed)
    rng = np.random.default_rng(100 + seed)
    case, element = rng.integers(CASES, size=40), rng.integers(PIECES, size=40)
    x = rng.uniform(0.02, 0.98, 40) * LENGTH
    _, inner = inside(found, case, element, x)
    for c, e, at, got in zip(case, element, x, inner, strict=True):
        force, moment = beyond(way, found, points, spread, c, e * LENGTH + at)
        axes = made.axes[e]
        assert got[:3] == pytest.approx(axes @ force, rel=1e-6, abs=1e-6)
        assert got[3:] == pytest.approx(axes @ moment, rel=1e-6, abs=1e-6)


@given(st.integers(0, 40), st.floats(0.1, 0.9), st.integers(0, PIECES - 1))
def test_moments_grow_with_the_shear_and_the_bent_line_with_its_turn(seed, share, element):
    """Between loads, dM/dx is the shear, and the line's slope is the turn about the other axis."""
    _, made, points, _, found = beam(seed)
    h, at = 1e-4, share * LENGTH
    near = [x for _, e, x, _, _ in points if e == element]
    if any(abs(x - at) < 3 * h for x in near):
        return
    spots = np.array([at - h, at, at + h])
    moved, inner = inside(found, np.zeros(3, int), np.full(3, element), spots)
    local = moved.reshape(3, 2, 3) @ made.axes[element].T
    (_, vy, vz, *_), slope = inner[1], (inner[2] - inner[0]) / (2 * h)
    assert slope[5] == pytest.approx(-vy, rel=1e-5, abs=1e-3)
    assert slope[4] == pytest.approx(vz, rel=1e-5, abs=1e-3)
    bend = (local[2, 0] - local[0, 0]) / (2 * h)
    assert bend[1] == pytest.approx(local[1, 1, 2], rel=1e-4, abs=1e-7)
    assert bend[2] == pytest.approx(-local[1, 1, 1], rel=1e-4, abs=1e-7)


def test_cases_asked_for_together_or_one_by_one_and_without_any_load_are_the_same():
    _, made, points, spread, found = beam(3)
    case, element = np.repeat(np.arange(CASES), 5), np.tile([0, 1, 2, 1, 0], CASES)
    x = np.tile([0.0, 0.3, 1.2, 0.9, 0.6], CASES)
    together = inside(found, case, element, x)
    for k in range(len(x)):
        alone = inside(found, case[k : k + 1], element[k : k + 1], x[k : k + 1])
        for one, every in zip(alone, together, strict=True):
            assert one[0] == pytest.approx(every[k], rel=1e-9, abs=1e-12)
    twice = solve(
        made,
        loads(CASES, [(c, e, at, 2 * f, 2 * m) for c, e, at, f, m in points], [(c, e, 2 * q) for c, e, q in spread]),
    )
    for one, every in zip(inside(twice, case, element, x), together, strict=True):
        assert one == pytest.approx(2 * every, rel=1e-9, abs=1e-12)
    idle = solve(made, loads(1))
    for one in inside(idle, np.zeros(2, int), np.array([0, 2]), np.array([0.1, 0.2])):
        assert not one.any()
