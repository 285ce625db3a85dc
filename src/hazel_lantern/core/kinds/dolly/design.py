"""The parameters of a dolly: declared once, read by bench, file, command line and manual."""

from __future__ import annotations

from math import pi, radians

from hazel_lantern.core.kinds.base import Declared, First, School
from hazel_lantern.core.kinds.rail.design import MOVING, SAFETY, SLEEVE, SPIGOT, WAYS
from hazel_lantern.core.kinds.shared.inputs import least_bump
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity

PIPE = "pipe"
VARIANTS = ((PIPE, "Deck on pipe track"),)
TRIPOD, DECK = "tripod", "deck"
LAID, PEGGED = "laid", "pegged"
STRAPPED, LOOSE = "strapped", "loose"
LET_IN = tuple(way for way in WAYS if way[0] in (SLEEVE, SPIGOT))  # what joins a pipe that wheels run on
NIPPED = "wheel.preload"  # of wheels in a groove, which a dolly has none of

PARAMETERS: tuple[Parameter, ...] = (
    Quantity("rail.length", "Track", "m", 0.8, 8.0, 4.0, "Track", "from end to end"),
    Choice("rail.section", "Pipe", (), "galv-round-33.7x3.2", "Track", "each of the two", table="sections"),
    Quantity("rail.spacing", "Gauge", "m", 0.2, 1.5, 0.72, "Track", "between the middles of the two pipes"),
    Quantity("tie.spacing", "A tie every", "m", 0.15, 3.0, 0.8, "Track", "at most; the last spans are made shorter"),
    Choice("tie.section", "Ties", (), "plywood-18x100", "Track", "boards across, under both pipes", table="sections"),
    Choice(
        "tie.held",
        "They are",
        ((LAID, "Laid on the ground"), (PEGGED, "Pegged or screwed down")),
        LAID,
        "Track",
        "what lies may lift off beside the wheels",
    ),
    Quantity("rail.joint_every", "A joint every", "m", 0.0, 8.0, 2.0, "Track", "0 for pipes in one piece"),
    Choice("rail.joint", "Joined", LET_IN, SLEEVE, "Track", "how the pieces of a pipe meet"),
    Quantity(
        "rail.joint_step", "Step at a joint", "m", 0.0, 0.005, 0.0, "Track", "how far one piece stands proud", "travel"
    ),
    Quantity("rail.joint_gap", "Gap at a joint", "m", 0.0, 0.02, 0.0, "Track", "between two pieces", "travel"),
    Quantity("ground.packed", "Packed up by", "m", 0.0, 0.5, 0.01, "Ground", "wedges under the ties, half-way"),
    Quantity("rail.slope", "Rises", "rad", radians(-10), radians(10), 0.0, "Ground", "positive rises along the travel"),
    Quantity(
        "ground.stiffness",
        "Ground under a tie",
        "N/m",
        1e4,
        1e8,
        2e6,
        "Ground",
        "force over dip: floor 5 MN/m and more, firm earth 1, lawn 0.2",
    ),
    Quantity("carriage.wheelbase", "Wheels apart, along", "m", 0.25, 2.0, 0.9, "Deck", "between front and rear pairs"),
    Choice("carriage.wheel", "Wheels", (), "skate-72", "Deck", "two at each corner", table="wheels"),
    Quantity("carriage.mass", "Deck with its wheels", "kg", 0.5, 120.0, 13.0, "Deck", "and all that stays on it"),
    Quantity("ballast.mass", "Ballast", "kg", 0.0, 150.0, 10.0, "Deck", "strapped down in the middle of the deck"),
    Choice(
        "camera.on",
        "Camera on",
        ((TRIPOD, "A tripod in foot cups"), (DECK, "The deck itself")),
        TRIPOD,
        "Camera",
        "low shots go without the tripod",
    ),
    Choice("stand", "Tripod", (), "tripod-video", "Camera", "on the deck", table="stands"),
    Quantity("stand.radius", "Feet from its centre", "m", 0.1, 1.2, 0.4, "Camera", "kept by the cups"),
    Choice(
        "stand.held",
        "It is",
        ((STRAPPED, "Strapped down to the deck"), (LOOSE, "Standing in its cups")),
        STRAPPED,
        "Camera",
        "a strap from its centre to the middle of the deck",
    ),
    Quantity("camera.ahead", "Mount ahead of middle", "m", -0.5, 0.5, 0.0, "Camera", "along the travel"),
    Quantity("camera.aside", "Mount to the left", "m", -0.5, 0.5, 0.0, "Camera", "square to the travel"),
    Quantity("camera.rise", "Mount above the pipes", "m", 0.08, 2.2, 1.23, "Camera", "from the top of the pipes"),
    Quantity(
        "camera.heading", "Camera looks", "rad", -pi, pi, pi / 2, "Camera", "from the travel, positive to the left"
    ),
    *(one for one in MOVING if one.key != NIPPED),
    least_bump("Deck"),
    Choice("safety", "If it fails", SAFETY, "B", "Deck", "sets the factors on strength and tipping"),
)

SCHOOLS = (
    School("Weight", (
        ("light", (("ballast.mass", 0.0),), "one person carries and lays it; every joint shows"),
        ("heavy", (("ballast.mass", 40.0),), "calm over joints; a shove to start, long to stop"))),
    School("Camera", (
        ("on a tripod", (("camera.on", TRIPOD), ("camera.rise", 1.23)), "eye height; tips sooner"),
        ("low on the deck", (("camera.on", DECK), ("camera.rise", 0.2)), "calm and safe; looks up at people"))),
)  # fmt: skip
TOLD_APART_BY = (
    "travel.start",
    "travel.wave_px",
    "travel.shift",
    "balance.tips_from",
    "balance.footing",
    "rig.mass",
    "build.cost",
)

DECLARED = Declared(
    home=__package__ or "",
    id="dolly",
    name="Dolly",
    variants=VARIANTS,
    parameters=PARAMETERS,
    short={PIPE: "pipe track"},
    about="A camera at eye height rolls along laid pipe.",
    well="A long calm push beside somebody who walks.",
    asks="Ground to lay track on, somebody to push, and a car that takes the pipes.",
    first={"": First("slide", (-1.2, 0.0, 1.35), (1.2, 0.0, 1.35), 12.0)},
)
