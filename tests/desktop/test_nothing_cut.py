"""Every word at every station has the room it needs: in a small window, and in large letters."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QFontMetrics
from PyQt6.QtWidgets import QAbstractButton, QLabel, QLineEdit, QSizePolicy, QToolButton

from hazel_lantern.core.stations import STATIONS
from hazel_lantern.desktop.widgets.fold import Fold
from hazel_lantern.desktop.widgets.words import Label

EDGE = 8  # px within a field that are not for words


def shown(window, sort):
    return [one for one in window.findChildren(sort) if one.isVisible() and one.text()]


def cut(window):
    """What has less room than its words need: its name or words, the room it has, what it needs."""
    found = []
    for button in shown(window, QAbstractButton):
        if isinstance(button, QToolButton) or button.__class__.__name__ == "QPushButton":
            found.append((button.objectName() or button.text(), button.width(), button.sizeHint().width()))
    for field in shown(window, QLineEdit):
        if field.objectName().startswith("edit."):
            needed = QFontMetrics(field.font()).horizontalAdvance(field.text()) + EDGE
            found.append((field.objectName(), field.width(), needed))
    for label in shown(window, QLabel):
        if label.wordWrap():
            found.append((label.text(), label.height(), label.heightForWidth(label.width())))
        elif label.sizePolicy().horizontalPolicy() != QSizePolicy.Policy.Ignored:
            found.append((label.text(), label.width(), label.sizeHint().width()))
    return [one for one in found if one[1] < one[2] - 1]


@pytest.mark.parametrize(
    ("scale", "size", "name", "rig"),
    [
        (100, (1100, 700), "orchard-at-dusk-inches", "kitchen-gantry"),
        (100, (1100, 700), "orchard-at-dusk", "pond-line"),
        (175, (1280, 800), "orchard-at-dusk", "jar-slider"),
        (175, (1920, 1080), "orchard-at-dusk", "comb-turntable"),
    ],
)
def test_no_word_is_cut_at_any_station(make, qtbot, scale, size, name, rig):
    window = make(name=name, size=size, scale=scale)
    window.session.switch(rig)
    for station in STATIONS:
        window.show_station(station.key)
        if window.station != station.key:
            continue  # one that has nothing to say about this rig
        for fold in window.bench.findChildren(Fold):
            fold.open()
        try:
            qtbot.waitUntil(lambda: not cut(window), timeout=4000)
        except Exception as error:
            raise AssertionError(f"{station.name}: {cut(window)[:4]}") from error
        assert len(shown(window, Label)) >= 5


def test_what_is_cut_is_found(make, qtbot):
    window = make()
    button = window.findChild(QAbstractButton, "add-rig")
    qtbot.waitUntil(lambda: not cut(window), timeout=4000)
    button.setFixedWidth(button.sizeHint().width() // 2)
    assert [name for name, *_ in cut(window)] == ["add-rig"]


@pytest.mark.parametrize(
    ("scale", "size"), [(100, (1100, 700)), (100, (1280, 800)), (175, (1280, 800)), (175, (1920, 1080))]
)
@pytest.mark.parametrize("rig", ["pond-line", "kitchen-gantry"])
def test_things_to_put_stand_whole_beside_chips_and_labels(make, scale, size, rig):
    window = make(size=size, scale=scale, station="shot")
    window.session.switch(rig)
    window.show_station("shot")
    stage = window.stage
    box = next(one for one in stage.findChildren(QAbstractButton) if one.objectName() == "put.way-point").parentWidget()
    place = QRectF(box.geometry())
    assert box.isVisible() and QRectF(stage.rect()).contains(place)
    sorts = [one for one in box.findChildren(QAbstractButton) if one.isVisible()]
    assert len(sorts) >= 10
    for one in sorts:
        assert box.rect().contains(one.geometry()), one.objectName()
    for chip in stage.findChildren(QAbstractButton):
        if chip.isVisible() and chip.property("chip"):
            at = QRectF(chip.mapTo(stage, chip.rect().topLeft()).toPointF(), chip.size().toSizeF())
            assert not at.intersects(place), chip.text()
    for label in stage.label_boxes():
        assert not label.intersects(place)
