"""The sleeve of a split arm: pressure of its bolts, and the drop its play lets through."""

from __future__ import annotations

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.jib.design import TELESCOPE
from hazel_lantern.core.kinds.jib.model import Jib
from hazel_lantern.core.kinds.shared.splices import best_splice
from hazel_lantern.core.kinds.shared.works import works
from hazel_lantern.core.mechanics import beam, pins
from hazel_lantern.core.mechanics.safety import HAND_SWING, safety_class
from hazel_lantern.core.nouns.figure import Given, by_formula
from hazel_lantern.core.nouns.finding import BUILD, PICTURE, STOP, STRUCTURE, Finding, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

SLEEVE = Formula("k*M/(a*d*t)")
SLACK = Formula("4*p/s*(L - x)")
SLIDES = Formula("p/s*(L - x + s)")


def sleeve_figures(design: Design, jib: Jib, worked: float) -> Told:
    """The joint of an arm longer than its stock: pressure of the sleeve's bolts, and what its play does at the head."""
    tell = Teller()
    joint, sleeve = design.number("arm.joint"), design.number("arm.sleeve")
    past = jib.front - joint
    if past <= 0:
        tell.findings.append(
            Finding(
                "rig.sleeve_place",
                "Sleeve on the arm",
                BUILD,
                STOP,
                "arm.joint",
                Words("The joint would lie at {}, beyond the head pin at {}.", ((joint, "m"), (jib.front, "m"))),
                joint,
                jib.front,
                "at_most",
                "m",
                (
                    set_one("middle", "Join it {} ahead of the pivot", "arm.joint", round(jib.front / 2, 3), "m"),
                    set_one("whole", "An arm in one piece", "arm.joint", 0.0),
                ),
            )
        )
        return tell.told()
    free, least = min(joint, past), sleeve / 2 + 2 * jib.bolt.d
    if free < least and design.text("arm.made") != TELESCOPE:
        middle = round(jib.front / 2, 3)
        tell.findings.append(
            Finding(
                "rig.sleeve_place",
                "Sleeve on the arm",
                BUILD,
                STOP,
                "arm.joint",
                Words(
                    "The sleeve would cover the "
                    + ("pivot" if joint < past else "head pin")
                    + ": keep the joint {} away from it.",
                    ((least, "m"),),
                ),
                free,
                least,
                "at_least",
                "m",
                (set_one("middle", "Join it {} ahead of the pivot", "arm.joint", middle, "m"),)
                if middle >= least
                else (),
            )
        )
    slides = design.text("arm.made") == TELESCOPE
    line = beam.arm_weight(jib.mass_of("arm"), jib.front + jib.rear + 2 * design.number("arm.end"))
    moment = beam.root_moment(past, jib.head_mass * GRAVITY, line)
    lever = max((sleeve if slides else sleeve / 2) - 4 * jib.bolt.d, jib.bolt.d)
    tell.add(
        by_formula(
            "rig.sleeve_pressure",
            "Pressure of the sleeve's bolts",
            "Pa",
            SLEEVE,
            (
                Given("k", HAND_SWING, "1", "for hand swings"),
                Given("M", moment, "N*m", "bending at the joint", "arm.joint"),
                Given("a", lever, "m", f"between the two bolts{'' if slides else ' of a half'}", "arm.sleeve"),
                Given("d", jib.bolt.d, "m", "bolt", "pin.bolt"),
                Given("t", jib.arm.walls * jib.bars, "m", "walls the bolt passes", "arm.section"),
            ),
            assumptions=(
                "two bolts through both poles" if slides else "two bolts in each half, the inner and the outer",
            ),
            source="statics 7.4",
        ),
        by_formula(
            "rig.sleeve_drop",
            "Play lets the head down by",
            "m",
            SLIDES if slides else SLACK,
            (
                design.given("p", "arm.sleeve_play", "gap between sleeve and bar", "m"),
                design.given("s", "arm.sleeve", "sleeve", "m"),
                Given("L", jib.front, "m", "front arm", "arm.front"),
                design.given("x", "arm.joint", "joint ahead of the pivot", "m"),
            ),
            source="geometry of a loose sleeve",
        ),
    )
    allowed = pins.METAL_BEARING * worked
    longer = round(min(1.0, 1.5 * sleeve), 3)
    remedy = (set_one("sleeve", "Sleeve of {}", "arm.sleeve", longer, "m"),) if longer > sleeve else ()
    tell.hold(
        "rig.sleeve_pressure",
        "rig.sleeve",
        "Sleeve of the arm",
        STRUCTURE,
        "arm.sleeve",
        "Its bolts press the walls with {} of {} allowed.",
        at_most=allowed,
        remedies=remedy,
    )
    if not slides:  # else the front pole itself, which is told by its own name
        _spliced(tell, design, jib, moment)
    most = 0.005
    tell.hold(
        "rig.sleeve_drop",
        "rig.sleeve_play",
        "Play of the sleeve",
        PICTURE,
        "arm.sleeve_play",
        "The head drops by {} before the sleeve bears; it knocks when the arm is tipped over. Shim it.",
        at_most=most,
        remedies=remedy,
    )
    return tell.told()


def _spliced(tell: Teller, design: Design, jib: Jib, moment: float) -> None:
    """What joins two pieces of one section, under the bending there [N*m]."""
    joint, sleeve = design.number("arm.joint"), design.number("arm.sleeve")
    joiner = best_splice(design.catalogue, jib.arm, sleeve / 2)
    if joiner is None:
        tell.findings.append(
            Finding(
                "rig.sleeve_fits",
                "Sleeve of the arm",
                STRUCTURE,
                STOP,
                "arm.joint",
                Words(
                    "Nothing in the catalogue slides into this arm or plates its sides: make it in one piece, or of "
                    "another section."
                ),
                remedies=(set_one("whole", "An arm in one piece", "arm.joint", 0.0),),
            )
        )
    else:
        bears = joiner.material.allowed(safety_class(design.text("safety")).strength(joiner.material.family))
        modulus = joiner.modulus * (jib.bars if joiner.inside else 1)
        works(
            tell,
            "rig.sleeve_bent",
            "sleeve of the arm",
            HAND_SWING * moment / modulus,
            bears,
            "bending at the joint, all of it in what joins the pieces, times 1.5",
            (
                Given("M", moment, "N*m", "bending at the joint", "arm.joint"),
                Given("W", modulus, "m^3", joiner.stock.name.lower(), "arm.section"),
            ),
            "arm.joint",
            source="statics 2, 9",
            remedies=(set_one("out", "Join it {} ahead of the pivot", "arm.joint", further, "m"),)
            if (further := round(joint + 0.5 * (jib.front - joint), 3)) < jib.front - sleeve
            else (),
        )
