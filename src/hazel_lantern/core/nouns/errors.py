"""The error family of the core.

HazelError
 ├── InputError           a value outside its domain; names the field
 ├── GeometryError        the mechanism cannot close or has no usable range
 ├── InfeasibleError      good inputs, no answer; carries the nearest feasible value
 ├── SingularModelError   a structure with a loose part; names it
 └── RefusedError         the product will not design this; carries the reason

A design that is merely bad is none of these: it is a finding.
"""

from __future__ import annotations

from typing import NamedTuple

SHOWN = 80  # characters of a value that an error shows


def short(words: str, most: int = SHOWN) -> str:
    """Words of any length in one readable line; what breaks a line or cannot be seen stands as its code."""
    if not words.isprintable():
        words = "".join(c if c.isprintable() else c.encode("unicode_escape").decode() for c in words)
    return words if len(words) <= most else words[: most - 1] + "…"


class HazelError(Exception):
    """Something the builder can act on; its text is one clear sentence."""


class InputError(HazelError):
    """A value outside its domain."""

    def __init__(self, field: str, value: object, allowed: str) -> None:
        self.field, self.value, self.allowed = field, value, allowed
        super().__init__(f"{short(field)} is {short(str(value))}: {allowed}")


class Mend(NamedTuple):
    """What would do: in words, with the lengths they tell [m], and as the inputs it changes."""

    words: str
    changes: tuple[tuple[str, object], ...]
    lengths: tuple[float, ...] = ()


def mend_at(words: str, place: str, length: float) -> Mend:
    """One length of a rig another [m]."""
    return Mend(words, ((place, round(length, 3)),), (round(length, 3),))


class GeometryError(HazelError):
    """The parts cannot meet, or nothing of the range is left. `mends`: what would do."""

    def __init__(self, reason: str, *mends: Mend) -> None:
        self.mends = mends
        super().__init__(reason)


class InfeasibleError(HazelError):
    """Valid inputs without an answer."""

    def __init__(self, reason: str, code: str = "", **nearest: float) -> None:
        self.code, self.nearest = code, nearest
        super().__init__(reason)


class SingularModelError(HazelError):
    """A structure that can move freely."""

    def __init__(self, node: str, dof: str, reason: str) -> None:
        self.node, self.dof = node, dof
        super().__init__(reason)


class RefusedError(HazelError):
    """The product does not design this."""

    def __init__(self, reason: str, code: str = "") -> None:
        self.code = code
        super().__init__(reason)
