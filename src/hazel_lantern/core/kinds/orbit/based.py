"""What an orbit rig stands on: how firmly, against what wobbles on it."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.orbit.evened import balance_changes
from hazel_lantern.core.kinds.orbit.model import Orbit
from hazel_lantern.core.kinds.orbit.spun import Spun
from hazel_lantern.core.kinds.shared.standing import bump
from hazel_lantern.core.mechanics import rotor
from hazel_lantern.core.mechanics.safety import safety_class
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import PEOPLE, STRUCTURE, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

NOTHING = 1e-9  # metres off the axis, of several cameras that balance


def base_stands(tell: Teller, design: Design, suggest: bool, orbit: Orbit, spin: Spun) -> None:
    """The base at rest, turning, bumped at the camera, and whether it walks."""
    weight = orbit.weight * GRAVITY
    stood = rotor.base_tipping(orbit.turns_as, spin.fastest, weight, orbit.inscribed)
    asked = safety_class(design.text("safety")).tipping
    given = (
        Given("W", weight, "N", "all of it", "rig.mass"),
        Given("R", orbit.inscribed, "m", "axis to the nearest edge of its feet", "base.radius"),
        Given("M", spin.floor.moment, "N*m", "about the floor, as it turns fastest"),
    )
    tell.add(
        by_method(
            "balance.base",
            "Base stands with a factor of",
            stood.factor if stood.offset > NOTHING else math.inf,
            "1",
            "weight times the nearest edge over the moment about the floor",
            given,
            source="dynamics 2",
        ),
        by_method(
            "balance.offset",
            "Its weight acts off the axis by",
            stood.offset,
            "m",
            "that moment over the weight",
            given,
            source="dynamics 2",
        ),
    )
    need = max(2.0, asked)
    wide = round(min(1.5, 1.3 * design.number("base.radius")), 3)
    heavy = min(150.0, design.number("base.mass") + 10.0)
    mend = (
        set_one("wide", "Feet {} from the axis", "base.radius", wide, "m"),
        set_one("heavy", "Ballast of {}", "base.mass", heavy, "kg"),
    )
    tell.hold(
        "balance.base",
        "balance.stands",
        "Base stands",
        PEOPLE,
        "base.radius",
        "As it turns its base stands with a factor of {}; {} is wanted.",
        at_least=need,
        remedies=mend,
    )
    # As it turns it points at every edge in turn: what is out of balance counts in full towards the nearest.
    knock = bump(design, orbit.weight)
    tips = (weight * orbit.inscribed - GRAVITY * abs(spin.hub.unbalance)) / max(0.1, orbit.lens_high)
    tell.add(
        by_method(
            "balance.tips_at",
            "A push at the lens that tips it",
            tips,
            "N",
            "weight times the nearest edge, less what is out of balance, over the lens height",
            given[:2],
            source="statics 6",
        )
    )
    tell.hold(
        "balance.tips_at",
        "balance.bump",
        "Bumped at the camera",
        PEOPLE,
        "base.radius",
        "A push of {} at the lens tips it; it must stand {}.",
        at_least=knock,
        remedies=mend,
    )
    holds = design.number("base.grip") * weight / 1.5
    tell.add(
        by_method(
            "balance.walks",
            "Feet slip from",
            holds,
            "N",
            "grip of the feet over one and a half",
            (design.given("mu", "base.grip", "grip", "1"), given[0]),
            source="dynamics 2",
        )
    )
    tell.hold(
        "balance.shakes",
        "balance.walk",
        "Base stays where it is",
        STRUCTURE,
        "weights.mass",
        "As it turns it shakes sideways with {}; its feet slip from {}.",
        at_most=holds,
        remedies=(Remedy("balance", Words("Balance it for me"), balance_changes(design, orbit)),) if suggest else (),
    )
