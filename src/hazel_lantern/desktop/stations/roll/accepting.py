"""What is accepted before anything rolls: each caution with its number, what to do, and who decides."""

from __future__ import annotations

from datetime import date
from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QPushButton, QVBoxLayout

from hazel_lantern.core.nouns.finding import CLEAR, STOP, WATCH, Finding
from hazel_lantern.core.rolling.cautions import GENERAL, Before, accept, before, withdraw
from hazel_lantern.desktop.stations.prove.meaning import emptied
from hazel_lantern.desktop.stations.roll.piece import Piece
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.glyphs import Lantern
from hazel_lantern.desktop.widgets.words import tip
from hazel_lantern.session.rolling import Rolling


class Accepting(Piece):
    """Stops, which are solved and never accepted; cautions, which somebody accepts by name."""

    def __init__(self, rolling: Rolling, theme: Theme) -> None:
        super().__init__(rolling, theme)
        self.before: Before | None = None
        self._head = self._label("", 13, 700, "lantern", "roll.head")
        self._rows = QVBoxLayout()
        self._rows.setSpacing(theme.px(4))
        self._name = QLineEdit()
        self._name.setObjectName("roll.name")
        self._name.setPlaceholderText("name of who accepts")
        self._name.setAccessibleName("Name of who accepts")
        self._column.addWidget(self._head)
        self._column.addLayout(self._rows)
        self._column.addWidget(self._name)
        self._column.addWidget(self._label(GENERAL, 11.5, 400, "muted"))

    def refresh(self) -> None:
        session = self._rolling.session
        if session.evaluation is None:
            return
        self.before = found = before(session.evaluation, session.display)
        taken = len(found.cautions) - found.open
        self._head.setText(
            f"Before you roll{f' · {taken} of {len(found.cautions)} accepted' if found.cautions else ''}"
        )
        emptied(self._rows)
        for finding in found.stops:
            self._row(finding, finding.state, "cannot be accepted")
        for one in found.cautions:
            key = one.finding.key
            if one.accepted is not None:
                back = self._button(f"roll.withdraw.{key}", "accepted", partial(self._withdraw, key))
                back.setToolTip(tip(f"by {one.accepted.name}, {one.accepted.day}; press to open it again"))
                self._row(one.finding, CLEAR, one.decides, back)
            else:
                words = "Accept again" if one.lapsed else "Accept"
                button = self._button(f"roll.accept.{key}", words, partial(self._accept, one.finding))
                button.setProperty("act", True)
                self._row(one.finding, WATCH, one.decides, button)
        self._name.setVisible(bool(found.cautions))

    def _row(self, finding: Finding, state: str, aside: str, button: QPushButton | None = None) -> None:
        show = self._rolling.session.display
        line, words = QHBoxLayout(), QVBoxLayout()
        words.setSpacing(0)
        number = "" if finding.says_yes_or_no else f" · {show.text(finding.value, finding.unit)}"
        name = self._label(f"{finding.title}{number}", 12.5, 400, "stop" if state == STOP else "ink")
        what = finding.sentence.text(show)
        name.setToolTip(tip(what))
        words.addWidget(name)
        if state != CLEAR:  # what is accepted has been read
            words.addWidget(self._label(what, 11.5))
        words.addWidget(self._label(aside, 11.5, 400, "stop" if state == STOP else "muted"))
        line.addWidget(Lantern(self._theme, state, 16), 0, Qt.AlignmentFlag.AlignTop)
        line.addLayout(words, 1)
        if button is not None:
            line.addWidget(button, 0, Qt.AlignmentFlag.AlignTop)
        self._rows.addLayout(line)

    def _accept(self, finding: Finding) -> None:
        session = self._rolling.session
        day, name = date.today().isoformat(), self._name.text()
        project = accept(session.document, session.rig_id, session.shot_id, finding, day, name)
        session.change(f"Accept: {finding.title}", project)

    def _withdraw(self, key: str) -> None:
        session = self._rolling.session
        session.change("Open a caution again", withdraw(session.document, session.rig_id, session.shot_id, key))
