"""A vibration log on the Prove station: read from a table or an accelerometer, its spectrum,
and what of the rig makes it."""

from __future__ import annotations

from functools import partial
from pathlib import Path

import numpy as np
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.proving.shaken import Log
from hazel_lantern.core.proving.shakes import Shakes, read_back
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.plot import Line, Plot, Reading
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from hazel_lantern.desktop.widgets.table import Table
from hazel_lantern.desktop.widgets.words import worded
from hazel_lantern.files import vibration_log
from hazel_lantern.session.instruments import Instruments
from hazel_lantern.session.jobs import Job
from hazel_lantern.session.session import Session

SPEED = Quantity("log.speed", "ran at", "m/s", 0.0, 5.0, 0.0, "", "0 where it stood still and was tapped", "prove")
SECONDS = 20.0  # of a log taken from an accelerometer


class Shaking(QWidget):
    """`said` is what was refused, in a sentence."""

    said = pyqtSignal(str)

    def __init__(self, session: Session, theme: Theme, instruments: Instruments) -> None:
        super().__init__()
        self._session, self._theme = session, theme
        self._label = partial(worded, theme)
        self._log: Log | None = None
        self._name = ""
        self._job = Job(self)
        self._job.stepped.connect(self._stepped)
        self._job.done.connect(self.take)
        self._job.failed.connect(lambda error: self._refuse(str(error)))
        instruments.logged.connect(self._logged)
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(20), theme.px(48), theme.px(20), theme.px(12))
        column.setSpacing(theme.px(8))
        line = QHBoxLayout()
        self._open, self._take = QPushButton("Open a log…"), QPushButton(f"Log {SECONDS:g} s from the accelerometer")
        self._open.setObjectName("shaking.open")
        self._open.setProperty("act", True)
        self._open.clicked.connect(lambda _=False: self._ask())
        self._take.setObjectName("shaking.take")
        self._take.clicked.connect(lambda _=False: instruments.log(SECONDS))
        self._cancel = QPushButton("Stop reading")
        self._cancel.clicked.connect(lambda _=False: self._job.cancel())
        self._cancel.clicked.connect(lambda _=False: self._cancel.hide())
        self._cancel.hide()
        self._speed = QuantityEdit(SPEED, session.display)
        self._speed.setFixedWidth(theme.px(96))
        self._speed.show_value(0.0)
        self._speed.edited.connect(lambda _: self.refresh())
        for widget in (self._open, self._take, self._cancel):
            line.addWidget(widget)
        line.addStretch(1)
        line.addWidget(self._label("the rig ran at", 12.5, 400, "muted"))
        line.addWidget(self._speed)
        self._meaning, self._notes = self._label("", 14, 600, "lantern"), self._label("", 12, 400, "muted")
        self._meaning.setObjectName("shaking.meaning")
        self._notes.setObjectName("shaking.notes")
        self._plot = Plot(theme, session=session)
        self._lines = Table(("Line", "Strength", "In the picture"), theme)
        self._lines.setObjectName("shaking.lines")
        self._lines.setAccessibleName("Lines of the log")
        column.addLayout(line)
        column.addWidget(self._meaning)
        column.addWidget(self._plot, 1)
        column.addWidget(self._lines)
        column.addWidget(self._notes)
        self.refresh()

    def _ask(self) -> None:
        path, _ = QFileDialog.getOpenFileName(self, "Open a vibration log", "", "Tables (*.csv *.txt *.tsv)")
        if path:
            self.read(Path(path))

    def read(self, path: Path) -> None:
        """Read a table in the background; its name is told with what it says."""
        self._name = path.name
        self._cancel.show()
        self._job.start(lambda: vibration_log.read(path))

    def _stepped(self, step: Progress[Log]) -> None:
        if step.answer is None:
            self._meaning.setText(f"Reading {self._name}: {100 * step.done // max(1, step.total)} %")

    def take(self, log: Log) -> None:
        """A log that was read."""
        self._cancel.hide()
        self._log = log
        self.refresh()

    def _logged(self, log: object) -> None:
        if isinstance(log, Log):
            self._name = "accelerometer"
            self.take(log)

    def _refuse(self, words: str) -> None:
        self._cancel.hide()
        self._meaning.setText(f"{words[:1].upper()}{words[1:]}")
        self.said.emit(words)

    def refresh(self) -> None:
        """What the log says of the rig as it is."""
        result, show = self._session.evaluation, self._session.display
        if self._log is None or result is None:
            self._meaning.setText(
                "No log yet. A phone fixed hard to the camera's plate logs t, ax, ay, az while the rig runs, or "
                "while it is tapped."
            )
            self._plot.setVisible(False)
            self._lines.setVisible(False)
            return
        try:
            found = read_back(self._log, result, self._speed._value)  # noqa: SLF001
        except HazelError as error:
            self._refuse(str(error))
            return
        self._meaning.setText(found.words.text(show))
        self._plot.setVisible(True)
        self._plot.show_reading(_spectrum(found, show), show)
        rows = [
            (
                f"{show.text(one.peak.frequency, 'Hz')}  {', or '.join(one.peak.causes) or 'unknown'}",
                show.text(one.peak.amplitude, "m/s^2", fine=True),
                show.text(one.pixels, "px", fine=True),
            )
            for one in found.lines
        ]
        self._lines.fill(rows, [row[0] for row in rows])
        self._lines.setVisible(bool(rows))
        log = found.log
        seconds = show.text(len(log.samples) / log.sampling, "s")
        notes = "".join(f"; {note}" for note in log.notes)
        self._notes.setText(
            f"{self._name}: {seconds} at {log.sampling:.0f} readings a second, trusted to "
            f"{show.text(log.trusted, 'Hz')}; in all {show.text(found.rms, 'm/s^2', fine=True)}{notes}."
        )

    def finish(self) -> None:
        """Stop what works in the background."""
        self._job.finish()


def _spectrum(found: Shakes, show: Display) -> Reading:
    """Strength over frequency, in decibels, with every line marked."""
    inside = (found.spectrum.frequencies > 0.3) & (found.spectrum.frequencies <= found.log.trusted)
    f, power = found.spectrum.frequencies[inside], found.spectrum.power[inside]
    db = 10 * np.log10(np.maximum(power, 1e-12))
    low, high = float(db.min()), float(db.max())
    marks = tuple(
        Line(
            np.array([one.peak.frequency] * 2),
            np.array([low, high]),
            one.peak.causes[0] if one.peak.causes else "",
            "water",
            dash=True,
        )
        for one in found.lines[:4]
    )
    return Reading("Shake over frequency, dB", "Hz", "dB", (Line(f, db, "log"), *marks), axis="Hz")
