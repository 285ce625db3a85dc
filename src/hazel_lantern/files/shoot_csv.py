"""All rigs of a shoot as a table, one row for each load: what is carried together, by whom it is lifted."""

from __future__ import annotations

from collections import Counter

from hazel_lantern.core.advice.shoot import Shoot
from hazel_lantern.files.tables import as_csv

HEAD = ["rig", "cost", "rig kg", "longest mm", "people", "load", "kg", "load's longest mm", "holds"]


def write(found: Shoot) -> bytes:
    """Rigs in their order, each with its loads, numbers of the rig in its first row."""
    rows: list[list[object]] = []
    for row in found.rows:
        first: list[object] = [
            row.name,
            round(row.cost, 2),
            round(row.mass, 3),
            round(row.longest * 1e3, 1),
            row.people,
        ]
        if not row.loads:
            rows.append([*first, "", "", "", row.trouble])
        for n, load in enumerate(row.loads):
            held = Counter(piece.name for piece in load.pieces)
            words = ", ".join(f"{count} × {name}" for name, count in held.items())
            own = first if n == 0 else [row.name, "", "", "", ""]
            rows.append([*own, load.sort, round(load.mass, 3), round(load.longest * 1e3, 1), words])
    return as_csv(HEAD, rows)
