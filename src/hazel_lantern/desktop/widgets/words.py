"""Words that people typed, shown as they are: never taken for markup or for a letter to press."""

from __future__ import annotations

from html import escape

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel, QWidget


class Label(QLabel):
    """A label of plain text."""

    def __init__(self, words: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(words)


def tip(words: str) -> str:
    """Words as a tool tip; long ones are broken into lines."""
    lines = escape(words).replace("\n", "<br>")
    return f"<span>{lines}</span>" if words else ""


def face(words: str) -> str:
    """Words on a button or in a menu."""
    return words.replace("&", "&&")
