"""A part to make and a thing to buy."""

from __future__ import annotations

from msgspec import Struct

from hazel_lantern.core.workshop.marks import Mark


class Part(Struct, frozen=True):
    """A piece cut from a stock section: its mark, finished length [m], holes from the datum end, what it must match."""

    mark: str
    name: str
    section: str
    material: str
    length: float
    mass: float
    quantity: int = 1
    marks: tuple[Mark, ...] = ()
    datum: str = ""
    matched: str = ""


class Buy(Struct, frozen=True):
    """A thing bought ready-made: how many, at what example price each."""

    name: str
    quantity: int
    price: float
    note: str = ""
