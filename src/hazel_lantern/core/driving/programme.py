"""The move as a motion controller plays it: every axis that moves, over the shot's clock, and how far each may go."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.core.document import drives as d
from hazel_lantern.core.document.project import Shot
from hazel_lantern.core.driving.driven import Broken, Driven
from hazel_lantern.core.kinds.base import DriveAxis
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError, RefusedError
from hazel_lantern.core.nouns.finding import PEOPLE, STOP, STRUCTURE, Finding
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.staging.moves import Scene
from hazel_lantern.core.staging.timing import focus_of, grid

LETTERS = ("X", "Y", "U", "V")  # of the rig's own axes; of the head A, B and C, of the focus Z
STILL = 5e-5  # mm or degrees below which an axis stands still
MISSED = 1e-4  # of the way: more than that made while an axis stands at its end is a move cut short
MM, DEG = "mm", "deg"


class Channel(Struct, frozen=True):
    """One axis of a programme: its letter, name and unit, where it is at every time (n,), and from where to where it
    may go; None for what turns round and round, and for the head and the focus, whose own stops are not known here.
    """

    letter: str
    name: str
    unit: str
    places: np.ndarray
    limits: tuple[float, float] | None = None


class Programme(Struct, frozen=True):
    """Times (n,) [s] from the start of the shot's clock, and all that moves; between two times straight on."""

    times: np.ndarray
    channels: tuple[Channel, ...]


def programme(
    shot: Shot, scene: Scene, axes: Sequence[DriveAxis], driven: Sequence[Driven | Broken], findings: Sequence[Finding]
) -> Programme:
    """A shot's move, axis by axis.

    shot: whose clock it is; `scene` the rig on its set
    axes: of the rig, and those of them that are `driven`
    findings: of the rig

    Returns: it, at every captured frame and at every key. Raises: RefusedError with a stop about people or structure,
    or without a motor on an axis that moves; InfeasibleError AXIS_LIMIT for a move past where an axis may go, or
    beyond its motor;
    InputError for a move too long to write, a rig without a shape. Source: drive 6.2, 6.5.
    """
    safe(findings)
    clock = _clock(shot)
    seen = scene.at(np.clip((clock - shot.leaves_s) / shot.duration_s, 0.0, 1.0), clock)
    if not seen.poses.good.all():
        raise InputError("rig", "the move", "the rig has no shape at some moment of it")
    motors = {one.axis.key: one for one in driven if isinstance(one, Driven) and one.drive.source in d.MOTORS}
    moving: list[Channel] = []
    for axis in axes:
        factor, unit = (180 / np.pi, DEG) if axis.turns else (1e3, MM)
        places = seen.poses.q[:, axis.freedom] * factor
        if np.ptp(places) <= STILL:
            continue
        if axis.key not in motors:
            raise RefusedError(f"{axis.name} moves in this shot, and no motor that works drives it", "NO_MOTOR")
        _strong(motors[axis.key], shot)
        moving.append(Channel(LETTERS[len(moving)], axis.name, unit, places, _ends(motors[axis.key], factor)))
        _within(clock, moving[-1], seen.share)
    scales, focus = seen.scales, focus_of(shot, seen) * 1e3
    head = (("A", "Head pan", scales.pan), ("B", "Head tilt", scales.tilt), ("C", "Head roll", scales.roll))
    worked = [Channel(letter, name, DEG, np.degrees(np.unwrap(angle)) + 0.0) for letter, name, angle in head]
    if np.isfinite(focus).all():
        worked.append(Channel("Z", "Focus", MM, focus))
    moving += [one for one in worked if np.ptp(one.places) > STILL]
    if not moving:
        raise InputError("shot.move", shot.move, "nothing moves in this shot")
    return Programme(clock, tuple(moving))


def safe(findings: Sequence[Finding]) -> None:
    """Raise RefusedError with a stop about people or structure among the findings."""
    for finding in findings:
        if finding.state == STOP and finding.about in (PEOPLE, STRUCTURE):
            words = finding.sentence.text(Display())
            raise RefusedError(f"{finding.title} is a stop: {words} The move is not written before", "STOP")


def _clock(shot: Shot) -> np.ndarray:
    """Every frame, every moment at which a key is reached or left, and the end."""
    total = shot.hold_start_s + shot.duration_s + shot.hold_end_s
    keys = [t for key in shot.keys for t in (key.time_s, key.time_s + key.hold_s)]
    keys += [key.time_s for axis in shot.axes for key in axis.keys]
    return np.unique(np.round(np.minimum([*grid(shot), *keys], total), 6))


def _ends(one: Driven, factor: float) -> tuple[float, float] | None:
    """From where to where an axis may go, in the unit of its channel."""
    return None if one.soft is None else (one.soft[0] * factor, one.soft[1] * factor)


def _strong(one: Driven, shot: Shot) -> None:
    """A motor that cannot give what the shot asks is refused, with the moment it stalls at."""
    asked = one.needs[0]
    if asked.spare[asked.worst] < 1:
        stalls = shot.leaves_s + float(asked.clock[asked.worst])
        raise InfeasibleError(
            f"{one.axis.name}: at {stalls:.2f} s its motor is asked for more than it gives at that speed",
            "AXIS_LIMIT",
            t=stalls,
        )


def _within(clock: np.ndarray, one: Channel, share: np.ndarray) -> None:
    """An axis that goes beyond its soft limits, or comes to its end before the move does, is refused with the moment
    and what it has.
    """
    if one.limits is None:
        return
    low, high = one.limits
    past = np.maximum(low - one.places, one.places - high)
    if past.max() > STILL:
        first = int(np.argmax(past > STILL))
        raise InfeasibleError(
            f"{one.name} passes its soft limit at {clock[first]:.2f} s, by {past.max():.2f} {one.unit} at the "
            "furthest: "
            f"they are {low:.1f} and {high:.1f} {one.unit}; {past.max():.2f} {one.unit} further out they would do",
            "AXIS_LIMIT",
            t=float(clock[first]),
        )
    stuck = past >= -STILL
    missed = np.where(stuck[1:] & stuck[:-1], np.abs(np.diff(share)), 0.0)
    if missed.sum() > MISSED:
        first = int(np.argmax(missed > 0))
        raise InfeasibleError(
            f"{one.name} comes to its end at {clock[first]:.2f} s while the move goes on: "
            f"it has {low:.1f} to {high:.1f} {one.unit}",
            "AXIS_LIMIT",
            t=float(clock[first]),
        )
