"""Would what is at hand do? Each section in the drawer tried in the place of one the rig asks for."""

from __future__ import annotations

from msgspec import Struct

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.editing.bindings import parameters
from hazel_lantern.core.editing.changes import set_values
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.finding import STOP, WATCH
from hazel_lantern.core.nouns.quantity import Choice

MOST = 24  # ways tried


class Tried(Struct, frozen=True):
    """A section at hand in place of another: what it is for, both names, the change that takes it, and what it changes:
    stops, watches, cost [currency] and mass [kg].
    """

    place: str
    now: str
    at_hand: str
    changes: tuple[tuple[str, object], ...]
    stops: int
    watches: int
    cost: float
    mass: float

    @property
    def does(self) -> bool:
        """Whether it brings no stop that was not there."""
        return self.stops <= 0


def would_do(project: Project, catalogue: Catalogue, rig_id: str, shot_id: str = "") -> tuple[Tried, ...]:
    """Sections at hand of the same shape, tried where the rig asks for another; cheapest first, those that do before
    those that do not. Raises InputError for broken references.
    """
    memo, found = Memo(), list[Tried]()
    before = evaluate(project, catalogue, rig_id, shot_id, memo)
    values, rows = project.rig(rig_id).design, catalogue.sections
    drawer = dict.fromkeys(piece.section for piece in project.stock if piece.section in rows)
    for key, parameter in parameters(project, rig_id, shot_id).items():
        if not isinstance(parameter, Choice) or parameter.table != "sections" or values.get(key) not in rows:
            continue
        now = rows[str(values[key])]
        used = any(part.section == now.id for part in before.parts)
        for at_hand in (rows[one] for one in drawer):
            if not used or at_hand.id == now.id or at_hand.shape != now.shape or len(found) >= MOST:
                continue
            try:
                after = evaluate(set_values(project, rig_id, [(key, at_hand.id)]), catalogue, rig_id, shot_id, memo)
            except HazelError:  # what cannot stand there is no answer
                continue
            if after.model is None:
                continue
            states, old = [f.state for f in after.findings], [f.state for f in before.findings]
            cost, mass = (after.figures[k].value - before.figures[k].value for k in ("build.cost", "rig.mass"))
            found.append(
                Tried(
                    parameter.label,
                    now.name,
                    at_hand.name,
                    ((key, at_hand.id),),
                    states.count(STOP) - old.count(STOP),
                    states.count(WATCH) - old.count(WATCH),
                    cost,
                    mass,
                )
            )
    return tuple(sorted(found, key=lambda one: (not one.does, one.cost)))
