"""Every piece of a gantry where it sits: runways on braced posts, the bridge on its end trucks, the trolley under it,
the boom, the drop post.
"""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.gantry.design import BOARDS
from hazel_lantern.core.kinds.gantry.model import BOOM, BRIDGE, FRAME, POST, TROLLEY, Gantry, frames, post_behind, sizes
from hazel_lantern.core.kinds.shared.drop_post import drop_post
from hazel_lantern.core.kinds.shared.weighed import KIT, REST
from hazel_lantern.core.workshop.fasteners import bolt, exact, sawn
from hazel_lantern.core.workshop.laid import Laid, Pieces, lay
from hazel_lantern.core.workshop.marks import Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part, ReadyMade
from hazel_lantern.core.workshop.solids import ACROSS, ALONG, END, TOP, UP, Bar, Block, Place, Sheet

BRACE, BOARD, WIDER = "plywood-18x60", "plywood-18x100", "plywood-18x150"
THICK = 0.018
IN = 0.035  # metres from a runway's end to the middle of its post, whose outer face is flush with it
EDGE = 0.03  # metres from a piece's end to its hole
LONGEST_BRACE = 0.84  # metres from hole to hole
HALF = math.sqrt(0.5)
BRACKET_SCREWS = 0.012
HOLES_EVERY = 0.05  # metres between two places of the boom on its swing bolt
SWING = 0.0105
BALLAST = "Ballast"


def build(design: Design, kit: Carried) -> Gantry:
    """The mechanism of a gantry design. Raises GeometryError when parts do not fit, InputError for unknown rows."""
    rig = sizes(design, kit)
    laid = laid_out(design, kit, rig)
    tip = laid.mass_on(BOOM) - rig.boom_mass(rig.longest) - rig.counter
    return replace(rig, tip=tip, bridge_ends=(laid.mass_on(BRIDGE) - rig.bridge.line * rig.span) / 2, laid=laid)


def laid_out(design: Design, kit: Carried, rig: Gantry) -> Laid:
    """All pieces of a gantry."""
    pieces = _frame(design, rig) + _bridge(design, rig) + _trolley(design, rig) + _boom(design, kit, rig)
    loose = (
        Buy("End stop, rubber", 6, 0.8),
        Buy("Rated tether, steel wire with shackle", 1, 9.0, "to another part of the structure"),
    )
    return lay(pieces + Pieces(loose=loose), frames(rig, np.array([[0.0, 0.0, 0.0, rig.longest]])))


def _frame(design: Design, rig: Gantry) -> Pieces:
    """Runways, posts under them, a brace from each post up to its runway, along the travel."""
    catalogue, half, side = design.catalogue, rig.length / 2, rig.span / 2
    runway, post = Bar.of(catalogue, rig.runway.id, rig.length), Bar.of(catalogue, POST, rig.height - rig.runway.depth)
    posts = [min(max(p, IN), rig.length - IN) for p in rig.posts]
    apart = (rig.length - 2 * IN) / (len(posts) - 1)
    # From post to runway at half a right angle, no further than the next post's brace.
    over = min(LONGEST_BRACE * HALF, 0.9 * post.length, 0.45 * apart)
    feet = [(p, over if p <= half + 1e-9 else -over) for p in posts]
    brace, sides = Sheet.of(catalogue, BRACE, over / HALF + 2 * EDGE), (-side, side)
    marks = sorted(
        (
            *(Mark(p, "hole", 0.0065, note="post", face=TOP, fastening="post") for p in posts),
            *(Mark(p + reach, "hole", 0.0064, note="brace", fastening="brace to runway") for p, reach in feet),
        ),
        key=lambda mark: mark.at,
    )
    down = rig.runway.depth / 2 + over
    post_marks = (
        Mark(post.length - down + rig.runway.depth, "hole", 0.0064, note="brace", fastening="brace to post"),
        Mark(post.stock.width / 2, "hole", 0.004, note="pilot for the screw", face=END, fastening="post"),
    )
    ends = tuple(
        Mark(at, "hole", 0.0064, note=to, face=TOP, fastening=f"brace to {to}")
        for at, to in ((EDGE, "post"), (brace.length - EDGE, "runway"))
    )
    outside = max(post.stock.width, rig.runway.width) / 2 + THICK / 2
    braces = []
    for p, reach in feet:
        way = math.copysign(HALF, reach)
        start = (p - half - math.copysign(EDGE * HALF, reach), rig.height - down - EDGE * HALF)
        braces += [
            Place(
                FRAME,
                (start[0], s + math.copysign(outside, s), start[1]),
                (way, 0.0, HALF),
                (0.0, math.copysign(1.0, s), 0.0),
            )
            for s in sides
        ]
    parts = (
        Part(
            "W1",
            "Runway",
            runway,
            tuple(Place(FRAME, (-half, s, rig.height - rig.runway.depth / 2)) for s in sides),
            tuple(marks),
            "one end",
            "drill the pair together",
        ),
        Part(
            "Q1",
            "Post",
            post,
            tuple(Place(FRAME, (p - half, s, 0.0), UP, ALONG) for p in posts for s in sides),
            post_marks,
            "foot",
            "all to one length",
        ),
        Part("X1", "Brace", brace, tuple(braces), ends, "lower end", "drill all together"),
    )
    m6 = catalogue.bolts["M6"]
    through = [
        Fastening(f"brace to {to}", (bolt(m6, THICK + wide + 2 * m6.washer_t, note=f"braces to {to}s"),))
        for to, wide in (("post", post.stock.width), ("runway", rig.runway.width))
    ]
    screw = Buy(
        f"Coach screw 6×{math.ceil((rig.runway.depth + 0.05) * 100) * 10}", 1, 0.45, "runway down into its post"
    )
    bags = (
        ReadyMade(
            BALLAST,
            Block((0.3, 0.2, 0.1)),
            design.number("foot.ballast"),
            "weight",
            tuple(Place(FRAME, (p - half, s, 0.05)) for p in posts for s in sides),
        ),
    )
    return Pieces(parts, bags, (Fastening("post", (screw,)), *through))


def _bridge(design: Design, rig: Gantry) -> Pieces:
    """The bridge from runway to runway, a truck board with two wheels over either end of it."""
    catalogue, number, side, deep = design.catalogue, design.number, rig.span / 2, rig.bridge.depth
    # A bolt passes beside the web, to the front at the right end and to the rear at the left, where its truck is
    # turned about.
    aside = number("board.thick") / 2 + 0.012 if design.variant == BOARDS else 0.0
    middle = rig.bridge.width / 2
    bolts = tuple(
        Mark(at, "hole", 0.009, note="end truck", across=middle + off, face=TOP, fastening="end truck")
        for at, off in ((EDGE, -aside), (rig.span - EDGE, aside))
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
            Sheet.rectangle(material, thick, rig.span, wide, exact(catalogue, material, thick, wide))
            for wide in (flange, web)
        )
        count = max(1, math.ceil((rig.span - 2 * EDGE) / number("board.screws")))
        screws = tuple(
            Mark(float(at), "hole", 0.005, note="screw into the web", face=TOP, fastening="bridge screw")
            for at in np.linspace(2 * EDGE, rig.span - 2 * EDGE, count + 1)
        )
        places = tuple(Place(BRIDGE, (0.0, -side, s * (web + thick) / 2), ACROSS) for s in (1.0, -1.0))
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
            Part("G2", "Bridge web", stand, (Place(BRIDGE, (0.0, -side, 0.0), ACROSS, ALONG),), (), "right end"),
        )
    else:
        bar = design.row("sections", "bridge.section")
        made = (
            Part(
                "G1",
                "Bridge",
                Bar.of(catalogue, bar.id, rig.span),
                (Place(BRIDGE, (0.0, -side, 0.0), ACROSS),),
                bolts,
                "right end",
            ),
        )
    long = rig.wheelbase + 2 * EDGE
    truck = Sheet.of(catalogue, BOARD, long)
    # The board lies on the bridge; wheel and bolt stand as far apart across it as the bolt stands in from the
    # bridge's end.
    wheels = [
        Mark(
            long / 2 + s * rig.wheelbase / 2 + off,
            "hole",
            0.0055,
            note="wheel bracket",
            across=0.035,
            face=TOP,
            fastening="bracket",
        )
        for s in (-1, 1)
        for off in (-BRACKET_SCREWS, BRACKET_SCREWS)
    ]
    holes = (
        *wheels[:2],
        Mark(long / 2 + aside, "hole", 0.009, note="bridge", across=0.035 + EDGE, face=TOP, fastening="end truck"),
        *wheels[2:],
    )
    level = deep / 2 + THICK / 2
    # Turned about for the left end, so that on both the bolt lies inwards.
    boards = (
        Place(BRIDGE, (-long / 2, -side + 0.015, level)),
        Place(BRIDGE, (long / 2, side - 0.015, level), (-1.0, 0.0, 0.0)),
    )
    trucks = Part("E1", "End truck", truck, boards, holes, "one end", "across from the outer edge")
    long_bolt = bolt(
        catalogue.bolts["M8"], deep + THICK + 2 * catalogue.bolts["M8"].washer_t, note="bridge to its end trucks"
    )
    wheel, r = rig.wheel, rig.wheel.d / 2
    at = [(x, s) for x in (-rig.wheelbase / 2, rig.wheelbase / 2) for s in (-side, side)]
    things = (
        ReadyMade(
            wheel.name,
            Block((wheel.width, wheel.d, wheel.d), True),
            wheel.mass,
            "plastic",
            tuple(Place(BRIDGE, (x, y, r), ACROSS) for x, y in at),
            wheel.price,
            wheel.words,
        ),
        ReadyMade(
            "Bracket for a wheel",
            Block((0.05, 0.04, 0.03)),
            0.03,
            "steel",
            tuple(Place(BRIDGE, (x, y, deep / 2 - 0.015)) for x, y in at),
            2.6,
            "printed or bent from flat",
        ),
    )
    fastenings = (
        Fastening("end truck", (long_bolt,)),
        Fastening("bracket", (Buy("Bolt M5×30 with lock nut", 1, 0.35, "wheel brackets"),), reach=0.05),
        Fastening("bridge screw", (Buy("Wood screw 5×50", 1, 0.07, "bridge"),), reach=0.05),
    )
    return Pieces(
        (*made, trucks),
        things,
        fastenings,
        (*(buy for part in made for buy in sawn(part)), Buy("Axle bolt M8×45 with two nuts", 8, 0.9)),
    )


def _trolley(design: Design, rig: Gantry) -> Pieces:
    """A board under the bridge with four wheels that run on it, and what makes up what the trolley is said to weigh."""
    wide, long = rig.bridge.width + 0.1, 0.15
    board = Sheet.of(design.catalogue, WIDER, wide)
    spots = [(x, y) for x in (-(rig.bridge.width / 2 + 0.02), rig.bridge.width / 2 + 0.02) for y in (-0.045, 0.045)]
    holes = [
        Mark(
            x + wide / 2, "hole", 0.0055, note="wheel bracket", across=y + off + long / 2, face=TOP, fastening="bracket"
        )
        for x, y in spots
        for off in (-BRACKET_SCREWS, BRACKET_SCREWS)
    ]
    holes.append(Mark(wide / 2, "hole", SWING, note="swing bolt", face=TOP, fastening="swing bolt"))
    level = -rig.bridge.depth / 2 - 0.008 - THICK / 2
    part = Part(
        "V1",
        "Trolley board",
        board,
        (Place(TROLLEY, (-wide / 2, 0.0, level)),),
        tuple(sorted(holes, key=lambda mark: (mark.at, mark.across or 0.0))),
        "rear end",
        "across from the right edge",
    )
    wheel = rig.wheel
    runs = tuple(Place(TROLLEY, (x, y, rig.bridge.depth / 2 + wheel.d / 2), ALONG) for x, y in spots)
    brackets = tuple(Place(TROLLEY, (x, y, 0.0)) for x, y in spots)
    things = (
        ReadyMade(
            wheel.name,
            Block((wheel.width, wheel.d, wheel.d), True),
            wheel.mass,
            "plastic",
            runs,
            wheel.price,
            wheel.words,
        ),
        ReadyMade(
            "Bracket for a wheel, reaching up round the bridge",
            Block((0.02, 0.04, rig.bridge.depth)),
            0.05,
            "steel",
            brackets,
            3.4,
            "printed or bent from flat",
        ),
    )
    listed = sum(piece.mass for piece in Pieces((part,), things).each())
    rest = ReadyMade(
        REST, Block((0.06, 0.06, 0.02)), max(0.0, rig.trolley - listed), "steel", (Place(TROLLEY, (0.0, 0.0, level)),)
    )
    return Pieces((part,), (*things, rest))


def _boom(design: Design, kit: Carried, rig: Gantry) -> Pieces:
    """The boom with a hole for each place it can be drawn out to, its counterweight, the drop post and the camera at
    its end.
    """
    level = -rig.bridge.depth / 2 - 0.008 - THICK - rig.boom.depth / 2
    behind = post_behind(rig)
    solid = Bar.of(design.catalogue, rig.boom.id, rig.longest + rig.tail_end)
    steps = np.arange(0.0, rig.longest - rig.shortest + 1e-9, HOLES_EVERY)
    holes = [
        Mark(rig.tail_end + float(step), "hole", SWING, note="swing bolt", face=TOP, fastening="swing bolt")
        for step in steps
    ]
    start = -rig.tail_end
    counter = ReadyMade(
        "Counterweight",
        Block((0.06, 0.12, 0.12), True),
        rig.counter,
        "weight",
        (Place(BOOM, (-rig.tail, 0.0, level - 0.08), UP, ALONG),),
    )
    mount = (rig.longest, 0.0, -rig.bridge.depth / 2 - rig.drop)
    post = drop_post(design, kit, BOOM, level - rig.boom.depth / 2, mount, 0.0, behind)
    cg = kit.payload.cg
    camera = ReadyMade(
        KIT,
        Block((0.14, 0.1, 0.1)),
        kit.payload.mass,
        "camera",
        (Place(BOOM, (rig.longest + float(cg[0]), float(cg[1]), mount[2] + float(cg[2]))),),
    )
    if post:
        holes += [
            Mark(x - start, "hole", 0.0055, note="post bracket", face=TOP, fastening="post foot") for x, _ in post.feet
        ]
    part = Part(
        "M1",
        "Boom",
        solid,
        (Place(BOOM, (start, 0.0, level)),),
        tuple(sorted(holes, key=lambda mark: mark.at)),
        "tail end",
    )
    swing = Fastening("swing bolt", (Buy("Swing bolt M10 with thrust washers", 1, 4.5),), one_of=True)
    hung = post.pieces if post else Pieces(loose=(Buy(f"Camera screw {kit.socket_thread}", 1, 2.4),))
    return Pieces((part,), (counter, camera), (swing,)) + hung
