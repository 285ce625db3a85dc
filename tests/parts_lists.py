"""A design's lists in few words: what is cut, its holes, what is bought; and the project that makes them."""

from __future__ import annotations

from collections import Counter
from typing import Any

from hazel_lantern.core.advice.adding import with_first
from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.editing import bindings, changes, starting
from hazel_lantern.core.workshop.part import Part


def lists_of(result: Evaluation) -> dict[str, Any]:
    """What a rig's lists say: pieces to cut, holes by piece, what is bought beside bars."""
    return {
        "cut": [_cut(part) for part in result.parts],
        "holes": {part.mark: _holes(part) for part in result.parts if part.marks},
        "bought": _bought(result),
    }


def _bought(result: Evaluation) -> list[str]:
    """By name alone: what two bolts are for is said elsewhere."""
    counted = Counter[str]()
    for buy in result.laid.bought:
        counted[buy.name] += buy.quantity
    return sorted(f"{count} × {name}" for name, count in counted.items())


def _cut(part: Part) -> str:
    return f"{part.mark} {part.name}: {part.quantity} × {_mm(part.length)}, {part.solid.cut_from}"


def _holes(part: Part) -> list[str]:
    found = []
    for mark in part.marks:
        at, across = part.spot(mark)
        until = "" if mark.until is None else f" to {_mm(mark.until)}"
        found.append(f"{mark.face} {_mm(at)}{until} / {_mm(across)}: {mark.what} {_mm(mark.size)}, {mark.note}")
    return found


def _mm(length: float) -> str:
    return f"{length * 1e3:.1f}".removesuffix(".0")


def project_of(case: dict[str, Any]) -> Project:
    """A new project with the rig that a case names, and what it sets on it, as they are typed."""
    project = with_first(changes.add_rig(starting.blank(), case["kind"], case["variant"]))
    rig = project.rigs[0].id
    known = bindings.parameters(project, rig)
    for key, text in case["set"].items():
        project = changes.set_values(project, rig, [(key, known[key].read(text))])
    return project
