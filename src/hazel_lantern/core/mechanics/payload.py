"""Mass and centre of mass of what the rig carries, with how well both are known."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.errors import InputError


class Payload(Struct, frozen=True):
    """Total mass [kg], its half-range, centre of mass (3,) [m] and the half-ranges of that."""

    mass: float
    cg: np.ndarray
    mass_worst: float
    mass_rss: float
    cg_rss: np.ndarray
    cg_worst: np.ndarray


def payload(
    masses: np.ndarray, cgs: np.ndarray, mass_pm: np.ndarray | None = None, cg_pm: np.ndarray | None = None
) -> Payload:
    """Sum rigid items into one mass at one place.

    masses: item masses, shape (n,), zero or more [kg]
    cgs: item centres of mass in the mount frame (x forward, y left, z up), shape (n, 3) [m]
    mass_pm: half-ranges of the masses, shape (n,), zero if absent [kg]
    cg_pm: half-ranges of the places, shape (n, 3), zero if absent [m]

    Returns: Payload; linear error terms, valid while each half-range of mass is below a fifth of the total.
    Raises: InputError when nothing has mass, or a mass or half-range is negative or not finite.
    Source: statics 1; derivatives of the weighted mean.
    """
    m, r = np.asarray(masses, float).reshape(-1), np.asarray(cgs, float).reshape(-1, 3)
    dm = np.zeros_like(m) if mass_pm is None else np.asarray(mass_pm, float).reshape(-1)
    dr = np.zeros_like(r) if cg_pm is None else np.asarray(cg_pm, float).reshape(-1, 3)
    if not (len(m) == len(r) == len(dm) == len(dr)):
        raise InputError("items", len(m), "every item needs one mass and one place")
    for name, values in (("mass", m), ("mass_pm", dm), ("cg_pm", dr)):
        if not np.all(np.isfinite(values)) or np.any(values < 0):
            raise InputError(name, values.tolist(), "must be finite and zero or more")
    if not np.all(np.isfinite(r)):
        raise InputError("cg", r.tolist(), "must be finite")
    total = float(m.sum())
    if total <= 0:
        raise InputError("items", total, "payload has no mass")
    centre = m @ r / total
    by_mass = np.abs(r - centre) / total * dm[:, None]
    by_place = m[:, None] / total * dr
    return Payload(
        total,
        centre,
        float(dm.sum()),
        float(np.sqrt((dm**2).sum())),
        np.sqrt((by_mass**2 + by_place**2).sum(0)),
        (by_mass + by_place).sum(0),
    )
