"""What has to be bought, or cut, for the drives of a rig."""

from __future__ import annotations

import math

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import Drive
from hazel_lantern.core.driving import declared as d
from hazel_lantern.core.driving.driven import refused
from hazel_lantern.core.driving.made import made, sizes_of
from hazel_lantern.core.driving.others import ROW_KEYS, ROWS
from hazel_lantern.core.driving.source import Settings
from hazel_lantern.core.kinds.base import DriveAxis, Held
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.workshop.part import Buy

GEARS = (d.SPUR, d.SECTOR)


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
            found += _element(drive, n, held.span[1] - held.span[0], what)
        found += _mounting(given, len(drive.elements), what)
    by = given.text("held")
    if drive.source not in (d.HAND, d.GRAVITY) and by != d.NO_HOLD:
        name = {d.BRAKE: "Brake", d.PIN: "Lock pin with its bush", d.TETHER: "Tether, steel wire with shackles"}[by]
        found.append(Buy(f"{name}, holds {given.number('holds'):.0f} N at the camera", 1, 7.5, what))
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
            d.SLOW: Buy("Low-voltage supply for the slow motor", 1, 9.0, what),
        }.get(source, Buy("Speed dial with reversing switch", 1, 9.0, what))
    )
    found += [
        Buy(f"Fuse {given.number('fuse'):g} A with holder", 1, 1.8, "at the battery"),
        Buy("Switch in reach that cuts the motor's power", 1, 4.5, "hardware cut-off; software stops are none"),
    ]
    return found


def _element(drive: Drive, n: int, span: float, what: str) -> list[Buy]:
    """The pieces of one element, and the shaft its output turns on where another element follows."""
    element = drive.elements[n]
    values = sizes_of(element)
    try:
        one = made(element, span)
    except HazelError:
        return []  # the finding says why it cannot be made

    def number(key: str) -> float:
        return float(values[key])

    found: list[Buy] = []
    if element.kind in GEARS:
        tooth = f"module {number('module') * 1e3:g}, {number('width') * 1e3:g} mm wide"
        found.append(Buy(f"Gear {number('driver'):.0f} teeth, {tooth}, to cut", 1, 2.5, what))
        name = "Gear" if element.kind == d.SPUR else "Sector of a gear of"
        found.append(Buy(f"{name} {number('driven'):.0f} teeth, {tooth}, to cut", 1, 6.0, what))
    elif element.kind == d.BELT:
        pitch = number("pitch") * 1e3
        found += [
            Buy(f"Pulley {number(key):.0f} teeth, pitch {pitch:g} mm", 1, 4.5, what) for key in ("driver", "driven")
        ]
        found += [Buy(f"Toothed {one.said.partition(', ')[2]}, pitch {pitch:g} mm", 1, 7.0, what), Buy("Belt tensioner", 1, 3.5, what)]  # fmt: skip
    elif element.kind == d.CHAIN:
        pitch = number("pitch") * 1e3
        found += [Buy(f"Sprocket {number(key):.0f} teeth, pitch {pitch:g} mm", 1, 5.5, what) for key in ("driver", "driven")]  # fmt: skip
        found += [Buy(f"Chain, {one.said.partition(', ')[2]}, pitch {pitch:g} mm", 1, 8.0, what), Buy("Chain tensioner", 1, 3.5, what)]  # fmt: skip
    elif element.kind == d.WORM:
        found.append(Buy(f"Worm and wheel {one.said.removesuffix(' worm')}, module {number('module') * 1e3:g}", 1, 24.0, what))  # fmt: skip
    elif element.kind in (d.RIM, d.ROLLER):
        found += [Buy(f"Rubber roller {number('roller') * 1e3:.0f} mm", 1, 4.0, what), Buy("Spring that presses the roller on", 1, 1.5, f"{number('press'):.0f} N")]  # fmt: skip
    elif element.kind == d.SCREW:
        found += [Buy(f"Lead screw {number('outer') * 1e3:.0f} mm, lead {number('lead') * 1e3:g} mm, {(span + 0.1) * 1e3:.0f} mm long, with nut", 1, 18.0, what), Buy("Bearing block for the screw", 2, 4.5, what)]  # fmt: skip
    elif element.kind == d.DRUM:
        found += [Buy(f"Drum {number('bare') * 1e3:.0f} mm, {number('width') * 1e3:.0f} mm between flanges", 1, 6.0, what), Buy(f"Cord {number('cord') * 1e3:g} mm, metres", math.ceil(span + 1.0), 0.6, what)]  # fmt: skip
    elif element.kind == d.CAPSTAN:
        found += [Buy(f"Grooved wheel {number('wheel') * 1e3:.0f} mm", 1, 7.0, what), Buy(f"Cord {number('cord') * 1e3:g} mm, metres", math.ceil(2 * span + 2.0), 0.6, what), Buy("Turning pulley at the far end, with a tightener", 1, 5.0, what)]  # fmt: skip
    elif element.kind == d.BELTWAY:
        pitch = number("pitch") * 1e3
        found += [Buy(f"Pulley {number('teeth'):.0f} teeth, pitch {pitch:g} mm", 1, 4.5, what), Buy(f"Open toothed belt, pitch {pitch:g} mm, metres", math.ceil(2 * span + 1.0), 2.2, what), Buy("Idler pulley with a tightener", 1, 5.0, what)]  # fmt: skip
    elif element.kind == d.RACK:
        found += [Buy(f"Pinion {number('teeth'):.0f} teeth, module {number('module') * 1e3:g}, to cut", 1, 2.5, what), Buy(f"Rack, module {number('module') * 1e3:g}, metres", math.ceil(span + 0.1), 12.0, what)]  # fmt: skip
    if n + 1 < len(drive.elements):
        found += [Buy("Shaft 8 mm with two bearings and collars", 1, 6.5, what)]
    return found


def _mounting(given: Settings, elements: int, what: str) -> list[Buy]:
    sits = dict(d.SITS)[given.text("sits")]
    found = [Buy(f"Drive plate with a clamp, {sits}, slotted to set the mesh", 1, 8.0, what), Buy("Bolt M5×30 with washers and lock nut", 4, 0.35, "drive plate, holes in slots")]  # fmt: skip
    released = {d.LIFTED: "Hinge and catch that swing the drive out of mesh", d.SLACKED: "Lever that slackens belt or cord", d.CLUTCH: "Clutch with a knob"}  # fmt: skip
    if given.text("release") in released:
        found.append(Buy(released[given.text("release")], 1, 5.0, what))
    if given.text("guard") == d.COVERED and elements:
        found.append(Buy("Cover over what runs together", 1, 4.0, what))
    if given.text("switches") == d.BOTH_ENDS and given.drive.source in d.MOTORS:
        found.append(Buy("End switch with a bracket", 2, 2.5, what))
    return found
