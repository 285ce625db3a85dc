"""Where pieces of a jib are in one another: weights further out, pivot midway, mount off its pin, taller cheeks."""

from __future__ import annotations

from collections.abc import Iterator

from hazel_lantern.core.kinds.base import Carried, Changes, Design, Owned
from hazel_lantern.core.kinds.jib.build import build
from hazel_lantern.core.kinds.jib.design import BETWEEN, CHEEKS, SINGLE
from hazel_lantern.core.kinds.jib.model import WEIGHTS, Jib, frames
from hazel_lantern.core.kinds.jib.reach import reach_remedies
from hazel_lantern.core.kinds.jib.sizing import weights_clear
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.kinds.shared.clearing import Cleared, among
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.finding import Remedy, set_one
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.fouls import Foul

of_weights, at_head = among(*WEIGHTS), among("camera kit", "mount plate")
STEP, STEPS = 0.02, 8  # metres that a mount is brought from its pin, and cheeks are made taller by twice of, at a time


def clearing(
    design: Design, kit: Carried, owned: Owned, move: Move, path: Path, jib: Jib, fouls: tuple[Foul, ...], suggest: bool
) -> tuple[Remedy, ...]:
    """What may be tried where pieces are in one another."""
    if not fouls or not suggest:
        return ()
    cleared = Cleared(design, path, lambda other: build(other, kit, owned), frames)
    found = []
    further = weights_clear(design, kit, owned, path, jib.rear) if any(map(of_weights, fouls)) else ()
    if further:
        words = Words("Weights further out, rear arm {}", ((float(dict(further)["arm.rear"]), "m"),))  # type: ignore[arg-type]
        found.append(Remedy("further_out", words, further))
    found += reach_remedies(design, move, jib, path)
    ways = []
    if any(map(at_head, fouls)):
        ways = [("ahead", "Mount {} ahead of the pin", "head.ahead", STEP, 0.6, at_head)]
        ways += [("higher", "Mount {} above the pin", "head.rise", STEP, 0.6, at_head)]
    if not all(map(at_head, fouls)) and design.text("post.made") in (CHEEKS, SINGLE, BETWEEN):
        ways += [("taller", "Cheeks {} long", "post.length", 2 * STEP, 1.5, lambda foul: not at_head(foul))]
    for key, said, place, step, most, matters in ways:
        tried = cleared.first(_more(design, place, step, most), matters)
        found += [set_one(key, said, place, float(value), "m") for place, value in tried]  # type: ignore[arg-type]
    return tuple(found)


def _more(design: Design, key: str, step: float, most: float) -> Iterator[Changes]:
    """More of an input, step by step."""
    now = design.number(key)
    return (((key, round(now + n * step, 3)),) for n in range(1, STEPS + 1) if now + n * step <= most)
