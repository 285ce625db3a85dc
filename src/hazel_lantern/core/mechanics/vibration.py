"""One-mass mounts, kicks, and speeds to avoid."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns import elementwise as ew
from hazel_lantern.core.nouns.check import not_negative, positive, refused
from hazel_lantern.core.nouns.elementwise import Numbers
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError


def transmissibility(frequency: Numbers, natural: Numbers, damping: Numbers) -> Numbers:
    """Camera movement over movement of what carries it.

    frequency: of the shaking [Hz]
    natural: of the mount [Hz]
    damping: damping ratio [-]

    Returns: ratio, above 1 makes it worse [-]. Raises: InputError; InfeasibleError at resonance without damping.
    Source: dynamics 7.1.
    """
    positive(natural_frequency=natural)
    not_negative(excitation_frequency=frequency, damping_ratio=damping)
    r = frequency / natural
    below = (1 - r * r) ** 2 + (2 * damping * r) ** 2
    if ew.some(below == 0):
        raise InfeasibleError("without damping a mount shaken at its own frequency grows without end", "RESONANCE")
    return ew.sqrt((1 + (2 * damping * r) ** 2) / below)


def settle_time(natural: Numbers, damping: Numbers, share: Numbers = 0.02) -> Numbers:
    """Time until a swing has died down to a share of its start.

    natural: frequency [Hz]
    damping: damping ratio, above 0 and below 1 [-]
    share: what is left [-]

    Returns: time [s]. Raises: InputError. Source: dynamics 7.1.
    """
    positive(natural_frequency=natural, damping_ratio=damping, share=share)
    refused("damping_ratio", damping, damping >= 1, "must be less than 1")
    return ew.log(1 / (share * ew.sqrt(1 - damping**2))) / (damping * 2 * math.pi * natural)


class Kick(Struct, frozen=True):
    """Answer to a sudden kick: peak stroke of the spring [m] and peak acceleration of the camera [m/s^2]; arrays for
    arrays.
    """

    stroke: float
    acceleration: float


def kick(speed: Numbers, natural: Numbers, damping: Numbers) -> Kick:
    """A mount whose base jumps to a speed.

    speed: of the kick [m/s]
    natural: of the mount [Hz]
    damping: damping ratio below 1 [-]

    Returns: stroke and acceleration, a `Kick`. Raises: InputError. Source: dynamics 7.1.
    """
    positive(natural_frequency=natural)
    not_negative(kick_speed=speed, damping_ratio=damping)
    refused("damping_ratio", damping, damping >= 1, "must be less than 1")
    w = 2 * math.pi * natural
    wd = w * ew.sqrt(1 - damping**2)
    peak = ew.atan2(wd, damping * w) / wd
    stroke = speed / wd * ew.exp(-damping * w * peak) * ew.sin(wd * peak)
    # The camera is accelerated by e^(-zwt) (p cos + q sin): hardest at once, or at the next turn of that.
    p, q, decay = 2 * damping * w, (w * w - 2 * (damping * w) ** 2) / wd, damping * w
    turn = ew.atan2(q * wd - decay * p, decay * q + p * wd)
    turn = ew.where(turn < 0, turn + math.pi, turn)
    later = speed * ew.exp(-decay * turn / wd) * (p * ew.cos(turn) + q * ew.sin(turn))
    return Kick(stroke, ew.larger(p * speed, abs(later)))


AFTER = 1.25  # periods that are looked at once the base is level again


def carried_over(natural: np.ndarray, damping: float, times: np.ndarray, base: np.ndarray) -> np.ndarray:
    """How far a mass on a damped spring is moved by a base that rises and falls.

    natural: frequencies (n,) [Hz]
    damping: damping ratio, below 1 [-]
    times: at which the base is known, evenly (k,) [s]
    base: its height there (k,), at rest before, staying at the last after [m]

    Returns: the largest distance of the mass from where it was (n,) [m]. Raises: InputError. Source: dynamics 7.1; free
    swinging of the spring's stretch, which each bend of the base's path gives a jump in speed.
    """
    positive(natural=natural)
    not_negative(damping=damping)
    if damping >= 1:
        raise InputError("damping", damping, "must be less than 1")
    step = float(times[1] - times[0])
    slope = np.diff(base, prepend=base[0], append=base[-1]) / step  # before each time, and after the last
    w, most = 2 * math.pi * natural, np.zeros_like(natural)
    stretch, speed = np.zeros_like(w), np.zeros_like(w)
    for height, jump in zip(base, np.diff(slope), strict=True):
        most = np.maximum(most, np.abs(height + stretch))
        stretch, speed = _free(stretch, speed - jump, w, damping, step)
    # The last bend has been taken: what is left swings about where the base stays.
    for _ in range(80):
        most = np.maximum(most, np.abs(base[-1] + stretch))
        stretch, speed = _free(stretch, speed, w, damping, AFTER / natural / 80)
    return most


def _free(
    at: np.ndarray, speed: np.ndarray, w: np.ndarray, damping: float, step: np.ndarray | float
) -> tuple[np.ndarray, np.ndarray]:
    """A damped spring let go: where it is a little later, and how fast."""
    wd = w * math.sqrt(1 - damping**2)
    fades, cos, sin = np.exp(-damping * w * step), np.cos(wd * step), np.sin(wd * step)
    pull = (speed + damping * w * at) / wd
    return fades * (at * cos + pull * sin), fades * (speed * cos - (w**2 * at + damping * w * speed) / wd * sin)


class Clash(Struct, frozen=True):
    """A speed at which a line of shaking meets a mode, and the band to stay out of [m/s]."""

    line: str
    mode: str
    speed: float
    low: float
    high: float


def clashes(
    lines: Sequence[tuple[str, float, int]], modes: Sequence[tuple[str, float, float]], slowest: float, fastest: float
) -> tuple[Clash, ...]:
    """Speeds to avoid between two speeds, slowest first.

    lines: name, way of one cycle [m] and order of each source of shaking
    modes: name, frequency [Hz] and damping ratio of each thing that can swing
    slowest: lowest speed of the move [m/s]
    fastest: highest speed of the move [m/s]

    Returns: the clashes, each a `Clash`. Raises: InputError. Source: dynamics 7.1.
    """
    not_negative(speed_min=slowest, speed_max=fastest)
    found = []
    for line, way, order in lines:
        positive(wavelength=way, order=order)
        for mode, frequency, damping in modes:
            not_negative(frequency=frequency, damping=damping)
            speed = frequency * way / order
            half = max(0.1, 2 * damping)
            if slowest <= speed <= fastest:
                found.append(Clash(f"{line}", mode, speed, speed * (1 - half), speed * (1 + half)))
    return tuple(sorted(found, key=lambda clash: clash.speed))
