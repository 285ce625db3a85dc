"""What may stand on a set: kinds, usual sizes, corners, and where a lens aims at it."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.core.document.project import Thing
from hazel_lantern.core.nouns.figure import Given

PERSON, TABLE, BOX, TREE, WALL, BEAM, ANCHOR, ZONE, ROOM, WATER = (
    "person",
    "table",
    "box",
    "tree",
    "wall",
    "beam",
    "anchor",
    "zone",
    "room",
    "water",
)


class Sort(Struct, frozen=True):
    """A kind of thing: its name, usual width, depth and height [m], foot above ground [m], fill, aimed-at share of
    its height.
    """

    name: str
    size: tuple[float, float, float]
    foot: float
    fill: str
    aim: float = 0.5
    solid: bool = True


SORTS: dict[str, Sort] = {
    PERSON: Sort("Person", (0.45, 0.3, 1.72), 0.0, "figure", 0.88),
    TABLE: Sort("Table", (1.8, 0.8, 0.74), 0.0, "wood", 1.0),
    BOX: Sort("Box", (0.45, 0.45, 0.6), 0.0, "wood"),
    TREE: Sort("Tree", (2.4, 2.4, 4.0), 0.0, "foliage", 0.6),
    WALL: Sort("Wall", (3.0, 0.12, 2.5), 0.0, "masonry"),
    BEAM: Sort("Beam overhead", (3.0, 0.1, 0.2), 2.3, "wood"),
    ANCHOR: Sort("Anchor point", (0.12, 0.12, 0.12), 2.3, "steel"),
    ZONE: Sort("No-go place", (2.0, 1.0, 0.02), 0.0, "stop", solid=False),
    ROOM: Sort("Room for a stand", (1.6, 1.6, 0.02), 0.0, "clear", solid=False),
    WATER: Sort("Water", (8.0, 5.0, 0.02), 0.0, "pond", solid=False),
}
THINGS = tuple((key, sort.name) for key, sort in SORTS.items())
_CORNERS = np.array([(x, y, z) for z in (0.0, 1.0) for x, y in ((-0.5, -0.5), (0.5, -0.5), (0.5, 0.5), (-0.5, 0.5))])
CROWN = 0.3  # share of a tree's height at which its crown begins
FACES = ((0, 1, 5, 4), (1, 2, 6, 5), (2, 3, 7, 6), (3, 0, 4, 7), (4, 5, 6, 7))


def turn(angle: float) -> np.ndarray:
    """Turning of flat points about the upright axis, to be used as points @ turn."""
    cos, sin = math.cos(angle), math.sin(angle)
    return np.array([[cos, sin], [-sin, cos]])


def plain(thing: Thing) -> str:
    """A typed name, safe inside a sentence's template."""
    return thing.name.replace("{", "(").replace("}", ")")


def stands(thing: Thing) -> tuple[Given, Given]:
    """Where it stands, for a why that rests on it."""
    key = f"thing.{thing.id}"
    return (
        Given("x", thing.at_m[0], "m", f"{thing.name}, right", f"{key}.x"),
        Given("y", thing.at_m[1], "m", f"{thing.name}, deep", f"{key}.y"),
    )


def corners(thing: Thing) -> np.ndarray:
    """Corners (8, 3) of a thing's box on the set [m]: the foot's four, then the top's."""
    return np.asarray(all_corners([thing])[0])


def all_corners(things: Sequence[Thing]) -> np.ndarray:
    """Corners (n, 8, 3) of the boxes of n things on the set [m]."""
    if not things:
        return np.zeros((0, 8, 3))
    points = _CORNERS * np.array([thing.size_m for thing in things])[:, None]
    angle = np.array([thing.turn_rad for thing in things])[:, None]
    cos, sin, x, y = np.cos(angle), np.sin(angle), points[..., 0].copy(), points[..., 1].copy()
    points[..., 0], points[..., 1] = x * cos - y * sin, x * sin + y * cos
    return np.asarray(points + np.array([thing.at_m for thing in things])[:, None])


def aim_point(thing: Thing) -> np.ndarray:
    """Where a lens aims at a thing (3,) [m]: a face, a table's top, a middle."""
    return np.asarray(thing.at_m) + (0.0, 0.0, SORTS[thing.kind].aim * thing.size_m[2])


def crossings(things: Sequence[Thing], start: np.ndarray, end: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Shares of the lines from start to end, each (n, 3), at which they enter and leave the box of each thing; a tree
    counts as its crown.

    Returns: two arrays (n, things), 0 at the start and 1 at the end; a line that misses leaves before it enters.
    """
    at, size = np.array([thing.at_m for thing in things]), np.array([thing.size_m for thing in things])
    foot = np.array([CROWN if thing.kind == TREE else 0.0 for thing in things]) * size[:, 2]
    low = np.column_stack([-size[:, 0] / 2, -size[:, 1] / 2, foot])
    high = np.column_stack([size[:, 0] / 2, size[:, 1] / 2, size[:, 2]])
    turns = np.array([turn(-thing.turn_rad) for thing in things])
    from_, to = start[:, None] - at, end[:, None] - at
    for points in (from_, to):
        points[..., :2] = np.einsum("nki,kij->nkj", points[..., :2], turns)
    along = to - from_
    with np.errstate(divide="ignore", invalid="ignore"):
        one, other = (low - from_) / along, (high - from_) / along
    # Along an axis it does not move, it is within for good or outside for good.
    still, within = along == 0, (from_ >= low) & (from_ <= high)
    enter = np.where(still, np.where(within, -np.inf, np.inf), np.fmin(one, other)).max(axis=-1)
    leave = np.where(still, np.where(within, np.inf, -np.inf), np.fmax(one, other)).min(axis=-1)
    return enter, leave


def inside(thing: Thing, points: np.ndarray, grown: float | np.ndarray = 0.0) -> np.ndarray:
    """Which of the points (n, 3) lie in a thing's box, grown all round, by one or (n,) [m]; a tree counts as its trunk,
    a no-go place reaches up to head height.
    """
    away = np.asarray(points, float) - thing.at_m
    flat = away[:, :2] @ turn(-thing.turn_rad)
    wide, deep, high = thing.size_m
    if thing.kind == TREE:
        wide, deep = 0.12 * wide, 0.12 * deep
    if thing.kind == ZONE:
        high = 2.0
    return np.asarray(
        (np.abs(flat[:, 0]) <= wide / 2 + grown)
        & (np.abs(flat[:, 1]) <= deep / 2 + grown)
        & (away[:, 2] >= -grown)
        & (away[:, 2] <= high + grown)
    )
