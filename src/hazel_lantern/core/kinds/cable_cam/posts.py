"""Posts that hold the ends of a rope: their pieces, what keeps sling and guys from sliding down them, what holds their
feet.
"""

from __future__ import annotations

import math

from msgspec.structs import replace

from hazel_lantern.core.catalogue import Bolt, StockSection
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.cable_cam.design import FRAME, POSTS
from hazel_lantern.core.kinds.cable_cam.model import GROUND, Cable
from hazel_lantern.core.kinds.shared.fixings import ANGLE, ANGLE_HOLE, ANGLE_SHEET, Axle
from hazel_lantern.core.kinds.shared.works import SHEAR_OF_STEEL, bears, bolt_bears, works
from hazel_lantern.core.nouns.figure import Given
from hazel_lantern.core.nouns.finding import PEOPLE, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.workshop.fasteners import bolt
from hazel_lantern.core.workshop.laid import Pieces
from hazel_lantern.core.workshop.marks import HOLE, LINE, Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part
from hazel_lantern.core.workshop.solids import TOP, Bar, Place, Sheet

POST, LEG, PLATE = "Post", "Leg of a frame", "Plate under a post"
THICK = 0.018  # metres of a plate
ABOVE_ROPE = 0.08  # metres of a post above where the rope leaves it
UNDER = 0.025  # metres from where the rope leaves a post down to the bolt that its sling and guys lie on
PROUD = 0.025  # metres that this bolt stands out of either side
M5_HOLE = 0.0055  # metres
SOUND = 0.8  # of what is allowed, so that the mended top is not told again
Leg = tuple[float, float, Place]  # length, how far up the rope leaves it [m], where it stands


def keeper(design: Design) -> Bolt:
    """The bolt through a post's top that sling and guys lie on, and through both legs of a frame where they cross."""
    row: Bolt = design.row("bolts", "post.keeper")
    return row


def posts(design: Design, cable: Cable) -> Pieces:
    """Posts, the two legs of a frame leaning together side by side; posts alike are one part."""
    legs = [leg for k, end in enumerate("ab") for leg in _legs(design, cable, k, end)]
    if not legs:
        return Pieces()
    row, parts = keeper(design), list[Part]()
    for long, rope_at, place in legs:
        leans = bool(place.along[1])
        name = LEG if leans else POST
        same = next((part for part in parts if part.name == name and abs(part.length - long) < 1e-9), None)
        if same is not None:
            parts[parts.index(same)] = replace(same, places=(*same.places, place))
            continue
        fixed = ("both legs, where they cross", "fork", 0.0) if leans else ("sling and guys lie on it", "keeper", UNDER)
        marks = (
            Mark(ANGLE_HOLE, HOLE, M5_HOLE, note="brackets of the foot", face=TOP, fastening="foot"),
            Mark(rope_at - fixed[2], HOLE, row.clear_close, note=fixed[0], face=TOP, fastening=fixed[1]),
            Mark(rope_at + UNDER if leans else rope_at, LINE, note="the rope leaves here", face=TOP),
            Mark(rope_at + ABOVE_ROPE / 2, LINE, note="guys lie round it here", face=TOP),
        )
        bar = Bar.of(design.catalogue, design.text("post.section"), long)
        sawn = f"foot sawn at {math.degrees(math.acos(place.along[2])):.0f}°, so that it stands flat" if leans else ""
        parts.append(Part(f"P{len(parts) + 3}", name, bar, (place,), marks, "foot", sawn))
    parts.append(_plate(design, legs))
    return Pieces(tuple(parts), (), _through(design, row), nested=((LEG, PLATE),))


def top_figures(design: Design, end: str, pressed: float, lean: float) -> Told:
    """What keeps sling and guys up: the bolt of a post's top, or of both legs of a frame, and the wall it bears on.

    pressed: what the post bears at its top at the worst [N]
    lean: of a leg of a frame, nought for one post [rad]
    """
    tell, named = Teller(), f"end {end.upper()}"
    given: tuple[Given, ...] = (Given("C", pressed, "N", "what the post bears", f"balance.pressed_{end}"),)
    share, name = pressed / 2, f"bolt under the guys, {named}"
    if lean:
        share, name = pressed / 2 * math.tan(lean), f"bolt through the legs, {named}"
        method = "half of it as the legs lean, across the bolt in its thread, between them"
        given = (*given, Given("a", lean, "rad", "a leg leans", "frame.spread"))
    else:
        method = "half of it on either side, in the middle of a tube pressed over the bolt, which bends with it"
    mend = _thicker(design, share, lean)
    works(
        tell,
        f"balance.keeper_{end}",
        name,
        _bolt_works(keeper(design), share, lean),
        _bolt_bears(design, lean),
        method,
        given,
        "post.keeper",
        source="statics 3, 13",
        about=PEOPLE,
        remedies=mend,
    )
    bar: StockSection = design.row("sections", "post.section")
    works(
        tell,
        f"balance.keeper_hole_{end}",
        f"wall at the {name}",
        _wall_works(keeper(design), bar, share, lean),
        bears(design, design.catalogue.materials[bar.material]),
        f"{'what a leg gives the other' if lean else 'all of it'} over the walls at the bolt",
        (*given, Given("t", bar.walls, "m", "walls together", "post.section")),
        "post.keeper",
        source="statics 13",
        about=PEOPLE,
        remedies=mend,
    )
    return tell.told()


def _bolt_bears(design: Design, lean: float) -> float:
    return (SHEAR_OF_STEEL if lean else 1.0) * bolt_bears(design)


def _bolt_works(row: Bolt, share: float, lean: float) -> float:
    """Stress of a bolt of a top [Pa]: in shear where legs lean, else bent with its tube."""
    if lean:
        return share / (math.pi / 4 * (row.d - 1.2269 * row.pitch) ** 2)
    return share * PROUD / 2 / Axle(row, PROUD, spacer=True).modulus


def _wall_works(row: Bolt, bar: StockSection, share: float, lean: float) -> float:
    """Pressure of the bolt in the walls of one post, which bears both shares, or of one leg [Pa]."""
    return (share if lean else 2 * share) / (row.d * bar.walls)


def _thicker(design: Design, share: float, lean: float) -> tuple[Remedy, ...]:
    """The thinnest bolt that bears it, on walls that bear it, and goes through the post."""
    bar: StockSection = design.row("sections", "post.section")
    bears_it, wall = _bolt_bears(design, lean), bears(design, design.catalogue.materials[bar.material])
    rows = [
        row
        for row in design.catalogue.bolts.values()
        if row.system == keeper(design).system
        and keeper(design).d < row.d
        and row.clear_close < bar.width / 2
        and _bolt_works(row, share, lean) <= SOUND * bears_it
        and _wall_works(row, bar, share, lean) <= SOUND * wall
    ]
    best = min(rows, key=lambda row: row.d, default=None)
    return (set_one("thicker", f"A bolt {best.id}", "post.keeper", best.id),) if best else ()


def _plate(design: Design, legs: list[Leg]) -> Part:
    """A plate under each, in its middle the bolt of its foot."""
    side, deep = design.number("post.plate"), design.row("sections", "post.section").depth
    places = []
    for *_, place in legs:
        x, y, _ = place.at
        places.append(Place(GROUND, (x - side / 2, y + ANGLE_HOLE * place.along[1], THICK / 2)))
    out = deep / 2 + ANGLE_HOLE
    marks = tuple(
        Mark(side / 2 + way * out, HOLE, M5_HOLE, note="bracket of the foot", face=TOP, fastening="plate bracket")
        for way in (-1, 1)
    )
    sheet = Sheet.rectangle(design.catalogue.materials["plywood"], THICK, side, side)
    return Part("P9", PLATE, sheet, tuple(places), marks, "one end")


def _through(design: Design, row: Bolt) -> tuple[Fastening, ...]:
    """What goes through their holes."""
    deep, m5 = design.row("sections", "post.section").depth, design.catalogue.bolts["M5"]
    spacers = f" with lock nut, washers and two tubes {PROUD * 1e3:.0f} mm over it"
    return (
        Fastening(
            "keeper", (bolt(row, deep + 2 * PROUD + 2 * row.washer_t, spacers, "under sling and guys of a post"),)
        ),
        Fastening(
            "fork", (bolt(row, 2 * deep + 2 * row.washer_t, note="legs of a frame, where they cross"),), reach=0.3
        ),
        Fastening(
            "foot",
            (
                bolt(m5, deep + 2 * ANGLE_SHEET + 2 * m5.washer_t, note="brackets of a foot, through it"),
                Buy(ANGLE, 2, 0.9, "a foot to its plate"),
            ),
        ),
        Fastening(
            "plate bracket",
            (bolt(m5, THICK + ANGLE_SHEET + 2 * m5.washer_t, note="brackets of a foot, its head let in below"),),
            reach=0.01,
        ),
    )


def _legs(design: Design, cable: Cable, k: int, end: str) -> list[Leg]:
    kind, high, x = design.text(f"anchor.{end}"), cable.ends[k] - THICK, (-0.5, 0.5)[k] * cable.span
    if kind not in POSTS:
        return []
    half = design.number("frame.spread") / 2 if kind == FRAME else 0.0
    beside = design.row("sections", "post.section").depth / 2 if half else 0.0
    lean = math.atan2(half, high)
    cos, sin = math.cos(lean), math.sin(lean)
    return [
        (
            (high + ABOVE_ROPE) / cos,
            high / cos,
            Place(GROUND, (x + side * beside, side * half, THICK), (0.0, -side * sin, cos), (1.0, 0.0, 0.0)),
        )
        for side in ((-1.0, 1.0) if half else (0.0,))
    ]
