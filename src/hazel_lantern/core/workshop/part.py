"""Parts to make and things to buy, each a solid with its places on the rig."""

from __future__ import annotations

from msgspec import Struct

from hazel_lantern.core.workshop.marks import Mark
from hazel_lantern.core.workshop.solids import END, TOP, Block, Place, Shaped

MATCH, EXACT, FREE = "match its twin", "exact", "free"


class Part(Struct, frozen=True):
    """A piece to make: its mark, its solid, where it sits (once for each piece), marks from the datum end and the
    datum edge, what it must match.
    """

    mark: str
    name: str
    solid: Shaped
    places: tuple[Place, ...]
    marks: tuple[Mark, ...] = ()
    datum: str = ""
    matched: str = ""

    @property
    def section(self) -> str:
        """The stock it is cut from, empty for what is sawn from a sheet or turned from a blank."""
        return self.solid.section

    @property
    def material(self) -> str:
        """What it is painted as."""
        return self.solid.material.fill

    @property
    def length(self) -> float:
        return self.solid.length

    @property
    def mass(self) -> float:
        """Of one piece [kg]."""
        return self.solid.mass

    @property
    def quantity(self) -> int:
        return len(self.places)

    @property
    def kept(self) -> tuple[str, float]:
        """How its length and holes are kept to, and within what [m]: twins are matched to each other, pieces that
        others are bolted to are exact, all else is free. Workshop judgement.
        """
        if "module" in self.matched:  # teeth
            return EXACT, 1e-4
        if self.matched and self.quantity > 1:
            return MATCH, 3e-4
        bolted = sum(bool(mark.fastening and mark.size) for mark in self.marks)
        return (EXACT, 5e-4) if bolted > 1 else (FREE, 3e-3)

    @property
    def from_datum(self) -> str:
        """Where marks are measured from, in words."""
        return self.datum if self.datum.startswith("one ") else f"the {self.datum or 'datum end'}"

    @property
    def faces(self) -> tuple[str, ...]:
        """The faces that are marked, in the order of their first marks."""
        return tuple(dict.fromkeys(mark.face for mark in self.marks))

    def width(self, face: str) -> float:
        """How wide one of its faces is, across the marks [m]."""
        _, wide, deep = self.solid.box
        return wide if face == TOP else deep

    def spot(self, mark: Mark) -> tuple[float, float]:
        """How far a mark lies from the datum end and from the edge of its face [m]."""
        across = self.width(mark.face) / 2 if mark.across is None else mark.across
        return self.length if mark.face == END else mark.at, across


class Buy(Struct, frozen=True):
    """A thing bought ready-made: how many, at what example price each."""

    name: str
    quantity: int
    price: float
    note: str = ""


class ReadyMade(Struct, frozen=True):
    """What is bought ready-made or owned and has a place on the rig: its outline, mass [kg] and what it is painted
    as; `price` is None where it is not bought.
    """

    name: str
    outline: Block
    mass: float
    fill: str
    places: tuple[Place, ...]
    price: float | None = None
    note: str = ""


class Fastening(Struct, frozen=True):
    """What goes through holes, which name it by its key. It is bought once for each line on which such holes lie in
    space, no further apart than it reaches [m].

    `one_of` says that it sits in one of its holes at a time, so that one is bought for all.
    """

    key: str
    items: tuple[Buy, ...]
    reach: float = 1.0
    one_of: bool = False
