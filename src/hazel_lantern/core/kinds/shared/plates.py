"""Flat plates as large as their holes ask for."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.mechanics.footing import support_polygon
from hazel_lantern.core.workshop.fasteners import strip
from hazel_lantern.core.workshop.marks import Mark
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.core.workshop.solids import ACROSS, TOP, Place, Sheet

BOARD = 0.018
EDGE = 0.02  # metres of plate left around a hole


class Wanted(Struct, frozen=True):
    """A hole wanted in a plate: its place ahead and to the left [m], width [m], what it is for, what goes through."""

    x: float
    y: float
    size: float
    note: str
    fastening: str


def plate(
    design: Design,
    mark: str,
    name: str,
    holes: list[Wanted],
    least: tuple[float, float],
    body: str,
    z: float,
    *,
    around: tuple[float, float] = (0.0, 0.0),
    trimmed: bool = False,
) -> Part:
    """A level plate around all its holes, cut from the narrower strip; `least` is how long and wide it is at least
    about the point it is `around`, z
    its middle [m]; `trimmed` to the outline of its holes.
    """
    xs, ys = [hole.x for hole in holes], [hole.y for hole in holes]
    x0, x1 = min(*xs, around[0] + EDGE - least[0] / 2) - EDGE, max(*xs, around[0] + least[0] / 2 - EDGE) + EDGE
    y0, y1 = min(*ys, around[1] + EDGE - least[1] / 2) - EDGE, max(*ys, around[1] + least[1] / 2 - EDGE) + EDGE
    long, wide = x1 - x0, y1 - y0
    material, catalogue = design.catalogue.materials["plywood"], design.catalogue
    lengthwise, crosswise = strip(catalogue, material, BOARD, wide), strip(catalogue, material, BOARD, long)
    if crosswise and (lengthwise is None or crosswise.depth < lengthwise.depth):
        # Its strip runs across: measured from the right, and from its front edge.
        sheet = Sheet.rectangle(material, BOARD, wide, long, crosswise)
        place, datum, edge = Place(body, ((x0 + x1) / 2, y0, z), ACROSS), "right end", "front edge"
        at = [(hole.y - y0, x1 - hole.x) for hole in holes]
    else:
        sheet = Sheet.rectangle(material, BOARD, long, wide, lengthwise)
        place, datum, edge = Place(body, (x0, (y0 + y1) / 2, z)), "rear end", "right edge"
        at = [(hole.x - x0, hole.y - y0) for hole in holes]
    marks = [
        Mark(x, "hole", hole.size, note=hole.note, across=y, face=TOP, fastening=hole.fastening)
        for (x, y), hole in zip(at, holes, strict=True)
    ]
    marks.sort(key=lambda made: (made.at, made.across or 0.0))
    if trimmed:
        around_holes = np.array([(x + a, y + b) for x, y in at for a in (-EDGE, EDGE) for b in (-EDGE, EDGE)])
        hull = support_polygon(around_holes) - (0.0, sheet.width / 2)
        sheet = replace(sheet, outline=tuple((float(x), float(y)) for x, y in hull))
    return Part(mark, name, sheet, (place,), tuple(marks), datum, f"across from the {edge}")
