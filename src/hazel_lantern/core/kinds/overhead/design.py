"""The parameters of an overhead slider."""

from __future__ import annotations

from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Declared, DriveAxis, First, School
from hazel_lantern.core.kinds.rail.design import CLAMPED, MOVING, carriage_parameters, fit_parameters, rail_parameters
from hazel_lantern.core.kinds.shared.inputs import BELOW, HELD_BY, ROLLING, platform, tether
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity, Value

TUBE, TWIN, SHUTTLE = "trolley", "twin", "shuttle"
OWN, BUILDING = "own", "building"
BRACKETED, CLAMPED_POLE = "brackets", "clamp"
BLOCK, BORED = "block", "rods"
VARIANTS = ((TUBE, "One tube with a trolley"), (TWIN, "Two rails with a trolley"), (SHUTTLE, "Bored shuttle on a rod"))
USUAL: dict[str, dict[str, Value]] = {
    TWIN: {"rail.section": "al6063-round-30x2", "rail.spacing": 0.16},
    SHUTTLE: {
        "support.inset": 0.06,
        "rail.length": 0.95,
        "rail.height": 1.8,
        "rail.section": "beech-rod-25",
        "rod.smallest": 0.0246,
        "rod.largest": 0.0251,
        "shuttle.bore": 0.0254,
    },
}

PARAMETERS: tuple[Parameter, ...] = (
    *rail_parameters(1.8, "galv-round-33.7x3.2", 2.2, 10.0, twin=(TWIN,), fixed=CLAMPED, clamp=200.0),
    *carriage_parameters("nylon-28", -0.22, 1.1, rolls=(TUBE, TWIN), pairs=(TUBE, TWIN)),
    Quantity("hanger.count", "Hung at", "count", 2.0, 8.0, 2.0, "Hanging", "places, evenly along the rail", sized=True),
    Quantity(
        "support.inset", "First hanger from the end", "m", 0.0, 2.0, 0.15, "Hanging", "both ends alike", sized=True
    ),
    Quantity(
        "hanger.stiffness",
        "Stiffness of a hanger",
        "N/m",
        1000.0,
        50e6,
        1.5e6,
        "Hanging",
        "rod or bracket, up and down",
    ),
    Choice("hanger.mount", "Held by", HELD_BY, "joists", "Hanging", "what the hangers are fixed to"),
    Choice("below", "Below it", BELOW, "clear", "Hanging", "who may be under it"),
    Quantity(
        "bracket.reach",
        "Bracket reaches out",
        "m",
        0.02,
        1.0,
        0.18,
        "Hanging",
        "from the wall to the rail",
        when=("hanger.mount", ("brackets", "plugs")),
    ),
    Quantity(
        "bracket.height",
        "Upper screws above its edge",
        "m",
        0.01,
        0.6,
        0.12,
        "Hanging",
        "two screws up there, two a sixth as high",
        when=("hanger.mount", ("brackets", "plugs")),
    ),
    Quantity(
        "plug.holds",
        "A plug may be pulled with",
        "N",
        20.0,
        20000.0,
        400.0,
        "Hanging",
        "as its data sheet says for this wall, its factor taken off",
        when=("hanger.mount", ("plugs",)),
    ),
    Choice(
        "rail.is",
        "The rail is",
        ((OWN, "Part of this rig"), (BUILDING, "A beam or pipe of the building")),
        OWN,
        "Hanging",
        "what belongs to the building is neither bought nor drilled",
        only=(TUBE, TWIN),
    ),
    Choice(
        "post.held",
        "Camera hangs on",
        ((BRACKETED, "A post between brackets"), (CLAMPED_POLE, "A pole that slides in clamps")),
        BRACKETED,
        "Carriage",
        "clamps set its height on the day",
    ),
    platform("Carriage"),
    Quantity(
        "post.grip",
        "A pole clamp holds",
        "N",
        10.0,
        5000.0,
        250.0,
        "Carriage",
        "pulled along the pole until it slips",
        when=("post.held", (CLAMPED_POLE,)),
    ),
    *tether("Tether"),
    Quantity(
        "rod.smallest",
        "Rod, thinnest place",
        "m",
        0.003,
        0.1,
        0.0335,
        "Shuttle",
        "measured; rods vary",
        only=(SHUTTLE,),
    ),
    Quantity(
        "rod.largest", "Rod, thickest place", "m", 0.003, 0.1, 0.0338, "Shuttle", "measured; rods vary", only=(SHUTTLE,)
    ),
    Choice(
        "shuttle.made",
        "Shuttle of",
        ((BLOCK, "A bored block"), (BORED, "Two bored rods, the rail through them")),
        BLOCK,
        "Shuttle",
        "rods weigh little and are bored across, once each",
        only=(SHUTTLE,),
    ),
    Quantity("shuttle.bore", "Bore of the shuttle", "m", 0.003, 0.12, 0.0341, "Shuttle", "measured", only=(SHUTTLE,)),
    Quantity(
        "shuttle.guide",
        "Guide length",
        "m",
        0.01,
        0.6,
        0.13,
        "Shuttle",
        "between its outer contact points",
        only=(SHUTTLE,),
    ),
    Quantity(
        "shuttle.friction",
        "Friction of the bore",
        "1",
        0.005,
        0.6,
        0.25,
        "Shuttle",
        "plain plastic 0.25, bronze 0.2, ball bush 0.01",
        only=(SHUTTLE,),
    ),
    Quantity(
        "shuttle.offset",
        "Pushed off the rod by",
        "m",
        -0.5,
        0.5,
        0.12,
        "Shuttle",
        "hand or cord below the rod",
        only=(SHUTTLE,),
    ),
    Choice(
        "carriage.hold",
        "Trolley",
        (("captive", "Trapped on the rail"), ("resting", "Resting by its weight")),
        "captive",
        "Carriage",
        "overhead it must be trapped",
        only=(TUBE, TWIN),
    ),
    *(replace(one, only=(TUBE, TWIN)) if one.key == ROLLING else one for one in MOVING),
    *fit_parameters(twin=(TWIN,), only=(TWIN, SHUTTLE)),
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
    School("What runs", (
        ("trolley on a tube", (("variant", TUBE),), "rolls for a moving shot; rolls when it should stay, too"),
        ("trolley on two rails", (("variant", TWIN),), "cannot turn about the tube; two to level"),
        ("loose shuttle on a rod", (("variant", SHUTTLE),),
            "cheap and locked anywhere; for placing, not for moving shots"))),
)  # fmt: skip
TOLD_APART_BY = ("travel.push", "travel.drop", "travel.shift", "balance.hanger", "rig.mass", "build.cost")

DECLARED = Declared(
    home=__package__ or "",
    id="overhead",
    name="Overhead slider",
    variants=VARIANTS,
    axes=(DriveAxis("travel", "Travel", 0, False),),
    parameters=PARAMETERS,
    usual=USUAL,
    short={TUBE: "one tube", TWIN: "two rails", SHUTTLE: "bored shuttle"},
    about="Straight along, looking down or across, nothing on the floor.",
    well="A bench or a table seen from above, with the floor left free.",
    asks="Beams or a rated grid to hang from, a tether, and nobody under it while it is rigged.",
    first={"": First("look_down", (-0.4, 0.0, 1.5), (0.4, 0.0, 1.5), 10.0)},
)
