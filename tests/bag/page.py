"""The page of the station."""

from __future__ import annotations

import numpy as np
from PyQt6.QtWidgets import QLabel, QVBoxLayout

from hazel_lantern.desktop.stations.page import Extras, StationPage
from hazel_lantern.desktop.widgets.plot import Line, Reading


class Contents(Extras):
    """A line with what is carried."""

    def __init__(self, session):
        super().__init__()
        self._session = session
        self.words = QLabel()
        QVBoxLayout(self).addWidget(self.words)
        self.refresh()

    def refresh(self):
        self.words.setText(f"{len(self._session.evaluation.parts)} parts in the bag")


class Page(StationPage):
    acted = 0

    def extras(self):
        return Contents(self.desk.session)

    def reading(self, which, result, share, show):
        lengths = np.array(sorted(part.length for part in result.parts))
        return Reading("Lengths", "count", "m", (Line(np.arange(len(lengths), dtype=float), lengths),))

    def act(self):
        self.acted += 1
        self.desk.tell("Packed.")
        return True
