"""The move strip: play, the speed over time, the playhead all stations share."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from PyQt6.QtCore import QElapsedTimer, QPointF, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QBrush, QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QWidget

from hazel_lantern.core.document.project import Axis, Shot
from hazel_lantern.core.document.shot import EACH, FOCUS, KEYED
from hazel_lantern.core.motion.profile import timing
from hazel_lantern.core.motion.shapes import RAMPED
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.plot import ticks

FRAME, MOMENTS = 16, 90
TALL = 0.82  # share of the track that the greatest speed fills
SPARE = 0.9  # share of the track that the clock fills, so that the last key can be dragged later
CORNER = "shot.ramp"  # the ring where the first ramp ends
LANE = 15  # pixels of the row of one axis


class Bands(Struct, frozen=True):
    """What bounds the move: speed beyond which it judders, and acceleration beyond what the rig is judged for, each as
    a share of the move's own greatest; infinite where nothing is known.
    """

    speed: float = math.inf
    acceleration: float = math.inf


class Strip(QWidget):
    """Speed of the move over its time with its keys, and a row of rings for each axis that has keys; drag or step the
    playhead, Space plays.
    """

    moved = pyqtSignal(float)
    key_taken = pyqtSignal()
    key_dragged = pyqtSignal(str, float)
    key_dropped = pyqtSignal(bool)  # whether it was let go of as it was before

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("strip")
        self._theme = theme
        self.share, self._time, self._leaves, self._span = 0.6, 8.0, 0.0, 8.0
        self._words = ""
        self._shown: object = None
        self._speed, self._hard = np.zeros(MOMENTS), np.zeros(MOMENTS)
        self._bands = Bands()
        self._edited = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._rings: tuple[Ring, ...] = ()
        self._lanes: tuple[str, ...] = ()
        self._holds: tuple[tuple[float, float], ...] = ()
        self._held: Ring | None = None
        self._timer = QTimer(self)
        self._timer.setInterval(FRAME)
        self._timer.timeout.connect(self._tick)
        self._clock = QElapsedTimer()
        self._from = 0.0
        self.reduced = False
        self._grow()

    def edit(self, edited: bool) -> None:
        """Whether the move is worked on here: the strip is taller then."""
        self._edited = edited
        self._grow()

    def _grow(self) -> None:
        self.setFixedHeight(self._theme.px((100 if self._edited else 66) + LANE * len(self._lanes)))

    @property
    def playing(self) -> bool:
        return self._timer.isActive()

    def show_move(self, shot: Shot, words: str, display: Display, bands: Bands) -> None:
        """The speed of a shot's move over its time, and where its keys are."""
        shown = (shot.keys, shot.segments, shot.axes, shot.aim, words, bands)
        if shown == self._shown:
            return
        profile = timing(shot.keys, shot.segments)
        self._shown, self._time, self._words, self._bands = shown, profile.duration, words, bands
        self._leaves = shot.leaves_s
        ends = shot.keys[-1].time_s + shot.hold_end_s
        if self._held is None:
            self._span = ends / SPARE
        waits = ((key.time_s, key.time_s + key.hold_s) for key in shot.keys)
        self._holds = tuple((a, b) for a, b in waits if b > a)
        u = np.linspace(0, 1, MOMENTS)
        self._speed = np.abs(profile.speed(u)) / (profile.peak_speed or 1.0)
        hardest = profile.peak_acceleration
        self._hard = np.abs(profile.acceleration(u)) / hardest if math.isfinite(hardest) and hardest else 0 * u
        lanes = tuple(axis for axis in shot.axes if axis.how == KEYED and (axis.id == FOCUS or shot.aim == EACH))
        if tuple(axis.id for axis in lanes) != self._lanes:
            self._lanes = tuple(axis.id for axis in lanes)
            self._grow()
        self._rings = (*_of_move(shot), *(ring for n, axis in enumerate(lanes, 1) for ring in _of_axis(axis, n)))
        if self._held is not None:
            self._held = next((ring for ring in self._rings if ring.key == self._held.key), None)
        self.setAccessibleName(f"Move strip, {words}, at {display.text(self.share * self._time, 's')}")
        self.update()

    def follow(self, shot: Shot, display: Display) -> None:
        """The move as the hand has it now; what bounds it follows."""
        self.show_move(shot, self._words, display, self._bands)

    def _track(self) -> QRectF:
        theme = self._theme
        foot = theme.px(24 if self._edited else 21) + theme.px(LANE) * len(self._lanes)
        return QRectF(self.rect()).adjusted(theme.px(96), theme.px(20 if self._edited else 14), -theme.px(24), -foot)

    def _across(self, time: float) -> float:
        """Where a moment of the clock lies [px]."""
        track = self._track()
        return track.left() + time / self._span * track.width()

    def _at(self, share: float) -> float:
        """The clock at a share of the move's time [s]."""
        return self._leaves + share * self._time

    def _share_at(self, x: float) -> float:
        track = self._track()
        return ((x - track.left()) / track.width() * self._span - self._leaves) / self._time

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
        self._paint_holds(painter, track)
        self._paint_curve(painter, track)
        painter.setFont(theme.font(11.5))
        painter.setPen(theme.color("muted"))
        words = self.words_box
        if words is not None:
            painter.drawText(words, Qt.AlignmentFlag.AlignLeft, self._words)
        for n, axis in enumerate(self._lanes, 1):
            high = self._row(track, n)
            painter.setPen(QPen(theme.color("line"), 1.0))
            painter.drawLine(QPointF(track.left(), high), QPointF(track.right(), high))
            painter.setPen(theme.color("muted"))
            box = QRectF(track.left() - theme.px(46), high - theme.px(9), theme.px(40), theme.px(18))
            painter.drawText(box, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, axis)
        painter.setFont(theme.font(11.5, numbers=True))
        painter.setPen(theme.color("muted"))
        foot = self.height() - theme.px(17)
        for t in ticks(0, self._span, max(2, min(10, int(track.width() / self._theme.px(52))))):
            box = QRectF(self._across(t) - theme.px(30), foot, theme.px(60), theme.px(15))
            painter.drawText(box, Qt.AlignmentFlag.AlignHCenter, f"{t:g} s")
        self._playhead(painter, track)
        for ring in self._rings:
            self._paint_ring(painter, track, ring)

    @property
    def words_box(self) -> QRectF | None:
        """Where it is said what the move is: before the time at the playhead where there is room, else beyond it, or
        nowhere.
        """
        track, pill, gap = self._track(), self.time_box, self._theme.px(6)
        long = QFontMetricsF(self._theme.font(11.5)).horizontalAdvance(self._words) + 1
        for start, end in ((track.left() + 4, pill.left() - gap), (pill.right() + gap, track.right())):
            if start + long <= end:
                return QRectF(start, 0, long, self._theme.px(16))
        return None

    @property
    def time_box(self) -> QRectF:
        """The pill with the time over the playhead."""
        track, x = self._track(), self._across(self._at(self.share))
        font = self._theme.font(11.5, weight=700, numbers=True)
        wide = QFontMetricsF(font).horizontalAdvance(f"{self._at(self.share):.2f} s") + 16
        return QRectF(min(max(x - wide / 2, track.left()), track.right() - wide), 2, wide, self._theme.px(18))

    def _paint_holds(self, painter: QPainter, track: QRectF) -> None:
        """Where it stands still: hatched."""
        theme = self._theme
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QBrush(theme.color("line"), Qt.BrushStyle.BDiagPattern))
        for a, b in self._holds:
            painter.drawRect(QRectF(QPointF(self._across(a), track.top()), QPointF(self._across(b), track.bottom())))

    def _paint_curve(self, painter: QPainter, track: QRectF) -> None:
        """The speed; hatched where it speeds up harder, or goes faster, than what bounds it."""
        theme, speeds = self._theme, self._speed.tolist()
        points = [
            QPointF(self._across(self._at(k / (MOMENTS - 1))), track.bottom() - y * track.height() * TALL)
            for k, y in enumerate(speeds)
        ]
        left, right = QPointF(points[0].x(), track.bottom()), QPointF(points[-1].x(), track.bottom())
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("lantern", 70))
        painter.drawPolygon(QPolygonF([left, *points, right]))
        over = (self._hard > self._bands.acceleration) | (self._speed > self._bands.speed)
        painter.setBrush(QBrush(theme.color("watch"), Qt.BrushStyle.Dense5Pattern))
        for k in np.flatnonzero(over[1:] | over[:-1]).tolist():
            a, b = points[k], points[k + 1]
            painter.drawPolygon(QPolygonF([QPointF(a.x(), track.bottom()), a, b, QPointF(b.x(), track.bottom())]))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(theme.color("lantern"), 1.8))
        painter.drawPolyline(QPolygonF(points))
        if self._bands.speed * TALL <= 0.95:
            high = track.bottom() - self._bands.speed * track.height() * TALL
            painter.setPen(QPen(theme.color("watch"), 1.0, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(track.left(), high), QPointF(track.right(), high))
            painter.setFont(theme.font(11.5))
            box = QRectF(track.left(), high - theme.px(16), track.width() - 2, theme.px(16))
            painter.drawText(box, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignBottom, "judders above")

    def _paint_ring(self, painter: QPainter, track: QRectF, ring: Ring) -> None:
        """A ring with its number; where the first ramp ends a small one on the curve. The one in the hand is filled."""
        theme = self._theme
        at = QPointF(self._across(ring.time), self._high(track, ring))
        held = self._held is not None and ring.key == self._held.key
        small = ring.key == CORNER
        size = theme.px(4.5 if small or not self._edited else 7.5 if ring.row == 0 else 5)
        painter.setPen(QPen(theme.color("lantern"), 2.0))
        painter.setBrush(theme.color("lantern") if held else theme.color("ground"))
        painter.drawEllipse(at, size, size)
        if ring.words and self._edited:
            painter.setPen(theme.color("on_lantern" if held else "ink"))
            painter.setFont(theme.font(11.5, weight=700, numbers=True))
            box = QRectF(at.x() - size, at.y() - size, 2 * size, 2 * size)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, ring.words)

    def _ring_at(self, x: float, y: float) -> Ring | None:
        """The ring under the hand."""
        track, reach = self._track(), self._theme.px(11)
        near = [
            (math.hypot(self._across(ring.time) - x, self._high(track, ring) - y), n)
            for n, ring in enumerate(self._rings)
        ]
        found = min(near, default=(math.inf, 0))
        return self._rings[found[1]] if found[0] <= reach else None

    def _row(self, track: QRectF, n: int) -> float:
        """How far down the row of an axis lies."""
        return track.bottom() + self._theme.px(LANE) * (n - 0.5) + self._theme.px(4)

    def _high(self, track: QRectF, ring: Ring) -> float:
        """How far down a ring lies: keys of the move on its foot, the corner on the curve,
        those of an axis in its row."""
        if ring.row:
            return self._row(track, ring.row)
        if ring.key != CORNER:
            return track.bottom()
        k = round((ring.time - self._leaves) / self._time * (MOMENTS - 1))
        return track.bottom() - float(self._speed[min(max(k, 0), MOMENTS - 1)]) * track.height() * TALL

    def _playhead(self, painter: QPainter, track: QRectF) -> None:
        theme = self._theme
        x = self._across(self._at(self.share))
        painter.setPen(QPen(theme.color("ink"), 1.6))
        painter.drawLine(QPointF(x, track.top() - 2), QPointF(x, track.bottom()))
        box = self.time_box
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("ink"))
        painter.drawRoundedRect(box, box.height() / 2, box.height() / 2)
        painter.setPen(theme.color("ground"))
        painter.setFont(theme.font(11.5, weight=700, numbers=True))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, f"{self._at(self.share):.2f} s")

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
        share = self._share_at(event.position().x())
        if self._held is not None:
            snap = 100.0 if event.modifiers() & Qt.KeyboardModifier.ControlModifier else 10.0
            self.key_dragged.emit(self._held.key, round(self._at(share) * snap) / snap)
        elif event.position().x() >= self._theme.px(64):
            self._timer.stop()
            self.go(share)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._let_go(abandoned=False)

    def _let_go(self, *, abandoned: bool) -> None:
        if self._held is not None:
            self._held, self._shown = None, None
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


class Ring(Struct, frozen=True):
    """Something on the strip to be dragged: what it sets, its time [s], its number, and the row it stands in: 0 for the
    move, then the axes.
    """

    key: str
    time: float
    words: str
    row: int


def _of_move(shot: Shot) -> list[Ring]:
    """Keys of the move, the first where it leaves, and the corner of its ease."""
    last, first = len(shot.keys) - 1, shot.segments[0]
    rings = [Ring("shot.hold_start", shot.leaves_s, "1", 0)]
    if first.shape in RAMPED:
        rings.append(Ring(CORNER, shot.leaves_s + first.ramp * (shot.keys[1].time_s - shot.leaves_s), "", 0))
    for n, key in enumerate(shot.keys[1:], 1):
        rings.append(Ring(f"key.{n}.time" if last > 1 else "shot.time", key.time_s, str(n + 1), 0))
    return rings


def _of_axis(axis: Axis, row: int) -> list[Ring]:
    return [Ring(f"axis.{axis.id}.{n}.time", key.time_s, "", row) for n, key in enumerate(axis.keys)]
