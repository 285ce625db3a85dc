"""Whether a dolly stays on its wheels: left alone, bumped at the camera, and stopped hard on its slope."""

from __future__ import annotations

import math
from contextlib import suppress

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Design, Limit
from hazel_lantern.core.kinds.dolly.deck import BRACE, HANDLE, REACHES, rides
from hazel_lantern.core.kinds.dolly.inputs import DECKED, NOBODY, STRAPPED, TRIPOD
from hazel_lantern.core.kinds.dolly.model import Dolly
from hazel_lantern.core.kinds.rail.limits import SAFE, limits
from hazel_lantern.core.kinds.rail.model import Carriage
from hazel_lantern.core.kinds.shared.inputs import BY_LOCK
from hazel_lantern.core.kinds.shared.stand import stand_fits
from hazel_lantern.core.kinds.shared.standing import bump, standing_findings
from hazel_lantern.core.kinds.shared.works import bears, works
from hazel_lantern.core.mechanics import footing, platform
from hazel_lantern.core.mechanics.safety import safety_class
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import BUILD, CLEAR, PEOPLE, STOP, STRUCTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

LASHING = 1000.0  # newtons that a narrow strap with a buckle is good for; workshop judgement
HARD_PUSH = 200.0  # newtons at a handle, workshop judgement
LOW = 0.4  # metres above the pipes that a camera on the deck itself may sit at; workshop judgement


def standing_figures(design: Design, move: Move, suggest: bool, rail: Carriage, dolly: Dolly, pushes: Told) -> Told:
    """Tipping over the wheels in every way it may be pushed, and what stands on the deck."""
    tell = Teller()
    needed, knock = safety_class(design.text("safety")).tipping, bump(design, rail.moving)
    try:
        stops = _tips_from(rail)
    except InfeasibleError:
        tell.findings.append(_falls(design, suggest, rail))
        return tell.told()
    masses, places = dolly.masses
    stood = footing.footing(rail.wheels, masses.tolist(), _as_plumb(rail, places))
    pushed = stood.knock(max(0.1, float(rail.lens[2])))
    given = (
        Given("m", rail.moving, "kg", "all that rolls", "kit"),
        Given("h", float(rail.cg[2]), "m", "its centre above the pipes", "camera.rise"),
        Given("c", rail.wheelbase, "m", "wheels apart, along", rail.base_key),
        Given("g", rail.spacing, "m", "gauge", "rail.spacing"),
    )
    tell.add(
        by_method(
            "balance.tips_from",
            "Speeding up or stopping tips it from",
            stops,
            "m/s^2",
            "foot of the weight at the edge of its wheels, either way on the slope",
            given,
            source="dynamics 6.1",
            headline=True,
        ),
        by_method(
            "balance.footing",
            "Footing",
            stood.factor,
            "1",
            "stabilising over overturning moment about the weakest edge of its wheels",
            given,
            source="statics 6",
        ),
        by_method(
            "balance.tips_at",
            "A push at the lens that tips it",
            pushed,
            "N",
            "margin about the weakest edge over the lens height",
            given,
            source="statics 6",
        ),
    )
    mend = _mend(design, rail) if suggest else ()
    tell.findings += standing_findings(
        stood.factor,
        needed,
        pushed,
        knock,
        where="On its wheels",
        field="rail.spacing",
        mend=mend,
        bumped=("Bumped at the camera", "A push of {} at the lens tips it; it must stand {}."),
    )
    brake = design.number("push.brake")
    softer = math.floor(stops / (1.26 * SAFE) * 100) / 100
    tell.hold(
        "balance.tips_from",
        "balance.braked",
        "Its own hard stop",
        PEOPLE,
        "push.brake",
        "It tips when stopped with {}; one and a half times its hard stop is {}.",
        at_least=SAFE * brake,
        remedies=(
            *(
                (set_one("softer", "Stop with {} at most", "push.brake", softer, "m/s^2"),)
                if 0 < softer < brake
                else ()
            ),
            *mend,
        ),
    )
    _tripped(tell, move, dolly, mend)
    if design.variant in DECKED:
        if design.number("handle.height"):
            _by_handle(tell, design, dolly, stood, pushes, mend)
        if rides(design):
            tell.findings.append(_rider(tell, design, dolly))
    tell.take(_tripod(design, dolly, knock))
    return tell.told()


def _tripped(tell: Teller, move: Move, dolly: Dolly, mend: tuple[Remedy, ...]) -> None:
    """A stone, a cable or an end stop before its wheels, at the move's speed and either way."""
    way = dolly.way
    up = float(way.cg[2])
    if up <= 0:
        return
    trips = min(_trips(way, sign) for sign in (1.0, -1.0))
    fastest = way.way_of(move) * move.profile.peak_speed
    tell.add(
        by_method(
            "balance.trips_from",
            "Stopped dead at its wheels it goes over from",
            trips,
            "m/s",
            "momentum about the wheels against the lift of its weight over them, the worse way",
            (
                Given("h", up, "m", "its centre above the track", "camera.rise"),
                Given("c", way.wheelbase, "m", "wheels apart, along", way.base_key),
            ),
            assumptions=("all mass in one point",),
            source="momentum and energy",
        )
    )
    if not math.isfinite(fastest) or fastest <= 0:
        return
    tell.hold(
        "balance.trips_from",
        "balance.trips",
        "A stone before its wheels",
        PEOPLE,
        "shot.time",
        "Stopped dead by a stone or an end stop it goes over from {}; one and a half times the move's speed is {}.",
        at_least=SAFE * fastest,
        remedies=mend,
    )


def _trips(way: Carriage, sign: float) -> float:
    """Over each edge of its wheels that leads when it runs ahead, or back where `sign` is below zero [m/s]."""
    corners = footing.support_polygon(way.wheels)
    along = np.roll(corners, -1, axis=0) - corners
    inward = np.column_stack([-along[:, 1], along[:, 0]]) / np.linalg.norm(along, axis=1)[:, None]
    found = []
    for corner, normal in zip(corners, inward, strict=True):
        leads = -sign * float(normal[0])
        if leads > 1e-9:
            reach = float(normal @ (way.cg[:2] - corner))
            slope = math.atan(math.tan(sign * way.slope) * leads)
            found.append(platform.trips_from(reach, float(way.cg[2]), slope) / leads)
    return min(found)


def _by_handle(
    tell: Teller, design: Design, dolly: Dolly, stood: footing.Footing, pushes: Told, mend: tuple[Remedy, ...]
) -> None:
    """Pushed at its handle, high up, before it rolls."""
    way, high = dolly.way, dolly.top + design.number("handle.height")
    tips = min(stood.pushed(high, (sign, 0.0)) for sign in (1.0, -1.0))
    start = pushes.value("travel.start") + way.weight * abs(math.sin(way.slope))
    tell.add(
        by_method(
            "balance.handle",
            "A push at the handle tips it from",
            tips,
            "N",
            "margin over its wheels over the handle's height",
            (
                design.given("h", "handle.height", "handle above the deck", "m"),
                Given("c", way.wheelbase, "m", "wheels apart, along", way.base_key),
            ),
            source="statics 6",
        )
    )
    tell.hold(
        "balance.handle",
        "balance.pushed",
        "Pushed at the handle",
        PEOPLE,
        "handle.height",
        "At its handle {} tips it; twice the push that starts it is {}.",
        at_least=2 * start,
        remedies=(
            *(
                (set_one("lower", "Handle at {}", "handle.height", 0.6, "m"),)
                if design.number("handle.height") > 0.6
                else ()
            ),
            *mend,
        ),
    )
    upright = design.catalogue.sections[HANDLE]
    works(
        tell,
        "rig.handle",
        "handle",
        HARD_PUSH / 2 * (1 - BRACE) * design.number("handle.height") / upright.section().modulus,
        bears(design, design.catalogue.materials[upright.material]),
        "a shove of 200 N at the bar, either upright bent above its brace",
        (Given("F", HARD_PUSH, "N", "a shove"), design.given("h", "handle.height", "handle above the deck", "m")),
        "handle.height",
        source="statics 3",
    )


def _rider(tell: Teller, design: Design, dolly: Dolly) -> Finding:
    """A person aboard is a caution at best: they lean out, it is stopped hard, and a brake must hold it."""
    way, brake = dolly.way, design.number("push.brake")
    mass = design.number("rider.mass")
    worst = math.inf
    for ahead, aside in ((REACHES, 0.0), (-REACHES, 0.0), (0.0, REACHES), (0.0, -REACHES)):
        leans = replace(way, cg=way.cg + np.array([ahead, aside, 0.0]) * mass / way.moving)
        try:
            across = platform.tips_at(leans.wheels, leans.cg.tolist(), way.slope, (0.0, 1.0 if aside > 0 else -1.0))
            worst = min(worst, _tips_from(leans), across)
        except InfeasibleError:
            worst = 0.0
    margin = worst / brake if brake > 0 else math.inf
    tell.add(
        by_method(
            "balance.rider",
            "With a person leaning out it tips from",
            worst,
            "m/s^2",
            "foot of the weight at the edge of its wheels, the person's centre 200 mm out either way",
            (Given("m", mass, "kg", "person", "rider.mass"), Given("a", REACHES, "m", "leans out by")),
            source="dynamics 6.1",
        )
    )
    tell.add(
        by_method(
            "balance.rider_margin",
            "Over its hard stop",
            margin,
            "1",
            "that over the hard stop",
            (tell.given("a", "balance.rider"), Given("b", brake, "m/s^2", "hard stop", "push.brake")),
            source="dynamics 6.1, 9",
        )
    )
    braked = design.text("place.kept") == BY_LOCK
    mend: tuple[Remedy, ...] = (set_one("nobody", "Nobody rides", "rider", NOBODY),)
    if margin < SAFE:
        words = Words(
            "With a person leaning out it tips at {} of its hard stop; {} is wanted: nobody rides.",
            ((margin, "1"), (SAFE, "1")),
        )
    elif not braked:
        words = Words("A person aboard needs a brake that holds it, worked from the deck: nobody rides without.")
        mend = (set_one("brake", "Fit a brake", "place.kept", BY_LOCK), *mend)
    else:
        words = Words(
            "A person rides: seated or with a hand-hold, feet kept in, one other pushes and nobody else is near. It "
            "tips at {} of its hard stop.",
            ((margin, "1"),),
        )
    state = WATCH if margin >= SAFE and braked else STOP
    return Finding(
        "balance.rides",
        "A person aboard",
        PEOPLE,
        state,
        "rider",
        words,
        margin,
        SAFE,
        "at_least",
        "1",
        mend,
        figure="balance.rider_margin",
    )


def _as_plumb(rail: Carriage, places: np.ndarray) -> np.ndarray:
    """Places (n, 3) on the deck, moved so that their feet square to the track are where plumb puts them [m]."""
    moved = places.copy()
    moved[:, 0] -= places[:, 2] * math.tan(rail.slope)
    return moved


def _tips_from(rail: Carriage) -> float:
    """The least acceleration along the track, either way, that tips it [m/s^2]. Raises InfeasibleError at rest."""
    return min(platform.tips_at(rail.wheels, rail.cg.tolist(), rail.slope, (way, 0.0)) for way in (1.0, -1.0))


def _falls(design: Design, suggest: bool, rail: Carriage) -> Finding:
    words = Words("Its weight lies outside its wheels: it falls over by itself.")
    mend = _mend(design, rail) if suggest else ()
    return Finding("balance.stands", "Footing", PEOPLE, STOP, "camera.aside", words, 0.0, 1.0, "at_least", "1", mend)


def _mend(design: Design, rail: Carriage) -> tuple[Remedy, ...]:
    """Weight over the middle, wider, longer, lower."""
    number, found = design.number, []
    middle = (rail.over(0), rail.over(1))
    if design.variant in DECKED and float(np.abs(rail.off).max()) > 0.02 and max(map(abs, middle)) <= 0.5:
        changes = (("camera.ahead", middle[0]), ("camera.aside", middle[1]))
        found.append(Remedy("over", Words("Bring the weight over the middle"), changes))
    for key, what, most in (("rail.spacing", "A gauge of {}", 1.5), ("carriage.wheelbase", "Wheels {} apart", 2.0)):
        if key not in (rail.base_key, "rail.spacing"):
            continue
        wider = round(min(most, 1.3 * number(key)), 3)
        if wider > number(key):
            found.append(set_one(key.split(".")[1], what, key, wider, "m"))
    heavier = min(150.0, number("ballast.mass") + 20.0)
    if heavier > number("ballast.mass"):
        found.append(set_one("ballast", "Ballast of {}", "ballast.mass", heavier, "kg"))
    return tuple(found)


def _tripod(design: Design, dolly: Dolly, knock: float) -> Told:
    """What the tripod carries, whether it stays in its cups, and how high and wide it stands."""
    if not len(dolly.feet):
        return _low(design)
    tell, way = Teller(), dolly.way
    carried = way.moving - sum(one.mass for one in dolly.borne)
    tell.add(
        by_method(
            "balance.carried",
            "The tripod carries",
            carried,
            "kg",
            "the camera kit",
            (Given("W", carried * GRAVITY, "N", "its weight", "kit"),),
            source="sum",
        )
    )
    tell.hold(
        "balance.carried",
        "balance.limit",
        "Load limit of the tripod",
        STRUCTURE,
        "stand",
        "The tripod carries {}; it is good for {}.",
        at_most=dolly.stand.load_limit,
    )
    if design.variant in DECKED:  # on trolleys of its own it stands and falls with them
        _in_its_cups(tell, design, dolly, knock)
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
                "rig.low",
                "Camera on the deck",
                BUILD,
                STOP if too_high else CLEAR,
                "camera.rise",
                words,
                high,
                LOW,
                "at_most",
                "m",
                mend if too_high else (),
            ),
        ),
    )


def _in_its_cups(tell: Teller, design: Design, dolly: Dolly, knock: float) -> None:
    """What lifts a tripod that only stands in its cups: a push at the lens, and the dolly's own hard stop."""
    way, strapped = dolly.way, design.text("stand.held") == STRAPPED
    foot = np.array([way.mount[0], way.mount[1], dolly.top])
    # The tripod comes last but one, the camera kit last.
    masses, at = dolly.masses
    masses, places = masses[-2:], at[-2:] - foot
    stood = footing.footing(dolly.feet, masses.tolist(), _as_plumb(way, places))
    high = float(way.lens[2]) - dolly.top
    stop = float(masses.sum()) * SAFE * design.number("push.brake") * float(masses @ places[:, 2] / masses.sum()) / high
    asked = max(knock, stop)
    tell.add(
        by_method(
            "balance.cups",
            "A push at the lens lifts the tripod out",
            stood.knock(high),
            "N",
            "camera kit and tripod about the weakest edge of its feet, over the lens height, without a strap",
            (
                Given("m", float(masses.sum()), "kg", "camera kit and tripod", "kit"),
                design.given("r", "stand.radius", "feet from its centre", "m"),
                Given("h", high, "m", "lens above the deck", "camera.rise"),
            ),
            source="statics 6",
        )
    )
    if strapped:
        lever = design.number("stand.radius") / 2  # from the middle of three feet to the line between two
        tell.add(
            by_method(
                "balance.strap",
                "Its strap must hold",
                max(0.0, asked - stood.knock(high)) * high / lever,
                "N",
                "what a bump or a hard stop asks beyond that, about the line between two feet",
                (
                    tell.given("F", "balance.cups"),
                    Given("F_b", asked, "N", "bump or hard stop at the lens", "push.brake"),
                ),
                source="statics 6",
            )
        )
        tell.hold(
            "balance.strap",
            "balance.in_cups",
            "Tripod stays in its cups",
            PEOPLE,
            "stand.radius",
            "Bumped or stopped hard, the tripod pulls its strap with {}; a narrow lashing strap is good for {}.",
            at_most=LASHING,
        )
        return
    tell.hold(
        "balance.cups",
        "balance.in_cups",
        "Tripod stays in its cups",
        PEOPLE,
        "stand.held",
        "A push of {} at the lens lifts it out of its cups; a bump or a hard stop asks {}.",
        at_least=asked,
        remedies=(set_one("strap", "Strap it down to the deck", "stand.held", STRAPPED),),
    )


def dolly_limits(design: Design, dolly: Dolly) -> tuple[Limit, ...]:
    """The hard stop it is judged by, and tipping over its wheels."""
    found = list(limits(design, dolly.way)[:1])
    with suppress(InfeasibleError):  # what falls by itself is a finding, and has no bound
        found.append(Limit("tipping over its wheels", _tips_from(dolly.way) / SAFE, "carriage.wheelbase"))
    return tuple(found)
