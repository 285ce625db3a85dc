"""CSV lists: parts, marks, what to buy. Cells that people typed cannot start a formula."""

from __future__ import annotations

import csv
import io
import math

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.workshop.marks import LINE, Mark, Run
from hazel_lantern.core.workshop.solids import END

_STARTS_FORMULA = tuple("=+-@|%＝＋－＠﹢﹣﹦﹫")


def _cell(value: object) -> object:
    """The cell, marked as text where a spreadsheet would work it out; blanks and line ends before a formula hide
    none.
    """
    if isinstance(value, str) and "".join(c for c in value[:200] if c.isprintable()).strip().startswith(
        _STARTS_FORMULA
    ):
        return f"'{value}"
    return value


def as_csv(head: list[str], rows: list[list[object]]) -> bytes:
    """A table as bytes that spreadsheets open as UTF-8."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(head)
    writer.writerows([[_cell(cell) for cell in row] for row in rows])
    return out.getvalue().encode("utf-8-sig")


def parts_csv(result: Evaluation, show: Display) -> bytes:
    """One row for each kind of part; lengths in mm and as shown."""
    rows: list[list[object]] = [
        [
            p.mark,
            p.name,
            p.solid.cut_from,
            p.quantity,
            round(p.length * 1e3, 2),
            show.text(p.length, "m", fine=True),
            round(p.mass, 4),
            p.matched,
            p.kept[0],
            p.kept[1] * 1e3,
        ]
        for p in result.parts
    ]
    return as_csv(
        ["mark", "part", "section", "quantity", "length mm", "length", "mass kg each", "match", "kept to", "within mm"],
        rows,
    )


def marks_csv(result: Evaluation, show: Display) -> bytes:
    """One row for each mark, measured along the part from its datum end and across the face from its edge."""
    rows: list[list[object]] = []
    for part in result.parts:
        for m in part.marks:
            _, across = part.spot(m)
            until = "" if m.until is None else round(m.until * 1e3, 2)
            along = [
                round(m.at * 1e3, 2),
                show.text(m.at, "m", fine=True),
                until,
                round(across * 1e3, 2),
                show.text(across, "m", fine=True),
            ]
            rows.append([part.mark, part.name, m.face, part.datum, *along, m.what, round(m.size * 1e3, 2), m.note])
    return as_csv(
        [
            "mark",
            "part",
            "face",
            "measured from",
            "at mm",
            "at",
            "until mm",
            "across mm",
            "across",
            "what",
            "width mm",
            "for",
        ],
        rows,
    )


def buy_csv(result: Evaluation, show: Display) -> bytes:
    """One row for each thing to buy, with example prices."""
    rows: list[list[object]] = [
        [line.words(show), line.quantity, f"{line.price:.2f}", f"{line.total:.2f}", line.note] for line in result.lines
    ]
    return as_csv(["what", "quantity", f"price {show.currency}", f"total {show.currency}", "note"], rows)


def place_words(mark: Mark, show: Display) -> str:
    """Where a mark lies: from the datum end, and across where it is not on the middle line."""
    where = "in the end" if mark.face == END else f"at {show.number(mark.at, 'm', fine=True)}"
    return where if mark.across is None else f"{where}, {show.number(mark.across, 'm', fine=True)} across"


def mark_words(mark: Mark, show: Display) -> str:
    """A mark in a few words: slot from a to b, or the hole's width, and what it is for."""
    size = show.number(mark.size, "m", fine=True)
    if mark.until is not None:
        return (
            f"{mark.what} {size} wide from {show.number(mark.at, 'm', fine=True)} to "
            f"{show.number(mark.until, 'm', fine=True)}, {mark.note}"
        )
    width = "" if mark.what == LINE else f"ø{size} "
    return f"{width}{place_words(mark, show)}, {mark.note}"


def run_words(run: Run, show: Display) -> str:
    """A mark, or a row of like holes, in a few words."""
    first, last = run.marks[0], run.marks[-1]
    if not run.pitch:
        return mark_words(first, show)
    number = [show.number(value, "m", fine=True) for value in (first.size, first.at, last.at, run.pitch)]
    return f"{len(run.marks)} holes ø{number[0]} from {number[1]} to {number[2]}, every {number[3]}, {first.note}"


def gears_csv(result: Evaluation, show: Display) -> bytes:
    """One row for each gear to cut. Raises InputError where none is."""
    if not result.box.gears:
        raise InputError("rig", result.rig.id, "has no gear to cut")
    rows: list[list[object]] = [
        [
            one.part.mark,
            one.teeth,
            one.gear.teeth,
            round(one.gear.module * 1e3, 4),
            round(math.degrees(one.gear.angle), 3),
            round(one.gear.shift, 4),
            round(2 * one.gear.pitch * 1e3, 3),
            round(2 * one.gear.tip * 1e3, 3),
            round(one.bore * 1e3, 3),
            round(one.part.solid.box[2] * 1e3, 3),
            one.part.solid.cut_from,
            round(one.gear.backlash * 1e3, 4),
            round(one.apart * 1e3, 3),
        ]
        for one in result.box.gears
    ]
    head = [
        "mark",
        "teeth cut",
        "teeth of the whole",
        "module mm",
        "pressure angle",
        "shift",
        "pitch circle mm",
        "outside mm",
        "bore mm",
        "thick mm",
        "from",
        "play of the pair mm",
        "shafts apart mm",
    ]
    return as_csv(head, rows)
