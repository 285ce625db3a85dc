"""A bar of unknown stuff measured over the stage: laid on two edges, a weight in its middle;
its row goes on the shelf."""

from __future__ import annotations

from functools import partial
from math import isfinite

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QFrame, QGridLayout, QHBoxLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.proving.bending import on_edge
from hazel_lantern.core.proving.unknown import Bent, MeasuredBar, measured_bar
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from hazel_lantern.desktop.widgets.words import worded
from hazel_lantern.files import packs
from hazel_lantern.session.session import Session

DOES = (
    "Lay it over two edges, hang a weight in its middle to seat it and take it off; then hang it again and note how "
    "far the middle sinks, three times. Weigh all of it. Balanced on an edge, it also says where its middle of mass "
    "lies."
)


def _asked(key: str, label: str, unit: str, low: float, high: float, usual: float) -> Quantity:
    return Quantity(key, label, unit, low, high, usual, "", "", "rig")


ASKED = (
    _asked("bar.span", "Edges apart", "m", 0.1, 6.0, 1.0),
    _asked("bar.load", "Weight in the middle", "kg", 0.05, 60.0, 1.0),
    _asked("bar.drop1", "Sank by", "m", 1e-5, 0.5, 0.002), _asked("bar.drop2", "and again", "m", 1e-5, 0.5, 0.002),
    _asked("bar.drop3", "and again", "m", 1e-5, 0.5, 0.002),
    _asked("bar.mass", "All of it weighs", "kg", 0.01, 60.0, 1.0),
    _asked("bar.length", "and is long", "m", 0.1, 8.0, 2.0),
    _asked("bar.edge1", "Balances at, 0 not tried", "m", 0.0, 8.0, 0.0),
    _asked("bar.edge2", "turned round, from the same end", "m", 0.0, 8.0, 0.0),
)  # fmt: skip


class UnknownBar(QFrame):
    """`made` names the new row once it lies on the shelf."""

    made = pyqtSignal(str)

    def __init__(self, session: Session, theme: Theme, like: str, parent: QWidget) -> None:
        super().__init__(parent)
        self._session, self._theme, self._like = session, theme, like
        self._label = partial(worded, theme)
        self._found: MeasuredBar | None = None
        self._typed = False
        t = theme.tokens
        self.setObjectName("unknown-bar")
        self.setStyleSheet(
            f"#unknown-bar {{ background: {t.raised}; border: 1px solid {t.lantern}; border-radius: 10px; }}"
        )
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(18), theme.px(14), theme.px(18), theme.px(14))
        column.setSpacing(theme.px(8))
        row = session.catalogue.sections[like]
        for size, weight, role, words in (
            (15, 700, "ink", "A bar of unknown stuff"),
            (12.5, 400, "ink", DOES),
            (12, 400, "muted", f"As large, and of such stuff as looks, as: {row.name}"),
        ):
            column.addWidget(self._label(words, size, weight, role))
        self._name = QLineEdit("Bar from the shed")
        self._name.setObjectName("bar.name")
        self._name.setAccessibleName("Its name")
        self._name.textEdited.connect(lambda _: self.reckon())
        column.addWidget(self._name)
        grid, self._fields = QGridLayout(), []
        for n, quantity in enumerate(ASKED):
            edit = QuantityEdit(quantity, session.display)
            edit.show_value(quantity.default)
            edit.edited.connect(self._type)
            edit.left.connect(edit.commit)
            grid.addWidget(self._label(quantity.label, 12, 400, "muted"), 2 * (n // 3), n % 3)
            grid.addWidget(edit, 2 * (n // 3) + 1, n % 3)
            self._fields.append(edit)
        column.addLayout(grid)
        self._said = self._label("", 13, 600, "lantern")
        self._said.setObjectName("bar.said")
        column.addWidget(self._said)
        column.addWidget(
            self._label(
                "Its strength is not measured so: it is reckoned as weak as the weakest stuff of its looks.",
                12,
                400,
                "muted",
            )
        )
        line = QHBoxLayout()
        self._put, close = QPushButton("Lay it on the shelf and take it"), QPushButton("Close")
        self._put.setObjectName("bar.put")
        self._put.setProperty("act", True)
        self._put.clicked.connect(lambda _=False: self.put())
        close.clicked.connect(lambda _=False: self.shut())
        line.addWidget(self._put)
        line.addWidget(close)
        line.addStretch(1)
        column.addLayout(line)
        self.setFixedWidth(theme.px(500))
        self.reckon()

    def open(self) -> None:
        """Over the stage, its first field ready."""
        parent = self.parentWidget()
        self.adjustSize()
        self.resize(self.width(), max(self.sizeHint().height(), self.heightForWidth(self.width())))
        self.move(
            (parent.width() - self.width()) // 2 - self._theme.px(58), max(50, (parent.height() - self.height()) // 2)
        )
        self.show()
        self.raise_()
        self._fields[0].setFocus()

    def shut(self) -> None:
        self.hide()
        self.deleteLater()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.shut()
        else:
            super().keyPressEvent(event)

    def _type(self, _value: float) -> None:
        self._typed = True
        self.reckon()

    def reckon(self) -> None:
        """What the readings say, or what is wrong with them."""
        show, session = self._session.display, self._session
        span, load, *drops, mass, length, edge, turned = (float(edit._value) for edit in self._fields)  # noqa: SLF001
        self._found = None
        try:
            found = measured_bar(
                self._name.text(),
                session.catalogue.sections[self._like],
                Bent(span, load, tuple(drops), mass, length),
                session.catalogue,
            )
            said = Words(
                "Stiffness {}; that of its row is {}.",
                ((found.stiffness, "N*m^2", found.give if isfinite(found.give) else 0.0), (self._usual(), "N*m^2")),
            ).text(show)
            if edge > 0 and turned > 0:
                said += Words(
                    " Its middle of mass lies {} from that end.", ((on_edge(mass, edge, turned, length).at, "m"),)
                ).text(show)
            self._found = found
        except HazelError as error:
            said = str(error)
        if not self._typed:
            said = "Type what was read."
        self._said.setText(f"{said[:1].upper()}{said[1:]}")
        self._theme.ink(self._said, "lantern" if self._found is not None or not self._typed else "watch")
        self._put.setEnabled(self._found is not None)

    def _usual(self) -> float:
        row = self._session.catalogue.sections[self._like]
        return float(row.section().upright) * self._session.catalogue.materials[row.material].E

    def put(self) -> None:
        """Lay its rows down in a pack of the builder's own, and take it."""
        taken = [edit.commit() for edit in self._fields]  # each says what is wrong with it
        if not all(taken) or self._found is None:
            return
        try:
            packs.put("measured", "materials", self._found.material)
            packs.put("measured", "sections", self._found.section)
            self._session.restock(packs.load().catalogue)
        except HazelError as error:
            self._said.setText(str(error))
            return
        key = self._found.section.id
        self.shut()
        self.made.emit(key)
