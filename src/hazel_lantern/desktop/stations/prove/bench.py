"""Prove on the bench: the tests with how far each is; the open one with its fields, its rows and what they ask for."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QAbstractButton,
    QButtonGroup,
    QFileDialog,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QVBoxLayout,
)

from hazel_lantern.core.document.project import Proved
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.proving.told import Told
from hazel_lantern.desktop.stations.page import Extras
from hazel_lantern.desktop.stations.prove.meaning import emptied
from hazel_lantern.desktop.stations.prove.proving import Proving
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.chooser import Chooser
from hazel_lantern.desktop.widgets.glyphs import NAMES, paint_lantern
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from hazel_lantern.desktop.widgets.table import Table
from hazel_lantern.desktop.widgets.words import tip, worded
from hazel_lantern.files import test_sheet

ROW = 28  # px


class TrialRow(QAbstractButton):
    """A test's number, state, name and value; pressing it opens the test."""

    def __init__(self, theme: Theme, number: int, told: Told, show: Display) -> None:
        super().__init__()
        self._theme, self._number, self._told = theme, number, told
        self._state = told.outcome.state if told.outcome is not None else None
        over = bool(told.rows) and told.overdue
        self._value = (
            show.text(told.outcome.value, told.trial.unit)
            if told.outcome is not None
            else "to do"
            if not told.rows
            else "more rows"
        )
        self._value = "again" if over else self._value
        self.setObjectName(f"prove.test.{told.trial.key}")
        self.setCheckable(True)
        self.setFixedHeight(theme.px(ROW))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.setAccessibleName(f"{told.trial.name}, {NAMES[self._state]}, {self._value}")
        self.setToolTip(tip(told.due or told.trouble or told.trial.name))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme, px = QPainter(self), self._theme, self._theme.px
        box, live = QRectF(self.rect()), self.underMouse() or self.hasFocus()
        if self.isChecked():
            painter.fillRect(box, theme.color("glow"))
            painter.fillRect(QRectF(0, 0, 3, box.height()), theme.color("lantern"))
        painter.setFont(theme.font(12, numbers=True))
        painter.setPen(theme.color("muted"))
        painter.drawText(QRectF(px(8), 0, px(18), box.height()), Qt.AlignmentFlag.AlignVCenter, str(self._number))
        paint_lantern(painter, QRectF(px(27), (box.height() - px(16)) / 2, px(16), px(16)), self._state, theme)
        painter.setFont(theme.font(12.5, weight=600, numbers=True))
        painter.setPen(theme.color("muted" if self._state is None else self._state))
        painter.drawText(
            box.adjusted(0, 0, -px(6), 0), Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, self._value
        )
        room = int(box.width()) - px(56) - painter.fontMetrics().horizontalAdvance(self._value) - px(8)
        painter.setFont(theme.font(12.5))
        painter.setPen(theme.color("lantern" if live else "ink" if self.isChecked() else "muted"))
        name = painter.fontMetrics().elidedText(self._told.trial.name, Qt.TextElideMode.ElideRight, room)
        painter.drawText(box.adjusted(px(50), 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, name)
        if self.hasFocus():
            painter.setPen(theme.color("lantern"))
            painter.drawLine(0, int(box.height()) - 1, int(box.width()), int(box.height()) - 1)


class ProveBench(Extras):
    """A list of tests, and a card for the open one."""

    def __init__(self, proving: Proving, theme: Theme) -> None:
        super().__init__()
        self._proving, self._theme = proving, theme
        self._label = partial(worded, theme)
        self._fields: list[QuantityEdit] = []
        self._laid = ""
        self._into: QuantityEdit | None = None
        self._filled: set[QuantityEdit] = set()
        self._group = QButtonGroup(self)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        self._head = self._label("", 13, 700, "lantern")
        column.addWidget(self._head)
        self._list = QVBoxLayout()
        self._list.setSpacing(0)
        column.addLayout(self._list)
        column.addWidget(self._card_of())
        self._built_head, self._built = self._label("", 13, 700, "lantern"), self._label("", 12, 400, "muted")
        self._built_head.setText("Measured, as built")
        self._built.setObjectName("prove.built")
        column.addWidget(self._built_head)
        column.addWidget(self._built)
        table = QPushButton("Readings from a table…")
        table.setObjectName("prove.table")
        table.setToolTip(tip("CSV with test, reading, value; one that the test sheet was written to"))
        table.clicked.connect(lambda _=False: self._ask())
        column.addWidget(table, 0, Qt.AlignmentFlag.AlignLeft)
        proving.turned.connect(self.refresh)
        self.refresh()

    def finish(self) -> None:
        self._proving.turned.disconnect(self.refresh)
        self._proving.instruments.read.disconnect(self._came)

    def _card_of(self) -> QFrame:
        theme, card = self._theme, QFrame()
        card.setObjectName("prove.card")
        inside = QVBoxLayout(card)
        inside.setContentsMargins(0, theme.px(6), 0, theme.px(4))
        inside.setSpacing(theme.px(6))
        self._name, self._does = self._label("", 14, 700, "ink"), self._label("", 12.5, 400, "ink")
        self._foreseen, self._hindered = self._label("", 12, 400, "muted"), self._label("", 12, 600, "watch")
        self._hindered.setObjectName("prove.hindrance")
        self._grid = QGridLayout()
        self._grid.setHorizontalSpacing(theme.px(10))
        self._grid.setVerticalSpacing(theme.px(4))
        self._rows = Table(("Day", "Readings"), theme)
        self._rows.setObjectName("prove.rows")
        self._rows.setAccessibleName("Readings of this test")
        self._add, self._strike = QPushButton("Note it"), QPushButton("Strike out")
        self._add.setObjectName("prove.add")
        self._add.setProperty("act", True)
        self._add.setToolTip(tip("Keep these readings as one more row"))
        self._add.clicked.connect(lambda _=False: self.note())
        self._strike.setObjectName("prove.strike")
        self._strike.setToolTip(tip("Strike the picked row out, or count it again; it stays in the file"))
        self._strike.clicked.connect(lambda _=False: self.strike())
        buttons = QHBoxLayout()
        self._take = QPushButton("Read it")
        self._take.setObjectName("prove.read")
        self._take.setFocusPolicy(
            Qt.FocusPolicy.TabFocus
        )  # pressed, it leaves the focus in the field that is read into
        self._take.setToolTip(tip("Take the reading of the instrument into the field at hand"))
        self._take.clicked.connect(lambda _=False: self.take())
        for button in (self._add, self._take, self._strike):
            buttons.addWidget(button)
        buttons.addStretch(1)
        for widget in (self._name, self._does, self._foreseen, self._hindered):
            inside.addWidget(widget)
        inside.addLayout(self._grid)
        inside.addLayout(buttons)
        inside.addLayout(self._instrument())
        inside.addWidget(self._rows)
        return card

    def _instrument(self) -> QHBoxLayout:
        """Which instrument readings are taken from, and its zero."""
        line, instruments = QHBoxLayout(), self._proving.instruments
        self._which = Chooser(self._theme)
        self._which.setObjectName("prove.instrument")
        self._which.setAccessibleName("Instrument")
        self._which.setEditable(True)
        self._which.addItems(["", *instruments.offered()])
        self._which.setCurrentText(instruments.name)
        edit = self._which.lineEdit()
        if edit is not None:
            edit.setPlaceholderText("instrument: simulated, port, socket:5151")
        self._which.activated.connect(lambda _: instruments.use(self._which.currentText().strip()))
        tare = QPushButton("Zero")
        tare.setObjectName("prove.tare")
        tare.setToolTip(tip("What it reads now is nought from here on"))
        tare.clicked.connect(lambda _=False: instruments.tare())
        instruments.read.connect(self._came)
        line.addWidget(self._which, 1)
        line.addWidget(tare)
        return line

    def take(self) -> None:
        """Ask the instrument for a reading: it goes to the field at hand, or the first it fits."""
        self._into = next((edit for edit in self._fields if edit.hasFocus()), None)
        self._proving.instruments.ask()

    def _came(self, value: float, unit: str, _give: float) -> None:
        fits = (
            [
                edit
                for edit, one in zip(self._fields, self._proving.here.trial.fields, strict=False)
                if edit.quantity.unit == unit and not one.kept
            ]
            if self._proving.here
            else []
        )
        into = (
            self._into
            if self._into in fits
            else next((edit for edit in fits if edit not in self._filled), fits[0] if fits else None)
        )
        if into is None:
            self._proving.said.emit(f"No field of this test is read in {self._proving.session.display.symbol(unit)}")
            return
        if set(fits) <= self._filled:
            self._filled.clear()
        try:
            into.show_value(into.quantity.check(value))
        except HazelError as error:
            self._proving.said.emit(str(error))
            return
        self._filled.add(into)

    def refresh(self) -> None:
        told, show = self._proving.told, self._proving.session.display
        self._head.setText(f"Tests · {sum(bool(one.rows) for one in told)} of {len(told)} done")
        self._lay_list(told, show)
        here = self._proving.here
        if here is not None:
            self._open(here, show)
        self._say_built(show)

    def _lay_list(self, told: tuple[Told, ...], show: Display) -> None:
        focused = self.focusWidget()
        kept = focused.objectName() if isinstance(focused, TrialRow) and focused.hasFocus() else ""
        emptied(self._list)
        for number, one in enumerate(told, 1):
            row = TrialRow(self._theme, number, one, show)
            row.setChecked(one.trial.key == self._proving.at)
            row.clicked.connect(lambda _=False, key=one.trial.key: self._proving.pick(key))
            self._list.addWidget(row)
            if row.objectName() == kept:
                row.setFocus(Qt.FocusReason.OtherFocusReason)

    def _open(self, here: Told, show: Display) -> None:
        trial = here.trial
        if self._laid != f"{trial.key} {show.system}":
            self._laid = f"{trial.key} {show.system}"
            self._lay_fields(here, show)
        self._name.setText(trial.name)
        self._does.setText(trial.does)
        low, high = here.foreseen.low, here.foreseen.high
        foreseen = (
            f"Foreseen {show.text(low, trial.unit)} to {show.text(high, trial.unit)}. "
            if abs(low) < 1e9 and abs(high) < 1e9
            else ""
        )
        rows = "One row" if trial.fewest == 1 else f"{trial.fewest} rows"
        self._foreseen.setText(
            f"{foreseen}{rows} at the least.{' ' + here.due[:1].upper() + here.due[1:] + '.' if here.due else ''}"
        )
        hindered = self._proving.hindrance()
        self._hindered.setText(hindered)
        self._hindered.setVisible(bool(hindered))
        mine = self._mine()
        cells = [
            (
                f"{row.day}{', struck out' if row.struck else ''}",
                " · ".join(
                    show.text(v, f.quantity.unit, fine=True)
                    for f, v in zip(trial.fields, row.readings, strict=False)
                    if not f.kept
                ),
            )
            for _, row in mine
        ]
        self._rows.fill(cells, [second for _, second in cells])
        self._rows.setVisible(bool(mine))
        self._strike.setEnabled(bool(mine))

    def _lay_fields(self, here: Told, show: Display) -> None:
        """A field for every reading, its instrument's give or take beside its name;
        what is the same for all rows as it was in the last."""
        emptied(self._grid)
        self._fields = []
        self._filled, self._into = set(), None
        last = here.rows[-1].readings if here.rows else ()
        for n, one in enumerate(here.trial.fields):
            quantity = one.quantity
            name = self._label("", 12, 400, "muted")
            name.setText(f"{quantity.label}, ± {show.text(one.give, quantity.unit)}" if one.give else quantity.label)
            edit = QuantityEdit(quantity, show)
            edit.show_value(last[n] if one.kept and n < len(last) else quantity.default)
            edit.returnPressed.connect(self.note)
            self._grid.addWidget(name, 2 * (n // 2), n % 2, Qt.AlignmentFlag.AlignBottom)
            self._grid.addWidget(edit, 2 * (n // 2) + 1, n % 2)
            self._fields.append(edit)

    def _mine(self) -> list[tuple[int, Proved]]:
        session = self._proving.session
        rows = session.document.rig(session.rig_id).proofs
        return [(n, row) for n, row in enumerate(rows) if row.test == self._proving.at]

    def note(self) -> None:
        """One more row of readings, as typed."""
        taken = [edit.commit() for edit in self._fields]  # each says what is wrong with it
        if not all(taken):
            self._proving.said.emit("A reading is not one yet: a number with its unit")
            return
        self._proving.note(tuple(float(edit._value) for edit in self._fields))  # noqa: SLF001

    def strike(self) -> None:
        """Strike out the row that is picked, or the last."""
        mine, model = self._mine(), self._rows.selectionModel()
        picked = model.selectedRows() if model is not None else []
        if mine:
            self._proving.strike(mine[picked[0].row() if picked else -1][0])

    def _say_built(self, show: Display) -> None:
        """What was kept beside the drawing: it counts as long as its pieces are as they were."""
        session = self._proving.session
        rows, result = session.document.rig(session.rig_id).measured, session.evaluation
        self._built_head.setVisible(bool(rows))
        self._built.setVisible(bool(rows))
        if not rows or result is None:
            return
        stands, parameters = self._proving.standing(), session.parameters()
        lines = []
        for row in rows:
            quantity = parameters[row.key]
            value = show.text(row.value, quantity.unit)
            counts = "" if stands.get(row.key) is row else ": not counted, its pieces or a later test changed it"
            lines.append(f"{quantity.label} {value} ± {show.text(row.pm, quantity.unit)}, {row.date}{counts}")
        self._built.setText("\n".join(lines))

    def _ask(self) -> None:
        path, _ = QFileDialog.getOpenFileName(self, "Read a table of readings", "", "Tables (*.csv)")
        if path:
            self.read(Path(path))

    def read(self, path: Path) -> None:
        """Take the good rows of a table; the others are named."""
        try:
            rows, wrong = test_sheet.read(path)
        except HazelError as error:
            self._proving.said.emit(str(error))
            return
        self._proving.take(rows, wrong)
