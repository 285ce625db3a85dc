"""Bars of a jib pressed lengthwise: the arm by its load, its stay and its levelling cable,
the upper bar by the head."""

from __future__ import annotations

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.jib.model import BY_BARS, Jib
from hazel_lantern.core.kinds.jib.strength.arm import Flat, steepest
from hazel_lantern.core.kinds.jib.strength.frame import Bent, bent, build_frame
from hazel_lantern.core.kinds.shared.pressed import FREE_TOP, PINNED, pressed
from hazel_lantern.core.mechanics.safety import HAND_SWING
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.told import Teller, Told

UPPER = "rig.upper_bar"


def buckling_figures(
    design: Design, jib: Jib, at_flattest: Flat, at_steepest: Bent, used: tuple[float, float], joints: Told
) -> Told:
    """Whether the arm bows out sideways, its head end free, and the upper bar between its pins."""
    tell, section, material = Teller(), jib.arm_section, jib.arm_material
    # An arm that points up is pressed, one that points down is pulled: the steepest need not be the highest.
    at_highest = at_steepest if used[1] == steepest(used) else bent(jib, build_frame(design, jib, used[1]))
    thrust = max(-b.thrust for b in (at_flattest.bent, at_steepest, at_highest))
    tell.add(
        by_method(
            "rig.arm_presses",
            "Arm is pressed with, at most",
            HAND_SWING * max(thrust, 0.0) + jib.cable_presses,
            "N",
            "thrust of the frame at the flattest, the steepest and the highest angle of the shot, its stay's "
            "included, times 1.5; both runs of a levelling cable",
            (
                Given("N", max(thrust, 0.0), "N", "thrust along the arm, from the frame", "arm.section"),
                Given(
                    "2T",
                    jib.cable_presses,
                    "N",
                    "both runs of the levelling cable",
                    "cable.tension" if jib.cable_presses else "",
                ),
            ),
            source="statics 4.1, 7.3, 9",
        )
    )
    thinnest = section.least if jib.tip is None else min(section.least, jib.tip.section().least)
    weak = jib.bars * material.E_low * thinnest
    length = Given("L", jib.front, "m", "front arm", "arm.front")
    pressed(
        tell,
        design.text("safety"),
        ("rig.arm_presses", "rig.arm_bows", "rig.arm_buckles"),
        "arm",
        weak,
        length,
        FREE_TOP,
        "arm.section",
    )
    if jib.level == BY_BARS and any(figure.key == UPPER for figure in joints.figures):
        pushes = max(joints.value(UPPER), 0.0)
        tell.add(
            by_method(
                "rig.bar_presses",
                "Upper bar is pressed with, at most",
                HAND_SWING * pushes,
                "N",
                "push of the head at the steepest angle, times 1.5",
                (Given("F", pushes, "N", "upper bar pushes", UPPER),),
                source="statics 7.4, 9",
            )
        )
        bar = design.row("sections", "bar.section")
        stuff, own = design.catalogue.materials[bar.material], bar.section()
        upper = Given("L", jib.upper, "m", "upper bar, between its pins", "arm.front")
        pressed(
            tell,
            design.text("safety"),
            ("rig.bar_presses", "rig.bar_bows", "rig.bar_buckles"),
            "upper bar",
            stuff.E_low * own.least,
            upper,
            PINNED,
            "bar.section",
        )
    return tell.told()
