"""Rows of measured numbers on the bench: a field for each, one row more, one row less."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QGridLayout, QPushButton, QSizePolicy, QWidget

from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.quantity import Quantity, Readings
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from hazel_lantern.desktop.widgets.words import Label, tip

Row = tuple[float, ...]
FURTHER = 0.5  # of the first column's unit, how much further along the next row is offered


class ReadingsEdit(QWidget):
    """Shows rows; `take` is called with them changed, and raises InputError where they cannot be."""

    def __init__(
        self, readings: Readings, theme: Theme, take: Callable[[object], None], wrong: Callable[[str], None]
    ) -> None:
        super().__init__()
        self._readings, self._theme, self._take, self._wrong = readings, theme, take, wrong
        self._rows: tuple[Row, ...] = ()
        self._display = Display()
        self._edits: list[list[QuantityEdit]] = []
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 2, 0, 4)
        self._grid.setHorizontalSpacing(5)
        self._grid.setVerticalSpacing(4)
        self._heads = [Label(column.label) for column in readings.columns]
        for k, head in enumerate(self._heads):
            head.setFont(theme.font(11.5))
            head.setWordWrap(True)
            self._grid.setColumnStretch(k, 1)
            theme.ink(head, "muted")
            head.setToolTip(readings.columns[k].words)
            self._grid.addWidget(head, 0, k)
        self.more = QPushButton(readings.another)
        self.more.setObjectName(f"add.{readings.key}")
        self.more.setFont(theme.font(12))
        self.more.clicked.connect(self._add)
        self._lay(0)

    def show_rows(self, rows: tuple[Row, ...], display: Display) -> None:
        """Other rows, or the same in other units; text being typed is left alone."""
        if len(rows) != len(self._edits):
            self._lay(len(rows))
        self._rows, self._display = rows, display
        for edits, row in zip(self._edits, rows, strict=True):
            for edit, value in zip(edits, row, strict=True):
                edit.show_value(value, display)
        for head, column in zip(self._heads, self._readings.columns, strict=True):
            unit = display.symbol(column.unit)
            head.setText(f"{column.label}, {unit}" if unit else column.label)
            head.setVisible(bool(rows))

    def _lay(self, count: int) -> None:
        while self._grid.count() > len(self._heads):
            item = self._grid.takeAt(len(self._heads))
            widget = item.widget() if item else None
            if widget is not None and widget is not self.more:
                widget.hide()
                widget.deleteLater()
        self._edits = []
        for n in range(count):
            edits = []
            for k, column in enumerate(self._readings.columns):
                edit = QuantityEdit(column, self._display, bare=True)
                edit.setObjectName(f"edit.{self._readings.key}.{n}.{k}")
                edit.setAccessibleName(f"{column.label}, row {n + 1}")
                edit.setFont(self._theme.font(12.5, weight=600, numbers=True))
                edit.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
                edit.edited.connect(partial(self._change, edit, n, k))
                edit.wrong.connect(self._wrong)
                self._grid.addWidget(edit, n + 1, k)
                edits.append(edit)
            less = QPushButton("×")
            less.setObjectName(f"drop.{self._readings.key}.{n}")
            less.setToolTip(tip("Leave this row out"))
            less.setAccessibleName(f"Leave row {n + 1} out")
            less.setFixedWidth(self._theme.px(28))
            less.clicked.connect(partial(self._drop, n))
            self._grid.addWidget(less, n + 1, len(self._readings.columns))
            self._edits.append(edits)
        self._grid.addWidget(self.more, count + 1, 0, 1, len(self._readings.columns) + 1)

    def _change(self, edit: QuantityEdit, n: int, k: int, value: float) -> None:
        row = tuple(value if j == k else cell for j, cell in enumerate(self._rows[n]))
        try:
            self._take((*self._rows[:n], row, *self._rows[n + 1 :]))
        except InputError as error:
            edit.refuse(error.allowed)

    def _add(self) -> None:
        """One row further along, as the last one is."""
        first: Quantity = self._readings.columns[0]
        last = self._rows[-1] if self._rows else None
        at = first.low if last is None else min(first.high, last[0] + FURTHER)
        self._try((*self._rows, (at, *(last[1:] if last else (0.0,) * (len(self._readings.columns) - 1)))))

    def _drop(self, n: int, _: bool = False) -> None:
        self._try((*self._rows[:n], *self._rows[n + 1 :]))

    def _try(self, rows: tuple[Row, ...]) -> None:
        try:
            self._take(rows)
            self._wrong("")
        except InputError as error:
            self._wrong(error.allowed)
