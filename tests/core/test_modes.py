"""Natural frequencies against a dense eigenvalue solver and textbook beams."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy.linalg import eigh

from hazel_lantern.core.mechanics.frame import Element, Support, frame
from hazel_lantern.core.mechanics.modes import modes
from hazel_lantern.core.nouns.errors import InputError, SingularModelError

EI, LINE, LENGTH = 1500.0, 0.8, 2.0


def beam(pieces, left, right=(), mass=LINE):
    nodes = {f"n{k}": (k * LENGTH / pieces, 0.0, 0.0) for k in range(pieces + 1)}
    elements = [Element(f"e{k}", f"n{k}", f"n{k + 1}", 3e7, EI, 3 * EI, 900.0, mass=mass) for k in range(pieces)]
    return frame(nodes, elements, {"n0": Support(left), f"n{pieces}": Support(right)})


@pytest.mark.parametrize(
    ("left", "right", "roots"),
    [((0, 1, 2, 3, 4, 5), (), (1.87510, 4.69409)), ((0, 1, 2, 3, 5), (1, 2, 3, 5), (math.pi, 2 * math.pi))],
)
def test_upright_modes_of_a_uniform_beam_are_the_textbooks(left, right, roots):
    made = beam(12, left, right)
    rates, shapes = modes(made, count=6)
    upright = [
        rate
        for rate, shape in zip(rates, shapes.T, strict=True)
        if np.abs(shape[2::6]).max() > np.abs(shape[1::6]).max()
    ]
    for rate, root in zip(upright, roots, strict=False):
        assert rate == pytest.approx(root**2 / (2 * math.pi) * math.sqrt(EI / LINE / LENGTH**4), rel=2e-3)


@pytest.mark.parametrize("seed", range(6))
def test_the_slowest_of_any_frame_are_those_of_a_dense_solver(seed):
    rng = np.random.default_rng(seed)
    made = beam(int(rng.integers(4, 11)), (0, 1, 2, 3, 4, 5), (2,) if seed % 2 else ())
    masses = {
        int(node): float(rng.uniform(0.2, 5.0)) for node in rng.choice(np.arange(1, len(made.names)), 2, replace=False)
    }
    rates, shapes = modes(made, masses, 4)
    free = ~made.fixed
    # Masses of the oracle are worked out from the shapes' own energy: K x = w2 M x must hold for each.
    lumps = np.zeros(len(made.stiffness))
    for node, mass in masses.items():
        lumps[6 * node : 6 * node + 3] = mass
    whole = np.zeros_like(made.stiffness)
    for element, dofs, length in zip(made.elements, made.dofs, made.lengths, strict=True):
        whole[np.ix_(dofs, dofs)] += consistent(element.mass, length)
    whole += np.diag(lumps)
    wanted = np.sqrt(
        eigh(
            made.stiffness[np.ix_(free, free)],
            whole[np.ix_(free, free)] + 1e-12 * np.eye(free.sum()),
            eigvals_only=True,
        )[:4]
    ) / (2 * math.pi)
    assert rates == pytest.approx(wanted, rel=1e-5)
    for a in range(4):
        for b in range(a):
            assert abs(shapes[:, a] @ whole @ shapes[:, b]) < 1e-6 * math.sqrt(
                (shapes[:, a] @ whole @ shapes[:, a]) * (shapes[:, b] @ whole @ shapes[:, b])
            )


def consistent(line, length):
    """Mass of an element along x by integrating its shape functions numerically."""
    x, w = np.polynomial.legendre.leggauss(6)
    m = np.zeros((12, 12))
    for xi, weight in zip((x + 1) / 2, w / 2, strict=True):
        n = np.zeros((3, 12))
        n[0, [0, 6]] = 1 - xi, xi
        bend = (
            1 - 3 * xi**2 + 2 * xi**3,
            length * (xi - 2 * xi**2 + xi**3),
            3 * xi**2 - 2 * xi**3,
            length * (xi**3 - xi**2),
        )
        n[1, [1, 5, 7, 11]] = bend
        n[2, [2, 4, 8, 10]] = bend[0], -bend[1], bend[2], -bend[3]
        m += weight * line * length * n.T @ n
    spin = 1e-4 * line * length**3
    for a, b, share in ((3, 3, 3), (9, 9, 3), (3, 9, 6), (9, 3, 6)):
        m[a, b] += spin / share
    return m


def test_without_mass_or_with_loose_parts_it_says_so():
    with pytest.raises(InputError, match="mass"):
        modes(beam(3, (0, 1, 2, 3, 4, 5), mass=0.0))
    with pytest.raises(SingularModelError, match="not held"):
        modes(beam(3, (0, 1, 2)))
