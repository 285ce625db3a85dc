"""All rigs of the shoot in the centre: what each costs, weighs and takes to carry, and what they share."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtGui import QHideEvent, QShowEvent
from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.advice.shoot import MADE, Row, Shoot, shoot, summed, told
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.stations.build.sheets import Page
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.scroll import Scroll
from hazel_lantern.desktop.widgets.table import Table
from hazel_lantern.files import atomic, shoot_csv
from hazel_lantern.session.jobs import Job
from hazel_lantern.session.session import Session

SHOWN = 40  # things that are shared


class ShootView(Page):
    """Worked out when it is looked at, rig by rig; `told` is what was refused or written."""

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(session, theme, parent)
        self.found: Shoot | None = None
        self._of: object = None
        self.job = Job(self)
        self.job.stepped.connect(self._stepped)
        self.job.failed.connect(lambda error: self.told.emit(str(error)))
        column = self.column
        self._title, self._sum = self.words("The shoot"), self.words("", 13, 400, "muted")
        self._sum.setObjectName("shoot.sum")
        column.addWidget(self._title)
        column.addWidget(self._sum)
        self._rigs = Table(("Rig", "Cost", "Weighs", "Loads", "Longest", "People"), theme, headed=True)
        self._rigs.setObjectName("shoot.rigs")
        self._rigs.setAccessibleName("Rigs of the shoot")
        self._rigs.doubleClicked.connect(lambda index: self._go(index.row()))
        below = QWidget()
        lists = QVBoxLayout(below)
        lists.setContentsMargins(0, 0, 0, 0)
        lists.addWidget(self._rigs)
        line = QHBoxLayout()
        for words, name, call in (("List it again", "shoot.go", self.go), ("Write a table…", "shoot.write", self.ask)):
            button = QPushButton(words)
            button.setObjectName(name)
            button.clicked.connect(lambda _=False, call=call: call())
            line.addWidget(button)
        line.addStretch(1)
        lists.addLayout(line)
        self._heads = self.words("Shared where one stands at a time")
        lists.addWidget(self._heads)
        self._shared = Table(("What", "In rigs", "At once", "Each its own", "Spares"), theme, headed=True)
        self._shared.setObjectName("shoot.shared")
        self._shared.setAccessibleName("What several rigs share")
        lists.addWidget(self._shared)
        column.addWidget(Scroll(below, theme.px(200)), 1)
        column.addStretch(0)

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        if self._of is not self._session.document:
            self.go()

    def hideEvent(self, event: QHideEvent | None) -> None:
        self.job.cancel()
        super().hideEvent(event)

    def refresh(self) -> None:
        """What is shown may be of an older state: it says so rather than to work it all out after every key."""
        if self.found is not None and self._of is not self._session.document and not self.job.running:
            self._title.setText("The shoot · before the last change")

    def go(self) -> None:
        """Every rig of the project anew."""
        project, shelf = self._session.document, self._session.catalogue
        self._of = project
        self.job.start(lambda: shoot(project, shelf))

    def _stepped(self, step: Progress[Shoot]) -> None:
        if step.answer is None:
            return
        self.found, show = step.answer, self._session.display
        rows = self.found.rows
        done = f" · {step.done} of {step.total}" if step.done < step.total else ""
        self._title.setText(f"The shoot · {len(rows)} rigs{done}")
        self._sum.setText(
            f"{summed(self.found, show)} Never more than {self.found.people} "
            f"{'person' if self.found.people == 1 else 'people'} at a rig."
        )
        self._rigs.fill([_cells(row, show) for row in rows], [_tip(row, show) for row in rows])
        names = {row.rig: row.name for row in rows}
        shared = self.found.shared[:SHOWN]
        self._heads.setVisible(bool(shared))
        self._shared.fill(
            [
                (
                    f"{one.name}{', made' if one.sort == MADE else ''}",
                    str(len(one.counts)),
                    str(one.together),
                    str(one.apart),
                    show.text(one.saved, "currency") if one.saved else "",
                )
                for one in shared
            ],
            [", ".join(f"{names[rig]} {count}" for rig, count in one.counts) for one in shared],
        )

    def _go(self, row: int) -> None:
        if self.found is not None and 0 <= row < len(self.found.rows):
            self._session.switch(self.found.rows[row].rig)

    def ask(self) -> None:
        path, _ = QFileDialog.getSaveFileName(self, "Write a table of the shoot", "shoot.csv", "Tables (*.csv)")
        if path and self.found is not None:
            try:
                atomic.write(Path(path), shoot_csv.write(self.found))
            except HazelError as error:
                self.told.emit(str(error))

    def finish(self) -> None:
        """Stop what works in the background."""
        self.job.finish()


def _cells(row: Row, show: Display) -> tuple[str, ...]:
    cost, mass, longest = show.text(row.cost, "currency"), show.text(row.mass, "kg"), show.text(row.longest, "m")
    return row.name, cost, mass, str(len(row.loads)), longest, str(row.people)


def _tip(row: Row, show: Display) -> str:
    """All of a row in words, and what each load holds."""
    lines = [f"{row.name}: {told(row, show)}"]
    for load in row.loads:
        held = ", ".join(dict.fromkeys(piece.name for piece in load.pieces))
        lines.append(f"{load.sort} {show.text(load.mass, 'kg')}: {held}")
    return "\n".join(lines)
