"""Scores of practising, kept line by line beside the recovery of unsaved work."""

from __future__ import annotations

from pathlib import Path

import msgspec

from hazel_lantern.files import places
from hazel_lantern.files.errors import FileError


class Kept(msgspec.Struct, frozen=True):
    """One score: the day, what was practised, the seed that gives the same again, its level, points of a hundred."""

    day: str
    what: str
    seed: int
    level: int
    points: int


def _path() -> Path:
    return places.state() / "practice.jsonl"


def keep(score: Kept) -> None:
    """One more. Raises FileError."""
    path = _path()
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        with path.open("ab") as file:
            file.write(msgspec.json.encode(score) + b"\n")
    except OSError as error:
        raise FileError(path, error.strerror or "cannot be written") from error


def load() -> tuple[Kept, ...]:
    """All, oldest first; lines that are none are left out."""
    try:
        lines = _path().read_bytes().splitlines()
    except OSError:
        return ()
    found = []
    for line in lines:
        try:
            found.append(msgspec.json.decode(line, type=Kept))
        except msgspec.DecodeError:
            continue
    return tuple(found)
