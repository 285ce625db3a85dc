"""Beam, riser, weights, hub, table and base of an orbit rig, laid out about its axis."""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.orbit.design import TWO
from hazel_lantern.core.kinds.orbit.model import (
    ARM_HELD,
    ENDS,
    FACETS,
    FLOOR,
    FOOT_FROM,
    HUB_MASS,
    PLATE,
    ROTOR,
    STANDS_ON,
    THICK,
    Orbit,
    frames,
    sized,
)
from hazel_lantern.core.kinds.shared.weighed import KIT
from hazel_lantern.core.mechanics.pins import CAMERA_THREADS
from hazel_lantern.core.workshop.fasteners import sawn
from hazel_lantern.core.workshop.laid import Pieces, lay
from hazel_lantern.core.workshop.marks import HOLE, LINE, Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part, ReadyMade
from hazel_lantern.core.workshop.solids import DOWN, SIDE, TOP, UP, Bar, Block, Place, Sheet

HELD = 0.02  # metres from an arm's end to the first of the bolts that hold it
RISER_BOLTS = (-0.25, 0.25)  # of the beam's depth from its middle
HUB = "Hub plate, 6 mm"


def build(design: Design, kit: Carried) -> Orbit:
    """The mechanism with its pieces. Raises GeometryError where it does not fit together."""
    rig = sized(design, kit)
    return replace(rig, laid=lay(_pieces(design, kit, rig), frames(rig, np.zeros((1, 1)))))


def _pieces(design: Design, kit: Carried, rig: Orbit) -> Pieces:
    catalogue, bolt = design.catalogue, CAMERA_THREADS[kit.socket_thread]
    # Two bolts, one above the other, where there is a riser to bolt.
    risen = RISER_BOLTS if abs(rig.riser) > rig.bar.depth else ()
    held = [Mark(at, HOLE, 0.0065, note="hub bolt", face=TOP, fastening="hub bolt") for at in (HELD, HELD + ARM_HELD)]
    rise = [
        Mark(rig.radius - rig.inner, HOLE, 0.0065, note="riser", across=rig.bar.depth * (0.5 + off), face=SIDE, fastening="riser bolt")
        for off in risen
    ]  # fmt: skip
    front = Part(
        "A1", "Camera arm", Bar.of(catalogue, rig.bar.id, rig.radius + ENDS - rig.inner), (Place(ROTOR, (rig.inner, 0.0, 0.0)),),
        (*held, *rise), "hub's end", "its two hub bolts from one setting with the other arm",
    )  # fmt: skip
    rear = Part(
        "A2", "Weight arm", Bar.of(catalogue, rig.bar.id, rig.rear + ENDS - rig.inner), (Place(ROTOR, (-rig.inner, 0.0, 0.0), (-1.0, 0.0, 0.0)),),
        (*held, Mark(rig.rear - rig.inner, HOLE, 0.0125, note="weight pin", face=TOP, fastening="weight pin")), "hub's end", "",
    )  # fmt: skip
    parts = [front, rear]
    if risen:
        way = UP if rig.riser > 0 else DOWN
        foot = -math.copysign(rig.bar.depth / 2, rig.riser)
        tall = abs(rig.riser) + rig.bar.depth / 2
        aside = (rig.bar.width + rig.rises.width) / 2
        parts.append(
            Part(
                "C1", "Riser", Bar.of(catalogue, rig.rises.id, tall), (Place(ROTOR, (rig.radius, aside, foot), way, (-1.0, 0.0, 0.0)),),
                tuple(Mark(rig.bar.depth * (0.5 + off), HOLE, 0.0065, note="beam", face=SIDE, fastening="riser bolt") for off in risen), "foot", "drill with the beam, square to it",
            )
        )  # fmt: skip
    half = PLATE / 2
    plate = Part(
        "C2", "Camera plate", Sheet.rectangle(catalogue.materials["plywood"], THICK, PLATE, PLATE),
        (Place(ROTOR, (rig.radius - half, 0.0, rig.riser - THICK / 2)),),
        (Mark(half, HOLE, bolt.hole, note="camera screw", across=half, face=TOP, fastening="camera"),), "one end", "",
    )  # fmt: skip
    around = 2 * math.pi * np.arange(FACETS) / FACETS
    outline = tuple((rig.table_radius * (1 + math.cos(a)), rig.table_radius * math.sin(a)) for a in around)
    table = Part(
        "T1", "Table", Sheet(catalogue.materials["plywood"], THICK, outline),
        (Place(FLOOR, (-rig.table_radius, 0.0, rig.table - THICK / 2)),),
        (Mark(rig.table_radius, HOLE, 0.0065, note="middle: flange of the shaft", across=rig.table_radius, face=TOP, fastening="flange"),),
        "one edge", "round it from its middle",
    )  # fmt: skip
    stands = STANDS_ON + rig.foot.depth
    tall = rig.table - THICK - stands
    shaft = Part(
        "S1", "Shaft", Bar.of(catalogue, rig.shaft.id, tall), (Place(FLOOR, (0.0, 0.0, STANDS_ON + rig.foot.depth), UP, (-1.0, 0.0, 0.0)),),
        (Mark(rig.beam - stands, LINE, note="middle of the arms", face=SIDE),) if 0 < rig.beam - stands < tall else (), "foot", "straight within 0.5 mm a metre",
    )  # fmt: skip
    out = float(np.hypot(*rig.feet[0]))
    ways = rig.feet / out
    legs = Part(
        "B1", "Foot of the base", Bar.of(catalogue, rig.foot.id, out),
        tuple(Place(FLOOR, (float(x) * FOOT_FROM, float(y) * FOOT_FROM, STANDS_ON + rig.foot.depth / 2), (float(x), float(y), 0.0)) for x, y in ways),
        (
            *(Mark(at, HOLE, 0.005, note="flange of the shaft, from above", face=TOP, fastening="foot screw") for at in (0.02, 0.06)),
            Mark(out - FOOT_FROM, HOLE, 0.004, note="rubber foot, from below", face=TOP, fastening="rubber foot"),
        ),
        "inner end", "on edge; all alike",
    )  # fmt: skip
    parts += [plate, shaft, table, legs]
    return Pieces(
        tuple(parts),
        _things(design, kit, rig, sum(part.mass * part.quantity for part in parts)),
        _fastenings(kit),
        (*_loose(design, rig), *(buy for part in parts for buy in sawn(part))),
    )


def _things(design: Design, kit: Carried, rig: Orbit, listed: float) -> tuple[ReadyMade, ...]:
    """Weights, camera kit, base and what stands on the table."""
    size = rig.weight_side
    side = -1.0 if rig.inward else 1.0
    at = rig.kit_at - (0.0, 0.0, rig.beam)
    found = [
        ReadyMade(
            KIT,
            Block((0.14, 0.1, 0.1)),
            kit.payload.mass,
            "camera",
            (Place(ROTOR, (float(at[0]), float(at[1]), float(at[2])), (side, 0.0, 0.0)),),
        )
    ]
    if rig.weights > 0:
        place = Place(ROTOR, (-rig.rear, 0.0, rig.weights_above))
        found.append(
            ReadyMade(
                "Weights", Block((size, size, size)), rig.weights, "weight", (place,), None, "with pin and collars"
            )
        )
    found.append(
        ReadyMade(
            "Hub",
            Block((0.12, 0.1, 0.02)),
            HUB_MASS,
            "steel",
            (Place(FLOOR, (0.0, 0.0, rig.beam - rig.bar.depth / 2 - 0.01)),),
        )
    )
    base = design.number("base.mass")
    found.append(
        ReadyMade(
            "Ballast of the base",
            Block((0.3, 0.3, 0.05)),
            base,
            "weight",
            (Place(FLOOR, (0.0, 0.0, 0.045)),),
            None,
            "bags over its feet",
        )
    )
    load = design.number("table.load")
    if load > 0:
        found.append(
            ReadyMade(
                "What is filmed", Block((0.1, 0.1, 0.1)), load, "wood", (Place(FLOOR, (0.0, 0.0, rig.table + 0.05)),)
            )
        )
    return tuple(found)


def _fastenings(kit: Carried) -> tuple[Fastening, ...]:
    return (
        Fastening("hub bolt", (Buy("Bolt M6×70 with lock nut", 1, 0.55, "arms on the hub"),), reach=0.06),
        Fastening("weight pin", (Buy("Threaded rod M12, 300 mm, with nuts and collars", 1, 3.6, "weights"),)),
        Fastening("riser bolt", (Buy("Bolt M6×70 with lock nut", 1, 0.6, "riser to the beam"),), reach=0.1),
        Fastening("camera", (Buy(f"Camera screw {kit.socket_thread}", 1, 2.4),)),
        Fastening("flange", (Buy("Pipe flange with four bolts M6", 1, 6.8, "table on the shaft"),)),
        Fastening("foot screw", (Buy("Coach screw 6×60 with washer", 1, 0.3, "feet to the base plate"),)),
        Fastening("rubber foot", (Buy("Rubber foot with screw", 1, 0.8, "feet of the base"),)),
    )


def _loose(design: Design, rig: Orbit) -> tuple[Buy, ...]:
    two = design.text("hub.bearings") == TWO
    across = rig.shaft.width * 1e3
    return (
        *_hub(rig, across, two=two),
        Buy("Base plate with a flange for the shaft, steel", 1, 14.0, "shaft on its feet"),
        Buy("Angle bracket 40 mm", 1, 0.9, "camera plate"),
        Buy(HUB, 1, 6.0, "flat steel, a hole for the shaft and four for the arms; printed only as a mock-up"),
    )


def _hub(rig: Orbit, across: float, *, two: bool) -> tuple[Buy, ...]:
    """What the arms turn on."""
    if rig.ring:
        return (Buy(rig.ring.name, 1, rig.ring.price, "arms on the feet, the shaft through its middle"),)
    return (
        Buy(f"Flange bearing for a shaft of {across:.0f} mm", 2 if two else 1, 11.5, "the hub on the shaft"),
        Buy("Shaft collar", 2, 2.2, "below and above the bearings"),
    )
