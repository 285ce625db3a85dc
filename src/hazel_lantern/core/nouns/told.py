"""What a chapter of the report says: figures, findings and curves."""

from __future__ import annotations

from msgspec import Struct

from hazel_lantern.core.nouns.figure import Curve, Figure, Given
from hazel_lantern.core.nouns.finding import CLEAR, Finding, Remedy, judge
from hazel_lantern.core.nouns.words import Words


class Told(Struct, frozen=True):
    """Figures, findings and curves, in the order they are said."""

    figures: tuple[Figure, ...] = ()
    findings: tuple[Finding, ...] = ()
    curves: tuple[Curve, ...] = ()

    def value(self, key: str) -> float:
        """The number of one of the figures [SI]; raises KeyError where it was not said."""
        return {figure.key: figure.value for figure in self.figures}[key]

    def number(self, key: str) -> float:
        """Likewise, 0 where it was not said."""
        return {figure.key: figure.value for figure in self.figures}.get(key, 0.0)


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

    def hold(
        self,
        figure: str,
        key: str,
        title: str,
        about: str,
        where: str,
        sentence: str | Words,
        *,
        at_most: float | None = None,
        at_least: float | None = None,
        watch_at: float = 0.8,
        value: float | None = None,
        state: str = "",
        remedies: tuple[Remedy, ...] = (),
    ) -> None:
        """Hold one of the figures against its limit [unit of the figure], one of `at_most` and `at_least`.

        A sentence in plain text names value and limit as its first and second {}; remedies are dropped where all is
        clear. value: what is held where that is not the figure as it stands (it is the limit, or has a sign); state:
        what to say instead of `judge`.
        """
        shown = self.figures[figure]
        sense, limit = ("at_most", at_most) if at_least is None else ("at_least", at_least)
        assert limit is not None
        value = shown.value if value is None else value
        said = state or judge(value, limit, sense, about, watch_at=watch_at)
        if isinstance(sentence, str):
            sentence = Words(sentence, ((value, shown.unit), (limit, shown.unit)))
        mend = remedies if said != CLEAR else ()
        self.findings.append(
            Finding(key, title, about, said, where, sentence, value, limit, sense, shown.unit, mend, figure=figure)
        )

    def told(self) -> Told:
        return Told(tuple(self.figures.values()), tuple(self.findings), tuple(self.curves.values()))
