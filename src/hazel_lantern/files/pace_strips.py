"""Pace marks at their true size: strips to stick along a rail or round a disc, with the beat to count."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepTogether, Spacer

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.driving.pacing import Beats, Strip, beats
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.files.boards import INK, MUTED, Board
from hazel_lantern.files.build_sheet import QUIET, STRONG, WIDE, columns, heading, pages, paragraph, title

PIECE, EDGE = 160.0, 10.0  # mm of strip in one piece, and of paper beyond either end
HIGH, BASE = 19.0, 9.0  # mm: a piece, and its line below its top
TALL, LOW = 6.0, 3.5  # mm of a mark: at seconds that are told, at others
APART = 6.0  # mm between two words


class Piece(Board):
    """One piece of a strip, from `start` on [mm]: marks of the way out above its line, of the way back below."""

    def __init__(self, strip: Strip, times: np.ndarray, start: float, long: float, name: str) -> None:
        super().__init__(WIDE, HIGH)
        self._strip, self._times, self._start, self._long, self._name = strip, times, start, long, name

    def paint(self) -> None:
        end = EDGE + self._long
        self.line([(EDGE, BASE), (end, BASE)], 0.3)
        for x in (EDGE, end):
            self.line([(x, 0.0), (x, BASE + TALL)], 0.1, colour=MUTED, dash=True)
        self.text((EDGE + 1, HIGH - 0.5), self._name, 6, MUTED)
        for up in (True, False):
            self._marks(up)

    def _marks(self, up: bool) -> None:
        at, told = self._strip.at * 1e3, -math.inf
        back = np.concatenate([[False], np.diff(at) < 0])
        for first, last in held(at):
            x = float(at[first]) - self._start
            if bool(back[first]) == up or not -1e-6 <= x <= self._long + 1e-6:
                continue
            words = stamp(self._times[first]) + (f"–{stamp(self._times[last])}" if last > first else "")
            tells = x - told >= APART
            tall, side = (TALL if tells else LOW), (-1 if up else 1)
            self.line([(EDGE + x, BASE), (EDGE + x, BASE + side * tall)], 0.2, colour=INK)
            if tells:
                told = x
                self.text((EDGE + x + 0.6, BASE + side * tall + (1.8 if up else 0.0)), words, 6)


def held(at: np.ndarray) -> list[tuple[int, int]]:
    """First and last beat of every place, in order of the beats."""
    breaks = [0, *(np.flatnonzero(np.diff(at)) + 1).tolist(), len(at)]
    return [(a, b - 1) for a, b in pairwise(breaks)]


def stamp(seconds: float) -> str:
    """A time of the clock in seconds, beyond two minutes in minutes too."""
    if seconds < 120:
        return f"{seconds:.4g}"
    return f"{int(seconds // 60)}:{seconds % 60:04.1f}".removesuffix(".0")


def pdf(project: Project, result: Evaluation, show: Display) -> bytes:
    """The strips of a shot, and every beat in a table. Raises as `beats` does."""
    made = beats(result.shot, result.scene, result.kind.axes, result.findings)
    count = f"Count {60 / made.beat:g} beats a minute: a mark every {made.beat:g} s."

    def flow() -> list[Flowable]:
        found: list[Flowable] = [
            title(result.rig.name, f"{project.name} · {result.shot.name} · pace marks"),
            paragraph(count + (" The last beat is shorter." if made.odd else ""), STRONG),
            paragraph(
                "Print at 100 % and measure the bar at the foot. Cut at the dashed lines and butt the pieces in order; "
                "lay mark 0 where the pointer stands when the clock starts, the strip along the way it goes. The "
                "pointer is "
                "on each mark at its beat: the move eases itself. What goes back is marked below the line.",
                QUIET,
            ),
        ]
        for strip in (*made.strips, *made.heads):
            found += _strip(strip, made, show)
        return [*found, *_table(made, show)]

    return pages(f"{project.name} · {result.rig.name} · {result.shot.name}", flow)


def _strip(strip: Strip, made: Beats, show: Display) -> list[Flowable]:
    low, high = float(strip.at.min()) * 1e3, float(strip.at.max()) * 1e3
    aside = show.text((high - low) / 1e3, "m", fine=True)
    if strip.round_it is not None:
        aside += f", put round a disc of {show.text(2 * strip.round_it, 'm')} across, on its axis"
    count = max(1, math.ceil((high - low) / PIECE - 1e-9))
    found: list[Flowable] = [heading(strip.name, aside)]
    if strip.crowded:
        found.append(
            paragraph(
                f"Between {strip.crowded} beats it moves less than a hand can tell: creep on through them.", QUIET
            )
        )
    for n in range(count):
        start = low + n * PIECE
        long = min(PIECE, high - start)
        found.append(
            KeepTogether([Piece(strip, made.times, start, long, f"{strip.name} {n + 1} of {count}"), Spacer(0, 2 * mm)])
        )
    return found


def _table(made: Beats, show: Display) -> list[Flowable]:
    names = [strip.name for strip in made.strips] + [name.capitalize() for name, _, _ in made.beside]
    values = [("m", strip.at) for strip in made.strips] + [(unit, row) for _, unit, row in made.beside]
    rows = [
        [stamp(time), *(show.text(float(row[k]), unit, fine=True) for unit, row in values)]
        for k, time in enumerate(made.times)
    ]
    return [heading("Every beat", "along the strip, from mark 0"), columns(["Seconds", *names], rows)]
