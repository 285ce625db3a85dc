"""What an axis of a rig asks for as it moves: weight and inertia, from where every piece of the rig is."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import DriveAxis, Held
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.workshop.laid import Bodies, Laid

MOMENTS, POSES = 97, 41  # looked at of a move, and of all that an axis can do
STEP = 1e-3  # of the way, between which paths are followed
NUDGE = 1e-5  # metres or radians, by which an axis is nudged
STILL = 1e-6  # metres or radians below which an axis does not move in a shot

Frame = Callable[[Any, np.ndarray], Bodies]


class Load(Struct, frozen=True):
    """An axis over a move, at shares `u` of its time: where it is, how fast, how sped up (n,) [m or rad, and seconds];
    what weight and inertia ask for along it (n,) [N or N*m], its inertia (n,) [kg or kg*m^2]; and over all that it can
    do, from the pose it is in half-way: where, and what weight and inertia come to there (k,).
    """

    u: np.ndarray
    at: np.ndarray
    speed: np.ndarray
    sped: np.ndarray
    weight: np.ndarray
    thrown: np.ndarray
    inertia: np.ndarray
    places: np.ndarray
    anywhere: np.ndarray
    inert: np.ndarray

    @property
    def moves(self) -> bool:
        """Whether the shot asks anything of it."""
        return float(np.ptp(self.at)) > STILL


def spread(laid: Laid) -> dict[str, np.ndarray]:
    """How the mass of every body is spread: sums of mass times (x, y, z, 1) each by each (4, 4), in the body's frame.

    A third of a piece is put to its corners, the rest to its centre: that is what a block's own inertia comes to.
    """
    found: dict[str, np.ndarray] = {}
    for piece in laid.placed:
        corners = piece.corners - piece.corners.mean(axis=0) + piece.centre
        points = np.column_stack([np.vstack([piece.centre, corners]), np.ones(len(corners) + 1)])
        shares = np.concatenate([[2 / 3], np.full(len(corners), 1 / (3 * len(corners)))]) * piece.mass
        found[piece.body] = found.get(piece.body, np.zeros((4, 4))) + (points * shares[:, None]).T @ points
    return found


class Moving(Struct, frozen=True):
    """A rig over a move, at shares `u` of its time: its poses (n, dof), how they change with the share of the way made,
    and how that does; how fast that share is made and sped up (n,) [1/s, 1/s^2]; how the mass of its bodies is spread
    (bodies, 4, 4), by name, and how every body is thrown: its turn and place, sped up (n, bodies, 3, 4).
    """

    u: np.ndarray
    q: np.ndarray
    rate: np.ndarray
    bend: np.ndarray
    fast: np.ndarray
    hard: np.ndarray
    masses: dict[str, np.ndarray]
    spreads: np.ndarray
    thrown: np.ndarray


def moving(model: Any, move: Move, path: Path, laid: Laid, bodies: Frame) -> Moving:
    """A rig over the move of a shot.

    model: the rig as a mechanism, and all its pieces `laid` out, on `bodies`
    move: the shot's wish, and the `path` that the rig makes of it

    Returns: it in motion. Source: differences along the way, the shape of the move exact.
    """
    masses, profile, u = spread(laid), move.profile, np.linspace(0.0, 1.0, MOMENTS)
    share = _off_corners(move, np.clip(profile.share(u), STEP, 1 - STEP))
    way = np.split(_poses(path, np.concatenate([share + d for d in (-STEP, 0.0, STEP)])), 3)
    along = np.split(_stacked(bodies(model, np.concatenate(way)), masses), 3)
    fast, hard = profile.speed(u), profile.acceleration(u)
    first, second = (along[2] - along[0]) / (2 * STEP), (along[2] - 2 * along[1] + along[0]) / STEP**2
    thrown = first * hard[:, None, None, None] + second * (fast**2)[:, None, None, None]
    rate, bend = (way[2] - way[0]) / (2 * STEP), (way[2] - 2 * way[1] + way[0]) / STEP**2
    return Moving(u, way[1], rate, bend, fast, hard, masses, np.array(list(masses.values())), thrown)


def load(axis: DriveAxis, given: Moving, model: Any, bodies: Frame, held: Held) -> Load:
    """What moving one axis of a rig along a shot's move asks for, all its other axes moving as the shot asks.

    axis: which freedom, and whether it turns
    given: the rig in motion; `model` and `bodies` as they were for it
    held: from where to where it goes, inertia that is not laid out, what else is lifted with it

    Returns: the load. Source: d'Alembert's principle; drive 1.3.
    """
    k, masses, spreads, spins = axis.freedom, given.masses, given.spreads, held.spins
    speed = given.rate[:, k] * given.fast
    sped = given.rate[:, k] * given.hard + given.bend[:, k] * given.fast**2
    places = np.linspace(*held.span, POSES)
    stood = np.repeat(given.q[MOMENTS // 2][None], POSES, axis=0)
    stood[:, k] = places
    slope, slopes = np.split(_slope(model, bodies, masses, np.concatenate([given.q, stood]), k), [MOMENTS])
    lifted = (given.q[:, k], slope), (places, slopes)
    weights = [_weight(how, spreads) if held.weighs is None else held.weighs(at) for at, how in lifted]
    return Load(
        given.u,
        given.q[:, k],
        speed,
        sped,
        weights[0],
        _shared(slope, spreads, given.thrown) + spins * sped,
        _shared(slope, spreads, slope) + spins,
        places,
        weights[1],
        _shared(slopes, spreads, slopes) + spins,
    )


def in_time(given: Load, longer: float) -> Load:
    """The same move made in so many times its time."""
    return replace(given, speed=given.speed / longer, sped=given.sped / longer**2, thrown=given.thrown / longer**2)


def _off_corners(move: Move, share: np.ndarray) -> np.ndarray:
    """Shares a step beside the way points of a path, whose corners are taken as rounded."""
    if not move.via_m or move.centre is not None:
        return share
    stops = np.array([move.ends[0], *move.via_m, move.ends[1]])
    run = np.cumsum(np.linalg.norm(np.diff(stops, axis=0), axis=1))
    for corner in run[:-1] / run[-1] if run[-1] > 0 else ():
        share = np.where(np.abs(share - corner) < 2 * STEP, corner + 2 * STEP, share)
    return np.asarray(np.clip(share, STEP, 1 - STEP))


def _poses(path: Path, share: np.ndarray) -> np.ndarray:
    """Poses (n, dof) at shares of the way."""
    return np.asarray(path.follow(path.model, path.wish(share)).q)


def _stacked(bodies: Bodies, masses: dict[str, np.ndarray]) -> np.ndarray:
    """Turn and place of every body that weighs something, one beside the other (n, bodies, 3, 4)."""
    return np.stack(
        [np.concatenate([bodies[name].axes, bodies[name].at[..., None]], axis=2) for name in masses], axis=1
    )


def _slope(model: Any, bodies: Frame, masses: dict[str, np.ndarray], q: np.ndarray, k: int) -> np.ndarray:
    """How turn and place of every body change with one freedom (n, bodies, 3, 4)."""
    by = np.zeros(q.shape[1])
    by[k] = NUDGE
    ahead, behind = np.split(_stacked(bodies(model, np.concatenate([q + by, q - by])), masses), 2)
    return np.asarray((ahead - behind) / (2 * NUDGE))


def _shared(one: np.ndarray, spreads: np.ndarray, other: np.ndarray) -> np.ndarray:
    """What two ways of moving all bodies (n, bodies, 3, 4) have in common, their masses spread as they are (n,)."""
    return np.asarray(((one @ spreads) * other).sum(axis=(1, 2, 3)))


def _weight(slope: np.ndarray, spreads: np.ndarray) -> np.ndarray:
    """What weight asks for (n,): how fast everything is lifted."""
    return np.asarray(GRAVITY * np.einsum("nbj,bj->n", slope[:, :, 2], spreads[:, :, 3]))
