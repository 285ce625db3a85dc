"""Where pieces are in one another: the least change of an input with which they no longer are."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Carried, Changes, Design
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.finding import Remedy, set_one
from hazel_lantern.core.workshop.fouls import LOOKED, Foul, fouls, hulls
from hazel_lantern.core.workshop.laid import Bodies

STEPS = 8  # of an input that are tried
Matters = Callable[[Foul], bool]


def among(*names: str) -> Matters:
    """Of pieces called so."""
    return lambda foul: foul.one.lower() in names or foul.other.lower() in names


def any_of_them(foul: Foul) -> bool:
    """Of all pieces."""
    return True


class Way(Struct, frozen=True):
    """An input that may clear pieces: what is said of its new value, the step it is changed by [its own unit], the
    values it keeps to, and which pieces matter.
    """

    place: str
    words: str
    step: float
    low: float = 0.0
    high: float = 10.0
    matters: Matters = any_of_them

    def steps(self, design: Design) -> Iterator[Changes]:
        """Further and further from what it is, first closely and then in longer steps."""
        values = (round(design.number(self.place) + n * (n + 1) / 2 * self.step, 4) for n in range(1, STEPS + 1))
        return (((self.place, value),) for value in values if self.low <= value <= self.high)


class Cleared:
    """Tries changes of a design at all poses of a move: `make` makes the mechanism of a design, `bodies` is where its
    pieces are at poses.
    """

    def __init__(
        self, design: Design, path: Path, make: Callable[[Design], Any], bodies: Callable[[Any, np.ndarray], Bodies]
    ) -> None:
        self._design, self._path, self._make, self._bodies = design, path, make, bodies

    def first(self, options: Iterable[Changes], matters: Matters) -> Changes:
        """The first with which nothing that matters is in anything; none where none is."""
        for changes in options:
            try:
                made = self._make(changed(self._design, changes))
                at = replace(self._path, model=made).at(LOOKED)
            except HazelError:
                continue  # no rig at all
            if not any(map(matters, fouls(hulls(made.laid), self._bodies(made, at), len(LOOKED)))):
                return changes
        return ()

    def remedies(self, ways: Iterable[Way], found: tuple[Foul, ...]) -> Iterator[Remedy]:
        """The least of each way that clears what is found of what matters to it."""
        for n, way in enumerate(ways):
            if way.place in self._design.values and any(map(way.matters, found)):
                for place, value in self.first(way.steps(self._design), way.matters):
                    yield set_one(f"clear_{n}", way.words, place, float(value), "m")  # type: ignore[arg-type]


def changed(design: Design, changes: Changes) -> Design:
    return replace(design, values={**design.values, **dict(changes)})


def clearing_by(
    build: Callable[[Design, Carried], Any], bodies: Callable[[Any, np.ndarray], Bodies], *ways: Way
) -> Callable[..., tuple[Remedy, ...]]:
    """What may be tried where pieces of a kind are in one another, by its ways."""

    def clearing(
        design: Design, kit: Carried, path: Path, fouls: tuple[Foul, ...], suggest: bool
    ) -> tuple[Remedy, ...]:
        if not fouls or not suggest:
            return ()
        cleared = Cleared(design, path, lambda other: build(other, kit), bodies)
        return tuple(cleared.remedies(ways, fouls))

    return clearing
