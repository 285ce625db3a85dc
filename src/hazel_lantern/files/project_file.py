"""The project file: JSON in SI, checked on reading, written atomically."""

from __future__ import annotations

import math
import stat
import zlib
from pathlib import Path
from typing import Any

import msgspec

from hazel_lantern.core.document.project import FORMAT, Project
from hazel_lantern.core.editing import checking
from hazel_lantern.core.kinds import DECLARED
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.quantity import Choice, Quantity
from hazel_lantern.files import atomic, migrate
from hazel_lantern.files.errors import FileError

SUFFIX = ".lantern.json"
LARGEST = 32 * 2**20


def read(path: Path) -> Project:
    """A checked project.

    Raises FileError with the place and the cause: no file, not JSON, not a project, newer than this version, out of
    bounds.
    """
    return opened(path)[0]


def opened(path: Path) -> tuple[Project, str]:
    """A checked project and the mark of the file it came from; raises FileError as `read` does."""
    data = _bytes(path)
    return decode(data, path), _mark(data)


def mark(path: Path) -> str:
    """What tells one content of a file from another; empty where there is none that could be read."""
    try:
        return _mark(_bytes(path))
    except FileError:
        return ""


def _mark(data: bytes) -> str:
    return f"{len(data)}-{zlib.crc32(data)}"


def _bytes(path: Path) -> bytes:
    """The bytes of a regular file that is not too large; a pipe, device or folder is not even opened."""
    try:
        found = path.stat()
        if not stat.S_ISREG(found.st_mode):
            raise FileError(path, "is a folder" if stat.S_ISDIR(found.st_mode) else "is no regular file")
        if found.st_size > LARGEST:
            raise FileError(path, f"is larger than any project can be ({LARGEST // 2**20} MB)")
        return path.read_bytes()
    except (OSError, ValueError) as error:
        raise FileError(path, f"cannot be read: {getattr(error, 'strerror', None) or error}") from error


def decode(data: bytes, path: Path) -> Project:
    """A checked project from the bytes of a file; raises FileError naming it."""
    try:
        head = msgspec.json.decode(data)
    except (msgspec.DecodeError, RecursionError, UnicodeDecodeError) as error:
        raise FileError(path, f"is not readable as JSON ({error})") from error
    if not isinstance(head, dict) or "format" not in head:
        raise FileError(path, "is not a Hazel Lantern project: it has no 'format'")
    if isinstance(head["format"], bool) or not isinstance(head["format"], int) or head["format"] < 1:
        raise FileError(path, f"format is {head['format']!r}: must be a whole number from 1")
    if head["format"] > FORMAT:
        raise FileError(
            path,
            f"was written by a newer version (format {head['format']}); this one reads up to format {FORMAT}. The "
            "file was left as it is.",
        )
    try:
        return checking.check(msgspec.convert(migrate.current(head, path), Project))
    except msgspec.ValidationError as error:
        raise FileError(path, str(error).replace("`", "'")) from error
    except HazelError as error:
        raise FileError(path, str(error)) from error


def encode(project: Project) -> bytes:
    """The bytes of a project file; raises FileError for a number that JSON cannot hold."""
    built = msgspec.to_builtins(project)
    place = _unfinite(built, "project")
    if place:
        raise FileError("project", f"{place} is not a finite number; nothing was written")
    return msgspec.json.format(msgspec.json.encode(built), indent=1) + b"\n"


def _unfinite(value: Any, place: str) -> str:
    if isinstance(value, float):
        return "" if math.isfinite(value) else place
    pairs = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, (list, tuple)) else ()
    return next((found for key, inner in pairs if (found := _unfinite(inner, f"{place}.{key}"))), "")


def write(project: Project, path: Path) -> str:
    """Save, keeping the previous file beside as `name~`; the mark of what was written. Raises FileError."""
    data = encode(project)
    if len(data) > LARGEST:
        raise FileError(path, f"would be larger than any project can be ({LARGEST // 2**20} MB); nothing was written")
    atomic.write(path, data, keep_previous=True)
    return _mark(data)


def schema() -> dict[str, Any]:
    """JSON Schema of the file, with the parameters of every kind under `$defs`."""
    found = msgspec.json.schema(Project)
    found["$schema"] = "https://json-schema.org/draft/2020-12/schema"
    for kind in DECLARED.values():
        fields: dict[str, Any] = {}
        for p in kind.parameters:
            if isinstance(p, Quantity):
                fields[p.key] = {
                    "type": "number",
                    "minimum": p.low,
                    "maximum": p.high,
                    "default": p.default,
                    "description": f"{p.label} [{p.unit.partition(':')[0]}]",
                }
            elif isinstance(p, Choice):
                fields[p.key] = {"type": "string", "default": p.default, "description": p.label} | (
                    {"enum": [key for key, _ in p.options]} if p.options else {}
                )
            else:
                fields[p.key] = {"type": "array", "items": {"type": "string"}, "description": p.label}
        found["$defs"][f"design of a {kind.id}"] = {
            "type": "object",
            "properties": fields,
            "additionalProperties": False,
        }
    return found
