"""A smooth line through values at even places."""

from __future__ import annotations

import numpy as np
from msgspec import Struct


class Smooth(Struct, frozen=True):
    """The natural cubic through `y` (n,) at even places from `low` to `high`; its curvature there is `bent` (n,)."""

    low: float
    high: float
    y: np.ndarray
    bent: np.ndarray

    @classmethod
    def through(cls, low: float, high: float, y: np.ndarray) -> Smooth:
        """Through values at places spread evenly, five or more."""
        n, step = len(y), (high - low) / (len(y) - 1)
        inner = np.diag(np.full(n - 2, 4.0)) + np.diag(np.ones(n - 3), 1) + np.diag(np.ones(n - 3), -1)
        bent = np.zeros(n)
        bent[1:-1] = np.linalg.solve(inner, 6 * np.diff(y, 2) / step**2)
        return cls(low, high, y, bent)

    def at(self, x: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Value and slope at places (m,), held to the ends."""
        n = len(self.y)
        step = (self.high - self.low) / (n - 1)
        share = np.clip((np.asarray(x, float) - self.low) / step, 0.0, n - 1.0)
        k = np.minimum(share.astype(int), n - 2)
        b = share - k
        a = 1 - b
        one, other, m1, m2 = self.y[k], self.y[k + 1], self.bent[k], self.bent[k + 1]
        value = a * one + b * other + ((a**3 - a) * m1 + (b**3 - b) * m2) * step**2 / 6
        slope = (other - one) / step + ((1 - 3 * a**2) * m1 + (3 * b**2 - 1) * m2) * step / 6
        return np.asarray(value), np.asarray(slope)
