"""Roll in a real window: cautions, the simulated controller, a stop from any field, takes, the pace coach, the card."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QComboBox, QLineEdit, QPushButton, QWidget

from hazel_lantern.core.rolling import cautions
from hazel_lantern.desktop.stations.roll.card import Card
from hazel_lantern.desktop.widgets.words import Label
from hazel_lantern.files import takes
from tests.helpers import turn

LEFT = Qt.MouseButton.LeftButton


def press(window, name):
    button = window.findChild(QPushButton, name)
    assert button is not None, name
    QTest.mouseClick(button, LEFT)
    return button


def test_cautions_hold_the_controller_and_a_stop_works_in_any_field(make, qtbot):
    window = make(station="rig")
    session = window.session
    session.switch("comb-turntable")
    window.show_station("roll")
    page = window.page
    assert window.view == "lens" and "0 of 2" in page.bench.findChild(QWidget, "roll.head").text()
    press(window, "roll.lead")
    qtbot.waitUntil(lambda: page.rolling.now is not None, timeout=5000)
    press(window, "roll.home")
    qtbot.waitUntil(lambda: page.rolling.now.state == "ready", timeout=6000)
    assert not window.findChild(QPushButton, "roll.arm").isEnabled()
    accepts = [b.objectName() for b in window.findChildren(QPushButton) if b.objectName().startswith("roll.accept.")]
    press(window, accepts[0])
    assert "name" in window.message.text() and not session.document.rig("comb-turntable").accepted
    QTest.keyClicks(window.findChild(QLineEdit, "roll.name"), "Ada")
    for name in accepts:
        field = window.findChild(QLineEdit, "roll.name")
        if not field.text():
            QTest.keyClicks(field, "Ada")
        press(window, name)
    assert len(session.document.rig("comb-turntable").accepted) == len(accepts) == 2
    qtbot.waitUntil(lambda: window.findChild(QPushButton, "roll.arm").isEnabled())
    press(window, "roll.arm")
    qtbot.waitUntil(lambda: page.rolling.now.state == "armed", timeout=6000)
    press(window, "roll.run")
    qtbot.waitUntil(lambda: page.rolling.now.state == "running", timeout=4000)
    note = window.findChild(QLineEdit, "roll.name") or window.findChild(QLineEdit)
    note.setFocus()
    QTest.keyClicks(note, "half a na")
    QTest.keyClick(note, Qt.Key.Key_F12)
    of = lambda: [one for one in page.rolling.takes() if one.rig == "comb-turntable"]  # noqa: E731
    qtbot.waitUntil(lambda: bool(of()), timeout=5000)
    taken = of()
    assert "asked to stop" in taken[0].fault and taken[0].how == "motor" and taken[0].trace
    assert takes.beside(session.path, session.document.name).with_name(taken[0].trace).exists()
    press(window, "roll.lead")
    qtbot.waitUntil(lambda: not page.rolling.led, timeout=5000)


def test_a_rig_with_a_stop_is_not_led_and_hands_are_scored(make, qtbot):
    window = make(station="roll")
    page, coach = window.page, window.page.coach
    press(window, "roll.lead")
    assert "is a stop" in window.message.text() and not page.rolling.led
    assert "cannot be accepted" in " ".join(label.text() for label in page.bench.findChildren(Label))
    hand = window.findChild(QComboBox, "coach.hand")
    points = {}
    for sort in ("steady", "jerky"):
        hand.setCurrentIndex(hand.findData(sort))
        press(window, "coach.go")
        points[sort] = coach.last.points
        press(window, "coach.keep")
    assert points["steady"] > points["jerky"] and [one.points for one in page.rolling.takes()][-2:] == list(
        points.values()
    )
    hand.setCurrentIndex(0)
    press(window, "coach.go")
    track = coach.track
    track._clock.restart()
    QTest.keyClick(track, Qt.Key.Key_Right)
    assert track._push > 0
    QTest.mousePress(track, LEFT, pos=track._bar().center().toPoint())
    assert 0.3 < track._place / coach._length < 0.7
    QTest.keyClick(track, Qt.Key.Key_Escape)
    assert not track._timer.isActive()
    mine = lambda n: next(one for one in page.rolling.takes() if (one.rig, one.number) == ("hive-jib", n))  # noqa: E731
    press(window, "roll.stars.5")
    assert mine(5).stars == 1
    note = window.findChild(QLineEdit, "roll.note.4")
    note.selectAll()
    QTest.keyClicks(note, "bump at joint 2")
    QTest.keyClick(note, Qt.Key.Key_Return)
    assert mine(4).fault == "bump at joint 2"
    press(window, "roll.card.open")
    card = window.findChild(Card)
    assert card.isVisible() and card.width() > 400
    QTest.keyClick(card, Qt.Key.Key_Escape)
    assert not card.isVisible()


def test_what_is_led_is_stopped_from_any_station_and_is_not_armed_once_the_rig_is_another(make, qtbot):
    window = make(station="rig")
    session = window.session
    session.switch("comb-turntable")
    window.show_station("roll")
    rolling = window.page.rolling
    finding = [one.finding for one in window.page.bench.accepting.before.cautions]
    for one in finding:
        session.change(
            "accept", cautions.accept(session.document, session.rig_id, session.shot_id, one, "2026-11-28", "Ada")
        )
    press(window, "roll.lead")
    qtbot.waitUntil(lambda: rolling.now is not None, timeout=5000)

    def to(what, state):
        press(window, f"roll.{what}")
        qtbot.waitUntil(lambda: rolling.now.state == state, timeout=6000)

    to("home", "ready")
    before = session.value("arm.front")
    session.set("arm.front", before * 1.01)
    turn()
    window.page.bench.refresh()
    assert rolling.changed and not window.findChild(QPushButton, "roll.arm").isEnabled()
    window.page.bench.controls.command("arm")
    assert "not those it was given" in window.message.text()
    session.undo()
    turn()
    window.page.bench.refresh()
    assert not rolling.changed
    to("arm", "armed")
    to("run", "running")
    window.show_station("balance")
    session.switch("hive-jib")
    seen = window.findChild(QPushButton, "roll.stop.always")
    assert seen.isVisible() and window.rect().contains(seen.mapTo(window, seen.rect().bottomRight()))
    QTest.keyClick(window.findChild(QLineEdit), Qt.Key.Key_F12)
    mine = lambda rig: [one for one in rolling.takes() if one.rig == rig and one.how == "motor"]  # noqa: E731
    qtbot.waitUntil(lambda: bool(mine("comb-turntable")), timeout=5000)
    assert "asked to stop" in mine("comb-turntable")[-1].fault
    count, elsewhere = len(mine("comb-turntable")), len(mine("hive-jib"))
    session.switch("comb-turntable")
    window.show_station("roll")
    to("home", "ready")
    to("arm", "armed")
    to("run", "running")
    rolling.finish()  # as closing the window does
    assert not rolling.led and not seen.isVisible()
    assert len(mine("comb-turntable")) == count + 1 and len(mine("hive-jib")) == elsewhere
