"""Marks measured from one datum, and what rounding to a tape costs."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.nouns.check import positive
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import INCH, inches

HOLE, SLOT, LINE = "hole", "slot", "line"


class Mark(Struct, frozen=True):
    """Something to mark on a face of a part: distance from the datum end [m], what it is, its diameter or width [m],
    0 for a line to put something at, where a slot ends [m], what it is for.

    face: top, side or end; across: from the datum edge of that face [m], None on its middle line; fastening: what
    goes through, "" for nothing bought for it
    """

    at: float
    what: str
    size: float = 0.0
    until: float | None = None
    note: str = ""
    across: float | None = None
    face: str = "side"
    fastening: str = ""

    @property
    def sort(self) -> tuple[object, ...]:
        """All that it has in common with others of a row."""
        return self.what, self.size, self.note, self.across, self.face, self.fastening


class Run(Struct, frozen=True):
    """Marks told as one: a single one, or holes of one sort at one pitch [m]."""

    marks: tuple[Mark, ...]

    @property
    def pitch(self) -> float:
        """From hole to hole, 0 for a single mark [m]."""
        return self.marks[1].at - self.marks[0].at if len(self.marks) > 1 else 0.0


def runs(marks: tuple[Mark, ...]) -> tuple[Run, ...]:
    """Three and more like holes at one pitch drawn together, all else one by one.

    marks: from the datum end, in order

    Returns: the runs, in order. Source: workshop habit.
    """
    found: list[list[Mark]] = []
    for mark in marks:
        last = found[-1] if found else []
        like = bool(last) and mark.until is None and last[-1].until is None and mark.sort == last[-1].sort
        if like and (len(last) == 1 or math.isclose(mark.at - last[-1].at, last[1].at - last[0].at, abs_tol=1e-7)):
            last.append(mark)
        else:
            found.append([mark])
    return tuple(
        Run(tuple(run)) if len(run) > 2 else Run((mark,))
        for run in found
        for mark in (run[:1] if len(run) > 2 else run)
    )


def to_tape(length: float, denominator: int) -> float:
    """A length as the nearest tape division, half away from zero.

    length: true length [m]
    denominator: 16, 32 or 64 divisions an inch [-]

    Returns: marked length [m]. Raises: InputError for another denominator. Source: drive 7.5.
    """
    if denominator not in (16, 32, 64):
        raise InputError("denominator", denominator, "must be 16, 32 or 64")
    return math.copysign(math.floor(abs(length) / INCH * denominator + 0.5) * INCH / denominator, length)


def tape_text(length: float, denominator: int) -> str:
    """What to read on the tape, as inches and a reduced fraction.

    length: true length [m]
    denominator: 16, 32 or 64 divisions an inch [-]

    Returns: text such as 12 7/16. Raises: InputError for another denominator. Source: drive 7.5.
    """
    to_tape(length, denominator)
    return inches(length, denominator)


def last_mark_errors(pitch: float, count: int, denominator: int) -> tuple[float, float]:
    """How far the last of equal pitches lands off, from one datum and chained.

    pitch: true pitch [m]
    count: number of pitches [-]
    denominator: 16, 32 or 64 divisions an inch [-]

    Returns: error measured from the datum, error when chained, marked minus true [m].
    Raises: InputError. Source: drive 7.5.
    """
    positive(pitch=pitch, n=count)
    true = pitch * count
    return to_tape(true, denominator) - true, to_tape(pitch, denominator) * count - true
