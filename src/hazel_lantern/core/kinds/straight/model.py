"""A straight rail as a mechanism: rails, supports, carriage, wheels, where the camera is at a place of the carriage."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.catalogue import Bar, Material, Wheel
from hazel_lantern.core.errors import GeometryError
from hazel_lantern.core.kinds.base import Context, Laid, Member, Model
from hazel_lantern.core.mechanics.rails import Rail, Rest
from hazel_lantern.core.mechanics.sections import Section
from hazel_lantern.core.motion.profiles import eased
from hazel_lantern.core.units import GRAVITY


class Straight(Model, frozen=True):
    """Sizes in metres, chosen rows, masses [kg]; the rail frame starts at the rail's first end, x along it.

    `rail` is all rails together as one beam; `cg` is the centre of mass of carriage and kit from the carriage's middle, on top of the rail.
    """

    rail: Rail
    count: int
    spacing: float
    height: float
    slope: float
    bar: Bar
    section: Section
    material: Material
    wheel: Wheel
    wheels: np.ndarray
    wheelbase: float
    moving: float
    cg: np.ndarray
    heading: float
    mount: np.ndarray
    lens: np.ndarray
    low: float
    high: float

    @property
    def length(self) -> float:
        return self.rail.length

    @property
    def weight(self) -> float:
        return self.moving * GRAVITY

    @property
    def rail_mass(self) -> float:
        return self.rail.weight * self.length / GRAVITY

    def axles(self, acceleration: float = 0.0) -> tuple[float, float]:
        """Loads square to the rail of the front and rear axle [N]; `acceleration` along the travel [m/s^2]."""
        square = self.weight * math.cos(self.slope)
        turn = square * self.cg[0] - (self.weight * math.sin(self.slope) + self.moving * acceleration) * self.cg[2]
        return square / 2 + turn / self.wheelbase, square / 2 - turn / self.wheelbase

    def on_floor(self, along: np.ndarray | float, above: np.ndarray | float = 0.0) -> tuple[np.ndarray, np.ndarray]:
        """Ahead of the rail's middle and above ground, for places along the rail and above its top [m]."""
        cos, sin = math.cos(self.slope), math.sin(self.slope)
        out = np.asarray(along, float) - self.length / 2
        return out * cos - np.asarray(above) * sin, self.height + out * sin + np.asarray(above) * cos

    def place(self, along: np.ndarray | float, aside: float, above: float = 0.0) -> np.ndarray:
        """Places (..., 3) of the rig frame, from the rail's first end, to the left of its middle and above its top [m]."""
        ahead, height = self.on_floor(along, above)
        return np.stack([ahead, np.full_like(ahead, aside), height], axis=-1)

    def rails(self) -> list[Laid]:
        """Each rail with its ends."""
        member = Member("rail", self.bar.depth / 2, False)
        return [(member, self.place(0.0, y), self.place(self.length, y)) for y in ((0.0,) if self.count == 1 else (self.spacing / 2, -self.spacing / 2))]


def turned(vector: tuple[float, float, float] | np.ndarray, heading: float) -> np.ndarray:
    """A vector of the mount frame in rail axes, the camera turned to the left by `heading`."""
    cos, sin = math.cos(heading), math.sin(heading)
    return np.array([vector[0] * cos - vector[1] * sin, vector[0] * sin + vector[1] * cos, vector[2]])


def straight(context: Context, count: int, rests: tuple[Rest, ...], three: bool) -> Straight:
    """The mechanism on one or two rails; `three` wheels, the single one to the right, else four.

    Raises GeometryError for a carriage longer than the rail, InputError for unknown rows.
    """
    number = context.number
    bar, wheel = context.row("sections", "rail.section"), context.row("wheels", "carriage.wheel")
    material, section = context.catalogue.materials[bar.material], bar.section()
    length, base, heading = number("rail.length"), number("carriage.wheelbase"), number("camera.heading")
    if base >= length:
        raise GeometryError("the carriage is longer than the rail")
    mount = np.array([number("camera.ahead"), number("camera.aside"), number("camera.rise")])
    carriage, load = number("carriage.mass"), context.payload
    at = mount + turned(load.cg, heading)
    moving = carriage + load.mass
    # The head rises with the mount; half of it counts.
    own = np.array([mount[0] / 2, mount[1] / 2, mount[2] / 2])
    spread = number("rail.spacing") if count == 2 else number("carriage.gauge")
    sides = [(base / 2, spread / 2), (-base / 2, spread / 2)]
    wheels = np.array([*sides, (0.0, -spread / 2)] if three else [*sides, (base / 2, -spread / 2), (-base / 2, -spread / 2)])
    line = count * section.area * material.density * GRAVITY
    margin = base / 2 + wheel.d / 2
    if 2 * margin >= length:
        raise GeometryError("nothing of the rail is left for travel")
    rail = Rail(length, count * material.E * section.iy, count * material.G * section.j, line, rests, count * material.G * section.area * section.shear)
    return Straight(
        rail, count, number("rail.spacing") if count == 2 else 0.0, number("rail.height"), number("rail.slope"), bar, section, material, wheel, wheels, base, moving,
        (carriage * own + load.mass * at) / moving, heading, mount, mount + turned(context.kit.lens_at_m, heading), margin, length - margin,
    )  # fmt: skip


def wanted_way(context: Context) -> float:
    """Way the shot asks for along the rail [m]; 0 when start and end are one place."""
    shot = context.shot
    flat = math.hypot(shot.end_at_m[0] - shot.start_at_m[0], shot.end_at_m[1] - shot.start_at_m[1])
    return math.hypot(flat, shot.end_height_m - shot.start_height_m) if flat > 1e-9 else 0.0


def path(context: Context, rig: Straight, u: np.ndarray) -> np.ndarray:
    """Pose (n, 1): place of the carriage's middle along the rail [m]; a shot that goes nowhere takes the whole travel.

    What the shot asks beyond the rail stays at the rail's end.
    """
    way = wanted_way(context) or rig.high - rig.low
    middle = (rig.low + rig.high) / 2
    return np.clip(middle + way * (eased(u, context.shot.ramp) - 0.5), rig.low, rig.high)[:, None]


def lens(context: Context, rig: Straight, poses: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Places (n, 3) of the lens in the rig frame, its origin on the floor under the rail's middle [m], and the level head's heading (n,) [rad]."""
    ahead, above = rig.on_floor(poses[:, 0] + rig.lens[0], rig.lens[2])
    return np.column_stack([ahead, np.full(len(poses), rig.lens[1]), above]), np.full(len(poses), rig.heading)
