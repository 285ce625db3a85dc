"""A bar pressed lengthwise, held against the load under which it bows out."""

from __future__ import annotations

from hazel_lantern.core.mechanics.safety import safety_class
from hazel_lantern.core.nouns.figure import Given, by_formula
from hazel_lantern.core.nouns.finding import STRUCTURE, Remedy
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller

BOWS = Formula("pi**2*EI/(K*L)**2")
# How the ends are held, as the effective length over the length.
FREE_TOP, PINNED = 2.0, 1.0


def pressed(
    tell: Teller,
    safety: str,
    keys: tuple[str, str, str],
    name: str,
    ei: float,
    length: Given,
    fixity: float,
    where: str,
    remedies: tuple[Remedy, ...] = (),
) -> None:
    """Tell the load under which a bar bows out and hold what presses it against that.

    keys: of what presses it, told before, of the load it bows out under, of the finding
    ei: bending stiffness about its weakest axis, the low end of its material [N*m^2]
    fixity: effective length over length [-]
    """
    presses, bows, finding = keys
    factor = safety_class(safety).buckling
    tell.add(
        by_formula(
            bows,
            f"The {name} bows out at",
            "N",
            BOWS,
            (
                Given("EI", ei, "N*m^2", "stiffness about its weakest axis, low end of the material", where),
                Given("K", fixity, "1", "how its ends are held: 2 with one end free, 1 between pins"),
                length,
            ),
            assumptions=("straight", "pressed along its middle"),
            source="statics 4.5",
        )
    )
    tell.hold(
        presses,
        finding,
        f"Buckling of the {name}",
        STRUCTURE,
        where,
        f"The {name} is pressed lengthwise with {{}}; {{}} is allowed, {factor:g} times below bowing out.",
        at_most=tell.value(bows) / factor,
        remedies=remedies,
    )
