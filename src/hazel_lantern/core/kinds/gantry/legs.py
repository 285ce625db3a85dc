"""What keeps a gantry from swaying: braces from its posts up to the runways, raking legs to either side."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.catalogue import Catalogue, StockSection
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.gantry.model import FRAME, POST, Gantry
from hazel_lantern.core.workshop.fasteners import bolt
from hazel_lantern.core.workshop.laid import Pieces
from hazel_lantern.core.workshop.marks import Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part, ReadyMade
from hazel_lantern.core.workshop.solids import ALONG, END, TOP, UP, Bar, Block, Place, Sheet

BALLAST = "Ballast"
STRIP, LEG = "plywood-18x60", "pine-28x45"
THICK = 0.018
IN = 0.035  # metres from a runway's end to the middle of its post, whose outer face is flush with it
EDGE = 0.03  # metres from a piece's end to its hole
WHEEL_IN = 0.022  # metres from a truck's outer edge to the line of its wheels
TRUCK_IN = 0.024  # metres from the inner edge of a truck's board to the bridge's bolt
BESIDE_RUNWAY = 0.004  # metres between a runway and the bridge's end
LONGEST_BRACE = 0.84  # metres from hole to hole
HALF = math.sqrt(0.5)
BOLT = 0.0064
LEAST_PACKING = 5e-4  # metres that a bolt pulls together without
SHARE = 0.62  # of a post's height at which its raking leg is bolted to it


class Legs(Struct, frozen=True):
    """Where posts stand along the runways [m], how far each brace reaches along its runway, backwards below zero [m],
    height of the post, of its bolt for the brace and of that for the raking leg [m], how far the leg's foot stands out
    [m].
    """

    places: tuple[float, ...]
    reaches: tuple[float, ...]
    height: float
    brace: float
    leg: float
    out: float

    @property
    def leg_long(self) -> float:
        """From the leg's bolt at the post to that at its foot [m]."""
        return math.hypot(self.out, self.leg - EDGE)


def legs_of(rig: Gantry) -> Legs:
    """The legs of a gantry."""
    places = [min(max(p, IN), rig.length - IN) for p in rig.posts]
    apart = (rig.length - 2 * IN) / (len(places) - 1)
    height = rig.height - rig.runway.depth
    # From post to runway at half a right angle, no further than the next post's brace.
    over = min(LONGEST_BRACE * HALF, 0.9 * height, 0.45 * apart)
    reaches = tuple(over if p <= rig.length / 2 + 1e-9 else -over for p in places)
    brace = rig.height - rig.runway.depth / 2 - over
    return Legs(tuple(places), reaches, height, brace, max(SHARE * height, 2 * EDGE), rig.rake)


def frame_pieces(design: Design, rig: Gantry) -> Pieces:
    """Runways, posts under them, a brace from each post up to its runway, a raking leg to its side with a tie between
    their feet, bags of ballast.
    """
    catalogue, half, side, legs = design.catalogue, rig.length / 2, rig.span / 2, legs_of(rig)
    runway, post = Bar.of(catalogue, rig.runway.id, rig.length), Bar.of(catalogue, POST, legs.height)
    sides = (-side, side)
    marks = sorted(
        (
            *(Mark(p, "hole", 0.0065, note="post", face=TOP, fastening="post") for p in legs.places),
            *(
                Mark(p + reach, "hole", BOLT, note="brace", fastening="brace to runway")
                for p, reach in zip(legs.places, legs.reaches, strict=True)
            ),
        ),
        key=lambda mark: mark.at,
    )
    raked = (
        (
            Mark(EDGE, "hole", BOLT, note="tie to the leg", face=TOP, fastening="tie to post"),
            Mark(legs.leg, "hole", BOLT, note="raking leg", face=TOP, fastening="leg to post"),
        )
        if legs.out
        else ()
    )
    post_marks = (
        *raked,
        Mark(legs.brace, "hole", BOLT, note="brace", fastening="brace to post"),
        Mark(post.stock.width / 2, "hole", 0.004, note="pilot for the screw", face=END, fastening="post"),
    )
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
            tuple(Place(FRAME, (p - half, s, 0.0), UP, ALONG) for p in legs.places for s in sides),
            tuple(sorted(post_marks, key=lambda mark: mark.at)),
            "foot",
            "all to one length",
        ),
        _braces(catalogue, rig, legs, post.stock),
        *(_raking(catalogue, rig, legs, post.stock) if legs.out else ()),
    )
    bags = (
        ReadyMade(
            BALLAST,
            Block((0.3, 0.2, 0.1)),
            design.number("foot.ballast"),
            "weight",
            tuple(Place(FRAME, (p - half, s, 0.05)) for p in rig.posts for s in sides),
        ),
    )
    return Pieces(parts, bags, _fastenings(catalogue, rig, post.stock))


def _braces(catalogue: Catalogue, rig: Gantry, legs: Legs, post: StockSection) -> Part:
    """A brace from each post up to its runway, along the travel."""
    half, over = rig.length / 2, abs(legs.reaches[0])
    brace = Sheet.of(catalogue, STRIP, over / HALF + 2 * EDGE)
    ends = tuple(
        Mark(at, "hole", BOLT, note=to, face=TOP, fastening=f"brace to {to}")
        for at, to in ((EDGE, "post"), (brace.length - EDGE, "runway"))
    )
    outside = max(post.width, rig.runway.width) / 2 + THICK / 2
    places = []
    for p, reach in zip(legs.places, legs.reaches, strict=True):
        way = math.copysign(HALF, reach)
        start = (p - half - math.copysign(EDGE * HALF, reach), legs.brace - EDGE * HALF)
        for s in (-rig.span / 2, rig.span / 2):
            at, out = (start[0], s + math.copysign(outside, s), start[1]), (0.0, math.copysign(1.0, s), 0.0)
            places.append(Place(FRAME, at, (way, 0.0, HALF), out))
    return Part("X1", "Brace", brace, tuple(places), ends, "lower end", "drill all together")


def _raking(catalogue: Catalogue, rig: Gantry, legs: Legs, post: StockSection) -> tuple[Part, Part]:
    """A leg from the face of each post out to its side, and a tie along the ground to its foot on the other face."""
    half, run = rig.length / 2, legs.leg_long
    dy, dz = legs.out / run, (legs.leg - EDGE) / run
    leg, tie = Sheet.of(catalogue, LEG, run + 2 * EDGE), Sheet.of(catalogue, STRIP, legs.out + 2 * EDGE)
    face, beyond = post.depth / 2 + leg.thickness / 2, post.depth / 2 + leg.thickness + THICK / 2
    upright, flat = [], []
    for p in legs.places:
        # Inwards of the end posts there is room for both.
        inwards = 1.0 if p <= half else -1.0
        for s in (-1.0, 1.0):
            foot = (p - half + inwards * face, s * (rig.span / 2 + legs.out + EDGE * dy), EDGE - EDGE * dz)
            upright.append(Place(FRAME, foot, (0.0, -s * dy, dz), (1.0, 0.0, 0.0)))
            start = (p - half + inwards * beyond, s * (rig.span / 2 - EDGE), EDGE)
            flat.append(Place(FRAME, start, (0.0, s, 0.0), (1.0, 0.0, 0.0)))
    ends = (
        Mark(EDGE, "hole", BOLT, note="tie", face=TOP, fastening="tie to leg"),
        Mark(leg.length - EDGE, "hole", BOLT, note="post", face=TOP, fastening="leg to post"),
    )
    both = (
        Mark(EDGE, "hole", BOLT, note="post", face=TOP, fastening="tie to post"),
        Mark(tie.length - EDGE, "hole", BOLT, note="leg", face=TOP, fastening="tie to leg"),
    )
    return (
        Part(
            "K1",
            "Raking leg",
            leg,
            tuple(upright),
            ends,
            "foot",
            f"drill all together; saw the foot at {math.degrees(math.atan2(legs.out, legs.leg - EDGE)):.0f}° from "
            "square",
        ),
        Part(
            "N1",
            "Foot tie",
            tie,
            tuple(flat),
            both,
            "post end",
            "pack it out to the post with an offcut as thick as the leg",
        ),
    )


def _fastenings(catalogue: Catalogue, rig: Gantry, post: StockSection) -> tuple[Fastening, ...]:
    m6 = catalogue.bolts["M6"]
    washers, thick = 2 * m6.washer_t, catalogue.sections[LEG].width
    # A brace stands on the wider of post and runway, off the other.
    widest = max(post.width, rig.runway.width)
    off_post, off_runway = (widest - post.width) / 2, (widest - rig.runway.width) / 2
    packed = max(off_post, off_runway)
    packing = (
        (Buy(f"Packing, {round(packed * 1e3, 1):g} mm thick, drilled for M6", 1, 0.3, "under a brace"),)
        if packed > LEAST_PACKING
        else ()
    )
    through = [
        # From the middle of what is joined first to that of what is joined last, and a hair.
        Fastening(key, (bolt(m6, stack + washers, note=note), *(packing if off else ())), reach=stack / 2 + 0.03)
        for key, stack, off, note in (
            ("brace to post", THICK + off_post + post.width, off_post, "braces to posts"),
            ("brace to runway", THICK + off_runway + rig.runway.width, off_runway, "braces to runways"),
            ("leg to post", thick + post.depth, 0.0, "raking legs to posts"),
            ("tie to post", THICK + thick + post.depth, 0.0, "foot ties to posts"),
            ("tie to leg", THICK + thick, 0.0, "foot ties to raking legs"),
        )
    ]
    screw = Buy(
        f"Coach screw 6×{math.ceil((rig.runway.depth + 0.05) * 100) * 10}", 1, 0.45, "runway down into its post"
    )
    return Fastening("post", (screw,)), *through


def inset(rig: Gantry) -> float:
    """How far before the middle of a runway the bridge ends, so that it passes beside it [m]."""
    return rig.runway.width / 2 + BESIDE_RUNWAY


def truck_wide(rig: Gantry) -> float:
    """How wide a truck's board is across: from over the runway to past the bridge's bolt [m]."""
    return max(rig.truck, WHEEL_IN + inset(rig) + EDGE + TRUCK_IN)
