"""The sizes of a jib for its shot: pivot and arm by the rise, a rear arm long enough that weights pass the post."""

from __future__ import annotations

from collections.abc import Iterator

from hazel_lantern.core.kinds.base import Carried, Changes, Design, Owned
from hazel_lantern.core.kinds.jib.balance.weights import rack
from hazel_lantern.core.kinds.jib.build import build
from hazel_lantern.core.kinds.jib.design import FIXED_PLACE, RISER
from hazel_lantern.core.kinds.jib.model import WEIGHTS, Jib, frames
from hazel_lantern.core.kinds.jib.reach import SHORT, sized, step
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.kinds.shared.clearing import Cleared, among, changed
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.errors import HazelError, InfeasibleError

SHARE, SLOT, PLACE = 0.37, 0.63, 0.9  # of the front arm, the rear one; of that, where weights begin and where they hang
LONGER, TRIES = 1.12, 9  # the rear arm from try to try
REAR = (0.25, 3.0)  # metres


def size_it(design: Design, kit: Carried, owned: Owned, move: Move, jib: Jib, path: Path) -> Changes:
    """Arm, rear arm and pivot height for this shot.

    Raises InfeasibleError when the shot needs an arm longer than 6 m, or a riser longer than 1.2 m.
    """
    height, front = sized(move, jib, path)
    longest = SHORT if design.variant == RISER else 6.0
    if front > longest:
        raise InfeasibleError(
            f"this rise needs an arm of {front:.2f} m; {longest:g} m is the longest of this construction",
            longest=longest,
        )
    rear = step(min(REAR[1], max(SHARE * front, REAR[0])))
    changes = (("stand.radius", jib.stand.radius_max), ("arm.front", front), ("pivot.height", height))
    further = dict(weights_clear(changed(design, changes), kit, owned, path, rear))
    rear = float(further.get("arm.rear", rear))  # type: ignore[arg-type]
    return (*changes, *slotted(rear), ("weights.place", step(PLACE * rear)))


def slotted(rear: float) -> Changes:
    """A rear arm [m], and where its weights begin."""
    return ("arm.rear", step(rear)), ("weights.nearest", step(SLOT * rear))


def weights_clear(design: Design, kit: Carried, owned: Owned, path: Path, rear: float) -> Changes:
    """A rear arm of at least `rear` [m] on which the weights that balance it pass whatever stands, over a whole move;
    none where no length does, or the weights at hand balance none.
    """
    if design.text("weights.carried") in FIXED_PLACE:
        return ()
    cleared = Cleared(design, path, lambda other: build(other, kit, owned), frames)
    return cleared.first(_longer(design, kit, owned, rear), among(*WEIGHTS))


def _longer(design: Design, kit: Carried, owned: Owned, rear: float) -> Iterator[Changes]:
    """A longer and longer rear arm, balanced."""
    for turn in range(TRIES):
        changes = slotted(rear * LONGER**turn)
        if dict(changes)["arm.rear"] > REAR[1]:  # type: ignore[operator]
            return
        other = changed(design, changes)
        try:
            yield (*changes, *rack(other, owned, build(other, kit, owned).front_moment))
        except HazelError:
            continue  # no weights at hand balance it there
