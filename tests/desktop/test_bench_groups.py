"""Groups of inputs on the bench: their rows are made when they are first seen, and stay what they were."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QComboBox, QLineEdit, QPushButton, QWidget

from hazel_lantern.core.stations import STATIONS
from hazel_lantern.desktop.widgets.fold import Fold
from hazel_lantern.desktop.widgets.parameter_row import ParameterRow
from tests.helpers import of_each_kind, turn

LEFT = Qt.MouseButton.LeftButton


def folds(window):
    return {fold._title: fold for fold in window.bench.findChildren(Fold)}


def rows(window):
    return {row.parameter.key: row for row in window.bench.findChildren(ParameterRow)}


def head(fold):
    return next(one for one in fold.findChildren(QPushButton) if one.property("head"))


def test_a_folded_group_has_no_rows_until_it_is_pressed_open(window):
    window.show_station("rig")
    turn()
    closed = {title: fold for title, fold in folds(window).items() if not fold.opened}
    assert closed
    before = rows(window)
    groups = {key: parameter.group for key, parameter in window.session.parameters().items()}
    assert not {groups[key] for key in before} & set(closed)
    for title, fold in closed.items():
        if not fold.isVisible():
            continue
        window.bench.ensureWidgetVisible(fold)
        QTest.mouseClick(head(fold), LEFT)
        made = {key: row for key, row in rows(window).items() if groups[key] == title}
        assert made, title
        assert any(row.isVisible() for row in made.values())
        # Pressed again they are only put away, and come back the same.
        QTest.mouseClick(head(fold), LEFT)
        assert not any(row.isVisible() for row in made.values())
        QTest.mouseClick(head(fold), LEFT)
        assert {k: r for k, r in rows(window).items() if groups[k] == title} == made


def test_opened_by_keys_its_fields_follow_in_the_order_they_stand(window):
    window.show_station("rig")
    turn()
    title, fold = next((t, f) for t, f in folds(window).items() if not f.opened and f.isVisible())
    button = head(fold)
    button.setFocus()
    QTest.keyClick(button, Qt.Key.Key_Space)
    assert fold.opened
    fields = [
        one
        for one in fold.findChildren(QWidget)
        if isinstance(one, (QLineEdit, QComboBox)) and one.isVisible() and one.focusPolicy() & Qt.FocusPolicy.TabFocus
    ]
    assert fields, title
    reached, at = [], window.focusWidget()
    for _ in range(3 * len(fields) + 5):
        QTest.keyClick(at, Qt.Key.Key_Tab)
        at = window.focusWidget()
        if at in fields and at not in reached:
            reached.append(at)
    tops = [one.mapTo(window, one.rect().topLeft()).y() for one in reached]
    assert len(reached) >= len(fields) - 1 and tops == sorted(tops)


def test_every_input_of_every_station_is_reached_and_shows_what_the_document_holds(make):
    window = make()
    for rig in of_each_kind(window.session.project)[::3]:
        window.session.switch(rig)
        turn()
        for station in (row.key for row in STATIONS):
            window.show_station(station)
            if window.station != station:
                continue
            for fold in folds(window).values():
                fold.open()
            shown = rows(window)
            for parameter in window.bench._here():
                if getattr(parameter, "known", None):
                    continue  # the station shows it as a list
                row = shown[parameter.key]
                assert row.isVisibleTo(window.bench) == window.bench._asked(parameter), parameter.key
            assert window.bench.fits()
    assert not window.session.dirty


def test_what_a_fold_keeps_is_known_by_name_and_a_value_set_elsewhere_is_there_when_it_opens(window):
    window.show_station("rig")
    turn()
    groups = {key: parameter.group for key, parameter in window.session.parameters().items()}
    closed = {title for title, fold in folds(window).items() if not fold.opened}
    key = next(
        key
        for key, parameter in window.session.parameters().items()
        if parameter.station == "rig"
        and groups[key] in closed
        and type(parameter).__name__ == "Quantity"
        and window.bench._asked(parameter)
        and key in {p.key for p in window.bench._here()}
    )
    parameter = window.session.parameters()[key]
    wanted = (parameter.low + parameter.high) / 2
    window.session.set(key, wanted)
    assert key not in rows(window)
    assert window.bench.reveal(key)
    field = rows(window)[key].field
    assert isinstance(field, QLineEdit) and field.text() == window.session.display.text(
        float(window.session.value(key)), parameter.unit, fine=True
    )
    assert window.focusWidget() is field
    assert not window.bench.reveal("no.such.input")


@pytest.mark.parametrize("station", ["rig", "shot"])
def test_groups_stay_as_they_were_left_when_another_station_was_looked_at(window, station):
    window.show_station(station)
    turn()
    title, fold = next((t, f) for t, f in folds(window).items() if not f.opened and f.isVisible())
    fold.open()
    window.show_station("travel")
    window.show_station(station)
    turn()
    assert folds(window)[title].opened
