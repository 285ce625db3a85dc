"""A plate to mark out: drawn true to scale with its holes numbered, and the table of holes beside it."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen, QPolygonF

from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.core.workshop.solids import Sheet
from hazel_lantern.desktop.theme.theme import Theme

SHARE = 0.42  # of the width, for the drawing
LEAST = 2.2  # pixels below which a hole is drawn no smaller


def paint_plate(painter: QPainter, theme: Theme, show: Display, area: QRectF, part: Part, sheet: Sheet) -> None:
    """The plate at the left, its datum end and edge drawn thick; at the right one line for each hole, along and
    across from there.
    """
    px = theme.px
    scale = min(area.width() * SHARE / sheet.length, (area.height() - px(8)) / sheet.width)
    low = min(y for _, y in sheet.outline)
    left, bottom = area.left() + px(6), area.top() + px(4) + sheet.width * scale

    def at(x: float, y: float) -> QPointF:
        return QPointF(left + x * scale, bottom - y * scale)

    color = theme.color(part.material)
    painter.setPen(QPen(color.darker(150), 1))
    painter.setBrush(color)
    painter.drawPolygon(QPolygonF([at(x, y - low) for x, y in sheet.outline]))
    painter.setPen(QPen(theme.color("ink"), 3))
    painter.drawPolyline(QPolygonF([at(0, sheet.width), at(0, 0), at(sheet.length, 0)]))
    painter.setPen(QPen(theme.color("ink"), 1.2))
    spots = [at(*part.spot(mark)) for mark in part.marks]
    for mark, spot in zip(part.marks, spots, strict=True):
        radius = max(LEAST, mark.size / 2 * scale)
        painter.setBrush(theme.color("ground"))
        painter.drawEllipse(spot, radius, radius)
    small, numbers = theme.font(11), theme.font(12, weight=600, numbers=True)
    painter.setFont(theme.font(11, weight=700))
    painter.setPen(theme.color("ground" if theme.tokens.name == "dusk" else "ink"))
    for number, spot in enumerate(spots, 1):
        painter.drawText(
            QRectF(spot.x() + px(4), spot.y() - px(15), px(22), px(14)), Qt.AlignmentFlag.AlignLeft, str(number)
        )
    start, row = left + max(sheet.length * scale + px(24), area.width() * SHARE * 0.6), px(17)
    lines = max(1, int(area.height() // row))
    wide = (area.right() - start) / max(1, -(-len(part.marks) // lines))
    for k, mark in enumerate(part.marks):
        x, y = start + (k // lines) * wide, area.top() + (k % lines) * row
        along, across = (show.number(value, "m", fine=True) for value in part.spot(mark))
        painter.setFont(numbers)
        painter.setPen(theme.color("ink"))
        place = QRectF(x, y, wide, row)
        words = f"{k + 1}   {along} × {across}"
        painter.drawText(place, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, words)
        used = painter.fontMetrics().horizontalAdvance(words) + px(10)
        painter.setFont(small)
        painter.setPen(theme.color("muted"))
        told = painter.fontMetrics().elidedText(
            f"ø{show.number(mark.size, 'm', fine=True)} {mark.note}",
            Qt.TextElideMode.ElideRight,
            int(max(0.0, wide - used - px(8))),
        )
        painter.drawText(
            place.adjusted(used, 0, 0, 0), Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, told
        )
