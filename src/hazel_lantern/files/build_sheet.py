"""The build sheet as PDF: drawing with sizes, parts, cuts, marks, what to buy, cautions. A4, true millimetres."""

from __future__ import annotations

import io
from collections.abc import Callable
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.platypus import BaseDocTemplate, Flowable, Frame, KeepTogether, PageTemplate, Paragraph, Spacer, Table

from hazel_lantern import assets
from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, STRUCTURE
from hazel_lantern.core.nouns.sketch import Sketch
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.workshop.marks import runs
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.files.boards import BOLD, INK, MUTED, TEXT, CutBar, Drawing, MarkedOut
from hazel_lantern.files.tables import run_words

PAGE, MARGIN = (210.0, 297.0), 15.0  # mm
WIDE = PAGE[0] - 2 * MARGIN
STATEMENT = (
    "Screening only: this sheet helps to plan and certifies nothing. Local codes, rated equipment and licensed or "
    "qualified people decide on overhead rigging, "
    "structures, electricity, work at height and public places."
)
GAP = "\u00a0\u00a0"  # spaces that a paragraph keeps
PLAIN = ParagraphStyle("plain", fontName=TEXT, fontSize=9, leading=12, textColor=INK)
QUIET = ParagraphStyle("quiet", PLAIN, fontSize=8.5, textColor=MUTED)
RIGHT, QUIET_RIGHT = ParagraphStyle("right", PLAIN, alignment=2), ParagraphStyle("quiet right", QUIET, alignment=2)
STRONG = ParagraphStyle("strong", PLAIN, fontName=BOLD)
HEADING = ParagraphStyle("heading", STRONG, fontSize=12, leading=15)
TITLE = ParagraphStyle("title", STRONG, fontSize=18, leading=22)


def pdf(project: Project, result: Evaluation, sketch: Sketch, show: Display) -> bytes:
    """The sheet of one rig."""
    sizes = f"{project.name} · sizes in {'inches' if show.system == 'in' else 'millimetres'}"
    drawing = Drawing(sketch, show, WIDE)
    return pages(
        f"{project.name} · {result.rig.name}",
        lambda: [
            title(result.rig.name, sizes),
            Spacer(0, 4 * mm),
            drawing,
            Spacer(0, 2 * mm),
            paragraph(f"{sketch.title}, scale 1:{drawing.scale}", QUIET),
            *_parts(result, show),
            *_cuts(result, show),
            *[KeepTogether(_marks(part, show)) for part in result.parts if part.marks],
            *_buy(result, show),
            *_cautions(result, show),
        ],
    )


def pages(name: str, flow: Callable[[], list[Flowable]]) -> bytes:
    """What flows over A4 pages, each with a foot and a bar to check the printer by; made once its fonts are there."""
    frame = Frame(MARGIN * mm, MARGIN * mm, WIDE * mm, (PAGE[1] - 2 * MARGIN) * mm, 0, 0, 0, 0)
    return document(name, flow, [PageTemplate("page", [frame], onPage=lambda canvas, _: _foot(canvas, name))])


def document(
    name: str, flow: Callable[[], list[Flowable]], layouts: list[PageTemplate], page: tuple[float, float] = PAGE
) -> bytes:
    """What flows over pages [mm] as they are laid out; made once its fonts are there."""
    for font, file in ((TEXT, "Manrope-Regular.ttf"), (BOLD, "Manrope-Bold.ttf")):
        pdfmetrics.registerFont(TTFont(font, io.BytesIO(assets.data("fonts", file))))
    out = io.BytesIO()
    made = BaseDocTemplate(
        out, pagesize=(page[0] * mm, page[1] * mm), title=name, invariant=1, author="", creator="Hazel Lantern"
    )
    made.addPageTemplates(layouts)
    made.build(flow())
    return out.getvalue()


def title(words: str, aside: str) -> Table:
    """The head of the first page."""
    return _line(paragraph(words, TITLE), paragraph(aside, QUIET_RIGHT))


def _foot(canvas: Any, name: str) -> None:
    """Name, page number, and a bar to check the printer by."""
    canvas.setViewerPreference("PrintScaling", "None")
    canvas.setFont(TEXT, 7.5)
    canvas.setFillColor(MUTED)
    canvas.drawString(MARGIN * mm, 8 * mm, f"{name} · page {canvas.getPageNumber()}")
    canvas.drawRightString((PAGE[0] - MARGIN) * mm, 8 * mm, "print at 100 %: this bar is 50 mm")
    canvas.setStrokeColor(INK)
    canvas.setLineWidth(0.5 * mm)
    canvas.line((PAGE[0] - MARGIN - 50) * mm, 5.5 * mm, (PAGE[0] - MARGIN) * mm, 5.5 * mm)


def paragraph(said: str, style: ParagraphStyle = PLAIN) -> Paragraph:
    """A paragraph of plain text: nothing in a name is taken for markup."""
    return Paragraph(escape(said), style)


def _line(left: Paragraph, right: Paragraph) -> Table:
    """Two paragraphs on one line, on a common foot."""
    return _table([[left, right]], (0.45, 0.55), [("VALIGN", (0, 0), (-1, -1), "BOTTOM")])


def heading(words: str, aside: str = "") -> Table:
    line = _line(paragraph(words, HEADING), paragraph(aside, QUIET_RIGHT))
    line.setStyle([("LINEBELOW", (0, 0), (-1, 0), 0.2 * mm, INK), ("BOTTOMPADDING", (0, 0), (-1, 0), 1 * mm)])
    line.spaceBefore, line.spaceAfter, line.keepWithNext = 6 * mm, 2.5 * mm, True
    return line


def _table(rows: list[list[Paragraph]], shares: tuple[float, ...], style: list[Any], head: int = 0) -> Table:
    """Rows over the full width, its columns by their shares; a head is said again on every page."""
    plain = [("LEFTPADDING", (0, 0), (-1, -1), 0), ("RIGHTPADDING", (0, 0), (-1, -1), 2 * mm)]
    tight = [("TOPPADDING", (0, 0), (-1, -1), 0), ("BOTTOMPADDING", (0, 0), (-1, -1), 1 * mm)]
    last = [("RIGHTPADDING", (-1, 0), (-1, -1), 0), ("VALIGN", (0, 0), (-1, -1), "TOP")]
    return Table(rows, [share * WIDE * mm for share in shares], style=[*plain, *tight, *last, *style], repeatRows=head)


def columns(head: list[str], rows: list[list[str]]) -> Table:
    """A table of numbers, its columns alike."""
    strong_right = ParagraphStyle("strong right", RIGHT, fontName=BOLD)
    lines = [[paragraph(words, strong_right) for words in head], *([paragraph(w, RIGHT) for w in row] for row in rows)]
    return _table(lines, (1 / len(head),) * len(head), [], head=1)


def _parts(result: Evaluation, show: Display) -> list[Flowable]:
    strong_right = ParagraphStyle("strong right", RIGHT, fontName=BOLD)
    heads = [paragraph(words, STRONG) for words in ("Mark", "Part", "Cut from", "Kept to")]
    rows = [[*heads, *(paragraph(words, strong_right) for words in ("Pieces", "Length"))]]
    for part in result.parts:
        named = [
            paragraph(words)
            for words in (
                part.mark,
                part.name,
                part.solid.cut_from,
                f"{part.kept[0].split()[0]} ±{show.text(part.kept[1], 'm', fine=True)}",
            )
        ]
        counted = [paragraph(words, RIGHT) for words in (str(part.quantity), show.text(part.length, "m", fine=True))]
        rows.append([*named, *counted])
    pieces = f"{sum(part.quantity for part in result.parts)} pieces"
    return [heading("Parts", pieces), _table(rows, (0.06, 0.23, 0.36, 0.16, 0.07, 0.12), [], head=1)]


def _cuts(result: Evaluation, show: Display) -> list[Flowable]:
    flow: list[Flowable] = [heading("Cut from stock", "cut on the waste side of the line")]
    for made in result.cuts:
        if made.plan is None:
            flow.append(paragraph(f"{made.name}: {made.trouble}"))
            continue
        for bar, marks in zip(made.plan.bars, made.marks(result.parts), strict=True):
            stock = made.stocks[bar.stock]
            named = f"{made.name}, {show.text(stock.length, 'm', fine=True)} ({stock.name})"
            left = f"left over {show.text(bar.leftover, 'm', fine=True)}"
            line = _line(paragraph(named), paragraph(left, QUIET_RIGHT))
            flow.append(KeepTogether([line, CutBar(bar, marks, stock.length, made.fill, show, WIDE)]))
    return flow


def _marks(part: Part, show: Display) -> list[Flowable]:
    aside = f"measure every mark from {part.from_datum}" + (f" · {part.matched}" if part.matched else "")
    several = len(part.faces) > 1
    told = [
        paragraph(f"{number}{GAP}{run_words(run, show)}" + (f" ({run.marks[0].face})" if several else ""))
        for number, run in enumerate(runs(part.marks), 1)
    ]
    return [heading(f"Mark out {part.mark} {part.name.lower()}", aside), MarkedOut(part, WIDE), *told]


def _buy(result: Evaluation, show: Display) -> list[Flowable]:
    rows = [
        [
            paragraph(line.words(show)),
            paragraph(f"{line.quantity} ×", RIGHT),
            paragraph(f"{line.price:.2f}", RIGHT),
            paragraph(f"{line.total:.2f} {show.currency}", RIGHT),
        ]
        for line in result.lines
    ]
    if "build.cost" in result.figures:
        cost = show.text(result.figures["build.cost"].value, "currency")
        together = ParagraphStyle("together", RIGHT, fontName=BOLD)
        rows.append([paragraph("Together", STRONG), paragraph(""), paragraph(""), paragraph(cost, together)])
    return [heading("To buy", "example prices"), *([_table(rows, (0.6, 0.12, 0.12, 0.16), [])] if rows else [])]


def _cautions(result: Evaluation, show: Display) -> list[Flowable]:
    flow: list[Flowable] = [heading("Cautions"), paragraph(STATEMENT, QUIET)]
    for finding in result.findings:
        if finding.about in (PEOPLE, STRUCTURE) and finding.state != CLEAR:
            flow += [
                Spacer(0, 1 * mm),
                paragraph(f"{finding.state.upper()}{GAP}{finding.title}: {finding.sentence.text(show)}"),
            ]
    if "loading" in result.readings:
        steps = [paragraph(f"{n}. {step.text(show)}.") for n, step in enumerate(result.readings["loading"], 1)]
        flow.append(KeepTogether([heading("Loading and unloading"), *steps]))
    return flow
