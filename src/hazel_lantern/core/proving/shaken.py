"""A log of an accelerometer: its spectrum, the lines in it, and what of the rig makes them."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import GRAVITY

FEWEST = 64  # samples
GAP, UNEVEN, IRREGULAR = 5.0, 1e-3, 0.02  # medians of a step that are a gap; spread of steps over it
TRUSTED, TRUSTED_IRREGULAR = 0.45, 0.25  # of the sampling
WINDOW = 5.0  # seconds
PROMINENT, OVER, OVER_FEW, FEW = 6.0, 10.0, 15.0, 4  # dB; segments below which a line must stand out more
LINE, BESIDE = 3, 3.5  # bins that hold a line; within which a weaker one is its skirt
LOWEST, BINS_UP = 0.5, 2.0  # Hz, and bins, below which nothing is a line
NEAR_BINS, NEAR_SHARE, ALIKE = 1.5, 0.03, 0.3  # of a match; tolerances within which two are as near
MILLISECONDS = 1.0  # a median step above which times are in them
G_FROM, G_TO, SI_FROM, SI_TO = 0.8, 1.25, 8.0, 12.0  # of the median of a log that holds gravity


class Log(Struct, frozen=True):
    """Evenly sampled acceleration (n, axes) [m/s^2] and its sampling [Hz]; up to which frequency it is trusted [Hz];
    what was done to it, in words.
    """

    samples: np.ndarray
    sampling: float
    trusted: float
    notes: tuple[str, ...]


class Peak(Struct, frozen=True):
    """A line: frequency [Hz], amplitude [m/s^2], and what of the rig may make it, two where both are as near, none
    where it is not known.
    """

    frequency: float
    amplitude: float
    causes: tuple[str, ...] = ()


class Spectrum(Struct, frozen=True):
    """Frequencies (n,) [Hz], power in them, all axes together (n,) [(m/s^2)^2/Hz], their step [Hz], and how many
    windows were averaged.
    """

    frequencies: np.ndarray
    power: np.ndarray
    step: float
    segments: int


def even(times: np.ndarray, readings: np.ndarray) -> Log:
    """A log put in order.

    times: of the readings (n,) [s], or milliseconds where they step by more than one
    readings: acceleration (n, axes) [m/s^2], or in g where gravity reads one

    Returns: its longest run without a gap, evenly sampled. Raises: InputError for fewer than 64 samples. Source:
    dynamics 7.2.
    """
    notes: list[str] = []
    t, a = np.asarray(times, float), np.asarray(readings, float)
    a = a[:, None] if a.ndim == 1 else a
    good = np.isfinite(t) & np.isfinite(a).all(axis=1)
    if not good.all():
        notes.append(f"{int((~good).sum())} readings left out, not numbers")
        t, a = t[good], a[good]
    steps = np.diff(t)
    if (steps < 0).any():
        notes.append("put in order of time")
        order = np.argsort(t, kind="stable")
        t, a = t[order], a[order]
        steps = np.diff(t)
    if (steps == 0).any():
        once = np.concatenate([[True], steps > 0])
        t, a = t[once], a[once]
    if len(t) < FEWEST:
        raise InputError("samples", len(t), f"at least {FEWEST} readings")
    if float(np.median(np.diff(t))) >= MILLISECONDS:
        t = t / 1e3
        notes.append("times taken as milliseconds")
    middle = float(np.median(np.linalg.norm(a, axis=1)))
    if a.shape[1] == 3 and G_FROM <= middle <= G_TO:
        a = a * GRAVITY
        notes.append("taken as g, gravity reads one")
    steps = np.diff(t)
    usual = float(np.median(steps))
    breaks = [0, *(np.flatnonzero(steps > GAP * usual) + 1).tolist(), len(t)]
    if len(breaks) > 2:
        notes.append(f"{len(breaks) - 2} gap{'s' if len(breaks) > 3 else ''}: the longest run is used")
    begin, end = max(pairwise(breaks), key=lambda run: run[1] - run[0])
    t, a = t[begin:end], a[begin:end]
    if len(t) < FEWEST:
        raise InputError("samples", len(t), f"at least {FEWEST} readings without a gap")
    sampling = (len(t) - 1) / (t[-1] - t[0])
    spread = float(np.std(np.diff(t))) / usual
    trusted = TRUSTED
    if spread > UNEVEN:
        grid = t[0] + np.arange(len(t)) / sampling
        a = np.column_stack([np.interp(grid, t, row) for row in a.T])
    if spread > IRREGULAR:
        notes.append("irregular: trusted to a quarter of its sampling")
        trusted = TRUSTED_IRREGULAR
    return Log(a, float(sampling), trusted * float(sampling), tuple(notes))


def spectrum(log: Log, window: float = WINDOW) -> Spectrum:
    """Averaged power of a log, its trend taken off.

    log: evenly sampled
    window: length of one [s]; the whole log where it is hardly longer

    Returns: the spectrum. Source: dynamics 7.2, Welch's method.
    """
    from scipy.signal import detrend, welch

    n = len(log.samples)
    long = round(log.sampling * window)
    if n < 2.5 * long:
        long = n
    flat = detrend(log.samples, axis=0)
    f, p = welch(flat, log.sampling, "hann", long, long // 2, axis=0, detrend=False)
    return Spectrum(f, p.sum(axis=1), log.sampling / long, max(1, (n - long) // (long - long // 2) + 1))


def band_rms(found: Spectrum, low: float, high: float) -> float:
    """How strongly it shakes within a band.

    found: spectrum
    low, high: from and up to [Hz]

    Returns: root of the mean square [m/s^2]. Source: dynamics 7.2.
    """
    inside = (found.frequencies >= low) & (found.frequencies < high)
    return math.sqrt(float(found.power[inside].sum()) * found.step)


def peaks(found: Spectrum, trusted: float, lines: Sequence[tuple[str, float]] = ()) -> tuple[Peak, ...]:
    """Lines that stand out, strongest first, each with what makes it.

    found: spectrum
    trusted: highest frequency that is looked at [Hz]
    lines: name and frequency of what of the rig shakes or swings [Hz]

    Returns: the lines. Source: dynamics 7.2.
    """
    from scipy.signal import find_peaks

    n, step = len(found.power), found.step
    if not (found.power > 0).any():
        return ()
    db = 10 * np.log10(np.maximum(found.power, 1e-30 * found.power.max()))
    around = max(3, 2 * (n // 20) + 1)
    padded = np.pad(db, around, mode="edge")
    floor = np.median(np.lib.stride_tricks.sliding_window_view(padded, 2 * around + 1), axis=1)
    over = OVER if found.segments >= FEW else OVER_FEW
    spots, _ = find_peaks(db, prominence=PROMINENT)
    f = found.frequencies
    stand_out = [int(k) for k in spots if db[k] - floor[k] >= over and max(LOWEST, BINS_UP * step) < f[k] <= trusted]
    made = []
    for k in stand_out:
        bend = db[k - 1] - 2 * db[k] + db[k + 1]
        shift = 0.5 * (db[k - 1] - db[k + 1]) / bend if bend < 0 else 0.0
        strength = math.sqrt(2 * step * float(found.power[max(0, k - LINE) : k + LINE + 1].sum()))
        made.append(Peak(float((k + shift) * step), strength))
    made.sort(key=lambda peak: -peak.amplitude)
    kept: list[Peak] = []
    for peak in made:
        if all(abs(peak.frequency - other.frequency) > BESIDE * step for other in kept):
            kept.append(Peak(peak.frequency, peak.amplitude, _causes(peak.frequency, lines, step)))
    return tuple(kept)


def _causes(frequency: float, lines: Sequence[tuple[str, float]], step: float) -> tuple[str, ...]:
    """What is near enough, the nearest first; two where they are as near."""
    near = []
    for name, hz in lines:
        within = max(NEAR_BINS * step, NEAR_SHARE * hz)
        off = abs(hz - frequency) / within
        if off <= 1:
            near.append((off, name))
    near.sort()
    return tuple(name for off, name in near if off - near[0][0] < ALIKE)
