"""A motion controller: what it is asked over a link, and a simulated one that ships."""

from __future__ import annotations

import random
from collections.abc import Callable, Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.devices.errors import DeviceError
from hazel_lantern.devices.lines import VERSION, check_sum, heard, said
from hazel_lantern.devices.link import Link
from hazel_lantern.devices.ports import Port

CONTROLLER = "controller"
UNHOMED, HOMING, READY, MOVING, ARMED = "unhomed", "homing", "ready", "moving", "armed"
RUNNING, HELD, DONE, STOPPED, FAULT = "running", "held", "done", "stopped", "fault"
STILL = (UNHOMED, READY, ARMED, HELD, DONE, STOPPED, FAULT)
BEAT_LOST = 0.5  # seconds after the last beat from which it ramps to a stop by itself
RAMP = 0.4  # seconds that it takes from full speed to standing
GROUP = 12  # points in a line
AXES = 8
PLACES = "{:.4f}"


class Status(Struct, frozen=True):
    """What a controller says of itself: its state, the time of the move [s], where every axis is, how full its battery
    is [%], and why it stopped.
    """

    state: str
    time: float
    places: tuple[float, ...]
    battery: float
    reason: str = ""

    @property
    def still(self) -> bool:
        return self.state in STILL


class Points(Struct, frozen=True):
    """A move: times (n,) [s], places (n, axes) in the units of its axes, and soft limits of each,
    None where it has none."""

    times: tuple[float, ...]
    places: tuple[tuple[float, ...], ...]
    limits: tuple[tuple[float, float] | None, ...]


class Controller:
    """One over a link. What it refuses is raised with its reason."""

    def __init__(self, port: Port, patience: float = 0.4) -> None:
        self._link = Link(port, patience)
        try:
            words = self._link.hello(CONTROLLER)
            self.axes = int(words[0])
        except (IndexError, ValueError) as error:
            self._link.close()
            raise DeviceError("it does not say how many axes it moves") from error
        except DeviceError:
            self._link.close()
            raise

    def upload(self, move: Points) -> None:
        """The whole move, checked and echoed. Raises DeviceError where it came through wrong."""
        for k, limits in enumerate(move.limits):
            self._link.ask("limits", str(k), *(("free",) if limits is None else (_text(v) for v in limits)))
        self._link.ask("move", str(len(move.times)), str(len(move.limits)))
        texts = [",".join([_text(t), *(_text(v) for v in row)]) for t, row in zip(move.times, move.places, strict=True)]
        for first in range(0, len(texts), GROUP):
            self._link.ask("points", str(first), *texts[first : first + GROUP])
        echo = self._link.ask("check")
        if echo != (str(len(texts)), f"{check_sum(';'.join(texts)):04X}"):
            raise DeviceError("the move came through wrong: upload it again")

    def beat(self) -> Status:
        """I am here; how are you. A controller that hears none for half a second stops."""
        words = self._link.ask("beat")
        try:
            return Status(
                words[0],
                float(words[1]),
                tuple(float(v) for v in words[2].split(",")),
                float(words[3]),
                heard(words[4]) if len(words) > 4 else "",
            )
        except (IndexError, ValueError):
            raise DeviceError(f"its answer {' '.join(words)[:40]!r} is no state") from None

    def do(self, what: str) -> None:
        """home, arm, run, hold, go, stop or disarm. Raises RefusedByDeviceError with its reason."""
        self._link.ask(what)

    def close(self) -> None:
        self._link.close()


def _text(value: float) -> str:
    return PLACES.format(value + 0.0)


class Upsets(Struct, frozen=True):
    """What may befall a simulated controller, each a second of its running:
    power lost, steps lost, a switch that bounces."""

    power: float = 0.0
    steps: float = 0.0
    bounce: float = 0.0
    battery: float = 100.0


class SimulatedController:
    """Keeps a clock that it is given, holds limits, ramps, waits for beats, and reports what befalls it. `far` is the
    furthest that any axis ever was beyond its limits.
    """

    def __init__(self, now: Callable[[], float], seed: int = 0, upsets: Upsets | None = None, axes: int = AXES) -> None:
        self._now, self._chance, self._upsets, self._axes = now, random.Random(seed), upsets or Upsets(), axes
        self._state, self._reason = UNHOMED, ""
        self._at = now()
        self._heard = now()
        self._until = 0.0
        self._soft: dict[int, tuple[float, float] | None] = {}
        self._wanted = (0, 0)
        self._texts: dict[int, str] = {}
        self._times = np.zeros(0)
        self._track = np.zeros((0, 1))
        self._places = np.zeros(1)
        self._missed = np.zeros(1)
        self._time, self._rate, self._aims = 0.0, 0.0, 0.0
        self._battery = self._upsets.battery
        self.far = 0.0

    def answer(self, words: tuple[str, ...]) -> tuple[str, ...]:
        self._advance()
        what = words[0]
        if what == "hello":
            return "ok", VERSION, CONTROLLER, str(self._axes)
        if what == "beat":
            self._heard = self._now()
            places = ",".join(_text(float(v)) for v in self._places)
            told = (said(self._reason),) if self._reason else ()
            return "ok", self._state, _text(self._time), places, f"{self._battery:.1f}", *told
        if what == "stop":
            self._stop(STOPPED, "asked to stop")
            return ("ok",)
        found = (
            getattr(self, f"_{what}", None)
            if what in ("limits", "move", "points", "check", "home", "arm", "run", "hold", "go", "disarm")
            else None
        )
        if found is None:
            return "no", said(f"it does not know {what}")
        answer: tuple[str, ...] = found(*words[1:])
        return answer

    def _limits(self, axis: str, *ends: str) -> tuple[str, ...]:
        if self._busy():
            return "no", said("it is moving")
        self._soft[int(axis)] = None if ends == ("free",) else (float(ends[0]), float(ends[1]))
        return ("ok",)

    def _limits_of(self, axis: int) -> tuple[float, float] | None:
        return self._soft.get(axis)

    def _busy(self) -> bool:
        return self._state in (HOMING, MOVING, RUNNING, HELD)

    def _move(self, count: str, axes: str) -> tuple[str, ...]:
        if self._busy():
            return "no", said("it is moving")
        if int(axes) > self._axes or int(axes) < 1:
            return "no", said(f"it moves {self._axes} axes")
        self._wanted, self._texts = (int(count), int(axes)), {}
        self._times = np.zeros(0)
        if self._state in (ARMED, DONE, STOPPED):
            self._state = READY
        return ("ok",)

    def _points(self, first: str, *texts: str) -> tuple[str, ...]:
        for k, text in enumerate(texts):
            self._texts[int(first) + k] = text
        return ("ok",)

    def _check(self) -> tuple[str, ...]:
        count, axes = self._wanted
        if sorted(self._texts) != list(range(count)) or count < 2:
            return "no", said("points are missing")
        rows = np.array([[float(v) for v in self._texts[k].split(",")] for k in range(count)])
        if rows.shape[1] != axes + 1 or not np.isfinite(rows).all() or (np.diff(rows[:, 0]) <= 0).any():
            return "no", said("points are out of order or lack an axis")
        for k in range(axes):
            limits = self._limits_of(k)
            if limits and (rows[:, k + 1].min() < limits[0] - 1e-3 or rows[:, k + 1].max() > limits[1] + 1e-3):
                return "no", said(f"axis {k + 1} would run beyond its soft limits")
        self._times, self._track = rows[:, 0], rows[:, 1:]
        if len(self._places) != axes:
            self._places, self._missed = np.zeros(axes), np.zeros(axes)
        return "ok", str(count), f"{check_sum(';'.join(self._texts[k] for k in range(count))):04X}"

    def _home(self) -> tuple[str, ...]:
        if self._busy():
            return "no", said("it is moving")
        bounces = sum(self._chance.random() < self._upsets.bounce for _ in range(20))
        # A switch that bounces is asked again until it is quiet.
        self._state, self._reason, self._until = HOMING, "", self._now() + 1.5 + 0.05 * bounces
        return ("ok",)

    def _arm(self) -> tuple[str, ...]:
        if self._state not in (READY, DONE, STOPPED):
            return "no", said("home it first" if self._state == UNHOMED else f"it is {self._state}")
        if not len(self._times):
            return "no", said("no move was uploaded")
        if self._battery < 5:
            return "no", said("its battery is empty")
        self._state, self._reason, self._until = MOVING, "", self._now() + 1.0
        return ("ok",)

    def _run(self) -> tuple[str, ...]:
        if self._state != ARMED:
            return "no", said(f"it is {self._state}, not armed")
        self._state, self._time, self._rate, self._aims, self._reason = RUNNING, float(self._times[0]), 1.0, 1.0, ""
        return ("ok",)

    def _hold(self) -> tuple[str, ...]:
        if self._state != RUNNING:
            return "no", said("it does not run")
        self._aims = 0.0
        return ("ok",)

    def _go(self) -> tuple[str, ...]:
        if self._state not in (HELD, RUNNING):
            return "no", said("it was not held")
        self._state, self._aims = RUNNING, 1.0
        return ("ok",)

    def _disarm(self) -> tuple[str, ...]:
        if self._busy():
            self._stop(STOPPED, "disarmed")
        elif self._state == ARMED:
            self._state = READY
        return ("ok",)

    def _stop(self, state: str, reason: str) -> None:
        if self._state == RUNNING:
            self._aims, self._reason = 0.0, reason
        elif self._state in (HOMING, MOVING):
            self._state, self._reason = UNHOMED if self._state == HOMING else STOPPED, reason
        elif self._state in (ARMED, HELD):
            self._state, self._reason = state, reason

    def _advance(self) -> None:
        """Everything that happened since it was last asked, in steps of a hundredth."""
        until = self._now()
        while self._at < until - 1e-9:
            step = min(0.01, until - self._at)
            self._at += step
            self._tick(step)

    def _tick(self, dt: float) -> None:
        self._battery = max(0.0, self._battery - dt * (0.02 if self._state == RUNNING else 0.002))
        if self._state == HOMING and self._at >= self._until:
            self._state, self._places, self._missed = READY, np.zeros_like(self._places), np.zeros_like(self._missed)
        elif self._state == MOVING and self._at >= self._until:
            self._state, self._places = ARMED, self._track[0] + self._missed
        elif self._state == RUNNING:
            self._running(dt)

    def _running(self, dt: float) -> None:
        if self._at - self._heard > BEAT_LOST and not self._reason:
            self._aims, self._reason = 0.0, "no beat heard for half a second"
        if self._chance.random() < self._upsets.power * dt:
            self._state, self._reason = FAULT, "power was lost; home it again"
            return
        if self._chance.random() < self._upsets.steps * dt:
            self._missed = self._missed + self._chance.choice((-1, 1)) * self._chance.uniform(0.5, 8.0)
            self._reason = "steps were lost"
            self._aims = 0.0
        change = dt / RAMP
        self._rate += max(-change, min(change, self._aims - self._rate))
        self._time = min(self._time + self._rate * dt, float(self._times[-1]))
        wanted = np.array([np.interp(self._time, self._times, column) for column in self._track.T]) + self._missed
        for k, place in enumerate(wanted):
            limits = self._limits_of(k)
            if limits and not limits[0] - 1e-3 <= place <= limits[1] + 1e-3:
                self._state, self._reason = FAULT, f"axis {k + 1} met its end switch"
                return
        self._places = wanted
        self.far = max(self.far, self._beyond())
        if self._rate <= 1e-9 and self._aims == 0.0:
            self._state = STOPPED if self._reason else HELD
            if "lost" in self._reason:
                self._state = FAULT
        elif self._time >= float(self._times[-1]) - 1e-9:
            self._state = DONE

    def _beyond(self) -> float:
        return max(
            (
                max(limits[0] - float(place), float(place) - limits[1])
                for k, place in enumerate(self._places)
                if (limits := self._limits_of(k))
            ),
            default=0.0,
        )


def points(
    times: Sequence[float], columns: Sequence[Sequence[float]], limits: Sequence[tuple[float, float] | None]
) -> Points:
    """A move from columns of places."""
    rows = tuple(zip(*(tuple(map(float, column)) for column in columns), strict=True))
    return Points(tuple(map(float, times)), rows, tuple(limits))
