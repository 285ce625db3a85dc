"""Cable cams in the window: ends and sag dragged, a point of a reading dragged, an end tested, over water."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QComboBox

from hazel_lantern.core.nouns.finding import CLEAR, STOP
from hazel_lantern.desktop.stage.marks import Grip
from hazel_lantern.desktop.widgets.finding_card import RemedyButton
from tests.desktop.test_window import named, type_into
from tests.helpers import finding, turn


@pytest.fixture
def pond(make):
    window = make(station="rig")
    window.session.switch("pond-line")
    turn()
    return window


def of(window, key):
    return window.session.project.rig("pond-line").design[key]


def drag(grip, right, down):
    middle = QPoint(15, 15)
    QTest.mousePress(grip, Qt.MouseButton.LeftButton, pos=middle)
    at = grip.mapToGlobal(middle)
    for step in range(1, 5):
        QTest.mouseMove(grip, grip.mapFromGlobal(at + QPoint(right * step // 4, down * step // 4)))
    QTest.mouseRelease(grip, Qt.MouseButton.LeftButton)


def test_an_end_and_the_sag_are_dragged_and_the_rope_follows(pond):
    before = pond.session.evaluation
    drag(named(pond, "handle.end.b", Grip), 0, -16)
    after = pond.session.evaluation
    raised = of(pond, "end.b") - before.model.ends[1]
    assert raised > 0.2
    # The camera in the middle goes up by half of what an end does.
    middle = after.model.middle
    lifted = after.model.now.height[middle] - before.model.now.height[middle]
    assert lifted == pytest.approx(raised / 2, abs=0.01)
    pond.show_station("balance")
    turn()
    drag(next(g for g in pond.stage.findChildren(Grip) if g.key == "rope.sag"), 0, 8)
    assert of(pond, "rope.sag") > 0.7
    assert pond.session.evaluation.figures["balance.pull"].value < after.figures["balance.pull"].value
    pond.session.undo()
    pond.session.undo()
    assert pond.session.evaluation.figures["balance.pull"].value == before.figures["balance.pull"].value


def test_the_point_of_tension_against_sag_is_dragged_in_its_reading(pond, qtbot):
    pond.show_station("balance")
    turn()
    grip = pond.plot.grip
    assert grip.isVisible() and grip.objectName() == "handle.rope.sag"
    before = of(pond, "rope.sag"), pond.session.evaluation.figures["balance.pull"].value
    drag(grip, 80, 0)
    assert of(pond, "rope.sag") > before[0] + 0.1
    assert pond.session.evaluation.figures["balance.pull"].value < before[1]
    qtbot.waitUntil(lambda: pond.plot._reading.marker[0] == of(pond, "rope.sag"), timeout=5000)
    QTest.keyClick(grip, Qt.Key.Key_Left)
    assert of(pond, "rope.sag") < pond.plot._reading.safe[1]
    pond.session.undo()
    pond.session.undo()
    assert of(pond, "rope.sag") == before[0]


def test_an_end_that_is_a_tree_waits_for_its_pull_test(pond, qtbot):
    pond.show_station("balance")
    pond.bench.reveal("anchor.b")
    box = named(pond, "choose.anchor.b", QComboBox)
    box.setCurrentIndex(box.findData("tree"))
    box.activated.emit(box.currentIndex())
    turn()
    assert finding(pond.session.evaluation, "balance.tested_b").state == STOP
    qtbot.waitUntil(
        lambda: any(b.isVisible() and "five minutes" in b.text() for b in pond.findChildren(RemedyButton)),
        timeout=60000,
    )
    button = next(b for b in pond.findChildren(RemedyButton) if b.isVisible() and "five minutes" in b.text())
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    assert finding(pond.session.evaluation, "balance.tested_b").state == CLEAR
    assert of(pond, "tested.b") >= pond.session.evaluation.figures["balance.test_b"].value


def test_a_rope_that_cannot_be_that_tight_greys_the_drawing_and_says_what_can(pond):
    pond.show_station("balance")
    pond.bench.reveal("rope.sag")
    type_into(pond, "edit.rope.sag", "20 mm")
    pond.session.set("rope.line", "polyester-4")
    turn()
    assert "at least" in str(pond.session.evaluation.problem)
    type_into(pond, "edit.rope.sag", "0.9 m")
    assert pond.session.evaluation.model is not None
