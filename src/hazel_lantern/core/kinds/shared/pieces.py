"""The long pieces of a rig and its weights as members that may come into the picture or hit something."""

from __future__ import annotations

from collections.abc import Collection

from hazel_lantern.core.kinds.base import Member, Run
from hazel_lantern.core.kinds.shared.drop_post import PLATFORM_NAME
from hazel_lantern.core.workshop.laid import Bodies, Pieces

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
            frame = place.frame(bodies)
            found.append(
                (
                    Member(part.name.lower(), max(wide, deep) / 2, place.body in moving),
                    frame.at,
                    frame.place((long, 0.0, 0.0)),
                )
            )
    for thing in pieces.things:
        long, wide, deep = thing.outline.box
        if thing.fill not in SHOWN or thing.mass <= 0:
            continue
        for place in thing.places:
            frame = place.frame(bodies)
            found.append(
                (
                    Member(thing.name.lower(), max(wide, deep) / 2, place.body in moving),
                    frame.place((-long / 2, 0.0, 0.0)),
                    frame.place((long / 2, 0.0, 0.0)),
                )
            )
    return found
