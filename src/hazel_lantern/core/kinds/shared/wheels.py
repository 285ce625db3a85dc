"""What wheels and their axles bear."""

from __future__ import annotations

import math

from hazel_lantern.core.catalogue import Wheel
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.shared.works import bolt_bears, works
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import STRUCTURE, WATCH, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words, within

AXLE_CORE = 6.47e-3  # metres of an M8 in its thread
STANDS_OFF = 0.006  # metres from the nut to the wheel


def wheels_bear(
    design: Design,
    wheel: Wheel,
    most: float,
    where: str,
    remedies: tuple[Remedy, ...] = (),
    key: str = "carriage.wheel",
    *,
    forked: bool = False,
) -> Told:
    """The most a wheel is pressed with [N] against the load it is good for, and what that does to its axle, an M8 held
    at one end or `forked` at both; `key` chooses the wheel.
    """
    tell, carries = Teller(), wheel.carries * GRAVITY
    given = (Given("m", wheel.carries, "kg", "what a wheel is good for", key),)
    tell.add(
        by_method(
            "balance.pressed",
            "Most a wheel bears",
            most,
            "N",
            "rigid carriage on equal wheels, hard stop and careless push either way; inclined pairs share",
            given,
            source="statics 5.1",
        )
    )
    if carries > 0:
        tell.hold(
            "balance.pressed",
            "balance.wheels",
            "Load of the wheels",
            STRUCTURE,
            key,
            "A wheel is pressed with up to {}; it is good for {}.",
            at_most=carries,
            remedies=(*_stronger(design, wheel, most, key), *remedies),
        )
    else:
        tell.hold(
            "balance.pressed",
            "balance.wheels",
            "Load of the wheels",
            STRUCTURE,
            key,
            Words("A wheel is pressed with up to {}; nobody said what it is good for: ask.", ((most, "N"),)),
            at_most=0.0,
            state=WATCH,
        )
    lever = wheel.width / 2 + STANDS_OFF
    ends = 2 if forked else 1
    works(
        tell,
        "rig.axle",
        "axle of a wheel",
        32 * most / ends * lever / (math.pi * AXLE_CORE**3),
        bolt_bears(design),
        f"load times half its width and 6 mm, on an M8 held at {'both ends' if forked else 'one end'}",
        (
            Given("N", most, "N", "most a wheel bears", "balance.pressed"),
            Given("a", lever, "m", "from nut to wheel", key),
        ),
        key,
        source="statics 5.1, 13",
        remedies=remedies,
    )
    return tell.told()


def _stronger(design: Design, wheel: Wheel, most: float, key: str) -> tuple[Remedy, ...]:
    """The smallest wheel of the same sort that bears it soundly."""
    good = [
        row for row in design.catalogue.wheels.values()
        if row.shape == wheel.shape and 0.8 * row.carries * GRAVITY >= most
    ]  # fmt: skip
    best = min(good, key=lambda row: (row.d, row.id), default=None)
    return (set_one("stronger", f"Use {within(best.name)}", key, best.id),) if best else ()
