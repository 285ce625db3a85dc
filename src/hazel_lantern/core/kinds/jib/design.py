"""The parameters of a jib: declared once, read by bench, file, command line and manual."""

from __future__ import annotations

from math import radians

from hazel_lantern.core.quantity import Choice, Parameter, Quantity, Several

VARIANTS = (("two_bars", "Level-keeping by two bars"),)
_SAFETY = (("A", "A · nobody near"), ("B", "B · a fall breaks gear"), ("C", "C · people near"))

PARAMETERS: tuple[Parameter, ...] = (
    Quantity("arm.front", "Front arm", "m", 0.3, 6.0, 1.75, "Arm", "lower pivot to head pin"),
    Quantity("arm.rear", "Rear arm", "m", 0.1, 3.0, 0.62, "Arm", "lower pivot to the last place for weights"),
    Choice("arm.section", "Arm", (), "al6063-25x50x2", "Arm", "the lower bar, which carries the weights", table="sections"),
    Choice("bar.section", "Upper bar", (), "al6063-20x20x1.5", "Arm", "the bar that keeps the camera level", table="sections"),
    Quantity("bar.longer", "Upper bar longer by", "m", -0.02, 0.02, 0.0, "Arm", "upper bar minus arm, between pins"),
    Quantity("pivot.spacing", "Pivots apart, post", "m", 0.03, 0.5, 0.11, "Arm", "between the two pivots on the post"),
    Quantity("head.spacing", "Pivots apart, head", "m", 0.03, 0.5, 0.11, "Arm", "between the two pins on the head"),
    Quantity("arm.end", "Past the last hole", "m", 0.008, 0.2, 0.025, "Arm", "bar left beyond an end hole"),
    Quantity("head.ahead", "Mount ahead of pin", "m", -0.3, 0.6, 0.09, "Head", "camera mount forward of the head pin"),
    Quantity("head.rise", "Mount above pin", "m", -0.6, 0.6, 0.16, "Head", "camera mount above the lower head pin"),
    Quantity("head.low", "Lowest below pin", "m", 0.0, 0.8, 0.05, "Head", "lowest point of head or camera below the pin"),
    Quantity("head.mass", "Head and plate", "kg", 0.0, 15.0, 0.45, "Head", "tilt head and mount plate, without the camera"),
    Choice("head.section", "Head uprights", (), "al6063-flat-6x30", "Head", "two flats that carry the mount", table="sections"),
    Quantity("screw.length", "Camera screw", "m", 0.005, 0.05, 0.0127, "Head", "length below its head"),
    Quantity("screw.stack", "Plate under camera", "m", 0.0, 0.04, 0.0075, "Head", "plate, washers and pad the screw passes"),
    Quantity("pivot.height", "Pivot above ground", "m", 0.3, 3.0, 1.5, "Post and stand", "lower pivot above the ground"),
    Quantity("post.lean", "Post leans back", "rad", radians(-15), radians(15), 0.0, "Post and stand", "positive lifts the camera's nose"),
    Choice("post.section", "Post cheeks", (), "pine-45x95", "Post and stand", "two cheeks that hold the pivots", table="sections"),
    Quantity("post.length", "Cheek length", "m", 0.1, 1.5, 0.42, "Post and stand", "from top to the stand's plate"),
    Choice("stand", "Stand", (), "tripod-heavy", "Post and stand", "what carries the post", table="stands"),
    Quantity("stand.radius", "Feet from centre", "m", 0.2, 1.2, 0.80, "Post and stand", "from the centre to each foot"),
    Quantity("stand.turn", "Turn the stand", "rad", radians(-180), radians(180), 0.0, "Post and stand", "one leg under the arm at 0°"),
    Quantity("ballast.mass", "Ballast below hub", "kg", 0.0, 80.0, 0.0, "Post and stand", "sand bag hung under the stand"),
    Choice("pin.bolt", "Pivot bolts", (), "M8", "Pivots", "thread of all four pivots", table="bolts"),
    Choice("pin.grade", "Bolt grade", (), "8.8", "Pivots", "take 4.6 when unmarked", table="grades"),
    Choice("pivot.bearing", "Pivots turn on", (), "nylon", "Pivots", "washers or bearings at each face", table="bearings"),
    Quantity("pivot.clamp", "Pivot clamping", "N", 0.0, 2000.0, 60.0, "Pivots", "how hard each pivot is nipped up"),
    Several("weights.hung", "Hung", (), "Counterweight", "weights on the rear pin", "balance"),
    Quantity("weights.place", "Hung at", "m", 0.05, 3.0, 0.56, "Counterweight", "from the lower pivot to the weight pin", "balance"),
    Quantity("weights.above", "Height above pivot", "m", -0.4, 0.4, -0.01, "Counterweight", "above the line of the arm, minus for below", "balance"),
    Quantity("weights.nearest", "Slide from", "m", 0.05, 3.0, 0.4, "Counterweight", "nearest place of the slot; the rear arm is the farthest", "balance"),
    Quantity("weights.holder", "Weight pin and collars", "kg", 0.0, 5.0, 0.3, "Counterweight", "travels with the weights", "balance"),
    Quantity("limit.ground", "Keep above ground", "m", 0.0, 0.5, 0.05, "Room and people", "gap under head and weights"),
    Quantity("limit.bars", "Keep between bars", "m", 0.0, 0.1, 0.008, "Room and people", "smallest gap as the bars close"),
    Choice("safety", "If it fails", _SAFETY, "C", "Room and people", "sets the factors on strength and tipping"),
)  # fmt: skip
