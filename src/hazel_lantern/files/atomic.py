"""Writing a file so that a crash leaves either the old one or the new one, never half of either."""

from __future__ import annotations

import contextlib
import os
import stat
import time
from pathlib import Path

from hazel_lantern.files.errors import FileError

BESIDE = ".hazel-part"  # what a file is called while it is being written
STALE = 60.0  # seconds after which such a file was left by a kill


def write(path: Path, data: bytes, *, keep_previous: bool = False) -> None:
    """Write beside, flush to disk, rename; with `keep_previous` the old file stays as `name~`.

    Through a link the file it leads to is written; only regular files are replaced; mode and umask are kept. Raises
    FileError naming the file when it is none, or the disk or the rights refuse.
    """
    try:
        path = target(path)
        beside = _beside(path)
        with contextlib.ExitStack() as undo:
            undo.callback(_remove, beside)
            _fill(beside, data, path)
            if keep_previous and path.exists():
                _keep(path)
            os.replace(beside, path)
            undo.pop_all()
        _settle(path.parent)
    except FileError:
        raise
    except (OSError, ValueError) as error:
        raise FileError(path, f"cannot be written: {getattr(error, 'strerror', None) or error}") from error


def target(path: Path) -> Path:
    """Where writing to a path really goes. Raises FileError where a folder, pipe or device stands there, OSError where
    nobody can tell.
    """
    if not path.name:
        raise FileError(repr(str(path)), "is no name of a file")
    path = path.resolve() if path.is_symlink() else path
    with contextlib.suppress(FileNotFoundError):
        if not stat.S_ISREG(path.stat().st_mode):
            raise FileError(path, "is a folder" if path.is_dir() else "is no regular file, nothing was written")
    return path


def _beside(path: Path) -> Path:
    """A free name beside a file; what killed writers left there goes."""
    begins = f".{path.name[:60]}."
    sweep(path.parent, begins)
    return path.with_name(f"{begins}{os.getpid()}-{time.monotonic_ns()}{BESIDE}")


def sweep(folder: Path, begins: str = ".") -> None:
    """Take away what killed writers left half-written in a folder; what another writes just now stays."""
    with contextlib.suppress(OSError):
        for left in os.scandir(folder):
            if left.name.startswith(begins) and left.name.endswith(BESIDE):
                with contextlib.suppress(OSError):
                    if time.time() - left.stat().st_mtime > STALE:
                        os.unlink(left)


def _remove(file: Path) -> None:
    with contextlib.suppress(OSError):
        file.unlink()


def _fill(beside: Path, data: bytes, path: Path) -> None:
    """A new file on the disk, with the mode of the one it takes the place of; else as the umask says."""
    with os.fdopen(os.open(beside, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o666), "wb") as out:
        out.write(data)
        out.flush()
        os.fsync(out.fileno())
    if path.exists():
        now = path.stat()
        os.chmod(beside, stat.S_IMODE(now.st_mode))
        with contextlib.suppress(OSError):  # another's file in a folder of ours becomes ours
            os.chown(beside, now.st_uid, now.st_gid)


def _keep(path: Path) -> None:
    """The file as it is, under the name of its previous copy: linked, or copied where links are refused. The copy
    before it stays until then.
    """
    beside = _beside(path)
    with contextlib.ExitStack() as undo:
        undo.callback(_remove, beside)
        try:
            os.link(path, beside)
        except OSError:
            import shutil

            shutil.copy2(path, beside)
        os.replace(beside, path.with_name(path.name + "~"))
        undo.pop_all()


def _settle(folder: Path) -> None:
    """The new name itself comes to the disk, where the system can do that for a folder."""
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)
