"""A builder's day for each kind: from an empty window to the card in the hand, by mouse alone and by keys alone."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QCoreApplication, QEvent, QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QCheckBox, QLineEdit, QPushButton, QWidget

from hazel_lantern.core.editing.starting import blank
from hazel_lantern.core.kinds import DECLARED
from hazel_lantern.core.stations import STATIONS
from hazel_lantern.desktop.shell.window import Window
from hazel_lantern.desktop.stations.roll.card import Card
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.session.session import Session
from hazel_lantern.session.settings import Settings
from tests.helpers import SHELF, turn

LEFT = Qt.MouseButton.LeftButton
CTRL = Qt.KeyboardModifier.ControlModifier


class Mouse:
    """Nothing but clicks, each on something that is in sight."""

    name = "mouse"

    def __init__(self, window: Window) -> None:
        self.window = window

    def press(self, name: str) -> None:
        found = self.window.findChild(QWidget, name)
        assert found is not None, name
        area = getattr(self.window, "bench", None)
        if area is not None and area.isAncestorOf(found):
            area.ensureWidgetVisible(found)
        turn()
        assert found.isVisible() and found.isEnabled(), name
        spot = found.mapTo(self.window, QPoint(found.width() // 2, min(found.height() // 2, 14)))
        assert self.window.rect().contains(spot), f"{name} lies outside of the window"
        QTest.mouseClick(found, LEFT, pos=QPoint(found.width() // 2, min(found.height() // 2, 14)))
        turn()

    def start(self, kind: str, variant: str) -> None:
        self.press("way.rig")
        self.press(f"construction.{kind}.{variant}")
        self.press("add-rig.add")

    def go(self, station: str) -> None:
        self.press(f"station.{station}")

    def act(self) -> None:
        self.press("act")

    def card(self) -> None:
        self.press("roll.card.open")

    def tick(self, box: QCheckBox) -> None:
        QTest.mouseClick(box, LEFT, pos=QPoint(10, box.height() // 2))

    def shut(self) -> None:
        self.press("card.close")


class Keys:
    """Nothing but keys, sent to whatever has the focus."""

    name = "keys"

    def __init__(self, window: Window) -> None:
        self.window = window

    def key(self, key: Qt.Key, more: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
        QTest.keyClick(QApplication.focusWidget() or self.window, key, more)
        turn()

    def onto(self, name: str) -> None:
        """Tab until something has the focus; all that is needed is reached that way."""
        for _ in range(400):
            held = QApplication.focusWidget()
            if held is not None and held.objectName() == name:
                return
            self.key(Qt.Key.Key_Tab)
        raise AssertionError(f"{name} is not reached by Tab")

    def start(self, kind: str, variant: str) -> None:
        self.onto("way.rig")
        self.key(Qt.Key.Key_Space)
        wanted = f"construction.{kind}.{variant}"
        for _ in range(60):  # one of a group: arrows lead from one to the next, and choose it
            if QApplication.focusWidget().objectName() == wanted:
                break
            self.key(Qt.Key.Key_Right)
        assert QApplication.focusWidget().objectName() == wanted
        self.key(Qt.Key.Key_Return)

    def go(self, station: str) -> None:
        number = next(row.number for row in STATIONS if row.key == station)
        self.key(Qt.Key(Qt.Key.Key_0 + number), CTRL)

    def act(self) -> None:
        self.key(Qt.Key.Key_F5)

    def card(self) -> None:
        self.onto("roll.card.open")
        self.key(Qt.Key.Key_Space)

    def tick(self, box: QCheckBox) -> None:
        box.setFocus()  # the first of many; Tab leads through them in their order
        self.key(Qt.Key.Key_Space)

    def shut(self) -> None:
        self.key(Qt.Key.Key_Escape)


@pytest.fixture
def empty(qtbot, qapp, fonts):
    theme = Theme("dusk", 100)
    theme.apply(qapp)
    window = Window(Session(blank(), SHELF), theme, Settings(), welcome=True)
    window.show()
    window.activateWindow()
    turn()
    yield window
    window.session.open(window.session.project, None)
    window.close()
    window.deleteLater()
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)


@pytest.mark.parametrize("hand", [Mouse, Keys], ids=lambda hand: hand.name)
@pytest.mark.parametrize("kind", list(DECLARED))
def test_from_an_empty_window_to_the_card_in_the_hand(empty, qtbot, kind, hand):
    window, by = empty, hand(empty)
    by.start(kind, DECLARED[kind].variants[0][0])
    session = window.session
    qtbot.waitUntil(lambda: session.has_rig and session.document.rigs[-1].kind == kind, timeout=20_000)
    rig = session.rig_id
    assert session.document.rig(rig).kind == kind and window.station == "rig"
    stations = [row.key for row in STATIONS if row.holds(session.evaluation.kind.stations)]
    for station in stations:
        by.go(station)
        assert window.station == station, station
        done = session.document
        if station in ("rig", "balance") and any(one.station == station for one in session.evaluation.kind.actions):
            by.act()
            assert session.evaluation.model is not None
        assert not window.message.isVisible() or "sized" in window.message.text(), (station, window.message.text())
        # Something is told at every station, and nothing of the document is lost by looking.
        assert window.trail.isVisible() and [one.id for one in session.document.rigs] == [one.id for one in done.rigs]
        picture = window.grab().toImage()
        assert len({picture.pixel(x, y) for x in range(0, 1280, 40) for y in range(0, 800, 40)}) > 8, station
    assert window.station == "roll"
    stops = [f.title for f in session.evaluation.findings if f.state == "stop" and f.about in ("people", "structure")]
    head = window.findChild(QWidget, "roll.head").text()
    assert head.startswith("Before you roll")
    assert not window.findChild(QPushButton, "roll.arm").isEnabled()  # nothing is led yet
    by.card()
    card = window.findChild(Card)
    assert card.isVisible()
    words = " ".join(label.text() for label in card.findChildren(QWidget) if hasattr(label, "text"))
    assert session.document.rig(rig).name in words and "What stops the shoot" in words
    assert all(title in words for title in stops)
    boxes = card.findChildren(QCheckBox)
    assert boxes, "nothing to tick while building up"
    by.tick(boxes[0])
    assert boxes[0].isChecked()
    by.shut()
    assert not card.isVisible()
    # What was done can be taken back step by step, down to the empty project.
    while session.undo_words:
        session.undo()
    assert not session.has_rig


def test_a_name_is_typed_and_found_again_by_keys(empty, qtbot):
    window, by = empty, Keys(empty)
    by.start("slider", "grooved")
    qtbot.waitUntil(lambda: window.session.has_rig, timeout=20_000)
    by.key(Qt.Key.Key_F, CTRL)
    field = QApplication.focusWidget()
    assert isinstance(field, QLineEdit) and field.objectName() == "find"
    QTest.keyClicks(field, "Wheels apart, along")
    QTest.keyClick(field, Qt.Key.Key_Return)
    turn()
    held = QApplication.focusWidget()
    assert held is not None and held.objectName() == "edit.carriage.wheelbase"
    before = window.session.value("carriage.wheelbase")
    held.selectAll()
    QTest.keyClicks(held, "0.2 m")
    by.key(Qt.Key.Key_Return)
    assert window.session.value("carriage.wheelbase") == 0.2 != before
    by.key(Qt.Key.Key_Z, CTRL)
    assert window.session.value("carriage.wheelbase") == before
