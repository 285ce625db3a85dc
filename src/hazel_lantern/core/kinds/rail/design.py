"""Parameters that every straight rail has; a kind adds its own supports."""

from __future__ import annotations

from math import pi, radians

from hazel_lantern.core.kinds.shared.inputs import kept_in_place, rolls_as, stiff_as
from hazel_lantern.core.kinds.shared.lead import lead_input
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity, Readings

BOLTED, CLAMPED, TAPED, LOOSE = "bolted", "clamped", "taped", "loose"
FIXED = (
    (BOLTED, "Bolts through it"), (CLAMPED, "Two clamps at each"), (TAPED, "Straps or tape"),
    (LOOSE, "Nothing: it lies there"),
)  # fmt: skip
BUTT, SLEEVE, SPIGOT, PLATE = "butt", "sleeve", "spigot", "plate"
WAYS = (
    (BUTT, "Butted over a support"), (SLEEVE, "Tube let into both"), (SPIGOT, "Bar let into both"),
    (PLATE, "Plates at both sides"),
)  # fmt: skip
GUIDED, FLOATING = "guided", "floating"
FLOATS = ((GUIDED, "Guided like the first"), (FLOATING, "Free to shift sideways"))
ECCENTRIC, SLOTTED, SPARE, SHIMMED, UNADJUSTED = "eccentric", "slot", "spare", "shim", "none"
ADJUSTED = (
    (ECCENTRIC, "An eccentric"), (SLOTTED, "Slotted holes"), (SPARE, "Spare holes"),
    (SHIMMED, "Shims of tape"), (UNADJUSTED, "Nothing"),
)  # fmt: skip
CASTERS_FREE, CASTERS_LOCKED = "free", "locked"
CASTERS = ((CASTERS_LOCKED, "Locked straight"), (CASTERS_FREE, "Free to swivel"))
SAFETY = (("A", "A · nobody near"), ("B", "B · a fall breaks gear"), ("C", "C · people near"))


def rail_parameters(
    length: float,
    section: str,
    height: float,
    slope: float = 40.0,
    twin: tuple[str, ...] = (),
    fixed: str = BOLTED,
    clamp: float = 600.0,
) -> tuple[Parameter, ...]:
    """The rail, with a kind's own usual sizes; `twin` names the constructions with two rails."""
    return (
        Quantity("rail.length", "Rail", "m", 0.2, 8.0, length, "Rail", "from end to end"),
        Choice("rail.section", "Section", (), section, "Rail", "each rail", table="sections"),
        Quantity(
            "rail.spacing",
            "Rails apart",
            "m",
            0.04,
            1.0,
            0.12,
            "Rail",
            "between the middles of the two rails",
            only=twin,
        ),
        Quantity("rail.height", "Top of the rail", "m", 0.05, 6.0, height, "Rail", "above the ground, at its middle"),
        Quantity(
            "rail.slope",
            "Rises",
            "rad",
            radians(-slope),
            radians(slope),
            0.0,
            "Rail",
            "positive rises along the travel",
        ),
        Choice("rail.fixed", "Held by", FIXED, fixed, "Rail", "at each support"),
        Quantity(
            "clamp.force",
            "A clamp presses with",
            "N",
            10.0,
            10000.0,
            clamp,
            "Rail",
            "hand-tight screw clamp 300 to 1500",
            when=("rail.fixed", (CLAMPED,)),
        ),
        Quantity("rail.joint_every", "A joint every", "m", 0.0, 8.0, 0.0, "Rail", "0 for a rail in one piece"),
        Choice("rail.joint", "Joined", WAYS, BUTT, "Rail", "how its pieces meet"),
        Quantity(
            "rail.joint_step",
            "Step at a joint",
            "m",
            0.0,
            0.005,
            0.0,
            "Rail",
            "how far one piece stands proud",
            "travel",
        ),
        Quantity("rail.joint_gap", "Gap at a joint", "m", 0.0, 0.02, 0.0, "Rail", "between two pieces", "travel"),
    )


def casters(only: tuple[str, ...] = ()) -> Choice:
    """Whether casters are locked, for those constructions that may roll on them."""
    words = "of casters alone: free ones swing round on reversal"
    return Choice("carriage.casters", "Casters", CASTERS, CASTERS_LOCKED, "Wheels and friction", words, only=only)


def carriage_parameters(
    wheel: str, mount: float, mass: float = 0.7, rolls: tuple[str, ...] = (), pairs: tuple[str, ...] = ()
) -> tuple[Parameter, ...]:
    """The carriage and how the camera sits on it; `rolls` names the constructions on wheels, empty for all, `pairs`
    those on inclined pairs.
    """
    return (
        Quantity(
            "carriage.wheelbase",
            "Wheels apart, along",
            "m",
            0.02,
            1.0,
            0.13,
            "Carriage",
            "between front and rear axles",
            only=rolls,
            sized=True,
        ),
        Quantity(
            "carriage.gauge",
            "Wheels apart, across",
            "m",
            0.02,
            1.0,
            0.09,
            "Carriage",
            "between left and right wheels on one rail",
            only=rolls,
        ),
        Quantity("carriage.mass", "Carriage and head", "kg", 0.0, 20.0, mass, "Carriage", "without the camera kit"),
        Choice("carriage.wheel", "Wheels", (), wheel, "Carriage", "each wheel", table="wheels", only=rolls),
        Quantity(
            "pair.angle",
            "Wheels of a pair lean",
            "rad",
            radians(20),
            radians(70),
            radians(45),
            "Wheels and friction",
            "where each meets its rail, from the top of it",
            only=pairs,
        ),
        Quantity(
            "pair.apart",
            "Wheels of a pair apart",
            "m",
            0.0,
            0.3,
            0.0,
            "Wheels and friction",
            "middle to middle across the rail; 0 sets them to it",
            only=pairs,
        ),
        Quantity("camera.ahead", "Mount ahead of middle", "m", -0.5, 0.5, 0.0, "Carriage", "along the travel"),
        Quantity("camera.aside", "Mount to the left", "m", -0.5, 0.5, 0.0, "Carriage", "square to the travel"),
        Quantity(
            "camera.rise", "Mount above the rail", "m", -1.5, 1.0, mount, "Carriage", "minus for a camera that hangs"
        ),
        Quantity(
            "camera.heading",
            "Camera looks",
            "rad",
            -pi,
            pi,
            pi / 2,
            "Carriage",
            "from the travel, positive to the left",
        ),
    )


MOVING: tuple[Parameter, ...] = (
    *kept_in_place("Wheels and friction"),
    Quantity(
        "drive.stiffness",
        "Hand or cord stiffness",
        "N/m",
        50.0,
        200000.0,
        1200.0,
        "Wheels and friction",
        "an arm and hand 500 to 2000; a stiff pole 5000 and more",
        "travel",
    ),
    Quantity("drive.damping", "Its damping", "1", 0.01, 0.9, 0.1, "Wheels and friction", "share of critical", "travel"),
    Quantity(
        "rail.damping",
        "Damping of the rail",
        "1",
        0.002,
        0.3,
        0.02,
        "Wheels and friction",
        "bolted metal 0.01 to 0.02, wood 0.03",
        "travel",
    ),
    stiff_as("Wheels and friction", "its rail"),
    rolls_as("Wheels and friction"),
    Quantity(
        "wheel.preload",
        "Wheels nipped up by",
        "N",
        0.0,
        500.0,
        12.0,
        "Wheels and friction",
        "side preload of each grooved wheel",
        "balance",
    ),
    Quantity(
        "push.side",
        "Careless push",
        "N",
        0.0,
        50.0,
        4.0,
        "Wheels and friction",
        "sideways at the camera, such as a pulled cable",
        "balance",
    ),
    Quantity(
        "push.brake", "Hard stop", "m/s^2", 0.0, 10.0, 1.0, "Wheels and friction", "quickest start or stop", "balance"
    ),
    Quantity(
        "stop.holds",
        "An end stop holds",
        "N",
        10.0,
        20000.0,
        400.0,
        "Wheels and friction",
        "pulled along the rail until it slips or tears",
        "travel",
    ),
    Quantity(
        "stop.gives",
        "It gives way by",
        "m",
        0.001,
        0.2,
        0.01,
        "Wheels and friction",
        "rubber or foam, half of its thickness",
        "travel",
    ),
    lead_input("Wheels and friction"),
)


def fit_parameters(twin: tuple[str, ...] = (), only: tuple[str, ...] = ()) -> tuple[Parameter, ...]:
    """How the carriage fits its rails; `twin` names the constructions with two rails, `only` those that have a fit at
    all, empty for all.
    """
    group, where = "Fit", "travel"

    def length(key: str, label: str, low: float, high: float, usual: float, words: str, two: bool = False) -> Quantity:
        return Quantity(key, label, "m", low, high, usual, group, words, where, only=twin if two else only)

    columns = (
        Quantity("place", "Along", "m", 0.0, 8.0, 0.0, group, "from the first end of the rail"),
        Quantity(
            "apart", "Too far apart", "m", -0.05, 0.05, 0.0, group, "the rails, by a gauge stick; a single one too wide"
        ),
        Quantity("aside", "To the left", "m", -0.05, 0.05, 0.0, group, "the left rail, of a cord along it"),
        Quantity("higher", "Left higher", "m", -0.05, 0.05, 0.0, group, "than the right, by a level across"),
    )
    return (
        length("fit.play", "A wheel shifts sideways by", 0.0, 0.02, 0.001, "on its rail, in all, before it is pressed"),
        Choice(
            "fit.floats",
            "Second rail's wheels",
            FLOATS,
            GUIDED,
            group,
            "one rail guides, the other only carries: twins forgive more",
            where,
            only=twin,
        ),
        length("fit.wider", "Wheels wider apart than rails", -0.02, 0.02, 0.0, "as made, minus for narrower", two=True),
        length(
            "fit.parallel",
            "Parallel within",
            0.0,
            0.02,
            0.0004,
            "by a gauge stick at both ends; of one profile, its width",
        ),
        length("fit.straight", "Each straight within", 0.0, 0.02, 0.0002, "of a cord along all of it"),
        length(
            "fit.twist", "Twist within", 0.0, 0.02, 0.0005, "one end's rails against the other's, by a level", two=True
        ),
        Readings(
            "fit.rails",
            "Rails, measured",
            columns,
            group,
            "every 300 mm or closer; none goes by what is allowed above",
            where,
            only=only,
            another="Add a place",
        ),
        Choice(
            "fit.adjust",
            "Adjusted by",
            ADJUSTED,
            SLOTTED,
            group,
            "what brings wheels and rails together",
            where,
            only=only,
        ),
        length("fit.range", "It adjusts by", 0.0, 0.05, 0.003, "from end to end; set it half-way to begin with"),
        Quantity(
            "fit.gives",
            "Rails and carriage give",
            "N/m",
            1e3,
            1e7,
            1e5,
            group,
            "pushed apart: force over gap; wood 30 kN/m, bolted metal 100 and more",
            where,
            only=only,
        ),
    )
