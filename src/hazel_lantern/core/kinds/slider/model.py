"""The slider as a mechanism: a straight rail on a tripod, two stands or a table."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.catalogue import Stand
from hazel_lantern.core.errors import GeometryError
from hazel_lantern.core.kinds.base import Carried, Design, Laid, Member, Members
from hazel_lantern.core.kinds.slider.design import GROOVED, TABLE, TRIPOD, TWO
from hazel_lantern.core.kinds.straight.model import Straight, straight
from hazel_lantern.core.mechanics.rails import Rest


class Slider(Struct, frozen=True):
    """A straight rail, how it is held, places of the supports along it [m], the stand and all feet on the ground (n, 2) from the rail's middle [m]."""

    way: Straight
    held: str
    places: tuple[float, ...]
    stand: Stand
    feet: np.ndarray

    @property
    def mass(self) -> float:
        stands = 0 if self.held == TABLE else len(self.places)
        return self.way.moving + self.way.rail_mass + stands * self.stand.mass


def rests_for(design: Design, held: str) -> tuple[Rest, ...]:
    """Supports of the rail for a way of holding it. Raises GeometryError when the two supports meet."""
    length, inset, head = design.number("rail.length"), design.number("support.inset"), design.number("head.stiffness")
    if held == TRIPOD:
        return (Rest(length / 2, pitch=head, roll=head, pulls=True),)
    if inset >= length / 2:
        raise GeometryError("the supports meet: bring them nearer to the rail's ends")
    if held == TWO:
        return Rest(inset, roll=head, pulls=True), Rest(length - inset, roll=head, pulls=True)
    return Rest(inset), Rest(length - inset)


def build(design: Design, kit: Carried) -> Slider:
    """The mechanism of a slider design. Raises GeometryError when carriage or supports do not fit, InputError for unknown rows."""
    held = design.text("support")
    rests = rests_for(design, held)
    way = straight(design, kit, 1 if design.variant == GROOVED else 2, rests, design.variant == GROOVED, "carriage")
    stand, radius = design.row("stands", "stand"), design.number("stand.radius")
    around = design.number("stand.turn") + 2 * math.pi * np.arange(stand.legs) / stand.legs
    own = radius * np.column_stack([np.cos(around), np.sin(around)])
    cos = math.cos(way.slope)
    places = tuple(rest.x for rest in rests)
    if held == TABLE:
        half = design.number("table.width") / 2
        feet = np.array([((x - way.length / 2) * cos, y) for x in places for y in (half, -half)])
    else:
        feet = np.vstack([own + ((x - way.length / 2) * cos, 0.0) for x in places])
    return Slider(way, held, places, stand, feet)


def members(rig: Slider, poses: np.ndarray) -> Members:
    """Rails, stands and legs: none of them moves with the camera but the carriage."""
    way, x = rig.way, poses[:, 0]
    found: list[Laid] = [*way.rails(), (Member("carriage", 0.02), way.place(x - way.wheelbase / 2, 0.0, 0.02), way.place(x + way.wheelbase / 2, 0.0, 0.02))]
    if rig.held != TABLE:
        legs = len(rig.feet) // len(rig.places)
        for k, place in enumerate(rig.places):
            top = way.place(place, 0.0, -way.bar.depth)
            knee = top * (1, 1, 0.5)
            found.append((Member("stand", 0.03, False), top, knee))
            found += [(Member("leg", 0.02, False), knee, (fx, fy, 0.0)) for fx, fy in rig.feet[k * legs : (k + 1) * legs]]
    return Members.at(len(poses), found)
