"""A tight rope in wind, cold and warm: strength left, what is stored in it, how it is tightened."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.cable_cam.design import BY_SAG, STEADIEST
from hazel_lantern.core.kinds.cable_cam.model import NEAR_PULL, Cable, warms, wind_on
from hazel_lantern.core.mechanics import rigging, rope
from hazel_lantern.core.mechanics.safety import safety_class
from hazel_lantern.core.nouns.errors import InputError, RefusedError
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, STOP, STRUCTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller
from hazel_lantern.core.nouns.words import Words

STORES = (50.0, 500.0)  # joules: stand clear of its line; strongly
FACTOR = Formula("eta*B/T")
STORED = Formula("n*T**2*L/(2*EA)")


def needed(design: Design, sort: str) -> float:
    """How many times stronger than its worst pull a rope must be."""
    return max(rigging.LEAST[rigging.stock(sort).family], safety_class(design.text("safety")).rope)


def left_of(design: Design, sort: str, thick: float) -> float:
    """What its weakest end leaves of it [-]. Raises RefusedError, InputError."""
    bent = 1.0 if design.text("rope.eyes") == "bowline" else rigging.bend_left(thick, design.number("rope.over"))
    return min(rigging.end_left(sort, design.text("rope.eyes")), bent)


def strength_told(tell: Teller, design: Design, cable: Cable) -> None:
    stock, worst = cable.stock, tell.value("balance.worst")
    kind = rigging.stock(stock.sort)
    if not kind.track:
        tell.findings.append(
            Finding(
                "balance.stuff",
                "Rope to run on",
                PEOPLE,
                STOP,
                "rope.line",
                Words("Nylon is no track: it stretches, bounces and whips back."),
                remedies=(set_one("steel", "Steel rope 4 mm", "rope.line", "wire7x7-4"),),
            )
        )
    try:
        left = left_of(design, stock.sort, stock.d)
    except (RefusedError, InputError) as error:
        better = "clips" if kind.family == rigging.WIRE else "splice"
        mend: tuple[Remedy, ...] = (
            Remedy(
                "eyes",
                Words("Thimbles with three clips" if better == "clips" else "Spliced eyes"),
                (("rope.eyes", better), ("rope.over", max(design.number("rope.over"), round(10 * stock.d, 3)))),
            ),
        )
        why = (
            str(error)
            if isinstance(error, RefusedError)
            else f"this end {error.allowed}"
            if error.field == "end"
            else str(error)
        )
        tell.findings.append(
            Finding(
                "balance.eyes",
                "Ends of the rope",
                PEOPLE,
                STOP,
                "rope.eyes",
                Words(f"{why[:1].upper()}{why[1:]}."),
                remedies=mend,
            )
        )
        return
    asked = needed(design, stock.sort)
    tell.add(
        by_method(
            "balance.left",
            "Its ends leave of its strength",
            left,
            "1",
            "the weakest of eye and bend over its thimble",
            (design.given("D", "rope.over", "thimble", "m"), Given("d", stock.d, "m", "rope", "rope.line")),
            source="dynamics 1.3",
        ),
        by_formula(
            "balance.factor",
            "Stronger than its worst pull",
            "1",
            FACTOR,
            (
                Given("eta", left, "1", "its ends leave", "balance.left"),
                Given("B", stock.breaking, "N", "breaks at", "rope.line"),
                tell.given("T", "balance.worst"),
            ),
            source="dynamics 1.4",
            headline=True,
        ),
    )
    tell.hold(
        "balance.factor",
        "balance.strong",
        "Strength of the rope",
        PEOPLE,
        "rope.line",
        "With its ends the rope is {} times as strong as its worst pull; {} is asked.",
        at_least=asked,
        watch_at=0.9,
        remedies=_stronger(design, cable, worst, asked, left),
    )
    rated = design.number("rope.fitting")
    tell.hold(
        "balance.worst",
        "balance.fittings",
        "Weakest fitting",
        PEOPLE,
        "rope.fitting",
        "Its worst pull is {}; the weakest fitting is stamped {}."
        if rated
        else "Nothing is stamped on its fittings: none is judged to hold {}.",
        at_most=rated,
        state="" if rated else STOP,
        remedies=(
            set_one("stamped", "Fittings stamped {}", "rope.fitting", math.ceil(1.25 * worst / 500) * 500.0, "N"),
        ),
    )


def _stronger(design: Design, cable: Cable, worst: float, asked: float, left: float) -> tuple[Remedy, ...]:
    """The cheapest rope of its family that is strong enough for that pull, and more sag."""
    found: list[Remedy] = []
    family = rigging.stock(cable.stock.sort).family
    fit = [
        row
        for row in design.catalogue.lines.values()
        if rigging.stock(row.sort).family == family
        and rigging.stock(row.sort).track
        and left * row.breaking >= 1.05 * asked * worst
    ]
    best = min(fit, key=lambda row: row.price, default=None)
    if best is not None and best.id != cable.stock.id:
        found.append(set_one("stronger", best.name, "rope.line", best.id))
    if design.text("rope.set") == BY_SAG:
        now = design.number("rope.sag")
        deeper = math.ceil(1.1 * now * asked * worst / (left * cable.stock.breaking) * 20) / 20
        if now < deeper <= 0.25 * cable.span:
            found.append(set_one("deeper", "Let it sag {}", "rope.sag", deeper, "m"))
    else:
        share = left * cable.stock.breaking / asked / worst
        found.append(
            set_one(
                "slacker",
                "Tighten it to {} while empty",
                "rope.pull",
                max(10.0, round(0.8 * share * cable.bare, -1)),
                "N",
            )
        )
    return tuple(found)


def stored_told(tell: Teller, cable: Cable) -> None:
    pull = float(cable.now.pull.max())
    tell.add(
        by_formula(
            "balance.stored",
            "Stored in the tight rope",
            "J",
            STORED,
            (
                Given("n", float(cable.count), "count", "ropes"),
                Given("T", pull, "N", "most pull on an end", "balance.pull"),
                Given("L", cable.length, "m", "rope", "balance.rope"),
                Given("EA", cable.stock.ea, "N", "stiffness", "rope.line"),
            ),
            source="dynamics 1.4",
        ),
        by_method(
            "balance.stretch",
            "It is stretched by",
            float(cable.states.worst.stretch.max()),
            "1",
            "its worst pull over its stiffness",
            (tell.given("T", "balance.worst"),),
            source="dynamics 1.1",
        ),
    )
    held = tell.value("balance.stored")
    strongly = "far from its line, both sides and behind the ends" if held > STORES[1] else "clear of its line"
    tell.hold(
        "balance.stored",
        "balance.whips",
        "A rope that breaks",
        PEOPLE,
        "rope.sag",
        Words(
            f"{{}} are stored in it: stand {strongly} as it is tightened and while it is tight, gloves and glasses on."
            if held > STORES[0]
            else "{} are stored in it; stand clear of its line all the same.",
            ((held, "J"),),
        ),
        at_most=STORES[0],
        state=WATCH if held > STORES[0] else CLEAR,
    )
    tell.hold(
        "balance.stretch",
        "balance.stretches",
        "Stretch of the rope",
        STRUCTURE,
        "rope.line",
        "At its worst pull it is stretched by {}; beyond {} these figures are rough.",
        at_most=rope.STRETCH[0],
        state=WATCH if tell.value("balance.stretch") > rope.STRETCH[0] else CLEAR,
    )


def weather_told(tell: Teller, design: Design, cable: Cable) -> None:
    grows, speed = warms(design, cable.stock), design.number("wind.speed")
    expands = rigging.stock(cable.stock.sort).expands
    given = (
        Given("a", expands, "1/K", "grows a degree, minus where it shrinks", "rope.line"),
        design.given("dT", "weather.range", "warmer or colder by", "K"),
    )
    pulls = (
        [float(v) for v in rope.bare_pull(cable.line, cable.length * np.array([1 - grows, 1 + grows]))]
        if grows
        else [cable.bare] * 2
    )
    pushed, blown = wind_on(design, cable.stock)
    tell.add(
        by_method(
            "balance.tightest",
            "Empty, at its tightest",
            pulls[0],
            "N",
            "shorter by the weather; steel in the cold, light fibre in the warm",
            given,
            source="dynamics 1.2",
        ),
        by_method(
            "balance.slackest",
            "and at its slackest",
            pulls[1],
            "N",
            "longer by the weather",
            given,
            source="dynamics 1.2",
        ),
        by_method(
            "balance.sag_longest",
            "Sags, warm and grown",
            float(cable.states.longest.sag.max()),
            "m",
            "at the most, its rope longer by weather and growth",
            (*given, design.given("g", "rope.creep", "grows under load by", "1")),
            source="dynamics 1.1, 1.2",
        ),
        by_method(
            "travel.aside",
            "Wind pushes it aside by",
            wind_aside(design, cable),
            "m",
            "in the middle, across the run; two ropes do not stop it",
            (
                Given("F", pushed, "N", "on the carriage", "wind.area"),
                Given("w", blown, "N/m", "on the rope"),
                Given("H", cable.states.windy, "N", "pull across, in the wind"),
            ),
            source="dynamics 1.9",
        ),
    )
    state = STOP if speed > STEADIEST else WATCH if speed > STEADIEST / 2 else CLEAR
    tell.findings.append(
        Finding(
            "balance.wind",
            "Wind and lightning",
            PEOPLE,
            state,
            "wind.speed",
            Words(
                "In {} it is not run, and taken down; so it is when thunder is heard."
                if state == STOP
                else "In gusts of {} watch it; from 8 m/s, and when thunder is heard, it is taken down.",
                ((speed, "m/s"),),
            ),
            speed,
            STEADIEST,
            "at_most",
            "m/s",
            (set_one("calm", "Wait for {}", "wind.speed", 4.0, "m/s"),) if state == STOP else (),
        )
    )


def wind_aside(design: Design, cable: Cable) -> float:
    """How far wind pushes the middle of the run aside [m]. Source: dynamics 1.9."""
    pushed, blown = wind_on(design, cable.stock)
    return (cable.span / 2) ** 2 * (pushed / cable.count / cable.span + blown / 2) / cable.states.windy


def tightening_told(tell: Teller, design: Design, cable: Cable) -> None:
    """From laid by hand to tight, and what it grows."""
    laid = float(rope.bare_length(cable.line, NEAR_PULL)[0][0]) if cable.bare > NEAR_PULL else cable.length
    asks = max(0.0, laid - cable.length) + design.number("rope.creep") * cable.length
    has = design.number("rope.tensioner")
    tell.add(
        by_method(
            "balance.takes",
            "Tensioner must take up",
            asks,
            "m",
            "rope from laid by hand with 100 N to its length, and what it grows",
            (
                Given("L", cable.length, "m", "rope", "balance.rope"),
                design.given("g", "rope.creep", "grows under load by", "1"),
                Given("H", cable.bare, "N", "pull across while empty", "balance.bare"),
            ),
            source="dynamics 1.2",
        )
    )
    tell.hold(
        "balance.takes",
        "balance.tensioner",
        "Tensioner",
        STRUCTURE,
        "rope.tensioner",
        "It must take up {} and takes up {}.",
        at_most=has,
        watch_at=0.9,
        remedies=(set_one("longer", "One that takes up {}", "rope.tensioner", math.ceil(1.2 * asks * 20) / 20, "m"),)
        if 1.2 * asks <= 4.0
        else (),
    )
