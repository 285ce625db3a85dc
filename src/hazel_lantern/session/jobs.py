"""One way off the interface thread: a pure function in, its answer as a signal, the newest request wins."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import QObject, QRunnable, QThreadPool, pyqtSignal


class Job(QObject):
    """A lane for requests of one sort. `done` brings the newest answer, `failed` the newest error."""

    done = pyqtSignal(object)
    failed = pyqtSignal(Exception)
    _back = pyqtSignal(int, object, object)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._token = 0
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._back.connect(self._arrived)

    def start(self, work: Callable[[], Any]) -> None:
        """Run it; answers of earlier requests are dropped."""
        self._token += 1
        self._pool.clear()
        self._pool.start(_Run(self._token, work, self._back.emit))

    def cancel(self) -> None:
        """Whatever is running, its answer is not wanted any more."""
        self._token += 1
        self._pool.clear()

    def finish(self) -> None:
        """Cancel, and wait for the thread to be idle."""
        self.cancel()
        self._pool.waitForDone()

    def _arrived(self, token: int, answer: object, error: object) -> None:
        if token != self._token:
            return
        if isinstance(error, Exception):
            self.failed.emit(error)
        else:
            self.done.emit(answer)


class _Run(QRunnable):
    def __init__(self, token: int, work: Callable[[], Any], back: Callable[[int, object, object], None]) -> None:
        super().__init__()
        self._token, self._work, self._back = token, work, back

    def run(self) -> None:
        try:
            answer, error = self._work(), None
        except Exception as caught:  # noqa: BLE001 - it is carried to `failed` on the interface thread
            answer, error = None, caught
        self._back(self._token, answer, error)
