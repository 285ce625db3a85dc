"""Every action as a table: menu, words, keys, what it calls. Menus, keys and the find field all read it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from msgspec import Struct
from PyQt6.QtGui import QAction, QKeySequence
from PyQt6.QtWidgets import QMenu

from hazel_lantern.core.evaluate import STATIONS
from hazel_lantern.desktop.shell.trail import NUMBERS
from hazel_lantern.files.exports import FORMATS

if TYPE_CHECKING:
    from hazel_lantern.desktop.shell.window import Window


class Row(Struct, frozen=True):
    """One action: `call` names a method of the window, `argument` is handed to it unless empty."""

    menu: str
    words: str
    call: str
    keys: str = ""
    argument: str = ""


ROWS: tuple[Row, ...] = (
    Row("Project", "New", "new_project", "Ctrl+N"),
    Row("Project", "Open…", "open_dialog", "Ctrl+O"),
    Row("Project", "Open the sample", "open_sample"),
    Row("Project", "Open the sample in inches", "open_sample", "", "orchard-at-dusk-inches"),
    Row("Project", "Save", "save", "Ctrl+S"),
    Row("Project", "Save as…", "save_as", "Ctrl+Shift+S"),
    *(Row("Project/Export", f"{words}…", "export_dialog", "Ctrl+E" if key == "pdf" else "", key) for key, (words, _, _) in FORMATS.items()),
    Row("Project", "Quit", "close", "Ctrl+Q"),
    Row("Edit", "Undo", "undo", "Ctrl+Z"),
    Row("Edit", "Redo", "redo", "Ctrl+Shift+Z"),
    Row("Edit", "Rename the rig", "rename_rig", "F2"),
    Row("Edit", "Keep as an alternative", "keep_alternative", "Ctrl+D"),
    Row("Edit", "Remove the rig", "remove_rig"),
    Row("Edit", "The station's main action", "act", "F5"),
    *(Row("View", name, "show_station", f"Ctrl+{NUMBERS[key]}", key) for key, name in STATIONS),
    Row("View", "Next rig", "next_rig", "Ctrl+Tab"),
    Row("View", "Find", "focus_find", "Ctrl+F"),
    Row("View", "Next view", "next_view", "F6"),
    Row("View", "Sizes", "toggle_layer", "F7", "sizes"),
    Row("View", "Loads", "toggle_layer", "F8", "loads"),
    Row("View", "Ghosts", "toggle_layer", "F9", "ghost"),
    Row("View/Look", "Dusk", "use_theme", "", "dusk"),
    Row("View/Look", "Daylight", "use_theme", "", "daylight"),
    *(Row("View/Text size", f"{size} %", "use_scale", "", str(size)) for size in (100, 115, 130, 150, 175)),
    Row("View", "Less motion", "toggle_motion"),
    Row("Help", "Why this?", "why_focused", "F1"),
    Row("Help", "Keys", "show_keys"),
    Row("Help", "Manual", "show_manual"),
    Row("Help", "About", "show_about"),
)


def build(window: Window) -> tuple[QMenu, dict[str, QAction]]:
    """The lantern's menu, and its actions by words; all kept on the window so that none vanishes."""
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
        method = getattr(window, row.call)
        action.triggered.connect(lambda _=False, method=method, row=row: method(row.argument) if row.argument else method())
        menus[parent].addAction(action)
        window.addAction(action)
        actions[row.words] = action
    return menu, actions
