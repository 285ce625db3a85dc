"""Flat parts at their true size, to be printed, glued on and drilled through: holes with their crosses, bends. What is
larger than a page goes over several, joined by their crosses.
"""

from __future__ import annotations

from typing import Any

from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Frame, KeepTogether, NextPageTemplate, PageBreak, PageTemplate, Spacer

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import INCH, Display
from hazel_lantern.core.workshop import tiling as tiles
from hazel_lantern.core.workshop.marks import LINE
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.core.workshop.solids import TOP, Sheet
from hazel_lantern.core.workshop.tiling import Tiling, tiling
from hazel_lantern.files.boards import INK, MUTED, TEXT, Board
from hazel_lantern.files.build_sheet import MARGIN, QUIET, document, heading, paragraph, title

FOOT = 20.0  # mm at the foot of a page, for the bars to measure
CROSS = 4.0  # mm of a hole's cross beyond its edge
BAR, INCHES = 100.0, 4  # mm, and inches, of the bars to measure
ARM = 2.5  # mm of a cross that joins two pages, to either side
Page = tuple[float, float]


class TrueSize(Board):
    """One flat part in millimetres, turned upright where that is how it fits."""

    def __init__(self, part: Part, sheet: Sheet, *, upright: bool) -> None:
        self._part, self._sheet, self._upright = part, sheet, upright
        long, wide = sheet.length * 1e3, sheet.width * 1e3
        super().__init__(*((wide, long) if self._upright else (long, wide)))

    def _spot(self, x: float, y: float) -> tuple[float, float]:
        """A place from the datum end and edge [m] on the board [mm from its top left]."""
        along, across = x * 1e3, y * 1e3
        return (across, self.high - along) if self._upright else (along, self.high - across)

    def paint(self) -> None:
        half = self._sheet.width / 2
        outline = [self._spot(x, y + half) for x, y in self._sheet.outline]
        self.line([*outline, outline[0]], 0.2)
        for number, mark in enumerate(self._part.marks, 1):
            if mark.face != TOP:
                continue
            x, y = self._part.spot(mark)
            if mark.what == LINE:
                self.line([self._spot(x, 0.0), self._spot(x, self._sheet.width)], 0.2, dash=True)
                at = self._spot(x, 0.002)
                self.text((at[0], at[1] - 1.0), f"{number}", 7)
                continue
            at, reach = self._spot(x, y), mark.size * 500 + CROSS
            self.ring(at, mark.size * 500)
            for a, b in ((reach, 0.0), (0.0, reach)):
                self.line([(at[0] - a, at[1] - b), (at[0] + a, at[1] + b)], 0.1)
            self.text((at[0] + mark.size * 500 + 1, at[1] - 1), f"{number}", 7)


class Tile(Board):
    """What one page shows of a part larger than a page, with the crosses it shares with its neighbours."""

    def __init__(self, whole: TrueSize, made: Tiling, column: int, row: int, words: str) -> None:
        super().__init__(made.window[0] * 1e3, made.window[1] * 1e3)
        self._whole, self._made, self._at, self._words = whole, made, (column, row), words

    def paint(self) -> None:
        column, row = self._at
        x, y = (1e3 * side for side in self._made.corner(column, row))
        self.canv.saveState()
        window = self.canv.beginPath()
        window.rect(0, 0, self.width, self.height)
        self.canv.clipPath(window, stroke=0)
        self.canv.translate(-x * mm, -y * mm)
        self._whole.canv = self.canv
        self._whole.paint()
        for cross_x, cross_y in tiles.crosses(self._made):
            spot = cross_x * 1e3, self._whole.high - cross_y * 1e3
            for a, b in ((ARM, 0.0), (0.0, ARM)):
                self._whole.line([(spot[0] - a, spot[1] - b), (spot[0] + a, spot[1] + b)], 0.2, colour=MUTED)
        self.canv.restoreState()
        self.line(
            [(0, 0), (self.wide, 0), (self.wide, self.high), (0, self.high), (0, 0)], 0.1, colour=MUTED, dash=True
        )
        self.text((3, 5), self._words, 7.5, MUTED)
        for beside, spot in (
            ((column + 1, row), (self.wide - 24, self.high / 2)),
            ((column, row + 1), (self.wide / 2, 9)),
        ):
            if beside[0] < self._made.columns and beside[1] < self._made.rows:
                self.text(spot, f"{_label(column, row)} → {_label(*beside)}", 7.5, MUTED)


def _label(column: int, row: int) -> str:
    return f"{chr(65 + row)}{column + 1}"


def flat(part: Part) -> bool:
    """Whether it is sawn from a sheet or strip and has holes or bends to be marked."""
    return isinstance(part.solid, Sheet) and any(mark.face == TOP for mark in part.marks)


def pdf(project: Project, result: Evaluation, show: Display, page: Page = tiles.A4) -> bytes:
    """All flat parts of a rig. Raises InputError where there is none."""
    parts = [part for part in result.parts if flat(part)]
    if not parts:
        raise InputError("rig", result.rig.id, "has no flat part with anything to mark on it")
    paper = page[0] * 1e3, page[1] * 1e3
    room = paper[0] - 2 * MARGIN, paper[1] - MARGIN - FOOT - 40.0
    small = [part for part in parts if _fits(part, room)]
    name = f"{project.name} · {result.rig.name} · templates"
    across, up = (tiles.corrected(1.0, bar, BAR / 1e3) for bar in project.printer_m)
    scale = across, up

    def flow() -> list[Flowable]:
        true = "" if scale == (1.0, 1.0) else f" Corrected for a printer: ×{scale[0]:.4f} across, ×{scale[1]:.4f} up."
        made: list[Flowable] = [
            title(result.rig.name, f"{project.name} · true size"),
            paragraph(f"Print at 100 % and measure both bars at the foot before anything is drilled.{true}", QUIET),
        ]
        for part in small:
            made.append(KeepTogether(_one(part, room, show)))
        for part in parts:
            if part not in small:
                made += _many(part, page)
        return made

    return document(name, flow, _layouts(paper, name, scale), paper)


def _layouts(paper: Page, name: str, scale: Page) -> list[PageTemplate]:
    """Pages that flow, and pages of one tile each, upright and on their side."""
    margin = tiles.MARGIN * 1e3

    def made(key: str, size: Page, edge: float, foot: float) -> PageTemplate:
        def begin(canvas: Any, _: Any) -> None:
            _true(canvas, size, scale)
            _bars(canvas, name, size)

        frame = Frame(
            edge * mm, foot * mm, (size[0] - 2 * edge) * mm + 1e-3, (size[1] - edge - foot) * mm + 1e-3, 0, 0, 0, 0
        )
        return PageTemplate(key, [frame], onPage=begin, pagesize=(size[0] * mm, size[1] * mm))

    return [
        made("page", paper, MARGIN, FOOT),
        made("upright", paper, margin, margin),
        made("turned", paper[::-1], margin, margin),
    ]


def _true(canvas: Any, size: Page, scale: Page) -> None:
    """Everything on a page about its middle, as the printer asks for."""
    canvas.setViewerPreference("PrintScaling", "None")
    x, y = size[0] / 2 * mm, size[1] / 2 * mm
    canvas.translate(x, y)
    canvas.scale(*scale)
    canvas.translate(-x, -y)


def _bars(canvas: Any, name: str, size: Page) -> None:
    """100 mm and 4 in to measure, both ways, and the page."""
    canvas.setFont(TEXT, 7)
    canvas.setFillColor(MUTED)
    canvas.setStrokeColor(INK)
    canvas.setLineWidth(0.3 * mm)
    edge, foot = 5.0, 5.0
    for long, off in ((BAR, 0.0), (INCHES * INCH * 1e3, 2.0)):
        canvas.line((edge + 12) * mm, (foot + off) * mm, (edge + 12 + long) * mm, (foot + off) * mm)
        canvas.line((edge + off) * mm, (foot + 12) * mm, (edge + off) * mm, (foot + 12 + long) * mm)
    words = f"{BAR:g} mm below, {INCHES} in above · page {canvas.getPageNumber()} · {name}"
    canvas.drawString((edge + 12 + BAR + 4) * mm, foot * mm, words[: int((size[0] - BAR - 25) / 1.15)])


def _fits(part: Part, room: Page) -> bool:
    short, long = sorted((part.solid.length * 1e3, part.solid.box[1] * 1e3))
    return short <= min(room) and long <= max(room)


def _many(part: Part, page: Page) -> list[Flowable]:
    """The pages of a part that no single one shows."""
    assert isinstance(part.solid, Sheet)
    whole = TrueSize(part, part.solid, upright=False)
    made = tiling(whole.wide / 1e3, whole.high / 1e3, page)
    words = f"{part.mark} {part.name}, {part.quantity} × {part.solid.cut_from}"
    found: list[Flowable] = []
    for row in range(made.rows):
        for column in range(made.columns):
            found += [NextPageTemplate("turned" if made.turned else "upright"), PageBreak()]
            found.append(
                Tile(
                    whole,
                    made,
                    column,
                    row,
                    f"{words} · {_label(column, row)} of {_label(made.columns - 1, made.rows - 1)}",
                )
            )
    return found


def _one(part: Part, room: Page, show: Display) -> list[Flowable]:
    assert isinstance(part.solid, Sheet)
    pieces = f"{part.quantity} × {part.solid.cut_from}" + (f" · {part.matched}" if part.matched else "")
    told = [
        paragraph(f"{n}  {mark.note}" + (f", ø {show.text(mark.size, 'm', fine=True)}" if mark.size else ""), QUIET)
        for n, mark in enumerate(part.marks, 1)
        if mark.face == TOP
    ]
    drawn = TrueSize(part, part.solid, upright=part.solid.length * 1e3 > room[0])
    return [heading(f"{part.mark} {part.name}", pieces), drawn, Spacer(0, 2 * mm), *told]
