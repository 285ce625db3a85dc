"""The look in force: colours, fonts, style sheet. Belongs to the window and is handed to what it makes."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from typing import Any, TypeVar

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PyQt6.QtWidgets import QApplication, QWidget

from hazel_lantern import assets
from hazel_lantern.desktop.theme.tokens import THEMES, Tokens

TEXT, NUMBERS = "Manrope", "Inter"
SMALLEST = 11.5
T = TypeVar("T")


def load_fonts() -> None:
    """Register the fonts that ship with the application."""
    for name in assets.FONTS:
        QFontDatabase.addApplicationFontFromData(assets.data("fonts", name))


class Theme(QObject):
    """Colours and sizes in force; `changed` after either was switched."""

    changed = pyqtSignal()

    def __init__(self, name: str = "dusk", scale: int = 100, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.tokens: Tokens = THEMES.get(name, THEMES["dusk"])
        self.scale = scale / 100
        self._colors: dict[tuple[str, int], QColor] = {}
        self._fonts: dict[tuple[float, int, bool], QFont] = {}
        self._kept: dict[Hashable, Any] = {}

    def use(self, name: str | None = None, scale: int | None = None) -> None:
        if name is not None:
            self.tokens = THEMES[name]
            self._colors.clear()
            self._kept.clear()
        if scale is not None:
            self.scale = scale / 100
            self._fonts.clear()
        self.changed.emit()

    def px(self, size: float) -> int:
        return round(size * self.scale)

    def side(self, size: float) -> int:
        """Width of a side column: it grows half as much as the text, so that the stage keeps its room."""
        return round(size * (1 + (self.scale - 1) / 2))

    def color(self, role: str, alpha: int = 255) -> QColor:
        """A role's colour, shared by all who ask: never to be changed in place."""
        found = self._colors.get((role, alpha))
        if found is None:
            found = QColor(self.tokens.of(role))
            found.setAlpha(alpha)
            self._colors[(role, alpha)] = found
        return found

    def kept(self, key: Hashable, make: Callable[[], T]) -> T:
        """Something made once for the colours in force, such as pens and brushes: never to be changed in place."""
        found: T | None = self._kept.get(key)
        if found is None:
            found = self._kept[key] = make()
        return found

    def font(self, size: float = 13, *, weight: int = 500, numbers: bool = False) -> QFont:
        """Text, or figures of one width, at a size in pixels at 100 %."""
        known = self._fonts.get((size, weight, numbers))
        if known is not None:
            return known
        font = QFont(NUMBERS if numbers else TEXT)
        font.setPixelSize(max(1, round(max(size, SMALLEST) * self.scale)))
        font.setWeight(QFont.Weight(min(weight, 600) if numbers else weight))
        if numbers:
            font.setFeature(QFont.Tag("tnum"), 1)
        self._fonts[(size, weight, numbers)] = font
        return font

    def ink(self, label: QWidget, role: str) -> None:
        """Write a label in the colour of a role: its palette alone, since a style sheet of its own costs ten times as
        much.
        """
        palette = label.palette()
        palette.setColor(QPalette.ColorRole.WindowText, self.color(role))
        label.setPalette(palette)

    def rule(self, *, across: bool, role: str = "line") -> QWidget:
        """A thin line between parts of the window."""
        line = QWidget()
        palette = line.palette()
        palette.setColor(QPalette.ColorRole.Window, self.color(role))
        line.setPalette(palette)
        line.setAutoFillBackground(True)
        (line.setFixedHeight if across else line.setFixedWidth)(1)
        return line

    def apply(self, app: QApplication) -> None:
        """Palette, font and style sheet of the whole application."""
        t = self.tokens
        palette = QPalette()
        for role, name in (
            (QPalette.ColorRole.Window, t.panel),
            (QPalette.ColorRole.WindowText, t.ink),
            (QPalette.ColorRole.Base, t.ground),
            (QPalette.ColorRole.Text, t.ink),
            (QPalette.ColorRole.Button, t.raised),
            (QPalette.ColorRole.ButtonText, t.ink),
            (QPalette.ColorRole.Highlight, t.lantern),
            (QPalette.ColorRole.HighlightedText, t.on_lantern),
            (QPalette.ColorRole.ToolTipBase, t.raised),
            (QPalette.ColorRole.ToolTipText, t.ink),
            (QPalette.ColorRole.PlaceholderText, t.muted),
            (QPalette.ColorRole.Link, t.lantern),
        ):
            palette.setColor(role, QColor(name))
        app.setPalette(palette)
        app.setFont(self.font())
        app.setStyleSheet(self.sheet())

    def sheet(self) -> str:
        t, px = self.tokens, self.px
        return f"""
        QMainWindow, #frame {{ background: {t.panel}; }}
        QToolTip {{ background: {t.raised}; color: {t.ink}; border: 1px solid {t.line}; padding: 4px 6px; }}
        QLineEdit {{ background: {t.ground}; border: 1px solid {t.line}; border-radius: 6px; padding: 0 8px;
            min-height: {px(28)}px; selection-background-color: {t.lantern}; selection-color: {t.on_lantern}; }}
        QLineEdit:focus {{ border: 1px solid {t.lantern}; }}
        QLineEdit[wrong="true"] {{ border: 1px solid {t.stop}; }}
        QComboBox {{ background: {t.ground}; border: 1px solid {t.line}; border-radius: 6px;
            padding: 0 {px(6)}px 0 8px; min-height: {px(28)}px; combobox-popup: 0; }}
        QComboBox:focus {{ border: 1px solid {t.lantern}; }}
        QComboBox::drop-down {{ border: 0; width: {px(18)}px; }}
        QComboBox QAbstractItemView {{ background: {t.raised}; border: 1px solid {t.line};
            selection-background-color: {t.lantern}; selection-color: {t.on_lantern}; }}
        QPushButton {{ background: transparent; border: 1px solid {t.line}; border-radius: 6px; padding: 0 10px;
            min-height: {px(28)}px; color: {t.ink}; }}
        QToolButton {{ background: transparent; border: 1px solid {t.line}; border-radius: 6px; padding: 0 10px;
            min-height: {px(26)}px; color: {t.muted}; }}
        QToolButton:hover, QToolButton:focus {{ border-color: {t.lantern}; color: {t.ink}; }}
        QToolButton::menu-indicator {{ image: none; width: 0; }}
        QPushButton:hover, QPushButton:focus {{ border-color: {t.lantern}; }}
        QPushButton:disabled {{ color: {t.muted}; }}
        QPushButton[act="true"] {{ border-color: {t.lantern}; color: {t.lantern}; }}
        QPushButton[act="true"]:hover {{ background: {t.glow}; }}
        QPushButton[act="true"]:disabled {{ border-color: {t.line}; color: {t.muted}; }}
        QPushButton[chip="true"] {{ border-radius: {px(14)}px; padding: 0 12px; }}
        QPushButton[chip="true"]:checked {{ border-color: {t.lantern}; background: {t.glow}; }}
        QPushButton[solid="true"]:checked {{ background: {t.lantern}; color: {t.on_lantern};
            border-color: {t.lantern}; }}
        QPushButton[tight="true"] {{ padding: 0 4px; }}
        QPushButton[head="true"] {{ text-align: left; color: {t.lantern}; padding: 0; border: 0; }}
        QPushButton[head="true"]:hover, QPushButton[head="true"]:focus {{ text-decoration: underline; }}
        QPushButton[flat="true"] {{ border: 0; color: {t.muted}; padding: 0 4px; }}
        QPushButton[flat="true"]:hover, QPushButton[flat="true"]:focus {{ color: {t.lantern};
            text-decoration: underline; }}
        #reading-chips {{ background: {t.ground}; border-top: 1px solid {t.line}; }}
        #message {{ background: {t.raised}; border-top: 2px solid {t.stop}; }}
        #said {{ background: {t.raised}; border: 1px solid {t.stop}; border-radius: 6px; padding: 4px 10px; }}
        QScrollArea, QScrollArea > QWidget > QWidget {{ background: transparent; border: 0; }}
        QScrollBar:vertical {{ background: transparent; width: 8px; margin: 0; }}
        QScrollBar::handle:vertical {{ background: {t.line}; border-radius: 4px; min-height: 30px; }}
        QScrollBar:horizontal {{ background: transparent; height: 8px; margin: 0; }}
        QScrollBar::handle:horizontal {{ background: {t.line}; border-radius: 4px; min-width: 30px; }}
        QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page {{ height: 0; width: 0;
            background: transparent; }}
        QMenu {{ background: {t.raised}; border: 1px solid {t.line}; padding: 4px; }}
        QMenu::item {{ padding: 6px 24px 6px 12px; border-radius: 4px; }}
        QMenu::item:selected {{ background: {t.lantern}; color: {t.on_lantern}; }}
        QMenu::item:disabled {{ color: {t.muted}; }}
        QMenu::separator {{ height: 1px; background: {t.line}; margin: 4px 8px; }}
        QListView {{ background: {t.raised}; border: 1px solid {t.line}; }}
        QComboBox QAbstractItemView::item, QListView::item {{ min-height: {px(28)}px; padding: 0 6px; }}
        QComboBox QAbstractItemView::item:selected, QListView::item:selected {{ background: {t.lantern};
            color: {t.on_lantern}; }}
        QMessageBox, QDialog {{ background: {t.panel}; }}
        """
