"""What a construction of the pivot asks beside bolts and holes: an upright at one side, the clamp on a fluid head, the
room in a yoke, poles that slide into each other or taper, threads sold in grades of their own.
"""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.jib.constructions import YOKE_PLAY, room_in_yoke
from hazel_lantern.core.kinds.jib.design import CLAMPED, SINGLE, TAPERED, YOKE
from hazel_lantern.core.kinds.jib.model import LEVEL, WEIGHTS, Jib
from hazel_lantern.core.kinds.jib.parts.post import CLAMP_APART
from hazel_lantern.core.kinds.shared.holes import NOTCH
from hazel_lantern.core.kinds.shared.works import bears, bolt_bears, works
from hazel_lantern.core.mechanics import beam, sections
from hazel_lantern.core.mechanics.safety import HAND_SWING, PIN_FACTOR
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import BUILD, CLEAR, PEOPLE, PICTURE, WATCH, Finding, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

STEPS = 24  # places along a tapering pole that are looked at
GRADES = {
    "mm": ("8.8", "Metric bolts are sold as 4.6 and 8.8"),
    "in": ("grade-5", "Inch bolts are sold as grade 2, 5 and 8"),
}


def held_figures(design: Design, jib: Jib) -> Told:
    """Each of them where the construction has it."""
    tell = Teller()
    if jib.held == SINGLE:
        _one_sided(tell, design, jib)
    elif jib.held == CLAMPED:
        _clamped(tell, design, jib)
    elif jib.held == YOKE:
        _in_yoke(tell, design, jib)
    if jib.tip is not None:
        _thin_end(tell, design, jib)
    if jib.held != CLAMPED:
        _graded(tell, jib)
    return tell.told()


def _one_sided(tell: Teller, design: Design, jib: Jib) -> None:
    """All that swings hangs beside the one upright and bends it sideways."""
    stuff, section = design.catalogue.materials[jib.post.material], jib.post.section()
    swung = GRAVITY * (jib.arm_weight + jib.head_mass + jib.mass_of(*WEIGHTS))
    modulus = float(section.iz / section.cy) / NOTCH[stuff.family]
    works(
        tell,
        "rig.one_side",
        "upright beside the arm",
        HAND_SWING * swung * jib.beside / modulus,
        bears(design, stuff),
        "all that swings hangs beside it, times 1.5, against bending sideways",
        (
            Given("W", swung, "N", "all that swings", "rig.mass"),
            Given("e", jib.beside, "m", "arm beside the upright's middle", "post.section"),
            Given("Z", modulus, "m^3", "its modulus sideways", "post.section"),
        ),
        "post.made",
        source="statics 9",
        remedies=(set_one("cheeks", "Hold it between two cheeks", "post.made", "cheeks"),),
    )
    head = [body for body in jib.bodies if body.frame == LEVEL]
    aside = jib.head_lanes[0]
    weight = GRAVITY * sum(body.mass for body in head)
    pin = sections.solid_round(jib.bolt.d)
    works(
        tell,
        "rig.head_aside",
        "head pin beside its one upright",
        HAND_SWING * weight * aside / (2 * float(pin.modulus)),
        jib.grade.yield_ / PIN_FACTOR,
        "head and camera beside the arm, times 1.5, half of it on either clamped end of the pin",
        (
            Given("W", weight, "N", "head and camera", "kit"),
            Given("e", aside, "m", "upright beside the arm", "head.section"),
            Given("Z", float(pin.modulus), "m^3", "modulus of the pin", "pin.bolt"),
        ),
        "pin.bolt",
        source="statics 7.4",
    )


def _clamped(tell: Teller, design: Design, jib: Jib) -> None:
    """The clamp on a fluid head when the camera is off, or the weights: what is left tips about the bolts."""
    head, rear = jib.head_moment, jib.mass_of(*WEIGHTS) * jib.place
    worst = GRAVITY * max(head, rear)
    area = design.catalogue.bolts["M6"].stress_area
    works(
        tell,
        "rig.clamp_bolts",
        "bolts of the arm's clamp",
        HAND_SWING * worst / (2 * CLAMP_APART) / 2 / area,
        bolt_bears(design),
        "the larger side of the arm with nothing on the other, times 1.5, over the 80 mm between two pairs of M6",
        (Given("M", worst, "N*m", "one side of the arm alone", "weights.hung"),),
        "post.made",
        source="statics 13",
        about=PEOPLE,
        verb="work",
    )
    tell.add(
        by_method(
            "rig.head_tips",
            "A fluid head is tipped with",
            worst,
            "N*m",
            "one side of the arm with nothing on the other, as while it is loaded",
            (Given("S", head, "kg*m", "camera side", "kit"), Given("R", rear, "kg*m", "rear side", "weights.hung")),
            source="statics 7.5",
        )
    )
    tell.hold(
        "rig.head_tips",
        "rig.head_loaded",
        "Fluid head while it is loaded",
        PEOPLE,
        "pan.bearing",
        "With one side of the arm bare the head is tipped with {}; it is good for {}. Hold the arm while you load "
        "it, and never trust the lock.",
        at_most=jib.pan.moment,
    )


def _in_yoke(tell: Teller, design: Design, jib: Jib) -> None:
    """Room between the flanges, beside the arm and the faces it turns on."""
    spare = room_in_yoke(design.row("sections", "post.section")) - jib.across - 2 * jib.bearing.face * 1e-3
    tell.add(
        by_method(
            "build.yoke_room",
            "Room beside the arm in its yoke",
            spare,
            "m",
            "between the flanges, less the arm and the faces it turns on",
            (Given("w", jib.across, "m", "arm", "arm.section"),),
            source="sizes",
        )
    )
    words = (
        "Both sides together leave {}: fill it with washers until the arm does not rattle."
        if spare >= 0
        else "The arm is {} too wide for the yoke: take a wider channel, or a narrower arm."
    )
    tell.hold(
        "build.yoke_room",
        "build.yoke",
        "Arm in its yoke",
        BUILD,
        "post.section",
        Words(words, ((abs(spare), "m"),)),
        at_most=YOKE_PLAY,
        state="stop" if spare < 0 else CLEAR if spare <= YOKE_PLAY else WATCH,
    )


def _thin_end(tell: Teller, design: Design, jib: Jib) -> None:
    """Bending of the front pole where it leaves the other, or of a taper wherever it works most."""
    tip, tapers = jib.tip, design.text("arm.made") == TAPERED
    assert tip is not None
    line = (jib.arm.line(jib.arm_material) + tip.line(jib.arm_material)) / 2
    weight = jib.head_mass * GRAVITY
    thick, thin = float(jib.arm_section.modulus), float(tip.section().modulus)
    starts = [jib.front * k / STEPS for k in range(STEPS)] if tapers else [design.number("arm.joint")]
    found = []
    for at in starts:
        past = jib.front - at
        share = at / jib.front if tapers else 1.0
        modulus = thick + (thin - thick) * share if tapers else tip.left_across(jib.bolt.clear_close)
        moment = beam.root_moment(past, weight, line * GRAVITY)
        found.append((moment / modulus if modulus > 0 else math.inf, at, moment, modulus))
    stress, at, moment, modulus = max(found)
    works(
        tell,
        "rig.tip",
        "thin end of the arm",
        HAND_SWING * stress * (1.0 if tapers else NOTCH[jib.arm_material.family]),
        bears(design, jib.arm_material),
        "head, camera and the pole itself, level, times 1.5, "
        f"{'where it works most' if tapers else 'at the bolt where it leaves the rear pole'}",
        (
            Given("M", moment, "N*m", f"bending {at:.2f} m ahead of the pivot", "arm.front"),
            Given("Z", modulus, "m^3", "section modulus there", "arm.tip"),
        ),
        "arm.tip",
        source="statics 4.3, 9",
    )
    if not tapers:
        gap = min(jib.arm.width, jib.arm.depth) - 2 * jib.arm.wall - tip.depth
        loose = gap > 0.0006
        tell.findings.append(
            Finding(
                "build.poles",
                "One pole in the other",
                PICTURE,
                WATCH if loose else CLEAR,
                "arm.tip",
                Words(
                    "The front pole has {} of room in the rear one: line it with tape until it slides stiffly."
                    if loose
                    else "The front pole has {} of room in the rear one.",
                    ((gap, "m"),),
                ),
                gap,
                0.0006,
                "at_most",
                "m",
            )
        )


def _graded(tell: Teller, jib: Jib) -> None:
    """A grade that the thread is not sold in."""
    if jib.grade.system in ("any", jib.bolt.system):
        return
    grade, words = GRADES[jib.bolt.system]
    tell.findings.append(
        Finding(
            "build.grade",
            "Grade of the bolts",
            BUILD,
            WATCH,
            "pin.grade",
            Words(f"{words}, not as {jib.grade.name}."),
            remedies=(set_one("grade", f"Take {grade.replace('-', ' ')}", "pin.grade", grade),),
        )
    )
