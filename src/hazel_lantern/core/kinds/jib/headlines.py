"""One line for each station, read in the trail without opening anything."""

from __future__ import annotations

from hazel_lantern.core.kinds.base import Design, Figures, Owned
from hazel_lantern.core.kinds.jib.design import VARIANTS
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.words import Words


def headlines(design: Design, owned: Owned, move: Move, optics: Optics, figures: Figures) -> dict[str, Words]:
    """Words by station; figures that could not be worked out are left out."""
    number = design.number
    found = {
        "shot": Words(
            "{} → {} in {}, {}",
            ((move.start_height_m, "m"), (move.end_height_m, "m"), (move.duration_s, "s"), (optics.focal_m, "m:lens")),
        ),
        "rig": Words(
            dict(VARIANTS)[design.variant].lower() + ", {} : {}",
            ((number("arm.front"), "m"), (number("arm.rear"), "m")),
        ),
        "balance": Words("cannot be worked out"),
        "build": Words("nothing to cut yet"),
    }
    hung = sum(dict(owned)[key].mass for key in design.several("weights.hung") if key in dict(owned))
    if "balance.stays_from" in figures:
        spans = ((hung, "kg"), (figures["balance.stays_from"].value, "rad"), (figures["balance.stays_to"].value, "rad"))
        found["balance"] = Words("{} rear, stays {} to {}", spans)
    elif "balance.needed" in figures:
        found["balance"] = Words("{} rear of {} needed", ((hung, "kg"), (figures["balance.needed"].value, "kg")))
    if "build.pieces" in figures:
        found["build"] = Words(
            "{} to cut, {}", ((figures["build.pieces"].value, "count"), (figures["build.cost"].value, "currency"))
        )
    return found
