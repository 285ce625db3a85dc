"""What tests of a built rail and of what runs on it are foreseen to read."""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.foreseen import TRIED, WIDE, Foreseen, around, due_to
from hazel_lantern.core.kinds.rail.model import Carriage, Straight
from hazel_lantern.core.kinds.rail.parts import RAIL_NAME
from hazel_lantern.core.kinds.shared.inputs import ROLLING, STIFFNESS
from hazel_lantern.core.mechanics import rails
from hazel_lantern.core.mechanics.rails import Rail
from hazel_lantern.core.nouns.sketch import Point
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

DAMPING, DAMPING_KEY = "rail.damping", "damping"
HALF = 0.5  # of what gives, from which on a sag measures that
STICK = 0.0005  # metres that a gauge stick reads to, either way


def on_way(design: Design, way: Carriage, friction: str = ROLLING) -> dict[str, Foreseen]:
    """Of what runs: how easily it rolls, by a slope and by pulling; whether all its wheels stand."""
    low, high = way.drag
    least, most, middle = (1 - WIDE) * low, (1 + WIDE) * high, (low + high) / 2
    x, z = _seen(way, way.low)
    end = _seen(way, 0.0)
    found = {
        "level": Foreseen(-LEVEL, LEVEL, at=_seen(way, way.length / 2)),
        "roll": Foreseen(least, most, middle, corrects=friction, at=end),
        "pull": Foreseen(least, most, middle, {"weight": way.weight}, friction, at=(x, z), pose=(way.low,)),
    }
    if len(way.wheels) == 4 and not way.lone:
        sizes = {
            "base": way.wheelbase,
            "across": float(np.ptp(way.wheels[:, 1])),
            "ahead": float(way.cg[0]),
            "left": float(way.cg[1]),
        }
        found["rocking"] = Foreseen(0.0, ROCKS, 0.0, sizes, at=(x, z), pose=(way.low,))
    return found


LEVEL, ROCKS = math.radians(0.2), 0.001  # that anything set up by hand stands off level; a gap [m] nobody feels close


def on_rails(design: Design, rail: Straight, bounces: float, rests: str = "") -> dict[str, Foreseen]:
    """Of the rails: how far they sink under a weight, how they bounce, and how far apart they lie. `rests` names the
    input that says how stiff what they lie on is: where that gives more than they do, it is what a sag measures.
    """
    place, gives = softest(rail)
    stiffer = replace(rail.beam, ei=TRIED * rail.beam.ei, gj=TRIED * rail.beam.gj, ga=TRIED * rail.beam.ga)
    due, corrects = due_to(gives, float(_gives(rail, stiffer, np.array([place]))[0])), STIFFNESS
    if due < HALF and rests:
        due, corrects = 1 - due, rests
    where = Words("Carriage {} from the first end, where the rail gives most.", ((place + 0.0, "m"),))
    at = _seen(rail, place)
    damped = design.number(DAMPING)
    found = {
        "sag": around(GRAVITY * gives, corrects=corrects, where=where, at=at, of=(RAIL_NAME,), pose=(place,), due=due),
        "bounce": around(
            bounces,
            takes={"damping": damped},
            corrects=corrects,
            where=where,
            at=at,
            of=(RAIL_NAME,),
            pose=(place,),
            due=due,
        ),
        DAMPING_KEY: around(damped, WIDE, corrects=DAMPING, of=(RAIL_NAME,)),
    }
    if rail.count == 2:
        play = design.number("fit.play")
        found["gauge"] = around(
            rail.spacing, (STICK + play / 2) / rail.spacing, takes={"float": play, "length": rail.length}, at=at
        )
        found["crosswise"] = Foreseen(-LEVEL, LEVEL, takes={"spacing": rail.spacing, "length": rail.length}, at=at)
    return found


def tests_of(design: Design, *, railed: bool, twin: bool, four: bool) -> tuple[str, ...]:
    """Keys of all that: of what runs on rails or not, on two of them, on four wheels."""
    found = ("level", "roll", "pull", *(("rocking",) if four else ()))
    found += ("sag", "bounce", DAMPING_KEY) if railed else ()
    return (*found, "gauge", "crosswise") if twin else found


def softest(rail: Straight) -> tuple[float, float]:
    """Where along the rail it gives most under a weight on the carriage [m], and by how much [m/N]."""
    x = np.linspace(rail.low, rail.high, 41)
    drop = _gives(rail, rail.beam, x)
    worst = int(np.argmax(drop))
    return float(x[worst]), float(drop[worst])


def _gives(rail: Straight, beam: Rail, x: np.ndarray) -> np.ndarray:
    """How far a beam in the rail's place gives under a newton on the carriage at places (n,) [m]."""
    held = replace(
        beam,
        weight=0.0,
        gj=1e3 * beam.gj if rail.count == 2 else beam.gj,
        rests=tuple(replace(rest, pulls=True) for rest in beam.rests),
    )
    return rails.travel(held, x, rail.wheelbase, 0.5, 0.5).drop


def _seen(way: Carriage, along: float) -> Point:
    x, z = way.on_floor(along)
    return float(x), float(z)
