"""One line for each station, read in the trail without opening anything."""

from __future__ import annotations

from hazel_lantern.core.finding import Words
from hazel_lantern.core.kinds.base import Context, Report
from hazel_lantern.core.kinds.jib.design import VARIANTS


def headlines(context: Context, report: Report) -> dict[str, Words]:
    """Words by station; figures that could not be worked out are left out."""
    shot, number = context.shot, context.number
    found = {
        "shot": Words("{} → {} in {}, {}", ((shot.start_height_m, "m"), (shot.end_height_m, "m"), (shot.duration_s, "s"), (shot.focal_m, "m:lens"))),
        "rig": Words(dict(VARIANTS)[context.rig.variant].lower() + ", {} : {}", ((number("arm.front"), "m"), (number("arm.rear"), "m"))),
        "balance": Words("cannot be worked out"),
        "build": Words("nothing to cut yet"),
    }
    figures = report.figures
    hung = sum(dict(context.owned)[key].mass for key in context.several("weights.hung") if key in dict(context.owned))
    if "balance.stays_from" in figures:
        spans = ((hung, "kg"), (figures["balance.stays_from"].value, "rad"), (figures["balance.stays_to"].value, "rad"))
        found["balance"] = Words("{} rear, stays {} to {}", spans)
    elif "balance.needed" in figures:
        found["balance"] = Words("{} rear of {} needed", ((hung, "kg"), (figures["balance.needed"].value, "kg")))
    if "build.pieces" in figures:
        found["build"] = Words("{} pieces, {}", ((figures["build.pieces"].value, "count"), (figures["build.cost"].value, "currency")))
    return found
