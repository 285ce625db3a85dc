"""Where the instruments of a test are held, drawn over the rig:
a level, a scale, a tape, a weight, a phone, a watch."""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.kinds.foreseen import Foreseen
from hazel_lantern.core.nouns.sketch import (
    GHOST,
    SWEEP,
    Arrow,
    Handle,
    Item,
    Note,
    Point,
    Ring,
    Shape,
    Size,
    Sketch,
    Stroke,
    box_outline,
)
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.proving.trial import Trial

SHARE = 0.055  # of the drawing's height, that an instrument is drawn as large as
BESIDE = ("view", "path", "footing")  # what a test does not look at
Box = tuple[float, float, float, float]
NAMES = {
    "level": "spirit level or phone", "scale": "hanging scale", "tape": "tape to the ground", "weight": "known weight",
    "phone": "phone, logs the shakes",
    "watch": "stopwatch", "feeler": "feeler under each wheel", "hand": "by hand and eye",
}  # fmt: skip


def held(sketch: Sketch, lens: np.ndarray, trial: Trial, own: Foreseen) -> Sketch:
    """The drawing of a rig with the instruments of a test where they are held, without its sizes, ghosts and loads.

    sketch: of the rig from the side
    lens: place of its lens (3,) [m]
    """
    camera = (float(lens[0]), float(lens[2]))
    at = own.at or camera
    items: list[Item] = [
        item
        for item in sketch.items
        if not isinstance(item, (Size, Handle, Note, Arrow))
        and item.layer not in (GHOST, SWEEP)
        and item.role not in BESIDE
    ]
    box = _framed(items, sketch.box)
    size, aside = SHARE * (box[3] - box[1]), -1.0 if at[0] > 0 else 1.0
    for k, name in enumerate(trial.instruments):
        spot = (at[0] + 3.0 * aside * size * k, at[1])
        items += DRAWN[name](spot, size)
        items.append(Note(_label(name, spot, size), Words(NAMES[name]), "lantern"))
    if trial.key == "drift":
        items.append(Size((0.0, at[1] - 3 * size), (at[0], at[1] - 3 * size), 0.0, abs(at[0]), "m"))
    return replace(sketch, items=tuple(items), box=box)


def _framed(items: list[Item], whole: Box) -> Box:
    """The rig alone with room around it, the ground in sight, within what was drawn."""
    points = np.vstack(
        [
            item.points.reshape(-1, 2)
            for item in items
            if isinstance(item, (Shape, Stroke)) and not item.role.startswith("person")
        ]
    )
    (x0, z0), (x1, z1) = points.min(axis=0), points.max(axis=0)
    room = 0.16 * max(x1 - x0, z1 - z0)
    return (
        max(whole[0], x0 - room),
        max(whole[1], min(z0, 0.0) - room / 2),
        min(whole[2], x1 + room),
        min(whole[3], z1 + room),
    )


def _label(name: str, at: Point, size: float) -> Point:
    if name == "tape":
        return at[0] + 2.2 * size, min(0.0, at[1] - size) + 0.8 * size
    up = {"scale": 3.4, "weight": -3.2, "feeler": -0.8}.get(name, 1.5)
    return at[0] + 0.6 * size, at[1] + up * size


def _level(at: Point, s: float) -> list[Item]:
    x, z = at
    body = box_outline((x - s, z + 0.25 * s), (x + s, z + 0.25 * s), 0.4 * s)
    vial = box_outline((x - 0.3 * s, z + 0.25 * s), (x + 0.3 * s, z + 0.25 * s), 0.18 * s)
    return [Shape(body, "lantern"), Shape(vial, "lens"), Ring((x, z + 0.25 * s), 0.08 * s)]


def _scale(at: Point, s: float) -> list[Item]:
    x, z = at
    line = np.array([(x, z), (x, z + 1.5 * s)])
    body = box_outline((x, z + 1.5 * s), (x, z + 2.7 * s), 0.55 * s)
    marks = [Stroke(np.array([(x - 0.12 * s, z + h * s), (x + 0.12 * s, z + h * s)]), "lens") for h in (1.8, 2.05, 2.3)]
    return [Stroke(line, "ink"), Shape(body, "camera"), *marks, Ring((x, z + 2.95 * s), 0.2 * s), Ring((x, z), 0.1 * s)]


def _tape(at: Point, s: float) -> list[Item]:
    x, z = at
    foot = min(0.0, z - s)
    ticks = [
        Stroke(np.array([(x, h), (x + 0.22 * s, h)]), "lantern")
        for h in np.arange(foot, z, max(0.4 * s, (z - foot) / 40))
    ]
    return [
        Stroke(np.array([(x, foot), (x, z)]), "lantern", 0.06 * s),
        *ticks,
        Shape(box_outline((x, foot), (x, foot + 0.5 * s), 0.5 * s), "lantern"),
    ]


def _weight(at: Point, s: float) -> list[Item]:
    x, z = at
    bag = np.array([(0.5, 0), (0.62, -0.9), (0.4, -1.3), (-0.4, -1.3), (-0.62, -0.9), (-0.5, 0)]) * s
    return [Stroke(np.array([(x, z), (x, z - s)]), "ink"), Shape(bag + (x, z - s), "weight")]


def _phone(at: Point, s: float) -> list[Item]:
    x, z = at
    body = box_outline((x, z + 0.1 * s), (x, z + 1.2 * s), 0.55 * s)
    face = box_outline((x, z + 0.25 * s), (x, z + 1.05 * s), 0.4 * s)
    turn = np.linspace(-0.8, 0.8, 9)
    waves = [
        Stroke(np.column_stack([x - r * s * np.cos(turn), z + (0.65 + r * np.sin(turn)) * s]), "water")
        for r in (0.55, 0.8)
    ]
    return [Shape(body, "camera"), Shape(face, "lens"), *waves]


def _watch(at: Point, s: float) -> list[Item]:
    x, z = at[0], at[1] + 0.6 * s
    hands = [
        Stroke(np.array([(x, z), (x + r * s * math.sin(a), z + r * s * math.cos(a))]), "ink")
        for a, r in ((0.9, 0.35), (0.0, 0.42))
    ]
    return [Ring((x, z), 0.55 * s), Shape(box_outline((x, z + 0.5 * s), (x, z + 0.78 * s), 0.2 * s), "camera"), *hands]


def _feeler(at: Point, s: float) -> list[Item]:
    x, z = at
    return [Shape(np.array([(x, z), (x + 1.4 * s, z), (x + 1.4 * s, z + 0.18 * s)]), "lantern")]


def _hand(at: Point, s: float) -> list[Item]:
    x, z = at
    return [
        Stroke(np.array([(x, z), (x + 0.25 * s, z + 0.6 * s), (x + 0.9 * s, z + 1.2 * s)]), "person", 0.45 * s),
        Ring((x, z), 0.14 * s),
    ]


DRAWN = {
    "level": _level,
    "scale": _scale,
    "tape": _tape,
    "weight": _weight,
    "phone": _phone,
    "watch": _watch,
    "feeler": _feeler,
    "hand": _hand,
}
