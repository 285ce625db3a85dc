"""The slider as a mechanism: a straight rail on a tripod, two stands or a table."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.catalogue import Stand
from hazel_lantern.core.kinds.base import Carried, Design, Member, Members, Run
from hazel_lantern.core.kinds.rail.carriage import carriage, on_wheels
from hazel_lantern.core.kinds.rail.model import Straight, carrier, straight
from hazel_lantern.core.kinds.rail.parts import BESIDE_SUPPORT, CARRIAGE, TIE, Held, crossings, other_holds, rails
from hazel_lantern.core.kinds.rail.parts import frames as along
from hazel_lantern.core.kinds.shared.home_built import built_pieces
from hazel_lantern.core.kinds.shared.pieces import members_of
from hazel_lantern.core.kinds.shared.plates import BOARD
from hazel_lantern.core.kinds.slider.design import GROOVED, MAGNETIC, ON_BOARD, SOFT, TABLE, TRIPOD, TWO
from hazel_lantern.core.mechanics.rails import Rest
from hazel_lantern.core.mechanics.track import headed
from hazel_lantern.core.nouns.errors import GeometryError, mend_at
from hazel_lantern.core.workshop.fasteners import strip
from hazel_lantern.core.workshop.laid import Bodies, Laid, Pieces, lay
from hazel_lantern.core.workshop.part import Buy, ReadyMade
from hazel_lantern.core.workshop.solids import Block, Place, Sheet

FLOOR = "floor"
TOUCH = 0.003  # metres kept between a tie and the boards of a stand
SOFT_ADDS = 0.02  # to the rolling coefficient, of rubber or felt on a rail; workshop judgement
RAIL_PLATE, BASE_BEYOND = 0.006, 0.04  # metres; of a base board beside its rails, both sides together


class Slider(Struct, frozen=True):
    """A straight rail, how it is held, places of the supports along it [m], the stand, all feet on the ground (n, 2)
    from the rail's middle [m], and all pieces.
    """

    way: Straight
    held: str
    places: tuple[float, ...]
    stand: Stand
    feet: np.ndarray
    laid: Laid


def rests_for(design: Design, held: str) -> tuple[Rest, ...]:
    """Supports of the rail for a way of holding it. Raises GeometryError when the two supports meet."""
    length, inset, head = design.number("rail.length"), design.number("support.inset"), design.number("head.stiffness")
    if held == TRIPOD:
        return (Rest(length / 2, pitch=head, roll=head, pulls=True),)
    if inset >= length / 2:
        raise GeometryError(
            "the supports meet: bring them nearer to the rail's ends",
            mend_at("Supports {} from the ends", "support.inset", length / 5),
        )
    if held == TWO:
        return Rest(inset, roll=head, pulls=True), Rest(length - inset, roll=head, pulls=True)
    return Rest(inset), Rest(length - inset)


def build(design: Design, kit: Carried) -> Slider:
    """The mechanism of a slider design. Raises GeometryError when carriage or supports do not fit, InputError for
    unknown rows.
    """
    held = design.text("support")
    rests = rests_for(design, held)
    one = design.variant == GROOVED
    face = "" if one else design.text("rail.face")
    way = straight(
        design,
        kit,
        1 if one else 2,
        rests,
        one,
        "carriage",
        under=None if one else base_of(design),
        held_down=design.number("face.pull") if face == MAGNETIC else 0.0,
        slower=SOFT_ADDS if face == SOFT else 0.0,
    )
    stand, radius = design.row("stands", "stand"), design.number("stand.radius")
    around = design.number("stand.turn") + 2 * math.pi * np.arange(stand.legs) / stand.legs
    own = radius * np.column_stack([np.cos(around), np.sin(around)])
    cos = math.cos(way.slope)
    places = tuple(rest.x for rest in rests)
    if held == TABLE:
        half = design.number("table.width") / 2
        feet = np.array([((x - way.length / 2) * cos, y) for x in places for y in (half, -half)])
    else:
        feet = np.vstack([own + ((x - way.length / 2) * cos, 0.0) for x in places])
    laid = lay(_pieces(design, kit, way, held, places, stand), frames(way, np.zeros((1, 1))))
    return Slider(way, held, places, stand, feet, laid)


def base_of(design: Design) -> Sheet | None:
    """The board that two rails are screwed to along all of them, None where there is none."""
    if design.text("rail.base") != ON_BOARD:
        return None
    material, bar = design.catalogue.materials["plywood"], design.row("sections", "rail.section")
    wide = design.number("rail.spacing") + bar.width + BASE_BEYOND
    cut_from = strip(design.catalogue, material, BOARD, wide)
    return Sheet.rectangle(material, BOARD, design.number("rail.length"), wide, cut_from)


def frames(way: Straight, poses: np.ndarray) -> Bodies:
    """The frames of rail, carriage and floor at poses (n, 1)."""
    return {**along(way, poses), FLOOR: headed(np.zeros((len(poses), 3)), 0.0)}


def _pieces(design: Design, kit: Carried, way: Straight, held: str, places: tuple[float, ...], stand: Stand) -> Pieces:
    """Rails on what holds them, and the carriage."""
    beside = BESIDE_SUPPORT
    if held == TABLE:
        through, stands = Held(0.0, "rubber foot", "rail to what it stands on"), Pieces()
    else:
        through = Held(RAIL_PLATE)
        at = [float(way.on_floor(x, -way.bar.depth)[0]) for x in places]
        standing = tuple(Place(FLOOR, (ahead, 0.0, stand.cg_height * way.height)) for ahead in at)
        built = _built(design, way, places, stand)
        rest = max(0.0, stand.mass - sum(piece.mass for piece in built.each()) / len(places))
        price = None if built.parts else stand.price or None
        one = ReadyMade(stand.name, Block((0.05, 0.05, 0.05)), rest, "steel", standing, price)
        nested: tuple[tuple[str, str], ...] = ()
        if built.parts:  # what its boards do not weigh has no shape of its own, and ties pass beside them
            nested = ((stand.name, ""),)
            tie, board = design.catalogue.sections[TIE], design.row("sections", "stand.board")
            beside = max(beside, (tie.depth + board.depth) / 2 + TOUCH)
        plates = Buy("Rail plate with 3/8-16 thread", len(places), 6.5)
        stands = built + Pieces(things=(one,), loose=(plates,), nested=nested)
    ties = max(2, math.ceil(way.length / 0.8))
    holds = Pieces(loose=other_holds(design, way.count * len(places)))
    return (
        holds
        + rails(design, way, places, through, crossings(way, places, ties, beside))
        + carriage(design, kit, way, on_wheels(design, way), Pieces(), pushed=True)
        + stands
    )


def _built(design: Design, way: Straight, places: tuple[float, ...], stand: Stand) -> Pieces:
    """Stands that are built of boards, all of one height under a level rail."""
    tops: dict[float, list[tuple[float, float]]] = {}
    for place in places:
        ahead, top = (float(v) for v in way.on_floor(place, -way.bar.depth))
        tops.setdefault(round(top - RAIL_PLATE, 6), []).append((ahead, 0.0))
    made, spread = Pieces(), design.number("stand.radius")
    for nth, (top, spots) in enumerate(tops.items()):
        made = made + built_pieces(design, stand, top, spread, tuple(spots), FLOOR, nth)
    return made


def members(rig: Slider, poses: np.ndarray) -> Members:
    """Rails and ties, the carriage from axle to axle, stands and legs; only the carriage moves."""
    way = rig.way
    found: list[Run] = [*members_of(rig.laid, frames(way, poses), (CARRIAGE,)), carrier(way, poses)]
    if rig.held != TABLE:
        legs = len(rig.feet) // len(rig.places)
        for k, place in enumerate(rig.places):
            top = way.place(place, 0.0, -way.bar.depth)
            knee = top * (1, 1, 0.5)
            found.append((Member("stand", 0.03, False), top, knee))
            found += [
                (Member("leg", 0.02, False), knee, (fx, fy, 0.0)) for fx, fy in rig.feet[k * legs : (k + 1) * legs]
            ]
    return Members.at(len(poses), found)
