"""Unsaved work survives a kill: a journal beside the settings, removed when the work is saved or closed.

Each window has a name of its own and holds a lock for as long as it lives; what nobody holds was left by a kill.
Process numbers tell nothing: they are given out again.
"""

from __future__ import annotations

import contextlib
import fcntl
import os
from pathlib import Path

import msgspec

from hazel_lantern.core.document.project import Project
from hazel_lantern.files import atomic, places, project_file
from hazel_lantern.files.errors import FileError


class Entry(msgspec.Struct, kw_only=True):
    """What was being worked on: the file it belongs to and its mark when it was opened, the document."""

    file: str
    project: msgspec.Raw
    mark: str = ""


class Left(msgspec.Struct, frozen=True):
    """Work that a killed window left: its journal, the file it belongs to, that file's mark then, the document."""

    journal: Path
    file: Path | None
    mark: str
    project: Project


def folder() -> Path:
    return places.state() / "recovery"


class Journal:
    """The journal of one running window; nothing is on the disk before there is something to keep."""

    def __init__(self) -> None:
        self.path = folder() / f"{os.urandom(8).hex()}.json"
        self._lock: int | None = None

    def keep(self, project: Project, file: Path | None, mark: str = "") -> None:
        """Write the document as it is now; raises FileError or OSError."""
        entry = Entry(
            file=str(file.absolute()) if file else "", project=msgspec.Raw(project_file.encode(project)), mark=mark
        )
        if self._lock is None:
            self.path.parent.mkdir(parents=True, exist_ok=True)
            self._lock = _held(_lock_of(self.path))
        atomic.write(self.path, msgspec.json.encode(entry))

    def clear(self) -> None:
        """Nothing is left to keep."""
        with contextlib.suppress(OSError):
            self.path.unlink()

    def close(self) -> None:
        """The window goes: its lock with it, not what it still kept."""
        if self._lock is not None:
            with contextlib.suppress(OSError):
                _lock_of(self.path).unlink()
            os.close(self._lock)
            self._lock = None


def left_over() -> list[Left]:
    """What windows that are gone did not save. What cannot be read is set aside as `.bad` and troubles no start."""
    found = []
    atomic.sweep(folder())
    with contextlib.suppress(OSError):
        for path in sorted(folder().iterdir()):
            if path.suffix == ".json" and not _alive(path):
                left = _read(path)
                if left is not None:
                    found.append(left)
            elif path.suffix == ".lock" and not path.with_suffix(".json").exists() and not _alive(path):
                with contextlib.suppress(OSError):
                    path.unlink()
    return found


def forget(left: Left) -> None:
    """What was left is taken, or not wanted."""
    for path in (left.journal, _lock_of(left.journal)):
        with contextlib.suppress(OSError):
            path.unlink()


def _read(path: Path) -> Left | None:
    try:
        if not path.is_file():
            return None
        entry = msgspec.json.decode(path.read_bytes(), type=Entry)
        project = project_file.decode(bytes(entry.project), path)
        return Left(path, Path(entry.file) if entry.file else None, entry.mark, project)
    except (msgspec.DecodeError, FileError, OSError, ValueError, RecursionError):
        with contextlib.suppress(OSError):
            path.rename(path.with_suffix(".bad"))
        return None


def _lock_of(journal: Path) -> Path:
    return journal.with_suffix(".lock")


def _held(path: Path) -> int:
    """A lock file that is held before anybody can see it under its name; its handle. Raises OSError."""
    hidden = path.with_suffix(".locking")
    handle = os.open(hidden, os.O_RDWR | os.O_CREAT, 0o600)
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        os.replace(hidden, path)
    except OSError:
        os.close(handle)
        raise
    return handle


def _alive(journal: Path) -> bool:
    """Whether a window still holds the lock of a journal."""
    try:
        handle = os.open(_lock_of(journal), os.O_RDWR)
    except OSError:
        return False
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        return True
    except OSError:
        return False
    finally:
        os.close(handle)
    return False
