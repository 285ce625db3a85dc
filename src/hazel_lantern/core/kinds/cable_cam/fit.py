"""Whether the run makes the shot: long enough, its lens as high and as straight as wished;
and the sizes that make it so."""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Carried, Changes, Design
from hazel_lantern.core.kinds.cable_cam.design import BY_SAG
from hazel_lantern.core.kinds.cable_cam.model import Cable, lens_heights, sized
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.kinds.shared.moving import long_enough, move_figures
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, WATCH, Remedy
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

LONGEST, HIGHEST, LOWEST = 60.0, 12.0, 0.4
SPARE = 0.3  # metres of run beyond the move at either end
OFF = 0.1  # metres that a lens may be off its wished height
USUAL_SAG = 0.05  # of the span
PLACES = 25


def fit_figures(move: Move, optics: Optics, cable: Cable, path: Path) -> Told:
    """Run against way, and the lens against its wish all along."""
    tell = Teller()
    have, want = cable.high - cable.low, move.chord
    tell.add(
        by_method(
            "rig.travel",
            "Run between its stops",
            have,
            "m",
            "span less both stops and half the wheels' distance at either end",
            (
                Given("l", cable.span, "m", "span", "rope.span"),
                Given("b", cable.wheelbase, "m", "wheels apart", "carriage.wheelbase"),
            ),
            source="geometry",
            headline=True,
        )
    )
    if want > 0:
        longer = math.ceil((cable.span + want - have + 0.1) * 10) / 10
        tell.findings.append(long_enough(want, have, "span", "rope.span", longer, LONGEST))
    off, slanted, bows = _off(move, cable, path)
    given = (
        Given("h_start", move.start_height_m, "m", "lens at the start", "shot.start"),
        Given("h_end", move.end_height_m, "m", "lens at the end", "shot.end"),
        Given("s", float(cable.now.sag.max()), "m", "sag with the camera", "rope.sag"),
    )
    tell.add(
        by_method(
            "shot.lens_off",
            "Lens off its wished height by",
            float(np.abs(off).max()),
            "m",
            "the most over the move",
            given,
            source="geometry",
        ),
        by_method(
            "shot.bows",
            "Its way bows by",
            bows,
            "m",
            "the most it lies off the straight line from where it starts to where it ends",
            given[2:],
            source="geometry",
        ),
    )
    worst = tell.value("shot.lens_off")
    mend: tuple[Remedy, ...] = ()
    up_a, up_b = (round(end + by, 3) for end, by in zip(cable.ends, slanted, strict=True))
    if worst > OFF and all(LOWEST <= end <= HIGHEST for end in (up_a, up_b)):
        mend = (
            Remedy("level", Words("Ends at {} and {}", ((up_a, "m"), (up_b, "m"))), (("end.a", up_a), ("end.b", up_b))),
        )
    allowed = max(OFF, 0.6 * bows)
    tell.hold(
        "shot.lens_off",
        "shot.height",
        "Height of the lens",
        PICTURE,
        "end.a",
        Words(
            "Over the move the lens is up to {} off its wish; its way bows by {}, which no height of the ends takes "
            "away.",
            ((worst, "m"), (bows, "m")),
        ),
        at_most=allowed,
        state=CLEAR if worst <= allowed else WATCH,
        remedies=mend,
    )
    tell.take(move_figures(move, optics, min(want or have, have), "way along the rope", ""))
    return tell.told()


def _off(move: Move, cable: Cable, path: Path) -> tuple[np.ndarray, tuple[float, float], float]:
    """How far the lens is below its wish over the move (n,), by how much either end goes up to halve that, and how far
    its way bows off a straight line [m].
    """
    u = np.linspace(0.0, 1.0, PLACES)
    x = path.at(u)[:, 0]
    heights = lens_heights(cable, x)
    wish = move.places(move.share(u))[:, 2]
    off = wish - heights
    if np.ptp(x) < 1e-6:
        return off, (float(off.mean()), float(off.mean())), 0.0
    # The straight line with what lies furthest above it as far off as what lies furthest below.
    slope = (off[-1] - off[0]) / (x[-1] - x[0])
    level = off - slope * x
    middle = (float(level.max()) + float(level.min())) / 2
    straight = heights - heights[0] - (heights[-1] - heights[0]) * (x - x[0]) / (x[-1] - x[0])
    return off, (middle - slope * cable.span / 2, middle + slope * cable.span / 2), float(np.abs(straight).max())


def sized_cable(design: Design, kit: Carried, move: Move, cable: Cable, path: Path) -> Changes:
    """Span, sag and heights of the ends that make the shot. Raises InfeasibleError for what goes straight up, round or
    further than any rope here.
    """
    want = move.floor_way
    if want < 1e-6:
        raise InfeasibleError("the shot goes straight up or nowhere; a rope needs a way along the set")
    if move.centre is not None:
        raise InfeasibleError("it goes round; a rope goes straight")
    climb = math.atan2(move.end_height_m - move.start_height_m, want)
    if abs(climb) > math.radians(20):
        raise InfeasibleError(
            "it climbs more steeply than 20°; a carriage on a rope would have to be winched", steepest=20.0
        )
    number = design.number
    span = math.ceil((want + number("run.short_a") + number("run.short_b") + cable.wheelbase + 2 * SPARE) * 10) / 10
    if span > LONGEST:
        raise InfeasibleError(f"it needs a span of {span:.1f} m; {LONGEST:g} m is the longest here", longest=LONGEST)
    sag = round(USUAL_SAG * span, 2)
    values: dict[str, object] = {"rope.span": max(3.0, span), "rope.set": BY_SAG, "rope.sag": sag}
    a = b = (move.start_height_m + move.end_height_m) / 2 + cable.drop + sag
    for _ in range(3):
        values |= {"end.a": round(min(HIGHEST, max(LOWEST, a)), 3), "end.b": round(min(HIGHEST, max(LOWEST, b)), 3)}
        made = sized(replace(design, values={**design.values, **values}), kit)
        _, (up_a, up_b), _ = _off(move, made, replace(path, model=made))
        a, b = made.ends[0] + up_a, made.ends[1] + up_b
    if not all(LOWEST <= end <= HIGHEST for end in (a, b)):
        raise InfeasibleError(
            f"an end would have to be at {a if not LOWEST <= a <= HIGHEST else b:.1f} m; {HIGHEST:g} m is the "
            "highest here"
        )
    return tuple((key, value) for key, value in {**values, "end.a": round(a, 3), "end.b": round(b, 3)}.items())
