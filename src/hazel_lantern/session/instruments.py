"""The instrument that readings are taken from: reached off the interface thread, one owner,
said plainly when it fails."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np
from PyQt6.QtCore import QObject, pyqtSignal

from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.proving.shaken import Log, even
from hazel_lantern.devices.instruments import SORTS, Instrument, SimulatedInstrument
from hazel_lantern.devices.ports import open_port, serial_ports
from hazel_lantern.devices.served import Beside
from hazel_lantern.devices.standing_in import shaken_at
from hazel_lantern.session.jobs import Job

SIMULATED = "simulated "


class Instruments(QObject):
    """`reached` names the one that answers, "" for none; `read` brings a reading with its unit and how far it may be
    off; `logged` a log; `failed` a sentence.
    """

    reached = pyqtSignal(str)
    read = pyqtSignal(float, str, float)
    logged = pyqtSignal(object)
    failed = pyqtSignal(str)

    def __init__(self, truth: Callable[[str], float], parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._truth = truth  # what a simulated one finds, by the unit it reads in
        self._now: Instrument | None = None
        self._seed = 0
        self._job = Job(self)
        self._job.failed.connect(self._fail)
        self._job.done.connect(self._done)

    @staticmethod
    def offered() -> tuple[str, ...]:
        """Names that may be chosen: simulated ones, and the serial ports of this machine."""
        return (*(f"{SIMULATED}{made.name}" for made in SORTS.values()), *(name for name, _ in serial_ports()))

    @property
    def name(self) -> str:
        """Of the one that answers, "" for none."""
        return self._now.name if self._now is not None else ""

    def use(self, name: str) -> None:
        """Reach another: a simulated one by its name, `socket:` and a number, or a serial port; "" for none."""
        self.let_go()
        if not name:
            self.reached.emit("")
            return
        self._run(lambda: self._reached(name))

    def _reached(self, name: str) -> Instrument:
        if not name.startswith(SIMULATED):
            return Instrument(open_port(name))
        sort = next(key for key, made in SORTS.items() if f"{SIMULATED}{made.name}" == name)
        self._seed += 1
        shake = self._shake if sort == "accelerometer" else None
        made = SORTS[sort]
        return Instrument(Beside(SimulatedInstrument(sort, lambda: self._truth(made.unit), self._seed, shake)))

    def _shake(self, t: float) -> tuple[float, ...]:
        return shaken_at(self._truth("Hz"), t)

    def ask(self) -> None:
        """One reading of the one that answers."""
        one = self._now
        if one is None:
            self.failed.emit("No instrument is chosen: a simulated one, a serial port, or socket: and a number")
            return
        self._run(lambda: (one.read(), one.unit, one.give))

    def tare(self) -> None:
        """What it reads now is nought from here on."""
        one = self._now
        if one is not None:
            self._run(one.tare)

    def log(self, seconds: float) -> None:
        """A log of that many seconds."""
        one = self._now
        if one is None:
            self.failed.emit("No instrument is chosen: choose an accelerometer first")
            return

        def taken() -> Log:
            times, rows = one.log(seconds)
            return even(np.array(times), np.array(rows))

        self._run(taken)

    def _run(self, work: Callable[[], object]) -> None:
        if self._job.running:
            self.failed.emit("The instrument is still at the last question")
            return

        def steps() -> Iterator[Progress[object]]:
            yield Progress(1, 1, (work(),))

        self._job.start(steps)

    def _done(self, boxed: tuple[object]) -> None:
        found = boxed[0]
        if isinstance(found, Instrument):
            self._now = found
            self.reached.emit(found.name)
        elif isinstance(found, tuple):
            self.read.emit(*found)
        elif isinstance(found, Log):
            self.logged.emit(found)

    def _fail(self, error: Exception) -> None:
        words = str(error)
        self.failed.emit(
            f"{words[:1].upper()}{words[1:]}" if isinstance(error, HazelError) else f"The instrument failed: {words}"
        )

    def let_go(self) -> None:
        """Leave it to others."""
        if self._now is not None:
            self._now.close()
            self._now = None

    def finish(self) -> None:
        """Stop, and leave it to others."""
        self._job.finish()
        self.let_go()
