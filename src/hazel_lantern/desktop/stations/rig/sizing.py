"""Sizes over the whole catalogue under the drawing of a rig: a few different good answers, and what each trades."""

from __future__ import annotations

import math

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.advice.proposals import Proposal
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.sizing.screen import COST, MASS, WANDER
from hazel_lantern.core.sizing.search import Answer, Dot, Sizes, Wish, size
from hazel_lantern.desktop.stations.prove.meaning import emptied
from hazel_lantern.desktop.stations.rig.hurting import Hurting
from hazel_lantern.desktop.stations.shot.proposals import ProposalCard
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.flow import Flow
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from hazel_lantern.desktop.widgets.words import Label
from hazel_lantern.session.jobs import Job
from hazel_lantern.session.session import Session

ASKED = (
    ("cost", Quantity("size.cost", "cost ≤", "currency", 0.0, 1e5, 0.0, "", "0 for no limit", "rig")),
    ("mass", Quantity("size.mass", "mass ≤", "kg", 0.0, 500.0, 0.0, "", "0 for no limit", "rig")),
    ("longest", Quantity("size.longest", "longest ≤", "m", 0.0, 20.0, 0.0, "", "0 for no limit", "rig")),
)
CHART = (230, 128)  # px


class Sizing(QWidget):
    """`said` is what was refused, in a sentence."""

    said = pyqtSignal(str)

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self._session, self._theme = session, theme
        self.sizes: Sizes | None = None
        self._of: object = None
        self.job = Job(self)
        self.job.stepped.connect(self._stepped)
        self.job.failed.connect(self._fail)
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(12), theme.px(5), theme.px(12), theme.px(5))
        column.setSpacing(theme.px(4))
        box = QWidget()
        line = Flow(box, theme.px(6))
        self._go = QPushButton("Size it over the catalogue")
        self._go.setObjectName("size.go")
        self._go.clicked.connect(lambda _=False: self.go())
        self._owned = QPushButton("only stuff at hand")
        self._owned.setObjectName("size.owned")
        self._owned.setProperty("chip", True)
        self._owned.setCheckable(True)
        line.addWidget(self._go)
        self._edits: dict[str, QuantityEdit] = {}
        for name, quantity in ASKED:
            edit = QuantityEdit(quantity, session.display)
            edit.setFixedWidth(theme.px(78))
            edit.show_value(0.0)
            pair = QWidget()
            both = QHBoxLayout(pair)
            both.setContentsMargins(0, 0, 0, 0)
            both.addWidget(self._label(quantity.label, "muted"))
            both.addWidget(edit)
            line.addWidget(pair)
            self._edits[name] = edit
        line.addWidget(self._owned)
        self.hurting = Hurting(session, theme)
        line.addWidget(self.hurting.button)
        self._says = self._label("", "muted")
        self._says.setObjectName("size.says")
        self._says.setWordWrap(True)
        self._says.hide()
        self._below = QWidget()
        row = QHBoxLayout(self._below)
        row.setContentsMargins(0, 0, 0, 0)
        self._cards = QHBoxLayout()
        self.chart = Chart(theme)
        self.chart.picked.connect(self.take)
        row.addLayout(self._cards)
        row.addStretch(1)
        row.addWidget(self.chart)
        self._below.hide()
        column.addWidget(box)
        column.addWidget(self._says)
        column.addWidget(self._below)
        column.addWidget(self.hurting)

    def _label(self, words: str, role: str) -> Label:
        label = Label(words)
        label.setFont(self._theme.font(12))
        self._theme.ink(label, role)
        return label

    def refresh(self) -> None:
        """Answers of another rig or shot are put away."""
        self.hurting.refresh()
        session = self._session
        of = (session.rig_id, session.shot_id)
        if of != self._of:
            self._of = of
            self.job.cancel()
            self._idle()
            self._below.hide()
            self._says.hide()

    def _idle(self) -> None:
        self._go.setText("Size it over the catalogue")

    def go(self) -> None:
        """Search, or stop searching."""
        if self.job.running:
            self.job.cancel()
            self._idle()
            self._says.setText("Stopped.")
            return
        taken = [edit.commit() for edit in self._edits.values()]  # each says what is wrong with it
        if not all(taken):
            self.said.emit("A limit is not one yet: a number with its unit, 0 for none")
            return
        limits = {name: edit._value for name, edit in self._edits.items() if edit._value > 0}  # noqa: SLF001
        session, wish = self._session, Wish(limits, self._owned.isChecked())
        project, shelf, rig, shot = session.document, session.catalogue, session.rig_id, session.shot_id
        self._go.setText("Stop searching")
        self._says.show()
        self._says.setText("Trying each row by itself…")
        self.job.start(lambda: size(project, shelf, rig, wish, shot))

    def _stepped(self, step: Progress[Sizes]) -> None:
        if step.answer is None:
            self._says.setText(f"{step.done} of {step.total} worked out…")
            return
        self._idle()
        self.sizes, show = step.answer, self._session.display
        found = step.answer
        emptied(self._cards)
        for answer in found.answers:
            self._cards.addWidget(self._card(answer, found, show))
        said = [words.text(show) for words in (found.trouble, found.smaller) if words is not None]
        count = f"{found.screened:,}".replace(",", " ")
        self._says.setText(" ".join([f"{count} combinations screened, {len(found.cloud)} worked out exactly.", *said]))
        self.chart.show_dots(found.cloud, found.now, show)
        self._below.setVisible(bool(found.cloud))

    def _card(self, answer: Answer, found: Sizes, show: Display) -> QWidget:
        """One answer in the small, with what it trades against the rig as it is."""
        rig = answer.evaluation.rig
        box, name = QWidget(), self._label(f"{answer.name}: {_trades(answer, found, show)}", "lantern")
        name.setWordWrap(True)
        name.setFixedWidth(self._theme.px(152))
        column = QVBoxLayout(box)
        column.setContentsMargins(0, 0, 0, 0)
        card = ProposalCard(self._session, self._theme, Proposal(rig.kind, rig.variant, answer.name, rig, answer.evaluation, Words("")), best=False)  # fmt: skip
        card.setObjectName(f"size.take.{answer.name}")
        card.setToolTip("Press to take it; undo takes it back")
        card.clicked.connect(lambda _=False: self.take(answer.changes, answer.name))
        column.addWidget(card)
        column.addWidget(name)
        return box

    def take(self, changes: object, name: str = "this size") -> None:
        """The rig as that answer has it."""
        if not isinstance(changes, tuple) or not changes:
            self.said.emit("That is the rig as it is")
            return
        try:
            self._session.apply(f"Take {name}", changes)
        except HazelError as error:
            self.said.emit(str(error))

    def _fail(self, error: Exception) -> None:
        self._idle()
        words = str(error)
        self._says.setText(f"{words[:1].upper()}{words[1:]}")

    def finish(self) -> None:
        """Stop what works in the background."""
        self.job.finish()
        self.hurting.job.finish()


def _trades(answer: Answer, found: Sizes, show: Display) -> str:
    """Against the rig as it is sized now."""
    parts = []
    for column, unit in ((COST, "currency"), (MASS, "kg")):
        more = answer.told[column] - found.now[column]
        if abs(more) > 0.005 * max(abs(found.now[column]), 1e-9):
            parts.append(f"{'+' if more > 0 else '−'}{show.text(abs(more), unit)}")
    if found.now[WANDER] > 0:
        ratio = answer.told[WANDER] / found.now[WANDER]
        if math.isfinite(ratio) and abs(ratio - 1) > 0.01:
            parts.append(f"gives ×{ratio:.2f}")
    return ", ".join(parts) or "as it is"


class Chart(QWidget):
    """Cost against wander, or against mass: a dot to press for every size that was worked out, a ring for the rig as it is."""

    picked = pyqtSignal(object)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._dots: tuple[Dot, ...] = ()
        self._now: tuple[float, ...] = ()
        self._show = Display()
        self.setFixedSize(theme.px(CHART[0]), theme.px(CHART[1]))
        self.setObjectName("size.chart")
        self.setAccessibleName("Cost against how much the picture wanders, or the mass")

    def show_dots(self, dots: tuple[Dot, ...], now: tuple[float, ...], show: Display) -> None:
        self._dots, self._now, self._show = dots, now, show
        self.setAccessibleDescription(f"{len(dots)} sizes, {sum(one.sound for one in dots)} may be built")
        self.update()

    @property
    def _wandering(self) -> bool:
        """Whether one wanders more than another."""
        wanders = [one.wander for one in self._dots]
        return max(wanders) - min(wanders) > 0.01 * max(wanders)

    def up(self, wander: float, mass: float) -> float:
        """What is read upwards: the wander, or the mass where all wander alike."""
        return wander if self._wandering else mass

    def at(self, cost: float, up: float) -> QPointF:
        """Where a size is drawn [px]."""
        px = self._theme.px
        costs = [one.cost for one in self._dots] + [self._now[COST]]
        ups = [self.up(one.wander, one.mass) for one in self._dots] + [self.up(self._now[WANDER], self._now[MASS])]
        x = (cost - min(costs)) / max(max(costs) - min(costs), 1e-9)
        y = (up - min(ups)) / max(max(ups) - min(ups), 1e-12)
        return QPointF(px(16) + x * (self.width() - px(32)), self.height() - px(24) - y * (self.height() - px(40)))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if not self._dots:
            return
        painter, theme, px = QPainter(self), self._theme, self._theme.px
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(theme.color("line"))
        painter.drawRect(QRectF(px(6), px(6), self.width() - px(12), self.height() - px(24)))
        painter.setFont(theme.font(11.5))
        painter.setPen(theme.color("muted"))
        painter.drawText(QRectF(0, self.height() - px(17), self.width(), px(16)), Qt.AlignmentFlag.AlignCenter, f"dearer →, {'wanders more' if self._wandering else 'heavier'} ↑")  # fmt: skip
        for one in self._dots:
            painter.setPen(QPen(theme.color("clear" if one.sound else "stop"), 1.5))
            painter.setBrush(theme.color("clear") if one.sound else Qt.BrushStyle.NoBrush)
            spot = self.at(one.cost, self.up(one.wander, one.mass))
            if one.sound:
                painter.drawEllipse(spot, px(4), px(4))
            else:
                painter.drawLine(spot + QPointF(-3, -3), spot + QPointF(3, 3))
                painter.drawLine(spot + QPointF(-3, 3), spot + QPointF(3, -3))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(theme.color("lantern"), 2))
        painter.drawEllipse(self.at(self._now[COST], self.up(self._now[WANDER], self._now[MASS])), px(7), px(7))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or not self._dots:
            return
        near = min(
            self._dots,
            key=lambda one: (self.at(one.cost, self.up(one.wander, one.mass)) - event.position()).manhattanLength(),
        )
        if (self.at(near.cost, self.up(near.wander, near.mass)) - event.position()).manhattanLength() < self._theme.px(
            14
        ):
            self.picked.emit(near.changes)
