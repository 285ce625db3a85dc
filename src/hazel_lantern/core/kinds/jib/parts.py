"""Parts to cut, marks to drill, things to buy."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.catalogue import Bar
from hazel_lantern.core.finding import Remedy, Words
from hazel_lantern.core.kinds.base import Carried, Design, Made
from hazel_lantern.core.kinds.jib.design import HOLES
from hazel_lantern.core.kinds.jib.model import BY_BARS, BY_CABLE, FACES, MAST, Jib
from hazel_lantern.core.workshop.marks import Mark
from hazel_lantern.core.workshop.part import Buy, Part

BOLT_LENGTHS: tuple[int, ...] = (*range(10, 80, 5), 80, 90, 100, 110, 120, 130, 140, 150, 160, 180, 200)


def parts(design: Design, kit: Carried, jib: Jib) -> Made:
    """Everything this jib is made of, the stand and the weights excepted."""
    end, bolt = design.number("arm.end"), jib.bolt
    hole = bolt.clear_close

    def part(mark: str, name: str, bar: Bar, length: float, quantity: int = 1, **more) -> Part:  # type: ignore[no-untyped-def]
        material = design.catalogue.materials[bar.material]
        return Part(mark, name, bar.id, material.fill, length, bar.section().area * material.density * length, quantity, **more)

    made = [part(mark, name, jib.arm, length, jib.bars, marks=marks, datum=datum, matched=_matched(jib)) for mark, name, length, marks, datum in _arm(design, jib)]
    if jib.level == BY_BARS:
        bar_marks = (Mark(end, "hole", hole, note="pivot B"), Mark(end + jib.upper, "hole", hole, note="head pin C"))
        made.append(part("B1", "Upper bar", jib.bar, jib.upper + 2 * end, marks=bar_marks, datum="post end", matched="drill with A1"))
    top = jib.crown if jib.level != BY_BARS else 0.035
    upper = (Mark(top, "hole", hole, note="pivot B"),) if jib.level == BY_BARS else ()
    made.append(
        part("C1", "Post cheek", jib.post, jib.post_length, 2, marks=(*upper, Mark(jib.crown, "hole", hole, note="pivot A")), datum="top end", matched="drill the pair together")
    )
    rise = abs(jib.mount[1])
    head = (Mark(end, "hole", hole, note="head pin D"), *((Mark(end + jib.head_spacing, "hole", hole, note="head pin C"),) if jib.level == BY_BARS else ()))
    length = (max(jib.mount[1] + jib.head_spacing, jib.head_spacing) if jib.level == BY_BARS else rise) + 2 * end
    made.append(part("D1", "Head upright", jib.upright, length, 2, marks=head, datum="lower end", matched="drill the pair together"))
    if 0 < design.number("arm.joint") < jib.front:
        half, (near_bolt, far_bolt) = design.number("arm.sleeve") / 2, _sleeve_bolts(design, jib)
        sleeve = tuple(Mark(at, "hole", hole, note="sleeve") for at in (half - far_bolt, half - near_bolt, half + near_bolt, half + far_bolt))
        made.append(part("A3", "Sleeve over or in the arm", jib.arm, 2 * half, jib.bars, marks=sleeve, datum="one end", matched="drill through both pieces of the arm"))
    if jib.mast > 0:
        made.append(part("E1", "Stay mast", design.catalogue.sections[MAST], jib.mast, datum="lower end"))
    face = jib.bearing.face * 1e-3
    arm = max(jib.arm.width * jib.bars, jib.bar.width if jib.level == BY_BARS else 0.0)
    pivots, faces = FACES[jib.level] // 4, FACES[jib.level]
    long = _bolt_length(arm + 2 * jib.post.width + 4 * (bolt.washer_t + face), bolt.lock_nut + 2 * bolt.pitch)
    short = _bolt_length(arm + 2 * jib.upright.width + 4 * (bolt.washer_t + face), bolt.lock_nut + 2 * bolt.pitch)
    at_post, at_head = {BY_BARS: ("pivots A and B", "head pins C and D")}.get(jib.level, ("pivot A", "head pin D"))
    posts, heads = max(1, pivots), max(1, pivots)
    bought = [
        Buy(f"Bolt {bolt.id}×{long}, {jib.grade.name}", posts, round(bolt.price * (1 + long / 100), 2), f"{at_post}, plain shank through the arm"),
        Buy(f"Bolt {bolt.id}×{short}, {jib.grade.name}", heads, round(bolt.price * (1 + short / 100), 2), at_head),
        Buy(f"Lock nut {bolt.id}", posts + heads + 1, round(bolt.price * 0.25, 2), "one for the weight pin"),
        Buy(f"{jib.bearing.name}, {bolt.id}", faces, jib.bearing.price, jib.bearing.words),
        Buy(f"Washer {bolt.id}", faces + 2, round(bolt.price * 0.08, 2)),
        Buy(f"Threaded rod {bolt.id}, 200 mm", 1, round(bolt.price * 1.5, 2), "weight pin, with two collars"),
        Buy(f"Camera screw {kit.socket_thread}", 1, 2.4),
        *((Buy(jib.stand.name, 1, jib.stand.price),) if jib.stand.price else ()), *((Buy(jib.pan.name, 1, jib.pan.price, jib.pan.words),) if jib.pan.price else ()),
    ]  # fmt: skip
    if jib.level == BY_CABLE:
        run = math.ceil(2 * (jib.front + 0.4) * 10) / 10
        bought += [
            Buy(f"{jib.cable.rope.name}, by the metre", math.ceil(run), jib.cable.rope.price, f"two runs, {run:.1f} m with the ends"), Buy("Grooved wheel or turned disc", 2, 6.5, "both to one size"),
            Buy("Turnbuckle M6", 2, 3.2, "adjusters, one in each run"), Buy("Crimp sleeve with thimble", 4, 0.6),
        ]  # fmt: skip
    if jib.mast > 0:
        rope = design.row("ropes", "stay.rope")
        bought += [
            Buy(f"{rope.name}, by the metre", math.ceil(math.hypot(jib.front, jib.mast) + math.hypot(jib.rear, jib.mast) + 0.6), rope.price, "stay to both ends"),
            Buy("Turnbuckle M6", 1, 3.2, "tightens the stay"),
        ]
    if 0 < design.number("arm.joint") < jib.front:
        bought.append(Buy(f"Bolt {bolt.id}×{long}, {jib.grade.name}", 4 * jib.bars, round(bolt.price * (1 + long / 100), 2), "sleeve"))
    bought.append(Buy("Webbing strap with buckle", 1, 4.5, f"parks the arm, {design.number('park.lever') * 1e3:.0f} mm ahead of the pivot"))
    return Made(tuple(made), tuple(bought))


def _matched(jib: Jib) -> str:
    return "drill with B1" if jib.level == BY_BARS else "drill the pair together" if jib.bars > 1 else ""


def _arm(design: Design, jib: Jib) -> list[tuple[str, str, float, tuple[Mark, ...], str]]:
    """Mark, name, length, marks and datum of each piece of the arm."""
    end, bolt = design.number("arm.end"), jib.bolt
    near, rear = design.number("weights.nearest"), jib.rear
    carried, step = design.text("weights.carried"), design.number("weights.step")
    rear_marks: tuple[Mark, ...] = (Mark(end, "hole", bolt.clear_close, note="weight pin"),)
    if near < rear and carried == HOLES:
        holes = np.arange(near, rear + 1e-9, step)
        rear_marks = tuple(Mark(end + rear - float(place), "hole", bolt.clear_close, note="weight pin") for place in holes[::-1])
    elif near < rear:
        rear_marks = (Mark(end, "slot", bolt.clear_normal, rear - near + end, "weight pin"),)
    marks = (*rear_marks, Mark(end + rear, "hole", bolt.clear_close, note="pivot A"), Mark(end + rear + jib.front, "hole", bolt.clear_close, note="head pin D"))
    joint = design.number("arm.joint")
    if not 0 < joint < jib.front:
        return [("A1", "Arm", jib.front + rear + 2 * end, marks, "rear end")]
    near_bolt, far_bolt = _sleeve_bolts(design, jib)
    whole = end + rear + joint
    behind = (*marks[:-1], *(Mark(whole - at, "hole", bolt.clear_close, note="sleeve") for at in (far_bolt, near_bolt)))
    ahead = (*(Mark(at, "hole", bolt.clear_close, note="sleeve") for at in (near_bolt, far_bolt)), Mark(jib.front - joint, "hole", bolt.clear_close, note="head pin D"))
    pieces = (("A1", "Arm, rear piece", whole, behind, "rear end"), ("A2", "Arm, front piece", jib.front - joint + end, ahead, "joint"))
    return [(mark, name, length, tuple(sorted(holes, key=lambda hole: hole.at)), datum) for mark, name, length, holes, datum in pieces]


def joined(design: Design, jib: Jib, part: Part, sold: float) -> tuple[Remedy, ...]:
    """An arm longer than its stock made of two pieces over a sleeve, where both then fit the stock."""
    end, half = design.number("arm.end"), max(3 * jib.arm.depth, 0.15)
    lowest, highest = max(half + 2 * jib.bolt.d, jib.front + end - sold), min(jib.front - half - 2 * jib.bolt.d, sold - jib.rear - end)
    if part.mark != "A1" or lowest > highest:
        return ()
    joint = round(min(max(jib.front / 3, lowest), highest), 3)
    return (Remedy("joint", Words("Join it {} ahead of the pivot", ((joint, "m"),)), (("arm.joint", joint), ("arm.sleeve", round(2 * half, 3)))),)


def _sleeve_bolts(design: Design, jib: Jib) -> tuple[float, float]:
    """How far from the joint the inner and the outer bolt of each half of the sleeve sit [m]: two diameters from joint and sleeve's end."""
    half = design.number("arm.sleeve") / 2
    return min(2 * jib.bolt.d, half / 2), max(half - 2 * jib.bolt.d, half / 2)


def _bolt_length(stack: float, nut: float) -> int:
    """Shop length [mm] next above the stack, nut and two threads; what is needed where none sold reaches."""
    need = math.ceil((stack + nut) * 1e3)
    return min((length for length in BOLT_LENGTHS if length >= need), default=need)
