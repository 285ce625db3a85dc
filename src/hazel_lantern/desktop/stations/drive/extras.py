"""Drive's own part of the bench: the elements of every driven axis, put in, taken out and dragged in order."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QModelIndex, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from hazel_lantern.core.document.drives import BARE, SORTS, TURN
from hazel_lantern.core.document.project import Drive, Project
from hazel_lantern.core.driving.driven import Driven
from hazel_lantern.core.driving.fitting import steps
from hazel_lantern.core.editing import drives
from hazel_lantern.core.kinds.base import DriveAxis
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.desktop.stations.drive.finder import Finder
from hazel_lantern.desktop.stations.page import Extras
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.chooser import Chooser
from hazel_lantern.desktop.widgets.words import Label, tip
from hazel_lantern.session.session import Session


class Elements(QWidget):
    """What one axis is driven through, in order from the source."""

    refused = pyqtSignal(str)

    def __init__(self, axis: DriveAxis, session: Session, theme: Theme) -> None:
        super().__init__()
        self.axis, self._session, self._theme = axis, session, theme
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 2)
        column.setSpacing(5)
        self.none = Label("Moved itself, with nothing between.")
        self.none.setFont(theme.font(12))
        theme.ink(self.none, "muted")
        self.order = _Order(theme)
        self.order.setObjectName(f"elements.{axis.key}")
        self.order.setAccessibleName(f"{axis.name}, driven through")
        self.order.setToolTip(tip("Drag to reorder; Alt with the arrows too. Del takes one out."))
        self.order.moved.connect(self._move)
        self.order.dropped.connect(self.take)
        self.sorts = Chooser(theme)
        self.sorts.setObjectName(f"element.sort.{axis.key}")
        self.sorts.setAccessibleName("Element to put in")
        self.sorts.setFont(theme.font(12))
        for key, sort in SORTS.items():
            if sort.gives == TURN or not axis.turns:
                self.sorts.addItem(sort.name, key)
                self.sorts.setItemData(self.sorts.count() - 1, sort.says, Qt.ItemDataRole.ToolTipRole)
        line = QHBoxLayout()
        line.addWidget(self.sorts, 1)
        for words, name, call in (
            ("Put in", "element.add", self.add),
            ("Take out", "element.remove", self._take_picked),
        ):
            button = QPushButton(words)
            button.setObjectName(f"{name}.{axis.key}")
            button.clicked.connect(lambda _=False, call=call: call())
            line.addWidget(button)
        column.addWidget(self.none)
        column.addWidget(self.order)
        column.addLayout(line)

    def drive(self) -> Drive | None:
        """What drives the axis now."""
        drives_now = self._session.shown.rig(self._session.rig_id).drives
        return next((drive for drive in drives_now if drive.axis == self.axis.key), None)

    def add(self) -> None:
        """One more: along a way it comes last, what turns comes before that, or behind the picked one."""
        drive, kind = self.drive(), self.sorts.currentData()
        if drive is None:
            return
        kinds = [element.kind for element in drive.elements]
        ends = bool(kinds) and (SORTS[kinds[-1]].gives != TURN or kinds[-1] == "sector")
        row = self.order.currentRow()
        at = row + 1 if row >= 0 else len(kinds)
        if SORTS[kind].gives != TURN or kind == "sector":
            at = len(kinds)
        elif ends:
            at = min(at, len(kinds) - 1)
        name = SORTS[kind].name.lower()
        self._do(f"Put in {name}", lambda p, rig: drives.put_element(p, rig, self.axis.key, kind, at))

    def take(self, row: int) -> None:
        """One of them goes."""
        drive = self.drive()
        if drive is not None and 0 <= row < len(drive.elements):
            name = SORTS[drive.elements[row].kind].name.lower()
            self._do(f"Take out {name}", lambda p, rig: drives.take_element(p, rig, self.axis.key, row))

    def _take_picked(self) -> None:
        drive, row = self.drive(), self.order.currentRow()
        if drive is not None:
            self.take(row if row >= 0 else len(drive.elements) - 1)

    def _move(self, row: int, to: int) -> None:
        self._do("Reorder the drive", lambda p, rig: drives.move_element(p, rig, self.axis.key, row, to))

    def _do(self, words: str, make: Callable[[Project, str], Project]) -> None:
        try:
            self._session.change(words, make(self._session.project, self._session.rig_id))
        except HazelError as error:
            self.refused.emit(f"{str(error)[:1].upper()}{str(error)[1:]}.")

    def refresh(self) -> None:
        """The elements of the document, each with what it comes to."""
        drive, result = self.drive(), self._session.evaluation
        elements = drive.elements if drive is not None else ()
        bare = drive is None or drive.source in BARE
        self.none.setVisible(bare)
        for widget in self.findChildren(QWidget):
            if widget is not self.none and widget.parent() in (self, None):
                widget.setVisible(not bare)
        found = result.driven if result is not None else ()
        made = next((one.made for one in found if isinstance(one, Driven) and one.axis.key == self.axis.key), ())
        names = []
        for n, element in enumerate(elements):
            said = made[n].said if n < len(made) else ""
            names.append(f"{n + 1}   {SORTS[element.kind].name}" + (f"   {said}" if said else ""))
        self.order.show_names(names)


class _Order(QListWidget):
    """Rows that are dragged in order, or moved and taken out by keys."""

    moved = pyqtSignal(int, int)
    dropped = pyqtSignal(int)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.setFont(theme.font(12.5))
        self.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)
        self.setDefaultDropAction(Qt.DropAction.MoveAction)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        model = self.model()
        assert model is not None
        model.rowsMoved.connect(self._rows_moved)

    def show_names(self, names: list[str]) -> None:
        """The rows; the picked one stays picked."""
        if [self.item(k).text() for k in range(self.count())] != names:
            row = self.currentRow()
            self.clear()
            for name in names:
                self.addItem(QListWidgetItem(name))
            self.setCurrentRow(min(row, len(names) - 1))
        self.setFixedHeight(max(1, len(names)) * self._theme.px(24) + self._theme.px(6))

    def _rows_moved(self, parent: QModelIndex, start: int, end: int, into: QModelIndex, to: int) -> None:
        self.moved.emit(start, to - 1 if to > start else to)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        row, key = self.currentRow(), event.key()
        step = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(key), 0)
        if key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.dropped.emit(row)
        elif step and event.modifiers() & Qt.KeyboardModifier.AltModifier:
            if 0 <= row + step < self.count():
                self.moved.emit(row, row + step)
                self.setCurrentRow(row + step)
        else:
            super().keyPressEvent(event)


class DriveExtras(Extras):
    """An element list for every driven axis in its group of the bench, and how its drive is put on."""

    refused = pyqtSignal(str)

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        kind = session.evaluation.kind if session.evaluation else None
        driven = {drive.axis for drive in session.shown.rig(session.rig_id).drives} if session.rig_id else set()
        self._lists = [Elements(axis, session, theme) for axis in (kind.axes if kind else ()) if axis.key in driven]
        self.finders = [Finder(one.axis, session, theme) for one in self._lists]
        for finder in self.finders:
            finder.refused.connect(self.refused)
        self._steps = {one.axis.key: Label() for one in self._lists}
        for one in self._lists:
            one.refused.connect(self.refused)
            label = self._steps[one.axis.key]
            label.setWordWrap(True)
            label.setObjectName(f"fitting.{one.axis.key}")
            label.setFont(theme.font(12))
            theme.ink(label, "muted")
        self._session = session

    def find(self) -> bool:
        """Look for the gears of the first axis that has wheels; False where none has."""
        for finder in self.finders:
            given = finder.given()
            if given is not None and given.made:
                finder.search()
                return True
        return False

    def parts(self) -> tuple[tuple[str, QWidget], ...]:
        lists = tuple((f"{one.axis.name}, through", one) for one in self._lists)
        finders = tuple((f"{one.axis.name}, gears to find", one) for one in self.finders)
        return (
            *lists,
            *finders,
            *((f"{one.axis.name}, putting it on", self._steps[one.axis.key]) for one in self._lists),
        )

    def refresh(self) -> None:
        result, show = self._session.evaluation, self._session.display
        found = {one.axis.key: one for one in result.driven if isinstance(one, Driven)} if result is not None else {}
        for finder in self.finders:
            finder.refresh()
        for one in self._lists:
            one.refresh()
            given = found.get(one.axis.key)
            order = steps(given) if given is not None else ()
            told = [f"{n}. {words.text(show)}." for n, words in enumerate(order, 1)]
            self._steps[one.axis.key].setText("\n".join(told) or "Nothing between hand and rig: nothing to put on.")

    def finish(self) -> None:
        for finder in self.finders:
            finder.finish()
