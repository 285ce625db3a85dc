"""What the window shows of the session, and when: during a drag the drawing first, all else close behind the hand."""

from __future__ import annotations

from typing import Protocol

from PyQt6.QtCore import QElapsedTimer, QObject, QTimer
from PyQt6.QtGui import QAction

from hazel_lantern.core.document.readable import plain
from hazel_lantern.core.document.shot import MOVES
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.desktop.shell.bench import Bench
from hazel_lantern.desktop.shell.centre import Centre
from hazel_lantern.desktop.shell.drawer import Drawer
from hazel_lantern.desktop.shell.keys import bands_of
from hazel_lantern.desktop.shell.reading_pane import ReadingPane
from hazel_lantern.desktop.shell.strip import Strip
from hazel_lantern.desktop.shell.top_line import TopLine
from hazel_lantern.desktop.shell.trail import Trail
from hazel_lantern.desktop.stage.stage import Stage
from hazel_lantern.desktop.stations.page import Extras, StationPage
from hazel_lantern.desktop.widgets.words import face
from hazel_lantern.session.session import Change, Session

ASIDE = 80  # ms at most that what follows a drag may rest
QUICK = 8  # ms, half a frame
SETTLED = 400  # ms without a change after which what takes long may begin


class Shown(Protocol):
    """The window, as far as it is shown from here."""

    session: Session
    trail: Trail
    centre: Centre
    stage: Stage
    reading: ReadingPane
    strip: Strip
    bench: Bench
    drawer: Drawer
    top: TopLine
    extras: Extras | None
    actions_by_name: dict[str, QAction]
    station: str
    view: str
    welcome_open: bool
    anew: QTimer

    @property
    def page(self) -> StationPage:
        """Of the station at hand."""

    def setWindowTitle(self, words: str | None) -> None:
        """What stands over it."""


class Showing(QObject):
    """Draws, reads and refreshes the parts of one window."""

    def __init__(self, window: Shown, parent: QObject) -> None:
        super().__init__(parent)
        self._window = window
        self._clock = QElapsedTimer()
        self._aside, self._follow, self._settle = QTimer(self), QTimer(self), QTimer(self)
        for timer, after in (
            (self._aside, self.refresh_aside),
            (self._follow, self.refresh_findings),
            (self._settle, lambda: window.page.settled()),
        ):
            timer.setSingleShot(True)
            timer.timeout.connect(after)
        self._aside.setInterval(ASIDE)
        self._settle.setInterval(SETTLED)

    def halt(self) -> None:
        """Nothing follows any more."""
        for timer in (self._settle, self._follow, self._aside):
            timer.stop()

    def changed(self, change: Change) -> None:
        """The session has something new: during a gesture the hand comes first."""
        if self._window.welcome_open:
            return
        if self._window.anew.isActive() and not change.gesture:
            return  # another rig: all of it follows
        if not change.gesture and not self._window.bench.fits():
            self.draw()
            self._window.anew.start()
            return
        self.draw(gesture=change.gesture)
        if not change.gesture:
            self.refresh_aside()
            return
        for timer in (self._follow, self._aside):
            if not timer.isActive():
                timer.start()

    def refresh(self) -> None:
        """Everything as the session has it now."""
        if not self._window.welcome_open:
            self.draw()
            self.refresh_aside()

    def refresh_findings(self) -> None:
        """What it comes to, at this station: during a drag in the same frame as the drawing, unless it takes long
        enough to be in the way of the hand.
        """
        self._follow.stop()
        self._clock.start()
        self._window.drawer.refresh()
        spent = self._clock.elapsed()
        self._follow.setInterval(0 if spent <= QUICK else min(ASIDE, 2 * spent))

    def refresh_aside(self) -> None:
        """All but the drawing, and the findings anew. During a drag it follows as often as the drawing can still keep
        up with the hand.
        """
        self._aside.stop()
        if self._window.anew.isActive():
            return
        self._clock.start()
        self.read()
        result = self._window.session.evaluation
        if result is not None and (result.model is not None or not self._window.centre.draws(self._window.station)):
            self._window.page.refreshed(result, self._window.strip.share, self._window.session.display)
        self._window.trail.refresh()
        self._window.bench.refresh()
        self._window.drawer.refresh()
        self._window.top.refresh()
        if self._window.extras is not None:
            self._window.extras.refresh()
        self._settle.start()
        dirty = "*" if self._window.session.dirty else ""
        title = self._window.session.shown.name.replace("[*]", "[*][*]")
        self._window.setWindowTitle(f"{title}{dirty} — Hazel Lantern")
        for words, name in (("Undo", self._window.session.undo_words), ("Redo", self._window.session.redo_words)):
            self._window.actions_by_name[words].setText(
                face(plain(f"{words} {name[:1].lower()}{name[1:]}")) if name else words
            )
            self._window.actions_by_name[words].setEnabled(bool(name))
        # During a drag it rests twice as long as it worked: close behind the hand, never in its way.
        self._aside.setInterval(min(ASIDE, 2 * self._clock.elapsed()))

    def draw(self, *, gesture: bool = False) -> None:
        """The stage. A drag draws the mechanism alone; what it comes to follows aside."""
        if not self._window.centre.draws(self._window.station):
            return
        alone = gesture and not self._window.page.whole(self._window.view)
        result = (
            self._window.session.outline(on_set=self._window.page.on_set) if alone else self._window.session.evaluation
        )
        if result is None:
            self._window.stage.clear("No rig yet. Use + rig above to begin.")
            return
        if result.model is None:
            finding = self._window.session.evaluation.findings[0]
            self._window.stage.show_sketch(
                None, self._window.station, f"{finding.title}. {finding.sentence.text(self._window.session.display)}"
            )
            return
        try:
            share = self._window.strip.share
            sketch = result.draw(share, self._window.view, self._window.session.thing)
            self._window.stage.show_sketch(
                self._window.page.dressed(sketch, result, share, self._window.view), self._window.station
            )
        except InputError as error:
            self._window.stage.show_sketch(
                None, self._window.station, f"{error.allowed[:1].upper()}{error.allowed[1:]}."
            )
        self._window.page.drawn(result, self._window.strip.share, self._window.session.display)

    def moved(self) -> None:
        self.draw()
        self.read()

    def read(self) -> None:
        """The plot under the stage and the strip."""
        result, show = self._window.session.evaluation, self._window.session.display
        if not self._window.centre.draws(self._window.station):
            return
        if result is None:
            self._window.reading.show_page(self._window.page, None, 0.0, show)
            return
        shot = result.shot
        peak = (
            f" · peak {show.text(result.figures['shot.speed'].value, 'm/s')}" if "shot.speed" in result.figures else ""
        )
        shapes = ", ".join(dict.fromkeys(one.shape for one in shot.segments))
        self._window.strip.show_move(shot, f"{dict(MOVES)[shot.move]}, {shapes}{peak}", show, bands_of(result.figures))
        self._window.reading.show_page(self._window.page, result, self._window.strip.share, show)
