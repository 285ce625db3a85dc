"""Pivots and joints: bolts, walls and ends of bars, the camera screw."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.jib.model import BY_BARS, BY_CABLE, LEVEL, Jib
from hazel_lantern.core.kinds.jib.strength.sleeve import sleeve_figures
from hazel_lantern.core.mechanics import linkage, pins
from hazel_lantern.core.mechanics.safety import HAND_SWING, PIN_FACTOR, safety_class
from hazel_lantern.core.nouns.errors import GeometryError
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import BUILD, STOP, STRUCTURE, WATCH, Finding, judge, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

PIN_STRESS = Formula("sqrt((32*M/(pi*d**3))**2 + 3*(F/(2*pi*d**2/4))**2)")
BEARING = Formula("F/(d*t)")
TEAR = Formula("F/(2*e*t)")
SHEARED = 0.58
WOOD_SHEAR = 0.15  # of its bending strength, along the grain: splitting out at the end


def joint_figures(design: Design, kit: Carried, jib: Jib, used: tuple[float, float]) -> Told:
    """The main pivot carries everything that swings; the head pin carries the head's pull on what keeps it level."""
    tell = Teller()
    forces = _forces(design, jib, max(map(abs, used)))
    tell.take(forces.told)
    if forces.pivot is None:
        return tell.told()
    safety = safety_class(design.text("safety"))
    worked = jib.arm_material.allowed(safety.strength(jib.arm_material.family))
    tell.take(_pivot(design, jib, forces.pivot, worked))
    tell.take(_end(design, jib, forces.head_pin, worked))
    tell.take(_room(design, jib))
    if design.number("arm.joint") > 0:
        tell.take(sleeve_figures(design, jib, worked))
    tell.take(_screw(design, kit))
    return tell.told()


def _bolt_and_wall(jib: Jib) -> tuple[Given, Given]:
    """The pivots' bolt and all the material of the arm that it passes."""
    walls = jib.arm.walls * jib.bars
    return Given("d", jib.bolt.d, "m", "bolt", "pin.bolt"), Given(
        "t", walls, "m", "walls the bolt passes", "arm.section"
    )


def _pivot(design: Design, jib: Jib, force: float, worked: float) -> Told:
    """The main pivot under a force [N]: its bolt, and the walls it presses, which may be worked so hard [Pa]."""
    tell = Teller()
    side, gap = jib.post.width, jib.bolt.washer_t + jib.bearing.face * 1e-3
    stress = pins.pin(force, jib.bolt.d, jib.arm.width * jib.bars, side, gap)
    words = "everything that swings and what keeps it level, times 1.5 for hand swings"
    pull, (bolt, thick) = Given("F", force, "N", words, "rig.carried"), _bolt_and_wall(jib)
    tell.add(
        by_formula(
            "rig.pin_stress",
            "Stress in the main pivot",
            "Pa",
            PIN_STRESS,
            (Given("M", stress.moment, "N*m", "bending between cheeks and arm", "post.section"), bolt, pull),
            assumptions=("double shear, plain shank", "washers fill the gap"),
            source="drive 8.6",
        ),
        by_formula(
            "rig.wall_bearing",
            "Pressure of the pivot on the arm",
            "Pa",
            BEARING,
            (pull, bolt, thick),
            source="statics 7.4",
        ),
    )
    thicker = next(
        (b for b in design.catalogue.bolts.values() if b.system == jib.bolt.system and b.d > jib.bolt.d), None
    )
    bigger = () if thicker is None else (set_one("bolt", f"Use {thicker.id} bolts", "pin.bolt", thicker.id),)
    allowed = jib.grade.yield_ / PIN_FACTOR
    grade = set_one("grade", "Use 8.8 bolts", "pin.grade", "8.8")
    tell.hold(
        "rig.pin_stress",
        "rig.pivot_bolt",
        "Main pivot bolt",
        STRUCTURE,
        "pin.bolt",
        "The bolt works at {} of {} allowed, mostly bending over the gap.",
        at_most=allowed,
        remedies=(grade, *bigger) if jib.grade.yield_ < 640e6 else bigger,
    )
    # The pivot presses square to the arm: across the grain of wood, half of what it bears along it.
    wall_allowed = (
        pins.WOOD_BEARING.get(jib.arm_material.id, 5e6) / 2
        if jib.arm_material.family == "wood"
        else (pins.METAL_BEARING if jib.arm_material.family == "ductile" else pins.BRITTLE_BEARING) * worked
    )
    tell.hold(
        "rig.wall_bearing",
        "rig.wall",
        "Pivot hole in the arm",
        STRUCTURE,
        "arm.section",
        "The bolt presses the walls with {} of {} allowed.",
        at_most=wall_allowed,
        remedies=bigger,
    )
    return tell.told()


def _end(design: Design, jib: Jib, head_pin: float, worked: float) -> Told:
    """Whether the head pin pulls out of the arm's end."""
    tell, (_, thick) = Teller(), _bolt_and_wall(jib)
    tear = Given("F", HAND_SWING * head_pin, "N", "force on the head pin, times 1.5 for hand swings", "rig.head_pin")
    tell.add(
        by_formula(
            "rig.tear_out",
            "Shear behind the head pin",
            "Pa",
            TEAR,
            (tear, design.given("e", "arm.end", "bar left past the hole", "m"), thick),
            assumptions=("the pin pulls straight out of the end",),
            source="statics 7.4, 13",
        ),
    )
    torn, tear_allowed = (
        tell.value("rig.tear_out"),
        WOOD_SHEAR * worked if jib.arm_material.family == "wood" else SHEARED * worked,
    )
    longer = math.ceil(1.3 * design.number("arm.end") * torn / tear_allowed * 1e3) / 1e3
    tell.hold(
        "rig.tear_out",
        "rig.torn",
        "End of the arm behind the head pin",
        STRUCTURE,
        "arm.end",
        "The end is sheared with {} of {} allowed.",
        at_most=tear_allowed,
        remedies=(set_one("end", "Leave {} past the hole", "arm.end", longer, "m"),) if longer <= 0.2 else (),
    )
    return tell.told()


def _room(design: Design, jib: Jib) -> Told:
    """Walls thick enough for the bolt, and enough bar past the last hole."""
    tell = Teller()
    thin = jib.bolt.d / 8
    if jib.arm.shape in ("round_tube", "rectangular_tube"):
        wall = jib.arm.wall
        tell.findings.append(
            Finding(
                "build.sleeve",
                "Wall at the pivot holes",
                BUILD,
                judge(wall, thin, "at_least", BUILD, watch_at=1.0),
                "arm.section",
                Words(
                    "Walls of {} take an {} bolt; sleeve the hole under {}.",
                    ((wall, "m"), (jib.bolt.d, "m"), (thin, "m")),
                ),
                wall,
                thin,
                "at_least",
                "m",
            )
        )
    edge, least = design.number("arm.end"), (2.0 if jib.arm_material.family != "wood" else 7.0) * jib.bolt.d
    wider = math.ceil(least * 1e3) / 1e3
    tell.findings.append(
        Finding(
            "build.edge",
            "Holes to the bar's end",
            STRUCTURE,
            judge(edge, least, "at_least", STRUCTURE, watch_at=1.0),
            "arm.end",
            Words("The end holes sit {} from the end; {} is the least.", ((edge, "m"), (least, "m"))),
            edge,
            least,
            "at_least",
            "m",
            (set_one("edge", "Leave {} past the hole", "arm.end", wider, "m"),)
            if edge < least and wider <= 0.2
            else (),
        )
    )
    return tell.told()


class _Forces(Struct, frozen=True):
    """Largest force on the main pivot, hand swings counted, and on the head pin [N]; None where none is found; and
    what is said of them.
    """

    pivot: float | None
    head_pin: float
    told: Told


def _forces(design: Design, jib: Jib, steep: float) -> _Forces:
    """Forces at the steepest angle of the shot [rad]."""
    tell = Teller()
    weight = jib.head_mass * GRAVITY
    ahead = sum(b.mass * b.along for b in jib.bodies if b.frame == LEVEL) / jib.head_mass
    above = sum(b.mass * b.above for b in jib.bodies if b.frame == LEVEL) / jib.head_mass
    swung = sum(b.mass for b in jib.bodies if b.frame in ("arm", "bar", "level")) * GRAVITY
    inputs: tuple[Given, ...] = (
        Given("W", weight, "N", "weight of head and camera", "kit"),
        Given("x_c", ahead, "m", "its centre ahead of the pin", "head.ahead"),
        Given("theta", steep, "rad", "steepest angle of the shot", "shot.end"),
    )
    if jib.level == BY_CABLE:
        pull = 2 * jib.cable.tension
        head_pin = math.hypot(pull + weight * math.sin(steep), weight * math.cos(steep))
        tell.add(
            by_method(
                "rig.head_pin",
                "Force on the head pin",
                head_pin,
                "N",
                "both runs of the cable along the arm, and the weight",
                (*inputs, design.given("T", "cable.tension", "pull in each run", "N")),
                source="statics 7.3",
            )
        )
        return _Forces(
            HAND_SWING * math.hypot(pull + swung * math.sin(steep), swung * math.cos(steep)), head_pin, tell.told()
        )
    if jib.level != BY_BARS:
        tell.add(
            by_method(
                "rig.head_pin",
                "Force on the head pin",
                weight,
                "N",
                "the weight of head and camera",
                inputs,
                source="statics 7.4",
            )
        )
        return _Forces(HAND_SWING * swung, weight, tell.told())
    inputs = (design.given("a", "pivot.spacing", "pivots apart", "m"), *inputs)
    try:
        upper, lower, head_pin = (float(v) for v in linkage.link_forces(steep, jib.spacing, weight, ahead, above))
    except GeometryError as error:
        tell.findings.append(
            Finding(
                "rig.steep",
                "Bars nearly touch",
                STRUCTURE,
                STOP,
                "shot.end",
                Words(f"At {{}}: {error}.", ((steep, "rad"),)),
                steep,
                math.acos(0.1),
                "at_most",
                "rad",
            )
        )
        return _Forces(None, 0.0, tell.told())
    tell.add(
        by_method(
            "rig.upper_bar",
            "Upper bar pushes",
            upper,
            "N",
            "−W x_c / (a cos θ), steepest angle; minus is a pull",
            inputs,
            source="statics 7.4",
        ),
        by_method(
            "rig.lower_bar",
            "Arm pushes along itself",
            lower,
            "N",
            "head in balance on its two pins",
            inputs,
            source="statics 7.4",
        ),
        by_method(
            "rig.head_pin",
            "Force on the head pin",
            head_pin,
            "N",
            "head in balance on its two pins",
            inputs,
            source="statics 7.4",
        ),
    )
    return _Forces(HAND_SWING * max(swung + abs(upper), head_pin), head_pin, tell.told())


def _screw(design: Design, kit: Carried) -> Told:
    length, stack, depth = design.number("screw.length"), design.number("screw.stack"), kit.socket_depth_m
    tell = Teller()
    thread = pins.CAMERA_THREADS[kit.socket_thread]
    reach, verdict = pins.camera_screw(length, stack, depth, thread.pitch)
    tell.add(
        by_method(
            "build.screw",
            "Screw reaches into the camera",
            reach,
            "m",
            "screw length minus what it passes",
            (design.given("l", "screw.length", "screw", "m"), design.given("p", "screw.stack", "plate and pad", "m")),
            assumptions=(f"a {kit.socket_thread} thread",),
            source="drive 8.5",
        )
    )
    good = min(depth - 0.0006, max(pins.SHORT + 0.0003, depth - 0.0013))
    remedy = (
        (set_one("stack", "Make the plate {}", "screw.stack", round(length - good, 5), "m"),)
        if 0 <= length - good <= 0.04
        else ()
    )
    said = {
        "BOTTOMING": ("It reaches {} into a socket of {}: it pushes against the bottom and never clamps.", STOP),
        "TOO_SHORT": ("It reaches only {} into a socket of {}: fewer than three threads hold.", STOP),
        "SHORT_WARNING": ("It reaches {} into a socket of {}; a little more is better.", WATCH),
        "OK": ("It reaches {} into a socket of {}.", "clear"),
    }[verdict]
    deep = verdict == "BOTTOMING"
    tell.findings.append(
        Finding(
            "build.screw_reach",
            "Camera screw",
            STRUCTURE,
            said[1],
            "screw.length",
            Words(said[0], ((reach, "m"), (depth, "m"))),
            reach,
            depth - pins.TIP_GAP if deep or verdict == "OK" else pins.SHORT,
            "at_most" if deep or verdict == "OK" else "at_least",
            "m",
            () if verdict == "OK" else remedy,
            figure="build.screw",
        )
    )
    return tell.told()
