"""Parameters that every straight rail has; a kind adds its own supports."""

from __future__ import annotations

from math import pi, radians

from hazel_lantern.core.kinds.shared.inputs import kept_in_place
from hazel_lantern.core.kinds.shared.lead import lead_input
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity

BOLTED, CLAMPED, TAPED, LOOSE = "bolted", "clamped", "taped", "loose"
FIXED = (
    (BOLTED, "Bolts through it"), (CLAMPED, "Two clamps at each"), (TAPED, "Straps or tape"), (LOOSE, "Nothing: it lies there"),
)  # fmt: skip
BUTT, SLEEVE, SPIGOT, PLATE = "butt", "sleeve", "spigot", "plate"
WAYS = (
    (BUTT, "Butted over a support"), (SLEEVE, "Tube let into both"), (SPIGOT, "Bar let into both"), (PLATE, "Plates at both sides"),
)  # fmt: skip
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


def carriage_parameters(
    wheel: str, mount: float, mass: float = 0.7, rolls: tuple[str, ...] = ()
) -> tuple[Parameter, ...]:
    """The carriage and how the camera sits on it; `rolls` names the constructions on wheels, empty for all."""
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
    lead_input("Wheels and friction"),
)
