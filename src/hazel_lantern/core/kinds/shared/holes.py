"""Holes as part of a member's strength: what is left of its section beside each of them."""

from __future__ import annotations

from msgspec import Struct

from hazel_lantern.core.catalogue import StockSection
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.core.workshop.solids import SIDE, TOP, Sheet

# Stress beside a hole over that of the section left: metals give way and even it out; statics 3.
NOTCH = {"ductile": 1.0, "wood": 1.0, "brittle": 2.5}


class Drilled(Struct, frozen=True):
    """A hole through a member: how far along it from where its body begins, its size [m], the face it goes into, what
    it is for.
    """

    at: float
    size: float
    face: str
    note: str


def holes_along(parts: tuple[Part, ...], name: str) -> tuple[Drilled, ...]:
    """Holes of all pieces of a name, or that begin with it, along the axis they lie on, each told once."""
    found = {}
    for part in parts:
        if not part.name.startswith(name):
            continue
        for place in part.places:
            for mark in part.marks:
                if mark.face in (TOP, SIDE) and mark.size:
                    at = round(place.at[0] + place.along[0] * mark.at, 9)
                    found[at, mark.size, mark.face] = Drilled(at, mark.size, mark.face, mark.note)
    return tuple(found.values())


def left_beside(bar: StockSection, hole: Drilled) -> float:
    """Section modulus against upright bending left at a hole [m^3]; zero where nothing is left."""
    return max(0.0, bar.left_at(hole.size) if hole.face == TOP else bar.left_across(hole.size))


def stress(moment: float, modulus: float) -> float:
    """Bending over what is left [Pa]; infinite where nothing is."""
    return moment / modulus if modulus > 0 else float("inf") if moment > 0 else 0.0


def board_modulus(part: Part, *, crosswise: bool = False, at: float | None = None) -> float:
    """Section modulus of a flat board against bending along it, or crosswise, at the row of holes that takes most of
    it [m^3]; as wide as it is at a place along that way [m], or all over. Raises TypeError for what is no board.
    """
    if not isinstance(part.solid, Sheet):
        raise TypeError(f"{part.name} is no board")
    long, wide, thick = part.solid.box
    whole = (long if crosswise else wide) if at is None else _wide(part.solid, at, crosswise=crosswise)
    holes = [(part.spot(mark)[1] if crosswise else mark.at, mark.size) for mark in part.marks if mark.face == TOP]
    taken = [sum(size for at, size in holes if abs(at - here) < (size + width) / 2) for here, width in holes]
    return (whole - max(taken, default=0.0)) * thick**2 / 6


def _wide(sheet: Sheet, at: float, *, crosswise: bool) -> float:
    """Width of a convex outline across its length, or along it, at a place [m]."""
    axis, found = 1 if crosswise else 0, []
    if crosswise:
        at -= sheet.width / 2  # its own frame is from the middle of its width
    for a, b in zip(sheet.outline, (*sheet.outline[1:], sheet.outline[0]), strict=True):
        low, high = sorted((a[axis], b[axis]))
        if low <= at <= high and high > low:
            share = (at - a[axis]) / (b[axis] - a[axis])
            found.append(a[1 - axis] + share * (b[1 - axis] - a[1 - axis]))
    return max(found) - min(found) if found else 0.0
