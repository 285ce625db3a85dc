"""Inputs that several kinds have."""

from __future__ import annotations

from msgspec.structs import replace

from hazel_lantern.core.catalogue import Material
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity

HELD_BY = (
    ("joists", "Rated anchors in joists"), ("beam", "Clamps round a beam"),
    ("grid", "Rated clamps on a rated pipe grid"), ("brackets", "Wall brackets, screwed"),
    ("plugs", "Wall brackets, plugs in masonry"),
    ("ceiling", "Suspended ceiling, or its grid"), ("adhesive", "Adhesive or suction hooks"),
    ("plasterboard", "Plugs in plasterboard"),
)  # fmt: skip
PLATFORMS = tuple((f"plywood-18x{wide}", f"Plywood 18×{wide}") for wide in (60, 100, 150, 200))
BELOW = (("clear", "Nobody, kept clear"), ("people", "People at work"))
STAND = ("stand", ("post-wood",))  # the stand that is built of boards
BY_FRICTION, BY_LOCK, BY_HAND = "friction", "lock", "hand"


def least_bump(group: str) -> Quantity:
    """The input that says what a rig must stand at the least when bumped."""
    words = "as usual: a tenth of its weight and 20 N, 5 N where nobody is near (A); set it where you know better"
    return Quantity("bump.least", "Bump at least, 0 as usual", "N", 0.0, 400.0, 0.0, group, words)


def home_built(group: str) -> tuple[Parameter, ...]:
    """The boards of a stand that is built, not bought."""
    note = "of a home-built stand"
    return (
        Choice(
            "stand.board", "Boards of the post", (), "pine-28x45", group, f"two, {note}", table="sections", when=STAND
        ),
        Choice("stand.leg", "Legs of the post", (), "pine-28x45", group, f"each, {note}", table="sections", when=STAND),
    )


def platform(group: str) -> Choice:
    """The board under a camera that hangs on a post."""
    return Choice(
        "post.platform", "Board under the camera", PLATFORMS, PLATFORMS[0][0], group, "wider for a heavy camera"
    )


def kept_in_place(group: str, lock: float = 60.0) -> tuple[Parameter, ...]:
    """The inputs that say what keeps a camera where it was left."""
    ways = ((BY_FRICTION, "Its friction"), (BY_LOCK, "A lock or brake"), (BY_HAND, "Nothing but a hand"))
    return (
        Choice("place.kept", "Left where it is, kept by", ways, BY_FRICTION, group, "between moves, and when let go"),
        Quantity(
            "place.lock",
            "The lock holds",
            "N",
            0.0,
            5000.0,
            lock,
            group,
            "pulled along the travel until it slips",
            when=("place.kept", (BY_LOCK,)),
        ),
    )


def tether(group: str) -> tuple[Parameter, ...]:
    """The inputs of what catches a camera that falls."""
    return (
        Quantity(
            "tether.slack",
            "Slack of the tether",
            "m",
            0.0,
            0.5,
            0.03,
            group,
            "how far the camera falls before it holds",
        ),
        Quantity("tether.stiffness", "Stiffness of the tether", "N/m", 500.0, 1e6, 20000.0, group, "with its anchor"),
        Quantity(
            "tether.rated",
            "Rated load of the tether",
            "N",
            0.0,
            50000.0,
            1000.0,
            group,
            "as stamped on its weakest part",
        ),
    )


STIFFNESS, ROLLING = "built.stiffness", "built.rolling"


def stiff_as(group: str, what: str) -> Quantity:
    """The input that says how stiff what bends is, against what its material and section are reckoned with."""
    words = f"1 as {what} is reckoned; less where a test found it softer"
    return Quantity(STIFFNESS, "Stiffness, of what is reckoned", "1", 0.5, 2.0, 1.0, group, words)


def rolls_as(group: str, only: tuple[str, ...] = ()) -> Quantity:
    """The input that says how hard its wheels roll, against what they are reckoned with."""
    words = "1 as its wheels are reckoned; more where a test found them slower"
    return Quantity(ROLLING, "Rolling, of what is reckoned", "1", 0.5, 2.0, 1.0, group, words, "travel", only=only)


def as_found(material: Material, times: float) -> Material:
    """A material as stiff as it was found to be; as strong as before."""
    return material if times == 1.0 else replace(material, E=times * material.E, G=times * material.G)
