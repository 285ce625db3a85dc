"""A slack line between two points, as a lead that follows a camera hangs."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import not_negative, positive
from hazel_lantern.core.nouns.elementwise import Numbers
from hazel_lantern.core.nouns.errors import InfeasibleError

STEPS = 12  # of Newton's, each doubling the digits
STEEP = 1e-6  # of the length: a span below it is taken as nought


class Slack(Struct, frozen=True):
    """A slack line (n,): what it pulls its far end towards its tie with, and down [N]; how far its lowest point hangs
    below the tie [m].
    """

    along: np.ndarray
    down: np.ndarray
    low: np.ndarray


def slack(span: Numbers, rise: Numbers, length: float, weight: float) -> Slack:
    """A line that does not stretch, hanging freely between its tie and its far end.

    span: how far the far end is aside (n,) [m]
    rise: how far it is above the tie (n,) [m]
    length: of the line [m]
    weight: of a metre of it [N/m]

    Returns: pulls and its lowest point, a `Slack`. Raises: InputError; InfeasibleError TOO_SHORT where it does not
    reach. Source: catenary.
    """
    positive(length=length, weight=weight)
    not_negative(span=span)
    h, v = (np.atleast_1d(a) for a in np.broadcast_arrays(np.asarray(span, float), np.asarray(rise, float)))
    reach = np.hypot(h, v)
    if (reach >= length).any():
        raise InfeasibleError(f"a line of {length:.2f} m does not reach {reach.max():.2f} m", "TOO_SHORT")
    aside = np.maximum(h, STEEP * length)
    ratio = np.sqrt(length**2 - v**2) / aside
    z = np.where(ratio < 3, np.sqrt(6 * np.maximum(ratio - 1, 0)), np.log(2 * ratio) + np.log(np.log(2 * ratio + 1)))
    z = np.maximum(z, 1e-9)
    for _ in range(STEPS):
        z = np.maximum(z - (_log_sinh(z) - np.log(ratio)) / (1 / np.tanh(z) - 1 / z + 1e-300), 1e-9)
    a = aside / (2 * z)
    along, down = weight * a, weight / 2 * (length + v / np.tanh(z))
    tied = weight * length - down
    lowest = np.where(tied <= 0, 0.0, np.where(down <= 0, -v, np.hypot(tied, along) / weight - a))
    return Slack(np.where(h > STEEP * length, along, 0.0), down, lowest)


def _log_sinh(z: np.ndarray) -> np.ndarray:
    """log(sinh(z) / z), of large z too."""
    return np.asarray(z + np.log1p(-np.exp(-2 * z)) - np.log(2 * z))
