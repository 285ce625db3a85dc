"""Orbit rigs: a camera on a beam that turns about what it looks at."""

from __future__ import annotations

import numpy as np
from msgspec.structs import asdict

from hazel_lantern.core.kinds.base import Action, Carried, Chapter, Design, FallZone, Figures, Kind, Limit, View
from hazel_lantern.core.kinds.orbit.clearance import clearance_figures
from hazel_lantern.core.kinds.orbit.design import DECLARED, SCHOOLS, TOLD_APART_BY, VARIANTS
from hazel_lantern.core.kinds.orbit.drawing import draw
from hazel_lantern.core.kinds.orbit.model import Orbit, follow, frames, lay, members, mount
from hazel_lantern.core.kinds.orbit.parts import build
from hazel_lantern.core.kinds.orbit.picture import fits_figures, sized_orbit, turn_figures
from hazel_lantern.core.kinds.orbit.strength import strength_figures
from hazel_lantern.core.kinds.orbit.turning import balance_it, speed_curve, spun, turning_figures
from hazel_lantern.core.kinds.shared.headline import headlines
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.told import Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Laid


def _mass_figures(orbit: Orbit, laid: Laid) -> Told:
    given = (Given("m", orbit.stands, "kg", "what stands still", "base.mass"),)
    how = "beam, riser, weights, kit, shaft, table with what stands on it, base"
    return Told((by_method("rig.mass", "Everything weighs", orbit.weight, "kg", how, given, source="catalogue"),))


def _headlines(design: Design, move: Move, optics: Optics, figures: Figures) -> dict[str, Words]:
    rig = Words(
        dict(VARIANTS)[design.variant].lower() + ", {} : {}",
        ((design.number("arm.front"), "m"), (design.number("arm.rear"), "m")),
    )
    lines = {
        "balance": ("{} balance it, {} hang", ("balance.needed", "balance.hung")),
        "travel": ("{} turns a minute, leans {}", ("travel.rpm", "travel.lean")),
    }
    way = figures["shot.way"].value if "shot.way" in figures else move.length
    return headlines(move, optics, figures, way, rig, lines)


def _loading(design: Design, kit: Carried, orbit: Orbit) -> tuple[Words, ...]:
    """So that it never swings alone; it is unloaded backwards."""
    return (
        Words("Level the base with a level laid both ways on its table, ballast over its feet"),
        Words("Tie the beam to the base so that it cannot turn"),
        Words(
            "Half of the weights on first, then the camera, {}, then the rest of the weights",
            ((kit.payload.mass, "kg"),),
        ),
        Words("Untie it, let it stand at four places round: it must stay at each; slide the weights until it does"),
        Words("Turn it once by hand: nothing meets table, lead or floor; mark the circle nobody enters on the floor"),
        Words("Focus on a mark at the axis; everybody out; start from standing, stop before anybody comes near"),
    )


def _limits(design: Design, orbit: Orbit) -> tuple[Limit, ...]:
    return ()


def _falls(orbit: Orbit) -> FallZone:
    """What sweeps round: nobody stands in its way."""
    around = np.linspace(0.0, 2 * np.pi, 24, endpoint=False)
    return FallZone(orbit.tip * np.column_stack([np.cos(around), np.sin(around)]), 0.3, False)


KIND = Kind(
    **asdict(DECLARED),
    views=(View("side", "Side"), View("above", "Above")),
    actions=(Action("rig", "Size it for me", sized_orbit), Action("balance", "Balance it for me", balance_it)),
    model=Chapter("orbit", build),
    chapters=(
        Chapter("spin", spun),
        Chapter("fits", fits_figures),
        Chapter("mass", _mass_figures),
        Chapter("clearance", clearance_figures),
        Chapter("turning", turning_figures),
        Chapter("strength", strength_figures),
        Chapter("turn", turn_figures),
        Chapter("speeds", speed_curve),
    ),
    follow=follow,
    limits=_limits,
    mount=mount,
    members=members,
    bodies=frames,
    sketch=draw,
    headlines=_headlines,
    stations=("shot", "rig", "balance", "travel", "build"),
    readings={"loading": _loading},
    schools=SCHOOLS,
    told_apart_by=TOLD_APART_BY,
    lay=lay,
)
