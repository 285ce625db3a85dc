"""Every piece of a gantry where it sits: runways on braced posts, the bridge on its end trucks, the trolley under it,
the boom, the drop post.
"""

from __future__ import annotations

import math
from itertools import combinations

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.catalogue import StockSection, Wheel
from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.gantry.design import BOARDS, PINNED
from hazel_lantern.core.kinds.gantry.legs import EDGE, THICK, WHEEL_IN, frame_pieces, inset, truck_wide
from hazel_lantern.core.kinds.gantry.model import (
    BEHIND_PIN,
    BOOM,
    BRIDGE,
    OVERLAP,
    STAGES,
    TROLLEY,
    Gantry,
    frames,
    post_behind,
    sizes,
    stage_name,
)
from hazel_lantern.core.kinds.shared.drop_post import drop_post
from hazel_lantern.core.kinds.shared.fixings import GRIP, SMALL_BOLT, bracket_axles, camera_held, end_stops
from hazel_lantern.core.kinds.shared.weighed import KIT, REST
from hazel_lantern.core.workshop.fasteners import bolt, exact, sawn, strip
from hazel_lantern.core.workshop.laid import Laid, Pieces, lay
from hazel_lantern.core.workshop.marks import Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part, ReadyMade
from hazel_lantern.core.workshop.solids import ACROSS, ALONG, TOP, UP, Bar, Block, Place, Sheet

ROUND_BRIDGE = "Bracket round the bridge, with a wheel above and below"
TRUCK_HOLE = 0.009
BRACKET_SCREWS = 0.012
HOLES_EVERY = 0.05  # metres between two places of the boom on its swing bolt
PIN_IN = 0.015  # metres from an inner tube's end to the first of its two pins, which share their holes as it slides
BOOM_NAME = "Boom"
PACKED = 0.002  # metres that the post passes below an outer tube
WHEEL_CLEAR = 0.006  # metres above a wheel, below the board it hangs from
COUNTER_TALL = 0.06  # metres
SWING = 0.0105


def build(design: Design, kit: Carried) -> Gantry:
    """The mechanism of a gantry design. Raises GeometryError when parts do not fit, InputError for unknown rows."""
    rig = sizes(design, kit)
    laid = laid_out(design, kit, rig)
    tubes = sum(part.mass * part.quantity for part in laid.parts if part.name.startswith(BOOM_NAME))
    tip = sum(laid.mass_on(body) for body in (*STAGES, BOOM)) - tubes - rig.counter
    if rig.stages:
        # Spread over all of it as if it were one tube.
        rig = replace(rig, boom_line=tubes / (rig.longest + rig.tail_end))
    return replace(rig, tip=tip, bridge_ends=(laid.mass_on(BRIDGE) - rig.bridge.line * rig.span) / 2, laid=laid)


def laid_out(design: Design, kit: Carried, rig: Gantry) -> Laid:
    """All pieces of a gantry."""
    frame = Pieces() if rig.building else frame_pieces(design, rig)
    pieces = frame + _bridge(design, rig) + _trolley(design, rig) + _boom(design, kit, rig)
    nested = (
        ("Ballast", ""),
        *combinations((part.name for part in pieces.parts if part.name.startswith(BOOM_NAME)), 2),
    )
    loose = (
        Buy("End stop, clamped on the beam", 4, 3.2, "what runs must not leave it")
        if rig.building
        else end_stops(rig.runway, 4),
        Buy("End stop, rubber, with two screws 4×40", 2, 1.2)
        if design.variant == BOARDS
        else end_stops(design.row("sections", "bridge.section"), 2),
        GRIP,
        Buy("Rated tether, steel wire with shackle", 1, 9.0, "to another part of the structure"),
    )
    return lay(pieces + Pieces(loose=loose, nested=nested), frames(rig, np.array([[0.0, 0.0, 0.0, rig.longest]])))


def _bridge(design: Design, rig: Gantry) -> Pieces:
    """The bridge from runway to runway, a truck board with two wheels over either end of it."""
    catalogue, number, side, deep = design.catalogue, design.number, rig.span / 2, rig.bridge.depth
    short = inset(rig)
    long_bridge = rig.span - 2 * short
    # A bolt passes beside the web, to the front at the right end and to the rear at the left, where its truck is
    # turned about.
    aside = number("board.thick") / 2 + 0.012 if design.variant == BOARDS else 0.0
    middle = rig.bridge.width / 2
    bolts = tuple(
        Mark(at, "hole", TRUCK_HOLE, note="end truck", across=middle + off, face=TOP, fastening="end truck")
        for at, off in ((EDGE, -aside), (long_bridge - EDGE, aside))
    )
    made: tuple[Part, ...]
    if design.variant == BOARDS:
        material, flange, thick, web = (
            rig.bridge.material,
            number("board.flange"),
            number("board.thick"),
            number("board.web"),
        )
        flanges, stand = (
            Sheet.rectangle(material, thick, long_bridge, wide, exact(catalogue, material, thick, wide))
            for wide in (flange, web)
        )
        count = max(1, math.ceil((long_bridge - 2 * EDGE) / number("board.screws")))
        screws = tuple(
            Mark(float(at), "hole", 0.005, note="screw into the web", face=TOP, fastening="bridge screw")
            for at in np.linspace(2 * EDGE, long_bridge - 2 * EDGE, count + 1)
        )
        places = tuple(Place(BRIDGE, (0.0, short - side, s * (web + thick) / 2), ACROSS) for s in (1.0, -1.0))
        made = (
            Part(
                "G1",
                "Bridge flange",
                flanges,
                places,
                tuple(sorted((*bolts, *screws), key=lambda mark: mark.at)),
                "right end",
                "cut both together",
            ),
            Part("G2", "Bridge web", stand, (Place(BRIDGE, (0.0, short - side, 0.0), ACROSS, ALONG),), (), "right end"),
        )
    else:
        bar = design.row("sections", "bridge.section")
        made = (
            Part(
                "G1",
                "Bridge",
                Bar.of(catalogue, bar.id, long_bridge),
                (Place(BRIDGE, (0.0, short - side, 0.0), ACROSS),),
                bolts,
                "right end",
            ),
        )
    long = rig.wheelbase + 2 * EDGE
    across = truck_wide(rig)
    ply = catalogue.materials["plywood"]
    truck = (
        Sheet.of(catalogue, design.text("bridge.truck"), long)
        if across <= rig.truck + 1e-9
        else Sheet.rectangle(ply, THICK, long, across)
    )
    # The board lies on the bridge, which ends beside the runway; the bolt stands in from that end.
    wheels = [
        Mark(
            long / 2 + s * rig.wheelbase / 2 + off,
            "hole",
            0.0055,
            note="wheel bracket",
            across=WHEEL_IN,
            face=TOP,
            fastening="bracket",
        )
        for s in (-1, 1)
        for off in (-BRACKET_SCREWS, BRACKET_SCREWS)
    ]
    holes = (
        *wheels[:2],
        Mark(
            long / 2 + aside,
            "hole",
            TRUCK_HOLE,
            note="bridge",
            across=WHEEL_IN + short + EDGE,
            face=TOP,
            fastening="end truck",
        ),
        *wheels[2:],
    )
    # Over a slim bridge it is packed up, so that the wheels have room below it.
    packed = max(0.0, rig.wheel.d + WHEEL_CLEAR - deep / 2)
    level = deep / 2 + packed + THICK / 2
    # Turned about for the left end, so that on both the bolt lies inwards.
    boards = (
        Place(BRIDGE, (-long / 2, truck.width / 2 - WHEEL_IN - side, level)),
        Place(BRIDGE, (long / 2, side - truck.width / 2 + WHEEL_IN, level), (-1.0, 0.0, 0.0)),
    )
    trucks = Part("E1", "End truck", truck, boards, holes, "one end", "across from the outer edge")
    long_bolt = bolt(
        catalogue.bolts["M8"],
        deep + packed + THICK + 2 * catalogue.bolts["M8"].washer_t,
        note="bridge to its end trucks",
    )
    packing = (Buy(f"Packing of {packed * 1e3:.0f} mm, hard wood", 2, 0.8, "bridge under its end trucks"),)
    wheel, r = rig.wheel, rig.wheel.d / 2
    at = [(x, s) for x in (-rig.wheelbase / 2, rig.wheelbase / 2) for s in (-side, side)]
    # Flat wheels on a runway need rollers beside it, or they run off: inside of both, where no brace is in their way.
    beside = side - rig.runway.width / 2 - r
    guides = [Place(BRIDGE, (x, math.copysign(beside, s), -r), UP, ALONG) for x, s in at]
    tall = max(0.02, deep / 2 + packed - r + 0.008)  # from the board down past the axle
    things = (
        _wheels(wheel, [Place(BRIDGE, (x, y, r), ACROSS) for x, y in at]),
        _wheels(wheel, guides),
        ReadyMade(
            "Bracket for a wheel",
            Block((0.05, 0.04, tall)),
            0.03,
            "steel",
            tuple(Place(BRIDGE, (x, y, deep / 2 + packed - tall / 2)) for x, y in at),
            2.6,
            "printed or bent from flat",
        ),
    )
    fastenings = (
        Fastening("end truck", (long_bolt,)),
        Fastening("bracket", (Buy(SMALL_BOLT, 1, 0.35, "wheel brackets"),), reach=0.05),
        Fastening("bridge screw", (Buy("Wood screw 5×50", 1, 0.07, "bridge"),), reach=0.05),
    )
    return Pieces(
        (*made, trucks),
        things,
        fastenings,
        (
            *(buy for part in (*made, trucks) for buy in sawn(part)),
            bracket_axles(catalogue, wheel, len(at) + len(guides)),
            *(packing if packed else ()),
        ),
        (("Bracket for a wheel", wheel.name),),
    )


def board_size(rig: Gantry) -> tuple[float, float, float]:
    """The trolley's board: how long across the bridge and along it, and how far out from the bridge's edge its brackets
    are screwed to it [m].
    """
    out = 0.02 + (rig.wheel.d if rig.side_rollers else 0.0)
    return rig.bridge.width + 2 * (out + EDGE), rig.trolley_base + 2 * EDGE, out


def _trolley(design: Design, rig: Gantry) -> Pieces:
    """A board under the bridge, four brackets round it with a wheel above and one below each, rollers at its sides
    where they hold better, and what makes up what the trolley is said to weigh.
    """
    wide, long, out = board_size(rig)
    material = design.catalogue.materials["plywood"]
    board = Sheet.rectangle(material, THICK, wide, long, strip(design.catalogue, material, THICK, long))
    ends, half = (-rig.trolley_base / 2, rig.trolley_base / 2), rig.bridge.width / 2
    spots = [(side * (half + out), y) for side in (-1, 1) for y in ends]
    holes = [
        Mark(
            x + wide / 2, "hole", 0.0055, note="wheel bracket", across=y + off + long / 2, face=TOP, fastening="bracket"
        )
        for x, y in spots
        for off in (-BRACKET_SCREWS, BRACKET_SCREWS)
    ]
    holes.append(Mark(wide / 2, "hole", SWING, note="swing bolt", face=TOP, fastening="swing bolt"))
    part = Part(
        "V1",
        "Trolley board",
        board,
        (Place(TROLLEY, (-wide / 2, 0.0, -rig.under)),),
        tuple(sorted(holes, key=lambda mark: (mark.at, mark.across or 0.0))),
        "rear end",
        "across from the right edge",
    )
    wheel, r, high = rig.wheel, rig.wheel.d / 2, rig.bridge.depth / 2
    runs = [
        Place(TROLLEY, (side * rig.wheels_apart / 2, y, up * (high + r)), ALONG)
        for side in (-1, 1)
        for y in ends
        for up in (1, -1)
    ]
    if rig.side_rollers:
        runs += [
            Place(TROLLEY, (side * (half + r), y, up * (high - r)), UP, ALONG)
            for side in (-1, 1)
            for y in ends
            for up in (1, -1)
        ]
    things = (
        _wheels(wheel, runs),
        ReadyMade(
            ROUND_BRIDGE,
            Block((0.02, 0.04, rig.bridge.depth)),
            0.08,
            "steel",
            tuple(Place(TROLLEY, (x, y, 0.0)) for x, y in spots),
            4.8,
            "printed or bent from flat",
        ),
    )
    listed = sum(piece.mass for piece in Pieces((part,), things).each())
    rest = ReadyMade(
        REST,
        Block((0.06, 0.06, 0.02)),
        max(0.0, rig.trolley - listed),
        "steel",
        (Place(TROLLEY, (0.0, 0.0, -rig.under)),),
    )
    axles = bracket_axles(design.catalogue, wheel, len(runs))
    return Pieces((part,), (*things, rest), loose=(*sawn(part), axles), nested=((REST, ""), (ROUND_BRIDGE, "")))


def _wheels(wheel: Wheel, places: list[Place]) -> ReadyMade:
    shape = Block((wheel.width, wheel.d, wheel.d), True)
    return ReadyMade(wheel.name, shape, wheel.mass, "plastic", tuple(places), wheel.price, wheel.words)


def _hangs(rig: Gantry) -> float:
    """How far below the boom's middle its counterweight hangs [m]."""
    return max(0.08, rig.boom.depth / 2 + COUNTER_TALL / 2 + 0.005)


def _boom(design: Design, kit: Carried, rig: Gantry) -> Pieces:
    """The boom with a hole for each place it can be drawn out to, its counterweight, the drop post and the camera at
    its end.
    """
    level = -rig.under - THICK / 2 - rig.boom.depth / 2
    behind = post_behind(rig)
    tubes, through = _tubes(design, rig, level)
    last, start = tubes[-1], tubes[-1].places[0].at[0]
    counter = ReadyMade(
        "Counterweight",
        Block((COUNTER_TALL, 0.12, 0.12), True),
        rig.counter,
        "weight",
        (Place(tubes[0].places[0].body, (-rig.tail, 0.0, level - _hangs(rig)), UP, ALONG),),
    )
    mount = (rig.longest, 0.0, -rig.bridge.depth / 2 - rig.drop)
    # Packed down to the outer tube's underside: drawn in, the post comes under that.
    post = drop_post(
        design,
        kit,
        BOOM,
        level - rig.boom.depth / 2 - (PACKED if rig.stages else 0.0),
        mount,
        0.0,
        behind,
        through=_thin(rig).depth,
    )
    cg = kit.payload.cg
    camera = ReadyMade(
        KIT,
        Block((0.14, 0.1, 0.1)),
        kit.payload.mass,
        "camera",
        (Place(BOOM, (rig.longest + float(cg[0]), float(cg[1]), mount[2] + float(cg[2]))),),
    )
    if post:
        held = "boom end" if design.text("boom.end") == PINNED else "post foot"
        feet = tuple(
            Mark(x - start, "hole", 0.0055, note="post bracket", face=TOP, fastening=held) for x, _ in post.feet
        )
        marks = tuple(sorted((*last.marks, *feet), key=lambda mark: mark.at))
        tubes = (*tubes[:-1], replace(last, marks=marks))
    hung = post.pieces if post else Pieces(loose=camera_held(kit).items)
    if post and rig.stages:
        thick = (rig.boom.depth - _thin(rig).depth) / 2 + PACKED
        packing = Buy(
            f"Packing, plywood, {thick * 1e3:.1f} mm", 2, 0.4, "between the thin tube and the brackets of the post"
        )
        hung = hung + Pieces(loose=(packing,))
    return Pieces(tubes, (counter, camera), through) + hung


def _thin(rig: Gantry) -> StockSection:
    """The tube of the boom that carries the drop post."""
    return rig.stages[-1] if rig.stages else rig.boom


def _tubes(design: Design, rig: Gantry, level: float) -> tuple[tuple[Part, ...], tuple[Fastening, ...]]:
    """The boom with a hole for each place it can be drawn out to; or of several stages, with holes for their pins."""
    swing = Fastening("swing bolt", (Buy("Swing bolt M10 with thrust washers", 1, 4.5),), one_of=True)
    m5 = design.catalogue.bolts["M5"]
    pin = bolt(m5, rig.boom.depth + 2 * m5.washer_t, " with wing nut", "through two tubes of the boom")
    pins = Fastening("stage pin", (replace(pin, quantity=2),), one_of=True)
    ends = Fastening(
        "boom end", (Buy("Quick-release pin 5 mm on a cord", 1, 3.9, "drop post to the boom"),), reach=0.03
    )
    catalogue, way = design.catalogue, rig.longest - rig.shortest

    def hole(at: float) -> Mark:
        return Mark(at, "hole", SWING, note="swing bolt", face=TOP, fastening="swing bolt")

    hung = Mark(rig.tail_end - rig.tail, "hole", SWING, note="counterweight", face=TOP, fastening="counterweight")
    behind = (hung,) if rig.counter > 0 and rig.tail >= BEHIND_PIN else ()  # nearer it hangs on the swing bolt
    # Through the boom and the weight, with a nut and a collar above and below.
    long = max(0.25, math.ceil((rig.boom.depth / 2 + _hangs(rig) + COUNTER_TALL / 2 + 0.03) / 0.05) * 0.05)
    price = round(3.2 * long / 0.25, 2)
    rod = Buy(
        f"Threaded rod M10, {long * 1e3:.0f} mm, with nuts and two collars",
        1,
        price,
        "counterweight under the boom's tail",
    )
    held = (swing, Fastening("counterweight", (rod,)), ends)
    if not rig.stages:
        steps = np.arange(0.0, way + 1e-9, HOLES_EVERY)
        one = Part(
            "M1",
            BOOM_NAME,
            Bar.of(catalogue, rig.boom.id, rig.longest + rig.tail_end),
            (Place(BOOM, (-rig.tail_end, 0.0, level)),),
            (*behind, *(hole(rig.tail_end + float(step)) for step in steps)),
            "tail end",
        )
        return (one,), held
    made, count = [], len(rig.stages)
    for k, stock in enumerate(rig.stages):
        long = rig.tail_end + rig.shortest if k == 0 else rig.inner
        # Drawn out, each reaches its share beyond the first.
        start = -rig.tail_end if k == 0 else rig.shortest + way * k / (count - 1) - long
        marks = [*behind, hole(rig.tail_end)] if k == 0 else []
        if k < count - 1:
            marks += [_pin(long - off) for off in (OVERLAP - PIN_IN, OVERLAP - PIN_IN - HOLES_EVERY)]
        if k:
            # From drawn out inwards, a hole for every step at either pin.
            steps = np.arange(0.0, way / (count - 1) + 1e-9, HOLES_EVERY)
            at = {round(float(near + step), 6) for step in steps for near in (PIN_IN, PIN_IN + HOLES_EVERY)}
            marks += [_pin(one) for one in at if one < long]
        body = BOOM if k == count - 1 else stage_name(k)
        bar = Bar.of(catalogue, stock.id, long)
        place = Place(body, (start, 0.0, level))
        made.append(
            Part(
                f"M{k + 1}",
                f"{BOOM_NAME}, stage {k + 1}",
                bar,
                (place,),
                tuple(sorted(marks, key=lambda m: m.at)),
                "tail end",
            )
        )
    return tuple(made), (*held, replace(pins, items=(replace(pins.items[0], quantity=2 * (count - 1)),)))


def _pin(at: float) -> Mark:
    return Mark(at, "hole", 0.0055, note="stage pin", fastening="stage pin")
