"""An overhead slider as a mechanism: a rail, its hangers, what runs or slides on it, and the post that hangs the
camera.
"""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from hazel_lantern.core.catalogue import StockSection
from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.overhead.design import BLOCK as BLOCK_MADE
from hazel_lantern.core.kinds.overhead.design import BORED, BUILDING, CLAMPED_POLE, SHUTTLE, TWIN
from hazel_lantern.core.kinds.rail.carriage import PLATE, Runs, carriage, on_a_block, on_wheels
from hazel_lantern.core.kinds.rail.model import Straight, straight
from hazel_lantern.core.kinds.rail.parts import CARRIAGE, RAIL_NAME, Held, crossings, frames, rails
from hazel_lantern.core.kinds.shared.drop_post import POLE_NAME, drop_post
from hazel_lantern.core.kinds.shared.fixings import CORD
from hazel_lantern.core.kinds.shared.plates import BOARD, Wanted
from hazel_lantern.core.kinds.shared.splices import ROUND
from hazel_lantern.core.mechanics.rails import Rest
from hazel_lantern.core.nouns.errors import GeometryError, Mend, mend_at
from hazel_lantern.core.workshop.laid import Laid, Pieces, lay
from hazel_lantern.core.workshop.marks import HOLE, Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part
from hazel_lantern.core.workshop.solids import ACROSS, ALONG, DOWN, END, SIDE, Bar, Place, Turned

BLOCK, WIDEST_BORE = "pine-45x95", 0.030  # a bush in this bore leaves 5 mm of the board on either side
ROD = "beech-rod-45"
ABOVE, BELOW, LEFT = 0.03, 0.06, 0.008  # metres of a bored rod above and below the rail, beside its bore
BORED_ROD = "Bored rod"
PLUGS, ON_WALL = "plugs", ("brackets", "plugs")
HANGER_EYE = 0.02  # metres that a bolt passes beside its rail
RODS = (0.025, 0.03, 0.032)  # metres thick, offered for a shuttle
ROUGH = 0.0004  # metres that a rod may be thinner, and that a bore is wider
WALL = 0.012  # metres of a turned shuttle around its bore


class Overhead(Struct, frozen=True):
    """A straight rail, the places of its hangers along it [m], and all its pieces."""

    way: Straight
    places: tuple[float, ...]
    laid: Laid


def _places(design: Design, count: int) -> tuple[float, ...]:
    length, inset = design.number("rail.length"), design.number("support.inset")
    if inset >= length / 2:
        raise GeometryError(
            "the hangers meet: bring them nearer to the rail's ends",
            mend_at("First hanger {} from the end", "support.inset", length / 4),
        )
    return tuple(float(x) for x in np.linspace(inset, length - inset, count))


def rests_for(design: Design, count: int) -> tuple[Rest, ...]:
    return tuple(Rest(x, kz=design.number("hanger.stiffness"), pulls=True) for x in _places(design, count))


def build(design: Design, kit: Carried) -> Overhead:
    """The mechanism of an overhead slider. Raises GeometryError, InputError."""
    count = round(design.number("hanger.count"))
    slides = design.variant == SHUTTLE
    carrier, slides_on = ("shuttle", "shuttle.guide") if slides else ("trolley", "")
    rests = rests_for(design, count)
    way = straight(
        design,
        kit,
        2 if design.variant == TWIN else 1,
        rests,
        False,
        carrier,
        slides_on,
        design.number("shuttle.friction"),
    )
    if slides and way.bar.shape not in ROUND:
        rods = [row for row in design.catalogue.sections.values() if row.shape in ROUND and row.depth in RODS]
        raise GeometryError(
            "a shuttle is bored, and slides on something round: choose a rod or a round tube",
            *(Mend(row.name, _onto(row)) for row in rods[:3]),
        )
    places = _places(design, count)
    laid = lay(_pieces(design, kit, way, places), frames(way, np.zeros((1, 1))))
    return Overhead(way, places, laid)


def _onto(row: StockSection) -> tuple[tuple[str, float | str], ...]:
    """A shuttle on another rod, bored as much wider than it as is usual."""
    return (
        ("rail.section", row.id),
        ("rod.smallest", round(row.depth - ROUGH, 5)),
        ("rod.largest", round(row.depth + ROUGH / 4, 5)),
        ("shuttle.bore", round(row.depth + ROUGH, 5)),
    )


def _pieces(design: Design, kit: Carried, way: Straight, places: tuple[float, ...]) -> Pieces:
    """Rails on hangers, tied at both ends only so that the post passes; a carriage on wheels or a shuttle, and what
    hangs from it.
    """
    building = of_building(design)
    runs = _runs(design, way)
    x, y, z = (float(v) for v in way.mount)
    clamped = design.text("post.held") == CLAMPED_POLE
    post = drop_post(design, kit, CARRIAGE, runs.height - BOARD / 2, (x, y, z), way.heading, clamped=clamped)
    feet = tuple(Wanted(px, py, 0.0055, "post bracket", "post foot") for px, py in post.feet) if post else ()
    feet += tuple(Wanted(px, py, size, "the pole slides in it", "") for px, py, size in post.through) if post else ()
    hung = (
        *(() if building else _held_by(design, len(places), way.count)),
        Buy("Rated tether, steel wire with shackle", 1, 9.0, "to another part of the structure"),
        CORD,
    )
    beam = Pieces(loose=(Buy("End stop, clamped on the beam", 2 * way.count, 3.2, "what runs must not leave it"),))
    if not building:
        beam = rails(design, way, places, Held(HANGER_EYE, note="rail to its hangers"), crossings(way, places, 2))
    slides = Pieces(nested=((PLATE, POLE_NAME),))  # through its hole in the plate
    # A shuttle slides over all pieces of its rod.
    pieces = [part.name for part in beam.parts if part.name.startswith(f"{RAIL_NAME}, piece")]
    bored = tuple((piece, other) for rail, other in runs.pieces.nested if rail == RAIL_NAME for piece in pieces)
    beam = beam + Pieces(nested=bored)
    below = post.pieces + slides if post else Pieces()
    return beam + carriage(design, kit, way, runs, below, feet) + Pieces(loose=hung)


def _held_by(design: Design, places: int, rails: int) -> tuple[Buy, ...]:
    """What holds so many rails up at so many places, each by a hanger of its own,
    and what fixes it to the structure."""
    count, stamped = places * rails, "rated load stamped on it"
    hanger = Buy("Rated hanger with clamp", count, 7.5, stamped)
    if design.text("hanger.mount") in ON_WALL:
        reach = design.number("bracket.reach")
        clamp = "with a clamp" if rails == 1 else "with a clamp for each rail"
        bracket = Buy(f"Wall bracket, reaching {reach * 1e3:.0f} mm, {clamp}", places, 9.5, stamped)
        screws = Buy("Wood screw 5×60, 40 mm of it in the wood", 4 * places, 0.12, "brackets, into sound timber")
        plugs = Buy(
            "Plug and screw 8×80 for masonry", 4 * places, 0.45, "brackets, as its data sheet says for this wall"
        )
        return bracket, plugs if design.text("hanger.mount") == PLUGS else screws
    fixed = {
        "joists": Buy("Rated anchor for joists", count, 4.8, "as its data sheet says"),
        "beam": Buy("Rated beam clamp", count, 6.5, stamped),
        "grid": Buy("Rated pipe clamp with safety cable", count, 8.5, stamped),
    }
    found = fixed.get(design.text("hanger.mount"))
    return (hanger, found) if found else (hanger,)


def of_building(design: Design) -> bool:
    """Whether the rail is a beam or pipe that belongs to the building."""
    return design.variant != SHUTTLE and design.text("rail.is") == BUILDING


def _runs(design: Design, way: Straight) -> Runs:
    """Wheels, a block or two rods."""
    if design.variant != SHUTTLE:
        return on_wheels(design, way)
    return _bored(design, way) if design.text("shuttle.made") == BORED else _shuttle(design, way)


def _bored(design: Design, way: Straight) -> Runs:
    """Two rods bored across near their tops, the rail through both, the plate screwed under their lower ends.

    Raises GeometryError for a bore that leaves too little of a rod.
    """
    bore, guide, middle = design.number("shuttle.bore"), design.number("shuttle.guide"), -way.bar.depth / 2
    rod = Bar.of(design.catalogue, ROD, ABOVE + BELOW)
    wide = rod.stock.depth
    if bore > wide - 2 * LEFT:
        raise GeometryError(
            f"a bore of {bore * 1e3:.0f} mm leaves too little of a rod of {wide * 1e3:.0f} mm: take a bored block",
            Mend("A bored block", (("shuttle.made", BLOCK_MADE),)),
        )
    if guide < 2 * wide:
        raise GeometryError(
            "the two rods meet: make the guide longer", mend_at("Guide {} long", "shuttle.guide", 2 * wide + 0.03)
        )
    out = (guide - wide) / 2
    marks = (
        Mark(ABOVE, HOLE, bore, note="bore for the rail", face=SIDE),
        Mark(wide / 2, HOLE, 0.004, note="pilot for the screw", face=END),
    )
    part = Part(
        "S1",
        BORED_ROD,
        rod,
        tuple(Place(CARRIAGE, (x, 0.0, middle + ABOVE), DOWN, ACROSS) for x in (out, -out)),
        marks,
        "upper end",
        "bore both in one go, clamped to a fence",
    )
    holes = tuple(
        Wanted(x, 0.0, 0.0065, f"{'front' if x > 0 else 'rear'} screw into the rod", "rod screw") for x in (out, -out)
    )
    screw = Fastening("rod screw", (Buy("Coach screw 6×70", 1, 0.4, "plate up into the rods"),))
    made = Pieces((part,), (), (screw,), nested=((RAIL_NAME, BORED_ROD),))
    return Runs(holes, made, middle - BELOW - BOARD / 2, (guide, 0.1))


def _shuttle(design: Design, way: Straight) -> Runs:
    """What slides on the rod: a block with a bush in either end, or for a bore too wide for a board one turned or
    printed.
    """
    bore, guide, middle = design.number("shuttle.bore"), design.number("shuttle.guide"), -way.bar.depth / 2
    if bore > WIDEST_BORE:
        wide, flat = bore + 2 * WALL, "flat on one side for the plate"
        blank = Buy(
            "Blank for the shuttle, turned or printed",
            1,
            18.0,
            f"bore {bore * 1e3:.1f} mm, {wide * 1e3:.0f} mm across, {guide * 1e3:.0f} mm long",
        )
        turned = Turned(design.catalogue.materials["abs"], ((guide, wide),), bore)
        part = Part(
            "S1",
            "Shuttle, turned or printed",
            turned,
            (Place(CARRIAGE, (-guide / 2, 0.0, middle)),),
            datum="one end",
            matched=flat,
        )
        return on_a_block(guide, middle - wide / 2, Pieces((part,), loose=(blank,), nested=((RAIL_NAME, part.name),)))
    block, bored = Bar.of(design.catalogue, BLOCK, guide), "bore lengthwise through the middle, from both ends"
    part = Part(
        "S1",
        "Shuttle block",
        block,
        (Place(CARRIAGE, (-guide / 2, 0.0, middle), ALONG, ACROSS),),
        datum="one end",
        matched=bored,
    )
    bushes = Buy("Plain bush", 2, 4.5, f"bore {bore * 1e3:.1f} mm, one in each end of the block")
    return on_a_block(
        guide, middle - block.stock.width / 2, Pieces((part,), loose=(bushes,), nested=((RAIL_NAME, part.name),))
    )
