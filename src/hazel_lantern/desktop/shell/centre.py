"""The middle of the window: the stage with the reading and the strip under it, or what a station shows in its place."""

from __future__ import annotations

from PyQt6.QtWidgets import QStackedWidget, QVBoxLayout, QWidget

from hazel_lantern.core.stations import SHOT
from hazel_lantern.desktop.shell.reading_pane import ReadingPane
from hazel_lantern.desktop.shell.strip import Strip
from hazel_lantern.desktop.stage.stage import Stage
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.scroll import Scroll
from hazel_lantern.session.session import Session


class Centre(QStackedWidget):
    """Stage, reading and strip; each station may put something over the stage, or stand in place of all three."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.stage, self.reading, self.strip = Stage(session, theme), ReadingPane(theme, session), Strip(theme)
        self.stage.play_wanted.connect(self.strip.play)
        self._beside: dict[str, list[QWidget]] = {}
        self._instead: dict[str, QWidget] = {}
        self._drawn = QWidget()
        below = QVBoxLayout(self._drawn)
        below.setContentsMargins(0, 0, 0, 0)
        below.setSpacing(0)
        self._over = QVBoxLayout()
        below.addLayout(self._over)
        below.addWidget(self.stage, 3)
        below.addWidget(self.reading, 1)
        self._theme = theme
        self._under = QVBoxLayout()
        below.addLayout(self._under)
        below.addWidget(self.strip)
        self.addWidget(self._drawn)

    def hold(self, station: str, above: QWidget | None, below: QWidget | None, instead: QWidget | None) -> None:
        """What a station puts over the stage and under it, and what it shows in place of everything."""
        under = Scroll(below, self._theme.px(90)) if below is not None else None
        for widget, column in ((above, self._over), (under, self._under)):
            if widget is not None:
                self._beside.setdefault(station, []).append(widget)
                column.addWidget(widget)
        if instead is not None:
            self._instead[station] = instead
            self.addWidget(instead)

    def draws(self, station: str) -> bool:
        """Whether a station is shown on the stage."""
        return station not in self._instead

    def turn_to(self, station: str) -> None:
        """Show what a station wants to be seen."""
        self.strip.edit(station == SHOT)
        self.setCurrentWidget(self._instead.get(station, self._drawn))
        for other, widgets in self._beside.items():
            for widget in widgets:
                widget.setVisible(other == station)
