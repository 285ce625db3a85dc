"""What must never happen, tried many times: work lost by a kill, damaged files that trouble anything, designs that
raise, actions that break the window. `./hazel bench --campaign [--seed N] [--share F] [NAME …]`.
"""

from __future__ import annotations

import argparse
import gc
import json
import os
import random
import signal
import sys
import tempfile
import time
import traceback
from collections.abc import Callable, Iterator
from pathlib import Path

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from bench import designs
from bench.damage import bytes_hurt, damaged
from hazel_lantern import assets
from hazel_lantern.cli.told import as_json
from hazel_lantern.core import catalogue
from hazel_lantern.core.case import check_owned
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.editing import changes, checking
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.finding import STOP
from hazel_lantern.core.workshop.solids import END
from hazel_lantern.files import packs, project_file
from hazel_lantern.session import recovery

SAMPLE = f"orchard-at-dusk{project_file.SUFFIX}"
SHELF = catalogue.load()
# One trial of a campaign: nothing where all is well, else what went wrong.
Trial = Callable[[int], str]


def sample() -> Project:
    return project_file.decode(assets.data("samples", SAMPLE), Path(SAMPLE))


def killed_while(work: Callable[[int], None], chance: random.Random) -> None:
    """A process that does a piece of work over and over, killed at some moment after the first."""
    read, told = os.pipe()
    child = os.fork()
    if child == 0:
        try:
            for n in range(100_000):
                work(n)
                if n == 0:
                    os.write(told, b".")
        finally:
            os._exit(1)
    os.read(read, 1)
    time.sleep(chance.uniform(0, 0.02))
    os.kill(child, signal.SIGKILL)
    os.waitpid(child, 0)
    os.close(read)
    os.close(told)


def front(n: int) -> Project:
    """The sample with something to tell one writing from the next."""
    return changes.set_values(sample(), "hive-jib", [("arm.front", 1.0 + n % 2000 / 1000)])


def kills_while_saving(folder: Path) -> Trial:
    path, writings = folder / "a.lantern.json", [front(n) for n in range(8)]

    def trial(seed: int) -> str:
        chance = random.Random(seed)
        killed_while(lambda n: void(project_file.write(writings[n % 8], path)), chance)
        for file in (path, path.with_name(path.name + "~")):
            if file.exists() and project_file.read(file) not in writings:
                return f"{file.name} is not what was written"
        project_file.write(writings[0], path)
        return ""

    return trial


def kills_while_journalling(folder: Path) -> Trial:
    os.environ["XDG_STATE_HOME"] = str(folder)
    writings = [front(n) for n in range(8)]

    def trial(seed: int) -> str:
        chance, journal = random.Random(seed), recovery.Journal()
        killed_while(lambda n: journal.keep(writings[n % 8], folder / "b.lantern.json", "1-2"), chance)
        left = recovery.left_over()
        if len(left) != 1 or left[0].project not in writings:
            return f"{len(left)} journals were left"
        recovery.forget(left[0])
        return ""

    return trial


def void(_: object) -> None:
    """Nothing of it is needed."""


def damaged_projects(_: Path) -> Trial:
    data = assets.data("samples", SAMPLE)

    def trial(seed: int) -> str:
        chance = random.Random(seed)
        try:
            project = project_file.decode(damaged(data, chance), Path("x"))
            check_owned(project, SHELF)
        except HazelError as error:
            return "" if len(str(error)) < 500 and "\n" not in str(error) else f"a long word: {str(error)[:100]}"
        if project_file.decode(project_file.encode(project), Path("y")) != project:
            return "is not read as it was written"
        if project.rigs:
            answered(project, chance.choice(project.rigs).id)
        return ""

    return trial


def damaged_packs(folder: Path) -> Trial:
    os.environ["XDG_DATA_HOME"] = str(folder)
    packs.folder().mkdir(parents=True, exist_ok=True)
    rows = {
        table: [
            json.loads(json.dumps({n: getattr(row, n) for n in row.__struct_fields__}, default=list))
            for row in list(getattr(SHELF, table).values())[:2]
        ]
        for table in catalogue.TABLES
    }
    csv = b"id,name,shape,dims.b,dims.h,dims.t,material,lengths,prices\n"
    csv += b"x,Tube,rectangular_tube,0.025,0.05,0.002,al6063,2.4;6,0;18.5\n"

    def trial(seed: int) -> str:
        chance = random.Random(seed)
        table = chance.choice(list(rows))
        good = json.dumps({"format": 1, "source": "x", "table": table, "rows": rows[table]}).encode()
        (packs.folder() / "a.json").write_bytes(damaged(good, chance))
        (packs.folder() / "sections-b.csv").write_bytes(bytes_hurt(csv, chance))
        shelf = packs.load()
        if any(getattr(shelf.catalogue, name).keys() < getattr(SHELF, name).keys() for name in catalogue.TABLES):
            return "a row of ours is gone"
        if seed % 10 == 0:
            project = sample()
            evaluate(project, shelf.catalogue, chance.choice(project.rigs).id)
        return ""

    return trial


def random_designs(_: Path) -> Trial:
    made, reaches = designs.constructions(), (designs.NEAR, designs.WITHIN, designs.AT_BOUNDS)

    def trial(seed: int) -> str:
        kind, variant = made[seed % len(made)]
        project = designs.design(SHELF, kind, variant, seed, reaches[seed // len(made) % 3])
        try:
            checking.check(project)
        except HazelError:
            return ""  # such as a kit of no mass: it could not be one
        return answered(project, project.rigs[0].id)

    return trial


def answered(project: Project, rig: str) -> str:
    """A rig worked out, drawn and told in JSON; marks beyond their part are stopped."""
    result = evaluate(project, SHELF, rig, suggest=True)
    json.dumps(as_json(result, result.findings))
    if result.model is None:
        return ""
    if not any(finding.key == "shot.inside" for finding in result.findings):
        for view, _ in result.views("rig"):
            result.draw(0.3, view)
    stopped = any(f.state == STOP and f.key.startswith(("build.", "rig.impossible")) for f in result.findings)
    for part in result.parts if not stopped else ():
        for mark in part.marks:
            across, half = part.spot(mark)[1], mark.size / 2 - 1e-9
            ends = (mark.at, mark.at if mark.until is None else mark.until)
            inside = (
                half <= across <= part.width(mark.face) - half and min(ends) >= half and max(ends) <= part.length - half
            )
            if mark.face != END and not inside:
                return f"{kind_of(project, rig)}: {part.name} is marked beyond itself, {mark.note}"
    return ""


def kind_of(project: Project, rig: str) -> str:
    return f"{project.rig(rig).kind}/{project.rig(rig).variant}"


def actions(folder: Path) -> Trial:
    """A trial is a hundred actions on a window of its own, in either look."""
    os.environ["XDG_CONFIG_HOME"] = os.environ["XDG_STATE_HOME"] = str(folder)
    from PyQt6.QtWidgets import QApplication

    from bench.acting import Stranger, quiet_dialogs
    from hazel_lantern.desktop.shell.window import Window
    from hazel_lantern.desktop.theme.theme import Theme, load_fonts
    from hazel_lantern.session.session import Session
    from hazel_lantern.session.settings import Settings

    app = QApplication.instance() or QApplication([])
    load_fonts()
    broke: list[str] = []
    sys.excepthook = lambda kind, error, trace: broke.append(
        "".join(traceback.format_exception(kind, error, trace))[-1500:]
    )

    def trial(seed: int) -> str:
        chance = random.Random(seed)
        quiet_dialogs(chance)
        theme = Theme(chance.choice(("dusk", "daylight")), 100)
        theme.apply(app)  # type: ignore[arg-type]
        window = Window(Session(sample(), SHELF), theme, Settings())
        window.show()
        window.show_station("rig")
        stranger = Stranger(window, chance)
        start = window.session.project
        for n in range(100):
            stranger.act()
            if n % 5 == 0:
                stranger.check()
            if broke:
                break
        opened = window.session.project
        while window.session.undo_words and not broke:
            window.session.undo()
        end = window.session.project
        window.session.open(start, None)
        app.processEvents()
        window.close()
        window.deleteLater()
        app.processEvents()
        if broke:
            said = f"after {stranger.done[-6:]}: {broke[0]}"
            broke.clear()
            return said
        return (
            ""
            if end == start or (opened is not start and "menu" in stranger.done)
            else "undoing it all did not lead back"
        )

    return trial


PLAYED = (
    ("rig", "hive-jib"),
    ("shot", "hive-jib"),
    ("balance", "hive-jib-cable"),
    ("travel", "jar-slider"),
    ("shot", "kitchen-gantry"),
)
GROWTH = 4.0  # megabytes a thousand frames may leave behind at most; an hour is ninety thousand
LEAVE = 0.5  # seconds


def play_and_leave(folder: Path) -> Trial:
    """A trial plays a thousand frames at a station, then leaves with every search going."""
    os.environ["XDG_CONFIG_HOME"] = os.environ["XDG_STATE_HOME"] = str(folder)
    from PyQt6.QtWidgets import QApplication

    from hazel_lantern.desktop.shell.window import Window
    from hazel_lantern.desktop.theme.theme import Theme, load_fonts
    from hazel_lantern.session.session import Session
    from hazel_lantern.session.settings import Settings

    app = QApplication.instance() or QApplication([])
    load_fonts()
    theme = Theme("dusk", 100)
    theme.apply(app)  # type: ignore[arg-type]

    def trial(seed: int) -> str:
        station, rig = PLAYED[seed % len(PLAYED)]
        window = Window(Session(sample(), SHELF), theme, Settings())
        window.show()
        window.session.switch(rig)
        app.processEvents()
        window.show_station(station)

        def play(frames: int) -> None:
            for n in range(frames):
                window.strip.go(n * 7 % 1009 / 1009)
                app.processEvents()

        play(400)
        before = memory()
        play(1000)
        grown = memory() - before
        window.show_ways()
        if window.session.rig_id:
            window.session.search_cuts()
        started = time.perf_counter()
        window.close()
        took = time.perf_counter() - started
        window.deleteLater()
        app.processEvents()
        if grown > GROWTH:
            return f"{station}, {rig}: {grown:.1f} MB grown"
        return f"{station}, {rig}: {took:.2f} s to leave" if took > LEAVE else ""

    return trial


def memory() -> float:
    """What this process holds [MB]."""
    gc.collect()
    return int(Path("/proc/self/statm").read_text().split()[1]) * os.sysconf("SC_PAGE_SIZE") / 1e6


CAMPAIGNS: dict[str, tuple[Callable[[Path], Trial], int, str]] = {
    "saving": (kills_while_saving, 500, "kills while saving"),
    "journal": (kills_while_journalling, 500, "kills while journalling"),
    "projects": (damaged_projects, 6000, "damaged projects"),
    "packs": (damaged_packs, 4000, "damaged packs and tables"),
    "designs": (random_designs, 4000, "random designs, near, within and at bounds"),
    "actions": (actions, 200, "times a hundred random actions on the real window"),
    "play": (play_and_leave, 5, "times a thousand frames played, then left with searches going"),
}


def run(name: str, first: int, count: int) -> Iterator[tuple[int, str]]:
    """The seeds that failed, and how."""
    with tempfile.TemporaryDirectory() as folder:
        trial = CAMPAIGNS[name][0](Path(folder))
        for seed in range(first, first + count):
            try:
                said = trial(seed)
            except Exception:  # noqa: BLE001  whatever it is, it is what the campaign looks for
                said = traceback.format_exc()[-1500:]
            if said:
                yield seed, said


def main() -> int:
    words = argparse.ArgumentParser(prog="./hazel bench --campaign")
    words.add_argument("names", nargs="*", help="of " + ", ".join(CAMPAIGNS))
    words.add_argument("--campaign", action="store_true")
    words.add_argument("--seed", type=int, default=1, help="the first seed; a failure names its own")
    words.add_argument("--share", type=float, default=1.0, help="of the full size")
    args = words.parse_args()
    lost = 0
    for name in args.names or CAMPAIGNS:
        _, full, told = CAMPAIGNS[name]
        count, start = max(1, round(full * args.share)), time.monotonic()
        failed = list(run(name, args.seed, count))
        print(
            f"{count:6} {told}: {len(failed)} failed (seeds {args.seed} to {args.seed + count - 1}, "
            f"{time.monotonic() - start:.0f} s)",
            flush=True,
        )
        for seed, said in failed[:5]:
            print(f"   seed {seed}: {said}", flush=True)
        lost += len(failed)
    return 1 if lost else 0


if __name__ == "__main__":
    sys.exit(main())
