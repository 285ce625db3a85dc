"""A log of an accelerometer read from a table of numbers, in pieces, however long it is."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

import msgspec
import numpy as np

from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.proving.shaken import Log, even
from hazel_lantern.files.errors import FileError

PIECE = 1 << 22  # bytes read at once
LARGEST = 1 << 31  # bytes
HEAVY = 50.0  # of the median of a log, above which it is neither in g nor in m/s^2
NUMBERS = msgspec.json.Decoder(list[float])
TIMES = re.compile(r"t\b|time|zeit|sec|ms", re.IGNORECASE)


def read(path: Path) -> Iterator[Progress[Log]]:
    """Steps of reading one: columns of time and one to three accelerations, parted by commas, semicolons, tabs or
    blanks, with or without a line of names. Lines that are no numbers are left out and counted.

    Raises FileError, InputError in one clear sentence.
    """
    try:
        size = path.stat().st_size
        if size > LARGEST:
            raise FileError(path, f"is larger than {LARGEST >> 30} GB")
        with path.open("rb") as file:
            first = file.readline(PIECE)
            mark, skip, names = _mark(path, first)
            if not skip:
                file.seek(0)
            parts, bad, done = [], 0, 0
            count, rest = 0, b""
            while piece := file.read(PIECE):
                done += len(piece)
                piece = rest + piece
                cut = piece.rfind(b"\n") + 1
                rest, piece = piece[cut:], piece[:cut]
                if piece.strip():
                    table, wrong, count = _table(path, piece, mark, count)
                    parts.append(table)
                    bad += wrong
                yield Progress(min(done, size), size + size // 4)
            if rest.strip():
                table, wrong, count = _table(path, rest, mark, count)
                parts.append(table)
                bad += wrong
    except OSError as error:
        raise FileError(path, error.strerror or "cannot be read") from error
    whole = np.concatenate(parts) if parts else np.zeros((0, 2))
    yield Progress(size, size + size // 4, _log(path, whole, bad, names))


def _mark(path: Path, first: bytes) -> tuple[bytes, bool, list[str]]:
    """What parts the columns, whether the first line names them, and those names."""
    try:
        text = first.decode("utf-8-sig").strip()
    except UnicodeDecodeError:
        raise FileError(path, "is not text in UTF-8") from None
    mark = next((m for m in (";", "\t", ",") if m in text), " ")
    cells = [cell.strip() for cell in (text.split(mark) if mark != " " else text.split())]
    if len(cells) < 2:
        raise FileError(path, "has a column too few: time, and one to three accelerations")
    try:
        [float(cell.replace(",", ".")) for cell in cells]
    except ValueError:
        return mark.encode(), True, cells
    return mark.encode(), False, []


def _table(path: Path, piece: bytes, mark: bytes, count: int) -> tuple[np.ndarray, int, int]:
    """Rows (n, columns) of whole lines, how many lines were no numbers, and how many columns they have."""
    text = piece.replace(b",", b".") if mark == b";" else piece
    lines = text.strip().split(b"\n", 1)[0]
    count = count or (len(lines.split(mark)) if mark != b" " else len(lines.split()))
    if mark != b" ":
        try:
            flat = NUMBERS.decode(
                b"[" + text.strip().replace(b"\r", b"").replace(mark, b",").replace(b"\n", b",") + b"]"
            )
            if len(flat) % count == 0:
                return np.array(flat).reshape(-1, count), 0, count
        except msgspec.DecodeError:
            pass  # a line of it is not plain numbers: one by one
    rows, bad = [], 0
    for line in text.splitlines():
        cells = line.split(mark) if mark != b" " else line.split()
        if not line.strip():
            continue
        try:
            row = [float(cell) for cell in cells]
        except ValueError:
            bad += 1
            continue
        if len(row) != count:
            bad += 1
            continue
        rows.append(row)
    return np.array(rows).reshape(-1, count), bad, count


def _log(path: Path, whole: np.ndarray, bad: int, names: list[str]) -> Log:
    """The log in order; its columns by their names where it has them, else time first."""
    if whole.shape[1] < 2:
        raise FileError(path, "has a column too few: time, and one to three accelerations")
    if bad > len(whole):
        raise FileError(path, f"most of its lines are no numbers: {bad} of {bad + len(whole)}")
    when = next((n for n, name in enumerate(names) if TIMES.search(name)), 0) if len(names) == whole.shape[1] else 0
    axes = [n for n in range(whole.shape[1]) if n != when][:3]
    found = even(whole[:, when], whole[:, axes])
    middle = float(np.median(np.linalg.norm(found.samples, axis=1)))
    if middle > HEAVY:
        raise InputError(path.name, f"{middle:.4g} at rest", "accelerations in m/s² (9.8 at rest) or in g (1 at rest)")
    notes = (f"{bad} line{'s' if bad > 1 else ''} left out, no numbers", *found.notes) if bad else found.notes
    return Log(found.samples, found.sampling, found.trusted, notes)
