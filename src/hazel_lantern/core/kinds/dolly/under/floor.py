"""A dolly on the floor: what gives under it, what steps, gaps and an uneven floor do to the picture,
where it strays."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.dolly.hands import ONE_PERSON
from hazel_lantern.core.kinds.dolly.inputs import BOARDS, CARPET, LOCKED, SOUND, TILES, TRUCKS
from hazel_lantern.core.kinds.dolly.model import BALLAST, Dolly
from hazel_lantern.core.kinds.rail.bends import HORIZON
from hazel_lantern.core.kinds.rail.model import Carriage
from hazel_lantern.core.kinds.rail.rolling import sticking
from hazel_lantern.core.kinds.rail.rumble import Line, rumble
from hazel_lantern.core.mechanics import platform, rolling, vibration
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.figure import Curve, Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, PICTURE, STOP, STRUCTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words, within
from hazel_lantern.core.optics import lens

SLOWEST = 0.05  # hertz under which it no longer swings
HARD = 2e6  # newtons a metre, of a tread nobody said anything of
LOUD = 5e5  # newtons a metre from which a tread rings
SEEN = 1.0  # pixels
STRAYS = 0.03  # metres a metre that a hand still corrects, workshop judgement
KINGPIN = math.radians(45)  # of a lean-steering truck
CURVES = Formula("B*k/(2*M*tan(p))")
SKEWED = Formula("2*tan(d)")


class Tyres(Struct, frozen=True):
    """All that rolls on its tyres: stiffness of one wheel [N/m]; up and down, nodding and swaying [Hz]."""

    each: float
    heave: float
    nod: float
    sway: float


def springs(rail: Carriage, dolly: Dolly) -> Tyres:
    """Point masses on wheels that give alike: nodding about the centre of mass, which rolls freely, swaying about the
    floor, which holds the wheels sideways. Source: dynamics 7.1.
    """
    k = rail.wheel.gives or HARD
    masses, places = dolly.masses
    heave = math.sqrt(len(rail.wheels) * k / rail.moving) / (2 * math.pi)
    from_centre = places - rail.cg
    nods = float(masses @ (from_centre[:, 0] ** 2 + from_centre[:, 2] ** 2))
    sways = float(masses @ (places[:, 1] ** 2 + places[:, 2] ** 2))
    along, across = (k * float((rail.wheels[:, axis] ** 2).sum()) for axis in (0, 1))
    falls = rail.weight * float(rail.cg[2])
    return Tyres(k, heave, _swings(along, nods), _swings(across - falls, sways))


def _swings(stiffness: float, inertia: float) -> float:
    return math.sqrt(max(0.0, stiffness) / inertia) / (2 * math.pi) if inertia > 0 else 0.0


def floor_figures(
    design: Design, move: Move, optics: Optics, away: float, suggest: bool, rail: Carriage, dolly: Dolly, tyres: Tyres
) -> Told:
    """Steps, gaps and speeds in the picture, an uneven floor, where it strays, what is heard."""
    tell = Teller()
    fastest = rail.way_of(move) * move.profile.peak_speed
    _swing(tell, design, rail, tyres)
    tell.take(sticking(design, suggest, rail, fastest))
    if fastest > 0:
        _kicks(tell, design, optics, away, suggest, dolly, tyres, fastest)
    _climbs(tell, design, suggest, rail)
    around, every = math.pi * rail.wheel.d, design.number("floor.every")
    lines: list[Line] = [("wheel", around, 1), ("wheel, twice a turn", around, 2)]
    if every:
        lines.append(("gap", every, 1))
    damping = design.number("tyre.damping")
    modes = [
        (name, hz, damping) for name, hz in (("deck", tyres.heave), ("nod", tyres.nod), ("sway", tyres.sway)) if hz > 0
    ]
    given = (Given("f", tyres.nod, "Hz", "nods at"), Given("D", rail.wheel.d, "m", "wheel", "carriage.wheel"))
    tell.take(rumble(move, fastest, lines, modes, given, suggest=suggest))
    _rocks(tell, design, suggest, rail, tyres)
    _strays(tell, design, suggest, rail)
    if design.text("sound.recorded") == SOUND:
        tell.findings.append(_heard(design, rail))
    return tell.told()


def _swing(tell: Teller, design: Design, rail: Carriage, tyres: Tyres) -> None:
    given = (
        Given("m", rail.moving, "kg", "all that rolls", "kit"),
        Given(
            "k",
            tyres.each,
            "N/m",
            "a wheel gives" if rail.wheel.gives else "a hard wheel, nobody said",
            "carriage.wheel",
        ),
    )
    how, source = "point masses on four wheels that give alike", "dynamics 7.1"
    tell.add(
        by_method("travel.bounce", "Bounces on its wheels at", tyres.heave, "Hz", how, given, source=source),
        by_method("travel.nods", "Nods at", tyres.nod, "Hz", how, given, source=source),
        by_method("travel.sways", "Sways at", tyres.sway, "Hz", how, given, source=source),
    )
    slowest = min((hz for hz in (tyres.heave, tyres.nod, tyres.sway) if hz > 0), default=0.0)
    if slowest:
        tell.add(
            by_method(
                "travel.settle",
                "Settles after a stop in",
                vibration.settle_time(slowest, design.number("tyre.damping")),
                "s",
                "to a fiftieth of the first swing",
                (*given, design.given("zeta", "tyre.damping", "damping", "1")),
                source=source,
            )
        )


class Jolt(Struct, frozen=True):
    """What one axle's step or gap does to the picture: shift [px] and lean [rad]."""

    shift: float
    lean: float


Met = tuple[np.ndarray, np.ndarray]  # the way of a wheel's middle: places and heights [m]


def jolts(
    optics: Optics, away: float, rigs: Sequence[tuple[Carriage, Tyres]], damping: float, met: Met, speed: float
) -> tuple[Jolt, ...]:
    """One axle over what it meets, of each of several rigs: half of it up and down, all of it over the wheelbase as
    a nod, each at its worst.
    """
    focal = lens.focal_pixels(optics.focal_m, optics.pixels_high, optics.sensor_height_m)
    swings = np.array([max(hz, SLOWEST) for _, tyres in rigs for hz in (tyres.heave, tyres.nod)])
    moved = vibration.carried_over(swings, damping, met[0] / speed, met[1]).reshape(-1, 2)
    found = []
    for (rail, _), (heave, nod) in zip(rigs, moved, strict=True):
        up, nods = float(heave) / 2, float(nod) / rail.wheelbase
        high = float(rail.lens[2] - rail.cg[2])
        ahead, aside = abs(math.cos(rail.heading)), abs(math.sin(rail.heading))
        found.append(Jolt(focal * (nods * ahead + (up + nods * high * aside) / away), nods * aside))
    return tuple(found)


def _kicks(
    tell: Teller, design: Design, optics: Optics, away: float, suggest: bool, dolly: Dolly, tyres: Tyres, speed: float
) -> None:
    """The worse of the highest step and the widest gap."""
    rail, number = dolly.way, design.number
    up, wide, damping = number("floor.step"), number("floor.gap"), number("tyre.damping")
    if not up and not wide:
        return
    try:
        met = _met(rail.wheel.d, up, wide, speed)
    except InfeasibleError as error:
        said = Words(f"{str(error)[:1].upper()}{str(error)[1:]}.")
        tell.findings.append(
            Finding(
                "travel.joint",
                "Steps and gaps",
                STRUCTURE,
                STOP,
                "floor.step",
                said,
                max(up, wide),
                rail.wheel.d / 2,
                "at_most",
                "m",
                _over(design, rail, suggest=suggest),
            )
        )
        return
    now = [(rail, tyres)]
    path, kick = max(met, key=lambda one: jolts(optics, away, now, damping, one[0], speed)[0].shift)
    (seen,) = jolts(optics, away, now, damping, path, speed)
    given = (
        Given("D", rail.wheel.d, "m", "wheel", "carriage.wheel"),
        Given("v", speed, "m/s", "the move's fastest", "shot.time"),
        design.given("h", "floor.step", "step", "m"),
        design.given("w", "floor.gap", "gap", "m"),
    )
    rides = (Given("m", rail.moving, "kg", "all that rolls", "kit"), Given("f", tyres.nod, "Hz", "nods at"))
    assume = ("both wheels of an axle at once", "rigid wheel, what its tread swallows left out")
    tell.add(
        by_method(
            "travel.kick",
            "A step or gap kicks the axle with",
            kick,
            "m/s",
            "rigid wheel over step and gap",
            given,
            source="dynamics 3.1",
        ),
        by_method(
            "travel.kick_px",
            "and moves the picture by",
            seen.shift,
            "px",
            "a rigid wheel's way over it swings the rig on its treads: nod, and half of it up, each at its worst",
            (*given, *rides),
            assumptions=assume,
            source="dynamics 3.1, 7.1",
        ),
        by_method(
            "travel.kick_lean",
            "and leans it by",
            seen.lean,
            "rad",
            "nod seen by a camera that looks aside",
            (*given, *rides),
            assumptions=assume,
            source="dynamics 3.1, 7.1",
        ),
    )
    tell.hold(
        "travel.kick_px",
        "travel.joint",
        "Steps and gaps",
        PICTURE,
        "floor.step",
        "Each step or gap of the floor moves the picture by {}; {} passes.",
        at_most=SEEN,
        remedies=_over(design, rail, suggest=suggest),
    )
    tell.hold(
        "travel.kick_lean",
        "travel.leans",
        "Level over steps",
        PICTURE,
        "floor.step",
        "Over a step or gap the picture leans by {}; {} passes.",
        at_most=HORIZON,
        remedies=_over(design, rail, suggest=suggest),
    )
    other = [dolly.ballasted(bag - dolly.ballast) for bag in BALLAST]
    rigs = [(one.way, springs(one.way, one)) for one in other]
    shifts = np.array([one.shift for one in jolts(optics, away, rigs, damping, path, speed)])
    tell.curves["travel.ballast"] = Curve(
        "travel.ballast", "Jolt in the picture", BALLAST, shifts, "kg", "px", "ballast", dolly.ballast
    )


def _met(diameter: float, up: float, wide: float, speed: float) -> list[tuple[Met, float]]:
    """Ways over step and gap and their kicks [m/s]. Raises InfeasibleError for those no wheel so large gets over."""
    found = []
    if up:
        found.append((rolling.over_step(diameter, up), float(rolling.step(diameter, up, speed).kick)))
    if wide:
        found.append((rolling.over_gap(diameter, wide), float(rolling.gap(diameter, wide, speed).kick)))
    return found


def _over(design: Design, rail: Carriage, *, suggest: bool) -> tuple[Remedy, ...]:
    """Larger wheels, and a floor with smaller steps."""
    if not suggest:
        return ()
    alike = sorted(
        (w for w in design.catalogue.wheels.values() if w.d > rail.wheel.d and w.shape == "round"), key=lambda w: w.d
    )
    larger = [set_one(f"wheel.{w.id}", f"Use {within(w.name)}", "carriage.wheel", w.id) for w in alike]
    smoother = set_one("swept", "Tape cables down flat, fill gaps: steps of {}", "floor.step", 0.0005, "m")
    fill = () if design.number("floor.step") <= 5e-4 else (smoother,)
    return (*larger, *fill)


def _climbs(tell: Teller, design: Design, suggest: bool, rail: Carriage) -> None:
    """The push that gets its heavier axle over the highest step from rest, and the speed that carries it over."""
    up = design.number("floor.step")
    if not up:
        return
    heavier = max(rail.axles())
    try:
        climb = float(rolling.step(rail.wheel.d, up, 1.0, heavier).climb)
        over = rolling.carries_over(rail.wheel.d, up, heavier, rail.moving)
    except InfeasibleError:
        return  # told with the kick
    given = (
        Given("W", heavier, "N", "heavier axle", "kit"),
        design.given("h", "floor.step", "step", "m"),
        Given("D", rail.wheel.d, "m", "wheel", "carriage.wheel"),
    )
    tell.add(
        by_method(
            "travel.climb",
            "Push to climb the step from rest",
            climb,
            "N",
            "axle about the edge of the step",
            given,
            source="dynamics 3.1",
        ),
        by_method(
            "travel.over_step",
            "Rolls over it by itself from",
            over,
            "m/s",
            "lifts the axle's load, loses its kick",
            given,
            source="dynamics 3.1",
        ),
    )
    tell.hold(
        "travel.climb",
        "travel.climbs",
        "Over the highest step",
        PICTURE,
        "floor.step",
        "To climb the highest step from rest it takes {}; {} is one person's even push.",
        at_most=ONE_PERSON,
        watch_at=1.0,
        remedies=_over(design, rail, suggest=suggest),
    )


def _rocks(tell: Teller, design: Design, suggest: bool, rail: Carriage, tyres: Tyres) -> None:
    """How far it rocks on a floor that one of its wheels does not meet."""
    floor = [design.number("floor.uneven"), 0.0, 0.0, 0.0]
    try:
        gap = max(platform.rocking(rail.wheels, np.roll(floor, k).tolist(), rail.cg[:2].tolist()).gap for k in range(4))
    except InfeasibleError:
        return  # it falls over by itself: the footing says so
    share = 0.25 - abs(float(rail.cg[0])) / (2 * rail.wheelbase) - abs(float(rail.cg[1])) / (2 * rail.spacing)
    gives = 4 * max(0.0, share) * rail.weight / tyres.each
    left = max(0.0, gap - gives)
    tell.add(
        by_method(
            "travel.rocks",
            "A wheel hangs free by",
            left,
            "m",
            "four wheels on the floor less what their treads take up",
            (
                design.given("w", "floor.uneven", "uneven by", "m"),
                Given("k", tyres.each, "N/m", "a wheel gives", "carriage.wheel"),
            ),
            source="dynamics 6.2",
        ),
        by_method(
            "travel.rocks_lean",
            "Rocks by",
            left / rail.spacing,
            "rad",
            "that gap over the gauge",
            (Given("g", rail.spacing, "m", "gauge", "rail.spacing"),),
            source="dynamics 6.2",
        ),
    )
    softer = [
        w
        for w in design.catalogue.wheels.values()
        if w.shape == "round" and 0 < w.gives < tyres.each / 2 and w.d >= rail.wheel.d
    ]
    best = min(softer, key=lambda w: (-w.gives, w.id), default=None)
    mend = (set_one("softer", f"Use {within(best.name)}", "carriage.wheel", best.id),) if suggest and best else ()
    tell.hold(
        "travel.rocks_lean",
        "travel.rocking",
        "Stands on all its wheels",
        PICTURE,
        "floor.uneven",
        "On the uneven floor it rocks by {}; {} passes.",
        at_most=HORIZON / 2,
        remedies=mend,
    )


def _strays(tell: Teller, design: Design, suggest: bool, rail: Carriage) -> None:
    """How far it goes aside: axles out of square, and trucks that steer where the load leans them."""
    skew, way = design.number("truck.square"), rail.high - rail.low
    base = Given("B", rail.wheelbase, "m", "wheels apart, along", "carriage.wheelbase")
    off = design.given("d", "truck.square", "each axle out of square", "rad")
    # Both the same way go aside at that angle; opposed they curve, and at the end of the way head away by more.
    aside = math.tan(skew) * max(1.0, way / rail.wheelbase)
    tell.add(
        by_method(
            "travel.drift",
            "Strays, of every metre",
            aside,
            "1",
            "axles skewed alike go aside at that angle, skewed against each other curve: the worse over the whole way",
            (off, base, Given("L", way, "m", "travel", "rail.length")),
            source="geometry",
        )
    )
    square = math.floor(STRAYS * 0.75 / max(1.0, way / rail.wheelbase) * 1e4) / 1e4
    tell.hold(
        "travel.drift",
        "travel.straight",
        "Runs straight",
        PICTURE,
        "truck.square",
        "Left to itself it strays by {} of its way; a hand corrects {}: steer by a taped line.",
        at_most=STRAYS,
        remedies=(set_one("square", "Shim its axles true to {}", "truck.square", square, "rad"),) if suggest else (),
    )
    if design.variant != TRUCKS:
        return
    if design.text("truck.lean") == LOCKED:
        tell.findings.append(
            Finding(
                "travel.steers",
                "Trucks",
                PICTURE,
                CLEAR,
                "truck.lean",
                Words("Its trucks are locked: it does not steer as it leans."),
            )
        )
        return
    lean = max(1e-9, design.number("push.side") * float(rail.lens[2]) + rail.weight * abs(float(rail.cg[1])))
    stiff = 2 * design.number("truck.stiffness")
    tips = stiff <= rail.weight * float(rail.cg[2])
    tell.add(
        by_formula(
            "travel.turns",
            "A careless push turns it in a circle of",
            "m",
            CURVES,
            (
                base,
                Given("k", stiff, "N*m/rad", "both trucks resist leaning", "truck.stiffness"),
                Given("M", lean, "N*m", "careless push at the lens, weight aside", "push.side"),
                Given("p", KINGPIN, "rad", "slant of the kingpins"),
            ),
            assumptions=("both trucks steer alike, small leans",),
            source="geometry",
        )
    )
    mend = (set_one("lock", "Lock the trucks or shim them", "truck.lean", LOCKED),)
    radius = tell.value("travel.turns")
    bow = way**2 / (2 * radius)
    words = (
        Words("Its cushions are too soft for so high a weight: it leans over by itself.")
        if tips
        else Words("Free trucks steer with every lean: pushed sideways it bows off its line by {}.", ((bow, "m"),))
    )
    tell.findings.append(
        Finding(
            "travel.steers",
            "Trucks",
            PEOPLE if tips else PICTURE,
            STOP if tips else WATCH,
            "truck.lean",
            words,
            bow,
            STRAYS * way,
            "at_most",
            "m",
            mend,
        )
    )


def _heard(design: Design, rail: Carriage) -> Finding:
    """What a microphone would hear, by how hard the wheels and how broken the floor are; workshop judgement."""
    floor, hard = design.text("floor.kind"), (rail.wheel.gives or HARD) >= LOUD
    clicks = floor == TILES or design.number("floor.gap") > 0.001 or design.number("floor.step") > 0.0005
    found = 2 * hard + clicks + (floor == BOARDS) - (floor == CARPET)
    why = [
        *(["hard treads ring"] if hard else []),
        *(["gaps and edges click"] if clicks else []),
        *(["boards drum"] if floor == BOARDS else []),
    ]
    words = Words(
        "Quiet enough to record beside it."
        if found <= 0 or not why
        else f"A microphone near it hears it: {', '.join(why)}."
    )
    soft = [
        w for w in design.catalogue.wheels.values() if w.shape == "round" and 0 < w.gives < LOUD and w.d >= rail.wheel.d
    ]
    best = max(soft, key=lambda w: (w.gives, w.id), default=None)
    mend = (set_one("soft", f"Use {within(best.name)}", "carriage.wheel", best.id),) if hard and best else ()
    return Finding(
        "travel.heard",
        "Noise",
        PICTURE,
        CLEAR if found <= 0 else WATCH,
        "sound.recorded",
        words,
        float(found),
        0.0,
        "at_most",
        "1",
        mend,
    )
