"""Whether what drives an axis is strong enough, everywhere and at every wanted time, and what slips or breaks first."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document import drives as d
from hazel_lantern.core.document.shot import TIME
from hazel_lantern.core.driving.driven import Driven, geared
from hazel_lantern.core.driving.needs import from_standing
from hazel_lantern.core.driving.others import another, stepped_down
from hazel_lantern.core.motion import drives
from hazel_lantern.core.nouns.figure import Curve, Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, STOP, STRUCTURE, WATCH, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

WEAK = {d.SCREW: "outer", d.SPUR: "width", d.SECTOR: "width"}  # the size of an element that makes it stronger
WIDEST = 15.0  # modules that a gear may be wide
NEARLY = 0.5  # of the speed a motor can run at, where it gives about half its torque
SLIP = 1.5  # times what it is pulled with, that what grips should hold


def enough(given: Driven, shelf: Catalogue, *, suggest: bool) -> Told:
    """What is asked for and what is there, over every wanted time."""
    tell, key = Teller(), given.key
    _chain(tell, given)
    if not given.load.moves:  # it only has to be broken loose, and held
        _starts(tell, given, suggest=suggest)
        return tell.told()
    worst = given.worst
    k = worst.worst
    inputs = (
        Given("F", float(worst.effort[k]), given.effort_unit, "asked for at the axis, its inertia in it"),
        Given(
            "R",
            given.chain.per_output,
            "1" if given.axis.turns else "rad/m",
            "turns of the source for it",
            f"{key}.ratio",
        ),
        Given("eta", given.chain.efficiency, "1", "efficiency of the chain", f"{key}.efficiency"),
        Given("T", worst.time, "s", "time of the move", "shot.time"),
    )
    how = (
        "weight and inertia of every piece by d'Alembert, friction on top, through the stages one by one; where "
        "least is left"
    )
    tell.add(
        by_method(
            f"{key}.needs",
            "Asked of it, where least is left",
            abs(float(worst.asked[k])),
            given.unit,
            how,
            inputs,
            source="drive 1.2, 1.3",
        ),
        by_method(
            f"{key}.gives",
            "It gives there",
            float(worst.given[k]),
            given.unit,
            f"the {given.source.name.lower()} at its speed then",
            (Given("w", float(worst.speed[k]), "rad/s:shaft" if not given.pushed else "1", "its speed"),),
            source="drive 1.9",
        ),
    )
    tell.add(
        by_method(
            f"{key}.spare",
            "Least to spare",
            float(worst.spare[k]),
            "1",
            "what it gives over what is asked",
            (tell.given("T_a", f"{key}.gives"), tell.given("T_n", f"{key}.needs")),
            source="drive 1.3",
            headline=True,
        ),
        by_method(
            f"{key}.least_at",
            "at",
            float(worst.clock[k]),
            "s",
            "of the move",
            (Given("T", worst.time, "s", "in the time of"),),
            source="drive 1.3",
        ),
    )
    _strong(tell, given, shelf, suggest=suggest)
    _starts(tell, given, suggest=suggest)
    _grips(tell, given)
    _curves(tell, given)
    return tell.told()


def _chain(tell: Teller, given: Driven) -> None:
    key, chain = given.key, given.chain
    stages = tuple(
        Given(f"i_{n}", one.stage.ratio, "1", d.SORTS[one.kind].name.lower(), f"{key}.{n}.{d.SORTS[one.kind].gears[0]}")
        for n, one in enumerate(given.made, 1)
    )
    if given.axis.turns or not chain.travel:
        tell.add(
            by_method(
                f"{key}.ratio",
                "Turns for one of the axis",
                chain.ratio,
                "1",
                "all ratios together",
                stages,
                source="drive 1.1",
                headline=bool(given.made),
            )
        )
    else:
        tell.add(
            by_method(
                f"{key}.ratio",
                "Way for a turn of it",
                chain.travel / chain.ratio,
                "m",
                "way for a turn of the last shaft, over all ratios",
                stages,
                source="drive 1.1",
                headline=True,
            )
        )
    tell.add(
        by_method(
            f"{key}.efficiency",
            "Efficiency of the chain",
            chain.efficiency,
            "1",
            "all efficiencies together",
            stages,
            source="drive 1.1",
        )
    )
    if given.made:
        moved = float(given.load.inertia.max())
        felt = drives.reflected_inertia(chain, moved, given.source.inertia)
        unit = "kg*m^2" if given.axis.turns else "kg"
        tell.add(
            by_method(
                f"{key}.felt",
                "Inertia that it feels",
                felt,
                "kg*m^2",
                "what is moved and all that turns, over the ratios squared",
                (
                    Given("J", moved, unit, "moved"),
                    Given("J_s", given.source.inertia, "kg*m^2", "of the source itself"),
                ),
                source="drive 1.1",
            )
        )


def _strong(tell: Teller, given: Driven, shelf: Catalogue, *, suggest: bool) -> None:
    key, asks, spare = given.key, given.source.spare, tell.value(f"{given.key}.spare")
    who = "Hands" if given.source.motor is None else "The motor"
    give = "give" if given.source.motor is None else "gives"
    words = Words(
        f"{who} {give} {{}} times what is asked where least is left, {{}} into the move of {{}}; {{}} times is safe.",
        ((spare, "1"), (tell.value(f"{key}.least_at"), "s"), (given.worst.time, "s"), (asks, "1")),
    )
    if spare < 1:
        words = Words(
            f"Too weak: {{}} is asked {{}} into the move of {{}}, and {who.lower()} {give} {{}} at that speed.",
            (
                (tell.value(f"{key}.needs"), given.unit),
                (tell.value(f"{key}.least_at"), "s"),
                (given.worst.time, "s"),
                (tell.value(f"{key}.gives"), given.unit),
            ),
        )
    if tell.value(f"{key}.gives") == 0:
        fast = np.abs(given.worst.speed).max()
        words = Words(
            "So fast it gives nothing: it would have to run at {}, and {} is the most.",
            ((float(fast), "rad/s:shaft"), (given.source.fastest, "rad/s:shaft")),
        )
    state = STOP if spare < 1 else WATCH if spare < asks else CLEAR
    mend = (*_slower(given), *_stronger(given, shelf, asks, spare)) if suggest and state != CLEAR else ()
    tell.hold(
        f"{key}.spare",
        f"{key}.strong",
        f"{given.axis.name}: strong enough",
        PICTURE,
        f"{key}.by",
        words,
        at_least=asks,
        state=state,
        remedies=mend,
    )


def _slower(given: Driven) -> tuple[Remedy, ...]:
    """Where it would have to run faster than it can: geared up, or a move that takes longer."""
    most, fast = NEARLY * given.source.fastest, float(np.abs(given.worst.speed).max())
    if not 0 < most < fast:
        return ()
    times = fast / most
    found, size = [], geared(given, 1 / times)
    if size is not None:
        found.append(set_one("geared_up", f"{_said(given, size[0])}: {{}}", size[0], size[1], size[2]))
    takes = math.ceil(10 * given.worst.time * times) / 10
    if given.worst is given.needs[0] and TIME.low <= takes <= TIME.high:
        found.append(set_one("slower", "A move of {}", "shot.time", takes, "s"))
    return tuple(found)


def _stronger(given: Driven, shelf: Catalogue, asks: float, spare: float) -> tuple[Remedy, ...]:
    """Geared down as far as its speed allows, or another motor that does it."""
    found: list[Remedy] = []
    room = given.source.fastest / max(given.cruises[1], 1e-12)
    factor = 1.1 * asks / max(spare, 1e-9)
    if factor < 0.95 * room:
        size = geared(given, factor)
        if size is None:
            found += stepped_down(given, factor)
        else:
            found.append(set_one("geared", f"{_said(given, size[0])}: {{}}", size[0], size[1], size[2]))
    found += another(given, shelf)
    if not given.axis.turns and spare < asks and given.held.rubs > 0 and given.drive.source in d.BY_HAND:
        found.append(set_one("motor", "Let a gearmotor move it", f"{given.key}.by", d.GEARMOTOR))
    return tuple(found)


def _said(given: Driven, key: str) -> str:
    n = int(key.split(".")[2]) - 1
    sort = d.SORTS[given.drive.elements[n].kind]
    return next(size.label for size in sort.sizes if size.key == sort.gears[0])


def _starts(tell: Teller, given: Driven, *, suggest: bool) -> None:
    """Broken loose from standing, wherever it stands."""
    key, most = given.key, from_standing(given.load, given.held, given.chain)
    inputs = (
        Given("F_s", given.held.starts, given.effort_unit, "rubs with as it starts"),
        Given("W", float(np.abs(given.load.anywhere).max()), given.effort_unit, "weight asks for, at its worst place"),
    )
    tell.add(
        by_method(
            f"{key}.starts",
            "To break it loose",
            most,
            given.unit,
            "weight at its worst place, and what it rubs with from standing, through the chain",
            inputs,
            source="drive 1.3",
        )
    )
    has = given.source.standing
    state = STOP if has < most else WATCH if has < SLIP * most else CLEAR
    words = Words(
        "Breaking it loose takes {}, wherever it stands; {} is there.", ((most, given.unit), (has, given.unit))
    )
    size = geared(given, 1.1 * SLIP * most / max(has, 1e-9)) if suggest and given.made and state != CLEAR else None
    mend = (set_one("geared", f"{_said(given, size[0])}: {{}}", size[0], size[1], size[2]),) if size else ()
    tell.hold(
        f"{key}.starts",
        f"{key}.breaks_loose",
        f"{given.axis.name}: starts anywhere",
        PICTURE,
        f"{key}.by",
        words,
        at_most=has / SLIP,
        state=state,
        remedies=mend,
    )


def pulls(given: Driven) -> float:
    """The most that the axis is pulled with, moving or breaking loose [N] or [N*m]."""
    moving = max(float(np.abs(one.effort).max()) for one in given.needs)
    return max(moving, given.held.starts + float(np.abs(given.load.anywhere).max()))


def _grips(tell: Teller, given: Driven) -> None:
    """What grips by friction, and cords, belts and screws under what they pull."""
    key, most = given.key, pulls(given)
    for n, one in enumerate(given.made, 1):
        after = math.prod(other.stage.ratio * other.stage.efficiency for other in given.made[n:])
        felt = most
        if one is not given.last:
            felt = (most * given.chain.travel / drives.TURN if given.chain.travel else most) / after
        unit, name = "N" if one.gives == d.WAY else "N*m", d.SORTS[one.kind].name
        inputs = (Given("F", most, given.effort_unit, "most at the axis"),)
        if math.isfinite(one.slips):
            tell.add(
                by_method(
                    f"{key}.{n}.grips", f"{name} holds", one.slips, unit, "before it slips", inputs, source="drive 1.4"
                )
            )
            words = Words(f"{name}: up to {{}} is pulled, and it slips at {{}}.", ((felt, unit), (one.slips, unit)))
            tell.hold(
                f"{key}.{n}.grips",
                f"{key}.{n}.slips",
                f"{name} does not slip",
                PICTURE,
                _grip(key, n, one.kind),
                words,
                at_least=SLIP * felt,
                state=STOP if one.slips < felt else WATCH if one.slips < SLIP * felt else CLEAR,
                remedies=_harder(given, n, SLIP * felt / one.slips),
            )
        if math.isfinite(one.breaks):
            _bears(tell, given, n, felt)


def _bears(tell: Teller, given: Driven, n: int, felt: float) -> None:
    """Teeth, cords, belts and screws under what they are asked, and teeth under a motor that is stalled."""
    key, one, name = given.key, given.made[n - 1], d.SORTS[given.made[n - 1].kind].name
    unit, where = "N" if one.gives == d.WAY else "N*m", f"{key}.{n}.{WEAK.get(one.kind, 'breaks')}"
    how = (
        "the weaker gear's tooth broken off, by Lewis"
        if one.mesh
        else "a fifth of what a cord breaks at, a third of what a belt breaks or a screw buckles at"
    )
    inputs = (Given("F", felt, unit, "most it is asked"),)
    tell.add(
        by_method(
            f"{key}.{n}.bears",
            f"{name}: {'bear' if one.mesh else 'bears'}",
            one.breaks,
            unit,
            how,
            inputs,
            source="drive 3.6" if one.mesh else "drive 1.4, statics 9",
        )
    )
    mend = _thicker(given, n, felt / one.breaks)
    tell.hold(
        f"{key}.{n}.bears",
        f"{key}.{n}.breaks",
        f"{name}: strong enough",
        STRUCTURE,
        where,
        f"{name}: {{}} is borne; {{}} is asked.",
        at_least=felt,
        remedies=mend,
    )
    if one.mesh is None or given.source.motor is None:
        return
    before = math.prod(other.stage.ratio * other.stage.efficiency for other in given.made[:n])
    stalled = given.source.standing * before
    words = Words(
        f"{name}: a motor that is stopped by something turns it with {{}}; its teeth break at {{}}."
        + ("" if stalled <= one.breaks else " A fuse that blows, or a clutch, before they do."),
        ((stalled, unit), (one.breaks, unit)),
    )
    tell.hold(
        f"{key}.{n}.bears",
        f"{key}.{n}.stalled",
        f"{name}: motor stopped",
        STRUCTURE,
        where,
        words,
        at_least=stalled,
        state=WATCH if stalled > one.breaks else CLEAR,
        remedies=_thicker(given, n, stalled / one.breaks),
    )


def _grip(key: str, n: int, kind: str) -> str:
    return f"{key}.{n}.{'tight' if kind == d.CAPSTAN else 'press'}"


def _harder(given: Driven, n: int, factor: float) -> tuple[Remedy, ...]:
    """Pressed on, or pulled tight, as much harder as it asks for."""
    where, element = _grip(given.key, n, given.drive.elements[n - 1].kind), given.drive.elements[n - 1]
    size = next(one for one in d.SORTS[element.kind].sizes if one.key == where.rpartition(".")[2])
    value = math.ceil(1.1 * factor * float(element.values.get(size.key, size.default)))  # type: ignore[arg-type]
    name = "Pull it tight with {}" if element.kind == d.CAPSTAN else "Press it on with {}"
    return (set_one("harder", name, where, float(value), "N"),) if value <= getattr(size, "high", 0.0) else ()


def _thicker(given: Driven, n: int, factor: float) -> tuple[Remedy, ...]:
    """A stronger cord or belt, or a screw with a thicker core."""
    element = given.drive.elements[n - 1]
    values = {**d.SORTS[element.kind].usual(), **element.values}
    if element.kind == d.SCREW:
        grown = max(1.0, factor**0.25) * 1.1
        outer, mean = (math.ceil(float(values[k]) * grown * 1e3) / 1e3 for k in ("outer", "mean"))
        changes = ((f"{given.key}.{n}.outer", outer), (f"{given.key}.{n}.mean", mean))
        return (Remedy("thicker", Words("A screw of {}", ((outer, "m"),)), changes),) if outer <= 0.06 else ()
    if "width" in values and "module" in values:
        wide = math.ceil(1.15 * factor * float(values["width"]) * 1e3) / 1e3
        stuff = next(
            (k for k, row in d.GEAR_STUFF.items() if row[1] >= 1.1 * factor * d.GEAR_STUFF[str(values["stuff"])][1]),
            None,
        )
        wider = (
            (set_one("wider", "Gears {} wide", f"{given.key}.{n}.width", wide, "m"),)
            if 0 < wide <= WIDEST * float(values["module"])
            else ()
        )
        other = (
            (set_one("stuff", f"Cut from {d.GEAR_STUFF[stuff][0].lower()}", f"{given.key}.{n}.stuff", stuff),)
            if stuff and factor > 0.8
            else ()
        )
        return (*wider, *other)
    breaks = math.ceil(1.3 * factor * float(values["breaks"]) / 10) * 10.0
    return (
        (set_one("stronger", "One that breaks at {}", f"{given.key}.{n}.breaks", breaks, "N"),) if breaks <= 1e5 else ()
    )


def _curves(tell: Teller, given: Driven) -> None:
    """Asked and given over the shot's own time, and of the wanted time with the least to spare."""
    first = given.needs[0]
    top = 4 * float(np.abs(first.asked).max())
    for name, y in (("asked", first.asked), ("given", np.minimum(first.given, max(top, float(first.given.min()))))):
        key = f"{given.key}.{name}"
        words = "the move asks" if name == "asked" else "it gives, at that speed"
        tell.curves[key] = Curve(key, words, first.clock, np.abs(y) if name == "given" else y, "s", given.unit)
