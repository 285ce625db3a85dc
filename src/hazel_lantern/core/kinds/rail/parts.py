"""Rails, ties, the carriage plate with its wheels, and the camera on it, laid out along a straight rail."""

from __future__ import annotations

import math
from itertools import pairwise, product

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.catalogue import TUBES
from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.rail.design import BOLTED, CLAMPED, TAPED
from hazel_lantern.core.kinds.rail.model import Carriage, Straight, turned
from hazel_lantern.core.kinds.shared.splices import ROUND, Splice
from hazel_lantern.core.kinds.shared.weighed import KIT, REST
from hazel_lantern.core.mechanics.footing import support_polygon
from hazel_lantern.core.mechanics.pins import CAMERA_THREADS
from hazel_lantern.core.mechanics.track import Frames
from hazel_lantern.core.workshop.fasteners import bolt, sawn, strip
from hazel_lantern.core.workshop.laid import Pieces
from hazel_lantern.core.workshop.marks import HOLE, LINE, Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part, ReadyMade
from hazel_lantern.core.workshop.solids import ACROSS, ALONG, SIDE, TOP, UP, Bar, Block, Place, Sheet

RAIL, CARRIAGE = "rail", "carriage"
RAIL_NAME = "Rail"
PLATE, BATTEN = "Carriage plate", "Batten"
TIE, BOARD = "plywood-18x60", 0.018
EDGE = 0.02  # metres of plate left around a hole
ENDS = 0.03  # metres of plate beyond the axles, of rail beyond the first tie
CLEAR_OF_RAIL = 0.008
BLOCK_SCREWS = 0.03  # metres from the middle of a shuttle to its screws on either side
BRACKET_SCREWS = 0.012  # metres from the middle of a wheel bracket to each of its two screws
HALF = math.sqrt(0.5)
NARROW = 0.02
BESIDE_CUT = 0.015  # metres from butted ends to the holes that hold them
JOINT_BOLT, JOINT_HOLE, SCREW_HOLE = "M5", 0.0055, 0.0035
JOINT_SCREW = Buy("Self-tapping screw 4.2×13, flat head", 1, 0.08, "joints of the rail, from below, flush")
ANGLE = Buy("Angle bracket 40 mm", 1, 0.9, "holds a narrow rail")
NAMES = {1: "front", -1: "rear", 0: "middle"}
AXLE = Buy("Axle bolt M8×45 with two nuts", 1, 0.9)
SMALL_BOLT = "Bolt M5×30 with lock nut"
FASTENINGS = (
    Fastening("axle", (AXLE,)),
    Fastening("eccentric axle", (AXLE, Buy("Eccentric spacer, 8 mm", 1, 1.2, "turn it to nip the third wheel up"))),
    Fastening("bracket", (Buy(SMALL_BOLT, 1, 0.35, "wheel brackets"),), reach=0.05),
    Fastening(
        "block",
        (
            Buy(
                "Countersunk screw 5×40",
                1,
                0.06,
                "plate to shuttle; let the head of the camera screw into the plate first",
            ),
        ),
    ),
    Fastening("tie", (Buy("Countersunk screw 5×40", 1, 0.06, "ties"),)),
)


class Wanted(Struct, frozen=True):
    """A hole wanted in a plate: its place ahead and to the left [m], width [m], what it is for, what goes through."""

    x: float
    y: float
    size: float
    note: str
    fastening: str


class Runs(Struct, frozen=True):
    """What a carriage runs on: the plate's holes for it, its pieces, height of the plate's middle above the rail's
    top [m], least length and width of the plate [m].
    """

    holes: tuple[Wanted, ...]
    pieces: Pieces
    height: float
    least: tuple[float, float]


def frames(rail: Carriage, poses: np.ndarray) -> dict[str, Frames]:
    """Frames of the rail, from its first end on top of it, and of the carriage on it, at poses (n, 1)."""
    return {RAIL: rail.track.at(np.zeros(len(poses))), CARRIAGE: rail.rides.at(poses[:, 0])}


# Rails


def lanes(rail: Straight) -> tuple[float, ...]:
    """Where the middle of each rail lies to the left [m]."""
    return (0.0,) if rail.count == 1 else (rail.spacing / 2, -rail.spacing / 2)


def rails(
    design: Design,
    rail: Straight,
    supports: tuple[float, ...],
    held: tuple[Buy, ...],
    crossed: tuple[float, ...],
    tie: tuple[str, float] = (TIE, 0.02),
) -> Pieces:
    """Rails with holes where they are held and tied, in pieces where they are joined; `held` goes through each of the
    first, ties of a board cross two rails from below, so much longer than both [m].
    """
    crossed = crossed if rail.count == 2 else ()
    # Too narrow to be bolted down through its edge, it is held at its side.
    narrow = rail.bar.width < NARROW <= rail.bar.depth
    drilled = design.values.get("rail.fixed") == BOLTED
    hold = (
        Mark(0.0, HOLE, 0.0065, note="held here", face=SIDE if narrow else TOP, fastening="held")
        if drilled
        else Mark(0.0, LINE, note="held here", face=SIDE if narrow else TOP)
    )
    marks = [replace(hold, at=x) for x in _held(rail, supports)]
    marks += [Mark(x, "hole", 0.0042, note="tie screw, from below", face=TOP, fastening="tie") for x in crossed]
    joins = _joiners(design, rail)
    marks += [mark for join in joins.parts for mark in _joint_marks(rail, join)]
    marks.sort(key=lambda mark: mark.at)
    parts = [*_rails_cut(design, rail, marks), *joins.parts]
    if crossed:
        parts.append(_tie(design, rail, crossed, *tie))
    stops = Buy("End stop, rubber", 2, 0.8, "a carriage must not leave the rail")
    held = (*held, ANGLE) if narrow and held else held
    return Pieces(tuple(parts), (), (Fastening("held", held, reach=0.03), *joins.fastenings), (stops,))


def other_holds(design: Design, count: int) -> tuple[Buy, ...]:
    """What holds rails that are not drilled, at so many places."""
    found = {
        CLAMPED: Buy("Screw clamp with soft jaws", 2 * count, 4.2, "two at each support, 60 mm apart"),
        TAPED: Buy("Ratchet strap, narrow", count, 3.5, "at each support"),
    }
    hold = found.get(design.text("rail.fixed"))
    return (hold,) if hold else ()


def _held(rail: Straight, supports: tuple[float, ...]) -> tuple[float, ...]:
    """Where rails are held [m]: at each support, and where pieces are butted over one on either side of the cut."""
    butted = [cut for cut in rail.joints.cuts if rail.joints.splice is None]
    return tuple(
        x + off
        for x in supports
        for off in ((-BESIDE_CUT, BESIDE_CUT) if any(abs(x - cut) < BESIDE_CUT for cut in butted) else (0.0,))
    )


def _rails_cut(design: Design, rail: Straight, marks: list[Mark]) -> list[Part]:
    """The rail, or its pieces from the left, each with the marks that lie on it."""
    cuts, gap = rail.joints.cuts, design.number("rail.joint_gap")
    edges = (0.0, *cuts, rail.length)
    matched = "drill the pair together" if rail.count == 2 else ""
    found = []
    for k, (start, end) in enumerate(pairwise(edges)):
        a, b = start + (gap / 2 if k else 0.0), end - (gap / 2 if k < len(cuts) else 0.0)
        on_it = tuple(
            replace(mark, at=mark.at - a) for mark in marks if start <= mark.at < end or mark.at == end == rail.length
        )
        found.append(
            Part(
                f"R{k + 1}",
                RAIL_NAME if not cuts else f"{RAIL_NAME}, piece {k + 1} from the left",
                Bar.of(design.catalogue, rail.bar.id, b - a),
                tuple(Place(RAIL, (a, y, -rail.bar.depth / 2)) for y in lanes(rail)),
                on_it,
                "left end",
                matched,
            )
        )
    return found


def _joiners(design: Design, rail: Straight) -> Pieces:
    """What is let into or bolted beside the pieces at every joint, half of it along either."""
    splice = rail.joints.splice
    if splice is None:
        return Pieces()
    bar, long, out = splice.stock, 2 * splice.overlap, (rail.bar.width + splice.stock.width) / 2
    # Plates lie at the lower edge, clear of the wheels.
    down = -rail.bar.depth / 2 if splice.inside else -rail.bar.depth + bar.depth / 2
    sides = (0.0,) if splice.inside else (out, -out)
    # The heads of bolts at the sides of a round pipe are where inclined wheels run.
    below = splice.inside and rail.bar.shape in ROUND
    held = Mark(0.0, HOLE, JOINT_HOLE, note="joint bolt", fastening="joint bolt")
    if below:
        held = replace(held, size=SCREW_HOLE, note="joint screw, from below", face=TOP)
    bolts = tuple(
        replace(held, at=splice.overlap + side * at)
        for side in (-1, 1)
        for at in (plate_bolts(splice) if not splice.inside else (splice.overlap / 2,))
    )
    part = Part(
        "J1",
        "Joint plate" if not splice.inside else "Joint tube" if bar.shape in TUBES else "Joint bar",
        Bar.of(design.catalogue, bar.id, long),
        tuple(
            Place(RAIL, (cut - splice.overlap, lane + side, down))
            for cut in rail.joints.cuts
            for lane in lanes(rail)
            for side in sides
        ),
        tuple(sorted(bolts, key=lambda mark: mark.at)),
        "one end",
        "drill through both pieces of the rail; shim it until nothing rattles"
        if splice.inside
        else "drill with the rail",
    )
    if below:
        return Pieces((part,), (), (Fastening("joint bolt", (JOINT_SCREW,)),))
    row = design.catalogue.bolts[JOINT_BOLT]
    through = rail.bar.width + (0.0 if splice.inside else 2 * bar.width) + 2 * row.washer_t
    # Two rails are joined abreast: a bolt goes through one of them.
    bolts_in = Fastening("joint bolt", (bolt(row, through, note="joints of the rail"),), reach=2 * through)
    return Pieces((part,), (), (bolts_in,))


def plate_bolts(splice: Splice) -> tuple[float, float]:
    """How far from the joint the near and the far bolt of either piece sit [m]: two diameters from the ends."""
    return min(2 * JOINT_HOLE, splice.overlap / 3), max(splice.overlap - 2 * JOINT_HOLE, 2 * splice.overlap / 3)


def _joint_marks(rail: Straight, join: Part) -> list[Mark]:
    """The holes of the rail for its joiners, as far up its side as theirs."""
    across = join.places[0].at[2] + rail.bar.depth
    return [
        replace(mark, at=round(start + mark.at, 9), across=None if mark.face == TOP else across)
        for start in dict.fromkeys(place.at[0] for place in join.places)
        for mark in join.marks
    ]


def _tie(design: Design, rail: Straight, crossed: tuple[float, ...], board_id: str, longer: float) -> Part:
    """A board across both rails from below."""
    board = design.catalogue.sections[board_id]
    wide, below = rail.spacing + rail.bar.width + longer, -rail.bar.depth - board.width / 2
    sides = ((-1, "right rail"), (1, "left rail"))
    screws = tuple(
        Mark(wide / 2 + side * rail.spacing / 2, "hole", 0.0055, note=name, face=TOP, fastening="tie")
        for side, name in sides
    )
    return Part(
        "T1",
        "Tie",
        Sheet.of(design.catalogue, board_id, wide),
        tuple(Place(RAIL, (x, -wide / 2, below), ACROSS) for x in crossed),
        screws,
        "right end",
        "both gauges from one setting",
    )


def crossings(rail: Straight, supports: tuple[float, ...], count: int) -> tuple[float, ...]:
    """Where ties cross, evenly and clear of the supports [m]."""
    clear, found = 0.05, []
    for x in np.linspace(ENDS, rail.length - ENDS, count):
        near = next((held for held in supports if abs(held - x) < clear), None)
        found.append(float(x) if near is None else near + (clear if x < rail.length / 2 else -clear))
    return tuple(found)


# The carriage


def plate(
    design: Design,
    mark: str,
    name: str,
    holes: list[Wanted],
    least: tuple[float, float],
    body: str,
    z: float,
    *,
    around: tuple[float, float] = (0.0, 0.0),
    trimmed: bool = False,
) -> Part:
    """A level plate around all its holes, cut from the narrower strip; `least` is how long and wide it is at least
    about the point it is `around`, z
    its middle [m]; `trimmed` to the outline of its holes.
    """
    xs, ys = [hole.x for hole in holes], [hole.y for hole in holes]
    x0, x1 = min(*xs, around[0] + EDGE - least[0] / 2) - EDGE, max(*xs, around[0] + least[0] / 2 - EDGE) + EDGE
    y0, y1 = min(*ys, around[1] + EDGE - least[1] / 2) - EDGE, max(*ys, around[1] + least[1] / 2 - EDGE) + EDGE
    long, wide = x1 - x0, y1 - y0
    material, catalogue = design.catalogue.materials["plywood"], design.catalogue
    lengthwise, crosswise = strip(catalogue, material, BOARD, wide), strip(catalogue, material, BOARD, long)
    if crosswise and (lengthwise is None or crosswise.depth < lengthwise.depth):
        # Its strip runs across: measured from the right, and from its front edge.
        sheet = Sheet.rectangle(material, BOARD, wide, long, crosswise)
        place, datum, edge = Place(body, ((x0 + x1) / 2, y0, z), ACROSS), "right end", "front edge"
        at = [(hole.y - y0, x1 - hole.x) for hole in holes]
    else:
        sheet = Sheet.rectangle(material, BOARD, long, wide, lengthwise)
        place, datum, edge = Place(body, (x0, (y0 + y1) / 2, z)), "rear end", "right edge"
        at = [(hole.x - x0, hole.y - y0) for hole in holes]
    marks = [
        Mark(x, "hole", hole.size, note=hole.note, across=y, face=TOP, fastening=hole.fastening)
        for (x, y), hole in zip(at, holes, strict=True)
    ]
    marks.sort(key=lambda made: (made.at, made.across or 0.0))
    if trimmed:
        around_holes = np.array([(x + a, y + b) for x, y in at for a in (-EDGE, EDGE) for b in (-EDGE, EDGE)])
        hull = support_polygon(around_holes) - (0.0, sheet.width / 2)
        sheet = replace(sheet, outline=tuple((float(x), float(y)) for x, y in hull))
    return Part(mark, name, sheet, (place,), tuple(marks), datum, f"across from the {edge}")


def on_wheels(rail: Straight) -> Runs:
    """A carriage on its wheels, over the rail, or under it where the camera hangs.

    On one profile the wheels lie flat at its sides on upright axles through the plate. On tubes, rods and flats they
    stand in brackets under it: round ones in
    inclined pairs, grooved ones one by one. Brackets of a carriage that hangs reach round the rail, so that all its
    wheels still run on top.
    """
    wheel, deep, least = rail.wheel, rail.bar.depth, (rail.wheelbase + 2 * ENDS, 0.1)
    hanging, hung = rail.mount[2] < 0, -rail.bar.depth - CLEAR_OF_RAIL - BOARD / 2

    def wheels(places: list[Place]) -> ReadyMade:
        return ReadyMade(
            wheel.name,
            Block((wheel.width, wheel.d, wheel.d), True),
            wheel.mass,
            "plastic",
            tuple(places),
            wheel.price,
            wheel.words,
        )

    lone = len(rail.wheels) == 3
    if rail.count == 1 and (wheel.shape == "grooved" or lone):
        holes = []
        for x, y in rail.wheels:
            third = lone and x == 0
            note, through = (
                ("eccentric, the third wheel", "eccentric axle")
                if third
                else (f"{NAMES[int(np.sign(x))]} axle", "axle")
            )
            holes.append(Wanted(float(x), float(y), 0.0085, note, through))
        flats = wheels([Place(CARRIAGE, (hole.x, hole.y, -deep / 2), UP, ALONG) for hole in holes])
        return Runs(tuple(holes), Pieces(things=(flats,)), hung if hanging else CLEAR_OF_RAIL + BOARD / 2, least)
    spots = (
        [(float(x), float(y)) for x, y in rail.wheels]
        if lone
        else list(product((rail.wheelbase / 2, -rail.wheelbase / 2), lanes(rail)))
    )
    holes = [
        Wanted(x + off, y, 0.0055, f"{NAMES[int(np.sign(x))]} bracket", "bracket")
        for x, y in spots
        for off in (BRACKET_SCREWS, -BRACKET_SCREWS)
    ]
    if wheel.shape == "grooved":
        placed, name = [Place(CARRIAGE, (x, y, wheel.d / 2), ACROSS) for x, y in spots], "Bracket for a wheel"
    else:
        # A rod is met at its own radius from its middle; a flat at its upper edges.
        if rail.bar.shape in ("round_tube", "solid_round"):
            out = (deep + wheel.d) / 2 * HALF
            high = out - deep / 2
        else:
            out, high = rail.bar.width / 2 + wheel.d / 2 * HALF, wheel.d / 2 * HALF
        placed = [
            Place(CARRIAGE, (x, y + side * out, high), (0.0, HALF, -side * HALF), (0.0, side * HALF, HALF))
            for x, y in spots
            for side in (1.0, -1.0)
        ]
        name = "Bracket for an inclined pair of wheels"
    top = max(place.at[2] for place in placed) + wheel.d / 2
    note = f"printed or bent from flat{', reaching round the rail' if hanging else ''}"
    bracket = ReadyMade(
        name, Block((0.05, 0.04, 0.03)), 0.03, "steel", tuple(Place(CARRIAGE, (x, y, top)) for x, y in spots), 2.6, note
    )
    axles = Buy(AXLE.name, len(placed), AXLE.price)
    return Runs(
        tuple(holes),
        Pieces(things=(wheels(placed), bracket), loose=(axles,)),
        hung if hanging else top + 0.002 + BOARD / 2,
        least,
    )


def block_screws(block: float) -> tuple[float, ...]:
    """Where the rows of screws of a block so long lie from its middle [m]: at either end where it is long enough."""
    far = max(0.0, block / 2 - 0.015)
    return (far, -far) if far > 0.012 else (0.0,)


def on_a_block(block: float, below: float, pieces: Pieces) -> Runs:
    """A carriage screwed under something that slides, `block` long, its underside `below` the top of the rail [m]."""
    holes = tuple(
        Wanted(x, y, 0.0055, f"{NAMES[int(np.sign(x))]} screw into the shuttle", "block")
        for x in block_screws(block)
        for y in (BLOCK_SCREWS, -BLOCK_SCREWS)
    )
    return Runs(holes, pieces, below - BOARD / 2, (block, 0.1))


def carriage(
    design: Design,
    kit: Carried,
    rail: Carriage,
    runs: Runs,
    more: Pieces,
    feet: tuple[Wanted, ...] = (),
    *,
    trimmed: bool = False,
) -> Pieces:
    """The plate with all its holes, what it runs on, the camera kit, and a head that makes up what the carriage is
    said to weigh.

    `more` hangs below the plate by the holes `feet`; where there are none the camera or its head is screwed to the
    plate, which may be `trimmed` to its holes.
    """
    holes, z = [*runs.holes, *feet], runs.height
    mount_x, mount_y, mount_z = (float(v) for v in rail.mount)
    if not feet:
        holes.append(Wanted(mount_x, mount_y, CAMERA_THREADS[kit.socket_thread].hole, "camera or head screw", "camera"))
        more = more + Pieces(fastenings=(Fastening("camera", (Buy(f"Camera screw {kit.socket_thread}", 1, 2.4),)),))
    part = plate(design, "P1", PLATE, holes, runs.least, CARRIAGE, z, trimmed=trimmed)
    made = Pieces((part,), (), FASTENINGS, sawn(part)) + runs.pieces + more
    return made + borne(
        design, kit, rail, made, Place(CARRIAGE, (mount_x, mount_y, mount_z if feet else (mount_z + z) / 2))
    )


def borne(design: Design, kit: Carried, rail: Carriage, made: Pieces, at: Place) -> Pieces:
    """The camera kit on its mount, and a head `at` a place that makes up what the carriage is said to weigh."""
    listed, said = sum(piece.mass for piece in made.each() if piece.body == CARRIAGE), design.number("carriage.mass")
    head = ReadyMade(REST, Block((0.08, 0.08, 0.03)), max(0.0, said - listed), "steel", (at,))
    cg = rail.mount + turned(kit.payload.cg, rail.heading)
    looks = Place(
        CARRIAGE, (float(cg[0]), float(cg[1]), float(cg[2])), (math.cos(rail.heading), math.sin(rail.heading), 0.0)
    )
    return Pieces(things=(head, ReadyMade(KIT, Block((0.14, 0.1, 0.1)), kit.payload.mass, "camera", (looks,))))
