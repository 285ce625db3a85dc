"""Build's own part of the bench: what to buy, what to take to the bench, the exact cutting plan."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.workshop.cost import Line, total
from hazel_lantern.desktop.stations.page import Extras
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.table import Table
from hazel_lantern.desktop.widgets.words import Label
from hazel_lantern.files.exports import FORMATS
from hazel_lantern.session.session import Session


class BuildExtras(Extras):
    """The buy list and the exports."""

    export_wanted = pyqtSignal(str)

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session, self._theme = session, theme
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        head = QHBoxLayout()
        self._title, self._sum = Label("To buy"), Label()
        self._title.setFont(theme.font(13, weight=700))
        theme.ink(self._title, "lantern")
        self._sum.setFont(theme.font(12.5, numbers=True))
        theme.ink(self._sum, "muted")
        head.addWidget(self._title, 1)
        head.addWidget(self._sum)
        column.addLayout(head)
        self._list = Table(("What", "How many"), theme)
        self._list.setObjectName("build.buy")
        self._list.setAccessibleName("To buy")
        column.addWidget(self._list)
        column.addSpacing(6)
        take = Label("Take to the bench")
        take.setFont(theme.font(13, weight=700))
        theme.ink(take, "lantern")
        column.addWidget(take)
        grid = QGridLayout()
        grid.setSpacing(5)
        for index, (key, (words, _, _)) in enumerate(FORMATS.items()):
            button = QPushButton(words)
            button.setObjectName(f"export.{key}")
            button.clicked.connect(lambda _=False, key=key: self.export_wanted.emit(key))
            grid.addWidget(button, *divmod(index, 2 if theme.scale < 1.4 else 1))
        column.addLayout(grid)
        self.refresh()

    def refresh(self) -> None:
        result = self._session.evaluation
        self._show(result.lines if result else ())

    def _show(self, lines: tuple[Line, ...]) -> None:
        self._list.fill(
            [(line.words(self._session.display), f"{line.quantity} × {line.price:.2f}") for line in lines],
            [f"{line.words(self._session.display)}. {line.note}".strip(". ") for line in lines],
        )
        self._sum.setText(self._session.display.text(total(lines), "currency"))
