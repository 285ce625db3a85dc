"""A stranger who clicks and types at random: the document stays valid, and undoing everything returns to the start."""

from __future__ import annotations

import random

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QPushButton

from hazel_lantern.core.editing import checking
from hazel_lantern.desktop.stage.marks import Grip, Pill
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from hazel_lantern.files import project_file
from tests.helpers import turn

TEXTS = ("1.4 m", "900", "5' 2 1/2\"", "12+45", "nonsense", "-3", "0", "2.2", "99999", "", "45", "0.3")


@pytest.mark.parametrize("seed", [3, 11])
def test_random_use_leaves_a_valid_document_that_can_be_undone(make, seed):
    window, chance = make(), random.Random(seed)
    session = window.session
    start = session.project
    for _ in range(45):
        what = chance.choice(
            ("station", "type", "drag", "nudge", "undo", "units", "view", "weight", "playhead", "rig", "thing")
        )
        if what == "station":
            window.show_station(chance.choice(session.evaluation.kind.stations))
        elif what == "type":
            fields = [f for f in window.bench.findChildren(QuantityEdit) if f.isVisible()]
            if fields:
                field = chance.choice(fields)
                field.setFocus()
                field.selectAll()
                QTest.keyClicks(field, chance.choice(TEXTS))
                QTest.keyClick(field, Qt.Key.Key_Return)
                QTest.keyClick(field, Qt.Key.Key_Escape)
        elif what in ("drag", "nudge"):
            marks = [m for m in window.stage.findChildren(Grip if what == "drag" else Pill) if m.isVisible() and m.key]
            if marks:
                mark = chance.choice(marks)
                if what == "nudge":
                    QTest.keyClick(mark, chance.choice((Qt.Key.Key_Up, Qt.Key.Key_Left)))
                    continue
                QTest.mousePress(mark, Qt.MouseButton.LeftButton, pos=QPoint(15, 15))
                at = mark.mapToGlobal(QPoint(15, 15))
                QTest.mouseMove(mark, mark.mapFromGlobal(at + QPoint(chance.randint(-80, 80), chance.randint(-80, 80))))
                QTest.mouseRelease(mark, Qt.MouseButton.LeftButton)
        elif what == "undo":
            chance.choice((window.undo, window.redo))()
        elif what == "units":
            window.use_units(chance.choice(("mm", "in")))
        elif what == "view":
            window.next_view()
        elif what == "rig":
            session.switch(chance.choice(session.project.rigs).id)
            turn()
        elif what == "thing" and window.station == "shot":
            chance.choice(
                (
                    lambda: window.extras.add_thing(chance.choice(("person", "box", "wall"))),
                    lambda: QTest.mouseClick(window.findChild(QPushButton, "thing.remove"), Qt.MouseButton.LeftButton),
                )
            )()
        elif what == "weight":
            chips = [
                b
                for b in window.bench.findChildren(QPushButton)
                if b.objectName().startswith("weight.") and b.isVisible()
            ]
            if chips:
                QTest.mouseClick(chance.choice(chips), Qt.MouseButton.LeftButton)
        else:
            window.strip.go(chance.random())
        assert checking.check(project_file.decode(project_file.encode(session.project), "x")) == session.project
    for _ in range(200):
        session.undo()
    assert session.project == start
