"""What scrolls up and down where there is no room for all of it."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject, QSize, Qt
from PyQt6.QtWidgets import QFrame, QScrollArea, QSizePolicy, QWidget


class Scroll(QScrollArea):
    """As high as what it holds where there is room, down to `least` [px]."""

    def __init__(self, held: QWidget, least: int) -> None:
        super().__init__()
        self._least = least
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setWidgetResizable(True)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Maximum)
        self.setWidget(held)
        held.installEventFilter(self)

    def sizeHint(self) -> QSize:
        held = self.widget()
        tall = held.heightForWidth(self.viewport().width()) if held.hasHeightForWidth() else held.sizeHint().height()
        return QSize(held.sizeHint().width(), max(tall, held.minimumSizeHint().height(), held.minimumHeight()))

    def minimumSizeHint(self) -> QSize:
        return QSize(0, min(self._least, self.sizeHint().height()))

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is not None and event.type() == QEvent.Type.LayoutRequest:
            self.updateGeometry()
        return super().eventFilter(watched, event)
