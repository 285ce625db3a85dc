"""Stock at hand in the centre: bars and off-cuts, added, taken away, read from a table;
whether what is there would do."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.advice.have import would_do
from hazel_lantern.core.document.project import Offcut
from hazel_lantern.core.editing import lists
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.stations.build.sheets import Page
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.chooser import Chooser
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from hazel_lantern.desktop.widgets.table import Table
from hazel_lantern.desktop.widgets.words import Label, face
from hazel_lantern.files import atomic, stock_csv
from hazel_lantern.session.session import Session

LENGTH = Quantity("stock.length", "Length", "m", 0.01, 20.0, 1.0, "Stock", "of the bar or off-cut")
SHOWN = 6  # answers that are offered


class StockView(Page):
    """`told` is one clear sentence about what was read or refused."""

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(session, theme, parent)
        column = self.column
        self._tried: object = None
        self._title = self.words("Stock at hand")
        column.addWidget(self._title)
        self._section, self._length = Chooser(theme), QuantityEdit(LENGTH, session.display)
        self._section.setObjectName("stock.section")
        self._section.setAccessibleName("Section at hand")
        for row in session.catalogue.sections.values():
            self._section.addItem(row.name, row.id)
        line = QHBoxLayout()
        line.addWidget(self._section, 3)
        line.addWidget(self._length, 1)
        for words, name, call in (
            ("Add", "stock.add", self.add),
            ("Take one away", "stock.remove", self.remove),
            ("Read a table…", "stock.read", self.ask),
            ("Write a table…", "stock.write", self.ask_to_write),
        ):
            button = QPushButton(words)
            button.setObjectName(name)
            button.clicked.connect(lambda _=False, call=call: call())
            line.addWidget(button)
        column.addLayout(line)
        self._list = Table(("What", "Length", "How many"), theme)
        self._list.setObjectName("stock.list")
        self._list.setAccessibleName("Stock at hand")
        column.addWidget(self._list)
        self._have = self.words("Would what I have do?")
        column.addWidget(self._have)
        self._try = QPushButton("Try it on this rig")
        self._try.setObjectName("stock.try")
        self._try.clicked.connect(lambda _=False: self.try_it())
        column.addWidget(self._try)
        self._answers = QVBoxLayout()
        column.addLayout(self._answers)
        column.addStretch(1)
        self._length.show_value(1.0)
        self.refresh()

    def refresh(self) -> None:
        show, rows = self._session.display, self._session.catalogue.sections
        self._length.show_value(self._length._value, show)  # noqa: SLF001
        stock = self._session.document.stock
        self._list.fill(
            [
                (
                    rows[one.section].name if one.section in rows else one.section,
                    show.text(one.length_m, "m"),
                    str(one.count),
                )
                for one in stock
            ],
            [one.note for one in stock],
        )
        self._title.setText(f"Stock at hand · {sum(one.count for one in stock)} pieces")
        if self._session.document is not self._tried:
            self._clear()

    def _clear(self) -> None:
        while (item := self._answers.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.deleteLater()

    def add(self) -> None:
        """One more piece of the picked section, as long as typed."""
        if not self._length.commit():
            self.told.emit("The length is not one yet: a number with its unit")
            return
        piece = Offcut(section=self._section.currentData(), length_m=self._length._value)  # noqa: SLF001
        self._change("Own a piece of stock", lambda: lists.add_stock(self._session.document, [piece]))

    def remove(self) -> None:
        """One less of the row that is picked."""
        rows = self._list.selectionModel()
        picked = rows.selectedRows() if rows is not None else []
        if picked:
            self._change("Take stock away", lambda: lists.remove_stock(self._session.document, picked[0].row()))

    def _change(self, words: str, work) -> None:  # type: ignore[no-untyped-def]
        try:
            self._session.change(words, work())
        except HazelError as error:
            self.told.emit(str(error))

    def ask(self) -> None:
        path, _ = QFileDialog.getOpenFileName(self, "Read a table of stock", "", "Tables (*.csv)")
        if path:
            self.read(Path(path))

    def ask_to_write(self) -> None:
        path, _ = QFileDialog.getSaveFileName(self, "Write a table of stock", "stock.csv", "Tables (*.csv)")
        if path:
            try:
                atomic.write(Path(path), stock_csv.write(self._session.document))
            except HazelError as error:
                self.told.emit(str(error))

    def read(self, path: Path) -> None:
        """Add the good rows of a table; the others are named."""
        try:
            found, wrong = stock_csv.read(path, self._session.catalogue)
            if found:
                self._session.change("Read stock", lists.add_stock(self._session.document, found))
        except HazelError as error:
            self.told.emit(str(error))
            return
        said = f"{len(found)} row{'s' if len(found) != 1 else ''} read"
        self.told.emit(f"{said}; left out: {'; '.join(wrong[:3])}{' …' if len(wrong) > 3 else ''}" if wrong else said)

    def try_it(self) -> None:
        """Each section at hand in place of one the rig asks for."""
        self._clear()
        self._tried = self._session.document
        try:
            found = would_do(
                self._session.document, self._session.catalogue, self._session.rig_id, self._session.shot_id
            )
        except HazelError as error:
            self.told.emit(str(error))
            return
        show = self._session.display
        for one in found[:SHOWN]:
            row = QHBoxLayout()
            button = QPushButton(face(_said(one, show)))
            button.setObjectName("stock.answer")
            button.clicked.connect(
                lambda _=False, one=one: self._session.apply(f"{one.place}: {one.at_hand}", one.changes)
            )
            row.addWidget(button, 1)
            holder = QWidget()
            row.setContentsMargins(0, 0, 0, 0)
            holder.setLayout(row)
            self._answers.addWidget(holder)
        if not found:
            none = Label("Nothing at hand has the shape of what this rig asks for.")
            self._theme.ink(none, "muted")
            self._answers.addWidget(none)


def _said(one, show: Display) -> str:  # type: ignore[no-untyped-def]
    """What taking it does, in a line."""
    money = f"{one.cost:+.2f} {show.currency}"
    verdict = (
        "does"
        if one.does and one.watches <= 0
        else "does, with a watch more"
        if one.does
        else f"does not: {one.stops} stop{'s' if one.stops > 1 else ''} more"
    )
    return f"{one.place}: {one.at_hand} in place of {one.now}; {verdict}; {money}, {one.mass:+.2f} kg".replace(
        " -", " −"
    )
