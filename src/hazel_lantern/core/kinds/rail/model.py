"""A straight rail as a mechanism: rails, supports, carriage, wheels, where the camera is at a place of the carriage."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.catalogue import Material, StockSection, Wheel
from hazel_lantern.core.kinds.base import Asked, Carried, Design, Member, Poses, Run
from hazel_lantern.core.kinds.rail.joints import Joints, joints_of
from hazel_lantern.core.mechanics.rails import Rail, Rest
from hazel_lantern.core.mechanics.sections import Section
from hazel_lantern.core.mechanics.track import Frames, StraightTrack, headed
from hazel_lantern.core.nouns.errors import GeometryError
from hazel_lantern.core.nouns.units import GRAVITY


class Borne(Struct, frozen=True):
    """Something that a carriage bears beside the camera kit: its mass [kg], its centre from the carriage's middle on top
    of the rail [m], and how far that goes along with the mount [-].
    """

    mass: float
    at: np.ndarray
    follows: float = 0.0


class Lift(Struct, frozen=True):
    """The input that brings the lens higher: its key, its bounds [m], what setting it is called."""

    key: str = "rail.height"
    low: float = 0.05
    high: float = 6.0
    words: str = "Rail at {}"


class Straight(Struct, frozen=True):
    """Sizes in metres, chosen rows, masses [kg]; the rail frame starts at the rail's first end, x along it.

    `beam` is all rails together; `follows` is how far the centre of mass goes along with the mount; `base_key`
    sets the wheelbase, or how far apart what slides touches the rail, and `beyond` is what is left on at either end,
    `drag` its coefficient from and to; `cg` is the centre of mass of carriage and kit from the carriage's middle, on top of
    the rail.
    """

    beam: Rail
    count: int
    spacing: float
    height: float
    slope: float
    bar: StockSection
    section: Section
    material: Material
    wheel: Wheel
    wheels: np.ndarray
    wheelbase: float
    base_key: str
    beyond: float
    drag: tuple[float, float]
    moving: float
    cg: np.ndarray
    heading: float
    mount: np.ndarray
    lens: np.ndarray
    low: float
    high: float
    carrier: str
    joints: Joints
    follows: float
    lift: Lift = Lift()

    @property
    def track(self) -> StraightTrack:
        return StraightTrack(self.length, self.height, self.slope)

    @property
    def length(self) -> float:
        return self.beam.length

    @property
    def weight(self) -> float:
        return self.moving * GRAVITY

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
        """Places (..., 3) of the rig frame, from the rail's first end, to the left of its middle and above its top
        [m].
        """
        return self.track.at(np.asarray(along, float)).place((0.0, aside, above)).reshape((*np.shape(along), 3))


def carrier(rail: Straight, poses: np.ndarray) -> Run:
    """What runs on the rail, from axle to axle on top of it, at poses (n, 1)."""
    x, half = poses[:, 0], rail.wheelbase / 2
    return Member(rail.carrier, 0.02), rail.place(x - half, 0.0, 0.02), rail.place(x + half, 0.0, 0.02)


def turned(vector: tuple[float, float, float] | np.ndarray, heading: float) -> np.ndarray:
    """A vector of the mount frame in rail axes, the camera turned to the left by `heading`."""
    cos, sin = math.cos(heading), math.sin(heading)
    return np.array([vector[0] * cos - vector[1] * sin, vector[0] * sin + vector[1] * cos, vector[2]])


def straight(
    design: Design,
    kit: Carried,
    count: int,
    rests: tuple[Rest, ...],
    three: bool,
    carrier: str,
    slides_on: str = "",
    friction: float = 0.0,
    *,
    height: float | None = None,
    borne: tuple[Borne, ...] | None = None,
    lift: Lift | None = None,
) -> Straight:
    """The mechanism on one or two rails; `three` wheels, the single one to the right, else four; `carrier` is what
    the thing that runs is called; `slides_on` names the length of what slides with a friction instead of running on wheels;
    `height` of the rail's top where that is no input [m]; `borne` all that it bears beside the kit.

    Raises GeometryError for a carriage longer than the rail, InputError for unknown rows.
    """
    number = design.number
    bar, wheel = design.row("sections", "rail.section"), design.row("wheels", "carriage.wheel")
    material, section = design.catalogue.materials[bar.material], bar.section()
    length, base, heading = number("rail.length"), number(slides_on or "carriage.wheelbase"), number("camera.heading")
    if base >= length:
        raise GeometryError("the carriage is longer than the rail")
    mount = np.array([number("camera.ahead"), number("camera.aside"), number("camera.rise")])
    load = kit.payload
    # The head rises with the mount; half of it counts.
    borne = borne or (Borne(number("carriage.mass"), mount / 2, 0.5),)
    moving = load.mass + sum(one.mass for one in borne)
    weighs = load.mass * (mount + turned(load.cg, heading)) + sum(one.mass * one.at for one in borne)
    spread = number("rail.spacing") if count == 2 else number("carriage.gauge")
    sides = [(base / 2, spread / 2), (-base / 2, spread / 2)]
    wheels = np.array(
        [*sides, (0.0, -spread / 2)] if three else [*sides, (base / 2, -spread / 2), (-base / 2, -spread / 2)]
    )
    line = count * bar.line(material) * GRAVITY
    joints = joints_of(design, bar, length, rests)
    beyond = 0.0 if slides_on else wheel.d / 2
    margin = base / 2 + beyond
    if 2 * margin >= length:
        raise GeometryError("nothing of the rail is left for travel")
    rail = Rail(
        length,
        count * material.E * section.upright,
        count * material.G * section.j,
        line,
        rests,
        count * material.G * section.area * section.shear,
        tuple(replace(joint, stiffness=count * joint.stiffness) for joint in joints.in_beam),
    )
    return Straight(
        rail,
        count,
        number("rail.spacing") if count == 2 else 0.0,
        number("rail.height") if height is None else height,
        number("rail.slope"),
        bar,
        section,
        material,
        wheel,
        wheels,
        base,
        slides_on or "carriage.wheelbase",
        beyond,
        (friction, friction) if slides_on else (wheel.rolling, wheel.rolling_high),
        moving,
        weighs / moving,
        heading,
        mount,
        mount + turned(kit.lens_at_m, heading),
        margin,
        length - margin,
        carrier,
        joints,
        (load.mass + sum(one.mass * one.follows for one in borne)) / moving,
        lift or Lift(),
    )


def follow(rail: Straight, asked: Asked) -> Poses:
    """Pose (n, 1): place of the carriage's middle along the rail [m]; a shot that goes nowhere takes the whole travel.

    What the shot asks beyond the rail stays at the rail's end.
    """
    middle = (rail.low + rail.high) / 2
    return Poses.of(np.clip(middle + asked.along(rail.high - rail.low), rail.low, rail.high)[:, None])


def mount(rail: Straight, poses: np.ndarray) -> Frames:
    """The mount plate at poses (n, 1), its origin on the floor under the rail's middle [m]; its level head looks
    along the heading, whatever the rail's slope.
    """
    return headed(rail.track.at(poses[:, 0]).place(rail.mount), rail.heading)
