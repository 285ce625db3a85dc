"""A dolly as a mechanism: two pipes on ties, a deck on wheel pairs, the camera on a tripod or on the deck itself."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
from msgspec import Struct

from hazel_lantern.core.catalogue import Stand
from hazel_lantern.core.kinds.base import Carried, Design, Member, Members, Run
from hazel_lantern.core.kinds.dolly.design import PEGGED, STRAPPED, TRIPOD
from hazel_lantern.core.kinds.rail.model import Borne, Lift, Straight, carrier, straight
from hazel_lantern.core.kinds.rail.parts import BOARD, CARRIAGE, Wanted, carriage, on_wheels, rails
from hazel_lantern.core.kinds.rail.parts import frames as along
from hazel_lantern.core.kinds.shared.pieces import members_of
from hazel_lantern.core.mechanics.rails import Rest
from hazel_lantern.core.nouns.errors import GeometryError
from hazel_lantern.core.workshop.laid import Bodies, Laid, Pieces, lay
from hazel_lantern.core.workshop.part import Buy, Fastening, ReadyMade
from hazel_lantern.core.workshop.solids import Block, Place

LOAD = "load"  # what stands on the deck: it moves with it and is not part of it
ENDS = 0.06  # metres from an end of the track to the middle of its last tie
TIE_LONGER = 0.12  # metres of a tie beyond both pipes
BESIDE = 0.03  # metres from a joint to the middle of the next tie
LAST = 0.9  # of the usual span between ties, for the same dip
BAG = 0.16  # metres of a ballast bag's height


class Dolly(Struct, frozen=True):
    """A deck on a track, places of the ties along it [m], the tripod, its feet on the deck from the mount's middle
    (3, 2) [m], none where the camera sits on the deck, the deck's top above the pipes and thickness of a tie [m], what the deck bears
    beside the kit, and all pieces.
    """

    way: Straight
    ties: tuple[float, ...]
    stand: Stand
    feet: np.ndarray
    top: float
    tie: float
    borne: tuple[Borne, ...]
    laid: Laid

    @property
    def spans(self) -> tuple[float, ...]:
        """Between ties, from one end to the other [m]."""
        return tuple(b - a for a, b in pairwise(self.ties))


def tie_places(length: float, most: float, cuts: tuple[float, ...] = ()) -> tuple[float, ...]:
    """Where ties lie: evenly, no further apart than asked, the last spans nine tenths of the others, and beside a joint
    rather than under it [m].
    """
    long = length - 2 * ENDS
    spans = max(1, math.ceil(long / most + 2 * (1 - LAST) - 1e-9)) if long > most else 1
    if spans == 1:
        return _beside(ENDS, cuts), _beside(length - ENDS, cuts)
    usual = long / (spans - 2 * (1 - LAST))
    widths = [usual] * spans
    widths[0] = widths[-1] = LAST * usual
    return tuple(_beside(float(ENDS + x), cuts) for x in np.concatenate([[0.0], np.cumsum(widths)]))


def _beside(tie: float, cuts: tuple[float, ...]) -> float:
    near = next((cut for cut in cuts if abs(tie - cut) < BESIDE), None)
    return tie if near is None else near + math.copysign(BESIDE, tie - near)


def rests_for(design: Design, most: float, *, pegged: bool) -> tuple[Rest, ...]:
    """Ties on the ground as supports of both pipes: the ground gives under either of them by itself."""
    k = design.number("ground.stiffness")
    length, every = design.number("rail.length"), design.number("rail.joint_every")
    cuts = tuple(every * n for n in range(1, math.ceil(length / every - 1e-9))) if 0 < every < length else ()
    places = tie_places(length, most, cuts)
    return tuple(Rest(x, kz=k, pulls=pegged, apart=True) for x in places)


def build(design: Design, kit: Carried) -> Dolly:
    """The mechanism of a dolly. Raises GeometryError where it does not fit together, InputError for unknown rows."""
    number = design.number
    pipe, wheel, tie = (
        design.row("sections", "rail.section"),
        design.row("wheels", "carriage.wheel"),
        design.row("sections", "tie.section"),
    )
    _check(design, pipe.shape, wheel, tie.shape)
    rests = rests_for(design, number("tie.spacing"), pegged=design.text("tie.held") == PEGGED)
    slope, length = number("rail.slope"), number("rail.length")
    # The track's lower end lies on its ties, the other is packed up.
    height = tie.width + pipe.depth + number("ground.packed") + length / 2 * abs(math.sin(slope))
    top = _deck_top(pipe.depth, wheel.d)
    on_tripod = design.text("camera.on") == TRIPOD
    mount = np.array([number("camera.ahead"), number("camera.aside"), number("camera.rise")])
    stand = design.row("stands", "stand")
    borne = [
        Borne(number("carriage.mass"), np.array([0.0, 0.0, top - BOARD / 2])),
        Borne(number("ballast.mass"), np.array([0.0, 0.0, top + BAG / 2])),
    ]
    if on_tripod:
        centre = np.array([mount[0], mount[1], top + stand.cg_height * (mount[2] - top)])
        borne.append(Borne(stand.mass, centre, 1.0))
    way = straight(
        design, kit, 2, rests, False, "dolly",
        height=height, borne=tuple(borne), lift=Lift("camera.rise", 0.08, 2.2, "Mount at {}"),
    )  # fmt: skip
    feet = _feet(number("stand.radius")) if on_tripod else np.zeros((0, 2))
    _on_deck(way, feet)
    ties = tuple(rest.x for rest in rests)
    laid = lay(_pieces(design, kit, way, ties, stand, feet, top), frames(way, np.zeros((1, 1))))
    return Dolly(way, ties, stand, feet, top, tie.width, tuple(borne), laid)


def _check(design: Design, pipe: str, wheel: object, tie: str) -> None:
    if pipe not in ("round_tube", "solid_round"):
        raise GeometryError("inclined wheel pairs run on round pipe: choose a round section for the track")
    if getattr(wheel, "shape", "") != "round":
        raise GeometryError("wheel pairs take round wheels: a grooved one has no flat tread to lean on a pipe")
    if tie != "flat_bar":
        raise GeometryError("ties are boards: choose a flat section")


def _feet(radius: float) -> np.ndarray:
    """A tripod's feet on the deck, one ahead (3, 2) [m]."""
    around = 2 * math.pi * np.arange(3) / 3
    return radius * np.column_stack([np.cos(around), np.sin(around)])


def _on_deck(way: Straight, feet: np.ndarray) -> None:
    """Raises GeometryError where a pair meets its neighbour or a foot stands beyond the wheels."""
    widest = 2 * way.wheel.d
    if way.spacing < widest:
        raise GeometryError(f"the gauge is narrower than the wheels on it: it takes at least {widest * 1e3:.0f} mm")
    if way.wheelbase < way.wheel.d * 1.1:
        raise GeometryError(f"the wheels of one side meet: {way.wheel.d * 1100:.0f} mm apart at least")
    if not len(feet):
        return
    out = np.abs(feet + way.mount[:2]).max(axis=0)
    for beyond, half, what in (
        (out[0], way.wheelbase / 2, "along the travel: wheels"), (out[1], way.spacing / 2, "across: a gauge"),
    ):  # fmt: skip
        if beyond > half + 1e-9:
            raise GeometryError(
                f"the deck is smaller than the tripod's feet {what} of {2 * beyond * 1e3:.0f} mm would do, or feet nearer to the centre"
            )


def _deck_top(pipe: float, wheel: float) -> float:
    """The deck's upper face above the pipes [m]: over the wheels, which lean against a pipe at 45 degrees."""
    up = (pipe + wheel) / 2 * math.sqrt(0.5) - pipe / 2
    return up + wheel / 2 + 0.002 + BOARD


def frames(way: Straight, poses: np.ndarray) -> Bodies:
    """The frames of track, deck and what stands on it at poses (n, 1)."""
    found = along(way, poses)
    return {**found, LOAD: found[CARRIAGE]}


def _pieces(
    design: Design, kit: Carried, way: Straight, ties: tuple[float, ...], stand: Stand, feet: np.ndarray, top: float
) -> Pieces:
    """Pipes on ties with wedges, the deck on its wheel pairs, tripod and ballast."""
    mount = way.mount
    cups = tuple(Wanted(float(mount[0] + x), float(mount[1] + y), 0.0065, "foot cup", "foot cup") for x, y in feet)
    things: list[ReadyMade] = []
    if len(feet):
        at = Place(LOAD, (float(mount[0]), float(mount[1]), top + stand.cg_height * (float(mount[2]) - top)))
        things.append(ReadyMade(stand.name, Block((0.05, 0.05, 0.05)), stand.mass, "steel", (at,), stand.price or None))
    bag = design.number("ballast.mass")
    if bag > 0:
        things.append(
            ReadyMade(
                "Ballast",
                Block((0.3, 0.3, BAG)),
                bag,
                "weight",
                (Place(LOAD, (0.0, 0.0, top + BAG / 2)),),
                None,
                "strapped down",
            )
        )
    loose = (
        Buy("Pair of wedges, 1 in 8", 2 * len(ties), 1.1, "under either end of every tie"),
        Buy("Ratchet strap, narrow", 1 if bag > 0 else 0, 3.5, "holds the ballast down"),
        Buy(
            "Lashing strap with buckle",
            1 if len(feet) and design.text("stand.held") == STRAPPED else 0,
            2.9,
            "tripod to deck",
        ),
        Buy("Wheel chock", 2, 2.0, "before anybody lets go"),
    )
    cup = Fastening("foot cup", (Buy("Foot cup with bolt M6×40", 1, 2.2, "keeps a tripod's foot"),))
    track = rails(design, way, (), (), ties, (design.text("tie.section"), TIE_LONGER))
    return (
        track
        + carriage(design, kit, way, on_wheels(way), Pieces((), (), (cup,) if cups else ()), cups)
        + Pieces(things=tuple(things), loose=tuple(one for one in loose if one.quantity))
    )


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
