"""What a straight rail bears: bending where it is whole, where it is drilled and where it is joined; creep, twist."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.rail.bends import Ride, centred, stiffer
from hazel_lantern.core.kinds.rail.design import BUTT, PLATE
from hazel_lantern.core.kinds.rail.joints import Joints, ways_that_fit
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.kinds.rail.parts import JOINT_BOLT, RAIL_NAME, plate_bolts
from hazel_lantern.core.kinds.shared.creep import creeps
from hazel_lantern.core.kinds.shared.holes import NOTCH, holes_along, left_beside
from hazel_lantern.core.kinds.shared.works import bears, works
from hazel_lantern.core.mechanics.safety import PIN_FACTOR, safety_class
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, STOP, STRUCTURE, WATCH, Finding, Remedy
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Laid

SMOOTH = 1.2  # dynamic factor of a smooth slider, statics 9
STRESS = Formula("k*M/W")
SHEARED = Formula("k*M/(a*2*A)")
SHEAR = 0.58  # of what steel bears in tension, statics 13


class Place(Struct, frozen=True):
    """Where a rail may fail: what is there, the bending of the heavier rail [N*m], the modulus left of one rail, over
    what a notch makes of the stress [m^3].
    """

    note: str
    bending: float
    modulus: float

    @property
    def stress(self) -> float:
        return self.bending / self.modulus if self.modulus > 0 else float("inf")


def strength_figures(design: Design, suggest: bool, rail: Straight, ride: Ride, laid: Laid) -> Told:
    """Strength of the rail and its joints with the carriage anywhere, what time does to it, how an open section
    twists.
    """
    tell = Teller()
    _bends(tell, design, suggest, rail, _weakest(rail, ride, laid))
    if rail.base is not None:
        _based(tell, design, rail, ride)
    tell.take(_joined(design, suggest, rail, ride))
    creeps(tell, rail.material, float(ride.drop.max()), "rail.section", "Take the load off between shots.")
    _twists(tell, rail, float(np.abs(ride.roll).max()))
    return tell.told()


def allowed(design: Design, rail: Straight) -> float:
    """What the rail's material may be worked at [Pa]; what is refused over people is still judged as overhead."""
    letter = design.text("safety")
    return rail.material.allowed(safety_class("D" if letter == "E" else letter).strength(rail.material.family))


def _weakest(rail: Straight, ride: Ride, laid: Laid) -> Place:
    """Where the rail works most for its section: bent most, or at a hole."""
    notch = NOTCH[rail.material.family]
    takes = rail.rails_take
    places = [Place("greatest bending", takes * float(ride.bending.max()), float(rail.section.modulus))]
    for k, hole in enumerate(holes_along(laid.parts, RAIL_NAME)):
        at = f"bending at the hole at {hole.at:.3f} m, {hole.note}"
        places.append(Place(at, takes * float(ride.spots[:, k].max()), left_beside(rail.bar, hole) / notch))
    return max(places, key=lambda place: place.stress)


def _bends(tell: Teller, design: Design, suggest: bool, rail: Straight, worst: Place) -> None:
    given = (
        Given("k", SMOOTH, "1", "for smooth moving"),
        Given("M", worst.bending, "N*m", f"{worst.note}, of the heavier rail", "rail.section"),
        Given("W", worst.modulus, "m^3", "section modulus left of one rail", "rail.section"),
    )
    if worst.modulus > 0:
        tell.add(by_formula("rig.stress", "Stress in the rail", "Pa", STRESS, given, source="statics 3, 4.1, 9"))
    else:
        none = "its hole leaves nothing of the rail"
        tell.add(by_method("rig.stress", "Stress in the rail", float("inf"), "Pa", none, given, source="statics 3"))
    tell.hold(
        "rig.stress",
        "rig.strong",
        "Strength of the rail",
        STRUCTURE,
        "rail.section",
        "The rail works at {} of {} allowed; it fails this way: " + rail.material.fails + "."
        if worst.modulus > 0
        else "A hole leaves nothing of the rail: take a wider one, or hold it without drilling. {} of {} allowed.",
        at_most=allowed(design, rail),
        remedies=stiffer(design, rail) if suggest else (),
    )


def _based(tell: Teller, design: Design, rail: Straight, ride: Ride) -> None:
    """The board under both rails, which takes what they leave of the bending."""
    board = rail.base
    assert board is not None
    moment = rail.base_takes * float(ride.bending.max()) / rail.share
    modulus = board.width * board.thickness**2 / 6
    works(
        tell,
        "rig.base",
        "board under the rails",
        SMOOTH * moment / modulus,
        bears(design, board.material),
        "bent and pulled with the rails, as far as their screws join them, times 1.2",
        (
            Given("M", moment, "N*m", "bending left to it", "rail.section"),
            Given("Z", modulus, "m^3", "section modulus of the board", "rail.spacing"),
        ),
        "rail.spacing",
        source="statics 3, 4.1, 9",
    )


def _joined(design: Design, suggest: bool, rail: Straight, ride: Ride) -> Told:
    """Whether each joint carries the bending that comes to it."""
    joints, tell = rail.joints, Teller()
    if not joints.cuts:
        return Told()
    mend = ways_that_fit(design, rail.bar, rail.length) if suggest else ()
    if joints.how == BUTT or joints.splice is None:
        tell.findings.append(_carries_none(joints, mend))
        return tell.told()
    splice, most = joints.splice, float(ride.spots[:, -len(joints.cuts) :].max())
    letter = design.text("safety")
    bears = splice.material.allowed(safety_class("D" if letter == "E" else letter).strength(splice.material.family))
    moment = Given("M", most, "N*m", "greatest bending at a joint, of the heavier rail", "rail.joint_every")
    given = (Given("k", SMOOTH, "1", "for smooth moving"), moment)
    left = Given("W", splice.modulus, "m^3", f"{splice.stock.name.lower()}, {splice.count} at a joint", "rail.joint")
    tell.add(
        by_formula("rig.joint_stress", "Stress in a joint", "Pa", STRESS, (*given, left), source="statics 2, 4.1, 9")
    )
    tell.hold(
        "rig.joint_stress",
        "rig.joint",
        "Joints of the rail",
        STRUCTURE,
        "rail.joint",
        "What joins the rail works at {} of {} allowed; it fails this way: " + splice.material.fails + ".",
        at_most=bears,
        remedies=(*mend, *(stiffer(design, rail) if suggest else ())),
    )
    if joints.how == PLATE:
        near, far = plate_bolts(splice)
        bolt, steel = design.catalogue.bolts[JOINT_BOLT], design.catalogue.materials["steel"]
        tell.add(
            by_formula(
                "rig.joint_shear",
                "Shear in the bolts of a joint",
                "Pa",
                SHEARED,
                (
                    *given,
                    Given("a", far - near, "m", "between the two bolts of a piece", "rail.joint"),
                    Given("A", bolt.stress_area, "m^2", f"one {bolt.id}, cut at both plates"),
                ),
                source="statics 13",
            )
        )
        tell.hold(
            "rig.joint_shear",
            "rig.joint_bolts",
            "Bolts of the joints",
            STRUCTURE,
            "rail.joint",
            "The bolts of a joint are sheared with {} of {} allowed.",
            at_most=SHEAR * steel.strength / PIN_FACTOR,
            remedies=mend,
        )
    return tell.told()


def _carries_none(joints: Joints, mend: tuple[Remedy, ...]) -> Finding:
    """Ends that only meet, or that nothing joins."""
    if joints.how == BUTT and joints.sound:
        state, words = CLEAR, "Its pieces are butted over supports; each rests on two."
    elif joints.how == BUTT:
        state = STOP
        words = (
            "Butted ends carry no bending: the rail folds unless every joint stands over a support and every piece "
            "rests "
            "on two. The figures are those of a rail in one piece."
        )
    else:
        state = STOP
        words = "Nothing in the catalogue joins this section so, clear of the wheels: its pieces are not held together."
    return Finding(
        "rig.joint",
        "Joints of the rail",
        STRUCTURE,
        state,
        "rail.joint",
        Words(words),
        float(state == CLEAR),
        1.0,
        "at_least",
        "1",
        mend if state != CLEAR else (),
    )


def _twists(tell: Teller, rail: Straight, roll: float) -> None:
    """An open section loaded off its shear centre."""
    off = abs(float(rail.cg[1]) + float(rail.section.lever))
    if not rail.bar.caution or rail.count > 1 or off <= 1e-3:
        return
    tell.findings.append(
        Finding(
            "rig.twists",
            "Twist of an open section",
            STRUCTURE,
            WATCH if roll > 1e-3 else CLEAR,
            "rail.section",
            Words(
                "The load off the line about which it twists turns it by {}; closed sections twist far less.",
                ((roll, "rad"),),
            ),
            roll,
            1e-3,
            "at_most",
            "rad",
            centred(rail) if roll > 1e-3 else (),
            figure="travel.roll",
        )
    )
