"""The four lanterns, drawn on a 24 px grid: lit, half-lit, crossed, empty. Shape first, colour second."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPen
from PyQt6.QtWidgets import QWidget

from hazel_lantern.core.nouns.finding import CLEAR, STOP, WATCH
from hazel_lantern.desktop.theme.theme import Theme

NAMES = {CLEAR: "clear", WATCH: "watch", STOP: "stop", None: "not worked on yet"}
ROLES = {CLEAR: "clear", WATCH: "watch", STOP: "stop", None: "muted"}


def paint_lantern(painter: QPainter, box: QRectF, state: str | None, theme: Theme, role: str = "") -> None:
    """One lantern in a square box."""
    color = theme.color(role or ROLES[state])
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.translate(box.topLeft())
    painter.scale(box.width() / 24, box.height() / 24)
    painter.setPen(QPen(color, 1.7, cap=Qt.PenCapStyle.RoundCap))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    bail = QPainterPath(QPointF(8.2, 7.2))
    bail.cubicTo(8.2, 0.8, 15.8, 0.8, 15.8, 7.2)
    painter.drawPath(bail)
    painter.drawRoundedRect(QRectF(6.2, 8.0, 11.6, 14.0), 3.0, 3.0)
    painter.drawLine(QPointF(7.6, 5.9), QPointF(16.4, 5.9))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(color)
    if state == CLEAR:
        painter.drawPath(_flame())
    elif state == WATCH:
        painter.setClipRect(QRectF(12, 0, 12, 24))
        painter.drawPath(_flame())
        painter.setClipping(False)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(color, 1.3))
        painter.drawPath(_flame())
    elif state == STOP:
        painter.setPen(QPen(color, 2.0, cap=Qt.PenCapStyle.RoundCap))
        painter.drawLine(QPointF(9.2, 11.8), QPointF(14.8, 18.2))
        painter.drawLine(QPointF(14.8, 11.8), QPointF(9.2, 18.2))
    painter.restore()


def _flame() -> QPainterPath:
    path = QPainterPath(QPointF(12, 10.2))
    path.cubicTo(15.6, 14.2, 15.4, 18.8, 12, 18.8)
    path.cubicTo(8.6, 18.8, 8.4, 14.2, 12, 10.2)
    return path


class Lantern(QWidget):
    """A lantern on its own."""

    def __init__(
        self, theme: Theme, state: str | None = None, size: int = 18, role: str = "", parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self._theme, self._state, self._role = theme, state, role
        self.setFixedSize(theme.px(size), theme.px(size))
        self.show_state(state)

    def show_state(self, state: str | None) -> None:
        self._state = state
        self.setAccessibleName(NAMES[state])
        self.update()

    def paintEvent(self, event: object) -> None:
        painter = QPainter(self)
        paint_lantern(painter, QRectF(self.rect()), self._state, self._theme, self._role)
