"""A drive drawn as it is, to scale, turned as far as it is at a moment of the move,
with speed and torque of every shaft."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.document import drives as d
from hazel_lantern.core.driving.driven import Broken, Driven
from hazel_lantern.core.driving.piece import Disc, Made
from hazel_lantern.core.motion.gears import Gear, tooth
from hazel_lantern.core.nouns.sketch import Item, Lines, Note, Ring, Shape, Sketch, Stroke, box_outline
from hazel_lantern.core.nouns.words import Words

CHAIN = "chain."
DIRECTION = math.pi  # from a wheel back to the one that drives it
TOOTH = 2.25  # of the module, how deep a tooth is
HEAD = 1.0  # of the module, above the pitch circle
FILLS = {d.WORM: "steel", d.CHAIN: "steel", d.RACK: "steel"}
FINE = 5e-5  # metres that a drawn tooth may stray
LOOSE = 0.07  # metres, the smallest drawing
COLUMNS = 5  # of words side by side; more stand in two rows


class Shaft(Struct, frozen=True):
    """A shaft as it is drawn: where it is [m], its angle now [rad], its name, turns of the source for one of it, and
    what efficiency lies between.
    """

    at: float
    angle: float
    name: str
    ratio: float
    lost: float


def chain_views(found: tuple[Driven | Broken, ...]) -> tuple[tuple[str, str], ...]:
    """A drawing for every axis that wheels drive."""
    several = len(found) > 1
    return tuple(
        (f"{CHAIN}{one.axis.key}", f"{one.axis.name} drive" if several else "Drive")
        for one in found
        if isinstance(one, Driven) and one.made
    )


def chain_drawing(found: tuple[Driven | Broken, ...], view: str, share: float) -> Sketch | None:
    """One of them at a share of the move; None where that axis has none."""
    given = next(
        (one for one in found if isinstance(one, Driven) and one.made and view == f"{CHAIN}{one.axis.key}"), None
    )
    if given is None:
        return None
    shafts = shafts_of(given, share)
    items: list[Item] = [*_source(given, shafts[0])]
    for n, one in enumerate(given.made):
        items += _element(one, shafts[n], shafts[n + 1] if one.second is not None else None)
    last = given.last
    end = shafts[-1]
    if last is not None and last.gives == d.WAY:
        items += _way(last, end, _way_now(given, share))
    elif given.axis.turns:
        items += _arm(given, end)
    reach = max((disc.radius for one in given.made for disc in (one.first, one.second) if disc), default=LOOSE / 2)
    for shaft in shafts:
        items.append(Ring((shaft.at, 0.0), max(0.003, 0.012 * reach), "pivot"))
    left = -max(0.035, given.source.motor.length if given.source.motor else 0.05) - 0.01
    right = max(end.at + max(reach * 1.2, 0.04), left + LOOSE)
    high = 1.12 * reach + 0.01
    foot = _words(given, shafts, share, (left, right, high), items)
    return Sketch(
        tuple(items), (left, foot, right, high * 1.25), f"Drive of the {given.axis.name.lower()}", ground=False
    )


def shafts_of(given: Driven, share: float) -> tuple[Shaft, ...]:
    """Every shaft where it stands, turned as far as the move has turned it."""
    load = given.load
    # What turns is drawn about the middle of all that it can do, so that a sector's teeth stand where they are cut.
    middle = sum(given.held.span) / 2 if given.axis.turns else float(load.at[0])
    moved = float(np.interp(share, load.u, load.at)) - middle
    angle, at, ratio, lost = moved * given.chain.per_output, 0.0, 1.0, 1.0
    found = [Shaft(at, angle, _source_name(given), 1.0, 1.0)]
    for one in given.made:
        if one.second is None:
            continue
        at += one.apart
        ratio *= one.stage.ratio
        lost *= one.stage.efficiency
        angle = angle / one.stage.ratio * (1.0 if one.same_way else -1.0)
        found.append(Shaft(at, angle, d.SORTS[one.kind].name, ratio, lost))
    return tuple(found)


def _source_name(given: Driven) -> str:
    return "Crank" if given.drive.source in (d.CRANK, d.REEL) else "Motor"


def _source(given: Driven, shaft: Shaft) -> list[Item]:
    """The motor from the side behind its shaft, or the crank turned as it is."""
    motor = given.source.motor
    if motor is None:
        radius = given.settings.number("radius")
        grip = (radius * math.cos(shaft.angle), radius * math.sin(shaft.angle))
        return [Stroke(np.array([(0.0, 0.0), grip]), "steel", 0.01), Ring(grip, 0.009, "weight")]
    half = motor.size / 2
    body = box_outline((-motor.length, 0.0), (-0.2 * motor.length, 0.0), motor.size)
    neck = box_outline((-0.2 * motor.length, 0.0), (0.0, 0.0), max(motor.shaft * 2, half * 0.8))
    return [
        Shape(body, "steel"),
        Shape(neck, "aluminium"),
        Stroke(np.array([(0.0, 0.0), (0.004, 0.0)]), "steel", motor.shaft),
    ]


def _element(one: Made, first: Shaft, second: Shaft | None) -> list[Item]:
    """Both wheels of an element; a belt or chain round them."""
    fill = FILLS.get(one.kind, "aluminium")
    if second is None:
        return [
            Shape(_wheel(one.first, first.angle) + (first.at, 0.0), fill),
            *_holes(one.first, first.angle, first.at),
        ]
    assert one.second is not None
    turned = second.angle
    if one.first.teeth and not one.same_way:
        # Put together with a tooth of one in the gap of the other.
        turned += DIRECTION + math.pi / one.second.teeth
    gears = (one.mesh.first, one.mesh.second) if one.mesh else (None, None)
    large = _toothed(gears[1], one.second, turned) if gears[1] else _wheel(one.second, turned)
    small = _toothed(gears[0], one.first, first.angle) if gears[0] else _wheel(one.first, first.angle)
    items: list[Item] = [Shape(large + (second.at, 0.0), one.fill or fill), *_holes(one.second, turned, second.at)]
    items.append(Shape(small + (first.at, 0.0), one.fill or fill))
    if one.same_way:
        items += _round_both(one.first.radius, one.second.radius, first.at, second.at)
    return items


def _toothed(made: Gear, disc: Disc, angle: float) -> np.ndarray:
    """A cut gear as it is cut (n, 2), about its own middle [m]; of a sector its teeth and its hub."""
    one, pitch = tooth(made, FINE), 2 * math.pi / made.teeth
    count = made.teeth if not disc.sweep else round(disc.sweep / pitch)
    turns = angle + pitch * (np.arange(count) - count // 2 * bool(disc.sweep))
    cos, sin = np.cos(turns)[:, None], np.sin(turns)[:, None]
    x, y = one.T
    rim = np.stack([cos * x - sin * y, sin * x + cos * y], axis=2).reshape(-1, 2)
    return np.vstack([rim, _hub(disc, angle)]) if disc.sweep else rim


def _hub(disc: Disc, angle: float) -> np.ndarray:
    """Behind the teeth of a sector, round its pivot."""
    ends = angle + math.pi + np.linspace(-math.pi / 2, math.pi / 2, 13)
    return np.asarray(0.16 * disc.radius * np.column_stack([np.cos(ends), np.sin(ends)]))


def _wheel(disc: Disc, angle: float) -> np.ndarray:
    """The outline (n, 2) of a wheel that is bought, about its own middle [m]: its teeth in brief, or a circle."""
    if not disc.teeth:
        around = angle + np.linspace(0, 2 * math.pi, 73)[:-1]
        return disc.radius * np.column_stack([np.cos(around), np.sin(around)])
    module = 2 * disc.radius / disc.teeth
    root, tip = disc.radius - (TOOTH - HEAD) * module, disc.radius + HEAD * module
    pitch = 2 * math.pi / disc.teeth
    around = (angle + pitch * np.arange(disc.teeth)[:, None] + pitch * np.array([-0.33, -0.13, 0.13, 0.33])).ravel()
    radii = np.tile([root, tip, tip, root], disc.teeth)
    return np.column_stack([radii * np.cos(around), radii * np.sin(around)])


def _holes(disc: Disc, angle: float, at: float) -> list[Item]:
    """What is cut out of a large wheel, so that it is seen to turn."""
    if disc.radius < 0.02:
        return []
    found: list[Item] = []
    for k in range(5) if not disc.sweep else ():
        around = angle + k * 2 * math.pi / 5
        spot = (at + 0.55 * disc.radius * math.cos(around), 0.55 * disc.radius * math.sin(around))
        ring = (
            0.2
            * disc.radius
            * np.column_stack([np.cos(np.linspace(0, 2 * math.pi, 25)), np.sin(np.linspace(0, 2 * math.pi, 25))])
        )
        found.append(Shape(ring + spot, "ground"))
    return found


def _round_both(first: float, second: float, at: float, other: float) -> list[Item]:
    """The two straight runs of a belt or chain."""
    apart = other - at
    lean = math.asin(min(1.0, max(-1.0, (second - first) / apart)))
    runs = []
    for side in (1.0, -1.0):
        way = np.array([-math.sin(lean), side * math.cos(lean)])
        runs.append(Stroke(np.array([(at, 0.0) + first * way, (other, 0.0) + second * way]), "rope", 0.0025))
    return list(runs)


def _way_now(given: Driven, share: float) -> float:
    """How far along the move has gone [m]."""
    return float(np.interp(share, given.load.u, given.load.at)) - float(given.load.at[0])


def _way(one: Made, shaft: Shaft, moved: float) -> list[Item]:
    """What the last wheel moves: a piece of rack, belt, cord, rail or screw, its marks moving along."""
    radius, long = one.first.radius, max(4 * one.first.radius, 0.08)
    y = 0.0 if one.kind == d.SCREW else radius + 0.001
    step = 0.01
    start = shaft.at - long * 0.25 if one.kind != d.SCREW else shaft.at
    role = {d.SCREW: "steel", d.RACK: "steel", d.ROLLER: "aluminium"}.get(one.kind, "rope")
    items: list[Item] = [
        Stroke(np.array([(start, y), (start + long, y)]), role, 2 * radius if one.kind == d.SCREW else 0.003)
    ]
    offset = moved % step
    marks = np.arange(start + offset, start + long, step)
    ends = np.stack(
        [
            np.column_stack([marks, np.full(len(marks), y - 0.002)]),
            np.column_stack([marks, np.full(len(marks), y + 0.004)]),
        ],
        axis=1,
    )
    items.append(Lines(ends, "ink"))
    if one.kind in (d.CAPSTAN, d.BELTWAY):
        items.append(Stroke(np.array([(start, -y), (start + long, -y)]), role, 0.003))
    return items


def _arm(given: Driven, shaft: Shaft) -> list[Item]:
    """A piece of what it turns."""
    last = given.last
    radius = last.second.radius if last is not None and last.second is not None else 0.05
    out = 1.35 * radius
    return [
        Stroke(
            np.array(
                [
                    (shaft.at, 0.0),
                    (shaft.at - out * math.cos(shaft.angle + DIRECTION), -out * math.sin(shaft.angle + DIRECTION)),
                ]
            ),
            "aluminium",
            0.08 * radius,
        )
    ]


def _words(
    given: Driven, shafts: tuple[Shaft, ...], share: float, box: tuple[float, float, float], items: list[Item]
) -> float:
    """Under the drawing, a column for every shaft, and for the way: its name, its speed and torque at that moment; over
    it the ratios. Returns how far down it all goes [m].
    """
    left, right, high = box
    load, first = given.load, given.needs[0]
    speed = float(np.interp(share, load.u, first.speed))
    torque = float(np.interp(share, load.u, first.asked))
    columns = [
        (
            shaft.at,
            shaft.name,
            (abs(speed) / shaft.ratio, "rad/s:shaft"),
            (torque * shaft.ratio * shaft.lost, "N*m:shaft"),
        )
        for shaft in shafts
    ]
    last = given.last
    if last is not None and last.gives == d.WAY:
        efforts = (
            (abs(float(np.interp(share, load.u, load.speed))), "m/s"),
            (float(np.interp(share, load.u, first.effort)), "N"),
        )
        columns.append((shafts[-1].at + 0.04, d.SORTS[last.kind].name, *efforts))
    wide, rows = right - left, 1 if len(columns) <= COLUMNS else 2
    step = max(high * 2, wide * 0.45) * 0.075
    top = -high - step
    for k, (at, name, fast, hard) in enumerate(columns):
        x = left + wide * (k + 0.5) / len(columns)
        y = top - (k % rows) * 4 * step
        items.append(Stroke(np.array([(at, 0.0), (x, y + step * 0.7)]), "muted", dash=True))
        items.append(Note((x, y), Words(name), "muted"))
        items.append(Note((x, y - step), Words("{}", (fast,)), "ink"))
        items.append(Note((x, y - 2 * step), Words("{}", (hard,)), "water"))
    for n, one in enumerate(given.made):
        if one.second is None:
            continue
        middle = (shafts[n].at + shafts[n + 1].at) / 2
        items.append(Note((middle, high * (1.05 if n % 2 == 0 else 1.2)), Words(_ratio(one)), "lantern"))
    return top - (rows - 1) * 4 * step - 2.8 * step


def _ratio(one: Made) -> str:
    said = one.stage.ratio
    return f"1 : {said:.4g}" if said >= 1 else f"{1 / said:.4g} : 1"
