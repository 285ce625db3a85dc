"""What the find field offers: wide rows with the name, what it is, where it is set or told, and its value."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct
from PyQt6.QtCore import QAbstractListModel, QModelIndex, QRect, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QPainter
from PyQt6.QtWidgets import QLineEdit, QStyle, QStyledItemDelegate, QStyleOptionViewItem

from hazel_lantern.desktop.theme.theme import Theme


class Found(Struct, frozen=True):
    """One row: its name, what sort of thing it is, its station, its value, and what leads to it."""

    words: str
    sort: str
    station: str
    value: str
    key: str


class FoundRows(QAbstractListModel):
    """The rows, for a completer."""

    def __init__(self, rows: Sequence[Found]) -> None:
        super().__init__()
        self.rows = tuple(rows)

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self.rows)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        row = self.rows[index.row()]
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.EditRole):
            return row.words
        if role == Qt.ItemDataRole.AccessibleTextRole:
            return ", ".join(part for part in (row.words, row.sort, row.station, row.value) if part)
        return row if role == Qt.ItemDataRole.UserRole else None


class FindField(QLineEdit):
    """Says when somebody comes to look for something, so that what it offers is what there is now."""

    entered = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        # A first letter may come without the focus having come first.
        self.textEdited.connect(lambda words: self.entered.emit() if len(words) == 1 else None)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        self.entered.emit()
        super().focusInEvent(event)


class FoundDelegate(QStyledItemDelegate):
    """Paints a row: name, then sort and station, the value at the right."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(self._theme.px(430), self._theme.px(30))

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        row, theme, px = index.data(Qt.ItemDataRole.UserRole), self._theme, self._theme.px
        if painter is None or not isinstance(row, Found):
            return
        painter.save()
        live = bool(option.state & QStyle.StateFlag.State_Selected)
        painter.fillRect(option.rect, theme.color("glow" if live else "raised"))
        box, middle = option.rect.adjusted(px(10), 0, -px(10), 0), Qt.AlignmentFlag.AlignVCenter
        painter.setFont(theme.font(12.5, weight=600, numbers=True))
        painter.setPen(theme.color("ink"))
        wide = painter.fontMetrics().horizontalAdvance(row.value)
        painter.drawText(box, Qt.AlignmentFlag.AlignRight | middle, row.value)
        painter.setFont(theme.font(12.5, weight=700 if live else 400))
        metrics, room = painter.fontMetrics(), box.width() - wide - px(12)
        name = metrics.elidedText(row.words, Qt.TextElideMode.ElideRight, room)
        painter.setPen(theme.color("lantern" if live else "ink"))
        painter.drawText(box, Qt.AlignmentFlag.AlignLeft | middle, name)
        left = metrics.horizontalAdvance(name) + px(10)
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("muted"))
        about = " · ".join(part for part in (row.sort, row.station) if part)
        rest = QRect(box.left() + left, box.top(), max(0, room - left), box.height())
        short = painter.fontMetrics().elidedText(about, Qt.TextElideMode.ElideRight, rest.width())
        painter.drawText(rest, Qt.AlignmentFlag.AlignLeft | middle, short)
        painter.restore()
