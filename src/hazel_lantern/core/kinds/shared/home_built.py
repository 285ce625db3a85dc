"""A stand built of boards: a post of two boards, legs that rake out from a hub on it, hinged by one bolt each."""

from __future__ import annotations

import math

from hazel_lantern.core.catalogue import Stand, StockSection
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.shared.pressed import PINNED, pressed
from hazel_lantern.core.kinds.shared.works import bears, letter, works
from hazel_lantern.core.mechanics.pins import WOOD_BEARING
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import PEOPLE, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.workshop.fasteners import bolt
from hazel_lantern.core.workshop.laid import Pieces
from hazel_lantern.core.workshop.marks import HOLE, Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part
from hazel_lantern.core.workshop.solids import ALONG, TOP, UP, Bar, Place

HUB = 0.55  # of the post's height at which its legs are hinged
BOLT = 0.008  # metres
HINGE, OVER, HINGES_APART = 0.009, 0.038, 0.06  # metres: a hinge's hole, of leg above it, between both rows of them
PASS = 0.003  # metres between legs that cross
SCREWED = 0.3  # metres between the pairs of screws of the post's boards
BUILT = "post"  # the shape of a stand that is built, not bought


def built_figures(design: Design, stand: Stand, top: float, spread: float, load: float, push: float, at: float) -> Told:
    """Strength of its boards, buckling of its legs, the wood at their bolts.

    top: of its post [m]; spread: of its feet from the centre [m]; load: that it carries [N]; push: at a height `at`
    above the ground [N, m]

    Source: the push about the hub by the boards; half of the load and all of the push on one leg; statics 4.5, 7.4, 9.
    """
    if stand.shape != BUILT:
        return Told()
    tell, hub = Teller(), HUB * top
    board, leg = design.row("sections", "stand.board"), design.row("sections", "stand.leg")
    wood, timber = (design.catalogue.materials[row.material] for row in (board, leg))
    given = (
        Given("W", load, "N", "what it carries", "stand"),
        Given("F", push, "N", "bump at the camera"),
        Given("h", at, "m", "height of the bump"),
    )
    # Boards side by side bend about their own depth, drilled for the hinge bolts.
    left = 2 * board.left_across(BOLT + 0.0005)
    works(
        tell,
        "rig.stand_boards",
        "boards of the post",
        push * max(at - hub, 0.0) / left if left > 0 else math.inf,
        bears(design, wood),
        "the bump about the hub, over two boards drilled for the hinges",
        (*given, Given("z", hub, "m", "hub above ground")),
        "stand.board",
        source="statics 9",
        about=PEOPLE,
        verb="work",
        remedies=_thicker(design, "stand.board", float(board.section().modulus)),
    )
    long = math.hypot(spread, hub)
    presses = (load / 2 + push * at / spread) * long / hub
    tell.add(
        by_method(
            "rig.stand_leg",
            "A leg is pressed with",
            presses,
            "N",
            "half of the load and the bump about the other feet, along the leg",
            (*given, Given("r", spread, "m", "feet from the centre", "stand.radius")),
            source="statics 6",
        )
    )
    ei = timber.E_low * float(leg.section().least)
    length = Given("L", long, "m", "leg from hinge to foot", "stand.radius")
    keys = ("rig.stand_leg", "rig.stand_leg_bows", "rig.stand_leg_buckles")
    mend = _thicker(design, "stand.leg", float(leg.section().least))
    pressed(tell, letter(design), keys, "leg of the stand", ei, length, PINNED, "stand.leg", mend)
    works(
        tell,
        "rig.stand_hinge",
        "wood at a leg's hinge",
        presses / (BOLT * leg.width),
        WOOD_BEARING.get(timber.id, 5e6) if timber.family == "wood" else 1.5 * bears(design, timber),
        "what presses the leg over an M8 through it",
        (tell.given("N", "rig.stand_leg"), Given("t", leg.width, "m", "thickness of the leg", "stand.leg")),
        "stand.leg",
        source="statics 7.4",
        about=PEOPLE,
        remedies=mend,
    )
    return tell.told()


def built_pieces(
    design: Design,
    stand: Stand,
    top: float,
    spread: float,
    spots: tuple[tuple[float, float], ...],
    body: str,
    nth: int = 0,
) -> Pieces:
    """The boards, legs and hinges of stands that are built, one at each of some spots of a body's frame (x, y) [m].

    top: of the post's boards, which reach to the ground [m]; spread: of the feet from the post's middle [m]; nth:
    stands of another height that were made before

    The legs along x lie beside the boards and share one bolt; those across lie before and behind, each on a bolt
    through one board, lower by what keeps both apart.
    """
    if stand.shape != BUILT:
        return Pieces()
    catalogue, hub = design.catalogue, HUB * top
    board, leg = design.row("sections", "stand.board"), design.row("sections", "stand.leg")
    out, wide = board.width / 2, board.width
    lower = hub - _hinges_apart(board, leg, hub, spread)
    hinges = (
        Mark(lower, HOLE, HINGE, note="hinge of a leg", face=TOP, fastening="hinge across"),
        Mark(hub, HOLE, HINGE, note="hinge of two legs", fastening="hinge along"),
    )
    posts = tuple(Place(body, (x, y + side * out, 0.0), UP, ALONG) for x, y in spots for side in (1, -1))
    parts = [
        Part(
            f"U{nth + 1}",
            "Post board of the stand",
            Bar.of(catalogue, board.id, top),
            posts,
            hinges,
            "lower end",
            "screw both together",
        )
    ]
    aside, ahead = wide + leg.width / 2, board.depth / 2 + leg.width / 2
    for mark, name, at, run, along in (
        (f"L{2 * nth + 1}", "Leg along the travel", hub, spread, True),
        (f"L{2 * nth + 2}", "Leg across", lower, spread - out, False),
    ):
        long = math.hypot(run, at)
        way = (run / long, at / long)  # outwards and down, from the hinge
        places = []
        for x, y in spots:
            for side in (1.0, -1.0):
                start = (
                    (x - side * OVER * way[0], y + side * aside)
                    if along
                    else (x + side * ahead, y + side * (out - OVER * way[0]))
                )
                leans = (side * way[0], 0.0, -way[1]) if along else (0.0, side * way[0], -way[1])
                flat = (side * way[1], 0.0, way[0]) if along else (0.0, side * way[1], way[0])
                places.append(Place(body, (*start, at + OVER * way[1]), leans, flat))
        parts.append(
            Part(
                mark,
                name,
                Bar.of(catalogue, leg.id, long + OVER),
                tuple(places),
                (Mark(OVER, HOLE, HINGE, note="hinge", fastening=f"hinge {'along' if along else 'across'}"),),
                "upper end",
                f"saw the foot at {math.degrees(math.atan2(run, at)):.0f}° from square, to lie flat on the ground",
            )
        )
    row, count = catalogue.bolts["M8"], len(spots)
    nut = (Buy("Lock nut M8", 1, 0.4), Buy("Washer M8", 2, 0.13))
    both = bolt(row, 2 * (wide + leg.width) + 2 * row.washer_t, "", "two legs of the stand, through both boards")
    one = bolt(row, board.depth + leg.width + 2 * row.washer_t, "", "a leg of the stand, through one board")
    loose = (
        Buy("Wood screw 5×50", 2 * count * math.ceil(top / SCREWED), 0.07, "both boards of the post"),
        Buy("Rubber foot with its screw", 4 * count, 0.6, "legs of the stand"),
        Buy(
            "Cord round the legs, by the metre",
            count * math.ceil(4 * math.sqrt(2) * spread),
            0.4,
            "keeps the feet from sliding out",
        ),
    )
    reach = wide + leg.width + 0.01
    return Pieces(
        tuple(parts),
        (),
        (Fastening("hinge along", (both, *nut), reach), Fastening("hinge across", (one, *nut), reach)),
        loose,
    )


def _hinges_apart(board: StockSection, leg: StockSection, hub: float, spread: float) -> float:
    """How far the hinges of the legs across lie below those along, so that the legs pass one another [m]."""
    out, down, half = board.width / 2, hub / spread, leg.depth / 2
    far, near = board.depth / 2 + leg.width, board.width
    apart = HINGES_APART
    for _ in range(8):  # the lower pair is flatter the lower it starts
        across = (hub - apart) / (spread - out)
        thick = half * (math.hypot(1.0, down) + math.hypot(1.0, across))
        apart = max(HINGES_APART, down * far + thick - across * (near - out) + PASS)
    return apart


def _thicker(design: Design, key: str, now: float) -> tuple[Remedy, ...]:
    """The lightest board of the same wood that is half as strong again or stiffer."""
    row = design.row("sections", key)
    found = [
        (float(b.section().area), b.id, b.name)
        for b in design.catalogue.sections.values()
        if (b.shape, b.material, b.system) == (row.shape, row.material, row.system)
        and min(float(b.section().modulus), float(b.section().least) * 1e3) > 0
        and (float(b.section().modulus) if key.endswith("board") else float(b.section().least)) >= 1.5 * now
    ]
    if not found:
        return ()
    _, chosen, name = min(found)
    return (set_one("thicker", f"Take {name[:1].lower()}{name[1:]}", key, chosen),)
