"""Exact cutting plans, each searched once for what it depends on, in a process of its own: JSON in, JSON out,
cancelled by ending it.
"""

from __future__ import annotations

import sys

import msgspec
from PyQt6.QtCore import QObject, QProcess, pyqtSignal

from hazel_lantern.core.workshop.plan import Order, SectionPlan

Plans = tuple[SectionPlan, ...]
KEPT = 32  # orders whose plans are remembered: a preview and back, undo and redo


class CutPlans(QObject):
    """Known plans by what was ordered. `found` names an order whose plan is known from now on; asking for another
    ends the search at hand.
    """

    found = pyqtSignal(object)
    failed = pyqtSignal(str)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.known: dict[Order, Plans] = {}
        self._process: QProcess | None = None
        self._wanted: Order | None = None

    @property
    def searching(self) -> Order | None:
        """What is being searched for."""
        return self._wanted

    def search(self, order: Order) -> None:
        """Find the exact plan of an order, unless it is known or being searched."""
        if order == self._wanted or order in self.known or not order.sections:
            return
        self.stop()
        process = QProcess(self)
        process.finished.connect(lambda code, _: self._finished(process, order, code))
        process.start(sys.executable, ["-m", "hazel_lantern", "plan-cuts"])
        process.write(msgspec.json.encode(order))
        process.closeWriteChannel()
        self._process, self._wanted = process, order

    def _finished(self, process: QProcess, order: Order, code: int) -> None:
        if process is not self._process:
            return
        self._process = self._wanted = None
        if code != 0:
            self.failed.emit(
                "The cutting plan failed: "
                f"{bytes(process.readAllStandardError().data()).decode(errors='replace').strip()[-300:]}"
            )
            return
        self.known[order] = msgspec.json.decode(bytes(process.readAllStandardOutput().data()), type=Plans)
        while len(self.known) > KEPT:
            del self.known[next(iter(self.known))]
        self.found.emit(order)

    def stop(self) -> None:
        """End a search that is running."""
        process, self._process, self._wanted = self._process, None, None
        if process is not None:
            process.kill()
            process.waitForFinished(2000)
