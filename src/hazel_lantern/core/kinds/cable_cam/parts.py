"""The pieces of a cable cam, laid out on its rope and on the ground: carriage, posts and their plates."""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.cable_cam.design import FRAME, POSTS, SWINGS
from hazel_lantern.core.kinds.cable_cam.fittings import bought
from hazel_lantern.core.kinds.cable_cam.model import CARRIAGE, GROUND, Cable, frames, sized
from hazel_lantern.core.kinds.shared.drop_post import PLATFORM_NAME, DropPost, drop_post
from hazel_lantern.core.kinds.shared.weighed import KIT, REST
from hazel_lantern.core.workshop.fasteners import bolt
from hazel_lantern.core.workshop.laid import Pieces, lay
from hazel_lantern.core.workshop.marks import HOLE, LINE, Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part, ReadyMade
from hazel_lantern.core.workshop.solids import ALONG, SIDE, TOP, Bar, Block, Place, Sheet

ROPE = "Rope"
THICK = 0.018  # metres of plywood
AXLE = 0.0085
BEYOND, ABOVE_AXLE = 0.06, 0.03  # metres of a cheek beyond its axles, and above them
UNDER_ROPE = 0.03  # metres from the rope to the carriage's board
BESIDE = 0.014  # metres from a rope's middle to the cheek beside it
BOARD_WIDE, EDGE = 0.09, 0.025  # metres of the board at the least, of it round the post's screws
ABOVE_ROPE = 0.08  # metres of a post above where the rope leaves it
Leg = tuple[float, float, Place]  # length, how far up the rope leaves it [m], where it stands


def build(design: Design, kit: Carried) -> Cable:
    """The mechanism with its pieces. Raises GeometryError where it does not fit together."""
    cable = sized(design, kit)
    carriage = _carriage(design, kit, cable)
    pieces = carriage + _rest(design, cable, carriage) + _posts(design, cable) + Pieces(loose=bought(design, cable))
    return replace(cable, laid=lay(pieces, frames(cable, np.zeros((1, 1)))))


def _carriage(design: Design, kit: Carried, cable: Cable) -> Pieces:
    """Cheeks with the wheels between them, the rope under the wheels; a board across, the camera's post under it."""
    ply, wheel = design.catalogue.materials["plywood"], design.number("carriage.wheel")
    row = design.catalogue.bolts["M8"]
    post = drop_post(design, kit, CARRIAGE, -UNDER_ROPE - THICK, (0.0, 0.0, -cable.drop), cable.heading)
    feet = post.feet if post else ()
    long = max(cable.wheelbase + 2 * BEYOND, *(2 * (abs(x) + EDGE) for x, _ in feet))
    wide = max(BOARD_WIDE + cable.apart, *(2 * (abs(y) + EDGE) for _, y in feet))
    high = wheel / 2 + ABOVE_AXLE
    ropes = (0.0,) if cable.count == 1 else (-cable.apart / 2, cable.apart / 2)
    cheeks = tuple(
        Place(CARRIAGE, (-long / 2, y + side * (BESIDE + THICK / 2), (high - UNDER_ROPE) / 2), ALONG, (0.0, -1.0, 0.0))
        for y in ropes
        for side in (-1, 1)
    )
    axles = tuple(
        Mark(
            long / 2 + side * cable.wheelbase / 2,
            HOLE,
            AXLE,
            note="wheel axle",
            across=UNDER_ROPE + wheel / 2,
            face=TOP,
            fastening="axle",
        )
        for side in (-1, 1)
    )
    screws = sorted(
        (
            Mark(long / 2 + x, HOLE, 0.0055, note="post bracket", across=wide / 2 + y, face=TOP, fastening="post foot")
            for x, y in feet
        ),
        key=lambda mark: mark.at,
    )
    parts = (
        Part(
            "C1",
            "Cheek",
            Sheet.rectangle(ply, THICK, long, high + UNDER_ROPE),
            cheeks,
            axles,
            "one end",
            "all drilled together",
        ),
        Part(
            "C2",
            "Board of the carriage",
            Sheet.rectangle(ply, THICK, long, wide),
            (Place(CARRIAGE, (-long / 2, 0.0, -UNDER_ROPE - THICK / 2)),),
            tuple(screws),
            "one end",
            "",
        ),
    )
    runs = (
        Buy(f"Grooved wheel {wheel * 1e3:.0f} mm on ball bearings", 1, 7.5, "on top of the rope"),
        bolt(row, 2 * (BESIDE + THICK) + 2 * row.washer_t, " with lock nut, washers and spacers", "axle"),
        Buy("Keeper, 40 mm", 1, 0.8, "under the rope, so that it cannot leave the wheel"),
    )
    loose = [Buy("Angle bracket 60 mm", 4 * len(ropes), 1.2, "cheeks to the board")]
    if design.text("carriage.hang") == SWINGS:
        loose.append(Buy("Ball-bearing pivot with a locking pin", 1, 9.0, "between board and post"))
    made = Pieces(parts, _kit(kit, cable), (Fastening("axle", runs, reach=0.1),), tuple(loose))
    return made + post.pieces if isinstance(post, DropPost) else made


def _kit(kit: Carried, cable: Cable) -> tuple[ReadyMade, ...]:
    cos, sin = math.cos(cable.heading), math.sin(cable.heading)
    x, y, z = (float(v) for v in kit.payload.cg)
    at = (cos * x - sin * y, sin * x + cos * y, z - cable.drop)
    return (
        ReadyMade(KIT, Block((0.14, 0.1, 0.1)), kit.payload.mass, "camera", (Place(CARRIAGE, at, (cos, sin, 0.0)),)),
    )


def _rest(design: Design, cable: Cable, made: Pieces) -> Pieces:
    """What makes up the mass that was entered for the carriage, and the ropes from end to end."""
    listed = sum(piece.mass for piece in made.each() if piece.body == CARRIAGE and piece.name != KIT)
    wheels = ReadyMade(
        REST,
        Block((0.1, 0.06, 0.05)),
        max(0.0, design.number("carriage.mass") - listed),
        "steel",
        (Place(CARRIAGE, (-0.05, 0.0, 0.0)),),
    )
    cos, sin = cable.span / cable.chord, cable.rise / cable.chord
    places = tuple(
        Place(GROUND, (0.0, y, (cable.ends[0] + cable.ends[1]) / 2), (cos, 0.0, sin), (-sin, 0.0, cos))
        for y in ((0.0,) if cable.count == 1 else (-cable.apart / 2, cable.apart / 2))
    )
    ropes = ReadyMade(
        ROPE, Block((cable.chord, cable.stock.d, cable.stock.d), True), cable.length * cable.stock.mass, "rope", places
    )
    nested = ((REST, ""), (ROPE, "Post"), (KIT, PLATFORM_NAME))
    return Pieces(things=(wheels, ropes), nested=nested)


def _posts(design: Design, cable: Cable) -> Pieces:
    """Posts, the two legs of a frame leaning together where the rope leaves them; posts alike are one part."""
    legs = [leg for k, end in enumerate("ab") for leg in _legs(design, cable, k, end)]
    parts: list[Part] = []
    for long, rope_at, place in legs:
        same = next((part for part in parts if abs(part.length - long) < 1e-9), None)
        if same is not None:
            parts[parts.index(same)] = replace(same, places=(*same.places, place))
            continue
        marks = (
            Mark(rope_at, LINE, note="the rope leaves here", face=SIDE),
            Mark(rope_at + ABOVE_ROPE / 2, LINE, note="guys lie round it here", face=SIDE),
        )
        bar = Bar.of(design.catalogue, design.text("post.section"), long)
        parts.append(
            Part(f"P{len(parts) + 3}", "Post" if not place.along[1] else "Leg of a frame", bar, (place,), marks, "foot")
        )
    if legs:
        plate = design.number("post.plate")
        plates = tuple(Place(GROUND, (place.at[0] - plate / 2, place.at[1], THICK / 2)) for *_, place in legs)
        ply = design.catalogue.materials["plywood"]
        parts.append(Part("P9", "Plate under a post", Sheet.rectangle(ply, THICK, plate, plate), plates, (), "one end"))
    return Pieces(tuple(parts))


def _legs(design: Design, cable: Cable, k: int, end: str) -> list[Leg]:
    kind, high, x = design.text(f"anchor.{end}"), cable.ends[k] - THICK, (-0.5, 0.5)[k] * cable.span
    if kind not in POSTS:
        return []
    half = design.number("frame.spread") / 2 if kind == FRAME else 0.0
    lean = math.atan2(half, high)
    cos, sin = math.cos(lean), math.sin(lean)
    return [
        (
            (high + ABOVE_ROPE) / cos,
            high / cos,
            Place(GROUND, (x, side * half, THICK), (0.0, -side * sin, cos), (1.0, 0.0, 0.0)),
        )
        for side in ((-1.0, 1.0) if half else (0.0,))
    ]
