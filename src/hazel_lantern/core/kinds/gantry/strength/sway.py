"""A gantry pushed sideways and along: its posts, raking legs and braces, and the bolts that join them."""

from __future__ import annotations

from hazel_lantern.core.catalogue import Material, StockSection
from hazel_lantern.core.kinds.base import Design, Limit
from hazel_lantern.core.kinds.gantry.legs import BOLT, HALF, LEG, STRIP, Legs, legs_of
from hazel_lantern.core.kinds.gantry.model import POST, Gantry
from hazel_lantern.core.kinds.shared.pressed import PINNED, pressed
from hazel_lantern.core.kinds.shared.standing import bump
from hazel_lantern.core.kinds.shared.works import bears, works
from hazel_lantern.core.mechanics.pins import WOOD_BEARING
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import PEOPLE, STOP, Finding, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Laid

BRAKE = 1.0  # m/s^2 of the bridge stopped by hand
RAKE = 0.35  # metres


def limits(design: Design, gantry: Gantry) -> tuple[Limit, ...]:
    """The stop its frame is judged by."""
    return (Limit("the stop its frame is judged by", BRAKE, "shot.time"),)


def sway_figures(design: Design, laid: Laid, gantry: Gantry) -> Told:
    """A bump at the top, or the bridge stopped, taken by one post with its leg, along by one with its brace."""
    if gantry.building:
        return Told()  # no frame of its own that could sway
    tell, rig, legs = Teller(), gantry, legs_of(gantry)
    if not legs.out:
        tell.findings.append(
            Finding(
                "rig.sways",
                "Held sideways",
                PEOPLE,
                STOP,
                "foot.rake",
                Words("Nothing keeps the frame from falling over sideways: give its posts raking legs."),
                remedies=(set_one("rake", "Legs that rake out {}", "foot.rake", RAKE, "m"),),
            )
        )
        return tell.told()
    runs = rig.trolley + rig.tip + rig.boom_mass(rig.longest) + rig.counter + rig.bridge.line * rig.span
    push = max(bump(design, laid.mass), BRAKE * (runs + 2 * rig.bridge_ends))
    tell.add(
        by_method(
            "rig.sway_push",
            "Pushes its top by",
            push,
            "N",
            "the larger of a bump and the bridge stopped by hand with 1 m/s²; all on one post",
            (
                Given("m", laid.mass, "kg", "everything", "rig.mass"),
                Given("m_b", runs + 2 * rig.bridge_ends, "kg", "all that runs"),
            ),
            source="statics 6",
        )
    )
    _posts(tell, design, rig, legs, push)
    _leg_and_brace(tell, design, legs, push, rig.height)
    return tell.told()


def _row(design: Design, key: str) -> tuple[StockSection, Material]:
    row = design.catalogue.sections[key]
    return row, design.catalogue.materials[row.material]


def _posts(tell: Teller, design: Design, rig: Gantry, legs: Legs, push: float) -> None:
    """A post bent over the bolt of its raking leg, on its narrow side, or of its brace, on its wide one."""
    post, wood = _row(design, POST)
    aside, along = push * (rig.height - legs.leg), push * legs.brace
    # Sideways the bolt hole lies in the middle of the bent side; along the runways too.
    narrow = (post.depth - BOLT) * post.width**2 / 6
    wide = (post.width - BOLT) * post.depth**2 / 6
    works(
        tell,
        "rig.post_bent",
        "bent post",
        max(aside / narrow, along / wide),
        bears(design, wood),
        "push times what stands above the leg's bolt, or below the brace's, over what the bolt leaves",
        (
            tell.given("F", "rig.sway_push"),
            Given("h_leg", rig.height - legs.leg, "m", "above the leg's bolt", "runway.height"),
            Given("h_brace", legs.brace, "m", "below the brace's bolt", "runway.height"),
        ),
        "runway.height",
        source="statics 3, 9",
        about=PEOPLE,
        remedies=_posts_more(rig),
    )


def _posts_more(rig: Gantry) -> tuple[Remedy, ...]:
    lower = round(0.75 * rig.height, 2)
    return (set_one("lower", "Runways at {}", "runway.height", lower, "m"),) if lower >= 0.5 else ()


def _leg_and_brace(tell: Teller, design: Design, legs: Legs, push: float, height: float) -> None:
    """What presses them, against bowing out and against the bolt in the wood."""
    leg = push * height / legs.leg * legs.leg_long / legs.out
    brace = push * height / (abs(legs.reaches[0]) * HALF)
    wider = round(1.4 * legs.out, 3)
    mend = (set_one("rake", "Legs that rake out {}", "foot.rake", wider, "m"),) if wider <= 1.5 else ()
    for key, name, force, long, row, remedies in (
        ("leg", "raking leg", leg, legs.leg_long, LEG, mend),
        ("brace", "brace", brace, abs(legs.reaches[0]) / HALF, STRIP, ()),
    ):
        strip, board = _row(design, row)
        ei = board.E_low * float(strip.section().least)
        tell.add(
            by_method(
                f"rig.{key}_force",
                f"A {name} is pressed with",
                force,
                "N",
                "push at the top about the post's foot, along the leg"
                if key == "leg"
                else "push at the foot about the top",
                (tell.given("F", "rig.sway_push"),),
                source="statics 6",
            )
        )
        length = Given("L", long, "m", f"{name} from bolt to bolt", "runway.height")
        where = "foot.rake" if key == "leg" else "runway.height"
        keys = (f"rig.{key}_force", f"rig.{key}_bow", f"rig.{key}_bows")
        pressed(tell, "D", keys, name, ei, length, PINNED, where, remedies)
    most, strip = max(leg, brace), _row(design, STRIP)[0]
    works(
        tell,
        "rig.sway_bolt",
        "wood at the bolts of legs and braces",
        most / (0.006 * strip.width),
        WOOD_BEARING["plywood"],
        "the larger force over bolt times thickness of the strip",
        (Given("N", most, "N", "what presses leg or brace"), Given("t", strip.width, "m", "strip")),
        "foot.rake",
        source="statics 7.4",
        about=PEOPLE,
        remedies=mend,
    )
