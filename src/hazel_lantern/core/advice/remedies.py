"""Which remedies may be offered: each is tried on the whole rig and its shots before it is shown, by itself and,
where none does it alone, followed by what mends the trouble it brings.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.editing.changes import set_values
from hazel_lantern.core.evaluate import IMPOSSIBLE, over_shots
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import PEOPLE, RANK, STOP, STRUCTURE, WATCH, Finding, Remedy
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.words import Words

Findings = tuple[Finding, ...]
Order = tuple[bool, int, int, int, int]
MORE = 2  # remedies of other findings that are offered at one
STEPS = 3  # remedies in a row that are tried together
BRANCHES = 3  # remedies of one finding that are followed further
HEAVY, TIMES = 5.0, 1.5  # kilograms more, and times the lightest, above which a remedy is absurd beside a simple one


class Trial(Struct, frozen=True):
    """A remedy carried out: the rig after it, and the order of its troubles."""

    remedy: Remedy
    after: Evaluation
    order: Order


def order_of(findings: Findings) -> Order:
    """Troubles, the worst first: whether it cannot be built, of which nothing else is known yet; then counted, stops
    about people, about the structure, other stops, watches.
    """
    stops = [f.about for f in findings if f.state == STOP]
    people, structure = stops.count(PEOPLE), stops.count(STRUCTURE)
    unknown = any(f.key == IMPOSSIBLE for f in findings)
    return unknown, people, structure, len(stops) - people - structure, sum(f.state == WATCH for f in findings)


class Bench:
    """Tries remedies on one rig."""

    def __init__(self, project: Project, catalogue: Catalogue, rig_id: str, built: bool) -> None:
        self.project, self.catalogue, self.rig_id, self.built = project, catalogue, rig_id, built
        self.memo = Memo()
        # Compared with a plain evaluation: a better cutting plan found since must not make every remedy look worse.
        self.before = over_shots(project, catalogue, rig_id, self.memo, suggest=True, built=built)
        self.order = order_of(self.before.findings)

    def carry_out(self, remedy: Remedy, *, suggest: bool = False) -> Trial | None:
        """None where it cannot be set, or leaves no rig."""
        try:
            changed = set_values(self.project, self.rig_id, remedy.changes)
        except InputError:
            return None
        after = over_shots(changed, self.catalogue, self.rig_id, self.memo, suggest=suggest, built=self.built)
        return None if after.model is None else Trial(remedy, after, order_of(after.findings))

    def mends(self, trial: Trial, finding: Finding) -> bool:
        """Whether the finding gets better, and the rig as a whole."""
        now = {f.key: RANK[f.state] for f in trial.after.findings}
        return now.get(finding.key, 0) < RANK[finding.state] and trial.order < self.order

    def in_a_row(self, finding: Finding, first: Remedy) -> Trial | None:
        """The remedy followed by others that mend what it leaves or brings; None where that does not do it."""
        trial = self.carry_out(first, suggest=True)
        for _ in range(STEPS - 1):
            if trial is None:
                return None
            done = {key for key, _ in trial.remedy.changes}
            tried = [
                self.carry_out(_joined(trial.remedy, more), suggest=True)
                for more in self._next(trial, finding)
                if done.isdisjoint(key for key, _ in more.changes)
            ]
            best = min((t for t in tried if t is not None), key=lambda t: t.order, default=None)
            if best is None or best.order >= trial.order:
                return None
            if self.mends(best, finding):
                return best
            trial = best
        return None

    def _next(self, trial: Trial, finding: Finding) -> tuple[Remedy, ...]:
        """Remedies of the worst that is left of the finding, or that was not so bad before."""
        old = {f.key: RANK[f.state] for f in self.before.findings}
        left = [
            f
            for f in trial.after.findings
            if f.state == STOP and (f.key == finding.key or RANK[f.state] > old.get(f.key, 0)) and f.remedies
        ]
        return left[0].remedies[:BRANCHES] if left else ()

    def told(self, trial: Trial, mended: str) -> Remedy:
        """The remedy with what else it does."""
        return replace(trial.remedy, elsewhere=_elsewhere(self.before, trial.after, mended))


def vetted(project: Project, catalogue: Catalogue, rig_id: str, *, built: bool = False) -> Iterator[Progress[Findings]]:
    """The findings with only those remedies kept that mend their finding and the rig as a whole, a step a remedy;
    those not tried yet are left out. A remedy of one finding is offered at another that it mends too; a stop that
    nothing mends says what was tried.
    """
    bench = Bench(project, catalogue, rig_id, built)
    offered = bench.before.findings
    found = [replace(finding, remedies=()) for finding in offered]
    total, done = sum(len(finding.remedies) for finding in offered), 0
    yield Progress(done, total, tuple(found))
    own: list[list[Trial]] = []
    for index, finding in enumerate(offered):
        own.append([])
        for remedy in finding.remedies:
            trial = bench.carry_out(remedy)
            own[-1] += [trial] if trial is not None else []
            found[index] = replace(found[index], remedies=_simple(bench, own[-1], finding))
            done += 1
            yield Progress(min(done, total - 1), total, tuple(found))
    known = [trial for trials in own for trial in trials]
    for index, finding in enumerate(offered):
        trials, hint = [*own[index], *_of_others(known, own[index])], None
        remedies = _simple(bench, trials, finding)
        if finding.state == STOP and not remedies:
            rows = (bench.in_a_row(finding, trial.remedy) for trial in own[index][:BRANCHES])
            remedies = _simple(bench, [trial for trial in rows if trial is not None], finding)
            hint = None if remedies else _tried(bench, finding, own[index])
        found[index] = replace(found[index], remedies=remedies, hint=hint)
    yield Progress(total, total, tuple(found))


def _of_others(known: list[Trial], own: list[Trial]) -> list[Trial]:
    """What mends the rig best of all that was tried at other findings."""
    mine = {trial.remedy.changes for trial in own}
    others = {trial.remedy.changes: trial for trial in known if trial.remedy.changes not in mine}
    return sorted(others.values(), key=lambda trial: trial.order)[:MORE]


def _joined(first: Remedy, then: Remedy) -> Remedy:
    """Both, one after the other."""
    label = then.label.template
    words = Words(
        f"{first.label.template}, then {label[:1].lower()}{label[1:]}", (*first.label.amounts, *then.label.amounts)
    )
    return Remedy(f"{first.key}+{then.key}", words, (*first.changes, *then.changes))


def _simple(bench: Bench, trials: list[Trial], finding: Finding) -> tuple[Remedy, ...]:
    """Those trials that mend it as remedies, without those of absurd weight beside a simple one that does as much."""
    good = [trial for trial in trials if bench.mends(trial, finding)]
    now = bench.before.figures.get("rig.mass")
    more = [
        0.0 if now is None or "rig.mass" not in t.after.figures else t.after.figures["rig.mass"].value - now.value
        for t in good
    ]

    def absurd(trial: Trial, mass: float) -> bool:
        return mass > HEAVY and any(
            other.order <= trial.order and mass > TIMES * weight
            for other, weight in zip(good, more, strict=True)
            if other is not trial
        )

    return tuple(bench.told(t, finding.key) for t, mass in zip(good, more, strict=True) if not absurd(t, mass))


def _tried(bench: Bench, finding: Finding, failed: list[Trial]) -> Words:
    """Why nothing is offered: what the nearest remedy would leave or bring."""
    if not failed:
        return Words("Nothing that can be set by itself mends this: change the design here, or the wish.")
    nearest = min(failed, key=lambda trial: trial.order)
    old = {f.key: RANK[f.state] for f in bench.before.findings}
    brings = next((f for f in nearest.after.findings if f.state == STOP and RANK[f.state] > old.get(f.key, 0)), None)
    label = nearest.remedy.label
    after = (
        f"would be a stop: {_lowered(brings.title)}" if brings else f"would still be a stop: {_lowered(finding.title)}"
    )
    return Words(f"Tried: {label.template[:1].lower()}{label.template[1:]}; then there {after}.", label.amounts)


def _lowered(title: str) -> str:
    return title[:1].lower() + title[1:]


def _elsewhere(before: Evaluation, after: Evaluation, mended: str) -> Words:
    """What else a remedy changes: other findings that get better or worse, mass and cost."""
    old = {f.key: RANK[f.state] for f in before.findings}
    others = [f for f in after.findings if f.key != mended]
    better = [f.title for f in others if RANK[f.state] < old.get(f.key, 0)]
    # Of a rig that could not be built nothing was known: what it merely has to be looked at for is nothing it brings.
    brought = [f for f in others if f.state == STOP or mended != IMPOSSIBLE]
    worse = [(f.title, f.use) for f in brought if RANK[f.state] > old.get(f.key, 0)]
    template, amounts = "", []
    for key, word in (("rig.mass", "mass"), ("build.cost", "cost")):
        if key in before.figures and key in after.figures:
            change = after.figures[key].value - before.figures[key].value
            if abs(change) > 5e-3:
                template += f"{word} {'+' if change > 0 else '−'}{{}}, "
                amounts.append((abs(change), before.figures[key].unit))
    for title, use in worse:
        template += f"then: {_lowered(title)}" + (f" at {use:.2f} of what passes, " if math.isfinite(use) else ", ")
    template += f"also mends {', '.join(better)}" if better else ""
    return Words(template.rstrip(", ") or "changes nothing else", tuple(amounts))
