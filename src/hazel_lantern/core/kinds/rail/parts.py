"""Rails, ties, the carriage plate with its wheels, and the camera on it, laid out along a straight rail."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.catalogue import SOLID, TUBES, StockSection
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.rail.design import BOLTED, CLAMPED, TAPED
from hazel_lantern.core.kinds.rail.model import BASE_SCREWS, Carriage, Straight
from hazel_lantern.core.kinds.shared.fixings import ANGLE, end_stops, narrow
from hazel_lantern.core.kinds.shared.splices import ROUND, Splice
from hazel_lantern.core.mechanics.track import Frames
from hazel_lantern.core.workshop.fasteners import bolt, screw_from_below
from hazel_lantern.core.workshop.laid import Pieces
from hazel_lantern.core.workshop.marks import HOLE, LINE, Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part
from hazel_lantern.core.workshop.solids import ACROSS, END, SIDE, TOP, Bar, Place, Sheet

RAIL, CARRIAGE = "rail", "carriage"
RAIL_NAME, BASE = "Rail", "Base board"
TIE = "plywood-18x60"
BESIDE_SUPPORT = 0.05  # metres from a support to a tie
ENDS = 0.03  # metres of rail beyond the first tie, of plate beyond the axles
BESIDE_CUT = 0.015  # metres from butted ends to the holes that hold them
M6_HOLE, STOP_IN = 0.0065, 0.012  # metres; from a narrow flat's end to the hole of its stop
JOINT_BOLT, JOINT_HOLE, SCREW_HOLE = "M5", 0.0055, 0.0035
JOINT_SCREW = Buy("Self-tapping screw 4.2×13, flat head", 1, 0.08, "joints of the rail, from below, flush")
ANGLED = Buy(ANGLE, 1, 0.9, "holds a narrow rail")


def frames(rail: Carriage, poses: np.ndarray) -> dict[str, Frames]:
    """Frames of the rail, from its first end on top of it, and of the carriage on it, at poses (n, 1)."""
    return {RAIL: rail.track.at(np.zeros(len(poses))), CARRIAGE: rail.rides.at(poses[:, 0])}


# Rails


def lanes(rail: Straight) -> tuple[float, ...]:
    """Where the middle of each rail lies to the left [m]."""
    return (0.0,) if rail.count == 1 else (rail.spacing / 2, -rail.spacing / 2)


class Held(Struct, frozen=True):
    """How bolts hold a rail at its supports: what they pass beside it [m], what is at their other end, what for."""

    under: float
    foot: str = ""
    note: str = "rail to its plate"


def rails(
    design: Design,
    rail: Straight,
    supports: tuple[float, ...],
    held: Held,
    crossed: tuple[float, ...],
    tie: tuple[str, float] = (TIE, 0.024),
) -> Pieces:
    """Rails with holes where they are held and tied, in pieces where they are joined; ties of a board cross two rails
    from below, so much longer than both [m], or a board lies under all of them.
    """
    crossed = crossed if rail.count == 2 else ()
    based = rail.base is not None
    drilled = design.values.get("rail.fixed") == BOLTED
    # Too narrow to be bolted down through its edge, it is held at its side; a slotted one is held in its slot.
    sideways, slotted = narrow(rail.bar), rail.bar.shape == "profile"
    hold = Mark(0.0, LINE, note="held here", face=SIDE if sideways else TOP)
    if drilled and not slotted:
        hold = replace(hold, what=HOLE, size=M6_HOLE, fastening="held")
    places = _held(rail, supports)
    marks = [] if based else [replace(hold, at=x) for x in places]
    marks += [Mark(x, HOLE, 0.0042, note="tie screw, from below", face=TOP, fastening="tie") for x in crossed]
    joins = _joiners(design, rail)
    marks += [mark for join in joins.parts for mark in _joint_marks(rail, join)]
    marks.sort(key=lambda mark: mark.at)
    parts = [*_rails_cut(design, rail, marks), *joins.parts]
    if crossed:
        parts.append(_base(design, rail, crossed, hold, places) if based else _tie(design, rail, crossed, *tie))
    loose = [end_stops(rail.bar, 2 * rail.count)]
    if drilled and slotted:
        name = f"{held.foot} with T-nut M6" if held.foot else "T-nut M6 with bolt M6×12"
        loose.append(Buy(name[:1].upper() + name[1:], len(places) * rail.count, 0.9, held.note))
    board = rail.base.thickness if rail.base else design.catalogue.sections[tie[0]].width
    screw = Fastening("tie", (screw_from_below(board, rail.bar.depth, 1, "ties"),))
    return Pieces(
        tuple(parts),
        (),
        (Fastening("held", _bolts(design, rail, held), reach=0.03), screw, *joins.fastenings),
        tuple(loose),
        joins.nested,
    )


def _bolts(design: Design, rail: Straight, held: Held) -> tuple[Buy, ...]:
    """What goes through one hole that holds a rail: an M6 as long as what it passes, an angle beside a narrow one."""
    row = design.catalogue.bolts["M6"]
    if narrow(rail.bar) and rail.base is None:
        plate = bolt(row, 0.003 + held.under + 2 * row.washer_t, note="angle to what it stands on")
        return bolt(row, rail.bar.width + 0.003 + 2 * row.washer_t, note=held.note), ANGLED, plate
    deep = rail.base.thickness if rail.base else rail.bar.depth
    stack = deep + held.under + 2 * row.washer_t
    return (
        bolt(row, stack, f" with lock nut and {held.foot}", held.note)
        if held.foot
        else bolt(row, stack, note=held.note),
    )


def _base(design: Design, rail: Straight, crossed: tuple[float, ...], hold: Mark, places: tuple[float, ...]) -> Part:
    """A board under both rails along all of them, screwed to them from below and held in their place."""
    assert rail.base is not None
    wide = rail.base.width
    screws = [
        Mark(x, HOLE, 0.0055, note=name, across=wide / 2 + side * rail.spacing / 2, face=TOP, fastening="tie")
        for x in crossed
        for side, name in ((-1, "right rail"), (1, "left rail"))
    ]
    marks = sorted(
        (*screws, *(replace(hold, at=x, face=TOP) for x in places)), key=lambda mark: (mark.at, mark.across or 0.0)
    )
    below = -rail.bar.depth - rail.base.thickness / 2
    return Part(
        "B1",
        BASE,
        rail.base,
        (Place(RAIL, (0.0, 0.0, below)),),
        tuple(marks),
        "left end",
        "screw the rails on straight, one from a straight edge, the other by the gauge",
    )


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
        ) + _stop_holes(rail.bar, b - a, first=k == 0, last=k == len(cuts))
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


def _stop_holes(bar: StockSection, long: float, *, first: bool, last: bool) -> tuple[Mark, ...]:
    """Holes for the end stops in a piece so long [m], at the outer ends of a rail that has no bore to plug and no core
    to screw into.
    """
    if not (first or last) or bar.shape not in SOLID:
        return ()
    if narrow(bar):
        ends = (*((STOP_IN,) if first else ()), *((long - STOP_IN,) if last else ()))
        return tuple(Mark(x, HOLE, JOINT_HOLE, note="end stop") for x in ends)
    which = "both ends" if first and last else "its left end" if first else "its right end"
    return (Mark(bar.width / 2, HOLE, 0.004, note=f"end stop, {which}", face=END),)


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
    let_in = ((part.name, ""),) if splice.inside else ()
    if below:
        return Pieces((part,), (), (Fastening("joint bolt", (JOINT_SCREW,)),), nested=let_in)
    row = design.catalogue.bolts[JOINT_BOLT]
    through = rail.bar.width + (0.0 if splice.inside else 2 * bar.width) + 2 * row.washer_t
    # Two rails are joined abreast: a bolt goes through one of them.
    bolts_in = Fastening("joint bolt", (bolt(row, through, note="joints of the rail"),), reach=2 * through)
    return Pieces((part,), (), (bolts_in,), nested=let_in)


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


def crossings(
    rail: Straight, supports: tuple[float, ...], count: int, clear: float = BESIDE_SUPPORT
) -> tuple[float, ...]:
    """Where ties cross, evenly and clear of the supports [m]."""
    if rail.base is not None:
        return tuple(np.linspace(ENDS, rail.length - ENDS, math.ceil((rail.length - 2 * ENDS) / BASE_SCREWS) + 1))
    found = []
    for x in np.linspace(ENDS, rail.length - ENDS, count):
        near = next((held for held in supports if abs(held - x) < clear), None)
        found.append(float(x) if near is None else near + (clear if x < rail.length / 2 else -clear))
    return tuple(found)
