"""A rig laid out in space: its parts and ready-made things, their masses body by body, its holes, and what has to be bought for it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

import numpy as np
from msgspec import Struct

from hazel_lantern.core.mechanics.track import Frames
from hazel_lantern.core.workshop.marks import Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part, ReadyMade
from hazel_lantern.core.workshop.solids import Place, Solid, face

SAME = 1e-4  # metres within which two holes lie on one line

Bodies = Mapping[str, Frames]


class Weighed(Struct, frozen=True):
    """One piece: what it is called, its mass [kg], its solid and its place."""

    name: str
    mass: float
    solid: Solid
    place: Place

    @property
    def centre(self) -> np.ndarray:
        """Its centre of mass (3,) in the frame of its body [m]."""
        return np.array(self.place.at) + self.place.axes @ self.solid.centre


class Hole(Struct, frozen=True):
    """A hole of a piece in space: its part and mark, a point (3,) [m] half-way through the piece and the hole's direction (3,)."""

    part: Part
    mark: Mark
    at: np.ndarray
    way: np.ndarray

    def meets(self, other: Hole, reach: float) -> bool:
        """Whether one straight bolt that reaches so far [m] goes through both."""
        gap = other.at - self.at
        aside = np.linalg.norm(np.cross(self.way, gap)) + np.linalg.norm(np.cross(self.way, other.way))
        return bool(aside < SAME and np.linalg.norm(gap) <= reach)


class Pieces(Struct, frozen=True):
    """Parts to make and ready-made things, each with its places; what goes through their holes; what is bought without a place of its own."""

    parts: tuple[Part, ...] = ()
    things: tuple[ReadyMade, ...] = ()
    fastenings: tuple[Fastening, ...] = ()
    loose: tuple[Buy, ...] = ()

    def __add__(self, other: Pieces) -> Pieces:
        return Pieces(self.parts + other.parts, self.things + other.things, self.fastenings + other.fastenings, self.loose + other.loose)

    @property
    def weighed(self) -> Iterator[Weighed]:
        """Every piece by itself; screws and small fittings are not weighed."""
        for part in self.parts:
            mass = part.mass
            yield from (Weighed(part.name, mass, part.solid, place) for place in part.places)
        for thing in self.things:
            yield from (Weighed(thing.name, thing.mass, thing.outline, place) for place in thing.places)

    @property
    def mass(self) -> float:
        """Of all pieces [kg]."""
        return sum(piece.mass for piece in self.weighed)

    def mass_on(self, body: str) -> float:
        """Of all that moves with a body [kg]."""
        return self.weigh(body)[0]

    def weigh(self, body: str, without: str = "") -> tuple[float, np.ndarray]:
        """Mass [kg] and centre of mass (3,) in its frame [m] of all that moves with a body, one name left out; its origin where nothing does."""
        found = [piece for piece in self.weighed if piece.place.body == body and piece.name != without]
        mass = sum(piece.mass for piece in found)
        return mass, sum((piece.mass * piece.centre for piece in found), np.zeros(3)) / (mass or 1.0)


class Laid(Pieces, frozen=True):
    """All pieces of a rig put together, and what has to be bought for it beside bars."""

    bought: tuple[Buy, ...] = ()


def holes(parts: tuple[Part, ...], bodies: Bodies) -> list[Hole]:
    """All holes in space.

    parts: pieces to make
    bodies: the frame of every body at one pose

    Returns: holes, part by part. Source: geometry.
    """
    found = []
    for part in parts:
        for place in part.places:
            frame = place.frame(bodies)
            for mark in part.marks:
                point, way = face(part.solid, mark.face, mark.at, mark.across)
                found.append(Hole(part, mark, frame.place(point)[0], frame.axes[0] @ way))
    return found


def lay(pieces: Pieces, bodies: Bodies) -> Laid:
    """A rig from its pieces; what goes through the holes is bought as often as the holes ask for it.

    pieces: all of it, with what goes through the holes
    bodies: the frame of every body at one pose, the rig put together

    Returns: the rig laid out. Raises: KeyError for a hole whose fastening is not given. Source: geometry.
    """
    known = {fastening.key: fastening for fastening in pieces.fastenings}
    lines: dict[str, list[Hole]] = {}
    for hole in holes(pieces.parts, bodies):
        if hole.mark.fastening:
            wanted, met = known[hole.mark.fastening], lines.setdefault(hole.mark.fastening, [])
            if not met or not (wanted.one_of or any(hole.meets(other, wanted.reach) for other in met)):
                met.append(hole)
    found = [Buy(item.name, item.quantity * len(lines[key]), item.price, item.note) for key, one in known.items() if key in lines for item in one.items]
    found += [Buy(thing.name, len(thing.places), thing.price, thing.note) for thing in pieces.things if thing.price is not None]
    merged: dict[tuple[str, float, str], int] = {}
    for buy in (*found, *pieces.loose):
        line = buy.name, buy.price, buy.note
        merged[line] = merged.get(line, 0) + buy.quantity
    bought = tuple(Buy(name, quantity, price, note) for (name, price, note), quantity in merged.items())
    return Laid(pieces.parts, pieces.things, pieces.fastenings, pieces.loose, bought)
