"""A layout that puts its widgets one after the other and goes on in the next line."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRect, QSize, Qt
from PyQt6.QtWidgets import QLayout, QLayoutItem, QWidget


class Flow(QLayout):
    """Left to right, line by line, each in the middle of its line."""

    def __init__(self, parent: QWidget, gap: int) -> None:
        super().__init__(parent)
        self._items: list[QLayoutItem] = []
        self._gap = gap
        self.setContentsMargins(0, 0, 0, 0)

    def addItem(self, item: QLayoutItem | None) -> None:
        if item is not None:
            self._items.append(item)

    def count(self) -> int:
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return self._lay(QRect(0, 0, width, 0), move=False)

    def setGeometry(self, rect: QRect) -> None:
        super().setGeometry(rect)
        self._lay(rect, move=True)

    def sizeHint(self) -> QSize:
        return self.minimumSize()

    def minimumSize(self) -> QSize:
        size = QSize()
        for item in self._items:
            size = size.expandedTo(item.minimumSize())
        edge = self.contentsMargins()
        return size + QSize(edge.left() + edge.right(), edge.top() + edge.bottom())

    def _lay(self, rect: QRect, *, move: bool) -> int:
        """How high it all comes to, moved into place where asked."""
        edge = self.contentsMargins()
        inner = rect.marginsRemoved(edge)
        lines: list[list[QLayoutItem]] = [[]]
        x = inner.x()
        for item in (one for one in self._items if not one.isEmpty()):
            wide = item.sizeHint().width()
            if lines[-1] and x + wide > inner.right() + 1:
                lines.append([])
                x = inner.x()
            lines[-1].append(item)
            x += wide + self._gap
        y = inner.y()
        for line in lines:
            x, high = inner.x(), max((item.sizeHint().height() for item in line), default=0)
            for item in line if move else ():
                hint = item.sizeHint()
                item.setGeometry(QRect(QPoint(x, y + (high - hint.height()) // 2), hint))
                x += hint.width() + self._gap
            y += high + self._gap
        return y - self._gap + edge.bottom() - rect.y()
