"""Finding the way about: what the find field was given, inputs and figures named by a why."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Protocol

from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QApplication

from hazel_lantern.core.nouns.figure import Figure
from hazel_lantern.core.stations import STATIONS
from hazel_lantern.session.session import Session


class Places(Protocol):
    """Where one may be led to: the window, as far as a guide knows it."""

    station: str

    def show_station(self, key: str) -> None:
        """Go to a station."""

    def show_input(self, key: str) -> None:
        """Go to where an input is set, and light it up."""

    def show_why(self, figure: Figure) -> None:
        """Where a figure comes from."""

    def tell(self, words: str) -> None:
        """One clear sentence at the foot of the window."""


class Guide:
    """Leads to places of one window."""

    def __init__(self, session: Session, places: Places, by_words: Mapping[str, QAction]) -> None:
        self._session, self._places, self._actions = session, places, by_words

    def go_to(self, words: str) -> None:
        """Carry out, or show, what the find field was given."""
        wanted = words.strip().lower()
        result = self._session.evaluation
        for station in STATIONS:
            if station.name.lower() == wanted:
                self._places.show_station(station.key)
                return
        action = next((action for words, action in self._actions.items() if words.lower() == wanted), None)
        if action is not None:
            action.trigger()
            return
        for parameter in self._session.parameters().values():
            if parameter.label.lower() == wanted:
                self.follow(parameter.key)
                return
        for figure in result.figures.values() if result else ():
            if figure.label.lower() == wanted:
                self._places.show_station(figure.station)
                self.why(figure.key)
                return
        for finding in result.findings if result else ():
            if finding.title.lower() == wanted:
                self._places.show_station(finding.station)
                return
        self._places.tell(f"Nothing here is called “{words}”.")

    def follow(self, key: str) -> None:
        """To the place where an input is set, or to the why of a figure."""
        if key in self._session.parameters():
            self._places.show_input(key)
        else:
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

    def finds(self) -> list[str]:
        """All that the find field knows, each once."""
        result = self._session.evaluation
        words = [station.name for station in STATIONS] + list(self._actions)
        if result:
            words += [f.label for f in result.figures.values()] + [f.title for f in result.findings]
            words += [p.label for p in self._session.parameters().values()]
        return list(dict.fromkeys(words))
