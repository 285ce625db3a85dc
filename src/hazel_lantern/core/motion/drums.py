"""Cord on drums and reels: how many turns, how the speed grows with the layers, when a cord slips round a wheel."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.nouns.check import not_negative, positive
from hazel_lantern.core.nouns.errors import InputError

NESTED = math.sqrt(3) / 2  # of a cord's thickness that a layer adds where turns lie between those below
FILL = {"stacked": 0.785, "nested": 0.907}  # of a reel that is filled anyhow


class Drum(Struct, frozen=True):
    """Bare diameter and width between the flanges, thickness of the cord [m], and how far up a layer lies, in cords: 1
    where turns are stacked, less where they nest.
    """

    bare: float
    width: float
    cord: float
    pack: float = 1.0


class Wound(Struct, frozen=True):
    """A cord on a drum: turns, layers begun, radius of the cord's middle in the first and the last [m], and cord for a
    turn there [m].
    """

    turns: float
    layers: int
    first: float
    last: float
    first_turn: float
    last_turn: float

    @property
    def grows(self) -> float:
        """Speed of the last layer over that of the first."""
        return self.last / self.first


def _turn(radius: float, cord: float) -> float:
    return math.hypot(2 * math.pi * radius, cord)


def wound(drum: Drum, length: float) -> Wound:
    """A length of cord laid turn by turn in layers.

    drum: that it lies on
    length: of cord [m]

    Returns: turns, layers and radii; a layer that is just full is the last one. Raises: InputError, also for a drum
    without room for one turn. Source: drive 1.6.
    """
    positive(D0=drum.bare, d_cord=drum.cord, W=drum.width, pack=drum.pack)
    not_negative(L=length)
    each = math.floor(drum.width / drum.cord + 1e-9)
    if each < 1:
        raise InputError("W", drum.width, f"must hold at least one turn of the cord, {drum.cord:g} m")
    first = drum.bare / 2 + drum.cord / 2
    rest, layer, turns = length, 0, 0.0
    while True:
        around = _turn(first + layer * drum.cord * drum.pack, drum.cord)
        if rest <= each * around * (1 + 1e-12):
            break
        rest, layer, turns = rest - each * around, layer + 1, turns + each
    radius = first + layer * drum.cord * drum.pack
    return Wound(turns + rest / around, layer + 1, first, radius, _turn(first, drum.cord), around)


def one_layer(drum: Drum, length: float) -> float:
    """Width of a drum that takes a cord in one layer.

    drum: its bare diameter and cord
    length: of cord [m]

    Returns: width [m]. Raises: InputError. Source: drive 1.6.
    """
    positive(D0=drum.bare, d_cord=drum.cord)
    not_negative(L=length)
    return math.ceil(length / _turn(drum.bare / 2 + drum.cord / 2, drum.cord) - 1e-9) * drum.cord


def capstan(friction: float, wraps: float) -> float:
    """How much more a cord may be pulled on one side of a wheel than on the other before it slips.

    friction: of the cord on the wheel [-]
    wraps: angle that it lies around it [rad]

    Returns: ratio of the pulls [-]. Raises: InputError. Source: drive 1.4, belt friction.
    """
    not_negative(mu=friction, wraps=wraps)
    return math.exp(friction * wraps)
