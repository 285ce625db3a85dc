"""The parameters of an orbit rig: declared once, read by bench, file, command line and manual."""

from __future__ import annotations

from math import radians

from hazel_lantern.core.kinds.base import Declared, First, School
from hazel_lantern.core.kinds.shared.inputs import least_bump
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity

SHAFT, RING = "shaft", "ring"
VARIANTS = ((SHAFT, "Arms on a centre shaft"), (RING, "Arms on a ring bearing"))
RINGS = (("plate-150", "Plate bearing 150 mm"), ("plate-300", "Plate bearing 300 mm"))
INWARD, OUTWARD = "inward", "outward"
ONE, TWO = "one", "two"
THREE, FOUR = "three", "four"
EMPTY, SOMEBODY = "empty", "somebody"
HAND, MOTOR, MAINS, ENGINE, UNLIMITED = "hand", "motor", "mains", "engine", "unlimited"
DRIVES = (
    (HAND, "A hand at the hub"), (MOTOR, "A slow motor on a battery, limited"), (MAINS, "A mains tool"), (ENGINE, "An engine"), (UNLIMITED, "A motor without a limit"),
)  # fmt: skip
# What the table of verdicts calls them.
DRIVEN = {HAND: "hand", MOTOR: "battery_limited", MAINS: "mains_tool", ENGINE: "combustion", UNLIMITED: "unlimited"}
SAFETY = (("A", "A · nobody near"), ("B", "B · a fall breaks gear"), ("C", "C · people near"))

PARAMETERS: tuple[Parameter, ...] = (
    Quantity("arm.front", "Camera arm", "m", 0.2, 2.5, 0.8, "Arms", "from the axis to the mount"),
    Quantity("arm.rear", "Weight arm", "m", 0.1, 2.0, 0.45, "Arms", "from the axis to the weights"),
    Choice("arm.section", "Arms of", (), "al6063-25x50x2", "Arms", "one to either side of the hub", table="sections"),
    Quantity("weights.mass", "Weights", "kg", 0.0, 40.0, 3.8, "Arms", "with their pin and collars"),
    Quantity("weights.above", "Weights above the arms", "m", -0.5, 1.0, 0.0, "Arms", "minus for below"),
    Quantity("riser.height", "Riser under the camera", "m", -0.8, 1.2, 0.35, "Arms", "minus for one that hangs"),
    Choice("riser.section", "Riser", (), "al6063-30x30x2", "Arms", "upright, at the end of the camera arm", table="sections"),
    Choice("camera.looks", "Camera looks", ((INWARD, "Inward"), (OUTWARD, "Outward")), INWARD, "Arms", "along the arm"),
    Quantity("beam.height", "Arms above the floor", "m", 0.1, 2.2, 0.42, "Hub", "their middle", only=(SHAFT,)),
    Choice("hub.ring", "Ring bearing", RINGS, "plate-300", "Hub", "lies on the feet, the shaft goes through it", only=(RING,)),
    Choice("hub.bearings", "Bearings", ((TWO, "Two, apart"), (ONE, "One")), TWO, "Hub", "between the fixed shaft and the arms", only=(SHAFT,)),
    Quantity("hub.apart", "Bearings apart", "m", 0.05, 0.6, 0.14, "Hub", "middle to middle, or the height of the one", only=(SHAFT,)),
    Choice("shaft.section", "Shaft", (), "galv-round-33.7x3.2", "Hub", "fixed, from base to table", table="sections"),
    Quantity("hub.friction", "Turns with", "N*m", 0.01, 10.0, 0.15, "Hub", "pull at the arm's end times its length", "balance"),
    Quantity("brake.torque", "Brake", "N*m", 0.0, 50.0, 0.0, "Hub", "0 for none", "balance"),
    Quantity("axis.plumb", "Axis out of plumb", "rad", 0.0, radians(5), radians(0.2), "Base", "as well as it is levelled", "travel"),
    Choice("base.feet", "Feet", ((THREE, "Three"), (FOUR, "Four")), FOUR, "Base", "evenly round the axis"),
    Choice("base.section", "Feet of", (), "pine-45x70", "Base", "a board on edge for each", table="sections"),
    Quantity("base.radius", "Feet from the axis", "m", 0.15, 1.5, 0.45, "Base", ""),
    Quantity("base.mass", "Ballast of the base", "kg", 0.0, 150.0, 12.0, "Base", "over its feet"),
    Quantity("base.grip", "Grip of its feet", "1", 0.05, 1.0, 0.4, "Base", "rubber on wood 0.5, on dust 0.2"),
    Quantity("table.height", "Table", "m", 0.15, 2.0, 0.62, "Table", "its top above the floor; it does not turn"),
    Quantity("table.radius", "Table's radius", "m", 0.05, 1.0, 0.24, "Table", ""),
    Quantity("table.load", "On it stand", "kg", 0.0, 60.0, 3.0, "Table", ""),
    Quantity("table.subject", "reaching out to", "m", 0.01, 1.0, 0.18, "Table", "from the axis"),
    Choice("drive.by", "Turned by", DRIVES, HAND, "Turning", ""),
    Quantity("spin.up", "Up to speed in", "s", 0.2, 60.0, 2.5, "Turning", "from standing"),
    Choice("people.inside", "In its circle", ((EMPTY, "Nobody"), (SOMEBODY, "Somebody, also who is filmed")), EMPTY, "Turning", "while it turns"),
    Quantity("lead.free", "Loose lead at the hub", "m", 0.0, 10.0, 0.0, "Turning", "it winds up; 0 for none"),
    Quantity("recorder.time", "Recorder holds", "s", 0.0, 600.0, 0.0, "Turning", "at this frame rate; 0 where it need not be asked", "travel"),
    Choice("mains.hz", "Mains of the lamps", (("50", "50 Hz"), ("60", "60 Hz")), "50", "Turning", "what their light ripples with", "travel"),
    Quantity("camera.exposure", "Exposure of a frame", "s", 0.00002, 1.0, 0.01, "Turning", "", "travel"),
    Quantity("lamp.depth", "Ripple of the lamps", "1", 0.0, 1.0, 0.3, "Turning", "0 steady daylight, 1 full", "travel"),
    least_bump("Base"),
    Choice("safety", "If it fails", SAFETY, "B", "Base", "sets the factors on strength and tipping"),
)  # fmt: skip

SCHOOLS = (
    School("Arms", (
        ("equal arms, equal weights", (("arm.rear", 0.8), ("weights.mass", 3.2)), "light, nothing to reckon; a wide circle on both sides"),
        ("short arm, more weight", (("arm.rear", 0.4), ("weights.mass", 6.6)), "room behind; more to carry, more on the hub"))),
    School("Hub", (
        ("on a shaft", (("variant", SHAFT),), "at any height; two bearings and a straight shaft"),
        ("on a ring bearing", (("variant", RING),), "low and cheap; its play shows at the camera"))),
    School("Speed", (
        ("by hand, let go", (("drive.by", HAND),), "nothing to build; slows as it runs"),
        ("slow motor", (("drive.by", MOTOR),), "one steady speed; to build, limit and stop"))),
)  # fmt: skip
TOLD_APART_BY = ("balance.wobble", "balance.base", "balance.energy", "travel.lean", "rig.mass", "build.cost")

DECLARED = Declared(
    home=__package__ or "",
    id="orbit",
    name="Orbit rig",
    variants=VARIANTS,
    parameters=PARAMETERS,
    usual={RING: {"table.height": 0.35, "riser.height": 0.4}},
    short={SHAFT: "centre shaft", RING: "ring bearing"},
    about="A camera goes round what stands on a table.",
    well="A full turn round a small thing, the thing always in the middle.",
    asks="Weights that balance it at both heights, a level base, and a circle nobody enters.",
    first={
        "": First("circle", (0.0, 0.8, 0.82), (0.0, 0.8, 0.82), 10.0),
        RING: First("circle", (0.0, 0.8, 0.6), (0.0, 0.8, 0.6), 10.0),
    },
)
