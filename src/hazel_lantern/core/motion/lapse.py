"""Time-lapse by shoot, move, shoot: what one interval must hold, and what it comes to on the screen."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import finite, not_negative, positive
from hazel_lantern.core.nouns.errors import InputError


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
    places: np.ndarray,
    interval: float,
    exposure: float,
    settle: float,
    dead: float,
    fps: float,
    acceleration: float,
    speed: float,
) -> Lapse:
    """A move made between the frames.

    places: at every frame (n,) [m]
    interval: between the starts of two exposures [s]
    exposure: of one frame [s]
    settle: until it stands still after a step [s]
    dead: in which the camera writes and is not ready [s]
    fps: frames shown in a second [1/s]
    acceleration: of a step, at the most [m/s^2]
    speed: of a step, at the most [m/s]

    Returns: what one interval holds. Raises: InputError. Source: drive 4.6.
    """
    frames = len(places)
    positive(interval=interval, exposure=exposure, fps=fps, A=acceleration, V=speed)
    not_negative(settle=settle, dead=dead)
    finite(places=places)
    if frames < 2:
        raise InputError("N", frames, "two frames at the least")
    step = float(np.abs(np.diff(places)).max())
    moving = _step_time(step, speed, acceleration)
    least = exposure + settle + dead + moving
    return Lapse(step, moving, interval - least, least, (frames - 1) * interval + exposure, frames / fps)


def settling(step: float, acceleration: float, natural: float, damping: float, still: float) -> float:
    """How long it sways after a step.

    step: made [m]
    acceleration: of it [m/s^2]
    natural: frequency of what sways [Hz]
    damping: ratio of it [-]
    still: sway that is not seen [m]

    Returns: time until it sways less [s]. Each of the four changes of the acceleration adds a sway of a/w^2 at the
    most, all together never more than the step. Raises: InputError. Source: drive 4.6.
    """
    positive(f_n=natural, zeta=damping, A_tol=still, A=acceleration)
    not_negative(step=step)
    omega = 2 * math.pi * natural
    sway = min(step, 4 * acceleration / omega**2)
    return max(0.0, math.log(sway / still) / (omega * damping)) if sway > 0 else 0.0
