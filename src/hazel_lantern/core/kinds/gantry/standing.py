"""Whether the gantry stands on its posts: trolley and boom anywhere, camera on and off, left alone and bumped."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.figure import Given, by_method
from hazel_lantern.core.finding import Remedy, Words
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.gantry.model import POST, Gantry, camera
from hazel_lantern.core.kinds.gantry.strength import worst_poses
from hazel_lantern.core.kinds.standing import standing_findings
from hazel_lantern.core.mechanics import footing
from hazel_lantern.core.mechanics.safety import safety_class
from hazel_lantern.core.told import Teller, Told
from hazel_lantern.core.units import GRAVITY


def standing_figures(design: Design, suggest: bool, gantry: Gantry) -> Told:
    """Footing over the outline of all posts' feet; free-standing, braced posts are taken as one rigid frame."""
    tell, rig = Teller(), gantry
    needed = safety_class("D").tipping
    bag = design.number("foot.ballast")
    factor, tips = _stands(design, rig, bag)
    total = rig.mass + _posts(design, rig) + 2 * len(rig.posts) * bag
    knock = footing.knock_default(total * GRAVITY)
    inputs = (
        Given("m", total, "kg", "everything with posts and ballast", "rig.mass"), design.given("S", "span", "between the runways", "m"), design.given("H", "runway.height", "runways above ground", "m"),
        design.given("m_b", "foot.ballast", "ballast on each foot", "kg"),
    )  # fmt: skip
    level = ("level firm ground", "posts braced, not fixed to anything", "boom drawn out at 24 poses, camera on and off")
    tell.add(
        by_method("balance.footing", "Footing", factor, "1", "balance", "stabilising over overturning moment about the weakest edge", inputs, assumptions=level, source="statics 6, 8.1"),
        by_method("balance.tips_at", "A bump tips it at", tips, "N", "balance", "margin about the weakest edge over the runways' height", inputs, assumptions=level, source="statics 6"),
    )  # fmt: skip
    mend = _remedies(design, rig, needed) if suggest else ()
    tell.findings += standing_findings(
        factor, needed, tips, knock, where="With the boom out at its worst", field="foot.ballast", mend=mend,
        bumped=("Bumped at the top", "A push of {} at the runways tips it; it must stand {}. Fix it to a wall or weight its feet."),
    )  # fmt: skip
    return tell.told()


def _posts(design: Design, rig: Gantry) -> float:
    """All posts together [kg]."""
    bar = design.catalogue.sections[POST]
    return 2 * len(rig.posts) * rig.height * float(bar.section().area * design.catalogue.materials[bar.material].density)


def _stands(design: Design, rig: Gantry, bag: float) -> tuple[float, float]:
    """Least footing factor, and least push at the runways that tips it [N]."""
    half, side = rig.length / 2, rig.span / 2
    feet = np.array([(x - half, y) for x in rig.posts for y in (-side, side)])
    poses = worst_poses(rig)
    tip = camera(rig, poses)
    hub = np.column_stack([poses[:, 0] - half, poses[:, 1] - side])
    runways = rig.mass - rig.bridge.line * rig.span - rig.trolley - rig.payload - rig.counter - rig.boom_mass(rig.longest)
    back = hub - rig.tail * np.column_stack([np.cos(poses[:, 2]), np.sin(poses[:, 2])])
    middle = np.zeros(len(poses))

    def at(x: np.ndarray, y: np.ndarray, z: float) -> np.ndarray:
        return np.column_stack([x, y, np.full(len(poses), z)])

    boom = (tip[:, :2] + back) / 2
    places = np.stack([
        tip, at(boom[:, 0], boom[:, 1], rig.height), at(hub[:, 0], hub[:, 1], rig.height), at(back[:, 0], back[:, 1], rig.height), at(hub[:, 0], middle, rig.height), at(middle, middle, rig.height), at(middle, middle, rig.height / 2), at(middle, middle, 0.05),
    ], axis=1)  # fmt: skip
    worst, tips = math.inf, math.inf
    for camera_on in (True, False):
        masses = [
            rig.payload if camera_on else 0.0, rig.boom_mass(rig.longest), rig.trolley, rig.counter, rig.bridge.line * rig.span, runways, _posts(design, rig), 2 * len(rig.posts) * bag,
        ]  # fmt: skip
        still, over = footing.around(feet, [], np.zeros((0, 3)), masses, places, np.zeros(1))
        with np.errstate(divide="ignore"):
            worst = min(worst, float(np.where(over > 0, still / np.maximum(over, 1e-300), np.inf).min()))
        tips = min(tips, float((still - over).min()) / rig.height)
    return worst, tips


def _remedies(design: Design, rig: Gantry, needed: float) -> tuple[Remedy, ...]:
    """The smallest bag on every foot that does it, a quarter to spare."""
    for bag in np.arange(design.number("foot.ballast") + 1.0, 61.0):
        factor, tips = _stands(design, rig, float(bag))
        total = rig.mass + _posts(design, rig) + 2 * len(rig.posts) * float(bag)
        if factor >= 1.26 * needed and tips >= 1.26 * footing.knock_default(total * GRAVITY):
            return (Remedy("bag", Words("Put {} on every foot", ((float(bag), "kg"),)), (("foot.ballast", float(bag)),)),)
    return ()
