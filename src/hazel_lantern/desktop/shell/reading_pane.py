"""What stands under the stage: the station's reading, and chips to choose between several."""

from __future__ import annotations

from PyQt6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.stations.page import MapReading, StationPage
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.field_plot import FieldPlot
from hazel_lantern.desktop.widgets.flow import Flow
from hazel_lantern.desktop.widgets.plot import Plot
from hazel_lantern.session.session import Session


class ReadingPane(QWidget):
    """A plot, or a map in its place."""

    def __init__(self, theme: Theme, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.wanted = ""
        self._last: tuple[StationPage, Evaluation | None, float, Display] | None = None
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self._chips = QWidget()
        self._chips.setObjectName("reading-chips")
        self._row = Flow(self._chips, 6)
        self._row.setContentsMargins(12, 6, 12, 0)
        self._buttons: dict[str, QPushButton] = {}
        column.addWidget(self._chips)
        self.plot, self.map = Plot(theme, session=session), FieldPlot(theme)
        column.addWidget(self.plot, 1)
        column.addWidget(self.map, 1)

    def choose(self, key: str) -> None:
        """Another of the readings offered."""
        self.wanted = key
        if self._last is not None:
            self.show_page(*self._last)

    def show_page(self, page: StationPage, result: Evaluation | None, share: float, show: Display) -> None:
        """The reading of a station at the playhead; none of a rig that cannot be built."""
        self._last = (page, result, share, show)
        built = result if result is not None and result.model is not None else None
        self._offer(page.chips(built) if built is not None else ())
        shown = page.reading(self.wanted, built, share, show) if built is not None else None
        on_map = isinstance(shown, MapReading)
        self.map.setVisible(on_map)
        if isinstance(shown, MapReading):
            self.map.show_field(shown.field, shown.spot, shown.axes, show)
            self.plot.show_reading(None, show)
        else:
            self.plot.show_reading(shown, show)
        self.setVisible(shown is not None)

    def _offer(self, chips: tuple[tuple[str, str], ...]) -> None:
        """Chips for the readings there are; the first is shown until another is chosen."""
        if [(key, chip.text()) for key, chip in self._buttons.items()] != list(chips):
            for old in self._buttons.values():
                old.hide()
                old.setParent(None)
                old.deleteLater()
            self._buttons = {}
            for key, words in chips:
                chip = QPushButton(words)
                chip.setProperty("chip", True)
                chip.setCheckable(True)
                chip.setObjectName(f"reading.{key}")
                chip.clicked.connect(lambda _=False, key=key: self.choose(key))
                self._row.addWidget(chip)
                self._buttons[key] = chip
        now = self.wanted if self.wanted in self._buttons else next(iter(self._buttons), "")
        for key, chip in self._buttons.items():
            chip.setChecked(key == now)
        self._chips.setVisible(bool(chips))
