"""The trail: stations in working order, each with its worst finding and its headline."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QFontMetricsF, QKeyEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QAbstractButton, QButtonGroup, QVBoxLayout, QWidget

from hazel_lantern.core.nouns.finding import CLEAR, STOP, WATCH
from hazel_lantern.core.stations import STATIONS, Station
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.glyphs import NAMES, ROLES, paint_lantern
from hazel_lantern.desktop.widgets.scroll import Scroll
from hazel_lantern.desktop.widgets.words import Label, together
from hazel_lantern.session.session import Session

WIDTH = 206


class Stop(QAbstractButton):
    """One station on the trail."""

    def __init__(self, station: Station, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.key, self._name, self._theme = station.key, station.name, theme
        self._state: str | None = None
        self._line = ""
        self._shown: tuple[str | None, str, int] = (None, "", 0)
        self.setCheckable(True)
        self.setObjectName(f"station.{station.key}")
        self.setToolTip(f"Ctrl+{station.number}")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.setMinimumHeight(theme.px(52))

    def show_state(self, state: str | None, line: str) -> None:
        if (state, line, self.width()) == self._shown:
            return
        self._shown = (state, line, self.width())
        self._state, self._line = state, line
        metrics = QFontMetricsF(self._theme.font(12))
        wide = max(60, self.width() - self._theme.px(56))
        tall = metrics.boundingRect(QRectF(0, 0, wide, 400), int(Qt.TextFlag.TextWordWrap), together(line)).height()
        self.setFixedHeight(round(tall + self._theme.px(40)))
        self.setAccessibleName(f"{self._name}, {NAMES[state]}")
        self.setAccessibleDescription(line)
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme = QPainter(self), self._theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.isChecked():
            painter.fillRect(self.rect(), theme.color("glow"))
            painter.fillRect(QRectF(0, 0, 3, self.height()), theme.color("lantern"))
        elif self.underMouse():
            painter.fillRect(self.rect(), theme.color("raised"))
        if self.hasFocus():
            painter.setPen(theme.color("lantern"))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(4, 2, -4, -2), 5, 5)
        px = theme.px
        paint_lantern(painter, QRectF(px(15), px(10), px(20), px(20)), self._state, theme)
        painter.setPen(theme.color("ink"))
        painter.setFont(theme.font(13.5, weight=700))
        painter.drawText(
            QRectF(px(45), px(8), self.width() - px(50), px(20)), Qt.AlignmentFlag.AlignVCenter, self._name
        )
        painter.setPen(theme.color("muted"))
        painter.setFont(theme.font(12))
        painter.drawText(
            QRectF(px(45), px(28), self.width() - px(56), self.height() - px(30)),
            int(Qt.TextFlag.TextWordWrap),
            together(self._line),
        )

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if Qt.Key(event.key()) in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.click()
        else:
            super().keyPressEvent(event)


class Counts(QAbstractButton):
    """How many findings of each state the rig has; pressing leads to the worst."""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme, self._numbers = theme, dict.fromkeys((STOP, WATCH, CLEAR), 0)
        self.setObjectName("counts")
        self.setFixedHeight(theme.px(30))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setToolTip("Show the worst finding of the whole rig")

    def show_counts(self, numbers: dict[str, int]) -> None:
        if numbers != self._numbers:
            self._numbers = numbers
            self.setAccessibleName(", ".join(f"{count} {NAMES[state]}" for state, count in numbers.items()))
            self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme = QPainter(self), self._theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.underMouse() or self.hasFocus():
            painter.setPen(theme.color("lantern") if self.hasFocus() else Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("raised"))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(6.5, 2.5, -6.5, -1.5), 5, 5)
        painter.setFont(theme.font(12.5, weight=700, numbers=True))
        x, size = float(theme.px(14)), float(theme.px(16))
        for state, count in self._numbers.items():
            paint_lantern(painter, QRectF(x, (self.height() - size) / 2 + 1, size, size), state, theme)
            x += size + theme.px(5)
            painter.setPen(theme.color(ROLES[state]))
            text = str(count)
            wide = painter.fontMetrics().horizontalAdvance(text)
            painter.drawText(QRectF(x, 1, wide + 2, self.height()), Qt.AlignmentFlag.AlignVCenter, text)
            x += wide + theme.px(14)


class Trail(QWidget):
    """The left column."""

    chosen = pyqtSignal(str)
    worst_wanted = pyqtSignal()

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session, self._theme = session, theme
        self.setFixedWidth(theme.side(WIDTH))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 10, 0, 8)
        column.setSpacing(2)
        held = QWidget()
        stops = QVBoxLayout(held)
        stops.setContentsMargins(0, 0, 0, 0)
        stops.setSpacing(2)
        self._scroll = Scroll(held, theme.px(90))
        self._group = QButtonGroup(self)
        self._stops: dict[str, Stop] = {}
        for station in STATIONS:
            stop = Stop(station, theme)
            stop.clicked.connect(lambda _=False, key=station.key: self.chosen.emit(key))
            self._group.addButton(stop)
            self._stops[station.key] = stop
            stops.addWidget(stop)
        column.addWidget(self._scroll)
        column.addStretch(1)
        column.addWidget(theme.rule(across=True))
        self.counts = Counts(theme)
        self.counts.clicked.connect(self.worst_wanted)
        column.addWidget(self.counts)
        self._below = Label()
        self._below.setContentsMargins(14, 0, 10, 0)
        self._below.setFont(theme.font(12))
        self._below.setWordWrap(True)
        theme.ink(self._below, "muted")
        column.addWidget(self._below)

    def show_station(self, key: str) -> None:
        self._stops[key].setChecked(True)
        QTimer.singleShot(0, lambda: self._scroll.ensureWidgetVisible(self._stops[key], 0, 0))  # once it has its place

    def refresh(self) -> None:
        """States, headlines and counts as they are now."""
        result, show = self._session.evaluation, self._session.display
        saved = "not saved yet" if self._session.path is None else "unsaved changes" if self._session.dirty else "saved"
        if result is None:
            for stop in self._stops.values():
                stop.show_state(None, "")
            self._below.setText(saved)
            return
        for station in STATIONS:
            key, stop = station.key, self._stops[station.key]
            stop.setVisible(station.holds(result.kind.stations))
            worked = key in result.rig.worked
            stop.show_state(result.state(key) if worked else None, result.headline(key, show))
        self.counts.show_counts(
            {state: sum(f.state == state for f in result.findings) for state in (STOP, WATCH, CLEAR)}
        )
        parts = [
            saved,
            *(
                show.text(result.figures[k].value, result.figures[k].unit)
                for k in ("rig.mass", "build.cost")
                if k in result.figures
            ),
        ]
        self._below.setText(" · ".join(map(together, parts)))
