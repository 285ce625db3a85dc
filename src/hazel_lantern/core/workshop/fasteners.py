"""Bolts by their stack, and pieces sawn from strips and sheets: what a shop sells for a size that is wanted."""

from __future__ import annotations

import math

from hazel_lantern.core.catalogue import Bolt, Catalogue, Material, StockSection
from hazel_lantern.core.nouns.units import INCH, inches
from hazel_lantern.core.workshop.part import Buy, Part
from hazel_lantern.core.workshop.solids import Sheet

BOLT_LENGTHS: tuple[int, ...] = (*range(10, 80, 5), 80, 90, 100, 110, 120, 130, 140, 150, 160, 180, 200)
SCREW_LENGTHS = (12, 16, 20, 25, 30, 35, 40)
SHY = 0.002  # metres that a screw from below ends before the upper face
SAME = 1e-6  # metres within which two sizes are one
SHEET_PRICE = 35.0  # of a square metre of 18 mm, as an example


def bolt_length(stack: float, nut: float) -> int:
    """Shop length [mm] of a bolt.

    stack: all that it passes [m]
    nut: nut and thread beyond it [m]

    Returns: the next length sold; what is needed where none sold reaches. Source: sizes.
    """
    need = math.ceil((stack + nut) * 1e3)
    return min((length for length in BOLT_LENGTHS if length >= need), default=need)


QUARTER = INCH / 4


def sold_length(row: Bolt, need: float) -> str:
    """The next length that a shop sells of a bolt, in the words it sells it by: mm, or inches by quarters.

    row: its thread
    need: head to tip [m]

    Returns: such as 65, or 2 3/4 in. Source: sizes.
    """
    if row.system == "in":
        return f"{inches(math.ceil(need / QUARTER - 1e-6) * QUARTER, 4)} in"
    return str(bolt_length(need, 0.0))


NUTTED = " with lock nut and washers"


def bolt(row: Bolt, stack: float, words: str = NUTTED, note: str = "") -> Buy:
    """One bolt that passes a stack [m], its washers counted, and takes a lock nut; `words` say what comes with it."""
    need = stack + row.lock_nut + 2 * row.pitch
    price = round(row.price * (1 + bolt_length(need, 0.0) / 100), 2)
    return Buy(f"Bolt {row.id}×{sold_length(row, need)}{words}", 1, price, note)


def screw_from_below(passes: float, into: float, quantity: int, note: str) -> Buy:
    """Countersunk screws through a board [m] into what lies on it [m]: as long as can be, up to 40 mm, without coming
    out where something runs.
    """
    room = (passes + into - SHY) * 1e3
    long = max((length for length in SCREW_LENGTHS if length <= room + 1e-6), default=SCREW_LENGTHS[0])
    return Buy(f"Countersunk screw 5×{long}", quantity, 0.06, note)


def strip(catalogue: Catalogue, material: Material, thickness: float, width: float) -> StockSection | None:
    """The narrowest stock strip that gives a width.

    catalogue: where strips are looked for
    material, thickness: of what is wanted [m]
    width: that it must give [m]

    Returns: its row, None where no strip is wide enough. Source: sizes.
    """
    rows = (
        row
        for row in catalogue.sections.values()
        if row.shape == "flat_bar" and catalogue.materials[row.material] == material
    )
    return min(
        (row for row in rows if abs(row.width - thickness) < SAME and row.depth >= width - SAME),
        key=lambda row: row.depth,
        default=None,
    )


def exact(catalogue: Catalogue, material: Material, thickness: float, width: float) -> StockSection | None:
    """The stock strip that is just so wide [m], None where there is none: it is sawn from a sheet then."""
    found = strip(catalogue, material, thickness, width)
    return found if found and abs(found.depth - width) < SAME else None


def sawn(part: Part) -> tuple[Buy, ...]:
    """What is bought for pieces that no strip gives: they are sawn from a sheet."""
    solid = part.solid
    if not isinstance(solid, Sheet) or solid.strip:
        return ()
    price = SHEET_PRICE * solid.length * solid.width * solid.thickness / 0.018
    name = f"{solid.material.short} {solid.thickness * 1e3:g} mm, {solid.width * 1e3:.0f}×{solid.length * 1e3:.0f}"
    return (Buy(name, part.quantity, round(price, 2), f"{part.name.lower()}, sawn from a sheet"),)
