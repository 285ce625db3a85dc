"""The measurements behind docs/speed.md: medians and 95th percentiles of interleaved runs, as ratios."""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import time
from pathlib import Path

import numpy as np
from PyQt6.QtWidgets import QApplication

from hazel_lantern import assets
from hazel_lantern.core import catalogue, changes
from hazel_lantern.core.evaluate import Memo, evaluate
from hazel_lantern.desktop.application import settle
from hazel_lantern.desktop.shell.window import Window
from hazel_lantern.desktop.theme.theme import Theme, load_fonts
from hazel_lantern.files import project_file
from hazel_lantern.session.session import Session
from hazel_lantern.session.settings import Settings

FRAME = 1 / 60
BARE = "import sys, numpy\nfrom PyQt6.QtWidgets import QApplication, QWidget\nfrom PyQt6.QtCore import QTimer\na = QApplication([])\nclass W(QWidget):\n    def paintEvent(self, e):\n        QTimer.singleShot(0, a.quit)\nw = W(); w.resize(1280, 800); w.show(); a.exec()\n"


def sample() -> object:
    name = "orchard-at-dusk.lantern.json"
    return project_file.decode(assets.data("samples", name), Path(name))


def p95(times: list[float]) -> float:
    return float(np.percentile(times, 95))


def drag() -> None:
    project, shelf, memo = sample(), catalogue.load(), Memo()
    rig = project.rigs[0].id
    lengths = 1.6 + 0.002 * np.arange(120)
    times = []
    for length in lengths:
        changed = changes.set_values(project, rig, [("arm.front", float(length))])
        start = time.perf_counter()
        evaluate(changed, shelf, rig, memo)
        times.append(time.perf_counter() - start)
    print(f"evaluate, arm dragged: median {statistics.median(times) * 1e3:.1f} ms, p95 {p95(times) * 1e3:.1f} ms = {p95(times) / FRAME:.2f} frames")
    app = QApplication.instance() or QApplication(sys.argv[:1])
    load_fonts()
    theme = Theme()
    theme.apply(app)
    window = Window(Session(project, shelf), theme, Settings())
    window.show()
    app.processEvents()
    settle()
    for station, key, start_at in (("rig", "arm.front", 1.6), ("balance", "weights.place", 0.45), ("shot", "shot.end", 2.4)):
        window.show_station(station)
        app.processEvents()
        gesture = window.session.new_gesture()
        times, stage_times = [], []
        for n in range(120):
            start = time.perf_counter()
            window.session.set(key, start_at + 0.0015 * n, gesture)
            window.stage.repaint()
            stage_times.append(time.perf_counter() - start)
            app.processEvents()
            times.append(time.perf_counter() - start)
        for what, found in (("evaluate and repaint the stage", stage_times), ("with all the rest of the window", times)):
            print(f"drag {key} at {station}, {what}: median {statistics.median(found) * 1e3:.1f} ms, p95 {p95(found) * 1e3:.1f} ms = {p95(found) / FRAME:.2f} frames")
    window.session.undo()
    window.session.close()


def cold_start(rounds: int = 7) -> None:
    bare, ours = [], []
    env = {key: value for key, value in os.environ.items() if key != "PYTHONDONTWRITEBYTECODE"} | {"QT_QPA_PLATFORM": "offscreen"}
    # The first round only compiles and warms the disk.
    for _ in range(rounds + 1):
        for times, command in ((bare, ["-c", BARE]), (ours, ["-m", "hazel_lantern", "run", "--sample", "--quit-after-paint"])):
            start = time.perf_counter()
            subprocess.run([sys.executable, *command], env=env, check=True, capture_output=True)
            times.append(time.perf_counter() - start)
    a, b = statistics.median(bare[1:]), statistics.median(ours[1:])
    print(f"cold start: bare window with NumPy {a * 1e3:.0f} ms, first painted window {b * 1e3:.0f} ms = {b / a:.2f} ×")


if __name__ == "__main__":
    cold_start()
    drag()
