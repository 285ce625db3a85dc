"""Choices on which good builders differ: each way tried on the rig at hand, its cost in figures."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.editing.bindings import value_of
from hazel_lantern.core.editing.changes import set_values
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.kinds import KINDS
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.figure import Figure
from hazel_lantern.core.nouns.finding import STOP, WATCH
from hazel_lantern.core.nouns.progress import Progress


class Way(Struct, frozen=True):
    """One way of a school on this rig: what it costs and gives in words, its figures by key, how many stops and
    watches; `taken` when the rig is built so now.
    """

    name: str
    words: str
    changes: tuple[tuple[str, object], ...]
    figures: dict[str, Figure]
    stops: int
    watches: int
    taken: bool


Schools = tuple[tuple[str, tuple[Way, ...]], ...]


def ways(project: Project, catalogue: Catalogue, rig_id: str, shot_id: str = "") -> Iterator[Progress[Schools]]:
    """Every school of the rig's kind by title, with each of its ways tried, a step each; the schools not reached yet
    are left out. Raises InputError for broken references.
    """
    schools = KINDS[project.rig(rig_id).kind].schools
    total, done, memo = sum(len(school.ways) for school in schools), 0, Memo()
    found: list[tuple[str, tuple[Way, ...]]] = []
    for school in schools:
        tried: list[Way] = []
        for way in school.ways:
            tried.append(_tried(project, catalogue, rig_id, shot_id, memo, *way))
            done += 1
            yield Progress(done, total, (*found, (school.title, tuple(tried))))
        found.append((school.title, tuple(tried)))


def _tried(
    project: Project,
    catalogue: Catalogue,
    rig_id: str,
    shot_id: str,
    memo: Memo,
    name: str,
    changes: tuple[tuple[str, object], ...],
    words: str,
) -> Way:
    after = set_values(project, rig_id, changes, shot_id=shot_id)
    result = evaluate(after, catalogue, rig_id, shot_id, memo)
    states = [finding.state for finding in result.findings]
    shown = {key: result.figures[key] for key in KINDS[after.rig(rig_id).kind].told_apart_by if key in result.figures}
    # The first change is what tells the ways apart; the rest only goes with it.
    key, value = changes[0]
    taken = value_of(project, rig_id, key) == value
    return Way(name, words, changes, shown, states.count(STOP), states.count(WATCH), taken)
