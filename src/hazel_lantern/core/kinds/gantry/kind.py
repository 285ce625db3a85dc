"""Gantries: a bridge across two runways, a trolley on it, and a boom that swings the camera out."""

from __future__ import annotations

import math

from msgspec.structs import asdict

from hazel_lantern.core.kinds.base import Action, Changes, Chapter, Design, Figures, Kind, Reaches, View
from hazel_lantern.core.kinds.gantry.design import DECLARED, SCHOOLS, TOLD_APART_BY, VARIANTS
from hazel_lantern.core.kinds.gantry.drawing import draw
from hazel_lantern.core.kinds.gantry.driven import meets
from hazel_lantern.core.kinds.gantry.foreseen import foreseen, tested
from hazel_lantern.core.kinds.gantry.model import TROLLEY, Gantry, falls, follow, frames, members, mount, reaches
from hazel_lantern.core.kinds.gantry.parts import build
from hazel_lantern.core.kinds.gantry.standing import standing_figures
from hazel_lantern.core.kinds.gantry.strength.bending import bent_along, bent_at_worst, bent_both, bent_without
from hazel_lantern.core.kinds.gantry.strength.boom import boom_figures
from hazel_lantern.core.kinds.gantry.strength.construction import construction_figures
from hazel_lantern.core.kinds.gantry.strength.map import sag_map
from hazel_lantern.core.kinds.gantry.strength.running import running_figures
from hazel_lantern.core.kinds.gantry.strength.sway import limits, sway_figures
from hazel_lantern.core.kinds.gantry.strength.verdicts import distance, strength_figures
from hazel_lantern.core.kinds.shared.clearing import Way, among, clearing_by
from hazel_lantern.core.kinds.shared.drop_post import post_figures
from hazel_lantern.core.kinds.shared.handling import hung_up
from hazel_lantern.core.kinds.shared.headline import headlines
from hazel_lantern.core.kinds.shared.lead import drawn
from hazel_lantern.core.kinds.shared.moving import long_enough, move_figures
from hazel_lantern.core.kinds.shared.weighed import weighed
from hazel_lantern.core.mechanics import overhead
from hazel_lantern.core.mechanics.footing import knock_default
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Laid

TRAVEL = Formula("L-c")
ACROSS = Formula("S-2*e")
REACH = 0.05
LONGEST = 8.0  # metres of runway


def _reach_figures(design: Design, move: Move, optics: Optics, gantry: Gantry) -> Told:
    """Travel, reach, mass, and whether the move fits."""
    tell, rig = Teller(), gantry
    want, have = move.floor_way, rig.travel[0]
    longer = math.ceil((want + rig.wheelbase + 0.02) * 20) / 20
    tell.add(
        by_formula(
            "rig.travel",
            "Travel along the runways",
            "m",
            TRAVEL,
            (
                design.given("L", "runway.length", "runways", "m"),
                design.given("c", "bridge.wheelbase", "end wheels apart", "m"),
            ),
            source="geometry",
            headline=True,
        ),
        by_formula(
            "rig.across",
            "Travel across",
            "m",
            ACROSS,
            (design.given("S", "span", "span", "m"), design.given("e", "trolley.edge", "left at each end", "m")),
            source="geometry",
        ),
    )
    area, hole = overhead.reach_area(*rig.travel, rig.longest, rig.shortest)
    given = (
        design.given("r", "boom.longest", "boom drawn out", "m"),
        design.given("r_min", "boom.shortest", "boom pushed in", "m"),
        tell.given("A", "rig.travel"),
        tell.given("B", "rig.across"),
    )
    tell.add(
        by_method(
            "rig.reach",
            "Reaches from above",
            area,
            "m^2:floor",
            "travel grown by the boom, less the hole it cannot reach",
            given,
            source="statics 8.1",
        ),
        by_method(
            "rig.hole",
            "Cannot reach inside",
            hole,
            "m^2:floor",
            "common part of four circles of the boom pushed in",
            given,
            source="statics 8.1",
        ),
        by_method(
            "rig.mass",
            "Everything weighs",
            rig.laid.mass,
            "kg",
            "posts with their ballast, braces, runways, bridge, trolley, boom, drop post, kit",
            (Given("m", rig.payload, "kg", "camera kit", "kit"),),
            source="catalogue",
        ),
    )
    tell.take(move_figures(move, optics, min(want or have, have), "way of the bridge", ""))
    tell.findings.append(long_enough(want, have, "runways", "runway.length", longer, LONGEST))
    return tell.told()


def _weighed(design: Design, laid: Laid) -> Told:
    return weighed(design, laid, TROLLEY, "trolley.mass", "Trolley")


def _post_figures(design: Design, laid: Laid, gantry: Gantry) -> Told:
    """The drop post when somebody runs into the camera."""
    push = knock_default(gantry.tip * GRAVITY)
    return post_figures(design, laid, gantry.tip, push, 0.0, ("camera.drop", 1.0), "runway.height")


def _size(move: Move, gantry: Gantry) -> Changes:
    """Runways long enough for the move, at the height it asks for. Raises InfeasibleError when no runway here is."""
    rig = gantry
    length = math.ceil((move.floor_way + rig.wheelbase + 0.02) * 20) / 20
    if length > LONGEST:
        raise InfeasibleError(
            f"this move needs runways of {length:.2f} m; {LONGEST:.0f} m is the longest drawn here", longest=LONGEST
        )
    if abs(move.end_height_m - move.start_height_m) > REACH:
        raise InfeasibleError("a gantry keeps its height; the move rises")
    up = -rig.lens[0] if move.down else float(rig.lens[2])
    height = round(move.start_height_m - up + rig.drop + rig.bridge.depth / 2, 3)
    if not 0.3 <= height <= 4:
        raise InfeasibleError(f"the runways would have to lie at {height:.2f} m above the ground")
    return (("runway.length", max(0.4, length)), ("runway.height", height))


def _headlines(design: Design, move: Move, optics: Optics, figures: Figures) -> dict[str, Words]:
    rig = Words(
        dict(VARIANTS)[design.variant].lower() + ", {} × {}",
        ((design.number("runway.length"), "m"), (design.number("span"), "m")),
    )
    lines = {
        "balance": ("{} on a post", ("balance.post",)),
        "travel": ("sags {}, picture {}", ("travel.drop", "travel.shift")),
    }
    return headlines(move, optics, figures, move.floor_way, rig, lines)


def _lead_figures(design: Design, gantry: Gantry) -> Told:
    """The lead to its camera, in loops along a runway and the bridge."""
    way = gantry.travel[1] - gantry.travel[0] + gantry.span
    push = gantry.wheel.rolling_high * GRAVITY * (gantry.trolley + gantry.payload + gantry.counter)
    return drawn(design, way, gantry.height - gantry.drop, push, hung=True, by="runway.length", over=gantry.height)


CLEARING = (
    Way("camera.drop", "Mount {} below the bridge", 0.03, high=2.0, matters=among("camera kit", "drop post")),
    Way("bridge.wheelbase", "End wheels {} apart", 0.04, high=2.0),
    Way("trolley.wheelbase", "Wheels of the trolley {} apart", 0.03, high=1.0),
    Way("runway.length", "Runways {}", 0.05, high=6.0, matters=among("brace")),
    Way("boom.tail", "Counterweight {} behind", 0.04, high=2.0, matters=among("counterweight")),
)

KIND = Kind(
    **asdict(DECLARED),
    views=(View("side", "Side"), View("above", "Above")),
    actions=(Action("rig", "Size it for me", _size),),
    model=Chapter("gantry", build),
    chapters=(
        Chapter("reach", _reach_figures),
        Chapter("weighed", _weighed),
        Chapter("post", _post_figures),
        Chapter("boom", boom_figures),
        Chapter("away", distance),
        Chapter("bent_both", bent_both),
        Chapter("bent_at_worst", bent_at_worst),
        Chapter("bent_without", bent_without),
        Chapter("bent_along", bent_along),
        Chapter("strength", strength_figures),
        Chapter("construction", construction_figures),
        Chapter("running", running_figures),
        Chapter("sway", sway_figures),
        Chapter("lead", _lead_figures),
        Chapter("standing", standing_figures),
    ),
    follow=follow,
    limits=limits,
    held=meets,
    clearing=clearing_by(build, frames, *CLEARING),
    tested=tested,
    mount=mount,
    members=members,
    bodies=frames,
    sketch=draw,
    headlines=_headlines,
    stations=("shot", "rig", "balance", "travel", "build"),
    readings={"loading": hung_up, "sag": sag_map, "foreseen": foreseen},
    schools=SCHOOLS,
    told_apart_by=TOLD_APART_BY,
    falls=falls,
    reaches=Reaches(reaches, "boom.longest"),
)
