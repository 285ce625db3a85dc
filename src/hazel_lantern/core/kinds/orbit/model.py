"""An orbit rig as a mechanism: arms with camera and weights that turn about an upright axis, on feet, hung from above
or under a frame that reaches over a desk.
"""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.catalogue import Material, StockSection, Turntable
from hazel_lantern.core.kinds.base import Carried, Design, Member, Members, Place3, Run, Standing
from hazel_lantern.core.kinds.orbit.design import CAMERAS, CLAMPED, DESK, FOUR, HUNG, INWARD, RING, SLIDES
from hazel_lantern.core.kinds.path import Asked, Poses
from hazel_lantern.core.kinds.shared.inputs import STIFFNESS, as_found
from hazel_lantern.core.kinds.shared.pieces import members_of
from hazel_lantern.core.mechanics.track import Frames, headed
from hazel_lantern.core.nouns.errors import GeometryError, Mend, mend_at
from hazel_lantern.core.workshop.laid import Bodies, Laid

ROTOR, FLOOR = "rotor", "floor"
CARRIES = ("Shaft", "Table")
ARM = "Camera arm"
THICK = 0.018  # metres of table, feet and camera plate, of the board that what hangs is screwed to
CAMERA_WIDE, BESIDE_CAMERA = 0.1, 0.003  # metres: of a camera kit, and that a riser hangs clear of it
FACETS = 24  # sides that stand for a round table
NEAREST = 0.03  # metres from the axis that a lens may come
ARM_HELD = 0.06  # metres between the two bolts that hold an arm
ENDS = 0.03  # metres of beam beyond riser and weights
PLATE, STANDS_ON = 0.1, 0.02  # metres of the camera's plate, of rubber under a foot
BESIDE_SHAFT, HUB_THICK = 0.012, 0.006  # metres from the shaft to an arm's end, of the hub's plate
HUB_MASS = 1.2  # kilograms
FOOT_FROM = 0.05  # metres from the axis to where a foot begins, and as much beyond where it stands
WEIGHT_DENSITY = 7200.0  # kilograms a cubic metre, of iron plates as a block
SIDE_ROWS = 4  # of what turns that make a camera's side: kit, riser, plate, arm
COLLAR = 0.02  # metres of a bearing and its collar beyond the bearing's middle
LEAST_SHAFT = 0.05  # metres of shaft that are needed for a hub
BOARD = 0.3  # metres square, of the board overhead
BELOW_DESK, BELOW_HUB = 0.3, 0.02  # metres of a clamped post under the desk's top, of a shaft under its hub
END_OF_PIPE = 0.005  # metres of rubber under the feet of a frame
DESK_FOOT = 0.05  # metres from a desk's edge to its feet

Row = tuple[float, float, float, float]  # mass [kg], radius [m], azimuth [rad], height above the floor [m]


class DeskFrame(Struct, frozen=True):
    """A post behind a desk and a pipe that reaches over it [m]: where the post stands, seen from the axis, the pipe
    they are of, how deep and wide the desk is, its feet (n, 2) or the desk's where it is clamped, and what stands there
    but the rig as rows of mass [kg] and place.
    """

    reach: float
    height: float
    drop: float
    way: np.ndarray
    pipe: StockSection
    clamped: bool
    deep: float
    wide: float
    feet: np.ndarray
    beside: tuple[tuple[float, np.ndarray], ...]

    @property
    def post(self) -> np.ndarray:
        """Where the post stands (2,) [m]."""
        return self.reach * self.way

    def foot(self, table: float) -> float:
        """Of its post above the floor: clamped below the desk's top, or in a tee on the pipe across its feet [m]."""
        return table - BELOW_DESK if self.clamped else END_OF_PIPE + 2 * self.pipe.depth

    def pipes(self, table: float) -> float:
        """Of post and upper pipe together [m]."""
        return self.height - self.foot(table) + self.reach + self.pipe.depth


def bolts_apart(deep: float) -> float:
    """A riser's two bolts, one above the other in an arm of that depth,
    each 10 mm from its edge or at a quarter [m]."""
    return max(deep / 2, deep - 0.02)


class Orbit(Struct, frozen=True):
    """Sizes in metres, masses in kilograms; the rig frame stands on the floor under the axis, the camera arm along x
    at angle 0. `radius` is where the camera's mount sits, `lens_at` and `lens_high` where its lens goes round,
    `turns_as` all that turns as rows of mass, radius, azimuth and height, a camera's four first; `inscribed` from the
    axis to the nearest edge of its feet, `inner` to where its arms begin, `hub_half` how far its hub
    reaches above and below them; `structure` the height it hangs from, 0 where it does not;
    `subject` how far what is filmed reaches from the axis and up.
    """

    radius: float
    rear: float
    beam: float
    riser: float
    inward: bool
    cameras: int
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
    subject: tuple[float, float]
    foot: StockSection
    ring: Turntable | None
    hub_half: float
    inner: float
    slides: bool
    feet: np.ndarray
    inscribed: float
    structure: float
    frame: DeskFrame | None
    laid: Laid

    @property
    def mount_high(self) -> float:
        """Of the mount above the floor [m]."""
        return self.beam + self.riser

    @property
    def pin_high(self) -> float:
        """From the arm's middle to that of the weights on their pin [m]."""
        return abs(self.weights_above)

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
    def turning(self) -> float:
        """Of all that turns [kg]."""
        return sum(row[0] for row in self.turns_as)

    @property
    def weight(self) -> float:
        """Of all of it [kg]."""
        return self.stands + self.turning

    @property
    def overhead(self) -> bool:
        """Whether the arms hang from what is above them."""
        return self.structure > 0 or self.frame is not None

    @property
    def tip(self) -> float:
        """Of what is furthest from the axis [m]."""
        far = self.radius + 0.08
        return far if self.cameras > 1 else max(far, self.rear + self.weight_side / 2)

    @property
    def sides(self) -> tuple[tuple[Row, ...], ...]:
        """What turns, a camera's side and the side with the weights."""
        camera = self.turns_as[:SIDE_ROWS]
        return (camera,) if self.cameras > 1 else (camera, self.turns_as[SIDE_ROWS:])

    @property
    def hub_shaft(self) -> float:
        """Of the shaft that a hung hub turns on, from what holds it to the arms [m]; 0 for others."""
        if self.frame is not None:
            return self.frame.drop - self.frame.pipe.depth / 2
        return self.structure - THICK - self.beam if self.structure and self.ring is None else 0.0

    @property
    def hub_shaft_long(self) -> float:
        """Of the whole of that shaft, out below the hub [m]."""
        return self.hub_shaft + self.hub_half + BELOW_HUB if self.hub_shaft else 0.0


def sized(design: Design, kit: Carried) -> Orbit:
    """The mechanism without its pieces. Raises GeometryError where it does not fit together,
    InputError for unknown rows."""
    number = design.number
    bar, rises, shaft = (design.row("sections", f"{name}.section") for name in ("arm", "riser", "shaft"))
    foot = design.row("sections", "base.section")
    ring = design.catalogue.turntables[design.text("hub.ring")] if design.variant == RING else None
    frame = _desk_frame(design) if design.variant == DESK else None
    hung = design.variant != DESK and design.text("hub.carried") == HUNG
    structure = number("hung.height") if hung else 0.0
    beam, riser, rear = (
        _beam_height(design, bar, foot, ring, frame, structure),
        number("riser.height"),
        number("arm.rear"),
    )
    inward, cameras = design.text("camera.looks") == INWARD, CAMERAS[design.text("camera.count")]
    side, load = -1.0 if inward else 1.0, kit.payload
    kit_at = np.array(
        [number("arm.front") + side * float(load.cg[0]), side * float(load.cg[1]), beam + riser + float(load.cg[2])]
    )
    # Under a ring that hangs nothing comes down through the middle.
    inner = BESIDE_SHAFT + (0.0 if ring and structure else shaft.width / 2)
    weights = number("weights.mass") if cameras == 1 else 0.0
    count = 4 if design.text("base.feet") == FOUR else 3
    around = 2 * math.pi * np.arange(count) / count + math.pi / count
    feet = number("base.radius") * np.column_stack([np.cos(around), np.sin(around)])
    made = Orbit(
        number("arm.front"),
        rear,
        beam,
        riser,
        inward,
        cameras,
        np.asarray(kit.lens_at_m),
        kit_at,
        bar,
        as_found(design.catalogue.materials[bar.material], number(STIFFNESS)),
        rises,
        shaft,
        weights,
        number("weights.above"),
        (weights / WEIGHT_DENSITY) ** (1 / 3),
        (),
        0.0,
        number("table.height"),
        number("table.radius"),
        (number("table.subject"), number("table.height") + number("table.tall")),
        foot,
        ring,
        bar.depth / 2 if ring else max(bar.depth / 2, number("hub.apart") / 2 + COLLAR),
        inner,
        ring is not None and design.text("arm.joint") == SLIDES,
        feet,
        number("base.radius") * math.cos(math.pi / count),
        structure,
        frame,
        Laid(),
    )
    _check(design, made)
    return replace(made, turns_as=_rows(design, made, load.mass), stands=_stands(design, made))


def _beam_height(
    design: Design, bar: StockSection, foot: StockSection, ring: Turntable | None, frame: DeskFrame | None, hung: float
) -> float:
    """Of the arms' middle above the floor [m]: as set, where nothing else fixes it."""
    if frame is not None:
        return frame.height - frame.drop
    if ring is None:
        return design.number("beam.height")
    # Arms lie on the hub's plate, that on the ring, the ring on the feet; or all of it upside down under a board.
    from_ring = ring.height + HUB_THICK + bar.depth / 2
    return hung - THICK - from_ring if hung else STANDS_ON + foot.depth + from_ring


def _desk_frame(design: Design) -> DeskFrame:
    number = design.number
    way = np.array([math.cos(number("frame.turned")), math.sin(number("frame.turned"))])
    aside = np.array([-way[1], way[0]])
    reach, clamped = number("frame.reach"), design.text("frame.held") == CLAMPED
    deep, wide = number("desk.deep"), number("desk.wide")
    half = wide / 2 - DESK_FOOT if clamped else number("frame.wide") / 2
    back = reach - DESK_FOOT if clamped else reach
    front = reach - deep + DESK_FOOT if clamped else reach - number("frame.legs")
    feet = np.array([out * way + side * aside for out in (back, front) for side in (-half, half)])
    beside = [(number("base.mass"), np.append(reach * way, 0.05))]
    if clamped:
        beside.append(
            (number("desk.mass") + number("table.load"), np.append((reach - deep / 2) * way, number("table.height")))
        )
    pipe = design.row("sections", "frame.section")
    return DeskFrame(
        reach, number("frame.height"), number("frame.drop"), way, pipe, clamped, deep, wide, feet, tuple(beside)
    )


def packed(rig: Orbit) -> float:
    """Between the arm and a riser that hangs past the camera, so that there is room for it [m]; nought for one that
    stands.
    """
    return max(0.0, CAMERA_WIDE / 2 + BESIDE_CAMERA - rig.bar.width / 2) if rig.riser < -rig.bar.depth else 0.0


def plate_out(rig: Orbit) -> float:
    """How far the camera's plate goes on to lie on all of a riser beside the arm [m]."""
    if abs(rig.riser) <= rig.bar.depth:
        return 0.0
    return max(0.0, rig.bar.width / 2 + packed(rig) + rig.rises.width - PLATE / 2)


def _rows(design: Design, rig: Orbit, kit: float) -> tuple[Row, ...]:
    """All that turns: a side for each camera at equal angles, and one with the weights where there is but one."""
    ply = design.catalogue.materials["plywood"]
    # The riser stands beside the beam, a long one only; the camera's plate lies on top.
    aside = rig.bar.width / 2 + packed(rig) + rig.rises.width / 2
    # The plate lies on a riser, and reaches out to one that hangs.
    under = THICK if rig.riser > 0 else 0.0
    tall = abs(rig.riser) + rig.bar.depth / 2 - under if abs(rig.riser) > rig.bar.depth else 0.0
    out = plate_out(rig)
    middle = rig.beam + math.copysign(tall / 2 - rig.bar.depth / 2, rig.riser) if tall else rig.beam
    line, up = rig.bar.line(rig.material), rig.rises.line(design.catalogue.materials[rig.rises.material])
    rows: list[Row] = []
    for n in range(rig.cameras):
        turned = 2 * math.pi * n / rig.cameras
        rows += [
            (
                kit,
                math.hypot(rig.kit_at[0], rig.kit_at[1]),
                math.atan2(rig.kit_at[1], rig.kit_at[0]) + turned,
                float(rig.kit_at[2]),
            ),
            (up * tall, math.hypot(rig.radius, aside), math.atan2(aside, rig.radius) + turned, middle),
            (
                ply.density * PLATE * (PLATE + out) * THICK,
                math.hypot(rig.radius, out / 2),
                math.atan2(out / 2, rig.radius) + turned,
                rig.mount_high - THICK / 2,
            ),
            (line * (rig.radius + ENDS - rig.inner), (rig.radius + ENDS + rig.inner) / 2, turned, rig.beam),
        ]
    if rig.cameras == 1:
        rows += [
            (line * (rig.rear + ENDS - rig.inner), (rig.rear + ENDS + rig.inner) / 2, math.pi, rig.beam),
            (rig.weights, rig.rear, math.pi, rig.beam + rig.weights_above),
        ]
    return tuple(rows)


def _stands(design: Design, rig: Orbit) -> float:
    """What does not turn [kg]: hub and shaft, base and table, or frame, or the board overhead."""
    materials, number = design.catalogue.materials, design.number
    shaft_line = rig.shaft.line(materials[rig.shaft.material])
    if rig.frame is not None:
        pipe = rig.frame.pipe.line(materials[rig.frame.pipe.material])
        feet = 0.0 if rig.frame.clamped else pipe * (2 * number("frame.legs") + number("frame.wide"))
        return (
            HUB_MASS + shaft_line * rig.hub_shaft_long + pipe * rig.frame.pipes(rig.table) + feet + number("base.mass")
        )
    board = materials["plywood"].density * THICK
    if rig.structure:
        return HUB_MASS + shaft_line * rig.hub_shaft_long + board * BOARD**2
    legs = len(rig.feet) * number("base.radius") * rig.foot.line(materials[rig.foot.material])
    top = FACETS / 2 * math.sin(2 * math.pi / FACETS) * rig.table_radius**2 * board
    post = shaft_line * (rig.table - THICK - STANDS_ON - rig.foot.depth)
    return number("base.mass") + HUB_MASS + legs + post + top + number("table.load")


def _check(design: Design, rig: Orbit) -> None:
    """Raises GeometryError for what cannot be drawn as it was meant."""
    shortest = rig.radius if rig.cameras > 1 else min(rig.radius, rig.rear)
    if shortest + ENDS < rig.inner + 2 * ARM_HELD:
        needs = rig.inner + 2 * ARM_HELD - ENDS
        longer = tuple(
            (key, math.ceil(100 * needs) / 100)
            for key, long in (("arm.front", rig.radius), ("arm.rear", rig.rear))
            if long < needs
        )
        raise GeometryError(
            f"an arm is too short to be bolted to the hub: {needs * 1e3:.0f} mm at least",
            Mend("Arms of {} at least", longer, (math.ceil(100 * needs) / 100,)),
        )
    if not rig.overhead and rig.table <= THICK + STANDS_ON + rig.foot.depth + 0.05:
        raise GeometryError("the table stands on its base: no shaft is left to turn on")
    if rig.overhead and rig.ring is None and rig.hub_shaft < rig.hub_half + LEAST_SHAFT:
        raise GeometryError(
            f"no shaft is left under what it hangs from: {(rig.hub_half + LEAST_SHAFT - rig.hub_shaft) * 1e3:.0f} mm "
            "lower at least"
        )
    if rig.overhead and rig.beam - rig.bar.depth / 2 <= rig.table:
        raise GeometryError(
            f"the arms hang into the table: {(rig.table - rig.beam + rig.bar.depth / 2) * 1e3:.0f} mm higher at least"
        )
    if rig.frame is not None and rig.frame.height <= rig.table + 0.1:
        raise GeometryError(
            "the frame's pipe is not above the desk", mend_at("A frame {} high", "frame.height", rig.table + 0.6)
        )
    if rig.lens_at <= NEAREST:
        needs = rig.radius - rig.lens_at + 2 * NEAREST
        raise GeometryError(
            f"the lens lies beyond the axis: an arm of {needs * 1e3:.0f} mm at least",
            mend_at("Camera arm {}", "arm.front", math.ceil(100 * needs) / 100),
        )
    reach, tall = rig.subject
    if rig.inward and rig.lens_at <= reach and rig.table <= rig.lens_high <= tall:
        needs = reach + float(rig.lens[0]) + 0.05
        raise GeometryError(
            f"the camera is inside what it looks at: an arm of {needs * 1e3:.0f} mm at least",
            mend_at("Camera arm {}", "arm.front", math.ceil(100 * needs) / 100),
        )


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
    """Arms, riser, weights and feet, a short arm too; a table on the rig's own shaft is left out with it."""
    carries = () if rig.overhead else CARRIES
    pieces = replace(rig.laid, parts=tuple(part for part in rig.laid.parts if part.name not in carries))
    bodies = frames(rig, poses)
    found: list[Run] = members_of(pieces, bodies, (ROTOR,))
    arm = next(part for part in pieces.parts if part.name == ARM)
    if not any(run[0].name == ARM.lower() for run in found):
        for place in arm.places:
            frame = place.frame(bodies)
            found.append((Member(ARM.lower(), rig.bar.depth / 2), frame.at, frame.place((arm.length, 0.0, 0.0))))
    return Members.at(len(poses), found)
