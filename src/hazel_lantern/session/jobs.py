"""One way off the interface thread: work in steps, with progress, early answers and cancel; the newest request wins."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

from PyQt6.QtCore import QObject, QRunnable, QThreadPool, pyqtSignal

from hazel_lantern.core.progress import Progress

Steps = Callable[[], Iterator[Progress[Any]]]


class Job(QObject):
    """A lane for requests of one sort. `stepped` brings every step of the newest request, `done` its last answer, `failed` its error."""

    stepped = pyqtSignal(object)
    done = pyqtSignal(object)
    failed = pyqtSignal(Exception)
    _back = pyqtSignal(object, str, object)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._run: _Run | None = None
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._back.connect(self._arrived)

    @property
    def running(self) -> bool:
        return self._run is not None

    def start(self, steps: Steps) -> None:
        """Run it; what was asked before stops at its next step, and its answers are dropped."""
        self.cancel()
        self._run = _Run(steps, self._back.emit)
        self._pool.start(self._run)

    def cancel(self) -> None:
        """Stop at the next step; no answer is wanted any more."""
        if self._run is not None:
            self._run.wanted = False
            self._run = None
        self._pool.clear()

    def finish(self) -> None:
        """Cancel, and wait for the thread to be idle: one step at most."""
        self.cancel()
        self._pool.waitForDone()

    def _arrived(self, run: _Run, what: str, value: object) -> None:
        if run is not self._run:
            return
        if what == "step":
            self.stepped.emit(value)
            return
        self._run = None
        if isinstance(value, Exception):
            self.failed.emit(value)
        else:
            self.done.emit(value)


class _Run(QRunnable):
    def __init__(self, steps: Steps, back: Callable[[object, str, object], None]) -> None:
        super().__init__()
        # Kept by the job as well: it must outlive the thread's use of it.
        self.setAutoDelete(False)
        self._steps, self._back, self.wanted = steps, back, True

    def run(self) -> None:
        answer = None
        try:
            for step in self._steps():
                if not self.wanted:
                    return
                answer = step.answer if step.answer is not None else answer
                self._back(self, "step", step)
        except Exception as error:  # noqa: BLE001 - it is carried to `failed` on the interface thread
            answer = error
        self._back(self, "end", answer)
