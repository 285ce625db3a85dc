"""Names of any length and any letters: shown as they are, in the room there is."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel, QPushButton, QWidget

from hazel_lantern.desktop.widgets.chooser import Chooser
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from tests.files.test_exports import oddly_named
from tests.helpers import of_each_kind, turn


@pytest.mark.parametrize("name", ["<b>bold</b> & <img src=x>", "n" * 10_000, "a\x00b\u202ec\nd", "R&D"])
def test_names_are_neither_markup_nor_wider_than_their_room(make, name):
    window = make()
    usual = window.minimumSizeHint().width()
    window.session.open(oddly_named(name), None)
    # Every kind for one name; what a name does to a rig's stations it does to all of them.
    rigs = of_each_kind(window.session.project)
    for rig in rigs if name.startswith("<b>") else rigs[:1]:
        window.session.switch(rig)
        turn()
        for key in (*window.session.evaluation.kind.stations, "drive"):
            window.show_station(key)
            turn()
            assert window.width() == 1280
            assert window.minimumSizeHint().width() <= max(usual, 1280)
            assert window.stage.width() > 600 or not window.stage.isVisible()
            edge = window.bench.viewport().mapToGlobal(window.bench.viewport().rect().topRight()).x()
            for field in (*window.bench.findChildren(QuantityEdit), *window.bench.findChildren(Chooser)):
                if field.isVisible():
                    assert field.mapToGlobal(field.rect().topRight()).x() <= edge, field.objectName()
            for label in window.findChildren(QLabel):
                if "<b>" in label.text() and "bold" in label.text():
                    assert label.textFormat() == Qt.TextFormat.PlainText, label.text()[:60]
            for widget in window.findChildren(QWidget):
                assert "<b>" not in widget.toolTip()
    if name == "R&D":
        chip = window.findChild(QPushButton, f"rig.{window.session.rig_id}")
        assert chip.text() == "R&&D"
    # What is saved is what was typed.
    assert all(rig.name == name for rig in window.session.project.rigs)
