"""Roll on the bench: what is accepted before, the controller with a stop that is always in reach, and takes."""

from __future__ import annotations

from datetime import date
from functools import partial

import msgspec
from PyQt6.QtCore import Qt, QTimer, pyqtSignal
from PyQt6.QtWidgets import QApplication, QHBoxLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.driving.programme import programme
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.rolling.cautions import GENERAL, Before, accept, before, withdraw
from hazel_lantern.core.rolling.takes import Take, say
from hazel_lantern.desktop.stations.page import Extras
from hazel_lantern.desktop.stations.prove.meaning import emptied
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.chooser import Chooser
from hazel_lantern.desktop.widgets.glyphs import Lantern
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from hazel_lantern.desktop.widgets.words import tip, worded
from hazel_lantern.devices.conduct import BUSY
from hazel_lantern.devices.controller import ARMED, HELD, RUNNING, Status
from hazel_lantern.session.rolling import Rolling

SHOWN = 4  # takes
DELAY = Quantity("roll.delay", "starts in", "s", 0.0, 600.0, 0.0, "", "0 at once", "roll")


class RollBench(Extras):
    """`said` is what was refused, in a sentence."""

    said = pyqtSignal(str)
    card_wanted = pyqtSignal()

    def __init__(self, rolling: Rolling, theme: Theme) -> None:
        super().__init__()
        self._rolling, self._theme = rolling, theme
        self._label = partial(worded, theme)
        self._before: Before | None = None
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        self._head = self._label("", 13, 700, "lantern")
        self._cautions = QVBoxLayout()
        self._cautions.setSpacing(theme.px(4))
        self._name = QLineEdit()
        self._name.setObjectName("roll.name")
        self._name.setPlaceholderText("name of who accepts")
        self._name.setAccessibleName("Name of who accepts")
        column.addWidget(self._head)
        column.addLayout(self._cautions)
        column.addWidget(self._name)
        column.addWidget(self._label(GENERAL, 11.5, 400, "muted"))
        column.addWidget(self._label("Motion controller", 13, 700, "lantern"))
        column.addLayout(self._controller())
        column.addWidget(self._label("Takes", 13, 700, "lantern"))
        self._takes, self._repeats = QVBoxLayout(), self._label("", 12.5, 600, "watch")
        self._takes.setSpacing(theme.px(3))
        self._repeats.setObjectName("roll.repeats")
        column.addLayout(self._takes)
        column.addWidget(self._repeats)
        card = self._button("roll.card.open", "Set-up card", self.card_wanted.emit)
        column.addWidget(card, 0, Qt.AlignmentFlag.AlignLeft)
        rolling.status.connect(self._status)
        rolling.ended.connect(self._ended)
        rolling.taken.connect(self._show_takes)
        rolling.stopping.connect(self._later.stop)
        self.refresh()

    def finish(self) -> None:
        self._later.stop()
        self._rolling.stopping.disconnect(self._later.stop)
        self._rolling.status.disconnect(self._status)
        self._rolling.ended.disconnect(self._ended)
        self._rolling.taken.disconnect(self._show_takes)

    # Pieces

    def _button(self, name: str, words: str, work) -> QPushButton:  # type: ignore[no-untyped-def]
        button = QPushButton(words)
        button.setObjectName(name)
        button.clicked.connect(lambda _=False: self._attempt(work))
        return button

    def _attempt(self, work) -> None:  # type: ignore[no-untyped-def]
        try:
            work()
        except HazelError as error:
            self.said.emit(str(error))

    def _controller(self) -> QVBoxLayout:
        theme, box, line, keys = self._theme, QVBoxLayout(), QHBoxLayout(), QHBoxLayout()
        self._which = Chooser(theme)
        self._which.setObjectName("roll.which")
        self._which.setAccessibleName("Controller")
        self._which.setEditable(True)
        self._which.addItems(self._rolling.offered())
        self._lead = self._button("roll.lead", "Connect", self.lead)
        line.addWidget(self._which, 1)
        line.addWidget(self._lead)
        self._state = self._label("", 13, 600, "ink")
        self._state.setObjectName("roll.state")
        self._held = self._label("", 12, 400, "muted")
        self._held.setObjectName("roll.held")
        self._keys = {what: self._button(f"roll.{what}", words, partial(self.command, what)) for what, words in (("home", "Home"), ("arm", "Arm"), ("run", "Run"), ("hold", "Hold"))}  # fmt: skip
        for button in self._keys.values():
            keys.addWidget(button)
        self._stop = self._button("roll.stop", "STOP  F12", partial(self.command, "stop"))
        self._stop.setFixedHeight(theme.px(46))
        self._stop.setFont(theme.font(17, weight=700))
        t = theme.tokens
        self._stop.setStyleSheet(f"QPushButton {{ background: {t.stop}; color: {t.on_lantern}; border: 2px solid {t.ink}; min-height: {theme.px(42)}px; }}")  # fmt: skip
        self._stop.setToolTip(
            tip("Not an emergency stop: that is a switch in the supply, within reach of where you stand")
        )
        box.addLayout(line)
        for widget in (self._state, self._held):
            box.addWidget(widget)
        box.addLayout(keys)
        box.addLayout(self._alone())
        box.addWidget(self._stop)
        box.addWidget(self._label("STOP works in any field and dialog. It is no emergency stop: a switch in the supply is, and it is on the parts list.", 11.5, 400, "muted"))  # fmt: skip
        return box

    def _alone(self) -> QHBoxLayout:
        """A start put off, for who must get into the picture."""
        line = QHBoxLayout()
        self._delay = QuantityEdit(DELAY, self._rolling.session.display)
        self._delay.setFixedWidth(self._theme.px(80))
        self._delay.show_value(0.0)
        self._later = QTimer(self)
        self._later.setInterval(1000)
        self._later.timeout.connect(self._count)
        self._left = 0.0
        self._hold_to_run = QPushButton("hold to run")
        self._hold_to_run.setObjectName("roll.hold_to_run")
        self._hold_to_run.setProperty("chip", True)
        self._hold_to_run.setCheckable(True)
        self._hold_to_run.setToolTip(tip("It moves only while Run is pressed"))
        self._keys["run"].pressed.connect(self._pressed)
        self._keys["run"].released.connect(self._released)
        line.addWidget(self._label("alone: run starts in", 12, 400, "muted"))
        line.addWidget(self._delay)
        line.addWidget(self._hold_to_run)
        line.addStretch(1)
        return line

    def _pressed(self) -> None:
        """With *hold to run* it moves from here on."""
        now = self._rolling.now
        if self._hold_to_run.isChecked() and now is not None and not self._waits:
            self._rolling.command("go" if now.state == HELD else "run")

    def _released(self) -> None:
        """And stands when the hand is taken off."""
        if self._hold_to_run.isChecked():
            self._rolling.command("hold")

    def _count(self) -> None:
        """One second nearer to a start that was put off; a stop takes it back."""
        self._left -= 1.0
        now = self._rolling.now
        if now is None or now.state != ARMED or self._waits:
            self._later.stop()
            return
        if self._left <= 0:
            self._later.stop()
            self._rolling.command("run")
        else:
            self._state.setText(f"starts in {self._left:.0f} s; STOP takes it back")
            QApplication.beep()

    # What is shown

    def refresh(self) -> None:
        session = self._rolling.session
        result = session.evaluation
        if result is None:
            return
        self._before = before(result, session.display)
        taken = len(self._before.cautions) - self._before.open
        count = f" · {taken} of {len(self._before.cautions)} accepted" if self._before.cautions else ""
        self._head.setText(f"Before you roll{count}")
        emptied(self._cautions)
        for finding in self._before.stops:
            self._row(finding.state, finding.title, "cannot be accepted", finding.sentence.text(session.display))
        for one in self._before.cautions:
            words = one.finding.sentence.text(session.display)
            if one.accepted is not None:
                key = one.finding.key
                back = self._button(f"roll.withdraw.{key}", "accepted", partial(self._withdraw, key))
                back.setToolTip(tip(f"by {one.accepted.name}, {one.accepted.day}; press to open it again"))
                self._row("clear", one.finding.title, "", words, back)
            else:
                button = self._button(f"roll.accept.{one.finding.key}", "Accept again" if one.lapsed else "Accept", partial(self._accept, one.finding.key))  # fmt: skip
                button.setProperty("act", True)
                self._row("watch", one.finding.title, "", words, button)
        self._name.setVisible(bool(self._before.cautions))
        self._status(self._rolling.now)
        self._show_takes()

    def _row(self, state: str, title: str, aside: str, words: str, button: QPushButton | None = None) -> None:
        line = QHBoxLayout()
        name = self._label(title, 12.5, 400, "stop" if state == "stop" else "ink")
        name.setToolTip(tip(words))
        line.addWidget(Lantern(self._theme, state, 16))
        line.addWidget(name, 1)
        line.addWidget(button if button is not None else self._label(aside, 12, 400, state))
        self._cautions.addLayout(line)

    def _accept(self, key: str) -> None:
        session = self._rolling.session
        finding = next(one.finding for one in self._before.cautions if one.finding.key == key) if self._before else None
        if finding is not None:
            project = accept(session.document, session.rig_id, session.shot_id, finding, date.today().isoformat(), self._name.text())  # fmt: skip
            session.change(f"Accept: {finding.title}", project)

    def _withdraw(self, key: str) -> None:
        session = self._rolling.session
        session.change("Open a caution again", withdraw(session.document, session.rig_id, session.shot_id, key))

    # The controller

    @property
    def _waits(self) -> str:
        """What keeps it from being armed or run, in words; "" for nothing."""
        if self._rolling.changed:
            return "waits for Let go and Connect: rig or shot are not those it was given"
        return self._before.holds if self._before is not None else ""

    def lead(self) -> None:
        """Reach the controller that is chosen, or leave it."""
        if self._rolling.led:
            self._rolling.let_go()
            return
        result = self._rolling.session.evaluation
        if result is None or result.model is None:
            return
        made = programme(result.shot, result.scene, result.kind.axes, result.driven, result.findings)
        self._rolling.lead(self._which.currentText().strip(), made)

    def command(self, what: str) -> None:
        """A command for the controller; arming and running wait for what stands before."""
        now = self._rolling.now
        if what == "hold" and now is not None and now.state == HELD:
            what = "go"
        if what in ("arm", "run", "go") and self._waits:
            self.said.emit(f"Nothing moves: it {self._waits}")
            return
        if what == "run" and self._hold_to_run.isChecked():
            return  # pressed and let go of already
        if what == "run" and self._delay.commit() and self._delay._value >= 1:  # noqa: SLF001
            self._left = self._delay._value + 1  # noqa: SLF001
            self._later.start()
            self._count()
            return
        self._rolling.command(what)

    def _status(self, status: Status | None) -> None:
        holds = self._waits
        self._lead.setText("Let go" if self._rolling.led else "Connect")
        self._held.setText(holds)
        self._held.setVisible(bool(holds))
        if status is None:
            self._state.setText(self._rolling.how_it_ended or "no controller")
        else:
            at = ", ".join(f"{place:.1f}" for place in status.places)
            reason = f": {status.reason}" if status.reason else ""
            self._state.setText(
                f"{status.state} at {at}{reason} · {status.time:.1f} s · battery {status.battery:.0f} %"
            )
        free = status is not None and status.state not in BUSY
        self._keys["home"].setEnabled(free)
        self._keys["arm"].setEnabled(free and not holds)
        runs = (ARMED, HELD, RUNNING) if self._hold_to_run.isChecked() else (ARMED,)
        self._keys["run"].setEnabled(status is not None and status.state in runs and not holds)
        self._keys["hold"].setEnabled(status is not None and status.state in (RUNNING, HELD))
        self._keys["hold"].setText("Go on" if status is not None and status.state == HELD else "Hold")

    def _ended(self, run: object) -> None:
        self.said.emit(self._rolling.how_it_ended[:1].upper() + self._rolling.how_it_ended[1:])

    # Takes

    def _show_takes(self) -> None:
        session = self._rolling.session
        try:
            every = self._rolling.takes()
        except HazelError as error:
            self.said.emit(str(error))
            return
        mine = [one for one in every if one.rig == session.rig_id]
        emptied(self._takes)
        for take in reversed(mine[-SHOWN:]):
            self._takes.addWidget(self._take_row(take, session.display))
        if not mine:
            self._takes.addWidget(self._label("None yet. Follow the move by hand, or run it.", 12, 400, "muted"))
        told = say(mine, session.rig_id)
        self._repeats.setText(" ".join(f"{one.sort.capitalize()} in {one.times} of {one.of} takes: {one.advice}." for one in told))  # fmt: skip
        self._repeats.setVisible(bool(told))

    def _take_row(self, take: Take, show: Display) -> QWidget:
        box = QWidget()
        line = QHBoxLayout(box)
        line.setContentsMargins(0, 0, 0, 0)
        stars = self._button(
            f"roll.stars.{take.number}", "★" * take.stars + "☆" * (3 - take.stars), partial(self._star, take)
        )
        stars.setToolTip(tip("Press for one star more"))
        points = f" · {take.points}" if take.points >= 0 else ""
        name = self._label(f"{take.number} · {show.text(take.lasted, 's')}{points}", 12.5, 600, "ink")
        name.setWordWrap(False)
        note = QLineEdit(take.fault or take.note)
        note.setObjectName(f"roll.note.{take.number}")
        note.setPlaceholderText("note, or what went wrong")
        note.setAccessibleName(f"Note on take {take.number}")
        note.editingFinished.connect(lambda: self._attempt(partial(self._noted, take, note)))
        for widget, share in ((name, 0), (stars, 0), (note, 1)):
            line.addWidget(widget, share)
        return box

    def _star(self, take: Take) -> None:
        self._rolling.change(msgspec.structs.replace(take, stars=(take.stars + 1) % 4))

    def _noted(self, take: Take, field: QLineEdit) -> None:
        if field.isModified() and field.text() != (take.fault or take.note):
            field.setModified(False)
            self._rolling.change(msgspec.structs.replace(take, fault=field.text(), note=take.note))
