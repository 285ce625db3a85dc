"""How a carriage rolls: slopes, friction, sticking, joints, and speeds to avoid."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Chapter, Design
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.kinds.rail.wheels import axle_curves, wheel_figures
from hazel_lantern.core.mechanics import rails, rolling, vibration
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.errors import HazelError, InfeasibleError
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, STOP, STRUCTURE, WATCH, Finding, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics import lens

PUSH = Formula("W*(sin(alpha)+c*cos(alpha))")
START = Formula("W*c*k")
TWICE = Formula("2*v")


def push_figures(rail: Straight) -> Told:
    """The push that it needs."""
    tell, steep = Teller(), abs(rail.slope)
    weight = Given("W", rail.weight, "N", "carriage and camera kit", "kit")
    c = Given("c", rail.drag[1], "1", "rolling coefficient, upper end", "carriage.wheel")
    tell.add(
        by_formula(
            "travel.push",
            "Push, steady",
            "N",
            PUSH,
            (weight, Given("alpha", steep, "rad", "slope", "rail.slope"), c),
            assumptions=("preload's own drag comes on top",),
            source="dynamics 3.2",
        ),
        by_formula(
            "travel.start",
            "Push to start, level",
            "N",
            START,
            (weight, c, Given("k", rail.wheel.start, "1", "starting over running", "carriage.wheel")),
            source="dynamics 3.2",
        ),
    )
    return tell.told()


def smooth_figures(design: Design, move: Move, optics: Optics, away: float, suggest: bool, rail: Straight) -> Told:
    """Sticking at slow speed, joints, and speeds that shake the rail."""
    tell = Teller()
    number = design.number
    way = min(move.chord or rail.high - rail.low, rail.high - rail.low)
    fastest = way * move.profile.peak_speed
    try:
        rail_hz, slowest_at = rails.slowest_bounce(rail.beam, rail.low, rail.high, rail.moving)
    except HazelError:
        rail_hz, slowest_at = 0.0, 0.0
    damping = number("rail.damping")
    given = (
        Given("m", rail.moving, "kg", "carriage and camera kit", "kit"),
        Given("EI", rail.beam.ei, "N*m^2", "bending stiffness of all rails", "rail.section"),
    )
    if rail_hz > 0:
        tell.add(
            by_method(
                "travel.bounce",
                "Rail bounces at",
                rail_hz,
                "Hz",
                f"frame engine with masses, carriage where it swings slowest, at {slowest_at:.2f} m",
                given,
                source="statics 4.1",
            ),
            by_method(
                "travel.settle",
                "Settles after a stop in",
                vibration.settle_time(rail_hz, damping),
                "s",
                "to a fiftieth of the first swing",
                (*given, design.given("zeta", "rail.damping", "damping", "1")),
                source="dynamics 7.1",
            ),
        )
    weight = rail.weight
    lost = weight * rail.wheel.rolling_high * (rail.wheel.start - 1)
    sticks = rolling.stick_slip(lost, number("drive.stiffness"), rail.moving, number("drive.damping"))
    tell.add(
        by_method(
            "travel.sticks",
            "Sticks below",
            sticks,
            "m/s",
            "exact cycle of a load pulled through a spring",
            (
                Given("dF", lost, "N", "starting less running friction", "carriage.wheel"),
                design.given("k", "drive.stiffness", "hand or cord", "N/m"),
                design.given("zeta", "drive.damping", "its damping", "1"),
            ),
            source="dynamics 3.6",
        )
    )
    tell.add(
        by_formula(
            "travel.smooth_from",
            "Smooth from",
            "m/s",
            TWICE,
            (tell.given("v", "travel.sticks"),),
            assumptions=("twice where it sticks",),
            source="dynamics 3.6",
        )
    )
    stiff = min(200000.0, number("drive.stiffness") * 4)
    tell.hold(
        "travel.smooth_from",
        "travel.slow",
        "Slow enough not to stick",
        PICTURE,
        "drive.stiffness",
        "Under {} it jerks; this move runs at {}.",
        at_most=fastest,
        watch_at=1.0,
        remedies=(set_one("pole", "Push through something four times as stiff", "drive.stiffness", stiff),)
        if suggest and 2 * sticks > fastest
        else (),
    )
    tell.take(_joints(design, optics, away, suggest, rail, fastest, rail_hz, damping))
    tell.take(_speeds(design, move, suggest, rail, fastest, rail_hz, damping))
    return tell.told()


def _joints(
    design: Design,
    optics: Optics,
    away: float,
    suggest: bool,
    rail: Straight,
    speed: float,
    rail_hz: float,
    damping: float,
) -> Told:
    """The kick of a joint, in the picture."""
    tell = Teller()
    number = design.number
    every, up, wide = number("rail.joint_every"), number("rail.joint_step"), number("rail.joint_gap")
    if not every or not (up or wide) or speed <= 0:
        return tell.told()
    try:
        kick = max(
            rolling.step(rail.wheel.d, up, speed, rail.weight / len(rail.wheels)).kick if up else 0.0,
            rolling.gap(rail.wheel.d, wide, speed).kick if wide else 0.0,
        )
    except InfeasibleError as error:
        tell.findings.append(
            Finding(
                "travel.joint",
                "Joints of the rail",
                STRUCTURE,
                STOP,
                "rail.joint_step",
                Words(f"{str(error)[:1].upper()}{str(error)[1:]}."),
                max(up, wide),
                rail.wheel.d / 2,
                "at_most",
                "m",
            )
        )
        return tell.told()
    stroke = vibration.kick(kick / 2, max(rail_hz, 1.0), damping).stroke
    pixels = lens.focal_pixels(optics.focal_m, optics.pixels_high, optics.sensor_height_m) * stroke / away
    tell.add(
        by_method(
            "travel.kick",
            "A joint kicks the wheel with",
            kick,
            "m/s",
            "rigid wheel over step and gap",
            (Given("D", rail.wheel.d, "m", "wheel", "carriage.wheel"),),
            source="dynamics 3.1",
        ),
        by_method(
            "travel.kick_px",
            "and the picture by",
            pixels,
            "px",
            "half the kick at the carriage's middle, rail as a spring",
            (Given("f", rail_hz, "Hz", "rail bounces"),),
            source="dynamics 3.1, 7.1",
        ),
    )
    alike = (w for w in design.catalogue.wheels.values() if w.d > rail.wheel.d and w.shape == rail.wheel.shape)
    larger = [
        set_one("wheel", f"Use {w.name[:1].lower()}{w.name[1:]}", "carriage.wheel", w.id)
        for w in sorted(alike, key=lambda w: w.d)[:1]
    ]
    whole = set_one("whole", "Use a rail in one piece", "rail.joint_every", 0.0)
    tell.hold(
        "travel.kick_px",
        "travel.joint",
        "Joints of the rail",
        PICTURE,
        "rail.joint_step",
        "Each joint moves the picture by {}.",
        at_most=1.0,
        remedies=(*larger, whole) if suggest else (),
    )
    return tell.told()


def _speeds(
    design: Design, move: Move, suggest: bool, rail: Straight, fastest: float, rail_hz: float, damping: float
) -> Told:
    """Wheel turns and joints against the rail's own frequency."""
    tell = Teller()
    if rail_hz <= 0 or fastest <= 0:
        return tell.told()
    around, every = math.pi * rail.wheel.d, design.number("rail.joint_every")
    lines = [("wheel", around, 1), ("wheel, twice a turn", around, 2)] + ([("joint", every, 1)] if every else [])
    clashes = vibration.clashes(lines, [("rail", rail_hz, damping)], 0.0, 4 * fastest)
    hit = next((c for c in clashes if c.low <= fastest <= c.high), None)
    nearest = min(clashes, key=lambda c: abs(c.speed - fastest), default=None)
    if nearest is None:
        return tell.told()
    tell.add(
        by_method(
            "travel.avoid",
            "Nearest speed to avoid",
            nearest.speed,
            "m/s",
            f"frequency times way of one cycle: {nearest.line} against the {nearest.mode}",
            (Given("f", rail_hz, "Hz", "rail bounces"), Given("D", rail.wheel.d, "m", "wheel", "carriage.wheel")),
            source="dynamics 3.4, 7.1",
        )
    )
    words = (
        Words(f"At its fastest, {{}}, the {nearest.line} shakes the rail at its own frequency.", ((fastest, "m/s"),))
        if hit
        else Words(
            f"The {nearest.line} would shake the rail at {{}}; this move runs at {{}}.",
            ((nearest.speed, "m/s"), (fastest, "m/s")),
        )
    )
    slower = math.ceil(move.duration_s * fastest / (0.8 * nearest.low) * 2) / 2 if hit and nearest.low > 0 else 0.0
    tell.findings.append(
        Finding(
            "travel.speed",
            "Speeds to avoid",
            PICTURE,
            WATCH if hit else CLEAR,
            "shot.time",
            words,
            fastest,
            hit.low if hit else nearest.low,
            "at_most" if fastest < nearest.speed or hit else "at_least",
            "m/s",
            (set_one("time", "Take {}", "shot.time", slower, "s"),) if suggest and 0 < slower <= 36000 else (),
            figure="shot.speed",
        )
    )
    return tell.told()


CHAPTERS = (
    Chapter("pushes", push_figures),
    Chapter("smooth", smooth_figures),
    Chapter("wheels", wheel_figures),
    Chapter("axles", axle_curves),
)
