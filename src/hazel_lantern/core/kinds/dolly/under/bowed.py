"""A track bent to an arc is held: what springs back, what the end ties carry, whether ties hold by themselves."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.dolly.bend import Bend
from hazel_lantern.core.kinds.dolly.inputs import BY_CORD, PEGGED
from hazel_lantern.core.kinds.dolly.model import Dolly
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.mechanics import arcs
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, STOP, STRUCTURE, WATCH, Finding, set_one
from hazel_lantern.core.nouns.told import Teller
from hazel_lantern.core.nouns.words import Words

SPRINGS = (50.0, 100.0)  # newtons of a cord, of an end tie, from which two people lay it
SLIPS = 1.5  # times what it is pushed with, that a tie holds


def bow_of(rail: Straight, bend: Bend, radius: float) -> arcs.Bow:
    """One of its pipes as a bow of its own length and chord."""
    long, chord = radius * bend.angle, 2 * radius * math.sin(bend.angle / 2)
    return arcs.bow(long, chord, rail.material.E * rail.section.upright)


def bow_held(tell: Teller, design: Design, rail: Straight, dolly: Dolly, bend: Bend) -> None:
    """What holds both pipes bent, and flies back when it is let go."""
    ei = rail.material.E * rail.section.upright
    inside, outside = bend.radius - rail.spacing / 2, bend.radius + rail.spacing / 2
    given = (
        Given("EI", ei, "N*m^2", "bending stiffness of a pipe", "rail.section"),
        Given("R", bend.radius, "m", "radius of its middle", "bend.radius"),
    )
    if design.text("bend.held") == BY_CORD:
        try:
            bows = [bow_of(rail, bend, radius) for radius in (inside, outside)]
        except InputError as error:
            tell.findings.append(
                Finding(
                    "balance.cord",
                    "Held by a cord",
                    STRUCTURE,
                    STOP,
                    "bend.held",
                    Words(f"A cord does not hold that arc: it {error.allowed}. Ties do."),
                )
            )
            return
        off = max(
            abs(b.rise - r * (1 - math.cos(bend.angle / 2))) for b, r in zip(bows, (inside, outside), strict=True)
        )
        tell.add(
            by_method(
                "balance.cord_pull",
                "A cord is pulled with",
                max(b.pull for b in bows),
                "N",
                "a pipe as an elastic line, its ends drawn together",
                given,
                source="dynamics 5",
                headline=True,
            ),
            by_method(
                "rig.cord",
                "Cord of the inner pipe",
                2 * inside * math.sin(bend.angle / 2),
                "m",
                "from end to end; a table of others is in the order of laying",
                given[1:],
                source="dynamics 5",
            ),
            by_method(
                "rig.off_arc",
                "A bow lies off an arc by",
                off,
                "m",
                "rise of an elastic line against that of an arc: spacers to the set-out, not to the bow",
                given,
                source="dynamics 5",
            ),
        )
        pull, most = tell.value("balance.cord_pull"), SPRINGS[0]
    else:
        spans = dolly.spans
        spacing = min(float(np.mean(spans)) * bend.inner / bend.outer, 0.99 * inside)
        ties = arcs.tie_forces(ei, inside, spacing)
        tell.add(
            by_method(
                "balance.end_tie",
                "Last ties hold each pipe with",
                ties.end,
                "N",
                "three moments, the inner pipe, its ends free",
                (*given, Given("a", spacing, "m", "ties on the inner pipe", "tie.spacing")),
                source="dynamics 5",
                headline=True,
            ),
            by_method(
                "balance.second_tie",
                "those before them, the other way, with",
                ties.second,
                "N",
                "three moments",
                (*given, Given("a", spacing, "m", "ties on the inner pipe", "tie.spacing")),
                source="dynamics 5",
            ),
        )
        pull, most = max(ties.end, ties.second), SPRINGS[1]
        _ties_hold(tell, design, 2 * pull)
    stays = design.number("bend.stays")
    words = (
        f"Let go, both pipes fly straight with {{}} each{': hold both ends' if pull > most else ''}; two people lay "
        "it, and the ends are freed last."
    )
    tell.findings.append(
        Finding(
            "balance.springs",
            "Springs back if let go",
            PEOPLE,
            WATCH if pull > most else CLEAR,
            "rail.section",
            Words(words, ((pull, "N"),)),
            pull,
            most,
            "at_most",
            "N",
        )
    )
    if stays > 0:
        tell.add(
            by_method(
                "balance.stays",
                "Left bent it stays at a radius of",
                bend.radius / stays,
                "m",
                "what it keeps of its bend; let it go and lie straight after the day",
                (design.given("k", "bend.stays", "keeps of its bend", "1"), given[1]),
                source="dynamics 5",
            )
        )


def _ties_hold(tell: Teller, design: Design, pull: float) -> None:
    """Two pipes on ties that only lie there straighten as one: something outside them must hold."""
    tell.add(
        by_method(
            "balance.tie_slips",
            "A tie is pushed sideways with",
            pull,
            "N",
            "by both pipes, the most of any tie",
            (tell.given("F", "balance.second_tie"), tell.given("E", "balance.end_tie")),
            source="dynamics 5",
        )
    )
    pegged = design.text("tie.held") == PEGGED
    holds = design.number("bend.peg") / SLIPS if pegged else 0.0
    firmer = set_one("firmer", "Ties that hold {}", "bend.peg", math.ceil(1.2 * SLIPS * pull / 10) * 10.0, "N")
    mend = (
        (firmer,)
        if pegged
        else (
            set_one("peg", "Peg or screw the ties down", "tie.held", PEGGED),
            set_one("cord", "A cord from end to end", "bend.held", BY_CORD),
        )
    )
    tell.hold(
        "balance.tie_slips",
        "balance.ties_hold",
        "Ties hold the bow",
        STRUCTURE,
        "bend.peg" if pegged else "tie.held",
        "A tie is pushed sideways with {}; half as much again to spare, it holds {}."
        if pegged
        else "Ties that only lie there do not hold it bent: each is pushed with {} and holds {}.",
        at_most=holds,
        state="" if pegged else STOP,
        remedies=mend,
    )
