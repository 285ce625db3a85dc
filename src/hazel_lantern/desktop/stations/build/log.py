"""The build log in the centre: dated notes; and what to do about a piece that came out wrong."""

from __future__ import annotations

from datetime import date

from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QPushButton, QWidget

from hazel_lantern.core.editing import lists
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.core.workshop.mishap import Mishap, cut_to, hole_off
from hazel_lantern.desktop.stations.build.sheets import Page
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.chooser import Chooser
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from hazel_lantern.desktop.widgets.table import Table
from hazel_lantern.session.session import Session

OFF = Quantity("mishap.off", "Off by", "m", 0.0, 0.5, 0.001, "Mishap", "from its mark to where it was drilled")
CAME_OUT = Quantity("mishap.length", "Came out at", "m", 0.001, 20.0, 1.0, "Mishap", "as it was cut")


class LogView(Page):
    """Notes are kept in the project; `told` is what was refused."""

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(session, theme, parent)
        column = self.column
        column.addWidget(self.words("A piece came out wrong"))
        self._part, self._length = Chooser(theme), QuantityEdit(CAME_OUT, session.display)
        self._part.setObjectName("mishap.part")
        self._part.setAccessibleName("Piece that came out wrong")
        judge = QPushButton("What now?")
        judge.setObjectName("mishap.judge")
        judge.clicked.connect(lambda _=False: self.judge())
        line = QHBoxLayout()
        for widget, share in ((self._part, 3), (self._length, 1), (judge, 0)):
            line.addWidget(widget, share)
        column.addLayout(line)
        self._hole, self._off = Chooser(theme), QuantityEdit(OFF, session.display)
        self._hole.setObjectName("mishap.hole")
        self._hole.setAccessibleName("Hole that was drilled beside its mark")
        self._part.currentIndexChanged.connect(lambda _: self._offer_holes())
        beside = QPushButton("Hole off, what now?")
        beside.setObjectName("mishap.judge_hole")
        beside.clicked.connect(lambda _=False: self.judge_hole())
        line = QHBoxLayout()
        for widget, share in ((self._hole, 3), (self._off, 1), (beside, 0)):
            line.addWidget(widget, share)
        column.addLayout(line)
        self.answer = self.words("", 13, 400, "lantern")
        self.answer.setObjectName("mishap.answer")
        column.addWidget(self.answer)
        column.addWidget(self.words("Build log"))
        self._text = QLineEdit()
        self._text.setObjectName("log.text")
        self._text.setAccessibleName("A note for the build log")
        self._text.setPlaceholderText("what was done, measured or learnt")
        self._text.returnPressed.connect(self.note)
        add = QPushButton("Note it down")
        add.setObjectName("log.add")
        add.clicked.connect(lambda _=False: self.note())
        line = QHBoxLayout()
        line.addWidget(self._text, 1)
        line.addWidget(add)
        column.addLayout(line)
        self._list = Table(("What", "When"), theme)
        self._list.setObjectName("log.list")
        self._list.setAccessibleName("Build log")
        column.addWidget(self._list)
        column.addStretch(1)
        self.refresh()

    def refresh(self) -> None:
        result, now = self._session.evaluation, self._part.currentData()
        self._part.clear()
        for part in result.parts if result is not None else ():
            self._part.addItem(
                f"{part.mark} {part.name}, {self._session.display.text(part.length, 'm', fine=True)}", part.mark
            )
        self._part.setCurrentIndex(max(0, self._part.findData(now)))
        self._offer_holes()
        mine = [one for one in self._session.document.log if one.rig in ("", self._session.rig_id)]
        self._list.fill([(one.text, one.day) for one in reversed(mine)], [one.text for one in reversed(mine)])

    def _offer_holes(self) -> None:
        """The holes of the piece that is picked, by their numbers."""
        result, show = self._session.evaluation, self._session.display
        mark = self._part.currentData()
        part = next((one for one in result.parts if one.mark == mark), None) if result is not None else None
        now = self._hole.currentData()
        self._hole.clear()
        for n, hole in enumerate(part.marks if part is not None else (), 1):
            if hole.size:
                at = show.text(hole.at, "m", fine=True)
                self._hole.addItem(f"{n} · {hole.note or 'hole'}, at {at}", n)
        self._hole.setCurrentIndex(max(0, self._hole.findData(now)))

    def judge_hole(self) -> None:
        """Whether a hole beside its mark matters."""
        result = self._session.evaluation
        if result is None or not self._off.commit():
            self.told.emit("How far it is off is not a length yet: a number with its unit")
            return
        if self._hole.currentData() is None:
            self.told.emit("That piece has no holes")
            return
        try:
            found = hole_off(
                result.parts,
                str(self._part.currentData()),
                self._hole.currentData(),
                self._off._value,  # noqa: SLF001
                self._session.display,
            )
        except HazelError as error:
            self.told.emit(str(error))
            return
        self.answer.setText(_said(found))

    def judge(self) -> None:
        """Whether the piece at hand, as long as typed, matters."""
        result = self._session.evaluation
        if result is None or not self._length.commit():
            self.told.emit("The length is not one yet: a number with its unit")
            return
        try:
            found = cut_to(result.parts, str(self._part.currentData()), self._length._value, self._session.display)  # noqa: SLF001
        except HazelError as error:
            self.told.emit(str(error))
            return
        self.answer.setText(_said(found))

    def note(self) -> None:
        """Put down what is typed, with today's date."""
        try:
            made = lists.note_down(
                self._session.document, date.today().isoformat(), self._text.text(), self._session.rig_id
            )
        except HazelError as error:
            self.told.emit(str(error))
            return
        self._text.clear()
        self._session.change("Note it down", made)


def _said(found: Mishap) -> str:
    first = "It matters." if found.matters else "It does not matter."
    ways = " ".join(f"{n}. {words}" for n, words in enumerate(found.saves, 1))
    rest = f" It still makes {', '.join(found.still_makes)}." if found.still_makes else ""
    return f"{first} {ways}{rest}"
