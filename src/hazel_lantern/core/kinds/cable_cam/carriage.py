"""What the carriage's own pieces bear: its axles, and the board that its camera's post hangs under."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.cable_cam.model import Cable, dynamic
from hazel_lantern.core.kinds.cable_cam.parts import BESIDE, FROM_END, THICK, cheeks
from hazel_lantern.core.kinds.cable_cam.ride import Ran
from hazel_lantern.core.kinds.shared.drop_post import M5, SOUND, post_figures
from hazel_lantern.core.kinds.shared.fixings import PRIES
from hazel_lantern.core.kinds.shared.holes import board_modulus
from hazel_lantern.core.kinds.shared.works import bears, bolt_bears, works
from hazel_lantern.core.mechanics.safety import HAND_SWING
from hazel_lantern.core.nouns.figure import Given
from hazel_lantern.core.nouns.finding import PEOPLE, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Laid

AXLE_CORE = math.pi * 0.0065**3 / 32  # cubic metres, an M8 in its thread
WHEELS = 2  # on a rope
LEAST_DROP, SOFTEST = 0.12, 20.0  # metres of a camera below its rope; newtons a metre of a buffer
LONGEST = 3.0  # metres that a buffer gives
PUSHED = 20.0  # newtons of a careless push at the camera


def carriage_figures(design: Design, kit: Carried, cable: Cable, ride: Ran, laid: Laid) -> Told:
    """Axles, board, and the post under it, held still, pushed, braked and caught by a stop."""
    tell = Teller()
    times, slows = dynamic(design), max(design.number("brake.slows"), _caught(design, cable, ride))
    load = times * cable.moving * GRAVITY
    each, span = load / (WHEELS * cable.count), 2 * (BESIDE + THICK / 2)
    works(
        tell,
        "rig.axle",
        "axle of a wheel",
        HAND_SWING * each * span / 4 / AXLE_CORE,
        bolt_bears(design),
        "its share of the load, times what moves it and 1.5, in the middle between its cheeks, on one M8 in its thread",
        (Given("F", each, "N", "on a wheel", "carriage.mass"), Given("l", span, "m", "between its cheeks")),
        "carriage.mass",
        source="statics 3, 13",
        about=PEOPLE,
    )
    board = next(part for part in laid.parts if part.name == "Board of the carriage")
    modulus = board_modulus(board)
    held = cable.apart if cable.count == 2 else span
    bent = HAND_SWING * (load * held / 4 + kit.payload.mass * slows * cable.drop)
    works(
        tell,
        "rig.board",
        "board of the carriage",
        bent / modulus,
        bears(design, board.solid.material),
        "the load between its cheeks and a hard stop at the camera, times 1.5, over what its holes leave",
        (
            Given("W", load, "N", "what hangs, times what moves it", "carriage.mass"),
            Given("b", held, "m", "between its cheeks or ropes"),
            Given("a", slows, "m/s^2", "braked, or caught by a stop", "brake.slows"),
            Given("d", cable.drop, "m", "camera below it", "carriage.drop"),
        ),
        "carriage.drop",
        source="statics 3, 9",
        about=PEOPLE,
        remedies=_softer(design, kit, cable, ride, SOUND * bears(design, board.solid.material) * modulus, load * held),
    )
    _brackets(tell, design, kit, cable, load, slows, board.length)
    tell.take(post_figures(design, laid, kit.payload.mass, PUSHED, slows, ("carriage.drop", -1.0), "end.a"))
    return tell.told()


def _brackets(tell: Teller, design: Design, kit: Carried, cable: Cable, load: float, slows: float, long: float) -> None:
    """The bolts that hold the board to its cheeks, all that hangs on it pulling them down."""
    count, apart = 2 * sum(cheek.held for cheek in cheeks(cable)), long - 2 * FROM_END
    tips = kit.payload.mass * slows * cable.drop / apart
    each = load / count + tips / (count / 2)
    works(
        tell,
        "rig.cheek_bolts",
        "bolts of the cheeks' brackets",
        HAND_SWING * PRIES * each / M5,
        bolt_bears(design),
        "its share of the load and of a hard stop at the camera, half as much again as its bracket pries, times 1.5, "
        "on one M5",
        (
            Given("F", each, "N", "on a bracket", "carriage.mass"),
            Given("n", count, "count", "brackets"),
            Given("a", slows, "m/s^2", "braked, or caught by a stop", "brake.slows"),
            Given("l", apart, "m", "between those ahead and behind"),
        ),
        "carriage.mass",
        source="statics 13",
        about=PEOPLE,
        verb="work",
    )


def _softer(
    design: Design, kit: Carried, cable: Cable, ride: Ran, bears_up_to: float, lies: float
) -> tuple[Remedy, ...]:
    """A camera nearer to its board, or softer buffers, with which a hard stop bends the board no more than a moment
    [N*m]; lies: four times what its load does standing [N*m].
    """
    spare, mass = bears_up_to / HAND_SWING - lies / 4, kit.payload.mass
    caught, brake, found = _caught(design, cable, ride), design.number("brake.slows"), []
    if spare <= 0:
        return ()
    drop = math.floor(100 * spare / (mass * max(brake, caught))) / 100
    if LEAST_DROP <= drop < cable.drop:
        found.append(set_one("nearer", "Mount {} below the rope", "carriage.drop", drop, "m"))
    slows = spare / (mass * cable.drop)
    if brake <= slows < caught:
        rate = math.floor(design.number("buffer.rate") * (slows / caught) ** 2)
        stroke = round(math.ceil(20 * max(ride.at_stops) * math.sqrt(cable.moving / max(rate, SOFTEST))) / 20, 2)
        if rate >= SOFTEST and stroke <= LONGEST:
            changes = (("buffer.rate", float(rate)), ("buffer.stroke", max(stroke, design.number("buffer.stroke"))))
            found.append(Remedy("softer", Words("Softer stops, {}", ((float(rate), "N/m"),)), changes))
    return tuple(found)


def _caught(design: Design, cable: Cable, ride: Ran) -> float:
    """What a buffer slows it by that it runs into at its fastest [m/s^2]."""
    return max(ride.at_stops) * math.sqrt(design.number("buffer.rate") / cable.moving)
