"""Rolling: the controller led off the interface thread, takes written as they end, whatever happens."""

from __future__ import annotations

import time
import zlib
from collections import deque
from collections.abc import Callable, Iterator
from datetime import datetime
from pathlib import Path

import msgspec
from PyQt6.QtCore import QObject, pyqtSignal

from hazel_lantern.core.driving.programme import Programme
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.rolling.takes import HAND, MOTOR, Take
from hazel_lantern.devices.conduct import LET_GO, Ended, Said, conduct
from hazel_lantern.devices.controller import DONE, Controller, Points, SimulatedController, Status, Upsets, points
from hazel_lantern.devices.ports import open_port, serial_ports
from hazel_lantern.devices.served import Beside
from hazel_lantern.files import takes
from hazel_lantern.session.jobs import Job
from hazel_lantern.session.session import Session

SIMULATED = "simulated controller"


class Rolling(QObject):
    """`status` brings what the controller says, None when there is none; `ended` how a run ended; `failed` a sentence;
    `taken` that takes changed.
    """

    status = pyqtSignal(object)
    ended = pyqtSignal(object)
    failed = pyqtSignal(str)
    taken = pyqtSignal()

    def __init__(self, session: Session, parent: QObject | None = None, *, wait: Callable[[float], None] = time.sleep, upsets: Upsets | None = None) -> None:  # fmt: skip
        super().__init__(parent)
        self.session, self._wait, self._upsets = session, wait, upsets
        self._commands: deque[str] = deque()
        self._job = Job(self)
        self._job.stepped.connect(self._stepped)
        self._job.done.connect(lambda _: self._off())
        self._job.failed.connect(self._fail)
        self.now: Status | None = None
        self.how_it_ended = ""

    @staticmethod
    def offered() -> tuple[str, ...]:
        """Controllers that may be chosen."""
        return (SIMULATED, *(name for name, _ in serial_ports()))

    @property
    def led(self) -> bool:
        """Whether a controller is led."""
        return self._job.running

    def lead(self, name: str, programme: Programme) -> None:
        """Reach a controller, upload the move and lead it until it is let go of."""
        if self.led:
            self.let_go()
            self._job.finish()
        self._commands.clear()
        move = points(programme.times.tolist(), [one.places.tolist() for one in programme.channels], [one.limits for one in programme.channels])  # fmt: skip
        self._job.start(lambda: self._steps(name, move))

    def _steps(self, name: str, move: Points) -> Iterator[Progress[object]]:
        port = Beside(SimulatedController(time.monotonic, 0, self._upsets)) if name == SIMULATED else open_port(name)
        one = Controller(port)
        try:
            one.upload(move)
        except HazelError:
            one.close()
            raise
        for said in conduct(one, self._commands, self._wait):
            yield Progress(0, 0, said)

    def command(self, what: str) -> None:
        """home, arm, run, hold, go, disarm; a stop goes before all others."""
        if what == "stop":
            self._commands.appendleft(what)
        else:
            self._commands.append(what)

    def let_go(self) -> None:
        """Leave the controller; one that runs is stopped first."""
        self._commands.append(LET_GO)

    def finish(self) -> None:
        """Stop what moves, and leave it."""
        if self.led:
            self._commands.clear()
            self._commands.append(LET_GO)
            self._job._pool.waitForDone(1500)  # noqa: SLF001  the stop is sent before the thread is dropped
        self._job.finish()

    def _stepped(self, step: Progress[object]) -> None:
        if isinstance(step.answer, Said):
            self.now = step.answer.status
            self.status.emit(self.now)
            if step.answer.refused:
                words = step.answer.refused
                self.failed.emit(f"{words[:1].upper()}{words[1:]}")
        elif isinstance(step.answer, Ended):
            self._over(step.answer)

    def _over(self, run: Ended) -> None:
        """Every run that ends is a take, whatever ended it."""
        self.how_it_ended = run.words
        if run.trace:
            self.keep(MOTOR, run.trace[-1][0], run.trace, fault="" if run.how == DONE else f"{run.words} at {run.lasted:.1f} s")  # fmt: skip
        self.ended.emit(run)

    def _off(self) -> None:
        self.now = None
        self.status.emit(None)

    def _fail(self, error: Exception) -> None:
        words = str(error)
        self.failed.emit(f"{words[:1].upper()}{words[1:]}")
        self._off()

    # Takes

    def takes(self) -> tuple[Take, ...]:
        """Of this project, oldest first; a sample that is not saved yet has those that it ships with."""
        session = self.session
        base = takes.shipped(session.document.name) if session.path is None else ()
        later = takes.load(self._path())[0]
        known = {(one.rig, one.number): one for one in (*base, *later)}
        return tuple(known.values())

    def _path(self) -> Path:
        return takes.beside(self.session.path, self.session.document.name)

    def keep(self, how: str, lasted: float, trace: tuple[tuple[float, ...], ...], *, points: int = -1, fault: str = "", note: str = "") -> Take:  # fmt: skip
        """One more take of the rig and shot at hand, flushed to the disk before this returns. Raises FileError."""
        session, path = self.session, self._path()
        number = 1 + max((one.number for one in self.takes() if one.rig == session.rig_id), default=0)
        rig = session.document.rig(session.rig_id)
        design = f"{zlib.crc32(msgspec.json.encode(rig)):08x}"
        take = Take(number=number, when=datetime.now().isoformat(timespec="seconds"), rig=rig.id, shot=session.shot_id, kit=rig.kit, how=how, lasted=lasted, points=points, fault=fault, note=note, design=design, slate=f"{session.shot.name} {number}")  # fmt: skip
        takes.append(path, take)
        if trace:
            take = msgspec.structs.replace(take, trace=takes.keep_trace(path, take, trace))
            takes.append(path, take)
        self.taken.emit()
        return take

    def change(self, take: Take) -> None:
        """A take rated or noted upon."""
        takes.append(self._path(), take)
        self.taken.emit()


__all__ = ["HAND", "MOTOR", "Rolling"]
