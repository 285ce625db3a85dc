"""Shot's own part of the bench: things on the set, keys, the kit's items, further shots."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QInputDialog, QMenu, QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.document.project import AXES, Project
from hazel_lantern.core.editing import lists
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.staging.axes import reading
from hazel_lantern.core.staging.things import THINGS
from hazel_lantern.desktop.stations.page import Extras
from hazel_lantern.desktop.stations.shot.palette import WAY_POINT
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.chooser import Chooser
from hazel_lantern.desktop.widgets.words import Label, tip
from hazel_lantern.session.session import Session


class ShotExtras(Extras):
    """Edits what the quantities cannot: lists that grow and shrink."""

    refused = pyqtSignal(str)
    rebuilt = pyqtSignal()

    def __init__(
        self, session: Session, theme: Theme, playhead: Callable[[], float], parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self._session, self._theme, self._playhead = session, theme, playhead
        self.picked = Chooser(theme)
        self.picked.setObjectName("thing.picked")
        self.picked.setAccessibleName("Thing on the set")
        self.picked.activated.connect(lambda index: self.pick(self.picked.itemData(index)))
        add = QPushButton("+ thing")
        add.setObjectName("thing.add")
        menu = QMenu(add)
        for key, name in THINGS:
            menu.addAction(name).triggered.connect(lambda _=False, key=key: self.add_thing(key))
        add.setMenu(menu)
        button = self._button
        self.items = Chooser(theme)
        self.items.setObjectName("kit.item")
        self.items.setAccessibleName("Item of the kit")
        self._kits = Label()
        self._kits.setWordWrap(True)
        self._kits.setFont(theme.font(12))
        theme.ink(self._kits, "muted")
        upright = button("Turn the picture", "shot.turn", self._turn_picture)
        upright.setToolTip(
            tip("Upright, or back. Items of the kit stay where they are: a camera on its side sits otherwise.")
        )
        self._parts = (
            (
                "On the set",
                _column(
                    self.picked,
                    _row(
                        add,
                        button("Rename", "thing.rename", self.rename_thing),
                        button("Remove", "thing.remove", self.remove_thing),
                    ),
                    _row(
                        button("+ stop on its way", "stop.add", self._add_stop),
                        button("Drop the last stop", "stop.remove", self._remove_stop),
                    ),
                    _row(
                        button("+ way point", "via.add", self._add_via),
                        button("Drop the last", "via.remove", self._remove_via),
                    ),
                ),
            ),
            (
                "Over time",
                _column(
                    _row(
                        button("+ key", "key.add", self._add_key),
                        button("Drop the last key", "key.remove", self._remove_key),
                    ),
                    _row(
                        button("And back", "move.back", self._and_back),
                        button("All of it once more", "move.again", self._once_more),
                    ),
                ),
            ),
            (
                "Axes of the head",
                _column(
                    _row(
                        self._menu("Key head here", "axis.key", self._key_axis),
                        self._menu("Drop a key of it", "axis.unkey", self._unkey_axis),
                    )
                ),
            ),
            (
                "Camera kit",
                _column(
                    self.items,
                    _row(
                        button("+ item", "kit.add", self._add_item),
                        button("Remove", "kit.remove", self._remove_item),
                        button("Copy kit", "kit.copy", self._copy_kit),
                    ),
                    self._kits,
                ),
            ),
            (
                "This shot",
                _column(
                    _row(
                        button("Copy shot", "shot.copy", self._copy_shot),
                        button("Earlier", "shot.earlier", lambda: self._shift(-1)),
                        button("Later", "shot.later", lambda: self._shift(1)),
                    ),
                    _row(upright, button("Remove", "shot.remove", self._remove_shot)),
                ),
            ),
        )
        self.refresh()

    def parts(self) -> tuple[tuple[str, QWidget], ...]:
        """Each beside the inputs it belongs to."""
        return self._parts

    def _button(self, words: str, name: str, call: Callable[[], None]) -> QPushButton:
        button = QPushButton(words)
        button.setObjectName(name)
        button.setProperty("tight", True)
        button.clicked.connect(lambda _=False: call())
        return button

    def _menu(self, words: str, name: str, call: Callable[[str], None]) -> QPushButton:
        """A button that asks for an axis of the head."""
        button = QPushButton(words)
        button.setObjectName(name)
        button.setProperty("tight", True)
        menu = QMenu(button)
        for axis in AXES:
            menu.addAction(axis.id.capitalize()).triggered.connect(lambda _=False, key=axis.id: call(key))
        button.setMenu(menu)
        return button

    def refresh(self) -> None:
        """Lists as the document has them; rigs are tried again when the shot, set or kit changed."""
        session = self._session
        if not session.rig_id:
            return
        project = session.shown
        shot, kit = session.shot, project.kit_of(project.rig(session.rig_id))
        things = project.set_of(shot).things
        _fill(self.picked, [(t.name, t.id) for t in things], session.thing)
        _fill(self.items, [(item.name, str(i)) for i, item in enumerate(kit.items)], self.items.currentData())
        show = session.display
        self._kits.setText("\n".join(self._compared(show)))

    def _compared(self, show: Display) -> list[str]:
        """This kit's mass and centre, and what each other kit of the project would change."""
        result = self._session.evaluation
        if result is None:
            return []
        own = result.carried.payload
        lines = [
            f"This kit {show.text(own.mass, 'kg')}, its centre {show.text(float(own.cg[0]), 'm')} ahead of the "
            f"mount's middle, {show.text(float(own.cg[2]), 'm')} above it; its screw is "
            f"{result.carried.socket_thread}."
        ]
        for kit in result.others:
            heavier, further = kit.mass - own.mass, kit.ahead - float(own.cg[0])
            screw = f", screw {kit.thread}" if kit.thread != result.carried.socket_thread else ""
            mass = f"{show.text(abs(heavier), 'kg')} {'heavier' if heavier >= 0 else 'lighter'}"
            lines.append(
                f"{kit.name}: {mass}, centre {show.text(abs(further), 'm')} further "
                f"{'ahead' if further >= 0 else 'back'}{screw}."
            )
        return lines

    # Things, items, shots

    def _do(self, words: str, change: Callable[[Project], Project]) -> None:
        try:
            self._session.change(words, change(self._session.document))
        except HazelError as error:
            self.refused.emit(f"{str(error)[:1].upper()}{str(error)[1:]}.")

    def _ids(self) -> tuple[str, str, str]:
        """Shot, set and kit at hand."""
        project = self._session.document
        shot = self._session.shot
        return shot.id, shot.set, project.rig(self._session.rig_id).kit

    def pick(self, thing: str) -> None:
        """Show the sizes of a thing on the bench."""
        self._session.thing = thing
        self.rebuilt.emit()

    def put(self, what: str, at: tuple[float, float] | None) -> None:
        """Something of the palette, onto a place of the plan or before the camera."""
        spot = None if at is None else (round(at[0], 2), round(at[1], 2))
        if what == WAY_POINT:
            self._do("Add a way point", lambda project: lists.add_way_point(project, self._ids()[0], spot))
        else:
            self.add_thing(what, spot)

    def add_thing(self, kind: str, at: tuple[float, float] | None = None) -> None:
        project, key = lists.add_thing(self._session.document, self._ids()[0], kind, at)
        self._session.thing = key
        self._do(f"Put a {dict(THINGS)[kind].lower()} on the set", lambda _: project)

    def remove_thing(self) -> None:
        """Take the picked thing away."""
        thing, name = self._session.thing, self.picked.currentText()
        if thing:
            self._session.thing = ""
            self._do(f"Take {name} away", lambda project: lists.remove_thing(project, self._ids()[1], thing))

    def rename_thing(self) -> None:
        """Ask for another name of the picked thing."""
        thing = self._session.thing
        name, said = QInputDialog.getText(self, "Rename", "Name", text=self.picked.currentText())
        if said and thing:
            self._do(
                f"Rename to {name.strip()}", lambda project: lists.rename_thing(project, self._ids()[1], thing, name)
            )

    def _add_stop(self) -> None:
        self._walk(f"Let {self.picked.currentText()} move", lists.add_stop)

    def _remove_stop(self) -> None:
        self._walk("Drop a stop", lists.remove_stop)

    def _walk(self, words: str, change: Callable[[Project, str, str], Project]) -> None:
        """Change the stops of the thing that stands in the list, and show them on the bench."""
        thing = self.picked.currentData()
        if thing is None:
            self.refused.emit("Put something on the set first; then it can move.")
            return
        self._session.thing = thing
        self._do(words, lambda project: change(project, self._ids()[0], thing))

    def _add_via(self) -> None:
        self._do("Add a way point", lambda project: lists.add_way_point(project, self._ids()[0]))

    def _remove_via(self) -> None:
        self._do("Drop a way point", lambda project: lists.remove_way_point(project, self._ids()[0]))

    def _add_key(self) -> None:
        self._do("Add a key", lambda project: lists.add_key(project, self._ids()[0]))

    def _remove_key(self) -> None:
        self._do("Drop a key", lambda project: lists.remove_key(project, self._ids()[0]))

    def _and_back(self) -> None:
        self._do("Go back the way it came", lambda project: lists.there_and_back(project, self._ids()[0]))

    def _once_more(self) -> None:
        self._do("Do all of it once more", lambda project: lists.once_more(project, self._ids()[0]))

    def _key_axis(self, axis: str) -> None:
        """Key an axis at the playhead, where the head then stands."""
        result = self._session.evaluation
        if result is None:
            return
        try:
            time, found = reading(result.scene, axis, self._playhead())
        except HazelError as error:
            self.refused.emit(f"{str(error)[:1].upper()}{str(error)[1:]}.")
            return
        self._do(f"Key {axis}", lambda project: lists.key_axis(project, self._ids()[0], axis, time, found))

    def _unkey_axis(self, axis: str) -> None:
        self._do(f"Drop a key of {axis}", lambda project: lists.unkey_axis(project, self._ids()[0], axis))

    def _add_item(self) -> None:
        name, said = QInputDialog.getText(self, "Add to the kit", "What is it?")
        if said:
            self._do(f"Add {name.strip()} to the kit", lambda project: lists.add_item(project, self._ids()[2], name))

    def _remove_item(self) -> None:
        name, index = self.items.currentText(), self.items.currentIndex()
        self._do(f"Take {name} off the kit", lambda project: lists.remove_item(project, self._ids()[2], index))

    def _copy_kit(self) -> None:
        name, said = QInputDialog.getText(self, "Copy the kit", "Name of the copy")
        if said:
            self._do(
                f"Copy the kit as {name.strip()}", lambda project: lists.copy_kit(project, self._ids()[2], name)[0]
            )

    def _copy_shot(self) -> None:
        name, said = QInputDialog.getText(self, "Copy the shot", "Name of the copy")
        if said:
            self._do(
                f"Copy the shot as {name.strip()}",
                lambda project: lists.copy_shot(project, self._session.rig_id, self._session.shot_id, name),
            )
            self._session.look(self._session.document.shots[-1].id)

    def _shift(self, by: int) -> None:
        name = self._session.shot.name
        words = f"Put {name} {'earlier' if by < 0 else 'later'}"
        rig, shot = self._session.rig_id, self._session.shot_id
        self._do(words, lambda project: lists.shift_shot(project, rig, shot, by))
        self._session.look(shot)

    def _turn_picture(self) -> None:
        self._do("Turn the picture", lambda project: lists.turn_picture(project, self._ids()[0]))

    def _remove_shot(self) -> None:
        self._do(f"Remove {self._session.shot.name}", lambda project: lists.remove_shot(project, self._ids()[0]))


def _column(*parts: QWidget | QHBoxLayout) -> QWidget:
    """One under the other."""
    box = QWidget()
    column = QVBoxLayout(box)
    column.setContentsMargins(0, 0, 0, 0)
    column.setSpacing(6)
    for part in parts:
        if isinstance(part, QWidget):
            column.addWidget(part)
        else:
            column.addLayout(part)
    return box


def _row(*widgets: QWidget) -> QHBoxLayout:
    row = QHBoxLayout()
    row.setSpacing(5)
    for widget in widgets:
        row.addWidget(widget)
    row.addStretch(1)
    return row


def _fill(box: Chooser, rows: list[tuple[str, str]], now: str | None) -> None:
    """The list as it should be, without telling anybody."""
    if [(box.itemText(i), box.itemData(i)) for i in range(box.count())] != rows:
        box.clear()
        for words, key in rows:
            box.addItem(words, key)
    box.setCurrentIndex(max(0, box.findData(now)) if rows else -1)
