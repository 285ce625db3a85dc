"""Things that hang or reach over: gantries, frames behind a desk, brackets, tethers, what is never held overhead."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns import elementwise as ew
from hazel_lantern.core.nouns.check import finite, not_negative, positive, refused
from hazel_lantern.core.nouns.elementwise import Numbers
from hazel_lantern.core.nouns.errors import InputError, RefusedError
from hazel_lantern.core.nouns.units import GRAVITY

WEAK_MOUNTS = ("adhesive", "glue", "tape", "suction", "magnet", "sticky")
WEAK_PLACES = ("plasterboard", "drywall", "unknown", "tile", "suspended ceiling", "false ceiling")
PEOPLE_BELOW = ("people", "audience", "crowd", "crew", "actor", "seats", "person")


class Bridge(Struct, frozen=True):
    """A gantry's bridge: reactions on the runways at 0 and at the span, up positive [N], torsion about its axis and
    its shares to both ends [N*m], uplift; arrays for arrays.
    """

    near: float
    far: float
    torsion: float
    torsion_near: float
    torsion_far: float
    uplift: bool


def gantry(
    span: Numbers,
    trolley_y: Numbers,
    boom: Numbers,
    angle: Numbers,
    trolley: Numbers,
    boom_mass: Numbers,
    payload: Numbers,
    bridge: Numbers,
    counterweight: Numbers = 0.0,
    counter_arm: Numbers = 0.0,
) -> Bridge:
    """A bridge across two runways with a trolley and a swinging boom.

    span: between the runways [m]
    trolley_y: trolley's place across the span; beyond it is an overhang [m]
    boom: length of the boom [m]
    angle: of the boom from the runways' direction toward the far runway [rad]
    trolley: mass of the trolley [kg]
    boom_mass: mass of the boom [kg]
    payload: mass at the boom's end [kg]
    bridge: mass of the bridge [kg]
    counterweight: mass behind the trolley [kg]
    counter_arm: its distance from the trolley [m]

    Returns: reactions and torsion, a `Bridge`. Raises: InputError. Source: statics 8.1.
    """
    positive(span=span)
    not_negative(
        boom_length=boom,
        trolley_mass=trolley,
        boom_mass=boom_mass,
        payload_mass=payload,
        bridge_mass=bridge,
        counterweight=counterweight,
        counter_arm=counter_arm,
    )
    finite(trolley_y=trolley_y, boom_angle=angle)
    cos, sin = ew.cos(angle), ew.sin(angle)
    bodies = (
        (bridge, span / 2, 0.0),
        (trolley, trolley_y, 0.0),
        (boom_mass, trolley_y + boom * sin / 2, boom * cos / 2),
        (payload, trolley_y + boom * sin, boom * cos),
        (counterweight, trolley_y - counter_arm * sin, -counter_arm * cos),
    )
    total = GRAVITY * sum(m for m, _, _ in bodies)
    far = GRAVITY * sum(m * y for m, y, _ in bodies) / span
    torsion = GRAVITY * sum(m * x for m, _, x in bodies)
    held = ew.smaller(ew.larger(trolley_y, 0.0), span)
    return Bridge(
        total - far, far, torsion, torsion * (span - held) / span, torsion * held / span, (total - far < 0) | (far < 0)
    )


def reach_area(
    travel_x: Numbers, travel_y: Numbers, longest: Numbers, shortest: Numbers = 0.0
) -> tuple[Numbers, Numbers]:
    """Area that a boom on a trolley reaches from above, and the hole it cannot.

    travel_x: travel of the bridge [m]
    travel_y: travel of the trolley [m]
    longest: boom drawn out [m]
    shortest: boom pushed in [m]

    Returns: (reached, hole) [m^2]. Raises: InputError. Source: statics 8.1.
    """
    not_negative(travel_x=travel_x, travel_y=travel_y, boom_max=longest, boom_min=shortest)
    refused("boom_min", shortest, shortest > longest, "is longer than the boom drawn out")
    missed = shortest > ew.hypot(travel_x, travel_y) / 2
    # Where all is reached the circle is taken so large that there is no hole to work out.
    circle = ew.where(missed, shortest, ew.hypot(travel_x, travel_y) / 2 + 1e-9)
    start = ew.sqrt(ew.larger(0.0, circle**2 - travel_y**2 / 4)) - travel_x / 2

    def under(u: Numbers) -> Numbers:
        return (u * ew.sqrt(ew.larger(0.0, circle**2 - u * u)) + circle**2 * ew.asin(ew.smaller(1.0, u / circle))) / 2

    hole = ew.where(missed, 4 * (under(travel_x / 2 + start) - under(travel_x / 2) - start * travel_y / 2), 0.0)
    whole = travel_x * travel_y + 2 * (travel_x + travel_y) * longest + math.pi * longest**2
    return whole - hole, hole


def reachable(
    points: np.ndarray, travel_x: float, travel_y: float, longest: float, shortest: float = 0.0
) -> np.ndarray:
    """Which places a full-circle boom on a trolley can reach, the travel's corner at the origin.

    points: places (n, 2) [m]
    travel_x: travel of the bridge [m]
    travel_y: travel of the trolley [m]
    longest: boom drawn out [m]
    shortest: boom pushed in [m]

    Returns: booleans (n,) [-]. Raises: InputError. Source: statics 8.1.
    """
    not_negative(travel_x=travel_x, travel_y=travel_y, boom_max=longest, boom_min=shortest)
    p, size = np.atleast_2d(np.asarray(points, float)), np.array([travel_x, travel_y])
    near = np.linalg.norm(np.maximum(np.maximum(-p, p - size), 0.0), axis=1)
    far = np.linalg.norm(np.maximum(np.abs(p), np.abs(p - size)), axis=1)
    return np.asarray((near <= longest) & (far >= shortest))


class Desk(Struct, frozen=True):
    """A frame behind a desk: drop at the camera [m] and moments at the base about both level axes [N*m]; arrays for
    arrays.
    """

    drop: float
    about_y: float
    about_x: float


def desk_frame(
    weight: Numbers,
    reach: Numbers,
    post: Numbers,
    ei_boom: Numbers,
    ei_post: Numbers,
    gj_boom: Numbers,
    end: Numbers = 0.0,
    angle: Numbers = 0.0,
    ei_end: Numbers = 0.0,
    base: Numbers = math.inf,
) -> Desk:
    """A post, a boom over the desk, and a short beam swung at its end.

    weight: of the camera [N]
    reach: of the boom [m]
    post: height of the post [m]
    ei_boom: bending stiffness of the boom [N*m^2]
    ei_post: bending stiffness of the post [N*m^2]
    gj_boom: torsion stiffness of the boom [N*m^2]
    end: length of the end beam [m]
    angle: of the end beam from the boom's direction [rad]
    ei_end: bending stiffness of the end beam [N*m^2]
    base: turning stiffness of the foot, infinite for a rigid one [N*m]

    Returns: drop and moments, a `Desk`. Raises: InputError. Source: unit load; statics 8.2.
    """
    positive(reach_a=reach, post_height=post, EI_boom=ei_boom, EI_post=ei_post, GJ_boom=gj_boom)
    not_negative(payload_weight=weight, end_beam_length=end)
    refused(
        "EI_end_beam", ei_end, (end > 0) & ew.negated((ei_end > 0) & (ei_end < math.inf)), "must be a number above zero"
    )
    refused("base_rotation_stiffness", base, ew.negated(base > 0), "must be above zero")
    x, y = end * ew.cos(angle), end * ew.sin(angle)
    lever = (reach + x) ** 2 + y**2
    drop = weight * (
        (reach**3 / 3 + x * reach**2 + x**2 * reach) / ei_boom
        + y**2 * reach / gj_boom
        + post * lever / ei_post
        + end**3 / (3 * ew.where(end > 0, ei_end, 1.0))
        + lever / base
    )
    return Desk(drop, abs(weight * (reach + x)), abs(weight * y))


class Screws(Struct, frozen=True):
    """Pull on the most loaded screw and shear on each [N]. A screening, never a certificate."""

    pull: float
    shear: float
    certified: bool = False


def screw_withdrawal(density: Numbers, diameter: Numbers, thread: Numbers, factor: Numbers = 6.0) -> Numbers:
    """What a wood screw may be pulled with along its length, in side grain. A screening, never a certificate.

    density: of the wood [kg/m^3]
    diameter: of the screw [m]
    thread: threaded length in the wood [m]
    factor: on its breaking pull, 6 or more [-]

    Returns: force [N]. Raises: InputError. Source: wood handbook; statics 8.3.
    """
    positive(density=density, d=diameter, thread=thread)
    refused("factor", factor, factor < 6, "must be 6 or more")
    return 108.25e6 * (density / 1000) ** 2 * diameter * thread / factor


def screw_shear(density: Numbers, diameter: Numbers, thickness: Numbers) -> Numbers:
    """What a wood screw may be pushed with across its length. A screening, never a certificate.

    density: of the wood [kg/m^3]
    diameter: of the screw [m]
    thickness: of the thinner wood [m]

    Returns: force [N]. Raises: InputError. Source: a quarter of what the wood bears in its hole; statics 8.3.
    """
    positive(density=density, d=diameter, t=thickness)
    return 0.25 * 0.082e6 * (1 - 10 * diameter) * density * diameter * thickness


def bracket_screws(moment: float, load: float, heights: Sequence[float]) -> Screws:
    """Screws of a wall bracket that turns about its lower edge.

    moment: turning the bracket away from the wall [N*m]
    load: hanging on it [N]
    heights: of the screws above the lower edge (n,) [m]

    Returns: pull and shear, a `Screws`. Raises: InputError for screws at or under the edge. Source: statics 8.3.
    """
    finite(moment=moment, vertical_load=load)
    if not heights or any(not (math.isfinite(y) and y > 0) for y in heights):
        raise InputError("screw_heights_above_bottom_edge", list(heights), "must all be above zero")
    return Screws(moment * max(heights) / sum(y * y for y in heights), load / len(heights))


def check_mount(mount: str, location: str, mass: float) -> None:
    """Refuse what is never held overhead: adhesive, suction, magnet or tape as the only hold, unknown ceilings,
    anything over people.

    mount: how it is held, in words
    location: where, in words
    mass: hanging there [kg]

    Returns: nothing. Raises: RefusedError with the reason, InputError for a mass that is no number. Source: statics
    8.3, 9.
    """
    positive(payload_mass=mass)
    how, where = mount.lower(), location.lower()
    if any(word in how for word in WEAK_MOUNTS):
        raise RefusedError("adhesive, suction, magnet or tape is never the only hold of anything overhead", "ADHESIVE")
    if any(word in where for word in WEAK_PLACES) or any(word in how for word in WEAK_PLACES):
        raise RefusedError("use a rated anchor into structure, installed as its data sheet says", "NO_STRUCTURE")
    if any(word in where for word in PEOPLE_BELOW) and "no " not in where and "clear" not in where:
        raise RefusedError("nothing designed here hangs over people", "OVER_PEOPLE")


def tether_peak(mass: Numbers, drop: Numbers, stiffness: Numbers) -> Numbers:
    """Peak force on a second line that catches a falling mass.

    mass: what falls [kg]
    drop: slack before the line is tight [m]
    stiffness: of the line and its anchor [N/m]

    Returns: force [N]. Raises: InputError. Source: energy, no losses; statics 8.4.
    """
    positive(mass=mass, tether_stiffness=stiffness)
    not_negative(slack_drop=drop)
    weight = mass * GRAVITY
    return weight * (1 + ew.sqrt(1 + 2 * drop * stiffness / weight))


def tether_rating(mass: Numbers, peak: Numbers) -> Numbers:
    """Rated load to ask of a second line overhead.

    mass: what it catches [kg]
    peak: peak force on it [N]

    Returns: force [N]. Raises: InputError. Source: judgement; statics 8.4.
    """
    positive(mass=mass)
    return ew.larger(ew.where(mass > 1, 10, 5) * mass * GRAVITY, 1.5 * peak)
