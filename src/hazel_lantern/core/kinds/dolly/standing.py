"""Whether a dolly stays on its wheels: left alone, bumped at the camera, and stopped hard on its slope."""

from __future__ import annotations

import math
from contextlib import suppress

import numpy as np

from hazel_lantern.core.kinds.base import Design, Limit
from hazel_lantern.core.kinds.dolly.design import STRAPPED, TRIPOD
from hazel_lantern.core.kinds.dolly.model import Dolly
from hazel_lantern.core.kinds.rail.limits import SAFE, limits
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.kinds.shared.stand import stand_fits
from hazel_lantern.core.kinds.shared.standing import bump, standing_findings
from hazel_lantern.core.mechanics import footing, platform
from hazel_lantern.core.mechanics.safety import safety_class
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import BUILD, CLEAR, PEOPLE, STOP, STRUCTURE, Finding, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

LASHING = 1000.0  # newtons that a narrow strap with a buckle is good for; workshop judgement
LOW = 0.4  # metres above the pipes that a camera on the deck itself may sit at; workshop judgement


def standing_figures(design: Design, suggest: bool, rail: Straight, dolly: Dolly) -> Told:
    """Tipping over the wheels in every way it may be pushed, and what stands on the deck."""
    tell = Teller()
    needed, knock = safety_class(design.text("safety")).tipping, bump(design, rail.moving)
    try:
        stops = _tips_from(rail)
    except InfeasibleError:
        tell.findings.append(_falls(design, suggest, rail))
        return tell.told()
    kit = rail.moving - sum(one.mass for one in dolly.borne)
    masses = [*(one.mass for one in dolly.borne), kit]
    places = [one.at for one in dolly.borne]
    places.append((rail.cg * rail.moving - sum(one.mass * one.at for one in dolly.borne)) / kit)
    stood = footing.footing(rail.wheels, masses, _as_plumb(rail, np.array(places)))
    pushed = stood.knock(max(0.1, float(rail.lens[2])))
    given = (
        Given("m", rail.moving, "kg", "all that rolls", "kit"),
        Given("h", float(rail.cg[2]), "m", "its centre above the pipes", "camera.rise"),
        Given("c", rail.wheelbase, "m", "wheels apart, along", rail.base_key),
        Given("g", rail.spacing, "m", "gauge", "rail.spacing"),
    )
    tell.add(
        by_method("balance.tips_from", "Speeding up or stopping tips it from", stops, "m/s^2", "foot of the weight at the edge of its wheels, either way on the slope", given, source="dynamics 6.1", headline=True),
        by_method("balance.footing", "Footing", stood.factor, "1", "stabilising over overturning moment about the weakest edge of its wheels", given, source="statics 6"),
        by_method("balance.tips_at", "A push at the lens that tips it", pushed, "N", "margin about the weakest edge over the lens height", given, source="statics 6"),
    )  # fmt: skip
    mend = _mend(design, rail) if suggest else ()
    tell.findings += standing_findings(
        stood.factor, needed, pushed, knock, where="On its track", field="rail.spacing", mend=mend,
        bumped=("Bumped at the camera", "A push of {} at the lens tips it; it must stand {}."),
    )  # fmt: skip
    brake = design.number("push.brake")
    softer = math.floor(stops / (1.26 * SAFE) * 100) / 100
    tell.hold(
        "balance.tips_from", "balance.braked", "Its own hard stop", PEOPLE, "push.brake",
        "It tips when stopped with {}; one and a half times its hard stop is {}.", at_least=SAFE * brake,
        remedies=(
            *((set_one("softer", "Stop with {} at most", "push.brake", softer, "m/s^2"),) if 0 < softer < brake else ()),
            *mend,
        ),
    )  # fmt: skip
    tell.take(_tripod(design, dolly, knock))
    return tell.told()


def _as_plumb(rail: Straight, places: np.ndarray) -> np.ndarray:
    """Places (n, 3) on the deck, moved so that their feet square to the track are where plumb puts them [m]."""
    moved = places.copy()
    moved[:, 0] -= places[:, 2] * math.tan(rail.slope)
    return moved


def _tips_from(rail: Straight) -> float:
    """The least acceleration along the track, either way, that tips it [m/s^2]. Raises InfeasibleError at rest."""
    return min(platform.tips_at(rail.wheels, rail.cg.tolist(), rail.slope, (way, 0.0)) for way in (1.0, -1.0))


def _falls(design: Design, suggest: bool, rail: Straight) -> Finding:
    words = Words("Its weight lies outside its wheels: it falls over by itself.")
    mend = _mend(design, rail) if suggest else ()
    return Finding("balance.stands", "Footing", PEOPLE, STOP, "camera.aside", words, 0.0, 1.0, "at_least", "1", mend)


def _mend(design: Design, rail: Straight) -> tuple[Remedy, ...]:
    """Weight over the middle, wider, longer, lower."""
    number, found = design.number, []
    middle = [round(float(rail.mount[k] - rail.cg[k] / rail.follows), 3) for k in (0, 1)]
    if max(abs(float(v)) for v in rail.cg[:2]) > 0.02 and max(map(abs, middle)) <= 0.5:
        changes = (("camera.ahead", middle[0]), ("camera.aside", middle[1]))
        found.append(Remedy("over", Words("Bring the weight over the middle"), changes))
    for key, what, most in (("rail.spacing", "A gauge of {}", 1.5), ("carriage.wheelbase", "Wheels {} apart", 2.0)):
        wider = round(min(most, 1.3 * number(key)), 3)
        if wider > number(key):
            found.append(set_one(key.split(".")[1], what, key, wider, "m"))
    heavier = min(150.0, number("ballast.mass") + 20.0)
    if heavier > number("ballast.mass"):
        found.append(set_one("ballast", "Ballast of {}", "ballast.mass", heavier, "kg"))
    return tuple(found)


def _tripod(design: Design, dolly: Dolly, knock: float) -> Told:
    """What the tripod carries, whether it stays in its cups, and how high and wide it stands."""
    if design.text("camera.on") != TRIPOD:
        return _low(design)
    tell, way = Teller(), dolly.way
    carried = way.moving - sum(one.mass for one in dolly.borne)
    tell.add(
        by_method("balance.carried", "The tripod carries", carried, "kg", "the camera kit", (Given("W", carried * GRAVITY, "N", "its weight", "kit"),), source="sum")
    )  # fmt: skip
    tell.hold(
        "balance.carried", "balance.limit", "Load limit of the tripod", STRUCTURE, "stand",
        "The tripod carries {}; it is good for {}.", at_most=dolly.stand.load_limit,
    )  # fmt: skip
    _in_its_cups(tell, design, dolly, carried, knock)
    high = (design.given("z", "camera.rise", "mount above the pipes", "m"),)
    above = float(way.mount[2]) - dolly.top
    tell.take(
        stand_fits(
            design, dolly.stand, [above], "mount above the pipes less the deck", high, ("camera.rise", "Mount at {}")
        )
    )
    return tell.told()


def _low(design: Design) -> Told:
    """A camera on the deck itself has nothing to carry it high."""
    high = design.number("camera.rise")
    words = Words(
        "The camera sits on the deck, its mount {} above the pipes; up to {} needs no tripod.",
        ((high, "m"), (LOW, "m")),
    )
    mend = (
        set_one("low", "Mount at {}", "camera.rise", LOW / 2, "m"),
        set_one("tripod", "Put it on a tripod", "camera.on", TRIPOD),
    )
    too_high = high > LOW
    return Told(
        (),
        (
            Finding(
                "rig.low", "Camera on the deck", BUILD, STOP if too_high else CLEAR, "camera.rise", words, high, LOW,
                "at_most", "m", mend if too_high else (),
            ),
        ),
    )  # fmt: skip


def _in_its_cups(tell: Teller, design: Design, dolly: Dolly, kit: float, knock: float) -> None:
    """What lifts a tripod that only stands in its cups: a push at the lens, and the dolly's own hard stop."""
    way, strapped = dolly.way, design.text("stand.held") == STRAPPED
    foot = np.array([way.mount[0], way.mount[1], dolly.top])
    camera = (way.cg * way.moving - sum(one.mass * one.at for one in dolly.borne)) / kit - foot
    stand = np.array([0.0, 0.0, dolly.stand.cg_height * (float(way.mount[2]) - dolly.top)])
    masses = np.array([dolly.stand.mass, kit])
    places = np.array([stand, camera])
    stood = footing.footing(dolly.feet, masses.tolist(), _as_plumb(way, places))
    high = float(way.lens[2]) - dolly.top
    stop = float(masses.sum()) * SAFE * design.number("push.brake") * float(masses @ places[:, 2] / masses.sum()) / high
    asked = max(knock, stop)
    tell.add(
        by_method(
            "balance.cups", "A push at the lens lifts the tripod out", stood.knock(high), "N",
            "camera kit and tripod about the weakest edge of its feet, over the lens height, without a strap",
            (
                Given("m", float(masses.sum()), "kg", "camera kit and tripod", "kit"),
                design.given("r", "stand.radius", "feet from its centre", "m"),
                Given("h", high, "m", "lens above the deck", "camera.rise"),
            ),
            source="statics 6",
        )
    )  # fmt: skip
    if strapped:
        lever = design.number("stand.radius") / 2  # from the middle of three feet to the line between two
        tell.add(
            by_method(
                "balance.strap", "Its strap must hold", max(0.0, asked - stood.knock(high)) * high / lever, "N",
                "what a bump or a hard stop asks beyond that, about the line between two feet",
                (tell.given("F", "balance.cups"), Given("F_b", asked, "N", "bump or hard stop at the lens", "push.brake")),
                source="statics 6",
            )
        )  # fmt: skip
        tell.hold(
            "balance.strap", "balance.in_cups", "Tripod stays in its cups", PEOPLE, "stand.radius",
            "Bumped or stopped hard, the tripod pulls its strap with {}; a narrow lashing strap is good for {}.",
            at_most=LASHING,
        )  # fmt: skip
        return
    tell.hold(
        "balance.cups", "balance.in_cups", "Tripod stays in its cups", PEOPLE, "stand.held",
        "A push of {} at the lens lifts it out of its cups; a bump or a hard stop asks {}.",
        at_least=asked,
        remedies=(set_one("strap", "Strap it down to the deck", "stand.held", STRAPPED),),
    )  # fmt: skip


def dolly_limits(design: Design, dolly: Dolly) -> tuple[Limit, ...]:
    """The hard stop it is judged by, and tipping over its wheels."""
    found = list(limits(design, dolly.way)[:1])
    with suppress(InfeasibleError):  # what falls by itself is a finding, and has no bound
        found.append(Limit("tipping over its wheels", _tips_from(dolly.way) / SAFE, "carriage.wheelbase"))
    return tuple(found)
