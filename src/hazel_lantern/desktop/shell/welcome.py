"""The first minute: three ways in, as pictures."""

from __future__ import annotations

import math
from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QPointF, QRectF, QSizeF, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QAbstractButton, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.document.readable import plain
from hazel_lantern.desktop.shell.project_files import RECENT
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.words import Label, face, tip
from hazel_lantern.files.project_file import SUFFIX

LATEST, LONG = 4, 28  # recent files that are offered, letters of their names
WAYS = (
    ("shot", "Start from a shot", "From where to where, in what time"),
    ("rig", "Start from a rig", "Choose one by its picture"),
    ("sample", "Open the sample", "Orchard at Dusk, with several rigs to look at"),
)


class Way(QAbstractButton):
    """One way in: a small picture and two lines."""

    def __init__(self, key: str, title: str, words: str, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.key, self._title, self._words, self._theme = key, title, words, theme
        self.setObjectName(f"way.{key}")
        self.setAccessibleName(title)
        self.setAccessibleDescription(words)
        self.setFixedSize(theme.px(250), theme.px(230))
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme = QPainter(self), self._theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        live = self.underMouse() or self.hasFocus()
        painter.setPen(QPen(theme.color("lantern" if live else "line"), 1.6))
        painter.setBrush(theme.color("raised"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 10, 10)
        self._picture(painter, QRectF(0, theme.px(14), self.width(), theme.px(130)))
        painter.setPen(theme.color("ink"))
        painter.setFont(theme.font(15, weight=700))
        painter.drawText(
            QRectF(0, theme.px(152), self.width(), theme.px(26)), Qt.AlignmentFlag.AlignCenter, self._title
        )
        painter.setPen(theme.color("muted"))
        painter.setFont(theme.font(12))
        painter.drawText(
            QRectF(16, theme.px(178), self.width() - 32, theme.px(40)),
            int(Qt.AlignmentFlag.AlignHCenter) | int(Qt.TextFlag.TextWordWrap),
            self._words,
        )

    def _picture(self, painter: QPainter, box: QRectF) -> None:
        theme = self._theme
        pen = QPen(theme.color("lantern"), 2.6, cap=Qt.PenCapStyle.RoundCap)
        painter.setPen(pen)
        c = box.center()
        if self.key == "shot":
            frame = QRectF(c.x() - 62, c.y() - 36, 124, 72)
            painter.setBrush(theme.color("view"))
            painter.drawRoundedRect(frame, 4, 4)
            pen.setStyle(Qt.PenStyle.DotLine)
            painter.setPen(pen)
            painter.drawArc(QRectF(c.x() - 90, c.y() - 40, 120, 100), -40 * 16, 90 * 16)
        else:
            angle = 0.35 if self.key == "rig" else -0.25
            pivot, along = c + QPointF(-22, 6), QPointF(math.cos(angle), -math.sin(angle))
            painter.setPen(QPen(theme.color("steel"), 5, cap=Qt.PenCapStyle.RoundCap))
            for dx in (-22, 2, 26):
                painter.drawLine(pivot, pivot + QPointF(dx, 52))
            painter.setPen(QPen(theme.color("wood"), 7, cap=Qt.PenCapStyle.RoundCap))
            painter.drawLine(pivot - along * 38, pivot + along * 96)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("weight"))
            painter.drawEllipse(pivot - along * 38, 13, 13)
            painter.setBrush(theme.color("camera"))
            tip = pivot + along * 96
            painter.drawRect(QRectF(tip - QPointF(2, 14), QSizeF(4, 15)))
            painter.drawRect(QRectF(tip - QPointF(11, 30), QSizeF(24, 18)))
            painter.setBrush(theme.color("lantern", 60))
            painter.drawPolygon(QPolygonF([tip + QPointF(13, -21), tip + QPointF(60, -42), tip + QPointF(60, 0)]))


class Welcome(QWidget):
    """Shown when no project is open."""

    chosen = pyqtSignal(str)

    def __init__(self, theme: Theme, recent: Sequence[Path] = (), parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("frame")
        column = QVBoxLayout(self)
        column.addStretch(2)
        title = Label("Hazel Lantern")
        title.setFont(theme.font(26, weight=700))
        title.setAlignment(Qt.AlignmentFlag.AlignCenter)
        words = Label("What should the camera do?")
        words.setFont(theme.font(14))
        words.setAlignment(Qt.AlignmentFlag.AlignCenter)
        theme.ink(words, "muted")
        column.addWidget(title)
        column.addWidget(words)
        column.addSpacing(24)
        row = QHBoxLayout()
        row.setSpacing(18)
        row.addStretch(1)
        for key, name, about in WAYS:
            way = Way(key, name, about, theme)
            way.clicked.connect(lambda _=False, key=key: self.chosen.emit(key))
            row.addWidget(way)
        row.addStretch(1)
        column.addLayout(row)
        if recent:
            column.addSpacing(22)
            column.addLayout(self._recent(theme, recent))
        column.addStretch(3)

    def _recent(self, theme: Theme, recent: Sequence[Path]) -> QHBoxLayout:
        """The files opened last, by name."""
        row = QHBoxLayout()
        row.addStretch(1)
        words = Label("Go on with")
        words.setFont(theme.font(12.5))
        theme.ink(words, "muted")
        row.addWidget(words)
        for path in recent[:LATEST]:
            button = QPushButton(face(plain(path.name.removesuffix(SUFFIX), LONG)))
            button.setProperty("chip", True)
            button.setToolTip(tip(str(path)))
            button.clicked.connect(lambda _=False, path=path: self.chosen.emit(f"{RECENT}{path}"))
            row.addWidget(button)
        row.addStretch(1)
        return row
