"""Balance in the window: weights owned, another kit, the footing map, the construction changed, where builders
differ.
"""

from __future__ import annotations

import numpy as np
import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QComboBox, QPushButton

from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.nouns.finding import STOP, Remedy
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.desktop.shell.compare import page
from hazel_lantern.desktop.widgets.field_plot import sorts
from hazel_lantern.desktop.widgets.finding_card import RemedyButton
from hazel_lantern.desktop.widgets.fold import Fold
from tests.desktop.test_window import named
from tests.helpers import SHELF, turn


@pytest.fixture
def balance(make):
    window = make(station="balance")
    for fold in window.extras.findChildren(Fold):
        fold.open()
    return window


def press(window, name):
    QTest.mouseClick(named(window, name, QPushButton), Qt.MouseButton.LeftButton)


def test_a_weight_bought_joins_the_rack_and_one_taken_away_leaves_the_arm(balance):
    shelf = named(balance, "weight.shelf", QComboBox)
    shelf.setCurrentIndex(shelf.findData("bottle-1.5"))
    before = len(balance.session.project.plates)
    press(balance, "weight.add")
    assert [w.plate for w in balance.session.project.plates][before:] == ["bottle-1.5"]
    new = balance.session.project.plates[-1].id
    press(balance, f"weight.{new}")
    assert new in balance.session.value("weights.hung")
    owned = named(balance, "weight.owned", QComboBox)
    owned.setCurrentIndex(owned.findData(new))
    press(balance, "weight.remove")
    assert new not in balance.session.value("weights.hung")
    balance.actions_by_name["Undo"].trigger()
    assert new in balance.session.value("weights.hung")


def test_a_kit_card_changes_camera_and_weights_in_one_step(balance):
    kit = balance.session.value("kit")
    press(balance, "swap.dusk-zoom")
    assert balance.session.value("kit") == "dusk-zoom"
    assert "Mirrorless with a zoom" in balance.session.undo_words
    balance.undo()
    turn()
    assert balance.session.value("kit") == kit


def test_the_map_is_chosen_by_its_chip_follows_the_playhead_and_shrinks_with_the_feet(balance):
    assert balance.plot.isVisibleTo(balance)
    press(balance, "reading.map")
    field = balance.reading.map
    assert field.isVisibleTo(balance)
    assert not balance.plot.isVisibleTo(balance)
    balance.strip.go(0.0)
    low = field._marker[1]
    balance.strip.go(1.0)
    assert field._marker[1] > low + 2
    tips = np.mean(sorts(field._field.use) == 2)
    balance.session.set("stand.radius", 0.85)
    assert np.mean(sorts(field._field.use) == 2) < tips
    assert "tips on" in field.accessibleName()
    # Another kind has no such map, and shows its own reading.
    balance.session.switch("jar-slider")
    turn()
    assert not field.isVisibleTo(balance)


def test_another_construction_lays_out_its_own_fields_and_undo_brings_the_bars_back(make):
    window = make(station="rig")
    chooser = named(window, "choose.variant", QComboBox)
    assert window.bench.reveal("bar.section")
    assert not window.bench.reveal("cable.tension")
    chooser.setFocus()
    chooser.setCurrentIndex(chooser.findData("cable"))
    chooser.activated.emit(chooser.currentIndex())
    turn()
    assert window.bench.reveal("cable.tension")
    assert not window.bench.reveal("bar.section")
    window.session.set("cable.tension", 5.0)
    assert any(f.key == "rig.cable_tight" and f.state == STOP for f in window.session.findings())
    window.undo()
    turn()
    window.undo()
    turn()
    assert window.bench.reveal("bar.section")


def test_where_builders_differ_is_read_on_a_page_and_esc_closes_it(balance, qtbot):
    balance.actions_by_name["Where builders differ"].trigger()
    page = balance.pages
    assert page.isVisibleTo(balance)
    qtbot.waitUntil(lambda: "ball bearings" in page._text.toPlainText(), timeout=20000)
    assert "tried…" in page._text.toPlainText()
    qtbot.waitUntil(lambda: "tried…" not in page._text.toPlainText(), timeout=20000)
    text = page._text.toPlainText()
    assert "slide the weight, now" in text
    # No word and no figure of a table is broken, and nothing has to be scrolled to the side.
    assert page._text.horizontalScrollBar().maximum() == 0
    block, broken = page._text.document().begin(), []
    while block.isValid():
        layout, words = block.layout(), block.text()
        ends = [layout.lineAt(n).textStart() + layout.lineAt(n).textLength() for n in range(layout.lineCount() - 1)]
        broken += [words for end in ends if words[end - 1] not in " \u2028"]
        block = block.next()
    assert broken == []
    QTest.keyClick(page, Qt.Key.Key_Escape)
    assert not page.isVisibleTo(balance)


def test_a_station_without_a_reading_leaves_its_room_to_the_stage(make):
    window = make(station="shot")
    assert not window.reading.isVisibleTo(window)
    window.show_station("balance")
    assert window.reading.isVisibleTo(window)
    window.session.switch("kitchen-gantry")
    turn()
    assert window.station == "balance"
    assert not window.reading.isVisibleTo(window)


def test_no_remedy_is_wider_than_the_bench(balance, qtbot):
    balance.session.set("weights.place", 0.5)
    with qtbot.waitSignal(balance.session.remedies_ready, timeout=30000):
        pass
    shown = [b for b in balance.findChildren(RemedyButton) if b.isVisibleTo(balance.bench)]
    assert shown
    assert balance.bench.widget().minimumSizeHint().width() <= balance.bench.viewport().width()
    long = RemedyButton(
        Remedy("x", Words("Slide the weights to the very end and raise them onto the arm's own line"), ()),
        balance.session.display,
        236,
    )
    assert "\n" in long.text()
    assert long.words.replace(" ", "") == long.text().replace("\n", "").replace(" ", "")
    assert long.sizeHint().width() < 320


def test_comparing_marks_only_what_reads_differently(balance):
    one, other = (evaluate(balance.session.project, SHELF, rig) for rig in ("hive-jib", "hive-jib-cable"))
    text = page((one, other), ("a", "b"), balance.session.display, balance.theme, all_of_it=True)
    lines = {
        line.split("</td>")[0].removeprefix("<tr><td>"): line for line in text.replace("</tr>", "</tr>\n").splitlines()
    }
    assert "<b" not in lines["Subject fills, at most"]
    assert "<b" in lines["Everything together"]
