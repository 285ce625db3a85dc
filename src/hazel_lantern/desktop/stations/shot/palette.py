"""Things put onto the plan by hand: a palette to press or drag from, and a small bar beside what is picked."""

from __future__ import annotations

import math
from collections.abc import Callable

from PyQt6.QtCore import QEvent, QObject, QPoint, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QAbstractButton, QGridLayout, QHBoxLayout, QPushButton, QWidget

from hazel_lantern.core.document.project import Thing
from hazel_lantern.core.staging.things import (
    ANCHOR,
    BEAM,
    BOX,
    PERSON,
    ROOM,
    SORTS,
    TABLE,
    THINGS,
    TREE,
    WALL,
    WATER,
    ZONE,
)
from hazel_lantern.desktop.stage.stage import Stage
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.words import face, tip

WAY_POINT = "way-point"
SIZE, DRAGGED = 30, 12  # pixels of a button; that it is dragged before it is a drag


class Sort(QAbstractButton):
    """One sort of thing, as it looks from above; pressed it is put in the middle, dragged where it is let go."""

    put = pyqtSignal(str, object)

    def __init__(self, key: str, words: str, theme: Theme, stage: QWidget) -> None:
        super().__init__()
        self._key, self._theme, self._stage = key, theme, stage
        self._from: QPoint | None = None
        self.setObjectName(f"put.{key}")
        self.setFixedSize(theme.px(SIZE), theme.px(SIZE))
        self.setToolTip(tip(f"{words}: press, or drag onto the plan"))
        self.setAccessibleName(f"Put a {words.lower()} on the set")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.setCursor(Qt.CursorShape.OpenHandCursor)
        self.clicked.connect(lambda _=False: self.put.emit(self._key, None))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self._from = event.position().toPoint() if event is not None else None
        super().mousePressEvent(event)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        start, self._from = self._from, None
        if event is not None and start is not None:
            at = event.position().toPoint()
            if (at - start).manhattanLength() > DRAGGED:
                self.setDown(False)
                spot = self._stage.mapFromGlobal(event.globalPosition().toPoint())
                if self._stage.rect().contains(spot):
                    self.put.emit(self._key, QPointF(spot))
                return
        super().mouseReleaseEvent(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme = QPainter(self), self._theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        live = self.underMouse() or self.hasFocus()
        painter.setPen(QPen(theme.color("lantern" if live else "line"), 1.1))
        painter.setBrush(theme.color("raised" if live else "ground"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)
        painter.scale(self.width() / 24, self.height() / 24)
        _draw(painter, self._key, theme)


def _draw(painter: QPainter, key: str, theme: Theme) -> None:
    """A sort of thing from above, on a grid of 24."""
    fill = theme.color(SORTS[key].fill if key in SORTS else "lantern")
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(fill)
    if key == PERSON:
        painter.drawEllipse(QRectF(5, 8.5, 14, 7))
        painter.setBrush(theme.color("figure-head"))
        painter.drawEllipse(QRectF(9.3, 9.3, 5.4, 5.4))
    elif key == TABLE:
        painter.drawRect(QRectF(4, 8, 16, 8))
    elif key == BOX:
        painter.drawRect(QRectF(7.5, 7.5, 9, 9))
    elif key == TREE:
        painter.drawEllipse(QRectF(4.5, 4.5, 15, 15))
    elif key == WATER:
        painter.drawRoundedRect(QRectF(3.5, 6.5, 17, 11), 5, 5)
    elif key == WALL:
        painter.drawRect(QRectF(3.5, 10.5, 17, 3))
    elif key == ANCHOR:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(fill, 1.8))
        painter.drawEllipse(QRectF(8.5, 8.5, 7, 7))
    elif key in (BEAM, ZONE, ROOM):
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(fill, 1.5, Qt.PenStyle.DashLine))
        box = {BEAM: QRectF(3.5, 9.5, 17, 5), ZONE: QRectF(4.5, 7, 15, 10), ROOM: QRectF(5, 5, 14, 14)}[key]
        (painter.drawEllipse if key == ROOM else painter.drawRect)(box)
    else:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(fill, 1.5))
        painter.drawPolyline(QPolygonF([QPointF(4, 18), QPointF(12, 8), QPointF(20, 15)]))
        painter.setBrush(theme.color("ground"))
        painter.drawEllipse(QPointF(12, 8), 2.6, 2.6)


class Palette(QObject):
    """The palette and the bar on one stage; shown on the plan of the set alone."""

    put = pyqtSignal(str, object)  # what, and where on the plan [m], None for its middle
    renamed = pyqtSignal()
    removed = pyqtSignal()

    def __init__(self, stage: Stage, theme: Theme, picked: Callable[[], Thing | None]) -> None:
        super().__init__(stage)
        self._stage, self._theme, self._picked = stage, theme, picked
        self.box = QWidget(stage)
        grid = QGridLayout(self.box)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(3)
        self._grid, self._sorts = (
            grid,
            [Sort(key, words, theme, stage) for key, words in (*THINGS, (WAY_POINT, "Way point"))],
        )
        for button in self._sorts:
            button.put.connect(self._put)
        self._columns = 0
        self.bar = QWidget(stage)
        row = QHBoxLayout(self.bar)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(3)
        self._name = QPushButton()
        self._name.setObjectName("picked.rename")
        self._name.setToolTip("Rename it")
        self._name.clicked.connect(lambda _=False: self.renamed.emit())
        remove = QPushButton("✕")
        remove.setObjectName("picked.remove")
        remove.setAccessibleName("Take it away")
        remove.setToolTip("Take it away")
        remove.clicked.connect(lambda _=False: self.removed.emit())
        for small in (self._name, remove):
            small.setProperty("tight", True)
            row.addWidget(small)
        stage.installEventFilter(self)
        self.show(on=False)

    def show(self, *, on: bool) -> None:
        """On the plan, or not."""
        self.box.setVisible(on)
        self.lay(on=on)
        self._stage.keep_clear(self.box if on else None)

    def lay(self, *, on: bool) -> None:
        """The palette at the right, the bar beside what is picked."""
        stage, px = self._stage, self._theme.px
        self._fill(stage.height() - 2 * px(10))
        self.box.move(stage.width() - self.box.width() - px(10), px(10))
        thing = self._picked() if on else None
        self.bar.setVisible(thing is not None)
        if thing is None or not stage.has_scale:
            self.bar.hide()
            return
        self._name.setText(face(thing.name if len(thing.name) <= 24 else f"{thing.name[:23]}…"))
        self.bar.adjustSize()
        at = stage.scale.at(thing.at_m[:2])
        high = px(18) + self.bar.height() + thing.size_m[1] / 2 * stage.scale.px
        above = at - QPointF(self.bar.width() / 2, high)
        x = min(max(above.x(), px(6)), stage.width() - self.bar.width() - px(80))
        y = min(max(above.y(), px(46)), stage.height() - self.bar.height() - px(6))
        box = QRectF(x, y, self.bar.width(), self.bar.height())
        # Above the sizes it shows, as far as there is room.
        while box.top() > px(46) and any(box.intersects(other) for other in stage.label_boxes()):
            box.translate(0, -px(6))
        self.bar.move(round(box.left()), round(box.top()))
        self.bar.raise_()

    def _fill(self, room: int) -> None:
        """Two columns, or as many as a low stage asks for; room: in height [px]."""
        rows = max(1, (room + self._grid.spacing()) // (self._sorts[0].height() + self._grid.spacing()))
        columns = max(2, math.ceil(len(self._sorts) / rows))
        if columns != self._columns:
            self._columns = columns
            for n, button in enumerate(self._sorts):
                self._grid.addWidget(button, *divmod(n, columns))
            self.box.adjustSize()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is not None and event.type() == QEvent.Type.Resize:
            self.lay(on=self.box.isVisible())
        return super().eventFilter(watched, event)

    def _put(self, key: str, at: QPointF | None) -> None:
        self.put.emit(key, self._stage.scale.metres(at) if at is not None and self._stage.has_scale else None)
