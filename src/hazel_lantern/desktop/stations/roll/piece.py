"""A piece of Roll's bench: labels in the theme, buttons whose refusals are told in a sentence."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.words import worded
from hazel_lantern.session.rolling import Rolling


class Piece(QWidget):
    """A column of its own; `said` is what was refused."""

    said = pyqtSignal(str)

    def __init__(self, rolling: Rolling, theme: Theme) -> None:
        super().__init__()
        self._rolling, self._theme = rolling, theme
        self._label = partial(worded, theme)
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(theme.px(5))

    def finish(self) -> None:
        """Let go of what it listens to."""

    def _button(self, name: str, words: str, work: Callable[[], object]) -> QPushButton:
        button = QPushButton(words)
        button.setObjectName(name)
        button.clicked.connect(lambda _=False: self._attempt(work))
        return button

    def _attempt(self, work: Callable[[], object]) -> None:
        try:
            work()
        except HazelError as error:
            self.said.emit(str(error))
