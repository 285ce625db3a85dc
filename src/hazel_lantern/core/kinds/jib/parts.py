"""Every piece of a jib where it sits: parts to cut with their marks, what is bought or owned, what goes through the
holes.
"""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.catalogue import Plate, Rope
from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.jib.design import HANGING, HOLES
from hazel_lantern.core.kinds.jib.model import (
    ARM,
    BAR,
    BY_BARS,
    BY_CABLE,
    BY_MOTOR,
    FIXED,
    HOOK,
    HUNG,
    LEVEL,
    MAST,
    TURNING,
    Jib,
    frames,
)
from hazel_lantern.core.kinds.shared.splices import best_splice
from hazel_lantern.core.nouns.finding import Remedy
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.fasteners import bolt
from hazel_lantern.core.workshop.laid import Laid, Pieces, lay
from hazel_lantern.core.workshop.marks import Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part, ReadyMade
from hazel_lantern.core.workshop.solids import ACROSS, ALONG, UP, Bar, Block, Place

CLEARANCE = 0.004  # metres between arm and weights
PIVOT_A, PIVOT_B, PIN_C, PIN_D, WEIGHT, SLEEVE = (
    "pivot A",
    "pivot B",
    "head pin C",
    "head pin D",
    "weight pin",
    "sleeve",
)
# What the pieces are called as bodies of the mechanism.
CALLED = {
    "A1": "arm",
    "A2": "arm",
    "A3": "sleeve",
    "B1": "upper bar",
    "C1": "post cheeks",
    "D1": "head uprights",
    "E1": "stay mast",
}


def laid_out(design: Design, kit: Carried, jib: Jib, plates: list[Plate]) -> Laid:
    """All pieces of a jib with the plates hung on it; its own bodies are not read."""
    parts = (*_arm(design, jib), *_post_and_head(design, jib))
    return lay(
        Pieces(parts, tuple(_things(design, kit, jib, plates)), _fastenings(design, jib), _loose(design, kit, jib)),
        frames(jib, np.zeros((1, 2))),
    )


def joined_at(design: Design, jib: Jib) -> float:
    """Where the arm is joined ahead of the pivot, 0 for an arm in one piece [m]."""
    joint = design.number("arm.joint")
    return joint if 0 < joint < jib.front else 0.0


# To cut


def _hole(jib: Jib, at: float, fastening: str, note: str = "") -> Mark:
    return Mark(at, "hole", jib.bolt.clear_close, note=note or fastening, fastening=fastening)


def _sides(width: float, count: int) -> tuple[float, ...]:
    """Where so many bars side by side lie from the middle [m]."""
    return (0.0,) if count == 1 else (width / 2, -width / 2)


def _arm(design: Design, jib: Jib) -> list[Part]:
    """The arm in one or two pieces, its sleeve, the upper bar, the stay's mast."""
    end, rear, joint = design.number("arm.end"), jib.rear, joined_at(design, jib)
    sides = _sides(jib.arm.width, jib.bars)
    matched = "drill with B1" if jib.level == BY_BARS else "drill the pair together" if jib.bars > 1 else ""

    def arm(
        mark: str, name: str, start: float, length: float, marks: tuple[Mark, ...], datum: str, matched: str
    ) -> Part:
        return Part(
            mark,
            name,
            Bar.of(design.catalogue, jib.arm.id, length),
            tuple(Place(ARM, (start, y, 0.0)) for y in sides),
            marks,
            datum,
            matched,
        )

    marks = (*_weight_marks(design, jib), _hole(jib, end + rear, PIVOT_A), _hole(jib, end + rear + jib.front, PIN_D))
    if not joint:
        made = [arm("A1", "Arm", -rear - end, jib.front + rear + 2 * end, marks, "rear end", matched)]
    else:
        (near, far), whole, half = _sleeve_bolts(design, jib), end + rear + joint, design.number("arm.sleeve") / 2
        behind = tuple(
            sorted((*marks[:-1], *(_hole(jib, whole - at, SLEEVE) for at in (far, near))), key=lambda mark: mark.at)
        )
        ahead = tuple(
            sorted(
                (*(_hole(jib, at, SLEEVE) for at in (near, far)), _hole(jib, jib.front - joint, PIN_D)),
                key=lambda mark: mark.at,
            )
        )
        bolts = tuple(_hole(jib, at, SLEEVE) for at in (half - far, half - near, half + near, half + far))
        made = [
            arm("A1", "Arm, rear piece", -rear - end, whole, behind, "rear end", matched),
            arm("A2", "Arm, front piece", joint, jib.front - joint + end, ahead, "joint", matched),
            *_joiner(design, jib, joint - half, bolts),
        ]
    if jib.level == BY_BARS:
        bar = (_hole(jib, end, PIVOT_B), _hole(jib, end + jib.upper, PIN_C))
        made.append(
            Part(
                "B1",
                "Upper bar",
                Bar.of(design.catalogue, jib.bar.id, jib.upper + 2 * end),
                (Place(BAR, (-end, 0.0, 0.0)),),
                bar,
                "post end",
                "drill with A1",
            )
        )
    if jib.mast > 0:
        made.append(
            Part(
                "E1",
                "Stay mast",
                Bar.of(design.catalogue, MAST, jib.mast),
                (Place(ARM, along=UP, up=ALONG),),
                datum="lower end",
            )
        )
    return made


def _joiner(design: Design, jib: Jib, start: float, bolts: tuple[Mark, ...]) -> tuple[Part, ...]:
    """What joins the pieces of the arm: a tube or bar in each, or plates at the outer sides of all of it."""
    found = best_splice(design.catalogue, jib.arm, design.number("arm.sleeve") / 2)
    if found is None:
        return ()
    wide = jib.arm.width * jib.bars + found.stock.width
    sides = _sides(jib.arm.width, jib.bars) if found.inside else _sides(wide, 2)
    part = Part(
        "A3",
        "Sleeve in the arm" if found.inside else "Plate beside the arm's joint",
        Bar.of(design.catalogue, found.stock.id, 2 * found.overlap),
        tuple(Place(ARM, (start, y, 0.0)) for y in sides),
        bolts,
        "one end",
        "drill through both pieces of the arm",
    )
    return (part,)


def _weight_marks(design: Design, jib: Jib) -> tuple[Mark, ...]:
    """One hole, a row or a slot for the weights' pin."""
    end, near, step = design.number("arm.end"), design.number("weights.nearest"), design.number("weights.step")
    if near >= jib.rear:
        return (_hole(jib, end, WEIGHT),)
    if design.text("weights.carried") == HOLES:
        return tuple(
            _hole(jib, end + jib.rear - float(place), WEIGHT) for place in np.arange(near, jib.rear + 1e-9, step)[::-1]
        )
    return (Mark(end, "slot", jib.bolt.clear_normal, jib.rear - near + end, WEIGHT, fastening=WEIGHT),)


def _post_and_head(design: Design, jib: Jib) -> list[Part]:
    """Two cheeks hold the pivots, two uprights the mount."""
    arms, bars = jib.arm.width * jib.bars, jib.level == BY_BARS
    top = jib.pivots()[0] + jib.crown * jib.up
    down, ahead = (-float(jib.up[0]), 0.0, -float(jib.up[1])), (float(jib.up[1]), 0.0, -float(jib.up[0]))
    cheeks = tuple(
        Place(TURNING, (float(top[0]), y, float(top[1])), down, ahead) for y in _sides(arms + jib.post.width, 2)
    )
    upper = (_hole(jib, jib.crown - jib.spacing, PIVOT_B),) if bars else ()
    low, high = head_span(design, jib)
    uprights = tuple(Place(LEVEL, (0.0, y, low), UP, ALONG) for y in _sides(arms + jib.upright.width, 2))
    pins = (_hole(jib, -low, PIN_D), *((_hole(jib, jib.head_spacing - low, PIN_C),) if bars else ()))
    return [
        Part(
            "C1",
            "Post cheek",
            Bar.of(design.catalogue, jib.post.id, jib.post_length),
            cheeks,
            (*upper, _hole(jib, jib.crown, PIVOT_A)),
            "top end",
            "drill the pair together",
        ),
        Part(
            "D1",
            "Head upright",
            Bar.of(design.catalogue, jib.upright.id, high - low),
            uprights,
            pins,
            "lower end",
            "drill the pair together",
        ),
    ]


def head_span(design: Design, jib: Jib) -> tuple[float, float]:
    """How far the uprights go below and above the head pin: past every pin, and to the mount wherever it is [m]."""
    end, pins = design.number("arm.end"), jib.head_spacing if jib.level == BY_BARS else 0.0
    return min(-end, jib.mount[1]), max(pins + end, jib.mount[1])


def _sleeve_bolts(design: Design, jib: Jib) -> tuple[float, float]:
    """How far from the joint the inner and the outer bolt of each half of the sleeve sit [m]: two diameters from
    joint and sleeve's end.
    """
    half = design.number("arm.sleeve") / 2
    return min(2 * jib.bolt.d, half / 2), max(half - 2 * jib.bolt.d, half / 2)


# Bought or owned, with a place


def _things(design: Design, kit: Carried, jib: Jib, plates: list[Plate]) -> list[ReadyMade]:
    """All that is not cut, named as the bodies of the mechanism are."""
    number, (ahead, rise) = design.number, jib.mount
    cg = kit.payload.cg
    found = [
        ReadyMade(
            "camera kit",
            Block((0.14, 0.1, 0.1)),
            kit.payload.mass,
            "camera",
            (Place(LEVEL, (ahead + float(cg[0]), float(cg[1]), rise + float(cg[2]))),),
        ),
        ReadyMade("head", Block((0.08, 0.08, 0.02)), number("head.mass"), "steel", (Place(LEVEL, (ahead, 0.0, rise)),)),
    ]
    if jib.level == BY_CABLE:
        wheel, rope, front = number("cable.wheel_mass"), jib.cable.rope, jib.front
        found += [
            ReadyMade(
                "head wheel",
                Block((0.018, 2 * jib.cable.head, 2 * jib.cable.head), True),
                wheel,
                "wood",
                (Place(LEVEL, along=ACROSS),),
            ),
            ReadyMade(
                "post wheel",
                Block((0.018, 2 * jib.cable.post, 2 * jib.cable.post), True),
                wheel,
                "wood",
                (Place(TURNING, (0.0, 0.0, jib.height), ACROSS),),
            ),
            _rope(
                "cable",
                rope,
                (Place(ARM, (front / 2, 0.0, jib.cable.post)), Place(ARM, (front / 2, 0.0, -jib.cable.post))),
                front,
            ),
        ]
    if jib.mast > 0:
        rope = design.row("ropes", "stay.rope")
        for foot in (jib.front, -jib.rear):
            long = math.hypot(foot, jib.mast)
            found.append(
                _rope(
                    "stay cable",
                    rope,
                    (
                        Place(
                            ARM,
                            (foot / 2, 0.0, jib.mast / 2),
                            (foot / long, 0.0, -jib.mast / long),
                            (jib.mast / long, 0.0, foot / long),
                        ),
                    ),
                    long,
                )
            )
    found += _plates(design, jib, plates)
    foot, stand = jib.foot, jib.stand
    column = min(jib.height, stand.height_max)
    return [
        *found,
        ReadyMade(
            "weight pin",
            Block((0.2, jib.bolt.d, jib.bolt.d), True),
            number("weights.holder"),
            "steel",
            (Place(ARM, (-jib.place, 0.0, jib.above), ACROSS),),
        ),
        ReadyMade(
            "pan bearing",
            Block((max(jib.pan.height, 0.002), 0.14, 0.14), True),
            jib.pan.mass,
            "steel",
            (Place(TURNING, (0.0, 0.0, max(0.05, foot - jib.pan.height / 2)), UP, ALONG),),
        ),
        ReadyMade(
            "stand",
            Block((0.05, 0.05, 0.05)),
            stand.mass,
            "steel",
            (Place(FIXED, (0.0, 0.0, stand.cg_height * column)),),
        ),
        ReadyMade(
            "ballast", Block((0.2, 0.2, 0.24)), number("ballast.mass"), "weight", (Place(FIXED, (0.0, 0.0, 0.25)),)
        ),
    ]


def _plates(design: Design, jib: Jib, plates: list[Plate]) -> list[ReadyMade]:
    """Weights on their pin, the heaviest first, each on the side that pulls less; those that hang below it side by
    side.
    """
    hangs = design.text("weights.carried") == HANGING
    inside = 0.0 if hangs else jib.arm.width * jib.bars / 2 + CLEARANCE
    taken, pulls, found = {1.0: inside, -1.0: inside}, {1.0: 0.0, -1.0: 0.0}, []
    for plate in sorted(plates, key=lambda plate: -plate.mass):
        side = min(pulls, key=lambda one: (pulls[one], -one))
        y = side * (taken[side] + plate.thickness / 2)
        taken[side] += plate.thickness
        pulls[side] += plate.mass * abs(y)
        at = (
            Place(HUNG, (0.0, y, -HOOK - jib.plate_radius), ACROSS)
            if hangs
            else Place(ARM, (-jib.place, y, jib.above), ACROSS)
        )
        found.append(
            ReadyMade(
                "weights",
                Block((plate.thickness, 2 * plate.radius, 2 * plate.radius), True),
                plate.mass,
                "weight",
                (at,),
            )
        )
    return found


def _rope(name: str, rope: Rope, places: tuple[Place, ...], length: float) -> ReadyMade:
    return ReadyMade(name, Block((length, rope.d, rope.d), True), length * rope.density, "rope", places)


# Through the holes, and bought without a place


def _pin(jib: Jib, stack: float, note: str) -> Buy:
    """What turns in a pivot: a bolt as long as its stack, or a length of threaded rod with a nut at either end."""
    row = jib.bolt
    if not jib.rod:
        return bolt(row, stack, f", {jib.grade.name}", note)
    long = math.ceil((stack + 2 * row.lock_nut + 4 * row.pitch) * 1e3)
    note = note.removesuffix(", plain shank through the arm") + ", a lock nut at either end"
    return Buy(f"Threaded rod {row.id}, {long} mm", 1, round(row.price * 1.5 * long / 200, 2), note)


def _fastenings(design: Design, jib: Jib) -> tuple[Fastening, ...]:
    """Bolts as long as what they pass, with nuts, washers and faces to turn on."""
    row, face, stiff = jib.bolt, jib.bearing.face * 1e-3, f", {jib.grade.name}"
    across = max(jib.arm.width * jib.bars, jib.bar.width if jib.level == BY_BARS else 0.0)
    shims = 4 * (row.washer_t + face)
    nut, washer = (
        Buy(f"Lock nut {row.id}", 2 if jib.rod else 1, round(row.price * 0.25, 2), "one for the weight pin too"),
        Buy(f"Washer {row.id}", 2, round(row.price * 0.08, 2)),
    )
    turning = (Buy(f"{jib.bearing.name}, {row.id}", 2, jib.bearing.price, jib.bearing.words), washer)
    both = jib.level == BY_BARS
    at_post = _pin(
        jib,
        across + 2 * jib.post.width + shims,
        f"{'pivots A and B' if both else PIVOT_A}, plain shank through the arm",
    )
    at_head = _pin(jib, across + 2 * jib.upright.width + shims, "head pins C and D" if both else PIN_D)
    joiner = best_splice(design.catalogue, jib.arm, design.number("arm.sleeve") / 2)
    plates = 0.0 if joiner is None or joiner.inside else 2 * joiner.stock.width
    sleeved = bolt(row, jib.arm.width * jib.bars + plates + 2 * row.washer_t, stiff, SLEEVE)
    # A powered head is bolted fast to the arm: nothing turns there.
    return (
        Fastening(PIVOT_A, (at_post, nut, *turning)),
        Fastening(PIVOT_B, (at_post, nut, *turning)),
        Fastening(PIN_D, (at_head, nut, *(() if jib.level == BY_MOTOR else turning))),
        Fastening(PIN_C, (at_head, nut, *turning)),
        Fastening(
            WEIGHT,
            (
                Buy(
                    f"Threaded rod {row.id}, 200 mm{stiff}",
                    1,
                    round(row.price * 1.5, 2),
                    "weight pin, with two collars",
                ),
                nut,
                washer,
            ),
            one_of=True,
        ),
        Fastening(SLEEVE, (sleeved, nut)),
    )


def _loose(design: Design, kit: Carried, jib: Jib) -> tuple[Buy, ...]:
    """What has no hole and no place of its own."""
    found = [Buy(f"Camera screw {kit.socket_thread}", 1, 2.4)]
    if jib.stand.price:
        found.append(Buy(jib.stand.name, 1, jib.stand.price))
    if jib.pan.price:
        found.append(Buy(jib.pan.name, 1, jib.pan.price, jib.pan.words))
    if jib.level == BY_CABLE:
        run = math.ceil(2 * (jib.front + 0.4) * 10) / 10
        found += [
            Buy(
                f"{jib.cable.rope.name}, by the metre",
                math.ceil(run),
                jib.cable.rope.price,
                f"two runs, {run:.1f} m with the ends",
            ),
            Buy("Grooved wheel or turned disc", 2, 6.5, "both to one size"),
            Buy("Turnbuckle M6", 2, 3.2, "adjusters, one in each run"),
            Buy("Crimp sleeve with thimble", 4, 0.6),
        ]
    if jib.mast > 0:
        rope, long = design.row("ropes", "stay.rope"), math.hypot(jib.front, jib.mast) + math.hypot(jib.rear, jib.mast)
        found += [
            Buy(f"{rope.name}, by the metre", math.ceil(long + 0.6), rope.price, "stay to both ends"),
            Buy("Turnbuckle M6", 1, 3.2, "tightens the stay"),
        ]
    return (
        *found,
        Buy(
            "Webbing strap with buckle",
            1,
            4.5,
            f"parks the arm, {design.number('park.lever') * 1e3:.0f} mm ahead of the pivot",
        ),
    )


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
