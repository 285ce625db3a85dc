"""Tests of a built rig on paper, with empty fields to fill in, and its readings as a table."""

from __future__ import annotations

from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepTogether, Spacer

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.proving.trials import BY_KEY, Told, told
from hazel_lantern.files.build_sheet import QUIET, STATEMENT, heading, pages, paragraph, title
from hazel_lantern.files.tables import as_csv

EMPTY = "____________"
SPARE = 2  # rows more than a test asks for


def pdf(project: Project, result: Evaluation, show: Display) -> bytes:
    """Every test with what to do, what is predicted, and rows to write in."""

    def flow() -> list[Flowable]:
        found: list[Flowable] = [title(result.rig.name, f"{project.name} · tests of the built rig")]
        for one in told(result):
            found.append(KeepTogether(_test(one, show)))
        return [*found, Spacer(0, 3 * mm), paragraph(STATEMENT, QUIET)]

    return pages(f"{project.name} · {result.rig.name} · tests", flow)


def _test(one: Told, show: Display) -> list[Flowable]:
    trial, low_high = one.trial, one.outcome.predicted if one.outcome else None
    aside = "one row at the least" if trial.fewest == 1 else f"{trial.fewest} rows at the least"
    if low_high and one.outcome:
        ends = " to ".join(show.text(end, one.outcome.unit) for end in low_high)
        aside += f"; predicted {ends}"
    names = ", ".join(f"{field.label} [{show.symbol(field.unit) or 'number'}]" for field in trial.fields)
    line = paragraph("   ".join(EMPTY for _ in trial.fields))
    rows = [part for _ in range(trial.fewest + SPARE) for part in (Spacer(0, 3 * mm), line)]
    return [heading(trial.name, aside), paragraph(trial.does), paragraph(names, QUIET), Spacer(0, 2 * mm), *rows]


def csv(_project: Project, result: Evaluation, _show: Display) -> bytes:
    """One row for every reading, in SI; what is struck out says so."""
    rows: list[list[object]] = []
    for number, row in enumerate(result.rig.proofs, 1):
        fields = BY_KEY[row.test].fields if row.test in BY_KEY else ()
        rows += [
            [number, row.test, row.day, field.label, field.unit, value, "struck out" if row.struck else ""]
            for field, value in zip(fields, row.readings, strict=False)
        ]
    return as_csv(["row", "test", "day", "reading", "unit", "value", "counted"], rows)
