"""Balance's own part of the bench: the weights owned, what another camera kit asks for, the order of loading."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.document.project import Project
from hazel_lantern.core.editing import lists
from hazel_lantern.core.kinds.base import Swap
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.quantity import Several
from hazel_lantern.desktop.stations.page import Extras
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.chooser import Chooser
from hazel_lantern.desktop.widgets.fold import Fold
from hazel_lantern.desktop.widgets.words import Label
from hazel_lantern.session.session import Session


class Weights(QWidget):
    """The weights owned: a list to add from, and the ones to take away."""

    refused = pyqtSignal(str)

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        self._shelf, self._owned = Chooser(theme), Chooser(theme)
        for chooser, chosen, spoken, words, name, call in (
            (self._shelf, "weight.shelf", "Weight to add", "Add", "weight.add", self.add),
            (self._owned, "weight.owned", "Weight to take away", "Take away", "weight.remove", self.remove),
        ):
            chooser.setObjectName(chosen)
            chooser.setAccessibleName(spoken)
            chooser.setFont(theme.font(12))
            chooser.setMinimumContentsLength(12)
            button = QPushButton(words)
            button.setObjectName(name)
            button.clicked.connect(lambda _=False, call=call: call())
            line = QHBoxLayout()
            line.addWidget(chooser, 1)
            line.addWidget(button)
            column.addLayout(line)
        for row in session.catalogue.plates.values():
            self._shelf.addItem(row.name, row.id)

    def add(self) -> None:
        """One more of the picked row."""
        plate = self._shelf.currentData()
        self._do(f"Own a {self._shelf.currentText()}", lambda: lists.add_weight(self._session.project, plate))

    def remove(self) -> None:
        """The picked weight leaves the rack and every rig."""
        weight = self._owned.currentData()
        if weight:
            self._do(
                f"Take {self._owned.currentText()} away", lambda: lists.remove_weight(self._session.project, weight)
            )

    def _do(self, words: str, make: Callable[[], Project]) -> None:
        try:
            self._session.change(words, make())
        except HazelError as error:
            self.refused.emit(f"{str(error)[:1].upper()}{str(error)[1:]}.")

    def refresh(self) -> None:
        """The weights of the document; the picked one stays picked."""
        shelf, now = self._session.catalogue.plates, self._owned.currentData()
        self._owned.clear()
        for weight in self._session.project.plates:
            self._owned.addItem(shelf[weight.plate].name, weight.id)
        self._owned.setCurrentIndex(max(0, self._owned.findData(now)))


class BalanceExtras(Extras):
    """What a kind says beyond its quantities: shown only where the kind has it to say."""

    refused = pyqtSignal(str)
    ways_wanted = pyqtSignal()

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session, self._theme = session, theme
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        kind = session.evaluation.kind if session.evaluation else None
        self._box = Fold(theme, "Weights owned", opened=False)
        self._weights: Weights | None = None  # made when the fold is first opened
        self._box.folded.connect(lambda folded: None if folded else self._open_weights())
        # In its place first: what is shown without one opens as a window of its own.
        column.addWidget(self._box)
        self._box.setVisible(any(isinstance(p, Several) for p in session.parameters().values()))
        self._cards = Fold(theme, "Another camera kit", opened=False)
        self._steps = Fold(theme, "Loading and unloading", opened=False)
        self._rows: list[tuple[Label, QPushButton]] = []
        self._swaps: tuple[Swap, ...] = ()
        self._lines = Label()
        self._lines.setWordWrap(True)
        self._lines.setFont(theme.font(12.5))
        self._steps.rows.addWidget(self._lines)
        for fold in (self._cards, self._steps):
            fold.folded.connect(lambda folded: None if folded else self.refresh())
            column.addWidget(fold)
        self._ways = QPushButton("Where builders differ")
        self._ways.setObjectName("ways")
        self._ways.clicked.connect(lambda _=False: self.ways_wanted.emit())
        row = QHBoxLayout()
        row.addWidget(self._ways)
        row.addStretch(1)
        column.addLayout(row)
        self._ways.setVisible(bool(kind and kind.schools))
        self.refresh()

    def _open_weights(self) -> None:
        if self._weights is None:
            self._weights = Weights(self._session, self._theme)
            self._weights.refused.connect(self.refused)
            self._box.rows.addWidget(self._weights)
        self.refresh()

    def refresh(self) -> None:
        """Everything as the evaluation has it now."""
        result = self._session.evaluation
        if result is None:
            return
        # Only what lies open is shown: a drag passes here many times.
        if self._weights is not None and self._box.opened:
            self._weights.refresh()
        swaps, steps = result.readings.get("swaps"), result.readings.get("loading")
        self._cards.setVisible(swaps is not None)
        if swaps is not None and self._cards.opened:
            self._show(swaps)
        self._steps.setVisible(steps is not None)
        if steps is not None and self._steps.opened:
            self._lines.setText(
                "\n".join(f"{n}. {step.text(self._session.display)}." for n, step in enumerate(steps, 1))
            )

    def _show(self, swaps: tuple[Swap, ...]) -> None:
        self._swaps = swaps
        project = self._session.shown
        names = {kit.id: kit.name for kit in project.kits}
        own = project.kit_of(project.rig(self._session.rig_id)).socket_thread
        screws = {
            kit.id: f"; take a {kit.socket_thread} screw" if kit.socket_thread != own else "" for kit in project.kits
        }
        while len(self._rows) < len(swaps):
            words, take, row = Label(), QPushButton("Change"), len(self._rows)
            take.clicked.connect(lambda _=False, row=row: self._take(self._swaps[row]))
            words.setWordWrap(True)
            words.setFont(self._theme.font(12.5))
            line = QHBoxLayout()
            line.addWidget(words, 1)
            line.addWidget(take)
            self._cards.rows.addLayout(line)
            self._rows.append((words, take))
        for index, (words, take) in enumerate(self._rows):
            words.setVisible(index < len(swaps))
            take.setVisible(index < len(swaps) and bool(swaps[index].changes))
            if index < len(swaps):
                swap = swaps[index]
                words.setText(f"{names[swap.kit]}: {swap.words.text(self._session.display)}{screws[swap.kit]}")
                take.setObjectName(f"swap.{swap.kit}")
                take.setAccessibleName(f"Change to {names[swap.kit]}")

    def _take(self, swap: Swap) -> None:
        name = next(kit.name for kit in self._session.shown.kits if kit.id == swap.kit)
        self._session.apply(f"Change to {name}", swap.changes)
