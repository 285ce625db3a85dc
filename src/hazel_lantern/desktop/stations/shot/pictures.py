"""The picture at the start, at the playhead and at the end of the move."""

from __future__ import annotations

import math

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QSizePolicy, QWidget

from hazel_lantern.core.answers import LENS, Outline
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.sketch import BODY, SWEEP, Sketch
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.stage.drawing import Drawing
from hazel_lantern.desktop.stage.painter import fit, mark, shown
from hazel_lantern.desktop.theme.theme import Theme

HIGH, NARROW = 172, 170
WORDS = 150  # the least width of the words under a picture
START, NOW, END = "start", "now", "end"


def words_high(theme: Theme, wide: float) -> int:
    """Height of the words under a picture: one line, or two where the picture is narrow for the text."""
    return theme.px(42 if wide < theme.px(NARROW) else 24)


class Picture(QWidget):
    """One small picture with a line of words under it; keeps the last one that could be made."""

    def __init__(self, theme: Theme, name: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme, self._sketch = theme, None
        self._left, self._right = name, ""
        self._drawing = Drawing()
        self.setObjectName(f"picture.{name}")
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        policy = QSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)
        policy.setHeightForWidth(True)
        self.setSizePolicy(policy)

    _sketch: Sketch | None

    def show_picture(self, sketch: Sketch | None, left: str, right: str) -> None:
        if (self._left, self._right) != (left, right):
            self._left, self._right = left, right
            self.setAccessibleName(f"Picture, {left}: {right}")
            self.update(0, self.height() - self._words, self.width(), self._words)
        if sketch is not None:
            grown = self._sketch is None or self._sketch.box != sketch.box
            self._sketch = sketch
            if grown:
                self.updateGeometry()
            self._lay()

    def heightForWidth(self, wide: int) -> int:
        """As high as a picture of this width and its words ask for."""
        x0, y0, x1, y1 = self._sketch.box if self._sketch is not None else (0.0, 0.0, 16.0, 9.0)
        return math.ceil(2 + wide * (y1 - y0) / (x1 - x0)) + words_high(self._theme, wide)

    @property
    def _words(self) -> int:
        return words_high(self._theme, self.width())

    def _frame(self, sketch: Sketch) -> QRectF:
        x0, y0, x1, y1 = sketch.box
        area = QRectF(self.rect()).adjusted(1, 1, -1, -self._words)
        px = min(area.width() / (x1 - x0), area.height() / (y1 - y0))
        return QRectF(area.center().x() - (x1 - x0) * px / 2, area.top(), (x1 - x0) * px, (y1 - y0) * px)

    def _lay(self) -> None:
        """The picture at this size: a drag of the end leaves the start, and much of any picture, as it was."""
        if self._sketch is None:
            return
        frame, theme = self._frame(self._sketch), self._theme
        scale = fit(self._sketch.box, frame)
        changed = self._drawing.lay(
            (frame.getRect(), self._sketch.box),
            shown(self._sketch, {BODY, SWEEP}),
            lambda item: mark(item, scale, theme, frame),
        )
        if changed is None:
            self.update()
        else:
            self.update(changed & frame.toAlignedRect())

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._lay()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme, area = QPainter(self), self._theme, QRectF(self.rect())
        painter.fillRect(event.rect(), theme.color("ground"))
        if self._sketch is not None:
            area = self._frame(self._sketch)
            painter.save()
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setClipRect(area)
            self._drawing.paint(painter, event.rect())
            painter.restore()
            painter.setPen(QPen(theme.color("line"), 1.2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(area, 4, 4)
        # Under an upright picture the words may be wider than it.
        wide = min(self.width(), max(area.width(), theme.px(WORDS)))
        below = QRectF(area.center().x() - wide / 2 + 3, self.height() - self._words, wide - 6, self._words)
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("muted"))
        stacked, metrics = self._words > theme.px(24), painter.fontMetrics()
        painter.drawText(
            below,
            Qt.AlignmentFlag.AlignLeft | (Qt.AlignmentFlag.AlignTop if stacked else Qt.AlignmentFlag.AlignVCenter),
            self._left,
        )
        painter.setPen(theme.color("ink"))
        room = below.width() - (0 if stacked else metrics.horizontalAdvance(self._left) + theme.px(8))
        side = (
            Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignBottom
            if stacked
            else Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        )
        painter.drawText(below, side, metrics.elidedText(self._right, Qt.TextElideMode.ElideRight, int(room)))


class Pictures(QWidget):
    """Three pictures of the move side by side."""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("pictures")
        self._theme = theme
        self.setMaximumHeight(theme.px(HIGH))
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 10, 14, 2)
        row.setSpacing(12)
        self.frames = [Picture(theme, name) for name in (START, NOW, END)]
        for frame in self.frames:
            row.addWidget(frame)

    def show_move(
        self, outline: Outline, share: float, show: Display, wanted: tuple[str, ...] = (START, NOW, END)
    ) -> None:
        """The pictures of a rig's move that are wanted; `share` is where the playhead stands."""
        if not self.isVisible():
            return
        shot = outline.shot
        for frame, at, key in zip(self.frames, (0.0, share, 1.0), (START, NOW, END), strict=True):
            if key not in wanted:
                continue
            name = show.text(share * shot.duration_s, "s") if key == NOW else key
            lens = outline.lens_at(at)
            words = f"{show.text(float(lens[2]), 'm')} up"
            try:
                frame.show_picture(outline.draw(at, LENS), name, words)
            except InputError as error:
                frame.show_picture(None, name, error.allowed)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._theme.color("ground"))
        painter.fillRect(0, self.height() - 1, self.width(), 1, self._theme.color("line"))
