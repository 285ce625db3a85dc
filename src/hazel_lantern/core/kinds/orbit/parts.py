"""Arms, riser, weights and hub of an orbit rig, laid out about its axis with what carries them."""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.orbit.design import HAND, TWO
from hazel_lantern.core.kinds.orbit.model import (
    ARM,
    ARM_HELD,
    CAMERA_WIDE,
    ENDS,
    FLOOR,
    HUB_MASS,
    HUB_THICK,
    PLATE,
    ROTOR,
    THICK,
    Orbit,
    bolts_apart,
    frames,
    packed,
    plate_out,
    sized,
)
from hazel_lantern.core.kinds.orbit.supports import carried_by
from hazel_lantern.core.kinds.shared.fixings import ANGLE, ANGLE_HOLE, ANGLE_SHEET, GRIP, camera_held
from hazel_lantern.core.kinds.shared.weighed import KIT
from hazel_lantern.core.mechanics.pins import CAMERA_THREADS
from hazel_lantern.core.workshop.fasteners import bolt, sawn
from hazel_lantern.core.workshop.fouls import TOUCHES
from hazel_lantern.core.workshop.laid import Pieces, lay
from hazel_lantern.core.workshop.marks import HOLE, LINE, Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part, ReadyMade
from hazel_lantern.core.workshop.solids import DOWN, SIDE, TOP, UP, Bar, Block, Place, Sheet, Vector

M6_HOLE = 0.0065
LAID = (-0.034, 0.016)  # metres from the camera's screw to the bolts of a plate that lies on its arm
HELD = 0.02  # metres from an arm's end to the first of the bolts that hold it
HUB = "Hub plate, 6 mm"
PIN_WIDE = 0.012
RODS = ((0.3, "300 mm", 3.6), (1.0, "1 m", 6.2), (2.0, "2 m", 10.4))  # up to that long [m], as sold, example price


# The shaft turns in its hub; weights slide on a pin through the arm, of which they lie above and below; bags lie over
# feet.
NESTED: tuple[tuple[str, str], ...] = (
    ("Hub", ""),
    ("Weight pin", ""),
    ("Weights", "Weight arm"),
    ("Ballast of the base", ""),
    (KIT, "Camera plate"),
    ("Post", "Upper pipe"),
)


def build(design: Design, kit: Carried) -> Orbit:
    """The mechanism with its pieces. Raises GeometryError where it does not fit together."""
    rig = sized(design, kit)
    return replace(rig, laid=lay(_pieces(design, kit, rig), frames(rig, np.zeros((1, 1)))))


def _round(rig: Orbit, x: float, y: float, z: float, along: Vector, up: Vector = UP) -> tuple[Place, ...]:
    """A place on the camera's side, once for each camera round the axis."""
    found = []
    for n in range(rig.cameras):
        cos, sin = math.cos(2 * math.pi * n / rig.cameras), math.sin(2 * math.pi * n / rig.cameras)

        def turned(v: Vector, cos: float = cos, sin: float = sin) -> Vector:
            return cos * v[0] - sin * v[1], sin * v[0] + cos * v[1], v[2]

        found.append(Place(ROTOR, turned((x, y, z)), turned(along), turned(up)))
    return tuple(found)


def _pieces(design: Design, kit: Carried, rig: Orbit) -> Pieces:
    catalogue, bolt = design.catalogue, CAMERA_THREADS[kit.stands_on]
    # Two bolts, one above the other, where there is a riser to bolt.
    apart = bolts_apart(rig.bar.depth) / 2
    risen = (rig.bar.depth / 2 - apart, rig.bar.depth / 2 + apart) if abs(rig.riser) > rig.bar.depth else ()
    held = [Mark(at, HOLE, 0.0065, note="hub bolt", face=TOP, fastening="hub bolt") for at in (HELD, HELD + ARM_HELD)]
    if rig.slides:
        held.append(Mark(rig.radius - rig.inner, LINE, note="lock here, both slides alike", face=TOP))
    rise = [
        Mark(rig.radius - rig.inner, HOLE, 0.0065, note="riser", across=off, face=SIDE, fastening="riser bolt")
        for off in risen
    ]
    laid = [
        Mark(rig.radius - rig.inner + x, HOLE, M6_HOLE, note="camera plate", face=TOP, fastening="plate bolt")
        for x in (() if risen else LAID)
    ]
    parts = [
        Part(
            "A1",
            ARM,
            Bar.of(catalogue, rig.bar.id, rig.radius + ENDS - rig.inner),
            _round(rig, rig.inner, 0.0, 0.0, (1.0, 0.0, 0.0)),
            tuple(sorted((*held, *rise, *laid), key=lambda mark: mark.at)),
            "hub's end",
            "its two hub bolts from one setting with the other arm",
        )
    ]
    if rig.cameras == 1:
        parts.append(
            Part(
                "A2",
                "Weight arm",
                Bar.of(catalogue, rig.bar.id, rig.rear + ENDS - rig.inner),
                (Place(ROTOR, (-rig.inner, 0.0, 0.0), (-1.0, 0.0, 0.0)),),
                (
                    *held[:2],
                    Mark(rig.rear - rig.inner, HOLE, 0.0125, note="weight pin", face=TOP, fastening="weight pin"),
                ),
                "hub's end",
                "",
            )
        )
    aside = rig.bar.width / 2 + packed(rig) + rig.rises.width / 2
    if risen:
        way = UP if rig.riser > 0 else DOWN
        foot = -math.copysign(rig.bar.depth / 2, rig.riser)
        # The plate lies on a riser, or under the end of one that hangs.
        tall = abs(rig.riser) + rig.bar.depth / 2 - (THICK if rig.riser > 0 else 0.0)
        parts.append(
            Part(
                "C1",
                "Riser",
                Bar.of(catalogue, rig.rises.id, tall),
                _round(rig, rig.radius, aside, foot, way, (-1.0, 0.0, 0.0)),
                (
                    *(Mark(off, HOLE, 0.0065, note="beam", face=SIDE, fastening="riser bolt") for off in risen),
                    Mark(tall - ANGLE_HOLE, HOLE, M6_HOLE, note="plate", face=TOP, fastening="riser angle"),
                ),
                "foot",
                "drill with the beam, square to it",
            )
        )
    half, out = PLATE / 2, plate_out(rig)
    # An angle on either side of the riser, its own bolt through both and one of each through the plate.
    beside = rig.rises.depth / 2 + ANGLE_HOLE
    angled = (
        [
            Mark(
                half + x,
                HOLE,
                M6_HOLE,
                note="angle of the riser",
                across=half + aside,
                face=TOP,
                fastening="plate angle",
            )
            for x in (-beside, beside)
        ]
        if risen
        else [Mark(half + x, HOLE, M6_HOLE, note="arm", across=half, face=TOP, fastening="plate bolt") for x in LAID]
    )
    parts.append(
        Part(
            "C2",
            "Camera plate",
            Sheet.rectangle(catalogue.materials["plywood"], THICK, PLATE, PLATE + out),
            _round(rig, rig.radius - half, out / 2, rig.riser - THICK / 2, (1.0, 0.0, 0.0)),
            tuple(
                sorted(
                    (
                        Mark(half, HOLE, bolt.hole, note="camera screw", across=half, face=TOP, fastening="camera"),
                        *angled,
                    ),
                    key=lambda mark: mark.at,
                )
            ),
            "one end",
            "",
        )
    )
    support = carried_by(design, rig)
    parts += support.parts
    things = (*_things(kit, rig), *support.things)
    return Pieces(
        tuple(parts),
        things,
        (*_fastenings(design, kit, rig), *support.fastenings),
        (*_hub(design, rig), *support.loose, *(buy for part in parts for buy in sawn(part))),
        NESTED,
    )


def _things(kit: Carried, rig: Orbit) -> tuple[ReadyMade, ...]:
    """Camera kits, weights and hub."""
    size = rig.weight_side
    side = -1.0 if rig.inward else 1.0
    at = [float(v) for v in rig.kit_at - (0.0, 0.0, rig.beam)]
    found = [
        ReadyMade(
            KIT,
            Block((0.14, CAMERA_WIDE, 0.1)),
            kit.payload.mass,
            "camera",
            _round(rig, at[0], at[1], at[2], (side, 0.0, 0.0)),
        )
    ]
    if rig.weights > 0:
        place = Place(ROTOR, (-rig.rear, 0.0, rig.weights_above))
        found.append(
            ReadyMade(
                "Weights", Block((size, size, size)), rig.weights, "weight", (place,), None, "with pin and collars"
            )
        )
        if rig.pin_high > rig.bar.depth:
            up = math.copysign(rig.pin_high / 2, rig.weights_above)
            found.append(
                ReadyMade(
                    "Weight pin",
                    Block((PIN_WIDE, PIN_WIDE, rig.pin_high)),
                    0.0,
                    "steel",
                    (Place(ROTOR, (-rig.rear, 0.0, up)),),
                )
            )
    under = rig.bar.depth / 2 + 0.01
    found.append(
        ReadyMade(
            "Hub",
            Block((0.12, 0.1, 0.02)),
            HUB_MASS,
            "steel",
            (Place(FLOOR, (0.0, 0.0, rig.beam + (under if rig.overhead else -under))),),
        )
    )
    return tuple(found)


def _fastenings(design: Design, kit: Carried, rig: Orbit) -> tuple[Fastening, ...]:
    row, apart = design.catalogue.bolts["M6"], packed(rig)
    stack = rig.bar.width + apart + rig.rises.width + 2 * row.washer_t
    hub_bolt = bolt(row, rig.bar.depth + HUB_THICK + 2 * row.washer_t, note="arms on the hub")
    riser_bolt = bolt(row, stack, note="riser to the beam")
    packing = (
        (Buy(f"Packing, {apart * 1e3:.0f} mm long, on the bolt", 1, 0.5, "between beam and riser"),) if apart else ()
    )
    # Through the arm, up to the weights and through them, with room for nuts.
    long = rig.bar.depth / 2 + rig.pin_high + rig.weight_side / 2 + 0.04
    size, price = next((size, price) for most, size, price in RODS if long <= most)
    return (
        Fastening("hub bolt", (hub_bolt,), reach=0.06),
        Fastening(
            "weight pin",
            (Buy(f"Threaded rod M12, {size}, with nuts and collars", 1, price, "weights, cut to what it must reach"),),
        ),
        Fastening("riser bolt", (riser_bolt, *packing), reach=0.2),
        *_plated(design, kit, rig),
    )


def _plated(design: Design, kit: Carried, rig: Orbit) -> tuple[Fastening, ...]:
    """What holds the camera to its plate, and that to its riser: an angle on either side."""
    camera = camera_held(kit).items
    if abs(rig.riser) <= rig.bar.depth:
        m6, gap = design.catalogue.bolts["M6"], max(0.0, between(rig))
        note = "camera plate to its arm; let the head of the camera screw into the plate first"
        packing = Buy(f"Packing {gap * 1e3:.1f} mm, drilled for M6", 1, 0.3, "between arm and camera plate")
        held = bolt(m6, THICK + gap + rig.bar.depth + 2 * m6.washer_t, note=note)
        return (
            Fastening("camera", camera, reach=0.02),
            Fastening("plate bolt", (held, *((packing,) if gap > TOUCHES else ())), reach=0.2),
        )
    row = design.catalogue.bolts["M6"]
    washers = 2 * row.washer_t
    through = bolt(
        row, rig.rises.depth + 2 * ANGLE_SHEET + washers, note="angles of the camera plate, through the riser"
    )
    down = bolt(row, THICK + ANGLE_SHEET + washers, note="angles of the camera plate")
    return (
        Fastening("camera", camera, reach=0.02),
        Fastening("riser angle", (through, Buy(ANGLE, 2, 0.9, "camera plate to its riser"))),
        Fastening("plate angle", (down,), reach=0.01),
    )


def between(rig: Orbit) -> float:
    """From the face of the arm that the camera's plate is bolted to, without a riser, to the plate; below nought where
    they are in one another [m].
    """
    return (rig.riser - THICK if rig.riser > 0 else -rig.riser) - rig.bar.depth / 2


def _hub(design: Design, rig: Orbit) -> tuple[Buy, ...]:
    """What the arms turn on."""
    holes = "four" if rig.cameras < 3 else f"{2 * rig.cameras}"
    found = [Buy(HUB, 1, 6.0, f"flat steel, a hole for the shaft and {holes} for the arms; printed only as a mock-up")]
    if rig.ring:
        found.append(
            Buy(
                rig.ring.name,
                1,
                rig.ring.price,
                "under a board, the arms below it"
                if rig.overhead
                else "arms on the feet, the shaft through its middle",
            )
        )
    else:
        two = design.text("hub.bearings") == TWO
        found += [
            Buy(
                f"Flange bearing for a shaft of {rig.shaft.width * 1e3:.0f} mm",
                2 if two else 1,
                11.5,
                "the hub on the shaft",
            ),
            Buy("Shaft collar", 2, 2.2, "below and above the bearings"),
        ]
    if rig.slides:
        found += [
            Buy(
                "Drawer slide with two screws M5",
                2 * (rig.cameras if rig.cameras > 1 else 2),
                7.5,
                "two to an arm, on its sides; draws out by half of its length",
            ),
            Buy("Clamp lever M6", rig.cameras if rig.cameras > 1 else 2, 3.4, "locks an arm; both at equal marks"),
        ]
    if design.number("brake.torque") > 0:
        found.append(Buy("Brake shoe with a lever, on the hub", 1, 8.0, "stops it, and keeps it where it is left"))
    if design.text("drive.by") == HAND:
        found.append(GRIP)
    if rig.overhead:
        found.append(
            Buy(
                "Safety cable with two rated links",
                rig.cameras,
                9.5,
                "camera to what carries the hub, through the shaft's middle, not to its screws",
            )
        )
    return tuple(found)
