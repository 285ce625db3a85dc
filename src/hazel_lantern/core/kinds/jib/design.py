"""The parameters of a jib: declared once, read by bench, file, command line and manual."""

from __future__ import annotations

from math import radians

from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Declared, DriveAxis, First
from hazel_lantern.core.kinds.shared.inputs import home_built, least_bump, stiff_as
from hazel_lantern.core.kinds.shared.lead import lead_input
from hazel_lantern.core.kinds.shared.under_feet import ground_inputs
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity, Several, Value

BARS, CABLE, PLAIN, RISER = "two_bars", "cable", "plain", "riser"
VARIANTS = (
    (BARS, "Level-keeping by two bars"), (CABLE, "Level-keeping by cable"), (PLAIN, "Plain arm, powered head"),
    (RISER, "Short riser, two bars"),
)  # fmt: skip
WITH_BAR = (BARS, RISER)
ONE, PAIR, TELESCOPE, TAPERED = "one", "pair", "telescopic", "tapered"
CHEEKS, SINGLE, BETWEEN, YOKE, CLAMPED = "cheeks", "single", "between", "yoke", "head"
SLOT, HOLES, HANGING, PEG, BAG, UPRIGHT = "slot", "holes", "hanging", "peg", "bag", "upright"
FIXED_PLACE = (PEG, BAG, UPRIGHT)  # carried in one hole, which nothing slides along
WHEELS, PINS = "wheels", "pins"
TWO_HANDS = "two"
ROD = "rod"
ARMS = (
    (ONE, "One bar"), (PAIR, "Two bars side by side"), (TELESCOPE, "Poles that slide into each other"),
    (TAPERED, "A pole that tapers"),
)  # fmt: skip
POSTS = (
    (CHEEKS, "Two cheeks"), (SINGLE, "One upright, at its side"), (BETWEEN, "One post between two arm bars"),
    (YOKE, "A yoke of channel"),
    (CLAMPED, "A fluid head it is clamped on"),
)  # fmt: skip
CABLES = ((WHEELS, "Over two equal wheels"), (PINS, "Between pins above and below"))
CARRIED = (
    (SLOT, "On a pin that slides"), (HOLES, "On a pin, hole to hole"), (HANGING, "Hanging plumb below a pin"),
    (PEG, "On a peg, one place"),
    (BAG, "A bag below a pin, filled"), (UPRIGHT, "On a rear upright, kept plumb"),
)  # fmt: skip
# An arm of ordinary size on a stand spread wide; weights by their ids in a new project.
ORDINARY: dict[str, Value] = {"arm.front": 1.3, "arm.rear": 0.48, "stand.radius": 0.85, "weights.nearest": 0.3}
# What a new jib of each construction starts with where it differs.
USUAL: dict[str, dict[str, Value]] = {
    BARS: {**ORDINARY, "weights.hung": ("w1", "w2", "w4", "w6"), "weights.place": 0.3913, "pivot.height": 1.28},
    CABLE: {
        **ORDINARY, "head.rise": 0.14, "arm.section": "al6063-30x60x3",
        "weights.hung": ("w1", "w2", "w3", "w8"), "weights.place": 0.3941, "pivot.height": 1.3,
    },
    PLAIN: {
        **ORDINARY, "head.mass": 1.3, "head.ahead": 0.0, "head.rise": 0.1, "arm.section": "al6063-30x60x3",
        "weights.hung": ("w1", "w2", "w3", "w4", "w5"), "weights.place": 0.3876, "pivot.height": 1.34,
    },
    RISER: {
        "arm.front": 0.65, "arm.rear": 0.34, "arm.section": "al6063-20x40x2", "pivot.spacing": 0.1, "head.spacing": 0.1,
        "weights.hung": ("w1", "w6"), "weights.place": 0.277, "weights.nearest": 0.22,
        "pivot.height": 1.23, "post.length": 0.3, "pan.bearing": "head-heavy", "stand.radius": 0.85,
    },
}  # fmt: skip
_SAFETY = (("A", "A · nobody near"), ("B", "B · a fall breaks gear"), ("C", "C · people near"))

PARAMETERS: tuple[Parameter, ...] = (
    Quantity("arm.front", "Front arm", "m", 0.3, 6.0, 1.75, "Arm", "lower pivot to head pin"),
    Quantity("arm.rear", "Rear arm", "m", 0.1, 3.0, 0.62, "Arm",
        "lower pivot to the last place for weights", sized=True),
    Choice("arm.section", "Arm", (), "al6063-25x50x2", "Arm",
        "the lower bar, which carries the weights", table="sections"),
    Choice("bar.section", "Upper bar", (), "al6063-20x20x1.5", "Arm", "the bar that keeps the camera level",
        table="sections", only=WITH_BAR),
    Quantity("bar.longer", "Upper bar longer by", "m", -0.02, 0.02, 0.0, "Arm",
        "upper bar minus arm, between pins", only=WITH_BAR),
    Quantity("pivot.spacing", "Pivots apart, post", "m", 0.03, 0.5, 0.11, "Arm",
        "between the two pivots on the post", only=WITH_BAR),
    Quantity("head.spacing", "Pivots apart, head", "m", 0.03, 0.5, 0.11, "Arm",
        "between the two pins on the head", only=WITH_BAR),
    Choice("arm.made", "Made of", ARMS, ONE, "Arm", "poles slide into each other or taper to a thinner tip"),
    Choice("arm.tip", "Front pole or thin tip", (), "al6063-round-25x2", "Ends, joint, stay",
        "of telescopic or tapered poles: what the arm ends as", table="sections",
        when=("arm.made", (TELESCOPE, TAPERED))),
    Quantity("arm.joint", "Sleeve joint at", "m", 0.0, 5.0, 0.0, "Ends, joint, stay",
        "ahead of the pivot; 0 for an arm in one piece"),
    Quantity("arm.sleeve", "Sleeve length", "m", 0.06, 1.0, 0.3, "Ends, joint, stay", "half of it in each piece"),
    Quantity("arm.sleeve_play", "Play in the sleeve", "m", 0.0, 0.003, 0.0002, "Ends, joint, stay",
        "gap between sleeve and bar; shim it out"),
    Quantity("stay.mast", "Stay mast above pivot", "m", 0.0, 1.5, 0.0, "Ends, joint, stay",
        "carries a cable to both ends of the arm; 0 for none"),
    Choice("stay.rope", "Stay cable", (), "wire-2", "Ends, joint, stay", "from the mast to both ends", table="ropes"),
    Quantity("arm.damping", "Damping of the arm", "1", 0.002, 0.3, 0.02, "Ends, joint, stay",
        "metal 0.01, bolted 0.02, wood 0.03 of critical"),
    stiff_as("Ends, joint, stay", "the arm"),
    Quantity("arm.end", "Past the last hole", "m", 0.008, 0.2, 0.025, "Ends, joint, stay",
        "bar left beyond an end hole"),
    Choice("cable.over", "Cable runs", CABLES, WHEELS, "Level",
        "over wheels that turn alike, or between pins like the sides of a parallelogram", only=(CABLE,)),
    Choice("cable.rope", "Levelling cable", (), "wire-2", "Level", "one loop over both wheels, or two runs",
        table="ropes", only=(CABLE,)),
    Quantity("cable.post_wheel", "Wheel at the post", "m", 0.03, 0.6, 0.12, "Level",
        "diameter where the cable lies, or from pin to pin; never turns", only=(CABLE,)),
    Quantity("cable.head_wheel", "Wheel at the head", "m", 0.03, 0.6, 0.12, "Level",
        "diameter where the cable lies, or from pin to pin; measured, not as marked", only=(CABLE,)),
    Quantity("cable.wheel_mass", "Each wheel weighs", "kg", 0.0, 5.0, 0.18, "Level", "with its hub", only=(CABLE,),
        when=("cable.over", (WHEELS,))),
    Quantity("cable.tension", "Cable tightened to", "N", 0.0, 5000.0, 120.0, "Level",
        "pull in each run with the head in balance", only=(CABLE,)),
    Quantity("cable.adjust", "Adjuster turned by", "m", -0.03, 0.03, 0.0, "Level",
        "one run shorter, the other longer; positive lifts the nose", only=(CABLE,)),
    Quantity("cable.travel", "Adjuster goes", "m", 0.0, 0.15, 0.04, "Level",
        "from end to end; start it half-way", only=(CABLE,)),
    Quantity("head.tilt_down", "Head tilts down to", "rad", radians(-180), 0.0, radians(-90), "Level",
        "against the arm", only=(PLAIN,)),
    Quantity("head.tilt_up", "and up to", "rad", 0.0, radians(180), radians(60),
        "Level", "against the arm", only=(PLAIN,)),
    Quantity("head.ahead", "Mount ahead of pin", "m", -0.3, 0.6, 0.09, "Head", "camera mount forward of the head pin"),
    Quantity("head.rise", "Mount above pin", "m", -0.6, 0.6, 0.165, "Head", "camera mount above the lower head pin"),
    Quantity("head.low", "Lowest below pin", "m", 0.0, 0.8, 0.05, "Head",
        "lowest point of head or camera below the pin"),
    Quantity("head.mass", "Head and plate", "kg", 0.0, 15.0, 0.45, "Head",
        "tilt head and mount plate, without the camera"),
    Choice("head.section", "Head uprights", (), "al6063-flat-6x30", "Head",
        "two flats that carry the mount", table="sections"),
    Quantity("screw.length", "Camera screw", "m", 0.005, 0.05, 0.0127, "Head", "length below its head"),
    Quantity("screw.stack", "Plate under camera", "m", 0.0, 0.04, 0.0075, "Head",
        "plate, washers and pad the screw passes"),
    Quantity("pivot.height", "Pivot above ground", "m", 0.3, 3.0, 1.5, "Post and stand",
        "lower pivot above the ground"),
    Quantity("post.lean", "Post leans back", "rad", radians(-15), radians(15), 0.0, "Post and stand",
        "positive lifts the camera's nose"),
    Choice("post.made", "Pivot held by", POSTS, CHEEKS, "Post and stand", "what the arm turns on"),
    Choice("post.section", "Post", (), "pine-45x95", "Post and stand",
        "each cheek, the one upright, or the channel of a yoke", table="sections",
        when=("post.made", (CHEEKS, SINGLE, BETWEEN, YOKE))),
    Quantity("post.length", "Cheek length", "m", 0.1, 1.5, 0.42, "Post and stand", "from top to the stand's plate",
        when=("post.made", (CHEEKS, SINGLE, BETWEEN))),
    Choice("pan.bearing", "Pans on", (), "plate-300", "Post and stand", "between post and stand", table="turntables"),
    Quantity("pan.speed", "A pan swings the lens at", "m/s", 0.0, 5.0, 0.5, "Post and stand", "fastest, sideways"),
    Quantity("pan.stop", "and stops it with", "m/s^2", 0.05, 20.0, 0.8, "Post and stand", "hard stop of the hand"),
    Choice("stand", "Stand", (), "tripod-heavy", "Post and stand", "what carries the post", table="stands"),
    Quantity("stand.radius", "Feet from centre", "m", 0.2, 1.2, 0.80, "Post and stand",
        "from the centre to each foot", sized=True),
    Quantity("stand.turn", "Turn the stand", "rad", radians(-180), radians(180), 0.0, "Post and stand",
        "one leg under the arm at 0°"),
    *home_built("Post and stand"),
    *ground_inputs("Post and stand"),
    Quantity("ballast.mass", "Ballast below hub", "kg", 0.0, 80.0, 0.0, "Post and stand",
        "sand bag hung under the stand"),
    Choice("pin.bolt", "Pivot bolts", (), "M8", "Pivots", "thread of all four pivots", table="bolts"),
    Choice("pin.made", "Pivots are", (("bolt", "Bolts, plain shank"), (ROD, "Threaded rod")), "bolt", "Pivots",
        "a rod is cheap, weaker in its thread, and saws its holes"),
    Choice("pin.grade", "Bolt grade", (), "8.8", "Pivots", "take 4.6 when unmarked", table="grades"),
    Choice("pivot.bearing", "Pivots turn on", (), "nylon", "Pivots",
        "washers or bearings at each face", table="bearings"),
    Quantity("pivot.clamp", "Pivot clamping", "N", 0.0, 2000.0, 60.0, "Pivots", "how hard each pivot is nipped up"),
    Several("weights.hung", "Hung", (), "Counterweight", "weights on the rear pin", "balance"),
    Quantity("weights.place", "Hung at", "m", 0.05, 3.0, 0.56, "Counterweight",
        "from the lower pivot to the weight pin", "balance"),
    Quantity("weights.above", "Height above pivot", "m", -0.4, 0.4, -0.01, "Counterweight",
        "above the line of the arm, minus for below", "balance",
        when=("weights.carried", (SLOT, HOLES, PEG, BAG, HANGING, UPRIGHT))),
    Quantity("weights.nearest", "Slide from", "m", 0.05, 3.0, 0.4, "Counterweight",
        "nearest place of the slot; the rear arm is the farthest", "balance",
        when=("weights.carried", (SLOT, HOLES, HANGING))),
    Choice("weights.carried", "Carried", CARRIED, SLOT, "Counterweight",
        "sliding balances to the gram; holes ask for small plates", "balance"),
    Quantity("weights.bag", "Bag filled to", "kg", 0.0, 40.0, 6.0, "Counterweight", "sand or shot, weighed", "balance",
        when=("weights.carried", (BAG,))),
    Quantity("weights.step", "From hole to hole", "m", 0.005, 0.3, 0.05, "Counterweight", "for a pin in holes",
        "balance", when=("weights.carried", (HOLES,))),
    Quantity("weights.holder", "Weight pin and collars", "kg", 0.0, 5.0, 0.3, "Counterweight",
        "travels with the weights", "balance"),
    Quantity("limit.ground", "Keep above ground", "m", 0.0, 0.5, 0.05, "Room and people", "gap under head and weights"),
    Quantity("limit.bars", "Keep between bars", "m", 0.0, 0.1, 0.008, "Room and people",
        "smallest gap as the bars close", only=WITH_BAR),
    Quantity("park.lever", "Parking strap ahead of pivot", "m", 0.05, 3.0, 0.5, "Room and people",
        "holds the arm down while the camera is off"),
    Quantity("wind.speed", "Wind", "m/s", 0.0, 25.0, 0.0, "Room and people", "gusts; 8 m/s moves small branches"),
    Quantity("wind.area", "Area it meets at the camera", "m^2:floor", 0.0, 2.0, 0.06, "Room and people",
        "camera, hood, monitor"),
    Choice("hands", "Steered with", (("one", "One hand"), (TWO_HANDS, "Two hands, leaning")),
        "one", "Room and people", "at the rear end"),
    least_bump("Room and people"),
    replace(lead_input("Counterweight"), station="balance"),
    Choice("safety", "If it fails", _SAFETY, "C", "Room and people", "sets the factors on strength and tipping"),
)  # fmt: skip

DECLARED = Declared(
    home=__package__ or "",
    id="jib",
    name="Jib",
    variants=VARIANTS,
    axes=(DriveAxis("swing", "Swing", 0, True), DriveAxis("pan", "Pan", 1, True)),
    parameters=PARAMETERS,
    usual=USUAL,
    short={BARS: "two bars", CABLE: "by cable", PLAIN: "powered head", RISER: "short riser"},
    about="Lifts it from low to high in one sweep.",
    well="One clean sweep from low to high, over things, the camera level all the way.",
    asks="Weights at the rear, a wide heavy stand, and room all round that nobody walks into.",
    first={"": First("rise", (0.0, 0.0, 0.6), (0.0, 0.0, 2.4)), RISER: First("rise", (0.0, 0.0, 1.0), (0.0, 0.0, 1.9))},
)
