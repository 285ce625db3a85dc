"""The pins of a jib: their holes, what they pass, what they are bought as."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.catalogue import Bolt
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.jib.constructions import room_in_yoke
from hazel_lantern.core.kinds.jib.design import BETWEEN, YOKE
from hazel_lantern.core.kinds.jib.model import BY_BARS, BY_CABLE, BY_MOTOR, Jib
from hazel_lantern.core.kinds.shared.splices import best_splice
from hazel_lantern.core.nouns.units import INCH
from hazel_lantern.core.workshop.fasteners import bolt
from hazel_lantern.core.workshop.marks import Mark
from hazel_lantern.core.workshop.part import Buy, Fastening

PIVOT_A, PIVOT_B, PIN_C, PIN_D, REAR_E, REAR_F, WEIGHT, SLEEVE = (
    "pivot A",
    "pivot B",
    "head pin C",
    "head pin D",
    "rear pin E",
    "rear pin F",
    "weight pin",
    "sleeve",
)
POST_UP, POST_DOWN, HEAD_UP, HEAD_DOWN = "post cable up", "post cable down", "head cable up", "head cable down"
WEIGHT_PIN = 0.2  # metres of threaded rod
WEIGHT_PIN_IN = 8 * INCH
WHEEL_WIDE, WHEEL_CLEAR = (
    0.018,
    0.002,
)  # metres of a cable's wheel, and of the washer between it and what it is screwed to


def hole(jib: Jib, at: float, fastening: str, note: str = "") -> Mark:
    """A hole for one of the pins, at a place [m]."""
    return Mark(at, "hole", jib.bolt.clear_close, note=note or fastening, fastening=fastening)


def sleeve_bolts(design: Design, jib: Jib) -> tuple[float, float]:
    """How far from the joint the inner and the outer bolt of each half of the sleeve sit [m]: two diameters from
    joint and sleeve's end.
    """
    half = design.number("arm.sleeve") / 2
    return min(2 * jib.bolt.d, half / 2), max(half - 2 * jib.bolt.d, half / 2)


class Stack(Struct, frozen=True):
    """What a pin passes at the post, at the head and at a rear upright [m]."""

    post: float
    head: float

    @classmethod
    def of(cls, design: Design, jib: Jib) -> Stack:
        """A washer under head and nut; a face to turn on at either side of what turns."""
        washers, faces = 2 * jib.bolt.washer_t, 2 * jib.bearing.face * 1e-3
        if jib.held == BETWEEN:
            wide = max(jib.arm.width, jib.bar.width if jib.level == BY_BARS else 0.0)
            both = jib.post.width + 2 * wide + washers + faces
            return cls(both, both)
        across = max(jib.arm.width * jib.bars, jib.bar.width if jib.level == BY_BARS else 0.0)
        tip = jib.end_wide if jib.tip else across
        post = across + jib.cheeks * jib.post.width + faces
        if jib.held == YOKE:
            channel = design.row("sections", "post.section")
            post = room_in_yoke(channel) + 2 * jib.post.width
        if jib.level == BY_CABLE and not jib.cable.pins:  # the wheels of the cable sit on the pins, outside
            washers += WHEEL_WIDE + WHEEL_CLEAR
        return cls(post + washers, tip + jib.cheeks * jib.upright.width + washers + faces)


def fastenings(design: Design, jib: Jib) -> tuple[Fastening, ...]:
    """Bolts as long as what they pass, with nuts, washers and faces to turn on."""
    row, stack = jib.bolt, Stack.of(design, jib)
    nut = Buy(f"Lock nut {row.id}", 2 if jib.rod else 1, round(row.price * 0.25, 2), "one for the weight pin too")
    washer = Buy(f"Washer {row.id}", 2, round(row.price * 0.08, 2))
    turning = (Buy(f"{jib.bearing.name}, {row.id}", 2, jib.bearing.price, jib.bearing.words), washer)
    both = jib.level == BY_BARS
    post = f"{'pivots A and B' if both else PIVOT_A}, plain shank through the arm"
    at_post, at_head = (_pin(jib, stack.post, post), _pin(jib, stack.head, "head pins C and D" if both else PIN_D))
    at_rear = _pin(jib, stack.head, "rear pins E and F")
    cables = tuple(
        Fastening(key, (_pin(jib, long, "pins of the levelling cables"), nut, washer))
        for key, long in (
            (POST_UP, stack.post),
            (POST_DOWN, stack.post),
            (HEAD_UP, stack.head),
            (HEAD_DOWN, stack.head),
        )
    )
    # A powered head is bolted fast to the arm: nothing turns there.
    return (
        Fastening(PIVOT_A, (at_post, nut, *turning)),
        Fastening(PIVOT_B, (at_post, nut, *turning)),
        Fastening(PIN_D, (at_head, nut, *((washer,) if jib.level == BY_MOTOR else turning))),
        Fastening(PIN_C, (at_head, nut, *turning)),
        Fastening(REAR_E, (at_rear, nut, *turning)),
        Fastening(REAR_F, (at_rear, nut, *turning)),
        *cables,
        Fastening(WEIGHT, (*_weight_pin(jib), nut, washer), one_of=True),
        Fastening(SLEEVE, (_sleeved(design, jib), nut, washer)),
    )


def _weight_pin(jib: Jib) -> tuple[Buy, Buy]:
    """A length of threaded rod, and what keeps the weights on it."""
    row, inch = jib.bolt, jib.bolt.system == "in"
    long = f"{WEIGHT_PIN_IN / INCH:.0f} in" if inch else f"{WEIGHT_PIN * 1e3:.0f} mm"
    rod = Buy(f"Threaded rod {row.id}, {long}{_grade(jib)}", 1, round(row.price * 1.5, 2), "weight pin")
    return rod, Buy(f"Collar {row.id} with its screw", 2, round(row.price * 0.9, 2), "keeps the weights where they are")


def _grade(jib: Jib) -> str:
    return f", {jib.grade.name}"


def _sleeved(design: Design, jib: Jib) -> Buy:
    """A bolt through the arm's joint."""
    joiner = None if jib.tip else best_splice(design.catalogue, jib.arm, design.number("arm.sleeve") / 2)
    plates = 0.0 if joiner is None or joiner.inside else 2 * joiner.stock.width
    return bolt(jib.bolt, jib.arm.width * jib.bars + plates + 2 * jib.bolt.washer_t, _grade(jib), SLEEVE)


def _pin(jib: Jib, stack: float, note: str) -> Buy:
    """What turns in a pivot: a bolt as long as its stack, or a length of threaded rod with a nut at either end."""
    row: Bolt = jib.bolt
    if not jib.rod:
        return bolt(row, stack, _grade(jib), note)
    long = math.ceil((stack + 2 * row.lock_nut + 4 * row.pitch) * 1e3)
    note = note.removesuffix(", plain shank through the arm") + ", a lock nut at either end"
    return Buy(f"Threaded rod {row.id}, {long} mm", 1, round(row.price * 1.5 * long / 200, 2), note)
