"""The last takes of the rig: stars, a note, and what they say of it together."""

from __future__ import annotations

from functools import partial

from msgspec.structs import replace
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.rolling.takes import Take, say
from hazel_lantern.desktop.stations.prove.meaning import emptied
from hazel_lantern.desktop.stations.roll.piece import Piece
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.words import tip
from hazel_lantern.session.rolling import Rolling

SHOWN = 4


class Logged(Piece):
    """What was taken, the last one first."""

    def __init__(self, rolling: Rolling, theme: Theme) -> None:
        super().__init__(rolling, theme)
        self._rows, self._repeats = QVBoxLayout(), self._label("", 12.5, 600, "watch", "roll.repeats")
        self._rows.setSpacing(theme.px(3))
        self._column.addWidget(self._label("Takes", 13, 700, "lantern"))
        self._column.addLayout(self._rows)
        self._column.addWidget(self._repeats)
        rolling.taken.connect(self.refresh)

    def finish(self) -> None:
        self._rolling.taken.disconnect(self.refresh)

    def refresh(self) -> None:
        session = self._rolling.session
        try:
            every = self._rolling.takes()
        except HazelError as error:
            self.said.emit(str(error))
            return
        mine = [one for one in every if one.rig == session.rig_id]
        emptied(self._rows)
        for take in reversed(mine[-SHOWN:]):
            self._rows.addWidget(self._row(take, session.display))
        if not mine:
            self._rows.addWidget(self._label("None yet. Follow the move by hand, or run it.", 12, 400, "muted"))
        told = say(mine, session.rig_id)
        words = (f"{one.sort.capitalize()} in {one.times} of {one.of} takes: {one.advice}." for one in told)
        self._repeats.setText(" ".join(words))
        self._repeats.setVisible(bool(told))

    def _row(self, take: Take, show: Display) -> QWidget:
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
        self._rolling.change(replace(take, stars=(take.stars + 1) % 4))

    def _noted(self, take: Take, field: QLineEdit) -> None:
        if field.isModified() and field.text() != (take.fault or take.note):
            field.setModified(False)
            self._rolling.change(replace(take, fault=field.text(), note=take.note))
