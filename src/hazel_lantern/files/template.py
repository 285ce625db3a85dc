"""Flat parts at their true size, to be printed, glued on and drilled through: holes with their crosses, bends."""

from __future__ import annotations

from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepTogether, Spacer

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.workshop.marks import LINE
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.core.workshop.solids import TOP, Sheet
from hazel_lantern.files.boards import Board
from hazel_lantern.files.build_sheet import MARGIN, PAGE, QUIET, WIDE, heading, pages, paragraph, title

LONGEST = PAGE[1] - 2 * MARGIN - 40.0  # mm of a part that fits a page upright, under its heading
CROSS = 4.0  # mm of a hole's cross beyond its edge


class TrueSize(Board):
    """One flat part in millimetres, turned upright where that is how it fits."""

    def __init__(self, part: Part, sheet: Sheet) -> None:
        self._part, self._sheet = part, sheet
        self._upright = sheet.length * 1e3 > WIDE
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


def fits(part: Part) -> bool:
    """Whether it fits a page at its true size."""
    if not isinstance(part.solid, Sheet):
        return False
    short, long = sorted((part.solid.length * 1e3, part.solid.width * 1e3))
    return short <= WIDE and long <= LONGEST


def pdf(project: Project, result: Evaluation, show: Display) -> bytes:
    """All flat parts of a rig that fit a page. Raises InputError where there is none."""
    parts = [part for part in result.parts if fits(part) and part.marks]
    if not parts:
        raise InputError("rig", result.rig.id, "has no flat part that fits a page at its true size")

    def flow() -> list[Flowable]:
        made: list[Flowable] = [
            title(result.rig.name, f"{project.name} · true size"),
            paragraph("Print at 100 % and measure the bar at the foot before anything is drilled.", QUIET),
        ]
        for part in parts:
            made.append(KeepTogether(_one(part, show)))
        return made

    return pages(f"{project.name} · {result.rig.name} · templates", flow)


def _one(part: Part, show: Display) -> list[Flowable]:
    assert isinstance(part.solid, Sheet)
    pieces = f"{part.quantity} × {part.solid.cut_from}" + (f" · {part.matched}" if part.matched else "")
    told = [
        paragraph(f"{n}  {mark.note}" + (f", ø {show.text(mark.size, 'm', fine=True)}" if mark.size else ""), QUIET)
        for n, mark in enumerate(part.marks, 1)
        if mark.face == TOP
    ]
    return [heading(f"{part.mark} {part.name}", pieces), TrueSize(part, part.solid), Spacer(0, 2 * mm), *told]
