"""Shot's own part of the bench: things on the set, the kit's items, further shots, and which rigs can do it."""

from __future__ import annotations

import math
from collections.abc import Callable

from PyQt6.QtCore import QRectF, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QFontMetricsF, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import (
    QAbstractButton,
    QHBoxLayout,
    QInputDialog,
    QLabel,
    QMenu,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from hazel_lantern.core.advice.proposals import Proposal, proposals
from hazel_lantern.core.document.project import AXES, Project
from hazel_lantern.core.editing import lists
from hazel_lantern.core.kinds import DECLARED
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.finding import STOP, WATCH
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.sketch import BODY, Ring, Shape, Sketch, Stroke
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.staging.axes import reading
from hazel_lantern.core.staging.things import THINGS
from hazel_lantern.desktop.stage.painter import paint_sketch
from hazel_lantern.desktop.stations.page import Extras
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.chooser import Chooser
from hazel_lantern.desktop.widgets.glyphs import NAMES, paint_lantern
from hazel_lantern.desktop.widgets.words import Label, tip
from hazel_lantern.session.jobs import Job
from hazel_lantern.session.session import Session

TRY_DELAY = 500


class ShotExtras(Extras):
    """Edits what the quantities cannot: lists that grow and shrink."""

    refused = pyqtSignal(str)
    rebuilt = pyqtSignal()
    taken = pyqtSignal(object)

    def __init__(
        self, session: Session, theme: Theme, playhead: Callable[[], float], parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self._session, self._theme, self._playhead = session, theme, playhead
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(_heading(theme, "Standing on the set"))
        self.picked = Chooser(theme)
        self.picked.setObjectName("thing.picked")
        self.picked.setAccessibleName("Thing on the set")
        self.picked.activated.connect(lambda index: self.pick(self.picked.itemData(index)))
        column.addWidget(self.picked)
        add = QPushButton("+ thing")
        add.setObjectName("thing.add")
        menu = QMenu(add)
        for key, name in THINGS:
            menu.addAction(name).triggered.connect(lambda _=False, key=key: self.add_thing(key))
        add.setMenu(menu)
        column.addLayout(
            _row(
                add,
                self._button("Rename", "thing.rename", self._rename_thing),
                self._button("Remove", "thing.remove", self._remove_thing),
            )
        )
        column.addLayout(
            _row(
                self._button("+ stop on its way", "stop.add", self._add_stop),
                self._button("Drop the last stop", "stop.remove", self._remove_stop),
            )
        )
        column.addLayout(
            _row(
                self._button("+ way point", "via.add", self._add_via),
                self._button("Drop the last", "via.remove", self._remove_via),
            )
        )
        column.addLayout(
            _row(
                self._button("+ key", "key.add", self._add_key),
                self._button("Drop the last key", "key.remove", self._remove_key),
            )
        )
        column.addLayout(
            _row(
                self._button("And back", "move.back", self._and_back),
                self._button("All of it once more", "move.again", self._once_more),
            )
        )
        column.addLayout(
            _row(
                self._menu("Key head here", "axis.key", self._key_axis),
                self._menu("Drop a key of it", "axis.unkey", self._unkey_axis),
            )
        )
        column.addWidget(_heading(theme, "Camera kit"))
        self.items = Chooser(theme)
        self.items.setObjectName("kit.item")
        self.items.setAccessibleName("Item of the kit")
        column.addWidget(self.items)
        column.addLayout(
            _row(
                self._button("+ item", "kit.add", self._add_item),
                self._button("Remove", "kit.remove", self._remove_item),
                self._button("Copy kit", "kit.copy", self._copy_kit),
            )
        )
        self._kits = Label()
        self._kits.setWordWrap(True)
        self._kits.setFont(theme.font(12))
        theme.ink(self._kits, "muted")
        column.addWidget(self._kits)
        column.addWidget(_heading(theme, "This shot"))
        column.addLayout(
            _row(
                self._button("Copy shot", "shot.copy", self._copy_shot),
                self._button("Earlier", "shot.earlier", lambda: self._shift(-1)),
                self._button("Later", "shot.later", lambda: self._shift(1)),
            )
        )
        upright = self._button("Turn the picture", "shot.turn", self._turn_picture)
        upright.setToolTip(
            tip("Upright, or back. Items of the kit stay where they are: a camera on its side sits otherwise.")
        )
        column.addLayout(_row(upright, self._button("Remove", "shot.remove", self._remove_shot)))
        column.addWidget(_heading(theme, "Rigs that can do it"))
        self._cards = QVBoxLayout()
        self._cards.setSpacing(6)
        column.addLayout(self._cards)
        self._said = Label("Trying them…")
        self._said.setWordWrap(True)
        self._said.setFont(theme.font(12))
        theme.ink(self._said, "muted")
        column.addWidget(self._said)
        self.job = Job(self)
        self.job.stepped.connect(self._stepped)
        self.job.failed.connect(lambda error: self.refused.emit(f"Rigs could not be tried: {error}"))
        self._tried: object = None
        self._wait = QTimer(self)
        self._wait.setSingleShot(True)
        self._wait.setInterval(TRY_DELAY)
        self._wait.timeout.connect(self._try_rigs)
        self.refresh()

    def _button(self, words: str, name: str, call: Callable[[], None]) -> QPushButton:
        button = QPushButton(words)
        button.setObjectName(name)
        button.setProperty("tight", True)
        button.clicked.connect(lambda _=False: call())
        return button

    def _menu(self, words: str, name: str, call: Callable[[str], None]) -> QPushButton:
        """A button that asks for an axis of the head."""
        button = QPushButton(words)
        button.setObjectName(name)
        button.setProperty("tight", True)
        menu = QMenu(button)
        for axis in AXES:
            menu.addAction(axis.id.capitalize()).triggered.connect(lambda _=False, key=axis.id: call(key))
        button.setMenu(menu)
        return button

    def refresh(self) -> None:
        """Lists as the document has them; rigs are tried again when the shot, set or kit changed."""
        session = self._session
        if not session.rig_id:
            return
        project = session.shown
        shot, kit = session.shot, project.kit_of(project.rig(session.rig_id))
        things = project.set_of(shot).things
        _fill(self.picked, [(t.name, t.id) for t in things], session.thing)
        _fill(self.items, [(item.name, str(i)) for i, item in enumerate(kit.items)], self.items.currentData())
        show = session.display
        self._kits.setText("\n".join(self._compared(show)))
        wanted = (shot, project.set_of(shot), kit, project.plates, project.stock)
        if wanted != self._tried:
            self._tried = wanted
            self.job.cancel()
            self._wait.start()

    def _compared(self, show: Display) -> list[str]:
        """This kit's mass and centre, and what each other kit of the project would change."""
        result = self._session.evaluation
        if result is None:
            return []
        own = result.carried.payload
        lines = [
            f"This kit {show.text(own.mass, 'kg')}, its centre {show.text(float(own.cg[0]), 'm')} ahead of the mount's middle, {show.text(float(own.cg[2]), 'm')} above it; its screw is {result.carried.socket_thread}."
        ]
        for kit in result.others:
            heavier, further = kit.mass - own.mass, kit.ahead - float(own.cg[0])
            screw = f", screw {kit.thread}" if kit.thread != result.carried.socket_thread else ""
            mass = f"{show.text(abs(heavier), 'kg')} {'heavier' if heavier >= 0 else 'lighter'}"
            lines.append(
                f"{kit.name}: {mass}, centre {show.text(abs(further), 'm')} further {'ahead' if further >= 0 else 'back'}{screw}."
            )
        return lines

    # Things, items, shots

    def _do(self, words: str, change: Callable[[Project], Project]) -> None:
        try:
            self._session.change(words, change(self._session.project))
        except HazelError as error:
            self.refused.emit(f"{str(error)[:1].upper()}{str(error)[1:]}.")

    def _ids(self) -> tuple[str, str, str]:
        """Shot, set and kit at hand."""
        project = self._session.project
        shot = self._session.shot
        return shot.id, shot.set, project.rig(self._session.rig_id).kit

    def pick(self, thing: str) -> None:
        """Show the sizes of a thing on the bench."""
        self._session.thing = thing
        self.rebuilt.emit()

    def add_thing(self, kind: str) -> None:
        project, key = lists.add_thing(self._session.project, self._ids()[0], kind)
        self._session.thing = key
        self._do(f"Put a {dict(THINGS)[kind].lower()} on the set", lambda _: project)

    def _remove_thing(self) -> None:
        thing, name = self._session.thing, self.picked.currentText()
        if thing:
            self._session.thing = ""
            self._do(f"Take {name} away", lambda project: lists.remove_thing(project, self._ids()[1], thing))

    def _rename_thing(self) -> None:
        thing = self._session.thing
        name, said = QInputDialog.getText(self, "Rename", "Name", text=self.picked.currentText())
        if said and thing:
            self._do(
                f"Rename to {name.strip()}", lambda project: lists.rename_thing(project, self._ids()[1], thing, name)
            )

    def _add_stop(self) -> None:
        self._walk(f"Let {self.picked.currentText()} move", lists.add_stop)

    def _remove_stop(self) -> None:
        self._walk("Drop a stop", lists.remove_stop)

    def _walk(self, words: str, change: Callable[[Project, str, str], Project]) -> None:
        """Change the stops of the thing that stands in the list, and show them on the bench."""
        thing = self.picked.currentData()
        if thing is None:
            self.refused.emit("Put something on the set first; then it can move.")
            return
        self._session.thing = thing
        self._do(words, lambda project: change(project, self._ids()[0], thing))

    def _add_via(self) -> None:
        self._do("Add a way point", lambda project: lists.add_way_point(project, self._ids()[0]))

    def _remove_via(self) -> None:
        self._do("Drop a way point", lambda project: lists.remove_way_point(project, self._ids()[0]))

    def _add_key(self) -> None:
        self._do("Add a key", lambda project: lists.add_key(project, self._ids()[0]))

    def _remove_key(self) -> None:
        self._do("Drop a key", lambda project: lists.remove_key(project, self._ids()[0]))

    def _and_back(self) -> None:
        self._do("Go back the way it came", lambda project: lists.there_and_back(project, self._ids()[0]))

    def _once_more(self) -> None:
        self._do("Do all of it once more", lambda project: lists.once_more(project, self._ids()[0]))

    def _key_axis(self, axis: str) -> None:
        """Key an axis at the playhead, where the head then stands."""
        result = self._session.evaluation
        if result is None:
            return
        try:
            time, found = reading(result.scene, axis, self._playhead())
        except HazelError as error:
            self.refused.emit(f"{str(error)[:1].upper()}{str(error)[1:]}.")
            return
        self._do(f"Key {axis}", lambda project: lists.key_axis(project, self._ids()[0], axis, time, found))

    def _unkey_axis(self, axis: str) -> None:
        self._do(f"Drop a key of {axis}", lambda project: lists.unkey_axis(project, self._ids()[0], axis))

    def _add_item(self) -> None:
        name, said = QInputDialog.getText(self, "Add to the kit", "What is it?")
        if said:
            self._do(f"Add {name.strip()} to the kit", lambda project: lists.add_item(project, self._ids()[2], name))

    def _remove_item(self) -> None:
        name, index = self.items.currentText(), self.items.currentIndex()
        self._do(f"Take {name} off the kit", lambda project: lists.remove_item(project, self._ids()[2], index))

    def _copy_kit(self) -> None:
        name, said = QInputDialog.getText(self, "Copy the kit", "Name of the copy")
        if said:
            self._do(
                f"Copy the kit as {name.strip()}", lambda project: lists.copy_kit(project, self._ids()[2], name)[0]
            )

    def _copy_shot(self) -> None:
        name, said = QInputDialog.getText(self, "Copy the shot", "Name of the copy")
        if said:
            self._do(
                f"Copy the shot as {name.strip()}",
                lambda project: lists.copy_shot(project, self._session.rig_id, self._session.shot_id, name),
            )
            self._session.look(self._session.project.shots[-1].id)

    def _shift(self, by: int) -> None:
        name = self._session.shot.name
        words = f"Put {name} {'earlier' if by < 0 else 'later'}"
        rig, shot = self._session.rig_id, self._session.shot_id
        self._do(words, lambda project: lists.shift_shot(project, rig, shot, by))
        self._session.look(shot)

    def _turn_picture(self) -> None:
        self._do("Turn the picture", lambda project: lists.turn_picture(project, self._ids()[0]))

    def _remove_shot(self) -> None:
        self._do(f"Remove {self._session.shot.name}", lambda project: lists.remove_shot(project, self._ids()[0]))

    # Rigs

    def _try_rigs(self) -> None:
        session = self._session
        project, shelf, rig, shot = session.project, session.catalogue, session.rig_id, session.shot_id
        if rig:
            self.job.start(lambda: proposals(project, shelf, rig, shot))

    def _stepped(self, step: Progress[tuple[Proposal, ...]]) -> None:
        """How far it is; the cards when all were tried, so that none jumps under the hand."""
        if step.done < step.total:
            self._said.setText(f"{step.done} of {step.total} tried…")
            return
        found = step.answer or ()
        while self._cards.count():
            item = self._cards.takeAt(0)
            item.widget().deleteLater()
        for proposal in found:
            if proposal.evaluation is not None:
                card = ProposalCard(self._session, self._theme, proposal)
                card.clicked.connect(lambda _=False, proposal=proposal: self.taken.emit(proposal))
                self._cards.addWidget(card)
        show = self._session.display
        self._said_of(found, show)

    def _said_of(self, found: tuple[Proposal, ...], show: Display) -> None:
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
        self._said.setText("\n".join(lines) or f"{len(found)} tried; press one to add it to the project.")

    def finish(self) -> None:
        """Stop what works in the background."""
        self._wait.stop()
        self.job.finish()


class ProposalCard(QAbstractButton):
    """A small true drawing with headline sizes, mass, cost and the worst finding."""

    def __init__(self, session: Session, theme: Theme, proposal: Proposal, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        assert proposal.evaluation is not None
        self._theme, self._proposal = theme, proposal
        show, result = session.display, proposal.evaluation
        drawn = result.draw(0.5, result.kind.views[0].key)
        kept = tuple(
            i
            for i in drawn.items
            if isinstance(i, (Shape, Stroke, Ring))
            and i.layer == BODY
            and i.role not in ("view", "person", "path", "sweep")
        )
        points = [np_points for i in kept if isinstance(i, (Shape, Stroke)) for np_points in i.points.tolist()]
        xs, ys = [p[0] for p in points], [p[1] for p in points]
        self._sketch = Sketch(kept, (min(xs), min(0.0, *ys), max(xs), max(ys)), ground=False)
        sizes = result.headline("rig", show).split(", ")[-1]
        mass, cost = show.text(proposal.amount("rig.mass"), "kg"), show.text(proposal.amount("build.cost"), "currency")
        # Findings come worst first.
        stops, worst = sum(f.state == STOP for f in result.findings), result.findings[0]
        solve = f"{stops} to solve: " if stops else "watch: " if worst.state == WATCH else ""
        said = f"{solve}{worst.title[:1].lower()}{worst.title[1:]}" if solve else "all clear"
        self._lines = (
            (sizes, theme.font(12, numbers=True)),
            (f"{mass} · {cost}", theme.font(12, numbers=True)),
            (said, theme.font(12)),
        )
        self.setObjectName(f"proposal.{proposal.kind}.{proposal.variant}")
        self.setAccessibleName(f"{proposal.name}, {sizes}, {mass}, {cost}, {said}, {NAMES[proposal.state]}")
        self.setToolTip(
            tip(f"{worst.sentence.text(show)}\nPress to add this rig to the project.")
            if solve
            else "Press to add this rig to the project."
        )
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self._place(theme.px(270))

    def _place(self, wide: int) -> None:
        """The name in as many lines as it takes, and the card as high as it all asks for."""
        px = self._theme.px
        metrics = QFontMetricsF(self._theme.font(12.5, weight=700))
        self._name = metrics.boundingRect(
            QRectF(px(84), px(7), wide - px(84) - px(30), px(200)), Qt.TextFlag.TextWordWrap, self._proposal.name
        )
        self.setFixedHeight(math.ceil(self._name.bottom()) + px(3) + len(self._lines) * px(18) + px(7))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._place(self.width())

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(270), self.height())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme, px = QPainter(self), self._theme, self._theme.px
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        live = self.underMouse() or self.hasFocus()
        painter.setPen(theme.color("lantern" if live else "line"))
        painter.setBrush(theme.color("raised"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8)
        area = QRectF(px(8), px(8), px(68), self.height() - px(16))
        painter.save()
        painter.setClipRect(area)
        paint_sketch(painter, self._sketch, area, theme, {BODY})
        painter.restore()
        left, wide = px(84), self.width() - px(84) - px(12)
        painter.setFont(theme.font(12.5, weight=700))
        painter.setPen(theme.color("ink"))
        name = self._name
        painter.drawText(name.adjusted(0, 0, 2, 2), Qt.TextFlag.TextWordWrap, self._proposal.name)
        painter.setPen(theme.color("muted"))
        for n, (text, font) in enumerate(self._lines):
            painter.setFont(font)
            short = QFontMetricsF(font).elidedText(text, Qt.TextElideMode.ElideRight, wide)
            painter.drawText(
                QRectF(left, name.bottom() + px(3) + n * px(18), wide, px(18)), Qt.AlignmentFlag.AlignVCenter, short
            )
        paint_lantern(painter, QRectF(self.width() - px(28), px(8), px(20), px(20)), self._proposal.state, theme)


def _heading(theme: Theme, words: str) -> QLabel:
    label = Label(words)
    label.setFont(theme.font(13, weight=700))
    theme.ink(label, "lantern")
    return label


def _row(*widgets: QWidget) -> QHBoxLayout:
    row = QHBoxLayout()
    row.setSpacing(5)
    for widget in widgets:
        row.addWidget(widget)
    row.addStretch(1)
    return row


def _fill(box: Chooser, rows: list[tuple[str, str]], now: str | None) -> None:
    """The list as it should be, without telling anybody."""
    if [(box.itemText(i), box.itemData(i)) for i in range(box.count())] != rows:
        box.clear()
        for words, key in rows:
            box.addItem(words, key)
    box.setCurrentIndex(max(0, box.findData(now)) if rows else -1)
