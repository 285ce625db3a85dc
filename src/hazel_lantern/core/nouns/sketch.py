"""A drawing as data: metres, roles and layers. The stage paints it, the exporters write it."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.words import Words

Point = tuple[float, float]
BODY, GHOST, SWEEP, SIZES, LOADS = "body", "ghost", "sweep", "sizes", "loads"


class Stroke(Struct, frozen=True):
    """A line through points (n, 2) [m], as thick as the thing it shows, 0 for a hair line."""

    points: np.ndarray
    role: str
    width: float = 0.0
    dash: bool = False
    layer: str = BODY


class Lines(Struct, frozen=True):
    """Many hair lines of one sort, ends (n, 2, 2) [m]."""

    points: np.ndarray
    role: str
    layer: str = BODY


class Shape(Struct, frozen=True):
    """A filled outline (n, 2) [m]."""

    points: np.ndarray
    role: str
    layer: str = BODY


class Ring(Struct, frozen=True):
    """A pivot or bolt."""

    at: Point
    radius: float
    role: str = "pivot"
    layer: str = BODY


class Size(Struct, frozen=True):
    """A size line from a to b, moved aside by `offset` [m]; `key` names the parameter when it may be typed."""

    a: Point
    b: Point
    offset: float
    value: float
    unit: str
    key: str = ""
    words: str = ""


class Handle(Struct, frozen=True):
    """A place to drag: by how much each parameter changes for a metre to the right and a metre up. A quiet one only
    shows itself under the pointer.
    """

    at: Point
    moves: tuple[tuple[str, Point], ...]
    name: str = ""
    quiet: bool = False

    @property
    def key(self) -> str:
        """The parameter it is called by."""
        return self.moves[0][0]


class Note(Struct, frozen=True):
    """Words at a place."""

    at: Point
    words: Words
    role: str = "muted"
    layer: str = BODY


class Arrow(Struct, frozen=True):
    """A force in newtons, drawn pointing along `direction` and ending at `at`."""

    at: Point
    direction: Point
    newtons: float
    layer: str = LOADS


Item = Stroke | Lines | Shape | Ring | Size | Handle | Note | Arrow


def handle(key: str, at: Point, axis: Point, per_metre: float = 1.0) -> Handle:
    """A handle on one parameter, which changes by so much for each metre along an axis."""
    return Handle(at, ((key, (axis[0] * per_metre, axis[1] * per_metre)),))


class Sketch(Struct, frozen=True):
    """Items in painting order and the box (x0, y0, x1, y1) [m] that must be seen; a framed sketch ends at its box."""

    items: tuple[Item, ...]
    box: tuple[float, float, float, float]
    title: str = ""
    ground: bool = True
    framed: bool = False

    def of(self, kind: type) -> list:  # type: ignore[type-arg]
        return [item for item in self.items if isinstance(item, kind)]


def box_outline(a: Point, b: Point, width: float) -> np.ndarray:
    """Corners (4, 2) of a bar from a to b of that width."""
    start, end = np.asarray(a, float), np.asarray(b, float)
    along = (end - start) / max(float(np.linalg.norm(end - start)), 1e-12)
    side = np.array([-along[1], along[0]]) * width / 2
    return np.array([start + side, end + side, end - side, start - side])
