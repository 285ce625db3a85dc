"""One picture of each main view of the sample at 1280×800."""

from __future__ import annotations

import sys
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QImage
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QComboBox, QPushButton

from hazel_lantern.core import catalogue
from hazel_lantern.core.editing import changes
from hazel_lantern.core.editing.starting import blank
from hazel_lantern.desktop.shell.window import Window
from hazel_lantern.desktop.stations.shot.proposals import ProposalCard
from hazel_lantern.desktop.theme.theme import Theme, load_fonts
from hazel_lantern.session.session import Session
from hazel_lantern.session.settings import Settings

VIEWS = {
    "shot": ("shot", "dusk", "orchard-at-dusk", "hive-jib", lambda w: _tried(w)),
    "shot-gantry": ("shot", "daylight", "orchard-at-dusk-inches", "kitchen-gantry", lambda w: _tried(w)),
    "rig-orbit": ("rig", "dusk", "orchard-at-dusk", "comb-turntable", lambda w: _sized(w)),
    "prove": ("prove", "dusk", "orchard-at-dusk", "pond-line", lambda w: w.page.proving.pick("pluck")),
    "vibration": ("prove", "daylight", "orchard-at-dusk", "jar-slider", lambda w: _logged(w)),
    "practice": ("prove", "dusk", "orchard-at-dusk", "jar-slider-board", lambda w: _practised(w)),
    "roll": ("roll", "dusk", "orchard-at-dusk", "hive-jib", lambda w: _rolled(w)),
    "drive": ("drive", "dusk", "orchard-at-dusk", "hive-jib", lambda w: QTest.qWait(1500)),
    "gears": ("drive", "dusk", "orchard-at-dusk", "hive-jib", lambda w: _found(w)),
    "balance": ("balance", "dusk", "orchard-at-dusk", "hive-jib", lambda w: None),
    "add-rig": (
        "shot",
        "dusk",
        "orchard-at-dusk",
        "hive-jib",
        lambda w: (w.arrivals.choose_rig(), _until(lambda: len(w.arrivals.adding.found) == 23)),
    ),
    "ways": ("balance", "dusk", "orchard-at-dusk", "hive-jib", lambda w: (w.comparing.ways(), QTest.qWait(3000))),
    "travel": ("travel", "dusk", "orchard-at-dusk", "kitchen-gantry", lambda w: _overhead(w)),
    "travel-dolly": (
        "travel",
        "dusk",
        "orchard-at-dusk",
        "lane-dolly",
        lambda w: (w.reading.choose("speed"), QTest.qWait(1500)),
    ),
    "build": ("build", "dusk", "orchard-at-dusk", "hive-jib-plumb", lambda w: QTest.qWait(2500)),
    "build-steps": (
        "build",
        "daylight",
        "orchard-at-dusk-inches",
        "hive-jib",
        lambda w: (w.findChild(QPushButton, "sheet.1").click(), QTest.qWait(1500)),
    ),
    "shoot": ("build", "daylight", "orchard-at-dusk", "lane-dolly", lambda w: _listed(w)),
    "why-daylight": (
        "balance",
        "daylight",
        "orchard-at-dusk-inches",
        "hive-jib",
        lambda w: (w.guide.why("balance.front"), QTest.qWait(2500)),
    ),
}


# The picture of each station in the manual, smaller.
IN_MANUAL = {"shot": "shot", "rig-orbit": "rig", "balance": "balance", "travel": "travel", "drive": "drive",
    "build": "build", "prove": "prove", "roll": "roll"}  # fmt: skip
SCREENSHOTS = Path("docs/screenshots")
MANUAL, WIDE = Path("src/hazel_lantern/assets/manual/pictures"), 760


def _found(w: Window) -> None:
    """Gears looked for and found, the second pair seen close."""
    finder = w.extras.finders[0]
    w.act()
    _until(lambda: not finder.job.running and finder.tiles)
    w.bench.open_group("Swing, gears to find")
    QApplication.processEvents()
    w.bench.ensureWidgetVisible(finder.tiles[-1])
    w.use_view("chain.mesh.swing.1")
    QTest.qWait(1500)


def main() -> None:
    out = Path(sys.argv[1]) if len(sys.argv) > 1 else SCREENSHOTS
    for folder in (out, MANUAL):
        folder.mkdir(parents=True, exist_ok=True)
    app = QApplication(sys.argv[:1])
    load_fonts()
    welcome = _window(app, "dusk", welcome=True)
    welcome.show()
    QTest.qWait(200)
    welcome.grab().save(str(out / "first-minute.png"))
    welcome.close()
    for name, (station, theme, sample, rig, then) in VIEWS.items():
        if sys.argv[2:] and name not in sys.argv[2:]:
            continue
        window = _window(app, theme)
        window.files.open_sample(sample)
        window.show()
        window.session.switch(rig)
        QApplication.processEvents()
        window.show_station(station)
        window.strip.go(0.6)
        QTest.qWait(900)
        then(window)
        QTest.qWait(400)
        picture = window.grab()
        picture.save(str(out / f"{name}.png"))
        if name in IN_MANUAL and out == SCREENSHOTS:
            small = picture.toImage().scaledToWidth(WIDE, Qt.TransformationMode.SmoothTransformation)
            small.convertToFormat(QImage.Format.Format_RGB32).save(str(MANUAL / f"{IN_MANUAL[name]}.png"), "PNG", 0)
        window.session._saved = window.session.project  # noqa: SLF001  nothing is asked on closing
        window.close()
        print(out / f"{name}.png")


def _practised(window: Window) -> None:
    view = window.page.view
    view.turn("practice")
    view.practising.begin(2, 7)
    for key in ("gauge", "pull", "level", "play"):
        view.practising.test(key)
    view.practising.hint()


def _logged(window: Window) -> None:
    window.page.view.turn("log")
    window.page.proving.instruments.use("simulated accelerometer")
    QTest.qWait(300)
    window.page.proving.instruments.log(20.0)
    QTest.qWait(1500)


def _rolled(window: Window) -> None:
    window.findChild(QComboBox, "coach.hand").setCurrentIndex(2)
    window.page.coach.go()


def _overhead(window: Window) -> None:
    """An overhead rail over the same bench, its supports seen with their loads."""
    window.rigs.add_rig("overhead/twin")
    QTest.qWait(600)
    window.show_station("travel")
    window.stage.show_layer("loads", True)
    QTest.qWait(2500)


def _listed(window: Window) -> None:
    window.findChild(QPushButton, "sheet.4").click()
    _until(lambda: window.page.shoot.found is not None and not window.page.shoot.job.running)
    window.bench.open_group("Carrying")
    QTest.qWait(300)


def _sized(window: Window) -> None:
    """From above, with what hurts most and sizes over the catalogue."""
    window.use_view("above")
    sizing = window.page.sizing
    sizing.hurting.go()
    sizing.go()
    _until(lambda: not sizing.job.running and not sizing.hurting.job.running)


def _until(done: Callable[[], object], most: int = 60_000) -> None:
    """Wait for what is worked out in the background."""
    for _ in range(most // 100):
        if done():
            break
        QTest.qWait(100)
    QTest.qWait(300)


def _tried(window: Window) -> None:
    _until(lambda: window.findChildren(ProposalCard))


def _window(app: QApplication, look: str, *, welcome: bool = False) -> Window:
    theme = Theme(look)
    theme.apply(app)
    window = Window(Session(changes.add_rig(blank(), "jib"), catalogue.load()), theme, Settings(), welcome=welcome)
    window.resize(1280, 800)
    return window


if __name__ == "__main__":
    main()
