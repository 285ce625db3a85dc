"""Every action as a table: menu, words, keys, what it calls. Menus, keys and the find field all read it."""

from __future__ import annotations

from collections.abc import Callable
from operator import attrgetter

from msgspec import Struct
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QAction, QKeySequence
from PyQt6.QtWidgets import QMenu, QWidget

from hazel_lantern.core.stations import STATIONS
from hazel_lantern.files.exports import FORMATS


class Row(Struct, frozen=True):
    """One action: `call` names a method of the window or of its parts, `argument` is handed to it unless empty."""

    menu: str
    words: str
    call: str
    keys: str = ""
    argument: str = ""


ROWS: tuple[Row, ...] = (
    Row("Project", "New", "files.new_project", "Ctrl+N"),
    Row("Project", "Open…", "files.open_dialog", "Ctrl+O"),
    Row("Project", "Open the sample", "files.open_sample"),
    Row("Project", "Open the sample in inches", "files.open_sample", "", "orchard-at-dusk-inches"),
    Row("Project", "Save", "files.save", "Ctrl+S"),
    Row("Project", "Save as…", "files.save_as", "Ctrl+Shift+S"),
    *(
        Row("Project/Export", f"{words}…", "files.export_dialog", "Ctrl+E" if key == "pdf" else "", key)
        for key, (words, _, _) in FORMATS.items()
    ),
    Row("Project", "Print the build sheet…", "files.print_sheet", "Ctrl+P"),
    Row("Project", "Quit", "close", "Ctrl+Q"),
    Row("Edit", "Undo", "undo", "Ctrl+Z"),
    Row("Edit", "Redo", "redo", "Ctrl+Shift+Z"),
    Row("Edit", "Rename the rig", "rigs.rename_rig", "F2"),
    Row("Edit", "Keep as an alternative", "rigs.keep_alternative", "Ctrl+D"),
    Row("Edit", "Remove the rig", "rigs.remove_rig"),
    Row("Edit", "The station's main action", "act", "F5"),
    *(Row("View", station.name, "show_station", f"Ctrl+{station.number}", station.key) for station in STATIONS),
    Row("View", "Next rig", "rigs.next_rig", "Ctrl+Tab"),
    Row("View", "Compare with another rig…", "comparing.compare", "Ctrl+K"),
    Row("View", "This rig's shots side by side", "comparing.shots"),
    Row("View", "Where builders differ", "comparing.ways", "Ctrl+B"),
    Row("View", "Find", "focus_find", "Ctrl+F"),
    Row("View", "Next view", "next_view", "F6"),
    Row("View", "Sizes", "toggle_layer", "F7", "sizes"),
    Row("View", "Loads", "toggle_layer", "F8", "loads"),
    Row("View", "Ghosts", "toggle_layer", "F9", "ghost"),
    Row("View", "Fit the drawing", "fit_view"),
    Row("View/Look", "Dusk", "look.use_theme", "", "dusk"),
    Row("View/Look", "Daylight", "look.use_theme", "", "daylight"),
    *(Row("View/Text size", f"{size} %", "look.use_scale", "", str(size)) for size in (100, 115, 130, 150, 175)),
    Row("View", "Less motion", "look.toggle_motion"),
    Row("Help", "Why this?", "guide.why_focused", "F1"),
    Row("Help", "Keys", "help.show_keys"),
    Row("Help", "Manual", "help.show_manual"),
    Row("Help", "Reference", "help.show_reference"),
    Row("Help", "About", "help.show_about"),
)


# What a right click offers, by the part of the window it lands on; the same actions as menu and keys.
AT_HAND = {
    "stage": ("Undo", "Redo", "The station's main action", "Next view", "Sizes", "Loads", "Ghosts", "Fit the drawing"),
    "bench": ("Undo", "Redo", "The station's main action", "Why this?"),
    "top": ("Rename the rig", "Keep as an alternative", "Compare with another rig…", "Remove the rig", "Next rig"),
    "trail": ("Undo", "Redo", "Save", "Find"),
}


def after(action: QAction, menu: QMenu, within: QMenu) -> None:
    """Put a menu right after an action, wherever in these menus that is."""
    for below in [within, *within.findChildren(QMenu)]:
        rows = below.actions()
        if action in rows:
            at = rows.index(action) + 1
            below.insertMenu(rows[at] if at < len(rows) else None, menu)


def offer(widget: QWidget, part: str, actions: dict[str, QAction]) -> None:
    """Give a part of the window its right-click menu."""
    widget.setContextMenuPolicy(Qt.ContextMenuPolicy.ActionsContextMenu)
    widget.addActions([actions[words] for words in AT_HAND[part]])


def _do(window: QWidget, row: Row, before: Callable[[], object]) -> None:
    before()
    attrgetter(row.call)(window)(*((row.argument,) if row.argument else ()))


def build(window: QWidget, before: Callable[[], object]) -> tuple[QMenu, dict[str, QAction]]:
    """The lantern's menu, and its actions by words; all kept on the window so that none vanishes. `before` comes
    before each: it takes what stands half-typed in a field.
    """
    menu = QMenu(window)
    menus: dict[str, QMenu] = {"": menu}
    actions: dict[str, QAction] = {}
    for row in ROWS:
        parent = ""
        for name in row.menu.split("/"):
            path = f"{parent}/{name}".lstrip("/")
            if path not in menus:
                below = QMenu(name, menus[parent])
                menus[parent].addMenu(below)
                menus[path] = below
            parent = path
        action = QAction(row.words, window)
        if row.keys:
            action.setShortcut(QKeySequence(row.keys))
        # Looked up when it is called: parts of the window are made when they are first needed.
        action.triggered.connect(lambda _=False, row=row: _do(window, row, before))
        menus[parent].addAction(action)
        window.addAction(action)
        actions[row.words] = action
    return menu, actions
