"""Drawn things that flow on the pages of the build sheet: the rig to scale, bars to cut, parts to mark out."""

from __future__ import annotations

from typing import Any

import numpy as np
from reportlab.lib.units import mm
from reportlab.platypus import Flowable

from hazel_lantern.core.nouns.sketch import GHOST, LOADS, Sketch
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.workshop.cutting import Bar
from hazel_lantern.core.workshop.marks import Run, runs
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.core.workshop.solids import TOP, Sheet
from hazel_lantern.files.sketch_writer import FILLS, write

INK, MUTED, PAPER = "#20251d", "#545c4c", "#ffffff"
TEXT, BOLD = "Text", "Bold"
PLATE_HIGH, DRAWING_HIGH, STRIP_HIGH = 55.0, 110.0, 6.0  # mm
SCALES = (5, 10, 15, 20, 25, 30, 40, 50, 75, 100, 200, 500)
Spot = tuple[float, float]


class Board(Flowable):  # type: ignore[misc]
    """A drawing as wide as the page's text and `high` tall, in millimetres from its top left; a kind of board draws
    itself in `paint`.
    """

    canv: Any

    def __init__(self, wide: float, high: float) -> None:
        super().__init__()
        self.wide, self.high = wide, high
        self.width, self.height = wide * mm, high * mm

    def wrap(self, _wide: float, _high: float) -> tuple[float, float]:
        return self.width, self.height

    def draw(self) -> None:
        self.canv.saveState()
        self.paint()
        self.canv.restoreState()

    def paint(self) -> None:
        raise NotImplementedError

    def at(self, spot: Spot) -> Spot:
        """A place of the board on the page [points, up from the bottom]."""
        return spot[0] * mm, (self.high - spot[1]) * mm

    def text(self, spot: Spot, words: str, size: float = 8, colour: str = INK, align: str = "left") -> None:
        self.canv.setFont(TEXT, size)
        self.canv.setFillColor(colour)
        draw = {
            "left": self.canv.drawString,
            "right": self.canv.drawRightString,
            "middle": self.canv.drawCentredString,
        }[align]
        draw(*self.at(spot), words)

    def long(self, words: str, size: float) -> float:
        """How wide words run [mm]."""
        return float(self.canv.stringWidth(words, TEXT, size) / mm)

    def line(
        self, spots: list[Spot], width: float = 0.2, fill: str | None = None, colour: str = INK, *, dash: bool = False
    ) -> None:
        """A line, closed where it is filled."""
        path = self.canv.beginPath()
        for i, spot in enumerate(spots):
            (path.moveTo if i == 0 else path.lineTo)(*self.at(spot))
        if fill:
            path.close()
            self.canv.setFillColor(fill)
        self.canv.setStrokeColor(colour)
        self.canv.setLineWidth(width * mm)
        self.canv.setDash([3, 2] if dash else [])
        self.canv.drawPath(path, stroke=1, fill=1 if fill else 0)
        self.canv.setDash([])

    def box(
        self, a: Spot, b: Spot, width: float = 0.2, fill: str = PAPER, colour: str = INK, *, dash: bool = False
    ) -> None:
        self.line([a, (b[0], a[1]), b, (a[0], b[1])], width, fill, colour, dash=dash)

    def ring(self, spot: Spot, radius: float) -> None:
        self.canv.setFillColor(PAPER)
        self.canv.setStrokeColor(INK)
        self.canv.setLineWidth(0.2 * mm)
        self.canv.circle(*self.at(spot), radius * mm, stroke=1, fill=1)


class Drawing(Board):
    """The rig to a round scale; its words come last, so that nothing is drawn over them."""

    def __init__(self, sketch: Sketch, show: Display, wide: float) -> None:
        x0, y0, x1, y1 = self._box = sketch.box
        fits = min(wide / (x1 - x0), DRAWING_HIGH / (y1 - y0))
        self.scale = next((n for n in SCALES if 1000 / n <= fits), SCALES[-1])
        self._scale = 1000 / self.scale
        super().__init__(wide, (y1 - y0) * self._scale)
        self._left = (wide - (x1 - x0) * self._scale) / 2
        self._sketch, self._show = sketch, show
        self._sizes: list[tuple[np.ndarray, np.ndarray]] = []
        self._words: list[tuple[np.ndarray, str]] = []

    def paint(self) -> None:
        clip = self.canv.beginPath()
        clip.rect(0, 0, self.width, self.height)
        self.canv.clipPath(clip, stroke=0)
        self._sizes, self._words = [], []
        write(self._sketch, _SketchPen(self), self._show, (GHOST, LOADS))
        self.line([self.spot((self._box[0], 0.0)), self.spot((self._box[2], 0.0))], 0.3)
        for a, b in self._sizes:
            self.line([self.spot(a), self.spot(b)], 0.15, colour=MUTED)
        taken: list[Spot] = []
        for at, words in self._words:
            self._label(self.spot(at), words, taken)

    def spot(self, point: np.ndarray | Spot) -> Spot:
        """A place of the sketch on the board [mm]."""
        x = self._left + (float(point[0]) - self._box[0]) * self._scale
        return x, (self._box[3] - float(point[1])) * self._scale

    def thick(self, width: float) -> float:
        """A width of the sketch [m] on the board [mm], never too thin to see."""
        return max(width * self._scale, 0.15)

    def later(self, at: np.ndarray, words: str, size: tuple[np.ndarray, np.ndarray] | None = None) -> None:
        """Words, and a size line, that come last."""
        self._words.append((at, words))
        if size is not None:
            self._sizes.append(size)

    def _label(self, spot: Spot, words: str, taken: list[Spot]) -> None:
        """Words on white, moved up until they stand clear of the labels before them."""
        x, y = spot
        while any(abs(y - other[1]) < 4 and abs(x - other[0]) < 20 for other in taken):
            y -= 4
        taken.append((x, y))
        half = self.long(words, 7.5) / 2 + 0.8
        self.box((x - half, y - 2), (x + half, y + 1.6), 0.05, colour=PAPER)
        self.text((x, y + 0.8), words, 7.5, align="middle")


class _SketchPen:
    """Draws the items of a sketch on a board."""

    def __init__(self, board: Drawing) -> None:
        self._board = board

    def outline(self, points: np.ndarray, role: str) -> None:
        self._board.line([self._board.spot(p) for p in points], 0.15, FILLS.get(role, PAPER))

    def line(self, points: np.ndarray, role: str, width: float, dash: bool) -> None:
        spots = [self._board.spot(p) for p in points]
        self._board.line(spots, self._board.thick(width), colour=FILLS.get(role, MUTED), dash=dash)

    def ring(self, at: np.ndarray, radius: float) -> None:
        self._board.ring(self._board.spot(at), max(self._board.thick(radius), 0.6))

    def size(self, a: np.ndarray, b: np.ndarray, words: str) -> None:
        self._board.later((a + b) / 2, words, (a, b))

    def words(self, at: np.ndarray, words: str) -> None:
        self._board.later(at, words)


class CutBar(Board):
    """A bar of stock with its cuts, each with the mark of its part."""

    def __init__(self, bar: Bar, marks: list[str], stock: float, fill: str, show: Display, wide: float) -> None:
        super().__init__(wide, STRIP_HIGH + 3)
        self._bar, self._marks, self._stock, self._fill, self._show = bar, marks, stock, fill, show

    def paint(self) -> None:
        scale, x = self.wide / self._stock, 0.0
        self.box((0, 0), (self.wide, STRIP_HIGH), 0.1, dash=True)
        for cut, mark in zip(self._bar.cuts, self._marks, strict=True):
            wide = cut * scale
            self.box((x, 0), (x + wide, STRIP_HIGH), 0.2, FILLS.get(self._fill, PAPER))
            words = f"{mark}  {self._show.number(cut, 'm', fine=True)}"
            fits = self.long(words, 8) < wide - 1
            self.text((x + wide / 2, STRIP_HIGH - 1.9), words if fits else mark, align="middle")
            x += wide + 0.4


class MarkedOut(Board):
    """A part with its marks numbered: a plate true to scale, no larger than it is, a bar as a strip as long as the
    page is wide.
    """

    ABOVE, BELOW = 3.0, 5.0

    def __init__(self, part: Part, wide: float) -> None:
        self._part, self._plate = part, isinstance(part.solid, Sheet)
        across = part.width(TOP)
        self._scale = min(wide / part.length, PLATE_HIGH / across, 1e3) if self._plate else wide / part.length
        self._tall = across * self._scale if self._plate else 7.0
        super().__init__(wide, self.ABOVE + self._tall + self.BELOW)

    def paint(self) -> None:
        right, top, bottom = self._part.length * self._scale, self.ABOVE, self.ABOVE + self._tall
        fill = FILLS.get(self._part.material, PAPER)
        if isinstance(self._part.solid, Sheet):
            half = self._part.width(TOP) / 2
            outline = [(x * self._scale, bottom - (y + half) * self._scale) for x, y in self._part.solid.outline]
            self.line([*outline, outline[0]], 0.2, fill)
        else:
            self.box((0, top), (right, bottom), 0.2, fill)
        self.line([(0, top - 3), (0, bottom + 3)], 0.7)
        if self._plate:
            self.line([(0, bottom), (right, bottom)], 0.7)
        for number, run in enumerate(runs(self._part.marks), 1):
            self._run(number, run, bottom)

    def _run(self, number: int, run: Run, bottom: float) -> None:
        wide = self._part.width(run.marks[0].face)
        spots = [
            (along * self._scale, bottom - self._tall * across / wide)
            for along, across in map(self._part.spot, run.marks)
        ]
        (x, y), (last, _), until = spots[0], spots[-1], run.marks[0].until
        if until is not None:
            self.box((x, y - 1), (until * self._scale, y + 1))
        else:
            for spot in spots:
                self.ring(spot, 1.2)
        if self._plate:
            self.text((x + 1.8, y - 0.8), str(number), 7.5)
        else:
            self.text(((x + last) / 2, bottom + 3.2), str(number), 7.5, align="middle")
