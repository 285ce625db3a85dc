"""The window's dealings with files: new, open, save, export, and asking before work is lost."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from tempfile import TemporaryDirectory

from msgspec import Struct
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFileDialog, QMessageBox

from hazel_lantern import assets
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.editing.starting import begun
from hazel_lantern.core.workshop.plan import Order
from hazel_lantern.desktop.shell.voice import Voice
from hazel_lantern.files import project_file
from hazel_lantern.files.exports import BY_CUTS, FORMATS, export
from hazel_lantern.session import settings as preferences
from hazel_lantern.session.recovery import Left, forget
from hazel_lantern.session.session import Session
from hazel_lantern.session.settings import Settings

RECENT = "recent:"
FILTER = f"Hazel Lantern projects (*{project_file.SUFFIX});;All files (*)"


def file_name(name: str) -> str:
    """A name that can be one of a file."""
    return name.replace("/", "-").strip(". ") or "Untitled"


class _Wanted(Struct, frozen=True):
    """An export asked for: of this document, rig and shot as they were."""

    to: str
    path: Path
    project: Project
    rig: str
    shot: str


class ProjectFiles:
    """File actions on one session; `begin` leaves the first page for the real window, at a station where one is
    named, `settle` takes what is typed and not yet taken.
    """

    def __init__(
        self,
        session: Session,
        settings: Settings,
        voice: Voice,
        begin: Callable[[str], None],
        settle: Callable[[], object],
    ) -> None:
        self._session, self._settings, self._voice, self._begin, self._settle = session, settings, voice, begin, settle
        self._waiting: dict[Order, list[_Wanted]] = {}

    def leave(self) -> bool:
        """Whether the document may be left: saved, or given up on purpose."""
        session = self._session
        self._settle()
        if not session.dirty:
            return True
        box = QMessageBox(
            QMessageBox.Icon.Question,
            "Unsaved changes",
            f"Save the changes to {session.shown.name}?",
            parent=self._voice.over,
        )
        box.setTextFormat(Qt.TextFormat.PlainText)
        save = box.addButton("Save", QMessageBox.ButtonRole.AcceptRole)
        drop = box.addButton("Do not save", QMessageBox.ButtonRole.DestructiveRole)
        box.addButton("Stay", QMessageBox.ButtonRole.RejectRole)
        box.exec()
        if box.clickedButton() is save:
            return self.save()
        return box.clickedButton() is drop

    @property
    def recent(self) -> tuple[Path, ...]:
        """Files opened last that are still there, the latest first."""
        return tuple(path for path in map(Path, self._settings.recent) if path.is_file())

    def way_in(self, way: str) -> None:
        """From the first page: the sample, a file opened before, or a new project with a shot and no rig yet."""
        if way.startswith(RECENT):
            self.open_path(Path(way.removeprefix(RECENT)))
        elif way == "sample":
            self._begin("")
            self.open_sample()
        else:
            self._begin("shot")
            self.new_project()

    def new_project(self) -> None:
        if self.leave():
            self._opened(begun(), None)

    def _opened(self, project: Project, path: Path | None, mark: str = "", *, saved: bool = True) -> None:
        self._begin("")
        self._session.open(project, path, mark=mark, saved=saved)
        self._session.journal.clear()

    def recover(self, left: Left) -> bool:
        """Work that was not saved, shown as changes to the file it belongs to; the old journal goes once a new one is
        written.
        """

        def take() -> None:
            self._opened(left.project, left.file, left.mark, saved=False)
            self._session.write_journal()
            forget(left)

        return self._voice.attempt(take)

    def open_sample(self, name: str = "orchard-at-dusk") -> None:
        """The sample as a new project: it is never written over."""
        if self.leave():
            file = f"{name}{project_file.SUFFIX}"
            self._opened(project_file.decode(assets.data("samples", file), Path(file)), None)

    def open_dialog(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self._voice.over, "Open a project", "", FILTER)
        if name:
            self.open_path(Path(name))

    def open_path(self, path: Path) -> bool:
        """Open a file; a bad one is told and what is open stays."""
        if not self.leave():
            return False

        def read() -> None:
            project, mark = project_file.opened(path)
            self._opened(project, path, mark)
            preferences.opened(self._settings, path)

        return self._voice.attempt(read)

    def save(self) -> bool:
        """Save to its file. One that was changed since it was opened is only written over when asked to."""
        path = self._session.path
        self._settle()
        if path is None:
            return self.save_as()
        if self._session.overtaken:
            return self._changed_since(path)
        return self._voice.attempt(lambda: self._session.save(path))

    def _changed_since(self, path: Path) -> bool:
        box = QMessageBox(
            QMessageBox.Icon.Warning,
            "Changed since it was opened",
            f"{path.name} was changed by another window or program since it was opened here.",
            parent=self._voice.over,
        )
        box.setTextFormat(Qt.TextFormat.PlainText)
        apart = box.addButton("Save as…", QMessageBox.ButtonRole.AcceptRole)
        over = box.addButton("Write over it", QMessageBox.ButtonRole.DestructiveRole)
        box.addButton("Stay", QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(apart)
        box.exec()
        if box.clickedButton() is apart:
            return self.save_as()
        return box.clickedButton() is over and self._voice.attempt(lambda: self._session.save(path, over=True))

    def save_as(self) -> bool:
        self._settle()
        name, _ = QFileDialog.getSaveFileName(
            self._voice.over, "Save the project", f"{file_name(self._session.shown.name)}{project_file.SUFFIX}", FILTER
        )
        if not name:
            return False
        path = Path(name if name.endswith(".json") else name + project_file.SUFFIX)
        saved = self._voice.attempt(lambda: self._session.save(path, over=True))
        if saved:
            preferences.opened(self._settings, path)
        return saved

    def export_dialog(self, to: str) -> None:
        """Ask where, then write one of the formats; where it tells how bars are cut, as soon as the exact plan is
        known.
        """
        self._settle()
        session, (words, suffix, _) = self._session, FORMATS[to]
        rig = session.shown.rig(session.rig_id)
        name, _ = QFileDialog.getSaveFileName(
            self._voice.over, words, f"{file_name(rig.name)}{suffix}", f"{words} (*{suffix})"
        )
        if not name:
            return
        wanted = _Wanted(to, Path(name), session.document, session.rig_id, session.shot_id)
        order = session.evaluation.order if session.evaluation is not None else Order(())
        if to in BY_CUTS and order.sections and order not in session.cuts.known:
            self._waiting[order] = [*self._waiting.get(order, []), wanted]
            self._voice.tell("Searching the cheapest cuts; the file is written when they are found.")
            session.search_cuts()
        else:
            self._write(wanted)

    def _write(self, wanted: _Wanted) -> None:
        session = self._session
        if self._voice.attempt(
            lambda: export(
                wanted.project, session.catalogue, wanted.rig, wanted.to, wanted.path, wanted.shot, session.cuts.known
            )
        ):
            self._voice.tell(f"{FORMATS[wanted.to][0]} written to {wanted.path.name}.")

    def print_sheet(self) -> None:
        """The build sheet on paper."""
        from hazel_lantern.desktop.shell.printing import ask_and_print

        self._settle()
        session = self._session

        def work() -> None:
            with TemporaryDirectory() as folder:
                path = Path(folder) / "sheet.pdf"
                known = session.cuts.known
                export(session.document, session.catalogue, session.rig_id, "pdf", path, session.shot_id, known)
                pages = ask_and_print(path.read_bytes(), self._voice.over)
            if pages:
                self._voice.tell(f"{pages} {'page' if pages == 1 else 'pages'} printed.")

        self._voice.attempt(work)

    def cuts_found(self, order: object) -> None:
        """Exports that waited for a plan are written."""
        for wanted in self._waiting.pop(order, []) if isinstance(order, Order) else []:
            self._write(wanted)
