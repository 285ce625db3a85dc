"""A rig laid out in space: its parts and ready-made things, their masses body by body, its holes, and what has to be
bought for it.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.core.mechanics.track import Frames
from hazel_lantern.core.workshop.marks import Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part, ReadyMade
from hazel_lantern.core.workshop.solids import Place, Solid, face

SAME = 1e-4  # metres within which two holes lie on one line

Bodies = Mapping[str, Frames]


class Placed(Struct, frozen=True):
    """One piece: its name, what it is painted as, its mass [kg], the body it moves with; its centre of mass (3,) and
    corners (n, 3) in that body's frame [m].
    """

    name: str
    fill: str
    mass: float
    body: str
    centre: np.ndarray
    corners: np.ndarray


class Hole(Struct, frozen=True):
    """A hole of a piece in space: its part and mark, a point (3,) [m] half-way through the piece and the hole's
    direction (3,).
    """

    part: Part
    mark: Mark
    at: np.ndarray
    way: np.ndarray


def on_one_line(found: Sequence[Hole], reach: float) -> list[list[Hole]]:
    """Holes in groups that one straight bolt each goes through.

    found: holes in space
    reach: how far apart two holes on one bolt may be [m]

    Returns: the groups, in the order of their first holes. Source: geometry.
    """
    at, way = np.array([hole.at for hole in found]), np.array([hole.way for hole in found])
    gap = at[:, None] - at
    across = gap - np.einsum("ijk,ik->ij", gap, way)[..., None] * way[:, None]
    turned = 1 - np.abs(way @ way.T)
    meets = (np.linalg.norm(across, axis=2) < SAME) & (turned < SAME**2) & (np.linalg.norm(gap, axis=2) <= reach)
    groups: list[list[int]] = []
    for n in range(len(found)):
        held = next((group for group in groups if meets[group[0], n]), None)
        if held is None:
            groups.append([n])
        else:
            held.append(n)
    return [[found[n] for n in group] for group in groups]


class Pieces(Struct, frozen=True):
    """Parts to make and ready-made things, each with its places; what goes through their holes; what is bought
    without a place of its own; names that sit in one another on purpose, those of an outline too rough to tell with
    nothing.
    """

    parts: tuple[Part, ...] = ()
    things: tuple[ReadyMade, ...] = ()
    fastenings: tuple[Fastening, ...] = ()
    loose: tuple[Buy, ...] = ()
    nested: tuple[tuple[str, str], ...] = ()

    def __add__(self, other: Pieces) -> Pieces:
        return Pieces(
            self.parts + other.parts,
            self.things + other.things,
            self.fastenings + other.fastenings,
            self.loose + other.loose,
            self.nested + other.nested,
        )

    def each(self) -> Iterator[Placed]:
        """Every piece by itself; screws and small fittings are left out."""
        sorts: list[tuple[str, str, float, Solid, tuple[Place, ...]]] = [
            (part.name, part.material, part.mass, part.solid, part.places) for part in self.parts
        ]
        sorts += [(thing.name, thing.fill, thing.mass, thing.outline, thing.places) for thing in self.things]
        for name, fill, mass, solid, places in sorts:
            centre, corners = solid.centre, solid.corners()
            for place in places:
                axes = place.axes
                yield Placed(name, fill, mass, place.body, axes @ centre + place.at, corners @ axes.T + place.at)


class Laid(Pieces, frozen=True):
    """All pieces of a rig put together: each at its place, and what has to be bought beside bars."""

    placed: tuple[Placed, ...] = ()
    bought: tuple[Buy, ...] = ()

    @property
    def mass(self) -> float:
        """Of all pieces [kg]."""
        return sum(piece.mass for piece in self.placed)

    def mass_on(self, body: str) -> float:
        """Of all that moves with a body [kg]."""
        return sum(piece.mass for piece in self.placed if piece.body == body)

    def weigh(self, body: str, without: str = "") -> tuple[float, np.ndarray]:
        """Mass [kg] and centre of mass (3,) in its frame [m] of all that moves with a body, one name left out; its
        origin where nothing does.
        """
        found = [piece for piece in self.placed if piece.body == body and piece.name != without]
        mass = sum(piece.mass for piece in found)
        return mass, sum((piece.mass * piece.centre for piece in found), np.zeros(3)) / (mass or 1.0)


def holes(parts: tuple[Part, ...], bodies: Bodies) -> list[Hole]:
    """All holes in space; lines are none.

    parts: pieces to make
    bodies: the frame of every body at one pose

    Returns: holes, part by part. Source: geometry.
    """
    found = []
    for part in parts:
        for place in part.places:
            frame = place.frame(bodies)
            for mark in (mark for mark in part.marks if mark.size):
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
    through: dict[str, list[Hole]] = {}
    for hole in holes(pieces.parts, bodies):
        if hole.mark.fastening:
            through.setdefault(hole.mark.fastening, []).append(hole)
    # A hole whose fastening is not given is a mistake of the kind that laid it.
    counts = {
        key: 1 if known[key].one_of else len(on_one_line(found, known[key].reach)) for key, found in through.items()
    }
    found = [
        Buy(item.name, item.quantity * counts[key], item.price, item.note)
        for key, one in known.items()
        if key in counts
        for item in one.items
    ]
    found += [
        Buy(thing.name, len(thing.places), thing.price, thing.note)
        for thing in pieces.things
        if thing.price is not None
    ]
    merged: dict[tuple[str, float, str], int] = {}
    for buy in (*found, *pieces.loose):
        line = buy.name, buy.price, buy.note
        merged[line] = merged.get(line, 0) + buy.quantity
    bought = tuple(Buy(name, quantity, price, note) for (name, price, note), quantity in merged.items())
    return Laid(
        pieces.parts, pieces.things, pieces.fastenings, pieces.loose, pieces.nested, tuple(pieces.each()), bought
    )
