"""Readings of a rig that is only simulated: what each test would read of it with faults that nobody sees, through
instruments with their usual errors.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping

import numpy as np
from msgspec import Struct

from hazel_lantern.core.kinds.foreseen import Foreseen
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.proving.told import BY_KEY
from hazel_lantern.core.proving.trial import Trial

NORMAL = 1.96  # standard deviations that hold 95 of 100 readings
STATIONS = 9  # along a rail
RADIUS = 1.5  # metres from the pivot that a scale is hooked on, at the most
Row = tuple[float, ...]


class Built(Struct, frozen=True):
    """How a built rig differs from its drawing: times as stiff, as hard to roll, as stiff a head, as much friction of a
    hub; the arm's camera end heavier [kg*m], what turns out of balance [kg*m]; off level [rad]; at one place of its
    rails a gauge wider [m], one rail higher [rad] and a carriage that binds by so much of its weight [-], the place as
    a share of their length; one wheel hanging [m], play at reversal [m], scatter at its mark [m], faster than commanded
    [-], staying down after a load [m], and the zero of the scale [N].
    """

    stiff: float = 1.0
    rolls: float = 1.0
    head: float = 1.0
    hub: float = 1.0
    heavy: float = 0.0
    unbalance: float = 0.0
    tilt: float = 0.0
    place: float = 0.5
    wide: float = 0.0
    across: float = 0.0
    binds: float = 0.0
    wheel: float = 0.0
    play: float = 0.0
    scatter: float = 0.0002
    faster: float = 0.0
    stays: float = 0.0
    zero: float = 0.0


class Bench(Struct):
    """What a simulated test works with: the forecasts of the rig, how it is built, and chance."""

    known: Mapping[str, Foreseen]
    built: Built
    chance: np.random.Generator

    def off(self, give: float, n: int = 1) -> np.ndarray:
        """What an instrument is off by (n,)."""
        return self.chance.normal(0.0, give / NORMAL, n)


def rows(key: str, bench: Bench, count: int = 0) -> tuple[Row, ...]:
    """Rows that a test reads, as many as it asks for at the least where `count` is 0. Raises KeyError for a test that
    is not simulated.
    """
    trial = BY_KEY[key]
    made = READS[key](trial, bench, max(count, trial.fewest))
    clean = [
        tuple(float(min(max(v, f.quantity.low), f.quantity.high)) for f, v in zip(trial.fields, row, strict=True))
        for row in made
    ]
    return tuple(clean)


def _stacked(*columns: np.ndarray | float, n: int) -> list[Row]:
    return [tuple(row) for row in np.column_stack([np.broadcast_to(column, n) for column in columns]).tolist()]


def _level(trial: Trial, b: Bench, n: int) -> list[Row]:
    own, give = b.chance.normal(0, 0.003), trial.fields[0].give
    return _stacked(b.built.tilt + own + b.off(give, n), -b.built.tilt + own + b.off(give, n), 1.0, n=n)


def _stations(b: Bench, key: str) -> np.ndarray:
    return np.linspace(0.03, 0.97, STATIONS) * b.known[key].takes.get("length", 1.0)


def _at(b: Bench, places: np.ndarray) -> np.ndarray:
    """Which of the places is nearest to where the fault lies (n,), 1 there and half beside."""
    near = int(np.argmin(np.abs(places - places[0] - b.built.place * np.ptp(places))))
    return np.array([1.0 if k == near else 0.0 for k in range(len(places))])


def _gauge(trial: Trial, b: Bench, _n: int) -> list[Row]:
    places = _stations(b, "gauge")
    wide = b.known["gauge"].middle + b.built.wide * _at(b, places) + b.off(trial.fields[1].give, len(places))
    return _stacked(places, wide, n=len(places))


def _crosswise(trial: Trial, b: Bench, _n: int) -> list[Row]:
    places, own = _stations(b, "crosswise"), b.chance.normal(0, 0.003)
    high, give = b.built.across * _at(b, places), trial.fields[1].give
    return _stacked(
        places, high + own + b.off(give, len(places)), -high + own + b.off(give, len(places)), n=len(places)
    )


def _rocking(trial: Trial, b: Bench, n: int) -> list[Row]:
    give = trial.fields[0].give / 3
    return _stacked(*(b.off(give, n) + (abs(b.built.wheel) if k == 1 else 0.0) for k in range(4)), n=n)


def _roll(trial: Trial, b: Bench, n: int) -> list[Row]:
    keeps = b.known["roll"].middle * b.built.rolls * (1 + b.chance.normal(0, 0.03, n))
    rise = keeps / np.sqrt(1 + keeps**2) + b.off(trial.fields[1].give, n)
    return _stacked(1.4 * rise, rise, 1.0, n=n)


def _pull(trial: Trial, b: Bench, _n: int) -> list[Row]:
    places, own = np.linspace(-0.45, 0.45, STATIONS), b.known["pull"]
    drag = own.middle * b.built.rolls * (1 + b.chance.normal(0, 0.02, STATIONS)) + b.built.binds * _at(b, places)
    weight, give, slope = own.takes["weight"], trial.fields[1].give, math.sin(b.built.tilt)
    return _stacked(
        places,
        weight * (drag + slope) + b.built.zero + b.off(give, STATIONS),
        weight * (drag - slope) + b.built.zero + b.off(give, STATIONS),
        b.built.zero,
        n=STATIONS,
    )


def _softer(own: Foreseen, b: Bench) -> float:
    """How much more all of it gives, where a part of what gives is as stiff as it is."""
    times = b.built.head if own.corrects.startswith(("head", "ground", "hanger")) else b.built.stiff
    return own.due / times + 1 - own.due


def _sag(trial: Trial, b: Bench, n: int) -> list[Row]:
    own = b.known["sag"]
    load = min(20.0, max(0.5, round(0.006 / own.middle, 1))) if own.middle > 0 else 1.0
    sinks = load * own.middle * _softer(own, b)
    # What hardly sinks is read with a dial, not with a tape.
    step = min(trial.fields[1].give / 5, 0.02 * sinks)
    return _stacked(load, sinks * (1 + b.chance.normal(0, 0.01, n)) + b.off(step, n), n=n)


def _bounce(trial: Trial, b: Bench, n: int) -> list[Row]:
    own = b.known["bounce"]
    rate = own.middle / math.sqrt(_softer(own, b))
    damping = b.known["damping"].middle if "damping" in b.known else 0.02
    last = 0.012 * math.exp(-20 * 2 * math.pi * damping)
    return _stacked(
        20.0,
        20 / rate * (1 + b.chance.normal(0, 0.004, n)),
        0.012,
        max(last, 2e-5) * (1 + b.chance.normal(0, 0.03, n)),
        n=n,
    )


def _head(trial: Trial, b: Bench, n: int) -> list[Row]:
    stiff = b.known["head"].middle * b.built.head
    return _stacked(2.0, 0.5, 2.0 * GRAVITY * 0.5 / stiff * (1 + b.chance.normal(0, 0.02, n)), n=n)


def _hanger(trial: Trial, b: Bench, n: int) -> list[Row]:
    stiff = b.known["hanger"].middle * b.built.head
    return _stacked(10.0, 10.0 * GRAVITY / stiff * (1 + b.chance.normal(0, 0.02, n)), n=n)


def _coast(trial: Trial, b: Bench, _n: int) -> list[Row]:
    own = b.known["coast"]
    slows, start, turns = own.middle * b.built.hub / own.takes["inertia"], 3.2, 8
    angle = 2 * math.pi * np.arange(turns)
    ends = start**2 / (2 * slows)
    angle = angle[angle < 0.98 * ends] if ends > 2 * math.pi * 6 else np.linspace(0, 0.98 * ends, turns)
    times = (start - np.sqrt(start**2 - 2 * slows * angle)) / slows
    return _stacked(angle / (2 * math.pi), times + np.abs(b.off(0.02, len(angle))) * (times > 0), n=len(angle))


def _drift(trial: Trial, b: Bench, n: int) -> list[Row]:
    theta = np.radians([-35.0, -15.0, 5.0, 25.0, 45.0])
    own = b.known["drift"]
    hooked = min(RADIUS, abs(own.at[0])) if own.at is not None else RADIUS
    along = own.middle / GRAVITY + b.built.heavy
    pull = GRAVITY / hooked * along * np.cos(theta) + b.built.zero + b.off(0.025, 5)
    rubs = (own.high - own.middle) / hooked
    return _stacked(theta, pull + rubs, pull - rubs, hooked, b.built.zero, n=5)


def _heavy(trial: Trial, b: Bench, n: int) -> list[Row]:
    off = abs(b.built.unbalance) + 1e-3
    period = 2 * math.pi * math.sqrt(b.known["heavy"].takes["inertia"] / (off * GRAVITY * math.sin(0.1)))
    return _stacked(
        5 * period * (1 + b.chance.normal(0, 0.01, n)), 5.0, 0.1, 0.0 if b.built.unbalance > 0 else 1.0, n=n
    )


def _runs(trial: Trial, b: Bench, n: int) -> list[Row]:
    weight, off = b.known["runs"].takes["trial"], b.built.unbalance + 1e-3
    shakes = [abs(off)] + [abs(off + weight * np.exp(2j * math.pi * k / 3)) for k in range(3)]
    return [(float(k), 1e3 * shakes[k] * (1 + b.chance.normal(0, 0.02))) for k in range(4) for _ in range(2)]


def _pluck(trial: Trial, b: Bench, n: int) -> list[Row]:
    own = b.known["pluck"]
    rate = math.sqrt(own.middle * b.built.stiff / 4 / own.takes["line"]) / own.takes["length"]
    return _stacked(20.0, 20 / rate * (1 + b.chance.normal(0, 0.006, n)), n=n)


def _hangs(trial: Trial, b: Bench, n: int) -> list[Row]:
    sag = b.known["hangs"].middle * (1 + (1 - b.built.stiff) / 2)
    return _stacked(sag + 1.5, 1.5 + b.off(trial.fields[0].give * 3, n), n=n)


def _repeat(trial: Trial, b: Bench, n: int) -> list[Row]:
    return _stacked(b.built.play / 2 + b.chance.normal(0, b.built.scatter, max(n, 8)), n=max(n, 8))


def _play(trial: Trial, b: Bench, n: int) -> list[Row]:
    half, give = b.built.play / 2, trial.fields[0].give
    return _stacked(half + b.off(give, n), -half + b.off(give, n), n=n)


def _speed(trial: Trial, b: Bench, n: int) -> list[Row]:
    return _stacked(1.0, 1 / (0.1 * (1 + b.built.faster)) + b.off(trial.fields[1].give, n), 0.1, n=n)


def _stake(trial: Trial, b: Bench, _n: int) -> list[Row]:
    return [(b.known[trial.key].low + 20.0, 5.0, b.built.stays)]


def _proof(trial: Trial, b: Bench, _n: int) -> list[Row]:
    return [(b.known["proof"].low + 0.1, 0.004, b.built.stays)]


def _wear(trial: Trial, b: Bench, _n: int) -> list[Row]:
    return [(1.0 if b.built.stays > 0 else 0.0,)]


READS: Mapping[str, Callable[[Trial, Bench, int], list[Row]]] = {
    "level": _level, "gauge": _gauge, "crosswise": _crosswise, "rocking": _rocking, "roll": _roll, "pull": _pull,
    "sag": _sag, "bounce": _bounce,
    "head": _head, "hanger": _hanger, "coast": _coast, "drift": _drift, "heavy": _heavy,
    "runs": _runs, "pluck": _pluck, "hangs": _hangs,
    "repeat": _repeat, "play": _play, "speed": _speed, "stake_a": _stake,
    "stake_b": _stake, "proof": _proof, "wear": _wear,
}  # fmt: skip
