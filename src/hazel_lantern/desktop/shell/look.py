"""How the window looks and moves: colours, size of the text, less motion; all of it kept as a preference."""

from __future__ import annotations

from collections.abc import Callable

from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.session.settings import Settings


class Look:
    """Preferences of look; `played` says to whom it may concern whether moves are stepped instead of played."""

    def __init__(self, theme: Theme, settings: Settings, played: Callable[[bool], None]) -> None:
        self._theme, self._settings, self._played = theme, settings, played

    def use_theme(self, name: str) -> None:
        self._settings.theme = name
        self._theme.use(name=name)

    def use_scale(self, percent: str) -> None:
        self._settings.text_scale = int(percent)
        self._theme.use(scale=int(percent))

    def toggle_motion(self) -> None:
        self._settings.reduced_motion = not self._settings.reduced_motion
        self._played(self._settings.reduced_motion)
