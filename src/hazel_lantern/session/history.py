"""Steps that can be taken back: changes of one drag are one of them."""

from __future__ import annotations

from msgspec import Struct

from hazel_lantern.core.document.project import Project


class Step(Struct):
    """What was done, from which document to which; `gesture` numbers the drag it belongs to, 0 for none."""

    words: str
    before: Project
    after: Project
    gesture: int


class History:
    """Where one stands among the steps of one document."""

    def __init__(self) -> None:
        self._steps: list[Step] = []
        self._at = 0
        self._gesture = 0

    def record(self, words: str, before: Project, after: Project, gesture: int = 0) -> None:
        """One step more, or the same drag further on; what was taken back is gone."""
        del self._steps[self._at :]
        last = self._steps[-1] if self._steps else None
        if gesture and last and last.gesture == gesture:
            last.after, last.words = after, words
        else:
            self._steps.append(Step(words, before, after, gesture))
            self._at += 1

    def new_gesture(self) -> int:
        """A number that makes the changes of one drag one step."""
        self._gesture += 1
        return self._gesture

    def abandon(self, gesture: int) -> Project | None:
        """The document before a drag, as if that never was; None where it changed nothing."""
        if not self._at or self._steps[self._at - 1].gesture != gesture:
            return None
        self._at -= 1
        return self._steps.pop().before

    @property
    def undo_words(self) -> str:
        """What would be taken back; "" for nothing."""
        return self._steps[self._at - 1].words if self._at else ""

    @property
    def redo_words(self) -> str:
        """What would be done again; "" for nothing."""
        return self._steps[self._at].words if self._at < len(self._steps) else ""

    def back(self) -> Project | None:
        """The document one step ago."""
        if not self._at:
            return None
        self._at -= 1
        return self._steps[self._at].before

    def forward(self) -> Project | None:
        """The document one step on."""
        if self._at == len(self._steps):
            return None
        self._at += 1
        return self._steps[self._at - 1].after
