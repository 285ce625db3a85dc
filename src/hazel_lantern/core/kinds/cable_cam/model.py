"""A cable cam as a mechanism: a rope between two ends, found together for the whole run, and the carriage on it."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.catalogue import TightRope
from hazel_lantern.core.kinds.base import Carried, Design, Member, Members, Run
from hazel_lantern.core.kinds.cable_cam.design import BY_SAG, GRAVITY_RUN, LOOP, STIFF, TWIN
from hazel_lantern.core.kinds.path import Asked, Poses
from hazel_lantern.core.kinds.shared.pieces import members_of
from hazel_lantern.core.mechanics import rigging, rope
from hazel_lantern.core.mechanics.smooth import Smooth
from hazel_lantern.core.mechanics.track import Frames, headed, pitched
from hazel_lantern.core.nouns.errors import GeometryError, InfeasibleError, mend_at
from hazel_lantern.core.nouns.units import AIR_DENSITY, GRAVITY
from hazel_lantern.core.workshop.laid import Bodies, Laid

CARRIAGE, GROUND = "carriage", "ground"
STATIONS = 41
NEAREST = 0.02  # of the span from an end, at which the rope is still worked out
NEAR_PULL = 100.0  # newtons with which it is laid by hand before it is tightened
ROUND = 1.2  # of its width that a rope catches the wind with
GUSTS, HARD = 1.25, 2.0  # times its load that a carriage pulls: eased, and where a stop is hit or a line breaks
BELOW_MOUNT = 0.03  # metres of the platform's edge and screws under the mount
EMPTY = 0.01  # newtons that stand for no carriage
BOWS = 5  # points of a rope's side as it is drawn


class States(Struct, frozen=True):
    """One rope, the carriage at every station: as it is; with the load it is designed for, wind and cold; warm and
    grown. In the middle: its stiffness up and down [N/m], sag while empty [m], pull across in the wind [N], and how
    much further down the slacker of two hangs [m].
    """

    now: rope.Hung
    worst: rope.Hung
    longest: rope.Hung
    rate: float
    empty: float
    windy: float
    uneven: float


class Cable(Struct, frozen=True):
    """Sizes in metres, forces in newtons; the rig frame stands on the ground under the middle of the span, x along it
    to end B, y to the left. `line` and `load` are of each of `count` ropes, `at` where the carriage is worked out, from
    A; `states` how it hangs; `bare` the pull across while empty; `height` and `way` how the carriage goes;
    `low` and `high` where the carriage's middle goes, from the middle of the span.
    """

    span: float
    ends: tuple[float, float]
    stock: TightRope
    count: int
    apart: float
    line: rope.Line
    moving: float
    load: float
    length: float
    bare: float
    at: np.ndarray
    states: States
    height: Smooth
    way: Smooth
    low: float
    high: float
    drop: float
    stiff: bool
    heading: float
    wheelbase: float
    wheel: float
    lens: np.ndarray
    hangs: float
    haul_line: float
    laid: Laid

    @property
    def now(self) -> rope.Hung:
        """The rope as it is."""
        return self.states.now

    @property
    def rise(self) -> float:
        """Of end B over end A [m]."""
        return self.ends[1] - self.ends[0]

    @property
    def chord(self) -> float:
        """From end to end [m]."""
        return math.hypot(self.span, self.rise)

    def straight(self, at: np.ndarray) -> np.ndarray:
        """Height of the straight line between both ends above the ground, from A (n,) [m]."""
        return np.asarray(self.ends[0] + self.rise * at / self.span)

    @property
    def middle(self) -> int:
        """The station in the middle of the span."""
        return STATIONS // 2


def dynamic(design: Design) -> float:
    """Times its load that the carriage pulls at the worst: eased by a loop whose buffers are held to its runaway, else
    as where a stop is hit.
    """
    return GUSTS if design.text("haul.by") == LOOP else HARD


def wind_on(design: Design, stock: TightRope) -> tuple[float, float]:
    """What wind pushes on the carriage [N] and on a metre of rope [N/m]."""
    press = 0.5 * AIR_DENSITY * design.number("wind.speed") ** 2
    return press * design.number("wind.area"), press * ROUND * stock.d


def sized(design: Design, kit: Carried) -> Cable:
    """The mechanism without its pieces. Raises GeometryError for what has no shape."""
    number = design.number
    stock: TightRope = design.row("lines", "rope.line")
    span, ends = number("rope.span"), (number("end.a"), number("end.b"))
    count = 2 if design.variant == TWIN else 1
    chord = math.hypot(span, ends[1] - ends[0])
    give = 1 / stock.ea + 2 / number("ends.stiffness") / chord
    line = rope.Line(span, ends[1] - ends[0], stock.mass * GRAVITY, 1 / give)
    hauled = haul_mass(design)
    moving = number("carriage.mass") + kit.payload.mass
    load = (moving + hauled / 2) * GRAVITY / count
    length, bare = _tightened(design, line, load)
    half = number("carriage.wheelbase") / 2
    low, high = number("run.short_a") + half - span / 2, span / 2 - number("run.short_b") - half
    if high - low < 0.1:
        need = number("run.short_a") + number("run.short_b") + 2 * half + 0.1
        raise GeometryError(
            f"both stops leave no run: a span of {need * 1e3:.0f} mm at least, or stops nearer the ends",
            mend_at("Span {}", "rope.span", math.ceil(need + 1)),
        )
    # As near to the ends as the carriage goes.
    near = min(NEAREST * span, low + span / 2, span / 2 - high)
    at = np.linspace(near, span - near, STATIONS)
    states = _states(design, line, load, length, bare, at, stock, count)
    first, last = at[0] - span / 2, at[-1] - span / 2
    drop, cg = number("carriage.drop"), kit.payload.cg
    # What hangs below the rope: the kit at its place, the carriage's own half-way down.
    own = number("carriage.mass")
    hangs = (kit.payload.mass * (drop - float(cg[2])) + own * drop / 2) / (kit.payload.mass + own)
    return Cable(
        span,
        ends,
        stock,
        count,
        number("twin.apart") if count == 2 else 0.0,
        line,
        moving,
        load,
        length,
        bare,
        at,
        states,
        Smooth.through(first, last, states.now.height + ends[0]),
        Smooth.through(first, last, states.now.way),
        low,
        high,
        drop,
        design.text("carriage.hang") == STIFF,
        number("camera.heading"),
        2 * half,
        number("carriage.wheel"),
        np.asarray(kit.lens_at_m),
        hangs,
        hauled,
        Laid(),
    )


def haul_mass(design: Design) -> float:
    """Of the line along the run [kg]: out and back, or only a brake line."""
    row: TightRope = design.row("lines", "haul.line")
    sides = 2 if design.text("haul.by") != GRAVITY_RUN else 1
    return sides * row.mass * design.number("rope.span")


def _tightened(design: Design, line: rope.Line, load: float) -> tuple[float, float]:
    """Length of the rope [m] and its pull across while empty [N]. Raises GeometryError."""
    span = design.number("rope.span")
    if design.text("rope.set") == BY_SAG:
        hung = rope.rolling_at_sag(line, design.number("rope.sag"), load, span / 2)
        if not hung.found[0]:
            raise GeometryError("no rope hangs with that sag: a flatter one, or ends further apart")
        if not hung.good[0]:
            raise GeometryError(_too_tight(line, load, span))
        length = float(hung.length[0])
        try:
            return length, float(rope.bare_pull(line, length)[0])
        except InfeasibleError as error:
            raise GeometryError(f"while empty {error}") from error
    pull = design.number("rope.pull")
    if pull > rope.STRETCH[1] * float(line.ea):
        raise GeometryError(
            f"the rope would be stretched by more than a twentieth: {rope.STRETCH[1] * float(line.ea):.0f} N at most"
        )
    try:
        length = float(rope.bare_length(line, pull)[0][0])
    except InfeasibleError as error:
        raise GeometryError(str(error)) from error
    return length, pull


def _too_tight(line: rope.Line, load: float, span: float) -> str:
    """What is asked stretches it too far: the least sag it can be given."""
    sags = np.geomspace(1e-3, 0.3, 60) * span
    fine = rope.rolling_at_sag(line, sags, load, span / 2).good
    least = f": a sag of {float(sags[fine][0]) * 1e3:.0f} mm at least, or a stronger rope" if fine.any() else ""
    return f"the rope would be stretched by more than a twentieth{least}"


class Lanes:
    """Ropes to be worked out together: each call adds places for one state, `solve` finds all of them at once."""

    def __init__(self, line: rope.Line) -> None:
        self._line = line
        self._rows: list[tuple[float, float, float, float]] = []

    def add(self, at: np.ndarray, length: float, load: float, weight: float | None = None) -> slice:
        """Places (n,) [m] of a rope of that length [m] with a load [N]; its own weight [N/m] where wind adds to it."""
        first = len(self._rows)
        heavy = float(self._line.weight) if weight is None else weight
        self._rows += [(float(x), length, load, heavy) for x in np.atleast_1d(at)]
        return slice(first, len(self._rows))

    def worst(self, design: Design, stock: TightRope, at: np.ndarray, length: float, load: float, count: int) -> slice:
        """As it is designed for: its load times what moves it, wind across it, as short as the weather makes it."""
        pushed, blown = wind_on(design, stock)
        heavy = math.hypot(dynamic(design) * load, pushed / count)
        return self.add(at, length * (1 - warms(design, stock)), heavy, math.hypot(float(self._line.weight), blown))

    def longest(self, design: Design, stock: TightRope, at: np.ndarray, length: float, load: float) -> slice:
        """Warm and grown."""
        return self.add(at, length * (1 + warms(design, stock) + design.number("rope.creep")), load)

    def solve(self, *, strict: bool = True) -> rope.Hung:
        """Raises GeometryError where one has no shape, or, if `strict`, would be stretched too far."""
        at, length, load, weight = np.array(self._rows).T
        found = rope.rolling(rope.Line(self._line.span, self._line.rise, weight, self._line.ea), length, load, at)
        if not found.found.all():
            raise GeometryError(
                "no shape was found for the rope at some place of its run: less sag, or ends further apart"
            )
        if strict and not found.good.all():
            raise GeometryError(
                "at its worst pull the rope would be stretched by more than a twentieth: more sag, or a stronger rope"
            )
        return found


def some(found: rope.Hung, rows: slice) -> rope.Hung:
    """Those lanes."""
    return rope.Hung(*(getattr(found, name)[rows] for name in rope.Hung.__struct_fields__))


def warms(design: Design, stock: TightRope) -> float:
    """By how much of its length a rope grows and shrinks with the weather."""
    return abs(rigging.stock(stock.sort).expands) * design.number("weather.range")


def _states(
    design: Design,
    line: rope.Line,
    load: float,
    length: float,
    bare: float,
    at: np.ndarray,
    stock: TightRope,
    count: int,
) -> States:
    middle = at[[STATIONS // 2]]
    pushed, blown = wind_on(design, stock)
    windy = math.hypot(float(line.weight), blown)
    lanes = Lanes(line)
    now = lanes.add(at, length, load)
    worst = lanes.worst(design, stock, at, length, load, count)
    longest = lanes.longest(design, stock, at, length, load)
    spring = [lanes.add(middle, length, share * load) for share in (0.99, 1.01)]
    empty = lanes.add(middle, length, EMPTY)
    blown_aside = lanes.add(middle, length, math.hypot(load, pushed / count), windy)
    uneven = design.number("twin.uneven") if count == 2 else 0.0
    other = [length, length]
    if uneven:
        pulls = bare * np.array([1 - uneven / 2, 1 + uneven / 2])
        other = [float(v) for v in rope.bare_length(line, pulls)[0]]
    pair = [lanes.add(middle, long, load) for long in other] if count == 2 else []
    found = lanes.solve()
    softer, harder = (float(found.sag[rows][0]) for rows in spring)
    return States(
        some(found, now),
        some(found, worst),
        some(found, longest),
        0.02 * load / (harder - softer),
        float(found.sag[empty][0]),
        float(found.out_a[blown_aside][0]),
        float(found.sag[pair[0]][0] - found.sag[pair[1]][0]) if pair else 0.0,
    )


def follow(cable: Cable, asked: Asked) -> Poses:
    """Pose (n, 1): the carriage's middle along the run, from the middle of the span [m]; what the shot asks beyond the
    stops stays there.
    """
    middle = (cable.low + cable.high) / 2
    q = np.clip(middle + asked.along(cable.high - cable.low), cable.low, cable.high)
    left = np.interp(q, cable.at - cable.span / 2, cable.now.residual)
    return Poses(q[:, None], left, left < rope.ENOUGH)


def frames(cable: Cable, poses: np.ndarray) -> Bodies:
    """The frames of ground and carriage at poses (n, 1), the carriage's on the rope, pitched as the rope leads it."""
    x = poses[:, 0]
    z, _ = cable.height.at(x)
    level = headed(np.column_stack([x, np.zeros_like(x), z]), 0.0)
    if cable.stiff:
        level = level.turned(pitched(cable.way.at(x)[0]))
    return {GROUND: headed(np.zeros((len(x), 3)), 0.0), CARRIAGE: level}


def mount(cable: Cable, poses: np.ndarray) -> Frames:
    """The mount at poses (n, 1), under the carriage, looking along the heading."""
    body = frames(cable, poses)[CARRIAGE]
    cos, sin = math.cos(cable.heading), math.sin(cable.heading)
    turn = np.array([[cos, -sin, 0.0], [sin, cos, 0.0], [0.0, 0.0, 1.0]])
    return Frames(body.place((0.0, 0.0, -cable.drop)), body.axes @ turn)


def lens_heights(cable: Cable, x: np.ndarray) -> np.ndarray:
    """Of the lens above the ground with the carriage at places (n,) [m]."""
    return np.asarray(mount(cable, x[:, None]).place(cable.lens)[:, 2])


def sides(cable: Cable, x: np.ndarray, *, first: bool) -> np.ndarray:
    """The rope from an end to the carriage at places (n,) as points (n, BOWS, 2), x and height [m]: a parabola by its
    own weight.
    """
    carriage = np.column_stack([x, cable.height.at(x)[0]])
    at = x + cable.span / 2
    end = np.array([-cable.span / 2, cable.ends[0]]) if first else np.array([cable.span / 2, cable.ends[1]])
    start, stop = (
        (np.broadcast_to(end, carriage.shape), carriage) if first else (carriage, np.broadcast_to(end, carriage.shape))
    )
    long = at if first else cable.span - at
    pull = np.interp(at, cable.at, cable.now.pull)
    share = np.linspace(0.0, 1.0, BOWS)[:, None]
    points = start[:, None] + share * (stop - start)[:, None]
    points[..., 1] -= (float(cable.line.weight) * long**2 / (2 * pull))[:, None] * (share * (1 - share))[:, 0]
    return np.asarray(points)


def side(cable: Cable, x: float, *, first: bool) -> np.ndarray:
    """The same with the carriage at one place (BOWS, 2)."""
    return np.asarray(sides(cable, np.array([x]), first=first)[0])


def members(cable: Cable, poses: np.ndarray) -> Members:
    """The rope on both sides of the carriage, posts, and what hangs from it."""
    bodies = frames(cable, poses)
    found: list[Run] = [
        run for run in members_of(cable.laid, bodies, (CARRIAGE,)) if not run[0].name.startswith("rope")
    ]
    both = [sides(cable, poses[:, 0], first=first) for first in (True, False)]
    for y in (0.0,) if cable.count == 1 else (-0.5, 0.5):
        off = y * cable.apart
        for points in both:
            for k in range(BOWS - 1):
                a, b = (np.insert(points[:, n], 1, off, axis=1) for n in (k, k + 1))
                found.append((Member("rope", cable.stock.d / 2), a, b))
    return Members.at(len(poses), found)
