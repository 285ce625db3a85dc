"""The move strip: play, the speed over time, the playhead all stations share."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QElapsedTimer, QPointF, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QWidget

from hazel_lantern.core.document.project import Shot
from hazel_lantern.core.motion.profile import timing
from hazel_lantern.core.motion.shapes import RAMPED
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.plot import ticks

FRAME, MOMENTS = 16, 90
TALL = 0.86  # share of the track that the greatest speed fills
CORNER = 0  # the number of the first key, which is not dragged: its ring is where the first ramp ends


class Strip(QWidget):
    """Speed of the move over its time; drag or step the playhead, Space plays."""

    moved = pyqtSignal(float)
    key_taken = pyqtSignal()
    key_dragged = pyqtSignal(int, float)
    key_dropped = pyqtSignal(bool)  # whether it was let go of as it was before

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("strip")
        self._theme = theme
        self.share, self._time = 0.6, 8.0
        self._words = ""
        self._shown: object = None
        self._speed = np.zeros(MOMENTS)
        self.setFixedHeight(theme.px(66))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._keys: tuple[tuple[int, float], ...] = ()
        self._held: int | None = None
        self._timer = QTimer(self)
        self._timer.setInterval(FRAME)
        self._timer.timeout.connect(self._tick)
        self._clock = QElapsedTimer()
        self._from = 0.0
        self.reduced = False

    @property
    def playing(self) -> bool:
        return self._timer.isActive()

    def show_move(self, shot: Shot, words: str, display: Display) -> None:
        """The speed of a shot's move over its time."""
        shown = (shot.keys, shot.segments, words)
        if shown == self._shown:
            return
        profile = timing(shot.keys, shot.segments)
        self._shown, self._time, self._words = shown, profile.duration, words
        self._leaves = shot.leaves_s
        first = shot.segments[0]
        corner = first.ramp * (shot.keys[1].time_s - self._leaves) / self._time
        self._keys = (
            *(((CORNER, corner),) if first.shape in RAMPED else ()),
            *((n, (key.time_s - self._leaves) / self._time) for n, key in enumerate(shot.keys[1:-1], 1)),
        )
        self._speed = np.abs(profile.speed(np.linspace(0, 1, MOMENTS))) / (profile.peak_speed or 1.0)
        self.setAccessibleName(f"Move strip, {words}, at {display.text(self.share * self._time, 's')}")
        self.update()

    def _track(self) -> QRectF:
        return QRectF(self.rect()).adjusted(
            self._theme.px(96), self._theme.px(14), -self._theme.px(32), -self._theme.px(18)
        )

    def play(self) -> None:
        """Start from the playhead, or from the start when it stands at the end; stop when playing."""
        if self._timer.isActive():
            self._timer.stop()
        elif self.reduced:
            self.go(0.0 if self.share >= 1 else min(1.0, self.share + 0.25))
        else:
            self._from = 0.0 if self.share >= 1 else self.share
            self._clock.start()
            self._timer.start()
        self.update()

    def halt(self) -> None:
        """Stop playing."""
        self._timer.stop()

    def _tick(self) -> None:
        share = self._from + self._clock.elapsed() / 1000 / self._time
        if share >= 1:
            self._timer.stop()
        self.go(min(1.0, share))

    def go(self, share: float) -> None:
        """Put the playhead at a share of the time."""
        self.share = min(1.0, max(0.0, share))
        self.update()
        self.moved.emit(self.share)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme = QPainter(self), self._theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), theme.color("panel"))
        painter.setPen(theme.color("line"))
        painter.drawLine(0, 0, self.width(), 0)
        middle = QPointF(theme.px(32), self.height() / 2)
        radius = theme.px(16)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("lantern"))
        painter.drawEllipse(middle, radius, radius)
        painter.setBrush(theme.color("on_lantern"))
        if self.playing:
            painter.drawRect(QRectF(middle.x() - 6, middle.y() - 7, 4, 14))
            painter.drawRect(QRectF(middle.x() + 2, middle.y() - 7, 4, 14))
        else:
            painter.drawPolygon(QPolygonF([middle + QPointF(-5, -8), middle + QPointF(9, 0), middle + QPointF(-5, 8)]))
        if self.hasFocus():
            painter.setPen(QPen(theme.color("lantern"), 1.4))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(3, 3, -3, -3), 6, 6)
        track = self._track()
        curve = [
            QPointF(track.left() + k / (MOMENTS - 1) * track.width(), track.bottom() - y * track.height() * TALL)
            for k, y in enumerate(self._speed.tolist())
        ]
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("lantern", 70))
        painter.drawPolygon(QPolygonF([track.bottomLeft(), *curve, track.bottomRight()]))
        painter.setPen(QPen(theme.color("lantern"), 1.8))
        painter.drawPolyline(QPolygonF(curve))
        painter.setFont(theme.font(11.5))
        painter.setPen(theme.color("muted"))
        room = max(0.0, self.share * track.width() - theme.px(40))
        if QFontMetricsF(painter.font()).horizontalAdvance(self._words) < room or track.width() > theme.px(420):
            painter.drawText(
                QRectF(track.left() + 4, -1, track.width(), theme.px(16)), Qt.AlignmentFlag.AlignLeft, self._words
            )
        painter.setFont(theme.font(11.5, numbers=True))
        for t in ticks(0, self._time, max(2, min(10, int(track.width() / self._theme.px(52))))):
            x = track.left() + t / self._time * track.width()
            painter.drawText(
                QRectF(x - theme.px(30), track.bottom() + 1, theme.px(60), theme.px(15)),
                Qt.AlignmentFlag.AlignHCenter,
                f"{t:g} s",
            )
        self._rings(painter, track)
        self._playhead(painter, track)

    def _rings(self, painter: QPainter, track: QRectF) -> None:
        """A ring on the curve for each key between the first and the last, a small one where the first ramp ends; the
        one in the hand filled.
        """
        theme = self._theme
        for n, share in self._keys:
            at = QPointF(track.left() + share * track.width(), self._high(track, share))
            size = theme.px(4 if n == CORNER else 6)
            painter.setPen(QPen(theme.color("lantern"), 2.0))
            painter.setBrush(theme.color("lantern") if n == self._held else theme.color("ground"))
            painter.drawEllipse(at, size, size)

    def _ring_at(self, x: float, y: float) -> int | None:
        """The key under the hand, at any height; the corner of the ease only where it is drawn."""
        track, reach = self._track(), self._theme.px(9)
        near = [
            (abs(track.left() + share * track.width() - x), n)
            for n, share in self._keys
            if n != CORNER or abs(self._high(track, share) - y) <= reach
        ]
        return min(near)[1] if near and min(near)[0] <= reach else None

    def _high(self, track: QRectF, share: float) -> float:
        """How high the curve runs at a share of the time."""
        return track.bottom() - float(self._speed[round(share * (MOMENTS - 1))]) * track.height() * TALL

    def _playhead(self, painter: QPainter, track: QRectF) -> None:
        theme = self._theme
        x = track.left() + self.share * track.width()
        painter.setPen(QPen(theme.color("ink"), 1.6))
        painter.drawLine(QPointF(x, track.top() - 2), QPointF(x, track.bottom()))
        text = f"{self.share * self._time:.2f} s"
        font = theme.font(11.5, weight=700, numbers=True)
        wide = QFontMetricsF(font).horizontalAdvance(text) + 16
        box = QRectF(min(max(x - wide / 2, track.left()), track.right() - wide), 2, wide, theme.px(18))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("ink"))
        painter.drawRoundedRect(box, box.height() / 2, box.height() / 2)
        painter.setPen(theme.color("ground"))
        painter.setFont(font)
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self.setFocus()
        self._held = self._ring_at(event.position().x(), event.position().y())
        if event.position().x() < self._theme.px(64):
            self.play()
        elif self._held is not None:
            self._timer.stop()
            self.key_taken.emit()
            self.update()
        else:
            self.mouseMoveEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        track = self._track()
        if self._held is not None:
            share = (event.position().x() - track.left()) / track.width()
            snap = 100.0 if event.modifiers() & Qt.KeyboardModifier.ControlModifier else 10.0
            self.key_dragged.emit(self._held, round((self._leaves + share * self._time) * snap) / snap)
        elif event.position().x() >= self._theme.px(64):
            self._timer.stop()
            self.go((event.position().x() - track.left()) / track.width())

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._let_go(abandoned=False)

    def _let_go(self, *, abandoned: bool) -> None:
        if self._held is not None:
            self._held = None
            self.key_dropped.emit(abandoned)
            self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event.key() == Qt.Key.Key_Escape and self._held is not None:
            self._let_go(abandoned=True)
            return
        step = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        if event.key() == Qt.Key.Key_Space:
            self.play()
        elif event.key() == Qt.Key.Key_Left:
            self.go(self.share - 0.01 * step)
        elif event.key() == Qt.Key.Key_Right:
            self.go(self.share + 0.01 * step)
        elif event.key() == Qt.Key.Key_Home:
            self.go(0.0)
        elif event.key() == Qt.Key.Key_End:
            self.go(1.0)
        else:
            super().keyPressEvent(event)
