"""Pills and handles: small child widgets over the stage, so that keys and screen readers reach them."""

from __future__ import annotations

import math

from PyQt6.QtCore import QPointF, QRectF, QSizeF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPen
from PyQt6.QtWidgets import QWidget

from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.core.nouns.sketch import Handle, Size
from hazel_lantern.core.nouns.units import INCH
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.words import tip
from hazel_lantern.session.session import Session

LIT = 1800  # ms that a place stands out when it was pointed at
FLAT = 1e-9  # less than this a drag does not change a parameter by
ARROWS = {Qt.Key.Key_Right: 1, Qt.Key.Key_Up: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Down: -1}


def arrow_step(session: Session, unit: str, event: QKeyEvent | None) -> float:
    """What an arrow key adds, in SI: a step of the display, with Shift ten."""
    times = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
    return times * ARROWS[Qt.Key(event.key())] * session.display.step(unit)


def nudge(session: Session, key: str, event: QKeyEvent | None) -> str | None:
    """Step a parameter with the arrow keys, Shift ten times; the reason when it cannot go further, None when it is
    another key.
    """
    if Qt.Key(event.key()) not in ARROWS:
        return None
    quantity = session.parameters()[key]
    assert isinstance(quantity, Quantity)
    try:
        session.set(key, round(float(session.value(key)) + arrow_step(session, quantity.unit, event), 9))  # type: ignore[arg-type]
    except InputError as error:
        return error.allowed
    return ""


def name_it(widget: QWidget, name: str) -> None:
    """For screen readers, which are told each time it is set, changed or not."""
    if widget.accessibleName() != name:
        widget.setAccessibleName(name)


class Pill(QWidget):
    """The value of a size line. Click or Enter to type when it may be set."""

    edit_wanted = pyqtSignal(str)
    refused = pyqtSignal(str)

    def __init__(self, session: Session, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self._session, self._theme = session, theme
        self.key, self._text = "", ""
        self._lit = QTimer(self)
        self._lit.setSingleShot(True)
        self._lit.setInterval(LIT)
        self._lit.timeout.connect(self.update)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)

    def show_size(self, size: Size, text: str) -> None:
        if (text, size.key) != (self._text, self.key):
            self.update()
        self._text = text
        if size.key != self.key or not self.accessibleName():
            self.key = size.key
            self.setFocusPolicy(Qt.FocusPolicy.StrongFocus if size.key else Qt.FocusPolicy.NoFocus)
            self.setCursor(Qt.CursorShape.IBeamCursor if size.key else Qt.CursorShape.ArrowCursor)
            self.setObjectName(f"pill.{size.key}" if size.key else "pill")
        label = self._session.parameters()[size.key].label if size.key else size.words
        self.setToolTip(tip(f"{label}: click to type") if size.key else "")
        name_it(self, f"{label}, {text}")

    def light(self) -> None:
        """Stand out for a moment."""
        self._lit.start()
        self.update()

    def wanted(self, text: str) -> QSizeF:
        metrics = QFontMetricsF(self._theme.font(12.5, weight=600, numbers=True))
        return QSizeF(metrics.horizontalAdvance(text) + self._theme.px(18), self._theme.px(24))

    def paintEvent(self, event: object) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        live = bool(self.key) and (self.underMouse() or self.hasFocus() or self._lit.isActive())
        painter.setPen(
            QPen(
                self._theme.color("lantern" if live else ("ink" if self.key else "line")),
                1.8 if self.hasFocus() else 1.1,
            )
        )
        painter.setBrush(self._theme.color("glow" if live else "ground"))
        box = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        painter.drawRoundedRect(box, box.height() / 2, box.height() / 2)
        painter.setFont(self._theme.font(12.5, weight=600, numbers=True))
        painter.setPen(self._theme.color("ink" if self.key else "muted"))
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, self._text)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if self.key and event.button() == Qt.MouseButton.LeftButton:
            self.edit_wanted.emit(self.key)
        else:
            event.ignore()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if Qt.Key(event.key()) in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.key:
            self.edit_wanted.emit(self.key)
            return
        reason = nudge(self._session, self.key, event) if self.key else None
        if reason is None:
            super().keyPressEvent(event)
        elif reason:
            self.refused.emit(reason)


class Grip(QWidget):
    """A lantern-coloured ring with a small bail: drag it along what it moves."""

    refused = pyqtSignal(str)
    taken = pyqtSignal(str)
    SIZE = 30
    _shown: tuple[object, ...]
    _handle: Handle | None

    def __init__(self, session: Session, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self._session, self._theme = session, theme
        self._shown, self._handle, self._px = (), None, 1.0
        self._label, self._quiet = "", False
        self._start: tuple[Handle, QPointF, tuple[float, ...], float] | None = None
        self._gesture = 0
        self._lit = QTimer(self)
        self._lit.setSingleShot(True)
        self._lit.setInterval(LIT)
        self._lit.timeout.connect(self.update)
        self.setFixedSize(self.SIZE, self.SIZE)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.OpenHandCursor)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)

    def light(self) -> None:
        """Stand out for a moment."""
        self._lit.start()
        self.update()

    def show_handle(self, handle: Handle, at: QPointF, px: float) -> None:
        """A handle at a place on the stage, at a scale in pixels a metre."""
        values, show = self._values(handle), self._session.display
        if (handle, at, px, values, show.system) == self._shown:
            return
        self._shown = (handle, at, px, values, show.system)
        if handle.quiet != self._quiet:
            self._quiet = handle.quiet
            self.update()
        self._handle, self._px = handle, px
        self.setObjectName(f"handle.{handle.key}")
        quantity = self._session.parameters()[handle.key]
        assert isinstance(quantity, Quantity)
        self._label = handle.name or quantity.label
        name_it(self, f"{self._label}, {show.text(values[0], quantity.unit)}, handle")
        self.setToolTip(tip(f"{self._label}: drag, or arrow keys"))
        self.move(round(at.x() - self.SIZE / 2), round(at.y() - self.SIZE / 2))

    @property
    def key(self) -> str:
        return self._handle.key if self._handle else ""

    def paintEvent(self, event: object) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        live = self.underMouse() or self.hasFocus() or self._start is not None or self._lit.isActive()
        middle = QPointF(self.SIZE / 2, self.SIZE / 2)
        if self._quiet and not live:
            painter.setPen(QPen(self._theme.color("muted"), 1.2))
            painter.setBrush(self._theme.color("ground"))
            painter.drawEllipse(middle, 2.6, 2.6)
            return
        painter.setPen(QPen(self._theme.color("lantern"), 3.0 if live else 2.2))
        painter.setBrush(self._theme.color("ground", 0 if not live else 160))
        painter.drawEllipse(middle, 7.0, 7.0)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(self._theme.color("lantern"), 1.8))
        painter.drawArc(QRectF(middle.x() - 4, middle.y() - 12.5, 8, 9), 0, 180 * 16)
        if self.hasFocus():
            painter.setPen(QPen(self._theme.color("ink"), 1.2, Qt.PenStyle.DotLine))
            painter.drawEllipse(middle, 12.5, 12.5)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event.button() != Qt.MouseButton.LeftButton or self._handle is None:
            event.ignore()
            return
        self.setFocus()
        self.taken.emit(self.key)
        self._gesture = self._session.new_gesture()
        self._start = (self._handle, event.globalPosition(), self._values(self._handle), self._px)
        self.setCursor(Qt.CursorShape.ClosedHandCursor)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if self._start is None:
            return
        handle, origin, values, px = self._start
        moved = (event.globalPosition() - origin) / px
        snap = 0.5 * INCH if self._session.display.system == "in" else 0.01
        wanted = []
        for (key, (right, up)), value, now in zip(handle.moves, values, self._values(handle), strict=True):
            # The screen's y points down.
            new = value + moved.x() * right - moved.y() * up
            if not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
                new = round(new / snap) * snap
            if (abs(right) > FLAT or abs(up) > FLAT) and not math.isclose(new, now, abs_tol=1e-9):
                wanted.append((key, new))
        self._change(handle, wanted, self._gesture)

    def _change(self, handle: Handle, wanted: list[tuple[str, float]], gesture: int = 0) -> None:
        try:
            if len(handle.moves) > 1 and wanted:
                self._session.apply(f"Move {self._label}", wanted, gesture)
            elif wanted:
                self._session.set(*wanted[0], gesture)
        except InputError as error:
            self.refused.emit(error.allowed)

    def _values(self, handle: Handle) -> tuple[float, ...]:
        return tuple(float(self._session.value(key)) for key, _ in handle.moves)  # type: ignore[arg-type]

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._start = None
        self.setCursor(Qt.CursorShape.OpenHandCursor)
        self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event.key() == Qt.Key.Key_Escape and self._start is not None:
            self._start = None
            self._session.abandon(self._gesture)
            return
        if self._handle is not None and len(self._handle.moves) > 1 and Qt.Key(event.key()) in ARROWS:
            way, step = (
                int(Qt.Key(event.key()) in (Qt.Key.Key_Up, Qt.Key.Key_Down)),
                arrow_step(self._session, "m", event),
            )
            moved = [
                (key, slope[way], value)
                for (key, slope), value in zip(self._handle.moves, self._values(self._handle), strict=True)
                if abs(slope[way]) > FLAT
            ]
            self._change(self._handle, [(key, round(value + slope * step, 9)) for key, slope, value in moved])
            return
        reason = nudge(self._session, self.key, event)
        if reason is None:
            super().keyPressEvent(event)
        elif reason:
            self.refused.emit(reason)
