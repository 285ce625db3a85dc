"""Prove in a real window: readings typed, struck out, what they mean, corrections taken and kept beside the drawing."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QComboBox, QLineEdit, QPushButton

from hazel_lantern.core.proving import practice
from hazel_lantern.desktop.stations.prove.bench import ProveBench, TrialRow
from hazel_lantern.desktop.widgets.unknown_bar import UnknownBar
from hazel_lantern.desktop.widgets.words import Label
from hazel_lantern.files import scores, test_sheet

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def prove(make):
    window = make(station="prove")

    class Hand:
        session, page = window.session, window.page

        @staticmethod
        def press(name):
            button = window.findChild(QPushButton, name)
            assert button.isEnabled(), name
            QTest.mouseClick(button, LEFT)

        @staticmethod
        def open(key):
            QTest.mouseClick(window.findChild(TrialRow, f"prove.test.{key}"), LEFT)

        @staticmethod
        def type(**words):
            for key, text in words.items():
                field = window.findChild(QLineEdit, f"edit.{key}")
                field.selectAll()
                QTest.keyClicks(field, text)

        @staticmethod
        def meaning():
            return window.findChild(Label, "prove.meaning").text()

        @staticmethod
        def rig(name="hive-jib"):
            return window.session.document.rig(name)

    Hand.window = window
    return Hand


def test_readings_are_typed_struck_out_and_the_rig_that_was_mended_is_drawn(prove):
    prove.open("drift")
    assert prove.page.proving.at == "drift" and "heavy: slide the weights" in prove.meaning()
    before = prove.rig().proofs
    prove.type(angle="20", up="0.1 N", down="-0.5 N", radius="1500 mm")
    prove.press("prove.add")
    rows = prove.rig().proofs
    assert len(rows) == len(before) + 1 and rows[-1].readings[3] == pytest.approx(1.5)
    prove.press("prove.strike")
    assert prove.rig().proofs[-1].struck and "heavy" in prove.meaning()
    prove.type(up="a lot")
    prove.press("prove.add")
    assert "not one yet" in prove.window.message.text() and len(prove.rig().proofs) == len(rows)
    place = prove.rig().design["weights.place"]
    prove.press("prove.mend")
    assert prove.rig().design["weights.place"] < place
    # What was read of the weights where they were says nothing of where they are.
    assert all(row.struck for row in prove.rig().proofs if row.test == "drift") and "Not done yet" in prove.meaning()
    prove.session.undo()
    assert prove.rig().design["weights.place"] == place and "heavy" in prove.meaning()


def test_damping_asks_for_two_tests_and_is_then_kept_beside_the_drawing(prove):
    window, session = prove.window, prove.session
    prove.open("bounce")
    keep = "prove.keep.arm.damping"
    assert not window.findChild(QPushButton, keep).isEnabled()
    assert window.findChild(QPushButton, "prove.keep.built.stiffness").isEnabled()  # a sag agrees with the bounce
    for k in range(3):
        prove.type(cycles="20", time=f"{2.34 + 0.01 * k} s", first_high="12 mm", last_high="1.2 mm")
        prove.press("prove.add")
    built = window.findChild(QPushButton, "as-built")
    assert not built.isVisible()
    prove.press(keep)
    rows = prove.rig().measured
    assert rows[-1].key == "arm.damping" and rows[-1].pm > 0 and built.isVisible()
    assert "Damping of the arm" in window.findChild(Label, "prove.built").text()
    assert session.evaluation.basis == "drawn"
    QTest.mouseClick(built, LEFT)
    assert session.built and session.evaluation.basis == "built"
    session.look_built(on=False)
    session.apply("Another arm", [("arm.front", 1.6)])
    assert "not counted" in window.findChild(Label, "prove.built").text()
    session.switch("jar-slider")
    assert not session.built


def test_a_proof_load_waits_for_a_stop_and_readings_come_from_a_table(prove, tmp_path):
    window, session = prove.window, prove.session
    prove.open("proof")
    assert "No proof load yet" in window.findChild(Label, "prove.hindrance").text()
    prove.press("prove.add")
    assert not any(row.test == "proof" for row in prove.rig().proofs)
    path, rig = tmp_path / "readings.csv", "jar-slider"
    session.switch(rig)
    before = prove.rig(rig).proofs
    data = test_sheet.csv(session.document, session.evaluation, session.display)
    path.write_bytes(data)
    window.findChild(ProveBench).read(path)
    rows = prove.rig(rig).proofs
    assert rows[len(before) :] == before and f"{len(before)} rows" in window.message.text()
    session.undo()
    path.write_bytes(data.replace(b",2026-09-12,", b",yesterday,", 1))
    window.findChild(ProveBench).read(path)
    assert len(prove.rig(rig).proofs) == 2 * len(before) - 1 and "yesterday" in window.message.text()
    path.write_bytes(b"a,b\n1,2\n")
    window.findChild(ProveBench).read(path)
    assert "first line" in window.message.text()


def test_a_bar_of_unknown_stuff_is_measured_from_the_picker_and_taken(make):
    window = make(station="rig")
    session = window.session
    window.bench.reveal("arm.section")
    chooser = window.findChild(QComboBox, "choose.arm.section")
    before = str(session.value("arm.section"))
    chooser.showPopup()
    shelf = QApplication.activePopupWidget()
    QTest.mouseClick(shelf.findChild(QPushButton, "shelf.measure"), LEFT)
    panel = window.findChild(UnknownBar)
    words = {
        "bar.span": "1.2 m",
        "bar.load": "20 kg",
        "bar.drop1": "1.3 mm",
        "bar.drop2": "1.34 mm",
        "bar.drop3": "1.28 mm",
        "bar.mass": "1.4 kg",
        "bar.length": "2 m",
    }
    for key, text in words.items():
        field = panel.findChild(QLineEdit, f"edit.{key}")
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, text)
        QTest.keyClick(field, Qt.Key.Key_Return)
    said, put = panel.findChild(Label, "bar.said"), panel.findChild(QPushButton, "bar.put")
    assert "Stiffness" in said.text() and "±" in said.text(), said.text()
    QTest.mouseClick(put, LEFT)
    taken = str(session.value("arm.section"))
    assert taken.startswith("measured-") and taken != before
    assert session.catalogue.materials[taken].E_low < session.catalogue.materials[taken].E
    session.undo()
    assert session.value("arm.section") == before


def test_readings_come_from_instruments_and_the_practice_rig_is_played(prove, qtbot):
    window, page = prove.window, prove.page
    prove.open("drift")
    which = window.findChild(QComboBox, "prove.instrument")
    which.setCurrentText("simulated hanging scale")
    which.activated.emit(which.currentIndex())
    qtbot.waitUntil(lambda: page.proving.instruments.name == "hanging scale")
    for key in ("up", "down"):
        prove.press("prove.read")
        field = window.findChild(QLineEdit, f"edit.{key}")
        qtbot.waitUntil(lambda field=field: not field.text().startswith("0 "))
    which.setCurrentText("socket:1")
    which.activated.emit(0)
    qtbot.waitUntil(lambda: "socket:" in window.message.text())
    prove.press("prove.page.log")
    which.setCurrentText("simulated accelerometer")
    which.activated.emit(0)
    qtbot.waitUntil(lambda: page.proving.instruments.name == "accelerometer")
    prove.press("shaking.take")
    meaning = window.findChild(Label, "shaking.meaning")
    qtbot.waitUntil(lambda: "Strongest at" in meaning.text())
    prove.press("prove.page.practice")
    play = page.view.practising
    prove.press("practice.level.1")
    for key in [name for name in practice.TELLS if window.findChild(QPushButton, f"practice.test.{name}")]:
        prove.press(f"practice.test.{key}")
    prove.press("practice.hint")
    assert "would explain" in window.findChild(Label, "practice.log").text()
    key, size = next(iter(play._rig.faults.items()))
    fault = window.findChild(QComboBox, "practice.fault")
    fault.setCurrentIndex(fault.findData(key))
    field = window.findChild(QLineEdit, "edit.practice.amount")
    field.selectAll()
    QTest.keyClicks(field, prove.session.display.text(size, practice.BY_FAULT[key].unit, fine=True))
    prove.press("practice.mend")
    prove.press("practice.done")
    assert "of 100 points" in window.findChild(Label, "practice.state").text()
    for name in (
        "hunt.begin",
        *(f"hunt.station.{k}" for k in range(7)),
        "hunt.adjust",
        "hunt.tighten",
        "mishap.another",
        "mishap.save",
    ):
        prove.press(name)
    assert "points" in window.findChild(Label, "hunt.state").text()
    assert window.findChild(Label, "mishap.judged").text().startswith(("Right", "No"))
    assert {one.what for one in scores.load()} == {"practice rig", "before it is fixed", "save or scrap"}
