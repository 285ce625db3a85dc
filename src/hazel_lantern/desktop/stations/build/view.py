"""Build: bars to cut and one part to mark out, to scale, in the whole centre."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRect, QRectF, QSizeF, Qt
from PyQt6.QtGui import QBrush, QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QFrame, QScrollArea, QWidget

from hazel_lantern.core.workshop.marks import runs
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.core.workshop.plan import SectionPlan
from hazel_lantern.core.workshop.solids import END, Sheet
from hazel_lantern.desktop.stage.labels import place
from hazel_lantern.desktop.stage.painter import HATCH
from hazel_lantern.desktop.stations.build.plate import paint_plate
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.session.session import Session

NARROW = 480  # px at 100 %: below it words that stood side by side stand in two lines


class BuildView(QWidget):
    """Click a cut, or step with the arrow keys, to mark that part out below."""

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("build-view")
        self._session, self._theme = session, theme
        self._chosen = 0
        self._spots: list[tuple[QRectF, str]] = []
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.refresh()

    def refresh(self) -> None:
        result = self._session.evaluation
        parts = result.parts if result else ()
        self._chosen = min(self._chosen, max(0, len(parts) - 1))
        if parts:
            self.setAccessibleName(f"Cutting plan, marking out {parts[self._chosen].mark} {parts[self._chosen].name}")
        self._fit()
        self.update()

    def _fit(self) -> None:
        """High enough for all bars and the part marked out; whoever shows it scrolls where there is less room."""
        px, result = self._theme.px, self._session.evaluation
        narrow = self.width() < px(NARROW)
        rows = sum(len(made.plan.bars) if made.plan else 1 for made in result.cuts) if result else 0
        self.setMinimumHeight(px(58 + 172) + rows * px(68 if narrow else 50) + (px(80) if narrow else 0))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._fit()

    def _parts(self) -> tuple[Part, ...]:
        return self._session.evaluation.parts if self._session.evaluation else ()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme = QPainter(self), self._theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), theme.color("ground"))
        result = self._session.evaluation
        self._spots = []
        if result is None or not result.parts:
            painter.setPen(theme.color("muted"))
            painter.setFont(theme.font(14))
            why = result.findings[0].sentence.text(self._session.display) if result and result.findings else ""
            painter.drawText(
                self.rect().adjusted(60, 60, -60, -60),
                Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap,
                f"Nothing to cut yet. {why}",
            )
            return
        plans = result.cuts
        px = theme.px
        left, right = px(22), self.width() - px(22)
        done = [made.plan for made in plans if made.plan]
        cost, bound = sum(p.cost for p in done), sum(p.bound for p in done)
        show = self._session.display
        searching = " while the cheapest is searched" if self._session.cuts.searching == result.order else ""
        kind = "cheapest plan" if all(p.status == "optimal" for p in done) else "quick plan" + searching
        aside = (
            f"saw cut {show.text(self._session.project.kerf_m, 'm', fine=True)} · {kind} "
            f"{show.text(cost, 'currency')}, least possible {show.text(bound, 'currency')}"
        )
        y = self._heading(painter, left, right, px(14), "Cut from stock", aside)
        rows = sum(len(made.plan.bars) if made.plan else 1 for made in plans)
        tall = min(px(64), max(px(50), (self.height() - y - px(376)) / max(rows, 1)))
        for made in plans:
            y = self._section(painter, made, left, right, y, tall)
        painter.setPen(QPen(theme.color("line"), 1.5))
        painter.drawLine(QPointF(0, y + 2), QPointF(self.width(), y + 2))
        parts, y = result.parts, y + px(12)
        for index in range(len(parts)):
            if index and y + px(172) > self.height():
                break
            self._mark_out(painter, left, right, y, parts[(self._chosen + index) % len(parts)])
            y += px(176)

    def _heading(self, painter: QPainter, left: float, right: float, y: float, words: str, aside: str) -> float:
        theme = self._theme
        painter.setPen(theme.color("ink"))
        painter.setFont(theme.font(15, weight=700))
        line, used = (
            QRectF(left, y, right - left, theme.px(24)),
            painter.fontMetrics().horizontalAdvance(words) + theme.px(16),
        )
        painter.drawText(line, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, words)
        painter.setPen(theme.color("muted"))
        painter.setFont(theme.font(12))
        metrics = painter.fontMetrics()
        # Where both do not fit side by side, the second goes below, in as many lines as it takes.
        if used + metrics.horizontalAdvance(aside) <= line.width():
            painter.drawText(line, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, aside)
            return y + theme.px(32)
        below = metrics.boundingRect(
            QRect(0, 0, int(line.width()), theme.px(90)), Qt.TextFlag.TextWordWrap, aside
        ).height()
        painter.drawText(QRectF(left, line.bottom(), line.width(), below), Qt.TextFlag.TextWordWrap, aside)
        return line.bottom() + below + theme.px(8)

    def _section(self, painter: QPainter, made: SectionPlan, left: float, right: float, y: float, tall: float) -> float:
        theme, show = self._theme, self._session.display
        if made.plan is None:
            painter.setPen(theme.color("stop"))
            painter.setFont(theme.font(12.5))
            painter.drawText(
                QRectF(left, y, right - left, tall), Qt.AlignmentFlag.AlignLeft, f"{made.name}: {made.trouble}"
            )
            return y + tall
        longest = max(
            stock.length
            for plan in (self._session.evaluation.cuts if self._session.evaluation else ())
            for stock in plan.stocks
        )
        for bar, marks in zip(made.plan.bars, made.marks(self._parts()), strict=True):
            stock = made.stocks[bar.stock]
            painter.setFont(theme.font(12))
            painter.setPen(theme.color("muted"))
            line = QRectF(left, y, right - left, theme.px(18))
            words = (
                f"{show.text(stock.length, 'm', fine=True)} · {stock.name} · left over {show.text(bar.leftover, 'm')}"
            )
            painter.drawText(line, Qt.AlignmentFlag.AlignLeft, made.name)
            if sum(map(painter.fontMetrics().horizontalAdvance, (made.name, words))) + theme.px(10) > line.width():
                y += theme.px(18)
                line.translate(0, theme.px(18))
            painter.drawText(line, Qt.AlignmentFlag.AlignRight, words)
            scale = (right - left) / longest
            box = QRectF(left, y + theme.px(19), stock.length * scale, tall - theme.px(27))
            painter.setPen(QPen(theme.color("muted"), 1, Qt.PenStyle.DashLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(box, 3, 3)
            x = left
            for cut, mark in zip(bar.cuts, marks, strict=True):
                piece = QRectF(x, box.top(), cut * scale, box.height())
                self._piece(painter, piece, made.fill, mark, show.number(cut, "m", fine=True))
                x += (cut + self._session.project.kerf_m) * scale
            y += tall
        return y

    def _piece(self, painter: QPainter, box: QRectF, fill: str, mark: str, length: str) -> None:
        theme = self._theme
        parts = self._parts()
        part = next(p for p in parts if p.mark == mark)
        chosen = parts[self._chosen].mark == mark
        color = theme.color(fill)
        painter.setPen(QPen(theme.color("lantern"), 2.4) if chosen else QPen(color.darker(160), 1))
        painter.setBrush(color)
        painter.drawRoundedRect(box, 3, 3)
        if fill in HATCH:
            shade = color.darker(135)
            shade.setAlpha(60)
            painter.fillRect(box.adjusted(2, 2, -2, -2), QBrush(shade, HATCH[fill]))
        painter.setPen(theme.color("ground" if theme.tokens.name == "dusk" else "ink"))
        painter.setFont(theme.font(12.5, weight=700))
        metrics = QFontMetricsF(painter.font())
        inner = box.adjusted(8, 0, -8, 0)
        name = f"{mark} {part.name.lower()}"
        room = inner.width() - metrics.horizontalAdvance(length) - 12
        words = name if metrics.horizontalAdvance(name) < room else mark
        painter.drawText(inner, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, words)
        if metrics.horizontalAdvance(words) + metrics.horizontalAdvance(length) + 12 < inner.width():
            painter.setFont(theme.font(12.5, weight=600, numbers=True))
            painter.drawText(inner, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, length)
        self._spots.append((box, mark))

    def _mark_out(self, painter: QPainter, left: float, right: float, y: float, part: Part) -> None:
        theme, show = self._theme, self._session.display
        aside = f"measure every mark from {part.from_datum}" + (f" · {part.matched}" if part.matched else "")
        y = self._heading(painter, left, right, y, f"Mark out {part.mark}: {part.name.lower()}", aside)
        if isinstance(part.solid, Sheet):
            paint_plate(painter, theme, show, QRectF(left, y, right - left, theme.px(128)), part, part.solid)
            return
        bar = QRectF(left, y + theme.px(14), right - left, theme.px(44))
        scale = bar.width() / part.length
        color = theme.color(part.material)
        painter.setPen(QPen(color.darker(150), 1))
        painter.setBrush(color)
        painter.drawRect(bar)
        painter.setPen(QPen(theme.color("ink"), 3))
        painter.drawLine(QPointF(left, bar.top() - 8), QPointF(left, bar.bottom() + 14))
        painter.setFont(theme.font(12))
        small, big = theme.font(12), theme.font(13, weight=700, numbers=True)
        wanted, texts = [], []
        for run in runs(part.marks):
            mark, last = run.marks[0], run.marks[-1]
            until = last.at if run.pitch else mark.until
            start, across = part.spot(mark)
            x = left + start * scale
            end = left + (until or start) * scale
            level = bar.bottom() - across / part.width(mark.face) * bar.height()
            middle = (x + end) / 2
            painter.setPen(QPen(theme.color("ink"), 1.5))
            painter.setBrush(theme.color("ground"))
            if mark.until is not None:
                painter.drawRoundedRect(QRectF(x, level - 5, end - x, 10), 5, 5)
            else:
                for hole in run.marks:
                    painter.drawEllipse(QPointF(left + part.spot(hole)[0] * scale, level), 5.5, 5.5)
            at = (
                "end"
                if mark.face == END
                else show.number(mark.at, "m", fine=True)
                + (f"–{show.number(until, 'm', fine=True)}" if until is not None else "")
            )
            if mark.across is not None:
                at += f" × {show.number(mark.across, 'm', fine=True)}"
            what = ("slot " if mark.until is not None else "ø") + show.number(mark.size, "m", fine=True)
            if run.pitch:
                what = f"{len(run.marks)} × {what} every {show.number(run.pitch, 'm', fine=True)}"
            what += f", {mark.face}" if len(part.faces) > 1 else ""
            wide = (
                max(
                    QFontMetricsF(big).horizontalAdvance(at),
                    QFontMetricsF(small).horizontalAdvance(what),
                    QFontMetricsF(small).horizontalAdvance(mark.note),
                )
                + 10
            )
            wanted.append((QSizeF(wide, theme.px(50)), [QPointF(middle, bar.bottom() + theme.px(33))]))
            texts.append((QPointF(middle, level), at, what, mark.note))
        area = QRectF(
            left - theme.px(14), bar.top() - theme.px(12), right - left + theme.px(28), bar.height() + theme.px(84)
        )
        for box, (spot, at, what, note) in zip(place(wanted, area, [bar.adjusted(0, -4, 0, 4)]), texts, strict=True):
            above = box.center().y() < bar.center().y()
            painter.setPen(QPen(theme.color("ink"), 1))
            # A label that had to give way is reached aslant.
            near = min(max(spot.x(), box.left() + 4), box.right() - 4)
            painter.drawLine(
                QPointF(spot.x(), spot.y() + (-6 if above else 6)),
                QPointF(near, box.bottom() - 1 if above else box.top() + 1),
            )
            painter.fillRect(box, theme.color("ground"))
            painter.setFont(big)
            painter.setPen(theme.color("ink"))
            painter.drawText(QRectF(box.left(), box.top(), box.width(), theme.px(18)), Qt.AlignmentFlag.AlignCenter, at)
            painter.setFont(small)
            painter.setPen(theme.color("muted"))
            painter.drawText(
                QRectF(box.left(), box.top() + theme.px(17), box.width(), theme.px(16)),
                Qt.AlignmentFlag.AlignCenter,
                what,
            )
            painter.drawText(
                QRectF(box.left(), box.top() + theme.px(32), box.width(), theme.px(16)),
                Qt.AlignmentFlag.AlignCenter,
                note,
            )

    def choose(self, index: int) -> None:
        """Mark out another part."""
        self._chosen = index % max(1, len(self._parts()))
        self.refresh()

    @property
    def chosen(self) -> str:
        return self._parts()[self._chosen].mark

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self.setFocus()
        for box, mark in self._spots:
            if box.contains(event.position()):
                self.choose([p.mark for p in self._parts()].index(mark))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        steps = {Qt.Key.Key_Right: 1, Qt.Key.Key_Down: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Up: -1}
        key = Qt.Key(event.key())
        if key in steps:
            self.choose(self._chosen + steps[key])
        else:
            super().keyPressEvent(event)


class BuildPage(QScrollArea):
    """The cutting plan, to be scrolled where there is less room than it needs."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.view = BuildView(session, theme)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setWidgetResizable(True)
        self.setWidget(self.view)
