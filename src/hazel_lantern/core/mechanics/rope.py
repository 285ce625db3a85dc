"""A rope between two ends with something hanging on it: exact elastic catenaries, found by Newton's iteration for many
places, or many ropes, at once.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from msgspec import Struct

from hazel_lantern.core.mechanics.newton import newton
from hazel_lantern.core.nouns.check import not_negative, positive
from hazel_lantern.core.nouns.elementwise import Numbers
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError

ENOUGH = 1e-8  # of the chord, that may be left over at most
STRETCH = (0.02, 0.05)  # of its length: beyond the first a caution, beyond the second nothing is found
NEAR = 1e-6  # from an end of the rope, as a share of it
STEEP = 1.57  # a rope hangs no steeper [rad]
KINK = 0.999999
STARTS = (1.0, 0.5, 1.5, 0.2, 3.0)  # of the sag of straight pieces, tried in this order


class Hung(Struct, frozen=True):
    """A rope with a load, all (n,): height of the load over the end A and how far below the straight chord [m]; pulls
    on both ends, outwards along the span and down [N]; direction of the way at the load, up towards B [rad]; what
    holds the load back, plus where it must be hauled towards B [N]; unstretched rope from A to it, and all of it [m];
    by how much of its length it is stretched where it pulls most, and what is left over, of the chord.
    """

    height: np.ndarray
    sag: np.ndarray
    out_a: np.ndarray
    down_a: np.ndarray
    out_b: np.ndarray
    down_b: np.ndarray
    way: np.ndarray
    haul: np.ndarray
    first: np.ndarray
    length: np.ndarray
    stretch: np.ndarray
    residual: np.ndarray

    @property
    def found(self) -> np.ndarray:
        """Where a shape was found (n,)."""
        return np.asarray(self.residual < ENOUGH)

    @property
    def good(self) -> np.ndarray:
        """Where one was found for a rope that can be stretched that far (n,)."""
        return np.asarray(self.found & (self.stretch <= STRETCH[1]))

    @property
    def pull_a(self) -> np.ndarray:
        """Tension at the end A (n,) [N]."""
        return np.asarray(np.hypot(self.out_a, self.down_a))

    @property
    def pull_b(self) -> np.ndarray:
        """Tension at the end B (n,) [N]."""
        return np.asarray(np.hypot(self.out_b, self.down_b))

    @property
    def pull(self) -> np.ndarray:
        """The larger of both (n,) [N]."""
        return np.asarray(np.maximum(self.pull_a, self.pull_b))


class Line(Struct, frozen=True):
    """Ropes between ends: span, and height of B over A [m]; weight a metre unstretched [N/m]; stiffness EA [N]. All
    numbers or (n,).
    """

    span: Numbers
    rise: Numbers
    weight: Numbers
    ea: Numbers

    def check(self) -> None:
        """Raises InputError for what is no rope."""
        positive(span=self.span, ea=self.ea)
        not_negative(weight=self.weight)
        if not np.isfinite(self.rise).all():
            raise InputError("rise", float(np.ravel(self.rise)[0]), "must be a finite number")

    @property
    def chord(self) -> Numbers:
        """From end to end [m]."""
        return np.hypot(self.span, self.rise)


def reach(pull: Numbers, lift: Numbers, length: Numbers, weight: Numbers, ea: Numbers) -> tuple[np.ndarray, np.ndarray]:
    """How far across and up a piece of rope leads [m].

    pull: its force across, the same all along [N]
    lift: its force upwards where it begins [N]
    length: unstretched [m]
    weight: a metre of it, unstretched [N/m]
    ea: its stiffness [N]

    Returns: across and up (n,) [m]. Source: dynamics 1.1; an elastic catenary without a division by its weight.
    """
    pull, lift, length = np.broadcast_arrays(*(np.asarray(v, float) for v in (pull, lift, length)))
    ends = lift + weight * length
    p, q = lift / pull, ends / pull
    root_p, root_q = np.hypot(1.0, p), np.hypot(1.0, q)
    with np.errstate(divide="ignore", invalid="ignore"):
        same = (p + q) / (q * root_p + p * root_q)
        turned = (q * root_p - p * root_q) / (q - p)
    kappa = np.where(p * q > 0, same, np.where(p == q, 1.0, turned))
    bow = weight * length * kappa / pull
    tiny = np.abs(bow) < 1e-9
    flat = np.where(tiny, 1.0, np.arcsinh(np.where(tiny, 1.0, bow)) / np.where(tiny, 1.0, bow))
    across = length * kappa * flat + pull * length / ea
    up = length * (lift + ends) / (pull * (root_p + root_q)) + (lift + weight * length / 2) * length / ea
    return across, up


def rolling(line: Line, length: Numbers, load: Numbers, at: Numbers) -> Hung:
    """A carriage on free wheels: the rope pulls alike on both sides of it.

    line: the rope's ends and stuff, a `Line`
    length: of the rope unstretched [m]
    load: weight of the carriage [N]
    at: how far from A it stands, along the span [m]

    Returns: the shape, a `Hung`; `good` says where there is one. Raises: InputError. Source: dynamics 1.1.
    """
    given = _checked(line, load, at, length=length)
    return _best(given, lambda g, s: _rolled(g, s, fixed=True))


def rolling_at_sag(line: Line, sag: Numbers, load: Numbers, at: Numbers) -> Hung:
    """A carriage on free wheels that hangs so far below the chord, with the rope that takes.

    line: the rope's ends and stuff, a `Line`
    sag: below the straight line from end to end [m]
    load: weight of the carriage [N]
    at: how far from A it stands, along the span [m]

    Returns: the shape, a `Hung`, its `length` found with it. Raises: InputError. Source: dynamics 1.2.
    """
    given = _checked(line, load, at, sag=sag)
    return _best(given, lambda g, s: _rolled(g, s, fixed=False))


def clamped(line: Line, length: Numbers, load: Numbers, at: Numbers) -> Hung:
    """A load fixed to the rope that pulls straight down: the same force across on both sides.

    line: the rope's ends and stuff, a `Line`
    length: of the rope unstretched [m]
    load: that hangs [N]
    at: how far from A it hangs, along the span [m]

    Returns: the shape, a `Hung`. Raises: InputError. Source: dynamics 1.1.
    """
    given = _checked(line, load, at, length=length)
    return _best(given, _clamped)


def bare_length(line: Line, pull: Numbers) -> tuple[np.ndarray, np.ndarray]:
    """The rope that hangs between both ends with a force across.

    line: the rope's ends and stuff, a `Line`
    pull: force across, the same all along [N]

    Returns: its unstretched length [m], and how it lifts at A, minus where it pulls down [N] (n,). Raises: InputError,
    InfeasibleError. Source: dynamics 1.2.
    """
    line.check()
    positive(pull=pull)
    span, rise, weight, ea, force = _lanes(line.span, line.rise, line.weight, line.ea, pull)
    chord = np.hypot(span, rise)
    first = chord * (1 + (weight * chord) ** 2 / 24 / force**2) / (1 + force * chord / span / ea)
    start = np.array([np.log(first / chord), rise / span - weight * first / 2 / force])

    def residual(u: np.ndarray, k: np.ndarray) -> np.ndarray:
        across, up = reach(force[k], u[1] * force[k], chord[k] * np.exp(u[0]), weight[k], ea[k])
        return np.asarray((across - span[k], up - rise[k]) / chord[k])

    found, left = newton(residual, start)
    _all_found(left, "no rope hangs there with that pull")
    return chord * np.exp(found[0]), found[1] * force


def bare_pull(line: Line, length: Numbers) -> np.ndarray:
    """How hard a rope of that length pulls across, hung between both ends.

    line: the rope's ends and stuff, a `Line`
    length: unstretched [m]

    Returns: the force across (n,) [N]. Raises: InputError, InfeasibleError where a rope without weight is longer than
    the way. Source: dynamics 1.2.
    """
    line.check()
    positive(length=length)
    span, rise, weight, ea, rope = _lanes(line.span, line.rise, line.weight, line.ea, length)
    chord = np.hypot(span, rise)
    if ((weight == 0) & (rope >= chord)).any():
        raise InfeasibleError("a rope without weight, longer than the way, hangs slack: it has no one shape")
    guess = _first_pull(span, rise, weight, ea, rope)
    start = np.array([np.log(guess), rise / span - weight * rope / 2 / guess])

    def residual(u: np.ndarray, k: np.ndarray) -> np.ndarray:
        force = np.exp(u[0])
        across, up = reach(force, u[1] * force, rope[k], weight[k], ea[k])
        return np.asarray((across - span[k], up - rise[k]) / chord[k])

    found, left = newton(residual, start)
    _all_found(left, "no shape was found for a rope of that length")
    return np.asarray(np.exp(found[0]))


# How a shape is found


def _lanes(*values: Numbers) -> tuple[np.ndarray, ...]:
    """Everything as (n,)."""
    return tuple(np.array(np.atleast_1d(v), float) for v in np.broadcast_arrays(*values))


def _checked(line: Line, load: Numbers, at: Numbers, **one: Numbers) -> dict[str, np.ndarray]:
    line.check()
    not_negative(load=load)
    positive(**one)
    ((name, value),) = one.items()
    names = ("span", "rise", "weight", "ea", "load", "at", name)
    given = dict(zip(names, _lanes(line.span, line.rise, line.weight, line.ea, load, at, value), strict=True))
    if not ((given["at"] > 0) & (given["at"] < given["span"])).all():
        outside = given["at"][(given["at"] <= 0) | (given["at"] >= given["span"])]
        raise InputError("at", float(outside[0]), "must lie between both ends")
    if ((given["load"] == 0) & (given["weight"] == 0)).any():
        raise InputError("load", 0.0, "a rope without weight and without a load has no shape")
    given["chord"] = np.hypot(given["span"], given["rise"])
    return given


def _best(given: dict[str, np.ndarray], solve: Callable[[dict[str, np.ndarray], float], Hung]) -> Hung:
    """From the likeliest start, and from others for those lanes that it did not find."""
    best = solve(given, STARTS[0])
    for start in STARTS[1:]:
        bad = ~best.found
        if not bad.any():
            break
        again = solve({name: value[bad] for name, value in given.items()}, start)
        values = []
        for field in Hung.__struct_fields__:
            merged = np.array(getattr(best, field))
            better = np.where(again.found, getattr(again, field), merged[bad])
            merged[bad] = better
            values.append(merged)
        best = Hung(*values)
    return best


def _straight(g: dict[str, np.ndarray], share: float) -> np.ndarray:
    """How far below the chord the load would hang on straight pieces without weight, its own and half the rope's load
    in the middle (n,) [m], times `share`.
    """
    a, b = g["at"], g["span"] - g["at"]
    on = g["rise"] * a / g["span"]
    load = g["load"] + g["weight"] * g["chord"] / 2

    def spare(drop: np.ndarray) -> np.ndarray:
        z = on - drop
        one, other = np.hypot(a, z), np.hypot(b, g["rise"] - z)
        tension = g["ea"] * ((one + other) / g["length"] - 1)
        return np.asarray(tension * (-z / one + (g["rise"] - z) / other) - load)

    low = np.zeros_like(a)
    high = g["chord"] + 2 * g["length"]
    for _ in range(60):
        middle = (low + high) / 2
        deep = spare(middle) > 0
        high, low = np.where(deep, middle, high), np.where(deep, low, middle)
    return np.asarray(np.maximum(high, 1e-6 * g["chord"]) * share)


def _rolled(g: dict[str, np.ndarray], share: float, *, fixed: bool) -> Hung:
    """Tension, direction of the way and where on the rope the load stands; and the rope's length where it hangs at a
    sag that is given.
    """
    a, b, rise, weight, ea, chord = (g["at"], g["span"] - g["at"], g["rise"], g["weight"], g["ea"], g["chord"])
    load = g["load"]
    drop = _straight(g, share) if fixed else g["sag"]
    z = rise * a / g["span"] - drop
    slope_1, slope_2 = np.arctan2(z, a), np.arctan2(rise - z, b)
    way, kink = (slope_1 + slope_2) / 2, np.maximum((slope_2 - slope_1) / 2, 1e-9)
    tension = (load + weight * chord / 2) * np.cos(way) / (2 * np.sin(kink)) * (1.0 if fixed else share)
    one, other = np.hypot(a, z), np.hypot(b, rise - z)
    if fixed:
        start = np.array([np.log(tension), way, one / (one + other)])
    else:
        slack = 1 + tension / ea
        start = np.array([np.log(tension), way, np.log(one / slack / chord), np.log(other / slack / chord)])

    def pieces(u: np.ndarray, k: np.ndarray) -> tuple[np.ndarray, ...]:
        pulled, along = np.exp(u[0]), u[1]
        half = np.arcsin(np.minimum(KINK, load[k] * np.cos(along) / (2 * pulled)))
        if fixed:
            first = u[2] * g["length"][k]
            rest = g["length"][k] - first
        else:
            first, rest = chord[k] * np.exp(u[2]), chord[k] * np.exp(u[3])
        h1, v1 = pulled * np.cos(along - half), pulled * np.sin(along - half)
        h2, v2 = pulled * np.cos(along + half), pulled * np.sin(along + half)
        return h1, v1 - weight[k] * first, first, h2, v2, rest

    def residual(u: np.ndarray, k: np.ndarray) -> np.ndarray:
        h1, v1, first, h2, v2, rest = pieces(u, k)
        x1, z1 = reach(h1, v1, first, weight[k], ea[k])
        x2, z2 = reach(h2, v2, rest, weight[k], ea[k])
        if fixed:
            return np.asarray((x1 - a[k], x2 - b[k], z1 + z2 - rise[k]) / chord[k])
        return np.asarray((x1 - a[k], x2 - b[k], z1 + z2 - rise[k], z1 - z[k]) / chord[k])

    bounds = [(-np.inf, np.inf), (-STEEP, STEEP)] + ([(NEAR, 1 - NEAR)] if fixed else [(-np.inf, np.inf)] * 2)
    found, left = newton(residual, start, bounds)
    every = np.arange(len(a))
    h1, v1, first, h2, v2, rest = pieces(found, every)
    return _told(g, found[1], load * np.sin(found[1]), (h1, v1, first), (h2, v2, rest), left)


def _clamped(g: dict[str, np.ndarray], share: float) -> Hung:
    a, b, rise, weight, ea, chord, load = (
        g["at"],
        g["span"] - g["at"],
        g["rise"],
        g["weight"],
        g["ea"],
        g["chord"],
        g["load"],
    )
    z = rise * a / g["span"] - _straight(g, share)
    one, other = np.hypot(a, z), np.hypot(b, rise - z)
    force = (load + weight * chord / 2) / ((rise - z) / b - z / a)
    start = np.array([np.log(force), z / a, one / (one + other)])

    def pieces(u: np.ndarray, k: np.ndarray) -> tuple[np.ndarray, ...]:
        pulled, first = np.exp(u[0]), u[2] * g["length"][k]
        ends = u[1] * pulled
        return pulled, ends - weight[k] * first, first, pulled, ends + load[k], g["length"][k] - first

    def residual(u: np.ndarray, k: np.ndarray) -> np.ndarray:
        h1, v1, first, h2, v2, rest = pieces(u, k)
        x1, z1 = reach(h1, v1, first, weight[k], ea[k])
        x2, z2 = reach(h2, v2, rest, weight[k], ea[k])
        return np.asarray((x1 - a[k], x2 - b[k], z1 + z2 - rise[k]) / chord[k])

    found, left = newton(residual, start, [(-np.inf, np.inf), (-np.inf, np.inf), (NEAR, 1 - NEAR)])
    h1, v1, first, h2, v2, rest = pieces(found, np.arange(len(a)))
    way = (np.arctan2(v1 + weight * first, h1) + np.arctan2(v2, h2)) / 2
    return _told(g, way, np.zeros_like(a), (h1, v1, first), (h2, v2, rest), left)


def _told(
    g: dict[str, np.ndarray],
    way: np.ndarray,
    haul: np.ndarray,
    one: tuple[np.ndarray, ...],
    other: tuple[np.ndarray, ...],
    left: np.ndarray,
) -> Hung:
    """From both pieces: each force across, lift where it begins, unstretched length."""
    (h1, v1, first), (h2, v2, rest) = one, other
    _, height = reach(h1, v1, first, g["weight"], g["ea"])
    down = v2 + g["weight"] * rest
    stretch = np.maximum(np.hypot(h1, v1), np.hypot(h2, down)) / g["ea"]
    sag = g["rise"] * g["at"] / g["span"] - height
    return Hung(height, sag, h1, -v1, h2, down, way, haul, first, first + rest, stretch, left)


def _first_pull(span: np.ndarray, rise: np.ndarray, weight: np.ndarray, ea: np.ndarray, rope: np.ndarray) -> np.ndarray:
    """About how hard a rope of that length pulls across: the stretch of a taut one, the bow of a slack one (n,) [N]."""
    chord = np.hypot(span, rise)
    low, high = np.full_like(span, -30.0), np.full_like(span, 1.0)  # natural logarithms, of its stiffness
    for _ in range(60):
        middle = (low + high) / 2
        force = ea * np.exp(middle)
        # Long and slack, a bow counts as the whole catenary would; taut, its square is all of it.
        bow = np.minimum(weight * span / (2 * force), 30.0)
        arc = np.hypot(
            rise, span * np.sinh(bow) / np.where(bow > 0, bow, 1.0) * np.where(bow > 0, 1.0, 0.0) + span * (bow == 0)
        )
        long = arc > rope * (1 + force * chord / span / ea)
        low, high = np.where(long, middle, low), np.where(long, high, middle)
    return np.asarray(ea * np.exp((low + high) / 2))


def _all_found(left: np.ndarray, words: str) -> None:
    if not (left < ENOUGH).all():
        raise InfeasibleError(f"{words}: {float(left.max()):.1e} of the chord is left over")
