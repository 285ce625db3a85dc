"""A bar of unknown stuff, measured before anything is designed with it:
bent by a weight, weighed, balanced on an edge."""

from __future__ import annotations

import re

from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.catalogue import Catalogue, Material, StockSection
from hazel_lantern.core.nouns.check import positive
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import within
from hazel_lantern.core.proving.repeats import mean

FEWEST = 3
WITHIN = (0.25, 2.5)  # times what stuff of its looks has, beyond which it is another, or another size
SLENDER = 15.0  # times its depth that it is laid over: shorter bars shear too


class Bent(Struct, frozen=True):
    """What was read: laid over a span [m] on two edges, a weight hung in its middle [kg], how far that sank each time
    (n,) [m]; all of it weighs [kg] and is long [m].
    """

    span: float
    load: float
    drops: tuple[float, ...]
    mass: float
    length: float


class MeasuredBar(Struct, frozen=True):
    """Rows for the shelf: its stuff and its section; stiffness E*I with how far it may be off in 95
    of 100 cases [N*m^2]."""

    material: Material
    section: StockSection
    stiffness: float
    give: float


def measured_bar(name: str, like: StockSection, read: Bent, catalogue: Catalogue) -> MeasuredBar:
    """A bar as large and shaped as a row of the catalogue, of stuff that looks like that row's.

    Its strength is not measured by bending it a little: it is taken as that of the weakest stuff of the same looks.
    Raises InputError; InfeasibleError UNLIKELY for stiffness or weight that no such stuff has. Source: dynamics 8.5,
    one span on rigid edges.
    """
    if not name.strip():
        raise InputError("name", repr(name), "a name is needed")
    positive(span=read.span, load=read.load, mass=read.mass, length=read.length)
    if len(read.drops) < FEWEST:
        raise InputError("drops", len(read.drops), f"{FEWEST} readings at the least")
    positive(**{f"drop_{n}": drop for n, drop in enumerate(read.drops, 1)})
    if read.span > read.length:
        raise InputError("span", read.span, f"must be within the bar's length, {read.length} m")
    if read.span < SLENDER * like.depth:
        raise InputError(
            "span", read.span, f"must be {SLENDER:g} times the bar's depth, {SLENDER * like.depth:.2f} m, at the least"
        )
    found, section = mean([read.load * GRAVITY * read.span**3 / (48 * drop) for drop in read.drops]), like.section()
    stuff = catalogue.materials[like.material]
    upright = float(section.upright)
    stiff, density = found.value / upright, read.mass / read.length / float(section.area)
    for what, value, usual in (("stiff", stiff, stuff.E), ("heavy", density, stuff.density)):
        if not WITHIN[0] <= value / usual <= WITHIN[1]:
            raise InfeasibleError(
                f"it comes out {value / usual:.2f} times as {what} as {within(stuff.short)}: another stuff or "
                "another size; choose the row it looks like first",
                "UNLIKELY",
            )
    either = found.half_width / upright
    weakest = min((m for m in catalogue.materials.values() if m.fill == stuff.fill), key=lambda m: m.strength)
    key = "measured-" + (re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-") or "bar")
    material = replace(
        stuff,
        id=key,
        name=f"{name.strip()}, measured",
        pack="",
        E=stiff,
        E_low=stiff - either,
        E_high=stiff + either,
        G=stuff.G * stiff / stuff.E,
        density=density,
        strength=weakest.strength,
        long_load=min(stuff.long_load, weakest.long_load),
    )
    of = f"{name.strip()}, measured: E {stiff / 1e9:.1f} ± {either / 1e9:.1f} GPa"
    return MeasuredBar(material, replace(like, id=key, name=of, material=key, pack=""), found.value, found.half_width)
