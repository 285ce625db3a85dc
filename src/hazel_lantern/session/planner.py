"""The exact cutting plan in a process of its own: JSON in, JSON out, cancelled by ending it."""

from __future__ import annotations

import sys

import msgspec
from PyQt6.QtCore import QObject, QProcess, pyqtSignal

from hazel_lantern.core.project import Project
from hazel_lantern.core.workshop.cutting import Bar, Plan
from hazel_lantern.files import project_file


class Planner(QObject):
    """`done` brings plans by section; a new start ends the one before."""

    done = pyqtSignal(dict)
    failed = pyqtSignal(str)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._process: QProcess | None = None

    def start(self, project: Project, rig_id: str) -> None:
        self.stop()
        process = QProcess(self)
        process.finished.connect(lambda code, _: self._finished(process, code))
        process.start(sys.executable, ["-m", "hazel_lantern", "plan-cuts", "--rig", rig_id])
        process.write(project_file.encode(project))
        process.closeWriteChannel()
        self._process = process

    def _finished(self, process: QProcess, code: int) -> None:
        if process is not self._process:
            return
        self._process = None
        if code != 0:
            self.failed.emit(f"The cutting plan failed: {bytes(process.readAllStandardError().data()).decode().strip()[-300:]}")
            return
        rows = msgspec.json.decode(bytes(process.readAllStandardOutput().data()))
        self.done.emit({row["section"]: _plan(row["plan"]) for row in rows if row["plan"]})

    def stop(self) -> None:
        """End a search that is running."""
        process, self._process = self._process, None
        if process is not None:
            process.kill()
            process.waitForFinished(2000)


def _plan(row: dict) -> Plan:  # type: ignore[type-arg]
    bars = tuple(Bar(bar["stock"], tuple(bar["cuts"]), bar["leftover"]) for bar in row["bars"])
    return Plan(bars, row["cost"], row["bound"], row["status"])
