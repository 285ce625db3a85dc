"""The levelling cable: the pull that keeps both runs tight, its stretch, its strength and its wheels."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.jib.model import Jib
from hazel_lantern.core.kinds.shared.works import works
from hazel_lantern.core.mechanics import cables
from hazel_lantern.core.mechanics.safety import PIN_FACTOR, rope_factor
from hazel_lantern.core.nouns.figure import Given, by_formula
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, STOP, STRUCTURE, WATCH, Remedy, judge, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words, within

SLACK = Formula("abs(M)/(2*r)")
WANTED = Formula("abs(M)/r")
STRETCH = Formula("abs(M)*L/(2*EA*r**2)")
ADJUST = Formula("1/r")
TRIM = Formula("s/r")
TIGHT_TO = Formula("acos(q)")
PULL = Formula("T + abs(M)/(2*r)")
BEND = Formula("k*d")
WIDEST = 0.6  # metres of a wheel that is still offered


def cable_figures(design: Design, jib: Jib, nod: float, used: tuple[float, float]) -> Told:
    """Pull, stretch, adjuster, strength of the rope and size of the wheels, or its pins; nod: the tilt that shows
    [rad], used: the angles of the shot [rad].
    """
    tell = Teller()
    cable = jib.cable
    level = [body for body in jib.bodies if body.frame == "level"]
    moment = GRAVITY * sum(b.mass * b.along for b in level) + design.number("pan.stop") * abs(
        sum(b.mass * b.above for b in level)
    )
    m = Given("M", moment, "N*m", "head's moment about its pin, with a hard stop", "head.ahead")
    lever = lever_of(jib, used)
    words = "radius of the wheel at the head"
    if cable.pins:
        words = "half of what the pins are apart, times the cosine of the steepest angle against the post"
    r, t = (
        Given("r", lever, "m", words, "cable.head_wheel"),
        design.given("T", "cable.tension", "pull in each run", "N"),
    )
    tell.add(
        by_formula(
            "rig.cable_least",
            "Cable goes slack under",
            "N",
            SLACK,
            (m, r),
            assumptions=("both runs pulled alike",),
            source="statics 7.3",
        ),
        by_formula(
            "rig.cable_stretch",
            "Stretch tilts the camera",
            "rad",
            STRETCH,
            (
                m,
                Given("L", jib.front, "m", "one run", "arm.front"),
                Given("EA", cable.rope.ea, "N", "stiffness of the rope", "cable.rope"),
                r,
            ),
            assumptions=("both runs tight; twice this with one slack", "a constant tilt is taken out at the adjuster"),
            source="statics 7.3",
        ),
        by_formula(
            "rig.cable_adjust",
            "Adjuster turns the camera",
            "rad/m",
            ADJUST,
            (r,),
            assumptions=("one run shorter, the other longer by as much",),
            source="statics 7.3",
        ),
        by_formula(
            "rig.cable_wanted",
            "Pull wanted in each run",
            "N",
            WANTED,
            (m, r),
            assumptions=("twice what keeps both tight",),
            source="statics 7.3",
        ),
        by_formula("rig.cable_pull", "Most the cable pulls", "N", PULL, (t, m, r), source="statics 7.3"),
    )
    _tight(tell, design, jib, moment, lever)
    _strong(tell, design, jib)
    if cable.pins:
        _pins(tell, design, jib, moment)
    else:
        _wheels(tell, design, jib)
    _trim(tell, design, lever)
    stiffer = [rope for rope in design.catalogue.ropes.values() if rope.ea >= 1.9 * cable.rope.ea]
    stiff = min(stiffer, key=lambda rope: rope.ea, default=None)
    tell.hold(
        "rig.cable_stretch",
        "rig.cable_soft",
        "Stretch of the cable",
        PICTURE,
        "cable.rope",
        "Head and camera turn by {} as the cable takes their weight; a start or stop nods by a share of it.",
        at_most=nod,
        remedies=(set_one("stiff", f"Use {within(stiff.name)}", "cable.rope", stiff.id),) if stiff else (),
    )
    return tell.told()


def _tight(tell: Teller, design: Design, jib: Jib, moment: float, lever: float) -> None:
    """Whether both runs stay tight under the head's moment [N*m] on a lever [m]."""
    cable = jib.cable
    found = cables.levelling_cable(moment, lever, cable.rope.ea, jib.front)
    wanted = 2 * found.pretension
    better = math.ceil(1.3 * wanted / 10) * 10.0
    tight = set_one("tight", "Tighten to {}", "cable.tension", better, "N")
    state = (
        STOP if cable.tension < found.pretension else judge(cable.tension, wanted, "at_least", PICTURE, watch_at=1.0)
    )
    tell.hold(
        "rig.cable_wanted",
        "rig.cable_tight",
        "Cable stays tight",
        STRUCTURE,
        "cable.tension",
        Words(
            "It is pulled to {}; under {} one run goes slack and the camera nods. Twice that is wanted.",
            ((cable.tension, "N"), (found.pretension, "N")),
        ),
        at_least=wanted,
        state=state,
        value=cable.tension,
        remedies=(*((tight,) if better <= 5000 else ()), *_larger(design)),
    )


def _strong(tell: Teller, design: Design, jib: Jib) -> None:
    """Whether the rope bears its pull."""
    cable = jib.cable
    allowed, pull = cable.rope.breaking / rope_factor(design.text("safety")), tell.value("rig.cable_pull")
    stronger = [
        rope
        for rope in design.catalogue.ropes.values()
        if rope.breaking >= 1.3 * pull * rope_factor(design.text("safety")) and rope.ea >= cable.rope.ea
    ]
    best = min(stronger, key=lambda rope: rope.breaking, default=None)
    tell.hold(
        "rig.cable_pull",
        "rig.cable_strong",
        "Strength of the cable",
        STRUCTURE,
        "cable.rope",
        "It is pulled with up to {} of {} allowed.",
        at_most=allowed,
        remedies=(set_one("rope", f"Use {within(best.name)}", "cable.rope", best.id),)
        if best and best.id != cable.rope.id
        else (),
    )


def lever_of(jib: Jib, used: tuple[float, float]) -> float:
    """The lever of a run about the head pin [m]: the wheel's radius,
    or what is left of the pins' as the arm steepens."""
    if not jib.cable.pins:
        return jib.cable.head
    return jib.cable.head * math.cos(max(abs(angle - jib.lean) for angle in used))


def _pins(tell: Teller, design: Design, jib: Jib, moment: float) -> None:
    """How steep the arm may stand before a run goes slack, and the pins bent by their cables."""
    cable = jib.cable
    share = min(abs(moment) / (2 * cable.head * cable.tension), 1.0) if cable.tension > 0 else 1.0
    steepest = max(abs(jib.limits.low - jib.lean), abs(jib.limits.high - jib.lean))
    tell.add(
        by_formula(
            "rig.cable_to",
            "Both runs stay tight up to",
            "rad",
            TIGHT_TO,
            (Given("q", share, "1", "head's moment over what both runs hold with the arm level", "cable.tension"),),
            assumptions=("from square to the post, up or down",),
            source="statics 7.3",
        )
    )
    reach = tell.value("rig.cable_to")
    tell.hold(
        "rig.cable_to",
        "rig.cable_steep",
        "Cables between pins, arm steep",
        STRUCTURE,
        "cable.tension",
        Words(
            "The arm can be swung {} off square to its post; up to {} both runs stay tight.",
            ((steepest, "rad"), (reach, "rad")),
        ),
        at_least=steepest,
        state=judge(reach, steepest, "at_least", PICTURE, watch_at=1.0),
    )
    pull, span = tell.value("rig.cable_pull"), jib.across + jib.post.width
    works(
        tell,
        "rig.cable_pin",
        "pin of a levelling cable",
        32 * pull * span / 4 / (math.pi * jib.bolt.d**3),
        jib.grade.yield_ / PIN_FACTOR,
        "the cable's pull half-way between the cheeks",
        (
            Given("P", pull, "N", "most the cable pulls", "rig.cable_pull"),
            Given("l", span, "m", "between the middles of the cheeks", "post.section"),
        ),
        "pin.bolt",
        source="statics 7.4, 13",
    )


def _trim(tell: Teller, design: Design, lever: float) -> None:
    """How far the adjusters trim the camera either way, from half-way."""
    half, turned = design.number("cable.travel") / 2, abs(design.number("cable.adjust"))
    tell.add(
        by_formula(
            "rig.cable_trim",
            "Adjusters trim either way by",
            "rad",
            TRIM,
            (
                Given("s", half, "m", "half of an adjuster's travel", "cable.travel"),
                Given("r", lever, "m", "lever of a run", "cable.head_wheel"),
            ),
            assumptions=("started half-way, one run shorter and the other longer by as much",),
            source="statics 7.3",
        )
    )
    tell.hold(
        "rig.cable_trim",
        "rig.cable_trimmed",
        "Adjusters of the cable",
        PICTURE,
        "cable.travel",
        Words(
            "Started half-way they trim the camera by {} nose up or down; {} of it is used.",
            ((tell.value("rig.cable_trim"), "rad"), (turned / lever, "rad")),
        ),
        at_least=turned / lever,
        state=WATCH if turned > half else CLEAR,
    )


def _wheels(tell: Teller, design: Design, jib: Jib) -> None:
    """Whether its wheels are large enough for the rope."""
    cable = jib.cable
    least, smallest = cable.rope.bend * cable.rope.d, 2 * min(cable.post, cable.head)
    tell.add(
        by_formula(
            "rig.wheels_least",
            "Wheels this rope wants",
            "m",
            BEND,
            (
                Given("k", cable.rope.bend, "1", "wheel over rope", "cable.rope"),
                Given("d", cable.rope.d, "m", "rope", "cable.rope"),
            ),
            source="statics 7.3",
        )
    )
    tell.hold(
        "rig.wheels_least",
        "rig.cable_bend",
        "Wheels for this cable",
        STRUCTURE,
        "cable.post_wheel",
        Words("This rope wants wheels of at least {}, or it breaks strand by strand.", ((least, "m"),)),
        at_least=least,
        value=smallest,
        state=judge(smallest, least, "at_least", PICTURE, watch_at=1.0),
        remedies=_larger(design),
    )


def _larger(design: Design) -> tuple[Remedy, ...]:
    """Wheels half as large again."""
    larger = round(1.5 * design.number("cable.head_wheel"), 3)
    sizes = (("cable.post_wheel", larger), ("cable.head_wheel", larger))
    return (Remedy("wheels", Words("Wheels of {}", ((larger, "m"),)), sizes),) if larger <= WIDEST else ()
