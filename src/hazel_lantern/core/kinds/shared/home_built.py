"""A stand built of boards: a post of two boards, legs that rake out from a hub on it, hinged by one bolt each."""

from __future__ import annotations

import math

from hazel_lantern.core.catalogue import Stand
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.shared.pressed import PINNED, pressed
from hazel_lantern.core.kinds.shared.works import bears, letter, works
from hazel_lantern.core.mechanics.pins import WOOD_BEARING
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import PEOPLE, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told

HUB = 0.55  # of the post's height at which its legs are hinged
BOLT = 0.008  # metres
BUILT = "post"  # the shape of a stand that is built, not bought


def built_figures(design: Design, stand: Stand, top: float, spread: float, load: float, push: float, at: float) -> Told:
    """Strength of its boards, buckling of its legs, the wood at their bolts.

    top: of its post [m]; spread: of its feet from the centre [m]; load: that it carries [N]; push: at a height `at` above
    the ground [N, m]

    Source: the push about the hub by the boards; half of the load and all of the push on one leg; statics 4.5, 7.4, 9.
    """
    if stand.shape != BUILT:
        return Told()
    tell, hub = Teller(), HUB * top
    board, leg = design.row("sections", "stand.board"), design.row("sections", "stand.leg")
    wood, timber = (design.catalogue.materials[row.material] for row in (board, leg))
    given = (
        Given("W", load, "N", "what it carries", "stand"),
        Given("F", push, "N", "bump at the camera"),
        Given("h", at, "m", "height of the bump"),
    )
    # Boards side by side bend about their own depth, drilled for the hinge bolts.
    left = 2 * board.left_across(BOLT + 0.0005)
    works(
        tell,
        "rig.stand_boards",
        "boards of the post",
        push * max(at - hub, 0.0) / left if left > 0 else math.inf,
        bears(design, wood),
        "the bump about the hub, over two boards drilled for the hinges",
        (*given, Given("z", hub, "m", "hub above ground")),
        "stand.board",
        source="statics 9",
        about=PEOPLE,
        verb="work",
        remedies=_thicker(design, "stand.board", float(board.section().modulus)),
    )
    long = math.hypot(spread, hub)
    presses = (load / 2 + push * at / spread) * long / hub
    tell.add(
        by_method(
            "rig.stand_leg",
            "A leg is pressed with",
            presses,
            "N",
            "half of the load and the bump about the other feet, along the leg",
            (*given, Given("r", spread, "m", "feet from the centre", "stand.radius")),
            source="statics 6",
        )
    )
    ei = timber.E_low * float(leg.section().least)
    length = Given("L", long, "m", "leg from hinge to foot", "stand.radius")
    keys = ("rig.stand_leg", "rig.stand_leg_bows", "rig.stand_leg_buckles")
    mend = _thicker(design, "stand.leg", float(leg.section().least))
    pressed(tell, letter(design), keys, "leg of the stand", ei, length, PINNED, "stand.leg", mend)
    works(
        tell,
        "rig.stand_hinge",
        "wood at a leg's hinge",
        presses / (BOLT * leg.width),
        WOOD_BEARING.get(timber.id, 5e6) if timber.family == "wood" else 1.5 * bears(design, timber),
        "what presses the leg over an M8 through it",
        (tell.given("N", "rig.stand_leg"), Given("t", leg.width, "m", "thickness of the leg", "stand.leg")),
        "stand.leg",
        source="statics 7.4",
        about=PEOPLE,
        remedies=mend,
    )
    return tell.told()


def _thicker(design: Design, key: str, now: float) -> tuple[Remedy, ...]:
    """The lightest board of the same wood that is half as strong again or stiffer."""
    row = design.row("sections", key)
    found = [
        (float(b.section().area), b.id, b.name)
        for b in design.catalogue.sections.values()
        if (b.shape, b.material, b.system) == (row.shape, row.material, row.system)
        and min(float(b.section().modulus), float(b.section().least) * 1e3) > 0
        and (float(b.section().modulus) if key.endswith("board") else float(b.section().least)) >= 1.5 * now
    ]
    if not found:
        return ()
    _, chosen, name = min(found)
    return (set_one("thicker", f"Take {name[:1].lower()}{name[1:]}", key, chosen),)
