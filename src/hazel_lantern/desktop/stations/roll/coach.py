"""The pace coach: follow the move with the mouse or the keys from the count-in on;
the trace against what was wanted."""

from __future__ import annotations

import math

import numpy as np
from PyQt6.QtCore import QElapsedTimer, QPointF, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QApplication, QComboBox, QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.optics.lens import focal_pixels
from hazel_lantern.core.proving.shakes import distance
from hazel_lantern.core.rolling import pace
from hazel_lantern.core.rolling.takes import HAND
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.flow import Flow
from hazel_lantern.desktop.widgets.words import Label
from hazel_lantern.session.rolling import Rolling

FRAME = 20  # ms between two readings: at most 50 a second
COUNT_IN = 3  # beats of a second before it goes
TALL, LEFT, APART = 168, 70, 40  # px
NUDGE = 0.5  # of the move's greatest speed, that a key adds to the hand's


class Coach(QWidget):
    """`said` is what was refused, in a sentence."""

    said = pyqtSignal(str)

    def __init__(self, rolling: Rolling, theme: Theme) -> None:
        super().__init__()
        self._rolling, self._theme = rolling, theme
        self.last: pace.Pace | None = None
        self._trace: tuple[tuple[float, ...], ...] = ()
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(20), theme.px(6), theme.px(20), theme.px(6))
        column.setSpacing(theme.px(4))
        title = Label("Pace coach")
        title.setFont(theme.font(13, weight=700))
        theme.ink(title, "lantern")
        self._go, self._keep = QPushButton("Follow it"), QPushButton("Keep as a take")
        self._go.setObjectName("coach.go")
        self._go.setProperty("act", True)
        self._go.clicked.connect(lambda _=False: self.go())
        self._keep.setObjectName("coach.keep")
        self._keep.clicked.connect(lambda _=False: self.keep())
        self._hand = QComboBox()
        self._hand.setObjectName("coach.hand")
        self._hand.setAccessibleName("Whose hand")
        self._hand.addItem("mouse and keys", "")
        for sort in pace.HANDS:
            self._hand.addItem(f"simulated encoder, {sort} hand", sort)
        self._beats = QPushButton("beat")
        self._beats.setCheckable(True)
        self._beats.setChecked(True)
        self._beats.setProperty("chip", True)
        self._beats.setToolTip("Count in, and sound each beat")
        self._says = Label()
        self._says.setObjectName("coach.says")
        self._says.setFont(theme.font(12.5))
        self._says.setWordWrap(True)
        box = QWidget()
        line = Flow(box, theme.px(6))
        for widget in (title, self._go, self._hand, self._beats, self._keep):
            line.addWidget(widget)
        self.track = Track(theme)
        self.track.done.connect(self._done)
        column.addWidget(box)
        column.addWidget(self.track)
        column.addWidget(self._says)
        self.refresh()

    def refresh(self) -> None:
        """The move as it is."""
        result = self._rolling.session.evaluation
        self._keep.setEnabled(bool(self._trace))
        if result is None or result.model is None:
            return
        move, show = result.path.move, self._rolling.session.display
        self._length = max(move.length, 1e-6)
        self._duration = move.duration_s
        self.track.show_move(lambda u: np.asarray(move.share(u)), self._duration, self._length, show)
        if self.last is None:
            self._says.setText(
                "Press Follow it; after the count keep the ring under the lantern mark, by dragging or with the "
                "arrow keys."
            )

    def go(self) -> None:
        """Count in, then follow."""
        sort = str(self._hand.currentData() or "")
        if sort:
            result = self._rolling.session.evaluation
            if result is None or result.model is None:
                return
            way = result.path.move.share
            seed = len(self._trace) + len(self._rolling.takes())
            t, x = pace.hand(sort, lambda u: np.asarray(way(u)), self._duration, self._length, seed)
            self._done(t, x)
            return
        self.track.begin(beats=self._beats.isChecked())
        self.track.setFocus(Qt.FocusReason.OtherFocusReason)

    def _done(self, times: np.ndarray, places: np.ndarray) -> None:
        result = self._rolling.session.evaluation
        if result is None or result.model is None:
            return
        way, shot = result.path.move.share, result.shot
        focal = focal_pixels(shot.focal_m, shot.pixels_wide, shot.sensor_width_m, shot.squeeze)
        try:
            self.last = pace.scored(
                times, places, lambda u: np.asarray(way(u)), self._duration, self._length, focal / distance(result)
            )
        except HazelError as error:
            self.said.emit(str(error))
            return
        self._trace = tuple(zip(times.tolist(), places.tolist(), strict=True))
        one, show = self.last, self._rolling.session.display
        self._says.setText(
            f"{one.points} of 100: {100 * one.within:.0f} % within ±{show.text(one.band, 'm/s', fine=True)}; "
            f"{show.text(one.off, 'm')} off its place, {show.text(one.pixels, 'px')}; began {one.late:+.2f} s; ended "
            f"{show.text(one.arrives, 'm')} off the mark. {one.advice}"
        )
        self.track.show_pace(one)
        self._keep.setEnabled(True)

    def keep(self) -> None:
        """The last try as a take."""
        if self.last is None:
            return
        try:
            self._rolling.keep(HAND, self._trace[-1][0], self._trace, points=self.last.points, note=self.last.advice)
        except HazelError as error:
            self.said.emit(str(error))
            return
        self._trace = ()
        self._keep.setEnabled(False)

    def finish(self) -> None:
        """Stop counting."""
        self.track.stop()


class Track(QWidget):
    """Speed over time with its band, the marks, and below the way with the lantern mark to follow and the hand's ring.

    `done` brings times [s] and places [m] of a try.
    """

    done = pyqtSignal(object, object)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.setFixedHeight(theme.px(TALL))
        self.setObjectName("coach.track")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Pace coach, follow with mouse or arrow keys")
        self._way = None
        self._duration, self._length, self._show = 1.0, 1.0, None
        self._pace: pace.Pace | None = None
        self._timer = QTimer(self)
        self._timer.setInterval(FRAME)
        self._timer.timeout.connect(self._tick)
        self._clock = QElapsedTimer()
        self._place, self._push, self._beats, self._counted = 0.0, 0.0, True, 0
        self._times: list[float] = []
        self._places: list[float] = []

    def show_move(self, way, duration: float, length: float, show) -> None:  # type: ignore[no-untyped-def]
        self._way, self._duration, self._length, self._show = way, duration, length, show
        self.update()

    def show_pace(self, one: pace.Pace) -> None:
        self._pace = one
        self.update()

    @property
    def time(self) -> float:
        """Since the cue [s]; below nought while it is counted in."""
        return self._clock.elapsed() / 1e3 - COUNT_IN if self._timer.isActive() else -COUNT_IN

    def begin(self, *, beats: bool) -> None:
        """Count in."""
        self._place, self._push, self._pace, self._beats, self._counted = 0.0, 0.0, None, beats, 0
        self._times, self._places = [], []
        self._clock.start()
        self._timer.start()

    def stop(self) -> None:
        self._timer.stop()

    def _tick(self) -> None:
        t = self.time
        if self._beats and int(t + COUNT_IN) >= self._counted and t < self._duration:
            self._counted += 1
            QApplication.beep()
        if t >= 0:
            self._place += self._push * FRAME / 1e3
            self._times.append(t)
            self._places.append(self._place)
        if t >= self._duration + 0.6:
            self._timer.stop()
            self.done.emit(np.array(self._times), np.array(self._places))
        self.update()

    def _bar(self) -> QRectF:
        px = self._theme.px
        return QRectF(px(LEFT), self.height() - px(30), self.width() - px(LEFT + 20), px(6))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self._timer.isActive():
            bar = self._bar()
            self._place = self._length * min(1.1, max(-0.05, (event.position().x() - bar.left()) / bar.width()))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self.mouseMoveEvent(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None or not self._timer.isActive():
            super().keyPressEvent(event)
            return
        step = NUDGE * self._length / self._duration / 2
        if event.key() == Qt.Key.Key_Right:
            self._push += step
        elif event.key() == Qt.Key.Key_Left:
            self._push -= step
        elif event.key() == Qt.Key.Key_Escape:
            self.stop()
            self.update()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._way is None:
            return
        painter, theme, px = QPainter(self), self._theme, self._theme.px
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(px(LEFT), px(6), self.width() - px(LEFT + 20), self.height() - px(62))
        u = np.linspace(0, 1, 121)
        wanted = np.gradient(np.asarray(self._way(u)) * self._length, u * self._duration)
        top = max(float(np.abs(wanted).max()), 1e-9) * 1.35
        if self._pace is not None:
            top = max(top, float(np.abs(self._pace.speed).max()) * 1.05)
        band = max(pace.BAND * float(np.abs(wanted).max()), pace.LEAST_BAND)

        def at(t: float, v: float) -> QPointF:
            return QPointF(
                box.left() + t / self._duration * box.width(), box.bottom() - max(0.0, v) / top * box.height()
            )

        shade = theme.color("lantern", 60)
        edge = [at(s * self._duration, v + band) for s, v in zip(u, wanted, strict=True)]
        edge += [at(s * self._duration, v - band) for s, v in zip(u[::-1], wanted[::-1], strict=True)]
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(shade)
        painter.drawPolygon(QPolygonF(edge))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(theme.color("lantern"), 2))
        painter.drawPolyline(QPolygonF([at(s * self._duration, v) for s, v in zip(u, wanted, strict=True)]))
        if self._pace is not None:
            one = self._pace
            inside = one.times <= self._duration
            painter.setPen(QPen(theme.color("ink"), 1.6))
            painter.drawPolyline(
                QPolygonF([at(float(t), float(v)) for t, v in zip(one.times[inside], one.speed[inside], strict=True)])
            )
        painter.setFont(theme.font(11.5, numbers=True))
        painter.setPen(theme.color("muted"))
        if self._show is not None:
            painter.drawText(
                QRectF(0, box.top() - 2, px(LEFT - 4), px(16)),
                Qt.AlignmentFlag.AlignLeft,
                self._show.text(top / 1.35, "m/s", fine=True),
            )
        self._paint_way(painter)

    def _paint_way(self, painter: QPainter) -> None:
        """The way with its marks, what to follow and the hand."""
        theme, px, bar = self._theme, self._theme.px, self._bar()
        assert self._way is not None
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("line"))
        painter.drawRoundedRect(bar, 3, 3)
        beats = np.arange(0, self._duration + 1e-6, max(1.0, round(self._duration / 8)))
        painter.setPen(theme.color("muted"))
        told = -math.inf
        for t in beats:
            x = bar.left() + float(self._way(np.array([t / self._duration]))[0]) * bar.width()
            painter.drawLine(QPointF(x, bar.bottom() + 2), QPointF(x, bar.bottom() + px(8)))
            if self._show is not None and x - told >= px(APART):
                told = x
                painter.drawText(
                    QRectF(x - px(36), bar.bottom() + px(7), px(72), px(15)),
                    Qt.AlignmentFlag.AlignCenter,
                    self._show.text(t, "s"),
                )
        t = self.time
        if not self._timer.isActive():
            return
        share = float(self._way(np.array([min(1.0, max(0.0, t / self._duration))]))[0])
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("lantern"))
        x = bar.left() + share * bar.width()
        painter.drawPolygon(
            QPolygonF(
                [
                    QPointF(x, bar.top() - 2),
                    QPointF(x - px(7), bar.top() - px(14)),
                    QPointF(x + px(7), bar.top() - px(14)),
                ]
            )
        )
        painter.setPen(QPen(theme.color("ink"), 2))
        painter.setBrush(theme.color("ground"))
        painter.drawEllipse(
            QPointF(bar.left() + self._place / self._length * bar.width(), bar.center().y()), px(8), px(8)
        )
        if t < 0:
            painter.setFont(theme.font(28, weight=700))
            painter.setPen(theme.color("lantern"))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, str(max(1, int(-t) + 1)))
