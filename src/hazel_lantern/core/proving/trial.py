"""One test of a built rig: what is done, what is read, what was foreseen, and what its readings say."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping

import numpy as np
from msgspec import Struct

from hazel_lantern.core.kinds.foreseen import Foreseen
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.finding import CLEAR, WATCH
from hazel_lantern.core.nouns.quantity import Quantity, Value
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.proving.repeats import SURE, Mean, t_of

TWICE, HALF = 2.0, 0.5  # of the model, beyond which a reading corrects nothing
# The order in which a rig is put right: what comes first changes what comes after.
GAUGE, FRICTION, STIFFNESS, BALANCE, DRIVE = "gauge", "friction", "stiffness", "balance", "drive"
ORDER = (GAUGE, FRICTION, STIFFNESS, BALANCE, DRIVE)
BEFORE_FIRST, BEFORE_EACH = "before it first carries a camera, once a year, and after a change", "before each use"


class Field(Struct, frozen=True):
    """One reading of a row: its quantity, how far off its instrument usually is either way in 95 of 100 cases, and
    whether it is the same for all rows, such as what a scale reads empty.
    """

    quantity: Quantity
    give: float = 0.0
    kept: bool = False


def field(
    key: str,
    label: str,
    unit: str,
    low: float,
    high: float,
    usual: float = 0.0,
    give: float = 0.0,
    *,
    kept: bool = False,
) -> Field:
    """A reading within bounds."""
    return Field(Quantity(key, label, unit, low, high, usual, "", "", "prove"), give, kept)


class Estimate(Struct, frozen=True):
    """What a test measured of an input: the input's key, its value, and how far it may be off in 95 of 100 cases."""

    key: str
    value: float
    give: float


class Outcome(Struct, frozen=True):
    """What a test says: its value with how far it may be off either way in 95 of 100 cases; a state and
    words; what it measured of the drawing's inputs; changes that mend the rig itself rather than its drawing, with what
    they are called, and whether what was read before is `spent` once that is done.
    """

    value: float
    give: float
    state: str
    words: Words
    measured: tuple[Estimate, ...] = ()
    changes: tuple[tuple[str, Value], ...] = ()
    mend: Words | None = None
    spent: bool = False


class Reads(Struct, frozen=True):
    """What a test's reading may use: the forecasts of its rig, its own first, and the inputs as they are drawn."""

    own: Foreseen
    all: Mapping[str, Foreseen]
    design: Mapping[str, Value]

    def number(self, key: str) -> float:
        return float(self.design[key])  # type: ignore[arg-type]


class Trial(Struct, frozen=True):
    """One test: its key and name, and the unit of what it says; where it stands in the order of corrections, "" for
    none; what to do; the instruments and where each is held; the fields of a row, how many rows at the least; and what
    the rows say.

    `once` where one test may correct; else two must agree. `foreseen` names the forecast it is judged by, its own key
    where that is "". `due` says when it is done again; `days` after how many it is due.
    """

    key: str
    name: str
    unit: str
    rank: str
    does: str
    instruments: tuple[str, ...]
    fields: tuple[Field, ...]
    fewest: int
    reads: Callable[[np.ndarray, Reads], Outcome]
    once: bool = False
    due: str = ""
    days: int = 0

    def outcome(self, rows: tuple[tuple[float, ...], ...], reads: Reads) -> Outcome:
        """What rows of readings say of a rig. Raises InputError for too few, or for impossible ones; InfeasibleError
        for those that contradict one another.
        """
        for row in rows:
            self.check(row)
        if len(rows) < self.fewest:
            more = self.fewest - len(rows)
            raise InputError(self.key, len(rows), f"{self.fewest} rows at the least; {more} more")
        return self.reads(np.array(rows, float), reads)

    def check(self, row: tuple[float, ...]) -> None:
        """Raises InputError for a row that is none of this test's."""
        if len(row) != len(self.fields):
            raise InputError(self.key, len(row), f"{len(self.fields)} readings in a row")
        for one, value in zip(self.fields, row, strict=True):
            one.quantity.check(value)


def judged(value: float, give: float, own: Foreseen) -> str:
    """Clear where what was foreseen lies within what it could be."""
    return CLEAR if value + give >= own.low and value - give <= own.high else WATCH


def at_least(found: Mean, give: float) -> float:
    """How far a mean may be off: by its spread, and never less than its instrument allows."""
    return max(found.half_width, give)


def alone(give: float) -> Mean:
    """Nothing but what the instrument allows, where there is one reading."""
    return Mean(0.0, 0.0, give, 0.0)


def corrected(own: Foreseen, value: float, give: float, reads: Reads) -> tuple[Estimate, ...]:
    """What a value measures of the input that its forecast corrects: as much more as it is over what was drawn.

    Raises InfeasibleError BEYOND_REASON outside half to twice.
    """
    if not own.corrects or own.middle == 0:
        return ()
    ratio = value / own.middle
    if not HALF <= ratio <= TWICE:
        raise InfeasibleError(
            f"it comes out {ratio:.2f} times what was foreseen: beyond half to twice it corrects nothing; measure "
            "again",
            "BEYOND_REASON",
        )
    now = reads.number(own.corrects)
    return (Estimate(own.corrects, now * ratio, abs(now * give / own.middle)),)


def stiffened(own: Foreseen, stiffer: float, give: float, reads: Reads) -> tuple[Estimate, ...]:
    """What a sag or a bounce measures of the input that its forecast corrects, from how many times stiffer all of it is
    and how far that may be off: only a part of what gives is due to it.

    Raises InfeasibleError BEYOND_REASON where it would have to be stiffer or softer than half to twice.
    """
    if not own.corrects:
        return ()
    rest = 1 / stiffer - (1 - own.due)
    times = own.due / rest if rest > 0 else math.inf
    if not HALF <= times <= TWICE:
        raise InfeasibleError(
            f"it comes out {times:.2f} times as stiff as foreseen: beyond half to twice it corrects nothing; measure "
            "again",
            "BEYOND_REASON",
        )
    now = reads.number(own.corrects)
    return (Estimate(own.corrects, now * times, now * times * give / stiffer**2 / rest),)


def line(rows: np.ndarray, values: np.ndarray, step: float = 0.0) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Least squares: what fits (p,), how far each may be off in 95 of 100 cases (p,), what is left over (n,). A scale's
    step adds its own doubt.
    """
    found = np.linalg.lstsq(rows, values, rcond=None)[0]
    left = values - rows @ found
    freedom = len(values) - rows.shape[1]
    if freedom < 1:
        return found, np.full(rows.shape[1], math.inf), left
    spread = float((left**2).sum()) / freedom + step**2 / 12
    return found, np.sqrt(np.diag(np.linalg.inv(rows.T @ rows)) * spread) * t_of((1 + SURE) / 2, freedom), left
