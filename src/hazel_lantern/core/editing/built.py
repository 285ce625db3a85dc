"""The rig as built: what was measured on it laid over what was drawn, as long as the pieces it was measured on are
still those drawn.
"""

from __future__ import annotations

from collections.abc import Mapping
from zlib import crc32

from hazel_lantern.core.document.project import Measured, Rig
from hazel_lantern.core.editing.bindings import declared_of
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.quantity import Quantity, Value
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Laid
from hazel_lantern.core.workshop.part import Part


def fingerprint(laid: Laid, pieces: tuple[str, ...]) -> str:
    """What tells these pieces from others: what they are made of, their size and their marks.

    laid: all of a rig as drawn
    pieces: marks of the pieces

    Returns: a check sum. Raises: InputError for a mark that no piece has. Source: a cyclic redundancy check over
    sizes to a micrometre.
    """
    known = {part.mark: part for part in laid.parts}
    for mark in pieces:
        if mark not in known:
            raise InputError("pieces", repr(mark), "must be among " + ", ".join(known))
    return f"{crc32(chr(10).join(_told(known[mark]) for mark in sorted(pieces)).encode()):08x}"


def _told(part: Part) -> str:
    box = " ".join(f"{size:.6f}" for size in part.solid.box)
    marks = " ".join(
        f"{m.face} {m.at:.6f} {part.spot(m)[1]:.6f} {m.size:.6f} {-1.0 if m.until is None else m.until:.6f}"
        for m in part.marks
    )
    return f"{part.mark} {part.solid.cut_from} {box} {part.quantity} {marks}"


def standing(rig: Rig, laid: Laid) -> dict[str, Measured]:
    """The rows that count, by parameter: of each the last one whose pieces are still as they were.

    rig: with what was measured on it
    laid: all its pieces as drawn

    Returns: rows by key. Source: decisions of the design, Measured.
    """
    known = {part.mark for part in laid.parts}
    return {
        row.key: row
        for row in rig.measured
        if known.issuperset(row.pieces) and row.fingerprint == fingerprint(laid, row.pieces)
    }


def overlaid(values: Mapping[str, Value], rows: Mapping[str, Measured]) -> dict[str, Value]:
    """Design values with the measured ones in their place."""
    return {**values, **{key: row.value for key, row in rows.items()}}


def provenance(row: Measured, unit: str) -> Words:
    """Where a measured value comes from: the test, the day and the give or take."""
    test = f"{row.test}, " if row.test else ""
    return (
        Words(f"measured, {test}{row.date}, ± {{}}", ((row.pm, unit),))
        if row.pm
        else Words(f"measured, {test}{row.date}")
    )


def check_measured(rig: Rig) -> None:
    """Raises InputError for a row that measures no quantity of this kind, or a value outside its bounds."""
    quantities = {p.key: p for p in declared_of(rig).parameters if isinstance(p, Quantity)}
    for n, row in enumerate(rig.measured):
        if row.key not in quantities:
            raise InputError(f"rig {rig.id}, measured {n + 1}, key", repr(row.key), "is not a quantity of this kind")
        quantities[row.key].check(row.value)
        if not row.pm >= 0:
            raise InputError(f"rig {rig.id}, measured {n + 1}, pm", row.pm, "must be zero or more")
