"""The jib as a mechanism: sizes, bodies and where everything is at an arm angle and a slew angle."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.catalogue import Bar, Bearing, Bolt, Grade, Material, Rope, Stand, Turntable
from hazel_lantern.core.errors import GeometryError, InputError
from hazel_lantern.core.kinds.base import Asked, Carried, Design, Laid, Member, Members, Owned, Poses
from hazel_lantern.core.kinds.jib.design import CABLE, HANGING, PAIR, WITH_BAR
from hazel_lantern.core.mechanics import balance, linkage
from hazel_lantern.core.mechanics.sections import Section
from hazel_lantern.core.mechanics.track import Frames, headed, pitched
from hazel_lantern.core.units import GRAVITY

ARM, BAR, LEVEL, TURNING, FIXED = "arm", "bar", "level", "turning", "fixed"
BY_BARS, BY_CABLE, BY_MOTOR = "bars", "cable", "motor"
WEIGHTS = ("weights", "weight pin")
CROSSED = math.radians(45)
MAST = "stainless-rod-12"
LEAST = 1e-3  # kilograms of weights under which there are none
HOOK = 0.06  # metres of hook above weights that hang


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


class Cable(Struct, frozen=True):
    """The levelling cable: its rope, radius of both wheels [m], pull in each run [N], how far the adjuster is turned [m]."""

    rope: Rope
    post: float
    head: float
    tension: float
    adjusted: float


class Jib(Struct, frozen=True):
    """Sizes in metres, chosen rows, bodies, and the arm's usable angles. `level` says what keeps the camera level; `bars` how many make the arm."""

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
    pan: Turntable
    cable: Cable
    mast: float
    feet: np.ndarray
    bodies: tuple[Body, ...]
    hung: float
    place: float
    plate_radius: float
    weights_radius: float
    limits: linkage.Limits
    lens: tuple[float, float]
    mount: tuple[float, float]
    arm_balance: balance.Arm
    front_moment: float

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
        """Lower and upper pivot on the post, (ahead, above ground) [m]; without an upper bar the top of the post stands for the upper one."""
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
        """Tilt of the head, nose up, at arm angles [rad]: the exact four-bar, the turn of the wheels, or none behind a motor."""
        theta = np.asarray(angle, float)
        if self.level == BY_BARS:
            return linkage.head_tilt(theta, self.front, self.upper, self.spacing, self.head_spacing, self.lean)
        if self.level == BY_CABLE:
            # The wheel at the post leans with it; what the adjuster takes from one run it gives to the other.
            return self.lean + (theta - self.lean) * (1 - self.cable.post / self.cable.head) + self.cable.adjusted / self.cable.head
        return np.zeros_like(theta)

    def heads(self, angle: np.ndarray | float) -> tuple[np.ndarray, np.ndarray]:
        """Lower pin of the head and the top of its uprights (..., 2) at arm angles [m]; the upper pin where there is one."""
        pin = np.stack([self.front * np.cos(angle), self.height + self.front * np.sin(angle)], axis=-1)
        tilt = self.tilts(angle)
        reach = self.head_spacing if self.level == BY_BARS else self.mount[1]
        return pin, pin + reach * np.stack([-np.sin(tilt), np.cos(tilt)], axis=-1)


def build(design: Design, kit: Carried, owned: Owned) -> Jib:
    """The mechanism of a jib design.

    Raises GeometryError when the arm cannot move at all, InputError for unknown rows or contradictory sizes.
    """
    number, row = design.number, design.row
    variant = design.variant
    level = BY_BARS if variant in WITH_BAR else BY_CABLE if variant == CABLE else BY_MOTOR
    arm, bar, post, upright = (row("sections", key) for key in ("arm.section", "bar.section", "post.section", "head.section"))
    front, rear = number("arm.front"), number("arm.rear")
    height, spacing = number("pivot.height"), number("pivot.spacing")
    if front < max(number("head.spacing") if level == BY_BARS else 0.0, 0.1 - number("head.ahead")):
        raise GeometryError("the front arm is shorter than the head it carries")
    bolt, bearing = row("bolts", "pin.bolt"), row("bearings", "pivot.bearing")
    weights = dict(owned)
    for key in design.several("weights.hung"):
        if key not in weights:
            raise InputError("weights.hung", repr(key), "is not among the weights owned")
    plates = [weights[key] for key in design.several("weights.hung")]
    crown = {BY_BARS: spacing + 0.035, BY_CABLE: number("cable.post_wheel") / 2 + 0.03, BY_MOTOR: 0.05}[level]
    bodies = _bodies(design, kit, level, crown, sum(plate.mass for plate in plates))
    plate = max((plate.radius for plate in plates), default=0.03)
    radius = (2 * plate + HOOK if design.text("weights.carried") == HANGING else plate) + max(0.0, -number("weights.above"))
    limits = linkage.jib_limits(
        height, front, number("weights.place"), number("head.low"), radius, number("limit.ground"),
        spacing if level == BY_BARS else None, arm.depth, bar.depth, number("post.lean"), number("limit.bars"),
    )  # fmt: skip
    if level == BY_MOTOR:
        # The head turns back by as much as the arm rises.
        limits = linkage.narrowed(limits, -number("head.tilt_up"), -number("head.tilt_down"), "the powered head's own range")
    stand = row("stands", "stand")
    angles = number("stand.turn") + 2 * math.pi * np.arange(stand.legs) / stand.legs
    lens, mount = kit.lens_at_m, (number("head.ahead"), number("head.rise"))
    along, above = _moments(bodies, front, lambda body: True)
    # A motor that holds the head level hands its moment to the arm; a bar or cable hands it to the post.
    held = sum(b.mass * b.along for b in bodies if b.frame == LEVEL) if level == BY_MOTOR else 0.0
    cable = Cable(row("ropes", "cable.rope"), number("cable.post_wheel") / 2, number("cable.head_wheel") / 2, number("cable.tension"), number("cable.adjust"))
    jib = Jib(
        level, front, rear, front + number("bar.longer"), spacing, number("head.spacing"), crown, number("post.length"), height, number("post.lean"), 2 if design.text("arm.made") == PAIR else 1,
        arm, bar, post, upright, arm.section(), bar.section(), design.catalogue.materials[arm.material], bolt, row("grades", "pin.grade"), bearing, stand,
        row("turntables", "pan.bearing"), cable, number("stay.mast"), number("stand.radius") * np.column_stack([np.cos(angles), np.sin(angles)]),
        bodies, sum(plate.mass for plate in plates), number("weights.place"), plate, radius, limits, (mount[0] + lens[0], mount[1] + lens[2]), mount,
        balance.Arm(along, above, friction(design, level, bodies, bearing, bolt), held), _moments(bodies, front, lambda body: body.name not in WEIGHTS)[0] + held,
    )  # fmt: skip
    turned = jib.tilts(np.array([limits.low, limits.high])) - jib.lean
    if level == BY_BARS and float(np.abs(turned).max()) > CROSSED:
        raise GeometryError("the bars cross as the arm swings: make both pairs of holes alike")
    return jib


def _bodies(design: Design, kit: Carried, level: str, crown: float, hung: float) -> tuple[Body, ...]:
    """Every rigid mass of a design, in its own frame."""
    number, row, stuff = design.number, design.row, design.catalogue.materials
    stand, pan = row("stands", "stand"), row("turntables", "pan.bearing")
    front, rear, end, height = number("arm.front"), number("arm.rear"), number("arm.end"), number("pivot.height")
    upper, spacing = front + number("bar.longer"), number("head.spacing")
    ahead, rise, cheeks = number("head.ahead"), number("head.rise"), number("post.length")
    cg = kit.payload.cg

    def line(key: str) -> float:
        piece = row("sections", key)
        return float(piece.section().area * stuff[piece.material].density)

    weights_at = (-number("weights.place"), number("weights.above"))
    upright = (spacing if level == BY_BARS else 0.0) + max(0.0, rise) + 2 * end
    arms = 2 if design.text("arm.made") == PAIR else 1
    found = [
        Body("camera kit", kit.payload.mass, LEVEL, ahead + float(cg[0]), rise + float(cg[2])),
        Body("head", number("head.mass"), LEVEL, ahead, rise),
        Body("head uprights", 2 * upright * line("head.section"), LEVEL, 0.0, spacing / 2 if level == BY_BARS else rise / 2),
        Body("arm", arms * (front + rear + 2 * end) * line("arm.section"), ARM, (front - rear) / 2, 0.0),
    ]  # fmt: skip
    if level == BY_BARS:
        found.append(Body("upper bar", (upper + 2 * end) * line("bar.section"), BAR, upper / 2, 0.0))
    if level == BY_CABLE:
        wheel = number("cable.wheel_mass")
        found += [
            Body("head wheel", wheel, LEVEL, 0.0, 0.0),
            Body("post wheel", wheel, TURNING, 0.0, height),
            Body("cable", 2 * front * row("ropes", "cable.rope").density, ARM, front / 2, 0.0),
        ]
    if number("arm.joint") > 0:
        found.append(Body("sleeve", arms * number("arm.sleeve") * line("arm.section"), ARM, number("arm.joint"), 0.0))
    mast = number("stay.mast")
    if mast > 0:
        rod = design.catalogue.sections[MAST]
        found += [
            Body("stay mast", mast * rod.section().area * stuff[rod.material].density, ARM, 0.0, mast / 2),
            Body("stay cable", (math.hypot(front, mast) + math.hypot(rear, mast)) * row("ropes", "stay.rope").density, ARM, (front - rear) / 2, mast / 2),
        ]  # fmt: skip
    return (
        *found, Body("weights", hung, ARM, *weights_at), Body("weight pin", number("weights.holder"), ARM, *weights_at),
        Body("post cheeks", 2 * cheeks * line("post.section"), TURNING, 0.0, height + crown - cheeks / 2),
        Body("pan bearing", pan.mass, TURNING, 0.0, max(0.05, height + crown - cheeks - pan.height / 2)),
        Body("stand", stand.mass, FIXED, 0.0, stand.cg_height * min(height, stand.height_max)), Body("ballast", number("ballast.mass"), FIXED, 0.0, 0.25),
    )  # fmt: skip


FACES = {BY_BARS: 8, BY_CABLE: 4, BY_MOTOR: 2}


def friction(design: Design, level: str, bodies: tuple[Body, ...], bearing: Bearing, bolt: Bolt) -> float:
    """Friction of the clamped faces, and of the loaded pins in their bores, arm level [N*m]; all pivots turn by the same angle."""
    washers = FACES[level] * balance.washer_friction(design.number("pivot.clamp"), bearing.mu, bolt.d / 2, bolt.washer_od / 2)
    swung = sum(b.mass for b in bodies if b.frame in (ARM, BAR, LEVEL))
    head = sum(b.mass for b in bodies if b.frame == LEVEL) if level != BY_MOTOR else 0.0
    pull = 4 * design.number("cable.tension") if level == BY_CABLE else 0.0
    return washers + bearing.mu * bolt.d / 2 * (GRAVITY * (swung + head) + pull)


def _moments(bodies: tuple[Body, ...], front: float, wanted) -> tuple[float, float]:  # type: ignore[no-untyped-def]
    """Static moments about the pivot; level bodies act at their pin."""
    taken = [body for body in bodies if body.frame in (ARM, BAR, LEVEL) and wanted(body)]
    places = [(front, 0.0) if b.frame == LEVEL else (b.along, 0.0 if b.frame == BAR else b.above) for b in taken]
    return balance.static_moments(np.array([b.mass for b in taken]), np.array(places))


def follow(jib: Jib, asked: Asked) -> Poses:
    """Pose (n, 2), arm and slew angle [rad], that brings the lens to each height wanted.

    Where the shot asks for more than the arm can reach, the pose stays at the arm's limit.
    """
    # The height of the head pin: the lens sits above it by the mount, and by what the head makes of the kit.
    sine = np.clip((asked.places[:, 2] - (jib.mount[1] + asked.lens[2]) - jib.height) / jib.front, -1, 1)
    angle = np.clip(np.arcsin(sine), jib.limits.low, jib.limits.high)
    return Poses.of(np.column_stack([angle, np.zeros_like(angle)]))


def mount(jib: Jib, poses: np.ndarray) -> Frames:
    """The mount plate at poses (n, 2): it nods as what keeps it level lets it."""
    angle, slew = poses[:, 0], poses[:, 1]
    tilt = jib.tilts(angle)
    out = jib.front * np.cos(angle) + jib.mount[0] * np.cos(tilt) - jib.mount[1] * np.sin(tilt)
    up = jib.height + jib.front * np.sin(angle) + jib.mount[0] * np.sin(tilt) + jib.mount[1] * np.cos(tilt)
    return headed(np.column_stack([out * np.cos(slew), out * np.sin(slew), up]), slew).turned(pitched(tilt))


def members(jib: Jib, poses: np.ndarray) -> Members:
    """Arm, bar, uprights, weights, post and legs at poses (n, 2)."""
    angle, slew = poses.T
    cos, sin = np.cos(slew), np.sin(slew)
    lower, upper = jib.pivots()
    pin, head = jib.heads(angle)
    along = np.column_stack([np.cos(angle), np.sin(angle)])
    tail = lower - along * jib.rear

    # In the arm's own plane, (2,) or (n, 2), before it slews.
    flat: list[Laid] = [(Member("arm", jib.arm.depth / 2), tail, pin)]
    if jib.level == BY_BARS:
        flat.append((Member("upper bar", jib.bar.depth / 2), upper, head))
    flat += [(Member("head upright", jib.upright.depth / 2), pin, head), (Member("post", jib.post.depth / 2, False), (0.0, 0.1), upper)]
    if jib.mast > 0:
        top = lower + jib.mast * np.column_stack([-along[:, 1], along[:, 0]])
        flat += [(Member("stay mast", 0.006), lower, top), (Member("stay cable", 0.003), top, pin), (Member("rear stay", 0.003), top, tail)]
    if jib.hung:
        weights = lower - along * jib.place
        flat.append((Member("weights", jib.weights_radius), weights, weights - (0.0, 0.01)))
    turning, legs = Members.at(len(poses), flat), [(Member("leg", 0.02, False), (0.0, 0.0, 0.3), (x, y, 0.0)) for x, y in jib.feet]
    out, high = np.moveaxis(turning.ends, -1, 0)
    swung = np.stack([out * cos[:, None, None], out * sin[:, None, None], high], axis=-1)
    standing = Members.at(len(poses), legs)
    return Members((*turning.pieces, *standing.pieces), np.concatenate([swung, standing.ends], axis=1))
