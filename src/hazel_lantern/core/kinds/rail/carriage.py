"""The carriage of a rail: its plate on wheels, casters or what slides, the camera on it, what locks it and what a hand
pushes it by.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from itertools import product

import numpy as np
from msgspec import Struct

from hazel_lantern.core.catalogue import Wheel
from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.rail.model import Carriage, Straight, turned
from hazel_lantern.core.kinds.rail.parts import CARRIAGE, ENDS, lanes
from hazel_lantern.core.kinds.shared.drop_post import PLATFORM_NAME
from hazel_lantern.core.kinds.shared.fixings import (
    AXLE_ROOM,
    GRIP,
    KNOB,
    LOCK,
    SMALL_BOLT,
    axle,
    bracket_axles,
    camera_held,
)
from hazel_lantern.core.kinds.shared.inputs import BY_LOCK
from hazel_lantern.core.kinds.shared.plates import BOARD, Wanted, plate
from hazel_lantern.core.kinds.shared.splices import ROUND
from hazel_lantern.core.kinds.shared.weighed import KIT, REST
from hazel_lantern.core.mechanics.pins import CAMERA_THREADS
from hazel_lantern.core.workshop.fasteners import sawn
from hazel_lantern.core.workshop.laid import Pieces
from hazel_lantern.core.workshop.part import Buy, Fastening, ReadyMade
from hazel_lantern.core.workshop.solids import ACROSS, ALONG, UP, Block, Place

PLATE, BATTEN = "Carriage plate", "Batten"
CLEAR_OF_RAIL = 0.008
BLOCK_SCREWS = 0.03  # metres from the middle of a shuttle to its screws on either side
BRACKET_SCREWS = 0.012  # metres from the middle of a wheel bracket to each of its two screws
CASTER_BOLTS = 0.018  # metres from the middle of a caster's plate to its four bolts, either way
HALF = math.sqrt(0.5)
NAMES = {1: "front", -1: "rear", 0: "middle"}
SHUTTLE = "shuttle"
ECCENTRIC = 0.0035  # metres that the hole of an eccentric is wider than its bolt
OTHER_LOCKS: dict[bool, tuple[str, int, float]] = {
    True: ("Clamp screw with a knob, through what slides", 1, 3.2),
    False: ("Brake on two wheels, with a pedal", 1, 9.0),
}
APART = 0.025  # metres between a knob's hole and the next
FASTENINGS = (
    Fastening("bracket", (Buy(SMALL_BOLT, 1, 0.35, "wheel brackets"),), reach=0.05),
    Fastening("caster bolt", (Buy(SMALL_BOLT, 1, 0.35, "casters"),), reach=0.01),
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
    Fastening("knob", (KNOB,)),
    Fastening("lock", (LOCK,)),
)

BRACKET = 0.03  # metres high of a wheel's bracket


class Runs(Struct, frozen=True):
    """What a carriage runs on: the plate's holes for it, its pieces, height of the plate's middle above the rail's
    top [m], least length and width of the plate [m].
    """

    holes: tuple[Wanted, ...]
    pieces: Pieces
    height: float
    least: tuple[float, float]


def on_wheels(design: Design, rail: Straight) -> Runs:
    """A carriage on its wheels, over the rail, or under it where the camera hangs.

    On one profile the wheels lie flat at its sides on upright axles through the plate. On tubes, rods and flats they
    stand in brackets under it: round ones in
    inclined pairs, grooved ones one by one. Brackets of a carriage that hangs reach round the rail, so that all its
    wheels still run on top.
    """
    wheel, deep, least = rail.wheel, rail.bar.depth, (rail.wheelbase + 2 * ENDS, 0.1)
    hanging, hung = rail.mount[2] < 0, -rail.bar.depth - CLEAR_OF_RAIL - BOARD / 2
    if rail.count > 1:
        hung -= BOARD  # its plate passes below the ties

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
        return _flat_wheels(design, rail, wheels, hung if hanging else CLEAR_OF_RAIL + BOARD / 2, least, lone=lone)
    if wheel.shape == "caster":
        return _casters(rail, wheels, least)
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
    reaches = wheel.d / 2
    if wheel.shape == "grooved":
        placed, name = [Place(CARRIAGE, (x, y, wheel.d / 2), ACROSS) for x, y in spots], "Bracket for a wheel"
    else:
        # A rod is met at its own radius from its middle; a flat at its upper edges.
        sin, cos = math.sin(rail.leans), math.cos(rail.leans)
        if rail.bar.shape in ROUND:
            shift = rail.tread_middle - deep / 2 * math.tan(rail.leans)
            out = (deep + wheel.d) / 2 * sin + shift * cos
            high = (deep + wheel.d) / 2 * cos - shift * sin - deep / 2
        else:
            out, high = rail.bar.width / 2 + wheel.d / 2 * sin, wheel.d / 2 * cos
        placed = [
            Place(CARRIAGE, (x, y + side * out, high), (0.0, cos, -side * sin), (0.0, side * sin, cos))
            for x, y in spots
            for side in (1.0, -1.0)
        ]
        name = "Bracket for an inclined pair of wheels"
        reaches = max(reaches, wheel.d / 2 * cos + wheel.width / 2 * sin)  # the edge of a wide one stands highest
    top = max(place.at[2] for place in placed) + reaches
    note = f"printed or bent from flat{', reaching round the rail' if hanging else ''}"
    height = hung if hanging else top + 0.002 + BOARD / 2
    # Below the plate where it lies over the rail, from the axles up where it hangs.
    middle = (top + height) / 2 if hanging else height - BOARD / 2 - BRACKET / 2
    bracket = ReadyMade(
        name,
        Block((0.05, 0.04, BRACKET)),
        0.03,
        "steel",
        tuple(Place(CARRIAGE, (x, y, middle)) for x, y in spots),
        2.6,
        note,
    )
    axles = bracket_axles(design.catalogue, wheel, len(placed))
    return Runs(
        tuple(holes), Pieces(things=(wheels(placed), bracket), loose=(axles,), nested=((name, ""),)), height, least
    )


def _flat_wheels(
    design: Design,
    rail: Straight,
    wheels: Callable[[list[Place]], ReadyMade],
    height: float,
    least: tuple[float, float],
    *,
    lone: bool,
) -> Runs:
    """Wheels that lie flat at the sides of one profile, on upright axles with spacer tubes below the plate."""
    wheel, off = rail.wheel, CLEAR_OF_RAIL + rail.bar.depth / 2
    held = axle(design.catalogue, wheel, off)
    bolt = held.bought(BOARD + off + wheel.width / 2)
    bore = held.row.d * 1e3
    tube = Buy(f"Spacer tube, bore {bore:g} mm, {(off - wheel.width / 2) * 1e3:.0f} mm", 1, 0.7, "plate to wheel")
    turns = Buy(f"Eccentric spacer, bore {bore:g} mm", 1, 1.2, "turn it to nip the third wheel up")
    holes = []
    for x, y in rail.wheels:
        third = lone and x == 0
        note = "eccentric, the third wheel" if third else f"{NAMES[int(np.sign(x))]} axle"
        size = held.row.d + (ECCENTRIC if third else AXLE_ROOM)
        holes.append(Wanted(float(x), float(y), size, note, "eccentric axle" if third else "axle"))
    flats = wheels([Place(CARRIAGE, (hole.x, hole.y, -rail.bar.depth / 2), UP, ALONG) for hole in holes])
    through = (Fastening("axle", (bolt, tube)), Fastening("eccentric axle", (bolt, tube, turns)))
    return Runs(tuple(holes), Pieces(things=(flats,), fastenings=through), height, least)


def _casters(rail: Straight, wheels: Callable[[list[Place]], ReadyMade], least: tuple[float, float]) -> Runs:
    """A caster at each corner, on top of its rail, four bolts through its plate."""
    holes = tuple(
        Wanted(float(x) + a, float(y) + b, 0.0055, f"{NAMES[int(np.sign(x))]} caster", "caster bolt")
        for x, y in rail.wheels
        for a in (CASTER_BOLTS, -CASTER_BOLTS)
        for b in (CASTER_BOLTS, -CASTER_BOLTS)
    )
    placed = [Place(CARRIAGE, (float(x), float(y), rail.wheel.d / 2), ACROSS) for x, y in rail.wheels]
    return Runs(holes, Pieces(things=(wheels(placed),)), caster_height(rail.wheel) + BOARD / 2, least)


def caster_height(wheel: Wheel) -> float:
    """From what a caster rolls on to the plate that it is bolted to [m]."""
    return wheel.d + max(0.012, 0.3 * wheel.d)


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
    pushed: bool = False,
) -> Pieces:
    """The plate with all its holes, what it runs on, the camera kit, and a head that makes up what the carriage is
    said to weigh.

    `more` hangs below the plate by the holes `feet`; where there are none the camera or its head is screwed to the
    plate, which may be `trimmed` to its holes; one that is `pushed` by hand has a knob.
    """
    holes, z = [*runs.holes, *feet], runs.height
    mount_x, mount_y, mount_z = (float(v) for v in rail.mount)
    if not feet:
        holes.append(Wanted(mount_x, mount_y, CAMERA_THREADS[kit.stands_on].hole, "camera or head screw", "camera"))
        more = more + Pieces(fastenings=(camera_held(kit),))
    more = more + Pieces(loose=_held_in_place(design, rail, holes, pushed=pushed))
    part = plate(design, "P1", PLATE, holes, runs.least, CARRIAGE, z, trimmed=trimmed)
    made = Pieces((part,), (), FASTENINGS, sawn(part)) + runs.pieces + more
    return made + borne(
        design, kit, rail, made, Place(CARRIAGE, (mount_x, mount_y, mount_z if feet else (mount_z + z) / 2))
    )


def _held_in_place(design: Design, rail: Carriage, holes: list[Wanted], *, pushed: bool) -> tuple[Buy, ...]:
    """A lock where one keeps it, a knob where a hand pushes: their holes are added to the plate's where there is room;
    what has none is bought.
    """
    bought, half, lane = [], rail.wheelbase / 2, rail.spacing / 2
    if design.text("place.kept") == BY_LOCK:
        over = ((0.0, lane), (half / 2, lane), (-half / 2, lane)) if lane else ((-half / 2, 0.0), (half / 2, 0.0))
        at = _free(over, holes) if isinstance(rail, Straight) and rail.carrier != SHUTTLE else None
        if at:
            holes.append(Wanted(*at, 0.0085, "lock", "lock"))
        else:
            bought.append(Buy(*OTHER_LOCKS[isinstance(rail, Straight)], "keeps it where it is left"))
    if pushed:
        aside = float(rail.wheels[0, 1])
        at = _free(((-half, 0.0), (half, 0.0), (-half, -aside), (0.0, aside / 2)), holes)
        if at:
            holes.append(Wanted(*at, 0.0065, "push knob", "knob"))
        else:
            bought.append(GRIP)
    return tuple(bought)


def _free(places: tuple[tuple[float, float], ...], holes: list[Wanted]) -> tuple[float, float] | None:
    """The first of some places that no other hole comes near."""
    return next((at for at in places if all(math.dist(at, (hole.x, hole.y)) >= APART for hole in holes)), None)


def borne(design: Design, kit: Carried, rail: Carriage, made: Pieces, at: Place) -> Pieces:
    """The camera kit on its mount, and a head `at` a place that makes up what the carriage is said to weigh."""
    listed, said = sum(piece.mass for piece in made.each() if piece.body == CARRIAGE), design.number("carriage.mass")
    head = ReadyMade(REST, Block((0.08, 0.08, 0.03)), max(0.0, said - listed), "steel", (at,))
    cg = rail.mount + turned(kit.payload.cg, rail.heading)
    looks = Place(
        CARRIAGE, (float(cg[0]), float(cg[1]), float(cg[2])), (math.cos(rail.heading), math.sin(rail.heading), 0.0)
    )
    camera = ReadyMade(KIT, Block((0.14, 0.1, 0.1)), kit.payload.mass, "camera", (looks,))
    return Pieces(things=(head, camera), nested=((REST, ""), (KIT, PLATFORM_NAME)))
