"""What hurts most: which inputs move the worst finding most."""

from __future__ import annotations

import math
from collections.abc import Iterator

from msgspec import Struct

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.editing.bindings import bindings
from hazel_lantern.core.editing.changes import set_values
from hazel_lantern.core.editing.place import Binding
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.finding import BUILD, RANK, Finding
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.core.nouns.words import within

STEP = 0.1  # share by which each input is moved; a builder can picture a tenth
LEAST = 1e-3  # a share of the limit below this is no move


class Hurt(Struct, frozen=True):
    """How the share of the limit that is used moves (0.2 is a fifth more) with a tenth less and a tenth more of
    one input; None beyond its bounds, or where the rig cannot be built so.
    """

    key: str
    label: str
    less: float | None
    more: float | None

    @property
    def most(self) -> float:
        """The larger of both moves, without its sign."""
        return max(abs(move) for move in (self.less, self.more, 0.0) if move is not None)


def worst_finding(result: Evaluation) -> Finding | None:
    """The finding with a number that is worst: by its state, then by how much of its limit is used. Counts move by
    whole things, so no tenth moves them; costs and cuts hurt nobody.
    """
    numbered = [
        f for f in result.findings if f.about != BUILD and f.unit != "count" and math.isfinite(f.use) and f.use > 0
    ]
    return max(numbered, key=lambda f: (RANK[f.state], f.use), default=None)


def what_hurts(
    project: Project, catalogue: Catalogue, rig_id: str, shot_id: str, finding: Finding
) -> Iterator[Progress[tuple[Hurt, ...]]]:
    """Steps of moving every number of rig, camera and shot by a tenth; the answer, the most first, grows with them."""
    known, memo = bindings(project, rig_id, shot_id), Memo()
    keys = [key for key, one in known.items() if _movable(project, one)]
    found: list[Hurt] = []

    def used(key: str, value: float) -> float | None:
        try:
            changed = set_values(project, rig_id, [(key, value)], known, shot_id)
        except HazelError:
            return None  # beyond its bounds, or at odds with another input
        result = evaluate(changed, catalogue, rig_id, shot_id, memo)
        return next((f.use for f in result.findings if f.key == finding.key and math.isfinite(f.use)), None)

    for done, key in enumerate(keys):
        now, moves = float(known[key].place.get(project)), list[float | None]()
        for value in (now * (1 - STEP), now * (1 + STEP)):
            yield Progress(done, len(keys), _ranked(found))
            use = used(key, value)
            moves.append(None if use is None else use / finding.use - 1)
        asked = known[key].parameter
        hurt = Hurt(key, f"{asked.label} ({within(asked.group)})" if asked.group else asked.label, moves[0], moves[1])
        if hurt.most > LEAST:
            found.append(hurt)
    yield Progress(len(keys), len(keys), _ranked(found))


def _movable(project: Project, one: Binding) -> bool:
    return isinstance(one.parameter, Quantity) and float(one.place.get(project) or 0.0) != 0.0


def _ranked(found: list[Hurt]) -> tuple[Hurt, ...]:
    return tuple(sorted(found, key=lambda one: -one.most))
