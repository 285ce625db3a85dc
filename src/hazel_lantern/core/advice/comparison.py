"""Two rigs side by side: figures and findings that either has, and where they differ."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.nouns.figure import Figure
from hazel_lantern.core.stations import STATIONS


class Pair(Struct, frozen=True):
    """A figure of both rigs; None where one does not have it."""

    label: str
    station: str
    one: Figure | None
    other: Figure | None

    @property
    def differs(self) -> bool:
        if self.one is None or self.other is None:
            return True
        return not math.isclose(self.one.value, self.other.value, rel_tol=1e-6, abs_tol=1e-12)


class Verdicts(Struct, frozen=True):
    """The state of one finding in both rigs; None where it does not arise."""

    title: str
    station: str
    one: str | None
    other: str | None

    @property
    def differs(self) -> bool:
        return self.one != self.other


def figures(one: Evaluation, other: Evaluation) -> tuple[Pair, ...]:
    """Figures that either rig has, station by station in working order."""
    keys = list(dict.fromkeys([*one.figures, *other.figures]))
    rows = []
    for key in keys:
        a, b = one.figures.get(key), other.figures.get(key)
        shown = a or b
        assert shown is not None
        rows.append(Pair(shown.label, shown.station, a, b))
    order = [station.key for station in STATIONS]
    return tuple(sorted(rows, key=lambda row: order.index(row.station)))


def findings(one: Evaluation, other: Evaluation) -> tuple[Verdicts, ...]:
    """Findings that either rig has, those that differ first."""
    a, b = ({f.key: f for f in e.findings} for e in (one, other))
    rows = [
        Verdicts(
            (a.get(key) or b[key]).title,
            (a.get(key) or b[key]).station,
            a[key].state if key in a else None,
            b[key].state if key in b else None,
        )
        for key in dict.fromkeys([*a, *b])
    ]
    return tuple(sorted(rows, key=lambda row: not row.differs))
