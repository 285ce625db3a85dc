"""Sources as they come out: what they give at a speed, the span they run smoothly in, what they hold and draw."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from msgspec import Struct

from hazel_lantern.core.catalogue import Catalogue, Motor
from hazel_lantern.core.document import drives as d
from hazel_lantern.core.document.project import Drive
from hazel_lantern.core.motion import sources
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.quantity import Choice

RPM = 2 * math.pi / 60
CRANK_SLOW, CRANK_FAST = 20 * RPM, 60 * RPM  # that a hand turns evenly at; workshop judgement
HAND_SLOW, HAND_FAST = 0.05, 1.0  # metres a second
DIAL = 0.9  # of its no-load speed that a dialled motor should run at the most
STEPPED, TURNED, HANDED = 2.0, 1.5, 1.5  # times what is needed, that a source should give
STEPS_FASTEST = 10.0  # turns a second that a stepper is run at, at the most


class Source(Struct, frozen=True):
    """What drives: its name, what it gives at speeds (n,) [N*m], or [N] where hands push along a way; from and up to
    what speed it runs smoothly [rad/s] or [m/s], by how much more than needed it must give, what turns in it
    [kg*m^2], its own play [rad], what of a load comes back through it when off and what it then holds [N*m]; the
    motor's row.
    """

    name: str
    gives: Callable[[np.ndarray], np.ndarray]
    slowest: float
    fastest: float
    spare: float
    standing: float
    inertia: float = 0.0
    play: float = 0.0
    back: float = 1.0
    holds: float = 0.0
    motor: Motor | None = None
    stepper: sources.Stepper | None = None
    microsteps: float = 0.0
    one_speed: bool = False
    dialled: bool = False


class Settings(Struct, frozen=True):
    """The sizes of a drive, the usual ones where nothing else was said."""

    drive: Drive

    def number(self, key: str) -> float:
        return float(self.drive.values.get(key, d.ALL[key].default))  # type: ignore[arg-type]

    def text(self, key: str) -> str:
        return str(self.drive.values.get(key, d.ALL[key].default))


def source_of(drive: Drive, shelf: Catalogue, turns: bool, ripple: float) -> Source:
    """The source of a drive.

    drive: as it was decided
    shelf: the catalogue its motor is in
    turns: whether its axis turns
    ripple: by how much the torque that is asked for changes over the move, at the source [N*m]

    Returns: the source. Raises: InputError for a motor that is not there, and for readings that make none.
    Source: drive 1.4, 1.9.
    """
    given = Settings(drive)
    if drive.source in (d.HAND, d.GRAVITY):
        lever = given.number("lever") if turns else 1.0
        force = given.number("force")
        return Source(
            "hand",
            lambda w: np.full(np.shape(w), force * lever),
            HAND_SLOW / lever,
            HAND_FAST / lever,
            HANDED,
            force * lever,
        )
    if drive.source in (d.CRANK, d.REEL):
        torque = given.number("force") * given.number("radius")
        return Source("crank", lambda w: np.full(np.shape(w), torque), CRANK_SLOW, CRANK_FAST, HANDED, torque)
    if drive.source == d.STEPPER:
        return _stepper(given, _row(given, shelf, "stepper"))
    if drive.source == d.SLOW:
        row = _row(given, shelf, "slow")
        one = row.no_load
        return Source(
            row.name,
            lambda w: np.where(w <= one * 1.001, row.stall, 0.0),
            one,
            one,
            TURNED,
            row.stall,
            row.inertia,
            row.play,
            row.back,
            row.holds,
            row,
            one_speed=True,
        )
    return _dialled(given, _own(given) if drive.source == d.OWN else _row(given, shelf, "gearmotor"), ripple)


def _row(given: Settings, shelf: Catalogue, key: str) -> Motor:
    size = d.ALL[key]
    assert isinstance(size, Choice)
    found: Motor = shelf.row(size.table, given.text(key), f"drive.{given.drive.axis}.{key}")
    return found


def _own(given: Settings) -> Motor:
    """A motor from two readings of torque and speed: the line through both."""
    w1, t1, w2, t2 = (given.number(key) for key in ("speed_1", "torque_1", "speed_2", "torque_2"))
    field = f"drive.{given.drive.axis}.speed_2"
    if not (w1 > w2 and t2 > t1):
        raise InputError(
            field, f"{w2:.3g} rad/s at {t2:.3g} N·m", "the second reading must be slower under more torque"
        )
    falls = (w1 - w2) / (t2 - t1)
    a1, a2 = given.number("current_1"), given.number("current_2")
    per = max(0.0, a2 - a1) / (t2 - t1)
    stall, free = w1 / falls + t1, w1 + falls * t1
    return Motor(
        id="own",
        name="Motor of your own",
        volts=given.number("volts"),
        mass=given.number("weighs"),
        size=0.04,
        length=0.06,
        shaft=0.006,
        sounds=given.number("sounds"),
        price=0.0,
        no_load=free,
        stall=stall,
        free_current=max(0.01, a1 - per * t1),
        stall_current=max(0.01, a1 + per * (stall - t1)),
        back=0.5,
        play=0.03,
    )


def _dialled(given: Settings, row: Motor, ripple: float) -> Source:
    """A gearmotor on a dial: a supply of another voltage changes its speed and its torque alike."""
    share = given.number("volts") / row.volts
    no_load, stall = row.no_load * share, row.stall * share
    slowest = sources.dialled_floor(no_load, stall, ripple, encoder=row.encoder)
    return Source(
        row.name,
        lambda w: sources.dialled_torque(no_load, stall, w),
        slowest,
        DIAL * no_load,
        TURNED,
        stall,
        row.inertia,
        row.play,
        row.back,
        row.holds,
        row,
        dialled=not row.encoder,
    )


def _stepper(given: Settings, row: Motor) -> Source:
    motor = sources.Stepper(
        row.stall, row.stall_current, row.resistance, row.inductance, given.number("volts"), row.steps
    )
    fastest = STEPS_FASTEST * 2 * math.pi * 200 / row.steps
    standing = float(sources.pull_out(motor, np.zeros(1))[0])
    return Source(
        row.name,
        lambda w: sources.pull_out(motor, w),
        0.0,
        fastest,
        STEPPED,
        standing,
        row.inertia,
        row.play,
        row.back,
        row.holds,
        row,
        motor,
        given.number("microsteps"),
    )


def draws(given: Source, torque: float, volts: float) -> float:
    """What a motor draws as it gives a torque [N*m] on a supply [V]: current [A]."""
    row = given.motor
    if row is None:
        return 0.0
    if given.stepper is not None:
        # Both phases, regulated: about what heats the coils and turns the shaft.
        return math.sqrt(2) * row.stall_current * row.stall_current * row.resistance / volts + 0.1
    if given.one_speed:
        return row.stall_current
    return row.free_current + (row.stall_current - row.free_current) * min(1.0, abs(torque) / row.stall)
