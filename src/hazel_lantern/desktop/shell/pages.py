"""Pages to read over the stage: keys, manual, about. Esc closes them."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QFrame, QLabel, QPushButton, QTextBrowser, QVBoxLayout, QWidget

from hazel_lantern import __version__, assets
from hazel_lantern.desktop.theme.theme import Theme

if TYPE_CHECKING:
    from hazel_lantern.desktop.shell.window import Window


class Pages(QFrame):
    """One page at a time."""

    def __init__(self, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        t = theme.tokens
        self.setObjectName("pages")
        self.setStyleSheet(f"#pages {{ background: {t.raised}; border: 1px solid {t.line}; border-radius: 10px; }} QTextBrowser {{ background: {t.raised}; border: 0; }}")
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 14, 18, 14)
        self._title = QLabel()
        self._title.setFont(theme.font(16, weight=700))
        self._text = QTextBrowser()
        self._text.setOpenExternalLinks(False)
        self._text.document().setDefaultStyleSheet(f"a {{ color: {t.lantern}; }}")
        close = QPushButton("Close")
        close.clicked.connect(self.hide)
        column.addWidget(self._title)
        column.addWidget(self._text, 1)
        column.addWidget(close, 0, Qt.AlignmentFlag.AlignRight)
        self.hide()

    def open(self, title: str, html: str) -> None:
        self._title.setText(title)
        self._text.setHtml(html)
        self._show()

    def fill(self, html: str) -> None:
        """Other words under the same title."""
        self._text.setHtml(html)

    def open_markdown(self, title: str, words: str) -> None:
        self._title.setText(title)
        self._text.setMarkdown(words)
        self._show()

    def _show(self) -> None:
        parent = self.parentWidget()
        self.setGeometry(parent.width() // 10, 60, parent.width() * 4 // 5, parent.height() - 100)
        self.show()
        self.raise_()
        self._text.setFocus()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.hide()
        else:
            super().keyPressEvent(event)


class Help:
    """What the help menu shows."""

    def __init__(self, window: Window) -> None:
        self._window = window

    def show_keys(self) -> None:
        from hazel_lantern.desktop.shell import actions

        rows = "".join(f"<tr><td><b>{row.keys}</b>&nbsp;&nbsp;</td><td>{row.words.rstrip('…')}</td></tr>" for row in actions.ROWS if row.keys)
        more = "<tr><td><b>Space</b></td><td>Play, on the drawing or the strip</td></tr><tr><td><b>Enter</b></td><td>Type into a pill</td></tr><tr><td><b>Arrows, Shift</b></td><td>Nudge a pill or handle, ten times</td></tr>"
        self._window.pages.open("Keys", f"<table cellspacing=4>{rows}{more}</table>")

    def show_manual(self) -> None:
        self._window.pages.open_markdown("Manual", assets.data("manual", "manual.md").decode())

    def show_about(self) -> None:
        self._window.pages.open("Hazel Lantern", f"<p>Version {__version__}. Free software under GPL-3.0-or-later.</p><p>Fonts: Manrope and Inter, SIL Open Font License 1.1.</p>"
                                "<p>Screening only: nothing here is certified. Local codes and licensed or qualified people decide.</p>")  # fmt: skip
