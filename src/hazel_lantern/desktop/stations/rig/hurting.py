"""What hurts most: bars for the inputs that move the worst finding most; pressing one goes to the input."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.advice.hurts import Hurt, what_hurts, worst_finding
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.words import within
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.words import Label
from hazel_lantern.session.jobs import Job
from hazel_lantern.session.session import Session

SHOWN, ROW, NAME, SAID = 6, 22, 250, 120  # bars; px at 100 %


class Hurting(QWidget):
    """`button` stands wherever it fits; the bars open here."""

    picked = pyqtSignal(str)

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self._session = session
        self._of: object = None
        self._title = ""
        self.job = Job(self)
        self.job.stepped.connect(self._stepped)
        self.job.failed.connect(lambda error: self._tell(str(error)))
        self.button = QPushButton("What hurts most")
        self.button.setObjectName("hurts.go")
        self.button.setToolTip("Which inputs move the worst finding most")
        self.button.clicked.connect(lambda _=False: self.go())
        self._says = Label("")
        self._says.setObjectName("hurts.says")
        self._says.setFont(theme.font(12))
        self._says.setWordWrap(True)
        theme.ink(self._says, "muted")
        self.bars = Bars(theme)
        self.bars.picked.connect(self.picked)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(2))
        column.addWidget(self._says)
        column.addWidget(self.bars)
        self.hide()

    def refresh(self) -> None:
        """What was worked out of a rig as it was is put away."""
        of = (self._session.document, self._session.rig_id, self._session.shot_id)
        if of != self._of:
            self._of = of
            self.job.cancel()
            self.hide()

    def go(self) -> None:
        """Work it out, or put it away."""
        if not self.isHidden():
            self.job.cancel()
            self.hide()
            return
        session, result = self._session, self._session.evaluation
        finding = worst_finding(result) if result is not None else None
        self.bars.show_hurts(())
        if finding is None:
            self._tell("No finding here has a number.")
            return
        self._title = within(finding.title)
        self._tell(f"Moving each input by a tenth, to see what it does to {self._title}…")
        project, shelf, rig, shot = session.document, session.catalogue, session.rig_id, session.shot_id
        self.job.start(lambda: what_hurts(project, shelf, rig, shot, finding))

    def _tell(self, words: str) -> None:
        self._says.setText(words)
        self.show()

    def _stepped(self, step: Progress[tuple[Hurt, ...]]) -> None:
        found = step.answer or ()
        self.bars.show_hurts(found[:SHOWN])
        if step.done < step.total:
            self._says.setText(f"{step.done} of {step.total} inputs moved, to see what they do to {self._title}…")
        elif found:
            self._says.setText(f"What a tenth more (bar) or less (line) of each does to {self._title}:")
        else:
            self._says.setText(f"No number by itself moves {self._title}: it hangs on what was chosen.")


class Bars(QWidget):
    """To the right it grows worse, to the left better."""

    picked = pyqtSignal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._hurts: tuple[Hurt, ...] = ()
        self.setObjectName("hurts.bars")
        self.setAccessibleName("What moves the worst finding most")
        self.show_hurts(())

    def show_hurts(self, hurts: tuple[Hurt, ...]) -> None:
        self._hurts = hurts
        self.setFixedHeight(self._theme.px(ROW) * len(hurts))
        self.setAccessibleDescription("; ".join(f"{one.label}: {_said(one)}" for one in hurts))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if not self._hurts:
            return
        painter, theme, px = QPainter(self), self._theme, self._theme.px
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        middle, half = (px(NAME) + self.width() - px(SAID)) / 2, (self.width() - px(NAME + SAID)) / 2 - px(8)
        most = self._hurts[0].most
        painter.setPen(QPen(theme.color("line"), 1))
        painter.drawLine(int(middle), 0, int(middle), self.height())
        painter.setFont(theme.font(12, numbers=True))
        for n, one in enumerate(self._hurts):
            top, high = n * px(ROW), px(ROW)
            painter.setPen(theme.color("ink"))
            name = painter.fontMetrics().elidedText(one.label, Qt.TextElideMode.ElideRight, px(NAME - 8))
            painter.drawText(QRectF(0, top, px(NAME), high), Qt.AlignmentFlag.AlignVCenter, name)
            painter.drawText(
                QRectF(self.width() - px(SAID), top, px(SAID), high),
                Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
                _said(one),
            )
            for move, share in ((one.more, 0.55), (one.less, 0.14)):
                if move is not None:
                    long, thick = move / most * half, high * share
                    painter.setPen(Qt.PenStyle.NoPen)
                    painter.setBrush(theme.color("stop" if move > 0 else "clear"))
                    painter.drawRect(QRectF(middle, top + (high - thick) / 2, long, thick).normalized())

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self._hurts:
            n = int(event.position().y() // self._theme.px(ROW))
            if 0 <= n < len(self._hurts):
                self.picked.emit(self._hurts[n].key)


def _said(one: Hurt) -> str:
    """`+10 %: +13 %`, or what a tenth less does where a tenth more cannot be."""
    move, by = (one.more, "+") if one.more is not None else (one.less, "−")
    return f"{by}10 %: {move * 100:+.1f} %".replace("-", "−") if move is not None else ""
