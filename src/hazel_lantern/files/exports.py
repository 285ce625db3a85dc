"""Every export by name, from one evaluation."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.document.readable import readable
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.workshop.cutting import exact
from hazel_lantern.core.workshop.plan import Exact, plans
from hazel_lantern.core.workshop.tiling import A4, LETTER
from hazel_lantern.files import atomic

Writer = Callable[[Project, Evaluation, Display], bytes]


def _side(result: Evaluation):  # type: ignore[no-untyped-def]
    if result.model is None:
        raise InputError("rig", result.rig.id, "cannot be drawn: " + result.findings[0].sentence.text(Display()))
    return result.draw(0.5, result.kind.views[0].key)


# Writers are imported where they are used: the window's start reads this table and writes nothing.
def _pdf(project: Project, result: Evaluation, show: Display) -> bytes:
    from hazel_lantern.files import build_sheet

    return build_sheet.pdf(project, result, _side(result), show)


def _template(paper: tuple[float, float]) -> Writer:
    def write(project: Project, result: Evaluation, show: Display) -> bytes:
        from hazel_lantern.files import template

        return template.pdf(project, result, show, paper)

    return write


def _table(name: str) -> Writer:
    def write(project: Project, result: Evaluation, show: Display) -> bytes:
        from hazel_lantern.files import tables

        made: bytes = getattr(tables, name)(result, show)
        return made

    return write


def _drawing(name: str) -> Writer:
    def write(project: Project, result: Evaluation, show: Display) -> bytes:
        from hazel_lantern.files import drawing

        made: bytes = getattr(drawing, name)(_side(result), show, f"{project.name}: {result.rig.name}")
        return made

    return write


def _flat(name: str) -> Writer:
    def write(project: Project, result: Evaluation, show: Display) -> bytes:
        from hazel_lantern.files import flat

        made: bytes = getattr(flat, name)(result, show, f"{project.name}: {result.rig.name}")
        return made

    return write


def _previs(name: str) -> Writer:
    def write(project: Project, result: Evaluation, show: Display) -> bytes:
        from hazel_lantern.files import previs

        if result.model is None:
            raise InputError("rig", result.rig.id, "makes no move: " + result.findings[0].sentence.text(show))
        made: bytes = getattr(previs, name)(result)
        return made

    return write


def _motion(name: str) -> Writer:
    def write(project: Project, result: Evaluation, show: Display) -> bytes:
        from hazel_lantern.files import motion

        if result.model is None:
            raise InputError("rig", result.rig.id, "makes no move: " + result.findings[0].sentence.text(show))
        made: bytes = getattr(motion, name)(project, result)
        return made

    return write


def _pace(project: Project, result: Evaluation, show: Display) -> bytes:
    from hazel_lantern.files import pace_strips

    if result.model is None:
        raise InputError("rig", result.rig.id, "makes no move: " + result.findings[0].sentence.text(show))
    return pace_strips.pdf(project, result, show)


def _work(name: str) -> Writer:
    def write(project: Project, result: Evaluation, show: Display) -> bytes:
        from hazel_lantern.files import share, work_sheet

        made: bytes = getattr(share if name == "markdown" else work_sheet, name)(project, result, show)
        return made

    return write


def _tests(name: str) -> Writer:
    def write(project: Project, result: Evaluation, show: Display) -> bytes:
        from hazel_lantern.files import test_sheet

        made: bytes = getattr(test_sheet, name)(project, result, show)
        return made

    return write


def _shots(project: Project, result: Evaluation, show: Display) -> bytes:
    from hazel_lantern.files import previs

    return previs.shots_csv(project, show)


FORMATS: dict[str, tuple[str, str, Writer]] = {
    "pdf": ("Build sheet", ".pdf", _pdf),
    "template": ("Templates 1:1, A4", ".pdf", _template(A4)),
    "template-letter": ("Templates, Letter", ".pdf", _template(LETTER)),
    "work": ("Order of work", ".pdf", _work("pdf")),
    "calendar": ("Calendar", ".ics", _work("ical")),
    "set-up": ("Set-up sheet", ".pdf", _work("set_up")),
    "tests": ("Test sheet", ".pdf", _tests("pdf")),
    "tests-csv": ("Readings", ".csv", _tests("csv")),
    "share": ("To share", ".md", _work("markdown")),
    "parts-csv": ("Parts list", ".csv", _table("parts_csv")),
    "marks-csv": ("Marks", ".csv", _table("marks_csv")),
    "buy-csv": ("Buy list", ".csv", _table("buy_csv")),
    "svg": ("Side view, SVG", ".svg", _drawing("svg")),
    "shots-csv": ("Shot list", ".csv", _shots),
    "path-csv": ("Camera path", ".csv", _previs("path_csv")),
    "keys-csv": ("Keys of the move", ".csv", _previs("keys_csv")),
    "head-csv": ("Head over time", ".csv", _previs("head_csv")),
    "pace": ("Pace marks 1:1", ".pdf", _pace),
    "motion": ("Controller, text", ".txt", _motion("text")),
    "motion-csv": ("Controller, table", ".csv", _motion("table")),
    "gltf": ("Camera and set, glTF", ".gltf", _previs("gltf")),
    "dxf": ("Side view, DXF", ".dxf", _drawing("dxf")),
    "cut-dxf": ("Flat parts, DXF", ".dxf", _flat("dxf")),
    "cut-svg": ("Flat parts, SVG", ".svg", _flat("svg")),
    "gears-csv": ("Gears", ".csv", _table("gears_csv")),
}


# What tells how the bars are cut: written from the exact plan, never from the quick one.
BY_CUTS = frozenset({"pdf", "buy-csv"})


def export(
    project: Project,
    catalogue: Catalogue,
    rig_id: str,
    to: str,
    path: Path,
    shot_id: str = "",
    known: Exact | None = None,
) -> None:
    """Write one export of one rig. Where it tells how bars are cut, the plan is among those `known`, or is searched
    to its end here.

    Raises InputError for an unknown format or a rig that cannot be drawn, FileError when the disk refuses.
    """
    if to not in FORMATS:
        raise InputError("format", repr(to), "must be one of " + ", ".join(FORMATS))
    memo, known, project = Memo(), dict(known or {}), readable(project)
    result = evaluate(project, catalogue, rig_id, shot_id, memo, exact=known)
    if to in BY_CUTS and result.order not in known:
        known[result.order] = plans(result.order, exact)
        result = evaluate(project, catalogue, rig_id, shot_id, memo, exact=known)
    atomic.write(path, FORMATS[to][2](project, result, Display(project.units, project.fraction, project.currency)))
