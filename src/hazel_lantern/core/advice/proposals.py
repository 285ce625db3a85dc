"""Which rigs can make a shot: every kind and variant tried, sized and balanced for it, best first."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import Project, Rig, replaced
from hazel_lantern.core.editing.changes import add_rig, set_values
from hazel_lantern.core.evaluate import evaluate, outline, perform
from hazel_lantern.core.kinds import KINDS
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.finding import RANK, STOP
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.words import Words


class Proposal(Struct, frozen=True):
    """A rig sized for the shot, or the reason why this construction cannot make it."""

    kind: str
    variant: str
    name: str
    rig: Rig
    evaluation: Evaluation | None
    reason: Words

    @property
    def state(self) -> str:
        return (
            max((f.state for f in self.evaluation.findings), key=RANK.__getitem__, default="clear")
            if self.evaluation
            else STOP
        )

    def amount(self, key: str) -> float:
        """A figure of the rig, 0 where it has none."""
        figures = self.evaluation.figures if self.evaluation else {}
        return figures[key].value if key in figures else 0.0


def proposals(
    project: Project, catalogue: Catalogue, rig_id: str, shot_id: str = ""
) -> Iterator[Progress[tuple[Proposal, ...]]]:
    """Every construction tried on a shot and the kit of a rig, a step each: those that can do it first, then by
    stops, watches and cost.
    """
    now = project.rig(rig_id)
    shot = project.shot_of(now, shot_id).id
    constructions = [(kind, variant, name) for kind in KINDS.values() for variant, name in kind.variants]
    found: list[Proposal] = []
    for kind, variant, name in constructions:
        tried = add_rig(project, kind.id, variant, kind.name)
        rig = replace(tried.rigs[-1], kit=now.kit, shots=(shot,))
        found.append(_sized(replace(tried, rigs=replaced(tried.rigs, rig)), catalogue, rig.id, name))
        yield Progress(len(found), len(constructions), tuple(sorted(found, key=_order)))


def _sized(project: Project, catalogue: Catalogue, rig_id: str, name: str) -> Proposal:
    """One construction with its own main actions carried out."""
    rig = project.rig(rig_id)
    kind = KINDS[rig.kind]
    label = f"{kind.name}: {name[:1].lower()}{name[1:]}"
    memo = Memo()
    try:
        for action in kind.actions:
            drawn = outline(project, catalogue, rig_id, memo=memo)
            if drawn.problem is not None:
                raise drawn.problem
            project = set_values(project, rig_id, perform(project, catalogue, rig_id, action.station, memo=memo))
        result = evaluate(project, catalogue, rig_id, memo=memo)
    except HazelError as error:
        words = str(error).replace("{", "(").replace("}", ")")
        return Proposal(kind.id, rig.variant, label, rig, None, Words(f"{words[:1].upper()}{words[1:]}."))
    # Findings come worst first; a stop is told as the reason.
    reason = result.findings[0].sentence if result.findings else Words("")
    return Proposal(
        kind.id, rig.variant, label, project.rig(rig_id), result if result.model is not None else None, reason
    )


def _order(proposal: Proposal) -> tuple[float, ...]:
    if proposal.evaluation is None:
        return (1, 0, 0, 0)
    states = [RANK[f.state] for f in proposal.evaluation.findings]
    return (0, states.count(2), states.count(1), proposal.amount("build.cost"))
