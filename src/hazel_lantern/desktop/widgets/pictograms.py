"""Choices by picture: what the camera does, drawn as its path past what it looks at; what moves a rig."""

from __future__ import annotations

import math
from collections.abc import Callable

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPainterPath, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QAbstractButton, QButtonGroup, QGridLayout, QWidget

from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.words import tip

COLUMNS, WIDE, HIGH = 4, 56.0, 26.0  # tiles in a row; the size every picture is drawn on


class Pen:
    """What all the pictures are made of: a camera, a dashed way with its arrow, somebody, a table from the side."""

    def __init__(self, painter: QPainter, theme: Theme) -> None:
        self._painter, self._theme = painter, theme

    def camera(self, x: float, y: float, turn: float = 0.0, faint: bool = False) -> None:
        painter = self._painter
        painter.save()
        painter.translate(x, y)
        painter.rotate(turn)
        painter.setOpacity(0.4 if faint else 1.0)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("camera"))
        painter.drawRoundedRect(QRectF(-4.5, -2.6, 7, 5.2), 1, 1)
        painter.drawPolygon(QPolygonF([QPointF(2.5, -0.8), QPointF(4.8, -2.1), QPointF(4.8, 2.1), QPointF(2.5, 0.8)]))
        painter.restore()

    def way(self, path: QPainterPath) -> None:
        painter, pen = self._painter, QPen(self._theme.color("lantern"), 1.3, Qt.PenStyle.DashLine)
        pen.setDashPattern([2.2, 1.6])
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(pen)
        painter.drawPath(path)
        end, angle = path.pointAtPercent(1.0), math.radians(-path.angleAtPercent(0.995))
        wings = [end - 3.6 * QPointF(math.cos(angle + d), math.sin(angle + d)) for d in (0.5, -0.5)]
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("lantern"))
        painter.drawPolygon(QPolygonF([end, *wings]))

    def line(self, *points: tuple[float, float]) -> None:
        path = QPainterPath(QPointF(*points[0]))
        for point in points[1:]:
            path.lineTo(QPointF(*point))
        self.way(path)

    def arc(self, middle: tuple[float, float], radius: float, start: float, sweep: float) -> None:
        box = QRectF(middle[0] - radius, middle[1] - radius, 2 * radius, 2 * radius)
        path = QPainterPath()
        path.arcMoveTo(box, start)
        path.arcTo(box, start, sweep)
        self.way(path)

    def somebody(self, x: float, foot: float, faint: bool = False) -> None:
        painter = self._painter
        painter.setOpacity(0.4 if faint else 1.0)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("figure-head"))
        painter.drawEllipse(QPointF(x, foot - 9.6), 1.9, 1.9)
        painter.drawRoundedRect(QRectF(x - 1.9, foot - 7.2, 3.8, 7.2), 1.6, 1.6)
        painter.setOpacity(1.0)

    def spot(self, x: float, y: float) -> None:
        """Somebody from above."""
        self._painter.setPen(Qt.PenStyle.NoPen)
        self._painter.setBrush(self._theme.color("figure-head"))
        self._painter.drawEllipse(QPointF(x, y), 2.4, 2.4)

    def block(self, box: tuple[float, float, float, float], role: str) -> None:
        """A filled piece: left, top, width and height."""
        self._painter.setPen(Qt.PenStyle.NoPen)
        self._painter.setBrush(self._theme.color(role))
        self._painter.drawRoundedRect(QRectF(*box), 1.2, 1.2)

    def ring(self, middle: tuple[float, float], radius: float, role: str, *, dashed: bool = False) -> None:
        pen = QPen(self._theme.color(role), 2.0, Qt.PenStyle.DotLine if dashed else Qt.PenStyle.SolidLine)
        self._painter.setPen(pen)
        self._painter.setBrush(Qt.BrushStyle.NoBrush)
        self._painter.drawEllipse(QPointF(*middle), radius, radius)

    def stroke(self, path: QPainterPath, role: str, width: float) -> None:
        self._painter.setBrush(Qt.BrushStyle.NoBrush)
        self._painter.setPen(QPen(self._theme.color(role), width))
        self._painter.drawPath(path)

    def table(self, y: float) -> None:
        painter = self._painter
        painter.setPen(QPen(self._theme.color("wood"), 1.6))
        painter.drawLine(QPointF(14, y), QPointF(42, y))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("wood"))
        for x in (20, 27, 34):
            painter.drawRect(QRectF(x - 1.6, y - 4.5, 3.2, 3.6))


def _rise(pen: Pen) -> None:
    pen.camera(16, 21, faint=True)
    pen.camera(16, 5)
    pen.line((24, 22), (24, 4))
    pen.somebody(42, 25)


def _slide(pen: Pen) -> None:
    pen.somebody(28, 11)
    pen.camera(9, 20, -90)
    pen.line((17, 20), (46, 20))


def _follow(pen: Pen) -> None:
    pen.camera(9, 17)
    pen.line((18, 22), (33, 22))
    pen.somebody(38, 23, faint=True)
    pen.somebody(47, 23)


def _arc(pen: Pen) -> None:
    pen.spot(28, 9)
    pen.arc((28, 6), 15, 205, 130)
    pen.camera(12, 11, 10)


def _circle(pen: Pen) -> None:
    pen.spot(28, 13)
    pen.arc((28, 13), 10.5, 25, 320)
    pen.camera(40, 8, 160)


def _fly(pen: Pen) -> None:
    pen.camera(9, 21)
    path = QPainterPath(QPointF(16, 20))
    path.cubicTo(QPointF(26, 18), QPointF(24, 6), QPointF(42, 5))
    pen.way(path)
    pen.somebody(48, 25)


def _look_down(pen: Pen) -> None:
    pen.camera(16, 5, 90)
    pen.line((24, 5), (44, 5))
    pen.table(23)


def _places(pen: Pen) -> None:
    for n, x in enumerate((10, 27, 44)):
        pen.camera(x, 10, faint=n != 1)
    pen.table(24)


def _steel(pen: Pen, *points: tuple[float, float], width: float = 2.2, role: str = "steel") -> None:
    path = QPainterPath(QPointF(*points[0]))
    for point in points[1:]:
        path.lineTo(QPointF(*point))
    pen.stroke(path, role, width)


def _not_yet(pen: Pen) -> None:
    pen.ring((28, 13), 8, "muted", dashed=True)


def _hand(pen: Pen) -> None:
    pen.block((20, 11, 14, 10), "figure-head")
    for x in (20.5, 24, 27.5, 31):
        pen.block((x, 4, 2.6, 9), "figure-head")
    pen.block((15.5, 12, 6, 3), "figure-head")


def _crank(pen: Pen) -> None:
    pen.ring((24, 15), 5.5, "steel")
    _steel(pen, (24, 15), (37, 7))
    pen.block((34.6, 2.5, 5, 5.5), "wood")


def _reel(pen: Pen) -> None:
    pen.block((18, 5, 3, 17), "wood")
    pen.block((31, 5, 3, 17), "wood")
    for y in (8.5, 11, 13.5, 16, 18.5):
        _steel(pen, (21, y), (31, y), width=1.6, role="rope")
    _steel(pen, (31, 8.5), (50, 8.5), width=1.4, role="rope")


def _gearmotor(pen: Pen) -> None:
    pen.block((9, 8, 16, 11), "steel")
    pen.block((25, 6, 11, 15), "aluminium")
    _steel(pen, (36, 13.5), (46, 13.5), width=2.6)


def _stepper(pen: Pen) -> None:
    pen.block((18, 3, 20, 20), "steel")
    pen.ring((28, 13), 6, "aluminium")
    pen.block((26.6, 11.6, 2.8, 2.8), "ink")


def _slow(pen: Pen) -> None:
    pen.block((18, 9, 20, 12), "aluminium")
    _steel(pen, (28, 9), (28, 4), width=2.6)
    pen.arc((28, 5), 9, 30, 120)


def _own(pen: Pen) -> None:
    pen.block((12, 8, 17, 11), "steel")
    _steel(pen, (29, 13.5), (37, 13.5), width=2.6)
    _steel(pen, (37, 6), (37, 21), width=3, role="wood")
    _steel(pen, (38.5, 13), (46, 22), width=1.2, role="rope")


def _weight(pen: Pen) -> None:
    _steel(pen, (10, 7), (46, 20), width=2.0, role="aluminium")
    pen.camera(25, 8.5, 20)
    pen.line((31, 7), (44, 12))


def _mains(pen: Pen) -> None:
    pen.block((13, 6, 20, 8), "muted")
    pen.block((15, 14, 6, 9), "muted")
    _steel(pen, (33, 10), (44, 10), width=2.0)
    _steel(pen, (11, 24), (45, 3), width=1.8, role="stop")


SETS: dict[str, dict[str, Callable[[Pen], None]]] = {
    "moves": {
        "rise": _rise, "slide": _slide, "follow": _follow, "arc": _arc, "circle": _circle, "fly": _fly,
        "look_down": _look_down, "places": _places,
    },
    "sources": {
        "": _not_yet, "hand": _hand, "crank": _crank, "reel": _reel,
        "gearmotor": _gearmotor, "stepper": _stepper, "slow": _slow,
        "own": _own, "gravity": _weight, "mains": _mains,
    },
}  # fmt: skip


class Tile(QAbstractButton):
    """One choice: its picture over its name."""

    def __init__(self, key: str, words: str, draw: Callable[[Pen], None], theme: Theme) -> None:
        super().__init__()
        self.key, self._words, self._draw, self._theme = key, words, draw, theme
        self.setCheckable(True)
        self.setFixedHeight(theme.px(50))
        self.setMinimumWidth(theme.px(56))
        self.setAccessibleName(words)
        self.setToolTip(tip(words))
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme = QPainter(self), self._theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        live = self.isChecked() or self.hasFocus() or self.underMouse()
        painter.setPen(QPen(theme.color("lantern" if live else "line"), 1.6 if self.hasFocus() else 1.1))
        painter.setBrush(theme.color("glow" if self.isChecked() else "ground"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)
        scale = theme.px(100) / 100
        painter.save()
        painter.translate((self.width() - WIDE * scale) / 2, theme.px(4))
        painter.scale(scale, scale)
        self._draw(Pen(painter, theme))
        painter.restore()
        painter.setFont(theme.font(11.5, weight=700 if self.isChecked() else 400))
        painter.setPen(theme.color("ink"))
        foot = QRectF(0, self.height() - theme.px(18), self.width(), theme.px(16))
        painter.drawText(foot, Qt.AlignmentFlag.AlignCenter, self._words)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if Qt.Key(event.key()) in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.click()
        else:
            super().keyPressEvent(event)


class Pictograms(QWidget):
    """A grid of tiles, one of them chosen."""

    activated = pyqtSignal(str)

    def __init__(self, pictures: str, options: tuple[tuple[str, str], ...], theme: Theme) -> None:
        super().__init__()
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 2)
        grid.setSpacing(5)
        self._group = QButtonGroup(self)
        self._tiles: dict[str, Tile] = {}
        for n, (key, words) in enumerate(options):
            tile = Tile(key, words, SETS[pictures][key], theme)
            tile.setObjectName(f"tile.{key}")
            tile.clicked.connect(lambda _=False, key=key: self.activated.emit(key))
            self._group.addButton(tile)
            self._tiles[key] = tile
            grid.addWidget(tile, *divmod(n, COLUMNS))

    def choose(self, key: str) -> None:
        """Which of them is chosen, without telling anybody."""
        if key in self._tiles:
            self._tiles[key].setChecked(True)
