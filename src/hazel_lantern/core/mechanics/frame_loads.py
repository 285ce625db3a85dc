"""Loads on a space frame, the displacements and reactions they make, and what goes on inside its elements."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from msgspec import Struct

from hazel_lantern.core.mechanics.frame import DOFS, Frame, hinges, kept_freedoms, shear_factors, turns
from hazel_lantern.core.nouns.errors import InputError, SingularModelError

DOUBTFUL = 1e10  # answer to a unit probe beyond which a structure may be loose
GRIP = 0.1  # metres by which a rotation counts against a displacement when a loose part is named
_WORDS = ("along x", "to the side", "up and down", "against roll", "against pitch", "against yaw")


class Loads(Struct, frozen=True):
    """Loads of many cases. Point loads on elements: case, element, place from i [m], force and moment in world axes
    [N, N*m], one row each.
    Spread loads: case, element, force a metre in world axes [N/m]. Node loads: case, node, force and moment."""

    cases: int
    point_case: np.ndarray
    point_element: np.ndarray
    point_at: np.ndarray
    point_force: np.ndarray
    point_moment: np.ndarray
    spread_case: np.ndarray
    spread_element: np.ndarray
    spread_force: np.ndarray
    node_case: np.ndarray
    node: np.ndarray
    node_load: np.ndarray


def loads(
    cases: int,
    points: Sequence[tuple[int, int, float, Sequence[float], Sequence[float]]] = (),
    spread: Sequence[tuple[int, int, Sequence[float]]] = (),
    nodes: Sequence[tuple[int, int, Sequence[float]]] = (),
) -> Loads:
    """Loads from rows: points (case, element, at, force, moment), spread (case, element, force a metre), nodes (case,
    node, six numbers).

    cases: number of load cases [-]
    points: rows of case, element, at [m], force (3) [N], moment (3) [N*m]
    spread: rows of case, element, force a metre (3) [N/m]
    nodes: rows of case, node, load (6) [N, N*m]

    Returns: the loads as arrays, a `Loads`. Source: bookkeeping.
    """

    def column(rows: Sequence[Sequence[object]], k: int, *shape: int, whole: bool = False) -> np.ndarray:
        return np.array([row[k] for row in rows], int if whole else float).reshape(len(rows), *shape)

    return Loads(
        cases,
        column(points, 0, whole=True),
        column(points, 1, whole=True),
        column(points, 2),
        column(points, 3, 3),
        column(points, 4, 3),
        column(spread, 0, whole=True),
        column(spread, 1, whole=True),
        column(spread, 2, 3),
        column(nodes, 0, whole=True),
        column(nodes, 1, whole=True),
        column(nodes, 2, 6),
    )


class Solution(Struct, frozen=True):
    """Displacements (freedoms, cases), local end displacements and end forces (elements, 12, cases), and the loads in
    local axes.
    """

    frame: Frame
    loads: Loads
    displacements: np.ndarray
    reactions: np.ndarray
    ends: np.ndarray
    forces: np.ndarray


def _consistent(made: Frame, given: Loads) -> np.ndarray:
    """Nodal loads (elements, 12, cases) in local axes that stand exactly for the loads along the elements."""
    out = np.zeros((len(made.elements), 12, given.cases))
    phi_z, phi_y = shear_factors(made.elements, made.lengths)
    if len(given.point_at):
        e, length = given.point_element, made.lengths[given.point_element]
        if np.any(given.point_at < -1e-9) or np.any(given.point_at > length + 1e-9):
            raise InputError("load", given.point_at.tolist(), "lies beyond the end of its element")
        force = np.einsum("kab,kb->ka", made.axes[e], given.point_force)
        moment = np.einsum("kab,kb->ka", made.axes[e], given.point_moment)
        xi = given.point_at / length
        rows = np.zeros((len(e), 12))
        for phi, p, m, order, sign in (
            (phi_y[e], force[:, 1], moment[:, 2], (1, 5, 7, 11), 1.0),
            (phi_z[e], force[:, 2], moment[:, 1], (2, 4, 8, 10), -1.0),
        ):
            n, r = _hermite(xi, length, phi)
            for k, (dof, turned) in enumerate(zip(order, (False, True, False, True), strict=True)):
                rows[:, dof] += (sign if turned else 1.0) * n[k] * p + (1.0 if turned else sign) * r[k] * m
        rows[:, 0] += force[:, 0] * (1 - xi)
        rows[:, 6] += force[:, 0] * xi
        rows[:, 3] += moment[:, 0] * (1 - xi)
        rows[:, 9] += moment[:, 0] * xi
        np.add.at(out, (e[:, None], np.arange(12), given.point_case[:, None]), rows)
    if len(given.spread_element):
        e, length = given.spread_element, made.lengths[given.spread_element]
        q = np.einsum("kab,kb->ka", made.axes[e], given.spread_force)
        rows = np.zeros((len(e), 12))
        rows[:, 0:3] = rows[:, 6:9] = q * length[:, None] / 2
        rows[:, 5], rows[:, 11] = q[:, 1] * length**2 / 12, -q[:, 1] * length**2 / 12
        rows[:, 4], rows[:, 10] = -q[:, 2] * length**2 / 12, q[:, 2] * length**2 / 12
        np.add.at(out, (e[:, None], np.arange(12), given.spread_case[:, None]), rows)
    return out


def _hermite(xi: np.ndarray, length: np.ndarray, phi: np.ndarray) -> tuple[list[np.ndarray], list[np.ndarray]]:
    """Shares of a unit force and of a unit moment at xi that the four end freedoms of a plane take."""
    d = 1 + phi
    n = [
        (1 - 3 * xi**2 + 2 * xi**3 + phi * (1 - xi)) / d,
        length * (xi - 2 * xi**2 + xi**3 + phi * (xi - xi**2) / 2) / d,
        (3 * xi**2 - 2 * xi**3 + phi * xi) / d,
        length * (-(xi**2) + xi**3 - phi * (xi - xi**2) / 2) / d,
    ]
    r1 = 6 * (xi**2 - xi) / (length * d)
    return n, [r1, (1 - 4 * xi + 3 * xi**2 + phi * (1 - xi)) / d, -r1, (3 * xi**2 - 2 * xi + phi * xi) / d]


def solve(made: Frame, given: Loads, free: np.ndarray | None = None) -> Solution:
    """Displacements, end forces and reactions of every load case.

    made: the frame
    given: its loads
    free: freedoms that may move, (6 nodes,) booleans; None for all that are not fixed

    Returns: the solution, a `Solution`. Raises: SingularModelError naming the part that can move freely. Source:
    statics 4.1.
    """
    free = ~made.fixed if free is None else free
    consistent = _consistent(made, given)
    turn = turns(made.axes)
    condensed = consistent.copy()
    once, at = hinges(made.elements)
    if len(once):
        row, pivot = made.local[once, at], made.local[once, at, at]
        condensed[once] -= row[:, :, None] * (consistent[once, at] / pivot[:, None])[:, None, :]
    hinged = [(k, *kept_freedoms(element)) for k, element in enumerate(made.elements) if len(element.released) > 1]
    for k, kept, loose in hinged:
        condensed[k][kept] -= made.local[k][np.ix_(kept, loose)] @ np.linalg.solve(
            made.local[k][np.ix_(loose, loose)], consistent[k][loose]
        )
        condensed[k][loose] = 0.0
    size, share = len(made.stiffness), np.swapaxes(turn, 1, 2) @ condensed
    applied = np.bincount(
        (made.dofs[:, :, None] * given.cases + np.arange(given.cases)).ravel(), share.ravel(), size * given.cases
    ).reshape(size, given.cases)
    if len(given.node):
        np.add.at(applied, (6 * given.node[:, None] + np.arange(6), given.node_case[:, None]), given.node_load)
    moved = np.zeros_like(applied)
    if free.any():
        moved[free] = _solved(made, free, applied[free])
    reactions = np.zeros_like(applied)
    held, sprung = np.flatnonzero(made.fixed), np.flatnonzero(made.springs)
    reactions[held] = made.stiffness[held] @ moved - applied[held]
    reactions[sprung] -= made.springs[sprung, None] * moved[sprung]
    ends = turn @ moved[made.dofs]
    if len(once):
        ends[once, at] = 0.0
        ends[once, at] = (consistent[once, at] - np.einsum("ka,kac->kc", row, ends[once])) / pivot[:, None]
    for k, kept, loose in hinged:
        inner = made.local[k][np.ix_(loose, loose)]
        ends[k][loose] = np.linalg.solve(
            inner, consistent[k][loose] - made.local[k][np.ix_(loose, kept)] @ ends[k][kept]
        )
    return Solution(made, given, moved, reactions, ends, made.local @ ends - consistent)


def _solved(made: Frame, free: np.ndarray, applied: np.ndarray) -> np.ndarray:
    numbers = np.flatnonzero(free)
    k = made.stiffness[numbers][:, numbers]
    diagonal = np.diag(k)
    if diagonal.min() <= 1e-14 * diagonal.max():
        raise _loose(made, int(numbers[int(np.argmin(diagonal))]))
    scale = 1 / np.sqrt(diagonal)
    scaled = k * scale * scale[:, None]
    # One more load, of no meaning, shows how loose the structure is: only a doubtful one pays for the eigenvalues.
    probe = np.cos(1.7 * np.arange(len(scaled)))[:, None]
    try:
        answer = np.linalg.solve(scaled, np.hstack([applied * scale[:, None], probe]))
        doubtful = not np.all(np.isfinite(answer)) or float(np.abs(answer[:, -1]).max()) > DOUBTFUL
    except np.linalg.LinAlgError:
        doubtful, answer = True, probe
    if doubtful:
        values, vectors = np.linalg.eigh(scaled)
        if values[0] <= 1e-13 * values[-1]:
            shape = np.abs(vectors[:, 0] * scale) * np.where(numbers % 6 >= 3, GRIP, 1.0)
            raise _loose(made, int(numbers[int(np.argmax(shape >= shape.max() * (1 - 1e-6)))]))
    found = answer[:, :-1] * scale[:, None]
    # All cases at once, mixed so that no error hides another; a soft structure's large displacements carry
    # rounding of their own.
    mix = 1.0 + np.cos(2.3 * np.arange(applied.shape[1])) / 3
    wanted, moved = applied @ mix, found @ mix
    if np.linalg.norm(k @ moved - wanted) > 1e-6 * max(float(np.linalg.norm(wanted)), 1e-300) + 1e-13 * float(
        np.abs(diagonal).max() * np.linalg.norm(moved)
    ):
        raise SingularModelError("", "", "the structure is too loose to be solved; add a support or a brace")
    return np.asarray(found)


def _loose(made: Frame, dof: int) -> SingularModelError:
    node = made.names[dof // 6]
    return SingularModelError(
        node,
        DOFS[dof % 6],
        f"the structure can move freely: “{node}” is not held {_WORDS[dof % 6]}; add a support, brace or rigid joint",
    )


def _of_case(rows: np.ndarray, cases: int) -> np.ndarray:
    """Numbers of the rows of each case, (cases, most of a case), -1 where a case has fewer."""
    order = np.argsort(rows, kind="stable")
    counts = np.bincount(rows, minlength=cases)
    table = np.full((cases, int(counts.max(initial=0))), -1)
    starts = np.concatenate([[0], np.cumsum(counts)[:-1]])
    table[rows[order], np.arange(len(rows)) - starts[rows[order]]] = order
    return table


class Cut(NamedTuple):
    """Elements cut at places `x` (n,): displacements `u` and forces `f` of their ends (n, 12), what loads came to
    before that, by powers of how far back they stand: forces `p` (4, n, 3) and moments `m` (3, n, 3), and what is
    spread along them `q` (n, 3), in local axes.
    """

    x: np.ndarray
    u: np.ndarray
    f: np.ndarray
    p: np.ndarray
    m: np.ndarray
    q: np.ndarray


def _cut(found: Solution, case: np.ndarray, element: np.ndarray, x: np.ndarray) -> Cut:
    made, given = found.frame, found.loads
    axes = made.axes[element]
    # Each query meets only the few loads of its own case that stand before it on its element.
    passed = np.zeros((len(x), 7, 3))
    if len(given.point_at):
        near = _of_case(given.point_case, given.cases)[case]
        ahead = (near >= 0) & (given.point_element[near] == element[:, None]) & (given.point_at[near] < x[:, None])
        for rank in range(near.shape[1]):
            query = np.flatnonzero(ahead[:, rank])
            load = near[query, rank]
            away = (x[query] - given.point_at[load])[:, None]
            force = (axes[query] @ given.point_force[load][:, :, None])[..., 0]
            moment = (axes[query] @ given.point_moment[load][:, :, None])[..., 0]
            terms = (force, away * force, away**2 * force, away**3 * force, moment, away * moment, away**2 * moment)
            passed[query] += np.stack(terms, axis=1)
    by_power = np.moveaxis(passed, 1, 0)
    spread = np.zeros((given.cases, len(made.elements), 3))
    np.add.at(spread, (given.spread_case, given.spread_element), given.spread_force)
    q = (axes @ spread[case, element][:, :, None])[..., 0]
    return Cut(x, found.ends[element, :, case], found.forces[element, :, case], by_power[:4], by_power[4:], q)


def inner_forces(found: Solution, case: np.ndarray, element: np.ndarray, x: np.ndarray) -> np.ndarray:
    """Inner forces anywhere along elements.

    found: a solution
    case: load case of each query (n,) [-]
    element: element of each query (n,) [-]
    x: place from the element's first end (n,) [m]

    Returns: (n, 6) in local axes N, Vy, Vz, Mx, My, Mz [N, N*m]. Source: statics 4.1, recovery.
    """
    return _inner(_cut(found, case, element, x))


def _inner(cut: Cut) -> np.ndarray:
    x, _, f, (p0, p1, _, _), (m0, _, _), q = cut
    return -np.column_stack(
        [
            f[:, 0] + p0[:, 0] + q[:, 0] * x,
            f[:, 1] + p0[:, 1] + q[:, 1] * x,
            f[:, 2] + p0[:, 2] + q[:, 2] * x,
            f[:, 3] + m0[:, 0],
            f[:, 4] + f[:, 2] * x + m0[:, 1] + p1[:, 2] + q[:, 2] * x**2 / 2,
            f[:, 5] - f[:, 1] * x + m0[:, 2] - p1[:, 1] - q[:, 1] * x**2 / 2,
        ]
    )


def inside(found: Solution, case: np.ndarray, element: np.ndarray, x: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Displacements and inner forces anywhere along elements.

    found: a solution
    case: load case of each query (n,) [-]
    element: element of each query (n,) [-]
    x: place from the element's first end (n,) [m]

    Returns: displacements (n, 6) in world axes [m, rad] and inner forces (n, 6) in local axes N, Vy, Vz, Mx, My, Mz
    [N, N*m].
    Source: statics 4.1, recovery.
    """
    made = found.frame
    case, element, x = np.asarray(case, int), np.asarray(element, int), np.asarray(x, float)
    cut, axes = _cut(found, case, element, x), made.axes[element]
    _, u, f, (_, p1, p2, p3), (_, m1, m2), q = cut
    e = made.elements
    ea, eiy, eiz, gj = (np.array([getattr(one, name) for one in e])[element] for name in ("ea", "eiy", "eiz", "gj"))
    gay, gaz = (
        np.array([1 / getattr(one, name) if getattr(one, name) > 0 else 0.0 for one in e])[element]
        for name in ("gay", "gaz")
    )
    turned = np.column_stack(
        [
            u[:, 3] - (f[:, 3] * x + m1[:, 0]) / gj,
            u[:, 4] - (f[:, 4] * x + f[:, 2] * x**2 / 2 + m1[:, 1] + p2[:, 2] / 2 + q[:, 2] * x**3 / 6) / eiy,
            u[:, 5] + (-f[:, 5] * x + f[:, 1] * x**2 / 2 - m1[:, 2] + p2[:, 1] / 2 + q[:, 1] * x**3 / 6) / eiz,
        ]
    )
    moved = np.column_stack(
        [
            u[:, 0] - (f[:, 0] * x + p1[:, 0] + q[:, 0] * x**2 / 2) / ea,
            u[:, 1]
            + u[:, 5] * x
            + (-f[:, 5] * x**2 / 2 + f[:, 1] * x**3 / 6 - m2[:, 2] / 2 + p3[:, 1] / 6 + q[:, 1] * x**4 / 24) / eiz
            - (f[:, 1] * x + p1[:, 1] + q[:, 1] * x**2 / 2) * gay,
            u[:, 2]
            - u[:, 4] * x
            + (f[:, 4] * x**2 / 2 + f[:, 2] * x**3 / 6 + m2[:, 1] / 2 + p3[:, 2] / 6 + q[:, 2] * x**4 / 24) / eiy
            - (f[:, 2] * x + p1[:, 2] + q[:, 2] * x**2 / 2) * gaz,
        ]
    )
    return np.hstack([np.einsum("kba,kb->ka", axes, moved), np.einsum("kba,kb->ka", axes, turned)]), _inner(cut)


def flexibility(made: Frame) -> tuple[np.ndarray, np.ndarray]:
    """What each free freedom moves under a unit load on each.

    made: the frame

    Returns: numbers of the free freedoms (f,) and flexibility (f, f) [m/N]. Raises: SingularModelError. Source:
    statics 4.1, inverse of the stiffness.
    """
    free = ~made.fixed
    return np.flatnonzero(free), _solved(made, free, np.eye(int(free.sum())))
