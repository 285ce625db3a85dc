"""The shuttle's block: the screws by which its plate hangs from it."""

from __future__ import annotations

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.overhead.model import BORED_ROD, ROD
from hazel_lantern.core.kinds.rail.carriage import BLOCK_SCREWS, PLATE, block_screws
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.kinds.shared.plates import BOARD
from hazel_lantern.core.mechanics import overhead
from hazel_lantern.core.mechanics.safety import HAND_SWING
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import PEOPLE, WATCH, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Laid
from hazel_lantern.core.workshop.solids import Turned

SCREW, LONG = 0.005, 0.04  # metres
COACH, COACH_LONG, END_GRAIN = 0.006, 0.07, 0.5  # metres; of what a screw holds across the grain


def block_figures(design: Design, rail: Straight, laid: Laid) -> Told:
    """Pull on one of the screws up through the plate into the block: the weight, a hard stop along and a push across,
    with the camera below.
    """
    plate = next((part for part in laid.parts if part.name == PLATE), None)
    if any(part.name == BORED_ROD for part in laid.parts):
        return _rods(design, rail)
    block = next((part for part in laid.parts if part.name.startswith("Shuttle")), None)
    if plate is None or block is None:
        return Told()
    tell, high, rows, across = Teller(), abs(float(rail.mount[2])), block_screws(block.length), 2 * BLOCK_SCREWS
    count = 2 * len(rows)
    # One row of screws leaves the plate to pry about the block's end.
    along = rows[0] - rows[-1] if len(rows) > 1 else block.length / 2
    weight = rail.moving * GRAVITY
    stop, push = rail.moving * design.number("push.brake") * high, design.number("push.side") * high
    pull = HAND_SWING * (weight / count + 2 * stop / (count * along) + push / (len(rows) * across))
    tell.add(
        by_method(
            "rig.block_pull",
            "Pull on a screw of the shuttle",
            pull,
            "N",
            "its share of the weight, of a hard stop and of a push at the camera, times 1.5",
            (
                Given("W", weight, "N", "shuttle and camera kit", "kit"),
                Given("h", high, "m", "camera below the rod", "camera.rise"),
                Given("n", count, "count", "screws"),
                Given("a", along, "m", "between them along the rod", "shuttle.guide"),
            ),
            assumptions=("screening only, never certified",),
            source="statics 8.3",
        )
    )
    if isinstance(block.solid, Turned):
        words = Words(
            "A screw is pulled with {}: bolt the plate through a shuttle of plastic, screws tear out.", ((pull, "N"),)
        )
        tell.hold(
            "rig.block_pull",
            "rig.block",
            "Plate of the shuttle",
            PEOPLE,
            "shuttle.bore",
            words,
            at_most=0.0,
            state=WATCH,
        )
        return tell.told()
    bears = overhead.screw_withdrawal(block.solid.material.density, SCREW, LONG - BOARD)
    longer = round(min(0.6, 1.5 * block.length), 3)
    tell.hold(
        "rig.block_pull",
        "rig.block",
        "Plate of the shuttle",
        PEOPLE,
        "shuttle.guide",
        "A screw of the shuttle's plate is pulled with {}; {} is safe in sound wood. Screening only.",
        at_most=bears,
        remedies=(set_one("guide", "Guide {} long", "shuttle.guide", longer, "m"),) if longer > block.length else (),
    )
    return tell.told()


def _rods(design: Design, rail: Straight) -> Told:
    """Pull on the one screw up through the plate into the end of each bored rod."""
    tell, rod = Teller(), design.catalogue.sections[ROD]
    high, along = abs(float(rail.mount[2])), rail.wheelbase - rod.depth
    stop = rail.moving * design.number("push.brake") * high
    pull = HAND_SWING * (rail.weight / 2 + stop / along)
    tell.add(
        by_method(
            "rig.block_pull",
            "Pull on a screw of the shuttle",
            pull,
            "N",
            "half of the weight, and a hard stop over the distance between the rods, times 1.5",
            (
                Given("W", rail.weight, "N", "shuttle and camera kit", "kit"),
                Given("h", high, "m", "camera below the rod", "camera.rise"),
                Given("a", along, "m", "between the rods", "shuttle.guide"),
            ),
            assumptions=("screening only, never certified",),
            source="statics 8.3",
        )
    )
    wood = design.catalogue.materials[rod.material].density
    bears = END_GRAIN * overhead.screw_withdrawal(wood, COACH, COACH_LONG - BOARD)
    longer = round(min(0.6, 1.5 * rail.wheelbase), 3)
    tell.hold(
        "rig.block_pull",
        "rig.block",
        "Plate of the shuttle",
        PEOPLE,
        "shuttle.guide",
        "A screw into the end of a rod is pulled with {}; {} is safe in sound end grain. Screening only.",
        at_most=bears,
        remedies=(set_one("guide", "Guide {} long", "shuttle.guide", longer, "m"),),
    )
    return tell.told()
