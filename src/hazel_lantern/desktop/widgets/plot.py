"""A reading under the stage: lines over an axis, with a band, a span and the playhead."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from PyQt6.QtCore import QPointF, QRectF, QSizeF, Qt
from PyQt6.QtGui import QBrush, QFontMetrics, QFontMetricsF, QPainter, QPaintEvent, QPen, QPolygonF, QResizeEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from hazel_lantern.core.nouns.sketch import Handle
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.stage.labels import place
from hazel_lantern.desktop.stage.marks import Grip
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.session.session import Session

SPOTS = np.array([0.85, 0.6, 0.3, 0.93, 0.75, 0.68, 0.5, 0.4, 0.2, 0.1])  # of its points, where a line is named


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
    safe: tuple[float, float] | None = None
    outside: tuple[str, str] = ("", "")
    marker: tuple[float, float] | None = None
    sets: str = ""
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


class Scale(Struct, frozen=True):
    """Where a reading's axes lie: the plot's area, and what is shown left, right, below and above, in units shown."""

    area: QRectF
    x_unit: float
    y_unit: float
    left: float
    right: float
    low: float
    high: float

    @classmethod
    def of(cls, r: Reading, area: QRectF, x_unit: float, y_unit: float) -> Scale:
        """So that all of a reading is seen."""
        left, right = min(float(l.x.min()) for l in r.lines) / x_unit, max(float(l.x.max()) for l in r.lines) / x_unit
        ys = [v / y_unit for l in r.lines for v in (float(l.y.min()), float(l.y.max()))]
        ys += [v / y_unit for v in r.band or ()] + ([0.0] if r.zero else [])
        low, high = min(ys), max(ys)
        short = r.least / y_unit - (high - low)
        low, high = (low - short / 2, high + short / 2) if short > 0 else (low, high)
        pad = max(0.08 * (high - low), 1e-9 if high > low else max(abs(high) * 0.1, 0.1))
        return cls(area, x_unit, y_unit, left, right, low - pad, high + pad)

    @property
    def across(self) -> float:
        """Pixels for one of the SI unit along."""
        return self.area.width() / max(self.right - self.left, 1e-12) / self.x_unit

    def at(self, x: float, y: float) -> QPointF:
        """Where a point in SI lies."""
        return QPointF(
            self.area.left() + (x - self.left * self.x_unit) * self.across,
            self.area.bottom() - (y / self.y_unit - self.low) / (self.high - self.low) * self.area.height(),
        )


class Plot(QWidget):
    """Paints one Reading; a point that sets an input can be dragged and stepped by keys."""

    def __init__(self, theme: Theme, parent: QWidget | None = None, session: Session | None = None) -> None:
        super().__init__(parent)
        self._theme, self._session = theme, session
        self.grip = Grip(session, theme, self) if session is not None else None
        if self.grip is not None:
            self.grip.hide()
        self._reading: Reading | None = None
        self._show = Display()
        self._named: tuple[object, list[QRectF]] | None = None
        self.setMinimumHeight(theme.px(150))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)

    def show_reading(self, reading: Reading | None, display: Display) -> None:
        self._reading, self._show = reading, display
        self.setVisible(reading is not None)
        if reading:
            self.setAccessibleName(f"{reading.title}. {reading.aside}")
        self._place_grip()
        self.update()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._place_grip()

    def _place_grip(self) -> None:
        r = self._reading
        if self.grip is None or self._session is None:
            return
        # Between two rigs the reading may still be of the other one.
        if r is None or r.marker is None or r.sets not in self._session.parameters():
            self.grip.hide()
            return
        scale = self._scale(r)
        handle = Handle(r.marker, ((r.sets, (1.0, 0.0)),))
        self.grip.show_handle(handle, scale.at(*r.marker), scale.across)
        self.grip.show()

    def _stacked(self, r: Reading, metrics: QFontMetrics) -> bool:
        """Whether what stands aside goes under the title."""
        long = metrics.horizontalAdvance(r.title) + metrics.horizontalAdvance(r.aside) + self._theme.px(10)
        return bool(r.aside) and long > self.width() - self._theme.px(98)

    def _scale(self, r: Reading) -> Scale:
        px = self._theme.px
        down = px(18) if self._stacked(r, QFontMetrics(self._theme.font(12))) else 0
        area = QRectF(self.rect()).adjusted(px(64), px(30) + down, -px(34), -px(36))
        return Scale.of(r, area, self._show.unit(r.x_unit).factor, self._show.unit(r.y_unit).factor)

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
        scale = self._scale(r)
        area = scale.area
        painter.setFont(theme.font(12))
        metrics = painter.fontMetrics()
        stacked = self._stacked(r, metrics)
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
        self._plot(painter, scale, r)

    def _outside(self, painter: QPainter, scale: Scale, r: Reading) -> None:
        """What is safe filled, what is not hatched and named."""
        if r.safe is None:
            return
        theme, area, at = self._theme, scale.area, scale.at
        low, high = (min(max(at(x, 0.0).x(), area.left()), area.right()) for x in r.safe)
        painter.fillRect(QRectF(low, area.top(), max(0.0, high - low), area.height()), theme.color("clear", 30))
        hatch = (Qt.BrushStyle.DiagCrossPattern, Qt.BrushStyle.FDiagPattern)
        for words, a, b, style, role in zip(
            r.outside,
            (area.left(), max(high, low)),
            (min(low, high), area.right()),
            hatch,
            ("stop", "stop"),
            strict=True,
        ):
            if not words or b - a < 1.0:
                continue
            box = QRectF(a, area.top(), b - a, area.height())
            painter.fillRect(box, QBrush(theme.color(role, 90), style))
            painter.setPen(theme.color(role))
            painter.setFont(theme.font(11.5))
            metrics = QFontMetricsF(painter.font())
            if max(metrics.horizontalAdvance(word) for word in words.split()) < b - a - 6:
                flags = Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignHCenter
                painter.drawText(box.adjusted(3, 3, -3, 0), flags.value | Qt.TextFlag.TextWordWrap.value, words)

    def _plot(self, painter: QPainter, scale: Scale, r: Reading) -> None:
        theme, area, at = self._theme, scale.area, scale.at
        xu, yu, x0, x1, low, high = scale.x_unit, scale.y_unit, scale.left, scale.right, scale.low, scale.high
        self._outside(painter, scale, r)
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
        """Names beside their lines; found anew where lines or room change, so that they stand still as it plays."""
        font, named = self._theme.font(11.5), [line for line in r.lines if line.name]
        if not named:
            return
        told = tuple((one.name, one.x.tobytes(), one.y.tobytes()) for one in r.lines)
        key = area.getRect(), self._show.system, r.band, r.zero, r.least, told
        if self._named is None or self._named[0] != key:
            wanted = self._wanted(QFontMetricsF(font), r, at)
            self._named = key, place(wanted, area.adjusted(0, -8, 0, 8))
        painter.setFont(font)
        for line, box in zip(named, self._named[1], strict=True):
            painter.fillRect(box, self._theme.color("ground", 225))
            painter.setPen(self._theme.color(line.role))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, line.name)

    def _wanted(self, metrics: QFontMetricsF, r: Reading, at) -> list[tuple[QSizeF, list[QPointF]]]:  # type: ignore[no-untyped-def]
        """Of every name its size and where it may stand: nearer to none other than its own line, then where as little
        as can be runs through it.
        """
        runs = [self._run(line, at) for line in r.lines]
        drawn = [_close(run) for run in runs]
        every, wanted = np.vstack(drawn), []
        for k, line in enumerate(r.lines):
            if not line.name:
                continue
            wide, high, run = metrics.horizontalAdvance(line.name) + 4, metrics.height(), runs[k]
            others = np.vstack([np.full((1, 2), np.inf), *drawn[:k], *drawn[k + 1 :]])
            # Over or under it; where it is steep, beside it; where others run close, on it.
            beside = [(dx, dy) for dx in (0.0, wide / 2 + 2, -wide / 2 - 2) for dy in (-high / 2 - 4, high / 2 + 4)]
            on = run[(len(run) * SPOTS).astype(int)]
            spots, size = np.vstack([(on[:, None] + np.array(beside)).reshape(-1, 2), on]), QSizeF(wide, high)
            order = np.lexsort((_crossed(every, spots, size), _far(others, spots) < _far(drawn[k], spots)))
            wanted.append((size, [QPointF(*spot) for spot in spots[order].tolist()]))
        return wanted

    @staticmethod
    def _run(line: Line, at) -> np.ndarray:  # type: ignore[no-untyped-def]
        """A line in pixels (n, 2)."""
        points = [at(x, y) for x, y in zip(line.x.tolist(), line.y.tolist(), strict=True)]
        return np.array([(point.x(), point.y()) for point in points])


def _close(run: np.ndarray) -> np.ndarray:
    """The same line with a point every few pixels."""
    way = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(run, axis=0).T))])
    every = np.linspace(0.0, way[-1], min(1000, 2 + int(way[-1] / 5)))
    return np.column_stack([np.interp(every, way, run[:, k]) for k in (0, 1)])


def _far(points: np.ndarray, spots: np.ndarray) -> np.ndarray:
    """How far the nearest point is from each spot (n,) [px]."""
    away = points[None] - spots[:, None]
    return np.asarray(np.sqrt((away**2).sum(axis=2).min(axis=1)))


def _crossed(points: np.ndarray, spots: np.ndarray, size: QSizeF) -> np.ndarray:
    """How many points of all lines lie within words about each spot (n,)."""
    near = np.abs(points[None] - spots[:, None]) < (size.width() / 2, size.height() / 2)
    return np.asarray(near.all(axis=2).sum(axis=1))
