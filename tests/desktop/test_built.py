"""As it is really built, in the window: constructions chosen, inputs that only they ask for, rails that bind,
mended."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QComboBox, QLineEdit

from hazel_lantern.desktop.widgets.finding_card import RemedyButton
from tests.desktop.test_window import named, type_into
from tests.helpers import turn


def choose(window, key: str, value: str) -> None:
    box = named(window, f"choose.{key}", QComboBox)
    box.activated.emit(box.findData(value))
    turn()


def test_rails_that_bind_are_shown_along_the_travel_and_mended_by_one_click(make, qtbot):
    window = make(station="rig")
    window.session.switch("jar-slider-board")
    turn()
    window.show_station("travel")
    window.reading.choose("travel.fit")
    turn()
    seen = window.plot._reading
    room = next(line for line in seen.lines if line.name == "room")
    assert room.y.min() < 0 < room.y.max() and "binds at" in seen.aside

    def offered():
        return [b for b in window.findChildren(RemedyButton) if b.isVisible() and "wheels shift" in b.text()]

    qtbot.waitUntil(lambda: bool(offered()), timeout=10000)
    QTest.mouseClick(offered()[0], Qt.MouseButton.LeftButton)
    turn()
    assert window.session.value("fit.floats") == "floating"
    assert min(window.plot._reading.lines[-1].y) > 0
    window.undo()
    turn()
    assert window.session.value("fit.floats") == "guided"


def test_what_a_choice_asks_for_appears_with_it_and_a_bag_is_filled_to_balance(make):
    window = make(station="balance")
    near, bag = named(window, "edit.weights.nearest", QLineEdit), named(window, "edit.weights.bag", QLineEdit)
    assert near.isVisibleTo(window) and not bag.isVisibleTo(window)
    choose(window, "weights.carried", "bag")
    near, bag = named(window, "edit.weights.nearest", QLineEdit), named(window, "edit.weights.bag", QLineEdit)
    assert bag.isVisibleTo(window) and not near.isVisibleTo(window)
    type_into(window, "edit.weights.bag", "4.2 kg")
    assert window.session.value("weights.bag") == 4.2
    QTest.keyClick(window, Qt.Key.Key_F5)
    turn()
    assert abs(window.session.evaluation.figures["balance.drift"].value) < 3.0
    bought = {buy.name for buy in window.session.evaluation.laid.bought}
    assert "Weight bag with a hook, to be filled" in bought


def test_a_construction_that_another_excludes_is_told_and_one_choice_mends_it(make):
    window = make(station="rig")
    choose(window, "post.made", "between")
    stop = next(f for f in window.session.findings() if f.key == "rig.impossible")
    assert "two bars side by side" in stop.sentence.template
    choose(window, "arm.made", "pair")
    marks = {part.mark: part.quantity for part in window.session.evaluation.parts}
    assert (marks["A1"], marks["B1"], marks["C1"]) == (2, 2, 1)
    sketch = window.session.evaluation.draw(0.3, "above")
    assert sketch.items
