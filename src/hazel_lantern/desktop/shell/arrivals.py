"""What comes into a window: files dropped on it, files opened before, rigs chosen from the page of all of them."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Protocol

from PyQt6.QtCore import QEvent, QObject
from PyQt6.QtGui import QAction, QDragEnterEvent, QDropEvent
from PyQt6.QtWidgets import QMainWindow, QMenu, QWidget

from hazel_lantern.core.stations import RIG, SHOT
from hazel_lantern.desktop.shell import actions
from hazel_lantern.desktop.shell.project_files import ProjectFiles
from hazel_lantern.desktop.shell.rigs import Rigs
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.words import face
from hazel_lantern.files.project_file import SUFFIX
from hazel_lantern.session.session import Session

if TYPE_CHECKING:
    from hazel_lantern.desktop.shell.add_rig import AddRig


class Host(Protocol):
    """The window, as far as what arrives in it knows it."""

    station: str
    menu: QMenu
    actions_by_name: dict[str, QAction]

    def take_typed(self) -> bool:
        """Take what stands half-typed in a field."""

    def show_station(self, key: str) -> None:
        """Go to a station."""

    def attempt(self, work: Callable[[], None]) -> bool:
        """Run it; an error the builder can act on is told."""

    def tell(self, words: str) -> None:
        """One clear sentence at the foot of the window."""


class Arrivals(QObject):
    """Drops, recent files and new rigs of one window."""

    def __init__(self, session: Session, files: ProjectFiles, rigs: Rigs, window: QMainWindow) -> None:
        super().__init__(window)
        self._session, self._files, self._rigs = session, files, rigs
        self._host: Host = window  # type: ignore[assignment]
        self._frame: QWidget | None = None
        self._theme: Theme | None = None
        self.adding: AddRig | None = None
        recent = QMenu("Open recent", self._host.menu)
        recent.aboutToShow.connect(lambda: self._fill(recent))
        actions.after(self._host.actions_by_name["Open…"], recent, self._host.menu)
        window.setAcceptDrops(True)
        window.installEventFilter(self)

    def begin(self, frame: QWidget, theme: Theme) -> None:
        """The window was laid out anew: the page of all rigs belongs over its new frame."""
        self.finish()
        self._frame, self._theme, self.adding = frame, theme, None

    def _fill(self, menu: QMenu) -> None:
        menu.clear()
        for path in self._files.recent:
            action = menu.addAction(face(path.name.removesuffix(SUFFIX)))
            action.triggered.connect(lambda _=False, path=path: self._files.open_path(path))
        if menu.isEmpty():
            menu.addAction("none yet").setEnabled(False)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """A file dropped on the window is opened."""
        if isinstance(event, QDragEnterEvent) and _file(event) is not None:
            event.acceptProposedAction()
            return True
        if isinstance(event, QDropEvent) and event.type() == QEvent.Type.Drop:
            path = _file(event)
            if path is not None:
                event.acceptProposedAction()
                self._files.open_path(path)
                return True
        return super().eventFilter(watched, event)

    def way_in(self, way: str) -> None:
        """From the first page; a rig is chosen from the page of all of them."""
        self._files.way_in(way)
        if way == RIG:
            self.choose_rig()

    def choose_rig(self) -> None:
        """The page of all rigs; made when first asked for."""
        if self.adding is None and self._frame is not None and self._theme is not None:
            from hazel_lantern.desktop.shell.add_rig import AddRig

            self.adding = AddRig(self._session, self._theme, self._frame)
            self.adding.wanted.connect(self.add_rig)
            self.adding.shot_wanted.connect(lambda: self._host.show_station(SHOT))
            self.adding.failed.connect(self._host.tell)
        if self.adding is not None:
            self._host.take_typed()
            self.adding.open()

    def add_rig(self, key: str) -> None:
        """One more rig, by kind and construction; it is looked at from its own station."""
        if self._host.attempt(lambda: self._rigs.add_rig(key)) and self._host.station == SHOT:
            self._host.show_station(RIG)

    def finish(self) -> None:
        """Stop what works in the background."""
        if self.adding is not None:
            self.adding.finish()


def _file(event: QDropEvent) -> Path | None:
    """The first file of what is dropped."""
    mime = event.mimeData()
    urls = mime.urls() if mime is not None else []
    return next((Path(url.toLocalFile()) for url in urls if url.isLocalFile()), None)
