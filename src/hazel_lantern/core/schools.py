"""Choices on which good builders differ: each way tried on the rig at hand, its cost in figures."""

from __future__ import annotations

from msgspec import Struct

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.changes import set_values, value_of
from hazel_lantern.core.evaluate import Memo, evaluate
from hazel_lantern.core.figure import Figure
from hazel_lantern.core.finding import STOP, WATCH
from hazel_lantern.core.kinds import KINDS
from hazel_lantern.core.project import Project


class Way(Struct, frozen=True):
    """One way of a school on this rig: what it costs and gives in words, its figures by key, how many stops and watches; `taken` when the rig is built so now."""

    name: str
    words: str
    changes: tuple[tuple[str, object], ...]
    figures: dict[str, Figure]
    stops: int
    watches: int
    taken: bool


def ways(project: Project, catalogue: Catalogue, rig_id: str) -> tuple[tuple[str, tuple[Way, ...]], ...]:
    """Every school of the rig's kind by title, with each of its ways tried. Raises InputError for broken references."""
    rig = project.rig(rig_id)
    kind = KINDS[rig.kind]
    return tuple((school.title, tuple(_tried(project, catalogue, rig_id, *way) for way in school.ways)) for school in kind.schools)


def _tried(project: Project, catalogue: Catalogue, rig_id: str, name: str, changes: tuple[tuple[str, object], ...], words: str) -> Way:
    after = set_values(project, rig_id, changes)
    result = evaluate(after, catalogue, rig_id, Memo())
    states = [finding.state for finding in result.findings]
    shown = {key: result.figures[key] for key in KINDS[after.rig(rig_id).kind].told_apart_by if key in result.figures}
    # The first change is what tells the ways apart; the rest only goes with it.
    key, value = changes[0]
    taken = value_of(project, rig_id, key) == value
    return Way(name, words, changes, shown, states.count(STOP), states.count(WATCH), taken)
