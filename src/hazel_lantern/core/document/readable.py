"""Names as they can be shown and written anywhere: whatever people typed or another program put into a file."""

from __future__ import annotations

import unicodedata
from typing import TypeVar

from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.document.project import Project

MOST = 60  # characters of a name that are shown
NOTES = 20_000
T = TypeVar("T", bound=Struct)


def readable(project: Project, most: int = MOST) -> Project:
    """The document with every name shortened and without characters that cannot be seen or written; the very same
    one where there is nothing to mend.
    """
    sets = _each(
        project.sets, lambda stage: _named(_with(stage, things=_each(stage.things, lambda t: _named(t, most))), most)
    )
    kits = _each(project.kits, lambda kit: _named(_with(kit, items=_each(kit.items, lambda i: _named(i, most))), most))
    shots = _each(project.shots, lambda shot: _named(shot, most))
    rigs = _each(project.rigs, lambda rig: _named(rig, most))
    return _with(
        _named(project, most),
        currency=plain(project.currency, 8),
        notes=plain(project.notes, NOTES),
        sets=sets,
        kits=kits,
        shots=shots,
        rigs=rigs,
    )


def plain(words: str, most: int = MOST) -> str:
    """Words in one line of at most so many characters; what is not to be seen, or changes the direction, goes."""
    if len(words) <= most and words.isprintable():
        return words
    seen = "".join(
        c if c.isprintable() else " " if c.isspace() or unicodedata.category(c) == "Cc" else ""
        for c in words[: 4 * most]
    )
    seen = " ".join(seen.split()) or "?"
    return seen if len(seen) <= most and len(words) <= 4 * most else seen[: most - 1] + "…"


def _named(row: T, most: int) -> T:
    return _with(row, name=plain(row.name, most))  # type: ignore[attr-defined]


def _with(row: T, **fields: object) -> T:
    """The row with these fields; itself where they are what they were."""
    changed = {name: value for name, value in fields.items() if getattr(row, name) is not value}
    return replace(row, **changed) if changed else row


def _each(rows: tuple[T, ...], work) -> tuple[T, ...]:  # type: ignore[no-untyped-def]
    made = tuple(work(row) for row in rows)
    return rows if all(new is old for new, old in zip(made, rows, strict=True)) else made
