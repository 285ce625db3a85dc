"""One line for each station of a rig that travels, put together the same way for every kind."""

from __future__ import annotations

from collections.abc import Mapping

from hazel_lantern.core.kinds.base import Figures
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.words import Words

NOT_YET = {"balance": "cannot be worked out", "travel": "cannot be worked out", "build": "nothing to cut yet"}


def headlines(
    move: Move,
    optics: Optics,
    figures: Figures,
    way: float,
    rig: Words,
    lines: Mapping[str, tuple[str, tuple[str, ...]]],
) -> dict[str, Words]:
    """Words by station: the shot's way [m], time and lens; the rig's own; and for each other station a template with
    the figures that fill it.
    """
    found = {
        "shot": Words("{} in {}, {}", ((way, "m"), (move.duration_s, "s"), (optics.focal_m, "m:lens"))),
        "rig": rig,
    }
    for station, (template, keys) in {**lines, "build": ("{} to cut, {}", ("build.pieces", "build.cost"))}.items():
        if all(key in figures for key in keys):
            found[station] = Words(template, tuple((figures[key].value, figures[key].unit) for key in keys))
        else:
            found[station] = Words(NOT_YET[station])
    return found
