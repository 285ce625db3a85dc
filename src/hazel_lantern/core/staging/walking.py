"""Things that move on the set while the camera runs: where each is at any moment of the shot's clock."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.document.project import FilmSet, Thing
from hazel_lantern.core.motion.keyframes import flow
from hazel_lantern.core.staging.things import SORTS

WAY = 60  # moments of the way to each stop that are looked at


def track(thing: Thing, times: np.ndarray) -> np.ndarray:
    """Where a thing is and how it is turned.

    times: moments of the shot's clock (n,) [s]

    Returns: x, y, z [m] and turn [rad] (n, 4); before its first stop's time it has set out from where it stands, after
    the last it stays. Raises: InputError for stops out of order. Source: drive 4.4 for each of the four.
    """
    start = (*thing.at_m, thing.turn_rad)
    if not thing.stops:
        return np.tile(start, (len(times), 1))
    clock = [0.0, *(stop.time_s for stop in thing.stops)]
    rows = [start, *((*stop.at_m, stop.turn_rad) for stop in thing.stops)]
    return np.column_stack([flow(clock, [row[k] for row in rows]).at(times)[0] for k in range(4)])


def aims(thing: Thing, times: np.ndarray) -> np.ndarray:
    """Where a lens aims at it, moment by moment (n, 3) [m]."""
    return np.asarray(track(thing, times)[:, :3] + (0.0, 0.0, SORTS[thing.kind].aim * thing.size_m[2]))


def things_at(things: Sequence[Thing], times: np.ndarray) -> list[tuple[Thing, ...]]:
    """The things as they stand at each of n moments; one list for all where none of them moves."""
    still = tuple(things)
    if not any(thing.stops for thing in still):
        return [still]
    tracks = [track(thing, times) if thing.stops else None for thing in still]
    return [
        tuple(
            thing if way is None else replace(thing, at_m=tuple(way[k, :3].tolist()), turn_rad=float(way[k, 3]))
            for thing, way in zip(still, tracks, strict=True)
        )
        for k in range(len(times))
    ]


def places(thing: Thing) -> tuple[Thing, ...]:
    """The thing at many places of its whole way, or where it stands."""
    if not thing.stops:
        return (thing,)
    return tuple(now for (now,) in things_at([thing], _moments(thing)))


def stage_at(stage: FilmSet, time: float) -> FilmSet:
    """The set as it is at one moment [s]."""
    return replace(stage, things=things_at(stage.things, np.array([time]))[0])


def fastest(thing: Thing) -> float:
    """The greatest speed over the ground of a thing that moves [m/s]."""
    clock = [0.0, *(stop.time_s for stop in thing.stops)]
    rows = [thing.at_m, *(stop.at_m for stop in thing.stops)]
    speeds = [flow(clock, [row[k] for row in rows]).at(_moments(thing))[1] for k in range(2)]
    return float(np.hypot(*speeds).max())


def _moments(thing: Thing) -> np.ndarray:
    """As many moments on the way to each of its stops, so that a dash in a long walk is not stepped over (n,) [s]."""
    clock = [0.0, *(stop.time_s for stop in thing.stops)]
    return np.concatenate([np.linspace(a, b, WAY + 1) for a, b in pairwise(clock)])
