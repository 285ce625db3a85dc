"""A number that is typed but not yet taken: no action loses it, whatever comes next."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtPrintSupport import QPrintDialog
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog, QLineEdit, QMessageBox, QPushButton

from hazel_lantern.desktop.shell.actions import ROWS
from hazel_lantern.files import project_file
from tests.desktop.test_window import named
from tests.helpers import sample, turn

KEYS, CTRL = Qt.Key, Qt.KeyboardModifier.ControlModifier


def half_type(window, name, text):
    """Type into a field and stay in it."""
    field = named(window, name, QLineEdit)
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, text)
    return field


def front(window):
    return window.session.project.rig("hive-jib").design["arm.front"]


def test_saving_takes_what_is_typed_and_never_what_is_wrong(make, tmp_path):
    window, path = make(), tmp_path / "a.lantern.json"
    window.session.save(path)
    field = half_type(window, "edit.arm.front", "1.9 m")
    QTest.keyClick(field, KEYS.Key_S, CTRL)
    assert project_file.read(path).rig("hive-jib").design["arm.front"] == 1.9
    assert not window.session.dirty
    field = half_type(window, "edit.arm.front", "2.1 elephants")
    QTest.keyClick(field, KEYS.Key_S, CTRL)
    assert project_file.read(path).rig("hive-jib").design["arm.front"] == 1.9
    assert "2.1 elephants" in window.message.text()
    assert "last good value" in window.message.text()
    assert field.text() == "2.1 elephants"


def test_closing_asks_about_what_is_typed(make, monkeypatch):
    window, asked = make(), []
    half_type(window, "edit.arm.front", "2000")
    monkeypatch.setattr(QMessageBox, "exec", lambda box: asked.append(box.text()))
    window.close()
    assert len(asked) == 1
    assert window.isVisible()
    assert front(window) == 2.0


@pytest.mark.parametrize(
    ("key", "modifier"),
    [
        (KEYS.Key_1, CTRL),
        (KEYS.Key_3, CTRL),
        (KEYS.Key_6, CTRL),
        (KEYS.Key_Tab, CTRL),
        (KEYS.Key_D, CTRL),
        (KEYS.Key_F6, Qt.KeyboardModifier.NoModifier),
    ],
)
def test_a_shortcut_takes_what_is_typed_and_undo_gives_it_back(make, key, modifier):
    window = make()
    field = half_type(window, "edit.arm.front", "1.9 m")
    QTest.keyClick(field, key, modifier)
    turn()
    assert front(window) == 1.9
    # The next edit meets fields that are there, and all of it can be undone.
    window.session.switch("hive-jib")
    window.show_station("rig")
    half_type(window, "edit.arm.rear", "0.7 m")
    QTest.keyClick(named(window, "edit.arm.rear", QLineEdit), KEYS.Key_Return)
    assert window.session.value("arm.rear") == 0.7
    while window.session.undo_words:
        window.undo()
        turn()
    assert front(window) == 1.75


def test_every_action_takes_what_is_typed_first(make, monkeypatch):
    window = make()
    for name in ("getSaveFileName", "getOpenFileName"):
        monkeypatch.setattr(QFileDialog, name, lambda *a, **k: ("", ""))
    monkeypatch.setattr("PyQt6.QtWidgets.QInputDialog.getText", lambda *a, **k: ("", False))
    monkeypatch.setattr("PyQt6.QtWidgets.QInputDialog.getItem", lambda *a, **k: ("", False))
    monkeypatch.setattr(QMessageBox, "exec", lambda box: None)
    monkeypatch.setattr(QPrintDialog, "exec", lambda dialog: QPrintDialog.DialogCode.Rejected)
    for words in sorted({row.words for row in ROWS if row.menu != "View/Text size"} - {"Quit", "Redo"}):
        window.session.open(sample(), None)
        window.show_station("rig")
        window.session.set("arm.rear", 0.7)
        half_type(window, "edit.arm.front", "1.9 m")
        window.actions_by_name[words].trigger()
        turn()
        if words == "Undo":
            assert front(window) == 1.75
            window.redo()
        elif words in ("Remove the rig", "The station's main action"):
            window.undo()
        assert front(window) == 1.9, words


def test_a_field_that_goes_sets_nothing_on_another_rig(make):
    window = make()
    other = window.session.project.rig("hive-jib-cable").design["arm.front"]
    half_type(window, "edit.arm.front", "3 elephants")
    window.session.switch("hive-jib-cable")
    turn()
    QApplication.sendPostedEvents()
    assert window.session.project.rig("hive-jib-cable").design["arm.front"] == other
    assert window.session.project.rig("hive-jib").design["arm.front"] == 1.75
    QTest.mouseClick(window.findChild(QPushButton, "rig.hive-jib"), Qt.MouseButton.LeftButton)
    turn()
    assert named(window, "edit.arm.front", QLineEdit).text() == "1750 mm"


def test_a_value_the_whole_document_does_not_take_stays_in_its_field_and_is_not_said_to_be_saved(make, tmp_path):
    window, path = make(station="shot"), tmp_path / "a.lantern.json"
    for n in range(len(window.session.project.kit_of(window.session.project.rig("hive-jib")).items) - 1, 0, -1):
        window.session.set(f"kit.{n}.mass", 0.0)
    window.session.save(path)
    window.bench.reveal("kit.0.mass")
    field = half_type(window, "edit.kit.0.mass", "0")
    QTest.keyClick(field, KEYS.Key_S, CTRL)
    assert project_file.read(path).kits[0].items[0].mass_kg == 0.72
    assert field.text() == "0"
    assert "last good value" in window.message.text()
    QTest.keyClick(field, KEYS.Key_Escape)
    assert field.text() == "0.72 kg"


def test_what_is_typed_into_a_pill_of_a_rig_that_is_gone_is_said_not_to_be_taken(make):
    window = make()
    QTest.mouseClick(named(window, "pill.arm.front"), Qt.MouseButton.LeftButton)
    field = half_type(window, "pill-editor", "1.9 m")
    before = window.session.project
    # Another rig comes to hand under it, as from outside, and only then is the field left.
    window.session.switch("kitchen-gantry")
    QTest.keyClick(field, KEYS.Key_Return)
    said = window.stage._said.text()
    turn()
    assert window.session.project == before
    assert "for another rig" in said
    QTest.keyClick(field, KEYS.Key_Escape)
    turn()
    assert window.stage._editor is None
