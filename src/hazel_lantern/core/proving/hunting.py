"""Before it is fixed: a carriage that binds, an adjuster, and when to tighten;
and mishaps of making, to save or to scrap."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.words import Words

STATIONS = 7
BASE, RUBS, FLOAT = 0.8, 4.0e3, 0.0003  # newtons that it always drags with, newtons a metre of squeeze, metres of float
SHIFTS = 0.00003  # metres that an adjuster moves as it is tightened
TOO_EARLY, EACH_STEP, LOOSE = 30, 2, 15  # points: fixed before all of it was run, a step beyond those needed, rattling
NEEDED = STATIONS + 4  # steps that anybody needs


class Hunt(Struct, frozen=True):
    """A carriage on two rails as far apart as at n stations (n,) [m more than drawn]; its adjuster [m]; the stations
    that were felt since it was last moved; steps; whether it is tightened.
    """

    seed: int
    apart: tuple[float, ...]
    adjuster: float = 0.0
    felt: frozenset[int] = frozenset()
    steps: int = 0
    fixed: bool = False


def hunt(seed: int) -> Hunt:
    """Rails that lie unevenly apart, one place tighter or wider than the rest; the same seed lays the same."""
    chance = np.random.default_rng((seed, 11))
    apart = chance.normal(0.0, 0.00008, STATIONS) + chance.choice([-1, 1]) * chance.uniform(0.0002, 0.0006)
    apart[int(chance.integers(STATIONS))] += chance.choice([-1, 1]) * chance.uniform(0.0001, 0.0003)
    return Hunt(seed, tuple(float(v) for v in apart))


def drag(one: Hunt, station: int) -> float:
    """What the carriage drags with at a station [N]: more where the rails are off what its wheels are set to by more
    than their float.
    """
    off = one.apart[station] - one.adjuster
    return BASE + RUBS * max(0.0, abs(off) - FLOAT / 2)


def feel(one: Hunt, station: int) -> tuple[Hunt, float, str]:
    """The carriage pushed to a station: what a scale reads [N], and whether the wheels are squeezed or stretched."""
    if not 0 <= station < STATIONS:
        raise InputError("station", station + 1, f"must be from 1 to {STATIONS}")
    chance = np.random.default_rng((one.seed, one.steps, station))
    off = one.apart[station] - one.adjuster
    side = "wheels pressed together" if off < -FLOAT / 2 else "wheels pulled apart" if off > FLOAT / 2 else "free"
    reads = drag(one, station) + float(chance.normal(0, 0.05))
    return replace(one, felt=one.felt | {station}, steps=one.steps + 1), max(0.0, reads), side


def adjust(one: Hunt, by: float) -> Hunt:
    """The adjuster moved outwards, in with a minus [m]; what was felt before says nothing of it now.
    Raises InputError."""
    if one.fixed or not abs(by) <= 0.005:
        raise InputError("adjuster", by, "moves by at most 5 mm, and not once it is tightened")
    return replace(one, adjuster=one.adjuster + by, felt=frozenset(), steps=one.steps + 1)


def tighten(one: Hunt) -> Hunt:
    """Fixed for good: tightening moves it a little."""
    chance = np.random.default_rng((one.seed, 13))
    return replace(one, adjuster=one.adjuster + float(chance.normal(0, SHIFTS)), steps=one.steps + 1, fixed=True)


def hunted(one: Hunt) -> tuple[int, Words]:
    """Points of a hundred for one that was tightened, and what was done well or badly.

    What is left is held against the best that any setting of the adjuster gives.
    """
    if not one.fixed:
        raise InputError("hunt", "not tightened", "tighten it first")
    worst = max(drag(one, k) for k in range(STATIONS))
    middle = (max(one.apart) + min(one.apart)) / 2
    best = max(drag(replace(one, adjuster=middle), k) for k in range(STATIONS))
    start = max(drag(replace(one, adjuster=0.0), k) for k in range(STATIONS))
    share = min(1.0, max(0.0, (worst - best) / max(start - best, 0.2)))
    early = len(one.felt) < STATIONS
    points = 100 * (1 - share) - EACH_STEP * max(0, one.steps - NEEDED) - (TOO_EARLY if early else 0)
    said = "Tightened before all of it was run: what binds further on is fixed in. " if early else ""
    return max(0, round(points)), Words(
        said + "It drags with {} at its worst; {} is the best that this adjuster gives.", ((worst, "N"), (best, "N"))
    )


class Mishap(Struct, frozen=True):
    """Something that went wrong in making: what happened, whether it may be saved, and the figures that say so."""

    happened: Words
    saved: bool
    why: Words


def mishap(seed: int) -> Mishap:
    """One of eight sorts, with sizes by chance; about half may be saved."""
    chance = np.random.default_rng((seed, 17))
    made = _MISHAPS[int(chance.integers(len(_MISHAPS)))]
    return made(chance)


def _edge(chance: np.random.Generator) -> Mishap:
    hole, off = 0.0064, float(chance.uniform(0.001, 0.007))
    left = 0.0125 - off
    asks = 1.5 * hole
    return Mishap(
        Words("A hole of {} in a 25 mm aluminium tube was drilled {} off its middle.", ((hole, "m"), (off, "m"))),
        left >= asks,
        Words(
            "{} is left from its middle to the edge; one and a half diameters, {}, hold.", ((left, "m"), (asks, "m"))
        ),
    )


def _short(chance: np.random.Generator) -> Mishap:
    short, spare = float(chance.uniform(0.004, 0.05)), 0.022
    return Mishap(
        Words("A rail was cut {} too short; the move leaves {} of it unused.", ((short, "m"), (spare, "m"))),
        short <= spare,
        Words("{} of travel is left beyond the move.", ((spare - short, "m"),)),
    )


def _dent(chance: np.random.Generator) -> Mishap:
    deep, works = float(chance.uniform(0.0005, 0.005)), float(chance.uniform(0.4, 0.85))
    # A dent takes as much of the section modulus as twice its depth over the tube's.
    now = works / (1 - 2 * deep / 0.03)
    return Mishap(
        Words(
            "A 30 mm arm tube that works at {} of what it may got a dent {} deep at its most bent place.",
            ((works, "1"), (deep, "m")),
        ),
        now <= 0.8,
        Words("It would work at {}; 0.8 leaves something to spare.", ((now, "1"),)),
    )


def _oval(chance: np.random.Generator) -> Mishap:
    oval, apart = float(chance.uniform(0.0001, 0.0012)), 0.11
    tilt = oval / apart
    return Mishap(
        Words(
            "A pivot hole of an arm kept level by two bars {} apart was drilled {} oval.", ((apart, "m"), (oval, "m"))
        ),
        tilt <= math.radians(0.2),
        Words("The head may nod by {}; 0.2° is not minded.", ((tilt, "rad"),)),
    )


def _bow(chance: np.random.Generator) -> Mishap:
    bow, play = float(chance.uniform(0.0001, 0.0016)), 0.0006
    return Mishap(
        Words(
            "A rod for a bored shuttle is bowed by {} over the shuttle's length; the bore leaves {}.",
            ((bow, "m"), (play, "m")),
        ),
        bow <= play,
        Words("Bow less play leaves {} of squeeze.", ((max(0.0, bow - play), "m"),)),
    )


def _thread(chance: np.random.Generator) -> Mishap:
    deep = float(chance.uniform(0.003, 0.011))
    return Mishap(
        Words("Of an M6 hole tapped in aluminium {} of thread turned out whole.", ((deep, "m"),)),
        deep >= 1.5 * 0.006,
        Words("One and a half diameters, {}, carry the screw's own strength.", ((1.5 * 0.006, "m"),)),
    )


def _split(chance: np.random.Generator) -> Mishap:
    long, wide = float(chance.uniform(0.005, 0.06)), 0.045
    return Mishap(
        Words("A board {} wide split along its grain for {} from a screw at its end.", ((wide, "m"), (long, "m"))),
        False,
        Words(
            "A split runs on under load: no length of it carries. Cut it off where there is length, else make it anew."
        ),
    )


def _wide(chance: np.random.Generator) -> Mishap:
    wide = float(chance.uniform(0.0003, 0.003))
    return Mishap(
        Words("A carriage plate came out {} too wide between its guides; its edge can be planed.", ((wide, "m"),)),
        True,
        Words("What is too large can be taken off; what is too small cannot be put back."),
    )


_MISHAPS = (_edge, _short, _dent, _oval, _bow, _thread, _split, _wide)
