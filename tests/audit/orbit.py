"""Orbit rigs by hand."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from hazel_lantern.core import catalogue
from tests.audit import by_hand
from tests.audit.by_hand import G
from tests.audit.rig import NUDGE, SHELF, Rig, Row


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
