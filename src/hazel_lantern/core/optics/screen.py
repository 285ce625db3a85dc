"""Movement in the picture: pixels of shift, speed across the frame, blur, judder, parallax, cover from above."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import finite, not_negative, positive
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError

COMFORTABLE, NOTICEABLE, STRONG, WHIP = "comfortable", "noticeable", "strong", "whip"
BANDS = (COMFORTABLE, NOTICEABLE, STRONG, WHIP)
# Share of the picture's width a thing may jump between two captured frames; judgement, drive 5.4.
GAPS = (0.006, 0.012, 0.03)
SMEARED, CRISP = 0.4, 144 / 360


def shift(focal_px: float, moved: float, distance: float) -> float:
    """Shift of a thing in the picture when the camera moves square to its axis.

    focal_px: focal length [px]
    moved: camera movement [m]
    distance: distance of the thing [m]

    Returns: shift [px]. Raises: InputError. Source: similar triangles; drive 5.3.
    """
    positive(F=focal_px, D=distance)
    finite(x=moved)
    return focal_px * moved / distance


def turn_shift(focal_px: float, turn: float, offset: float = 0.0) -> float:
    """Shift of an image point when the camera pitches or yaws, along the direction of the turn.

    focal_px: focal length [px]
    turn: pitch or yaw [rad]
    offset: the point's distance from the centre in that direction [px]

    Returns: shift [px]. Raises: InputError. Source: drive 5.3.
    """
    positive(F=focal_px)
    finite(turn=turn, offset=offset)
    return focal_px * (math.tan(math.atan(offset / focal_px) + turn) - offset / focal_px)


def pitched_point(focal_px: float, pitch: float, x: float, y: float) -> tuple[float, float]:
    """Where an image point goes when the camera pitches: its ray turned and projected again.

    focal_px: focal length [px]
    pitch: positive nose up [rad]
    x: right of the centre [px]
    y: below the centre [px]

    Returns: (x, y) from the centre [px]. Raises: InputError when the ray leaves the picture side. Source: drive 5.3.
    """
    positive(F=focal_px)
    finite(pitch=pitch, x=x, y=y)
    up, ahead = -y / focal_px, 1.0
    cos, sin = math.cos(pitch), math.sin(pitch)
    up, ahead = up * cos - ahead * sin, up * sin + ahead * cos
    if ahead <= 0:
        raise InputError("pitch", pitch, "turns this point out of the picture side")
    return x / ahead, -up / ahead * focal_px


def roll_shift(roll: float, radius: float) -> float:
    """Distance an image point travels when the camera rolls.

    roll: roll [rad]
    radius: the point's distance from the centre [px]

    Returns: distance [px]. Raises: InputError. Source: chord; drive 5.3.
    """
    finite(roll=roll)
    not_negative(r=radius)
    return abs(2 * radius * math.sin(roll / 2))


class Pace(Struct, frozen=True):
    """Movement across the picture: px/s while shooting, px a captured frame, blur [px], time to cross on the screen
    [s], judder band.
    """

    speed: float
    gap: float
    blur: float
    crossing: float
    band: str


def pace(
    speed: float,
    width: float,
    capture: float,
    shown: float,
    shutter: float,
    *,
    shift_band: int = 0,
    gaps: tuple[float, ...] = GAPS,
) -> Pace:
    """How something that crosses the picture will look on the screen.

    speed: speed in the picture while shooting [px/s]
    width: width of the picture [px]
    capture: frames a second in the camera [1/s]
    shown: frames a second on the screen [1/s]
    shutter: shutter angle [rad]
    shift_band: bands stricter (positive) or looser (negative) by preference [-]
    gaps: limits of the bands as shares of the width a frame [-]

    Returns: the pace, a `Pace`. Raises: InputError. Source: drive 5.4, 5.7; bands are judgement.
    """
    not_negative(v_px=speed)
    positive(W=width, fps_capture=capture, fps_play=shown)
    _shutter(shutter)
    gap = speed / capture
    share = shutter / (2 * math.pi)
    rank = sum(gap / width > limit * (1 + 1e-12) for limit in gaps) + (shift_band + (share < CRISP) if gap else 0)
    crossing = width / (gap * shown) if gap else math.inf
    return Pace(speed, gap, gap * share, crossing, BANDS[min(max(rank, 0), len(BANDS) - 1)])


def slowed(capture: float, shown: float) -> float:
    """Speed on the screen over speed on the set: below 1 for slow motion.

    capture: frames a second in the camera [1/s]
    shown: frames a second on the screen [1/s]

    Returns: factor [-]. Raises: InputError. Source: drive 5.7.
    """
    positive(fps_capture=capture, fps_play=shown)
    return shown / capture


def slowest_crossing(shown: float) -> float:
    """Shortest comfortable time for a thing to cross the screen.

    shown: frames a second on the screen [1/s]

    Returns: time [s]. Raises: InputError. Source: judgement; drive 5.4.
    """
    positive(fps_play=shown)
    return 7.0 * 24 / shown


def parallax(focal_px: float, near: float, far: float) -> float:
    """Shift between foreground and background for each metre of slide.

    focal_px: focal length [px]
    near: distance of the foreground [m]
    far: distance of the background [m]

    Returns: shift for each metre [px/m]. Raises: InputError unless far is beyond near. Source: drive 5.5.
    """
    positive(F=focal_px, D_near=near)
    _behind(near, far)
    return focal_px * (1 / near - (0.0 if math.isinf(far) else 1 / far))


def slide_for_parallax(focal_px: float, near: float, far: float, pixels: float) -> float:
    """Slide that shifts foreground against background by so much.

    focal_px: focal length [px]
    near: distance of the foreground [m]
    far: distance of the background [m]
    pixels: wanted shift [px]

    Returns: slide [m]. Raises: InputError. Source: drive 5.5 turned round.
    """
    not_negative(pixels=pixels)
    return pixels / parallax(focal_px, near, far)


def reveal_at(edge: tuple[float, float], point: tuple[float, float]) -> float:
    """Camera place at which a point comes out from behind an edge.

    edge: the edge's place along the slide and its distance [m]
    point: the point's place along the slide and its distance [m]

    Returns: camera place along the slide [m]. Raises: InputError unless the point is behind the edge. Source: line
    through both; drive 5.5.
    """
    finite(x_edge=edge[0], x_obj=point[0])
    positive(D_edge=edge[1])
    _behind(edge[1], point[1], "D_edge")
    return (edge[0] * point[1] - point[0] * edge[1]) / (point[1] - edge[1])


def orbit_speed(focal_px: float, rate: float, radius: float, distance: float) -> float:
    """Speed in the picture of a point on the axis while the camera circles, kept on the centre.

    focal_px: focal length [px]
    rate: turning of the camera about the centre [rad/s]
    radius: radius of the circle [m]
    distance: distance of the point from the camera [m]

    Returns: speed [px/s]. Raises: InputError. Source: drive 5.6.
    """
    positive(F=focal_px, R=radius, D=distance)
    finite(rate=rate)
    return focal_px * abs(rate) * abs(1 - radius / distance)


class Cover(Struct, frozen=True):
    """A bench seen from above in several frames: how many, the travel between first and last [m], the real overlap
    [-].
    """

    frames: int
    travel: float
    overlap: float


def cover(bench: float, field: float, overlap: float) -> Cover:
    """Frames and travel that cover a bench from above.

    bench: length to cover [m]
    field: length one frame sees, at the height of the work [m]
    overlap: least share of a frame seen again in the next [-]

    Returns: frames, travel and overlap, a `Cover`. Raises: InputError. Source: counting; drive 5.8.
    """
    positive(bench=bench, field=field)
    not_negative(overlap=overlap)
    if overlap >= 1:
        raise InputError("overlap", overlap, "must be less than 1")
    if field >= bench:
        return Cover(1, 0.0, 1.0)
    frames = math.ceil((bench - field) / (field * (1 - overlap)) - 1e-9) + 1
    return Cover(frames, bench - field, 1 - (bench - field) / ((frames - 1) * field))


def at_height(field: float, distance: float, height: float, nearest: float = 0.0) -> float:
    """Field from above at the top of something that stands on the bench.

    field: field at the bench [m]
    distance: lens above the bench [m]
    height: height of the thing [m]
    nearest: nearest focus of the lens [m]

    Returns: field at the top [m]. Raises: InputError; InfeasibleError when the thing reaches the lens or is nearer
    than it can focus. Source: drive 5.8.
    """
    positive(field=field, D=distance)
    not_negative(h_obj=height, nearest=nearest)
    if height >= distance - nearest:
        raise InfeasibleError(
            "the work is too close to the lens; raise the camera or lower the work",
            "TOO_CLOSE",
            h_obj=distance - nearest,
        )
    return field * (distance - height) / distance


def drift(pixels: np.ndarray) -> np.ndarray:
    """Slow shape errors along a path without their mean, which is framing and no shake.

    pixels: shift at each sample, shape (n, 2) [px]

    Returns: shift from the mean, shape (n, 2) [px]. Source: least squares of a constant; drive 5.3.
    """
    shifts = np.asarray(pixels, float)
    return np.asarray(shifts - shifts.mean(axis=0))


def _shutter(angle: float) -> None:
    if not (math.isfinite(angle) and 0 < angle <= 2 * math.pi + 1e-12):
        raise InputError("shutter", angle, "must be above 0 and at most a full turn")


def _behind(near: float, far: float, field: str = "D_far") -> None:
    if math.isnan(far) or far <= near:
        raise InputError(field, far if field == "D_far" else near, "the background must lie beyond the foreground")
