"""Takes in a file beside the project, line by line: each is written and flushed as it ends, and never rewritten."""

from __future__ import annotations

import csv
import os
import re
import shutil
from pathlib import Path

import msgspec

from hazel_lantern import assets
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.rolling.takes import Take, checked
from hazel_lantern.files import atomic, places
from hazel_lantern.files.errors import FileError
from hazel_lantern.files.project_file import SUFFIX

HEAD = ["take", "slate", "when", "rig", "shot", "kit", "how", "lasted s", "points", "stars", "note", "fault"]
LARGEST = 64 * 2**20
UNSAVED = "unsaved"


def beside(project: Path | None, name: str = "") -> Path:
    """Where the takes of a project lie; in the recovery folder, by its name, while it is unsaved."""
    if project is None:
        return places.state() / f"{UNSAVED}-{_slug(name)}.takes.jsonl"
    return project.with_name(f"{project.name.removesuffix(SUFFIX)}.takes.jsonl")


def _slug(name: str) -> str:
    return re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-") or "project"


def shipped(name: str) -> tuple[Take, ...]:
    """Takes that a sample of that name ships with; none for other projects."""
    decoder = msgspec.json.Decoder(Take)
    try:
        lines = assets.data("samples", f"{_slug(name)}.takes.jsonl").splitlines()
    except FileNotFoundError:
        return ()
    return tuple(decoder.decode(line) for line in lines)


def append(path: Path, take: Take) -> None:
    """One more, on the disk before this returns. Of two with one number and rig the later counts. Raises FileError."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        line = msgspec.json.encode(checked(take)) + b"\n"
        with path.open("ab+") as file:
            if file.seek(0, os.SEEK_END):
                file.seek(-1, os.SEEK_END)
                if file.read(1) != b"\n":  # a line cut off by a power failure ends by itself
                    line = b"\n" + line
            file.write(line)
            file.flush()
            os.fsync(file.fileno())
    except OSError as error:
        raise FileError(path, error.strerror or "cannot be written") from error


_known: dict[Path, tuple[tuple[int, int, int], tuple[tuple[Take, ...], int]]] = {}  # what the last look at it found


def load(path: Path) -> tuple[tuple[Take, ...], int]:
    """All takes, oldest first, and how many lines were none; none where there is no file. A file that is as it was is
    not read again. Raises FileError for one that cannot be read.
    """
    try:
        mark = path.stat()
        if mark.st_size > LARGEST:
            raise FileError(path, f"is larger than {LARGEST >> 20} MB")
        signs = (mark.st_mtime_ns, mark.st_size, mark.st_ino)
        if path in _known and _known[path][0] == signs:
            return _known[path][1]
        lines = path.read_bytes().splitlines()
    except FileNotFoundError:
        return (), 0
    except OSError as error:
        raise FileError(path, error.strerror or "cannot be read") from error
    found: dict[tuple[str, int], Take] = {}
    decoder, bad = msgspec.json.Decoder(Take), 0
    for line in lines:
        try:
            take = checked(decoder.decode(line))
        except (msgspec.DecodeError, InputError):
            bad += 1
            continue
        found[(take.rig, take.number)] = take
    _known.clear()  # one project at a time is looked at
    _known[path] = (signs, (tuple(found.values()), bad))
    return _known[path][1]


def carry(old: Path, new: Path, shipped: tuple[Take, ...] = ()) -> None:
    """Takes with their traces copied along when a project is saved elsewhere, those that a sample ships with first;
    what lies there already stays. Raises FileError.
    """
    if old == new or new.exists() or not (shipped or old.exists()):
        return
    try:
        later = old.read_bytes() if old.exists() else b""
        traces = [old.with_name(one.trace) for one in load(old)[0] if one.trace and old.parent != new.parent]
        for trace in traces:
            if trace.exists():
                shutil.copyfile(trace, new.with_name(trace.name))
        atomic.write(new, b"".join(msgspec.json.encode(one) + b"\n" for one in shipped) + later)
        if old.name.startswith(UNSAVED):
            for left in (old, *traces):
                left.unlink(missing_ok=True)
    except OSError as error:
        raise FileError(new, error.strerror or "cannot be written") from error


def keep_trace(path: Path, take: Take, rows: tuple[tuple[float, ...], ...]) -> str:
    """The trace of a take in a file of its own beside the takes; its name. Raises FileError."""
    from hazel_lantern.files.tables import as_csv

    name = f"{path.name.removesuffix('.takes.jsonl')}.{take.rig}-{take.number}.trace.csv"
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        path.with_name(name).write_bytes(
            as_csv(["time_s", *(f"axis {k + 1}" for k in range(len(rows[0]) - 1))], [list(row) for row in rows])
        )
    except OSError as error:
        raise FileError(path.with_name(name), error.strerror or "cannot be written") from error
    return name


def table(takes: tuple[Take, ...]) -> bytes:
    """One row for every take."""
    from hazel_lantern.files.tables import as_csv

    return as_csv(
        HEAD,
        [
            [
                t.number,
                t.slate,
                t.when,
                t.rig,
                t.shot,
                t.kit,
                t.how,
                round(t.lasted, 2),
                t.points if t.points >= 0 else "",
                t.stars,
                t.note,
                t.fault,
            ]
            for t in takes
        ],
    )


def read_table(path: Path) -> tuple[tuple[Take, ...], tuple[str, ...]]:
    """Takes of such a table, and what is wrong with every other row. Raises FileError for what is no such table: one of
    another tool is named as that.
    """
    try:
        lines = list(csv.reader(path.read_text(encoding="utf-8-sig").splitlines()))
    except UnicodeDecodeError:
        raise FileError(path, "is not text in UTF-8") from None
    except OSError as error:
        raise FileError(path, error.strerror or "cannot be read") from error
    if not lines or [word.strip().lower() for word in lines[0]] != HEAD:
        raise FileError(path, f"is a table of another tool: its first line must be {', '.join(HEAD)}")
    found, wrong = [], []
    for number, row in enumerate(lines[1:], 2):
        if not any(row):
            continue
        try:
            cells = dict(zip(HEAD, (cell.removeprefix("'") for cell in row), strict=True))
            found.append(
                checked(
                    Take(
                        number=int(cells["take"]),
                        slate=cells["slate"],
                        when=cells["when"],
                        rig=cells["rig"],
                        shot=cells["shot"],
                        kit=cells["kit"],
                        how=cells["how"],
                        lasted=float(cells["lasted s"] or 0),
                        points=int(cells["points"] or -1),
                        stars=int(cells["stars"] or 0),
                        note=cells["note"],
                        fault=cells["fault"],
                    )
                )
            )
        except (ValueError, InputError) as error:
            wrong.append(f"line {number}, {error}")
    return tuple(found), tuple(wrong)
