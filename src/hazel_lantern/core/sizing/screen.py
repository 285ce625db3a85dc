"""A great many combinations judged at once, each from what its pieces do one by one."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.errors import InputError

MOST = 2_000_000  # combinations looked at
COST, MASS, WANDER, USE, LONGEST = range(5)  # columns of what is told of each


class Effects(Struct, frozen=True):
    """What each row of one choice does to a rig, the others left as they are: rows (n, 5) of cost, mass [kg], wander of
    the picture in the unit of its figure, most of what is judged of what it may be [-], and longest piece [m].
    """

    told: np.ndarray


class Screened(Struct, frozen=True):
    """Estimates (m, 5) of all combinations and the row of every choice in each (m, choices)."""

    told: np.ndarray
    rows: np.ndarray


def screened(base: np.ndarray, effects: Sequence[Effects]) -> Screened:
    """Every combination of the rows of some choices.

    base: of the rig as it is (5,)
    effects: of each choice's rows

    Returns: estimates: costs and masses add up, wander adds up, what is judged multiplies, the longest piece is the
    longest of all. Raises: InputError for more combinations than are looked at. Source: each row was worked out exactly by
    itself; the best combinations are worked out again.
    """
    counts = [len(one.told) for one in effects]
    total = int(np.prod([1, *counts], dtype=float))
    if total > MOST:
        raise InputError("choices", total, f"combinations: at most {MOST}")
    told = np.asarray(base, float).reshape(1, 5).copy()
    rows = np.zeros((1, 0), np.int16)
    for one in effects:
        n, more = len(one.told), one.told - base
        both = np.repeat(told, n, axis=0)
        ratio = one.told[:, USE] / max(float(base[USE]), 1e-9)
        again = np.tile(np.arange(n), len(told))
        both[:, (COST, MASS, WANDER)] += more[again][:, (COST, MASS, WANDER)]
        both[:, USE] *= ratio[again]
        both[:, LONGEST] = np.maximum(both[:, LONGEST], one.told[again, LONGEST])
        rows = np.column_stack([np.repeat(rows, n, axis=0), again.astype(np.int16)])
        told = both
    return Screened(told, rows)


def shortlist(found: Screened, column: int, limits: np.ndarray, count: int, most_use: float = 1.1) -> np.ndarray:
    """The best combinations by one column that keep within limits (5,), least first; places (k,)."""
    within = (found.told <= limits).all(axis=1)
    good = np.flatnonzero(within & (found.told[:, USE] <= most_use))
    if not len(good):
        # None looks strong enough: those that come nearest.
        column, good = USE, np.flatnonzero(within)
    if not len(good):
        column, good = int(np.argmin((found.told / limits).min(axis=0))), np.arange(len(found.told))
    values = found.told[good, column]
    near = good[np.argpartition(values, min(count, len(good) - 1))[:count]]
    return np.asarray(near[np.argsort(found.told[near, column], kind="stable")])
