"""Jibs by hand."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from tests.audit import by_hand
from tests.audit.by_hand import G
from tests.audit.rig import NOTCH, NUDGE, SHELF, Rig, Row, found

EVEN = 2e-3  # metres by which pivots of post and head may differ, so that the bars lie side by side
UPRIGHT = 0.02  # radians of a post within which its bars push as those of an upright one


def jib(r: Rig) -> Iterator[Row]:
    d, model = r.d, r.model
    arm = r.bar("arm.section")
    stuff, o = found(arm.material, d), by_hand.outline(arm)
    bars = 2 if d["arm.made"] == "pair" else 1
    front, place = d["arm.front"], d["weights.place"]
    bolt = SHELF.bolts[str(d["pin.bolt"])].clear_close
    placed = r.result.laid.placed
    head = sum(p.mass for p in placed if p.body == "level")
    names = ("weights", "weight pin")
    loads = [
        (p.mass, -place if p.body == "hung" else float(p.centre[0]), p.name)
        for p in placed
        if p.body in ("arm", "hung")
    ]
    # What hangs between both bars behind rises as its pin does.
    loads += [(p.mass, -place, p.name) for p in placed if p.body == "rear"]
    bar = [(p.mass, float(p.centre[0])) for p in placed if p.body == "bar"]
    held = sum(p.mass * float(p.centre[0]) for p in placed if p.body == "level") if r.rig.variant == "plain" else 0.0
    side = head * front + sum(m * x for m, x, name in loads if name not in names) + sum(m * x for m, x in bar) + held
    yield "balance.front", G * side, True
    yield "balance.rear", G * sum(m * -x for m, x, name in loads if name in names), True
    if (
        d["stay.mast"] == 0
        and d["arm.made"] in ("one", "pair")
        and model.limits.low <= 0 <= model.limits.high
        and abs(d["post.lean"]) < UPRIGHT
        and abs(d["pivot.spacing"] - d["head.spacing"]) < EVEN
    ):
        line = bars * stuff.density * o.area
        # The upper bar hangs on the head and the post, or on a rear upright too.
        long = front + (place if d["weights.carried"] == "upright" else 0.0)
        more, past = (sum(m for m, _ in bar) * part / long / 2 for part in (front, long - front))
        others = sum(m * x for m, x, name in loads if x > 0 and not name.startswith("Arm") and name not in names)
        moment = G * ((head + more) * front + line * front**2 / 2 + others)
        weights = past + sum(m for m, x, name in loads if name in names or (name == "Rear upright" and x < 0))
        behind = G * (weights * place + line * place**2 / 2)
        if r.rig.variant == "plain":
            # The powered head's own overhang turns the arm's end.
            moment += G * held
        walls = (
            2 * arm.dims["t"]
            if "tube" in arm.shape
            else arm.width
            if arm.shape in ("solid_round", "flat_bar")
            else arm.dims.get("t", arm.dims.get("t_web", arm.width))
        )
        net = bars * o.modulus * (1 - walls * bolt**3 / 12 / o.iy) / NOTCH[stuff.family]
        net = bars * o.modulus if d["post.made"] == "head" else net
        ahead = sum(p.mass * float(p.centre[0]) for p in placed if p.body == "level") * G
        thrust = abs(ahead) / d["pivot.spacing"] if r.rig.variant in ("two_bars", "riser") else 0.0
        pull = 2 * d["cable.tension"] if r.rig.variant == "cable" else 0.0
        yield (
            "rig.stress",
            1.5 * (max(moment, behind) / net + thrust / (bars * o.area)) + pull / (bars * o.area),
            True,
        )
    low, high = model.limits.low, model.limits.high
    feet = np.asarray(model.feet)

    def least(angles: np.ndarray, pans: np.ndarray) -> tuple[float, float, float]:
        """The least push at the lens that tips it, and the angle and pan where."""
        found = []
        for angle in angles:
            lens = max(0.1, float(model.lens_height(angle)))
            for pan in pans:
                stood = (by_hand.stands(feet, *r.weights(np.array([angle, pan]), camera)) for camera in (True, False))
                found.append((min(stood) / lens, float(angle), float(pan)))
        return min(found)

    coarse = np.append(np.linspace(low, high, 25), min(max(0.0, low), high))
    tips, angle, pan = least(coarse, np.linspace(0, 2 * math.pi, 72, endpoint=False))
    near = np.linspace(-1, 1, 9)
    tips = min(tips, least(np.clip(angle + near * (high - low) / 24, low, high), pan + near * math.radians(5))[0])
    wind = 0.5 * 1.225 * 1.2 * d["wind.area"] * d["wind.speed"] ** 2
    yield "balance.tips_at", tips - wind, False, NUDGE
