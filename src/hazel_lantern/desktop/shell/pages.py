"""Pages to read over the stage: keys, manual, about. Esc closes them."""

from __future__ import annotations

from PyQt6.QtCore import Qt, QUrl
from PyQt6.QtGui import QImage, QKeyEvent, QTextCursor, QTextDocument, QTextOption
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QLineEdit, QPushButton, QTextBrowser, QVBoxLayout, QWidget

from hazel_lantern import assets
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.words import Label


class Reader(QTextBrowser):
    """Shows what ships with the manual, and fetches nothing else."""

    def loadResource(self, sort: int, name: QUrl) -> object:
        if sort == QTextDocument.ResourceType.ImageResource.value and name.toString().startswith("pictures/"):
            return QImage.fromData(assets.data("manual", *name.toString().split("/")))
        return None


class Pages(QFrame):
    """One page at a time."""

    def __init__(self, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        t = theme.tokens
        self.setObjectName("pages")
        self.setStyleSheet(
            f"#pages {{ background: {t.raised}; border: 1px solid {t.line}; border-radius: 10px; }} QTextBrowser {{ "
            f"background: {t.raised}; border: 0; }}"
        )
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 14, 18, 14)
        self._title = Label()
        self._title.setFont(theme.font(16, weight=700))
        self._text = Reader()
        self._text.setOpenExternalLinks(False)
        self._text.setWordWrapMode(QTextOption.WrapMode.WordWrap)  # tables do not break within words
        self._text.document().setDefaultStyleSheet(f"a {{ color: {t.lantern}; }}")
        close = QPushButton("Close")
        close.clicked.connect(self.hide)
        head = QHBoxLayout()
        self.search = QLineEdit()
        self.search.setPlaceholderText("Search this page, Enter for the next…")
        self.search.setAccessibleName("Search this page")
        self.search.setObjectName("page.search")
        self.search.setFixedWidth(theme.px(270))
        self.search.returnPressed.connect(self._next)
        head.addWidget(self._title, 1)
        head.addWidget(self.search)
        column.addLayout(head)
        column.addWidget(self._text, 1)
        column.addWidget(close, 0, Qt.AlignmentFlag.AlignRight)
        self.hide()

    def open(self, title: str, html: str, anchor: str = "") -> None:
        """A page, at one of its places where it is named."""
        self._title.setText(title)
        self._text.setHtml(html)
        self._show()
        if anchor:
            self._text.scrollToAnchor(anchor)

    def fill(self, html: str) -> None:
        """Other words under the same title."""
        self._text.setHtml(html)

    def open_markdown(self, title: str, words: str) -> None:
        self._title.setText(title)
        self._text.setMarkdown(words)
        self._show()

    def _next(self) -> None:
        """The next place of what is searched, from the top again after the last."""
        if not self._text.find(self.search.text()):
            self._text.moveCursor(QTextCursor.MoveOperation.Start)
            self._text.find(self.search.text())

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
