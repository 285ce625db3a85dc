"""What an orbit rig does as it turns: balance at rest and in motion, pull, base, how it coasts, what it may not do."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.orbit.based import base_stands
from hazel_lantern.core.kinds.orbit.design import DRIVEN, SOMEBODY
from hazel_lantern.core.kinds.orbit.evened import balance_changes, level_with, needed
from hazel_lantern.core.kinds.orbit.model import SIDE_ROWS, Orbit
from hazel_lantern.core.kinds.orbit.spun import Spun
from hazel_lantern.core.kinds.orbit.stopping import lead_winds, stops_by_itself
from hazel_lantern.core.mechanics import rotor
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.errors import RefusedError
from hazel_lantern.core.nouns.figure import Curve, Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, STOP, STRUCTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

OVERSHOOT = 1.1  # of the speed asked for, which the verdict is taken at
EVEN = 0.02  # share of the camera side's moment that may be left over
LEVEL_PULL = 3.0  # a base stands so many times firmer than what wobbles on it; dynamics 2 asks for two
BESIDE = 0.5  # metres beyond what sweeps round
RPM = 2 * math.pi / 60
TIP_SPEED = Formula("w*r")
ENERGY = Formula("I*w**2/2")
PULL = Formula("w**2*r/g")
SPIN = Formula("60*a*p/(2*pi)")


def turning_figures(design: Design, move: Move, suggest: bool, orbit: Orbit, spin: Spun) -> Told:
    """Balance, base, verdict, circle, coasting."""
    tell = Teller()
    _spins(tell, move, spin)
    (_balanced if orbit.cameras == 1 else _alike)(tell, design, suggest, orbit, spin)
    if not orbit.overhead:
        base_stands(tell, design, suggest, orbit, spin)
    _limits(tell, design, move, suggest, orbit, spin)
    stops_by_itself(tell, design, orbit, spin)
    lead_winds(tell, design, move, spin)
    return tell.told()


def _spins(tell: Teller, move: Move, spin: Spun) -> None:
    tell.add(
        by_method(
            "rig.sweep",
            "Goes round by",
            spin.sweep,
            "rad",
            "the shot's turn, or the arc over its way",
            (Given("n", spin.sweep / (2 * math.pi), "1", "turns", "shot.arc"),),
            source="geometry",
        ),
        by_method(
            "travel.fastest",
            "Turns at its fastest by",
            spin.fastest,
            "rad/s",
            "the whole turn times the fastest share of it a second",
            (Given("T", move.duration_s, "s", "duration", "shot.time"),),
            source="drive 4.1",
            headline=True,
        ),
        by_method(
            "travel.rpm",
            "Turns a minute, at its fastest",
            spin.fastest / RPM,
            "1",
            "that over a turn, a minute",
            (Given("w", spin.fastest, "rad/s", "turns at its fastest", "travel.fastest"),),
            source="dynamics 2",
        ),
    )


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
        by_method(
            "balance.off", "Out of balance by", off, "kg*m", "sum of mass times arm, as arrows", given, source=source
        ),
        by_method(
            "balance.needed",
            "Weights that balance it",
            needed(orbit),
            "kg",
            "the camera side's sum over the weight arm",
            given,
            source=source,
            headline=True,
        ),
        by_method("balance.hung", "Weights hung", orbit.weights, "kg", "as entered", given[2:3], source="geometry"),
        by_method(
            "balance.level_with",
            "at a height above the beam of",
            level_with(orbit),
            "m",
            "where the sums of mass, arm and height meet too",
            given,
            source=source,
        ),
    )
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
        mend = (Remedy("balance", Words("Balance it for me"), balance_changes(design, orbit)),)
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
        Finding(
            "balance.balanced",
            "Balanced at rest",
            STRUCTURE,
            WATCH if light else CLEAR,
            "weights.mass",
            words,
            off,
            EVEN * camera,
            "at_most",
            "kg*m",
            mend if light else (),
            figure="balance.off",
        )
    )


def _shakes(tell: Teller, given: tuple[Given, ...], spin: Spun) -> None:
    source = "dynamics 2"
    tell.add(
        by_method(
            "balance.shakes",
            "Shakes sideways with",
            spin.hub.force,
            "N",
            "speed squared times what is out of balance",
            given,
            source=source,
        ),
        by_method(
            "balance.wobble",
            "Wobbles its hub with",
            spin.hub.moment,
            "N*m",
            "weight and pull outwards about the hub, in one plane, as it turns fastest",
            given,
            source=source,
        ),
    )


def _alike(tell: Teller, design: Design, suggest: bool, orbit: Orbit, spin: Spun) -> None:
    """Several cameras at equal angles: balanced as long as all are on, and alike."""
    one = rotor.turning(orbit.turns_as[:SIDE_ROWS], spin.fastest, orbit.beam)
    given = (*_given(orbit)[:2], Given("n", float(orbit.cameras), "count", "cameras", "camera.count"))
    tell.add(
        by_method(
            "balance.off",
            "Out of balance by",
            abs(spin.hub.unbalance),
            "kg*m",
            "sum of mass times arm, as arrows",
            given,
            source="dynamics 2",
        ),
        by_method(
            "balance.one_off",
            "With a camera's side off, out by",
            abs(one.unbalance),
            "kg*m",
            "one side alone, as the others then miss it",
            given,
            source="dynamics 2",
            headline=True,
        ),
    )
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


def circle(orbit: Orbit, spin: Spun) -> float:
    """The circle that nobody enters while it turns: how far a part let go flies, rolls and bounces, and never nearer
    than half a metre to what sweeps round [m].
    """
    flies = rotor.flight(OVERSHOOT * spin.fastest, orbit.tip, max(orbit.mount_high, orbit.beam))
    return max(flies.exclusion, orbit.tip + BESIDE)


def _limits(tell: Teller, design: Design, move: Move, suggest: bool, orbit: Orbit, spin: Spun) -> None:
    """What is refused outright, and what may be turned how fast near whom."""
    speed = OVERSHOOT * spin.fastest
    w = Given("w", speed, "rad/s", "a tenth over its fastest", "travel.fastest")
    tell.add(
        by_formula(
            "balance.tip_speed",
            "Tip goes by at",
            "m/s",
            TIP_SPEED,
            (w, Given("r", orbit.tip, "m", "furthest out", "arm.front")),
            source="dynamics 2",
        ),
        by_formula(
            "balance.energy",
            "Stored in the turn",
            "J",
            ENERGY,
            (Given("I", spin.hub.inertia, "1", "inertia about the axis, kg·m²"), w),
            source="dynamics 2",
        ),
        by_formula(
            "balance.side_load",
            "Camera is pulled outwards by",
            "1",
            PULL,
            (w, Given("r", orbit.radius, "m", "camera arm", "arm.front"), Given("g", GRAVITY, "m/s^2", "gravity")),
            source="dynamics 2",
        ),
    )
    tell.add(
        by_method(
            "balance.circle",
            "Nobody enters a circle of",
            circle(orbit, spin),
            "m",
            "how far a part let go flies, rolls and bounces",
            (w, Given("h", orbit.mount_high, "m", "height", "beam.height")),
            assumptions=("a screening, no certificate",),
            source="dynamics 2",
            headline=True,
        )
    )
    inside = design.text("people.inside") == SOMEBODY
    values = (tell.value("balance.tip_speed"), tell.value("balance.energy"), tell.value("balance.side_load"))
    try:
        rotor.verdict(*values, inside=inside, drive=DRIVEN[design.text("drive.by")])
    except RefusedError as error:
        said = str(error)
        tell.findings.append(
            Finding(
                "balance.drive",
                "Drive",
                PEOPLE,
                STOP,
                "drive.by",
                Words(f"{said[:1].upper()}{said[1:]}."),
                1.0,
                0.0,
                "at_most",
                "1",
                (
                    set_one("hand", "Turn it by hand", "drive.by", "hand"),
                    set_one("motor", "A slow motor on a battery, limited", "drive.by", "motor"),
                ),
            )
        )
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
            Finding(
                f"balance.{key}_limit",
                title,
                PEOPLE,
                state,
                "shot.time",
                Words(words, ((value, unit), (stop, unit))),
                value,
                stop,
                "at_most",
                unit,
                (set_one("slower", "Take {}", "shot.time", slower, "s"),)
                if suggest and state != CLEAR and slower
                else (),
                figure=figure,
            )
        )


def _slower(move: Move, value: float, allowed: float, key: str) -> float:
    """A time in which it stays within a caution [s], 0 where none may be set."""
    times = value / allowed if key == "tip_speed" else math.sqrt(value / allowed)
    found = math.ceil(move.duration_s * times * 1.02 * 2) / 2
    return found if found <= 36000 else 0.0


def speed_curve(design: Design, orbit: Orbit, spin: Spun) -> Told:
    """Wobble of the hub over speed, past where the tip, the energy or the pull is refused."""
    inside = 0 if design.text("people.inside") == SOMEBODY else 1
    stop = {key: rows[inside][1] for key, rows in rotor.LIMITS.items()}
    refused = (
        min(
            stop["tip_speed"] / orbit.tip,
            math.sqrt(2 * stop["energy"] / spin.hub.inertia) if spin.hub.inertia > 0 else math.inf,
            math.sqrt(stop["side_load"] * GRAVITY / orbit.radius),
        )
        / OVERSHOOT
    )
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
