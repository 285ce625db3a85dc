"""What a builder sets of a dolly."""

from __future__ import annotations

from math import pi, radians

from msgspec.structs import replace

from hazel_lantern.core.kinds.rail.design import MOVING, SAFETY, SLEEVE, SPIGOT, WAYS, casters, fit_parameters
from hazel_lantern.core.kinds.shared.inputs import STIFFNESS, least_bump
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity, Readings

PIPE, THREE, FRAME, FLOOR, TRUCKS, ARC = "pipe", "three", "frame", "floor", "trucks", "arc"
ON_PIPE, ON_FLOOR = (PIPE, ARC, THREE, FRAME), (FLOOR, TRUCKS)
GAUGED = (PIPE, THREE, FRAME)
DECKED = (PIPE, ARC, THREE, FLOOR, TRUCKS)
CONCRETE, TILES, BOARDS, CARPET = "concrete", "tiles", "boards", "carpet"
FLOORS = (
    (CONCRETE, "Smooth concrete or screed"), (TILES, "Tiles"), (BOARDS, "Boards or planks"), (CARPET, "Carpet"),
)  # fmt: skip
BY_RADIUS, BY_CHORD, BY_DISTANCE = "radius", "chord", "distance"
LEFT, RIGHT = "left", "right"
SWIVEL, FIXED = "swivel", "fixed"
BY_TIES, BY_CORD = "ties", "cord"
CLIPPED, DRILLED = "clipped", "drilled"
WEDGED, AS_IT_LIES = "wedged", "as-it-lies"
LOCKED, FREE = "locked", "free"
SILENT, SOUND = "silent", "sound"
NONE, TWO, FOUR = "none", "two", "four"
NOBODY, SITS, STANDS = "nobody", "sits", "stands"
TRIPOD, DECK = "tripod", "deck"
LAID, PEGGED = "laid", "pegged"
STRAPPED, LOOSE = "strapped", "loose"
LET_IN = tuple(way for way in WAYS if way[0] in (SLEEVE, SPIGOT))  # what joins a pipe that wheels run on
NIPPED = "wheel.preload"  # of wheels in a groove, which a dolly has none of
PARAMETERS: tuple[Parameter, ...] = (
    Choice(
        "bend.by",
        "Arc set by",
        ((BY_RADIUS, "Its radius"), (BY_CHORD, "Chord and rise"), (BY_DISTANCE, "Distance the lens keeps")),
        BY_RADIUS,
        "Arc",
        "what you measure as you lay it",
        only=(ARC,),
    ),
    Quantity("bend.radius", "Radius", "m", 0.5, 60.0, 4.2, "Arc", "of the middle between both pipes", only=(ARC,)),
    Quantity("bend.chord", "Chord", "m", 0.4, 12.0, 3.6, "Arc", "straight from end to end, of the middle", only=(ARC,)),
    Quantity("bend.rise", "Rise", "m", 0.005, 6.0, 0.34, "Arc", "of the arc's middle off the chord", only=(ARC,)),
    Quantity("bend.away", "Lens keeps", "m", 0.3, 60.0, 4.2, "Arc", "from what it goes round", only=(ARC,)),
    Choice(
        "bend.turns",
        "Turns",
        ((LEFT, "To the left"), (RIGHT, "To the right")),
        LEFT,
        "Arc",
        "as it goes along",
        only=(ARC,),
    ),
    Choice(
        "bend.held",
        "Held bent by",
        ((BY_TIES, "Its ties"), (BY_CORD, "A cord from end to end, and spacers")),
        BY_TIES,
        "Arc",
        "",
        only=(ARC,),
    ),
    Choice(
        "bend.clips",
        "Pipes are",
        ((CLIPPED, "Clipped to the ties"), (DRILLED, "Screwed to them from below")),
        CLIPPED,
        "Arc",
        "clips take any arc; holes fit one",
        only=(ARC,),
    ),
    Quantity(
        "bend.peg",
        "A tie holds sideways",
        "N",
        0.0,
        5000.0,
        400.0,
        "Arc",
        "pegged or screwed down, pulled with a scale until it slips",
        only=(ARC,),
    ),
    Choice(
        "bend.trolleys",
        "Wheel pairs",
        ((SWIVEL, "On trolleys that turn"), (FIXED, "Fixed to the deck")),
        SWIVEL,
        "Arc",
        "fixed ones scrub and must give",
        only=(ARC,),
    ),
    Quantity(
        "bend.axles",
        "Axles of a trolley apart",
        "m",
        0.0,
        0.4,
        0.12,
        "Arc",
        "0 for a single pair at each corner",
        only=(ARC,),
    ),
    Quantity(
        "bend.stays",
        "Left bent it keeps",
        "1",
        0.0,
        1.0,
        0.2,
        "Arc",
        "of its bend when let go: PVC left an hour 0.1 to 0.3, metal 0",
        only=(ARC,),
    ),
    Quantity("rail.length", "Track or run", "m", 0.8, 8.0, 4.0, "Track", "from end to end, or of floor kept clear"),
    Choice(
        "rail.section", "Pipe", (), "galv-round-33.7x3.2", "Track", "each of the two", table="sections", only=ON_PIPE
    ),
    Quantity(
        "rail.spacing",
        "Gauge",
        "m",
        0.12,
        1.5,
        0.72,
        "Track",
        "between the middles of both pipes, or of left and right wheels",
        sized=True,
    ),
    Quantity(
        "tie.spacing",
        "A tie every",
        "m",
        0.15,
        3.0,
        0.8,
        "Track",
        "at most; the last spans are made shorter",
        only=ON_PIPE,
        sized=True,
    ),
    Choice(
        "tie.section",
        "Ties",
        (),
        "plywood-18x100",
        "Track",
        "boards across, under both pipes",
        table="sections",
        only=ON_PIPE,
    ),
    Choice(
        "tie.held",
        "They are",
        ((LAID, "Laid on the ground"), (PEGGED, "Pegged or screwed down")),
        LAID,
        "Track",
        "what lies may lift off beside the wheels",
        only=ON_PIPE,
    ),
    Quantity(
        "rail.joint_every", "A joint every", "m", 0.0, 8.0, 2.0, "Track", "0 for pipes in one piece", only=ON_PIPE
    ),
    Choice("rail.joint", "Joined", LET_IN, SLEEVE, "Track", "how the pieces of a pipe meet", only=ON_PIPE),
    Quantity(
        "rail.joint_step",
        "Step at a joint",
        "m",
        0.0,
        0.005,
        0.0,
        "Track",
        "how far one piece stands proud",
        "travel",
        only=ON_PIPE,
    ),
    Quantity(
        "rail.joint_gap", "Gap at a joint", "m", 0.0, 0.02, 0.0, "Track", "between two pieces", "travel", only=ON_PIPE
    ),
    Quantity(
        "ground.packed", "Packed up by", "m", 0.0, 0.5, 0.01, "Ground", "wedges under the ties, half-way", only=ON_PIPE
    ),
    Readings(
        "ground.heights",
        "Ground, measured",
        (
            Quantity("place", "Along", "m", 0.0, 8.0, 0.0, "Ground", "from the first end of the track"),
            Quantity("left", "Left", "m", -0.5, 0.5, 0.0, "Ground", "its height under the left pipe, from any level"),
            Quantity(
                "right", "Right", "m", -0.5, 0.5, 0.0, "Ground", "its height under the right pipe, from the same level"
            ),
        ),
        "Ground",
        "heights under both pipes, every metre or closer; none for level ground",
        only=ON_PIPE,
        another="Add a place",
    ),
    Choice(
        "ground.lies",
        "The track is",
        ((WEDGED, "Wedged level across"), (AS_IT_LIES, "Laid on it as it lies")),
        WEDGED,
        "Ground",
        "on ground that was measured",
        only=ON_PIPE,
    ),
    Quantity(
        "rail.slope",
        "Rises",
        "rad",
        radians(-10),
        radians(10),
        0.0,
        "Ground",
        "positive rises along the travel",
        only=(PIPE, THREE, FRAME, FLOOR, TRUCKS),
    ),
    Quantity(
        "ground.stiffness",
        "Ground under a tie",
        "N/m:ground",
        1e4,
        1e8,
        2e6,
        "Ground",
        "force over dip: floor 5000 kN/m and more, firm earth 1000, lawn 200",
        only=ON_PIPE,
    ),
    Choice("floor.kind", "Floor", FLOORS, CONCRETE, "Ground", "how hard it rolls, how loud", only=ON_FLOOR),
    Quantity(
        "floor.step",
        "Highest step",
        "m",
        0.0,
        0.05,
        0.0002,
        "Ground",
        "edge of a tile or board, cable under a ramp",
        only=ON_FLOOR,
    ),
    Quantity("floor.gap", "Widest gap", "m", 0.0, 0.03, 0.003, "Ground", "between tiles or boards", only=ON_FLOOR),
    Quantity(
        "floor.every",
        "A gap every",
        "m",
        0.0,
        5.0,
        0.6,
        "Ground",
        "tiles or boards; 0 where there is none",
        only=ON_FLOOR,
    ),
    Quantity(
        "floor.uneven",
        "Uneven by",
        "m",
        0.0,
        0.02,
        0.001,
        "Ground",
        "the floor under a fourth wheel, off the other three",
        only=ON_FLOOR,
    ),
    Choice(
        "sound.recorded",
        "Sound",
        ((SILENT, "None is recorded"), (SOUND, "Is recorded here")),
        SILENT,
        "Ground",
        "what may be heard of it",
        only=ON_FLOOR,
    ),
    Quantity(
        "carriage.wheelbase",
        "Wheels apart, along",
        "m",
        0.25,
        2.0,
        0.9,
        "Deck",
        "between front and rear wheels",
        only=DECKED,
        sized=True,
    ),
    Choice("carriage.wheel", "Wheels", (), "skate-72", "Deck", "on pipe two at each corner", table="wheels"),
    Quantity("carriage.mass", "Deck with its wheels", "kg", 0.5, 120.0, 17.0, "Deck", "and all that stays on it"),
    Choice(
        "deck.ribs",
        "Battens under the deck",
        ((NONE, "None"), (TWO, "Two along it"), (FOUR, "Four along it")),
        NONE,
        "Deck",
        "on edge, glued and screwed",
        only=DECKED,
    ),
    Choice("deck.rib", "Each batten", (), "pine-28x45", "Deck", "of a board on edge", table="sections", only=DECKED),
    Choice(
        "frame.section",
        "Pipe of the frame",
        (),
        "galv-round-26.9x2.6",
        "Deck",
        "keeps the trolleys apart",
        table="sections",
        only=(FRAME,),
    ),
    Choice(
        "truck.lean",
        "Trucks",
        ((LOCKED, "Locked or shimmed"), (FREE, "Free to lean")),
        LOCKED,
        "Deck",
        "free ones steer with every lean",
        only=(TRUCKS,),
    ),
    Quantity(
        "truck.stiffness",
        "A truck resists leaning",
        "N*m/rad",
        5.0,
        500.0,
        60.0,
        "Deck",
        "both its cushions together",
        only=(TRUCKS,),
    ),
    Quantity(
        "truck.square",
        "Axles out of square",
        "rad",
        0.0,
        radians(5),
        radians(0.2),
        "Deck",
        "1 mm over 300 mm of axle is 0.2°",
        only=ON_FLOOR,
    ),
    Quantity("handle.height", "Handle", "m", 0.0, 1.3, 0.95, "Deck", "above the deck; 0 for none", only=DECKED),
    Quantity("ballast.mass", "Ballast", "kg", 0.0, 150.0, 10.0, "Deck", "strapped down in the middle, or hung below"),
    Choice(
        "rider",
        "A person rides",
        ((NOBODY, "Never"), (SITS, "Sitting on the deck"), (STANDS, "Standing on the deck")),
        NOBODY,
        "Deck",
        "only with a second person who pushes",
        only=DECKED,
    ),
    Quantity("rider.mass", "Of", "kg", 30.0, 150.0, 80.0, "Deck", "with all they carry", only=DECKED),
    Choice(
        "camera.on",
        "Camera on",
        ((TRIPOD, "A tripod in foot cups"), (DECK, "The deck itself")),
        TRIPOD,
        "Camera",
        "low shots go without the tripod",
        only=DECKED,
    ),
    Choice("stand", "Tripod", (), "tripod-video", "Camera", "on the deck", table="stands"),
    Quantity("stand.radius", "Feet from its centre", "m", 0.1, 1.2, 0.4, "Camera", "kept by the cups", only=DECKED),
    Choice(
        "stand.held",
        "It is",
        ((STRAPPED, "Strapped down"), (LOOSE, "Standing in its cups")),
        STRAPPED,
        "Camera",
        "a strap from its centre to the middle of the deck",
        only=DECKED,
    ),
    Quantity("camera.ahead", "Mount ahead of middle", "m", -0.5, 0.5, 0.0, "Camera", "along the travel", only=DECKED),
    Quantity("camera.aside", "Mount to the left", "m", -0.5, 0.5, 0.0, "Camera", "of the deck's middle", only=DECKED),
    Quantity(
        "camera.rise",
        "Mount above the wheels' track",
        "m",
        0.08,
        2.2,
        1.23,
        "Camera",
        "from the top of the pipes, or the floor",
    ),
    Quantity(
        "camera.heading", "Camera looks", "rad", -pi, pi, pi / 2, "Camera", "from the travel, positive to the left"
    ),
    *(
        replace(one, only=ON_PIPE) if one.key in ("rail.damping", STIFFNESS) else one
        for one in MOVING
        if one.key != NIPPED
    ),
    casters((FLOOR,)),
    *fit_parameters(twin=GAUGED, only=GAUGED),
    Quantity(
        "tyre.damping",
        "Damping of its tyres",
        "1",
        0.005,
        0.5,
        0.06,
        "Wheels and friction",
        "share of critical: soft wheels 0.05 to 0.1, hard ones 0.02",
        "travel",
        only=ON_FLOOR,
    ),
    least_bump("Deck"),
    Choice("safety", "If it fails", SAFETY, "B", "Deck", "sets the factors on strength and tipping"),
)
