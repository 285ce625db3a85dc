"""What the help menu shows."""

from __future__ import annotations

from collections.abc import Callable

from hazel_lantern import __version__, assets
from hazel_lantern.desktop.shell.actions import ROWS
from hazel_lantern.desktop.shell.pages import Pages
from hazel_lantern.desktop.shell.reference import anchor, page
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.session.session import Session


class Help:
    """What the help menu shows."""

    def __init__(self, session: Session, theme: Callable[[], Theme], pages: Callable[[], Pages]) -> None:
        self._session, self._theme, self._pages = session, theme, pages

    def show_keys(self) -> None:
        rows = "".join(
            f"<tr><td><b>{row.keys}</b>&nbsp;&nbsp;</td><td>{row.words.rstrip('…')}</td></tr>"
            for row in ROWS
            if row.keys
        )
        more = (
            "<tr><td><b>Space</b></td><td>Play, on the drawing or the "
            "strip</td></tr><tr><td><b>Enter</b></td><td>Type into a pill</td></tr><tr><td><b>Arrows, "
            "Shift</b></td><td>Nudge a pill or handle, ten times</td></tr>"
        )
        self._pages().open("Keys", f"<table cellspacing=4>{rows}{more}</table>")

    def show_manual(self) -> None:
        self._pages().open_markdown("Manual", assets.data("manual", "manual.md").decode())

    def show_reference(self, chapter: str = "") -> None:
        """The chapters that whys cite, with examples of the rig at hand; at one of them where it is named."""
        session, theme = self._session, self._theme()
        figures = session.evaluation.figures.values() if session.evaluation else ()
        self._pages().open("Reference", page(figures, session.display, theme), anchor(chapter))

    def show_about(self) -> None:
        self._pages().open(
            "Hazel Lantern",
            f"<p>Version {__version__}. Free software under GPL-3.0-or-later.</p><p>Fonts: Manrope and Inter, SIL "
            "Open Font License 1.1.</p>"
            "<p>Screening only: nothing here is certified. Local codes and licensed or qualified people decide.</p>",
        )
