"""What goes on sagging under a standing load: wood, boards and plastics."""

from __future__ import annotations

from hazel_lantern.core.catalogue import Material
from hazel_lantern.core.nouns.figure import Given, by_formula
from hazel_lantern.core.nouns.finding import STRUCTURE, WATCH
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller
from hazel_lantern.core.nouns.words import within

LATER = Formula("d*(1+c)")


def creeps(tell: Teller, material: Material, sag: float, where: str, advice: str) -> None:
    """Tell what a sag [m] grows to, and watch it; nothing for what does not creep."""
    if material.creep <= 0:
        return
    tell.add(
        by_formula(
            "rig.sag_later",
            "Sags in time to",
            "m",
            LATER,
            (
                Given("d", sag, "m", "sag at once", where),
                Given("c", material.creep, "1", "creep of the material", where),
            ),
            source="statics 3",
        )
    )
    tell.hold(
        "rig.sag_later",
        "rig.creep",
        "Sags more with time",
        STRUCTURE,
        where,
        f"Left under load, {within(material.name)} goes on sagging, to about {{}}. {advice}",
        at_most=sag,
        state=WATCH,
    )
