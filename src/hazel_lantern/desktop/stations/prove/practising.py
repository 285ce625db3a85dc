"""The practice rig on the Prove station: hidden faults tested and mended; hunting a bind;
what to save and what to scrap."""

from __future__ import annotations

import random
from collections.abc import Callable
from datetime import date
from functools import partial

import numpy as np
from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QComboBox, QFrame, QHBoxLayout, QPushButton, QScrollArea, QVBoxLayout, QWidget

from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.core.proving import hunting, practice
from hazel_lantern.core.proving.simulated import READS
from hazel_lantern.core.proving.told import BY_KEY, forecasts
from hazel_lantern.core.proving.trial import Outcome
from hazel_lantern.desktop.stations.prove.meaning import emptied
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.flow import Flow
from hazel_lantern.desktop.widgets.plot import Line, Plot, Reading
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from hazel_lantern.desktop.widgets.words import worded
from hazel_lantern.files import scores
from hazel_lantern.session.session import Session

SEEDS = 10000
BY = Quantity("hunt.by", "out by", "m", -0.005, 0.005, 0.0, "", "in with a minus", "prove")


class Practising(QScrollArea):
    """Three ways to practise, one below the other; `said` is what was refused, in a sentence."""

    said = pyqtSignal(str)

    def __init__(self, session: Session, theme: Theme, seed: Callable[[], int] | None = None) -> None:
        super().__init__()
        self._session, self._theme = session, theme
        self._label = partial(worded, theme)
        self._seed = seed or (lambda: random.randrange(SEEDS))
        self._rig: practice.Practice | None = None
        self._outcomes: dict[str, Outcome] = {}
        self._hunt: hunting.Hunt | None = None
        self._mishap: hunting.Mishap | None = None
        self._level = 1
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        inner = QWidget()
        self.setWidget(inner)
        self._column = QVBoxLayout(inner)
        self._column.setContentsMargins(theme.px(20), theme.px(50), theme.px(20), theme.px(14))
        self._column.setSpacing(theme.px(7))
        self._lay_rig()
        self._lay_hunt()
        self._lay_mishap()
        self._plot = Plot(theme, session=session)
        self._plot.setFixedHeight(theme.px(150))
        self._over_time = self._label("Points over time", 13, 700, "lantern")
        self._column.addWidget(self._over_time)
        self._column.addWidget(self._plot)
        self._column.addStretch(1)
        self._draw_scores()

    # Pieces

    def _button(self, name: str, words: str, work: Callable[[], object], *, act: bool = False) -> QPushButton:
        button = QPushButton(words)
        button.setObjectName(name)
        button.setProperty("act", act)
        button.clicked.connect(lambda _=False: self._attempt(work))
        return button

    def _line(self, *widgets: QWidget) -> None:
        box = QWidget()
        line = Flow(box, self._theme.px(6))
        for widget in widgets:
            widget.setMinimumHeight(self._theme.px(30))
            line.addWidget(widget)
        self._column.addWidget(box)

    def _attempt(self, work: Callable[[], object]) -> None:
        try:
            work()
        except HazelError as error:
            self.said.emit(str(error))

    # The practice rig

    def _lay_rig(self) -> None:
        self._column.addWidget(self._label("A practice rig: this rig, with faults that nobody sees", 15, 700))
        self._column.addWidget(
            self._label(
                "Test it, guess, mend, test again; then look inside. Points for what is no longer wrong, fewer for "
                "needless steps and hints.",
                role="muted",
            )
        )
        levels = [
            self._button(f"practice.level.{n}", f"{n} · {words}", partial(self.begin, n))
            for n, words in practice.LEVELS.items()
        ]
        self._line(*levels)
        self._state = self._label("", 13, 600, "lantern", "practice.state")
        self._tests = QWidget()
        self._chips = Flow(self._tests, self._theme.px(6))
        self._log = self._label("", 12.5, 400, "ink", "practice.log")
        self._fault = QComboBox()
        self._fault.setObjectName("practice.fault")
        self._fault.setAccessibleName("What is wrong")
        self._fault.currentIndexChanged.connect(lambda _: self._ask_amount())
        self._amounts = QHBoxLayout()
        self._amount: QuantityEdit | None = None
        self._way = self._label("", 12, 400, "muted")
        self._column.addWidget(self._state)
        self._column.addWidget(self._tests)
        self._column.addWidget(self._log)
        self._mends = QWidget()
        line = QHBoxLayout(self._mends)
        line.setContentsMargins(0, 0, 0, 0)
        line.addWidget(self._fault)
        line.addLayout(self._amounts)
        for name, words, work, act in (
            ("practice.mend", "Mend it by that", self.mend, True),
            ("practice.hint", "Ask for a hint", self.hint, False),
            ("practice.done", "Look inside", self.done, False),
        ):
            line.addWidget(self._button(name, words, work, act=act))
        line.addStretch(1)
        self._column.addWidget(self._mends)
        self._column.addWidget(self._way)
        self._show_rig()

    def begin(self, level: int, seed: int | None = None) -> None:
        """Another rig with hidden faults; the same seed hides the same."""
        result = self._session.evaluation
        if result is None or result.model is None:
            self.said.emit("A rig that cannot be built as it is drawn is no practice rig")
            return
        self._known = forecasts(result)
        self._design = result.rig.design
        self._level, self._outcomes = level, {}
        self._rig = practice.begin(self._seed() if seed is None else seed, level, self._known)
        self._log.setText("")
        self._fault.clear()
        for fault in practice.shown_by(self._known):
            self._fault.addItem(fault.name, fault.key)
        emptied(self._chips)
        for key in (one for one in BY_KEY if one in self._known and one in practice.TELLS and one in READS):
            chip = self._button(f"practice.test.{key}", BY_KEY[key].name, partial(self.test, key))
            self._chips.addWidget(chip)
        self._show_rig()

    def test(self, key: str) -> None:
        """One test done on it."""
        assert self._rig is not None
        self._rig, rows = practice.read(self._rig, key, self._known)
        try:
            outcome = practice.outcome_of(key, rows, self._known, self._design)
            self._outcomes[key] = outcome
            said = outcome.words.text(self._session.display)
        except HazelError as error:
            said = str(error)
        self._told(f"{BY_KEY[key].name}: {said}")

    def mend(self) -> None:
        """What is picked mended by what was typed; what was read before says nothing of it now."""
        if self._rig is None or self._amount is None or not self._amount.commit():
            return
        key = str(self._fault.currentData())
        self._rig = practice.mend(self._rig, key, self._amount._value)  # noqa: SLF001
        self._outcomes = {}
        self._told(f"Mended: {practice.BY_FAULT[key].name.lower()}, by {self._amount.text()}.")

    def hint(self) -> None:
        """What would explain all that was read since the last mending."""
        if self._rig is None:
            return
        self._rig = practice.hinted(self._rig)
        found = practice.explained(practice.signs(self._outcomes, self._known), self._known)
        named = [
            f"{practice.BY_FAULT[key].name.lower()} by {self._session.display.text(size, practice.BY_FAULT[key].unit)}"
            for key, size in found
        ]
        said = (
            " and ".join(named) + " would explain all that was read"
            if named
            else "what was read shows nothing wrong"
            if self._outcomes
            else "test it first"
        )
        self._told(f"Hint: {said}.")

    def done(self) -> None:
        """Look inside: what was wrong, what is left, and points."""
        if self._rig is None:
            return
        points, show = practice.score(self._rig), self._session.display
        lines = [
            f"{practice.BY_FAULT[key].name}: "
            f"{show.text(self._rig.faults.get(key, 0.0), practice.BY_FAULT[key].unit)} was wrong, "
            f"{show.text(size, practice.BY_FAULT[key].unit)} is left"
            for key, size in self._rig.now.items()
        ]
        self._log.setText("\n".join(lines))
        self._state.setText(
            f"{points.points} of 100 points, {100 * points.left:.0f} % of it is left, {self._rig.steps} steps."
        )
        self._keep("practice rig", self._rig.seed, self._rig.level, points.points)
        self._rig = None
        self._mends.hide()
        self._tests.hide()
        self._way.hide()

    def _told(self, words: str) -> None:
        self._log.setText("\n".join([*self._log.text().split("\n"), words][-9:]).strip())
        self._show_rig()

    def _show_rig(self) -> None:
        on = self._rig is not None
        for widget in (self._tests, self._mends, self._way):
            widget.setVisible(on)
        if self._rig is not None:
            self._state.setText(
                f"{practice.LEVELS[self._rig.level]}. Seed {self._rig.seed}, {self._rig.steps} steps so far."
            )
            if self._amount is None:
                self._ask_amount()

    def _ask_amount(self) -> None:
        """The field for how much, in the unit of the fault that is picked."""
        key = self._fault.currentData()
        if key is None:
            return
        fault = practice.BY_FAULT[str(key)]
        emptied(self._amounts)
        self._amount = QuantityEdit(practice.amount_of(fault), self._session.display)
        self._amount.setFixedWidth(self._theme.px(96))
        self._amount.show_value(0.0)
        self._amounts.addWidget(self._amount)
        self._way.setText(f"{fault.name}: {fault.mend}.")

    # Before it is fixed

    def _lay_hunt(self) -> None:
        self._column.addSpacing(self._theme.px(10))
        self._column.addWidget(
            self._label("Before it is fixed: hunt the bind, adjust, decide when to tighten", 15, 700)
        )
        self._hunted = self._label("", 12.5, 400, "ink", "hunt.state")
        stations = [
            self._button(f"hunt.station.{k}", f"At {k + 1}", partial(self.feel, k)) for k in range(hunting.STATIONS)
        ]
        self._by = QuantityEdit(BY, self._session.display)
        self._by.setFixedWidth(self._theme.px(96))
        self._by.show_value(0.0)
        self._line(
            self._button("hunt.begin", "Another pair of rails", self.begin_hunt), self._label("push it to"), *stations
        )
        self._line(
            self._label("adjuster"),
            self._by,
            self._button("hunt.adjust", "Adjust", self.adjust),
            self._button("hunt.tighten", "Tighten", self.tighten, act=True),
        )
        self._column.addWidget(self._hunted)

    def begin_hunt(self, seed: int | None = None) -> None:
        """Another pair of rails."""
        self._hunt = hunting.hunt(self._seed() if seed is None else seed)
        self._hunted.setText("Loose, adjuster half-way. Push the carriage along and feel where it binds.")

    def _going(self) -> hunting.Hunt:
        if self._hunt is None:
            self.begin_hunt()
        assert self._hunt is not None
        return self._hunt

    def feel(self, station: int) -> None:
        """Push it to a station."""
        self._hunt, newtons, side = hunting.feel(self._going(), station)
        told = f"At {station + 1}: {self._session.display.text(newtons, 'N')}, {side}"
        self._hunted.setText("; ".join([*self._hunted.text().split("; "), told][-8:]))

    def adjust(self) -> None:
        """Move the adjuster by what was typed."""
        if self._by.commit():
            self._hunt = hunting.adjust(self._going(), self._by._value)  # noqa: SLF001
            self._hunted.setText(f"Adjusted by {self._by.text()}; run all of it again")

    def tighten(self) -> None:
        """Fix it, for points."""
        self._hunt = hunting.tighten(self._going())
        points, words = hunting.hunted(self._hunt)
        self._hunted.setText(f"{points} of 100 points. {words.text(self._session.display)}")
        self._keep("before it is fixed", self._hunt.seed, 1, points)
        self._hunt = None

    # Save or scrap

    def _lay_mishap(self) -> None:
        self._column.addSpacing(self._theme.px(10))
        self._column.addWidget(self._label("Save or scrap", 15, 700))
        self._happened, self._judged = (
            self._label("", 12.5, 400, "ink", "mishap.happened"),
            self._label("", 13, 600, "lantern", "mishap.judged"),
        )
        self._line(
            self._button("mishap.another", "A mishap", self.another),
            self._button("mishap.save", "Save it", lambda: self.judge(save=True)),
            self._button("mishap.scrap", "Scrap it", lambda: self.judge(save=False)),
        )
        self._column.addWidget(self._happened)
        self._column.addWidget(self._judged)

    def another(self, seed: int | None = None) -> None:
        """Another mishap."""
        self._seeded = self._seed() if seed is None else seed
        self._mishap = hunting.mishap(self._seeded)
        self._happened.setText(self._mishap.happened.text(self._session.display))
        self._judged.setText("")

    def judge(self, *, save: bool) -> None:
        """Say what to do, and see the figures."""
        if self._mishap is None:
            self.another()
            return
        right = save == self._mishap.saved
        self._judged.setText(
            f"{'Right' if right else 'No'}: {'save' if self._mishap.saved else 'scrap'} it. "
            f"{self._mishap.why.text(self._session.display)}"
        )
        self._keep("save or scrap", self._seeded, 1, 100 if right else 0)
        self._mishap = None

    # Scores

    def _keep(self, what: str, seed: int, level: int, points: int) -> None:
        scores.keep(scores.Kept(date.today().isoformat(), what, seed, level, points))
        self._draw_scores()

    def _draw_scores(self) -> None:
        kept = scores.load()
        lines = []
        for what, role in (("practice rig", "lantern"), ("before it is fixed", "water"), ("save or scrap", "muted")):
            points = [one.points for one in kept if one.what == what]
            if what == "save or scrap" and points:
                points = [float(np.mean(points[max(0, n - 9) : n + 1])) for n in range(len(points))]  # type: ignore[misc]
            if points:
                lines.append(Line(np.arange(1, len(points) + 1, dtype=float), np.array(points, float), what, role))
        shown = Reading("Points of a hundred, one after another", "1", "1", tuple(lines), zero=True) if lines else None
        self._plot.show_reading(shown, self._session.display)
        self._plot.setVisible(bool(lines))
        self._over_time.setVisible(bool(lines))
