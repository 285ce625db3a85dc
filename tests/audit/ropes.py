"""Cable cams by another route: classical catenaries found by a general root finder, place by place, and plain sums."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any

import numpy as np
from scipy.optimize import brentq, root

from tests.helpers import SHELF

G = 9.80665
PLACES = np.linspace(0.02, 0.98, 41)
EXPANDS = {"wire7x7": 16e-6, "wire7x19": 16e-6, "hmpe": 12e-6, "aramid": 3e-6, "polyester": 0.0, "nylon": 0.0}
LEAVES = {"swaged": 0.9, "clips": 0.8, "splice": 0.9, "bowline": 0.65}


class Hang:
    """A carriage on a rope: ends, forces; the rope's elastic catenaries in their classical form."""

    def __init__(self, span: float, rise: float, w: float, ea: float) -> None:
        self.span, self.rise, self.w, self.ea = span, rise, max(w, 1e-7), ea

    def piece(self, h: float, v: float, long: float) -> tuple[float, float]:
        """Across and up of a piece that begins with a lift of v and pulls h across."""
        e = v + self.w * long
        x = h / self.w * (math.asinh(e / h) - math.asinh(v / h)) + h * long / self.ea
        return x, (math.hypot(h, e) - math.hypot(h, v)) / self.w + (v + self.w * long / 2) * long / self.ea

    def at(self, a: float, load: float, length: float | None = None, sag: float | None = None) -> dict[str, float]:
        """With the rope's length given, or found for a sag. Raises ArithmeticError where no root was found."""
        b, chord = self.span - a, math.hypot(self.span, self.rise)
        drop = sag if sag is not None else 0.03 * self.span
        heavy = load + self.w * chord / 2
        if length is not None:

            def taut(z: float) -> float:
                """What straight pieces without weight carry more than hangs on them, that far below the chord."""
                on = self.rise * a / self.span - z
                one, other = math.hypot(a, on), math.hypot(b, self.rise - on)
                return self.ea * ((one + other) / length - 1) * (-on / one + (self.rise - on) / other) - heavy

            drop = brentq(taut, 1e-9, 3 * chord + length)
        z = self.rise * a / self.span - drop
        s1, s2 = math.atan2(z, a), math.atan2(self.rise - z, b)
        way, kink = (s1 + s2) / 2, max((s2 - s1) / 2, 1e-6)
        pull = heavy * math.cos(way) / (2 * math.sin(kink))
        l1, l2 = math.hypot(a, z) / (1 + pull / self.ea), math.hypot(b, self.rise - z) / (1 + pull / self.ea)

        def off(u: np.ndarray) -> list[float]:
            t, th, p, q = math.exp(u[0]), u[1], u[2] * chord, u[3] * chord
            k = math.asin(min(0.99999, load * math.cos(th) / (2 * t)))
            h1, v1, h2, v2 = t * math.cos(th - k), t * math.sin(th - k), t * math.cos(th + k), t * math.sin(th + k)
            x1, z1 = self.piece(h1, v1 - self.w * p, p)
            x2, z2 = self.piece(h2, v2, q)
            last = p + q - length if length is not None else z1 - z
            return [(x1 - a) / chord, (x2 - b) / chord, (z1 + z2 - self.rise) / chord, last / chord]

        found = root(off, [math.log(pull), way, l1 / chord, l2 / chord], tol=1e-13)
        if not max(abs(v) for v in off(found.x)) < 1e-8:
            raise ArithmeticError("no root")
        t, th, p, q = math.exp(found.x[0]), found.x[1], found.x[2] * chord, found.x[3] * chord
        k = math.asin(load * math.cos(th) / (2 * t))
        h1, v1, h2, v2 = (
            t * math.cos(th - k),
            t * math.sin(th - k) - self.w * p,
            t * math.cos(th + k),
            t * math.sin(th + k) + self.w * q,
        )
        up = self.piece(h1, v1, p)[1]
        return {
            "height": up,
            "sag": self.rise * a / self.span - up,
            "ha": h1,
            "va": -v1,
            "hb": h2,
            "vb": v2,
            "way": th,
            "length": p + q,
            "pull": max(math.hypot(h1, v1), math.hypot(h2, v2)),
        }


def cable_cam(r: Any) -> Iterator[tuple[Any, ...]]:
    """Pulls and sags over the whole run, each at its own worst; ends, guys, strength, run and swing from plain sums."""
    d, stock = r.d, SHELF.lines[r.d["rope.line"]]
    span, rise = d["rope.span"], d["end.b"] - d["end.a"]
    chord = math.hypot(span, rise)
    ea = 1 / (1 / stock.ea + 2 / d["ends.stiffness"] / chord)
    twin = r.rig.variant == "twin"
    count = 2 if twin else 1
    sides = 1 if d["haul.by"] == "gravity" else 2
    line = SHELF.lines[d["haul.line"]]
    moving = d["carriage.mass"] + r.kit
    load = (moving + sides * line.mass * span / 2) * G / count
    hang = Hang(span, rise, stock.mass * G, ea)
    try:
        if d["rope.set"] == "sag":
            length = hang.at(span / 2, load, sag=d["rope.sag"])["length"]
        else:
            length = _bare(hang, d["rope.pull"])
        now = [hang.at(float(p) * span, load, length) for p in PLACES]
        speed = 0.5 * 1.225 * d["wind.speed"] ** 2
        windy = Hang(span, rise, math.hypot(stock.mass * G, speed * 1.2 * stock.d), ea)
        warm = EXPANDS[stock.sort] * d["weather.range"]
        times = 1.25 if d["haul.by"] == "loop" else 2.0
        heavy = math.hypot(times * load, speed * d["wind.area"] / count)
        worst = [windy.at(float(p) * span, heavy, length * (1 - warm)) for p in PLACES]
        longest = [hang.at(float(p) * span, load, length * (1 + warm + d["rope.creep"])) for p in PLACES]
    except (ArithmeticError, ValueError):
        return
    yield "balance.rope", length, False
    yield "balance.sag", now[20]["sag"], True
    yield "balance.pull", max(v["pull"] for v in now), True
    yield "balance.worst", max(v["pull"] for v in worst), True
    yield "balance.sag_longest", max(v["sag"] for v in longest), True
    if "balance.factor" in r.result.figures:
        bent = 1.0 if d["rope.eyes"] == "bowline" else 1 - 0.5 / math.sqrt(d["rope.over"] / stock.d)
        eye = (
            0.35
            if d["rope.eyes"] == "bowline" and stock.sort == "hmpe"
            else 0.5
            if d["rope.eyes"] == "bowline" and stock.sort == "aramid"
            else LEAVES[d["rope.eyes"]]
        )
        yield "balance.factor", min(eye, bent) * stock.breaking / max(v["pull"] for v in worst), False
    half = d["carriage.wheelbase"] / 2
    first, last = d["run.short_a"] + half, span - d["run.short_b"] - half
    try:
        grown = [hang.at(float(x), load, length * (1 + warm + d["rope.creep"])) for x in np.linspace(first, last, 25)]
    except (ArithmeticError, ValueError):
        return
    low = d["end.a"] + min(v["height"] for v in grown) - d["carriage.drop"] - 0.03
    yield "balance.low", low, False, 0.5
    line_pulls = _at_ends(d, r.result.figures["travel.line_pull"].value if d["haul.by"] != "gravity" else None)
    if line_pulls is not None:
        yield from _ends(d, worst, now, count, line_pulls)
    below = (r.kit * (d["carriage.drop"] - r.kit_at[2]) + d["carriage.mass"] * d["carriage.drop"] / 2) / moving
    length_l = max(below, 0.02)
    held = (
        count * now[20]["pull"] * d["carriage.wheelbase"] / (moving * length_l**2)
        if d["carriage.hang"] == "stiff"
        else 0.0
    )
    yield "travel.period", 2 * math.pi / math.sqrt(G / length_l + held), True
    try:
        soft, hard = (hang.at(span / 2, s * load, length)["sag"] for s in (0.99, 1.01))
    except (ArithmeticError, ValueError):
        return
    rate = count * 0.02 * load / (hard - soft)
    yield "travel.rate", rate, False
    yield "travel.bounce", math.sqrt(rate / (moving + count * stock.mass * span / 3)) / 2 / math.pi, False


def _bare(hang: Hang, pull: float) -> float:
    """Length of the rope alone that pulls so hard across."""
    chord = math.hypot(hang.span, hang.rise)

    def off(u: np.ndarray) -> list[float]:
        x, z = hang.piece(pull, u[1] * pull, u[0] * chord)
        return [(x - hang.span) / chord, (z - hang.rise) / chord]

    found = root(off, [1.0, hang.rise / hang.span - hang.w * chord / 2 / pull], tol=1e-13)
    if not max(abs(v) for v in off(found.x)) < 1e-8:
        raise ArithmeticError("no root")
    return float(found.x[0] * chord)


def _at_ends(d: dict[str, Any], hauled: float | None) -> float | None:
    """What the haul line pulls an end with besides."""
    if hauled is None:
        return None
    return max(2 * d["haul.tight"], hauled) if d["haul.by"] == "loop" else 2 * hauled


def _ends(
    d: dict[str, Any], worst: list[dict[str, float]], now: list[dict[str, float]], count: int, line: float
) -> Iterator[tuple[Any, ...]]:
    """Guys and posts by equilibrium in space, place by place."""
    slope = d["guy.slope"]
    for end in "ab":
        kind = d[f"anchor.{end}"]
        if kind == "tree":
            yield (
                f"balance.test_{end}",
                2 * max(math.hypot(count * v[f"h{end}"] + line, count * v[f"v{end}"]) for v in now),
                True,
            )
        if kind not in ("two_guys", "one_guy", "frame"):
            continue
        spread = d["guy.spread"] if kind == "two_guys" else 0.0
        ways = [
            np.array([math.cos(slope) * math.cos(spread), s * math.cos(slope) * math.sin(spread), -math.sin(slope)])
            for s in ((-1, 1) if spread else (0,))
        ]
        guys, presses = [], []
        for v in worst:
            out = sum(way[0] for way in ways)
            each = (count * v[f"h{end}"] + line) / out
            guys.append(each / (2 if kind == "two_guys" and not spread else 1))
            presses.append(count * v[f"v{end}"] - each * sum(way[2] for way in ways))
        yield f"balance.guy_{end}", max(guys), True
        yield f"balance.pressed_{end}", max(presses), True
