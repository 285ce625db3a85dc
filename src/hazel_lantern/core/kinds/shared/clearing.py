"""The first of several changes with which pieces are no longer in one another."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Changes, Design
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.workshop.fouls import LOOKED, Foul, fouls, hulls
from hazel_lantern.core.workshop.laid import Bodies


class Cleared:
    """Tries changes of a design at all poses of a move.

    design: as it stands; `make` makes the mechanism of a design, `bodies` where its pieces are at poses.
    """

    def __init__(
        self, design: Design, path: Path, make: Callable[[Design], Any], bodies: Callable[[Any, np.ndarray], Bodies]
    ) -> None:
        self._design, self._path, self._make, self._bodies = design, path, make, bodies

    def first(self, options: Iterable[Changes], matters: Callable[[Foul], bool]) -> Changes:
        """The first with which nothing that matters is in anything; none where none is."""
        for changes in options:
            try:
                found = self._with(changes)
            except HazelError:
                continue  # no rig at all
            if not any(map(matters, found)):
                return changes
        return ()

    def _with(self, changes: Changes) -> tuple[Foul, ...]:
        made = self._make(changed(self._design, changes))
        at = replace(self._path, model=made).at(LOOKED)
        return fouls(hulls(made.laid), self._bodies(made, at), len(LOOKED))


def changed(design: Design, changes: Changes) -> Design:
    return replace(design, values={**design.values, **dict(changes)})


def among(*names: str) -> Callable[[Foul], bool]:
    """Those of pieces called so."""
    return lambda foul: foul.one.lower() in names or foul.other.lower() in names
