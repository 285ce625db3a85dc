"""Statics by another route than the program's own: outlines counted by Green's theorem, beams by a mesh of their own,
footing by the hull's edges one by one. What an audit recomputes with.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.spatial import ConvexHull

from hazel_lantern.core.catalogue import StockSection

G = 9.80665


@dataclass
class Outline:
    """Area, second moments and half depth of a section, and its modulus against upright bending, free to walk."""

    area: float
    iy: float
    iz: float
    iyz: float
    modulus: float


def _loop(points: np.ndarray, sign: float) -> np.ndarray:
    """Area, first and second moments of a closed loop: A, Ay, Az, Iy, Iz, Iyz."""
    y, z = points.T
    y2, z2 = np.roll(y, -1), np.roll(z, -1)
    cross = y * z2 - y2 * z
    sums = np.array(
        [
            cross.sum() / 2,
            ((y + y2) * cross).sum() / 6,
            ((z + z2) * cross).sum() / 6,
            ((z**2 + z * z2 + z2**2) * cross).sum() / 12,
            ((y**2 + y * y2 + y2**2) * cross).sum() / 12,
            ((y * z2 + 2 * y * z + 2 * y2 * z2 + y2 * z) * cross).sum() / 24,
        ]
    )
    return sign * np.sign(sums[0]) * sums


def _rounded(b: float, h: float, r: float) -> np.ndarray:
    """A rectangle about the origin with round corners."""
    if r <= 0:
        return np.array([(-b / 2, -h / 2), (b / 2, -h / 2), (b / 2, h / 2), (-b / 2, h / 2)])
    quarter = np.linspace(0, math.pi / 2, 24)
    corners = [
        (b / 2 - r, h / 2 - r, 0),
        (-b / 2 + r, h / 2 - r, 1),
        (-b / 2 + r, -h / 2 + r, 2),
        (b / 2 - r, -h / 2 + r, 3),
    ]
    return np.concatenate(
        [
            np.column_stack([x + r * np.cos(quarter + k * math.pi / 2), z + r * np.sin(quarter + k * math.pi / 2)])
            for x, z, k in corners
        ]
    )


def _circle(d: float) -> np.ndarray:
    around = np.linspace(0, 2 * math.pi, 720, endpoint=False)
    return np.column_stack([np.cos(around), np.sin(around)]) * d / 2


def outline(bar: StockSection) -> Outline:
    """A section from the corners of its outline."""
    d = bar.dims
    if bar.shape == "profile":
        return Outline(d["area"], d["iy"], d["iz"], 0.0, d["iy"] / (d["h"] / 2))
    loops = {
        "solid_round": lambda: [(_circle(d["d"]), 1.0)],
        "round_tube": lambda: [(_circle(d["d"]), 1.0), (_circle(d["d"] - 2 * d["t"]), -1.0)],
        "oval_tube": lambda: [
            (_circle(1.0) * (d["b"], d["h"]), 1.0),
            (_circle(1.0) * (d["b"] - 2 * d["t"], d["h"] - 2 * d["t"]), -1.0),
        ],
        "flat_bar": lambda: [(_rounded(d["b"], d["h"], 0.0), 1.0)],
        "rectangular_tube": lambda: [
            (_rounded(d["b"], d["h"], d["r_outer"]), 1.0),
            (_rounded(d["b"] - 2 * d["t"], d["h"] - 2 * d["t"], max(d["r_outer"] - d["t"], 0.0)), -1.0),
        ],
        "angle": lambda: [
            (np.array([(0, 0), (d["b"], 0), (d["b"], d["t"]), (d["t"], d["t"]), (d["t"], d["h"]), (0, d["h"])]), 1.0)
        ],
        "channel": lambda: [
            (
                np.array(
                    [
                        (0, 0),
                        (d["b"], 0),
                        (d["b"], d["t_flange"]),
                        (d["t_web"], d["t_flange"]),
                        (d["t_web"], d["h"] - d["t_flange"]),
                        (d["b"], d["h"] - d["t_flange"]),
                        (d["b"], d["h"]),
                        (0, d["h"]),
                    ]
                ),
                1.0,
            )
        ],
    }[bar.shape]()
    area, ay, az, iy, iz, iyz = sum(_loop(np.asarray(points, float), sign) for points, sign in loops)
    yc, zc = ay / area, az / area
    iy, iz, iyz = iy - area * zc**2, iz - area * yc**2, iyz - area * yc * zc
    y, z = np.asarray(loops[0][0], float).T
    worst = np.abs(iz * (z - zc) - iyz * (y - yc)).max() / (iy * iz - iyz**2)
    return Outline(float(area), float(iy), float(iz), float(iyz), float(1 / worst))


def upright(section: Outline) -> float:
    """What resists upright bending where it may walk sideways."""
    return section.iy - section.iyz**2 / section.iz


@dataclass
class Bent:
    """Places of the nodes, their drop, bending just before and just after each (n, 2) and the larger of both, reactions
    of the supports.
    """

    x: np.ndarray
    drop: np.ndarray
    sides: np.ndarray
    reactions: np.ndarray

    @property
    def bending(self) -> np.ndarray:
        return np.abs(self.sides).max(axis=1)

    def at(self, x: float) -> float:
        """The larger bending at a node."""
        return float(self.bending[int(np.argmin(abs(self.x - x)))])


def beam(
    length: float,
    ei: float,
    line: float,
    rests: Sequence[tuple[float, float, float, bool]],
    loads: Sequence[tuple[float, float]],
    *,
    ga: float = 0.0,
    hinges: Sequence[tuple[float, float]] = (),
    spots: Sequence[float] = (),
) -> Bent:
    """A beam on supports (x, stiffness up and down, stiffness of pitch, whether it pulls) under a weight a metre and
    point loads (x, N), with hinges (x, stiffness of turn); Euler's beam, with shear where `ga` is given.

    Unknowns are drop and turn of each node, turns on both sides of a hinge apart.
    """
    mesh = [
        *np.linspace(0, length, 41),
        *(x for x, *_ in rests),
        *(x for x, _ in loads),
        *(x for x, _ in hinges),
        *spots,
    ]
    x = np.unique(np.round(mesh, 4))  # nodes that all but meet would spoil the numbers
    n = len(x)
    turn_left, turn_right = np.arange(n) + n, np.arange(n) + n
    more = 2 * n
    for at, _ in hinges:
        turn_left = turn_left.copy()
        turn_left[int(np.argmin(abs(x - at)))] = more
        more += 1
    k, f = np.zeros((more, more)), np.zeros(more)
    for i in range(n - 1):
        h = x[i + 1] - x[i]
        phi = 12 * ei / (ga * h**2) if ga else 0.0
        c = ei / ((1 + phi) * h**3)
        # Drop down, turn as its slope; the turn that a piece ends with is the one left of its end node.
        dofs = [i, turn_right[i], i + 1, turn_left[i + 1]]
        k[np.ix_(dofs, dofs)] += c * np.array(
            [
                [12, 6 * h, -12, 6 * h],
                [6 * h, (4 + phi) * h**2, -6 * h, (2 - phi) * h**2],
                [-12, -6 * h, 12, -6 * h],
                [6 * h, (2 - phi) * h**2, -6 * h, (4 + phi) * h**2],
            ]
        )
        f[dofs] += line * h * np.array([1 / 2, h / 12, 1 / 2, -h / 12])
    for at, force in loads:
        f[int(np.argmin(abs(x - at)))] += force
    for at, stiff in hinges:
        j = int(np.argmin(abs(x - at)))
        both = [turn_left[j], turn_right[j]]
        k[np.ix_(both, both)] += stiff * np.array([[1, -1], [-1, 1]])
    nodes = [int(np.argmin(abs(x - at))) for at, *_ in rests]
    on = [True] * len(rests)
    for _ in range(60):
        held, still = k.copy(), []
        for (_, kz, pitch, _), node, active in zip(rests, nodes, on, strict=True):
            held[turn_right[node], turn_right[node]] += pitch
            if active and math.isfinite(kz):
                held[node, node] += kz
            elif active:
                still.append(node)
        free = np.setdiff1d(np.arange(more), still)
        u = np.zeros(more)
        u[free] = np.linalg.solve(held[np.ix_(free, free)], f[free])
        left = f - k @ u
        push = [
            0.0 if not active else kz * u[node] if math.isfinite(kz) else left[node]
            for (_, kz, _, _), node, active in zip(rests, nodes, on, strict=True)
        ]
        wrong = [j for j, (rest, p) in enumerate(zip(rests, push, strict=True)) if on[j] and not rest[3] and p < -1e-6]
        if not wrong:
            break
        on[min(wrong, key=lambda j: push[j])] = False
    bending = np.zeros((n - 1, 2))
    for i in range(n - 1):
        h = x[i + 1] - x[i]
        phi = 12 * ei / (ga * h**2) if ga else 0.0
        c = ei / ((1 + phi) * h**3)
        d = u[[i, turn_right[i], i + 1, turn_left[i + 1]]]
        start = c * (np.array([6 * h, (4 + phi) * h**2, -6 * h, (2 - phi) * h**2]) @ d) - line * h**2 / 12
        end = c * (np.array([6 * h, (2 - phi) * h**2, -6 * h, (4 + phi) * h**2]) @ d) + line * h**2 / 12
        bending[i] = start, end
    sides = np.zeros((n, 2))
    sides[:-1, 1], sides[1:, 0] = -bending[:, 0], bending[:, 1]
    return Bent(x, u[:n], sides, np.array(push))


def stands(feet: np.ndarray, masses: Sequence[float], places: Sequence[Sequence[float]]) -> float:
    """The least moment that keeps it on the edges of its feet [N*m]; the factor depends on what counts as one body, the
    moment does not.
    """
    hull = feet[ConvexHull(feet).vertices]
    weight = np.asarray(masses) * G
    at = np.asarray(places)[:, :2]
    margin = math.inf
    for a, b in zip(hull, np.roll(hull, -1, axis=0), strict=True):
        along = (b - a) / np.hypot(*(b - a))
        inward = np.array([-along[1], along[0]])
        if (hull.mean(axis=0) - a) @ inward < 0:
            inward = -inward
        margin = min(margin, float(weight @ ((at - a) @ inward)))
    return margin
