"""What the arm turns on: cheeks, one upright, a yoke or a fluid head, and the plates between it and its stand."""

from __future__ import annotations

import math
from itertools import product

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.jib.constructions import YOKE_CROWN, YOKE_LONG
from hazel_lantern.core.kinds.jib.design import BETWEEN, CHEEKS, CLAMPED, SINGLE, YOKE
from hazel_lantern.core.kinds.jib.model import ARM, BY_BARS, FIXED, HEAD_AXIS, TURNING, Jib, pair_of
from hazel_lantern.core.kinds.jib.parts.pins import PIVOT_A, PIVOT_B, POST_DOWN, POST_UP, hole
from hazel_lantern.core.kinds.shared.fixings import SMALL_BOLT
from hazel_lantern.core.kinds.shared.home_built import BUILT, built_pieces
from hazel_lantern.core.kinds.shared.plates import BOARD, EDGE, Wanted, plate
from hazel_lantern.core.workshop.fasteners import bolt
from hazel_lantern.core.workshop.laid import Pieces
from hazel_lantern.core.workshop.marks import HOLE, Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part
from hazel_lantern.core.workshop.solids import ALONG, SIDE, TOP, Bar, Place

NAMES = {CHEEKS: "Post cheek", SINGLE: "Post upright", BETWEEN: "Post", YOKE: "Yoke"}
FOOT_PLATE = "Foot plate"
BESIDE, FEET = 0.02, 0.025  # metres from a post to the holes of its brackets, from its middle along the arm
M6_HOLE, HEAD_SCREW, BEARING_SCREW = 0.0065, 0.01, 0.0035
CLAMP_OUT, CLAMP_APART = 0.008, 0.04  # metres from the arm to a clamp bolt, from the clamp's middle along the arm
BOLTED = Buy("Bolt M6×40", 1, 0.45)


def post_pieces(design: Design, jib: Jib) -> Pieces:
    """All of it down to the stand, with the stand where it is built of boards."""
    if jib.held == CLAMPED:
        return _clamp(design, jib)
    post = _yoke(design, jib) if jib.held == YOKE else _cheeks(design, jib)
    return post + _plates(design, jib)


def _cheeks(design: Design, jib: Jib) -> Pieces:
    """One or two members that hold the pivots."""
    top = jib.pivots()[0] + jib.crown * jib.up
    down, ahead = (-float(jib.up[0]), 0.0, -float(jib.up[1])), (float(jib.up[1]), 0.0, -float(jib.up[0]))
    places = tuple(Place(TURNING, (float(top[0]), y, float(top[1])), down, ahead) for y in jib.lanes(jib.post.width))
    marks = [hole(jib, jib.crown, PIVOT_A)]
    if jib.level == BY_BARS:
        marks.append(hole(jib, jib.crown - jib.spacing, PIVOT_B))
    if jib.cable_pins:
        marks.append(hole(jib, jib.crown - jib.cable.post, POST_UP, "upper cable pin"))
        marks.append(hole(jib, jib.crown + jib.cable.post, POST_DOWN, "lower cable pin"))
    part = Part(
        "C1",
        NAMES[jib.held],
        Bar.of(design.catalogue, jib.post.id, jib.post_length),
        places,
        tuple(sorted(marks, key=lambda mark: mark.at)),
        "top end",
        "; ".join(filter(None, ("drill the pair together" if len(places) > 1 else "", _sawn(jib)))),
    )
    return Pieces((part,), nested=((part.name, FOOT_PLATE),) if jib.lean else ())


def _sawn(jib: Jib) -> str:
    """How the foot of a post that leans is sawn, to stand flat on its plate."""
    return f"saw its foot {abs(math.degrees(jib.lean)):.1f}° off square" if jib.lean else ""


def _yoke(design: Design, jib: Jib) -> Pieces:
    """A piece of channel on its back, the arm between its flanges."""
    channel = design.row("sections", "post.section")
    marks = (
        *(Mark(at, HOLE, M6_HOLE, note="foot plate", face=SIDE, fastening="yoke") for at in (FEET, YOKE_LONG - FEET)),
        Mark(
            YOKE_LONG / 2,
            HOLE,
            jib.bolt.clear_close,
            note=PIVOT_A,
            across=channel.width - YOKE_CROWN,
            face=TOP,
            fastening=PIVOT_A,
        ),
    )
    middle = jib.foot + channel.width / 2
    # Its width, from the back of the web to the flanges' edges, stands up.
    place = Place(TURNING, (-YOKE_LONG / 2, 0.0, middle), ALONG, (0.0, -1.0, 0.0))
    part = Part(
        "C1",
        NAMES[YOKE],
        Bar.of(design.catalogue, channel.id, YOKE_LONG),
        (place,),
        tuple(sorted(marks, key=lambda mark: mark.at)),
        "one end",
        "drill both flanges in one go; across from the back of the web",
    )
    return Pieces((part,))


def _plates(design: Design, jib: Jib) -> Pieces:
    """A plate under the post that turns, and where what it pans on is screwed down one on the stand that does not."""
    size = jib.pan.size
    corners = tuple(
        Wanted(x, y, BEARING_SCREW, "bearing screw", "bearing screw")
        for x, y in product(pair_of(size / 2 - EDGE), repeat=2)
    )
    middle = Wanted(0.0, 0.0, HEAD_SCREW, "screw of the head", "head screw")
    turns = {"screws": corners, "head": (middle,), "bolt": (Wanted(0.0, 0.0, 0.0165, "pan bolt", ""),)}[jib.pan.fixing]
    under = jib.foot - BOARD
    if jib.held == YOKE:
        held = tuple(Wanted(x, 0.0, M6_HOLE, "yoke", "yoke") for x in pair_of(FEET))
    else:
        outer = [
            lane + side * (jib.post.width / 2 + BESIDE)
            for lane in jib.lanes(jib.post.width)
            for side in (1, -1)
            if jib.cheeks == 1 or side * lane > 0
        ]
        held = tuple(Wanted(x, y, 0.0055, "foot bracket", "foot bracket") for x in pair_of(FEET) for y in outer)
    foot = plate(design, "C2", FOOT_PLATE, [*turns, *held], (size, size), TURNING, under + BOARD / 2)
    made = Pieces((foot,), (), _through(design))
    if jib.pan.fixing == "head":
        return made
    low = under - jib.pan.height - BOARD / 2
    return made + _on_stand(design, jib, corners if jib.pan.fixing == "screws" else turns, low)


def _on_stand(design: Design, jib: Jib, screws: tuple[Wanted, ...], z: float) -> Pieces:
    """The plate on the stand: a screw of the stand through its middle, or brackets on the boards of a built one."""
    size = jib.pan.size
    if jib.stand.shape != BUILT:
        seat = () if jib.pan.fixing == "bolt" else (Wanted(0.0, 0.0, HEAD_SCREW, "screw of the stand", "stand screw"),)
        return Pieces((plate(design, "C3", "Stand plate", [*screws, *seat], (size, size), FIXED, z),))
    boards = design.row("sections", "stand.board")
    beside = tuple(Wanted(0.0, y, 0.0055, "post bracket", "foot bracket") for y in pair_of(boards.width + BESIDE))
    top = plate(design, "C3", "Stand plate", [*screws, *beside], (size, size), FIXED, z)
    spread = design.number("stand.radius")
    return Pieces((top,)) + built_pieces(design, jib.stand, jib.column, spread, ((0.0, 0.0),), FIXED)


def _clamp(design: Design, jib: Jib) -> Pieces:
    """Two boards with four bolts beside the arm, the lower one on the head's plate."""
    out = jib.across / 2 + CLAMP_OUT
    corners = [
        Wanted(x, y, M6_HOLE, "clamp bolt", "clamp bolt") for x, y in product(pair_of(CLAMP_APART), pair_of(out))
    ]
    seat = Wanted(0.0, 0.0, HEAD_SCREW, "screw of the head", "head screw")
    low, high = HEAD_AXIS + BOARD / 2, HEAD_AXIS + 1.5 * BOARD + jib.arm.depth
    boards = (
        plate(design, "K1", "Clamp board, upper", corners, (0.0, 0.0), ARM, high),
        plate(design, "K2", "Clamp board, lower", [*corners, seat], (0.0, 0.0), ARM, low),
    )
    return Pieces(boards, (), _through(design, BOARD * 2 + jib.arm.depth))


def _through(design: Design, clamped: float = 0.0) -> tuple[Fastening, ...]:
    """What fixes the plates; `clamped` is what the bolts of an arm's clamp pass [m]."""
    row = design.catalogue.bolts["M6"]
    nut = (Buy("Lock nut M6", 1, 0.25), Buy("Washer M6", 2, 0.08))
    bracket = (
        Buy("Angle bracket 60 mm", 1, 1.3, "post to its plate"),
        Buy(SMALL_BOLT, 1, 0.35, "brackets to their plate"),
        Buy("Wood screw 5×30", 2, 0.06, "brackets to the post; in metal bolts M5×20"),
    )
    clamp = bolt(row, clamped + 2 * row.washer_t, "", "arm on the head; tighten crosswise")
    return (
        Fastening("foot bracket", bracket, reach=0.01),
        Fastening("bearing screw", (Buy("Wood screw 5×16", 1, 0.04, "bearing to its plates"),), reach=0.005),
        Fastening("head screw", (Buy("Screw 3/8-16, 1 in, with its washer", 1, 1.1, "into the head's plate"),)),
        Fastening("stand screw", (Buy("Screw 3/8-16, 1 1/4 in, with a wing nut", 1, 1.6, "plate to the stand"),)),
        Fastening("yoke", (BOLTED, *nut), reach=0.1),
        Fastening("clamp bolt", (clamp, *nut)),
    )
