"""The frame engine: straight uniform elements in space, six freedoms a node, many load cases on one solution.

Freedoms of a node in order x, y, z, rx, ry, rz; small displacements, linear. Element axes: x along it, z as near to
up as it allows, y to the left. Source of all formulas: statics 4.1.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.errors import InputError, SingularModelError

DOFS = ("x", "y", "z", "rx", "ry", "rz")


class Element(Struct, frozen=True):
    """A straight piece from node i to node j: axial EA [N], bending EIy (vertical) and EIz (sideways), torsion GJ
    [N*m^2], shear GAy and GAz [N] (0 leaves
    shear out), roll about its axis [rad], mass a metre [kg/m], and the local freedoms 0..11 that carry no end force."""

    name: str
    i: str
    j: str
    ea: float
    eiy: float
    eiz: float
    gj: float
    gay: float = 0.0
    gaz: float = 0.0
    roll: float = 0.0
    mass: float = 0.0
    released: tuple[int, ...] = ()


class Support(Struct, frozen=True):
    """What holds a node: fixed freedoms by number and springs [N/m, N*m/rad] by number."""

    fixed: tuple[int, ...] = ()
    springs: tuple[tuple[int, float], ...] = ()


class Frame(Struct, frozen=True):
    """A frame made ready: node names, places (n, 3) [m], elements, element lengths (m,) and axes (m, 3, 3), freedoms
    (m, 12), element and whole stiffness
    with the springs, fixed freedoms."""

    names: tuple[str, ...]
    places: np.ndarray
    elements: tuple[Element, ...]
    lengths: np.ndarray
    axes: np.ndarray
    dofs: np.ndarray
    local: np.ndarray
    stiffness: np.ndarray
    fixed: np.ndarray
    springs: np.ndarray

    def node(self, name: str) -> int:
        return self.names.index(name)

    def element(self, name: str) -> int:
        return next(k for k, e in enumerate(self.elements) if e.name == name)


def frame(nodes: Mapping[str, Sequence[float]], elements: Sequence[Element], supports: Mapping[str, Support]) -> Frame:
    """Assemble a frame.

    nodes: name and place (3) of each node [m]
    elements: the pieces between nodes
    supports: what holds which node

    Returns: the frame made ready, a `Frame`. Raises: InputError for unknown nodes, elements without length or
    stiffness. Source: statics 4.1.
    """
    names = tuple(nodes)
    index = {name: k for k, name in enumerate(names)}
    places = np.array([nodes[name] for name in names], float).reshape(-1, 3)
    if not np.all(np.isfinite(places)):
        raise InputError("nodes", places.tolist(), "every place must be finite")
    _check(index, elements, supports)
    ends = np.array([(index[e.i], index[e.j]) for e in elements], int).reshape(-1, 2)
    lengths, axes = _axes(places, ends, elements)
    local = _stiffness(lengths, elements)
    dofs = (6 * ends[:, :, None] + np.arange(6)).reshape(len(elements), 12)
    turn = turns(axes)
    condensed = local.copy()
    once, at = hinges(elements)
    if len(once):
        # One freedom let go: its row and column go out in proportion, all such elements at once.
        row, pivot = local[once, at], local[once, at, at]
        condensed[once] -= row[:, :, None] * (row / pivot[:, None])[:, None, :]
    for k, element in enumerate(elements):
        if len(element.released) > 1:
            condensed[k] = _released(local[k], element)
    size = 6 * len(names)
    in_world = np.swapaxes(turn, 1, 2) @ condensed @ turn
    whole: np.ndarray = np.bincount(
        (dofs[:, :, None] * size + dofs[:, None, :]).ravel(), in_world.ravel(), size * size
    ).reshape(size, size)
    springs = np.zeros(6 * len(names))
    fixed = np.zeros(6 * len(names), bool)
    for name, support in supports.items():
        fixed[[6 * index[name] + d for d in support.fixed]] = True
        for d, spring in support.springs:
            if not (math.isfinite(spring) and spring >= 0):
                raise InputError(f"support {name}, {DOFS[d]}", spring, "a spring must be zero or more")
            springs[6 * index[name] + d] += spring
    whole[np.diag_indices_from(whole)] += springs
    return Frame(names, places, tuple(elements), lengths, axes, dofs, local, whole, fixed, springs)


def _check(index: Mapping[str, int], elements: Sequence[Element], supports: Mapping[str, Support]) -> None:
    """Raise InputError for what names no node or has no stiffness."""
    for element in elements:
        for end in (element.i, element.j):
            if end not in index:
                raise InputError(f"element {element.name}", end, "names no node")
        for field in ("ea", "eiy", "eiz", "gj"):
            if not (math.isfinite(getattr(element, field)) and getattr(element, field) > 0):
                raise InputError(
                    f"element {element.name}, {field}", getattr(element, field), "must be a number above zero"
                )
    for name in supports:
        if name not in index:
            raise InputError("supports", name, "names no node")


def _axes(places: np.ndarray, ends: np.ndarray, elements: Sequence[Element]) -> tuple[np.ndarray, np.ndarray]:
    """Lengths (m,) and local axes (m, 3, 3), rows x, y, z."""
    along = places[ends[:, 1]] - places[ends[:, 0]]
    lengths = np.linalg.norm(along, axis=1)
    for element, length in zip(elements, lengths, strict=True):
        if length < 1e-9:
            raise InputError(f"element {element.name}", float(length), "has no length")
    ex = along / lengths[:, None]
    upright = np.hypot(ex[:, 0], ex[:, 1]) < 1e-6
    ez = np.array([0.0, 0.0, 1.0]) - ex[:, 2:3] * ex
    ez = ez / np.where(upright, 1.0, np.linalg.norm(ez, axis=1))[:, None]
    ey = np.where(upright[:, None], np.array([0.0, 1.0, 0.0]), np.cross(ez, ex))
    ez = np.where(upright[:, None], np.cross(ex, ey), ez)
    roll = np.array([e.roll for e in elements])[:, None]
    return lengths, np.stack(
        [ex, np.cos(roll) * ey + np.sin(roll) * ez, -np.sin(roll) * ey + np.cos(roll) * ez], axis=1
    )


def turns(axes: np.ndarray) -> np.ndarray:
    """World to local for the twelve freedoms of each element.

    axes: local axes of the elements (m, 3, 3) [-]

    Returns: turning matrices (m, 12, 12) [-]. Source: statics 4.1.
    """
    turn = np.zeros((len(axes), 12, 12))
    for k in range(4):
        turn[:, 3 * k : 3 * k + 3, 3 * k : 3 * k + 3] = axes
    return turn


def shear_factors(elements: Sequence[Element], lengths: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Shear numbers of elements.

    elements: with shear stiffness, 0 for none
    lengths: of the elements, shape (n,) [m]

    Returns: numbers of the x-z and of the x-y plane, each (n,), 0 without shear [-]. Source: Timoshenko; statics 4.1.
    """
    phi_z = np.array([12 * e.eiy / e.gaz if e.gaz > 0 else 0.0 for e in elements]) / lengths**2
    phi_y = np.array([12 * e.eiz / e.gay if e.gay > 0 else 0.0 for e in elements]) / lengths**2
    return phi_z, phi_y


def _stiffness(lengths: np.ndarray, elements: Sequence[Element]) -> np.ndarray:
    """Local stiffness (m, 12, 12)."""
    k = np.zeros((len(elements), 12, 12))
    length = lengths
    ea, gj = np.array([e.ea for e in elements]) / length, np.array([e.gj for e in elements]) / length
    phi_z, phi_y = shear_factors(elements, lengths)

    def pair(a: int, b: int, value: np.ndarray) -> None:
        k[:, a, b] = k[:, b, a] = value

    for dof, value in ((0, ea), (3, gj)):
        pair(dof, dof, value)
        pair(dof + 6, dof + 6, value)
        pair(dof, dof + 6, -value)
    for phi, ei, s, t, sign in (
        (phi_y, [e.eiz for e in elements], 1, 5, 1.0),
        (phi_z, [e.eiy for e in elements], 2, 4, -1.0),
    ):
        c = np.array(ei) / (1 + phi)
        for a, b, value in (
            (s, s, 12 * c / length**3),
            (s + 6, s + 6, 12 * c / length**3),
            (s, s + 6, -12 * c / length**3),
            (s, t, sign * 6 * c / length**2),
            (s, t + 6, sign * 6 * c / length**2),
            (t, s + 6, -sign * 6 * c / length**2),
            (s + 6, t + 6, -sign * 6 * c / length**2),
            (t, t, (4 + phi) * c / length),
            (t + 6, t + 6, (4 + phi) * c / length),
            (t, t + 6, (2 - phi) * c / length),
        ):
            pair(a, b, value)
    return k


def hinges(elements: Sequence[Element]) -> tuple[np.ndarray, np.ndarray]:
    """Elements with just one freedom let go.

    elements: with the freedoms they let go

    Returns: their numbers and that freedom, each (k,) [-]. Source: bookkeeping.
    """
    rows = [(k, e.released[0]) for k, e in enumerate(elements) if len(e.released) == 1]
    found = np.array(rows, int).reshape(-1, 2)
    return found[:, 0], found[:, 1]


def kept_freedoms(element: Element) -> tuple[list[int], list[int]]:
    """Freedoms of an element's ends that are joined to its nodes, and those let go.

    element: with the freedoms it lets go

    Returns: kept and released freedoms, of 12 [-]. Source: bookkeeping.
    """
    released = list(element.released)
    return [d for d in range(12) if d not in released], released


def _released(k: np.ndarray, element: Element) -> np.ndarray:
    """Stiffness with released freedoms condensed out; raises SingularModelError when the element then hangs loose."""
    kept, free = kept_freedoms(element)
    inner = k[np.ix_(free, free)]
    scale = np.sqrt(np.diag(inner))
    if np.any(scale == 0) or (len(free) > 1 and np.linalg.cond(inner / np.outer(scale, scale)) > 1e12):
        raise SingularModelError(element.name, "released", f"{element.name} is released so far that it hangs loose")
    out = np.zeros_like(k)
    out[np.ix_(kept, kept)] = k[np.ix_(kept, kept)] - k[np.ix_(kept, free)] @ np.linalg.solve(
        inner, k[np.ix_(free, kept)]
    )
    return out
