"""What is bought for a cable cam: the rope with what its eyes take, fittings, guys and what holds them,
the haul line."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.cable_cam.design import FRAME, GRAVITY_RUN, LOOP, ONE_GUY, POSTS, STAKES, TREE, TWO_GUYS
from hazel_lantern.core.kinds.cable_cam.model import Cable
from hazel_lantern.core.workshop.part import Buy

EYE_TAKES = {"swaged": 0.25, "clips": 0.35, "splice": 0.6, "bowline": 0.45}  # metres of rope in an eye
HARDWARE = 0.6  # metres from anchor to anchor that shackles, thimbles and the tensioner half-way reach
GUY_ENDS = 0.8  # metres of rope in a guy's two ends
SIDE_GUYS = 2  # of a post, across the rope, beside those against it
CLIPS = 3  # an eye
LEADS = 2.0  # metres of loop that lead to its drive
TAIL = 3.0  # metres of line in a hand


def cut_length(design: Design, cable: Cable) -> float:
    """Rope to cut for one track, with its eyes and without what its fittings reach [m]."""
    return cable.length - HARDWARE + 2 * EYE_TAKES[design.text("rope.eyes")]


def guys_of(kind: str) -> int:
    """How many guys hold an end against the rope."""
    return 2 if kind == TWO_GUYS else 1 if kind in (ONE_GUY, FRAME) else 0


def guy_length(design: Design, high: float) -> float:
    """From a post's top to the ground along its guy [m]."""
    return high / math.sin(design.number("guy.slope"))


def line_length(design: Design, cable: Cable) -> float:
    """Of the line it is hauled or braked with [m]."""
    by = design.text("haul.by")
    return 2 * cable.span + LEADS if by == LOOP else cable.span + TAIL if by == GRAVITY_RUN else 2 * (cable.span + TAIL)


def bought(design: Design, cable: Cable) -> tuple[Buy, ...]:
    """All that has no place of its own in the drawing."""
    found = [*_rope(design, cable)]
    for k, end in enumerate("ab"):
        found += _end(design, end, cable.ends[k])
    return (*found, *_haul(design, cable))


def _rope(design: Design, cable: Cable) -> list[Buy]:
    eyes, count, cut = design.text("rope.eyes"), cable.count, cut_length(design, cable)
    mm, thimble = f"{cable.stock.d * 1e3:.0f} mm", f"{design.number('rope.over') * 1e3:.0f} mm"
    found = [
        Buy(
            f"{cable.stock.name}, by the metre",
            count * math.ceil(cut),
            cable.stock.price,
            f"{'each ' if count > 1 else ''}{cut:.2f} m with both eyes",
        )
    ]
    if eyes != "bowline":
        found.append(Buy(f"Thimble {thimble} for {mm}", 2 * count, 1.2, "in every eye"))
    if eyes == "clips":
        how = (
            "three an eye, saddles on the long side, six diameters apart, the one at the thimble first; again under "
            "load"
        )
        found.append(Buy(f"Wire clip {mm}, forged", 2 * CLIPS * count, 1.1, how))
    if eyes == "swaged":
        found.append(Buy(f"Ferrule {mm}", 2 * count, 2.5, "pressed by a rigging shop"))
    return [
        *found,
        Buy("Shackle, stamped", 4 * count, 4.5, "at both ends, pins secured with wire"),
        Buy(
            "Turnbuckle or lever, stamped",
            count,
            16.0,
            f"takes up {design.number('rope.tensioner'):.2f} m, at end B; secured when tight",
        ),
    ]


def _end(design: Design, end: str, high: float) -> list[Buy]:
    kind, named = design.text(f"anchor.{end}"), f"end {end.upper()}"
    if kind == TREE:
        return [
            Buy("Round sling 1 m, stamped", 1, 12.0, named),
            Buy("Pad of thick felt", 1, 3.0, f"between sling and bark, {named}"),
        ]
    if kind not in POSTS:
        return []
    guys, sides = guys_of(kind), 0 if kind == FRAME else SIDE_GUYS
    line, long = design.row("lines", "guy.line"), guy_length(design, high) + GUY_ENDS
    found = [
        Buy("Round sling 0.5 m, stamped", 1, 8.0, f"round the {'legs' if kind == FRAME else 'post'}, {named}"),
        Buy(
            f"{line.name}, by the metre",
            (guys + sides) * math.ceil(long),
            line.price,
            f"{guys} guy{'s' if guys > 1 else ''} against the rope{f', {sides} to its sides' if sides else ''}, "
            f"{long:.2f} m each, {named}",
        ),
        Buy("Guy tensioner, stamped", guys + sides, 6.0, named),
    ]
    staked = guys + sides if design.text("guy.held") == STAKES else sides
    if staked:
        found.append(Buy("Steel stake 25 mm, 1 m", staked, 9.5, f"{named}; more of them where the pull test asks"))
    if staked == sides and guys:
        found.append(Buy(f"Dead weight of {design.number('guy.weight'):.0f} kg with a strap", guys, 20.0, named))
    return found


def _haul(design: Design, cable: Cable) -> list[Buy]:
    by, line = design.text("haul.by"), design.row("lines", "haul.line")
    long = line_length(design, cable)
    found = [
        Buy(
            f"{line.name}, by the metre",
            math.ceil(long),
            line.price,
            "brake line" if by == GRAVITY_RUN else "haul line",
        )
    ]
    if by != GRAVITY_RUN:
        found.append(
            Buy(
                "Pulley 60 mm on ball bearings, stamped",
                3 if by == LOOP else 2,
                9.0,
                "far end, and where the line turns",
            )
        )
    if by == LOOP:
        found.append(Buy(f"Drive wheel {design.number('haul.wheel') * 1e3:.0f} mm, rubber-faced", 1, 14.0))
    else:
        found.append(Buy("Cleat on the post", 1, 4.5, "keeps the line, and the carriage with it, where it is left"))
    return [
        *found,
        Buy("Stop clamped on the rope, rubber-faced", 2 * cable.count, 6.5, "at both ends of the run"),
        Buy(
            f"Buffer giving {design.number('buffer.stroke') * 1e3:.0f} mm",
            2,
            5.0,
            f"{design.number('buffer.rate'):.0f} N/m, before each stop",
        ),
        Buy("Safety cable with two shackles, stamped", 1, 14.0, "from the camera round the rope"),
    ]
