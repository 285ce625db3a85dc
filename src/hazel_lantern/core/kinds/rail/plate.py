"""The carriage's plate: a board bent between its wheels by what stands or hangs on it."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.catalogue import Material
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.rail.carriage import BATTEN, PLATE
from hazel_lantern.core.kinds.rail.model import Carriage
from hazel_lantern.core.kinds.shared.holes import board_modulus
from hazel_lantern.core.kinds.shared.works import bears, works
from hazel_lantern.core.mechanics.safety import HAND_SWING
from hazel_lantern.core.nouns.figure import Given
from hazel_lantern.core.nouns.finding import set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.workshop.laid import Laid
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.core.workshop.solids import ACROSS, Bar, Sheet


def plate_figures(design: Design, rail: Carriage, laid: Laid) -> Told:
    """Bending of the plate along the travel and across it, over what its holes leave; the weight half-way between the
    wheels, a hard stop and a push at the camera.
    """
    part = next((part for part in laid.parts if part.name == PLATE), None)
    if part is None or not isinstance(part.solid, Sheet):
        return Told()
    ways = [_bent_along(design, rail, laid, part, axis) for axis in (0, 1)]
    worst = max(ways, key=lambda way: way.stress)
    tell = Teller()
    works(
        tell,
        "rig.plate",
        "carriage plate",
        worst.stress,
        bears(design, part.solid.material),
        f"{worst.name} the travel: the weight half-way between the wheels and half of a stop's or push's moment, "
        "times 1.5, "
        "over what its holes leave" + (", less what battens take of it" if worst.ribs else ""),
        (
            Given("W", rail.weight, "N", "carriage and camera kit", "kit"),
            Given("c", worst.span, "m", "between its wheels", rail.base_key),
            Given("M", worst.turn, "N*m", "hard stop or push at the camera", "push.brake"),
            Given("Z", worst.modulus, "m^3", "section modulus left of the plate"),
        ),
        rail.base_key,
        source="statics 3, 9",
        remedies=(set_one("shorter", "Wheels {} apart", rail.base_key, round(0.6 * rail.wheelbase, 3), "m"),)
        if worst.name == "along" and 0.6 * rail.wheelbase > 0.06
        else (),
    )
    most = max((way for way in ways if way.ribs), key=lambda way: way.beside, default=None)
    if most and most.ribs:
        works(
            tell,
            "rig.batten",
            "batten under the deck",
            most.beside,
            bears(design, most.ribs.material),
            f"{most.name} the travel: what they take of the plate's bending, as much as they are stiffer",
            (
                Given("c", most.span, "m", "between its wheels", rail.base_key),
                Given("Z", most.ribs.modulus, "m^3", f"{most.ribs.count} battens together"),
            ),
            "rig.batten_stress",
            source="statics 3, 9",
        )
    return tell.told()


def _bent_along(design: Design, rail: Carriage, laid: Laid, part: Part, axis: int) -> Bent:
    """Along the travel, axis 0, or across it."""
    place, sheet, number = part.places[0], part.solid, design.number
    assert isinstance(sheet, Sheet)
    cross = (place.along == ACROSS) == (axis == 0)
    local = place.axes.T @ (np.array([*rail.middle, 0.0]) - place.at)
    modulus = board_modulus(part, crosswise=cross, at=float(local[1] + sheet.width / 2) if cross else float(local[0]))
    if axis == 0:
        name, span, turn = "along", rail.wheelbase, rail.moving * number("push.brake") * abs(float(rail.mount[2]))
    else:
        name, span, turn = "across", float(np.ptp(rail.wheels[:, 1])), number("push.side") * abs(float(rail.lens[2]))
    ribs = Ribs.of(laid, axis)
    moment = HAND_SWING * (_bent(rail.weight, span, abs(float(rail.off[axis]))) + turn / 2)
    share = ribs.share(sheet.material.E * modulus * sheet.thickness / 2) if ribs else 1.0
    return Bent(name, span, turn, modulus, moment, share, ribs)


class Ribs(Struct, frozen=True):
    """Battens of one way under a plate: how many, stiffness EI [N*m^2] and section modulus of all [m^3]."""

    count: int
    stiffness: float
    modulus: float
    material: Material

    @classmethod
    def of(cls, laid: Laid, axis: int) -> Ribs | None:
        """Those that lie along the travel, axis 0, or across it; None where there are none."""
        way = "along" if axis == 0 else "across"
        part = next((part for part in laid.parts if part.name == f"{BATTEN}, {way}"), None)
        if part is None or not isinstance(part.solid, Bar):
            return None
        section, count = part.solid.stock.section(), part.quantity
        return cls(count, count * part.solid.material.E * section.upright, count * section.modulus, part.solid.material)

    def share(self, plate: float) -> float:
        """Of the bending, what a plate of a stiffness [N*m^2] keeps."""
        return plate / (plate + self.stiffness)


class Bent(Struct, frozen=True):
    """One way of a plate: span [m], moment of a stop or push [N*m], its modulus [m^3], all bending [N*m], its own share
    of that, battens.
    """

    name: str
    span: float
    turn: float
    modulus: float
    moment: float
    share: float
    ribs: Ribs | None

    @property
    def stress(self) -> float:
        """In the plate [Pa]."""
        return self.moment * self.share / self.modulus if self.modulus > 0 else math.inf

    @property
    def beside(self) -> float:
        """In its battens [Pa]."""
        return self.moment * (1 - self.share) / self.ribs.modulus if self.ribs else 0.0


def _bent(weight: float, span: float, off: float) -> float:
    """A load half-way between two wheels, or beyond them [N*m]."""
    return weight * max(span / 4, off - span / 2)
