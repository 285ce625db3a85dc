"""Roots of several equations, for many lanes at once."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

DONE = 1e-12  # left over, that is not improved on
ITERATIONS, HALVINGS = 60, 12
FRESH = 0.1  # of what was left over before, below which slopes are used again

Residual = Callable[[np.ndarray, np.ndarray], np.ndarray]


def newton(
    residual: Residual, start: np.ndarray, bounds: list[tuple[float, float]] | None = None
) -> tuple[np.ndarray, np.ndarray]:
    """Damped Newton's iteration in every lane by itself, slopes used again while they lead well.

    residual: residual(unknowns (k, m), lanes (m,)) -> what is left over (k, m), made to be about 1 where nothing fits
    start: the unknowns at first (k, n)
    bounds: of each unknown, from and to; a step goes nine tenths of the way to one at most

    Returns: the unknowns (k, n) and the largest residual of each lane (n,), infinite where it is not a number. Source:
    textbook; the first unknown is a logarithm and changes by no more than 1.1 at once.
    """
    size, count = start.shape
    low, high = np.array(bounds or [(-np.inf, np.inf)] * size).T[..., None]
    u = np.clip(start, low + 1e-9, high - 1e-9)
    lanes = np.arange(count)
    with np.errstate(all="ignore"):
        now = residual(u, lanes)
        left = _size(now)
        slopes = np.zeros((count, size, size))
        fresh = np.zeros(count, bool)  # where the slopes still lead well
        for _ in range(ITERATIONS):
            live = lanes[(left > DONE) & np.isfinite(left)]
            if not len(live):
                break
            stale = live[~fresh[live]]
            if len(stale):
                slopes[stale] = _slopes(residual, u[:, stale], now[:, stale], stale)
            here, old = u[:, live], left[live]
            step = _step(slopes[live], now[:, live])
            way = np.where(step == 0, 1.0, step)
            room = np.where(step > 0, high - here, np.where(step < 0, low - here, np.inf)) / way
            # Nine tenths of the way to a bound; a tension changes by no more than threefold at once.
            step = step * np.minimum(1.0, 0.9 * room.min(axis=0))
            step = step * np.minimum(1.0, 1.1 / np.maximum(np.abs(step[0]), 1e-300))
            taken = _take(residual, live, here, step, u, now, left)
            fresh[live] = left[live] < FRESH * old
            if not (taken | (np.isin(live, stale, invert=True))).any():
                break
    return u, np.where(np.isfinite(left), left, np.inf)


def _take(
    residual: Residual,
    live: np.ndarray,
    here: np.ndarray,
    step: np.ndarray,
    u: np.ndarray,
    now: np.ndarray,
    left: np.ndarray,
) -> np.ndarray:
    """Each lane goes its step, halved until less is left over; which of them did (m,)."""
    taken, share = np.zeros(len(live), bool), 1.0
    for _ in range(HALVINGS):
        waits = np.flatnonzero(~taken)
        tried = here[:, waits] + share * step[:, waits]
        made = residual(tried, live[waits])
        size = _size(made)
        better = size < left[live[waits]]
        rows = live[waits[better]]
        u[:, rows], now[:, rows], left[rows] = tried[:, better], made[:, better], size[better]
        taken[waits[better]] = True
        share /= 2
        if taken.all():
            break
    return taken


def _slopes(residual: Residual, u: np.ndarray, now: np.ndarray, lanes: np.ndarray) -> np.ndarray:
    """How what is left over changes with each unknown (n, k, k), by differences."""
    size = len(u)
    slopes = np.empty((u.shape[1], size, size))
    for j in range(size):
        apart = 1e-7 * np.maximum(1e-2, np.abs(u[j]))
        more = u.copy()
        more[j] += apart
        slopes[:, :, j] = ((residual(more, lanes) - now) / apart).T
    return slopes


def _step(slopes: np.ndarray, now: np.ndarray) -> np.ndarray:
    """Newton's step (k, n)."""
    try:
        return np.asarray(-np.linalg.solve(slopes, now.T[..., None])[..., 0].T)
    except np.linalg.LinAlgError:
        return np.asarray(-(np.linalg.pinv(slopes) @ now.T[..., None])[..., 0].T)


def _size(residual: np.ndarray) -> np.ndarray:
    return np.asarray(np.abs(residual).max(axis=0))
