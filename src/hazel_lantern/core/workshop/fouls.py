"""Pieces that are in one another's way: every two solids of a rig, at all poses of a move."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import BUILD, CLEAR, STOP, Remedy
from hazel_lantern.core.nouns.sketch import Item, Note, Ring
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Bodies, Pieces
from hazel_lantern.core.workshop.solids import FACETS, Bar, Place, Solid, Tapered, Turned

TOUCHES = 5e-4  # metres into one another up to which two pieces only touch
ROUNDS = ("solid_round", "round_tube", "oval_tube")
SIDE, ABOVE = "side", "above"
LOOKED = np.linspace(0.0, 1.0, 9)  # shares of a move at which pieces are looked at
TURNS = 2 * math.pi * (np.arange(FACETS // 2) + 0.5) / FACETS
AROUND = np.column_stack([np.cos(TURNS), np.sin(TURNS)])  # of a round piece's sides: left, up
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


class Hulls(Struct, frozen=True):
    """Every solid of a rig by itself, as the hull of its points: the piece's name and the body it moves with; all their
    points (n, 3) [m], and the directions (a, 3) their faces look and their edges run in, those along a solid's own
    three axes first, in its body's frame, one solid's after the other's from `starts` and `turns` on (solids + 1,);
    names that sit in one another on purpose; what is in one another on one body, where nothing comes nearer from pose
    to pose, each with that body and told in its frame.
    """

    names: tuple[str, ...]
    bodies: tuple[str, ...]
    points: np.ndarray
    starts: np.ndarray
    ways: np.ndarray
    turns: np.ndarray
    nested: frozenset[frozenset[str]]
    still: tuple[tuple[str, Foul], ...] = ()


class Shapes(Struct, frozen=True):
    """All solids at n poses: their points (n, c, 3) and directions (n, a, 3), and the boxes that they lie in, from
    `low` to `high` (n, solids, 3) [m].
    """

    given: Hulls
    points: np.ndarray
    ways: np.ndarray
    low: np.ndarray
    high: np.ndarray

    @classmethod
    def of(cls, given: Hulls, points: np.ndarray, ways: np.ndarray) -> Shapes:
        starts = given.starts[:-1]
        low, high = np.minimum.reduceat(points, starts, axis=1), np.maximum.reduceat(points, starts, axis=1)
        return cls(given, points, ways, low, high)

    def of_one(self, k: int, poses: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Points and directions of one solid at some poses."""
        starts, turns = self.given.starts, self.given.turns
        return self.points[poses, starts[k] : starts[k + 1]], self.ways[poses, turns[k] : turns[k + 1]]


def hulls(pieces: Pieces) -> Hulls:
    """The solids of a rig, and which of one body are in one another.

    pieces: of a rig; pairs that sit in one another on purpose are `nested`

    Returns: the hulls. A hollow or bent piece is taken as its hull, a round one as a prism.
    """
    every: list[tuple[str, Solid, Place]] = [(part.name, part.solid, at) for part in pieces.parts for at in part.places]
    every += [(thing.name, thing.outline, at) for thing in pieces.things if thing.mass > 0 for at in thing.places]
    rough = {name for name, other in pieces.nested if not other}
    solids = [one for one in every if one[0] not in rough]
    nested = frozenset(frozenset(pair) for pair in pieces.nested)
    if not solids:
        none = np.zeros((0, 3)), np.zeros(1, int)
        return Hulls((), (), *none, *none, nested)
    axes = [place.axes.T for _, _, place in solids]
    points = [solid.corners() @ own + place.at for (_, solid, place), own in zip(solids, axes, strict=True)]
    ways = [_ways(solid, own) for (_, solid, _), own in zip(solids, axes, strict=True)]
    names, bodies = tuple(name for name, _, _ in solids), tuple(place.body for _, _, place in solids)
    found = Hulls(names, bodies, np.concatenate(points), _starts(points), np.concatenate(ways), _starts(ways), nested)
    at_rest = Shapes.of(found, found.points[None], found.ways[None])
    still = [(bodies[k], foul) for k, foul in _meeting(at_rest, together=True)]
    return replace(found, still=tuple(still))


def _starts(found: list[np.ndarray]) -> np.ndarray:
    return np.cumsum([0, *map(len, found)])


def fouls(given: Hulls, bodies: Bodies, poses: int) -> tuple[Foul, ...]:
    """Every two pieces that are in one another further than they touch.

    given: the solids of a rig
    bodies: the frame of every body at n poses; what stands still may have one
    poses: how many

    Returns: one for every two names, worst first. Source: separating axes of convex bodies.
    """
    if not given.names:
        return ()
    points, ways = np.empty((poses, *given.points.shape)), np.empty((poses, *given.ways.shape))
    of_point, of_way = (np.repeat(given.bodies, np.diff(starts)) for starts in (given.starts, given.turns))
    for body in dict.fromkeys(given.bodies):
        frame, on, along = bodies[body], of_point == body, of_way == body
        turns = np.swapaxes(frame.axes, 1, 2)
        points[:, on], ways[:, along] = given.points[on] @ turns + frame.at[:, None], given.ways[along] @ turns
    found = [foul for _, foul in _meeting(Shapes.of(given, points, ways), together=False)]
    for body, foul in given.still:
        x, y, z = bodies[body].place(foul.at)[0].tolist()
        found.append(replace(foul, at=(x, y, z)))
    worst: dict[frozenset[str], Foul] = {}
    for foul in sorted(found, key=lambda foul: -foul.deep):
        worst.setdefault(frozenset((foul.one, foul.other)), foul)
    return tuple(worst.values())


def _meeting(shapes: Shapes, *, together: bool) -> Iterator[tuple[int, Foul]]:
    """Which solids are in one another, each with the first one's number: those of one body, or of two."""
    given, low, high = shapes.given, shapes.low, shapes.high
    i, j = np.triu_indices(len(given.names), 1)
    number = {body: n for n, body in enumerate(dict.fromkeys(given.bodies))}
    body = np.array([number[name] for name in given.bodies])
    asked = (body[i] == body[j]) == together
    i, j = i[asked], j[asked]
    near = (np.minimum(high[:, i], high[:, j]) - np.maximum(low[:, i], low[:, j])).min(axis=2) > TOUCHES
    for k in np.flatnonzero(near.any(axis=0)).tolist():  # near (poses, pairs)
        a, b = int(i[k]), int(j[k])
        one, other = given.names[a], given.names[b]
        if frozenset((one, other)) in given.nested:
            continue
        looked = np.flatnonzero(near[:, k])
        deep = _depth(shapes.of_one(a, looked), shapes.of_one(b, looked))
        n = int(np.argmax(deep))
        if deep[n] > TOUCHES:
            pose = int(looked[n])
            middle = (np.maximum(low[pose, a], low[pose, b]) + np.minimum(high[pose, a], high[pose, b])) / 2
            x, y, z = middle.tolist()
            yield a, Foul(one, other, float(deep[n]), pose, (x, y, z))


def _ways(solid: Solid, own: np.ndarray) -> np.ndarray:
    """Directions (a, 3) of a solid whose own three axes are the rows of `own`."""
    rounded = isinstance(solid, Turned | Tapered) or getattr(solid, "round", False)
    if not (rounded or (isinstance(solid, Bar) and solid.stock.shape in ROUNDS)):
        return own
    ways = np.concatenate([own, AROUND @ own[1:]])
    if not isinstance(solid, Tapered):
        return ways
    # The faces and edges of its taper look a little ahead, those opposite as well.
    out = np.concatenate([AROUND, -AROUND, np.eye(2), -np.eye(2)]) @ own[1:] + solid.slope * own[0]
    return np.concatenate([ways, out / math.hypot(1.0, solid.slope)])


def _depth(one: tuple[np.ndarray, np.ndarray], other: tuple[np.ndarray, np.ndarray]) -> np.ndarray:
    """How far two convex bodies are in one another at some poses (k,): the least over all directions [m]."""
    (a, ways), (b, others) = one, other
    crossed = np.cross(ways[:, :3, None], others[:, None, :3]).reshape(len(a), 9, 3)
    long = np.linalg.norm(crossed, axis=2, keepdims=True)
    # Edges that run alike give no direction of their own: the first face stands for them.
    crossed = np.where(long > 1e-6, crossed / np.maximum(long, 1e-12), ways[:, :1])
    along = np.concatenate([ways, others, crossed], axis=1)
    p, q = along @ np.swapaxes(a, 1, 2), along @ np.swapaxes(b, 1, 2)
    into = np.minimum(p.max(axis=2) - q.min(axis=2), q.max(axis=2) - p.min(axis=2))
    return np.asarray(into.min(axis=1))


def told(found: Sequence[Foul], shares: np.ndarray, remedies: tuple[Remedy, ...]) -> Told:
    """Whether anything is in the way of anything, over shares of a move (n,), and what may be tried."""
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
            f"{foul.one} and {foul.other[:1].lower()}{foul.other[1:]} are in one another by {{}} at "
            f"{shares[foul.pose]:.0%} of the move"
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
        remedies=remedies,
    )
    return tell.told()


def marked(found: Sequence[Foul], view: str, share: float) -> tuple[Item, ...]:
    """A ring and words where pieces are in one another at the pose nearest to a share of the move, from the side or
    from above.
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
