"""What is cut for a drive: its gears with bore and cut-outs, and the two plates that carry their shafts."""

from __future__ import annotations

import math
from functools import lru_cache
from itertools import count

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.catalogue import Catalogue, Material
from hazel_lantern.core.document import drives as d
from hazel_lantern.core.document.project import Drive, Element
from hazel_lantern.core.driving.driven import first_pair, refused
from hazel_lantern.core.driving.made import made, sizes_of
from hazel_lantern.core.driving.piece import Made
from hazel_lantern.core.kinds.base import DriveAxis, Held
from hazel_lantern.core.motion import gears
from hazel_lantern.core.motion.gears import Gear
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.workshop.marks import HOLE, Mark
from hazel_lantern.core.workshop.part import Buy, Part
from hazel_lantern.core.workshop.solids import TOP, Place, Sheet

LETTER = "Z"  # of the marks of what is cut for drives
FINE = 2e-5  # metres that an outline may stray from the true flank
PLATE, SEAT, BESIDE = (
    0.009,
    0.022,
    0.016,
)  # metres of a plate, of a bearing for an 8 mm shaft, of plate beyond all gears
SPACER, SHAFT, AIR = 0.0055, 0.008, 0.004  # metres of a hole for M5, of a shaft, of room beside every gear
RIM = 2.25  # modules of rim under a sector's teeth
ROUND = 0.3  # metres: above that a gear does not fit the usual sheet
STANDS_FOR = {"aluminium": "al6061", "steel": "steel", "acrylic": "acrylic", "mdf": "mdf", "hardwood": "beech"}
HELD_BY = {
    d.SCREWED: ("Hub with set screw, 8 mm", 2.2), d.PINNED: ("Hub and pin 3×16", 1.4),
    d.INSERT: ("Keyed insert, 8 mm", 2.8),
}  # fmt: skip


class Cut(Struct, frozen=True):
    """A gear to cut: its part, the gear itself, its bore [m], of a sector how many teeth,
    and what it is cut from and by."""

    part: Part
    gear: Gear
    bore: float
    teeth: int
    stuff: str
    tool: str
    apart: float


class Box(Struct, frozen=True):
    """All that is cut for the drives of a rig, and what is bought with it."""

    gears: tuple[Cut, ...] = ()
    plates: tuple[Part, ...] = ()
    bought: tuple[Buy, ...] = ()

    @property
    def parts(self) -> tuple[Part, ...]:
        return (*(one.part for one in self.gears), *self.plates)


def boxes(axes: list[tuple[int, DriveAxis, Drive]], held: tuple[Held, ...], shelf: Catalogue) -> Box:
    """What is cut for every driven axis; nothing of a drive that cannot work.

    axes: the driven axes with their places among all
    held: what every axis meets, how far it goes in it
    shelf: the catalogue

    Returns: gears, plates, what is bought with them. Source: drive 3; geometry.
    """
    numbers, found = count(1), Box()
    for n, axis, drive in axes:
        if drive.source in d.BARE or refused(axis, drive) is not None:
            continue
        one = _box(axis, drive, held[n], shelf, numbers)
        found = Box(found.gears + one.gears, found.plates + one.plates, found.bought + one.bought)
    return found


def _box(axis: DriveAxis, drive: Drive, held: Held, shelf: Catalogue, numbers: count[int]) -> Box:
    """Of one axis; elements that cannot be made say so elsewhere."""
    span = held.span[1] - held.span[0]
    try:
        elements = [made(element, span) for element in drive.elements]
    except HazelError:
        return Box()
    cuts: list[Cut] = []
    for element, one in zip(drive.elements, elements, strict=True):
        if one.mesh is not None:
            cuts += _gears(axis, one, sizes_of(element), shelf, numbers)
    cuts += _spares(axis, drive, span, shelf, numbers)
    if not cuts:
        return Box()
    plates = _plates(axis, elements, shelf, numbers)
    return Box(tuple(cuts), plates, _bought(axis, cuts, plates, elements, drive))


def _spares(axis: DriveAxis, drive: Drive, span: float, shelf: Catalogue, numbers: count[int]) -> list[Cut]:
    """Change gears, each tooth count once more than the pair that is on,
    as often as they are on both shafts at once."""
    n = first_pair(drive)
    if n is None or not drive.changed:
        return []
    base = sizes_of(drive.elements[n])
    there, found = [base["driver"], base["driven"]], []
    for _, driver, driven in drive.changed:
        values = {**base, "driver": driver, "driven": driven}
        try:
            cuts = _gears(axis, made(Element(kind=d.SPUR, values=values), span), values, shelf, count(1))
        except HazelError:
            continue
        left = list(there)
        for cut in cuts:
            if cut.gear.teeth in left:
                left.remove(cut.gear.teeth)
                continue
            there.append(float(cut.gear.teeth))
            part = replace(cut.part, mark=f"{LETTER}{next(numbers)}", name=f"Change gear, {cut.gear.teeth} teeth")
            found.append(replace(cut, part=part))
    return found


def stuff_of(key: str, shelf: Catalogue) -> Material:
    """A material that gears are cut from, as the workshop knows it."""
    name, _, density, fill, _ = d.GEAR_STUFF[key]
    base = shelf.materials[STANDS_FOR.get(key, "plywood")]
    return replace(base, id=f"gear-{key}", name=name, density=density, fill=fill)


def _gears(
    axis: DriveAxis, one: Made, values: dict[str, float | str], shelf: Catalogue, numbers: count[int]
) -> list[Cut]:
    """Both gears of an element."""
    assert one.mesh is not None and one.second is not None
    stuff, wide, bore = str(values["stuff"]), float(values["width"]), float(values["bore"])
    material, found = stuff_of(stuff, shelf), []
    for gear, large in ((one.mesh.first, False), (one.mesh.second, True)):
        cut = round(one.second.sweep * gear.teeth / (2 * math.pi)) if large and one.second.sweep else gear.teeth
        whole = cut == gear.teeth
        if whole:
            sheet, shift = _blank(gear, cut, 0.0, wide, material)
            marks = [
                _bore(shift, bore, values),
                *(_windows(gear, shift, bore, round(float(values["spokes"]))) if large else ()),
            ]
            name = f"Gear, {gear.teeth} teeth"
        else:
            inside = gear.root - RIM * gear.module
            sheet, shift = _blank(gear, cut, inside, wide, material)
            marks = _rim_holes(gear, cut, shift, inside)
            name = f"Sector, {cut} of {gear.teeth} teeth"
        marks.sort(key=lambda mark: mark.at)
        said = f"module {gear.module * 1e3:g} mm, {math.degrees(gear.angle):g}°, shift {gear.shift:g}; finished size"
        part = Part(
            f"{LETTER}{next(numbers)}", name, sheet, (Place(f"drive {axis.key}"),), tuple(marks), "tip of a tooth", said
        )
        found.append(Cut(part, gear, bore if whole else 0.0, cut, stuff, str(values["tool"]), one.apart))
    return found


@lru_cache(maxsize=64)
def _blank(gear: Gear, cut: int, inside: float, thickness: float, material: Material) -> tuple[Sheet, float]:
    """The sheet of a gear, or of so many teeth of it on a rim, with its middle's place from the datum [m]; kept, since
    a drag leaves most gears as they are.
    """
    points = gears.outline(gear, FINE) if cut == gear.teeth else gears.sector_outline(gear, cut, inside, FINE)
    shift = -float(points[:, 0].min())
    return Sheet(material, thickness, tuple((float(x) + shift, float(y)) for x, y in points)), shift


def _bore(shift: float, bore: float, values: dict[str, float | str]) -> Mark:
    held = {d.SCREWED: "hub with a set screw", d.PINNED: "pin through hub and shaft", d.INSERT: "keyed insert"}
    return Mark(shift, HOLE, bore, note=f"bore, {held[str(values['fixed'])]}", face=TOP)


def _windows(gear: Gear, shift: float, bore: float, spokes: int) -> tuple[Mark, ...]:
    """Round windows between the spokes of a large gear, as large as rim, hub and spokes let them be."""
    inner, outer = max(bore, 0.012) + 0.006, gear.root - RIM * gear.module
    if spokes < 3 or outer - inner < 0.012:
        return ()
    middle = (inner + outer) / 2
    size = min(outer - inner, 2 * middle * math.sin(math.pi / spokes) - 0.008)
    if size < 0.008:
        return ()
    angles = 2 * math.pi * (np.arange(spokes) + 0.5) / spokes
    half = gear.tip
    return tuple(
        Mark(shift + middle * math.cos(a), HOLE, size, note="window", across=half + middle * math.sin(a), face=TOP)
        for a in angles
    )


def _rim_holes(gear: Gear, teeth: int, shift: float, inside: float) -> list[Mark]:
    """Holes in the rim of a sector by which its arms hold it, under a tooth at either end and in the middle."""
    middle, pitch = (inside + gear.root) / 2, 2 * math.pi / gear.teeth
    size = 0.0045 if RIM * gear.module > 0.0075 else 0.0034
    wide = gear.tip * math.sin(min(math.pi / 2, pitch * teeth / 2))
    angles = pitch * np.array([-(teeth - 2) / 2, 0.0, (teeth - 2) / 2])
    return [
        Mark(
            shift + middle * math.cos(a),
            HOLE,
            size,
            note="rim to its arm",
            across=wide + middle * math.sin(a),
            face=TOP,
        )
        for a in angles
    ]


def _plates(axis: DriveAxis, elements: list[Made], shelf: Catalogue, numbers: count[int]) -> tuple[Part, ...]:
    """Two plates alike: a bearing for every shaft but the arm's own and the last of a way,
    spacers outside all gears."""
    places, reach, at = [0.0], 0.0, 0.0
    ends = [0.0, 0.0]
    for n, one in enumerate(elements):
        if one.second is None:
            continue
        if one.mesh is not None:
            reach = max(reach, one.mesh.first.tip)
        own = one.kind == d.SECTOR or (n == len(elements) - 1 and axis.turns)
        at += one.apart
        if not own:
            places.append(at)
            reach = max(reach, one.second.radius * 1.05)
            ends[1] = one.second.radius * 1.05
    ends[0] = max((one.mesh.first.tip for one in elements[:1] if one.mesh), default=0.0)
    # What comes last swings in between the plates from outside: no spacer stands in its way.
    open_end = any(one.kind == d.SECTOR or one.mesh for one in elements[-1:]) and axis.turns
    left, right = ends[0] + BESIDE, SEAT / 2 + 0.006 if open_end else max(ends[1], SEAT) + BESIDE
    long, wide = left + places[-1] + right, 2 * (reach + BESIDE)
    seats = [
        Mark(
            left + x,
            HOLE,
            SEAT if n else SHAFT + 0.004,
            note="bearing of a shaft" if n else "shaft of the source, free",
            face=TOP,
        )
        for n, x in enumerate(places)
    ]
    corner = 0.009
    spacers = [
        Mark(x, HOLE, SPACER, note="spacer M5", across=y, face=TOP)
        for x in (corner, long - corner)
        for y in (corner, wide - corner)
    ]
    sheet = Sheet.rectangle(replace(shelf.materials["plywood"]), PLATE, long, wide)
    marks = tuple(sorted((*seats, *spacers), key=lambda mark: mark.at))
    place = Place(f"drive {axis.key}")
    return (
        Part(
            f"{LETTER}{next(numbers)}",
            "Gearbox plate",
            sheet,
            (place, replace(place, at=(0.0, 0.0, 0.1))),
            marks,
            "source end",
            "drill the pair together",
        ),
    )


def _bought(
    axis: DriveAxis, cuts: list[Cut], plates: tuple[Part, ...], elements: list[Made], drive: Drive
) -> tuple[Buy, ...]:
    """Sheets to cut them from, hubs, spacers between the plates."""
    what, found = f"drive of the {axis.name.lower()}", []
    sheets: dict[tuple[str, float], float] = {}
    for cut in cuts:
        sheet = cut.part.solid
        key = d.GEAR_STUFF[cut.stuff][0], round(sheet.box[2] * 1e3, 2)
        sheets[key] = sheets.get(key, 0.0) + sheet.box[0] * sheet.box[1]
    for plate in plates:
        key = "Birch plywood", PLATE * 1e3
        sheets[key] = sheets.get(key, 0.0) + 2 * plate.solid.box[0] * plate.solid.box[1]
    for (name, thick), area in sheets.items():
        many = math.ceil(1.3 * area / 0.18)
        found.append(
            Buy(f"{name} {thick:g} mm, sheet 300×600", many, round(6.0 + 0.6 * thick, 2), f"{what}, gears and plates")
        )
    for fixed in dict.fromkeys(str(sizes_of(e)["fixed"]) for e in drive.elements if "fixed" in sizes_of(e)):
        name, price = HELD_BY[fixed]
        many = sum(cut.bore > 0 for cut in cuts)
        found.append(Buy(name, many, price, f"{what}, one a gear"))
    # Pair above pair between the plates, air around every one.
    widths = [float(sizes_of(e)["width"]) for e, one in zip(drive.elements, elements, strict=True) if one.mesh]
    stack = sum(width + AIR for width in widths) + AIR
    found += [
        Buy(f"Spacer M5, {math.ceil(stack * 1e3 - 1e-6)} mm", 4, 0.9, f"{what}, between the plates"),
        Buy(
            f"Bolt M5×{math.ceil((stack + 2 * PLATE) * 1e3 / 5 + 2) * 5} with lock nut and washers",
            4,
            0.45,
            f"{what}, through the spacers",
        ),
    ]
    return tuple(found)
