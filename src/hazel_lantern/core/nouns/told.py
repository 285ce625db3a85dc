"""What a chapter of the report says: figures, findings and curves."""

from __future__ import annotations

from msgspec import Struct

from hazel_lantern.core.nouns.figure import Curve, Figure, Given
from hazel_lantern.core.nouns.finding import Finding


class Told(Struct, frozen=True):
    """Figures, findings and curves, in the order they are said."""

    figures: tuple[Figure, ...] = ()
    findings: tuple[Finding, ...] = ()
    curves: tuple[Curve, ...] = ()

    def value(self, key: str) -> float:
        """The number of one of the figures [SI]; raises KeyError where it was not said."""
        return {figure.key: figure.value for figure in self.figures}[key]


class Teller:
    """Puts one chapter together, line by line; lives no longer than the function that does so."""

    def __init__(self) -> None:
        self.figures: dict[str, Figure] = {}
        self.curves: dict[str, Curve] = {}
        self.findings: list[Finding] = []

    def add(self, *figures: Figure) -> None:
        self.figures.update((figure.key, figure) for figure in figures)

    def take(self, told: Told) -> None:
        """What a part of the chapter says."""
        self.add(*told.figures)
        self.findings += told.findings
        self.curves.update((curve.key, curve) for curve in told.curves)

    def value(self, key: str) -> float:
        return self.figures[key].value

    def given(self, symbol: str, key: str) -> Given:
        """A figure as an input of another figure's why."""
        figure = self.figures[key]
        return Given(symbol, figure.value, figure.unit, figure.label.lower(), key)

    def told(self) -> Told:
        return Told(tuple(self.figures.values()), tuple(self.findings), tuple(self.curves.values()))
