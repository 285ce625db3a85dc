"""Sag and twist of the frame with the boom anywhere, reactions of the runways, what the structure bears."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.document.project import Thing
from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.gantry.design import BOARDS
from hazel_lantern.core.kinds.gantry.legs import EDGE, inset
from hazel_lantern.core.kinds.gantry.model import Gantry
from hazel_lantern.core.kinds.gantry.parts import TRUCK_HOLE
from hazel_lantern.core.kinds.gantry.strength.bending import MOMENTS, Bent, both, worst_poses
from hazel_lantern.core.kinds.gantry.strength.members import frame_figures
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.kinds.shared.creep import creeps
from hazel_lantern.core.kinds.shared.holes import stress as stress_at
from hazel_lantern.core.kinds.shared.hung import caution, refusal, tether_figures
from hazel_lantern.core.kinds.shared.steadied import through_head
from hazel_lantern.core.kinds.shared.validity import too_soft
from hazel_lantern.core.mechanics.safety import safety_class
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.figure import Curve, Given, by_method
from hazel_lantern.core.nouns.finding import PEOPLE, PICTURE, STOP, STRUCTURE, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics import lens

HANDS = 1.5
SPANS = 150  # of the span, that the camera may drop by
SCREW = 0.005  # metres


def strength_figures(
    design: Design,
    kit: Carried,
    move: Move,
    optics: Optics,
    away: float,
    suggest: bool,
    gantry: Gantry,
    path: Path,
    bent_at_worst: Bent,
    bent_without: Bent,
    bent_along: Bent,
) -> Told:
    """The worst place of bridge, trolley and boom for each quantity by itself; the picture along the move itself."""
    tell, rig = Teller(), gantry
    given = (
        Given("S", rig.span, "m", "span", "span"),
        Given("EI", rig.bridge.eiy, "N*m^2", "bending stiffness of the bridge", "bridge.section"),
        Given("GJ", rig.bridge.gj, "N*m^2", "its torsion stiffness", "bridge.section"),
        Given("r", rig.longest, "m", "boom drawn out", "boom.longest"),
        Given("m", rig.tip, "kg", "camera kit with its drop post", "kit"),
    )
    stiff = _stiffer(design, rig) if suggest else ()
    tell.take(_bends(rig, bent_at_worst, given, stiff))
    tell.take(_wanders(kit, move, optics, away, path, bent_along, given, stiff))
    turned = float(np.hypot(bent_at_worst.turn_x, bent_at_worst.turn_y).max())
    too_soft(tell, turned, float(bent_at_worst.drop.max()), rig.span, "The frame", "bridge.section", stiff)
    every = both(bent_at_worst, bent_without)
    tell.take(_carries(rig, every, given))
    tell.take(_works(design, rig, every, given, stiff))
    where = "board.material" if design.variant == BOARDS else "bridge.section"
    sag = float(bent_at_worst.drop.max())
    creeps(tell, rig.bridge.material, sag, where, "Take trolley and camera off overnight, and level it anew.")
    tell.take(frame_figures(design, rig, tell, every, stiff))
    tell.take(_overhead(design, rig))
    return tell.told()


def _found_at(rig: Gantry, k: int) -> str:
    """How a figure was found, with the pose at which it is worst named."""
    poses = worst_poses(rig)
    x, across, angle, _ = poses[k % len(poses)]
    where = f"bridge at {x:.2f} m, trolley {across:.2f} m across, boom at {math.degrees(angle):.0f}°"
    where += ", camera off" if k >= len(poses) else ""
    return f"frame engine, {len(poses)} poses with the boom drawn out; worst with the {where}"


def _bends(rig: Gantry, worst: Bent, given: tuple[Given, ...], stiff: tuple[Remedy, ...]) -> Told:
    """How far the camera hangs and tilts lower at its worst place."""
    tell, turn = Teller(), np.hypot(worst.turn_x, worst.turn_y)
    sag, least = float(worst.drop.max()), rig.span / SPANS
    tell.add(
        by_method(
            "travel.drop",
            "Camera drops, at the worst place",
            sag,
            "m",
            _found_at(rig, int(np.argmax(worst.drop))),
            given,
            assumptions=("small bending", "braced posts", "boom clamped to the trolley"),
            source="statics 4.1, 8.1",
            headline=True,
        ),
        by_method(
            "travel.twist",
            "Camera tilts, at the worst place",
            float(turn.max()),
            "rad",
            _found_at(rig, int(np.argmax(turn))),
            given,
            source="statics 4.1, 8.1",
        ),
    )
    tell.hold(
        "travel.drop",
        "travel.soft",
        "Sag of the frame",
        PICTURE,
        "bridge.section",
        "At its worst place the camera hangs {} lower; a hundred-and-fiftieth of the span passes.",
        at_most=least,
        remedies=stiff,
    )
    return tell.told()


def _wanders(
    kit: Carried,
    move: Move,
    optics: Optics,
    away: float,
    path: Path,
    along: Bent,
    given: tuple[Given, ...],
    stiff: tuple[Remedy, ...],
) -> Told:
    """What the move itself changes: turns about both level axes, and the drop where the camera looks level."""
    tell, focal = Teller(), lens.focal_pixels(optics.focal_m, optics.pixels_high, optics.sensor_height_m)
    if kit.turning < 1:
        given = (*given, through_head(kit.turning))
    shift = (
        kit.turning * focal * np.hypot(along.turn_x - along.turn_x.mean(), along.turn_y - along.turn_y.mean())
        + (0.0 if move.move == "look_down" else 1.0) * focal * np.abs(along.drop - along.drop.mean()) / away
    )
    value, limit = 2 * float(shift.max()), 0.01 * optics.pixels_high
    tell.add(
        by_method(
            "travel.shift",
            "Subject wanders in the picture",
            value,
            "px",
            "tilt and drop along the move, from their mean",
            (*given, Given("D", away, "m", "subject's distance")),
            source="drive 5.3",
        )
    )
    drawn = path.at(MOMENTS)[:, 0]
    tell.curves["travel.path"] = Curve(
        "travel.path", "Drop of the camera along the runways", drawn, along.drop, "m", "m"
    )
    tell.hold(
        "travel.shift",
        "travel.picture",
        "Sag in the picture",
        PICTURE,
        "bridge.section",
        "Along the move the frame shifts the subject by {}.",
        at_most=limit,
        remedies=stiff,
    )
    return tell.told()


def _carries(rig: Gantry, worst: Bent, given: tuple[Given, ...]) -> Told:
    """The most and the least that a post carries."""
    tell, low = Teller(), float(worst.reactions.min())
    tell.add(
        by_method(
            "balance.post",
            "Most a post carries",
            float(worst.reactions.max()),
            "N",
            _found_at(rig, int(np.argmax(worst.reactions.max(axis=1)))),
            given,
            source="statics 4.1",
            headline=True,
        ),
        by_method(
            "balance.least",
            "Least at a post",
            low,
            "N",
            _found_at(rig, int(np.argmin(worst.reactions.min(axis=1)))) + "; minus is a pull upwards",
            given,
            source="statics 8.1",
        ),
    )
    tell.hold(
        "balance.least",
        "balance.uplift",
        "Frame stays down",
        PEOPLE,
        "boom.longest",
        Words(
            "With the boom out over the edge a post is pulled up with {}: hold it down or shorten the boom."
            if low < 0
            else "Every post stays pressed, at least {}.",
            ((abs(low), "N"),),
        ),
        at_least=0.0,
        state=STOP if low < 0 else "clear",
        remedies=(set_one("counter", "Hang {} behind the trolley", "boom.counter", _counter(rig), "kg"),)
        if low < 0 and _counter(rig) <= 20
        else (),
    )
    return tell.told()


def _works(design: Design, rig: Gantry, worst: Bent, given: tuple[Given, ...], stiff: tuple[Remedy, ...]) -> Told:
    """Stress in the bridge against what it may bear overhead."""
    tell = Teller()
    m = rig.bridge.material
    allowed = m.allowed(safety_class("D").strength(m.family))
    # A screw takes its width out of a flange; the truck's bolt its own near the end, where little bends.
    whole = rig.bridge.eiy / (m.E * rig.bridge.depth / 2)
    if design.variant == BOARDS:
        left = at_end = whole * (1 - SCREW / design.number("board.flange"))
    else:
        bar = design.row("sections", "bridge.section")
        left, at_end = float(bar.section().modulus), max(0.0, bar.left_at(TRUCK_HOLE))
    stress = max(
        stress_at(HANDS * float(worst.bending.max()), left),
        stress_at(HANDS * float(worst.ends.max()) * (EDGE + inset(rig)), at_end),
    )
    tell.add(
        by_method(
            "rig.stress",
            "Stress in the bridge",
            stress,
            "Pa",
            "moment over what screws leave of it, or at the bolt of its end truck, 1.5 for hand moves",
            given,
            source="statics 2, 9",
        )
    )
    tell.hold(
        "rig.stress",
        "rig.strong",
        "Strength of the bridge",
        STRUCTURE,
        "bridge.section",
        "The bridge works at {} of {} allowed overhead; it fails this way: " + m.fails + ".",
        at_most=allowed,
        remedies=stiff,
    )
    return tell.told()


def distance(design: Design, move: Move, subject: Thing | None) -> float:
    """Distance at which the picture is judged [m]."""
    if move.down:
        height = design.number("runway.height") - design.number("camera.drop")
        return max(0.2, height - (subject.at_m[2] + subject.size_m[2] if subject else 0.75))
    return 2.0


def _counter(rig: Gantry) -> float:
    return math.ceil((rig.tip * rig.longest + rig.boom_line * rig.longest**2 / 2) / max(rig.tail, 0.05) * 2) / 2


def _stiffer(design: Design, rig: Gantry) -> tuple[Remedy, ...]:
    """The lightest stock section at least twice as stiff, a deeper web for boards, a weight against the boom, a
    stiffer or shorter boom, one post more.
    """
    found: list[Remedy] = []
    if design.variant == "boards":
        deep = round(min(0.4, 1.3 * design.number("board.web")), 3)
        found.append(set_one("deeper", "Web {} high", "board.web", deep, "m"))
    else:
        now = design.row("sections", "bridge.section")
        rows = [
            (b.section().area, b.id, b.name)
            for b in design.catalogue.sections.values()
            if (b.shape, b.system) == (now.shape, now.system)
            and b.section().upright >= 1.6 * now.section().upright
            and b.section().j >= now.section().j
        ]
        if rows:
            best = min(rows)
            found.append(set_one("stiffer", f"Bridge of {best[2][:1].lower()}{best[2][1:]}", "bridge.section", best[1]))
    if _counter(rig) <= 20 and _counter(rig) > rig.counter:
        # What hangs behind takes the twist off the bridge.
        found.append(set_one("counter", "Hang {} behind the trolley", "boom.counter", _counter(rig), "kg"))
    now = design.row("sections", "boom.section")
    booms = [
        (b.section().area, b.id, b.name)
        for b in design.catalogue.sections.values()
        if (b.shape, b.material, b.system) == (now.shape, now.material, now.system)
        and b.section().upright >= 1.9 * now.section().upright
    ]
    if booms:
        found.append(
            set_one("boom", f"Boom of {min(booms)[2][:1].lower()}{min(booms)[2][1:]}", "boom.section", min(booms)[1])
        )
    shorter = round(max(design.number("boom.out"), 0.8 * rig.longest), 2)
    if shorter < rig.longest - 0.01:
        found.append(set_one("shorter", "Boom out to {} at most", "boom.longest", shorter, "m"))
    if len(rig.posts) < 6:
        found.append(
            set_one(
                "posts", f"Hold each runway at {len(rig.posts) + 1} places", "runway.posts", float(len(rig.posts) + 1)
            )
        )
    return tuple(found)


def _overhead(design: Design, rig: Gantry) -> Told:
    """People below, the tether, the general caution."""
    tell = Teller()
    if design.text("below") == "people" or design.text("safety") == "E":
        tell.findings.append(refusal("below", "nothing designed here hangs over people"))
    hangs = rig.tip + rig.boom_mass(rig.longest) + rig.trolley + rig.counter
    tell.findings.append(caution(hangs, "braced posts, end stops, a tether, nothing over people"))
    tell.take(tether_figures(design, rig.payload, "camera kit"))
    return tell.told()
