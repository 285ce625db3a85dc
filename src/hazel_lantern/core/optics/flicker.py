"""Lamps that ripple with the mains, seen by a camera; turns, frames and what a recorder holds."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.nouns.check import finite, not_negative, positive


class Flicker(Struct, frozen=True):
    """How lamps show: beat in the footage at its capture rate [Hz], 0 for a steady level; ripple of exposure [-]."""

    beat: float
    ripple: float


def flicker(fps: float, exposure: float, mains: float, depth: float) -> Flicker:
    """A lamp that ripples at twice the mains.

    fps: frames captured a second [Hz]
    exposure: of a frame [s]
    mains: frequency [Hz]
    depth: of the lamp's ripple, 0 steady, 1 full [-]

    Returns: beat and ripple, a `Flicker`. Raises: InputError. Source: dynamics 2.
    """
    positive(capture_fps=fps, mains=mains)
    not_negative(exposure=exposure, lamp_modulation=depth)
    light = 2 * mains
    beat = abs(light - round(light / fps) * fps)
    x = math.pi * light * exposure
    return Flicker(beat, depth * (abs(math.sin(x) / x) if x else 1.0))


class Turns(Struct, frozen=True):
    """Frames of something that turns: degrees between two [rad], frames of a turn [-], how long a turn plays [s], how
    far it turns while a recorder runs [rad].
    """

    per_frame: float
    frames: float
    plays: float
    recorded: float


def turns(spin: float, fps: float, shown: float, recorder: float = 0.0) -> Turns:
    """A steady turn in frames.

    spin: turns a second times 2 pi [rad/s]
    fps: frames captured a second [Hz]
    shown: frames shown a second [Hz]
    recorder: time it runs at that rate [s]

    Returns: the frames, a `Turns`. Raises: InputError. Source: dynamics 2.
    """
    positive(spin=spin, capture_fps=fps, playback_fps=shown)
    finite(record_buffer=recorder)
    frames = 2 * math.pi / spin * fps
    return Turns(spin / fps, frames, frames / shown, spin * recorder)
