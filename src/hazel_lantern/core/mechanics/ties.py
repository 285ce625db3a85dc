"""Pipe laid on ties: how it waves between them under a wheel, which ties it lifts off,
and what is packed under them."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import finite, not_negative, positive
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError

INNER = 1 / 48 - 1 / (64 * (1 + 1 / math.sqrt(3)))  # of P L^3 / (E I), half-way between two of many ties
END = 0.0145530  # likewise half-way in the last span
MOMENT, AT_TIE = 0.1708, -0.0792  # of P L, under a wheel half-way and at the tie beside it
LAST_SPAN = 0.9  # of the usual spacing, for the same wave at a free end
MOST_ROUNDS = 200


class Wave(Struct, frozen=True):
    """Sag under a wheel half-way between two ties, in a usual span and in the last one [m]."""

    inner: float
    end: float


def wave(load: float, spacing: float, ei: float) -> Wave:
    """How far a pipe on many ties gives half-way between two of them.

    load: of one wheel [N]
    spacing: of the ties [m]
    ei: bending stiffness of the pipe [N*m^2]

    Returns: sag. Raises: InputError. Source: dynamics 4.1, all ties hold it down.
    """
    positive(spacing=spacing, EI=ei)
    not_negative(load=load)
    unit = load * spacing**3 / ei
    return Wave(INNER * unit, END * unit)


def widest_spacing(load: float, allowed: float, ei: float) -> float:
    """The widest spacing of ties for a wave; last spans take 0.9 of it.

    load: of one wheel [N]
    allowed: sag half-way between two ties [m]
    ei: bending stiffness of the pipe [N*m^2]

    Returns: spacing [m]. Raises: InputError. Source: dynamics 4.1 turned round.
    """
    positive(load=load, allowed=allowed, EI=ei)
    return float((allowed * ei / (INNER * load)) ** (1 / 3))


class Laid(Struct, frozen=True):
    """A loaded pipe on its ties: sag at the places asked for (n,) [m], what each tie bears (ties,) [N], and which it
    lifts off.
    """

    sag: np.ndarray
    reactions: np.ndarray
    lifted: tuple[int, ...]


def laid(
    ties: Sequence[float],
    stiffness: float,
    ei: float,
    weight: float,
    wheels: Sequence[tuple[float, float]],
    at: Sequence[float] = (),
    *,
    held: bool = False,
) -> Laid:
    """A pipe on springy ties under wheels, by beam elements; ties that only push let go where it rises.

    ties: places, in order [m]
    stiffness: of each tie [N/m], infinite for a rigid one
    ei: bending stiffness [N*m^2]
    weight: of the pipe [N/m]
    wheels: place [m] and load [N] of each
    at: where sag is wanted [m]; under the wheels where none is named
    held: whether ties hold it down

    Returns: sag, positive down. Raises: InputError for ties out of order or at one place; InfeasibleError where no tie
    bears. Source: dynamics 4.2.
    """
    positive(EI=ei, stiffness=stiffness if math.isfinite(stiffness) else 1.0)
    not_negative(weight=weight)
    places = [round(float(tie), 9) for tie in ties]
    finite(ties=np.asarray(places))
    if len(places) < 2 or any(b <= a for a, b in pairwise(places)):
        raise InputError("ties", list(ties), "need at least two, each beyond the one before")
    low, high = places[0], places[-1]
    for x, load in wheels:
        not_negative(load=load)
        if not low - 1e-9 <= x <= high + 1e-9:
            raise InputError("wheel", x, f"must stand between {low:g} m and {high:g} m, on the pipe")
    wanted = [round(float(x), 9) for x in (at or [x for x, _ in wheels])]
    nodes = sorted({*places, *wanted, *(round(float(x), 9) for x, _ in wheels)})
    index = {x: n for n, x in enumerate(nodes)}
    whole, force = _assembled(nodes, ei, weight)
    for x, load in wheels:
        force[2 * index[round(float(x), 9)]] += load
    spring = stiffness if math.isfinite(stiffness) else 1e6 * ei / min(np.diff(nodes)) ** 3
    bears = np.ones(len(places), bool)
    rows = np.array([2 * index[x] for x in places])
    for _ in range(MOST_ROUNDS):
        if bears.sum() < 2:
            raise InfeasibleError("the pipe lifts off its ties and tips", "TIPS")
        moved = _solved(whole, force, rows[bears], spring, exact=not math.isfinite(stiffness))
        pushes = _reactions(whole, force, moved, rows)
        now = np.where(bears, held | (pushes > -1e-9), moved[rows] > 1e-12)
        if np.array_equal(now, bears):
            break
        bears = now
    else:
        raise InfeasibleError("no even state of ties that bear was found", "NO_REST")
    reactions = np.where(bears, pushes, 0.0)
    found = np.array([moved[2 * index[x]] for x in wanted])
    return Laid(found, reactions, tuple(np.flatnonzero(~bears).tolist()))


def _assembled(nodes: Sequence[float], ei: float, weight: float) -> tuple[np.ndarray, np.ndarray]:
    """Stiffness and own weight of a beam through the nodes, sag and slope at each."""
    n = len(nodes)
    whole, force = np.zeros((2 * n, 2 * n)), np.zeros(2 * n)
    for k, (a, b) in enumerate(pairwise(nodes)):
        h = b - a
        part = np.array(
            [
                [12, 6 * h, -12, 6 * h],
                [6 * h, 4 * h**2, -6 * h, 2 * h**2],
                [-12, -6 * h, 12, -6 * h],
                [6 * h, 2 * h**2, -6 * h, 4 * h**2],
            ]
        )
        rows = slice(2 * k, 2 * k + 4)
        whole[rows, rows] += ei / h**3 * part
        force[rows] += weight * np.array([h / 2, h**2 / 12, h / 2, -(h**2) / 12])
    return whole, force


def _solved(whole: np.ndarray, force: np.ndarray, rows: np.ndarray, spring: float, *, exact: bool) -> np.ndarray:
    """Sag and slope at every node; rigid ties are taken out, not stiffened."""
    if exact:
        free = np.setdiff1d(np.arange(len(force)), rows)
        moved = np.zeros(len(force))
        moved[free] = np.linalg.solve(whole[np.ix_(free, free)], force[free])
        return moved
    sprung = whole.copy()
    sprung[rows, rows] += spring
    return np.asarray(np.linalg.solve(sprung, force))


def _reactions(whole: np.ndarray, force: np.ndarray, moved: np.ndarray, rows: np.ndarray) -> np.ndarray:
    return np.asarray((force - whole @ moved)[rows])


def packing(stations: Sequence[float], heights: Sequence[float], ties: Sequence[float], *, level: bool) -> np.ndarray:
    """What goes under each tie so that a track laid on uneven ground is straight.

    stations: where the ground was measured, in order [m]
    heights: of the ground there [m]
    ties: where they lie [m]
    level: whether the track is to be level; else it follows the line over the ground that takes least packing

    Returns: thickness under each tie (ties,) [m]. Raises: InputError for fewer than two stations, stations out of
    order, a tie beyond them. Source: dynamics 4.4.
    """
    x, z, at = (np.asarray(list(values), float) for values in (stations, heights, ties))
    finite(stations=x, heights=z, ties=at)
    if len(x) < 2 or len(x) != len(z) or np.any(np.diff(x) <= 0):
        raise InputError("stations", list(stations), "need at least two with a height each, in order")
    if not len(at):
        raise InputError("ties", 0, "there must be at least one")
    beyond = at[(at < x[0] - 1e-9) | (at > x[-1] + 1e-9)]
    if len(beyond):
        raise InputError("tie", float(beyond[0]), f"must lie between {x[0]:g} m and {x[-1]:g} m, where it was measured")
    ground = np.interp(at, x, z)
    line = np.full(len(at), ground.max()) if level else _least_line(at, ground)
    return np.asarray(np.maximum(line - ground, 0.0))


def wedged(ground: np.ndarray, ties: Sequence[float], slope: float = 0.0, least: float = 0.0) -> np.ndarray:
    """What goes under either end of each tie so that two pipes on them lie in one plane, level across.

    ground: where it was measured, in order, and its height under the left and the right pipe there (k, 3) [m]
    ties: where they lie; beyond what was measured the ground is taken to go on as high [m]
    slope: of the track, rising along it [rad]
    least: what lies under every tie at least [m]

    Returns: thickness under the left and the right end of each tie (ties, 2) [m]. Raises: InputError for fewer than two
    places, or places out of order. Source: dynamics 4.4.
    """
    places, at = np.asarray(ground, float), np.asarray(list(ties), float)
    finite(ground=places, ties=at, slope=slope)
    if places.ndim != 2 or places.shape[1] != 3 or len(places) < 2 or np.any(np.diff(places[:, 0]) <= 0):
        raise InputError("ground", places.tolist(), "needs at least two places in order, each with two heights")
    heights = np.column_stack([np.interp(at, places[:, 0], places[:, side]) for side in (1, 2)])
    line = math.sin(slope) * at[:, None]
    return np.asarray((heights - line).max() + line - heights + least)


def _least_line(at: np.ndarray, ground: np.ndarray) -> np.ndarray:
    """The straight line over all points with the least sum of heights above them: one through two of them, or level
    over a single one.
    """
    if len(at) == 1 or np.ptp(at) < 1e-12:
        return np.full(len(at), ground.max())
    middle, best, found = float(at.mean()), math.inf, np.full(len(at), ground.max())
    for i in range(len(at)):
        for j in range(i + 1, len(at)):
            if at[j] - at[i] < 1e-12:
                continue
            slope = (ground[j] - ground[i]) / (at[j] - at[i])
            line = ground[i] + slope * (at - at[i])
            over = ground[i] + slope * (middle - at[i])
            if np.all(line >= ground - 1e-12) and over < best - 1e-15:
                best, found = over, line
    return found
