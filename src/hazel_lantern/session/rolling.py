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

from hazel_lantern.core.document.project import Rig, Shot
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


class Led(msgspec.Struct, frozen=True):
    """What the controller was given: rig and shot as they were then, and where takes of it are kept."""

    rig: Rig
    shot: Shot
    path: Path


class Rolling(QObject):
    """`status` brings what the controller says, None when there is none; `ended` how a run ended; `failed` a sentence;
    `taken` that takes changed; `stopping` that a stop was asked for.
    """

    status = pyqtSignal(object)
    ended = pyqtSignal(object)
    failed = pyqtSignal(str)
    taken = pyqtSignal()
    stopping = pyqtSignal()

    def __init__(
        self,
        session: Session,
        parent: QObject | None = None,
        *,
        wait: Callable[[float], None] = time.sleep,
        upsets: Upsets | None = None,
    ) -> None:
        super().__init__(parent)
        self.session, self._wait, self._upsets = session, wait, upsets
        self._commands: deque[str] = deque()
        self.of: Led | None = None
        self._ends: deque[Ended] = deque()  # of runs, until they are takes
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

    @property
    def changed(self) -> bool:
        """Whether the rig at hand is no longer what the controller was given."""
        return self.led and self.of is not None and (not self.session.rig_id or _moved(self._here()) != _moved(self.of))

    def _here(self) -> Led:
        return Led(self.session.document.rig(self.session.rig_id), self.session.shot, self._path())

    def lead(self, name: str, programme: Programme) -> None:
        """Reach a controller, upload the move and lead it until it is let go of."""
        self.finish()
        self._commands.clear()
        self.of = self._here()
        move = points(
            programme.times.tolist(),
            [one.places.tolist() for one in programme.channels],
            [one.limits for one in programme.channels],
        )
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
            if isinstance(said, Ended):
                self._ends.append(said)
            yield Progress(0, 0, said)

    def command(self, what: str) -> None:
        """home, arm, run, hold, go, disarm; a stop goes before all others."""
        if what == "stop":
            self.stopping.emit()
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
        self._settle()  # a run that ended as it was left is a take too
        self._off()

    def _stepped(self, step: Progress[object]) -> None:
        if isinstance(step.answer, Said):
            self.now = step.answer.status
            self.status.emit(self.now)
            if step.answer.refused:
                words = step.answer.refused
                self.failed.emit(f"{words[:1].upper()}{words[1:]}")
        self._settle()

    def _settle(self) -> None:
        while self._ends:
            self._over(self._ends.popleft())

    def _over(self, run: Ended) -> None:
        """Every run that ends is a take, whatever ended it."""
        self.how_it_ended = run.words
        if run.trace:
            try:
                self.keep(
                    MOTOR,
                    run.trace[-1][0],
                    run.trace,
                    fault="" if run.how == DONE else f"{run.words} at {run.lasted:.1f} s",
                    of=self.of,
                )
            except HazelError as error:  # the run is over all the same
                self.failed.emit(f"The take could not be kept: {error}")
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

    def keep(
        self,
        how: str,
        lasted: float,
        trace: tuple[tuple[float, ...], ...],
        *,
        points: int = -1,
        fault: str = "",
        note: str = "",
        of: Led | None = None,
    ) -> Take:
        """One more take of what was led, or else of rig and shot at hand, flushed to the disk before this returns.
        Raises FileError.
        """
        of = of or self._here()
        path, rig = of.path, of.rig
        known = self.takes() if path == self._path() else takes.load(path)[0]
        number = 1 + max((one.number for one in known if one.rig == rig.id), default=0)
        design = f"{zlib.crc32(msgspec.json.encode(rig)):08x}"
        take = Take(
            number=number,
            when=datetime.now().isoformat(timespec="seconds"),
            rig=rig.id,
            shot=of.shot.id,
            kit=rig.kit,
            how=how,
            lasted=lasted,
            points=points,
            fault=fault,
            note=note,
            design=design,
            slate=f"{of.shot.name} {number}",
        )
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


def _moved(led: Led) -> tuple[object, ...]:
    """What a move depends on, as far as a builder changes it."""
    return (msgspec.structs.replace(led.rig, accepted=(), proofs=(), done={}), led.shot, led.path)


__all__ = ["HAND", "MOTOR", "Rolling"]
