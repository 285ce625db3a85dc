"""What wheels and their axles bear."""

from __future__ import annotations

from hazel_lantern.core.catalogue import Wheel
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.shared.fixings import Axle, axle
from hazel_lantern.core.kinds.shared.works import bolt_bears, works
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import STRUCTURE, WATCH, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words, within


def wheels_bear(
    design: Design,
    wheel: Wheel,
    most: float,
    where: str,
    remedies: tuple[Remedy, ...] = (),
    key: str = "carriage.wheel",
    *,
    forked: bool = False,
    off: float = 0.0,
    nipped: float = 0.0,
) -> Told:
    """The most a wheel is pressed with [N] against the load it is good for, and what that does to its axle, held beside
    it at one end or `forked` at both; `key` chooses the wheel. One that lies flat, so far `off` its plate [m], is
    carried by the slope of its groove: pressed aside by as much and by what it is `nipped` up with [N], and tilted at
    its rim.
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
    if wheel.shape != "caster":  # a caster comes with its axle
        other = _sounder(design, wheel, most, key, forked=forked, off=off, nipped=nipped)
        held = axle(design.catalogue, wheel, off)
        _axle(tell, design, held, most, wheel, key, (*remedies, *other), forked=forked, nipped=nipped)
    return tell.told()


def _bent(held: Axle, wheel: Wheel, most: float, *, forked: bool, nipped: float) -> float:
    """Moment in an axle where it is held [N*m]."""
    if held.spacer:
        return (most + nipped) * held.lever + most * wheel.d / 2
    return most / (2 if forked else 1) * held.lever


def _axle(
    tell: Teller,
    design: Design,
    held: Axle,
    most: float,
    wheel: Wheel,
    key: str,
    remedies: tuple[Remedy, ...],
    *,
    forked: bool,
    nipped: float,
) -> None:
    """Bending of an axle where it is held."""
    moment = _bent(held, wheel, most, forked=forked, nipped=nipped)
    thread = held.row.id
    method = (
        f"(N + Y) a and N at the rim, over a spacer tube clamped by an {thread}"
        if held.spacer
        else f"load times half its width and 6 mm, on an {thread} held at {'both ends' if forked else 'one end'}"
    )
    works(
        tell,
        "rig.axle",
        "axle of a wheel",
        moment / held.modulus,
        bolt_bears(design),
        method,
        (
            Given("N", most, "N", "most a wheel bears", "balance.pressed"),
            Given("a", held.lever, "m", "from what holds it to the wheel's middle", key),
            *((Given("Y", nipped, "N", "side preload", "wheel.preload"),) if held.spacer else ()),
        ),
        key,
        source="statics 5.1, 13",
        remedies=remedies,
    )


def _sounder(
    design: Design, wheel: Wheel, most: float, key: str, *, forked: bool, off: float, nipped: float
) -> tuple[Remedy, ...]:
    """The wheel of the same sort, nearest in size, whose axle bears it soundly: narrower, or on a thicker axle."""
    good = []
    for row in design.catalogue.wheels.values():
        held = axle(design.catalogue, row, off)
        stress = _bent(held, row, most, forked=forked, nipped=nipped) / held.modulus
        if row.shape == wheel.shape and row.carries * GRAVITY >= most and stress <= 0.8 * bolt_bears(design):
            good.append(row)
    best = min(good, key=lambda row: (abs(row.d - wheel.d), row.id), default=None)
    return (set_one("axle", f"Use {within(best.name)}", key, best.id),) if best else ()


def _stronger(design: Design, wheel: Wheel, most: float, key: str) -> tuple[Remedy, ...]:
    """The smallest wheel of the same sort that bears it soundly."""
    good = [
        row
        for row in design.catalogue.wheels.values()
        if row.shape == wheel.shape and 0.8 * row.carries * GRAVITY >= most
    ]
    best = min(good, key=lambda row: (row.d, row.id), default=None)
    return (set_one("stronger", f"Use {within(best.name)}", key, best.id),) if best else ()
