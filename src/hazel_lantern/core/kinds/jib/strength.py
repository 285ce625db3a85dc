"""Arm, bars and pins: stress, sag, bounce."""

from __future__ import annotations

import math

from hazel_lantern.core.errors import GeometryError
from hazel_lantern.core.figure import Given, by_formula, by_method
from hazel_lantern.core.finding import BUILD, PICTURE, STOP, STRUCTURE, WATCH, Finding, Remedy, Words, judge
from hazel_lantern.core.formula import Formula
from hazel_lantern.core.kinds.base import Context, Report
from hazel_lantern.core.kinds.jib.model import Jib
from hazel_lantern.core.kinds.jib.reach import used_angles
from hazel_lantern.core.mechanics import beam, linkage, pins, sections
from hazel_lantern.core.mechanics.safety import HAND_SWING, PIN_FACTOR, safety_class
from hazel_lantern.core.units import GRAVITY

SAG = Formula("P*L**3/(3*EI) + w*L**4/(8*EI)")
STRESS = Formula("k*(P*L + w*L**2/2)/W_net")
CLAMPED = Formula("sqrt(3*EI/(L**3*(m + 33/140*m_arm)))/(2*pi)")
PIN_STRESS = Formula("sqrt((32*M/(pi*d**3))**2 + 3*(F/(2*pi*d**2/4))**2)")
BEARING = Formula("F/(d*t)")
WALL_BEARING = {"ductile": 1.5, "wood": 0.3, "brittle": 0.5}
BOUNCE = 3.0


def strength_figures(context: Context, jib: Jib, report: Report) -> None:
    """The arm alone bends: the upper bar is pinned and adds nothing."""
    safety = safety_class(context.text("safety"))
    ei = jib.arm_material.E * jib.arm_section.iy
    arm_mass = jib.mass_of("arm")
    line = beam.arm_weight(arm_mass, jib.front + jib.rear + 2 * context.number("arm.end"))
    length = context.given("L", "arm.front", "front arm", "m")
    load = Given("P", (jib.head_mass + jib.mass_of("upper bar") / 2) * GRAVITY, "N", "weight at the head pin, with half the upper bar", "kit")
    stiff, own = Given("EI", ei, "N*m^2", "bending stiffness of the arm", "arm.section"), Given("w", line, "N/m", "arm's own weight", "arm.section")
    net = sections.drilled(jib.arm_section, jib.bolt.clear_close, jib.arm.walls)
    report.add(
        by_formula("rig.sag", "Tip sags", "m", "rig", SAG, (load, length, stiff, own), assumptions=("arm level, clamped at the pivot", "no play in the pivots"),
                   valid="sag under a tenth of the arm", source="statics 7.6"),
        by_formula("rig.stress", "Stress at the pivot hole", "Pa", "rig", STRESS, (
            Given("k", HAND_SWING, "1", "for hand swings"), load, length, own, Given("W_net", net, "m^3", "section left at the hole", "arm.section")), source="statics 7.6, 9"),
        by_formula("rig.bounce_locked", "Bounces, arm held", "Hz", "rig", CLAMPED, (
            stiff, length, Given("m", load.value / GRAVITY, "kg", "mass at the head", "kit"), Given("m_arm", line * jib.front / GRAVITY, "kg", "front arm", "arm.section")),
            assumptions=("pivot held still",), source="statics 7.6, Rayleigh"),
    )  # fmt: skip
    rear = context.number("weights.place")
    weights = jib.hung + context.number("weights.holder")
    if weights > 0:
        bounce = beam.balanced_frequency(ei, jib.front, rear, load.value / GRAVITY, line * jib.front / GRAVITY, weights, line * rear / GRAVITY)
        report.add(by_method("rig.bounce", "Bounces, free on its pivot", bounce, "Hz", "rig", "three coordinates: turn, front bend, rear bend; the turn eliminated", (
            stiff, length, Given("m_hung", weights, "kg", "weights hung", "weights.hung")), source="statics 7.6"))  # fmt: skip
    stiffer = _stiffer(context, jib) if report.suggest else ()
    slow = min(report.value("rig.bounce_locked"), report.figures["rig.bounce"].value if weights > 0 else math.inf)
    report.findings.append(Finding(
        "rig.bouncy", "Bounce of the arm", PICTURE, judge(slow, BOUNCE, "at_least", PICTURE, watch_at=0.99), slow, BOUNCE, "at_least", "Hz", "arm.section", "rig",
        Words("The arm bounces at {}; under {} every start and stop shows.", ((slow, "Hz"), (BOUNCE, "Hz"))), stiffer if slow < BOUNCE else (),
    ))  # fmt: skip
    allowed = jib.arm_material.allowed(safety.strength(jib.arm_material.family))
    stress = report.value("rig.stress")
    report.findings.append(Finding(
        "rig.arm_strong", "Arm at the pivot", STRUCTURE, judge(stress, allowed, "at_most", STRUCTURE), stress, allowed, "at_most", "Pa", "arm.section", "rig",
        Words("The arm works at {} of {} allowed; it fails this way: " + jib.arm_material.fails + ".", ((stress, "Pa"), (allowed, "Pa"))),
        stiffer if stress > 0.8 * allowed else (),
    ))  # fmt: skip
    sag = report.value("rig.sag")
    limit = jib.front / 50
    report.findings.append(Finding(
        "rig.soft", "Sag of the arm", PICTURE, judge(sag, limit, "at_most", PICTURE), sag, limit, "at_most", "m", "arm.section", "rig",
        Words("The head hangs {} lower than drawn.", ((sag, "m"),)) if sag < jib.front / 10 else Words("The sag of {} is beyond what this formula holds for.", ((sag, "m"),)),
        stiffer if sag > 0.8 * limit else (),
    ))  # fmt: skip
    if jib.arm_section.warning:
        # A thin tube is judged by its diameter over its wall, an open section by its twist over its bending stiffness.
        thin = jib.arm.shape == "round_tube"
        shape, limit_shape = (jib.arm.depth / jib.arm.wall, 40.0) if thin else (jib.arm_section.j / jib.arm_section.iy, 0.2)
        report.findings.append(Finding(
            "rig.arm_shape", "Shape of the arm", STRUCTURE, WATCH, shape, limit_shape, "at_most" if thin else "at_least", "1", "arm.section", "rig", Words(f"Take care: {jib.arm_section.warning}."), stiffer,
        ))  # fmt: skip
    _pins(context, jib, report)


def _stiffer(context: Context, jib: Jib) -> tuple[Remedy, ...]:
    """The lightest stock section at least twice as stiff, of the same material and shape."""
    ei = jib.arm_material.E * jib.arm_section.iy
    found = []
    for bar in context.catalogue.sections.values():
        if bar.shape != jib.arm.shape or bar.material != jib.arm.material or bar.system != jib.arm.system or bar.id == jib.arm.id:
            continue
        section = bar.section()
        if section.iy * context.catalogue.materials[bar.material].E >= 1.9 * ei:
            found.append((section.area, bar))
    best = min(found, key=lambda pair: (pair[0], pair[1].id), default=None)
    return () if best is None else (Remedy("stiffer", Words(f"Use {best[1].name[0].lower()}{best[1].name[1:]}"), (("arm.section", best[1].id),)),)


def _pins(context: Context, jib: Jib, report: Report) -> None:
    """The main pivot carries everything that swings; the head pin carries the head's pull on the bars."""
    low, high = used_angles(context, jib)
    ahead = sum(b.mass * b.along for b in jib.bodies if b.frame == "level") / jib.head_mass
    above = sum(b.mass * b.above for b in jib.bodies if b.frame == "level") / jib.head_mass
    steep = max(abs(low), abs(high))
    inputs = (
        context.given("a", "pivot.spacing", "pivots apart", "m"), Given("W", jib.head_mass * GRAVITY, "N", "weight of head and camera", "kit"),
        Given("x_c", ahead, "m", "its centre ahead of the pin", "head.ahead"), Given("theta", steep, "rad", "steepest angle of the shot", "shot.end"),
    )  # fmt: skip
    try:
        upper, lower, head_pin = (float(v) for v in linkage.link_forces(steep, jib.spacing, jib.head_mass * GRAVITY, ahead, above))
    except GeometryError as error:
        report.findings.append(Finding(
            "rig.steep", "Bars nearly touch", STRUCTURE, STOP, steep, math.acos(0.1), "at_most", "rad", "shot.end", "rig", Words(f"At {{}}: {error}.", ((steep, "rad"),)),
        ))  # fmt: skip
        return
    report.add(
        by_method("rig.upper_bar", "Upper bar pushes", upper, "N", "rig", "−W x_c / (a cos θ), steepest angle; minus is a pull", inputs, source="statics 7.4"),
        by_method("rig.lower_bar", "Arm pushes along itself", lower, "N", "rig", "head in balance on its two pins", inputs, source="statics 7.4"),
        by_method("rig.head_pin", "Force on the head pin", head_pin, "N", "rig", "head in balance on its two pins", inputs, source="statics 7.4"),
    )  # fmt: skip
    swung = sum(b.mass for b in jib.bodies if b.frame in ("arm", "bar", "level"))
    force = HAND_SWING * max(swung * GRAVITY + abs(upper), head_pin)
    side, gap = jib.post.width, jib.bolt.washer_t + jib.bearing.face * 1e-3
    stress = pins.pin(force, jib.bolt.d, jib.arm.width, side, gap)
    pull = Given("F", force, "N", "everything that swings plus the upper bar, times 1.5 for hand swings", "rig.carried")
    bolt = Given("d", jib.bolt.d, "m", "bolt", "pin.bolt")
    report.add(
        by_formula("rig.pin_stress", "Stress in the main pivot", "Pa", "rig", PIN_STRESS, (Given("M", stress.moment, "N*m", "bending between cheeks and arm", "post.section"), bolt, pull),
                   assumptions=("double shear, plain shank", "washers fill the gap"), source="drive 8.6"),
        by_formula("rig.wall_bearing", "Pressure of the pivot on the arm", "Pa", "rig", BEARING, (pull, bolt, Given("t", jib.arm.walls, "m", "walls the bolt passes", "arm.section")), source="statics 7.4"),
    )  # fmt: skip
    allowed = jib.grade.yield_ / PIN_FACTOR
    thicker = next((b for b in context.catalogue.bolts.values() if b.system == jib.bolt.system and b.d > jib.bolt.d), None)
    grade = Remedy("grade", Words("Use 8.8 bolts"), (("pin.grade", "8.8"),))
    bigger = () if thicker is None else (Remedy("bolt", Words(f"Use {thicker.id} bolts"), (("pin.bolt", thicker.id),)),)
    value = report.value("rig.pin_stress")
    report.findings.append(Finding(
        "rig.pivot_bolt", "Main pivot bolt", STRUCTURE, judge(value, allowed, "at_most", STRUCTURE), value, allowed, "at_most", "Pa", "pin.bolt", "rig",
        Words("The bolt works at {} of {} allowed, mostly bending over the gap.", ((value, "Pa"), (allowed, "Pa"))),
        ((grade, *bigger) if jib.grade.yield_ < 640e6 else bigger) if value > 0.8 * allowed else (),
    ))  # fmt: skip
    safety = safety_class(context.text("safety"))
    wall_allowed = WALL_BEARING[jib.arm_material.family] * jib.arm_material.allowed(safety.strength(jib.arm_material.family))
    pressure = report.value("rig.wall_bearing")
    report.findings.append(Finding(
        "rig.wall", "Pivot hole in the arm", STRUCTURE, judge(pressure, wall_allowed, "at_most", STRUCTURE), pressure, wall_allowed, "at_most", "Pa", "arm.section", "rig",
        Words("The bolt presses the walls with {} of {} allowed.", ((pressure, "Pa"), (wall_allowed, "Pa"))), bigger if pressure > 0.8 * wall_allowed else (),
    ))  # fmt: skip
    thin = jib.bolt.d / 8
    if jib.arm.shape in ("round_tube", "rectangular_tube"):
        wall = jib.arm.wall
        report.findings.append(Finding(
            "build.sleeve", "Wall at the pivot holes", BUILD, judge(wall, thin, "at_least", BUILD, watch_at=1.0), wall, thin, "at_least", "m", "arm.section", "build",
            Words("Walls of {} take an {} bolt; sleeve the hole under {}.", ((wall, "m"), (jib.bolt.d, "m"), (thin, "m"))),
        ))  # fmt: skip
    edge, least = context.number("arm.end"), (2.0 if jib.arm_material.family != "wood" else 7.0) * jib.bolt.d
    wider = math.ceil(least * 1e3) / 1e3
    report.findings.append(Finding(
        "build.edge", "Holes to the bar's end", STRUCTURE, judge(edge, least, "at_least", STRUCTURE, watch_at=1.0), edge, least, "at_least", "m", "arm.end", "build",
        Words("The end holes sit {} from the end; {} is the least.", ((edge, "m"), (least, "m"))),
        (Remedy("edge", Words("Leave {} past the hole", ((wider, "m"),)), (("arm.end", wider),)),) if edge < least and wider <= 0.2 else (),
    ))  # fmt: skip
    _screw(context, report)


def _screw(context: Context, report: Report) -> None:
    length, stack, depth = context.number("screw.length"), context.number("screw.stack"), context.kit.socket_depth_m
    reach, verdict = pins.camera_screw(length, stack, depth)
    report.add(by_method("build.screw", "Screw reaches into the camera", reach, "m", "build", "screw length minus what it passes", (
        context.given("l", "screw.length", "screw", "m"), context.given("p", "screw.stack", "plate and pad", "m")), source="drive 8.5"))  # fmt: skip
    good = min(depth - 0.0006, max(pins.SHORT + 0.0003, depth - 0.0013))
    remedy = (Remedy("stack", Words("Make the plate {}", ((round(length - good, 5), "m"),)), (("screw.stack", round(length - good, 5)),)),) if 0 <= length - good <= 0.04 else ()
    said = {
        "BOTTOMING": ("It reaches {} into a socket of {}: it pushes against the bottom and never clamps.", STOP),
        "TOO_SHORT": ("It reaches only {} into a socket of {}: fewer than three threads hold.", STOP),
        "SHORT_WARNING": ("It reaches {} into a socket of {}; a little more is better.", WATCH),
        "OK": ("It reaches {} into a socket of {}.", "clear"),
    }[verdict]
    deep = verdict == "BOTTOMING"
    report.findings.append(Finding(
        "build.screw_reach", "Camera screw", STRUCTURE, said[1], reach, depth - pins.TIP_GAP if deep or verdict == "OK" else pins.SHORT, "at_most" if deep or verdict == "OK" else "at_least",
        "m", "screw.length", "build", Words(said[0], ((reach, "m"), (depth, "m"))), () if verdict == "OK" else remedy,
    ))  # fmt: skip
