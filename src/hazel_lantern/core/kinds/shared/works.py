"""What a member, bolt or screw works at against what it bears: one sentence and one rule for all of them."""

from __future__ import annotations

from hazel_lantern.core.catalogue import Material
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.mechanics.safety import PIN_FACTOR, safety_class
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import STRUCTURE, Remedy
from hazel_lantern.core.nouns.told import Teller

SHEAR_OF_STEEL = 0.58  # of what it bears in tension, statics 13


def letter(design: Design) -> str:
    """The safety class a member is judged by: what is refused over people is still judged as overhead."""
    chosen = design.text("safety")
    return "D" if chosen == "E" else chosen


def bears(design: Design, material: Material) -> float:
    """What a material may be worked at under a standing load [Pa]."""
    return material.allowed(safety_class(letter(design)).strength(material.family))


def bolt_bears(design: Design) -> float:
    """What an unmarked bolt may be worked at in tension [Pa]."""
    return design.catalogue.materials["steel"].strength / PIN_FACTOR


def works(
    tell: Teller,
    key: str,
    name: str,
    stress: float,
    allowed: float,
    method: str,
    given: tuple[Given, ...],
    where: str,
    *,
    source: str,
    about: str = STRUCTURE,
    verb: str = "works",
    remedies: tuple[Remedy, ...] = (),
) -> None:
    """Tell what something works at, as the figure `key` with _stress, and hold it against what it bears [Pa]."""
    figure = f"{key}_stress"
    tell.add(by_method(figure, f"Stress in the {name}", stress, "Pa", method, given, source=source))
    tell.hold(
        figure,
        key,
        f"Strength of the {name}",
        about,
        where,
        f"The {name} {verb} at {{}} of {{}} allowed.",
        at_most=allowed,
        remedies=remedies,
    )
