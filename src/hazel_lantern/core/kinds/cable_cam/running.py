"""How the carriage runs: the way it goes, what it is hauled with, where it runs by itself, how it is caught."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.catalogue import TightRope
from hazel_lantern.core.kinds.base import Design, Path
from hazel_lantern.core.kinds.cable_cam.design import GRAVITY_RUN, LOOP
from hazel_lantern.core.kinds.cable_cam.model import Cable, wind_on
from hazel_lantern.core.mechanics import rigging, rope_run
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.figure import Curve, Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, PICTURE, STOP, STRUCTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

PLACES = 401  # along the run
MOMENTS = 193  # of the move
WAVE = 0.2  # of the speed of a wave on the rope, that a carriage may go at
HAND = 150.0  # newtons that a hand pulls evenly, workshop judgement
PULLEY = 0.06  # metres, as they are listed
SPARE_TIGHT = 20.0  # newtons that stay in the slack side of a loop
TIGHTEST = 1000.0  # newtons that a loop may be pulled tight with, either side
STEEP = math.radians(15)  # beyond which an end is kept out of the run
SLIPS = 1.5  # times what it is pulled with, that a stop holds
ROUGH = 2 * GRAVITY  # deceleration of a hard catch
BRAKE = Formula("v*t+v**2/(2*a)")


class Ran(Struct, frozen=True):
    """The run from stop to stop: places of the carriage (n,) [m], the way's slope and what pulls it, as a slope, there;
    the fastest of the move, of a carriage that is lost on it, and of one let go from rest; its speed at either stop
    [m/s]; the greatest force of the haul over the move, of the line as it is braked on its steepest place, and what it
    pulls an end with [N].
    """

    x: np.ndarray
    slope: np.ndarray
    pull: np.ndarray
    fastest: float
    runaway: float
    from_rest: float
    at_stops: tuple[float, float]
    haul: float
    braked: float
    at_ends: float


def ran(design: Design, move: Move, cable: Cable, path: Path) -> Ran:
    """The run with what moves it."""
    x = np.linspace(cable.low, cable.high, PLACES)
    _, slope = cable.height.at(x)
    way, _ = cable.way.at(x)
    pull = np.sin(way) * (np.cos(way) + np.sin(way) * slope)
    fastest = move.profile.peak_speed * move.chord
    runs = [_let_go(design, x, pull, fastest, forward=forward) for forward in (True, False)]
    still = [_let_go(design, x, pull, 0.0, forward=forward) for forward in (True, False)]
    hauled = _hauled(design, move, cable, path)
    braked = cable.moving * (design.number("brake.slows") + GRAVITY * float(np.abs(np.sin(way)).max()))
    # Let go, it comes to the far stop one way and to the near one the other.
    at_stops = (float(runs[1][0]), float(runs[0][-1]))
    return Ran(
        x,
        slope,
        pull,
        fastest,
        float(max(v.max() for v in runs)),
        float(max(v.max() for v in still)),
        at_stops,
        hauled,
        braked,
        _line_pulls(design, max(hauled, braked)),
    )


def _let_go(design: Design, x: np.ndarray, pull: np.ndarray, start: float, *, forward: bool) -> np.ndarray:
    """Greatest speed (n,) at every place of a carriage that is lost somewhere before it, at the move's fastest."""
    c = design.number("carriage.rolling")
    along, rises = (x - x[0], pull) if forward else (x[-1] - x[::-1], -pull[::-1])
    climbed = np.concatenate([[0.0], np.cumsum((rises[1:] + rises[:-1]) / 2 * np.diff(along))]) + c * along
    speed = np.sqrt(start**2 + 2 * GRAVITY * (np.maximum.accumulate(climbed) - climbed))
    return np.asarray(speed if forward else speed[::-1])


def _moments(move: Move, path: Path) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Shares of the move's time (n,), the carriage's place [m] and its acceleration along the run [m/s^2]."""
    u = np.linspace(0.0, 1.0, MOMENTS)
    return u, path.at(u)[:, 0], move.profile.acceleration(u) * move.chord


def _line_pulls(design: Design, hauled: float) -> float:
    """What the line pulls an end with where it turns back: both sides of a loop, a hand line out and back, or a brake
    line's own pull [N].
    """
    by = design.text("haul.by")
    if by == GRAVITY_RUN:
        return hauled
    return max(2 * design.number("haul.tight"), hauled) if by == LOOP else 2 * hauled


def _hauled(design: Design, move: Move, cable: Cable, path: Path) -> float:
    return float(np.abs(haul_forces(design, move, cable, path)[1]).max())


def haul_forces(design: Design, move: Move, cable: Cable, path: Path) -> tuple[np.ndarray, np.ndarray]:
    """The carriage's place (n,) [m] over the move and what it is hauled with towards B, minus held back [N], against
    the wind.
    """
    u, x, speeding = _moments(move, path)
    way, _ = cable.way.at(x)
    weight = cable.moving * GRAVITY
    heads = np.sign(move.profile.speed(u))
    rolling = design.number("carriage.rolling") * weight * np.cos(way) * heads
    pushed = wind_on(design, cable.stock)[0] * heads
    return x, weight * np.sin(way) + rolling + (cable.moving + cable.haul_line) * speeding + pushed


def running_figures(design: Design, move: Move, cable: Cable, ride: Ran, path: Path) -> Told:
    """Slope, haul, runaway, brake, buffers."""
    tell = Teller()
    _slope(tell, design, cable, ride)
    _wave(tell, cable, ride)
    if design.text("haul.by") == GRAVITY_RUN:
        _by_gravity(tell, design, move, cable, ride, path)
    else:
        _haul(tell, design, move, cable, ride, path)
    _line(tell, design, cable, ride)
    _runaway(tell, design, cable, ride)
    _brake(tell, design, move, cable, ride, path)
    return tell.told()


def _slope(tell: Teller, design: Design, cable: Cable, ride: Ran) -> None:
    """Near its ends the rope is steep: the stops keep the carriage out."""
    steep = float(np.abs(ride.slope).max())
    at = float(ride.x[int(np.abs(ride.slope).argmax())])
    tell.add(
        by_method("travel.slope", "Steepest of the run", math.atan(steep), "rad", "slope of the carriage's way between its stops", (Given("x", at + cable.span / 2, "m", "from end A"), design.given("a", "run.short_a", "stop from end A", "m"), design.given("b", "run.short_b", "stop from end B", "m")), source="dynamics 1.8", headline=True)
    )  # fmt: skip
    x = cable.at - cable.span / 2
    slopes = np.abs(cable.height.at(x)[1])
    fine = np.flatnonzero(slopes <= math.tan(STEEP))
    mend: tuple[Remedy, ...] = ()
    if len(fine):
        short = max(cable.at[fine[0]], cable.span - cable.at[fine[-1]]) - cable.wheelbase / 2
        better = math.ceil(max(short, 0.1) * 20) / 20
        key = "run.short_a" if at < 0 else "run.short_b"
        mend = (
            (set_one("stops", "A stop {} from that end", key, better, "m"),)
            if better <= 15 and better > design.number(key)
            else ()
        )
    tell.hold(
        "travel.slope", "travel.steep", "Steep ends", STRUCTURE, "run.short_a" if at < 0 else "run.short_b",
        "The rope is as steep as {}; from {} on the ends are kept out of the run.", at_most=STEEP, remedies=mend,
    )  # fmt: skip


def _wave(tell: Teller, cable: Cable, ride: Ran) -> None:
    mass = float(cable.line.weight) / GRAVITY
    pull = float(cable.now.pull.min())
    tell.add(
        by_formula("travel.wave", "Speed that shakes the rope", "m/s", Formula("s*sqrt(T/mu)"), (Given("s", WAVE, "1", "of a wave's own"), Given("T", pull, "N", "least pull of the rope"), Given("mu", mass, "kg/m", "rope a metre", "rope.line")), source="dynamics 1.6"),
        by_formula("travel.rope_mode", "Rope alone swings at", "Hz", Formula("sqrt(T/mu)/(2*l)"), (Given("T", cable.bare, "N", "pull while empty"), Given("mu", mass, "kg/m", "rope a metre", "rope.line"), Given("l", cable.span, "m", "span", "rope.span")), source="dynamics 1.7"),
    )  # fmt: skip
    tell.hold(
        "travel.wave", "travel.fast", "Slow enough for the rope", STRUCTURE, "shot.time",
        Words("The move goes at {}; from {} on a wave runs ahead of it.", ((ride.fastest, "m/s"), (tell.value("travel.wave"), "m/s"))), at_least=ride.fastest, watch_at=0.9,
    )  # fmt: skip


def _haul(tell: Teller, design: Design, move: Move, cable: Cable, ride: Ran, path: Path) -> None:
    x, force = haul_forces(design, move, cable, path)
    order = np.argsort(x, kind="stable")
    tell.curves["travel.along.haul"] = Curve("travel.along.haul", "Hauled with", x[order], force[order], "m", "N")
    most = int(np.abs(force).argmax())
    loop = design.text("haul.by") == LOOP
    given = (
        Given("m", cable.moving, "kg", "carriage with camera", "carriage.mass"), design.given("c", "carriage.rolling", "rolls with", "1"),
        Given("x", float(x[most]) + cable.span / 2, "m", "from end A"),
    )  # fmt: skip
    tell.add(
        by_method("travel.haul", "Hauled with, at the most", ride.haul, "N", "weight along the rope, rolling, speeding up and wind, against it", given, source="dynamics 1.6", headline=True),
    )  # fmt: skip
    if not loop:
        tell.hold(
            "travel.haul",
            "travel.by_hand",
            "By hand",
            PICTURE,
            "haul.by",
            "It asks for {}; {} is pulled evenly by one hand.",
            at_most=HAND,
        )
        return
    tight = design.number("haul.tight")
    worst = max(ride.haul, ride.braked)
    asked, grip = worst / 2 + SPARE_TIGHT, design.number("haul.grip") * design.number("haul.wrap")
    tell.add(
        by_formula("travel.tight", "Loop must be tightened to", "N", Formula("F/2+s"), (Given("F", worst, "N", "hauled or braked with", "travel.haul"), Given("s", SPARE_TIGHT, "N", "stays in the slack side")), source="dynamics 1.6"),
        by_method("travel.grips", "Drive wheel holds", 2 * tight * math.tanh(grip / 2), "N", "what a wrapped wheel holds between its tight and its slack side", (design.given("T", "haul.tight", "each side, standing", "N"), design.given("mu", "haul.grip", "grip", "1"), design.given("beta", "haul.wrap", "wraps round it", "rad")), source="dynamics 1.6"),
        by_method("travel.redirect", "A pulley that turns it back is pulled with", rigging.redirect(tight + worst / 2, max(0.0, tight - worst / 2), math.pi), "N", "both sides added", (tell.given("F", "travel.haul"), design.given("T", "haul.tight", "each side, standing", "N")), source="dynamics 1.5"),
    )  # fmt: skip
    tell.hold("travel.tight", "travel.slack", "Loop stays tight", STRUCTURE, "haul.tight", Words("Hauled or braked with {}, its slack side wants {} standing; it has {}.", ((worst, "N"), (asked, "N"), (tight, "N"))), at_most=tight, watch_at=1.0, remedies=_tightened("tight", asked))  # fmt: skip
    needs = worst / 2 / math.tanh(grip / 2)
    tell.hold("travel.grips", "travel.slips", "Drive wheel does not slip", STRUCTURE, "haul.tight", Words("It is hauled or braked with {}, the drive wheel holds {}.", ((worst, "N"), (tell.value("travel.grips"), "N"))), at_least=worst, remedies=(*_tightened("tighter", 1.3 * needs), set_one("wrap", "Wrap it one and a half times", "haul.wrap", math.radians(540))))  # fmt: skip


def _tightened(key: str, asked: float) -> tuple[Remedy, ...]:
    """The loop pulled tighter, as far as one may be [N]."""
    pulled = math.ceil(asked / 5) * 5.0
    return (set_one(key, "Tighten it to {}", "haul.tight", pulled, "N"),) if pulled <= TIGHTEST else ()


def _line(tell: Teller, design: Design, cable: Cable, ride: Ran) -> None:
    """The line at its worst: hauled, or braked on the steepest place; and the pulleys it runs over."""
    line: TightRope = design.row("lines", "haul.line")
    kind, pull = rigging.stock(line.sort), max(ride.haul, ride.braked, 1.0)
    asked = rigging.LEAST[kind.family]
    tell.add(
        by_method("travel.line_pull", "Line is pulled with, at the worst", pull, "N", "hauled over the move, or braked where the rope is steepest", (Given("m", cable.moving, "kg", "carriage with camera", "carriage.mass"), design.given("a", "brake.slows", "braked by", "m/s^2")), source="dynamics 1.6"),
    )  # fmt: skip
    tell.add(
        by_formula("travel.line_factor", "The line is stronger by", "1", Formula("k*B/F"), (Given("k", rigging.tied_left(line.sort), "1", "its ends leave"), Given("B", line.breaking, "N", "breaks at", "haul.line"), tell.given("F", "travel.line_pull")), source="dynamics 1.3, 1.6"),
        by_formula("travel.line_wheel", "Its smallest wheel over its thickness", "1", Formula("D/d"), (Given("D", _smallest(design), "m", "pulley, or drive wheel", "haul.wheel"), Given("d", line.d, "m", "line", "haul.line")), source="dynamics 1.3"),
    )  # fmt: skip
    tell.hold("travel.line_factor", "travel.line", "Strength of the line", PEOPLE, "haul.line", "With its ends the line is {} times as strong as it is pulled; {} is asked.", at_least=asked, watch_at=0.9)  # fmt: skip
    ratio = tell.value("travel.line_wheel")
    tell.hold("travel.line_wheel", "travel.line_bends", "Wheels of the line", STRUCTURE, "haul.line", "The line bends over {} of its own thickness; {} is asked.", at_least=kind.wheel, state=CLEAR if ratio >= kind.wheel else WATCH, remedies=(set_one("fibre", "Polyester braid 4 mm", "haul.line", "polyester-4"),) if kind.family == rigging.WIRE else ())  # fmt: skip
    if kind.family == rigging.WIRE:
        tell.findings.append(Finding("travel.knots", "Wire as a line", PEOPLE, STOP, "haul.line", Words("A line is knotted and held in hands: wire rope takes no knot and cuts gloves."), remedies=(set_one("polyester", "Polyester braid 4 mm", "haul.line", "polyester-4"),)))  # fmt: skip
    if line.sort == "nylon":
        tell.findings.append(Finding("travel.nylon", "Nylon as a line", PEOPLE, STOP, "haul.line", Words("Nylon stretches and whips back: no haul line, no stop line."), remedies=(set_one("polyester", "Polyester braid 4 mm", "haul.line", "polyester-4"),)))  # fmt: skip


def _smallest(design: Design) -> float:
    """The smallest wheel the line runs over [m]."""
    return min(PULLEY, design.number("haul.wheel")) if design.text("haul.by") == LOOP else PULLEY


def _by_gravity(tell: Teller, design: Design, move: Move, cable: Cable, ride: Ran, path: Path) -> None:
    """Let go at the start of the move."""
    first, last = (float(v) for v in path.at(np.array([0.0, 1.0]))[:, 0])
    x = np.linspace(first, last, PLACES)
    forward = 1.0 if last >= first else -1.0
    slope, way = cable.height.at(x)[1] * forward, cable.way.at(x)[0] * forward
    pull = np.sin(way) * (np.cos(way) + np.sin(way) * slope)
    drag = design.number("wind.area")
    calm = rope_run.gravity_run(x, slope, pull, cable.moving, rolling=design.number("carriage.rolling"), drag=drag)
    against = rope_run.gravity_run(
        x,
        slope,
        pull,
        cable.moving,
        rolling=design.number("carriage.rolling"),
        drag=drag,
        wind=design.number("wind.speed"),
    )
    tell.curves["travel.along.gravity"] = Curve(
        "travel.along.gravity",
        "Runs by its weight at",
        x if forward > 0 else x[::-1],
        calm.speed if forward > 0 else calm.speed[::-1],
        "m",
        "m/s",
    )
    given = (Given("m", cable.moving, "kg", "carriage with camera", "carriage.mass"), design.given("c", "carriage.rolling", "rolls with", "1"), design.given("A", "wind.area", "air pushes on", "m^2:floor"))  # fmt: skip
    how = "weight along the rope against rolling and air, from the move's start"
    tell.add(
        by_method("travel.gravity_top", "By its weight it reaches", calm.fastest, "m/s", how, given, valid="rope lighter than the carriage", source="dynamics 1.6", headline=True),
        by_method("travel.gravity_end", "and passes the move's end at", calm.at_end, "m/s", how, given, source="dynamics 1.6"),
    )  # fmt: skip
    if calm.fastest == 0.0:
        state, words = STOP, Words("It does not start: the rope falls by less than the wheels hold.")
    elif calm.stops_at is not None:
        state, words = (
            STOP,
            Words(
                "It stands {} short of the move's end; it has to be fetched there.", ((abs(last - calm.stops_at), "m"),)
            ),
        )
    elif against.stops_at is not None:
        state, words = (
            WATCH,
            Words("Against the wind it stands {} short of the move's end.", ((abs(last - against.stops_at), "m"),)),
        )
    else:
        state, words = (
            CLEAR,
            Words(
                "By its weight it comes to the move's end, and passes it at {} unless it is braked.",
                ((calm.at_end, "m/s"),),
            ),
        )
    lower = "end.b" if forward > 0 else "end.a"
    # Enough fall that friction is used up half.
    fall = round(design.number(lower) - 2 * design.number("carriage.rolling") * abs(last - first) - 0.3, 2)
    mend = (set_one("lower", "That end at {}", lower, fall, "m"),) if fall >= 0.4 and state == STOP else ()
    tell.findings.append(
        Finding("travel.by_weight", "Runs by its own weight", PICTURE, state, lower, words, remedies=mend)
    )
    tell.hold("travel.gravity_top", "travel.held_back", "Held back by its brake", PEOPLE, "shot.time", Words("Let run it reaches {}; the move's fastest is {}: the brake line pays out in the hand, all the way.", ((calm.fastest, "m/s"), (ride.fastest, "m/s"))), at_most=max(ride.fastest, 1e-6), state=WATCH if calm.fastest > ride.fastest else CLEAR)  # fmt: skip
    if calm.fastest < ride.fastest:
        tell.findings.append(
            Finding(
                "travel.too_slow",
                "Fast enough for the move",
                PICTURE,
                WATCH,
                "shot.time",
                Words(
                    "Its weight brings it to {} at the most; the move asks for {}.",
                    ((calm.fastest, "m/s"), (ride.fastest, "m/s")),
                ),
            )
        )


def _runaway(tell: Teller, design: Design, cable: Cable, ride: Ran) -> None:
    """The line is lost at the move's fastest, at either stop: what the buffers must take."""
    hits = max(ride.at_stops)
    given = (Given("v", ride.fastest, "m/s", "fastest of the move", "shot.time"), design.given("c", "carriage.rolling", "rolls with", "1"), Given("m", cable.moving, "kg", "carriage with camera", "carriage.mass"))  # fmt: skip
    how = "energy along the way, lost at the move's fastest at either stop, without air"
    tell.add(
        by_method("travel.runaway", "Lost, it reaches", ride.runaway, "m/s", how, given, source="dynamics 1.6"),
        by_method("travel.hits", "and comes to a stop at", hits, "m/s", how, given, source="dynamics 1.6"),
    )  # fmt: skip
    k = int(np.argmax(ride.at_stops))
    # What still drives it at that stop, towards it.
    driven = -float(ride.pull[-1 if k else 0]) * (1.0 if k else -1.0) * cable.moving * GRAVITY
    rate = design.number("buffer.rate")
    caught = rope_run.end_buffer(cable.moving, hits, rate, driven)
    tell.add(
        by_method("travel.buffer", "A buffer gives", caught.stroke, "m", "spring against its energy and what still drives it", (tell.given("v", "travel.hits"), design.given("k", "buffer.rate", "spring", "N/m"), Given("F", driven, "N", "still drives it")), source="dynamics 1.6"),
    )  # fmt: skip
    tell.add(
        by_method("travel.caught", "and slows it by", caught.slows, "m/s^2", "greatest, over its mass", (tell.given("s", "travel.buffer"), design.given("k", "buffer.rate", "spring", "N/m")), source="dynamics 1.6"),
    )  # fmt: skip
    tell.add(
        by_method("travel.stop_pull", "A stop is pulled with", caught.force, "N", "greatest force of its buffer", (tell.given("s", "travel.buffer"), design.given("k", "buffer.rate", "spring", "N/m")), source="dynamics 1.6"),
    )  # fmt: skip
    tell.hold(
        "travel.stop_pull", "travel.stop_holds", "Stops hold on the rope", PEOPLE, "buffer.stop", "Caught, the carriage pulls its stop with {}; it holds {}.", at_most=design.number("buffer.stop") / SLIPS,
        remedies=(set_one("tighter", "A stop that holds {}", "buffer.stop", math.ceil(caught.force * SLIPS * 1.2 / 50) * 50.0, "N"), set_one("soft", "Springs of {}", "buffer.rate", max(20.0, round(rate / 3)), "N/m")),
    )  # fmt: skip
    stroke = design.number("buffer.stroke")
    longer = math.ceil(caught.stroke * 1.1 * 20) / 20
    tell.hold(
        "travel.buffer", "travel.stops", "Stops catch it", PEOPLE, "buffer.stroke",
        Words("Lost, it comes to a stop at {}; its buffer would give {} and has {}.", ((hits, "m/s"), (caught.stroke, "m"), (stroke, "m"))), at_most=stroke, watch_at=1.0,
        remedies=(set_one("softer", "Buffers that give {}", "buffer.stroke", longer, "m"),) if longer <= 3.0 else (),
    )  # fmt: skip
    tell.hold(
        "travel.caught", "travel.gently", "Caught gently", PICTURE, "buffer.rate", "Caught by its stop it is slowed by {}; {} is hard on camera and rope.", at_most=ROUGH,
        state=CLEAR if caught.slows <= ROUGH else WATCH, remedies=(set_one("soft", "Springs of {}", "buffer.rate", max(20.0, round(rate / 3)), "N/m"),),
    )  # fmt: skip
    rolls = float(np.abs(ride.pull).max()) > design.number("carriage.rolling")
    low = float(ride.x[int(np.argmin(np.cumsum(ride.pull)))]) + cable.span / 2
    tell.findings.append(
        Finding("travel.left", "Left by itself", PEOPLE, WATCH if rolls else CLEAR, "haul.by", Words("Left by itself it runs to about {} from end A, at up to {}: tie it, or keep the line in hand.", ((low, "m"), (ride.from_rest, "m/s"))) if rolls else Words("Left by itself it stays."))
    )  # fmt: skip


def _brake(tell: Teller, design: Design, move: Move, cable: Cable, ride: Ran, path: Path) -> None:
    """Braked at any moment of the move it must stand before the stop it goes towards."""
    u = np.linspace(0.0, 1.0, MOMENTS)
    x, speed = path.at(u)[:, 0], move.profile.speed(u) * move.chord
    room = np.where(speed >= 0, cable.high - x, x - cable.low)
    slows, reaction = design.number("brake.slows"), design.number("brake.reaction")
    way = np.abs(speed) * reaction + speed**2 / (2 * slows)
    tell.add(
        by_formula("travel.brakes", "Braked, it goes on for", "m", BRAKE, (Given("v", ride.fastest, "m/s", "fastest of the move", "shot.time"), design.given("t", "brake.reaction", "after", "s"), design.given("a", "brake.slows", "slowed by", "m/s^2")), source="dynamics 1.6"),
        by_method("travel.brake_room", "Room left before a stop", float((room - way).min()), "m", "over the move, what is left of the run when it is braked there", (design.given("t", "brake.reaction", "after", "s"), design.given("a", "brake.slows", "slowed by", "m/s^2")), source="dynamics 1.6"),
    )  # fmt: skip
    left = tell.value("travel.brake_room")
    tell.hold(
        "travel.brake_room", "travel.braked", "Braked in time", PEOPLE, "brake.reaction",
        Words("Braked at any moment it stands {} before its stop." if left >= 0 else "Braked late it runs {} into its stop: begin the ease earlier, or keep the stop further out.", ((abs(left), "m"),)),
        at_least=0.0, state=CLEAR if left >= 0 else WATCH,
    )  # fmt: skip
