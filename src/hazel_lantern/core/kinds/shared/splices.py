"""What joins two pieces of a bar end to end: a tube or a solid bar let into both, or plates at both sides."""

from __future__ import annotations

from msgspec import Struct

from hazel_lantern.core.catalogue import SOLID, TUBES, Catalogue, Material, StockSection

SLEEVE, SPIGOT, PLATE = "sleeve", "spigot", "plate"
LOOSE = 1.5e-3  # metres that what is let in may be narrower than the bore, to be shimmed out
ROUND = ("round_tube", "solid_round")
FLAT = "flat_bar"
LEAST = 0.06  # metres of overlap at either side of the joint
DEPTHS = 3.0  # depths of the bar to overlap at either side


class Splice(Struct, frozen=True):
    """So many lengths of a stock section that join two pieces of a bar, and how far they reach into or along either
    [m].
    """

    stock: StockSection
    material: Material
    count: int
    overlap: float

    @property
    def inside(self) -> bool:
        return self.count == 1

    @property
    def modulus(self) -> float:
        """Upright bending over stress, all lengths together [m^3]."""
        return self.count * float(self.stock.section().modulus)

    @property
    def stiffness(self) -> float:
        """How stiffly the joint turns [N*m/rad], the bending going over into the splice and out of it in proportion
        to the way along the overlap: 3 EI / (2 l). Source: energy of two pieces that share a moment so.
        """
        ei = self.count * self.material.E * float(self.stock.section().upright)
        return 3 * ei / (2 * self.overlap)


def splice(catalogue: Catalogue, bar: StockSection, how: str, room: float, free: float = 0.0) -> Splice | None:
    """The stiffest stock that joins two pieces of a bar in a way; None where none fits.

    catalogue: where it is looked for
    bar: what is joined
    how: sleeve (a tube let in), spigot (a solid bar let in) or plate (at both sides)
    room: length of the shortest piece [m]
    free: depth of its sides that plates must leave free [m]

    Returns: the splice. Source: sizes.
    """
    rows = catalogue.sections.values()
    if how == PLATE:
        # A round bar has no sides to plate.
        found = [
            row
            for row in rows
            if row.shape == FLAT
            and bar.shape not in ROUND
            and catalogue.materials[row.material].family == "ductile"
            and row.depth <= bar.depth - free + 1e-9
        ]
    else:
        shapes = TUBES if how == SLEEVE else SOLID
        found = [row for row in rows if row.shape in shapes and _slides_in(row, bar)]
    best = max(
        found, key=lambda row: (catalogue.materials[row.material].E * row.section().upright, row.id), default=None
    )
    if best is None:
        return None
    overlap = min(max(DEPTHS * bar.depth, LEAST), 0.45 * room)
    return Splice(best, catalogue.materials[best.material], 2 if how == PLATE else 1, overlap)


def best_splice(catalogue: Catalogue, bar: StockSection, overlap: float) -> Splice | None:
    """What joins two pieces of a bar the strongest way for its weight of work: a tube let in, else plates, else a solid
    bar let in, so far into either [m]; None where nothing fits.
    """
    for how in (SLEEVE, PLATE, SPIGOT):
        found = splice(catalogue, bar, how, overlap / 0.45)
        if found is not None:
            return Splice(found.stock, found.material, found.count, overlap)
    return None


def _slides_in(row: StockSection, bar: StockSection) -> bool:
    """Whether a bar slides into a tube without being loose."""
    if bar.shape not in TUBES or (row.shape in ROUND) != (bar.shape in ROUND):
        return False
    gaps = (bar.depth - 2 * bar.wall - row.depth, bar.width - 2 * bar.wall - row.width)
    return all(-1e-9 <= gap <= LOOSE for gap in gaps)
