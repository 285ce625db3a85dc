"""Several pages in the centre, one at a time, chosen by chips above them."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QButtonGroup, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.flow import Flow
from hazel_lantern.desktop.widgets.words import Label
from hazel_lantern.session.session import Session


class Page(QWidget):
    """One page: a column of headings and what stands under them.
    `told` is one clear sentence about what was refused."""

    told = pyqtSignal(str)

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session, self._theme = session, theme
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(theme.px(22), theme.px(14), theme.px(22), theme.px(10))
        self.column.setSpacing(theme.px(8))

    def words(self, said: str = "", size: float = 15, weight: int = 700, role: str = "ink") -> Label:
        """A label of the page; a heading where nothing else is said."""
        label = Label(said)
        label.setFont(self._theme.font(size, weight=weight))
        label.setWordWrap(True)
        self._theme.ink(label, role)
        return label


class Sheets(QWidget):
    """Pages by name; the first is shown."""

    def __init__(self, pages: Sequence[tuple[str, QWidget]], theme: Theme) -> None:
        super().__init__()
        self.setObjectName("sheets")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        chips, self._stack, self._group = QWidget(), QStackedWidget(), QButtonGroup(self)
        row = Flow(chips, theme.px(6))
        row.setContentsMargins(theme.px(12), theme.px(10), theme.px(12), theme.px(2))
        for n, (name, page) in enumerate(pages):
            chip = QPushButton(name)
            chip.setCheckable(True)
            chip.setChecked(n == 0)
            chip.setProperty("chip", True)
            chip.setObjectName(f"sheet.{n}")
            self._group.addButton(chip, n)
            row.addWidget(chip)
            self._stack.addWidget(page)
        self._group.idClicked.connect(self._stack.setCurrentIndex)
        column.addWidget(chips)
        column.addWidget(self._stack, 1)

    def show_page(self, number: int) -> None:
        """Turn to a page by its place."""
        button = self._group.button(number)
        if button is not None:
            button.click()
