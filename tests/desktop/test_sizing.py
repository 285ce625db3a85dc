"""Sizes over the catalogue in a real window: searched in the background, stopped, taken, undone, a dot pressed."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLineEdit, QPushButton

from hazel_lantern.core.sizing import search, varied
from hazel_lantern.desktop.stations.shot.proposals import ProposalCard
from hazel_lantern.desktop.widgets.words import Label

LEFT = Qt.MouseButton.LeftButton


def test_a_size_is_searched_stopped_taken_and_undone(make, qtbot, monkeypatch):
    monkeypatch.setattr(varied, "ROWS", 3)
    monkeypatch.setattr(varied, "SHARES", (1.0, 0.9))
    monkeypatch.setattr(search, "EXACT", 3)
    monkeypatch.setattr(search, "POLISH", 4)
    window = make(station="rig")
    session = window.session
    session.switch("comb-turntable")
    window.show_station("rig")
    sizing, go = window.page.sizing, window.findChild(QPushButton, "size.go")
    says = window.findChild(Label, "size.says")
    QTest.mouseClick(go, LEFT)
    assert sizing.job.running and go.text() == "Stop searching"
    QTest.mouseClick(go, LEFT)
    assert not sizing.job.running and says.text() == "Stopped."
    QTest.mouseClick(go, LEFT)
    qtbot.waitUntil(lambda: sizing.sizes is not None and not sizing.job.running, timeout=60000)
    answer = sizing.sizes.answers[0]
    assert "screened" in says.text()
    before = dict(session.document.rig("comb-turntable").design)
    QTest.mouseClick(window.findChild(ProposalCard, f"size.take.{answer.aims[0]}"), LEFT)
    for key, value in answer.changes:
        assert session.value(key) == value
    session.undo()
    assert session.document.rig("comb-turntable").design == before
    dot = next(one for one in sizing.sizes.cloud if one.changes and one.changes != answer.changes)
    chart = sizing.chart.dots
    QTest.mouseClick(chart, LEFT, pos=chart.at(dot).toPoint())
    assert session.document.rig("comb-turntable").design != before or "as it is" in window.message.text()
    session.undo()
    # The same by keys, read along another way.
    QTest.mouseClick(window.findChild(QPushButton, "size.along.mass"), LEFT)
    chart.setFocus()
    least = min(sizing.sizes.cloud, key=lambda one: one.mass)
    QTest.keyClick(chart, Qt.Key.Key_Right)
    assert session.display.text(least.mass, "kg") in chart.accessibleDescription()
    QTest.keyClick(chart, Qt.Key.Key_Return)
    assert all(session.value(key) == value for key, value in least.changes)
    session.undo()
    field = window.findChild(QLineEdit, "edit.size.cost")
    field.selectAll()
    QTest.keyClicks(field, "cheap")
    QTest.mouseClick(go, LEFT)
    assert not sizing.job.running and "limit is not one yet" in window.message.text()


def test_what_hurts_most_is_worked_out_pressed_and_put_away(make, qtbot):
    window = make(station="rig")
    session = window.session
    session.switch("comb-ring")
    window.show_station("rig")
    hurting, go = window.page.sizing.hurting, window.findChild(QPushButton, "hurts.go")
    says = window.findChild(Label, "hurts.says")
    QTest.mouseClick(go, LEFT)
    assert hurting.isVisible() and hurting.job.running
    QTest.mouseClick(go, LEFT)
    assert not hurting.isVisible() and not hurting.job.running
    QTest.mouseClick(go, LEFT)
    qtbot.waitUntil(lambda: not hurting.job.running, timeout=60000)
    assert says.text().startswith("What a tenth more")
    told = hurting.bars.accessibleDescription()
    assert "+10 %: +10.0 %" in told and "+10 %: −9.1 %" in told
    QTest.mouseClick(hurting.bars, LEFT)
    assert window.station == session.parameters()["slide.overlap"].station
    assert window.findChild(QLineEdit, "edit.slide.overlap").isVisible()
    session.set("slide.overlap", session.value("slide.overlap") * 1.2)
    window.show_station("rig")
    assert not hurting.isVisible()
