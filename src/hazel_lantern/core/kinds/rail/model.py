"""A straight rail as a mechanism: rails, supports, carriage, wheels, where the camera is at a place of the carriage."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from msgspec.structs import asdict, replace

from hazel_lantern.core.catalogue import Material, StockSection, Wheel
from hazel_lantern.core.kinds.base import Carried, Design, Member, Run
from hazel_lantern.core.kinds.path import Asked, Poses
from hazel_lantern.core.kinds.rail.joints import Joints, joints_of
from hazel_lantern.core.kinds.shared.inputs import ROLLING, STIFFNESS, as_found
from hazel_lantern.core.mechanics import arcs, built_up, sections
from hazel_lantern.core.mechanics.built_up import Layers
from hazel_lantern.core.mechanics.rails import Rail, Rest
from hazel_lantern.core.mechanics.sections import Section
from hazel_lantern.core.mechanics.track import ArcTrack, Frames, StraightTrack, Track, headed
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.errors import GeometryError, mend_at
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.workshop.solids import Sheet

SCREW, BASE_SCREWS = 0.005, 0.2  # metres of the screws of a base board, between two of them at most
INCLINED = math.radians(45)  # a contact of an inclined wheel, from upright
ROOM_TO_GO = 0.4  # metres of travel that a longer rail is offered for


class Borne(Struct, frozen=True):
    """Something that a carriage bears beside the camera kit: its mass [kg], its centre from the carriage's middle on
    top of the rail [m], and how far that goes along with the mount [-].
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


class Carriage(Struct, frozen=True, kw_only=True):
    """What rolls or slides along a straight way, its sizes in metres, masses [kg]; the frame of the way starts at its
    first end, x along it.

    `height` is that of its top half-way, `spacing` how far apart its two rails or tracks are, 0 for one; `follows` is
    how far the centre of mass goes along with the mount; `base_key`
    sets the wheelbase, or how far apart what slides touches it, and `beyond` is what is left on at either end,
    `drag` its coefficient from and to, `forked` whether its axles are held at both ends, `pressed` what a wheel is
    pressed with for each newton that its corner bears; `cg` is the centre of mass of carriage and kit from the
    carriage's middle, on top of the way. One that is bent says its `radius`, plus to the left, and where from its
    centre it is `measured`, 0 for straight ones.
    """

    length: float
    height: float
    slope: float
    spacing: float
    wheel: Wheel
    wheels: np.ndarray
    wheelbase: float
    base_key: str
    beyond: float
    drag: tuple[float, float]
    pressed: float
    moving: float
    cg: np.ndarray
    heading: float
    mount: np.ndarray
    lens: np.ndarray
    carrier: str
    follows: float
    lift: Lift = Lift()
    forked: bool = False
    radius: float = 0.0
    measured: float = 0.0

    @property
    def track(self) -> Track:
        if self.radius:
            return ArcTrack(self.length, self.height, self.radius, self.measured)
        return StraightTrack(self.length, self.height, self.slope)

    @property
    def rides(self) -> Track:
        """The way of the carriage's middle: on an arc it cuts the corner between its axles."""
        if not self.radius:
            return self.track
        inside = math.copysign(math.sqrt(self.radius**2 - self.wheelbase**2 / 4), self.radius)
        # The same centre, so moved in by as much.
        return Moved(ArcTrack(self.length, self.height, inside, self.measured), self.radius - inside)

    @property
    def low(self) -> float:
        """The first place of its middle."""
        return self.wheelbase / 2 + self.beyond

    @property
    def high(self) -> float:
        """The last place of its middle."""
        return self.length - self.low

    @property
    def goes_round(self) -> float:
        """How far from the centre of its arc the lens goes, 0 on a straight way [m]."""
        if not self.radius:
            return 0.0
        outward = -math.copysign(1.0, self.radius) * float(self.lens[1])
        return arcs.camera_radius(abs(self.radius), self.wheelbase, outward, float(self.lens[0]))

    def way_of(self, move: Move) -> float:
        """What of a move it makes; one that goes nowhere takes all of the travel [m]."""
        whole = self.high - self.low
        if not self.radius:
            return min(move.chord or whole, whole)
        return min(move.length or math.inf, self.goes_round * whole / self.measured)

    @property
    def weight(self) -> float:
        return self.moving * GRAVITY

    def axles(self, acceleration: float = 0.0) -> tuple[float, float]:
        """Loads square to the rail of the front and rear axle [N]; `acceleration` along the travel [m/s^2]."""
        square = self.weight * math.cos(self.slope)
        turn = square * self.cg[0] - (self.weight * math.sin(self.slope) + self.moving * acceleration) * self.cg[2]
        return square / 2 + turn / self.wheelbase, square / 2 - turn / self.wheelbase

    @property
    def lone(self) -> bool:
        """Whether its third corner stands by itself on a track of its own."""
        return len(self.wheels) == 3 and self.spacing > 0

    @property
    def middle(self) -> np.ndarray:
        """The middle of its plate (2,) [m]: that of three corners lies off the track's."""
        return np.asarray(self.wheels.mean(axis=0)) if self.lone else np.zeros(2)

    @property
    def off(self) -> np.ndarray:
        """How far its weight lies ahead and to the left of the middle of its plate (2,) [m]."""
        return np.asarray(self.cg[:2] - self.middle)

    def over(self, axis: int) -> float:
        """How far ahead of that middle, axis 0, or to the left the mount belongs to bring the weight over it [m]."""
        return round(float(self.mount[axis] - self.middle[axis] - self.off[axis] / self.follows), 3)

    def stands(self, acceleration: float = 0.0) -> tuple[tuple[float, float], ...]:
        """Where it stands along the travel from its middle [m], and loads there square to the rail [N]."""
        half = self.wheelbase / 2
        front, rear = self.axles(acceleration)
        if not self.lone:
            return (half, front), (-half, rear)
        single = (front + rear) * (0.5 - float(self.cg[1]) / self.spacing)
        return (half, front - single / 2), (0.0, single), (-half, rear - single / 2)

    def on_floor(self, along: np.ndarray | float, above: np.ndarray | float = 0.0) -> tuple[np.ndarray, np.ndarray]:
        """Ahead of the rail's middle and above ground, for places along the rail and above its top [m]."""
        cos, sin = math.cos(self.slope), math.sin(self.slope)
        out = np.asarray(along, float) - self.length / 2
        return out * cos - np.asarray(above) * sin, self.height + out * sin + np.asarray(above) * cos

    def place(self, along: np.ndarray | float, aside: float, above: float = 0.0) -> np.ndarray:
        """Places (..., 3) of the rig frame, from the rail's first end, to the left of its middle and above its top
        [m].
        """
        return self.rides.at(np.asarray(along, float)).place((0.0, aside, above)).reshape((*np.shape(along), 3))


class Moved(Struct, frozen=True):
    """A track moved to the left [m]."""

    track: ArcTrack
    by: float

    @property
    def length(self) -> float:
        return self.track.length

    def at(self, along: np.ndarray) -> Frames:
        """Frames at places along the track (n,), from its first end [m]."""
        there = self.track.at(along)
        return Frames(there.at + (0.0, self.by, 0.0), there.axes)


class Straight(Carriage, frozen=True, kw_only=True):
    """A carriage on straight rails; `beam` is all `count` of them together, with the board they are screwed to along
    all their length, if any: their `base`. Inclined wheels lean by `leans` [rad], those of a pair `pair_apart`, 0 for
    set to their rail [m]; each wheel is `held_down` beside its load [N].
    """

    beam: Rail
    count: int
    bar: StockSection
    section: Section
    material: Material
    joints: Joints
    base: Sheet | None = None
    layered: Layers | None = None
    leans: float = INCLINED
    pair_apart: float = 0.0
    held_down: float = 0.0

    @property
    def tread_middle(self) -> float:
        """From where the treads of an inclined pair would meet to the middle of one, along it [m]: at the contact where
        the pair is set to its rail.
        """
        if not self.pair_apart:
            return self.bar.depth / 2 * math.tan(self.leans)
        return (self.pair_apart / 2 - self.wheel.d / 2 * math.sin(self.leans)) / math.cos(self.leans)

    @property
    def rails_take(self) -> float:
        """What the outer fibre of a rail works at, over what it would if it bore all the bending alone [-]."""
        if self.layered is None:
            return 1.0
        own = self.count * self.material.E * float(self.section.upright) / self.beam.ei
        return own * (1 + self.layered.joint * self.layered.upper / (self.bar.depth / 2))

    @property
    def base_takes(self) -> float:
        """Likewise that of the board under the rails."""
        if self.layered is None or self.base is None:
            return 0.0
        stiff = self.base.material.E * self.base.width * self.base.thickness**3 / 12
        return stiff / self.beam.ei * (1 + self.layered.lower / (self.base.thickness / 2))

    @property
    def share(self) -> float:
        """Of the load, what the heavier rail bears; outside the rails it bears more than all of it."""
        return 1.0 if self.count == 1 else 0.5 + abs(float(self.cg[1])) / self.spacing

    @property
    def felt(self) -> float:
        """The mass that all rails together feel bouncing [kg]: more of it where one bears more than the other."""
        return self.moving * (1.0 if self.count == 1 else 2 * (self.share**2 + (1 - self.share) ** 2))


def carrier(rail: Carriage, poses: np.ndarray) -> Run:
    """What runs on the rail, from axle to axle on top of it, at poses (n, 1)."""
    x, half = poses[:, 0], rail.wheelbase / 2
    return Member(rail.carrier, 0.02), rail.place(x - half, 0.0, 0.02), rail.place(x + half, 0.0, 0.02)


def turned(vector: tuple[float, float, float] | np.ndarray, heading: float) -> np.ndarray:
    """A vector of the mount frame in rail axes, the camera turned to the left by `heading`."""
    cos, sin = math.cos(heading), math.sin(heading)
    return np.array([vector[0] * cos - vector[1] * sin, vector[0] * sin + vector[1] * cos, vector[2]])


def loaded(
    design: Design,
    kit: Carried,
    wheels: np.ndarray,
    wheel: Wheel,
    carrier: str,
    *,
    base: tuple[str, float],
    beyond: float,
    drag: tuple[float, float],
    pressed: float,
    spacing: float,
    height: float,
    borne: tuple[Borne, ...] | None = None,
    lift: Lift | None = None,
    middle: tuple[float, float] = (0.0, 0.0),
    forked: bool = False,
) -> Carriage:
    """A carriage with its load on a straight way: `base` is the input that sets how far apart it touches and that
    distance [m], `middle` that of its plate from its own [m].

    Raises GeometryError for a carriage longer than its way.
    """
    number = design.number
    length, heading, far = number("rail.length"), number("camera.heading"), base[1]
    longer = mend_at("Rail {}", "rail.length", far + 2 * beyond + ROOM_TO_GO)
    if far >= length:
        raise GeometryError("the carriage is longer than the rail", longer)
    if far + 2 * beyond >= length:
        raise GeometryError("nothing of the rail is left for travel", longer)
    mount = np.array([number("camera.ahead") + middle[0], number("camera.aside") + middle[1], number("camera.rise")])
    load = kit.payload
    # The head rises with the mount; half of it counts.
    borne = borne or (Borne(number("carriage.mass"), mount / 2, 0.5),)
    moving = load.mass + sum(one.mass for one in borne)
    weighs = load.mass * (mount + turned(load.cg, heading)) + sum(one.mass * one.at for one in borne)
    return Carriage(
        length=length,
        height=height,
        slope=number("rail.slope"),
        spacing=spacing,
        wheel=wheel,
        wheels=wheels,
        wheelbase=far,
        base_key=base[0],
        beyond=beyond,
        drag=drag,
        pressed=pressed,
        moving=moving,
        cg=weighs / moving,
        heading=heading,
        mount=mount,
        lens=mount + turned(kit.lens_at_m, heading),
        carrier=carrier,
        follows=(load.mass + sum(one.mass * one.follows for one in borne)) / moving,
        lift=lift or Lift(),
        forked=forked,
    )


def corners(base: float, spread: float, *, three: bool) -> np.ndarray:
    """Where a carriage stands: front and rear to the left, and to the right too or one half-way (n, 2) [m]."""
    left = [(base / 2, spread / 2), (-base / 2, spread / 2)]
    right = [(0.0, -spread / 2)] if three else [(base / 2, -spread / 2), (-base / 2, -spread / 2)]
    return np.array([*left, *right])


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
    base: tuple[str, float] | None = None,
    height: float | None = None,
    borne: tuple[Borne, ...] | None = None,
    lift: Lift | None = None,
    middle: tuple[float, float] = (0.0, 0.0),
    under: Sheet | None = None,
    held_down: float = 0.0,
    slower: float = 0.0,
) -> Straight:
    """The mechanism on one or two rails; `three` wheels, the single one to the right, else four; `carrier` is what
    the thing that runs is called; `slides_on` names the length of what slides with a friction instead of running on
    wheels; `base` is what else sets the wheelbase, and that [m];
    `height` of the rail's top where that is no input [m]; `borne` all that it bears beside the kit; `under` a board
    that both rails are screwed to along all of them; each wheel is
    `held_down` beside its load [N], and rolls `slower` by as much on its face [-].

    Raises GeometryError for a carriage longer than the rail, InputError for unknown rows.
    """
    number = design.number
    bar, wheel = design.row("sections", "rail.section"), design.row("wheels", "carriage.wheel")
    stiff, rolls = number(STIFFNESS), number(ROLLING)
    material, section = as_found(design.catalogue.materials[bar.material], stiff), bar.section()
    under = under and replace(under, material=as_found(under.material, stiff))
    length, spacing = number("rail.length"), number("rail.spacing") if count == 2 else 0.0
    touches = slides_on or "carriage.wheelbase"
    base = base or (touches, number(touches))
    leans = float(design.values.get("pair.angle", INCLINED))  # type: ignore[arg-type]
    flat = wheel.shape in ("grooved", "caster") or (count == 1 and three)
    made = loaded(
        design,
        kit,
        corners(base[1], spacing or number("carriage.gauge"), three=three),
        wheel,
        carrier,
        base=base,
        beyond=0.0 if slides_on else wheel.d / 2,
        drag=(friction, friction)
        if slides_on
        else (rolls * (wheel.rolling + slower), rolls * (wheel.rolling_high + slower)),
        # Inclined pairs share a corner's load, either square to its slope.
        pressed=1.0 if flat else 1 / (2 * math.cos(leans)),
        spacing=spacing,
        height=number("rail.height") if height is None else height,
        borne=borne,
        lift=lift,
        middle=middle,
    )
    joints = joints_of(design, bar, length, rests)
    beam = Rail(
        length,
        count * material.E * section.upright,
        count * material.G * section.j,
        count * bar.line(material) * GRAVITY,
        rests,
        count * material.G * section.area * section.shear,
        tuple(replace(joint, stiffness=count * joint.stiffness) for joint in joints.in_beam),
    )
    layered = _layered(beam, bar, material, under) if under else None
    return Straight(
        **asdict(made),
        beam=_on_base(beam, layered, under) if under and layered else beam,
        count=count,
        bar=bar,
        section=section,
        material=material,
        joints=joints,
        base=under,
        layered=layered,
        leans=leans,
        pair_apart=float(design.values.get("pair.apart", 0.0)),  # type: ignore[arg-type]
        held_down=held_down,
    )


def _layered(beam: Rail, bar: StockSection, material: Material, board: Sheet) -> Layers:
    """Two rails on a board, joined by the screws along both."""
    own, stuff = sections.flat_bar(board.width, board.thickness), board.material
    upper = 2 * material.E * float(bar.section().area)
    slip = 2 * built_up.slip_modulus(stuff.density, SCREW)
    joint = built_up.joint_efficiency(upper, 1.0, BASE_SCREWS, slip, beam.length)
    apart = (bar.depth + board.thickness) / 2
    return built_up.layers(beam.ei, upper, stuff.E * float(own.upright), stuff.E * float(own.area), apart, joint)


def _on_base(beam: Rail, layered: Layers, board: Sheet) -> Rail:
    """Rails and the board under them as one beam."""
    own, stuff = sections.flat_bar(board.width, board.thickness), board.material
    return replace(
        beam,
        ei=layered.ei,
        gj=beam.gj + stuff.G * float(own.j),
        weight=beam.weight + stuff.density * float(own.area) * GRAVITY,
        ga=beam.ga + stuff.G * float(own.area) * own.shear,
    )


def follow(rail: Carriage, asked: Asked) -> Poses:
    """Pose (n, 1): place of the carriage's middle along the rail [m]; a shot that goes nowhere takes the whole travel.

    What the shot asks beyond the rail stays at the rail's end.
    """
    middle = (rail.low + rail.high) / 2
    return Poses.of(np.clip(middle + asked.along(rail.high - rail.low), rail.low, rail.high)[:, None])


def mount(rail: Carriage, poses: np.ndarray) -> Frames:
    """The mount plate at poses (n, 1), its origin on the floor under the rail's middle [m]; its level head looks
    along the heading, whatever the rail's slope.
    """
    there = rail.rides.at(poses[:, 0])
    along = np.arctan2(there.axes[:, 1, 0], there.axes[:, 0, 0])
    return headed(there.place(rail.mount), along + rail.heading)
