"""The long pieces of a rig and its weights as members that may come into the picture or hit something."""

from __future__ import annotations

from collections.abc import Collection

import numpy as np

from hazel_lantern.core.kinds.base import Member, Run
from hazel_lantern.core.kinds.shared.drop_post import PLATFORM_NAME
from hazel_lantern.core.workshop.laid import Bodies, Pieces
from hazel_lantern.core.workshop.solids import Place

SLENDER = 2.0  # times its width that a piece is long at least, to count as straight
SHOWN = ("rope", "weight")  # fills of ready-made things that are large or in the way


def members_of(pieces: Pieces, bodies: Bodies, moving: Collection[str]) -> list[Run]:
    """Every long piece from end to end, half its width thick, and weights and ropes; what lies close about the camera
    is left out.

    pieces: all of a rig
    bodies: the frame of every body at n poses
    moving: the bodies that move with the camera

    Returns: members with ends (n, 3) [m].
    """
    found: list[Run] = []
    for part in pieces.parts:
        long, wide, deep = part.solid.box
        if long < SLENDER * max(wide, deep) or part.name == PLATFORM_NAME:
            continue
        for place in part.places:
            member = Member(part.name.lower(), max(wide, deep) / 2, place.body in moving)
            found.append((member, *_ends(place, bodies, 0.0, long)))
    for thing in pieces.things:
        long, wide, deep = thing.outline.box
        if thing.fill not in SHOWN or thing.mass <= 0:
            continue
        for place in thing.places:
            member = Member(thing.name.lower(), max(wide, deep) / 2, place.body in moving)
            found.append((member, *_ends(place, bodies, -long / 2, long / 2)))
    return found


def _ends(place: Place, bodies: Bodies, begins: float, ends: float) -> tuple[np.ndarray, np.ndarray]:
    """Two points along a solid (n, 3), so far from its own origin [m]."""
    body, at, along = bodies[place.body], np.array(place.at), np.array(place.along)
    return body.place(at + begins * along), body.place(at + ends * along)
