"""What of a rig could come down, on whom: under all of it that hangs or swings."""

from __future__ import annotations

import numpy as np
from msgspec import Struct


class FallZone(Struct, frozen=True):
    """Where something of a rig could fall, swing or fly to over its whole travel, seen from above: a convex outline
    (k, 2) in the rig frame, in order, grown all round by so much [m]; `overhead` where it hangs there, else an arm
    passes. What it `does` there in words, what the line on the plan is `called`, and the input with its value and words
    that says people inside were reckoned with, none where nobody may be.
    """

    core: np.ndarray
    grown: float
    overhead: bool
    does: str
    called: str
    reckons: tuple[str, str, str] | None = None


class Hangs(Struct, frozen=True):
    """The lowest of what hangs from a rig at n places of its whole travel (n, 3) in the rig frame [m], and how far it
    must stay clear of what stands below at each (n,); how far aside it may reach [m].
    """

    places: np.ndarray
    asks: np.ndarray
    aside: float


def falls_to(core: np.ndarray, grown: float) -> FallZone:
    """Of what hangs overhead."""
    return FallZone(core, grown, True, "could fall", "could fall to here")


def swings_to(core: np.ndarray, grown: float) -> FallZone:
    """Of an arm that swings past."""
    return FallZone(
        core,
        grown,
        False,
        "swings or could fall",
        "swings to here",
        ("safety", "C", "Reckon with people near: class C"),
    )
