"""What is left beside a hole: to the piece's edges, to its neighbours on the same face,
and to the ends it pulls towards."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from hazel_lantern.core.workshop.marks import Mark
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.core.workshop.solids import END, TOP


class Wall(Struct, frozen=True):
    """The least that is left beside a hole of a part [m], below zero where it runs out of the piece or into the next
    hole.
    """

    part: Part
    mark: Mark
    left: float


# From a hole's middle to the piece's end, in diameters, below which it tears out; drive 8.4.
END_RULE = {"ductile": 1.5, "wood": 4.0, "brittle": 2.5}
PLY = 3.0


def from_ends(parts: tuple[Part, ...]) -> Wall | None:
    """The hole that something goes through which is nearest to an end of its piece, for what the material asks.

    parts: pieces to make

    Returns: part, hole and its distance from the end less what is asked [m]; None where nothing goes through any.
    Source: drive 8.4.
    """
    found = []
    for part in parts:
        long, family = part.solid.box[0], part.solid.material.family
        asked = PLY if part.solid.material.id in ("plywood", "mdf") else END_RULE.get(family, END_RULE["brittle"])
        found += [
            Wall(part, mark, min(mark.at, long - (mark.at if mark.until is None else mark.until)) - asked * mark.size)
            for mark in part.marks
            if mark.size and mark.fastening and mark.face != END
        ]
    return min(found, key=lambda wall: wall.left, default=None)


def thinnest(parts: tuple[Part, ...]) -> Wall | None:
    """The hole of all with least left beside it.

    parts: pieces to make

    Returns: part, hole and what is left; None where nothing is drilled. Source: geometry.
    """
    found = [
        wall
        for part in parts
        for face in dict.fromkeys(mark.face for mark in part.marks if mark.size)
        if (wall := _on_face(part, face))
    ]
    return min(found, key=lambda wall: wall.left, default=None)


def _on_face(part: Part, face: str) -> Wall:
    marks = [mark for mark in part.marks if mark.face == face and mark.size]
    long, wide, deep = part.solid.box
    along, across = {TOP: (long, wide), END: (wide, deep)}.get(face, (long, deep))
    start, end = (
        np.array([mark.at for mark in marks]),
        np.array([mark.at if mark.until is None else mark.until for mark in marks]),
    )
    y = np.array([across / 2 if mark.across is None else mark.across for mark in marks])
    radius = np.array([mark.size for mark in marks]) / 2
    left = np.min([start, along - end, y, across - y], axis=0) - radius
    # Slots lie along the piece: two are as far apart as their ends and their middle lines.
    apart = np.maximum(0.0, np.maximum(start[:, None] - end, start - end[:, None]))
    between = np.hypot(apart, y[:, None] - y) - radius[:, None] - radius
    np.fill_diagonal(between, np.inf)
    left = np.minimum(left, between.min(axis=1))
    k = int(np.argmin(left))
    return Wall(part, marks[k], float(left[k]))
