"""A dolly's track bent to an arc: its sizes from what is set, and its pieces laid along it."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.dolly.inputs import BY_CHORD, BY_CORD, BY_DISTANCE, CLIPPED, LEFT, SWIVEL
from hazel_lantern.core.kinds.rail.model import Straight, turned
from hazel_lantern.core.kinds.rail.parts import JOINT_SCREW, RAIL, RAIL_NAME
from hazel_lantern.core.mechanics import arcs
from hazel_lantern.core.mechanics.track import Frames
from hazel_lantern.core.nouns.errors import GeometryError, InfeasibleError
from hazel_lantern.core.workshop.fasteners import screw_from_below
from hazel_lantern.core.workshop.laid import Pieces
from hazel_lantern.core.workshop.marks import HOLE, LINE, Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part
from hazel_lantern.core.workshop.solids import TOP, Bar, Place, Vector

CLOSES = math.radians(330)  # that an arc may go round
LONGEST = 12.0  # metres of outer pipe that are drawn here
COUNTED = "counted"  # what goes through holes of bent pieces, bought by number
STAGGER = 0.03  # metres from a joint of the inner pipe to a tie, at least


class Bend(Struct, frozen=True):
    """A track's arc: radius of the middle between both pipes [m], how far round [rad], which way it turns, plus for to
    the left, lengths of the inner and outer pipe [m], chord and rise of its middle [m].
    """

    radius: float
    angle: float
    side: float
    inner: float
    outer: float

    @property
    def chord(self) -> float:
        """Straight from end to end of its middle [m]."""
        return 2 * self.radius * math.sin(self.angle / 2)

    @property
    def rise(self) -> float:
        """How far its middle lies off that [m]."""
        return self.radius * (1 - math.cos(self.angle / 2))


def bend_of(design: Design, kit: Carried) -> Bend:
    """From a radius, a chord with its rise, or the distance a lens keeps. Raises GeometryError for what is no arc."""
    number, gauge = design.number, design.number("rail.spacing")
    side = 1.0 if design.text("bend.turns") == LEFT else -1.0
    by = design.text("bend.by")
    if by == BY_CHORD:
        arc = arcs.arc_through(number("bend.chord"), number("bend.rise"))
        radius, angle = arc.radius, arc.angle
    else:
        radius = number("bend.radius") if by != BY_DISTANCE else radius_for(design, kit, number("bend.away"), side)
        angle = number("rail.length") / radius
    try:
        inner, outer = arcs.rails_of(radius, angle, gauge)
    except InfeasibleError as error:
        raise GeometryError(str(error)) from error
    if angle > CLOSES:
        raise GeometryError(
            f"the arc meets itself, {math.degrees(angle):.0f}° round: {CLOSES * radius:.2f} m of track at the most, "
            "or a wider one"
        )
    if outer > LONGEST:
        raise GeometryError(f"the outer pipe would be {outer:.2f} m long; {LONGEST:g} m is the longest here")
    return Bend(radius, angle, side, inner, outer)


def radius_for(design: Design, kit: Carried, away: float, side: float) -> float:
    """The track's radius with which the lens goes round at a distance [m]. Raises GeometryError where none does."""
    number = design.number
    lens = (
        np.array([number("camera.ahead"), number("camera.aside")]) + turned(kit.lens_at_m, number("camera.heading"))[:2]
    )
    outward = -side * float(lens[1])
    if away <= abs(float(lens[0])):
        raise GeometryError("the lens would have to stand beyond what it goes round")
    # The deck's middle cuts the corner between its axles; the lens lies off it.
    middle = math.sqrt(away**2 - float(lens[0]) ** 2) - outward
    if middle <= 0:
        raise GeometryError("the track would have no radius: further away, or the camera nearer to the deck's middle")
    return math.hypot(middle, number("carriage.wheelbase") / 2)


def bent(design: Design, way: Straight, bend: Bend, pieces: Pieces) -> Pieces:
    """Pieces that were laid out straight along the outer pipe, laid along the arc; the inner pipe in pieces of its own,
    its joints between those of the outer.
    """
    parts: list[Part] = []
    clips = design.text("bend.clips") == CLIPPED
    # A bent piece is drawn straight: what goes through its holes is counted, not found along a line.
    laid = tuple(replace(p, marks=tuple(_bent_mark(mark, clips=clips) for mark in p.marks)) for p in pieces.parts)
    pieces = replace(pieces, parts=laid)
    for part in pieces.parts:
        if part.name.startswith("Joint"):
            lying = [place for place in part.places if place.at[1] * bend.side < 0]
            inner = [
                replace(place, at=(cut - part.length / 2, -place.at[1], place.at[2]))
                for cut in inner_cuts(way, _tie_places(pieces))
                for place in lying[:1]
            ]
            parts.append(replace(part, places=tuple(_along(way, place, part.length) for place in (*lying, *inner))))
            continue
        if not part.name.startswith(RAIL_NAME):
            parts.append(replace(part, places=tuple(_along(way, place, part.length) for place in part.places)))
            continue
        lane = -bend.side * way.spacing / 2
        outer = tuple(place for place in part.places if place.at[1] * lane > 0)
        name = part.name.replace(RAIL_NAME, "Outer pipe")
        parts.append(
            replace(part, name=name, places=tuple(_along(way, place, part.length) for place in outer), matched="")
        )
    made = (*parts, *_inner(design, way, bend, pieces))
    names = [part.name for part in made if "pipe" in part.name]
    return Pieces(
        made,
        pieces.things,
        (*pieces.fastenings, Fastening(COUNTED, (), reach=0.0)),
        (*pieces.loose, *_screws(parts, way.bar.depth, clips=clips)),
        # A bent pipe is drawn as straight pieces, which its wheels and ties do not follow.
        (*pieces.nested, *((name, "") for name in names)),
    )


def _screws(parts: list[Part], deep: float, *, clips: bool) -> list[Buy]:
    """What goes through the holes of ties and joints; deep: the pipe [m]."""
    join = next((part for part in parts if part.name.startswith("Joint")), None)
    tie = next(part for part in parts if part.name == "Tie")
    found = [] if join is None else [replace(JOINT_SCREW, quantity=len(join.marks) * join.quantity)]
    return (
        found
        if clips
        else [*found, screw_from_below(tie.solid.box[2], deep, 2 * tie.quantity, "ties to the pipes, from below")]
    )


def _bent_mark(mark: Mark, *, clips: bool) -> Mark:
    """A hole of the straight layout; where a tie's screw would go, a line for its clip."""
    if mark.fastening == "tie" and clips:
        note = mark.note.removesuffix(", from below").replace("tie screw", "clip of a tie")
        return Mark(mark.at, LINE, note=note, across=mark.across, face=mark.face)
    return replace(mark, fastening=COUNTED if mark.fastening else "")


def holds(design: Design, bend: Bend, ties: int) -> tuple[Buy, ...]:
    """What keeps the pipes bent, and the trolleys that go round."""
    clips = design.text("bend.clips") == CLIPPED
    found = [Buy("Pipe clip with two screws", 2 * ties, 0.7, "a pipe on a tie, both pipes")] if clips else []
    if design.text("bend.held") == BY_CORD:
        found += [
            Buy(
                "Low-stretch cord 6 mm, by the metre",
                math.ceil(2 * bend.chord + 1.0),
                0.9,
                "from end to end, inner and outer pipe",
            ),
            Buy("Hook with an eye bolt M6", 4, 1.9, "at the ends of both pipes"),
        ]
    if design.text("bend.trolleys") == SWIVEL:
        found.append(
            Buy("Ball-bearing swivel plate 100 mm", 4, 6.5, "over each trolley, so that it turns under the deck")
        )
    return tuple(found)


def inner_cuts(way: Straight, ties: tuple[float, ...]) -> tuple[float, ...]:
    """Joints of the inner pipe, measured along the outer:
    half-way between those of the outer, clear of the ties [m]."""
    cuts = way.joints.cuts
    if not cuts:
        return ()
    edges = (0.0, *cuts, way.length)
    found = []
    for a, b in pairwise(edges):
        middle = (a + b) / 2
        clear = max(STAGGER, (way.joints.splice.overlap if way.joints.splice else 0.0) + 0.012)
        tries = [middle + sign * step for step in np.arange(0.0, (b - a) / 3, 0.01).tolist() for sign in (1, -1)]
        free = [x for x in tries if all(abs(x - tie) >= clear for tie in ties)]
        found.append(round(free[0] if free else middle, 4))
    return tuple(found)


def _inner(design: Design, way: Straight, bend: Bend, pieces: Pieces) -> list[Part]:
    """The inner pipe's pieces, their tie marks as much closer."""
    share, ties = bend.inner / bend.outer, _tie_places(pieces)
    cuts = inner_cuts(way, ties)
    lane, found = bend.side * way.spacing / 2, []
    edges = (0.0, *cuts, way.length)
    gap = design.number("rail.joint_gap")
    for k, (start, end) in enumerate(pairwise(edges)):
        a, b = start + (gap / 2 if k else 0.0), end - (gap / 2 if k < len(cuts) else 0.0)
        screw = Mark(0.0, HOLE, 0.0042, note="tie screw, from below", face=TOP, fastening="tie")
        held = _bent_mark(screw, clips=design.text("bend.clips") == CLIPPED)
        marks = tuple(replace(held, at=(x - a) * share) for x in ties if start <= x < end or x == end == way.length)
        marks = (*marks, *_joint_marks(pieces, a, b, way.length, share))
        place = _along(way, Place(RAIL, (a, lane, -way.bar.depth / 2)), b - a)
        name = "Inner pipe" if len(edges) == 2 else f"Inner pipe, piece {k + 1} from the left"
        found.append(
            Part(
                f"R{len(way.joints.cuts) + k + 2}",
                name,
                Bar.of(design.catalogue, way.bar.id, (b - a) * share),
                (place,),
                tuple(sorted(marks, key=lambda mark: mark.at)),
                "left end",
            )
        )
    return found


def _joint_marks(pieces: Pieces, a: float, b: float, whole: float, share: float) -> tuple[Mark, ...]:
    """Holes at the ends of an inner piece for what is let into it."""
    join = next((part for part in pieces.parts if part.name.startswith("Joint")), None)
    if join is None:
        return ()
    half, long = join.length / 2, (b - a) * share
    at_left = tuple(replace(mark, at=mark.at - half) for mark in join.marks if mark.at > half) if a > 0 else ()
    at_right = (
        tuple(replace(mark, at=long - half + mark.at) for mark in join.marks if mark.at < half) if b < whole else ()
    )
    return (*at_left, *at_right)


def _tie_places(pieces: Pieces) -> tuple[float, ...]:
    tie = next((part for part in pieces.parts if part.name == "Tie"), None)
    return tuple(place.at[0] for place in tie.places) if tie is not None else ()


def _along(way: Straight, place: Place, long: float) -> Place:
    """A place of the straight layout on the arc, seen from the frame of its first end; what is long along the track
    lies along the arc at its middle.
    """
    x, y, z = place.at
    runs = abs(place.along[0]) > 0.5
    there: Frames = way.track.at(np.array([x + long / 2 if runs else x]))
    first: Frames = way.track.at(np.array([0.0]))
    turn = first.axes[0].T @ there.axes[0]
    offset = there.place((-long / 2 if runs else 0.0, y, z))[0]
    at = first.axes[0].T @ (offset - first.at[0])
    return Place(RAIL, _vector(at), _vector(turn @ np.array(place.along)), _vector(turn @ np.array(place.up)))


def _vector(v: np.ndarray) -> Vector:
    return float(v[0]), float(v[1]), float(v[2])
