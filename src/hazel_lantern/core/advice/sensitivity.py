"""How far one input must move to change a verdict."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from msgspec import Struct

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.editing.bindings import bindings
from hazel_lantern.core.editing.changes import set_values
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.figure import Figure
from hazel_lantern.core.nouns.finding import Finding
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.quantity import Quantity

STEPS, HALVINGS = 14, 12


class Turn(Struct, frozen=True):
    """The nearest value of a parameter [SI] at which a verdict changes, and what it turns to."""

    key: str
    value: float
    state: str


def judged_by(evaluation: Evaluation, figure: Figure) -> Finding | None:
    """The finding that judges a figure; the worst of several."""
    return next((f for f in evaluation.findings if f.figure == figure.key), None)


def turning_points(
    project: Project, catalogue: Catalogue, rig_id: str, shot_id: str, finding: Finding, keys: Sequence[str]
) -> Iterator[Progress[tuple[Turn, ...]]]:
    """For each parameter, where the finding's state changes: searched outwards within its bounds, then halved; a step
    an evaluation.
    """
    search = _Search(project, catalogue, rig_id, shot_id, finding)
    found: list[Turn] = []
    total = 2 * len(keys) * (STEPS + HALVINGS)
    for index, key in enumerate(keys):
        nearest: list[tuple[float, Turn]] = []
        for side, bound in enumerate(search.bounds(key)):
            done = (2 * index + side) * (STEPS + HALVINGS)
            for turn in search.outwards(key, bound):
                done += 1
                if turn is not None:
                    nearest.append((abs(turn.value - search.now(key)), turn))
                yield Progress(min(done, total), total, tuple(found))
        if nearest:
            found.append(min(nearest, key=lambda pair: pair[0])[1])
    yield Progress(total, total, tuple(found))


class _Search:
    """Tries values of one parameter and looks at one finding."""

    def __init__(self, project: Project, catalogue: Catalogue, rig_id: str, shot_id: str, finding: Finding) -> None:
        self._project, self._catalogue, self._rig, self._shot, self._finding = (
            project,
            catalogue,
            rig_id,
            shot_id,
            finding,
        )
        self._known, self._memo = bindings(project, rig_id, shot_id), Memo()

    def bounds(self, key: str) -> tuple[float, ...]:
        quantity = self._known[key].parameter if key in self._known else None
        return (quantity.low, quantity.high) if isinstance(quantity, Quantity) else ()

    def now(self, key: str) -> float:
        return float(self._known[key].place.get(self._project))

    def outwards(self, key: str, bound: float) -> Iterator[Turn | None]:
        """The turn on the way to a bound, if there is one, after every try."""
        now = inside = self.now(key)
        for n in range(1, STEPS + 1):
            outside = now + (bound - now) * (n / STEPS) ** 2
            turned = self._state(key, outside)
            if turned is None or turned == self._finding.state:
                inside = outside
                yield None
                continue
            for _ in range(HALVINGS):
                middle = (inside + outside) / 2
                state = self._state(key, middle)
                if state == self._finding.state:
                    inside = middle
                else:
                    outside, turned = middle, state or turned
                yield None
            yield Turn(key, outside, turned)
            return

    def _state(self, key: str, value: float) -> str | None:
        try:
            result = evaluate(
                set_values(self._project, self._rig, [(key, value)], self._known, self._shot),
                self._catalogue,
                self._rig,
                self._shot,
                self._memo,
            )
        except InputError:
            return None
        return next((f.state for f in result.findings if f.key == self._finding.key), None)
