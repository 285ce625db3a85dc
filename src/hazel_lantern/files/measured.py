"""Readings from the command line and from tables, and what all tests say as text and as JSON."""

from __future__ import annotations

import math
from collections.abc import Sequence
from datetime import date
from pathlib import Path
from typing import Any

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.document.project import Project, Proved
from hazel_lantern.core.editing import checking, lists
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.proving.told import BY_KEY, told
from hazel_lantern.files import test_sheet


def taken(project: Project, rig: str, table: Path | None, rows: Sequence[Sequence[str]], day: str) -> Project:
    """The project with the rows of a table, and with rows of words: a test and its readings with their units.

    Raises FileError, InputError; no row of a table is left out.
    """
    found: list[Proved] = []
    if table is not None:
        good, wrong = test_sheet.read(table)
        if wrong:
            raise InputError(table.name, "; ".join(wrong[:3]), "must be rows of readings")
        found += good
    for test, *words in rows:
        if test not in BY_KEY:
            raise InputError("--test", repr(test), "must be one of " + ", ".join(BY_KEY))
        fields, show = BY_KEY[test].fields, Display(project.units, project.fraction)
        asked = [field for field in fields if not field.kept or len(words) > sum(not one.kept for one in fields)]
        if len(words) != len(asked):
            names = ", ".join(field.quantity.label for field in asked)
            raise InputError(f"--test {test}", f"{len(words)} readings", f"asks for {len(asked)}: {names}")
        given = dict(zip((field.quantity.key for field in asked), words, strict=True))
        readings = (
            f.quantity.read(given[f.quantity.key], show) if f.quantity.key in given else f.quantity.default
            for f in fields
        )
        found.append(Proved(test=test, day=day, readings=tuple(readings)))
    return checking.check(lists.take_readings(project, rig, found), since=project) if found else project


def as_text(result: Evaluation, show: Display, today: date) -> str:
    """One line for every test."""
    lines = []
    for one in told(result, today):
        said = one.outcome.words.text(show) if one.outcome else one.trouble or "not done yet"
        state = one.outcome.state if one.outcome else "-"
        lines.append(f"{one.trial.key:10} {state:6} {one.trial.name}: {said}")
        lines += [f"{'':18}{c.words.text(show)}, by {c.tests} tests. {c.trouble}".rstrip() for c in one.corrections]
        lines += [f"{'':18}{one.due[:1].upper()}{one.due[1:]}."] if one.due and one.overdue else []
    return "\n".join(lines)


def as_json(result: Evaluation, today: date) -> dict[str, Any]:
    """Every test with its forecast, what it says and what it asks to be corrected; SI."""
    return {
        one.trial.key: {
            "name": one.trial.name,
            "unit": one.trial.unit,
            "rows": len(one.rows),
            "foreseen": [one.foreseen.low, one.foreseen.high] if math.isfinite(one.foreseen.low) else None,
            "state": one.outcome.state if one.outcome else None,
            "value": one.outcome.value if one.outcome else None,
            "give": one.outcome.give if one.outcome else None,
            "says": one.outcome.words.text(Display()) if one.outcome else one.trouble,
            "changes": dict(one.outcome.changes) if one.outcome else {},
            "corrections": [
                {"key": c.quantity.key, "value": c.value, "give": c.give, "tests": c.tests, "trouble": c.trouble}
                for c in one.corrections
            ],
            "due": one.due,
            "overdue": one.overdue,
        }
        for one in told(result, today)
    }
