"""Handling that rigs with a travelling carriage share: the order of loading, and what another camera kit asks for."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Carried, Design, OtherKit, Swap
from hazel_lantern.core.nouns.words import Words


def centred_for_other_kits(design: Design, others: tuple[OtherKit, ...]) -> tuple[Swap, ...]:
    """For each other kit of the project: where its mount must sit so that its centre lies over the middle of the
    carriage.
    """
    # Half of the carriage's own mass goes with the mount.
    return centred(design, others, design.number("carriage.mass") / 2)


def centred(design: Design, others: tuple[OtherKit, ...], along: float) -> tuple[Swap, ...]:
    """The same where so much [kg] goes along with the mount."""
    heading = design.number("camera.heading")
    cos, sin = math.cos(heading), math.sin(heading)
    found = []
    for kit in others:
        share = -kit.mass / (kit.mass + along)
        out, across = kit.ahead * cos - kit.aside * sin, kit.ahead * sin + kit.aside * cos
        ahead, aside = (round(min(0.5, max(-0.5, share * off)), 3) + 0.0 for off in (out, across))
        moved = math.hypot(ahead - design.number("camera.ahead"), aside - design.number("camera.aside"))
        words = Words("move the mount by {}", ((moved, "m"),)) if moved > 5e-4 else Words("the mount stays where it is")
        found.append(Swap(kit.id, words, (("kit", kit.id), ("camera.ahead", ahead), ("camera.aside", aside))))
    return tuple(found)


def stood_up(design: Design, kit: Carried, stands: int) -> tuple[Words, ...]:
    """Loading a rail on stands, or on a table with none; it is unloaded backwards."""
    load = (kit.payload.mass, "kg")
    first = (
        Words(
            f"Set {'the stand' if stands == 1 else 'both stands'} level, feet {{}} from the centre, and lock",
            ((design.number("stand.radius"), "m"),),
        )
        if stands
        else Words("Lay the rail on a clean table, all feet touching")
    )
    bag = design.number("ballast.mass")
    return (
        first,
        *((Words("Hang {} of ballast below, clear of the ground", ((bag, "kg"),)),) if bag > 0 else ()),
        Words("Rail on, clamps tight, end stops in place; try the carriage empty from end to end"),
        Words("Park the carriage over a support and lock it"),
        Words("Camera on, {}, cable slack for the whole travel", (load,)),
        Words("Unlock with a hand on the carriage; on a slope never let go of it"),
        Words("To unload go backwards: lock, then the camera, the rail last"),
    )


def hung_up(design: Design, kit: Carried) -> tuple[Words, ...]:
    """Loading a rig overhead; it is unloaded backwards."""
    return (
        Words("Clear and close off the floor below; nobody under it from now on"),
        Words("Look at every anchor, clamp, shackle and end stop"),
        Words("Run the empty carriage or trolley from end to end, listening for what binds"),
        Words(
            "Tether on before the camera: its own anchor, no more than {} of slack",
            ((design.number("tether.slack"), "m"),),
        ),
        Words("Camera on, {}, from a firm ladder with a second person", ((kit.payload.mass, "kg"),)),
        Words("Load it once with a hand before anybody comes near"),
        Words("To unload go backwards: camera off, the tether last"),
    )
