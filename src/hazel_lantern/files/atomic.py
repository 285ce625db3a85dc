"""Writing a file so that a crash leaves either the old one or the new one, never half of either."""

from __future__ import annotations

import contextlib
import os
from pathlib import Path

from hazel_lantern.files.errors import FileError


def write(path: Path, data: bytes, *, keep_previous: bool = False) -> None:
    """Write beside, flush to disk, rename; with `keep_previous` the old file stays as `name~`.

    Raises FileError naming the file when the disk or the rights refuse.
    """
    import tempfile

    folder = path.parent
    try:
        handle, beside = tempfile.mkstemp(prefix=f".{path.name}.", dir=folder)
        try:
            with os.fdopen(handle, "wb") as out:
                out.write(data)
                out.flush()
                os.fsync(out.fileno())
            os.chmod(beside, 0o644 if not path.exists() else path.stat().st_mode & 0o777)
            if keep_previous and path.exists():
                previous = path.with_name(path.name + "~")
                with contextlib.suppress(FileNotFoundError):
                    previous.unlink()
                os.link(path, previous)
            os.replace(beside, path)
        except BaseException:
            with contextlib.suppress(FileNotFoundError):
                os.unlink(beside)
            raise
    except OSError as error:
        raise FileError(path, f"cannot be written: {error.strerror}") from error
