"""Dollies by hand."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from hazel_lantern.core import catalogue
from tests.audit import by_hand
from tests.audit.by_hand import G
from tests.audit.rig import DIFFERS, NUDGE, SHELF, Rig, Row, found

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
        edge = max(wheel.d / 2, (wheel.d + wheel.width) / 2 * math.sqrt(0.5))
        top = (depth + wheel.d) / 2 * math.sqrt(0.5) - depth / 2 + edge + 0.002 + 0.018
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
