"""What carries the hub of an orbit rig: feet with shaft and table, a board overhead, or a frame behind a desk."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.catalogue import StockSection
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.orbit.model import (
    BOARD,
    END_OF_PIPE,
    FACETS,
    FLOOR,
    FOOT_FROM,
    STANDS_ON,
    THICK,
    DeskFrame,
    Orbit,
)
from hazel_lantern.core.workshop.fasteners import bolt
from hazel_lantern.core.workshop.laid import Pieces
from hazel_lantern.core.workshop.marks import HOLE, LINE, Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part, ReadyMade
from hazel_lantern.core.workshop.solids import DOWN, SIDE, TOP, UP, Bar, Block, Place, Sheet

ANCHORS = 0.1  # metres from the axis to each side at which a board overhead is screwed up
CLAMP_IN = 0.03  # metres
FLANGE = 0.006  # metres of a flange's plate or saddle
COACH = (25, 30, 40, 50, 60)  # millimetres


def carried_by(design: Design, rig: Orbit) -> Pieces:
    """Parts, ready-made things, fastenings and what is bought loose."""
    if rig.frame is not None:
        return _framed(design, rig, rig.frame)
    return _hung(design, rig) if rig.structure else _standing(design, rig)


def _standing(design: Design, rig: Orbit) -> Pieces:
    catalogue = design.catalogue
    around = 2 * math.pi * np.arange(FACETS) / FACETS
    outline = tuple((rig.table_radius * (1 + math.cos(a)), rig.table_radius * math.sin(a)) for a in around)
    table = Part(
        "T1",
        "Table",
        Sheet(catalogue.materials["plywood"], THICK, outline),
        (Place(FLOOR, (-rig.table_radius, 0.0, rig.table - THICK / 2)),),
        (
            Mark(
                rig.table_radius,
                HOLE,
                0.0065,
                note="middle: flange of the shaft",
                across=rig.table_radius,
                face=TOP,
                fastening="flange",
            ),
        ),
        "one edge",
        "round it from its middle",
    )
    stands = STANDS_ON + rig.foot.depth
    tall = rig.table - THICK - stands
    shaft = Part(
        "S1",
        "Shaft",
        Bar.of(catalogue, rig.shaft.id, tall),
        (Place(FLOOR, (0.0, 0.0, stands), UP, (-1.0, 0.0, 0.0)),),
        (Mark(rig.beam - stands, LINE, note="middle of the arms", face=SIDE),) if 0 < rig.beam - stands < tall else (),
        "foot",
        "straight within 0.5 mm a metre",
    )
    out = float(np.hypot(*rig.feet[0]))
    legs = Part(
        "B1",
        "Foot of the base",
        Bar.of(catalogue, rig.foot.id, out),
        tuple(
            Place(
                FLOOR,
                (float(x) * FOOT_FROM, float(y) * FOOT_FROM, STANDS_ON + rig.foot.depth / 2),
                (float(x), float(y), 0.0),
            )
            for x, y in rig.feet / out
        ),
        (
            *(
                Mark(at, HOLE, 0.005, note="flange of the shaft, from above", face=TOP, fastening="foot screw")
                for at in (0.02, 0.06)
            ),
            Mark(out - FOOT_FROM, HOLE, 0.004, note="rubber foot, from below", face=TOP, fastening="rubber foot"),
        ),
        "inner end",
        "on edge; all alike",
    )
    things = [_ballast(design, (0.0, 0.0, 0.045), "bags over its feet")]
    if design.number("table.load") > 0:
        place = Place(FLOOR, (0.0, 0.0, rig.table + 0.05))
        things.append(
            ReadyMade("What is filmed", Block((0.1, 0.1, 0.1)), design.number("table.load"), "wood", (place,))
        )
    fastenings = (
        Fastening("flange", (Buy("Pipe flange with four bolts M6", 1, 6.8, "table on the shaft"),)),
        Fastening("foot screw", (_foot_screw(design, rig.foot),)),
        Fastening("rubber foot", (Buy("Rubber foot with screw", 1, 0.8, "feet of the base"),)),
    )
    loose = (Buy("Base plate with a flange for the shaft, steel", 1, 14.0, "shaft on its feet"),)
    return Pieces((shaft, table, legs), tuple(things), fastenings, loose)


def _ballast(design: Design, at: tuple[float, float, float], note: str) -> ReadyMade:
    return ReadyMade(
        "Ballast of the base",
        Block((0.3, 0.3, 0.05)),
        design.number("base.mass"),
        "weight",
        (Place(FLOOR, at),),
        None,
        note,
    )


def _foot_screw(design: Design, foot: StockSection) -> Buy:
    """Through the base plate into a foot of wood without coming out below, or through one of anything else."""
    note = "feet to the base plate"
    if design.catalogue.materials[foot.material].family != "wood":
        row = design.catalogue.bolts["M6"]
        return bolt(row, foot.depth + FLANGE + 2 * row.washer_t, note=note)
    room = (foot.depth + FLANGE) * 1e3 - 3
    return Buy(f"Coach screw 6×{max((n for n in COACH if n <= room), default=COACH[0])} with washer", 1, 0.3, note)


def _hung(design: Design, rig: Orbit) -> Pieces:
    ply = design.catalogue.materials["plywood"]
    half, under = BOARD / 2, rig.structure - THICK
    spots = [(half + x, half + y) for x in (-ANCHORS, ANCHORS) for y in (-ANCHORS, ANCHORS)]
    parts = [
        Part(
            "O1",
            "Board overhead",
            Sheet.rectangle(ply, THICK, BOARD, BOARD),
            (Place(FLOOR, (-half, 0.0, rig.structure - THICK / 2)),),
            tuple(
                Mark(at, HOLE, 0.0105, note="anchor", across=across, face=TOP, fastening="anchor")
                for at, across in sorted(spots)
            ),
            "one end",
            "under the structure, not under its lining",
        )
    ]
    loose = [Buy("Tether eye on another part of the structure", 1, 8.0, "for the safety cable")]
    if rig.ring is None:
        parts.append(_hub_shaft(design, rig, under))
        loose.append(Buy("Pipe flange with four bolts M8", 1, 9.2, "shaft under the board"))
    anchor = Fastening(
        "anchor",
        (Buy("Anchor M10, rated, as the structure asks", 1, 4.5, "board overhead; installed as its sheet says"),),
    )
    return Pieces(tuple(parts), (), (anchor, _stop_bolt(design, rig)), tuple(loose))


def _stop_bolt(design: Design, rig: Orbit) -> Fastening:
    """What the hub cannot pass, through the shaft."""
    row = design.catalogue.bolts["M6"]
    return Fastening("stop bolt", (bolt(row, rig.shaft.width + 2 * row.washer_t, note="below the hub"),))


def _hub_shaft(design: Design, rig: Orbit, top: float) -> Part:
    return Part(
        "S1",
        "Hub shaft",
        Bar.of(design.catalogue, rig.shaft.id, rig.hub_shaft_long),
        (Place(FLOOR, (0.0, 0.0, top), DOWN, (1.0, 0.0, 0.0)),),
        (
            Mark(rig.hub_shaft, LINE, note="middle of the arms", face=SIDE),
            Mark(
                rig.hub_shaft_long - 0.01,
                HOLE,
                0.0065,
                note="bolt that the hub cannot pass",
                face=SIDE,
                fastening="stop bolt",
            ),
        ),
        "upper end",
        "straight within 0.5 mm a metre",
    )


def _framed(design: Design, rig: Orbit, frame: DeskFrame) -> Pieces:
    catalogue = design.catalogue
    x, y = (float(v) for v in frame.post)
    towards = (-float(frame.way[0]), -float(frame.way[1]), 0.0)
    aside = (float(frame.way[1]), -float(frame.way[0]), 0.0)
    foot = frame.foot(rig.table)
    parts = [
        Part(
            "F1",
            "Post",
            Bar.of(catalogue, frame.pipe.id, frame.height - foot),
            (Place(FLOOR, (x, y, foot), UP, aside),),
            (Mark(rig.table - foot, LINE, note="top of the desk", face=SIDE),) if frame.clamped else (),
            "foot",
            "",
        ),
        Part(
            "F2",
            "Upper pipe",
            Bar.of(catalogue, frame.pipe.id, frame.reach + frame.pipe.depth),
            (Place(FLOOR, (x, y, frame.height), towards),),
            (Mark(frame.reach, HOLE, 0.0085, note="flange of the shaft", face=TOP, fastening="shaft bolt"),),
            "post's end",
            "",
        ),
        _hub_shaft(design, rig, frame.height - frame.pipe.depth / 2),
    ]
    loose = [
        Buy(
            f"Elbow clamp for a pipe of {frame.pipe.width * 1e3:.1f} mm",
            1,
            14.0,
            "post to the upper pipe, two screws each way",
        ),
        Buy("Flange with a saddle for the pipe", 1, 12.0, "shaft under the upper pipe"),
    ]
    things = []
    if frame.clamped:
        loose.append(
            Buy(
                "Bench clamp, cast, with a saddle for the pipe",
                2,
                24.0,
                "post to the desk's back edge, one high, one low, on a board",
            )
        )
    else:
        pipe, half = frame.pipe, design.number("frame.wide") / 2
        low = pipe.depth / 2 + END_OF_PIPE
        legs = tuple(
            Place(FLOOR, (x + side * half * aside[0], y + side * half * aside[1], low), towards) for side in (-1, 1)
        )
        parts += [
            Part(
                "F3",
                "Foot of the frame",
                Bar.of(catalogue, pipe.id, design.number("frame.legs")),
                legs,
                (),
                "one end",
                "both alike",
            ),
            Part(
                "F4",
                "Cross pipe",
                Bar.of(catalogue, pipe.id, 2 * half),
                (Place(FLOOR, (x - half * aside[0], y - half * aside[1], low + pipe.depth), aside),),
                (Mark(half, LINE, note="post", face=TOP),),
                "one end",
                "",
            ),
        ]
        loose += [
            Buy(f"Tee clamp for a pipe of {pipe.width * 1e3:.1f} mm", 3, 15.0, "cross pipe to feet and post"),
            Buy("Pipe end of rubber", 4, 1.1, "feet of the frame"),
        ]
    if design.number("base.mass") > 0:
        things.append(_ballast(design, (x, y, 0.12), "bags at its post"))
    row = catalogue.bolts["M8"]
    flanged = bolt(row, frame.pipe.depth + FLANGE + 2 * row.washer_t, note="flange of the shaft")
    fastenings = (Fastening("shaft bolt", (flanged,)), _stop_bolt(design, rig))
    return Pieces(tuple(parts), tuple(things), fastenings, tuple(loose))
