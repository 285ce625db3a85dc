"""An orbit rig hung from above: what is refused, its anchors, the shaft it hangs on, how it sways,
and what catches it."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.orbit.design import MOUNTS
from hazel_lantern.core.kinds.orbit.model import BOARD, HUB_MASS, THICK, Orbit
from hazel_lantern.core.kinds.orbit.spun import Spun
from hazel_lantern.core.kinds.orbit.strength import judged
from hazel_lantern.core.kinds.orbit.supports import ANCHORS
from hazel_lantern.core.kinds.orbit.turning import OVERSHOOT
from hazel_lantern.core.kinds.shared.hung import caution, refusal, tether_figures
from hazel_lantern.core.kinds.shared.standing import bump
from hazel_lantern.core.kinds.shared.works import bears, works
from hazel_lantern.core.mechanics import overhead, rotor
from hazel_lantern.core.mechanics.beam import clamped_frequency
from hazel_lantern.core.mechanics.safety import HAND_SWING
from hazel_lantern.core.nouns.errors import RefusedError
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import STRUCTURE, Finding, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY

ANCHOR = 8.0  # on what an anchor breaks at, class D
FLANGE = 0.04  # metres from the axis to the edge of the shaft's flange
TWICE = 2.0  # a hung hub sways so many times faster than it turns


def hanging_figures(design: Design, orbit: Orbit, spin: Spun) -> Told:
    """Nothing for what stands on its feet."""
    if not orbit.overhead:
        return Told()
    tell = Teller()
    tell.findings += refusals(design, orbit)
    tell.take(tether_figures(design, orbit.turns_as[0][0], "camera kit"))
    if orbit.structure:
        _anchors(tell, design, orbit, spin)
        if orbit.ring is None:
            _shaft(tell, design, orbit, spin)
    return tell.told()


def refusals(design: Design, orbit: Orbit) -> list[Finding]:
    """People below, and what never holds anything; then the caution."""
    found = []
    people = design.text("below") == "people"
    mount = dict(MOUNTS)[design.text("hanger.mount")] if orbit.structure else "frame"
    try:
        overhead.check_mount(mount, "over people" if people else "kept clear", orbit.turning)
    except RefusedError as error:
        found.append(refusal("below" if people else "hanger.mount", str(error)))
    asks = (
        "rated anchors into structure, a second path, nobody under it"
        if orbit.structure
        else "a second path, nobody leaning in under it"
    )
    return [*found, caution(orbit.turning, asks)]


def _hub(orbit: Orbit, spin: Spun) -> tuple[float, float]:
    """Moment about the hub and force across it, at a tenth over its fastest [N*m, N]."""
    made = rotor.turning(orbit.turns_as, OVERSHOOT * spin.fastest, orbit.beam)
    return made.moment, made.force


def _anchors(tell: Teller, design: Design, orbit: Orbit, spin: Spun) -> None:
    """The board is pulled down by all, and tilted by hub, shake and a bump at the lowest place."""
    moment, force = _hub(orbit, spin)
    knock, drop = bump(design, orbit.weight), orbit.structure - orbit.beam
    tilts = moment + force * drop + knock * (orbit.structure - min(orbit.lens_high, orbit.beam))
    pull = orbit.weight * GRAVITY / 4 + HAND_SWING * tilts / (4 * ANCHORS)
    given = (
        Given("W", orbit.weight * GRAVITY, "N", "all that hangs", "rig.mass"),
        Given("M", tilts, "N*m", "hub, shake and a bump, about the board"),
        Given("a", ANCHORS, "m", "axis to each pair of anchors"),
    )
    pulled = (Given("R", pull, "N", "an anchor is pulled with", "balance.anchor_pull"),)
    tell.add(
        by_method(
            "balance.anchor_pull",
            "An anchor is pulled with",
            pull,
            "N",
            "a quarter of the weight, and one and a half times the moment over four anchors",
            given,
            source="statics 8.3",
            headline=True,
        ),
        by_method(
            "balance.anchor",
            "Breaking load to ask of an anchor",
            ANCHOR * pull,
            "N",
            "eight times that, class D",
            pulled,
            source="statics 9, class D",
        ),
    )
    board = design.catalogue.materials["plywood"]
    stress = 2 * pull * (ANCHORS - FLANGE) / (BOARD * THICK**2 / 6)
    works(
        tell,
        "rig.board",
        "board overhead",
        stress,
        bears(judged(design, orbit), board),
        "two anchors' pull over their lever to the flange, across the board",
        pulled,
        "hung.height",
        source="statics 3, 9",
    )


def _shaft(tell: Teller, design: Design, orbit: Orbit, spin: Spun) -> None:
    """Bent where it leaves the board, and swaying as a rod with all that turns at its end."""
    moment, force = _hub(orbit, spin)
    long, knock = orbit.hub_shaft, bump(design, orbit.weight)
    bends = HAND_SWING * (moment + force * long + knock * (long + max(0.0, orbit.beam - orbit.lens_high)))
    material = design.catalogue.materials[orbit.shaft.material]
    section = orbit.shaft.section()
    short = round(orbit.structure - THICK - 0.5 * long, 3)
    mend = (set_one("higher", "Arms at {}", "beam.height", short, "m"),) if short <= 4.5 else ()
    where = (
        Given("L", long, "m", "hub shaft", "hung.height"),
        Given("m", orbit.turning, "kg", "all that turns", "kit"),
    )
    works(
        tell,
        "rig.hub_shaft",
        "hub shaft",
        bends / float(section.modulus),
        bears(judged(design, orbit), material),
        "wobble of the hub, its shake at the shaft's end and a bump at the camera, times 1.5",
        (Given("M", moment, "N*m", "wobble of the hub", "balance.wobble"), *where),
        "shaft.section",
        source="dynamics 2, statics 3",
        remedies=mend,
    )
    sways = clamped_frequency(
        material.E * float(section.least), long, orbit.turning + HUB_MASS, orbit.shaft.line(material) * long
    )
    turns = OVERSHOOT * spin.fastest / (2 * math.pi)
    tell.add(
        by_method(
            "travel.sways",
            "Hung, it sways at",
            sways,
            "Hz",
            "a rod held at the board, all that turns at its end",
            where,
            source="dynamics 2",
        )
    )
    tell.hold(
        "travel.sways",
        "travel.hung_sway",
        "Hub that hangs against its turning",
        STRUCTURE,
        "shaft.section",
        "It sways at {}; twice its turns a second is {}.",
        at_least=TWICE * turns,
        remedies=mend,
    )
    share = turns / sways
    grows = 1 / (1 - share**2) if share < 1 else math.inf
    tell.add(
        by_method(
            "travel.grows",
            "What is out of balance swings it wider by",
            grows,
            "1",
            "one over one less the square of turns over sway",
            (Given("n", turns, "Hz", "turns a second", "travel.fastest"),),
            source="dynamics 2",
        )
    )
