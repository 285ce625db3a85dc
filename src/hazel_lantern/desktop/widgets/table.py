"""A table of words and numbers to read: as tall as its rows, chosen and copied by row, numbers to the right."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, QSize, Qt
from PyQt6.QtGui import QGuiApplication, QKeyEvent, QKeySequence
from PyQt6.QtWidgets import QAbstractItemView, QFrame, QHeaderView, QSizePolicy, QTableView, QWidget

from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.words import tip

NAMES, BACK = 110, 30  # px that names need at the least; more of them before a column comes back


class Rows(QAbstractTableModel):
    """Rows of texts, each with a tip; the first column is words, the others are numbers."""

    def __init__(self, heads: Sequence[str], theme: Theme) -> None:
        super().__init__()
        self._heads, self._theme = tuple(heads), theme
        self._rows: list[tuple[str, ...]] = []
        self._tips: list[str] = []

    def fill(self, rows: Sequence[tuple[str, ...]], tips: Sequence[str]) -> None:
        self.beginResetModel()
        self._rows, self._tips = list(rows), list(tips)
        self.endResetModel()

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008  Qt's own default
        return 0 if parent.isValid() else len(self._rows)

    def columnCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self._heads)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if role == Qt.ItemDataRole.DisplayRole:
            return self._rows[index.row()][index.column()]
        if role == Qt.ItemDataRole.ToolTipRole:
            return tip(self._tips[index.row()])
        if role == Qt.ItemDataRole.TextAlignmentRole and index.column():
            return Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        if role == Qt.ItemDataRole.FontRole:
            return self._theme.font(12, weight=600 if index.column() else 400, numbers=bool(index.column()))
        if role == Qt.ItemDataRole.ForegroundRole:
            return self._theme.color("ink" if index.column() else "muted")
        return None

    def headerData(self, section: int, way: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if way == Qt.Orientation.Horizontal and role == Qt.ItemDataRole.DisplayRole:
            return self._heads[section]
        if way == Qt.Orientation.Horizontal and role == Qt.ItemDataRole.TextAlignmentRole:
            side = Qt.AlignmentFlag.AlignRight if section else Qt.AlignmentFlag.AlignLeft
            return side | Qt.AlignmentFlag.AlignVCenter
        if way == Qt.Orientation.Horizontal and role == Qt.ItemDataRole.FontRole:
            return self._theme.font(11.5)
        return None


class Table(QTableView):
    """Shows rows; the first column takes what room is left. `headed` where the columns do not speak for themselves."""

    def __init__(
        self, heads: Sequence[str], theme: Theme, parent: QWidget | None = None, *, headed: bool = False
    ) -> None:
        super().__init__(parent)
        self._rows, self._theme, self._headed, self._making_room = Rows(heads, theme), theme, headed, False
        self.setModel(self._rows)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setShowGrid(False)
        self.setWordWrap(theme.scale > 1)
        self.setTextElideMode(Qt.TextElideMode.ElideRight)
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setTabKeyNavigation(False)
        self.verticalHeader().hide()
        self.verticalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        self.verticalHeader().setMinimumSectionSize(theme.px(18))
        head = self.horizontalHeader()
        head.setHighlightSections(False)
        head.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        head.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        head.setVisible(headed)
        edge = -theme.px(5)  # so that words stand in line with those above and below
        if not headed:
            self.setViewportMargins(edge, 0, edge, 0)
        t, apart = theme.tokens, f"padding: 0 {theme.px(8)}px 0 {theme.px(4)}px;" if headed else ""
        self.setStyleSheet(
            f"QTableView {{ background: transparent; selection-background-color: {t.line}; selection-color: {t.ink}; }}"
            f"QTableView::item {{ border: 0; {apart} }}"
            "QHeaderView { background: transparent; }"
            f"QHeaderView::section {{ background: transparent; border: 0; color: {t.muted}; {apart} }}"
        )

    def fill(self, rows: Sequence[tuple[str, ...]], tips: Sequence[str]) -> None:
        self._rows.fill(rows, tips)
        self._make_room()
        self.updateGeometry()

    def sizeHint(self) -> QSize:
        tall = self.verticalHeader().length() + (self.horizontalHeader().sizeHint().height() if self._headed else 0)
        return QSize(super().sizeHint().width(), tall)

    def _make_room(self) -> None:
        """Where names had no room left, the last columns go: the tip of a row still tells what they told."""
        if not self._headed or self._making_room:
            return
        self._making_room = True  # hiding a column lays the table out anew, which asks again
        head, left = self.horizontalHeader(), self.width() - self._theme.px(NAMES)
        for column in range(1, self._rows.columnCount()):
            left -= max(self.sizeHintForColumn(column), head.sectionSizeHint(column))
            # One that is away comes back where there is a little more room: a scroll bar that comes and goes with it
            # would have it come and go for ever.
            back = self._theme.px(BACK) if self.isColumnHidden(column) else 0
            self.setColumnHidden(column, left < back)
        self._making_room = False

    def resizeEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        super().resizeEvent(event)
        self._make_room()
        self.updateGeometry()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event.matches(QKeySequence.StandardKey.Copy):
            chosen = sorted({index.row() for index in self.selectedIndexes()})
            columns = range(self._rows.columnCount())
            lines = ("\t".join(str(self._rows.index(row, c).data()) for c in columns) for row in chosen)
            QGuiApplication.clipboard().setText("\n".join(lines))
        else:
            super().keyPressEvent(event)
