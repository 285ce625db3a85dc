"""The sketch written as SVG and DXF, in true millimetres."""

from __future__ import annotations

import io
import math
from html import escape
from typing import Any

import numpy as np

from hazel_lantern.core.nouns.sketch import GHOST, LOADS, SWEEP, Sketch
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.files.sketch_writer import FILLS, write

LEFT_OUT = (GHOST, SWEEP, LOADS)
TEXT = 35  # mm high
INK = "#20251d"


class _Svg:
    """Elements of an SVG: one unit is one millimetre, from the upper left corner of the box."""

    def __init__(self, left: float, top: float) -> None:
        self._left, self._top = left, top
        self.body: list[str] = []

    def _at(self, point: np.ndarray) -> tuple[str, str]:
        return f"{(point[0] - self._left) * 1e3:.2f}", f"{(self._top - point[1]) * 1e3:.2f}"

    def _through(self, points: np.ndarray) -> str:
        return " ".join(",".join(self._at(point)) for point in points)

    def outline(self, points: np.ndarray, role: str) -> None:
        fill = FILLS.get(role, "none")
        self.body.append(f'<polygon points="{self._through(points)}" fill="{fill}" stroke="{INK}" stroke-width="1.5"/>')

    def line(self, points: np.ndarray, role: str, width: float, dash: bool) -> None:
        dashes = ' stroke-dasharray="12 9"' if dash else ""
        drawn = f'stroke="{FILLS.get(role, INK)}" stroke-width="{max(width * 1e3, 1.5):.2f}"{dashes}'
        self.body.append(f'<polyline points="{self._through(points)}" fill="none" {drawn}/>')

    def ring(self, at: np.ndarray, radius: float) -> None:
        x, y = self._at(at)
        self.body.append(
            f'<circle cx="{x}" cy="{y}" r="{radius * 1e3:.2f}" fill="#ffffff" stroke="{INK}" stroke-width="2"/>'
        )

    def size(self, a: np.ndarray, b: np.ndarray, words: str) -> None:
        through = self._through(np.array([a, b]))
        self.body.append(f'<polyline points="{through}" fill="none" stroke="#545c4c" stroke-width="1.5"/>')
        self.words((a + b) / 2, words)

    def words(self, at: np.ndarray, words: str) -> None:
        x, y = self._at(at)
        letters = f'font-size="{TEXT}" font-family="sans-serif" text-anchor="middle"'
        halo = 'paint-order="stroke" stroke="#ffffff" stroke-width="8"'
        self.body.append(f'<text x="{x}" y="{y}" {letters} {halo}>{escape(words)}</text>')


def svg(sketch: Sketch, show: Display, title: str) -> bytes:
    """The drawing at full size: one unit is one millimetre; ghosts, sweep and loads left out."""
    x0, y0, x1, y1 = sketch.box
    pen, wide, high = _Svg(x0, y1), f"{(x1 - x0) * 1e3:.2f}", f"{(y1 - y0) * 1e3:.2f}"
    write(sketch, pen, show, LEFT_OUT)
    size = f'width="{wide}mm" height="{high}mm" viewBox="0 0 {wide} {high}"'
    head = f'<svg xmlns="http://www.w3.org/2000/svg" {size}>'
    return "\n".join([head, f"<title>{escape(title)}</title>", *pen.body, "</svg>", ""]).encode()


class _Dxf:
    """Entities of a DXF in millimetres: outlines closed and turning left, holes as circles;
    people and notes left out."""

    def __init__(self, space: Any) -> None:
        self._space = space

    def outline(self, points: np.ndarray, role: str) -> None:
        if role in ("person", "person-head"):
            return
        outline = _mm(points)
        if outline[0] == outline[-1]:
            outline.pop()
        if _area(outline) < 0:
            outline.reverse()
        self._space.add_lwpolyline(outline, close=True, dxfattribs={"layer": "CUT"})

    def line(self, points: np.ndarray, role: str, width: float, dash: bool) -> None:
        self._space.add_lwpolyline(_mm(points), dxfattribs={"layer": "MARK"})

    def ring(self, at: np.ndarray, radius: float) -> None:
        self._space.add_circle(_mm(at[None])[0], round(radius * 1e3 / 2, 4), dxfattribs={"layer": "HOLE"})

    def size(self, a: np.ndarray, b: np.ndarray, words: str) -> None:
        from ezdxf.enums import TextEntityAlignment

        start, end, middle = _mm(np.array([a, b, (a + b) / 2]))
        self._space.add_line(start, end, dxfattribs={"layer": "MARK"})
        text = self._space.add_text(words, height=TEXT, dxfattribs={"layer": "TEXT"})
        text.set_placement(middle, align=TextEntityAlignment.MIDDLE_CENTER)

    def words(self, at: np.ndarray, words: str) -> None:
        pass


def dxf(sketch: Sketch, show: Display, title: str) -> bytes:
    """The drawing at full size in millimetres, R2010: outlines closed, holes as circles."""
    from ezdxf.document import Drawing

    document = Drawing.new("R2010")
    document.header["$INSUNITS"], document.header["$MEASUREMENT"] = 4, 1
    for layer, colour in (("CUT", 1), ("HOLE", 5), ("MARK", 4), ("TEXT", 7)):
        document.layers.add(layer, color=colour)
    space = document.modelspace()
    write(sketch, _Dxf(space), show, LEFT_OUT)
    x0, y0, _, _ = sketch.box
    below = space.add_text(title.replace("\n", " "), height=TEXT, dxfattribs={"layer": "TEXT"})
    below.set_placement((x0 * 1e3, y0 * 1e3 - 80))
    if document.audit().errors:
        raise RuntimeError("the drawing did not pass its own audit")
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode()


def _mm(points: np.ndarray) -> list[tuple[float, float]]:
    return [(round(float(x) * 1e3, 4), round(float(y) * 1e3, 4)) for x, y in points]


def _area(points: list[tuple[float, float]]) -> float:
    return math.fsum(a[0] * b[1] - b[0] * a[1] for a, b in zip(points, points[1:] + points[:1], strict=True)) / 2
