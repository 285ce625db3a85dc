"""Wheels: their loads, what lifts them, preload, friction, sticking, joints, and speeds to avoid."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Chapter, Design
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.mechanics import carriage, rails, rolling, vibration
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.errors import HazelError, InfeasibleError
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, PICTURE, STOP, STRUCTURE, WATCH, Finding, Remedy, judge
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics import lens

PUSH = Formula("W*(sin(alpha)+c*cos(alpha))")
START = Formula("W*c*k")
TWICE = Formula("2*v")
NIPPED = Formula("4*c*max(Y/sin(phi), Z/cos(phi))")
LEAST = 0.1
GROOVE = math.radians(45)


def wheel_figures(design: Design, suggest: bool, rail: Straight) -> Told:
    """Loads of the wheels while stopping hard on the slope with a careless push; lens-heavy cameras; preload."""
    tell, captive = Teller(), design.text("carriage.hold") == "captive"
    number = design.number
    brake, side = number("push.brake"), number("push.side")
    found = []
    for sign in (1.0, -1.0):
        for turn in (1.0, -1.0):
            try:
                found.append(
                    carriage.wheel_loads(rail.wheels, rail.moving, rail.cg.tolist(), (sign * brake, 0.0, 0.0), -rail.slope, 0.0, (((0.0, turn * side, 0.0), rail.lens.tolist()),))
                )
            except InfeasibleError:
                continue
    if rail.cg[2] < 0 or not found:
        # A carriage that hangs is held by its wheels whichever way: they must be trapped.
        state = CLEAR if captive else STOP
        tell.findings.append(Finding("balance.trapped", "Carriage held on the rail", PEOPLE, state, 1.0 if captive else 0.0, 1.0, "at_least", "1", "carriage.hold", "balance",
                                       Words("The camera hangs below its wheels: the carriage must be trapped." if not captive else "The carriage is trapped on the rail.")))  # fmt: skip
        if not found:
            return tell.told()
    least = min(float(w.loads.min()) for w in found)
    margin = min(w.margin for w in found)
    calm = carriage.wheel_loads(rail.wheels, rail.moving, rail.cg.tolist(), pitch=-rail.slope)
    given = (
        Given("m", rail.moving, "kg", "carriage and camera kit", "kit"), Given("c", rail.wheelbase, "m", "wheelbase", "carriage.wheelbase"),
        Given("x", float(rail.cg[0]), "m", "centre of mass ahead", "camera.ahead"), Given("h", float(rail.cg[2]), "m", "centre of mass above the rail", "camera.rise"),
    )  # fmt: skip
    tell.add(
        by_method("balance.least", "Least wheel load", least, "N", "balance", "rigid carriage on equal wheels, hard stop and careless push either way", given, source="statics 5.1", headline=True),
        by_method("balance.margin", "Tip margin", margin, "m", "balance", "foot point inside the wheels", given, source="statics 5.1, 6"),
        by_method("balance.foot", "Weight acts ahead of the middle", float(calm.foot[0]), "m", "balance", "foot point of the weight in the wheel plane", given, source="statics 5.1"),
    )  # fmt: skip
    floor = LEAST * calm.normal / len(rail.wheels)
    state = CLEAR if least >= floor else WATCH if least >= 0 or captive else STOP
    longer = round(min(1.0, max(0.02, 1.3 * rail.wheelbase)), 3)
    mend = (
        Remedy("over", Words("Move the mount to {} ahead", ((round(float(rail.mount[0] - rail.cg[0]), 3), "m"),)), (("camera.ahead", round(float(rail.mount[0] - rail.cg[0]), 3)),)),
        Remedy("longer", Words("Wheelbase {}", ((longer, "m"),)), (("carriage.wheelbase", longer),)),
    )  # fmt: skip
    tell.findings.append(Finding(
        "balance.lifts", "Wheels stay down", STRUCTURE, state, least, floor, "at_least", "N", "carriage.wheelbase", "balance",
        Words("In a hard stop the lightest wheel keeps {}." if least >= 0 else "In a hard stop a wheel is pulled off with {}" + ("; the captive carriage holds it." if captive else "."), ((abs(least), "N"),)),
        mend if suggest and state != CLEAR else (), figure="balance.least"
    ))  # fmt: skip
    off = abs(float(calm.foot[0]))
    tell.findings.append(Finding(
        "balance.heavy", "Camera over the wheels", PICTURE, judge(off, rail.wheelbase / 4, "at_most", PICTURE), off, rail.wheelbase / 4, "at_most", "m", "camera.ahead", "balance",
        Words("The weight acts {} off the middle; the middle half of the wheelbase is good.", ((off, "m"),)), mend[:1] if suggest and off > 0.2 * rail.wheelbase else (), figure="balance.foot"
    ))  # fmt: skip
    if rail.wheel.shape == "grooved" and rail.count == 1:
        tell.take(_preload(design, rail, [float(n) for n in (calm.loads if len(calm.loads) == 4 else [*calm.loads, calm.loads[-1]])]))
    return tell.told()


def _preload(design: Design, rail: Straight, vertical: list[float]) -> Told:
    """Side preload that keeps both flanks of the grooves touching."""
    tell = Teller()
    need = carriage.groove_preload(design.number("push.side"), float(rail.lens[0]), rail.wheelbase, vertical, GROOVE, rail.wheel.rolling_high)
    given = (design.given("F", "push.side", "careless push", "N"), Given("c", rail.wheelbase, "m", "wheelbase", "carriage.wheelbase"))
    tell.add(
        by_method("balance.preload", "Nip up each wheel by", need.each, "N", "balance", "1.25 times the largest side change plus load over the groove's slope", given, assumptions=("grooves of 45°",), source="statics 5.2"),
        by_method("balance.drag", "Drag with that preload", need.drag, "N", "balance", "rolling coefficient times the flank forces", given, source="statics 5.2"),
    )  # fmt: skip
    tell.add(by_formula("balance.drag_now", "Drag as nipped up", "N", "balance", NIPPED, (
        Given("c", rail.wheel.rolling_high, "1", "rolling coefficient, upper end", "carriage.wheel"), design.given("Y", "wheel.preload", "side preload of each wheel", "N"),
        Given("phi", GROOVE, "rad", "half angle of the groove"), Given("Z", sum(map(abs, vertical)) / 4, "N", "weight on each wheel", "kit")), assumptions=("a lone third wheel counts twice",), source="statics 5.2"))  # fmt: skip
    now = design.number("wheel.preload")
    better = math.ceil(need.each)
    tell.findings.append(Finding(
        "balance.nipped", "Wheels nipped up", STRUCTURE, CLEAR if need.each <= now <= 3 * max(need.each, 1.0) else WATCH, now, need.each, "at_least", "N", "wheel.preload", "balance",
        Words("Nipped up by {}; {} keeps both flanks touching." if now < need.each else "Nipped up by {}; {} would do." if now > 3 * max(need.each, 1.0) else "Nipped up by {}; {} is needed.", ((now, "N"), (need.each, "N"))),
        (Remedy("nip", Words("Nip up by {}", ((better, "N"),)), (("wheel.preload", float(better)),)),) if better <= 500 and not need.each <= now <= 3 * max(need.each, 1.0) else (), figure="balance.preload"
    ))  # fmt: skip
    return tell.told()


def slope_figures(rail: Straight) -> Told:
    """Whether the carriage runs away, and the push it needs."""
    tell = Teller()
    steep = abs(rail.slope)
    roll = carriage.incline(rail.moving, steep, rail.wheel.rolling, rail.high - rail.low)
    weight = Given("W", rail.weight, "N", "carriage and camera kit", "kit")
    slope, c = Given("alpha", steep, "rad", "slope", "rail.slope"), Given("c", rail.wheel.rolling_high, "1", "rolling coefficient, upper end", "carriage.wheel")
    tell.add(
        by_formula("travel.push", "Push, steady", "N", "travel", PUSH, (weight, slope, c), assumptions=("preload's own drag comes on top",), source="dynamics 3.2"),
        by_formula("travel.start", "Push to start, level", "N", "travel", START, (weight, c, Given("k", rail.wheel.start, "1", "starting over running", "carriage.wheel")), source="dynamics 3.2"),
    )  # fmt: skip
    if steep > 1e-6:
        tell.add(by_method("balance.hold", "Hold it with", roll.holding, "N", "balance", "weight along the slope less the least friction", (weight, slope), source="statics 5.4"))
        half = math.atan(rail.wheel.rolling) / 2
        state = STOP if roll.runs_away else WATCH if steep > half else CLEAR
        tell.findings.append(Finding(
            "balance.away", "Runs away by itself", PEOPLE, state, steep, math.atan(rail.wheel.rolling), "at_most", "rad", "rail.slope", "balance",
            Words("On this slope the carriage runs away and reaches {} at the end: brake it, or drive it with a screw.", ((roll.end_speed, "m/s"),)) if roll.runs_away else Words("Friction holds it; keep a hand on it."),
            (Remedy("level", Words("Lay the rail level"), (("rail.slope", 0.0),)),) if state != CLEAR else (),
        ))  # fmt: skip
    return tell.told()


def smooth_figures(design: Design, move: Move, optics: Optics, away: float, suggest: bool, rail: Straight) -> Told:
    """Sticking at slow speed, joints, and speeds that shake the rail."""
    tell = Teller()
    number = design.number
    way = min(move.chord or rail.high - rail.low, rail.high - rail.low)
    fastest = way * move.profile.peak_speed
    middle = (rail.low + rail.high) / 2
    try:
        rail_hz = rails.bounce(rail.beam, middle, rail.moving)
    except HazelError:
        rail_hz = 0.0
    damping = number("rail.damping")
    given = (Given("m", rail.moving, "kg", "carriage and camera kit", "kit"), Given("EI", rail.beam.ei, "N*m^2", "bending stiffness of all rails", "rail.section"))
    if rail_hz > 0:
        tell.add(
            by_method("travel.bounce", "Rail bounces at", rail_hz, "Hz", "travel", "frame engine with masses, carriage at the middle", given, source="statics 4.1"),
            by_method("travel.settle", "Settles after a stop in", vibration.settle_time(rail_hz, damping), "s", "travel", "to a fiftieth of the first swing", (*given, design.given("zeta", "rail.damping", "damping", "1")), source="dynamics 7.1"),
        )  # fmt: skip
    weight = rail.weight
    lost = weight * rail.wheel.rolling_high * (rail.wheel.start - 1)
    sticks = rolling.stick_slip(lost, number("drive.stiffness"), rail.moving, number("drive.damping"))
    tell.add(by_method("travel.sticks", "Sticks below", sticks, "m/s", "travel", "exact cycle of a load pulled through a spring", (
        Given("dF", lost, "N", "starting less running friction", "carriage.wheel"), design.given("k", "drive.stiffness", "hand or cord", "N/m"), design.given("zeta", "drive.damping", "its damping", "1")), source="dynamics 3.6"))  # fmt: skip
    tell.add(
        by_formula("travel.smooth_from", "Smooth from", "m/s", "travel", TWICE, (tell.given("v", "travel.sticks"),), assumptions=("twice where it sticks",), source="dynamics 3.6")
    )
    stiff = min(200000.0, number("drive.stiffness") * 4)
    tell.findings.append(Finding(
        "travel.slow", "Slow enough not to stick", PICTURE, judge(2 * sticks, max(fastest, 1e-9), "at_most", PICTURE, watch_at=1.0), 2 * sticks, fastest, "at_most", "m/s", "drive.stiffness", "travel",
        Words("Under {} it jerks; this move runs at {}.", ((2 * sticks, "m/s"), (fastest, "m/s"))),
        (Remedy("pole", Words("Push through something four times as stiff"), (("drive.stiffness", stiff),)),) if suggest and 2 * sticks > fastest else (), figure="travel.smooth_from"
    ))  # fmt: skip
    tell.take(_joints(design, optics, away, suggest, rail, fastest, rail_hz, damping))
    tell.take(_speeds(design, move, suggest, rail, fastest, rail_hz, damping))
    return tell.told()


def _joints(design: Design, optics: Optics, away: float, suggest: bool, rail: Straight, speed: float, rail_hz: float, damping: float) -> Told:
    """The kick of a joint, in the picture."""
    tell = Teller()
    number = design.number
    every, up, wide = number("rail.joint_every"), number("rail.joint_step"), number("rail.joint_gap")
    if not every or not (up or wide) or speed <= 0:
        return tell.told()
    try:
        kick = max(rolling.step(rail.wheel.d, up, speed, rail.weight / len(rail.wheels)).kick if up else 0.0, rolling.gap(rail.wheel.d, wide, speed).kick if wide else 0.0)
    except InfeasibleError as error:
        tell.findings.append(
            Finding(
                "travel.joint",
                "Joints of the rail",
                STRUCTURE,
                STOP,
                max(up, wide),
                rail.wheel.d / 2,
                "at_most",
                "m",
                "rail.joint_step",
                "travel",
                Words(f"{str(error)[:1].upper()}{str(error)[1:]}."),
                figure="travel.kick_px",
            )
        )
        return tell.told()
    stroke = vibration.kick(kick / 2, max(rail_hz, 1.0), damping).stroke
    pixels = lens.focal_pixels(optics.focal_m, optics.pixels_high, optics.sensor_height_m) * stroke / away
    tell.add(
        by_method("travel.kick", "A joint kicks the wheel with", kick, "m/s", "travel", "rigid wheel over step and gap", (Given("D", rail.wheel.d, "m", "wheel", "carriage.wheel"),), source="dynamics 3.1"),
        by_method("travel.kick_px", "and the picture by", pixels, "px", "travel", "half the kick at the carriage's middle, rail as a spring", (Given("f", rail_hz, "Hz", "rail bounces"),), source="dynamics 3.1, 7.1"),
    )  # fmt: skip
    bigger = next((w for w in sorted(design.catalogue.wheels.values(), key=lambda w: w.d) if w.d > rail.wheel.d and w.shape == rail.wheel.shape), None)
    tell.findings.append(Finding(
        "travel.joint", "Joints of the rail", PICTURE, judge(pixels, 1.0, "at_most", PICTURE), pixels, 1.0, "at_most", "px", "rail.joint_step", "travel",
        Words("Each joint moves the picture by {}.", ((pixels, "px"),)),
        ((Remedy("wheel", Words(f"Use {bigger.name[:1].lower()}{bigger.name[1:]}"), (("carriage.wheel", bigger.id),)),) if bigger else ()) + (Remedy("whole", Words("Use a rail in one piece"), (("rail.joint_every", 0.0),)),)
        if suggest and pixels > 0.8 else (),
    ))  # fmt: skip
    return tell.told()


def _speeds(design: Design, move: Move, suggest: bool, rail: Straight, fastest: float, rail_hz: float, damping: float) -> Told:
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
    tell.add(by_method("travel.avoid", "Nearest speed to avoid", nearest.speed, "m/s", "travel", f"frequency times way of one cycle: {nearest.line} against the {nearest.mode}", (
        Given("f", rail_hz, "Hz", "rail bounces"), Given("D", rail.wheel.d, "m", "wheel", "carriage.wheel")), source="dynamics 3.4, 7.1"))  # fmt: skip
    words = (
        Words(f"At its fastest, {{}}, the {nearest.line} shakes the rail at its own frequency.", ((fastest, "m/s"),))
        if hit
        else Words(f"The {nearest.line} would shake the rail at {{}}; this move runs at {{}}.", ((nearest.speed, "m/s"), (fastest, "m/s")))
    )
    slower = math.ceil(move.duration_s * fastest / (0.8 * nearest.low) * 2) / 2 if hit and nearest.low > 0 else 0.0
    tell.findings.append(Finding(
        "travel.speed", "Speeds to avoid", PICTURE, WATCH if hit else CLEAR, fastest, hit.low if hit else nearest.low, "at_most" if fastest < nearest.speed or hit else "at_least", "m/s", "shot.time", "travel", words,
        (Remedy("time", Words("Take {}", ((slower, "s"),)), (("shot.time", slower),)),) if suggest and 0 < slower <= 36000 else (), figure="shot.speed"
    ))  # fmt: skip
    return tell.told()


CHAPTERS = (Chapter("slopes", slope_figures), Chapter("smooth", smooth_figures), Chapter("wheels", wheel_figures))
