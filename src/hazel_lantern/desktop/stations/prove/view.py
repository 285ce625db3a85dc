"""Prove in the centre: the rig with the instruments of the open test where they are held; what was foreseen against
what was measured, over all tests.
"""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QScrollArea, QStackedWidget, QVBoxLayout, QWidget

from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.proving.instruments import held
from hazel_lantern.core.stations import PROVE
from hazel_lantern.desktop.stage.stage import Stage
from hazel_lantern.desktop.stations.prove.bars import Bars
from hazel_lantern.desktop.stations.prove.meaning import Meaning
from hazel_lantern.desktop.stations.prove.practising import Practising
from hazel_lantern.desktop.stations.prove.proving import Proving
from hazel_lantern.desktop.stations.prove.shaking import Shaking
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.flow import Flow
from hazel_lantern.desktop.widgets.scroll import Scroll
from hazel_lantern.desktop.widgets.words import Label

TALLEST = 208  # px of the bars before they scroll


TESTS, LOG, PRACTICE = "tests", "log", "practice"
PAGES = ((TESTS, "Instruments"), (LOG, "Vibration log"), (PRACTICE, "Practice rig"))


class ProveView(QStackedWidget):
    """What the tests show, a vibration log, and the practice rig; chips over each turn to the others."""

    def __init__(self, proving: Proving, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.tests = TestsView(proving, theme)
        self.shaking = Shaking(proving.session, theme, proving.instruments)
        self.practising = Practising(proving.session, theme)
        self.chips: dict[str, QPushButton] = {}
        for page in (self.tests, self.shaking, self.practising):
            self.addWidget(page)
        self._bar = self._chips()
        self.shaking.said.connect(proving.said)
        self.practising.said.connect(proving.said)
        self.turn(TESTS)

    def _chips(self) -> QWidget:
        bar = QWidget(self)
        line = QHBoxLayout(bar)
        line.setContentsMargins(self._theme.px(12), self._theme.px(9), 0, 0)
        line.setSpacing(self._theme.px(6))
        for key, words in PAGES:
            chip = QPushButton(words)
            chip.setProperty("chip", True)
            chip.setCheckable(True)
            chip.setObjectName(f"prove.page.{key}")
            chip.clicked.connect(lambda _=False, key=key: self.turn(key))
            line.addWidget(chip)
            self.chips[key] = chip
        bar.adjustSize()
        return bar

    def turn(self, key: str) -> None:
        """Turn to a page."""
        self.setCurrentIndex([one for one, _ in PAGES].index(key))
        self._bar.raise_()
        for one, chip in self.chips.items():
            chip.setChecked(one == key)

    def refresh(self) -> None:
        """The log against the rig as it is."""
        self.shaking.refresh()

    def finish(self) -> None:
        """Stop what works in the background."""
        self.shaking.finish()


class TestsView(QWidget):
    """Follows what is proved."""

    def __init__(self, proving: Proving, theme: Theme) -> None:
        super().__init__()
        self._proving, self._theme = proving, theme
        self.stage = Stage(proving.session, theme)
        self.stage.chips.offer_views([], "", layered=False)
        self.bars = Bars(theme)
        self.bars.picked.connect(proving.pick)
        self._meaning = Meaning(proving, theme)
        scroll = QScrollArea()
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        scroll.setWidgetResizable(True)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setWidget(self.bars)
        scroll.setFixedHeight(theme.px(TALLEST))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.stage, 1)
        column.addWidget(Scroll(self._meaning, theme.px(64)))  # in large letters there is no room for all of it
        column.addWidget(theme.rule(across=True))
        column.addWidget(self._heading())
        column.addWidget(scroll)
        proving.turned.connect(self.show_all)
        self.show_all()

    def _heading(self) -> QWidget:
        theme, box = self._theme, QWidget()
        line = Flow(box, theme.px(12))
        box.setContentsMargins(theme.px(20), theme.px(8), theme.px(20), theme.px(2))
        title, legend = (Label("Foreseen against measured"), Label("band foreseen  ·  dot measured ± (95 in 100)"))
        title.setFont(theme.font(13, weight=700))
        theme.ink(title, "lantern")
        legend.setFont(theme.font(11.5))
        theme.ink(legend, "muted")
        line.addWidget(title)
        line.addWidget(legend)
        return box

    def show_all(self) -> None:
        """Drawing and bars as they are now."""
        proving = self._proving
        self.bars.show_told(proving.told, proving.at, proving.session.display)
        self._meaning.refresh()
        here, result = proving.here, proving.session.evaluation
        if here is None or result is None or result.model is None:
            self.stage.clear("A rig that cannot be built as it is drawn is not tested.")
            return
        try:
            sketch, lens = result.still(here.foreseen.pose)
            self.stage.show_sketch(held(sketch, lens, here.trial, here.foreseen), PROVE)
        except HazelError as error:
            self.stage.clear(f"{str(error)[:1].upper()}{str(error)[1:]}.")
