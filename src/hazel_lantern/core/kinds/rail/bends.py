"""Travel: how far the rail gives under the carriage, and what that does to the picture."""

from __future__ import annotations

import math
from collections.abc import Callable
from contextlib import suppress

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.catalogue import StockSection
from hazel_lantern.core.document.project import Thing
from hazel_lantern.core.kinds.base import Carried, Chapter, Design
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.kinds.rail.parts import RAIL_NAME
from hazel_lantern.core.kinds.shared.holes import holes_along
from hazel_lantern.core.kinds.shared.steadied import through_head
from hazel_lantern.core.kinds.shared.validity import LOST, too_soft
from hazel_lantern.core.mechanics import rails
from hazel_lantern.core.mechanics.rails import Rail, Rest
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.figure import Curve, Given, by_method
from hazel_lantern.core.nouns.finding import PICTURE, STRUCTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words, within
from hazel_lantern.core.optics import lens
from hazel_lantern.core.workshop.laid import Laid

PLACES, COMPARED = 101, 25
DRIFT = 0.01  # share of the picture's height, drive 5.3
HORIZON = math.radians(0.5)
SUBJECT, TABLE = 3.0, 0.75  # metres away, metres above ground, when the shot looks at nothing


class Ride(Struct, frozen=True):
    """The carriage at places (n,) along the rail: drop of the lens [m], pitch nose down and roll left up of the rail
    [rad], reactions of all rails; bending of the heavier rail (n,) and at the spots asked for (n, spots) [N*m].
    """

    x: np.ndarray
    drop: np.ndarray
    pitch: np.ndarray
    roll: np.ndarray
    reactions: np.ndarray
    moments: np.ndarray
    lifted: np.ndarray
    bending: np.ndarray
    spots: np.ndarray


def ride(rail: Straight, beam: Rail | None = None, x: np.ndarray | None = None, spots: tuple[float, ...] = ()) -> Ride:
    """The carriage along the rail, or along another beam in its place; bending is told at `spots` too [m]. Raises
    InputError, InfeasibleError, SingularModelError.
    """
    beam = beam or rail.beam
    x = np.linspace(rail.low, rail.high, PLACES) if x is None else x
    # Tied rails do not twist one by one: their roll comes from unequal bending and from the supports.
    twin = rail.count == 2
    one = replace(beam, gj=beam.gj * 1e3 if twin else beam.gj, weight=beam.weight * math.cos(rail.slope))
    found = _each(rail, one, x, spots) if rail.lone else _both(rail, one, x, spots)
    # The lens is off the carriage's middle: pitch and roll move it up and down too.
    return replace(found, drop=found.drop + found.pitch * rail.lens[0] - found.roll * rail.lens[1])


def _both(rail: Straight, beam: Rail, x: np.ndarray, spots: tuple[float, ...]) -> Ride:
    """One beam of all rails, the load's being aside on top."""
    front, rear = rail.axles()
    # A single rail is twisted about its shear centre; ties keep a pair from it.
    twin = rail.count == 2
    aside = float(rail.cg[1]) + (0.0 if twin else float(rail.section.lever))
    found = rails.travel(beam, x, rail.wheelbase, front, rear, aside, spots)
    roll = found.roll
    if twin:
        clamped = tuple(
            Rest(r.x, r.kz / 2 if r.apart else r.kz, 1e3 * beam.ei / beam.length if r.pitch else 0.0, math.inf, True)
            for r in beam.rests
        )
        alone = replace(_half(beam), weight=0.0, rests=clamped)
        roll = roll - 2 * aside / rail.spacing**2 * rails.travel(alone, x, rail.wheelbase, front, rear).drop
    return Ride(
        x,
        found.drop,
        found.pitch,
        roll,
        found.reactions,
        found.moments,
        found.lifted,
        rail.share * found.bending,
        rail.share * found.spots,
    )


def _each(rail: Straight, beam: Rail, x: np.ndarray, spots: tuple[float, ...]) -> Ride:
    """Two corners on the left rail and one on the right, either rail by itself."""
    (_, front), (_, single), (_, rear) = rail.stands()
    half = _half(beam)
    pair = rails.travel(half, x, rail.wheelbase, front, rear, 0.0, spots)
    point = min(1e-3, rail.wheelbase / 10)
    lone = rails.travel(half, x, point, single / 2, single / 2, 0.0, spots)
    return Ride(
        x,
        (pair.drop + lone.drop) / 2,
        pair.pitch,
        (lone.drop - pair.drop) / rail.spacing,
        pair.reactions + lone.reactions,
        pair.moments + lone.moments,
        pair.lifted | lone.lifted,
        np.maximum(pair.bending, lone.bending),
        np.maximum(pair.spots, lone.spots),
    )


def _half(beam: Rail) -> Rail:
    """One of two rails; a support that gives under each of them is half as stiff for one."""
    rests = tuple(replace(rest, kz=rest.kz / 2 if rest.apart else rest.kz) for rest in beam.rests)
    joints = tuple(replace(joint, stiffness=joint.stiffness / 2) for joint in beam.joints)
    return Rail(beam.length, beam.ei / 2, beam.gj, beam.weight / 2, rests, beam.ga / 2, joints)


def carried_along(rail: Straight, laid: Laid) -> Ride:
    """The carriage along the whole travel; bending at every hole of the rails, then at every joint."""
    return ride(rail, spots=(*(hole.at for hole in holes_along(laid.parts, RAIL_NAME)), *rail.joints.cuts))


class Supports(Struct, frozen=True):
    """Other ways to hold the rail, by name, to be compared; remedies that change how it is held, those that keep it
    from lifting, and the input that decides whether it does.
    """

    others: tuple[tuple[str, tuple[Rest, ...]], ...]
    remedies: tuple[Remedy, ...] = ()
    down: tuple[Remedy, ...] = ()
    lifts: str = "support.inset"


def compared(design: Design, rail: Straight, supports: Supports) -> tuple[tuple[str, Ride], ...]:
    """The ride on other supports and on a stiffer section, by name; what such a rail cannot stand on is left out."""
    beam = rail.beam
    beams = [(name, replace(beam, rests=rests)) for name, rests in supports.others]
    bar = stiffer_bar(design, rail)
    if bar is not None:
        times, line = bar.section().upright / rail.section.upright, bar.section().area / rail.section.area
        stiff = replace(
            beam,
            ei=beam.ei * times,
            gj=beam.gj * bar.section().j / rail.section.j,
            weight=beam.weight * line,
            ga=beam.ga * line,
        )
        beams.append((bar.name.split(",")[0].lower(), stiff))
    found = []
    for name, other in beams:
        with suppress(HazelError):
            found.append((name, ride(rail, other, np.linspace(rail.low, rail.high, COMPARED))))
    return tuple(found)


def picture(
    optics: Optics, away: float, down: bool, rail: Straight, found: Ride, turning: float = 1.0
) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Shift of the subject down and aside in the picture [px] and turn of the picture [rad] along the ride, all from
    their mean (n,); a camera that looks straight down sees leaning as a shift. `turning` is the share of a turn that
    the head lets through.
    """
    cos, sin = math.cos(rail.heading), math.sin(rail.heading)
    focal = lens.focal_pixels(optics.focal_m, optics.pixels_high, optics.sensor_height_m)
    nose_up = turning * (found.roll * sin - found.pitch * cos)
    lean = turning * (found.roll * cos + found.pitch * sin)
    walks = focal * float(rail.section.walk) * found.drop * sin / away
    shift = focal * np.tan(nose_up) - (0.0 if down else focal * found.drop / away)
    aside = focal * np.tan(lean) if down else walks
    turn = np.zeros_like(lean) if down else lean
    return shift - shift.mean(), aside - aside.mean(), turn - turn.mean()


def distance(move: Move, subject: Thing | None) -> float:
    """Distance at which the picture is judged: the subject's, square to the move, below a camera that looks down
    [m].
    """
    if move.down:
        top = subject.at_m[2] + subject.size_m[2] if subject else TABLE
        return max(0.2, (move.start_height_m + move.end_height_m) / 2 - top)
    if subject is None:
        return SUBJECT
    middle = [(a + b) / 2 for a, b in zip(move.start_at_m, move.end_at_m, strict=True)]
    return max(0.3, math.hypot(subject.at_m[0] - middle[0], subject.at_m[1] - middle[1]))


def bend_figures(
    design: Design,
    kit: Carried,
    move: Move,
    optics: Optics,
    away: float,
    suggest: bool,
    rail: Straight,
    ride: Ride,
    rides: tuple[tuple[str, Ride], ...],
    supports: Supports,
) -> Told:
    """How far the rail gives along the travel, and what that does to the picture."""
    tell = Teller()
    given = (
        Given("W", rail.weight, "N", "carriage and camera kit", "kit"),
        Given("L", rail.length, "m", "rail", "rail.length"),
        Given("EI", rail.beam.ei, "N*m^2", "bending stiffness of all rails", "rail.section"),
        Given("c", rail.wheelbase, "m", "between its axles or ends", rail.base_key),
    )
    _gives(tell, rail, ride, given)
    _seen(tell, optics, away, move.down, rail, ride, kit.turning, given)
    most = max(float(np.abs(ride.pitch).max()), float(np.abs(ride.roll).max()))
    mend = (*supports.remedies, *stiffer(design, rail)) if suggest else ()
    too_soft(tell, most, float(ride.drop.max()), rail.length, "The rail", "rail.section", mend)
    for name, other in rides:
        tell.curves[f"travel.path.{name}"] = Curve(f"travel.path.{name}", name, other.x, other.drop, "m", "m")
    tell.hold(
        "travel.shift",
        "travel.picture",
        "Sag in the picture",
        PICTURE,
        "rail.section",
        "Along the travel the rail moves the subject by {}; a hundredth of the picture's height passes.",
        at_most=DRIFT * optics.pixels_high,
        remedies=mend,
    )
    tell.hold(
        "travel.lean",
        "travel.level",
        "Level picture",
        PICTURE,
        "rail.section",
        "The picture leans by {} along the travel."
        if tell.value("travel.lean") <= LOST
        else "The picture leans further than this method can tell.",
        at_most=HORIZON,
        remedies=(*mend, *centred(rail)) if suggest else (),
    )
    if ride.lifted.any():
        tell.findings.append(
            Finding(
                "travel.lifts",
                "Rail lifts off a support",
                STRUCTURE,
                WATCH,
                supports.lifts,
                Words("At some places of the carriage the rail lifts off a support: hold it down there."),
                float(ride.lifted.any(axis=1).sum()),
                remedies=supports.down if suggest else (),
            )
        )
    return tell.told()


def _gives(tell: Teller, rail: Straight, ride: Ride, given: tuple[Given, ...]) -> None:
    """How far the rail drops and turns under the carriage."""
    lifts = any(not rest.pulls for rest in rail.beam.rests)
    frame = "frame engine, carriage at 101 places" + (", supports that may lift" if lifts else ", held both ways")
    worst = f"{frame}; worst at {ride.x[int(np.argmax(ride.drop))]:.2f} m"
    aside = Given("e", float(rail.cg[1]), "m", "centre of mass to the left", "camera.aside")
    for key, label, value, unit, method, inputs, source in (
        ("travel.drop", "Lens drops, at most", ride.drop.max(), "m", worst, given, "statics 4.1 to 4.5"),
        ("travel.dip", "Drop changes along the travel", np.ptp(ride.drop), "m", frame, given, "statics 4.2"),
        ("travel.pitch", "Rail pitches, at most", np.abs(ride.pitch).max(), "rad", frame, given, "statics 4.2"),
        (
            "travel.roll",
            "Rail rolls, at most",
            np.abs(ride.roll).max(),
            "rad",
            frame,
            (*given, aside),
            "statics 4.4, 4.5",
        ),
    ):
        assume = ("small bending", "rigid carriage on two axles", "material in the middle of its range")
        headline = key == "travel.drop"
        tell.add(
            by_method(key, label, value, unit, method, inputs, assumptions=assume, source=source, headline=headline)
        )
    tell.curves["travel.path"] = Curve("travel.path", "Drop of the lens along the rail", ride.x, ride.drop, "m", "m")


def _seen(
    tell: Teller,
    optics: Optics,
    away: float,
    down: bool,
    rail: Straight,
    ride: Ride,
    turning: float,
    given: tuple[Given, ...],
) -> None:
    """What that does to the picture."""
    shift, aside, lean = picture(optics, away, down, rail, ride, turning)
    if turning < 1:
        given = (*given, through_head(turning))
    tell.add(
        by_method(
            "travel.shift",
            "Subject wanders in the picture",
            math.hypot(float(np.ptp(shift)), float(np.ptp(aside))),
            "px",
            "F tan(tilt) and F tan(lean) along the travel, largest minus smallest"
            if down
            else "F tan(tilt) − F drop / D along the travel, largest minus smallest",
            (
                *given,
                Given("D", away, "m", "subject's distance"),
                Given("f", optics.focal_m, "m:lens", "focal length", "shot.focal"),
            ),
            assumptions=("a constant tilt is framing and left out",),
            source="drive 5.3",
        ),
        by_method(
            "travel.lean",
            "Picture leans by",
            np.ptp(lean),
            "rad",
            "turn about the lens along the travel, largest minus smallest",
            given,
            source="drive 5.3",
        ),
    )
    tell.curves["travel.shift"] = Curve("travel.shift", "Subject's shift in the picture", ride.x, shift, "m", "px")


def centred(rail: Straight) -> tuple[Remedy, ...]:
    """Bring the load over the line about which the rail twists; half of the carriage's own mass goes with the mount."""
    lever = float(rail.section.lever) if rail.count == 1 else 0.0
    off = float(rail.off[1]) + lever
    better = round(rail.over(1) - lever / rail.follows, 3)
    return (
        (set_one("centre", "Move the mount to {} left of the rail", "camera.aside", better, "m"),)
        if abs(off) > 2e-3 and abs(better) <= 0.5
        else ()
    )


def stiffer_bar(design: Design, rail: Straight) -> StockSection | None:
    """The lightest stock section of the same shape and material that is at least twice as stiff."""
    like = (rail.bar.shape, rail.bar.material, rail.bar.system)
    found = [
        (bar.section().area, bar.id)
        for bar in design.catalogue.sections.values()
        if (bar.shape, bar.material, bar.system) == like and bar.section().upright >= 1.9 * rail.section.upright
    ]
    return design.catalogue.sections[min(found)[1]] if found else None


def stiffer(design: Design, rail: Straight) -> tuple[Remedy, ...]:
    """The next stiffer section as a remedy."""
    bar = stiffer_bar(design, rail)
    return () if bar is None else (set_one("stiffer", f"Use {within(bar.name)}", "rail.section", bar.id),)


def chapters(supports: Callable[..., Supports]) -> tuple[Chapter, ...]:
    """Bending of a straight rail in the order it is told, with a kind's own way to say how else it might be held."""
    return (
        Chapter("supports", supports),
        Chapter("away", distance),
        Chapter("ride", carried_along),
        Chapter("rides", compared),
        Chapter("bends", bend_figures),
    )
