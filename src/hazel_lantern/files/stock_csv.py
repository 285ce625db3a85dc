"""Bars and off-cuts at hand as a table: written, and read back row by row."""

from __future__ import annotations

import csv
from pathlib import Path

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import Offcut, Project
from hazel_lantern.files.errors import FileError
from hazel_lantern.files.tables import as_csv

HEAD = ["section", "length mm", "count", "note"]
LARGEST = 4 * 1024 * 1024  # bytes
LONGEST = 20.0  # metres


def write(project: Project) -> bytes:
    """One row for every bar or off-cut."""
    rows: list[list[object]] = [
        [one.section, round(one.length_m * 1e3, 1), one.count, one.note] for one in project.stock
    ]
    return as_csv(HEAD, rows)


def read(path: Path, catalogue: Catalogue) -> tuple[tuple[Offcut, ...], tuple[str, ...]]:
    """The good rows, and what is wrong with every other, by line and column. Raises FileError for what is no such
    table.
    """
    try:
        if path.stat().st_size > LARGEST:
            raise FileError(path, f"is larger than {LARGEST >> 20} MB; a list of stock is not")
        text = path.read_text(encoding="utf-8-sig")
    except UnicodeDecodeError:
        raise FileError(path, "is not text in UTF-8") from None
    except OSError as error:
        raise FileError(path, error.strerror or "cannot be read") from None
    rows = list(csv.reader(text.splitlines()))
    head = [word.strip().lower() for word in rows[0]] if rows else []
    if head[:3] != HEAD[:3]:
        raise FileError(path, f"its first line must be: {', '.join(HEAD)}")
    found, wrong = [], []
    for number, row in enumerate(rows[1:], 2):
        if not any(word.strip() for word in row):
            continue
        try:
            found.append(_offcut(row, catalogue))
        except ValueError as error:
            wrong.append(f"line {number}, {error}")
    return tuple(found), tuple(wrong)


def _offcut(row: list[str], catalogue: Catalogue) -> Offcut:
    cells = [*(word.strip() for word in row), "", "", "", ""]
    section, length, count, note = cells[:4]
    if section not in catalogue.sections:
        raise ValueError(f"section: {section or 'empty'} is not in the catalogue")
    try:
        long = float(length) / 1e3
    except ValueError:
        raise ValueError(f"length mm: {length or 'empty'} is not a number") from None
    if not 0 < long <= LONGEST:
        raise ValueError(f"length mm: {length} must be more than 0 and at most {LONGEST * 1e3:.0f}")
    if not count.isdigit() or not 1 <= int(count) <= 1000:
        raise ValueError(f"count: {count or 'empty'} must be a whole number from 1 to 1000")
    return Offcut(section=section, length_m=round(long, 4), count=int(count), note=note[:200])
