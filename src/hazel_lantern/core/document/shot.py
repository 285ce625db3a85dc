"""What a shot's fields mean: declared as quantities beside those of the rigs."""

from __future__ import annotations

from math import pi

from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity

RISE, SLIDE, FOLLOW, ARC, CIRCLE, FLY, LOOK_DOWN = "rise", "slide", "follow", "arc", "circle", "fly", "look_down"
PLACES = "places"
MOVES = (
    (RISE, "rise"),
    (SLIDE, "slide"),
    (FOLLOW, "follow"),
    (ARC, "arc"),
    (CIRCLE, "circle"),
    (FLY, "fly"),
    (LOOK_DOWN, "look down"),
    (PLACES, "places"),
)
KEPT, ONCE, LEVEL, EACH = "kept", "once", "level", "each"
AIMS = (
    (KEPT, "Kept on it all the way"),
    (ONCE, "Set once, half-way"),
    (LEVEL, "Level, as the rig points"),
    (EACH, "Each axis for itself"),
)
PAN, TILT, ROLL, FOCUS = "pan", "tilt", "roll", "focus"
FIXED, KEYED = "fixed", "keyed"
HAND, REAR, REMOTE, MOTOR = "hand", "rear", "remote", "motor"
WORKED_BY = (
    (HAND, "a hand at the head"),
    (REAR, "rods or cords from the rear"),
    (REMOTE, "a remote"),
    (MOTOR, "a motor"),
)
JUDDER = (("usual", "Usual"), ("stricter", "Stricter"), ("looser", "Looser"))

FRAMES = (
    ("", "none"), ("2.39", "2.39 : 1"), ("2", "2 : 1"), ("1.85", "1.85 : 1"), ("1.778", "16 : 9"), ("1.333", "4 : 3"), ("1", "1 : 1"), ("0.8", "4 : 5"), ("0.5625", "9 : 16"),
)  # fmt: skip

TIME = Quantity("shot.time", "In", "s", 0.2, 36000.0, 8.0, "The move", "duration of the move", "shot", short="In")
PARAMETERS: tuple[Parameter, ...] = (
    Choice("shot.move", "Move", MOVES, RISE, "The move", "what the camera should do", "shot", pictures="moves"),
    Quantity(
        "shot.start",
        "Lens starts at",
        "m",
        0.0,
        8.0,
        0.6,
        "The move",
        "height of the lens above the ground",
        "shot",
        short="From",
    ),
    Quantity(
        "shot.end",
        "and ends at",
        "m",
        0.0,
        8.0,
        2.4,
        "The move",
        "height of the lens above the ground",
        "shot",
        short="To",
        beside=True,
    ),
    TIME,
    Quantity(
        "shot.ramp",
        "Ease at each end",
        "1",
        0.05,
        0.5,
        0.35,
        "Over time",
        "share of the time taken to speed up",
        "shot",
    ),
    Quantity("shot.hold_start", "Hold before", "s", 0.0, 600.0, 0.0, "Over time", "still at the start", "shot"),
    Quantity("shot.hold_end", "Hold after", "s", 0.0, 600.0, 0.0, "Over time", "still at the end", "shot"),
    Quantity("shot.start_x", "Starts, right", "m", -50.0, 50.0, 0.0, "On the set", "to the right on the set", "shot"),
    Quantity("shot.start_y", "Starts, deep", "m", -50.0, 50.0, 0.0, "On the set", "into the set", "shot"),
    Quantity("shot.end_x", "Ends, right", "m", -50.0, 50.0, 0.0, "On the set", "to the right on the set", "shot"),
    Quantity("shot.end_y", "Ends, deep", "m", -50.0, 50.0, 0.0, "On the set", "into the set", "shot"),
    Quantity(
        "shot.arc",
        "Arc about the subject",
        "rad",
        -2 * pi,
        2 * pi,
        pi / 2,
        "On the set",
        "positive to the right round it; for an arc",
        "shot",
    ),
    Choice("shot.aim", "Camera aims", AIMS, KEPT, "On the set", "how the head is worked", "shot"),
    Quantity(
        "shot.crew", "People to work it", "count", 1, 12, 1, "Axes of the head", "all who have a hand on it", "shot"
    ),
    Quantity("shot.focal", "Lens", "m:lens", 0.001, 1.0, 0.024, "The move", "focal length", "shot"),
    Quantity(
        "shot.capture",
        "Shot at",
        "1/s",
        1.0,
        1000.0,
        25.0,
        "The move",
        "frames a second in the camera",
        "shot",
        short="Shot at",
    ),
    Quantity(
        "shot.shown",
        "Shown at",
        "1/s",
        1.0,
        240.0,
        25.0,
        "The move",
        "frames a second on the screen",
        "shot",
        short="Shown at",
        beside=True,
    ),
    Quantity("shot.shutter", "Shutter", "rad", 0.01, 2 * pi, pi, "Picture", "open for this share of a turn", "shot"),
    Quantity("shot.aperture", "Aperture f/", "1", 0.7, 64.0, 4.0, "Picture", "f-number", "shot"),
    Quantity(
        "shot.sensor_width",
        "Picture area, wide",
        "m:lens",
        0.002,
        0.1,
        0.0235,
        "Picture",
        "width of the recorded area",
        "shot",
    ),
    Quantity(
        "shot.sensor_height",
        "Picture area, high",
        "m:lens",
        0.002,
        0.1,
        0.0132,
        "Picture",
        "height of the recorded area",
        "shot",
    ),
    Quantity("shot.squeeze", "Lens squeeze", "1", 1.0, 2.5, 1.0, "Picture", "1 for a plain lens", "shot"),
    Quantity("shot.pixels_wide", "Delivered, wide", "px", 100.0, 20000.0, 3840.0, "Picture", "pixels across", "shot"),
    Quantity("shot.pixels_high", "Delivered, high", "px", 100.0, 20000.0, 2160.0, "Picture", "pixels up", "shot"),
    Choice(
        "shot.frame",
        "Frame lines",
        FRAMES,
        "",
        "Picture",
        "drawn for another shape cut from it later; figures are of the whole picture",
        "shot",
    ),
    Choice("shot.judder", "Judder", JUDDER, "usual", "Picture", "how strictly jumps between frames are judged", "shot"),
    Quantity(
        "shot.wanted_parallax",
        "Near passes far by",
        "1",
        0.01,
        5.0,
        0.5,
        "What would it take",
        "share of the picture's width",
        "shot",
    ),
    Quantity(
        "shot.wanted_crossing",
        "Crosses the screen in",
        "s",
        0.2,
        600.0,
        8.0,
        "What would it take",
        "slowest time wanted for the fastest thing",
        "shot",
    ),
    Quantity(
        "shot.wanted_cover",
        "See from above",
        "m",
        0.05,
        20.0,
        1.2,
        "What would it take",
        "length of bench in one frame",
        "shot",
    ),
    Quantity(
        "shot.wanted_overlap",
        "Frames overlap by",
        "1",
        0.0,
        0.9,
        0.2,
        "What would it take",
        "share of a frame seen again in the next, when they are joined",
        "shot",
    ),
    Quantity(
        "shot.wanted_fill",
        "Subject fills",
        "1",
        0.02,
        1.0,
        0.5,
        "What would it take",
        "share of the picture's height",
        "shot",
    ),
)
# The field of a shot behind each of them, and which number of it; times and ease are in the keys.
FIELDS: dict[str, tuple[str] | tuple[str, int]] = {
    "shot.move": ("move",), "shot.start": ("start_height_m",), "shot.end": ("end_height_m",),
    "shot.start_x": ("start_at_m", 0), "shot.start_y": ("start_at_m", 1), "shot.end_x": ("end_at_m", 0), "shot.end_y": ("end_at_m", 1),
    "shot.arc": ("arc_rad",), "shot.aim": ("aim",), "shot.crew": ("crew",), "shot.capture": ("capture_fps",), "shot.shown": ("shown_fps",), "shot.shutter": ("shutter_rad",), "shot.aperture": ("aperture",),
    "shot.focal": ("focal_m",), "shot.sensor_width": ("sensor_width_m",), "shot.sensor_height": ("sensor_height_m",), "shot.squeeze": ("squeeze",),
    "shot.pixels_wide": ("pixels_wide",), "shot.pixels_high": ("pixels_high",), "shot.judder": ("judder",), "shot.frame": ("frame",),
    "shot.wanted_parallax": ("wanted_parallax",), "shot.wanted_crossing": ("wanted_crossing_s",), "shot.wanted_cover": ("wanted_cover_m",),
    "shot.wanted_overlap": ("wanted_overlap",), "shot.wanted_fill": ("wanted_fill",),
}  # fmt: skip
