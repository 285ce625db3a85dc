"""The head of a jib: one or two uprights on the head pins, and the plate that carries the camera."""

from __future__ import annotations

from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.jib.design import BETWEEN, SINGLE
from hazel_lantern.core.kinds.jib.model import BY_BARS, LEVEL, Jib
from hazel_lantern.core.kinds.jib.parts.pins import HEAD_DOWN, HEAD_UP, PIN_C, PIN_D, hole
from hazel_lantern.core.kinds.shared.fixings import ANGLE, SMALL_BOLT, camera_held
from hazel_lantern.core.kinds.shared.plates import BOARD, Wanted, plate
from hazel_lantern.core.mechanics.pins import CAMERA_THREADS
from hazel_lantern.core.workshop.fasteners import bolt
from hazel_lantern.core.workshop.laid import Pieces
from hazel_lantern.core.workshop.marks import HOLE, Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part
from hazel_lantern.core.workshop.solids import ALONG, UP, Bar, Place

MOUNT_PLATE = "Mount plate"
BESIDE, DOWN = (
    0.02,
    0.02,
)  # metres from an upright to its bracket's hole in the plate; from the plate down to that in it
CLEAR_OF_PIN, PAST = 0.0119, 0.015  # metres from a pin to a bracket's hole, from that to an upright's end
M5_HOLE, BRACKET = 0.0055, 0.003  # metres, of an angle bracket


def pins_of(jib: Jib) -> list[tuple[float, str, str]]:
    """How far above the head pin each pin of the uprights sits [m], its key and its note."""
    found = [(0.0, PIN_D, PIN_D)]
    if jib.level == BY_BARS:
        found.append((jib.head_spacing, PIN_C, PIN_C))
    if jib.cable_pins:
        found += [(jib.cable.head, HEAD_UP, "upper cable pin"), (-jib.cable.head, HEAD_DOWN, "lower cable pin")]
    return sorted(found)


def bracket_at(jib: Jib) -> float:
    """How far above the head pin the mount plate's brackets are bolted to the uprights [m]: below the plate where the
    pins leave room, else above it, or wherever is farthest from them.
    """
    under, over = jib.mount[1] - BOARD - DOWN, jib.mount[1] + DOWN
    places = (under, over) if jib.mount[1] > 0 else (over, under)

    def room(place: float) -> float:
        return min(abs(place - at) for at, _, _ in pins_of(jib))

    return next((place for place in places if room(place) >= CLEAR_OF_PIN), max(places, key=room))


def head_span(design: Design, jib: Jib) -> tuple[float, float]:
    """How far the uprights go below and above the head pin: past every pin and bracket, and to the plate that lies on
    them where it is above all of it [m].
    """
    end, pins, at = design.number("arm.end"), [at for at, _, _ in pins_of(jib)], bracket_at(jib)
    under = jib.mount[1] - BOARD
    low = min(pins[0] - end, jib.mount[1] if jib.mount[1] < at < 0 else at - PAST)
    high = max(pins[-1] + end, at + PAST)
    return low, under if pins[-1] < at < under and pins[-1] + end <= under else high


def head_pieces(design: Design, kit: Carried, jib: Jib) -> Pieces:
    """The uprights and the plate on them."""
    low, high = head_span(design, jib)
    at, lanes = bracket_at(jib), jib.head_lanes
    marks = [hole(jib, above - low, key, note) for above, key, note in pins_of(jib)]
    marks.append(Mark(at - low, HOLE, M5_HOLE, note="mount bracket", fastening="mount upright"))
    uprights = Part(
        "D1",
        "Head upright",
        Bar.of(design.catalogue, jib.upright.id, high - low),
        tuple(Place(LEVEL, (0.0, y, low), UP, ALONG) for y in lanes),
        tuple(sorted(marks, key=lambda mark: mark.at)),
        "lower end",
        "drill the pair together" if len(lanes) > 1 else "",
    )
    ahead, rise = jib.mount
    thread = CAMERA_THREADS[kit.stands_on]
    half = jib.upright.width / 2 + BESIDE
    # Two brackets: one outside either upright, or one at either side of a single one.
    sides = (lanes[0] + half, lanes[-1] - half)
    holes = [
        Wanted(ahead, 0.0, thread.hole, "camera or head screw", "camera"),
        *(Wanted(0.0, y, M5_HOLE, "mount bracket", "mount plate") for y in sides),
    ]
    top = plate(design, "F1", MOUNT_PLATE, holes, (0.0, 0.0), LEVEL, rise - BOARD / 2)
    passes = high > rise - BOARD + 1e-9
    if passes:
        top = replace(top, matched=f"{top.matched}; notch it round the uprights")
    return Pieces(
        (uprights, top), (), _through(design, jib, kit), nested=((uprights.name, MOUNT_PLATE),) if passes else ()
    )


def _through(design: Design, jib: Jib, kit: Carried) -> tuple[Fastening, ...]:
    """A bracket at each upright, or two with one bolt through a thick one."""
    angle = Buy(ANGLE, 1, 0.9, "mount plate to the uprights")
    row = design.catalogue.bolts["M5"]
    stack = jib.upright.width + BRACKET + 2 * row.washer_t
    short = bolt(row, stack, note="mount brackets")
    upright: tuple[Buy, ...] = (angle, short)
    if jib.held == SINGLE:
        upright = (Buy(angle.name, 2, angle.price, angle.note), short)
    if jib.held == BETWEEN:
        both = bolt(row, stack + BRACKET, note=short.note)
        upright = (Buy(angle.name, 2, angle.price, angle.note), both)
    return (
        Fastening("mount upright", upright, reach=0.01),
        Fastening("mount plate", (Buy(SMALL_BOLT, 1, 0.35, "mount brackets"),), reach=0.01),
        camera_held(kit),
    )
