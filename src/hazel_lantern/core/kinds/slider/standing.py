"""Whether the slider stands: with the carriage at both ends, left alone and bumped; what each stand carries."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.rail.bends import Ride
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.kinds.rail.parts import CARRIAGE, RAIL
from hazel_lantern.core.kinds.shared.home_built import built_figures
from hazel_lantern.core.kinds.shared.stand import stand_fits
from hazel_lantern.core.kinds.shared.standing import bump, standing_findings
from hazel_lantern.core.kinds.shared.weighed import KIT
from hazel_lantern.core.kinds.slider.design import TABLE, TRIPOD, TWO
from hazel_lantern.core.kinds.slider.model import FLOOR, Slider, frames
from hazel_lantern.core.mechanics import footing
from hazel_lantern.core.mechanics.safety import safety_class
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, STOP, STRUCTURE, WATCH, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

TALL = Formula("W*max(0, z)")
TURNS = Formula("sqrt(M**2 + R**2)")


def standing_figures(design: Design, suggest: bool, slider: Slider, ride: Ride) -> Told:
    """Footing over the outline of all feet, and the load limit of each stand."""
    tell, rig, found = Teller(), slider, ride
    needed = safety_class(design.text("safety")).tipping
    bag = design.number("ballast.mass")
    knock = bump(design, rig.laid.mass + bag)
    worst, tips = _stands(rig, bag)
    inputs = (
        Given("m", rig.laid.mass, "kg", "everything together", "rig.mass"),
        design.given("r", "stand.radius", "feet from the centre", "m"),
        design.given("m_b", "ballast.mass", "ballast", "kg"),
    )
    level = ("level firm ground", "rigid stand and rail", "carriage at either end, camera on and off")
    tell.add(
        by_method(
            "balance.footing",
            "Footing",
            worst,
            "1",
            "stabilising over overturning moment about the weakest edge",
            inputs,
            assumptions=level,
            source="statics 6",
        ),
        by_method(
            "balance.tips_at",
            "A push at the lens that tips it",
            tips,
            "N",
            "margin about the weakest edge over the lens height",
            inputs,
            assumptions=level,
            source="statics 6",
        ),
    )
    mend = _remedies(design, rig, needed) if suggest else ()
    tell.findings += standing_findings(
        worst,
        needed,
        tips,
        knock,
        where="With the carriage at its end",
        field="stand.radius" if rig.held != TABLE else "table.width",
        mend=mend,
        bumped=("Bumped at the camera", "A push of {} at the lens tips it; it must stand {}."),
    )
    _stopped(tell, design, rig, bag, mend)
    if rig.held != TABLE:
        carried = float(found.reactions.max()) / GRAVITY
        tell.add(
            by_method(
                "balance.carried",
                "Most a stand carries",
                carried,
                "kg",
                "largest support reaction along the travel",
                inputs,
                source="statics 4.3",
            )
        )
        tell.hold(
            "balance.carried",
            "balance.limit",
            "Load limit of the stand",
            STRUCTURE,
            "stand",
            "A stand carries up to {}; it is good for {}.",
            at_most=rig.stand.load_limit,
        )
        tell.take(_held_down(design, rig, found))
        tops = [float(rig.way.on_floor(x, -rig.way.bar.depth)[1]) for x in rig.places]
        height = (design.given("H", "rail.height", "rail", "m"),)
        tell.take(
            stand_fits(
                design,
                rig.stand,
                tops,
                "rail height less the rail, along its slope",
                height,
                ("rail.height", "Rail at {}"),
            )
        )
        at = float(rig.way.on_floor(rig.way.high, rig.way.lens[2])[1])
        load = carried * GRAVITY
        tell.take(built_figures(design, rig.stand, max(tops), design.number("stand.radius"), load, knock, at))
    return tell.told()


def _held_down(design: Design, rig: Slider, ride: Ride) -> Told:
    """Whether the carriage far out lifts the other stand."""
    tell, way = Teller(), rig.way
    pulled = max(0.0, -float(ride.reactions.min()))
    if rig.held == TWO:
        factor = safety_class(design.text("safety")).tipping
        tell.add(
            by_method(
                "balance.pulled",
                "A stand is pulled up with",
                pulled,
                "N",
                "least support reaction along the travel",
                (design.given("a", "support.inset", "stands from the ends", "m"),),
                source="statics 4.3",
            )
        )
        out = round(max(0.0, way.low - abs(float(way.cg[0]))), 3)
        tell.hold(
            "balance.pulled",
            "balance.lifts_stand",
            "Stands stay down",
            PEOPLE,
            "support.inset",
            Words(
                "With the carriage at one end the other stand is pulled up with {}; its weight holds {} safely."
                if pulled
                else "Both stands stay pressed wherever the carriage is.",
                ((pulled, "N"), (rig.stand.mass * GRAVITY / factor, "N")),
            ),
            at_most=rig.stand.mass * GRAVITY / factor,
            remedies=(set_one("out", "Stands {} from the ends", "support.inset", out, "m"),)
            if out < design.number("support.inset")
            else (),
        )
    return tell.told()


def soft_head(design: Design, rail: Straight, slider: Slider, ride: Ride) -> Told:
    """A tall load on a soft tripod head, and what the head must hold with the carriage far out."""
    if slider.held != TRIPOD:
        return Told()
    tell, stiffness = Teller(), design.number("head.stiffness")
    tell.add(
        by_formula(
            "travel.tall",
            "Tall load asks of the head, at least",
            "N*m/rad",
            TALL,
            (
                Given("W", rail.weight, "N", "carriage and camera kit", "kit"),
                Given("z", float(rail.cg[2]), "m", "its centre above the rail"),
            ),
            source="statics 7.6",
        )
    )
    tall = tell.value("travel.tall")
    tell.hold(
        "travel.tall",
        "travel.head",
        "Tripod head",
        STRUCTURE,
        "head.stiffness",
        Words(
            "The head holds with {}; a camera this high asks for {}.", ((stiffness, "N*m/rad"), (5 * tall, "N*m/rad"))
        ),
        at_most=stiffness / 5,
        state=STOP if tall >= stiffness else WATCH if tall > stiffness / 5 else CLEAR,
    )
    pitch, roll = float(np.abs(ride.moments).max()), rail.weight * abs(float(rail.cg[1]))
    tell.add(
        by_formula(
            "travel.head_moment",
            "Turns the tripod head with, at most",
            "N*m",
            TURNS,
            (
                Given("M", pitch, "N*m", "carriage at its worst place, with the rail's own weight", "rail.length"),
                Given("R", roll, "N*m", "carriage aside of the rail", "camera.aside"),
            ),
            source="statics 4.3",
        )
    )
    tell.hold(
        "travel.head_moment",
        "travel.head_slips",
        "Tripod head slips",
        PEOPLE,
        "head.holds",
        "The carriage turns the head with {}; half of what it holds locked, {}, is safe.",
        at_most=design.number("head.holds") / 2,
        remedies=(set_one("two", "Stand it on two stands", "support", "two"),),
    )
    return tell.told()


def _stands(rig: Slider, bag: float) -> tuple[float, float]:
    """Least footing factor, and least push at the lens that tips it [N], with the carriage at either end, camera on
    and off.
    """
    way, worst, tips = rig.way, math.inf, math.inf
    for x in (way.low, way.high):
        high = max(0.1, float(way.on_floor(x, way.lens[2])[1]))
        for camera in (True, False):
            stood = footing.footing(rig.feet, *_bodies(rig, x, camera, bag))
            worst, tips = min(worst, stood.factor), min(tips, stood.knock(high))
    return worst, tips


def _stopped(tell: Teller, design: Design, rig: Slider, bag: float, mend: tuple[Remedy, ...]) -> None:
    """Whether the rig's own hard stop tips it, at either end of the rail."""
    way, brake = rig.way, design.number("push.brake")
    tips = min(
        footing.footing(rig.feet, *_bodies(rig, x, True, bag)).pushed(
            max(0.1, float(way.on_floor(x + float(way.cg[0]), float(way.cg[2]))[1])), (sign, 0.0)
        )
        for x, sign in ((way.low, -1.0), (way.high, 1.0))
    )
    moving = Given("m", way.moving, "kg", "carriage and camera kit", "kit")
    tell.add(
        by_method(
            "balance.stop_at",
            "A stop of the carriage tips it at",
            tips,
            "N",
            "margin about the edge ahead over the height of the moving mass, at the end it runs towards",
            (
                moving,
                Given("z", float(way.cg[2]), "m", "its centre above the rail"),
                design.given("m_b", "ballast.mass", "ballast", "kg"),
            ),
            source="statics 6",
        )
    )
    force = way.moving * brake
    tell.hold(
        "balance.stop_at",
        "balance.stopped",
        "Its own hard stop",
        PEOPLE,
        "push.brake",
        "A stop of the carriage that pushes with {} tips it; its hard stop gives {}."
        if tips > 0
        else "With the carriage at its end it falls over by itself.",
        at_least=force,
        remedies=(*_softer(design, tips, way.moving), *mend),
    )


def _softer(design: Design, tips: float, moving: float) -> tuple[Remedy, ...]:
    """A stop that leaves a quarter to spare."""
    stop = math.floor(tips / (1.26 * moving) * 100) / 100
    return (
        (set_one("softer", "Stop with {} at most", "push.brake", stop, "m/s^2"),)
        if 0 < stop < design.number("push.brake")
        else ()
    )


def _bodies(rig: Slider, x: float, camera: bool, bag: float) -> tuple[list[float], np.ndarray]:
    """Masses [kg] and places (n, 3) [m] with the carriage at a place: rails, carriage, each stand, the ballast."""
    bodies, way = frames(rig.way, np.array([[x]])), rig.way
    rails, middle = rig.laid.weigh(RAIL)
    # Without the camera the carriage's own centre counts, not the one it had with it.
    load, centre = (way.moving, way.cg) if camera else rig.laid.weigh(CARRIAGE, KIT)
    found = [(rails, bodies[RAIL].place(middle)[0]), (load, bodies[CARRIAGE].place(centre)[0])]
    found += [(piece.mass, bodies[FLOOR].place(piece.centre)[0]) for piece in rig.laid.placed if piece.body == FLOOR]
    found.append((bag, np.array([0.0, 0.0, 0.2])))
    return [mass for mass, _ in found], np.array([at for _, at in found])


def _remedies(design: Design, rig: Slider, needed: float) -> tuple[Remedy, ...]:
    """Two stands, wider feet, the smallest bag that does it."""
    if rig.held == TABLE:
        wide = round(min(1.0, 2 * design.number("table.width")), 3)
        return (set_one("wide", "Feet {} apart", "table.width", wide, "m"),)
    found = []
    widest = rig.stand.radius_max
    if design.number("stand.radius") < widest - 1e-6:
        found.append(set_one("spread", "Spread the feet to {}", "stand.radius", widest, "m"))
    if rig.held == "tripod":
        found.append(set_one("two", "Stand it on two stands", "support", "two"))
    for bag in np.arange(design.number("ballast.mass") + 1.0, 61.0):
        factor, tips = _stands(rig, float(bag))
        # A quarter more than needed, so that the verdict turns clear.
        if factor >= 1.26 * needed and tips >= 1.26 * bump(design, rig.laid.mass + float(bag)):
            found.append(set_one("bag", "Hang {} below", "ballast.mass", float(bag), "kg"))
            break
    return tuple(found)
