"""What it comes to when it is carried: loads that one person lifts, in bags and bundles; what is too long for the car
or does not come round the corner behind the door.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from msgspec import Struct

from hazel_lantern.core.document.project import Carry
from hazel_lantern.core.workshop.laid import Laid

CASE, BAG, BUNDLE, TWO = "camera case", "bag", "bundle", "for two"
DIVIDED = ("weight",)  # what is poured or stacked, and so carried in as many portions as it takes
NOT_CARRIED = ("person",)


class Piece(Struct, frozen=True):
    """One thing to carry: mass [kg] and length [m]; ready-made things are short enough for any bag. The camera goes
    `alone`, in its own case.
    """

    name: str
    mass: float
    length: float = 0.0
    alone: bool = False


class Load(Struct, frozen=True):
    """What is picked up at once: in a bag, in a bundle of what is longer than the bag, or by two people."""

    sort: str
    pieces: tuple[Piece, ...]

    @property
    def mass(self) -> float:
        """Of all in it [kg]."""
        return sum(piece.mass for piece in self.pieces)

    @property
    def longest(self) -> float:
        """Of all in it [m]."""
        return max(piece.length for piece in self.pieces)


def pieces_of(laid: Laid, lift: float) -> tuple[Piece, ...]:
    """Every piece of a rig by itself; weights that one person does not lift in portions that they do.

    laid: the rig laid out
    lift: what one person lifts [kg]
    """
    found = [Piece(part.name, part.mass, part.length) for part in laid.parts for _ in part.places]
    for thing in laid.things:
        if thing.mass <= 0 or thing.fill in NOT_CARRIED:
            continue
        portions = math.ceil(thing.mass / lift - 1e-9) if thing.fill in DIVIDED else 1
        piece = Piece(thing.name, thing.mass / portions, alone=thing.fill == "camera")
        found += [piece] * portions * len(thing.places)
    return tuple(found)


def loads(pieces: Sequence[Piece], bag: float, lift: float) -> tuple[Load, ...]:
    """Pieces put together to what one person lifts: heaviest first, each into the first load with room for it.

    pieces: what is to be carried
    bag: longest that goes into a bag [m]; 0 where there is none, and all is tied in bundles
    lift: what one person lifts [kg]; a heavier piece goes by itself, between two or more

    Returns: loads, at most eleven ninths of the fewest possible and one more (first fit decreasing). Source: geometry.
    """
    open_: dict[str, list[list[Piece]]] = {CASE: [], BAG: [], BUNDLE: [], TWO: []}
    for piece in sorted(pieces, key=lambda one: -one.mass):
        if piece.mass > lift:
            open_[TWO].append([piece])
            continue
        same = open_[CASE if piece.alone else BAG if piece.length <= bag + 1e-9 and bag > 0 else BUNDLE]
        room = next((some for some in same if sum(one.mass for one in some) + piece.mass <= lift + 1e-9), None)
        if room is None:
            same.append([piece])
        else:
            room.append(piece)
    return tuple(Load(sort, tuple(some)) for sort, every in open_.items() for some in every)


def round_corner(door: float, hall: float) -> float:
    """The longest straight piece that is carried level through a door and round the corner of the hall behind it [m].

    door, hall: their clear widths [m]; without a hall it goes straight in, as long as it likes

    The piece touches both walls and the inner corner: L(a) = door / cos a + hall / sin a is least where
    tan^3 a = hall / door. Thin pieces; tilted up, a longer one may go. Source: geometry.
    """
    if door <= 0 or hall <= 0:
        return math.inf
    return float((door ** (2 / 3) + hall ** (2 / 3)) ** 1.5)


def longest_way(carry: Carry) -> tuple[float, str]:
    """The longest piece that comes along [m], and what stops a longer one; inf and nothing where nothing is asked."""
    ways = [(carry.car_m, "car"), (round_corner(carry.door_m, carry.hall_m), "door")]
    return min(((length, name) for length, name in ways if 0 < length < math.inf), default=(math.inf, ""))
