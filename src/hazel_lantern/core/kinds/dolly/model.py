"""A dolly as a mechanism: two pipes on ties, a deck on wheel pairs, the camera on a tripod or on the deck itself."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import pairwise

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.catalogue import Stand
from hazel_lantern.core.kinds.base import Carried, Design, Member, Members, Run
from hazel_lantern.core.kinds.dolly.bend import Bend, bend_of, bent, holds
from hazel_lantern.core.kinds.dolly.deck import BAG, LOAD, bears, deck_top, feet, pieces
from hazel_lantern.core.kinds.dolly.design import LONE
from hazel_lantern.core.kinds.dolly.inputs import (
    ARC,
    AS_IT_LIES,
    BOARDS,
    CARPET,
    CONCRETE,
    FLOOR,
    FRAME,
    NOBODY,
    NONE,
    ON_FLOOR,
    PEGGED,
    TILES,
    TRIPOD,
    TRUCKS,
)
from hazel_lantern.core.kinds.rail.joints import joints_of
from hazel_lantern.core.kinds.rail.model import Borne, Carriage, Lift, Straight, carrier, corners, loaded, straight
from hazel_lantern.core.kinds.rail.parts import CARRIAGE, Held, rails
from hazel_lantern.core.kinds.rail.parts import frames as along
from hazel_lantern.core.kinds.shared.inputs import ROLLING
from hazel_lantern.core.kinds.shared.pieces import members_of
from hazel_lantern.core.mechanics.footing import support_polygon
from hazel_lantern.core.mechanics.rails import Rest
from hazel_lantern.core.mechanics.ties import wedged
from hazel_lantern.core.nouns.errors import GeometryError, Mend, mend_at
from hazel_lantern.core.workshop.laid import Bodies, Laid, Pieces, lay
from hazel_lantern.core.workshop.part import Buy

LIFT = Lift("camera.rise", 0.08, 2.2, "Mount at {}")
# A wheel's rolling coefficient, which is told for pipe, times this on a floor; dynamics 3.2.
ROLLS = {CONCRETE: 1.25, TILES: 1.25, BOARDS: 2.0, CARPET: 5.0}
BALLAST = np.linspace(0.0, 80.0, 33)  # kilograms that are looked at
TRUCK_LEAST = 0.04  # metres of a truck's axle between its wheels
ENDS = 0.06  # metres from an end of the track to the middle of its last tie
TIE_LONGER = 0.12  # metres of a tie beyond both pipes
BESIDE = 0.03  # metres from a joint to the middle of the next tie, at least
SCREW_CLEAR = 0.012  # metres from the end of what is let in to a tie's screw
BETWEEN_TIES = 0.004  # metres between two of their boards
LAST = 0.9  # of the usual span between ties, for the same dip
LENGTHWISE = 2 / math.sqrt(3)  # of the gauge, how far apart two feet of three are along it
LEAST_FEET = 0.2  # metres of a tripod's feet from its centre
USUAL_OF = {  # what is offered where a section is of the wrong shape
    "rail.section": ("al6063-round-30x2", "galv-round-33.7x3.2"),
    "tie.section": ("plywood-18x100", "plywood-18x150"),
    "frame.section": ("galv-round-26.9x2.6", "al6063-round-30x2"),
    "deck.rib": ("pine-28x45", "pine-18x44"),
}


class Dolly(Struct, frozen=True):
    """A deck on a track or on the floor, places of the ties along it [m], the tripod, its feet on the deck from the
    mount's middle
    (3, 2) [m], none where the camera sits on the deck, the deck's top above pipes or floor and thickness of a tie [m],
    what the deck bears beside the kit, the ballast of that [kg], how far apart gaps of the floor are, 0 for none [m],
    places and heights of ground that was measured, the lowest at 0 (k, 3), what lies under the left and right end of
    every tie then (ties, 2), none where it was not [m], all pieces, and the arc of a track that is bent.
    """

    way: Carriage
    ties: tuple[float, ...]
    stand: Stand
    feet: np.ndarray
    top: float
    tie: float
    borne: tuple[Borne, ...]
    ballast: float
    gaps: float
    ground: np.ndarray
    wedges: np.ndarray
    laid: Laid
    bend: Bend | None = None

    @property
    def spans(self) -> tuple[float, ...]:
        """Between ties, from one end to the other [m]."""
        return tuple(b - a for a, b in pairwise(self.ties))

    @property
    def masses(self) -> tuple[np.ndarray, np.ndarray]:
        """All that rolls as points, the camera kit last: masses (n,) [kg], places (n, 3)
        from its middle on the track [m]."""
        weighs, at = np.array([one.mass for one in self.borne]), np.array([one.at for one in self.borne])
        kit = self.way.moving - weighs.sum()
        camera = (self.way.cg * self.way.moving - weighs @ at) / kit
        return np.append(weighs, kit), np.vstack([at, camera])

    def ballasted(self, by: float) -> Dolly:
        """With so much more ballast [kg], less where it is below zero; its pieces stay as they are."""
        at = np.array([*self.way.middle, self.top + BAG / 2])
        way, mass = self.way, self.way.moving + by
        moved = replace(
            way, moving=mass, cg=(way.cg * way.moving + by * at) / mass, follows=way.follows * way.moving / mass
        )
        return replace(self, way=moved, borne=(Borne(by, at), *self.borne))


def tie_places(
    length: float, most: float, cuts: tuple[float, ...] = (), clear: float = BESIDE, room: float = 0.0
) -> tuple[float, ...]:
    """Where ties lie: evenly, no further apart than asked, the last spans nine tenths of the others; one that would
    come nearer than `clear` to a joint makes room for one on either side of it, and one nearer than `room` to those is
    moved away [m].
    """
    long = length - 2 * ENDS
    spans = max(1, math.ceil(long / most + 2 * (1 - LAST) - 1e-9)) if long > most else 1
    if spans == 1:
        places = [ENDS, length - ENDS]
    else:
        usual = long / (spans - 2 * (1 - LAST))
        widths = [usual] * spans
        widths[0] = widths[-1] = LAST * usual
        places = [float(ENDS + x) for x in np.concatenate([[0.0], np.cumsum(widths)])]
    near = {cut for cut in cuts if any(abs(place - cut) < clear for place in places)}
    kept = [place for place in places if all(abs(place - cut) >= clear for cut in near)]
    beside = [at for cut in near for side in (-1, 1) if ENDS <= (at := cut + side * clear) <= length - ENDS]
    inner = [place for place in kept if ENDS < place < length - ENDS]
    ends = [place for place in kept if place not in inner]
    for at in beside:
        inner = [at + math.copysign(room, place - at) if abs(place - at) < room else place for place in inner]
    # One that two joints push about lies between their own ties already.
    inner = [place for place in inner if all(abs(place - other) > room - 1e-9 for other in beside)]
    return tuple(sorted([*ends, *inner, *beside]))


def rests_for(design: Design, most: float, *, pegged: bool, narrows: float = 1.0) -> tuple[Rest, ...]:
    """Ties on the ground as supports of both pipes: the ground gives under either of them by itself."""
    k, bar = design.number("ground.stiffness"), design.row("sections", "rail.section")
    joints = joints_of(design, bar, design.number("rail.length"), ())
    # Boards of an arc come closer on its inner side.
    room = narrows * design.row("sections", "tie.section").depth + BETWEEN_TIES
    # Its screws go beside what is let into the pipes, its board beside the screws of that, and the other's board.
    let_in = joints.splice.overlap if joints.splice else 0.0
    clear = max(BESIDE, let_in + SCREW_CLEAR, room / 2)
    places = tie_places(design.number("rail.length"), most, joints.cuts, clear, room)
    return tuple(Rest(x, kz=k, pulls=pegged, apart=True) for x in places)


def build(design: Design, kit: Carried) -> Dolly:
    """The mechanism of a dolly. Raises GeometryError where it does not fit together, InputError for unknown rows."""
    if design.variant == FRAME:  # a tripod stands on its trolleys, and nowhere else
        settled = {"camera.on": TRIPOD, "camera.ahead": 0.0, "camera.aside": 0.0, "rider": NOBODY, "handle.height": 0.0}
        design = replace(design, values={**design.values, **settled})
    if design.variant in ON_FLOOR:
        return _on_floor(design, kit)
    bend = None
    if design.variant == ARC:  # worked out straight along its outer pipe, where ties and joints are furthest apart
        bend = bend_of(design, kit)
        design = replace(design, values={**design.values, "rail.length": bend.outer, "rail.slope": 0.0})
    number = design.number
    pipe, wheel, tie = (
        design.row("sections", "rail.section"),
        design.row("wheels", "carriage.wheel"),
        design.row("sections", "tie.section"),
    )
    _check(design, pipe.shape, wheel, tie.shape)
    narrows = 1.0 if bend is None else bend.outer / (bend.inner - TIE_LONGER)
    rests = rests_for(design, number("tie.spacing"), pegged=design.text("tie.held") == PEGGED, narrows=narrows)
    slope, length, gauge = number("rail.slope"), number("rail.length"), number("rail.spacing")
    ties = tuple(rest.x for rest in rests)
    ground = measured(design)
    wedges = wedged(ground, ties, slope, number("ground.packed")) if len(ground) else np.zeros((0, 2))
    # The track's lower end lies on its ties, the other is packed up; measured ground lies where it does.
    lies = number("ground.packed") + length / 2 * abs(math.sin(slope))
    if len(ground):
        under = wedges[0, 0] + float(np.interp(ties[0], ground[:, 0], ground[:, 1]))
        lies = under + (length / 2 - ties[0]) * math.sin(slope)
    height = tie.width + pipe.depth + lies
    base = (
        ("rail.spacing", LENGTHWISE * gauge)
        if design.variant == FRAME
        else ("carriage.wheelbase", number("carriage.wheelbase"))
    )
    three = design.variant in LONE
    middle = (0.0, gauge / 6 if three else 0.0)  # of three corners
    stand, top = design.row("stands", "stand"), deck_top(design, pipe.depth, wheel)
    borne = bears(design, stand, top, middle, base[1])
    way = straight(
        design, kit, 2, rests, three, "dolly", base=base, height=height, borne=borne, lift=LIFT, middle=middle
    )
    if bend is not None:
        way = replace(way, radius=bend.side * bend.radius, measured=bend.radius + gauge / 2)
    track = rails(design, way, (), Held(0.0), ties, (design.text("tie.section"), TIE_LONGER))
    if bend is not None:
        track = bent(design, way, bend, track) + Pieces(loose=holds(design, bend, len(ties)))
    pairs = Buy("Pair of wedges, 1 in 8", 2 * len(ties), 1.1, "under either end of every tie")
    return _put_together(
        design, kit, way, ties, stand, top, tie.width, borne, track + Pieces(loose=(pairs,)), ground, wedges, bend
    )


def measured(design: Design) -> np.ndarray:
    """Places along the track and heights under both pipes (k, 3), the lowest at 0 [m]; none where fewer than two were
    measured, or it lies as the ground does.
    """
    rows = design.rows("ground.heights")
    if len(rows) < 2 or design.text("ground.lies") == AS_IT_LIES:
        return np.zeros((0, 3))
    return np.asarray(rows - [0.0, rows[:, 1:].min(), rows[:, 1:].min()])


def _on_floor(design: Design, kit: Carried) -> Dolly:
    """A board on wheels that roll on the floor."""
    wheel, gauge, base = (
        design.row("wheels", "carriage.wheel"),
        design.number("rail.spacing"),
        design.number("carriage.wheelbase"),
    )
    if wheel.shape == "caster" and design.variant == TRUCKS:
        raise GeometryError(
            "a truck steers by itself and takes plain wheels: casters go under a board on fixed wheels", *_plain(design)
        )
    if wheel.shape not in ("round", "caster"):
        raise GeometryError("floor wheels have a flat tread: choose a round one or a caster", *_plain(design))
    times = design.number(ROLLING) * ROLLS[design.text("floor.kind")]
    top = deck_top(design, 0.0, wheel)
    stand = design.row("stands", "stand")
    borne = bears(design, stand, top, (0.0, 0.0), base)
    way = loaded(
        design,
        kit,
        corners(base, gauge, three=False),
        wheel,
        "dolly",
        base=("carriage.wheelbase", base),
        beyond=wheel.d / 2,
        pressed=1.0,
        spacing=gauge,
        drag=(times * wheel.rolling, times * wheel.rolling_high),
        # On a slope its middle stands half-way up.
        height=design.number("rail.length") / 2 * abs(math.sin(design.number("rail.slope"))),
        borne=borne,
        lift=LIFT,
        forked=design.variant == FLOOR,
    )
    none = np.zeros((0, 2))
    return _put_together(design, kit, way, (), stand, top, 0.0, borne, Pieces(), none, none)


def _put_together(
    design: Design,
    kit: Carried,
    way: Carriage,
    ties: tuple[float, ...],
    stand: Stand,
    top: float,
    tie: float,
    borne: tuple[Borne, ...],
    track: Pieces,
    ground: np.ndarray,
    wedges: np.ndarray,
    bend: Bend | None = None,
) -> Dolly:
    on_tripod = design.text("camera.on") == TRIPOD
    cups = feet(design, way.spacing) if on_tripod else np.zeros((0, 2))
    _on_deck(design, way, cups)
    laid = lay(track + pieces(design, kit, way, stand, cups, top), frames(way, np.zeros((1, 1))))
    gaps = design.number("floor.every") if design.variant in ON_FLOOR else 0.0
    return Dolly(
        way, ties, stand, cups, top, tie, borne, design.number("ballast.mass"), gaps, ground, wedges, laid, bend
    )


def _check(design: Design, pipe: str, wheel: object, tie: str) -> None:
    if pipe not in ("round_tube", "solid_round"):
        raise GeometryError(
            "inclined wheel pairs run on round pipe: choose a round section for the track",
            *_of_shape(design, "rail.section", "round_tube"),
        )
    if getattr(wheel, "shape", "") != "round":
        raise GeometryError(
            "wheel pairs take round wheels: a grooved one has no flat tread to lean on a pipe", *_plain(design)
        )
    if tie != "flat_bar":
        raise GeometryError("ties are boards: choose a flat section", *_of_shape(design, "tie.section", "flat_bar"))
    if design.variant == FRAME and design.row("sections", "frame.section").shape not in ("round_tube", "solid_round"):
        raise GeometryError(
            "U-bolts hold the frame by round pipe: choose a round section for it",
            *_of_shape(design, "frame.section", "round_tube"),
        )
    if design.text("deck.ribs") != NONE and design.row("sections", "deck.rib").shape != "flat_bar":
        raise GeometryError(
            "battens are boards on edge: choose a flat section", *_of_shape(design, "deck.rib", "flat_bar")
        )


def _plain(design: Design) -> Iterator[Mend]:
    """Wheels of a flat tread, the smallest first."""
    found = sorted((row for row in design.catalogue.wheels.values() if row.shape == "round"), key=lambda row: row.d)
    return (Mend(row.name, (("carriage.wheel", row.id),)) for row in found[-3:])


def _of_shape(design: Design, place: str, shape: str) -> Iterator[Mend]:
    """Usual sections of a shape for what asks for it."""
    usual = USUAL_OF[place]
    found = (design.catalogue.sections[name] for name in usual)
    return (Mend(row.name, ((place, row.id),)) for row in found if row.shape == shape)


def _on_deck(design: Design, way: Carriage, feet: np.ndarray) -> None:
    """Raises GeometryError where a wheel meets its neighbour or a foot stands beyond the wheels."""
    wheel = way.wheel
    widest = (
        2 * wheel.d
        if isinstance(way, Straight)
        else 2 * wheel.width + (TRUCK_LEAST if design.variant == TRUCKS else 0.0)
    )
    if way.spacing < widest:
        raise GeometryError(
            f"the gauge is narrower than the wheels on it: it takes at least {widest * 1e3:.0f} mm",
            mend_at("Gauge {}", "rail.spacing", math.ceil(100 * widest) / 100 + 0.01),
        )
    if way.wheelbase < wheel.d * 1.1:
        raise GeometryError(
            f"the wheels of one side meet: {wheel.d * 1100:.0f} mm apart at least",
            mend_at("Wheels {} apart", way.base_key, math.ceil(120 * wheel.d) / 100),
        )
    if not len(feet):
        return
    room, out = _room(way, way.mount[:2], feet)
    if (out <= room[:, None] + 1e-9).all():
        return
    radius = float(np.hypot(*feet[0]))
    fits = float((room[:, None] / np.where(out > 1e-12, out, np.nan) * radius)[out > 1e-12].min())
    times = radius / fits if fits > 0 else math.inf
    would = (
        f"feet {max(0.0, fits) * 1e3:.0f} mm from its centre would do, or a gauge of {times * way.spacing * 1e3:.0f} "
        f"mm with wheels {times * way.wheelbase * 1e3:.0f} mm apart"
        if fits > 0
        else "bring its mount nearer to the middle"
    )
    middle = Mend("The mount over the middle", (("camera.ahead", 0.0), ("camera.aside", 0.0)))
    closer = mend_at("Feet {} from its centre", "stand.radius", math.floor(100 * fits) / 100)
    mends = (closer, middle) if fits >= LEAST_FEET else (middle,)
    raise GeometryError(f"the deck is smaller than the tripod's feet: {would}", *mends)


def feet_inside(way: Carriage, middle: np.ndarray, feet: np.ndarray) -> bool:
    """Whether feet (n, 2) about a middle (2,) stand within its wheels [m]."""
    room, out = _room(way, middle, feet)
    return bool((out <= room[:, None] + 1e-9).all())


def _room(way: Carriage, middle: np.ndarray, feet: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """From a middle to each edge of the wheels (e,), and how far each foot goes towards it (e, n) [m]."""
    corners = support_polygon(way.wheels)
    along = np.roll(corners, -1, axis=0) - corners
    inward = np.column_stack([-along[:, 1], along[:, 0]]) / np.linalg.norm(along, axis=1)[:, None]
    return np.einsum("ek,ek->e", inward, middle - corners), -(inward @ feet.T)


def frames(way: Carriage, poses: np.ndarray) -> Bodies:
    """The frames of track, deck and what stands on it at poses (n, 1)."""
    found = along(way, poses)
    return {**found, LOAD: found[CARRIAGE]}


def members(rig: Dolly, poses: np.ndarray) -> Members:
    """Pipes and ties, the deck from axle to axle, and the tripod's legs."""
    way = rig.way
    found: list[Run] = [*members_of(rig.laid, frames(way, poses), (CARRIAGE, LOAD)), carrier(way, poses)]
    x, mount = poses[:, 0], way.mount
    if len(rig.feet):
        hub = way.place(x + mount[0], float(mount[1]), float(mount[2]) - 0.05)
        found += [
            (Member("tripod leg", 0.02), hub, way.place(x + mount[0] + fx, float(mount[1] + fy), rig.top))
            for fx, fy in rig.feet
        ]
    return Members.at(len(poses), found)
