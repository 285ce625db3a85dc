"""Which remedies may be offered: each is tried on the whole rig and shot before it is shown."""

from __future__ import annotations

from collections.abc import Callable

from msgspec.structs import replace

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.changes import set_values
from hazel_lantern.core.errors import InputError
from hazel_lantern.core.evaluate import Evaluation, Memo, evaluate
from hazel_lantern.core.finding import RANK, Finding, Remedy, Words
from hazel_lantern.core.project import Project


def vetted(project: Project, catalogue: Catalogue, rig_id: str, wanted: Callable[[], bool] = lambda: True) -> tuple[Finding, ...]:
    """The findings with only those remedies kept that mend their finding and make nothing else worse.

    `wanted` is asked before each try; once it says no, the rest is left untried.
    """
    # Compared with a plain evaluation: a better cutting plan found since must not make every remedy look worse.
    evaluation = evaluate(project, catalogue, rig_id, Memo(), suggest=True)
    before = {f.key: RANK[f.state] for f in evaluation.findings}
    found = []
    for finding in evaluation.findings:
        kept = []
        for remedy in finding.remedies:
            if not wanted():
                break
            try:
                after = evaluate(set_values(project, rig_id, remedy.changes), catalogue, rig_id, Memo())
            except InputError:
                continue
            states = {f.key: RANK[f.state] for f in after.findings}
            worse = [key for key, rank in states.items() if rank > before.get(key, 0)]
            if not worse and states.get(finding.key, 0) < RANK[finding.state] and after.model is not None:
                kept.append(Remedy(remedy.key, remedy.label, remedy.changes, _elsewhere(evaluation, after, finding.key)))
        found.append(replace(finding, remedies=tuple(kept)))
    return tuple(found)


def _elsewhere(before: Evaluation, after: Evaluation, mended: str) -> Words:
    """What else a remedy changes: other findings that get better, mass and cost."""
    old = {f.key: f for f in before.findings}
    better = [f.title for f in after.findings if f.key in old and f.key != mended and RANK[f.state] < RANK[old[f.key].state]]
    template, amounts = "", []
    for key, word in (("rig.mass", "mass"), ("build.cost", "cost")):
        if key in before.figures and key in after.figures:
            change = after.figures[key].value - before.figures[key].value
            if abs(change) > 5e-3:
                template += f"{word} {'+' if change > 0 else '−'}{{}}, "
                amounts.append((abs(change), before.figures[key].unit))
    template += f"also mends {', '.join(better)}" if better else ""
    return Words(template.rstrip(", ") or "changes nothing else", tuple(amounts))
