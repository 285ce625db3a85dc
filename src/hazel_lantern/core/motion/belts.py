"""Toothed belts and chains between two wheels: length, centre distance, teeth in mesh, ripple."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.nouns.check import positive
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError

FEWEST = 5  # teeth of a sprocket


class Sprocket(Struct, frozen=True):
    """A chain wheel: pitch diameter [m], travel of the chain for a turn [m], and by how much of its mean the speed
    ripples.
    """

    diameter: float
    travel: float
    ripple: float


def sprocket(teeth: float, pitch: float) -> Sprocket:
    """A wheel of a chain, which lies on it as a polygon.

    teeth: of the wheel [-]
    pitch: of the chain [m]

    Returns: the wheel. Raises: InputError. Source: drive 1.7.
    """
    positive(z=teeth, pitch=pitch)
    if teeth < FEWEST:
        raise InputError("z", teeth, f"must be at least {FEWEST}")
    half = math.pi / teeth
    return Sprocket(pitch / math.sin(half), teeth * pitch, (1 - math.cos(half)) * half / math.sin(half))


def belt_length(first: float, second: float, apart: float) -> float:
    """A belt round two wheels, along its pitch line.

    first: pitch diameter of one wheel [m]
    second: of the other [m]
    apart: their middles [m]

    Returns: length [m]. Raises: InputError where one wheel would stand inside the other. Source: drive 1.7.
    """
    positive(D1=first, D2=second, C=apart)
    differ = abs(second - first)
    if differ >= 2 * apart:
        raise InputError("C", apart, f"must be more than {differ / 2:g} m")
    lean = math.asin(differ / (2 * apart))
    return 2 * apart * math.cos(lean) + math.pi * (first + second) / 2 + lean * differ


def belt_centres(first: float, second: float, length: float) -> float:
    """Where the middles of two wheels stand for a belt of a length.

    first: pitch diameter of one wheel [m]
    second: of the other [m]
    length: of the belt, along its pitch line [m]

    Returns: distance [m]. Raises: InputError; InfeasibleError `BELT_TOO_SHORT`. Source: drive 1.7.
    """
    positive(D1=first, D2=second, L=length)
    least = abs(second - first) / 2 * (1 + 1e-9) + 1e-9
    if length <= belt_length(first, second, least):
        raise InfeasibleError(
            "the belt is too short to lie round both wheels", "BELT_TOO_SHORT", least=belt_length(first, second, least)
        )
    # Longer the further apart they stand, and ever more so: Newton's steps from far out never pass the answer.
    apart = length
    for _ in range(60):
        less = (belt_length(first, second, apart) - length) / (
            2 * math.cos(math.asin(abs(second - first) / (2 * apart)))
        )
        apart -= less
        if abs(less) <= 1e-15 * length:
            break
    return apart


def in_mesh(first: float, second: float, apart: float, teeth: float) -> float:
    """Teeth of the first wheel that the belt lies on.

    first: pitch diameter of one wheel [m]
    second: of the other [m]
    apart: their middles [m]
    teeth: of the first wheel [-]

    Returns: teeth [-]. Raises: InputError. Source: geometry of two discs.
    """
    positive(D1=first, D2=second, C=apart, z=teeth)
    lean = math.asin(min(1.0, max(-1.0, (second - first) / (2 * apart))))
    return teeth * (math.pi - 2 * lean) / (2 * math.pi)


def chain_links(first: float, second: float, pitch: float, apart: float) -> int:
    """Links of a chain round two wheels, a whole even number.

    first: teeth of one wheel [-]
    second: of the other [-]
    pitch: of the chain [m]
    apart: their middles [m]

    Returns: links [-]. Raises: InputError. Source: drive 1.7.
    """
    positive(z1=first, z2=second, pitch=pitch, C=apart)
    links = 2 * apart / pitch + (first + second) / 2 + pitch * ((second - first) / (2 * math.pi)) ** 2 / apart
    return 2 * math.ceil(links / 2 - 1e-9)
