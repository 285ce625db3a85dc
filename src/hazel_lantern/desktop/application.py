"""Starting: fonts, theme, session, the first window."""

from __future__ import annotations

import argparse
import gc
import sys
from pathlib import Path
from types import TracebackType

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import QApplication, QMessageBox

from hazel_lantern import assets
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.editing.starting import begun
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.desktop.shell.top_line import lantern_icon
from hazel_lantern.desktop.shell.window import Window
from hazel_lantern.desktop.theme.theme import Theme, load_fonts
from hazel_lantern.files import packs, project_file
from hazel_lantern.session import recovery
from hazel_lantern.session import settings as preferences
from hazel_lantern.session.session import Session

SAMPLE = "orchard-at-dusk"


def run(args: argparse.Namespace) -> int:
    """Open the window and stay until it is closed; the exit code."""
    app = QApplication(sys.argv[:1])
    app.setApplicationName("hazel-lantern")
    app.setApplicationDisplayName("Hazel Lantern")
    app.setDesktopFileName("hazel-lantern")
    load_fonts()
    settings = preferences.load()
    theme = Theme(settings.theme, settings.text_scale)
    theme.apply(app)
    try:
        project, path, mark = _first(args)
        shelf = packs.load()
        session = Session(project, shelf.catalogue, path, mark=mark)
        session.rest()
    except HazelError as error:
        print(f"hazel-lantern: {error}", file=sys.stderr)
        if not args.quit_after_paint:
            _refuse(str(error))
        return 2
    window = Window(session, theme, settings, welcome=not (args.file or args.sample))
    sys.excepthook = _catch(window)
    if path:
        preferences.opened(settings, path)
    if args.quit_after_paint:
        # Not `quit`, which closes the window first and so keeps its preferences.
        window.painted.connect(lambda: QTimer.singleShot(0, lambda: app.exit(0)))
    else:
        window.painted.connect(session.wake)
        window.painted.connect(lambda: window.setWindowIcon(lantern_icon(theme)))
        window.restore()
        _recover(window)
    for words in shelf.left_out:
        print(f"hazel-lantern: {words}", file=sys.stderr)
    if shelf.left_out:
        window.painted.connect(lambda: window.tell(" ".join(shelf.left_out)))
    window.painted.connect(lambda: QTimer.singleShot(500, settle))
    window.show()
    code = app.exec()
    session.close()
    return code


def settle() -> None:
    """What the start made is kept out of later garbage collections, which would otherwise cost a drag whole frames."""
    gc.collect()
    gc.freeze()
    gc.enable()


def _refuse(words: str) -> None:
    """Why there is no window; a desktop entry has no terminal to say it in."""
    box = QMessageBox(QMessageBox.Icon.Critical, "Hazel Lantern cannot start", words[:400])
    box.setTextFormat(Qt.TextFormat.PlainText)
    box.exec()


def _first(args: argparse.Namespace) -> tuple[Project, Path | None, str]:
    """The document the window starts with, its file and that file's mark; raises FileError."""
    if args.file:
        project, mark = project_file.opened(args.file)
        return project, args.file, mark
    if args.sample:
        name = f"{SAMPLE}{project_file.SUFFIX}"
        return project_file.decode(assets.data("samples", name), Path(name)), None, ""
    return begun(), None, ""


def _recover(window: Window) -> None:
    """Offer work that a killed window left behind."""
    for left in recovery.left_over():
        box = QMessageBox(
            QMessageBox.Icon.Question,
            "Unsaved work found",
            f"“{left.project.name[:80]}” was not saved when the window closed. Open it?",
            parent=window,
        )
        box.setTextFormat(Qt.TextFormat.PlainText)
        take = box.addButton("Open it", QMessageBox.ButtonRole.AcceptRole)
        box.addButton("Later", QMessageBox.ButtonRole.RejectRole)
        drop = box.addButton("Throw it away", QMessageBox.ButtonRole.DestructiveRole)
        box.exec()
        if box.clickedButton() is take and window.files.recover(left):
            return
        if box.clickedButton() is drop:
            recovery.forget(left)


def _catch(window: Window):  # type: ignore[no-untyped-def]
    """An unexpected error is shown once with its details; the document stays safe in the journal."""

    def hook(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        import logging
        import traceback

        details = "".join(traceback.format_exception(kind, error, trace))
        logging.getLogger("hazel_lantern").error(details)
        window.session.write_journal()
        box = QMessageBox(
            QMessageBox.Icon.Warning,
            "Something went wrong",
            "An error in the application. Your work is kept; please go on or save now.",
            parent=window,
        )
        box.setDetailedText(details)
        box.exec()

    return hook
