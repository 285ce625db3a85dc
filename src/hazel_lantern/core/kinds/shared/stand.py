"""Whether bought stands go as high and spread as wide as they are asked to: one rule for all kinds."""

from __future__ import annotations

from collections.abc import Sequence

from hazel_lantern.core.catalogue import Stand
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import BUILD, CLEAR, STOP, Finding, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

SAME = 1e-9  # metres


def stand_fits(
    design: Design, stand: Stand, tops: Sequence[float], method: str, given: tuple[Given, ...], height: tuple[str, str]
) -> Told:
    """Height of the tops of all stands [m] against what the stand reaches, spread of its feet against what it spreads.

    The figure is the top that is furthest from what the stand reaches, else the highest; `height`: the input that
    raises them all alike, and what a remedy that sets it says.
    """
    tell = Teller()
    off = {top: top - min(max(top, stand.height_min), stand.height_max) for top in tops}
    top = max(off, key=lambda one: (abs(off[one]), one))
    beyond = off[top]
    tell.add(by_method("rig.column", "Top of the stand", top, "m", method, given, source="sizes"))
    sets, label = height
    reached = round(design.number(sets) - beyond, 4)
    tell.hold(
        "rig.column",
        "rig.stand_height",
        "Height of the stand",
        BUILD,
        sets,
        Words(
            "The top of the stand must stand at {}; it goes from {} to {}.",
            ((top, "m"), (stand.height_min, "m"), (stand.height_max, "m")),
        ),
        at_most=stand.height_max if beyond >= -SAME else None,
        at_least=stand.height_min if beyond < -SAME else None,
        state=STOP if abs(beyond) > SAME else CLEAR,
        remedies=(set_one("height", label, sets, reached, "m"),),
    )
    spread = design.number("stand.radius")
    wanted = min(max(spread, stand.radius_min), stand.radius_max)
    if abs(spread - wanted) > SAME:
        tell.findings.append(
            Finding(
                "rig.stand_spread",
                "Spread of the feet",
                BUILD,
                STOP,
                "stand.radius",
                Words(
                    "The feet stand {} from the centre; this stand spreads from {} to {}.",
                    ((spread, "m"), (stand.radius_min, "m"), (stand.radius_max, "m")),
                ),
                spread,
                wanted,
                "at_most" if spread > wanted else "at_least",
                "m",
                (set_one("spread", "Feet at {}", "stand.radius", wanted, "m"),),
            )
        )
    return tell.told()
