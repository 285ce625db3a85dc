"""What holds a rail at its supports: bolts through it, clamps, straps, or nothing."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.catalogue import TUBES, StockSection
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.rail.bends import Ride
from hazel_lantern.core.kinds.rail.design import BOLTED, CLAMPED, LOOSE
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.kinds.rail.strength import SMOOTH, allowed
from hazel_lantern.core.kinds.shared.splices import ROUND
from hazel_lantern.core.kinds.shared.works import bolt_bears, letter, works
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import PEOPLE, STOP, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

HALF_PLATE, M6 = 0.03, 20.1e-6  # metres of a rail plate from its bolt, square metres of that bolt
APART = 0.06  # metres between the two clamps at a support
GRIP = 0.2  # friction of a clamped rail on its plate, workshop judgement
SPARE = 2.0  # of what friction holds
JAW = 0.025  # metres of a clamp's jaw along the rail
TABLE_ONLY = "A"


def held_figures(design: Design, rail: Straight, ride: Ride) -> Told:
    """Whether the rail stays on its supports: moments, pulls and the push of a hard stop."""
    how = design.text("rail.fixed")
    if how == LOOSE or (how not in (BOLTED, CLAMPED) and letter(design) != TABLE_ONLY):
        return Told((), (_not_held(how == LOOSE),))
    tell = Teller()
    pitch, pulled = float(np.abs(ride.moments).max()), max(0.0, -float(ride.reactions.min()))
    hangs = rail.cg[2] < 0
    # What hangs on hangers is carried by rings around the rail; nothing turns it there.
    roll = 0.0 if hangs else rail.weight * abs(float(rail.cg[1]))
    if how == BOLTED:
        _bolted(tell, design, rail, pitch, roll, pulled)
        return tell.told()
    along = rail.moving * design.number("push.brake") + rail.weight * abs(math.sin(rail.slope))
    half = rail.spacing / 2 + rail.bar.width / 2
    lifts = 0.0 if hangs else SMOOTH * (pitch / APART + roll / (2 * half)) + pulled / 2
    if how == CLAMPED:
        _clamped(tell, design, rail, along, lifts)
        _crushed(tell, design, rail)
    else:
        tell.findings.append(_strapped())
    return tell.told()


def _not_held(loose: bool) -> Finding:
    words = (
        "The rail lies loose on its supports: a knock, a stop or the carriage at its end takes it off."
        if loose
        else "Straps and tape stretch, creep and let go: here they are no hold for a rail."
    )
    mend = (
        set_one("bolt", "Bolt the rail down", "rail.fixed", BOLTED),
        set_one("clamp", "Clamp it", "rail.fixed", CLAMPED),
    )
    return Finding(
        "rig.fixed", "Hold of the rail", PEOPLE, STOP, "rail.fixed", Words(words), 0.0, 1.0, "at_least", "1", mend
    )


def _strapped() -> Finding:
    words = "Strapped down, it shifts with use: look at it before each take, and keep the camera on a line."
    mend = (set_one("clamp", "Clamp it", "rail.fixed", CLAMPED),)
    return Finding("rig.fixed", "Hold of the rail", PEOPLE, WATCH, "rail.fixed", Words(words), remedies=mend)


def _bolted(tell: Teller, design: Design, rail: Straight, pitch: float, roll: float, pulled: float) -> None:
    half = rail.spacing / 2 + rail.bar.width / 2
    works(
        tell,
        "rig.held",
        "bolt that holds the rail",
        (SMOOTH * (pitch / HALF_PLATE + roll / half) + pulled) / M6,
        bolt_bears(design),
        "moments over half the plate, 30 mm, and half of what the rails span, times 1.2, and the pull, on one M6",
        (
            Given("M", pitch, "N*m", "of pitch at the support", "rail.length"),
            Given("R", roll, "N*m", "carriage aside of the rail", "camera.aside"),
            Given("N", pulled, "N", "pulled up"),
        ),
        "rail.fixed",
        source="statics 13",
        remedies=_two(design),
    )


def _two(design: Design) -> tuple[Remedy, ...]:
    return (
        (set_one("two", "Stand it on two stands", "support", "two"),)
        if design.values.get("support") == "tripod"
        else ()
    )


def _clamped(tell: Teller, design: Design, rail: Straight, along: float, lifts: float) -> None:
    """Two clamps at a support as a couple: what they must press for moments and pulls is lost to friction."""
    force = design.number("clamp.force")
    needs = SPARE * (lifts + along / (2 * GRIP))
    tell.add(
        by_method(
            "rig.clamp_needs",
            "A clamp must press with",
            needs,
            "N",
            "twice what moments lift it with over the 60 mm between two, and what a hard stop asks of friction 0.2",
            (
                Given("N", lifts, "N", "moments and pulls lift a clamp with", "rail.length"),
                Given("F", along, "N", "hard stop and slope, along the rail", "push.brake"),
            ),
            source="couple and friction",
        )
    )
    tighter = float(math.ceil(1.26 * needs))
    tell.hold(
        "rig.clamp_needs",
        "rig.slips",
        "Clamps hold the rail",
        PEOPLE,
        "clamp.force",
        "Each clamp must press with {} so that the rail neither slips nor lifts; these press with {}.",
        at_most=force,
        remedies=(
            *(
                (set_one("tighter", "Clamps that press with {}", "clamp.force", tighter, "N"),)
                if tighter <= 1e4
                else ()
            ),
            set_one("bolt", "Bolt the rail down", "rail.fixed", BOLTED),
        ),
    )


def _crushed(tell: Teller, design: Design, rail: Straight) -> None:
    """A thin wall under a clamp's jaw, as a ring or a strip as long as the jaw and the rail's own width on either
    side.
    """
    bar, force = rail.bar, design.number("clamp.force")
    if bar.shape not in TUBES:
        return
    wall, along = bar.wall, JAW + 2 * bar.width
    works(
        tell,
        "rig.crushed",
        "wall under a clamp",
        pressed_wall(bar, force, JAW),
        allowed(design, rail),
        "a ring, or a strip between two walls, as long as the jaw and the rail's width on either side",
        (
            Given("P", force, "N", "a clamp presses with", "clamp.force"),
            Given("t", wall, "m", "wall", "rail.section"),
            Given("l", along, "m", "of wall that bends"),
        ),
        "clamp.force",
        source="Roark, ring and strip",
        remedies=(
            set_one("softer", "Clamps that press with {}", "clamp.force", float(math.floor(0.7 * force)), "N"),
            set_one("bolt", "Bolt the rail down", "rail.fixed", BOLTED),
        ),
    )


def pressed_wall(bar: StockSection, force: float, over: float) -> float:
    """Stress in a tube's wall pressed across by a force [N] over so much of its length [m], 0 for a solid bar [Pa].

    The length and the bar's width on either side bend. A ring pressed across bends by 0.318 P R; a strip held at both
    walls by P b / 8. Source: Roark.
    """
    if bar.shape not in TUBES:
        return 0.0
    wide = bar.width - bar.wall
    bending = 0.318 * force * wide / 2 if bar.shape in ROUND else force * wide / 8
    return 6 * bending / ((over + 2 * bar.width) * bar.wall**2)
