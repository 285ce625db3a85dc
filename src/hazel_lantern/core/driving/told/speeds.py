"""Whether what drives an axis runs smoothly at the speeds it is wanted at, and plays the move's shape at all."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document import drives as d
from hazel_lantern.core.document.project import Shot
from hazel_lantern.core.document.shot import TIME
from hazel_lantern.core.driving.driven import Driven, geared
from hazel_lantern.core.driving.others import another
from hazel_lantern.core.motion.shapes import LINEAR, TRAPEZOID
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

ONE_SPEED = 0.1  # of its time, that a motor of one speed may be off
WAY_UNIT = {True: "rad/s:shaft", False: "m/s"}


def speeds(given: Driven, shot: Shot, shelf: Catalogue, *, suggest: bool) -> Told:
    """Its span of speeds against those that all wanted times ask for."""
    tell = Teller()
    if not given.load.moves:
        return tell.told()
    slow, fast = given.cruises
    unit = "m/s" if given.pushed and not given.axis.turns else "rad/s:shaft"
    key, source = given.key, given.source
    tell.add(
        by_method(
            f"{key}.runs",
            "It runs at, at the move's fastest",
            fast,
            unit,
            "fastest of the axis through the chain, of all wanted times",
            (
                Given(
                    "R",
                    given.chain.per_output,
                    "1" if given.axis.turns else "rad/m",
                    "turns of the source for it",
                    f"{key}.ratio",
                ),
            ),
            source="drive 1.1",
        )
    )
    if len(given.needs) > 1:
        tell.add(
            by_method(
                f"{key}.creeps",
                "and at its slowest",
                slow,
                unit,
                "fastest of the slowest of all wanted times",
                (Given("T", max(one.time for one in given.needs), "s", "in the time of"),),
                source="drive 1.1",
            )
        )
    if source.slowest > 0:
        lens = source.slowest / given.chain.per_output * float(given.way.max())
        tell.add(
            by_method(
                f"{key}.smooth",
                "Smallest smooth speed of the lens",
                lens,
                "m/s",
                "the slowest that it runs evenly at, through the chain",
                (Given("w", source.slowest, unit, "the slowest it runs evenly at"),),
                source="drive 1.4, 1.9",
                headline=True,
            )
        )
    if source.one_speed:
        _one_speed(tell, given, shot)
    else:
        _span(tell, given, (slow, fast), unit, shelf, suggest=suggest)
    plays = (LINEAR,) if source.one_speed else (LINEAR, TRAPEZOID)
    if (source.dialled or source.one_speed) and any(one.shape not in plays for one in shot.segments):
        changes = tuple((f"stretch.{n}.shape", plays[-1]) for n in range(len(shot.segments)))
        said = "An even speed from start to end" if source.one_speed else "Even speed with straight ramps"
        words = Words(
            "Turned up and down on a dial it plays an even speed with straight ramps at best; this move is shaped."
        )
        if source.one_speed:
            words = Words("It has one speed and starts and stops at once; this move is shaped.")
        mend = (Remedy("even", Words(said), changes),)
        tell.findings.append(
            Finding(
                f"{key}.plays", f"{given.axis.name}: plays this move", PICTURE, WATCH, f"{key}.by", words, remedies=mend
            )
        )
    return tell.told()


def _span(
    tell: Teller, given: Driven, cruises: tuple[float, float], unit: str, shelf: Catalogue, *, suggest: bool
) -> None:
    key, source, (slow, fast) = given.key, given.source, cruises
    low, high = source.slowest, source.fastest
    too_slow, too_fast = slow < low * (1 - 1e-9), fast > high * (1 + 1e-9)
    state = WATCH if too_slow or too_fast else CLEAR
    words = Words(
        "It runs at {} to {}, and smoothly from {} up to {}.", tuple((v, unit) for v in (slow, fast, low, high))
    )
    if low > high:
        words = Words(
            "What it is asked changes by {} over the move: on a dial its speed would follow that, however fast it "
            "runs.",
            ((given.ripple, "N*m:shaft"),),
        )
    elif too_slow and too_fast:
        settings = math.ceil(math.log(fast / slow) / math.log(high / low) - 1e-9)
        words = Words(
            "Its times ask for {} to {}, more than one ratio gives: {} sets of change gears do, or another stage.",
            ((slow, unit), (fast, unit), (float(max(2, settings)), "count")),
        )
    elif too_slow:
        words = Words("At the slowest it runs at {}, and jerks below {}.", ((slow, unit), (low, unit)))
    elif too_fast:
        words = Words("It would have to run at {}; {} is the most.", ((fast, unit), (high, unit)))
    mend: tuple[Remedy, ...] = ()
    if suggest and state != CLEAR and given.made and not (too_slow and too_fast):
        mend = _regeared(given, 1.1 * low / slow if too_slow else 0.95 * high / fast) if low <= high else ()
    if suggest and state != CLEAR:
        mend = (*mend, *another(given, shelf))
    sense = {"at_least": low} if too_slow else {"at_most": high}
    figure = f"{key}.creeps" if too_slow and len(given.needs) > 1 else f"{key}.runs"
    tell.hold(
        figure,
        f"{key}.everywhere",
        f"{given.axis.name}: runs smoothly",
        PICTURE,
        f"{key}.by",
        words,
        value=slow if too_slow else fast,
        state=state,
        remedies=mend,
        **sense,
    )


def _regeared(given: Driven, factor: float) -> tuple[Remedy, ...]:
    size = geared(given, factor)
    if size is None:
        return ()
    n = int(size[0].split(".")[2]) - 1
    sort = d.SORTS[given.drive.elements[n].kind]
    label = next(one.label for one in sort.sizes if one.key == sort.gears[0])
    return (set_one("geared", f"{label}: {{}}", size[0], size[1], size[2]),)


def _one_speed(tell: Teller, given: Driven, shot: Shot) -> None:
    """A motor of one speed makes the move in a time of its own."""
    key, only = given.key, given.source.fastest
    first = given.needs[0]
    turns = float(np.trapezoid(first.speed, first.clock))
    takes = turns / only
    tell.add(
        by_method(
            f"{key}.takes",
            "The move takes, at its one speed",
            takes,
            "s",
            "all that it has to turn, over its speed",
            (Given("q", turns, "rad", "to turn"), Given("w", only, "rad/s:shaft", "its speed")),
            source="drive 1.9",
        )
    )
    off = abs(takes / shot.duration_s - 1)
    words = Words(
        "It has one speed: the move then takes {}, the shot asks for {}.", ((takes, "s"), (shot.duration_s, "s"))
    )
    time = (
        (set_one("time", "A move of {}", "shot.time", round(takes, 1), "s"),) if TIME.low <= takes <= TIME.high else ()
    )
    mend = (*time, *_regeared(given, shot.duration_s / takes))
    tell.hold(
        f"{key}.takes",
        f"{key}.one_speed",
        f"{given.axis.name}: its one speed",
        PICTURE,
        f"{key}.by",
        words,
        at_most=shot.duration_s * (1 + ONE_SPEED),
        state=WATCH if off > ONE_SPEED else CLEAR,
        remedies=mend,
    )
