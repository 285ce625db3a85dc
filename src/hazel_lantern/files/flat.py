"""Flat parts at their true size for a machine that cuts: outlines closed, holes as circles, what is written beside."""

from __future__ import annotations

import io
import math
from collections.abc import Iterator
from html import escape

import numpy as np
from msgspec import Struct

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.workshop.marks import HOLE
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.core.workshop.solids import TOP, Sheet

ROW, BESIDE, LETTERS = 1.2, 0.012, 5.0  # metres of a row and between two parts; mm of a letter
CUT, ENGRAVE = "#ff0000", "#0000ff"


class Laid(Struct, frozen=True):
    """One part where it lies on the sheet: its outline (n, 2), holes as places and diameters (m, 3) [m], where its
    words begin, and the words.
    """

    outline: np.ndarray
    holes: np.ndarray
    at: tuple[float, float]
    words: str


def lay(result: Evaluation, show: Display) -> list[Laid]:
    """All flat parts side by side in rows, each once with how often it is cut.
    Raises InputError where there is none."""
    parts = [part for part in result.parts if isinstance(part.solid, Sheet)]
    if not parts:
        raise InputError("rig", result.rig.id, "has no flat part to cut")
    found, x, y, high = [], 0.0, 0.0, 0.0
    for part in parts:
        long, wide, _ = part.solid.box
        if x > 0 and x + long > ROW:
            x, y, high = 0.0, y + high + BESIDE + 3 * LETTERS / 1e3, 0.0
        found.append(_one(part, x, y, show))
        x, high = x + long + BESIDE, max(high, wide)
    return found


def _one(part: Part, x: float, y: float, show: Display) -> Laid:
    sheet = part.solid
    assert isinstance(sheet, Sheet)
    outline = np.array(sheet.outline)
    low = float(outline[:, 1].min())
    holes = [
        (x + mark.at, y + (sheet.width / 2 if mark.across is None else mark.across), mark.size)
        for mark in part.marks
        if mark.face == TOP and mark.what == HOLE and mark.size
    ]
    words = f"{part.mark} {part.name}, {part.quantity} of {sheet.cut_from}; {part.matched or 'finished size'}"
    return Laid(outline + (x, y - low), np.array(holes).reshape(-1, 3), (x, y - 2 * LETTERS / 1e3), words)


def dxf(result: Evaluation, show: Display, title: str) -> bytes:
    """R2010 in millimetres: outlines on CUT, holes on HOLE, words on TEXT. Raises InputError where nothing is flat."""
    from ezdxf.document import Drawing

    laid = lay(result, show)
    document = Drawing.new("R2010")
    document.header["$INSUNITS"], document.header["$MEASUREMENT"] = 4, 1
    for layer, colour in (("CUT", 1), ("HOLE", 5), ("TEXT", 7)):
        document.layers.add(layer, color=colour)
    space = document.modelspace()
    for one in laid:
        space.add_lwpolyline(_left(one.outline), close=True, dxfattribs={"layer": "CUT"})
        for x, y, size in one.holes:
            space.add_circle((_mm(x), _mm(y)), _mm(size) / 2, dxfattribs={"layer": "HOLE"})
        text = space.add_text(one.words, height=LETTERS, dxfattribs={"layer": "TEXT"})
        text.set_placement((_mm(one.at[0]), _mm(one.at[1])))
    said = space.add_text(
        f"{title}: finished sizes; the machine takes off its own cut", height=LETTERS, dxfattribs={"layer": "TEXT"}
    )
    said.set_placement((0.0, _mm(min(one.at[1] for one in laid)) - 4 * LETTERS))
    if document.audit().errors:
        raise RuntimeError("the drawing did not pass its own audit")
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode()


def svg(result: Evaluation, show: Display, title: str) -> bytes:
    """One unit is one millimetre: cuts red, words blue. Raises InputError where nothing is flat."""
    laid = lay(result, show)
    points = np.vstack([one.outline for one in laid])
    top, right, foot = float(points[:, 1].max()), float(points[:, 0].max()), min(one.at[1] for one in laid)
    margin = 0.01
    wide, high = (right + 2 * margin) * 1e3, (top - foot + 3 * margin) * 1e3

    def at(x: float, y: float) -> tuple[str, str]:
        return f"{(x + margin) * 1e3:.4f}", f"{(top + margin - y) * 1e3:.4f}"

    return "\n".join(
        [
            f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:.2f}mm" height="{high:.2f}mm" viewBox="0 0 '
            f'{wide:.2f} {high:.2f}">',
            f"<title>{escape(title)}</title>",
            "<desc>Finished sizes; the machine takes off its own cut.</desc>",
            *_marks(laid, at),
            "</svg>",
            "",
        ]
    ).encode()


def _marks(laid: list[Laid], at) -> Iterator[str]:  # type: ignore[no-untyped-def]
    cut = f'fill="none" stroke="{CUT}" stroke-width="0.1"'
    for one in laid:
        through = " ".join(",".join(at(x, y)) for x, y in one.outline)
        yield f'<polygon points="{through}" {cut}/>'
        for x, y, size in one.holes:
            cx, cy = at(x, y)
            yield f'<circle cx="{cx}" cy="{cy}" r="{size * 500:.4f}" {cut}/>'
        tx, ty = at(*one.at)
        yield (
            f'<text x="{tx}" y="{ty}" font-size="{LETTERS}" font-family="sans-serif" '
            f'fill="{ENGRAVE}">{escape(one.words)}</text>'
        )


def _mm(value: float) -> float:
    return round(float(value) * 1e3, 4)


def _left(points: np.ndarray) -> list[tuple[float, float]]:
    """An outline in millimetres that turns left."""
    outline = [(_mm(x), _mm(y)) for x, y in points]
    area = math.fsum(a[0] * b[1] - b[0] * a[1] for a, b in zip(outline, outline[1:] + outline[:1], strict=True))
    return outline if area > 0 else outline[::-1]
