"""What is accepted before anything rolls: cautions about people and what carries, one by one; what holds the rig; when
an acceptance lapses.
"""

from __future__ import annotations

from collections.abc import Iterable

from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.document.project import Accepted, Project, Rig, replaced
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import PEOPLE, STOP, STRUCTURE, WATCH, Finding
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.nouns.words import Words, within
from hazel_lantern.core.proving.trials.loads import PROOF

GENERAL = (
    "A planning aid, not a certificate: local codes and licensed or qualified people decide on overhead rigging, "
    "structures, electricity, work at height and public places."
)
PROVED = ("C", "D", "E")  # classes whose rigs carry a proof load first
DECIDES = {PEOPLE: "who leads on the set decides", STRUCTURE: "who built it decides; overhead, a qualified person"}


class Caution(Struct, frozen=True):
    """One that is accepted or not: the finding it comes from, who decides, the row that accepts it where that still
    stands, and whether one lapsed.
    """

    finding: Finding
    decides: str
    accepted: Accepted | None
    lapsed: bool


class Before(Struct, frozen=True):
    """Everything before rolling: stops that hold it, which nobody can accept; cautions; what else is missing."""

    stops: tuple[Finding, ...]
    cautions: tuple[Caution, ...]
    missing: tuple[str, ...]

    @property
    def open(self) -> int:
        """Cautions that are not accepted."""
        return sum(one.accepted is None for one in self.cautions)

    @property
    def holds(self) -> str:
        """Why it may not be armed, in words; "" where it may."""
        waits = []
        if self.stops:
            waits.append(f"{len(self.stops)} stop{'s' if len(self.stops) > 1 else ''}")
        if self.open:
            waits.append(f"{self.open} caution{'s' if self.open > 1 else ''}")
        waits += self.missing
        return f"waits for {', '.join(waits)}" if waits else ""


def before(result: Evaluation, show: Display | None = None) -> Before:
    """What stands before rolling this rig for this shot."""
    rig, shot, shown = result.rig, result.shot.id, show or Display()
    stops = tuple(f for f in result.findings if f.state == STOP and f.about in DECIDES)
    found = [f for f in result.findings if f.state == WATCH and f.about in DECIDES]
    rows = {(row.key, row.shot): row for row in rig.accepted}  # of two for one thing the later counts
    cautions = []
    for finding in found:
        row = rows.get((finding.key, shot))
        stands = row is not None and not _worse(finding, row, shown)
        cautions.append(
            Caution(finding, DECIDES[finding.about], row if stands else None, row is not None and not stands)
        )
    missing = []
    proved = any(row.test == PROOF and not row.struck for row in rig.proofs)
    if str(rig.design.get("safety", "")) in PROVED and not proved:
        missing.append("a proof load")
    if result.model is None:
        missing.append("a rig that can be built")
    return Before(stops, tuple(cautions), tuple(missing))


def _worse(finding: Finding, row: Accepted, show: Display) -> bool:
    """Whether value or limit got worse by more than is shown."""
    sign = -1.0 if finding.sense == "at_least" else 1.0
    step = show.step(finding.unit) if finding.unit else 0.0
    return sign * (finding.value - row.value) > step or sign * (row.limit - finding.limit) > step


def headline(result: Evaluation) -> Words:
    """How far it is, in a line."""
    found = before(result)
    if found.stops:
        return Words(
            f"{len(found.stops)} stop{'s' if len(found.stops) > 1 else ''} hold{'' if len(found.stops) > 1 else 's'} it"
        )
    taken = len(found.cautions) - found.open
    if not found.cautions:
        return Words("nothing to accept" if not found.missing else found.holds)
    return Words(f"{taken} of {len(found.cautions)} caution{'s' if len(found.cautions) > 1 else ''} accepted")


def accept(project: Project, rig_id: str, shot_id: str, finding: Finding, day: str, name: str) -> Project:
    """The document with a caution accepted by name. Raises InputError without a name,
    and for what nobody can accept."""
    if finding.state == STOP:
        raise InputError("caution", finding.title, f"is a stop: it is solved, not accepted ({within(finding.title)})")
    if not name.strip():
        raise InputError("name", repr(name), "who accepts it types a name")
    rig = project.rig(rig_id)
    row = Accepted(
        key=finding.key,
        shot=shot_id,
        value=_finite(finding.value),
        limit=_finite(finding.limit),
        day=day,
        name=name.strip(),
    )
    return _with(project, rig, (*(one for one in rig.accepted if (one.key, one.shot) != (row.key, row.shot)), row))


def withdraw(project: Project, rig_id: str, shot_id: str, key: str) -> Project:
    """The document with a caution open again."""
    rig = project.rig(rig_id)
    return _with(project, rig, (one for one in rig.accepted if (one.key, one.shot) != (key, shot_id)))


def _finite(value: float) -> float:
    return max(-1e300, min(1e300, value))


def _with(project: Project, rig: Rig, rows: Iterable[Accepted]) -> Project:
    return replace(project, rigs=replaced(project.rigs, replace(rig, accepted=tuple(rows))))
