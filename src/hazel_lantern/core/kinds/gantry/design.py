"""The parameters of a gantry: declared once, read by bench, file, command line and manual."""

from __future__ import annotations

from math import pi

from hazel_lantern.core.kinds.base import Declared, DriveAxis, First, School
from hazel_lantern.core.kinds.shared.inputs import BELOW, least_bump, platform, stiff_as, tether
from hazel_lantern.core.kinds.shared.lead import lead_input
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity

BAR, BOARDS = "bar", "boards"
OWN, BUILDING = "own", "building"
FIXED_END, PINNED = "bolted", "pinned"
VARIANTS = ((BAR, "Bridge of tube or profile"), (BOARDS, "Bridge built from boards"))

TRUCKS = tuple((f"plywood-18x{wide}", f"Plywood 18×{wide}") for wide in (100, 150, 200, 300))

PARAMETERS: tuple[Parameter, ...] = (
    Quantity("runway.length", "Runways", "m", 0.4, 8.0, 1.8, "Frame", "each of the two, along the travel"),
    Quantity("span", "Between the runways", "m", 0.4, 5.0, 1.4, "Frame", "from middle to middle"),
    Choice("runway.section", "Runway", (), "al6063-slot-40x40", "Frame", "each of the two", table="sections"),
    Choice(
        "runway.is",
        "The runways are",
        ((OWN, "Part of this rig"), (BUILDING, "Beams of the building")),
        OWN,
        "Frame",
        "what belongs to the building is neither bought nor drilled, and needs no posts",
    ),
    Quantity("runway.posts", "Held at", "count", 2.0, 6.0, 2.0, "Frame", "places along each runway", sized=True),
    Quantity("runway.height", "Runways above ground", "m", 0.3, 4.0, 2.05, "Frame", "their top"),
    Choice(
        "bridge.section", "Bridge", (), "al6063-slot-40x80", "Bridge", "tube or profile", table="sections", only=(BAR,)
    ),
    stiff_as("Bridge", "the bridge"),
    Quantity(
        "board.flange", "Flange boards, wide", "m", 0.02, 0.3, 0.07, "Bridge", "built from boards only", only=(BOARDS,)
    ),
    Quantity(
        "board.thick", "Boards, thick", "m", 0.006, 0.05, 0.018, "Bridge", "flanges and web alike", only=(BOARDS,)
    ),
    Quantity("board.web", "Web board, high", "m", 0.02, 0.4, 0.11, "Bridge", "built from boards only", only=(BOARDS,)),
    Choice(
        "board.material",
        "Boards of",
        (),
        "plywood",
        "Bridge",
        "built from boards only",
        table="materials",
        only=(BOARDS,),
    ),
    Quantity(
        "board.screws", "A screw every", "m", 0.01, 0.6, 0.1, "Bridge", "along each flange; 5 mm screws", only=(BOARDS,)
    ),
    Quantity(
        "board.bow",
        "Boards bowed by",
        "m",
        -0.05,
        0.05,
        0.0,
        "Bridge",
        "in the middle of the bridge, laid crown up; minus for crown down",
        only=(BOARDS,),
    ),
    Quantity("bridge.wheelbase", "End wheels apart", "m", 0.05, 1.0, 0.36, "Bridge", "along each runway", sized=True),
    Choice(
        "bridge.truck", "Boards of its end trucks", TRUCKS, TRUCKS[0][0], "Bridge", "over the runways, 18 mm plywood"
    ),
    Choice("bridge.wheel", "Wheels", (), "bearing-22", "Bridge", "of bridge and trolley", table="wheels"),
    Quantity(
        "trolley.edge", "Trolley stops short by", "m", 0.0, 1.0, 0.18, "Trolley and boom", "at both ends of the bridge"
    ),
    Quantity(
        "trolley.at", "Trolley across", "1", 0.0, 1.0, 0.5, "Trolley and boom", "share of its travel, for the move"
    ),
    Quantity(
        "trolley.wheelbase",
        "Its wheels apart",
        "m",
        0.06,
        0.6,
        0.16,
        "Trolley and boom",
        "along the bridge, above and below it",
    ),
    Quantity("trolley.mass", "Trolley", "kg", 0.1, 30.0, 1.6, "Trolley and boom", "with its wheels"),
    Choice(
        "boom.section", "Boom", (), "al6063-25x25x2", "Trolley and boom", "swings about the trolley", table="sections"
    ),
    Quantity(
        "boom.stages",
        "Boom of",
        "count",
        1.0,
        3.0,
        1.0,
        "Trolley and boom",
        "tubes that slide into each other; 1 slides on its swing bolt",
    ),
    Choice(
        "boom.end",
        "Drop post is",
        ((FIXED_END, "Bolted to the boom"), (PINNED, "Pinned, to come off for the car")),
        FIXED_END,
        "Trolley and boom",
        "pins come out by hand; they leave a little play",
    ),
    Quantity("boom.shortest", "Boom pushed in", "m", 0.0, 2.0, 0.2, "Trolley and boom", "from trolley to camera"),
    Quantity("boom.longest", "Boom drawn out", "m", 0.05, 2.5, 0.6, "Trolley and boom", "from trolley to camera"),
    Quantity("boom.out", "Boom at", "m", 0.0, 2.5, 0.35, "Trolley and boom", "for the move"),
    Quantity(
        "boom.angle",
        "Boom turned",
        "rad",
        -pi,
        pi,
        0.0,
        "Trolley and boom",
        "from the runways' direction to the left, for the move",
    ),
    Quantity(
        "boom.counter", "Weight behind the trolley", "kg", 0.0, 20.0, 2.0, "Trolley and boom", "on the boom's tail"
    ),
    Quantity("boom.tail", "Its distance", "m", 0.0, 1.5, 0.3, "Trolley and boom", "behind the trolley"),
    Quantity(
        "camera.drop", "Mount below the bridge", "m", 0.0, 2.0, 0.45, "Trolley and boom", "length of the drop post"
    ),
    platform("Trolley and boom"),
    Quantity(
        "foot.rake",
        "Legs rake out by",
        "m",
        0.0,
        1.5,
        0.35,
        "Frame",
        "to the side of each post; 0 for none: a frame without falls over sideways",
        when=("runway.is", (OWN,)),
    ),
    least_bump("Frame"),
    lead_input("Frame"),
    Quantity(
        "foot.ballast",
        "Ballast on each foot",
        "kg",
        0.0,
        60.0,
        0.0,
        "Frame",
        "bags on the posts' feet",
        when=("runway.is", (OWN,)),
    ),
    Choice("below", "Below it", BELOW, "clear", "Hanging", "who may be under it"),
    *tether("Hanging"),
    Choice(
        "safety",
        "If it fails",
        (("D", "D · overhead, kept clear below"), ("E", "E · over people")),
        "D",
        "Hanging",
        "nothing hangs over people",
    ),
)

SCHOOLS = (
    School("Bridge", (
        ("stiff and heavy", (("variant", BAR), ("bridge.section", "al6063-slot-40x80")),
            "calm picture; wants strong runways and a firm hand to start"),
        ("light", (("variant", BAR), ("bridge.section", "al6063-slot-20x80")), "moves with a finger; gives and nods"),
        ("built from boards", (("variant", BOARDS),), "hand tools and screws; swells, loosens, cheap to mend"))),
)  # fmt: skip
TOLD_APART_BY = ("travel.drop", "travel.twist", "travel.shift", "balance.post", "rig.mass", "build.cost")

DECLARED = Declared(
    home=__package__ or "",
    id="gantry",
    name="Gantry",
    variants=VARIANTS,
    axes=(
        DriveAxis("bridge", "Bridge", 0, False),
        DriveAxis("trolley", "Trolley", 1, False),
        DriveAxis("boom", "Boom", 2, True),
    ),
    parameters=PARAMETERS,
    short={BAR: "profile bridge", BOARDS: "bridge of boards"},
    about="Both ways above a table, straight down.",
    well="Every place of a table from straight above, one after the other.",
    asks="Room for four posts, two runways that lie level, and a tether.",
    first={"": First("look_down", (-0.4, 0.0, 1.5), (0.4, 0.0, 1.5), 10.0)},
)
