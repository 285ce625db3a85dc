"""Footing: whether the jib stands at every arm angle and slew, with the camera on and off, and when bumped."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from msgspec import Struct

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.jib.design import TWO_HANDS
from hazel_lantern.core.kinds.jib.model import FIXED, TURNING, Jib
from hazel_lantern.core.kinds.shared.standing import bump
from hazel_lantern.core.mechanics import footing
from hazel_lantern.core.mechanics.safety import safety_class
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.figure import Field, Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, STRUCTURE, Remedy, judge, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words, within

POSES, PANS = 31, 48
NEAR = np.linspace(-1.0, 1.0, 9)  # of the step between two coarse poses, looked at around the worst
LOWEST = 0.1  # metres a push is taken to act above the ground at least
SPARE = 1.26
HUB = (0.0, 0.0, 0.25)
HANDS = {"one": 25.0, TWO_HANDS: 60.0}  # newtons sideways at the rear end, workshop judgement
WIND = Formula("0.5*1.225*1.2*A*v**2")
PAN = Formula("M_p/L")


class Worst(Struct, frozen=True):
    """The least stable pose for one question: what it is in words, masses and places (n, 3) of the bodies there, height
    of the push [m].
    """

    words: str
    masses: list[float]
    at: np.ndarray
    height: float
    footing: footing.Footing
    camera: bool


class Around(Struct, frozen=True):
    """The jib at every arm angle (a,) and pan (p,), its camera on or off: masses of its bodies [kg], moments about each
    edge (a, p, edges) [N*m].
    """

    camera: bool
    masses: np.ndarray
    stabilising: np.ndarray
    overturning: np.ndarray

    @property
    def margins(self) -> np.ndarray:
        """Margin moment of the weakest edge (a, p) [N*m]."""
        return np.asarray((self.stabilising - self.overturning).min(axis=-1))

    @property
    def factors(self) -> np.ndarray:
        """Least ratio of stabilising to overturning (a, p); infinite where nothing overturns."""
        with np.errstate(divide="ignore", invalid="ignore"):
            ratio = np.where(self.overturning > 0, self.stabilising / self.overturning, np.inf)
        return np.asarray(ratio.min(axis=-1))


class Everywhere:
    """The jib at every pose; finds the worst of each quantity by itself."""

    def __init__(self, jib: Jib, angles: np.ndarray | None = None, pans: np.ndarray | None = None) -> None:
        low, high = jib.limits.low, jib.limits.high
        self._jib = jib
        coarse = np.append(np.linspace(low, high, POSES), min(max(0.0, low), high))
        self.angles = coarse if angles is None else angles
        places = jib.places(self.angles)
        self.pans = _pans(jib, places) if pans is None else pans
        self._places = np.stack(
            [places[:, :, 0], np.broadcast_to(jib.asides, places.shape[:2]), places[:, :, 1]], axis=-1
        )
        self._turning = np.array([body.frame != FIXED for body in jib.bodies])
        self.lens = jib.lens_height(self.angles)
        self.rear = jib.height - jib.rear * np.sin(self.angles)
        self.cases = self._around()

    def _around(self) -> list[Around]:
        masses, turning = _masses(self._jib), self._turning
        moments = footing.around(
            self._jib.feet,
            masses[0, ~turning].tolist(),
            self._places[0, ~turning],
            masses[:, turning],
            self._places[:, turning],
            self.pans,
        )
        return [Around(camera, *case) for camera, *case in zip((True, False), masses, *moments, strict=True)]

    @property
    def sideways(self) -> np.ndarray:
        """Moment about the ground of each metre a second squared with which a stop slows the lens, camera on and off
        (2, a) [kg*m].
        """
        along, up = self._places[:, self._turning, 0], self._places[:, self._turning, 2]
        reach = np.maximum(self._jib.front * np.cos(self.angles), 1e-6)
        return np.abs([((along * up) @ case.masses[self._turning]) / reach for case in self.cases])

    def worst(self, measure: Measure, height: Height | None = None) -> Worst:
        """Where a measure (a, p) is least over all poses, camera on and off; height: of the push at each angle (a,)
        [m]. Around the worst of the coarse poses it is looked for more closely.
        """
        where, least = self, self.least(measure)
        low, high = self._jib.limits.low, self._jib.limits.high
        for step in (1.0, 1 / 8):
            angles = np.clip(where.angles[least[1]] + step * NEAR * (high - low) / (POSES - 1), low, high)
            fine = Everywhere(self._jib, angles, where.pans[least[2]] + step * NEAR * 2 * math.pi / PANS)
            there = fine.least(measure)
            if there[0] < least[0]:
                where, least = fine, there
        return where.told(least, height)

    def least(self, measure: Measure) -> tuple[float, int, int, Around]:
        """The least value, its angle and pan by number, and the case it is of."""
        found = []
        for case in self.cases:
            values = measure(case, self)
            row, column = np.unravel_index(int(np.argmin(values)), values.shape)
            found.append((float(values[row, column]), int(row), int(column), case))
        return min(found, key=lambda item: item[0])

    def told(self, least: tuple[float, int, int, Around], height: Height | None) -> Worst:
        _, row, column, case = least
        pan, at = float(self.pans[column]), self._places[row].copy()
        turn = np.array([[math.cos(pan), math.sin(pan), 0], [-math.sin(pan), math.cos(pan), 0], [0, 0, 1]])
        at[self._turning] = at[self._turning] @ turn
        angle, heading = math.degrees(self.angles[row]), math.degrees(pan) % 360
        words = f"arm at {angle:.0f}°, turned to {heading:.0f}°, camera {'on' if case.camera else 'off'}".replace(
            "-", "−"
        )
        stood = footing.footing(self._jib.feet, case.masses.tolist(), at)
        high = 0.0 if height is None else float(height(self)[row])
        return Worst(words, case.masses.tolist(), at, high, stood, case.camera)

    def weakest(self, height: Height) -> Worst:
        """Where the least push at so much height (a,) [m] tips it."""

        def high(of: Everywhere) -> np.ndarray:
            return np.maximum(height(of), LOWEST)

        return self.worst(lambda case, of: case.margins / high(of)[:, None], high)


Measure = Callable[[Around, Everywhere], np.ndarray]
Height = Callable[[Everywhere], np.ndarray]


def _masses(jib: Jib) -> np.ndarray:
    """Of all bodies, the camera on and off (2, bodies) [kg]."""
    on = np.array([body.mass for body in jib.bodies])
    return np.stack([on, np.where([body.name == "camera kit" for body in jib.bodies], 0.0, on)])


def _pans(jib: Jib, places: np.ndarray) -> np.ndarray:
    """Pans all round, and those that bring all that turns, its weight off to one side, straight over an edge, with the
    arm (a, bodies, 2) flat, low and high, camera on and off.
    """
    corners = footing.support_polygon(jib.feet)
    along = np.roll(corners, -1, axis=0) - corners
    normals = np.arctan2(along[:, 0], -along[:, 1])
    turning = np.array([body.frame != FIXED for body in jib.bodies])
    aside = [
        math.atan2(float(jib.asides[turning] @ load), float(places[row, turning, 0] @ load))
        for load in _masses(jib)[:, turning]
        for row in (0, len(places) // 2, len(places) - 1)
    ]
    over = (normals[:, None] - np.array([0.0, *aside])).ravel()
    every = [np.linspace(0, 2 * np.pi, PANS, endpoint=False), over % (2 * np.pi), (over + np.pi) % (2 * np.pi)]
    return np.unique(np.concatenate(every))


def footing_figures(design: Design, suggest: bool, jib: Jib) -> Told:
    """Left alone, bumped at the camera in the wind, steered at the rear: each quantity at its own worst of 32 arm
    angles, all pans, camera on and off.
    """
    tell, everywhere = Teller(), Everywhere(jib)
    needed = safety_class(design.text("safety")).tipping
    knock = bump(design, jib.mass)
    wind = footing.wind_force(design.number("wind.speed"), design.number("wind.area"))
    hands = HANDS[design.text("hands")]
    still, spare = (
        everywhere.worst(lambda case, _: case.factors),
        everywhere.worst(lambda case, _: case.margins / case.masses.sum()),
    )
    bumped, steered = everywhere.weakest(lambda of: of.lens), everywhere.weakest(lambda of: of.rear)
    factor, tips, steers = (
        still.footing.factor,
        bumped.footing.knock(bumped.height) - wind,
        steered.footing.knock(steered.height),
    )
    inputs = (
        design.given("r", "stand.radius", "feet from the centre", "m"),
        Given("m", jib.mass, "kg", "everything together", "rig.mass"),
        design.given("m_b", "ballast.mass", "ballast", "kg"),
    )
    level = ("level firm ground", "rigid stand", "each at its worst over 32 arm angles, every pan, camera on and off")
    tell.add(
        by_method(
            "balance.footing",
            "Footing",
            factor,
            "1",
            f"stabilising over overturning moment about the weakest edge; {still.words}",
            inputs,
            assumptions=level,
            source="statics 6",
        ),
        by_method(
            "balance.footing_margin",
            "Foot point inside the feet by",
            spare.footing.distance,
            "m",
            f"margin moment over weight; {spare.words}",
            inputs,
            assumptions=level,
            source="statics 6",
        ),
        by_method(
            "balance.tips_at",
            "A bump tips it at",
            tips,
            "N",
            f"margin moment over lens height, less the wind; {bumped.words}",
            (*inputs, design.given("v", "wind.speed", "wind", "m/s")),
            assumptions=level,
            source="statics 6",
        ),
        by_method(
            "balance.steer_at",
            "A push at the rear tips it at",
            steers,
            "N",
            f"margin moment over the height of the rear end; {steered.words}",
            inputs,
            assumptions=level,
            source="statics 6",
        ),
    )
    if wind > 0:
        tell.add(
            by_formula(
                "balance.wind",
                "Wind pushes with",
                "N",
                WIND,
                (
                    design.given("v", "wind.speed", "wind", "m/s"),
                    design.given("A", "wind.area", "area at the camera", "m^2:floor"),
                ),
                assumptions=("from the worst side, at lens height",),
                source="statics 6",
            )
        )
    _verdicts(tell, design, suggest, jib, (still, bumped, steered), (needed, knock, hands), wind)
    tell.take(_pan(design, jib, knock))
    _pan_stop(tell, design, everywhere)
    return tell.told()


def _pan_stop(tell: Teller, design: Design, everywhere: Everywhere) -> None:
    """How hard a pan may be stopped before the rig's own weight tips it, camera on and off,
    at any arm angle and pan."""
    margins = np.array([case.margins.min(axis=1) for case in everywhere.cases])
    holds = float((margins / np.maximum(everywhere.sideways, 1e-9)).min())
    stop = design.number("pan.stop")
    tell.add(
        by_method(
            "balance.stop_at",
            "A pan stopped hard tips it at",
            holds,
            "m/s^2",
            "margin of the weakest edge over what all that turns pushes sideways, each as it lies from the axis, "
            "times its "
            "height",
            (design.given("a", "pan.stop", "hard stop at the lens", "m/s^2"),),
            source="statics 6",
        )
    )
    softer = math.floor(holds / SPARE * 100) / 100
    tell.hold(
        "balance.stop_at",
        "balance.stopped",
        "A pan stopped hard",
        PEOPLE,
        "pan.stop",
        "A pan stopped with {} at the lens tips it; its hard stop is {}."
        if holds > 0
        else "Somewhere it falls over by itself, stopped or not.",
        at_least=stop,
        remedies=(set_one("softer", "Stop a pan with {}", "pan.stop", softer, "m/s^2"),) if softer >= 0.05 else (),
    )


def _verdicts(
    tell: Teller,
    design: Design,
    suggest: bool,
    jib: Jib,
    worst: tuple[Worst, Worst, Worst],
    asked: tuple[float, float, float],
    wind: float,
) -> None:
    """Whether it stands left alone, bumped and steered, against the factor and the pushes [N] asked for."""
    (still, bumped, steered), (needed, knock, hands) = worst, asked
    gust = " in this wind" if wind > 0 else ""
    end = "camera" if bumped.camera else "bare head"
    tips, steers = tell.value("balance.tips_at"), tell.value("balance.steer_at")
    said: tuple[str | Words, ...] = (
        "At its worst (" + still.words + ") it stands with a factor of {}; {} is wanted.",
        _pushed(bumped.words, f"a push of {{}} at the {end} tips it" + gust, tips, "it must stand {}", knock),
        _pushed(steered.words, "a push of {} at the rear end tips it", steers, "hands on it give {}", hands),
    )
    rows = (
        ("balance.footing", "balance.stands", "Footing", "stand.radius"),
        (
            "balance.tips_at",
            "balance.bump",
            "Bumped at the camera" if bumped.camera else "Bumped, camera off",
            "stand.radius",
        ),
        ("balance.steer_at", "balance.steer", "Steered at the rear", "hands"),
    )
    stands = all(
        judge(tell.value(row[0]), least, "at_least", PEOPLE) == CLEAR for row, least in zip(rows, asked, strict=True)
    )
    change = _remedies(design, jib, still, bumped, needed, wind) if suggest and not stands else ()
    for (figure, key, title, where), words, least in zip(rows, said, asked, strict=True):
        tell.hold(figure, key, title, PEOPLE, where, words, at_least=least, remedies=change)


def _pushed(where: str, tips: str, least: float, asked: str, push: float) -> Words:
    """A sentence on a push; a rig that falls by itself is told so."""
    if least <= 0:
        return Words(f"At its worst ({where}) it falls over by itself; {asked}.", ((push, "N"),))
    return Words(f"At its worst ({where}) {tips}; {asked}.", ((least, "N"), (push, "N")))


def _pan(design: Design, jib: Jib, knock: float) -> Told:
    """What the arm pans on: how hard it turns, and the tilting moment it must take."""
    tell = Teller()
    worst = _tilts(jib, knock)
    tell.add(
        by_formula(
            "balance.pan",
            "Push at the camera to pan",
            "N",
            PAN,
            (
                Given("M_p", jib.pan.friction, "N*m", f"friction of the {jib.pan.name.lower()}", "pan.bearing"),
                design.given("L", "arm.front", "front arm", "m"),
            ),
            assumptions=("arm level",),
            source="lever",
        ),
        by_method(
            "balance.pan_moment",
            "Tilts what it pans on with",
            worst,
            "N*m",
            "arm out of balance, camera on and off, with a bump at lens height",
            (Given("F", knock, "N", "bump", "balance.tips_at"), design.given("L", "arm.front", "front arm", "m")),
            source="statics 6",
        ),
    )
    stronger = min(
        (t for t in design.catalogue.turntables.values() if t.moment >= 1.26 * worst),
        key=lambda t: (t.mass, t.id),
        default=None,
    )
    tell.hold(
        "balance.pan_moment",
        "balance.pan_strong",
        "What it pans on",
        STRUCTURE,
        "pan.bearing",
        f"The {jib.pan.name.lower()} is tilted with up to {{}}; it takes {{}}.",
        at_most=jib.pan.moment,
        remedies=(set_one("pan", f"Use a {within(stronger.name)}", "pan.bearing", stronger.id),) if stronger else (),
    )
    return tell.told()


def _tilts(jib: Jib, knock: float) -> float:
    """The largest moment that tilts what the arm pans on [N*m]."""
    arms = [k for k, body in enumerate(jib.bodies) if body.frame not in (FIXED, TURNING)]
    angles = np.linspace(jib.limits.low, jib.limits.high, POSES)
    places, lens = jib.places(angles), jib.lens_height(angles)
    worst = 0.0
    for camera in (True, False):
        masses = np.array([jib.bodies[k].mass if camera or jib.bodies[k].name != "camera kit" else 0.0 for k in arms])
        aside = float(jib.asides[arms] @ masses)
        tilting = np.hypot(places[:, arms, 0] @ masses, aside) * GRAVITY + knock * np.maximum(lens - jib.foot, 0.0)
        worst = max(worst, float(tilting.max()))
    return worst


def safe_map(design: Design, jib: Jib) -> Field:
    """Use of the footing over pan and lens height: 1 where it just stands a bump or its factor, camera on or off,
    whichever is worse.
    """
    pans, angles = np.linspace(-math.pi, math.pi, 73), np.linspace(jib.limits.low, jib.limits.high, 28)
    places, heights = jib.places(angles), jib.lens_height(angles)
    cgs = np.stack([places[:, :, 0], np.broadcast_to(jib.asides, places.shape[:2]), places[:, :, 1]], axis=-1)
    turning = np.array([b.frame != FIXED for b in jib.bodies])
    needed, push = (
        safety_class(design.text("safety")).tipping,
        bump(design, jib.mass) + footing.wind_force(design.number("wind.speed"), design.number("wind.area")),
    )
    masses = _masses(jib)
    still, over = footing.around(
        jib.feet, masses[0, ~turning].tolist(), cgs[0, ~turning], masses[:, turning], cgs[:, turning], pans
    )
    left = np.maximum(still - over, 1e-9)
    bumped, alone = push * heights[:, None, None] / left, needed * over / np.maximum(still, 1e-9)
    use = np.maximum(bumped, alone).max(axis=(0, -1))
    return Field(
        "balance.map", "Where it stands: pan against lens height, bumped or left alone", pans, heights, use, "rad", "m"
    )


def _remedies(design: Design, jib: Jib, still: Worst, bumped: Worst, needed: float, wind: float) -> tuple[Remedy, ...]:
    """Hang ballast, spread the feet, or do both."""
    found: list[Remedy] = []
    widest, spread = jib.stand.radius_max, design.number("stand.radius")
    bag = _bag(design, still, bumped, needed, wind, jib.feet)
    if 0 < bag <= 80:
        found.append(set_one("ballast", "Hang {} below the hub", "ballast.mass", bag, "kg"))
    if spread < widest - 1e-6:
        found.append(set_one("spread", "Spread the feet to {}", "stand.radius", widest, "m"))
        bag = _bag(design, still, bumped, needed, wind, jib.feet * widest / spread)
        if 0 < bag <= 80:
            found.append(
                Remedy(
                    "both",
                    Words("Feet at {}, {} below", ((widest, "m"), (bag, "kg"))),
                    (("stand.radius", widest), ("ballast.mass", bag)),
                )
            )
    return tuple(found)


def _bag(design: Design, still: Worst, bumped: Worst, needed: float, wind: float, feet: np.ndarray) -> float:
    """Ballast in half kilograms that mends both, the knock growing with the weight; 0 where none would do."""
    more = 0.0
    weakest = footing.footing(feet, bumped.masses, bumped.at)
    out = -weakest.normals[int(np.argmin(weakest.margins))]
    for _ in range(12):
        knock = wind + SPARE * bump(design, sum(bumped.masses) + more)
        push: list[footing.Force] = [((float(out[0] * knock), float(out[1] * knock), 0.0), (0.0, 0.0, bumped.height))]
        try:
            more = max(
                footing.ballast(feet, still.masses, still.at, (), HUB, SPARE * needed),
                footing.ballast(feet, bumped.masses, bumped.at, push, HUB, 1.0),
            )
        except InfeasibleError:
            return 0.0
        if more > 200:
            return 0.0
    return math.ceil((design.number("ballast.mass") + more) * 2) / 2
