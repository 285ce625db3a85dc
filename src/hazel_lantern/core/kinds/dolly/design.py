"""The parameters of a dolly: declared once, read by bench, file, command line and manual."""

from __future__ import annotations

from hazel_lantern.core.kinds.base import Declared, DriveAxis, First, School
from hazel_lantern.core.kinds.dolly.inputs import (
    ARC,
    DECK,
    FLOOR,
    FRAME,
    NOBODY,
    PARAMETERS,
    PEGGED,
    PIPE,
    SITS,
    THREE,
    TRIPOD,
    TRUCKS,
)
from hazel_lantern.core.kinds.shared.inputs import BY_LOCK
from hazel_lantern.core.nouns.quantity import Value

VARIANTS = (
    (PIPE, "Deck on pipe track"),
    (ARC, "Deck on bent pipe"),
    (THREE, "Three-cornered deck on pipe"),
    (FRAME, "Pipe frame on trolleys"),
    (FLOOR, "Board on fixed wheels"),
    (TRUCKS, "Board on skate trucks"),
)
STRAIGHT = (PIPE, THREE, FRAME, FLOOR, TRUCKS)
LONE = (THREE, FRAME)  # on three corners


SOFT_STOP = 0.03  # metres that a stop gives under so heavy a dolly
USUAL: dict[str, dict[str, Value]] = {
    ARC: {
        "rail.section": "pvc-round-32x2.4",
        "rail.spacing": 0.62,
        "tie.spacing": 0.4,
        "tie.held": PEGGED,
        "carriage.mass": 9.0,
        "ballast.mass": 0.0,
        "carriage.wheelbase": 0.6,
        "camera.on": DECK,
        "camera.rise": 0.3,
        "handle.height": 0.0,
        "rail.joint_every": 2.0,
        "ground.packed": 0.0,
    },
    PIPE: {"stop.gives": SOFT_STOP},
    THREE: {"carriage.wheelbase": 0.8, "carriage.mass": 12.0, "ballast.mass": 14.0, "stop.gives": SOFT_STOP},
    FRAME: {"rail.spacing": 0.6, "carriage.mass": 6.0, "ballast.mass": 10.0, "stop.gives": SOFT_STOP},
    FLOOR: {"carriage.wheel": "rubber-125", "ballast.mass": 20.0, "carriage.mass": 18.0, "camera.rise": 1.29},
    TRUCKS: {
        "carriage.wheelbase": 0.5,
        "rail.spacing": 0.24,
        "camera.on": DECK,
        "camera.rise": 0.25,
        "carriage.mass": 7.0,
        "ballast.mass": 8.0,
        "handle.height": 0.0,
    },
}

SCHOOLS = (
    School("Ground", (
        ("pipe track", (("variant", PIPE), ("carriage.wheel", "skate-72")),
            "smooth over any ground; pipes to carry, lay and level"),
        ("smooth floor", (("variant", FLOOR), ("carriage.wheel", "rubber-125")),
            "nothing to lay; every gap and cable shows"))),
    School("Bend", (
        ("flexible pipe", (("variant", ARC), ("rail.section", "pvc-round-32x2.4")),
            "one kit lays any arc; dips more, creeps, springs back"),
        ("rigid pipe", (("variant", ARC), ("rail.section", "galv-round-33.7x3.2")),
            "stiff under wheels; wide arcs only, bent on a former"))),
    School("Corners", (
        ("four", (("variant", PIPE),), "wide and steady; the fourth never quite bears"),
        ("three", (("variant", THREE),), "never rocks; tips sooner over its two slanting sides"))),
    School("Weight", (
        ("light", (("ballast.mass", 0.0),), "one person carries and lays it; every joint shows"),
        ("heavy", (("ballast.mass", 40.0),), "calm over joints; a shove to start, long to stop"))),
    School("Aboard", (
        ("nobody", (("rider", NOBODY),), "light, safe; who works the camera walks beside"),
        ("a person", (("rider", SITS), ("place.kept", BY_LOCK)),
            "eye at the camera; heavy, needs a brake, a stiff deck and care"))),
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
    axes=(DriveAxis("travel", "Travel", 0, False),),
    parameters=PARAMETERS,
    usual=USUAL,
    short={
        PIPE: "pipe track",
        ARC: "bent pipe",
        THREE: "three corners",
        FRAME: "pipe frame",
        FLOOR: "floor wheels",
        TRUCKS: "skate trucks",
    },
    about="A camera rolls along pipe or over a floor.",
    well="A long calm push beside somebody who walks.",
    asks="Ground to lay track on or a clean floor, somebody to push, and a car that takes it.",
    first={
        "": First("slide", (-1.2, 0.0, 1.35), (1.2, 0.0, 1.35), 12.0),
        ARC: First("arc", (-1.6, -3.8, 0.45), (1.6, -3.8, 0.45), 12.0),
        TRUCKS: First("slide", (-1.2, 0.0, 0.35), (1.2, 0.0, 0.35), 12.0),
    },
)
