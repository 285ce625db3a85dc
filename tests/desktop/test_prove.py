"""Prove in a real window: readings typed, struck out, what they mean, corrections taken and kept beside the drawing."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLineEdit, QListWidget, QPushButton

from hazel_lantern.desktop.widgets.words import Label

LEFT = Qt.MouseButton.LeftButton


def test_readings_are_typed_struck_out_and_correct_the_drawing(make):
    window = make(station="prove")
    session, view = window.session, window.page.view

    def press(name):
        QTest.mouseClick(window.findChild(QPushButton, name), LEFT)

    def meaning():
        return window.findChild(Label, "prove.meaning").text()

    tests = window.findChild(QListWidget, "prove.tests")
    tests.setCurrentRow(1)
    assert view.at == "drift" and "heavy: slide the weights" in meaning()
    before = session.document.rig("hive-jib").proofs
    for key, words in (("angle", "20"), ("up", "0.1 N"), ("down", "-0.5 N"), ("radius", "1500 mm")):
        field = window.findChild(QLineEdit, f"edit.{key}")
        field.selectAll()
        QTest.keyClicks(field, words)
    press("prove.add")
    rows = session.document.rig("hive-jib").proofs
    assert len(rows) == len(before) + 1 and rows[-1].readings[3] == pytest.approx(1.5)
    press("prove.strike")
    assert session.document.rig("hive-jib").proofs[-1].struck and "heavy" in meaning()
    field = window.findChild(QLineEdit, "edit.up")
    field.selectAll()
    QTest.keyClicks(field, "a lot")
    press("prove.add")
    assert "not one yet" in window.message.text() and len(session.document.rig("hive-jib").proofs) == len(rows)
    place = session.document.rig("hive-jib").design["weights.place"]
    press("prove.correct")
    assert session.document.rig("hive-jib").design["weights.place"] < place
    session.undo()
    assert session.document.rig("hive-jib").design["weights.place"] == place


def test_damping_asks_for_two_tests_and_is_then_kept_beside_the_drawing(make):
    window = make(station="prove")
    session, view = window.session, window.page.view
    view.pick("bounce")
    keep = window.findChild(QPushButton, "prove.keep")
    assert keep.isVisibleTo(view) and not keep.isEnabled()
    for k in range(3):
        for key, words in (
            ("cycles", "20"),
            ("time", f"{2.34 + 0.01 * k} s"),
            ("first_high", "12 mm"),
            ("last_high", "1.2 mm"),
        ):
            field = window.findChild(QLineEdit, f"edit.{key}")
            field.selectAll()
            QTest.keyClicks(field, words)
        QTest.mouseClick(window.findChild(QPushButton, "prove.add"), LEFT)
    built = window.findChild(QPushButton, "as-built")
    assert keep.isEnabled() and not built.isVisible()
    drawn = session.evaluation.figures["rig.whip_calm"].value if "rig.whip_calm" in session.evaluation.figures else None
    QTest.mouseClick(keep, LEFT)
    rows = session.document.rig("hive-jib").measured
    assert rows[-1].key == "arm.damping" and rows[-1].pm > 0 and built.isVisible()
    assert session.evaluation.basis == "drawn"
    QTest.mouseClick(built, LEFT)
    assert session.built and session.evaluation.basis == "built"
    assert drawn is None or session.evaluation.figures["rig.whip_calm"].value != drawn
    session.switch("jar-slider")
    assert not session.built
