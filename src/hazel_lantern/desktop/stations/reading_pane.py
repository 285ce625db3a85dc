"""What stands under the stage: the station's reading, and chips to choose between two of them."""

from __future__ import annotations

import numpy as np
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.evaluate import Evaluation
from hazel_lantern.core.figure import Field
from hazel_lantern.core.units import Display
from hazel_lantern.desktop.stations.readings import reading
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.field_plot import FieldPlot
from hazel_lantern.desktop.widgets.plot import Plot

CURVE, MAP = "curve", "map"
CHIPS = ((CURVE, "Out of balance"), (MAP, "Footing"))


class ReadingPane(QWidget):
    """A plot, or a map in its place where the rig's kind has one for the station."""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.wanted = CURVE
        self._last: tuple[str, Evaluation | None, float, Display] | None = None
        self._mapped: tuple[Evaluation, Field] | None = None
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self._chips = QWidget()
        self._chips.setObjectName("reading-chips")
        row = QHBoxLayout(self._chips)
        row.setContentsMargins(12, 6, 12, 0)
        row.setSpacing(6)
        self._buttons: dict[str, QPushButton] = {}
        for key, words in CHIPS:
            chip = QPushButton(words)
            chip.setProperty("chip", True)
            chip.setCheckable(True)
            chip.setObjectName(f"reading.{key}")
            chip.clicked.connect(lambda _=False, key=key: self.choose(key))
            row.addWidget(chip)
            self._buttons[key] = chip
        row.addStretch(1)
        column.addWidget(self._chips)
        self.plot, self.map = Plot(theme), FieldPlot(theme)
        column.addWidget(self.plot, 1)
        column.addWidget(self.map, 1)

    def choose(self, key: str) -> None:
        """Curve or map."""
        self.wanted = key
        if self._last is not None:
            self.show_station(*self._last)

    def show_station(self, station: str, result: Evaluation | None, share: float, show: Display) -> None:
        """The reading of a station at the playhead."""
        self._last = (station, result, share, show)
        built = result if result is not None and result.model is not None else None
        mapped = built is not None and station == "balance" and built.kind.safe is not None
        self._chips.setVisible(mapped)
        for key, chip in self._buttons.items():
            chip.setChecked(key == self.wanted)
        on_map = mapped and self.wanted == MAP
        self.map.setVisible(on_map)
        if on_map and built is not None and built.kind.safe is not None:
            if self._mapped is None or self._mapped[0] is not built:
                self._mapped = (built, built.kind.safe(built.context, built.model))
            pose = built.path(np.array([share]))[0]
            spot = (float(pose[1]), float(built.lens_at(share)[2]))
            self.map.show_field(self._mapped[1], spot, ("pan of the arm, 0° as drawn", "lens height"), show)
            self.plot.show_reading(None, show)
            self.show()
            return
        shown = reading(station, built, share, show) if built is not None else None
        self.plot.show_reading(shown, show)
        self.setVisible(shown is not None)
