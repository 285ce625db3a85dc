"""Build in a real window: the order of work ticked, stock read and tried, a mishap judged, a note put down."""

from __future__ import annotations

import re
from datetime import date, datetime

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QComboBox, QLineEdit, QPushButton, QTableView

from hazel_lantern.core.advice.making import agenda, ticked
from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.workshop.mishap import cut_to, hole_off
from hazel_lantern.core.workshop.schedule import network
from hazel_lantern.core.workshop.work import without
from hazel_lantern.files import project_file, stock_csv
from hazel_lantern.files.errors import FileError
from hazel_lantern.files.exports import export
from tests.helpers import SHELF, sample, turn

LEFT = Qt.MouseButton.LeftButton
RIGS = [rig.id for rig in sample().rigs]


def made_of(rig, project=None, day=date(2027, 4, 8)):
    project = project or sample()
    from hazel_lantern.core.nouns.units import Display

    return agenda(project, evaluate(project, SHELF, rig), Display(project.units), day)


@pytest.mark.parametrize("rig", RIGS)
def test_every_order_of_work_can_be_done_and_puts_every_fastening_in_when_its_pieces_are_there(rig):
    made, result = made_of(rig), evaluate(sample(), SHELF, rig)
    at = {step.key: n for n, step in enumerate(made.steps)}
    assert len(at) == len(made.steps) and network([step.task for step in made.steps]).total > 0
    for step in made.steps:
        assert all(at[key] < at[step.key] for key in step.after), step.key
    ready = {
        mark: max(at[s.key] for s in made.steps if mark in s.parts) for mark in (p.mark for p in result.laid.parts)
    }
    used = {mark.fastening: set() for part in result.laid.parts for mark in part.marks if mark.fastening}
    for part in result.laid.parts:
        for mark in part.marks:
            if mark.fastening:
                used[mark.fastening].add(part.mark)
    put_in = {key: at[step.key] for step in made.steps for key in step.puts_in}
    listed = {one.key for one in result.laid.fastenings}
    for key, marks in used.items():
        if key in listed:
            assert put_in[key] > max(ready[mark] for mark in marks), key
    # Everything is loose, runs, and is tight, in that order; the proof comes last of all.
    keys = [step.key for step in made.steps]
    assert keys.index("join") < keys.index("run") < min(keys.index(k) for k in keys if k.startswith("tight."))
    assert keys[-1] == "proof" and made.steps[-1].hold and made.ready is not None


def test_ticks_shorten_what_is_left_and_are_kept_in_the_file(tmp_path):
    project = sample()
    made = made_of("hive-jib", project)
    first = made.open_now[0]
    done = ticked(project, "hive-jib", first.key, "2027-04-08")
    after = made_of("hive-jib", done)
    assert after.left == pytest.approx(made.left - first.work) and first.key in after.done
    project_file.write(done, tmp_path / "p.json")
    assert project_file.read(tmp_path / "p.json").rig("hive-jib").done == {first.key: "2027-04-08"}
    assert made_of("hive-jib", ticked(done, "hive-jib", first.key, "")).left == pytest.approx(made.left)
    with pytest.raises(InputError, match="a date such as"):
        ticked(project, "hive-jib", first.key, "tomorrow")
    lazy = changes.set_values(project, "hive-jib", [(f"hours.{n}", 0.0) for n in range(7)])
    assert "no day" in made_of("hive-jib", lazy).trouble
    assert made.tonight[0].work <= 0.5 and "guide block" in without(made.steps, "drill press")[0][1]


def test_the_calendar_is_read_back_by_another_reader(tmp_path):
    path = tmp_path / "c.ics"
    export(sample(), SHELF, "hive-jib", "calendar", path)
    raw = path.read_bytes()
    assert all(len(line) <= 75 for line in raw.split(b"\r\n"))
    text = raw.decode().replace("\r\n ", "")
    events = re.findall(r"BEGIN:VEVENT\r\n(.*?)END:VEVENT", text, re.S)
    rows = [dict(line.split(":", 1) for line in event.strip().split("\r\n")) for event in events]
    made = made_of("hive-jib", day=date.today())
    words = {row["SUMMARY"].replace("\\,", ",").replace("\\;", ";"): row for row in rows}
    assert len(rows) == len(made.steps) and len({row["UID"] for row in rows}) == len(rows)
    for step in made.steps:
        slot, row = made.slots[step.key], words[step.words]
        if sum(one.words == step.words for one in made.steps) == 1:
            assert datetime.strptime(row["DTSTART"], "%Y%m%dT%H%M%S") == slot.start.replace(microsecond=0)
            assert datetime.strptime(row["DTEND"], "%Y%m%dT%H%M%S") == slot.worked.replace(microsecond=0)
    export(sample(), SHELF, "hive-jib", "share", tmp_path / "s.md")
    shared = (tmp_path / "s.md").read_text("utf-8")
    assert (
        shared.startswith("# Hive jib\n")
        and "| A1 | Arm |" in shared
        and "## Tested" in shared
        and "certifies nothing" in shared
    )
    export(sample(), SHELF, "hive-jib", "tests", tmp_path / "t.pdf")
    export(sample(), SHELF, "hive-jib", "tests-csv", tmp_path / "t.csv")
    written = (tmp_path / "t.csv").read_text("utf-8-sig").splitlines()
    assert len(written) == 1 + sum(len(row.readings) for row in sample().rig("hive-jib").proofs)
    assert (tmp_path / "t.pdf").read_bytes().startswith(b"%PDF")
    for to in ("work", "set-up"):
        export(sample(), SHELF, "lane-dolly", to, tmp_path / f"{to}.pdf")
        assert (tmp_path / f"{to}.pdf").read_bytes().startswith(b"%PDF")


def test_a_damaged_table_of_stock_names_line_and_column_and_offers_the_good_rows(tmp_path):
    path = tmp_path / "stock.csv"
    path.write_text(
        "section,length mm,count,note\nal6063-20x20x1.5,640,2,straight\nnone-such,1,1\n"
        "al6063-20x20x1.5,long,1\nal6063-20x20x1.5,500,-1\n\n",
        encoding="utf-8",
    )
    found, wrong = stock_csv.read(path, SHELF)
    assert [(one.length_m, one.count, one.note) for one in found] == [(0.64, 2, "straight")]
    assert [words.split(":")[0] for words in wrong] == ["line 3, section", "line 4, length mm", "line 5, count"]
    path.write_bytes(b"\xff\xfe\x00")
    with pytest.raises(FileError, match="not text"):
        stock_csv.read(path, SHELF)
    path.write_text("a,b\n1,2\n", encoding="utf-8")
    with pytest.raises(FileError, match="first line must be"):
        stock_csv.read(path, SHELF)
    path.write_bytes(stock_csv.write(sample()))
    assert stock_csv.read(path, SHELF) == (sample().stock, ())


def test_a_piece_that_came_out_wrong_is_judged_by_what_it_is_kept_to():
    from hazel_lantern.core.nouns.units import Display

    parts, show = evaluate(sample(), SHELF, "hive-jib").parts, Display()
    cheek = next(part for part in parts if part.name == "Post cheek")
    assert not cut_to(parts, cheek.mark, cheek.length - 0.0002, show).matters
    short = cut_to(parts, cheek.mark, cheek.length - 0.003, show)
    assert short.matters and "Cut all 2 of them" in " ".join(short.saves)
    assert "Saw 3 mm off" in cut_to(parts, cheek.mark, cheek.length + 0.003, show).saves[0]
    upright = next(part for part in parts if part.name == "Head upright")
    # Its last hole would stand at the very end: it is not kept.
    gone = cut_to(parts, upright.mark, max(mark.at for mark in upright.marks) + 0.002, show)
    assert not any(words.startswith("Keep it") for words in gone.saves)
    assert not hole_off(parts, cheek.mark, 1, 0.0002, show).matters
    assert "dowel" in " ".join(hole_off(parts, cheek.mark, 1, 0.004, show).saves)
    with pytest.raises(InputError, match="must be one of"):
        cut_to(parts, "Q9", 1.0, show)


def test_steps_are_ticked_stock_is_read_and_a_mishap_told_in_the_window(make, tmp_path, qtbot):
    window = make(station="build")

    def press(name):
        QTest.mouseClick(window.findChild(QPushButton, name), LEFT)

    press("sheet.1")
    steps = window.page.steps
    # What a hold point stands before cannot be ticked, and is told.
    later = next(
        n for n in range(steps._list.count()) if steps._list.item(n).data(Qt.ItemDataRole.UserRole) == "pivots"
    )
    steps._list.item(later).setCheckState(Qt.CheckState.Checked)
    assert "checked before this" in window.message.text() and not window.session.document.rig("hive-jib").done
    steps._list.setCurrentRow(0)
    steps._list.setFocus()
    QTest.keyClick(steps._list, Qt.Key.Key_Space)
    assert len(window.session.document.rig("hive-jib").done) == 1
    window.session.undo()
    assert not window.session.document.rig("hive-jib").done
    press("sheet.2")
    path = tmp_path / "s.csv"
    path.write_text("section,length mm,count\nal6063-25x25x2,1200,1\nx,1,1\n", encoding="utf-8")
    window.page.stock.read(path)
    assert "1 row read; left out: line 3" in window.message.text()
    assert any(one.section == "al6063-25x25x2" for one in window.session.document.stock)
    press("stock.try")
    answers = window.page.stock.findChildren(QPushButton, "stock.answer")
    assert answers and all(" in place of " in answer.text() for answer in answers)
    before = window.session.document.rig("hive-jib").design
    QTest.mouseClick(answers[0], LEFT)
    assert window.session.document.rig("hive-jib").design != before
    press("sheet.3")
    field = window.findChild(QLineEdit, "edit.mishap.length")
    field.selectAll()
    QTest.keyClicks(field, "100 mm")
    press("mishap.judge")
    assert window.page.log.answer.text().startswith("It matters.")
    holes = window.findChild(QComboBox, "mishap.hole")
    part = next(one for one in window.session.evaluation.parts if one.mark == window.page.log._part.currentData())
    assert holes.count() == sum(bool(mark.size) for mark in part.marks) > 0
    off = window.findChild(QLineEdit, "edit.mishap.off")
    for typed, said in (("0.05 mm", "It does not matter."), ("4 mm", "It matters.")):
        off.selectAll()
        QTest.keyClicks(off, typed)
        press("mishap.judge_hole")
        assert window.page.log.answer.text().startswith(said), typed
    QTest.keyClicks(window.findChild(QLineEdit, "log.text"), "Knots kept away from the holes")
    press("log.add")
    assert window.session.document.log[-1].text == "Knots kept away from the holes"
    press("log.add")
    assert "a few words" in window.message.text()


def test_a_shoot_is_listed_when_it_is_looked_at_and_says_when_it_is_old(make, qtbot):
    window = make(station="build")
    session = window.session
    QTest.mouseClick(window.findChild(QPushButton, "sheet.4"), LEFT)
    view = window.page.shoot
    qtbot.waitUntil(lambda: not view.job.running, timeout=60_000)
    table = view.findChild(QTableView, "shoot.rigs")
    rigs = session.document.rigs
    assert [table.model().index(n, 0).data() for n in range(table.model().rowCount())] == [rig.name for rig in rigs]
    assert view.findChild(QTableView, "shoot.shared").model().rowCount() > 5
    before = view.found
    session.set("carry.lift_kg", 6.0)
    assert "before the last change" in view._title.text() and view.found is before
    QTest.mouseClick(window.findChild(QPushButton, "shoot.go"), LEFT)
    qtbot.waitUntil(lambda: not view.job.running, timeout=60_000)
    assert len(view.found.rows[0].loads) > len(before.rows[0].loads)
    row = table.visualRect(table.model().index(2, 0)).center()
    QTest.mouseClick(table.viewport(), LEFT, pos=row)
    QTest.mouseDClick(table.viewport(), LEFT, pos=row)
    assert session.rig_id == rigs[2].id
    view.finish()


def test_a_shoot_in_large_letters_keeps_its_names_and_tells_the_rest_in_tips(make, qtbot):
    window = make(station="build", scale=175)
    QTest.mouseClick(window.findChild(QPushButton, "sheet.4"), LEFT)
    view = window.page.shoot
    qtbot.waitUntil(lambda: not view.job.running, timeout=60_000)
    turn()
    table = view.findChild(QTableView, "shoot.rigs")
    assert table.columnWidth(0) > 150 and not table.isColumnHidden(1) and table.isColumnHidden(5)
    tip = table.model().index(0, 0).data(Qt.ItemDataRole.ToolTipRole)
    row = view.found.rows[0]
    assert f"{len(row.loads)} loads" in tip and "1 person" in tip
    window.resize(1920, 1080)
    qtbot.waitUntil(lambda: not table.isColumnHidden(5))
    chips = [window.findChild(QPushButton, f"sheet.{n}") for n in range(5)]
    for chip in chips:
        assert chip.width() >= chip.sizeHint().width(), chip.text()
    view.finish()
