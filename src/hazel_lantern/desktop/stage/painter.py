"""From a sketch to marks that can be painted: metres to pixels, roles to colours."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import reduce
from itertools import pairwise
from typing import Any

import numpy as np
from msgspec import Struct
from PyQt6.QtCore import QLineF, QPointF, QRect, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QImage, QPainter, QPen, QPolygonF, QTransform

from hazel_lantern.core.nouns.sketch import GHOST, Arrow, Item, Lines, Ring, Shape, Size, Sketch, Stroke
from hazel_lantern.desktop.theme.theme import Theme

HAIR = 1.0  # px; a soft-edged line of just this width paints several times quicker than one a little wider
THIN = 2.4
DOT = 2.6  # px radius at the ends of a size line
COUNTED = QRectF(-1e6, -1e6, 2e6, 2e6)  # px; ground seen through a long lens runs on far beyond whole numbers
PAINTED = (Shape, Stroke, Lines, Ring, Arrow)
LONG = 3000.0  # px of a dashed line from which only what shows of it is dashed
HATCH = {
    "wood": Qt.BrushStyle.HorPattern,
    "steel": Qt.BrushStyle.BDiagPattern,
    "plastic": Qt.BrushStyle.Dense7Pattern,
    "rope": Qt.BrushStyle.DiagCrossPattern,
}
MATERIALS = ("wood", "aluminium", "steel", "plastic", "rope", "camera", "lens", "weight")
LINES = {"path": "lantern", "sweep": "muted", "footing": "muted", "floor-line": "line"}
VIEW_ALPHA, FADE = 60, 256
FLAT = ("person", "person-head", "sky", "floor")
SOFT = {"thirds": ("ink", 60), "frame-line": ("lantern", 170)}


class Ink(Struct, frozen=True):
    """What a role is painted with: its fill, the edge of a full shape, the edge that carries a thin one, its
    hatching.
    """

    fill: QBrush
    edge: QPen
    thin: QPen
    hatch: QBrush | None

    @classmethod
    def of(cls, role: str, theme: Theme) -> Ink:
        color = theme.color(role)
        shade = color.darker(150)
        shade.setAlpha(90)
        return cls(
            QBrush(color),
            QPen(color.darker(165), HAIR),
            QPen(color, THIN),
            QBrush(shade, HATCH[role]) if role in HATCH else None,
        )


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


GRIDS = {
    "mm": (0.1, 0.25, 0.5, 1.0, 2.0, 5.0, 10.0),
    "in": tuple(feet * 0.3048 for feet in (0.25, 0.5, 1, 2, 5, 10, 30)),
}


def paint_ground(
    painter: QPainter, area: QRectF, scale: Scale, theme: Theme, *, ground: bool, system: str = "mm"
) -> None:
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


class Coat(Struct, frozen=True):
    """One go with a pen and a brush: a method of the painter and what it is given."""

    pen: QPen | QColor | Qt.PenStyle
    brush: QBrush | QColor | Qt.BrushStyle
    how: Callable[..., None]
    what: tuple[Any, ...]


class Mark(Struct, frozen=True):
    """Something in pixels, ready to be painted: the pixels it may touch, and its coats, undermost first."""

    bounds: QRect
    coats: tuple[Coat, ...]
    opacity: float = 1.0

    @classmethod
    def of(cls, box: QRectF, *coats: Coat, width: float = 0.0, opacity: float = 1.0) -> Mark:
        """A mark with lines of a width around a box."""
        grow = width / 2 + 1
        return cls((box.adjusted(-grow, -grow, grow, grow) & COUNTED).toAlignedRect(), coats, opacity)

    def paint(self, painter: QPainter) -> None:
        for coat in self.coats:
            painter.setPen(coat.pen)
            painter.setBrush(coat.brush)
            coat.how(painter, *coat.what)


def shown(sketch: Sketch, layers: set[str]) -> list[Item]:
    """What of a sketch is painted: everything on these layers but labels and handles, which are widgets."""
    return [item for item in sketch.items if isinstance(item, PAINTED) and item.layer in layers]


def paint_sketch(painter: QPainter, sketch: Sketch, area: QRectF, theme: Theme, layers: set[str]) -> None:
    """A sketch as large as an area allows, painted once."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    scale = fit(sketch.box, area)
    for item in shown(sketch, layers):
        made = mark(item, scale, theme, area)
        painter.setOpacity(made.opacity)
        made.paint(painter)
    painter.setOpacity(1.0)


def mark(item: Item, scale: Scale, theme: Theme, area: QRectF) -> Mark:
    """An item of a sketch in pixels; the area is what can be seen of them at all."""
    match item:
        case Shape():
            return _shape(item, scale, theme)
        case Stroke():
            return _stroke(item, scale, theme, area)
        case Lines():
            return _lines(
                item.points * (scale.px, -scale.px) + (scale.x, scale.y), QPen(_line_color(item.role, theme), HAIR)
            )
        case Ring():
            return _ring(item, scale, theme)
        case Arrow():
            return _arrow(item, scale, theme)
    raise TypeError(f"{type(item).__name__} is not painted")


def _line_color(role: str, theme: Theme) -> QColor:
    return theme.color(*SOFT.get(role, (LINES.get(role, role),)))


def _shape(item: Shape, scale: Scale, theme: Theme) -> Mark:
    outline = scale.line(item.points)
    pen: QPen | Qt.PenStyle = Qt.PenStyle.NoPen
    brush: QBrush | QColor = (
        theme.color("person" if item.role == "person-head" else item.role) if item.role in FLAT else QBrush()
    )
    hatch: list[Coat] = []
    if item.role == "view":
        return _view(outline, theme)
    if item.role == "footing":
        pen, brush = QPen(theme.color("muted"), HAIR, Qt.PenStyle.DashLine), theme.color("person", 90)
    elif item.role == "person-head":
        pen = QPen(theme.color("muted"), HAIR)
    elif item.role not in FLAT:
        ink = theme.kept(("ink", item.role), lambda: Ink.of(item.role, theme))
        # Thin bars keep a line's width on screen; the edge in their own fill carries it.
        size = outline.boundingRect()
        thin = min(size.width(), size.height()) < THIN
        pen, brush = ink.thin if thin else Qt.PenStyle.NoPen if item.layer == GHOST else ink.edge, ink.fill
        if ink.hatch is not None and item.layer != GHOST:
            hatch = [Coat(Qt.PenStyle.NoPen, ink.hatch, QPainter.drawPolygon, (outline,))]
    return Mark.of(
        outline.boundingRect(),
        Coat(pen, brush, QPainter.drawPolygon, (outline,)),
        *hatch,
        width=THIN,
        opacity=_opacity(item),
    )


def _view(outline: QPolygonF, theme: Theme) -> Mark:
    """What the lens sees. It has faded away half-way out: nothing beyond is worth filling. The fade is a strip
    stretched along it, since gradients come out weaker now and then.
    """
    eye = outline[0]
    seen = QPolygonF([eye, *(eye + (outline[k] - eye) * 0.55 for k in (1, 2))])
    along = QLineF(eye, (seen[1] + seen[2]) / 2)
    brush = QBrush(theme.kept("fade", lambda: _fade(theme)))
    brush.setTransform(
        QTransform.fromTranslate(eye.x(), eye.y())
        .rotate(-along.angle())
        .scale(1.01 * max(along.length(), 1e-3) / FADE, 1.0)
    )
    return Mark.of(seen.boundingRect(), Coat(Qt.PenStyle.NoPen, brush, QPainter.drawPolygon, (seen,)), width=THIN)


def _fade(theme: Theme) -> QImage:
    """From the colour of the view to nothing, in a strip."""
    strip = QImage(FADE, 1, QImage.Format.Format_ARGB32_Premultiplied)
    for k in range(FADE):
        strip.setPixelColor(k, 0, theme.color("lantern", max(0, round(VIEW_ALPHA * (1 - 1.01 * k / (FADE - 3))))))
    return strip


def _opacity(item: Shape | Stroke) -> float:
    return 0.28 if item.layer == GHOST else 1.0


def _stroke(item: Stroke, scale: Scale, theme: Theme, area: QRectF) -> Mark:
    color = _line_color(item.role, theme)
    if not item.dash:
        width = max(item.width * scale.px, THIN if item.width else 1.6)
        pen = QPen(color, width, cap=Qt.PenCapStyle.RoundCap, join=Qt.PenJoinStyle.RoundJoin)
        line = scale.line(item.points)
        return Mark.of(
            line.boundingRect(),
            Coat(pen, Qt.BrushStyle.NoBrush, QPainter.drawPolyline, (line,)),
            width=width,
            opacity=_opacity(item),
        )
    # With a width of one and flat ends the pen itself is the quickest at dashing.
    pen = QPen(color, 2.0 if item.role == "path" else HAIR, cap=Qt.PenCapStyle.FlatCap)
    pen.setDashPattern((2.2, 2.6) if item.role == "path" else (5.0, 3.8))
    points = item.points * (scale.px, -scale.px) + (scale.x, scale.y)
    # A line that runs far out of the picture would have most of its dashes there.
    parts = [points] if np.abs(points[1:] - points[:-1]).sum() < LONG else in_sight(points, area)
    lines = [QPolygonF([QPointF(*point) for point in part.tolist()]) for part in parts]
    box = reduce(QRectF.united, (line.boundingRect() for line in lines), QRectF())
    return Mark.of(
        box,
        *(Coat(pen, Qt.BrushStyle.NoBrush, QPainter.drawPolyline, (line,)) for line in lines),
        width=pen.widthF(),
        opacity=_opacity(item),
    )


def _lines(pieces: np.ndarray, pen: QPen) -> Mark:
    """Straight pieces (n, 2, 2) [px]."""
    if not len(pieces):
        return Mark(QRect(), ())
    (left, top), (right, bottom) = pieces.min((0, 1)).tolist(), pieces.max((0, 1)).tolist()
    lines = [QLineF(*piece) for piece in pieces.reshape(-1, 4).tolist()]
    return Mark.of(
        QRectF(left, top, right - left, bottom - top),
        Coat(pen, Qt.BrushStyle.NoBrush, QPainter.drawLines, (lines,)),
        width=pen.widthF(),
    )


def in_sight(points: np.ndarray, area: QRectF) -> list[np.ndarray]:
    """The parts (2, 2) of a line through points (n, 2) that lie in an area, a little grown."""
    low, high = np.array([area.left(), area.top()]) - 4, np.array([area.right(), area.bottom()]) + 4
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


def _ring(item: Ring, scale: Scale, theme: Theme) -> Mark:
    radius, at = max(item.radius * scale.px, 3.6), scale.at(item.at)
    box = QRectF(at.x() - radius, at.y() - radius, 2 * radius, 2 * radius)
    return Mark.of(
        box,
        Coat(QPen(theme.color("ink"), 1.5), theme.color("ground"), QPainter.drawEllipse, (at, radius, radius)),
        width=1.5,
    )


def arrow_start(item: Arrow, scale: Scale) -> QPointF:
    """Tail of a load arrow: longer for more newtons, between 26 and 90 px."""
    length = 26 + min(64.0, item.newtons * 0.4)
    return scale.at(item.at) - QPointF(item.direction[0], -item.direction[1]) * length


def _arrow(item: Arrow, scale: Scale, theme: Theme) -> Mark:
    start, end, water = arrow_start(item, scale), scale.at(item.at), theme.color("water")
    along = (end - start) / max(1e-9, math.hypot((end - start).x(), (end - start).y()))
    side = QPointF(-along.y(), along.x())
    head = QPolygonF([end + along * 2, end - along * 7 + side * 4, end - along * 7 - side * 4])
    shaft = Coat(QPen(water, 2, cap=Qt.PenCapStyle.RoundCap), Qt.BrushStyle.NoBrush, QPainter.drawLine, (start, end))
    return Mark.of(
        head.boundingRect().united(_between(start, end)),
        shaft,
        Coat(Qt.PenStyle.NoPen, water, QPainter.drawPolygon, (head,)),
        width=2,
    )


def _between(a: QPointF, b: QPointF) -> QRectF:
    return QRectF(a, b).normalized()


def size_line(item: Size, scale: Scale) -> tuple[QPointF, QPointF]:
    """Ends of a size line on the stage."""
    a, b = np.asarray(item.a), np.asarray(item.b)
    along = (b - a) / max(float(np.linalg.norm(b - a)), 1e-12)
    shift = np.array([-along[1], along[0]]) * item.offset
    return scale.at(tuple(a + shift)), scale.at(tuple(b + shift))


def size_mark(item: Size, scale: Scale, theme: Theme, pill: QRectF) -> Mark:
    """Thin line with end dots, tails to what it measures, a leader where the pill had to move away."""
    a, b = size_line(item, scale)
    middle, color = (a + b) / 2, theme.color("lantern" if item.key else "muted")
    lines = [(QPen(color, HAIR), a, b)]
    if item.offset:
        tail = QPen(theme.color("muted", 110), 1, Qt.PenStyle.DotLine)
        lines = [(tail, scale.at(item.a), a), (tail, scale.at(item.b), b), *lines]
    if not pill.adjusted(-6, -6, 6, 6).intersects(_between(a, b).adjusted(-1, -1, 1, 1)):
        lines.append((QPen(color, 0.8, Qt.PenStyle.DotLine), middle, pill.center()))
    box = QPolygonF([end for _, *ends in lines for end in ends]).boundingRect()
    drawn = [Coat(pen, Qt.BrushStyle.NoBrush, QPainter.drawLine, (start, end)) for pen, start, end in lines]
    return Mark.of(
        box,
        *drawn,
        *(Coat(Qt.PenStyle.NoPen, color, QPainter.drawEllipse, (end, DOT, DOT)) for end in (a, b)),
        width=2 * DOT,
    )


def text_mark(box: QRectF, text: str, role: str, theme: Theme) -> Mark:
    """Words on a veil of the ground colour, in the painter's font."""
    veil = Coat(Qt.PenStyle.NoPen, Qt.BrushStyle.NoBrush, QPainter.fillRect, (box, theme.color("ground", 190)))
    return Mark.of(
        box,
        veil,
        Coat(theme.color(role), Qt.BrushStyle.NoBrush, QPainter.drawText, (box, Qt.AlignmentFlag.AlignCenter, text)),
    )
