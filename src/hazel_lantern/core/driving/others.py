"""Other motors and gears that would do."""

from __future__ import annotations

import math

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document import drives as d
from hazel_lantern.core.document.project import Drive
from hazel_lantern.core.driving.driven import Driven
from hazel_lantern.core.driving.needs import needs
from hazel_lantern.core.driving.source import source_of
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import Remedy, set_one
from hazel_lantern.core.nouns.words import Words

ROWS = {d.GEARMOTOR: "gearmotors", d.STEPPER: "steppers", d.SLOW: "slow_motors"}
ROW_KEYS = {d.GEARMOTOR: "gearmotor", d.STEPPER: "stepper", d.SLOW: "slow"}
PINION = 16  # teeth of a gear that steps it down
MOST = 400  # teeth


def another(given: Driven, shelf: Catalogue) -> list[Remedy]:
    """The cheapest motor of the same sort that is strong and quick enough and runs smoothly."""
    table = ROWS.get(given.drive.source)
    if table is None:
        return []
    key = ROW_KEYS[given.drive.source]
    shot = given.needs[0].time
    for row in sorted(getattr(shelf, table).values(), key=lambda one: one.price):
        values = {**given.drive.values, key: row.id}
        other = Drive(axis=given.drive.axis, source=given.drive.source, values=values, elements=given.drive.elements)
        try:
            source = source_of(other, shelf, given.axis.turns, given.ripple)
        except InputError:
            continue
        fits = [needs(given.load, given.held, given.chain, source, shot, one.time) for one in given.needs]
        quick = all(float(one.speed.max()) <= source.fastest for one in fits)
        smooth = all(float(one.speed.max()) >= source.slowest for one in fits)
        if quick and smooth and min(float(one.spare.min()) for one in fits) >= source.spare:
            return [set_one("motor", f"A {row.name[0].lower()}{row.name[1:]}", f"{given.key}.{key}", row.id)]
    return []


def stepped_down(given: Driven, factor: float) -> list[Remedy]:
    """A pair of spur gears ahead of all else, where there is none yet."""
    kinds = tuple(element.kind for element in given.drive.elements)
    teeth = math.ceil(PINION * factor)
    if d.SPUR in kinds or teeth > MOST or given.drive.source in d.BARE:
        return []
    changes = (
        (f"{given.key}.chain", (d.SPUR, *kinds)),
        (f"{given.key}.1.driver", float(PINION)),
        (f"{given.key}.1.driven", float(teeth)),
    )
    return [Remedy("pair", Words(f"Spur gears {PINION} : {teeth} between"), changes)]
