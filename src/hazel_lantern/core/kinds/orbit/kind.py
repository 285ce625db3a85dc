"""Orbit rigs: a camera on a beam that turns about what it looks at."""

from __future__ import annotations

import numpy as np
from msgspec.structs import asdict

from hazel_lantern.core.document.drives import MOTORS
from hazel_lantern.core.document.project import Drive
from hazel_lantern.core.kinds.base import Action, Carried, Chapter, Design, Figures, Held, Kind, Limit, View
from hazel_lantern.core.kinds.fall import FallZone
from hazel_lantern.core.kinds.orbit.clearance import clearance_figures
from hazel_lantern.core.kinds.orbit.design import (
    DECLARED,
    DESK,
    FROM_BELOW,
    HAND,
    MOTOR,
    RING,
    SCHOOLS,
    SOMEBODY,
    TOLD_APART_BY,
)
from hazel_lantern.core.kinds.orbit.drawing import draw
from hazel_lantern.core.kinds.orbit.evened import balance_it
from hazel_lantern.core.kinds.orbit.event import cue_times, event_figures
from hazel_lantern.core.kinds.orbit.foreseen import foreseen, tested
from hazel_lantern.core.kinds.orbit.framed import frame_figures, sway
from hazel_lantern.core.kinds.orbit.hanging import hanging_figures
from hazel_lantern.core.kinds.orbit.model import Orbit, follow, frames, lay, members, mount
from hazel_lantern.core.kinds.orbit.parts import build
from hazel_lantern.core.kinds.orbit.picture import fits_figures, sized_orbit
from hazel_lantern.core.kinds.orbit.seen import keeps_figures, turn_figures
from hazel_lantern.core.kinds.orbit.slides import slide_figures
from hazel_lantern.core.kinds.orbit.spun import Spun, spun, twists
from hazel_lantern.core.kinds.orbit.strength import strength_figures
from hazel_lantern.core.kinds.orbit.trials import trial_figures
from hazel_lantern.core.kinds.orbit.turning import circle, speed_curve, turning_figures
from hazel_lantern.core.kinds.shared.clearing import Way, among, clearing_by
from hazel_lantern.core.kinds.shared.headline import headlines
from hazel_lantern.core.kinds.shared.under_feet import under_feet
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, WATCH, Finding, set_one
from hazel_lantern.core.nouns.told import Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Laid

SHORT = DECLARED.short
FACETS = 24  # sides that stand for a circle


def _mass_figures(orbit: Orbit, laid: Laid) -> Told:
    given = (Given("m", orbit.stands, "kg", "what stands still", "base.mass"),)
    how = "arms, riser, weights, kits, and what carries them"
    return Told((by_method("rig.mass", "Everything weighs", orbit.weight, "kg", how, given, source="catalogue"),))


def _ground(design: Design, laid: Laid) -> Told:
    return under_feet(design, laid, "base.radius")


def _headlines(
    design: Design, move: Move, optics: Optics, orbit: Orbit, spin: Spun, figures: Figures
) -> dict[str, Words]:
    arms = "{} : {}" if orbit.cameras == 1 else f"{orbit.cameras} cameras at {{}}"
    rig = Words(
        f"{'hung, ' if orbit.structure else ''}{SHORT[design.variant]}, {arms}",
        tuple(
            (design.number(key), "m") for key in (("arm.front", "arm.rear") if orbit.cameras == 1 else ("arm.front",))
        ),
    )
    lines = {
        "balance": ("{} balance it, {} hang", ("balance.needed", "balance.hung"))
        if orbit.cameras == 1
        else ("stands and turns within {}", ("balance.circle",)),
        "travel": ("{} turns a minute, leans {}", ("travel.rpm", "travel.lean")),
    }
    found = headlines(move, optics, figures, move.length, rig, lines)
    return {**found, "shot": _turns(spin.sweep, move, optics)}


def _turns(sweep: float, move: Move, optics: Optics) -> Words:
    """How far round, as turns where they are whole or half."""
    halves = sweep / np.pi
    amounts = ((move.duration_s, "s"), (optics.focal_m, "m:lens"))
    if abs(halves - round(halves)) > 1e-3 or round(halves) < 1:
        return Words("{} round in {}, {}", ((sweep, "rad"), *amounts))
    whole, half = divmod(round(halves), 2)
    said = f"{whole or ''}{'½' if half else ''} turn{'s' if halves > 2.001 else ''}"
    return Words(f"{said} in {{}}, {{}}", amounts)


def _loading(design: Design, kit: Carried, move: Move, orbit: Orbit, spin: Spun) -> tuple[Words, ...]:
    """So that it never swings alone; it is unloaded backwards."""
    kilograms = ((kit.payload.mass, "kg"),)
    first = [
        Words("Level the base with a level laid both ways on its table, ballast over its feet")
        if not orbit.overhead
        else Words("Board and anchors first, pulled on by hand; nobody under it from here on")
        if orbit.structure
        else Words(
            "Clamp the frame, or ballast its post, before anything hangs on its pipe; nobody leans in under it from "
            "here on"
        )
    ]
    if orbit.overhead:
        first.append(Words("Safety cable through the middle of the hub to what carries it, before the camera is on"))
    first.append(Words("Tie an arm so that it cannot turn"))
    first += (
        [Words("Half of the weights on first, then the camera, {}, then the rest of the weights", kilograms)]
        if orbit.cameras == 1
        else [Words("Cameras on one after the other, {} each, every arm held until all are on", kilograms)]
    )
    if orbit.slides:
        first.append(Words("Both slides at equal marks, clamps and stop pins home"))
    first += [
        Words("Untie it, let it stand at four places round: it must stay at each; slide the weights until it does"),
        Words(
            "Turn it once by hand: nothing meets table, lead, post or floor; mark the circle of {} on the floor",
            ((circle(orbit, spin), "m"),),
        ),
        Words("Focus on a mark at the axis, {} from the lens; everybody out", ((orbit.lens_at, "m"),)),
        Words("Start from standing; nobody comes near before it stands again, whatever happens"),
    ]
    if design.number("event.reach") > 0:
        record, trigger, over = cue_times(design, move)
        first.append(
            Words(
                "Spinner calls 0 and pushes; recorder at {}; let go at {}; spinner stops it after {}",
                ((record, "s"), (trigger, "s"), (over, "s")),
            )
        )
    return tuple(first)


def _limits(design: Design, orbit: Orbit, spin: Spun) -> tuple[Limit, ...]:
    """What its feet hold of a twist, as the lens is sped up."""
    if orbit.overhead or spin.hub.inertia <= 0:
        return ()
    holds = max(0.0, twists(design, orbit) - design.number("hub.friction")) / spin.hub.inertia
    return (
        (Limit("what the feet hold before the base turns round", holds * orbit.lens_at, "base.grip"),)
        if holds > 0
        else ()
    )


def _held(design: Design, orbit: Orbit) -> tuple[Held, ...]:
    """Its bearings; a brake where there is one."""
    rubs = design.number("hub.friction")
    brake = design.number("brake.torque")
    return (Held(rubs, 1.5 * rubs, (-np.pi, np.pi), orbit.lens_at, locked=brake),)


def _driven_as(design: Design, drives: tuple[Drive, ...]) -> Told:
    """What turns it at the Drive station is what its limits are reckoned with."""
    turned = next((drive for drive in drives if drive.axis == "turn"), None)
    if turned is None:
        return Told()
    asks, now = MOTOR if turned.source in MOTORS else HAND, design.text("drive.by")
    same = now == asks or now not in (MOTOR, HAND)
    words = (
        "Its limits are reckoned with what turns it."
        if same
        else "Its limits are reckoned with a hand, and a motor turns it."
        if asks == MOTOR
        else "Its limits are reckoned with a motor, and hands turn it."
    )
    mend = () if same else (set_one("same", "Reckon with what turns it", "drive.by", asks),)
    return Told(
        findings=(
            Finding(
                "drive.turn.reckoned",
                "Turn: limits",
                PEOPLE,
                CLEAR if same else WATCH,
                "drive.by",
                Words(words),
                remedies=mend,
            ),
        )
    )


def _falls(orbit: Orbit, spin: Spun) -> FallZone:
    """The circle that nobody enters while it turns."""
    around = np.linspace(0.0, 2 * np.pi, FACETS, endpoint=False)
    out = circle(orbit, spin)
    core = 0.9 * out * np.column_stack([np.cos(around), np.sin(around)])
    # Grown from a polygon inside, so that its corners lie on the circle.
    reckons = None if orbit.structure else ("people.inside", SOMEBODY, "Reckon with somebody inside: slower")
    return FallZone(core, 0.1 * out, orbit.structure > 0, "turns and a part could fly", "nobody enters", reckons)


CLEARING = (
    Way("weights.above", "Weights {} above the arms", 0.02, low=-0.5, high=0.5, matters=among("weights")),
    Way("riser.height", "Riser {}", 0.03, high=1.5, matters=among("camera kit", "camera plate")),
    Way("riser.height", "Riser {}", -0.03, matters=among("riser")),
    Way("frame.reach", "Reaching over {}", 0.05, high=2.5),
    Way("arm.front", "Camera arm {}", -0.04, low=0.1),
    Way("arm.rear", "Weight arm {}", 0.04, high=2.5, matters=among("weights")),
)

KIND = Kind(
    **asdict(DECLARED),
    views=(View("side", "Side"), View("above", "Above")),
    actions=(Action("rig", "Size it for me", sized_orbit), Action("balance", "Balance it for me", balance_it)),
    model=Chapter("orbit", build),
    chapters=(
        Chapter("spin", spun),
        Chapter("fits", fits_figures),
        Chapter("mass", _mass_figures),
        Chapter("clearance", clearance_figures),
        Chapter("turning", turning_figures),
        Chapter("strength", strength_figures),
        Chapter("hanging", hanging_figures),
        Chapter("sway", sway, only=(DESK,)),
        Chapter("framed", frame_figures, only=(DESK,)),
        Chapter("ground", _ground, only=FROM_BELOW),
        Chapter("slides", slide_figures, only=(RING,)),
        Chapter("trials", trial_figures),
        Chapter("turn", turn_figures),
        Chapter("keeps", keeps_figures),
        Chapter("event", event_figures),
        Chapter("speeds", speed_curve),
        Chapter("driven_as", _driven_as),
    ),
    follow=follow,
    limits=_limits,
    pushed=False,
    held=_held,
    clearing=clearing_by(build, frames, *CLEARING),
    falls=_falls,
    tested=tested,
    mount=mount,
    members=members,
    bodies=frames,
    sketch=draw,
    headlines=_headlines,
    stations=("shot", "rig", "balance", "travel", "build"),
    readings={"loading": _loading, "foreseen": foreseen},
    schools=SCHOOLS,
    told_apart_by=TOLD_APART_BY,
    lay=lay,
)
