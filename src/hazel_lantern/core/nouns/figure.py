"""A figure: a named number with its unit and its why."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.nouns.words import Words


class Given(Struct, frozen=True):
    """One input of a why: its symbol, value in SI, plain words, the parameter or figure it comes from, and where a
    measured one comes from.
    """

    symbol: str
    value: float
    unit: str
    label: str
    ref: str = ""
    measured: Words | None = None

    def named(self, show: Display) -> str:
        """Its words, with where it was measured."""
        return f"{self.label}, {self.measured.text(show)}" if self.measured else self.label


class Why(Struct, frozen=True):
    """Where a figure comes from: a formula over inputs, or a named method with its residual."""

    inputs: tuple[Given, ...]
    formula: Formula | None = None
    method: str = ""
    residual: float | None = None
    assumptions: tuple[str, ...] = ()
    valid: str = ""
    source: str = ""

    def recompute(self) -> float:
        """The formula's value from its inputs [SI]."""
        assert self.formula is not None
        return self.formula.value({given.symbol: given.value for given in self.inputs})


class Figure(Struct, frozen=True):
    """A computed number in SI; the first word of its key is the station that shows it."""

    key: str
    label: str
    value: float
    unit: str
    why: Why
    headline: bool = False

    @property
    def station(self) -> str:
        return self.key.partition(".")[0]


class Curve(Struct, frozen=True):
    """A computed line: `x`, `y` arrays (n,) in SI; one over something that the builder sets says what it is `over`,
    where that stands `now`, from where to where it is `safe`, what it is before and beyond, and the input it `sets`.
    """

    key: str
    label: str
    x: np.ndarray
    y: np.ndarray
    x_unit: str
    y_unit: str
    over: str = ""
    now: float = 0.0
    safe: tuple[float, float] = (-math.inf, math.inf)
    outside: tuple[str, str] = ("", "refused")
    sets: str = ""


class Field(Struct, frozen=True):
    """A computed map: how much of a limit is used, `use` (rows of y, columns of x), 1 at the limit; axes `x` (n,),
    `y` (m,) in SI; what the three sorts of places are called, and whether the worst of them stops the rig.
    """

    key: str
    label: str
    x: np.ndarray
    y: np.ndarray
    use: np.ndarray
    x_unit: str
    y_unit: str
    sorts: tuple[str, str, str] = ("stands", "little to spare", "tips")
    stops: bool = True


def by_formula(
    key: str,
    label: str,
    unit: str,
    formula: Formula,
    inputs: tuple[Given, ...],
    *,
    assumptions: tuple[str, ...] = (),
    valid: str = "",
    source: str = "",
    headline: bool = False,
) -> Figure:
    """A figure whose value is what its formula gives."""
    why = Why(inputs, formula, assumptions=assumptions, valid=valid, source=source)
    return Figure(key, label, why.recompute(), unit, why, headline)


def by_method(
    key: str,
    label: str,
    value: float,
    unit: str,
    method: str,
    inputs: tuple[Given, ...],
    *,
    residual: float | None = None,
    assumptions: tuple[str, ...] = (),
    valid: str = "",
    source: str = "",
    headline: bool = False,
) -> Figure:
    """A figure found by a search or a solver, which names its method and what is left over."""
    why = Why(inputs, None, method, residual, assumptions, valid, source)
    return Figure(key, label, float(value), unit, why, headline)
