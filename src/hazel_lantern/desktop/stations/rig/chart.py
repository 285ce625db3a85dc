"""What sizes trade: a dot to press for every one that was worked out, the rig as it is ringed."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QButtonGroup, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.sizing.answers import Dot
from hazel_lantern.desktop.theme.theme import Theme

SIZE = (230, 118)  # px
# What can be read along each way, and in which words it grows.
ALONG = {"cost": "dearer", "mass": "heavier"}
UP = {"wander": "wanders more", "bounce": "bounces faster", "mass": "heavier"}


class Chart(QWidget):
    """The dots with what is read along and upwards, chosen by chips."""

    picked = pyqtSignal(object)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.dots = Dots(theme)
        self.dots.picked.connect(self.picked)
        column, row = QVBoxLayout(self), QHBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(2))
        row.setSpacing(theme.px(4))
        self._chips: dict[tuple[str, str], QPushButton] = {}
        for way, names in (("along", ALONG), ("up", UP)):
            group = QButtonGroup(self)
            for name in names:
                chip = QPushButton(name)
                chip.setObjectName(f"size.{way}.{name}")
                chip.setProperty("chip", True)
                chip.setProperty("tight", True)
                chip.setCheckable(True)
                chip.setAccessibleName(f"{name} {'to the right' if way == 'along' else 'upwards'}")
                chip.clicked.connect(lambda _=False, way=way, name=name: self._turn(way, name))
                group.addButton(chip)
                row.addWidget(chip)
                self._chips[way, name] = chip
            if way == "along":
                row.addStretch(1)
        column.addLayout(row)
        column.addWidget(self.dots)

    def _turn(self, way: str, name: str) -> None:
        setattr(self.dots, way, name)
        self.dots.update()

    def show_dots(self, dots: tuple[Dot, ...], now: Dot, show: Display) -> None:
        """What does not differ is not offered; what was chosen stays where it can."""
        self.dots.show_dots(dots, now, show)
        able = {name: self.dots.differs(name) for name in (*ALONG, *UP)}
        only = not (able["wander"] or able["bounce"])  # then the mass is read upwards
        for (way, name), chip in self._chips.items():
            chip.setVisible(able[name] and (way == "along" or name != "mass" or only))
        if not able[self.dots.up]:
            self.dots.up = next((name for name in UP if able[name]), "mass")
        if not able[self.dots.along]:
            self.dots.along = next((name for name in ALONG if able[name]), "cost")
        for (way, name), chip in self._chips.items():
            chip.setChecked(getattr(self.dots, way) == name)


class Dots(QWidget):
    """The plot. By keys: left and right go from dot to dot, Enter takes it."""

    picked = pyqtSignal(object)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._dots: tuple[Dot, ...] = ()
        self._now: Dot | None = None
        self._show = Display()
        self._at = -1
        self.along, self.up = "cost", "wander"
        self.setFixedSize(theme.px(SIZE[0]), theme.px(SIZE[1]))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setObjectName("size.chart")
        self.setAccessibleName("What sizes trade")

    def show_dots(self, dots: tuple[Dot, ...], now: Dot, show: Display) -> None:
        self._dots, self._now, self._show, self._at = dots, now, show, -1
        sound = sum(one.sound for one in dots)
        self.setAccessibleDescription(f"{len(dots)} sizes, {sound} may be built; arrow keys go from one to the next")
        self.update()

    def differs(self, name: str) -> bool:
        """Whether sizes differ in it by more than a hundredth."""
        values = [getattr(one, name) for one in self._every]
        return bool(values) and max(values) - min(values) > 0.01 * max(values)

    @property
    def _every(self) -> tuple[Dot, ...]:
        return self._dots if self._now is None else (*self._dots, self._now)

    def at(self, one: Dot) -> QPointF:
        """Where a size is drawn [px]."""
        px = self._theme.px

        def share(name: str) -> float:
            values = [getattr(other, name) for other in self._every]
            return float((getattr(one, name) - min(values)) / max(max(values) - min(values), 1e-12))

        x, y = share(self.along), share(self.up)
        return QPointF(px(16) + x * (self.width() - px(32)), self.height() - px(26) - y * (self.height() - px(40)))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._now is None:
            return
        painter, theme, px = QPainter(self), self._theme, self._theme.px
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(theme.color("lantern" if self.hasFocus() else "line"))
        painter.drawRect(QRectF(px(2), px(2), self.width() - px(4), self.height() - px(20)))
        painter.setFont(theme.font(11.5))
        painter.setPen(theme.color("muted"))
        words = f"{ALONG[self.along]} →, {UP[self.up]} ↑"
        if 0 <= self._at < len(self._dots):
            words = self._told(self._dots[self._at])
        painter.drawText(QRectF(0, self.height() - px(17), self.width(), px(17)), Qt.AlignmentFlag.AlignCenter, words)
        for n, one in enumerate(self._dots):
            painter.setPen(QPen(theme.color("clear" if one.sound else "stop"), 1.5))
            painter.setBrush(theme.color("clear") if one.sound else Qt.BrushStyle.NoBrush)
            spot, big = self.at(one), px(6) if n == self._at else px(4)
            if one.sound:
                painter.drawEllipse(spot, big, big)
            else:
                reach = 0.75 * big
                painter.drawLine(spot + QPointF(-reach, -reach), spot + QPointF(reach, reach))
                painter.drawLine(spot + QPointF(-reach, reach), spot + QPointF(reach, -reach))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(theme.color("lantern"), 2))
        painter.drawEllipse(self.at(self._now), px(8), px(8))

    def _told(self, one: Dot) -> str:
        show = self._show
        return f"{show.text(one.cost, 'currency')}, {show.text(one.mass, 'kg')}{'' if one.sound else ', is stopped'}"

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or not self._dots:
            return
        away = [(self.at(one) - event.position()).manhattanLength() for one in self._dots]
        n = min(range(len(away)), key=away.__getitem__)
        if away[n] < self._theme.px(14):
            self._at = n
            self.update()
            self.picked.emit(self._dots[n].changes)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None or not self._dots:
            return
        way = {Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1}.get(Qt.Key(event.key()), 0)
        if way:
            order = sorted(range(len(self._dots)), key=lambda n: getattr(self._dots[n], self.along))
            here = order.index(self._at) + way if self._at in order else 0
            self._at = order[here % len(order)]
            self.setAccessibleDescription(self._told(self._dots[self._at]))
            self.update()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self._at >= 0:
            self.picked.emit(self._dots[self._at].changes)
        else:
            super().keyPressEvent(event)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        self._at = -1
        super().focusOutEvent(event)
