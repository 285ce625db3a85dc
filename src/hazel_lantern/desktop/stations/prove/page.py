"""Prove: tests of the built rig, each with its instruments on the drawing, its readings and what they ask for."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.stations.page import Desk, StationPage
from hazel_lantern.desktop.stations.prove.bench import ProveBench
from hazel_lantern.desktop.stations.prove.proving import Proving
from hazel_lantern.desktop.stations.prove.view import ProveView


class Page(StationPage):
    """The drawing and the bars in the centre, the tests on the bench."""

    view: ProveView | None = None

    def __init__(self, key: str, desk: Desk) -> None:
        super().__init__(key, desk)
        self.proving = Proving(desk.session)
        self.proving.said.connect(desk.tell)

    def centre(self) -> QWidget:
        self.proving.refresh()
        self.view = ProveView(self.proving, self.desk.theme)
        return self.view

    def extras(self) -> ProveBench:
        self.proving.refresh()
        return ProveBench(self.proving, self.desk.theme)

    def refreshed(self, result: Evaluation, share: float, show: Display) -> None:
        self.proving.refresh()
        if self.view is not None:
            self.view.refresh()

    def finish(self) -> None:
        self.proving.instruments.finish()
        if self.view is not None:
            self.view.finish()
