"""Uneven ground under a track: which wedge goes under which tie, and what the picture would do without."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.dolly.inputs import AS_IT_LIES
from hazel_lantern.core.kinds.dolly.model import Dolly
from hazel_lantern.core.kinds.rail.bends import DRIFT, HORIZON
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.mechanics import platform, ties
from hazel_lantern.core.motion.wanted import Optics
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.figure import Curve, Given, by_method
from hazel_lantern.core.nouns.finding import BUILD, CLEAR, PICTURE, STRUCTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics import lens

TAPER = 8.0  # of the wedges, 1 in so much
REACH = 0.04  # metres that a pair of wedges lifts; above that a block goes under them
PLACES = 201
NOTICED = 0.002  # metres of a gap under a corner that is felt as it closes


def ground_figures(design: Design, optics: Optics, away: float, rail: Straight, dolly: Dolly) -> Told:
    """Told where the ground was measured at two places and more."""
    tell, rows = Teller(), design.rows("ground.heights")
    if not len(rows):
        return tell.told()
    if len(rows) == 1:
        tell.findings.append(_short("One place says nothing of the ground between: measure it at two and more."))
        return tell.told()
    first, last = dolly.ties[0], dolly.ties[-1]
    if rows[0, 0] > first + 1e-9 or rows[-1, 0] < last - 1e-9:
        words = Words(
            "The ground was measured from {} to {}; ties lie from {} to {}: measure there too.",
            tuple((float(x), "m") for x in (rows[0, 0], rows[-1, 0], first, last)),
        )
        tell.findings.append(Finding("rig.measured", "Ground measured", BUILD, WATCH, "ground.heights", words))
    given = (
        Given("n", float(len(rows)), "1", "places measured", "ground.heights"),
        Given("g", rail.spacing, "m", "gauge", "rail.spacing"),
    )
    lies = design.text("ground.lies") == AS_IT_LIES
    if not lies:
        _wedges(tell, design, rail, dolly, rows, given)
    _as_it_lies(tell, optics, away, rail, rows, given, judged=lies)
    return tell.told()


def _short(words: str) -> Finding:
    return Finding("rig.measured", "Ground measured", BUILD, WATCH, "ground.heights", Words(words))


def _wedges(
    tell: Teller, design: Design, rail: Straight, dolly: Dolly, rows: np.ndarray, given: tuple[Given, ...]
) -> None:
    most = float(dolly.wedges.max())
    tell.add(
        by_method(
            "rig.wedge",
            "Thickest wedge",
            most,
            "m",
            "plane of the track over the ground measured, level across",
            given,
            source="dynamics 4.4",
        ),
        by_method(
            "rig.wedge_push",
            "pushed in by",
            TAPER * most,
            "m",
            f"wedges of 1 in {TAPER:g}",
            given,
            source="dynamics 4.4",
        ),
    )
    for side, name in ((0, "left"), (1, "right")):
        key = "rig.wedge.left" if side == 0 else "rig.wedge.right"
        tell.curves[key] = Curve(
            key, f"wedge under the {name} end", np.array(dolly.ties), dolly.wedges[:, side], "m", "m"
        )
    words = Words(
        "Wedges of up to {} under the ties lay it level; what lifts more than {} stands on a block.",
        ((most, "m"), (REACH, "m")),
    )
    slope = _follows(rows, dolly)
    mend: tuple[Remedy, ...] = ()
    if abs(slope - design.number("rail.slope")) > 1e-3 and abs(slope) <= math.radians(10):
        mend = (set_one("follow", "Let it rise with the ground, {}", "rail.slope", round(slope, 5), "rad"),)
    state = CLEAR if most <= REACH else WATCH
    tell.findings.append(
        Finding(
            "rig.wedged",
            "Wedges under the ties",
            BUILD,
            state,
            "ground.heights",
            words,
            most,
            REACH,
            "at_most",
            "m",
            mend if state != CLEAR else (),
        )
    )


def _follows(rows: np.ndarray, dolly: Dolly) -> float:
    """The slope that takes least packing [rad]."""
    at = [x for x in dolly.ties if rows[0, 0] <= x <= rows[-1, 0]]
    if len(at) < 2:
        return 0.0
    middle = rows[:, 1:].mean(axis=1)
    line = ties.packing(rows[:, 0].tolist(), middle.tolist(), at, level=False) + np.interp(at, rows[:, 0], middle)
    return math.asin(max(-1.0, min(1.0, float(line[-1] - line[0]) / (at[-1] - at[0]))))


def _as_it_lies(
    tell: Teller,
    optics: Optics,
    away: float,
    rail: Straight,
    rows: np.ndarray,
    given: tuple[Given, ...],
    *,
    judged: bool,
) -> None:
    """What the deck does on a track that follows the ground: lean, nod and rocking."""
    x, half = np.linspace(rail.low, rail.high, PLACES), rail.wheelbase / 2
    front, rear = (
        np.column_stack([np.interp(x + s * half, rows[:, 0], rows[:, k]) for k in (1, 2)]) for s in (1.0, -1.0)
    )
    lean = (front + rear) @ np.array([0.5, -0.5]) / rail.spacing
    nod = (front.mean(axis=1) - rear.mean(axis=1)) / rail.wheelbase
    focal = lens.focal_pixels(optics.focal_m, optics.pixels_high, optics.sensor_height_m)
    cos, sin = math.cos(rail.heading), math.sin(rail.heading)
    # Looking along, the nod tilts the picture and the lean turns it; looking aside it is the other way round.
    seen = focal * (nod * cos + lean * sin)
    turned = lean * cos - nod * sin
    tell.add(
        by_method(
            "travel.ground_px",
            "Ground moves the picture by",
            float(np.ptp(seen)),
            "px",
            "F times the tilt along the travel on a track that follows the ground",
            given,
            source="drive 5.3",
        ),
        by_method(
            "travel.ground_lean",
            "and leans it by",
            float(np.ptp(turned)),
            "rad",
            "front and rear cross-levels over the gauge, along the travel",
            given,
            source="dynamics 4.4",
        ),
    )
    hangs = _hangs(rail, front, rear)
    if not rail.lone:
        tell.add(
            by_method(
                "travel.ground_rocks",
                "A corner hangs free by",
                hangs,
                "m",
                "four corners on the ground's twist, at its worst",
                given,
                source="dynamics 4.4, 6.2",
            )
        )
    if not judged:
        return
    level = (Remedy("wedge", Words("Wedge it level"), (("ground.lies", "wedged"),)),)
    tell.hold(
        "travel.ground_px",
        "travel.uneven",
        "Uneven ground in the picture",
        PICTURE,
        "ground.lies",
        "The ground moves the picture by {} along the travel; a hundredth of its height passes.",
        at_most=DRIFT * optics.pixels_high,
        remedies=level,
    )
    tell.hold(
        "travel.ground_lean",
        "travel.unlevel",
        "Level picture on this ground",
        PICTURE,
        "ground.lies",
        "The ground leans the picture by {} along the travel; {} passes.",
        at_most=HORIZON,
        remedies=level,
    )
    if not rail.lone:
        tell.hold(
            "travel.ground_rocks",
            "travel.ground_twists",
            "Twist of the ground",
            STRUCTURE,
            "ground.lies",
            "Where the ground twists most a corner hangs free by {}: it rocks, and comes down with a knock.",
            at_most=NOTICED,
            state=CLEAR if hangs <= NOTICED else WATCH,
            remedies=level,
        )


def _hangs(rail: Straight, front: np.ndarray, rear: np.ndarray) -> float:
    """The largest gap under one of four corners along the travel [m];
    the deck is stiff and the pipes lie as the ground."""
    if rail.lone:
        return 0.0
    floors = np.column_stack([front[:, 0], rear[:, 0], front[:, 1], rear[:, 1]])
    worst = floors[int(np.argmax(np.abs(floors @ np.array([1.0, -1.0, -1.0, 1.0]))))]
    try:
        return platform.rocking(rail.wheels, worst.tolist(), rail.cg[:2].tolist()).gap
    except InfeasibleError:
        return 0.0  # it falls over by itself: the footing says so
