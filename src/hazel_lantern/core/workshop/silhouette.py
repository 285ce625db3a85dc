"""The pieces of a rig as seen from the side or from above: outlines of their solids, the nearer over the farther."""

from __future__ import annotations

from collections.abc import Collection

import numpy as np

from hazel_lantern.core.nouns.sketch import BODY, Shape
from hazel_lantern.core.workshop.laid import Bodies, Laid

SIDE, ABOVE = "side", "above"
# Coordinates to the right and up, and the depth that grows towards whoever looks: from the right of the rig, from
# over it.
_AXES = {SIDE: ((0, 2), 1, -1.0), ABOVE: ((0, 1), 2, 1.0)}


def outlines(
    laid: Laid,
    bodies: Bodies,
    view: str,
    layer: str = BODY,
    *,
    without: Collection[str] = (),
    on: Collection[str] | None = None,
) -> list[Shape]:
    """Filled outlines of all solids.

    laid: all pieces of a rig
    bodies: the frame of every body at one pose
    view: side or above
    layer: of the sketch they go to
    without: names of what is left out
    on: bodies they are taken from, None for all

    Returns: shapes in painting order. Source: the hull of a solid's corners, seen along an axis.
    """
    flat, deep, nearer = _AXES[view]
    found: list[tuple[float, Shape]] = []
    for piece in laid.placed:
        if piece.name in without or piece.mass <= 0 or (on is not None and piece.body not in on):
            continue
        frame = bodies[piece.body]
        seen = piece.corners @ frame.axes[0].T + frame.at[0]
        found.append((nearer * float(seen[:, deep].mean()), Shape(hull(seen[:, flat]), piece.fill, layer)))
    found.sort(key=lambda one: one[0])
    return [shape for _, shape in found]


def hull(points: np.ndarray) -> np.ndarray:
    """The smallest convex outline around points.

    points: shape (n, 2), at least three not in line [m]

    Returns: corners, shape (k, 2), anticlockwise [m]. Source: monotone chain.
    """
    # Corners that fall on one another but for dust would make slivers.
    ordered = sorted(set(map(tuple, np.round(points, 9).tolist())))

    def chain(row: list[tuple[float, float]]) -> list[tuple[float, float]]:
        kept: list[tuple[float, float]] = []
        for x, y in row:
            while len(kept) > 1 and (kept[-1][0] - kept[-2][0]) * (y - kept[-2][1]) <= (kept[-1][1] - kept[-2][1]) * (
                x - kept[-2][0]
            ):
                kept.pop()
            kept.append((x, y))
        return kept

    return np.array(chain(ordered)[:-1] + chain(ordered[::-1])[:-1])
