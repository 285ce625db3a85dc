"""A sketch written item by item with a pen; each format has a pen of its own."""

from __future__ import annotations

from collections.abc import Collection
from typing import Protocol

import numpy as np

from hazel_lantern.core.nouns.sketch import Note, Ring, Shape, Size, Sketch, Stroke
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


class Pen(Protocol):
    """What a format must be able to draw; all places in metres of the sketch."""

    def outline(self, points: np.ndarray, role: str) -> None:
        """A closed outline (n, 2)."""

    def line(self, points: np.ndarray, role: str, width: float, dash: bool) -> None:
        """A line through points (n, 2), as thick as the thing it shows [m]."""

    def ring(self, at: np.ndarray, radius: float) -> None:
        """A pivot or bolt."""

    def size(self, a: np.ndarray, b: np.ndarray, words: str) -> None:
        """A size line with its words."""

    def words(self, at: np.ndarray, words: str) -> None:
        """Words at a place."""


def write(sketch: Sketch, pen: Pen, show: Display, left_out: Collection[str]) -> None:
    """All items in painting order, some layers and what the lens sees left out."""
    for item in sketch.items:
        if getattr(item, "layer", "") in left_out or getattr(item, "role", "") == "view":
            continue
        if isinstance(item, Shape):
            pen.outline(item.points, item.role)
        elif isinstance(item, Stroke):
            pen.line(item.points, item.role, item.width, item.dash)
        elif isinstance(item, Ring):
            pen.ring(np.asarray(item.at), item.radius)
        elif isinstance(item, Size):
            pen.size(*size_ends(item), f"{show.text(item.value, item.unit)} {item.words}".strip())
        elif isinstance(item, Note):
            pen.words(np.asarray(item.at), item.words.text(show))


def size_ends(size: Size) -> tuple[np.ndarray, np.ndarray]:
    """Where the size line runs, moved aside by its offset."""
    a, b = np.asarray(size.a), np.asarray(size.b)
    along = (b - a) / max(float(np.linalg.norm(b - a)), 1e-12)
    shift = np.array([-along[1], along[0]]) * size.offset
    return a + shift, b + shift
