"""Day to day at the arm: another camera kit, the order of loading, and the ways on which good builders differ."""

from __future__ import annotations

from hazel_lantern.core.kinds.base import Carried, Design, OtherKit, Owned, School, Swap
from hazel_lantern.core.kinds.jib.balance.weights import rack
from hazel_lantern.core.kinds.jib.design import (
    BAG,
    BARS,
    BETWEEN,
    CABLE,
    CHEEKS,
    HANGING,
    HOLES,
    ONE,
    PAIR,
    PLAIN,
    SINGLE,
    SLOT,
)
from hazel_lantern.core.kinds.jib.model import BY_MOTOR, LEAST, Jib
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.words import Words


def swaps(design: Design, kit: Carried, owned: Owned, others: tuple[OtherKit, ...], jib: Jib) -> tuple[Swap, ...]:
    """For each other kit of the project: how far to slide, or what to hang instead."""
    return tuple(_swap(design, kit, owned, jib, other) for other in others)


def _swap(design: Design, kit: Carried, owned: Owned, jib: Jib, other: OtherKit) -> Swap:
    now = jib.mass_of("camera kit") * (jib.front + (_ahead(jib, float(kit.payload.cg[0]))))
    front = jib.front_moment - now + other.mass * (jib.front + _ahead(jib, other.ahead))
    mass, place = jib.hung + design.number("weights.holder"), design.number("weights.place")
    near, rear = design.number("weights.nearest"), design.number("arm.rear")
    target = front / mass if mass >= LEAST else 0.0
    if jib.hung > 0 and near <= target <= rear and design.text("weights.carried") in (SLOT, HANGING):
        moved, more = target - place, (front / place) - mass
        words = Words(
            "slide the weights {} "
            + ("out" if moved > 0 else "in")
            + (", or hang {} more" if more > 0 else ", or take {} off"),
            ((abs(moved), "m"), (abs(more), "kg")),
        )
        return Swap(other.id, words, (("kit", other.id), ("weights.place", round(target, 4))))
    try:
        changes = rack(design, owned, front)
    except (InfeasibleError, InputError) as error:
        return Swap(other.id, Words(str(error).replace("{", "(").replace("}", ")")), ())
    if design.text("weights.carried") == BAG:
        return Swap(
            other.id,
            Words("fill the bag to {}", ((float(str(dict(changes)["weights.bag"])), "kg"),)),
            (("kit", other.id), *changes),
        )
    (_, hung), (_, at) = changes
    assert isinstance(hung, tuple) and isinstance(at, float)
    weights = dict(owned)
    return Swap(
        other.id,
        Words("hang {} at {}", ((float(sum(weights[key].mass for key in hung)), "kg"), (at, "m"))),
        (("kit", other.id), *changes),
    )


def _ahead(jib: Jib, kit_ahead: float) -> float:
    """How far ahead of the pin a kit counts: only a motor hands its moment to the arm [m]."""
    return jib.mount[0] + kit_ahead if jib.level == BY_MOTOR else 0.0


def loading(design: Design, owned: Owned, jib: Jib) -> tuple[Words, ...]:
    """The steps of loading the arm; it is unloaded backwards."""
    weights = dict(owned)
    plates = sorted((weights[key] for key in design.several("weights.hung")), key=lambda plate: plate.mass)
    strap = design.number("park.lever")
    steps = [
        Words("Set the stand level, feet {} from the centre, and lock it", ((design.number("stand.radius"), "m"),))
    ]
    if design.number("ballast.mass") > 0:
        steps.append(
            Words("Hang {} of ballast below the hub, clear of the ground", ((design.number("ballast.mass"), "kg"),))
        )
    steps += [
        Words("Strap the arm down {} ahead of the pivot; nobody under either end", ((strap, "m"),)),
        Words("Head and camera on, {}, with their safety leash", ((jib.head_mass, "kg"),)),
    ]
    if plates:
        template = "Hang the weights, smallest first: " + ", ".join("{}" for _ in plates) + "; pin them at {}"
        steps.append(
            Words(template, (*((plate.mass, "kg") for plate in plates), (design.number("weights.place"), "m")))
        )
    steps += [
        Words("One hand on the arm, loosen the strap; let go only when it stays"),
        Words("To unload go backwards: strap first, then the weights, the camera last"),
    ]
    return tuple(steps)


SCHOOLS = (
    School("Pivots", (
        ("tight, greased steel washers", (("pivot.bearing", "steel"), ("pivot.clamp", 250.0)),
            "stays where it is left; a hand feels it start"),
        ("loose, plastic washers", (("pivot.bearing", "nylon"), ("pivot.clamp", 40.0)),
            "moves at a touch; asks for closer balance"),
        ("ball bearings", (("pivot.bearing", "ball"), ("pivot.clamp", 20.0)),
            "freest; drifts with every gram, dearer"))),
    School("Balancing", (
        ("slide the weight", (("weights.carried", SLOT),), "to the gram with few plates; needs a slot"),
        ("add plates, hole to hole", (("weights.carried", HOLES),), "strong arm without a slot; needs small plates"),
        ("hang them below a pin", (("weights.carried", HANGING),),
            "anything with a handle serves; they must not swing"),
        ("fill a bag", (("weights.carried", BAG),),
            "to the gram with no plates at all; swings, and leaks in the rain"))),
    School("Pivot held by", (
        ("two cheeks", (("post.made", CHEEKS),), "strongest; the bolt has two sides to bear on"),
        ("one upright", (("post.made", SINGLE),), "half the parts, the arm lifts out; hangs to one side"),
        ("one post between two bars", (("post.made", BETWEEN), ("arm.made", PAIR)),
            "straight loads from boards alone; two of every bar"))),
    School("Stand", (
        ("heavy tripod", (("stand", "tripod-heavy"), ("stand.radius", 0.8)), "quick on any ground; bought"),
        ("speaker-type stand", (("stand", "stand-speaker"), ("stand.radius", 0.6)), "cheap and light; twists, narrow"),
        ("four-leg wooden post", (("stand", "post-wood"), ("stand.radius", 0.9)), "calm and wide; heavy, one height"))),
    School("Arm", (
        ("aluminium tube", (("arm.section", "al6063-30x60x3"), ("arm.made", ONE)),
            "light and stiff; dents at the pivot"),
        ("steel tube", (("arm.section", "steel-30x50x2"), ("arm.made", ONE)),
            "cheap, welds; heavy to carry and to stop"),
        ("two boards", (("arm.section", "pine-18x44"), ("arm.made", PAIR)),
            "hand tools only; bounces, moves with damp"))),
    School("Tilt trim", (
        ("by moving a pivot", (("variant", BARS),), "nothing to slip; trimmed once, with a drill"),
        ("by the cable's adjuster", (("variant", CABLE),), "trimmed while shooting; cable to keep tight"),
        ("at the powered head", (("variant", PLAIN),),
            "any tilt at any time; battery, weight and money at the far end"))),
)  # fmt: skip
TOLD_APART_BY = (
    "balance.friction",
    "balance.push",
    "balance.step",
    "rig.angle_high",
    "rig.nod",
    "balance.footing",
    "rig.bounce_locked",
    "rig.sag",
    "build.match",
    "rig.mass",
    "build.cost",
)
