"""The jib as a mechanism: sizes, bodies and where everything is at an arm angle and a slew angle."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.catalogue import Bearing, Bolt, Grade, Material, Rope, Stand, StockSection, Turntable
from hazel_lantern.core.kinds.base import Asked, Design, FallZone, Limit, Member, Members, Poses, swings_to
from hazel_lantern.core.kinds.shared.pieces import members_of
from hazel_lantern.core.mechanics import balance, linkage
from hazel_lantern.core.mechanics.sections import Section
from hazel_lantern.core.mechanics.track import Frames, headed, pitched
from hazel_lantern.core.nouns.errors import GeometryError
from hazel_lantern.core.workshop.laid import Laid

ARM, BAR, LEVEL, HUNG, TURNING, FIXED = "arm", "bar", "level", "hung", "turning", "fixed"
SWUNG = (ARM, BAR, LEVEL, HUNG)
BY_BARS, BY_CABLE, BY_MOTOR = "bars", "cable", "motor"
WEIGHTS = ("weights", "weight pin")
CROSSED = math.radians(45)
MAST = "stainless-rod-12"
FACES = {BY_BARS: 8, BY_CABLE: 4, BY_MOTOR: 2}  # clamped faces of all pivots
LEAST = 1e-3  # kilograms of weights under which there are none
PANS = math.radians(20)  # that a hand may pan past the shot
ROUND = 0.3  # metres around what falls that it may tumble or bounce
HOOK = 0.06  # metres of hook above weights that hang


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
    """The levelling cable: its rope, radius of both wheels [m], pull in each run [N], how far the adjuster is turned
    [m].
    """

    rope: Rope
    post: float
    head: float
    tension: float
    adjusted: float


class Jib(Struct, frozen=True):
    """Sizes in metres, chosen rows, bodies, and the arm's usable angles. `level` says what keeps the camera level;
    `bars` how many make the arm.
    """

    level: str
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
    limits: linkage.Limits
    lens: tuple[float, float]
    mount: tuple[float, float]
    arm_balance: balance.Arm
    front_moment: float
    laid: Laid

    def mass_of(self, *names: str) -> float:
        return sum(body.mass for body in self.bodies if body.name in names)

    @property
    def cable_presses(self) -> float:
        """What both runs of a levelling cable press along the arm [N]."""
        return 2 * self.cable.tension if self.level == BY_CABLE else 0.0

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
        sine = (lens_height - self.lens[1] - self.height) / self.front
        if abs(sine) > 1:
            way = "above" if sine > 0 else "below"
            raise GeometryError(f"a lens height of {lens_height * 1e3:.0f} mm is {way} anything this arm can reach")
        return math.asin(sine)

    def lens_height(self, angle: np.ndarray | float) -> np.ndarray:
        return np.asarray(self.height + self.front * np.sin(angle) + self.lens[1])

    def places(self, angle: np.ndarray | float) -> np.ndarray:
        """Centre of mass of every body, ahead of the slew axis and above ground, shape (n, bodies, 2) [m]."""
        theta = np.atleast_1d(np.asarray(angle, float))
        pivot, upper = self.pivots()
        pin, top = self.heads(theta)
        rise = np.arctan2(top[:, 1] - upper[1], top[:, 0] - upper[0])
        # Each body lies in a frame with an origin that turns: the head as what keeps it level lets it.
        turned = {ARM: (pivot, theta), BAR: (upper, rise), LEVEL: (pin, self.tilts(theta))}
        found = []
        for body in self.bodies:
            if body.frame in turned:
                root, turn = turned[body.frame]
                cos, sin = np.cos(turn), np.sin(turn)
                away = np.column_stack([body.along * cos - body.above * sin, body.along * sin + body.above * cos])
                found.append(root + away)
            else:
                found.append(np.broadcast_to((body.along, body.above), pin.shape))
        return np.stack(found, axis=1)

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
        """Height of the post's foot, on the stand or what it pans on [m]."""
        return self.height + self.crown - self.post_length

    def tilts(self, angle: np.ndarray | float) -> np.ndarray:
        """Tilt of the head, nose up, at arm angles [rad]: the exact four-bar, the turn of the wheels, or none behind
        a motor.
        """
        theta = np.asarray(angle, float)
        if self.level == BY_BARS:
            return linkage.head_tilt(theta, self.front, self.upper, self.spacing, self.head_spacing, self.lean)
        if self.level == BY_CABLE:
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
        pin = np.stack([self.front * np.cos(angle), self.height + self.front * np.sin(angle)], axis=-1)
        tilt = self.tilts(angle)
        reach = self.head_spacing if self.level == BY_BARS else self.mount[1]
        return pin, pin + reach * np.stack([-np.sin(tilt), np.cos(tilt)], axis=-1)


def follow(jib: Jib, asked: Asked) -> Poses:
    """Pose (n, 2), arm and slew angle [rad], that brings the lens to each height wanted.

    Where the shot asks for more than the arm can reach, the pose stays at the arm's limit.
    """
    # The height of the head pin: the lens sits above it by the mount, and by what the head makes of the kit.
    sine = np.clip((asked.places[:, 2] - (jib.mount[1] + asked.lens[2]) - jib.height) / jib.front, -1, 1)
    angle = np.clip(np.arcsin(sine), jib.limits.low, jib.limits.high)
    return Poses.of(np.column_stack([angle, np.zeros_like(angle)]))


def frames(jib: Jib, poses: np.ndarray) -> dict[str, Frames]:
    """The frames of all bodies at poses (n, 2): arm and upper bar along themselves from their pivots, the head from
    its pin, weights that hang from theirs.
    """
    angle, slew = poses.T
    lower, upper = jib.pivots()
    pin, top = jib.heads(angle)
    rise = np.arctan2(top[:, 1] - upper[1], top[:, 0] - upper[0])
    hook = lower + np.stack(
        [-jib.place * np.cos(angle) - jib.above * np.sin(angle), jib.above * np.cos(angle) - jib.place * np.sin(angle)],
        axis=-1,
    )
    still = np.zeros_like(angle)

    def placed(points: np.ndarray, turn: np.ndarray) -> Frames:
        out, up = np.broadcast_to(points, (len(angle), 2)).T
        return headed(np.column_stack([out * np.cos(slew), out * np.sin(slew), up]), slew).turned(pitched(turn))

    return {
        ARM: placed(lower, angle),
        BAR: placed(upper, rise),
        LEVEL: placed(pin, jib.tilts(angle)),
        HUNG: placed(hook, still),
        TURNING: placed(np.zeros(2), still),
        FIXED: headed(np.zeros((len(angle), 3)), 0.0),
    }


def mount(jib: Jib, poses: np.ndarray) -> Frames:
    """The mount plate at poses (n, 2): it nods as what keeps it level lets it."""
    angle, slew = poses[:, 0], poses[:, 1]
    tilt = jib.tilts(angle)
    out = jib.front * np.cos(angle) + jib.mount[0] * np.cos(tilt) - jib.mount[1] * np.sin(tilt)
    up = jib.height + jib.front * np.sin(angle) + jib.mount[0] * np.sin(tilt) + jib.mount[1] * np.cos(tilt)
    return headed(np.column_stack([out * np.cos(slew), out * np.sin(slew), up]), slew).turned(pitched(tilt))


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
