"""A whole task through the real window: from a wanted slide to a rig that holds, its sheet and its file."""

from __future__ import annotations

import csv

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QFileDialog, QPushButton

from hazel_lantern.desktop.stage.marks import Grip
from hazel_lantern.desktop.stations.shot.proposals import ProposalCard
from hazel_lantern.desktop.widgets.finding_card import RemedyButton
from hazel_lantern.files import project_file
from tests.desktop.test_window import named, type_into
from tests.helpers import turn


@pytest.fixture
def desk(make):
    return make(station="shot")


def state(window, key):
    return next(f.state for f in window.session.findings() if f.key == key)


def press(window, name):
    QTest.mouseClick(named(window, name, QPushButton), Qt.MouseButton.LeftButton)


def test_a_builder_goes_from_the_wish_to_the_sheet(desk, qtbot, tmp_path, monkeypatch):
    # The wish: another shot, a slide past the hives.
    monkeypatch.setattr("PyQt6.QtWidgets.QInputDialog.getText", lambda *a, **k: ("Along the hives", True))
    press(desk, "shot.copy")
    QTest.mouseClick(named(desk, "tile.slide"), Qt.MouseButton.LeftButton)
    desk.session.set("shot.end_x", 1.1)
    for field, text in (("edit.shot.start", "900"), ("edit.shot.end", "900"), ("edit.shot.time", "12")):
        type_into(desk, field, text)
    # A rail that can do it is proposed, and becomes a rig of the project.
    qtbot.waitUntil(
        lambda: any(c.objectName() == "proposal.slider.rods" for c in desk.findChildren(ProposalCard)), timeout=60000
    )
    card = next(c for c in desk.findChildren(ProposalCard) if c.objectName() == "proposal.slider.rods")
    QTest.mouseClick(card, Qt.MouseButton.LeftButton)
    rig = desk.session.project.rigs[-1]
    assert (rig.kind, rig.variant) == ("slider", "rods")
    assert desk.session.project.shot_of(rig).name == "Along the hives"
    assert state(desk, "shot.travel") == "clear"
    # Travel says what the sag does; a remedy that was tried mends what tips.
    desk.show_station("travel")
    assert "mm" in named(desk, "station.travel").accessibleDescription()
    assert "one tripod" in {line.name for line in desk.plot._reading.lines}
    desk.show_station("balance")
    if state(desk, "balance.bump") == "stop":
        qtbot.waitUntil(
            lambda: any(b.isEnabled() and b.isVisible() for b in desk.findChildren(RemedyButton)), timeout=60000
        )
        button = next(b for b in desk.findChildren(RemedyButton) if b.isEnabled() and b.isVisible())
        QTest.mouseClick(button, Qt.MouseButton.LeftButton)
        assert state(desk, "balance.bump") != "stop"
    # The rail is dragged longer by hand, in one step.
    desk.show_station("rig")
    before = desk.session.value("rail.length")
    grip = named(desk, "handle.rail.length", Grip)
    QTest.mousePress(grip, Qt.MouseButton.LeftButton, pos=QPoint(15, 15))
    at = grip.mapToGlobal(QPoint(15, 15))
    QTest.mouseMove(grip, grip.mapFromGlobal(at + QPoint(20, 0)))
    QTest.mouseMove(grip, grip.mapFromGlobal(at + QPoint(40, 0)))
    QTest.mouseRelease(grip, Qt.MouseButton.LeftButton)
    assert desk.session.value("rail.length") > before
    desk.undo()
    turn()
    assert desk.session.value("rail.length") == before
    # Sheet, path and file.
    for name, suffix in (("pdf", "sheet.pdf"), ("path-csv", "path.csv"), ("gltf", "move.gltf")):
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, suffix=suffix, **k: (str(tmp_path / suffix), ""))
        desk.files.export_dialog(name)
    qtbot.waitUntil((tmp_path / "sheet.pdf").exists, timeout=60000)
    assert (tmp_path / "sheet.pdf").read_bytes().startswith(b"%PDF")
    rows = list(csv.DictReader((tmp_path / "path.csv").read_text().splitlines()))
    assert len(rows) == 12 * 50 + 1
    way = [float(rows[k]["x_m"]) for k in (0, -1)]
    assert abs(way[1] - way[0]) == pytest.approx(1.1, abs=0.05)
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "hives.lantern.json"), ""))
    assert desk.files.save_as()
    assert project_file.read(tmp_path / "hives.lantern.json") == desk.session.project


def test_a_hung_rail_is_refused_over_people_and_told_so_at_every_turn(desk):
    desk.rigs.add_rig("overhead/trolley")
    turn()
    desk.show_station("balance")
    assert state(desk, "balance.caution") == "watch"
    desk.session.set("push.side", 5.0)
    desk.session.set("below", "people")
    assert state(desk, "balance.refused") == "stop"
    assert named(desk, "station.balance").accessibleName().endswith("stop")
    desk.undo()
    turn()
    assert all(f.key != "balance.refused" for f in desk.session.findings())
    # A station a rig has nothing to say about is not shown, and asking for it is answered.
    desk.session.switch("hive-jib")
    turn()
    assert not named(desk, "station.travel").isVisible()
    desk.show_station("travel")
    assert "nothing to say" in desk.message.text()


def test_stations_follow_the_rig_and_the_gantry_shows_its_reach(desk):
    desk.session.switch("kitchen-gantry")
    turn()
    desk.show_station("travel")
    assert named(desk, "station.travel").isVisible()
    desk.use_view("above")
    assert desk.stage.grab().toImage().width() > 100
    desk.session.switch("hive-jib")
    turn()
    assert desk.station == "rig"
