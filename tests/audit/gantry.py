"""Gantries by hand."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from tests.audit import by_hand
from tests.audit.by_hand import G
from tests.audit.rig import NUDGE, SHELF, Rig, Row, left


def gantry(r: Rig) -> Iterator[Row]:
    d, g = r.d, r.model
    span, length, base, edge = d["span"], d["runway.length"], d["bridge.wheelbase"], d["trolley.edge"]
    runway = r.bar("runway.section")
    stuff, o = SHELF.materials[runway.material], by_hand.outline(runway)
    posts = np.linspace(0.0, length, round(d["runway.posts"]))
    rests = [(float(x), math.inf, 0.0, True) for x in posts]
    ei, line = stuff.E * by_hand.upright(o), stuff.density * o.area * G
    laid = r.result.laid
    trucks = (laid.mass_on("bridge") - g.bridge.line * span) / 2 * G
    boom = r.bar("boom.section")
    own = SHELF.materials[boom.material].density * by_hand.outline(boom).area
    reach, tail, counter = d["boom.longest"], d["boom.tail"], d["boom.counter"]
    behind = max(tail + (0.03 if counter > 0 else 0.0), 0.03)
    tip = laid.mass_on("boom") - own * (reach + behind) - counter
    xs, tiny = np.linspace(base / 2, length - base / 2, 17), 5e-3
    mesh = [min(max(x + off, 0.0), length) for x in xs for off in (-tiny, 0.0, tiny)]
    still = by_hand.beam(length, ei, line, rests, (), spots=mesh)
    worst = {"post": 0.0, "least": math.inf, "runway": 0.0, "bridge": 0.0, "truck": math.inf, "end": 0.0}
    sets, at_x = [], []
    for x in xs:
        force = by_hand.beam(length, ei, 0.0, rests, ((x, 1.0),), spots=mesh)
        couple = by_hand.beam(
            length, ei, 0.0, rests, ((min(x + tiny, length), 0.5 / tiny), (max(x - tiny, 0.0), -0.5 / tiny)), spots=mesh
        )
        sets.append((force, couple))
        at_x.append(x)

    def slope(q: by_hand.Bent, x: float) -> float:
        return float((np.interp(x + tiny, q.x, q.drop) - np.interp(x - tiny, q.x, q.drop)) / (2 * tiny))

    for kit in (0.0, r.kit):
        head = tip - kit
        weight = G * (head + d["trolley.mass"] + own * (reach + behind) + counter)
        lever = G * (head * reach + own * reach**2 / 2 - counter * tail - own * behind**2 / 2)
        for y in np.linspace(edge, span - edge, 5):
            angle = np.linspace(0, 2 * math.pi, 72, endpoint=False)
            far = weight * y / span + lever * np.sin(angle) / span + g.bridge.line * span * G / 2
            near = weight + g.bridge.line * span * G - far
            twist = lever * np.cos(angle)
            at, self_ = near - g.bridge.line * span * G / 2, g.bridge.line * G
            inner = at * y + self_ * y * (span - y) / 2
            worst["bridge"] = max(
                worst["bridge"], float(np.abs(np.array([inner, inner + lever * np.sin(angle)])).max())
            )
            worst["end"] = max(worst["end"], float(near.max()) + trucks, float(far.max()) + trucks)
            for (force, couple), x in zip(sets, at_x, strict=True):
                slopes = [slope(force, x), slope(couple, x)]
                # What either runway takes of the twist, as both and the bridge turn together.
                lean = slopes[0] * (far - near)
                near_twist = (twist * (span - y) / g.bridge.gj + lean + slopes[1] * twist) / (
                    span / g.bridge.gj + 2 * slopes[1]
                )
                for end, turned in ((near + trucks, near_twist), (far + trucks, twist - near_twist)):
                    reactions = still.reactions + np.outer(end, force.reactions) + np.outer(turned, couple.reactions)
                    worst["post"], worst["least"] = (
                        max(worst["post"], float(reactions.max())),
                        min(worst["least"], float(reactions.min())),
                    )
                    worst["truck"] = min(worst["truck"], float((end / 2 - np.abs(turned) / base).min()))
                    inner_bending = (
                        still.sides[None] + end[:, None, None] * force.sides + turned[:, None, None] * couple.sides
                    )
                    worst["runway"] = max(worst["runway"], float(np.abs(inner_bending).max()))
    yield "balance.post", worst["post"], True
    yield "balance.least", worst["least"], False, worst["post"]
    yield "balance.truck", worst["truck"], False, worst["post"] / 2
    if (net := o.modulus if d["runway.is"] == "building" else left(runway, 0.0065, "top")) > 0:
        yield "rig.runway_stress", 1.5 * worst["runway"] / net, True
    whole = by_hand.outline(r.bar("bridge.section")).modulus if r.rig.variant == "bar" else None
    if whole:
        at_bolt = left(r.bar("bridge.section"), 0.009, "top")
        # The bolt is that far in from the bridge's end, which passes beside its runway.
        lever = runway.width / 2 + 0.004 + 0.03
        hung = 1.5 * worst["end"] * lever / at_bolt if at_bolt > 0 else math.inf
        yield "rig.stress", max(1.5 * worst["bridge"] / whole, hung), True
    push = max(20.0, 0.1 * tip * G)
    front = G * (tip * reach + own * reach**2 / 2) + push * d["camera.drop"]
    back = G * (counter * tail + own * behind**2 / 2)
    net = left(boom, 0.0105, "top")
    if net > 0:
        yield "rig.boom_stress", 1.5 * max(front, back) / net, True
    tips = math.inf
    rake = d["foot.rake"]
    feet = np.array([(x - length / 2, s * (span / 2 + rake)) for x in posts for s in (-1, 1)])
    for x in (base / 2, length / 2):
        for y in (edge, span / 2):
            for angle in np.arange(0, 2 * math.pi, math.pi / 12):
                for camera in (True, False):
                    stood = by_hand.stands(feet, *r.weights(np.array([x, y, angle, reach]), camera))
                    tips = min(tips, stood / d["runway.height"])
    yield "balance.tips_at", tips, False, NUDGE
