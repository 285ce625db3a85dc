"""One finding: glyph, title, value, how much of the limit is used, a sentence, and what can be tried."""

from __future__ import annotations

import math

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QEnterEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from hazel_lantern.core.nouns.finding import Finding, Remedy
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.glyphs import ROLES, Lantern
from hazel_lantern.desktop.widgets.words import Label, copies, face, tip, together

WIDEST = 236  # px of a remedy's words on the bench


class Bar(QWidget):
    """How much of a limit is used, with a mark at the limit."""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme, self._use, self._state = theme, 0.0, ""
        self.setFixedHeight(12)

    def show_use(self, use: float, state: str) -> None:
        self._use, self._state = use, state
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        track = QRectF(0, 4, self.width(), 4)
        painter.setBrush(self._theme.color("line"))
        painter.drawRoundedRect(track, 2, 2)
        top = max(1.5, min(self._use, 4.0) * 1.1) if math.isfinite(self._use) else 1.5
        share = min(1.0, self._use / top) if math.isfinite(self._use) else 1.0
        painter.setBrush(self._theme.color(ROLES[self._state]) if self._state in ROLES else self._theme.color("muted"))
        painter.drawRoundedRect(QRectF(0, 4, max(3.0, track.width() * share), 4), 2, 2)
        painter.setPen(QPen(self._theme.color("ink"), 2))
        mark = track.width() / top
        painter.drawLine(round(mark), 1, round(mark), 11)


class RemedyButton(QPushButton):
    """Tries one remedy; hovering or focusing shows it on the stage first."""

    previewed = pyqtSignal(object)

    def __init__(self, remedy: Remedy, display: Display, widest: int, parent: QWidget | None = None) -> None:
        self.words = remedy.label.text(display)
        super().__init__(face(self.words), parent)
        self.remedy = remedy
        self.setAccessibleName(self.words)
        if self.fontMetrics().horizontalAdvance(self.words) > widest:
            # Too long for the bench: two lines, parted near the middle.
            middle = min(
                (k for k, letter in enumerate(self.words) if letter == " "),
                key=lambda k: abs(k - len(self.words) / 2),
                default=0,
            )
            self.setText(face(f"{self.words[:middle]}\n{self.words[middle + 1 :]}" if middle else self.words))
        self.setProperty("act", True)
        self.setObjectName(f"remedy.{remedy.key}")
        if remedy.elsewhere:
            elsewhere = f"Elsewhere: {remedy.elsewhere.text(display)}"
            self.setToolTip(tip(elsewhere))
            self.setAccessibleDescription(elsewhere)

    def enterEvent(self, event: QEnterEvent | None) -> None:
        self.previewed.emit(self.remedy)
        super().enterEvent(event)

    def leaveEvent(self, event: object) -> None:
        self.previewed.emit(None)
        super().leaveEvent(event)  # type: ignore[arg-type]


class FindingCard(QWidget):
    """Shows one finding at a time; made once and reused."""

    tried = pyqtSignal(object)
    previewed = pyqtSignal(object)
    where_clicked = pyqtSignal(str)

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self._finding: Finding | None = None
        self._buttons: list[RemedyButton] = []
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 8, 10, 9)
        column.setSpacing(3)
        head = QHBoxLayout()
        head.setSpacing(8)
        self._lantern = Lantern(theme, None, 18)
        self._title, self._value = Label(), Label()
        self._title.setFont(theme.font(13, weight=700))
        self._title.setWordWrap(True)
        self._title.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Minimum)
        self._value.setFont(theme.font(13, weight=700, numbers=True))
        head.addWidget(self._lantern)
        head.addWidget(self._title, 1)
        head.addWidget(self._value)
        self._bar = Bar(theme)
        self._sentence = Label()
        self._sentence.setWordWrap(True)
        theme.ink(self._sentence, "muted")
        self._sentence.setFont(theme.font(12))
        self._sentence.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Minimum)
        self._tries = QVBoxLayout()
        self._tries.setSpacing(5)
        column.addLayout(head)
        column.addWidget(self._bar)
        column.addWidget(self._sentence)
        column.addLayout(self._tries)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        copies(self, self._told)

    def _told(self) -> str:
        """Title, value and sentence, as they are copied."""
        words = f"{self._title.text()}: {self._value.text()}. {self._sentence.text()}"
        return words.replace("\u00a0", " ")

    @property
    def finding(self) -> Finding | None:
        return self._finding

    def show_finding(self, finding: Finding, display: Display, *, tried: bool) -> None:
        """Another verdict; remedies not tried yet keep their place, greyed."""
        old, self._finding = self._finding, finding
        self._lantern.show_state(finding.state)
        self._title.setText(finding.title)
        self._value.setText("" if finding.says_yes_or_no else display.text(finding.value, finding.unit))
        if old is None or old.state != finding.state:
            self._theme.ink(self._value, ROLES[finding.state])
            self.update()
        self._bar.show_use(finding.use, finding.state)
        words = finding.sentence.text(display) + (f" {finding.hint.text(display)}" if finding.hint else "")
        self._sentence.setText(together(words))
        self.setAccessibleName(f"{finding.title}, {finding.state}")
        self.setAccessibleDescription(words)
        if not tried and old is not None and old.key == finding.key:
            for button in self._buttons:
                button.setEnabled(False)
            return
        labels = [(r.label.text(display), r.changes) for r in finding.remedies]
        if [(b.words, b.remedy.changes) for b in self._buttons] == labels:
            for button in self._buttons:
                button.setEnabled(True)
            return
        for button in self._buttons:
            self._tries.removeWidget(button)
            button.hide()
            button.deleteLater()
        self._buttons = []
        for remedy in finding.remedies:
            button = RemedyButton(remedy, display, self._theme.px(WIDEST), self)
            button.clicked.connect(lambda _=False, remedy=remedy: self.tried.emit(remedy))
            button.previewed.connect(self.previewed)
            self._tries.addWidget(button, 0, Qt.AlignmentFlag.AlignLeft)
            self._buttons.append(button)
            button.show()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """A raised card with its state along the left edge, and a ring around it when it has the focus."""
        if self._finding is None:
            return
        painter, box = QPainter(self), QRectF(self.rect())
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color(ROLES[self._finding.state]))
        painter.drawRoundedRect(box, 8, 8)
        painter.setBrush(self._theme.color("raised"))
        painter.drawRoundedRect(box.adjusted(3, 0, 0, 0), 6, 6)
        if self.hasFocus():
            painter.setPen(self._theme.color("lantern"))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(box.adjusted(0.5, 0.5, -0.5, -0.5), 8, 8)

    def mousePressEvent(self, event: object) -> None:
        if self._finding is not None and self._finding.where:
            self.where_clicked.emit(self._finding.where)
