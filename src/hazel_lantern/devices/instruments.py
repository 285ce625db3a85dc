"""Instruments that are asked for readings: who they are, and simulated ones that ship, each with its own error."""

from __future__ import annotations

import random
from collections.abc import Callable

from msgspec import Struct

from hazel_lantern.devices.errors import DeviceError
from hazel_lantern.devices.lines import VERSION, said
from hazel_lantern.devices.link import Link
from hazel_lantern.devices.ports import Port

INSTRUMENT = "instrument"
NORMAL = 1.96  # standard deviations that hold 95 of 100 readings
BLOCK = 40  # samples of a log in one line


class Sort(Struct, frozen=True):
    """A sort of instrument: its name, the SI unit of its readings, how far it is off either way in 95 of 100 cases, how
    far its zero may have wandered, and its step.
    """

    name: str
    unit: str
    give: float
    zero: float
    step: float


SORTS = {
    "scale": Sort("hanging scale", "N", 0.05, 0.3, 0.02),
    "inclinometer": Sort("inclinometer", "rad", 0.00175, 0.0035, 0.000175),
    "tape": Sort("tape", "m", 0.0005, 0.0, 0.0005),
    "stopwatch": Sort("stopwatch", "s", 0.1, 0.0, 0.01),
    "accelerometer": Sort("accelerometer", "m/s^2", 0.02, 0.05, 0.001),
}


class Instrument:
    """One over a link. `sort`, `unit` and `give` are what it says of itself."""

    def __init__(self, port: Port) -> None:
        self._link = Link(port)
        try:
            words = self._link.hello(INSTRUMENT)
            self.sort, self.unit, self.give = words[0], words[1], float(words[2])
        except (IndexError, ValueError) as error:
            self._link.close()
            raise DeviceError("it does not say what it measures, in which unit and how well") from error
        except DeviceError:
            self._link.close()
            raise

    @property
    def name(self) -> str:
        return SORTS[self.sort].name if self.sort in SORTS else self.sort

    def read(self) -> float:
        """One reading [SI]. Raises DeviceError."""
        return _number(self._link.ask("read"))

    def tare(self) -> None:
        """What it reads now is nought from here on."""
        self._link.ask("tare")

    def log(self, seconds: float) -> tuple[list[float], list[tuple[float, ...]]]:
        """Times [s] and readings of a log. Raises DeviceError where it keeps none."""
        words = self._link.ask("log", f"{seconds:g}")
        rate, count = _number(words), int(_number(words[1:]))
        rows: list[tuple[float, ...]] = []
        for first in range(0, count, BLOCK):
            for group in self._link.ask("block", str(first)):
                try:
                    rows.append(tuple(float(part) for part in group.split(",")))
                except ValueError:
                    raise DeviceError(f"a sample reads {group[:30]!r}, which is no number") from None
        return [k / rate for k in range(len(rows))], rows

    def close(self) -> None:
        self._link.close()


def _number(words: tuple[str, ...]) -> float:
    try:
        return float(words[0])
    except (IndexError, ValueError):
        raise DeviceError(f"it reads {' '.join(words)[:30]!r}, which is no number") from None


class SimulatedInstrument:
    """Answers as an instrument does: the truth it is given, with a zero that wandered, noise and its step."""

    def __init__(
        self,
        sort: str,
        truth: Callable[[], float],
        seed: int,
        shake: Callable[[float], tuple[float, ...]] | None = None,
    ) -> None:
        self._sort, self._truth, self._shake = sort, truth, shake
        self._chance = random.Random(seed)
        made = SORTS[sort]
        self._zero = self._chance.uniform(-made.zero, made.zero)
        self._tare = 0.0
        self._log: list[tuple[float, ...]] = []

    def _raw(self) -> float:
        return self._truth() + self._zero + self._chance.gauss(0, SORTS[self._sort].give / NORMAL)

    def answer(self, words: tuple[str, ...]) -> tuple[str, ...]:
        made = SORTS[self._sort]
        if words[0] == "hello":
            return "ok", VERSION, INSTRUMENT, self._sort, made.unit, f"{made.give:g}"
        if words[0] == "read" and self._shake is None:
            return "ok", f"{round((self._raw() - self._tare) / made.step) * made.step:.6g}"
        if words[0] == "tare" and self._shake is None:
            self._tare = self._raw()
            return ("ok",)
        if words[0] == "log" and self._shake is not None and len(words) == 2:
            rate, seconds = 100.0, min(120.0, float(words[1]))
            noise = made.give / NORMAL
            self._log = [
                tuple(v + self._chance.gauss(0, noise) for v in self._shake(k / rate))
                for k in range(int(rate * seconds))
            ]
            return "ok", f"{rate:g}", str(len(self._log))
        if words[0] == "block" and len(words) == 2 and words[1].isdigit():
            first = int(words[1])
            return "ok", *(",".join(f"{v:.4g}" for v in row) for row in self._log[first : first + BLOCK])
        return "no", said(f"a {made.name} does not {words[0]}")
