"""The frame engine against an independent package, closed forms, and what must not be solved."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from Pynite import FEModel3D

from hazel_lantern.core.mechanics.frame import Element, Support, frame
from hazel_lantern.core.mechanics.frame_loads import inside, loads, solve
from hazel_lantern.core.mechanics.modes import modes
from hazel_lantern.core.mechanics.rails import Rail, Rest, bounce, end_supported, shape, travel, twin
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError, SingularModelError

ZERO = (0.0, 0.0, 0.0)


def random_frame(seed):
    """A post-and-beam frame with a strut, springs, a release, and loads anywhere."""
    rng = np.random.default_rng(seed)
    count = int(rng.integers(3, 7))
    nodes = {"base": (0.0, 0.0, 0.0)}
    x = np.cumsum(rng.uniform(0.3, 0.9, count))
    for k in range(count):
        nodes[f"n{k}"] = (x[k], rng.uniform(-0.3, 0.3), 1.0 + rng.uniform(-0.2, 0.4))
    nodes["foot"] = (x[-1], rng.uniform(-0.5, 0.5), 0.0)
    names = list(nodes)
    stock = (
        69e9,
        26e9,
        rng.uniform(2e-4, 8e-4),
        rng.uniform(5e-8, 3e-7),
        rng.uniform(5e-8, 3e-7),
        rng.uniform(5e-8, 3e-7),
    )
    members = [(f"m{k}", a, b) for k, (a, b) in enumerate(itertools.pairwise(names))]
    released = {members[-1][0]: (10, 11)} if seed % 2 else {}
    springs = {"base": {k: rng.uniform(2e3, 2e4) for k in ("rx", "ry", "rz")}, names[2]: {"z": rng.uniform(1e3, 1e5)}}
    points = [(m, rng.uniform(0, 1), rng.uniform(-60, 60, 3)) for m, _, _ in members[::2]]
    spread = [(members[0][0], rng.uniform(-30, 0)), (members[-2][0], rng.uniform(-30, 0))]
    return nodes, members, stock, released, springs, points, spread


def ours(nodes, members, stock, released, springs, points, spread):
    e, g, a, iy, iz, j = stock
    dofs = ("x", "y", "z", "rx", "ry", "rz")
    supports = {"base": Support((0, 1, 2)), "foot": Support((0, 1, 2, 3, 4, 5))}
    for name, held in springs.items():
        fixed = supports[name].fixed if name in supports else ()
        supports[name] = Support(fixed, tuple((dofs.index(d), k) for d, k in held.items()))
    made = frame(
        nodes,
        [Element(m, i, k, e * a, e * iy, e * iz, g * j, released=released.get(m, ())) for m, i, k in members],
        supports,
    )
    rows = [(0, made.element(m), t * made.lengths[made.element(m)], tuple(f), ZERO) for m, t, f in points]
    return made, solve(made, loads(1, rows, [(0, made.element(m), (0.0, 0.0, q)) for m, q in spread]))


def theirs(nodes, members, stock, released, springs, points, spread):
    e, g, a, iy, iz, j = stock
    model = FEModel3D()
    model.add_material("s", e, g, 0.3, 1.0)
    model.add_section("q", a, iy, iz, j)
    # Their y is up: our (x, y, z) is their (x, z, -y).
    for name, (x, y, z) in nodes.items():
        model.add_node(name, x, z, -y)
    for m, i, k in members:
        # Their local y stands up and local z lies sideways, so the two second moments change places.
        model.add_member(m, i, k, "s", "q")
        if m in released:
            model.def_releases(m, Ryj=True, Rzj=True)
    model.sections["q"].Iy, model.sections["q"].Iz = iz, iy
    model.def_support("base", True, True, True, False, False, False)
    model.def_support("foot", True, True, True, True, True, True)
    turn = {"x": "DX", "y": "DZ", "z": "DY", "rx": "RX", "ry": "RZ", "rz": "RY"}
    for name, held in springs.items():
        for d, k in held.items():
            model.def_support_spring(name, turn[d], k)
    for m, t, f in points:
        length = model.members[m].L()
        for axis, value in (("FX", f[0]), ("FZ", -f[1]), ("FY", f[2])):
            model.add_member_pt_load(m, axis, value, t * length)
    for m, q in spread:
        model.add_member_dist_load(m, "FY", q, q)
    model.analyze(check_statics=False)
    return model


@pytest.mark.parametrize("seed", range(20))
def test_twenty_frames_agree_with_an_independent_package(seed):
    case = random_frame(seed)
    made, found = ours(*case)
    model = theirs(*case)
    got = found.displacements[:, 0].reshape(-1, 6)[:, :3]
    want = np.array(
        [
            [model.nodes[n].DX["Combo 1"], -model.nodes[n].DZ["Combo 1"], model.nodes[n].DY["Combo 1"]]
            for n in made.names
        ]
    )
    assert np.allclose(got, want, rtol=1e-3, atol=1e-3 * np.abs(want).max())
    push = found.reactions[:, 0].reshape(-1, 6)[made.node("foot"), :3]
    foot = model.nodes["foot"]
    assert np.allclose(
        push, (foot.RxnFX["Combo 1"], -foot.RxnFZ["Combo 1"], foot.RxnFY["Combo 1"]), rtol=1e-3, atol=1e-2
    )


@given(st.floats(0.05, 0.95), st.floats(0.05, 0.95), st.integers(0, 50))
def test_forces_balance_and_work_is_the_same_whichever_load_comes_first(s, t, seed):
    nodes, members, stock, released, springs, _, _ = random_frame(seed)
    _, one = ours(nodes, members, stock, released, springs, [("m0", s, np.array([0, 0, -10.0]))], [])
    made, two = ours(nodes, members, stock, released, springs, [("m1", t, np.array([0, 0, -10.0]))], [])
    at = [made.element("m0"), made.element("m1")]
    here, _ = inside(one, np.zeros(1, int), at[1:], np.array([t * made.lengths[at[1]]]))
    there, _ = inside(two, np.zeros(1, int), at[:1], np.array([s * made.lengths[at[0]]]))
    assert here[0, 2] == pytest.approx(there[0, 2], rel=1e-6, abs=1e-12)
    assert one.reactions[:, 0].reshape(-1, 6)[:, 2].sum() == pytest.approx(10.0, rel=1e-9)


def test_many_cases_at_once_equal_one_by_one_and_the_bent_line_meets_its_ends():
    rail = Rail(1.6, 2000.0, 900.0, 12.0, (Rest(0.1), Rest(0.9, kz=4e4), Rest(1.5)))
    x = np.linspace(0.12, 1.48, 31)
    every = travel(rail, x, 0.14, 20.0, 24.0, 0.01)
    for k in (0, 11, 30):
        alone = travel(rail, x[k : k + 1], 0.14, 20.0, 24.0, 0.01)
        assert alone.drop[0] == pytest.approx(every.drop[k])
        assert alone.reactions[0] == pytest.approx(every.reactions[k])
    assert every.reactions.sum(axis=1) == pytest.approx(44.0 + 12 * 1.6)
    assert shape(rail, 0.8, 0.14, 20.0, 24.0, np.array([0.1, 1.5])) == pytest.approx((0.0, 0.0), abs=1e-12)


def test_closed_forms_of_beams_and_frequencies():
    ei, length, w = 1500.0, 1.2, 10.0
    rail = Rail(length, ei, 500.0, w, end_supported(length))
    assert shape(rail, 0.6, 0.1, 0.0, 0.0, np.array([0.6]))[0] == pytest.approx(5 * w * length**4 / (384 * ei))
    middle = travel(rail, np.array([0.6]), 1e-6, 15.0, 15.0)
    assert middle.drop[0] == pytest.approx(30 * length**3 / (48 * ei) + 5 * w * length**4 / (384 * ei), rel=1e-6)
    assert middle.bending[0] == pytest.approx(30 * length / 4 + w * length**2 / 8, rel=1e-5)
    mass = w * length / 9.80665
    light = bounce(rail, 0.6, 1e-9)
    assert light == pytest.approx(math.pi / 2 * math.sqrt(ei / (mass * length**3)), rel=1e-3)
    heavy = bounce(Rail(length, ei, 500.0, 1e-9, end_supported(length)), 0.6, 3.0)
    assert heavy == pytest.approx(math.sqrt(48 * ei / length**3 / 3.0) / (2 * math.pi), rel=1e-3)


def test_a_rail_that_only_lies_lifts_where_it_would_pull_and_tips_when_nothing_is_left():
    lying = Rail(2.4, 5000.0, 2000.0, 20.0, (Rest(0.3), Rest(1.0), Rest(2.1)))
    held = Rail(2.4, 5000.0, 2000.0, 20.0, tuple(Rest(r.x, pulls=True) for r in lying.rests))
    near_end = np.array([0.07, 1.5])
    assert travel(held, near_end, 0.1, 40.0, 40.0).reactions[0].min() < 0
    lifted = travel(lying, near_end, 0.1, 40.0, 40.0)
    assert lifted.lifted[0].tolist() == [False, True, False]
    assert lifted.reactions.min() > -1e-9
    assert lifted.reactions.sum(axis=1) == pytest.approx(80 + 48)
    with pytest.raises(InfeasibleError, match="tips off"):
        travel(Rail(2.0, 5000.0, 2000.0, 0.5, (Rest(0.9), Rest(1.1))), np.array([0.1]), 0.1, 40.0, 40.0)


@given(st.floats(-0.05, 0.05), st.floats(0.2, 1.2))
def test_twin_rails_roll_to_the_heavy_side_and_mirror(left, at):
    rail = Rail(1.4, 800.0, 300.0, 3.0, end_supported(1.4))
    one = twin(rail, 0.12, left, np.array([at]), 0.1, 20.0, 20.0)
    other = twin(rail, 0.12, -left, np.array([at]), 0.1, 20.0, 20.0)
    assert one.roll[0] == pytest.approx(-other.roll[0], abs=1e-15)
    assert one.drop[0] == pytest.approx(other.drop[0])
    assert one.roll[0] * left <= 1e-15
    with pytest.raises(InputError, match="lifted off"):
        twin(rail, 0.12, 0.07, np.array([at]), 0.1, 20.0, 20.0)


def test_loose_structures_are_named_and_impossible_ones_refused():
    with pytest.raises(SingularModelError, match="rail"):
        travel(Rail(1.0, 1000.0, 500.0, 5.0, (Rest(0.5),)), np.array([0.4]), 0.1, 10.0, 10.0)
    beam = [Element("a", "p", "q", 1e6, 1e3, 1e3, 1e3)]
    with pytest.raises(SingularModelError, match="can move freely"):
        solve(frame({"p": ZERO, "q": (1.0, 0.0, 0.0)}, beam, {"p": Support((0, 1, 2))}), loads(1))
    for wrong in (
        lambda: frame({"p": ZERO, "q": ZERO}, beam, {}),
        lambda: frame({"p": ZERO}, beam, {}),
        lambda: frame({"p": ZERO, "q": (1.0, 0, 0)}, beam, {"nowhere": Support()}),
        lambda: frame({"p": ZERO, "q": (math.nan, 0, 0)}, beam, {}),
        lambda: travel(Rail(1.0, 1e3, 1e3, 5.0, (Rest(0.0), Rest(1.2))), np.array([0.4]), 0.1, 1.0, 1.0),
        lambda: travel(Rail(1.0, 1e3, 1e3, 5.0, (Rest(0.0), Rest(1.0))), np.array([0.99]), 0.1, 1.0, 1.0),
        lambda: travel(Rail(1.0, 1e3, 1e3, 5.0, (Rest(0.0), Rest(1.0))), np.array([0.5]), 0.0, 1.0, 1.0),
    ):
        with pytest.raises(InputError):
            wrong()


def test_modes_of_a_clamped_arm_with_a_tip_mass():
    made = frame(
        {f"n{k}": (k * 0.25, 0, 0) for k in range(5)},
        [Element(f"e{k}", f"n{k}", f"n{k + 1}", 1e7, 900.0, 400.0, 300.0, mass=1.2) for k in range(4)],
        {"n0": Support((0, 1, 2, 3, 4, 5))},
    )
    found, shapes = modes(made, {4: 1.5}, 2)
    upright = math.sqrt(3 * 900.0 / (1.0 * (1.5 + 33 / 140 * 1.2))) / (2 * math.pi)
    sideways = math.sqrt(3 * 400.0 / (1.0 * (1.5 + 33 / 140 * 1.2))) / (2 * math.pi)
    assert found == pytest.approx((sideways, upright), rel=5e-3)
    assert np.abs(shapes.reshape(-1, 6, 2)[4, 1, 0]) == pytest.approx(1.0)
