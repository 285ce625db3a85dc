"""Rig: the drawing with the curve of the camera's path; under it the sizes that the catalogue holds for the shot."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.stations.page import StationPage
from hazel_lantern.desktop.stations.rig.sizing import Sizing


class Page(StationPage):
    """A line that opens into answers and a chart."""

    sizing: Sizing | None = None

    def below(self) -> QWidget:
        self.sizing = Sizing(self.desk.session, self.desk.theme)
        self.sizing.said.connect(self.desk.tell)
        self.sizing.hurting.picked.connect(self.desk.lead_to)
        return self.sizing

    def refreshed(self, result: Evaluation, share: float, show: Display) -> None:
        if self.sizing is not None:
            self.sizing.refresh()

    def finish(self) -> None:
        if self.sizing is not None:
            self.sizing.finish()
