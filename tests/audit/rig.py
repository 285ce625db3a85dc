"""What every audit starts from: a random design, its pieces and what they may be worked at."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core import catalogue
from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.catalogue import Material
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.kinds import DECLARED
from tests.audit import by_hand

SHELF = catalogue.load()
FACTORS = {"A": (1.5, 2.0, 3.0), "B": (2.0, 2.5, 4.0), "C": (2.5, 3.0, 5.0), "D": (3.0, 4.0, 6.0), "E": (3.0, 4.0, 6.0)}
NUDGE = 5.0  # newtons, the least push that is asked about
DIFFERS = 0.02
FAMILIES = ("ductile", "wood", "brittle")
NOTCH = {"ductile": 1.0, "wood": 1.0, "brittle": 2.5}

# A figure recomputed: its key, what comes out by hand, whether more of it is the dangerous side, and what a small
# difference of large forces is measured against.
Row = tuple[str, float, bool] | tuple[str, float, bool, float]


def allowed(key: str, letter: str) -> float:
    """What a material may be worked at [Pa]."""
    row = SHELF.materials[key]
    return row.long_load * row.strength / FACTORS[letter][FAMILIES.index(row.family)]


def found(key: str, d: Mapping[str, Any]) -> Material:
    """A material as stiff as a test of the built rig found it, as strong and heavy as before."""
    row, times = SHELF.materials[key], d["built.stiffness"]
    return replace(row, E=row.E * times, G=row.G * times)


class Rig:
    """A random design with what the builder set, and its pieces."""

    def __init__(self, project: Project, result: Evaluation) -> None:
        self.rig, self.result = project.rigs[0], result
        usual = {p.key: p.default for p in DECLARED[self.rig.kind].parameters}
        self.d, self.model = {**usual, **self.rig.design}, result.model
        items = project.kit_of(self.rig).items
        self.kit = sum(item.mass_kg for item in items)
        self.kit_at = sum((np.array(item.at_m) * item.mass_kg for item in items), np.zeros(3)) / self.kit
        self.letter = str(self.d["safety"])

    def bar(self, key: str) -> catalogue.StockSection:
        return SHELF.sections[str(self.d[key])]

    def weights(self, pose: np.ndarray, camera: bool) -> tuple[list[float], np.ndarray]:
        """Mass and place of every piece at a pose; the camera kit left out where it is off."""
        bodies = self.result.kind.bodies(self.model, pose[None])
        found = [p for p in self.result.laid.placed if camera or p.name.lower() != "camera kit"]
        return [p.mass for p in found], np.array([bodies[p.body].place(p.centre)[0] for p in found])


def left(bar: catalogue.StockSection, size: float, face: str) -> float:
    """Section modulus left at a hole [m^3]."""
    o, solid = by_hand.outline(bar), bar.shape in ("solid_round", "flat_bar")
    if face == "side":
        walls = (
            2 * bar.dims["t"]
            if "tube" in bar.shape
            else bar.width
            if solid
            else bar.dims.get("t", bar.dims.get("t_web", bar.width))
        )
        return o.modulus * (1 - walls * size**3 / 12 / o.iy) if size < bar.depth else 0.0
    if solid or "tube" in bar.shape:
        wall = bar.depth / 2 if solid else bar.dims["t"]
        return o.modulus * (1 - size * (bar.depth**3 - max(bar.depth - 2 * wall, 0.0) ** 3) / 12 / o.iy)
    return o.modulus * (1 - size / bar.width)
