"""Tests of a built rig on paper, with empty fields to fill in, and its readings as a table."""

from __future__ import annotations

import math
from csv import reader
from datetime import date
from pathlib import Path

from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepTogether, Spacer

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.document.project import Project, Proved
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.proving.told import BY_KEY, Told, told
from hazel_lantern.core.proving.trial import Field
from hazel_lantern.files.build_sheet import QUIET, STATEMENT, heading, pages, paragraph, title
from hazel_lantern.files.errors import FileError
from hazel_lantern.files.tables import as_csv

EMPTY = "____________"
SPARE = 2  # rows more than a test asks for
HEAD = ["row", "test", "day", "reading", "unit", "value", "counted"]
STRUCK = "struck out"
LARGEST = 4 * 1024 * 1024  # bytes


def pdf(project: Project, result: Evaluation, show: Display) -> bytes:
    """Every test with what to do, what is foreseen, and rows to write in."""

    def flow() -> list[Flowable]:
        found: list[Flowable] = [title(result.rig.name, f"{project.name} · tests of the built rig")]
        for one in told(result):
            found.append(KeepTogether(_test(one, show)))
        return [*found, Spacer(0, 3 * mm), paragraph(STATEMENT, QUIET)]

    return pages(f"{project.name} · {result.rig.name} · tests", flow)


def _test(one: Told, show: Display) -> list[Flowable]:
    trial, own = one.trial, one.foreseen
    aside = "one row at the least" if trial.fewest == 1 else f"{trial.fewest} rows at the least"
    if math.isfinite(own.low):
        aside += f"; foreseen {show.text(own.low, trial.unit)} to {show.text(own.high, trial.unit)}"
    where = [paragraph(own.where.text(show))] if own.where is not None else []
    names = ", ".join(_named(field, show) for field in trial.fields)
    line = paragraph("   ".join(EMPTY for _ in trial.fields))
    rows = [part for _ in range(trial.fewest + SPARE) for part in (Spacer(0, 3 * mm), line)]
    return [
        heading(trial.name, aside),
        paragraph(trial.does),
        *where,
        paragraph(names, QUIET),
        Spacer(0, 2 * mm),
        *rows,
    ]


def _named(field: Field, show: Display) -> str:
    """A reading with its unit and how far its instrument may be off."""
    quantity = field.quantity
    give = f", ± {show.text(field.give, quantity.unit)}" if field.give else ""
    return f"{quantity.label} [{show.symbol(quantity.unit) or 'number'}{give}]"


def csv(_project: Project, result: Evaluation, _show: Display) -> bytes:
    """One row for every reading, in SI; what is struck out says so."""
    rows: list[list[object]] = []
    for number, row in enumerate(result.rig.proofs, 1):
        fields = BY_KEY[row.test].fields if row.test in BY_KEY else ()
        rows += [
            [number, row.test, row.day, field.quantity.label, field.quantity.unit, value, STRUCK if row.struck else ""]
            for field, value in zip(fields, row.readings, strict=False)
        ]
    return as_csv(HEAD, rows)


def read(path: Path) -> tuple[tuple[Proved, ...], tuple[str, ...]]:
    """Rows of readings of such a table, and what is wrong with every other, by line. Raises FileError for what is no
    such table.
    """
    try:
        if path.stat().st_size > LARGEST:
            raise FileError(path, f"is larger than {LARGEST >> 20} MB; a table of readings is not")
        lines = list(reader(path.read_text(encoding="utf-8-sig").splitlines()))
    except UnicodeDecodeError:
        raise FileError(path, "is not text in UTF-8") from None
    except OSError as error:
        raise FileError(path, error.strerror or "cannot be read") from None
    if not lines or [word.strip().lower() for word in lines[0]] != HEAD:
        raise FileError(path, f"its first line must be: {', '.join(HEAD)}")
    several: dict[str, list[tuple[int, list[str]]]] = {}
    for number, cells in enumerate(lines[1:], 2):
        if any(word.strip() for word in cells):
            several.setdefault(cells[0].strip(), []).append((number, cells))
    found, wrong = [], []
    for of_one in several.values():
        try:
            found.append(_row(of_one))
        except (HazelError, ValueError) as error:
            wrong.append(f"line {of_one[0][0]}, {error}")
    return tuple(found), tuple(wrong)


def _row(lines: list[tuple[int, list[str]]]) -> Proved:
    """One row of readings from its lines, one for each field in any order."""
    by_label: dict[str, float] = {}
    for number, cells in lines:
        if len(cells) != len(HEAD):
            raise ValueError(f"has {len(cells)} cells, not {len(HEAD)} (line {number})")
        try:
            by_label[cells[3].strip()] = float(cells[5])
        except ValueError:
            raise ValueError(f"{cells[3].strip()}: {cells[5]!r} is not a number (line {number})") from None
    test, day, counted = (lines[0][1][k].strip() for k in (1, 2, 6))
    if test not in BY_KEY:
        raise ValueError(f"test: {test!r} is none of ours")
    trial, readings = BY_KEY[test], []
    for field in trial.fields:
        if field.quantity.label not in by_label and not field.kept:
            raise ValueError(f"{test}: {field.quantity.label} is missing")
        readings.append(field.quantity.check(by_label.get(field.quantity.label, field.quantity.default)))
    try:
        date.fromisoformat(day)
    except ValueError:
        raise ValueError(f"day: {day!r} is not a date such as 2027-04-08") from None
    return Proved(test=test, day=day, readings=tuple(readings), struck=counted == STRUCK)
