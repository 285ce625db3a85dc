"""Prove: tests of the built rig in the whole centre."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.stations.page import StationPage
from hazel_lantern.desktop.stations.prove.view import ProveView, Tests


class Page(StationPage):
    """Tests, readings, what they mean."""

    view: ProveView | None = None

    def centre(self) -> QWidget:
        self.view = ProveView(self.desk.session, self.desk.theme)
        self.view.said.connect(self.desk.tell)
        return self.view

    def extras(self) -> Tests | None:
        return Tests(self.view, self.desk.theme) if self.view is not None else None

    def reading(self, which: str, result: Evaluation, share: float, show: Display) -> None:
        return None

    def refreshed(self, result: Evaluation, share: float, show: Display) -> None:
        if self.view is not None:
            self.view.refresh()
