"""An orbit rig as a mechanism: a beam with camera and weights that turns about a fixed shaft with a table on top."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.catalogue import Material, StockSection, Turntable
from hazel_lantern.core.kinds.base import Asked, Carried, Design, Members, Place3, Poses, Run, Standing
from hazel_lantern.core.kinds.orbit.design import FOUR, INWARD, RING
from hazel_lantern.core.kinds.shared.pieces import members_of
from hazel_lantern.core.mechanics.track import Frames, headed
from hazel_lantern.core.nouns.errors import GeometryError
from hazel_lantern.core.workshop.laid import Bodies, Laid

ROTOR, FLOOR = "rotor", "floor"
CARRIES = ("Shaft", "Table")
THICK = 0.018  # metres of table, feet and camera plate
FACETS = 24  # sides that stand for a round table
NEAREST = 0.03  # metres from the axis that a lens may come
ARM_HELD = 0.06  # metres between the two bolts that hold an arm
ENDS = 0.03  # metres of beam beyond riser and weights
PLATE, STANDS_ON = 0.1, 0.02  # metres of the camera's plate, of rubber under a foot
BESIDE_SHAFT, HUB_THICK, HUB_MASS = (
    0.012,
    0.006,
    1.2,
)  # metres from the shaft to an arm's end, of the hub's plate; kilograms of the hub
FOOT_FROM = 0.05  # metres from the axis to where a foot begins, and as much beyond where it stands
WEIGHT_DENSITY = 7200.0  # kilograms a cubic metre, of iron plates as a block

Row = tuple[float, float, float, float]  # mass [kg], radius [m], azimuth [rad], height above the floor [m]


class Orbit(Struct, frozen=True):
    """Sizes in metres, masses in kilograms; the rig frame stands on the floor under the axis, the camera arm along x
    at angle 0. `radius` is where the camera's mount sits, `lens_at` and `lens_high` where its lens goes round, `turns_as`
    all that turns as rows of mass, radius, azimuth and height, the camera kit first; `inscribed` from the axis to the
    nearest edge of its feet, `inner` to where its arms begin.
    """

    radius: float
    rear: float
    beam: float
    riser: float
    inward: bool
    lens: np.ndarray
    kit_at: np.ndarray
    bar: StockSection
    material: Material
    rises: StockSection
    shaft: StockSection
    weights: float
    weights_above: float
    weight_side: float
    turns_as: tuple[Row, ...]
    stands: float
    table: float
    table_radius: float
    foot: StockSection
    ring: Turntable | None
    inner: float
    feet: np.ndarray
    inscribed: float
    laid: Laid

    @property
    def mount_high(self) -> float:
        """Of the mount above the floor [m]."""
        return self.beam + self.riser

    @property
    def lens_at(self) -> float:
        """Of the lens from the axis [m]."""
        side = -1.0 if self.inward else 1.0
        return self.radius + side * float(self.lens[0])

    @property
    def lens_high(self) -> float:
        """Of the lens above the floor [m]."""
        return self.mount_high + float(self.lens[2])

    @property
    def weight(self) -> float:
        """Of all of it [kg]."""
        return self.stands + sum(row[0] for row in self.turns_as)

    @property
    def tip(self) -> float:
        """Of what is furthest from the axis [m]."""
        return max(self.radius + 0.08, self.rear + self.weight_side / 2)


def sized(design: Design, kit: Carried) -> Orbit:
    """The mechanism without its pieces. Raises GeometryError where it does not fit together, InputError for unknown rows."""
    number = design.number
    bar, rises, shaft = (design.row("sections", f"{name}.section") for name in ("arm", "riser", "shaft"))
    material = design.catalogue.materials[bar.material]
    front, rear, riser = number("arm.front"), number("arm.rear"), number("riser.height")
    foot = design.row("sections", "base.section")
    ring = design.catalogue.turntables[design.text("hub.ring")] if design.variant == RING else None
    # Arms lie on the hub's plate, that on the ring, the ring on the feet.
    beam = STANDS_ON + foot.depth + ring.height + HUB_THICK + bar.depth / 2 if ring else number("beam.height")
    inward = design.text("camera.looks") == INWARD
    side = -1.0 if inward else 1.0
    load, weights = kit.payload, number("weights.mass")
    kit_at = np.array([front + side * float(load.cg[0]), side * float(load.cg[1]), beam + riser + float(load.cg[2])])
    ply = design.catalogue.materials["plywood"]
    # The riser stands beside the beam, a long one only; the camera's plate lies on top.
    aside = (bar.width + rises.width) / 2
    tall = abs(riser) + bar.depth / 2 if abs(riser) > bar.depth else 0.0
    middle = beam + math.copysign(tall / 2 - bar.depth / 2, riser) if tall else beam
    inner = shaft.width / 2 + BESIDE_SHAFT
    line, up = bar.line(material), rises.line(design.catalogue.materials[rises.material])
    rows: list[Row] = [
        (load.mass, math.hypot(kit_at[0], kit_at[1]), math.atan2(kit_at[1], kit_at[0]), float(kit_at[2])),
        (up * tall, math.hypot(front, aside), math.atan2(aside, front), middle),
        (ply.density * PLATE**2 * THICK, front, 0.0, beam + riser - THICK / 2),
        (line * (front + ENDS - inner), (front + ENDS + inner) / 2, 0.0, beam),
        (line * (rear + ENDS - inner), (rear + ENDS + inner) / 2, math.pi, beam),
        (weights, rear, math.pi, beam + number("weights.above")),
    ]
    count = 4 if design.text("base.feet") == FOUR else 3
    around = 2 * math.pi * np.arange(count) / count + math.pi / count
    feet = number("base.radius") * np.column_stack([np.cos(around), np.sin(around)])
    high = number("table.height")
    shaft_line = shaft.line(design.catalogue.materials[shaft.material])
    top = FACETS / 2 * math.sin(2 * math.pi / FACETS) * number("table.radius") ** 2 * THICK * ply.density
    legs = count * number("base.radius") * foot.line(design.catalogue.materials[foot.material])
    stands = (
        number("base.mass")
        + HUB_MASS
        + legs
        + shaft_line * (high - THICK - STANDS_ON - foot.depth)
        + top
        + number("table.load")
    )
    made = Orbit(
        front, rear, beam, riser, inward, np.asarray(kit.lens_at_m), kit_at, bar, material, rises, shaft, weights,
        number("weights.above"), (weights / WEIGHT_DENSITY) ** (1 / 3), tuple(rows), stands, high, number("table.radius"), foot, ring, inner,
        feet, number("base.radius") * math.cos(math.pi / count), Laid(),
    )  # fmt: skip
    _check(design, made)
    return made


def _check(design: Design, rig: Orbit) -> None:
    """Raises GeometryError for what cannot be drawn as it was meant."""
    if min(rig.radius, rig.rear) + ENDS < rig.inner + 2 * ARM_HELD:
        needs = rig.inner + 2 * ARM_HELD - ENDS
        raise GeometryError(f"an arm is too short to be bolted to the hub: {needs * 1e3:.0f} mm at least")
    if rig.table <= THICK + STANDS_ON + rig.foot.depth + 0.05:
        raise GeometryError("the table stands on its base: no shaft is left to turn on")
    if rig.lens_at <= NEAREST:
        needs = rig.radius - rig.lens_at + 2 * NEAREST
        raise GeometryError(f"the lens lies beyond the axis: an arm of {needs * 1e3:.0f} mm at least")
    if rig.inward and rig.lens_at <= design.number("table.subject"):
        needs = design.number("table.subject") + float(rig.lens[0]) + 0.05
        raise GeometryError(f"the camera is inside what it looks at: an arm of {needs * 1e3:.0f} mm at least")


def follow(rig: Orbit, asked: Asked) -> Poses:
    """Pose (n, 1): how far it has turned from the start [rad]; a straight wish is met at both ends as far as the circle
    goes.
    """
    if asked.arc:
        return Poses.of((asked.arc * asked.share)[:, None])
    chord = float(np.hypot(*(asked.last - asked.first)[:2]))
    sweep = 2 * math.asin(min(1.0, chord / (2 * rig.lens_at))) if chord > 1e-9 else 2 * math.pi
    return Poses.of((sweep * asked.share)[:, None])


def lay(rig: Orbit, asked: Asked, subject: Place3 | None) -> Standing:
    """The axis under what is looked at, its first pose towards the start; without anything to look at, beyond the
    middle of the way.
    """
    if subject is not None:
        x, y = subject[:2]
        return Standing(x, y, math.atan2(asked.first[1] - y, asked.first[0] - x))
    way = (asked.last - asked.first)[:2]
    chord = float(np.hypot(*way))
    if chord < 1e-9:
        return Standing(float(asked.first[0]), float(asked.first[1]) + rig.lens_at, -math.pi / 2)
    left = np.array([-way[1], way[0]]) / chord
    middle = (asked.first + asked.last)[:2] / 2
    axis = middle + left * math.sqrt(max(0.0, rig.lens_at**2 - chord**2 / 4))
    start = asked.first[:2] - axis
    return Standing(float(axis[0]), float(axis[1]), math.atan2(start[1], start[0]))


def frames(rig: Orbit, poses: np.ndarray) -> Bodies:
    """The frames of floor and rotor at poses (n, 1), the rotor's on the axis at the beam's middle."""
    n = len(poses)
    return {
        FLOOR: headed(np.zeros((n, 3)), np.zeros(n)),
        ROTOR: headed(np.tile((0.0, 0.0, rig.beam), (n, 1)), poses[:, 0]),
    }


def mount(rig: Orbit, poses: np.ndarray) -> Frames:
    """The mount at poses (n, 1), facing the axis or away from it."""
    angle = poses[:, 0]
    at = np.column_stack([rig.radius * np.cos(angle), rig.radius * np.sin(angle), np.full(len(angle), rig.mount_high)])
    return headed(at, angle + (math.pi if rig.inward else 0.0))


def members(rig: Orbit, poses: np.ndarray) -> Members:
    """Beam, riser, weights and feet; what carries the subject itself is left out."""
    pieces = replace(rig.laid, parts=tuple(part for part in rig.laid.parts if part.name not in CARRIES))
    found: list[Run] = members_of(pieces, frames(rig, poses), (ROTOR,))
    return Members.at(len(poses), found)
