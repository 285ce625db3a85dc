"""A vibration log against one rig: which of its lines the rig explains, and how far they shake this shot's picture."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.nouns.check import not_negative
from hazel_lantern.core.nouns.words import Words, within
from hazel_lantern.core.optics.lens import focal_pixels
from hazel_lantern.core.proving.shaken import Log, Peak, Spectrum, band_rms, peaks, spectrum
from hazel_lantern.core.staging.moves import subject

RUMBLE = "travel.rumble"
NEAREST, USUAL = 0.3, 3.0  # metres to what is filmed, at the least, and where nothing is looked at
BAND = (1.0, 80.0)  # Hz that a picture's shake is told over
MOST = 8  # lines told


class Shake(Struct, frozen=True):
    """One line of a log with how far it moves the picture of this shot to either side [px]."""

    peak: Peak
    pixels: float


class Shakes(Struct, frozen=True):
    """What a log says: it put in order, its spectrum, its lines with what they do to the picture, how strongly it
    shakes in all [m/s^2], and words.
    """

    log: Log
    spectrum: Spectrum
    lines: tuple[Shake, ...]
    rms: float
    words: Words


def predicted(result: Evaluation, speed: float) -> tuple[tuple[str, float], ...]:
    """What of a rig swings, and what shakes it at a speed [m/s]: names and frequencies [Hz].

    Raises InputError for a speed below nought.
    """
    not_negative(speed=speed)
    modes = [
        (within(f.label).removesuffix(" at"), f.value)
        for f in result.figures.values()
        if f.unit == "Hz" and math.isfinite(f.value) and f.value > 0
    ]
    lines = [
        (f"{curve.label} at this speed", float(np.interp(speed, curve.x, curve.y)))
        for key, curve in result.curves.items()
        if key.startswith(RUMBLE) and 0 < speed <= float(curve.x[-1])
    ]
    motor = [
        (f"steps of {one}", float(np.max(curve.y)))
        for one, curve in result.curves.items()
        if one.endswith(".rates") and len(curve.y)
    ]
    return (*modes, *lines, *motor)


def read_back(log: Log, result: Evaluation, speed: float) -> Shakes:
    """A log held against a rig that ran at a speed while it was taken [m/s].

    Raises InputError. Source: dynamics 7.2; pixels by a sideways shift of the lens.
    """
    found = spectrum(log)
    shot = result.shot
    focal = focal_pixels(shot.focal_m, shot.pixels_wide, shot.sensor_width_m, shot.squeeze)
    far = distance(result)
    lines = tuple(
        Shake(peak, peak.amplitude / (2 * math.pi * peak.frequency) ** 2 * focal / far)
        for peak in peaks(found, log.trusted, predicted(result, speed))
    )
    rms = band_rms(found, BAND[0], min(BAND[1], log.trusted))
    return Shakes(log, found, lines[:MOST], rms, _words(lines, rms))


def distance(result: Evaluation) -> float:
    """From where the shot begins to what it looks at, over the floor [m]; the usual where it looks at nothing."""
    thing = subject(result.stage, result.shot)
    if thing is None:
        return USUAL
    (x, y), (u, v) = result.shot.start_at_m, thing.at_m[:2]
    return max(NEAREST, math.hypot(u - x, v - y))


def _words(lines: tuple[Shake, ...], rms: float) -> Words:
    if not lines:
        return Words("Nothing stands out of it; it shakes with {} in all.", ((rms, "m/s^2"),))
    first = lines[0]
    told = ((first.peak.frequency, "Hz"), (first.pixels, "px"))
    if len(first.peak.causes) > 1:
        return Words(
            f"Strongest at {{}}, {{}} in the picture: either {first.peak.causes[0]} or {first.peak.causes[1]}. Take "
            "one at another speed: what turns or rolls moves with it, what swings stays.",
            told,
        )
    if first.peak.causes:
        return Words(f"Strongest at {{}}, {{}} in the picture: {first.peak.causes[0]}.", told)
    return Words(
        "Strongest at {}, {} in the picture: nothing of this rig is known to do that. Take one at another speed.", told
    )
