"""What a builder sets on a cable cam, and the choices on which good builders differ."""

from __future__ import annotations

import math
from math import radians

from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Declared, DriveAxis, First, School
from hazel_lantern.core.kinds.shared.inputs import platform, tether
from hazel_lantern.core.kinds.shared.lead import lead_input
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity

SINGLE, TWIN = "single", "twin"
VARIANTS = ((SINGLE, "Carriage on one rope"), (TWIN, "Carriage on two ropes side by side"))
BY_SAG, BY_PULL = "sag", "pull"
EYES = (("swaged", "Pressed eyes on thimbles"), ("clips", "Thimbles with three wire clips"),
    ("splice", "Spliced eyes on thimbles"), ("bowline", "Knots"))  # fmt: skip
STIFF, SWINGS = "stiff", "swings"
LINE, LOOP, GRAVITY_RUN = "line", "loop", "gravity"
TWO_GUYS, ONE_GUY, FRAME, TREE, WALL = "two_guys", "one_guy", "frame", "tree", "wall"
POSTS = (TWO_GUYS, ONE_GUY, FRAME)
ANCHORS = (
    (TWO_GUYS, "Post with two guys"), (ONE_GUY, "Post with one guy"), (FRAME, "Two-legged frame with a guy"),
    (TREE, "Tree"), (WALL, "Wall or building"),
)  # fmt: skip
STAKES, WEIGHTS = "stakes", "weights"
CLEAR_BELOW, PEOPLE_BELOW = "clear", "people"
STEADIEST = 8.0  # metres a second of wind in which a rope is taken down

PARAMETERS: tuple[Parameter, ...] = (
    Choice("rope.line", "Rope", (), "wire7x7-4", "Rope",
        "the track; planning figures, your certificate goes before them", table="lines"),
    Quantity("rope.span", "Span", "m", 3.0, 60.0, 18.0, "Rope", "level, from end to end"),
    Quantity("end.a", "End A above the ground", "m", 0.4, 12.0, 2.8, "Rope",
        "where the rope leaves it, at the start's side"),
    Quantity("end.b", "End B above the ground", "m", 0.4, 12.0, 2.8, "Rope", "at the far side"),
    Choice("rope.set", "Tightened by", ((BY_SAG, "Sag with the camera"), (BY_PULL, "Pull while empty")), BY_SAG,
        "Tightening", "what you watch as you tighten it", "balance"),
    Quantity("rope.sag", "Sag with the camera", "m", 0.02, 12.0, 0.6, "Tightening",
        "in the middle, below the straight line from end to end", "balance", sized=True),
    Quantity("rope.pull", "Pull while empty", "N", 10.0, 20000.0, 400.0, "Tightening",
        "across, read with a hanging scale in the line; used where it is tightened by it", "balance"),
    Choice("rope.eyes", "Ends of the rope", EYES, "clips", "Rope", "what they leave of its strength"),
    Quantity("rope.over", "Thimbles bend it over", "m", 0.004, 0.3, 0.04, "Rope", "diameter"),
    Quantity("rope.fitting", "Weakest fitting is stamped", "N", 0.0, 100000.0, 5000.0, "Rope",
        "working load of shackles, tensioner and slings; 0 for none stamped"),
    Quantity("rope.tensioner", "Tensioner takes up", "m", 0.02, 4.0, 0.6, "Tightening",
        "turnbuckle 0.1 to 0.3, lever 1 to 3", "balance"),
    Quantity("rope.creep", "It grows under load by", "1", 0.0, 0.05, 0.002, "Tightening",
        "new wire before it has set, fibre as it creeps", "balance"),
    Quantity("ends.stiffness", "Ends give way", "N/m", 5000.0, 1e8, 2e5, "Tightening",
        "each, along the rope; a guyed post 100 to 500 N a millimetre", "balance", short="Ends give"),
    Quantity("twin.apart", "Ropes apart", "m", 0.05, 1.5, 0.3, "Rope", "middle to middle", only=(TWIN,)),
    Quantity("twin.uneven", "Pulls differ by", "1", 0.0, 0.5, 0.03, "Tightening",
        "of their mean, as well as they are tightened alike", "balance", only=(TWIN,)),
    Quantity("carriage.mass", "Carriage", "kg", 0.3, 30.0, 2.6, "Carriage",
        "wheels, plates, post and platform, without the camera kit"),
    Quantity("carriage.wheelbase", "Wheels apart", "m", 0.06, 1.0, 0.22, "Carriage", "along the rope"),
    Quantity("carriage.wheel", "Wheels", "m", 0.015, 0.2, 0.06, "Carriage", "diameter where they run on the rope"),
    Quantity("carriage.rolling", "They roll with", "1", 0.002, 0.2, 0.02, "Carriage",
        "of their load; pull it level along the rope and read"),
    Choice("carriage.hang", "Camera hangs", ((STIFF, "Stiff under its carriage"),
        (SWINGS, "From a pivot, and stays level")), STIFF, "Carriage",
        "stiff it tilts with the rope; from a pivot it swings as it starts and stops"),
    Quantity("carriage.drop", "Mount below the rope", "m", 0.12, 2.0, 0.5, "Carriage", ""),
    platform("Carriage"),
    Quantity("carriage.off", "Centre lies aside by", "m", 0.0, 0.2, 0.002, "Carriage",
        "of all that hangs, from the middle of the ropes"),
    Quantity("camera.heading", "Camera looks", "rad", -math.pi, math.pi, 0.0, "Carriage",
        "from along the run, to the left"),
    Choice("haul.by", "Moved by", ((LINE, "A hand line"), (LOOP, "A loop with a drive"),
        (GRAVITY_RUN, "Its own weight, and a brake")), LOOP, "Haul", "", "travel"),
    Choice("haul.line", "Line", (), "polyester-4", "Haul",
        "what it is pulled with, and held back by", "travel", table="lines"),
    Quantity("haul.wheel", "Drive wheel", "m", 0.02, 0.5, 0.1, "Haul", "diameter", "travel"),
    Quantity("haul.wrap", "Wraps round it", "rad", radians(90), radians(1440), radians(180), "Haul",
        "half a turn is 180°", "travel"),
    Quantity("haul.grip", "Grip on it", "1", 0.05, 0.8, 0.25, "Haul",
        "fibre on rubber 0.25, wire on steel 0.12", "travel"),
    Quantity("haul.tight", "Loop is tightened to", "N", 0.0, 1000.0, 60.0, "Haul",
        "each of its two sides, standing", "travel"),
    replace(lead_input("Haul"), words="it lies on the ground beside the run and follows: thin 40 g, with power 100 g; "
        "0 for none"),
    Quantity("run.short_a", "Stop from end A", "m", 0.1, 15.0, 1.2, "Haul",
        "where the run ends, from the rope's end", "travel"),
    Quantity("run.short_b", "Stop from end B", "m", 0.1, 15.0, 1.2, "Haul", "", "travel"),
    Quantity("brake.slows", "Brake slows it by", "m/s^2", 0.1, 8.0, 1.5, "Haul",
        "a hand on the line 1, a drive 1 to 2", "travel"),
    Quantity("brake.reaction", "after", "s", 0.0, 3.0, 1.0, "Haul", "a hand 1 s, a drive 0.3 s", "travel"),
    Quantity("buffer.rate", "Stops are springs of", "N/m", 20.0, 50000.0, 200.0, "Haul",
        "rubber cord, foam or a coil at either end", "travel"),
    Quantity("buffer.stroke", "They give", "m", 0.02, 3.0, 0.7, "Haul", "before they are hard", "travel"),
    Quantity("buffer.stop", "A stop holds on the rope", "N", 0.0, 20000.0, 600.0, "Haul",
        "pulled along it with a scale until it slips", "travel"),
    Choice("anchor.a", "End A", ANCHORS, TWO_GUYS, "Ends", "", "balance"),
    Choice("anchor.b", "End B", ANCHORS, TWO_GUYS, "Ends", "", "balance"),
    Choice("post.section", "Posts of", (), "galv-round-48.3x3.2", "Ends",
        "standing on a plate, the guys holding their tops", "balance", table="sections"),
    Choice("post.keeper", "Bolt under the guys", (), "M12", "Ends",
        "through a post's top, so that sling and guys cannot slide down it", "balance", table="bolts"),
    Quantity("post.plate", "Plate under a post", "m", 0.1, 1.2, 0.3, "Ends",
        "square; soft ground bears little", "balance"),
    Quantity("frame.spread", "Legs of a frame apart", "m", 0.3, 4.0, 1.2, "Ends",
        "at the ground, across the rope", "balance"),
    Choice("guy.line", "Guys of", (), "polyester-6", "Ends",
        "low stretch; side guys of the same", "balance", table="lines"),
    Quantity("guy.slope", "They rise at", "rad", radians(15), radians(80), radians(42), "Ends",
        "from the ground, behind the post", "balance"),
    Quantity("guy.spread", "and lie apart by", "rad", 0.0, radians(80), radians(25), "Ends",
        "either side of the line of the rope, where there are two", "balance"),
    Choice("guy.held", "They are held by", ((STAKES, "Stakes"),
        (WEIGHTS, "Dead weights on the ground")), STAKES, "Ends", "", "balance"),
    Quantity("guy.weight", "A dead weight", "kg", 0.0, 3000.0, 150.0, "Ends", "at each guy", "balance"),
    Quantity("guy.grip", "grips the ground with", "1", 0.1, 1.0, 0.5, "Ends",
        "0.3 on wet grass, 0.5 on dry ground", "balance"),
    Quantity("tested.a", "End A was pulled with", "N", 0.0, 100000.0, 0.0, "Ends",
        "for five minutes without moving; a stake along its guy, a tree along the rope; 0 while not tested", "balance"),
    Quantity("tested.b", "End B was pulled with", "N", 0.0, 100000.0, 0.0, "Ends", "", "balance"),
    Quantity("wind.speed", "Wind", "m/s", 0.0, 20.0, 4.0, "Weather", "gusts; taken down from 8 m/s", "balance"),
    Quantity("wind.area", "It pushes on", "m^2:floor", 0.0, 2.0, 0.1, "Weather",
        "carriage and camera, area times 1.2", "balance"),
    Quantity("weather.range", "Warmer or colder by", "K", 0.0, 60.0, 12.0, "Weather",
        "than when it was tightened", "balance"),
    Choice("below", "Below and beside it", ((CLEAR_BELOW, "Nobody, kept clear"), (PEOPLE_BELOW, "Anybody may pass")),
        CLEAR_BELOW, "Below", "from when it is tightened until it is let down", "balance"),
    Quantity("clear.least", "Clear of all it passes by", "m", 0.1, 5.0, 0.3, "Below",
        "at the least, and a tenth of its sag and what it swings", "balance"),
    *tether("Below"),
    Choice("safety", "If it fails", (("B", "B · a fall breaks gear"), ("C", "C · people near"),
        ("D", "D · overhead, kept clear below")), "D", "Below",
        "times stronger the rope must be: 5, 6, 8; fibre 7 at least", "balance"),
)  # fmt: skip

SCHOOLS = (
    School("Rope", (
        ("steel rope", (("rope.line", "wire7x7-4"), ("rope.eyes", "clips")),
            "smooth under wheels, hardly stretches; heavy, eyes need tools"),
        ("low-stretch fibre", (("rope.line", "hmpe-5"), ("rope.eyes", "splice")),
            "light, on the shoulder; creeps: tighten it again and again"))),
    School("Ropes", (
        ("one", (("variant", SINGLE),), "light and cheap; rolls and turns in wind"),
        ("two, side by side", (("variant", TWIN),), "keeps the horizon; twice the rope, tightened alike"))),
    School("Moved by", (
        ("hand line", (("haul.by", LINE),), "nothing to build; an even walk"),
        ("loop with a drive", (("haul.by", LOOP),), "steady, and back again; a drive, pulleys and a loop to tighten"),
        ("its own weight", (("haul.by", GRAVITY_RUN),),
            "no line in the picture; one way, and a brake that must hold"))),
)  # fmt: skip
TOLD_APART_BY = ("balance.pull", "balance.factor", "balance.sag_empty", "travel.swing", "rig.mass", "build.cost")

DECLARED = Declared(
    home=__package__ or "",
    id="cable_cam",
    name="Cable cam",
    variants=VARIANTS,
    axes=(DriveAxis("travel", "Travel", 0, False),),
    parameters=PARAMETERS,
    usual={TWIN: {"carriage.mass": 3.4}},
    short={SINGLE: "one rope", TWIN: "two ropes"},
    about="A carriage runs along a tight rope, over what no rail could cross.",
    well="Long and straight over water, walls and rough ground.",
    asks="Two ends that hold, nobody below, a calm day, and time to tighten.",
    first={"": First("fly", (-7.0, 0.0, 1.8), (7.0, 0.0, 1.8), 14.0)},
)
