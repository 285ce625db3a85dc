"""The deck of a dolly, or the frame in its place, and all that stands on it, as parts and masses."""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.catalogue import Stand, Wheel
from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.dolly.bracket import bracketed
from hazel_lantern.core.kinds.dolly.inputs import (
    FOUR,
    FRAME,
    NOBODY,
    NONE,
    ON_FLOOR,
    SITS,
    STANDS,
    STRAPPED,
    THREE,
    TRIPOD,
    TRUCKS,
)
from hazel_lantern.core.kinds.rail.carriage import (
    BATTEN,
    BRACKET_SCREWS,
    FASTENINGS,
    PLATE,
    Runs,
    borne,
    carriage,
    caster_height,
    on_wheels,
)
from hazel_lantern.core.kinds.rail.model import Borne, Carriage, Straight
from hazel_lantern.core.kinds.rail.parts import CARRIAGE, ENDS
from hazel_lantern.core.kinds.shared.fixings import SMALL_BOLT, axle
from hazel_lantern.core.kinds.shared.plates import BOARD, Wanted, plate
from hazel_lantern.core.workshop.fasteners import bolt, sawn
from hazel_lantern.core.workshop.laid import Pieces
from hazel_lantern.core.workshop.marks import HOLE, Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part, ReadyMade
from hazel_lantern.core.workshop.solids import ACROSS, SIDE, TOP, UP, Bar, Block, Place

LOAD = "load"  # what stands on the deck: it moves with it and is not part of it
RIDER = "Person aboard"
BAG = 0.16  # metres of a ballast bag's height
FORK, TRUCK = 0.012, 0.055  # metres from a fixed wheel to the deck; from a truck's axle to the deck
CLEAR = 0.005  # metres from a wheel to the deck over it
RIDES = {SITS: 0.45, STANDS: 0.95}  # metres from the deck to the centre of who rides, dynamics 6.1
REACHES = 0.2  # metres that who rides leans out, workshop judgement
SCREWS_APART = 0.2  # metres between the screws of a batten, at most
BESIDE = 0.05  # metres from a foot cup to the middle of the frame's pipe
TROLLEY = (0.14, 0.16)  # metres of a trolley's board along and across the travel
U_BOLT, GUSSET = 0.0065, 0.2  # metres of its holes, of the board over the frame's joint
BRACE, FOOT = 0.45, 0.35  # share of the handle's height that braces hold it at; metres from it to their feet
FORK_ROOM, FORK_PLATE = 0.02, 0.003  # metres beside a wheel in its fork, both sides together; thickness of a side
END = 0.02  # metres from a pipe's end to a bolt in it
HANDLE, HANDLE_APART = "galv-round-26.9x2.6", 0.36  # metres between its uprights, at most


def deck_top(design: Design, pipe: float, rolls: Wheel) -> float:
    """The deck's upper face above pipes or floor [m]."""
    wheel = rolls.d
    if design.variant in ON_FLOOR:
        if rolls.shape == "caster" and design.variant != TRUCKS:
            return caster_height(rolls) + BOARD
        under = wheel + FORK if design.variant != TRUCKS else max(wheel / 2 + TRUCK, wheel + CLEAR)
        return under + BOARD
    # Over the wheels, which lean against a pipe at 45 degrees; the edge of a wide one stands highest.
    up = (pipe + wheel) / 2 * math.sqrt(0.5) - pipe / 2
    return up + max(wheel / 2, (wheel + rolls.width) / 2 * math.sqrt(0.5)) + 0.002 + BOARD


def feet(design: Design, gauge: float) -> np.ndarray:
    """A tripod's feet from its middle (3, 2) [m]: one ahead, or one over each corner where there are three."""
    lone = design.variant in (THREE, FRAME)
    radius = 2 * gauge / 3 if design.variant == FRAME else design.number("stand.radius")
    around = 2 * math.pi * np.arange(3) / 3 + (-math.pi / 2 if lone else 0.0)
    return radius * np.column_stack([np.cos(around), np.sin(around)])


def bears(design: Design, stand: Stand, top: float, middle: tuple[float, float], base: float) -> tuple[Borne, ...]:
    """What a deck bears beside the kit: itself with its handle, ballast, who rides, a tripod."""
    number, x, y = design.number, *middle
    mount = np.array([number("camera.ahead") + x, number("camera.aside") + y, number("camera.rise")])
    handle = min(_handle_mass(design), number("carriage.mass"))
    found = [
        Borne(number("carriage.mass") - handle, np.array([x, y, top - BOARD / 2])),
        Borne(handle, np.array([x - base / 2, y, top + 0.6 * number("handle.height")])),
        Borne(number("ballast.mass"), np.array([x, y, top + BAG / 2])),
    ]
    if rides(design):
        found.append(Borne(number("rider.mass"), np.array([x, y, top + RIDES[design.text("rider")]])))
    if design.text("camera.on") == TRIPOD:
        high = top + stand.cg_height * (mount[2] - top)
        found.append(Borne(stand.mass, np.array([mount[0], mount[1], high]), 1.0))
    return tuple(one for one in found if one.mass > 0)


def rides(design: Design) -> bool:
    """Whether a person is to ride."""
    return design.text("rider") != NOBODY


def _handle_mass(design: Design) -> float:
    high = design.number("handle.height")
    if high <= 0:
        return 0.0
    bar = design.catalogue.sections[HANDLE]
    return bar.line(design.catalogue.materials[bar.material]) * _handle_length(high)


def _handle_length(high: float) -> float:
    up = BRACE * high
    return 2 * high + HANDLE_APART + 2 * math.hypot(up, FOOT)


def pieces(design: Design, kit: Carried, way: Carriage, stand: Stand, cups_at: np.ndarray, top: float) -> Pieces:
    """The deck on its wheels or the frame on its trolleys, what keeps a tripod, the tripod and the ballast."""
    mount, number = way.mount, design.number
    cup = Fastening("foot cup", (Buy("Foot cup with bolt M6×40", 1, 2.2, "keeps a tripod's foot"),))
    cups = tuple(Wanted(float(mount[0] + x), float(mount[1] + y), 0.0065, "foot cup", "foot cup") for x, y in cups_at)
    if design.variant == FRAME and isinstance(way, Straight):
        made = _frame(design, kit, way, cups, top) + Pieces(fastenings=(cup,))
    else:
        runs = (
            bracketed(design, way, on_wheels(design, way)) if isinstance(way, Straight) else _on_floor(design, way, top)
        )
        more = Pieces((), (), (cup,) if cups else ()) + _battens(design, way, runs) + _handle(design, way, top)
        made = carriage(design, kit, way, runs, more, cups, trimmed=way.lone)
    middle = (float(way.middle[0]), float(way.middle[1]))
    things: list[ReadyMade] = []
    if len(cups_at):
        at = Place(LOAD, (float(mount[0]), float(mount[1]), top + stand.cg_height * (float(mount[2]) - top)))
        things.append(ReadyMade(stand.name, Block((0.05, 0.05, 0.05)), stand.mass, "steel", (at,), stand.price or None))
    bag, strapped = number("ballast.mass"), len(cups_at) and design.text("stand.held") == STRAPPED
    if bag > 0:
        at = Place(LOAD, (*middle, top + BAG / 2))
        how = "hung from the tripod, down between its legs" if design.variant == FRAME else "strapped down"
        things.append(ReadyMade("Ballast", Block((0.3, 0.3, BAG)), bag, "weight", (at,), None, how))
    if rides(design):
        at = Place(LOAD, (*middle, top + RIDES[design.text("rider")]))
        things.append(ReadyMade(RIDER, Block((0.3, 0.4, 0.5)), number("rider.mass"), "person", (at,)))
    loose = (
        Buy("Ratchet strap, narrow", 1 if bag > 0 else 0, 3.5, "holds the ballast down"),
        Buy("Lashing strap with buckle", 1 if strapped else 0, 2.9, "tripod to deck"),
        Buy("Wheel chock", 2, 2.0, "before anybody lets go"),
    )
    return made + Pieces(
        things=tuple(things), loose=tuple(one for one in loose if one.quantity), nested=(("Ballast", ""), (RIDER, ""))
    )


def _on_floor(design: Design, way: Carriage, top: float) -> Runs:
    """Fixed wheels in forks under the corners, or a truck with two of them at either end."""
    wheel, trucks = way.wheel, design.variant == TRUCKS
    casters, called = wheel.shape == "caster", "truck" if trucks else "caster" if wheel.shape == "caster" else "fork"
    places = tuple(Place(CARRIAGE, (float(x), float(y), wheel.d / 2), ACROSS) for x, y in way.wheels)
    wheels = ReadyMade(
        wheel.name,
        Block((wheel.width, wheel.d, wheel.d), True),
        wheel.mass,
        "plastic",
        places,
        wheel.price,
        wheel.words,
    )
    under, half = top - BOARD, way.wheelbase / 2
    if trucks:
        spots, off, name = [(half, 0.0), (-half, 0.0)], 0.027, "Skate truck with its cushions"
        size = Block((way.spacing - wheel.width, 0.05, 0.04))
        held = ReadyMade(
            name,
            size,
            0.38,
            "steel",
            tuple(Place(CARRIAGE, (x, 0.0, wheel.d / 2 + 0.01), ACROSS) for x, _ in spots),
            14.0,
        )
    else:
        spots, off, name = [(float(x), float(y)) for x, y in way.wheels], 0.04, "Fixed wheel fork with plate"
        high = max(0.02, under - wheel.d / 2)
        held = ReadyMade(
            name,
            Block((0.06, way.wheel.width + FORK_ROOM, high)),
            0.25,
            "steel",
            tuple(Place(CARRIAGE, (x, y, under - high / 2)) for x, y in spots),
            4.2,
            "to the wheel's width",
        )
    side = 0.02 if trucks else 0.03
    where = {True: "front", False: "rear"}
    holes = tuple(
        Wanted(x + along * off, y + across * side, 0.0055, f"{where[x > 0]} {called}", "fork bolt")
        for x, y in spots
        for along in (1, -1)
        for across in (1, -1)
    )
    held_in = wheel.width + FORK_ROOM + 2 * FORK_PLATE
    loose = () if casters else (axle(design.catalogue, wheel).bought(held_in, len(places)),)
    bolts = Fastening("fork bolt", (Buy(SMALL_BOLT, 1, 0.35, "wheels to the deck"),))
    return Runs(
        holes,
        Pieces(
            (), (wheels, *(() if casters else (held,))), (bolts,), loose, () if casters else ((held.name, wheel.name),)
        ),
        under + BOARD / 2,
        (way.wheelbase + 2 * ENDS, max(0.2, 0.9 * way.spacing) if trucks else 0.1),
    )


def _battens(design: Design, way: Carriage, runs: Runs) -> Pieces:
    """Battens on edge under the deck: along it, between one across it beside the wheels at either end."""
    if design.text("deck.ribs") == NONE:
        return Pieces()
    board = design.row("sections", "deck.rib")
    count, wide = (4 if design.text("deck.ribs") == FOUR else 2), way.spacing
    down = runs.height - BOARD / 2 - board.depth / 2
    out = way.wheelbase / 2 - way.wheel.d / 2 - 0.03 - board.width / 2
    long = 2 * out - board.width
    places = np.linspace(-0.3, 0.3, count) * wide
    along = _batten(
        design, "B1", f"{BATTEN}, along", long, tuple(Place(CARRIAGE, (-long / 2, float(y), down)) for y in places)
    )
    across = _batten(
        design,
        "B2",
        f"{BATTEN}, across",
        wide,
        tuple(Place(CARRIAGE, (x, -wide / 2, down), ACROSS) for x in (out, -out)),
    )
    screw = Fastening(
        "batten screw", (Buy("Countersunk screw 4×40", 1, 0.05, "through the deck into its battens, with glue"),)
    )
    return Pieces((along, across), (), (screw,))


def _batten(design: Design, mark: str, name: str, long: float, places: tuple[Place, ...]) -> Part:
    count = max(2, math.ceil((long - 0.08) / SCREWS_APART) + 1)
    holes = tuple(
        Mark(float(at), HOLE, 0.003, note="screw, from above", face=TOP, fastening="batten screw")
        for at in np.linspace(0.04, long - 0.04, count)
    )
    solid = Bar.of(design.catalogue, design.text("deck.rib"), long)
    return Part(mark, name, solid, places, holes, "one end", "glue and screw it to the deck")


def _handle(design: Design, way: Carriage, top: float) -> Pieces:
    """Two uprights at the rear with a bar across, each braced to the deck."""
    high = design.number("handle.height")
    if high <= 0:
        return Pieces()
    catalogue, stock = design.catalogue, design.catalogue.sections[HANDLE]
    x, apart = -way.wheelbase / 2, min(HANDLE_APART, way.spacing / 2)
    middle = float(way.middle[1])
    sides = ((middle + apart / 2, 1.0), (middle - apart / 2, -1.0))
    # The bar lies behind its uprights, held to each by a clip.
    up, wide, bar_wide = BRACE * high, stock.width, stock.width
    brace = math.hypot(up, FOOT)
    lean = (FOOT / brace, 0.0, -up / brace)
    # A brace lies beside its upright, inside, one bolt through both.
    tops = [
        Place(
            CARRIAGE,
            (x - END * lean[0], y - side * wide, top + up - END * lean[2]),
            lean,
            (up / brace, 0.0, FOOT / brace),
        )
        for y, side in sides
    ]

    def bolted(at: float, note: str, through: str) -> Mark:
        return Mark(at, HOLE, 0.0065, note=note, face=SIDE, fastening=through)

    parts = (
        Part(
            "H1",
            "Handle upright",
            Bar.of(catalogue, HANDLE, high),
            tuple(Place(CARRIAGE, (x, y, top), UP, (-1.0, 0.0, 0.0)) for y, _ in sides),
            (bolted(END, "foot bracket", "handle foot"), bolted(up, "brace", "handle brace")),
            "lower end",
            "drill the pair together",
        ),
        Part(
            "H2",
            "Handle bar",
            Bar.of(catalogue, HANDLE, apart + 0.12),
            (Place(CARRIAGE, (x - bar_wide, middle - apart / 2 - 0.06, top + high - bar_wide / 2), ACROSS),),
            tuple(bolted(at, "clip", "handle clip") for at in (0.06, apart + 0.06)),
            "one end",
        ),
        Part(
            "H3",
            "Handle brace",
            Bar.of(catalogue, HANDLE, brace),
            tuple(tops),
            (bolted(END, "upright", "handle brace"), bolted(brace - END, "foot bracket", "brace foot")),
            "upper end",
            "drill the pair together",
        ),
    )
    row = catalogue.bolts["M6"]
    one, two = (bolt(row, n * wide + 2 * row.washer_t, note="handle") for n in (1, 2))
    foot, bracket = (
        replace(one, note="handle, with the bracket"),
        Buy("Pipe foot bracket with four screws 6×18", 1, 2.4, "handle to the deck"),
    )
    held = (
        Fastening("handle foot", (foot, bracket), reach=2 * wide),
        Fastening("brace foot", (foot, bracket), reach=2 * wide),
        Fastening("handle brace", (two,), reach=3 * wide),
        Fastening("handle clip", (Buy("Pipe clip with bolt M6", 1, 1.3, "bar to its uprights"),)),
    )
    return Pieces(parts, (), held, nested=(("Handle brace", PLATE),))  # its foot is sawn to lie on the deck


def _frame(design: Design, kit: Carried, way: Straight, cups: tuple[Wanted, ...], top: float) -> Pieces:
    """A pipe over both trolleys of one side, one square to it to the third, boards on wheel pairs under the feet."""
    stock, catalogue = design.row("sections", "frame.section"), design.catalogue
    runs = bracketed(design, way, on_wheels(design, way))
    half, lane, lies = way.wheelbase / 2, way.spacing / 2, top + stock.depth / 2
    inside = lane - BESIDE
    saddle = stock.depth / 2 + U_BOLT / 2
    boards = []
    for k, (x, y) in enumerate(way.wheels):
        cup = min(cups, key=lambda one: math.dist((one.x, one.y), (x, y)))
        bracket = [
            Wanted(float(x) + off, float(y), 0.0055, "bracket", "bracket") for off in (BRACKET_SCREWS, -BRACKET_SCREWS)
        ]
        # The left pair carries a pipe along the travel, the single one the end of the pipe across.
        saddles = (
            [leg for a in (-0.05, 0.05) for leg in _grip(float(x) + a, inside, saddle)]
            if y > 0
            else [leg for b in (0.04, 0.07) for leg in _grip(float(x), float(y) + b, saddle, across=True)]
        )
        boards.append(
            plate(
                design,
                f"P{k + 1}",
                "Trolley board",
                [cup, *bracket, *saddles],
                (0.0, 0.0),
                CARRIAGE,
                top - BOARD / 2,
                around=(float(x), float(y)),
            )
        )
    along = Part(
        "F1",
        "Frame pipe, along",
        Bar.of(catalogue, stock.id, 2 * half + TROLLEY[0]),
        (Place(CARRIAGE, (-half - TROLLEY[0] / 2, inside, lies)),),
        (),
        "one end",
        "U-bolts grip it; nothing is drilled",
    )
    reach = inside - stock.width / 2 + lane - 0.03
    across = Part(
        "F2",
        "Frame pipe, across",
        Bar.of(catalogue, stock.id, reach),
        (Place(CARRIAGE, (0.0, -lane + 0.03, lies), ACROSS),),
        (),
        "one end",
        "butts against the pipe along, square to it",
    )
    grips = [leg for a in (-0.07, 0.07) for leg in _grip(a, inside, saddle)]
    grips += [leg for b in (0.06, 0.12) for leg in _grip(0.0, inside - b, saddle, across=True)]
    gusset = plate(
        design,
        "G1",
        "Gusset board",
        grips,
        (0.0, 0.0),
        CARRIAGE,
        top + stock.depth + BOARD / 2,
        around=(0.0, inside - 0.04),
    )
    grip = Fastening(
        "U-bolt", (Buy(f"U-bolt M6 for pipe {stock.depth * 1e3:.0f} mm, with nuts", 1, 1.4, "frame to its boards"),)
    )
    leg = Fastening("U-bolt leg", (Buy("Wide washer M6", 2, 0.06, "under the nuts of U-bolts"),))
    sheets = tuple(buy for part in (*boards, gusset) for buy in sawn(part))
    made = Pieces((*boards, gusset, along, across), (), (*FASTENINGS, grip, leg), sheets) + runs.pieces
    return made + borne(design, kit, way, made, Place(CARRIAGE, (0.0, lane / 3, top)))


def _grip(x: float, y: float, saddle: float, *, across: bool = False) -> tuple[Wanted, Wanted]:
    """The two legs of a U-bolt over a pipe along the travel, or across it."""
    legs = [(x + side * saddle, y) if across else (x, y + side * saddle) for side in (-1, 1)]
    return tuple(  # type: ignore[return-value]
        Wanted(*at, U_BOLT, "U-bolt", name) for at, name in zip(legs, ("U-bolt", "U-bolt leg"), strict=True)
    )
