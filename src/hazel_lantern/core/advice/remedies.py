"""Which remedies may be offered: each is tried on the whole rig and its shots before it is shown."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec.structs import replace

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.editing.changes import set_values
from hazel_lantern.core.evaluate import over_shots
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import RANK, Finding, Remedy
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.words import Words

Findings = tuple[Finding, ...]


def vetted(project: Project, catalogue: Catalogue, rig_id: str, *, built: bool = False) -> Iterator[Progress[Findings]]:
    """The findings with only those remedies kept that mend their finding and make nothing else worse, a step a
    remedy; those not tried yet are left out.
    """
    memo = Memo()
    # Compared with a plain evaluation: a better cutting plan found since must not make every remedy look worse.
    evaluation = over_shots(project, catalogue, rig_id, memo, suggest=True, built=built)
    found = [replace(finding, remedies=()) for finding in evaluation.findings]
    total, done = sum(len(finding.remedies) for finding in evaluation.findings), 0
    yield Progress(done, total, tuple(found))
    for index, finding in enumerate(evaluation.findings):
        for remedy in finding.remedies:
            kept = _kept(project, catalogue, rig_id, evaluation, finding, remedy, memo, built)
            found[index] = replace(found[index], remedies=(*found[index].remedies, *kept))
            done += 1
            yield Progress(done, total, tuple(found))


def _kept(
    project: Project,
    catalogue: Catalogue,
    rig_id: str,
    before: Evaluation,
    finding: Finding,
    remedy: Remedy,
    memo: Memo,
    built: bool,
) -> tuple[Remedy, ...]:
    """The remedy with what else it does, where it holds."""
    try:
        after = over_shots(set_values(project, rig_id, remedy.changes), catalogue, rig_id, memo, built=built)
    except InputError:
        return ()
    old, new = ({f.key: RANK[f.state] for f in result.findings} for result in (before, after))
    worse = any(rank > old.get(key, 0) for key, rank in new.items())
    if worse or after.model is None or new.get(finding.key, 0) >= RANK[finding.state]:
        return ()
    return (replace(remedy, elsewhere=_elsewhere(before, after, finding.key)),)


def _elsewhere(before: Evaluation, after: Evaluation, mended: str) -> Words:
    """What else a remedy changes: other findings that get better, mass and cost."""
    old = {f.key: f for f in before.findings}
    better = [
        f.title for f in after.findings if f.key in old and f.key != mended and RANK[f.state] < RANK[old[f.key].state]
    ]
    template, amounts = "", []
    for key, word in (("rig.mass", "mass"), ("build.cost", "cost")):
        if key in before.figures and key in after.figures:
            change = after.figures[key].value - before.figures[key].value
            if abs(change) > 5e-3:
                template += f"{word} {'+' if change > 0 else '−'}{{}}, "
                amounts.append((abs(change), before.figures[key].unit))
    template += f"also mends {', '.join(better)}" if better else ""
    return Words(template.rstrip(", ") or "changes nothing else", tuple(amounts))
