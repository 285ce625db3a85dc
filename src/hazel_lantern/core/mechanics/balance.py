"""Balance of an arm about its pivot, and which weights to hang where."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import not_negative, positive, refused
from hazel_lantern.core.nouns.elementwise import Numbers
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.units import GRAVITY

MOST_WEIGHTS = 22


class Arm(Struct, frozen=True):
    """Static moments along (S, front positive) and above (N) the pivot line, that of what a motor holds level ahead
    of its pin (K) [kg*m], and the friction moment [N*m].
    """

    along: float
    above: float
    friction: float
    level: float = 0.0

    @property
    def size(self) -> float:
        return math.hypot(self.along, self.above)


def static_moments(masses: np.ndarray, places: np.ndarray) -> tuple[float, float]:
    """First moments of arm-fixed bodies about the pivot.

    masses: shape (n,) [kg]
    places: along the arm (front positive) and above the pivot line, shape (n, 2) [m]

    Returns: moment along and above [kg*m]. Bodies that keep level enter at their pin.
    Raises: InputError for a negative or non-finite mass.
    Source: statics 7.5.
    """
    m, at = np.asarray(masses, float), np.asarray(places, float).reshape(-1, 2)
    if np.any(m < 0) or not np.all(np.isfinite(m)):
        raise InputError("mass", m.tolist(), "must be finite and zero or more")
    along, above = m @ at
    return float(along), float(above)


def front_up_moment(arm: Arm, arm_angle: np.ndarray | float) -> np.ndarray:
    """Moment that lifts the front, from weights alone.

    arm: its static moments
    arm_angle: angle of the arm, any shape [rad]

    Returns: moment, front up positive, of the angle's shape [N*m]. Source: statics 7.5.
    """
    return np.asarray(-GRAVITY * (arm.along * np.cos(arm_angle) - arm.above * np.sin(arm_angle) + arm.level))


def equilibrium(arm: Arm) -> float | None:
    """Angle at which the arm rests without friction.

    arm: its static moments

    Returns: angle within a quarter turn [rad], or None when there is no single one. Source: statics 7.5.
    """
    if arm.level == 0:
        return None if abs(arm.above) < 1e-12 else math.atan(arm.along / arm.above)
    if arm.size < abs(arm.level):
        return None
    turned, shift = math.acos(-arm.level / arm.size), math.atan2(arm.above, arm.along)
    found = [math.remainder(angle - shift, 2 * math.pi) for angle in (turned, -turned)]
    return min(found, key=abs) if min(map(abs, found)) <= math.pi / 2 else None


def self_righting(arm: Arm) -> bool:
    """Whether the arm swings back to its rest angle instead of drifting away.

    arm: its static moments

    Returns: True when the masses sit below the pivot line. Source: statics 7.5.
    """
    return arm.above < 0


def stay_put(arm: Arm, low: float, high: float) -> list[tuple[float, float]]:
    """Arm angles at which friction holds the arm where it is left.

    arm: its static moments and friction
    low: lower end of the range [rad]
    high: upper end of the range [rad]

    Returns: intervals inside the range, lowest first; empty when it never stays [rad].
    Raises: InputError when the range is turned round or friction is negative.
    Source: statics 7.5.
    """
    not_negative(friction=arm.friction)
    if low > high:
        raise InputError("low", low, f"must not exceed the upper end {high}")
    pull, held = GRAVITY * arm.size, GRAVITY * arm.level
    if pull + abs(held) <= arm.friction:
        return [(low, high)]
    if arm.friction == 0 or abs(held) - pull >= arm.friction:
        return []
    # The pull is pull cos(theta + shift) + held: it stays within friction while the cosine lies between these two.
    least, most = max(-1.0, (-arm.friction - held) / pull), min(1.0, (arm.friction - held) / pull)
    near, far, shift = math.acos(most), math.acos(least), math.atan2(arm.above, arm.along)
    found: list[tuple[float, float]] = []
    for turns in range(-2, 3):
        for a, b in ((near, far), (-far, -near)):
            start, end = max(low, a - shift + 2 * math.pi * turns), min(high, b - shift + 2 * math.pi * turns)
            if start < end:
                found.append((start, end))
    return _joined(sorted(found))


def _joined(spans: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """Spans that meet made one."""
    out: list[tuple[float, float]] = []
    for start, end in spans:
        if out and start <= out[-1][1] + 1e-12:
            out[-1] = (out[-1][0], max(end, out[-1][1]))
        else:
            out.append((start, end))
    return out


def washer_friction(clamp: Numbers, mu: Numbers, r_inner: Numbers, r_outer: Numbers) -> Numbers:
    """Moment of one clamped washer face, new (uniform pressure).

    clamp: clamping force [N]
    mu: coefficient of friction [-]
    r_inner: inner radius [m]
    r_outer: outer radius [m]

    Returns: moment [N*m]. Raises: InputError when the radii are turned round.
    Source: statics 7.4.
    """
    not_negative(clamp=clamp, mu=mu, r_inner=r_inner)
    refused("r_outer", r_outer, r_outer <= r_inner, "must exceed the inner radius")
    return mu * clamp * 2 / 3 * (r_outer**3 - r_inner**3) / (r_outer**2 - r_inner**2)


class Rack(Struct, frozen=True):
    """The weights to hang: indices into the owned list, their mass [kg], and the place behind the pivot [m]."""

    chosen: tuple[int, ...]
    mass: float
    place: float


def choose_weights(
    front_moment: float, owned: list[float], slide_min: float, slide_max: float, fixed: float = 0.0, step: float = 0.0
) -> Rack:
    """The owned weights, and their place, that balance the front.

    front_moment: what the weights must balance [kg*m]
    owned: masses of the weights at hand, at most 22 [kg]
    slide_min: nearest place behind the pivot [m]
    slide_max: farthest place behind the pivot [m]
    fixed: mass of the holder that always travels with them [kg]
    step: from hole to hole where they cannot slide, 0 for a slot [m]

    Returns: Rack, the best by nearness to mid-slide, then fewest pieces, least mass, first in the list; with holes,
    the one that leaves
    the least moment over, then as before.
    Raises: InfeasibleError with the needed range of mass; InputError.
    Source: statics 7.5; all subsets, equal weights merged.
    """
    positive(slide_min=slide_min, slide_max=slide_max)
    not_negative(fixed=fixed)
    if slide_min > slide_max:
        raise InputError("slide_min", slide_min, f"must not exceed slide_max {slide_max}")
    if len(owned) > MOST_WEIGHTS:
        raise InputError("owned_weights", len(owned), f"at most {MOST_WEIGHTS} weights can be searched")
    for mass in owned:
        positive(owned_weight=mass)
    if front_moment <= 0:
        raise InfeasibleError("already rear heavy: no weight behind the pivot can balance it")
    racks = _Racks(owned)
    hung = racks.totals + fixed
    if step > 0:
        return _in_holes(front_moment, racks, hung, np.arange(slide_min, slide_max + 1e-9, step))
    with np.errstate(divide="ignore", over="ignore"):
        fits = (hung > 0) & (slide_min * hung - 1e-9 <= front_moment) & (front_moment <= slide_max * hung + 1e-9)
        off = np.where(fits, np.round(np.abs(front_moment / hung - (slide_min + slide_max) / 2), 6), np.inf)
    off[0] = np.inf
    if not np.isfinite(off).any():
        least, most = front_moment / slide_max - fixed, front_moment / slide_min - fixed
        raise InfeasibleError(
            f"the weights at hand cannot balance it: {least:.2f} to {most:.2f} kg are needed behind the pivot",
            least_mass=least,
            most_mass=most,
        )
    ties = [(racks.chosen(int(i)), float(racks.totals[i])) for i in np.flatnonzero(off == off.min())]
    chosen, total = min(ties, key=lambda rack: (len(rack[0]), round(rack[1], 6), rack[0]))
    return Rack(chosen, total, min(max(front_moment / (total + fixed), slide_min), slide_max))


def _in_holes(front_moment: float, racks: _Racks, hung: np.ndarray, holes: np.ndarray) -> Rack:
    """The weights and the hole that leave the least moment over."""
    left = np.round(np.abs(np.outer(hung, holes) - front_moment), 6)
    left[0] = np.inf
    if not hung[1:].min() * holes[0] * 0.5 <= front_moment <= hung.max() * holes[-1] * 1.05:
        raise InfeasibleError(
            f"the weights at hand cannot balance it: at least {front_moment / holes[-1]:.2f} kg are needed behind "
            "the pivot",
            least_mass=front_moment / holes[-1],
        )
    ties = [(racks.chosen(int(i)), float(racks.totals[i]), float(holes[k])) for i, k in np.argwhere(left == left.min())]
    chosen, total, place = min(ties, key=lambda rack: (len(rack[0]), round(rack[1], 6), rack[0], rack[2]))
    return Rack(chosen, total, place)


class _Racks:
    """Every distinct choice of the weights; equal weights are merged and the first of them taken."""

    def __init__(self, owned: list[float]) -> None:
        self.groups: dict[float, list[int]] = {}
        for index, mass in enumerate(owned):
            self.groups.setdefault(round(mass, 9), []).append(index)
        self.totals = np.zeros(1)
        for size, members in self.groups.items():
            self.totals = (self.totals[:, None] + size * np.arange(len(members) + 1)).ravel()

    def chosen(self, number: int) -> tuple[int, ...]:
        """Indices of the weights in choice `number`, read like digits of a mixed-base number."""
        found: list[int] = []
        for members in reversed(self.groups.values()):
            number, count = divmod(number, len(members) + 1)
            found += members[:count]
        return tuple(sorted(found))
