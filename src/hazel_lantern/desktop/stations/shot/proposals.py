"""Rigs that can do it: every construction solved for the shot, as small true drawings under the plan, best first."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QFontMetricsF, QKeyEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QAbstractButton, QFrame, QHBoxLayout, QPushButton, QScrollArea, QVBoxLayout, QWidget

from hazel_lantern.core.advice.proposals import Proposal, proposals
from hazel_lantern.core.kinds import DECLARED
from hazel_lantern.core.nouns.finding import CLEAR, STOP, WATCH
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.sketch import BODY, Ring, Shape, Sketch, Stroke
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.stage.painter import paint_sketch
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.flow import Flow
from hazel_lantern.desktop.widgets.glyphs import NAMES, ROLES, paint_lantern
from hazel_lantern.desktop.widgets.words import Label, tip
from hazel_lantern.session.jobs import Job
from hazel_lantern.session.session import Session

TRY_DELAY = 500
WIDE, HIGH, DRAWN = 152, 126, 58


class Proposals(QWidget):
    """A strip of cards, tried anew when shot, set or kit changed; pressing one adds it to the project."""

    taken = pyqtSignal(object)
    why_wanted = pyqtSignal(str)
    failed = pyqtSignal(str)

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session, self._theme = session, theme
        self.setFixedHeight(theme.px(HIGH + 44))
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 5, 10, 4)
        column.setSpacing(3)
        top = QWidget()
        head = Flow(top, theme.px(8))
        title, self._said = Label("Rigs that can do it"), Label("Trying them…")
        title.setFont(theme.font(13, weight=700))
        theme.ink(title, "lantern")
        self._said.setFont(theme.font(12))
        theme.ink(self._said, "muted")
        self._why = QPushButton("why the others cannot")
        self._why.setProperty("flat", True)
        self._why.setObjectName("proposals.why")
        self._why.clicked.connect(lambda _=False: self.why_wanted.emit(self.reasons))
        self._why.hide()
        head.addWidget(title)
        head.addWidget(self._said)
        head.addWidget(self._why)
        column.addWidget(top)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setFrameShape(QFrame.Shape.NoFrame)
        area.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setObjectName("bench")
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        inner = QWidget()
        self._cards = QHBoxLayout(inner)
        self._cards.setContentsMargins(0, 0, 0, 0)
        self._cards.setSpacing(6)
        self._cards.addStretch(1)
        area.setWidget(inner)
        column.addWidget(area, 1)
        self.reasons = ""
        self.job = Job(self)
        self.job.stepped.connect(self._stepped)
        self.job.failed.connect(lambda error: self.failed.emit(f"Rigs could not be tried: {error}"))
        self._tried: object = None
        self._wait = QTimer(self)
        self._wait.setSingleShot(True)
        self._wait.setInterval(TRY_DELAY)
        self._wait.timeout.connect(self._try)

    def refresh(self) -> None:
        """They are tried again when what they are tried on changed."""
        session = self._session
        if not session.rig_id:
            return
        project, shot = session.shown, session.shot
        kit = project.kit_of(project.rig(session.rig_id))
        wanted = (shot, project.set_of(shot), kit, project.plates, project.stock)
        if wanted != self._tried:
            self._tried = wanted
            self.job.cancel()
            self._wait.start()

    def _try(self) -> None:
        session = self._session
        project, shelf, rig, shot = session.shown, session.catalogue, session.rig_id, session.shot_id
        if rig:
            self.job.start(lambda: proposals(project, shelf, rig, shot))

    def _stepped(self, step: Progress[tuple[Proposal, ...]]) -> None:
        """How far it is; the cards when all were tried, so that none jumps under the hand."""
        if step.done < step.total:
            self._said.setText(f"{step.done} of {step.total} tried…")
            return
        found = step.answer or ()
        while self._cards.count() > 1:
            widget = self._cards.takeAt(0).widget()
            if widget is not None:
                widget.deleteLater()
        able = [proposal for proposal in found if proposal.evaluation is not None]
        for n, proposal in enumerate(able):
            card = ProposalCard(self._session, self._theme, proposal, best=n == 0)
            card.clicked.connect(lambda _=False, proposal=proposal: self.taken.emit(proposal))
            self._cards.insertWidget(n, card)
        self.reasons = _reasons(found, self._session.display)
        cannot = len(found) - len(able)
        self._said.setText("press one to add it to the project" if able else "none can, as it is")
        self._why.setText(f"why {cannot} cannot")
        self._why.setToolTip(tip(self.reasons))
        self._why.setVisible(cannot > 0)

    def finish(self) -> None:
        """Stop what works in the background."""
        self._wait.stop()
        self.job.finish()


def _reasons(found: tuple[Proposal, ...], show: Display) -> str:
    """One line for each reason: the kind where it holds for all its constructions, else those it holds for."""
    refused: dict[str, list[Proposal]] = {}
    for p in found:
        if p.evaluation is None:
            refused.setdefault(p.reason.text(show), []).append(p)
    lines = []
    for reason, those in refused.items():
        names: list[str] = []
        for p in those:
            whole = sum(q.kind == p.kind for q in those) == len(DECLARED[p.kind].variants)
            name = DECLARED[p.kind].name if whole else p.name
            names += [name] if name not in names else []
        lines.append(f"{', '.join(names)}: {reason[:1].lower()}{reason[1:]}")
    return "\n".join(lines)


class ProposalCard(QAbstractButton):
    """A small true drawing with headline sizes, mass, cost and the worst finding."""

    def __init__(
        self, session: Session, theme: Theme, proposal: Proposal, *, best: bool, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        assert proposal.evaluation is not None
        self._theme, self._proposal, self._best = theme, proposal, best
        show, result = session.display, proposal.evaluation
        self._sketch = small(result.draw(0.5, result.kind.views[0].key))
        sizes = result.headline("rig", show).split(", ")[-1]
        mass, cost = show.text(proposal.amount("rig.mass"), "kg"), show.text(proposal.amount("build.cost"), "currency")
        # Findings come worst first.
        stops, worst = sum(f.state == STOP for f in result.findings), result.findings[0]
        solve = f"{stops} to solve: " if stops else "watch: " if worst.state == WATCH else ""
        said = f"{solve}{worst.title[:1].lower()}{worst.title[1:]}" if solve else "all clear"
        kind = DECLARED[proposal.kind]
        self._name = f"{kind.name}, {kind.short.get(proposal.variant, proposal.variant)}"
        self._lines, self._worst = (f"{sizes}", f"{mass} · {cost}"), said.split(": ")[-1]
        self.setObjectName(f"proposal.{proposal.kind}.{proposal.variant}")
        self.setAccessibleName(f"{proposal.name}, {sizes}, {mass}, {cost}, {said}, {NAMES[proposal.state]}")
        self.setToolTip(
            tip(f"{proposal.name}. {said}. {worst.sentence.text(show)}\nPress to add this rig to the project.")
            if solve
            else tip(f"{proposal.name}. Press to add this rig to the project.")
        )
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFixedSize(theme.px(WIDE), theme.px(HIGH))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme, px = QPainter(self), self._theme, self._theme.px
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        live = self.underMouse() or self.hasFocus()
        painter.setPen(theme.color("lantern" if live or self._best else "line"))
        painter.setBrush(theme.color("glow" if self._best else "raised"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8)
        area = QRectF(px(8), px(5), self.width() - px(16), px(DRAWN - 8))
        painter.save()
        painter.setClipRect(area)
        paint_sketch(painter, self._sketch, area, theme, {BODY})
        painter.restore()
        wide = self.width() - px(18)
        lines = [(self._name, theme.font(12.5, weight=700), "ink")]
        lines += [(line, theme.font(11.5, numbers=True), "muted") for line in self._lines]
        top = px(DRAWN - 2)
        for n, (text, font, role) in enumerate(lines):
            painter.setFont(font)
            painter.setPen(theme.color(role))
            short = QFontMetricsF(font).elidedText(text, Qt.TextElideMode.ElideRight, wide)
            painter.drawText(QRectF(px(9), top + n * px(16), wide, px(16)), Qt.AlignmentFlag.AlignVCenter, short)
        foot = top + len(lines) * px(16)
        state = self._proposal.state
        paint_lantern(painter, QRectF(px(8), foot + px(1), px(15), px(15)), state, theme)
        painter.setFont(theme.font(11.5))
        painter.setPen(theme.color(ROLES[state]) if state != CLEAR else theme.color("muted"))
        short = painter.fontMetrics().elidedText(self._worst, Qt.TextElideMode.ElideRight, round(wide - px(18)))
        painter.drawText(QRectF(px(27), foot, wide - px(18), px(17)), Qt.AlignmentFlag.AlignVCenter, short)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if Qt.Key(event.key()) in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.click()
        else:
            super().keyPressEvent(event)


def small(drawn: Sketch) -> Sketch:
    """What is solid in a drawing, framed close: a rig in the small."""
    kept = tuple(
        i
        for i in drawn.items
        if isinstance(i, (Shape, Stroke, Ring))
        and i.layer == BODY
        and i.role not in ("view", "person", "path", "sweep")
    )
    points = [point for i in kept if isinstance(i, (Shape, Stroke)) for point in i.points.tolist()]
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    return Sketch(kept, (min(xs), min(0.0, *ys), max(xs), max(ys)), ground=False)
