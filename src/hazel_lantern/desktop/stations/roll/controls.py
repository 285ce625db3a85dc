"""The motion controller on the bench: reached, homed, armed, run, held; a stop that is always in reach."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication, QHBoxLayout, QPushButton, QVBoxLayout

from hazel_lantern.core.driving.programme import programme
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.desktop.stations.roll.piece import Piece
from hazel_lantern.desktop.stations.roll.stop_key import stop_button
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.chooser import Chooser
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from hazel_lantern.desktop.widgets.words import tip
from hazel_lantern.devices.conduct import BUSY
from hazel_lantern.devices.controller import ARMED, HELD, RUNNING, Status
from hazel_lantern.session.rolling import Rolling

DELAY = Quantity("roll.delay", "starts in", "s", 0.0, 600.0, 0.0, "", "0 at once", "roll")


class Controls(Piece):
    """`held` says what stands before rolling, in words; "" for nothing."""

    def __init__(self, rolling: Rolling, theme: Theme, held: Callable[[], str]) -> None:
        super().__init__(rolling, theme)
        self._stands = held
        self._column.addWidget(self._label("Motion controller", 13, 700, "lantern"))
        self._column.addLayout(self._controller())
        rolling.status.connect(self._status)
        rolling.ended.connect(self._ended)
        rolling.stopping.connect(self._later.stop)

    def finish(self) -> None:
        self._later.stop()
        self._rolling.stopping.disconnect(self._later.stop)
        self._rolling.status.disconnect(self._status)
        self._rolling.ended.disconnect(self._ended)

    def refresh(self) -> None:
        self._status(self._rolling.now)

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
        self._keys = {
            what: self._button(f"roll.{what}", words, partial(self.command, what))
            for what, words in (("home", "Home"), ("arm", "Arm"), ("run", "Run"), ("hold", "Hold"))
        }
        for button in self._keys.values():
            keys.addWidget(button)
        stop = stop_button("roll.stop", self._rolling, theme, 46, 17)
        box.addLayout(line)
        for widget in (self._state, self._held):
            box.addWidget(widget)
        box.addLayout(keys)
        box.addLayout(self._alone())
        box.addWidget(stop)
        box.addWidget(
            self._label(
                "STOP works in any field and dialog. It is no emergency stop: a switch in the supply is, and it is "
                "on the parts list.",
                11.5,
                400,
                "muted",
            )
        )
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

    # The controller

    @property
    def _waits(self) -> str:
        """What keeps it from being armed or run, in words; "" for nothing."""
        if self._rolling.changed:
            return "waits for Let go and Connect: rig or shot are not those it was given"
        return self._stands()

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
