"""The document at hand: undo, gestures, jobs, recovery after a kill."""

from __future__ import annotations

import itertools
import os
import signal
import subprocess
import sys
import threading

import msgspec
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.files import project_file
from hazel_lantern.files.errors import ChangedError
from hazel_lantern.session import recovery
from hazel_lantern.session import settings as preferences
from hazel_lantern.session.jobs import Job
from hazel_lantern.session.session import Session
from tests.helpers import SHELF, sample


@pytest.fixture
def session(qapp):
    made = Session(sample(), SHELF)
    yield made
    made.close()


def test_undo_walks_back_to_the_start_and_redo_to_the_end(session):
    start = session.project
    session.set("arm.front", 1.9)
    session.set("weights.hung", ("p1",))
    session.set("shot.end", 2.6)
    session.set("kit", "pocket")
    end = session.project
    assert session.undo_words == "Camera kit to Pocket camera"
    for _ in range(4):
        session.undo()
    assert session.project is start
    assert not session.dirty
    assert session.redo_words == "Front arm to 1900 mm"
    for _ in range(4):
        session.redo()
    assert session.project == end
    session.undo()
    session.set("arm.front", 2.0)
    assert session.redo_words == ""


def test_a_drag_is_one_step_and_an_abandoned_one_none(session):
    start = session.project
    drag = session.new_gesture()
    for length in (1.76, 1.8, 1.85):
        session.set("arm.front", length, drag)
    session.undo()
    assert session.project is start
    session.redo()
    other = session.new_gesture()
    session.set("arm.front", 2.2, other)
    session.abandon(other)
    assert session.value("arm.front") == 1.85
    assert session.undo_words == "Front arm to 1850 mm"


def test_a_refused_value_changes_nothing(session):
    start = session.project
    with pytest.raises(InputError):
        session.set("arm.front", 99.0)
    assert session.project is start
    assert session.undo_words == ""


def test_a_preview_shows_but_does_not_change(session):
    before = session.evaluation.figures["rig.reach"].value
    session.preview([("arm.front", 2.5)])
    assert session.evaluation.figures["rig.reach"].value > before + 0.7
    assert session.project.rigs[0].design["arm.front"] == 1.75
    session.preview(None)
    assert session.evaluation.figures["rig.reach"].value == before


def test_remedies_arrive_after_they_were_tried_and_hold(qtbot, session):
    with qtbot.waitSignal(session.remedies_ready, timeout=20000):
        session.set("arm.front", 1.8)
    wrong = next(f for f in session.findings() if f.remedies)
    session.apply("try", wrong.remedies[0].changes)
    assert next((f.state for f in session.findings() if f.key == wrong.key), "clear") != wrong.state


def test_only_the_newest_answer_arrives_and_errors_are_told(qtbot):
    job, gate, answers, steps, reached = Job(), threading.Event(), [], [], []
    job.done.connect(answers.append)
    job.stepped.connect(lambda step: steps.append((step.done, step.total)))

    def old():
        yield Progress(1, 3)
        gate.wait(10)
        yield Progress(2, 3, "old")
        reached.append("the end of what nobody wants any more")
        yield Progress(3, 3, "older")

    job.start(old)
    qtbot.waitUntil(lambda: steps == [(1, 3)], timeout=10000)
    assert job.running
    job.start(lambda: iter((Progress(1, 2, "early"), Progress(2, 2, "new"))))
    gate.set()
    qtbot.waitUntil(lambda: answers == ["new"], timeout=10000)
    assert steps == [(1, 3), (1, 2), (2, 2)]
    assert not reached
    assert not job.running
    job.finish()

    def wrong():
        yield Progress(1, 2)
        raise ZeroDivisionError

    with qtbot.waitSignal(job.failed, timeout=10000) as caught:
        job.start(wrong)
    assert isinstance(caught.args[0], ZeroDivisionError)
    assert answers == ["new"]
    job.finish()


def test_exact_cuts_are_searched_once_for_what_they_depend_on_whatever_is_previewed_meanwhile(qtbot, session):
    quick = session.evaluation
    with qtbot.waitSignal(session.cuts.found, timeout=60000):
        session.search_cuts()
        # A preview while the search goes on, of a rig with other parts: what is found belongs to what was ordered.
        session.preview([("arm.front", 1.2)])
        assert session.evaluation.order != quick.order
        assert session.evaluation.cuts[0].marks(session.evaluation.parts)
    assert session.evaluation.cuts[0].marks(session.evaluation.parts)
    session.preview(None)
    found = session.evaluation
    assert all(made.plan.status == "optimal" for made in found.cuts)
    assert sum(made.plan.cost for made in found.cuts) <= sum(made.plan.cost for made in quick.cuts)
    assert next(f for f in session.findings() if f.key == "build.cuts").state == "clear"
    # Whatever a plan depends on, another is searched; back again, the old one is known at once.
    start = session.project
    for other in (msgspec.structs.replace(start, kerf_m=0.004), msgspec.structs.replace(start, stock=())):
        session.change("other stock", other)
        assert session.evaluation.order not in session.cuts.known
        session.undo()
        assert session.evaluation.cuts == found.cuts
        session.search_cuts()
        assert session.cuts.searching is None


def test_looking_at_another_shot_edits_nothing_and_serving_one_does(session):
    start, told = session.project, []
    session.changed.connect(told.append)
    session.look("jars")
    assert session.undo_words == "Serve Past the jars"
    assert session.project.rig("hive-jib").shots == ("hives", "jars")
    assert session.value("shot.move") == "slide"
    serving = session.project
    session.look("hives")
    assert session.project is serving
    assert told[-1].what == {"look"}
    assert session.evaluation.shot.id == "hives"
    session.look("jars")
    session.set("shot.time", 21.0)
    assert [shot.duration_s for shot in session.project.shots[:2]] == [8.0, 21.0]
    assert told[-1].what == {"shots"}
    for _ in range(3):
        session.undo()
    assert session.project is start
    assert session.shot_id == "hives"


WORK = """
import os, sys
from PyQt6.QtCore import QCoreApplication
from hazel_lantern.session.session import Session
from tests.helpers import SHELF, sample
app = QCoreApplication([])
session = Session(sample(), SHELF)
session.set("arm.front", 2.1)
session.write_journal()
print("kept", flush=True)
sys.stdin.read()
"""


def test_unsaved_work_survives_a_kill(tmp_path):
    child = subprocess.Popen(
        [sys.executable, "-c", WORK],
        stdin=subprocess.PIPE,
        stdout=subprocess.PIPE,
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
    )
    assert child.stdout.readline() == b"kept\n"
    assert recovery.left_over() == []
    child.send_signal(signal.SIGKILL)
    child.wait()
    child.stdin.close()
    child.stdout.close()
    [left] = recovery.left_over()
    assert left.file is None
    assert left.project.rigs[0].design["arm.front"] == 2.1
    left.journal.write_bytes(b"{ broken")
    # Whatever else lies there troubles no start.
    folder = recovery.folder()
    (folder / "a.json").mkdir()
    os.mkfifo(folder / "b.json")
    (folder / "c.lock").write_bytes(b"")
    assert recovery.left_over() == []
    assert left.journal.with_suffix(".bad").exists()
    assert not (folder / "c.lock").exists()


def test_who_edits_without_a_pause_is_kept_within_two_seconds_and_undoing_it_all_leaves_nothing(session, qtbot):
    edits = itertools.count()

    def kept_while_editing():
        session.set("arm.front", 1.5 + next(edits) / 1000)
        return session.journal.path.exists()

    qtbot.waitUntil(kept_while_editing, timeout=2000)
    assert next(edits) > 20
    while session.undo_words:
        session.undo()
    qtbot.waitUntil(lambda: not session.journal.path.exists(), timeout=3000)


def test_a_full_disk_is_told_once_and_the_work_goes_on(session, monkeypatch):
    said = []
    session.trouble.connect(said.append)
    monkeypatch.setattr(recovery.atomic.os, "fsync", lambda handle: (_ for _ in ()).throw(OSError(28, "No space left")))
    for k in range(3):
        session.set("arm.front", 1.6 + k / 10)
        session.write_journal()
    assert len(said) == 1
    assert "No space left" in said[0]
    monkeypatch.undo()
    session.write_journal()
    assert session.journal.path.exists()


def test_a_file_changed_by_another_is_not_written_over_unasked(session, tmp_path):
    path = tmp_path / "a.lantern.json"
    session.save(path)
    project, mark = project_file.opened(path)
    other = Session(project, SHELF, path, mark=mark)
    session.set("arm.front", 2.0)
    session.save(path)
    other.set("arm.rear", 0.7)
    with pytest.raises(ChangedError, match="changed by somebody else"):
        other.save(path)
    assert project_file.read(path) == session.project
    other.save(path, over=True)
    assert project_file.read(path) == other.project
    path.unlink()
    session.save(path)  # one that is gone is in nobody's way
    other.close()


def test_saving_clears_the_journal_and_what_is_saved_is_not_dirty(session, tmp_path):
    session.set("arm.front", 2.0)
    session.write_journal()
    assert session.journal.path.exists()
    session.save(tmp_path / "a.lantern.json")
    assert not session.journal.path.exists()
    assert not session.dirty
    session.undo()
    assert session.dirty


def test_preferences_are_kept_and_damaged_ones_do_no_harm(tmp_path):
    kept = preferences.Settings(theme="daylight", text_scale=130)
    preferences.opened(kept, tmp_path / "a")
    preferences.opened(kept, tmp_path / "b")
    preferences.opened(kept, tmp_path / "a")
    preferences.save(kept)
    assert preferences.load() == kept
    assert [os.path.basename(p) for p in kept.recent] == ["a", "b"]
    (preferences.folder() / "settings.json").write_text("{")
    assert preferences.load() == preferences.Settings()


moves = st.lists(
    st.tuples(
        st.sampled_from(["arm.front", "pivot.height", "weights.place", "shot.end", "undo", "redo", "drag"]),
        st.floats(0.35, 2.5),
    ),
    max_size=12,
)


@settings(max_examples=15)
@given(moves)
def test_whatever_is_done_can_be_undone(moves):
    session = Session(sample(), SHELF)
    start = session.project
    for what, number in moves:
        if what == "undo":
            session.undo()
        elif what == "redo":
            session.redo()
        elif what == "drag":
            drag = session.new_gesture()
            session.set("arm.rear", number, drag)
            session.set("arm.rear", number / 2 + 0.1, drag)
        else:
            session.set(what, number)
        assert msgspec.json.decode(msgspec.json.encode(session.project))
    for _ in range(len(moves) + 1):
        session.undo()
    assert session.project == start
    session.close()


def test_a_document_without_mass_or_with_broken_references_never_becomes_the_one_at_hand(session):
    start, shown = session.project, session.evaluation
    for index in range(5):
        session.set(f"kit.{index}.mass", 0.0)
    with pytest.raises(InputError, match="carries something"):
        session.set("kit.5.mass", 0.0)
    assert session.value("kit.5.mass") == 0.24
    for _ in range(5):
        session.undo()
    hurt = msgspec.structs.replace(start, plates=(msgspec.structs.replace(start.plates[0], plate="moon"),))
    with pytest.raises(InputError, match="moon"):
        session.open(hurt, None)
    assert session.project is start
    assert session.evaluation.figures.keys() == shown.figures.keys()
