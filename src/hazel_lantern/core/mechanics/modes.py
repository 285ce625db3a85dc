"""Natural frequencies of a frame: consistent masses on its elements, lumps on its nodes, the slowest shapes."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from hazel_lantern.core.mechanics.frame import Frame, turns
from hazel_lantern.core.mechanics.frame_loads import flexibility
from hazel_lantern.core.nouns.errors import InputError


def modes(made: Frame, masses: Mapping[int, float] | None = None, count: int = 3) -> tuple[np.ndarray, np.ndarray]:
    """Natural frequencies and shapes, lowest first.

    made: the frame; elements with a mass a metre count
    masses: node number and mass carried there [kg]
    count: how many are wanted [-]

    Returns: frequencies (k,) [Hz] and shapes (6 nodes, k), largest displacement 1. Raises: SingularModelError,
    InputError without any mass.
    Source: consistent mass matrix; statics 4.1, README.
    """
    size, turn = len(made.stiffness), turns(made.axes)
    local = _mass(np.array([e.mass for e in made.elements]), made.lengths)
    in_world = np.swapaxes(turn, 1, 2) @ local @ turn
    whole: np.ndarray = np.bincount(
        (made.dofs[:, :, None] * size + made.dofs[:, None, :]).ravel(), in_world.ravel(), size * size
    ).reshape(size, size)
    for node, mass in (masses or {}).items():
        for d in range(3):
            whole[6 * node + d, 6 * node + d] += mass
    if not whole.any():
        raise InputError("mass", 0.0, "nothing here has a mass")
    free, soft = flexibility(made)
    values, vectors = _slowest(soft, whole[np.ix_(free, free)], count)
    order = np.argsort(values)[::-1][:count]
    order = order[values[order] > 0]
    shapes = np.zeros((len(whole), len(order)))
    shapes[free] = vectors[:, order]
    largest = np.abs(shapes.reshape(-1, 6, len(order))[:, :3]).max(axis=(0, 1))
    return 1 / (2 * np.pi * np.sqrt(values[order])), shapes / np.where(largest > 0, largest, 1.0)


def _slowest(soft: np.ndarray, mass: np.ndarray, count: int) -> tuple[np.ndarray, np.ndarray]:
    """The largest eigenvalues of flexibility times mass, one over omega squared, and their shapes: a few vectors
    turned round by the
    structure until they settle, all of them where they do not."""
    size = len(mass)
    few = min(size, count + 4)
    shapes = np.cos(np.outer(np.arange(size), 1.3 + 0.7 * np.arange(few)))
    before = np.zeros(few)
    for _ in range(30):
        turned = soft @ (mass @ shapes)
        # In the space of these vectors: how they move against how they resist, K of the turned ones being
        # what was put in.
        stiff, heavy = turned.T @ (mass @ shapes), turned.T @ mass @ turned
        try:
            lower = np.linalg.inv(np.linalg.cholesky((stiff + stiff.T) / 2))
        except np.linalg.LinAlgError:
            break
        values, mixed = np.linalg.eigh(lower @ heavy @ lower.T)
        shapes = turned @ (lower.T @ mixed)
        if np.all(np.abs(values[-count:] - before[-count:]) <= 1e-10 * np.abs(values[-count:])):
            return values, shapes
        before = values
    # K = L Lᵀ turns the pair (K, M) into one symmetric matrix.
    lower = np.linalg.cholesky((soft + soft.T) / 2)
    values, vectors = np.linalg.eigh(lower.T @ mass @ lower)
    return values, lower @ vectors


def _mass(line: np.ndarray, length: np.ndarray) -> np.ndarray:
    """Consistent mass (m, 12, 12) of slender elements of so much a metre; their own spin about the axis is left
    small.
    """
    m = np.zeros((len(line), 12, 12))
    total = line * length
    m[:, 0, 0] = m[:, 6, 6] = total / 3
    m[:, 0, 6] = m[:, 6, 0] = total / 6
    spin = 1e-4 * total * length**2
    m[:, 3, 3] = m[:, 9, 9] = spin / 3
    m[:, 3, 9] = m[:, 9, 3] = spin / 6
    for order, sign in (((1, 5, 7, 11), 1.0), ((2, 4, 8, 10), -1.0)):
        turn = np.array([1.0, sign, 1.0, sign])
        # Rows and columns of turns carry a length each.
        grow = np.where(np.array([False, True, False, True]), length[:, None], 1.0) * turn
        block = _BEAM_MASS * grow[:, :, None] * grow[:, None, :]
        m[:, np.array(order)[:, None], np.array(order)] += (total / 420)[:, None, None] * block
    return m


_BEAM_MASS = np.array([[156.0, 22, 54, -13], [22, 4, 13, -3], [54, 13, 156, -22], [-13, -3, -22, 4]])
