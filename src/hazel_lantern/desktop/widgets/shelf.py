"""A long list of the catalogue to choose from: each row with a picture, what it is good for, its price; what is at hand
first, then by size; searched by what is typed.
"""

from __future__ import annotations

from collections.abc import Callable

from msgspec import Struct
from PyQt6.QtCore import (
    QAbstractListModel,
    QModelIndex,
    QPoint,
    QPointF,
    QRectF,
    QSize,
    QSortFilterProxyModel,
    Qt,
    pyqtSignal,
)
from PyQt6.QtGui import QColor, QKeyEvent, QPainter, QPainterPath, QPen
from PyQt6.QtWidgets import (
    QFrame,
    QLineEdit,
    QListView,
    QPushButton,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from hazel_lantern.core.catalogue import Catalogue, Head, Motor, Row, Stand, StockSection, Turntable, Wheel
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.words import tip

WIDE, HIGH, ROWS = 430, 46, 9


class Entry(Struct, frozen=True):
    """One row of the shelf: what it is, its numbers, what may be said against it; `at_hand` where some is in stock."""

    key: str
    row: Row | None
    name: str
    numbers: str
    caution: str
    at_hand: bool
    size: float
    fill: str


def entries(
    rows: list[tuple[str, str]], table: str, catalogue: Catalogue, project: Project, show: Display
) -> list[Entry]:
    """The rows of a table to choose from, those at hand first, then by size."""
    known = getattr(catalogue, table)
    stock = {piece.section for piece in project.stock}
    found = []
    for key, name in rows:
        row = known.get(key)
        numbers, caution, size = _told(row, catalogue, show) if row is not None else ("", "", -1.0)
        fill = catalogue.materials[row.material].fill if isinstance(row, StockSection) else "steel"
        found.append(Entry(key, row, name, numbers, caution, key in stock, size, fill))
    return sorted(found, key=lambda one: (not one.at_hand, one.size))


def _told(row: Row, catalogue: Catalogue, show: Display) -> tuple[str, str, float]:
    """What is worth knowing of a row, what speaks against it, and by what it is sorted."""
    if isinstance(row, StockSection):
        material = catalogue.materials[row.material]
        stiff, line = float(row.section().upright) * material.E, row.line(material)
        cheapest = min(price / length for price, length in zip(row.prices, row.lengths, strict=True))
        numbers = f"{show.text(stiff, 'N*m^2')} · {show.text(line, 'kg')} and {show.text(cheapest, 'currency')} a metre"
        return numbers, row.caution, stiff
    cost = getattr(row, "price", 0.0)
    price = show.text(cost, "currency") if cost else ""
    words = getattr(row, "words", "")
    parts: tuple[str, ...] = ()
    size = 0.0
    if isinstance(row, Wheel):
        parts, size = (
            (
                f"{show.text(row.d, 'm')} across",
                f"rolls {row.rolling:g}",
                f"carries {show.text(row.carries, 'kg')}" if row.carries else "",
            ),
            row.d,
        )
    elif isinstance(row, Stand):
        parts, size = (
            (
                f"feet {show.text(row.radius_min, 'm')} to {show.text(row.radius_max, 'm')}",
                f"carries {show.text(row.load_limit, 'kg')}",
            ),
            row.load_limit,
        )
    elif isinstance(row, Head):
        parts, size = (
            (", ".join(row.axes) or "locked", show.text(row.mass, "kg"), f"carries {show.text(row.carries, 'kg')}"),
            row.mass,
        )
    elif isinstance(row, Motor):
        steps = row.no_load == 1.0
        fast = "" if steps else show.text(row.no_load, "rad/s:shaft")
        holds = f"{'holds' if steps else 'stalls at'} {show.text(row.stall, 'N*m:shaft')}"
        parts, size = (fast, holds, show.text(row.mass, "kg"), show.text(row.volts, "V")), row.stall
    elif isinstance(row, Turntable):
        parts, size = (show.text(row.stiffness, "N*m/rad"), f"up to {show.text(row.moment, 'N*m')}"), row.moment
    return " · ".join(part for part in (*parts, price) if part), words, size


class _Rows(QAbstractListModel):
    def __init__(self, rows: list[Entry]) -> None:
        super().__init__()
        self.rows = rows

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self.rows)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        entry = self.rows[index.row()]
        if role == Qt.ItemDataRole.DisplayRole:
            return f"{entry.name} {entry.numbers} {entry.caution}"
        if role == Qt.ItemDataRole.ToolTipRole:
            return tip(f"{entry.name}. {entry.caution}".strip(". "))
        return entry if role == Qt.ItemDataRole.UserRole else None


class _Delegate(QStyledItemDelegate):
    def __init__(self, theme: Theme, now: str) -> None:
        super().__init__()
        self._theme, self._now = theme, now

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(self._theme.px(WIDE), self._theme.px(HIGH))

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        entry, theme, px = index.data(Qt.ItemDataRole.UserRole), self._theme, self._theme.px
        if painter is None or not isinstance(entry, Entry):
            return
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        live = bool(option.state & QStyle.StateFlag.State_Selected)
        painter.fillRect(option.rect, theme.color("glow" if live else "raised"))
        box = QRectF(option.rect)
        picture(painter, QRectF(box.left() + px(8), box.top() + px(5), px(36), px(36)), entry, theme)
        left, wide = box.left() + px(56), box.width() - px(66)
        painter.setFont(theme.font(12.5, weight=700 if entry.key == self._now else 500))
        painter.setPen(theme.color("lantern" if entry.key == self._now else "ink"))
        name = entry.name + (" · at hand" if entry.at_hand else "")
        short = painter.fontMetrics().elidedText(name, Qt.TextElideMode.ElideRight, round(wide))
        painter.drawText(QRectF(left, box.top() + px(4), wide, px(19)), Qt.AlignmentFlag.AlignVCenter, short)
        painter.setFont(theme.font(11.5, numbers=True))
        painter.setPen(theme.color("muted"))
        said = " · ".join(part for part in (entry.numbers, entry.caution) if part)
        short = painter.fontMetrics().elidedText(said, Qt.TextElideMode.ElideRight, round(wide))
        painter.drawText(QRectF(left, box.top() + px(23), wide, px(18)), Qt.AlignmentFlag.AlignVCenter, short)
        painter.restore()


class Shelf(QFrame):
    """Opens under a field; Enter or a press takes a row, Esc leaves all as it was. `measured` where a row may be made
    by measuring.
    """

    taken = pyqtSignal(str)
    measure_wanted = pyqtSignal()

    def __init__(self, rows: list[Entry], now: str, theme: Theme, parent: QWidget, *, measured: bool = False) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        t = theme.tokens
        self.setObjectName("shelf")
        self.setStyleSheet(f"#shelf {{ background: {t.raised}; border: 1px solid {t.line}; }}")
        column = QVBoxLayout(self)
        column.setContentsMargins(6, 6, 6, 6)
        column.setSpacing(4)
        self.search = QLineEdit()
        self.search.setPlaceholderText("Search…")
        self.search.setAccessibleName("Search the list")
        self.search.setObjectName("shelf.search")
        self._model = _Rows(rows)
        self._kept = QSortFilterProxyModel()
        self._kept.setSourceModel(self._model)
        self._kept.setFilterCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
        self.list = QListView()
        self.list.setModel(self._kept)
        self._delegate = _Delegate(theme, now)
        self.list.setItemDelegate(self._delegate)
        self.list.setFrameShape(QFrame.Shape.NoFrame)
        self.list.setObjectName("shelf.list")
        self.list.setMouseTracking(True)
        self.list.clicked.connect(self._take)
        self.search.textChanged.connect(self._filter)
        column.addWidget(self.search)
        column.addWidget(self.list)
        if measured:
            other = QPushButton("A bar of unknown stuff: measure it…")
            other.setObjectName("shelf.measure")
            other.clicked.connect(lambda _=False: self.hide())
            other.clicked.connect(lambda _=False: self.measure_wanted.emit())
            column.addWidget(other)
        self.setFixedWidth(theme.px(WIDE + 24))
        self.setFixedHeight(theme.px(HIGH) * min(ROWS, max(3, len(rows))) + theme.px(84 if measured else 48))
        at = next((n for n, entry in enumerate(rows) if entry.key == now), 0)
        self.list.setCurrentIndex(self._kept.index(at, 0))
        self.search.installEventFilter(self)

    def open_at(self, corner: QPoint) -> None:
        """Show it with its right upper corner there, kept on the screen."""
        self.move(corner.x() - self.width(), corner.y())
        self.show()
        self.search.setFocus()
        self.list.scrollTo(self.list.currentIndex())

    def _filter(self, words: str) -> None:
        self._kept.setFilterFixedString(words)
        self.list.setCurrentIndex(self._kept.index(0, 0))

    def _take(self, index: QModelIndex) -> None:
        entry = index.data(Qt.ItemDataRole.UserRole)
        if isinstance(entry, Entry):
            self.hide()
            self.taken.emit(entry.key)

    def eventFilter(self, watched: object, event: object) -> bool:
        if isinstance(event, QKeyEvent) and event.type() == QKeyEvent.Type.KeyPress:
            key = Qt.Key(event.key())
            if key in (Qt.Key.Key_Down, Qt.Key.Key_Up):
                step = 1 if key == Qt.Key.Key_Down else -1
                row = min(max(self.list.currentIndex().row() + step, 0), self._kept.rowCount() - 1)
                self.list.setCurrentIndex(self._kept.index(row, 0))
                return True
            if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._take(self.list.currentIndex())
                return True
        return super().eventFilter(watched, event)  # type: ignore[arg-type]


def picture(painter: QPainter, box: QRectF, entry: Entry, theme: Theme) -> None:
    """A row in the small: a cross section in its own proportions, a wheel, a stand, a head."""
    row = entry.row
    painter.setPen(Qt.PenStyle.NoPen)
    if isinstance(row, StockSection):
        painter.setBrush(theme.color(entry.fill))
        painter.drawPath(outline(row, box))
    elif isinstance(row, Wheel):
        painter.setBrush(theme.color("steel"))
        painter.drawEllipse(box.adjusted(3, 3, -3, -3))
        painter.setBrush(theme.color("raised"))
        painter.drawEllipse(box.center(), box.width() / 8, box.width() / 8)
        if row.shape == "grooved":
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(theme.color("raised"), 1.6))
            painter.drawEllipse(box.adjusted(7, 7, -7, -7))
    elif isinstance(row, Stand):
        painter.setPen(QPen(QColor(theme.color("wood" if row.shape == "post" else "steel")), 2.4))
        top, foot = QPointF(box.center().x(), box.top() + 3), box.bottom() - 2
        painter.drawLine(top, QPointF(top.x(), foot - 6))
        spread = box.width() / 2 * min(1.0, row.radius_max / 0.9)
        for x in (-spread, 0.0, spread) if row.legs == 3 else (-spread, -spread / 3, spread / 3, spread):
            painter.drawLine(QPointF(top.x(), box.center().y() - 3), QPointF(top.x() + x, foot))
    elif isinstance(row, Head):
        painter.setBrush(theme.color("steel"))
        painter.drawRoundedRect(QRectF(box.left() + 8, box.bottom() - 10, box.width() - 16, 7), 2, 2)
        painter.setPen(QPen(theme.color("lantern"), 1.6))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for n in range(len(row.axes)):
            painter.drawArc(box.adjusted(5 + 4 * n, 3 + 4 * n, -5 - 4 * n, -9 - 4 * n), 20 * 16, 140 * 16)
    elif row is not None:
        painter.setBrush(theme.color("steel"))
        painter.drawEllipse(box.adjusted(5, 12, -5, -12))


def outline(row: StockSection, box: QRectF) -> QPainterPath:
    """A cross section in a box, as large as it fits, in its own proportions."""
    dims = row.dims
    wide, high = row.width or row.depth, row.depth or row.width
    scale = min(box.width() / wide, box.height() / high) * 0.94
    middle, path = box.center(), QPainterPath()
    path.setFillRule(Qt.FillRule.OddEvenFill)

    def rect(x: float, y: float, w: float, h: float) -> None:
        path.addRect(QRectF(middle.x() + x * scale, middle.y() + y * scale, w * scale, h * scale))

    def ring(d: float, h: float = 0.0) -> None:
        path.addEllipse(middle, d / 2 * scale, (h or d) / 2 * scale)

    if row.shape == "solid_round":
        ring(dims["d"])
    elif row.shape == "oval_tube":
        ring(wide, high)
        ring(wide - 2 * dims["t"], high - 2 * dims["t"])
    elif row.shape == "round_tube":
        ring(dims["d"])
        ring(dims["d"] - 2 * dims["t"])
    elif row.shape == "rectangular_tube":
        wall = dims["t"]
        rect(-wide / 2, -high / 2, wide, high)
        rect(-wide / 2 + wall, -high / 2 + wall, wide - 2 * wall, high - 2 * wall)
    elif row.shape == "angle":
        rect(-wide / 2, -high / 2, dims["t"], high)
        rect(-wide / 2 + dims["t"], high / 2 - dims["t"], wide - dims["t"], dims["t"])
    elif row.shape == "channel":
        _channel(rect, dims, wide, high)
    elif row.shape == "profile":
        _slotted(rect, wide, high)
    else:
        rect(-wide / 2, -high / 2, wide, high)
    return path


def _channel(
    rect: Callable[[float, float, float, float], None], dims: dict[str, float], wide: float, high: float
) -> None:
    web, flange = dims["t_web"], dims["t_flange"]
    rect(-wide / 2, -high / 2, web, high)
    for y in (-high / 2, high / 2 - flange):
        rect(-wide / 2 + web, y, wide - web, flange)


def _slotted(rect: Callable[[float, float, float, float], None], wide: float, high: float) -> None:
    """A slotted profile: square cells, each with a slot to every free side."""
    cell = min(wide, high)
    rect(-wide / 2, -high / 2, wide, high)
    slot, deep = 0.2 * cell, 0.28 * cell
    across, up = round(wide / cell), round(high / cell)
    for n in range(across):
        x = -wide / 2 + (n + 0.5) * wide / across - slot / 2
        rect(x, -high / 2, slot, deep)
        rect(x, high / 2 - deep, slot, deep)
    for n in range(up):
        y = -high / 2 + (n + 0.5) * high / up - slot / 2
        rect(-wide / 2, y, deep, slot)
        rect(wide / 2 - deep, y, deep, slot)
