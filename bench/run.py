"""The measurements behind docs/speed.md: medians and 95th percentiles of interleaved runs, as ratios."""

from __future__ import annotations

import math
import os
import statistics
import subprocess
import sys
import time
from pathlib import Path

# As the application does, before NumPy is loaded.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

import numpy as np
from PyQt6.QtCore import QEvent
from PyQt6.QtWidgets import QApplication

from hazel_lantern import assets
from hazel_lantern.core import catalogue
from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.memo import Memo
from hazel_lantern.desktop.application import settle
from hazel_lantern.desktop.shell.window import Window
from hazel_lantern.desktop.theme.theme import Theme, load_fonts
from hazel_lantern.files import project_file
from hazel_lantern.session.session import Session
from hazel_lantern.session.settings import Settings

FRAME = 1 / 60
STEPS, PASSES = 100, 5
DRAGS = (
    ("hive-jib", "rig", "arm.front", 1.6),
    ("hive-jib", "balance", "weights.place", 0.45),
    ("hive-jib", "shot", "shot.end", 2.4),
    ("hive-jib", "shot", "thing.keeper.x", 0.1),
    ("jar-slider", "rig", "rail.length", 1.1),
    ("jar-slider", "travel", "rail.height", 0.8),
    ("kitchen-gantry", "rig", "runway.length", 1.7),
)
BARE = """
import sys, numpy
from PyQt6.QtWidgets import QApplication, QWidget
from PyQt6.QtCore import QTimer
a = QApplication([])
class W(QWidget):
    def paintEvent(self, e):
        QTimer.singleShot(0, a.quit)
w = W(); w.resize(1280, 800); w.show(); a.exec()
"""


def sample() -> object:
    name = "orchard-at-dusk.lantern.json"
    return project_file.decode(assets.data("samples", name), Path(name))


def pace() -> float:
    """Seconds of a fixed piece of work: how quick the machine is just now."""
    start, total = time.perf_counter(), 0
    for n in range(30_000):
        total += n * n
    return time.perf_counter() - start


def told(times: list[float]) -> str:
    p95 = float(np.percentile(times, 95))
    return f"median {statistics.median(times) * 1e3:.1f} ms, p95 {p95 * 1e3:.1f} ms = {p95 / FRAME:.2f} frames"


def drag() -> None:
    """Every step of a drag, several times over: the best of a step is the work itself, whatever else the machine did
    meanwhile.
    """
    project, shelf, memo = sample(), catalogue.load(), Memo()
    for rig, key, begin in (
        ("hive-jib", "arm.front", 1.6),
        ("jar-slider", "rail.length", 1.1),
        ("kitchen-gantry", "runway.length", 1.7),
        ("hive-jib", "thing.keeper.x", 0.1),
        ("hive-jib", "shot.end", 2.4),
    ):
        best = [math.inf] * STEPS
        for _ in range(PASSES):
            for n in range(STEPS):
                changed = changes.set_values(project, rig, [(key, begin + 0.002 * n)])
                start = time.perf_counter()
                evaluate(changed, shelf, rig, memo=memo)
                best[n] = min(best[n], time.perf_counter() - start)
        print(f"evaluate {rig}, {key} dragged: {told(best)}")
    app = QApplication.instance() or QApplication(sys.argv[:1])
    load_fonts()
    theme = Theme()
    theme.apply(app)
    window = Window(Session(project, shelf), theme, Settings())
    window.show()
    app.processEvents()
    settle()
    for rig_id, station, key, start_at in DRAGS:
        window.session.switch(rig_id)
        QApplication.processEvents()
        window.show_station(station)
        app.processEvents()
        hand, told_by, rest, paces = [math.inf] * STEPS, [math.inf] * STEPS, [math.inf] * STEPS, []
        for _ in range(PASSES):
            gesture = window.session.new_gesture()
            for n in range(STEPS):
                paces.append(pace())
                start = time.perf_counter()
                window.session.set(key, start_at + 0.0015 * n, gesture)
                app.sendPostedEvents(window, QEvent.Type.UpdateRequest.value)
                hand[n] = min(hand[n], time.perf_counter() - start)
                window.showing.refresh_findings()
                app.sendPostedEvents()
                told_by[n] = min(told_by[n], time.perf_counter() - start)
                window.showing.refresh_aside()
                app.processEvents()
                rest[n] = min(rest[n], time.perf_counter() - start)
        print(
            f"drag {key} of {rig_id} at {station}: what the hand moves {told(hand)}; with findings {told(told_by)} "
            f"({statistics.median(told_by) / statistics.median(paces):.2f} × a fixed piece of work, which took "
            f"{statistics.median(paces) * 1e3:.1f} ms); with figures and every picture {told(rest)}"
        )
    window.session.undo()
    QApplication.processEvents()
    window.session.close()


def frame_engine(elements: int = 40, positions: int = 60) -> None:
    """Our engine from nodes and loads to displacements, against a general package solving a model it has already been
    given.
    """
    from Pynite import FEModel3D

    from hazel_lantern.core.mechanics.frame import Element, Support, frame
    from hazel_lantern.core.mechanics.frame_loads import loads, solve

    nodes = {f"n{k}": (k * 0.1, 0.0, 0.0) for k in range(elements + 1)}
    pieces = [Element(f"e{k}", f"n{k}", f"n{k + 1}", 3e7, 1500.0, 1500.0, 700.0) for k in range(elements)]
    held = {"n0": Support((0, 1, 2, 3)), f"n{elements}": Support((1, 2, 3)), "n20": Support((), ((2, 5e4),))}
    rows = []
    for case in range(positions):
        for axle in (-0.06, 0.06):
            x = 0.2 + case * 3.5 / positions + axle
            rows.append((case, int(x / 0.1), x - 0.1 * int(x / 0.1), (0.0, 0.0, -20.0), (0.0, 0.0, 0.0)))
    ours, theirs = [], []
    for _ in range(5):
        start = time.perf_counter()
        made = frame(nodes, pieces, held)
        found = solve(made, loads(positions, rows))
        ours.append(time.perf_counter() - start)
        model = FEModel3D()
        model.add_material("s", 1e9, 1e9, 0.3, 1.0)
        model.add_section("q", 3e-2, 1.5e-6, 1.5e-6, 7e-7)
        for name, place in nodes.items():
            model.add_node(name, *place)
        for piece in pieces:
            model.add_member(piece.name, piece.i, piece.j, "s", "q")
        model.def_support("n0", True, True, True, True, False, False)
        model.def_support(f"n{elements}", False, True, True, True, False, False)
        model.def_support_spring("n20", "DZ", 5e4)
        for case, element, at, force, _ in rows:
            model.add_member_pt_load(f"e{element}", "FZ", force[2], at, case=f"c{case}")
        for case in range(positions):
            model.add_load_combo(f"c{case}", {f"c{case}": 1.0})
        start = time.perf_counter()
        model.analyze_linear(check_statics=False)
        theirs.append(time.perf_counter() - start)
    want = np.array([model.nodes["n10"].DZ[f"c{case}"] for case in range(positions)])
    worst = float(np.abs(found.displacements[6 * made.node("n10") + 2] - want).max() / np.abs(want).max())
    a, b = statistics.median(ours), statistics.median(theirs)
    print(
        f"frame engine, {elements} elements x {positions} positions: {a * 1e3:.1f} ms, general package {b * 1e3:.0f} "
        f"ms = {b / a:.0f} x faster, same within {worst:.1e}"
    )


def ratio_search() -> None:
    """Trains of up to four pairs, told by how many each search proves its answer against, beside the fixed work."""
    from math import comb

    from hazel_lantern.core.motion.ratios import trains

    for sizes, target, off, stages in (
        (range(12, 61), 47.3, 1e-3, 3),
        (range(12, 61), 300.0, 1e-5, 4),
        (range(12, 101), 3600.0, 1e-4, 4),
    ):
        times = []
        for _ in range(3):
            start = time.perf_counter()
            found = trains(sizes, target, off, stages, None, 3)
            times.append(time.perf_counter() - start)
        used = len(found.trains[0].drivers)
        many = sum(comb(len(sizes) + n - 1, n) ** 2 for n in range(1, used + 1))
        best = min(times)
        print(
            f"1 : {target:g} within {off:g} of {len(sizes)} gears: {used} pairs, {many:.2g} trains in {best:.3f} s, "
            f"{many / best:.2g} a second; the fixed piece of work takes {1e3 * pace():.1f} ms"
        )


def cold_start(rounds: int = 7) -> None:
    bare, ours = [], []
    env = {key: value for key, value in os.environ.items() if key != "PYTHONDONTWRITEBYTECODE"} | {
        "QT_QPA_PLATFORM": "offscreen"
    }
    # The first round only compiles and warms the disk.
    for _ in range(rounds + 1):
        for times, command in (
            (bare, ["-c", BARE]),
            (ours, ["-m", "hazel_lantern", "run", "--sample", "--quit-after-paint"]),
        ):
            start = time.perf_counter()
            subprocess.run([sys.executable, *command], env=env, check=True, capture_output=True)
            times.append(time.perf_counter() - start)
    a, b = statistics.median(bare[1:]), statistics.median(ours[1:])
    print(f"cold start: bare window with NumPy {a * 1e3:.0f} ms, first painted window {b * 1e3:.0f} ms = {b / a:.2f} ×")


if __name__ == "__main__":
    frame_engine()
    ratio_search()
    cold_start()
    drag()
    cold_start()
