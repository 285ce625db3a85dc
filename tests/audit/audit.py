"""Whole designs taken at random and reckoned again by hand, without the program's mechanics: forces, bending and
stresses of every member, footing at every pose. `./hazel bench --audit [--seed N] [--count N] [KIND …]`.

What differs by more than a fiftieth is listed, and whether the program's answer is the unsafe one; what is beyond what
it may bear must be a stop.
"""

from __future__ import annotations

import argparse
import math
import os
import sys
import time
from collections import Counter
from collections.abc import Iterator, Mapping
from typing import Any

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

import numpy as np
from bench import designs
from msgspec.structs import replace

from hazel_lantern.core import catalogue
from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.catalogue import Material
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.editing import checking
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.kinds import DECLARED
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.finding import PEOPLE, STOP, STRUCTURE
from tests.audit import by_hand
from tests.audit.by_hand import G
from tests.audit.ropes import cable_cam

SHELF = catalogue.load()
DIFFERS = 0.02
NUDGE = 5.0  # newtons, the least push that is asked about
EVEN = 2e-3  # metres by which pivots of post and head may differ, so that the bars lie side by side
UPRIGHT = 0.02  # radians of a post within which its bars push as those of an upright one
FACTORS = {"A": (1.5, 2.0, 3.0), "B": (2.0, 2.5, 4.0), "C": (2.5, 3.0, 5.0), "D": (3.0, 4.0, 6.0), "E": (3.0, 4.0, 6.0)}
FAMILIES = ("ductile", "wood", "brittle")
NOTCH = {"ductile": 1.0, "wood": 1.0, "brittle": 2.5}

# A figure recomputed: its key, what comes out by hand, whether more of it is the dangerous side, and what a small
# difference of large forces is measured against.
Row = tuple[str, float, bool] | tuple[str, float, bool, float]


def allowed(key: str, letter: str) -> float:
    """What a material may be worked at [Pa]."""
    row = SHELF.materials[key]
    return row.long_load * row.strength / FACTORS[letter][FAMILIES.index(row.family)]


def found(key: str, d: Mapping[str, Any]) -> Material:
    """A material as stiff as a test of the built rig found it, as strong and heavy as before."""
    row, times = SHELF.materials[key], d["built.stiffness"]
    return replace(row, E=row.E * times, G=row.G * times)


class Rig:
    """A random design with what the builder set, and its pieces."""

    def __init__(self, project: Project, result: Evaluation) -> None:
        self.rig, self.result = project.rigs[0], result
        usual = {p.key: p.default for p in DECLARED[self.rig.kind].parameters}
        self.d, self.model = {**usual, **self.rig.design}, result.model
        items = project.kit_of(self.rig).items
        self.kit = sum(item.mass_kg for item in items)
        self.kit_at = sum((np.array(item.at_m) * item.mass_kg for item in items), np.zeros(3)) / self.kit
        self.letter = str(self.d["safety"])

    def bar(self, key: str) -> catalogue.StockSection:
        return SHELF.sections[str(self.d[key])]

    def weights(self, pose: np.ndarray, camera: bool) -> tuple[list[float], np.ndarray]:
        """Mass and place of every piece at a pose; the camera kit left out where it is off."""
        bodies = self.result.kind.bodies(self.model, pose[None])
        found = [p for p in self.result.laid.placed if camera or p.name.lower() != "camera kit"]
        return [p.mass for p in found], np.array([bodies[p.body].place(p.centre)[0] for p in found])


def left(bar: catalogue.StockSection, size: float, face: str) -> float:
    """Section modulus left at a hole [m^3]."""
    o, solid = by_hand.outline(bar), bar.shape in ("solid_round", "flat_bar")
    if face == "side":
        walls = (
            2 * bar.dims["t"]
            if "tube" in bar.shape
            else bar.width
            if solid
            else bar.dims.get("t", bar.dims.get("t_web", bar.width))
        )
        return o.modulus * (1 - walls * size**3 / 12 / o.iy) if size < bar.depth else 0.0
    if solid or "tube" in bar.shape:
        wall = bar.depth / 2 if solid else bar.dims["t"]
        return o.modulus * (1 - size * (bar.depth**3 - max(bar.depth - 2 * wall, 0.0) ** 3) / 12 / o.iy)
    return o.modulus * (1 - size / bar.width)


# Sliders and overhead rails


def rails(r: Rig) -> Iterator[Row]:
    d, bar, slider = r.d, r.bar("rail.section"), "support" in r.d
    stuff, o = found(bar.material, d), by_hand.outline(bar)
    twin = r.rig.variant not in ("grooved", "trolley", "shuttle")
    slides = r.rig.variant == "shuttle"
    wheel = SHELF.wheels[str(d["carriage.wheel"])]
    count, length, slope = 2 if twin else 1, d["rail.length"], d["rail.slope"]
    base = d["shuttle.guide"] if slides else d["carriage.wheelbase"]
    margin = base / 2 + (0.0 if slides else wheel.d / 2)
    heading, mount = d["camera.heading"], np.array([d["camera.ahead"], d["camera.aside"], d["camera.rise"]])
    cos, sin = math.cos(heading), math.sin(heading)
    turned = np.array([r.kit_at[0] * cos - r.kit_at[1] * sin, r.kit_at[0] * sin + r.kit_at[1] * cos, r.kit_at[2]])
    carriage, total = d["carriage.mass"], d["carriage.mass"] + r.kit
    cg = (carriage * mount / 2 + r.kit * (mount + turned)) / total
    weight = total * G
    square, down = weight * math.cos(slope), weight * math.sin(slope)
    shift = (square * cg[0] - down * cg[2]) / base
    front, rear = square / 2 + shift, square / 2 - shift
    if slider:
        inset = d["support.inset"]
        rests = {
            "tripod": [(length / 2, math.inf, d["head.stiffness"], True)],
            "two": [(inset, math.inf, 0.0, True), (length - inset, math.inf, 0.0, True)],
            "table": [(inset, math.inf, 0.0, False), (length - inset, math.inf, 0.0, False)],
        }[d["support"]]
    else:
        spots = np.linspace(d["support.inset"], length - d["support.inset"], round(d["hanger.count"]))
        rests = [(float(x), d["hanger.stiffness"], 0.0, True) for x in spots]
    ei, line = count * stuff.E * by_hand.upright(o), count * stuff.density * o.area * G * math.cos(slope)
    ga = count * stuff.G * o.area * bar.section().shear
    takes = 1.0
    if d.get("rail.base") == "board" and twin:
        # Two layers whose screws slip: half-way between loose and glued, by Eurocode 5.
        ply, wide = found("plywood", d), d["rail.spacing"] + bar.width + 0.04
        screw = 2 * 1000 * math.sqrt(ply.density) * ply.density * 5 / 23
        pulls, pushes, apart = 2 * stuff.E * o.area, ply.E * wide * 0.018, (bar.depth + 0.018) / 2
        holds = pulls / (1 + math.pi**2 * pulls * 0.2 / (screw * length**2))
        up_by = apart * pushes / (holds + pushes)
        own = ei
        ei += ply.E * wide * 0.018**3 / 12 + holds * up_by**2 + pushes * (apart - up_by) ** 2
        line += ply.density * wide * 0.018 * G * math.cos(slope)
        ga += ply.G * wide * 0.018 * 5 / 6
        takes = own / ei * (1 + holds / pulls * up_by / (bar.depth / 2))
    joints = r.model.way.joints
    hinges = (
        [(x, count * joints.splice.stiffness if joints.splice else 0.0) for x in joints.cuts] if joints.sound else []
    )
    drilled = [
        (place.at[0] + mark.at, mark.size, mark.face)
        for part in r.result.parts
        if part.name.startswith("Rail")
        for place in part.places
        for mark in part.marks
        if mark.size and mark.face in ("top", "side")
    ]
    low, high = margin, length - margin
    most, holes, up, lift, pitch = 0.0, np.zeros(len(drilled)), 0.0, math.inf, 0.0
    joint = 0.0
    for x in np.linspace(low, high, 51):
        q = by_hand.beam(
            length,
            ei,
            line,
            rests,
            ((x + base / 2, front), (x - base / 2, rear)),
            ga=ga,
            hinges=hinges,
            spots=[at for at, *_ in drilled],
        )
        most, up, lift = max(most, q.bending.max()), max(up, q.reactions.max()), min(lift, q.reactions.min())
        holes = np.maximum(holes, [q.at(at) for at, *_ in drilled])
        joint = max([joint, *(q.at(at) for at, _ in hinges)])
        pitch = max(pitch, abs(np.interp(x + base / 2, q.x, q.drop) - np.interp(x - base / 2, q.x, q.drop)) / base)
    share = 1.0 if not twin else 0.5 + abs(cg[1]) / d["rail.spacing"]
    notch = NOTCH[stuff.family]
    at_holes = [
        m * notch / (z if (z := left(bar, size, face)) > 0 else 1e-12)
        for m, (_, size, face) in zip(holes, drilled, strict=True)
    ]
    yield "rig.stress", 1.2 * share * takes * max([most / o.modulus, *at_holes]), True
    yield "travel.pitch", pitch, True
    if joints.splice and joints.sound:
        yield "rig.joint_stress", 1.2 * share * joint / joints.splice.modulus, True
    if not slider and share > 1:  # beside both rails: the nearer bears more than all, the other is pushed up
        up, lift = up * share, min(lift, (1 - share) * up)
    yield ("balance.carried", up / G, True) if slider and d["support"] != "table" else ("balance.hanger", up, True)
    if not slider:
        yield "balance.hanger_up", lift, False, up
        yield "balance.anchor", 8 * math.hypot(up, total * d["push.brake"]), True
    if not slides:
        yield "balance.pressed", wheels(r, cg, mount, twin, wheel), True
    if slider:
        yield from slider_stands(r, (low, high), cg)


def wheels(r: Rig, cg: np.ndarray, mount: np.ndarray, twin: bool, wheel: catalogue.Wheel) -> float:
    """The most a wheel is pressed with: the least loads of all that balance, which equal springs take."""
    d, lone = r.d, r.rig.variant == "grooved"
    spread, base = (d["rail.spacing"] if twin else d["carriage.gauge"]) / 2, d["carriage.wheelbase"] / 2
    at = [(base, spread), (-base, spread), *([(0.0, -spread)] if lone else [(base, -spread), (-base, -spread)])]
    total, slope = d["carriage.mass"] + r.kit, d["rail.slope"]
    cos, sin = math.cos(d["camera.heading"]), math.sin(d["camera.heading"])
    lens = (
        r.model.way.lens
        if False
        else mount + np.array([*(np.array([[cos, -sin], [sin, cos]]) @ r.lens[:2]), r.lens[2]])
    )
    most = 0.0
    for stop in (1, -1):
        for push in (1, -1):
            forces = [
                (
                    np.array(
                        [
                            -total * G * math.sin(slope) - stop * total * d["push.brake"],
                            0.0,
                            -total * G * math.cos(slope),
                        ]
                    ),
                    cg,
                ),
                (np.array([0.0, push * d["push.side"], 0.0]), lens),
            ]
            wanted = [
                -sum(f[2] for f, _ in forces),
                sum(p[2] * f[0] - p[0] * f[2] for f, p in forces),
                sum(p[2] * f[1] - p[1] * f[2] for f, p in forces),
            ]
            rows = np.array([[1.0] * len(at), [x for x, _ in at], [y for _, y in at]])
            most = max(most, float(np.abs(np.linalg.lstsq(rows, np.array(wanted), rcond=None)[0]).max()))
    return most if wheel.shape in ("grooved", "caster") or lone else most / (2 * math.cos(d["pair.angle"]))


def slider_stands(r: Rig, ends: tuple[float, float], cg: np.ndarray) -> Iterator[Row]:
    """Footing and the push at the lens, carriage at either end, camera on and off, from the pieces."""
    d, slope, length = r.d, r.d["rail.slope"], r.d["rail.length"]
    places = [length / 2] if d["support"] == "tripod" else [d["support.inset"], length - d["support.inset"]]
    if d["support"] == "table":
        half = d["table.width"] / 2
        feet = np.array([((x - length / 2) * math.cos(slope), y) for x in places for y in (half, -half)])
    else:
        legs = SHELF.stands[str(d["stand"])].legs
        around = d["stand.turn"] + 2 * math.pi * np.arange(legs) / legs
        own = d["stand.radius"] * np.column_stack([np.cos(around), np.sin(around)])
        feet = np.vstack([own + ((x - length / 2) * math.cos(slope), 0.0) for x in places])
    tips = math.inf
    placed, total = r.result.laid.placed, d["carriage.mass"] + r.kit
    for x in ends:
        bodies = r.result.kind.bodies(r.model, np.array([[x]]))
        still = [(p.mass, bodies[p.body].place(p.centre)[0]) for p in placed if p.body == "floor"]
        rail = [(p.mass, bodies["rail"].place(p.centre)[0]) for p in placed if p.body == "rail"]
        mass = sum(m for m, _ in rail)
        still += [
            (mass, sum((m * at for m, at in rail), np.zeros(3)) / mass),
            (d["ballast.mass"], np.array([0.0, 0.0, 0.2])),
        ]
        bare = [(p.mass, p.centre) for p in placed if p.body == "carriage" and p.name != "Camera kit"]
        off = sum((m * at for m, at in bare), np.zeros(3)) / sum(m for m, _ in bare)
        high = max(0.1, d["rail.height"] + (x - length / 2) * math.sin(slope) + r.model.way.lens[2] * math.cos(slope))
        for load, centre in ((total, cg), (sum(m for m, _ in bare), off)):
            found = [*still, (load, bodies["carriage"].place(centre)[0])]
            stood = by_hand.stands(feet, [m for m, _ in found], [at for _, at in found])
            tips = min(tips, stood / high)
    yield "balance.tips_at", tips, False, NUDGE


# Gantries


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


# Jibs


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


# Dollies


PIPED, LONE = ("pipe", "arc", "three", "frame"), ("three", "frame")
HANDLE = math.pi / 4 * (0.0269**2 - 0.0217**2) * 7850.0  # kilograms a metre


def dolly(r: Rig) -> Iterator[Row]:
    """Bending of the track on ties that only push, either pipe by itself under three corners; tipping over the wheels;
    on the floor what it swings at and how far it rocks.
    """
    d, variant = r.d, r.rig.variant
    if variant == "arc":  # straight along its outer pipe
        d = r.d = {**d, "rail.length": _outer(r), "rail.slope": 0.0}
    wheel, stand = SHELF.wheels[str(d["carriage.wheel"])], SHELF.stands[str(d["stand"])]
    slope, gauge, framed = d["rail.slope"], d["rail.spacing"], variant == "frame"
    base = 2 / math.sqrt(3) * gauge if framed else d["carriage.wheelbase"]
    depth = r.bar("rail.section").depth if variant in PIPED else 0.0
    if variant in PIPED:
        top = (depth + wheel.d) / 2 * math.sqrt(0.5) - depth / 2 + wheel.d / 2 + 0.002 + 0.018
    else:
        top = 0.018 + (wheel.d + 0.012 if variant == "floor" else max(wheel.d / 2 + 0.055, wheel.d + 0.005))
    aside = gauge / 6 if variant in LONE else 0.0
    bodies, lens = _on_deck(r, stand, top, aside, base, framed=framed)
    total = sum(m for m, _ in bodies)
    cg = sum((m * at for m, at in bodies), np.zeros(3)) / total
    weight = total * G * math.cos(slope)
    shift = (weight * cg[0] - total * G * math.sin(slope) * cg[2]) / base
    feet = [(base / 2, gauge / 2), (-base / 2, gauge / 2)]
    feet += [(0.0, -gauge / 2)] if variant in LONE else [(base / 2, -gauge / 2), (-base / 2, -gauge / 2)]
    if variant in PIPED:
        yield from _on_pipe(r, variant, base, gauge, cg, weight, shift)
        yield (
            "rig.over_tie",
            depth / 2 * (1 + math.sqrt(2)) - (depth / 2 + wheel.width / 2) * math.sqrt(0.5),
            False,
            0.02,
        )
    else:
        each = wheel.gives or 2e6
        yield "travel.bounce", math.sqrt(4 * each / total) / (2 * math.pi), False
        nods = sum(m * ((at - cg)[0] ** 2 + (at - cg)[2] ** 2) for m, at in bodies)
        yield "travel.nods", math.sqrt(each * base**2 / nods) / (2 * math.pi), False
        lightest = total * G * max(0.0, 0.25 - abs(cg[0]) / (2 * base) - abs(cg[1]) / (2 * gauge))
        yield "travel.rocks", max(0.0, d["floor.uneven"] - 4 * lightest / each), True, 1e-3
    # By hand: the foot of the weight moved back until it meets an edge, a hundredth at a time and then less.
    plumb = G * math.cos(slope)
    found = []
    for way in (1.0, -1.0):
        low, high = 0.0, 200.0
        for _ in range(60):
            a = (low + high) / 2
            foot = np.array([cg[0] - cg[2] * (math.tan(slope) + way * a / plumb), cg[1]])
            low, high = (a, high) if by_hand.stands(np.array(feet), [1.0], [foot]) > 0 else (low, a)
        found.append(low)
    yield "balance.tips_from", min(found), False
    level = [(m, at - np.array([at[2] * math.tan(slope), 0.0, 0.0])) for m, at in bodies]
    yield (
        "balance.tips_at",
        by_hand.stands(np.array(feet), [m for m, _ in level], [at for _, at in level]) / max(0.1, lens[2]),
        False,
        NUDGE,
    )


def _outer(r: Rig) -> float:
    """Length of the outer pipe of an arc."""
    d, half = r.d, r.d["rail.spacing"] / 2
    if d["bend.by"] == "chord":
        chord, rise = d["bend.chord"], d["bend.rise"]
        radius = (chord**2 / 4 + rise**2) / (2 * rise)
        reach = math.asin(min(1.0, chord / 2 / radius))
        return (radius + half) * 2 * (reach if rise <= radius else math.pi - reach)
    radius = d["bend.radius"]
    if d["bend.by"] == "distance":
        radius = r.model.bend.radius  # a test of its own puts the lens on its circle
    return d["rail.length"] / radius * (radius + half)


def _on_deck(
    r: Rig, stand: catalogue.Stand, top: float, aside: float, base: float, *, framed: bool
) -> tuple[list[tuple[float, np.ndarray]], np.ndarray]:
    """All that rolls, masses and places; the lens."""
    d = r.d
    middle = np.array([0.0, aside, 0.0])
    own = np.zeros(3) if framed else np.array([d["camera.ahead"], d["camera.aside"], 0.0])
    mount = middle + own + np.array([0.0, 0.0, d["camera.rise"]])
    cos, sin = math.cos(d["camera.heading"]), math.sin(d["camera.heading"])
    spun = np.array([[cos, -sin, 0.0], [sin, cos, 0.0], [0.0, 0.0, 1.0]])
    high = 0.0 if framed else d["handle.height"]
    handle = HANDLE * (2 * high + 0.36 + 2 * math.hypot(0.45 * high, 0.35)) if high else 0.0
    handle = min(handle, d["carriage.mass"])
    bodies = [
        (d["carriage.mass"] - handle, middle + (0.0, 0.0, top - 0.009)),
        (handle, middle + (-base / 2, 0.0, top + 0.6 * high)),
        (d["ballast.mass"], middle + (0.0, 0.0, top + 0.08)),
        (r.kit, mount + spun @ r.kit_at),
    ]
    if framed or d["camera.on"] == "tripod":
        bodies.append((stand.mass, np.array([*mount[:2], top + stand.cg_height * (mount[2] - top)])))
    if not framed and d["rider"] != "nobody":
        bodies.append((d["rider.mass"], middle + (0.0, 0.0, top + (0.45 if d["rider"] == "sits" else 0.95))))
    return bodies, mount + spun @ r.lens


def _on_pipe(
    r: Rig, variant: str, base: float, gauge: float, cg: np.ndarray, weight: float, shift: float
) -> Iterator[Row]:
    """Both pipes as one, or each by itself."""
    d, bar = r.d, r.bar("rail.section")
    stuff, o, length = found(bar.material, d), by_hand.outline(bar), d["rail.length"]
    joints = r.model.way.joints
    spliced = joints.cuts if joints.sound and joints.splice else ()
    single = weight * (0.5 - cg[1] / gauge) if variant in LONE else 0.0
    pair = (base / 2, weight / 2 - single / 2 + shift), (-base / 2, weight / 2 - single / 2 - shift)
    pipes = ((1, pair), (1, ((0.0, single),))) if variant in LONE else ((2, pair),)
    share = 1.0 if variant in LONE else 0.5 + abs(cg[1]) / gauge
    margin = base / 2 + SHELF.wheels[str(d["carriage.wheel"])].d / 2
    bent = variant == "arc"  # its ties stand at angles
    places = (
        list(r.model.ties) if bent else [p.at[0] for part in r.result.parts if part.name == "Tie" for p in part.places]
    )
    most = pitch = joint = heaviest = 0.0
    for count, loads in pipes:
        rests = [(x, count / 2 * d["ground.stiffness"], 0.0, d["tie.held"] == "pegged") for x in places]
        hinges = [(x, count * joints.splice.stiffness) for x in spliced]
        ei, ga = count * stuff.E * by_hand.upright(o), count * stuff.G * o.area * bar.section().shear
        line = count * stuff.density * o.area * G * math.cos(d["rail.slope"])
        heaviest = max([heaviest, *(load * share for _, load in loads)])
        for x in np.linspace(margin, length - margin, 101):
            q = by_hand.beam(length, ei, line, rests, tuple((x + at, load) for at, load in loads), ga=ga, hinges=hinges)
            most, joint = max(most, q.bending.max()), max([joint, *(q.at(at) for at, _ in hinges)])
            if len(loads) > 1:
                dips = [np.interp(x + at, q.x, q.drop) for at, _ in loads]
                pitch = max(pitch, abs(dips[0] - dips[1]) / base)
    # At the holes for tie screws the pipe bends less than beside them: what is told may only be more.
    if r.result.figures["rig.stress"].value < 1.2 * share * most / o.modulus * (1 - DIFFERS):
        yield "rig.stress", 1.2 * share * most / o.modulus, True
    yield "travel.pitch", pitch, True
    if spliced:
        yield "rig.joint_stress", 1.2 * share * joint / joints.splice.modulus, True
    span = max(np.diff(places)) ** 3 / (91.5 if len(places) > 3 else 48)
    yield "travel.wave", heaviest * span / (stuff.E * by_hand.upright(o)), True


# Orbit rigs


def orbit(r: Rig) -> Iterator[Row]:
    """What turns, piece by piece from the inputs: balance, wobble, tip, energy, the camera's pull;
    then what carries it."""
    d = r.d
    front, rear, riser = d["arm.front"], d["arm.rear"], d["riser.height"]
    bar, rises, shaft = (r.bar(f"{name}.section") for name in ("arm", "riser", "shaft"))
    hung = r.rig.variant != "desk" and d["hub.carried"] == "hung"
    beam = _arms_high(r, bar, hung=hung)
    inner = 0.012 + (0.0 if hung and r.rig.variant == "ring" else shaft.width / 2)
    line, up = (SHELF.materials[s.material].density * by_hand.outline(s).area for s in (bar, rises))
    side = -1.0 if d["camera.looks"] == "inward" else 1.0
    # A plate lies on a riser that stands; one that hangs passes beside the camera, 100 mm wide with its room.
    tall = abs(riser) + bar.depth / 2 - (0.018 if riser > 0 else 0.0) if abs(riser) > bar.depth else 0.0
    middle = beam + (math.copysign(tall / 2 - bar.depth / 2, riser) if tall else 0.0)
    packed = max(0.0, 0.053 - bar.width / 2) if riser < -bar.depth else 0.0
    out = max(0.0, bar.width / 2 + packed + rises.width - 0.05) if tall else 0.0
    plate = SHELF.materials["plywood"].density * 0.1 * (0.1 + out) * 0.018
    camera = [
        (r.kit, np.array([front + side * r.kit_at[0], side * r.kit_at[1], beam + riser + r.kit_at[2]])),
        (up * tall, np.array([front, (bar.width + rises.width) / 2 + packed, middle])),
        (plate, np.array([front, out / 2, beam + riser - 0.009])),
        (line * (front + 0.03 - inner), np.array([(front + 0.03 + inner) / 2, 0.0, beam])),
    ]
    count = {"one": 1, "two": 2, "three": 3, "four": 4}[d["camera.count"]]
    turns = [(m, _spun(at, 2 * math.pi * k / count)) for k in range(count) for m, at in camera]
    if count == 1:
        turns += [
            (line * (rear + 0.03 - inner), np.array([-(rear + 0.03 + inner) / 2, 0.0, beam])),
            (d["weights.mass"], np.array([-rear, 0.0, beam + d["weights.above"]])),
        ]
    off = sum((m * at[:2] for m, at in turns), np.zeros(2))
    yield "balance.off", math.hypot(*off), True, 0.01
    w = r.result.figures["travel.fastest"].value
    hub = sum((m * (G + w * w * (at[2] - beam)) * at[:2] for m, at in turns), np.zeros(2))
    yield "balance.wobble", math.hypot(*hub), True, 0.05
    inertia = sum(m * float(at[0] ** 2 + at[1] ** 2) for m, at in turns)
    yield "balance.energy", inertia * (1.1 * w) ** 2 / 2, True
    block = (d["weights.mass"] / 7200) ** (1 / 3)
    yield "balance.tip_speed", 1.1 * w * max(front + 0.08, rear + block / 2 if count == 1 else 0.0), True
    hub11 = math.hypot(*sum((m * (G + (1.1 * w) ** 2 * (at[2] - beam)) * at[:2] for m, at in turns), np.zeros(2)))
    pull = (1.1 * w) ** 2 * math.hypot(*off)
    carried = _hung_orbit if hung else _framed_orbit if r.rig.variant == "desk" else _standing_orbit
    yield from carried(r, turns, beam, w, hub11, pull)


def _spun(at: np.ndarray, turn: float) -> np.ndarray:
    cos, sin = math.cos(turn), math.sin(turn)
    return np.array([cos * at[0] - sin * at[1], sin * at[0] + cos * at[1], at[2]])


def _arms_high(r: Rig, bar: catalogue.StockSection, *, hung: bool) -> float:
    if r.rig.variant == "desk":
        return r.d["frame.height"] - r.d["frame.drop"]
    if r.rig.variant == "shaft":
        return r.d["beam.height"]
    ring = SHELF.turntables[str(r.d["hub.ring"])].height + 0.006 + bar.depth / 2
    return r.d["hung.height"] - 0.018 - ring if hung else 0.02 + r.bar("base.section").depth + ring


Turns = list[tuple[float, np.ndarray]]


def _knock(r: Rig, weight: float) -> float:
    return max(0.1 * weight, r.d["bump.least"] or (5.0 if r.letter == "A" else 20.0))


def _standing_orbit(r: Rig, turns: Turns, beam: float, w: float, hub11: float, pull: float) -> Iterator[Row]:
    """Base at every angle, shaft and feet."""
    d, shaft, foot = r.d, r.bar("shaft.section"), r.bar("base.section")
    floor = sum((m * (G + w * w * at[2]) * at[:2] for m, at in turns), np.zeros(2))
    count = 4 if d["base.feet"] == "four" else 3
    out = d["base.radius"]
    stands = 1.2 + d["base.mass"] + count * out * SHELF.materials[foot.material].density * by_hand.outline(foot).area
    stands += (
        SHELF.materials[shaft.material].density * by_hand.outline(shaft).area * (d["table.height"] - 0.038 - foot.depth)
    )
    stands += (
        12 * math.sin(math.pi / 12) * d["table.radius"] ** 2 * 0.018 * SHELF.materials["plywood"].density
        + d["table.load"]
    )
    weight = G * (stands + sum(m for m, _ in turns))
    yield "rig.mass", weight / G, True
    if math.hypot(*floor) > 1e-6:
        yield "balance.base", weight * out * math.cos(math.pi / count) / math.hypot(*floor), False
    around = [(out * math.cos(a), out * math.sin(a)) for a in 2 * math.pi * np.arange(count) / count + math.pi / count]
    high, tips = max(0.1, beam + d["riser.height"] + r.lens[2]), math.inf
    for turn in np.linspace(0, 2 * math.pi, 360, endpoint=False):
        places = [_spun(at, turn) for _, at in turns]
        stood = by_hand.stands(np.array(around), [*(m for m, _ in turns), stands], [*places, np.zeros(3)])
        tips = min(tips, stood / high)
    yield "balance.tips_at", tips, False, NUDGE
    knock = _knock(r, weight)
    foot_moment = hub11 + pull * beam + knock * max(beam + d["riser.height"] + r.lens[2], d["table.height"])
    on_shaft = knock * d["table.height"] if r.rig.variant == "ring" else foot_moment
    yield "rig.shaft_stress", 1.5 * on_shaft / by_hand.outline(shaft).modulus, True
    load = weight / count + foot_moment / out
    yield "rig.foot_stress", 1.5 * load * out / by_hand.outline(foot).modulus, True
    yield "balance.twist", d["base.grip"] * weight * out / 1.5, False


def _hung_orbit(r: Rig, turns: Turns, beam: float, w: float, hub11: float, pull: float) -> Iterator[Row]:
    """Anchors and the shaft it hangs on."""
    d, shaft = r.d, r.bar("shaft.section")
    ring = r.rig.variant == "ring"
    drop = 0.0 if ring else d["hung.height"] - 0.018 - beam
    steel = SHELF.materials[shaft.material]
    board = SHELF.materials["plywood"].density * 0.018 * 0.09
    weight = G * (sum(m for m, _ in turns) + 1.2 + board + steel.density * by_hand.outline(shaft).area * drop)
    yield "rig.mass", weight / G, True
    knock, lens = _knock(r, weight), beam + d["riser.height"] + r.lens[2]
    tilts = hub11 + pull * (d["hung.height"] - beam) + knock * (d["hung.height"] - min(lens, beam))
    yield "balance.anchor_pull", weight / 4 + 1.5 * tilts / 0.4, True
    if not ring:
        bends = hub11 + pull * drop + knock * (drop + max(0.0, beam - lens))
        yield "rig.hub_shaft_stress", 1.5 * bends / by_hand.outline(shaft).modulus, True


def _framed_orbit(r: Rig, turns: Turns, beam: float, w: float, hub11: float, pull: float) -> Iterator[Row]:
    """The frame's footing at every angle, and each bend of pipe and post summed up from its loads."""
    d, pipe = r.d, r.bar("frame.section")
    line = SHELF.materials[pipe.material].density * by_hand.outline(pipe).area
    clamped, reach, height = d["frame.held"] == "clamped", d["frame.reach"], d["frame.height"]
    way = np.array([math.cos(d["frame.turned"]), math.sin(d["frame.turned"])])
    aside = np.array([-way[1], way[0]])
    back, front, half = (
        (reach - 0.05, reach - d["desk.deep"] + 0.05, d["desk.wide"] / 2 - 0.05)
        if clamped
        else (reach, reach - d["frame.legs"], d["frame.wide"] / 2)
    )
    feet = np.array([x * way + s * half * aside for x in (back, front) for s in (-1, 1)])
    still = [
        (1.2, np.array([0, 0, beam])),
        (line * reach, np.append(reach / 2 * way, height)),
        (line * height, np.append(reach * way, height / 2)),
        (d["base.mass"], np.append(reach * way, 0.05)),
    ]
    if clamped:
        still.append((d["desk.mass"] + d["table.load"], np.append((reach - d["desk.deep"] / 2) * way, 0.0)))
    else:
        still.append((2 * line * d["frame.legs"], np.append(feet.mean(axis=0), 0.05)))
        still.append((line * d["frame.wide"], np.append(reach * way, 0.1)))
    high, tips = max(0.1, beam, beam + d["riser.height"] + r.lens[2]), math.inf
    fast = 1.1 * w
    total = sum(m for m, _ in [*turns, *still])
    for turn in np.linspace(0, 2 * math.pi, 720, endpoint=False):
        places = [_spun(at, turn) for _, at in turns]
        # What is pulled outwards at a height tips as the same weight further out would.
        out = [np.append(at[:2] * (1 + fast * fast * at[2] / G), at[2]) for at in places]
        stood = by_hand.stands(feet, [*(m for m, _ in turns), *(m for m, _ in still)], [*out, *(at for _, at in still)])
        tips = min(tips, stood / high)
    yield "balance.tips_at", tips, False, NUDGE
    mass = sum(m for m, _ in turns) + 1.2
    own = (
        line * (reach + height)
        + d["base.mass"]
        + SHELF.materials[r.bar("shaft.section").material].density
        * by_hand.outline(r.bar("shaft.section")).area
        * (d["frame.drop"] - pipe.depth / 2)
    )
    own += 0.0 if clamped else line * (2 * d["frame.legs"] + d["frame.wide"])
    knock = _knock(r, G * (mass + own))
    foot = d["table.height"] if clamped else 0.0
    lens = beam + d["riser.height"] + r.lens[2]
    low = height - min(lens, beam)
    pipe_root = G * (mass * reach + line * reach**2 / 2)
    side = knock + pull
    bends = [
        pipe_root + hub11 + side * low,
        math.sqrt(pipe_root**2 + (side * reach) ** 2 + 0.75 * (side * low + hub11) ** 2),
    ]
    yield "rig.pipe_stress", 1.5 * max(bends) / by_hand.outline(pipe).modulus, True
    along = pipe_root + hub11 + side * max(lens - foot, beam - foot)
    over = math.hypot(pipe_root, hub11 + side * (height - foot))
    yield (
        "rig.post_stress",
        1.5 * max(along, math.sqrt(over**2 + 0.75 * (side * reach) ** 2)) / by_hand.outline(pipe).modulus,
        True,
    )
    assert total > 0


BY_KIND = {
    "slider": rails,
    "overhead": rails,
    "gantry": gantry,
    "jib": jib,
    "dolly": dolly,
    "orbit": orbit,
    "cable_cam": cable_cam,
}


def audited(kind: str, variant: str, seed: int) -> tuple[list[str], list[str]] | None:
    """What differs and what is silent of one design; None where it is none, or cannot be built."""
    project = designs.design(SHELF, kind, variant, seed, (designs.NEAR, designs.WITHIN)[seed % 2])
    try:
        checking.check(project)
        result = evaluate(project, SHELF, project.rigs[0].id)
    except HazelError:
        return None
    if result.model is None or any(f.key in ("rig.impossible", "rig.too_soft") for f in result.findings):
        return None
    rig = Rig(project, result)
    rig.lens = np.asarray(project.kit_of(rig.rig).lens_at_m)
    differs = []
    for key, by_hand_value, more, *against in BY_KIND[kind](rig):
        if key not in result.figures:
            continue
        said = result.figures[key].value
        scale = max(abs(by_hand_value), abs(said), 1e-9, *against)
        if abs(said - by_hand_value) > DIFFERS * scale:
            unsafe = said < by_hand_value if more else said > by_hand_value
            differs.append(f"{key} {said:.6g}, by hand {by_hand_value:.6g}{' UNSAFE' if unsafe else ''}")
    bears = {f.figure: f.limit for f in result.findings}
    wrong = [
        f"{figure} is held against {bears[figure]:.4g}, by hand {limit:.4g}"
        for figure, limit in limits(rig)
        if figure in bears and abs(bears[figure] - limit) > 1e-6 * limit
    ]
    return differs, [*silent(result), *wrong]


def limits(r: Rig) -> Iterator[tuple[str, float]]:
    """What main members may be worked at, by the figure that is held against it [Pa]."""
    overhead = r.rig.kind in ("gantry", "overhead")
    letter = "D" if overhead else r.letter
    for figure, key in (
        ("rig.stress", "rail.section"),
        ("rig.stress", "arm.section"),
        ("rig.runway_stress", "runway.section"),
        ("rig.boom_stress", "boom.section"),
    ):
        if key in r.d:
            yield figure, allowed(r.bar(key).material, letter)
    if r.rig.kind == "gantry" and r.rig.variant == "bar":
        yield "rig.stress", allowed(r.bar("bridge.section").material, letter)


def silent(result: Evaluation) -> list[str]:
    """Stresses that no finding judges, and limits passed that are no stop."""
    judged = {f.figure for f in result.findings}
    found = [
        f"{key} is judged by nobody"
        for key, figure in result.figures.items()
        if figure.unit == "Pa" and key not in judged
    ]
    for f in result.findings:
        beyond = f.value > f.limit * (1 + 1e-9) if f.sense == "at_most" else f.value < f.limit * (1 - 1e-9)
        if f.unit == "Pa" and f.about in (STRUCTURE, PEOPLE) and beyond and f.state != STOP:
            found.append(f"{f.key} is beyond its limit and {f.state}")
    return found


def main(args: list[str] | None = None) -> int:
    parser = argparse.ArgumentParser(prog="audit", description=__doc__)
    parser.add_argument("--audit", action="store_true", help=argparse.SUPPRESS)
    parser.add_argument("kinds", nargs="*", help="of " + ", ".join(BY_KIND))
    parser.add_argument("--seed", type=int, default=0)
    parser.add_argument("--count", type=int, default=300, help="designs a kind")
    chosen = parser.parse_args(args)
    bad = 0
    for kind in chosen.kinds or list(BY_KIND):
        variants = [v for k, v in designs.constructions() if k == kind]
        done, off, unsafe, quiet, keys, started = 0, 0, 0, 0, Counter(), time.perf_counter()
        seed = chosen.seed
        while done < chosen.count:
            found = audited(kind, variants[seed % len(variants)], seed)
            seed += 1
            if found is None:
                continue
            done += 1
            differs, silences = found
            off += bool(differs)
            unsafe += any(text.endswith("UNSAFE") for text in differs)
            quiet += bool(silences)
            keys.update(text.split(" ")[0] + (" UNSAFE" if text.endswith("UNSAFE") else "") for text in differs)
            for text in [*differs, *silences]:
                print(f"{kind} {variants[(seed - 1) % len(variants)]} seed {seed - 1}: {text}")
        print(
            f"{kind}: {done} designs, {off} differ by more than 2 %, {unsafe} on the unsafe side, {quiet} silent; "
            f"{time.perf_counter() - started:.0f} s"
        )
        print("   ", dict(keys))
        bad += off > chosen.count / 50 or unsafe > 0 or quiet > 0
    return int(bad > 0)


if __name__ == "__main__":
    sys.exit(main())
