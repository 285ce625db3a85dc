"""An evaluation in the words and numbers of the command line."""

from __future__ import annotations

from typing import Any

from msgspec import Struct
from numpy import ndarray

from hazel_lantern import __version__
from hazel_lantern.cli.shared import number
from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.document.project import FORMAT
from hazel_lantern.core.nouns.finding import Finding
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.marks import Mark
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.core.workshop.solids import Place


def why_text(figure, show: Display) -> str:  # type: ignore[no-untyped-def]
    """A why in one line of plain text."""
    why = figure.why
    named = ", ".join(f"{g.symbol} = {show.text(g.value, g.unit)} ({g.named(show)})" for g in why.inputs)
    left = why.formula.text.replace("**", "^") if why.formula else why.method
    tail = "".join(
        f"; {text}" for text in (*why.assumptions, why.valid, f"source: {why.source}" if why.source else "") if text
    )
    return f"{left}; {named}{tail}" if named else f"{left}{tail}"


def unit_name(unit: str) -> str:
    """The SI unit alone; what follows a colon only chooses how it is shown."""
    return unit.split(":")[0]


def as_json(result: Evaluation, findings: tuple[Finding, ...]) -> dict[str, Any]:
    """The published form of an evaluation: SI values, infinity as "inf"."""
    plain = Display()
    return {
        "format": FORMAT,
        "version": __version__,
        "rig": {"id": result.rig.id, "kind": result.rig.kind},
        "shot": result.shot.id,
        "basis": result.basis,
        "figures": {
            f.key: {"label": f.label, "value": number(f.value), "unit": unit_name(f.unit), "why": why_text(f, plain)}
            for f in result.figures.values()
        },
        "curves": {
            c.key: {"x": c.x.tolist(), "y": c.y.tolist(), "x_unit": unit_name(c.x_unit), "y_unit": unit_name(c.y_unit)}
            for c in result.curves.values()
        },
        "findings": [
            {
                "key": f.key,
                "about": f.about,
                "state": f.state,
                "value": number(f.value),
                "limit": number(f.limit),
                "sense": f.sense,
                "unit": unit_name(f.unit),
                "where": f.where,
                "sentence": f.sentence.text(plain),
                **({"shot": f.shot} if f.shot else {}),
                "remedies": [
                    {"key": r.key, "label": r.label.text(plain), "changes": dict(r.changes)} for r in f.remedies
                ],
            }
            for f in findings
        ],
        "readings": {name: _plain(value) for name, value in result.readings.items()},
        "parts": [
            {
                "mark": p.mark,
                "name": p.name,
                "section": p.section,
                "made_from": p.solid.cut_from,
                "length": p.length,
                "quantity": p.quantity,
                "mass": p.mass,
                "matched": p.matched,
                "marks": [_marked(p, m) for m in p.marks],
                "places": [_placed(a) for a in p.places],
            }
            for p in result.parts
        ],
        "things": [
            {"name": t.name, "mass": t.mass, "places": [_placed(a) for a in t.places]} for t in result.laid.things
        ],
    }


def _marked(part: Part, mark: Mark) -> dict[str, Any]:
    """A mark with the face it is on, how far across it lies [m], and what goes through."""
    across = part.spot(mark)[1]
    return {
        "at": mark.at,
        "across": across,
        "face": mark.face,
        "what": mark.what,
        "size": mark.size,
        "until": mark.until,
        "note": mark.note,
        "fastening": mark.fastening,
    }


def _placed(place: Place) -> dict[str, Any]:
    """The body a solid moves with, and where and how it sits on it."""
    return {"body": place.body, "at": place.at, "along": place.along, "up": place.up}


def _plain(value: object) -> Any:
    """A reading in plain JSON: sentences worded, arrays as lists."""
    if isinstance(value, Words):
        return value.text(Display())
    if isinstance(value, Struct):
        return {name: _plain(getattr(value, name)) for name in value.__struct_fields__}
    if isinstance(value, dict):
        return {key: _plain(item) for key, item in value.items()}
    if isinstance(value, (tuple, list)):
        return [_plain(item) for item in value]
    return (
        _plain(value.tolist()) if isinstance(value, ndarray) else number(value) if isinstance(value, float) else value
    )
