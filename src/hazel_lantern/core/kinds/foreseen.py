"""What the tests of a built rig are foreseen to read:
each kind says it of its own rigs, from what they were drawn as."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec import Struct

from hazel_lantern.core.nouns.sketch import Point
from hazel_lantern.core.nouns.words import Words

NEAR, WIDE = 0.1, 0.3  # either way: what is worked out from sizes, what comes from a table of friction


class Foreseen(Struct, frozen=True):
    """What one test is foreseen to read, from and to, in the unit that it tells; `middle` is what was drawn.

    `takes` is what else of the rig it reckons with [SI], by name. `corrects` names the input that it corrects, as much
    as what is measured differs from `middle`; "" for none. `where` says in words at what place of the rig it is done,
    `at` where its instrument is held, seen from the side [m]; None for at the camera; `pose` what the rig is brought to
    for it, () for half-way of the move. `of` names the parts that it depends on, none for all; `due`
    is how much of what gives is due to what is corrected.
    """

    low: float
    high: float
    middle: float = 0.0
    takes: Mapping[str, float] = {}
    corrects: str = ""
    where: Words | None = None
    at: Point | None = None
    of: tuple[str, ...] = ()
    pose: tuple[float, ...] = ()
    due: float = 1.0


Forecast = Mapping[str, Foreseen]


def around(
    middle: float,
    share: float = NEAR,
    *,
    takes: Mapping[str, float] | None = None,
    corrects: str = "",
    where: Words | None = None,
    at: Point | None = None,
    of: tuple[str, ...] = (),
    pose: tuple[float, ...] = (),
    due: float = 1.0,
) -> Foreseen:
    """A value foreseen to a share of itself either way."""
    ends = sorted(((1 - share) * middle, (1 + share) * middle))
    return Foreseen(ends[0], ends[1], middle, takes or {}, corrects, where, at, of, pose, due)


TRIED = 1.01  # times stiffer, to see how much of what gives is due to it


def due_to(gives: float, stiffer: float) -> float:
    """How much of a give is due to one thing, from the give with that thing `TRIED` times stiffer [m/N]."""
    return (gives - stiffer) / (gives * (1 - 1 / TRIED))
