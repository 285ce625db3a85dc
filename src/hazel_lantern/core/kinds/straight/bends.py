"""Travel: how far the rail gives under the carriage, and what that does to the picture."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import partial

import numpy as np
from msgspec import Struct

from hazel_lantern.core.catalogue import Bar
from hazel_lantern.core.errors import HazelError
from hazel_lantern.core.figure import Curve, Given, by_formula, by_method
from hazel_lantern.core.finding import CLEAR, PICTURE, STOP, STRUCTURE, WATCH, Finding, Remedy, Words, judge
from hazel_lantern.core.formula import Formula
from hazel_lantern.core.kinds.base import Context, Report
from hazel_lantern.core.kinds.straight.model import Straight
from hazel_lantern.core.mechanics import rails
from hazel_lantern.core.mechanics.rails import Rail, Rest
from hazel_lantern.core.mechanics.safety import safety_class
from hazel_lantern.core.optics import lens

PLACES, COMPARED = 101, 25
SMOOTH = 1.2  # dynamic factor of a smooth slider, statics 9
DRIFT = 0.01  # share of the picture's height, drive 5.3
HORIZON = math.radians(0.5)
SUBJECT = 3.0  # metres, when the shot looks at nothing
STRESS = Formula("k*M*s/W")


class Ride(Struct, frozen=True):
    """The carriage at places (n,) along the rail: drop of the lens [m], pitch nose down and roll left up of the rail [rad], reactions, bending."""

    x: np.ndarray
    drop: np.ndarray
    pitch: np.ndarray
    roll: np.ndarray
    reactions: np.ndarray
    moments: np.ndarray
    lifted: np.ndarray
    bending: np.ndarray


def ride(rig: Straight, rail: Rail | None = None, x: np.ndarray | None = None) -> Ride:
    """The carriage along the rail, or along another rail in its place. Raises InputError, InfeasibleError, SingularModelError."""
    rail = rail or rig.rail
    x = np.linspace(rig.low, rig.high, PLACES) if x is None else x
    front, rear = rig.axles()
    aside = float(rig.cg[1])
    twin = rig.count == 2
    # Tied rails do not twist one by one: their roll comes from unequal bending and from the supports.
    one = Rail(rail.length, rail.ei, rail.gj * 1e3 if twin else rail.gj, rail.weight * math.cos(rig.slope), rail.rests, rail.ga)
    found = rails.travel(one, x, rig.wheelbase, front, rear, aside)
    roll = found.roll
    if twin:
        clamped = tuple(Rest(r.x, r.kz, 1e3 * rail.ei / rail.length if r.pitch else 0.0, math.inf, True) for r in rail.rests)
        alone = Rail(rail.length, rail.ei / 2, rail.gj, 0.0, clamped, rail.ga / 2)
        roll = roll - 2 * aside / rig.spacing**2 * rails.travel(alone, x, rig.wheelbase, front, rear).drop
    # The lens is off the carriage's middle: pitch and roll move it up and down too.
    drop = found.drop + found.pitch * rig.lens[0] - roll * rig.lens[1]
    return Ride(x, drop, found.pitch, roll, found.reactions, found.moments, found.lifted, found.bending)


def _compared(rig: Straight, made: Callable[[], Rail]) -> Ride:
    return ride(rig, made(), np.linspace(rig.low, rig.high, COMPARED))


def picture(context: Context, rig: Straight, found: Ride) -> tuple[np.ndarray, np.ndarray]:
    """Shift of the subject down the picture and turn of the picture along the ride, both from their mean (n,) [px, rad]."""
    shot, cos, sin = context.shot, math.cos(rig.heading), math.sin(rig.heading)
    focal = lens.focal_pixels(shot.focal_m, shot.pixels_high, shot.sensor_height_m)
    nose_up, lean = found.roll * sin - found.pitch * cos, found.roll * cos + found.pitch * sin
    shift = focal * np.tan(nose_up) - focal * found.drop / distance(context)
    return shift - shift.mean(), lean - lean.mean()


def distance(context: Context) -> float:
    """Distance at which the picture is judged: the subject's, square to the move [m]."""
    stage, shot = context.stage, context.shot
    thing = next((t for t in stage.things if t.id == shot.target), None)
    if thing is None:
        return SUBJECT
    middle = [(a + b) / 2 for a, b in zip(shot.start_at_m, shot.end_at_m, strict=True)]
    return max(0.3, math.hypot(thing.at_m[0] - middle[0], thing.at_m[1] - middle[1]))


def bend_figures(context: Context, rig: Straight, report: Report, others: tuple[tuple[str, Callable[[], tuple[Rest, ...]]], ...] = (), remedies: tuple[Remedy, ...] = ()) -> Ride:
    """Figures, curves and findings; `others` are supports to compare, by name, made when asked for. Returns the ride for what else needs it."""
    found = rig.once("ride", lambda: ride(rig))
    given = (
        Given("W", rig.weight, "N", "carriage and camera kit", "kit"), Given("L", rig.length, "m", "rail", "rail.length"),
        Given("EI", rig.rail.ei, "N*m^2", "bending stiffness of all rails", "rail.section"), Given("c", rig.wheelbase, "m", "wheelbase", "carriage.wheelbase"),
    )  # fmt: skip
    frame = "frame engine, carriage at 101 places, supports that may lift"
    assume = ("small bending", "rigid carriage on two axles", "material in the middle of its range")
    shift, lean = picture(context, rig, found)
    spread, turn = float(np.ptp(shift)), float(np.ptp(lean))
    worst = int(np.argmax(found.drop))
    report.add(
        by_method("travel.drop", "Lens drops, at most", float(found.drop.max()), "m", "travel", f"{frame}; worst at {found.x[worst]:.2f} m", given, assumptions=assume, source="statics 4.1 to 4.5", headline=True),
        by_method("travel.dip", "Drop changes along the travel", float(np.ptp(found.drop)), "m", "travel", frame, given, assumptions=assume, source="statics 4.2"),
        by_method("travel.pitch", "Rail pitches, at most", float(np.abs(found.pitch).max()), "rad", "travel", frame, given, assumptions=assume, source="statics 4.2"),
        by_method("travel.roll", "Rail rolls, at most", float(np.abs(found.roll).max()), "rad", "travel", frame, (*given, Given("e", float(rig.cg[1]), "m", "centre of mass to the left", "camera.aside")),
                  assumptions=assume, source="statics 4.4, 4.5"),
        by_method("travel.shift", "Subject wanders in the picture", spread, "px", "travel", "F tan(tilt) − F drop / D along the travel, largest minus smallest", (
            *given, Given("D", distance(context), "m", "subject's distance"), Given("f", context.shot.focal_m, "m:lens", "focal length", "shot.focal")),
            assumptions=("a constant tilt is framing and left out",), source="drive 5.3"),
        by_method("travel.lean", "Picture leans by", turn, "rad", "travel", "turn about the lens along the travel, largest minus smallest", given, source="drive 5.3"),
    )  # fmt: skip
    report.curves["travel.path"] = Curve("travel.path", "Drop of the lens along the rail", found.x, found.drop, "m", "m")
    report.curves["travel.shift"] = Curve("travel.shift", "Subject's shift in the picture", found.x, shift, "m", "px")

    def on(held: Callable[[], tuple[Rest, ...]]) -> Rail:
        return Rail(rig.length, rig.rail.ei, rig.rail.gj, rig.rail.weight, held(), rig.rail.ga)

    compared: list[tuple[str, Callable[[], Rail]]] = [(name, partial(on, held)) for name, held in others]
    bar = stiffer_bar(context, rig)
    if bar is not None:
        times, line = bar.section().iy / rig.section.iy, bar.section().area / rig.section.area
        stiff = Rail(rig.length, rig.rail.ei * times, rig.rail.gj * bar.section().j / rig.section.j, rig.rail.weight * line, rig.rail.rests, rig.rail.ga * line)
        compared.append((bar.name.split(",")[0].lower(), lambda: stiff))
    for name, made in compared:
        try:
            other = rig.once(("ride", name), partial(_compared, rig, made))
        except HazelError:
            continue  # a support this rail cannot stand on has no line to compare
        report.curves[f"travel.path.{name}"] = Curve(f"travel.path.{name}", name, other.x, other.drop, "m", "m")
    limit = DRIFT * context.shot.pixels_high
    offered = (*remedies, *stiffer(context, rig)) if report.suggest and spread > 0.8 * limit else ()
    report.findings.append(Finding(
        "travel.picture", "Sag in the picture", PICTURE, judge(spread, limit, "at_most", PICTURE), spread, limit, "at_most", "px", "rail.section", "travel",
        Words("Along the travel the rail moves the subject by {}; a hundredth of the picture's height passes.", ((spread, "px"),)), offered,
    ))  # fmt: skip
    report.findings.append(Finding(
        "travel.level", "Level picture", PICTURE, judge(turn, HORIZON, "at_most", PICTURE), turn, HORIZON, "at_most", "rad", "rail.section", "travel",
        Words("The picture leans by {} along the travel.", ((turn, "rad"),)), (*remedies, *stiffer(context, rig), *_centred(rig)) if report.suggest and turn > 0.8 * HORIZON else (),
    ))  # fmt: skip
    if found.lifted.any():
        report.findings.append(Finding(
            "travel.lifts", "Rail lifts off a support", STRUCTURE, WATCH, float(found.lifted.any(axis=1).sum()), 0.0, "at_most", "count", "support.inset" if "support.inset" in context.rig.design else "rail.length",
            "travel", Words("At some places of the carriage the rail lifts off a support: hold it down there."),
        ))  # fmt: skip
    _strong(context, rig, found, report)
    return found


def _centred(rig: Straight) -> tuple[Remedy, ...]:
    """Bring the centre of mass over the rail."""
    better = float(round(rig.mount[1] - rig.cg[1], 3))
    return (
        (Remedy("centre", Words("Move the mount to {} left of the rail", ((better, "m"),)), (("camera.aside", better),)),) if abs(rig.cg[1]) > 2e-3 and abs(better) <= 0.5 else ()
    )


def stiffer_bar(context: Context, rig: Straight) -> Bar | None:
    """The lightest stock section of the same shape and material that is at least twice as stiff."""
    like = (rig.bar.shape, rig.bar.material, rig.bar.system)
    found = [
        (bar.section().area, bar.id) for bar in context.catalogue.sections.values() if (bar.shape, bar.material, bar.system) == like and bar.section().iy >= 1.9 * rig.section.iy
    ]
    return context.catalogue.sections[min(found)[1]] if found else None


def stiffer(context: Context, rig: Straight) -> tuple[Remedy, ...]:
    """The next stiffer section as a remedy."""
    bar = stiffer_bar(context, rig)
    return () if bar is None else (Remedy("stiffer", Words(f"Use {bar.name[:1].lower()}{bar.name[1:]}"), (("rail.section", bar.id),)),)


def _strong(context: Context, rig: Straight, found: Ride, report: Report) -> None:
    """Bending stress of the heavier rail, with the carriage anywhere."""
    share = 1.0 if rig.count == 1 else min(1.0, max(0.5, 0.5 + abs(float(rig.cg[1])) / rig.spacing))
    modulus = rig.section.iy / rig.section.cz
    report.add(by_formula("rig.stress", "Stress in the rail", "Pa", "rig", STRESS, (
        Given("k", SMOOTH, "1", "for smooth moving"), Given("M", float(found.bending.max()), "N*m", "greatest bending of all rails", "rail.section"),
        Given("s", share, "1", "share of the heavier rail"), Given("W", modulus, "m^3", "section modulus of one rail", "rail.section")), source="statics 4, 9"))  # fmt: skip
    # What is refused over people is refused elsewhere; its strength is still judged as overhead.
    letter = context.text("safety")
    factor = safety_class("D" if letter == "E" else letter).strength(rig.material.family)
    allowed, stress = rig.material.allowed(factor), report.value("rig.stress")
    report.findings.append(Finding(
        "rig.strong", "Strength of the rail", STRUCTURE, judge(stress, allowed, "at_most", STRUCTURE), stress, allowed, "at_most", "Pa", "rail.section", "rig",
        Words("The rail works at {} of {} allowed; it fails this way: " + rig.material.fails + ".", ((stress, "Pa"), (allowed, "Pa"))),
        stiffer(context, rig) if report.suggest and stress > 0.8 * allowed else (),
    ))  # fmt: skip
    if rig.material.creep > 0:
        later = float(found.drop.max()) * (1 + rig.material.creep)
        report.findings.append(Finding(
            "rig.creep", "Sags more with time", STRUCTURE, WATCH, later, float(found.drop.max()), "at_most", "m", "rail.section", "rig",
            Words(f"Left under load, {rig.material.name[:1].lower()}{rig.material.name[1:]} goes on sagging, to about {{}}. Take the load off between shots.", ((later, "m"),)),
        ))  # fmt: skip
    if rig.section.warning and rig.count == 1 and abs(float(rig.cg[1])) > 1e-3:
        report.findings.append(Finding(
            "rig.twists", "Twist of an open section", STRUCTURE, WATCH if report.value("travel.roll") > 1e-3 else CLEAR, report.value("travel.roll"), 1e-3, "at_most", "rad", "rail.section", "rig",
            Words("The load off the rail's middle twists it by {}; closed sections twist far less.", ((report.value("travel.roll"), "rad"),)), _centred(rig),
        ))  # fmt: skip


def soft_head(context: Context, rig: Straight, stiffness: float, report: Report) -> None:
    """A tall load on a soft tripod head."""
    tall = rig.weight * max(0.0, float(rig.cg[2]))
    report.findings.append(Finding(
        "travel.head", "Tripod head", STRUCTURE, STOP if tall >= stiffness else WATCH if tall > stiffness / 5 else CLEAR, tall, stiffness / 5, "at_most", "N*m/rad", "head.stiffness", "travel",
        Words("The head holds with {}; a camera this high asks for {}.", ((stiffness, "N*m/rad"), (5 * tall, "N*m/rad"))),
    ))  # fmt: skip
