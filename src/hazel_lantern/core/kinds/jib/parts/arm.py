"""The arm in one or two pieces, what joins it, the upper bar, the rear upright, the mast of a stay."""

from __future__ import annotations

import numpy as np

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.jib.design import CLAMPED, FIXED_PLACE, HOLES, TAPERED, TELESCOPE, UPRIGHT
from hazel_lantern.core.kinds.jib.model import ARM, BAR, BY_BARS, MAST, REAR, Jib, pair_of
from hazel_lantern.core.kinds.jib.parts.pins import (
    PIN_C,
    PIN_D,
    PIVOT_A,
    PIVOT_B,
    REAR_E,
    REAR_F,
    SLEEVE,
    WEIGHT,
    hole,
    sleeve_bolts,
)
from hazel_lantern.core.kinds.shared.splices import best_splice
from hazel_lantern.core.nouns.finding import Remedy
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.marks import Mark
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.core.workshop.solids import ALONG, UP, Bar, Place, Shaped, Tapered

REAR_UPRIGHT, STAY_MAST = "Rear upright", "Stay mast"
ARMS = ("Arm", "Arm, rear pole", "Arm, rear piece", "Arm, a tapered pole")  # that reach over the pivot
FRONTS = ("Arm, front pole", "Arm, front piece")


def joined_at(design: Design, jib: Jib) -> float:
    """Where the arm is joined ahead of the pivot, 0 for an arm in one piece [m]."""
    joint = design.number("arm.joint")
    return joint if 0 < joint < jib.front and design.text("arm.made") != TAPERED else 0.0


def arm_parts(design: Design, jib: Jib) -> list[Part]:
    """All that swings but the head."""
    made = _arm(design, jib)
    if jib.level == BY_BARS:
        made.append(_upper_bar(design, jib))
    if jib.whole:
        made.append(_rear_upright(design, jib))
    if jib.mast > 0:
        # Measured from the arm's line, it stands on top of it.
        top = jib.arm.depth / 2
        mast, at = Bar.of(design.catalogue, MAST, jib.mast - top), (0.0, 0.0, jib.offset + top)
        made.append(Part("E1", STAY_MAST, mast, (Place(ARM, at, UP, ALONG),), datum="lower end"))
    return made


def _arm(design: Design, jib: Jib) -> list[Part]:
    end, rear, joint = design.number("arm.end"), jib.rear, joined_at(design, jib)
    matched = "drill with B1" if jib.level == BY_BARS else "drill the pair together" if jib.bars > 1 else ""
    made = design.text("arm.made")

    def piece(mark: str, name: str, start: float, solid: Shaped, marks: list[Mark], datum: str) -> Part:
        places = tuple(Place(ARM, (start, y, jib.offset)) for y in jib.arm_lanes)
        return Part(mark, name, solid, places, tuple(sorted(marks, key=lambda mark: mark.at)), datum, matched)

    def bar(length: float) -> Bar:
        return Bar.of(design.catalogue, jib.arm.id, length)

    pivot = [] if jib.held == CLAMPED else [hole(jib, end + rear, PIVOT_A)]
    behind, head = [*_weight_marks(design, jib), *pivot], hole(jib, end + rear + jib.front, PIN_D)
    whole = jib.front + rear + 2 * end
    if made == TAPERED and jib.tip:
        pole = Tapered(jib.arm, jib.tip, jib.arm_material, rear + end, whole)
        return [piece("A1", "Arm, a tapered pole", -rear - end, pole, [*behind, head], "thick end")]
    if not joint:
        return [piece("A1", "Arm", -rear - end, bar(whole), [*behind, head], "rear end")]
    long, past = end + rear + joint, jib.front - joint + end
    if made == TELESCOPE and jib.tip:
        overlap, inset = design.number("arm.sleeve"), 2 * jib.bolt.d
        outer = [hole(jib, long - off, SLEEVE) for off in (overlap - inset, inset)]
        inner = [hole(jib, off, SLEEVE) for off in (inset, overlap - inset)]
        front = Bar.of(design.catalogue, jib.tip.id, past + overlap)
        pin = hole(jib, past + overlap - end, PIN_D)
        return [
            piece("A1", "Arm, rear pole", -rear - end, bar(long), [*behind, *outer], "rear end"),
            piece("A2", "Arm, front pole", joint - overlap, front, [*inner, pin], "rear end"),
        ]
    (near, far), half = sleeve_bolts(design, jib), design.number("arm.sleeve") / 2
    rear_bolts, front_bolts = (
        [hole(jib, long - at, SLEEVE) for at in (far, near)],
        [hole(jib, at, SLEEVE) for at in (near, far)],
    )
    bolts = tuple(hole(jib, at, SLEEVE) for at in (half - far, half - near, half + near, half + far))
    return [
        piece("A1", "Arm, rear piece", -rear - end, bar(long), [*behind, *rear_bolts], "rear end"),
        piece("A2", "Arm, front piece", joint, bar(past), [*front_bolts, hole(jib, jib.front - joint, PIN_D)], "joint"),
        *_joiner(design, jib, joint - half, bolts),
    ]


def _joiner(design: Design, jib: Jib, start: float, bolts: tuple[Mark, ...]) -> tuple[Part, ...]:
    """What joins the pieces of the arm: a tube or bar in each, or plates at the outer sides of all of it."""
    found = best_splice(design.catalogue, jib.arm, design.number("arm.sleeve") / 2)
    if found is None:
        return ()
    lanes = jib.arm_lanes if found.inside else pair_of((jib.across + found.stock.width) / 2)
    part = Part(
        "A3",
        "Sleeve in the arm" if found.inside else "Plate beside the arm's joint",
        Bar.of(design.catalogue, found.stock.id, 2 * found.overlap),
        tuple(Place(ARM, (start, y, jib.offset)) for y in lanes),
        bolts,
        "one end",
        "drill through both pieces of the arm",
    )
    return (part,)


def _upper_bar(design: Design, jib: Jib) -> Part:
    """From the post to the head, or from a rear upright on."""
    end, behind = design.number("arm.end"), jib.place if jib.whole else 0.0
    rear = (hole(jib, end, REAR_F),) if jib.whole else ()
    return Part(
        "B1",
        "Upper bar",
        Bar.of(design.catalogue, jib.bar.id, behind + jib.upper + 2 * end),
        tuple(Place(BAR, (-behind - end, y, 0.0)) for y in jib.bar_lanes),
        (*rear, hole(jib, end + behind, PIVOT_B), hole(jib, end + behind + jib.upper, PIN_C)),
        "rear end" if jib.whole else "post end",
        "drill with A1",
    )


def _rear_upright(design: Design, jib: Jib) -> Part:
    """What hangs the weights plumb between arm and upper bar."""
    end = design.number("arm.end")
    low, high = min(0.0, jib.above) - end, max(jib.spacing, jib.above) + end
    pins = [hole(jib, jib.above - low, WEIGHT), hole(jib, -low, REAR_E), hole(jib, jib.spacing - low, REAR_F)]
    lanes = jib.lanes(jib.upright.width)
    return Part(
        "G1",
        REAR_UPRIGHT,
        Bar.of(design.catalogue, jib.upright.id, high - low),
        tuple(Place(REAR, (0.0, y, low), UP, ALONG) for y in lanes),
        tuple(sorted(pins, key=lambda mark: mark.at)),
        "lower end",
        "drill with D1",
    )


def _weight_marks(design: Design, jib: Jib) -> tuple[Mark, ...]:
    """One hole, a row or a slot for the weights' pin, or the hole of a rear upright."""
    end, near, step = design.number("arm.end"), design.number("weights.nearest"), design.number("weights.step")
    carried = design.text("weights.carried")
    if carried in FIXED_PLACE:
        return (hole(jib, end + jib.rear - jib.place, REAR_E if carried == UPRIGHT else WEIGHT),)
    if near >= jib.rear:
        return (hole(jib, end, WEIGHT),)
    if carried == HOLES:
        return tuple(
            hole(jib, end + jib.rear - float(place), WEIGHT) for place in np.arange(near, jib.rear + 1e-9, step)[::-1]
        )
    return (Mark(end, "slot", jib.bolt.clear_normal, jib.rear - near + end, WEIGHT, fastening=WEIGHT),)


def joined(design: Design, jib: Jib, part: Part, sold: float) -> tuple[Remedy, ...]:
    """An arm longer than its stock made of two pieces over a sleeve, where both then fit the stock."""
    end, half = design.number("arm.end"), max(3 * jib.arm.depth, 0.15)
    lowest, highest = (
        max(half + 2 * jib.bolt.d, jib.front + end - sold),
        min(jib.front - half - 2 * jib.bolt.d, sold - jib.rear - end),
    )
    if part.mark != "A1" or lowest > highest:
        return ()
    joint = round(min(max(jib.front / 3, lowest), highest), 3)
    return (
        Remedy(
            "joint",
            Words("Join it {} ahead of the pivot", ((joint, "m"),)),
            (("arm.joint", joint), ("arm.sleeve", round(2 * half, 3))),
        ),
    )
