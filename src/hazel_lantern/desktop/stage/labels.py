"""Where labels go: near what they name, inside the stage, never over one another."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QPointF, QRectF, QSizeF

GAP = 3.0
# Rings of steps around a place, nearest first; a step is about as wide as it is tall on screen.
_RINGS = sorted(((i, j) for i in range(-9, 10) for j in range(-14, 15)), key=lambda d: d[0] ** 2 + d[1] ** 2)


def place(
    wanted: Sequence[tuple[QSizeF, Sequence[QPointF]]], bounds: QRectF, taken: Sequence[QRectF] = ()
) -> list[QRectF]:
    """A box for each label: the first of its wanted centres that is free, else the nearest free spot around the
    first.
    """
    boxes: list[QRectF] = list(taken)
    found = []
    for size, centres in wanted:
        box = next((b for b in (_box(size, c) for c in centres) if _free(b, bounds, boxes)), None) or _around(
            size, centres[0], bounds, boxes
        )
        boxes.append(box)
        found.append(box)
    return found


def _box(size: QSizeF, centre: QPointF) -> QRectF:
    return QRectF(centre.x() - size.width() / 2, centre.y() - size.height() / 2, size.width(), size.height())


def _free(box: QRectF, bounds: QRectF, boxes: list[QRectF]) -> bool:
    grown = box.adjusted(-GAP, -GAP, GAP, GAP)
    return bounds.contains(box) and not any(grown.intersects(other) for other in boxes)


def _around(size: QSizeF, centre: QPointF, bounds: QRectF, boxes: list[QRectF]) -> QRectF:
    """Nearest free place on growing rings; the middle of the wanted place when the stage is full."""
    inside = QPointF(
        min(max(centre.x(), bounds.left() + size.width() / 2), bounds.right() - size.width() / 2),
        min(max(centre.y(), bounds.top() + size.height() / 2), bounds.bottom() - size.height() / 2),
    )
    step_x, step_y = size.width() / 2 + GAP, size.height() + 2 * GAP
    for i, j in _RINGS:
        box = _box(size, QPointF(inside.x() + i * step_x, inside.y() + j * step_y))
        if _free(box, bounds, boxes):
            return box
    return _box(size, inside)
