"""A move for a motion controller: plain text of common words, and the same as a table.
docs/motion.md describes both."""

from __future__ import annotations

import numpy as np

from hazel_lantern import __version__
from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.driving.programme import Channel, Programme, programme
from hazel_lantern.files.tables import as_csv


def _of(result: Evaluation) -> Programme:
    return programme(result.shot, result.scene, result.kind.axes, result.driven, result.findings)


def text(project: Project, result: Evaluation) -> bytes:
    """Lines of a controller's own words, ASCII. Raises as `programme` does."""
    made = _of(result)
    places = np.round(np.column_stack([one.places for one in made.channels]), 4) + 0.0
    letters = [one.letter for one in made.channels]
    lines = [
        f"; {project.name}: {result.rig.name}, {result.shot.name}",
        f"; Hazel Lantern {__version__}; mm, degrees; {result.shot.capture_fps:g} frames a second",
        *(f"; {one.letter} {one.name}, {one.unit}{_limits(one)}" for one in made.channels),
        "; A line takes 60/F seconds, G4 waits P seconds. Nobody within reach; a hand at the emergency stop.",
        "G21",
        "G90",
        "G93",
        "G92 " + _words(letters, places[0]),
    ]
    waited = 0.0
    for before, at, time in zip(places[:-1], places[1:], np.diff(made.times), strict=True):
        if (at == before).all():
            waited += float(time)
            continue
        if waited:
            lines.append(f"G4 P{waited:.4f}")
            waited = 0.0
        lines.append(f"G1 {_words(letters, at)} F{60 / time:.4f}")
    if waited:
        lines.append(f"G4 P{waited:.4f}")
    lines.append("M2")
    return ("\n".join(lines) + "\n").encode("ascii", "replace")


def _words(letters: list[str], at: np.ndarray) -> str:
    return " ".join(f"{letter}{place:.4f}" for letter, place in zip(letters, at, strict=True))


def _limits(one: Channel) -> str:
    return f", from {one.limits[0]:.4f} to {one.limits[1]:.4f}" if one.limits else ""


def table(_project: Project, result: Evaluation) -> bytes:
    """One row for every time; a column for every axis with its unit and how far it may go.
    Raises as `programme` does."""
    made = _of(result)
    head = [f"{one.name} {one.unit}{_limits(one)}" for one in made.channels]
    columns = np.column_stack([made.times, *(np.round(one.places, 6) + 0.0 for one in made.channels)])
    return as_csv(["time_s", *head], [list(row) for row in columns.tolist()])
