"""Marks on a widget, of which only those that changed are painted again."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Sequence
from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import astuple
from PyQt6.QtCore import QRect
from PyQt6.QtGui import QPainter

from hazel_lantern.desktop.stage.painter import Mark


class Drawing:
    """What stands on a widget now. Laid anew it keeps the marks of what is as before, and tells where the others are
    and were.
    """

    def __init__(self) -> None:
        self._setting: Hashable = None
        self._keys: list[Any] = []
        self._marks: list[Mark] = []

    def lay(self, setting: Hashable, wanted: Sequence[Any], make: Callable[[Any], Mark]) -> QRect | None:
        """The marks of what is wanted, in painting order, and what holds all pixels that changed, one rectangle since
        a ragged edge slows painting; None is all of them.

        `setting` is all else a mark depends on, such as the scale and the colours.
        """
        keys = [_key(one) for one in wanted]
        if setting != self._setting or len(keys) != len(self._keys):
            self._marks, changed = [make(one) for one in wanted], None
        else:
            changed = QRect()
            for n, (before, now) in enumerate(zip(self._keys, keys, strict=True)):
                if before != now:
                    old, self._marks[n] = self._marks[n], make(wanted[n])
                    changed |= old.bounds | self._marks[n].bounds
        self._setting, self._keys = setting, keys
        return changed

    def paint(self, painter: QPainter, part: QRect) -> None:
        """The marks that touch a part of the widget."""
        opacity = 1.0
        for mark in self._marks:
            if part.intersects(mark.bounds):
                if mark.opacity != opacity:
                    opacity = mark.opacity
                    painter.setOpacity(opacity)
                mark.paint(painter)
        painter.setOpacity(1.0)


def _key(one: Any) -> Any:
    """What must be equal for two things to be painted alike: arrays cannot be compared at one go, their bytes can."""
    return (
        (type(one), *(value.tobytes() if isinstance(value, np.ndarray) else value for value in astuple(one)))
        if isinstance(one, Struct)
        else one
    )
