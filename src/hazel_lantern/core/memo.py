"""Answers kept from one evaluation to the next: each step is known by the versions of what it read."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from itertools import count
from typing import Any, NamedTuple

from hazel_lantern.core.nouns.progress import go_on

PLAIN = (float, int, str, bool)
KEPT = 4  # answers of one step: a remedy tried on and taken off again, a drag there and back


class Kept(NamedTuple):
    """A value and its version: two values of one version are the same."""

    version: int
    value: Any


class Memo:
    """The last few answers of each step. Belongs to whoever evaluates, and never grows beyond its bounds."""

    def __init__(self, kept: int = KEPT) -> None:
        self._most = kept
        self._versions = count(1)
        self._answers: dict[Hashable, dict[Hashable, Kept]] = {}
        self._sources: dict[str, list[tuple[Any, Kept]]] = {}

    def source(self, name: str, value: Any, told_by: Any = None) -> Kept:
        """Something given, under the version of an equal one given before; `told_by` is compared in its place where
        it says all of it.
        """
        told_by = value if told_by is None else told_by
        row = self._sources.setdefault(name, [])
        for known, held in row:
            if known is told_by or known == told_by:
                return held
        held = Kept(next(self._versions), value)
        row.insert(0, (told_by, held))
        del row[self._most :]
        return held

    def step(self, name: Hashable, key: Hashable, work: Callable[[], Any]) -> Kept:
        """The answer of a step for a key; worked out when it is not among the last few."""
        answers = self._answers.get(name)
        if answers is None:
            answers = self._answers[name] = {}
        held = answers.pop(key, None)
        if held is None:
            go_on()
            value = work()
            # A plain answer that comes out as before is the same one: what reads it need not be worked out again.
            same = (
                next((known for known in answers.values() if known.value == value), None)
                if isinstance(value, PLAIN) or (type(value) is tuple and all(type(one) is float for one in value))
                else None
            )
            held = same or Kept(next(self._versions), value)
        # The last asked for stands last; the one not asked for longest goes.
        answers[key] = held
        if len(answers) > self._most:
            del answers[next(iter(answers))]
        return held

    @property
    def held(self) -> int:
        """How many answers and sources are held."""
        return sum(map(len, self._answers.values())) + sum(map(len, self._sources.values()))
