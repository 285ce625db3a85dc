"""One way off the interface thread: work in steps, with progress, early answers and cancel; the newest request wins."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

from PyQt6.QtCore import QObject, QRunnable, QThreadPool, pyqtSignal

from hazel_lantern.core.nouns.progress import WANTED, Dropped, Progress

Steps = Callable[[], Iterator[Progress[Any]]]


class _Request:
    """One request: as long as it is wanted its work goes on."""

    wanted = True


class Job(QObject):
    """A lane for requests of one sort. `stepped` brings every step of the newest request, `done` its last answer,
    `failed` its error.
    """

    stepped = pyqtSignal(object)
    done = pyqtSignal(object)
    failed = pyqtSignal(Exception)
    _back = pyqtSignal(object, str, object)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._request: _Request | None = None
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._back.connect(self._arrived)

    @property
    def running(self) -> bool:
        return self._request is not None

    def start(self, steps: Steps) -> None:
        """Run it; what was asked before stops at its next step, and its answers are dropped."""
        self.cancel()
        self._request = _Request()
        self._pool.start(_Run(self._request, steps, self._back.emit))

    def cancel(self) -> None:
        """Stop at the next step; no answer is wanted any more."""
        if self._request is not None:
            self._request.wanted = False
            self._request = None
        self._pool.clear()

    def finish(self) -> None:
        """Cancel, and wait for the thread to be idle: one step at most."""
        self.cancel()
        self._pool.waitForDone()

    def _arrived(self, request: object, what: str, value: object) -> None:
        if request is not self._request:
            return
        if what == "step":
            self.stepped.emit(value)
            return
        self._request = None
        if isinstance(value, Exception):
            self.failed.emit(value)
        else:
            self.done.emit(value)


class _Run(QRunnable):
    def __init__(self, request: _Request, steps: Steps, back: Callable[[object, str, object], None]) -> None:
        super().__init__()
        self._request, self._steps, self._back = request, steps, back

    def run(self) -> None:
        answer = None
        WANTED.set(lambda: self._request.wanted)  # this thread's own
        try:
            for step in self._steps():
                if not self._request.wanted:
                    return
                answer = step.answer if step.answer is not None else answer
                self._back(self._request, "step", step)
        except Dropped:
            return
        except Exception as error:  # noqa: BLE001 - it is carried to `failed` on the interface thread
            answer = error
        if self._request.wanted:  # who asked may be gone by now
            self._back(self._request, "end", answer)
