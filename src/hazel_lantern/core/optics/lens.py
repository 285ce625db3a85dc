"""What a lens sees: angles of view, fields, magnification, pixels and focus. Pinhole and thin lens."""

from __future__ import annotations

import math

from hazel_lantern.core.nouns.check import not_negative, positive
from hazel_lantern.core.nouns.errors import InputError

WIDE = math.radians(110)


def angle_of_view(width: float, focal: float, squeeze: float = 1.0) -> float:
    """Angle a lens sees across one side of the sensor, focused far away.

    width: side of the sensor [m]
    focal: focal length [m]
    squeeze: horizontal squeeze of the lens, 1 for a plain one [-]

    Returns: full angle [rad]. Raises: InputError. Source: pinhole; drive 5.2.
    """
    positive(w=width, f=focal)
    _squeeze(squeeze)
    return 2 * math.atan(squeeze * width / (2 * focal))


def field(side: float, focal: float, distance: float, depth: float | None = None, squeeze: float = 1.0) -> float:
    """Size of what fills one side of the picture.

    side: side of the sensor [m]
    focal: focal length [m]
    distance: distance in focus, from the lens [m]
    depth: distance at which the field is measured; None for the distance in focus [m]
    squeeze: horizontal squeeze of the lens, 1 for height or a plain lens [-]

    Returns: field [m]. Raises: InputError when the lens cannot focus that near. Source: thin lens; drive 5.2.
    """
    positive(side=side, f=focal)
    _squeeze(squeeze)
    _beyond(focal, distance)
    at = distance if depth is None else depth
    not_negative(depth=at)
    return squeeze * side * at * (distance - focal) / (focal * distance)


def magnification(focal: float, distance: float) -> float:
    """Size on the sensor over size in front of the lens.

    focal: focal length [m]
    distance: distance in focus [m]

    Returns: magnification [-]. Raises: InputError. Source: thin lens; drive 5.2.
    """
    _beyond(focal, distance)
    return focal / (distance - focal)


def focal_pixels(focal: float, pixels: float, side: float, squeeze: float = 1.0) -> float:
    """Focal length counted in pixels of the delivered picture, focused far away.

    focal: focal length [m]
    pixels: pixels along the side [px]
    side: side of the sensor [m]
    squeeze: horizontal squeeze of the lens, 1 for height or a plain lens [-]

    Returns: focal length [px]. Raises: InputError. Source: pinhole; drive 5.2.
    """
    positive(w=side, f=focal, W=pixels)
    _squeeze(squeeze)
    return focal * pixels / (side * squeeze)


def hyperfocal(focal: float, aperture: float, coc: float) -> float:
    """Nearest focus at which far things are still sharp.

    focal: focal length [m]
    aperture: f-number [-]
    coc: blur still taken for a point, on the sensor [m]

    Returns: distance [m]. Raises: InputError. Source: thin lens; drive 5.10.
    """
    positive(f=focal, N=aperture, coc=coc)
    return focal * focal / (aperture * coc) + focal


def sharp_range(focal: float, aperture: float, coc: float, distance: float) -> tuple[float, float]:
    """Nearest and farthest distance that look sharp.

    focal: focal length [m]
    aperture: f-number [-]
    coc: blur still taken for a point, on the sensor [m]
    distance: distance in focus [m]

    Returns: (near, far), far may be infinite [m]. Raises: InputError when the lens cannot focus that near. Source:
    thin lens; drive 5.10.
    """
    limit = hyperfocal(focal, aperture, coc)
    _beyond(focal, distance)
    near = distance * (limit - focal) / (limit + distance - 2 * focal)
    return near, math.inf if distance >= limit else distance * (limit - focal) / (limit - distance)


def blur_allowed(width: float, height: float, pixels: float) -> float:
    """Circle of confusion by default: a 1500th of the diagonal, and never finer than a pixel and a half.

    width: sensor width [m]
    height: sensor height [m]
    pixels: pixels across the width [px]

    Returns: diameter on the sensor [m]. Raises: InputError. Source: judgement; drive 5.10.
    """
    positive(w=width, h=height, W=pixels)
    return max(math.hypot(width, height) / 1500, 1.5 * width / pixels)


def best_focus(nearest: float, farthest: float) -> float:
    """One focus setting that serves a range of distances best.

    nearest: smallest distance of the subject [m]
    farthest: greatest distance of the subject [m]

    Returns: distance to set [m]. Raises: InputError. Source: equal blur at both ends; drive 5.10.
    """
    positive(D_min=nearest, D_max=farthest)
    return 2 * nearest * farthest / (nearest + farthest)


def _squeeze(squeeze: float) -> None:
    if not (math.isfinite(squeeze) and squeeze >= 1):
        raise InputError("squeeze", squeeze, "must be 1 or more")


def _beyond(focal: float, distance: float) -> None:
    positive(f=focal, D=distance)
    if distance <= focal:
        raise InputError("D", distance, "the lens cannot focus nearer than its focal length")
