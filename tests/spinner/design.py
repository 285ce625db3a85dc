"""What the beam declares."""

from math import pi

from hazel_lantern.core.kinds.base import Declared
from hazel_lantern.core.nouns.quantity import Choice, Quantity

PARAMETERS = (
    Quantity("beam.radius", "Beam", "m", 0.2, 4.0, 1.2, "Beam", "from the shaft to the mount"),
    Quantity("beam.height", "Beam above ground", "m", 0.1, 3.0, 1.4, "Beam", ""),
    Quantity("beam.turns", "Turns", "1", 0.1, 5.0, 1.0, "Beam", "in one move"),
    Quantity("camera.pitch", "Camera looks down by", "rad", 0.0, pi / 2, 0.3, "Beam", "from level"),
    Choice("beam.section", "Section", (), "al6063-25x50x2", "Beam", "", table="sections"),
)
DECLARED = Declared(
    id="spinner",
    name="Spinner",
    home=__package__,
    variants=(("plain", "One arm"), ("short", "A stub")),
    parameters=PARAMETERS,
    usual={"short": {"beam.radius": 0.4}},
)
