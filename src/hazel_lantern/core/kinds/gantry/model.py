"""The gantry as a mechanism: two runways, a bridge across, a trolley on it, a boom that swings and draws out."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.catalogue import TUBES, Material, StockSection, Wheel
from hazel_lantern.core.kinds.base import Carried, Design, Members
from hazel_lantern.core.kinds.fall import FallZone, falls_to
from hazel_lantern.core.kinds.gantry.design import BOARDS, BUILDING
from hazel_lantern.core.kinds.path import Asked, Poses
from hazel_lantern.core.kinds.shared.drop_post import BEHIND
from hazel_lantern.core.kinds.shared.inputs import STIFFNESS, as_found
from hazel_lantern.core.kinds.shared.pieces import members_of
from hazel_lantern.core.mechanics import built_up, overhead, sections
from hazel_lantern.core.mechanics.track import Frames, headed
from hazel_lantern.core.nouns.errors import GeometryError, Mend, mend_at
from hazel_lantern.core.workshop.laid import Bodies, Laid

BOARD = 0.018  # metres of the trolley's and trucks' boards
CLOSEST, LEAST_RAKE = 0.25, 0.1  # metres from post to post, from a post to the foot of its leg
POST = "pine-45x70"
FRAME, BRIDGE, TROLLEY, BOOM = "frame", "bridge", "trolley", "boom"
STAGES = ("stage 1", "stage 2")  # bodies of the outer tubes of a boom; the innermost is the boom itself
MOVES = (BRIDGE, TROLLEY, *STAGES, BOOM)
OVERLAP, SLIDES, CLEAR_OF_BOLT = (
    0.1,
    0.0002,
    0.02,
)  # metres that tubes keep in each other, of room, of tube before the swing bolt
ROUND = 0.3  # metres around what falls that it may tumble or bounce
BEHIND_PIN = 0.03  # metres of a boom behind the rod that its counterweight hangs on
LEAST_TAIL = 0.03  # metres of boom behind its swing bolt


class Beam(Struct, frozen=True):
    """The bridge: bending up and down and sideways, torsion [N*m^2], axial [N], mass a metre [kg/m], depth and width
    [m], material, how well its joint holds [-], force on a screw of it for each newton of shear [-].
    """

    eiy: float
    eiz: float
    gj: float
    ea: float
    line: float
    depth: float
    width: float
    material: Material
    joint: float
    screw: float = 0.0


ONE_STAGE = Mend("A boom in one piece", (("boom.stages", 1.0),))


class Gantry(Struct, frozen=True):
    """Sizes in metres, masses [kg]. `parked` is where trolley [m] and boom [rad, m] stay during a move; `tip` is the
    camera kit with the post and platform that hang it, `bridge_ends` what each end of the bridge carries beside it:
    truck and wheels; `truck` is how wide the board of a truck is at the least; `laid` are all pieces. Its runways may
    be the `building`'s; a boom of several `stages` slides tube in tube. The rig frame starts on the floor under the
    middle of the frame, x along the runways, y across.
    """

    length: float
    span: float
    height: float
    runway: StockSection
    posts: tuple[float, ...]
    bridge: Beam
    wheel: Wheel
    wheelbase: float
    trolley_base: float
    rake: float
    trolley: float
    payload: float
    boom: StockSection
    boom_line: float
    counter: float
    tail: float
    edge: float
    shortest: float
    longest: float
    drop: float
    lens: np.ndarray
    travel: tuple[float, float]
    parked: tuple[float, float, float]
    tip: float = 0.0
    bridge_ends: float = 0.0
    laid: Laid = Laid()
    building: bool = False
    stages: tuple[StockSection, ...] = ()
    truck: float = 0.0

    @property
    def wheels_apart(self) -> float:
        """Between the wheels of the trolley across the bridge, flush with its edges [m]."""
        return self.bridge.width - self.wheel.width

    @property
    def grip(self) -> float:
        """Lever with which the trolley holds the boom about the bridge's axis: between its wheels above and below, or
        between rollers at the bridge's sides where those stand further apart [m].
        """
        return max(self.wheels_apart, self.bridge.depth - self.wheel.d)

    @property
    def side_rollers(self) -> bool:
        return self.grip > self.wheels_apart

    @property
    def under(self) -> float:
        """From the middle of the bridge down to the middle of the trolley's board, the lower wheels between [m]."""
        return self.bridge.depth / 2 + self.wheel.d + 0.004 + BOARD / 2

    @property
    def tail_end(self) -> float:
        """How far the boom itself goes behind its swing bolt [m]."""
        return max(self.tail + (BEHIND_PIN if self.counter > 0 else 0.0), LEAST_TAIL)

    @property
    def inner(self) -> float:
        """How long each tube of a boom of several stages is, but the first:
        its share of the way and what overlaps [m]."""
        return (self.longest - self.shortest) / max(len(self.stages) - 1, 1) + OVERLAP

    def boom_mass(self, out: float) -> float:
        return self.boom_line * (out + self.tail_end)

    def across(self, share: float) -> float:
        """Place of the trolley from the right-hand runway [m] at a share of its travel."""
        return self.edge + share * self.travel[1]


def _bridge(design: Design, span: float) -> Beam:
    number, materials = design.number, design.catalogue.materials
    if design.variant != BOARDS:
        bar: StockSection = design.row("sections", "bridge.section")
        s, m = bar.section(), as_found(materials[bar.material], number(STIFFNESS))
        return Beam(
            m.E * s.upright, m.E * s.iz, m.G * s.j, m.E * s.area, m.density * s.area, bar.depth, bar.width, m, 1.0
        )
    m = as_found(design.row("materials", "board.material"), number(STIFFNESS))
    flange, thick, web = number("board.flange"), number("board.thick"), number("board.web")
    joint = built_up.joint_efficiency(
        m.E, flange * thick, number("board.screws"), built_up.slip_modulus(m.density, 0.005), span
    )
    beam = built_up.board_beam(flange, thick, thick, web, m.E, m.E, joint, number("board.screws"))
    twist = 2 * sections.flat_bar(flange, thick).j + sections.flat_bar(thick, web).j
    return Beam(
        beam.eiy,
        beam.eiz,
        m.G * twist,
        beam.ea,
        m.density * (2 * flange * thick + thick * web),
        web + 2 * thick,
        flange,
        m,
        joint,
        beam.screw_share,
    )


def sizes(design: Design, kit: Carried) -> Gantry:
    """All sizes and chosen rows of a gantry design, its pieces not laid yet. Raises GeometryError when parts do not
    fit, InputError for unknown rows.
    """
    number, row = design.number, design.row
    span, length, base, edge = (
        number("span"),
        number("runway.length"),
        number("bridge.wheelbase"),
        number("trolley.edge"),
    )
    if base >= length:
        raise GeometryError(
            "the bridge's end wheels stand further apart than the runways are long",
            mend_at("End wheels {} apart", "bridge.wheelbase", max(0.05, 0.3 * length)),
        )
    bridge, wheel = _bridge(design, span), row("wheels", "bridge.wheel")
    if wheel.width >= bridge.width:
        raise GeometryError("the wheels are as wide as the bridge they run on")
    if 2 * edge >= span:
        raise GeometryError(
            "nothing of the bridge is left for the trolley", mend_at("Stop it {} short", "trolley.edge", span / 5)
        )
    if length / (round(number("runway.posts")) - 1) < CLOSEST:
        raise GeometryError(
            f"posts closer than {CLOSEST * 1e3:.0f} mm: there is no room for their legs",
            Mend("Fewer posts", (("runway.posts", max(2.0, 1.0 + length // CLOSEST)),)),
        )
    if 0 < number("foot.rake") < LEAST_RAKE:
        raise GeometryError(
            f"raking legs that stand out less than {LEAST_RAKE * 1e3:.0f} mm hold nothing",
            mend_at("Legs that rake out by {}", "foot.rake", LEAST_RAKE),
            Mend("No raking legs", (("foot.rake", 0.0),)),
        )
    if number("boom.shortest") > number("boom.longest"):
        raise GeometryError(
            "the boom pushed in is longer than drawn out",
            mend_at("Pushed in to {}", "boom.shortest", number("boom.longest")),
        )
    if not number("boom.shortest") <= number("boom.out") <= number("boom.longest"):
        within = min(max(number("boom.out"), number("boom.shortest")), number("boom.longest"))
        raise GeometryError(
            "the boom's place for the move lies outside what it can be drawn to",
            mend_at("Boom at {}", "boom.out", within),
        )
    runway, boom = row("sections", "runway.section"), row("sections", "boom.section")
    stages = _stages(design, boom)
    boom_line = boom.line(design.catalogue.materials[boom.material])
    trolley, payload, counter = number("trolley.mass"), kit.payload.mass, number("boom.counter")
    return Gantry(
        length,
        span,
        number("runway.height"),
        runway,
        tuple(float(x) for x in np.linspace(0.0, length, round(number("runway.posts")))),
        bridge,
        wheel,
        base,
        number("trolley.wheelbase"),
        number("foot.rake"),
        trolley,
        payload,
        boom,
        boom_line,
        counter,
        number("boom.tail"),
        edge,
        number("boom.shortest"),
        number("boom.longest"),
        number("camera.drop"),
        np.asarray(kit.lens_at_m),
        (length - base, span - 2 * edge),
        (edge + number("trolley.at") * (span - 2 * edge), number("boom.angle"), number("boom.out")),
        building=design.text("runway.is") == BUILDING,
        stages=stages,
        truck=design.row("sections", "bridge.truck").depth,
    )


def _stages(design: Design, boom: StockSection) -> tuple[StockSection, ...]:
    """The tubes of a boom, each the largest that slides into the one before; of one alone none are told.

    Raises GeometryError where nothing slides in, or where the inner ones pushed in meet the swing bolt.
    """
    count, number = round(design.number("boom.stages")), design.number
    if count == 1:
        return ()
    if boom.shape not in TUBES:
        raise GeometryError("a boom of several stages is made of tubes: choose one for the boom", ONE_STAGE)
    found = [boom]
    for _ in range(count - 1):
        room = min(found[-1].width, found[-1].depth) - 2 * found[-1].wall
        fits = [
            row
            for row in design.catalogue.sections.values()
            if (row.shape, row.material) == (boom.shape, boom.material) and max(row.width, row.depth) <= room - SLIDES
        ]
        if not fits:
            raise GeometryError(
                f"nothing in the catalogue slides into {found[-1].name[:1].lower()}{found[-1].name[1:]}: fewer "
                "stages, or a larger boom",
                ONE_STAGE,
            )
        found.append(max(fits, key=lambda row: (row.width, row.wall)))
    inner = (number("boom.longest") - number("boom.shortest")) / (count - 1) + OVERLAP
    if inner > number("boom.shortest") - CLEAR_OF_BOLT:
        least = math.ceil((inner + CLEAR_OF_BOLT) * 100) / 100
        raise GeometryError(
            f"pushed in, the inner tubes of {inner * 1e3:.0f} mm meet the swing bolt: push the boom in no further "
            f"than {least * 1e3:.0f} mm"
        )
    return tuple(found)


def follow(rig: Gantry, asked: Asked) -> Poses:
    """Pose (n, 4): bridge along the runways and trolley across [m], boom angle [rad], boom out [m]. The bridge makes
    the move, as far as it can.
    """
    chord, most = asked.last - asked.first, rig.travel[0]
    flat = float(np.hypot(*chord[:2]))
    # Over one place the whole travel is taken; else the way over the floor, or as much of it as there is.
    share = asked.along(most) / (np.linalg.norm(chord) if flat > 1e-9 else most)
    x = rig.length / 2 + share * (min(flat, most) if flat > 1e-9 else most)
    return Poses.of(np.column_stack([x, np.tile(rig.parked, (len(x), 1))]))


def frames(rig: Gantry, poses: np.ndarray) -> Bodies:
    """The frames of all bodies at poses (n, 4): the floor under the middle, the bridge at its middle, the trolley
    under it, the boom from its swing bolt drawn out to the pose.
    """
    x, y, angle, out = poses.T
    still = np.zeros_like(x)
    bridge = np.column_stack([x - rig.length / 2, still, still + rig.height])
    hub = bridge + np.column_stack([still, y - rig.span / 2, still])
    boom = headed(hub, angle)
    # Drawn in, the same boom sits further back on its bolt.
    return {
        FRAME: headed(np.zeros_like(bridge), 0.0),
        BRIDGE: headed(bridge, 0.0),
        TROLLEY: headed(hub, 0.0),
        BOOM: Frames(boom.place(np.column_stack([out - rig.longest, still, still])), boom.axes),
        **{
            stage_name(k): Frames(
                boom.place(np.column_stack([(out - rig.longest) * k / (len(rig.stages) - 1), still, still])), boom.axes
            )
            for k in range(len(rig.stages) - 1)
        },
    }


def stage_name(k: int) -> str:
    """The body of an outer tube of the boom, the first 0."""
    return STAGES[k]


def post_behind(rig: Gantry) -> float:
    """How far the drop post stands behind the camera's screw, so that the boom still reaches it [m]."""
    return min(BEHIND, rig.longest / 2)


def mount(rig: Gantry, poses: np.ndarray) -> Frames:
    """The mount plate at poses (n, 4): it points as the boom does."""
    return headed(camera(rig, poses), poses[:, 2])


def camera(rig: Gantry, poses: np.ndarray) -> np.ndarray:
    """Places (n, 3) of the mount in the rig frame [m]."""
    x, y, angle, out = poses.T
    low = rig.height - rig.bridge.depth / 2 - rig.drop
    return np.column_stack(
        [x - rig.length / 2 + out * np.cos(angle), y - rig.span / 2 + out * np.sin(angle), np.full(len(poses), low)]
    )


def reaches(rig: Gantry, points: np.ndarray) -> np.ndarray:
    """Which places of the rig frame (n, 3) the camera can stand over, and none above the mount, (n,) booleans."""
    corner = np.array([-rig.travel[0] / 2, -rig.travel[1] / 2])
    flat = overhead.reachable(points[:, :2] - corner, rig.travel[0], rig.travel[1], rig.longest, rig.shortest)
    return np.asarray(flat & (points[:, 2] < rig.height - rig.drop))


def falls(gantry: Gantry) -> FallZone:
    """Under the travel of the trolley, and out to where the boom swings camera and counterweight, and under the
    runways.
    """
    rig = gantry
    x, y = rig.length / 2, rig.span / 2
    reach = max(rig.longest + float(np.hypot(*rig.lens[:2])), rig.tail_end) - min(rig.wheelbase / 2, rig.edge)
    return falls_to(np.array([(-x, -y), (x, -y), (x, y), (-x, y)]), max(reach, 0.0) + ROUND)


def members(rig: Gantry, poses: np.ndarray) -> Members:
    """Runways, posts, braces, bridge, boom and drop post."""
    return Members.at(len(poses), members_of(rig.laid, frames(rig, poses), MOVES))
