"""Geometry and forces of the two-bar arm. u forward along the ground, z up; arm angle positive when the front is up."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns import elementwise as ew
from hazel_lantern.core.nouns.check import finite, not_negative, positive
from hazel_lantern.core.nouns.elementwise import Numbers
from hazel_lantern.core.nouns.errors import GeometryError

STEEPEST = math.radians(80)  # of an arm that nothing else stops


class Limits(Struct, frozen=True):
    """Usable arm angles [rad], which stop governs each end, and every stop by name."""

    low: float
    high: float
    low_by: str
    high_by: str
    lows: tuple[tuple[str, float], ...]
    highs: tuple[tuple[str, float], ...]

    @property
    def stops(self) -> tuple[tuple[str, float], ...]:
        return self.lows + self.highs


def bar_touch_angle(
    post_spacing: Numbers, bar_depth_lower: Numbers, bar_depth_upper: Numbers, clearance: Numbers = 0.0
) -> Numbers:
    """How far from the post's normal the arm may turn before the bars touch.

    post_spacing: distance of the pivots along the post [m]
    bar_depth_lower: depth of the lower bar [m]
    bar_depth_upper: depth of the upper bar [m]
    clearance: gap to keep between the bars [m]

    Returns: angle [rad]. Raises: GeometryError when they touch with the arm level.
    Source: statics 7.1.
    """
    positive(post_spacing=post_spacing, bar_depth_lower=bar_depth_lower, bar_depth_upper=bar_depth_upper)
    not_negative(clearance=clearance)
    ratio = ((bar_depth_lower + bar_depth_upper) / 2 + clearance) / post_spacing
    if ew.some(ratio >= 1):
        raise GeometryError("bars already touch when level")
    return ew.acos(ratio)


def jib_limits(
    pivot_height: float,
    front_length: float,
    rear_length: float,
    head_lowest_below_pin: float,
    counterweight_radius: float,
    ground_clearance: float,
    post_spacing: float | None,
    bar_depth_lower: float,
    bar_depth_upper: float,
    post_lean: float = 0.0,
    bar_clearance: float = 0.0,
    pivot_to_post_edge: float = 0.0,
    pivot_to_post_top: float = 0.0,
) -> Limits:
    """The arm angles that neither touch the ground, nor each other, nor the post's corner.

    pivot_height: lower pivot above the ground [m]
    front_length: lower pivot to head pin [m]
    rear_length: lower pivot to the counterweight [m]
    head_lowest_below_pin: lowest point of the level head below its pin [m]
    counterweight_radius: how far the weights reach around their place [m]
    ground_clearance: gap to keep above the ground [m]
    post_spacing: distance of the two pivots along the post, None for an arm without an upper bar [m]
    bar_depth_lower: depth of the lower bar [m]
    bar_depth_upper: depth of the upper bar [m]
    post_lean: lean of the post, nose-up positive [rad]
    bar_clearance: gap to keep between the bars [m]
    pivot_to_post_edge: half width of the post, 0 for none [m]
    pivot_to_post_top: drop from the pivot to that corner [m]

    Returns: Limits. Raises: GeometryError when a limit is impossible or nothing is left; InputError.
    Source: statics 7.1.
    """
    positive(pivot_height=pivot_height, front_length=front_length, rear_length=rear_length)
    not_negative(
        ground_clearance=ground_clearance,
        counterweight_radius=counterweight_radius,
        pivot_to_post_edge=pivot_to_post_edge,
        pivot_to_post_top=pivot_to_post_top,
    )
    finite(head_lowest_below_pin=head_lowest_below_pin, post_lean=post_lean)
    lows: list[tuple[str, float]] = [("steepest worked out", -STEEPEST)]
    highs: list[tuple[str, float]] = [("steepest worked out", STEEPEST)]
    if post_spacing is not None:
        touch = bar_touch_angle(post_spacing, bar_depth_lower, bar_depth_upper, bar_clearance)
        lows, highs = [("bars", post_lean - touch)], [("bars", post_lean + touch)]
    head, rear = _on_ground(
        pivot_height, front_length, rear_length, head_lowest_below_pin, counterweight_radius, ground_clearance
    )
    if head > 1:
        raise GeometryError("the head is on the ground at every arm angle")
    if head >= -1:
        lows.append(("head on the ground", math.asin(head)))
    if rear < -1:
        raise GeometryError("the counterweight is on the ground at every arm angle")
    if rear <= 1:
        highs.append(("counterweight on the ground", math.asin(rear)))
    if pivot_to_post_edge > 0 and pivot_to_post_top > 0:
        corner = math.hypot(pivot_to_post_edge, pivot_to_post_top)
        if bar_depth_lower / 2 >= corner:
            raise GeometryError("the bar cannot pass the post's corner")
        lows.append(
            ("post corner", math.asin(bar_depth_lower / 2 / corner) - math.atan2(pivot_to_post_top, pivot_to_post_edge))
        )
    return _limits(lows, highs)


def _on_ground(
    pivot_height: Numbers, front: Numbers, rear: Numbers, head_low: Numbers, radius: Numbers, clearance: Numbers
) -> tuple[Numbers, Numbers]:
    """Sines of the arm angles at which the head, and the counterweight, come down to the ground."""
    return (clearance + head_low - pivot_height) / front, (pivot_height - radius - clearance) / rear


def usable_angles(
    pivot_height: Numbers,
    front_length: Numbers,
    rear_length: Numbers,
    head_lowest_below_pin: Numbers,
    counterweight_radius: Numbers,
    ground_clearance: Numbers,
    touch: Numbers = STEEPEST,
    post_lean: Numbers = 0.0,
) -> tuple[np.ndarray, np.ndarray]:
    """The arm angles of many jibs at once, as `jib_limits` has them for one without a post's corner.

    pivot_height: lower pivots above the ground [m]
    front_length: lower pivot to head pin [m]
    rear_length: lower pivot to the counterweight [m]
    head_lowest_below_pin: lowest point of the level head below its pin [m]
    counterweight_radius: how far the weights reach around their place [m]
    ground_clearance: gap to keep above the ground [m]
    touch: how far the bars may turn from the post's normal, from `bar_touch_angle` [rad]
    post_lean: lean of the post, nose-up positive [rad]

    Returns: lowest and highest angles, arrays of the common shape, not a number where nothing is left [rad]. Raises:
    InputError. Source: statics 7.1.
    """
    positive(pivot_height=pivot_height, front_length=front_length, rear_length=rear_length)
    not_negative(counterweight_radius=counterweight_radius, ground_clearance=ground_clearance)
    head, rear = _on_ground(
        pivot_height, front_length, rear_length, head_lowest_below_pin, counterweight_radius, ground_clearance
    )
    low = np.maximum(post_lean - touch, np.where(np.asarray(head) < -1, -math.inf, np.arcsin(np.clip(head, -1, 1))))
    high = np.minimum(post_lean + touch, np.where(np.asarray(rear) > 1, math.inf, np.arcsin(np.clip(rear, -1, 1))))
    left = (np.asarray(head) <= 1) & (np.asarray(rear) >= -1) & (low < high)
    return np.where(left, low, np.nan), np.where(left, high, np.nan)


def _limits(lows: list[tuple[str, float]], highs: list[tuple[str, float]]) -> Limits:
    low_by, low = max(lows, key=lambda stop: stop[1])
    high_by, high = min(highs, key=lambda stop: stop[1])
    if low >= high:
        raise GeometryError(f"no usable arm angle: {low_by} stops it before {high_by} does")
    return Limits(low, high, low_by, high_by, tuple(lows), tuple(highs))


def narrowed(limits: Limits, low: float, high: float, by: str) -> Limits:
    """Limits with one more stop at each end.

    limits: those so far
    low: lower end of the new stop [rad]
    high: upper end of the new stop [rad]
    by: its name

    Returns: Limits. Raises: GeometryError when nothing is left. Source: statics 7.1, 7.3.
    """
    return _limits([*limits.lows, (by, low)], [*limits.highs, (by, high)])


def height_travel(front_length: Numbers, low: Numbers, high: Numbers) -> Numbers:
    """Rise of the head pin between two arm angles.

    front_length: lower pivot to head pin [m]
    low: lower arm angle [rad]
    high: upper arm angle [rad]

    Returns: rise [m]. Source: statics 7.1.
    """
    return front_length * (ew.sin(high) - ew.sin(low))


def arc_shift(front_length: Numbers, low: Numbers, high: Numbers) -> Numbers:
    """How far the head moves fore and aft while the arm swings.

    front_length: lower pivot to head pin [m]
    low: lower arm angle [rad]
    high: upper arm angle [rad]

    Returns: shift [m]. Source: statics 7.1.
    """
    level = (low <= 0) & (high >= 0)
    return front_length * ew.where(level, 1 - ew.smaller(ew.cos(low), ew.cos(high)), abs(ew.cos(high) - ew.cos(low)))


def head_tilt(
    arm_angle: np.ndarray | float,
    L_lower: float,
    L_upper: float,
    post_spacing: float,
    head_spacing: float,
    post_lean: float = 0.0,
) -> np.ndarray:
    """Tilt of the head, nose-up positive, from the exact four-bar.

    arm_angle: angle of the lower bar, any shape [rad]
    L_lower: lower bar between pins [m]
    L_upper: upper bar between pins [m]
    post_spacing: pins on the post [m]
    head_spacing: pins on the head [m]
    post_lean: lean of the post, nose-up positive [rad]

    Returns: tilt, shape of arm_angle, wrapped to half a turn [rad].
    Raises: GeometryError with the angle at which the bars cannot close.
    Source: statics 7.2; circle intersection, the branch nearest to the post's lean.
    """
    positive(L_lower=L_lower, L_upper=L_upper, post_spacing=post_spacing, head_spacing=head_spacing)
    theta = np.asarray(arm_angle, float)
    if not np.all(np.isfinite(theta)):
        raise GeometryError("the arm angle is not a number")
    vu = L_lower * np.cos(theta) + post_spacing * math.sin(post_lean)
    vz = L_lower * np.sin(theta) - post_spacing * math.cos(post_lean)
    d = np.hypot(vu, vz)
    open_ = (d < abs(head_spacing - L_upper)) | (d > head_spacing + L_upper)
    if np.any(open_):
        where = math.degrees(float(np.atleast_1d(theta)[np.atleast_1d(open_)][0]))
        raise GeometryError(f"the bars cannot meet at an arm angle of {where:.1f} degrees")
    kappa = (L_upper**2 - d**2 - head_spacing**2) / (2 * head_spacing)
    spread, centre = np.arccos(np.clip(kappa / d, -1, 1)), np.arctan2(vu, vz)
    # Of spread - centre and -spread - centre, with a spread of at most half a turn, the nearer to the lean.
    return np.asarray(_wrap(np.where(_wrap(centre + post_lean) >= 0, spread, -spread) - centre))


def _wrap(angle: np.ndarray) -> np.ndarray:
    return (angle + math.pi) % (2 * math.pi) - math.pi


def link_forces(
    arm_angle: np.ndarray | float,
    pivot_spacing: float,
    head_weight: float,
    cg_ahead_of_pin: float,
    cg_above_pin: float,
    forward_push: float = 0.0,
) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Forces in the two bars from a head that hangs ahead of its pin.

    arm_angle: angle of the arm, any shape [rad]
    pivot_spacing: distance between the bars' pins along the post [m]
    head_weight: weight of head and camera [N]
    cg_ahead_of_pin: its centre of mass ahead of the lower pin [m]
    cg_above_pin: its centre of mass above the lower pin [m]
    forward_push: horizontal push at the centre of mass, forward positive [N]

    Returns: compression of the upper bar, compression of the lower bar, force on the lower pin, each of the angle's
    shape [N].
    Raises: GeometryError when the bars nearly touch (cosine under 0.1).
    Source: statics 7.4; weightless upper bar, valid below 75 degrees.
    """
    positive(pivot_spacing=pivot_spacing)
    not_negative(head_weight=head_weight)
    finite(cg_ahead_of_pin=cg_ahead_of_pin, cg_above_pin=cg_above_pin, forward_push=forward_push)
    cos, sin = np.cos(arm_angle), np.sin(arm_angle)
    if np.any(cos < 0.1):
        raise GeometryError("bars nearly touching")
    upper = -(head_weight * cg_ahead_of_pin + forward_push * cg_above_pin) / (pivot_spacing * cos)
    pin_u, pin_z = -upper * cos - forward_push, -upper * sin + head_weight
    return upper, pin_u * cos + pin_z * sin, np.hypot(pin_u, pin_z)
