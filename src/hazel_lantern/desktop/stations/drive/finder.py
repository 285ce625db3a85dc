"""Find the gears: trains that serve all wanted times, looked for in the background,
each drawn small and taken by a press."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QAbstractButton, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.driving.driven import Driven
from hazel_lantern.core.driving.find import Answer, Search, find
from hazel_lantern.core.kinds.base import DriveAxis
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.words import Label, tip
from hazel_lantern.session.jobs import Job
from hazel_lantern.session.session import Session

LINE, DRAWN = 16, 84  # px of a line of an answer, and of its drawing's width


class Finder(QWidget):
    """The search for one axis and its answers."""

    refused = pyqtSignal(str)

    def __init__(self, axis: DriveAxis, session: Session, theme: Theme) -> None:
        super().__init__()
        self.axis, self._session, self._theme = axis, session, theme
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 2, 0, 2)
        column.setSpacing(5)
        head = QHBoxLayout()
        self.start = QPushButton("Find the gears")
        self.start.setProperty("act", True)
        self.start.setObjectName(f"gears.find.{axis.key}")
        self.start.setToolTip(tip("Ahead of what comes last, for the shot's time and all others that are wanted."))
        self.start.clicked.connect(lambda _=False: self.search())
        self.said = Label()
        self.said.setWordWrap(True)
        self.said.setObjectName(f"gears.said.{axis.key}")
        self.said.setFont(theme.font(12))
        theme.ink(self.said, "muted")
        head.addWidget(self.start)
        head.addStretch(1)
        column.addLayout(head)
        column.addWidget(self.said)
        self._answers = QVBoxLayout()
        self._answers.setSpacing(4)
        column.addLayout(self._answers)
        self.tiles: list[AnswerTile] = []
        self.job = Job(self)
        self.job.stepped.connect(self._stepped)
        self.job.done.connect(lambda _: self._ended())
        self.job.failed.connect(self._failed)
        self._of: Driven | None = None

    def given(self) -> Driven | None:
        """The axis as it is driven now; None where that does not work."""
        result = self._session.evaluation
        found = result.driven if result is not None else ()
        return next((one for one in found if isinstance(one, Driven) and one.axis.key == self.axis.key), None)

    def search(self) -> None:
        """Look for them, or stop looking."""
        if self.job.running:
            self.job.cancel()
            self._ended()
            self.said.setText("Stopped.")
            return
        given, shelf = self.given(), self._session.catalogue
        if given is None:
            self.refused.emit("The drive has to work before gears can be looked for: see its findings.")
            return
        self._show(())
        self.said.setText("Looking…")
        self.start.setText("Stop looking")
        self._of = given
        self.job.start(lambda: find(given, shelf))

    def _stepped(self, step: Progress[Search]) -> None:
        found = step.answer
        if found is None:
            return
        words = found.words
        if found.answers:
            proven = "proven best of them" if found.proven else "so far"
            many = f"{found.count} trains do it, {proven}" if found.count > 1 else proven
            words = f"Wanted ahead of what comes last 1 : {found.target:.4g}; {many}."
        self.said.setText(words or f"Up to {step.done} pairs: none yet…")
        self._show(found.answers)

    def _failed(self, error: Exception) -> None:
        self._ended()
        self.said.setText("")
        self.refused.emit(f"No gears could be looked for: {error}")

    def _ended(self) -> None:
        self.start.setText("Find the gears")

    def _show(self, answers: tuple[Answer, ...]) -> None:
        for tile in self.tiles:
            self._answers.removeWidget(tile)
            tile.hide()
            tile.deleteLater()
        self.tiles = [AnswerTile(answer, self._session.display, self._theme) for answer in answers]
        for n, tile in enumerate(self.tiles):
            tile.setObjectName(f"gears.{self.axis.key}.{n}")
            tile.clicked.connect(lambda _=False, answer=tile.answer: self.take(answer))
            self._answers.addWidget(tile)

    def take(self, answer: Answer) -> None:
        """The drive with these gears, as one step that can be undone."""
        self._session.apply(f"Gears {answer.said}", answer.changes)

    def refresh(self) -> None:
        """Answers to another question are taken away."""
        now = self.given()
        asked = self._of
        if asked is None or now is None or self.job.running:
            return
        same = (now.drive.source == asked.drive.source and now.load is asked.load) or any(
            t.answer.given.drive.elements == now.drive.elements for t in self.tiles
        )
        if not same:
            self._of = None
            self._show(())
            self.said.setText("")

    def finish(self) -> None:
        """Stop looking."""
        self.job.finish()


class AnswerTile(QAbstractButton):
    """One train: its gears drawn small and to scale, its teeth, what it comes to."""

    def __init__(self, answer: Answer, show: Display, theme: Theme) -> None:
        super().__init__()
        self.answer, self._theme = answer, theme
        play = answer.given.play * float(answer.given.pixels.max())
        off = f"{abs(answer.train.off) * 100:.2g} % off" if abs(answer.train.off) > 1e-9 else "exact"
        self._title, self._side = answer.said, off
        size = f"{show.text(answer.long, 'm')} long, largest {show.text(answer.largest, 'm')}"
        swaps = ", ".join(f"for {show.text(time, 's')} {a:.0f}:{b:.0f} ahead" for time, a, b in answer.changed)
        self._says = [size, f"×{answer.spare:.3g} to spare, play {show.text(play, 'px')}", *filter(None, (swaps,))]
        self.setFixedHeight(theme.px(26 + LINE * len(self._says)))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName(", ".join((self._title, off, *self._says)))
        self.setToolTip(tip("Press to take these gears."))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme = QPainter(self), self._theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        live = self.underMouse() or self.hasFocus()
        painter.setPen(QPen(theme.color("lantern" if live else "line"), 1.6 if self.hasFocus() else 1.1))
        painter.setBrush(theme.color("ground"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)
        top, edge = theme.px(22), theme.px(8)
        self._gears(painter, QRectF(edge, top, theme.px(DRAWN), self.height() - top - theme.px(5)))
        head = QRectF(edge, theme.px(4), self.width() - 2 * edge, theme.px(18))
        painter.setFont(theme.font(12.5, weight=700, numbers=True))
        painter.setPen(theme.color("ink"))
        aside = painter.fontMetrics().horizontalAdvance(self._side) + edge
        title = painter.fontMetrics().elidedText(self._title, Qt.TextElideMode.ElideRight, int(head.width() - aside))
        painter.drawText(head, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, title)
        painter.setPen(theme.color("lantern"))
        painter.drawText(head, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, self._side)
        painter.setFont(theme.font(11.5))
        painter.setPen(theme.color("muted"))
        left = edge + theme.px(DRAWN + 8)
        for n, words in enumerate(self._says):
            line = QRectF(left, top + theme.px(LINE * n), self.width() - left - edge, theme.px(LINE))
            short = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, int(line.width()))
            painter.drawText(line, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, short)

    def _gears(self, painter: QPainter, box: QRectF) -> None:
        """Pitch circles in a row, as they mesh."""
        made = [one for one in self.answer.given.made[: len(self.answer.train.drivers)] if one.second is not None]
        at, circles = 0.0, []
        for one in made:
            assert one.second is not None
            circles.append((at, one.first.radius))
            at += one.apart
            circles.append((at, one.second.radius))
        low, high = min(x - r for x, r in circles), max(x + r for x, r in circles)
        tall = 2 * max(r for _, r in circles)
        scale = min(box.width() / (high - low), box.height() / tall)
        start = box.center().x() - scale * (high - low) / 2
        for n, (x, radius) in enumerate(circles):
            painter.setPen(QPen(self._theme.color("wood"), 1.4))
            painter.setBrush(Qt.BrushStyle.NoBrush if n % 2 else self._theme.color("glow"))
            painter.drawEllipse(QPointF(start + scale * (x - low), box.center().y()), scale * radius, scale * radius)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("ink"))
        for x, _ in circles:
            painter.drawEllipse(QPointF(start + scale * (x - low), box.center().y()), 1.4, 1.4)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if Qt.Key(event.key()) in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.click()
        else:
            super().keyPressEvent(event)
