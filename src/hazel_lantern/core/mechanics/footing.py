"""Whether a rig stands: margins of every edge of its feet, knocks, slewing arms, ballast."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import not_negative, positive
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.units import AIR_DENSITY, GRAVITY

LEAST_KNOCK = 20.0  # newtons
Force = tuple[Sequence[float], Sequence[float]]


def support_polygon(contacts: np.ndarray) -> np.ndarray:
    """Convex hull of the contact points, counter-clockwise.

    contacts: points on the ground, shape (n, 2) [m]

    Returns: corners, shape (k, 2) [m]. Raises: InputError for fewer than three distinct points or a line.
    Source: monotone chain; points closer than a nanometre are one.
    """
    points = sorted(set(map(tuple, np.round(np.asarray(contacts, float).reshape(-1, 2), 9))))
    if not np.all(np.isfinite(points)):
        raise InputError("contact_points", points, "must be finite")

    def half(ordered: list[tuple[float, ...]]) -> list[tuple[float, ...]]:
        chain: list[tuple[float, ...]] = []
        for p in ordered:
            while len(chain) > 1 and _turn(chain[-2], chain[-1], p) <= 1e-15:
                chain.pop()
            chain.append(p)
        return chain[:-1]

    if len(points) == 3:
        side = _turn(*points)
        hull = [] if abs(side) <= 1e-15 else points if side > 0 else points[::-1]
    else:
        hull = half(points) + half(points[::-1])
    if len(points) < 3 or len(hull) < 3:
        raise InputError("contact_points", points, "needs three distinct points that are not in line")
    return np.array(hull)


def _turn(a: tuple[float, ...], b: tuple[float, ...], c: tuple[float, ...]) -> float:
    return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])


class Footing(Struct, frozen=True):
    """Per edge of the polygon: corner, inward normal, stabilising and overturning moment [N*m]; total downward force
    [N].
    """

    corners: np.ndarray
    normals: np.ndarray
    stabilising: np.ndarray
    overturning: np.ndarray
    down: float

    @property
    def margins(self) -> np.ndarray:
        """Margin moment of each edge [N*m]."""
        return np.asarray(self.stabilising - self.overturning)

    @property
    def factor(self) -> float:
        """Smallest ratio of stabilising to overturning; infinite when nothing overturns."""
        with np.errstate(divide="ignore", invalid="ignore"):
            ratio = np.where(self.overturning > 0, self.stabilising / self.overturning, np.inf)
        return float(ratio.min())

    @property
    def distance(self) -> float:
        """Smallest distance of the foot point inside the edges, negative when it falls over [m]."""
        return float(self.margins.min() / self.down)

    def pushed(self, height: float, way: tuple[float, float]) -> float:
        """Horizontal force at a height [m] in one direction (unit vector) that tips it [N]; infinite where it presses
        the feet down, negative when it falls by itself.
        """
        positive(height=height)
        leans = -(self.normals @ np.asarray(way, float))
        with np.errstate(divide="ignore", invalid="ignore"):
            force = np.where(leans > 1e-12, self.margins / (height * leans), np.inf)
        return float(force.min())

    def knock(self, height: float) -> float:
        """Horizontal force at a height [m] that just tips the weakest edge [N], negative when it falls by itself."""
        positive(knock_height=height)
        return float(self.margins.min() / height)


def _edges(contacts: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    corners = support_polygon(contacts)
    along = np.roll(corners, -1, axis=0) - corners
    along /= np.linalg.norm(along, axis=1)[:, None]
    return corners, np.column_stack([-along[:, 1], along[:, 0]])


def _contributions(corners: np.ndarray, normals: np.ndarray, forces: np.ndarray, points: np.ndarray) -> np.ndarray:
    """Moment about each edge of each force, inward positive, shape (edges, forces)."""
    lever = np.einsum("ek,efk->ef", normals, points[None, :, :2] - corners[:, None, :])
    return np.asarray(-forces[:, 2] * lever + (normals @ forces[:, :2].T) * points[:, 2])


def _as_forces(masses: Sequence[float], cgs: np.ndarray, forces: Sequence[Force]) -> tuple[np.ndarray, np.ndarray]:
    m = np.asarray(masses, float)
    if np.any(m < 0) or not np.all(np.isfinite(m)):
        raise InputError("mass", m.tolist(), "must be finite and zero or more")
    weights = np.column_stack([np.zeros((len(m), 2)), -m * GRAVITY])
    pushes = np.array([f for f, _ in forces], float).reshape(-1, 3)
    at = np.array([r for _, r in forces], float).reshape(-1, 3)
    return np.vstack([weights, pushes]), np.vstack([np.asarray(cgs, float).reshape(-1, 3), at])


def footing(contacts: np.ndarray, masses: Sequence[float], cgs: np.ndarray, forces: Sequence[Force] = ()) -> Footing:
    """Tipping margins over every edge of the feet.

    contacts: feet on level ground, shape (n, 2) [m]
    masses: bodies, shape (m,) [kg]
    cgs: their centres of mass, shape (m, 3) [m]
    forces: pairs of a force [N] and the point it acts at [m]

    Returns: Footing. Raises: InfeasibleError when nothing presses down; InputError.
    Source: statics 6; moments about polygon edges, rigid base, quasi-static.
    """
    corners, normals = _edges(contacts)
    f, r = _as_forces(masses, cgs, forces)
    down = -float(f[:, 2].sum())
    if down <= 0:
        raise InfeasibleError("the net force is upward: nothing holds it down")
    c = _contributions(corners, normals, f, r)
    return Footing(corners, normals, np.where(c > 0, c, 0).sum(1), -np.where(c < 0, c, 0).sum(1), down)


class Slew(Struct, frozen=True):
    """Worst slew angle [rad], margin moment there [N*m] and margin distance [m]."""

    angle: float
    moment: float
    distance: float


def worst_slew(
    contacts: np.ndarray,
    fixed_masses: Sequence[float],
    fixed_cgs: np.ndarray,
    axis: Sequence[float],
    turning_masses: Sequence[float],
    turning_cgs: np.ndarray,
    turning_forces: Sequence[Force] = (),
    slew_range: tuple[float, float] | None = None,
) -> Slew:
    """The slew angle at which a turning arm is nearest to tipping its base.

    contacts: feet on level ground, shape (n, 2) [m]
    fixed_masses: bodies that do not turn [kg]
    fixed_cgs: their centres of mass, shape (m, 3) [m]
    axis: place of the slew axis, (x, y) [m]
    turning_masses: bodies that turn [kg]
    turning_cgs: their centres of mass from the axis in the arm's frame, shape (k, 3) [m]
    turning_forces: forces [N] and points [m] in the arm's frame
    slew_range: allowed turn, a full circle if absent [rad]

    Returns: Slew, the least margin over all edges. Raises: InfeasibleError when nothing presses down; InputError.
    Source: statics 6; the margin is a sinusoid of the slew angle for each edge.
    """
    corners, normals = _edges(contacts)
    fixed_f, fixed_r = _as_forces(fixed_masses, fixed_cgs, ())
    f, r = _as_forces(turning_masses, turning_cgs, turning_forces)
    down = -float(fixed_f[:, 2].sum() + f[:, 2].sum())
    if down <= 0:
        raise InfeasibleError("the net force is upward: nothing holds it down")
    turning_down = -float(f[:, 2].sum())
    level = _contributions(corners, normals, fixed_f, fixed_r).sum(1)
    level = level + turning_down * np.einsum("ek,ek->e", normals, np.asarray(axis, float) - corners)
    pull = (-f[:, 2:3] * r[:, :2] + r[:, 2:3] * f[:, :2]).sum(0)
    worst: Slew | None = None
    for normal, base in zip(normals, level, strict=True):
        angles = _slew_candidates(normal, pull, slew_range)
        turned = [
            base + float(normal @ (math.cos(a) * pull + math.sin(a) * np.array([-pull[1], pull[0]]))) for a in angles
        ]
        index = int(np.argmin(turned))
        if worst is None or turned[index] < worst.moment:
            worst = Slew(angles[index], turned[index], turned[index] / down)
    assert worst is not None
    return worst


def around(
    contacts: np.ndarray,
    fixed_masses: Sequence[float],
    fixed_cgs: np.ndarray,
    turning_masses: np.ndarray,
    turning_cgs: np.ndarray,
    slews: np.ndarray,
) -> tuple[np.ndarray, np.ndarray]:
    """Stabilising and overturning moments about every edge, for many poses of a turning arm at many slew angles at
    once, in several cases of what it carries.

    contacts: feet on level ground, shape (n, 2) [m]
    fixed_masses: bodies that do not turn [kg]
    fixed_cgs: their centres of mass, shape (m, 3) [m]
    turning_masses: bodies that turn about the origin, in each case, shape (cases, k) [kg]
    turning_cgs: their centres of mass at each pose in the arm's frame, shape (poses, k, 3) [m]
    slews: slew angles, shape (s,) [rad]

    Returns: stabilising and overturning, each of shape (cases, poses, s, edges) [N*m]. Raises: InputError.
    Source: statics 6.
    """
    corners, normals = _edges(contacts)
    fixed_f, fixed_r = _as_forces(fixed_masses, fixed_cgs, ())
    still = _contributions(corners, normals, fixed_f, fixed_r)
    weights, at = np.asarray(turning_masses, float) * GRAVITY, np.asarray(turning_cgs, float)
    # How far a body is inside an edge grows with how far ahead it is, and with how far aside (slews, edges).
    cos, sin = np.cos(slews)[:, None], np.sin(slews)[:, None]
    ahead, aside = cos * normals[:, 0] + sin * normals[:, 1], cos * normals[:, 1] - sin * normals[:, 0]
    x, y = at[:, :, 0].T[:, :, None, None], at[:, :, 1].T[:, :, None, None]
    lever = x * ahead + y * aside - np.einsum("ek,ek->e", normals, corners)
    inside = np.maximum(lever, 0.0)
    shape = len(weights), *lever.shape[1:]
    holds, tips = ((weights @ one.reshape(len(lever), -1)).reshape(shape) for one in (inside, inside - lever))
    return holds + np.where(still > 0, still, 0).sum(1), tips - np.where(still < 0, still, 0).sum(1)


def _slew_candidates(normal: np.ndarray, pull: np.ndarray, slew_range: tuple[float, float] | None) -> list[float]:
    turn = 2 * math.pi
    facing = (math.atan2(-normal[1], -normal[0]) - math.atan2(pull[1], pull[0])) % turn
    if slew_range is None:
        return [facing]
    low, high = slew_range
    if low > high:
        raise InputError("slew_range", slew_range, "must run from low to high")
    return [low, high, *(facing + k * turn for k in (-2, -1, 0, 1) if low <= facing + k * turn <= high)]


def ballast(
    contacts: np.ndarray,
    masses: Sequence[float],
    cgs: np.ndarray,
    forces: Sequence[Force],
    place: Sequence[float],
    required: float,
) -> float:
    """Ballast at a place that brings the tipping factor to what is required.

    contacts: feet, shape (n, 2) [m]
    masses: bodies [kg]
    cgs: their centres of mass, shape (m, 3) [m]
    forces: forces [N] and points [m]
    place: where the ballast hangs, (x, y, z) [m]
    required: tipping factor wanted [-]

    Returns: mass, zero when none is needed [kg].
    Raises: InfeasibleError when ballast there cannot help or overturns another edge; InputError.
    Source: statics 6.
    """
    positive(required_factor=required)
    now = footing(contacts, masses, cgs, forces)
    short = required * now.overturning - now.stabilising
    if np.all(short <= 0):
        return 0.0
    lever = np.einsum("ek,ek->e", now.normals, np.asarray(place, float)[:2] - now.corners)
    if np.any(lever[short > 0] <= 1e-9):
        raise InfeasibleError("ballast at this place cannot help, move it")
    mass = float((short[short > 0] / (GRAVITY * lever[short > 0])).max())
    after = footing(contacts, [*masses, mass], np.vstack([np.asarray(cgs, float).reshape(-1, 3), place]), forces)
    if after.factor < required * (1 - 1e-9):
        raise InfeasibleError("ballast there overturns another edge")
    return mass


def knock_default(weight: float, floor: float = LEAST_KNOCK) -> float:
    """The push a rig must stand at camera height.

    weight: total weight [N]
    floor: the least push, 5 N where nobody is near [N]

    Returns: a tenth of the weight, at least the floor [N]. Raises: InputError. Source: statics 6, workshop judgement.
    """
    not_negative(weight=weight, floor=floor)
    return max(0.1 * weight, floor)


def wind_force(speed: float, area: float, drag: float = 1.2) -> float:
    """Push of the wind on what stands in it.

    speed: of the wind [m/s]
    area: facing it [m^2]
    drag: drag coefficient, 1.2 for a box, 2.0 for a flag or plate [-]

    Returns: force [N]. Raises: InputError. Source: statics 6, air of 1.225 kg/m^3.
    """
    not_negative(wind_speed=speed, wind_area=area, drag=drag)
    return 0.5 * AIR_DENSITY * speed**2 * drag * area
