"""Track bent to an arc: how tight its pipe bends, what holds it and springs back, how wheels go round,
what the lens does."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Carried, Changes, Design
from hazel_lantern.core.kinds.dolly.bend import CLOSES, Bend, radius_for
from hazel_lantern.core.kinds.dolly.inputs import BY_CHORD, BY_CORD, BY_DISTANCE, BY_RADIUS, FIXED, LEFT, RIGHT
from hazel_lantern.core.kinds.dolly.model import Dolly
from hazel_lantern.core.kinds.dolly.under.bowed import bow_held, bow_of
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.kinds.shared.moving import long_enough, move_figures
from hazel_lantern.core.kinds.shared.works import letter
from hazel_lantern.core.mechanics import arcs
from hazel_lantern.core.mechanics.safety import safety_class
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.errors import GeometryError, InfeasibleError, InputError
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, STOP, STRUCTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

SHARP = 3 - math.sqrt(3)  # of the arc's own curvature, at the second tie: 1.268
BENT = "A"  # the class a pipe may be bent by: nothing falls, it is its own load
SCRUBS = (math.radians(1), math.radians(2))  # of fixed axles: hardly felt, and the most for soft tyres
GIVES = 0.001  # metres that a gauge gives by itself
SIDE = 0.05 * GRAVITY  # acceleration to the side that nobody minds
OFF_ROUND = 0.02  # of its distance, that a lens may go off it
LONGEST = 8.0
HALF_TURN = 0.05


def arc_figures(design: Design, move: Move, rail: Straight, dolly: Dolly, strong: Told) -> Told:
    """Sizes to lay it by, the bend of its pipes, what holds them, wheels, and the pull to the side."""
    bend = dolly.bend
    assert bend is not None
    tell = Teller()
    _sizes(tell, design, rail, dolly, bend)
    _bends(tell, design, rail, bend, strong)
    bow_held(tell, design, rail, dolly, bend)
    _wheels(tell, design, rail, bend)
    _aside(tell, move, rail)
    return tell.told()


def _sizes(tell: Teller, design: Design, rail: Straight, dolly: Dolly, bend: Bend) -> None:
    by = {BY_RADIUS: "bend.radius", BY_CHORD: "bend.chord", BY_DISTANCE: "bend.away"}[design.text("bend.by")]
    given = (
        Given("R", bend.radius, "m", "radius of its middle", by),
        Given("a", bend.angle, "rad", "how far round", "rail.length"),
        Given("G", rail.spacing, "m", "gauge", "rail.spacing"),
    )
    quarter = bend.rise - (bend.radius - math.sqrt(bend.radius**2 - bend.chord**2 / 16))
    spans = dolly.spans
    tell.add(
        by_method(
            "rig.radius",
            "Radius of its middle",
            bend.radius,
            "m",
            "as set, or from what is set",
            given[1:],
            source="dynamics 5",
            headline=True,
        ),
        by_method(
            "rig.round", "Goes round by", bend.angle, "rad", "its length over its radius", given[:1], source="geometry"
        ),
        by_formula("rig.inner", "Inner pipe", "m", Formula("(R-G/2)*a"), given, source="dynamics 5"),
        by_formula("rig.outer", "Outer pipe", "m", Formula("(R+G/2)*a"), given, source="dynamics 5"),
        by_formula("rig.chord", "Chord of its middle", "m", Formula("2*R*sin(a/2)"), given[:2], source="geometry"),
        by_formula("rig.rise", "Rise in its middle", "m", Formula("R*(1-cos(a/2))"), given[:2], source="geometry"),
        by_method(
            "rig.quarter",
            "and a quarter along the chord",
            quarter,
            "m",
            "what a string from end to end must clear it by there",
            given[:2],
            source="dynamics 5",
        ),
        by_method(
            "rig.tie_inner",
            "Ties on the inner pipe, at the most",
            max(spans) * bend.inner / bend.outer,
            "m",
            "at equal angles, so nearer there",
            (Given("s", max(spans), "m", "on the outer pipe", "tie.spacing"), *given),
            source="geometry",
        ),
        by_method(
            "rig.goes_round",
            "Lens goes round at",
            rail.goes_round,
            "m",
            "the deck's middle cuts the corner between its axles; the lens lies off it",
            (given[0], Given("B", rail.wheelbase, "m", "wheels apart, along", "carriage.wheelbase")),
            source="dynamics 5",
            headline=True,
        ),
    )


def _bends(tell: Teller, design: Design, rail: Straight, bend: Bend, strong: Told) -> None:
    """The inner pipe is bent most, at its second tie, or in the middle of a bow."""
    inside, half = bend.radius - rail.spacing / 2, rail.bar.depth / 2
    curved = SHARP / inside
    if design.text("bend.held") == BY_CORD:
        try:
            curved = bow_of(rail, bend, inside).curved
        except InputError:
            return  # said where it is held
    # Bent for hours, not for years.
    allowed = rail.material.strength / safety_class(BENT).strength(rail.material.family)
    strain, most = curved * half, allowed / rail.material.E
    least = half / most
    given = (Given("D", rail.bar.depth, "m", "pipe", "rail.section"), Given("e", most, "1", "strain it bears bent"))
    tell.add(
        by_formula("rig.tightest", "Tightest this pipe bends", "m", Formula("D/(2*e)"), given, source="dynamics 5"),
        by_method(
            "rig.sharpest",
            "Sharpest of the inner pipe",
            1 / curved,
            "m",
            "at its second tie, 1.27 times as sharp as the arc; in the middle of a bow",
            (Given("R", inside, "m", "arc of the inner pipe"),),
            source="dynamics 5",
            headline=True,
        ),
    )
    wider = math.ceil((least * curved * inside + rail.spacing / 2) * 20) / 20
    tell.hold(
        "rig.sharpest",
        "rig.bends",
        "Bend within the pipe",
        STRUCTURE,
        "bend.radius",
        "Its inner pipe is bent to {}; {} is the least it bears.",
        at_least=least,
        watch_at=0.9,
        remedies=_wider(design, wider),
    )
    bent = rail.material.E * strain * (1.0 - design.number("bend.stays") / 2)
    loaded = {figure.key: figure.value for figure in strong.figures}.get("rig.stress", 0.0)
    bears = rail.material.allowed(safety_class(letter(design)).strength(rail.material.family))
    tell.add(
        by_method(
            "rig.bent_use",
            "Bent and loaded, of what it bears",
            math.hypot(bent / allowed, loaded / bears),
            "1",
            "bend across and load downwards, square to each other",
            (
                Given("b", bent, "Pa", "bent, what it keeps of it halved"),
                Given("s", loaded, "Pa", "loaded", "rig.stress"),
            ),
            source="dynamics 5, statics 3",
        )
    )
    tell.hold(
        "rig.bent_use",
        "rig.bent_loaded",
        "Pipe bent and loaded",
        STRUCTURE,
        "rail.section",
        "Bent and loaded the pipe uses {} of what it bears.",
        at_most=1.0,
        remedies=_wider(design, round(bend.radius * 1.3, 2)),
    )


def _wider(design: Design, radius: float) -> tuple[Remedy, ...]:
    """The arc that much wider, its length as it is."""
    if not 0.5 <= radius <= 60.0:
        return ()
    return (
        Remedy("wider", Words("A radius of {}", ((radius, "m"),)), (("bend.by", BY_RADIUS), ("bend.radius", radius))),
    )


def _wheels(tell: Teller, design: Design, rail: Straight, bend: Bend) -> None:
    """Trolleys turn under the deck; what is fixed scrubs, and its gauge gives."""
    fixed = design.text("bend.trolleys") == FIXED
    axles = rail.wheelbase if fixed else design.number("bend.axles")
    try:
        found = arcs.bogies(bend.radius, rail.wheelbase, axles, rail.spacing)
    except InfeasibleError as error:
        tell.findings.append(
            Finding(
                "travel.round",
                "Wheels go round",
                STRUCTURE,
                STOP,
                "carriage.wheelbase",
                Words(f"{str(error)[:1].upper()}{str(error)[1:]}."),
            )
        )
        return
    given = (
        Given("R", bend.radius, "m", "radius of its middle", "bend.radius"),
        Given("B", rail.wheelbase, "m", "wheels apart, along", "carriage.wheelbase"),
        Given("b", axles, "m", "axles that do not turn", "carriage.wheelbase" if fixed else "bend.axles"),
    )
    tell.add(
        by_formula(
            "travel.trolley_turns",
            "A trolley turns under the deck by",
            "rad",
            Formula("asin(B/(2*R))"),
            given[:2],
            source="dynamics 5",
        ),
        by_formula(
            "travel.scrub",
            "Its axles scrub by",
            "rad",
            Formula("asin(b/(2*R))"),
            (given[0], given[2]),
            source="dynamics 5",
        ),
        by_method(
            "travel.gives",
            "Its gauge must give",
            found.gives,
            "m",
            "chords of fixed axles on both pipes",
            (given[0], given[2], Given("G", rail.spacing, "m", "gauge", "rail.spacing")),
            source="dynamics 5",
        ),
        by_formula(
            "travel.slip",
            "Outer wheels run faster by",
            "1",
            Formula("G/R"),
            (Given("G", rail.spacing, "m", "gauge", "rail.spacing"), given[0]),
            source="dynamics 5",
        ),
    )
    scrub = tell.value("travel.scrub")
    tell.hold(
        "travel.scrub",
        "travel.scrubs",
        "Wheels turn with the arc",
        PICTURE,
        "bend.trolleys",
        "Axles that do not turn scrub by {}; up to {} soft wheels hardly mind.",
        at_most=SCRUBS[0],
        state=CLEAR if scrub <= SCRUBS[0] else WATCH if scrub <= SCRUBS[1] else STOP,
        remedies=(set_one("swivel", "Trolleys that turn", "bend.trolleys", "swivel"),)
        if fixed
        else (set_one("single", "A single pair at each corner", "bend.axles", 0.0, "m"),),
    )
    tell.hold(
        "travel.gives",
        "travel.gauge",
        "Gauge on the arc",
        STRUCTURE,
        "rail.spacing",
        "Going round its gauge must give {}; {} it gives by itself, more needs wheel pairs that slide on their axle.",
        at_most=GIVES,
        state=CLEAR if found.gives <= GIVES else WATCH,
    )


def _aside(tell: Teller, move: Move, rail: Straight) -> None:
    around, fastest = rail.goes_round, move.profile.peak_speed * rail.way_of(move)
    tell.add(
        by_formula(
            "travel.aside",
            "Pulled outwards by",
            "m/s^2",
            Formula("v**2/R"),
            (
                Given("v", fastest, "m/s", "fastest of the move", "shot.time"),
                Given("R", around, "m", "lens goes round at", "rig.goes_round"),
            ),
            source="dynamics 5",
        )
    )
    tell.hold(
        "travel.aside",
        "travel.outwards",
        "Slow enough for the arc",
        PICTURE,
        "shot.time",
        "At its fastest it is pulled outwards by {}; {} is not minded.",
        at_most=SIDE,
        state=CLEAR if tell.value("travel.aside") <= SIDE else WATCH,
    )


def arc_fits(design: Design, move: Move, optics: Optics, rail: Straight, dolly: Dolly, path: Path) -> Told:
    """Whether the arc is as long, as wide and as high as the shot."""
    bend = dolly.bend
    assert bend is not None
    tell = Teller()
    around = rail.goes_round
    have, want = around * (rail.high - rail.low) / rail.measured, move.length
    tell.add(
        by_method(
            "rig.travel",
            "Way of the lens",
            have,
            "m",
            "from end to end of the deck's travel, at the radius it goes round at",
            (Given("R", around, "m", "lens goes round at", "rig.goes_round"),),
            source="geometry",
            headline=True,
        )
    )
    if want > 0:
        longer = math.ceil((bend.radius * bend.angle + (want - have) * bend.radius / around + 0.05) * 20) / 20
        by_chord = design.text("bend.by") == BY_CHORD
        found = long_enough(
            want, have, "track", "bend.chord" if by_chord else "rail.length", 99.0 if by_chord else longer, LONGEST
        )
        tell.findings.append(found)
    if move.centre is not None:
        wished = math.dist(move.start_at_m, move.centre)
        off = abs(around - wished)
        tell.add(
            by_formula(
                "shot.round_off",
                "Off its distance by",
                "m",
                Formula("abs(R-D)"),
                (
                    Given("R", around, "m", "lens goes round at", "rig.goes_round"),
                    Given("D", wished, "m", "distance wished", "shot.start_x"),
                ),
                source="geometry",
            )
        )
        tell.hold(
            "shot.round_off",
            "shot.round",
            "Keeps its distance",
            PICTURE,
            "bend.radius",
            Words("The lens goes round at {}; the shot keeps {}.", ((around, "m"), (wished, "m"))),
            at_most=OFF_ROUND * wished,
            state=CLEAR if off <= OFF_ROUND * wished else WATCH,
            remedies=(
                Remedy(
                    "keep",
                    Words("Keep {}", ((round(wished, 3), "m"),)),
                    (("bend.by", BY_DISTANCE), ("bend.away", round(wished, 3))),
                ),
            ),
        )
    high = rail.height + float(rail.mount[2]) + float(path.lens[2])
    wish = (move.start_height_m + move.end_height_m) / 2
    tell.add(
        by_formula(
            "shot.lens_off",
            "Lens off its height, half-way",
            "m",
            Formula("abs(z-h)"),
            (Given("z", high, "m", "lens", "camera.rise"), Given("h", wish, "m", "wished, half-way", "shot.start")),
            source="geometry",
        )
    )
    better = round(float(rail.mount[2]) + wish - high, 3)
    tell.hold(
        "shot.lens_off",
        "shot.height",
        "Height of the lens",
        PICTURE,
        "camera.rise",
        Words("The lens is at {}; the shot asks for {}.", ((high, "m"), (wish, "m"))),
        at_most=0.05,
        state=CLEAR if abs(high - wish) <= 0.05 else WATCH,
        remedies=(set_one("height", "Mount at {}", "camera.rise", better, "m"),) if 0.08 <= better <= 2.2 else (),
    )
    tell.take(move_figures(move, optics, min(want or have, have), "way round", ""))
    return tell.told()


def sized_arc(design: Design, kit: Carried, move: Move, rail: Straight, path: Path) -> Changes:
    """The arc that keeps the shot's distance, long enough for it.
    Raises InfeasibleError for what goes straight or climbs."""
    if move.centre is None:
        raise InfeasibleError("it goes straight: straight pipe does that; an arc goes round what it looks at")
    if abs(move.end_height_m - move.start_height_m) > 0.1:
        raise InfeasibleError("it climbs as it goes round; a bent track lies level", climbs=0.1)
    away, side = math.dist(move.start_at_m, move.centre), 1.0 if move.arc_rad >= 0 else -1.0
    if abs(move.arc_rad) > CLOSES - 0.2:
        raise InfeasibleError("it goes round further than a track can: an orbit rig goes all the way")
    heading = side * math.pi / 2
    turned_to = Design(design.variant, {**design.values, "camera.heading": heading}, design.catalogue)
    try:
        radius = radius_for(turned_to, kit, away, side)
    except GeometryError as error:
        raise InfeasibleError(str(error)) from error
    if not 0.5 <= radius <= 60.0:
        raise InfeasibleError(f"its track would have a radius of {radius:.2f} m; 0.5 to 60 m are bent here")
    share = radius / (radius + rail.spacing / 2)
    long = math.ceil((abs(move.arc_rad) * radius + 2 * rail.low * share + HALF_TURN) * 20) / 20
    if long > LONGEST:
        raise InfeasibleError(
            f"its track would be {long:.2f} m long; {LONGEST:g} m is the longest here", longest=LONGEST
        )
    rise = round(
        float(rail.mount[2])
        + (move.start_height_m + move.end_height_m) / 2
        - rail.height
        - float(rail.mount[2])
        - float(path.lens[2]),
        3,
    )
    if not 0.08 <= rise <= 2.2:
        raise InfeasibleError(f"the mount would have to stand {rise:.2f} m above the pipes")
    return (
        ("bend.by", BY_DISTANCE),
        ("bend.away", round(away, 3)),
        ("bend.turns", LEFT if side > 0 else RIGHT),
        ("camera.heading", heading),
        ("rail.length", max(0.8, long)),
        ("camera.rise", rise),
    )
