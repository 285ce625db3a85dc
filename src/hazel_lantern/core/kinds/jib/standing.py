"""Footing: whether the jib stands at every arm angle and slew, with the camera on and off, and when bumped."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.errors import InfeasibleError
from hazel_lantern.core.figure import Given, by_method
from hazel_lantern.core.finding import CLEAR, PEOPLE, Finding, Remedy, Words, judge
from hazel_lantern.core.kinds.base import Context, Report
from hazel_lantern.core.kinds.jib.model import FIXED, Jib
from hazel_lantern.core.mechanics import footing
from hazel_lantern.core.mechanics.safety import safety_class
from hazel_lantern.core.units import GRAVITY

POSES = 31
SPARE = 1.26
HUB = (0.0, 0.0, 0.25)


class Worst(Struct, frozen=True):
    """The least stable pose: what it is, masses and places (n, 3) of the bodies there, lens height."""

    words: str
    masses: list[float]
    at: np.ndarray
    height: float
    footing: footing.Footing


def footing_figures(context: Context, jib: Jib, report: Report) -> None:
    """The least stable of 32 arm angles, any slew, camera on or off: left alone, and with a knock at the camera."""
    needed = safety_class(context.text("safety")).tipping
    knock = footing.knock_default(jib.mass * GRAVITY)
    still, bumped = _worst(jib, 0.0), _worst(jib, knock)
    factor, tips = still.footing.factor, bumped.footing.knock(max(bumped.height, 0.1))
    inputs = (
        context.given("r", "stand.radius", "feet from the centre", "m"), Given("m", jib.mass, "kg", "everything together", "rig.mass"),
        context.given("m_b", "ballast.mass", "ballast", "kg"),
    )  # fmt: skip
    level = ("level firm ground", "rigid stand", "worst over 32 arm angles, every slew, camera on and off")
    report.add(
        by_method("balance.footing", "Footing", factor, "1", "balance", f"stabilising over overturning moment about the weakest edge; {still.words}", inputs, assumptions=level, source="statics 6"),
        by_method("balance.footing_margin", "Foot point inside the feet by", still.footing.distance, "m", "balance", f"margin moment over weight; {still.words}", inputs, assumptions=level, source="statics 6"),
        by_method("balance.tips_at", "A bump tips it at", tips, "N", "balance", f"margin moment over lens height; {bumped.words}", inputs, assumptions=level, source="statics 6"),
    )  # fmt: skip
    state, bump = judge(factor, needed, "at_least", PEOPLE), judge(tips, knock, "at_least", PEOPLE)
    change = _remedies(context, jib, still, bumped, needed) if report.suggest and (state, bump) != (CLEAR, CLEAR) else ()
    report.findings += [
        Finding(
            "balance.stands", "Footing", PEOPLE, state, factor, needed, "at_least", "1", "stand.radius", "balance",
            Words("At its worst (" + still.words + ") it stands with a factor of {}; {} is wanted.", ((factor, "1"), (needed, "1"))), change if state != CLEAR else (),
        ),
        Finding(
            "balance.bump", "Bumped at the camera", PEOPLE, bump, tips, knock, "at_least", "N", "stand.radius", "balance",
            Words("At its worst (" + bumped.words + ") a push of {} tips it; it must stand {}.", ((tips, "N"), (knock, "N"))), change if bump != CLEAR else (),
        ),
    ]  # fmt: skip


def _worst(jib: Jib, knock: float) -> Worst:
    """The pose with the least margin, screened with the circle inside the feet, then worked out for its edges."""
    low, high = jib.limits.low, jib.limits.high
    angles = np.append(np.linspace(low, high, POSES), min(max(0.0, low), high))
    places, lens = jib.places(angles), jib.lens_height(angles)
    turning = np.array([b.frame != FIXED for b in jib.bodies])
    reach = float(np.linalg.norm(jib.feet[0])) * math.cos(math.pi / len(jib.feet))
    found = []
    for camera in (True, False):
        masses = np.array([b.mass if camera or b.name != "camera kit" else 0.0 for b in jib.bodies])
        pull = np.abs(places[:, turning, 0] @ masses[turning])
        lack = (pull - masses.sum() * reach) * GRAVITY + knock * lens
        found.append((float(lack.max()), int(np.argmax(lack)), masses, camera))
    _, index, masses, camera = max(found, key=lambda item: item[0])
    flat = np.column_stack([places[index, :, 0], np.zeros(len(masses)), places[index, :, 1]])
    slew = footing.worst_slew(jib.feet, masses[~turning].tolist(), flat[~turning], (0.0, 0.0), masses[turning].tolist(), flat[turning]).angle
    turn = np.array([[math.cos(slew), math.sin(slew), 0], [-math.sin(slew), math.cos(slew), 0], [0, 0, 1]])
    at = np.where(turning[:, None], flat @ turn, flat)
    words = f"arm at {math.degrees(angles[index]):.0f}°, turned to {math.degrees(slew):.0f}°, camera {'on' if camera else 'off'}"
    return Worst(words, masses.tolist(), at, float(lens[index]), footing.footing(jib.feet, masses.tolist(), at))


def _remedies(context: Context, jib: Jib, still: Worst, bumped: Worst, needed: float) -> tuple[Remedy, ...]:
    """Hang ballast, spread the feet, or do both."""
    found: list[Remedy] = []
    widest, spread = jib.stand.radius_max, context.number("stand.radius")
    bag = _bag(context, still, bumped, needed, jib.feet)
    if 0 < bag <= 80:
        found.append(Remedy("ballast", Words("Hang {} below the hub", ((bag, "kg"),)), (("ballast.mass", bag),)))
    if spread < widest - 1e-6:
        found.append(Remedy("spread", Words("Spread the feet to {}", ((widest, "m"),)), (("stand.radius", widest),)))
        bag = _bag(context, still, bumped, needed, jib.feet * widest / spread)
        if 0 < bag <= 80:
            found.append(Remedy("both", Words("Feet at {}, {} below", ((widest, "m"), (bag, "kg"))), (("stand.radius", widest), ("ballast.mass", bag))))
    return tuple(found)


def _bag(context: Context, still: Worst, bumped: Worst, needed: float, feet: np.ndarray) -> float:
    """Ballast in half kilograms that mends both, the knock growing with the weight; 0 where none would do."""
    more = 0.0
    weakest = footing.footing(feet, bumped.masses, bumped.at)
    out = -weakest.normals[int(np.argmin(weakest.margins))]
    for _ in range(12):
        knock = SPARE * footing.knock_default((sum(bumped.masses) + more) * GRAVITY)
        push: list[footing.Force] = [((float(out[0] * knock), float(out[1] * knock), 0.0), (0.0, 0.0, bumped.height))]
        try:
            more = max(footing.ballast(feet, still.masses, still.at, (), HUB, SPARE * needed), footing.ballast(feet, bumped.masses, bumped.at, push, HUB, 1.0))
        except InfeasibleError:
            return 0.0
        if more > 200:
            return 0.0
    return math.ceil((context.number("ballast.mass") + more) * 2) / 2
