"""How far a deck sags between its wheels, and what a person who shifts on it does to the picture."""

from __future__ import annotations

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.dolly.deck import rides
from hazel_lantern.core.kinds.rail.bends import HORIZON
from hazel_lantern.core.kinds.rail.carriage import PLATE
from hazel_lantern.core.kinds.rail.model import Carriage
from hazel_lantern.core.kinds.rail.plate import Ribs
from hazel_lantern.core.mechanics import platform
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import PICTURE, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.workshop.laid import Laid
from hazel_lantern.core.workshop.solids import ACROSS, Sheet

PATCH = 0.3  # metres that a tripod's feet, a bag or a person spread a load over


def sag_figures(design: Design, rail: Carriage, laid: Laid) -> Told:
    """All that stands on the deck in its middle; then a person who steps from there to a quarter of it."""
    tell, part = Teller(), next((part for part in laid.parts if part.name == PLATE), None)
    if part is None or not isinstance(part.solid, Sheet):
        return tell.told()
    sheet = part.solid
    wide = sheet.length if part.places[0].along == ACROSS else sheet.width
    load = max(0.0, rail.weight - design.number("carriage.mass") * GRAVITY)
    ribs = Ribs.of(laid, 0)
    stiff = sheet.material.E * min(wide, 1.1 * rail.wheelbase) * sheet.thickness**3 / 12
    share = ribs.share(stiff) if ribs else 1.0
    bare = platform.deck(load, rail.wheelbase, wide, sheet.thickness, sheet.material.E, PATCH)
    given = (
        Given("P", load, "N", "what stands on it", "kit"),
        Given("L", rail.wheelbase, "m", "wheels apart, along", rail.base_key),
        Given("B", wide, "m", "its width"),
        Given("t", sheet.thickness, "m", "board"),
        Given("s", share, "1", "of the bending, what the board keeps beside its battens", "deck.ribs"),
    )
    how = "a board carried along two edges, loaded in its middle, times its share beside battens"
    tell.add(
        by_method("rig.deck_sag", "Deck sags by", share * bare.sag, "m", how, given, source="dynamics 6.3"),
        by_method(
            "rig.deck_tilt", "and tilts at its quarters by", share * bare.tilt, "rad", how, given, source="dynamics 6.3"
        ),
    )
    if rides(design):
        person = design.number("rider.mass") * GRAVITY
        shifts = share * platform.deck(person, rail.wheelbase, wide, sheet.thickness, sheet.material.E, PATCH).tilt
        tell.add(
            by_method(
                "travel.steps",
                "A step of the person tilts the deck by",
                shifts,
                "rad",
                how,
                (Given("P", person, "N", "person", "rider.mass"), *given[1:]),
                source="dynamics 6.3",
            )
        )
        tell.hold(
            "travel.steps",
            "travel.stepped",
            "Deck under a person",
            PICTURE,
            "deck.ribs",
            "Who rides tilts the deck by {} with a step; {} passes.",
            at_most=HORIZON,
            remedies=(set_one("four", "Four battens along it", "deck.ribs", "four"),),
        )
    return tell.told()
