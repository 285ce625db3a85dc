"""Solids of a rig: what is cut, turned or bought, each in its own frame,
and where it sits on the body it moves with."""

from __future__ import annotations

import math
from collections.abc import Mapping
from functools import cached_property

import numpy as np
from msgspec import Struct

from hazel_lantern.core.catalogue import Catalogue, Material, StockSection
from hazel_lantern.core.mechanics.track import Frames

Vector = tuple[float, float, float]
FACETS = 16  # sides that stand for a round
TOP, SIDE, END = "top", "side", "end"
ALONG: Vector = (1.0, 0.0, 0.0)
ACROSS: Vector = (0.0, 1.0, 0.0)
UP: Vector = (0.0, 0.0, 1.0)
DOWN: Vector = (0.0, 0.0, -1.0)


class Place(Struct, frozen=True):
    """Where a solid sits: the body it moves with, where its own origin lies in that body's frame [m], and which ways
    its length and its height point.
    """

    body: str
    at: Vector = (0.0, 0.0, 0.0)
    along: Vector = ALONG
    up: Vector = UP

    @property
    def axes(self) -> np.ndarray:
        """Turn (3, 3) into the body's frame, columns along, aside and up."""
        (ax, ay, az), (ux, uy, uz) = self.along, self.up
        return np.array([(ax, uy * az - uz * ay, ux), (ay, uz * ax - ux * az, uy), (az, ux * ay - uy * ax, uz)])

    def frame(self, bodies: Mapping[str, Frames]) -> Frames:
        """Frames (n) of the solid itself, of those of all bodies (n)."""
        body = bodies[self.body]
        return Frames(body.place(self.at), body.axes @ self.axes)


class Bar(Struct, frozen=True):
    """A length of a stock section [m]. Own frame: x from its datum end, y and z from the middle of its width and
    depth.
    """

    stock: StockSection
    material: Material
    length: float

    @classmethod
    def of(cls, catalogue: Catalogue, section: str, length: float) -> Bar:
        """A length [m] of a section by its id."""
        stock = catalogue.sections[section]
        return cls(stock, catalogue.materials[stock.material], length)

    @property
    def section(self) -> str:
        return self.stock.id

    @property
    def cut_from(self) -> str:
        """What it is made from, in words."""
        return self.stock.name

    @property
    def mass(self) -> float:
        return self.stock.line(self.material) * self.length

    @property
    def box(self) -> Vector:
        """Length, width and depth [m]."""
        return self.length, self.stock.width, self.stock.depth

    @property
    def centre(self) -> Vector:
        return self.length / 2, 0.0, 0.0

    def corners(self) -> np.ndarray:
        """Points (n, 3) whose hull it is [m]."""
        if self.stock.shape in ("solid_round", "round_tube", "oval_tube"):
            return _round(0.0, self.length, self.stock.width, self.stock.depth)
        return _box(0.0, self.box)


class Sheet(Struct, frozen=True, dict=True):
    """A flat piece: material, thickness [m], corners (x, y) of its outline in order [m], and the stock strip it is
    cut from, None where it is sawn from a sheet.

    Own frame: x from its datum end along the strip, y from the middle of its width, z from the middle of its thickness.
    """

    material: Material
    thickness: float
    outline: tuple[tuple[float, float], ...]
    strip: StockSection | None = None

    @classmethod
    def rectangle(
        cls, material: Material, thickness: float, length: float, width: float, strip: StockSection | None = None
    ) -> Sheet:
        """A straight piece of a length and width [m]."""
        half = width / 2
        return cls(material, thickness, ((0.0, -half), (length, -half), (length, half), (0.0, half)), strip)

    @classmethod
    def of(cls, catalogue: Catalogue, strip: str, length: float) -> Sheet:
        """A length [m] of a stock strip, lying flat, by its id."""
        stock = catalogue.sections[strip]
        return cls.rectangle(catalogue.materials[stock.material], stock.width, length, stock.depth, stock)

    @property
    def section(self) -> str:
        return self.strip.id if self.strip else ""

    @property
    def cut_from(self) -> str:
        """What it is made from, in words."""
        return (
            self.strip.name if self.strip else f"{self.material.short} {self.thickness * 1e3:g} mm, sawn from a sheet"
        )

    # Kept once told: a gear has a thousand corners, and is asked at every turn.
    @cached_property
    def length(self) -> float:
        return max(x for x, _ in self.outline)

    @cached_property
    def width(self) -> float:
        return max(y for _, y in self.outline) - min(y for _, y in self.outline)

    @property
    def mass(self) -> float:
        return self._area[0] * self.thickness * self.material.density

    @property
    def box(self) -> Vector:
        """Length, width and thickness [m]."""
        return self.length, self.width, self.thickness

    @property
    def centre(self) -> Vector:
        _, x, y = self._area
        return x, y, 0.0

    @cached_property
    def _area(self) -> Vector:
        """Area [m^2] and its centre [m], by the shoelace sums."""
        area = x_moment = y_moment = 0.0
        for (x0, y0), (x1, y1) in zip(self.outline, (*self.outline[1:], self.outline[0]), strict=True):
            cross = x0 * y1 - x1 * y0
            area, x_moment, y_moment = area + cross / 2, x_moment + (x0 + x1) * cross, y_moment + (y0 + y1) * cross
        return abs(area), x_moment / (6 * area), y_moment / (6 * area)

    def corners(self) -> np.ndarray:
        """Points (n, 3) whose hull it is [m]."""
        flat = np.array(self.outline)
        return np.vstack(
            [np.column_stack([flat, np.full(len(flat), z)]) for z in (-self.thickness / 2, self.thickness / 2)]
        )


class Tapered(Struct, frozen=True):
    """A pole of one material that is as thick as a stock tube for a stretch and then tapers to another [m]. Own frame:
    x along it from its thick end.
    """

    stock: StockSection
    tip: StockSection
    material: Material
    straight: float
    length: float

    @property
    def section(self) -> str:
        return ""

    @property
    def cut_from(self) -> str:
        """What it is made from, in words."""
        name = self.stock.name[:1].lower() + self.stock.name[1:]
        return f"Tapered pole, {name}, to {self.tip.depth * 1e3:g} mm"

    @property
    def slope(self) -> float:
        """How fast it grows thinner on either side [-]."""
        return (self.stock.depth - self.tip.depth) / 2 / (self.length - self.straight)

    def _tapers(self, at: float) -> float:
        """How much of its taper lies before a place [-]."""
        return max(0.0, at - self.straight) / (self.length - self.straight)

    def thick(self, at: float) -> float:
        """Its thickness at a place [m]."""
        return self.stock.depth + (self.tip.depth - self.stock.depth) * self._tapers(at)

    def line(self, at: float) -> float:
        """Mass of a metre of it at a place [kg/m]."""
        thick, thin = self.stock.line(self.material), self.tip.line(self.material)
        return thick + (thin - thick) * self._tapers(at)

    @property
    def mass(self) -> float:
        taper = self.length - self.straight
        return self.line(0.0) * self.straight + (self.line(0.0) + self.line(self.length)) / 2 * taper

    @property
    def box(self) -> Vector:
        """Length, and its largest width and depth [m]."""
        return self.length, self.stock.width, self.stock.depth

    @property
    def centre(self) -> Vector:
        taper, thick, thin = self.length - self.straight, self.line(0.0), self.line(self.length)
        # A trapezium's centre lies (a + 2 b) / 3 (a + b) along it.
        far = self.straight + taper * (thick + 2 * thin) / (3 * (thick + thin))
        moment = thick * self.straight**2 / 2 + (thick + thin) / 2 * taper * far
        return moment / self.mass, 0.0, 0.0

    def corners(self) -> np.ndarray:
        """Points (n, 3) whose hull it is [m]."""
        ring = _round(0.0, self.straight, self.stock.depth)
        return np.vstack([ring, _round(self.straight, self.length, self.tip.depth)[FACETS:]])


class Turned(Struct, frozen=True):
    """A round piece: material, steps along its axis (length, diameter) [m], bore through all of it [m]. Own frame: x
    along its axis from its datum end.
    """

    material: Material
    steps: tuple[tuple[float, float], ...]
    bore: float = 0.0

    @property
    def section(self) -> str:
        return ""

    @property
    def cut_from(self) -> str:
        """What it is made from, in words."""
        return f"a blank of {self.material.short}, turned or printed"

    @property
    def length(self) -> float:
        return sum(long for long, _ in self.steps)

    @property
    def _volumes(self) -> list[float]:
        return [math.pi / 4 * (d**2 - self.bore**2) * long for long, d in self.steps]

    @property
    def mass(self) -> float:
        return sum(self._volumes) * self.material.density

    @property
    def box(self) -> Vector:
        """Length and twice its largest diameter [m]."""
        widest = max(d for _, d in self.steps)
        return self.length, widest, widest

    @property
    def centre(self) -> Vector:
        start, moment = 0.0, 0.0
        for (long, _), volume in zip(self.steps, self._volumes, strict=True):
            moment, start = moment + volume * (start + long / 2), start + long
        return moment / sum(self._volumes), 0.0, 0.0

    def corners(self) -> np.ndarray:
        """Points (n, 3) whose hull it is [m]."""
        starts = np.concatenate([[0.0], np.cumsum([long for long, _ in self.steps])])
        return np.vstack(
            [_round(float(a), float(b), d) for a, b, (_, d) in zip(starts[:-1], starts[1:], self.steps, strict=True)]
        )


class Block(Struct, frozen=True):
    """The outline of a bought thing: a box of length, width and depth [m] about its own middle, or a round one along
    x where `round` says so.
    """

    box: Vector
    round: bool = False

    @property
    def centre(self) -> Vector:
        return 0.0, 0.0, 0.0

    def corners(self) -> np.ndarray:
        """Points (n, 3) whose hull it is [m]."""
        long = self.box[0]
        return _round(-long / 2, long / 2, self.box[1]) if self.round else _box(-long / 2, self.box)


Shaped = Bar | Sheet | Tapered | Turned
Solid = Shaped | Block


def _box(start: float, box: Vector) -> np.ndarray:
    long, wide, deep = box
    return np.array(
        [(x, y, z) for x in (start, start + long) for y in (-wide / 2, wide / 2) for z in (-deep / 2, deep / 2)]
    )


def _round(start: float, end: float, d: float, high: float = 0.0) -> np.ndarray:
    around = 2 * math.pi * np.arange(FACETS) / FACETS
    ring = np.column_stack([np.zeros(FACETS), np.cos(around) * d / 2, np.sin(around) * (high or d) / 2])
    return np.vstack([ring + (start, 0.0, 0.0), ring + (end, 0.0, 0.0)])


def face(solid: Solid, name: str, at: float, across: float | None) -> tuple[np.ndarray, np.ndarray]:
    """A point of a solid's face and the way it looks, in the solid's frame.

    name: top (up), side (left) or end (along)
    at: from the datum end, on an end from its right-hand edge [m]
    across: from the right-hand edge of the top, from the lower edge of a side or an end; None for the middle [m]

    Returns: point (3,) [m] half-way through the solid, unit vector (3,).
    """
    _, wide, deep = solid.box
    if name == TOP:
        return np.array([at, 0.0 if across is None else across - wide / 2, 0.0]), np.array([0.0, 0.0, 1.0])
    if name == SIDE:
        return np.array([at, 0.0, 0.0 if across is None else across - deep / 2]), np.array([0.0, 1.0, 0.0])
    return np.array([solid.box[0], at - wide / 2, 0.0 if across is None else across - deep / 2]), np.array(
        [1.0, 0.0, 0.0]
    )
