"""Orbit rigs in the window: turns a minute typed, trial runs row by row, another construction and its frame dragged."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QComboBox

from hazel_lantern.desktop.stage.marks import Grip
from tests.desktop.test_dolly import press
from tests.desktop.test_window import named, type_into
from tests.helpers import turn

RUNS = "trial.runs"


@pytest.fixture
def comb(make):
    window = make(station="rig")
    window.session.switch("comb-turntable")
    turn()
    return window


def test_turns_a_minute_are_typed_and_the_shot_takes_its_time(comb):
    comb.bench.reveal("shot.rpm")
    before = comb.session.evaluation.shot.duration_s
    fastest = comb.session.evaluation.figures["shot.speed"].value
    type_into(comb, "edit.shot.rpm", "4")
    evaluation = comb.session.evaluation
    assert evaluation.figures["travel.rpm"].value == pytest.approx(4.0)
    # Same way and shape: the speed goes as one over the time.
    assert evaluation.shot.duration_s * evaluation.figures["shot.speed"].value == pytest.approx(before * fastest)
    comb.session.undo()
    assert comb.session.evaluation.shot.duration_s == before


def test_four_trial_runs_name_the_heavy_side(comb):
    comb.show_station("balance")
    comb.bench.reveal(RUNS)
    for row, shake in enumerate(("5", "8", "4.3589", "4.3589")):
        press(comb, f"add.{RUNS}")
        type_into(comb, f"edit.{RUNS}.{row}.0", str(row))
        type_into(comb, f"edit.{RUNS}.{row}.1", shake)
    # All of it lies at the camera arm: a trial weight of 30 g·m shook it 3 more than its own 5.
    assert comb.session.evaluation.figures["balance.heavy"].value == pytest.approx(0.1 * 0.3 * 5 / 3, rel=1e-3)
    press(comb, f"drop.{RUNS}.3")
    assert "balance.heavy" not in comb.session.evaluation.figures


def test_the_frame_over_a_desk_is_chosen_and_dragged(comb):
    box = named(comb, "choose.variant", QComboBox)
    box.setCurrentIndex(box.findData("desk"))
    box.activated.emit(box.currentIndex())
    turn()
    before = comb.session.evaluation
    grip = named(comb, "handle.frame.height", Grip)
    middle = QPoint(15, 15)
    QTest.mousePress(grip, Qt.MouseButton.LeftButton, pos=middle)
    at = grip.mapToGlobal(middle)
    for step in range(1, 5):
        QTest.mouseMove(grip, grip.mapFromGlobal(at + QPoint(0, -8 * step)))
    QTest.mouseRelease(grip, Qt.MouseButton.LeftButton)
    after = comb.session.evaluation
    raised = after.model.frame.height - before.model.frame.height
    assert raised > 0.05
    # Arms and camera go up with the frame, and the taller post leans more.
    assert after.model.beam - before.model.beam == pytest.approx(raised)
    assert after.figures["rig.frame_leans"].value > before.figures["rig.frame_leans"].value
