"""The build sheet as PDF: drawing with sizes, parts, cuts, marks, what to buy, cautions. A4, true millimetres."""

from __future__ import annotations

import io
from typing import Any

import numpy as np

from hazel_lantern import assets
from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, STRUCTURE
from hazel_lantern.core.nouns.sketch import GHOST, LOADS, Sketch
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.workshop.marks import runs
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.core.workshop.solids import TOP, Sheet
from hazel_lantern.files.sketch_writer import FILLS, write
from hazel_lantern.files.tables import run_words

PAGE, MARGIN = (210.0, 297.0), 15.0
PLATE_HIGH = 55.0  # mm that a plate may be drawn high
INK, MUTED = "#20251d", "#545c4c"
STATEMENT = (
    "Screening only: this sheet helps to plan and certifies nothing. Local codes, rated equipment and licensed or qualified people decide on overhead rigging, "
    "structures, electricity, work at height and public places."
)


class _Sheet:
    """A page in millimetres from the top left, with a writing position that flows to the next page."""

    def __init__(self, title: str) -> None:
        from reportlab.lib.units import mm
        from reportlab.pdfbase import pdfmetrics
        from reportlab.pdfbase.ttfonts import TTFont
        from reportlab.pdfgen.canvas import Canvas

        self.mm, self.out, self.title, self.y, self.page = mm, io.BytesIO(), title, MARGIN, 1
        for name, file in (("Text", "Manrope-Regular.ttf"), ("Bold", "Manrope-Bold.ttf")):
            pdfmetrics.registerFont(TTFont(name, io.BytesIO(assets.data("fonts", file))))
        self.canvas: Any = Canvas(self.out, pagesize=(PAGE[0] * mm, PAGE[1] * mm), invariant=1)
        self.canvas.setTitle(title)
        self.canvas.setViewerPreference("PrintScaling", "None")
        self._foot()

    def _foot(self) -> None:
        self.text(MARGIN, PAGE[1] - 8, f"{self.title} · page {self.page}", 7.5, colour=MUTED)
        self.text(PAGE[0] - MARGIN, PAGE[1] - 8, "print at 100 %: this bar is 50 mm", 7.5, colour=MUTED, align="right")
        self.line((PAGE[0] - MARGIN - 50, PAGE[1] - 5.5), (PAGE[0] - MARGIN, PAGE[1] - 5.5), 0.5)

    def room(self, height: float) -> None:
        """Start a new page unless that much is left."""
        if self.y + height > PAGE[1] - MARGIN:
            self.canvas.showPage()
            self.page, self.y = self.page + 1, MARGIN
            self._foot()

    def text(
        self,
        x: float,
        y: float,
        words: str,
        size: float = 9,
        font: str = "Text",
        colour: str = INK,
        align: str = "left",
    ) -> None:
        self.canvas.setFont(font, size)
        self.canvas.setFillColor(colour)
        draw = {
            "left": self.canvas.drawString,
            "right": self.canvas.drawRightString,
            "middle": self.canvas.drawCentredString,
        }[align]
        draw(x * self.mm, (PAGE[1] - y) * self.mm, words)

    def width(self, words: str, size: float, font: str = "Text") -> float:
        return float(self.canvas.stringWidth(words, font, size)) / float(self.mm)

    def line(self, a: tuple[float, float], b: tuple[float, float], width: float = 0.2, colour: str = INK) -> None:
        self.canvas.setStrokeColor(colour)
        self.canvas.setLineWidth(width * self.mm)
        self.canvas.line(a[0] * self.mm, (PAGE[1] - a[1]) * self.mm, b[0] * self.mm, (PAGE[1] - b[1]) * self.mm)

    def shape(
        self,
        points: list[tuple[float, float]],
        fill: str | None,
        width: float = 0.2,
        *,
        close: bool = True,
        colour: str = INK,
        dash: bool = False,
    ) -> None:
        path = self.canvas.beginPath()
        for i, (x, y) in enumerate(points):
            (path.moveTo if i == 0 else path.lineTo)(x * self.mm, (PAGE[1] - y) * self.mm)
        if close:
            path.close()
        self.canvas.setStrokeColor(colour)
        self.canvas.setLineWidth(width * self.mm)
        self.canvas.setDash([3, 2] if dash else [])
        if fill:
            self.canvas.setFillColor(fill)
        self.canvas.drawPath(path, stroke=1, fill=1 if fill else 0)
        self.canvas.setDash([])

    def heading(self, words: str, aside: str = "") -> None:
        self.room(18)
        self.y += 9
        self.text(MARGIN, self.y, words, 12, "Bold")
        self.text(PAGE[0] - MARGIN, self.y, aside, 8.5, colour=MUTED, align="right")
        self.y += 2
        self.line((MARGIN, self.y), (PAGE[0] - MARGIN, self.y))
        self.y += 5

    def row(self, cells: list[tuple[float, str, str]], *, bold: bool = False) -> None:
        self.room(6)
        for x, words, align in cells:
            self.text(x, self.y, words, 9, "Bold" if bold else "Text", align=align)
        self.y += 5.2

    def paragraph(self, words: str, size: float = 9, *, indent: float = 0.0, colour: str = INK) -> None:
        line = ""
        for word in [*words.split(), ""]:
            longer = f"{line} {word}".strip()
            if not word or self.width(longer, size) > PAGE[0] - 2 * MARGIN - indent:
                self.room(5)
                self.text(MARGIN + indent, self.y, line, size, colour=colour)
                self.y += size * 0.5
                line = word
            else:
                line = longer
        self.y += 1


def pdf(project: Project, result: Evaluation, sketch: Sketch, show: Display) -> bytes:
    """The sheet of one rig."""
    sheet = _Sheet(f"{project.name} · {result.rig.name}")
    sheet.y = MARGIN + 4
    sheet.text(MARGIN, sheet.y, result.rig.name, 18, "Bold")
    sheet.text(
        PAGE[0] - MARGIN,
        sheet.y,
        f"{project.name} · sizes in {'inches' if show.system == 'in' else 'millimetres'}",
        9,
        colour=MUTED,
        align="right",
    )
    sheet.y += 6
    _drawing(sheet, sketch, show)
    _parts(sheet, result, show)
    _cuts(sheet, result, show)
    for part in result.parts:
        _marks(sheet, result, part, show)
    _buy(sheet, result, show)
    _cautions(sheet, result, show)
    sheet.canvas.save()
    return sheet.out.getvalue()


class _OnSheet:
    """A drawing to scale on a sheet; its words come last, so that nothing is drawn over them."""

    def __init__(self, sheet: _Sheet, left: float, top: float, scale: float, box: tuple[float, float, float, float]):
        self._sheet, self._left, self._top, self._scale, self._box = sheet, left, top, scale, box
        self._sizes: list[tuple[np.ndarray, np.ndarray]] = []
        self._words: list[tuple[np.ndarray, str]] = []

    def at(self, point: np.ndarray | tuple[float, float]) -> tuple[float, float]:
        """A place of the sketch on the page [mm]."""
        x = self._left + (float(point[0]) - self._box[0]) * self._scale
        return x, self._top + (self._box[3] - float(point[1])) * self._scale

    def outline(self, points: np.ndarray, role: str) -> None:
        self._sheet.shape([self.at(p) for p in points], FILLS.get(role), 0.15)

    def line(self, points: np.ndarray, role: str, width: float, dash: bool) -> None:
        thick, colour = max(width * self._scale, 0.15), FILLS.get(role, MUTED)
        self._sheet.shape([self.at(p) for p in points], None, thick, close=False, colour=colour, dash=dash)

    def ring(self, at: np.ndarray, radius: float) -> None:
        (x, y), canvas, mm = self.at(at), self._sheet.canvas, self._sheet.mm
        canvas.setFillColor("#ffffff")
        canvas.circle(x * mm, (PAGE[1] - y) * mm, max(radius * self._scale, 0.6) * mm, stroke=1, fill=1)

    def size(self, a: np.ndarray, b: np.ndarray, words: str) -> None:
        self._sizes.append((a, b))
        self.words((a + b) / 2, words)

    def words(self, at: np.ndarray, words: str) -> None:
        self._words.append((at, words))

    def finish(self) -> None:
        """The ground, then size lines, then all words clear of each other."""
        self._sheet.line(self.at((self._box[0], 0.0)), self.at((self._box[2], 0.0)), 0.3)
        for a, b in self._sizes:
            self._sheet.line(self.at(a), self.at(b), 0.15, MUTED)
        taken: list[tuple[float, float]] = []
        for at, words in self._words:
            _label(self._sheet, self.at(at), words, taken)


def _drawing(sheet: _Sheet, sketch: Sketch, show: Display) -> None:
    x0, y0, x1, y1 = sketch.box
    scale = min((PAGE[0] - 2 * MARGIN) / (x1 - x0), 110 / (y1 - y0))
    nice = next(n for n in (5, 10, 15, 20, 25, 30, 40, 50, 75, 100, 200, 500) if 1000 / n <= scale)
    scale = 1000 / nice
    top, left = sheet.y + 4, MARGIN + (PAGE[0] - 2 * MARGIN - (x1 - x0) * scale) / 2
    low, mm = top + (y1 - y0) * scale, sheet.mm
    sheet.canvas.saveState()
    clip = sheet.canvas.beginPath()
    clip.rect(MARGIN * mm, (PAGE[1] - low) * mm, (PAGE[0] - 2 * MARGIN) * mm, (low - top) * mm)
    sheet.canvas.clipPath(clip, stroke=0)
    pen = _OnSheet(sheet, left, top, scale, sketch.box)
    write(sketch, pen, show, (GHOST, LOADS))
    pen.finish()
    sheet.canvas.restoreState()
    sheet.y = low + 4
    sheet.text(MARGIN, sheet.y, f"{sketch.title}, scale 1:{nice}", 8, colour=MUTED)


def _label(sheet: _Sheet, spot: tuple[float, float], words: str, taken: list[tuple[float, float]]) -> None:
    """Words on white, moved up until they stand clear of the labels before them."""
    x, y = spot
    while any(abs(y - other[1]) < 4 and abs(x - other[0]) < 20 for other in taken):
        y -= 4
    taken.append((x, y))
    half = sheet.width(words, 7.5) / 2 + 0.8
    sheet.shape(
        [(x - half, y - 2), (x + half, y - 2), (x + half, y + 1.6), (x - half, y + 1.6)],
        "#ffffff",
        0.05,
        colour="#ffffff",
    )
    sheet.text(x, y + 0.8, words, 7.5, align="middle")


def _parts(sheet: _Sheet, result: Evaluation, show: Display) -> None:
    columns = (MARGIN, 27.0, 62.0, 140.0, PAGE[0] - MARGIN)
    sheet.heading("Parts", f"{sum(p.quantity for p in result.parts)} pieces")
    sheet.row(
        [
            (columns[0], "Mark", "left"),
            (columns[1], "Part", "left"),
            (columns[2], "Cut from", "left"),
            (columns[3], "Pieces", "right"),
            (columns[4], "Length", "right"),
        ],
        bold=True,
    )
    for p in result.parts:
        cells = [p.mark, p.name, p.solid.cut_from, str(p.quantity), show.text(p.length, "m", fine=True)]
        sheet.row(
            [(x, words, "right" if i > 2 else "left") for i, (x, words) in enumerate(zip(columns, cells, strict=True))]
        )


def _cuts(sheet: _Sheet, result: Evaluation, show: Display) -> None:
    sheet.heading("Cut from stock", "cut on the waste side of the line")
    for made in result.cuts:
        if made.plan is None:
            sheet.paragraph(f"{made.name}: {made.trouble}")
            continue
        for bar, marks in zip(made.plan.bars, made.marks(result.parts), strict=True):
            sheet.room(16)
            stock = made.stocks[bar.stock]
            sheet.text(MARGIN, sheet.y, f"{made.name}, {show.text(stock.length, 'm', fine=True)} ({stock.name})", 8.5)
            sheet.text(
                PAGE[0] - MARGIN,
                sheet.y,
                f"left over {show.text(bar.leftover, 'm', fine=True)}",
                8.5,
                colour=MUTED,
                align="right",
            )
            sheet.y += 2
            scale, x = (PAGE[0] - 2 * MARGIN) / stock.length, MARGIN
            sheet.shape(
                [
                    (MARGIN, sheet.y),
                    (PAGE[0] - MARGIN, sheet.y),
                    (PAGE[0] - MARGIN, sheet.y + 6),
                    (MARGIN, sheet.y + 6),
                ],
                None,
                0.1,
                dash=True,
            )
            for cut, mark in zip(bar.cuts, marks, strict=True):
                wide = cut * scale
                sheet.shape(
                    [(x, sheet.y), (x + wide, sheet.y), (x + wide, sheet.y + 6), (x, sheet.y + 6)],
                    FILLS.get(made.fill),
                    0.2,
                )
                words = f"{mark}  {show.number(cut, 'm', fine=True)}"
                sheet.text(
                    x + wide / 2, sheet.y + 4.1, words if sheet.width(words, 8) < wide - 1 else mark, 8, align="middle"
                )
                x += wide + 0.4
            sheet.y += 11


def _marks(sheet: _Sheet, result: Evaluation, part: Part, show: Display) -> None:
    if not part.marks:
        return
    full, plate = PAGE[0] - 2 * MARGIN, isinstance(part.solid, Sheet)
    # A plate is drawn true to scale, no larger than it is; a bar as a strip as long as the page.
    scale = min(full / part.length, PLATE_HIGH / part.width(TOP), 1e3) if plate else full / part.length
    tall = part.width(TOP) * scale if plate else 7.0
    told = runs(part.marks)
    sheet.room(29 + tall + 6 * len(told))
    sheet.heading(
        f"Mark out {part.mark} {part.name.lower()}",
        f"measure every mark from {part.from_datum}" + (f" · {part.matched}" if part.matched else ""),
    )
    right, bottom = MARGIN + part.length * scale, sheet.y + tall
    sheet.shape([(MARGIN, sheet.y), (right, sheet.y), (right, bottom), (MARGIN, bottom)], FILLS.get(part.material), 0.2)
    sheet.line((MARGIN, sheet.y - 3), (MARGIN, bottom + 3), 0.7)
    if plate:
        sheet.line((MARGIN, bottom), (right, bottom), 0.7)
    for number, run in enumerate(told, 1):
        spots = [
            (MARGIN + along * scale, bottom - tall * across / part.width(run.marks[0].face))
            for along, across in map(part.spot, run.marks)
        ]
        (x, y), (last, _), until = spots[0], spots[-1], run.marks[0].until
        if until is not None:
            end = MARGIN + until * scale
            sheet.shape([(x, y - 1), (end, y - 1), (end, y + 1), (x, y + 1)], "#ffffff", 0.2)
        else:
            sheet.canvas.setFillColor("#ffffff")
            for at, level in spots:
                sheet.canvas.circle(at * sheet.mm, (PAGE[1] - level) * sheet.mm, 1.2 * sheet.mm, stroke=1, fill=1)
        if plate:
            sheet.text(x + 1.8, y - 0.8, str(number), 7.5)
        else:
            sheet.text((x + last) / 2, bottom + 3.2, str(number), 7.5, align="middle")
    sheet.y = bottom + 8
    for number, run in enumerate(told, 1):
        face = f" ({run.marks[0].face})" if len(part.faces) > 1 else ""
        sheet.paragraph(f"{number}  {run_words(run, show)}{face}", indent=2)


def _buy(sheet: _Sheet, result: Evaluation, show: Display) -> None:
    sheet.heading("To buy", "example prices")
    for line in result.lines:
        sheet.row(
            [
                (MARGIN, line.name, "left"),
                (150, f"{line.quantity} ×", "right"),
                (170, f"{line.price:.2f}", "right"),
                (PAGE[0] - MARGIN, f"{line.total:.2f} {show.currency}", "right"),
            ]
        )
    if "build.cost" in result.figures:
        sheet.row(
            [
                (MARGIN, "Together", "left"),
                (PAGE[0] - MARGIN, show.text(result.figures["build.cost"].value, "currency"), "right"),
            ],
            bold=True,
        )


def _cautions(sheet: _Sheet, result: Evaluation, show: Display) -> None:
    sheet.room(40)
    sheet.heading("Cautions")
    sheet.paragraph(STATEMENT, colour=MUTED)
    for finding in result.findings:
        if finding.about in (PEOPLE, STRUCTURE) and finding.state != CLEAR:
            sheet.paragraph(f"{finding.state.upper()}  {finding.title}: {finding.sentence.text(show)}")
    if "loading" in result.readings:
        sheet.room(40)
        sheet.heading("Loading and unloading")
        for number, step in enumerate(result.readings["loading"], 1):
            sheet.paragraph(f"{number}. {step.text(show)}.")
