"""Every export by name, from one evaluation."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import numpy as np

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.errors import InputError
from hazel_lantern.core.evaluate import Evaluation, evaluate
from hazel_lantern.core.project import Project
from hazel_lantern.core.units import Display
from hazel_lantern.core.workshop.cutting import exact
from hazel_lantern.files import atomic, build_sheet, drawing, tables

Writer = Callable[[Project, Evaluation, Display], bytes]


def _side(result: Evaluation):  # type: ignore[no-untyped-def]
    if result.model is None:
        raise InputError("rig", result.rig.id, "cannot be drawn: " + result.findings[0].sentence.text(Display()))
    return result.sketch(result.path(np.array([0.5]))[0], result.kind.views[0].key)


def _pdf(project: Project, result: Evaluation, show: Display) -> bytes:
    return build_sheet.pdf(project, result, _side(result), show)


FORMATS: dict[str, tuple[str, str, Writer]] = {
    "pdf": ("Build sheet", ".pdf", _pdf),
    "parts-csv": ("Parts list", ".csv", lambda project, result, show: tables.parts_csv(result, show)),
    "marks-csv": ("Marks", ".csv", lambda project, result, show: tables.marks_csv(result, show)),
    "buy-csv": ("Buy list", ".csv", lambda project, result, show: tables.buy_csv(result, show)),
    "svg": ("Side view, SVG", ".svg", lambda project, result, show: drawing.svg(_side(result), show, f"{project.name}: {result.rig.name}")),
    "dxf": ("Side view, DXF", ".dxf", lambda project, result, show: drawing.dxf(_side(result), show, f"{project.name}: {result.rig.name}")),
}


def export(project: Project, catalogue: Catalogue, rig_id: str, to: str, path: Path, result: Evaluation | None = None) -> None:
    """Write one export of one rig, from an evaluation at hand or a new one with the exact cutting plan.

    Raises InputError for an unknown format or a rig that cannot be drawn, FileError when the disk refuses.
    """
    if to not in FORMATS:
        raise InputError("format", repr(to), "must be one of " + ", ".join(FORMATS))
    result = result or evaluate(project, catalogue, rig_id, cutter=exact)
    atomic.write(path, FORMATS[to][2](project, result, Display(project.units, project.fraction, project.currency)))
