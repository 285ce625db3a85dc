"""What an orbit rig does as it turns: balance at rest and in motion, pull, base, how it coasts, what it may not do."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.kinds.base import Changes, Design
from hazel_lantern.core.kinds.orbit.design import DRIVEN, SOMEBODY
from hazel_lantern.core.kinds.orbit.model import SIDE_ROWS, THICK, Orbit
from hazel_lantern.core.kinds.shared.standing import bump
from hazel_lantern.core.mechanics import rotor
from hazel_lantern.core.mechanics.safety import safety_class
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.errors import InfeasibleError, RefusedError
from hazel_lantern.core.nouns.figure import Curve, Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, PICTURE, STOP, STRUCTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

OVERSHOOT = 1.1  # of the speed asked for, which the verdict is taken at
EVEN = 0.02  # share of the camera side's moment that may be left over
LEVEL_PULL = 3.0  # a base stands so many times firmer than what wobbles on it; dynamics 2 asks for two
LONG = 10.0  # seconds of coasting from which it needs a brake
NOTHING = 1e-9  # metres off the axis, of several cameras that balance
BESIDE = 0.5  # metres beyond what sweeps round
CAMERA_FACE = 0.015  # square metres that meet the air
TURNS_A_METRE = 1.0  # that a loose lead takes
RPM = 2 * math.pi / 60
TIP_SPEED = Formula("w*r")
ENERGY = Formula("I*w**2/2")
PULL = Formula("w**2*r/g")
SPIN = Formula("60*a*p/(2*pi)")


class Spun(Struct, frozen=True):
    """How fast it turns at its fastest [rad/s], how far in all [rad], and what that asks of hub and floor."""

    fastest: float
    sweep: float
    hub: rotor.Turning
    floor: rotor.Turning


def spun(move: Move, orbit: Orbit) -> Spun:
    """Of a shot's own turn and time; a straight wish is met over the arc that spans it."""
    if move.arc_rad:
        sweep = abs(move.arc_rad)
    else:
        sweep = 2 * math.asin(min(1.0, move.chord / (2 * orbit.lens_at))) if move.chord else 2 * math.pi
    fastest = sweep * move.profile.peak_speed
    return Spun(
        fastest, sweep, rotor.turning(orbit.turns_as, fastest, orbit.beam), rotor.turning(orbit.turns_as, fastest)
    )


def needed(orbit: Orbit) -> float:
    """The weights that balance it at rest, their arm as it is [kg]; none where several cameras balance each other."""
    if orbit.cameras > 1:
        return 0.0
    front = sum(m * r * math.cos(a) for m, r, a, _ in orbit.turns_as[:-1])
    return max(0.0, front / orbit.rear)


def level_with(orbit: Orbit) -> float:
    """How far above the beam the weights must hang so that it does not wobble as it turns [m]."""
    front = sum(m * r * math.cos(a) * (z - orbit.beam) for m, r, a, z in orbit.turns_as[:-1])
    mass = needed(orbit)
    return front / (mass * orbit.rear) if mass > 0 else 0.0


def balance_it(design: Design, orbit: Orbit) -> Changes:
    """Weights that balance it at rest, at the height at which it does not wobble, as far as they may hang there. Raises
    InfeasibleError where no weight here does.
    """
    if orbit.cameras > 1:
        raise InfeasibleError("several cameras at equal angles balance each other")
    mass, above = round(needed(orbit), 2), round(level_with(orbit), 3)
    if mass > 40:
        raise InfeasibleError(f"it would take {mass:.1f} kg on so short an arm", longest=mass)
    side = (mass / 7200.0) ** (1 / 3)
    # Within the table's edge they must clear it.
    if orbit.overhead:
        above = max(above, round(orbit.subject[1] + 0.01 + side / 2 - orbit.beam + 5e-4, 3))
    elif orbit.rear - side / 2 < orbit.table_radius + 0.01:
        above = min(above, round(orbit.table - THICK - 0.01 - side / 2 - orbit.beam - 5e-4, 3))
    return (("weights.mass", mass), ("weights.above", min(1.0, max(-0.5, above))))


def turning_figures(design: Design, move: Move, suggest: bool, orbit: Orbit, spin: Spun) -> Told:
    """Balance, base, verdict, circle, coasting."""
    tell = Teller()
    _spins(tell, move, spin)
    (_balanced if orbit.cameras == 1 else _alike)(tell, design, suggest, orbit, spin)
    if not orbit.overhead:
        _stands(tell, design, suggest, orbit, spin)
    _limits(tell, design, move, suggest, orbit, spin)
    _stops(tell, design, orbit, spin)
    _winds(tell, design, move, spin)
    return tell.told()


def _spins(tell: Teller, move: Move, spin: Spun) -> None:
    tell.add(
        by_method(
            "rig.sweep", "Goes round by", spin.sweep, "rad", "the shot's turn, or the arc over its way", (Given("n", spin.sweep / (2 * math.pi), "1", "turns", "shot.arc"),), source="geometry",
        ),
        by_method(
            "travel.fastest", "Turns at its fastest by", spin.fastest, "rad/s", "the whole turn times the fastest share of it a second",
            (Given("T", move.duration_s, "s", "duration", "shot.time"),), source="drive 4.1", headline=True,
        ),
        by_method("travel.rpm", "Turns a minute, at its fastest", spin.fastest / RPM, "1", "that over a turn, a minute", (Given("w", spin.fastest, "rad/s", "turns at its fastest", "travel.fastest"),), source="dynamics 2"),
    )  # fmt: skip


def _given(orbit: Orbit) -> tuple[Given, ...]:
    return (
        Given("m", orbit.turns_as[0][0], "kg", "camera kit", "kit"),
        Given("r", orbit.radius, "m", "camera arm", "arm.front"),
        Given("m_w", orbit.weights, "kg", "weights", "weights.mass"),
        Given("r_w", orbit.rear, "m", "weight arm", "arm.rear"),
    )


def _balanced(tell: Teller, design: Design, suggest: bool, orbit: Orbit, spin: Spun) -> None:
    """At rest, and in motion, where heights differ."""
    off, camera = abs(spin.hub.unbalance), sum(m * r for m, r, a, _ in orbit.turns_as if math.cos(a) > 0)
    given = _given(orbit)
    source = "dynamics 2"
    tell.add(
        by_method("balance.off", "Out of balance by", off, "kg*m", "sum of mass times arm, as arrows", given, source=source),
        by_method("balance.needed", "Weights that balance it", needed(orbit), "kg", "the camera side's sum over the weight arm", given, source=source, headline=True),
        by_method("balance.hung", "Weights hung", orbit.weights, "kg", "as entered", given[2:3], source="geometry"),
        by_method("balance.level_with", "at a height above the beam of", level_with(orbit), "m", "where the sums of mass, arm and height meet too", given, source=source),
    )  # fmt: skip
    if orbit.weights > 0:
        front = sum(m * r * math.cos(a) for m, r, a, _ in orbit.turns_as)
        tell.add(
            by_method(
                "balance.slide",
                "Or slide the weights out by",
                front / orbit.weights,
                "m",
                "what is left over them; minus for in",
                given,
                source=source,
            )
        )
    _shakes(tell, given, spin)
    light = off > EVEN * camera
    mend: tuple[Remedy, ...] = ()
    if suggest:
        mend = (Remedy("balance", Words("Balance it for me"), _changes(design, orbit)),)
    mass = needed(orbit)
    words = (
        Words("It balances within a fiftieth of the camera's side.")
        if not light
        else Words(
            f"The {'weights are' if orbit.weights < mass else 'camera is'} light: {{}} hang, {{}} balance it.",
            ((orbit.weights, "kg"), (mass, "kg")),
        )
    )
    tell.findings.append(
        Finding("balance.balanced", "Balanced at rest", STRUCTURE, WATCH if light else CLEAR, "weights.mass", words, off, EVEN * camera, "at_most", "kg*m", mend if light else (), figure="balance.off")
    )  # fmt: skip


def _shakes(tell: Teller, given: tuple[Given, ...], spin: Spun) -> None:
    source = "dynamics 2"
    tell.add(
        by_method("balance.shakes", "Shakes sideways with", spin.hub.force, "N", "speed squared times what is out of balance", given, source=source),
        by_method("balance.wobble", "Wobbles its hub with", spin.hub.moment, "N*m", "weight and pull outwards about the hub, in one plane, as it turns fastest", given, source=source),
    )  # fmt: skip


def _alike(tell: Teller, design: Design, suggest: bool, orbit: Orbit, spin: Spun) -> None:
    """Several cameras at equal angles: balanced as long as all are on, and alike."""
    one = rotor.turning(orbit.turns_as[:SIDE_ROWS], spin.fastest, orbit.beam)
    given = (*_given(orbit)[:2], Given("n", float(orbit.cameras), "count", "cameras", "camera.count"))
    tell.add(
        by_method("balance.off", "Out of balance by", abs(spin.hub.unbalance), "kg*m", "sum of mass times arm, as arrows", given, source="dynamics 2"),
        by_method("balance.one_off", "With a camera's side off, out by", abs(one.unbalance), "kg*m", "one side alone, as the others then miss it", given, source="dynamics 2", headline=True),
    )  # fmt: skip
    _shakes(tell, given, spin)
    words = Words(
        "{} cameras at equal angles balance each other while all are on and alike: never turn it with one off.",
        ((float(orbit.cameras), "count"),),
    )
    tell.findings.append(
        Finding(
            "balance.balanced",
            "Balanced at rest",
            STRUCTURE,
            CLEAR,
            "camera.count",
            words,
            abs(spin.hub.unbalance),
            1e-9,
            "at_most",
            "kg*m",
            figure="balance.off",
        )
    )


def _changes(design: Design, orbit: Orbit) -> Changes:
    try:
        return balance_it(design, orbit)
    except InfeasibleError:
        return ()


def _stands(tell: Teller, design: Design, suggest: bool, orbit: Orbit, spin: Spun) -> None:
    """The base at rest, turning, bumped at the camera, and whether it walks."""
    weight = orbit.weight * GRAVITY
    stood = rotor.base_tipping(orbit.turns_as, spin.fastest, weight, orbit.inscribed)
    asked = safety_class(design.text("safety")).tipping
    given = (
        Given("W", weight, "N", "all of it", "rig.mass"), Given("R", orbit.inscribed, "m", "axis to the nearest edge of its feet", "base.radius"),
        Given("M", spin.floor.moment, "N*m", "about the floor, as it turns fastest"),
    )  # fmt: skip
    tell.add(
        by_method("balance.base", "Base stands with a factor of", stood.factor if stood.offset > NOTHING else math.inf, "1", "weight times the nearest edge over the moment about the floor", given, source="dynamics 2"),
        by_method("balance.offset", "Its weight acts off the axis by", stood.offset, "m", "that moment over the weight", given, source="dynamics 2"),
    )  # fmt: skip
    need = max(2.0, asked)
    wide = round(min(1.5, 1.3 * design.number("base.radius")), 3)
    heavy = min(150.0, design.number("base.mass") + 10.0)
    mend = (
        set_one("wide", "Feet {} from the axis", "base.radius", wide, "m"),
        set_one("heavy", "Ballast of {}", "base.mass", heavy, "kg"),
    )
    tell.hold(
        "balance.base", "balance.stands", "Base stands", PEOPLE, "base.radius",
        "As it turns its base stands with a factor of {}; {} is wanted.", at_least=need, remedies=mend,
    )  # fmt: skip
    # As it turns it points at every edge in turn: what is out of balance counts in full towards the nearest.
    knock = bump(design, orbit.weight)
    tips = (weight * orbit.inscribed - GRAVITY * abs(spin.hub.unbalance)) / max(0.1, orbit.lens_high)
    tell.add(
        by_method("balance.tips_at", "A push at the lens that tips it", tips, "N", "weight times the nearest edge, less what is out of balance, over the lens height", given[:2], source="statics 6")
    )  # fmt: skip
    tell.hold(
        "balance.tips_at", "balance.bump", "Bumped at the camera", PEOPLE, "base.radius",
        "A push of {} at the lens tips it; it must stand {}.", at_least=knock, remedies=mend,
    )  # fmt: skip
    holds = design.number("base.grip") * weight / 1.5
    tell.add(
        by_method("balance.walks", "Feet slip from", holds, "N", "grip of the feet over one and a half", (design.given("mu", "base.grip", "grip", "1"), given[0]), source="dynamics 2")
    )  # fmt: skip
    tell.hold(
        "balance.shakes", "balance.walk", "Base stays where it is", STRUCTURE, "weights.mass",
        "As it turns it shakes sideways with {}; its feet slip from {}.", at_most=holds,
        remedies=(Remedy("balance", Words("Balance it for me"), _changes(design, orbit)),) if suggest else (),
    )  # fmt: skip


def circle(orbit: Orbit, spin: Spun) -> float:
    """The circle that nobody enters while it turns: how far a part let go flies, rolls and bounces, and never nearer than
    half a metre to what sweeps round [m].
    """
    flies = rotor.flight(OVERSHOOT * spin.fastest, orbit.tip, max(orbit.mount_high, orbit.beam))
    return max(flies.exclusion, orbit.tip + BESIDE)


def twists(design: Design, orbit: Orbit) -> float:
    """What its feet hold of a twist about the axis before the base turns round [N*m]. Source: dynamics 2."""
    return design.number("base.grip") * orbit.weight * GRAVITY * float(np.hypot(*orbit.feet[0])) / 1.5


def _limits(tell: Teller, design: Design, move: Move, suggest: bool, orbit: Orbit, spin: Spun) -> None:
    """What is refused outright, and what may be turned how fast near whom."""
    speed = OVERSHOOT * spin.fastest
    w = Given("w", speed, "rad/s", "a tenth over its fastest", "travel.fastest")
    tell.add(
        by_formula("balance.tip_speed", "Tip goes by at", "m/s", TIP_SPEED, (w, Given("r", orbit.tip, "m", "furthest out", "arm.front")), source="dynamics 2"),
        by_formula("balance.energy", "Stored in the turn", "J", ENERGY, (Given("I", spin.hub.inertia, "1", "inertia about the axis, kg·m²"), w), source="dynamics 2"),
        by_formula("balance.side_load", "Camera is pulled outwards by", "1", PULL, (w, Given("r", orbit.radius, "m", "camera arm", "arm.front"), Given("g", GRAVITY, "m/s^2", "gravity")), source="dynamics 2"),
    )  # fmt: skip
    tell.add(
        by_method("balance.circle", "Nobody enters a circle of", circle(orbit, spin), "m", "how far a part let go flies, rolls and bounces", (w, Given("h", orbit.mount_high, "m", "height", "beam.height")), assumptions=("a screening, no certificate",), source="dynamics 2", headline=True)
    )  # fmt: skip
    inside = design.text("people.inside") == SOMEBODY
    values = (tell.value("balance.tip_speed"), tell.value("balance.energy"), tell.value("balance.side_load"))
    try:
        rotor.verdict(*values, inside=inside, drive=DRIVEN[design.text("drive.by")])
    except RefusedError as error:
        said = str(error)
        tell.findings.append(
            Finding("balance.drive", "Drive", PEOPLE, STOP, "drive.by", Words(f"{said[:1].upper()}{said[1:]}."), 1.0, 0.0, "at_most", "1", (set_one("hand", "Turn it by hand", "drive.by", "hand"), set_one("motor", "A slow motor on a battery, limited", "drive.by", "motor")))
        )  # fmt: skip
    for key, figure, title, unit, words in (
        (
            "tip_speed",
            "balance.tip_speed",
            "Tip of the beam",
            "m/s",
            "Its tip goes by at {}; {} is the most that is designed here.",
        ),
        ("energy", "balance.energy", "Stored in the turn", "J", "It stores {}; {} is the most that is designed here."),
        (
            "side_load",
            "balance.side_load",
            "Pull on the camera",
            "1",
            "The camera is pulled outwards with {} of its weight; {} is the most that is designed here.",
        ),
    ):
        caution, stop = rotor.LIMITS[key][0 if inside else 1]
        value = tell.value(figure)
        state = STOP if value > stop else WATCH if value > caution else CLEAR
        slower = _slower(move, value, caution, key)
        tell.findings.append(
            Finding(f"balance.{key}_limit", title, PEOPLE, state, "shot.time", Words(words, ((value, unit), (stop, unit))), value, stop, "at_most", unit,
                    (set_one("slower", "Take {}", "shot.time", slower, "s"),) if suggest and state != CLEAR and slower else (), figure=figure)
        )  # fmt: skip


def _slower(move: Move, value: float, allowed: float, key: str) -> float:
    """A time in which it stays within a caution [s], 0 where none may be set."""
    times = value / allowed if key == "tip_speed" else math.sqrt(value / allowed)
    found = math.ceil(move.duration_s * times * 1.02 * 2) / 2
    return found if found <= 36000 else 0.0


def _stops(tell: Teller, design: Design, orbit: Orbit, spin: Spun) -> None:
    """Spin-up, coasting and the brake."""
    friction, brake = design.number("hub.friction"), design.number("brake.torque")
    half = orbit.bar.depth
    arms = [orbit.radius, orbit.rear] if orbit.cameras == 1 else [orbit.radius] * orbit.cameras
    drag = rotor.air_drag(((CAMERA_FACE, 1.2, orbit.radius),) * orbit.cameras, [(half, arm) for arm in arms])
    inertia = Given("I", spin.hub.inertia, "1", "inertia about the axis, kg·m²")
    coast = rotor.coast(spin.hub.inertia, spin.fastest, friction, drag)
    up = design.number("spin.up")
    torque = spin.hub.inertia * spin.fastest / up + friction
    tell.add(
        by_method("balance.coasts", "Let go, it turns on for", coast.time, "s", "bearings and air", (inertia, design.given("f", "hub.friction", "turns with", "N*m")), source="dynamics 2, 8.11"),
        by_method("balance.coast_turns", "and so many turns", coast.turns, "1", "bearings and air", (inertia, design.given("f", "hub.friction", "turns with", "N*m")), source="dynamics 2, 8.11"),
        by_method("balance.spin_up", "Bring it up to speed with", torque, "N*m", "inertia times its speed over the time, and its friction", (inertia, design.given("t", "spin.up", "up to speed in", "s")), source="dynamics 2"),
        by_method("balance.hand", "a hand at the arm's end with", torque / orbit.radius, "N", "that over the camera arm", (Given("r", orbit.radius, "m", "camera arm", "arm.front"),), source="dynamics 2"),
    )  # fmt: skip
    if not orbit.overhead:
        hard = max(torque, brake)
        tell.add(
            by_method("balance.twist", "Feet hold a twist of", twists(design, orbit), "N*m", "grip of the feet at their distance over one and a half", (design.given("mu", "base.grip", "grip", "1"), design.given("R", "base.radius", "feet from the axis", "m")), source="dynamics 2")
        )  # fmt: skip
        tell.hold(
            "balance.twist", "balance.twists", "Base does not turn round", STRUCTURE, "spin.up",
            Words("Brought up to speed, or braked, with {}, its feet hold {}.", ((hard, "N*m"), (twists(design, orbit), "N*m"))), at_least=hard,
            remedies=(set_one("gently", "Up to speed in {}", "spin.up", min(60.0, round(1.5 * up, 1)), "s"),) if torque >= brake else (set_one("softer", "A brake of {}", "brake.torque", round(0.7 * twists(design, orbit), 2), "N*m"),),
        )  # fmt: skip
    stops = spin.hub.inertia * spin.fastest / (brake + friction) if brake > 0 else coast.time
    enough = math.ceil((spin.hub.inertia * spin.fastest / 5.0) * 10) / 10
    if brake > 0:
        tell.add(
            by_method("balance.braked", "Its brake stops it in", stops, "s", "inertia times its speed, over brake and bearings", (inertia, design.given("b", "brake.torque", "brake", "N*m")), source="dynamics 2"),
        )  # fmt: skip
    tell.hold(
        "balance.braked" if brake > 0 else "balance.coasts", "balance.stop", "Stops by itself", PEOPLE, "brake.torque",
        Words("Its brake stops it in {}." if brake > 0 else "Let go, it turns on for {}: keep out until it stands.", ((stops, "s"),)),
        at_most=LONG, value=stops, watch_at=1.0, state=CLEAR if stops <= LONG else WATCH,
        remedies=(set_one("brake", "A brake of {}", "brake.torque", min(50.0, max(0.1, enough)), "N*m"),),
    )  # fmt: skip


def _winds(tell: Teller, design: Design, move: Move, spin: Spun) -> None:
    """How many turns a loose lead takes."""
    free = design.number("lead.free")
    if free <= 0:
        return
    takes, asks = TURNS_A_METRE * free, spin.sweep / (2 * math.pi)
    tell.add(
        by_method("balance.winds", "Its lead takes turns", takes, "1", "one turn a metre of soft lead", (design.given("l", "lead.free", "loose lead", "m"),), source="dynamics 2")
    )  # fmt: skip
    tell.hold(
        "balance.winds", "balance.lead_winds", "Lead at the hub", PICTURE, "lead.free",
        "The move asks for {} turns, its loose lead takes {}: unwind it between takes.", at_least=asks, watch_at=1.0,
        state=CLEAR if takes >= asks else WATCH,
        remedies=(set_one("longer", "A loose lead of {}", "lead.free", min(10.0, round(1.2 * asks / TURNS_A_METRE, 2)), "m"),),
    )  # fmt: skip


def speed_curve(design: Design, orbit: Orbit, spin: Spun) -> Told:
    """Wobble of the hub over speed, past where the tip, the energy or the pull is refused."""
    inside = 0 if design.text("people.inside") == SOMEBODY else 1
    stop = {key: rows[inside][1] for key, rows in rotor.LIMITS.items()}
    refused = min(
        stop["tip_speed"] / orbit.tip,
        math.sqrt(2 * stop["energy"] / spin.hub.inertia) if spin.hub.inertia > 0 else math.inf,
        math.sqrt(stop["side_load"] * GRAVITY / orbit.radius),
    ) / OVERSHOOT  # fmt: skip
    rpm = np.linspace(0.0, 1.25 * max(refused, spin.fastest) / RPM, 41)
    if orbit.cameras > 1:  # they balance, so what grows with speed is the pull on each
        mass, radius = orbit.turns_as[0][:2]
        label, unit, does = "A camera is pulled outwards", "N", mass * radius * (rpm * RPM) ** 2
    else:
        label, unit = "Hub is wobbled", "N*m"
        does = np.array([rotor.turning(orbit.turns_as, float(n) * RPM, orbit.beam).moment for n in rpm])
    curve = Curve(
        "balance.speed",
        label,
        rpm,
        does,
        "1",
        unit,
        "turns a minute",
        spin.fastest / RPM,
        (0.0, refused / RPM),
        sets="shot.rpm",
    )
    return Told(curves=(curve,))
