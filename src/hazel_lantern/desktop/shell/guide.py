"""Finding the way about: what the find field was given, inputs and figures named by a why."""

from __future__ import annotations

from PyQt6.QtWidgets import QApplication

from hazel_lantern.core.stations import STATIONS
from hazel_lantern.desktop.shell import actions
from hazel_lantern.desktop.shell.frame import Frame


class Guide:
    """Leads to places on behalf of one window."""

    def __init__(self, window: Frame) -> None:
        self._window = window

    def go_to(self, words: str) -> None:
        """Carry out, or show, what the find field was given."""
        wanted = words.strip().lower()
        result = self._window.session.evaluation
        for station in STATIONS:
            if station.name.lower() == wanted:
                self._window.show_station(station.key)
                return
        action = next((a for row in actions.ROWS if row.words.lower() == wanted for a in [self._window.actions_by_name[row.words]]), None)
        if action is not None:
            action.trigger()
            return
        for parameter in self._window.session.parameters().values():
            if parameter.label.lower() == wanted:
                self.follow(parameter.key)
                return
        for figure in result.figures.values() if result else ():
            if figure.label.lower() == wanted:
                self._window.show_station(figure.station)
                self.why(figure.key)
                return
        for finding in result.findings if result else ():
            if finding.title.lower() == wanted:
                self._window.show_station(finding.station)
                return
        self._window.tell(f"Nothing here is called “{words}”.")

    def follow(self, key: str) -> None:
        """To the place where an input is set, or to the why of a figure."""
        parameter = self._window.session.parameters().get(key)
        if parameter is not None:
            self._window.why_panel.shut()
            if parameter.station != self._window.station:
                self._window.show_station(parameter.station)
            self._window.bench.reveal(key)
            self._window.stage.light(key)
        elif self._window.session.evaluation and key in self._window.session.evaluation.figures:
            self.why(key)

    def why(self, key: str) -> None:
        result = self._window.session.evaluation
        if result and key in result.figures:
            self._window.why_panel.open(result.figures[key])

    def why_focused(self) -> None:
        """The why of the figure that has the focus, or of the station's first."""
        focus = QApplication.focusWidget()
        name = focus.objectName() if focus else ""
        key = name.removeprefix("figure.")
        figures = self._window.session.evaluation.figures if self._window.session.evaluation else {}
        self.why(key if key in figures else next((f.key for f in figures.values() if f.station == self._window.station), ""))

    def offer_finds(self) -> None:
        result = self._window.session.evaluation
        words = [station.name for station in STATIONS] + [row.words for row in actions.ROWS]
        if result:
            words += [f.label for f in result.figures.values()] + [f.title for f in result.findings] + [p.label for p in self._window.session.parameters().values()]
        self._window.top.offer(list(dict.fromkeys(words)))
