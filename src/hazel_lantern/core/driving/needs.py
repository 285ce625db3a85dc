"""What is asked of a source over a move, and what it gives at that speed."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.driving.load import Load, in_time
from hazel_lantern.core.driving.source import Source
from hazel_lantern.core.kinds.base import Held
from hazel_lantern.core.motion import drives
from hazel_lantern.core.motion.drives import Chain


class Needs(Struct, frozen=True):
    """One wanted time of a move [s]: when (n,) [s], what is asked of the source and what it gives at its speed then
    (n,) [N*m], or [N] of a hand; its speed (n,) [rad/s] or [m/s]; what the axis itself asks for (n,) [N or N*m].
    """

    time: float
    clock: np.ndarray
    asked: np.ndarray
    given: np.ndarray
    speed: np.ndarray
    effort: np.ndarray

    @property
    def spare(self) -> np.ndarray:
        """How many times what is asked the source gives (n,); infinite where nothing is asked."""
        return np.asarray(self.given / np.maximum(np.abs(self.asked), 1e-12))

    @property
    def worst(self) -> int:
        """The moment with the least to spare."""
        return int(np.argmin(self.spare))


def efforts(load: Load, held: Held) -> np.ndarray:
    """What the axis asks for over a move (n,) [N] or [N*m]: weight, inertia, a spring, and what it rubs with."""
    return np.asarray(load.weight + load.thrown + held.sprung + held.rubs * np.sign(load.speed))


def reverses(load: Load, held: Held) -> tuple[float, float]:
    """The most that the axis asks for to either side while it moves, first the less, then the more [N] or [N*m]; what a
    spring has to outweigh is the less. The sign of the second says to which side the more is.
    """
    moving = efforts(load, held)[np.abs(load.speed) > 1e-9]
    ahead, back = float(max(0.0, moving.max(initial=0.0))), float(max(0.0, -moving.min(initial=0.0)))
    return (back, ahead) if ahead >= back else (ahead, -back)


def asked(load: Load, held: Held, chain: Chain, rotor: float) -> tuple[np.ndarray, np.ndarray]:
    """What is asked of the source over a move, and by the axis itself (n,), each along the motion."""
    way = np.where(load.speed < 0, -1.0, 1.0)
    effort = efforts(load, held) * way
    return drives.source_torque(chain, effort, load.sped * way, rotor), effort


def needs(load: Load, held: Held, chain: Chain, source: Source, shot: float, time: float) -> Needs:
    """Of the move of a shot, which takes `shot` [s], made in another time [s].

    load: of the axis over the shot
    held: what it meets
    chain: from the source to it
    source: that drives it

    Returns: asked and given. Source: drive 1.2, 1.3.
    """
    slower = in_time(load, time / shot)
    torque, effort = asked(slower, held, chain, source.inertia)
    speed = np.abs(slower.speed) * chain.per_output
    # What has one speed runs at that, in a time of its own.
    given = source.gives(np.minimum(speed, source.fastest) if source.one_speed else speed)
    return Needs(time, load.u * time, torque, given, speed, effort)


def from_standing(load: Load, held: Held, chain: Chain) -> float:
    """The most that the source is asked to break it loose with, wherever it stands, either way [N*m] or [N]."""
    return max(
        float(
            np.abs(
                drives.source_torque(chain, way * (load.anywhere + held.sprung) + held.starts, 0 * load.anywhere)
            ).max()
        )
        for way in (1.0, -1.0)
    )


def runs_off(load: Load, held: Held) -> float:
    """What the axis pulls with when nothing drives it, beyond what its own friction holds,
    at its worst [N] or [N*m]."""
    return max(0.0, float(np.abs(load.anywhere + held.sprung).max()) - held.rubs)


def comes_back(chain: Chain, pulled: float) -> float:
    """What of a pull of the axis comes back to the source [N*m]; nothing where a stage locks."""
    felt = pulled * chain.travel / drives.TURN if chain.travel else pulled
    return felt * chain.returned / chain.ratio if math.isfinite(felt) else felt
