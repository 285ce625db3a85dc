"""How far one input must move to change a verdict."""

from __future__ import annotations

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.changes import parameters, set_values, value_of
from hazel_lantern.core.errors import InputError
from hazel_lantern.core.evaluate import Evaluation, Memo, evaluate
from hazel_lantern.core.figure import Figure
from hazel_lantern.core.finding import Finding
from hazel_lantern.core.project import Project
from hazel_lantern.core.quantity import Quantity

STEPS = 14


def judged_by(evaluation: Evaluation, figure: Figure) -> Finding | None:
    """The finding that judges a figure: the one that carries its very number."""
    same = (f for f in evaluation.findings if f.value == figure.value and f.unit == figure.unit)
    return next(same, None)


def turning_point(project: Project, catalogue: Catalogue, rig_id: str, finding: Finding, key: str) -> tuple[float, str] | None:
    """The nearest value of a parameter [SI] at which the finding's state changes, and the state it turns to.

    Searched outwards within the parameter's bounds, then halved; None when nothing changes.
    """
    quantity = parameters(project, rig_id).get(key)
    if not isinstance(quantity, Quantity):
        return None
    now = float(value_of(project, rig_id, key))  # type: ignore[arg-type]
    found = []
    for bound in (quantity.low, quantity.high):
        inside, memo = now, Memo()
        for n in range(1, STEPS + 1):
            outside = now + (bound - now) * (n / STEPS) ** 2
            turned = _state(project, catalogue, rig_id, finding.key, key, outside, memo)
            if turned is not None and turned != finding.state:
                for _ in range(12):
                    middle = (inside + outside) / 2
                    if _state(project, catalogue, rig_id, finding.key, key, middle, memo) == finding.state:
                        inside = middle
                    else:
                        outside = middle
                state = _state(project, catalogue, rig_id, finding.key, key, outside, memo)
                found.append((abs(outside - now), outside, state or turned))
                break
            inside = outside
    if not found:
        return None
    _, value, state = min(found)
    return value, state


def _state(project: Project, catalogue: Catalogue, rig_id: str, finding: str, key: str, value: float, memo: Memo) -> str | None:
    try:
        result = evaluate(set_values(project, rig_id, [(key, value)]), catalogue, rig_id, memo)
    except InputError:
        return None
    return next((f.state for f in result.findings if f.key == finding), None)
