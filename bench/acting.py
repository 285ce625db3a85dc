"""A stranger at the real window: clicks, types, half-types, drags, picks from menus and lists, at random."""

from __future__ import annotations

import random

from PyQt6.QtCore import QCoreApplication, QEvent, QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtPrintSupport import QPrintDialog
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QComboBox,
    QFileDialog,
    QInputDialog,
    QMessageBox,
    QPushButton,
)

from hazel_lantern.core.editing import changes, checking
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.desktop.shell.actions import ROWS
from hazel_lantern.desktop.shell.bench import FigureRow
from hazel_lantern.desktop.shell.window import Window
from hazel_lantern.desktop.stage.marks import Grip, Pill
from hazel_lantern.desktop.widgets.finding_card import RemedyButton
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from hazel_lantern.files import project_file

TEXTS = (
    "1.4 m",
    "900",
    "5' 2 1/2\"",
    "12+45",
    "nonsense",
    "-3",
    "0",
    "2.2",
    "99999",
    "",
    "45",
    "0.3",
    "9" * 300,
    "1/0",
    "<b>",
)
NAMES = ("Rig", "", "  ", "<b>x</b>", "n" * 5000, "=1", "a\x00b", "R&D")
KEYS = Qt.Key
# Left out: what ends the window, or starts an outside process.
MENU = tuple(row.words for row in ROWS if row.words not in ("Quit",))


def quiet_dialogs(chance: random.Random) -> None:
    """Dialogs answer by themselves: files with nothing, names with anything, questions with nothing."""
    for name in ("getSaveFileName", "getOpenFileName"):
        setattr(QFileDialog, name, staticmethod(lambda *a, **k: ("", "")))
    QInputDialog.getText = staticmethod(lambda *a, **k: (chance.choice(NAMES), chance.random() < 0.7))  # type: ignore[method-assign]
    QInputDialog.getItem = staticmethod(lambda parent, title, words, items, *a: (chance.choice(items), True))  # type: ignore[method-assign]
    QMessageBox.exec = lambda box: 0  # type: ignore[method-assign, assignment]
    QPrintDialog.exec = lambda box: 0  # type: ignore[method-assign, assignment]


class Stranger:
    """Acts on one window; the same seed does the same."""

    def __init__(self, window: Window, chance: random.Random) -> None:
        self.window, self.chance = window, chance
        self.done: list[str] = []

    def act(self) -> None:
        """One action, and one turn of the event loop. Whatever goes wrong is raised, here or by the window's hook."""
        doing = self.chance.choice(
            (
                self.type,
                self.type,
                self.half_type,
                self.half_type,
                self.drag,
                self.drag,
                self.nudge,
                self.choose,
                self.press,
                self.menu,
                self.shortcut,
                self.play,
                self.wheel,
                self.switch,
                self.escape,
                self.back,
            )
        )
        self.done.append(doing.__name__)
        try:
            doing()
        except HazelError as error:
            self.done[-1] += f": {error}"
        QCoreApplication.processEvents()
        QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)

    def check(self) -> None:
        """The document at hand is one that can be saved and read again; raises where it is not."""
        project = self.window.session.project
        assert checking.check(project_file.decode(project_file.encode(project), "x")) == project  # type: ignore[arg-type]

    def _one(self, kind, *, where=None):  # type: ignore[no-untyped-def]
        found = [w for w in (where or self.window).findChildren(kind) if w.isVisible() and w.isEnabled()]
        return self.chance.choice(found) if found else None

    def half_type(self) -> None:
        field = self._one(QuantityEdit)
        if field is not None:
            field.setFocus()
            field.selectAll()
            QTest.keyClicks(field, self.chance.choice(TEXTS))

    def type(self) -> None:
        self.half_type()
        at = QApplication.focusWidget()
        if isinstance(at, QuantityEdit):
            QTest.keyClick(at, self.chance.choice((KEYS.Key_Return, KEYS.Key_Tab, KEYS.Key_Escape, KEYS.Key_Up)))

    def drag(self) -> None:
        grip = self._one(Grip)
        if grip is None or not grip.key:
            return
        far = QPoint(self.chance.randint(-90, 90), self.chance.randint(-90, 90))
        QTest.mousePress(grip, Qt.MouseButton.LeftButton, pos=QPoint(15, 15))
        at = grip.mapToGlobal(QPoint(15, 15))
        QTest.mouseMove(grip, grip.mapFromGlobal(at + far / 2))
        if self.chance.random() < 0.15:
            QTest.keyClick(grip, KEYS.Key_Escape)
        QTest.mouseMove(grip, grip.mapFromGlobal(at + far))
        QTest.mouseRelease(grip, Qt.MouseButton.LeftButton)

    def nudge(self) -> None:
        mark = self._one(Pill if self.chance.random() < 0.5 else Grip)
        if mark is not None:
            mark.setFocus()
            QTest.keyClick(
                mark, self.chance.choice((KEYS.Key_Up, KEYS.Key_Down, KEYS.Key_Left, KEYS.Key_Right, KEYS.Key_Return))
            )

    def choose(self) -> None:
        box = self._one(QComboBox)
        if box is not None and box.count():
            box.setFocus()
            box.setCurrentIndex(self.chance.randrange(box.count()))
            box.activated.emit(box.currentIndex())

    def press(self) -> None:
        button = self._one(self.chance.choice((QPushButton, RemedyButton, FigureRow, QAbstractButton)))
        if button is None or getattr(button, "menu", lambda: None)() is not None:
            return
        QTest.mouseClick(button, Qt.MouseButton.LeftButton)

    def menu(self) -> None:
        self.window.actions_by_name[self.chance.choice(MENU)].trigger()

    def shortcut(self) -> None:
        key = self.chance.choice(
            (
                KEYS.Key_1,
                KEYS.Key_2,
                KEYS.Key_3,
                KEYS.Key_4,
                KEYS.Key_6,
                KEYS.Key_Tab,
                KEYS.Key_Z,
                KEYS.Key_D,
                KEYS.Key_S,
            )
        )
        QTest.keyClick(QApplication.focusWidget() or self.window, key, Qt.KeyboardModifier.ControlModifier)

    def play(self) -> None:
        self.window.strip.go(self.chance.random())

    def wheel(self) -> None:
        under = self._one(QuantityEdit) if self.chance.random() < 0.5 else self.window.stage
        if under is None:
            return
        if isinstance(under, QuantityEdit):
            under.setFocus()
        middle = QPointF(under.rect().center())
        turn = QPoint(0, self.chance.choice((-120, 120)))
        QApplication.sendEvent(
            under,
            QWheelEvent(
                middle,
                under.mapToGlobal(middle),
                QPoint(),
                turn,
                Qt.MouseButton.NoButton,
                Qt.KeyboardModifier.NoModifier,
                Qt.ScrollPhase.NoScrollPhase,
                False,
            ),
        )

    def switch(self) -> None:
        session = self.window.session
        if not session.project.rigs or self.chance.random() < 0.15:
            kinds = ("jib/two_bars", "jib/cable", "slider/grooved", "overhead/trolley", "gantry/bar")
            self.window.rigs.add_rig(self.chance.choice(kinds))
        elif self.chance.random() < 0.1 and len(session.project.rigs) > 6:
            session.change("Fewer", changes.remove_rig(session.project, session.project.rigs[-1].id))
        else:
            session.switch(self.chance.choice(session.project.rigs).id)

    def escape(self) -> None:
        QTest.keyClick(QApplication.focusWidget() or self.window, KEYS.Key_Escape)

    def back(self) -> None:
        self.chance.choice((self.window.undo, self.window.redo))()
