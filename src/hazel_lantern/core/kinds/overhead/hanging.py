"""What holds an overhead rail: who is below, the anchors, brackets, the tether, and a bored shuttle's play."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.overhead.design import CLAMPED_POLE
from hazel_lantern.core.kinds.overhead.model import ON_WALL, PLUGS, of_building
from hazel_lantern.core.kinds.rail.bends import Ride
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.kinds.shared.hung import caution, refusal, tether_figures
from hazel_lantern.core.kinds.shared.inputs import HELD_BY
from hazel_lantern.core.kinds.shared.steadied import through_head
from hazel_lantern.core.mechanics import carriage, overhead
from hazel_lantern.core.mechanics.safety import safety_class
from hazel_lantern.core.motion.wanted import Optics
from hazel_lantern.core.nouns.errors import RefusedError
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, PICTURE, STOP, STRUCTURE, WATCH, Finding, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics import lens
from hazel_lantern.core.workshop.laid import Laid

SAFE = Formula("L/(4*mu)")
ROOM = Formula("bore-rod")
PLAY = Formula("atan2(bore-rod,guide)")
BREAKS = Formula("k*sqrt(R**2 + F**2)")
BOTH = Formula("F/F_ax + V/F_v")
SHAKEN = 2.0  # of a hanging camera's weight, workshop judgement
ANCHOR = 8.0
SCREW, THREAD = 0.005, 0.04  # metres, of the screws a bracket is judged by
ABREAST = 0.05  # metres between the two screws of a row
BORE_ROOM = 0.0003  # metres that a bore is wider than the thickest place of its rod


def hanging_figures(design: Design, rail: Straight, ride: Ride, laid: Laid) -> Told:
    """Refusals first, then forces at the hangers, brackets and the tether."""
    tell = Teller()
    building = of_building(design)
    mount = "beam of the building" if building else dict(HELD_BY)[design.text("hanger.mount")]
    try:
        safety_class(design.text("safety"))
        overhead.check_mount(mount, "over people" if design.text("below") == "people" else "kept clear", rail.moving)
    except RefusedError as error:
        where = "below" if design.text("below") == "people" else "hanger.mount"
        tell.findings.append(refusal(where, str(error)))
    tell.findings.append(
        caution(laid.mass, "rated anchors into structure, a second path, nothing over people, no adhesive", "rig.mass")
    )
    # Two rails are held each by its own: taken as if one held all of a place, or more where the load is beside both.
    most, least = float(ride.reactions.max()), float(ride.reactions.min())
    pull, up = most * max(1.0, rail.share), least if rail.share <= 1 else min(least, (1 - rail.share) * most)
    brake = rail.moving * design.number("push.brake")
    given = (
        Given("W", rail.weight, "N", "trolley and camera kit", "kit"),
        design.given("n", "hanger.count", "hangers", "count"),
    )
    tell.add(
        by_method(
            "balance.hanger",
            "Most a hanger carries",
            pull,
            "N",
            "largest reaction along the travel" + ("; of a pair, as if one held it all" if rail.count == 2 else ""),
            given,
            source="statics 4.3",
            headline=True,
        ),
        by_method(
            "balance.hanger_up",
            "Least a hanger carries",
            up,
            "N",
            "least reaction along the travel; minus presses up",
            given,
            source="statics 4.3",
        ),
        by_formula(
            "balance.anchor",
            "Breaking load to ask of an anchor",
            "N",
            BREAKS,
            (
                Given("k", ANCHOR, "1", "overhead, class D"),
                Given("R", pull, "N", "most a hanger carries", "balance.hanger"),
                Given("F", brake, "N", "hard stop, all of it on one hanger", "push.brake"),
            ),
            source="statics 9, class D",
        ),
    )
    tell.hold(
        "balance.hanger_up",
        "balance.pushes_up",
        "Hangers stay pulled",
        PEOPLE,
        "support.inset",
        Words(
            "With the trolley at one end a hanger is pushed up with {}: a rod or rope lets go."
            if up < 0
            else "Every hanger stays pulled, by {} at least.",
            ((abs(up), "N"),),
        ),
        at_least=0.0,
        state=STOP if up < 0 else CLEAR,
        remedies=(set_one("out", "First hanger {} from the end", "support.inset", outward, "m"),)
        if (outward := round(max(0.0, rail.low - abs(float(rail.cg[0]))), 3)) < design.number("support.inset")
        else (),
    )
    if building:
        tell.findings.append(_owner(laid.mass))
    elif design.text("hanger.mount") in ON_WALL:
        tell.take(_bracket(design, pull, brake))
    if design.text("post.held") == CLAMPED_POLE:
        _pole(tell, design, rail)
    tell.take(tether_figures(design, rail.moving, "trolley and camera kit"))
    return tell.told()


def _owner(mass: float) -> Finding:
    """What belongs to the building is not ours to judge."""
    words = Words(
        "{} hang on a beam that belongs to the building: ask who answers for it what it may carry, in writing, and "
        "keep to it.",
        ((mass, "kg"),),
    )
    return Finding(
        "balance.owner",
        "Beam of the building",
        PEOPLE,
        WATCH,
        "rail.is",
        words,
        mass,
        0.0,
        "at_most",
        "kg",
        figure="rig.mass",
    )


def _pole(tell: Teller, design: Design, rail: Straight) -> None:
    """Whether the clamps keep the pole from sliding down through them."""
    pulls = SHAKEN * rail.weight
    tell.add(
        by_method(
            "balance.pole",
            "A pole clamp must hold",
            pulls,
            "N",
            "twice all that moves, on one clamp",
            (Given("W", rail.weight, "N", "trolley and camera kit", "kit"),),
            source="statics 8.4",
        )
    )
    better = float(math.ceil(1.3 * pulls))
    tell.hold(
        "balance.pole",
        "balance.pole_slips",
        "Pole in its clamps",
        PEOPLE,
        "post.grip",
        "A shaken camera asks a clamp to hold {}; these hold {}. A pin through the pole above its clamp cannot slip.",
        at_most=design.number("post.grip"),
        remedies=(set_one("grip", "Clamps that hold {}", "post.grip", better, "N"),) if better <= 5000 else (),
    )


def _bracket(design: Design, pull: float, brake: float) -> Told:
    """Screws of a wall bracket: a screening."""
    tell = Teller()
    high, reach = design.number("bracket.height"), design.number("bracket.reach")
    heights = (high / 6, high / 6, high, high)
    down = overhead.bracket_screws(pull * reach, pull, heights)
    # A stop along the wall turns the bracket about an upright line: two screws on either side of it.
    aside = brake * reach / (2 * ABREAST)
    given = (
        Given("V", pull, "N", "load of the bracket", "balance.hanger"),
        design.given("a", "bracket.reach", "reach", "m"),
        design.given("y", "bracket.height", "upper screws", "m"),
        Given("F", brake, "N", "hard stop along the wall", "push.brake"),
    )
    tell.add(
        by_method(
            "balance.screw",
            "Pull on an upper screw",
            down.pull + aside,
            "N",
            "M y / Σ y², plate turning about its lower edge, and a hard stop turning it sideways on screws 50 mm apart",
            given,
            assumptions=("screening only, never certified", "two screws low, two high"),
            source="statics 8.3",
        )
    )
    pine, plugged = design.catalogue.materials["pine"].density, design.text("hanger.mount") == PLUGS
    bears = design.number("plug.holds") if plugged else overhead.screw_withdrawal(pine, SCREW, THREAD)
    shears = bears if plugged else overhead.screw_shear(pine, SCREW, THREAD)
    sort = "a plug in this wall" if plugged else "a 5 mm screw 40 mm deep in sound softwood"
    shear = math.hypot(down.shear, brake / 4)
    tell.add(
        by_formula(
            "balance.screw_use",
            "An upper screw is used to",
            "1",
            BOTH,
            (
                tell.given("F", "balance.screw"),
                Given("F_ax", bears, "N", f"{sort} may be pulled with"),
                Given("V", shear, "N", "pushed across with", "balance.hanger"),
                Given("F_v", shears, "N", "and may be pushed with"),
            ),
            source="statics 8.3",
        )
    )
    worst = 1.0 / max(tell.value("balance.screw_use"), 1e-9)
    tall = round(min(0.6, high * max(1.3, 1.3 / worst)), 3)
    tell.hold(
        "balance.screw_use",
        "balance.screws",
        "Screws of a bracket",
        PEOPLE,
        "bracket.height",
        f"Pull and shear together use an upper screw to {{}} of {{}}: {sort}. Screening only; have a competent "
        "person check.",
        at_most=1.0,
        remedies=(set_one("taller", "Upper screws {} up", "bracket.height", tall, "m"),) if tall > high else (),
    )
    return tell.told()


def shuttle_figures(design: Design, kit: Carried, optics: Optics, rail: Straight) -> Told:
    """A bored shuttle: whether it sticks like a drawer, passes the thickest place,
    and what its play does to the picture."""
    tell = Teller()
    tell.take(_slides(design, rail))
    tell.take(_passes(design))
    if design.number("shuttle.bore") > design.number("rod.smallest"):
        tell.take(_plays(design, kit, optics))
    return tell.told()


def _slides(design: Design, rail: Straight) -> Told:
    """Pushed off the rod, a short guide jams like a drawer."""
    tell, number = Teller(), design.number
    guide = number("shuttle.guide")
    square, uphill = rail.weight * math.cos(rail.slope), rail.weight * abs(math.sin(rail.slope))
    state = carriage.shuttle(
        square, float(rail.cg[0]), number("shuttle.offset"), guide, number("shuttle.friction"), uphill
    )
    given = (
        design.given("L", "shuttle.guide", "guide length", "m"),
        design.given("mu", "shuttle.friction", "friction", "1"),
        design.given("e", "shuttle.offset", "pushed off the rod", "m"),
    )
    if not state.jams:
        tell.add(
            by_method(
                "travel.drive",
                "Push it with",
                state.force,
                "N",
                "friction at both ends of the guide, uphill where the rail rises",
                given,
                source="statics 5.3",
            )
        )
    tell.add(
        by_formula(
            "travel.safe",
            "Slides when pushed within",
            "m",
            SAFE,
            given[:2],
            assumptions=("half of where it jams",),
            source="statics 5.3",
        )
    )
    safe = tell.value("travel.safe")
    off = abs(number("shuttle.offset"))
    longer = round(min(0.6, 4 * number("shuttle.friction") * off * 1.02), 3)
    tell.hold(
        "travel.safe",
        "travel.jams",
        "Shuttle slides",
        STRUCTURE,
        "shuttle.guide",
        "Pushed {} off the rod it jams; {} is safe." if state.jams else "Pushed {} off the rod it slides; {} is safe.",
        at_most=safe,
        value=off,
        state=STOP if state.jams else WATCH if off > safe else CLEAR,
        remedies=(
            set_one("guide", "Guide {} long", "shuttle.guide", longer, "m"),
            set_one("near", "Push {} off the rod", "shuttle.offset", round(safe * 0.95, 3), "m"),
        )
        if off > safe
        else (),
    )
    return tell.told()


def _passes(design: Design) -> Told:
    """Bore against the rod where it is thickest."""
    tell = Teller()
    tell.add(
        by_formula(
            "build.bore_room",
            "Bore over the thickest place",
            "m",
            ROOM,
            (
                design.given("bore", "shuttle.bore", "bore", "m"),
                design.given("rod", "rod.largest", "rod, thickest", "m"),
            ),
            source="sizes",
        )
    )
    clearance = tell.value("build.bore_room")
    wider = round(design.number("rod.largest") + BORE_ROOM, 5)
    tell.hold(
        "build.bore_room",
        "build.bore",
        "Shuttle on the thickest place",
        STRUCTURE,
        "shuttle.bore",
        Words(
            "The bore is {} wider than the rod's thickest place."
            if clearance > 0
            else "The bore is {} narrower than the rod's thickest place: it will not pass.",
            ((abs(clearance), "m"),),
        ),
        at_least=1e-4,
        state=STOP if clearance <= 0 else WATCH if clearance < 1e-4 else CLEAR,
        remedies=(set_one("bore", "Bore it {}", "shuttle.bore", wider, "m"),)
        if clearance < 1e-4 and wider <= 0.12
        else (),
    )
    return tell.told()


def _plays(design: Design, kit: Carried, optics: Optics) -> Told:
    """Where the rod is thinnest the shuttle nods, and the picture with it."""
    tell, guide = Teller(), design.number("shuttle.guide")
    tell.add(
        by_formula(
            "travel.play",
            "Play lets it nod by",
            "rad",
            PLAY,
            (
                design.given("bore", "shuttle.bore", "bore", "m"),
                design.given("rod", "rod.smallest", "rod, thinnest", "m"),
                design.given("guide", "shuttle.guide", "guide length", "m"),
            ),
            source="geometry",
        )
    )
    pixels = lens.focal_pixels(optics.focal_m, optics.pixels_high, optics.sensor_height_m) * float(
        np.tan(kit.turning * tell.value("travel.play"))
    )
    tell.add(
        by_method(
            "travel.play_px",
            "and the picture by",
            pixels,
            "px",
            "F tan of the play",
            (tell.given("phi", "travel.play"), *((through_head(kit.turning),) if kit.turning < 1 else ())),
            source="drive 5.2",
        )
    )
    limit = 0.01 * optics.pixels_high
    tell.hold(
        "travel.play_px",
        "travel.loose",
        "Play in the picture",
        PICTURE,
        "shuttle.bore",
        Words(
            "Where the rod is thinnest the play moves the picture by {}: good for setting a place, not for moving "
            "shots.",
            ((pixels, "px"),),
        )
        if pixels > limit
        else Words("The play moves the picture by {}.", ((pixels, "px"),)),
        at_most=limit,
        remedies=(set_one("longer", "Guide {} long", "shuttle.guide", min(0.6, 2 * guide), "m"),)
        if pixels > limit and guide < 0.6
        else (),
    )
    return tell.told()
