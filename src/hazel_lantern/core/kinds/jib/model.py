"""The jib as a mechanism: sizes, bodies and where everything is at an arm angle and a slew angle."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.catalogue import Bar, Bearing, Bolt, Grade, Material, Stand
from hazel_lantern.core.errors import GeometryError, InputError
from hazel_lantern.core.kinds.base import Context, Member
from hazel_lantern.core.mechanics import balance, linkage
from hazel_lantern.core.mechanics.sections import Section
from hazel_lantern.core.motion.profiles import eased
from hazel_lantern.core.units import GRAVITY

ARM, BAR, LEVEL, TURNING, FIXED = "arm", "bar", "level", "turning", "fixed"


class Body(Struct, frozen=True):
    """A rigid mass [kg] at a place in its frame [m].

    Frames: arm (along the arm from the lower pivot, above its line), bar (likewise from the upper pivot),
    level (ahead of and above the head pin), turning (ahead of the slew axis, above ground), fixed (same, never turns).
    """

    name: str
    mass: float
    frame: str
    along: float
    above: float


class Jib(Struct, frozen=True):
    """Sizes in metres, chosen rows, bodies, and the arm's usable angles."""

    front: float
    rear: float
    upper: float
    spacing: float
    head_spacing: float
    height: float
    lean: float
    arm: Bar
    bar: Bar
    post: Bar
    upright: Bar
    arm_section: Section
    bar_section: Section
    arm_material: Material
    bolt: Bolt
    grade: Grade
    bearing: Bearing
    stand: Stand
    feet: np.ndarray
    bodies: tuple[Body, ...]
    hung: float
    weights_radius: float
    limits: linkage.Limits
    lens: tuple[float, float]
    arm_balance: balance.Arm
    front_moment: float
    friction_washers: float

    def mass_of(self, *names: str) -> float:
        return sum(body.mass for body in self.bodies if body.name in names)

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
        cos, sin = np.cos(theta), np.sin(theta)
        pivot, upper = self.pivots()
        pin = np.column_stack([pivot[0] + self.front * cos, pivot[1] + self.front * sin])
        found = []
        for body in self.bodies:
            if body.frame in (ARM, BAR):
                root = pivot if body.frame == ARM else upper
                found.append(np.column_stack([root[0] + body.along * cos - body.above * sin, root[1] + body.along * sin + body.above * cos]))
            elif body.frame == LEVEL:
                found.append(pin + (body.along, body.above))
            else:
                found.append(np.broadcast_to((body.along, body.above), pin.shape))
        return np.stack(found, axis=1)

    def pivots(self) -> tuple[np.ndarray, np.ndarray]:
        """Lower and upper pivot on the post, (ahead, above ground) [m]."""
        lower = np.array([0.0, self.height])
        return lower, lower + self.spacing * np.array([-math.sin(self.lean), math.cos(self.lean)])

    def heads(self, angle: float) -> tuple[np.ndarray, np.ndarray]:
        """Lower and upper pin of the head at an arm angle [m]; the head's tilt comes from the exact four-bar."""
        pin = np.array([self.front * math.cos(angle), self.height + self.front * math.sin(angle)])
        tilt = float(linkage.head_tilt(angle, self.front, self.upper, self.spacing, self.head_spacing, self.lean))
        return pin, pin + self.head_spacing * np.array([-math.sin(tilt), math.cos(tilt)])


def build(context: Context) -> Jib:
    """The mechanism of a jib design.

    Raises GeometryError when the arm cannot move at all, InputError for unknown rows or contradictory sizes.
    """
    number, row = context.number, context.row
    arm, bar, post, upright = (row("sections", key) for key in ("arm.section", "bar.section", "post.section", "head.section"))
    materials = context.catalogue.materials
    front, rear, end = number("arm.front"), number("arm.rear"), number("arm.end")
    upper, height = front + number("bar.longer"), number("pivot.height")
    arm_section, bar_section = arm.section(), bar.section()
    if front < max(number("head.spacing"), 0.1 - number("head.ahead")):
        raise GeometryError("the front arm is shorter than the head it carries")
    stand, bolt, bearing = row("stands", "stand"), row("bolts", "pin.bolt"), row("bearings", "pivot.bearing")
    owned = dict(context.owned)
    for key in context.several("weights.hung"):
        if key not in owned:
            raise InputError("weights.hung", repr(key), "is not among the weights owned")
    plates = [owned[key] for key in context.several("weights.hung")]
    hung, holder = sum(plate.mass for plate in plates), number("weights.holder")

    def line(section: Section, piece: Bar) -> float:
        return section.area * materials[piece.material].density

    weights_at = (-number("weights.place"), number("weights.above"))
    upright_length = number("head.spacing") + max(0.0, number("head.rise")) + 2 * end
    cheeks = number("post.length")
    ahead, rise = number("head.ahead"), number("head.rise")
    cg = context.payload.cg
    bodies = (
        Body("camera kit", context.payload.mass, LEVEL, ahead + float(cg[0]), rise + float(cg[2])),
        Body("head", number("head.mass"), LEVEL, ahead, rise),
        Body("head uprights", 2 * upright_length * line(upright.section(), upright), LEVEL, 0.0, number("head.spacing") / 2),
        Body("arm", (front + rear + 2 * end) * line(arm_section, arm), ARM, (front - rear) / 2, 0.0),
        Body("upper bar", (upper + 2 * end) * line(bar_section, bar), BAR, upper / 2, 0.0),
        Body("weights", hung, ARM, *weights_at),
        Body("weight pin", holder, ARM, *weights_at),
        Body("post cheeks", 2 * cheeks * line(post.section(), post), TURNING, 0.0, height + number("pivot.spacing") - cheeks / 2),
        Body("stand", stand.mass, FIXED, 0.0, stand.cg_height * min(height, stand.height_max)),
        Body("ballast", number("ballast.mass"), FIXED, 0.0, 0.25),
    )
    along, above = _moments(bodies, front, lambda body: True)
    front_moment, _ = _moments(bodies, front, lambda body: body.name not in ("weights", "weight pin"))
    washers = 8 * balance.washer_friction(number("pivot.clamp"), bearing.mu, bolt.d / 2, bolt.washer_od / 2)
    radius = max((plate.radius for plate in plates), default=0.03) + max(0.0, -number("weights.above"))
    limits = linkage.jib_limits(
        height, front, number("weights.place"), number("head.low"), radius, number("limit.ground"),
        number("pivot.spacing"), arm.depth, bar.depth, number("post.lean"), number("limit.bars"),
    )  # fmt: skip
    angles = number("stand.turn") + 2 * math.pi * np.arange(stand.legs) / stand.legs
    feet = number("stand.radius") * np.column_stack([np.cos(angles), np.sin(angles)])
    lens = context.kit.lens_at_m
    jib = Jib(
        front, rear, upper, number("pivot.spacing"), number("head.spacing"), height, number("post.lean"), arm, bar, post, upright,
        arm_section, bar_section, materials[arm.material], bolt, row("grades", "pin.grade"), bearing, stand, feet, bodies, hung, radius,
        limits, (ahead + lens[0], rise + lens[2]), balance.Arm(along, above, washers + _pin_friction(bodies, bearing, bolt)),
        front_moment, washers,
    )  # fmt: skip
    jib.heads(limits.low), jib.heads(limits.high)
    return jib


def _moments(bodies: tuple[Body, ...], front: float, wanted) -> tuple[float, float]:  # type: ignore[no-untyped-def]
    """Static moments about the pivot; level bodies act at their pin."""
    taken = [body for body in bodies if body.frame in (ARM, BAR, LEVEL) and wanted(body)]
    places = [(front, 0.0) if b.frame == LEVEL else (b.along, 0.0 if b.frame == BAR else b.above) for b in taken]
    return balance.static_moments(np.array([b.mass for b in taken]), np.array(places))


def _pin_friction(bodies: tuple[Body, ...], bearing: Bearing, bolt: Bolt) -> float:
    """Friction of the loaded main pivot and the head pin in their bores, arm level [N*m]."""
    swung = sum(b.mass for b in bodies if b.frame in (ARM, BAR, LEVEL))
    head = sum(b.mass for b in bodies if b.frame == LEVEL)
    return bearing.mu * bolt.d / 2 * GRAVITY * (swung + head)


def path(context: Context, jib: Jib, u: np.ndarray) -> np.ndarray:
    """Pose (n, 2), arm and slew angle [rad], at shares u of the shot's rise; the lens height follows the ease.

    Where the shot asks for more than the arm can reach, the pose stays at the arm's limit.
    """
    shot = context.shot
    heights = shot.start_height_m + (shot.end_height_m - shot.start_height_m) * eased(u, shot.ramp)
    sine = np.clip((heights - jib.lens[1] - jib.height) / jib.front, -1, 1)
    angle = np.clip(np.arcsin(sine), jib.limits.low, jib.limits.high)
    return np.column_stack([angle, np.zeros_like(angle)])


def lens(context: Context, jib: Jib, poses: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Places (n, 3) of the lens in the rig frame [m] and the heading of the level head (n,) [rad]."""
    angle, slew = poses[:, 0], poses[:, 1]
    out = jib.front * np.cos(angle) + jib.lens[0]
    return np.column_stack([out * np.cos(slew), out * np.sin(slew), jib.lens_height(angle)]), slew


def members(context: Context, jib: Jib, pose: np.ndarray) -> tuple[Member, ...]:
    """Arm, bar, uprights, weights, post and legs at a pose."""
    angle, slew = float(pose[0]), float(pose[1])
    lower, upper = jib.pivots()
    pin, head = jib.heads(angle)
    along = np.array([math.cos(angle), math.sin(angle)])

    def at(point: np.ndarray) -> tuple[float, float, float]:
        return float(point[0]) * math.cos(slew), float(point[0]) * math.sin(slew), float(point[1])

    found = [
        Member("arm", at(lower - along * jib.rear), at(pin), jib.arm.depth / 2), Member("upper bar", at(upper), at(head), jib.bar.depth / 2),
        Member("head upright", at(pin), at(head), jib.upright.depth / 2), Member("post", (0.0, 0.0, 0.1), at(upper), jib.post.depth / 2, False),
    ]  # fmt: skip
    if jib.hung:
        weights = lower - along * context.number("weights.place")
        found.append(Member("weights", at(weights), at(weights + (0.0, -0.01)), jib.weights_radius))
    found += [Member("leg", (0.0, 0.0, 0.3), (float(x), float(y), 0.0), 0.02, False) for x, y in jib.feet]
    return tuple(found)
