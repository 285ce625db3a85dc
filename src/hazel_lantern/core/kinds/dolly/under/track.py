"""The track of a dolly: the dip between its ties, how its wheel pairs lie on the pipe, and the gauge they bear."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.dolly.model import BALLAST, Dolly
from hazel_lantern.core.kinds.rail.bends import HORIZON, Ride
from hazel_lantern.core.kinds.rail.held import pressed_wall
from hazel_lantern.core.kinds.rail.model import INCLINED, Straight
from hazel_lantern.core.kinds.rail.strength import allowed
from hazel_lantern.core.kinds.shared.works import works
from hazel_lantern.core.mechanics import ties, wheel_pairs
from hazel_lantern.core.motion.wanted import Optics
from hazel_lantern.core.nouns.figure import Curve, Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import BUILD, CLEAR, PEOPLE, PICTURE, STRUCTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words, within
from hazel_lantern.core.optics import lens

WAVE = Formula("c*P*L**3/EI")
STAYS = Formula("W*tan(beta)")
GAUGE = Formula("min(0.002, a*g/tan(beta))")
MARGIN = 0.004  # metres of a tread kept free at either edge
CLEAR_OF_TIE = 0.005  # metres
BETWEEN = 0.001  # metres between the two wheels of a pair
SEEN, CALM = 1.0, 0.5  # pixels of a wave that repeats at every tie: the most, and what a remedy aims at
SINKS = 0.004  # metres, workshop judgement
SHOCK = 1.5  # over the standing load, for joints under a wheel; workshop judgement


def heaviest(rail: Straight) -> float:
    """What the heaviest corner bears when all is calm [N]."""
    return float(_corners(rail).max())


def _corners(rail: Straight) -> np.ndarray:
    """What each corner bears when all is calm [N]."""
    if rail.lone:
        return np.array([load for _, load in rail.stands()])
    aside = float(rail.cg[1]) / rail.spacing
    return np.outer(rail.axles(), (0.5 + aside, 0.5 - aside))


def track_figures(
    design: Design, optics: Optics, away: float, suggest: bool, rail: Straight, dolly: Dolly, ride: Ride
) -> Told:
    """Dip of a pipe between two ties under the heaviest pair, in the picture; wheel pairs on their pipe."""
    tell = Teller()
    _waves(tell, optics, away, suggest, rail, dolly)
    _pairs(tell, design, rail)
    _sinks(tell, design, rail, ride)
    return tell.told()


def _waves(tell: Teller, optics: Optics, away: float, suggest: bool, rail: Straight, dolly: Dolly) -> None:
    load, span, ei = heaviest(rail), max(dolly.spans), rail.material.E * float(rail.section.upright)
    many = len(dolly.ties) > 3
    given = (
        Given("c", ties.INNER if many else 1 / 48, "1", "many ties" if many else "a pipe on few ties"),
        Given("P", load, "N", "heaviest pair of wheels", "kit"),
        Given("L", span, "m", "between two ties", "tie.spacing"),
        Given("EI", ei, "N*m^2", "bending stiffness of a pipe", "rail.section"),
    )
    assume = ("ties hold the pipe down", "rigid ground")
    tell.add(
        by_formula("travel.wave", "Pipe dips between ties", "m", WAVE, given, assumptions=assume, source="dynamics 4.1")
    )
    focal = lens.focal_pixels(optics.focal_m, optics.pixels_high, optics.sensor_height_m)
    seen = (
        Given("D", away, "m", "subject's distance"),
        Given("f", optics.focal_m, "m:lens", "focal length", "shot.focal"),
    )
    # The camera rides on both pipes: with the deck level it sinks by as much as they do.
    tell.add(
        by_method(
            "travel.wave_px",
            "and the picture by",
            focal * tell.value("travel.wave") / away,
            "px",
            "F dip / D",
            (tell.given("y", "travel.wave"), *seen),
            source="drive 5.3",
        )
    )
    # The heaviest corner's dip, as ballast in the middle is shared alike by all of them.
    more = (BALLAST - dolly.ballast) * GRAVITY / len(rail.wheels)
    waves = np.maximum(0.0, load + more) * tell.value("travel.wave") / load * focal / away
    tell.curves["travel.ballast"] = Curve(
        "travel.ballast", "Wave of the track in the picture", BALLAST, waves, "kg", "px", "ballast", dolly.ballast
    )
    tell.hold(
        "travel.wave_px",
        "travel.waves",
        "Wave of the track",
        PICTURE,
        "tie.spacing",
        "At every tie the picture rises and falls by {}; {} passes.",
        at_most=SEEN,
        remedies=_closer(optics, away, load, ei, span) if suggest else (),
    )


def _sinks(tell: Teller, design: Design, rail: Straight, ride: Ride) -> None:
    """How far the ground gives under a tie, which planks or boards beneath it spread."""
    k = design.number("ground.stiffness")
    sinks = float(ride.reactions.max()) / k
    tell.add(
        by_method(
            "travel.sinks",
            "A tie sinks by",
            sinks,
            "m",
            "largest load of a tie over how stiff the ground is under it",
            (
                design.given("k", "ground.stiffness", "ground under a tie", "N/m:ground"),
                Given("W", rail.weight, "N", "all that rolls", "kit"),
            ),
            source="statics 4.3",
        )
    )
    planks = min(1e8, 4 * k)
    tell.hold(
        "travel.sinks",
        "travel.soft",
        "Ground under the ties",
        PICTURE,
        "ground.stiffness",
        "A tie sinks by {}; up to {} the track lies well. Planks under the ties spread the load.",
        at_most=SINKS,
        remedies=(set_one("planks", "Planks under the ties, ground of {}", "ground.stiffness", planks, "N/m:ground"),),
    )


def _closer(optics: Optics, away: float, load: float, ei: float, span: float) -> tuple[Remedy, ...]:
    focal = lens.focal_pixels(optics.focal_m, optics.pixels_high, optics.sensor_height_m)
    wide = math.floor(ties.widest_spacing(load, CALM * away / focal, ei) * 100) / 100
    return (set_one("closer", "A tie every {}", "tie.spacing", wide, "m"),) if 0.15 <= wide < span else ()


def _pairs(tell: Teller, design: Design, rail: Straight) -> None:
    """Where the treads touch, which pipes fit, room over the ties, side force, the pipe's wall."""
    wheel, pipe, load = rail.wheel, rail.bar.depth, heaviest(rail)
    centre = pipe / 2 * math.tan(INCLINED)  # brackets set the middle of the tread on the pipe
    pair = wheel_pairs.on_pipe(pipe, INCLINED, wheel.d, wheel.width, centre, MARGIN, load, design.number("push.side"))
    sizes = (
        Given("D", pipe, "m", "pipe", "rail.section"),
        Given("b", wheel.width, "m", "tread", "carriage.wheel"),
        Given("e", MARGIN, "m", "kept free at either edge"),
    )
    source, how = "dynamics 4.3", "contact of an inclined tread, brackets set for this pipe"
    tell.add(
        by_method("rig.pipe_from", "Its wheels take pipe from", pair.smallest, "m", how, sizes, source=source),
        by_method("rig.pipe_to", "to", pair.largest, "m", how, sizes, source=source),
        by_method(
            "rig.over_tie",
            "Wheels clear the ties by",
            pair.low_edge + pipe / 2,
            "m",
            "lower edge of a tread over the tie",
            sizes,
            source=source,
        ),
        by_method(
            "rig.pair_gap",
            "Wheels of a pair clear each other by",
            2 * (centre - wheel.width / 2) * math.cos(INCLINED),
            "m",
            "inner edges of two treads that touch the pipe with their middles",
            sizes,
            source=source,
        ),
        by_formula(
            "rig.gauge_within",
            "Gauge true within",
            "m",
            GAUGE,
            (
                Given("a", HORIZON, "rad", "lean that is seen"),
                Given("g", rail.spacing, "m", "gauge", "rail.spacing"),
                Given("beta", INCLINED, "rad", "contact from upright"),
            ),
            source=source,
        ),
        by_formula(
            "balance.pair_stays",
            "A pair stays on its pipe up to",
            "N",
            STAYS,
            (
                Given("W", _lightest(rail), "N", "lightest pair of wheels", "kit"),
                Given("beta", INCLINED, "rad", "contact from upright"),
            ),
            assumptions=("pushed sideways at that pair alone",),
            source=source,
        ),
    )
    tell.hold(
        "rig.over_tie",
        "rig.clears_ties",
        "Wheels clear the ties",
        BUILD,
        "carriage.wheel",
        "The lower edge of a wheel passes {} over the ties; {} is wanted.",
        at_least=CLEAR_OF_TIE,
        watch_at=1.0,
    )
    tell.hold(
        "rig.pair_gap",
        "rig.pair_meets",
        "Room between the wheels of a pair",
        STRUCTURE,
        "carriage.wheel",
        "The two wheels of a pair pass each other with {}; {} is wanted.",
        at_least=BETWEEN,
        watch_at=1.0,
        remedies=_narrower(design, rail),
    )
    tell.findings.append(
        Finding(
            "rig.edges",
            "Pipe on its treads",
            STRUCTURE,
            CLEAR if pair.fits else WATCH,
            "carriage.wheel",
            Words(
                "The pipe touches the middle of its treads."
                if pair.fits
                else "The treads are so narrow that the pipe touches near their edges: they wear and may chip."
            ),
        )
    )
    tell.hold(
        "balance.pair_stays",
        "balance.on_pipe",
        "Wheels stay on the pipe",
        PEOPLE,
        "push.side",
        "Pushed sideways with {} its lightest pair climbs off the pipe; a careless push gives {}.",
        at_least=design.number("push.side"),
        remedies=(
            set_one("ballast", "Ballast {}", "ballast.mass", min(150.0, design.number("ballast.mass") + 10), "kg"),
        ),
    )
    works(
        tell,
        "rig.wall",
        "wall of the pipe under a wheel",
        SHOCK * pressed_wall(rail.bar, pair.more, wheel.width),
        allowed(design, rail),
        "a ring pressed by one wheel of the pair, times 1.5, as long as the tread and the pipe's width on either side",
        (
            Given("N", pair.more, "N", "one wheel of the heaviest pair", "kit"),
            Given("t", rail.bar.wall, "m", "wall", "rail.section"),
        ),
        "rail.section",
        source="Roark, ring",
        about=STRUCTURE,
    )


def _narrower(design: Design, rail: Straight) -> tuple[Remedy, ...]:
    """The widest wheel that leaves room to its neighbour on this pipe."""
    room = rail.bar.depth - BETWEEN / math.cos(INCLINED)
    rows = [w for w in design.catalogue.wheels.values() if w.shape == "round" and 2 * MARGIN <= w.width <= room]
    best = max(rows, key=lambda w: (w.carries, w.d, w.id), default=None)
    return (set_one("narrower", f"Use {within(best.name)}", "carriage.wheel", best.id),) if best else ()


def _lightest(rail: Straight) -> float:
    """What the lightest corner bears when all is calm [N], never below nothing."""
    return max(0.0, float(_corners(rail).min()))
