"""Whether the gantry stands on its posts: trolley and boom anywhere, camera on and off, left alone and bumped."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.gantry.legs import BALLAST
from hazel_lantern.core.kinds.gantry.model import FRAME, MOVES, Gantry, frames
from hazel_lantern.core.kinds.gantry.strength.bending import worst_poses
from hazel_lantern.core.kinds.shared.standing import bump, standing_findings
from hazel_lantern.core.kinds.shared.weighed import KIT
from hazel_lantern.core.mechanics import footing
from hazel_lantern.core.mechanics.safety import safety_class
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told


def standing_figures(design: Design, suggest: bool, gantry: Gantry) -> Told:
    """Footing over the outline of all feet, of posts and raking legs; the braced frame is taken as rigid."""
    tell, rig = Teller(), gantry
    if rig.building:
        return Told()  # it stands on nothing of its own
    needed = safety_class("D").tipping
    bag = design.number("foot.ballast")
    factor, tips = _stands(rig, bag)
    total = _total(rig, bag)
    knock = bump(design, total)
    inputs = (
        Given("m", total, "kg", "everything with posts and ballast", "rig.mass"),
        design.given("S", "span", "between the runways", "m"),
        design.given("H", "runway.height", "runways above ground", "m"),
        design.given("m_b", "foot.ballast", "ballast on each foot", "kg"),
    )
    level = (
        "level firm ground",
        "posts braced and raked, not fixed to anything",
        f"boom drawn out at {len(worst_poses(rig))} poses, camera on and off",
    )
    tell.add(
        by_method(
            "balance.footing",
            "Footing",
            factor,
            "1",
            "stabilising over overturning moment about the weakest edge",
            inputs,
            assumptions=level,
            source="statics 6, 8.1",
        ),
        by_method(
            "balance.tips_at",
            "A bump tips it at",
            tips,
            "N",
            "margin about the weakest edge over the runways' height",
            inputs,
            assumptions=level,
            source="statics 6",
        ),
    )
    mend = _remedies(design, rig, needed) if suggest else ()
    tell.findings += standing_findings(
        factor,
        needed,
        tips,
        knock,
        where="With the boom out at its worst",
        field="foot.ballast",
        mend=mend,
        bumped=(
            "Bumped at the top",
            "A push of {} at the runways tips it; it must stand {}. Fix it to a wall or weight its feet.",
        ),
    )
    return tell.told()


def _total(rig: Gantry, bag: float) -> float:
    """Everything with so much ballast on each foot [kg]."""
    return rig.laid.mass - rig.laid.weigh(FRAME)[0] + rig.laid.weigh(FRAME, BALLAST)[0] + 2 * len(rig.posts) * bag


def _stands(rig: Gantry, bag: float) -> tuple[float, float]:
    """Least footing factor, and least push at the runways that tips it [N], with so much ballast on each foot [kg]."""
    half, side, laid = rig.length / 2, rig.span / 2, rig.laid
    side += rig.rake
    feet = np.array([(x - half, y) for x in rig.posts for y in (-side, side)])
    poses = worst_poses(rig)
    bodies = frames(rig, poses)
    worst, tips = math.inf, math.inf
    for off in ("", KIT):
        weighed = [
            (body, *laid.weigh(body, BALLAST if body == FRAME else off)) for body in (FRAME, *MOVES) if body in bodies
        ]
        masses = [mass for _, mass, _ in weighed] + [2 * len(rig.posts) * bag]
        places = np.stack(
            [*(bodies[body].place(centre) for body, _, centre in weighed), np.tile((0.0, 0.0, 0.05), (len(poses), 1))],
            axis=1,
        )
        still, over = footing.around(feet, [], np.zeros((0, 3)), np.array([masses]), places, np.zeros(1))
        with np.errstate(divide="ignore"):
            worst = min(worst, float(np.where(over > 0, still / np.maximum(over, 1e-300), np.inf).min()))
        tips = min(tips, float((still - over).min()) / rig.height)
    return worst, tips


def _remedies(design: Design, rig: Gantry, needed: float) -> tuple[Remedy, ...]:
    """The smallest bag on every foot that does it, a quarter to spare."""
    for bag in np.arange(design.number("foot.ballast") + 1.0, 61.0):
        factor, tips = _stands(rig, float(bag))
        total = _total(rig, float(bag))
        if factor >= 1.26 * needed and tips >= 1.26 * bump(design, total):
            return (set_one("bag", "Put {} on every foot", "foot.ballast", float(bag), "kg"),)
    return ()
