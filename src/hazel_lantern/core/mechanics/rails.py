"""A carriage on a rail: drop, pitch and roll along the travel, reactions and bending, supports that may lift."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.mechanics.frame import Element, Frame, Support, frame
from hazel_lantern.core.mechanics.frame_loads import Loads, Solution, inner_forces, inside, solve
from hazel_lantern.core.mechanics.modes import modes
from hazel_lantern.core.nouns.check import finite, not_negative, positive
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.units import GRAVITY

ROUNDS = 200
SHORT = 2e-3  # metres of a joint that turns like a spring


class Rest(Struct, frozen=True):
    """One support of a rail: its place [m], vertical spring (infinite: rigid) [N/m], pitch spring [N*m/rad], roll
    spring (infinite: held) [N*m/rad],
    whether it can also pull the rail down, and whether it gives under either of two rails by itself."""

    x: float
    kz: float = math.inf
    pitch: float = 0.0
    roll: float = math.inf
    pulls: bool = False
    apart: bool = False


class Joint(Struct, frozen=True):
    """Where two pieces of a rail meet [m], and how stiffly it turns, 0 for a hinge, which stands over a support
    [N*m/rad].
    """

    x: float
    stiffness: float = 0.0


class Rail(Struct, frozen=True):
    """A straight uniform rail: length [m], bending EI, torsion GJ [N*m^2], shear GA (0 leaves it out) [N], weight a
    metre [N/m], its supports and joints.
    """

    length: float
    ei: float
    gj: float
    weight: float
    rests: tuple[Rest, ...]
    ga: float = 0.0
    joints: tuple[Joint, ...] = ()


class Travel(Struct, frozen=True):
    """What a carriage meets at each of its places (n,): drop at its centre [m], pitch nose down and roll left up
    [rad], reactions up (n, supports) [N],
    moments of pitch at the supports (n, supports) [N*m], lifted supports, greatest bending (n,) and bending at the
    spots asked for (n, spots) [N*m]."""

    centres: np.ndarray
    drop: np.ndarray
    pitch: np.ndarray
    roll: np.ndarray
    reactions: np.ndarray
    moments: np.ndarray
    lifted: np.ndarray
    bending: np.ndarray
    spots: np.ndarray


def axle_loads(
    weight: float, wheelbase: float, ahead: float = 0.0, height: float = 0.0, acceleration: float = 0.0
) -> tuple[float, float]:
    """Loads of the front and rear axle of a carriage.

    weight: payload and carriage [N]
    wheelbase: distance of the axles [m]
    ahead: centre of mass ahead of the carriage's middle [m]
    height: centre of mass above the wheel line [m]
    acceleration: forward, as a share of gravity [-]

    Returns: (front, rear), negative is lift [N]. Raises: InputError. Source: statics 4.2.
    """
    positive(wheelbase=wheelbase)
    not_negative(weight=weight)
    finite(ahead=ahead, height=height, acceleration=acceleration)
    shift = weight * (ahead - acceleration * height) / wheelbase
    return weight / 2 + shift, weight / 2 - shift


def nodes_of(rail: Rail, extra: Sequence[float] = ()) -> list[float]:
    """Places of the nodes: both ends, every support, either side of every joint that turns like a spring, in order.

    rail: the rail
    extra: places that need a node of their own [m]

    Returns: places [m]. Raises: InputError for a support or joint beyond the ends, or two supports at one place.
    Source: bookkeeping.
    """
    positive(rail_length=rail.length, EI=rail.ei, GJ=rail.gj)
    places = [0.0, rail.length, *extra]
    if not rail.rests:
        raise InputError("supports", 0, "a rail needs at least one support")
    for rest in rail.rests:
        if not -1e-9 <= rest.x <= rail.length + 1e-9:
            raise InputError("support", rest.x, f"lies beyond the ends of a rail of {rail.length:g} m")
        if rest.kz == 0:
            raise InputError("support stiffness", 0.0, "remove the support instead")
        places.append(min(max(rest.x, 0.0), rail.length))
    if len({round(rest.x, 9) for rest in rail.rests}) < len(rail.rests):
        raise InputError("supports", [rest.x for rest in rail.rests], "two supports stand at one place")
    for joint in rail.joints:
        if not SHORT < joint.x < rail.length - SHORT:
            raise InputError("joint", joint.x, f"lies beyond the ends of a rail of {rail.length:g} m")
        places += [joint.x - SHORT / 2, joint.x + SHORT / 2] if joint.stiffness else [joint.x]
    return sorted({round(x, 9) for x in places})


def framed(rail: Rail, extra: Sequence[float] = (), *, level: bool = False) -> tuple[Frame, list[float], list[int]]:
    """The rail as a frame that moves up and down, pitches and rolls.

    rail: the rail
    extra: places that need a node of their own [m]
    level: kept from rolling anywhere [-]

    Returns: frame, node places [m], node number of each support. Raises: InputError. Source: statics 4.3.
    """
    places = nodes_of(rail, extra)
    at = [int(np.argmin(np.abs(np.array(places) - rest.x))) for rest in rail.rests]
    names = ["rail start", *(f"rail at {x:.6f} m" for x in places[1:-1]), "rail end"]
    still = (0, 1, 3, 5) if level else (0, 1, 5)
    supports = {name: Support(still) for name in names}
    for rest, k in zip(rail.rests, at, strict=True):
        fixed = list(still)
        springs = [(4, rest.pitch)] if rest.pitch else []
        fixed += [2] if math.isinf(rest.kz) else []
        springs += [] if math.isinf(rest.kz) else [(2, rest.kz)]
        fixed += [3] if math.isinf(rest.roll) else []
        springs += [] if math.isinf(rest.roll) else [(3, rest.roll)]
        supports[names[k]] = Support(tuple(fixed), tuple(springs))
    stiff = 1e3 * rail.ei / rail.length**2
    elements = []
    for k, (a, b) in enumerate(itertools.pairwise(places)):
        # A sprung joint is a short piece that turns as much; a hinge lets go the end of the piece before it.
        sprung = next((j for j in rail.joints if j.stiffness and a < j.x < b and b - a < 1.5 * SHORT), None)
        hinged = any(not j.stiffness and abs(j.x - b) < 1e-9 for j in rail.joints)
        ei = (b - a) / (1 / sprung.stiffness + (b - a) / rail.ei) if sprung else rail.ei
        loose = ((10,) if level else (9, 10)) if hinged else ()
        elements.append(
            Element(
                f"span {k + 1}",
                names[k],
                names[k + 1],
                stiff,
                ei,
                ei,
                rail.gj,
                gaz=rail.ga,
                gay=rail.ga,
                mass=rail.weight / GRAVITY,
                released=loose,
            )
        )
    return frame({name: (x, 0.0, 0.0) for name, x in zip(names, places, strict=True)}, elements, supports), places, at


def on_supports(
    made: Frame, given: Loads, at: Sequence[int], pulls: Sequence[bool], weight: float, held: bool
) -> tuple[Solution, np.ndarray]:
    """Solve with supports that only push: those that would pull are left out, case by case, until nothing changes.

    made: the frame
    given: its loads
    at: node of each support [-]
    pulls: whether each support may also pull [-]
    weight: weight that makes a pull count [N]
    held: whether a spring keeps the frame from tipping [-]

    Returns: the solution and which supports are lifted (cases, supports). Raises: InfeasibleError when the frame tips
    off. Source: statics 4.1.
    """
    dof = np.array([6 * node + 2 for node in at])
    active = np.ones((given.cases, len(at)), bool)
    tried: set[tuple[int, bytes, int]] = set()
    whole = solve(made, given)
    # Mostly nothing lifts: then the one solution stands.
    if all(pulls) or not np.any(whole.reactions[dof].T[:, ~np.array(pulls)] < -1e-9 * weight):
        return whole, ~active
    parts: dict[bytes, Solution] = {active[0].tobytes(): whole}
    for _ in range(ROUNDS):
        changed = False
        for case in range(given.cases):
            key = active[case].tobytes()
            if key not in parts:
                free = ~made.fixed
                springs = made.springs.copy()
                left_out = dof[~active[case]]
                free[left_out] = True
                springs[left_out] = 0.0
                stiffness = made.stiffness - np.diag(made.springs - springs)
                lifted = Frame(
                    made.names,
                    made.places,
                    made.elements,
                    made.lengths,
                    made.axes,
                    made.dofs,
                    made.local,
                    stiffness,
                    ~free,
                    springs,
                )
                parts[key] = solve(lifted, given)
            now = parts[key]
            push = now.reactions[dof, case]
            wrong = np.where(active[case] & ~np.array(pulls) & (push < -1e-9 * weight), push, 0.0)
            sunk = np.flatnonzero(~active[case] & (now.displacements[dof, case] < -1e-12))
            again = [k for k in sunk if (case, key, int(k)) not in tried]
            if wrong.min(initial=0.0) < 0:
                active[case, int(np.argmin(wrong))] = False
                if active[case].sum() < 2 and not held:
                    raise InfeasibleError("the rail tips off its supports", "TIPS_OFF")
                changed = True
            elif again:
                tried.add((case, key, int(again[0])))
                active[case, again[0]] = True
                changed = True
        if not changed:
            break
    joined = [parts[active[case].tobytes()] for case in range(given.cases)]
    one = Solution(
        made,
        given,
        np.stack([p.displacements[:, c] for c, p in enumerate(joined)], axis=1),
        np.stack([p.reactions[:, c] for c, p in enumerate(joined)], axis=1),
        np.stack([p.ends[:, :, c] for c, p in enumerate(joined)], axis=2),
        np.stack([p.forces[:, :, c] for c, p in enumerate(joined)], axis=2),
    )
    return one, ~active


def travel(
    rail: Rail,
    centres: np.ndarray,
    wheelbase: float,
    front: float,
    rear: float,
    aside: float = 0.0,
    spots: Sequence[float] = (),
) -> Travel:
    """The carriage at many places of the rail, all in one solution.

    rail: the rail
    centres: places of the carriage's middle (n,) [m]
    wheelbase: distance of the axles [m]
    front: load of the front axle, negative is lift [N]
    rear: load of the rear axle [N]
    aside: loads act this far to the left of the rail's axis [m]
    spots: places of the rail whose bending is asked for [m]

    Returns: drop, pitch, roll, reactions, bending, a `Travel`. Raises: InputError for an axle off the rail,
    InfeasibleError when the rail tips off.
    Source: statics 4.1 to 4.4.
    """
    positive(wheelbase=wheelbase)
    finite(front=front, rear=rear, aside=aside)
    made, places, at = framed(rail)
    x = np.asarray(centres, float)
    ends = np.column_stack([x + wheelbase / 2, x - wheelbase / 2])
    if wheelbase > rail.length or ends.min() < -1e-9 or ends.max() > rail.length + 1e-9:
        raise InputError(
            "carriage", float(x[int(np.argmax(np.abs(x - rail.length / 2)))]), "an axle runs off the rail's end"
        )
    given = _carriage(places, np.clip(ends, 0.0, rail.length), (front, rear), aside, rail.weight)
    held = any(rest.pitch > 0 for rest in rail.rests)
    single = len(rail.rests) == 1
    found, lifted = on_supports(
        made,
        given,
        at,
        [rest.pulls or single for rest in rail.rests],
        abs(front + rear) + rail.weight * rail.length,
        held,
    )
    cases = np.repeat(np.arange(len(x)), 2)
    element, along = _place(places, np.clip(ends, 0.0, rail.length).ravel())
    moved, _ = inside(found, cases, element, along)
    z, roll = moved[:, 2].reshape(-1, 2), moved[:, 3].reshape(-1, 2)
    reactions = found.reactions.reshape(-1, 6, len(x))[at]
    return Travel(
        x,
        -z.mean(axis=1),
        (z[:, 1] - z[:, 0]) / wheelbase,
        roll.mean(axis=1),
        reactions[:, 2].T,
        reactions[:, 4].T,
        lifted,
        _bending(found, places, np.clip(ends, 0.0, rail.length)),
        _bending_at(found, places, np.repeat(np.asarray(spots, float).reshape(1, -1), len(x), axis=0)),
    )


BETWEEN = 26  # places along a rail at which its own weight is looked for
BESIDE = 1e-9  # metres to the left of a support


def _place(places: Sequence[float], x: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Element and place on it for places along the rail."""
    edges = np.asarray(places)
    element = np.clip(np.searchsorted(edges, x, side="right") - 1, 0, len(edges) - 2)
    return element, x - edges[element]


def _carriage(
    places: Sequence[float], ends: np.ndarray, axle: tuple[float, float], aside: float, weight: float
) -> Loads:
    n = len(ends)
    element, along = _place(places, ends.ravel())
    force = np.zeros((2 * n, 3))
    moment = np.zeros((2 * n, 3))
    force[:, 2] = -np.tile(axle, n)
    moment[:, 0] = -aside * np.tile(axle, n)
    spans = len(places) - 1
    spread = np.zeros((n * spans, 3))
    spread[:, 2] = -weight
    return Loads(
        n,
        np.repeat(np.arange(n), 2),
        element,
        along,
        force,
        moment,
        np.repeat(np.arange(n), spans),
        np.tile(np.arange(spans), n),
        spread,
        np.zeros(0, int),
        np.zeros(0, int),
        np.zeros((0, 6)),
    )


def _bending(found: Solution, places: Sequence[float], ends: np.ndarray) -> np.ndarray:
    """Greatest bending moment (n,) at supports and axles, where it peaks [N*m], and at places between, where the rail's
    own weight may make it so; a support that holds by a moment makes a step, so both sides of each are looked at.
    """
    spots = np.concatenate([places, np.linspace(places[0], places[-1], BETWEEN)[1:-1]])
    every = np.hstack([np.repeat(spots[None], len(ends), axis=0), ends])
    return np.asarray(_bending_at(found, places, every).max(axis=1))


def _bending_at(found: Solution, places: Sequence[float], x: np.ndarray) -> np.ndarray:
    """Bending moment at places (cases, k) of each case, the larger of both sides of each [N*m]."""
    cases, count = x.shape
    both = np.hstack([x, np.maximum(x - BESIDE, 0.0)])
    element, along = _place(places, both.ravel())
    inner = inner_forces(found, np.repeat(np.arange(cases), 2 * count), element, along)
    return np.asarray(np.abs(inner[:, 4]).reshape(cases, 2, count).max(axis=1))


def shape(rail: Rail, centre: float, wheelbase: float, front: float, rear: float, x: np.ndarray) -> np.ndarray:
    """The bent line of the rail with the carriage at one place.

    rail: the rail
    centre: place of the carriage's middle [m]
    wheelbase: distance of the axles [m]
    front: load of the front axle [N]
    rear: load of the rear axle [N]
    x: places along the rail (n,) [m]

    Returns: drop (n,), positive down [m]. Raises: InputError, InfeasibleError. Source: statics 4.1.
    """
    made, places, at = framed(rail)
    ends = np.array([[centre + wheelbase / 2, centre - wheelbase / 2]])
    given = _carriage(places, ends, (front, rear), 0.0, rail.weight)
    single = len(rail.rests) == 1
    found, _ = on_supports(
        made,
        given,
        at,
        [r.pulls or single for r in rail.rests],
        abs(front + rear) + rail.weight * rail.length,
        any(r.pitch > 0 for r in rail.rests),
    )
    element, along = _place(places, np.asarray(x, float))
    moved, _ = inside(found, np.zeros(len(element), int), element, along)
    return np.asarray(-moved[:, 2])


def bounce(rail: Rail, centre: float, mass: float) -> float:
    """First frequency of the rail up and down with a mass on it.

    rail: the rail
    centre: place of the mass [m]
    mass: carriage and payload [kg]

    Returns: frequency [Hz]. Raises: InputError, SingularModelError. Source: consistent masses; statics 4.1.
    """
    positive(mass=mass)
    # The mass needs a node of its own, and long spans one between.
    made, places, _ = framed(rail, [round(x, 9) for x in (centre, *np.linspace(0, rail.length, 9))], level=True)
    extra = [round(x, 9) for x in places]
    frequencies, _ = modes(made, {extra.index(round(centre, 9)): mass}, 1)
    return float(frequencies[0])


def slowest_bounce(rail: Rail, low: float, high: float, mass: float) -> tuple[float, float]:
    """The slowest of all first frequencies with a mass that may stand anywhere between two places.

    rail: the rail
    low: first place of the mass [m]
    high: last place of the mass [m]
    mass: carriage and payload [kg]

    Returns: frequency [Hz] and the place it is met at [m]. Raises: InputError, SingularModelError. Source: where the
    rail gives most under a weight it swings slowest; statics 4.1.
    """
    held = replace(rail, weight=0.0, rests=tuple(replace(rest, pulls=True) for rest in rail.rests))
    centres = np.linspace(low, high, 41)
    base = min(1e-3, (rail.length - (high - low)) / 2)
    gives = travel(held, centres, base, 0.5, 0.5).drop
    places = {low, high, float(centres[int(np.argmax(gives))])}
    return min((bounce(rail, x, mass), x) for x in sorted(places))


class Shared(Struct, frozen=True):
    """Two rails side by side: share of the left one, mean drop (n,) [m], roll left up (n,) [rad], pitch nose down
    (n,) [rad].
    """

    left: float
    drop: np.ndarray
    roll: np.ndarray
    pitch: np.ndarray


def twin(
    rail: Rail,
    spacing: float,
    left: float,
    centres: np.ndarray,
    wheelbase: float,
    front: float,
    rear: float,
    *,
    trapped: bool = False,
) -> Shared:
    """A carriage on two like rails.

    rail: one of the rails
    spacing: between the rails [m]
    left: centre of mass left of the middle [m]
    centres: places of the carriage's middle (n,) [m]
    wheelbase: distance of the axles [m]
    front: load of the front axle, both rails [N]
    rear: load of the rear axle [N]
    trapped: whether the carriage cannot lift off a rail [-]

    Returns: shares, drop, roll, a `Shared`. Raises: InputError when one rail would be lifted off. Source: statics 4.5.
    """
    positive(rail_spacing=spacing)
    share = 0.5 + left / spacing
    if not trapped and not 0 <= share <= 1:
        raise InputError("cg_offset_left", left, "lies beyond the rails: one of them is lifted off")
    sides = [travel(rail, centres, wheelbase, front * s, rear * s) for s in (share, 1 - share)]
    drop = (sides[0].drop + sides[1].drop) / 2
    return Shared(share, drop, (sides[1].drop - sides[0].drop) / spacing, (sides[0].pitch + sides[1].pitch) / 2)


def end_supported(length: float) -> tuple[Rest, Rest]:
    """Rigid supports at both ends, held against roll.

    length: length of the rail [m]

    Returns: the two supports. Source: statics 4.3.
    """
    return Rest(0.0, pulls=True), Rest(length, pulls=True)
