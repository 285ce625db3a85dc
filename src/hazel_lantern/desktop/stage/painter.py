"""Paints a sketch: metres to pixels, roles to colours."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
from msgspec import Struct
from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QLinearGradient, QPainter, QPen, QPolygonF

from hazel_lantern.core.sketch import GHOST, Arrow, Lines, Ring, Shape, Size, Sketch, Stroke
from hazel_lantern.desktop.theme.theme import Theme

THIN = 2.4
LONG = 3000.0  # px of a dashed line from which only what shows of it is dashed
HATCH = {
    "wood": Qt.BrushStyle.HorPattern, "steel": Qt.BrushStyle.BDiagPattern, "plastic": Qt.BrushStyle.Dense7Pattern, "rope": Qt.BrushStyle.DiagCrossPattern,
}  # fmt: skip
MATERIALS = ("wood", "aluminium", "steel", "plastic", "rope", "camera", "lens", "weight")
LINES = {"path": "lantern", "sweep": "muted", "footing": "muted", "floor-line": "line"}
FLAT = ("person", "person-head", "sky", "floor")
SOFT = {"thirds": ("ink", 60)}


class Ink(Struct, frozen=True):
    """What a role is painted with: its fill, the edge of a full shape, the edge that carries a thin one, its hatching."""

    fill: QBrush
    edge: QPen
    thin: QPen
    hatch: QBrush | None

    @classmethod
    def of(cls, role: str, theme: Theme) -> Ink:
        color = theme.color(role)
        shade = color.darker(150)
        shade.setAlpha(90)
        return cls(QBrush(color), QPen(color.darker(165), 0.8), QPen(color, THIN), QBrush(shade, HATCH[role]) if role in HATCH else None)


class Scale(Struct):
    """Metres to pixels: pixels a metre, and where the origin of metres lies on the stage."""

    px: float
    x: float
    y: float

    def at(self, point: tuple[float, float]) -> QPointF:
        return QPointF(self.x + float(point[0]) * self.px, self.y - float(point[1]) * self.px)

    def line(self, points: np.ndarray) -> QPolygonF:
        return QPolygonF([QPointF(self.x + u * self.px, self.y - z * self.px) for u, z in points.tolist()])

    def metres(self, point: QPointF) -> tuple[float, float]:
        return (point.x() - self.x) / self.px, (self.y - point.y()) / self.px


def fit(box: tuple[float, float, float, float], area: QRectF) -> Scale:
    """The largest scale at which the box is inside the area, centred, resting on its lower edge."""
    x0, y0, x1, y1 = box
    px = min(area.width() / (x1 - x0), area.height() / (y1 - y0))
    return Scale(px, area.center().x() - (x0 + x1) / 2 * px, area.bottom() + y0 * px)


GRIDS = {"mm": (0.1, 0.25, 0.5, 1.0, 2.0, 5.0, 10.0), "in": tuple(feet * 0.3048 for feet in (0.25, 0.5, 1, 2, 5, 10, 30))}


def paint_ground(painter: QPainter, area: QRectF, scale: Scale, theme: Theme, *, ground: bool, system: str = "mm") -> None:
    """Ground colour, a grid in metres or feet that adapts, and the floor with its hatching."""
    painter.fillRect(area, theme.color("ground"))
    steps = GRIDS[system]
    step = next((s for s in steps if s * scale.px >= 40), steps[-1])
    painter.setPen(QPen(theme.color("grid"), 1))
    left, top = scale.metres(area.topLeft())
    right, bottom = scale.metres(area.bottomRight())
    for n in range(math.ceil(left / step), math.floor(right / step) + 1):
        x = scale.at((n * step, 0)).x()
        painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()))
    for n in range(math.ceil(bottom / step), math.floor(top / step) + 1):
        y = scale.at((0, n * step)).y()
        painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y))
    if ground:
        floor = QRectF(QPointF(area.left(), scale.at((0, 0)).y()), area.bottomRight())
        painter.fillRect(floor, theme.color("soil"))
        painter.fillRect(floor, QBrush(theme.color("line"), Qt.BrushStyle.FDiagPattern))
        painter.setPen(QPen(theme.color("lantern"), 1.6))
        painter.drawLine(floor.topLeft(), floor.topRight())


def paint_sketch(painter: QPainter, sketch: Sketch, scale: Scale, theme: Theme, layers: set[str]) -> None:
    """Everything but labels and handles, which are widgets."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for item in sketch.items:
        layer = getattr(item, "layer", "")
        if layer and layer not in layers:
            continue
        painter.setOpacity(0.28 if layer == GHOST else 1.0)
        if isinstance(item, Shape):
            _shape(painter, item, scale, theme)
        elif isinstance(item, Stroke):
            _stroke(painter, item, scale, theme)
        elif isinstance(item, Lines):
            painter.setPen(QPen(theme.color(*SOFT.get(item.role, (LINES.get(item.role, item.role),))), 1.2))
            _lines(painter, item.points * (scale.px, -scale.px) + (scale.x, scale.y))
        elif isinstance(item, Ring):
            _ring(painter, item, scale, theme)
        elif isinstance(item, Arrow):
            _arrow(painter, item, scale, theme)
    painter.setOpacity(1.0)


def _shape(painter: QPainter, item: Shape, scale: Scale, theme: Theme) -> None:
    outline = scale.line(item.points)
    if item.role == "view":
        painter.setPen(Qt.PenStyle.NoPen)
        # It has faded away half-way out: nothing beyond is worth filling.
        eye, reach = outline[0], 0.55
        outline = QPolygonF([eye, *(eye + (outline[k] - eye) * reach for k in (1, 2))])
        fade = QLinearGradient(eye, (outline[1] + outline[2]) / 2)
        fade.setColorAt(0, theme.color("lantern", 60))
        fade.setColorAt(1, theme.color("lantern", 0))
        painter.setBrush(fade)
    elif item.role == "footing":
        painter.setPen(QPen(theme.color("muted"), 1.2, Qt.PenStyle.DashLine))
        painter.setBrush(theme.color("person", 90))
    elif item.role in FLAT:
        painter.setPen(QPen(theme.color("muted"), 1.0) if item.role == "person-head" else Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("person" if item.role == "person-head" else item.role))
    else:
        ink = theme.kept(("ink", item.role), lambda: Ink.of(item.role, theme))
        # Thin bars keep a line's width on screen; the edge in their own fill carries it.
        size = outline.boundingRect()
        thin = min(size.width(), size.height()) < THIN
        painter.setPen(ink.thin if thin else Qt.PenStyle.NoPen if item.layer == GHOST else ink.edge)
        painter.setBrush(ink.fill)
        if ink.hatch is not None and item.layer != GHOST:
            painter.drawPolygon(outline)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(ink.hatch)
    painter.drawPolygon(outline)


def _stroke(painter: QPainter, item: Stroke, scale: Scale, theme: Theme) -> None:
    width = max(item.width * scale.px, THIN if item.width else 1.6)
    pen = QPen(theme.color(*SOFT.get(item.role, (LINES.get(item.role, item.role),))), width, cap=Qt.PenCapStyle.RoundCap, join=Qt.PenJoinStyle.RoundJoin)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if not item.dash:
        painter.setPen(pen)
        painter.drawPolyline(scale.line(item.points))
        return
    dotted = item.role == "path"
    pen.setWidthF(2.2 if dotted else 1.1)
    painter.setPen(pen)
    points = item.points * (scale.px, -scale.px) + (scale.x, scale.y)
    pattern = (2.6, 7.0) if dotted else (4.4, 4.4)
    # A line that runs far out of the picture would have most of its dashes there.
    parts = [points] if np.abs(points[1:] - points[:-1]).sum() < LONG else in_sight(points, painter)
    for part in parts:
        _lines(painter, dashes(part, *pattern))


def _lines(painter: QPainter, pieces: np.ndarray) -> None:
    """Straight pieces (n, 2, 2) [px]."""
    painter.drawLines([QLineF(*piece) for piece in pieces.reshape(-1, 4).tolist()])  # type: ignore[call-overload]


def in_sight(points: np.ndarray, painter: QPainter) -> list[np.ndarray]:
    """The parts (2, 2) of a line through points (n, 2) that lie in the painted area, a little grown."""
    seen = painter.clipBoundingRect() if painter.hasClipping() else QRectF(painter.viewport())
    low, high = np.array([seen.left(), seen.top()]) - 4, np.array([seen.right(), seen.bottom()]) + 4
    found = []
    for a, b in pairwise(points):
        along = b - a
        with np.errstate(divide="ignore", invalid="ignore"):
            enter, leave = np.sort([(low - a) / along, (high - a) / along], axis=0)
        # Along an axis it does not move, it is in for good or out for good.
        still = along == 0
        enter[still], leave[still] = np.where((a >= low) & (a <= high), (-np.inf), np.inf)[still], np.inf
        start, stop = max(0.0, *enter), min(1.0, *leave)
        if start < stop:
            found.append(np.array([a + along * start, a + along * stop]))
    return found


def dashes(points: np.ndarray, on: float, off: float) -> np.ndarray:
    """Straight pieces (n, 2, 2) of a dashed line through points (k, 2), many times quicker to paint than a pen that dashes by itself."""
    run, step = np.zeros(len(points)), points[1:] - points[:-1]
    np.cumsum(np.hypot(step[:, 0], step[:, 1]), out=run[1:])
    starts = np.arange(0.0, run[-1], on + off)
    at = starts[:, None] + (0.0, on)
    found = np.empty((len(starts), 2, 2))
    # Past its end a line stays at its end.
    found[..., 0], found[..., 1] = np.interp(at, run, points[:, 0]), np.interp(at, run, points[:, 1])
    return found


def _ring(painter: QPainter, item: Ring, scale: Scale, theme: Theme) -> None:
    radius = max(item.radius * scale.px, 3.6)
    painter.setPen(QPen(theme.color("ink"), 1.5))
    painter.setBrush(theme.color("ground"))
    painter.drawEllipse(scale.at(item.at), radius, radius)


def arrow_start(item: Arrow, scale: Scale) -> QPointF:
    """Tail of a load arrow: longer for more newtons, between 26 and 90 px."""
    length = 26 + min(64.0, item.newtons * 0.4)
    return scale.at(item.at) + QPointF(item.direction[0], -item.direction[1]) * length


def _arrow(painter: QPainter, item: Arrow, scale: Scale, theme: Theme) -> None:
    start, end = scale.at(item.at), arrow_start(item, scale)
    painter.setPen(QPen(theme.color("water"), 2, cap=Qt.PenCapStyle.RoundCap))
    painter.drawLine(start, end)
    along = (end - start) / max(1e-9, math.hypot((end - start).x(), (end - start).y()))
    side = QPointF(-along.y(), along.x())
    painter.setBrush(theme.color("water"))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.drawPolygon(QPolygonF([end + along * 2, end - along * 7 + side * 4, end - along * 7 - side * 4]))


def size_line(item: Size, scale: Scale) -> tuple[QPointF, QPointF]:
    """Ends of a size line on the stage."""
    a, b = np.asarray(item.a), np.asarray(item.b)
    along = (b - a) / max(float(np.linalg.norm(b - a)), 1e-12)
    shift = np.array([-along[1], along[0]]) * item.offset
    return scale.at(tuple(a + shift)), scale.at(tuple(b + shift))


def paint_size(painter: QPainter, item: Size, scale: Scale, theme: Theme, pill: QRectF) -> None:
    """Thin line with end dots, tails to what it measures, a leader where the pill had to move away."""
    a, b = size_line(item, scale)
    painter.setPen(QPen(theme.color("muted"), 1))
    if item.offset:
        painter.setPen(QPen(theme.color("muted", 110), 1, Qt.PenStyle.DotLine))
        painter.drawLine(scale.at(item.a), a)
        painter.drawLine(scale.at(item.b), b)
    color = theme.color("lantern" if item.key else "muted")
    painter.setPen(QPen(color, 1.1))
    painter.drawLine(a, b)
    middle = (a + b) / 2
    if not pill.adjusted(-6, -6, 6, 6).intersects(QRectF(a, b).normalized().adjusted(-1, -1, 1, 1)):
        painter.setPen(QPen(color, 0.8, Qt.PenStyle.DotLine))
        painter.drawLine(middle, pill.center())
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(color)
    for end in (a, b):
        painter.drawEllipse(end, 2.6, 2.6)
