"""The frame of a gantry bent with bridge, trolley and boom anywhere."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from msgspec import Struct

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.gantry.model import Gantry
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.mechanics.frame import Element, Frame, Support, frame
from hazel_lantern.core.mechanics.frame_loads import inside, loads, solve
from hazel_lantern.core.mechanics.sections import Section
from hazel_lantern.core.nouns.units import GRAVITY

ACROSS = (0.0, 0.17, 0.33, 0.5)  # of the trolley's travel
BETWEEN = np.array([0.0, 0.25, 0.3, 0.42, 0.5, 0.58, 0.7, 0.75])  # of the way from post to post
UNITS = (((0.0, 0.0, -1.0), (0.0, 0.0, 0.0)), ((0.0, 0.0, 0.0), (1.0, 0.0, 0.0)), ((0.0, 0.0, 0.0), (0.0, 1.0, 0.0)))
MOMENTS = np.linspace(0.0, 1.0, 9)


class Bent(Struct, frozen=True):
    """The camera at poses (n, 4): its drop [m], turn about x and y [rad], largest bending and torsion of the bridge and
    bending of a runway [N*m], reactions of the posts (n, posts), what either end of the bridge puts on its runway with
    its truck (n, 2) [N] and turns it with about the bridge (n, 2) [N*m].
    """

    drop: np.ndarray
    turn_x: np.ndarray
    turn_y: np.ndarray
    bending: np.ndarray
    torsion: np.ndarray
    runway: np.ndarray
    reactions: np.ndarray
    ends: np.ndarray
    twists: np.ndarray


def both(one: Bent, other: Bent) -> Bent:
    """All poses of two."""
    return Bent(*(np.concatenate([getattr(one, name), getattr(other, name)]) for name in Bent.__struct_fields__))


def _half(every: Bent, which: int) -> Bent:
    """The first or the second half of all poses."""
    return Bent(*(np.split(getattr(every, name), 2)[which] for name in Bent.__struct_fields__))


def bent(design: Design, rig: Gantry, poses: np.ndarray, tips: np.ndarray | None = None) -> Bent:
    """The frame at each pose (n, 4): runways on braced posts, the bridge held against twist by its end wheels, the boom
    clamped to the trolley; tips: mass at the end of the boom at each pose (n,) [kg], where it is not the rig's own.
    """
    n, tips = len(poses), np.full(len(poses), rig.tip) if tips is None else tips
    drop, turn_x, turn_y, bending, torsion, runway = np.zeros((6, n))
    reactions, ends, twists = np.zeros((n, 2 * len(rig.posts))), np.zeros((n, 2)), np.zeros((n, 2))
    found = Bent(drop, turn_x, turn_y, bending, torsion, runway, reactions, ends, twists)
    beams = rig.runway.section(), rig.boom.section()
    for x in np.unique(poses[:, 0]):
        rows = np.flatnonzero(poses[:, 0] == x)
        _at(design, rig, float(x), beams, poses, tips, rows, found)
    return found


def _frame(design: Design, rig: Gantry, x: float, wall: Section) -> Frame:
    """Runways on their posts with the bridge across at a place."""
    stuff = design.catalogue.materials[rig.runway.material]
    nodes: dict[str, tuple[float, float, float]] = {}
    supports: dict[str, Support] = {}
    bridge = rig.bridge
    elements = [
        Element(
            "bridge",
            f"right {x:.6f}",
            f"left {x:.6f}",
            bridge.ea,
            bridge.eiy,
            bridge.eiz,
            bridge.gj,
            mass=bridge.line,
            released=(4, 10),
        )
    ]
    for side, at in (("right", 0.0), ("left", rig.span)):
        stations = sorted({*(f"{p:.6f}" for p in rig.posts), f"{x:.6f}"}, key=float)
        for station in stations:
            nodes[f"{side} {station}"] = (float(station), at, 0.0)
        for p in rig.posts:
            # Posts hold the runways from rolling; braces keep them from swaying.
            supports[f"{side} {p:.6f}"] = Support((0, 1, 2, 3, 5))
        for a, b in pairwise(stations):
            elements.append(
                Element(
                    f"{side} {a}",
                    f"{side} {a}",
                    f"{side} {b}",
                    stuff.E * wall.area,
                    stuff.E * wall.upright,
                    stuff.E * wall.iz,
                    stuff.G * wall.j,
                    mass=stuff.density * wall.area,
                )
            )
    return frame(nodes, elements, supports)


def _at(
    design: Design,
    rig: Gantry,
    x: float,
    beams: tuple[Section, Section],
    poses: np.ndarray,
    tips: np.ndarray,
    rows: np.ndarray,
    found: Bent,
) -> None:
    """All poses with the bridge at one place; fills their rows. beams: sections of runways and boom.

    Every pose is a sum of a few load cases: the frame's own weight, and wherever the trolley stands a unit of weight
    and of moment about x and y.
    """
    made = _frame(design, rig, x, beams[0])
    _, across, angle, out = poses[rows].T
    cos, sin = np.cos(angle), np.sin(angle)
    load, line = tips[rows] * GRAVITY, rig.boom_line * GRAVITY
    lever = load * out + line * out**2 / 2 - rig.counter * GRAVITY * rig.tail - line * rig.tail_end**2 / 2
    weight = load + rig.trolley * GRAVITY + rig.counter * GRAVITY + line * (out + rig.tail_end)
    shares = np.column_stack([np.ones(len(rows)), weight, -lever * sin, lever * cos])
    spots, spot = np.unique(across, return_inverse=True)
    cases = np.insert(1 + np.arange(3 * len(spots)).reshape(-1, 3), 0, 0, axis=1)
    points = [
        (int(case), 0, float(at), force, moment)
        for at, row in zip(spots, cases, strict=True)
        for case, (force, moment) in zip(row[1:], UNITS, strict=True)
    ]
    spread = [(0, n, (0.0, 0.0, -e.mass * GRAVITY)) for n, e in enumerate(made.elements)]
    ends = [
        (0, made.node(f"{side} {x:.6f}"), (0.0, 0.0, -rig.bridge_ends * GRAVITY, 0.0, 0.0, 0.0))
        for side in ("right", "left")
    ]
    answer = solve(made, loads(1 + 3 * len(spots), points, spread, ends))

    def summed(rows: np.ndarray) -> np.ndarray:
        """Of every pose (..., n), what the cases (..., cases) come to."""
        return np.asarray(np.einsum("...nk,nk->...n", rows[..., cases[spot]], shares))

    # The boom's moment makes a step under the trolley: what comes just after it counts too; and under its own weight a
    # heavy bridge may bend most in its middle, wherever the trolley is.
    places = np.stack([spots, spots + np.minimum(1e-9, rig.span - spots), np.full(len(spots), rig.span / 2)])
    every = np.broadcast_to(cases, (3, *cases.shape)).ravel()
    along = inside(answer, every, np.zeros(every.size, int), np.repeat(places.ravel(), 4))
    (moved, _, _), (inner, beside, middle) = (
        np.einsum("pnkc,nk->pcn", one.reshape(3, -1, 4, 6)[:, spot], shares) for one in along
    )
    ei = design.catalogue.materials[rig.boom.material].E * beams[1].upright
    slope = load * out**2 / (2 * ei) + line * out**3 / (6 * ei)
    # The tip goes with the trolley's turn and bends by itself.
    found.drop[rows] = (
        -(moved[2] + moved[3] * out * sin - moved[4] * out * cos) + load * out**3 / (3 * ei) + line * out**4 / (8 * ei)
    )
    found.turn_x[rows], found.turn_y[rows] = moved[3] - slope * sin, moved[4] + slope * cos
    found.bending[rows] = np.abs(np.stack([inner[4], beside[4], middle[4]])).max(axis=0)
    found.torsion[rows] = np.maximum(np.abs(inner[3]), np.abs(beside[3]))
    found.runway[rows] = _along_runways(made, summed(answer.forces[1:, [4, 10]]))
    posts = [6 * made.node(f"{side} {p:.6f}") + 2 for side in ("right", "left") for p in rig.posts]
    found.reactions[rows] = summed(answer.reactions[posts]).T
    found.ends[rows] = summed(answer.forces[0, [2, 8]]).T + rig.bridge_ends * GRAVITY
    found.twists[rows] = np.abs(summed(answer.forces[0, [3, 9]]).T)


def _along_runways(made: Frame, moments: np.ndarray) -> np.ndarray:
    """Largest bending of the runways at each pose (n,) [N*m]: at the ends of every piece and, for its own weight,
    half-way; moments: of both ends of their pieces about y (pieces, 2, n).
    """
    first, last = -moments[:, 0], moments[:, 1]
    weight = np.array([e.mass * GRAVITY for e in made.elements[1:]]) * made.lengths[1:] ** 2 / 8
    middle = (first + last) / 2 - weight[:, None]
    return np.asarray(np.abs(np.stack([first, last, middle])).max(axis=(0, 1)))


def worst_poses(rig: Gantry) -> np.ndarray:
    """Bridge at an end, over each post, at seven places between posts; trolley at its end, the middle and between; boom
    out every 7.5 degrees. What is worst in one half of the frame is so in the other.
    """
    half = rig.wheelbase / 2
    posts = np.array(rig.posts)
    spots = (posts[:-1, None] + np.diff(posts)[:, None] * BETWEEN).ravel()
    xs = np.unique(np.clip(spots, half, rig.length - half)[spots <= rig.length / 2 + 1e-9].round(6))
    ways = (xs, [rig.across(s) for s in ACROSS], np.radians(np.arange(0, 360, 7.5)), [rig.longest])
    return np.stack(np.meshgrid(*ways, indexing="ij"), axis=-1).reshape(-1, 4)


def bent_both(design: Design, gantry: Gantry) -> Bent:
    """The frame with bridge, trolley and boom where they bend it most, with the camera and then without it."""
    poses = worst_poses(gantry)
    tips = np.repeat([gantry.tip, gantry.tip - gantry.payload], len(poses))
    return bent(design, gantry, np.vstack([poses, poses]), tips)


def bent_at_worst(bent_both: Bent) -> Bent:
    """The same with the camera alone."""
    return _half(bent_both, 0)


def bent_without(bent_both: Bent) -> Bent:
    """The same with the camera taken off."""
    return _half(bent_both, 1)


def bent_along(design: Design, gantry: Gantry, path: Path) -> Bent:
    """The frame along the move."""
    return bent(design, gantry, path.at(MOMENTS))
