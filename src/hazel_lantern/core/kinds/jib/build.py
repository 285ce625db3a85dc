"""From a design to the jib as a mechanism: sizes first, its pieces laid by them, then bodies and balance from the
pieces.
"""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Carried, Design, Owned
from hazel_lantern.core.kinds.jib.constructions import YOKE_CROWN, fits_together, flange_of, hook_for, yoke_swings
from hazel_lantern.core.kinds.jib.design import (
    BAG,
    BETWEEN,
    CABLE,
    CLAMPED,
    HANGING,
    PAIR,
    PINS,
    ROD,
    TAPERED,
    TELESCOPE,
    UPRIGHT,
    WITH_BAR,
    YOKE,
)
from hazel_lantern.core.kinds.jib.model import (
    ARM,
    BAR,
    BY_BARS,
    BY_CABLE,
    BY_MOTOR,
    CROSSED,
    HEAD_AXIS,
    HUNG,
    LEVEL,
    REAR,
    WEIGHTS,
    Body,
    Cable,
    Jib,
)
from hazel_lantern.core.kinds.jib.parts.layout import CALLED, laid_out
from hazel_lantern.core.kinds.shared.inputs import STIFFNESS, as_found
from hazel_lantern.core.kinds.shared.plates import BOARD
from hazel_lantern.core.mechanics import balance, linkage
from hazel_lantern.core.nouns.errors import GeometryError, InputError, Mend, mend_at
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.workshop.laid import Laid

BAG_RADIUS = 0.12  # metres


def build(design: Design, kit: Carried, owned: Owned) -> Jib:
    """The mechanism of a jib design.

    Raises GeometryError when the arm cannot move at all, InputError for unknown rows or contradictory sizes.
    """
    number = design.number
    weights = dict(owned)
    for key in design.several("weights.hung"):
        if key not in weights:
            raise InputError("weights.hung", repr(key), "is not among the weights owned")
    plates = [weights[key] for key in design.several("weights.hung")]
    sizes = _sizes(design, kit)
    carried = design.text("weights.carried")
    bag = number("weights.bag") if carried == BAG else 0.0
    plate = BAG_RADIUS if bag else max((plate.radius for plate in plates), default=0.03)
    hook = hook_for(sizes.arm, number("weights.above"), plate, square=carried == BAG)
    radius = (2 * plate + hook if carried in (HANGING, BAG) else plate) + max(0.0, -number("weights.above"))
    limits = linkage.jib_limits(
        sizes.height,
        sizes.front,
        sizes.place,
        number("head.low"),
        radius,
        number("limit.ground"),
        sizes.spacing if sizes.level == BY_BARS else None,
        sizes.arm.depth,
        sizes.bar.depth,
        sizes.lean,
        number("limit.bars"),
    )
    if sizes.level == BY_MOTOR:
        # The head turns back by as much as the arm rises.
        limits = linkage.narrowed(
            limits, -number("head.tilt_up"), -number("head.tilt_down"), "the powered head's own range"
        )
    if sizes.held == YOKE:
        swings = yoke_swings(sizes)
        limits = linkage.narrowed(limits, -swings, swings, "the yoke or the plate below it")
    turned = sizes.tilts(np.array([limits.low, limits.high])) - sizes.lean
    if sizes.level == BY_BARS and float(np.abs(turned).max()) > CROSSED:
        alike = (("head.spacing", sizes.spacing), ("bar.longer", 0.0))
        raise GeometryError(
            "the bars cross as the arm swings: make both pairs of holes alike", Mend("Both pairs alike", alike)
        )
    sizes = replace(
        sizes,
        hung=bag + sum(plate.mass for plate in plates),
        plate_radius=plate,
        weights_radius=radius,
        hook=hook,
        limits=limits,
    )
    laid = laid_out(design, kit, sizes, plates)
    bodies = bodies_of(laid, sizes)
    along, above = _moments(bodies, sizes, lambda body: True)
    # A motor that holds the head level hands its moment to the arm; a bar or cable hands it to the post.
    held = sum(b.mass * b.along for b in bodies if b.frame == LEVEL) if sizes.level == BY_MOTOR else 0.0
    arm = balance.Arm(along, above, friction(design, sizes, bodies), held)
    return replace(
        sizes,
        bodies=bodies,
        laid=laid,
        arm_balance=arm,
        front_moment=_moments(bodies, sizes, lambda body: body.name not in WEIGHTS)[0] + held,
    )


def _sizes(design: Design, kit: Carried) -> Jib:
    """All sizes and chosen rows, nothing weighed yet. Raises GeometryError for an arm shorter than its head."""
    number, row = design.number, design.row
    level = BY_BARS if design.variant in WITH_BAR else BY_CABLE if design.variant == CABLE else BY_MOTOR
    arm, bar, post, upright = (
        row("sections", key) for key in ("arm.section", "bar.section", "post.section", "head.section")
    )
    front, spacing = number("arm.front"), number("pivot.spacing")
    least = max(number("head.spacing") if level == BY_BARS else 0.0, 0.1 - number("head.ahead"))
    if front < least:
        raise GeometryError(
            "the front arm is shorter than the head it carries", mend_at("Arm {}", "arm.front", least + 0.1)
        )
    crown = {BY_BARS: spacing + 0.035, BY_CABLE: number("cable.post_wheel") / 2 + 0.03, BY_MOTOR: 0.05}[level]
    made, held, post_length = design.text("arm.made"), design.text("post.made"), number("post.length")
    pan = row("turntables", "pan.bearing")
    tip = row("sections", "arm.tip") if made in (TELESCOPE, TAPERED) else None
    fits_together(design, level, arm, tip, pan)
    if held == YOKE:
        post, post_length, crown = flange_of(post), post.width, YOKE_CROWN
    elif held == BETWEEN:
        upright = post
    stand = row("stands", "stand")
    angles = number("stand.turn") + 2 * math.pi * np.arange(stand.legs) / stand.legs
    lens, mount = kit.lens_at_m, (number("head.ahead"), number("head.rise"))
    cable = Cable(
        row("ropes", "cable.rope"),
        number("cable.post_wheel") / 2,
        number("cable.head_wheel") / 2,
        number("cable.tension"),
        number("cable.adjust"),
        design.text("cable.over") == PINS,
    )
    return Jib(
        level=level,
        held=held,
        front=front,
        rear=number("arm.rear"),
        upper=front + number("bar.longer"),
        spacing=spacing,
        head_spacing=number("head.spacing"),
        crown=crown,
        post_length=post_length,
        height=number("pivot.height"),
        lean=number("post.lean"),
        bars=2 if made == PAIR else 1,
        arm=arm,
        tip=tip,
        tip_from=number("arm.joint") - number("arm.sleeve") if made == TELESCOPE else 0.0,
        offset=HEAD_AXIS + BOARD + arm.depth / 2 if held == CLAMPED else 0.0,
        whole=design.text("weights.carried") == UPRIGHT,
        bar=bar,
        post=post,
        upright=upright,
        arm_section=arm.section(),
        bar_section=bar.section(),
        arm_material=as_found(design.catalogue.materials[arm.material], number(STIFFNESS)),
        bolt=row("bolts", "pin.bolt"),
        grade=row("grades", "pin.grade"),
        rod=design.text("pin.made") == ROD,
        bearing=row("bearings", "pivot.bearing"),
        stand=stand,
        pan=pan,
        cable=cable,
        mast=number("stay.mast"),
        feet=number("stand.radius") * np.column_stack([np.cos(angles), np.sin(angles)]),
        bodies=(),
        hung=0.0,
        place=number("weights.place"),
        above=number("weights.above"),
        plate_radius=0.0,
        weights_radius=0.0,
        hook=0.0,
        limits=linkage.Limits(0.0, 0.0, "", "", (), ()),
        lens=(mount[0] + lens[0], mount[1] + lens[2]),
        mount=mount,
        arm_balance=balance.Arm(0.0, 0.0, 0.0),
        front_moment=0.0,
        laid=Laid(),
    )


def bodies_of(laid: Laid, jib: Jib) -> tuple[Body, ...]:
    """The bodies of the mechanism, each of all the pieces that go by its name; weights that hang act at their pin."""
    found: dict[str, list[tuple[float, str, np.ndarray]]] = {}
    names = {part.name: CALLED.get(part.mark, part.name.lower()) for part in laid.parts}
    for piece in laid.placed:
        body, centre = piece.body, piece.centre
        if body == HUNG:
            body, centre = ARM, np.array([-jib.place, 0.0, jib.above + jib.offset])
        found.setdefault(names.get(piece.name, piece.name), []).append((piece.mass, body, centre))
    bodies = []
    for name, pieces in found.items():
        mass = sum(mass for mass, _, _ in pieces)
        # Something massless still has a place.
        weights = [m / mass for m, _, _ in pieces] if mass > 0 else [1 / len(pieces)] * len(pieces)
        centre = sum((share * at for share, (_, _, at) in zip(weights, pieces, strict=True)), np.zeros(3))
        bodies.append(Body(name, mass, pieces[0][1], float(centre[0]), float(centre[2]), float(centre[1])))
    return tuple(bodies)


def friction(design: Design, jib: Jib, bodies: tuple[Body, ...]) -> float:
    """Friction of the clamped faces, and of the loaded pins in their bores, arm level [N*m]; all pivots turn by the
    same angle. A fluid head tilts with the drag that it pans with.
    """
    if jib.held == CLAMPED:
        return jib.pan.friction
    level, bearing, bolt = jib.level, jib.bearing, jib.bolt
    washers: float = jib.faces * balance.washer_friction(
        design.number("pivot.clamp"), bearing.mu, bolt.d / 2, bolt.washer_od / 2
    )
    swung = sum(b.mass for b in bodies if b.frame in (ARM, BAR, LEVEL, REAR))
    head = sum(b.mass for b in bodies if b.frame == LEVEL) if level != BY_MOTOR else 0.0
    pull = 4 * design.number("cable.tension") if level == BY_CABLE else 0.0
    return washers + bearing.mu * bolt.d / 2 * (GRAVITY * (swung + head) + pull)


def _moments(bodies: tuple[Body, ...], jib: Jib, wanted: Callable[[Body], bool]) -> tuple[float, float]:
    """Static moments about the pivot; level bodies act at their pin, what a rear upright carries at its own."""
    taken = [body for body in bodies if body.frame in (ARM, BAR, LEVEL, REAR) and wanted(body)]
    acts = {LEVEL: (jib.front, jib.offset), REAR: (-jib.place, 0.0)}
    places = [acts.get(b.frame, (b.along, 0.0 if b.frame == BAR else b.above)) for b in taken]
    return balance.static_moments(np.array([b.mass for b in taken]), np.array(places))
