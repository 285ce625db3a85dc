"""Verdicts always in sight, things found and chosen by what they are,
and what comes into and goes out of the window."""

from __future__ import annotations

import os
import re
import subprocess
import sys
from pathlib import Path

import pytest
from PyQt6.QtCore import QEvent, QMimeData, QModelIndex, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QDragEnterEvent, QDropEvent, QGuiApplication, QTextDocument
from PyQt6.QtPrintSupport import QPrinter
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QTextBrowser

from hazel_lantern.core.editing import changes
from hazel_lantern.core.editing.starting import furnished
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.stations import STATIONS
from hazel_lantern.desktop.shell.drawer import FindingRow
from hazel_lantern.desktop.shell.printing import print_pages
from hazel_lantern.desktop.shell.reference import cited, holds, sections
from hazel_lantern.desktop.stage.verdicts import StopMark
from hazel_lantern.desktop.widgets.found import Found
from hazel_lantern.desktop.widgets.shelf import Entry, Shelf
from hazel_lantern.files import project_file
from hazel_lantern.files.exports import export
from tests.desktop.test_window import named
from tests.helpers import SHELF, changed, sample, turn

ROOT = Path(__file__).parents[2]


def test_the_drawer_shows_the_worst_opens_in_place_and_leads_to_the_whole_rig(make):
    window = make(station="balance")
    drawer, findings = window.drawer, window.session.findings()
    here = [f for f in findings if f.station == "balance" and f.state != "clear"]
    assert drawer.card.finding.key == here[0].key
    rows = [row for row in drawer.findChildren(FindingRow) if row.isVisibleTo(drawer)]
    assert [row.finding.key for row in rows] == [f.key for f in here[1:]]
    assert drawer.height() <= 0.46 * drawer.parentWidget().height()
    QTest.mouseClick(rows[0], Qt.MouseButton.LeftButton)
    assert drawer.card.finding.key == here[1].key
    QTest.mouseClick(named(window, "clear-line"), Qt.MouseButton.LeftButton)
    clear = sum(f.station == "balance" and f.state == "clear" for f in findings)
    rows = [row for row in drawer.findChildren(FindingRow) if row.isVisibleTo(drawer)]
    assert sum(row.finding.state == "clear" for row in rows) == clear
    # From another station the counts lead to the worst of all, and its card to where it is set.
    window.show_station("shot")
    QTest.mouseClick(named(window, "counts"), Qt.MouseButton.LeftButton)
    assert drawer.card.finding.key == findings[0].key
    drawer.card.where_clicked.emit(findings[0].where)
    turn()
    assert window.station == window.session.parameters()[findings[0].where].station
    drawer.card.setFocus()
    QTest.keyClick(drawer.card, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    assert findings[0].title in QGuiApplication.clipboard().text()


def test_a_stop_is_marked_where_it_is_set_and_its_mark_lays_it_open(make):
    window = make(station="balance")
    stops = [f for f in window.session.findings() if f.state == "stop" and f.station == "balance"]
    marks = [mark for mark in window.stage.findChildren(StopMark) if mark.isVisible()]
    assert [mark.key for mark in marks] == [f.key for f in stops]
    boxes = window.stage.label_boxes()
    assert not any(box.toRect().intersects(marks[0].geometry()) for box in boxes)
    window.show_station("rig")
    window.show_station("balance")
    QTest.mouseClick(marks[0], Qt.MouseButton.LeftButton)
    assert window.drawer.card.finding.key == stops[0].key


def test_find_says_what_each_row_is_where_it_stands_and_leads_there(make):
    window = make(station="shot")
    rows = {row.words: row for row in window.guide.finds()}
    assert rows["Front arm"] == Found("Front arm", "input", "Rig", "1750 mm", "input:arm.front")
    assert rows["Footing"].station == "Balance"
    window.top.finder.setFocus()
    QTest.keyClicks(window.top.finder, "front ar")
    window.top._completer.activated[QModelIndex].emit(window.top._completer.completionModel().index(0, 0))
    turn()
    assert window.station == "rig"
    finding = window.session.findings()[0]
    window.guide.take(f"finding:{finding.key}")
    assert window.station == finding.station
    assert window.drawer.card.finding.key == finding.key


def test_a_section_is_chosen_by_its_picture_with_its_numbers_at_hand_first(make):
    window = make(station="rig")
    row = window.bench._rows["arm.section"]
    row._open_shelf()
    shelf = row.findChildren(Shelf)[-1]
    shown = [shelf._kept.index(n, 0).data(Qt.ItemDataRole.UserRole) for n in range(shelf._kept.rowCount())]
    assert all(isinstance(entry, Entry) and entry.numbers for entry in shown)
    stock = {piece.section for piece in sample().stock}
    assert [entry.at_hand for entry in shown] == sorted((entry.key in stock for entry in shown), reverse=True)
    rest = [entry.size for entry in shown if not entry.at_hand]
    assert rest == sorted(rest)
    QTest.keyClicks(shelf.search, "40×40×2, alu")
    QTest.keyClick(shelf.search, Qt.Key.Key_Return)
    assert window.session.value("arm.section") == "al6063-40x40x2"
    shelf.close()


def test_every_why_cites_chapters_that_ship_says_how_far_it_holds_and_opens_there(make):
    known = sections()
    assert all(one.words and one.holds and one.origin for one in known.values())
    used = set()
    for project in (sample(), *furnished()):
        for rig in project.rigs or changes.add_rig(project, "slider").rigs:
            whole = project if project.rigs else changes.add_rig(project, "slider")
            for figure in evaluate(whole, SHELF, rig.id).figures.values():
                numbers = re.findall(r"\d+(?:\.\d+)?", figure.why.source)
                if figure.why.source.split()[0] in ("statics", "dynamics", "drive"):
                    assert len(cited(figure.why.source)) == len(numbers), figure
                assert holds(figure), figure.key
                used |= {one.key for one in cited(figure.why.source)}
    assert len(used) > 30
    window = make(station="balance")
    window.guide.why("balance.front")
    window.why_panel.followed.emit("reference:statics 7.5")
    assert window.pages.isVisible() and not window.why_panel.isVisible()
    text = window.pages._text.toPlainText()
    assert "Camera side" in text and "59.4 N·m" in text
    window.pages.search.setText("Hyperfocal")
    QTest.keyClick(window.pages.search, Qt.Key.Key_Return)
    assert window.pages._text.textCursor().selectedText() == "Hyperfocal"


def test_a_project_is_dropped_on_the_window_and_offered_again_later(make, tmp_path):
    window = make(station="rig")
    path = tmp_path / "dropped.lantern.json"
    project_file.write(changed(arm__front=1.6), path)
    mime = QMimeData()
    mime.setUrls([QUrl.fromLocalFile(str(path))])
    copy, left, none = Qt.DropAction.CopyAction, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    QApplication.sendEvent(window, QDragEnterEvent(QPoint(9, 9), copy, mime, left, none))
    QApplication.sendEvent(window, QDropEvent(QPointF(9, 9), copy, mime, left, none, QEvent.Type.Drop))
    turn()
    assert window.session.path == path
    assert window.session.value("arm.front") == 1.6
    assert window.files.recent[0] == path


def test_the_build_sheet_goes_on_paper_page_by_page(qapp, tmp_path):
    export(sample(), SHELF, "hive-jib", "pdf", tmp_path / "sheet.pdf")
    printer = QPrinter()
    printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
    printer.setOutputFileName(str(tmp_path / "printed.pdf"))
    sheet = (tmp_path / "sheet.pdf").read_bytes()
    assert print_pages(sheet, printer) == sheet.count(b"/Type /Page\n") or print_pages(sheet, printer) >= 2
    assert (tmp_path / "printed.pdf").stat().st_size > 10_000


@pytest.fixture
def home(tmp_path):
    """A home folder of its own, and the program as a file in it."""
    program = tmp_path / "program"
    program.write_text(f'#!/bin/sh\nexec "{sys.executable}" -m hazel_lantern "$@"\n')
    program.chmod(0o755)
    where = {
        "HOME": str(tmp_path),
        "XDG_DATA_HOME": str(tmp_path / "data"),
        "XDG_CONFIG_HOME": str(tmp_path / "config"),
    }

    def run(*words):
        script = ROOT / "packaging" / "home.sh"
        return subprocess.run(
            [script, *words], env={**os.environ, **where}, capture_output=True, text=True, check=False
        )

    return tmp_path, program, run


def test_it_is_installed_for_one_user_completes_and_is_taken_away_again(home):
    folder, program, run = home
    mine = folder / ".local" / "bin" / "hazel-lantern"
    mine.parent.mkdir(parents=True)
    mine.write_text("somebody else's")
    assert run("install", str(program)).returncode == 1
    assert mine.read_text() == "somebody else's"
    mine.unlink()
    assert run("install", str(program)).returncode == 0
    assert str(mine) in (folder / "data" / "applications" / "hazel-lantern.desktop").read_text()
    script = folder / "data" / "bash-completion" / "completions" / "hazel-lantern"
    asked = (
        f'source "{script}"; COMP_WORDS=(hazel-lantern export --to ""); COMP_CWORD=3; _hazel_lantern; echo '
        f'"${{COMPREPLY[@]}}"'
    )
    offered = subprocess.run(["bash", "-c", asked], capture_output=True, text=True, check=True).stdout.split()
    assert {"pdf", "gltf", "head-csv"} <= set(offered)
    assert (
        "complete -c hazel-lantern" in (folder / "config" / "fish" / "completions" / "hazel-lantern.fish").read_text()
    )
    assert run("install", str(program)).returncode == 0
    assert run("uninstall").returncode == 0
    assert not mine.exists() and not script.exists()


def test_the_manual_shows_a_picture_of_every_station_and_fetches_nothing_else(make):
    window = make()
    window.help.show_manual()
    text = window.pages.findChild(QTextBrowser)
    shown = set(re.findall(r'<img src="([^"]+)"', text.toHtml()))
    assert shown == {f"pictures/{row.key}.png" for row in STATIONS}
    kind = QTextDocument.ResourceType.ImageResource.value
    for name in shown:
        picture = text.loadResource(kind, QUrl(name))
        assert picture.width() == 760 and not picture.isNull(), name
    assert text.loadResource(kind, QUrl("http://elsewhere/a.png")) is None
    assert text.loadResource(kind, QUrl("file:///etc/hostname")) is None
