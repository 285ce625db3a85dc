"""Time-lapse by shoot, move, shoot: what one interval must hold, and what it comes to on the screen."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.motion.shapes import shape
from hazel_lantern.core.nouns.check import finite, not_negative, positive
from hazel_lantern.core.nouns.errors import InputError

MOST_FRAMES = 1_000_000


class Lapse(Struct, frozen=True):
    """The longest step from frame to frame [m] and its time [s]; what is left of the interval, below nought where it is
    too short [s], and the least that would do [s]; all of the shoot and the film made of it [s].
    """

    step: float
    moving: float
    left: float
    least: float
    total: float
    playback: float


def _step_time(step: float, speed: float, acceleration: float) -> float:
    """The quickest move from rest to rest with even ramps [s]: of a step [m], within a speed and an acceleration."""
    return (
        step / speed + speed / acceleration if step >= speed**2 / acceleration else 2 * math.sqrt(step / acceleration)
    )


def shoot_move_shoot(
    way: float, frames: int, interval: float, exposure: float, settle: float, dead: float, fps: float,
    kind: str, ramp: float, acceleration: float, speed: float,
) -> Lapse:  # fmt: skip
    """A move made between the frames.

    way: length of the move, of either sign [m]
    frames: of it [-]
    interval: between the starts of two exposures [s]
    exposure: of one frame [s]
    settle: until it stands still after a step [s]
    dead: in which the camera writes and is not ready [s]
    fps: frames shown in a second [1/s]
    kind: shape of the move over its frames [-]
    ramp: share of it taken by each ramp, where the shape has ramps [-]
    acceleration: of a step, at the most [m/s^2]
    speed: of a step, at the most [m/s]

    Returns: what one interval holds. Raises: InputError. Source: drive 4.6.
    """
    finite(S=way)
    positive(interval=interval, exposure=exposure, fps=fps, A=acceleration, V=speed)
    not_negative(settle=settle, dead=dead)
    if frames != int(frames) or not 2 <= frames <= MOST_FRAMES:
        raise InputError("N", frames, f"a whole number of frames from 2 to {MOST_FRAMES}")
    places = abs(way) * shape(kind, ramp).share(np.arange(int(frames)) / (frames - 1))
    step = float(np.abs(np.diff(places)).max())
    moving = _step_time(step, speed, acceleration)
    least = exposure + settle + dead + moving
    return Lapse(step, moving, interval - least, least, (frames - 1) * interval + exposure, frames / fps)
