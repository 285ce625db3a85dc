"""Whether a rail is long and high enough for its shot, and the sizes that make it so."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Changes
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.kinds.rail.model import Carriage
from hazel_lantern.core.kinds.shared.moving import long_enough, move_figures
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.figure import Given, by_formula
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, WATCH, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

OFF = Formula("abs(z-(h_start+h_end)/2)")
TRAVEL = Formula("L-c-D")
LONGEST = 8.0


def travel_figures(move: Move, optics: Optics, rail: Carriage, path: Path) -> Told:
    """Travel of the carriage against the way of the shot, height of the lens against its wish, and how fast that
    goes.
    """
    tell = Teller()
    have, want = rail.high - rail.low, move.chord
    tell.add(
        by_formula(
            "rig.travel",
            "Travel",
            "m",
            TRAVEL,
            (
                Given("L", rail.length, "m", "rail", "rail.length"),
                Given("c", rail.wheelbase, "m", "between its axles or ends", rail.base_key),
                Given("D", 2 * rail.beyond, "m", "half a wheel left on at either end", "carriage.wheel"),
            ),
            source="geometry",
            headline=True,
        )
    )
    if want > 0:
        longer = _length(rail, want)
        tell.findings.append(long_enough(want, have, "rail", "rail.length", longer, LONGEST))
    high = rail.height + _lens_up(rail, path, rail.slope)
    wish = (move.start_height_m + move.end_height_m) / 2
    tell.add(
        by_formula(
            "shot.lens_off",
            "Lens off its height, half-way",
            "m",
            OFF,
            (
                Given("z", high, "m", "lens half-way", rail.lift.key),
                Given("h_start", move.start_height_m, "m", "lens at the start", "shot.start"),
                Given("h_end", move.end_height_m, "m", "lens at the end", "shot.end"),
            ),
            source="geometry",
        )
    )
    off = tell.value("shot.lens_off")
    now = rail.height if rail.lift.key == "rail.height" else float(rail.mount[2])
    better = round(now + wish - high, 3)
    tell.hold(
        "shot.lens_off",
        "shot.height",
        "Height of the lens",
        PICTURE,
        rail.lift.key,
        Words("Half-way the lens is at {}; the shot asks for {}.", ((high, "m"), (wish, "m"))),
        at_most=0.05,
        state=CLEAR if off <= 0.05 else WATCH,
        remedies=(set_one("height", rail.lift.words, rail.lift.key, better, "m"),)
        if off > 0.05 and rail.lift.low <= better <= rail.lift.high
        else (),
    )
    tell.take(move_figures(move, optics, min(want or have, have), f"way of the {rail.carrier}", ""))
    return tell.told()


def _length(rail: Carriage, want: float) -> float:
    return math.ceil((want + rail.wheelbase + 2 * rail.beyond + 0.02) * 20 - 1e-9) / 20


def _lens_up(rail: Carriage, path: Path, slope: float) -> float:
    """How far the lens is above the top of the rail at the carriage's middle, as its level head holds it [m]."""
    return float(rail.mount[0]) * math.sin(slope) + float(rail.mount[2]) * math.cos(slope) + float(path.lens[2])


def sized_rail(move: Move, rail: Carriage, path: Path) -> Changes:
    """Rail length, slope and height that make the shot.

    Raises InfeasibleError when the move is longer than any rail here, climbs too steeply, or asks for a rail where none
    can lie.
    """
    length, slope, height = way_for(move, rail, path)
    if not 0.05 <= height <= 6:
        raise InfeasibleError(f"the rail would have to lie at {height:.2f} m above the ground")
    return (("rail.length", length), ("rail.slope", slope), ("rail.height", height))


def way_for(move: Move, rail: Carriage, path: Path) -> tuple[float, float, float]:
    """How long a rail makes the shot [m], how steep [rad], and how high its top would lie half-way [m] with the mount
    where it is.

    Raises InfeasibleError when the move is longer than any rail here, or climbs too steeply.
    """
    want = move.chord
    if want == 0:
        raise InfeasibleError("the shot goes straight up or nowhere; a rail needs a way along the set")
    length = _length(rail, want)
    if length > LONGEST:
        raise InfeasibleError(
            f"this move needs a rail of {length:.2f} m; {LONGEST:g} m is the longest drawn here", longest=LONGEST
        )
    slope = math.asin((move.end_height_m - move.start_height_m) / want)
    if abs(slope) > math.radians(40):
        raise InfeasibleError("this move climbs more steeply than a rail may; an arm rises better", steepest=40.0)
    height = round((move.start_height_m + move.end_height_m) / 2 - _lens_up(rail, path, slope), 3)
    return length, round(slope, 5), height


def over_the_wheels(rail: Carriage) -> Changes:
    """The mount where the camera and all that goes along with it stand over the middle of the wheels."""
    return tuple(
        (key, min(0.5, max(-0.5, rail.over(axis)))) for axis, key in enumerate(("camera.ahead", "camera.aside"))
    )
