"""Prove: pick a test, do it, type what was read; what that means, and what to change by how much."""

from __future__ import annotations

from datetime import date

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from hazel_lantern.core.document.project import Measured, Proved
from hazel_lantern.core.editing import lists
from hazel_lantern.core.editing.built import fingerprint
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.proving.trials import BY_KEY, Told, told
from hazel_lantern.desktop.stations.page import Extras
from hazel_lantern.desktop.stations.prove.bars import Bars
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.flow import Flow
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from hazel_lantern.desktop.widgets.table import Table
from hazel_lantern.desktop.widgets.words import Label
from hazel_lantern.session.session import Session

KEY = Qt.ItemDataRole.UserRole
SAID = {"clear": "as predicted", "watch": "look at it", "stop": "not passed"}
AGREE = 2  # tests that must agree before friction or damping is reckoned with


class ProveView(QScrollArea):
    """`said` is what was refused, in a sentence; `turned` tells that another test is shown, or says something else."""

    said = pyqtSignal(str)
    turned = pyqtSignal()

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self._session, self._theme = session, theme
        self._told: tuple[Told, ...] = ()
        self._fields: list[QuantityEdit] = []
        self._at, self._made = "", ""
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setWidgetResizable(True)
        inner = QWidget()
        self.setWidget(inner)
        column = QVBoxLayout(inner)
        column.setContentsMargins(theme.px(22), theme.px(14), theme.px(22), theme.px(14))
        column.setSpacing(theme.px(9))
        self._name, self._does, self._meaning, self._rest = (
            self._label(*how)
            for how in ((16, 700, "ink"), (13, 400, "ink"), (14, 600, "lantern"), (12.5, 400, "muted"))
        )
        self._meaning.setObjectName("prove.meaning")
        holder = QWidget()
        self._line = Flow(holder, theme.px(8))
        self._add = QPushButton("Note these readings")
        self._add.setObjectName("prove.add")
        self._add.clicked.connect(lambda _=False: self.note())
        self._strike = QPushButton("Strike the picked row out")
        self._strike.setObjectName("prove.strike")
        self._strike.clicked.connect(lambda _=False: self.strike())
        self._rows = Table(("Day", "Readings"), theme)
        self._rows.setObjectName("prove.rows")
        self._rows.setAccessibleName("Readings of this test")
        self._correct = QPushButton("Correct the drawing")
        self._correct.setObjectName("prove.correct")
        self._correct.setProperty("solid", True)
        self._correct.clicked.connect(lambda _=False: self.correct(drawing=True))
        self._keep = QPushButton("Keep as built")
        self._keep.setObjectName("prove.keep")
        self._keep.clicked.connect(lambda _=False: self.correct(drawing=False))
        buttons, ends = QHBoxLayout(), QHBoxLayout()
        for button in (self._add, self._strike):
            buttons.addWidget(button)
        buttons.addStretch(1)
        for button in (self._correct, self._keep):
            ends.addWidget(button)
        ends.addStretch(1)
        heading = self._label(15, 700, "ink")
        heading.setText("Predicted against measured")
        self._bars = Bars(theme)
        self._bars.picked.connect(self.pick)
        for widget in (self._name, self._does, holder):
            column.addWidget(widget)
        column.addLayout(buttons)
        column.addWidget(self._rows)
        column.addWidget(self._meaning)
        column.addLayout(ends)
        column.addWidget(self._rest)
        column.addSpacing(theme.px(10))
        column.addWidget(heading)
        column.addWidget(self._bars)
        column.addStretch(1)
        self.refresh()

    def _label(self, size: float, weight: int, role: str) -> Label:
        label = Label()
        label.setFont(self._theme.font(size, weight=weight))
        label.setWordWrap(True)
        self._theme.ink(label, role)
        return label

    @property
    def at(self) -> str:
        """The test that is shown."""
        return self._at

    @property
    def told(self) -> tuple[Told, ...]:
        """All tests, with what they say."""
        return self._told

    def refresh(self) -> None:
        result = self._session.evaluation
        if result is None:
            return
        self._told = told(result)
        keys = [one.trial.key for one in self._told]
        self._at = self._at if self._at in keys else next(iter(keys), "")
        self._lay_out()
        self.turned.emit()

    def pick(self, key: str) -> None:
        """Turn to a test."""
        self._at = key
        self.refresh()

    def _lay_out(self) -> None:
        here = next((one for one in self._told if one.trial.key == self._at), None)
        if here is None:
            return
        trial, show = here.trial, self._session.display
        if self._made != f"{trial.key} {show.system}":
            self._made = f"{trial.key} {show.system}"
            while (old := self._line.takeAt(0)) is not None:
                if (widget := old.widget()) is not None:
                    widget.deleteLater()
            self._fields = []
            for field in trial.fields:
                name, edit, pair = self._label(12.5, 400, "muted"), QuantityEdit(field, show), QWidget()
                name.setWordWrap(False)
                name.setText(field.label)
                edit.setFixedWidth(self._theme.px(96))
                edit.show_value(field.default)
                together = QHBoxLayout(pair)
                together.setContentsMargins(0, 0, self._theme.px(8), 0)
                together.addWidget(name)
                together.addWidget(edit)
                self._line.addWidget(pair)
                self._fields.append(edit)
        self._name.setText(trial.name)
        self._does.setText(trial.does)
        mine = self._mine()
        cells = [
            (f"{row.day}{'  struck out' if row.struck else ''}", "  ·  ".join(show.text(value, field.unit, fine=True) for field, value in zip(trial.fields, row.readings, strict=False)))
            for _, row in mine
        ]  # fmt: skip
        self._rows.fill(cells, [one for one, _ in cells])
        self._rows.setVisible(bool(mine))
        self._strike.setEnabled(bool(mine))
        self._meaning.setText(
            here.outcome.words.text(show)
            if here.outcome
            else here.trouble or f"At least {trial.fewest} rows are asked for."
        )
        mend = here.outcome.mend if here.outcome else None
        enough = trial.once or here.rows >= AGREE * trial.fewest
        self._correct.setVisible(mend is not None and bool(mend.changes))
        self._keep.setVisible(mend is not None and bool(mend.built))
        self._correct.setEnabled(enough)
        self._keep.setEnabled(enough)
        if mend is not None:
            self._correct.setText(mend.words.text(show))
        self._rest.setText(
            "" if enough or mend is None else "Do it once more: two tests that agree may correct friction or damping."
        )
        self._bars.show_told(self._told, self._at, show)

    def _mine(self) -> list[tuple[int, Proved]]:
        rows = self._session.document.rig(self._session.rig_id).proofs
        return [(n, row) for n, row in enumerate(rows) if row.test == self._at]

    def note(self) -> None:
        """One more row of readings, as typed."""
        taken = [edit.commit() for edit in self._fields]  # each says what is wrong with it
        if not all(taken):
            self.said.emit("A reading is not one yet: a number with its unit")
            return
        values = tuple(float(edit._value) for edit in self._fields)  # noqa: SLF001
        self._change("Note readings", lambda: lists.read_off(self._session.document, self._session.rig_id, self._at, date.today().isoformat(), values))  # fmt: skip

    def strike(self) -> None:
        """Strike out the row that is picked, or the last; it stays in the file."""
        mine, model = self._mine(), self._rows.selectionModel()
        picked = model.selectedRows() if model is not None else []
        if mine:
            index = mine[picked[0].row() if picked else -1][0]
            self._change("Strike readings out", lambda: lists.strike_out(self._session.document, self._session.rig_id, index))  # fmt: skip

    def _change(self, words: str, work) -> None:  # type: ignore[no-untyped-def]
        try:
            self._session.change(words, work())
        except HazelError as error:
            self.said.emit(str(error))

    def correct(self, *, drawing: bool) -> None:
        """Change the drawing by what the test says, or record it as built beside the drawing."""
        here = next(one for one in self._told if one.trial.key == self._at)
        mend, result = here.outcome.mend if here.outcome else None, self._session.evaluation
        if mend is None or result is None:
            return
        try:
            if drawing:
                self._session.apply(mend.words.text(self._session.display), mend.changes)
                return
            pieces = tuple(part.mark for part in result.laid.parts[:1])
            day, mark = date.today().isoformat(), fingerprint(result.laid, pieces)
            rows = tuple(Measured(key=key, value=value, date=day, pm=pm, test=BY_KEY[self._at].name.lower(), pieces=pieces, fingerprint=mark) for key, value, pm in mend.built)  # fmt: skip
            self._session.change("Keep as built", lists.keep_measured(self._session.document, self._session.rig_id, rows))  # fmt: skip
        except HazelError as error:
            self.said.emit(str(error))


class Tests(Extras):
    """The tests in the bench, each with how far it is."""

    def __init__(self, view: ProveView, theme: Theme) -> None:
        super().__init__()
        self._view, self._theme = view, theme
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(4))
        self._head = Label("Tests")
        self._head.setFont(theme.font(13, weight=700))
        theme.ink(self._head, "lantern")
        self._list = QListWidget()
        self._list.setObjectName("prove.tests")
        self._list.setAccessibleName("Tests")
        self._list.setFrameShape(QFrame.Shape.NoFrame)
        self._list.setFont(theme.font(12.5))
        self._list.setWordWrap(True)
        self._list.currentItemChanged.connect(self._picked)
        column.addWidget(self._head)
        column.addWidget(self._list)
        view.turned.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        told = self._view.told
        keys = [one.trial.key for one in told]
        self._list.blockSignals(True)
        self._list.clear()
        for n, one in enumerate(told, 1):
            state = "not yet" if not one.rows else SAID[one.outcome.state] if one.outcome else "more readings"
            item = QListWidgetItem(f"{n}  {one.trial.name}: {state}")
            item.setData(KEY, one.trial.key)
            item.setForeground(self._theme.color("muted" if one.outcome is None else one.outcome.state))
            self._list.addItem(item)
        self._list.setCurrentRow(keys.index(self._view.at) if self._view.at in keys else -1)
        self._list.setFixedHeight(self._theme.px(32) * max(1, len(keys)) + self._theme.px(6))
        self._list.blockSignals(False)
        done = sum(one.rows > 0 for one in told)
        self._head.setText(f"Tests · {done} of {len(told)} read")

    def _picked(self, item: QListWidgetItem | None) -> None:
        if item is not None and item.data(KEY) != self._view.at:
            self._view.pick(str(item.data(KEY)))
