"""How a bored shuttle fits a rod that is bowed: the bore's ends and its middle against the rod's thickest place."""

from __future__ import annotations

import numpy as np

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.rail.binding import Touching, fits
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.mechanics.binding import Contacts
from hazel_lantern.core.nouns.figure import Given
from hazel_lantern.core.nouns.finding import Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told


def shuttle_fit(design: Design, suggest: bool, rail: Straight) -> Told:
    """Room in the bore wherever it stands on the rod."""
    half, room = rail.wheelbase / 2, max(0.0, design.number("shuttle.bore") - design.number("rod.largest"))
    none, free = np.zeros(3), np.full(3, room / 2)
    contacts = Contacts(np.array([half, 0.0, -half]), none, none.astype(int), free, free)

    def looser(over: float) -> tuple[Remedy, ...]:
        bore = round(design.number("shuttle.bore") + 2 * over + 5e-5, 5)
        return (set_one("wider", "Bore it {}", "shuttle.bore", bore, "m"),) if bore <= 0.12 else ()

    tell = Teller()
    play = Given("p", room, "m", "bore over the thickest place", "shuttle.bore")
    fits(tell, design, rail, Touching(contacts, play, looser), suggest=suggest)
    return tell.told()
