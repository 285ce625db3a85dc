"""Footing: whether the jib stands at every arm angle and slew, with the camera on and off, and when bumped."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.errors import InfeasibleError
from hazel_lantern.core.figure import Given, by_method
from hazel_lantern.core.finding import PEOPLE, Finding, Remedy, Words, judge
from hazel_lantern.core.kinds.base import Context, Report
from hazel_lantern.core.kinds.jib.model import FIXED, Jib
from hazel_lantern.core.mechanics import footing
from hazel_lantern.core.mechanics.safety import safety_class
from hazel_lantern.core.units import GRAVITY

POSES = 31


def footing_figures(context: Context, jib: Jib, report: Report) -> None:
    """The least stable of 31 arm angles, any slew, camera on or off, with a knock at the camera."""
    safety = safety_class(context.text("safety"))
    angles = np.append(np.linspace(jib.limits.low, jib.limits.high, POSES), 0.0 if jib.limits.low <= 0 <= jib.limits.high else jib.limits.low)
    places = jib.places(angles)
    masses = np.array([b.mass for b in jib.bodies])
    knock = footing.knock_default(jib.mass * GRAVITY)
    lens = jib.lens_height(angles)
    corners = footing.support_polygon(jib.feet)
    reach = np.linalg.norm(corners, axis=1).min() * math.cos(math.pi / len(corners))
    worst, found = -math.inf, (0, True)
    for camera in (True, False):
        carried = np.where([camera or b.name != "camera kit" for b in jib.bodies], masses, 0.0)
        turning = np.array([b.frame != FIXED for b in jib.bodies])
        pull = np.abs(places[:, turning, 0] @ carried[turning])
        lack = pull * GRAVITY + knock * lens - carried.sum() * GRAVITY * reach
        if lack.max() > worst:
            worst, found = float(lack.max()), (int(np.argmax(lack)), camera)
    index, camera = found
    masses_now, at, slew = _turned(jib, places[index], camera)
    still = footing.footing(jib.feet, masses_now, at)
    height = float(lens[index])
    out = -still.normals[int(np.argmin(still.margins))] * knock
    push: list[footing.Force] = [((float(out[0]), float(out[1]), 0.0), (0.0, 0.0, height))]
    bumped = footing.footing(jib.feet, masses_now, at, push)
    factor, distance, standing = bumped.factor, bumped.distance, still.factor
    where = f"arm at {math.degrees(angles[index]):.0f}°, turned to {math.degrees(slew):.0f}°, camera {'on' if camera else 'off'}"
    inputs = (
        context.given("r", "stand.radius", "feet from the centre", "m"), Given("m", jib.mass, "kg", "everything together", "rig.mass"),
        context.given("m_b", "ballast.mass", "ballast", "kg"), Given("F", knock, "N", "a knock at the camera, a tenth of the weight and at least 20 N"),
    )  # fmt: skip
    level = ("level firm ground", "rigid stand", "worst over 32 arm angles, every slew, camera on and off")
    tips = still.knock(max(height, 0.1))
    report.add(
        by_method("balance.footing", "Footing, bumped", factor, "1", "balance", f"stabilising over overturning about the weakest edge; {where}", inputs, assumptions=level, source="statics 6"),
        by_method("balance.footing_still", "Footing, left alone", standing, "1", "balance", f"the same without the knock; {where}", inputs, assumptions=level, source="statics 6"),
        by_method("balance.footing_margin", "Foot point inside the feet by", distance, "m", "balance", f"margin moment over weight; {where}", inputs, assumptions=level, source="statics 6"),
        by_method("balance.tips_at", "A bump tips it at", tips, "N", "balance", f"margin moment over lens height; {where}", inputs, assumptions=level, source="statics 6"),
    )  # fmt: skip
    needed = safety.tipping
    report.findings.append(Finding(
        "balance.stands", "Footing", PEOPLE, judge(factor, needed, "at_least", PEOPLE), factor, needed, "at_least", "1", "stand.radius", "balance",
        Words("At its worst (" + where + ") a bump of {} leaves a factor of {}; {} is wanted.", ((knock, "N"), (factor, "1"), (needed, "1"))),
        _remedies(context, jib, masses_now, at, push, needed) if factor < 1.25 * needed else (),
    ))  # fmt: skip


def _turned(jib: Jib, places: np.ndarray, camera: bool) -> tuple[list[float], np.ndarray, float]:
    """Masses and places (n, 3) at the slew that is worst for this pose, and that slew."""
    masses = [b.mass if camera or b.name != "camera kit" else 0.0 for b in jib.bodies]
    fixed = np.array([b.frame == FIXED for b in jib.bodies])
    flat = np.column_stack([places[:, 0], np.zeros(len(places)), places[:, 1]])
    m = np.array(masses)
    slew = footing.worst_slew(jib.feet, m[fixed].tolist(), flat[fixed], (0.0, 0.0), m[~fixed].tolist(), flat[~fixed]).angle
    turn = np.array([[math.cos(slew), math.sin(slew), 0], [-math.sin(slew), math.cos(slew), 0], [0, 0, 1]])
    return masses, np.where(fixed[:, None], flat, flat @ turn), slew


def _remedies(context: Context, jib: Jib, masses: list[float], at: np.ndarray, push: list[footing.Force], needed: float) -> tuple[Remedy, ...]:
    """Hang ballast, spread the feet, or do both."""
    found: list[Remedy] = []
    bag = _bag(context, jib, masses, at, push, needed, jib.feet)
    if 0 < bag <= 80:
        found.append(Remedy("ballast", Words("Hang {} below the hub", ((bag, "kg"),)), (("ballast.mass", bag),)))
    widest = jib.stand.radius_max
    if context.number("stand.radius") < widest - 1e-6:
        spread = ("stand.radius", widest)
        found.append(Remedy("spread", Words("Spread the feet to {}", ((widest, "m"),)), (spread,)))
        bag = _bag(context, jib, masses, at, push, needed, jib.feet * widest / context.number("stand.radius"))
        if 0 < bag <= 80:
            found.append(Remedy("both", Words("Feet at {}, {} below", ((widest, "m"), (bag, "kg"))), (spread, ("ballast.mass", bag))))
    return tuple(found)


def _bag(context: Context, jib: Jib, masses: list[float], at: np.ndarray, push: list[footing.Force], needed: float, feet: np.ndarray) -> float:
    """Ballast in half kilograms, the knock growing with the weight; 0 where none would do."""
    total, more = sum(masses), 0.0
    (force, point), = push
    size = math.hypot(force[0], force[1])
    for _ in range(12):
        share = footing.knock_default((total + more) * GRAVITY) / size
        grown: list[footing.Force] = [((force[0] * share, force[1] * share, 0.0), point)]
        try:
            more = footing.ballast(feet, masses, at, grown, (0.0, 0.0, 0.25), 1.26 * needed)
        except InfeasibleError:
            return 0.0
        if more > 200:
            return 0.0
    return math.ceil((context.number("ballast.mass") + more) * 2) / 2
