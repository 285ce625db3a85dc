"""A reading under the stage: lines over an axis, with a band, a span and the playhead."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from PyQt6.QtCore import QPointF, QRectF, QSizeF, Qt
from PyQt6.QtGui import QFontMetricsF, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.stage.labels import place
from hazel_lantern.desktop.theme.theme import Theme


class Line(Struct, frozen=True):
    """Points in SI with a role, a name and whether it is dashed."""

    x: np.ndarray
    y: np.ndarray
    name: str = ""
    role: str = "lantern"
    dash: bool = False


class Reading(Struct, frozen=True):
    """What a plot shows, in SI."""

    title: str
    x_unit: str
    y_unit: str
    lines: tuple[Line, ...]
    axis: str = ""
    aside: str = ""
    aside_role: str = "muted"
    band: tuple[float, float] | None = None
    span: tuple[float, float] | None = None
    span_role: str = "ink"
    marker: tuple[float, float] | None = None
    zero: bool = False
    least: float = 0.0


def ticks(low: float, high: float, most: int) -> np.ndarray:
    """Round numbers from low to high, at most so many."""
    if not high > low:
        return np.array([low])
    raw = (high - low) / max(1, most)
    size = 10.0 ** math.floor(math.log10(raw))
    step = next(s * size for s in (1, 2, 2.5, 5, 10) if s * size >= raw - 1e-12)
    return np.arange(math.ceil(low / step - 1e-9), math.floor(high / step + 1e-9) + 1) * step


class Plot(QWidget):
    """Paints one Reading."""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self._reading: Reading | None = None
        self._show = Display()
        self.setMinimumHeight(theme.px(150))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)

    def show_reading(self, reading: Reading | None, display: Display) -> None:
        self._reading, self._show = reading, display
        self.setVisible(reading is not None)
        if reading:
            self.setAccessibleName(f"{reading.title}. {reading.aside}")
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        r, theme = self._reading, self._theme
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), theme.color("ground"))
        painter.setPen(QPen(theme.color("line"), 1))
        painter.drawLine(0, 0, self.width(), 0)
        if r is None:
            return
        px = theme.px
        area = QRectF(self.rect()).adjusted(px(64), px(30), -px(34), -px(36))
        painter.setFont(theme.font(12))
        metrics = painter.fontMetrics()
        stacked = metrics.horizontalAdvance(r.title) + metrics.horizontalAdvance(r.aside) + px(
            10
        ) > area.width() and bool(r.aside)
        painter.setPen(theme.color("muted"))
        line = QRectF(area.left(), px(7), area.width(), px(18))
        painter.drawText(
            line,
            Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter,
            metrics.elidedText(r.title, Qt.TextElideMode.ElideRight, int(area.width())),
        )
        painter.setPen(theme.color(r.aside_role))
        side = Qt.AlignmentFlag.AlignLeft if stacked else Qt.AlignmentFlag.AlignRight
        words = metrics.elidedText(r.aside, Qt.TextElideMode.ElideRight, int(area.width()))
        painter.drawText(line.translated(0, px(18) if stacked else 0), side | Qt.AlignmentFlag.AlignVCenter, words)
        if stacked:
            area.setTop(area.top() + px(18))
        self._plot(painter, area, r)

    def _plot(self, painter: QPainter, area: QRectF, r: Reading) -> None:
        theme = self._theme
        xu, yu = self._show.unit(r.x_unit).factor, self._show.unit(r.y_unit).factor
        x0, x1 = (min(float(l.x.min()) for l in r.lines) / xu, max(float(l.x.max()) for l in r.lines) / xu)
        ys = (
            [v / yu for l in r.lines for v in (float(l.y.min()), float(l.y.max()))]
            + [v / yu for v in r.band or ()]
            + ([0.0] if r.zero else [])
        )
        low, high = min(ys), max(ys)
        short = r.least / yu - (high - low)
        low, high = (low - short / 2, high + short / 2) if short > 0 else (low, high)
        pad = max(0.08 * (high - low), 1e-9 if high > low else max(abs(high) * 0.1, 0.1))
        low, high = low - pad, high + pad

        def at(x: float, y: float) -> QPointF:
            return QPointF(
                area.left() + (x / xu - x0) / max(x1 - x0, 1e-12) * area.width(),
                area.bottom() - (y / yu - low) / (high - low) * area.height(),
            )

        if r.band:
            box = QRectF(at(x0 * xu, r.band[1]), at(x1 * xu, r.band[0])).intersected(area)
            painter.fillRect(box, theme.color("clear", 38))
        if r.span:
            painter.fillRect(
                QRectF(at(r.span[0], high * yu), at(r.span[1], low * yu)),
                theme.color(r.span_role, 12 if r.span_role == "ink" else 48),
            )
        painter.setFont(theme.font(11.5, numbers=True))
        for y in ticks(low, high, 5):
            point = at(x0 * xu, y * yu)
            painter.setPen(QPen(theme.color("line"), 1))
            painter.drawLine(point, QPointF(area.right(), point.y()))
            painter.setPen(theme.color("muted"))
            painter.drawText(
                QRectF(0, point.y() - theme.px(9), area.left() - 8, theme.px(18)),
                Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
                f"{y:g}".replace("-", "−"),
            )
        sign = "°" if r.x_unit == "rad" else ""
        for x in ticks(x0, x1, max(2, min(8, int(area.width() / theme.px(64))))):
            point = at(x * xu, low * yu)
            painter.drawText(
                QRectF(point.x() - theme.px(40), area.bottom() + 3, theme.px(80), theme.px(16)),
                Qt.AlignmentFlag.AlignHCenter,
                f"{x:g}{sign}".replace("-", "−"),
            )
        painter.setFont(theme.font(11.5))
        painter.drawText(
            QRectF(area.left(), area.bottom() + theme.px(17), area.width(), theme.px(16)),
            Qt.AlignmentFlag.AlignHCenter,
            r.axis,
        )
        painter.setClipRect(area.adjusted(-2, -2, 2, 2))
        for line in r.lines:
            pen = QPen(theme.color(line.role), 2.2 if not line.dash else 1.8)
            if line.dash:
                pen.setDashPattern([3, 3])
            painter.setPen(pen)
            painter.drawPolyline(QPolygonF([at(x, y) for x, y in zip(line.x.tolist(), line.y.tolist(), strict=True)]))
        painter.setClipping(False)
        if r.marker:
            point = at(*r.marker)
            painter.setPen(QPen(theme.color("ink"), 1.2))
            painter.drawLine(QPointF(point.x(), area.top()), QPointF(point.x(), area.bottom()))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("lantern"))
            painter.drawEllipse(point, 4.5, 4.5)
        self._names(painter, area, r, at)

    def _names(self, painter: QPainter, area: QRectF, r: Reading, at) -> None:  # type: ignore[no-untyped-def]
        metrics = QFontMetricsF(self._theme.font(11.5))
        named = [line for line in r.lines if line.name]
        wanted = []
        for line in named:
            size = QSizeF(metrics.horizontalAdvance(line.name) + 4, metrics.height())
            count = len(line.x)
            spots = [
                at(float(line.x[i]), float(line.y[i])) + QPointF(0, dy)
                for i in (int(count * 0.85), int(count * 0.6), int(count * 0.3))
                for dy in (-13, 13)
            ]
            wanted.append((size, spots))
        for line, box in zip(named, place(wanted, area.adjusted(0, -8, 0, 8)), strict=True):
            painter.setPen(self._theme.color(line.role))
            painter.setFont(self._theme.font(11.5))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, line.name)
