"""Stops on the drawing: a crossed lantern at the place of each, in the corner those that have none in this view."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QObject, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QAbstractButton, QWidget

from hazel_lantern.core.nouns.finding import STOP, Finding
from hazel_lantern.core.nouns.sketch import Handle, Size, Sketch
from hazel_lantern.desktop.stage.painter import Scale, size_line
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.glyphs import paint_lantern
from hazel_lantern.desktop.widgets.words import tip

MOST = 3  # stops without a place that the corner names


class StopMark(QAbstractButton):
    """One stop; pressing it lays its finding open."""

    def __init__(self, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self._theme, self.key, self._words = theme, "", ""
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def show_stop(self, finding: Finding, words: str) -> None:
        self.key, self._words = finding.key, words
        size = self._theme.px(24)
        wide = self.fontMetrics().horizontalAdvance(words) + self._theme.px(16) if words else 0
        self.setFixedSize(size + wide, size)
        self.setAccessibleName(f"Stop: {finding.title}")
        self.setToolTip(tip(finding.title))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme = QPainter(self), self._theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        live = self.underMouse() or self.hasFocus()
        painter.setPen(theme.color("stop"))
        painter.setBrush(theme.color("raised" if live else "ground"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 11, 11)
        size = theme.px(24)
        paint_lantern(painter, QRectF(4, 3, size - 8, size - 7), STOP, theme)
        painter.setPen(theme.color("ink"))
        painter.drawText(self.rect().adjusted(size, 0, -4, 0), Qt.AlignmentFlag.AlignVCenter, self._words)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if Qt.Key(event.key()) in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.click()
        else:
            super().keyPressEvent(event)


class StopMarks(QObject):
    """All of them on one stage."""

    asked = pyqtSignal(str)

    def __init__(self, theme: Theme, stage: QWidget) -> None:
        super().__init__(stage)
        self._theme, self._stage = theme, stage
        self._stops: tuple[Finding, ...] = ()
        self._marks: list[StopMark] = []

    def show_stops(self, stops: Sequence[Finding]) -> None:
        self._stops = tuple(stops)

    def lay(self, sketch: Sketch | None, scale: Scale | None, boxes: Sequence[QRectF]) -> None:
        """Put each beside what it is about; keep clear of labels (boxes) as far as there is room."""
        placed, without = [], []
        spots = _spots(sketch, scale) if sketch is not None and scale is not None else {}
        inside = QRectF(self._stage.rect()).adjusted(12, 40, -12, -12)
        for finding in self._stops:
            at = spots.get(finding.where)
            if at is not None and inside.contains(at):
                placed.append((finding, at))
            else:
                without.append(finding)
        shown = [*((f, at, "") for f, at in placed), *((f, None, f.title) for f in without[:MOST])]
        while len(self._marks) < len(shown):
            mark = StopMark(self._theme, self._stage)
            mark.clicked.connect(lambda _=False, mark=mark: self.asked.emit(mark.key))
            self._marks.append(mark)
        taken = list(boxes)
        foot = self._stage.height() - self._theme.px(34)
        for n, mark in enumerate(self._marks):
            mark.setVisible(n < len(shown))
            if n >= len(shown):
                continue
            finding, at, words = shown[n]
            mark.show_stop(finding, words)
            box = QRectF(0, 0, mark.width(), mark.height())
            if at is None:
                box.moveTopLeft(QPointF(self._theme.px(12), foot))
                foot -= self._theme.px(28)
            else:
                box = _clear(box, at, taken)
            taken.append(box)
            mark.move(round(box.left()), round(box.top()))
            mark.raise_()


def _spots(sketch: Sketch, scale: Scale) -> dict[str, QPointF]:
    """Where the inputs that a drawing shows lie on it."""
    found = {}
    for item in sketch.items:
        if isinstance(item, Size) and item.key:
            a, b = size_line(item, scale)
            found[item.key] = (a + b) / 2
    for item in sketch.items:
        if isinstance(item, Handle):
            for key, _ in item.moves:
                found.setdefault(key, scale.at(item.at))
    return found


def _clear(box: QRectF, at: QPointF, taken: Sequence[QRectF]) -> QRectF:
    """The box beside a place, where it meets none of those that are taken; at the first place tried where all do."""
    tries = []
    for dx, dy in (
        (26, -22),
        (-26, -22),
        (26, 22),
        (-26, 22),
        (0, -34),
        (0, 34),
        (48, 0),
        (-48, 0),
        (64, -30),
        (-64, -30),
    ):
        tried = QRectF(box)
        tried.moveCenter(at + QPointF(dx, dy))
        tries.append(tried)
    return next((one for one in tries if not any(one.intersects(other) for other in taken)), tries[0])
