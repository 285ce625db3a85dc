"""A group with a heading that folds."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from hazel_lantern.core.document.readable import plain
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.words import Label, face

WIDEST = 32  # characters of a title


class Fold(QWidget):
    """Heading, a word aside, and a body that is shown or not."""

    folded = pyqtSignal(bool)

    def __init__(self, theme: Theme, title: str, *, opened: bool, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        row = QHBoxLayout()
        row.setSpacing(6)
        self._head = QPushButton()
        self._head.setProperty("head", True)
        self._head.setCheckable(True)
        self._head.setChecked(opened)
        self._head.setFont(theme.font(13, weight=700))
        self._title, self._words = title, ""
        self._aside = Label()
        self._aside.setFont(theme.font(12))
        theme.ink(self._aside, "muted")
        self._aside.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self._aside.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        row.addWidget(self._head)
        row.addWidget(self._aside, 1)
        self.body = QWidget()
        self.rows = QVBoxLayout(self.body)
        self.rows.setContentsMargins(0, 0, 0, 6)
        self.rows.setSpacing(5)
        column.addLayout(row)
        column.addWidget(self.body)
        self._head.toggled.connect(self._toggle)
        self._toggle(opened)

    def _toggle(self, opened: bool) -> None:
        self.body.setVisible(opened)
        self._head.setText(face(f"{plain(self._title, WIDEST)}  {'▾' if opened else '▸'}"))
        self._head.setAccessibleName(f"{self._title}, {'open' if opened else 'folded'}")
        self.folded.emit(not opened)

    def open(self) -> None:
        self._head.setChecked(True)

    @property
    def opened(self) -> bool:
        return self._head.isChecked()

    def say(self, aside: str) -> None:
        """A word aside of the heading, cut off where there is no room for all of it."""
        self._words = aside
        self._cut()

    def _cut(self) -> None:
        metrics = self._aside.fontMetrics()
        self._aside.setText(
            metrics.elidedText(self._words, Qt.TextElideMode.ElideRight, max(0, self._aside.width() - 2))
        )

    def resizeEvent(self, event: object) -> None:
        super().resizeEvent(event)  # type: ignore[arg-type]
        self._cut()
