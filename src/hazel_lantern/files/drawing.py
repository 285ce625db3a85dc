"""The sketch written as SVG and DXF, in true millimetres."""

from __future__ import annotations

import io
import math
from html import escape

import numpy as np

from hazel_lantern.core.nouns.sketch import GHOST, LOADS, SWEEP, Note, Ring, Shape, Size, Sketch, Stroke
from hazel_lantern.core.nouns.units import Display

FILLS = {
    "wood": "#c9975c",
    "aluminium": "#aeb6b8",
    "steel": "#7d868a",
    "plastic": "#d9d5c4",
    "rope": "#a08a5a",
    "camera": "#555e61",
    "lens": "#39424a",
    "weight": "#5a6266",
    "person": "#d7d9cd",
    "person-head": "#c3c6b6",
    "view": "#f6e3c4",
}
LEFT_OUT = (GHOST, SWEEP, LOADS)
TEXT = 0.035


def size_ends(size: Size) -> tuple[np.ndarray, np.ndarray]:
    """Where the size line runs, moved aside by its offset."""
    a, b = np.asarray(size.a), np.asarray(size.b)
    along = (b - a) / max(float(np.linalg.norm(b - a)), 1e-12)
    shift = np.array([-along[1], along[0]]) * size.offset
    return a + shift, b + shift


def size_words(size: Size, show: Display) -> str:
    """What stands in the pill."""
    return f"{show.text(size.value, size.unit)} {size.words}".strip()


def svg(sketch: Sketch, show: Display, title: str) -> bytes:
    """The drawing at full size: one unit is one millimetre; ghosts, sweep and loads left out."""
    x0, y0, x1, y1 = sketch.box
    width, height = (x1 - x0) * 1e3, (y1 - y0) * 1e3

    def at(point) -> str:  # type: ignore[no-untyped-def]
        return f"{(point[0] - x0) * 1e3:.2f},{(y1 - point[1]) * 1e3:.2f}"

    body = []
    for item in sketch.items:
        if getattr(item, "layer", "") in LEFT_OUT:
            continue
        if isinstance(item, Shape) and item.role != "view":
            body.append(
                f'<polygon points="{" ".join(map(at, item.points))}" fill="{FILLS.get(item.role, "none")}" stroke="#20251d" stroke-width="1.5"/>'
            )
        elif isinstance(item, Stroke):
            dash = ' stroke-dasharray="12 9"' if item.dash else ""
            body.append(
                f'<polyline points="{" ".join(map(at, item.points))}" fill="none" stroke="{FILLS.get(item.role, "#20251d")}" stroke-width="{max(item.width * 1e3, 1.5):.2f}"{dash}/>'
            )
        elif isinstance(item, Ring):
            x, y = at(item.at).split(",")
            body.append(
                f'<circle cx="{x}" cy="{y}" r="{item.radius * 1e3:.2f}" fill="#ffffff" stroke="#20251d" stroke-width="2"/>'
            )
        elif isinstance(item, Size):
            a, b = size_ends(item)
            x, y = at((a + b) / 2).split(",")
            body.append(f'<polyline points="{at(a)} {at(b)}" fill="none" stroke="#545c4c" stroke-width="1.5"/>')
            body.append(_svg_text(x, y, size_words(item, show)))
        elif isinstance(item, Note):
            x, y = at(item.at).split(",")
            body.append(_svg_text(x, y, item.words.text(show)))
    head = f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:.2f}mm" height="{height:.2f}mm" viewBox="0 0 {width:.2f} {height:.2f}">'
    return "\n".join([head, f"<title>{escape(title)}</title>", *body, "</svg>", ""]).encode()


def _svg_text(x: str, y: str, words: str) -> str:
    return f'<text x="{x}" y="{y}" font-size="{TEXT * 1e3:.0f}" font-family="sans-serif" text-anchor="middle" paint-order="stroke" stroke="#ffffff" stroke-width="8">{escape(words)}</text>'


def dxf(sketch: Sketch, show: Display, title: str) -> bytes:
    """The drawing at full size in millimetres, R2010: outlines closed, holes as circles."""
    from ezdxf.document import Drawing
    from ezdxf.enums import TextEntityAlignment

    document = Drawing.new("R2010")
    document.header["$INSUNITS"], document.header["$MEASUREMENT"] = 4, 1
    for layer, colour in (("CUT", 1), ("HOLE", 5), ("MARK", 4), ("TEXT", 7)):
        document.layers.add(layer, color=colour)
    space = document.modelspace()

    def mm(points: np.ndarray) -> list[tuple[float, float]]:
        return [(round(float(x) * 1e3, 4), round(float(y) * 1e3, 4)) for x, y in points]

    for item in sketch.items:
        if getattr(item, "layer", "") in LEFT_OUT:
            continue
        if isinstance(item, Shape) and item.role not in ("view", "person", "person-head"):
            outline = mm(item.points)
            if outline[0] == outline[-1]:
                outline.pop()
            if _area(outline) < 0:
                outline.reverse()
            space.add_lwpolyline(outline, close=True, dxfattribs={"layer": "CUT"})
        elif isinstance(item, Stroke):
            space.add_lwpolyline(mm(item.points), dxfattribs={"layer": "MARK"})
        elif isinstance(item, Ring):
            space.add_circle(mm(np.array([item.at]))[0], round(item.radius * 1e3 / 2, 4), dxfattribs={"layer": "HOLE"})
        elif isinstance(item, Size):
            a, b = size_ends(item)
            start, end = mm(np.array([a, b]))
            space.add_line(start, end, dxfattribs={"layer": "MARK"})
            words = space.add_text(size_words(item, show), height=TEXT * 1e3, dxfattribs={"layer": "TEXT"})
            words.set_placement(mm(np.array([(a + b) / 2]))[0], align=TextEntityAlignment.MIDDLE_CENTER)
    x0, y0, _, _ = sketch.box
    space.add_text(title.replace("\n", " "), height=TEXT * 1e3, dxfattribs={"layer": "TEXT"}).set_placement(
        (x0 * 1e3, y0 * 1e3 - 80)
    )
    if document.audit().errors:
        raise RuntimeError("the drawing did not pass its own audit")
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode()


def _area(points: list[tuple[float, float]]) -> float:
    return math.fsum(a[0] * b[1] - b[0] * a[1] for a, b in zip(points, points[1:] + points[:1], strict=True)) / 2
