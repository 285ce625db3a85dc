"""Roll on the bench: what is accepted before, the controller with a stop that is always in reach, and takes."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QPushButton, QVBoxLayout

from hazel_lantern.desktop.stations.page import Extras
from hazel_lantern.desktop.stations.roll.accepting import Accepting
from hazel_lantern.desktop.stations.roll.controls import Controls
from hazel_lantern.desktop.stations.roll.logged import Logged
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.session.rolling import Rolling


class RollBench(Extras):
    """`said` is what was refused, in a sentence."""

    said = pyqtSignal(str)
    card_wanted = pyqtSignal()

    def __init__(self, rolling: Rolling, theme: Theme) -> None:
        super().__init__()
        self.accepting = Accepting(rolling, theme)
        self.controls = Controls(rolling, theme, self._held)
        self.logged = Logged(rolling, theme)
        card = QPushButton("Set-up card")
        card.setObjectName("roll.card.open")
        card.clicked.connect(lambda _=False: self.card_wanted.emit())
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        column.addWidget(card, 0, Qt.AlignmentFlag.AlignLeft)
        for piece in self._pieces:
            piece.said.connect(self.said)
            column.addWidget(piece)
        self.refresh()

    @property
    def _pieces(self) -> tuple[Accepting, Controls, Logged]:
        return self.accepting, self.controls, self.logged

    def _held(self) -> str:
        return self.accepting.before.holds if self.accepting.before is not None else ""

    def refresh(self) -> None:
        for piece in self._pieces:
            piece.refresh()

    def finish(self) -> None:
        for piece in self._pieces:
            piece.finish()
