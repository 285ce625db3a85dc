"""Gantries: a bridge across two runways, a trolley on it, and a boom that swings the camera out."""

from __future__ import annotations

import math

from msgspec.structs import asdict

from hazel_lantern.core.errors import InfeasibleError
from hazel_lantern.core.figure import Given, by_formula, by_method
from hazel_lantern.core.finding import CLEAR, PICTURE, STOP, Finding, Remedy, Words
from hazel_lantern.core.formula import Formula
from hazel_lantern.core.kinds.base import Action, Carried, Changes, Chapter, Design, Figures, Kind, Made, Reaches, View
from hazel_lantern.core.kinds.gantry.design import BOARDS, DECLARED, SCHOOLS, TOLD_APART_BY, VARIANTS
from hazel_lantern.core.kinds.gantry.drawing import draw
from hazel_lantern.core.kinds.gantry.model import POST, Gantry, build, follow, members, mount, reaches
from hazel_lantern.core.kinds.gantry.standing import standing_figures
from hazel_lantern.core.kinds.gantry.strength import bent_along, bent_at_worst, distance, strength_figures
from hazel_lantern.core.kinds.handling import hung_up
from hazel_lantern.core.kinds.headline import headlines
from hazel_lantern.core.kinds.moving import move_figures
from hazel_lantern.core.kinds.straight.parts import piece
from hazel_lantern.core.mechanics import overhead
from hazel_lantern.core.told import Teller, Told
from hazel_lantern.core.wanted import Move, Optics
from hazel_lantern.core.workshop.marks import Mark
from hazel_lantern.core.workshop.part import Buy

TRAVEL = Formula("L-c")
ACROSS = Formula("S-2*e")
REACH = 0.05


def _reach_figures(design: Design, move: Move, optics: Optics, gantry: Gantry) -> Told:
    """Travel, reach, mass, and whether the move fits."""
    tell, rig = Teller(), gantry
    want, have = move.floor_way, rig.travel[0]
    longer = math.ceil((want + rig.wheelbase + 0.02) * 20) / 20
    tell.add(
        by_formula("rig.travel", "Travel along the runways", "m", "rig", TRAVEL, (design.given("L", "runway.length", "runways", "m"), design.given("c", "bridge.wheelbase", "end wheels apart", "m")), source="geometry", headline=True),
        by_formula("rig.across", "Travel across", "m", "rig", ACROSS, (design.given("S", "span", "span", "m"), design.given("e", "trolley.edge", "left at each end", "m")), source="geometry"),
    )  # fmt: skip
    area, hole = overhead.reach_area(*rig.travel, rig.longest, rig.shortest)
    given = (
        design.given("r", "boom.longest", "boom drawn out", "m"),
        design.given("r_min", "boom.shortest", "boom pushed in", "m"),
        tell.given("A", "rig.travel"),
        tell.given("B", "rig.across"),
    )
    tell.add(
        by_method("rig.reach", "Reaches from above", area, "m^2:floor", "rig", "travel grown by the boom, less the hole it cannot reach", given, source="statics 8.1"),
        by_method("rig.hole", "Cannot reach inside", hole, "m^2:floor", "rig", "common part of four circles of the boom pushed in", given, source="statics 8.1"),
        by_method("rig.mass", "Everything weighs", rig.mass, "kg", "rig", "runways, bridge, trolley, boom, kit; posts not counted", (Given("m", rig.payload, "kg", "camera kit", "kit"),), source="catalogue"),
    )  # fmt: skip
    tell.take(move_figures(move, optics, min(want or have, have), "way of the bridge", ""))
    tell.findings.append(Finding("shot.travel", "Long enough for the move", PICTURE, CLEAR if want <= have + 1e-9 else STOP, want, have, "at_most", "m", "runway.length", "shot",
                                   Words("The move asks for {} of travel; the runways give {}.", ((want, "m"), (have, "m"))),
                                   (Remedy("longer", Words("Runways {}", ((longer, "m"),)), (("runway.length", longer),)),) if want > have and longer <= 8 else (), figure="rig.travel"))  # fmt: skip
    return tell.told()


def _size(move: Move, gantry: Gantry) -> Changes:
    """Runways long enough for the move, at the height it asks for. Raises InfeasibleError when no runway here is."""
    rig = gantry
    length = math.ceil((move.floor_way + rig.wheelbase + 0.02) * 20) / 20
    if length > 8:
        raise InfeasibleError(f"this move needs runways of {length:.2f} m; 8 m is the longest drawn here", longest=8.0)
    if abs(move.end_height_m - move.start_height_m) > REACH:
        raise InfeasibleError("a gantry keeps its height; the move rises")
    up = -rig.lens[0] if move.down else float(rig.lens[2])
    height = round(move.start_height_m - up + rig.drop + rig.bridge.depth / 2, 3)
    if not 0.3 <= height <= 4:
        raise InfeasibleError(f"the runways would have to lie at {height:.2f} m above the ground")
    return (("runway.length", max(0.4, length)), ("runway.height", height))


def _parts(design: Design, kit: Carried, gantry: Gantry) -> Made:
    rig = gantry
    held = tuple(Mark(p, "hole", 0.0065, note="post") for p in rig.posts)
    made = [
        piece(design, "W1", "Runway", rig.runway.id, rig.length, 2, held, "one end", "drill the pair together"),
        piece(design, "Q1", "Post", POST, rig.height, 2 * len(rig.posts), (), "foot", "all to one length"),
        piece(design, "X1", "Brace", "plywood-18x60", 0.9, 2 * len(rig.posts), (), "one end"),
        piece(design, "M1", "Boom", rig.boom.id, rig.longest + rig.tail, 1, (Mark(rig.tail, "hole", 0.0105, note="swing bolt"),), "tail end"),
    ]  # fmt: skip
    if design.variant == BOARDS:
        made.append(piece(design, "G1", "Bridge flange", "plywood-18x60", rig.span + 0.1, 2, (), "one end", "cut both together"))
        made.append(piece(design, "G2", "Bridge web", "plywood-18x100", rig.span + 0.1, 1, (), "one end"))
    else:
        bar = design.row("sections", "bridge.section")
        made.append(piece(design, "G1", "Bridge", bar.id, rig.span + 0.1, 1, tuple(Mark(0.05 + s * rig.span, "hole", 0.0085, note="end truck") for s in (0.0, 1.0)), "one end"))
    screws = 2 * math.ceil(rig.span / design.number("board.screws"))
    bought = (
        Buy(rig.wheel.name, 8, rig.wheel.price, rig.wheel.words), Buy("Axle bolt M8×45 with two nuts", 8, 0.9), Buy("End stop, rubber", 6, 0.8), Buy("Swing bolt M10 with thrust washers", 1, 4.5),
        Buy("Rated tether, steel wire with shackle", 1, 9.0, "to another part of the structure"), Buy(f"Camera screw {kit.socket_thread}", 1, 2.4),
        *((Buy("Wood screw 5×50", screws, 0.07, "bridge"),) if design.variant == BOARDS else ()),
    )  # fmt: skip
    return Made(tuple(made), bought)


def _headlines(design: Design, move: Move, optics: Optics, figures: Figures) -> dict[str, Words]:
    rig = Words(dict(VARIANTS)[design.variant].lower() + ", {} × {}", ((design.number("runway.length"), "m"), (design.number("span"), "m")))
    lines = {"balance": ("{} on a post", ("balance.post",)), "travel": ("sags {}, picture {}", ("travel.drop", "travel.shift"))}
    return headlines(move, optics, figures, move.floor_way, rig, lines)


KIND = Kind(
    **asdict(DECLARED),
    views=(View("side", "Side"), View("above", "Above")),
    actions=(Action("rig", "Size it for me", _size),),
    model=Chapter("gantry", build),
    chapters=(
        Chapter("reach", _reach_figures),
        Chapter("away", distance),
        Chapter("bent_at_worst", bent_at_worst),
        Chapter("bent_along", bent_along),
        Chapter("strength", strength_figures),
        Chapter("standing", standing_figures),
    ),
    follow=follow,
    mount=mount,
    members=members,
    sketch=draw,
    parts=Chapter("made", _parts),
    headlines=_headlines,
    stations=("shot", "rig", "balance", "travel", "build"),
    readings={"loading": hung_up},
    schools=SCHOOLS,
    told_apart_by=TOLD_APART_BY,
    reaches=Reaches(reaches, "boom.longest"),
)
