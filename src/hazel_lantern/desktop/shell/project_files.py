"""The window's dealings with files: new, open, save, export, and asking before work is lost."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QFileDialog, QMessageBox

from hazel_lantern import assets
from hazel_lantern.core import changes
from hazel_lantern.core.project import Project
from hazel_lantern.core.starting import blank
from hazel_lantern.files import project_file
from hazel_lantern.files.exports import FORMATS, export
from hazel_lantern.session import settings as preferences

if TYPE_CHECKING:
    from hazel_lantern.desktop.shell.window import Window

FILTER = f"Hazel Lantern projects (*{project_file.SUFFIX});;All files (*)"


class ProjectFiles:
    """File actions on behalf of one window."""

    def __init__(self, window: Window) -> None:
        self._window = window

    def leave(self) -> bool:
        """Whether the document may be left: saved, or given up on purpose."""
        session = self._window.session
        if not session.dirty or self._window.welcome_open:
            return True
        box = QMessageBox(QMessageBox.Icon.Question, "Unsaved changes", f"Save the changes to {session.project.name}?", parent=self._window)
        save = box.addButton("Save", QMessageBox.ButtonRole.AcceptRole)
        drop = box.addButton("Do not save", QMessageBox.ButtonRole.DestructiveRole)
        box.addButton("Stay", QMessageBox.ButtonRole.RejectRole)
        box.exec()
        if box.clickedButton() is save:
            return self.save()
        return box.clickedButton() is drop

    def way_in(self, way: str) -> None:
        """From the first page: the sample, or a new project at the station named."""
        if way == "sample":
            self._window.leave_welcome()
            self.open_sample()
        else:
            self._window.leave_welcome(way)
            self.new_project()

    def new_project(self) -> None:
        if self.leave():
            self._opened(changes.add_rig(blank(), "jib", name="First jib"), None)

    def _opened(self, project: Project, path: Path | None, *, saved: bool = True) -> None:
        self._window.leave_welcome()
        self._window.session.open(project, path, saved=saved)
        self._window.session.journal.clear()

    def recover(self, project: Project, file: Path | None) -> None:
        """Work that was not saved: shown as changes to the file it belongs to."""
        self._opened(project, file, saved=False)

    def open_sample(self, name: str = "orchard-at-dusk") -> None:
        """The sample as a new project: it is never written over."""
        if self.leave():
            file = f"{name}{project_file.SUFFIX}"
            self._opened(project_file.decode(assets.data("samples", file), Path(file)), None)

    def open_dialog(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self._window, "Open a project", "", FILTER)
        if name:
            self.open_path(Path(name))

    def open_path(self, path: Path) -> bool:
        """Open a file; a bad one is told and what is open stays."""
        if not self.leave():
            return False

        def read() -> None:
            self._opened(project_file.read(path), path)
            preferences.opened(self._window.settings, path)

        return self._window.attempt(read)

    def save(self) -> bool:
        path = self._window.session.path
        return self._window.attempt(lambda: self._window.session.save(path)) if path else self.save_as()

    def save_as(self) -> bool:
        window = self._window
        name, _ = QFileDialog.getSaveFileName(window, "Save the project", f"{window.session.project.name}{project_file.SUFFIX}", FILTER)
        if not name:
            return False
        path = Path(name if name.endswith(".json") else name + project_file.SUFFIX)
        saved = window.attempt(lambda: window.session.save(path))
        if saved:
            preferences.opened(window.settings, path)
        return saved

    def export_dialog(self, to: str) -> None:
        """Ask where, then write one of the formats."""
        session, (words, suffix, _) = self._window.session, FORMATS[to]
        rig = session.project.rig(session.rig_id)
        name, _ = QFileDialog.getSaveFileName(self._window, words, f"{rig.name}{suffix}", f"{words} (*{suffix})")
        if name and self._window.attempt(lambda: export(session.project, session.catalogue, session.rig_id, to, Path(name), session.evaluation)):
            self._window.tell(f"{words} written to {Path(name).name}.")
