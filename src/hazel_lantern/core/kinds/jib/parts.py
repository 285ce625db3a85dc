"""Parts to cut, marks to drill, things to buy."""

from __future__ import annotations

import math

from hazel_lantern.core.catalogue import Bar
from hazel_lantern.core.kinds.base import Context
from hazel_lantern.core.kinds.jib.model import Jib
from hazel_lantern.core.workshop.marks import Mark
from hazel_lantern.core.workshop.part import Buy, Part

BOLT_LENGTHS: tuple[int, ...] = (*range(10, 80, 5), 80, 90, 100, 110, 120, 130, 140, 150, 160, 180, 200)


def parts(context: Context, jib: Jib) -> tuple[tuple[Part, ...], tuple[Buy, ...]]:
    """Everything this jib is made of, the stand and the weights excepted."""
    end, bolt = context.number("arm.end"), jib.bolt
    hole, slot = bolt.clear_close, bolt.clear_normal
    near, rear = context.number("weights.nearest"), jib.rear
    camera = context.number("head.rise") + jib.head_spacing

    def part(mark: str, name: str, bar: Bar, length: float, quantity: int = 1, **more) -> Part:  # type: ignore[no-untyped-def]
        material = context.catalogue.materials[bar.material]
        return Part(mark, name, bar.id, material.fill, length, bar.section().area * material.density * length, quantity, **more)

    arm_marks = (
        *((Mark(end, "slot", slot, rear - near + end, "weight pin"),) if near < rear else (Mark(end, "hole", hole, note="weight pin"),)),
        Mark(end + rear, "hole", hole, note="pivot A"),
        Mark(end + rear + jib.front, "hole", hole, note="head pin D"),
    )
    bar_marks = (Mark(end, "hole", hole, note="pivot B"), Mark(end + jib.upper, "hole", hole, note="head pin C"))
    cheek = context.number("post.length")
    top = 0.035
    cheek_marks = (Mark(top, "hole", hole, note="pivot B"), Mark(top + jib.spacing, "hole", hole, note="pivot A"))
    upright = max(camera, jib.head_spacing) + 2 * end
    head_marks = (Mark(end, "hole", hole, note="head pin D"), Mark(end + jib.head_spacing, "hole", hole, note="head pin C"))
    made = (
        part("A1", "Arm", jib.arm, jib.front + rear + 2 * end, marks=arm_marks, datum="rear end", matched="drill with B1"),
        part("B1", "Upper bar", jib.bar, jib.upper + 2 * end, marks=bar_marks, datum="post end", matched="drill with A1"),
        part("C1", "Post cheek", jib.post, cheek, 2, marks=cheek_marks, datum="top end", matched="drill the pair together"),
        part("D1", "Head upright", jib.upright, upright, 2, marks=head_marks, datum="lower end", matched="drill the pair together"),
    )
    face = jib.bearing.face * 1e-3
    long = _bolt_length(max(jib.arm.width, jib.bar.width) + 2 * jib.post.width + 4 * (bolt.washer_t + face), bolt.lock_nut + 2 * bolt.pitch)
    short = _bolt_length(max(jib.arm.width, jib.bar.width) + 2 * jib.upright.width + 4 * (bolt.washer_t + face), bolt.lock_nut + 2 * bolt.pitch)
    bought = (
        Buy(f"Bolt {bolt.id}×{long}, {jib.grade.name}", 2, round(bolt.price * (1 + long / 100), 2), "pivots A and B, plain shank through the arm"),
        Buy(f"Bolt {bolt.id}×{short}, {jib.grade.name}", 2, round(bolt.price * (1 + short / 100), 2), "head pins C and D"),
        Buy(f"Lock nut {bolt.id}", 5, round(bolt.price * 0.25, 2), "one for the weight pin"),
        Buy(f"{jib.bearing.name}, {bolt.id}", 8, jib.bearing.price, jib.bearing.words),
        Buy(f"Washer {bolt.id}", 10, round(bolt.price * 0.08, 2)),
        Buy(f"Threaded rod {bolt.id}, 200 mm", 1, round(bolt.price * 1.5, 2), "weight pin, with two collars"),
        Buy("Camera screw 1/4-20", 1, 2.4),
        *((Buy(jib.stand.name, 1, jib.stand.price),) if jib.stand.price else ()),
    )
    return made, bought


def _bolt_length(stack: float, nut: float) -> int:
    """Shop length [mm] next above the stack, nut and two threads; what is needed where none sold reaches."""
    need = math.ceil((stack + nut) * 1e3)
    return min((length for length in BOLT_LENGTHS if length >= need), default=need)
