"""What has to be bought, or cut, for the drives of a rig."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping

from msgspec import Struct

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document import drives as d
from hazel_lantern.core.document.project import Drive
from hazel_lantern.core.driving.driven import refused
from hazel_lantern.core.driving.made import made, sizes_of
from hazel_lantern.core.driving.others import ROW_KEYS, ROWS
from hazel_lantern.core.driving.piece import Made
from hazel_lantern.core.driving.source import Settings
from hazel_lantern.core.kinds.base import DriveAxis, Held
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.workshop.part import Buy


def drive_list(axis: DriveAxis, drive: Drive, held: Held, shelf: Catalogue) -> tuple[Buy, ...]:
    """Source, elements, mounting and what keeps them safe, each with what it is for; nothing of a drive that cannot
    work. Raises InputError for a motor that is not there.
    """
    if refused(axis, drive) is not None:
        return ()
    given, what = Settings(drive), f"drive of the {axis.name.lower()}"
    found = [*_source(given, shelf, what)]
    if drive.source not in d.BARE:
        for n in range(len(drive.elements)):
            found += _element(drive, n, held, what)
        found += _mounting(given, len(drive.elements), what)
    by = given.text("held")
    if drive.source not in (d.HAND, d.GRAVITY) and by != d.NO_HOLD:
        name = {d.BRAKE: "Brake", d.PIN: "Lock pin with its bush", d.TETHER: "Tether with shackles"}[by]
        found.append(Buy(name, 1, 7.5, f"{what}, holds {given.number('holds'):.0f} N at the camera"))
    return tuple(found)


def _source(given: Settings, shelf: Catalogue, what: str) -> list[Buy]:
    source = given.drive.source
    if source in (d.CRANK, d.REEL):
        return [Buy(f"Crank, {given.number('radius') * 1e3:.0f} mm, with a free grip", 1, 6.0, what)]
    if source not in d.MOTORS:
        return []
    found = []
    if source in ROWS:
        row = getattr(shelf, ROWS[source])[given.text(ROW_KEYS[source])]
        found.append(Buy(row.name, 1, row.price, what))
    found.append(
        {
            d.STEPPER: Buy("Stepper driver with a controller", 1, 22.0, what),
            d.SLOW: Buy("Low-voltage supply", 1, 9.0, what),
        }.get(source, Buy("Speed dial with reversing switch", 1, 9.0, what))
    )
    found += [
        Buy(f"Fuse {given.number('fuse'):g} A with holder", 1, 1.8, "at the battery"),
        Buy("Cut-off switch, in reach", 1, 4.5, "cuts the motor's power; software stops are none"),
    ]
    return found


class Wanted(Struct, frozen=True):
    """One element to buy or cut for: its sizes, itself made, how far its axis goes [m] or [rad], and what it is for."""

    values: dict[str, float | str]
    made: Made
    span: float
    what: str

    def mm(self, key: str) -> str:
        """A size in millimetres as it is written on a list."""
        return f"{float(self.values[key]) * 1e3:g}"

    def count(self, key: str) -> str:
        return f"{float(self.values[key]):.0f}"

    def buy(self, name: str, price: float, quantity: int = 1, note: str = "") -> Buy:
        return Buy(name, quantity, price, note or self.what)

    @property
    def last_words(self) -> str:
        """What is said of it behind its ratio: the belt's teeth, the chain's links."""
        return self.made.said.partition(", ")[2]


def _gears(one: Wanted) -> list[Buy]:
    """They are cut: sheets, hubs and plates are told with them."""
    return []


def _belt(one: Wanted) -> list[Buy]:
    pitch = f"pitch {one.mm('pitch')} mm"
    pulleys = [one.buy(f"Pulley {one.count(key)} teeth, {pitch}", 4.5) for key in ("driver", "driven")]
    return [*pulleys, one.buy(f"Toothed {one.last_words}, {pitch}", 7.0), one.buy("Belt tensioner", 3.5)]


def _chain(one: Wanted) -> list[Buy]:
    pitch = f"pitch {one.mm('pitch')} mm"
    sprockets = [one.buy(f"Sprocket {one.count(key)} teeth, {pitch}", 5.5) for key in ("driver", "driven")]
    return [*sprockets, one.buy(f"Chain, {one.last_words}, {pitch}", 8.0), one.buy("Chain tensioner", 3.5)]


def _worm(one: Wanted) -> list[Buy]:
    return [one.buy(f"Worm and wheel {one.made.said.removesuffix(' worm')}, module {one.mm('module')}", 24.0)]


def _roller(one: Wanted) -> list[Buy]:
    spring = one.buy("Spring that presses the roller on", 1.5, note=f"{one.count('press')} N")
    return [one.buy(f"Rubber roller {one.mm('roller')} mm", 4.0), spring]


def _screw(one: Wanted) -> list[Buy]:
    long = f"{(one.span + 0.1) * 1e3:.0f} mm long, with nut"
    return [
        one.buy(f"Lead screw {one.mm('outer')} mm, lead {one.mm('lead')} mm, {long}", 18.0),
        one.buy("Bearing block for the screw", 4.5, 2),
    ]


def _drum(one: Wanted) -> list[Buy]:
    drum = f"Drum {one.mm('bare')} mm, {one.mm('width')} mm between flanges"
    return [one.buy(drum, 6.0), one.buy(f"Cord {one.mm('cord')} mm, metres", 0.6, math.ceil(one.span + 1.0))]


def _capstan(one: Wanted) -> list[Buy]:
    return [
        one.buy(f"Grooved wheel {one.mm('wheel')} mm", 7.0),
        one.buy(f"Cord {one.mm('cord')} mm, metres", 0.6, math.ceil(2 * one.span + 2.0)),
        one.buy("Turning pulley with a tightener", 5.0),
    ]


def _beltway(one: Wanted) -> list[Buy]:
    pitch = f"pitch {one.mm('pitch')} mm"
    return [
        one.buy(f"Pulley {one.count('teeth')} teeth, {pitch}", 4.5),
        one.buy(f"Open toothed belt, {pitch}, metres", 2.2, math.ceil(2 * one.span + 1.0)),
        one.buy("Idler pulley with a tightener", 5.0),
    ]


def _rack(one: Wanted) -> list[Buy]:
    module = f"module {one.mm('module')}"
    return [
        one.buy(f"Pinion {one.count('teeth')} teeth, {module}, to cut", 2.5),
        one.buy(f"Rack, {module}, metres", 12.0, math.ceil(one.span + 0.1)),
    ]


LISTS: Mapping[str, Callable[[Wanted], list[Buy]]] = {
    d.SPUR: _gears, d.SECTOR: _gears, d.BELT: _belt, d.CHAIN: _chain, d.WORM: _worm, d.RIM: _roller, d.ROLLER: _roller,
    d.SCREW: _screw, d.DRUM: _drum, d.CAPSTAN: _capstan, d.BELTWAY: _beltway, d.RACK: _rack,
}  # fmt: skip


def _element(drive: Drive, n: int, held: Held, what: str) -> list[Buy]:
    """The pieces of one element, and the shaft its output turns on where another element follows."""
    element, span = drive.elements[n], held.span[1] - held.span[0]
    if element.kind == d.CAPSTAN and held.lined:
        return []  # the rig's own haul line
    try:
        one = made(element, span)
    except HazelError:
        return []  # the finding says why it cannot be made
    found = LISTS[element.kind](Wanted(sizes_of(element), one, span, what))
    between = n + 1 < len(drive.elements)
    return [*found, Buy("Shaft 8 mm, two bearings, collars", 1, 6.5, what)] if between else found


def _mounting(given: Settings, elements: int, what: str) -> list[Buy]:
    sits = dict(d.SITS)[given.text("sits")]
    found = [
        Buy("Drive plate with a clamp, slotted", 1, 8.0, f"{what}, {sits}; slots set the mesh"),
        Buy("Bolt M5×35 with washers and lock nut", 4, 0.35, "drive plate, holes in slots"),
    ]
    released = {d.LIFTED: "Hinge and catch", d.SLACKED: "Slackening lever", d.CLUTCH: "Clutch with a knob"}
    if given.text("release") in released:
        found.append(Buy(released[given.text("release")], 1, 5.0, f"takes the {what} out of gear"))
    if given.text("guard") == d.COVERED and elements:
        found.append(Buy("Cover over what runs together", 1, 4.0, what))
    if given.text("switches") == d.BOTH_ENDS and given.drive.source in d.MOTORS:
        found.append(Buy("End switch with a bracket", 2, 2.5, what))
    return found
