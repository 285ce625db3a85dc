"""What the arm hangs between: cheeks, head uprights, the pin of the weights, the mast of a stay."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.catalogue import Bolt, Grade
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.jib.design import CLAMPED
from hazel_lantern.core.kinds.jib.model import BY_MOTOR, HUNG, LEVEL, MAST, Jib
from hazel_lantern.core.kinds.jib.strength.arm import Flat
from hazel_lantern.core.kinds.shared.holes import NOTCH
from hazel_lantern.core.kinds.shared.pressed import FREE_TOP, pressed
from hazel_lantern.core.kinds.shared.standing import bump
from hazel_lantern.core.kinds.shared.works import bears, works
from hazel_lantern.core.mechanics.safety import HAND_SWING, PIN_FACTOR, SHEAR
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import PICTURE, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.workshop.laid import Laid

LEANS = Formula("T*L/GJ")
HORIZON = math.radians(0.5)
SOUND = 0.8  # of what is allowed, so that what is offered is not told again
CORE = 0.9382  # of its pitch that a thread is thinner at its stress area


def member_figures(design: Design, jib: Jib, laid: Laid, used: tuple[float, float], at_flattest: Flat) -> Told:
    """Each of them under the weights, hand swings and a bump at the camera."""
    tell = Teller()
    push = bump(design, jib.mass)
    head = [body for body in jib.bodies if body.frame == LEVEL]
    turns = GRAVITY * abs(sum(body.mass * body.along for body in head)) if jib.level != BY_MOTOR else 0.0
    high = float(np.max(jib.lens_height(np.array([*used, jib.limits.high]))))
    if jib.held != CLAMPED:
        _cheeks(tell, design, jib, turns, push, high - jib.foot)
    if jib.level != BY_MOTOR:
        _uprights(tell, design, jib, turns, push)
    _twisted(tell, design, jib)
    _weight_pin(tell, design, jib, laid)
    if jib.mast > 0:
        _mast(tell, design, jib, at_flattest.bent.stay)
    return tell.told()


def _cheeks(tell: Teller, design: Design, jib: Jib, turns: float, push: float, lever: float) -> None:
    """Bending of the cheeks, or of the one post, at their lowest hole and below:
    the head's moment, and a bump at the camera."""
    stuff = design.catalogue.materials[jib.post.material]
    left = jib.cheeks * jib.post.left_across(jib.bolt.clear_close) / NOTCH[stuff.family]
    moment = HAND_SWING * turns + push * lever
    works(
        tell,
        "rig.cheeks",
        "post cheeks",
        moment / left if left > 0 else math.inf,
        bears(design, stuff),
        "what keeps the head level, times 1.5, and a bump at the camera at its highest, over both cheeks at a pivot "
        "hole",
        (
            Given("M", turns, "N*m", "head and camera ahead of their pin", "head.ahead"),
            Given("F", push, "N", "bump at the camera"),
            Given("h", lever, "m", "lens above the foot of the cheeks", "post.length"),
            Given("W", left, "m^3", "left of both cheeks at a hole", "post.section"),
        ),
        "post.section",
        source="statics 6, 7.4, 9",
        verb="work",
    )


def _uprights(tell: Teller, design: Design, jib: Jib, turns: float, push: float) -> None:
    """Bending of the two uprights where a pin passes: head and camera ahead of it, and a bump at the lens."""
    stuff = design.catalogue.materials[jib.upright.material]
    left = jib.cheeks * jib.upright.left_across(jib.bolt.clear_close) / NOTCH[stuff.family]
    lever = abs(jib.lens[1])
    works(
        tell,
        "rig.uprights",
        "head uprights",
        (HAND_SWING * turns + push * lever) / left if left > 0 else math.inf,
        bears(design, stuff),
        "head and camera ahead of their pin, times 1.5, and a bump at the lens, over both uprights at a pin's hole",
        (
            Given("M", turns, "N*m", "head and camera ahead of their pin", "head.ahead"),
            Given("F", push, "N", "bump at the camera"),
            Given("h", lever, "m", "lens above the head pin", "head.rise"),
            Given("W", left, "m^3", "left of both uprights at a hole", "head.section"),
        ),
        "head.section",
        source="statics 7.4, 9",
        verb="work",
    )


def _twisted(tell: Teller, design: Design, jib: Jib) -> None:
    """The arm twisted by a camera that hangs over to one side, and how far that leans the picture."""
    twist = GRAVITY * abs(sum(body.mass * body.aside for body in jib.bodies if body.frame == LEVEL))
    stuff, gj = jib.arm_material, jib.bars * jib.arm_material.G * float(jib.arm_section.j)
    tell.add(
        by_formula(
            "rig.arm_leans",
            "Arm twists under the camera by",
            "rad",
            LEANS,
            (
                Given("T", twist, "N*m", "head and camera beside the arm", "kit"),
                Given("L", jib.front, "m", "front arm", "arm.front"),
                Given("GJ", gj, "N*m^2", "torsion stiffness of the arm", "arm.section"),
            ),
            source="statics 4.4",
        )
    )
    tell.hold(
        "rig.arm_leans",
        "rig.arm_upright",
        "Picture upright on the arm",
        PICTURE,
        "kit",
        "The camera's weight beside the arm twists it and leans the picture by {}; centre the kit over its screw.",
        at_most=HORIZON,
    )
    works(
        tell,
        "rig.arm_twisted",
        "twisted arm",
        HAND_SWING * twist / (jib.bars * jib.arm.twist_modulus),
        SHEAR[stuff.family] * bears(design, stuff),
        "that moment, times 1.5, over the torsion modulus",
        (
            Given("T", twist, "N*m", "head and camera beside the arm", "kit"),
            Given("W_t", jib.bars * jib.arm.twist_modulus, "m^3", "torsion modulus of the arm", "arm.section"),
        ),
        "arm.section",
        source="statics 4.4, 9",
    )


def _weight_pin(tell: Teller, design: Design, jib: Jib, laid: Laid) -> None:
    """Bending of the threaded rod that carries the weights, at the arm's side with the heavier stack."""
    wall = jib.across / 2
    sides = {1.0: 0.0, -1.0: 0.0}
    for piece in laid.placed:
        if piece.name == "weights":
            y = float(piece.centre[1])
            sides[math.copysign(1.0, y)] += (
                GRAVITY * piece.mass * max(abs(y) - (0.0 if piece.body == HUNG else wall), 0.0)
            )
    moment = max(sides.values())
    if moment <= 0:
        return
    core = jib.bolt.d - CORE * jib.bolt.pitch
    works(
        tell,
        "rig.weight_pin",
        "pin of the weights",
        32 * HAND_SWING * moment / (math.pi * core**3),
        jib.grade.yield_ / PIN_FACTOR,
        "the heavier stack beside the arm, times 1.5, on the core of the threaded rod",
        (
            Given("M", moment, "N*m", "weights beside the arm", "weights.hung"),
            Given("d", core, "m", "core of the rod", "pin.bolt"),
        ),
        "weights.hung",
        source="statics 7.4, 13",
        remedies=_stronger_pin(design, jib, HAND_SWING * moment),
    )


def _stronger_pin(design: Design, jib: Jib, moment: float) -> tuple[Remedy, ...]:
    """A rod for the weights' pin that bears a moment [N*m]: thicker, or of a better grade."""

    def sound(bolt: Bolt, grade: Grade) -> bool:
        core = bolt.d - CORE * bolt.pitch
        return 32 * moment / (math.pi * core**3) <= SOUND * grade.yield_ / PIN_FACTOR

    catalogue, found = design.catalogue, []
    system = jib.bolt.system
    grades = sorted(catalogue.grades.values(), key=lambda grade: grade.yield_)
    grades = [one for one in grades if one.system in (system, "any")]
    grade = next((one for one in grades if sound(jib.bolt, one)), None)
    if grade is not None and grade.id != jib.grade.id:
        found.append(set_one("grade", f"Use {grade.id} bolts", "pin.grade", grade.id))
    rods = sorted(catalogue.bolts.values(), key=lambda row: row.d)
    thicker = [row for row in rods if row.system == system and row.d > jib.bolt.d]
    bolt = next((row for row in thicker if sound(row, jib.grade)), None)
    if bolt is not None:
        found.append(set_one("bolt", f"Use {bolt.id} bolts", "pin.bolt", bolt.id))
    return tuple(found)


def _mast(tell: Teller, design: Design, jib: Jib, pull: float) -> None:
    """The mast of a stay, pressed by the cables to both ends."""
    rod = design.catalogue.sections[MAST]
    stuff = design.catalogue.materials[rod.material]
    ahead = math.hypot(jib.front, jib.mast)
    presses = HAND_SWING * max(pull, 0.0) * (jib.mast / ahead + jib.front / ahead * jib.mast / jib.rear)
    tell.add(
        by_method(
            "rig.mast_presses",
            "Mast is pressed with",
            presses,
            "N",
            "what both cables pull it down with, times 1.5",
            (Given("T", pull, "N", "pull of the front cable", "rig.stay"),),
            source="statics 7.6",
        )
    )
    pressed(
        tell,
        design.text("safety"),
        ("rig.mast_presses", "rig.mast_bows", "rig.mast_buckles"),
        "mast",
        stuff.E_low * float(rod.section().least),
        Given("L", jib.mast, "m", "mast", "stay.mast"),
        FREE_TOP,
        "stay.mast",
    )
