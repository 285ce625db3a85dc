"""The top line: lantern mark with the menu, project name, rigs, find, units."""

from __future__ import annotations

from PyQt6.QtCore import QModelIndex, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QFontMetricsF, QIcon, QPainter, QPaintEvent, QPixmap, QResizeEvent
from PyQt6.QtWidgets import QButtonGroup, QCompleter, QHBoxLayout, QMenu, QPushButton, QToolButton, QWidget

from hazel_lantern.core.nouns.finding import CLEAR
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.found import FindField, Found, FoundDelegate, FoundRows
from hazel_lantern.desktop.widgets.glyphs import paint_lantern
from hazel_lantern.desktop.widgets.words import Label, face
from hazel_lantern.session.session import Session

MOST_CHIPS = 4


def lantern_icon(theme: Theme, size: int = 64) -> QIcon:
    """The mark: a lit lantern in lantern colour."""
    pixmap = QPixmap(size, size)
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    paint_lantern(painter, QRectF(0, 0, size, size), CLEAR, theme, role="lantern")
    painter.end()
    return QIcon(pixmap)


class Mark(QToolButton):
    """The lantern mark, which opens the menu. Painted here: an icon would be drawn twice, and all of a start is
    waited for.
    """

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.setFixedSize(theme.px(34), theme.px(34))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, inset = QPainter(self), self._theme.px(4)
        if self.hasFocus() or self.underMouse():
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setPen(self._theme.color("lantern" if self.hasFocus() else "line"))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6)
        paint_lantern(
            painter, QRectF(self.rect()).adjusted(inset, inset, -inset, -inset), CLEAR, self._theme, role="lantern"
        )


def _chip(name: str, parent: QWidget | None = None) -> QPushButton:
    """A rig's button."""
    chip = QPushButton(name, parent)
    chip.setCheckable(True)
    chip.setProperty("solid", True)
    chip.setProperty("chip", True)
    return chip


class TopLine(QWidget):
    """Shows which project and rig is at hand."""

    rig_chosen = pyqtSignal(str)
    rig_wanted = pyqtSignal()
    units_chosen = pyqtSignal(str)
    found = pyqtSignal(str)
    picked = pyqtSignal(str)

    def __init__(self, session: Session, theme: Theme, menu: QMenu, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session, self._theme = session, theme
        self.setFixedHeight(theme.px(46))
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 0, 14, 0)
        row.setSpacing(8)
        self._mark = Mark(theme)
        self._mark.setObjectName("menu")
        self._mark.setAccessibleName("Menu")
        self._mark.setToolTip("Menu")
        self._mark.setMenu(menu)
        self._mark.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self._name = Label()
        self._name.setFont(theme.font(14.5, weight=700))
        row.addWidget(self._mark)
        row.addWidget(self._name)
        row.addSpacing(8)
        self._chips = QHBoxLayout()
        self._chips.setSpacing(6)
        row.addLayout(self._chips)
        self._sample = _chip("", self)  # never seen: how wide a name makes one
        self._sample.hide()
        self._rest = QToolButton()
        self._rest.setText("more …")
        self._rest.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self._rest.setMenu(QMenu(self._rest))
        self._listed: list[tuple[str, str]] = []  # in that menu
        self._add = QPushButton("+ rig")
        self._add.setProperty("flat", True)
        self._add.setObjectName("add-rig")
        self._add.setToolTip("All rigs, by picture")
        self._add.clicked.connect(lambda _=False: self.rig_wanted.emit())
        row.addWidget(self._rest)
        row.addWidget(self._add)
        row.addStretch(1)
        self.finder = FindField()
        self.finder.setObjectName("find")
        self.finder.setPlaceholderText("Find…   Ctrl F")
        self.finder.setAccessibleName("Find a station, figure, finding or action")
        self.finder.setFixedWidth(theme.px(170))
        self._completer = QCompleter(self.finder)
        self._completer.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
        self._completer.setFilterMode(Qt.MatchFlag.MatchContains)
        self._completer.activated[QModelIndex].connect(self._took)
        self._rows = FoundDelegate(theme)
        popup = self._completer.popup()
        popup.setItemDelegate(self._rows)
        popup.setMinimumWidth(theme.px(450))
        self.finder.setCompleter(self._completer)
        self.finder.returnPressed.connect(lambda: self._go(self.finder.text()))
        self._built = QPushButton("as built")
        self._built.setObjectName("as-built")
        self._built.setCheckable(True)
        self._built.setProperty("chip", True)
        self._built.clicked.connect(lambda on=False: session.look_built(on=on))
        self._urgent: QWidget | None = None
        row.addWidget(self._built)
        row.addWidget(self.finder)
        self._units = QButtonGroup(self)
        for system in ("mm", "in"):
            button = QPushButton(system)
            button.setCheckable(True)
            button.setProperty("solid", True)
            button.setObjectName(f"units.{system}")
            button.setAccessibleName("Show millimetres" if system == "mm" else "Show inches")
            button.setFixedWidth(theme.px(42))
            button.setProperty("tight", True)
            button.clicked.connect(lambda _=False, system=system: self.units_chosen.emit(system))
            self._units.addButton(button)
            row.addWidget(button)
        self._buttons: dict[str, QPushButton] = {}

    def _go(self, words: str) -> None:
        # The completer writes its text after this signal; the field is emptied once it is done.
        self.found.emit(words)
        self.finder.clear()

    def _took(self, index: QModelIndex) -> None:
        row = index.data(Qt.ItemDataRole.UserRole)
        if isinstance(row, Found):
            self.picked.emit(row.key)
            QTimer.singleShot(0, self.finder.clear)

    def hold(self, urgent: QWidget) -> None:
        """Something that must be in sight at every station while it is shown."""
        self._urgent = urgent
        row = self.layout()
        assert isinstance(row, QHBoxLayout)
        row.insertWidget(row.indexOf(self._built), urgent)

    def offer(self, rows: list[Found]) -> None:
        """What the find field knows."""
        self._model = FoundRows(rows)
        self._completer.setModel(self._model)

    def _fitting(self, names: list[str]) -> int:
        """How many chips find room between the project's name and the find field; at least one."""
        theme = self._theme
        room: float = (
            self.width()
            - 26
            - self._mark.sizeHint().width()
            - self._name.sizeHint().width()
            - self.finder.width()
            - 2 * theme.px(42)
            - self._add.sizeHint().width()
            - sum(one.sizeHint().width() + 8 for one in (self._built, self._urgent) if one and one.isVisible())
            - 10 * 8
        )
        most = 0
        for name in names[:MOST_CHIPS]:
            self._sample.setText(name)
            room -= self._sample.sizeHint().width() + self._chips.spacing()
            if room < (0 if most + 1 == len(names) else self._rest.sizeHint().width()):
                break
            most += 1
        return max(1, most)

    def _short(self, name: str) -> str:
        """A name cut to a seventh of the line, so that all else keeps its room."""
        metrics = QFontMetricsF(self._name.font())
        return metrics.elidedText(name, Qt.TextElideMode.ElideRight, max(self.width(), 1100) / 7)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self.refresh()

    def refresh(self) -> None:
        project = self._session.shown if self._session.has_rig else self._session.project
        self._name.setText(self._short(project.name))
        rows = project.rig(self._session.rig_id).measured if self._session.has_rig else ()
        self._built.setVisible(bool(rows))
        self._built.setChecked(self._session.built)
        self._built.setToolTip(f"{len(rows)} value{'s' if len(rows) != 1 else ''} measured on the built rig")
        shown = [(rig.id, face(self._short(rig.name))) for rig in project.rigs]
        most = self._fitting([name for _, name in shown])
        here = next((k for k, (key, _) in enumerate(shown) if key == self._session.rig_id), 0)
        if here >= most > 0:
            # The rig at hand always has its chip.
            shown.insert(most - 1, shown.pop(here))
        if [(k, b.text()) for k, b in self._buttons.items()] != shown[:most]:
            for old in self._buttons.values():
                old.deleteLater()
            self._buttons = {}
            for key, name in shown[:most]:
                chip = _chip(name)
                chip.setObjectName(f"rig.{key}")
                chip.clicked.connect(lambda _=False, key=key: self.rig_chosen.emit(key))
                self._chips.addWidget(chip)
                self._buttons[key] = chip
        if shown[most:] != self._listed:
            self._listed = shown[most:]
            rest = self._rest.menu()
            rest.clear()
            for key, name in self._listed:
                rest.addAction(name).triggered.connect(lambda _=False, key=key: self.rig_chosen.emit(key))
        self._rest.setVisible(len(shown) > most)
        for key, chip in self._buttons.items():
            chip.setChecked(key == self._session.rig_id)
        for button in self._units.buttons():
            button.setChecked(button.text() == project.units)
