"""Keys of the move, and the corner of its ease, dragged on the strip:
one step to undo, refused where they would meet another."""

from __future__ import annotations

import math
from collections.abc import Mapping

from PyQt6.QtCore import QObject, pyqtSignal

from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.figure import Figure
from hazel_lantern.core.optics.screen import GAPS
from hazel_lantern.desktop.shell.strip import CORNER, Bands, Strip
from hazel_lantern.session.session import Session


class KeyHand(QObject):
    """Carries what is dragged on the strip over to the document."""

    refused = pyqtSignal(str)

    def __init__(self, session: Session, strip: Strip) -> None:
        super().__init__(strip)
        self._session, self._strip, self._gesture = session, strip, 0
        strip.key_taken.connect(self._take)
        strip.key_dragged.connect(self._drag)
        strip.key_dropped.connect(self._drop)

    def _take(self) -> None:
        self._gesture = self._session.new_gesture()

    def _drag(self, key: str, time: float) -> None:
        try:
            self._session.set(key, self._value(key, time), self._gesture)
        except InputError as error:
            self.refused.emit(error.allowed)
            return
        # What it comes to follows; the strip keeps step with the hand.
        self._strip.follow(self._session.shot, self._session.display)

    def _value(self, key: str, time: float) -> float:
        """What a ring dragged to a moment of the clock sets: a time, or the share of the ramp that ends there."""
        shot = self._session.shot
        if key == CORNER:
            return round((time - shot.leaves_s) / (shot.keys[1].time_s - shot.leaves_s), 4)
        return time - shot.leaves_s if key == "shot.time" else time

    def _drop(self, abandoned: bool) -> None:
        if abandoned:
            self._session.abandon(self._gesture)


def bands_of(figures: Mapping[str, Figure]) -> Bands:
    """What bounds a move, of the figures told of it."""

    gap, hardest = figures.get("shot.gap"), figures.get("shot.acceleration")
    most = figures.get("shot.limit_acceleration")
    return Bands(
        GAPS[0] / gap.value if gap and gap.value > 0 else math.inf,
        most.value / hardest.value if most and hardest and hardest.value > 0 else math.inf,
    )
