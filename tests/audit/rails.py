"""Sliders and overhead rails by hand."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from hazel_lantern.core import catalogue
from tests.audit import by_hand
from tests.audit.by_hand import G
from tests.audit.rig import NOTCH, NUDGE, SHELF, Rig, Row, found, left


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
