"""Wheel loads of a carriage: what lifts it, and how far to nip its wheels up."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.rail.carriage import CLEAR_OF_RAIL
from hazel_lantern.core.kinds.rail.limits import held_captive
from hazel_lantern.core.kinds.rail.model import INCLINED, Carriage, Straight
from hazel_lantern.core.kinds.shared.wheels import wheels_bear
from hazel_lantern.core.mechanics import carriage
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.figure import Curve, Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, PICTURE, STOP, STRUCTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

NIPPED = Formula("4*c*max(Y/sin(phi), Z/cos(phi))")
LEAST = 0.1
MOMENTS = 121
STANDS = {2: ("front axle", "rear axle"), 3: ("front corner", "single corner", "rear corner")}
GROOVE = INCLINED


def wheel_figures(design: Design, suggest: bool, rail: Carriage) -> Told:
    """Loads of the wheels while stopping hard on the slope with a careless push; lens-heavy cameras; preload."""
    tell, captive = Teller(), held_captive(design)
    found = _pushed(design, rail)
    if rail.cg[2] < 0 or not found:
        tell.findings.append(_trapped(captive))
    if not found:
        return tell.told()
    calm = carriage.wheel_loads(rail.wheels, rail.moving, rail.cg.tolist(), pitch=-rail.slope)
    tell.take(_loads(rail, found, calm))
    off, nipped = _flat(design, rail)
    tell.take(
        wheels_bear(
            design,
            rail.wheel,
            _pressed(rail, found),
            "kit",
            _more_wheels(rail),
            forked=rail.forked,
            off=off,
            nipped=nipped,
        )
    )
    _stays_down(tell, rail, calm, captive=captive, suggest=suggest)
    if rail.wheel.shape == "grooved" and rail.spacing == 0:
        tell.take(
            _preload(
                design,
                rail,
                [float(n) for n in (calm.loads if len(calm.loads) == 4 else [*calm.loads, calm.loads[-1]])],
            )
        )
    return tell.told()


def axle_curves(move: Move, rail: Carriage) -> Told:
    """What each axle bears while the move speeds up and slows down."""
    u = np.linspace(0.0, 1.0, MOMENTS)
    profile = move.profile
    if not math.isfinite(profile.peak_acceleration):
        return Told()
    loads = np.array([[load for _, load in rail.stands(float(a) * move.length)] for a in profile.acceleration(u)])
    t, places = u * move.duration_s, STANDS[loads.shape[1]]
    return Told(
        curves=(
            Curve("balance.path", f"Load on the {places[0]}", t, loads[:, 0], "s", "N"),
            *(
                Curve(f"balance.path.{name.split()[0]}", name, t, load, "s", "N")
                for name, load in zip(places[1:], loads[:, 1:].T, strict=True)
            ),
        )
    )


def _pushed(design: Design, rail: Carriage) -> list[carriage.Wheels]:
    """Wheel loads in a hard stop with a careless push, each either way; what lifts the carriage off is left out."""
    brake, side = design.number("push.brake"), design.number("push.side")
    found = []
    for sign in (1.0, -1.0):
        for turn in (1.0, -1.0):
            try:
                found.append(
                    carriage.wheel_loads(
                        rail.wheels,
                        rail.moving,
                        rail.cg.tolist(),
                        (sign * brake, 0.0, 0.0),
                        -rail.slope,
                        0.0,
                        (((0.0, turn * side, 0.0), rail.lens.tolist()),),
                    )
                )
            except InfeasibleError:
                continue
    return found


def _flat(design: Design, rail: Carriage) -> tuple[float, float]:
    """How far wheels that lie flat are off their plate [m], and what they are nipped up by [N]."""
    if not isinstance(rail, Straight) or rail.count > 1 or rail.wheel.shape != "grooved":
        return 0.0, 0.0
    return CLEAR_OF_RAIL + rail.bar.depth / 2, design.number("wheel.preload")


def _pressed(rail: Carriage, found: list[carriage.Wheels]) -> float:
    """The most that one wheel is pressed with [N]."""
    return rail.pressed * max(float(np.abs(w.loads).max()) for w in found)


def _more_wheels(rail: Carriage) -> tuple[Remedy, ...]:
    """A mount over the middle, where it is not."""
    middle = rail.over(0)
    off = abs(float(rail.off[0])) > 2e-3 and abs(middle) <= 0.5
    return (set_one("over", "Move the mount to {} ahead", "camera.ahead", middle, "m"),) if off else ()


def _trapped(captive: bool) -> Finding:
    """A carriage that hangs is held by its wheels whichever way: they must be trapped."""
    state = CLEAR if captive else STOP
    return Finding(
        "balance.trapped",
        "Carriage held on the rail",
        PEOPLE,
        state,
        "carriage.hold",
        Words(
            "The camera hangs below its wheels: the carriage must be trapped."
            if not captive
            else "The carriage is trapped on the rail."
        ),
        1.0 if captive else 0.0,
        1.0,
        "at_least",
        "1",
    )


def _loads(rail: Carriage, found: list[carriage.Wheels], calm: carriage.Wheels) -> Told:
    """The least load, how far the weight's foot point lies inside the wheels, and where it lies when all is calm."""
    tell = Teller()
    least = min(float(w.loads.min()) for w in found) + (rail.held_down if isinstance(rail, Straight) else 0.0)
    margin = min(w.margin for w in found)
    given = (
        Given("m", rail.moving, "kg", "carriage and camera kit", "kit"),
        Given("c", rail.wheelbase, "m", "wheelbase", rail.base_key),
        Given("x", float(rail.cg[0]), "m", "centre of mass ahead", "camera.ahead"),
        Given("h", float(rail.cg[2]), "m", "centre of mass above the rail", "camera.rise"),
    )
    tell.add(
        by_method(
            "balance.least",
            "Least wheel load",
            least,
            "N",
            "rigid carriage on equal wheels, hard stop and careless push either way",
            given,
            source="statics 5.1",
            headline=True,
        ),
        by_method(
            "balance.margin", "Tip margin", margin, "m", "foot point inside the wheels", given, source="statics 5.1, 6"
        ),
        by_method(
            "balance.foot",
            "Weight acts ahead of the middle",
            float(calm.foot[0]),
            "m",
            "foot point of the weight in the wheel plane",
            given,
            source="statics 5.1",
        ),
    )
    return tell.told()


def _stays_down(tell: Teller, rail: Carriage, calm: carriage.Wheels, *, captive: bool, suggest: bool) -> None:
    """Whether a wheel lifts in a hard stop, and whether the camera stands over the wheels."""
    least = tell.value("balance.least")
    floor = LEAST * calm.normal / len(rail.wheels)
    state = CLEAR if least >= floor else WATCH if least >= 0 or captive else STOP
    longer = round(min(1.0, max(0.02, 1.3 * rail.wheelbase)), 3)
    aside = _sideways(rail, calm)
    mend = (
        *((aside,) if aside else ()),
        *_more_wheels(rail),
        set_one("longer", "Wheelbase {}", rail.base_key, longer, "m"),
    )
    cause = ": the camera overhangs to the side" if aside else ""
    off_it = f"In a hard stop a wheel is pulled off with {{}}{cause}" + (
        "; the captive carriage holds it." if captive else "."
    )
    tell.hold(
        "balance.least",
        "balance.lifts",
        "Wheels stay down",
        STRUCTURE,
        rail.base_key,
        Words("In a hard stop the lightest wheel keeps {}." if least >= 0 else off_it, ((abs(least), "N"),)),
        at_least=floor,
        state=state,
        remedies=mend if suggest else (),
    )
    off, quarter = abs(float(calm.foot[0])), rail.wheelbase / 4
    tell.hold(
        "balance.foot",
        "balance.heavy",
        "Camera over the wheels",
        PICTURE,
        "camera.ahead",
        "The weight acts {} off the middle; the middle half of the wheelbase is good.",
        at_most=quarter,
        value=off,
        remedies=mend[:1] if suggest else (),
    )


def _sideways(rail: Carriage, calm: carriage.Wheels) -> Remedy | None:
    """Where the weight hangs over to the side more than along: the mount brought back over the middle."""
    wide = float(np.ptp(rail.wheels[:, 1])) / 2
    if (
        abs(float(calm.foot[1] - rail.middle[1])) / wide <= abs(float(calm.foot[0])) * 2 / rail.wheelbase
        or abs(float(rail.off[1])) < 2e-3
    ):
        return None
    middle = rail.over(1)
    return (
        set_one("aside", "Move the mount to {} left of the rail", "camera.aside", middle, "m")
        if abs(middle) <= 0.5
        else None
    )


def _preload(design: Design, rail: Carriage, vertical: list[float]) -> Told:
    """Side preload that keeps both flanks of the grooves touching."""
    tell = Teller()
    need = carriage.groove_preload(
        design.number("push.side"), float(rail.lens[0]), rail.wheelbase, vertical, GROOVE, rail.wheel.rolling_high
    )
    given = (
        design.given("F", "push.side", "careless push", "N"),
        Given("c", rail.wheelbase, "m", "wheelbase", rail.base_key),
    )
    tell.add(
        by_method(
            "balance.preload",
            "Nip up each wheel by",
            need.each,
            "N",
            "1.25 times the largest side change plus load over the groove's slope",
            given,
            assumptions=("grooves of 45°",),
            source="statics 5.2",
        ),
        by_method(
            "balance.drag",
            "Drag with that preload",
            need.drag,
            "N",
            "rolling coefficient times the flank forces",
            given,
            source="statics 5.2",
        ),
    )
    tell.add(
        by_formula(
            "balance.drag_now",
            "Drag as nipped up",
            "N",
            NIPPED,
            (
                Given("c", rail.wheel.rolling_high, "1", "rolling coefficient, upper end", "carriage.wheel"),
                design.given("Y", "wheel.preload", "side preload of each wheel", "N"),
                Given("phi", GROOVE, "rad", "half angle of the groove"),
                Given("Z", sum(map(abs, vertical)) / 4, "N", "weight on each wheel", "kit"),
            ),
            assumptions=("a lone third wheel counts twice",),
            source="statics 5.2",
        )
    )
    now = design.number("wheel.preload")
    better = math.ceil(need.each)
    tell.hold(
        "balance.preload",
        "balance.nipped",
        "Wheels nipped up",
        STRUCTURE,
        "wheel.preload",
        "Nipped up by {}; {} keeps both flanks touching."
        if now < need.each
        else "Nipped up by {}; {} would do."
        if now > 3 * max(need.each, 1.0)
        else "Nipped up by {}; {} is needed.",
        at_least=need.each,
        value=now,
        state=CLEAR if need.each <= now <= 3 * max(need.each, 1.0) else WATCH,
        remedies=(Remedy("nip", Words("Nip up by {}", ((better, "N"),)), (("wheel.preload", float(better)),)),)
        if better <= 500
        else (),
    )
    return tell.told()
