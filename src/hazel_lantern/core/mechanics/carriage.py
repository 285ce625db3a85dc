"""Wheels under a carriage: their loads, preload in grooves, jamming of shuttles, rails that slope."""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import reduce

import numpy as np
from msgspec import Struct

from hazel_lantern.core.mechanics.footing import support_polygon
from hazel_lantern.core.nouns import elementwise as ew
from hazel_lantern.core.nouns.check import finite, not_negative, positive, refused
from hazel_lantern.core.nouns.elementwise import Numbers
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.units import GRAVITY

PRELOAD = 1.25


class Wheels(Struct, frozen=True):
    """Normal force on all wheels [N], foot point (2,) in the wheel plane [m], load of each wheel (n,) [N], distance
    of the foot point inside the wheels [m].
    """

    normal: float
    foot: np.ndarray
    loads: np.ndarray
    margin: float


def wheel_loads(
    wheels: np.ndarray,
    mass: float,
    cg: Sequence[float],
    acceleration: Sequence[float] = (0.0, 0.0, 0.0),
    pitch: float = 0.0,
    roll: float = 0.0,
    pushes: Sequence[tuple[Sequence[float], Sequence[float]]] = (),
) -> Wheels:
    """Loads of equal wheels under a rigid carriage.

    wheels: places in the wheel plane (n, 2) [m]
    mass: carriage and payload [kg]
    cg: centre of mass in the carriage frame (3) [m]
    acceleration: of the carriage in its own axes (3) [m/s^2]
    pitch: nose down [rad]
    roll: left side up [rad]
    pushes: forces and their points in the carriage frame [N, m]

    Returns: the loads, a `Wheels`. Raises: InputError for fewer than three wheels or wheels in one line,
    InfeasibleError when the carriage is lifted.
    Source: statics 5.1.
    """
    places = np.asarray(wheels, float).reshape(-1, 2)
    positive(mass=mass)
    finite(pitch=pitch, roll=roll)
    spread = places - places.mean(axis=0)
    if len(places) < 3 or np.linalg.matrix_rank(spread, tol=1e-9) < 2:
        raise InputError("wheel_xy", places.tolist(), "needs three wheels that do not stand in one line")
    cp, sp, cr, sr = math.cos(pitch), math.sin(pitch), math.cos(roll), math.sin(roll)
    # Gravity in carriage axes: the transpose of Ry(pitch) Rx(roll).
    down = np.array([[cp, sp * sr, sp * cr], [0, cr, -sr], [-sp, cp * sr, cp * cr]]).T @ (0.0, 0.0, -GRAVITY)
    forces = [mass * (down - np.asarray(acceleration, float)), *(np.asarray(f, float) for f, _ in pushes)]
    points = [np.asarray(cg, float), *(np.asarray(r, float) for _, r in pushes)]
    normal = -sum(float(f[2]) for f in forces)
    if normal <= 0:
        raise InfeasibleError("the forces lift the carriage off its wheels", "LIFTED")
    foot = np.array(
        [sum(-f[2] * r[k] + f[k] * r[2] for f, r in zip(forces, points, strict=True)) / normal for k in (0, 1)]
    )
    rows = np.column_stack([np.ones(len(places)), places])
    plane = np.linalg.solve(rows.T @ rows, normal * np.array([1.0, *foot]))
    return Wheels(normal, foot, rows @ plane, inside_by(places, foot))


def inside_by(places: np.ndarray, point: np.ndarray) -> float:
    """How far a point lies inside the outline of other points.

    places: points (n, 2) [m]
    point: the point (2,) [m]

    Returns: smallest distance to an edge, negative outside [m]. Raises: InputError. Source: statics 6.
    """
    corners = support_polygon(places)
    along = np.roll(corners, -1, axis=0) - corners
    normal = np.column_stack([-along[:, 1], along[:, 0]]) / np.linalg.norm(along, axis=1)[:, None]
    return float(np.einsum("ek,ek->e", normal, np.asarray(point) - corners).min())


class Preload(Struct, frozen=True):
    """Side preload of each wheel [N] and rolling drag with it and without [N]; arrays for arrays."""

    each: float
    drag: float
    drag_without: float


def groove_preload(
    side: Numbers, side_x: Numbers, wheelbase: Numbers, vertical: Sequence[float], half_angle: Numbers, rolling: Numbers
) -> Preload:
    """Preload that keeps both flanks of four grooved wheels touching.

    side: side force [N]
    side_x: where it acts, ahead of the wheels' middle [m]
    wheelbase: between front and rear wheels [m]
    vertical: load of each wheel, front left, front right, rear left, rear right [N]
    half_angle: flank from the wheel's mid-plane [rad]
    rolling: rolling coefficient [-]

    Returns: preload and drag, a `Preload`. Raises: InputError for a groove of 0 or 85 degrees and more. Source:
    statics 5.2.
    """
    positive(wheelbase=wheelbase)
    not_negative(rolling_coefficient=rolling)
    finite(side_force=side, side_force_x=side_x)
    refused(
        "groove_half_angle",
        half_angle,
        ew.negated((half_angle > 0) & (half_angle < math.radians(85))),
        "must lie between 0 and 85 degrees",
    )
    change = [abs(side / 4 + side * side_x / (2 * wheelbase)), abs(side / 4 - side * side_x / (2 * wheelbase))]
    load = [abs(z) for z in vertical]
    each = PRELOAD * reduce(ew.larger, (change[k // 2] + z * ew.tan(half_angle) for k, z in enumerate(load)))
    with_it = rolling * sum(ew.larger(each / ew.sin(half_angle), z / ew.cos(half_angle)) for z in load)
    return Preload(each, with_it, rolling * sum(z / ew.cos(half_angle) for z in load))


class Shuttle(Struct, frozen=True):
    """Whether it jams, the offset at which it would [m], the force that drives it (infinite when it jams) [N]; arrays
    for arrays.
    """

    jams: bool
    critical: float
    force: float


def shuttle(
    weight: Numbers, load_x: Numbers, offset: Numbers, guide: Numbers, mu: Numbers, resisting: Numbers
) -> Shuttle:
    """A bored block pushed along a rod off its axis, like a drawer pulled at one corner.

    weight: load square to the rod [N]
    load_x: where it acts, ahead of the guide's middle [m]
    offset: drive force's distance from the rod, positive adds to the front [m]
    guide: distance of the outer contact points [m]
    mu: coefficient of friction [-]
    resisting: force against the motion on the rod's axis [N]

    Returns: the verdict, a `Shuttle`. Raises: InputError. Source: statics 5.3.
    """
    positive(guide_length=guide)
    not_negative(weight_on_guides=weight, mu=mu, resisting_force=resisting)
    finite(load_x=load_x, drive_offset=offset)
    grip = 2 * mu * offset / guide
    jams = abs(grip) >= 1 - 1e-12
    critical = ew.where(mu > 0, guide / (2 * ew.where(mu > 0, mu, 1.0)), math.inf)
    # Both ends press the same way up to here; beyond, the ends press against each other, one way or the other.
    even = resisting + mu * weight
    force = ew.where(2 * abs(weight * load_x + even * offset) / guide <= weight, even, math.nan)
    for sign in (1.0, -1.0):
        tilted = (resisting + sign * 2 * mu * weight * load_x / guide) / ew.where(jams, 1.0, 1 - sign * grip)
        turn = sign * (weight * load_x + tilted * offset)
        fits = (turn >= 0) & (2 * turn / guide >= weight * (1 - 1e-12))
        force = ew.where((force != force) & fits, tilted, force)
    force = ew.where(jams, math.inf, force)
    if ew.some(force != force):
        raise InfeasibleError("no driving force satisfies these loads", "NO_FORCE")
    return Shuttle(jams, critical, force)


class Incline(Struct, frozen=True):
    """A carriage on a slope: whether it runs away, force to hold it and to push it up [N], its speed after the run
    [m/s]; arrays for arrays.
    """

    runs_away: bool
    holding: float
    push: float
    end_speed: float


def incline(mass: Numbers, slope: Numbers, rolling: Numbers, run: Numbers) -> Incline:
    """A carriage left alone or pushed on a sloping rail.

    mass: carriage and payload [kg]
    slope: of the rail, 0 to below a right angle [rad]
    rolling: rolling coefficient [-]
    run: free way [m]

    Returns: the verdict, an `Incline`. Raises: InputError. Source: statics 5.4.
    """
    positive(mass=mass)
    not_negative(slope=slope, rolling_coefficient=rolling, run_length=run)
    refused("slope", slope, slope >= math.pi / 2, "must be less than a right angle")
    weight, pull = mass * GRAVITY, ew.sin(slope) - rolling * ew.cos(slope)
    speed = ew.sqrt(2 * GRAVITY * run * ew.larger(0.0, pull))
    return Incline(
        ew.tan(slope) > rolling,
        ew.larger(0.0, weight * pull),
        weight * (ew.sin(slope) + rolling * ew.cos(slope)),
        speed,
    )
