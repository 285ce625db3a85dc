"""What a construction of the gantry asks beside its frame: a boom of several stages, an end that comes off, bowed
boards, beams that belong to the building.
"""

from __future__ import annotations

import math
from itertools import pairwise

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.gantry.design import BOARDS, PINNED
from hazel_lantern.core.kinds.gantry.model import OVERLAP, Gantry
from hazel_lantern.core.kinds.gantry.strength.bending import Bent
from hazel_lantern.core.kinds.shared.works import works
from hazel_lantern.core.mechanics.footing import knock_default
from hazel_lantern.core.mechanics.safety import HAND_SWING, safety_class
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import BUILD, CLEAR, PEOPLE, PICTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

PIN, HOLE, APART = 0.005, 0.0055, 0.06  # metres: a pin of the boom's end, its hole, between the two
ROCKS = Formula("2*(h - d)/a")
NET = Formula("w - b")
LEVEL = 0.002  # metres of crown or sag of a bridge that nobody sees; workshop judgement
LOOSE = 0.003  # metres of drop at the camera before the tubes bear


def construction_figures(design: Design, gantry: Gantry, bent_at_worst: Bent) -> Told:
    """Each of them where there is one."""
    tell, rig = Teller(), gantry
    if rig.building:
        tell.findings.append(_owner(rig))
    if rig.stages:
        _stages(tell, design, rig)
    if design.text("boom.end") == PINNED:
        _pinned(tell)
    if design.variant == BOARDS and design.number("board.bow"):
        _bowed(tell, design, bent_at_worst)
    return tell.told()


def _owner(rig: Gantry) -> Finding:
    """Beams of the building are not ours to judge."""
    hangs = rig.laid.mass
    words = Words(
        "{} roll on beams that belong to the building: ask who answers for them what they may carry, in writing, and "
        "keep to it.",
        ((hangs, "kg"),),
    )
    return Finding(
        "balance.owner",
        "Beams of the building",
        PEOPLE,
        WATCH,
        "runway.is",
        words,
        hangs,
        0.0,
        "at_most",
        "kg",
        figure="rig.mass",
    )


def _stages(tell: Teller, design: Design, rig: Gantry) -> None:
    """The tube that works hardest where it leaves the one before, drilled for its pin; and the drop that all their play
    lets through.
    """
    inner = len(rig.stages) - 1
    share, push = (rig.longest - rig.shortest) / inner, knock_default(rig.tip * GRAVITY)
    rows = []
    for k, (before, tube) in enumerate(pairwise(rig.stages), 1):
        out = share * (inner - k + 1)  # of the camera, beyond where this tube leaves the one before
        left, room = tube.left_across(HOLE), min(before.width, before.depth) - 2 * before.wall - tube.depth
        moment = HAND_SWING * (rig.tip * GRAVITY * out + push * rig.drop)
        rows.append((moment / left if left > 0 else math.inf, out, left, room, tube))
    stress, out, left, _, tube = max(rows, key=lambda row: row[0])
    stuff = design.catalogue.materials[tube.material]
    given = (
        Given("m", rig.tip, "kg", "camera kit with its drop post", "kit"),
        Given("r", out, "m", "beyond the tube before", "boom.longest"),
        Given("F", push, "N", "push at the camera"),
        Given("Z", left, "m^3", "left at a pin", "boom.section"),
    )
    works(
        tell,
        "rig.stage",
        "tube of the boom that works hardest",
        stress,
        stuff.allowed(safety_class("D").strength(stuff.family)),
        "camera and post beyond the tube before, a push at the camera, times 1.5, over the section left at a pin; of "
        "all inner tubes",
        given,
        "boom.stages",
        source="statics 3, 9",
        about=PEOPLE,
        remedies=(set_one("fewer", "One stage fewer", "boom.stages", float(inner)),),
    )
    tell.add(
        by_method(
            "travel.stage_drop",
            "Play of its tubes drops the camera by",
            sum(room / OVERLAP * (out + OVERLAP) for _, out, _, room, _ in rows),
            "m",
            "room of every tube in the one before, over their overlap, times how far the camera is from its far end; "
            "summed",
            tuple(
                Given(f"p_{k}", room, "m", f"room of tube {k + 1}", "boom.section")
                for k, (_, _, _, room, _) in enumerate(rows, 1)
            ),
            source="geometry",
        )
    )
    tell.hold(
        "travel.stage_drop",
        "travel.stage_loose",
        "Play of the boom's stages",
        PICTURE,
        "boom.stages",
        "Before its tubes bear on each other the camera drops by {}; line the inner one with tape.",
        at_most=LOOSE,
    )


def _pinned(tell: Teller) -> None:
    """Pins in holes that they go into by hand rock."""
    tell.add(
        by_formula(
            "travel.end_rocks",
            "Its pins let the drop post rock by",
            "rad",
            ROCKS,
            (Given("h", HOLE, "m", "hole"), Given("d", PIN, "m", "pin"), Given("a", APART, "m", "between both pins")),
            source="geometry",
        )
    )
    rocks = tell.value("travel.end_rocks")
    words = Words(
        "Pinned, the drop post rocks by {}: wedge it, or drill the holes to the pins. Put the cords of both pins on "
        "first.",
        ((rocks, "rad"),),
    )
    bolted = (set_one("bolt", "Bolt it", "boom.end", "bolted"),)
    tell.hold(
        "travel.end_rocks",
        "travel.end_loose",
        "End of the boom",
        PICTURE,
        "boom.end",
        words,
        at_most=0.002,
        state=WATCH,
        remedies=bolted,
    )


def _bowed(tell: Teller, design: Design, worst: Bent) -> None:
    """A bow laid crown up takes the sag's place; crown down it adds to it."""
    bow, sag = design.number("board.bow"), float(worst.drop.max())
    tell.add(
        by_formula(
            "travel.bow",
            "Bridge hangs through by, with its bow",
            "m",
            NET,
            (
                Given("w", sag, "m", "sag at its worst", "travel.drop"),
                design.given("b", "board.bow", "crown of the boards", "m"),
            ),
            source="geometry",
        )
    )
    net = abs(tell.value("travel.bow"))
    over: tuple[Remedy, ...] = (set_one("over", "Lay them crown up", "board.bow", -bow),) if bow < 0 else ()
    tell.hold(
        "travel.bow",
        "travel.bowed",
        "Bowed boards of the bridge",
        BUILD,
        "board.bow",
        Words(
            "With their bow the boards leave the bridge {} off straight; {} passes. Glue and screw them while they "
            "are held straight."
            if net > LEVEL
            else "Crown up, their bow leaves {} of the sag; {} passes.",
            ((net, "m"), (LEVEL, "m")),
        ),
        at_most=LEVEL,
        value=net,
        state=WATCH if net > LEVEL else CLEAR,
        remedies=over,
    )
