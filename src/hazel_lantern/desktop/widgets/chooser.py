"""A list to choose one of."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPolygonF, QWheelEvent
from PyQt6.QtWidgets import QComboBox, QWidget

from hazel_lantern.desktop.theme.theme import Theme

WIDEST = 270  # px of its words when it is open


class Chooser(QComboBox):
    """Shows by an arrow that it opens, opens as wide as its words, and is turned by the wheel only when it has the
    focus.
    """

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self.opens: Callable[[], None] | None = None  # what is shown in place of a plain list
        # As wide as there is room, however long the words in it.
        self.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.setMinimumContentsLength(8)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        painter, px = QPainter(self), self._theme.px
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("lantern" if self.hasFocus() else "muted"))
        x, y = self.width() - px(13), self.height() / 2
        painter.drawPolygon(
            QPolygonF([QPointF(x - px(4), y - px(2)), QPointF(x + px(4), y - px(2)), QPointF(x, y + px(3))])
        )

    def showPopup(self) -> None:
        if self.opens is not None:
            self.opens()
            return
        # Here and not before: a list that nobody opens needs no view.
        self.view().setMinimumWidth(self._theme.px(WIDEST))
        super().showPopup()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if self.hasFocus():
            super().wheelEvent(event)
        else:
            event.ignore()
