"""What keeps the camera level: two bars, a cable over wheels, or a powered head; how well, and what spoils it."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.jib.design import CABLE
from hazel_lantern.core.kinds.jib.model import BY_BARS, BY_CABLE, Jib
from hazel_lantern.core.kinds.jib.strength.cable import cable_figures
from hazel_lantern.core.mechanics import linkage
from hazel_lantern.core.nouns.figure import Curve, Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import PEOPLE, PICTURE, STOP, Remedy, judge
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

GAP = Formula("a*cos(theta - tau) - (d_1 + d_2)/2")
SPARE = Formula("min(-theta_hi - low, high + theta_lo)")
SPAN = Formula("theta_hi - theta_lo")
FINGERS = 0.025
NOD = math.radians(0.5)
APART = 5e-4


def levelling_figures(design: Design, jib: Jib, used: tuple[float, float]) -> Told:
    """Tilt of the camera over the swing, and what belongs to the way it is kept level; `used` are the shot's angles
    [rad].
    """
    tell = Teller()
    tell.take(_nod(design, jib, used))
    if jib.level == BY_BARS:
        tell.take(_bars(design, jib, used))
    elif jib.level == BY_CABLE:
        tell.take(cable_figures(design, jib, NOD, used))
    else:
        tell.take(_motor(design, jib, used))
    return tell.told()


def _nod(design: Design, jib: Jib, used: tuple[float, float]) -> Told:
    """Camera tilt along the shot."""
    tell = Teller()
    swing = np.linspace(jib.limits.low, jib.limits.high, 81)
    tilts = jib.tilts(swing)
    tell.curves["rig.path"] = Curve("rig.path", "Camera off level over the swing, nose up", swing, tilts, "rad", "rad")
    tilt = jib.tilts(np.linspace(*used, 41))
    inputs: tuple[Given, ...] = (design.given("L", "arm.front", "front arm", "m"),)
    if jib.level == BY_BARS:
        how, source = "exact four-bar at 41 arm angles", "statics 7.2"
        inputs += (
            design.given("dL", "bar.longer", "upper bar longer by", "m"),
            design.given("a", "pivot.spacing", "pivots apart on the post", "m"),
            design.given("b", "head.spacing", "pivots apart on the head", "m"),
        )
    elif jib.level == BY_CABLE:
        how, source = "arm angle times one less the wheels' ratio, and the adjuster", "statics 7.3"
        if jib.cable.pins:
            how = "both runs are sides of a parallelogram; the adjuster over the pins' lever"
        inputs += (
            design.given("d_p", "cable.post_wheel", "wheel at the post", "m"),
            design.given("d_h", "cable.head_wheel", "wheel at the head", "m"),
        )
    else:
        how, source = "the powered head turns back by the arm's angle", "statics 7.3"
    rigid = (
        ("rigid bars, no play in the pins",)
        if jib.level == BY_BARS
        else ("the cable does not slip",)
        if jib.level == BY_CABLE
        else ("the head keeps level without error",)
    )
    tell.add(
        by_method(
            "rig.nod",
            "Camera nods over the shot",
            float(np.ptp(tilt)),
            "rad",
            f"{how}, largest minus smallest",
            inputs,
            assumptions=rigid,
            source=source,
        ),
        by_method(
            "rig.tilt",
            "Camera off level, most",
            float(np.abs(tilt).max()),
            "rad",
            how,
            inputs,
            assumptions=rigid,
            source=source,
        ),
    )
    even = {
        BY_BARS: (("bar.longer", 0.0), ("head.spacing", jib.spacing)),
        BY_CABLE: (("cable.head_wheel", design.number("cable.post_wheel")),),
    }.get(jib.level, ())
    words = "Make both pairs of holes equal" if jib.level == BY_BARS else "Turn both wheels to one size"
    tell.hold(
        "rig.nod",
        "rig.level",
        "Keeps the camera level",
        PICTURE,
        {BY_BARS: "bar.longer", BY_CABLE: "cable.head_wheel"}.get(jib.level, "head.tilt_down"),
        "The camera nods {} over the shot.",
        at_most=NOD,
        remedies=(Remedy("even", Words(words), even),) if even else (),
    )
    return tell.told()


def _bars(design: Design, jib: Jib, used: tuple[float, float]) -> Told:
    """The gap that a finger may be caught in."""
    tell = Teller()
    worst = max(used, key=lambda angle: abs(angle - jib.lean))
    inputs = (
        design.given("a", "pivot.spacing", "pivots apart on the post", "m"),
        Given("theta", worst, "rad", "steepest angle of the shot", "shot.end"),
        design.given("tau", "post.lean", "post lean", "rad"),
        Given("d_1", jib.arm.depth, "m", "depth of the arm", "arm.section"),
        Given("d_2", jib.bar.depth, "m", "depth of the upper bar", "bar.section"),
    )
    tell.add(
        by_formula(
            "rig.bar_gap",
            "Gap between the bars",
            "m",
            GAP,
            inputs,
            assumptions=("square to the bars, at the steepest angle of the shot",),
            source="statics 7.1",
        )
    )
    gap = tell.value("rig.bar_gap")
    needed = (
        math.ceil(
            (FINGERS + 0.002 + (jib.arm.depth + jib.bar.depth) / 2) / max(0.1, math.cos(worst - jib.lean)) / 0.005
            - 1e-9
        )
        * 0.005
    )
    needed = round(needed, 6)
    remedy = Remedy(
        "spacing", Words("Space pivots {}", ((needed, "m"),)), (("pivot.spacing", needed), ("head.spacing", needed))
    )
    tell.hold(
        "rig.bar_gap",
        "rig.pinch",
        "Bars pinch",
        PEOPLE,
        "pivot.spacing",
        Words("The bars close to {} at {}; a finger needs {}.", ((gap, "m"), (worst, "rad"), (FINGERS, "m"))),
        at_least=FINGERS,
        remedies=(remedy,) if needed > jib.spacing and needed <= 0.5 else (),
    )
    return tell.told()


def _motor(design: Design, jib: Jib, used: tuple[float, float]) -> Told:
    """The turn the powered head must make against what it can."""
    tell = Teller()
    tell.add(
        by_formula(
            "rig.head_turns",
            "Head turns back by",
            "rad",
            SPAN,
            (
                Given("theta_hi", used[1], "rad", "highest angle used", "shot.end"),
                Given("theta_lo", used[0], "rad", "lowest angle used", "shot.start"),
            ),
            assumptions=("a tilt of the shot comes on top",),
            source="statics 7.3",
        )
    )
    tell.add(
        by_formula(
            "rig.head_spare",
            "Head left for tilting the shot",
            "rad",
            SPARE,
            (
                Given("theta_hi", used[1], "rad", "highest angle used", "shot.end"),
                Given("theta_lo", used[0], "rad", "lowest angle used", "shot.start"),
                design.given("low", "head.tilt_down", "tilts down to", "rad"),
                design.given("high", "head.tilt_up", "and up to", "rad"),
            ),
            source="statics 7.3",
        )
    )
    spare = tell.value("rig.head_spare")
    tell.hold(
        "rig.head_spare",
        "rig.head_range",
        "Range of the powered head",
        PICTURE,
        "head.tilt_down",
        Words("Holding level leaves the head {} for tilting the shot.", ((max(0.0, spare), "rad"),)),
        at_least=math.radians(15),
        state=STOP if spare < -1e-9 else judge(spare, math.radians(15), "at_least", PICTURE, watch_at=1.0),
    )
    return tell.told()


def pair_figures(design: Design, jib: Jib, used: tuple[float, float]) -> Told:
    """What half a millimetre between parts that must match costs, and which of them to drill or turn as a pair."""
    tell = Teller()
    low, high = used

    def nod(longer: float = 0.0, head: float = 0.0, post: float = 0.0) -> float:
        tilt = linkage.head_tilt(
            np.linspace(low, high, 21), jib.front, jib.front + longer, jib.spacing + post, jib.spacing + head, 0.0
        )
        return float(np.abs(tilt).max())

    given: tuple[Given, ...]
    if jib.level == BY_BARS:
        given = (
            design.given("a", "pivot.spacing", "pivots apart", "m"),
            design.given("L", "arm.front", "front arm", "m"),
        )
        how, source = "exact four-bar with this one size 0.5 mm off, worst angle of the shot", "statics 7.2, drive 7.5"
        costs = {
            "bar": ("Upper bar 0.5 mm longer than the arm tilts", nod(longer=APART)),
            "head": ("Head holes 0.5 mm wider than the post's tilt", nod(head=APART)),
            "post": ("Post holes 0.5 mm wider than the head's tilt", nod(post=APART)),
        }
        words = (
            "Arm and upper bar: 0.5 mm apart turns the camera {}. Clamp them together and drill as a pair; likewise "
            "post cheeks with head uprights."
        )
    elif jib.level == BY_CABLE:
        given = (design.given("d", "cable.post_wheel", "wheel", "m"),)
        how, source = "arm angle times 0.5 mm over the wheel", "statics 7.3"
        costs = {"wheel": ("One wheel 0.5 mm larger nods", (high - low) * APART / (2 * jib.cable.head))}
        words = (
            "Pins: 0.5 mm further apart at one end nods the camera {} over the shot. Drill post and head from one "
            "template."
            if jib.cable.pins
            else "Wheels: 0.5 mm in diameter nods the camera {} over the shot. Turn or file both on one mandrel."
        )
    else:
        return tell.told()
    for key, (label, tilt) in costs.items():
        tell.add(by_method(f"build.match_{key}", label, tilt, "rad", how, given, source=source))
    worst = max(tilt for _, tilt in costs.values())
    tell.add(
        by_method(
            "build.match",
            "Half a millimetre apart tilts",
            worst,
            "rad",
            "the worst of the sizes that must match",
            given,
            source=source,
        )
    )
    tell.hold(
        "build.match",
        "build.pairs",
        "Sizes that must match",
        PICTURE,
        "cable.post_wheel" if design.variant == CABLE else "pivot.spacing",
        words,
        at_most=NOD,
        watch_at=0.4,
    )
    return tell.told()
