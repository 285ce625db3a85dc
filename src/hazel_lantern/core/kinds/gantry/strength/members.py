"""The frame of a gantry, member by member: runways bent, bridge twisted, posts pressed."""

from __future__ import annotations

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.gantry.design import BOARDS
from hazel_lantern.core.kinds.gantry.model import POST, Gantry
from hazel_lantern.core.kinds.gantry.strength.bending import Bent
from hazel_lantern.core.kinds.shared.pressed import FREE_TOP, pressed
from hazel_lantern.core.mechanics.safety import HAND_SWING, SHEAR, safety_class
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import STRUCTURE, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told

HOLE = 0.0065  # metres: what the runways are drilled with over their posts
THICKEST = 0.05  # metres of board


def frame_figures(design: Design, rig: Gantry, said: Teller, worst: Bent, stiff: tuple[Remedy, ...]) -> Told:
    """Strength of runways, bridge in torsion and posts, each at its own worst of all poses; `said` knows the most a
    post carries, `stiff` are
    remedies of a soft frame.
    """
    tell, overhead = Teller(), safety_class("D")
    bar = rig.runway
    # What belongs to the building is not drilled.
    left = float(bar.section().modulus) if rig.building else bar.left_at(HOLE)
    stuff = design.catalogue.materials[bar.material]
    allowed = stuff.allowed(overhead.strength(stuff.family))
    tell.add(
        by_method(
            "rig.runway_stress",
            "Stress in a runway",
            HAND_SWING * float(worst.runway.max()) / left if left > 0 else float("inf"),
            "Pa",
            "bending by the frame engine with the bridge anywhere, times 1.5, over the section left at its holes",
            (
                Given("M", float(worst.runway.max()), "N*m", "bending of a runway", "runway.section"),
                Given("W", left, "m^3", "section left at a hole of 6.5 mm", "runway.section"),
            ),
            source="statics 4.1, 8.1, 9",
        )
    )
    tell.hold(
        "rig.runway_stress",
        "rig.runway",
        "Strength of the runways",
        STRUCTURE,
        "runway.section",
        "A runway works at {} of {} allowed overhead; it fails this way: " + stuff.fails + ".",
        at_most=allowed,
        remedies=_more_posts(rig),
    )
    _twisted(tell, design, rig, float(worst.torsion.max()), stiff)
    if rig.building:
        return tell.told()
    post = design.catalogue.sections[POST]
    wood, own = design.catalogue.materials[post.material], post.section()
    height = Given("L", rig.height, "m", "runways above ground", "runway.height")
    tell.add(said.figures["balance.post"])
    pressed(
        tell,
        "D",
        ("balance.post", "rig.leg_bows", "rig.leg_buckles"),
        "post",
        wood.E_low * own.least,
        height,
        FREE_TOP,
        "runway.height",
        _more_posts(rig),
    )
    return tell.told()


def _twisted(tell: Teller, design: Design, rig: Gantry, torsion: float, stiff: tuple[Remedy, ...]) -> None:
    """Shear of the bridge, twisted by the boom [N*m], beside what its material bears."""
    stuff = rig.bridge.material
    if design.variant == BOARDS:
        thick = design.number("board.thick")
        modulus, where = rig.bridge.gj / (stuff.G * thick), "board.thick"
    else:
        modulus, where = design.row("sections", "bridge.section").twist_modulus, "bridge.section"
    allowed = SHEAR[stuff.family] * stuff.allowed(safety_class("D").strength(stuff.family))
    tell.add(
        by_method(
            "rig.bridge_shear",
            "Shear in the twisted bridge",
            HAND_SWING * torsion / modulus,
            "Pa",
            "torsion by the frame engine, times 1.5, over the torsion modulus",
            (
                Given("T", torsion, "N*m", "torsion of the bridge", "boom.longest"),
                Given("W_t", modulus, "m^3", "its torsion modulus", where),
            ),
            assumptions=(f"shear allowed: {SHEAR[stuff.family]:g} of the bending allowed, workshop judgement",),
            source="statics 4.1, 8.1, 9",
        )
    )
    tell.hold(
        "rig.bridge_shear",
        "rig.bridge_twist",
        "Bridge in torsion",
        STRUCTURE,
        where,
        "The boom twists the bridge to a shear of {}; {} is allowed overhead.",
        at_most=allowed,
        remedies=(*_thicker(design), *stiff),
    )


def _thicker(design: Design) -> tuple[Remedy, ...]:
    """Boards a third thicker."""
    thick = round(1.34 * design.number("board.thick"), 3)
    return (
        (set_one("thick", "Boards {} thick", "board.thick", thick, "m"),)
        if design.variant == BOARDS and thick <= THICKEST
        else ()
    )


def _more_posts(rig: Gantry) -> tuple[Remedy, ...]:
    count = len(rig.posts) + 1
    return (
        (set_one("posts", f"Hold each runway at {count} places", "runway.posts", float(count)),) if count <= 6 else ()
    )
