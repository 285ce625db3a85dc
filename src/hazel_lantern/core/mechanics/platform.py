"""The platform of a dolly: what tips it, how four wheels rock on an uneven floor, how its deck bends."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.core.mechanics.footing import support_polygon
from hazel_lantern.core.nouns.check import finite, not_negative, positive
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.units import GRAVITY


def tips_at(
    contacts: np.ndarray, centre: Sequence[float], slope: float = 0.0, way: tuple[float, float] = (1.0, 0.0)
) -> float:
    """The acceleration along a way at which the platform begins to tip.

    contacts: places of its wheels (n, 2) [m]
    centre: of mass: along, to the left, above the floor [m]
    slope: rising along the travel [rad]
    way: of the acceleration along and to the left, any length [-]

    Returns: acceleration [m/s^2], infinite where nothing tips it that way. Raises: InputError for fewer than three
    contacts or all in a line; InfeasibleError where it tips at rest. Source: dynamics 6.1.
    """
    finite(centre=np.asarray(centre, float), slope=slope)
    positive(height=float(centre[2]))
    corners = support_polygon(np.asarray(contacts, float))
    edges = np.roll(corners, -1, axis=0) - corners
    inward = np.column_stack([-edges[:, 1], edges[:, 0]]) / np.linalg.norm(edges, axis=1)[:, None]
    down = GRAVITY * math.cos(slope)
    height = float(centre[2])
    foot = np.array([centre[0] - height * math.tan(slope), centre[1]])
    inside = np.einsum("ni,ni->n", foot - corners, inward)
    if inside.min() <= 0:
        raise InfeasibleError("it tips at rest: its weight lies outside its wheels", "TIPS_AT_REST")
    heading = np.asarray(way, float) / math.hypot(*way)
    # The foot point goes back by h a / g as it speeds up: it leaves where an edge is reached.
    towards = -(inward @ heading) * height / down
    with np.errstate(divide="ignore"):
        reached = np.where(towards < -1e-15, inside / -towards, math.inf)
    return float(reached.min())


def trips_from(reach: float, height: float, slope: float = 0.0) -> float:
    """The speed from which a platform whose leading wheels are stopped dead goes over them.

    reach: from its centre of mass ahead to those wheels [m]
    height: of its centre of mass [m]
    slope: rising along the travel [rad]

    Returns: speed [m/s]. Raises: InputError; InfeasibleError where it tips at rest. Source: momentum about the wheel is
    kept as it stops, what is left must lift the weight over it; all mass in one point, on the safe side.
    """
    finite(slope=slope)
    positive(reach=reach, height=height)
    if reach * math.cos(slope) + height * math.sin(slope) <= 0:
        raise InfeasibleError("it tips at rest: its weight lies outside its wheels", "TIPS_AT_REST")
    radius = math.hypot(reach, height)
    lifts = radius - (height * math.cos(slope) - reach * math.sin(slope))
    return radius / height * math.sqrt(2 * GRAVITY * lifts)


def chock(diameter: float, load: float, push: float) -> float:
    """The least height of a chock that a wheel cannot be pushed over.

    diameter: of the wheel [m]
    load: on the wheels that are chocked [N]
    push: along the floor on them [N]

    Returns: height [m]. Raises: InputError. Source: dynamics 3.1 turned round.
    """
    positive(diameter=diameter, load=load)
    not_negative(push=push)
    return diameter / 2 * (1 - math.cos(math.atan2(push, load)))


class Rocking(Struct, frozen=True):
    """How four wheels stand on an uneven floor: which is free, -1 where all four stand, and the gap under it [m]."""

    free: int
    gap: float


def rocking(wheels: np.ndarray, floor: Sequence[float], centre: Sequence[float] = (0.0, 0.0)) -> Rocking:
    """Which of four wheels of a rigid platform hangs free.

    wheels: places (4, 2) [m]
    floor: height of the floor under each (4,) [m]
    centre: of mass along and to the left [m]

    Returns: the free wheel and its gap. Raises: InputError for other than four wheels, or three in a line;
    InfeasibleError for a weight outside the wheels. Source: dynamics 6.2.
    """
    places, z = np.asarray(wheels, float), np.asarray(floor, float)
    finite(wheels=places, floor=z, centre=np.asarray(centre, float))
    if places.shape != (4, 2) or z.shape != (4,):
        raise InputError("wheels", len(places), "must be four, each with the height of its floor")
    at = np.array([1.0, *centre])
    found: tuple[float, int, float] | None = None
    for free in range(4):
        three = [k for k in range(4) if k != free]
        rows = np.column_stack([np.ones(3), places[three]])
        if abs(np.linalg.det(rows)) < 1e-12:
            raise InputError("wheels", places.tolist(), "three of them stand in a line")
        plane = np.linalg.solve(rows, z[three])
        gap = float(np.array([1.0, *places[free]]) @ plane - z[free])
        shares = np.linalg.solve(rows.T, at)
        if gap >= -1e-12 and shares.min() >= -1e-9:
            height = float(at @ plane)
            if found is None or height < found[0] - 1e-15:
                found = (height, free, gap)
    if found is None:
        raise InfeasibleError("its weight lies outside its wheels", "TIPS_AT_REST")
    return Rocking(-1, 0.0) if found[2] < 1e-12 else Rocking(found[1], found[2])


class Deck(Struct, frozen=True):
    """A deck under a load in its middle: sag [m], stress [Pa], tilt at its quarters [rad]."""

    sag: float
    stress: float
    tilt: float


def deck(load: float, span: float, width: float, thickness: float, stiffness: float, patch: float = 0.05) -> Deck:
    """A plate carried along two opposite edges, loaded in its middle.

    load: in the middle [N]
    span: between the edges that carry it [m]
    width: along those edges [m]
    thickness: of the plate [m]
    stiffness: Young's modulus [Pa]
    patch: width of what presses [m]

    Returns: sag, stress and tilt. Raises: InputError. Source: dynamics 6.3, within 5 % of plate elements, on the safe
    side for wide decks.
    """
    positive(span=span, width=width, thickness=thickness, E=stiffness)
    not_negative(load=load, patch=patch)
    inertia = min(width, 1.1 * span) * thickness**3 / 12
    sag = load * span**3 / (48 * stiffness * inertia)
    carries = min(width, patch + 0.6 * span)
    return Deck(sag, 1.5 * load * span / (carries * thickness**2), 3 * sag / span)
