"""Sizes over the whole catalogue under the drawing of a rig: a few different good answers, and what each trades."""

from __future__ import annotations

import math

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.advice.proposals import Proposal
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.sizing.answers import Answer, Sizes, Wish
from hazel_lantern.core.sizing.screen import COST, MASS, WANDER
from hazel_lantern.core.sizing.search import Search
from hazel_lantern.core.sizing.varied import varied
from hazel_lantern.desktop.stations.prove.meaning import emptied
from hazel_lantern.desktop.stations.rig.chart import Chart
from hazel_lantern.desktop.stations.rig.hurting import Hurting
from hazel_lantern.desktop.stations.shot.proposals import ProposalCard
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.flow import Flow
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from hazel_lantern.desktop.widgets.words import Label, face, tip, together
from hazel_lantern.session.jobs import Job
from hazel_lantern.session.session import Session

ASKED = (
    ("cost", Quantity("size.cost", "cost ≤", "currency", 0.0, 1e5, 0.0, "", "empty for no limit", "rig")),
    ("mass", Quantity("size.mass", "mass ≤", "kg", 0.0, 500.0, 0.0, "", "empty for no limit", "rig")),
    ("longest", Quantity("size.longest", "longest ≤", "m", 0.0, 20.0, 0.0, "", "empty for no limit", "rig")),
)


class Sizing(QWidget):
    """`said` is what was refused, in a sentence."""

    said = pyqtSignal(str)

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self._session, self._theme = session, theme
        self.sizes: Sizes | None = None
        self._of: object = None
        self._known: Search | None = None
        self._laid: object = None
        self.job = Job(self)
        self.job.stepped.connect(self._stepped)
        self.job.done.connect(self._idle)
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
            edit = QuantityEdit(quantity, session.display, zero="any")
            edit.setFixedWidth(theme.px(78))
            edit.show_value(0.0)
            pair = QWidget()
            both = QHBoxLayout(pair)
            both.setContentsMargins(0, 0, 0, 0)
            both.addWidget(self._label(quantity.label, "muted"))
            both.addWidget(edit)
            line.addWidget(pair)
            self._edits[name] = edit
        self._kept: set[str] = set()
        self._keep = QPushButton("keep …")
        self._keep.setObjectName("size.keep")
        self._keep.setToolTip(tip("Inputs that stay as they are: the tripod, the pole one has"))
        menu = QMenu(self._keep)
        menu.aboutToShow.connect(lambda: self._offer(menu))
        self._keep.setMenu(menu)
        line.addWidget(self._owned)
        line.addWidget(self._keep)
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
            self._kept = set()
            self._keep.setText("keep …")
            self.job.cancel()
            self._idle()
            self._below.hide()
            self._says.hide()

    def _idle(self, _: object = None) -> None:
        self._go.setText("Size it over the catalogue")

    def _offer(self, menu: QMenu) -> None:
        """What may vary of the rig at hand, ticked where it stays."""
        menu.clear()
        session = self._session
        result = session.evaluation
        if result is None or result.model is None:
            return
        for one in varied(session.document, session.catalogue, result):
            value = str(one.values[0])
            row = getattr(session.catalogue, getattr(one.parameter, "table", "") or "sections").get(value)
            shown = (
                row.name
                if row is not None
                else session.display.text(one.values[0], one.parameter.unit)
                if isinstance(one.parameter, Quantity) and isinstance(one.values[0], float)
                else value
            )
            action = menu.addAction(face(f"{one.parameter.label}: {shown}"))
            action.setCheckable(True)
            action.setChecked(one.key in self._kept)
            action.toggled.connect(lambda on, key=one.key: self.keep(key, on=on))

    def keep(self, key: str, *, on: bool) -> None:
        """An input stays as it is, or no longer."""
        self._kept = self._kept | {key} if on else self._kept - {key}
        self._keep.setText(f"keep {len(self._kept)}" if self._kept else "keep …")

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
        wish = Wish(limits, self._owned.isChecked(), tuple(sorted(self._kept)))
        self._go.setText("Stop searching")
        self._says.show()
        self._says.setText("Trying each value by itself…")
        self._laid = None
        search = self._search(wish.keep)
        self.job.start(lambda: search.wished(wish))

    def _search(self, keep: tuple[str, ...]) -> Search:
        """What was surveyed for another wish is not surveyed again."""
        session, known = self._session, self._known
        asked = (session.document, session.catalogue, session.rig_id, keep, session.shot_id)
        if known is None or known.asked[0] is not asked[0] or known.asked[2:] != asked[2:]:
            known = self._known = Search(*asked)
        return known

    def _stepped(self, step: Progress[Sizes]) -> None:
        """Answers as soon as there are some, the best so far."""
        if step.done < step.total:
            self._says.setText(f"{100 * step.done // step.total} % …")
        if step.answer is None:
            return
        found, show = step.answer, self._session.display
        self.sizes = found
        laid = [(answer.name, answer.told) for answer in found.answers]
        if laid != self._laid:
            self._laid = laid
            emptied(self._cards)
            for answer in found.answers:
                self._cards.addWidget(self._card(answer, found, show))
        self.chart.show_dots(found.cloud, found.now, show)
        self._below.setVisible(bool(found.cloud))
        if step.done == step.total:
            said = [words.text(show) for words in (found.trouble, found.smaller) if words is not None]
            count = f"{found.screened:,}".replace(",", " ")
            worked = f"{count} combinations screened, {len(found.cloud)} worked out exactly."
            self._says.setText(" ".join([worked, *said]))

    def _card(self, answer: Answer, found: Sizes, show: Display) -> QWidget:
        """One answer in the small, with what it trades against the rig as it is."""
        rig = answer.evaluation.rig
        box, name = QWidget(), self._label(together(f"{answer.name}: {_trades(answer, found, show)}"), "lantern")
        name.setWordWrap(True)
        name.setFixedWidth(self._theme.px(152))
        column = QVBoxLayout(box)
        column.setContentsMargins(0, 0, 0, 0)
        card = ProposalCard(
            self._session,
            self._theme,
            Proposal(rig.kind, rig.variant, answer.name, rig, answer.evaluation, Words("")),
            best=False,
        )
        card.setObjectName(f"size.take.{answer.aims[0]}")
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
    for column, now, unit in ((COST, found.now.cost, "currency"), (MASS, found.now.mass, "kg")):
        more = answer.told[column] - now
        if abs(more) > 0.005 * max(abs(now), 1e-9):
            parts.append(f"{'+' if more > 0 else '−'}{show.text(abs(more), unit)}")
    if found.now.wander > 0:
        ratio = answer.told[WANDER] / found.now.wander
        if math.isfinite(ratio) and abs(ratio - 1) > 0.01:
            parts.append(f"gives ×{ratio:.2f}")
    return ", ".join(parts) or "as it is"
