"""A station is one row and one folder: a ninth one, in a process that knows of it from the start."""

from __future__ import annotations

import subprocess
import sys

NINTH = """
import os
os.environ["QT_QPA_PLATFORM"] = "offscreen"
from hazel_lantern.core import stations
stations.STATIONS = (*stations.STATIONS, stations.Station("bag", "Bag", 9, every=True))
from hazel_lantern.desktop.stations import HOMES
HOMES["bag"] = "tests.bag"
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication
from hazel_lantern.desktop.shell.window import Window
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.session.session import Session
from hazel_lantern.session.settings import Settings
from tests.helpers import SHELF, sample, turn
app = QApplication([])
window = Window(Session(sample(), SHELF), Theme(), Settings())
window.show()
window.activateWindow()
assert QTest.qWaitForWindowActive(window)
QTest.keyClick(window, Qt.Key.Key_9, Qt.KeyboardModifier.ControlModifier)
assert window.station == "bag", window.station
assert window.trail._stops["bag"].isChecked() and window.trail._stops["bag"].isVisibleTo(window)
parts = len(window.session.evaluation.parts)
assert window.extras.words.text() == f"{parts} parts in the bag"
assert window.reading.isVisibleTo(window) and window.plot._reading.title == "Lengths"
assert window.stage._sketch is not None
QTest.keyClick(window, Qt.Key.Key_F5)
assert window.page.acted == 1 and window.message.text() == "Packed."
window.top.finder.setText("Shot")
window.guide.go_to("shot")
assert window.station == "shot"
window.guide.go_to("bag")
assert window.station == "bag"
for rig in window.session.project.rigs:
    window.session.switch(rig.id)
    turn()
    assert window.station == "bag"
window.session.open(window.session.project, None)
window.close()
print("as it should")
"""


def test_a_ninth_station_is_a_row_and_a_folder():
    done = subprocess.run([sys.executable, "-c", NINTH], capture_output=True, text=True, check=False)
    assert done.stdout == "as it should\n", done.stderr
