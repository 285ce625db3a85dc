"""A carriage's way along its rope: where it is, how steep, what moves it."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.cable_cam.design import GRAVITY_RUN, LOOP
from hazel_lantern.core.kinds.cable_cam.model import Cable, wind_on
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.units import GRAVITY

PLACES = 401  # along the run
MOMENTS = 193  # of the move


class Ran(Struct, frozen=True):
    """The run from stop to stop: places of the carriage (n,) [m], the way's slope and what pulls it, as a slope, there;
    the fastest of the move, of a carriage that is lost on it, and of one let go from rest; its speed at either stop
    [m/s]; the greatest force of the haul over the move, of the line as it is braked on its steepest place, and what it
    pulls an end with [N].
    """

    x: np.ndarray
    slope: np.ndarray
    pull: np.ndarray
    fastest: float
    runaway: float
    from_rest: float
    at_stops: tuple[float, float]
    haul: float
    braked: float
    at_ends: float


def _moments(move: Move, path: Path) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Shares of the move's time (n,), the carriage's place [m] and its acceleration along the run [m/s^2]."""
    u = np.linspace(0.0, 1.0, MOMENTS)
    return u, path.at(u)[:, 0], move.profile.acceleration(u) * move.chord


def haul_forces(design: Design, move: Move, cable: Cable, path: Path) -> tuple[np.ndarray, np.ndarray]:
    """The carriage's place (n,) [m] over the move and what it is hauled with towards B, minus held back [N], against
    the wind.
    """
    u, x, speeding = _moments(move, path)
    way, _ = cable.way.at(x)
    weight = cable.moving * GRAVITY
    heads = np.sign(move.profile.speed(u))
    rolling = design.number("carriage.rolling") * weight * np.cos(way) * heads
    pushed = wind_on(design, cable.stock)[0] * heads
    return x, weight * np.sin(way) + rolling + (cable.moving + cable.haul_line) * speeding + pushed


def ran(design: Design, move: Move, cable: Cable, path: Path) -> Ran:
    """The run with what moves it."""
    x = np.linspace(cable.low, cable.high, PLACES)
    _, slope = cable.height.at(x)
    way, _ = cable.way.at(x)
    pull = np.sin(way) * (np.cos(way) + np.sin(way) * slope)
    fastest = move.profile.peak_speed * move.chord
    runs = [_let_go(design, x, pull, fastest, forward=forward) for forward in (True, False)]
    still = [_let_go(design, x, pull, 0.0, forward=forward) for forward in (True, False)]
    hauled = _hauled(design, move, cable, path)
    braked = cable.moving * (design.number("brake.slows") + GRAVITY * float(np.abs(np.sin(way)).max()))
    # Let go, it comes to the far stop one way and to the near one the other.
    at_stops = (float(runs[1][0]), float(runs[0][-1]))
    return Ran(
        x,
        slope,
        pull,
        fastest,
        float(max(v.max() for v in runs)),
        float(max(v.max() for v in still)),
        at_stops,
        hauled,
        braked,
        _line_pulls(design, max(hauled, braked)),
    )


def _let_go(design: Design, x: np.ndarray, pull: np.ndarray, start: float, *, forward: bool) -> np.ndarray:
    """Greatest speed (n,) at every place of a carriage that is lost somewhere before it, at the move's fastest."""
    c = design.number("carriage.rolling")
    along, rises = (x - x[0], pull) if forward else (x[-1] - x[::-1], -pull[::-1])
    climbed = np.concatenate([[0.0], np.cumsum((rises[1:] + rises[:-1]) / 2 * np.diff(along))]) + c * along
    speed = np.sqrt(start**2 + 2 * GRAVITY * (np.maximum.accumulate(climbed) - climbed))
    return np.asarray(speed if forward else speed[::-1])


def _line_pulls(design: Design, hauled: float) -> float:
    """What the line pulls an end with where it turns back: both sides of a loop, a hand line out and back, or a brake
    line's own pull [N].
    """
    by = design.text("haul.by")
    if by == GRAVITY_RUN:
        return hauled
    return max(2 * design.number("haul.tight"), hauled) if by == LOOP else 2 * hauled


def _hauled(design: Design, move: Move, cable: Cable, path: Path) -> float:
    return float(np.abs(haul_forces(design, move, cable, path)[1]).max())
