"""Unsaved work survives a kill: a journal beside the settings, removed when the work is saved or closed."""

from __future__ import annotations

import contextlib
import os
from pathlib import Path

import msgspec

from hazel_lantern.core.document.project import Project
from hazel_lantern.files import atomic, places, project_file
from hazel_lantern.files.errors import FileError


class Entry(msgspec.Struct, kw_only=True):
    """What was being worked on: the file it belongs to, the process, the document."""

    file: str
    process: int
    project: msgspec.Raw


def folder() -> Path:
    return places.state() / "recovery"


class Journal:
    """The journal of one running window."""

    def __init__(self) -> None:
        self.path = folder() / f"{os.getpid()}.json"

    def keep(self, project: Project, file: Path | None) -> None:
        """Write the document as it is now; raises FileError."""
        self.path.parent.mkdir(parents=True, exist_ok=True)
        entry = Entry(file=str(file or ""), process=os.getpid(), project=msgspec.Raw(project_file.encode(project)))
        atomic.write(self.path, msgspec.json.encode(entry))

    def clear(self) -> None:
        with contextlib.suppress(FileNotFoundError):
            self.path.unlink()


def left_over() -> list[tuple[Path, Path | None, Project]]:
    """Journals of windows that are gone: journal, file, document. Unreadable ones are set aside as `.bad`."""
    found = []
    for path in sorted(folder().glob("*.json")) if folder().exists() else []:
        try:
            entry = msgspec.json.decode(path.read_bytes(), type=Entry)
            if _alive(entry.process):
                continue
            found.append(
                (path, Path(entry.file) if entry.file else None, project_file.decode(bytes(entry.project), path))
            )
        except (msgspec.DecodeError, FileError):
            path.rename(path.with_suffix(".bad"))
    return found


def _alive(process: int) -> bool:
    if process == os.getpid():
        return True
    try:
        os.kill(process, 0)
    except ProcessLookupError:
        return False
    except PermissionError:
        return True
    return True
