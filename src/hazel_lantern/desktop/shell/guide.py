"""Finding the way about: what the find field was given, inputs and figures named by a why."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Protocol

from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QApplication

from hazel_lantern.core.nouns.figure import Figure
from hazel_lantern.core.stations import STATIONS
from hazel_lantern.desktop.widgets.found import Found
from hazel_lantern.session.session import Session

REFERENCE = "reference:"
STATION, INPUT, FINDING, ACTION = "station", "input", "finding", "action"


class Places(Protocol):
    """Where one may be led to: the window, as far as a guide knows it."""

    station: str

    def show_station(self, key: str) -> None:
        """Go to a station."""

    def show_input(self, key: str) -> None:
        """Go to where an input is set, and light it up."""

    def show_chapter(self, key: str) -> None:
        """Open the reference at one of its chapters."""

    def show_finding(self, key: str) -> None:
        """Lay a finding open."""

    def show_why(self, figure: Figure) -> None:
        """Where a figure comes from."""

    def tell(self, words: str) -> None:
        """One clear sentence at the foot of the window."""


class Guide:
    """Leads to places of one window."""

    def __init__(self, session: Session, places: Places, by_words: Mapping[str, QAction]) -> None:
        self._session, self._places, self._actions = session, places, by_words

    def go_to(self, words: str) -> None:
        """Carry out, or show, what was typed into the find field:
        what is called just so, else what has it in its name."""
        wanted, rows = words.strip().lower(), self.finds()
        found = next((row for row in rows if row.words.lower() == wanted), None)
        found = found or next((row for row in rows if wanted and wanted in row.words.lower()), None)
        if found is None:
            self._places.tell(f"Nothing here is called “{words}”.")
        else:
            self.take(found.key)

    def take(self, key: str) -> None:
        """Go to one of the rows, or carry it out."""
        sort, _, key = key.partition(":")
        if sort == STATION:
            self._places.show_station(key)
        elif sort == ACTION:
            self._actions[key].trigger()
        elif sort == FINDING:
            self._places.show_finding(key)
        else:
            self.follow(key)

    def follow(self, key: str) -> None:
        """To the place where an input is set, to the why of a figure, or to a chapter of the reference."""
        if key.startswith(REFERENCE):
            self._places.show_chapter(key.removeprefix(REFERENCE))
        elif key in self._session.parameters():
            self._places.show_input(key)
        else:
            figures = self._session.evaluation.figures if self._session.evaluation else {}
            if key in figures:
                self._places.show_station(figures[key].station)
            self.why(key)

    def why(self, key: str) -> None:
        result = self._session.evaluation
        if result and key in result.figures:
            self._places.show_why(result.figures[key])

    def why_focused(self) -> None:
        """The why of the figure that has the focus, or of the station's first."""
        focus = QApplication.focusWidget()
        name = focus.objectName() if focus else ""
        key = name.removeprefix("figure.")
        figures = self._session.evaluation.figures if self._session.evaluation else {}
        self.why(
            key if key in figures else next((f.key for f in figures.values() if f.station == self._places.station), "")
        )

    def finds(self) -> list[Found]:
        """All that the find field knows."""
        session, show = self._session, self._session.display
        result = session.evaluation
        rows = [Found(one.name, "station", "", "", f"{STATION}:{one.key}") for one in STATIONS]
        names = {one.key: one.name for one in STATIONS}
        if result:
            for parameter in session.parameters().values():
                value = session.words(parameter, session.value(parameter.key)).removeprefix("to ")
                rows.append(
                    Found(parameter.label, "input", names[parameter.station], value, f"{INPUT}:{parameter.key}")
                )
            for figure in result.figures.values():
                value = show.text(figure.value, figure.unit)
                rows.append(Found(figure.label, "figure", names[figure.station], value, f"{INPUT}:{figure.key}"))
            for finding in result.findings:
                rows.append(Found(finding.title, finding.state, names[finding.station], "", f"{FINDING}:{finding.key}"))
        rows += [
            Found(words, "action", "", action.shortcut().toString(), f"{ACTION}:{words}")
            for words, action in self._actions.items()
        ]
        return rows
