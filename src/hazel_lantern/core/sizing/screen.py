"""A great many combinations judged at once, each from what its pieces do one by one."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.errors import InputError

MOST = 2_000_000  # combinations looked at
COST, MASS, WANDER, USE, LONGEST, STOPS = COLUMNS = tuple(range(6))  # of what is told of each


class Effects(Struct, frozen=True):
    """What each row of one choice does to a rig, the others left as they are: rows (n, 6) of cost, mass [kg], wander of
    the picture in the unit of its figure, most of what is judged of what it may be [-], longest piece [m], stops.
    """

    told: np.ndarray


class Screened(Struct, frozen=True):
    """Estimates (m, 6) of all combinations and the row of every choice in each (m, choices)."""

    told: np.ndarray
    rows: np.ndarray


def screened(base: np.ndarray, effects: Sequence[Effects]) -> Screened:
    """Every combination of the rows of some choices.

    base: of the rig as it is (6,)
    effects: of each choice's rows

    Returns: estimates: costs, masses, wander and stops add up, what is judged multiplies, the longest piece is the
    longest of all. Raises: InputError for more combinations than are looked at. Source: each row was worked out exactly
    by itself; the best combinations are worked out again.
    """
    counts = [len(one.told) for one in effects]
    total = int(np.prod([1, *counts], dtype=float))
    if total > MOST:
        raise InputError("choices", total, f"combinations: at most {MOST}")
    told = np.asarray(base, float).reshape(1, 6).copy()
    rows = np.zeros((1, 0), np.int16)
    for one in effects:
        n, more = len(one.told), one.told - base
        both = np.repeat(told, n, axis=0)
        ratio = one.told[:, USE] / max(float(base[USE]), 1e-9)
        again = np.tile(np.arange(n), len(told))
        both[:, (COST, MASS, WANDER, STOPS)] += more[again][:, (COST, MASS, WANDER, STOPS)]
        both[:, USE] *= ratio[again]
        both[:, LONGEST] = np.maximum(both[:, LONGEST], one.told[again, LONGEST])
        rows = np.column_stack([np.repeat(rows, n, axis=0), again.astype(np.int16)])
        told = both
    return Screened(told, rows)


def shortlist(
    found: Screened, column: int, limits: np.ndarray, count: int, of: np.ndarray | None = None, most_use: float = 1.1
) -> np.ndarray:
    """The best combinations by one column that keep within limits (6,), least first; places (k,). `of` says which are
    looked at (m,), all where it is not given.
    """
    asked = np.ones(len(found.told), bool) if of is None else of
    within = asked & (found.told[:, :STOPS] <= limits[:STOPS]).all(axis=1)
    fine = within & (found.told[:, USE] <= most_use)
    good = np.flatnonzero(fine & (found.told[:, STOPS] <= limits[STOPS]))
    good = good if len(good) else np.flatnonzero(fine)
    if not len(good):
        # None looks strong enough: those that come nearest.
        column, good = USE, np.flatnonzero(within)
    values = found.told[:, column]
    if not len(good):
        # None keeps within the limits: those that go least beyond the one they break most.
        values, good = (found.told[:, :STOPS] / limits[:STOPS]).max(axis=1), np.flatnonzero(asked)
    if not len(good):
        return good
    near = good[np.argpartition(values[good], min(count, len(good) - 1))[:count]]
    return np.asarray(near[np.argsort(values[near], kind="stable")])
