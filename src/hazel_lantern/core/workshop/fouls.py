"""Pieces that are in one another's way: every two solids of a rig, at all poses of a move."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import BUILD, CLEAR, STOP
from hazel_lantern.core.nouns.sketch import Item, Note, Ring
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Bodies, Pieces
from hazel_lantern.core.workshop.solids import FACETS, Bar, Place, Solid, Tapered, Turned

TOUCHES = 5e-4  # metres into one another up to which two pieces only touch
ROUNDS = ("solid_round", "round_tube", "oval_tube")
SIDE, ABOVE = "side", "above"
LOOKED = np.linspace(0.0, 1.0, 9)  # shares of a move at which pieces are looked at
NAMED = 3  # fouls that the sentence names


class Foul(Struct, frozen=True):
    """Two pieces that are in one another: their names, by how much at the most [m], at which of the poses, and about
    where then in the rig frame [m].
    """

    one: str
    other: str
    deep: float
    pose: int
    at: tuple[float, float, float]


def fouls(pieces: Pieces, bodies: Bodies, poses: int) -> tuple[Foul, ...]:
    """Every two pieces that are in one another further than they touch.

    pieces: of a rig; pairs that sit in one another on purpose are `nested`
    bodies: the frame of every body at n poses; what stands still may have one
    poses: how many

    Returns: one for every two names, worst first. A hollow or bent piece is taken as its hull, a round one as a prism.
    Source: separating axes of convex bodies.
    """
    solids: list[tuple[str, Solid, Place]] = [
        (part.name, part.solid, at) for part in pieces.parts for at in part.places
    ]
    solids += [
        (thing.name, thing.outline, place) for thing in pieces.things if thing.mass > 0 for place in thing.places
    ]
    rough = {name for name, other in pieces.nested if not other}
    solids = [one for one in solids if one[0] not in rough]
    if len(solids) < 2:
        return ()
    shapes = [_at(solid, place, bodies, poses) for _, solid, place in solids]
    low = np.array([corners.min(axis=1) for corners, _ in shapes])
    high = np.array([corners.max(axis=1) for corners, _ in shapes])
    nested = {frozenset(pair) for pair in pieces.nested}
    i, j = np.triu_indices(len(solids), 1)
    near = (np.minimum(high[i], high[j]) - np.maximum(low[i], low[j])).min(axis=2) > TOUCHES  # (pairs, poses)
    worst: dict[frozenset[str], Foul] = {}
    for k in np.flatnonzero(near.any(axis=1)):
        (one, _, a), (other, _, b) = solids[i[k]], solids[j[k]]
        names = frozenset((one, other))
        if names in nested:
            continue
        # On one body nothing comes nearer from pose to pose.
        looked = np.flatnonzero(near[k])[:1] if a.body == b.body else np.flatnonzero(near[k])
        deep = _depth(shapes[i[k]], shapes[j[k]], looked)
        n = int(np.argmax(deep))
        if deep[n] > TOUCHES and (names not in worst or deep[n] > worst[names].deep):
            pose = int(looked[n])
            middle = (np.maximum(low[i[k], pose], low[j[k], pose]) + np.minimum(high[i[k], pose], high[j[k], pose])) / 2
            worst[names] = Foul(
                one, other, float(deep[n]), pose, (float(middle[0]), float(middle[1]), float(middle[2]))
            )
    return tuple(sorted(worst.values(), key=lambda foul: -foul.deep))


def _at(solid: Solid, place: Place, bodies: Bodies, poses: int) -> tuple[np.ndarray, np.ndarray]:
    """Corners (n, c, 3) of a solid, and the directions (n, a, 3) its faces look and its edges run in; those along its
    own three axes first.
    """
    frame = place.frame(bodies)
    corners = solid.corners() @ np.swapaxes(frame.axes, 1, 2) + frame.at[:, None]
    ways = np.swapaxes(frame.axes, 1, 2)
    rounded = isinstance(solid, Turned | Tapered) or getattr(solid, "round", False)
    if rounded or (isinstance(solid, Bar) and solid.stock.shape in ROUNDS):
        around = 2 * math.pi * (np.arange(FACETS // 2) + 0.5) / FACETS
        turned = np.cos(around)[:, None] * ways[:, None, 1] + np.sin(around)[:, None] * ways[:, None, 2]
        ways = np.concatenate([ways, turned], axis=1)
    return np.broadcast_to(corners, (poses, *corners.shape[1:])), np.broadcast_to(ways, (poses, *ways.shape[1:]))


def _depth(one: tuple[np.ndarray, np.ndarray], other: tuple[np.ndarray, np.ndarray], poses: np.ndarray) -> np.ndarray:
    """How far two convex bodies are in one another at some poses (k,): the least over all directions [m]."""
    a, b = one[0][poses], other[0][poses]
    crossed = np.cross(one[1][poses, :3, None], other[1][poses, None, :3]).reshape(len(poses), 9, 3)
    long = np.linalg.norm(crossed, axis=2, keepdims=True)
    # Edges that run alike give no direction of their own: the first face stands for them.
    crossed = np.where(long > 1e-6, crossed / np.maximum(long, 1e-12), one[1][poses, :1])
    ways = np.concatenate([one[1][poses], other[1][poses], crossed], axis=1)
    p, q = ways @ np.swapaxes(a, 1, 2), ways @ np.swapaxes(b, 1, 2)
    into = np.minimum(p.max(axis=2) - q.min(axis=2), q.max(axis=2) - p.min(axis=2))
    return np.asarray(into.min(axis=1))


def told(found: Sequence[Foul], shares: np.ndarray) -> Told:
    """Whether anything is in the way of anything, over shares of a move (n,)."""
    tell = Teller()
    deepest = found[0].deep if found else 0.0
    given = (Given("n", float(len(shares)), "count", "poses of the move looked at"),)
    tell.add(
        by_method(
            "build.foul",
            "Pieces in one another by",
            deepest,
            "m",
            "every two solids, at every pose looked at",
            given,
            source="geometry",
        )
    )
    clear = Words("No two pieces are in one another anywhere along the move.")
    words, amounts = [], []
    for foul in found[:NAMED]:
        words.append(
            f"{foul.one} and {foul.other[:1].lower()}{foul.other[1:]} are in one another by {{}} at {shares[foul.pose]:.0%} of the move"
        )
        amounts.append((foul.deep, "m"))
    more = f"; {len(found) - NAMED} more." if len(found) > NAMED else "."
    said = Words("; ".join(words) + more, tuple(amounts)) if found else clear
    tell.hold(
        "build.foul",
        "build.fouls",
        "Pieces in the way",
        BUILD,
        "build.foul",
        said,
        at_most=TOUCHES,
        state=STOP if found else CLEAR,
    )
    return tell.told()


def marked(found: Sequence[Foul], view: str, share: float) -> tuple[Item, ...]:
    """A ring and words where pieces are in one another at the pose nearest to a share of the move, from the side or from
    above.
    """
    nearest = int(np.argmin(np.abs(LOOKED - share)))
    items: list[Item] = []
    for foul in found:
        if foul.pose == nearest and view in (SIDE, ABOVE):
            at = (foul.at[0], foul.at[2] if view == SIDE else foul.at[1])
            items += [
                Ring(at, max(0.02, foul.deep), "stop"),
                Note(at, Words(f"{foul.one} in {foul.other}: {{}}", ((foul.deep, "m"),)), "stop"),
            ]
    return tuple(items)
