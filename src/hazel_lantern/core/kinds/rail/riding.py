"""Whether wheels can ride their rail at all, how an inclined pair lies on a round one,
what casters do when reversed."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.rail.design import CASTERS_LOCKED
from hazel_lantern.core.kinds.rail.model import Carriage, Straight
from hazel_lantern.core.kinds.shared.splices import ROUND
from hazel_lantern.core.mechanics import wheel_pairs
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import (
    BUILD,
    CLEAR,
    PICTURE,
    STOP,
    STRUCTURE,
    WATCH,
    Finding,
    Remedy,
    judge,
    set_one,
)
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words, within

MARGIN = 0.001  # metres of a tread kept free at either edge
FLANGE = 0.001  # metres of either flange that a groove keeps beyond what it runs on
SHIFT = 0.001  # metres of shift that is seen
SWINGS = Formula("2*t")


def riding_figures(design: Design, rail: Straight) -> Told:
    """Groove, tread or caster against the section it runs on."""
    tell, wheel, bar = Teller(), rail.wheel, rail.bar
    if wheel.shape == "grooved":
        # A groove of 90 degrees is as deep as half of what it takes in.
        wide = bar.depth * math.sqrt(0.5) if bar.shape in ROUND else bar.width
        if bar.shape == "profile":
            wide = 0.0  # it runs on the edges of a slot
        _spare(
            tell,
            design,
            rail,
            wheel.width - 2 * FLANGE - wide,
            "groove",
            "What it runs on is {} too wide for the groove",
        )
    elif rail.count == 1 and len(rail.wheels) == 3:
        _never(
            tell, design, "Flat treads slip up and down off the sides of one profile: take grooved wheels.", "grooved"
        )
    elif wheel.shape == "caster":
        if bar.shape in ROUND or rail.mount[2] < 0:
            _never(
                tell,
                design,
                "A caster neither stays on a round rail nor hangs from one: take wheels in inclined pairs.",
                "round",
            )
        else:
            _spare(
                tell, design, rail, bar.width - wheel.width, "rail", "The rail is {} too narrow for the caster's tread"
            )
    elif bar.shape in ROUND:
        _pair(tell, design, rail)
    return tell.told()


def _never(tell: Teller, design: Design, words: str, shape: str) -> None:
    """Wheels that no size would let ride there."""
    tell.add(
        by_method(
            "build.ride_room",
            "Tread on its rail",
            -1.0,
            "m",
            "no wheel of this shape rides this rail",
            (),
            source="sizes",
        )
    )
    tell.hold(
        "build.ride_room",
        "build.rides",
        "Wheels on their rail",
        STRUCTURE,
        "carriage.wheel",
        Words(words),
        at_least=0.0,
        state=STOP,
        remedies=_like(design, shape),
    )


def _spare(tell: Teller, design: Design, rail: Straight, spare: float, what: str, narrow: str) -> None:
    """What is left of a groove beside its rail, or of a rail beside its tread [m]."""
    given = (
        Given("w", rail.wheel.width, "m", "width of the wheel", "carriage.wheel"),
        Given("b", rail.bar.width, "m", "width of the rail", "rail.section"),
    )
    method = (
        "of the groove, a flange of 1 mm kept at either side" if what == "groove" else "of the rail beside the tread"
    )
    tell.add(by_method("build.ride_room", "Left beside the tread", spare, "m", method, given, source="sizes"))
    words = "{} is left beside it." if spare >= 0 else narrow + ": it climbs out or rolls off."
    better = _wider(design, rail) if what == "rail" else ()
    tell.hold(
        "build.ride_room",
        "build.rides",
        "Wheels on their rail",
        STRUCTURE,
        "carriage.wheel",
        Words(words, ((abs(spare), "m"),)),
        at_least=0.0,
        state=CLEAR if spare >= 0 else STOP,
        remedies=(*_like(design, "round"), *better) if spare < 0 else (),
    )


def _like(design: Design, shape: str) -> tuple[Remedy, ...]:
    """The smallest wheel of a shape that does."""
    good = [row for row in design.catalogue.wheels.values() if row.shape == shape]
    best = min(good, key=lambda row: (row.d, row.id), default=None)
    return (set_one("rides", f"Use {within(best.name)}", "carriage.wheel", best.id),) if best else ()


def _wider(design: Design, rail: Straight) -> tuple[Remedy, ...]:
    """The lightest rail of the same stuff and shape that is wide enough."""
    good = [
        row
        for row in design.catalogue.sections.values()
        if (row.shape, row.material, row.system) == (rail.bar.shape, rail.bar.material, rail.bar.system)
        and row.width >= rail.wheel.width
    ]
    best = min(good, key=lambda row: (float(row.section().area), row.id), default=None)
    return (set_one("wide", f"Use {within(best.name)}", "rail.section", best.id),) if best else ()


def _pair(tell: Teller, design: Design, rail: Straight) -> None:
    """Where the treads of an inclined pair meet a round rail, which rails they fit,
    and their room above what is below."""
    wheel, rod, lean = rail.wheel, rail.bar.depth, rail.leans
    centre = rail.tread_middle
    reset = (set_one("set", "Set the wheels to this rail", "pair.apart", 0.0),) if "pair.apart" in design.values else ()
    if centre <= 0:
        words = Words("Set {} apart, the wheels of a pair meet each other above the rail.", ((rail.pair_apart, "m"),))
        tell.findings.append(
            Finding("build.pair", "Inclined pair on its rail", STRUCTURE, STOP, "pair.apart", words, remedies=reset)
        )
        return
    pair = wheel_pairs.on_pipe(rod, lean, wheel.d, wheel.width, centre, MARGIN, rail.weight / 4)
    off = abs(pair.contact - centre)
    given = (
        Given("D", rod, "m", "rail", "rail.section"),
        Given("beta", lean, "rad", "contact from upright"),
        Given("w", wheel.width, "m", "tread", "carriage.wheel"),
    )
    tell.add(
        by_method(
            "build.pair_least",
            "Smallest rail this pair fits",
            pair.smallest,
            "m",
            "the contact keeps 1 mm off either edge of the tread",
            given,
            source="dynamics 4.3",
        ),
        by_method(
            "build.pair_most",
            "Largest rail it fits",
            pair.largest,
            "m",
            "the contact keeps 1 mm off either edge of the tread",
            given,
            source="dynamics 4.3",
        ),
        by_method(
            "build.pair_apart",
            "Wheels of a pair, middle to middle",
            2 * pair.aside,
            "m",
            "across the rail",
            given,
            source="dynamics 4.3",
        ),
        by_method(
            "build.pair_off",
            "Rail meets the tread off its middle by",
            off,
            "m",
            "contact along the tread, from its middle",
            given,
            source="dynamics 4.3",
        ),
    )
    free = wheel.width / 2 - MARGIN
    tell.hold(
        "build.pair_off",
        "build.pair",
        "Inclined pair on its rail",
        STRUCTURE,
        "carriage.wheel",
        Words(
            "The rail meets the treads {} off their middle; the pair fits rails from {} to {}."
            if pair.fits
            else "The rail meets the treads {} off their middle, over their edge; the pair fits rails from {} to {}.",
            ((off, "m"), (pair.smallest, "m"), (pair.largest, "m")),
        ),
        at_most=free,
        state=CLEAR if pair.fits else STOP,
        remedies=() if pair.fits else reset,
    )
    above = rod / 2 + pair.low_edge
    if rail.base is not None:
        tell.add(
            by_method(
                "build.pair_clear",
                "Wheels clear the board by",
                above,
                "m",
                "lower edge of a wheel above the rail's lower side",
                given,
                source="statics 5.5",
            )
        )
        tell.hold(
            "build.pair_clear",
            "build.pair_low",
            "Wheels over the board",
            BUILD,
            "carriage.wheel",
            "The lower edge of a wheel clears the board under the rails by {}; {} passes.",
            at_least=0.002,
            state=judge(above, 0.002, "at_least", BUILD, watch_at=1.0),
        )


def caster_figures(design: Design, rail: Carriage) -> Told:
    """How far casters shift what they carry when it is reversed."""
    if rail.wheel.shape != "caster":
        return Told()
    tell, locked = Teller(), design.text("carriage.casters") == CASTERS_LOCKED
    tell.add(
        by_formula(
            "travel.swings_round",
            "Casters shift it on reversal by, at most",
            "m",
            SWINGS,
            (
                Given(
                    "t",
                    0.0 if locked else rail.wheel.trail,
                    "m",
                    "contact behind the swivel; none where it is locked",
                    "carriage.casters",
                ),
            ),
            assumptions=("a caster swings right round",),
            source="statics 5.5",
        )
    )
    lock = (set_one("lock", "Lock them straight", "carriage.casters", CASTERS_LOCKED),)
    tell.hold(
        "travel.swings_round",
        "travel.reversed",
        "Casters when reversed",
        PICTURE,
        "carriage.casters",
        Words("Locked straight, its casters roll like wheels; align all of them first.")
        if locked
        else Words(
            "On reversal each caster swings round and shifts the carriage by up to {}: lock them, or roll one way "
            "only.",
            ((2 * rail.wheel.trail, "m"),),
        ),
        at_most=SHIFT,
        state=CLEAR if locked else WATCH,
        remedies=() if locked else lock,
    )
    return tell.told()
