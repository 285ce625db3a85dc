"""Ropes with a carriage: shapes against numerical integration, runs and swings against equations of motion, ends
against equilibrium in space.
"""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy.integrate import solve_ivp
from scipy.optimize import fsolve

from hazel_lantern.core.mechanics import rigging, rope, rope_run
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError, RefusedError
from hazel_lantern.core.nouns.units import AIR_DENSITY, GRAVITY


def lines(count, seed):
    """Random ropes within what they are made for: (line, length, load, at), each (n,)."""
    draw = np.random.default_rng(seed)
    span = draw.uniform(3, 60, count)
    rise = span * draw.uniform(-0.4, 0.4, count)
    weight, ea = 10 ** draw.uniform(-2, 0.8, count), 10 ** draw.uniform(math.log10(6e3), math.log10(1.3e6), count)
    length = np.hypot(span, rise) * draw.uniform(0.98, 1.15, count)
    return (
        rope.Line(span, rise, weight, ea),
        length,
        draw.uniform(10, 300, count),
        span * draw.uniform(0.02, 0.98, count),
    )


def one(line, n):
    return rope.Line(*(float(v[n]) for v in (line.span, line.rise, line.weight, line.ea)))


def integrated(line, load, length, at, start):
    """The carriage on free wheels by integrating the rope's own equations from it towards both ends."""

    def piece(pull, angle, long):
        """Where a piece ends that leaves the carriage with a tension under an angle; up its own slope."""

        def along(_, y):
            h, v = pull * math.cos(angle), y[2]
            tension = math.hypot(h, v)
            more = 1 + tension / line.ea
            return [h / tension * more, v / tension * more, line.weight]

        return solve_ivp(along, (0.0, long), [0.0, 0.0, pull * math.sin(angle)], rtol=1e-10, atol=1e-12).y[:, -1]

    def off(u):
        pull, way, first = math.exp(u[0]), u[1], u[2] * length
        kink = math.asin(min(0.999999, load * math.cos(way) / (2 * pull)))
        # Seen from the carriage the left piece leads away with its slope turned round.
        left = piece(pull, -(way - kink), first)
        right = piece(pull, way + kink, length - first)
        return [left[0] - at, right[0] - (line.span - at), right[1] - left[1] - line.rise]

    found, _, fine, _ = fsolve(off, start, full_output=True, xtol=1e-12)
    assert fine == 1
    pull, way, first = math.exp(found[0]), found[1], found[2] * length
    kink = math.asin(load * math.cos(way) / (2 * pull))
    left, right = piece(pull, -(way - kink), first), piece(pull, way + kink, length - first)
    ends = [math.hypot(pull * math.cos(a), v) for a, v in ((way - kink, left[2]), (way + kink, right[2]))]
    return -left[1], ends, load * math.sin(way)


def test_fifty_lines_hang_as_the_ropes_own_equations_integrated_say():
    line, length, load, at = lines(70, 5)
    hung = rope.rolling(line, length, load, at)
    tried = np.flatnonzero(hung.good)[:50]
    assert len(tried) == 50
    for n in tried:
        start = [math.log(0.9 * hung.pull_a[n]), hung.way[n] + 0.01, hung.first[n] / length[n] * 1.01]
        height, ends, haul = integrated(one(line, n), load[n], length[n], at[n], start)
        assert hung.height[n] == pytest.approx(height, rel=1e-5, abs=1e-6 * line.span[n])
        assert (hung.pull_a[n], hung.pull_b[n]) == pytest.approx(ends, rel=1e-5)
        assert hung.haul[n] == pytest.approx(haul, rel=1e-4, abs=1e-5 * load[n])


def test_ten_thousand_lines_are_found_or_named_and_stand_in_equilibrium():
    line, length, load, at = lines(10_000, 6)
    for found in (rope.rolling(line, length, load, at), rope.clamped(line, length, load, at)):
        assert found.found.all()
        assert (found.stretch[~found.good] > rope.STRETCH[1]).all()
        across = found.out_b - found.out_a + found.haul * np.cos(found.way)
        down = found.down_a + found.down_b - load - line.weight * length + found.haul * np.sin(found.way)
        assert np.abs(across / found.pull).max() < 1e-9 and np.abs(down / found.pull).max() < 1e-9
    rolled = rope.rolling(line, length, load, at)
    # Over free wheels a rope that hardly stretches pulls more at its higher end by its weight times the height.
    stiff = rolled.stretch < 2e-4
    gained = rolled.pull_b - rolled.pull_a - line.weight * line.rise
    assert np.abs(gained[stiff] / rolled.pull[stiff]).max() < 1e-3
    # A wish for that sag finds that rope again.
    fine = rolled.good & (rolled.sag > 0.002 * line.span)
    again = rope.rolling_at_sag(
        rope.Line(*(v[fine] for v in (line.span, line.rise, line.weight, line.ea))),
        rolled.sag[fine],
        load[fine],
        at[fine],
    )
    assert again.length == pytest.approx(length[fine], rel=1e-6)


def test_a_rope_seen_from_behind_is_the_same_and_a_light_tight_one_a_triangle():
    line = rope.Line(24.0, 1.8, 0.6, 4e5)
    there = rope.rolling(line, 24.1, 90.0, 7.0)
    back = rope.rolling(rope.Line(24.0, -1.8, 0.6, 4e5), 24.1, 90.0, 17.0)
    for one_way, other in ((there.pull_a, back.pull_b), (there.pull_b, back.pull_a), (there.haul, -back.haul)):
        assert float(one_way[0]) == pytest.approx(float(other[0]))
    tight = rope.rolling_at_sag(rope.Line(20.0, 0.0, 1e-9, 1e9), 0.02, 50.0, 6.0)
    assert float(tight.out_a[0]) == pytest.approx(50 * 6 * 14 / 20 / 0.02, rel=1e-5)
    empty, _ = rope.bare_length(line, 800.0)
    assert rope.bare_pull(line, empty) == pytest.approx(800.0)


def test_what_is_no_rope_is_refused_by_name():
    line = rope.Line(10.0, 0.0, 0.5, 1e5)
    for wrong in (0.0, 10.0, -1.0):
        with pytest.raises(InputError, match="at"):
            rope.rolling(line, 10.1, 50.0, wrong)
    with pytest.raises(InputError, match="load"):
        rope.rolling(rope.Line(10.0, 0.0, 0.0, 1e5), 10.1, 0.0, 5.0)
    with pytest.raises(InfeasibleError, match="slack"):
        rope.bare_pull(rope.Line(10.0, 0.0, 0.0, 1e5), 10.1)
    with pytest.raises(RefusedError, match="knot"):
        rigging.end_left("wire7x7", "bowline")
    with pytest.raises(InputError, match="diameter"):
        rigging.rope("hmpe", 0.008)
    with pytest.raises(InfeasibleError, match="rolls over"):
        rope_run.twin_roll(1.0, 200.0, 0.3, 9.0, -0.4)


def test_a_run_by_gravity_goes_as_its_equation_of_motion_in_time():
    span, fall, bow, mass, moved, c, drag, wind = 30.0, -0.4, 0.9, 7.0, 7.4, 0.02, 0.08, 1.5
    x = np.linspace(1.0, span, 2001)

    def slope(at):
        return fall / span - 4 * bow * (span - 2 * at) / span**2

    run = rope_run.gravity_run(x, slope(x), slope(x), mass, rolling=c, moved=moved, drag=drag, wind=wind)

    def moves(_, y):
        cos = 1 / math.hypot(1.0, slope(y[0]))
        air = AIR_DENSITY / 2 * drag * (y[1] + wind * cos) * abs(y[1] + wind * cos)
        return [y[1] * cos, (-mass * GRAVITY * (slope(y[0]) + c) * cos - air) / moved]

    def stands(_, y):
        return y[1] if y[0] > 1.5 else 1.0

    stands.terminal = True
    timed = solve_ivp(moves, (0.0, 60.0), [1.0, 1e-6], events=stands, rtol=1e-9, atol=1e-10, max_step=0.05)
    assert run.fastest == pytest.approx(timed.y[1].max(), rel=1e-4)
    assert run.stops_at == pytest.approx(timed.y[0, -1], rel=1e-4)
    level = np.zeros_like(x)
    assert rope_run.gravity_run(x, level, level, mass, rolling=c).stops_at == x[0]


def test_what_hangs_swings_as_a_pendulum_integrated_in_full():
    times = np.linspace(0.0, 9.0, 4001)
    u = times / 9.0
    speeds = 0.6 * np.clip(np.minimum(u, 1 - u) / 0.2, 0, 1) ** 2 * (3 - 2 * np.clip(np.minimum(u, 1 - u) / 0.2, 0, 1))
    angle, after = rope_run.swing_under(times, speeds, 0.6)
    pushed = np.gradient(speeds, times)

    def swings(t, y):
        return [y[1], -(GRAVITY * math.sin(y[0]) - np.interp(t, times, pushed) * math.cos(y[0])) / 0.6]

    full = solve_ivp(
        swings,
        (0.0, 12.0),
        [0.0, 0.0],
        t_eval=np.append(times, np.linspace(9.001, 12, 800)),
        rtol=1e-9,
        atol=1e-10,
        max_step=0.02,
    )
    assert angle == pytest.approx(full.y[0, : len(times)], abs=0.006 * np.abs(angle).max())
    assert after == pytest.approx(np.abs(full.y[0, len(times) :]).max(), rel=0.01)
    # A cycloid over two of its swings leaves none.
    own = 2 * math.pi * math.sqrt(0.6 / GRAVITY)
    assert rope_run.swing_left(1.2, 2 * own, 0.6) < 1e-12


def test_a_buffer_catches_what_still_pushes_and_a_post_stands_in_space():
    mass, speed, rate, driven = 8.0, 2.0, 300.0, 9.0
    caught = rope_run.end_buffer(mass, speed, rate, driven)
    assert rate * caught.stroke**2 / 2 == pytest.approx(mass * speed**2 / 2 + driven * caught.stroke)
    out, down, slope, half = 900.0, 70.0, math.radians(38), math.radians(27)
    post = rigging.guyed_post(out, down, slope, 2, half)
    ways = [
        np.array([-math.cos(slope) * math.cos(half), s * math.cos(slope) * math.sin(half), -math.sin(slope)])
        for s in (-1, 1)
    ]
    columns = np.column_stack([*ways, [0.0, 0.0, 1.0]])
    forces = np.linalg.solve(columns, [-out, 0.0, down])
    assert forces == pytest.approx([post.guy, post.guy, post.pressed])
    mass = rigging.dead_weight(post.guy, slope, 0.45)
    held = 0.45 * (mass * GRAVITY - post.guy * math.sin(slope))
    assert held == pytest.approx(1.5 * post.guy * math.cos(slope))
    assert rigging.redirect(100.0, 100.0, math.pi) == pytest.approx(200.0) and rigging.redirect(50.0, 50.0, 0.0) == 0.0
