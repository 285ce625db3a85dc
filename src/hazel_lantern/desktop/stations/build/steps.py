"""The order of work in the centre: every step with its day, to be ticked; what is next with half an hour."""

from __future__ import annotations

from datetime import date

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFrame, QListWidget, QListWidgetItem, QWidget

from hazel_lantern.core.advice.making import Agenda, agenda, ticked
from hazel_lantern.core.workshop.work import Step
from hazel_lantern.desktop.stations.build.sheets import Page
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.session.session import Session

KEY = Qt.ItemDataRole.UserRole


class StepsView(Page):
    """A tick says that a step is done today; taken off again it is not. `told` is what cannot be ticked, in words."""

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(session, theme, parent)
        column = self.column
        self._agenda: Agenda | None = None
        self._filling = False
        self._title = self.words()
        self._next, self._caution = self.words("", 13, 400, "lantern"), self.words("", 12.5, 400, "muted")
        self._list = QListWidget()
        self._list.setObjectName("build.steps")
        self._list.setAccessibleName("Order of work")
        self._list.setFrameShape(QFrame.Shape.NoFrame)
        self._list.setWordWrap(True)
        self._list.setFont(theme.font(13))
        self._list.setSpacing(theme.px(2))
        self._list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._list.itemChanged.connect(self._ticked)
        self._list.currentItemChanged.connect(self._explain)
        for widget in (self._title, self._next, self._list, self._caution):
            column.addWidget(widget, 1 if widget is self._list else 0)
        self.refresh()

    def refresh(self) -> None:
        result = self._session.evaluation
        if result is None:
            return
        made = self._agenda = agenda(self._session.document, result, self._session.display, date.today())
        self._title.setText(_headline(made))
        self._next.setText(_tonight(made))
        self._next.setVisible(bool(made.steps))
        self._filling = True
        row, bar = self._list.currentRow(), self._list.verticalScrollBar()
        at = bar.value() if bar else 0
        self._list.clear()
        for step in made.steps:
            item = QListWidgetItem(_line(step, made))
            item.setData(KEY, step.key)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            item.setCheckState(Qt.CheckState.Checked if step.key in made.done else Qt.CheckState.Unchecked)
            role = "muted" if step.key in made.done else "ink" if step in made.open_now else "muted"
            item.setForeground(self._theme.color("clear" if step.key in made.done else role))
            self._list.addItem(item)
        self._list.setCurrentRow(max(0, row))
        if bar:
            bar.setValue(at)
        self._filling = False

    def _ticked(self, item: QListWidgetItem) -> None:
        if self._filling or self._agenda is None:
            return
        key, on = str(item.data(KEY)), item.checkState() == Qt.CheckState.Checked
        step = next(one for one in self._agenda.steps if one.key == key)
        missing = [
            one for one in self._agenda.steps if one.hold and one.key in step.after and one.key not in self._agenda.done
        ]
        if on and missing:
            self.told.emit(f"First: {missing[0].words}. It is checked before this.")
            self.refresh()
            return
        day = date.today().isoformat() if on else ""
        project = ticked(self._session.document, self._session.rig_id, key, day)
        self._session.change("Tick a step" if on else "Take a tick off", project)

    def _explain(self, item: QListWidgetItem | None) -> None:
        """Tools and caution of the step at hand."""
        step = (
            next((s for s in self._agenda.steps if item is not None and s.key == item.data(KEY)), None)
            if self._agenda
            else None
        )
        words = (
            ""
            if step is None
            else " ".join(
                part
                for part in (
                    f"Tools: {', '.join(step.tools)}." if step.tools else "",
                    step.caution,
                    "Hold point: checked before anything after it." if step.hold else "",
                )
                if part
            )
        )
        self._caution.setText(words)
        self._caution.setVisible(bool(words))


def _headline(made: Agenda) -> str:
    if not made.steps:
        return "Nothing to build yet"
    if not made.left:
        return "All steps are done"
    when = made.ready.strftime("%a %d %b") if made.ready else ""
    ready = f"ready on {when}" if when else made.trouble
    return f"Order of work · {len(made.done)} of {len(made.steps)} done · {made.left:.1f} h of work left, {ready}"


def _tonight(made: Agenda) -> str:
    first = made.tonight[:1]
    if not first:
        return "Nothing fits into half an hour now."
    waits = f", then it waits {first[0].wait:.0f} h" if first[0].wait else ""
    return f"With half an hour: {first[0].words} ({first[0].work * 60:.0f} min{waits})"


def _line(step: Step, made: Agenda) -> str:
    slot = made.slots.get(step.key)
    when = slot.start.strftime("%a %d %b") if slot else "done" if step.key in made.done else ""
    wait = f" + {step.wait:.0f} h" if step.wait else ""
    hold = "  ✓ hold point" if step.hold else ""
    return f"{when}   {step.words}   ({step.work * 60:.0f} min{wait}){hold}"
