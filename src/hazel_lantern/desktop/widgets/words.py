"""Words that people typed, shown as they are: never taken for markup or for a letter to press."""

from __future__ import annotations

import re
from collections.abc import Callable
from html import escape

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QAction, QGuiApplication, QKeySequence
from PyQt6.QtWidgets import QLabel, QWidget

from hazel_lantern.desktop.theme.theme import Theme


class Label(QLabel):
    """A label of plain text."""

    def __init__(self, words: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(words)


def worded(
    theme: Theme, words: str = "", size: float = 12.5, weight: int = 400, role: str = "ink", name: str = ""
) -> Label:
    """A label in one of the looks, going on in the next line where it is long."""
    label = Label(words)
    label.setObjectName(name)
    label.setFont(theme.font(size, weight=weight))
    label.setWordWrap(True)
    theme.ink(label, role)
    return label


def copies(widget: QWidget, told: Callable[[], str]) -> None:
    """Ctrl+C, and a right click, copy what a widget says."""
    action = QAction("Copy as text", widget)
    action.setShortcut(QKeySequence.StandardKey.Copy)
    action.setShortcutContext(Qt.ShortcutContext.WidgetShortcut)
    action.triggered.connect(lambda _=False: QGuiApplication.clipboard().setText(told()))
    widget.addAction(action)
    widget.setContextMenuPolicy(Qt.ContextMenuPolicy.ActionsContextMenu)


def tip(words: str) -> str:
    """Words as a tool tip; long ones are broken into lines."""
    lines = escape(words).replace("\n", "<br>")
    return f"<span>{lines}</span>" if words else ""


def together(words: str) -> str:
    """Words in which a number stays on one line with its unit and its fraction."""
    return re.sub(r"(?<=[\d']) (?=\S)", "\u00a0", words)


def face(words: str) -> str:
    """Words on a button or in a menu."""
    return words.replace("&", "&&")
