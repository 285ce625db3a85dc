"""Rigs, or the shots of one rig, side by side: figures and findings that any has, and where they differ."""

from __future__ import annotations

import math
from collections.abc import Sequence

from msgspec import Struct

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.nouns.figure import Figure
from hazel_lantern.core.stations import STATIONS


class Row(Struct, frozen=True):
    """A figure of each; None where one does not have it."""

    label: str
    station: str
    each: tuple[Figure | None, ...]

    @property
    def differs(self) -> bool:
        first = self.each[0]
        return any(
            one is None or first is None or not math.isclose(one.value, first.value, rel_tol=1e-6, abs_tol=1e-12)
            for one in self.each
        )


class Verdicts(Struct, frozen=True):
    """The state of one finding in each; None where it does not arise."""

    title: str
    station: str
    each: tuple[str | None, ...]

    @property
    def differs(self) -> bool:
        return len(set(self.each)) > 1


def figures(those: Sequence[Evaluation]) -> tuple[Row, ...]:
    """Figures that any of them has, station by station in working order."""
    rows = []
    for key in dict.fromkeys(key for one in those for key in one.figures):
        each = tuple(one.figures.get(key) for one in those)
        shown = next(figure for figure in each if figure is not None)
        rows.append(Row(shown.label, shown.station, each))
    order = [station.key for station in STATIONS]
    return tuple(sorted(rows, key=lambda row: order.index(row.station)))


def findings(those: Sequence[Evaluation]) -> tuple[Verdicts, ...]:
    """Findings that any of them has, those that differ first."""
    known = [{finding.key: finding for finding in one.findings} for one in those]
    rows = []
    for key in dict.fromkeys(key for one in known for key in one):
        shown = next(one[key] for one in known if key in one)
        states = tuple(one[key].state if key in one else None for one in known)
        rows.append(Verdicts(shown.title, shown.station, states))
    return tuple(sorted(rows, key=lambda row: not row.differs))
