"""The frame of a gantry bent with bridge, trolley and boom anywhere."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.gantry.model import Gantry
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.mechanics.frame import Element, Frame, Support, frame
from hazel_lantern.core.mechanics.frame_loads import inside, loads, solve
from hazel_lantern.core.nouns.units import GRAVITY

ACROSS = (0.0, 0.17, 0.33, 0.5)  # of the trolley's travel
BETWEEN = np.array([0.0, 0.25, 0.42, 0.5, 0.58, 0.75])  # of the way from post to post
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


def bent(design: Design, rig: Gantry, poses: np.ndarray) -> Bent:
    """The frame at each pose: runways on braced posts, the bridge held against twist by its end wheels, the boom
    clamped to the trolley.
    """
    n = len(poses)
    drop, turn_x, turn_y, bending, torsion, runway = np.zeros((6, n))
    reactions, ends, twists = np.zeros((n, 2 * len(rig.posts))), np.zeros((n, 2)), np.zeros((n, 2))
    found = Bent(drop, turn_x, turn_y, bending, torsion, runway, reactions, ends, twists)
    for x in np.unique(poses[:, 0]):
        rows = np.flatnonzero(poses[:, 0] == x)
        _at(design, rig, float(x), poses[rows], rows, found)
    return found


def _frame(design: Design, rig: Gantry, x: float) -> Frame:
    """Runways on their posts with the bridge across at a place."""
    wall = rig.runway.section()
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


def _at(design: Design, rig: Gantry, x: float, poses: np.ndarray, rows: np.ndarray, found: Bent) -> None:
    """All poses with the bridge at one place, as load cases of one frame; fills their rows."""
    made = _frame(design, rig, x)
    _, across, angle, out = poses.T
    cos, sin = np.cos(angle), np.sin(angle)
    load, line = rig.tip * GRAVITY, rig.boom_line * GRAVITY
    lever = load * out + line * out**2 / 2 - rig.counter * GRAVITY * rig.tail - line * rig.tail_end**2 / 2
    weight = load + rig.trolley * GRAVITY + rig.counter * GRAVITY + line * (out + rig.tail_end)
    points = [
        (
            k,
            0,
            float(across[k]),
            (0.0, 0.0, -float(weight[k])),
            (-float(lever[k] * sin[k]), float(lever[k] * cos[k]), 0.0),
        )
        for k in range(len(poses))
    ]
    spread = [(k, n, (0.0, 0.0, -e.mass * GRAVITY)) for k in range(len(poses)) for n, e in enumerate(made.elements)]
    ends = [
        (k, made.node(f"{side} {x:.6f}"), (0.0, 0.0, -rig.bridge_ends * GRAVITY, 0.0, 0.0, 0.0))
        for k in range(len(poses))
        for side in ("right", "left")
    ]
    answer = solve(made, loads(len(poses), points, spread, ends))
    cases, bridge = np.arange(len(poses)), np.zeros(len(poses), int)
    moved, inner = inside(answer, cases, bridge, across)
    # The boom's moment makes a step under the trolley: what comes just after it counts too.
    _, beside = inside(answer, cases, bridge, across + np.minimum(1e-9, rig.span - across))
    # Under its own weight a heavy bridge may bend most in its middle, wherever the trolley is.
    _, middle = inside(answer, cases, bridge, np.full(len(poses), rig.span / 2))
    stick = rig.boom.section()
    ei = design.catalogue.materials[rig.boom.material].E * stick.upright
    slope = load * out**2 / (2 * ei) + line * out**3 / (6 * ei)
    # The tip goes with the trolley's turn and bends by itself.
    found.drop[rows] = (
        -(moved[:, 2] + moved[:, 3] * out * sin - moved[:, 4] * out * cos)
        + load * out**3 / (3 * ei)
        + line * out**4 / (8 * ei)
    )
    found.turn_x[rows], found.turn_y[rows] = moved[:, 3] - slope * sin, moved[:, 4] + slope * cos
    found.bending[rows] = np.abs(np.stack([inner[:, 4], beside[:, 4], middle[:, 4]])).max(axis=0)
    found.torsion[rows] = np.maximum(np.abs(inner[:, 3]), np.abs(beside[:, 3]))
    found.runway[rows] = _along_runways(made, answer.forces)
    posts = [6 * made.node(f"{side} {p:.6f}") + 2 for side in ("right", "left") for p in rig.posts]
    found.reactions[rows] = answer.reactions[posts].T
    found.ends[rows] = answer.forces[0, (2, 8), :].T + rig.bridge_ends * GRAVITY
    found.twists[rows] = np.abs(answer.forces[0, (3, 9), :].T)


def _along_runways(made: Frame, forces: np.ndarray) -> np.ndarray:
    """Largest bending of the runways in each case (n,) [N*m]: at the ends of every piece and, for its own weight,
    half-way; forces: of all ends (elements, 12, n).
    """
    first, last = -forces[1:, 4, :], forces[1:, 10, :]
    weight = np.array([e.mass * GRAVITY for e in made.elements[1:]]) * made.lengths[1:] ** 2 / 8
    middle = (first + last) / 2 - weight[:, None]
    return np.asarray(np.abs(np.stack([first, last, middle])).max(axis=(0, 1)))


def worst_poses(rig: Gantry) -> np.ndarray:
    """Bridge at an end, over each post, at five places between posts; trolley at its end, the middle and between; boom out
    every 7.5 degrees. What is worst in one half of the frame is so in the other.
    """
    half = rig.wheelbase / 2
    posts = np.array(rig.posts)
    spots = (posts[:-1, None] + np.diff(posts)[:, None] * BETWEEN).ravel()
    xs = {round(float(x), 6) for x in np.clip(spots, half, rig.length - half) if x <= rig.length / 2 + 1e-9}
    return np.array(
        [
            (x, rig.across(s), a, rig.longest)
            for x in sorted(xs)
            for s in ACROSS
            for a in np.radians(np.arange(0, 360, 7.5))
        ]
    )


def bent_at_worst(design: Design, gantry: Gantry) -> Bent:
    """The frame with bridge, trolley and boom where they bend it most."""
    return bent(design, gantry, worst_poses(gantry))


def bent_without(design: Design, gantry: Gantry) -> Bent:
    """The same with the camera taken off."""
    return bent(design, replace(gantry, tip=gantry.tip - gantry.payload), worst_poses(gantry))


def bent_along(design: Design, gantry: Gantry, path: Path) -> Bent:
    """The frame along the move."""
    return bent(design, gantry, path.at(MOMENTS))
