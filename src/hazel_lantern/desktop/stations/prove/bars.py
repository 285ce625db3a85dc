"""Foreseen against measured: a band for where each test was foreseen, a dot with its give or take for what was read."""

from __future__ import annotations

import math

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QWidget

from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.proving.told import Told
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.glyphs import paint_lantern

ROW, NAME, VALUE, LEFT, SCALE = 40, 200, 150, 20, 150  # px at 100 %; the least a scale can be read at


class Bars(QWidget):
    """One row for every test with an outcome; pressing it opens the test."""

    picked = pyqtSignal(str)

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme, self._show = theme, Display()
        self._told: tuple[Told, ...] = ()
        self._at = ""
        self.setObjectName("prove.bars")
        self.setAccessibleName("Foreseen against measured")

    def show_told(self, told: tuple[Told, ...], at: str, show: Display) -> None:
        self._told, self._at, self._show = tuple(one for one in told if one.outcome is not None), at, show
        self._fit()
        said = (f"{one.trial.name} {self._value(one)}" for one in self._told)
        self.setAccessibleDescription("; ".join(said))
        self.update()

    @property
    def _stacked(self) -> bool:
        """Whether it is too narrow for the scale to stand beside the name."""
        return self.width() < self._theme.px(NAME + VALUE + SCALE)

    @property
    def _high(self) -> int:
        return self._theme.px(ROW) * (2 if self._stacked else 1)

    def _fit(self) -> None:
        self.setFixedHeight(self._high * max(1, len(self._told)) + self._theme.px(6))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()

    def _value(self, one: Told) -> str:
        assert one.outcome is not None
        return Words("{}", ((one.outcome.value, one.trial.unit, one.outcome.give),)).text(self._show)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme, px = QPainter(self), self._theme, self._theme.px
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(12.5))
        if not self._told:
            painter.setPen(theme.color("muted"))
            painter.drawText(
                self.rect().adjusted(px(LEFT), 0, 0, 0),
                Qt.AlignmentFlag.AlignVCenter,
                "Nothing was measured yet: open a test and type its readings.",
            )
            return
        for n, one in enumerate(self._told):
            self._row(painter, one, QRectF(px(12), n * self._high, self.width() - px(24), self._high))

    def _row(self, painter: QPainter, one: Told, box: QRectF) -> None:
        theme, px, found = self._theme, self._theme.px, one.outcome
        assert found is not None
        if one.trial.key == self._at:
            painter.setPen(QPen(theme.color("lantern"), 1))
            painter.setBrush(theme.color("glow"))
            painter.drawRoundedRect(box.adjusted(1, 2, -1, -2), 7, 7)
        scale = QRectF(box.left() + px(NAME), box.top(), box.width() - px(NAME + VALUE + 14), box.height())
        if self._stacked:
            scale = QRectF(box.left() + px(58), box.top() + px(ROW), box.width() - px(116), px(ROW))
            box = QRectF(box.left(), box.top(), box.width(), px(ROW))
        side = px(16)
        paint_lantern(painter, QRectF(box.left() + px(8), box.center().y() - side / 2, side, side), found.state, theme)
        painter.setPen(theme.color("ink"))
        painter.setFont(theme.font(12.5))
        wide = box.width() - px(VALUE + 32) if self._stacked else px(NAME - 40)
        name = painter.fontMetrics().elidedText(one.trial.name, Qt.TextElideMode.ElideRight, int(wide))
        painter.drawText(
            QRectF(box.left() + px(32), box.top(), wide, box.height()), Qt.AlignmentFlag.AlignVCenter, name
        )
        self._scale(painter, one, scale)
        painter.setFont(theme.font(12.5, weight=600, numbers=True))
        painter.setPen(theme.color(found.state))
        painter.drawText(
            box.adjusted(0, 0, -px(10), 0),
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
            self._value(one),
        )

    def _scale(self, painter: QPainter, one: Told, box: QRectF) -> None:
        """The band with its ends in numbers, the dot with its give or take."""
        theme, px, found, own = self._theme, self._theme.px, one.outcome, one.foreseen
        assert found is not None
        banded = math.isfinite(own.low) and math.isfinite(own.high)
        ends = [found.value - found.give, found.value + found.give, *((own.low, own.high) if banded else ())]
        low, high = min(ends), max(ends)
        room = 0.3 * (high - low) or abs(high) or 1.0
        low, high, middle = low - room, high + room, box.center().y() - px(5)

        def at(value: float) -> float:
            return float(box.left() + (value - low) / (high - low) * box.width())

        painter.setPen(QPen(theme.color("line"), 2))
        painter.drawLine(QPointF(box.left(), middle), QPointF(box.right(), middle))
        if banded:
            shade = QColor(theme.color("muted"))
            shade.setAlphaF(0.38)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(shade)
            painter.drawRoundedRect(QRectF(at(own.low), middle - px(6), at(own.high) - at(own.low), px(12)), 3, 3)
            painter.setPen(theme.color("muted"))
            painter.setFont(theme.font(11.5, numbers=True))
            for value in (own.low, own.high):
                painter.drawText(
                    QRectF(at(value) - px(50), middle + px(7), px(100), px(15)),
                    Qt.AlignmentFlag.AlignCenter,
                    self._show.number(value, one.trial.unit),
                )
        painter.setPen(QPen(theme.color(found.state), 2))
        a, b = at(found.value - found.give), at(found.value + found.give)
        painter.drawLine(QPointF(a, middle), QPointF(b, middle))
        for x in (a, b):
            painter.drawLine(QPointF(x, middle - px(5)), QPointF(x, middle + px(5)))
        painter.setBrush(theme.color("ground"))
        painter.drawEllipse(QPointF(at(found.value), middle), px(5), px(5))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self._told:
            n = int(event.position().y() // self._high)
            if 0 <= n < len(self._told):
                self.picked.emit(self._told[n].trial.key)
