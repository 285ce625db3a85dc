"""The jib as a mechanism: sizes, bodies and where everything is at an arm angle and a slew angle."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.catalogue import Bearing, Bolt, Grade, Material, Rope, Stand, StockSection, Turntable
from hazel_lantern.core.kinds.base import Design, Limit, Member, Members
from hazel_lantern.core.kinds.fall import FallZone, swings_to
from hazel_lantern.core.kinds.jib.design import BETWEEN, CLAMPED, SINGLE
from hazel_lantern.core.kinds.path import Asked, Poses
from hazel_lantern.core.kinds.shared.pieces import members_of
from hazel_lantern.core.kinds.shared.plates import BOARD
from hazel_lantern.core.mechanics import balance, linkage
from hazel_lantern.core.mechanics.sections import Section
from hazel_lantern.core.mechanics.track import Frames, headed, nosed
from hazel_lantern.core.nouns.errors import GeometryError
from hazel_lantern.core.workshop.laid import Laid

ARM, BAR, LEVEL, HUNG, REAR, TURNING, FIXED = "arm", "bar", "level", "hung", "rear", "turning", "fixed"
SWUNG = (ARM, BAR, LEVEL, HUNG, REAR)
BY_BARS, BY_CABLE, BY_MOTOR = "bars", "cable", "motor"
WEIGHTS = ("weights", "weight pin")
CROSSED = math.radians(45)
MAST = "stainless-rod-12"
FACES = {BY_BARS: 8, BY_CABLE: 4, BY_MOTOR: 2}  # clamped faces of all pivots
LEAST = 1e-3  # kilograms of weights under which there are none
PANS = math.radians(20)  # that a hand may pan past the shot
ROUND = 0.3  # metres around what falls that it may tumble or bounce
BESIDE_HEAD = 0.12  # metres before a pole's end that uprights lie beside
HOOK = 0.06  # metres of hook at least above weights that hang
HEAD_AXIS = 0.03  # metres from a fluid head's axis up to its plate, workshop judgement


def pair_of(aside: float) -> tuple[float, float]:
    """To the left and to the right [m]."""
    return aside, -aside


class Body(Struct, frozen=True):
    """A rigid mass [kg] at a place in its frame [m].

    Frames: arm (along the arm from the lower pivot, above its line), bar (likewise from the upper pivot),
    level (ahead of and above the head pin), turning (ahead of the slew axis, above ground), fixed (same, never turns);
    to the left of the arm's plane in all of them.
    """

    name: str
    mass: float
    frame: str
    along: float
    above: float
    aside: float = 0.0


class Cable(Struct, frozen=True):
    """The levelling cable: its rope, radius of both wheels, or half of what their pins are apart [m], pull in each run
    [N], how far the adjuster is turned [m]; whether it runs between `pins`.
    """

    rope: Rope
    post: float
    head: float
    tension: float
    adjusted: float
    pins: bool = False


class Jib(Struct, frozen=True):
    """Sizes in metres, chosen rows, bodies, and the arm's usable angles. `level` says what keeps the camera level,
    `held` what its pivot is; `bars` how many make the arm, which ends as its `tip` from `tip_from` ahead of the pivot
    on; its line lies `offset` above the pivot. `post` is what stands at either side of it, `hook` what weights that
    hang do so by.
    """

    level: str
    held: str
    front: float
    rear: float
    upper: float
    spacing: float
    head_spacing: float
    crown: float
    post_length: float
    height: float
    lean: float
    bars: int
    arm: StockSection
    tip: StockSection | None
    tip_from: float
    offset: float
    whole: bool
    bar: StockSection
    post: StockSection
    upright: StockSection
    arm_section: Section
    bar_section: Section
    arm_material: Material
    bolt: Bolt
    grade: Grade
    rod: bool
    bearing: Bearing
    stand: Stand
    pan: Turntable
    cable: Cable
    mast: float
    feet: np.ndarray
    bodies: tuple[Body, ...]
    hung: float
    place: float
    above: float
    plate_radius: float
    weights_radius: float
    hook: float
    limits: linkage.Limits
    lens: tuple[float, float]
    mount: tuple[float, float]
    arm_balance: balance.Arm
    front_moment: float
    laid: Laid

    def mass_of(self, *names: str) -> float:
        return sum(body.mass for body in self.bodies if body.name in names)

    @property
    def cable_pins(self) -> bool:
        """Whether cables between pins keep the camera level."""
        return self.level == BY_CABLE and self.cable.pins

    @property
    def column(self) -> float:
        """Height of the stand's top: under the foot, what it pans on and the plates it is screwed down with [m]."""
        plates = 0.0 if self.pan.fixing == "head" else 2 * BOARD
        return self.foot - self.pan.height - plates

    @property
    def faces(self) -> int:
        """Clamped faces of all its pivots: two more for either pin of a rear upright."""
        return FACES[self.level] + (4 if self.whole else 0)

    @property
    def cable_presses(self) -> float:
        """What both runs of a levelling cable press along the arm [N]."""
        return 2 * self.cable.tension if self.level == BY_CABLE else 0.0

    @property
    def cheeks(self) -> int:
        """How many members hold the pivot, and how many the head."""
        return 1 if self.held in (SINGLE, BETWEEN) else 2

    @property
    def across(self) -> float:
        """From side to side of the arm's bars, with what stands between them [m]."""
        return self.arm.width * self.bars + (self.post.width if self.held == BETWEEN else 0.0)

    @property
    def bar_line(self) -> float:
        """Mass of a metre of the upper bar [kg/m]."""
        return self.mass_of("upper bar") / (self.upper + (self.place if self.whole else 0.0))

    @property
    def beside(self) -> float:
        """From the arm's middle to that of a cheek, or from the one post's to that of a bar [m]."""
        return (self.arm.width * (1 if self.held == BETWEEN else self.bars) + self.post.width) / 2

    @property
    def arm_lanes(self) -> tuple[float, ...]:
        """Where the bars of the arm lie to the left [m]."""
        return pair_of(self.beside if self.held == BETWEEN else self.arm.width / 2) if self.bars > 1 else (0.0,)

    @property
    def bar_lanes(self) -> tuple[float, ...]:
        """Likewise those of the upper bar."""
        return pair_of((self.post.width + self.bar.width) / 2) if self.held == BETWEEN else (0.0,)

    def lanes(self, width: float) -> tuple[float, ...]:
        """Where what holds the pivot, or the head, lies to the left: at either side, at one, or in the middle [m]."""
        if self.held == BETWEEN:
            return (0.0,)
        aside = (self.arm.width * self.bars + width) / 2
        return (aside,) if self.held == SINGLE else pair_of(aside)

    @property
    def end_wide(self) -> float:
        """From side to side of the arm at its head: a pole that tapers is a little thicker beside the uprights [m]."""
        if self.tip is None:
            return self.across
        tapers = self.tip_from == 0.0
        return self.tip.width + tapers * (self.arm.width - self.tip.width) * BESIDE_HEAD / self.front

    @property
    def head_lanes(self) -> tuple[float, ...]:
        """Where the head uprights lie to the left, beside a thinner tip [m]."""
        if self.tip is None or self.held == BETWEEN:
            return self.lanes(self.upright.width)
        aside = (self.end_wide + self.upright.width) / 2
        return (aside,) if self.held == SINGLE else pair_of(aside)

    @property
    def arm_weight(self) -> float:
        """Of all that swings beside head and weights [kg]."""
        return sum(body.mass for body in self.bodies if body.frame in (ARM, BAR, REAR) and body.name not in WEIGHTS)

    @property
    def head_moment(self) -> float:
        """Of head and camera about the pivot, arm level [kg*m]."""
        return self.head_mass * self.front

    @property
    def asides(self) -> np.ndarray:
        """How far each body lies to the left of the arm's plane (bodies,) [m]."""
        return np.array([body.aside for body in self.bodies])

    @property
    def head_mass(self) -> float:
        """Everything that stays level with the camera [kg]."""
        return sum(body.mass for body in self.bodies if body.frame == LEVEL)

    @property
    def mass(self) -> float:
        return sum(body.mass for body in self.bodies)

    def angle_for(self, lens_height: float) -> float:
        """Arm angle that brings the lens to a height; raises GeometryError when it is out of reach."""
        sine = (lens_height - self.lens[1] - self.height) / self.reaches
        if abs(sine) > 1:
            way = "above" if sine > 0 else "below"
            raise GeometryError(f"a lens height of {lens_height * 1e3:.0f} mm is {way} anything this arm can reach")
        return math.asin(sine) - self.ahead_of

    @property
    def reaches(self) -> float:
        """From the pivot to the head pin [m]."""
        return math.hypot(self.front, self.offset)

    @property
    def ahead_of(self) -> float:
        """How far the line from the pivot to the head pin is turned up from the arm's own [rad]."""
        return math.atan2(self.offset, self.front)

    def lens_height(self, angle: np.ndarray | float) -> np.ndarray:
        return np.asarray(self.height + self.reaches * np.sin(angle + self.ahead_of) + self.lens[1])

    def places(self, angle: np.ndarray | float) -> np.ndarray:
        """Centre of mass of every body, ahead of the slew axis and above ground, shape (n, bodies, 2) [m]."""
        theta = np.atleast_1d(np.asarray(angle, float))
        pivot, upper = self.pivots()
        pin, top = self.heads(theta)
        rise = np.arctan2(top[:, 1] - upper[1], top[:, 0] - upper[0])
        # Each body lies in a frame with an origin that turns: the head as what keeps it level lets it.
        behind, still = pivot - self.place * np.column_stack([np.cos(theta), np.sin(theta)]), np.zeros_like(theta)
        frames = (
            (ARM, pivot, theta),
            (BAR, upper, rise),
            (LEVEL, pin, self.tilts(theta)),
            (REAR, behind, still + self.lean),
            (FIXED, np.zeros(2), still),
        )
        number = {frame: k for k, (frame, _, _) in enumerate(frames)}
        of = np.array([number.get(body.frame, number[FIXED]) for body in self.bodies])
        at = np.array([(body.along, body.above) for body in self.bodies])[..., None]
        roots = np.array([np.broadcast_to(root, pin.shape) for _, root, _ in frames])[of]
        turns = np.array([turn for _, _, turn in frames])
        cos, sin, x, y = np.cos(turns)[of], np.sin(turns)[of], at[:, 0], at[:, 1]
        return np.swapaxes(roots + np.stack([x * cos - y * sin, x * sin + y * cos], axis=-1), 0, 1)

    def pivots(self) -> tuple[np.ndarray, np.ndarray]:
        """Lower and upper pivot on the post, (ahead, above ground) [m]; without an upper bar the top of the post
        stands for the upper one.
        """
        lower = np.array([0.0, self.height])
        return lower, lower + (self.spacing if self.level == BY_BARS else self.crown) * self.up

    @property
    def up(self) -> np.ndarray:
        """Direction of the post."""
        return np.array([-math.sin(self.lean), math.cos(self.lean)])

    @property
    def foot(self) -> float:
        """Height of the post's foot, on the stand or what it pans on [m];
        of a fluid head's plate where there is none."""
        if self.held == CLAMPED:
            return self.height + HEAD_AXIS
        return self.height + self.crown - self.post_length

    def tilts(self, angle: np.ndarray | float) -> np.ndarray:
        """Tilt of the head, nose up, at arm angles [rad]: the exact four-bar, the turn of the wheels, or none behind
        a motor.
        """
        theta = np.asarray(angle, float)
        if self.level == BY_BARS:
            return linkage.head_tilt(theta, self.front, self.upper, self.spacing, self.head_spacing, self.lean)
        if self.level == BY_CABLE:
            if self.cable.pins:
                # The sides of a parallelogram: the head stays as the post stands, and turns with the adjuster.
                return self.lean + self.cable.adjusted / (self.cable.head * np.cos(theta - self.lean))
            # The wheel at the post leans with it; what the adjuster takes from one run it gives to the other.
            return (
                self.lean
                + (theta - self.lean) * (1 - self.cable.post / self.cable.head)
                + self.cable.adjusted / self.cable.head
            )
        return np.zeros_like(theta)

    def heads(self, angle: np.ndarray | float) -> tuple[np.ndarray, np.ndarray]:
        """Lower pin of the head and the top of its uprights (..., 2) at arm angles [m]; the upper pin where there is
        one.
        """
        turned = angle + self.ahead_of
        pin = np.stack([self.reaches * np.cos(turned), self.height + self.reaches * np.sin(turned)], axis=-1)
        tilt = self.tilts(angle)
        reach = self.head_spacing if self.level == BY_BARS else self.mount[1]
        return pin, pin + reach * np.stack([-np.sin(tilt), np.cos(tilt)], axis=-1)


def follow(jib: Jib, asked: Asked) -> Poses:
    """Pose (n, 2), arm and slew angle [rad], that brings the lens to each height wanted.

    Where the shot asks for more than the arm can reach, the pose stays at the arm's limit.
    """
    # The height of the head pin: the lens sits above it by the mount, and by what the head makes of the kit.
    sine = np.clip((asked.places[:, 2] - (jib.mount[1] + asked.lens[2]) - jib.height) / jib.reaches, -1, 1)
    angle = np.clip(np.arcsin(sine) - jib.ahead_of, jib.limits.low, jib.limits.high)
    return Poses.of(np.column_stack([angle, np.zeros_like(angle)]))


def frames(jib: Jib, poses: np.ndarray) -> dict[str, Frames]:
    """The frames of all bodies at poses (n, 2): arm and upper bar along themselves from their pivots, the head from
    its pin, weights that hang from theirs.
    """
    angle, slew = poses.T
    lower, upper = jib.pivots()
    pin, top = jib.heads(angle)
    rise = np.arctan2(top[:, 1] - upper[1], top[:, 0] - upper[0])
    above = jib.above + jib.offset
    hook = lower + np.stack(
        [-jib.place * np.cos(angle) - above * np.sin(angle), above * np.cos(angle) - jib.place * np.sin(angle)], axis=-1
    )
    still, along, across = np.zeros_like(angle), np.cos(slew), np.sin(slew)

    def placed(points: np.ndarray, turn: np.ndarray) -> Frames:
        out, up = np.broadcast_to(points, (len(angle), 2)).T
        return nosed(np.column_stack([out * along, out * across, up]), slew, turn)

    return {
        ARM: placed(lower, angle),
        BAR: placed(upper, rise),
        LEVEL: placed(pin, jib.tilts(angle)),
        HUNG: placed(hook, still),
        REAR: placed(lower - jib.place * np.stack([np.cos(angle), np.sin(angle)], axis=-1), still + jib.lean),
        TURNING: placed(np.zeros(2), still),
        FIXED: headed(np.zeros((len(angle), 3)), 0.0),
    }


def mount(jib: Jib, poses: np.ndarray) -> Frames:
    """The mount plate at poses (n, 2): it nods as what keeps it level lets it."""
    angle, slew = poses[:, 0], poses[:, 1]
    tilt = jib.tilts(angle)
    pin, _ = jib.heads(angle)
    out = pin[:, 0] + jib.mount[0] * np.cos(tilt) - jib.mount[1] * np.sin(tilt)
    up = pin[:, 1] + jib.mount[0] * np.sin(tilt) + jib.mount[1] * np.cos(tilt)
    return nosed(np.column_stack([out * np.cos(slew), out * np.sin(slew), up]), slew, tilt)


def handled(jib: Jib, poses: np.ndarray) -> np.ndarray:
    """The rear end of the arm at poses (n, 2), in the rig frame (n, 3) [m]."""
    return frames(jib, poses)[ARM].place((-jib.rear, 0.0, 0.0))


def limits(design: Design, jib: Jib) -> tuple[Limit, ...]:
    """The hard stop at the lens that arm, post and stand are judged by."""
    return (Limit("the hard stop it is judged by", design.number("pan.stop"), "pan.stop"),)


def falls(jib: Jib) -> FallZone:
    """Under the arm from its weights to the camera, as far to either side as a hand pans past its mark."""
    ahead, behind = jib.front + max(jib.lens[0], 0.0), -jib.rear
    cos, sin = math.cos(PANS), math.sin(PANS)
    outline = [
        (behind * cos, behind * sin),
        (ahead * cos, -ahead * sin),
        (ahead * cos, ahead * sin),
        (behind * cos, -behind * sin),
    ]
    return swings_to(np.array(outline), ROUND)


def members(jib: Jib, poses: np.ndarray) -> Members:
    """Arm, bar, uprights, cheeks, stay and weights, the column under the cheeks and the legs at poses (n, 2)."""
    legs = [(Member("leg", 0.02, False), (0.0, 0.0, 0.3), (x, y, 0.0)) for x, y in jib.feet]
    column = (Member("post", jib.post.depth / 2, False), (0.0, 0.0, 0.1), (0.0, 0.0, max(0.1, jib.foot)))
    return Members.at(len(poses), [*members_of(jib.laid, frames(jib, poses), SWUNG), column, *legs])
