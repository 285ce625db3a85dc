"""Strips that a hand keeps pace by: where every axis is at each beat of a shot,
and what the head and the focus then do."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.core.document.project import Shot
from hazel_lantern.core.driving.programme import safe
from hazel_lantern.core.kinds.base import DriveAxis
from hazel_lantern.core.motion.by_hand import BAND, CLOSEST, MOST_MARKS, SPACING, count_by, to_mark
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import Finding
from hazel_lantern.core.staging.moves import Scene
from hazel_lantern.core.staging.timing import focus_of

STILL = 1e-4  # metres of strip, or metres or radians of the head, below which nothing is marked


class Strip(Struct, frozen=True):
    """One axis: its name, the radius its strip is put round where it turns [m], and where the pointer is at every beat
    (n,) [m] from the mark it starts at, the way it goes furthest.
    """

    name: str
    round_it: float | None
    at: np.ndarray

    @property
    def crowded(self) -> int:
        """Beats between which the pointer moves, but by less than a hand can tell."""
        gaps = np.abs(np.diff(self.at))
        return int(((gaps > 0) & (gaps < CLOSEST)).sum())


class Beats(Struct, frozen=True):
    """A shot by beats: seconds from one to the next and of each (n,), whether the last one is shorter, the strips of
    the rig's axes and of the head's that turn, and by name and unit what head and focus then read (n,).
    """

    beat: float
    times: np.ndarray
    odd: bool
    strips: tuple[Strip, ...]
    heads: tuple[Strip, ...]
    beside: tuple[tuple[str, str, np.ndarray], ...]


def beats(shot: Shot, scene: Scene, axes: Sequence[DriveAxis], findings: Sequence[Finding]) -> Beats:
    """Strips of a shot's move.

    shot: whose clock it is, holds included; `scene` the rig on its set
    axes: of the rig
    findings: of the rig

    Returns: a strip for each axis that moves; one that turns is put round a disc of 0.1 m radius. Raises: RefusedError
    with a stop about people or structure; InputError where nothing moves or the rig has no shape. Source: drive 4.8.
    """
    safe(findings)
    total = shot.hold_start_s + shot.duration_s + shot.hold_end_s
    ends = scene.at(np.linspace(0.0, 1.0, 97)).poses.q
    moving = [(one, BAND if one.turns else 1.0) for one in axes]
    ways = [float(np.abs(np.diff(ends[:, one.freedom])).sum()) * scale for one, scale in moving]
    if max(ways, default=0.0) <= STILL:
        raise InputError("shot.move", shot.move, "no axis of the rig moves in this shot")
    beat = shot.beat_s or count_by(shot.duration_s, [way for way in ways if way > STILL])
    if total / beat > MOST_MARKS:
        raise InputError(
            "shot.beat", beat, f"makes more than {MOST_MARKS} marks; {math.ceil(total / MOST_MARKS)} s would do"
        )
    whole = int(np.floor(total / beat + 1e-9))
    times = np.arange(whole + 1) * beat
    odd = total - times[-1] > 1e-9 * total
    times = np.append(times, total) if odd else times
    seen = scene.at(np.clip((times - shot.leaves_s) / shot.duration_s, 0.0, 1.0), times)
    if not seen.poses.good.all():
        raise InputError("rig", "the move", "the rig has no shape at some moment of it")
    q, scales = seen.poses.q, seen.scales
    strips = tuple(
        Strip(
            one.name, scale if one.turns else None, to_mark(_ahead(q[:, one.freedom] - q[0, one.freedom]) * scale) + 0.0
        )
        for (one, scale), way in zip(moving, ways, strict=True)
        if way > STILL
    )
    read = (("pan", "rad", scales.pan), ("tilt", "rad", scales.tilt), ("roll", "rad", scales.roll))
    beside = [(name, unit, np.unwrap(angle)) for name, unit, angle in read]
    heads = tuple(
        Strip(f"Head {name}", BAND, to_mark(_ahead(angle - angle[0]) * BAND) + 0.0)
        for name, _, angle in beside
        if np.ptp(angle) * BAND >= SPACING
    )
    beside.append(("focus", "m", focus_of(shot, seen)))
    return Beats(beat, times, odd, strips, heads, tuple(row for row in beside if _changes(row[2])))


def _ahead(gone: np.ndarray) -> np.ndarray:
    """The same way (n,), forwards where it goes furthest."""
    return -gone if -gone.min() > gone.max() else gone


def _changes(values: np.ndarray) -> bool:
    return bool(np.isfinite(values).all() and np.ptp(values) > STILL)
