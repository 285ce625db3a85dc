"""What of a drive is seen: its play, its steps, a hand on a crank, sticking, steps that shake the rig."""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.document import drives as d
from hazel_lantern.core.document.project import Shot
from hazel_lantern.core.driving.driven import Driven, geared
from hazel_lantern.core.driving.needs import efforts, reverses
from hazel_lantern.core.mechanics import rolling
from hazel_lantern.core.motion import drives, pulses, sources
from hazel_lantern.core.nouns.figure import Curve, Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, WATCH, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

SEEN, STEP_SEEN, SHAKEN = 1.0, 0.5, 3.0  # pixels of play, of a step, of unevenness from frame to frame
CRANKED, PUSHED = 0.10, 0.15  # of its speed, that a hand on a crank and one that pushes are uneven by; judgement
AROUND, FINE = 0.2, 8  # of its own ringing, that a stepper's rate stays away; microsteps from which that is no matter
MOST_MICRO = 256
CORD_DAMPING = 0.05
PLAY_PX, STEP_PX = Formula("b*p"), Formula("s*p")
WOBBLE = Formula("r*p/R")
SHAKE = Formula("r*v*p/f")


def picture(given: Driven, shot: Shot, *, suggest: bool) -> Told:
    """In pixels at the subject, where it shows most."""
    tell = Teller()
    if given.made:
        _play(tell, given)
    if given.source.stepper is not None:
        _steps(tell, given, given.source.stepper)
    if not given.load.moves:
        return tell.told()
    if given.drive.source in (d.CRANK, d.REEL):
        _cogs(tell, given, suggest=suggest)
    if given.drive.source == d.HAND:
        _shakes(tell, given, shot)
    if given.last is not None and math.isfinite(given.last.stiff):
        _sticks(tell, given)
    return tell.told()


def _pixels(given: Driven) -> Given:
    return Given(
        "p",
        float(given.pixels.max()),
        "1",
        "pixels for a metre of the axis, or a radian, where it shows most",
        "shot.focal",
    )


def _unit(given: Driven) -> str:
    return "rad" if given.axis.turns else "m"


def _play(tell: Teller, given: Driven) -> None:
    key, play, unit = given.key, given.play, _unit(given)
    parts = tuple(
        Given(
            f"b_{n}",
            one.stage.play if one.gives == d.TURN else one.play,
            "rad" if one.gives == d.TURN else "m",
            d.SORTS[one.kind].name.lower(),
            _play_of(key, n, one.kind),
        )
        for n, one in enumerate(given.made, 1)
    )
    tell.add(
        by_method(
            f"{key}.slack",
            "Free play of the axis",
            play,
            unit,
            "of each stage over all ratios behind it, the source's own ahead",
            parts,
            source="drive 1.1",
        )
    )
    lens = play * float(given.way.max())
    tell.add(
        by_method(
            f"{key}.play",
            "Play at the lens",
            lens,
            "m",
            "that, by how far the lens goes for it",
            (tell.given("b", f"{key}.slack"),),
            source="drive 1.1",
        ),
        by_formula(
            f"{key}.play_px",
            "in the picture",
            "px",
            PLAY_PX,
            (tell.given("b", f"{key}.slack"), _pixels(given)),
            source="drive 5.3",
        ),
    )
    turns_over = _turns_over(given)
    shown = tell.value(f"{key}.play_px")
    state = WATCH if shown > SEEN and turns_over else CLEAR
    amounts = ((lens, "m"), (shown, "px"))
    words = Words("{} of slack at the lens, {}: it jumps by that when it reverses, or the load changes sides.", amounts)
    if not turns_over:
        words = Words("{} of slack at the lens, {}; the load keeps to one side of it all the way.", amounts)
    n = max(range(1, len(given.made) + 1), key=lambda k: _share_of_play(given, k))
    element = given.drive.elements[n - 1]
    size = next((one for one in d.SORTS[element.kind].sizes if one.key == "play"), None)
    mend = sprung(given)
    if size is not None:
        now = float(element.values.get("play", size.default))  # type: ignore[arg-type]
        rest = play - _share_of_play(given, n)
        closer = now * max(0.0, 0.95 * SEEN * play / max(shown, 1e-9) - rest) / max(_share_of_play(given, n), 1e-12)
        if closer >= 2e-5:
            closer = float(f"{closer:.2g}")
            name = d.SORTS[element.kind].name.lower()
            mend = (*mend, set_one("closer", f"Set the {name} to {{}} of play", f"{key}.{n}.play", closer, "m"))
    where = f"{key}.{n}.play" if size is not None else f"{key}.by"
    tell.hold(
        f"{key}.play_px",
        f"{key}.plays_px",
        f"{given.axis.name}: play in the picture",
        PICTURE,
        where,
        words,
        at_most=SEEN,
        state=state,
        remedies=mend,
    )


def sprung(given: Driven) -> tuple[Remedy, ...]:
    """A spring that outweighs twice whatever pulls the other way, where the move itself does not reverse."""
    moving = given.load.speed[np.abs(given.load.speed) > 1e-9]
    bare = replace(given.held, sprung=0.0)
    if len(moving) == 0 or moving.min() < 0 < moving.max():
        return ()
    asks = math.ceil(2.05 * reverses(given.load, bare)[0] / float(given.way.max()) * 2) / 2
    return (set_one("sprung", "Spring it with {} at the lens", f"{given.key}.preload", asks, "N"),) if asks > 0 else ()


def _play_of(key: str, n: int, kind: str) -> str:
    """The input that says how much play an element has; none of what grips or winds."""
    return f"{key}.{n}.play" if any(size.key == "play" for size in d.SORTS[kind].sizes) else ""


def _share_of_play(given: Driven, n: int) -> float:
    """What element n, from 1, adds to the play of the axis [m] or [rad]."""
    after = math.prod(one.stage.ratio for one in given.made[n:])
    one = given.made[n - 1]
    share = one.stage.play / after
    return (share * given.chain.travel / drives.TURN if given.chain.travel else share) + one.play


def _turns_over(given: Driven) -> bool:
    """Whether the move reverses, or what loads the chain changes sides."""
    moving = given.load.speed[np.abs(given.load.speed) > 1e-9]
    if len(moving) == 0:
        return False
    effort = efforts(given.load, given.held)[np.abs(given.load.speed) > 1e-9]
    return bool(moving.min() < 0 < moving.max() or effort.min() < 0 < effort.max())


def _steps(tell: Teller, given: Driven, motor: sources.Stepper) -> None:
    key, micro = given.key, given.source.microsteps
    full = drives.TURN / motor.steps
    rubs = float(drives.source_torque(given.chain, np.array([given.held.rubs]), np.zeros(1))[0])
    lag = sources.step_lag(motor, min(rubs, motor.holding))
    angle = max(full / micro, lag)
    step = angle / given.chain.per_output
    inputs = (
        Given("N", motor.steps, "1", "steps a turn"),
        Given("u", micro, "1", "microsteps", f"{key}.microsteps"),
        Given("T_f", rubs, "N*m:shaft", "friction at its shaft"),
    )
    tell.add(
        by_method(
            f"{key}.step",
            "A step of the axis",
            step,
            _unit(given),
            "one microstep through the chain, or what friction holds back where that is more",
            inputs,
            source="drive 1.9",
        )
    )
    tell.add(
        by_formula(
            f"{key}.step_px",
            "A step in the picture",
            "px",
            STEP_PX,
            (tell.given("s", f"{key}.step"), _pixels(given)),
            source="drive 5.3, 4.7",
        )
    )
    shown = tell.value(f"{key}.step_px")
    bunched = lag > full / micro
    words = Words(
        "A step is {} in the picture"
        + ("; friction bunches microsteps, finer ones change nothing." if bunched else "."),
        ((shown, "px"),),
    )
    finer = 2.0 ** math.ceil(math.log2(max(1.0, micro * shown / STEP_SEEN)))
    mend: tuple[Remedy, ...] = ()
    if not bunched and micro < finer <= MOST_MICRO:
        mend = (set_one("finer", "{} microsteps", f"{key}.microsteps", finer, "count"),)
    size = geared(given, 1.1 * shown / STEP_SEEN)
    if size is not None and shown > STEP_SEEN:
        mend = (*mend, set_one("geared", "Geared down: {}", size[0], size[1], size[2]))
    tell.hold(
        f"{key}.step_px",
        f"{key}.steps",
        f"{given.axis.name}: steps in the picture",
        PICTURE,
        f"{key}.microsteps",
        words,
        at_most=STEP_SEEN,
        remedies=mend,
    )
    if given.load.moves:
        _rings(tell, given, motor, full, micro, step)


def _rings(tell: Teller, given: Driven, motor: sources.Stepper, full: float, micro: float, step: float) -> None:
    """The motor's own ringing, and the rig's, against how fast steps come at the move's fastest."""
    key, fast = given.key, given.cruises[1]
    felt = drives.reflected_inertia(given.chain, float(given.load.inertia.max()), given.source.inertia)
    own = sources.rotor_resonance(motor, felt)
    rate = fast / full
    tell.add(
        by_method(
            f"{key}.own",
            "The motor rings at",
            own,
            "Hz",
            "its shaft about a step, with all that it feels",
            (Given("J", felt, "kg*m^2", "felt"), Given("T_h", motor.holding, "N*m:shaft", "holding torque")),
            source="drive 1.9",
        ),
        by_method(
            f"{key}.rate",
            "Full steps come at",
            rate,
            "Hz",
            "at the move's fastest",
            (Given("w", fast, "rad/s:shaft", "its speed", f"{key}.runs"),),
            source="drive 4.7",
        ),
    )
    near = abs(rate / own - 1) < AROUND if own > 0 else False
    words = Words("Full steps come at {} and its shaft rings at {}", ((rate, "Hz"), (own, "Hz")))
    said = "; from eight microsteps on that is no matter." if near else "."
    mend = (set_one("finer", "{} microsteps", f"{key}.microsteps", float(FINE), "count"),)
    tell.hold(
        f"{key}.own",
        f"{key}.ringing",
        f"{given.axis.name}: away from its own ringing",
        PICTURE,
        f"{key}.microsteps",
        Words(words.template + said, words.amounts),
        at_least=rate,
        state=WATCH if near and micro < FINE else CLEAR,
        remedies=mend,
    )
    first, top = given.needs[0], 0.0
    for n, (name, natural) in enumerate(given.held.rings, 1):
        if natural <= 0:
            continue
        low, high = pulses.shaken(step, float(given.pixels.max()), natural)
        steps = fast / (full / micro)
        top = max(top, 3 * high)
        tell.curves[f"{key}.rates.avoid_{n}"] = Curve(
            f"{key}.rates.avoid_{n}", f"{name}: not near", first.clock, np.full(len(first.clock), natural), "s", "Hz"
        )
        tell.add(
            by_method(
                f"{key}.shakes_{n}",
                f"Steps to avoid, where {name}, up to",
                high,
                "Hz",
                "rates that swing it further than a quarter of a pixel",
                (Given("f_n", natural, "Hz", name), tell.given("s", f"{key}.step")),
                source="drive 4.7",
            )
        )
        inside = low <= steps <= high and low < high
        words = Words(
            f"Steps come at {{}} at the fastest; between {{}} and {{}} {name} with them.",
            ((steps, "Hz"), (low, "Hz"), (high, "Hz")),
        )
        finer = min(float(MOST_MICRO), 2 * micro)
        more = (set_one("finer", "{} microsteps", f"{key}.microsteps", finer, "count"),) if finer > micro else ()
        tell.hold(
            f"{key}.shakes_{n}",
            f"{key}.rings_{n}",
            f"{given.axis.name}: steps away from where {name}",
            PICTURE,
            f"{key}.microsteps",
            words,
            at_most=high,
            value=steps,
            state=WATCH if inside else CLEAR,
            remedies=more,
        )
    if top > 0:
        rates = np.minimum(first.speed / (full / micro), top)
        tell.curves[f"{key}.rates"] = Curve(f"{key}.rates", "steps come at", first.clock, rates, "s", "Hz")


def _cogs(tell: Teller, given: Driven, *, suggest: bool) -> None:
    key = given.key
    inputs = (
        Given("r", CRANKED, "1", "uneven by, of its speed, once a turn"),
        _pixels(given),
        Given(
            "R",
            given.chain.per_output,
            "1" if given.axis.turns else "rad/m",
            "turns of the crank for it",
            f"{key}.ratio",
        ),
    )
    tell.add(
        by_formula(
            f"{key}.cogs_px", "A hand on the crank wobbles the picture by", "px", WOBBLE, inputs, source="drive 1.4"
        )
    )
    shown = tell.value(f"{key}.cogs_px")
    size = geared(given, 1.1 * shown / SEEN) if suggest and shown > SEEN else None
    mend = (set_one("geared", "Geared down: {}", size[0], size[1], size[2]),) if size else ()
    mend = (*mend, set_one("motor", "Let a gearmotor turn it", f"{key}.by", d.GEARMOTOR))
    tell.hold(
        f"{key}.cogs_px",
        f"{key}.cogs",
        f"{given.axis.name}: even on the crank",
        PICTURE,
        f"{key}.radius",
        "Once a turn the picture swings by {} to either side; {} is seen.",
        at_most=SEEN,
        watch_at=1.0,
        remedies=mend,
    )


def _shakes(tell: Teller, given: Driven, shot: Shot) -> None:
    """A hand that pushes is uneven; shot faster and shown slower, less of it falls between two frames."""
    key, fast = given.key, float(np.abs(given.load.speed).max())
    inputs = (
        Given("r", PUSHED, "1", "uneven by, of its speed"),
        Given("v", fast, "rad/s" if given.axis.turns else "m/s", "fastest of the axis"),
        _pixels(given),
        Given("f", shot.capture_fps, "1/s", "frame rate shot", "shot.capture"),
    )
    tell.add(
        by_formula(
            f"{key}.shake_px", "A hand's unevenness, from frame to frame", "px", SHAKE, inputs, source="drive 1.4, 5.7"
        )
    )
    shown = tell.value(f"{key}.shake_px")
    rate = next((r for r in (50.0, 60.0, 100.0, 120.0, 240.0) if r >= shot.capture_fps * shown / SHAKEN), None)
    mend = (
        (set_one("faster", "Shoot at {} and show it slower", "shot.capture", rate, "1/s"),)
        if rate and rate > shot.capture_fps
        else ()
    )
    tell.hold(
        f"{key}.shake_px",
        f"{key}.shakes",
        f"{given.axis.name}: calm by hand",
        PICTURE,
        f"{key}.by",
        "A push by hand is uneven by {} from frame to frame; from {} on it is seen.",
        at_most=SHAKEN,
        watch_at=1.0,
        remedies=mend,
    )


def _sticks(tell: Teller, given: Driven) -> None:
    """A carriage on a cord or belt that gives, which sticks and jumps when it is moved slowly."""
    key, last = given.key, given.last
    assert last is not None
    lost, mass = given.held.starts - given.held.rubs, float(given.load.inertia.max())
    critical = rolling.stick_slip(max(0.0, lost), last.stiff, mass, CORD_DAMPING)
    inputs = (
        Given("dF", lost, "N", "starting less running friction"),
        Given("k", last.stiff, "N/m", "how stiff the last element is"),
        Given("m", mass, "kg", "moved"),
    )
    tell.add(
        by_method(
            f"{key}.sticks_below",
            "On this it sticks below",
            critical,
            "m/s",
            "exact cycle of a load pulled through a spring",
            inputs,
            source="dynamics 3.6",
        )
    )
    slowest = given.cruises[0] / given.chain.per_output
    tell.hold(
        f"{key}.sticks_below",
        f"{key}.sticks",
        f"{given.axis.name}: no sticking",
        PICTURE,
        f"{key}.by",
        Words(
            "Pulled through what gives it sticks and jumps below {}; its slowest move goes at {}.",
            ((critical, "m/s"), (slowest, "m/s")),
        ),
        at_most=slowest / 2,
        state=WATCH if critical > slowest / 2 else CLEAR,
    )
