"""Pivots and joints: bolts, walls and ends of bars, the camera screw."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.catalogue import Material
from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.jib.design import BETWEEN, CLAMPED, SINGLE, TAPERED
from hazel_lantern.core.kinds.jib.model import ARM, BAR, BY_BARS, BY_CABLE, LEVEL, REAR, Jib
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

ONE_SHEAR = Formula("sqrt((32*M/(pi*d**3))**2 + 3*(F/(pi*d**2/4))**2)")
PIN_STRESS = Formula("sqrt((32*M/(pi*d**3))**2 + 3*(F/(2*pi*d**2/4))**2)")
BEARING = Formula("F/(d*t)")
TEAR = Formula("F/(2*e*t)")
SHEARED = 0.58
CORE = 0.9382  # of its pitch that a thread is thinner at its stress area
ONE_WALLED = ("angle", "channel")
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
    if jib.held != CLAMPED:
        tell.take(_pivot(design, jib, forces.pivot, worked))
    if jib.level == BY_BARS:
        tell.take(_upper_pins(design, jib, forces.told.value("rig.upper_bar")))
    tell.take(_end(design, jib, forces.head_pin, worked))
    tell.take(_room(jib))
    if design.number("arm.joint") > 0 and design.text("arm.made") != TAPERED:
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
    # Where the pin is a threaded rod, its core bears, and the thread runs through the holes.
    core = jib.bolt.d - CORE * jib.bolt.pitch if jib.rod else jib.bolt.d
    moment = _bent_pin(jib, force, side, gap)
    words = "everything that swings and what keeps it level, times 1.5 for hand swings"
    pull, (bolt, thick) = Given("F", force, "N", words, "rig.carried"), _bolt_and_wall(jib)
    tell.add(
        by_formula(
            "rig.pin_stress",
            "Stress in the main pivot",
            "Pa",
            ONE_SHEAR if jib.held == SINGLE else PIN_STRESS,
            (
                Given("M", moment, "N*m", "bending between cheeks and the walls of the arm", "post.section"),
                Given("d", core, "m", "core of the threaded rod" if jib.rod else "bolt", "pin.bolt"),
                pull,
            ),
            assumptions=(
                f"{'single' if jib.held == SINGLE else 'double'} shear, "
                + ("in the thread" if jib.rod else "plain shank"),
                "washers fill the gap",
            ),
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
    wall_allowed = _hole_bears(jib.arm_material, worked)
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
    _cheeks(tell, design, jib, force)
    if jib.rod:
        tell.findings.append(
            Finding(
                "rig.rod",
                "Threaded rod as a pivot",
                STRUCTURE,
                WATCH,
                "pin.made",
                Words("A threaded rod saws the holes it turns in: bush them, and look at them often."),
                remedies=(set_one("shank", "Bolts with a plain shank", "pin.made", "bolt"),),
            )
        )
    return tell.told()


def _bent_pin(jib: Jib, force: float, side: float, gap: float) -> float:
    """Bending of a pivot's pin [N*m]: the arm presses it where its walls are, half of the force each, or all of it at
    the one wall of an angle or a channel; the cheeks hold it in their middles.
    """
    arm, bars = jib.arm, jib.bars
    if jib.held == SINGLE:
        # Out from the one upright's face.
        return force * (arm.width * bars / 2 + gap)
    if jib.held == BETWEEN:
        return float(pins.pin(force, jib.bolt.d, side, arm.width, gap).moment)
    if arm.shape in ONE_WALLED:
        # The wall lies at one side of the room that the arm takes between the cheeks.
        near = side / 2 + gap + arm.wall / 2
        far = side / 2 + gap + arm.width * bars - arm.wall / 2
        return force * near * far / (near + far) / (1 if bars == 1 else 2)
    middle = arm.walls if bars == 1 else arm.width * bars
    return float(pins.pin(force, jib.bolt.d, middle, side, gap).moment)


def _cheeks(tell: Teller, design: Design, jib: Jib, force: float) -> None:
    """Pressure of the pivot in the holes of the cheeks, its share of the force in each, across the grain of wood."""
    stuff = design.catalogue.materials[jib.post.material]
    factor = safety_class(design.text("safety")).strength(stuff.family)
    tell.add(
        by_formula(
            "rig.cheek_bearing",
            "Pressure of the pivot on a cheek",
            "Pa",
            BEARING,
            (
                Given("F", force / jib.cheeks, "N", "a cheek's share of what the pivot carries", "rig.carried"),
                Given("d", jib.bolt.d, "m", "bolt", "pin.bolt"),
                Given("t", jib.post.walls, "m", "walls of a cheek that the bolt passes", "post.section"),
            ),
            source="statics 7.4",
        )
    )
    tell.hold(
        "rig.cheek_bearing",
        "rig.cheek",
        "Pivot hole in the cheeks",
        STRUCTURE,
        "post.section",
        "The bolt presses a cheek with {} of {} allowed.",
        at_most=_hole_bears(stuff, stuff.allowed(factor)),
    )


def _hole_bears(stuff: Material, worked: float) -> float:
    """What a material bears in a pin's hole [Pa]: wood across its grain, half of what it bears along it."""
    if stuff.family == "wood":
        return pins.WOOD_BEARING.get(stuff.id, 5e6) / 2
    return (pins.METAL_BEARING if stuff.family == "ductile" else pins.BRITTLE_BEARING) * worked


def _upper_pins(design: Design, jib: Jib, upper: float) -> Told:
    """Pressure of the upper bar's pins on its walls."""
    tell, stuff = Teller(), design.catalogue.materials[jib.bar.material]
    factor = safety_class(design.text("safety")).strength(stuff.family)
    tell.add(
        by_formula(
            "rig.bar_bearing",
            "Pressure of a pin on the upper bar",
            "Pa",
            BEARING,
            (
                Given("F", HAND_SWING * abs(upper), "N", "what the upper bar carries, times 1.5", "rig.upper_bar"),
                Given("d", jib.bolt.d, "m", "bolt", "pin.bolt"),
                Given(
                    "t", jib.bar.walls * len(jib.bar_lanes), "m", "walls of the bar that the bolt passes", "bar.section"
                ),
            ),
            source="statics 7.4",
        )
    )
    allowed = _hole_bears(stuff, stuff.allowed(factor)) * (2 if stuff.family == "wood" else 1)
    tell.hold(
        "rig.bar_bearing",
        "rig.bar_wall",
        "Pin holes of the upper bar",
        STRUCTURE,
        "bar.section",
        "A pin presses the walls of the upper bar with {} of {} allowed.",
        at_most=allowed,
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
        )
    )
    torn, tear_allowed = (
        tell.value("rig.tear_out"),
        WOOD_SHEAR * worked if jib.arm_material.family == "wood" else SHEARED * worked,
    )
    longer = math.ceil(1.3 * design.number("arm.end") * torn / tear_allowed * 1e3) / 1e3
    usual = (7.0 if jib.arm_material.family == "wood" else 2.0) * jib.bolt.d
    tell.hold(
        "rig.tear_out",
        "rig.torn",
        "End of the arm behind the head pin",
        STRUCTURE,
        "arm.end",
        Words(
            "The end is sheared with {} of {} allowed; it leaves {} past the hole, {} is the rule of thumb.",
            ((torn, "Pa"), (tear_allowed, "Pa"), (design.number("arm.end"), "m"), (usual, "m")),
        ),
        at_most=tear_allowed,
        remedies=(set_one("end", "Leave {} past the hole", "arm.end", longer, "m"),) if longer <= 0.2 else (),
    )
    return tell.told()


def _room(jib: Jib) -> Told:
    """Walls thick enough for the bolt."""
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
    swung = sum(b.mass for b in jib.bodies if b.frame in (ARM, BAR, LEVEL, REAR)) * GRAVITY
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
