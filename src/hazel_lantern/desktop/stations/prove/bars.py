"""Predicted against measured: a bar for where each test was predicted, a dot with its give or take for what was read."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.proving.trials import Told
from hazel_lantern.desktop.theme.theme import Theme

ROW, NAME, VALUE = 34, 190, 170  # px at 100 %


class Bars(QWidget):
    """One row for every test with an outcome; pressing it picks the test."""

    picked = pyqtSignal(str)

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme, self._show = theme, Display()
        self._told: tuple[Told, ...] = ()
        self._at = ""
        self.setObjectName("prove.bars")
        self.setAccessibleName("Predicted against measured")

    def show_told(self, told: tuple[Told, ...], at: str, show: Display) -> None:
        self._told, self._at, self._show = tuple(one for one in told if one.outcome is not None), at, show
        self.setFixedHeight(self._theme.px(ROW) * max(1, len(self._told)) + self._theme.px(6))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme, px = QPainter(self), self._theme, self._theme.px
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(12.5))
        if not self._told:
            painter.setPen(theme.color("muted"))
            painter.drawText(
                self.rect(),
                Qt.AlignmentFlag.AlignVCenter,
                "Nothing was measured yet: pick a test and type its readings.",
            )
            return
        for n, one in enumerate(self._told):
            self._row(painter, one, QRectF(0, n * px(ROW), self.width(), px(ROW)))

    def _row(self, painter: QPainter, one: Told, box: QRectF) -> None:
        theme, px, found = self._theme, self._theme.px, one.outcome
        assert found is not None
        if one.trial.key == self._at:
            painter.setPen(QPen(theme.color("lantern"), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(box.adjusted(1, 2, -1, -2), 7, 7)
        painter.setPen(theme.color("ink"))
        painter.drawText(
            QRectF(box.left() + px(10), box.top(), px(NAME), box.height()),
            Qt.AlignmentFlag.AlignVCenter,
            one.trial.name,
        )
        left, right, middle = box.left() + px(NAME + 14), box.right() - px(VALUE + 10), box.center().y()
        ends = [found.value - found.give, found.value + found.give, *(found.predicted or ())]
        low, high = min(ends), max(ends)
        room = 0.15 * (high - low) or abs(high) or 1.0
        low, high = low - room, high + room

        def at(value: float) -> float:
            return float(left + (value - low) / (high - low) * (right - left))

        painter.setPen(QPen(theme.color("line"), 2))
        painter.drawLine(QPointF(left, middle), QPointF(right, middle))
        if found.predicted is not None:
            painter.setPen(Qt.PenStyle.NoPen)
            shade = QColor(theme.color("clear"))
            shade.setAlphaF(0.35)
            painter.setBrush(shade)
            painter.drawRoundedRect(
                QRectF(at(found.predicted[0]), middle - px(6), at(found.predicted[1]) - at(found.predicted[0]), px(12)),
                3,
                3,
            )
        colour = theme.color(found.state)
        painter.setPen(QPen(colour, 2))
        a, b = at(found.value - found.give), at(found.value + found.give)
        painter.drawLine(QPointF(a, middle), QPointF(b, middle))
        for x in (a, b):
            painter.drawLine(QPointF(x, middle - px(5)), QPointF(x, middle + px(5)))
        painter.setBrush(theme.color("ground"))
        painter.drawEllipse(QPointF(at(found.value), middle), px(5), px(5))
        painter.setPen(colour)
        give = f" ± {self._show.text(found.give, found.unit)}" if found.give else ""
        words = f"{self._show.text(found.value, found.unit)}{give}"
        painter.drawText(
            QRectF(right + px(8), box.top(), px(VALUE - 8), box.height()),
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
            words,
        )

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self._told:
            n = int(event.position().y() // self._theme.px(ROW))
            if 0 <= n < len(self._told):
                self.picked.emit(self._told[n].trial.key)
