"""Travel in the window: lines to compare, the bent rail, a section changed, a remedy tried, in inches too."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QComboBox

from hazel_lantern.core.advice import comparison
from hazel_lantern.core.editing import lists
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.nouns.sketch import Note, Stroke
from hazel_lantern.desktop.widgets.finding_card import RemedyButton
from tests.desktop.test_window import named, type_into
from tests.helpers import turn


@pytest.fixture
def travel(make):
    window = make(station="rig")
    window.session.switch("jar-slider")
    turn()
    window.show_station("travel")
    return window


def reading(window):
    return window.plot._reading


def test_the_reading_compares_supports_and_sections_and_follows_the_playhead(travel):
    names = [line.name for line in reading(travel).lines]
    assert {"two stands", "as designed"} <= set(names)
    assert any(name.startswith("slotted profile") for name in names)
    travel.strip.go(0.0)
    start = reading(travel).marker
    travel.strip.go(0.5)
    assert reading(travel).marker[0] > start[0]
    assert reading(travel).marker[1] < start[1]


def test_the_bent_rail_is_drawn_many_times_over_and_says_how_often(travel):
    sketch = travel.session.evaluation.draw(0.1, "side")
    note = next(n.words.text(travel.session.display) for n in sketch.of(Note) if "bending" in n.words.template)
    assert note.startswith("bending × ")
    line = next(s for s in sketch.of(Stroke) if s.role == "water")
    assert line.points[:, 1].max() - line.points[:, 1].min() > 0.01


def test_a_softer_section_shows_at_once_and_undo_takes_it_back(travel):
    before = travel.session.evaluation.figures["travel.shift"].value
    travel.show_station("rig")
    box = named(travel, "choose.rail.section", QComboBox)
    box.activated.emit(box.findData("al6063-slot-20x20"))
    travel.show_station("travel")
    after = travel.session.evaluation.figures["travel.shift"].value
    assert after > before
    assert travel.session.display.text(after, "px") in named(travel, "station.travel").accessibleDescription()
    travel.undo()
    turn()
    assert travel.session.evaluation.figures["travel.shift"].value == pytest.approx(before)


def test_standing_it_on_two_stands_is_offered_hovered_and_taken(travel, qtbot):
    with qtbot.waitSignal(travel.session.remedies_ready, timeout=30000):
        travel.session.set("rail.damping", 0.021)
    button = next(b for b in travel.findChildren(RemedyButton) if b.isEnabled() and b.remedy.key == "two")
    button.previewed.emit(button.remedy)
    assert travel.session.value("support") == "two"
    button.previewed.emit(None)
    assert travel.session.value("support") == "tripod"
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    assert travel.session.value("support") == "two"
    assert next(f for f in travel.session.findings() if f.key == "travel.picture").state == "clear"


def test_inches_and_wrong_text_at_travel(travel):
    travel.use_units("in")
    field = type_into(travel, "edit.rail.joint_gap", "1/16")
    assert travel.session.value("rail.joint_gap") == pytest.approx(0.0254 / 16)
    type_into(travel, "edit.rail.joint_gap", "3 in")
    assert field.property("wrong")
    assert travel.session.value("rail.joint_gap") == pytest.approx(0.0254 / 16)


def test_two_rigs_side_by_side_show_what_differs(travel, monkeypatch):
    travel.rigs.keep_alternative()
    travel.session.switch(travel.session.project.rigs[-1].id)
    turn()
    travel.session.set("support", "two")
    monkeypatch.setattr("PyQt6.QtWidgets.QInputDialog.getItem", lambda *a, **k: ("Jar slider", True))
    travel.actions_by_name["Compare with another rig…"].trigger()
    text = travel.pages._text.toPlainText()
    assert "Jar slider B" in text
    assert "Sag in the picture" in text
    mine = travel.session.evaluation
    theirs = evaluate(travel.session.project, travel.session.catalogue, "jar-slider")
    rows = {row.label: row for row in comparison.figures((mine, theirs))}
    assert rows["Drop changes along the travel"].differs
    assert not rows["Travel"].differs
    sag = next(v for v in comparison.findings((mine, theirs)) if v.title == "Sag in the picture")
    assert sag.each[0] == "clear"
    jib = evaluate(travel.session.project, travel.session.catalogue, "hive-jib")
    assert any(row.each[0] is None for row in comparison.figures((jib, theirs)))
    travel.session.switch("jar-slider")
    travel.session.change("Copy", lists.copy_shot(travel.session.project, "jar-slider", "", "Jars, slower"))
    travel.session.set("shot.time", 30.0)
    travel.actions_by_name["This rig's shots side by side"].trigger()
    text = travel.pages._text.toPlainText()
    assert "Jars, slower" in text
    assert "30 s" in text
    assert "figures are the same" in text
