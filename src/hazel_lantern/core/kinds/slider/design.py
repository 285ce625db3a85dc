"""The parameters of a slider: declared once, read by bench, file, command line and manual."""

from __future__ import annotations

from math import pi

from hazel_lantern.core.kinds.base import Declared, DriveAxis, First, School
from hazel_lantern.core.kinds.rail.design import (
    MOVING,
    SAFETY,
    carriage_parameters,
    casters,
    fit_parameters,
    rail_parameters,
)
from hazel_lantern.core.kinds.shared.inputs import home_built, least_bump
from hazel_lantern.core.kinds.shared.under_feet import ground_inputs
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity, Value

GROOVED, RODS, FLATS = "grooved", "rods", "flats"
VARIANTS = (
    (GROOVED, "One profile, three grooved wheels"),
    (RODS, "Two rods or tubes with rollers"),
    (FLATS, "Two flat rails, inclined wheel pairs"),
)
TRIPOD, TWO, TABLE = "tripod", "two", "table"
NO_BASE, ON_BOARD = "none", "board"
PLAIN, MAGNETIC, SOFT = "plain", "magnetic", "soft"
FACES = ((PLAIN, "As it is"), (MAGNETIC, "Magnetic strip under steel wheels"), (SOFT, "Rubber, felt or tape on it"))
CAPTIVE, RESTING = "captive", "resting"
# What a new slider of each construction starts with where it differs.
USUAL: dict[str, dict[str, Value]] = {
    GROOVED: {"support": TWO},
    RODS: {"support": TWO, "rail.section": "al6063-round-30x2", "rail.spacing": 0.14, "carriage.wheel": "nylon-28"},
    FLATS: {"support": TWO, "rail.section": "al6063-flat-10x40", "rail.spacing": 0.16, "carriage.wheel": "bearing-22"},
}

PARAMETERS: tuple[Parameter, ...] = (
    *rail_parameters(1.2, "al6063-slot-40x40", 1.0, 60.0, twin=(RODS, FLATS)),
    *carriage_parameters("v-25", 0.09, pairs=(RODS, FLATS)),
    Choice(
        "rail.base",
        "Under the rails",
        ((NO_BASE, "Ties across them"), (ON_BOARD, "A board along all of them")),
        NO_BASE,
        "Rail",
        "a board stiffens them and keeps them parallel",
        only=(RODS, FLATS),
    ),
    Choice(
        "carriage.hold",
        "Carriage",
        ((CAPTIVE, "Captive on the rail"), (RESTING, "Resting by its weight")),
        CAPTIVE,
        "Carriage",
        "captive cannot fall off; resting rolls freer",
    ),
    Choice(
        "support",
        "Stands on",
        ((TWO, "Two stands"), (TRIPOD, "One tripod in the middle"), (TABLE, "A table or the floor")),
        TRIPOD,
        "Support",
        "what carries the rail",
    ),
    Quantity("support.inset", "Supports from the ends", "m", 0.0, 3.0, 0.08, "Support", "both ends alike", sized=True),
    Choice("stand", "Stand", (), "tripod-video", "Support", "each of them", table="stands"),
    Quantity(
        "stand.radius",
        "Feet from centre",
        "m",
        0.2,
        1.2,
        0.55,
        "Support",
        "from each stand's centre to its feet",
        sized=True,
    ),
    *home_built("Support"),
    *ground_inputs("Support"),
    Quantity("stand.turn", "Turn the stand", "rad", -pi, pi, pi / 2, "Support", "one leg along the travel at 0°"),
    Quantity(
        "head.holds",
        "Tripod head holds",
        "N*m",
        0.5,
        300.0,
        20.0,
        "Support",
        "locked: hang weights on a lever until it slips; a small ball head 5, a video head 20",
        when=("support", (TRIPOD, TWO)),
    ),
    Quantity(
        "head.stiffness",
        "Tripod head stiffness",
        "N*m/rad",
        20.0,
        50000.0,
        800.0,
        "Support",
        "good 2500, usual 800, poor 250",
        when=("support", (TRIPOD, TWO)),
    ),
    Quantity(
        "table.width",
        "Feet apart, across",
        "m",
        0.05,
        1.0,
        0.2,
        "Support",
        "on a table or the floor",
        when=("support", (TABLE,)),
    ),
    Quantity("ballast.mass", "Ballast below", "kg", 0.0, 60.0, 0.0, "Support", "hung under the middle"),
    *MOVING,
    casters((RODS, FLATS)),
    Choice(
        "rail.face",
        "Face of the rails",
        FACES,
        PLAIN,
        "Wheels and friction",
        "a strip of magnets holds a resting carriage down; soft is quiet and slow",
        only=(RODS, FLATS),
    ),
    Quantity(
        "face.pull",
        "A magnet pulls each wheel by",
        "N",
        0.0,
        200.0,
        6.0,
        "Wheels and friction",
        "hung from a scale until it lets go",
        only=(RODS, FLATS),
        when=("rail.face", (MAGNETIC,)),
    ),
    *fit_parameters(twin=(RODS, FLATS)),
    least_bump("Support"),
    Choice("safety", "If it fails", SAFETY, "B", "Support", "sets the factors on strength and tipping"),
)

SCHOOLS = (
    School("Carriage", (
        ("captive", (("carriage.hold", CAPTIVE),),
            "cannot fall off, works tilted and upside down; must be nipped up just so"),
        ("resting by its weight", (("carriage.hold", RESTING),),
            "rolls freest, lifts off to pack; tips with a careless pull"))),
    School("Drag", (
        ("free-rolling", (("wheel.preload", 4.0),), "lightest push; shows every tremble of the hand"),
        ("some drag on purpose", (("wheel.preload", 40.0),), "steadier by hand; sticks at crawling speed"))),
    School("Stands", (
        ("one tripod in the middle", (("support", TRIPOD),), "quick, one thing to carry; nods at both ends"),
        ("a stand at each end", (("support", TWO),), "calm picture; two to level"),
        ("a table or the floor", (("support", TABLE),), "calmest; only where there is one"))),
)  # fmt: skip
TOLD_APART_BY = (
    "travel.push",
    "travel.sticks",
    "travel.drop",
    "travel.shift",
    "balance.least",
    "balance.drag_now",
    "balance.footing",
    "rig.mass",
    "build.cost",
)

DECLARED = Declared(
    home=__package__ or "",
    id="slider",
    name="Slider",
    variants=VARIANTS,
    axes=(DriveAxis("travel", "Travel", 0, False),),
    parameters=PARAMETERS,
    usual=USUAL,
    short={GROOVED: "one profile", RODS: "two rods", FLATS: "two flats"},
    about="Straight and level, past near things.",
    well="A short calm push or pass with things close to the lens.",
    asks="Two stands or a table, a rail as long as the move, and a clean track.",
    first={"": First("slide", (-0.35, 0.0, 1.1), (0.35, 0.0, 1.1), 10.0)},
)
