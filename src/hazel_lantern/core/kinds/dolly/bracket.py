"""The bracket of an inclined wheel pair: a flat bar bent down at both ends, an axle through either."""

from __future__ import annotations

from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.rail.carriage import BRACKET_SCREWS, HALF, Runs
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.kinds.rail.parts import CARRIAGE
from hazel_lantern.core.kinds.shared.fixings import AXLE_ROOM, axle, bracket_axles
from hazel_lantern.core.kinds.shared.plates import BOARD
from hazel_lantern.core.kinds.shared.works import bears, works
from hazel_lantern.core.nouns.figure import Given
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.workshop.laid import Laid
from hazel_lantern.core.workshop.marks import HOLE, LINE, Mark
from hazel_lantern.core.workshop.part import Fastening, Part
from hazel_lantern.core.workshop.solids import ACROSS, TOP, Place, Sheet

STOCK = "steel-flat-4x50"
NAME = "Wheel bracket"
SPACER, BEYOND = 0.006, 0.016  # metres from the wheel to its bracket; of bar beyond the middle of an axle
LEAST = 0.012  # metres from a bend to an axle's middle, so that the drill meets flat bar


class Bent(Struct, frozen=True):
    """Half of what lies flat under the deck, from a bend to its axle, from the bar's middle to the wheel's along the
    axle [m].
    """

    flat: float
    wing: float
    off: float

    @property
    def length(self) -> float:
        """Of the bar before it is bent [m]."""
        return 2 * (self.flat + self.wing + BEYOND)


def bent(way: Straight, under: float, thick: float) -> Bent:
    """From where the wheels lean: contacts at 45 degrees, the deck's lower face `under` above the pipes [m]."""
    wheel, deep = way.wheel, way.bar.depth
    out = (deep + wheel.d) / 2 * HALF
    high = out - deep / 2
    off = wheel.width / 2 + SPACER + thick / 2
    # The wings lie along the contacts' direction, inside the wheels.
    rise = under - thick / 2 - (high + HALF * off)
    return Bent(out - HALF * off + rise, rise / HALF, off)


def bracketed(design: Design, way: Straight, runs: Runs) -> Runs:
    """The carriage with brackets made from flat bar, where the wheels leave room to bend and drill one."""
    bar = Sheet.of(design.catalogue, STOCK, 1.0)
    made = bent(way, runs.height - BOARD / 2, bar.thickness)
    if made.wing < LEAST:
        return runs
    bought = next(thing for thing in runs.pieces.things if thing.name.startswith("Bracket"))
    middle = made.length / 2
    marks = [
        Mark(
            middle,
            HOLE,
            0.0055,
            note="into the deck",
            across=bar.width / 2 + side * BRACKET_SCREWS,
            face=TOP,
            fastening="bracket",
        )
        for side in (-1, 1)
    ]
    bore = axle(design.catalogue, way.wheel).row.d + AXLE_ROOM
    for side, name in ((-1, "left"), (1, "right")):
        marks.append(Mark(middle + side * made.flat, LINE, note="bend down by 45°", face=TOP))
        marks.append(
            Mark(middle + side * (made.flat + made.wing), HOLE, bore, note=f"{name} axle", face=TOP, fastening="axle")
        )
    height = runs.height - BOARD / 2 - bar.thickness / 2
    part = Part(
        "W1",
        NAME,
        Sheet.of(design.catalogue, STOCK, made.length),
        tuple(Place(CARRIAGE, (x, y - middle, height), ACROSS) for x, y, _ in (place.at for place in bought.places)),
        tuple(sorted(marks, key=lambda mark: mark.at)),
        "one end",
        "drill flat, then bend; all from one template",
    )
    things = tuple(thing for thing in runs.pieces.things if thing is not bought)
    # Its axles are counted by their holes.
    through = Fastening("axle", (bracket_axles(design.catalogue, way.wheel, 1),))
    made_of = replace(
        runs.pieces,
        parts=(*runs.pieces.parts, part),
        things=things,
        fastenings=(*runs.pieces.fastenings, through),
        loose=(),
        # Laid as it is sawn: bent, its wings lie along the wheels.
        nested=(*runs.pieces.nested, (NAME, way.wheel.name)),
    )
    return replace(runs, pieces=made_of)


def bracket_figures(design: Design, rail: Straight, laid: Laid, wheels: Told) -> Told:
    """Bending of a wing by its wheel, which presses beside it."""
    part = next((part for part in laid.parts if part.name == NAME), None)
    tell = Teller()
    if part is None or not isinstance(part.solid, Sheet):
        return tell.told()
    bar, pressed = part.solid, wheels.value("balance.pressed")
    off = rail.wheel.width / 2 + SPACER + bar.thickness / 2
    works(
        tell,
        "rig.bracket",
        "wheel bracket",
        pressed * off / (bar.width * bar.thickness**2 / 6),
        bears(design, bar.material),
        "a wheel pressed along its bracket's wing, beside it by half its width and the spacer",
        (
            Given("N", pressed, "N", "most a wheel bears", "balance.pressed"),
            Given("a", off, "m", "from wing to wheel", "carriage.wheel"),
            Given("Z", bar.width * bar.thickness**2 / 6, "m^3", "section modulus of the bar"),
        ),
        "carriage.wheel",
        source="statics 3",
    )
    return tell.told()
