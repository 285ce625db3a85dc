"""What stands beside every rig in its drawings: people for scale, the camera, legs."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Carried
from hazel_lantern.core.nouns import sketch as sk
from hazel_lantern.core.nouns.sketch import Item, Ring, Shape, Stroke

CIRCLE = np.column_stack([np.cos(np.linspace(0, 2 * math.pi, 49)), np.sin(np.linspace(0, 2 * math.pi, 49))])
PERSON = 1.72


# One side of a standing figure up to its neck, aside and up in shares of its height: leg, hip, armpit, hand,
# shoulder; the other side mirrors it.
_HALF = np.array([
    (0.006, 0.45), (0.014, 0.0), (0.076, 0.0), (0.092, 0.45), (0.096, 0.70), (0.114, 0.43), (0.150, 0.42),
    (0.155, 0.72), (0.138, 0.79), (0.095, 0.825), (0.036, 0.845), (0.030, 0.89),
])  # fmt: skip
FIGURE = np.concatenate([_HALF, _HALF[::-1] * (-1, 1)])
HEAD = CIRCLE[::2] * (0.055, 0.065) + (0, 0.935)


def person(x: float, height: float = PERSON, foot: float = 0.0) -> list[Item]:
    """A standing person, for scale or on the set."""
    return [Shape(part * height + (x, foot), "person") for part in (HEAD, FIGURE)]


def person_above(at: tuple[float, float]) -> list[Item]:
    """Shoulders and head of a person from above."""
    return [Shape(CIRCLE * (0.13, 0.23) + at, "person"), Shape(CIRCLE * 0.1 + at, "person-head")]


def camera_side(mount: np.ndarray, ahead: np.ndarray, up: np.ndarray, kit: Carried, layer: str = sk.BODY) -> list[Item]:
    """A plain block with a lens, on its head where it has one, from the side; `ahead` and `up` are unit vectors of the
    drawing, `ahead` shorter where the camera looks aside.
    """
    x, y, z = kit.lens_at_m
    foot, mount, lens = mount, mount + up * kit.rise, (x, y, z - kit.rise)
    back, tall, front = -0.07, max(0.09, 1.6 * lens[2]), lens[0] * 0.55
    block = [(back, 0.0), (front, 0.0), (front, tall), (back, tall)]
    glass = [
        (front, lens[2] - 0.03),
        (lens[0] + 0.02, lens[2] - 0.034),
        (lens[0] + 0.02, lens[2] + 0.034),
        (front, lens[2] + 0.03),
    ]
    head: list[Item] = [Stroke(np.array([foot, mount]), "steel", 0.045, layer=layer)] if kit.rise else []
    return head + [
        Shape(np.array([mount + ahead * x + up * z for x, z in outline]), role, layer)
        for outline, role in ((block, "camera"), (glass, "lens"))
    ]


def camera_above(mount: np.ndarray, heading: float, reach: float) -> list[Item]:
    """The camera from above, pointing along a heading."""
    turn = np.array([[math.cos(heading), math.sin(heading)], [-math.sin(heading), math.cos(heading)]])
    block = np.array([(-0.07, -0.065), (0.05, -0.065), (0.05, 0.065), (-0.07, 0.065)])
    glass = np.array([(0.05, -0.035), (reach + 0.02, -0.035), (reach + 0.02, 0.035), (0.05, 0.035)])
    return [Shape(block @ turn + mount, "camera"), Shape(glass @ turn + mount, "lens")]


def legs_side(x: float, top: float, feet: np.ndarray, post: bool = False) -> list[Item]:
    """A stand from the side: a column down from `top` and legs to its feet (n,), ahead of the stand."""
    hub = (x, max(0.5 * top, top - 0.45))
    items: list[Item] = [Stroke(np.array([(x, top), hub]), "wood" if post else "steel", 0.04)]
    items += [Stroke(np.array([hub, (x + float(f), 0.015)]), "wood" if post else "steel", 0.03) for f in feet]
    return items


def legs_above(at: tuple[float, float], feet: np.ndarray) -> list[Item]:
    """A stand's legs (n, 2) and their outline from above."""
    around = feet + at
    items: list[Item] = [Shape(np.vstack([around, around[:1]]), "footing")]
    for foot in around:
        items += [Stroke(np.array([at, foot]), "steel", 0.03), Ring((float(foot[0]), float(foot[1])), 0.02)]
    return items
