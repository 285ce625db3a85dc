"""The arm bent sideways when a pan is stopped hard."""

from __future__ import annotations

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.jib.model import BY_BARS, Jib
from hazel_lantern.core.kinds.jib.strength.arm import Flat
from hazel_lantern.core.mechanics import sections
from hazel_lantern.core.mechanics.safety import safety_class
from hazel_lantern.core.nouns.figure import Given, by_formula
from hazel_lantern.core.nouns.finding import STRUCTURE, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told

SIDEWAYS = Formula("a*(m + m_a/3)*L")
STRESS = Formula("M/W_net + M_s/W_s")
LEAST = 0.05  # m/s^2, the softest stop there is


def panning_figures(design: Design, jib: Jib, at_flattest: Flat) -> Told:
    """Stress at the pivot hole when a pan stops hard: the load as it hangs, and all in front of the pivot thrown on
    sideways, borne by the arm alone as a cantilever.
    """
    tell, section, bolt = Teller(), jib.arm_section, jib.bolt.clear_close
    line = jib.bars * jib.arm.line(jib.arm_material)
    if jib.level == BY_BARS:
        line += jib.bar.line(design.catalogue.materials[jib.bar.material])
    tell.add(
        by_formula(
            "rig.pan_bends",
            "A hard pan stop bends the arm sideways with",
            "N*m",
            SIDEWAYS,
            (
                design.given("a", "pan.stop", "hard stop, at the head", "m/s^2"),
                Given("m", jib.head_mass, "kg", "head and camera", "kit"),
                Given("m_a", line * jib.front, "kg", "bars in front of the pivot", "arm.section"),
                design.given("L", "arm.front", "front arm", "m"),
            ),
            assumptions=("the arm alone bears it, held at the pivot",),
            source="inertia of a turning bar",
        )
    )
    # The pivot hole goes through sideways: it takes a strip of the walls that bear most.
    wall = min(jib.arm.wall, section.cy)
    gone = (
        bolt * jib.arm.walls * (section.cy - wall / 2) ** 2
        if jib.arm.walls < 2 * section.cy
        else bolt * (2 * section.cy) ** 3 / 12
    )
    tell.add(
        by_formula(
            "rig.pan_stress",
            "Stress in a hard pan stop",
            "Pa",
            STRESS,
            (
                Given(
                    "M", at_flattest.bent.moment, "N*m", "bending of the load as it hangs, from the frame", "arm.front"
                ),
                Given(
                    "W_net",
                    jib.bars * sections.drilled(section, bolt, jib.arm.walls),
                    "m^3",
                    "section left at the hole",
                    "arm.section",
                ),
                tell.given("M_s", "rig.pan_bends"),
                Given(
                    "W_s",
                    jib.bars * max(section.iz - gone, 1e-12) / section.cy,
                    "m^3",
                    "section left at the hole, sideways",
                    "arm.section",
                ),
            ),
            source="statics 2, 9",
        )
    )
    family = jib.arm_material.family
    softer = round(design.number("pan.stop") / 2, 2)
    tell.hold(
        "rig.pan_stress",
        "rig.pan_strong",
        "Arm in a hard pan stop",
        STRUCTURE,
        "pan.stop",
        "When a pan stops hard the arm works at {} of {} allowed.",
        at_most=jib.arm_material.allowed(safety_class(design.text("safety")).strength(family)),
        remedies=(set_one("stop", "Stop a pan with {}", "pan.stop", softer, "m/s^2"),) if softer >= LEAST else (),
    )
    return tell.told()
