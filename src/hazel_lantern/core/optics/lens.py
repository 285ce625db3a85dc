"""Angles of view."""

from __future__ import annotations

import math

from hazel_lantern.core.check import positive


def angle_of_view(width: float, focal: float) -> float:
    """Angle a lens sees across one side of the sensor, focused far away.

    width: side of the sensor [m]
    focal: focal length [m]

    Returns: full angle [rad]. Raises: InputError. Source: pinhole; drive 5.2.
    """
    positive(w=width, f=focal)
    return 2 * math.atan(width / (2 * focal))
