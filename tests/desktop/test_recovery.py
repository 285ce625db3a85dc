"""Work that a killed window left behind, and an error nobody expected: the real dialogs, answered by their buttons."""

from __future__ import annotations

import subprocess
import sys

import pytest
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication, QFileDialog, QMessageBox

from hazel_lantern.desktop import application
from hazel_lantern.files import packs, project_file
from hazel_lantern.session import recovery
from tests.helpers import changed, sample

# A window that dies with its work in the journal: another process, so that it is really gone.
DIES = """
from pathlib import Path
from hazel_lantern.session.recovery import Journal
from tests.helpers import changed
Journal().keep(changed(arm__front=2.05), Path("kept.lantern.json"))
"""


@pytest.fixture
def left(monkeypatch):
    subprocess.run([sys.executable, "-c", DIES], check=True)
    (journal,) = recovery.folder().glob("*.json")
    return journal


def answer(words, seen):
    """Press a button of the dialog that is about to come up, once it has the floor."""

    def press():
        box = QApplication.activeModalWidget()
        assert isinstance(box, QMessageBox)
        seen.append((box.text(), box.detailedText()))
        next(button for button in box.buttons() if button.text().replace("&", "") == words).click()

    QTimer.singleShot(0, press)


def test_work_left_behind_is_offered_until_it_is_opened_or_thrown_away(make, left):
    window, seen = make(), []
    answer("Later", seen)
    application._recover(window)
    assert left.exists()
    assert window.session.project == sample()
    answer("Open it", seen)
    application._recover(window)
    assert window.session.project.rigs[0].design["arm.front"] == 2.05
    assert window.session.path.name == "kept.lantern.json"
    assert window.session.dirty
    assert not left.exists()
    # Kept anew before the old one went: a second kill loses nothing.
    assert window.session.journal.path.exists()
    assert [text for text, _ in seen] == ["“Orchard at Dusk” was not saved when the window closed. Open it?"] * 2
    # Nothing is left to ask about.
    application._recover(window)


def test_work_thrown_away_is_gone_and_a_damaged_journal_is_set_aside_unasked(window, left):
    spoilt = left.with_name("7.json")
    spoilt.write_bytes(left.read_bytes()[:-40])
    answer("Throw it away", [])
    application._recover(window)
    assert not left.exists()
    assert spoilt.with_suffix(".bad").exists()
    assert window.session.project == sample()


def test_an_unexpected_error_is_told_once_with_its_details_and_the_work_is_kept(window):
    seen, hook = [], application._catch(window)
    window.session.set("arm.front", 1.9)
    answer("OK", seen)
    try:
        1 / window.session.project.rigs[0].design["bar.longer"]
    except ZeroDivisionError as error:
        hook(type(error), error, error.__traceback__)
    ((text, details),) = seen
    assert "Your work is kept" in text
    assert "ZeroDivisionError" in details
    assert "bar.longer" in details
    kept = recovery.msgspec.json.decode(window.session.journal.path.read_bytes(), type=recovery.Entry)
    assert b'"arm.front":1.9' in bytes(kept.project).replace(b" ", b"")
    # The window goes on.
    window.show_station("balance")
    assert window.session.value("arm.front") == 1.9


def test_a_file_changed_outside_is_kept_until_told_otherwise(make, tmp_path, monkeypatch):
    window, path, apart = make(), tmp_path / "a.lantern.json", tmp_path / "b.lantern.json"
    window.session.save(path)
    window.session.set("arm.front", 1.9)
    project_file.write(changed(arm__front=1.6), path)
    seen = []
    answer("Stay", seen)
    window.files.save()
    assert "changed by another" in seen[0][0]
    assert project_file.read(path) == changed(arm__front=1.6)
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(apart), ""))
    answer("Save as…", seen)
    assert window.files.save()
    assert project_file.read(apart).rigs[0].design["arm.front"] == 1.9
    assert window.session.path == apart
    window.session.open(window.session.project, path, mark="another", saved=False)
    answer("Write over it", seen)
    assert window.files.save()
    assert project_file.read(path).rigs[0].design["arm.front"] == 1.9


# A whole start, in a process of its own; the dialog and the foot of the window say what they would.
STARTS = """
import sys
from PyQt6.QtWidgets import QMessageBox
from hazel_lantern.arguments import run_parser
from hazel_lantern.desktop import application
from hazel_lantern.desktop.shell.window import Window
QMessageBox.exec = lambda box: print("dialog:", box.text())
Window.tell = lambda window, words: print("foot:", words)
sys.exit(application.run(run_parser().parse_args(sys.argv[1:])))
"""


def start(*args):
    return subprocess.run(
        [sys.executable, "-c", STARTS, *args], capture_output=True, text=True, check=False, timeout=60
    )


def test_a_start_that_fails_says_why_in_a_dialog_and_packs_left_out_at_the_foot(tmp_path):
    path = tmp_path / "hurt.lantern.json"
    path.write_bytes(b"{ broken")
    done = start(str(path))
    assert done.returncode == 2
    assert "dialog: hurt.lantern.json" in done.stdout
    packs.folder().mkdir(parents=True)
    (packs.folder() / "mine.json").write_text("{")
    done = start("--sample", "--quit-after-paint")
    assert done.returncode == 0
    assert "foot: mine.json is left out" in done.stdout
