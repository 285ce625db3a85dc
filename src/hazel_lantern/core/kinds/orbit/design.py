"""The parameters of an orbit rig: declared once, read by bench, file, command line and manual."""

from __future__ import annotations

import math
from math import radians

from hazel_lantern.core.kinds.base import Declared, DriveAxis, First, School
from hazel_lantern.core.kinds.shared.inputs import BELOW, HELD_BY, least_bump, stiff_as, tether
from hazel_lantern.core.kinds.shared.under_feet import ground_inputs
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity, Readings

SHAFT, RING, DESK = "shaft", "ring", "desk"
VARIANTS = ((SHAFT, "Arms on a centre shaft"), (RING, "Arms on a ring bearing"),
    (DESK, "Arms under a frame that reaches over a desk"))  # fmt: skip
RINGS = (("plate-150", "Plate bearing 150 mm"), ("plate-300", "Plate bearing 300 mm"),
    ("ring-200", "Ring bearing 200 mm, held both ways"))  # fmt: skip
FEET, HUNG = "feet", "hung"
MOUNTS = tuple((key, name) for key, name in HELD_BY if key not in ("brackets", "plugs"))
BOLTED, SLIDES = "bolted", "slides"
CLAMPED, FREE = "clamped", "free"
INWARD, OUTWARD = "inward", "outward"
ONE, TWO = "one", "two"
THREE, FOUR = "three", "four"
CAMERAS = {ONE: 1, TWO: 2, THREE: 3, FOUR: 4}
EMPTY, SOMEBODY = "empty", "somebody"
HAND, MOTOR, MAINS, ENGINE, UNLIMITED = "hand", "motor", "mains", "engine", "unlimited"
DRIVES = (
    (HAND, "A hand at the hub"), (MOTOR, "A slow motor on a battery, limited"), (MAINS, "A mains tool"),
    (ENGINE, "An engine"), (UNLIMITED, "A motor without a limit"),
)  # fmt: skip
# What the table of verdicts calls them.
DRIVEN = {HAND: "hand", MOTOR: "battery_limited", MAINS: "mains_tool", ENGINE: "combustion", UNLIMITED: "unlimited"}
SAFETY = (
    ("A", "A · nobody near"),
    ("B", "B · a fall breaks gear"),
    ("C", "C · people near"),
    ("D", "D · overhead, kept clear below"),
)
FROM_BELOW = (SHAFT, RING)

PARAMETERS: tuple[Parameter, ...] = (
    Quantity("arm.front", "Camera arm", "m", 0.2, 2.5, 0.8, "Arms", "from the axis to the mount"),
    Quantity("arm.rear", "Weight arm", "m", 0.1, 2.0, 0.45, "Arms", "from the axis to the weights", sized=True),
    Choice("arm.section", "Arms of", (), "al6063-25x50x2", "Arms", "one to either side of the hub", table="sections"),
    stiff_as("Arms", "an arm"),
    Quantity("weights.mass", "Weights", "kg", 0.0, 40.0, 3.8, "Arms", "with their pin and collars"),
    Quantity("weights.above", "Weights above the arms", "m", -0.5, 1.0, 0.0, "Arms", "minus for below"),
    Quantity("riser.height", "Riser under the camera", "m", -0.8, 1.2, 0.35, "Arms", "minus for one that hangs"),
    Choice("riser.section", "Riser", (), "al6063-30x30x2", "Arms",
        "upright, at the end of the camera arm", table="sections"),
    Choice("camera.looks", "Camera looks", ((INWARD, "Inward"), (OUTWARD, "Outward")), INWARD, "Arms", "along the arm"),
    Choice("camera.count", "Cameras", ((ONE, "One"), (TWO, "Two"), (THREE, "Three"), (FOUR, "Four")), ONE, "Arms",
        "alike, at equal angles; more than one balance each other, and weights and their arm are left off"),
    Choice("arm.joint", "Arms are", ((BOLTED, "Bolted to the hub"), (SLIDES, "On drawer slides, clamped")), BOLTED,
        "Arms", "slides set the radius without tools; their play shows", only=(RING,)),
    Quantity("slide.overlap", "Slide is held over", "m", 0.05, 0.6, 0.2, "Arms",
        "what still lies inside when drawn out", only=(RING,)),
    Quantity("slide.play", "Side play of a slide", "m", 0.0, 0.005, 0.0004, "Arms",
        "at the mouth of its fixed part, to either side in all", only=(RING,)),
    Quantity("slide.clamp", "Its clamp holds", "N", 0.0, 5000.0, 250.0, "Arms",
        "along the slide, tried with a hanging scale", only=(RING,)),
    Choice("hub.carried", "Hub is", ((FEET, "Carried on feet"), (HUNG, "Hung from above")), FEET, "Hub",
        "hung it is overhead rigging", only=FROM_BELOW),
    Quantity("beam.height", "Arms above the floor", "m", 0.1, 4.5, 0.42, "Hub", "their middle", only=(SHAFT,)),
    Choice("hub.ring", "Ring bearing", RINGS, "plate-300", "Hub",
        "lies on the feet, the shaft goes through it; hung, under a board", only=(RING,)),
    Choice("hub.bearings", "Bearings", ((TWO, "Two, apart"), (ONE, "One")), TWO, "Hub",
        "between the fixed shaft and the arms", only=(SHAFT, DESK)),
    Quantity("hub.apart", "Bearings apart", "m", 0.05, 0.6, 0.14, "Hub",
        "middle to middle, or the height of the one", only=(SHAFT, DESK)),
    Choice("shaft.section", "Shaft", (), "galv-round-33.7x3.2", "Hub", "fixed, from base to table", table="sections"),
    Quantity("hub.friction", "Turns with", "N*m", 0.01, 10.0, 0.15, "Hub",
        "pull at the arm's end times its length", "balance"),
    Quantity("brake.torque", "Brake", "N*m", 0.0, 50.0, 0.0, "Hub", "0 for none", "balance"),
    Quantity("hung.height", "Hangs from, above the floor", "m", 1.2, 6.0, 2.5, "Hung",
        "the structure over it", only=FROM_BELOW),
    Choice("hanger.mount", "Held by", MOUNTS, "joists", "Hung", "what its plate is fixed to", only=FROM_BELOW),
    Choice("below", "Below it", BELOW, "clear", "Hung", "who may be under it"),
    *tether("Hung"),
    Quantity("frame.reach", "Reaches over", "m", 0.3, 1.6, 0.75, "Frame", "from its post to the axis", only=(DESK,)),
    Quantity("frame.height", "Height of the frame", "m", 0.9, 2.4, 1.5, "Frame",
        "its upper pipe above the floor", only=(DESK,)),
    Quantity("frame.drop", "Arms under its pipe", "m", 0.08, 0.8, 0.16, "Frame", "middle to middle", only=(DESK,)),
    Choice("frame.section", "Frame of", (), "galv-round-48.3x3.2", "Frame",
        "post and pipe alike", table="sections", only=(DESK,)),
    Quantity("frame.turned", "Stands round from the start by", "rad", -math.pi, math.pi, math.pi, "Frame",
        "its post, from where the camera starts", only=(DESK,)),
    Choice("frame.held", "Frame is", ((CLAMPED, "Clamped to the desk"),
        (FREE, "On feet of its own")), CLAMPED, "Frame", "", only=(DESK,)),
    Quantity("frame.root", "Foot gives way by turning", "N*m/rad", 200.0, 1e7, 25000.0, "Frame",
        "pull at the top and read; a clamp on a board 5 000 to 50 000", only=(DESK,)),
    Quantity("frame.clamp", "A clamp presses", "N", 100.0, 20000.0, 2500.0, "Frame",
        "one of the two on the desk's edge", only=(DESK,)),
    Quantity("frame.lever", "Clamps from the edge", "m", 0.02, 0.4, 0.08, "Frame",
        "over which they hold the post", only=(DESK,)),
    Quantity("frame.legs", "Feet reach forward", "m", 0.2, 1.8, 0.9, "Frame",
        "under the desk, where it stands by itself", only=(DESK,)),
    Quantity("frame.wide", "Feet apart", "m", 0.2, 1.8, 0.8, "Frame", "", only=(DESK,)),
    Quantity("desk.deep", "Desk deep", "m", 0.3, 2.0, 1.0, "Frame",
        "from its back edge, where the frame is", only=(DESK,)),
    Quantity("desk.wide", "Desk wide", "m", 0.4, 3.0, 1.4, "Frame", "", only=(DESK,)),
    Quantity("desk.mass", "Desk weighs", "kg", 2.0, 200.0, 28.0, "Frame",
        "with what stands on it but what is filmed", only=(DESK,)),
    Quantity("axis.plumb", "Axis out of plumb", "rad", 0.0, radians(5), radians(0.2), "Base",
        "as well as it is levelled", "travel"),
    Choice("base.feet", "Feet", ((THREE, "Three"), (FOUR, "Four")), FOUR, "Base",
        "evenly round the axis", only=FROM_BELOW),
    Choice("base.section", "Feet of", (), "pine-45x70", "Base",
        "a board on edge for each", table="sections", only=FROM_BELOW),
    Quantity("base.radius", "Feet from the axis", "m", 0.15, 1.5, 0.45, "Base", "", only=FROM_BELOW, sized=True),
    *ground_inputs("Base", only=FROM_BELOW),
    Quantity("base.mass", "Ballast of the base", "kg", 0.0, 150.0, 12.0, "Base",
        "over its feet; of a frame at its post"),
    Quantity("base.grip", "Grip of its feet", "1", 0.05, 1.0, 0.4, "Base", "rubber on wood 0.5, on dust 0.2"),
    Quantity("table.height", "Table", "m", 0.15, 2.0, 0.62, "Table",
        "its top above the floor; it does not turn; under hung arms it stands by itself"),
    Quantity("table.radius", "Table's radius", "m", 0.05, 1.0, 0.24, "Table", ""),
    Quantity("table.load", "On it stand", "kg", 0.0, 60.0, 3.0, "Table", ""),
    Quantity("table.subject", "reaching out to", "m", 0.01, 1.0, 0.18, "Table", "from the axis"),
    Quantity("table.tall", "and up to", "m", 0.0, 2.0, 0.14, "Table", "above the table"),
    Quantity("table.off", "its middle off the axis", "m", 0.0, 0.5, 0.002, "Table",
        "as well as it is set down", "travel"),
    Quantity("event.reach", "Splashes out to", "m", 0.0, 2.0, 0.0, "Event",
        "from the axis, what is poured, burst or struck; 0 for nothing", "travel"),
    Quantity("event.time", "and lasts", "s", 0.01, 60.0, 0.5, "Event", "", "travel"),
    Choice("drive.by", "Turned by", DRIVES, HAND, "Turning", ""),
    Quantity("spin.up", "Up to speed in", "s", 0.2, 60.0, 2.5, "Turning", "from standing"),
    Choice("people.inside", "In its circle", ((EMPTY, "Nobody"), (SOMEBODY, "Somebody, also who is filmed")), EMPTY,
        "Turning", "while it turns"),
    Quantity("lead.free", "Loose lead at the hub", "m", 0.0, 10.0, 0.0, "Turning", "it winds up; 0 for none"),
    Quantity("recorder.time", "Recorder holds", "s", 0.0, 600.0, 0.0, "Turning",
        "at this frame rate; 0 where it need not be asked", "travel"),
    Choice("mains.hz", "Mains of the lamps", (("50", "50 Hz"), ("60", "60 Hz")), "50", "Turning",
        "what their light ripples with", "travel"),
    Quantity("camera.exposure", "Exposure of a frame", "s", 0.00002, 1.0, 0.01, "Turning", "", "travel"),
    Quantity("lamp.depth", "Ripple of the lamps", "1", 0.0, 1.0, 0.3, "Turning", "0 steady daylight, 1 full", "travel"),
    Quantity("trial.mass", "Trial weight", "kg", 0.001, 5.0, 0.1, "Three trial runs", "", "balance"),
    Quantity("trial.arm", "at a radius of", "m", 0.05, 2.5, 0.3, "Three trial runs", "", "balance"),
    Readings(
        "trial.runs",
        "Shake in each run",
        (
            Quantity("run", "Run", "1", 0.0, 3.0, 0.0, "Three trial runs",
                "0 without the trial weight; 1, 2, 3 with it at the camera arm, a third and two thirds round"),
            Quantity("shake", "Shake", "1", 0.0, 1e6, 1.0, "Three trial runs",
                "how far it swings, in any unit, all at one speed"),
        ),
        "Three trial runs",
        "how strongly it shakes alone, and with the weight at three places, to the left from the camera arm",
        "balance",
        another="Add a run",
    ),
    least_bump("Base"),
    Choice("safety", "If it fails", SAFETY, "B", "Base", "sets the factors on strength and tipping"),
)  # fmt: skip

SCHOOLS = (
    School("Arms", (
        ("equal arms, equal weights", (("arm.rear", 0.8), ("weights.mass", 3.2)),
            "light, nothing to reckon; a wide circle on both sides"),
        ("short arm, more weight", (("arm.rear", 0.4), ("weights.mass", 6.6)),
            "room behind; more to carry, more on the hub"))),
    School("Hub", (
        ("on a shaft", (("variant", SHAFT),), "at any height; two bearings and a straight shaft"),
        ("on a ring bearing", (("variant", RING),), "low and cheap; its play shows at the camera"),
        ("under a frame", (("variant", DESK),),
            "nothing round the table; the frame sways, and no arm may be longer than it reaches"))),
    School("Speed", (
        ("by hand, let go", (("drive.by", HAND),), "nothing to build; slows as it runs"),
        ("slow motor", (("drive.by", MOTOR),), "one steady speed; to build, limit and stop"))),
)  # fmt: skip
TOLD_APART_BY = ("balance.wobble", "balance.base", "balance.energy", "travel.lean", "rig.mass", "build.cost")

DECLARED = Declared(
    home=__package__ or "",
    turns=True,
    id="orbit",
    name="Orbit rig",
    variants=VARIANTS,
    axes=(DriveAxis("turn", "Turn", 0, True),),
    parameters=PARAMETERS,
    usual={
        RING: {"table.height": 0.35, "riser.height": 0.4},
        DESK: {
            "table.height": 0.74,
            "arm.front": 0.55,
            "arm.rear": 0.35,
            "riser.height": -0.42,
            "weights.above": -0.12,
            "base.mass": 20.0,
            "hub.apart": 0.1,
            "table.subject": 0.12,
            "safety": "C",
        },
    },
    short={SHAFT: "centre shaft", RING: "ring bearing", DESK: "over a desk"},
    about="A camera goes round what stands on a table.",
    well="A full turn round a small thing, the thing always in the middle.",
    asks="Weights that balance it at both heights, a level base, and a circle nobody enters.",
    first={
        "": First("circle", (0.0, 0.8, 0.82), (0.0, 0.8, 0.82), 10.0),
        RING: First("circle", (0.0, 0.8, 0.6), (0.0, 0.8, 0.6), 10.0),
        DESK: First("circle", (0.0, 0.45, 1.0), (0.0, 0.45, 1.0), 10.0),
    },
)
