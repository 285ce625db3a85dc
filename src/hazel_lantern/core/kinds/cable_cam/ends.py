"""What holds the rope's ends: posts and their guys, stakes and dead weights, trees; walls are refused."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.catalogue import StockSection, TightRope
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.cable_cam.design import FRAME, POSTS, STAKES, TREE
from hazel_lantern.core.kinds.cable_cam.fittings import guys_of
from hazel_lantern.core.kinds.cable_cam.model import Cable
from hazel_lantern.core.kinds.cable_cam.posts import top_figures
from hazel_lantern.core.kinds.cable_cam.ride import Ran
from hazel_lantern.core.kinds.shared.pressed import PINNED, pressed
from hazel_lantern.core.mechanics import rigging
from hazel_lantern.core.mechanics.safety import safety_class
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, STOP, STRUCTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words, within

TESTED = 2.0  # times its pull, that a stake or tree is tested with
HIGH = 2.0  # metres from which work at an end is work at height
SOFT = 50e3  # pascals that soft, dry ground bears, workshop judgement
SPARE_GRIP = 1.5  # times the grip that feet ask for, that the ground must have
WEAKEST = 0.9  # of a section's stiffness, the low end of its material


def ends_figures(design: Design, cable: Cable, ride: Ran) -> Told:
    """Each end by itself, at its own worst place of the carriage, pulled by rope and haul line."""
    tell = Teller()
    for k, end in enumerate("ab"):
        kind = design.text(f"anchor.{end}")
        if kind in POSTS:
            _post(tell, design, cable, ride, k, end)
        elif kind == TREE:
            _tree(tell, design, cable, ride, end)
        else:
            tell.findings.append(
                Finding(
                    f"balance.wall_{end}",
                    f"Wall at end {end.upper()}",
                    PEOPLE,
                    STOP,
                    f"anchor.{end}",
                    Words(
                        "A wall or building is not judged here: a qualified person decides what it holds. Stand a "
                        "guyed post before it."
                    ),
                    remedies=(set_one("post", "A post with two guys", f"anchor.{end}", "two_guys"),),
                )
            )
    if max(cable.ends) > HIGH:
        tell.findings.append(
            Finding(
                "balance.height",
                "Working at height",
                PEOPLE,
                WATCH,
                "end.a",
                Words(
                    "An end is {} up: a standing ladder held by a second person, or a platform, as local rules ask.",
                    ((max(cable.ends), "m"),),
                ),
            )
        )
    return tell.told()


def pulled(design: Design, end: str) -> bool:
    """Whether only a pull test can say what holds an end: a stake or a tree."""
    kind = design.text(f"anchor.{end}")
    return kind == TREE or (kind in POSTS and design.text("guy.held") == STAKES)


def pulls_at(cable: Cable, ride: Ran, end: str, *, worst: bool) -> tuple[np.ndarray, np.ndarray]:
    """Across and down on an end of all ropes and the haul line together, the carriage at every station (n,) [N]."""
    hung = cable.states.worst if worst else cable.now
    out, down = (hung.out_a, hung.down_a) if end == "a" else (hung.out_b, hung.down_b)
    return cable.count * out + ride.at_ends, cable.count * down


def _tree(tell: Teller, design: Design, cable: Cable, ride: Ran, end: str) -> None:
    out, down = pulls_at(cable, ride, end, worst=False)
    most = float(np.hypot(out, down).max())
    _asked(tell, end, most, "the pull of rope and haul line on it")
    _held(tell, design, end, "The tree", f"anchor.{end}")


def _asked(tell: Teller, end: str, pull: float, what: str) -> None:
    tell.add(
        by_formula(
            f"balance.test_{end}",
            f"Test end {end.upper()} with",
            "N",
            Formula("n*T"),
            (Given("n", TESTED, "1", "times its pull"), Given("T", pull, "N", what)),
            source="dynamics 1.5",
            headline=end == "a",
        )
    )


def _held(tell: Teller, design: Design, end: str, what: str, where: str) -> None:
    """What only a pull test can say."""
    asked, tested = tell.value(f"balance.test_{end}"), design.number(f"tested.{end}")
    if tested <= 0:
        words = Words(
            f"{what} at end {end.upper()} holds only what it is seen to hold: pull with {{}} for five minutes; it "
            "may not move.",
            ((asked, "N"),),
        )
    else:
        words = Words(
            f"{what} at end {end.upper()} was pulled with {{}}; {{}} is asked.", ((tested, "N"), (asked, "N"))
        )
    done = set_one("tested", "It held {} for five minutes", f"tested.{end}", math.ceil(asked / 10) * 10.0, "N")
    tell.hold(
        f"balance.test_{end}",
        f"balance.tested_{end}",
        f"Pull test of end {end.upper()}",
        PEOPLE,
        f"tested.{end}",
        words,
        at_most=tested,
        state=CLEAR if tested >= asked else STOP,
        remedies=(done,),
    )


def _post(tell: Teller, design: Design, cable: Cable, ride: Ran, k: int, end: str) -> None:
    kind, named, high = design.text(f"anchor.{end}"), f"end {end.upper()}", cable.ends[k]
    guys, slope, half = guys_of(kind), design.number("guy.slope"), design.number("guy.spread")
    half = half if guys == 2 else 0.0
    out, down = pulls_at(cable, ride, end, worst=True)
    posts = [rigging.guyed_post(float(o), float(d), slope, guys, half) for o, d in zip(out, down, strict=True)]
    n, c = int(np.argmax([post.guy for post in posts])), int(np.argmax([post.pressed for post in posts]))
    least = min(post.pressed for post in posts)
    given = (
        Given("H", float(out[n]), "N", "pull across, at the worst, of rope and line"),
        Given("F", ride.at_ends, "N", "of it the haul line", "haul.tight"),
        Given("V", float(down[n]), "N", "pull down"),
        design.given("g", "guy.slope", "rises at", "rad"),
        *((design.given("s", "guy.spread", "apart by", "rad"),) if guys == 2 else ()),
    )
    tell.add(
        by_method(
            f"balance.guy_{end}",
            f"A guy of {named} pulls with",
            posts[n].guy,
            "N",
            "the rope's pull across, over its guys, as they lie and rise",
            given,
            source="dynamics 1.5",
        ),
        by_method(
            f"balance.pressed_{end}",
            f"The post of {named} is pressed with",
            posts[c].pressed,
            "N",
            "pull down of rope and guys",
            (
                Given("H", float(out[c]), "N", "pull across, at the worst"),
                Given("V", float(down[c]), "N", "pull down"),
                *given[2:],
            ),
            source="dynamics 1.5",
        ),
        by_method(
            f"rig.guy_{end}",
            f"Guys of {named} meet the ground",
            high / math.tan(slope),
            "m",
            "behind the post, along its guy's own line",
            (Given("z", high, "m", "end above the ground", f"end.{end}"), given[2]),
            source="geometry",
        ),
    )
    spread = design.number("frame.spread") / 2 if kind == FRAME else 0.0
    tell.take(top_figures(design, end, max(posts[c].pressed, 0.0), math.atan2(spread, high)))
    _stands(tell, design, kind, end)
    if kind == FRAME:
        _feet(tell, design, end, high)
    _guy(tell, design, end)
    _buckles(tell, design, kind, end, high)
    if least <= 0:
        tell.findings.append(
            Finding(
                f"balance.lifts_{end}",
                f"Post of {named} stays down",
                STRUCTURE,
                STOP,
                f"end.{end}",
                Words(f"The rope lifts the post of {named} off its plate: a lower end, or steeper guys."),
            )
        )
    if slope > rigging.STEEP_GUY:
        tell.findings.append(
            Finding(
                f"balance.steep_guy_{end}",
                f"Guys of {named} too steep",
                STRUCTURE,
                WATCH,
                "guy.slope",
                Words("Guys at {} pull with more than twice the rope; further out they pull less.", ((slope, "rad"),)),
                remedies=(set_one("flatter", "Guys at 45°", "guy.slope", math.radians(45), "rad"),),
            )
        )
    still, still_down = pulls_at(cable, ride, end, worst=False)
    rests = max(
        rigging.guyed_post(float(o), float(d), slope, guys, half).guy for o, d in zip(still, still_down, strict=True)
    )
    if design.text("guy.held") == STAKES:
        _asked(tell, end, rests, "a guy's pull, standing")
        _held(tell, design, end, "A stake", f"tested.{end}")
    else:
        _weight(tell, design, posts[n].guy, slope, end)


def _stands(tell: Teller, design: Design, kind: str, end: str) -> None:
    """Its plate on soft ground."""
    plates = 2 if kind == FRAME else 1
    tell.add(
        by_formula(
            f"balance.ground_{end}",
            f"Plate of end {end.upper()} presses the ground",
            "Pa",
            Formula("C/(n*s**2)"),
            (
                tell.given("C", f"balance.pressed_{end}"),
                Given("n", plates, "count", "plates"),
                design.given("s", "post.plate", "a plate", "m"),
            ),
            source="dynamics 1.5",
        )
    )
    side = (
        math.sqrt(tell.value(f"balance.pressed_{end}") / plates / SOFT)
        if tell.value(f"balance.pressed_{end}") > 0
        else 0.0
    )
    wider = math.ceil(1.12 * side * 20) / 20
    tell.hold(
        f"balance.ground_{end}",
        f"balance.sinks_{end}",
        f"Post of end {end.upper()} does not sink",
        STRUCTURE,
        "post.plate",
        "It presses the ground with {}; soft ground bears about {}.",
        at_most=SOFT,
        remedies=(set_one("wider", "Plates of {}", "post.plate", wider, "m"),) if wider <= 1.2 else (),
    )


def _feet(tell: Teller, design: Design, end: str, high: float) -> None:
    """Whether leaning legs slide apart on the ground."""
    named, holds = f"end {end.upper()}", design.number("guy.grip") / SPARE_GRIP
    tell.add(
        by_formula(
            f"balance.grip_{end}",
            f"Feet of {named} ask for a grip of",
            "1",
            Formula("b/(2*z)"),
            (
                design.given("b", "frame.spread", "legs apart", "m"),
                Given("z", high, "m", "end above the ground", f"end.{end}"),
            ),
            source="dynamics 1.5",
        )
    )
    closer = math.floor(2 * high * holds * 20) / 20
    tell.hold(
        f"balance.grip_{end}",
        f"balance.feet_{end}",
        f"Feet of {named} stay",
        STRUCTURE,
        "frame.spread",
        "Legs that lean so far slide apart under a grip of {}; with half as much again to spare the ground holds {}. "
        "A rope between the feet holds them too.",
        at_most=holds,
        remedies=(set_one("closer", "Legs {} apart", "frame.spread", closer, "m"),) if closer >= 0.3 else (),
    )


def _guy(tell: Teller, design: Design, end: str) -> None:
    line: TightRope = design.row("lines", "guy.line")
    pull = tell.value(f"balance.guy_{end}")
    if line.sort == "nylon":
        tell.findings.append(
            Finding(
                f"balance.nylon_{end}",
                "Nylon as a guy",
                PEOPLE,
                STOP,
                "guy.line",
                Words("Nylon is no guy: it stretches, and the post leans in."),
                remedies=(set_one("polyester", "Polyester braid 6 mm", "guy.line", "polyester-6"),),
            )
        )
    asked = rigging.LEAST[rigging.stock(line.sort).family]
    tell.add(
        by_formula(
            f"balance.guy_factor_{end}",
            f"A guy of end {end.upper()} is stronger by",
            "1",
            Formula("k*B/T"),
            (
                Given("k", rigging.tied_left(line.sort), "1", "its hitches or clips leave"),
                Given("B", line.breaking, "N", "breaks at", "guy.line"),
                tell.given("T", f"balance.guy_{end}"),
            ),
            source="dynamics 1.3, 1.4",
        )
    )
    enough = [
        row
        for row in design.catalogue.lines.values()
        if row.sort != "nylon"
        and rigging.tied_left(row.sort) * row.breaking >= 1.05 * rigging.LEAST[rigging.stock(row.sort).family] * pull
    ]
    best = min(enough, key=lambda row: row.price, default=None)
    tell.hold(
        f"balance.guy_factor_{end}",
        f"balance.guys_{end}",
        f"Guys of end {end.upper()}",
        PEOPLE,
        "guy.line",
        "With its ends a guy is {} times as strong as it is pulled; {} is asked.",
        at_least=asked,
        watch_at=0.9,
        remedies=(set_one("stronger", best.name, "guy.line", best.id),)
        if best is not None and best.id != line.id
        else (),
    )


def _buckles(tell: Teller, design: Design, kind: str, end: str, high: float) -> None:
    bar: StockSection = design.row("sections", "post.section")
    material = design.catalogue.materials[bar.material]
    section = bar.section()
    weak = WEAKEST * material.E * min(float(section.iy), float(section.iz))
    half = design.number("frame.spread") / 2 if kind == FRAME else 0.0
    long = math.hypot(high, half)
    if half:
        # Two legs share it, each pressed along its own lean.
        tell.add(
            by_formula(
                f"balance.leg_{end}",
                f"A leg of end {end.upper()} is pressed with",
                "N",
                Formula("C/2*L/z"),
                (
                    tell.given("C", f"balance.pressed_{end}"),
                    Given("L", long, "m", "leg"),
                    Given("z", high, "m", "end above the ground", f"end.{end}"),
                ),
                source="dynamics 1.5",
            )
        )
    stiffer = [
        row
        for row in design.catalogue.sections.values()
        if _bows(design, row, long) >= 1.1 * _asks(design) * tell.value(f"balance.{'leg' if half else 'pressed'}_{end}")
        and row.material == bar.material
    ]
    best = min(stiffer, key=lambda row: row.line(design.catalogue.materials[row.material]), default=None)
    mend: tuple[Remedy, ...] = (
        (set_one("stiffer", f"Posts of {within(best.name)}", "post.section", best.id),)
        if best is not None and best.id != bar.id
        else ()
    )
    pressed(
        tell,
        design.text("safety"),
        (f"balance.{'leg' if half else 'pressed'}_{end}", f"balance.bows_{end}", f"balance.buckles_{end}"),
        f"{'leg' if half else 'post'} of end {end.upper()}",
        weak,
        Given("L", long, "m", "from its foot to where the rope leaves", f"end.{end}"),
        PINNED,
        "post.section",
        mend,
    )


def _bows(design: Design, row: StockSection, long: float) -> float:
    section = row.section()
    return (
        math.pi**2
        * WEAKEST
        * design.catalogue.materials[row.material].E
        * min(float(section.iy), float(section.iz))
        / long**2
    )


def _asks(design: Design) -> float:
    return safety_class(design.text("safety")).buckling


def _weight(tell: Teller, design: Design, pull: float, slope: float, end: str) -> None:
    asked = rigging.dead_weight(pull, slope, design.number("guy.grip"))
    has = design.number("guy.weight")
    tell.add(
        by_method(
            f"balance.dead_{end}",
            f"Dead weight at each guy of end {end.upper()}",
            asked,
            "kg",
            "neither dragged, with half as much again to spare, nor lifted",
            (
                tell.given("T", f"balance.guy_{end}"),
                design.given("g", "guy.slope", "rises at", "rad"),
                design.given("mu", "guy.grip", "grips the ground with", "1"),
            ),
            source="dynamics 1.5",
        )
    )
    tell.hold(
        f"balance.dead_{end}",
        f"balance.weighs_{end}",
        f"Dead weights of end {end.upper()}",
        PEOPLE,
        "guy.weight",
        "A guy asks for {} on the ground; {} lies there.",
        at_most=has,
        watch_at=1.0,
        remedies=(set_one("heavier", "Dead weights of {}", "guy.weight", math.ceil(asked / 5) * 5.0, "kg"),)
        if asked <= 2995
        else (),
    )
