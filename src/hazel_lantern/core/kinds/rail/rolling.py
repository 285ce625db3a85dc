"""How a carriage rolls: slopes, friction, sticking, joints, and speeds to avoid."""

from __future__ import annotations

import math
from itertools import pairwise

from hazel_lantern.core.kinds.base import Chapter, Design
from hazel_lantern.core.kinds.rail.driven import lead_hangs
from hazel_lantern.core.kinds.rail.model import Carriage, Straight
from hazel_lantern.core.kinds.rail.rumble import Line, rumble
from hazel_lantern.core.kinds.rail.wheels import axle_curves, wheel_figures
from hazel_lantern.core.kinds.shared.lead import drawn
from hazel_lantern.core.mechanics import rails, rolling, vibration
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.errors import HazelError, InfeasibleError
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import PICTURE, STOP, STRUCTURE, Finding, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words, within
from hazel_lantern.core.optics import lens

PUSH = Formula("W*(sin(alpha)+c*cos(alpha))")
START = Formula("W*c*k")
TWICE = Formula("2*v")
FEW = 3  # supports that are no ties


def push_figures(rail: Carriage) -> Told:
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
    fastest = rail.way_of(move) * move.profile.peak_speed
    try:
        rail_hz, slowest_at = rails.slowest_bounce(rail.beam, rail.low, rail.high, rail.felt)
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
    tell.take(sticking(design, suggest, rail, fastest))
    tell.take(_joints(design, optics, away, suggest, rail, fastest, rail_hz, damping))
    if rail_hz > 0:
        bounces = (Given("f", rail_hz, "Hz", "rail bounces"), Given("D", rail.wheel.d, "m", "wheel", "carriage.wheel"))
        modes = [("rail", rail_hz, damping)]
        tell.take(rumble(move, fastest, _lines(design, rail), modes, bounces, suggest=suggest))
    return tell.told()


def sticking(design: Design, suggest: bool, rail: Carriage, fastest: float) -> Told:
    """The speed under which it sticks and jumps, pushed by hand or cord, against the move's fastest [m/s]."""
    tell, number = Teller(), design.number
    lost = rail.weight * rail.drag[1] * (rail.wheel.start - 1)
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
        set_one("wheel", f"Use {within(w.name)}", "carriage.wheel", w.id) for w in sorted(alike, key=lambda w: w.d)[:1]
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


def _lines(design: Design, rail: Straight) -> list[Line]:
    """What comes once in so much of its way: a turn of the wheel, a joint, a tie."""
    around, every = math.pi * rail.wheel.d, design.number("rail.joint_every")
    rests = [rest.x for rest in rail.beam.rests]
    lines: list[Line] = [("wheel", around, 1), ("wheel, twice a turn", around, 2)]
    if every:
        lines.append(("joint", every, 1))
    if len(rests) > FEW:
        lines.append(("tie", max(b - a for a, b in pairwise(rests)), 1))
    return lines


def lead_figures(design: Design, rail: Carriage, pushes: Told) -> Told:
    """The lead to its camera, hung in loops where the camera hangs."""
    hung, high = lead_hangs(rail)
    push = pushes.value("travel.push")
    return drawn(design, rail.high - rail.low, high, push, hung=hung, by="rail.length", over=rail.height)


CHAPTERS = (
    Chapter("pushes", push_figures),
    Chapter("smooth", smooth_figures),
    Chapter("wheels", wheel_figures),
    Chapter("axles", axle_curves),
    Chapter("lead", lead_figures),
)
