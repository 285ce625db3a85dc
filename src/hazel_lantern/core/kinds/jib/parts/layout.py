"""All pieces of a jib put together: to make, bought or owned, and what goes through their holes."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.catalogue import Plate, Rope
from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.jib.design import BAG, CLAMPED, HANGING, TAPERED, TWO_HANDS, UPRIGHT
from hazel_lantern.core.kinds.jib.model import ARM, BY_CABLE, FIXED, HEAD_AXIS, HUNG, LEVEL, REAR, TURNING, Jib, frames
from hazel_lantern.core.kinds.jib.parts.arm import ARMS, FRONTS, STAY_MAST, arm_parts
from hazel_lantern.core.kinds.jib.parts.head import MOUNT_PLATE, head_pieces
from hazel_lantern.core.kinds.jib.parts.pins import WHEEL_CLEAR, WHEEL_WIDE, fastenings
from hazel_lantern.core.kinds.jib.parts.post import post_pieces
from hazel_lantern.core.kinds.shared.fixings import GRIP
from hazel_lantern.core.kinds.shared.home_built import BUILT
from hazel_lantern.core.kinds.shared.plates import BOARD
from hazel_lantern.core.workshop.laid import Laid, Pieces, lay
from hazel_lantern.core.workshop.part import Buy, ReadyMade
from hazel_lantern.core.workshop.solids import ACROSS, ALONG, UP, Block, Place

CLEARANCE = 0.004  # metres between arm and weights
BEARING, COLUMN = 0.14, 0.07  # metres across of what it pans on, and of a fluid head below its axis
BELOW_AXIS = 0.03  # metres from a fluid head's axis down to what does not tilt
# What the pieces are called as bodies of the mechanism.
CALLED = {
    "A1": "arm",
    "A2": "arm",
    "A3": "sleeve",
    "B1": "upper bar",
    "C1": "post cheeks",
    "D1": "head uprights",
    "E1": "stay mast",
    "K1": "clamp boards",
    "K2": "clamp boards",
}


# Weights sit on their pin, that in what carries it, a pole or sleeve in another piece of the arm; what the head weighs
# beside its plate has no shape of its own.
NESTED = (
    ("head", ""),
    ("weight pin", ""),
    ("ballast", ""),
    ("stand", ""),
    ("camera kit", MOUNT_PLATE),
    ("cable", "head wheel"),
    ("cable", "post wheel"),
    ("Arm, rear pole", "Arm, front pole"),
    ("Arm, rear piece", "Sleeve in the arm"),
    ("Arm, front piece", "Sleeve in the arm"),
    *((arm, "Yoke") for arm in ARMS),
    *(("stay cable", piece) for piece in (*ARMS, *FRONTS, STAY_MAST, "stay cable")),
)


def laid_out(design: Design, kit: Carried, jib: Jib, plates: list[Plate]) -> Laid:
    """All pieces of a jib with the plates hung on it; its own bodies are not read."""
    made = Pieces(tuple(arm_parts(design, jib)), (), fastenings(design, jib))
    made = made + post_pieces(design, jib) + head_pieces(design, kit, jib)
    things = tuple(_things(design, kit, jib, plates, made))
    return lay(made + Pieces(things=things, loose=_loose(design, jib), nested=NESTED), frames(jib, np.zeros((1, 2))))


# Bought or owned, with a place


def _things(design: Design, kit: Carried, jib: Jib, plates: list[Plate], made: Pieces) -> list[ReadyMade]:
    """All that is not cut, named as the bodies of the mechanism are."""
    number, (ahead, rise) = design.number, jib.mount
    cg = kit.payload.cg
    found = [
        ReadyMade(
            "camera kit",
            Block((0.14, 0.1, 0.1)),
            kit.payload.mass,
            "camera",
            (Place(LEVEL, (ahead + float(cg[0]), float(cg[1]), rise + float(cg[2]))),),
        ),
        _head(number("head.mass"), jib, made),
    ]
    if jib.level == BY_CABLE:
        found += _cable(design, jib)
    if jib.mast > 0:
        rope = design.row("ropes", "stay.rope")
        for foot in (jib.front, -jib.rear):
            long = math.hypot(foot, jib.mast)
            found.append(
                _rope(
                    "stay cable",
                    rope,
                    (
                        Place(
                            ARM,
                            (foot / 2, 0.0, jib.mast / 2),
                            (foot / long, 0.0, -jib.mast / long),
                            (jib.mast / long, 0.0, foot / long),
                        ),
                    ),
                    long,
                )
            )
    found += _weights(design, jib, plates)
    stand = jib.stand
    column = min(jib.height, stand.height_max)
    built = sum(piece.mass for piece in made.each() if piece.body == FIXED) if stand.shape == BUILT else 0.0
    beside = (REAR, (0.0, 0.0, jib.above)) if jib.whole else (ARM, (-jib.place, 0.0, jib.above + jib.offset))
    return [
        *found,
        ReadyMade(
            "weight pin",
            Block((0.2, jib.bolt.d, jib.bolt.d), True),
            number("weights.holder"),
            "steel",
            (Place(*beside, ACROSS),),
        ),
        _pans_on(jib),
        ReadyMade(
            "stand",
            Block((0.05, 0.05, 0.05)),
            max(0.0, stand.mass - built),
            "steel",
            (Place(FIXED, (0.0, 0.0, stand.cg_height * column)),),
        ),
        ReadyMade(
            "ballast", Block((0.2, 0.2, 0.24)), number("ballast.mass"), "weight", (Place(FIXED, (0.0, 0.0, 0.25)),)
        ),
    ]


def _pans_on(jib: Jib) -> ReadyMade:
    """What it pans on, below the plate under the post; of a fluid head that tilts, what stays below its axis."""
    if jib.held == CLAMPED:
        top, wide = jib.height - BELOW_AXIS, COLUMN
        high = jib.pan.height - HEAD_AXIS - BELOW_AXIS
    else:
        top, wide, high = jib.foot - BOARD, BEARING, jib.pan.height
    shape = Block((max(high, 0.0004), wide, wide), True)
    return ReadyMade(
        "pan bearing",
        shape,
        jib.pan.mass,
        "steel",
        (Place(TURNING, (0.0, 0.0, max(0.05, top - high / 2)), UP, ALONG),),
    )


def _head(said: float, jib: Jib, made: Pieces) -> ReadyMade:
    """What the head is said to weigh beside its plate, where both together act at the mount."""
    plate = next((piece for piece in made.each() if piece.name == MOUNT_PLATE), None)
    mount = np.array([jib.mount[0], 0.0, jib.mount[1]])
    rest = max(0.0, said - (plate.mass if plate else 0.0))
    at = mount
    if plate and rest > 0:
        at = (said * mount - plate.mass * plate.centre) / rest
    return ReadyMade(
        "head", Block((0.08, 0.08, 0.02)), rest, "steel", (Place(LEVEL, (float(at[0]), float(at[1]), float(at[2]))),)
    )


def wheels_beside(jib: Jib) -> float:
    """How far to the left of the arm's middle the wheels of its cable turn: screwed to the outer face of a cheek and of
    a head upright, clear of the arm [m].
    """
    lanes = (
        (jib.arm_lanes, jib.arm.width),
        (jib.lanes(jib.post.width), jib.post.width),
        (jib.head_lanes, jib.upright.width),
    )
    return max(max(at) + wide / 2 for at, wide in lanes) + WHEEL_CLEAR + WHEEL_WIDE / 2


def _cable(design: Design, jib: Jib) -> list[ReadyMade]:
    """Both runs, and the wheels they lie on."""
    rope, front, out = jib.cable.rope, jib.front, jib.cable.post
    aside = 0.0 if jib.cable.pins else wheels_beside(jib)
    runs = _rope("cable", rope, tuple(Place(ARM, (front / 2, aside, up)) for up in (out, -out)), front)
    if jib.cable.pins:
        return [runs]
    wheel = design.number("cable.wheel_mass")

    def disc(name: str, radius: float, place: Place) -> ReadyMade:
        return ReadyMade(name, Block((WHEEL_WIDE, 2 * radius, 2 * radius), True), wheel, "wood", (place,))

    return [
        disc("head wheel", jib.cable.head, Place(LEVEL, (0.0, aside, 0.0), ACROSS)),
        disc("post wheel", out, Place(TURNING, (0.0, aside, jib.height), ACROSS)),
        runs,
    ]


def _weights(design: Design, jib: Jib, plates: list[Plate]) -> list[ReadyMade]:
    """Weights on their pin, the heaviest first, each on the side that pulls less; those that hang below it side by
    side; a bag.
    """
    carried = design.text("weights.carried")
    hangs = carried in (HANGING, BAG)
    inside = (
        jib.plate_radius / 2
        if carried == BAG
        else 0.0
        if hangs
        else jib.across / 2 + CLEARANCE + (jib.upright.width if carried == UPRIGHT else 0.0)
    )
    taken, pulls, found = {1.0: inside, -1.0: inside}, {1.0: 0.0, -1.0: 0.0}, []
    if carried == BAG:
        bag = Block((2 * jib.plate_radius, jib.plate_radius, 2 * jib.plate_radius))
        mass = design.number("weights.bag")
        found.append(
            ReadyMade("weights", bag, mass, "weight", (Place(HUNG, (0.0, 0.0, -jib.hook - jib.plate_radius)),))
        )
    for plate in sorted(plates, key=lambda plate: -plate.mass):
        side = min(pulls, key=lambda one: (pulls[one], -one))
        y = side * (taken[side] + plate.thickness / 2)
        taken[side] += plate.thickness
        pulls[side] += plate.mass * abs(y)
        at = (
            Place(HUNG, (0.0, y, -jib.hook - jib.plate_radius), ACROSS)
            if hangs
            else Place(REAR, (0.0, y, jib.above), ACROSS)
            if carried == UPRIGHT
            else Place(ARM, (-jib.place, y, jib.above + jib.offset), ACROSS)
        )
        found.append(
            ReadyMade(
                "weights",
                Block((plate.thickness, 2 * plate.radius, 2 * plate.radius), True),
                plate.mass,
                "weight",
                (at,),
            )
        )
    return found


def _rope(name: str, rope: Rope, places: tuple[Place, ...], length: float) -> ReadyMade:
    return ReadyMade(name, Block((length, rope.d, rope.d), True), length * rope.density, "rope", places)


# Bought without a place


def _loose(design: Design, jib: Jib) -> tuple[Buy, ...]:
    """What has no hole and no place of its own."""
    found = []
    if jib.stand.price and jib.stand.shape != BUILT:
        found.append(Buy(jib.stand.name, 1, jib.stand.price))
    if jib.pan.price:
        found.append(Buy(jib.pan.name, 1, jib.pan.price, jib.pan.words))
    if jib.level == BY_CABLE:
        run = math.ceil(2 * (jib.front + 0.4) * 10) / 10
        found += [
            Buy(
                f"{jib.cable.rope.name}, by the metre",
                math.ceil(run),
                jib.cable.rope.price,
                f"two runs, {run:.1f} m with the ends",
            ),
            *(() if jib.cable.pins else (Buy("Grooved wheel or turned disc", 2, 6.5, "both to one size"),)),
            Buy("Turnbuckle M6", 2, 3.2, "adjusters, one in each run, half-way out to begin with"),
            Buy("Crimp sleeve with thimble", 4, 0.6),
        ]
    if jib.mast > 0:
        rope, long = design.row("ropes", "stay.rope"), math.hypot(jib.front, jib.mast) + math.hypot(jib.rear, jib.mast)
        found += [
            Buy(f"{rope.name}, by the metre", math.ceil(long + 0.6), rope.price, "stay to both ends"),
            Buy("Turnbuckle M6", 1, 3.2, "tightens the stay"),
            Buy("Crimp sleeve with thimble", 2, 0.6, "at either end of the stay"),
            Buy("Clamp with an eye, round the arm", 2, 3.8, "stay to both ends; nothing is drilled"),
            Buy("Mast foot, clamped round the arm, for a rod of 12 mm", 1, 6.5, "over the pivot; nothing is drilled"),
            Buy("Cap with a groove, for a rod of 12 mm", 1, 1.5, "the stay lies in it on top of the mast"),
        ]
    if design.text("weights.carried") == BAG:
        found.append(Buy("Weight bag with a hook, to be filled", 1, 6.0, "weigh it as you fill it"))
    if design.text("arm.made") == TAPERED:
        found.append(Buy("Tapered pole, as listed", jib.bars, 38.0, "sold by its length and both its ends"))
    return (
        *found,
        Buy(
            GRIP.name, 2 if design.text("hands") == TWO_HANDS else 1, GRIP.price, "at the rear end, where it is steered"
        ),
        Buy(
            "Webbing strap with buckle",
            1,
            4.5,
            f"parks the arm, {design.number('park.lever') * 1e3:.0f} mm ahead of the pivot",
        ),
    )
