"""Keys of the move, and the corner of its ease, dragged on the strip: one step to undo, refused where they would meet another."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QObject, pyqtSignal

from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.desktop.shell.strip import CORNER, Strip
from hazel_lantern.session.session import Session


class KeyHand(QObject):
    """Carries what is dragged on the strip over to the document."""

    refused = pyqtSignal(str)

    def __init__(self, session: Session, strip: Strip, moved: Callable[[], None]) -> None:
        super().__init__(strip)
        self._session, self._moved, self._gesture = session, moved, 0
        strip.key_taken.connect(self._take)
        strip.key_dragged.connect(self._drag)
        strip.key_dropped.connect(self._drop)

    def _take(self) -> None:
        self._gesture = self._session.new_gesture()

    def _drag(self, n: int, time: float) -> None:
        try:
            if n == CORNER:
                shot = self._session.shot
                ramp = (time - shot.leaves_s) / (shot.keys[1].time_s - shot.leaves_s)
                self._session.set("shot.ramp", round(ramp, 4), self._gesture)
            else:
                self._session.set(f"key.{n}.time", time, self._gesture)
        except InputError as error:
            self.refused.emit(error.allowed)
            return
        self._moved()

    def _drop(self, abandoned: bool) -> None:
        if abandoned:
            self._session.abandon(self._gesture)
