"""Dollies in the window: ground typed in row by row, readings chosen, constructions changed in place."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QComboBox, QLineEdit, QPushButton

from hazel_lantern.desktop.stage.marks import Grip
from hazel_lantern.desktop.widgets.finding_card import RemedyButton
from hazel_lantern.files import project_file
from tests.desktop.test_window import named, type_into
from tests.helpers import turn

HEIGHTS = "ground.heights"


@pytest.fixture
def lane(make):
    window = make(station="rig")
    window.session.switch("lane-dolly")
    turn()
    return window


def of(window, key):
    return window.session.project.rig("lane-dolly").design[key]


def press(window, name):
    QTest.mouseClick(named(window, name, QPushButton), Qt.MouseButton.LeftButton)


def clear_ground(window):
    while of(window, HEIGHTS):
        press(window, f"drop.{HEIGHTS}.0")


def test_ground_is_typed_row_by_row_refused_where_it_goes_back_and_undone(lane):
    lane.bench.reveal(HEIGHTS)
    clear_ground(lane)
    assert "rig.wedge" not in lane.session.evaluation.figures
    press(lane, f"add.{HEIGHTS}")
    press(lane, f"add.{HEIGHTS}")
    assert of(lane, HEIGHTS) == ((0.0, 0.0, 0.0), (0.5, 0.0, 0.0))
    type_into(lane, f"edit.{HEIGHTS}.1.0", "4 m")
    type_into(lane, f"edit.{HEIGHTS}.1.1", "-12 mm")
    type_into(lane, f"edit.{HEIGHTS}.1.2", "1/2 in")
    assert of(lane, HEIGHTS)[1] == pytest.approx((4.0, -0.012, 0.0127))
    most = lane.session.evaluation.figures["rig.wedge"].value
    assert most == pytest.approx(lane.session.evaluation.model.wedges.max())
    # A place that does not lie further along is refused at its field, and what was typed stays.
    before = of(lane, HEIGHTS)
    press(lane, f"add.{HEIGHTS}")
    field = named(lane, f"edit.{HEIGHTS}.2.0", QLineEdit)
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, "3 m")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert field.property("wrong") and field.text() == "3 m"
    QTest.keyClick(field, Qt.Key.Key_Escape)
    press(lane, f"drop.{HEIGHTS}.2")
    assert of(lane, HEIGHTS) == before
    lane.session.undo()
    lane.session.undo()
    assert of(lane, HEIGHTS) == before


def test_rows_that_were_measured_survive_the_file_and_the_other_units(lane, tmp_path):
    rows = of(lane, HEIGHTS)
    lane.session.save(tmp_path / "lane.lantern.json", over=True)
    again = project_file.read(tmp_path / "lane.lantern.json")
    assert again.rig("lane-dolly").design[HEIGHTS] == rows
    lane.bench.reveal(HEIGHTS)
    press(lane, "units.in")
    assert named(lane, f"edit.{HEIGHTS}.2.0", QLineEdit).text() == "6' 6 3/4\""
    assert of(lane, HEIGHTS) == rows
    press(lane, "units.mm")


def test_readings_stand_against_speed_and_ballast_with_the_rig_of_now_marked(lane):
    lane.show_station("travel")
    press(lane, "reading.speed")
    shown = lane.plot._reading
    assert {"wheel", "tie", "joint"} <= {line.name for line in shown.lines}
    fastest = lane.session.evaluation.figures["shot.speed"].value
    wheel = next(line for line in shown.lines if line.name == "wheel")
    assert shown.marker[0] == fastest
    # A wheel of 72 mm turns once in its way round.
    assert wheel.y[-1] / wheel.x[-1] == pytest.approx(1 / (3.14159265 * 0.072), rel=1e-6)
    press(lane, "reading.travel.ballast")
    assert lane.plot._reading.marker[0] == of(lane, "ballast.mass")
    lane.session.set("ballast.mass", 35.0)
    turn()
    assert lane.plot._reading.marker == pytest.approx((35.0, lane.session.evaluation.figures["travel.wave_px"].value))


def test_a_construction_is_changed_in_place_and_what_it_asks_is_mended(lane, qtbot):
    """From pipe to floor: the track's inputs go, the floor's come; larger wheels are offered and taken."""
    box = named(lane, "choose.variant", QComboBox)
    box.setCurrentIndex(box.findData("floor"))
    box.activated.emit(box.currentIndex())
    turn()
    assert lane.session.project.rig("lane-dolly").variant == "floor"
    assert not lane.findChildren(QLineEdit, "edit.tie.spacing")
    # What was usual for pipe becomes what is usual for a floor.
    assert of(lane, "carriage.wheel") == "rubber-125"
    lane.session.apply(
        "a gap", [("floor.gap", 0.011), ("floor.step", 0.0), ("rail.length", 4.4), ("carriage.wheel", "skate-72")]
    )
    lane.show_station("travel")
    before = lane.session.evaluation.figures["travel.kick_px"].value
    qtbot.waitUntil(
        lambda: any(b.isVisible() and "wheel" in b.text() for b in lane.findChildren(RemedyButton)), timeout=60000
    )
    button = next(b for b in lane.findChildren(RemedyButton) if b.isVisible() and "wheel" in b.text())
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    assert lane.session.evaluation.figures["travel.kick_px"].value < before
    assert of(lane, "carriage.wheel") != "skate-72"


def test_an_arc_is_dragged_by_its_end_and_set_by_its_rise(lane):
    lane.session.switch("supper-arc")
    lane.use_view("above")
    turn()
    before = lane.session.evaluation.model.bend
    grip = named(lane, "handle.rail.length", Grip)
    middle = QPoint(15, 15)
    QTest.mousePress(grip, Qt.MouseButton.LeftButton, pos=middle)
    at = grip.mapToGlobal(middle)
    for step in range(1, 5):
        QTest.mouseMove(grip, grip.mapFromGlobal(at + QPoint(6 * step, 0)))
    QTest.mouseRelease(grip, Qt.MouseButton.LeftButton)
    longer = lane.session.evaluation.model.bend
    assert longer.outer > before.outer + 0.2 and longer.radius == pytest.approx(before.radius)
    lane.bench.reveal("bend.by")
    box = named(lane, "choose.bend.by", QComboBox)
    box.setCurrentIndex(box.findData("chord"))
    box.activated.emit(box.currentIndex())
    turn()
    type_into(lane, "edit.bend.chord", "4 m")
    type_into(lane, "edit.bend.rise", "400 mm")
    bend = lane.session.evaluation.model.bend
    assert bend.radius == pytest.approx(16 / (8 * 0.4) + 0.2) and bend.rise == pytest.approx(0.4)
