"""The pieces of a cable cam, laid out on its rope: cheeks, board, the camera's post, what makes up its mass."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.cable_cam.design import SWINGS
from hazel_lantern.core.kinds.cable_cam.fittings import bought
from hazel_lantern.core.kinds.cable_cam.model import CARRIAGE, GROUND, Cable, frames, sized
from hazel_lantern.core.kinds.cable_cam.posts import LEG, POST, posts
from hazel_lantern.core.kinds.shared.drop_post import PLATFORM_NAME, DropPost, drop_post
from hazel_lantern.core.kinds.shared.fixings import ANGLE, ANGLE_HOLE, ANGLE_LEG, ANGLE_SHEET
from hazel_lantern.core.kinds.shared.weighed import KIT, REST
from hazel_lantern.core.workshop.fasteners import bolt
from hazel_lantern.core.workshop.laid import Pieces, lay
from hazel_lantern.core.workshop.marks import HOLE, Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part, ReadyMade
from hazel_lantern.core.workshop.solids import ALONG, TOP, Block, Place, Sheet

ROPE = "Rope"
THICK = 0.018  # metres of plywood
AXLE = 0.0085
BEYOND, ABOVE_AXLE = 0.06, 0.03  # metres of a cheek beyond its axles, and above them
UNDER_ROPE = 0.03  # metres from the rope to the carriage's board
BESIDE = 0.014  # metres from a rope's middle to the cheek beside it
BESIDE_CHEEK, EDGE = 0.043, 0.025  # metres of the board beside its outer cheeks, and round the post's screws
FROM_END, M5_HOLE = 0.03, 0.0055  # metres of the brackets from the ends of the cheeks


def build(design: Design, kit: Carried) -> Cable:
    """The mechanism with its pieces. Raises GeometryError where it does not fit together."""
    cable = sized(design, kit)
    carriage = _carriage(design, kit, cable)
    pieces = carriage + _rest(design, cable, carriage) + posts(design, cable) + Pieces(loose=bought(design, cable))
    return replace(cable, laid=lay(pieces, frames(cable, np.zeros((1, 1)))))


def _carriage(design: Design, kit: Carried, cable: Cable) -> Pieces:
    """Cheeks with the wheels between them, the rope under the wheels; a board across, the camera's post under it."""
    ply, wheel = design.catalogue.materials["plywood"], design.number("carriage.wheel")
    row = design.catalogue.bolts["M8"]
    post = drop_post(design, kit, CARRIAGE, -UNDER_ROPE - THICK, (0.0, 0.0, -cable.drop), cable.heading)
    feet = post.feet if post else ()
    long = max(cable.wheelbase + 2 * BEYOND, *(2 * (abs(x) + EDGE) for x, _ in feet))
    wide = max(cable.apart + 2 * (BESIDE + THICK + BESIDE_CHEEK), *(2 * (abs(y) + EDGE) for _, y in feet))
    high = wheel / 2 + ABOVE_AXLE
    standing = cheeks(cable)
    places = {
        held: tuple(
            Place(
                CARRIAGE,
                (-long / 2, cheek.y - cheek.away * THICK / 2, (high - UNDER_ROPE) / 2),
                ALONG,
                (0.0, -1.0, 0.0),
            )
            for cheek in standing
            if cheek.held == held
        )
        for held in (True, False)
    }
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
    brackets = tuple(long / 2 + side * (long / 2 - FROM_END) for side in (-1, 1))
    angled = tuple(
        Mark(at, HOLE, M5_HOLE, note="its bracket", across=ANGLE_HOLE, face=TOP, fastening="cheek bracket")
        for at in brackets
    )
    screws = [
        Mark(long / 2 + x, HOLE, M5_HOLE, note="post bracket", across=wide / 2 + y, face=TOP, fastening="post foot")
        for x, y in feet
    ]
    screws += [
        Mark(
            at,
            HOLE,
            M5_HOLE,
            note="bracket of a cheek",
            across=wide / 2 + cheek.y + cheek.away * ANGLE_HOLE,
            face=TOP,
            fastening="board bracket",
        )
        for at in brackets
        for cheek in standing
        if cheek.held
    ]
    sheet = Sheet.rectangle(ply, THICK, long, high + UNDER_ROPE)
    inner = Part("C3", "Inner cheek", sheet, places[False], axles, "one end", "all drilled together")
    parts = (
        Part(
            "C1",
            "Cheek",
            sheet,
            places[True],
            tuple(sorted((*axles, *angled), key=lambda mark: mark.at)),
            "one end",
            "all drilled together",
        ),
        *((inner,) if inner.places else ()),
        Part(
            "C2",
            "Board of the carriage",
            Sheet.rectangle(ply, THICK, long, wide),
            (Place(CARRIAGE, (-long / 2, 0.0, -UNDER_ROPE - THICK / 2)),),
            tuple(sorted(screws, key=lambda mark: (mark.at, mark.across or 0.0))),
            "one end",
            "",
        ),
    )
    runs = (
        Buy(f"Grooved wheel {wheel * 1e3:.0f} mm on ball bearings", 1, 7.5, "on top of the rope"),
        bolt(row, 2 * (BESIDE + THICK) + 2 * row.washer_t, " with lock nut, washers and spacers", "axle"),
        Buy("Keeper, 40 mm", 1, 0.8, "under the rope, so that it cannot leave the wheel"),
    )
    m5 = design.catalogue.bolts["M5"]
    small = bolt(m5, THICK + ANGLE_SHEET + 2 * m5.washer_t, note="brackets of the cheeks")
    loose = []
    if design.text("carriage.hang") == SWINGS:
        loose.append(Buy("Ball-bearing pivot with a locking pin", 1, 9.0, "between board and post"))
    through = (
        Fastening("axle", runs, reach=0.1),
        Fastening("cheek bracket", (small,), reach=0.01),
        Fastening("board bracket", (small, Buy(ANGLE, 1, 0.9, "cheeks to the board")), reach=0.01),
    )
    made = Pieces(parts, _kit(kit, cable), through, tuple(loose))
    return made + post.pieces if isinstance(post, DropPost) else made


class Cheek(Struct, frozen=True):
    """A cheek: where its face away from its rope lies to the left [m], which way that is, and whether there is room
    beside it for its brackets.
    """

    y: float
    away: int
    held: bool


def cheeks(cable: Cable) -> tuple[Cheek, ...]:
    """Two for each rope; of ropes too near one another the inner ones stand on their axles alone."""
    ropes, out = (0.0,) if cable.count == 1 else (-cable.apart / 2, cable.apart / 2), BESIDE + THICK
    roomy = cable.apart - 2 * out >= 2 * ANGLE_LEG
    return tuple(Cheek(y + side * out, side, roomy or y * side >= 0) for y in ropes for side in (-1, 1))


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
    nested = ((REST, ""), (ROPE, POST), (ROPE, LEG), (KIT, PLATFORM_NAME))
    return Pieces(things=(wheels, ropes), nested=nested)
