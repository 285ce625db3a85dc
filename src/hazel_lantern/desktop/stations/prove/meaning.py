"""What the open test says: where it is done, what its readings mean, and what they ask to be changed."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.proving.told import Correction
from hazel_lantern.desktop.stations.prove.proving import Proving
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.words import tip, worded

LARGE = 1.4  # size of letters from which what stood side by side is stacked


class Meaning(QWidget):
    """Under the drawing; its buttons change the drawing, or keep what was measured beside it."""

    def __init__(self, proving: Proving, theme: Theme) -> None:
        super().__init__()
        self._proving, self._theme = proving, theme
        self._label = partial(worded, theme)
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(20), theme.px(7), theme.px(20), theme.px(8))
        column.setSpacing(theme.px(5))
        self._where, self._said = self._label("", 12.5, 400, "muted"), self._label("", 14, 600, "lantern")
        self._said.setObjectName("prove.meaning")
        self._mend = QPushButton()
        self._mend.setObjectName("prove.mend")
        self._mend.setProperty("act", True)
        self._mend.clicked.connect(lambda _=False: proving.mend())
        line = QHBoxLayout() if theme.scale < LARGE else QVBoxLayout()
        line.addWidget(self._said, 1)
        line.addWidget(self._mend, 0, Qt.AlignmentFlag.AlignTop)
        self._ends = QVBoxLayout()
        self._ends.setSpacing(theme.px(4))
        column.addWidget(self._where)
        column.addLayout(line)
        column.addLayout(self._ends)

    def refresh(self) -> None:
        here, show = self._proving.here, self._proving.session.display
        emptied(self._ends)
        if here is None:
            return
        where = here.foreseen.where.text(show) if here.foreseen.where is not None else ""
        self._where.setText(where)
        self._where.setVisible(bool(where))
        said = here.outcome.words.text(show) if here.outcome else here.trouble
        said = said or f"Not done yet: {here.trial.fewest} row{'s' if here.trial.fewest > 1 else ''} at the least."
        self._said.setText(f"{said[:1].upper()}{said[1:]}")
        self._theme.ink(self._said, "lantern" if here.outcome else "muted")
        mend = here.outcome.mend if here.outcome and here.outcome.changes else None
        self._mend.setVisible(mend is not None)
        self._mend.setText(mend.text(show) if mend is not None else "")
        for correction in here.corrections:
            self._offer(correction, show)

    def _offer(self, correction: Correction, show: Display) -> None:
        tests = f"{correction.tests} test{'s' if correction.tests > 1 else ''}"
        said, line, key = self._label("", 12.5, 400, "ink"), QHBoxLayout(), correction.quantity.key
        why = f" {correction.trouble}" if correction.trouble else ""
        said.setText(f"{correction.words.text(show)}, by {tests}.{why}")
        if self._theme.scale < LARGE:
            line.addWidget(said, 1)
        else:
            self._ends.addWidget(said)  # the buttons stand under it
        for name, words, work in (
            ("prove.correct", "Correct the drawing", self._proving.correct),
            ("prove.keep", "Keep as built", self._proving.keep),
        ):
            button = QPushButton(words)
            button.setObjectName(f"{name}.{key}")
            button.setProperty("act", name == "prove.correct")
            button.setEnabled(not correction.trouble)
            button.setToolTip(tip(correction.trouble))
            button.clicked.connect(lambda _=False, work=work: work(correction))
            line.addWidget(button, 0, Qt.AlignmentFlag.AlignTop)
        self._ends.addLayout(line)


def emptied(layout) -> None:  # type: ignore[no-untyped-def]
    """Take everything out of a layout, those inside it too."""
    while (item := layout.takeAt(0)) is not None:
        if (widget := item.widget()) is not None:
            widget.hide()
            widget.setParent(None)
            widget.deleteLater()
        elif item.layout() is not None:
            emptied(item.layout())
