"""Where pieces of a jib are in one another: weights further out, pivot midway, mount off its pin, taller cheeks."""

from __future__ import annotations

from hazel_lantern.core.kinds.base import Carried, Design, Owned
from hazel_lantern.core.kinds.jib.build import build
from hazel_lantern.core.kinds.jib.design import BETWEEN, CHEEKS, SINGLE
from hazel_lantern.core.kinds.jib.model import WEIGHTS, Jib, frames
from hazel_lantern.core.kinds.jib.reach import reach_remedies
from hazel_lantern.core.kinds.jib.sizing import weights_clear
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.kinds.shared.clearing import Cleared, Way, among
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.finding import Remedy, set_one
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.fouls import Foul

of_weights, at_head = among(*WEIGHTS), among("camera kit", "mount plate")
of_stay = among("stay mast", "stay cable")
of_joint = among("plate beside the arm's joint", "sleeve in the arm")
AT_HEAD = (
    Way("head.ahead", "Mount {} ahead of the pin", 0.02, high=0.6, matters=at_head),
    Way("head.rise", "Mount {} above the pin", 0.02, low=-0.6, high=0.6, matters=at_head),
)
TALLER = Way("post.length", "Cheeks {} long", 0.04, high=1.5, matters=lambda foul: not at_head(foul))


def clearing(
    design: Design, kit: Carried, owned: Owned, move: Move, path: Path, jib: Jib, fouls: tuple[Foul, ...], suggest: bool
) -> tuple[Remedy, ...]:
    """What may be tried where pieces are in one another."""
    if not fouls or not suggest:
        return ()
    found = []
    further = weights_clear(design, kit, owned, path, jib.rear) if any(map(of_weights, fouls)) else ()
    if further:
        words = Words("Weights further out, rear arm {}", ((float(dict(further)["arm.rear"]), "m"),))  # type: ignore[arg-type]
        found.append(Remedy("further_out", words, further))
    if any(map(of_joint, fouls)):
        found.append(set_one("whole", "An arm in one piece", "arm.joint", 0.0))
    if any(map(of_stay, fouls)):
        found.append(set_one("no_stay", "Without a stay", "stay.mast", 0.0))
    found += reach_remedies(design, move, jib, path)
    cleared = Cleared(design, path, lambda other: build(other, kit, owned), frames)
    on_cheeks = design.text("post.made") in (CHEEKS, SINGLE, BETWEEN)
    found += cleared.remedies((*AT_HEAD, *((TALLER,) if on_cheeks else ())), fouls)
    return tuple(found)
