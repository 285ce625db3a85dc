"""Drive in the window: a source by its picture, elements put in, dragged and taken out, the chain that turns."""

from __future__ import annotations

import numpy as np
import pytest
from PyQt6.QtCore import QModelIndex, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QListWidget, QPushButton, QWidget

from hazel_lantern.core.document.drives import SORTS
from hazel_lantern.core.editing import changes
from hazel_lantern.core.nouns.sketch import Note, Shape
from hazel_lantern.desktop.widgets.chooser import Chooser
from hazel_lantern.desktop.widgets.finding_card import RemedyButton
from hazel_lantern.desktop.widgets.words import Label
from tests.desktop.test_window import named, type_into
from tests.helpers import PLAIN_DRIVE, sample, turn


@pytest.fixture
def drive(make):
    window = make(station="rig")
    window.session.open(changes.set_values(sample(), "hive-jib", PLAIN_DRIVE), None)
    turn()
    window.show_station("drive")
    return window


def kinds(window, axis="swing"):
    rig = window.session.project.rig(window.session.rig_id)
    return [e.kind for d in rig.drives if d.axis == axis for e in d.elements]


def rows(window, axis="swing"):
    order = named(window, f"elements.{axis}", QListWidget)
    return [order.item(k).text() for k in range(order.count())]


def press(window, name):
    QTest.mouseClick(named(window, name, QAbstractButton), Qt.MouseButton.LeftButton)
    turn()


def test_the_station_opens_on_the_drive_itself_and_its_wheels_turn_with_the_playhead(drive):
    assert drive.view == "chain.swing"

    def wheels(share):
        drive.strip.go(share)
        return [s.points for s in drive.session.evaluation.draw(share, drive.view).items if isinstance(s, Shape)]

    early, late = wheels(0.2), wheels(0.6)
    assert any(a.shape == b.shape and np.abs(a - b).max() > 1e-3 for a, b in zip(early, late, strict=False))
    words = [n.words.text(drive.session.display) for n in drive.session.evaluation.draw(0.6, drive.view).of(Note)]
    assert any(w.endswith("rpm") for w in words) and "1 : 10" in words
    drive.next_view()
    assert drive.view == "side"


def test_labels_of_the_chain_never_lie_over_one_another(drive):
    for chain in (("spur",) * 4, ("spur", "belt", "worm", "chain", "rim", "sector")):
        drive.session.set("drive.swing.chain", chain)
        turn()
        found = [n for n in drive.session.evaluation.draw(0.4, "chain.swing").of(Note) if n.role == "muted"]
        at = np.array([n.at for n in found])
        assert len(found) == len(chain) + 1
        apart = np.abs(at[:, None] - at)
        close = (apart[..., 0] < 0.09 * np.ptp(at[:, 0])) & (apart[..., 1] < 1e-6)
        assert not (close & ~np.eye(len(found), dtype=bool)).any()


def test_a_source_is_chosen_by_its_picture_and_undone(drive):
    assert "gearmotor" in drive.session.evaluation.headlines["drive"].template
    tiles = named(drive, "choose.drive.swing.by", QWidget)
    QTest.mouseClick(tiles.findChild(QAbstractButton, "tile.crank"), Qt.MouseButton.LeftButton)
    turn()
    assert drive.session.value("drive.swing.by") == "crank"
    assert kinds(drive) == ["spur", "sector"], "what it goes through stays"
    drive.undo()
    turn()
    assert drive.session.value("drive.swing.by") == "gearmotor"


def test_elements_are_put_in_dragged_moved_by_keys_and_taken_out(drive):
    sorts = named(drive, "element.sort.swing", Chooser)
    sorts.setCurrentIndex(sorts.findData("belt"))
    press(drive, "element.add.swing")
    assert kinds(drive) == ["spur", "belt", "sector"], "a sector stays last"
    assert rows(drive)[1].startswith("2") and SORTS["belt"].name in rows(drive)[1]
    order = named(drive, "elements.swing", QListWidget)
    assert order.model().moveRow(QModelIndex(), 1, QModelIndex(), 0)  # what dropping a dragged row does
    turn()
    assert kinds(drive) == ["belt", "spur", "sector"]
    order = named(drive, "elements.swing", QListWidget)
    order.setCurrentRow(0)
    QTest.keyClick(order, Qt.Key.Key_Down, Qt.KeyboardModifier.AltModifier)
    turn()
    assert kinds(drive) == ["spur", "belt", "sector"]
    order = named(drive, "elements.swing", QListWidget)
    order.setCurrentRow(1)
    QTest.keyClick(order, Qt.Key.Key_Delete)
    turn()
    assert kinds(drive) == ["spur", "sector"]
    while drive.session.undo_words:
        drive.undo()
    assert kinds(drive) == ["spur", "sector"]


def test_a_size_typed_changes_torque_speed_and_the_lantern(drive):
    was = drive.session.evaluation.figures["drive.swing.needs"].value
    drive.bench.reveal("drive.swing.2.driven")
    type_into(drive, "edit.drive.swing.2.driven", "320")
    assert drive.session.evaluation.figures["drive.swing.ratio"].value == pytest.approx(40)
    assert drive.session.evaluation.figures["drive.swing.needs"].value < was
    type_into(drive, "edit.drive.swing.2.driven", "900")
    state = drive.session.evaluation.state("drive")
    assert state == "stop", "the motor cannot run so fast"
    drive.undo()
    drive.undo()


def test_what_stands_in_the_wrong_order_is_mended_by_its_remedy(drive, qtbot):
    drive.session.set("drive.swing.chain", ("sector", "spur"))
    turn()
    assert drive.view in dict(drive.session.evaluation.views("drive"))

    def offered():
        found = drive.drawer.findChildren(RemedyButton)
        return next((b for b in found if b.isVisibleTo(drive) and "Through" in b.text()), None)

    qtbot.waitUntil(lambda: offered() is not None, timeout=20000)
    QTest.mouseClick(offered(), Qt.MouseButton.LeftButton)
    turn()
    assert kinds(drive) == ["spur", "sector"]


def test_an_axis_nobody_drives_is_an_open_task_and_a_stepper_shows_steps_to_avoid(drive):
    drive.session.switch("comb-ring")
    turn()
    drive.show_station("drive")
    drive.session.set("drive.turn.by", "")
    turn()
    result = drive.session.evaluation
    assert result.driven == () and "nothing driven" in result.headlines["drive"].template
    assert not [f for f in result.findings if f.station == "drive"]
    drive.session.switch("jar-slider")
    turn()
    drive.show_station("drive")
    drive.session.set("drive.travel.by", "stepper")
    drive.session.set("drive.travel.chain", ("beltway",))
    turn()
    drive.reading.choose("drive.travel.rates")
    names = [line.name for line in drive.plot._reading.lines]
    assert "steps come at" in names and any("the rail bounces" in name for name in names)
    told = named(drive, "fitting.travel", Label).text()
    assert told.startswith("1. Tie the travel") and "Fuse in" in told
    assert not named(drive, "element.add.travel", QPushButton).isHidden()


def test_gears_are_found_shown_close_and_taken_by_a_press(drive, qtbot):
    drive.session.set("drive.swing.times", ((240.0,), (1800.0,)))
    turn()
    QTest.keyClick(drive, Qt.Key.Key_F5)
    finder = drive.extras.finders[0]
    qtbot.waitUntil(lambda: not finder.job.running and len(finder.tiles) == 4, timeout=20000)
    assert "proven best" in named(drive, "gears.said.swing", Label).text()
    drive.bench.open_group("Swing, gears to find")
    turn()
    tile = named(drive, "gears.swing.0", QAbstractButton)
    assert "for 1800 s" in tile.accessibleName() and "to spare" in tile.accessibleName()
    tile.setFocus()
    QTest.keyClick(tile, Qt.Key.Key_Return)
    turn()
    assert kinds(drive) == ["spur", "spur", "spur", "sector"]
    assert drive.session.value("drive.swing.changed")[0][0] == 1800.0
    views = dict(drive.session.evaluation.views("drive"))
    pair = next(key for key in views if key.startswith("chain.mesh."))
    drive.use_view(pair)
    drive.strip.go(0.1)
    early = drive.session.evaluation.draw(0.1, pair)
    late = drive.session.evaluation.draw(0.2, pair)
    flanks = [[s.points for s in sketch.items if isinstance(s, Shape)] for sketch in (early, late)]
    assert len(flanks[0]) == 2 and np.abs(flanks[0][1] - flanks[1][1]).max() > 1e-4
    drive.undo()
    turn()
    assert kinds(drive) == ["spur", "sector"]
    assert drive.view in dict(drive.session.evaluation.views("drive"))


def test_a_search_that_finds_nothing_says_what_would_help_and_can_be_stopped(drive, qtbot):
    drive.session.set("drive.swing.times", ((1800.0,),))
    drive.session.set("drive.swing.most", 18.0)
    turn()
    finder = drive.extras.finders[0]
    drive.bench.open_group("Swing, gears to find")
    press(drive, "gears.find.swing")
    qtbot.waitUntil(lambda: "allow larger gears" in finder.said.text(), timeout=20000)
    assert finder.tiles == []
    finder.search()
    if finder.job.running:
        finder.search()
        assert finder.said.text() == "Stopped."
    drive.session.set("drive.swing.chain", ("sector", "spur"))
    turn()
    said = []
    drive.extras.finders[0].refused.connect(said.append)
    drive.extras.finders[0].search()
    assert "has to work" in said[0]


def test_gears_at_hand_are_typed_as_rows_and_only_they_are_used(drive, qtbot):
    drive.bench.open_group("Swing, gears to find")
    turn()
    drive.session.set("drive.swing.owned", ((15.0, 1.0), (30.0, 2.0), (60.0, 1.0)))
    turn()
    finder = drive.extras.finders[0]
    finder.search()
    qtbot.waitUntil(lambda: not finder.job.running, timeout=20000)
    for tile in finder.tiles:
        train = tile.answer.train
        assert set(train.drivers + train.driven) <= {15, 30, 60}
    assert finder.tiles or finder.said.text()


def test_build_lists_the_gears_and_exports_them(drive, tmp_path):
    drive.show_station("build")
    turn()
    parts = {part.name for part in drive.session.evaluation.parts}
    assert {"Gear, 20 teeth", "Gear, 40 teeth", "Gearbox plate"} <= parts
    assert any(name.startswith("Sector, ") for name in parts)
    assert not named(drive, "export.cut-dxf", QPushButton).isHidden()
    assert drive.bench.widget().sizeHint().width() <= drive.bench.width(), "nothing of the list is cut off"
