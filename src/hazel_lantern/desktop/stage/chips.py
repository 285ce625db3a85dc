"""The row of chips over the stage: which view is shown, and which layers of its drawing."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QSignalBlocker, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from hazel_lantern.core.nouns.sketch import GHOST, LOADS, SIZES, SWEEP

LAYERS = ((SIZES, "sizes"), (SWEEP, "sweep"), (LOADS, "loads"), (GHOST, "ghosts"))


class Chips(QWidget):
    """Views in front, layers behind; those that do not fit are left out."""

    view_chosen = pyqtSignal(str)
    layer_turned = pyqtSignal(str, bool)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(12, 9, 12, 0)
        self._row.setSpacing(6)
        self._views: dict[str, QPushButton] = {}
        self._toggles: dict[str, QPushButton] = {}
        self._layered = True  # whether the drawing has layers to choose from
        for layer, name in LAYERS:
            chip = self._chip(name)
            chip.toggled.connect(lambda on, layer=layer: self.layer_turned.emit(layer, on))
            self._toggles[layer] = chip
            self._row.addWidget(chip)
        self._row.addStretch(1)

    def _chip(self, name: str) -> QPushButton:
        chip = QPushButton(name)
        chip.setProperty("chip", True)
        chip.setCheckable(True)
        return chip

    def offer_views(self, views: Sequence[tuple[str, str]], now: str, *, layered: bool) -> None:
        """The views of this rig kind, in front of the layers; some drawings have none of those."""
        if self._layered != layered:
            self._layered = layered
            self.fit()
        if list(self._views) != [key for key, _ in views]:
            for old in self._views.values():
                self._row.removeWidget(old)
                old.hide()
                old.deleteLater()
            self._views = {}
            for index, (key, name) in enumerate(views):
                chip = self._chip(name)
                chip.clicked.connect(lambda _=False, key=key: self.view_chosen.emit(key))
                self._views[key] = chip
                self._row.insertWidget(index, chip)
            self.fit()
        for key, chip in self._views.items():
            chip.setChecked(key == now)

    def show_layers(self, layers: set[str]) -> None:
        """Which layers are on, without telling anybody."""
        for layer, chip in self._toggles.items():
            with QSignalBlocker(chip):
                chip.setChecked(layer in layers)

    def fit(self) -> None:
        """Where the chips do not fit, layers leave theirs, then views from the last; keys and menu still turn them."""
        room = self.width() - 2 * self._row.contentsMargins().left()
        for chip in (*self._views.values(), *self._toggles.values()):
            chip.ensurePolished()
            room -= chip.sizeHint().width() + self._row.spacing()
            wanted = self._layered or chip in self._views.values()
            chip.setVisible(wanted and (room >= 0 or (chip.isChecked() and chip in self._views.values())))
