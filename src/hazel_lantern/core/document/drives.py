"""What may drive an axis and through what: sources and elements with their sizes, declared once."""

from __future__ import annotations

import math
from collections.abc import Mapping

from msgspec import Struct

from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity

NOTHING, HAND, CRANK, REEL, GEARMOTOR, STEPPER, SLOW, OWN, GRAVITY, MAINS = (
    "", "hand", "crank", "reel", "gearmotor", "stepper", "slow", "own", "gravity", "mains",
)  # fmt: skip
SOURCES = (
    (NOTHING, "not yet"), (HAND, "hand"), (CRANK, "crank"), (REEL, "reel"),
    (GEARMOTOR, "gearmotor"), (STEPPER, "stepper"),
    (SLOW, "slow motor"), (OWN, "own motor"), (GRAVITY, "its weight"), (MAINS, "mains tool"),
)  # fmt: skip
NAMES: Mapping[str, str] = {
    HAND: "by hand", CRANK: "by a crank", REEL: "by cord and reel",
    GEARMOTOR: "by a gearmotor", STEPPER: "by a stepper",
    SLOW: "by a slow motor", OWN: "by a motor of your own", GRAVITY: "by its own weight", MAINS: "by a mains tool",
}  # fmt: skip
MOTORS = (GEARMOTOR, STEPPER, SLOW, OWN)
BY_HAND = (HAND, CRANK, REEL)
BARE = (NOTHING, HAND, GRAVITY, MAINS)  # that turn no shaft
TURN, WAY = "turn", "way"

SPUR, SECTOR, BELT, CHAIN, WORM, RIM = "spur", "sector", "belt", "chain", "worm", "rim"
SCREW, DRUM, CAPSTAN, BELTWAY, ROLLER, RACK = "screw", "drum", "capstan", "beltway", "roller", "rack"
NO_HOLD, BRAKE, PIN, TETHER = "none", "brake", "pin", "tether"
LEFT_IN, LIFTED, SLACKED, CLUTCH = "fixed", "lift", "slack", "clutch"
OPEN, COVERED = "open", "covered"
NO_SWITCH, BOTH_ENDS = "none", "both"
QUIET, RECORDED = "none", "recorded"
STACKED, NESTED = "stacked", "nested"
CORD_EA = 6000.0  # newtons, of a braided cord of 2 mm; workshop judgement


LASER, ROUTER, PRINTER, SAW = "laser", "router", "printer", "saw"
SCREWED, PINNED, INSERT = "screw", "pin", "insert"
# What gears are cut from: its name, the stress a tooth may work at [Pa], density [kg/m^3], what it is painted as, what
# is said of it.
GEAR_STUFF: Mapping[str, tuple[str, float, float, str, str]] = {
    "ply": ("Birch plywood", 10e6, 680.0, "wood", "odd plies; grain does not matter"),
    "hardwood": ("Hardwood, a solid disc", 2e6, 700.0, "wood", "its teeth across the grain are the weakest"),
    "mdf": ("MDF", 4e6, 750.0, "wood", "seal it"),
    "acrylic": ("Acrylic", 12e6, 1190.0, "plastic", "brittle: no shocks"),
    "pla": ("Printed PLA", 12e6, 1240.0, "plastic", "creeps in the sun"),
    "petg": ("Printed PETG", 10e6, 1270.0, "plastic", "tough"),
    "nylon": ("Nylon", 12e6, 1140.0, "plastic", "as it is when damp"),
    "acetal": ("Acetal", 20e6, 1410.0, "plastic", "the best plastic for gears"),
    "aluminium": ("Aluminium 6061-T6", 60e6, 2700.0, "aluminium", "pair it with plastic"),
    "steel": ("Mild steel or brass", 80e6, 7850.0, "steel", "the pinion of choice"),
}  # fmt: skip


class Sort(Struct, frozen=True):
    """A sort of element: whether what it drives turns or goes along a way, its sizes, the one that gears it down with
    the power it does so by (1 or -1), and where such an element belongs.
    """

    key: str
    name: str
    gives: str
    sizes: tuple[Parameter, ...]
    gears: tuple[str, int]
    says: str

    def usual(self) -> dict[str, float | str]:
        """Its sizes as they are where nothing else is said."""
        return {size.key: size.default for size in self.sizes}  # type: ignore[misc]


def _size(key: str, label: str, unit: str, low: float, high: float, usual: float, words: str = "") -> Quantity:
    return Quantity(key, label, unit, low, high, usual, "", words, "drive")


def _teeth(key: str, label: str, usual: float, low: float = 6, high: float = 400) -> Quantity:
    return _size(key, label, "count", low, high, usual)


def _module(usual: float) -> Quantity:
    return _size("module", "Module", "m:tooth", 0.0003, 0.012, usual, "pitch circle over teeth")


def _width(usual: float) -> Quantity:
    return _size("width", "Face width", "m", 0.002, 0.1, usual)


def _gives(usual: float) -> Quantity:
    return _size("efficiency", "Efficiency", "1", 0.05, 1.0, usual, "metal 0.97, printed 0.92, wood 0.90")


def _play(usual: float, words: str = "free play at its pitch circle") -> Quantity:
    return _size("play", "Play", "m", 0.0, 0.01, usual, words)


def _cut() -> tuple[Parameter, ...]:
    """How the gears of an element are cut, and of what."""
    return (
        _size("angle", "Pressure angle", "rad", math.radians(14.5), math.radians(25), math.radians(20)),
        Choice("stuff", "Cut from", tuple((key, row[0]) for key, row in GEAR_STUFF.items()), "ply", "", "", "drive"),
        Choice(
            "tool",
            "Cut by",
            ((LASER, "a laser"), (ROUTER, "a router"), (PRINTER, "a printer"), (SAW, "a saw, by hand")),
            LASER,
            "",
            "",
            "drive",
        ),
        Quantity("kerf", "Width of its cut", "m:tooth", 0.0, 0.002, 0.0002, "", "", "drive", when=("tool", (LASER,))),
        Quantity("bit", "Bit", "m:tooth", 0.0004, 0.012, 0.002, "", "its diameter", "drive", when=("tool", (ROUTER,))),
        Quantity("nozzle", "Nozzle", "m:tooth", 0.0001, 0.0012, 0.0004, "", "", "drive", when=("tool", (PRINTER,))),
        _size("bore", "Bore", "m", 0.001, 0.06, 0.008, "of what sits on an 8 mm shaft"),
        Choice(
            "fixed",
            "Held on its shaft by",
            (
                (SCREWED, "a hub with a set screw on a flat"),
                (PINNED, "a pin through hub and shaft"),
                (INSERT, "a keyed insert, pressed and glued in"),
            ),
            SCREWED,
            "",
            "",
            "drive",
        ),
        Quantity("spokes", "Spokes of the large gear", "count", 0, 8, 5, "", "0 for a full disc", "drive"),
    )


def _grip(usual: float = 0.5) -> Quantity:
    return _size("grip", "Friction", "1", 0.02, 1.5, usual, "rubber on aluminium or wood 0.5, on steel 0.6")


def _cord(usual: float) -> tuple[Quantity, ...]:
    return (
        _size("cord", "Cord", "m", 0.0003, 0.02, usual, "thickness"),
        _size("breaks", "Cord breaks at", "N", 20.0, 1e5, 800.0),
        _size("stretch", "Cord stretches, EA", "N", 100.0, 5e6, CORD_EA, "pull for its own length again"),
    )


SORTS: Mapping[str, Sort] = {
    sort.key: sort
    for sort in (
        Sort(SPUR, "Spur gears", TURN, (
            _teeth("driver", "Driver teeth", 16), _teeth("driven", "Driven teeth", 64), _module(0.002), _width(0.009),
            _gives(0.92), _play(0.0002), *_cut(),
        ), ("driven", 1), "cut at home; play where they mesh"),
        Sort(SECTOR, "Sector on the arm", TURN, (
            _teeth("driver", "Pinion teeth", 16), _teeth("driven", "Teeth of the whole gear", 160, 12, 900),
            _module(0.0025), _width(0.01), _gives(0.92), _play(0.0003), *_cut(),
        ), ("driven", 1), "about the pivot; the least play where it counts most"),
        Sort(BELT, "Toothed belt", TURN, (
            _teeth("driver", "Driver teeth", 16, 8), _teeth("driven", "Driven teeth", 60, 8),
            _size("pitch", "Pitch", "m", 0.001, 0.02, 0.003), _size("apart", "Shafts apart", "m", 0.01, 3.0, 0.12),
            _gives(0.95), _play(0.0001),
        ), ("driven", 1), "quiet, no play to see, needs a tensioner"),
        Sort(CHAIN, "Chain", TURN, (
            _teeth("driver", "Driver teeth", 15, 5), _teeth("driven", "Driven teeth", 45, 5),
            _size("pitch", "Pitch", "m", 0.003, 0.02, 0.00635), _size("apart", "Shafts apart", "m", 0.02, 3.0, 0.2),
            _gives(0.93), _play(0.0005, "0.5 mm with a tensioner, 2 mm without"),
        ), ("driven", 1), "strong and cheap; pulses on small wheels"),
        Sort(WORM, "Worm and wheel", TURN, (
            _size("starts", "Starts of the worm", "count", 1, 8, 1), _teeth("driven", "Wheel teeth", 40, 12),
            _module(0.0015), _size("lead", "Lead angle", "rad", math.radians(1), math.radians(60), math.radians(4.5)),
            _size("grip", "Friction", "1", 0.01, 0.6, 0.1, "steel on bronze, greased 0.06 to 0.12"), _play(0.0002),
        ), ("driven", 1), "slow in one step; most hold by themselves"),
        Sort(RIM, "Roller on a rim", TURN, (
            _size("roller", "Roller", "m", 0.004, 0.3, 0.03, "its diameter"),
            _size("driven", "Rim", "m", 0.02, 4.0, 0.4, "its diameter"),
            _size("press", "Pressed on with", "N", 1.0, 2000.0, 30.0), _grip(), _gives(0.9),
        ), ("driven", 1), "nothing to cut; may slip, so it keeps no place"),
        Sort(SCREW, "Lead screw", WAY, (
            _size("lead", "Lead", "m", 0.0005, 0.1, 0.008, "way for a turn"),
            _size("outer", "Outer diameter", "m", 0.003, 0.06, 0.012),
            _size("mean", "Mean diameter", "m", 0.002, 0.06, 0.011),
            _size("half_angle", "Flank angle", "rad", 0.0, math.radians(45), math.radians(15),
                "half the thread: trapezoid 15°, V 30°, ball screw 0°"),
            _size("grip", "Friction", "1", 0.003, 0.5, 0.12, "bronze nut 0.1 to 0.15, plastic 0.2, balls 0.005"),
            Choice("ends", "Ends held", (("both", "turning in both bearings"), ("one", "one end clamped"),
                ("fixed", "both ends clamped"), ("free", "one end free")), "one", "", "", "drive"),
            _play(0.0001, "0.05 to 0.2 mm; next to none with a sprung nut"),
        ), ("lead", -1), "fine and stiff; a long one whips"),
        Sort(DRUM, "Cord on a drum", WAY, (
            _size("bare", "Drum", "m", 0.005, 0.6, 0.04, "its bare diameter"),
            _size("width", "Between the flanges", "m", 0.002, 0.5, 0.06), *_cord(0.002),
            Choice("laid", "Turns are", ((STACKED, "stacked"), (NESTED, "nested")), STACKED, "",
                "how layers lie", "drive"), _gives(0.92),
        ), ("bare", -1), "pulls one way; its speed grows with the layers"),
        Sort(CAPSTAN, "Looped cord on a wheel", WAY, (
            _size("wheel", "Wheel", "m", 0.005, 0.6, 0.05, "its diameter where the cord lies"), *_cord(0.002),
            _size("wraps", "Lies round it", "rad", math.radians(90), math.radians(3600), math.radians(720)),
            _size("tight", "Slack side pulled", "N", 1.0, 3000.0, 20.0), _grip(0.2), _gives(0.92),
        ), ("wheel", -1), "both ways, any length; may slip"),
        Sort(BELTWAY, "Toothed belt along the way", WAY, (
            _teeth("teeth", "Pulley teeth", 20, 8), _size("pitch", "Pitch", "m", 0.001, 0.02, 0.002),
            _size("breaks", "Belt breaks at", "N", 20.0, 1e5, 600.0),
            _size("stretch", "Belt stretches, EA", "N", 500.0, 5e6, 20000.0), _gives(0.95), _play(0.0001),
        ), ("teeth", -1), "light, both ways, no play to see"),
        Sort(ROLLER, "Roller on the rail", WAY, (
            _size("roller", "Roller", "m", 0.004, 0.3, 0.03, "its diameter"),
            _size("press", "Pressed on with", "N", 1.0, 2000.0, 20.0), _grip(), _gives(0.9),
        ), ("roller", -1), "nothing along the rail; may slip, so it keeps no place"),
        Sort(RACK, "Pinion on a rack", WAY, (
            _teeth("teeth", "Pinion teeth", 18), _module(0.001), _width(0.008), _gives(0.92), _play(0.0002),
        ), ("teeth", -1), "stiff, any length in pieces; play where they mesh"),
    )
}  # fmt: skip


def _source(
    key: str,
    label: str,
    unit: str,
    low: float,
    high: float,
    usual: float,
    words: str,
    *of: str,
    short: str = "",
    beside: bool = False,
) -> Quantity:
    return Quantity(
        key, label, unit, low, high, usual, "", words, "drive", when=("by", of), short=short or label, beside=beside
    )


# Sizes of sources, each with the sources it matters to; whoever uses them says of which axis.
SIZES: tuple[Parameter, ...] = (
    Choice("gearmotor", "Gearmotor", (), "worm-12v-60", "", "", "drive", table="gearmotors", when=("by", (GEARMOTOR,))),
    Choice("stepper", "Stepper", (), "step-17", "", "", "drive", table="steppers", when=("by", (STEPPER,))),
    Choice("slow", "Slow motor", (), "slow-30", "", "", "drive", table="slow_motors", when=("by", (SLOW,))),
    _source("force", "Comfortable at the hand", "N", 1.0, 100.0, 15.0, "5 to 20 N go smoothly", *BY_HAND, GRAVITY),
    _source("lever", "Hand from the pivot", "m", 0.05, 6.0, 0.5,
        "where the hand takes hold of what turns", HAND, GRAVITY),
    _source("radius", "Crank", "m", 0.02, 0.4, 0.08, "from its shaft to its grip", CRANK, REEL),
    _source("speed_1", "First reading, speed", "rad/s:shaft", 0.0, 3000.0, 6.0, "of its shaft, full on", OWN),
    _source("torque_1", "First reading, torque", "N*m:shaft", 0.0, 500.0, 0.0, "nothing on its shaft: 0", OWN),
    _source("speed_2", "Second reading, speed", "rad/s:shaft", 0.0, 3000.0, 3.0, "of its shaft under a load", OWN),
    _source("torque_2", "Second reading, torque", "N*m:shaft", 0.001, 500.0, 1.0,
        "weight on a cord times the drum's radius", OWN),
    _source("current_1", "First reading, current", "A", 0.0, 100.0, 0.2, "", OWN),
    _source("current_2", "Second reading, current", "A", 0.0, 100.0, 1.0, "", OWN),
    _source("weighs", "It weighs", "kg", 0.0, 20.0, 0.4, "", OWN),
    _source("sounds", "Heard at a metre", "dB", 0.0, 110.0, 50.0, "", OWN),
    _source("microsteps", "Microsteps", "count", 1, 256, 16, "to a full step", STEPPER),
    _source("volts", "Supply", "V", 1.0, 48.0, 12.0, "extra low voltage only; 24 V suits steppers", GEARMOTOR, STEPPER,
        OWN),
    _source("amps", "Supply gives", "A", 0.1, 60.0, 3.0, "", *MOTORS, short="Current", beside=True),
    _source("fuse", "Fuse", "A", 0.1, 60.0, 3.0, "at the battery", *MOTORS),
    _source("battery", "Battery", "W*h", 1.0, 2000.0, 40.0, "four fifths of it are used", *MOTORS, beside=True),
    Choice("sound", "Sound", ((QUIET, "none is recorded"), (RECORDED, "recorded with the picture")), QUIET, "", "",
        "drive", when=("by", MOTORS)),
    Quantity("near", "Microphone from it", "m", 0.1, 30.0, 1.5, "", "", "drive", when=("sound", (RECORDED,))),
    Quantity("hush", "Heard there at most", "dB", 0.0, 90.0, 35.0, "", "a quiet room is 30 dB", "drive",
        when=("sound", (RECORDED,))),
)  # fmt: skip
SITS = (
    ("post", "on the post"),
    ("leg", "on a leg or stand"),
    ("rail", "at the end of the rail"),
    ("carriage", "on what moves"),
)
# How it is mounted and kept safe.
MOUNTING: tuple[Parameter, ...] = (
    Choice("sits", "It sits", SITS, "post", "", "with a clamp and slots to set the mesh", "drive"),
    Choice("release", "Taken out of gear", ((LEFT_IN, "not at all"), (LIFTED, "swung out of mesh"),
        (SLACKED, "belt or cord slackened"), (CLUTCH, "clutch let go")), LEFT_IN, "",
        "so that hands can work the rig", "drive"),
    Choice("held", "Power off, held by", ((NO_HOLD, "nothing else"), (BRAKE, "a brake"), (PIN, "a lock pin"),
        (TETHER, "a tether")), NO_HOLD, "", "", "drive"),
    Quantity("holds", "That holds", "N", 0.0, 1e4, 60.0, "", "pulled at the camera until it slips", "drive",
        when=("held", (BRAKE, PIN, TETHER))),
    Quantity("preload", "Sprung against its play", "N", 0.0, 500.0, 0.0, "",
        "a spring or weight that always pulls one way, at the lens", "drive"),
    Choice("guard", "Where fingers reach", ((OPEN, "open"), (COVERED, "covered")), OPEN, "",
        "wheels that run together draw in", "drive"),
    Choice("switches", "End switches", ((NO_SWITCH, "none"), (BOTH_ENDS, "at both ends")), NO_SWITCH, "",
        "they cut the motor before the stops", "drive"),
    Quantity("margin", "Soft limits inside its ends by", "m", 0.0, 5.0, 0.0, "",
        "at the lens; a controller stops there by itself", "drive", short="Soft limits", when=("by", MOTORS)),
)  # fmt: skip
FILM, STILLS, GLIDING = "film", "stills", "gliding"
# Time-lapse, of a motor.
LAPSE: tuple[Parameter, ...] = (
    Choice("lapse", "Shoots", ((FILM, "film"), (STILLS, "time-lapse, standing for each frame"),
        (GLIDING, "time-lapse, moving on")), FILM, "", "over the longest of its times", "drive", when=("by", MOTORS)),
    Quantity("interval", "A frame every", "s", 0.1, 3600.0, 10.0, "", "", "drive", when=("lapse", (STILLS, GLIDING))),
    Quantity("exposed", "Exposed for", "s", 0.0001, 600.0, 0.5, "", "", "drive", short="Exposed",
        when=("lapse", (STILLS, GLIDING))),
    Quantity("writes", "Not ready for", "s", 0.0, 60.0, 0.5, "", "the camera writes, its mirror falls", "drive",
        short="Writes", when=("lapse", (STILLS, GLIDING)), beside=True),
    Quantity("gentle", "A step is sped up by", "m/s^2", 0.001, 5.0, 0.05, "", "at the lens; a gentle step sways less",
        "drive", when=("lapse", (STILLS,))),
    Quantity("card", "Frames on the card", "count", 2, 100000, 2000, "", "", "drive",
        when=("lapse", (STILLS, GLIDING))),
)  # fmt: skip
MOST_TIMES = 12  # of one drive
TIME = Quantity("times", "Takes", "s", 0.5, 86400.0, 60.0, "", "", "drive")

CHANGED = (
    TIME,
    Quantity("driver", "driver", "count", 6, 400, 20, "", "", "drive"),
    Quantity("driven", "driven", "count", 6, 400, 40, "", "", "drive"),
)
OWNED = (
    Quantity("teeth", "Teeth", "count", 6, 400, 20, "", "", "drive"),
    Quantity("count", "how many", "count", 1, 20, 1, "", "", "drive"),
)
# How gears are looked for.
SEARCH: tuple[Parameter, ...] = (
    Quantity("fewest", "Gears from", "count", 6, 200, 14, "", "teeth of the smallest", "drive", short="Teeth from"),
    Quantity("most", "up to", "count", 8, 400, 72, "", "teeth of the largest", "drive", short="to", beside=True),
    Quantity("pairs", "Pairs at the most", "count", 1, 4, 3, "", "before what comes last", "drive"),
    Quantity("off", "Ratio may be off by", "1", 0.0001, 0.2, 0.02, "", "", "drive"),
)  # fmt: skip
ALL = {size.key: size for size in (*SIZES, *MOUNTING, *LAPSE, *SEARCH)}


def begins(source: str, turns: bool) -> tuple[str, ...]:
    """The elements that a source usually works through."""
    if source in BARE:
        return ()
    if source == REEL:
        return (DRUM,)
    return (SPUR,) if turns else (BELTWAY,)


def fits(turns: bool) -> tuple[tuple[str, str], ...]:
    """The sources that may move an axis that turns, or one that goes along a way."""
    return tuple(row for row in SOURCES if not (turns and row[0] == REEL))


def ends(turns: bool) -> tuple[str, ...]:
    """The sorts of elements that may move such an axis itself."""
    return tuple(key for key, sort in SORTS.items() if sort.gives == (TURN if turns else WAY))
