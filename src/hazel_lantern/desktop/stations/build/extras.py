"""Build's own part of the bench: what to buy, what to take to the bench, the exact cutting plan."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.workshop.cost import total
from hazel_lantern.desktop.stations.page import Extras
from hazel_lantern.desktop.theme.theme import Theme
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
        self._title, self._sum = QLabel("To buy"), QLabel()
        self._title.setFont(theme.font(13, weight=700))
        theme.ink(self._title, "lantern")
        self._sum.setFont(theme.font(12.5, numbers=True))
        theme.ink(self._sum, "muted")
        head.addWidget(self._title, 1)
        head.addWidget(self._sum)
        column.addLayout(head)
        self._list = QGridLayout()
        self._list.setHorizontalSpacing(8)
        self._list.setVerticalSpacing(2)
        self._list.setColumnStretch(0, 1)
        column.addLayout(self._list)
        self._labels: list[tuple[QLabel, QLabel]] = []
        take = QLabel("Take to the bench")
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

    def _show(self, lines) -> None:  # type: ignore[no-untyped-def]
        show, theme = self._session.display, self._theme
        while len(self._labels) < len(lines):
            name, price = QLabel(), QLabel()
            name.setFont(theme.font(12))
            name.setWordWrap(theme.scale > 1)
            theme.ink(name, "muted")
            price.setFont(theme.font(12, weight=600, numbers=True))
            price.setAlignment(Qt.AlignmentFlag.AlignRight)
            row = len(self._labels)
            self._list.addWidget(name, row, 0)
            self._list.addWidget(price, row, 1)
            self._labels.append((name, price))
        for index, (name, price) in enumerate(self._labels):
            name.setVisible(index < len(lines))
            price.setVisible(index < len(lines))
            if index < len(lines):
                line = lines[index]
                name.setText(line.name if len(line.name) < 38 else line.name[:36] + "…")
                name.setToolTip(f"{line.name}. {line.note}".strip(". "))
                price.setText(f"{line.quantity} × {line.price:.2f}")
        self._sum.setText(show.text(total(tuple(lines)), "currency"))
