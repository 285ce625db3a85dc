"""What a start costs: no more is loaded and nothing is written before the first painted window."""

from __future__ import annotations

import os
import subprocess
import sys

from PyQt6.QtCore import QEvent, QObject
from PyQt6.QtWidgets import QWidget

from hazel_lantern.core.kinds import DECLARED, KINDS
from hazel_lantern.core.stations import STATIONS
from hazel_lantern.files import places
from tests.helpers import of_each_kind, turn

LATER = (
    "scipy",
    "ezdxf",
    "reportlab",
    "hazel_lantern.files.build_sheet",
    "hazel_lantern.files.tables",
    "hazel_lantern.cli",
    "hazel_lantern.desktop.shell.compare",
    "hazel_lantern.desktop.shell.why",
    "hazel_lantern.desktop.stations.build.view",
    "hazel_lantern.desktop.stations.shot.extras",
)


def test_a_start_loads_the_kind_it_shows_and_no_more_and_leaves_the_preferences_alone():
    ran = subprocess.run(
        [sys.executable, "-X", "importtime", "-m", "hazel_lantern", "run", "--sample", "--quit-after-paint"],
        env=os.environ | {"QT_QPA_PLATFORM": "offscreen"},
        capture_output=True,
        text=True,
        timeout=120,
        check=True,
    )
    loaded = {line.rpartition("|")[2].strip() for line in ran.stderr.splitlines() if line.startswith("import time:")}
    assert [name for name in sorted(loaded) if name.startswith(LATER)] == []
    assert [
        kind
        for kind in ("jib", "gantry", "slider")
        if {f"hazel_lantern.core.kinds.{kind}.{part}" for part in ("model", "drawing", "standing")} & loaded
    ] == ["jib"]
    assert not places.config().exists()


class Watch(QObject):
    """Names of what is shown as a window of its own."""

    def __init__(self) -> None:
        super().__init__()
        self.shown: list[str] = []

    def eventFilter(self, thing, event):
        if event.type() == QEvent.Type.Show and isinstance(thing, QWidget) and thing.isWindow():
            self.shown.append(f"{type(thing).__name__} {thing.objectName()}")
        return False


def test_nothing_flashes_up_as_a_window_of_its_own_on_the_way_to_any_station(make, qapp):
    window, watch = make(), Watch()
    qapp.installEventFilter(watch)
    for rig in of_each_kind(window.session.project):
        window.session.switch(rig)
        turn()
        for station in (row.key for row in STATIONS):
            window.show_station(station)
    qapp.removeEventFilter(watch)
    assert watch.shown == []


def test_a_kind_is_what_it_declares_and_an_unknown_one_is_none_of_them():
    assert list(KINDS) == list(DECLARED)
    for key, declared in DECLARED.items():
        kind = KINDS[key]
        assert kind.parameters is declared.parameters
        assert (kind.id, kind.name, kind.variants, kind.usual) == (
            key,
            declared.name,
            declared.variants,
            declared.usual,
        )
        assert {key for values in kind.usual.values() for key in values} <= {p.key for p in kind.parameters}
    assert "trebuchet" not in KINDS
