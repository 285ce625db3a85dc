"""Whether a rail is long and high enough for its shot, and the sizes that make it so."""

from __future__ import annotations

import math

from hazel_lantern.core.errors import InfeasibleError
from hazel_lantern.core.figure import Given, by_formula
from hazel_lantern.core.finding import CLEAR, PICTURE, STOP, WATCH, Finding, Remedy, Words
from hazel_lantern.core.formula import Formula
from hazel_lantern.core.kinds.base import Context, Report
from hazel_lantern.core.kinds.moving import move_figures
from hazel_lantern.core.kinds.straight.model import Straight, wanted_way

TRAVEL = Formula("L-c-D")
LONGEST = 8.0


def travel_figures(context: Context, rig: Straight, report: Report, moves: str) -> None:
    """Travel of the carriage against the way of the shot, height of the lens against its wish, and how fast that goes; `moves` names what makes the way."""
    have, want = rig.high - rig.low, wanted_way(context)
    report.add(by_formula("rig.travel", "Travel", "m", "rig", TRAVEL, (
        context.given("L", "rail.length", "rail", "m"), context.given("c", "carriage.wheelbase", "wheelbase", "m"), Given("D", rig.wheel.d, "m", "one wheel left on at both ends", "carriage.wheel")),
        source="geometry", headline=True))  # fmt: skip
    longer = _length(context, rig, want)
    mend = (Remedy("longer", Words("Rail {}", ((longer, "m"),)), (("rail.length", longer),)),) if longer <= LONGEST and want > have else ()
    if want > 0:
        report.findings.append(Finding(
            "shot.travel", "Long enough for the move", PICTURE, CLEAR if want <= have + 1e-9 else STOP, want, have, "at_most", "m", "rail.length", "shot",
            Words("The move asks for {} of travel; the rail gives {}.", ((want, "m"), (have, "m"))), mend,
        ))  # fmt: skip
    high = float(rig.on_floor((rig.low + rig.high) / 2, rig.lens[2])[1])
    wish = (context.shot.start_height_m + context.shot.end_height_m) / 2
    off = abs(high - wish)
    better = round(rig.height + wish - high, 3)
    report.findings.append(Finding(
        "shot.height", "Height of the lens", PICTURE, CLEAR if off <= 0.05 else WATCH, off, 0.05, "at_most", "m", "rail.height", "shot",
        Words("Half-way the lens is at {}; the shot asks for {}.", ((high, "m"), (wish, "m"))),
        (Remedy("height", Words("Rail at {}", ((better, "m"),)), (("rail.height", better),)),) if off > 0.05 and 0.05 <= better <= 6 else (),
    ))  # fmt: skip
    move_figures(context, report, min(want or have, have), f"way of the {moves}", "")


def _length(context: Context, rig: Straight, want: float) -> float:
    return math.ceil((want + context.number("carriage.wheelbase") + rig.wheel.d + 0.02) * 20 - 1e-9) / 20


def sized_rail(context: Context, rig: Straight) -> tuple[tuple[str, object], ...]:
    """Rail length, slope and height that make the shot.

    Raises InfeasibleError when the move is longer than any rail here, or climbs too steeply.
    """
    shot, want = context.shot, wanted_way(context)
    if want == 0:
        raise InfeasibleError("the shot goes straight up or nowhere; a rail needs a way along the set")
    length = _length(context, rig, want)
    if length > LONGEST:
        raise InfeasibleError(f"this move needs a rail of {length:.2f} m; {LONGEST:g} m is the longest drawn here", longest=LONGEST)
    slope = math.asin((shot.end_height_m - shot.start_height_m) / want)
    if abs(slope) > math.radians(40):
        raise InfeasibleError("this move climbs more steeply than a rail may; an arm rises better", steepest=40.0)
    above = float(rig.lens[2]) * math.cos(slope)
    height = round((shot.start_height_m + shot.end_height_m) / 2 - above, 3)
    if not 0.05 <= height <= 6:
        raise InfeasibleError(f"the rail would have to lie at {height:.2f} m above the ground")
    return (("rail.length", length), ("rail.slope", round(slope, 5)), ("rail.height", height))
