"""What a rig passes over: how far the lowest of what hangs from it clears what stands below, over its whole travel."""

from __future__ import annotations

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.document.project import FilmSet, Thing
from hazel_lantern.core.kinds.fall import Hangs
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, STOP, WATCH
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.staging.moves import Staged
from hazel_lantern.core.staging.things import ANCHOR, BEAM, ROOM, ZONE, plain, turn

PLAIN = (ANCHOR, BEAM, ROOM, ZONE)  # what nothing hangs down into


def over_figures(stage: FilmSet, low: Hangs, seen: Staged) -> Told:
    """Every thing that lies below some place of the travel, wherever it may stand meanwhile."""
    tell = Teller()
    places = seen.where.on_set(low.places)
    for thing in stage.things:
        if thing.kind in PLAIN:
            continue
        found = [_least(there, places, low) for there in _stands(thing)]
        below = [pair for pair in found if pair is not None]
        if not below:
            continue
        gap, asked = min(below, key=lambda pair: pair[0] - pair[1])
        key = f"shot.over.{thing.id}"
        tell.add(
            by_method(
                key,
                f"Passes over {thing.name} by",
                gap,
                "m",
                "the lowest of what hangs over its top, over the whole travel",
                (Given("z", thing.at_m[2] + thing.size_m[2], "m", "its top", f"thing.{thing.id}.height"),),
                source="geometry",
            )
        )
        words = (
            Words(f"It passes over {plain(thing)} by {{}}; {{}} is asked.", ((gap, "m"), (asked, "m")))
            if gap > 0
            else Words(f"On its way it would run into {plain(thing)}, {{}} too low.", ((-gap, "m"),))
        )
        state = CLEAR if gap >= asked else WATCH if gap > asked / 2 else STOP
        tell.hold(
            key, key, f"Clear of {thing.name}", PICTURE, f"thing.{thing.id}.height", words, at_least=asked, state=state
        )
    return tell.told()


def _stands(thing: Thing) -> list[Thing]:
    """Where it stands, and where it stops."""
    stops = [replace(thing, at_m=stop.at_m, turn_rad=stop.turn_rad) for stop in thing.stops]
    return [thing, *stops]


def _least(thing: Thing, places: np.ndarray, low: Hangs) -> tuple[float, float] | None:
    """The least gap over it and what is asked there [m]; None where nothing passes over it."""
    flat = (places[:, :2] - np.asarray(thing.at_m[:2])) @ turn(-thing.turn_rad)
    wide, deep = np.asarray(thing.size_m[:2]) / 2 + low.aside
    over = (np.abs(flat[:, 0]) <= wide) & (np.abs(flat[:, 1]) <= deep)
    if not over.any():
        return None
    gaps = places[over, 2] - thing.at_m[2] - thing.size_m[2]
    worst = int(np.argmin(gaps - low.asks[over]))
    return float(gaps[worst]), float(low.asks[over][worst])
