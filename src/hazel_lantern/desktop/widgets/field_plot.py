"""A map under the stage: how much of a limit is used over two axes, with the playhead's place on it."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QFontMetricsF, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from hazel_lantern.core.nouns.figure import Field
from hazel_lantern.core.nouns.finding import CLEAR, STOP, WATCH
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.plot import ticks

# Told by pattern first, colour second.
PATTERNS = ((Qt.BrushStyle.SolidPattern, 46), (Qt.BrushStyle.BDiagPattern, 255), (Qt.BrushStyle.DiagCrossPattern, 255))


def looks(field: Field) -> list[tuple[str, str, Qt.BrushStyle, int]]:
    """Role, words, pattern and alpha of the three sorts of places."""
    roles = (CLEAR, WATCH, STOP if field.stops else WATCH)
    return [(role, words, *look) for role, words, look in zip(roles, field.sorts, PATTERNS, strict=True)]


def sorts(use: np.ndarray) -> np.ndarray:
    """0 where at most 0.8 of the limit is used, 1 up to the limit, 2 beyond."""
    return np.where(use <= 0.8, 0, np.where(use <= 1 + 1e-12, 1, 2))


class FieldPlot(QWidget):
    """Paints one Field."""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self._field: Field | None = None
        self._marker: tuple[float, float] | None = None
        self._axes = ("", "")
        self._show = Display()
        self.setMinimumHeight(theme.px(200))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)

    def show_field(self, field: Field, marker: tuple[float, float], axes: tuple[str, str], display: Display) -> None:
        """A map, the place of the playhead on it, what its axes are."""
        self._field, self._marker, self._axes, self._show = field, marker, axes, display
        shares = np.bincount(sorts(field.use).ravel(), minlength=3) / field.use.size
        self.setAccessibleName(
            f"{field.label}. "
            + ", ".join(f"{words} on {share:.0%}" for words, share in zip(field.sorts, shares, strict=True))
        )
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        field, theme = self._field, self._theme
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), theme.color("ground"))
        if field is None:
            return
        px = theme.px
        area = QRectF(self.rect()).adjusted(px(64), px(26), -px(34), -px(36))
        self._legend(painter, area, field)
        self._cells(painter, area, field)
        self._scales(painter, area, field)

    def _at(self, area: QRectF, field: Field, x: float, y: float) -> QPointF:
        return QPointF(
            area.left() + (x - field.x[0]) / (field.x[-1] - field.x[0]) * area.width(),
            area.bottom() - (y - field.y[0]) / max(field.y[-1] - field.y[0], 1e-9) * area.height(),
        )

    def _cells(self, painter: QPainter, area: QRectF, field: Field) -> None:
        """Runs of one sort in each row as one rectangle."""
        sort = sorts(field.use)
        half_x, half_y = (field.x[1] - field.x[0]) / 2, np.gradient(field.y) / 2
        painter.setClipRect(area)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
        brushes = [QBrush(self._theme.color(role, alpha), pattern) for role, _, pattern, alpha in looks(field)]
        for row, (y, half) in enumerate(zip(field.y.tolist(), half_y.tolist(), strict=True)):
            edges = np.flatnonzero(np.diff(sort[row])) + 1
            for start, end in zip([0, *edges.tolist()], [*edges.tolist(), len(field.x)], strict=True):
                a, b = (
                    self._at(area, field, field.x[start] - half_x, y + half),
                    self._at(area, field, field.x[end - 1] + half_x, y - half),
                )
                box = QRectF(
                    round(a.x()), round(a.y()), round(b.x()) - round(a.x()), max(1, round(b.y()) - round(a.y()))
                )
                painter.fillRect(box, brushes[sort[row, start]])
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setClipping(False)
        if self._marker is not None:
            spot = self._at(area, field, *self._marker)
            painter.setPen(QPen(self._theme.color("ink"), 1.2))
            painter.drawLine(QPointF(area.left(), spot.y()), QPointF(area.right(), spot.y()))
            painter.drawLine(QPointF(spot.x(), area.top()), QPointF(spot.x(), area.bottom()))
            painter.setPen(QPen(self._theme.color("ground"), 1.5))
            painter.setBrush(self._theme.color("lantern"))
            painter.drawEllipse(spot, 5, 5)

    def _scales(self, painter: QPainter, area: QRectF, field: Field) -> None:
        theme = self._theme
        xu, yu = self._show.unit(field.x_unit).factor, self._show.unit(field.y_unit).factor
        painter.setFont(theme.font(11.5, numbers=True))
        painter.setPen(theme.color("muted"))
        for y in ticks(field.y[0] / yu, field.y[-1] / yu, 4):
            point = self._at(area, field, float(field.x[0]), y * yu)
            painter.drawText(
                QRectF(0, point.y() - 9, area.left() - 8, 18),
                Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
                f"{y:g}".replace("-", "−"),
            )
        for x, words in self._across(area, field, xu):
            point = self._at(area, field, x * xu, float(field.y[0]))
            box = QRectF(point.x() - 40, area.bottom() + 3, 80, 16)
            painter.drawText(box, Qt.AlignmentFlag.AlignHCenter, words.replace("-", "−"))
        painter.setFont(theme.font(11.5))
        painter.drawText(
            QRectF(area.left(), area.bottom() + 17, area.width(), 16), Qt.AlignmentFlag.AlignHCenter, self._axes[0]
        )

    def _across(self, area: QRectF, field: Field, unit: float) -> list[tuple[float, str]]:
        """Marks along the foot: quarters of a turn, or fewer where they would meet; lengths as they come."""
        low, high = field.x[0] / unit, field.x[-1] / unit
        if field.x_unit != "rad":
            return [(x, f"{x:g}") for x in ticks(low, high, max(2, int(area.width() / self._theme.px(70))))]
        step = next((s for s in (45, 90, 180) if area.width() * s / 360 >= self._theme.px(56)), 180)
        marks = np.arange(np.ceil(low / step - 1e-9), np.floor(high / step + 1e-9) + 1) * step
        return [(float(x), f"{x:g}°") for x in marks]

    def _legend(self, painter: QPainter, area: QRectF, field: Field) -> None:
        theme = self._theme
        painter.setFont(theme.font(12))
        metrics, x = QFontMetricsF(theme.font(12)), area.left()
        for role, words, pattern, alpha in looks(field):
            box = QRectF(x, area.top() - theme.px(17), theme.px(18), theme.px(11))
            painter.fillRect(box, QBrush(theme.color(role, max(alpha, 110)), pattern))
            painter.setPen(QPen(theme.color("line"), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(box)
            painter.setPen(theme.color("muted"))
            painter.drawText(QPointF(box.right() + 6, box.bottom()), words)
            x = box.right() + 18 + metrics.horizontalAdvance(words)
        aside = f"up: {self._axes[1]}, {self._show.symbol(field.y_unit)}"
        if x + metrics.horizontalAdvance(aside) < area.right():
            painter.drawText(
                QRectF(area.left(), area.top() - theme.px(22), area.width(), theme.px(18)),
                Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
                aside,
            )
