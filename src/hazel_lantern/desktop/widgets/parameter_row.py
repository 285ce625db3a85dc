"""One input on the bench: its label, its field, and why text was refused."""

from __future__ import annotations

from PyQt6.QtCore import QSignalBlocker, Qt
from PyQt6.QtWidgets import QGridLayout, QPushButton, QSizePolicy, QWidget

from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity, Readings, Several
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.chooser import Chooser
from hazel_lantern.desktop.widgets.pictograms import Pictograms
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from hazel_lantern.desktop.widgets.readings_edit import ReadingsEdit
from hazel_lantern.desktop.widgets.words import Label, tip
from hazel_lantern.session.session import Session

LONG = 26  # characters of a label that take more than one line


class ParameterRow(QWidget):
    """Reads and writes one parameter of the session's rig."""

    def __init__(
        self,
        session: Session,
        theme: Theme,
        parameter: Parameter,
        *,
        paired: bool = False,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self._session, self._theme, self.parameter = session, theme, parameter
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(1)
        label = Label(parameter.short if paired and isinstance(parameter, (Quantity, Choice)) else parameter.label)
        label.setFont(theme.font(12.5))
        theme.ink(label, "muted")
        label.setToolTip(parameter.words)
        grid.addWidget(label, 0, 0)
        grid.setColumnStretch(0, 1)
        self._why = Label()
        self._why.setWordWrap(True)
        self._why.setFont(theme.font(11.5))
        theme.ink(self._why, "stop")
        self._why.hide()
        grid.addWidget(self._why, 1, 0, 1, 2)
        self.field: QWidget
        if isinstance(parameter, Quantity):
            edit = QuantityEdit(parameter, session.display)
            edit.setFont(theme.font(13, weight=600, numbers=True))
            if paired:
                edit.setMinimumWidth(theme.px(56))
                edit.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
                grid.setColumnStretch(0, 0)
                grid.setColumnStretch(1, 1)
            else:
                edit.setFixedWidth(theme.px(112))
                label.setWordWrap(theme.scale > 1 or len(parameter.label) > LONG)
                label.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
            edit.edited.connect(self._set)
            edit.wrong.connect(self._refuse)
            self.field = edit
            grid.addWidget(edit, 0, 1)
        elif isinstance(parameter, Choice) and parameter.pictures:
            tiles = Pictograms(parameter.pictures, parameter.options, theme)
            tiles.setObjectName(f"choose.{parameter.key}")
            tiles.setAccessibleName(parameter.label)
            tiles.activated.connect(self._set)
            label.hide()
            self.field = tiles
            grid.addWidget(tiles, 0, 0, 1, 2)
        elif isinstance(parameter, Choice):
            box = Chooser(theme)
            box.setFont(theme.font(12))
            box.setObjectName(f"choose.{parameter.key}")
            box.setAccessibleName(parameter.label)
            grid.setColumnStretch(0, 0)
            grid.setColumnStretch(1, 1)
            box.setMaxVisibleItems(16)
            if parameter.table:
                box.opens = self._open_shelf
            box.activated.connect(lambda index: self._set(box.itemData(index)))
            self.field = box
            grid.addWidget(box, 0, 1)
        elif isinstance(parameter, Readings):
            self.field = ReadingsEdit(
                parameter, theme, lambda rows: session.set(parameter.key, rows), lambda why: self._refuse(why)
            )
            grid.addWidget(self.field, 2, 0, 1, 2)
        else:
            self.field = _Rack(session, theme, parameter)
            grid.addWidget(self.field, 2, 0, 1, 2)
        label.setBuddy(self.field)
        self.refresh()

    def _set(self, value: object) -> None:
        try:
            self._session.set(self.parameter.key, value)
            self._refuse("")
        except InputError as error:
            if isinstance(self.field, QuantityEdit):
                self.field.refuse(error.allowed)
            else:
                self._refuse(error.allowed)
                self.refresh()

    def _open_shelf(self) -> None:
        """The rows of the catalogue with their pictures, under the field."""
        from hazel_lantern.desktop.widgets.shelf import Shelf, entries

        choice, session = self.parameter, self._session
        assert isinstance(choice, Choice)
        rows = entries(session.options(choice), choice.table, session.catalogue, session.project, session.display)
        bars = choice.table == "sections"
        shelf = Shelf(rows, str(session.value(choice.key)), self._theme, self, measured=bars)
        shelf.measure_wanted.connect(self._measure)
        shelf.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        shelf.taken.connect(self._set)
        shelf.open_at(self.field.mapToGlobal(self.field.rect().bottomRight()))

    def _measure(self) -> None:
        """A bar of unknown stuff, over the stage; its row is taken once it is made."""
        from hazel_lantern.desktop.widgets.unknown_bar import UnknownBar

        panel = UnknownBar(
            self._session, self._theme, str(self._session.value(self.parameter.key)), self.window() or self
        )
        panel.made.connect(self._set)
        panel.open()

    def _refuse(self, reason: str) -> None:
        self._why.setText(reason)
        self._why.setVisible(bool(reason))

    def refresh(self) -> None:
        """Show the document's value."""
        value = self._session.value(self.parameter.key)
        if isinstance(self.field, QuantityEdit):
            self.field.show_value(float(value), self._session.display)  # type: ignore[arg-type]
        elif isinstance(self.field, Pictograms):
            self.field.choose(str(value))
        elif isinstance(self.field, Chooser):
            assert isinstance(self.parameter, Choice)
            with QSignalBlocker(self.field):
                options = self._session.options(self.parameter)
                if [self.field.itemData(i) for i in range(self.field.count())] != [key for key, _ in options]:
                    self.field.clear()
                    for key, name in options:
                        self.field.addItem(name, key)
                self.field.setCurrentIndex(self.field.findData(value))
        elif isinstance(self.field, ReadingsEdit):
            self.field.show_rows(value, self._session.display)  # type: ignore[arg-type]
        elif isinstance(self.field, _Rack):
            self.field.refresh()


class _Rack(QWidget):
    """The weights owned, each a chip that hangs or does not."""

    def __init__(self, session: Session, theme: Theme, parameter: Several, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session, self._theme, self._parameter = session, theme, parameter
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 4)
        self._grid.setSpacing(5)
        self._chips: dict[str, QPushButton] = {}
        self._per_row = 6 * theme.side(100) // theme.px(100)

    def refresh(self) -> None:
        owned = self._session.project.plates
        shelf, show = self._session.catalogue.plates, self._session.display
        if list(self._chips) != [weight.id for weight in owned]:
            for chip in self._chips.values():
                chip.deleteLater()
            self._chips = {}
            for index, weight in enumerate(owned):
                chip = QPushButton()
                chip.setCheckable(True)
                chip.setProperty("solid", True)
                chip.setProperty("tight", True)
                chip.setFont(self._theme.font(12.5, weight=600, numbers=True))
                chip.setObjectName(f"weight.{weight.id}")
                chip.setMinimumHeight(self._theme.px(28))
                chip.clicked.connect(lambda _=False, key=weight.id: self._turn(key))
                self._chips[weight.id] = chip
                self._grid.addWidget(chip, index // self._per_row, index % self._per_row)
        hung = self._session.value(self._parameter.key)
        for weight in owned:
            plate, chip = shelf[weight.plate], self._chips[weight.id]
            chip.setText(show.number(plate.mass, "kg"))
            on = weight.id in hung  # type: ignore[operator]
            chip.setChecked(on)
            chip.setToolTip(tip(plate.name))
            chip.setAccessibleName(f"{plate.name}, {'hung' if on else 'on the rack'}")

    def _turn(self, key: str) -> None:
        hung = tuple(self._session.value(self._parameter.key))  # type: ignore[arg-type]
        self._session.set(self._parameter.key, tuple(k for k in hung if k != key) if key in hung else (*hung, key))
